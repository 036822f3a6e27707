package service

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"time"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivermigrate"

	"unicausa/internal/core/guard"
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
	leg    func(a *store.Analysis, run *store.RunRef) error // advance, but in tests
	client *river.Client[*sql.Tx]
}

// startWorker prepares the queue and starts to work on it. Legs with runs that
// wait are queued again: a crash may have come between a job and its end.
func startWorker(ctx context.Context, records *store.Store, log *slog.Logger) (*worker, error) {
	w := &worker{store: records, log: log, leg: advance}
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
	for todo := redraw; todo != nothing; {
		var err error
		if todo, err = w.step(ctx, job.Args.Leg, todo == redraw); err != nil {
			w.log.Error("analysis", "leg", job.Args.Leg, "error", err)
			return err
		}
	}
	return nil
}

// What is left to do for a leg after a step.
type work uint8

const (
	nothing work = iota
	runs         // as long as some wait
	redraw       // and without one the report is drawn up anew
)

func (w *worker) step(ctx context.Context, leg int64, anew bool) (work, error) {
	start := time.Now()
	a, err := w.store.Analyse(ctx, leg)
	if err != nil {
		return nothing, err
	}
	run, err := a.Next()
	if err == nil && (run != nil || anew) {
		err = w.advance(a, run)
	}
	if err != nil {
		next, aside := w.setAside(a, run, err)
		if aside == nil {
			aside = a.Commit()
		}
		if aside != nil {
			a.Cancel()
			return nothing, err
		}
		return next, nil
	}
	if err := a.Commit(); err != nil {
		return nothing, err
	}
	if run == nil {
		return nothing, nil
	}
	w.log.Info("processed", "leg", leg, "run", run.Number, "check", run.Check, "ms", time.Since(start).Milliseconds())
	return runs, nil
}

// advance takes the leg further; a panic of the core is an error.
func (w *worker) advance(a *store.Analysis, run *store.RunRef) (err error) {
	defer guard.Catch("", &err)
	return w.leg(a, run)
}

// setAside keeps what cannot be processed from holding up the rest: the
// document that a panic of the core names, else the run. Where neither is to
// blame, or the records refuse, it returns an error and the job is tried again.
func (w *worker) setAside(a *store.Analysis, run *store.RunRef, why error) (work, error) {
	if refused(why) {
		return nothing, why
	}
	if err := a.Undo(); err != nil {
		return nothing, err
	}
	var broken *guard.Error
	if errors.As(why, &broken) {
		w.log.Error("panic", "leg", a.Leg, "error", why, "stack", string(broken.Stack))
		if found, err := a.SetNotesAside(broken.Inputs, why); err != nil || found {
			return redraw, err
		}
	}
	if run == nil {
		return nothing, why
	}
	w.log.Error("run failed", "leg", a.Leg, "run", run.Number, "error", why)
	return runs, a.Fail(*run, why)
}
