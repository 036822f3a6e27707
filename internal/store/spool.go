package store

import (
	"archive/zip"
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"hash"
	"io"
	"os"
	"runtime"
	"syscall"
	"time"

	"unicausa/internal/core/secret"
)

// Spool takes a run while it is being sent, into a file that ends with it: the database
// sees nothing of it, and keeps no connection for it, before all of it is there.
type Spool struct {
	facts    RunFacts
	file     *os.File
	size     int64 // of the file
	inputs   []spooled
	pictures []picture
	source   span // the tree, a zip; none where it is empty
	digest   hash.Hash
	masked   int // secrets that came all the same
}

// spooled is one input in the file.
type spooled struct {
	name   string
	bytes  int64
	chunks []chunkSpan
}

// span is a part of the file.
type span struct{ from, size int64 }

// chunkSpan is a chunk: where it stands in the file, and its lines.
type chunkSpan struct {
	span
	first, last int
}

type picture struct {
	name, media string
	data        span
}

// NewSpool begins to take a run. Close drops the file.
func NewSpool(facts RunFacts) (*Spool, error) {
	file, err := os.CreateTemp("", "unicausa-spool")
	if err != nil {
		return nil, full(fmt.Errorf("keeping the upload: %w", err))
	}
	os.Remove(file.Name()) // it has no name, so that nothing is left of it after a crash
	mask := &secret.Masker{}
	facts.Command, facts.Subject = mask.Text(facts.Command), mask.Text(facts.Subject)
	for i := range facts.Commits {
		facts.Commits[i].Subject = mask.Text(facts.Commits[i].Subject)
	}
	s := &Spool{facts: facts, file: file, digest: sha256.New(), masked: mask.Count}
	if facts.StartedAt.IsZero() {
		s.facts.StartedAt = time.Now().UTC()
	} else {
		fmt.Fprintf(s.digest, "at %s\n", facts.StartedAt.UTC().Format(time.RFC3339Nano))
	}
	if facts.Versions == nil {
		s.facts.Versions = map[string]string{}
	}
	if len(facts.Patterns) > 0 {
		fmt.Fprintf(s.digest, "patterns %s\n", asJSON(facts.Patterns))
	}
	fmt.Fprintf(s.digest, "check %q command %q commit %q exit %d\n", facts.Check, facts.Command, facts.Commit, facts.Exit)
	return s, nil
}

// Close drops the file.
func (s *Spool) Close() { s.file.Close() }

// ErrFull says that there is no room on a disk.
var ErrFull = errors.New("the disk is full")

// full names the errors of a full disk.
func full(err error) error {
	if errors.Is(err, syscall.ENOSPC) || errors.Is(err, syscall.EDQUOT) {
		return fmt.Errorf("%w: %w", ErrFull, err)
	}
	return err
}

// append writes to the end of the file.
func (s *Spool) append(data []byte) (span, error) {
	at := span{from: s.size, size: int64(len(data))}
	if _, err := s.file.Write(data); err != nil {
		return at, full(fmt.Errorf("keeping the upload: %w", err))
	}
	s.size += at.size
	return at, nil
}

// read reads a part of the file.
func (s *Spool) read(at span) ([]byte, error) {
	data := make([]byte, at.size)
	if _, err := s.file.ReadAt(data, at.from); err != nil {
		return nil, fmt.Errorf("reading the upload: %w", err)
	}
	return data, nil
}

// working are the uploads that are being masked and packed: on all cores but one, so that
// requests beside them have their turn.
var working = make(chan struct{}, max(1, runtime.GOMAXPROCS(0)-1))

// waiting is a reader within that work, which others go on with while it waits.
type waiting struct{ io.Reader }

func (w waiting) Read(p []byte) (int, error) {
	<-working
	defer func() { working <- struct{}{} }()
	return w.Reader.Read(p)
}

// Input takes one output. The error of content is passed on as it is.
func (s *Spool) Input(name string, content io.Reader) error {
	fmt.Fprintf(s.digest, "input %q\n", name)
	w := &chunkWriter{spool: s, line: 1, newline: -1}
	mask := &secret.Masker{}
	working <- struct{}{}
	defer func() { <-working }()
	_, err := io.Copy(io.MultiWriter(w, s.digest), secret.NewReader(mask, waiting{content}))
	if s.masked += mask.Count; err != nil {
		return err
	}
	if err := w.flush(len(w.buf)); err != nil {
		return err
	}
	s.inputs = append(s.inputs, spooled{name: name, bytes: w.bytes, chunks: w.chunks})
	return nil
}

// Masked is how many secrets came all the same and were masked.
func (s *Spool) Masked() int { return s.masked }

// Inputs is how many outputs there are.
func (s *Spool) Inputs() int { return len(s.inputs) }

// Picture takes a picture that a person took.
func (s *Spool) Picture(name, media string, data []byte) error {
	at, err := s.append(data)
	if err != nil {
		return err
	}
	s.pictures = append(s.pictures, picture{name: name, media: media, data: at})
	fmt.Fprintf(s.digest, "picture %q %x\n", name, sha256.Sum256(data))
	return nil
}

// Source takes the source tree that the run was made on, a zip, and gives it back to be
// looked at. The error of content is passed on as it is.
func (s *Spool) Source(content io.Reader) (*io.SectionReader, error) {
	at := span{from: s.size}
	sum := sha256.New()
	n, err := io.Copy(io.MultiWriter(s.file, sum), content)
	if s.size += n; err != nil {
		return nil, full(err)
	}
	at.size = n
	s.source = at
	fmt.Fprintf(s.digest, "source %s\n", hex.EncodeToString(sum.Sum(nil)))
	return io.NewSectionReader(s.file, at.from, n), nil
}

// MaskSource puts the source tree without its secrets in the place of what came, where it
// has some. The error is of an archive that cannot be read.
func (s *Spool) MaskSource(archive *zip.Reader) error {
	mask := &secret.Masker{}
	if err := mask.InZip(archive); err != nil || mask.Count == 0 {
		return err
	}
	s.masked += mask.Count
	from := s.size
	w := &countedWriter{w: s.file}
	err := mask.Zip(archive, w)
	s.size += w.n
	s.source = span{from: from, size: w.n}
	return full(err)
}

// countedWriter counts what is written.
type countedWriter struct {
	w io.Writer
	n int64
}

func (c *countedWriter) Write(p []byte) (int, error) {
	n, err := c.w.Write(p)
	c.n += int64(n)
	return n, err
}

// chunkWriter spools what is written to it as chunks of one input.
type chunkWriter struct {
	spool   *Spool
	buf     []byte
	newline int // the last in the buffer, -1 for none
	line    int // the line at the buffer's start
	bytes   int64
	chunks  []chunkSpan
}

func (w *chunkWriter) Write(p []byte) (int, error) {
	for rest := p; len(rest) > 0; {
		part := rest[:min(len(rest), chunkSize)]
		rest = rest[len(part):]
		if n := bytes.LastIndexByte(part, '\n'); n >= 0 {
			w.newline = len(w.buf) + n
		}
		w.buf = append(w.buf, part...)
		w.bytes += int64(len(part))
		switch {
		case len(w.buf) < chunkSize:
		case w.newline >= 0:
			if err := w.flush(w.newline + 1); err != nil {
				return 0, err
			}
		case len(w.buf) >= chunkMost:
			if err := w.flush(len(w.buf)); err != nil {
				return 0, err
			}
		}
	}
	return len(p), nil
}

// flush spools the first n bytes of the buffer.
func (w *chunkWriter) flush(n int) error {
	if n == 0 {
		return nil
	}
	part := w.buf[:n]
	ends := bytes.Count(part, []byte{'\n'})
	last := w.line + ends
	if part[n-1] == '\n' {
		last--
	}
	at, err := w.spool.append(encoder.EncodeAll(part, nil))
	if err != nil {
		return err
	}
	w.chunks = append(w.chunks, chunkSpan{span: at, first: w.line, last: last})
	w.line += ends
	w.buf = append(w.buf[:0], w.buf[n:]...)
	w.newline = -1
	return nil
}
