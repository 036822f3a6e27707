package cli

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"

	"github.com/urfave/cli/v3"

	"unicausa/internal/access"
	"unicausa/internal/client"
	"unicausa/internal/demo"
	"unicausa/internal/pglocal"
)

func demoCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:         "demo",
		Usage:        "run the service with made-up projects and five of their upgrades",
		OnUsageError: usageError,
		Flags: []cli.Flag{
			&cli.StringFlag{Name: "listen", Usage: "`ADDRESS` to listen on; a free port where that one is taken", Value: defaultListen},
			&cli.StringFlag{Name: "database-url", Usage: "an existing PostgreSQL instead of one of its own", Sources: cli.EnvVars("UNICAUSA_DATABASE_URL")},
			&cli.StringFlag{Name: "data", Usage: "folder of the demo's own PostgreSQL", Value: filepath.Join(defaultData(), "demo")},
			&cli.BoolFlag{Name: "load-only", Usage: "end once everything is loaded"},
		},
		Action: func(ctx context.Context, cmd *cli.Command) error {
			ctx, stop := signal.NotifyContext(ctx, os.Interrupt, syscall.SIGTERM)
			defer stop()
			config := serveConfig{listen: cmd.String("listen"), database: cmd.String("database-url"), data: cmd.String("data"), maxUpload: 256 << 20}
			if taken(config.listen) {
				config.listen = "127.0.0.1:0"
			}
			return runDemo(ctx, stop, config, std, cmd.Bool("load-only"))
		},
	}
}

func runDemo(ctx context.Context, stop func(), config serveConfig, std streams, loadOnly bool) error {
	log := slog.New(slog.NewTextHandler(std.err, &slog.HandlerOptions{Level: slog.LevelWarn}))
	var failed error
	err := serve(ctx, log, config, func(address, key string) {
		go func() {
			if failed = load(ctx, "http://"+address, config.data, std.out); failed != nil || loadOnly {
				stop()
				return
			}
			fmt.Fprintf(std.out, "\nThe console is at http://%s\nThis address signs your browser in, once:\n%s\nPress Ctrl-C to stop.\n", address, signInAddress("http://"+address, key))
		}()
	})
	return errors.Join(failed, err)
}

// load loads the demo, or waits while another process loads it into the same
// data folder.
func load(ctx context.Context, server, data string, out io.Writer) error {
	token, err := access.TokenFor(server)
	if err != nil {
		return err
	}
	c, err := client.New(server, token)
	if err != nil {
		return err
	}
	if err := os.MkdirAll(data, 0o755); err != nil {
		return fmt.Errorf("making the data folder: %w", err)
	}
	unlock, err := pglocal.Lock(filepath.Join(data, "loading"))
	if err != nil {
		return err
	}
	defer unlock()
	return demo.Load(ctx, c, func(line string) { fmt.Fprintln(out, line) })
}
