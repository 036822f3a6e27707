package cli

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path"
	"path/filepath"
	"strings"

	"github.com/urfave/cli/v3"

	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/notes"
	"unicausa/internal/gitrepo"
	"unicausa/internal/installed"
	"unicausa/internal/report"
)

func notesCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "notes",
		Usage:     "add release notes to the upgrade, or print what is read of them",
		ArgsUsage: "[PACKAGE=]FILE…",
		Description: "Reads Markdown, HTML, reStructuredText, plain text and what git log prints; a folder stands for all such files in it.\n" +
			"With --history the commits of a range are read from a git working copy, after the Conventional Commits convention.\n" +
			"With --installed the change logs, histories and migration guides of what moves are taken from where its package manager put\n" +
			"them on this machine, of the new version and the old.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.BoolFlag{Name: "print", Usage: "print the changes that are read, without a service"},
			&cli.StringFlag{Name: "history", Usage: "read the commits of `[PACKAGE=]FROM..TO` from the working copy in --repo"},
			&cli.BoolFlag{Name: "installed", Usage: "find the notes of what moves on this machine"},
			&cli.BoolFlag{Name: "paths", Usage: "with --installed: print whole paths"},
			&cli.StringFlag{Name: "repo", Usage: "folder of the working copy for --history", Value: ".", TakesFile: true},
			&cli.StringFlag{Name: "from", Usage: "with --print: version before the bump"},
			&cli.StringFlag{Name: "to", Usage: "with --print: version after the bump"},
			&cli.StringFlag{Name: "format", Usage: "with --print: text or json", Value: "text"},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error {
			if cmd.Bool("installed") {
				return addInstalled(ctx, cmd, std)
			}
			documents, err := documentsOf(cmd)
			if err != nil {
				return err
			}
			if cmd.Bool("print") {
				return printNotes(cmd, std, documents)
			}
			c, upgrade, err := connectUpgrade(cmd)
			if err != nil {
				return err
			}
			for _, d := range documents {
				if err := addNotes(ctx, std, c, upgrade, d, ""); err != nil {
					return err
				}
			}
			return nil
		},
	}
}

// addNotes adds a document and says what it holds, and where it was found if that is told.
func addNotes(ctx context.Context, std streams, c *client.Client, upgrade int64, d document, from string) error {
	n, err := c.AddNotes(ctx, upgrade, api.NewNotes{Name: recorded(d), Package: d.pkg, Text: d.text})
	if err != nil {
		return err
	}
	if from != "" {
		from = ", from " + from
	}
	if n.Problem != "" {
		fmt.Fprintf(std.out, "! %s is kept, but set aside: %s%s\n", n.Name, n.Problem, from)
		return nil
	}
	fmt.Fprintf(std.out, "%s: %s in %s%s\n", n.Name, plural(n.Changes, "change"), plural(n.Lines, "line"), from)
	return nil
}

// addInstalled adds the notes of all that moves, as they lie on this machine.
func addInstalled(ctx context.Context, cmd *cli.Command, std streams) error {
	if cmd.Args().Present() || cmd.Bool("print") || cmd.String("history") != "" {
		return errors.New("--installed finds the notes itself: leave files, --print and --history out")
	}
	c, upgrade, err := connectUpgrade(cmd)
	if err != nil {
		return err
	}
	root, err := project()
	if err != nil {
		return err
	}
	o, err := c.Overview(ctx, upgrade)
	if err != nil {
		return err
	}
	for _, m := range o.Upgrade.Leg.Moves {
		found := installed.Notes(root, m.Package, m.From, m.To)
		if len(found) == 0 {
			fmt.Fprintf(std.out, "%s: nothing is here; install the new version first, or give its notes: unicausa notes %s=FILE\n", m.Package, m.Package)
		}
		for _, f := range found {
			path := ""
			if cmd.Bool("paths") {
				path = f.Path
			}
			if err := addNotes(ctx, std, c, upgrade, document{name: f.Name, pkg: m.Package, text: f.Text}, path); err != nil {
				return err
			}
		}
	}
	return nil
}

// document is one of the notes, as it was found.
type document struct{ name, pkg, text string }

// changes reads the document.
func (d *document) changes() ([]notes.Change, error) {
	return guard.Call(d.name, func() []notes.Change { return notes.Read(d.name, d.pkg, []byte(d.text)) })
}

// documentsOf reads the files, folders and the range of commits that a call names.
func documentsOf(cmd *cli.Command) ([]document, error) {
	var list []document
	for _, value := range cmd.Args().Slice() {
		found, err := readNotes(value)
		if err != nil {
			return nil, err
		}
		list = append(list, found...)
	}
	if history := cmd.String("history"); history != "" {
		pkg, span := cutPackage(history)
		from, to, ok := strings.Cut(span, "..")
		if !ok || from == "" {
			return nil, fmt.Errorf("--history %q: give [PACKAGE=]FROM..TO, as in v4.2.0..v5.0.0", history)
		}
		if to == "" {
			to = "HEAD"
		}
		text, err := gitrepo.History(cmd.String("repo"), from, to)
		if err != nil {
			return nil, fmt.Errorf("cannot read the history of %s: %w", cmd.String("repo"), err)
		}
		if strings.TrimSpace(text) == "" {
			return nil, fmt.Errorf("--history %s: there are no commits in that range", history)
		}
		list = append(list, document{name: "git log " + from + ".." + to, pkg: pkg, text: text})
	}
	if len(list) == 0 {
		return nil, errors.New("no file: name release notes, as in: unicausa notes example.org/jar=CHANGELOG.md")
	}
	return list, nil
}

// cutPackage reads "[PACKAGE=]VALUE".
func cutPackage(value string) (pkg, rest string) {
	pkg, rest, named := strings.Cut(value, "=")
	if !named {
		return "", value
	}
	return pkg, rest
}

// noteFiles are the extensions of notes in a folder.
var noteFiles = map[string]bool{".md": true, ".markdown": true, ".html": true, ".htm": true, ".rst": true, ".txt": true}

// readNotes reads "[PACKAGE=]FILE"; a folder gives all notes in it, in order.
func readNotes(value string) ([]document, error) {
	pkg, name := cutPackage(value)
	info, err := os.Stat(name)
	if err != nil {
		return nil, fmt.Errorf("cannot read the notes %s: %w", name, cause(err))
	}
	if !info.IsDir() {
		d, err := readDocument(pkg, name)
		return []document{d}, err
	}
	var list []document
	err = filepath.WalkDir(name, func(file string, e fs.DirEntry, err error) error {
		if err != nil || e.IsDir() || !noteFiles[strings.ToLower(filepath.Ext(file))] {
			return err
		}
		d, err := readDocument(pkg, file)
		list = append(list, d)
		return err
	})
	if err == nil && len(list) == 0 {
		err = fmt.Errorf("%s has no notes in it: no .md, .html, .rst or .txt file", name)
	}
	return list, err
}

func readDocument(pkg, file string) (document, error) {
	data, err := os.ReadFile(file)
	if err != nil {
		return document{}, fmt.Errorf("cannot read the notes %s: %w", file, cause(err))
	}
	if bytes.IndexByte(data[:min(len(data), 8<<10)], 0) >= 0 {
		return document{}, fmt.Errorf("the notes %s are a binary file: give Markdown, HTML, reStructuredText or plain text", file)
	}
	return document{name: filepath.ToSlash(file), pkg: pkg, text: string(data)}, nil
}

// recorded is the name under which a document is recorded: its path where it lies in the
// project, else the package and the file, for a machine's paths say nothing elsewhere.
func recorded(d document) string {
	if filepath.IsLocal(d.name) {
		return d.name
	}
	pkg := strings.TrimSuffix(d.pkg, "/")
	return strings.TrimPrefix(path.Base(pkg[strings.LastIndexByte(pkg, ':')+1:])+"/"+path.Base(d.name), "./")
}

// printNotes prints what is read of documents.
func printNotes(cmd *cli.Command, std streams, documents []document) error {
	list := []notes.Change{}
	for _, d := range documents {
		changes, err := d.changes()
		if err != nil {
			return err
		}
		list = append(list, changes...)
	}
	within := func(version string) bool { return notes.Within(version, cmd.String("from"), cmd.String("to")) }
	switch cmd.String("format") {
	case "text":
		return report.ReadNotes(std.out, list, within)
	case "json":
		enc := json.NewEncoder(std.out)
		enc.SetIndent("", "  ")
		enc.SetEscapeHTML(false)
		return enc.Encode(list)
	}
	return fmt.Errorf("--format is %q: give text or json", cmd.String("format"))
}
