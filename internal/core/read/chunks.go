package read

import (
	"bytes"
	"io"
	"runtime"
	"sort"

	"unicausa/internal/core/guard"
)

// A chunk is a stretch of an input with its lines, each searched for marks.
// Chunks are searched side by side and consumed in order.
type chunk struct {
	data       []byte
	buffer     []byte // that data stands in
	lines      []spot
	prefixes   []string
	clean      map[int][]byte // lines that held control sequences, without them
	mid        bool           // the first line continues one of the chunk before
	ready      chan struct{}
	err        error // of the input, behind this chunk's data
	prev, next *chunk
}

// spot is where a line stands in its chunk, without its ending, what a wrapper
// put before its text, and which readers it has marks of.
type spot struct {
	from, to uint32
	text     uint16 // where the text begins behind from
	prefix   int16  // in the chunk's prefixes, -1 for none
	stamped  bool
	marks    uint64
	said     string // what readers see, of a line with marks
}

// How much of an input is read at once: little at first, for most inputs are
// small. A line that is longer goes on in the next chunk.
const (
	firstChunk = 32 << 10
	chunkSize  = 1 << 20
)

// chunkQueue reads an input ahead.
type chunkQueue struct {
	marks   *marks
	ordered chan *chunk
	used    chan *chunk // chunks that were consumed, to be filled again
	stop    chan struct{}
}

func newChunkQueue(r io.Reader, m *marks) *chunkQueue {
	ahead := 2 * runtime.GOMAXPROCS(0)
	q := &chunkQueue{marks: m, ordered: make(chan *chunk, ahead), used: make(chan *chunk, ahead), stop: make(chan struct{})}
	work := make(chan *chunk, ahead)
	for range runtime.GOMAXPROCS(0) {
		go func() {
			for c := range work {
				c.searched(m)
			}
		}()
	}
	go q.fill(r, work)
	return q
}

// fill cuts the input into chunks that end with a line where they can. The
// last one has an error, io.EOF at the end of the input.
func (q *chunkQueue) fill(r io.Reader, work chan<- *chunk) {
	defer close(q.ordered)
	defer close(work)
	var rest []byte
	mid := false
	for size := firstChunk; ; size = min(2*size, chunkSize) {
		c := q.blank(size + len(rest))
		c.mid = mid
		n := copy(c.data, rest)
		var got int
		got, c.err = io.ReadFull(r, c.data[n:])
		c.data = c.data[:n+got]
		if c.err == io.ErrUnexpectedEOF {
			c.err = io.EOF
		}
		end := len(c.data)
		if c.err == nil {
			if i := bytes.LastIndexByte(c.data, '\n'); i >= 0 {
				end = i + 1
			}
		}
		rest, c.data = c.data[end:], c.data[:end]
		mid = end > 0 && c.data[end-1] != '\n'
		last := c.err != nil
		work <- c
		select {
		case q.ordered <- c:
		case <-q.stop:
			return
		}
		if last {
			return
		}
	}
}

// blank is a chunk with room for n bytes.
func (q *chunkQueue) blank(n int) *chunk {
	c := &chunk{ready: make(chan struct{})}
	select {
	case old := <-q.used:
		c.buffer, c.lines, c.prefixes = old.buffer, old.lines[:0], old.prefixes[:0]
	default:
	}
	if cap(c.buffer) < n {
		c.buffer = make([]byte, n)
	}
	c.data = c.buffer[:n]
	return c
}

// after gives the chunk behind c, nil behind the last; the first behind nil.
func (q *chunkQueue) after(c *chunk) *chunk {
	if c != nil && (c.next != nil || c.err != nil) {
		return c.next
	}
	next, ok := <-q.ordered
	if !ok {
		return nil
	}
	<-next.ready
	if c != nil {
		c.next, next.prev = next, c
		if c.prev != nil { // two are enough to look back
			select {
			case q.used <- c.prev:
			default:
			}
			c.prev = nil
		}
	}
	return next
}

func (q *chunkQueue) close() { close(q.stop) }

// searched searches a chunk and says that it is ready; a panic becomes the
// error of the input.
func (c *chunk) searched(m *marks) {
	defer close(c.ready)
	defer guard.Catch("the text", &c.err)
	c.search(m)
}

// search finds the chunk's lines and their marks.
func (c *chunk) search(m *marks) {
	for from := 0; from < len(c.data); {
		to := len(c.data)
		if n := bytes.IndexByte(c.data[from:], '\n'); n >= 0 {
			to = from + n
		}
		c.lines = append(c.lines, spot{from: uint32(from), to: uint32(to)})
		c.mark(len(c.lines)-1, m)
		from = to + 1
	}
}

// mark finds the marks of one line.
func (c *chunk) mark(i int, m *marks) {
	s := &c.lines[i]
	line := c.data[s.from:s.to]
	if bytes.IndexByte(line, 0x1b) >= 0 {
		if c.clean == nil {
			c.clean = map[int][]byte{}
		}
		line = stripEscapes(line)
		c.clean[i] = line
	}
	p := peel(line)
	s.text, s.stamped, s.prefix = uint16(p.text), p.stamped, -1
	if p.prefix != "" {
		s.prefix = int16(min(len(c.prefixes), 1<<14))
		c.prefixes = append(c.prefixes, p.prefix)
	}
	if s.marks = m.in(line[p.text:]); s.marks != 0 {
		s.said = plain(line[p.text:min(len(line), p.text+maxLine)])
	}
}

// prefix is what a wrapper named before a line, or "".
func (c *chunk) prefix(i int) string {
	if n := int(c.lines[i].prefix); n >= 0 && n < len(c.prefixes) {
		return c.prefixes[n]
	}
	return ""
}

// line gives the text of a line as readers see it; "" outside of the chunk and
// its neighbours.
func (c *chunk) line(i int) string {
	switch {
	case i < 0 && c.prev != nil:
		return c.prev.line(len(c.prev.lines) + i)
	case i >= len(c.lines) && c.next != nil && i-len(c.lines) < len(c.next.lines):
		return c.next.line(i - len(c.lines))
	case i < 0 || i >= len(c.lines):
		return ""
	}
	s := &c.lines[i]
	if s.marks != 0 {
		return s.said
	}
	if line, ok := c.clean[i]; ok {
		return plain(line[s.text:])
	}
	return plain(c.data[s.from+uint32(s.text) : min(s.to, s.from+maxLine)])
}

// lineAt is the index of the first line that begins at a place or behind it.
// What is left of a line that a document ended in becomes a line of its own.
func (c *chunk) lineAt(at int, m *marks) int {
	c.mid = false
	i := sort.Search(len(c.lines), func(i int) bool { return int(c.lines[i].from) >= at })
	if i > 0 && at < int(c.lines[i-1].to) {
		i--
		c.lines[i].from = uint32(at)
		delete(c.clean, i)
		c.mark(i, m)
	}
	return i
}

// text is an input from a place on, byte by byte, with the line it stands in:
// what a reader of a document sees.
type text struct {
	queue *chunkQueue
	c     *chunk
	at    int  // in the chunk
	line  int  // of the last byte, 1-based
	last  byte // the byte before
}

// peek gives the next byte without taking it.
func (t *text) peek() (byte, error) {
	for t.at == len(t.c.data) {
		if t.c.err != nil {
			return 0, t.c.err
		}
		next := t.queue.after(t.c)
		if next == nil {
			return 0, io.EOF
		}
		t.c, t.at = next, 0
	}
	return t.c.data[t.at], nil
}

func (t *text) next() (byte, error) {
	c, err := t.peek()
	if err != nil {
		return 0, err
	}
	t.line = t.lineOfNext()
	t.last = c
	t.at++
	return c, nil
}

// ahead is what of the input is at hand without reading on; take takes the
// first n bytes of it, which hold until the next read.
func (t *text) ahead() []byte { return t.c.data[t.at:] }

func (t *text) take(n int) []byte {
	b := t.c.data[t.at : t.at+n]
	if n > 0 {
		t.line = t.lineOfNext() + bytes.Count(b[:n-1], newline)
		t.last = b[n-1]
		t.at += n
	}
	return b
}

var newline = []byte("\n")

// lineOfNext is the line that the next byte stands in.
func (t *text) lineOfNext() int {
	if t.last == '\n' {
		return t.line + 1
	}
	return t.line
}

// until reads up to and with the mark.
func (t *text) until(mark string) (string, error) {
	if i := bytes.Index(t.ahead(), []byte(mark)); i >= 0 {
		return string(t.take(i + len(mark))[:i]), nil
	}
	var b []byte
	for {
		c, err := t.next()
		if err != nil {
			return string(b), err
		}
		b = append(b, c)
		if c == mark[len(mark)-1] && bytes.HasSuffix(b, []byte(mark)) {
			return string(b[:len(b)-len(mark)]), nil
		}
	}
}

// close passes over the rest of the line where that is blank, and gives the
// number of the last line that was read.
func (t *text) close() int {
	for {
		c, err := t.peek()
		if err != nil || c != ' ' && c != '\t' && c != '\r' && c != '\n' {
			return t.line
		}
		t.next()
		if c == '\n' {
			return t.line
		}
	}
}
