package service

import (
	"context"
	"encoding/json"
	"fmt"
	"log/slog"
	"net/http"
	"strconv"
	"sync"
	"time"

	"github.com/labstack/echo/v5"

	"unicausa/internal/api"
	"unicausa/internal/store"
)

// hub wakes the followers of an upgrade when something happened to it, in this
// service or in another on the same database.
type hub struct {
	mu      sync.Mutex
	waiting map[int64]map[chan struct{}]bool
	joined  int
	done    chan struct{}
	once    sync.Once
}

func newHub() *hub {
	return &hub{waiting: map[int64]map[chan struct{}]bool{}, done: make(chan struct{})}
}

// follow listens to the database until ctx ends, and again after a break.
func (h *hub) follow(ctx context.Context, records *store.Store, log *slog.Logger) {
	for ctx.Err() == nil {
		err := records.Listen(ctx, h.wake)
		if ctx.Err() != nil {
			return
		}
		log.Warn("events", "error", err)
		select {
		case <-ctx.Done():
		case <-time.After(time.Second):
		}
	}
}

func (h *hub) wake(upgrade int64) {
	h.mu.Lock()
	defer h.mu.Unlock()
	for c := range h.waiting[upgrade] {
		select {
		case c <- struct{}{}:
		default:
		}
	}
}

// errCrowded refuses a live stream.
var errCrowded = echo.NewHTTPError(http.StatusServiceUnavailable, fmt.Sprintf("%d live streams are open already: try again when some have ended", mostLive))

func (h *hub) join(upgrade int64) (woken chan struct{}, leave func(), err error) {
	woken = make(chan struct{}, 1)
	h.mu.Lock()
	defer h.mu.Unlock()
	if h.joined++; h.joined > mostLive {
		h.joined--
		return nil, nil, errCrowded
	}
	if h.waiting[upgrade] == nil {
		h.waiting[upgrade] = map[chan struct{}]bool{}
	}
	h.waiting[upgrade][woken] = true
	return woken, func() {
		h.mu.Lock()
		defer h.mu.Unlock()
		delete(h.waiting[upgrade], woken)
		h.joined--
	}, nil
}

// close ends all streams, so that the server can stop.
func (h *hub) close() { h.once.Do(func() { close(h.done) }) }

// heartbeat keeps a quiet stream open, and finds events whose wake-up was lost.
const heartbeat = 15 * time.Second

// FollowEvents answers GET /upgrades/{upgrade}/events with server-sent events,
// as the HTML standard defines them.
func (s *Service) FollowEvents(c *echo.Context, id api.UpgradeID, p api.FollowEventsParams) error {
	ctx := c.Request().Context()
	if _, err := s.store.Upgrade(ctx, id); err != nil {
		return err
	}
	after, err := s.store.LastEvent(ctx, id)
	if err != nil {
		return err
	}
	if p.After != nil {
		after = *p.After
	}
	if last := c.Request().Header.Get("Last-Event-ID"); last != "" {
		if after, err = strconv.ParseInt(last, 10, 64); err != nil {
			return bad("Last-Event-ID is %q: give the ID of an event", last)
		}
	}
	woken, leave, err := s.hub.join(id)
	if err != nil {
		return err
	}
	defer leave()
	w := c.Response()
	w.Header().Set("Content-Type", "text/event-stream")
	w.Header().Set("Cache-Control", "no-store")
	flush := http.NewResponseController(w)
	write := func(format string, args ...any) error {
		flush.SetWriteDeadline(time.Now().Add(liveTime))
		_, err := fmt.Fprintf(w, format, args...)
		return err
	}
	if write(": following\n\n") != nil {
		return nil
	}
	for {
		events, err := s.store.Events(ctx, id, after)
		if err != nil {
			return nil // the stream has begun: the client comes back by itself
		}
		for _, e := range events {
			data, err := json.Marshal(e)
			if err != nil {
				return nil
			}
			if write("id: %d\ndata: %s\n\n", e.ID, data) != nil {
				return nil
			}
			after = e.ID
		}
		if flush.Flush() != nil {
			return nil
		}
		if len(events) == store.MostEvents { // there are more
			continue
		}
		select {
		case <-ctx.Done():
			return nil
		case <-s.hub.done:
			return nil
		case <-woken:
		case <-time.After(heartbeat):
			if write(": still here\n\n") != nil {
				return nil
			}
		}
	}
}
