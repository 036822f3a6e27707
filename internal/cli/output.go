package cli

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"os"
	"os/exec"
	"strings"

	"github.com/charmbracelet/x/term"
	"github.com/urfave/cli/v3"
)

// listFlags are the flags of a command that lists something.
func listFlags(more ...cli.Flag) []cli.Flag {
	return clientFlags(append(more, &cli.StringFlag{Name: "format", Usage: "text, or json as the service's contract describes it", Value: "text"})...)
}

// show writes what a command lists in the format that it is asked for. In a terminal, text
// that is longer than the screen goes through a pager.
func (std streams) show(cmd *cli.Command, value any, text func(w io.Writer) error) error {
	switch format := cmd.String("format"); format {
	case "", "text":
	case "json":
		return writeJSON(std.out, value)
	default:
		return fmt.Errorf("--format is %q: give text or json", format)
	}
	screen, ok := std.out.(*os.File)
	if !ok || !term.IsTerminal(screen.Fd()) {
		return text(std.out)
	}
	paged := &pagedFile{File: screen}
	if err := text(paged); err != nil {
		return err
	}
	return paged.flush()
}

func writeJSON(w io.Writer, value any) error {
	enc := json.NewEncoder(w)
	enc.SetIndent("", "  ")
	enc.SetEscapeHTML(false)
	return enc.Encode(value)
}

// pagerVariable is the environment variable that names the pager, as POSIX has it; cat or
// nothing is none.
const pagerVariable = "PAGER"

// pagedFile is a terminal, written to when all is there.
type pagedFile struct {
	*os.File
	text bytes.Buffer
}

func (p *pagedFile) Write(data []byte) (int, error) { return p.text.Write(data) }

// flush shows the text, in a pager where the screen is too small for it.
func (p *pagedFile) flush() error {
	_, height, err := term.GetSize(p.Fd())
	pager := pagerOf(os.LookupEnv(pagerVariable))
	if err != nil || len(pager) == 0 || bytes.Count(p.text.Bytes(), []byte("\n")) < height {
		_, err := p.File.Write(p.text.Bytes())
		return err
	}
	cmd := exec.Command(pager[0], pager[1:]...)
	cmd.Stdin, cmd.Stdout, cmd.Stderr = &p.text, p.File, os.Stderr
	if err := cmd.Run(); err != nil {
		return fmt.Errorf("showing it in %s: %w (%s names another pager, cat is none)", pager[0], err, pagerVariable)
	}
	return nil
}

// pagerOf is the pager's command, nil for none.
func pagerOf(value string, set bool) []string {
	if !set {
		if _, err := exec.LookPath("less"); err != nil {
			return nil
		}
		return []string{"less", "-FRX"}
	}
	fields := strings.Fields(value)
	if len(fields) == 1 && fields[0] == "cat" {
		return nil
	}
	return fields
}
