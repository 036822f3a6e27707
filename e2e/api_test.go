package e2e

import (
	"bufio"
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/source/sourcetest"
)

// call sends a request and gives the answer's status, type and body.
func call(t *testing.T, method, path, contentType, body string) (status int, kind, text string) {
	t.Helper()
	r, err := http.NewRequestWithContext(t.Context(), method, server+path, strings.NewReader(body))
	if err != nil {
		t.Fatal(err)
	}
	if contentType != "" {
		r.Header.Set("Content-Type", contentType)
	}
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	data, err := io.ReadAll(answer.Body)
	if err != nil {
		t.Fatal(err)
	}
	return answer.StatusCode, answer.Header.Get("Content-Type"), string(data)
}

// form writes a multipart body of name, file name and content.
func form(t *testing.T, parts ...[3]string) (contentType, body string) {
	t.Helper()
	var buf bytes.Buffer
	w := multipart.NewWriter(&buf)
	for _, p := range parts {
		var part io.Writer
		var err error
		if p[1] == "" {
			part, err = w.CreateFormField(p[0])
		} else {
			part, err = w.CreateFormFile(p[0], p[1])
		}
		if err == nil {
			_, err = io.WriteString(part, p[2])
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	w.Close()
	return w.FormDataContentType(), buf.String()
}

// TestProblems holds that every bad request is answered with a problem detail
// that says what to do (RFC 9457).
func TestProblems(t *testing.T) {
	const plain = "application/json"
	facts := `{"check":"build"}`
	upgrade := begin(t, here(t), "problems")
	runs := fmt.Sprintf("/api/v1/upgrades/%d/runs", upgrade)
	recording := func(parts ...[3]string) (string, string) { return form(t, parts...) }
	noInput, noInputBody := recording([3]string{"run", "", facts})
	late, lateBody := recording([3]string{"input", "a.log", "x"}, [3]string{"run", "", facts})
	badFacts, badFactsBody := recording([3]string{"run", "", "{"}, [3]string{"input", "a.log", "x"})
	noCheck, noCheckBody := recording([3]string{"run", "", `{"check":"  "}`}, [3]string{"input", "a.log", "x"})
	drawn, drawnBody := recording([3]string{"run", "", facts}, [3]string{"input", "a.log", "x"}, [3]string{"picture", "a.txt", "x"})
	other, otherBody := recording([3]string{"run", "", facts}, [3]string{"drawing", "a.png", "x"})
	noZip, noZipBody := recording([3]string{"run", "", facts}, [3]string{"input", "a.log", "x"}, [3]string{"source", "s.zip", "no zip"})
	cut, cutBody := recording([3]string{"run", "", facts}, [3]string{"input", "a.log", strings.Repeat("x", 1000)})
	cutBody = cutBody[:len(cutBody)-500]
	base := fmt.Sprintf("/api/v1/upgrades/%d", upgrade)
	for _, test := range []struct {
		name, method, path, kind, body string
		status                         int
		part                           string
	}{
		{"no such path", "GET", "/api/v1/nothing", "", "", 404, ""},
		{"no such upgrade", "GET", "/api/v1/upgrades/999999", "", "", 404, "upgrade 999999: not found"},
		{"no number", "GET", "/api/v1/upgrades/seven", "", "", 400, "upgrade"},
		{"no such run", "GET", runs + "/77", "", "", 404, "run 77: not found"},
		{"no such input", "GET", base + "/inputs/999999/lines", "", "", 404, "input 999999: not found"},
		{"no such notes", "GET", base + "/notes/999999/lines", "", "", 404, "notes 999999: not found"},
		{"bad window", "GET", base + "/notes/1/lines?count=100000", "", "", 400, "count at most 5000"},
		{"no such cause", "GET", base + "/causes/C1", "", "", 404, "cause C1: not found"},
		{"bad cause", "GET", base + "/causes/one", "", "", 400, "they are named C1"},
		{"no JSON", "POST", "/api/v1/upgrades", plain, "{", 400, "not the JSON that is wanted"},
		{"no project", "POST", "/api/v1/upgrades", plain, `{"name":"x","moves":[{"package":"a"}]}`, 400, "project is empty"},
		{"no name", "POST", "/api/v1/upgrades", plain, `{"project":"x","moves":[{"package":"a"}]}`, 400, "name is empty"},
		{"no moves", "POST", "/api/v1/upgrades", plain, `{"project":"x","name":"y","moves":[]}`, 400, "moves is empty"},
		{"no package", "POST", "/api/v1/upgrades", plain, `{"project":"x","name":"y","moves":[{"package":""}]}`, 400, "no package"},
		{"twice", "POST", "/api/v1/upgrades", plain, `{"project":"orchard-ledger","name":"binlabel 4","moves":[{"package":"a","from":"1","to":"2"}]}`, 409, "already there"},
		{"no baseline", "POST", base + "/baseline", "", "", 409, "record every check on the old version first"},
		{"empty notes", "POST", base + "/notes", plain, `{"name":"a.md","text":"  "}`, 400, "a.md is empty"},
		{"nameless notes", "POST", base + "/notes", plain, `{"name":"","text":"x"}`, 400, "name is empty"},
		{"binary notes", "POST", base + "/notes", plain, `{"name":"a.md","text":"\u0000"}`, 400, "binary"},
		{"a word on nothing", "POST", base + "/words", plain, `{"about":" ","reason":"x"}`, 400, "about is empty"},
		{"a word without a reason", "POST", base + "/words", plain, `{"about":"backup","reason":""}`, 400, "say in a sentence what you looked at"},
		{"no such word", "DELETE", base + "/words/999999", "", "", 404, "word 999999"},
		{"no such decision", "DELETE", base + "/decisions/999999", "", "", 404, "decision 999999"},
		{"a leg of no kind", "POST", base + "/legs", plain, `{"kind":"jump"}`, 400, "give plan, next or restart"},
		{"a leg that moves nothing", "POST", base + "/legs", plain, `{"kind":"plan"}`, 400, "moves is empty"},
		{"a leg abandoned for no reason", "POST", base + "/legs", plain, `{"kind":"restart"}`, 400, "say why the leg is abandoned"},
		{"the next leg behind a shut gate", "POST", base + "/legs", plain, `{"kind":"next","moves":[{"package":"a","from":"1","to":"2"}]}`, 409, "the gate of the current leg is shut"},
		{"no next leg", "POST", base + "/legs", plain, `{"kind":"next","reason":"anyway"}`, 409, "no leg is planned"},
		{"causes of no leg", "GET", base + "/causes?leg=9", "", "", 404, "leg 9"},
		{"a debt without end", "POST", base + "/debts", plain, `{"kind":"shim","text":"x","due":""}`, 400, "due is empty"},
		{"a debt of no kind", "POST", base + "/debts", plain, `{"kind":"loan","text":"x","due":"y"}`, 400, "kind is \"loan\""},
		{"no such debt", "GET", base + "/debts/999999", "", "", 404, "debt 999999"},
		{"a debt paid somehow", "PUT", base + "/debts/1", plain, `{"how":" "}`, 400, "say how the debt was paid"},
		{"a workaround for ever", "POST", base + "/causes/C1/decisions", plain, `{"kind":"fix","reason":"x","file":"a.go","code":"x()"}`, 400, "say when the workaround comes out again"},
		{"no such report", "GET", base + "/stories/tale", "", "", 400, "give today, pull-request or closing"},
		{"no such picture", "GET", base + "/runs/1/pictures/7", "", "", 404, "picture 7"},
		{"no picture", "POST", runs, drawn, drawnBody, 400, "a.txt is no PNG and no JPEG"},
		{"no casebook", "POST", "/api/v1/casebook", plain, `{"format":"x","version":1,"cases":[]}`, 400, "this is no casebook"},
		{"no form", "POST", runs, plain, "{}", 400, "multipart/form-data"},
		{"no input", "POST", runs, noInput, noInputBody, 400, "there is no part input"},
		{"run too late", "POST", runs, late, lateBody, 400, "the first part is \"input\""},
		{"bad facts", "POST", runs, badFacts, badFactsBody, 400, "part run is not the JSON"},
		{"no check", "POST", runs, noCheck, noCheckBody, 400, "check is empty"},
		{"another part", "POST", runs, other, otherBody, 400, "only run, input, picture and source are known"},
		{"source is no zip", "POST", runs, noZip, noZipBody, 400, "no zip"},
		{"broken off", "POST", runs, cut, cutBody, 400, "nothing of it was stored"},
		{"bad judgement", "PUT", base + "/causes/C1/links/x", plain, `{"state":"perhaps"}`, 400, "proposed, confirmed or rejected"},
		{"judgement of nothing", "PUT", base + "/causes/C1/links/x", plain, `{"state":"confirmed"}`, 404, "cause C1: not found"},
		{"no reason", "POST", base + "/causes/C1/decisions", plain, `{"kind":"fix","reason":" "}`, 400, "reason is empty"},
	} {
		t.Run(test.name, func(t *testing.T) {
			status, kind, text := call(t, test.method, test.path, test.kind, test.body)
			var p api.Problem
			if err := json.Unmarshal([]byte(text), &p); err != nil || !strings.HasPrefix(kind, "application/problem+json") {
				t.Fatalf("no problem detail: %s %s", kind, text)
			}
			if status != test.status || p.Status != test.status || p.Title != http.StatusText(status) || !strings.Contains(p.Detail, test.part) {
				t.Errorf("got %d %+v, want %d with %q", status, p, test.status, test.part)
			}
		})
	}
	if list, err := here(t).Runs(t.Context(), upgrade); err != nil || len(list) != 0 {
		t.Errorf("bad uploads left %d runs (%v)", len(list), err)
	}
}

func TestUploadsAreIdempotent(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "twice")
	facts := api.RunFacts{Check: "build", StartedAt: time.Date(2031, 5, 5, 8, 0, 0, 0, time.UTC)}
	send := func(text string) api.Run {
		run, err := c.Record(t.Context(), upgrade, facts, []client.Input{{Name: "a.log", Content: strings.NewReader(text)}}, nil, nil)
		if err != nil {
			t.Fatal(err)
		}
		return run
	}
	first, again, different := send("a.c:1:1: error: no\n"), send("a.c:1:1: error: no\n"), send("a.c:1:1: error: yes\n")
	if first.Number != again.Number || first.ID != again.ID {
		t.Errorf("the same content became runs %d and %d", first.Number, again.Number)
	}
	if different.Number != first.Number+1 {
		t.Errorf("other content became run %d, want %d", different.Number, first.Number+1)
	}
}

func TestUploadsAreBounded(t *testing.T) {
	t.Parallel()
	c := here(t)
	upgrade := begin(t, c, "large")
	endless := io.LimitReader(noise{}, 600<<20)
	_, err := c.Record(t.Context(), upgrade, api.RunFacts{Check: "build"}, []client.Input{{Name: "a.log", Content: endless}}, nil, nil)
	if err == nil {
		t.Fatal("600 MiB were taken, the bound is 512")
	}
	if runs, err := c.Runs(t.Context(), upgrade); err != nil || len(runs) != 0 {
		t.Errorf("%d runs are left of it (%v)", len(runs), err)
	}
}

// noise is text without an end.
type noise struct{}

func (noise) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = "abcdefghijklmno\n"[i%16]
	}
	return len(p), nil
}

// TestStrangeInputs holds that whatever is sent is stored and gives a sound
// result or a clear word; a check that failed and says nothing is a symptom.
func TestStrangeInputs(t *testing.T) {
	c := here(t)
	for _, test := range []struct {
		name, text, format, problem string
		symptoms                    int
	}{
		{"empty", "", "empty", "", 1},
		{"binary", "\x7fELF\x00\x00\x01", "binary", "record the text that the tool printed", 1},
		{"malformed XML", `<testsuite name="a"><testcase name="t"><failure message="no">x</failure></testcase><testcase`, "xml", "breaks off at line 1", 1},
		{"invalid UTF-8", "a.c:1:1: error: b\xff\xfed\nrest\n", "text", "", 1},
		{"no line end", "a.c:1:1: error: no", "text", "", 1},
		{"carriage returns", "a.c:1:1: error: no\r\n", "text", "", 1},
		{"UTF-16", "\xff\xfea\x00.\x00c\x00:\x001\x00:\x001\x00:\x00 \x00e\x00r\x00r\x00o\x00r\x00:\x00 \x00n\x00o\x00\n\x00", "text", "", 1},
	} {
		t.Run(test.name, func(t *testing.T) {
			run := sendRun(t, c, begin(t, c, "strange"), "build", 1, test.text)
			in := run.Inputs[0]
			if run.Status != "processed" || in.Format != test.format || run.Symptoms != test.symptoms || !strings.Contains(in.Problem, test.problem) || (test.problem == "") != (in.Problem == "") {
				t.Errorf("got %s, %d symptoms, %+v", run.Status, run.Symptoms, in)
			}
		})
	}
}

// TestLongLine sends a single line of 200 MB, and reads a part of it.
func TestLongLine(t *testing.T) {
	t.Parallel()
	c := here(t)
	upgrade := begin(t, c, "long")
	line := io.MultiReader(io.LimitReader(letters{}, 200_000_000), strings.NewReader("\na.c:1:1: error: behind it\n"))
	run, err := c.Record(t.Context(), upgrade, api.RunFacts{Check: "build", Exit: 1}, []client.Input{{Name: "a.log", Content: line}}, nil, nil)
	if err == nil {
		run, err = c.Processed(t.Context(), upgrade, run.Number)
	}
	if err != nil {
		t.Fatal(err)
	}
	if in := run.Inputs[0]; run.Symptoms != 1 || in.Lines != 2 || in.Bytes != 200_000_000+len64("\na.c:1:1: error: behind it\n") {
		t.Errorf("got %d symptoms, %+v", run.Symptoms, in)
	}
	_, _, text := call(t, "GET", fmt.Sprintf("/api/v1/upgrades/%d/inputs/%d/lines?from=1&count=2", upgrade, run.Inputs[0].ID), "", "")
	var lines api.Lines
	if err := json.Unmarshal([]byte(text), &lines); err != nil || len(lines.Lines) != 2 || lines.Lines[1] != "a.c:1:1: error: behind it" || len(lines.Lines[0]) > 100_000 {
		t.Errorf("got %d lines of %d (%v)", len(lines.Lines), lines.Total, err)
	}
}

func len64(s string) int64 { return int64(len(s)) }

type letters struct{}

func (letters) Read(p []byte) (int, error) {
	for i := range p {
		p[i] = 'x'
	}
	return len(p), nil
}

// TestLinesOfALog reads windows of a log that is stored in many chunks.
func TestLinesOfALog(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "lines")
	var b strings.Builder
	for i := 1; i <= 50_000; i++ {
		fmt.Fprintf(&b, "line %d of a long log that says nothing\n", i)
	}
	run := sendRun(t, c, upgrade, "build", 0, b.String())
	for _, from := range []int{1, 6000, 6550, 49_990, 50_000, 50_001} {
		_, _, text := call(t, "GET", fmt.Sprintf("/api/v1/upgrades/%d/inputs/%d/lines?from=%d&count=20", upgrade, run.Inputs[0].ID, from), "", "")
		var lines api.Lines
		if err := json.Unmarshal([]byte(text), &lines); err != nil {
			t.Fatal(err)
		}
		if lines.Total != 50_000 || len(lines.Lines) != max(0, min(20, 50_001-from)) {
			t.Fatalf("from %d: %d lines of %d", from, len(lines.Lines), lines.Total)
		}
		for i, line := range lines.Lines {
			if want := fmt.Sprintf("line %d of a long log that says nothing", from+i); line != want {
				t.Fatalf("line %d is %q", from+i, line)
			}
		}
	}
}

func TestEvents(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "events")
	r, err := http.NewRequestWithContext(t.Context(), "GET", fmt.Sprintf("%s/api/v1/upgrades/%d/events", server, upgrade), nil)
	if err != nil {
		t.Fatal(err)
	}
	r.Header.Set("Last-Event-ID", "0")
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	if kind := answer.Header.Get("Content-Type"); kind != "text/event-stream" {
		t.Errorf("the stream is %s", kind)
	}
	go c.Record(t.Context(), upgrade, api.RunFacts{Check: "build"}, []client.Input{{Name: "a.log", Content: strings.NewReader("")}}, nil, nil)
	kinds := []string{}
	for lines := bufio.NewScanner(answer.Body); lines.Scan() && len(kinds) < 2; {
		if data, ok := strings.CutPrefix(lines.Text(), "data: "); ok {
			var e api.Event
			if err := json.Unmarshal([]byte(data), &e); err != nil {
				t.Fatal(err)
			}
			kinds = append(kinds, e.Kind)
		}
	}
	if strings.Join(kinds, " ") != "begun recorded" {
		t.Errorf("the events are %v", kinds)
	}
	if status, _, text := callWith(t, "Last-Event-ID", "x", fmt.Sprintf("/api/v1/upgrades/%d/events", upgrade)); status != 400 || !strings.Contains(text, "give the ID of an event") {
		t.Errorf("got %d %s", status, text)
	}
}

func callWith(t *testing.T, header, value, path string) (status int, kind, text string) {
	t.Helper()
	r, err := http.NewRequestWithContext(t.Context(), "GET", server+path, nil)
	if err != nil {
		t.Fatal(err)
	}
	r.Header.Set(header, value)
	answer, err := http.DefaultClient.Do(r)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	data, err := io.ReadAll(answer.Body)
	if err != nil {
		t.Fatal(err)
	}
	return answer.StatusCode, answer.Header.Get("Content-Type"), string(data)
}

func TestHealthAndConsole(t *testing.T) {
	for path, part := range map[string]string{
		"/healthz": "ok", "/readyz": "ready", "/metrics": "go_goroutines", "/api/v1/openapi.yaml": "openapi: 3.1.0",
		"/": `<div id="root">`, "/upgrades/7/causes/C1": `<div id="root">`,
	} {
		if status, _, text := call(t, "GET", path, "", ""); status != 200 || !strings.Contains(text, part) {
			t.Errorf("%s: %d without %q", path, status, part)
		}
	}
	if status, _, _ := call(t, "GET", "/assets/none.js", "", ""); status != 404 {
		t.Errorf("a missing asset gives %d", status)
	}
}

// TestReport holds that the service's report is the one that triage prints.
func TestReport(t *testing.T) {
	status, _, text := call(t, "GET", fmt.Sprintf("/api/v1/upgrades/%d/report", upgradeOf(t, "binlabel 4")), "", "")
	var report struct {
		Format  string
		Version int
		Summary struct{ New, Causes int }
		Inputs  []struct{ Name, Side string }
		Causes  []struct {
			ID    string
			Links []struct{ Score float64 }
		}
	}
	if err := json.Unmarshal([]byte(text), &report); err != nil || status != 200 {
		t.Fatalf("%d: %v", status, err)
	}
	if report.Format != "unicausa-report" || report.Version != 1 || report.Summary.New != 9 || len(report.Inputs) != 8 || report.Causes[0].ID != "C1" || len(report.Causes[0].Links) == 0 {
		t.Errorf("the report is %+v", report)
	}
}

// TestSourceTree holds that a run's source tree gives the lines of its symptoms.
func TestSourceTree(t *testing.T) {
	tree := sourcetest.Zip(t, map[string]string{"src/shelf.c": "int a;\nint b;\nint open(void) { return lid; }\nint c;\n"})
	c := here(t)
	upgrade := begin(t, c, "source")
	sendRun(t, c, upgrade, "build", 0, "")
	if _, err := c.AcceptBaseline(t.Context(), upgrade); err != nil {
		t.Fatal(err)
	}
	run, err := c.Record(t.Context(), upgrade, api.RunFacts{Check: "build", Exit: 1},
		[]client.Input{{Name: "a.log", Content: strings.NewReader("/ci/work/src/shelf.c:3:25: error: 'lid' undeclared\n")}}, tree, nil)
	if err == nil {
		_, err = c.Processed(t.Context(), upgrade, run.Number)
	}
	if err != nil {
		t.Fatal(err)
	}
	detail, err := c.Cause(t.Context(), upgrade, "C1")
	if err != nil {
		t.Fatal(err)
	}
	s := detail.Symptoms[0]
	if s.File != "src/shelf.c" || len(s.Source) != 5 || s.Source[2].Text != "int open(void) { return lid; }" || len(s.Places) != 1 || s.Places[0].Line != 1 {
		t.Errorf("the symptom is %+v", s)
	}
}
