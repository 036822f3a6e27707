package service

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"log/slog"
	"runtime"
	"runtime/metrics"
	"sync"
	"time"

	"github.com/riverqueue/river"
	"github.com/riverqueue/river/riverdriver/riverdatabasesql"
	"github.com/riverqueue/river/rivermigrate"

	"unicausa/internal/core/analysis"
	"unicausa/internal/core/guard"
	"unicausa/internal/store"
)

// analyse is the job: bring a leg up to date with what is recorded of it.
type analyse struct {
	Leg int64 `json:"leg"`
}

// Kind names the job in the queue.
func (analyse) Kind() string { return "analyse" }

// Queues of the work. A run of large output has workers of its own, so that it does not
// keep a small one waiting.
const (
	queueSmall = river.QueueDefault
	queueLarge = "large"
)

// largeRun is from where on a run is large, in bytes of its output.
const largeRun = 16 << 20

// Bounds on one step of the work. One that takes longer, or too much memory, is tried once
// more; one that ended the process with it, some times more: it may not have been to blame.
const (
	longestStep = 15 * time.Minute
	mostTries   = 2
	mostDeaths  = 5
	busyPause   = 300 * time.Millisecond
)

var (
	errTime   = fmt.Errorf("it took longer than %s", longestStep)
	errMemory = errors.New("it took more memory than the service may use (--memory)")
)

// worker works on the queue, which lives in the database beside the records.
type worker struct {
	river.WorkerDefaults[analyse]
	store  *store.Store
	log    *slog.Logger
	leg    func(a *store.Analysis, run *analysis.Run) error // advance, but in tests
	client *river.Client[*sql.Tx]
	memory int64 // bytes of the heap; 0 for no bound

	mu   sync.Mutex
	ends map[*context.CancelCauseFunc]bool // of the steps under way
}

// startWorker prepares the queue and starts to work on it. Legs with runs that
// wait are queued again: a crash may have come between a job and its end.
func startWorker(ctx context.Context, records *store.Store, log *slog.Logger, memory int64) (*worker, error) {
	w := &worker{store: records, log: log, leg: advance, memory: memory, ends: map[*context.CancelCauseFunc]bool{}}
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
		Queues:               map[string]river.QueueConfig{queueSmall: {MaxWorkers: 3}, queueLarge: {MaxWorkers: 1}},
		Workers:              workers,
		Logger:               quiet(log),
		JobTimeout:           -1, // each step has its own
		RescueStuckJobsAfter: 2 * longestStep,
		FetchCooldown:        10 * time.Millisecond,
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
	if memory > 0 {
		go w.watchMemory(ctx)
	}
	return w, w.catchUp(ctx)
}

// catchUp queues what is recorded and not processed.
func (w *worker) catchUp(ctx context.Context) error {
	legs, err := w.store.Unfinished(ctx)
	if err != nil {
		return err
	}
	for _, leg := range legs {
		if _, err := w.client.Insert(ctx, analyse{Leg: leg}, nil); err != nil {
			return fmt.Errorf("queueing the work: %w", err)
		}
	}
	return nil
}

// watchMemory ends the steps under way where the heap outgrows its bound.
func (w *worker) watchMemory(ctx context.Context) {
	heap := []metrics.Sample{{Name: "/memory/classes/heap/objects:bytes"}}
	for tick := time.NewTicker(250 * time.Millisecond); ; {
		select {
		case <-ctx.Done():
			tick.Stop()
			return
		case <-tick.C:
		}
		if metrics.Read(heap); heap[0].Value.Uint64() <= uint64(w.memory) {
			continue
		}
		runtime.GC() // some of it may be garbage
		if metrics.Read(heap); heap[0].Value.Uint64() > uint64(w.memory) {
			w.mu.Lock()
			for end := range w.ends {
				(*end)(errMemory)
			}
			w.mu.Unlock()
		}
	}
}

// bounded is a context for one step of the work.
func (w *worker) bounded(ctx context.Context) (context.Context, func()) {
	ctx, stop := context.WithTimeoutCause(ctx, longestStep, errTime)
	ctx, end := context.WithCancelCause(ctx)
	w.mu.Lock()
	w.ends[&end] = true
	w.mu.Unlock()
	return ctx, func() {
		w.mu.Lock()
		delete(w.ends, &end)
		w.mu.Unlock()
		end(nil)
		stop()
	}
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

// Work takes a leg one step further: its earliest run that waits, or, where something
// else changed (its notes, a link), the causes as they are. What is left then goes to
// the end of the queue, so that every upgrade has its turn.
func (w *worker) Work(ctx context.Context, job *river.Job[analyse]) error {
	more, err := w.step(ctx, job.Args.Leg, job.Queue)
	switch {
	case errors.Is(err, store.ErrBusy):
		return river.JobSnooze(busyPause)
	case errors.Is(err, store.ErrNotFound): // deleted meanwhile
		return nil
	case err != nil:
		w.log.Error("analysis", "leg", job.Args.Leg, "error", err)
		return err
	case more: // a new job is fetched at once, one that snoozes with the next poll
		_, err := w.client.Insert(ctx, job.Args, &river.InsertOpts{Queue: job.Queue})
		return err
	}
	return nil
}

// step reports whether there may be more to do for the leg.
func (w *worker) step(ctx context.Context, leg int64, queue string) (more bool, err error) {
	start := time.Now()
	bounded, end := w.bounded(ctx)
	defer end()
	a, err := w.store.Analyse(bounded, leg)
	if err != nil {
		return false, err
	}
	defer a.Cancel()
	run, err := a.Next()
	if err != nil || run == nil && !a.Asked() {
		return false, err
	}
	if run != nil && run.Bytes > largeRun && queue != queueLarge {
		_, err := w.client.Insert(ctx, analyse{Leg: leg}, &river.InsertOpts{Queue: queueLarge})
		return false, err
	}
	tries, err := a.Try(run)
	switch {
	case err != nil:
		return false, err
	case tries > mostDeaths:
		err = fmt.Errorf("it was tried %d times, and the service ended each time", tries-1)
	default:
		if err = w.advance(a, run); err == nil {
			if err = a.Done(run); err == nil {
				err = a.Commit()
			}
		}
	}
	if bounded.Err() != nil && ctx.Err() == nil {
		err = context.Cause(bounded)
	}
	if err != nil {
		a.Cancel()
		return w.failed(ctx, a, run, tries, err)
	}
	if run != nil {
		w.log.Info("processed", "leg", leg, "run", run.Number, "check", run.Check, "ms", time.Since(start).Milliseconds())
	}
	return true, nil
}

// advance takes the leg further; a panic of the core is an error.
func (w *worker) advance(a *store.Analysis, run *analysis.Run) (err error) {
	defer guard.Catch("", &err)
	return w.leg(a, run)
}

// failed keeps what cannot be processed from holding up the rest: it sets aside the
// document that a panic of the core names, else the run, else the drawing of the leg. An
// error is one that nothing of these is to blame for: the job is tried again.
func (w *worker) failed(ctx context.Context, a *store.Analysis, run *analysis.Run, tries int, why error) (more bool, err error) {
	var broken *guard.Error
	switch {
	case ctx.Err() != nil, passing(why):
		undo, cancel := context.WithTimeout(context.WithoutCancel(ctx), 2*time.Second)
		defer cancel()
		return false, errors.Join(why, w.store.Untry(undo, a.Leg, run))
	case (errors.Is(why, errTime) || errors.Is(why, errMemory)) && tries < mostTries:
		w.log.Warn("tried again", "leg", a.Leg, "error", why)
		return true, nil
	case errors.As(why, &broken):
		w.log.Error("panic", "leg", a.Leg, "error", why, "stack", string(broken.Stack))
		if found, err := w.store.SetNotesAside(ctx, a.Upgrade, a.Leg, broken.Inputs, why); err != nil || found {
			return found, err
		}
	}
	w.log.Error("set aside", "leg", a.Leg, "error", why)
	return true, w.store.SetAside(ctx, a.Upgrade, a.Leg, run, why)
}
