// Package caller asks the weather station and the scales.
package caller

import (
	"fmt"
	"time"

	"github.com/gofiber/fiber/v2"
)

// Weather is what the station says.
type Weather struct {
	Rain  float64 `json:"rain"`
	Frost bool    `json:"frost"`
}

// Station is one weather station.
type Station struct{ Base string }

// Now asks for the weather of this hour.
func (s Station) Now() (Weather, error) {
	var weather Weather
	agent := fiber.Get(s.Base + "/now")
	agent.Timeout(2 * time.Second)
	status, _, errs := agent.Struct(&weather)
	if len(errs) > 0 {
		return weather, errs[0]
	}
	if status != fiber.StatusOK {
		return weather, fmt.Errorf("station answered %d", status)
	}
	return weather, nil
}

// Weigh asks a scale by its number.
func Weigh(base string, scale int) (string, error) {
	status, body, errs := fiber.Post(fmt.Sprintf("%s/scales/%d", base, scale)).String()
	if len(errs) > 0 {
		return "", errs[0]
	}
	if status >= fiber.StatusBadRequest {
		return "", fmt.Errorf("scale %d answered %d", scale, status)
	}
	return body, nil
}
