// Package desk takes bookings for the cider press.
package desk

import (
	"errors"

	"github.com/gofiber/fiber/v2"
)

// Booking is an hour at the press.
type Booking struct {
	Grower string  `json:"grower" query:"grower" params:"grower"`
	Hour   int     `json:"hour" query:"hour"`
	Weight float64 `json:"weight" query:"weight"`
}

// Book holds the bookings by hour.
type Book struct{ hours map[int]Booking }

// NewBook returns an empty book.
func NewBook() *Book { return &Book{hours: map[int]Booking{}} }

// Add takes a booking from the request's body.
func (b *Book) Add(c *fiber.Ctx) error {
	var booking Booking
	if err := c.BodyParser(&booking); err != nil {
		return fiber.NewError(fiber.StatusBadRequest, err.Error())
	}
	if _, taken := b.hours[booking.Hour]; taken {
		return c.Status(fiber.StatusConflict).SendString("taken")
	}
	b.hours[booking.Hour] = booking
	return c.Status(fiber.StatusCreated).JSON(booking)
}

// Show answers with one hour's booking.
func (b *Book) Show(c *fiber.Ctx) error {
	hour, err := c.ParamsInt("hour")
	if err != nil {
		return fiber.ErrBadRequest
	}
	booking, ok := b.hours[hour]
	if !ok {
		return c.Redirect("/hours")
	}
	return c.JSON(booking)
}

// Hours lists what is free.
func (b *Book) Hours(c *fiber.Ctx) error {
	from := c.QueryInt("from", 6)
	var free []int
	for hour := from; hour < 20; hour++ {
		if _, taken := b.hours[hour]; !taken {
			free = append(free, hour)
		}
	}
	c.Set("X-Free", "yes")
	return c.JSON(free)
}

// Cancel frees an hour.
func (b *Book) Cancel(c *fiber.Ctx) error {
	hour, err := c.ParamsInt("hour")
	if err != nil {
		return errors.New("no such hour")
	}
	delete(b.hours, hour)
	return c.SendStatus(fiber.StatusNoContent)
}

// Named answers with the grower of the path.
func Named(c *fiber.Ctx) error {
	return c.SendString(c.Params("grower"))
}
