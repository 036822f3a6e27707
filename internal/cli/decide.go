package cli

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
)

func decideCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "decide",
		Usage:     "say what becomes of a cause",
		ArgsUsage: "C3 fix|defer|accept|wait|dismiss",
		Description: "fix claims that a commit settles it: later runs prove or disprove that.\n" +
			"defer and wait come back at --due, a date or a package and its version; accept takes the new behaviour; dismiss says it is none of ours.\n" +
			"--workaround names the lines that keep things going until then, as FILE:FIRST-LAST: they are a debt as well.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "reason", Usage: "why, in a sentence"},
			&cli.StringFlag{Name: "due", Usage: "when to look again: a date (2031-05-01), or a package and its version (jar 6.0.0)"},
			&cli.StringFlag{Name: "commit", Usage: "the commit that fixes it"},
			&cli.StringFlag{Name: "workaround", Usage: "the lines of a workaround, as `FILE:FIRST-LAST`"},
			&cli.BoolFlag{Name: "undo", Usage: "take the latest decision on the cause back"},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error { return decide(ctx, cmd, std) },
	}
}

func decide(ctx context.Context, cmd *cli.Command, std streams) error {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	cause := strings.ToUpper(cmd.Args().First())
	if cmd.Bool("undo") {
		if cmd.Args().Len() != 1 {
			return errors.New("this wants a cause, as in: unicausa decide C3 --undo")
		}
		detail, err := c.Cause(ctx, upgrade, cause)
		if err != nil {
			return err
		}
		if detail.Cause.Decision == nil {
			return fmt.Errorf("nothing is decided of %s", cause)
		}
		if err := c.UndoDecision(ctx, upgrade, detail.Cause.Decision.ID); err != nil {
			return err
		}
		fmt.Fprintf(std.out, "%s: the decision to %s was taken back\n", cause, detail.Cause.Decision.Kind)
		return nil
	}
	if cmd.Args().Len() != 2 {
		return errors.New("this wants a cause and a decision, as in: unicausa decide C3 fix --reason \"renamed in all callers\"")
	}
	d := api.NewDecision{Kind: api.NewDecisionKind(cmd.Args().Get(1)), Reason: cmd.String("reason"), Due: cmd.String("due"), Commit: cmd.String("commit")}
	if value := cmd.String("workaround"); value != "" {
		if d.File, d.Code, err = linesOf(value); err != nil {
			return fmt.Errorf("--workaround %s: %w", value, err)
		}
	}
	detail, err := c.Decide(ctx, upgrade, cause, d)
	if err != nil {
		return err
	}
	fmt.Fprintf(std.out, "%s: %s, %s\n", detail.Cause.ID, d.Kind, d.Reason)
	return nil
}

// linesOf reads FILE:FIRST-LAST, or FILE:LINE.
func linesOf(value string) (file, code string, err error) {
	const want = "give FILE:FIRST-LAST, as in shelf.go:12-18"
	i := strings.LastIndexByte(value, ':')
	if i < 1 {
		return "", "", errors.New(want)
	}
	first, last, ranged := strings.Cut(value[i+1:], "-")
	if !ranged {
		last = first
	}
	from, err1 := strconv.Atoi(first)
	to, err2 := strconv.Atoi(last)
	if err1 != nil || err2 != nil || from < 1 || to < from {
		return "", "", errors.New(want)
	}
	data, err := os.ReadFile(value[:i])
	if err != nil {
		return "", "", cause(err)
	}
	lines := strings.Split(string(data), "\n")
	if to > len(lines) {
		return "", "", fmt.Errorf("the file has %d lines", len(lines))
	}
	return filepath.ToSlash(value[:i]), strings.Join(lines[from-1:to], "\n"), nil
}
