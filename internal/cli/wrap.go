package cli

import (
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"os/signal"
	"syscall"
	"time"

	"github.com/charmbracelet/x/term"

	"unicausa/internal/api"
)

// exitInterrupted is the exit status after an interrupt, 128 and the signal's number as a
// shell has it.
const exitInterrupted = 128 + int(syscall.SIGINT)

// graceTime is how long output is waited for that a child of an ended command may still
// write: a server that it left running holds nothing up.
const graceTime = 2 * time.Second

// runCheck runs a command, shows what it prints and keeps it in a file without a name,
// standard output and error in the order in which they came. The command has a process
// group of its own. An interrupt goes to all of it, and what came until it ends is kept as
// interrupted; a second one ends it at once. It reads nothing from a terminal.
func runCheck(cmd *exec.Cmd, facts *api.RunFacts, show io.Writer) (*os.File, error) {
	output, err := os.CreateTemp("", "unicausa-record")
	if err != nil {
		return nil, fmt.Errorf("keeping the output: %w", err)
	}
	os.Remove(output.Name()) // so that nothing is left of it, however this ends
	both := io.MultiWriter(show, output)
	cmd.Stdout, cmd.Stderr = both, both
	if f, ok := cmd.Stdin.(*os.File); ok && term.IsTerminal(f.Fd()) {
		cmd.Stdin = nil
	}
	cmd.SysProcAttr = &syscall.SysProcAttr{Setpgid: true}
	cmd.WaitDelay = graceTime
	signals := make(chan os.Signal, 2)
	signal.Notify(signals, os.Interrupt, syscall.SIGTERM)
	defer signal.Stop(signals)
	if err := cmd.Start(); err != nil {
		output.Close()
		return nil, fmt.Errorf("cannot run %s: %w", cmd.Args[0], err)
	}
	ended := make(chan error, 1)
	go func() { ended <- cmd.Wait() }()
	for waiting := true; waiting; {
		select {
		case err = <-ended:
			waiting = false
		case s := <-signals:
			if facts.Interrupted {
				syscall.Kill(-cmd.Process.Pid, syscall.SIGKILL)
				output.Close()
				return nil, &exitError{status: exitInterrupted, err: errors.New("ended: nothing was recorded")}
			}
			facts.Interrupted = true
			syscall.Kill(-cmd.Process.Pid, s.(syscall.Signal))
		}
	}
	facts.Millis = time.Since(facts.StartedAt).Milliseconds()
	var exit *exec.ExitError
	switch {
	case errors.As(err, &exit):
		facts.Exit = exitOf(exit)
	case err != nil && !errors.Is(err, exec.ErrWaitDelay):
		output.Close()
		return nil, fmt.Errorf("running %s: %w", cmd.Args[0], err)
	}
	if _, err := output.Seek(0, io.SeekStart); err != nil {
		return nil, fmt.Errorf("keeping the output: %w", err)
	}
	return output, nil
}

// exitOf is a command's exit status; one that a signal ended has 128 and the signal's
// number, as in a shell.
func exitOf(exit *exec.ExitError) int {
	if status, ok := exit.Sys().(syscall.WaitStatus); ok && status.Signaled() {
		return 128 + int(status.Signal())
	}
	return exit.ExitCode()
}
