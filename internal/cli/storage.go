package cli

import (
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"time"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
)

func backupCommand(std streams) *cli.Command {
	return &cli.Command{
		Name: "backup", Usage: "write all records of the running service to a file", ArgsUsage: "FILE", OnUsageError: usageError,
		Description: "The file is in PostgreSQL's own format (pg_dump, custom): unicausa restore reads it, and so does pg_restore.",
		Flags:       clientFlags(),
		Action: onService(func(ctx context.Context, cmd *cli.Command, c *client.Client) error {
			name, err := oneArgument(cmd, "FILE")
			if err != nil {
				return err
			}
			if _, err := os.Stat(name); !errors.Is(err, fs.ErrNotExist) {
				return fmt.Errorf("%s is there already: name another file", name)
			}
			part := name + ".part"
			f, err := os.OpenFile(part, os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o600)
			if err != nil {
				return fmt.Errorf("cannot write %s: %w", part, cause(err))
			}
			defer os.Remove(part)
			err = c.Backup(ctx, f)
			if closed := errors.Join(f.Sync(), f.Close()); err == nil {
				err = closed
			}
			if err != nil {
				return err
			}
			info, err := os.Stat(part)
			if err == nil {
				err = os.Rename(part, name)
			}
			if err != nil {
				return fmt.Errorf("cannot write %s: %w", name, cause(err))
			}
			fmt.Fprintf(std.out, "%s: %s\n", name, size(info.Size()))
			return nil
		}),
	}
}

func restoreCommand(std streams) *cli.Command {
	return &cli.Command{
		Name: "restore", Usage: "put a backup in the place of all records of the running service, and check it", ArgsUsage: "FILE", OnUsageError: usageError,
		Flags: clientFlags(&cli.BoolFlag{Name: "yes", Usage: "what is recorded now may go"}),
		Action: onService(func(ctx context.Context, cmd *cli.Command, c *client.Client) error {
			name, err := oneArgument(cmd, "FILE")
			if err != nil {
				return err
			}
			if !cmd.Bool("yes") {
				return errors.New("all that is recorded now goes: make a backup of it first, then say --yes")
			}
			f, err := os.Open(name)
			if err != nil {
				return fmt.Errorf("cannot read %s: %w", name, cause(err))
			}
			defer f.Close()
			kept, err := c.Restore(ctx, f)
			if err != nil {
				return err
			}
			fmt.Fprintf(std.out, "restored and checked: %s, %s, %s of raw output\n", plural(kept.Upgrades, "upgrade"), plural(kept.Runs, "run"), size(kept.Bytes))
			return nil
		}),
	}
}

func pruneCommand(std streams) *cli.Command {
	return &cli.Command{
		Name: "prune", Usage: "let go of old raw output; causes, decisions and reports stay", OnUsageError: usageError,
		Description: "The oldest goes first. The baseline and the latest run of every check keep theirs.",
		Flags: clientFlags(
			&cli.IntFlag{Name: "older-than", Usage: "that of runs older than so many `DAYS`"},
			&cli.IntFlag{Name: "keep", Usage: "as much as is needed that no more than so many `MiB`, packed, are kept"},
		),
		Action: onService(func(ctx context.Context, cmd *cli.Command, c *client.Client) error {
			var asked api.Prune
			if cmd.IsSet("older-than") {
				before := time.Now().AddDate(0, 0, -cmd.Int("older-than")).UTC()
				asked.Before = &before
			}
			if cmd.IsSet("keep") {
				keep := int64(cmd.Int("keep")) << 20
				asked.Keep = &keep
			}
			if asked.Before == nil && asked.Keep == nil {
				return errors.New("nothing is let go without a bound: give --older-than DAYS, --keep MiB or both")
			}
			done, err := c.Prune(ctx, asked)
			if err != nil {
				return err
			}
			fmt.Fprintf(std.out, "the raw output of %s was let go, %s; %s are kept\n", plural(done.Runs, "run"), size(done.Bytes), size(done.Left))
			return nil
		}),
	}
}

func deleteCommand(std streams) *cli.Command {
	return &cli.Command{
		Name: "delete", Usage: "delete an upgrade with all that it holds", OnUsageError: usageError,
		Flags: clientFlags(&cli.BoolFlag{Name: "yes", Usage: "it may go for good"}),
		Action: onUpgrade(func(ctx context.Context, cmd *cli.Command, c *client.Client, upgrade int64) error {
			o, err := c.Overview(ctx, upgrade)
			if err != nil {
				return err
			}
			if !cmd.Bool("yes") {
				return fmt.Errorf("upgrade %d of %s (%s) goes for good, with its runs, causes and decisions: say --yes", upgrade, o.Upgrade.Project, o.Upgrade.Name)
			}
			if err := c.Delete(ctx, upgrade); err != nil {
				return err
			}
			fmt.Fprintf(std.out, "upgrade %d of %s is deleted\n", upgrade, o.Upgrade.Project)
			return nil
		}),
	}
}

// size is a number of bytes for a reader.
func size(n int64) string {
	switch {
	case n >= 1<<30:
		return fmt.Sprintf("%.1f GiB", float64(n)/(1<<30))
	case n >= 1<<20:
		return fmt.Sprintf("%.1f MiB", float64(n)/(1<<20))
	}
	return fmt.Sprintf("%d KiB", (n+1023)>>10)
}
