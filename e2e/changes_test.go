package e2e

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/source/sourcetest"
)

// ledger lays the demo's project and its libraries, as they were before the
// bump, into a folder, makes a git repository of it and works there. It gives
// the TypeScript compiler.
func ledger(t *testing.T) (tsc string) {
	t.Helper()
	project, err := filepath.Abs("../internal/demo/project")
	if err != nil {
		t.Fatal(err)
	}
	if tsc, err = filepath.Abs("../console/node_modules/.bin/tsc"); err != nil {
		t.Fatal(err)
	}
	folder := t.TempDir()
	if err := os.CopyFS(folder, os.DirFS(project)); err != nil {
		t.Fatal(err)
	}
	t.Chdir(filepath.Join(folder, "ledger"))
	for name, value := range map[string]string{"UNICAUSA_SERVER": server, "UNICAUSA_TOKEN": tokenOf(t, "Mirja"), "GOFLAGS": "-mod=mod", "GOWORK": "off"} {
		t.Setenv(name, value)
	}
	write(t, map[string]string{".gitignore": "node_modules/\n.unicausa.json\n"})
	labels(t, "2")
	run(t, "git", "init", "-q", "-b", "main")
	commit(t, "Weigh-in, payout and labels")
	return tsc
}

// labels installs a version of the label library, as npm would.
func labels(t *testing.T, version string) {
	t.Helper()
	to := filepath.Join("node_modules", "@orchardworks", "binlabel")
	if err := os.RemoveAll(to); err != nil {
		t.Fatal(err)
	}
	if err := os.CopyFS(to, os.DirFS("../binlabel-"+version)); err != nil {
		t.Fatal(err)
	}
	lock, err := os.ReadFile("../locks/binlabel-" + version + ".json")
	if err != nil {
		t.Fatal(err)
	}
	write(t, map[string]string{"package-lock.json": string(lock)})
}

// everywhere replaces a text in all files of a kind.
func everywhere(t *testing.T, pattern, old, new string) {
	t.Helper()
	err := filepath.WalkDir(".", func(name string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		if ok, _ := filepath.Match(pattern, filepath.Base(name)); !ok {
			return nil
		}
		data, err := os.ReadFile(name)
		if err == nil && strings.Contains(string(data), old) {
			err = os.WriteFile(name, []byte(strings.ReplaceAll(string(data), old, new)), 0o644)
		}
		return err
	})
	if err != nil {
		t.Fatal(err)
	}
}

// TestPatchesOfTheDemo takes patches from the service, gives them to git apply
// and lets the real compilers judge: what they were made for is cleared, and
// nothing new comes up.
func TestPatchesOfTheDemo(t *testing.T) {
	tsc := ledger(t)
	record := func() {
		t.Helper()
		unicausa(t, "record", "--check", "build", "--", "go", "build", "-gcflags=-e", "./...")
		unicausa(t, "record", "--check", "front", "--", tsc, "--pretty", "false")
	}
	notes := filepath.Join("..", "notes")
	if err := os.CopyFS(notes, os.DirFS(filepath.Join(filepath.Dir(filepath.Dir(filepath.Dir(filepath.Dir(tsc)))), "internal/demo/notes"))); err != nil {
		t.Fatal(err)
	}
	want(t, 0, nil, "begin", "--project", "ledger", "--name", t.Name(), "--move", "orchardworks.example/steelyard=3.7.0..4.1.0", "--move", "@orchardworks/binlabel=2.4.1..3.0.2")
	for _, value := range []string{"orchardworks.example/steelyard=../notes/steelyard.md", "@orchardworks/binlabel=../notes/binlabel-3.md"} {
		want(t, 0, nil, "notes", value)
	}
	record()
	want(t, 0, nil, "baseline")
	// Before the bump the notes are held against the code already.
	want(t, 0, []string{"○ exposed", "OpenScale was renamed to Connect", "8 places in 6 files"}, "changes")
	want(t, 0, []string{"! nothing moved"}, "versions")

	everywhere(t, "go.mod", "steelyard/v3 v3.7.0", "steelyard/v4 v4.1.0")
	everywhere(t, "go.mod", "steelyard/v3 => ../steelyard-3", "steelyard/v4 => ../steelyard-4")
	everywhere(t, "*.go", "orchardworks.example/steelyard/v3", "orchardworks.example/steelyard/v4")
	everywhere(t, "package.json", "2.4.1", "3.0.2")
	labels(t, "3")
	commit(t, "Move to steelyard 4 and binlabel 3")
	record()
	want(t, 0, []string{"intended", "orchardworks.example/steelyard/v4 3.7.0 → 4.1.0", "@orchardworks/binlabel 2.4.1 → 3.0.2", "pulled in", "by @orchardworks/binlabel 3.0.2"}, "versions")
	want(t, 0, []string{"● silent risk  Scales average five samples"}, "changes", "--silent")
	before := causesOf(t)

	for _, place := range []string{"steelyard.md:15", "binlabel-3.md:5", "binlabel-3.md:21", "binlabel-3.md:45"} {
		out, err := exec.Command("git", "status", "--porcelain").Output()
		if err != nil || len(out) > 0 {
			t.Fatalf("before %s the working copy is dirty: %s%v", place, out, err)
		}
		diff := patch(t, 0, place)
		apply := exec.Command("git", "apply", "--index", "-")
		apply.Stdin = strings.NewReader(diff)
		if out, err := apply.CombinedOutput(); err != nil {
			t.Fatalf("%s: %v\n%s\n%s", place, err, out, diff)
		}
		commit(t, "Patch of "+place)
		record() // the next patch is of the tree as it is now
	}
	after := causesOf(t)
	for id, c := range after {
		if _, known := before[id]; !known {
			t.Errorf("the patches brought %s: %s", id, c.Title)
		}
	}
	for _, title := range []string{"OpenScale", "renderLabel", "Bar codes", "paper"} {
		if i := slices.IndexFunc(values(after), func(c api.Cause) bool { return strings.Contains(c.Title, title) && c.Status == "cleared" }); i < 0 {
			t.Errorf("no cleared cause tells of %s", title)
		}
	}
	want(t, 0, []string{"✓ handled      OpenScale was renamed to Connect"}, "changes")
	want(t, 1, []string{"there is no patch", "belongs to steelyard and mass.Mass to mass"}, "patch", "steelyard.md:36")
	want(t, 1, []string{"no place is certain enough", "the project declares Kilos itself"}, "patch", "steelyard.md:23")
}

// patch prints the patch of a change, and nothing else.
func patch(t *testing.T, status int, args ...string) string {
	t.Helper()
	c := here(t)
	number := current(t)
	rows, err := c.Changes(t.Context(), number)
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range rows {
		if strings.HasSuffix(fmt.Sprintf("%s:%d", r.Change.Notes, r.Change.Line), args[0]) {
			p, err := c.Patch(t.Context(), number, r.Change.ID, args[1:])
			if err != nil {
				t.Fatal(err)
			}
			return p.Diff
		}
	}
	t.Fatalf("there is no change at %s", args[0])
	return ""
}

// current is the upgrade that begin noted in the working folder.
func current(t *testing.T) int64 {
	t.Helper()
	data, err := os.ReadFile(".unicausa.json")
	if err != nil {
		t.Fatal(err)
	}
	var id int64
	_, rest, _ := strings.Cut(string(data), `"upgrade":`)
	if _, err := fmt.Sscan(strings.TrimLeft(rest, " "), &id); err != nil {
		t.Fatalf("%v in %s", err, data)
	}
	return id
}

func causesOf(t *testing.T) map[string]api.Cause {
	t.Helper()
	list, err := here(t).Causes(t.Context(), current(t))
	if err != nil {
		t.Fatal(err)
	}
	m := map[string]api.Cause{}
	for _, c := range list {
		m[c.ID] = c
	}
	return m
}

func values(m map[string]api.Cause) []api.Cause {
	var list []api.Cause
	for _, c := range m {
		list = append(list, c)
	}
	return list
}

const jarChanges = "# Jar\n\n## 5.0.0\n\n- `OpenLid` was renamed to `Open`.\n- The default of `Lid` is now round.\n- Requires Go 9.9.\n\n## 3.0.0\n\n- `OpenLid` was removed.\n"

// withTree records a run that has a source tree.
func withTree(t *testing.T, c *client.Client, upgrade int64, files map[string]string, output string) {
	t.Helper()
	facts := api.RunFacts{Check: "build", Exit: 1, StartedAt: time.Now(), Versions: map[string]string{"go": "1.26.1"}}
	r, err := c.Record(t.Context(), upgrade, facts, []client.Input{{Name: "a.log", Content: strings.NewReader(output)}}, sourcetest.Zip(t, files), nil)
	if err == nil {
		_, err = c.Processed(t.Context(), upgrade, r.Number)
	}
	if err != nil {
		t.Fatal(err)
	}
}

// row waits for what a change is, once the work that was queued is done.
func row(t *testing.T, c *client.Client, upgrade int64, line int, is func(api.ChangeRow) bool) api.ChangeRow {
	t.Helper()
	var last api.ChangeRow
	for range 100 {
		rows, err := c.Changes(t.Context(), upgrade)
		if err != nil {
			t.Fatal(err)
		}
		for _, r := range rows {
			if r.Change.Line == line {
				if last = r; is(r) {
					return r
				}
			}
		}
		time.Sleep(50 * time.Millisecond)
	}
	t.Fatalf("the change of line %d stays %+v", line, last)
	return last
}

// TestWhatPeopleSayOfChanges holds that states, corrections and added changes
// count, and survive that the notes are read again.
func TestWhatPeopleSayOfChanges(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "said of changes")
	add := func(text string) {
		t.Helper()
		if _, err := c.AddNotes(t.Context(), upgrade, api.NewNotes{Name: "jar.md", Package: "example.org/jar", Text: text}); err != nil {
			t.Fatal(err)
		}
	}
	add(jarChanges)
	code := "package a\n\nimport \"example.org/jar\"\n\nvar x = jar.OpenLid(jar.Lid)\n"
	withTree(t, c, upgrade, map[string]string{"a.go": code, "go.mod": "module a\n\nrequire example.org/jar v1.2.0\n"}, "")
	opened := row(t, c, upgrade, 5, func(r api.ChangeRow) bool { return r.State == "exposed" && r.Places == 1 })
	if r := row(t, c, upgrade, 6, func(r api.ChangeRow) bool { return r.Silent }); r.State != "exposed" || r.Change.Kind != "default" {
		t.Errorf("the default is %+v", r)
	}
	row(t, c, upgrade, 11, func(r api.ChangeRow) bool { return r.State == "exposed" })

	later := api.ChangeWordStateLater
	d, err := as(t, "Mirja").SayOfChange(t.Context(), upgrade, opened.Change.ID, api.ChangeWord{State: &later, Reason: "with the next release"})
	if err != nil || d.Row.State != "later" || d.Row.Reason != "with the next release" || d.Row.Author != "Mirja" || len(d.Words) != 1 {
		t.Errorf("it is %+v (%v)", d.Row, err)
	}
	signature := api.ChangeWordKindSignature
	pairs := []api.Rename{{From: "OpenLid", To: "Lift"}}
	if d, err = c.SayOfChange(t.Context(), upgrade, opened.Change.ID, api.ChangeWord{Kind: &signature, Renames: &pairs, Reason: "the note is wrong"}); err != nil || !d.Row.Corrected || d.Row.Change.Kind != "signature" {
		t.Errorf("corrected it is %+v (%v)", d.Row, err)
	}
	// The document is read again, longer; what was said of the entry stays.
	add(strings.Replace(jarChanges, "## 5.0.0\n\n", "## 5.0.0\n\n- `Shake` is new.\n", 1))
	r := row(t, c, upgrade, 6, func(r api.ChangeRow) bool { return r.Change.Kind == "signature" && r.Places == 1 })
	if r.State != "later" || len(r.Change.Renames) != 1 || r.Change.Renames[0].To != "Lift" || r.Change.ID != opened.Change.ID {
		t.Errorf("read again it is %+v", r)
	}
	p, err := c.Patch(t.Context(), upgrade, opened.Change.ID, nil)
	if err != nil || !strings.Contains(p.Diff, "+var x = jar.Lift(jar.Lid)") {
		t.Errorf("the patch is %q, %q (%v)", p.Diff, p.Why, err)
	}
	if p, err = c.Patch(t.Context(), upgrade, opened.Change.ID, []string{"b.go"}); err != nil || p.Diff != "" || !strings.Contains(p.Why, "none of the places") {
		t.Errorf("the patch of another file is %+v (%v)", p, err)
	}
	// Taken back, evidence and note speak again.
	auto, none := api.ChangeWordStateEmpty, api.ChangeWordKindEmpty
	if d, err = c.SayOfChange(t.Context(), upgrade, opened.Change.ID, api.ChangeWord{State: &auto, Kind: &none, Renames: &[]api.Rename{}, Reason: "it was right"}); err != nil || d.Row.State != "exposed" || d.Row.Change.Kind != "renamed" || d.Row.Change.Renames[0].To != "Open" || len(d.Words) != 3 {
		t.Errorf("taken back it is %+v with %d words (%v)", d.Row, len(d.Words), err)
	}

	added, err := c.AddChange(t.Context(), upgrade, api.NewChange{
		Title: "`jar.Lid` is square now", Kind: "behaviour", Package: "example.org/jar", Version: "5.0.0", Source: "https://example.org/issue/7",
	})
	if err != nil || !added.Row.Added || added.Row.Change.Kind != "behaviour" || !strings.Contains(strings.Join(added.Text, "\n"), "https://example.org/issue/7") {
		t.Fatalf("added it is %+v (%v)", added, err)
	}
	again, err := c.AddChange(t.Context(), upgrade, api.NewChange{Title: "`Jar.old` became `Jar.new`", Kind: "renamed", Package: "example.org/jar", Renames: []api.Rename{{From: "old", To: "new"}}})
	if err != nil || again.Row.Change.ID == added.Row.Change.ID {
		t.Errorf("a second one is %+v (%v)", again.Row.Change, err)
	}
	row(t, c, upgrade, added.Row.Change.Line, func(r api.ChangeRow) bool { return r.Change.ID == added.Row.Change.ID && r.State == "exposed" })

	v, err := c.Versions(t.Context(), upgrade)
	if err != nil || len(v.Unmet) != 1 || v.Unmet[0].Name != "Go" || v.Unmet[0].Have != "1.26.1" || v.Unmet[0].Kind != "notes" || len(v.Warnings) != 1 || !strings.Contains(v.Warnings[0], "no accepted run came with its source tree") {
		t.Errorf("what moved is %+v (%v)", v, err)
	}
}

// TestChangeProblems holds that bad requests are answered with what to do.
func TestChangeProblems(t *testing.T) {
	c := here(t)
	upgrade := begin(t, c, "change problems")
	if _, err := c.AddNotes(t.Context(), upgrade, api.NewNotes{Name: "jar.md", Text: jarChanges}); err != nil {
		t.Fatal(err)
	}
	rows, err := c.Changes(t.Context(), upgrade)
	if err != nil || len(rows) != 4 {
		t.Fatalf("%d changes (%v)", len(rows), err)
	}
	base := fmt.Sprintf("/api/v1/upgrades/%d/changes", upgrade)
	one := base + "/" + rows[0].Change.ID
	for _, test := range []struct {
		method, path, body string
		status             int
		part               string
	}{
		{"GET", base + "/none", "", 404, "change none: not found"},
		{"GET", base + "/none/patch", "", 404, "change none: not found"},
		{"PUT", base + "/none", `{"state":"later","reason":"x"}`, 404, "change none: not found"},
		{"PUT", one, `{"state":"later","reason":"  "}`, 400, "reason is empty"},
		{"PUT", one, `{"reason":"x"}`, 400, "nothing is said"},
		{"PUT", one, `{"state":"done","reason":"x"}`, 400, "give not-used, exposed, handled, later"},
		{"PUT", one, `{"kind":"odd","reason":"x"}`, 400, "kind is"},
		{"PUT", one, `{"renames":[{"from":"a","to":"a"}],"reason":"x"}`, 400, "give the old and the new one"},
		{"POST", base, `{"title":" ","kind":"removed"}`, 400, "title is empty"},
		{"POST", base, `{"title":"x","kind":"odd"}`, 400, "kind is"},
		{"POST", base, `{"title":"x","kind":"removed","source":"over there"}`, 400, "give the address"},
		{"POST", base, `{"title":"x","kind":"renamed","renames":[{"from":"","to":"b"}]}`, 400, "give the old and the new one"},
		{"GET", "/api/v1/upgrades/999999/versions", "", 404, "upgrade 999999: not found"},
		{"GET", "/api/v1/upgrades/999999/changes", "", 404, "upgrade 999999: not found"},
	} {
		if status, _, text := call(t, test.method, test.path, "application/json", test.body); status != test.status || !strings.Contains(text, test.part) {
			t.Errorf("%s %s %s: got %d %s, want %d with %q", test.method, test.path, test.body, status, text, test.status, test.part)
		}
	}
	// Without a source tree nothing can be said of the code, and it is said.
	if v, err := c.Versions(t.Context(), upgrade); err != nil || len(v.Warnings) != 1 || !strings.Contains(v.Warnings[0], "no run came with its source tree") {
		t.Errorf("what moved is %+v (%v)", v, err)
	}
	if p, err := c.Patch(t.Context(), upgrade, rows[0].Change.ID, nil); err != nil || !strings.Contains(p.Why, "no run came with its source tree") || p.Diff != "" {
		t.Errorf("the patch is %+v (%v)", p, err)
	}
	t.Chdir(t.TempDir())
	number := fmt.Sprint(upgrade)
	t.Setenv("UNICAUSA_SERVER", server)
	for _, test := range []struct {
		args []string
		part string
	}{
		{[]string{"change", "--upgrade", number, "jar.md:99"}, "there is no change at jar.md:99"},
		{[]string{"change", "--upgrade", number}, "this wants 1 argument"},
		{[]string{"changes", "--upgrade", number, "--state", "odd"}, "--state is"},
		{[]string{"mark", "--upgrade", number, "--reason", "x", "--rename", "a", "jar.md:5"}, "give OLD=NEW"},
		{[]string{"mark", "--upgrade", number, "--reason", "x", "jar.md:5"}, "nothing is said"},
		{[]string{"unlisted", "--upgrade", number, "--kind", "removed"}, "this wants a title"},
		{[]string{"notes", "--history", "v1"}, "give [PACKAGE=]FROM..TO"},
		{[]string{"notes", "--history", "v1..v2"}, "cannot read the history"},
		{[]string{"notes", "--print", "."}, "has no notes in it"},
	} {
		want(t, 2, []string{test.part}, test.args...)
	}
}

// TestNotesWithoutAService prints what is read of files, of a folder and of a
// range of commits.
func TestNotesWithoutAService(t *testing.T) {
	t.Chdir(t.TempDir())
	t.Setenv("UNICAUSA_SERVER", "http://127.0.0.1:9")
	write(t, map[string]string{
		"notes/jar.md": jarChanges, "notes/lid.rst": "5.1\n~~~\n\n* ``lid`` is gone\n", "notes/press.html": "<h2>Version 5.2</h2><ul><li><code>a_b</code> is now <code>c_d</code></ul>", "notes/logo.png": "\x89PNG",
	})
	want(t, 0, []string{"renamed      5.0.0    OpenLid was renamed to Open", "OpenLid → Open", "asks for Go >=9.9", "removed      5.1      lid is gone", "a_b → c_d", "jar.md:11"}, "notes", "--print", "example.org/jar=notes")
	printed := want(t, 0, []string{`"version": "5.0.0"`, `"from": "OpenLid"`}, "notes", "--print", "--format", "json", "notes/jar.md")
	if strings.Contains(printed, "\\u0060") || !strings.HasPrefix(printed, "[") {
		t.Errorf("the JSON is\n%s", printed)
	}
	run(t, "git", "init", "-q")
	for _, message := range []string{"feat: first", "feat(lid)!: `Lid` is round now", "fix: `Open` waits", "docs: a word"} {
		write(t, map[string]string{"a": message})
		commit(t, message)
		if message == "feat: first" {
			run(t, "git", "tag", "v1.0.0")
		}
	}
	run(t, "git", "tag", "v2.0.0")
	printed = want(t, 0, []string{"2.0.0", "Lid is round now", "fixed", "Open waits"}, "notes", "--print", "--history", "example.org/jar=v1.0.0..v2.0.0")
	if strings.Contains(printed, "a word") || strings.Contains(printed, "first") {
		t.Errorf("it prints\n%s", printed)
	}
	want(t, 2, []string{"there are no commits in that range"}, "notes", "--print", "--history", "v2.0.0..v2.0.0")
}
