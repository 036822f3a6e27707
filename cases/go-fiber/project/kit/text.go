// Package kit has the small tools.
package kit

import (
	"github.com/gofiber/fiber/v2/utils"
)

// Token returns a name for a booking.
func Token() string { return utils.UUIDv4() }

// Lower puts a grower's name in lower case.
func Lower(name string) string { return utils.ToLower(name) }
