package secret

import (
	"bytes"
	"io"
)

// longestLine is how much of a line is masked at once; of a longer one each piece is by
// itself.
const longestLine = 64 << 10

// Reader reads a text as it may travel. A text that holds a zero byte near its beginning
// is no text and passes as it is.
type Reader struct {
	m     *Masker
	r     io.Reader
	in    []byte // read and not masked
	out   []byte // masked and not given
	buf   []byte
	err   error
	begun bool
	raw   bool
}

// NewReader masks what r gives, and counts in m.
func NewReader(m *Masker, r io.Reader) *Reader {
	return &Reader{m: m, r: r, buf: make([]byte, 32<<10)}
}

// Read gives what may travel. The error is r's own.
func (r *Reader) Read(p []byte) (int, error) {
	for len(r.out) == 0 {
		if r.err != nil {
			return 0, r.err
		}
		n, err := r.r.Read(r.buf)
		r.in, r.err = append(r.in, r.buf[:n]...), err
		if !r.begun && n > 0 {
			r.begun = true
			r.raw = bytes.IndexByte(r.in, 0) >= 0
		}
		r.mask()
	}
	n := copy(p, r.out)
	r.out = r.out[n:]
	return n, nil
}

// mask masks the lines that are whole, and at the end the rest.
func (r *Reader) mask() {
	r.out = r.out[:0]
	if r.raw {
		r.out, r.in = append(r.out, r.in...), r.in[:0]
		return
	}
	rest := r.in
	if end := bytes.LastIndexByte(rest, '\n') + 1; end > 0 && r.m.idle(rest[:end]) {
		r.out, rest = append(r.out, rest[:end]...), rest[end:]
	}
	for {
		n := bytes.IndexByte(rest, '\n')
		switch {
		case n >= 0:
			r.out = append(append(r.out, r.m.Line(rest[:n])...), '\n')
			rest = rest[n+1:]
			continue
		case len(rest) > longestLine || r.err != nil && len(rest) > 0:
			r.out = append(r.out, r.m.Line(rest)...)
			rest = rest[len(rest):]
		}
		break
	}
	r.in = append(r.in[:0], rest...)
}
