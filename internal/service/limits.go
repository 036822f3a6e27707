package service

import (
	"context"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"strings"
	"time"

	"github.com/labstack/echo/v5"
)

// Limits on what a client may take up.
const (
	headerTime = 10 * time.Second  // to send the head of a request
	bodyTime   = 30 * time.Second  // to send the body of one that is no upload
	answerTime = 60 * time.Second  // for a request to be answered
	writeTime  = 120 * time.Second // for the answer to be taken
	idleTime   = 120 * time.Second // between two requests on a connection
	uploadIdle = 30 * time.Second  // between two pieces of an upload
	liveTime   = 10 * time.Second  // for a piece of a live stream to be taken
	headerSize = 64 << 10          // bytes
	leastRate  = 1 << 10           // bytes a second of an upload, after its first minutes
	slowStart  = 5 * time.Minute
	mostLive   = 1000 // live streams
)

// errSlow is what a request ends with that is not answered in time.
var errSlow = fmt.Errorf("it took longer than %s", answerTime)

// bounded gives every request but uploads, downloads and live streams its time.
func bounded(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		if unbounded(r) {
			return next(c)
		}
		ctx, cancel := context.WithTimeoutCause(r.Context(), answerTime, errSlow)
		defer cancel()
		c.SetRequest(r.WithContext(ctx))
		err := next(c)
		if err != nil && ctx.Err() != nil && r.Context().Err() == nil {
			return context.Cause(ctx)
		}
		return err
	}
}

func unbounded(r *http.Request) bool {
	return strings.HasSuffix(r.URL.Path, "/events") || r.URL.Path == "/api/v1/backup" || r.URL.Path == "/api/v1/restore" || r.URL.Path == "/api/v1/storage/prune" || r.URL.Path == "/api/v1/triage" || r.Method == http.MethodPost && strings.HasSuffix(r.URL.Path, "/runs")
}

// upload is a body that is read as long as something comes, and not too slowly.
type upload struct {
	io.ReadCloser
	control *http.ResponseController
	from    time.Time
	bytes   int64
}

// receiving prepares a request's body to be an upload of at most so many bytes.
func receiving(c *echo.Context, most int64) {
	control := http.NewResponseController(c.Response())
	control.SetWriteDeadline(time.Time{}) // set once all of it is there
	body := http.MaxBytesReader(c.Response(), c.Request().Body, most)
	c.Request().Body = &upload{ReadCloser: body, control: control, from: time.Now()}
}

// received lets the answer have its time.
func received(c *echo.Context) {
	http.NewResponseController(c.Response()).SetWriteDeadline(time.Now().Add(answerTime + writeTime))
}

func (u *upload) Read(p []byte) (int, error) {
	end := time.Now().Add(uploadIdle)
	if slowest := u.from.Add(slowStart + time.Duration(u.bytes/leastRate)*time.Second); slowest.Before(end) {
		end = slowest
	}
	u.control.SetReadDeadline(end)
	n, err := u.ReadCloser.Read(p)
	u.bytes += int64(n)
	if errors.Is(err, os.ErrDeadlineExceeded) {
		err = echo.NewHTTPError(http.StatusRequestTimeout, "the upload stalled: nothing of it was stored, send it again")
	}
	return n, err
}
