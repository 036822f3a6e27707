package read

import (
	"io"
	"sort"

	"unicausa/internal/core/symptom"
)

// sink takes what the readers find in one input.
type sink struct {
	result  Result
	tools   map[string]bool
	blocked map[string]bool
	cut     map[string]bool
	done    map[string]bool
	lines   map[int]bool // lines claimed in a document
	base    int          // lines that stand above a document
}

// add records a symptom that stands at the lines from to end.
func (o *sink) add(s symptom.Symptom, from, end int) {
	s.At = []symptom.At{{Input: o.result.Name, Line: from, End: end}}
	s.Count = 1
	if s.Level == "" {
		s.Level = "error"
	}
	o.tool(s.Tool)
	o.result.Symptoms = append(o.result.Symptoms, s)
}

func (o *sink) test(t symptom.Test) { o.result.Tests = append(o.result.Tests, t) }

func (o *sink) tool(name string) { mark(&o.tools, name) }

// block says that a unit could not be built, loaded or started.
func (o *sink) block(unit string) { mark(&o.blocked, unit) }

// cutOff says that the tool stopped listing a unit's diagnostics.
func (o *sink) cutOff(unit string) { mark(&o.cut, unit) }

// finished says that a unit ran to its end.
func (o *sink) finished(unit string) { mark(&o.done, unit) }

// state records a total that the tool printed; read is what was read of it.
func (o *sink) state(line int, what string, count, read int) {
	o.result.Stated = append(o.result.Stated, Stated{Line: line, What: what, Count: count, Read: read})
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

// document reads the rest of the input as one document.
func (o *sink) document(d *document, r io.Reader) error {
	o.result.Format = d.format
	lines := &lineCounter{r: r}
	err := d.read(lines, o)
	if _, rest := io.Copy(io.Discard, lines); err == nil {
		err = rest
	}
	o.result.Lines += lines.count()
	o.result.Account.Symptom += len(o.lines)
	o.result.Account.Noise += lines.count() - len(o.lines)
	return err
}

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
