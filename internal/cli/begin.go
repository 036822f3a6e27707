package cli

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
	"strings"

	"github.com/charmbracelet/x/term"
	"github.com/urfave/cli/v3"

	"unicausa/internal/access"
	"unicausa/internal/api"
	"unicausa/internal/client"
	"unicausa/internal/config"
	"unicausa/internal/core/source"
	"unicausa/internal/core/versions"
	"unicausa/internal/gitrepo"
)

func beginCommand(std streams) *cli.Command {
	return &cli.Command{
		Name:  "begin",
		Usage: "begin an upgrade of the project in this folder",
		Description: "What moves is read from the project's manifests and lock files where they differ from the last commit; which checks there\n" +
			"are, from its scripts, make targets, build files and workflow files, and written as " + config.Name + " where there is none.\n" +
			"In a terminal it asks for what it cannot know; elsewhere flags say it. The upgrade is noted in " + currentName + ", which git is told to\n" +
			"overlook, so that the other commands know which one is meant.",
		OnUsageError: usageError,
		Flags: clientFlags(
			&cli.StringFlag{Name: "project", Usage: "name of the code base (default: the folder's)"},
			&cli.StringFlag{Name: "name", Usage: "name of the upgrade (default: what moves, and to which version)"},
			&cli.StringSliceFlag{Name: "move", Usage: "what moves, as `PACKAGE=FROM..TO`; may be given again"},
			&cli.BoolFlag{Name: "checks", Usage: "write the checks that are found as " + config.Name + ", without asking"},
			&cli.BoolFlag{Name: "downgrade", Usage: "it is meant that a version goes down"},
			&cli.BoolFlag{Name: "again", Usage: "begin another upgrade where one has begun"},
		),
		Action: func(ctx context.Context, cmd *cli.Command) error { return begin(ctx, cmd, std) },
	}
}

func begin(ctx context.Context, cmd *cli.Command, std streams) error {
	c, earlier, err := connect(cmd)
	if err != nil {
		return err
	}
	root, err := project()
	if err != nil {
		return err
	}
	asks := newAsker(std)
	if err := once(ctx, cmd, c, earlier, asks); err != nil {
		return err
	}
	n := api.NewUpgrade{Project: cmd.String("project"), Name: cmd.String("name")}
	if n.Project == "" {
		n.Project = filepath.Base(root)
	}
	if n.Moves, err = moving(cmd, root, asks); err != nil {
		return err
	}
	for _, m := range n.Moves {
		if m.From != "" && m.To != "" && versions.Order(m.From, m.To) > 0 && !cmd.Bool("downgrade") &&
			!asks.yes(fmt.Sprintf("%s goes down, from %s to %s. Is that meant?", m.Package, m.From, m.To), false) {
			return fmt.Errorf("%s goes down, from %s to %s: turn the versions round, or say --downgrade", m.Package, m.From, m.To)
		}
	}
	if n.Name == "" {
		n.Name = asks.text("Name of the upgrade", named(n.Moves))
	}
	u, err := c.Begin(ctx, n)
	if err != nil {
		return err
	}
	if err := errors.Join(noteCurrent(root, current{Server: c.Server(), Upgrade: u.ID}), gitrepo.Exclude(root, currentName), access.Remember(c.Server(), "")); err != nil {
		return err
	}
	fmt.Fprintf(std.out, "upgrade %d of %s begun: %s\n", u.ID, u.Project, u.Name)
	for _, m := range n.Moves {
		fmt.Fprintf(std.out, "  %s %s → %s\n", m.Package, m.From, m.To)
	}
	fmt.Fprintf(std.out, "%s/upgrades/%d\n", c.Server(), u.ID)
	return describe(cmd, root, asks)
}

// once refuses a second upgrade where one has begun, unless it is meant.
func once(ctx context.Context, cmd *cli.Command, c *client.Client, earlier int64, asks *asker) error {
	if earlier == 0 || cmd.Bool("again") {
		return nil
	}
	o, err := c.Overview(ctx, earlier)
	if err != nil { // it is gone, or of another service
		return nil
	}
	if asks.yes(fmt.Sprintf("Upgrade %d (%s) has begun here. Begin another?", earlier, o.Upgrade.Name), false) {
		return nil
	}
	return fmt.Errorf("upgrade %d (%s) has begun here: go on with it, or begin another with --again", earlier, o.Upgrade.Name)
}

// moving is what moves: what the flags say, else what the project's manifests say, confirmed
// where somebody can be asked.
func moving(cmd *cli.Command, root string, asks *asker) ([]api.Move, error) {
	var list []api.Move
	for _, value := range cmd.StringSlice("move") {
		m, err := parseMove(value)
		if err != nil {
			return nil, err
		}
		list = append(list, m)
	}
	if len(list) > 0 {
		return list, nil
	}
	before, after := manifests(root)
	for _, o := range versions.Offer(before, after, nil, nil) {
		fmt.Fprintf(asks.out, "%s says that %s moves from %s to %s.\n", o.Said, o.Package, o.From, o.To)
		list = append(list, api.Move{Package: o.Package, From: o.From, To: o.To})
	}
	if len(list) > 0 && (!asks.someone || asks.yes("Is that what is upgraded?", true)) {
		fmt.Fprintln(asks.out, "It stands there already: record the baseline without it, as in: git stash; unicausa record --all; unicausa baseline; git stash pop")
		return list, nil
	}
	if !asks.someone {
		return nil, errors.New("nothing tells what moves: bump the version first, or say it with --move PACKAGE=FROM..TO")
	}
	if len(list) == 0 {
		fmt.Fprintln(asks.out, "No manifest or lock file differs from the last commit. What will move?")
	}
	for _, p := range direct(after) {
		fmt.Fprintf(asks.out, "  %s %s\n", p.Name, p.Version)
	}
	for list = nil; ; {
		text := asks.text("Package=from..to, or package=to; nothing when that is all", "")
		if text == "" && len(list) > 0 {
			return list, nil
		}
		m, err := toMove(text, after)
		if err != nil && asks.ended {
			return nil, err
		}
		if err != nil {
			fmt.Fprintln(asks.out, err)
			continue
		}
		list = append(list, m)
	}
}

// toMove reads PACKAGE=FROM..TO, or PACKAGE=TO of a package that the project has.
func toMove(text string, now versions.State) (api.Move, error) {
	pkg, to, ok := strings.Cut(strings.TrimSpace(text), "=")
	if !ok || pkg == "" || strings.Contains(to, "..") {
		return parseMove(text)
	}
	for _, p := range now.Packages {
		if source.SameFamily(p.Name, pkg) {
			return api.Move{Package: p.Name, From: p.Version, To: to}, nil
		}
	}
	if from := now.Runtimes[pkg]; from != "" {
		return api.Move{Package: pkg, From: from, To: to}, nil
	}
	return api.Move{}, fmt.Errorf("no manifest here tells the version of %s: give %s=FROM..%s", pkg, pkg, to)
}

// mostOffered is how many packages are listed as what may move.
const mostOffered = 20

// direct are the packages that the manifests name, with the versions that they have.
func direct(s versions.State) []versions.Package {
	wished := map[string]bool{}
	for _, w := range s.Wishes {
		wished[w.Name] = true
	}
	var list []versions.Package
	for _, p := range s.Packages {
		if wished[p.Name] && len(list) < mostOffered {
			list = append(list, p)
		}
	}
	return list
}

// manifests are what the manifests and lock files say: as the last commit has them, and now.
func manifests(root string) (before, after versions.State) {
	if tree, err := source.NewTree(os.DirFS(root)); err == nil {
		after = versions.Read(tree)
	}
	committed, err := gitrepo.At(root, "HEAD")
	if err != nil {
		return versions.State{}, after
	}
	if tree, err := source.Tracked(committed); err == nil {
		before = versions.Read(tree)
	}
	return before, after
}

// named is the name of an upgrade by what it moves: "jar 5.0.0 and lid 2.0.0".
func named(moves []api.Move) string {
	var parts []string
	for i, m := range moves {
		if i == 3 {
			parts = append(parts, fmt.Sprintf("%d more", len(moves)-i))
			break
		}
		name := strings.TrimSuffix(m.Package, "/")
		if i := strings.LastIndex(name, "/v"); i > 0 && strings.Trim(name[i+2:], "0123456789") == "" {
			name = name[:i]
		}
		parts = append(parts, strings.TrimSpace(name[strings.LastIndexAny(name, "/:")+1:]+" "+m.To))
	}
	return strings.Join(parts, " and ")
}

// describe offers the checks that are found where the project describes none.
func describe(cmd *cli.Command, root string, asks *asker) error {
	file := filepath.Join(root, config.Name)
	if _, err := os.Stat(file); err == nil {
		fmt.Fprintf(asks.out, "next, on the old version: unicausa record --all && unicausa baseline\n")
		return nil
	} else if !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("cannot read the configuration: %w", err)
	}
	found := config.Discover(os.DirFS(root))
	if len(found) == 0 {
		fmt.Fprintln(asks.out, "next: record every check on the old version, as in: unicausa record --check build -- make")
		return nil
	}
	text, err := config.Written(found)
	if err != nil {
		return err
	}
	fmt.Fprintf(asks.out, "\nchecks that are found here, as %s:\n\n%s\n", config.Name, text)
	if !cmd.Bool("checks") && !asks.yes("Write it?", true) {
		fmt.Fprintf(asks.out, "next: put these into %s (unicausa begin --checks does), or record one by one: unicausa record --check NAME -- COMMAND\n", config.Name)
		return nil
	}
	if err := os.WriteFile(file, []byte(text), 0o644); err != nil {
		return fmt.Errorf("writing the checks: %w", err)
	}
	fmt.Fprintf(asks.out, "%s is written. Next, on the old version: unicausa record --all && unicausa baseline\n", config.Name)
	return nil
}

// asker asks whoever sits at the terminal; without one every question has its safe answer.
type asker struct {
	streams
	lines   *bufio.Scanner
	someone bool
	ended   bool
}

func newAsker(std streams) *asker {
	in, reads := std.in.(*os.File)
	_, shows := std.out.(*os.File)
	return &asker{streams: std, lines: bufio.NewScanner(std.in), someone: reads && shows && term.IsTerminal(in.Fd())}
}

// yes asks a question, whose usual answer is given by Enter; with nobody there the answer
// is no.
func (a *asker) yes(question string, usual bool) bool {
	if !a.someone {
		return false
	}
	choice := "[y/N]"
	if usual {
		choice = "[Y/n]"
	}
	switch strings.ToLower(a.text(question+" "+choice, "")) {
	case "":
		return usual && !a.ended
	case "y", "yes":
		return true
	}
	return false
}

// text asks for a text.
func (a *asker) text(question, otherwise string) string {
	if !a.someone {
		return otherwise
	}
	if otherwise != "" {
		question += " [" + otherwise + "]"
	}
	fmt.Fprint(a.out, question+" ")
	if !a.lines.Scan() {
		a.ended = true
		return otherwise
	}
	if text := strings.TrimSpace(a.lines.Text()); text != "" {
		return text
	}
	return otherwise
}

// parseMove reads PACKAGE=FROM..TO.
func parseMove(value string) (api.Move, error) {
	pkg, versions, ok := strings.Cut(value, "=")
	from, to, both := strings.Cut(versions, "..")
	if !ok || !both || pkg == "" {
		return api.Move{}, fmt.Errorf("--move %q: give PACKAGE=FROM..TO, as in example.org/jar=4.2.0..5.0.0", value)
	}
	return api.Move{Package: pkg, From: from, To: to}, nil
}

func plural(n int, word string) string {
	if n == 1 {
		return "1 " + word
	}
	return fmt.Sprintf("%d %ss", n, word)
}
