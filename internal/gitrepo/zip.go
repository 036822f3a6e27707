package gitrepo

import (
	"archive/zip"
	"bytes"
	"fmt"
	"os"
	"path"
	"path/filepath"
	"strings"

	"unicausa/internal/core/versions"
)

// Bounds on the source tree that is sent with a run.
const (
	mostFile = 1 << 20
	mostLock = 16 << 20 // a lock file, which says what moved
	mostTree = 48 << 20
)

// Left is what of a working copy is not packed, beside large and binary files.
type Left struct {
	Keys      []string // files that hold keys by their names
	Ignored   []string // files that git tracks though it is told to ignore them
	Untracked int      // files that git does not know
}

// String tells what was left out, "" for nothing.
func (l Left) String() string {
	var parts []string
	if len(l.Keys) > 0 {
		parts = append(parts, strings.Join(l.Keys, ", ")+" (may hold keys)")
	}
	if len(l.Ignored) > 0 {
		parts = append(parts, strings.Join(l.Ignored, ", ")+" (ignored)")
	}
	switch {
	case l.Untracked == 1:
		parts = append(parts, "1 file that git does not know (git add it if it belongs to the source)")
	case l.Untracked > 1:
		parts = append(parts, fmt.Sprintf("%d files that git does not know (git add them if they belong to the source)", l.Untracked))
	}
	return strings.Join(parts, "; ")
}

// Zip packs the source tree of a folder: the files that git tracks, as they are in the
// working copy, under paths from the folder, masked by mask. Large and binary files are
// left out, and so is what Left tells. Outside of a working copy it is nil.
func Zip(dir string, mask func(text []byte) []byte) ([]byte, Left, error) {
	var left Left
	names, err := list(dir, "--cached")
	if err != nil {
		return nil, left, nil
	}
	if left.Ignored, err = list(dir, "--cached", "--ignored", "--exclude-standard"); err != nil {
		return nil, left, err
	}
	others, err := list(dir, "--others", "--exclude-standard")
	if err != nil {
		return nil, left, err
	}
	for _, name := range others {
		if base := path.Base(name); base != "unicausa.yaml" && base != ".unicausa.json" {
			left.Untracked++
		}
	}
	out := map[string]bool{}
	for _, name := range left.Ignored {
		out[name] = true
	}
	var buf bytes.Buffer
	w := zip.NewWriter(&buf)
	for _, name := range names {
		if out[name] {
			continue
		}
		if holdsKeys(name) {
			left.Keys = append(left.Keys, name)
			continue
		}
		data, ok := sourceFile(filepath.Join(dir, name))
		if !ok {
			continue
		}
		// Without a date the same tree is the same zip.
		f, err := w.CreateHeader(&zip.FileHeader{Name: filepath.ToSlash(name), Method: zip.Deflate})
		if err == nil {
			_, err = f.Write(mask(data))
		}
		if err != nil {
			return nil, left, fmt.Errorf("packing %s: %w", name, err)
		}
		if buf.Len() > mostTree {
			return nil, left, fmt.Errorf("the source tree is larger than %d MiB as a zip: leave out what was generated or installed (.gitignore)", mostTree>>20)
		}
	}
	if err := w.Close(); err != nil {
		return nil, left, fmt.Errorf("packing the source tree: %w", err)
	}
	return buf.Bytes(), left, nil
}

// list lists files as git ls-files does, each once and in order.
func list(dir string, args ...string) ([]string, error) {
	out, err := git(dir, append([]string{"ls-files", "-z", "--deduplicate"}, args...)...)
	if err != nil {
		return nil, err
	}
	out = strings.TrimRight(out, "\x00")
	if out == "" {
		return nil, nil
	}
	return strings.Split(out, "\x00"), nil
}

// holdsKeys reports whether a file holds keys or passwords by its name.
func holdsKeys(name string) bool {
	base := strings.ToLower(path.Base(filepath.ToSlash(name)))
	if base == ".env" || strings.HasPrefix(base, ".env.") {
		for _, shown := range []string{"example", "sample", "template", "dist"} { // made to be shown
			if strings.HasSuffix(base, shown) {
				return false
			}
		}
		return true
	}
	switch path.Ext(base) {
	case ".pem", ".key", ".p12", ".pfx", ".jks", ".keystore", ".kdbx", ".ppk", ".asc", ".gpg":
		return true
	}
	switch base {
	case ".netrc", "_netrc", ".pypirc", ".htpasswd", ".pgpass", ".git-credentials", "credentials", "credentials.json", "secrets.yml", "secrets.yaml", "secrets.json", "id_rsa", "id_dsa", "id_ecdsa", "id_ed25519":
		return true
	}
	return false
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

// Source lists the files of a folder that git tracks or would, those that it is told to
// ignore aside.
func Source(dir string) ([]string, error) {
	return list(dir, "--cached", "--others", "--exclude-standard")
}
