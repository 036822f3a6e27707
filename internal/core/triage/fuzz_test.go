package triage

import (
	"bytes"
	"context"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"regexp"
	"runtime"
	"strings"
	"testing"
	"testing/fstest"
	"time"

	"unicausa/internal/core/guard"
	"unicausa/internal/core/notes"
	"unicausa/internal/core/read"
	"unicausa/internal/core/source"
	"unicausa/internal/core/versions"
)

// mutations is how many mutated inputs TestMutations triages.
var mutations = flag.Int("mutations", 60, "triage so many mutated `inputs`")

// Bounds on what a mutated input may take: time of the clock, and memory that is held
// afterwards at any moment of the run.
const (
	longest = 10 * time.Second
	largest = 500 << 20
)

// fileNamed is the file that an output names first.
var fileNamed = regexp.MustCompile(`[\w./-]+\.(?:go|tsx?|jsx?|mjs|py|rb|php|java|kt|scala|cs|exs?|rs|c|cc|cpp|h|dart|hs|ml|swift|f90)\b`)

// triageAll triages what was printed on both sides, with notes and a tree of one file,
// as the command does. The error is a panic, or that of the context.
func triageAll(ctx context.Context, before, after, document []byte, file string, text []byte) (Report, error) {
	files := fstest.MapFS{}
	if name := strings.TrimPrefix(filepath.ToSlash(filepath.Clean("/"+file)), "/"); name != "" {
		files[name] = &fstest.MapFile{Data: text}
	}
	tree, err := source.NewTree(files)
	if err != nil {
		tree = nil // of no name that a file may have
	}
	return guard.Call("the case", func() Report {
		c := Case{Moves: []versions.Move{{From: "1.0.0", To: "9.0.0"}}, Changes: notes.Read("NOTES.md", "example.org/jar", document)}
		for n, data := range [][]byte{before, after} {
			r, err := read.ForProject(read.Project{Holds: tree.Holds}, "out.log", bytes.NewReader(data))
			if err != nil {
				panic(err)
			}
			side := []Snapshot{{Results: []read.Result{r}, Tree: tree}}
			if n == 0 {
				c.Before = side
			} else {
				c.After = side
			}
		}
		return Run(ctx, c)
	})
}

// samplesOf reads files, each as far as it serves for mutations.
func samplesOf(t testing.TB, most int, patterns ...string) [][]byte {
	t.Helper()
	var list [][]byte
	for _, pattern := range patterns {
		names, err := filepath.Glob(pattern)
		if err != nil || len(names) == 0 {
			t.Fatalf("no samples in %s: %v", pattern, err)
		}
		for _, name := range names {
			if info, err := os.Stat(name); err != nil || info.IsDir() {
				continue
			}
			data := readFile(t, name)
			list = append(list, data[:min(len(data), most)])
		}
	}
	return list
}

func outputs(t testing.TB, most int) [][]byte {
	return samplesOf(t, most, "../read/testdata/*", "../read/testdata/met/outputs/*", recordings+"*/*/*.log")
}

func notesOf(t testing.TB, most int) [][]byte {
	return samplesOf(t, most, "../notes/testdata/*", documents+"*", "../../../cases/*/notes/*")
}

// sources are the lines of this package and of the console, as files of a tree.
func sources(t testing.TB, most int) [][]byte {
	return samplesOf(t, most, "*.go", "../../../console/src/pages/*.tsx", "../../../cases/*/project/*")
}

// FuzzRun triages what two sides printed, with notes and a tree.
func FuzzRun(f *testing.F) {
	documents, files := notesOf(f, 2000), sources(f, 1500)
	list := outputs(f, 3000)
	for i, data := range list {
		file := "jar.go"
		if at := fileNamed.Find(data); at != nil {
			file = string(at)
		}
		f.Add(list[(i+1)%len(list)], data, documents[i%len(documents)], file, files[i%len(files)])
	}
	f.Fuzz(func(t *testing.T, before, after, document []byte, file string, text []byte) {
		report, err := triageAll(t.Context(), before, after, document, file, text)
		if err != nil {
			t.Fatal(err)
		}
		causes := map[string]bool{}
		for _, c := range report.Causes {
			causes[c.ID] = true
		}
		for _, s := range report.Symptoms {
			if s.State != "absent" && !causes[s.Cause] {
				t.Errorf("%q is of the cause %q, which is not there", s.Message, s.Cause)
			}
		}
	})
}

// TestMutations triages mutated samples: bits flipped, lines and pieces cut, doubled and
// spliced from others. None may end in a panic, take longer than the bound, or leave
// more than the bound in memory. The seed is the number of the input.
func TestMutations(t *testing.T) {
	logs, documents, files := outputs(t, 64<<10), notesOf(t, 16<<10), sources(t, 16<<10)
	peak := uint64(0)
	for n := range *mutations {
		r := rand.New(rand.NewPCG(uint64(n), 15))
		pick := func(list [][]byte) []byte { return mutated(r, list[r.IntN(len(list))], list[r.IntN(len(list))]) }
		before, after, document, text := pick(logs), pick(logs), pick(documents), pick(files)
		file := "jar.go"
		if all := fileNamed.FindAll(after, 20); len(all) > 0 {
			file = string(all[r.IntN(len(all))])
		}
		ctx, cancel := context.WithTimeoutCause(t.Context(), longest, fmt.Errorf("it takes longer than %s", longest))
		from := time.Now()
		_, err := triageAll(ctx, before, after, document, file, text)
		cancel()
		if took := time.Since(from); err != nil || took > longest {
			t.Errorf("input %d: %v after %s", n, err, took)
		}
		var m runtime.MemStats
		runtime.ReadMemStats(&m)
		peak = max(peak, m.HeapInuse)
	}
	t.Logf("%d inputs, at most %d MiB in use", *mutations, peak>>20)
	if peak > largest {
		t.Errorf("%d MiB are in use", peak>>20)
	}
}

// mutated is a sample after some mutations, with pieces of another.
func mutated(r *rand.Rand, data, other []byte) []byte {
	data = bytes.Clone(data)
	for range 1 + r.IntN(8) {
		if len(data) == 0 || len(data) > 256<<10 {
			return data
		}
		from := r.IntN(len(data))
		end := min(len(data), from+1+r.IntN(400))
		switch r.IntN(7) {
		case 0: // a flipped bit
			data[from] ^= 1 << r.IntN(8)
		case 1: // a cut
			data = append(data[:from], data[end:]...)
		case 2: // cut off
			data = data[:from]
		case 3: // doubled, many times
			data = bytes.Join([][]byte{data[:from], bytes.Repeat(data[from:end], 1+r.IntN(60)), data[end:]}, nil)
		case 4: // a piece of the other
			if at := r.IntN(len(other) + 1); at < len(other) {
				data = bytes.Join([][]byte{data[:from], other[at:min(len(other), at+2000)], data[from:]}, nil)
			}
		case 5: // lines in another order
			lines := bytes.SplitAfter(data, []byte("\n"))
			r.Shuffle(len(lines), func(i, j int) { lines[i], lines[j] = lines[j], lines[i] })
			data = bytes.Join(lines, nil)
		default: // without its line ends
			data = append(append(data[:from:from], bytes.ReplaceAll(data[from:end], []byte("\n"), nil)...), data[end:]...)
		}
	}
	return data
}
