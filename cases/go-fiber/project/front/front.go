// Package front answers plain requests at the press's front door.
package front

import (
	"io"
	"net/http"
	"time"

	"github.com/gofiber/fiber/v2"
	"github.com/gofiber/fiber/v2/middleware/adaptor"
	"github.com/gofiber/fiber/v2/middleware/basicauth"
	"github.com/gofiber/fiber/v2/middleware/cache"
	"github.com/gofiber/fiber/v2/middleware/healthcheck"
	"github.com/gofiber/fiber/v2/middleware/redirect"
	"github.com/gofiber/fiber/v2/middleware/requestid"
)

// Say answers every request with the same text.
func Say(text string) fiber.Handler {
	return adaptor.HTTPHandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		io.WriteString(w, text)
	})
}

// Prices is the list of prices, kept for a while.
func Prices() *fiber.App {
	app := fiber.New()
	app.Use(cache.New())
	app.Get("/prices", Say("apple 12\npear 14\n"))
	app.Get("/broken", adaptor.HTTPHandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		http.Error(w, time.Now().String(), http.StatusBadGateway)
	}))
	return app
}

// Guarded has the foremen's pages behind a password.
func Guarded() *fiber.App {
	app := fiber.New()
	app.Use("/press", basicauth.New(basicauth.Config{Users: map[string]string{"foreman": "cider"}}))
	app.Get("/press", Say("the press"))
	app.Get("/pressing", Say("a day at the press"))
	return app
}

// Limited counts with a prefix alone.
func Limited() *fiber.App {
	app := fiber.New()
	app.Use("/hour", requestid.New())
	app.Get("/hour", Say("one"))
	app.Get("/hours", Say("many"))
	return app
}

// Traced gives every request a number.
func Traced() *fiber.App {
	app := fiber.New()
	app.Use(requestid.New())
	app.Get("/hours", Say("6 7 8"))
	return app
}

// Alive answers whoever watches the press.
func Alive() *fiber.App {
	app := fiber.New()
	app.Use(healthcheck.New())
	app.Get("/hours", Say("6 7 8"))
	return app
}

// Moved sends old addresses on.
func Moved() *fiber.App {
	app := fiber.New()
	app.Use(redirect.New(redirect.Config{Rules: map[string]string{"/old": "/hours", "/old/*": "/hours/$1"}}))
	app.Get("/hours", Say("6 7 8"))
	return app
}

// Weights adds up what was pressed.
func Weights(kilos []float64) (sum float64) {
	for i := range kilos {
		kilos[i] = kilos[i]
		sum += kilos[i]
	}
	return sum
}
