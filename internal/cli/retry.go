package cli

import (
	"context"
	"fmt"
	"strconv"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
)

func retryCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "retry",
		Usage:        "try again what could not be processed, or one run of it",
		ArgsUsage:    "[RUN]",
		Description:  "Runs and documents that the service stumbled over are kept and set aside; unicausa runs and notes say why.\nA newer version of the program tries them again by itself.",
		OnUsageError: usageError,
		Flags:        clientFlags(),
		Action: func(ctx context.Context, cmd *cli.Command) error {
			c, upgrade, err := connectUpgrade(cmd)
			if err != nil {
				return err
			}
			asked := api.Retry{}
			if name := cmd.Args().First(); name != "" {
				n, err := strconv.Atoi(strings.TrimPrefix(name, "#"))
				if err != nil || cmd.Args().Len() > 1 {
					return fmt.Errorf("%q is no run: give the number of one, or nothing for all (see: unicausa runs)", name)
				}
				asked.Run = &n
			}
			tried, err := c.Retry(ctx, upgrade, asked)
			if err != nil {
				return err
			}
			for _, n := range tried.Runs {
				fmt.Fprintf(std.out, "run %d is queued again\n", n)
			}
			for _, name := range tried.Notes {
				fmt.Fprintf(std.out, "%s was read again\n", name)
			}
			if tried.Causes {
				fmt.Fprintln(std.out, "the causes are drawn again")
			}
			if len(tried.Runs)+len(tried.Notes) == 0 && !tried.Causes {
				fmt.Fprintln(std.out, "Nothing was set aside.")
			}
			return nil
		},
	}
}
