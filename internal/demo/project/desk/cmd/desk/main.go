// Command desk opens the reception and hands out a ticket for a trial.
package main

import (
	"fmt"

	"coop.example/orchard-desk/counter"
	"coop.example/orchard-desk/queue"
)

func main() {
	fmt.Println("trial ticket", queue.New().Hand())
	fmt.Println("the wall shows", counter.New().Call())
}
