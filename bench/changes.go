package main

import (
	"context"
	"fmt"
	"io"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"time"

	"unicausa/internal/core/notes"
	"unicausa/internal/core/versions"
)

// symbols is how many old names the notes of the measured exposure have.
const symbols = 500

// measureChanges searches a source tree of a size for the names of notes, beside
// grep, and reads long notes and large lock files.
func measureChanges(ctx context.Context, p *page, folder string, size int) error {
	tree, list, document, empty := filepath.Join(folder, "tree"), filepath.Join(folder, "symbols"), filepath.Join(folder, "notes.md"), filepath.Join(folder, "empty.log")
	if err := writeTree(tree, size); err != nil {
		return err
	}
	defer os.RemoveAll(tree)
	var names, text strings.Builder
	text.WriteString("## 5.0.0\n\n")
	for i := range symbols {
		fmt.Fprintf(&names, "%s\n", madeUp(i))
		fmt.Fprintf(&text, "- `jar.%s` was removed.\n", madeUp(i))
	}
	for name, content := range map[string]string{list: names.String(), document: text.String(), empty: ""} {
		if err := os.WriteFile(name, []byte(content), 0o644); err != nil {
			return err
		}
	}
	if _, err := process(ctx, "sh", "-c", `cat $(find "$0" -type f | head -n 1) >/dev/null; find "$0" -type f -exec cat {} + >/dev/null`, tree); err != nil { // warm
		return err
	}
	yardstick, err := process(ctx, "sh", "-c", `grep -rwF -f "$0" "$1" | wc -l`, list, tree)
	if err != nil {
		return err
	}
	ours, err := process(ctx, program, "triage", "--notes", "example.org/jar="+document, "--repo", tree, "--format", "json", empty)
	if err != nil {
		return err
	}
	p.section("Exposure", fmt.Sprintf("%d names of notes looked for in a source tree, by the whole command: the tree is listed, each file searched for words, comments, strings and imports told apart in those that have one, and the report written. The yardstick is `grep -rwF -f SYMBOLS TREE` over the same files, which have been read once before.", symbols))
	p.table("size", "yardstick", "exposure", "ratio", "peak memory")
	p.row(mebibytes(int64(size)), seconds(yardstick.took), seconds(ours.took), ratio(ours.took, yardstick.took), mebibytes(ours.peak))
	return measureReading(p)
}

// measureReading reads a change log of 25,000 lines and compares lock files of
// 5,000 packages.
func measureReading(p *page) error {
	sample, err := os.ReadFile("internal/core/notes/testdata/changelog.md")
	if err != nil {
		return err
	}
	_, body, _ := strings.Cut(string(sample), "### Breaking")
	var long strings.Builder
	for i := range 25_000/(strings.Count(body, "\n")+3) + 1 {
		fmt.Fprintf(&long, "\n## %d.0.0\n\n### Breaking%s", i, body)
	}
	p.section("Notes and lock files", "A change log of that many lines read into its changes, and two lock files of npm with that many packages each, read and compared. Each is the best of ten.")
	p.table("what", "size", "time")
	changes := 0
	p.row("change log", fmt.Sprintf("%d lines", strings.Count(long.String(), "\n")), millis(best(func() { changes = len(notes.Read("long.md", "jar", []byte(long.String()))) })))
	before, after := lockFile(0), lockFile(1)
	p.row("lock files", "5000 packages", millis(best(func() {
		versions.Compare(versions.Read(before), versions.Read(after), versions.Context{Moves: []versions.Move{{Package: "p1", From: "1.1.0", To: "1.1.1"}}})
	})))
	if changes == 0 {
		return fmt.Errorf("nothing was read of the change log")
	}
	return nil
}

// best is the shortest of ten times that something takes.
func best(do func()) time.Duration {
	least := time.Hour
	for range 10 {
		start := time.Now()
		do()
		least = min(least, time.Since(start))
	}
	return least
}

// madeUp is the name with a number: three syllables, as GrubaMel.
func madeUp(n int) string {
	syllables := []string{"gru", "ba", "mel", "ko", "tis", "fen", "wor", "la", "pid", "zu"}
	name := ""
	for _, k := range []int{n % 10, n / 10 % 10, n / 100} {
		name += syllables[k]
	}
	return strings.ToUpper(name[:1]) + name[1:]
}

// writeTree writes files of Go of so many bytes in all. One in five uses the
// package of the notes, with a name of theirs in every forty lines.
func writeTree(folder string, size int) error {
	random := rand.New(rand.NewPCG(3, 3))
	for n, written := 0, 0; written < size; n++ {
		name := filepath.Join(folder, fmt.Sprintf("part%d", n/100), fmt.Sprintf("file%d.go", n))
		if err := os.MkdirAll(filepath.Dir(name), 0o755); err != nil {
			return err
		}
		err := writeFile(name, func(w io.Writer) error {
			imports, uses := "", n%5 == 0
			if uses {
				imports = "\nimport \"example.org/jar\"\n"
			}
			k, _ := fmt.Fprintf(w, "package part%d\n%s\n", n/100, imports)
			written += k
			for line := range 800 {
				call := fmt.Sprintf("fill%d", random.IntN(5000))
				if uses && random.IntN(40) == 0 {
					call = "jar." + madeUp(random.IntN(symbols))
				}
				k, err := fmt.Fprintf(w, "// shelf%d holds what row %d of the pantry needs.\nfunc shelf%d(count int, label string) int { return %s(count, label) + %d }\n", line, n, line, call, line)
				if written += k; err != nil {
					return err
				}
			}
			return nil
		})
		if err != nil {
			return err
		}
	}
	return nil
}

// lockFile is a source tree with a manifest and a lock file of 5,000 packages.
func lockFile(patch int) lockTree {
	var text strings.Builder
	text.WriteString(`{"lockfileVersion":3,"packages":{"":{}`)
	for i := range 5000 {
		fmt.Fprintf(&text, `,"node_modules/p%d":{"version":"1.%d.%d","dependencies":{"p%d":"^1.0.0","p%d":"^1.0.0"}}`, i, i%9, patch*(i%3), (i*7+1)%5000, (i*13+5)%5000)
	}
	text.WriteString(`}}`)
	return lockTree{"package.json": `{"dependencies":{"p1":"^1.0.0"}}`, "package-lock.json": text.String()}
}

type lockTree map[string]string

func (t lockTree) Files() []string         { return []string{"package-lock.json", "package.json"} }
func (t lockTree) Read(name string) []byte { return []byte(t[name]) }
