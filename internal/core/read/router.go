package read

import (
	"bytes"
	"io"
	"math/bits"
	"strings"
	"sync"
	"unicode/utf8"
)

// Line is one line of an input: valid UTF-8, without its ending, without
// terminal control sequences, of what carriage returns overwrote only the last,
// and without what a wrapper put before it. Number is 1-based.
type Line struct {
	Number  int
	Text    string
	Stamped bool // a timestamp stood before it
	c       *chunk
	index   int
	marks   uint64 // the readers whose marks it has
	marked  bool   // the reader that it is offered to is one of them
}

// above is the text of the n-th line before this one, below that of the n-th
// behind it; "" where there is none.
func (l Line) above(n int) string { return l.c.line(l.index - n) }
func (l Line) below(n int) string { return l.c.line(l.index + n) }

// verdict is what a reader did with a line.
type verdict uint8

const (
	pass  verdict = iota // not mine
	noise                // mine, known, and of no interest
	took                 // part of a symptom or an outcome
	more                 // the same, and the next line is offered to me first
)

// lineReader reads one tool's form out of a stream of lines. It keeps an
// unfinished diagnostic until a line or the end shows that it is complete.
type lineReader interface {
	line(l Line, out *sink) verdict
	close(out *sink)
}

// A listener is a lineReader that at times wants lines without its marks too:
// inside a section whose lines only their place tells.
type listener interface{ listening() bool }

// maxLine is how much of a line is read; the rest is passed over. A longer
// line is a minified file or a dump, and its head says what it is.
const maxLine = 1 << 20

// lane is one of the outputs that a wrapper has woven into a stream, with
// readers of its own: what "web | " says does not interrupt what "api | " says.
type lane struct {
	readers []lineReader
	hear    []listener // the same, where they listen at times
	holder  int        // the reader of an unfinished diagnostic, -1 for none
	awake   uint64     // readers that listen
	module  string     // that the output is of, where a prefix or a header says so
}

func newLane() *lane {
	a := &lane{holder: -1}
	for _, s := range streams {
		reader := s.open()
		a.readers = append(a.readers, reader)
		hears, _ := reader.(listener)
		a.hear = append(a.hear, hears)
	}
	return a
}

// line offers a line to the reader that holds an unfinished diagnostic, then
// to those whose marks it has or that listen, in their order.
func (a *lane) line(l Line, out *sink) verdict {
	out.module = a.module
	v := a.read(l, out)
	a.module = out.module
	return v
}

func (a *lane) read(l Line, out *sink) verdict {
	held, want := a.holder, l.marks|a.awake
	a.holder = -1
	if held < 0 {
		return a.first(want, l, out)
	}
	if s, ok := a.readers[held].(shapeReader); ok && !s.wants() && l.Text != "" && l.Text[0] != ' ' && l.Text[0] != '\t' {
		// A shape's detail is a guess: who knows the tool comes first.
		if v := a.first(want&knowing(), l, out); v != pass {
			out.basis = streams[held].basis
			s.interrupt(out)
			return v
		}
		want &^= knowing()
	}
	if v := a.offer(held, l, out); v != pass {
		return v
	}
	return a.first(want&^(1<<held), l, out)
}

// first offers a line to readers in their order, until one wants it.
func (a *lane) first(want uint64, l Line, out *sink) verdict {
	for ; want != 0; want &= want - 1 {
		if v := a.offer(bits.TrailingZeros64(want), l, out); v != pass {
			return v
		}
	}
	return pass
}

// shapeReader is a lineReader that goes by shape. Interrupt ends what it holds
// when another reader takes the line behind; wants tells that the next line is
// the message of what it holds, whatever it looks like.
type shapeReader interface {
	lineReader
	interrupt(out *sink)
	wants() bool
}

// knowing is the set of readers that know a tool.
var knowing = sync.OnceValue(func() (set uint64) {
	for n, s := range streams {
		if !s.shape {
			set |= 1 << n
		}
	}
	return set
})

func (a *lane) offer(n int, l Line, out *sink) verdict {
	l.marked = l.marks&(1<<n) != 0
	out.basis = streams[n].basis
	v := a.readers[n].line(l, out)
	if v == more {
		a.holder = n
	}
	if r := a.hear[n]; r != nil {
		if a.awake &^= 1 << n; r.listening() {
			a.awake |= 1 << n
		}
	}
	return v
}

func (a *lane) active() bool { return a.holder >= 0 || a.awake != 0 }

func (a *lane) close(out *sink) {
	out.module = a.module
	for n, r := range a.readers {
		out.basis = streams[n].basis
		r.close(out)
	}
}

// router takes the lines of one stream, peels off what wrappers put before
// them, and keeps the account.
type router struct {
	out    *sink
	main   *lane
	lanes  map[string]*lane // by prefix
	order  []*lane
	recent *lane // the lane of the last prefixed line
	busy   bool  // some lane is active
}

// mostLanes bounds the prefixes that are told apart; further ones share one.
const mostLanes = 64

func newRouter(out *sink) *router {
	main := newLane()
	return &router{out: out, main: main, lanes: map[string]*lane{}, order: []*lane{main}}
}

// take takes a line of a chunk.
func (r *router) take(number int, c *chunk, index int) {
	s := &c.lines[index]
	account := &r.out.result.Account
	if r.out.project.Patterns != nil && r.own(number, c.line(index)) {
		return
	}
	mark := tallyMark()
	if s.marks&mark != 0 && int(s.to-s.from) <= 2*maxTally {
		r.out.tally(number, c.line(index))
	}
	marks := s.marks &^ mark
	if marks == 0 && !r.busy {
		account.Plain++
		return
	}
	l := Line{Number: number, Text: c.line(index), Stamped: s.stamped, c: c, index: index, marks: marks}
	switch r.route(l, c.prefix(index)) {
	case pass:
		if marks != 0 && troubled(l.Text) {
			account.Unread++
			r.out.unread(number, l.Text)
		} else {
			account.Plain++
		}
	case noise:
		account.Noise++
		r.out.claimed = number
	default:
		account.Symptom++
		r.out.claimed = number
	}
	r.busy = false
	for _, a := range r.order {
		r.busy = r.busy || a.active()
	}
}

// own reads a line by the project's own patterns.
func (r *router) own(number int, text string) bool {
	s, _, ok := r.out.project.Patterns.Symptom(text)
	if ok {
		r.out.add(s, number, number)
		r.out.result.Account.Symptom++
	}
	return ok
}

// route gives a line to its lane. A line without prefix that the main lane
// does not want may go on with what the last prefix began.
func (r *router) route(l Line, prefix string) verdict {
	if prefix != "" {
		r.recent = r.lane(prefix)
		return r.recent.line(l, r.out)
	}
	v := r.main.line(l, r.out)
	if v == pass && r.recent != nil && r.recent.holder >= 0 {
		return r.recent.line(l, r.out)
	}
	return v
}

func (r *router) lane(prefix string) *lane {
	if len(r.lanes) == mostLanes && r.lanes[prefix] == nil {
		prefix = ""
	}
	a := r.lanes[prefix]
	if a == nil {
		a = newLane()
		a.module = moduleOf(prefix)
		r.lanes[prefix] = a
		r.order = append(r.order, a)
	}
	return a
}

// moduleOf is the module in a wrapper's prefix: "[web]", "web:build:", "web-1 |".
func moduleOf(prefix string) string {
	name, _, _ := strings.Cut(strings.Trim(prefix, "[]| "), ":")
	if replica := strings.TrimRight(name, "0123456789"); strings.HasSuffix(replica, "-") {
		name = strings.TrimSuffix(replica, "-")
	}
	return name
}

func (r *router) close() {
	for _, a := range r.order {
		a.close(r.out)
	}
}

// quotes reports whether a line stands indented within an unfinished diagnostic:
// markup there is what a program printed, not a document.
func (r *router) quotes(line []byte) bool {
	return r.main.holder >= 0 && len(line) > 0 && (line[0] == ' ' || line[0] == '\t')
}

// search looks for the documents in a stream. A look reads some
// way ahead: where many lines look like the beginning of one and are none, looks are given up,
// so that they cost no more than some readings of the whole.
type search struct{ read, spent int }

// What looks may cost in vain, in bytes: at first, and for each byte that was read.
const (
	freeLooks = 256 << 20
	dearLooks = 4
)

func (s *search) at(line, ahead []byte) *document {
	s.read += len(line) + 1
	trimmed := bytes.TrimLeft(line, " \t")
	if len(trimmed) == 0 || bytes.IndexByte([]byte("{[<"), trimmed[0]) < 0 {
		return documentFor(line, ahead)
	}
	if s.spent > freeLooks+dearLooks*s.read {
		return nil
	}
	d := documentFor(line, ahead)
	if d == nil {
		s.spent += min(len(ahead), headSize)
	}
	return d
}

// route reads a stream of lines, in which documents may stand.
func route(in io.Reader, out *sink) error {
	q := newChunkQueue(in, streamMarks())
	defer q.close()
	r := newRouter(out)
	var sought search
	for c := q.after(nil); c != nil; c = q.after(c) {
		q.after(c) // its last line may look at the first behind it
		for i := 0; i < len(c.lines); i++ {
			if i == 0 && c.mid {
				continue
			}
			s := c.lines[i]
			if d := sought.at(c.data[s.from:s.to], c.data[s.from:]); d != nil && !r.quotes(c.data[s.from:s.to]) {
				r.close()
				at := &text{queue: q, c: c, at: int(s.from)}
				if err := out.document(d, at); err != nil {
					return err
				}
				c = at.c
				i = c.lineAt(at.at, q.marks) - 1
				r = newRouter(out)
				continue
			}
			out.base++
			r.take(out.base, c, i)
		}
		if c.err != nil {
			out.tail(c)
		}
		if c.err != nil && c.err != io.EOF {
			return c.err
		}
	}
	r.close()
	return nil
}

// within reads text that stands inside of a document, from a line of the input on.
func within(text string, line int, out *sink) {
	account, unread := out.result.Account, len(out.result.Unread)
	passedOn(text, line, out)
	out.result.Account = account // the document accounts for its lines
	out.result.Unread = out.result.Unread[:unread]
}

// passedOn reads what a producer passes on in lines of its own, and accounts
// for them.
func passedOn(text string, line int, out *sink) {
	basis := out.basis
	out.inside = true
	c := &chunk{data: []byte(text)}
	c.search(streamMarks())
	r := newRouter(out)
	for i := range c.lines {
		r.take(line+i, c, i)
	}
	r.close()
	out.inside, out.basis = false, basis
}

// plain makes a line readable: valid UTF-8, and what a terminal would show
// after carriage returns.
func plain(b []byte) string {
	if bytes.IndexByte(b, '\r') >= 0 {
		b = bytes.TrimRight(b, "\r")
		b = b[bytes.LastIndexByte(b, '\r')+1:]
	}
	if utf8.Valid(b) {
		return string(b)
	}
	return strings.ToValidUTF8(string(b), "\uFFFD")
}

// stripEscapes removes the control sequences of ECMA-48: CSI (ESC [ … final
// byte), OSC (ESC ] … BEL or ESC \) and two-byte escapes.
func stripEscapes(s []byte) []byte {
	b := make([]byte, 0, len(s))
	for i := 0; i < len(s); i++ {
		if s[i] != 0x1b {
			b = append(b, s[i])
			continue
		}
		i++
		if i >= len(s) {
			break
		}
		switch s[i] {
		case '[':
			for i++; i < len(s) && (s[i] < 0x40 || s[i] > 0x7e); i++ {
			}
		case ']':
			for i++; i < len(s) && s[i] != 0x07 && s[i] != 0x1b; i++ {
			}
			if i < len(s) && s[i] == 0x1b {
				i++
			}
		}
	}
	return b
}

// shorten keeps a line's head for a listing.
func shorten(s string) string {
	const most = 500
	if len(s) <= most {
		return s
	}
	return strings.ToValidUTF8(s[:most], "") + "…"
}

// tallyMark is the bit of what may be a summary, behind those of the readers.
func tallyMark() uint64 { return 1 << len(streams) }

// streamMarks is the automaton over the marks of all stream readers.
var streamMarks = sync.OnceValue(func() *marks {
	if len(streams) > 63 {
		panic("read: a mask has room for 63 stream readers and the summaries of test runners")
	}
	lists := make([]markList, len(streams), len(streams)+1)
	for i, s := range streams {
		lists[i] = markList{texts: s.marks, how: s.how}
	}
	return newMarks(append(lists, markList{texts: tallyMarks, how: aWord}))
})
