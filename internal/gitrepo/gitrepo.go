// Package gitrepo reads a working copy through the git command.
package gitrepo

import (
	"archive/zip"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strings"
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

// Top is the top folder of the working copy that a folder is in.
func Top(dir string) (top string, ok bool) {
	out, err := git(dir, "rev-parse", "--show-toplevel")
	return strings.TrimSpace(out), err == nil
}

// Exclude keeps a file of the working copy's top out of git's sight, for this copy alone.
// Outside of a working copy it does nothing.
func Exclude(dir, name string) error {
	out, err := git(dir, "rev-parse", "--git-path", "info/exclude")
	if err != nil {
		return nil
	}
	file := strings.TrimSpace(out)
	if !filepath.IsAbs(file) {
		file = filepath.Join(dir, file)
	}
	text, err := os.ReadFile(file)
	if err != nil && !errors.Is(err, os.ErrNotExist) {
		return fmt.Errorf("keeping %s out of git: %w", name, err)
	}
	if slices.Contains(strings.Split(string(text), "\n"), name) {
		return nil
	}
	if len(text) > 0 && !strings.HasSuffix(string(text), "\n") {
		text = append(text, '\n')
	}
	if err = os.MkdirAll(filepath.Dir(file), 0o755); err == nil {
		err = os.WriteFile(file, append(text, name+"\n"...), 0o644)
	}
	if err != nil {
		return fmt.Errorf("keeping %s out of git: %w", name, err)
	}
	return nil
}
