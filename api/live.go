package api

import (
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"sync"
	"time"

	"github.com/labstack/echo/v5"

	"dustyfern/studio"
)

// Live is the open streams: each window hears within a moment that something
// of its studio has changed, and reads it anew.
type Live struct {
	mu      sync.Mutex
	streams map[chan struct{}]int64 // one word waits in each; to the studio
	closed  chan struct{}
	once    sync.Once
	Beat    time.Duration // between two words of the clock
}

// NewLive makes an empty set of streams.
func NewLive() *Live {
	return &Live{streams: map[chan struct{}]int64{}, closed: make(chan struct{}), Beat: 15 * time.Second}
}

// Tell wakes the streams of a studio; 0 wakes all.
func (l *Live) Tell(id int64) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for c, of := range l.streams {
		if id != 0 && of != id {
			continue
		}
		select {
		case c <- struct{}{}:
		default: // a word waits there already
		}
	}
}

// Close ends every stream, so that a stop need not wait for them.
func (l *Live) Close() { l.once.Do(func() { close(l.closed) }) }

func (l *Live) open(id int64) chan struct{} {
	c := make(chan struct{}, 1)
	l.mu.Lock()
	defer l.mu.Unlock()
	l.streams[c] = id
	return c
}

func (l *Live) shut(c chan struct{}) {
	l.mu.Lock()
	defer l.mu.Unlock()
	delete(l.streams, c)
}

// Open is how many streams are open.
func (l *Live) Open() int {
	l.mu.Lock()
	defer l.mu.Unlock()
	return len(l.streams)
}

// stream answers with server-sent events: hello, changed, clock; each carries
// the server's own time.
func (l *Live) stream(s *studio.Service) echo.HandlerFunc {
	return func(c *echo.Context) error {
		ctx := c.Request().Context()
		id, err := s.StudioID(ctx, c.Param("studio"))
		if errors.Is(err, studio.ErrNotFound) {
			return problem(http.StatusNotFound, "There is no such studio.")
		}
		if err != nil {
			return problem(http.StatusServiceUnavailable, "The database does not answer just now.")
		}
		w := c.Response()
		out := http.NewResponseController(w)
		// it stays open: the server's own limits are for requests that end
		if err := errors.Join(out.SetWriteDeadline(time.Time{}), out.SetReadDeadline(time.Time{})); err != nil {
			return err
		}
		h := w.Header()
		h.Set("Content-Type", "text/event-stream")
		h.Set("Cache-Control", "no-store")
		w.WriteHeader(http.StatusOK)
		say := func(event string) error {
			now, _ := json.Marshal(map[string]any{"now": s.Clock().UnixMilli()})
			if _, err := fmt.Fprintf(w, "event: %s\ndata: %s\n\n", event, now); err != nil {
				return err
			}
			return out.Flush()
		}
		word := l.open(id)
		defer l.shut(word)
		if err := say("hello"); err != nil {
			return nil
		}
		beat := time.NewTicker(l.Beat)
		defer beat.Stop()
		for {
			event := "clock"
			select {
			case <-ctx.Done():
				return nil
			case <-l.closed:
				return nil
			case <-word:
				event = "changed"
			case <-beat.C:
			}
			if err := say(event); err != nil {
				return nil
			}
		}
	}
}

// whoActs takes from the headers who acts, and the number of the act.
func whoActs(next echo.HandlerFunc) echo.HandlerFunc {
	return func(c *echo.Context) error {
		r := c.Request()
		who, err := url.QueryUnescape(r.Header.Get("X-Person"))
		if err != nil || len(who) > 80 {
			who = ""
		}
		act := r.Header.Get("X-Act")
		if len(act) > 80 {
			return problem(http.StatusBadRequest, "The number of an act has at most 80 characters.")
		}
		if who != "" || act != "" {
			c.SetRequest(r.WithContext(studio.As(r.Context(), who, act)))
		}
		return next(c)
	}
}
