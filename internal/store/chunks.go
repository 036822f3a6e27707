package store

import (
	"context"
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
	"github.com/klauspost/compress/zstd"
)

// Sizes of a chunk of raw output: it is closed at a line's end once it has
// chunkSize bytes, and in the middle of a line at chunkMost.
const (
	chunkSize = 256 << 10
	chunkMost = 1 << 20
)

var (
	encoder, _ = zstd.NewWriter(nil)
	decoder, _ = zstd.NewReader(nil, zstd.WithDecoderMaxMemory(64<<20))
)

// chunkReader reads an input's raw output, one chunk at a time.
type chunkReader struct {
	ctx     context.Context
	q       sqlx.QueryerContext
	upgrade int64
	input   int64
	ordinal int
	rest    []byte
}

func (r *chunkReader) Read(p []byte) (int, error) {
	for len(r.rest) == 0 {
		var data []byte
		err := sqlx.GetContext(r.ctx, r.q, &data, `SELECT coalesce((SELECT data FROM chunk WHERE upgrade_id = $1 AND input_id = $2 AND ordinal = $3), '')`, r.upgrade, r.input, r.ordinal)
		if err != nil {
			return 0, fmt.Errorf("reading stored output: %w", err)
		}
		if len(data) == 0 {
			return 0, io.EOF
		}
		if r.rest, err = decoder.DecodeAll(data, nil); err != nil {
			return 0, fmt.Errorf("reading stored output: %w", err)
		}
		r.ordinal++
	}
	n := copy(p, r.rest)
	r.rest = r.rest[n:]
	return n, nil
}

// mostAnswered bounds, in bytes, the lines of one answer: what is left is asked for next.
const mostAnswered = 4 << 20

// longestShown is how much of a line a view of lines shows.
const longestShown = 20_000

// Lines are some lines of a text: the first one's number, counted from 1, and how many the
// text has in all.
type Lines struct {
	From  int
	Lines []string
	Total int
}

// InputLines reads count lines of an input of the upgrade, from a 1-based line.
func (s *Store) InputLines(ctx context.Context, upgrade, input int64, from, count int) (Lines, error) {
	out := Lines{From: from, Lines: []string{}}
	var gone *time.Time
	err := s.db.QueryRowContext(ctx, `
		SELECT i.let_go, coalesce((SELECT max(last_line) FROM chunk WHERE upgrade_id = $2 AND input_id = i.id), 0)
		FROM input i JOIN run r ON r.id = i.run_id JOIN leg l ON l.id = r.leg_id WHERE i.id = $1 AND l.upgrade_id = $2`, input, upgrade).Scan(&gone, &out.Total)
	if err := found(err, fmt.Sprintf("input %d", input)); err != nil {
		return out, err
	}
	if gone != nil {
		return out, fmt.Errorf("%w on %s; what was read of it stays", ErrGone, gone.Format("2006-01-02"))
	}
	rows, err := s.db.QueryxContext(ctx, `
		SELECT first_line, data FROM chunk WHERE upgrade_id = $4 AND input_id = $1 AND first_line < $3 AND last_line >= $2 ORDER BY ordinal`, input, from, from+count, upgrade)
	if err != nil {
		return out, fmt.Errorf("reading stored output: %w", err)
	}
	defer rows.Close()
	lines := map[int]*strings.Builder{}
	for rows.Next() {
		var first int
		var data []byte
		if err := rows.Scan(&first, &data); err != nil {
			return out, fmt.Errorf("reading stored output: %w", err)
		}
		text, err := decoder.DecodeAll(data, nil)
		if err != nil {
			return out, fmt.Errorf("reading stored output: %w", err)
		}
		gather(lines, string(text), first, from, from+count)
	}
	size := 0
	for n := from; n < from+count && lines[n] != nil && size < mostAnswered; n++ {
		size += lines[n].Len()
		out.Lines = append(out.Lines, strings.ToValidUTF8(strings.ReplaceAll(lines[n].String(), "\x00", "\uFFFD"), "\uFFFD"))
	}
	return out, rows.Err()
}

// gather adds the wanted lines of one chunk, whose text begins in line first.
func gather(lines map[int]*strings.Builder, text string, first, from, end int) {
	parts := strings.Split(text, "\n")
	if parts[len(parts)-1] == "" {
		parts = parts[:len(parts)-1]
	}
	for i, part := range parts {
		n := first + i
		if n < from || n >= end {
			continue
		}
		if lines[n] == nil {
			lines[n] = &strings.Builder{}
		}
		if room := longestShown - lines[n].Len(); room > 0 {
			lines[n].WriteString(part[:min(len(part), room)])
		}
	}
}
