package cli

import (
	"context"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"runtime/debug"
	"strings"
	"sync"

	"github.com/urfave/cli/v3"

	"unicausa/internal/config"
	"unicausa/internal/core/guard"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/triage"
	"unicausa/internal/core/versions"
	"unicausa/internal/editor"
	"unicausa/internal/gitrepo"
	"unicausa/internal/report"
)

func triageCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:      "triage",
		Usage:     "draw the causes out of recorded output, without a service",
		ArgsUsage: "AFTER-FILE… (- reads standard input)",
		Description: "Reads what the checks printed after the bump, and with --before what they printed on the old version.\n" +
			"Exit status: 0 nothing new, 1 new symptoms, 2 bad usage or input.",
		OnUsageError: usageError,
		Flags:        append(caseFlags(), &cli.StringFlag{Name: "format", Usage: "text, json, markdown, html or sarif", Value: "text"}),
		Action:       func(ctx context.Context, cmd *cli.Command) error { return runTriage(ctx, cmd, std) },
	}
}

// caseFlags say what a triage of files works on, besides the outputs.
func caseFlags() []cli.Flag {
	return []cli.Flag{
		&cli.StringSliceFlag{Name: "before", Usage: "output of a check on the old version; may be given again", TakesFile: true},
		&cli.StringSliceFlag{Name: "notes", Usage: "release notes: `[PACKAGE=]FILE` or a folder of them; may be given again", TakesFile: true},
		&cli.StringFlag{Name: "repo", Usage: "folder of the source tree after the bump", TakesFile: true},
		&cli.StringFlag{Name: "base", Usage: "`COMMIT` before the bump in --repo's git history: tells moved lines from new ones"},
		&cli.StringFlag{Name: "from", Usage: "version before the bump, of all notes; only later changes can explain anything"},
		&cli.StringFlag{Name: "to", Usage: "version after the bump"},
		&cli.StringSliceFlag{Name: "move", Usage: "what moves, as `PACKAGE=FROM..TO`, where several packages do; may be given again"},
		&cli.StringFlag{Name: "config", Usage: "the project's configuration (default: " + config.Name + " in --repo, or here)", TakesFile: true},
	}
}

// wantedMemory is how much memory the process takes before the collector works
// hard, in bytes; what is really needed, it gets.
const wantedMemory = 192 << 20

func runTriage(ctx context.Context, cmd *cli.Command, std streams) error {
	format := cmd.String("format")
	form, known := report.Formats[format]
	switch {
	case !known:
		return fmt.Errorf("--format is %q: give text, json, markdown, html or sarif", format)
	case cmd.Args().Len() == 0:
		return fmt.Errorf("no file to read: name what a check printed after the bump, or - for standard input (see: unicausa triage --help)")
	}
	drawn, err := drawCase(ctx, cmd, std.in)
	if err != nil {
		return err
	}
	err = form.Write(std.out, &drawn.Report, drawn.Texts)
	if err != nil {
		return fmt.Errorf("writing the report: %w", err)
	}
	if drawn.Report.Summary.New > 0 {
		return &exitError{status: exitNew}
	}
	return nil
}

// drawCase draws the causes of what a call names; "-" among the outputs is stdin.
func drawCase(ctx context.Context, cmd *cli.Command, stdin io.Reader) (editor.Drawn, error) {
	moves, err := movesOf(cmd)
	if err != nil {
		return editor.Drawn{}, err
	}
	c := triage.Case{Moves: moves}
	tree, err := readTree(cmd.String("repo"))
	if err != nil {
		return editor.Drawn{}, err
	}
	earlier, err := treeAt(cmd.String("repo"), cmd.String("base"), tree)
	if err != nil {
		return editor.Drawn{}, err
	}
	_, patterns, err := loadConfig(cmd.String("config"), cmd.String("repo"))
	if err != nil {
		return editor.Drawn{}, err
	}
	debug.SetGCPercent(400)
	debug.SetMemoryLimit(wantedMemory)
	before, after, err := readSides(
		side{read.Project{Patterns: patterns, Holds: earlier.Holds}, cmd.StringSlice("before")},
		side{read.Project{Patterns: patterns, Holds: tree.Holds}, cmd.Args().Slice()}, stdin)
	if err != nil {
		return editor.Drawn{}, err
	}
	texts := report.Texts{}
	for _, value := range cmd.StringSlice("notes") {
		documents, err := readNotes(value)
		if err != nil {
			return editor.Drawn{}, err
		}
		for _, d := range documents {
			texts[d.name] = strings.Split(d.text, "\n")
			changes, err := d.changes()
			if err != nil {
				return editor.Drawn{}, err
			}
			c.Changes = append(c.Changes, changes...)
		}
	}
	c.Before, c.After = []triage.Snapshot{{Results: before, Tree: earlier}}, []triage.Snapshot{{Results: after, Tree: tree}}
	result, err := guard.Call("the report", func() triage.Report { return triage.Run(ctx, c) })
	return editor.Drawn{Report: result, Texts: texts, Changes: c.Changes, Tree: tree}, err
}

// movesOf reads --from, --to and --move.
func movesOf(cmd *cli.Command) ([]versions.Move, error) {
	var list []versions.Move
	for _, value := range cmd.StringSlice("move") {
		m, err := parseMove(value)
		if err != nil {
			return nil, err
		}
		list = append(list, versions.Move{Package: m.Package, From: m.From, To: m.To})
	}
	if len(list) > 0 && cmd.String("from")+cmd.String("to") != "" {
		return nil, fmt.Errorf("--move and --from or --to exclude each other: --move names the versions of each package")
	}
	if len(list) == 0 {
		list = append(list, versions.Move{From: cmd.String("from"), To: cmd.String("to")})
	}
	return list, nil
}

// loadConfig reads the configuration that is named, or the one at the top of
// the project where there is one.
func loadConfig(file, dir string) (config.Config, *read.Patterns, error) {
	if file != "" {
		return config.Load(file, false)
	}
	return config.Load(filepath.Join(dir, config.Name), true)
}

// side is what was printed on one side of the bump.
type side struct {
	project read.Project
	names   []string
}

// readSides reads all inputs, as many at once as there are cores.
func readSides(before, after side, stdin io.Reader) (b, a []read.Result, err error) {
	names := append(append([]string{}, before.names...), after.names...)
	results := make([]read.Result, len(names))
	errs := make([]error, len(names))
	var wait sync.WaitGroup
	for i, name := range names {
		project := after.project
		if i < len(before.names) {
			project = before.project
		}
		wait.Go(func() { results[i], errs[i] = readInput(project, name, stdin) })
	}
	wait.Wait()
	for _, err := range errs {
		if err != nil {
			return nil, nil, err
		}
	}
	return results[:len(before.names)], results[len(before.names):], nil
}

func readInput(project read.Project, name string, stdin io.Reader) (read.Result, error) {
	if name == "-" {
		return checked(read.ForProject(project, "-", stdin))
	}
	info, err := os.Stat(name)
	if err != nil {
		return read.Result{}, fmt.Errorf("cannot read %s: %w", name, cause(err))
	}
	if info.IsDir() {
		return read.Result{}, fmt.Errorf("%s is a folder: name the files in it", name)
	}
	f, err := os.Open(name)
	if err != nil {
		return read.Result{}, fmt.Errorf("cannot read %s: %w", name, cause(err))
	}
	defer f.Close()
	return checked(read.ForProject(project, filepath.ToSlash(name), f))
}

// checked turns an input that holds no text at all into an error.
func checked(r read.Result, err error) (read.Result, error) {
	if err == nil && r.Format == read.FormatBinary {
		err = fmt.Errorf("%s: %s", r.Name, r.Problem)
	}
	return r, err
}

// readTree reads a source tree; there is none without a folder.
func readTree(dir string) (*source.Tree, error) {
	if dir == "" {
		return nil, nil
	}
	info, err := os.Stat(dir)
	if err != nil {
		return nil, fmt.Errorf("cannot read the source tree %s: %w", dir, cause(err))
	}
	if !info.IsDir() {
		return nil, fmt.Errorf("--repo %s is no folder: give the top folder of the source tree", dir)
	}
	tree, err := source.NewTree(os.DirFS(dir))
	if err != nil {
		return nil, fmt.Errorf("cannot read the source tree %s: %w", dir, cause(err))
	}
	return tree, nil
}

// treeAt reads the source tree of a commit; without one it is the later tree.
func treeAt(dir, commit string, later *source.Tree) (*source.Tree, error) {
	switch {
	case commit == "":
		return later, nil
	case dir == "":
		return nil, fmt.Errorf("--base %s needs --repo: give the folder of the working copy that has the commit", commit)
	}
	files, err := gitrepo.At(dir, commit)
	if err != nil {
		return nil, fmt.Errorf("cannot read the source tree of --base %s: %w", commit, err)
	}
	return source.Tracked(files)
}

// cause is the reason of a failed file operation without its operation and path.
func cause(err error) error {
	if p, ok := err.(*os.PathError); ok {
		return p.Err
	}
	return err
}
