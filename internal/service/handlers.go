package service

import (
	"fmt"
	"net/http"
	"reflect"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
)

var _ api.ServerInterface = (*Service)(nil)

// bad is an error that the caller can mend.
func bad(format string, args ...any) error {
	return echo.NewHTTPError(http.StatusBadRequest, fmt.Sprintf(format, args...))
}

// body reads a JSON body, as said by who signed in.
func body[T any](c *echo.Context) (T, error) {
	var v T
	c.Request().Body = http.MaxBytesReader(c.Response(), c.Request().Body, 32<<20)
	if err := c.Bind(&v); err != nil {
		return v, bad("the body is not the JSON that is wanted here: %v", err)
	}
	sign(reflect.ValueOf(&v).Elem(), who(c).Name)
	return v, nil
}

// answer gives a handler's result with status 200, or its error.
func answer(c *echo.Context) func(v any, err error) error {
	return func(v any, err error) error {
		if err != nil {
			return err
		}
		return c.JSON(http.StatusOK, v)
	}
}

// answerAs gives a view of a handler's result with status 200, or its error.
func answerAs[T, V any](c *echo.Context, view func(T) V) func(v T, err error) error {
	return func(v T, err error) error {
		if err != nil {
			return err
		}
		return c.JSON(http.StatusOK, view(v))
	}
}

// The most lines that one answer holds, and how many without a count.
const (
	mostLines  = 5000
	someLines  = 200
	lineNotice = "from and count are whole numbers of 1 or more, count at most 5000"
)

func window(from, count *int) (int, int, error) {
	f, n := 1, someLines
	if from != nil {
		f = *from
	}
	if count != nil {
		n = *count
	}
	if f < 1 || n < 1 || n > mostLines {
		return 0, 0, bad(lineNotice)
	}
	return f, n, nil
}
