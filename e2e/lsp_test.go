package e2e

import (
	"context"
	"encoding/json"
	"fmt"
	"net"
	"os"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"go.lsp.dev/jsonrpc2"
	"go.lsp.dev/protocol"
	"go.lsp.dev/uri"

	"unicausa/internal/api"
	"unicausa/internal/cli"
	"unicausa/internal/client"
	"unicausa/internal/core/source/sourcetest"
)

// editorClient is a scripted editor: it keeps what the server publishes.
type editorClient struct {
	conn  jsonrpc2.Conn
	root  string
	mu    sync.Mutex
	shown map[string][]protocol.Diagnostic // by file below the root
	opens []string
	moved chan struct{}
}

// inEditor runs unicausa lsp in the working folder, and initializes it as an editor does.
func inEditor(t *testing.T, args ...string) *editorClient {
	t.Helper()
	root, err := os.Getwd()
	if err != nil {
		t.Fatal(err)
	}
	ours, theirs := net.Pipe()
	e := &editorClient{root: root, shown: map[string][]protocol.Diagnostic{}, moved: make(chan struct{}, 100)}
	ended := make(chan int, 1)
	living, die := context.WithCancel(context.Background()) // until the editor has left
	t.Cleanup(die)
	var errs strings.Builder
	go func() {
		ended <- cli.Main(living, append([]string{"unicausa", "lsp"}, args...), theirs, theirs, &errs)
	}()
	e.conn = jsonrpc2.NewConn(jsonrpc2.NewStream(ours))
	e.conn.Go(living, func(ctx context.Context, reply jsonrpc2.Replier, req jsonrpc2.Request) error {
		switch req.Method() {
		case protocol.MethodTextDocumentPublishDiagnostics:
			var p protocol.PublishDiagnosticsParams
			json.Unmarshal(req.Params(), &p)
			e.mu.Lock()
			name, _ := filepath.Rel(root, p.URI.Filename())
			e.shown[filepath.ToSlash(name)] = p.Diagnostics
			e.mu.Unlock()
			e.moved <- struct{}{}
		case protocol.MethodShowDocument:
			var p protocol.ShowDocumentParams
			json.Unmarshal(req.Params(), &p)
			e.mu.Lock()
			e.opens = append(e.opens, string(p.URI))
			e.mu.Unlock()
			e.moved <- struct{}{}
			return reply(ctx, protocol.ShowDocumentResult{Success: true}, nil)
		}
		return reply(ctx, nil, nil)
	})
	var told protocol.InitializeResult
	e.call(t, protocol.MethodInitialize, &protocol.InitializeParams{WorkspaceFolders: []protocol.WorkspaceFolder{{URI: string(uri.File(root)), Name: "project"}}}, &told)
	if told.ServerInfo == nil || told.ServerInfo.Name != "unicausa" || told.Capabilities.HoverProvider != true {
		t.Fatalf("the server says %+v", told)
	}
	e.conn.Notify(t.Context(), protocol.MethodInitialized, &protocol.InitializedParams{})
	t.Cleanup(func() {
		ctx, cancel := context.WithTimeout(context.Background(), 10*time.Second)
		defer cancel()
		e.conn.Call(ctx, protocol.MethodShutdown, nil, nil)
		e.conn.Notify(ctx, protocol.MethodExit, nil)
		select {
		case status := <-ended:
			if status != 0 {
				t.Errorf("the server ends with %d: %s", status, errs.String())
			}
		case <-ctx.Done():
			t.Error("the server does not end")
		}
	})
	return e
}

func (e *editorClient) call(t *testing.T, method string, params, result any) {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), 20*time.Second)
	defer cancel()
	if _, err := e.conn.Call(ctx, method, params, result); err != nil {
		t.Fatalf("%s: %v", method, err)
	}
}

// until waits until what is shown of a file is as it should be.
func (e *editorClient) until(t *testing.T, file string, good func([]protocol.Diagnostic) bool) []protocol.Diagnostic {
	t.Helper()
	end := time.After(20 * time.Second)
	for {
		e.mu.Lock()
		list, there := e.shown[file]
		e.mu.Unlock()
		if there && good(list) {
			return list
		}
		select {
		case <-e.moved:
		case <-end:
			t.Fatalf("of %s it shows %+v", file, list)
		}
	}
}

func some(list []protocol.Diagnostic) bool { return len(list) > 0 }
func none(list []protocol.Diagnostic) bool { return len(list) == 0 }

const shelfGo = "package pantry\n\nfunc fill() {\n\tjar.OpenLid(\"été\") // OpenLid\n}\n"

// TestEditor holds that an editor is shown the causes of an upgrade where they stand, with
// the entry of the notes, its patch, decisions and the console, current as runs are recorded.
func TestEditor(t *testing.T) {
	t.Setenv("UNICAUSA_SERVER", server)
	t.Chdir(t.TempDir())
	write(t, map[string]string{"shelf.go": shelfGo, "other.go": "package pantry\n\nvar _ = jar.OpenLid\n", "go.mod": "module example.org/pantry\n"})
	want(t, 0, nil, "begin", "--project", "pantry", "--name", t.Name(), "--move", "example.org/jar=0.4.2..0.5.0")
	write(t, map[string]string{"CHANGELOG.md": lidNotes})
	want(t, 0, nil, "notes", "example.org/jar=CHANGELOG.md")
	upgrade := noted(t)
	record := func(output string) {
		run, err := here(t).Record(t.Context(), upgrade, api.RunFacts{Check: "build", Exit: min(1, len(output)), StartedAt: time.Now()}, []client.Input{{Name: "build.log", Content: strings.NewReader(output)}},
			sourcetest.Zip(t, map[string]string{"shelf.go": shelfGo, "other.go": "package pantry\n\nimport \"example.org/jar\"\n\nvar _ = jar.OpenLid\n", "go.mod": "module example.org/pantry\n"}), func(int) {})
		if err == nil {
			_, err = here(t).Processed(t.Context(), upgrade, run.Number)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	record("")
	want(t, 0, nil, "baseline")
	record("# example.org/pantry\n./shelf.go:4:6: undefined: jar.OpenLid\n./gone.go:1:1: undefined: jar.OpenLid\n")

	e := inEditor(t)
	d := e.until(t, "shelf.go", some)[0]
	if d.Range.Start.Line != 3 || d.Range.Start.Character != 5 || d.Range.End.Character != 12 || d.Code != "C1" || d.Severity != protocol.DiagnosticSeverityError ||
		!strings.Contains(d.Message, "undefined: jar.OpenLid\nC1 ") || !strings.Contains(d.Message, "CHANGELOG.md:5 explains it") || !strings.HasSuffix(string(d.CodeDescription.Href), "/causes/C1") {
		t.Errorf("the diagnostic is %+v", d)
	}
	if len(e.shown["gone.go"]) > 0 {
		t.Error("a file that is not there has diagnostics")
	}
	document := protocol.TextDocumentIdentifier{URI: uri.File(filepath.Join(e.root, "shelf.go"))}
	at := protocol.TextDocumentPositionParams{TextDocument: document, Position: protocol.Position{Line: 3, Character: 7}}
	var hover protocol.Hover
	e.call(t, protocol.MethodTextDocumentHover, &protocol.HoverParams{TextDocumentPositionParams: at}, &hover)
	if text := hover.Contents.Value; !strings.Contains(text, "Explained by `CHANGELOG.md:5`") || !strings.Contains(text, "- `OpenLid` was renamed to `Open`.") {
		t.Errorf("hovering shows %s", text)
	}
	var nothing *protocol.Hover
	at.Position.Line = 0
	e.call(t, protocol.MethodTextDocumentHover, &protocol.HoverParams{TextDocumentPositionParams: at}, &nothing)
	if nothing != nil {
		t.Errorf("hovering elsewhere shows %+v", nothing)
	}
	var actions []protocol.CodeAction
	e.call(t, protocol.MethodTextDocumentCodeAction, &protocol.CodeActionParams{TextDocument: document, Range: d.Range}, &actions)
	var titles []string
	for _, a := range actions {
		titles = append(titles, a.Title)
	}
	if got := strings.Join(titles, "; "); got != "Claim a fix of C1; Defer C1; Accept C1; Dismiss C1; Open C1 in the console" && !strings.HasPrefix(got, "Apply CHANGELOG.md:5") {
		t.Errorf("the actions are %s", got)
	}
	open := actions[len(actions)-1]
	e.call(t, protocol.MethodWorkspaceExecuteCommand, &protocol.ExecuteCommandParams{Command: open.Command.Command, Arguments: open.Command.Arguments}, nil)
	var accept protocol.CodeAction
	for _, a := range actions {
		if a.Title == "Accept C1" {
			accept = a
		}
	}
	e.call(t, protocol.MethodWorkspaceExecuteCommand, &protocol.ExecuteCommandParams{Command: accept.Command.Command, Arguments: accept.Command.Arguments}, nil)
	detail, err := here(t).Cause(t.Context(), upgrade, "C1")
	if err != nil || len(detail.Decisions) != 1 || detail.Decisions[0].Kind != "accept" {
		t.Errorf("%v: the decisions are %+v", err, detail.Decisions)
	}
	ctx, cancel := context.WithTimeout(t.Context(), 5*time.Second)
	defer cancel()
	if _, err := e.conn.Call(ctx, protocol.MethodWorkspaceExecuteCommand, &protocol.ExecuteCommandParams{Command: "other"}, nil); err == nil || !strings.Contains(err.Error(), "no command other") {
		t.Errorf("an unknown command ends with %v", err)
	}
	if _, err := e.conn.Call(ctx, "textDocument/rename", nil, nil); err == nil {
		t.Error("an unknown method has an answer")
	}
	// What a later run clears is taken away.
	record("")
	e.until(t, "shelf.go", none)
	e.mu.Lock()
	defer e.mu.Unlock()
	if len(e.opens) != 1 || !strings.HasSuffix(e.opens[0], fmt.Sprintf("/upgrades/%d/causes/C1", upgrade)) {
		t.Errorf("it opens %v", e.opens)
	}
}

// TestEditorAlone holds that an editor is served from files alone, without a service, and
// that the patch of an entry is made at one place or everywhere.
func TestEditorAlone(t *testing.T) {
	t.Setenv("UNICAUSA_SERVER", "http://127.0.0.1:1")
	t.Chdir(t.TempDir())
	code := "package pantry\n\nimport \"example.org/jar\"\n\nfunc fill() {\n\tjar.OpenLid(\"été\")\n\t_ = \"été\"; jar.OpenLid(\"x\")\n}\n"
	write(t, map[string]string{"shelf.go": code, "CHANGELOG.md": lidNotes, "build.log": "# example.org/pantry\n./shelf.go:6:6: undefined: jar.OpenLid\n./shelf.go:7:21: undefined: jar.OpenLid\n"})
	e := inEditor(t, "--notes", "example.org/jar=CHANGELOG.md", "--move", "example.org/jar=0.4.2..0.5.0", "build.log")
	list := e.until(t, "shelf.go", some)
	if len(list) != 2 || list[0].CodeDescription != nil {
		t.Fatalf("it shows %+v", list)
	}
	var actions []protocol.CodeAction
	document := protocol.TextDocumentIdentifier{URI: uri.File(filepath.Join(e.root, "shelf.go"))}
	e.call(t, protocol.MethodTextDocumentCodeAction, &protocol.CodeActionParams{TextDocument: document, Range: list[1].Range}, &actions)
	if len(actions) != 2 || actions[0].Title != "Apply CHANGELOG.md:5 here" || actions[1].Title != "Apply CHANGELOG.md:5 everywhere, 2 places" {
		t.Fatalf("the actions are %+v", actions)
	}
	edits := actions[0].Edit.Changes[document.URI]
	// Behind the two letters of two bytes each the position is one unit less for each.
	if len(edits) != 1 || edits[0].NewText != "Open" || edits[0].Range.Start != (protocol.Position{Line: 6, Character: 16}) || edits[0].Range.End.Character != 23 {
		t.Errorf("the edits are %+v", edits)
	}
	if all := actions[1].Edit.Changes[document.URI]; len(all) != 2 {
		t.Errorf("everywhere is %+v", all)
	}
	// When the output changes, so does what is shown.
	time.Sleep(1100 * time.Millisecond)
	write(t, map[string]string{"build.log": "# example.org/pantry\n./shelf.go:6:6: undefined: jar.OpenLid\n"})
	e.until(t, "shelf.go", func(list []protocol.Diagnostic) bool { return len(list) == 1 })
}
