package cli

import (
	"context"
	"fmt"

	docs "github.com/urfave/cli-docs/v3"
	"github.com/urfave/cli/v3"
)

func manCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "man",
		Usage:        "print the manual page, as man reads it",
		OnUsageError: usageError,
		Action: func(_ context.Context, cmd *cli.Command) error {
			tellMore(cmd.Root())
			text, err := docs.ToManWithSection(cmd.Root(), 1)
			if err != nil {
				return fmt.Errorf("writing the manual page: %w", err)
			}
			_, err = fmt.Fprint(std.out, text)
			return err
		},
	}
}

// tellMore moves what the help says of a command to where the manual page shows it.
func tellMore(cmd *cli.Command) {
	for _, c := range cmd.Commands {
		c.UsageText = c.Description
		tellMore(c)
	}
}
