package source

import (
	"path"
	"strings"
)

// Inert reports whether no build and no test can depend on a file, by its name: ignore
// files, an editor's settings, licences, and the project's own documents.
func Inert(file string) bool {
	base := strings.ToLower(path.Base(file))
	switch {
	case strings.HasSuffix(base, "ignore"), base == ".gitattributes", base == ".editorconfig", base == "codeowners":
		return true
	case base == "unicausa.yaml", base == ".unicausa.json":
		return true
	}
	switch strings.TrimSuffix(base, path.Ext(base)) {
	case "readme", "license", "licence", "copying", "authors", "contributors", "changelog", "changes", "history", "news", "notice":
		switch path.Ext(base) {
		case "", ".md", ".rst", ".txt", ".adoc":
			return true
		}
	}
	return false
}
