package cli

import (
	"context"
	"fmt"

	"github.com/urfave/cli/v3"

	"unicausa/internal/client"
)

func askCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "ask",
		Usage:     "print a question about a cause, ready to be asked where others can answer it",
		ArgsUsage: "C3",
		Description: "It says what moved, the message and the smallest excerpt without the project's own names and paths, and what was tried.\n" +
			"What comes back is added as a change with its source: unicausa unlisted.",
		OnUsageError: usageError,
		Flags:        clientFlags(&cli.BoolFlag{Name: "upstream", Usage: "a report to those who make what moved instead, with versions and how to see it"}),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			detail, err := oneCause(ctx, cmd, c, upgrade, 1)
			if err != nil {
				return err
			}
			text := detail.Question
			if cmd.Bool("upstream") {
				text = detail.Upstream
			}
			_, err = fmt.Fprint(std.out, text)
			return err
		}),
	}
}
