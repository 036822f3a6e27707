package cluster

import (
	"regexp"
	"strings"

	"unicausa/internal/core/source"
	"unicausa/internal/core/symptom"
)

// chained takes what the code asks for the missing name or the refused call, where
// that is a part of something else itself, and whose it all is: lids of
// jar.lids.open, where jar is imported.
func (e *Evidence) chained(imports map[string]string, ctx *Context) {
	name := first(e.Symptom.Named(symptom.Missing), e.Symptom.Named(symptom.Callee))
	text := e.tree.Line(e.Symptom.File, e.Symptom.Line)
	names := source.Names(text)
	for i, n := range names {
		if n.Text != name[strings.LastIndexAny(name, ".:\\")+1:] || i == 0 || !isMember(text, n.Column) || e.Symptom.Column > 0 && (e.Symptom.Column < names[i-1].Column || n.Column+len(n.Text) < e.Symptom.Column) {
			continue
		}
		if owner := names[i-1]; owner.Text == n.Qualifier && isMember(text, owner.Column) {
			e.add(Fact{What: FactOwner, Name: owner.Text, Weight: faint})
		}
		root := i
		for root > 0 && isMember(text, names[root].Column) {
			root--
		}
		for f := range e.Facts {
			if fact := &e.Facts[f]; fact.Name == n.Text && fact.Package == "" && names[root].Qualifier == "" {
				fact.Package = behind(e.tree, ctx, e.Symptom.File, names[root], imports[names[root].Text])
			}
		}
		return
	}
}

// behind is the package that an import means: where it is a file of the project's,
// the one package that moved which that file imports, if there is one.
func behind(tree *source.Tree, ctx *Context, file string, name source.Name, pkg string) string {
	if !strings.HasPrefix(pkg, ".") {
		return pkg
	}
	found := map[string]bool{}
	for _, near := range tree.Near(file, name) {
		for _, imp := range tree.Imports(near) {
			if len(ctx.Subjects) > 0 && ctx.moved(imp.Package) {
				found[imp.Package] = true
			}
		}
	}
	if len(found) != 1 {
		return ""
	}
	for of := range found {
		pkg = of
	}
	return pkg
}

// moduleType is how the TypeScript compiler writes the type of a whole module.
var moduleType = regexp.MustCompile(`^typeof import\("(?:.*node_modules/)?([^"]+)"\)$`)

// imported is the package of a file's imports that a path leads into, the
// longest one.
func imported(imports map[string]string, path string) string {
	best := ""
	for _, pkg := range imports {
		if (path == pkg || strings.HasPrefix(path, pkg+"/")) && len(pkg) > len(best) {
			best = pkg
		}
	}
	return best
}
