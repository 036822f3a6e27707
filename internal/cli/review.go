package cli

import (
	"context"
	"fmt"
	"io"
	"os"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/gitrepo"
	"unicausa/internal/report"
)

func reviewCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "review",
		Usage:     "hold an edit against what asks for it: what nothing asks for first, what was left behind last",
		ArgsUsage: "[RANGE|DIFF]",
		Description: "RANGE is one that git diff takes, as in main..HEAD; DIFF a file with a unified diff, - for standard input.\n" +
			"Without either, what is not committed; where all is, what changed since the baseline.\n" +
			"Exit status: 0 everything is asked for and done everywhere, 1 there is something to look at, 2 bad usage or input.",
		OnUsageError: usageError,
		Flags:        clientFlags(&cli.StringFlag{Name: "format", Usage: "text, markdown or json", Value: "text"}),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			write := report.Review
			switch format := cmd.String("format"); {
			case format == "markdown":
				write = report.ReviewMarkdown
			case format == "json":
				write = func(w io.Writer, r *api.Review) error { return writeJSON(w, r) }
			case format != "text":
				return fmt.Errorf("--format %q: give text, markdown or json", format)
			case cmd.Args().Len() > 1:
				return fmt.Errorf("this wants one range or one diff (see: %s --help)", cmd.FullName())
			}
			r, err := reviewed(ctx, cmd.Args().First(), std.in, c, upgrade)
			if err != nil {
				return err
			}
			if err := write(std.out, &r); err != nil {
				return err
			}
			if !r.Clean {
				return &exitError{status: exitNew}
			}
			return nil
		}),
	}
}

// reviewed asks for the review of what a person names.
func reviewed(ctx context.Context, name string, in io.Reader, c *client.Client, upgrade int64) (api.Review, error) {
	if name == "" {
		diff, err := gitrepo.Diff(".", "HEAD")
		if err != nil || diff == "" {
			return c.Review(ctx, upgrade, "")
		}
		return c.ReviewDiff(ctx, upgrade, api.DiffText{Diff: diff, Of: "What is not committed"})
	}
	if info, err := os.Stat(name); name == "-" || err == nil && info.Mode().IsRegular() {
		text, err := readFile(name, in)
		if err != nil {
			return api.Review{}, err
		}
		return c.ReviewDiff(ctx, upgrade, api.DiffText{Diff: string(text), Of: name})
	}
	diff, err := gitrepo.Diff(".", name)
	if err != nil {
		return api.Review{}, fmt.Errorf("%s is neither a file nor a range: %w", name, err)
	}
	return c.ReviewDiff(ctx, upgrade, api.DiffText{Diff: diff, Of: name})
}

func readFile(name string, in io.Reader) ([]byte, error) {
	if name == "-" {
		return io.ReadAll(in)
	}
	text, err := os.ReadFile(name)
	if err != nil {
		return nil, fmt.Errorf("cannot read %s: %w", name, cause(err))
	}
	return text, nil
}
