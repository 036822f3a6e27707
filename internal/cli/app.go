// Package cli is the command line: one file for each command. triage runs the
// core directly; every other command but serve talks to the service.
package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"

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
	err := app(streams{in: in, out: out, err: errs}).Run(ctx, args)
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
	return &cli.Command{
		Name:                      "unicausa",
		Usage:                     "find the causes behind what an upgrade broke, and track them until everything passes again",
		Reader:                    std.in,
		Writer:                    std.out,
		ErrWriter:                 std.err,
		EnableShellCompletion:     true,
		DisableSliceFlagSeparator: true,
		ExitErrHandler:            func(context.Context, *cli.Command, error) {},
		OnUsageError:              usageError,
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
			forgottenCommand(std),
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
			debtsCommand(std),
			casebookCommand(std),
			reportCommand(std),
			activityCommand(std),
			lspCommand(std),
			demoCommand(std),
		}, correctCommands(std)...),
	}
}

// usageError says what is wrong with a call and where to read on.
func usageError(_ context.Context, cmd *cli.Command, err error, _ bool) error {
	return fmt.Errorf("%w (see: %s --help)", err, cmd.FullName())
}
