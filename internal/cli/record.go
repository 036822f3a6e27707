package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"github.com/charmbracelet/x/term"
	"github.com/schollz/progressbar/v3"
	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/config"
	"unicausa/internal/gitrepo"
)

func recordCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "record",
		Usage:     "run a check and record what it prints, or record files that it left",
		ArgsUsage: "-- COMMAND [ARGUMENT…]",
		Description: "Shows the command's output while it runs, sends it with exit status, duration, commit and source tree,\n" +
			"and says what changed since the check's last run. With --file nothing is run.\n" +
			"Exit status: 0 nothing new, 1 new symptoms, 2 bad usage or input.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "check", Usage: "name of the check, for example build or test", Required: true},
			&cli.StringSliceFlag{Name: "file", Usage: "output to record; beside a command, a file that the command writes; may be given again", TakesFile: true},
			&cli.IntFlag{Name: "exit", Usage: "exit status of the check whose files are recorded"},
			&cli.BoolFlag{Name: "no-source", Usage: "do not send the source tree: less can be told about causes"},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error { return record(ctx, cmd, std) },
	}
}

func record(ctx context.Context, cmd *cli.Command, std streams) error {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	command, files := cmd.Args().Slice(), cmd.StringSlice("file")
	if len(command) == 0 && len(files) == 0 {
		return errors.New("nothing to record: give a command behind --, or files with --file")
	}
	facts := api.RunFacts{Check: cmd.String("check"), Command: strings.Join(command, " "), Exit: cmd.Int("exit"), StartedAt: time.Now().UTC()}
	if head, ok := gitrepo.Head("."); ok {
		facts.Commit, facts.Subject, facts.Dirty = head.ID, head.Subject, head.Dirty
	}
	own, _, err := loadConfig("", "")
	if err != nil {
		return err
	}
	facts.Patterns = patternsOf(own)
	facts.Versions = versionsHere(ctx, c, upgrade)
	var source []byte
	if !cmd.Bool("no-source") {
		if source, err = gitrepo.Zip("."); err != nil {
			return err
		}
	}
	var inputs []client.Input
	var size int64
	if len(command) > 0 {
		output, err := runCheck(ctx, command, &facts, std)
		if err != nil {
			return err
		}
		defer os.Remove(output.Name())
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
	bar := uploadBar(std.err, size)
	run, err := c.Record(ctx, upgrade, facts, inputs, source, func(n int) { bar.Add(n) })
	bar.Finish()
	if err != nil {
		return err
	}
	if run, err = c.Processed(ctx, upgrade, run.Number); err != nil {
		return err
	}
	return showRun(std.out, run)
}

// patternsOf are the project's own patterns as they are sent.
func patternsOf(c config.Config) []api.Pattern {
	list := make([]api.Pattern, 0, len(c.Patterns))
	for _, p := range c.Patterns {
		list = append(list, api.Pattern{Name: p.Name, Match: p.Match, Kind: p.Kind, Level: p.Level, Phase: p.Phase, Like: p.Like, Unlike: p.Unlike})
	}
	return list
}

// runCheck runs the command, shows what it prints and keeps it in a file,
// standard output and error in the order in which they came.
func runCheck(ctx context.Context, command []string, facts *api.RunFacts, std streams) (*os.File, error) {
	output, err := os.CreateTemp("", "unicausa-record")
	if err != nil {
		return nil, fmt.Errorf("keeping the output: %w", err)
	}
	cmd := exec.CommandContext(ctx, command[0], command[1:]...)
	both := io.MultiWriter(std.out, output)
	cmd.Stdin, cmd.Stdout, cmd.Stderr = std.in, both, both
	err = cmd.Run()
	facts.Millis = time.Since(facts.StartedAt).Milliseconds()
	var exit *exec.ExitError
	switch {
	case errors.As(err, &exit):
		facts.Exit = exit.ExitCode()
	case err != nil:
		os.Remove(output.Name())
		return nil, fmt.Errorf("cannot run %s: %w", command[0], err)
	}
	if _, err := output.Seek(0, io.SeekStart); err != nil {
		return nil, fmt.Errorf("keeping the output: %w", err)
	}
	return output, nil
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

// showRun says what a run changed.
func showRun(w io.Writer, run api.Run) error {
	if run.Status == "failed" {
		return fmt.Errorf("run %d is stored, but could not be processed: %s", run.Number, run.Problem)
	}
	reached := "passes"
	if run.Facts.Exit != 0 {
		reached = fmt.Sprintf("status %d, got as far as %s", run.Facts.Exit, orNothing(run.Frontier))
	}
	fmt.Fprintf(w, "\nrun %d of %s: %s\n", run.Number, run.Facts.Check, reached)
	for _, in := range run.Inputs {
		if in.Problem != "" {
			fmt.Fprintf(w, "! %s: %s\n", in.Name, in.Problem)
		}
		if len(in.Unread) > 0 {
			fmt.Fprintf(w, "? %s: %s like trouble and could not be read, the first at line %d: %s\n", in.Name, looks(len(in.Unread)), in.Unread[0].Line, in.Unread[0].Text)
		}
	}
	for _, notice := range run.Notices {
		fmt.Fprintf(w, "! %s\n", notice)
	}
	d := run.Delta
	if d == nil {
		fmt.Fprintf(w, "%s read; when every check is recorded on the old version, accept them: unicausa baseline\n", plural(run.Symptoms, "symptom"))
		return nil
	}
	fmt.Fprintf(w, "%d new, %d gone, %s left\n", d.New, d.Gone, plural(d.CausesLeft, "cause"))
	for _, part := range []struct {
		text string
		n    int
	}{{"uncovered: hidden until now, not the last edit's doing", d.Uncovered}, {"introduced since the run before", d.Introduced}, {"returned", d.Returned}} {
		if part.n > 0 {
			fmt.Fprintf(w, "  %d %s\n", part.n, part.text)
		}
	}
	for _, part := range []struct {
		text string
		list []string
	}{{"fix proved", d.Proved}, {"fix disproved", d.Disproved}, {"cleared", d.Cleared}, {"opened", d.Opened}} {
		if len(part.list) > 0 {
			fmt.Fprintf(w, "  %s: %s\n", part.text, strings.Join(part.list, " "))
		}
	}
	if d.New > 0 {
		return &exitError{status: exitNew}
	}
	return nil
}

func looks(n int) string {
	if n == 1 {
		return "1 line looks"
	}
	return fmt.Sprintf("%d lines look", n)
}

func orNothing(phase string) string {
	if phase == "" {
		return "nothing that could be read"
	}
	return phase
}
