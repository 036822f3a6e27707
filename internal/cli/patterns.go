package cli

import (
	"bufio"
	"context"
	"fmt"
	"os"

	"github.com/urfave/cli/v3"

	"unicausa/internal/config"
)

func patternsCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "patterns",
		Usage:        "check the project's own patterns in " + config.Name + ", and try them out on files",
		ArgsUsage:    "[FILE…]",
		OnUsageError: usageError,
		Flags:        []cli.Flag{&cli.StringFlag{Name: "config", Usage: "the configuration", Value: config.Name, TakesFile: true}},
		Action: func(_ context.Context, cmd *cli.Command) error {
			c, patterns, err := config.Load(cmd.String("config"), false)
			if err != nil {
				return err
			}
			fmt.Fprintf(std.out, "%s: %s, each matches its own examples\n", cmd.String("config"), plural(len(c.Patterns), "pattern"))
			for _, name := range cmd.Args().Slice() {
				f, err := os.Open(name)
				if err != nil {
					return fmt.Errorf("cannot read %s: %w", name, cause(err))
				}
				defer f.Close()
				found, lines := 0, bufio.NewScanner(f)
				lines.Buffer(nil, 1<<20)
				for n := 1; lines.Scan(); n++ {
					s, by, ok := patterns.Symptom(lines.Text())
					if !ok {
						continue
					}
					found++
					fmt.Fprintf(std.out, "%s:%d %s (%s): %s", name, n, by, s.Kind, s.Message)
					if s.File != "" {
						fmt.Fprintf(std.out, "  at %s:%d", s.File, s.Line)
					}
					fmt.Fprintln(std.out)
				}
				if err := lines.Err(); err != nil {
					return fmt.Errorf("reading %s: %w", name, err)
				}
				if found == 0 {
					fmt.Fprintf(std.out, "%s: no line matches\n", name)
				}
			}
			return nil
		},
	}
}
