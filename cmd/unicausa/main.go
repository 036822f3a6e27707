// Command unicausa finds the causes behind what an upgrade broke.
package main

import (
	"context"
	"os"

	"unicausa/internal/cli"
)

func main() {
	os.Exit(cli.Main(context.Background(), os.Args, os.Stdin, os.Stdout, os.Stderr))
}
