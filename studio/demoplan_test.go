package studio_test

import (
	"slices"
	"testing"
	"time"

	"dustyfern/demo"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
)

// The demo's plan is one that people would follow: whatever dries has a night in hand, no
// evening is crammed, nothing is late and every order keeps its margin.
func TestTheDemosPlanBreathes(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.now = time.Date(2026, 11, 24, 20, 12, 0, 0, time.UTC)
	row, err := h.Import(t.Context(), demo.Document(h.now))
	h.ok(err)
	h.slug = row.Slug
	h.planNow(h.slug)
	dried := 0
	for _, st := range h.steps("") {
		if m := st.Planned.SpareMin; m != nil && st.ActualStart == nil {
			dried++
			if *m < 720 {
				t.Errorf("%s has %d min in hand", st.Title, *m)
			}
		}
	}
	if dried < 5 {
		t.Errorf("only %d dryings are told of", dried)
	}
	load, err := h.Workload(t.Context(), h.slug, "")
	h.ok(err)
	if load.Days[1].Busy < 60 {
		t.Errorf("the evening after has nothing to do: %s", load.Days[1].Says)
	}
	hands := 0
	for _, d := range load.Days {
		if hands += d.Busy; d.Full {
			t.Errorf("crammed: %s", d.Says)
		}
	}
	if hands < 20*60 {
		t.Errorf("only %d min of hands in four weeks", hands)
	}
	l, err := h.Line(t.Context(), h.slug, plan.LineIn{})
	h.ok(err)
	if want := "Every piece has its time in hand after drying, and every order its margin."; !slices.Equal(l.Kept, []string{want}) {
		t.Errorf("%q", l.Kept)
	}
	if slices.ContainsFunc(l.Troubles, func(x noun.Trouble) bool { return x.Code == "late" || x.Code == "plan" }) {
		t.Errorf("%+v", l.Troubles)
	}
}
