package api

import (
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net/http"
	"net/url"
	"strconv"
	"sync"
	"time"

	"github.com/labstack/echo/v5"

	"dustyfern/studio"
	"dustyfern/studio/journal"
)

// Live is the open streams: each window hears within a moment that something
// of its studio has changed, and reads it anew.
type Live struct {
	mu      sync.Mutex
	streams map[chan int64]int64 // the latest count of what was told waits in each; to the studio
	closed  chan struct{}
	once    sync.Once
	Beat    time.Duration // between two words of the clock
	Most    int           // streams at once
}

// mostStreams is for one program: a browser holds one, however many windows.
const mostStreams = 500

// sayWithin is how long a word to one window may take before it is given up.
const sayWithin = 10 * time.Second

// NewLive makes an empty set of streams.
func NewLive() *Live {
	return &Live{streams: map[chan int64]int64{}, closed: make(chan struct{}), Beat: 15 * time.Second, Most: mostStreams}
}

// Tell wakes the streams of a studio with its count of what was told; studio 0
// wakes all.
func (l *Live) Tell(id, told int64) {
	l.mu.Lock()
	defer l.mu.Unlock()
	for c, of := range l.streams {
		if id != 0 && of != id {
			continue
		}
		select {
		case <-c: // an older word that waits there says less
		default:
		}
		c <- told
	}
}

// Close ends every stream, so that a stop need not wait for them.
func (l *Live) Close() { l.once.Do(func() { close(l.closed) }) }

// open adds a stream, nil when there are too many.
func (l *Live) open(id int64) chan int64 {
	l.mu.Lock()
	defer l.mu.Unlock()
	if len(l.streams) >= l.Most {
		return nil
	}
	c := make(chan int64, 1)
	l.streams[c] = id
	return c
}

func (l *Live) shut(c chan int64) {
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

// teller writes server-sent events; each word has its own deadline, so that a
// window that reads no more does not hold us.
type teller struct {
	w   http.ResponseWriter
	out *http.ResponseController
}

func tellerOf(c *echo.Context) (*teller, error) {
	t := &teller{c.Response(), http.NewResponseController(c.Response())}
	// it stays open: the server's own limits are for requests that end
	if err := t.out.SetReadDeadline(time.Time{}); err != nil {
		return nil, err
	}
	h := t.w.Header()
	h.Set("Content-Type", "text/event-stream")
	h.Set("Cache-Control", "no-store")
	t.w.WriteHeader(http.StatusOK)
	return t, nil
}

func (t *teller) say(event string, data any) error {
	b, err := json.Marshal(data)
	if err != nil {
		return err
	}
	if err := t.out.SetWriteDeadline(time.Now().Add(sayWithin)); err != nil {
		return err
	}
	if _, err := fmt.Fprintf(t.w, "event: %s\ndata: %s\n\n", event, b); err != nil {
		return err
	}
	return t.out.Flush()
}

// word is what an event carries: the server's own time, and how often windows of
// the studio were told of a change.
type word struct {
	Now  int64 `json:"now"`
	Told int64 `json:"told,omitempty"`
}

// stream answers with server-sent events: hello, changed, clock.
func (l *Live) stream(s *studio.Service, log *slog.Logger) echo.HandlerFunc {
	return func(c *echo.Context) error {
		ctx := c.Request().Context()
		id, _, err := s.StudioID(ctx, c.Param("studio"))
		if errors.Is(err, journal.ErrNotFound) {
			return problem(http.StatusNotFound, "There is no such studio.")
		}
		if err != nil {
			return refuse(ctx, log, "events", err)
		}
		words := l.open(id)
		if words == nil {
			return problem(http.StatusServiceUnavailable, "Too many windows follow this program: close some.")
		}
		defer l.shut(words)
		_, told, err := s.StudioID(ctx, c.Param("studio")) // read anew: what changes after this is heard
		if err != nil {
			return refuse(ctx, log, "events", err)
		}
		t, err := tellerOf(c)
		if err != nil {
			return err
		}
		now := func() int64 { return s.Clock().UnixMilli() }
		if t.say("hello", word{now(), told}) != nil {
			return nil
		}
		beat := time.NewTicker(l.Beat)
		defer beat.Stop()
		for {
			event, told := "clock", int64(0)
			select {
			case <-ctx.Done():
				return nil
			case <-l.closed:
				return nil
			case told = <-words:
				event = "changed"
			case <-beat.C:
			}
			if t.say(event, word{now(), told}) != nil {
				return nil
			}
		}
	}
}

// whoActs takes from the headers who acts, the number of the act, and when it was
// done when it could not be sent at once.
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
		ctx := journal.As(r.Context(), who, act)
		if ms, err := strconv.ParseInt(r.Header.Get("X-Done"), 10, 64); err == nil && ms > 0 {
			ctx = journal.DoneAt(ctx, time.UnixMilli(ms))
		}
		c.SetRequest(r.WithContext(ctx))
		return next(c)
	}
}
