package studio_test

import (
	"context"
	"io"
	"log/slog"
	"sync"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/plan"
)

// TestThePlannerWorksBesideTheWriter: changes of many hands are answered without
// a plan; the last of them is in the plan that stands when it is quiet again, old
// lines of the journal are gone by then, and a stop ends it.
func TestThePlannerWorksBesideTheWriter(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	ctx, stop := context.WithCancel(t.Context())
	planner := plan.NewPlanner(ctx, h.Planning, slog.New(slog.NewTextHandler(io.Discard, nil)))
	h.Wake = planner.Wake
	// what was changed half a decade ago is kept no longer, what is younger is
	now := h.now
	h.now = now.Add(-6 * 366 * 24 * time.Hour)
	h.kitchen(set{"freezerPlaces": "7"})
	h.now = now.Add(-4 * 366 * 24 * time.Hour)
	h.kitchen(set{"freezerPlaces": "8"})
	h.now = now
	var hands sync.WaitGroup
	for range 4 {
		hands.Go(func() {
			for range 5 {
				if _, err := h.Bench(ctx, h.slug, ""); err != nil {
					t.Error(err)
				}
				planner.Wake(h.slug)
			}
		})
	}
	hands.Wait()
	h.must(studio.KindPiece, p, set{"wanted": "17"})
	tick := time.NewTicker(5 * time.Millisecond)
	defer tick.Stop()
	late := time.After(30 * time.Second)
	for planned := false; !planned; {
		select {
		case <-tick.C:
		case <-late:
			t.Fatal("the last change is not in the plan")
		}
		h.ok(h.Store.Read(t.Context(), h.slug, func(tx journal.Tx) error {
			pulse, err := tx.Pulse()
			h.ok(err)
			steps, err := tx.Steps(o)
			for _, s := range steps {
				if s.Kind == "press" && s.Planned.Run != nil && s.Planned.Run.Fills >= 17 && pulse.Made == pulse.Wanted {
					planned = true
				}
			}
			return err
		}))
	}
	stop()
	planner.Wait()
	says := ""
	for _, e := range h.journal(0) {
		says += e.Says + "\n"
	}
	if !has([]string{says}, "from 7 to 8") || has([]string{says}, "to 7\n") {
		t.Errorf("the journal keeps:\n%s", says)
	}
}

// TestTheBestSoFar: while a plan is being made it is told how far it is, and whoever has
// waited long enough takes the best that was found: a whole plan stands then.
func TestTheBestSoFar(t *testing.T) {
	t.Parallel()
	h, m, _ := stocked(t)
	h.Wake = nil
	for i := range 8 { // more than a week holds: the search goes on to its end
		o := h.order(set{"title": string(rune('A' + i)), "handOver": "28 Nov 10:00"})
		h.piece(o, m, set{"wanted": "30"})
	}
	done := make(chan error)
	go func() { done <- h.Plan(t.Context(), h.slug) }()
	seen := false
	tick := time.NewTicker(time.Millisecond)
	defer tick.Stop()
	for planned := false; !planned; {
		if v := h.Making(h.slug); v != nil && !seen {
			seen = v.Says != "" && v.Share >= 0 && v.Share <= 1
			h.BestSoFar(h.slug)
		}
		select {
		case err := <-done:
			h.ok(err)
			planned = true
		case <-tick.C:
		}
	}
	if !seen {
		t.Error("nothing was told of it while it was made")
	}
	if v := h.Making(h.slug); v != nil {
		t.Errorf("it is made: %+v", v)
	}
	if n := len(h.steps("pack")); n != 8 {
		t.Errorf("%d of 8 orders are planned", n)
	}
	h.BestSoFar(h.slug) // nothing is being made: nothing happens
}
