package cluster

import (
	"strings"
	"testing"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// TestHandlerOf holds to which code of a project a request comes, in the ways in
// which frameworks bind the two.
func TestHandlerOf(t *testing.T) {
	const project = `
-- src/app.js --
app.get('/jars', (req, res) => {
  res.json(all());
});
app.get('/jars/:id', (req, res) => {
  res.json(one(req.params.id));
});
app.post('/jars', fill);
app.get('/jars/lost', (req, res) => res.status(404).end());
-- src/fill.js --
function fill(req, res) {
  res.json(put(req.body));
}
-- main.go --
package main

func main() {
	mux.HandleFunc("/shelves/{number}", shelf)
	r.Route("/labels", func(r Router) {
		r.Get("/blue", blue)
	})
}

func shelf(w Writer, r *Request) {
	write(w, r)
}
-- Lids.java --
class Lids {
    @GetMapping("/lids/{size}")
    String lid(int size) {
        return find(size);
    }
}
-- views.py --
urlpatterns = [
    path("twine/<int:length>/", twine),
]

def twine(request, length):
    return cut(length)
-- test/app.test.js --
app.get('/never', (req, res) => {
  res.end();
});
`
	tree, err := source.NewTree(files(project))
	if err != nil {
		t.Fatal(err)
	}
	ctx := &Context{}
	for _, test := range []struct {
		method, path, file string
		line               int
	}{
		{"GET", "/jars", "src/app.js", 1}, {"GET", "/jars/12", "src/app.js", 4}, {"GET", "/jars/lost", "src/app.js", 8}, {"GET", "/jars?size=2", "src/app.js", 1},
		{"POST", "/jars", "src/fill.js", 1}, {"GET", "/api/v1/jars/12", "src/app.js", 4}, {"", "/shelves/3", "main.go", 10}, {"GET", "/lids/9", "Lids.java", 3},
		{"GET", "/twine/12/", "views.py", 5}, {"DELETE", "/jars/12", "", 0}, {"GET", "/never", "", 0}, {"GET", "/12", "", 0}, {"GET", "/", "", 0},
	} {
		h := ctx.handlerOf(tree, test.method, test.path)
		switch {
		case h == nil && test.file != "":
			t.Errorf("%s %s comes to nothing, want %s:%d", test.method, test.path, test.file, test.line)
		case h != nil && (h.file != test.file || h.line != test.line):
			t.Errorf("%s %s comes to %s:%d, want %s:%d", test.method, test.path, h.file, h.line, test.file, test.line)
		}
	}
}

// TestGroupOfRequests holds that tests which ask for one route go with what fails in
// its handler, and those of others do not.
func TestGroupOfRequests(t *testing.T) {
	const project = `
-- src/app.js --
app.get('/jars/:id', (req, res) => {
  const jar = find(req.params.id);
  res.json(jar);
});
app.get('/lids/:id', (req, res) => {
  const lid = find(req.params.id);
  res.json(lid);
});
-- test/app.test.js --
it('shows a jar', async () => {
  const answer = await get('/jars/12');
  equal(answer.status, 200);
});
it('shows another jar', async () => {
  const answer = await get('/jars/13');
  equal(answer.status, 200);
});
it('shows a lid', async () => {
  const answer = await get('/lids/3');
  equal(answer.status, 200);
});
`
	log := mocha("shows a jar | "+unequal("500", "200")+" | Context.<anonymous> test/app.test.js:3", "shows another jar | "+unequal("500", "200")+" | Context.<anonymous> test/app.test.js:7",
		"shows a lid | "+unequal("404", "200")+" | Context.<anonymous> test/app.test.js:11")
	ctx := &Context{Subjects: []string{"jar"}, Names: setOf("")}
	if got, want := drawn(Group(t.Context(), gather(t, log, files(project), ctx), ctx)), ": shows a jar shows another jar\n: shows a lid"; got != want {
		t.Errorf("got\n%s\nwant\n%s", got, want)
	}
	crash := symptom.Symptom{ID: "crash", Kind: symptom.Crash, State: symptom.New, Phase: symptom.PhaseRun, Message: "TypeError: no jar is found here", Frames: []symptom.Frame{{File: "src/app.js", Line: 2, Own: true}}, File: "src/app.js", Line: 2}
	tree, err := source.NewTree(files(project))
	if err != nil {
		t.Fatal(err)
	}
	evidence := append(gather(t, log, files(project), ctx), Gather(&crash, tree, ctx))
	if got := drawn(Group(t.Context(), evidence, ctx)); !strings.Contains(got, "app.js:2 shows a jar shows another jar") {
		t.Errorf("the crash in the handler is not with its tests:\n%s", got)
	}
}
