package cli

import (
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

func changesCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "changes",
		Usage:        "list the changes of the notes, and what each is to this code",
		OnUsageError: usageError,
		Flags: listFlags(
			&cli.BoolFlag{Name: "all", Usage: "with those that are not used here or lie outside of what moves"},
			&cli.StringFlag{Name: "state", Usage: "only those that are not-used, exposed, failing, handled or later"},
			&cli.StringFlag{Name: "kind", Usage: "only those of a kind: removed, renamed, moved, signature, behaviour, default, deprecated, requirement, added or fixed"},
			&cli.BoolFlag{Name: "silent", Usage: "only silent risks: in the code for certain, and nothing that was printed shows them"},
			&cli.BoolFlag{Name: "perhaps", Usage: "only what may be such a risk, and holds nothing"},
		),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			rows, err := c.Changes(ctx, upgrade)
			if err != nil {
				return err
			}
			state, kind := cmd.String("state"), cmd.String("kind")
			if state != "" && !api.ChangeRowState(state).Valid() {
				return fmt.Errorf("--state is %q: give not-used, exposed, failing, handled or later", state)
			}
			var kept []api.ChangeRow
			for _, r := range rows {
				if (state == "" || string(r.State) == state) && (kind == "" || r.Change.Kind == kind) && (r.Silent || !cmd.Bool("silent")) && (r.Perhaps || !cmd.Bool("perhaps")) {
					kept = append(kept, r)
				}
			}
			if len(kept) == 0 && (cmd.Bool("silent") || cmd.Bool("perhaps")) {
				fmt.Fprintln(std.out, "✓ no such risk is left to look at")
				return nil
			}
			return std.show(cmd, kept, func(w io.Writer) error { return report.Changes(w, kept, cmd.Bool("all") || state != "" || kind != "") })
		}),
	}
}

func changeCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "change",
		Usage:        "show one change: the note as written, and the places in the code that it touches",
		ArgsUsage:    "NOTES:LINE",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			id, err := oneChange(ctx, cmd, c, upgrade, 1)
			if err != nil {
				return err
			}
			d, err := c.Change(ctx, upgrade, id)
			if err != nil {
				return err
			}
			return std.show(cmd, d, func(w io.Writer) error { return report.Change(w, &d) })
		}),
	}
}

// oneChange finds the change that the first argument names.
func oneChange(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64, arguments int) (string, error) {
	if cmd.Args().Len() != arguments {
		return "", fmt.Errorf("this wants %s (see: %s --help)", plural(arguments, "argument"), cmd.FullName())
	}
	return changeAt(ctx, c, upgrade, cmd.Args().First())
}

// changeAt finds a change by the place where it stands, as the lists print it, or by its ID.
func changeAt(ctx context.Context, c *client.Client, upgrade int64, name string) (string, error) {
	rows, err := c.Changes(ctx, upgrade)
	if err != nil {
		return "", err
	}
	within := ""
	for i := range rows {
		at := &rows[i].Change
		place := fmt.Sprintf("%s:%d", at.Notes, at.Line)
		if name == at.ID || name == place || strings.HasSuffix(place, "/"+name) {
			return at.ID, nil
		}
		if within == "" && stands(at, name) {
			within = at.ID
		}
	}
	if within != "" {
		return within, nil
	}
	return "", fmt.Errorf("there is no change at %s: name one by the place where it stands, as in CHANGELOG.md:12 (see: unicausa changes --all)", name)
}

// stands reports whether a place is a line of a change's entry.
func stands(c *api.Change, place string) bool {
	i := strings.LastIndexByte(place, ':')
	line, err := strconv.Atoi(place[i+1:])
	if i < 0 || err != nil || line < c.Line || line > c.End {
		return false
	}
	return c.Notes == place[:i] || strings.HasSuffix(c.Notes, "/"+place[:i])
}

func markCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "mark",
		Usage:        "say what a change is to this code, or correct how it was read",
		ArgsUsage:    "NOTES:LINE",
		Description:  "What is said survives that the notes are read again; an empty --state or --kind takes it back.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "state", Usage: "not-used, exposed, handled or later"},
			&cli.StringFlag{Name: "kind", Usage: "the kind that it is in truth"},
			&cli.StringSliceFlag{Name: "rename", Usage: "a pair of names, as `OLD=NEW`; may be given again"},
			&cli.StringFlag{Name: "reason", Usage: "why, in a sentence", Required: true},
		),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			id, err := oneChange(ctx, cmd, c, upgrade, 1)
			if err != nil {
				return err
			}
			w := api.ChangeWord{Reason: cmd.String("reason")}
			if cmd.IsSet("state") {
				state := api.ChangeWordState(cmd.String("state"))
				w.State = &state
			}
			if cmd.IsSet("kind") {
				kind := api.ChangeWordKind(cmd.String("kind"))
				w.Kind = &kind
			}
			if cmd.IsSet("rename") {
				renames, err := renamesOf(cmd)
				if err != nil {
					return err
				}
				w.Renames = &renames
			}
			d, err := c.SayOfChange(ctx, upgrade, id, w)
			if err != nil {
				return err
			}
			return report.Change(std.out, &d)
		}),
	}
}

func renamesOf(cmd *cli.Command) ([]api.Rename, error) {
	list := []api.Rename{}
	for _, value := range cmd.StringSlice("rename") {
		from, to, ok := strings.Cut(value, "=")
		if !ok || from == "" || to == "" {
			return nil, fmt.Errorf("--rename %q: give OLD=NEW", value)
		}
		list = append(list, api.Rename{From: from, To: to})
	}
	return list, nil
}

func unlistedCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "unlisted",
		Usage:        "add a change that the notes forgot",
		ArgsUsage:    "TITLE",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "kind", Usage: "removed, renamed, moved, signature, behaviour, default, deprecated, requirement, added or fixed", Required: true},
			&cli.StringFlag{Name: "package", Usage: "whose change it is"},
			&cli.StringFlag{Name: "version", Usage: "with which it came"},
			&cli.StringFlag{Name: "source", Usage: "`ADDRESS` of where it is told"},
			&cli.StringSliceFlag{Name: "rename", Usage: "a pair of names, as `OLD=NEW`; may be given again"},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error {
			if cmd.Args().Len() != 1 {
				return fmt.Errorf("this wants a title: say what changes, with the names in backticks (see: %s --help)", cmd.FullName())
			}
			c, upgrade, err := connectUpgrade(cmd)
			if err != nil {
				return err
			}
			renames, err := renamesOf(cmd)
			if err != nil {
				return err
			}
			d, err := c.AddChange(ctx, upgrade, api.NewChange{
				Title: cmd.Args().First(), Kind: api.NewChangeKind(cmd.String("kind")), Package: cmd.String("package"), Version: cmd.String("version"),
				Source: cmd.String("source"), Renames: renames,
			})
			if err != nil {
				return err
			}
			return report.Change(std.out, &d)
		},
	}
}

func versionsCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "versions",
		Usage:        "tell what moved between the baseline and the latest run: what was meant to, and what came along",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			v, err := c.Versions(ctx, upgrade)
			if err != nil {
				return err
			}
			return std.show(cmd, v, func(w io.Writer) error { return report.Versions(w, &v) })
		}),
	}
}
