package cli

import (
	"context"
	"errors"
	"fmt"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
)

func patchCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "patch",
		Usage:     "print a unified diff that does a change's edit everywhere: by its notes, or by an example",
		ArgsUsage: "[NOTES:LINE]",
		Description: "Of one example, what both sides show may be anything; a second one narrows that to what differs between them.\n" +
			"Without NOTES:LINE an example is looked for in all programs; --keep remembers it for the change, in the casebook.\n" +
			"The diff goes to standard output, for review and for git apply; why places are taken or left, to standard error.\n" +
			"Exit status: 0 there is a diff, 1 there is none, 2 bad usage or input.",
		OnUsageError:              usageError,
		DisableSliceFlagSeparator: true, // code has commas
		Flags: clientFlags(
			&cli.StringSliceFlag{Name: "only", Usage: "take only this `FILE[:LINE[:COLUMN]]`; may be given again"},
			&cli.StringSliceFlag{Name: "from", Usage: "`CODE` before the edit; may be given again, each with its --to"},
			&cli.StringSliceFlag{Name: "to", Usage: "`CODE` after it"},
			&cli.BoolFlag{Name: "keep", Usage: "remember the example for the change"},
			&cli.BoolFlag{Name: "forget", Usage: "go by the notes again"},
		),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			asked, err := examplesOf(cmd)
			if err != nil {
				return err
			}
			if cmd.Args().Len() > 0 || len(asked.Examples) == 0 {
				if asked.Change, err = oneChange(ctx, cmd, c, upgrade, 1); err != nil {
					return err
				}
			}
			var p api.Patch
			if len(asked.Examples) > 0 || asked.Keep {
				p, err = c.PatchByExample(ctx, upgrade, asked)
			} else {
				p, err = c.Patch(ctx, upgrade, asked.Change, asked.Only)
			}
			if err != nil {
				return err
			}
			h, err := holdAgainst(ctx, c, upgrade, asked.Change, &p)
			if err != nil {
				return err
			}
			for _, text := range h.told {
				fmt.Fprintf(std.err, "read: %s\n", text)
			}
			if len(h.refused) > 0 {
				left := append(p.Refused, h.refused...)
				for _, m := range p.Moves {
					h.kept = append(h.kept, m.From)
				}
				if len(h.kept) == 0 {
					p.Edits, p.Diff, p.Why = nil, "", "none of the places fits what the new version declares"
				} else if p, err = c.Patch(ctx, upgrade, asked.Change, h.kept); err != nil {
					return err
				}
				p.Refused = left
			}
			return showPatch(std, &p)
		}),
	}
}

// examplesOf reads the examples of a command.
func examplesOf(cmd *cli.Command) (api.Examples, error) {
	from, to := cmd.StringSlice("from"), cmd.StringSlice("to")
	asked := api.Examples{Examples: []api.Example{}, Only: cmd.StringSlice("only"), Keep: cmd.Bool("keep") || cmd.Bool("forget")}
	switch {
	case len(from) != len(to):
		return asked, fmt.Errorf("%d times --from and %d times --to: give the code after each edit as well as before", len(from), len(to))
	case cmd.Bool("forget") && len(from) > 0:
		return asked, errors.New("--forget takes no example")
	case asked.Keep && len(from) > 0 && cmd.Args().Len() == 0:
		return asked, errors.New("--keep remembers an example for a change: name it, as in CHANGELOG.md:12")
	case cmd.Bool("keep") && len(from) == 0:
		return asked, errors.New("--keep remembers an example: give it with --from and --to")
	}
	for i := range from {
		asked.Examples = append(asked.Examples, api.Example{From: from[i], To: to[i]})
	}
	return asked, nil
}

// showPatch prints the diff, and beside it why each place is taken or left.
func showPatch(std streams, p *api.Patch) error {
	fmt.Fprint(std.out, p.Diff)
	for _, t := range p.Templates {
		kept := ""
		if p.Kept {
			kept = ", kept in the casebook"
		}
		fmt.Fprintf(std.err, "edit: %s%s\n", t, kept)
	}
	for _, m := range p.Moves {
		fmt.Fprintf(std.err, "moved: %s to %s\n", m.From, m.To)
	}
	for _, e := range p.Edits {
		why := e.Why
		for i, took := range e.Took {
			why += fmt.Sprintf(" · ‹%d› is %s", i+1, strings.Join(strings.Fields(took), " "))
		}
		fmt.Fprintf(std.err, "taken: %s:%d %s\n", e.File, e.Line, why)
	}
	for _, r := range p.Refused {
		fmt.Fprintf(std.err, "left alone: %s:%d %s: %s\n", r.File, r.Line, r.Name, r.Why)
	}
	if p.Care != "" {
		fmt.Fprintf(std.err, "take care: %s\n", p.Care)
	}
	if len(p.Edits)+len(p.Moves) == 0 {
		return &exitError{status: exitNew, err: fmt.Errorf("there is no patch: %s", p.Why)}
	}
	return nil
}
