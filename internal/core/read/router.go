package read

import (
	"bytes"
	"io"
	"math/bits"
	"strings"
	"sync"
)

// Line is one line of an input: valid UTF-8, without its ending, without
// terminal control sequences, of what carriage returns overwrote only the last,
// and without what a wrapper put before it. Number is 1-based.
type Line struct {
	Number  int
	Text    string
	Stamped bool   // a timestamp stood before it
	above   []byte // the line before, as it stands in the input
	below   []byte // and the line behind it, as far as it is known
}

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
	holder  int    // the reader of an unfinished diagnostic, -1 for none
	awake   uint64 // readers that listen
}

func newLane() *lane {
	a := &lane{holder: -1}
	for _, s := range streams {
		a.readers = append(a.readers, s.open())
	}
	return a
}

// line offers a line to the reader that holds an unfinished diagnostic, then
// to those whose marks it has or that listen, in their order.
func (a *lane) line(l Line, marks uint64, out *sink) verdict {
	held := a.holder
	if held >= 0 {
		a.holder = -1
		if v := a.offer(held, l, out); v != pass {
			return v
		}
	}
	for want := marks | a.awake; want != 0; want &= want - 1 {
		if n := bits.TrailingZeros64(want); n != held {
			if v := a.offer(n, l, out); v != pass {
				return v
			}
		}
	}
	return pass
}

func (a *lane) offer(n int, l Line, out *sink) verdict {
	v := a.readers[n].line(l, out)
	if v == more {
		a.holder = n
	}
	if r, ok := a.readers[n].(listener); ok {
		if a.awake &^= 1 << n; r.listening() {
			a.awake |= 1 << n
		}
	}
	return v
}

func (a *lane) active() bool { return a.holder >= 0 || a.awake != 0 }

func (a *lane) close(out *sink) {
	for _, r := range a.readers {
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

// raw takes a line as it stands in the input.
func (r *router) raw(number int, b, above, below []byte, marks uint64) {
	if marks == 0 && !r.busy {
		r.out.result.Account.Plain++
		return
	}
	account := &r.out.result.Account
	l, prefix := peel(Line{Number: number, Text: plain(b[:min(len(b), maxLine)]), above: above, below: below})
	switch r.route(l, prefix, marks) {
	case pass:
		if marks != 0 && troubled(l.Text) {
			account.Unread++
			r.out.unread(number, l.Text)
		} else {
			account.Plain++
		}
	case noise:
		account.Noise++
	default:
		account.Symptom++
	}
	r.busy = false
	for _, a := range r.order {
		r.busy = r.busy || a.active()
	}
}

// route gives a line to its lane. A line without prefix that the main lane
// does not want may go on with what the last prefix began.
func (r *router) route(l Line, prefix string, marks uint64) verdict {
	if prefix != "" {
		r.recent = r.lane(prefix)
		return r.recent.line(l, marks, r.out)
	}
	v := r.main.line(l, marks, r.out)
	if v == pass && r.recent != nil && r.recent.holder >= 0 {
		return r.recent.line(l, marks, r.out)
	}
	return v
}

func (r *router) lane(prefix string) *lane {
	if len(r.lanes) == mostLanes && r.lanes[prefix] == nil {
		prefix = "…"
	}
	a := r.lanes[prefix]
	if a == nil {
		a = newLane()
		r.lanes[prefix] = a
		r.order = append(r.order, a)
	}
	return a
}

func (r *router) close() {
	for _, a := range r.order {
		a.close(r.out)
	}
}

// route reads a stream of lines that begins behind the first out.base lines of
// the input. A document may begin in it, and more lines may follow that.
func route(in io.Reader, out *sink) error {
	m := streamMarks()
	stop := make(chan struct{})
	defer close(stop)
	ahead := chunks(in, m, stop)
	r := newRouter(out)
	number := out.base
	var above []byte
	for c := range ahead {
		<-c.ready
		for i, s := range c.lines {
			if i == 0 && c.mid {
				continue
			}
			number++
			line := c.data[s.from:s.to]
			if d := documentFor(line, c.data[s.from:]); d != nil {
				r.close()
				out.result.Lines, out.base = number-1, number-1
				rest, err := out.document(d, &tail{rest: c.data[s.from:], err: c.err, ahead: ahead})
				if err != nil || rest == nil {
					return err
				}
				return route(rest, out)
			}
			var below []byte
			if i+1 < len(c.lines) {
				below = c.data[c.lines[i+1].from:c.lines[i+1].to]
			}
			r.raw(number, line, above, below, s.marks)
			above = line
		}
		if c.err != nil && c.err != io.EOF {
			return c.err
		}
	}
	out.result.Lines = number
	r.close()
	return nil
}

// within reads text that stands inside of a document, from a line of the input on.
func within(text string, line int, out *sink) {
	m := streamMarks()
	account, unread := out.result.Account, len(out.result.Unread)
	out.inside = true
	r := newRouter(out)
	lines := bytes.Split([]byte(text), []byte{'\n'})
	for i, b := range lines {
		var above, below []byte
		if i > 0 {
			above = lines[i-1]
		}
		if i+1 < len(lines) {
			below = lines[i+1]
		}
		r.raw(line+i, b, above, below, m.in(b))
	}
	r.close()
	out.inside = false
	out.result.Account = account // the document accounts for its lines
	out.result.Unread = out.result.Unread[:unread]
}

// plain makes a line readable: valid UTF-8, no control sequences, and what a
// terminal would show after carriage returns.
func plain(b []byte) string {
	b = bytes.TrimRight(b, "\r")
	if i := bytes.LastIndexByte(b, '\r'); i >= 0 {
		b = b[i+1:]
	}
	s := string(b)
	if strings.IndexByte(s, 0x1b) >= 0 {
		s = stripEscapes(s)
	}
	return strings.ToValidUTF8(s, "\uFFFD")
}

// stripEscapes removes the control sequences of ECMA-48: CSI (ESC [ … final
// byte), OSC (ESC ] … BEL or ESC \) and two-byte escapes.
func stripEscapes(s string) string {
	var b strings.Builder
	for i := 0; i < len(s); i++ {
		if s[i] != 0x1b {
			b.WriteByte(s[i])
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
	return b.String()
}

// shorten keeps a line's head for a listing.
func shorten(s string) string {
	const most = 500
	if len(s) <= most {
		return s
	}
	return strings.ToValidUTF8(s[:most], "") + "…"
}

// streamMarks is the automaton over the marks of all stream readers.
var streamMarks = sync.OnceValue(func() *marks {
	if len(streams) > 64 {
		panic("read: a mask has room for 64 stream readers")
	}
	lists := make([][]string, len(streams))
	for i, s := range streams {
		lists[i] = s.marks
	}
	return newMarks(lists)
})
