// Package store keeps the records in PostgreSQL. It is the only package that
// speaks SQL.
package store

import (
	"context"
	"database/sql"
	"embed"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"strings"
	"time"

	"github.com/jackc/pgx/v5/pgconn"
	"github.com/jackc/pgx/v5/pgxpool"
	"github.com/jackc/pgx/v5/stdlib"
	"github.com/jmoiron/sqlx"
	"github.com/pressly/goose/v3"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Errors that a caller tells apart.
var (
	ErrNotFound = errors.New("not found")
	ErrConflict = errors.New("already there")
	ErrChanged  = errors.New("changed meanwhile")
	ErrNotYet   = errors.New("not yet")
)

// Store is the records behind a pool of connections. Enqueue is called inside
// the transaction that makes work for a leg; it must be set before use.
type Store struct {
	db      *sqlx.DB
	pool    *pgxpool.Pool
	Version string // of the program, for what it sets aside
	Enqueue func(ctx context.Context, tx *sql.Tx, leg int64) error

	recording chan struct{} // the recordings that are being stored
}

// Limits on connections and on what they do.
const (
	// Connections is how many there are at most, where nothing else is said: one for each
	// step of the work, those of the queue and of live events, and the rest for requests.
	Connections = 24
	// recordings are stored by so many at once.
	recordings = 2
	// A statement of a request, and a transaction that nothing is asked of.
	statementLimit = "60s"
	idleLimit      = "120s"
)

// Open connects to the database with so many connections at most, and brings its tables
// up to date. It returns the connection's error when the database does not answer.
func Open(ctx context.Context, url string, connections int) (*Store, error) {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return nil, fmt.Errorf("reading the database address: %w", err)
	}
	config.ConnConfig.ConnectTimeout = 5 * time.Second
	if err := migrate(ctx, config); err != nil {
		return nil, err
	}
	config.MaxConns = int32(connections)
	config.MaxConnIdleTime = 5 * time.Minute
	for name, value := range map[string]string{"statement_timeout": statementLimit, "idle_in_transaction_session_timeout": idleLimit, "application_name": "unicausa"} {
		config.ConnConfig.RuntimeParams[name] = value
	}
	pool, err := pgxpool.NewWithConfig(ctx, config)
	if err != nil {
		return nil, fmt.Errorf("connecting to the database: %w", err)
	}
	s := &Store{db: sqlx.NewDb(stdlib.OpenDBFromPool(pool), "pgx"), pool: pool, recording: make(chan struct{}, recordings)}
	if err := s.Ping(ctx); err != nil {
		s.Close()
		return nil, fmt.Errorf("connecting to the database: %w", err)
	}
	return s, nil
}

// ErrNewer says that the records are of a later version of the program.
var ErrNewer = errors.New("the records were made by a newer version of unicausa")

// Known is the version of the tables that this program makes.
func Known() int64 {
	names, _ := fs.Glob(migrations, "migrations/*.sql")
	return int64(len(names)) // they are numbered from 1 on
}

// Renew brings the tables of the database up to date, as Open does, once others have been
// put in their place: what connections remember of them does not hold any more.
func (s *Store) Renew(ctx context.Context, url string) error {
	config, err := pgxpool.ParseConfig(url)
	if err != nil {
		return fmt.Errorf("reading the database address: %w", err)
	}
	s.pool.Reset()
	return migrate(ctx, config)
}

// migrate brings the tables up to date, on connections of its own, which may take their
// time. Tables of a newer version give ErrNewer and stay as they are.
func migrate(ctx context.Context, config *pgxpool.Config) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return fmt.Errorf("reading the migrations: %w", err)
	}
	db := stdlib.OpenDB(*config.ConnConfig)
	defer db.Close()
	conn, err := db.Conn(ctx)
	if err != nil {
		return fmt.Errorf("connecting to the database: %w", err)
	}
	defer conn.Close()
	// Several services may start on one database; one of them migrates.
	const lock = 7236_1001
	if _, err := conn.ExecContext(ctx, "SELECT pg_advisory_lock($1)", lock); err != nil {
		return fmt.Errorf("waiting to update the tables: %w", err)
	}
	defer conn.ExecContext(context.WithoutCancel(ctx), "SELECT pg_advisory_unlock($1)", lock)
	provider, err := goose.NewProvider(goose.DialectPostgres, db, files)
	if err != nil {
		return fmt.Errorf("reading the migrations: %w", err)
	}
	there, known, err := provider.GetVersions(ctx)
	if err != nil {
		return fmt.Errorf("reading the tables' version: %w", err)
	}
	if there > known {
		return fmt.Errorf("%w: its tables are of version %d, this program knows them up to %d: run the program that made them, or restore a backup of before", ErrNewer, there, known)
	}
	if _, err := provider.Up(ctx); err != nil {
		return fmt.Errorf("updating the tables: %w", err)
	}
	return nil
}

// Close closes the connections.
func (s *Store) Close() {
	s.db.Close()
	s.pool.Close()
}

// Ping reports whether the database answers.
func (s *Store) Ping(ctx context.Context) error { return s.db.PingContext(ctx) }

// DB is the pool for database/sql, which the job queue shares.
func (s *Store) DB() *sql.DB { return s.db.DB }

// Pool is the same pool in pgx's own form, for LISTEN and NOTIFY.
func (s *Store) Pool() *pgxpool.Pool { return s.pool }

// inTx runs f in a transaction that is rolled back when f fails.
func (s *Store) inTx(ctx context.Context, f func(tx *sqlx.Tx) error) error {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return fmt.Errorf("beginning a transaction: %w", err)
	}
	defer tx.Rollback()
	if err := f(tx); err != nil {
		return err
	}
	if err := tx.Commit(); err != nil {
		return fmt.Errorf("storing: %w", err)
	}
	return nil
}

// found turns "no rows" into ErrNotFound with what was looked for.
func found(err error, what string) error {
	if errors.Is(err, sql.ErrNoRows) {
		return fmt.Errorf("%s: %w", what, ErrNotFound)
	}
	if err != nil {
		return fmt.Errorf("reading %s: %w", what, err)
	}
	return nil
}

// duplicate reports whether an insert met a row that is there already.
func duplicate(err error) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && pg.Code == "23505" // unique_violation
}

// doc is a value kept as JSON.
type doc[T any] struct{ v T }

// Get is the value that is kept.
func (d doc[T]) Get() T { return d.v }

// Scan reads the column.
func (d *doc[T]) Scan(src any) error {
	switch src := src.(type) {
	case []byte:
		return json.Unmarshal(src, &d.v)
	case string:
		return json.Unmarshal([]byte(src), &d.v)
	case nil:
		return nil
	}
	return fmt.Errorf("cannot read %T as JSON", src)
}

// asJSON is a value as a column takes it, without the zero character, which
// PostgreSQL refuses. The types stored here always marshal.
func asJSON(v any) string {
	data, err := json.Marshal(v)
	if err != nil {
		panic(err)
	}
	return strings.ReplaceAll(string(data), `\u0000`, `\ufffd`)
}

// utf8 is a text as a column takes it.
func utf8(s string) string {
	return strings.ReplaceAll(strings.ToValidUTF8(s, "\uFFFD"), "\x00", "\uFFFD")
}
