package read

import (
	"io"
	"path"
	"slices"
	"sort"
	"strings"

	"unicausa/internal/core/symptom"
)

// sink takes what the readers find in one input.
type sink struct {
	result  Result
	seen    map[sighting]int // to the symptom in the result
	tools   map[string]bool
	blocked map[string]bool
	cut     map[string]bool
	done    map[string]bool
	endings endings      // of the tests in the result
	lines   map[int]bool // lines claimed in a document
	project Project
	claimed int           // the last line that a reader took
	added   int           // symptoms, each as often as it was seen
	places  int           // of these, beside each symptom's first
	base    int           // lines that stand above what is being read
	folder  string        // that make has entered
	module  string        // that the lines at hand are of
	test    string        // the test whose output is being read
	unit    string        // and its suite
	echo    string        // words of the failure that has been told already
	inside  bool          // a document: what its tests print is not guessed at
	basis   symptom.Basis // of the reader at work
	tallied int           // the last line that went into a tally
}

func newSink(name string) *sink {
	return &sink{result: Result{Name: name, Format: FormatText}, seen: map[sighting]int{}}
}

// sighting is what makes two diagnostics of one input the same one, seen twice.
type sighting struct {
	kind                            symptom.Kind
	code, unit, test, file, message string
	line, column                    int
}

// add records a symptom that stands at the lines from to end. One that was
// seen before gets a second place.
func (o *sink) add(s symptom.Symptom, from, end int) {
	if s.Test == "" && o.test != "" && s.Kind == symptom.Crash {
		s.Test, s.Unit = o.test, o.unit
	}
	if s.Basis == "" {
		s.Basis = o.basis
	}
	if o.inside && s.Basis == symptom.ByGuess {
		o.result.Account.Symptom--
		o.result.Account.Unread++
		o.unread(from, s.Message)
		return
	}
	if o.echo != "" && s.Kind != symptom.TestFailure && s.Level == "error" && strings.Contains(o.echo, s.Message) {
		return
	}
	if o.folder != "" && s.File != "" && !path.IsAbs(s.File) {
		s.File = path.Join(o.folder, s.File)
	}
	if s.Unit == "" && s.Test == "" && s.File != "" && !path.IsAbs(s.File) {
		s.Unit = o.module
	}
	if s.Level == "" {
		s.Level = "error"
	}
	s.Message, s.Detail = cutTo(s.Message, mostMessage), cutTo(s.Detail, mostDetail)
	o.tool(s.Tool)
	o.added++
	at := symptom.At{Input: o.result.Name, Line: from, End: end}
	key := sighting{s.Kind, s.Code, s.Unit, s.Test, s.File, s.Message, s.Line, s.Column}
	if i, ok := o.seen[key]; ok {
		old := &o.result.Symptoms[i]
		if old.Count++; len(old.At) < fewPlaces || len(old.At) < mostPlaces && o.places < allPlaces {
			o.places++
			old.At = append(old.At, at)
			old.AddFrames(s.Frames)
		}
		return
	}
	o.seen[key] = len(o.result.Symptoms)
	if len(s.Refs) == 0 && s.Test == "" {
		s.Refs = anyRefs(s.Message)
	}
	facts(&s)
	s.At, s.Count, s.Order = []symptom.At{at}, 1, len(o.result.Symptoms)
	o.result.Symptoms = append(o.result.Symptoms, s)
}

// Bounds on the words of a symptom, in bytes: what is longer is data that was printed.
const (
	mostMessage = 8 << 10
	mostDetail  = 64 << 10
)

// cutTo is a text, or its first bytes.
func cutTo(text string, most int) string {
	if len(text) <= most {
		return text
	}
	return strings.ToValidUTF8(text[:most], "")
}

// testOutcome records how a test ended; what is told twice is one.
func (o *sink) testOutcome(t symptom.Test) {
	if !o.endings.add(o.result.Tests, t) {
		return
	}
	if n := len(o.result.Tests); n == cap(o.result.Tests) {
		o.result.Tests = slices.Grow(o.result.Tests, max(n, 16))
	}
	o.result.Tests = append(o.result.Tests, t)
}

// Bounds on the places that are kept from one input; all are counted. Once there are very
// many, a symptom that has a few keeps no more.
const (
	mostPlaces = 1000    // of one symptom
	allPlaces  = 100_000 // of all
	fewPlaces  = 2
)

func (o *sink) tool(name string) { mark(&o.tools, name) }

// version records what the output says of the version of a tool or package;
// of several the last holds.
func (o *sink) version(name, version string) {
	if o.result.Versions == nil {
		o.result.Versions = map[string]string{}
	}
	o.result.Versions[name] = version
}

// block says that a unit could not be built, loaded or started.
func (o *sink) block(unit string) { mark(&o.blocked, unit) }

// cutOff says that the tool stopped listing a unit's diagnostics.
func (o *sink) cutOff(unit string) { mark(&o.cut, unit) }

// finished says that a unit ran to its end.
func (o *sink) finished(unit string) { mark(&o.done, unit) }

// mostStated bounds the totals that are kept. Of what is beyond, those that do
// not agree with what was read are kept up to ten times as many.
const mostStated = 1000

// state records a total that the tool printed; read is what was read of it.
func (o *sink) state(line int, what string, count, read int) {
	most := mostStated
	if count != read {
		most *= 10
	}
	if len(o.result.Stated) >= most {
		return
	}
	o.result.Stated = append(o.result.Stated, Stated{Line: line, What: what, Count: count, Read: read})
}

// mostUnread bounds the unread lines that are kept; all are counted.
const mostUnread = 10_000

func (o *sink) unread(line int, text string) {
	if len(o.result.Unread) < mostUnread {
		o.result.Unread = append(o.result.Unread, Unread{Line: line, Text: shorten(text)})
	}
}

// claim says that the lines from to end of a document belong to a symptom.
func (o *sink) claim(from, end int) {
	if o.lines == nil {
		o.lines = map[int]bool{}
	}
	for n := from; n <= end; n++ {
		o.lines[n] = true
	}
}

// document reads one document that begins in the line behind base.
func (o *sink) document(d *document, in *text) error {
	o.result.Format = d.format
	in.line = o.base + 1
	claimed := len(o.lines)
	o.basis = d.basis
	if err := d.read(in, o); err != nil && err != io.EOF {
		return err
	}
	lines := in.close() - o.base
	claimed = len(o.lines) - claimed
	o.result.Account.Symptom += claimed
	o.result.Account.Noise += lines - claimed
	o.base += lines
	return nil
}

// known reports whether a path is a file of the project's tree.
func (o *sink) known(file string) bool { return o.project.Holds != nil && o.project.Holds(file) }

func (o *sink) finish() {
	o.result.Tools = sorted(o.tools)
	o.result.Reach = Reach{Blocked: sorted(o.blocked), Cut: sorted(o.cut), Done: sorted(o.done)}
}

func mark(set *map[string]bool, name string) {
	if name == "" {
		return
	}
	if *set == nil {
		*set = map[string]bool{}
	}
	(*set)[name] = true
}

func sorted(set map[string]bool) []string {
	names := make([]string, 0, len(set))
	for name := range set {
		names = append(names, name)
	}
	sort.Strings(names)
	return names
}
