// Package board shows how the press is doing.
package board

import (
	"net/http"

	"github.com/gofiber/fiber/v2"
	"github.com/gofiber/fiber/v2/middleware/filesystem"
)

// Add puts the board into an application.
func Add(app *fiber.App) {
	app.Use("/charts", filesystem.New(filesystem.Config{Root: http.Dir("charts")}))
}
