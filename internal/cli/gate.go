package cli

import (
	"context"
	"errors"
	"fmt"
	"path"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/report"
)

func gateCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:  "gate",
		Usage: "ask whether everything that passed in the baseline passes again, with nothing new undecided",
		Description: "With --target only what came since the last runs on that branch counts: a pull request fails for what it brought alone.\n" +
			"Exit status: 0 the gate is open, 1 it is shut, 2 it could not be asked.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "format", Usage: "text, json, junit, sarif or markdown", Value: "text"},
			&cli.StringFlag{Name: "target", Usage: "the `BRANCH` that the change is meant for"},
			&cli.DurationFlag{Name: "wait", Usage: "so long for runs that wait to be processed, as in 90s"},
		),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			gate, err := settledGate(ctx, c, upgrade, cmd.String("target"), cmd.Duration("wait"))
			if err != nil {
				return err
			}
			if err := report.GateAs(std.out, cmd.String("format"), gate, fmt.Sprintf("%s/upgrades/%d", c.Server(), upgrade)); err != nil {
				return fmt.Errorf("writing the verdict: %w", err)
			}
			if !gate.Open {
				return &exitError{status: exitNew}
			}
			return nil
		}),
	}
}

// settledGate asks for the verdict until no run waits to be processed, or the
// time is over.
func settledGate(ctx context.Context, c *client.Client, upgrade int64, target string, wait time.Duration) (api.Gate, error) {
	until := time.Now().Add(wait)
	for {
		gate, err := c.Gate(ctx, upgrade, target)
		if err != nil || len(gate.Reasons) == 0 || gate.Reasons[0].Code != "pending" || time.Now().After(until) {
			return gate, err
		}
		select {
		case <-ctx.Done():
			return gate, ctx.Err()
		case <-time.After(250 * time.Millisecond):
		}
	}
}

func vouchCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "vouch",
		Usage:     "give your word on a reason of the gate, or on a preparation; without one, list the words given",
		ArgsUsage: "[NUMBER|KEY …]",
		Description: "NUMBER is the reason's as gate shows it, KEY what --format json calls key, * stands for any part of one; before the bump: branch, backup, clean.\n" +
			"For a test that was deleted or skipped while red, a silent risk that was looked at, a version that no run can tell.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "reason", Usage: "what you looked at, in a sentence"},
			&cli.StringSliceFlag{Name: "all-of", Usage: "every reason of a `KIND`, as --format json calls code: silent-risk, lost-test; may be given again"},
			&cli.Int64Flag{Name: "undo", Usage: "take the word with this `NUMBER` back"},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error { return vouch(ctx, cmd, std) },
	}
}

func vouch(ctx context.Context, cmd *cli.Command, std streams) error {
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	if id := cmd.Int64("undo"); id != 0 {
		if err := c.TakeWordBack(ctx, upgrade, id); err != nil {
			return err
		}
		fmt.Fprintf(std.out, "word %d taken back\n", id)
		return nil
	}
	if !cmd.Args().Present() && len(cmd.StringSlice("all-of")) == 0 {
		words, err := c.Words(ctx, upgrade)
		if err != nil {
			return err
		}
		return report.Words(std.out, words)
	}
	reasons, err := c.Gate(ctx, upgrade, "")
	if err != nil {
		return err
	}
	about, err := vouched(cmd.Args().Slice(), cmd.StringSlice("all-of"), reasons.Reasons)
	if err != nil {
		return err
	}
	words := make([]api.Word, 0, len(about))
	for _, key := range about {
		word, err := c.Vouch(ctx, upgrade, api.NewWord{About: key, Reason: cmd.String("reason")})
		if err != nil {
			return err
		}
		words = append(words, word)
	}
	return report.Words(std.out, words)
}

// preparations are what a word may be given on besides the gate's reasons.
var preparations = []string{"branch", "backup", "clean"}

// vouched are the keys that numbers, keys, patterns of keys and kinds of reasons
// name, each once. One that names nothing is an error.
func vouched(args, kinds []string, reasons []api.GateReason) ([]string, error) {
	var keys []string
	add := func(key string) {
		if !slices.Contains(keys, key) {
			keys = append(keys, key)
		}
	}
	for _, arg := range args {
		if n, err := strconv.Atoi(arg); err == nil {
			if n < 1 || n > len(reasons) {
				return nil, fmt.Errorf("the gate has %s, none with the number %d", plural(len(reasons), "reason"), n)
			}
			if reasons[n-1].Key == "" {
				return nil, errors.New("no word is enough here: " + reasons[n-1].Text)
			}
			add(reasons[n-1].Key)
			continue
		}
		found := slices.Contains(preparations, arg)
		if found {
			add(arg)
		}
		for _, r := range reasons {
			for _, key := range append([]string{r.Key}, r.Members...) {
				if match, err := path.Match(flat.Replace(arg), flat.Replace(key)); key != "" && (arg == key || err == nil && match) {
					found = true
					add(key)
				}
			}
		}
		if !found {
			return nil, fmt.Errorf("the gate has no reason %s; unicausa gate --format json shows each one's key", arg)
		}
	}
	for _, kind := range kinds {
		found := false
		for _, r := range reasons {
			if r.Code == kind && r.Key != "" {
				found = true
				add(r.Key)
			}
		}
		if !found {
			return nil, fmt.Errorf("the gate has no reason of the kind %s that a word would settle", kind)
		}
	}
	return keys, nil
}

// flat makes a slash an ordinary sign of a key.
var flat = strings.NewReplacer("/", "\x01")
