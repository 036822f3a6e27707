package cli

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/charmbracelet/x/term"
	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/config"
	"unicausa/internal/report"
)

// recordAll runs every check that the project describes, on every target, and
// sums up.
func recordAll(ctx context.Context, cmd *cli.Command, std streams) error {
	if cmd.Args().Present() || len(cmd.StringSlice("file")) > 0 || cmd.String("check") != "" {
		return errors.New("--all takes its commands from " + config.Name + ": leave the command, --check and --file out")
	}
	r, err := newRecorder(ctx, cmd, std)
	if err != nil {
		return err
	}
	checks, walks, err := chosen(r.own.Checks, cmd.StringSlice("only"))
	if err != nil {
		return err
	}
	if cmd.Bool("watch") {
		return r.watch(ctx, checks)
	}
	var runs []api.Run
	for i := range checks {
		done, err := r.each(ctx, &checks[i], max(cmd.Int("times"), checks[i].Times, 1), cmd.Bool("clean"))
		runs = append(runs, done...)
		if err != nil {
			return errors.Join(report.Summary(std.out, runs), err)
		}
	}
	if err := errors.Join(report.Summary(std.out, runs), r.due(ctx)); err != nil {
		return err
	}
	for _, name := range walks {
		fmt.Fprintf(std.out, "left to a person: unicausa walk %q\n", name)
	}
	for _, run := range runs {
		if run.Delta != nil && run.Delta.Worse {
			return &exitError{status: exitNew}
		}
	}
	return nil
}

// chosen picks the checks with a command, all or those with certain names, and
// names those that a person walks through.
func chosen(all []config.Check, only []string) (checks []config.Check, walks []string, err error) {
	if len(all) == 0 {
		return nil, nil, fmt.Errorf("%s describes no checks: put name and run of each below checks (see docs/checks.md)", config.Name)
	}
	var names []string
	for _, c := range all {
		names = append(names, c.Name)
		switch {
		case len(only) > 0 && !slices.Contains(only, c.Name):
		case c.ByHand():
			walks = append(walks, c.Name)
		default:
			checks = append(checks, c)
		}
	}
	for _, name := range only {
		if !slices.Contains(names, name) {
			return nil, nil, fmt.Errorf("%s describes no check %q: it has %s", config.Name, name, strings.Join(names, ", "))
		}
	}
	return checks, walks, nil
}

// each runs a check on each of its targets, so often in a row.
func (r *recorder) each(ctx context.Context, check *config.Check, times int, clean bool) ([]api.Run, error) {
	targets := check.Targets
	if len(targets) == 0 {
		targets = []string{""}
	}
	var runs []api.Run
	for _, target := range targets {
		c := check.For(target)
		for n := range times {
			if clean && n == 0 && c.Clean != "" {
				if out, err := r.shell(ctx, &c, target, c.Clean).CombinedOutput(); err != nil {
					return runs, fmt.Errorf("cleaning before %s: %s fails: %w\n%s", c.Name, c.Clean, err, bytes.TrimSpace(out))
				}
			}
			run, err := r.once(ctx, &c, target)
			if err != nil {
				return runs, fmt.Errorf("%s: %w", c.Name, err)
			}
			runs = append(runs, run)
		}
	}
	return runs, nil
}

// once runs a check and records it, with a line that shows how far it is.
func (r *recorder) once(ctx context.Context, check *config.Check, target string) (api.Run, error) {
	facts := r.facts(ctx, check.Name)
	facts.Command, facts.Target, facts.Informative = check.Run, target, check.Informative
	for _, name := range check.Files { // what an earlier run left would pass for this one's
		if err := os.Remove(filepath.Join(r.root, check.Folder, name)); err != nil && !errors.Is(err, os.ErrNotExist) {
			return api.Run{}, fmt.Errorf("removing an earlier report: %w", err)
		}
	}
	name := check.Name
	if target != "" {
		name += "@" + target
	}
	show, stop := io.Discard, func(error) {}
	if r.shown == nil {
		line := newProgress(r.std.out, name)
		show, stop = line, func(err error) { line.stop(facts.Exit, err) }
	}
	output, err := runCheck(r.shell(ctx, check, target, check.Run), &facts, show)
	stop(err)
	if err != nil {
		return api.Run{}, err
	}
	defer output.Close()
	inputs, size := []client.Input{{Name: check.Name + ".log", Content: output}}, sizeOf(output)
	for _, name := range check.Files {
		f, err := os.Open(filepath.Join(r.root, check.Folder, name))
		if errors.Is(err, os.ErrNotExist) { // a build that fails writes no report
			continue
		}
		if err != nil {
			return api.Run{}, fmt.Errorf("reading %s: %w", name, err)
		}
		defer f.Close()
		inputs, size = append(inputs, client.Input{Name: filepath.ToSlash(name), Content: f}), size+sizeOf(f)
	}
	pictures, done, err := picturesOf(filepath.Join(r.root, check.Folder), check.Pictures, facts.StartedAt, inputs)
	if err != nil {
		return api.Run{}, err
	}
	defer done()
	run, err := r.send(ctx, facts, inputs, size, pictures...)
	if err == nil && run.Status == api.Interrupted {
		err = &exitError{status: exitInterrupted, err: fmt.Errorf("interrupted: what came until then is kept as run %d, and counts for nothing", run.Number)}
	}
	if err == nil && run.Status == "failed" {
		err = fmt.Errorf("run %d is stored, but could not be processed: %s", run.Number, run.Problem)
	}
	return run, err
}

// shell is a command line in the project's shell, with the check's folder and
// environment.
func (r *recorder) shell(ctx context.Context, check *config.Check, target, line string) *exec.Cmd {
	cmd := exec.CommandContext(ctx, "sh", "-c", line)
	if runtime.GOOS == "windows" {
		cmd = exec.CommandContext(ctx, "cmd", "/C", line)
	}
	cmd.Dir = filepath.Join(r.root, check.Folder)
	cmd.Env = append(os.Environ(), "UNICAUSA_TARGET="+target)
	for name, value := range check.Env {
		cmd.Env = append(cmd.Env, name+"="+value)
	}
	return cmd
}

// progress is the line of a check that runs: on a terminal it counts, else it
// is written at the beginning and at the end.
type progress struct {
	w        io.Writer
	name     string
	live     bool
	from     time.Time
	mu       sync.Mutex
	lines    int
	finished chan struct{}
}

func newProgress(w io.Writer, name string) *progress {
	p := &progress{w: w, name: name, from: time.Now(), finished: make(chan struct{})}
	if f, ok := w.(*os.File); ok {
		p.live = term.IsTerminal(f.Fd())
	}
	if !p.live {
		return p
	}
	go func() {
		tick := time.NewTicker(200 * time.Millisecond)
		defer tick.Stop()
		for {
			select {
			case <-p.finished:
				return
			case <-tick.C:
				p.mu.Lock()
				fmt.Fprintf(p.w, "\r\x1b[K… %s  %s, %d lines", p.name, time.Since(p.from).Round(time.Second), p.lines)
				p.mu.Unlock()
			}
		}
	}()
	return p
}

// Write counts the lines of the output.
func (p *progress) Write(data []byte) (int, error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.lines += bytes.Count(data, []byte("\n"))
	return len(data), nil
}

func (p *progress) stop(exit int, err error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	close(p.finished)
	if p.live {
		fmt.Fprint(p.w, "\r\x1b[K")
	}
	result := "passes"
	if exit != 0 {
		result = fmt.Sprintf("status %d", exit)
	}
	if err != nil {
		result = "cannot be run"
	}
	fmt.Fprintf(p.w, "%s: %s after %s, %d lines\n", p.name, result, time.Since(p.from).Round(100*time.Millisecond), p.lines)
}
