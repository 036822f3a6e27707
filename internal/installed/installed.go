// Package installed finds packages where their package managers put them, and reads
// their programs.
package installed

import (
	"io/fs"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"unicode"

	"unicausa/internal/core/source"
)

// Folder is where a package lies that a project in dir uses, in the version that it
// moves to; "" where it is not found. Nothing is run but go list, offline.
func Folder(dir, pkg, version string) string {
	if pkg == "" || strings.Contains(pkg, "..") || filepath.IsAbs(pkg) {
		return ""
	}
	version = strings.TrimPrefix(version, "v")
	home, _ := os.UserHomeDir()
	under := strings.ReplaceAll(pkg, "-", "_")
	for _, pattern := range []string{
		filepath.Join(dir, "node_modules", pkg),
		filepath.Join(dir, "vendor", pkg), // of Composer, or of Go
		filepath.Join(dir, "*venv", "lib", "python*", "site-packages", under),
		filepath.Join(dir, "*venv", "lib", "python*", "site-packages", strings.ToLower(under)),
		filepath.Join(dir, "vendor", "bundle", "ruby", "*", "gems", pkg+"-"+version),
		filepath.Join(dir, "deps", pkg), // of Mix
		filepath.Join(home, ".cargo", "registry", "src", "*", pkg+"-"+version),
		filepath.Join(modCache(home), escaped(pkg)+"@v"+version),
	} {
		found, err := filepath.Glob(pattern)
		if err != nil {
			continue
		}
		for _, folder := range found {
			if info, err := os.Stat(folder); err == nil && info.IsDir() {
				return folder
			}
		}
	}
	if _, err := os.Stat(filepath.Join(dir, "go.mod")); err == nil && strings.Contains(pkg, ".") {
		cmd := exec.Command("go", "list", "-f", "{{.Dir}}", pkg)
		cmd.Dir = dir
		cmd.Env = append(os.Environ(), "GOPROXY=off", "GOFLAGS=-mod=readonly")
		if out, err := cmd.Output(); err == nil {
			return strings.TrimSpace(string(out))
		}
	}
	return ""
}

// modCache is Go's cache of modules.
func modCache(home string) string {
	if cache := os.Getenv("GOMODCACHE"); cache != "" {
		return cache
	}
	if path := os.Getenv("GOPATH"); path != "" {
		return filepath.Join(strings.Split(path, string(os.PathListSeparator))[0], "pkg", "mod")
	}
	return filepath.Join(home, "go", "pkg", "mod")
}

// escaped is a module's path as the cache has it, an exclamation mark in front of
// each letter that was a capital (https://go.dev/ref/mod#module-cache).
func escaped(path string) string {
	var b strings.Builder
	for _, r := range path {
		if unicode.IsUpper(r) {
			b.WriteByte('!')
		}
		b.WriteRune(unicode.ToLower(r))
	}
	return b.String()
}

// The bounds on what is read of a package.
const (
	mostFiles = 4000
	mostBytes = 64 << 20
)

// Programs are the files of a package that are programs, by their paths in it. Whole
// tells that all were read.
func Programs(folder string) (files map[string]string, whole bool) {
	files = map[string]string{}
	size := 0
	err := filepath.WalkDir(folder, func(name string, d fs.DirEntry, err error) error {
		switch {
		case err != nil:
			return err
		case d.IsDir() && name != folder && (d.Name() == "node_modules" || strings.HasPrefix(d.Name(), ".")):
			return fs.SkipDir
		case !d.Type().IsRegular() || !source.Program(name):
			return nil
		case len(files) == mostFiles || size > mostBytes:
			return fs.SkipAll
		}
		data, err := os.ReadFile(name)
		if err != nil {
			return err
		}
		size += len(data)
		path, err := filepath.Rel(folder, name)
		files[filepath.ToSlash(path)] = string(data)
		return err
	})
	return files, err == nil && len(files) < mostFiles && size <= mostBytes
}
