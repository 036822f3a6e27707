// Package cli is the command line: one file for each command. triage runs the
// core directly; every other command but serve talks to the service.
package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/core/guard"
)

// Exit statuses, the same for every command.
const (
	exitClean = 0 // nothing new; the gate is open
	exitNew   = 1 // new symptoms; the gate is closed
	exitUsage = 2 // bad usage, bad input, or something that could not be done
)

// streams are the standard streams of a command.
type streams struct {
	in       io.Reader
	out, err io.Writer
}

// exitError ends a command with a status and, where it has one, a message.
type exitError struct {
	status int
	err    error
}

func (e *exitError) Error() string {
	if e.err == nil {
		return ""
	}
	return e.err.Error()
}

func (e *exitError) Unwrap() error { return e.err }

// stackVariable is the environment variable that prints the stack of a defect.
const stackVariable = "UNICAUSA_STACK"

// Main runs the command line and returns its exit status.
func Main(ctx context.Context, args []string, in io.Reader, out, errs io.Writer) int {
	std := streams{in: in, out: out, err: errs}
	if quietly(args) {
		std.out, std.err = io.Discard, io.Discard
	}
	err := app(std).Run(ctx, args)
	if err == nil {
		return exitClean
	}
	status := exitUsage
	var exit *exitError
	if errors.As(err, &exit) {
		status = exit.status
	}
	if text := err.Error(); text != "" {
		fmt.Fprintln(errs, "unicausa:", text)
	}
	var broken *guard.Error
	if errors.As(err, &broken) {
		if os.Getenv(stackVariable) != "" {
			fmt.Fprintf(errs, "%s", broken.Stack)
		} else {
			fmt.Fprintf(errs, "(%s=1 prints where)\n", stackVariable)
		}
	}
	return status
}

func app(std streams) *cli.Command {
	root := &cli.Command{
		Name:                      "unicausa",
		Version:                   version(),
		Usage:                     "find the causes behind what an upgrade broke, and track them until everything passes again",
		Reader:                    std.in,
		Writer:                    std.out,
		ErrWriter:                 std.err,
		EnableShellCompletion:     true,
		Flags:                     []cli.Flag{&cli.BoolFlag{Name: quietFlag, Aliases: []string{"q"}, Usage: "print nothing but what a command lists, and what went wrong"}},
		DisableSliceFlagSeparator: true,
		ExitErrHandler:            func(context.Context, *cli.Command, error) {},
		OnUsageError:              usageError,
		Action: func(_ context.Context, cmd *cli.Command) error {
			if name := cmd.Args().First(); name != "" {
				return noCommand(cmd, name)
			}
			return cli.ShowAppHelp(cmd)
		},
		Commands: append([]*cli.Command{
			triageCommand(std),
			serveCommand(std),
			beginCommand(std),
			recordCommand(std),
			signInCommand(std),
			peopleCommand(std),
			backupCommand(std),
			restoreCommand(std),
			pruneCommand(std),
			deleteCommand(std),
			baselineCommand(std),
			notesCommand(std),
			changesCommand(std),
			changeCommand(std),
			markCommand(std),
			unlistedCommand(std),
			patchCommand(std),
			reviewCommand(std),
			versionsCommand(std),
			readyCommand(std),
			findCommand(std),
			runsCommand(std),
			retryCommand(std),
			compareCommand(std),
			testsCommand(std),
			patternsCommand(std),
			causesCommand(std),
			causeCommand(std),
			linkCommand(std, "confirm", "confirm that a change explains a cause", api.LinkJudgementStateConfirmed),
			linkCommand(std, "reject", "reject a change as the explanation of a cause", api.LinkJudgementStateRejected),
			linkCommand(std, "unjudge", "take back what was said of a link", api.LinkJudgementStateProposed),
			decideCommand(std),
			gateCommand(std),
			vouchCommand(std),
			routeCommand(std),
			prepareCommand(std),
			checksCommand(std),
			walkCommand(std),
			commitsCommand(std),
			messageCommand(std),
			askCommand(std),
			debtsCommand(std),
			casebookCommand(std),
			reportCommand(std),
			activityCommand(std),
			lspCommand(std),
			demoCommand(std),
			manCommand(std),
		}, correctCommands(std)...),
	}
	exemplify(root, "unicausa")
	return root
}

// quietFlag is the flag by which commands that act print nothing.
const quietFlag = "quiet"

// lists are the commands whose output is what they are called for.
var lists = map[string]bool{
	"triage": true, "causes": true, "cause": true, "changes": true, "change": true, "versions": true, "ready": true, "find": true, "runs": true, "compare": true, "tests": true,
	"commits": true, "debts": true, "casebook": true, "activity": true, "route": true, "prepare": true, "checks": true, "patch": true, "review": true, "report": true, "message": true, "ask": true,
	"gate": true, "people": true, "corrections": true, "patterns": true, "lsp": true, "man": true, "completion": true, "help": true, "sign-in": true, "serve": true, "demo": true,
}

// quietly reports whether a call of a command that acts is to print nothing.
func quietly(args []string) bool {
	quiet, command := false, ""
	for _, a := range args[min(1, len(args)):] {
		switch {
		case a == "--":
			return quiet && !lists[command]
		case a == "--"+quietFlag || a == "-q":
			quiet = true
		case command == "" && a != "" && a[0] != '-':
			command = a
		}
	}
	return quiet && command != "" && !lists[command]
}

// usageError says what is wrong with a call and where to read on.
func usageError(_ context.Context, cmd *cli.Command, err error, _ bool) error {
	if name, ok := strings.CutPrefix(err.Error(), "flag provided but not defined: -"); ok {
		err = fmt.Errorf("%s has no flag --%s", cmd.FullName(), strings.TrimPrefix(name, "-"))
	}
	return fmt.Errorf("%w (see: %s --help)", err, cmd.FullName())
}

// noCommand is the error of a name that is no command, with the one that is most like it.
func noCommand(root *cli.Command, name string) error {
	like := ""
	for _, c := range root.Commands {
		if strings.HasPrefix(c.Name, name) || strings.HasPrefix(name, c.Name) {
			like = fmt.Sprintf(" (did you mean %s?)", c.Name)
			break
		}
	}
	return fmt.Errorf("there is no command %q%s: unicausa --help lists them", name, like)
}
