package cli

import (
	"context"
	"errors"
	"fmt"
	"io"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/report"
)

func routeCommand(std streams) *cli.Command {
	move := &cli.StringSliceFlag{Name: "move", Usage: "what moves, as `PACKAGE=FROM..TO`; may be given again"}
	reason := &cli.StringFlag{Name: "reason", Usage: "why, in a sentence"}
	act := func(kind api.NewLegKind) cli.ActionFunc {
		return func(ctx context.Context, cmd *cli.Command) error { return changeRoute(ctx, cmd, std, kind) }
	}
	return &cli.Command{
		Name:         "route",
		Usage:        "show the legs of the upgrade, and those that the notes suggest; plan, begin or abandon one",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			legs, err := c.Legs(ctx, upgrade)
			if err != nil {
				return err
			}
			var proposed []api.ProposedLeg
			if len(legs) == 1 {
				if proposed, err = c.ProposeRoute(ctx, upgrade); err != nil {
					return err
				}
			}
			both := struct {
				Legs     []api.LegRow      `json:"legs"`
				Proposed []api.ProposedLeg `json:"proposed"`
			}{legs, proposed}
			return std.show(cmd, both, func(w io.Writer) error { return report.Route(w, legs, proposed) })
		}),
		Commands: []*cli.Command{
			{Name: "plan", Usage: "put a leg at the end of the route", OnUsageError: usageError, Flags: clientFlags(move), Action: act("plan")},
			{
				Name: "next", Usage: "go on to the next leg, the planned one or what --move says", OnUsageError: usageError, Flags: clientFlags(move, reason), Action: act("next"),
				Description: "It is measured against the latest run of every check. While the gate is shut it wants --reason.",
			},
			{Name: "restart", Usage: "abandon the current leg and begin it anew, with its moves or others", OnUsageError: usageError, Flags: clientFlags(move, reason), Action: act("restart")},
		},
	}
}

func changeRoute(ctx context.Context, cmd *cli.Command, std streams, kind api.NewLegKind) error {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	n := api.NewLeg{Kind: kind, Reason: cmd.String("reason")}
	for _, value := range cmd.StringSlice("move") {
		m, err := parseMove(value)
		if err != nil {
			return err
		}
		n.Moves = append(n.Moves, m)
	}
	if kind == api.Plan && len(n.Moves) == 0 {
		return errors.New("nothing is planned without a move: say what the leg moves with --move PACKAGE=FROM..TO")
	}
	if _, err := c.ChangeRoute(ctx, upgrade, n); err != nil {
		return err
	}
	legs, err := c.Legs(ctx, upgrade)
	if err != nil {
		return err
	}
	return report.Route(std.out, legs, nil)
}

func prepareCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "prepare",
		Usage:        "list what has to be done before the bump, and what is",
		Description:  "Exit status: 0 all is done, 1 something is left, 2 it could not be asked.",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			list, err := c.Preparation(ctx, upgrade)
			if err != nil {
				return err
			}
			if err := std.show(cmd, list, func(w io.Writer) error { return report.Prepared(w, list) }); err != nil {
				return err
			}
			for _, p := range list {
				if !p.Done {
					return &exitError{status: exitNew}
				}
			}
			return nil
		}),
	}
}

func commitsCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "commits",
		Usage:        "list the commits with the causes that each names, cleared and brought",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			list, err := c.Commits(ctx, upgrade)
			if err != nil {
				return err
			}
			return std.show(cmd, list, func(w io.Writer) error { return report.Commits(w, list) })
		}),
	}
}

func messageCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "message",
		Usage:        "propose a commit message for the fix of a cause",
		ArgsUsage:    "C3",
		OnUsageError: usageError,
		Flags:        clientFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			detail, err := oneCause(ctx, cmd, c, upgrade, 1)
			if err != nil {
				return err
			}
			_, err = fmt.Fprint(std.out, detail.Message)
			return err
		}),
	}
}

func activityCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "activity",
		Usage:        "list what happened, and who did it, the latest first",
		OnUsageError: usageError,
		Flags:        listFlags(&cli.IntFlag{Name: "count", Usage: "how much of it", Value: 50}),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			list, err := c.Activity(ctx, upgrade, cmd.Int("count"))
			if err != nil {
				return err
			}
			return std.show(cmd, list, func(w io.Writer) error { return report.Activity(w, list) })
		}),
	}
}
