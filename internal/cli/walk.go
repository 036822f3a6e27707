package cli

import (
	"bufio"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/client"
	"unicausa/internal/config"
)

func walkCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "walk",
		Usage:     "walk through the program by hand, step by step, and record what was to be seen",
		ArgsUsage: "CHECK",
		Description: "Shows each step that " + config.Name + " describes and asks whether what was expected is to be seen:\n" +
			"Enter or y for yes, s to skip, anything else is what was to be seen instead, and the step fails.\n" +
			"A picture is named behind @, as in: the weight is 0 kg @shot.png\n" +
			"Failing steps are symptoms like any other. Exit status: 0 nothing new, 1 new symptoms, 2 bad usage or input.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "target", Usage: "module, platform or configuration that it is walked on"},
			&cli.StringFlag{Name: "note", Usage: "what else is to be said of the walk"},
			&cli.StringSliceFlag{Name: "picture", Usage: "`FILE` (PNG or JPEG) to keep with it; may be given again", TakesFile: true},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error { return walk(ctx, cmd, std) },
	}
}

func walk(ctx context.Context, cmd *cli.Command, std streams) error {
	r, err := newRecorder(ctx, cmd, std)
	if err != nil {
		return err
	}
	check, err := byHand(r.own.Checks, strings.Join(cmd.Args().Slice(), " "))
	if err != nil {
		return err
	}
	me, err := r.c.Me(ctx)
	if err != nil {
		return err
	}
	facts := r.facts(ctx, check.Name)
	facts.Target, facts.Informative, facts.Command = cmd.String("target"), check.Informative, "by hand, by "+me.Name
	answers, err := ask(std, check)
	if err != nil {
		return err
	}
	pictures := cmd.StringSlice("picture")
	for i := range answers {
		if answers[i].failed() {
			facts.Exit = 1
		}
		if answers[i].picture != "" {
			pictures = append(pictures, answers[i].picture)
		}
	}
	var shown []client.Input
	for _, name := range pictures {
		f, err := os.Open(name)
		if err != nil {
			return fmt.Errorf("cannot read the picture %s: %w", name, cause(err))
		}
		defer f.Close()
		shown = append(shown, client.Input{Name: filepath.Base(name), Content: f})
	}
	text := written(check, answers, cmd.String("note"))
	run, err := r.send(ctx, facts, []client.Input{{Name: check.Name + ".tap", Content: strings.NewReader(text)}}, int64(len(text)), shown...)
	if err != nil {
		return err
	}
	return showRun(std.out, run)
}

// byHand finds the check of a name that a person walks through.
func byHand(checks []config.Check, name string) (*config.Check, error) {
	var names []string
	for i := range checks {
		if !checks[i].ByHand() {
			continue
		}
		if checks[i].Name == name {
			return &checks[i], nil
		}
		names = append(names, fmt.Sprintf("%q", checks[i].Name))
	}
	if len(names) == 0 {
		return nil, fmt.Errorf("%s describes nothing to walk through: give a check steps (see docs/checks.md)", config.Name)
	}
	return nil, fmt.Errorf("%s describes no walk-through %q: it has %s", config.Name, name, strings.Join(names, ", "))
}

// answer is what a person saw at a step.
type answer struct {
	skipped bool
	saw     string // "" for what was expected
	picture string
}

func (a *answer) failed() bool { return a.saw != "" }

// ask goes through the steps. An input that ends before the last step records
// nothing.
func ask(std streams, check *config.Check) ([]answer, error) {
	lines := bufio.NewScanner(std.in)
	var answers []answer
	for i, step := range check.Steps {
		fmt.Fprintf(std.out, "\n%d of %d  %s\n        %s\n", i+1, len(check.Steps), step.Do, step.Expect)
		fmt.Fprint(std.out, "so it is? [Y, s to skip, or what is to be seen instead] ")
		if !lines.Scan() {
			return nil, fmt.Errorf("the walk ended at step %d of %d: nothing was recorded", i+1, len(check.Steps))
		}
		answers = append(answers, answered(lines.Text()))
	}
	fmt.Fprintln(std.out)
	return answers, nil
}

func answered(text string) answer {
	text, picture, _ := strings.Cut(text, "@")
	a := answer{picture: strings.TrimSpace(picture)}
	switch text = strings.TrimSpace(text); strings.ToLower(text) {
	case "", "y", "yes":
	case "s", "skip":
		a.skipped = true
	default:
		a.saw = text
	}
	return a
}

// written is a walk as TAP (version 14), a test for each step.
func written(check *config.Check, answers []answer, note string) string {
	var b strings.Builder
	fmt.Fprintf(&b, "TAP version 14\n1..%d\n", len(answers))
	for i, a := range answers {
		step := check.Steps[i]
		name := strings.NewReplacer("#", `\#`, "\n", " ").Replace(step.Do)
		switch {
		case a.skipped:
			fmt.Fprintf(&b, "ok %d - %s # SKIP by hand\n", i+1, name)
		case a.failed():
			fmt.Fprintf(&b, "not ok %d - %s\n  ---\n  message: %q\n  expected: %q\n  actual: %q\n", i+1, name, "expected: "+step.Expect+", seen: "+a.saw, step.Expect, a.saw)
			if a.picture != "" {
				fmt.Fprintf(&b, "  picture: %q\n", filepath.Base(a.picture))
			}
			b.WriteString("  ...\n")
		default:
			fmt.Fprintf(&b, "ok %d - %s\n", i+1, name)
		}
	}
	for _, line := range strings.Split(note, "\n") {
		if line != "" {
			fmt.Fprintf(&b, "# %s\n", line)
		}
	}
	return b.String()
}

func checksCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "checks",
		Usage:        "list the checks that " + config.Name + " describes",
		OnUsageError: usageError,
		Action: func(ctx context.Context, cmd *cli.Command) error {
			root, err := project()
			if err != nil {
				return err
			}
			own, _, err := loadConfig("", root)
			if err != nil {
				return err
			}
			if _, _, err := chosen(own.Checks, nil); err != nil {
				return err
			}
			for i := range own.Checks {
				fmt.Fprintln(std.out, described(&own.Checks[i]))
			}
			return nil
		},
	}
}

func described(c *config.Check) string {
	text := c.Name
	if len(c.Targets) > 0 {
		text += " on " + strings.Join(c.Targets, ", ")
	}
	if c.ByHand() {
		return text + ": " + plural(len(c.Steps), "step") + " by hand"
	}
	text += ": " + c.Run
	if c.Times > 1 {
		text += fmt.Sprintf(", %d times", c.Times)
	}
	if c.Informative {
		text += ", informs"
	}
	return text
}
