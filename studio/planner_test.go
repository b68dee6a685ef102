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
