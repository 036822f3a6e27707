package cli

import (
	"context"
	"fmt"
	"io"
	"strconv"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/report"
)

func runsCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "runs",
		Usage:        "list the runs, the latest first, or show what one run says",
		ArgsUsage:    "[RUN]",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			if cmd.Args().Len() == 0 {
				runs, err := c.Runs(ctx, upgrade)
				if err != nil {
					return err
				}
				return std.show(cmd, runs, func(w io.Writer) error { return report.Runs(w, runs) })
			}
			number, err := runNumber(cmd.Args().First())
			if err != nil {
				return err
			}
			run, err := c.Run(ctx, upgrade, number)
			if err != nil {
				return err
			}
			symptoms, err := c.RunSymptoms(ctx, upgrade, number)
			if err != nil {
				return err
			}
			both := struct {
				Run      api.Run          `json:"run"`
				Symptoms []api.RunSymptom `json:"symptoms"`
			}{run, symptoms}
			return std.show(cmd, both, func(w io.Writer) error { return report.Run(w, run, symptoms) })
		}),
	}
}

func compareCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "compare",
		Usage:        "compare any two runs: what is new, what is gone, what was made otherwise",
		ArgsUsage:    "EARLIER LATER",
		Description:  "Exit status: 0 nothing new, 1 new symptoms or lost tests, 2 bad usage or input.",
		OnUsageError: usageError,
		Flags:        listFlags(&cli.BoolFlag{Name: "all", Usage: "list what did not change, too"}),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			if cmd.Args().Len() != 2 {
				return fmt.Errorf("this wants two runs, as in: unicausa compare 3 7")
			}
			earlier, err := runNumber(cmd.Args().Get(0))
			if err != nil {
				return err
			}
			later, err := runNumber(cmd.Args().Get(1))
			if err != nil {
				return err
			}
			comparison, err := c.Compare(ctx, upgrade, earlier, later)
			if err != nil {
				return err
			}
			worse := false
			err = std.show(cmd, comparison, func(w io.Writer) (err error) {
				worse, err = report.Comparison(w, comparison, cmd.Bool("all"))
				return err
			})
			if err == nil && worse {
				err = &exitError{status: exitNew}
			}
			return err
		}),
	}
}

func testsCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "tests",
		Usage:        "set every test against every run, trouble first",
		OnUsageError: usageError,
		Flags:        listFlags(&cli.BoolFlag{Name: "all", Usage: "list the tests that always passed, too"}),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			table, err := c.Tests(ctx, upgrade)
			if err != nil {
				return err
			}
			return std.show(cmd, table, func(w io.Writer) error { return report.Tests(w, table, cmd.Bool("all")) })
		}),
	}
}

// runNumber reads the number of a run, with or without a "#".
func runNumber(text string) (int, error) {
	if len(text) > 1 && text[0] == '#' {
		text = text[1:]
	}
	n, err := strconv.Atoi(text)
	if err != nil || n < 1 {
		return 0, fmt.Errorf("%q is no number of a run (see: unicausa runs)", text)
	}
	return n, nil
}
