// Package versions reads lock files: which version of a package a project has.
package versions

import (
	"path"
	"strings"
)

// LockFiles are the lock files that Locked knows, the surest first.
var LockFiles = []string{
	"go.mod", "package-lock.json", "npm-shrinkwrap.json", "yarn.lock", "pnpm-lock.yaml", "Cargo.lock", "poetry.lock", "uv.lock", "Pipfile.lock",
	"requirements.txt", "composer.lock", "Gemfile.lock", "mix.lock", "pubspec.lock", "packages.lock.json",
}

// Locked is the version of a package in a lock file, known by its name, or "".
// It is found by the form of the entry, without reading the whole file as what
// it is: TOML, JSON, YAML or a form of its own.
func Locked(file string, data []byte, pkg string) string {
	text := string(data)
	switch path.Base(file) {
	case "go.mod":
		for line := range strings.SplitSeq(text, "\n") {
			fields := strings.Fields(strings.TrimPrefix(strings.TrimSpace(line), "require "))
			if len(fields) >= 2 && fields[0] == pkg && !strings.Contains(line, "=>") {
				return strings.TrimPrefix(fields[1], "v")
			}
		}
	case "package-lock.json", "npm-shrinkwrap.json":
		return quotedAfter(behind(text, `"node_modules/`+pkg+`": {`), `"version":`)
	case "composer.lock":
		return strings.TrimPrefix(quotedAfter(behind(text, `"name": "`+pkg+`"`), `"version":`), "v")
	case "packages.lock.json":
		return quotedAfter(behind(text, `"`+pkg+`": {`), `"resolved":`)
	case "Pipfile.lock":
		return strings.TrimLeft(quotedAfter(behind(text, `"`+pkg+`": {`), `"version":`), "=")
	case "Cargo.lock", "poetry.lock", "uv.lock":
		return quotedAfter(behind(text, `name = "`+pkg+`"`), "version =")
	case "mix.lock":
		return quotedAfter(behind(text, `"`+pkg+`": {:hex, :`), ", ")
	case "yarn.lock":
		for _, head := range []string{"\n" + pkg + "@", "\n\"" + pkg + "@"} {
			if entry := behind("\n"+text, head); entry != "" {
				return firstVersion(behind(entry, "version"))
			}
		}
	case "pnpm-lock.yaml":
		for _, head := range []string{"/" + pkg + "@", "'" + pkg + "@", " " + pkg + "@", "/" + pkg + "/"} {
			if entry := behind(text, head); entry != "" {
				return firstVersion(entry)
			}
		}
	case "requirements.txt":
		for line := range strings.SplitSeq(text, "\n") {
			name, version, ok := strings.Cut(line, "==")
			if ok && strings.EqualFold(strings.TrimSpace(before(name, "[")), pkg) {
				return firstVersion(version)
			}
		}
	case "Gemfile.lock":
		return firstVersion(behind(text, "\n    "+pkg+" ("))
	case "pubspec.lock":
		return quotedAfter(behind(text, "\n  "+pkg+":"), "version:")
	}
	return ""
}

// quotedAfter is the next quoted text behind a mark, no further than 600 bytes on.
func quotedAfter(text, mark string) string {
	text = behind(text[:min(len(text), 600)], mark)
	_, text, _ = strings.Cut(text, `"`)
	return before(text, `"`)
}

// firstVersion is the first run of characters that a version may have.
func firstVersion(text string) string {
	from := strings.IndexAny(text, "0123456789")
	if from < 0 || from > 10 {
		return ""
	}
	end := from
	for end < len(text) && strings.IndexByte(" \t\n\r\"'():;,", text[end]) < 0 {
		end++
	}
	return text[from:end]
}

func behind(s, mark string) string {
	_, rest, _ := strings.Cut(s, mark)
	return rest
}

func before(s, mark string) string {
	head, _, _ := strings.Cut(s, mark)
	return head
}
