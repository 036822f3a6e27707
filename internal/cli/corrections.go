package cli

import (
	"context"
	"fmt"
	"io"
	"path"
	"strconv"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/report"
)

// correctCommands are the commands that say where symptoms belong.
func correctCommands(std streams) []*cli.Command {
	const numbers = "SYMPTOM is a symptom's number as cause shows it; --file picks those in files, by a pattern like shelf/*.go.\n" +
		"The causes are drawn anew in the background; undo takes it back."
	file := &cli.StringFlag{Name: "file", Usage: "the symptoms in files that a `PATTERN` fits"}
	reason := &cli.StringFlag{Name: "reason", Usage: "why, for whoever reads it later"}
	return []*cli.Command{
		{
			Name: "move", Usage: "move symptoms of one cause to another", ArgsUsage: "C3 SYMPTOM…", Description: numbers, OnUsageError: usageError,
			Flags:  clientFlags(file, reason, &cli.StringFlag{Name: "to", Usage: "the `CAUSE` that they belong to", Required: true}),
			Action: func(ctx context.Context, cmd *cli.Command) error { return correct(ctx, cmd, std, "move") },
		},
		{
			Name: "split", Usage: "make symptoms of a cause one of their own", ArgsUsage: "C3 SYMPTOM…", Description: numbers, OnUsageError: usageError,
			Flags:  clientFlags(file, reason),
			Action: func(ctx context.Context, cmd *cli.Command) error { return correct(ctx, cmd, std, "split") },
		},
		{
			Name: "pin", Usage: "keep symptoms in their cause, whatever later runs suggest", ArgsUsage: "C3 [SYMPTOM…]", Description: numbers + "\nWithout numbers all of them are pinned.", OnUsageError: usageError,
			Flags:  clientFlags(file, reason),
			Action: func(ctx context.Context, cmd *cli.Command) error { return correct(ctx, cmd, std, "pin") },
		},
		{
			Name: "merge", Usage: "make two causes one", ArgsUsage: "C3 C5", Description: "C5 is given up: all that is of it is of C3, in later runs too.", OnUsageError: usageError,
			Flags: clientFlags(reason),
			Action: func(ctx context.Context, cmd *cli.Command) error {
				if cmd.Args().Len() != 2 {
					return fmt.Errorf("this wants two causes, as in: unicausa merge C3 C5")
				}
				return say(ctx, cmd, std, api.NewCorrection{Kind: "merge", Cause: strings.ToUpper(cmd.Args().Get(0)), From: strings.ToUpper(cmd.Args().Get(1))})
			},
		},
		{
			Name: "corrections", Usage: "list what people said of where symptoms belong", OnUsageError: usageError, Flags: listFlags(),
			Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
				list, err := c.Corrections(ctx, upgrade)
				if err != nil {
					return err
				}
				return std.show(cmd, list, func(w io.Writer) error { return report.Corrections(w, list) })
			}),
		},
		{
			Name: "undo", Usage: "take a correction back", ArgsUsage: "[NUMBER]", Description: "NUMBER is the correction's as corrections shows it; without one it is the latest that holds.", OnUsageError: usageError, Flags: clientFlags(),
			Action: func(ctx context.Context, cmd *cli.Command) error { return undo(ctx, cmd, std) },
		},
	}
}

// correct says it of the symptoms that the arguments pick.
func correct(ctx context.Context, cmd *cli.Command, std streams, kind api.NewCorrectionKind) error {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	if cmd.Args().Len() == 0 {
		return fmt.Errorf("this wants a cause and the numbers of its symptoms, as in: unicausa %s C3 1 4 (unicausa cause C3 shows them)", kind)
	}
	detail, err := c.Cause(ctx, upgrade, strings.ToUpper(cmd.Args().First()))
	if err != nil {
		return err
	}
	n := api.NewCorrection{Kind: kind, Cause: detail.Cause.ID}
	if kind == "move" {
		n.Cause = strings.ToUpper(cmd.String("to"))
	}
	if n.Symptoms, err = picked(&detail, cmd.Args().Tail(), cmd.String("file"), kind == "pin"); err != nil {
		return err
	}
	return say(ctx, cmd, std, n)
}

// picked are the IDs of the symptoms with certain numbers or in certain files;
// with neither, all of them if that is meant.
func picked(d *api.CauseDetail, numbers []string, pattern string, all bool) ([]string, error) {
	chosen := map[int]bool{}
	for _, value := range numbers {
		n, err := strconv.Atoi(value)
		if err != nil || n < 1 || n > len(d.Symptoms) {
			return nil, fmt.Errorf("%s has %s, none with the number %s", d.Cause.ID, plural(len(d.Symptoms), "symptom"), value)
		}
		chosen[n-1] = true
	}
	var ids []string
	for i := range d.Symptoms {
		inFile := false
		if pattern != "" {
			var err error
			if inFile, err = path.Match(pattern, d.Symptoms[i].File); err != nil {
				return nil, fmt.Errorf("--file %s is no pattern: %w", pattern, err)
			}
		}
		if chosen[i] || inFile || all && pattern == "" && len(numbers) == 0 {
			ids = append(ids, d.Symptoms[i].ID)
		}
	}
	switch {
	case len(ids) == 0 && pattern != "":
		return nil, fmt.Errorf("no symptom of %s stands in a file like %s", d.Cause.ID, pattern)
	case len(ids) == 0:
		return nil, fmt.Errorf("which symptoms of %s? Give their numbers, or --file (unicausa cause %s shows them)", d.Cause.ID, d.Cause.ID)
	}
	return ids, nil
}

func say(ctx context.Context, cmd *cli.Command, std streams, n api.NewCorrection) error {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	n.Reason = cmd.String("reason")
	made, err := c.Correct(ctx, upgrade, n)
	if err != nil {
		return err
	}
	return report.Corrections(std.out, []api.Correction{made})
}

func undo(ctx context.Context, cmd *cli.Command, std streams) error {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	list, err := c.Corrections(ctx, upgrade)
	if err != nil {
		return err
	}
	for _, correction := range list {
		number := strconv.FormatInt(correction.ID, 10)
		if correction.Undone || cmd.Args().Present() && cmd.Args().First() != number {
			continue
		}
		if err := c.UndoCorrection(ctx, upgrade, correction.ID); err != nil {
			return err
		}
		correction.Undone = true
		return report.Corrections(std.out, []api.Correction{correction})
	}
	return fmt.Errorf("there is no such correction that holds (unicausa corrections lists them)")
}
