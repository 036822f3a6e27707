// Mutate changes one decision of the core at a time, a comparison, a condition, a number or a
// step that is left out, and runs the tests over it: a change that no test notices stands in
// code that no test holds. It prints each survivor with its place, and in the end the share
// that was caught. The source tree is not touched: changed files are laid over it.
//
//	go run ./internal/mutate [-n 300] [-seed 1] [PACKAGE...]
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"go/ast"
	"go/parser"
	"go/printer"
	"go/token"
	"log"
	"math/rand/v2"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"time"
)

// decides are the packages whose decisions are changed, and holds those whose tests are run
// after the package's own and those of the labelled cases, the quickest first.
var (
	decides = []string{"compare", "track", "gate", "cluster", "link"}
	holds   = []string{"track", "gate", "analysis", "triage", "debt", "review"}
)

// limit is how long the tests of one package may take: a change can make a loop endless.
const limit = 3 * time.Minute

// mutant is one change to a file.
type mutant struct {
	pkg, file string
	line      int
	what      string
	text      []byte // of the changed file
}

func main() {
	log.SetFlags(0)
	count := flag.Int("n", 300, "how many changes are tried")
	seed := flag.Uint64("seed", 1, "what they are drawn by")
	flag.Parse()
	packages := flag.Args()
	if len(packages) == 0 {
		packages = decides
	}
	var all []mutant
	for _, pkg := range packages {
		list, err := mutants(pkg)
		if err != nil {
			log.Fatal(err)
		}
		all = append(all, list...)
	}
	random := rand.New(rand.NewPCG(*seed, 0))
	random.Shuffle(len(all), func(i, j int) { all[i], all[j] = all[j], all[i] })
	fmt.Printf("%d places, %d tried\n", len(all), min(*count, len(all)))
	caught, tried := 0, 0
	for _, m := range all[:min(*count, len(all))] {
		noticed, built, err := try(m)
		switch {
		case err != nil:
			log.Fatal(err)
		case !built:
			continue
		case noticed:
			caught++
		default:
			fmt.Printf("survived: %s:%d: %s\n", m.file, m.line, m.what)
		}
		if tried++; tried%progress == 0 {
			fmt.Printf("so far %d of %d\n", caught, tried)
		}
	}
	if tried > 0 {
		fmt.Printf("%d of %d caught, %.0f %%\n", caught, tried, 100*float64(caught)/float64(tried))
	}
}

// progress is after how many changes the score is told.
const progress = 25

// mutants are all changes to a package of the core.
func mutants(pkg string) ([]mutant, error) {
	names, err := filepath.Glob(filepath.Join("internal/core", pkg, "*.go"))
	if err != nil {
		return nil, err
	}
	if len(names) == 0 {
		return nil, fmt.Errorf("there is no package internal/core/%s: run this in the project's top folder", pkg)
	}
	var list []mutant
	for _, name := range names {
		if strings.HasSuffix(name, "_test.go") {
			continue
		}
		files := token.NewFileSet()
		tree, err := parser.ParseFile(files, name, nil, parser.ParseComments)
		if err != nil {
			return nil, err
		}
		for _, c := range changes(tree) {
			was := files.Position(c.at)
			c.do()
			var text bytes.Buffer
			err := printer.Fprint(&text, files, tree)
			c.undo()
			if err != nil {
				return nil, err
			}
			list = append(list, mutant{pkg: pkg, file: name, line: was.Line, what: c.what, text: text.Bytes()})
		}
	}
	return list, nil
}

// change is a change to a tree, which is undone once the file is printed.
type change struct {
	at       token.Pos
	what     string
	do, undo func()
}

// swapped is what each operator becomes.
var swapped = map[token.Token]token.Token{
	token.EQL: token.NEQ, token.NEQ: token.EQL, token.LSS: token.LEQ, token.LEQ: token.LSS, token.GTR: token.GEQ, token.GEQ: token.GTR,
	token.LAND: token.LOR, token.LOR: token.LAND, token.ADD: token.SUB, token.SUB: token.ADD,
}

// changes are what can be changed in a file.
func changes(file *ast.File) []change {
	var list []change
	ast.Inspect(file, func(n ast.Node) bool {
		switch n := n.(type) {
		case *ast.GenDecl:
			return n.Tok != token.CONST && n.Tok != token.IMPORT
		case *ast.BinaryExpr:
			if to, ok := swapped[n.Op]; ok && !isText(n) {
				was := n.Op
				list = append(list, change{n.OpPos, fmt.Sprintf("%s became %s", was, to), func() { n.Op = to }, func() { n.Op = was }})
			}
		case *ast.BasicLit:
			if v, err := strconv.Atoi(n.Value); n.Kind == token.INT && err == nil {
				was := n.Value
				list = append(list, change{n.Pos(), fmt.Sprintf("%s became %d", was, v+1), func() { n.Value = strconv.Itoa(v + 1) }, func() { n.Value = was }})
			}
		case *ast.Ident:
			if to, ok := map[string]string{"true": "false", "false": "true"}[n.Name]; ok {
				was := n.Name
				list = append(list, change{n.Pos(), was + " became " + to, func() { n.Name = to }, func() { n.Name = was }})
			}
		case *ast.BlockStmt:
			list = append(list, leftOut(n.List)...)
		case *ast.CaseClause:
			list = append(list, leftOut(n.Body)...)
		}
		return true
	})
	return list
}

// isText reports whether an addition joins texts, which has no opposite.
func isText(n *ast.BinaryExpr) bool {
	text := false
	ast.Inspect(n, func(n ast.Node) bool {
		if l, ok := n.(*ast.BasicLit); ok && l.Kind == token.STRING {
			text = true
		}
		return true
	})
	return n.Op == token.ADD && text
}

// leftOut are the steps of a block that can be left out and leave it whole.
func leftOut(block []ast.Stmt) []change {
	var list []change
	for i, s := range block {
		switch s := s.(type) {
		case *ast.ExprStmt, *ast.IncDecStmt:
		case *ast.BranchStmt:
			if s.Tok != token.CONTINUE && s.Tok != token.BREAK {
				continue
			}
		case *ast.AssignStmt:
			if s.Tok == token.DEFINE {
				continue
			}
		default:
			continue
		}
		list = append(list, change{s.Pos(), "was left out", func() { block[i] = &ast.EmptyStmt{Semicolon: s.Pos(), Implicit: true} }, func() { block[i] = s }})
	}
	return list
}

// try runs the tests over a change. Built is false where it does not compile.
func try(m mutant) (noticed, built bool, err error) {
	folder, err := os.MkdirTemp("", "unicausa-mutate")
	if err != nil {
		return false, false, err
	}
	defer os.RemoveAll(folder)
	changed, overlay := filepath.Join(folder, "changed.go"), filepath.Join(folder, "overlay.json")
	if err := os.WriteFile(changed, m.text, 0o600); err != nil {
		return false, false, err
	}
	whole, err := filepath.Abs(m.file)
	if err != nil {
		return false, false, err
	}
	text, err := json.Marshal(map[string]map[string]string{"Replace": {whole: changed}})
	if err == nil {
		err = os.WriteFile(overlay, text, 0o600)
	}
	if err != nil {
		return false, false, err
	}
	if err := exec.Command("go", "build", "-overlay", overlay, "./internal/core/"+m.pkg).Run(); err != nil {
		return false, false, nil
	}
	tests := []string{"./internal/core/" + m.pkg, "./internal/accuracy"}
	for _, name := range holds {
		if name != m.pkg {
			tests = append(tests, "./internal/core/"+name)
		}
	}
	for _, test := range tests {
		ctx, cancel := context.WithTimeout(context.Background(), limit)
		err := exec.CommandContext(ctx, "go", "test", "-overlay", overlay, "-count=1", "-failfast", "-vet=off", test).Run()
		cancel()
		if err != nil {
			return true, true, nil
		}
	}
	return false, true, nil
}
