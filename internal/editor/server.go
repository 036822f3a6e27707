package editor

import (
	"context"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"sync"
	"unicode/utf16"

	"go.lsp.dev/jsonrpc2"
	"go.lsp.dev/protocol"
	"go.lsp.dev/uri"

	"unicausa/internal/core/guard"
	"unicausa/internal/core/rewrite"
)

// Commands that an editor can send back.
const (
	commandDecide = "unicausa.decide" // cause, kind
	commandOpen   = "unicausa.open"   // address
)

// Server serves one editor.
type Server struct {
	Root    string // the project's top folder
	Source  Source
	Version string

	mu        sync.Mutex
	problems  map[string][]Problem // by file
	published map[string]bool
	conn      jsonrpc2.Conn
}

// Serve speaks the protocol over a stream until the editor leaves or ctx ends.
func (s *Server) Serve(ctx context.Context, stream io.ReadWriteCloser) error {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel()
	s.published = map[string]bool{}
	s.conn = jsonrpc2.NewConn(jsonrpc2.NewStream(stream))
	s.conn.Go(ctx, protocol.Handlers(s.handle(ctx, cancel)))
	select {
	case <-s.conn.Done():
	case <-ctx.Done():
		s.conn.Close()
	}
	if err := s.conn.Err(); err != nil && err != io.EOF && ctx.Err() == nil {
		return fmt.Errorf("talking to the editor: %w", err)
	}
	return nil
}

// handle answers what editors ask.
func (s *Server) handle(ctx context.Context, exit func()) jsonrpc2.Handler {
	return func(_ context.Context, reply jsonrpc2.Replier, req jsonrpc2.Request) error {
		switch req.Method() {
		case protocol.MethodInitialize:
			return reply(ctx, s.initialize(), nil)
		case protocol.MethodInitialized:
			go s.follow(ctx)
			return reply(ctx, nil, nil)
		case protocol.MethodShutdown:
			return reply(ctx, nil, nil)
		case protocol.MethodExit:
			defer exit()
			return reply(ctx, nil, nil)
		case protocol.MethodTextDocumentHover:
			return answer(ctx, reply, req, s.hover)
		case protocol.MethodTextDocumentCodeAction:
			return answer(ctx, reply, req, s.actions)
		case protocol.MethodWorkspaceExecuteCommand:
			return answer(ctx, reply, req, s.execute)
		}
		if strings.HasPrefix(req.Method(), "$/") || strings.HasPrefix(req.Method(), "textDocument/did") || strings.HasPrefix(req.Method(), "workspace/did") {
			return reply(ctx, nil, nil)
		}
		return jsonrpc2.MethodNotFoundHandler(ctx, reply, req)
	}
}

// answer decodes a request's parameters and answers with what act makes of them; a panic is
// an answer too.
func answer[P, R any](ctx context.Context, reply jsonrpc2.Replier, req jsonrpc2.Request, act func(context.Context, *P) (R, error)) error {
	var params P
	if err := json.Unmarshal(req.Params(), &params); err != nil {
		return reply(ctx, nil, jsonrpc2.Errorf(jsonrpc2.InvalidParams, "%s: %v", req.Method(), err))
	}
	result, err := safely(req.Method(), func() (R, error) { return act(ctx, &params) })
	return reply(ctx, result, err)
}

// safely is act, whose panic is an error.
func safely[R any](what string, act func() (R, error)) (result R, err error) {
	defer guard.Catch(what, &err)
	return act()
}

func (s *Server) initialize() protocol.InitializeResult {
	return protocol.InitializeResult{
		Capabilities: protocol.ServerCapabilities{
			TextDocumentSync:       protocol.TextDocumentSyncKindNone,
			HoverProvider:          true,
			CodeActionProvider:     protocol.CodeActionOptions{CodeActionKinds: []protocol.CodeActionKind{protocol.QuickFix}},
			ExecuteCommandProvider: &protocol.ExecuteCommandOptions{Commands: []string{commandDecide, commandOpen}},
		},
		ServerInfo: &protocol.ServerInfo{Name: "unicausa", Version: s.Version},
	}
}

// follow publishes the problems now and whenever they change.
func (s *Server) follow(ctx context.Context) {
	s.refresh(ctx)
	s.Source.Follow(ctx, func() { s.refresh(ctx) })
}

func (s *Server) refresh(ctx context.Context) {
	list, err := safely("the causes", func() ([]Problem, error) { return s.Source.Problems(ctx) })
	if err != nil {
		s.conn.Notify(ctx, protocol.MethodWindowLogMessage, &protocol.LogMessageParams{Type: protocol.MessageTypeWarning, Message: err.Error()})
		return
	}
	files := map[string][]Problem{}
	for _, p := range list {
		if file := s.file(p.File); file != "" {
			files[file] = append(files[file], p)
		}
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	s.problems = files
	for file := range s.published { // what is gone is taken away
		if files[file] == nil {
			delete(s.published, file)
			s.publish(ctx, file, []protocol.Diagnostic{})
		}
	}
	for file, problems := range files {
		s.published[file] = true
		s.publish(ctx, file, diagnostics(file, problems))
	}
}

func (s *Server) publish(ctx context.Context, file string, list []protocol.Diagnostic) {
	s.conn.Notify(ctx, protocol.MethodTextDocumentPublishDiagnostics, &protocol.PublishDiagnosticsParams{URI: uri.File(file), Diagnostics: list})
}

// file is where a problem's file lies, "" where it is none of the project.
func (s *Server) file(name string) string {
	path := filepath.FromSlash(name)
	if !filepath.IsLocal(path) {
		return ""
	}
	path = filepath.Join(s.Root, path)
	if info, err := os.Stat(path); err != nil || info.IsDir() {
		return ""
	}
	return path
}

var severities = map[string]protocol.DiagnosticSeverity{"error": protocol.DiagnosticSeverityError, "warning": protocol.DiagnosticSeverityWarning, "note": protocol.DiagnosticSeverityInformation}

func diagnostics(file string, problems []Problem) []protocol.Diagnostic {
	lines := linesOf(file)
	list := make([]protocol.Diagnostic, 0, len(problems))
	for _, p := range problems {
		text := fmt.Sprintf("%s\n%s %s", p.Message, p.Cause, p.Title)
		if e := p.Entry; e != nil && e.Likely {
			text += fmt.Sprintf("\n%s explains it: %s", e.Place, strings.TrimSpace(e.Text[0]))
		}
		d := protocol.Diagnostic{Range: rangeOf(lines, p.Line, p.Column, ""), Severity: severities[p.Level], Source: "unicausa", Code: p.Cause, Message: text}
		if p.Page != "" {
			d.CodeDescription = &protocol.CodeDescription{Href: protocol.URI(p.Page)}
		}
		list = append(list, d)
	}
	return list
}

// at are the problems on a line, 0-based, of a document.
func (s *Server) at(document protocol.DocumentURI, from, to uint32) []Problem {
	s.mu.Lock()
	defer s.mu.Unlock()
	var list []Problem
	for _, p := range s.problems[document.Filename()] {
		if line := uint32(p.Line - 1); line >= from && line <= to {
			list = append(list, p)
		}
	}
	return list
}

// hover shows the causes of a line with the entries of the notes as written.
func (s *Server) hover(_ context.Context, p *protocol.HoverParams) (*protocol.Hover, error) {
	var parts []string
	seen := map[string]bool{}
	for _, x := range s.at(p.TextDocument.URI, p.Position.Line, p.Position.Line) {
		if seen[x.Cause] {
			continue
		}
		seen[x.Cause] = true
		text := fmt.Sprintf("**%s** %s", x.Cause, x.Title)
		if x.Page != "" {
			text = fmt.Sprintf("[**%s**](%s) %s", x.Cause, x.Page, x.Title)
		}
		for _, step := range x.Steps {
			text += "\n- " + step
		}
		if e := x.Entry; e != nil {
			says := "Explained by"
			if !e.Likely {
				says = "Perhaps explained by"
			}
			text += fmt.Sprintf("\n\n%s `%s`:\n\n%s", says, e.Place, strings.Join(e.Text, "\n"))
		}
		parts = append(parts, text)
	}
	if len(parts) == 0 {
		return nil, nil
	}
	return &protocol.Hover{Contents: protocol.MarkupContent{Kind: protocol.Markdown, Value: strings.Join(parts, "\n\n---\n\n")}}, nil
}

// decisions are what can be decided without leaving the editor.
var decisions = []struct{ kind, title string }{{"fix", "Claim a fix of"}, {"defer", "Defer"}, {"accept", "Accept"}, {"dismiss", "Dismiss"}}

// actions are the patch at this place and everywhere, the decisions, and the console.
func (s *Server) actions(ctx context.Context, p *protocol.CodeActionParams) ([]protocol.CodeAction, error) {
	list := []protocol.CodeAction{}
	seen := map[string]bool{}
	for _, x := range s.at(p.TextDocument.URI, p.Range.Start.Line, p.Range.End.Line) {
		if seen[x.Cause] {
			continue
		}
		seen[x.Cause] = true
		if e := x.Entry; e != nil && e.Likely {
			edits, err := s.Source.Edits(ctx, e.Change, nil)
			if err != nil {
				return nil, err
			}
			here := slices.DeleteFunc(slices.Clone(edits), func(e rewrite.Edit) bool { return e.File != x.File || e.Line != x.Line })
			if len(here) > 0 {
				list = append(list, s.edit(fmt.Sprintf("Apply %s here", e.Place), here))
			}
			if len(edits) > len(here) {
				list = append(list, s.edit(fmt.Sprintf("Apply %s everywhere, %d places", e.Place, len(edits)), edits))
			}
		}
		if x.Page == "" {
			continue
		}
		for _, d := range decisions {
			list = append(list, command(fmt.Sprintf("%s %s", d.title, x.Cause), commandDecide, x.Cause, d.kind))
		}
		list = append(list, command(fmt.Sprintf("Open %s in the console", x.Cause), commandOpen, x.Page))
	}
	return list, nil
}

func command(title, name string, arguments ...any) protocol.CodeAction {
	return protocol.CodeAction{Title: title, Kind: protocol.QuickFix, Command: &protocol.Command{Title: title, Command: name, Arguments: arguments}}
}

// edit is a code action that makes edits.
func (s *Server) edit(title string, edits []rewrite.Edit) protocol.CodeAction {
	changes := map[protocol.DocumentURI][]protocol.TextEdit{}
	lines := map[string][]string{}
	for _, e := range edits {
		file := s.file(e.File)
		if file == "" {
			continue
		}
		if lines[file] == nil {
			lines[file] = linesOf(file)
		}
		changes[uri.File(file)] = append(changes[uri.File(file)], protocol.TextEdit{Range: rangeOf(lines[file], e.Line, e.Column, e.From), NewText: e.To})
	}
	return protocol.CodeAction{Title: title, Kind: protocol.QuickFix, Edit: &protocol.WorkspaceEdit{Changes: changes}}
}

// execute does what an editor sends back.
func (s *Server) execute(ctx context.Context, p *protocol.ExecuteCommandParams) (any, error) {
	args := make([]string, len(p.Arguments))
	for i, a := range p.Arguments {
		args[i], _ = a.(string)
	}
	switch {
	case p.Command == commandDecide && len(args) == 2:
		return nil, s.Source.Decide(ctx, args[0], args[1], "decided in the editor")
	case p.Command == commandOpen && len(args) == 1:
		// The answer is not waited for: it comes over the same stream as this request.
		go func() {
			var shown protocol.ShowDocumentResult
			s.conn.Call(ctx, protocol.MethodShowDocument, &protocol.ShowDocumentParams{URI: protocol.URI(args[0]), External: true}, &shown)
		}()
		return nil, nil
	}
	return nil, fmt.Errorf("there is no command %s with %d arguments", p.Command, len(args))
}

func linesOf(file string) []string {
	data, err := os.ReadFile(file)
	if err != nil {
		return nil
	}
	return strings.Split(string(data), "\n")
}

// rangeOf is a place as the protocol has it: 0-based, in UTF-16 units. Line and column are
// 1-based, the column in bytes; a text may span lines. Without a column it is the line without
// its indentation, without a text the word at the place.
func rangeOf(lines []string, line, column int, text string) protocol.Range {
	if line < 1 || line > len(lines) {
		at := protocol.Position{Line: uint32(max(line-1, 0))}
		return protocol.Range{Start: at, End: at}
	}
	row := strings.TrimRight(lines[line-1], "\r")
	start := min(max(column-1, 0), len(row))
	if column < 1 {
		start = len(row) - len(strings.TrimLeft(row, " \t"))
	}
	from := protocol.Position{Line: uint32(line - 1), Character: units(row[:start])}
	if text != "" {
		rest := strings.Split(text, "\n")
		if len(rest) == 1 {
			return protocol.Range{Start: from, End: protocol.Position{Line: from.Line, Character: from.Character + units(text)}}
		}
		return protocol.Range{Start: from, End: protocol.Position{Line: from.Line + uint32(len(rest)-1), Character: units(rest[len(rest)-1])}}
	}
	end := len(row)
	if column > 0 {
		end = start
		for end < len(row) && (row[end] == '_' || row[end] >= 0x80 || row[end] >= '0' && row[end] <= '9' || row[end]|0x20 >= 'a' && row[end]|0x20 <= 'z') {
			end++
		}
		if end == start {
			end = min(start+1, len(row))
		}
	}
	return protocol.Range{Start: from, End: protocol.Position{Line: from.Line, Character: units(row[:end])}}
}

// units counts UTF-16 code units.
func units(s string) uint32 { return uint32(len(utf16.Encode([]rune(s)))) }
