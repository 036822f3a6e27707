package cli

import (
	"fmt"
	"io"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
	"time"

	"unicausa/internal/client"
)

// Bounds on the pictures of one run.
const (
	mostPictures = 60
	mostPicture  = 8 << 20 // bytes
)

// depicted are pictures in an output: an attachment as JUnit's readers know it, or a path.
var depicted = regexp.MustCompile(`\[\[ATTACHMENT\|([^\]]+)\]\]|([\w@./\\-]+\.(?:png|jpe?g))\b`)

// picturesOf finds the pictures that a run left below a folder: those that globs match, and
// those that its outputs name, as far as they were written since it began. It leaves the outputs at their
// beginning.
func picturesOf(folder string, globs []string, since time.Time, outputs []client.Input) ([]client.Input, func(), error) {
	var files []string
	for _, g := range globs {
		found, err := filepath.Glob(filepath.Join(folder, g))
		if err != nil {
			return nil, nil, fmt.Errorf("the pattern of pictures %q: %w", g, err)
		}
		files = append(files, found...)
	}
	for _, o := range outputs {
		f, ok := o.Content.(*os.File)
		if !ok {
			continue
		}
		text, err := io.ReadAll(io.LimitReader(f, 64<<20))
		if err == nil {
			_, err = f.Seek(0, io.SeekStart)
		}
		if err != nil {
			return nil, nil, fmt.Errorf("looking for pictures in %s: %w", o.Name, err)
		}
		for _, m := range depicted.FindAllSubmatch(text, 10*mostPictures) {
			name := strings.TrimSpace(string(m[1]) + string(m[2]))
			if !filepath.IsAbs(name) {
				name = filepath.Join(folder, filepath.FromSlash(name))
			}
			files = append(files, name)
		}
	}
	var list []client.Input
	var open []*os.File
	done := func() {
		for _, f := range open {
			f.Close()
		}
	}
	slices.Sort(files)
	for _, name := range slices.Compact(files) {
		rel, err := filepath.Rel(folder, name)
		info, missing := os.Stat(name)
		ext := strings.ToLower(filepath.Ext(name))
		if err != nil || !filepath.IsLocal(rel) || missing != nil || !info.Mode().IsRegular() || info.Size() > mostPicture || info.ModTime().Before(since) || len(list) == mostPictures ||
			ext != ".png" && ext != ".jpg" && ext != ".jpeg" {
			continue // an earlier run's, another machine's, or no picture
		}
		f, err := os.Open(name)
		if err != nil {
			continue
		}
		open = append(open, f)
		list = append(list, client.Input{Name: filepath.ToSlash(rel), Content: f})
	}
	return list, done, nil
}
