// Package read turns what a tool printed into symptoms and test outcomes, and
// accounts for every line of it.
//
// Content decides the format. A document (XML) is read whole by one reader; any
// other input is a stream of lines that a router offers to the line readers.
// A reader is one file, which registers itself; nothing else names it.
package read

import (
	"bufio"
	"bytes"
	"fmt"
	"io"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/unicode"
	"golang.org/x/text/transform"

	"unicausa/internal/core/guard"
	"unicausa/internal/core/symptom"
)

// Formats of an input, as Result.Format gives them.
const (
	FormatText   = "text"
	FormatJSON   = "json-lines"
	FormatXML    = "xml"
	FormatBinary = "binary"
	FormatEmpty  = "empty"
)

// Result is all that one input says. Bytes and Lines count the whole input;
// the lines in Account sum up to Lines.
type Result struct {
	Name     string
	Format   string
	Tools    []string
	Lines    int
	Bytes    int64
	Symptoms []symptom.Symptom
	Tests    []symptom.Test
	Reach    Reach
	Versions map[string]string // tools and packages to their versions, as the output tells them
	Stated   []Stated          // at most 10,000
	Tallies  []Tally           // the summaries of its test runners, in order
	Unread   []Unread
	Account  Account
	Tail     []string // the last lines that are not blank, at most 8
	TailEnd  int      // the line that the last of them is
	Problem  string   // why the input could not be read to its end, with what to do
}

// Stated is a total that the tool itself printed, beside what was read.
type Stated struct {
	Line  int    `json:"line"`
	What  string `json:"what"`
	Count int    `json:"count"`
	Read  int    `json:"read"`
}

// Unread is a line that looks like trouble and that no reader understood.
type Unread struct {
	Line int    `json:"line"`
	Text string `json:"text"`
}

// Account says what became of each line.
type Account struct {
	Symptom int // part of a symptom or of a test's outcome
	Noise   int // known, and of no interest
	Plain   int // claimed by nobody, no sign of trouble
	Unread  int // claimed by nobody, looks like trouble
}

// Reach says how far the tool got: what it could not have shown is not absent.
type Reach struct {
	Blocked []string // units (packages, suites) that could not be built, loaded or started
	Cut     []string // units whose list of diagnostics the tool broke off
	Done    []string // units that ran to their end
}

// document is a reader of a whole document, of XML or JSON. It may stand
// behind other lines, and others may follow it. Head tells it by its first
// line and what stands behind that; read stops at the document's end.
type document struct {
	format string
	basis  symptom.Basis
	head   func(line, ahead []byte) bool
	read   func(in *text, out *sink) error
}

// stream is a reader of lines. Marks are texts of which every line that can begin
// something of its own holds one, in the way that how says: as they are written, unless a
// reader says otherwise. One that goes by shape takes what no reader that knows a tool wants.
type stream struct {
	name  string
	shape bool
	marks []string
	how   how
	basis symptom.Basis
	open  func() lineReader
}

// headSize is how many bytes decide on the format.
const headSize = 8 << 10

// All reads one input to its end. Content that cannot be understood is no
// error: the result says so in Problem and Unread. The error is r's own.
func All(name string, r io.Reader) (Result, error) { return ForProject(Project{}, name, r) }

// Project is what is known of the project whose output is read. The zero value
// knows nothing.
type Project struct {
	Patterns *Patterns              // its own, which come before every reader; nil for none
	Holds    func(file string) bool // whether its source tree holds a file; nil without a tree
}

// ForProject is All with what is known of a project. Where a reader panics, the error
// is a *guard.Error that names the input.
func ForProject(project Project, name string, r io.Reader) (result Result, err error) {
	defer guard.Catch(name, &err)
	count := &counter{r: r}
	in := bufio.NewReaderSize(count, 64<<10)
	out := newSink(name)
	out.project = project
	head, err := in.Peek(headSize)
	if err != nil && err != io.EOF {
		return out.result, fmt.Errorf("reading %s: %w", name, err)
	}
	var text io.Reader = in
	if marked(head) { // UTF-16, or UTF-8 with a mark
		decoded := bufio.NewReaderSize(transform.NewReader(in, unicode.BOMOverride(encoding.Nop.NewDecoder())), 64<<10)
		head, _ = decoded.Peek(headSize)
		text = decoded
	}
	switch {
	case len(head) == 0:
		out.result.Format = FormatEmpty
	case bytes.IndexByte(head, 0) >= 0:
		out.result.Format = FormatBinary
		out.result.Problem = "this is a binary file: record the text that the tool printed"
		_, err = io.Copy(io.Discard, text)
	default:
		err = route(text, out)
	}
	out.result.Bytes, out.result.Lines = count.n, out.base
	if err != nil && err != io.EOF {
		return out.result, fmt.Errorf("reading %s: %w", name, err)
	}
	out.finish()
	return out.result, nil
}

// marked reports whether an input begins with a byte order mark.
func marked(head []byte) bool {
	return bytes.HasPrefix(head, []byte("\xfe\xff")) || bytes.HasPrefix(head, []byte("\xff\xfe")) || bytes.HasPrefix(head, []byte("\xef\xbb\xbf"))
}

// documentFor is the reader of the document that begins with a line, or nil.
func documentFor(line, ahead []byte) *document {
	for len(line) > 0 && (line[0] == ' ' || line[0] == '\t') {
		line = line[1:]
	}
	if len(line) == 0 || line[0] != '<' && line[0] != '{' && line[0] != '[' {
		return nil
	}
	ahead = ahead[:min(len(ahead), headSize)]
	for i := range documents {
		if documents[i].head(line, ahead) {
			return &documents[i]
		}
	}
	return nil
}

// counter counts the bytes that pass.
type counter struct {
	r io.Reader
	n int64
}

func (c *counter) Read(p []byte) (int, error) {
	n, err := c.r.Read(p)
	c.n += int64(n)
	return n, err
}
