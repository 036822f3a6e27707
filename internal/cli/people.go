package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"strings"
	"time"

	"github.com/urfave/cli/v3"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/client"
)

func signInCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:  "sign-in",
		Usage: "print an address that signs a browser in once; with --token, remember a service and your token there",
		Description: "On the service's own machine nothing has to be set up. Elsewhere somebody gives you a token (unicausa people add):\n" +
			"keep it with --token, or set " + access.TokenVariable + ". Only services that you have named are ever sent anything.",
		OnUsageError: usageError,
		Flags:        clientFlags(&cli.StringFlag{Name: "token", Usage: "your `TOKEN` there; - reads it from standard input"}),
		Action: func(ctx context.Context, cmd *cli.Command) error {
			token := cmd.String("token")
			if token == "-" {
				data, err := io.ReadAll(io.LimitReader(std.in, 4096))
				if err != nil {
					return fmt.Errorf("reading the token: %w", err)
				}
				token = strings.TrimSpace(string(data))
			}
			server, err := serverOf(cmd)
			if err != nil {
				return err
			}
			if token != "" {
				if err := access.Remember(server, token); err != nil {
					return err
				}
			}
			c, _, err := connect(cmd)
			if err != nil {
				return err
			}
			me, err := c.Me(ctx)
			if err != nil {
				return err
			}
			if err := access.Remember(server, ""); err != nil {
				return err
			}
			key, err := c.SignInKey(ctx)
			if err != nil {
				return err
			}
			fmt.Fprintf(std.out, "You are %s at %s. This address signs a browser in, once:\n%s\n", me.Name, c.Server(), signInAddress(c.Server(), key))
			return nil
		},
	}
}

func signInAddress(server, key string) string { return server + "/sign-in?key=" + key }

func peopleCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "people",
		Usage:        "list who may do what on the service, add people and remove them",
		OnUsageError: usageError,
		Flags:        listFlags(),
		Action: onService(func(ctx context.Context, cmd *cli.Command, c *client.Client) error {
			people, err := c.People(ctx)
			if err != nil {
				return err
			}
			return std.show(cmd, people, func(w io.Writer) error { return showPeople(w, people) })
		}),
		Commands: []*cli.Command{
			{
				Name: "add", Usage: "give a person a role and a token, which is printed this once", ArgsUsage: "NAME", OnUsageError: usageError,
				Flags: clientFlags(
					&cli.StringFlag{Name: "role", Usage: "reader, writer or admin", Value: "writer"},
					&cli.StringSliceFlag{Name: "project", Usage: "the role holds in this project alone; may be given again"},
					&cli.StringFlag{Name: "token-name", Usage: "what the token is for", Value: "first"},
					&cli.IntFlag{Name: "days", Usage: "how long the token is good; 0 for always"},
				),
				Action: onService(func(ctx context.Context, cmd *cli.Command, c *client.Client) error {
					name, err := oneArgument(cmd, "NAME")
					if err != nil {
						return err
					}
					n := api.NewPerson{Name: name, Role: api.Role(cmd.String("role")), Projects: cmd.StringSlice("project"), Token: cmd.String("token-name")}
					if days := cmd.Int("days"); days > 0 {
						ends := time.Now().AddDate(0, 0, int(days)).UTC()
						n.EndsAt = &ends
					}
					token, err := c.AddPerson(ctx, n)
					if err != nil {
						return err
					}
					fmt.Fprintf(std.out, "%s is %s. The token is shown only once:\n%s\n", name, n.Role, token)
					return nil
				}),
			},
			{
				Name: "remove", Usage: "remove a person with all tokens, or one token alone", ArgsUsage: "NAME", OnUsageError: usageError,
				Flags: clientFlags(&cli.StringFlag{Name: "token-name", Usage: "the one token"}),
				Action: onService(func(ctx context.Context, cmd *cli.Command, c *client.Client) error {
					name, err := oneArgument(cmd, "NAME")
					if err != nil {
						return err
					}
					if err := c.RemovePerson(ctx, name, cmd.String("token-name")); err != nil {
						return err
					}
					if token := cmd.String("token-name"); token != "" {
						fmt.Fprintf(std.out, "The token %q of %s is revoked.\n", token, name)
					} else {
						fmt.Fprintf(std.out, "%s is removed; what they decided stays.\n", name)
					}
					return nil
				}),
			},
		},
	}
}

// oneArgument is the only argument of a command.
func oneArgument(cmd *cli.Command, what string) (string, error) {
	if cmd.Args().Len() != 1 || strings.TrimSpace(cmd.Args().First()) == "" {
		return "", fmt.Errorf("give one %s (see: %s --help)", what, cmd.FullName())
	}
	return cmd.Args().First(), nil
}

// onService is the action of a command that is about no upgrade.
func onService(act func(ctx context.Context, cmd *cli.Command, c *client.Client) error) cli.ActionFunc {
	return func(ctx context.Context, cmd *cli.Command) error {
		c, _, err := connect(cmd)
		if err != nil {
			return err
		}
		return act(ctx, cmd, c)
	}
}

func showPeople(w io.Writer, people []api.Person) error {
	if len(people) == 0 {
		_, err := fmt.Fprintln(w, "Nobody but the user of the service's machine. Add people with: unicausa people add NAME --role writer")
		return err
	}
	var failed error
	for _, p := range people {
		var roles []string
		for _, r := range p.Roles {
			where := r.Project
			if where == "" {
				where = "all projects"
			}
			roles = append(roles, fmt.Sprintf("%s of %s", r.Role, where))
		}
		_, err := fmt.Fprintf(w, "%s: %s\n", p.Name, strings.Join(roles, ", "))
		failed = errors.Join(failed, err)
		for _, t := range p.Tokens {
			_, err := fmt.Fprintf(w, "  token %s, %s, %s\n", t.Name, moment("used", t.UsedAt, "never used"), moment("ends", t.EndsAt, "does not end"))
			failed = errors.Join(failed, err)
		}
	}
	return failed
}

func moment(what string, at *time.Time, never string) string {
	if at == nil {
		return never
	}
	return what + " " + at.Local().Format("2006-01-02 15:04")
}
