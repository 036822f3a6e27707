package e2e

import (
	"archive/tar"
	"bytes"
	"compress/gzip"
	"encoding/json"
	"io"
	"mime/multipart"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"

	"unicausa/internal/api"
)

// part is one part of what is sent to be looked at.
type part struct{ form, name, text string }

// look sends parts to /triage and gives status and answer.
func look(t *testing.T, query string, parts ...part) (int, string) {
	t.Helper()
	var body bytes.Buffer
	w := multipart.NewWriter(&body)
	for _, p := range parts {
		to, err := w.CreateFormFile(p.form, p.name)
		if err != nil {
			t.Fatal(err)
		}
		io.WriteString(to, p.text)
	}
	w.Close()
	res, err := http.Post(server+"/api/v1/triage"+query, w.FormDataContentType(), &body)
	if err != nil {
		t.Fatal(err)
	}
	defer res.Body.Close()
	text, err := io.ReadAll(res.Body)
	if err != nil {
		t.Fatal(err)
	}
	return res.StatusCode, string(text)
}

// tarred is a source tree as a gzipped tar.
func tarred(t *testing.T, files map[string]string) string {
	t.Helper()
	var out bytes.Buffer
	zipped := gzip.NewWriter(&out)
	w := tar.NewWriter(zipped)
	for name, text := range files {
		w.WriteHeader(&tar.Header{Name: name, Mode: 0o644, Size: int64(len(text)), Typeflag: tar.TypeReg})
		io.WriteString(w, text)
	}
	w.Close()
	zipped.Close()
	return out.String()
}

const (
	jarBroken = "# example.org/pantry\n./shelf.go:4:6: undefined: jar.OpenLid\n"
	lidNotes  = "# Changelog\n\n## 0.5.0\n\n- `OpenLid` was renamed to `Open`.\n\n## 0.4.0\n\n- `OpenLid` was removed for `Lid`.\n"
)

// TestTriageStoresNothing holds that what is sent to be looked at is drawn as the command
// line draws it, that lock files tell what moves, and that nothing of it is stored.
func TestTriageStoresNothing(t *testing.T) {
	before, err := here(t).Upgrades(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	mod := func(version string) string {
		return "module example.org/pantry\n\nrequire example.org/jar " + version + "\n"
	}
	parts := []part{
		{"facts", "facts", `{}`},
		{"source", "pantry.tar.gz", tarred(t, map[string]string{"shelf.go": "package pantry\n\nfunc f() {\n\tjar.OpenLid()\n}\n"})},
		{"lock-before", "old/go.mod", mod("v0.4.2")}, {"lock-after", "go.mod", mod("v0.5.0")},
		{"notes", "CHANGELOG.md", lidNotes},
		{"after", "build.log", jarBroken},
	}
	status, text := look(t, "", parts...)
	var got api.Triage
	if err := json.Unmarshal([]byte(text), &got); err != nil || status != http.StatusOK {
		t.Fatalf("%d %v: %s", status, err, text)
	}
	if len(got.Offered) != 1 || got.Offered[0] != (api.OfferedMove{Package: "example.org/jar", From: "0.4.2", To: "0.5.0", Said: "go.mod"}) {
		t.Errorf("offered is %+v", got.Offered)
	}
	if got.Packages["CHANGELOG.md"] != "example.org/jar" {
		t.Errorf("the notes are taken for %v", got.Packages)
	}
	report := got.Report
	if len(report.Causes) != 1 || len(report.Causes[0].Links) == 0 || report.Symptoms[0].Source != "jar.OpenLid()" {
		t.Fatalf("the report is %+v", report)
	}
	link := report.Causes[0].Links[0]
	for _, c := range report.Changes {
		if c.ID == link.Change && c.Line != 5 {
			t.Errorf("the link leads to line %d", c.Line)
		}
	}
	for format, part := range map[string]string{"text": "1 new symptom from 1 cause", "json": `"format": "unicausa-report"`, "markdown": "jar.OpenLid", "html": "<!doctype html>", "sarif": `"version": "2.1.0"`} {
		if status, text := look(t, "?format="+format, parts...); status != http.StatusOK || !strings.Contains(text, part) {
			t.Errorf("%s: %d %.200s", format, status, text)
		}
	}
	after, err := here(t).Upgrades(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	if len(after) != len(before) {
		t.Errorf("there are %d upgrades, there were %d", len(after), len(before))
	}
}

func TestTriageOfBadInput(t *testing.T) {
	facts, output := part{"facts", "facts", `{}`}, part{"after", "build.log", jarBroken}
	for _, c := range []struct {
		name  string
		parts []part
		want  string
	}{
		{"no facts first", []part{output}, "it has to be facts"},
		{"facts that are no JSON", []part{{"facts", "facts", "{"}, output}, "not the JSON"},
		{"no output", []part{facts, {"notes", "n.md", "# n"}}, "no output of after the bump"},
		{"an output of no text", []part{facts, {"after", "a.out", "\x7fELF\x00\x00"}}, "a.out: this is a binary file"},
		{"binary notes", []part{facts, {"notes", "n.md", "a\x00b"}, output}, "binary file"},
		{"the source behind an output", []part{facts, output, {"source", "s.zip", "x"}}, "send it first"},
		{"a source that is no archive", []part{facts, {"source", "s.zip", "not an archive"}, output}, "no zip and no tar"},
		{"a gzip of something else", []part{facts, {"source", "s.tgz", "\x1f\x8b\x08\x00"}, output}, "no archive that can be read"},
		{"a lock file behind an output", []part{facts, output, {"lock-after", "go.mod", "module m"}}, "send it first"},
		{"an unknown part", []part{facts, {"picture", "p.png", "x"}, output}, `there is a part \"picture\"`},
	} {
		status, text := look(t, "", c.parts...)
		if status != http.StatusBadRequest || !strings.Contains(text, c.want) {
			t.Errorf("%s: %d %s, want 400 with %q", c.name, status, text, c.want)
		}
	}
}

// TestStartPage holds that a newcomer sees causes without any set-up, corrects what a
// file is taken for, and keeps it as an upgrade.
func TestStartPage(t *testing.T) {
	t.Parallel()
	folder := t.TempDir()
	file := func(name, text string) string {
		path := filepath.Join(folder, name)
		if err := os.WriteFile(path, []byte(text), 0o644); err != nil {
			t.Fatal(err)
		}
		return path
	}
	ctx := browser(t)
	var role, title, head, source string
	do(t, ctx,
		chromedp.Navigate(server),
		chromedp.SetUploadFiles(`input[type=file]`, []string{file("before-build.log", "# example.org/pantry\n./old.go:2:2: undefined: rust\n"), file("build.log", jarBroken+"./old.go:2:2: undefined: rust\n"), file("CHANGELOG.md", lidNotes)}, chromedp.ByQuery),
		chromedp.WaitVisible(`[data-list="pieces"]`, chromedp.ByQuery),
		chromedp.Value(`select[aria-label="What before-build.log is"]`, &role, chromedp.ByQuery),
		chromedp.Click(`//button[contains(., "Say what moves")]`),
		chromedp.SendKeys(`input[aria-label="Package or toolchain"]`, "example.org/jar", chromedp.ByQuery),
		chromedp.SendKeys(`input[aria-label="From version"]`, "0.4.2", chromedp.ByQuery),
		chromedp.SendKeys(`input[aria-label="To version"]`, "0.5.0", chromedp.ByQuery),
		chromedp.Click(`//button[.="Show the causes"]`),
		chromedp.Text(`[data-list="triage"] h3`, &title, chromedp.ByQuery),
		chromedp.Click(`//button[.="build.log:2"]`),
		chromedp.Text(`//pre[contains(., "# example.org/pantry")]`, &source),
	)
	if role != "before" || !strings.Contains(title, "OpenLid") || !strings.Contains(source, "undefined: jar.OpenLid") {
		t.Errorf("the role is %q, the title %q, the log %q", role, title, source)
	}
	do(t, ctx,
		chromedp.Click(`//button[.="Keep it as an upgrade"]`),
		chromedp.SendKeys(`input[name=project]`, "pantry", chromedp.ByQuery),
		chromedp.Click(`//button[.="Keep it"]`),
		chromedp.WaitVisible(`nav[aria-label="Pages of this upgrade"]`, chromedp.ByQuery),
		chromedp.Text(`h1`, &head, chromedp.ByQuery),
	)
	if head != "jar 0.5.0" {
		t.Errorf("the upgrade is named %q", head)
	}
	upgrade := upgradeOf(t, "jar 0.5.0")
	o, err := here(t).Overview(t.Context(), upgrade)
	if err != nil {
		t.Fatal(err)
	}
	if len(o.Causes) != 2 || o.Checks[0].Name != "build" || o.Checks[0].Baseline == nil {
		t.Errorf("kept are %d causes and the checks %+v", len(o.Causes), o.Checks)
	}
	if err := here(t).Delete(t.Context(), upgrade); err != nil {
		t.Error(err)
	}
}
