package store

import (
	"bytes"
	"context"
	"fmt"
	"strings"
)

// mostHits is how many lines one search gives.
const mostHits = 500

// SourceLine is a line of a text, counted from 1.
type SourceLine struct {
	Line int
	Text string
}

// Hits are lines that a search found. With more, there may be others behind the last.
type Hits struct {
	Lines []SourceLine
	More  bool
}

// SearchInput finds the lines of an input, from a 1-based line on, that hold a
// text, whatever the case of its letters (ASCII). Output is unpacked a chunk at
// a time, and no further than the last hit.
func (s *Store) SearchInput(ctx context.Context, upgrade, input int64, from int, text string) (Hits, error) {
	hits := Hits{}
	if _, err := s.InputLines(ctx, upgrade, input, from, 1); err != nil {
		return hits, err
	}
	rows, err := s.db.QueryxContext(ctx, `SELECT first_line, data FROM chunk WHERE upgrade_id = $3 AND input_id = $1 AND last_line >= $2 ORDER BY ordinal`, input, from, upgrade)
	if err != nil {
		return hits, fmt.Errorf("reading stored output: %w", err)
	}
	defer rows.Close()
	wanted := bytes.ToLower([]byte(text))
	for rows.Next() {
		var first int
		var packed []byte
		if err := rows.Scan(&first, &packed); err != nil {
			return hits, fmt.Errorf("reading stored output: %w", err)
		}
		data, err := decoder.DecodeAll(packed, nil)
		if err != nil {
			return hits, fmt.Errorf("reading stored output: %w", err)
		}
		if !bytes.Contains(bytes.ToLower(data), wanted) {
			continue
		}
		for i, line := range bytes.Split(data, []byte{'\n'}) {
			if first+i < from || !bytes.Contains(bytes.ToLower(line), wanted) {
				continue
			}
			if len(hits.Lines) == mostHits {
				hits.More = true
				return hits, nil
			}
			shown := strings.ReplaceAll(string(line[:min(len(line), 500)]), "\x00", "\uFFFD")
			hits.Lines = append(hits.Lines, SourceLine{Line: first + i, Text: strings.ToValidUTF8(shown, "\uFFFD")})
		}
	}
	return hits, rows.Err()
}
