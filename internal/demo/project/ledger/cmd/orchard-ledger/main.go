// Command orchard-ledger weighs crates and prints statements.
package main

import (
	"fmt"
	"os"

	"coop.example/orchard-ledger/crates"
	"coop.example/orchard-ledger/weighin"
)

func main() {
	d := weighin.New(crates.Wood.Empty)
	e, err := d.Take("Hagen")
	if err != nil {
		fmt.Fprintln(os.Stderr, "orchard-ledger:", err)
		os.Exit(1)
	}
	fmt.Println(e.Grower, e.Kilos)
}
