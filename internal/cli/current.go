package cli

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"strconv"

	"github.com/urfave/cli/v3"

	"unicausa/internal/client"
)

// currentName is the file that begin leaves in a project: which upgrade the
// other commands mean, and where its service is.
const currentName = ".unicausa.json"

type current struct {
	Server  string `json:"server"`
	Upgrade int64  `json:"upgrade"`
}

// clientFlags are the flags of every command that talks to the service.
func clientFlags(more ...cli.Flag) []cli.Flag {
	return append(more,
		&cli.StringFlag{Name: "server", Usage: "address of the service (default: what begin noted, or http://" + defaultListen + ")", Sources: cli.EnvVars("UNICAUSA_SERVER")},
		&cli.Int64Flag{Name: "upgrade", Usage: "`NUMBER` of the upgrade (default: what begin noted)", Sources: cli.EnvVars("UNICAUSA_UPGRADE")},
	)
}

// connect finds the service and the upgrade that a command means.
func connect(cmd *cli.Command) (*client.Client, int64, error) {
	noted, err := findCurrent()
	if err != nil {
		return nil, 0, err
	}
	if s := cmd.String("server"); s != "" {
		noted.Server = s
	}
	if u := cmd.Int64("upgrade"); u != 0 {
		noted.Upgrade = u
	}
	if noted.Server == "" {
		noted.Server = "http://" + defaultListen
	}
	c, err := client.New(noted.Server)
	return c, noted.Upgrade, err
}

// connectUpgrade is connect for commands that need an upgrade.
func connectUpgrade(cmd *cli.Command) (*client.Client, int64, error) {
	c, upgrade, err := connect(cmd)
	if err == nil && upgrade == 0 {
		err = errors.New("no upgrade is meant: begin one here (unicausa begin), or name one with --upgrade")
	}
	return c, upgrade, err
}

// upgradeAction is what a command does with the upgrade that it means.
type upgradeAction func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error

// onUpgrade is the action of a command that means an upgrade.
func onUpgrade(act upgradeAction) cli.ActionFunc {
	return func(ctx context.Context, cmd *cli.Command) error {
		c, upgrade, err := connectUpgrade(cmd)
		if err != nil {
			return err
		}
		return act(ctx, cmd, c, upgrade)
	}
}

// findCurrent reads the note of this folder or of the nearest one above it.
func findCurrent() (current, error) {
	dir, err := os.Getwd()
	if err != nil {
		return current{}, fmt.Errorf("finding the working folder: %w", err)
	}
	for {
		data, err := os.ReadFile(filepath.Join(dir, currentName))
		if err == nil {
			var c current
			if err := json.Unmarshal(data, &c); err != nil {
				return c, fmt.Errorf("%s is not what begin writes (%v): remove it, and name the upgrade with --upgrade", filepath.Join(dir, currentName), err)
			}
			return c, nil
		}
		above := filepath.Dir(dir)
		if above == dir {
			return current{}, nil
		}
		dir = above
	}
}

func noteCurrent(c current) error {
	data, err := json.Marshal(c)
	if err == nil {
		err = os.WriteFile(currentName, append(data, '\n'), 0o644)
	}
	if err != nil {
		return fmt.Errorf("noting the upgrade: %w", err)
	}
	return nil
}

// author is who acts: the user that the system knows.
func author() string {
	for _, name := range []string{"UNICAUSA_AUTHOR", "USER", "LOGNAME"} {
		if v := os.Getenv(name); v != "" {
			return v
		}
	}
	return "uid " + strconv.Itoa(os.Getuid())
}
