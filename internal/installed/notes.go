package installed

import (
	"archive/zip"
	"bytes"
	"compress/gzip"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

// Document is a document of notes as it lies on this machine.
type Document struct {
	Name string // short: the package and the file, "jar/CHANGELOG.md"
	Path string // whole; of a file in an archive the archive's
	Text string
}

// noteNames are the names that ecosystems give change logs, histories and guides.
var noteNames = regexp.MustCompile(`(?i)^((change[-_ ]?(s|log)|history|release[-_ ]?(s|notes)|news|whats[-_ ]?new|(migrat|upgrad)(e|ing|ion)([-_ ]?guide)?)([-_. ].*)?|.*[-_.](changelog|migration|upgrading))(\.(md|markdown|rst|txt|html?|adoc))?(\.gz)?$`)

const (
	mostDocument  = 8 << 20 // bytes of one document
	mostDocuments = 12      // of one package
	deepest       = 3       // folders below the package's own
)

// Notes finds the change logs, histories and migration guides of a package where its
// ecosystem puts them on this machine, as a project in dir uses it: those of the version that
// it moves to, and of the earlier version those that the later one has no more.
func Notes(dir, pkg, from, to string) []Document {
	found := notesOf(dir, pkg, to)
	seen := map[string]bool{}
	for _, d := range found {
		seen[filepath.Base(d.Name)] = true
	}
	for _, d := range notesOf(dir, pkg, from) {
		if base := filepath.Base(d.Name); !seen[base] {
			seen[base] = true
			found = append(found, d)
		}
	}
	return found[:min(len(found), mostDocuments)]
}

// notesOf finds the notes of one version. A package lies in one place, beside which its
// documents may lie in another.
func notesOf(dir, pkg, version string) []Document {
	version = strings.TrimPrefix(version, "v")
	if pkg == "" || strings.Contains(pkg+version, "..") {
		return nil
	}
	var list []Document
	add := func(more []Document) {
		for _, d := range more {
			if !slices.ContainsFunc(list, func(o Document) bool { return o.Text == d.Text }) {
				list = append(list, d)
			}
		}
	}
	if folder := Folder(dir, pkg, version); folder != "" {
		add(inFolder(pkg, folder))
	}
	for _, pattern := range otherPlaces(dir, pkg, version) {
		places, err := filepath.Glob(pattern)
		if err != nil {
			continue
		}
		for _, place := range places {
			switch info, err := os.Stat(place); {
			case err != nil:
			case info.IsDir():
				add(inFolder(pkg, place))
			default:
				add(inArchive(pkg, place))
			}
		}
	}
	return list
}

// otherPlaces are where documents lie besides the package's own folder.
func otherPlaces(dir, pkg, version string) []string {
	home, err := os.UserHomeDir()
	if err != nil {
		home = dir
	}
	short := shortName(pkg)
	under := strings.ReplaceAll(pkg, "-", "_")
	places := []string{
		filepath.Join(dir, "*venv", "lib", "python*", "site-packages", under+"-"+version+".dist-info"),
		filepath.Join(home, ".gem", "ruby", "*", "gems", pkg+"-"+version),
		filepath.Join(home, ".local", "share", "gem", "ruby", "*", "gems", pkg+"-"+version),
		filepath.Join("/var/lib/gems", "*", "gems", pkg+"-"+version),
		filepath.Join("/usr/lib/ruby/gems", "*", "gems", pkg+"-"+version),
		filepath.Join(home, ".pub-cache", "hosted", "*", pkg+"-"+version),
		filepath.Join(home, ".nuget", "packages", strings.ToLower(pkg), version),
	}
	if group, artifact, ok := strings.Cut(pkg, ":"); ok {
		places = append(places,
			filepath.Join(home, ".m2", "repository", strings.ReplaceAll(group, ".", "/"), artifact, version, artifact+"-"+version+"*.jar"),
			filepath.Join(home, ".gradle", "caches", "modules-2", "files-2.1", group, artifact, version, "*", artifact+"-"+version+"*.jar"))
	}
	for _, form := range []string{"%", "lib%", "lib%-dev", "python3-%", "node-%", "ruby-%", "php-%", "golang-%-dev"} {
		places = append(places, filepath.Join("/usr/share/doc", strings.ReplaceAll(form, "%", short)))
	}
	return places
}

var major = regexp.MustCompile(`[/.]v\d+$`)

// shortName is the last part of a package's name.
func shortName(pkg string) string {
	pkg = major.ReplaceAllString(pkg, "")
	return pkg[strings.LastIndexAny(pkg, "/:")+1:]
}

// inFolder are the notes in a package's folder, those that lie higher first.
func inFolder(pkg, folder string) []Document {
	var list []Document
	filepath.WalkDir(folder, func(name string, d fs.DirEntry, err error) error {
		rel, relErr := filepath.Rel(folder, name)
		switch {
		case err != nil || relErr != nil:
			return nil
		case d.IsDir() && name != folder && (d.Name() == "node_modules" || d.Name() == "testdata" || strings.HasPrefix(d.Name(), ".") || strings.Count(rel, string(filepath.Separator)) >= deepest):
			return fs.SkipDir
		case !d.Type().IsRegular() || !isNotes(filepath.ToSlash(rel)):
			return nil
		}
		f, err := os.Open(name)
		if err != nil {
			return nil
		}
		defer f.Close()
		if text, ok := textOf(d.Name(), f); ok {
			list = append(list, Document{Name: shortName(pkg) + "/" + filepath.ToSlash(strings.TrimSuffix(rel, ".gz")), Path: name, Text: text})
		}
		return nil
	})
	slices.SortStableFunc(list, func(a, b Document) int { return strings.Count(a.Name, "/") - strings.Count(b.Name, "/") })
	return list
}

// isNotes reports whether a file is one of notes by its name: a change log anywhere, or a
// document below a folder that is named for changes.
func isNotes(rel string) bool {
	parts := strings.Split(rel, "/")
	base := parts[len(parts)-1]
	if noteNames.MatchString(base) && !strings.Contains(base, ".so") {
		switch ext := strings.ToLower(filepath.Ext(strings.TrimSuffix(base, ".gz"))); ext {
		case ".js", ".ts", ".go", ".py", ".rb", ".rs", ".php", ".java", ".json", ".c", ".h", ".pyc", ".map", ".css":
			return false
		}
		return true
	}
	return false
}

// inArchive are the notes in a jar: below META-INF, or at the top.
func inArchive(pkg, file string) []Document {
	archive, err := zip.OpenReader(file)
	if err != nil {
		return nil
	}
	defer archive.Close()
	var list []Document
	for _, f := range archive.File {
		dir, base := filepath.Split(filepath.ToSlash(f.Name))
		if !isNotes(base) || dir != "" && !strings.HasPrefix(dir, "META-INF/") {
			continue
		}
		in, err := f.Open()
		if err != nil {
			continue
		}
		if text, ok := textOf(base, in); ok {
			list = append(list, Document{Name: shortName(pkg) + "/" + base, Path: file, Text: text})
		}
		in.Close()
	}
	return list
}

// textOf reads a document; ok is false for one that is no text, empty or too large.
func textOf(name string, r io.Reader) (text string, ok bool) {
	if strings.HasSuffix(name, ".gz") {
		unzipped, err := gzip.NewReader(r)
		if err != nil {
			return "", false
		}
		r = unzipped
	}
	data, err := io.ReadAll(io.LimitReader(r, mostDocument+1))
	if err != nil || len(data) > mostDocument || bytes.IndexByte(data, 0) >= 0 || len(bytes.TrimSpace(data)) == 0 {
		return "", false
	}
	return string(data), true
}
