package studio_test

import (
	"context"
	"strings"
	"testing"

	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/plan"
)

// TestAWayOutIsTriedAndTakenBack: an order that does not fit is told what would help;
// each change that is said to fit fits when it is made, and one undo takes it back.
func TestAWayOutIsTriedAndTakenBack(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00\nWed 19:00-22:00\nThu 19:00-22:00\nFri 19:00-22:00"})
	h.must(studio.KindCommission, o, set{"handOver": "Wed 21:00"})
	p := h.piece(o, m, set{"joined": "dry", "wanted": "60"})
	late := func() int {
		n := 0
		h.line()
		h.ok(h.Store.Read(t.Context(), h.slug, func(tx journal.Tx) error {
			p, err := tx.Plan()
			for _, x := range p.Summary.Late {
				n += x.Minutes
			}
			return err
		}))
		return n
	}
	before := late()
	if before == 0 {
		t.Fatal("60 that must be dry fit into two evenings")
	}
	found, err := h.WaysOut(t.Context(), h.slug)
	h.ok(err)
	if found.Tried < 6 || found.LateSays == "" || late() != before {
		t.Errorf("%+v", found)
	}
	var says []string
	fit := 0
	for _, w := range found.Ways {
		says = append(says, w.Says)
		h.ok(h.TakeWayOut(t.Context(), h.slug, w))
		if got := late(); w.Fits && got > 0 || got >= before {
			t.Errorf("%s: %s, and it is %d min late of %d", w.Says, w.Then, got, before)
		}
		if w.Fits {
			fit++
		}
		h.undo()
		if got := late(); got != before {
			t.Errorf("%s is taken back, and it is %d min late of %d", w.Says, got, before)
		}
	}
	if all := strings.Join(says, "; "); fit == 0 || !strings.Contains(all, "An hour more on Wed 25 Nov, from 18:00") {
		t.Errorf("%d fit of %s", fit, all)
	}
	h.refused(h.TakeWayOut(t.Context(), h.slug, plan.WayOut{Kind: "moon"}), "kind", "not \"moon\"")
	// what nobody waits for any more ends, and what fits has no way out
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	if _, err := h.WaysOut(gone, h.slug); err == nil {
		t.Error("a search that was left goes on")
	}
	h.must(studio.KindCommission, o, set{"handOver": "Sun 22:00"})
	if found, err = h.WaysOut(t.Context(), h.slug); err != nil || len(found.Ways) > 0 || found.LateSays != "" {
		t.Errorf("%+v %v", found, err)
	}
	h.must(studio.KindPiece, p, set{"joined": "cold"})
	if err := h.TakeWayOut(t.Context(), h.slug, plan.WayOut{Kind: "piece", ID: p, Version: 1, Set: set{"joined": "semiDry"}}); err == nil {
		t.Error("a change from another state is made without a word")
	}
}
