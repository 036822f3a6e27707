// Package gate puts the application together.
package gate

import (
	"time"

	"github.com/gofiber/fiber/v2"
	"github.com/gofiber/fiber/v2/middleware/cors"
	"github.com/gofiber/fiber/v2/middleware/limiter"
)

// Public is the name of the gate.
const Public = "public"

// New returns the application of the public gate.
func New() *fiber.App {
	app := fiber.New(fiber.Config{
		AppName:                 Public,
		Prefork:                 false,
		Network:                 fiber.NetworkTCP4,
		DisableStartupMessage:   true,
		EnableTrustedProxyCheck: true,
		TrustedProxies:          []string{"10.0.0.1"},
		ProxyHeader:             fiber.HeaderXForwardedFor,
	})
	app.Use(cors.New(cors.Config{
		AllowOrigins: "https://press.example, https://desk.example",
		AllowMethods: "GET,POST",
		AllowHeaders: "X-Hour",
		MaxAge:       60,
	}))
	app.Use(limiter.New(limiter.Config{Max: 40, Expiration: time.Minute}))
	app.Static("/prices", "./prices")
	return app
}

// Serve listens with the press's certificate.
func Serve(app *fiber.App, cert, key string) error {
	return app.ListenTLS(":8443", cert, key)
}

// ServeMutual lets in only machines that have a certificate.
func ServeMutual(app *fiber.App, cert, key, ca string) error {
	return app.ListenMutualTLS(":8444", cert, key, ca)
}

// Inner returns the application that only the press's own machines call.
func Inner() *fiber.App {
	return fiber.New(fiber.Config{AppName: "inner", DisableStartupMessage: true})
}
