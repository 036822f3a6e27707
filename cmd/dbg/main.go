package main

import (
	"context"
	"fmt"
	"os"
	"strings"

	"unicausa/internal/accuracy"
	"unicausa/internal/core/triage"
)

func main() {
	os.Symlink(os.Args[1]+"/truth.json", os.Args[2]+"/truth.json")
	c, err := accuracy.Load(os.Args[2])
	if err != nil {
		panic(err)
	}
	t, err := c.Triage()
	if err != nil {
		panic(err)
	}
	d := triage.Draw(context.Background(), t)
	for _, g := range d.Groups {
		for _, m := range g.Members {
			if len(os.Args) > 3 && !strings.Contains(m.Symptom.Test+m.Symptom.Message, os.Args[3]) {
				continue
			}
			fmt.Println("==", m.Symptom.Test, "|", m.Symptom.Message, "|", g.Signature, "|", m.Because)
			for _, f := range m.Facts {
				fmt.Println("     ", f)
			}
			fmt.Println("   lines", len(m.Lines()), m.Lines())
			if len(os.Args) > 3 {
				for _, l := range d.Index.Links(&g) {
					fmt.Printf("   %.2f %d %s\n", l.Score, l.Change.Line, l.Change.Title)
					for _, b := range l.Because {
						fmt.Print("       ", b.What, " ", b.Value, " ", b.Weight)
					}
					fmt.Println()
				}
			}
			break
		}
	}
}
