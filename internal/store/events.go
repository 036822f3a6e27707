package store

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Event is one act or happening of an upgrade. Author is empty for the service itself.
type Event struct {
	At     time.Time `db:"created_at"`
	Author string    `db:"author"`
	Cause  string    `db:"cause"`
	ID     int64     `db:"id"`
	Kind   string    `db:"kind"`
	Run    int       `db:"run"`
	Text   string    `db:"text"`
}

// event is one act or happening.
type event struct {
	kind  string
	run   int
	cause string
	text  string

	author string // "" for the service itself
}

// mostText bounds the text of an event, in bytes.
const mostText = 2000

// channel is the PostgreSQL channel that tells followers of new events.
const channel = "unicausa_event"

// addEvent records an event; followers are told when the transaction commits.
func addEvent(ctx context.Context, tx *sqlx.Tx, upgrade int64, e event) error {
	e.text = strings.ToValidUTF8(e.text[:min(len(e.text), mostText)], "")
	_, err := tx.ExecContext(ctx, `INSERT INTO event (upgrade_id, kind, run, cause, text, author) VALUES ($1, $2, $3, $4, $5, $6)`, upgrade, e.kind, e.run, e.cause, e.text, e.author)
	if err == nil {
		_, err = tx.ExecContext(ctx, `SELECT pg_notify($1, $2)`, channel, fmt.Sprint(upgrade))
	}
	if err != nil {
		return fmt.Errorf("recording what happened: %w", err)
	}
	return nil
}

// MostEvents is how many events there are at most in one answer of Events.
const MostEvents = 200

// Events lists an upgrade's events after one, oldest first, at most MostEvents.
func (s *Store) Events(ctx context.Context, upgrade, after int64) ([]Event, error) {
	return s.events(ctx, `id > $2 ORDER BY id LIMIT $3`, upgrade, after, MostEvents)
}

// Activity lists an upgrade's events before one (0 for the latest), the latest
// first, at most count. An upgrade that is not there gives ErrNotFound.
func (s *Store) Activity(ctx context.Context, upgrade, before int64, count int) ([]Event, error) {
	if _, err := s.leg(ctx, s.db, upgrade); err != nil {
		return nil, err
	}
	return s.events(ctx, `($2 = 0 OR id < $2) ORDER BY id DESC LIMIT $3`, upgrade, before, count)
}

func (s *Store) events(ctx context.Context, which string, args ...any) ([]Event, error) {
	list := []Event{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, kind, run, cause, text, author, created_at FROM event WHERE upgrade_id = $1 AND `+which, args...)
	if err != nil {
		return nil, fmt.Errorf("reading the events: %w", err)
	}
	return list, nil
}

// LastEvent is the ID of an upgrade's latest event, 0 for none.
func (s *Store) LastEvent(ctx context.Context, upgrade int64) (int64, error) {
	var id int64
	err := s.db.GetContext(ctx, &id, `SELECT coalesce(max(id), 0) FROM event WHERE upgrade_id = $1`, upgrade)
	if err != nil {
		return 0, fmt.Errorf("reading the events: %w", err)
	}
	return id, nil
}

// Listen calls told with an upgrade's ID whenever something happened to it,
// in any service on the database. It blocks until ctx ends or the connection
// breaks, and returns why.
func (s *Store) Listen(ctx context.Context, told func(upgrade int64)) error {
	conn, err := s.pool.Acquire(ctx)
	if err != nil {
		return fmt.Errorf("listening for events: %w", err)
	}
	defer conn.Release()
	if _, err := conn.Exec(ctx, "LISTEN "+channel); err != nil {
		return fmt.Errorf("listening for events: %w", err)
	}
	for {
		n, err := conn.Conn().WaitForNotification(ctx)
		if err != nil {
			return fmt.Errorf("listening for events: %w", err)
		}
		var upgrade int64
		if _, err := fmt.Sscan(n.Payload, &upgrade); err == nil {
			told(upgrade)
		}
	}
}
