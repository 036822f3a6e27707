package client

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
)

// serve answers every request as told, and gives a client of it.
func serve(t *testing.T, answer http.HandlerFunc) *Client {
	t.Helper()
	s := httptest.NewServer(answer)
	t.Cleanup(s.Close)
	c, err := New(strings.TrimPrefix(s.URL, "http://")+"/", "secret")
	if err != nil {
		t.Fatal(err)
	}
	return c
}

func asJSON(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	json.NewEncoder(w).Encode(v)
}

// TestProblemsInWords holds that what the service says of a failure is the
// error, in each of its ways to say so.
func TestProblemsInWords(t *testing.T) {
	for _, test := range []struct {
		name   string
		answer http.HandlerFunc
		want   string
	}{
		{"a problem detail", func(w http.ResponseWriter, _ *http.Request) {
			w.Header().Set("Content-Type", "application/problem+json")
			w.WriteHeader(404)
			fmt.Fprint(w, `{"title":"Not Found","status":404,"detail":"cause C9: not found"}`)
		}, "cause C9: not found"},
		{"no detail", func(w http.ResponseWriter, _ *http.Request) { w.WriteHeader(502) }, "answered with status 502"},
		{"no JSON", func(w http.ResponseWriter, _ *http.Request) { fmt.Fprint(w, "<html>") }, "answered with status 200"},
		{"a connection that breaks", func(w http.ResponseWriter, _ *http.Request) { panic(http.ErrAbortHandler) }, "does not answer"},
	} {
		t.Run(test.name, func(t *testing.T) {
			c := serve(t, test.answer)
			for call, f := range map[string]func() error{
				"Begin":          func() error { _, err := c.Begin(t.Context(), api.NewUpgrade{}); return err },
				"Upgrades":       func() error { _, err := c.Upgrades(t.Context()); return err },
				"Overview":       func() error { _, err := c.Overview(t.Context(), 1); return err },
				"Gate":           func() error { _, err := c.Gate(t.Context(), 1, ""); return err },
				"Runs":           func() error { _, err := c.Runs(t.Context(), 1); return err },
				"Run":            func() error { _, err := c.Run(t.Context(), 1, 1); return err },
				"Processed":      func() error { _, err := c.Processed(t.Context(), 1, 1); return err },
				"AcceptBaseline": func() error { _, err := c.AcceptBaseline(t.Context(), 1); return err },
				"AddNotes":       func() error { _, err := c.AddNotes(t.Context(), 1, api.NewNotes{}); return err },
				"Causes":         func() error { _, err := c.Causes(t.Context(), 1); return err },
				"Cause":          func() error { _, err := c.Cause(t.Context(), 1, "C9"); return err },
				"JudgeLink":      func() error { _, err := c.JudgeLink(t.Context(), 1, "C9", "x", api.LinkJudgement{}); return err },
				"Decide":         func() error { _, err := c.Decide(t.Context(), 1, "C9", api.NewDecision{}); return err },
				"NotesLines":     func() error { _, err := c.NotesLines(t.Context(), 1, 1, 1, 1); return err },
				"Record":         func() error { _, err := c.Record(t.Context(), 1, api.RunFacts{}, nil, nil, nil); return err },
			} {
				if err := f(); err == nil || !strings.Contains(err.Error(), test.want) {
					t.Errorf("%s says %v, want %q", call, err, test.want)
				}
			}
		})
	}
}

// TestRecordStreams holds the parts that are sent, their order, and that the
// sender is told of every piece.
func TestRecordStreams(t *testing.T) {
	var got []string
	c := serve(t, func(w http.ResponseWriter, r *http.Request) {
		parts, err := r.MultipartReader()
		if err != nil {
			t.Error(err)
			return
		}
		for {
			part, err := parts.NextPart()
			if err != nil {
				break
			}
			text, _ := io.ReadAll(part)
			got = append(got, describe(part, text))
		}
		asJSON(w, 201, api.Run{Number: 7, Status: "stored", Inputs: []api.Input{}})
	})
	sent := 0
	run, err := c.Record(t.Context(), 3, api.RunFacts{Check: "build", Exit: 1},
		[]Input{{"a.log", strings.NewReader("one\n")}, {"b.log", strings.NewReader("")}}, []byte("zip"), func(n int) { sent += n })
	if err != nil || run.Number != 7 {
		t.Fatalf("run %d: %v", run.Number, err)
	}
	if want := `run build | input a.log "one\n" | input b.log "" | source source.zip "zip"`; strings.Join(got, " | ") != want {
		t.Errorf("sent was %s, want %s", strings.Join(got, " | "), want)
	}
	if sent != 4 {
		t.Errorf("told of %d bytes", sent)
	}
}

func describe(part *multipart.Part, text []byte) string {
	if part.FormName() == "run" {
		var facts api.RunFacts
		if err := json.Unmarshal(text, &facts); err != nil {
			return err.Error()
		}
		return "run " + facts.Check
	}
	return fmt.Sprintf("%s %s %q", part.FormName(), part.FileName(), text)
}

func TestRecordPassesOnWhatCannotBeRead(t *testing.T) {
	c := serve(t, func(_ http.ResponseWriter, r *http.Request) { io.Copy(io.Discard, r.Body) })
	broken := io.MultiReader(strings.NewReader("one\n"), readerFunc(func([]byte) (int, error) { return 0, errors.New("the disk is gone") }))
	if _, err := c.Record(t.Context(), 1, api.RunFacts{}, []Input{{"a.log", broken}}, nil, nil); err == nil || !strings.Contains(err.Error(), "reading a.log: the disk is gone") {
		t.Errorf("the error is %v", err)
	}
}

type readerFunc func([]byte) (int, error)

func (f readerFunc) Read(p []byte) (int, error) { return f(p) }

func TestProcessedWaits(t *testing.T) {
	asked := 0
	c := serve(t, func(w http.ResponseWriter, _ *http.Request) {
		asked++
		status := api.RunStatus("stored")
		if asked > 2 {
			status = "processed"
		}
		asJSON(w, 200, api.Run{Number: 1, Status: status, Inputs: []api.Input{}})
	})
	start := time.Now()
	run, err := c.Processed(t.Context(), 1, 1)
	if err != nil || run.Status != "processed" || asked != 3 || time.Since(start) > 10*time.Second {
		t.Errorf("after %d questions the run is %s: %v", asked, run.Status, err)
	}
}

func TestServerAddress(t *testing.T) {
	for given, want := range map[string]string{"127.0.0.1:7236": "http://127.0.0.1:7236", "http://a.example/": "http://a.example", "https://a.example": "https://a.example"} {
		c, err := New(given, "")
		if err != nil || c.Server() != want {
			t.Errorf("%q is %q (%v), want %q", given, c.Server(), err, want)
		}
	}
}
