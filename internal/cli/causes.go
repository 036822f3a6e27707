package cli

import (
	"cmp"
	"context"
	"fmt"
	"io"
	"strconv"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/report"
)

func causesCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "causes",
		Usage:        "list the causes in the order to tackle them",
		OnUsageError: usageError,
		Flags: listFlags(
			&cli.BoolFlag{Name: "all", Usage: "with those that are cleared or were there before"},
			&cli.StringFlag{Name: "why", Usage: "say what holds the symptoms of this `CAUSE` together, and what speaks for and against each entry of the notes"},
		),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			if id := cmd.String("why"); id != "" {
				detail, err := c.Cause(ctx, upgrade, strings.ToUpper(id))
				if err != nil {
					return err
				}
				return std.show(cmd, detail, func(w io.Writer) error { return report.Why(w, &detail) })
			}
			causes, err := c.Causes(ctx, upgrade)
			if err != nil {
				return err
			}
			return std.show(cmd, causes, func(w io.Writer) error { return report.Causes(w, causes, cmd.Bool("all")) })
		}),
	}
}

func causeCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "cause",
		Usage:        "show one cause with its symptoms, links and evidence",
		ArgsUsage:    "C3",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			detail, err := oneCause(ctx, cmd, c, upgrade, 1)
			if err != nil {
				return err
			}
			return std.show(cmd, detail, func(w io.Writer) error { return showCause(ctx, streams{out: w}, c, upgrade, detail) })
		}),
	}
}

// oneCause reads the cause that the first argument names.
func oneCause(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64, arguments int) (api.CauseDetail, error) {
	if cmd.Args().Len() != arguments {
		return api.CauseDetail{}, fmt.Errorf("this wants %s (see: %s --help)", cmd.ArgsUsage, cmd.FullName())
	}
	return c.Cause(ctx, upgrade, strings.ToUpper(cmd.Args().First()))
}

// showCause shows a cause with the notes of its links as written.
func showCause(ctx context.Context, std streams, c *client.Client, upgrade int64, d api.CauseDetail) error {
	texts := map[string][]string{}
	for _, l := range d.Links {
		lines, err := c.NotesLines(ctx, upgrade, l.Change.NotesID, l.Change.Line, l.Change.End-l.Change.Line+1)
		if err != nil {
			return err
		}
		texts[l.Change.ID] = lines
	}
	return report.Cause(std.out, &d, texts)
}

// linked is the change that a link of a cause leads to, by the link's number, or one at a place
// of the notes; the first link's where nothing is named.
func linked(ctx context.Context, c *client.Client, upgrade int64, d *api.CauseDetail, name string) (api.Change, error) {
	n, err := strconv.Atoi(cmp.Or(name, "1"))
	if err != nil {
		id, err := changeAt(ctx, c, upgrade, name)
		if err != nil {
			return api.Change{}, err
		}
		detail, err := c.Change(ctx, upgrade, id)
		return detail.Row.Change, err
	}
	if n < 1 || n > len(d.Links) {
		return api.Change{}, fmt.Errorf("%s has %s, none with the number %d", d.Cause.ID, plural(len(d.Links), "link"), n)
	}
	return d.Links[n-1].Change, nil
}

func linkCommand(std streams, name, usage string, state api.LinkJudgementState) *cli.Command {
	return &cli.Command{
		Name:         name,
		Usage:        usage,
		ArgsUsage:    "C3 [LINK]",
		Description:  "LINK is the number of the link as cause shows it, or the place of its entry as in CHANGELOG.md:12; the first without one.",
		OnUsageError: usageError,
		Flags:        clientFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			detail, err := oneCause(ctx, cmd, c, upgrade, max(1, min(cmd.Args().Len(), 2)))
			if err != nil {
				return err
			}
			change, err := linked(ctx, c, upgrade, &detail, cmd.Args().Get(1))
			if err != nil {
				return err
			}
			if _, err := c.JudgeLink(ctx, upgrade, detail.Cause.ID, change.ID, api.LinkJudgement{State: state}); err != nil {
				return err
			}
			fmt.Fprintf(std.out, "%s: link to %s:%d %s\n", detail.Cause.ID, change.Notes, change.Line, state)
			return nil
		}),
	}
}
