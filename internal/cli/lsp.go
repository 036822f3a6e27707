package cli

import (
	"context"
	"fmt"
	"io"
	"os"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/editor"
)

func lspCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "lsp",
		Usage:     "show the causes in an editor, over the Language Server Protocol on standard input and output",
		ArgsUsage: "[AFTER-FILE…]",
		Description: "Symptoms are diagnostics at their places, with the cause and the entry of the notes that explains it; hovering shows the entry\n" +
			"as written; code actions apply its patch here or everywhere, decide, and open the cause in the console. Without files it shows the\n" +
			"upgrade that has begun in this folder, kept current as runs are recorded; with files it shows what unicausa triage draws out of\n" +
			"them, drawn again when they change.",
		OnUsageError: usageError,
		Flags:        clientFlags(caseFlags()...),
		Action:       func(ctx context.Context, cmd *cli.Command) error { return lsp(ctx, cmd, std) },
	}
}

func lsp(ctx context.Context, cmd *cli.Command, std streams) error {
	root, err := project()
	if err != nil {
		return err
	}
	server := editor.Server{Root: root, Version: version()}
	if cmd.Args().Present() {
		if cmd.String("repo") == "" {
			cmd.Set("repo", root)
		}
		server.Root = cmd.String("repo")
		server.Source = &editor.Local{Draw: func(ctx context.Context) (editor.Drawn, error) { return drawCase(ctx, cmd, nil) }, Stamp: func() string { return stampOf(cmd) }}
	} else {
		c, upgrade, err := connectUpgrade(cmd)
		if err != nil {
			return err
		}
		server.Source = editor.Recorded{Client: c, Upgrade: upgrade}
	}
	return server.Serve(ctx, stdio{std.in, std.out})
}

// stdio is standard input and output as one stream.
type stdio struct {
	io.Reader
	io.Writer
}

// Close closes what can be closed, so that a reader ends.
func (s stdio) Close() error {
	if c, ok := s.Reader.(io.Closer); ok {
		return c.Close()
	}
	return nil
}

// stampOf is another text when the files of a case have changed.
func stampOf(cmd *cli.Command) string {
	var b strings.Builder
	for _, name := range append(append(cmd.Args().Slice(), cmd.StringSlice("before")...), cmd.StringSlice("notes")...) {
		_, file := cutPackage(name)
		if info, err := os.Stat(file); err == nil {
			fmt.Fprintln(&b, file, info.Size(), info.ModTime())
		}
	}
	return b.String()
}
