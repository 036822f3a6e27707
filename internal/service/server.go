// Package service is the HTTP service: the API of openapi.yaml, the console,
// live events, and the worker that processes what was recorded. It holds no
// computation and no SQL.
package service

import (
	"context"
	"database/sql"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"path"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/jackc/pgx/v5/pgconn"
	"github.com/labstack/echo/v5"
	"github.com/labstack/echo/v5/middleware"
	"github.com/prometheus/client_golang/prometheus/promhttp"

	"unicausa/internal/api"
	"unicausa/internal/core/guard"
	"unicausa/internal/store"
)

// Config is how a service runs.
type Config struct {
	Database    string   // PostgreSQL's address
	MaxUpload   int64    // bytes of one recording
	Connections int      // to the database at most; 0 for as many as the store thinks best
	Memory      int64    // bytes that work on runs may take; 0 for no bound
	Version     string   // of the program
	Token       string   // of this machine's user; without one, only people that were added are known
	User        string   // this machine's user
	Hosts       []string // the names and addresses that the service goes by, besides loopback
	Secure      bool     // browsers reach it by TLS alone
	Console     fs.FS    // the built console, index.html at its top; nil for none
	Log         *slog.Logger
}

// Service answers requests and works on what was recorded.
type Service struct {
	config   Config
	store    *store.Store
	worker   *worker
	hub      *hub
	projects sync.Map // of upgrades, by their ID
	stop     context.CancelFunc
}

// Start connects to the database, brings its tables up to date, and starts the
// worker, which also finishes what an earlier service left.
func Start(ctx context.Context, config Config) (*Service, error) {
	if config.Connections == 0 {
		config.Connections = store.Connections
	}
	records, err := store.Open(ctx, config.Database, config.Connections)
	if err != nil {
		return nil, err
	}
	records.Version = config.Version
	// The worker and the hub outlive the request that starts them, until Stop.
	background, stop := context.WithCancel(context.WithoutCancel(ctx))
	s := &Service{config: config, store: records, hub: newHub(), stop: stop}
	if s.worker, err = startWorker(background, records, config.Log, config.Memory); err != nil {
		stop()
		records.Close()
		return nil, err
	}
	go s.hub.follow(background, records, config.Log)
	if err := s.retryOutgrown(background); err != nil {
		config.Log.Error("retrying", "error", err)
	}
	return s, nil
}

// Stop ends the worker after the work at hand, or when ctx ends.
func (s *Service) Stop(ctx context.Context) error {
	err := s.worker.stop(ctx)
	s.stop()
	s.store.Close()
	return err
}

// Serve answers requests on the listener until ctx ends, then lets the ones at
// hand finish for up to ten seconds.
func (s *Service) Serve(ctx context.Context, l net.Listener) error {
	server := &http.Server{
		Handler: s.Handler(), ReadHeaderTimeout: headerTime, ReadTimeout: bodyTime, WriteTimeout: writeTime, IdleTimeout: idleTime, MaxHeaderBytes: headerSize,
		BaseContext: func(net.Listener) context.Context { return ctx },
	}
	done := make(chan error, 1)
	go func() { done <- server.Serve(l) }()
	select {
	case err := <-done:
		return fmt.Errorf("serving: %w", err)
	case <-ctx.Done():
	}
	closing, cancel := context.WithTimeout(context.WithoutCancel(ctx), 10*time.Second)
	defer cancel()
	s.hub.close()
	if err := server.Shutdown(closing); err != nil {
		return fmt.Errorf("stopping: %w", err)
	}
	return nil
}

// Handler is the service as an http.Handler.
func (s *Service) Handler() http.Handler {
	e := echo.NewWithConfig(echo.Config{Logger: s.config.Log, HTTPErrorHandler: s.problem})
	e.Use(s.logged, s.fenced, s.admitted, bounded)
	e.GET("/healthz", func(c *echo.Context) error { return c.String(http.StatusOK, "ok\n") })
	e.GET("/readyz", s.ready)
	e.GET("/sign-in", s.signInByKey)
	e.GET("/metrics", echo.WrapHandler(promhttp.Handler()))
	e.GET("/api/v1/openapi.yaml", func(c *echo.Context) error { return c.Blob(http.StatusOK, "application/yaml", api.Contract) })
	api.RegisterHandlersWithBaseURL(e, s, "/api/v1")
	e.Any("/api/*", func(c *echo.Context) error { return echo.ErrNotFound })
	if s.config.Console != nil {
		e.GET("/*", s.console, middleware.GzipWithConfig(middleware.GzipConfig{MinLength: 1 << 10}))
	}
	return e
}

func (s *Service) ready(c *echo.Context) error {
	ctx, cancel := context.WithTimeout(c.Request().Context(), 2*time.Second)
	defer cancel()
	if err := s.store.Ping(ctx); err != nil {
		return err
	}
	return c.String(http.StatusOK, "ready\n")
}

// console serves the console's files; any other path is a page of its own.
func (s *Service) console(c *echo.Context) error {
	name := strings.TrimPrefix(path.Clean(c.Request().URL.Path), "/")
	if name == "" {
		name = "index.html"
	}
	if _, err := fs.Stat(s.config.Console, name); err != nil {
		if strings.HasPrefix(name, "assets/") {
			return echo.ErrNotFound
		}
		name = "index.html"
	}
	if strings.HasPrefix(name, "assets/") {
		c.Response().Header().Set("Cache-Control", "public, max-age=31536000, immutable")
	} else {
		c.Response().Header().Set("Cache-Control", "no-cache")
	}
	return c.FileFS(name, s.config.Console)
}

// logged writes a line for each request.
func (s *Service) logged(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		start := time.Now()
		err := guarded(next, c)
		if err != nil {
			s.problem(c, err)
		}
		_, status := echo.ResolveResponseStatus(c.Response(), nil)
		s.config.Log.Info("request", "method", c.Request().Method, "path", c.Request().URL.Path, "status", status, "ms", time.Since(start).Milliseconds())
		return nil
	}
}

// guarded is next, whose panics are errors.
func guarded(next echo.HandlerFunc, c *echo.Context) (err error) {
	defer func() {
		var broken *guard.Error
		if errors.As(err, &broken) && broken.Value == http.ErrAbortHandler { // an answer that has to break off
			panic(http.ErrAbortHandler)
		}
	}()
	defer guard.Catch(c.Request().URL.Path, &err)
	return next(c)
}

// problem answers with a problem detail (RFC 9457). What the caller cannot
// mend is logged in full and told in short.
func (s *Service) problem(c *echo.Context, err error) {
	if r, unwrap := echo.UnwrapResponse(c.Response()); unwrap == nil && r.Committed {
		return
	}
	p := api.Problem{Type: "about:blank", Status: http.StatusInternalServerError, Detail: err.Error(), Instance: c.Request().URL.Path}
	var http4xx *echo.HTTPError
	var coder echo.HTTPStatusCoder
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &tooLarge):
		p.Status, p.Detail = http.StatusRequestEntityTooLarge, fmt.Sprintf("the upload is larger than %d MiB: record less at once, or start the service with a larger --max-upload", tooLarge.Limit>>20)
	case errors.As(err, &http4xx):
		p.Status, p.Detail = http4xx.Code, http4xx.Message
	case errors.Is(err, os.ErrDeadlineExceeded):
		p.Status, p.Detail = http.StatusRequestTimeout, "the request came too slowly: nothing was stored, send it again"
	case errors.Is(err, errSlow):
		p.Status, p.Detail = http.StatusServiceUnavailable, fmt.Sprintf("%v: nothing was changed, try again when there is less to do", err)
		c.Response().Header().Set("Retry-After", "30")
	case errors.Is(err, store.ErrFull), code(err, "53100"):
		p.Status, p.Detail = http.StatusInsufficientStorage, "the service's disk is full: nothing was stored; make room, or let go of old raw output (unicausa prune)"
		s.config.Log.Error("disk", "error", err)
	case errors.Is(err, store.ErrGone):
		p.Status = http.StatusGone
	case errors.Is(err, store.ErrNotFound):
		p.Status = http.StatusNotFound
	case errors.Is(err, store.ErrConflict), errors.Is(err, store.ErrChanged), errors.Is(err, store.ErrNotYet):
		p.Status = http.StatusConflict
	case passing(err):
		p.Status, p.Detail = http.StatusServiceUnavailable, "the database does not answer: nothing was stored; try again once it is back"
		c.Response().Header().Set("Retry-After", "2")
		s.config.Log.Error("database", "error", err)
	case errors.As(err, &coder):
		p.Status = coder.StatusCode()
	default:
		p.Detail = "something went wrong inside; the service's log has the details"
		s.config.Log.Error("request failed", "path", p.Instance, "error", err)
	}
	p.Title = http.StatusText(p.Status)
	c.Response().Header().Set("Content-Type", "application/problem+json")
	if err := c.JSON(p.Status, p); err != nil {
		s.config.Log.Warn("answering", "error", err)
	}
}

// passing reports whether an error is the database's own and goes by: it does not answer,
// is starting or shutting down, or has no room.
func passing(err error) bool {
	var down *pgconn.ConnectError
	var network *net.OpError
	return errors.As(err, &down) || errors.As(err, &network) || pgconn.SafeToRetry(err) || errors.Is(err, io.ErrUnexpectedEOF) || errors.Is(err, io.EOF) ||
		errors.Is(err, driver.ErrBadConn) || errors.Is(err, sql.ErrConnDone) || errors.Is(err, net.ErrClosed) || errors.Is(err, store.ErrFull) ||
		code(err, "08", "53", "57P", "40001", "40P01") || strings.Contains(err.Error(), "conn closed")
}

// code reports whether the database answered with an error of one of the classes
// (SQLSTATE, as PostgreSQL's appendix on error codes lists them).
func code(err error, classes ...string) bool {
	var pg *pgconn.PgError
	return errors.As(err, &pg) && slices.ContainsFunc(classes, func(c string) bool { return strings.HasPrefix(pg.Code, c) })
}
