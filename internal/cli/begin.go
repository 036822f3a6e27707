package cli

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/client"
)

func beginCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "begin",
		Usage:        "begin an upgrade of the project in this folder",
		Description:  "Notes the upgrade in " + currentName + ", so that the other commands know which one is meant.\nExample: unicausa begin --name \"jar 5\" --move example.org/jar=4.2.0..5.0.0",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "project", Usage: "name of the code base (default: the folder's)"},
			&cli.StringFlag{Name: "name", Usage: "name of the upgrade", Required: true},
			&cli.StringSliceFlag{Name: "move", Usage: "what moves, as `PACKAGE=FROM..TO`; may be given again", Required: true},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error {
			c, _, err := connect(cmd)
			if err != nil {
				return err
			}
			n := api.NewUpgrade{Project: cmd.String("project"), Name: cmd.String("name")}
			if n.Project == "" {
				dir, err := os.Getwd()
				if err != nil {
					return fmt.Errorf("finding the working folder: %w", err)
				}
				n.Project = filepath.Base(dir)
			}
			for _, value := range cmd.StringSlice("move") {
				m, err := parseMove(value)
				if err != nil {
					return err
				}
				n.Moves = append(n.Moves, m)
			}
			u, err := c.Begin(ctx, n)
			if err != nil {
				return err
			}
			if err := noteCurrent(current{Server: c.Server(), Upgrade: u.ID}); err != nil {
				return err
			}
			if err := access.Remember(c.Server(), ""); err != nil {
				return err
			}
			fmt.Fprintf(std.out, "upgrade %d of %s begun: %s\n%s/upgrades/%d\n", u.ID, u.Project, u.Name, c.Server(), u.ID)
			fmt.Fprintln(std.out, "next: record every check on the old version, as in: unicausa record --check build -- go build ./...")
			return nil
		},
	}
}

// parseMove reads PACKAGE=FROM..TO.
func parseMove(value string) (api.Move, error) {
	pkg, versions, ok := strings.Cut(value, "=")
	from, to, both := strings.Cut(versions, "..")
	if !ok || !both || pkg == "" {
		return api.Move{}, fmt.Errorf("--move %q: give PACKAGE=FROM..TO, as in example.org/jar=4.2.0..5.0.0", value)
	}
	return api.Move{Package: pkg, From: from, To: to}, nil
}

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

func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}
