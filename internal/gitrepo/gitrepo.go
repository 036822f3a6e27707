// Package gitrepo reads a working copy through the git command.
package gitrepo

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"sort"
	"strings"

	"unicausa/internal/core/versions"
)

// Commit is what a working copy stands on.
type Commit struct {
	ID      string
	Subject string
	Dirty   bool // there are changes that are not committed
}

// Head reads the commit that a folder's working copy stands on. Outside of a
// working copy, or before its first commit, ok is false.
func Head(dir string) (c Commit, ok bool) {
	out, err := git(dir, "log", "-1", "--format=%H%x00%s")
	if err != nil {
		return c, false
	}
	id, subject, _ := strings.Cut(strings.TrimSpace(out), "\x00")
	status, err := git(dir, "status", "--porcelain", "--untracked-files=no")
	return Commit{ID: id, Subject: subject, Dirty: err == nil && strings.TrimSpace(status) != ""}, true
}

// Bounds on the source tree that is sent with a run.
const (
	mostFile = 1 << 20
	mostLock = 16 << 20 // a lock file, which says what moved
	mostTree = 48 << 20
)

// Zip packs the source tree of a folder: the files that git tracks or would
// track, as they are in the working copy, under paths from the folder. Large
// and binary files are left out. Outside of a working copy it is nil.
func Zip(dir string) ([]byte, error) {
	out, err := git(dir, "ls-files", "-z", "--cached", "--others", "--exclude-standard")
	if err != nil {
		return nil, nil
	}
	names := strings.Split(strings.TrimRight(out, "\x00"), "\x00")
	sort.Strings(names)
	var buf bytes.Buffer
	w := zip.NewWriter(&buf)
	previous := ""
	for _, name := range names {
		if name == "" || name == previous {
			continue
		}
		previous = name
		data, ok := sourceFile(filepath.Join(dir, name))
		if !ok {
			continue
		}
		// Without a date the same tree is the same zip.
		f, err := w.CreateHeader(&zip.FileHeader{Name: filepath.ToSlash(name), Method: zip.Deflate})
		if err == nil {
			_, err = f.Write(data)
		}
		if err != nil {
			return nil, fmt.Errorf("packing %s: %w", name, err)
		}
		if buf.Len() > mostTree {
			return nil, fmt.Errorf("the source tree is larger than %d MiB as a zip: leave out what was generated or installed (.gitignore)", mostTree>>20)
		}
	}
	if err := w.Close(); err != nil {
		return nil, fmt.Errorf("packing the source tree: %w", err)
	}
	return buf.Bytes(), nil
}

// At is the source tree below a folder as a commit has it. The commit may be
// named in any way that git takes; git's own words say why it cannot be read.
func At(dir, commit string) (fs.FS, error) {
	out, err := git(dir, "archive", "--format=zip", commit)
	if err != nil {
		return nil, err
	}
	tree, err := zip.NewReader(strings.NewReader(out), int64(len(out)))
	if err != nil {
		return nil, fmt.Errorf("reading git's archive of %s: %w", commit, err)
	}
	return tree, nil
}

// History is what git log prints of a range of commits, newest first, with the
// tags: notes.Read reads it.
func History(dir, from, to string) (string, error) {
	return git(dir, "log", "--no-color", "--decorate=short", "--decorate-refs=refs/tags/*", "--date=short", "--no-merges", from+".."+to)
}

// Diff is what git diff prints of a range, under paths from the folder, as far as it is
// below the folder; git's own words say why there is none.
func Diff(dir, which string) (string, error) {
	return git(dir, "diff", "--no-color", "--no-ext-diff", "--find-renames", "--relative", "--end-of-options", which, "--")
}

func sourceFile(name string) ([]byte, bool) {
	info, err := os.Lstat(name)
	if err != nil || !info.Mode().IsRegular() {
		return nil, false
	}
	most := int64(mostFile)
	if _, lock := versions.Known(filepath.Base(name)); lock {
		most = mostLock
	}
	if info.Size() > most {
		return nil, false
	}
	data, err := os.ReadFile(name)
	return data, err == nil && bytes.IndexByte(data[:min(len(data), 8<<10)], 0) < 0
}

func git(dir string, args ...string) (string, error) {
	cmd := exec.Command("git", append([]string{"-C", dir}, args...)...)
	out, err := cmd.Output()
	if failed, ok := err.(*exec.ExitError); ok && len(failed.Stderr) > 0 {
		err = errors.New(strings.TrimSpace(string(failed.Stderr)))
	}
	if err != nil {
		return "", fmt.Errorf("git %s: %w", args[0], err)
	}
	return string(out), nil
}
