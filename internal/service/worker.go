package service

import (
	"context"
	"database/sql"
	"fmt"
	"log/slog"
	"time"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivermigrate"

	"unicausa/internal/store"
)

// analyse is the job: bring a leg up to date with what is recorded of it.
type analyse struct {
	Leg int64 `json:"leg"`
}

// Kind names the job in the queue.
func (analyse) Kind() string { return "analyse" }

// worker works on the queue, which lives in the database beside the records.
type worker struct {
	river.WorkerDefaults[analyse]
	store  *store.Store
	log    *slog.Logger
	client *river.Client[*sql.Tx]
}

// startWorker prepares the queue and starts to work on it. Legs with runs that
// wait are queued again: a crash may have come between a job and its end.
func startWorker(ctx context.Context, records *store.Store, log *slog.Logger) (*worker, error) {
	w := &worker{store: records, log: log}
	driver := riverdatabasesql.NewWithPgxListener(records.DB(), records.Pool())
	migrator, err := rivermigrate.New(driver, &rivermigrate.Config{Logger: quiet(log)})
	if err != nil {
		return nil, fmt.Errorf("preparing the job queue: %w", err)
	}
	if _, err := migrator.Migrate(ctx, rivermigrate.DirectionUp, nil); err != nil {
		return nil, fmt.Errorf("preparing the job queue: %w", err)
	}
	workers := river.NewWorkers()
	river.AddWorker(workers, w)
	w.client, err = river.NewClient(driver, &river.Config{
		Queues:               map[string]river.QueueConfig{river.QueueDefault: {MaxWorkers: 2}},
		Workers:              workers,
		Logger:               quiet(log),
		JobTimeout:           30 * time.Minute,
		RescueStuckJobsAfter: 31 * time.Minute,
		FetchPollInterval:    500 * time.Millisecond,
	})
	if err != nil {
		return nil, fmt.Errorf("preparing the job queue: %w", err)
	}
	records.Enqueue = func(ctx context.Context, tx *sql.Tx, leg int64) error {
		_, err := w.client.InsertTx(ctx, tx, analyse{Leg: leg}, nil)
		return err
	}
	if err := w.client.Start(ctx); err != nil {
		return nil, fmt.Errorf("starting the worker: %w", err)
	}
	legs, err := records.Unfinished(ctx)
	if err != nil {
		return nil, err
	}
	for _, leg := range legs {
		if _, err := w.client.Insert(ctx, analyse{Leg: leg}, nil); err != nil {
			return nil, fmt.Errorf("queueing the work: %w", err)
		}
	}
	return w, nil
}

// quiet lets only warnings of the job queue into the log.
func quiet(log *slog.Logger) *slog.Logger { return slog.New(warnings{log.Handler()}) }

type warnings struct{ slog.Handler }

func (warnings) Enabled(_ context.Context, level slog.Level) bool { return level >= slog.LevelWarn }

func (w *worker) stop(ctx context.Context) error {
	if err := w.client.Stop(ctx); err != nil {
		return fmt.Errorf("stopping the worker: %w", err)
	}
	return nil
}

// Work processes a leg's runs in their order, each in a transaction of its
// own, until none is left. With none to begin with, something else changed (its
// notes, a link), and the leg is analysed as it is.
func (w *worker) Work(ctx context.Context, job *river.Job[analyse]) error {
	for first := true; ; first = false {
		more, err := w.step(ctx, job.Args.Leg, first)
		if err != nil {
			w.log.Error("analysis", "leg", job.Args.Leg, "error", err)
			return err
		}
		if !more {
			return nil
		}
	}
}

func (w *worker) step(ctx context.Context, leg int64, first bool) (more bool, err error) {
	start := time.Now()
	a, err := w.store.Analyse(ctx, leg)
	if err != nil {
		return false, err
	}
	run, err := a.Next()
	if err == nil && (run != nil || first) {
		err = advance(a, run)
	}
	if err != nil {
		a.Cancel()
		if run == nil || ctx.Err() != nil {
			return false, err
		}
		return true, w.fail(ctx, leg, run, err)
	}
	if err := a.Commit(); err != nil {
		return false, err
	}
	if run != nil {
		w.log.Info("processed", "leg", leg, "run", run.Number, "check", run.Check, "ms", time.Since(start).Milliseconds())
	}
	return run != nil, nil
}

// fail sets a run aside that cannot be processed, so that it does not hold up
// the runs behind it. Where even that fails the job is tried again.
func (w *worker) fail(ctx context.Context, leg int64, run *store.RunRef, why error) error {
	if refused(why) {
		return why
	}
	a, err := w.store.Analyse(ctx, leg)
	if err != nil {
		return why
	}
	if err := a.Fail(*run, why); err != nil {
		a.Cancel()
		return why
	}
	w.log.Error("run failed", "leg", leg, "run", run.Number, "error", why)
	return a.Commit()
}
