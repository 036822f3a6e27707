package read

import (
	"bytes"
	"io"
	"runtime"
)

// A chunk is a stretch of an input with its lines, each searched for marks.
// Chunks are searched side by side and consumed in order.
type chunk struct {
	data  []byte
	lines []spot
	mid   bool // the first line continues one of the chunk before
	ready chan struct{}
	err   error // of the input, behind this chunk's data
}

// spot is where a line stands in its chunk, without its ending, and which
// readers it has marks of.
type spot struct {
	from, to int
	marks    uint64
}

// How much of an input is read at once: little at first, for most inputs are
// small. A line that is longer goes on in the next chunk.
const (
	firstChunk = 32 << 10
	chunkSize  = 1 << 20
)

// chunks reads an input ahead. The channel ends behind a chunk with an error,
// which is io.EOF at the end of the input; closing stop ends it early.
func chunks(r io.Reader, m *marks, stop <-chan struct{}) <-chan *chunk {
	ahead := 2 * runtime.GOMAXPROCS(0)
	ordered := make(chan *chunk, ahead)
	work := make(chan *chunk, ahead)
	for range runtime.GOMAXPROCS(0) {
		go func() {
			for c := range work {
				c.search(m)
			}
		}()
	}
	go func() {
		defer close(ordered)
		defer close(work)
		var rest []byte
		mid := false
		for size := firstChunk; ; size = min(2*size, chunkSize) {
			c := &chunk{data: make([]byte, size+len(rest)), mid: mid, ready: make(chan struct{})}
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
			work <- c
			select {
			case ordered <- c:
			case <-stop:
				return
			}
			if c.err != nil {
				return
			}
		}
	}()
	return ordered
}

// search finds the chunk's lines and their marks.
func (c *chunk) search(m *marks) {
	defer close(c.ready)
	c.lines = make([]spot, 0, len(c.data)/48+1)
	for from := 0; from < len(c.data); {
		to := len(c.data)
		if n := bytes.IndexByte(c.data[from:], '\n'); n >= 0 {
			to = from + n
		}
		line := c.data[from:to]
		if bytes.IndexByte(line, 0x1b) >= 0 {
			line = []byte(stripEscapes(string(line)))
		}
		c.lines = append(c.lines, spot{from: from, to: to, marks: m.in(line)})
		from = to + 1
	}
}

// tail is what is left of an input from a place in a chunk on: as a reader of
// a document sees it.
type tail struct {
	rest  []byte
	err   error
	ahead <-chan *chunk
}

func (t *tail) Read(p []byte) (int, error) {
	for len(t.rest) == 0 {
		if t.err != nil {
			return 0, t.err
		}
		c, ok := <-t.ahead
		if !ok {
			return 0, io.EOF
		}
		<-c.ready
		t.rest, t.err = c.data, c.err
	}
	n := copy(p, t.rest)
	t.rest = t.rest[n:]
	return n, nil
}
