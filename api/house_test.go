package api

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"sync"
	"testing"
	"time"

	"dustyfern/demo"
	"dustyfern/store"
	"dustyfern/store/storetest"
	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/pantry"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func TestMain(m *testing.M) { os.Exit(storetest.Run(m)) }

// house is a served copy of the program with a database and a clock of its own.
type house struct {
	t     testing.TB
	url   string
	now   time.Time
	store *store.Store
	name  string
	live  *Live
	room  *RoomSensor // nil: none
}

var tuesday = time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)

func serve(t testing.TB, withDemo bool) *house { return serveWith(t, withDemo, nil) }

// serveWith serves with a room sensor.
func serveWith(t testing.TB, withDemo bool, room *RoomSensor) *house {
	t.Helper()
	h := &house{t: t, now: tuesday, room: room}
	if withDemo {
		h.store, h.name = storetest.OpenFilled(t, "hollow", planned)
	} else {
		h.store, h.name = storetest.Open(t)
	}
	h.url, h.live = h.copyOf(h.store)
	return h
}

// planned is a database with the demo studio and its plan, made once and copied. Where planning is
// slow only the first of its orders is planned.
func planned(s *store.Store) error {
	ctx := context.Background()
	if err := demo.Load(ctx, s, tuesday); err != nil {
		return err
	}
	house := studio.New(s, func() time.Time { return tuesday })
	if raced {
		list, err := house.Commissions(ctx, demo.Slug, 0)
		if err != nil {
			return err
		}
		for _, c := range list.Rows {
			if c.ID == 1 {
				continue
			}
			if err := house.Delete(ctx, demo.Slug, studio.KindCommission, c.ID, false); err != nil {
				return err
			}
		}
	}
	return house.Plan(ctx, demo.Slug)
}

// line is all of the first commission in the plan, made anew when it is due.
func (h *house) line() seenLine {
	h.t.Helper()
	var v plan.LineView
	h.must(hollow+"/line?commission=1", nil, nil)
	h.must(hollow+"/line?commission=1", nil, &v)
	return seen(v)
}

// seenLine is the line with what is wrong sorted out: what is late, what is not in the
// plan, and what is wrong with the whole of it.
type seenLine struct {
	plan.LineView
	Late, LeftOut []string
	Trouble       string
}

func seen(v plan.LineView) seenLine {
	out := seenLine{LineView: v}
	for _, x := range v.Troubles {
		switch x.Code {
		case "late":
			out.Late = append(out.Late, x.Commission+": "+x.Says+" "+x.Remedy)
		case "cannot", "never":
			out.LeftOut = append(out.LeftOut, x.Commission+": "+x.Says)
		case "plan":
			out.Trouble += x.Says
		}
	}
	return out
}

// steps of the first commission with their words.
func (h *house) steps() (out []plan.LineStep) {
	h.t.Helper()
	h.line()
	if err := h.store.Read(h.t.Context(), "hollow-lane-sugar-room", func(tx journal.Tx) error {
		all, err := tx.Steps(1)
		for _, s := range work.Derived(all, tx.Kitchen(), h.now) {
			out = append(out, plan.NewLineStep(s, "", read.Reader{K: tx.Kitchen()}, h.now))
		}
		return err
	}); err != nil {
		h.t.Fatal(err)
	}
	return out
}

// pieces of the first commission, whole.
func (h *house) pieces() (out []work.PieceView) {
	h.t.Helper()
	for _, p := range h.commission().Pieces {
		var v work.PieceView
		h.must(fmt.Sprintf("%s/pieces/%d", hollow, p.ID), nil, &v)
		out = append(out, v)
	}
	return out
}

// copyOf serves another copy of the program on a store.
func (h *house) copyOf(s *store.Store) (url string, live *Live) {
	h.t.Helper()
	live = NewLive()
	ctx, stop := context.WithCancel(context.Background())
	ended, listens := make(chan struct{}), make(chan struct{})
	var once sync.Once
	go func() {
		s.Listen(ctx, func(id, told int64) {
			once.Do(func() { close(listens) })
			live.Tell(id, told)
		})
		close(ended)
	}()
	<-listens
	service := studio.New(s, func() time.Time { return h.now })
	// a plan that is wanted is made at once, so that tests need not wait for it
	service.Wake = func(slug string) { _ = service.Plan(context.Background(), slug) }
	e, _ := New(Options{Service: service, Live: live, Room: h.room, Log: slog.New(slog.DiscardHandler)})
	srv := httptest.NewServer(e)
	h.t.Cleanup(func() {
		live.Close()
		srv.Close()
		stop()
		<-ended
	})
	return srv.URL, live
}

// ask sends a request; a body of nil is a GET.
func (h *house) ask(path string, body any, into any) (int, Problem) {
	h.t.Helper()
	var resp *http.Response
	var err error
	if body == nil {
		resp, err = http.Get(h.url + "/api" + path)
	} else {
		b, _ := json.Marshal(body)
		resp, err = http.Post(h.url+"/api"+path, "application/json", bytes.NewReader(b))
	}
	if err != nil {
		h.t.Fatal(err)
	}
	defer resp.Body.Close()
	raw, _ := io.ReadAll(resp.Body)
	var p Problem
	if resp.StatusCode >= 300 {
		if err := json.Unmarshal(raw, &p); err != nil || resp.Header.Get("Content-Type") != "application/problem+json" {
			h.t.Errorf("%s: no problem+json: %s", path, raw)
		}
	} else if into != nil {
		if err := json.Unmarshal(raw, into); err != nil {
			h.t.Fatal(err)
		}
	}
	return resp.StatusCode, p
}

func (h *house) must(path string, body any, into any) {
	h.t.Helper()
	if status, p := h.ask(path, body, into); status >= 300 {
		h.t.Fatalf("%s: %d %+v", path, status, p)
	}
}

type set = map[string]string

const hollow = "/s/hollow-lane-sugar-room"

func change(version int64, s set) any { return map[string]any{"version": version, "set": s} }

func (h *house) commission() work.CommissionView {
	h.t.Helper()
	var c work.CommissionView
	h.must(hollow+"/commissions/1", nil, &c)
	return c
}

func (h *house) lot(name string) pantry.LotView {
	h.t.Helper()
	var p pantry.PantryView
	h.must(hollow+"/pantry", nil, &p)
	for _, sh := range p.Shelves {
		for _, l := range sh.Lots {
			if l.Name == name {
				var v pantry.LotView
				h.must(fmt.Sprintf("%s/lots/%d", hollow, l.ID), nil, &v)
				return v
			}
		}
	}
	h.t.Fatalf("there is no lot %q", name)
	return pantry.LotView{}
}

func (h *house) piece(name string) work.PieceView {
	h.t.Helper()
	for _, p := range h.commission().Pieces {
		if p.Name == name {
			var v work.PieceView
			h.must(fmt.Sprintf("%s/pieces/%d", hollow, p.ID), nil, &v)
			return v
		}
	}
	h.t.Fatalf("no piece %q", name)
	return work.PieceView{}
}
