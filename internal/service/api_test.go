package service

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
)

// asked is a service that is asked over HTTP.
type asked struct {
	t       *testing.T
	service *Service
	server  *httptest.Server
	token   string
}

// asking is a service on a database of its own, asked as this machine's user.
func asking(t *testing.T) *asked {
	t.Helper()
	s := serving(t)
	server := httptest.NewServer(s.Handler())
	t.Cleanup(server.Close)
	return &asked{t: t, service: s, server: server, token: "service"}
}

// send asks, and gives the status and the body.
func (a *asked) send(method, path, media string, body io.Reader) (int, string) {
	a.t.Helper()
	r, err := http.NewRequestWithContext(a.t.Context(), method, a.server.URL+path, body)
	if err != nil {
		a.t.Fatal(err)
	}
	r.Header.Set("Authorization", "Bearer "+a.token)
	r.Header.Set("X-Requested-By", "test")
	if media != "" {
		r.Header.Set("Content-Type", media)
	}
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		a.t.Fatal(err)
	}
	defer answer.Body.Close()
	text, err := io.ReadAll(answer.Body)
	if err != nil {
		a.t.Fatal(err)
	}
	return answer.StatusCode, string(text)
}

// json asks with a JSON body, "" for none.
func (a *asked) json(method, path, body string) (int, string) {
	a.t.Helper()
	if body == "" {
		return a.send(method, "/api/v1"+path, "", nil)
	}
	return a.send(method, "/api/v1"+path, "application/json", strings.NewReader(body))
}

// want asks, holds the status, and reads the answer into a value where there is one.
func (a *asked) want(status int, method, path, body string, into any) {
	a.t.Helper()
	got, text := a.json(method, path, body)
	if got != status {
		a.t.Fatalf("%s %s: status %d, want %d: %s", method, path, got, status, text)
	}
	if into != nil {
		if err := json.Unmarshal([]byte(text), into); err != nil {
			a.t.Fatalf("%s %s: %v: %s", method, path, err, text)
		}
	}
}

// part is one part of a recording.
type part struct{ name, file, text string }

// parts asks with multipart/form-data.
func (a *asked) parts(path string, list ...part) (int, string) {
	a.t.Helper()
	var body bytes.Buffer
	w := multipart.NewWriter(&body)
	for _, p := range list {
		var out io.Writer
		var err error
		if p.file != "" {
			out, err = w.CreateFormFile(p.name, p.file)
		} else {
			out, err = w.CreateFormField(p.name)
		}
		if err == nil {
			_, err = io.WriteString(out, p.text)
		}
		if err != nil {
			a.t.Fatal(err)
		}
	}
	w.Close()
	return a.send("POST", "/api/v1"+path, w.FormDataContentType(), &body)
}

// detail is what a problem detail says.
func detail(text string) string {
	var problem struct{ Detail string }
	json.Unmarshal([]byte(text), &problem)
	return problem.Detail
}

// begin begins an upgrade and gives its path.
func (a *asked) begin(name string) (id int64, path string) {
	a.t.Helper()
	var u struct{ ID int64 }
	a.want(201, "POST", "/upgrades", `{"project": "shelf", "name": "`+name+`", "moves": [{"package": "example.org/jar", "from": "4.2.0", "to": "5.0.0"}]}`, &u)
	return u.ID, fmt.Sprintf("/upgrades/%d", u.ID)
}

// record records a run and waits until it is processed.
func (a *asked) record(id int64, facts, output string) {
	a.t.Helper()
	status, text := a.parts(fmt.Sprintf("/upgrades/%d/runs", id), part{name: "run", text: facts}, part{"input", "build.log", output})
	var run struct{ Number int }
	if err := json.Unmarshal([]byte(text), &run); err != nil || status != 201 {
		a.t.Fatalf("recording: status %d: %s", status, text)
	}
	waits(a.t, a.service, id, run.Number)
}

// TestRefusals holds that bad input is refused with a sentence that says what to do.
func TestRefusals(t *testing.T) {
	a := asking(t)
	id, u := a.begin("jar 5")
	a.record(id, `{"check": "build"}`, "")
	tests := []struct {
		method, path, body string
		status             int
		says               string
	}{
		{"GET", "/upgrades/99", "", 404, "upgrade 99: not found"},
		{"GET", "/upgrades/jar", "", 400, "jar"},
		{"GET", "/nowhere", "", 404, "Not Found"},
		{"POST", "/upgrades", `{"name": "x"}`, 400, "project is empty: name the code base"},
		{"POST", "/upgrades", `{"project": "x"}`, 400, "name is empty"},
		{"POST", "/upgrades", `{"project": "x", "name": "y"}`, 400, "moves is empty: say which package goes from which version to which"},
		{"POST", "/upgrades", `{"project": "x", "name": "y", "moves": [{"to": "1"}]}`, 400, "a move has no package"},
		{"POST", "/upgrades", `{"project": "shelf", "name": "jar 5", "moves": [{"package": "jar"}]}`, 409, `the upgrade "jar 5" of shelf: already there`},
		{"POST", "/upgrades", `{"project": 7}`, 400, "the body is not the JSON that is wanted here"},
		{"POST", u + "/notes", `{"text": "x"}`, 400, "name is empty: give the document's file name"},
		{"POST", u + "/notes", `{"name": "NOTES.md"}`, 400, "NOTES.md is empty: there is nothing to read in it"},
		{"POST", u + "/notes", `{"name": "NOTES.pdf", "text": "a\u0000b"}`, 400, "NOTES.pdf is a binary file: give Markdown"},
		{"GET", u + "/notes/1/lines?from=0", "", 400, "from and count are whole numbers of 1 or more"},
		{"GET", u + "/inputs/1/lines?count=9999", "", 400, "count at most 5000"},
		{"GET", u + "/inputs/1/search?text=%20", "", 400, "text is empty: say what the lines have to hold"},
		{"GET", u + "/causes/1", "", 400, `"1" is no cause: they are named C1, C2 and so on`},
		{"GET", u + "/causes/C9", "", 404, "cause C9: not found"},
		{"GET", u + "/causes?leg=9", "", 404, "leg 9: not found"},
		{"POST", u + "/causes/C1/decisions", `{"kind": "hope", "reason": "x"}`, 400, `kind is "hope": give fix, defer, accept, wait or dismiss`},
		{"POST", u + "/causes/C1/decisions", `{"kind": "fix", "reason": " "}`, 400, "reason is empty: say in a sentence why"},
		{"POST", u + "/causes/C1/decisions", `{"kind": "defer", "reason": "x", "code": "y"}`, 400, "due is empty: say when the workaround comes out again"},
		{"POST", u + "/decisions", `{"decision": {"kind": "fix", "reason": "x"}, "causes": []}`, 400, "causes is empty: name those that the decision is for"},
		{"DELETE", u + "/decisions/9", "", 404, "decision 9: not found"},
		{"PUT", u + "/causes/C1/links/x", `{"state": "maybe"}`, 400, `state is "maybe": give proposed, confirmed or rejected`},
		{"POST", u + "/corrections", `{"kind": "swap", "cause": "C1"}`, 400, `kind is "swap": give move, split, merge or pin`},
		{"POST", u + "/corrections", `{"kind": "merge", "cause": "C1"}`, 400, "from is empty: name the cause that is merged into C1"},
		{"POST", u + "/corrections", `{"kind": "move", "cause": "C1"}`, 400, "symptoms is empty: name those to move by their IDs"},
		{"DELETE", u + "/corrections/9", "", 404, "correction 9: not found"},
		{"POST", u + "/words", `{"reason": "x"}`, 400, "about is empty: give the key of a reason of the gate"},
		{"POST", u + "/words", `{"about": "backup"}`, 400, "reason is empty: say in a sentence what you looked at"},
		{"DELETE", u + "/words/9", "", 404, "word 9: not found"},
		{"POST", u + "/debts", `{"kind": "sin", "text": "x", "due": "2031-01-01"}`, 400, `kind is "sin": give workaround`},
		{"POST", u + "/debts", `{"kind": "shim", "due": "2031-01-01"}`, 400, "text is empty: say what is put off, and why"},
		{"POST", u + "/debts", `{"kind": "shim", "text": "x"}`, 400, "due is empty: say when to look again"},
		{"PUT", u + "/debts/9", `{"how": " "}`, 400, "how is empty: say how the debt was paid"},
		{"PUT", u + "/debts/9", `{"how": "x"}`, 404, "open debt 9: not found"},
		{"POST", u + "/changes", `{"kind": "removed"}`, 400, "title is empty: say what changes, with the names in backticks"},
		{"POST", u + "/changes", `{"title": "x", "kind": "odd"}`, 400, `kind is "odd": give removed, renamed`},
		{"POST", u + "/changes", `{"title": "x", "kind": "removed", "source": "ftp://x"}`, 400, `source is "ftp://x": give the address of where the change is told`},
		{"POST", u + "/changes", `{"title": "x", "kind": "renamed", "renames": [{"from": "a", "to": "a"}]}`, 400, `a pair of names is "a" and "a": give the old and the new one`},
		{"PUT", u + "/changes/x", `{"state": "handled"}`, 400, "reason is empty"},
		{"PUT", u + "/changes/x", `{"reason": "x"}`, 400, "nothing is said: give state, kind or renames"},
		{"PUT", u + "/changes/x", `{"reason": "x", "state": "odd"}`, 400, `state is "odd": give not-used, exposed, handled, later`},
		{"PUT", u + "/changes/x", `{"reason": "x", "kind": "odd"}`, 400, `kind is "odd"`},
		{"PUT", u + "/changes/x", `{"reason": "x", "state": "handled"}`, 404, "change x: not found"},
		{"GET", u + "/changes/x/patch", "", 404, "change x: not found"},
		{"POST", u + "/patches", `{"examples": []}`, 400, "there is no example: give code before and after the edit"},
		{"POST", u + "/patches", `{"examples": [], "keep": true}`, 400, "a template is kept for a change: say which with change"},
		{"POST", u + "/review", `{"diff": "no diff"}`, 400, ""},
		{"GET", u + "/review?commit=abc", "", 404, "commit abc: not found"},
		{"POST", u + "/legs", `{"kind": "leap"}`, 400, `kind is "leap": give plan, next or restart`},
		{"POST", u + "/legs", `{"kind": "plan"}`, 400, "moves is empty"},
		{"POST", u + "/legs", `{"kind": "restart"}`, 400, "reason is empty: say why the leg is abandoned"},
		{"POST", u + "/legs", `{"kind": "next"}`, 409, "the gate of the current leg is shut"},
		{"GET", u + "/runs/9", "", 404, "run 9: not found"},
		{"GET", u + "/runs/9/against/1", "", 404, "run 9: not found"},
		{"GET", u + "/runs/1/pictures/0", "", 404, "picture 0 of run 1: not found"},
		{"GET", u + "/stories/saga", "", 400, "saga"},
		{"POST", u + "/retry", `{"run": 9}`, 404, "run 9 among those that were set aside: not found"},
		{"POST", "/storage/prune", `{}`, 400, "give before, keep or both: nothing is let go without a bound"},
		{"POST", "/people", `{"role": "reader", "token": "x"}`, 400, "name is empty: say who it is"},
		{"POST", "/people", `{"name": "Ilse", "role": "reader"}`, 400, "token is empty: give the token a name"},
		{"POST", "/people", `{"name": "Ilse", "role": "king", "token": "x"}`, 400, `role is "king": give reader, writer or admin`},
		{"POST", "/people", `{"name": "Ilse", "role": "reader", "token": "x", "endsAt": "2001-01-01T00:00:00Z"}`, 400, "endsAt has passed already"},
		{"DELETE", "/people/Ilse", "", 404, "Ilse: not found"},
		{"POST", "/sign-in", `{"token": "guess"}`, 401, "this token is not known here"},
		{"POST", "/casebook", `{"format": "odd"}`, 400, ""},
	}
	for _, test := range tests {
		t.Run(test.method+" "+test.path+" "+test.body, func(t *testing.T) {
			status, text := a.json(test.method, test.path, test.body)
			if status != test.status || !strings.Contains(detail(text), test.says) || detail(text) == "" {
				t.Errorf("status %d: %q, want %d: %q", status, text, test.status, test.says)
			}
		})
	}
}

// TestRecordings holds what is refused of a recording, whole: nothing of it is stored.
func TestRecordings(t *testing.T) {
	a := asking(t)
	id, u := a.begin("jar 5")
	run, input := part{name: "run", text: `{"check": "build", "exit": 1}`}, part{"input", "build.log", "press.go:7:2: undefined: jar.Lid\n"}
	tests := []struct {
		name   string
		parts  []part
		status int
		says   string
	}{
		{"no facts", []part{input}, 400, `the first part is "input": it has to be run`},
		{"no JSON", []part{{name: "run", text: "{"}, input}, 400, "the part run is not the JSON that is wanted here"},
		{"no check", []part{{name: "run", text: `{"check": " "}`}, input}, 400, "check is empty: name what was run, for example build or test"},
		{"a pattern that is none", []part{{name: "run", text: `{"check": "build", "patterns": [{"name": "own", "match": "("}]}`}, input}, 400, "own"},
		{"no output", []part{run}, 400, "there is no part input: send what the check printed, even if it is empty"},
		{"another part", []part{run, {name: "extra", text: "x"}}, 400, `there is a part "extra": only run, input, picture and source are known`},
		{"a picture that is none", []part{run, input, {"picture", "lid.png", "text"}}, 400, "lid.png is no PNG and no JPEG"},
		{"a source that is none", []part{run, input, {"source", "tree.zip", "text"}}, 400, "the part source is no zip"},
		{"too large", []part{run, {"input", "build.log", strings.Repeat("x", 2<<20)}}, 413, "the upload is larger than 1 MiB: record less at once"},
	}
	for _, test := range tests {
		t.Run(test.name, func(t *testing.T) {
			status, text := a.parts(u+"/runs", test.parts...)
			if status != test.status || !strings.Contains(detail(text), test.says) {
				t.Errorf("status %d: %s", status, text)
			}
		})
	}
	if status, text := a.send("POST", "/api/v1"+u+"/runs", "text/plain", strings.NewReader("x")); status != 400 || !strings.Contains(text, "a recording is multipart/form-data") {
		t.Errorf("status %d: %s", status, text)
	}
	var runs []struct{ Number int }
	if a.want(200, "GET", u+"/runs", "", &runs); len(runs) != 0 {
		t.Errorf("something was stored: %+v", runs)
	}
	a.record(id, `{"check": "build", "target": "arm", "startedAt": "2031-05-01T10:00:00Z"}`, "x\n")
	if status, _ := a.parts(u+"/runs", part{name: "run", text: `{"check": "build", "target": "arm", "startedAt": "2031-05-01T10:00:00Z"}`}, part{"input", "build.log", "x\n"}); status != 200 {
		t.Errorf("the same again: status %d", status)
	}
	var one struct {
		Facts struct{ Check string }
	}
	if a.want(200, "GET", u+"/runs/1", "", &one); one.Facts.Check != "build@arm" {
		t.Errorf("%+v", one)
	}
}

// TestRoles holds that people do what their roles allow, in their projects.
func TestRoles(t *testing.T) {
	a := asking(t)
	_, u := a.begin("jar 5")
	for name, body := range map[string]string{
		"reader": `{"name": "Ilse", "role": "reader", "projects": ["shelf"], "token": "t"}`, "writer": `{"name": "Mirja", "role": "writer", "projects": ["shelf"], "token": "t"}`,
		"stranger": `{"name": "Odo", "role": "writer", "projects": ["press"], "token": "t"}`, "admin": `{"name": "Ada", "role": "admin", "token": "t"}`,
	} {
		var secret struct{ Token string }
		a.want(201, "POST", "/people", body, &secret)
		who := *a
		who.token = secret.Token
		t.Run(name, func(t *testing.T) {
			who.t = t
			for _, test := range []struct {
				method, path, body              string
				reader, writer, stranger, admin int
			}{
				{"GET", "/me", "", 200, 200, 200, 200},
				{"GET", u, "", 200, 200, 404, 200},
				{"POST", u + "/debts", `{"kind": "shim", "text": "x", "due": "2031-01-01"}`, 403, 201, 404, 201},
				{"POST", "/upgrades", `{"project": "press", "name": "` + name + `", "moves": [{"package": "jar"}]}`, 403, 403, 201, 201},
				{"GET", "/people", "", 403, 403, 403, 200},
				{"POST", "/storage/prune", `{"keep": 1000000}`, 403, 403, 403, 200},
				{"DELETE", u, "", 403, 403, 404, 204},
			} {
				if test.method == "DELETE" && name == "admin" {
					continue // the others still ask for it
				}
				want := map[string]int{"reader": test.reader, "writer": test.writer, "stranger": test.stranger, "admin": test.admin}[name]
				if status, text := who.json(test.method, test.path, test.body); status != want {
					t.Errorf("%s %s: status %d, want %d: %s", test.method, test.path, status, want, text)
				}
			}
			var rows []struct {
				Upgrade struct{ Project string }
			}
			who.want(200, "GET", "/upgrades", "", &rows)
			for _, r := range rows {
				if name == "stranger" && r.Upgrade.Project == "shelf" || name != "stranger" && name != "admin" && r.Upgrade.Project == "press" {
					t.Errorf("%s sees an upgrade of %s", name, r.Upgrade.Project)
				}
			}
		})
	}
	stranger := *a
	stranger.token = "guess"
	if status, text := stranger.json("GET", "/upgrades", ""); status != 401 || !strings.Contains(text, "nobody is signed in") {
		t.Errorf("status %d: %s", status, text)
	}
	for _, path := range []string{"/healthz", "/readyz", "/api/v1/openapi.yaml"} {
		if status, _ := stranger.send("GET", path, "", nil); status != 200 {
			t.Errorf("%s: status %d", path, status)
		}
	}
	if status, text := a.send("GET", "/metrics", "", nil); status != 200 || !strings.Contains(text, "unicausa_") {
		t.Errorf("the metrics: status %d: %.100s", status, text)
	}
}

// TestTriageOfFiles holds that what is sent to be looked at is drawn, and not kept.
func TestTriageOfFiles(t *testing.T) {
	a := asking(t)
	parts := []part{
		{name: "facts", text: `{"moves": [{"package": "example.org/jar", "from": "4.2.0", "to": "5.0.0"}]}`},
		{"notes", "jar.md", "# 5.0.0\n\n- `jar.Lid` was removed; use `jar.Cover`.\n"},
		{"before", "before.log", ""},
		{"after", "after.log", "# shelf\npress.go:7:2: undefined: jar.Lid\n"},
	}
	status, text := a.parts("/triage", parts...)
	var drawn struct {
		Report struct {
			Causes []struct {
				ID    string
				Links []struct{ Standing string }
			}
		}
	}
	if err := json.Unmarshal([]byte(text), &drawn); err != nil || status != 200 || len(drawn.Report.Causes) != 1 || len(drawn.Report.Causes[0].Links) != 1 || drawn.Report.Causes[0].Links[0].Standing != "likely" {
		t.Errorf("status %d: %s", status, text)
	}
	for format, says := range map[string]string{"markdown": "# ", "html": "<!doctype html>", "sarif": `"version": "2.1.0"`, "json": `"causes"`, "text": "jar.Lid"} {
		if status, text := a.parts("/triage?format="+format, parts...); status != 200 || !strings.Contains(strings.ToLower(text), strings.ToLower(says)) {
			t.Errorf("as %s: status %d: %.200s", format, status, text)
		}
	}
	for _, test := range []struct {
		name  string
		parts []part
		says  string
	}{
		{"no facts", parts[1:], `the first part is "notes": it has to be facts`},
		{"no output", parts[:3], "there is no output of after the bump"},
		{"binary notes", []part{parts[0], {"notes", "jar.pdf", "a\x00b"}, parts[3]}, "the notes jar.pdf are a binary file"},
		{"binary output", []part{parts[0], {"after", "core", "a\x00b"}}, "core: this is a binary file"},
		{"the source behind an output", []part{parts[0], parts[3], {"source", "tree.zip", "x"}}, "the source came behind an output: send it first"},
		{"a lock file behind an output", []part{parts[0], parts[3], {"lock-after", "go.sum", "x"}}, "the lock file go.sum came behind an output"},
		{"another part", []part{parts[0], {"extra", "x", "x"}, parts[3]}, `there is a part "extra"`},
	} {
		t.Run(test.name, func(t *testing.T) {
			if status, text := a.parts("/triage", test.parts...); status != 400 || !strings.Contains(detail(text), test.says) {
				t.Errorf("status %d: %s", status, text)
			}
		})
	}
	var rows []any
	if a.want(200, "GET", "/upgrades", "", &rows); len(rows) != 0 {
		t.Errorf("something was kept: %v", rows)
	}
}
