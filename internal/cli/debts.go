package cli

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"strconv"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/report"
)

func debtsCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "debts",
		Usage:        "list what is put off in the project, what is due first, and code that puts something off and stands in no debt",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			debts, err := c.Debts(ctx, upgrade)
			if err != nil {
				return err
			}
			found, err := c.FoundDebts(ctx, upgrade)
			if err != nil {
				return err
			}
			both := struct {
				Debts []api.Debt      `json:"debts"`
				Found []api.FoundDebt `json:"found"`
			}{debts, found}
			return std.show(cmd, both, func(w io.Writer) error { return report.Debts(w, debts, found) })
		}),
		Commands: []*cli.Command{
			{
				Name: "add", Usage: "write a debt down", OnUsageError: usageError, Action: onUpgrade(addDebt(std)),
				Flags: clientFlags(
					&cli.StringFlag{Name: "reason", Usage: "what is put off, and why"},
					&cli.StringFlag{Name: "due", Usage: "when to look again: a date (2031-05-01), or a package and its version (jar 6.0.0)"},
					&cli.IntFlag{Name: "found", Usage: "the place in the code with this `NUMBER`, as debts shows it"},
					&cli.StringFlag{Name: "code", Usage: "the lines that it lives in, as `FILE:FIRST-LAST`"},
					&cli.StringFlag{Name: "cause", Usage: "the cause that it comes from"},
				),
			},
			{Name: "pay", Usage: "say that a debt is paid", ArgsUsage: "NUMBER", OnUsageError: usageError, Action: onUpgrade(payDebt(std)), Flags: clientFlags(&cli.StringFlag{Name: "how", Usage: "how, in a sentence"})},
			{
				Name: "patch", Usage: "print the patch that takes the code of a debt out", ArgsUsage: "NUMBER", OnUsageError: usageError, Flags: clientFlags(), Action: onUpgrade(debtPatch(std)),
			},
		},
	}
}

func addDebt(std streams) upgradeAction {
	return func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
		n := api.NewDebt{Kind: "workaround", Text: cmd.String("reason"), Due: cmd.String("due"), Cause: cmd.String("cause")}
		if number := cmd.Int("found"); number != 0 {
			found, err := c.FoundDebts(ctx, upgrade)
			if err != nil {
				return err
			}
			if number < 1 || number > len(found) {
				return fmt.Errorf("there are %d such places, none with the number %d", len(found), number)
			}
			f := found[number-1]
			n.Kind, n.File, n.Code = api.NewDebtKind(f.Kind), f.File, f.Code
		}
		if value := cmd.String("code"); value != "" {
			var err error
			if n.File, n.Code, err = linesOf(value); err != nil {
				return fmt.Errorf("--code %s: %w", value, err)
			}
		}
		debt, err := c.AddDebt(ctx, upgrade, n)
		if err != nil {
			return err
		}
		return report.Debts(std.out, []api.Debt{debt}, nil)
	}
}

func payDebt(std streams) upgradeAction {
	return func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
		id, err := debtNumber(cmd)
		if err != nil {
			return err
		}
		debt, err := c.SettleDebt(ctx, upgrade, id, api.Settlement{How: cmd.String("how")})
		if err != nil {
			return err
		}
		fmt.Fprintf(std.out, "debt %d paid: %s\n", debt.ID, debt.How)
		return nil
	}
}

func debtPatch(std streams) upgradeAction {
	return func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
		id, err := debtNumber(cmd)
		if err != nil {
			return err
		}
		detail, err := c.Debt(ctx, upgrade, id)
		if err != nil {
			return err
		}
		if detail.Patch == "" {
			return errors.New("its code does not stand in the latest source: it moved, or is gone")
		}
		_, err = fmt.Fprint(std.out, detail.Patch)
		return err
	}
}

func debtNumber(cmd *cli.Command) (int64, error) {
	id, err := strconv.ParseInt(cmd.Args().First(), 10, 64)
	if err != nil || cmd.Args().Len() != 1 {
		return 0, fmt.Errorf("this wants the number of a debt (unicausa debts lists them)")
	}
	return id, nil
}

func casebookCommand(std streams) *cli.Command {
	private := &cli.BoolFlag{Name: "private", Usage: "with what people wrote and the names of projects"}
	return &cli.Command{
		Name:         "casebook",
		Usage:        "list the causes that earlier upgrades settled; hand them on as a file, or take one in",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: func(ctx context.Context, cmd *cli.Command) error {
			book, err := casebookOf(ctx, cmd, true)
			if err != nil {
				return err
			}
			return std.show(cmd, book, func(w io.Writer) error { return report.Cases(w, book.Cases, book.Templates) })
		},
		Commands: []*cli.Command{
			{
				Name: "export", Usage: "write the casebook to a file, or to standard output", ArgsUsage: "[FILE]", OnUsageError: usageError, Flags: clientFlags(private),
				Action: func(ctx context.Context, cmd *cli.Command) error {
					book, err := casebookOf(ctx, cmd, cmd.Bool("private"))
					if err != nil {
						return err
					}
					var out bytes.Buffer
					enc := json.NewEncoder(&out)
					enc.SetIndent("", "  ")
					if err := enc.Encode(book); err != nil {
						return err
					}
					if name := cmd.Args().First(); name != "" {
						if err := os.WriteFile(name, out.Bytes(), 0o644); err != nil {
							return fmt.Errorf("writing the casebook: %w", err)
						}
						fmt.Fprintf(std.out, "%s written to %s\n", plural(len(book.Cases), "case"), name)
						return nil
					}
					_, err = out.WriteTo(std.out)
					return err
				},
			},
			{
				Name: "import", Usage: "take in a casebook that was handed on", ArgsUsage: "FILE", OnUsageError: usageError, Flags: clientFlags(),
				Action: func(ctx context.Context, cmd *cli.Command) error {
					c, _, err := connect(cmd)
					if err != nil {
						return err
					}
					if cmd.Args().Len() != 1 {
						return errors.New("this wants the file of a casebook, as export writes it")
					}
					f, err := os.Open(cmd.Args().First())
					if err != nil {
						return fmt.Errorf("cannot read %s: %w", cmd.Args().First(), cause(err))
					}
					defer f.Close()
					taken, err := c.TakeCasebook(ctx, f)
					if err != nil {
						return err
					}
					fmt.Fprintf(std.out, "%s taken in, %d known already\n", plural(taken.New, "case"), taken.Known)
					return nil
				},
			},
		},
	}
}

func casebookOf(ctx context.Context, cmd *cli.Command, private bool) (api.Casebook, error) {
	c, _, err := connect(cmd)
	if err != nil {
		return api.Casebook{}, err
	}
	return c.Casebook(ctx, private)
}

func reportCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "report",
		Usage:        "tell people: where it stands today, what a pull request changes and why, or the whole upgrade",
		ArgsUsage:    "today|pull-request|closing",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "format", Usage: "markdown, or html: one page with the charts, that prints", Value: "markdown"},
			&cli.StringFlag{Name: "output", Usage: "`FILE` to write instead of standard output"},
		),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			story, format := cmd.Args().First(), cmd.String("format")
			if cmd.Args().Len() != 1 {
				return errors.New("which report? Give today, pull-request or closing")
			}
			if format != "markdown" && format != "html" {
				return fmt.Errorf("--format %q: give markdown or html", format)
			}
			text, err := c.Story(ctx, upgrade, story, format)
			if err != nil {
				return err
			}
			if name := cmd.String("output"); name != "" {
				if err := os.WriteFile(name, text, 0o644); err != nil {
					return fmt.Errorf("writing the report: %w", err)
				}
				return nil
			}
			_, err = std.out.Write(text)
			return err
		}),
	}
}
