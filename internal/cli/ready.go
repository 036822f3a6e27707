package cli

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"time"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/versions"
	"unicausa/internal/report"
)

func readyCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "ready",
		Usage:     "tell who accepts the new version, and who holds it back",
		ArgsUsage: "[FILE… | -]",
		Description: "Reads the ranges of peers, dependencies and runtimes in the lock file that came with the latest run, and what package managers\n" +
			"say when they are asked what is out of date and why something is not taken: FILES of it, text or JSON, or with --ask the\n" +
			"commands of the project's own package managers, which look into their registries. What they say is recorded as the check\n" +
			"\"ready\"; a debt that waits for a release comes due when it is out.\n" +
			"Exit status: 0 all that states a range for it is ready, 1 something is not, 2 bad usage or input.",
		OnUsageError: usageError,
		Flags: listFlags(
			&cli.BoolFlag{Name: "ask", Usage: "run what the project's package managers list as out of date"},
			&cli.BoolFlag{Name: "all", Usage: "list what has no word on it, too"},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error { return ready(ctx, cmd, std) },
	}
}

func ready(ctx context.Context, cmd *cli.Command, std streams) error {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	inputs, command, err := listings(ctx, cmd, std)
	if err != nil {
		return err
	}
	if len(inputs) > 0 {
		if err := recordListings(ctx, c, upgrade, inputs, command); err != nil {
			return err
		}
	}
	r, err := c.Ready(ctx, upgrade)
	if err != nil {
		return err
	}
	if err := std.show(cmd, r, func(w io.Writer) error { return report.Ready(w, &r, cmd.Bool("all")) }); err != nil {
		return err
	}
	for _, d := range r.Dependencies {
		if d.State == api.DependencyStateNotReady {
			return &exitError{status: exitNew}
		}
	}
	return nil
}

// listers are the commands by which package managers list what is out of date, by the file
// at the top of a project that tells of them.
var listers = []struct {
	file    string
	command []string
}{
	{"package-lock.json", []string{"npm", "outdated", "--json"}},
	{"pnpm-lock.yaml", []string{"pnpm", "outdated", "--format", "json"}},
	{"yarn.lock", []string{"yarn", "outdated", "--json"}},
	{"go.mod", []string{"go", "list", "-m", "-u", "-json", "all"}},
	{"Cargo.lock", []string{"cargo", "update", "--dry-run", "--verbose"}},
	{"poetry.lock", []string{"poetry", "show", "--outdated"}},
	{"requirements.txt", []string{"python3", "-m", "pip", "list", "--outdated", "--format", "json"}},
	{"composer.lock", []string{"composer", "outdated", "--format=json"}},
	{"Gemfile.lock", []string{"bundle", "outdated"}},
	{"mix.lock", []string{"mix", "hex.outdated"}},
	{"pubspec.lock", []string{"dart", "pub", "outdated", "--json"}},
	{"packages.lock.json", []string{"dotnet", "list", "package", "--outdated"}},
}

// listings are what package managers say: of files, of standard input, or asked for.
func listings(ctx context.Context, cmd *cli.Command, std streams) (inputs []client.Input, command string, err error) {
	names := cmd.Args().Slice()
	if cmd.Bool("ask") {
		if len(names) > 0 {
			return nil, "", errors.New("--ask runs the commands itself: leave the files out")
		}
		return askListers(ctx, std)
	}
	for _, name := range names {
		var text []byte
		if name == "-" {
			text, err = io.ReadAll(std.in)
		} else {
			text, err = os.ReadFile(name)
		}
		if err != nil {
			return nil, "", fmt.Errorf("cannot read %s: %w", name, cause(err))
		}
		if l := versions.ReadListing(string(text)); len(l.Listed)+len(l.Refusals) == 0 && len(bytes.TrimSpace(text)) > 0 {
			fmt.Fprintf(std.err, "! nothing of %s is a listing that is understood: give what a package manager lists as out of date, as text or JSON\n", name)
		}
		inputs = append(inputs, client.Input{Name: filepath.ToSlash(name), Content: bytes.NewReader(text)})
	}
	return inputs, "", nil
}

// longestAsk is how long a package manager may look into its registry.
const longestAsk = 2 * time.Minute

func askListers(ctx context.Context, std streams) (inputs []client.Input, command string, err error) {
	root, err := project()
	if err != nil {
		return nil, "", err
	}
	var commands []string
	for _, l := range listers {
		if !present(root, []string{l.file}) {
			continue
		}
		asking, cancel := context.WithTimeout(ctx, longestAsk)
		run := exec.CommandContext(asking, l.command[0], l.command[1:]...)
		run.Dir = root
		var out, errs bytes.Buffer
		run.Stdout, run.Stderr = &out, &errs
		err := run.Run()
		cancel()
		line := strings.Join(l.command, " ")
		text := out.String()
		if said := versions.ReadListing(text); len(said.Listed) == 0 { // some list on their standard error
			text += "\n" + errs.String()
		}
		var failed *exec.ExitError
		if err != nil && !errors.As(err, &failed) { // these commands fail where something is out of date
			fmt.Fprintf(std.err, "! %s cannot be run: %v\n", line, err)
			continue
		}
		fmt.Fprintf(std.err, "asked: %s\n", line)
		commands = append(commands, line)
		inputs = append(inputs, client.Input{Name: l.command[0] + ".txt", Content: strings.NewReader(text)})
	}
	if len(inputs) == 0 {
		return nil, "", errors.New("no package manager of this project is known here: give what it lists in a file, or pipe it to: unicausa ready -")
	}
	return inputs, strings.Join(commands, "; "), nil
}

func recordListings(ctx context.Context, c *client.Client, upgrade int64, inputs []client.Input, command string) error {
	facts := api.RunFacts{Check: versions.ReadyCheck, Command: command, Informative: true, StartedAt: time.Now().UTC()}
	run, err := c.Record(ctx, upgrade, facts, inputs, nil, func(int) {})
	if err != nil {
		return err
	}
	if run, err = c.Processed(ctx, upgrade, run.Number); err == nil && run.Status == "failed" {
		err = fmt.Errorf("run %d is stored, but could not be processed: %s", run.Number, run.Problem)
	}
	return err
}
