package read

import (
	"bufio"
	"bytes"
	"io"
	"strings"
)

// Line is one line of an input: valid UTF-8, without its ending, without
// terminal control sequences, and of what carriage returns overwrote only the
// last. Number is 1-based.
type Line struct {
	Number int
	Text   string
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

// maxLine is how much of a line is read; the rest is passed over. A longer
// line is a minified file or a dump, and its head says what it is.
const maxLine = 1 << 20

// router offers each line to the reader that holds an unfinished diagnostic,
// then to the others in order, and keeps the account.
type router struct {
	readers []lineReader
	holder  lineReader
}

func newRouter() *router {
	r := &router{}
	for _, s := range streams {
		r.readers = append(r.readers, s.open())
	}
	return r
}

func (r *router) line(l Line, out *sink) verdict {
	if r.holder != nil {
		held := r.holder
		r.holder = nil
		if v := r.offer(held, l, out); v != pass {
			return v
		}
		for _, reader := range r.readers {
			if reader == held {
				continue
			}
			if v := r.offer(reader, l, out); v != pass {
				return v
			}
		}
		return pass
	}
	for _, reader := range r.readers {
		if v := r.offer(reader, l, out); v != pass {
			return v
		}
	}
	return pass
}

func (r *router) offer(reader lineReader, l Line, out *sink) verdict {
	v := reader.line(l, out)
	if v == more {
		r.holder = reader
	}
	return v
}

func (r *router) close(out *sink) {
	for _, reader := range r.readers {
		reader.close(out)
	}
}

func route(in *bufio.Reader, out *sink) error {
	r := newRouter()
	account := &out.result.Account
	var buf []byte
	for {
		var err error
		buf, err = nextLine(in, buf[:0])
		if err != nil && err != io.EOF {
			return err
		}
		if err == io.EOF && len(buf) == 0 {
			break
		}
		out.result.Lines++
		if d := documentAt(in, buf); d != nil {
			rest := io.MultiReader(bytes.NewReader(append(bytes.Clone(buf), '\n')), in)
			out.base = out.result.Lines - 1
			out.result.Lines = out.base
			r.close(out)
			return out.document(d, rest)
		}
		l := Line{Number: out.result.Lines, Text: plain(buf)}
		switch r.line(l, out) {
		case pass:
			if troubled(l.Text) {
				account.Unread++
				out.result.Unread = append(out.result.Unread, Unread{Line: l.Number, Text: shorten(l.Text)})
			} else {
				account.Plain++
			}
		case noise:
			account.Noise++
		default:
			account.Symptom++
		}
		if err == io.EOF {
			break
		}
	}
	r.close(out)
	return nil
}

// documentAt is the reader of the document that begins with this line, or nil:
// what a test printed may stand above its runner's report.
func documentAt(in *bufio.Reader, line []byte) *document {
	if !bytes.HasPrefix(line, []byte("<")) {
		return nil
	}
	next, _ := in.Peek(headSize)
	return documentFor(append(append(bytes.Clone(line), '\n'), next...))
}

// nextLine appends the next line to buf, without its "\n", and cuts it at
// maxLine. It returns io.EOF with the last line where that has no ending.
func nextLine(in *bufio.Reader, buf []byte) ([]byte, error) {
	for {
		part, err := in.ReadSlice('\n')
		if room := maxLine - len(buf); room > 0 {
			buf = append(buf, part[:min(len(part), room)]...)
		}
		switch err {
		case bufio.ErrBufferFull:
			continue
		case nil:
			return bytes.TrimSuffix(buf, []byte{'\n'}), nil
		default:
			return buf, err
		}
	}
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
