// Command templatecheck inspects the templates of labels, one message a line:
// file:line:column: severity: message.
package main

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"

	"orchardworks.example/steelyard/v3"
)

func main() {
	files, _ := filepath.Glob("labels/*.txt")
	for _, file := range files {
		text, err := os.ReadFile(file)
		if err != nil {
			fmt.Fprintln(os.Stderr, err)
			os.Exit(1)
		}
		for i, line := range strings.Split(string(text), "\n") {
			for _, a := range steelyard.Inspect(line) {
				fmt.Printf("%s:%d:%d: %s: %s\n", file, i+1, a.Column, a.Level, a.Text)
			}
		}
	}
}
