package cli

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/signal"
	"path/filepath"
	"slices"
	"strings"
	"syscall"
	"time"

	"github.com/charmbracelet/x/term"
	"github.com/fsnotify/fsnotify"

	"unicausa/internal/api"
	"unicausa/internal/config"
	"unicausa/internal/gitrepo"
	"unicausa/internal/report"
)

// quiet is how long nothing has to change before the checks run again.
const quiet = 400 * time.Millisecond

// watched is one check on one target, as the screen shows it.
type watched struct {
	check  config.Check
	target string
	line   report.WatchLine
}

// name is how the check is kept.
func (w *watched) name() string {
	if w.target == "" {
		return w.check.Name
	}
	return w.check.Name + "@" + w.target
}

// concerns reports whether a check has to run again when some files have changed: those
// without a folder of their own always, else when a file below it has.
func (w *watched) concerns(changed []string) bool {
	if w.check.Folder == "" {
		return true
	}
	below := strings.TrimSuffix(filepath.ToSlash(filepath.Clean(w.check.Folder)), "/") + "/"
	return slices.ContainsFunc(changed, func(file string) bool { return strings.HasPrefix(file, below) })
}

// watch runs the checks, and again whenever the project's files change, the cheapest first,
// until it is interrupted.
func (r *recorder) watch(ctx context.Context, checks []config.Check) error {
	list := r.watchList(ctx, checks)
	state, err := r.state()
	if err != nil {
		return err
	}
	changes, err := fsnotify.NewWatcher()
	if err != nil {
		return fmt.Errorf("watching the project: %w", err)
	}
	defer changes.Close()
	if err := watchFolders(changes, r.root); err != nil {
		return err
	}
	// A check that runs takes an interrupt itself, and is recorded; between checks it ends the watch.
	leaving, stop := signal.NotifyContext(ctx, os.Interrupt, syscall.SIGTERM)
	defer stop()
	screen := &report.Watching{Live: isTerminal(r.std.out), Width: report.Width(r.std.out)}
	r.shown = func() { screen.Draw(r.std.out, watchLines(list)) }
	all := true
	var changed []string
	for {
		if err := r.pass(ctx, leaving, list, changed, all, screen); err != nil {
			return watchEnd(r, screen, list, err)
		}
		all = false
		screen.Say("waiting for changes; Ctrl-C leaves, all is recorded")
		r.shown()
		for changed = nil; len(changed) == 0; {
			if err := nextChange(leaving, changes, r.root); err != nil {
				return watchEnd(r, screen, list, err)
			}
			now, err := r.state()
			if err != nil {
				return err
			}
			changed, state = differing(state, now), now
		}
		screen.Changed = changed
	}
}

// watchEnd ends the watch; an interrupt is how it is meant to end.
func watchEnd(r *recorder, screen *report.Watching, list []*watched, err error) error {
	var exit *exitError
	if errors.Is(err, context.Canceled) || errors.As(err, &exit) && exit.status == exitInterrupted {
		screen.Say("left; all that was run is recorded")
		screen.Draw(r.std.out, watchLines(list))
		return nil
	}
	return err
}

// watchList is every check on every target, those that took least time last first.
func (r *recorder) watchList(ctx context.Context, checks []config.Check) []*watched {
	took := map[string]int64{}
	runs, err := r.c.Runs(ctx, r.upgrade)
	if err == nil { // the recording itself will say so
		for _, run := range runs { // the latest first
			if _, known := took[run.Facts.Check]; !known {
				took[run.Facts.Check] = run.Facts.Millis
			}
		}
	}
	var list []*watched
	for _, c := range checks {
		targets := c.Targets
		if len(targets) == 0 {
			targets = []string{""}
		}
		for _, target := range targets {
			w := &watched{check: c.For(target), target: target}
			w.line.Name = w.name()
			list = append(list, w)
		}
	}
	slices.SortStableFunc(list, func(a, b *watched) int { return cmp.Compare(took[a.name()], took[b.name()]) })
	return list
}

// pass runs the checks that changes concern.
func (r *recorder) pass(ctx, leaving context.Context, list []*watched, changed []string, all bool, screen *report.Watching) error {
	if err := r.pack(); err != nil {
		return err
	}
	screen.Begin()
	for _, w := range list {
		if !all && !w.concerns(changed) {
			continue
		}
		if err := leaving.Err(); err != nil {
			return err
		}
		w.line.Running = true
		screen.Say("running " + w.name())
		r.shown()
		run, err := r.once(ctx, &w.check, w.target)
		w.line.Running = false
		if run.Number > 0 {
			w.line.Run = &run
		}
		if err != nil {
			return err
		}
		if run.Delta != nil {
			screen.Took(run.Delta)
		}
	}
	causes, err := r.c.Causes(ctx, r.upgrade)
	if err != nil {
		return err
	}
	screen.Left = slices.DeleteFunc(causes, func(c api.Cause) bool { return c.Known || c.Status == api.CauseStatusCleared })
	return nil
}

func watchLines(list []*watched) []report.WatchLine {
	lines := make([]report.WatchLine, len(list))
	for i, w := range list {
		lines[i] = w.line
	}
	return lines
}

func isTerminal(w any) bool {
	f, ok := w.(*os.File)
	return ok && term.IsTerminal(f.Fd())
}

// unwatched folders hold what tools write.
var unwatched = map[string]bool{".git": true, "node_modules": true, "__pycache__": true, ".venv": true, "venv": true, "target": true, "vendor": true, ".gradle": true, ".mypy_cache": true, ".pytest_cache": true}

// watchFolders watches every folder of a project that may hold source.
func watchFolders(w *fsnotify.Watcher, root string) error {
	return filepath.WalkDir(root, func(name string, d fs.DirEntry, err error) error {
		switch {
		case err != nil || !d.IsDir():
			return nil // it was removed meanwhile
		case name != root && unwatched[d.Name()]:
			return fs.SkipDir
		}
		if err := w.Add(name); err != nil {
			return fmt.Errorf("watching %s: %w", name, err)
		}
		return nil
	})
}

// nextChange waits until something has changed and then nothing for a moment.
func nextChange(ctx context.Context, w *fsnotify.Watcher, root string) error {
	var still <-chan time.Time
	for {
		select {
		case <-ctx.Done():
			return ctx.Err()
		case <-still:
			return nil
		case err := <-w.Errors:
			return fmt.Errorf("watching the project: %w", err)
		case e := <-w.Events:
			if e.Has(fsnotify.Create) { // a new folder is watched too
				if info, err := os.Stat(e.Name); err == nil && info.IsDir() && !unwatched[filepath.Base(e.Name)] {
					watchFolders(w, e.Name)
				}
			}
			still = time.After(quiet)
		}
	}
}

// state is the project's source files with what tells that one has changed: what git tracks
// or would, so that what checks write does not set them off again.
func (r *recorder) state() (map[string]string, error) {
	files, err := gitrepo.Source(r.root)
	if err != nil {
		return nil, fmt.Errorf("--watch follows the files that git knows: %w", err)
	}
	state := map[string]string{}
	for _, name := range files {
		if info, err := os.Stat(filepath.Join(r.root, name)); err == nil {
			state[filepath.ToSlash(name)] = fmt.Sprintf("%d %d", info.Size(), info.ModTime().UnixNano())
		}
	}
	return state, nil
}

// differing lists the files that are others, new or gone.
func differing(was, is map[string]string) []string {
	var list []string
	for name, stamp := range is {
		if was[name] != stamp {
			list = append(list, name)
		}
	}
	for name := range was {
		if _, there := is[name]; !there {
			list = append(list, name)
		}
	}
	slices.Sort(list)
	return list
}
