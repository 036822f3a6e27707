package cli

import (
	"context"
	"errors"
	"io"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/client"
	"unicausa/internal/report"
)

func findCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "find",
		Usage:        "find causes, files, tests, changes and runs by name or number",
		ArgsUsage:    "TEXT",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			text := strings.TrimSpace(strings.Join(cmd.Args().Slice(), " "))
			if text == "" {
				return errors.New("what is looked for? As in: unicausa find OpenLid")
			}
			found, err := c.Find(ctx, upgrade, text)
			if err != nil {
				return err
			}
			return std.show(cmd, found, func(w io.Writer) error { return report.Found(w, found) })
		}),
	}
}
