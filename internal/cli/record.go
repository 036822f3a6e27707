package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
	"time"

	"github.com/charmbracelet/x/term"
	"github.com/schollz/progressbar/v3"
	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/config"
	"unicausa/internal/core/secret"
	"unicausa/internal/core/source"
	"unicausa/internal/gitrepo"
	"unicausa/internal/report"
)

func recordCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "record",
		Usage:     "run a check and record what it prints, or record files that it left; --all runs those of " + config.Name,
		ArgsUsage: "-- COMMAND [ARGUMENT…]",
		Description: "Shows the command's output while it runs, sends it with exit status, duration, commit and source tree,\n" +
			"and says what changed since the check's last run. With --file nothing is run.\n" +
			"With --all every check that " + config.Name + " describes is run on every target, one line each, and a summary behind them;\n" +
			"checks that a person walks through are left to unicausa walk.\n" +
			"Exit status: 0 as good as in the baseline, 1 worse than there, 2 bad usage or input.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "check", Usage: "name of the check, for example build or test"},
			&cli.StringFlag{Name: "target", Usage: "module, platform or configuration that it is run for"},
			&cli.BoolFlag{Name: "informative", Usage: "its failures hold nothing up"},
			&cli.StringSliceFlag{Name: "file", Usage: "output to record; beside a command, a file that the command writes; may be given again", TakesFile: true},
			&cli.StringSliceFlag{Name: "picture", Usage: "`PATTERN` of pictures that the check leaves, beside those that its output names; may be given again"},
			&cli.IntFlag{Name: "exit", Usage: "exit status of the check whose files are recorded"},
			&cli.BoolFlag{Name: "no-source", Usage: "do not send the source tree: less can be told about causes"},
			&cli.DurationFlag{Name: "wait", Usage: "how long to wait until the service has processed the run", Value: longestWait},
			&cli.BoolFlag{Name: "all", Usage: "every check that " + config.Name + " describes"},
			&cli.StringSliceFlag{Name: "only", Usage: "with --all, the `CHECK` of this name alone; may be given again"},
			&cli.IntFlag{Name: "times", Usage: "with --all, so often in a row: a test that ends both ways is flaky"},
			&cli.BoolFlag{Name: "watch", Usage: "with --all, run them again whenever the project's files change"},
			&cli.BoolFlag{Name: "clean", Usage: "with --all, remove what was built before: a stale build passes too"},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error {
			if cmd.Bool("all") {
				return recordAll(ctx, cmd, std)
			}
			return record(ctx, cmd, std)
		},
	}
}

// longestWait is how long a recording waits to be processed where nothing else is said.
const longestWait = 10 * time.Minute

// recorder sends runs of checks to one upgrade.
type recorder struct {
	c       *client.Client
	upgrade int64
	root    string // the project's top folder
	own     config.Config
	sends   bool   // the source tree
	source  []byte // the tree, nil where none is sent
	mask    *secret.Masker
	wait    time.Duration // for a run to be processed
	shown   func()        // draws a watch's screen; nil where each check has a line of its own
	std     streams
}

func newRecorder(ctx context.Context, cmd *cli.Command, std streams) (*recorder, error) {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return nil, err
	}
	root, err := project()
	if err != nil {
		return nil, err
	}
	r := &recorder{c: c, upgrade: upgrade, root: root, std: std, wait: cmd.Duration("wait")}
	if r.wait == 0 {
		r.wait = longestWait
	}
	if r.own, _, err = loadConfig("", root); err != nil {
		return nil, err
	}
	if r.mask, err = secret.New(r.own.Secrets); err != nil || cmd.Bool("no-source") {
		return r, err
	}
	r.sends = true
	return r, r.pack()
}

// pack packs the source tree as it is now.
func (r *recorder) pack() error {
	if !r.sends {
		return nil
	}
	source, left, err := gitrepo.Zip(r.root, func(text []byte) []byte { return []byte(r.masked(string(text))) })
	if told := left.String(); told != "" && r.shown == nil {
		fmt.Fprintf(r.std.err, "not sent with the source: %s\n", told)
	}
	r.source = source
	return err
}

// masked is a text as it may leave the machine.
func (r *recorder) masked(text string) string {
	m := r.mask.For()
	defer func() { r.mask.Count += m.Count }()
	return m.Text(text)
}

// facts are those of a run that begins now, on the working copy as it is.
func (r *recorder) facts(ctx context.Context, check string) api.RunFacts {
	facts := api.RunFacts{Check: check, StartedAt: time.Now().UTC(), Patterns: patternsOf(r.own), Versions: versionsHere(ctx, r.c, r.upgrade, r.root)}
	head, ok := gitrepo.Head(r.root)
	if !ok {
		return facts
	}
	facts.Commit, facts.Subject, facts.Dirty, facts.Branch = head.ID, head.Subject, head.Dirty, gitrepo.Branch(r.root)
	if head.Dirty {
		facts.Diff = gitrepo.DiffDigest(r.root)
	}
	runs, err := r.c.Runs(ctx, r.upgrade)
	if err != nil { // the recording itself will say so
		return facts
	}
	var known []string
	for _, run := range runs {
		if run.Facts.Commit != "" {
			known = append(known, run.Facts.Commit)
		}
	}
	for _, c := range gitrepo.Since(r.root, known) {
		facts.Commits = append(facts.Commits, api.NewCommit{ID: c.ID, Subject: c.Subject, Author: c.Author, At: c.At, Causes: c.Causes, Inert: inert(c.Files)})
	}
	return facts
}

// inert reports whether a commit touches nothing that a check could depend on.
func inert(files []string) bool {
	return len(files) > 0 && !slices.ContainsFunc(files, func(f string) bool { return !source.Inert(f) })
}

// send uploads a run and waits until it is processed.
func (r *recorder) send(ctx context.Context, facts api.RunFacts, inputs []client.Input, size int64, pictures ...client.Input) (api.Run, error) {
	bar := uploadBar(r.std.err, size)
	facts.Command, facts.Subject = r.masked(facts.Command), r.masked(facts.Subject)
	for i := range facts.Commits {
		facts.Commits[i].Subject = r.masked(facts.Commits[i].Subject)
	}
	masks := make([]*secret.Masker, len(inputs))
	for i := range inputs {
		masks[i] = r.mask.For()
		inputs[i].Content = secret.NewReader(masks[i], inputs[i].Content)
	}
	run, err := r.c.Record(ctx, r.upgrade, facts, inputs, r.source, func(n int) { bar.Add(n) }, pictures...)
	bar.Finish()
	for _, m := range masks {
		r.mask.Count += m.Count
	}
	if n := r.mask.Count; n > 0 {
		fmt.Fprintf(r.std.err, "%s masked before anything was sent (see docs/security.md)\n", plural(n, "secret"))
		r.mask.Count = 0
	}
	if err != nil {
		return run, err
	}
	waiting, cancel := context.WithTimeout(ctx, r.wait)
	defer cancel()
	if run, err = r.c.Processed(waiting, r.upgrade, run.Number); errors.Is(err, client.ErrWaiting) {
		err = fmt.Errorf("%w after %s: the service goes on with it, see later with unicausa runs, or wait longer with --wait", err, r.wait)
	}
	return run, err
}

func record(ctx context.Context, cmd *cli.Command, std streams) error {
	r, err := newRecorder(ctx, cmd, std)
	if err != nil {
		return err
	}
	command, files := cmd.Args().Slice(), cmd.StringSlice("file")
	switch {
	case cmd.String("check") == "":
		return errors.New("which check is it? Name it with --check, or run all that " + config.Name + " describes with --all")
	case len(command) == 0 && len(files) == 0:
		return errors.New("nothing to record: give a command behind --, or files with --file")
	}
	facts := r.facts(ctx, cmd.String("check"))
	facts.Command, facts.Exit = strings.Join(command, " "), cmd.Int("exit")
	facts.Target, facts.Informative = cmd.String("target"), cmd.Bool("informative")
	var inputs []client.Input
	var size int64
	if len(command) > 0 {
		c := exec.CommandContext(ctx, command[0], command[1:]...)
		c.Stdin = std.in
		output, err := runCheck(c, &facts, std.out)
		if err != nil {
			return err
		}
		defer output.Close()
		inputs, size = append(inputs, client.Input{Name: facts.Check + ".log", Content: output}), sizeOf(output)
	}
	for _, name := range files {
		f, err := os.Open(name)
		if err != nil {
			return fmt.Errorf("cannot read %s: %w", name, cause(err))
		}
		defer f.Close()
		inputs, size = append(inputs, client.Input{Name: filepath.ToSlash(name), Content: f}), size+sizeOf(f)
	}
	began := facts.StartedAt
	if len(command) == 0 {
		began = time.Time{} // files that are there already: so are the pictures
	}
	pictures, done, err := picturesOf(".", cmd.StringSlice("picture"), began, inputs)
	if err != nil {
		return err
	}
	defer done()
	run, err := r.send(ctx, facts, inputs, size, pictures...)
	if err != nil {
		return err
	}
	return errors.Join(r.due(ctx), showRun(std.out, run))
}

// due tells of the debts that the upgrade, or the day, brings due.
func (r *recorder) due(ctx context.Context) error {
	debts, err := r.c.Debts(ctx, r.upgrade)
	if err != nil {
		return err
	}
	for _, d := range debts {
		if d.IsDue {
			fmt.Fprintf(r.std.out, "! a debt is due, %s: %s (unicausa debts)\n", d.Why, d.Text)
		}
	}
	return nil
}

// patternsOf are the project's own patterns as they are sent.
func patternsOf(c config.Config) []api.Pattern {
	list := make([]api.Pattern, 0, len(c.Patterns))
	for _, p := range c.Patterns {
		list = append(list, api.Pattern{Name: p.Name, Match: p.Match, Kind: p.Kind, Level: p.Level, Phase: p.Phase, Like: p.Like, Unlike: p.Unlike})
	}
	return list
}

func sizeOf(f *os.File) int64 {
	info, err := f.Stat()
	if err != nil {
		return 0
	}
	return info.Size()
}

// uploadBar shows the progress of an upload that takes a while, on a terminal.
func uploadBar(w io.Writer, size int64) *progressbar.ProgressBar {
	const long = 4 << 20
	f, ok := w.(*os.File)
	if !ok || size < long || !term.IsTerminal(f.Fd()) {
		return progressbar.DefaultBytesSilent(size)
	}
	return progressbar.NewOptions64(size, progressbar.OptionSetWriter(w), progressbar.OptionSetDescription("sending"), progressbar.OptionShowBytes(true), progressbar.OptionClearOnFinish())
}

// showRun says what a run changed, and ends with its status.
func showRun(w io.Writer, run api.Run) error {
	if run.Status == api.Interrupted {
		fmt.Fprintf(w, "interrupted: what came until then is kept as run %d, and counts for nothing\n", run.Number)
		return &exitError{status: exitInterrupted}
	}
	if run.Status == "failed" {
		return fmt.Errorf("run %d is stored, but could not be processed: %s", run.Number, run.Problem)
	}
	if err := report.Recorded(w, run); err != nil {
		return err
	}
	if run.Delta != nil && run.Delta.Worse {
		return &exitError{status: exitNew}
	}
	return nil
}
