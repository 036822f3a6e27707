package cli

import (
	"context"
	"fmt"

	"github.com/urfave/cli/v3"

	"unicausa/internal/client"
)

func baselineCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "baseline",
		Usage:        "accept the latest run of every check as what \"passes again\" is measured against",
		OnUsageError: usageError,
		Flags:        clientFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			runs, err := c.Runs(ctx, upgrade)
			if err != nil {
				return err
			}
			for _, r := range runs { // what is accepted has to be read first
				if r.Status == "stored" {
					if _, err := c.Processed(ctx, upgrade, r.Number); err != nil {
						return err
					}
				}
			}
			if runs, err = c.AcceptBaseline(ctx, upgrade); err != nil {
				return err
			}
			for _, r := range runs {
				status := "passes"
				if r.Facts.Exit != 0 {
					status = fmt.Sprintf("fails with status %d", r.Facts.Exit)
				}
				fmt.Fprintf(std.out, "%s: run %d accepted, %s, %s known\n", r.Facts.Check, r.Number, status, plural(r.Symptoms, "symptom"))
			}
			return nil
		}),
	}
}
