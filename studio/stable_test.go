package studio_test

import (
	"testing"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

// A plan that is asked for again, with nothing changed since, is the one that stands:
// no window is told, whatever is half made.
func TestAPlanOfTheSameInputsStands(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"carries": "yes", "dusted": "yes"})
	cut := h.cutter("Plaque", "40 mm", "30 mm")
	h.piece(o, cut, set{"name": "Plaques", "measure.letters": "3"})
	stand := func() (p noun.Plan, told int64) {
		t.Helper()
		h.ok(h.Store.Read(t.Context(), h.slug, func(tx journal.Tx) error {
			x, err := tx.Plan()
			if err != nil {
				return err
			}
			pulse, err := tx.Pulse()
			p, told = *x, pulse.Told
			return err
		}))
		return p, told
	}
	for _, kind := range []string{"", "knead", "knead"} {
		if kind != "" {
			h.finish(kind)
		}
		h.line()
		first, told := stand()
		h.ok(h.Store.Write(t.Context(), h.slug, func(tx journal.Tx) error { return tx.WantPlan() }))
		h.ok(h.Plan(t.Context(), h.slug))
		if again, then := stand(); again.Hash != first.Hash || then != told {
			t.Errorf("after %q the same inputs made another plan, told %d, then %d", kind, told, then)
		}
	}
}

// cutter puts a cutter into the drawer.
func (h *house) cutter(name, long, wide string) int64 {
	h.t.Helper()
	return h.make("tools", 0, set{"name": name, "kind": "plungerCutter", "lengthMM": long, "widthMM": wide})
}
