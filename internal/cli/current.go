package cli

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"

	"github.com/urfave/cli/v3"

	"unicausa/internal/access"
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
	switch {
	case noted.Server == "":
		noted.Server = "http://" + defaultListen
	case cmd.String("server") == "":
		if err := trusted(noted.Server); err != nil {
			return nil, 0, err
		}
	}
	token, err := access.TokenFor(noted.Server)
	if err != nil {
		return nil, 0, err
	}
	c, err := client.New(noted.Server, token)
	return c, noted.Upgrade, err
}

// serverOf is the service that a command means, where no note of a folder is asked.
func serverOf(cmd *cli.Command) (string, error) {
	if s := cmd.String("server"); s != "" {
		return s, nil
	}
	noted, err := findCurrent()
	if err != nil || noted.Server != "" {
		return noted.Server, err
	}
	return "http://" + defaultListen, nil
}

// trusted refuses a service that only the folder's note names: a repository that was cloned
// may have brought it, and must not decide where source and output go.
func trusted(server string) error {
	if access.Address(server) == "http://"+defaultListen {
		return nil
	}
	known, err := access.KnownServers()
	if err != nil {
		return err
	}
	if _, ok := known[access.Address(server)]; !ok {
		return fmt.Errorf("%s here names the service %s, which you have not named yourself: nothing is sent to it. If you trust it, say so once: unicausa sign-in --server %s", currentName, server, server)
	}
	return nil
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

func noteCurrent(dir string, c current) error {
	data, err := json.Marshal(c)
	if err == nil {
		err = os.WriteFile(filepath.Join(dir, currentName), append(data, '\n'), 0o644)
	}
	if err != nil {
		return fmt.Errorf("noting the upgrade: %w", err)
	}
	return nil
}
