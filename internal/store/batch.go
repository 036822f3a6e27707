package store

import (
	"github.com/jackc/pgx/v5"
	"github.com/jackc/pgx/v5/stdlib"
)

// batchSize is how many statements are sent before their answers are awaited.
const batchSize = 1000

// batch is statements of an analysis that are sent together: a database far away is asked
// once for many.
type batch struct {
	a      *Analysis
	list   pgx.Batch
	into   []*int64
	failed error
}

func (a *Analysis) batch() *batch { return &batch{a: a} }

// add adds a statement; the number that it returns goes into id, where that is not nil.
func (b *batch) add(id *int64, query string, args ...any) {
	b.list.Queue(query, args...)
	if b.into = append(b.into, id); len(b.into) == batchSize {
		b.flush()
	}
}

// send sends what is left, and gives the first error of all.
func (b *batch) send() error {
	b.flush()
	return b.failed
}

func (b *batch) flush() {
	if len(b.into) == 0 || b.failed != nil {
		return
	}
	b.failed = b.a.conn.Raw(func(driver any) (err error) {
		results := driver.(*stdlib.Conn).Conn().SendBatch(b.a.ctx, &b.list)
		defer func() {
			if closed := results.Close(); err == nil {
				err = closed
			}
		}()
		for _, id := range b.into {
			if id != nil {
				err = results.QueryRow().Scan(id)
			} else {
				_, err = results.Exec()
			}
			if err != nil {
				return err
			}
		}
		return nil
	})
	b.list, b.into = pgx.Batch{}, b.into[:0]
}
