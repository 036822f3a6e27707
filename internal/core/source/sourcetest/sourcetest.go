// Package sourcetest makes source trees for tests.
package sourcetest

import (
	"archive/zip"
	"bytes"
	"io"
	"testing"
	"testing/fstest"

	"unicausa/internal/core/source"
)

// Tree is a tree of files, by their names.
func Tree(t testing.TB, files map[string]string) *source.Tree {
	t.Helper()
	m := fstest.MapFS{}
	for name, text := range files {
		m[name] = &fstest.MapFile{Data: []byte(text)}
	}
	tree, err := source.NewTree(m)
	if err != nil {
		t.Fatal(err)
	}
	return tree
}

// Zip is a tree of files as it is sent with a run.
func Zip(t testing.TB, files map[string]string) []byte {
	t.Helper()
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for name, text := range files {
		f, err := w.Create(name)
		if err == nil {
			_, err = io.WriteString(f, text)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}
