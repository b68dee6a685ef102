package studio_test

import (
	"testing"

	"dustyfern/studio"
)

// Tiers can be said field by field as well as by a line of text, in the reader's
// units; one more is put on, and taken off.
func TestTiersFieldByField(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	h.must(studio.KindCommission, o, set{"tiers": "round 250 mm, 110 mm tall, coated 5 mm sage"})
	h.ok(h.AddTier(t.Context(), h.slug, o))
	text := func(name string) string {
		t.Helper()
		v, err := h.Commission(t.Context(), h.slug, o)
		h.ok(err)
		return fieldOf(v.Fields, name)
	}
	if got := text("tiers"); got != "round 250 mm, 110 mm tall, coated 5 mm sage\nround 200 mm, 110 mm tall, coated 5 mm sage" {
		t.Errorf("%q", got)
	}
	h.must(studio.KindCommission, o, set{"tier.1.shape": "square", "tier.1.size": "18 cm", "tier.1.height": "", "tier.1.with": "white"})
	if got := text("tiers"); got != "round 250 mm, 110 mm tall, coated 5 mm sage\nsquare 180 mm, coated 5 mm white" {
		t.Errorf("%q", got)
	}
	h.kitchen(set{"units": "us"})
	h.must(studio.KindCommission, o, set{"tier.0.size": "10"})
	if got := text("tier.0.size"); got != "10 in" {
		t.Errorf("%q", got)
	}
	h.refused(h.set(studio.KindCommission, o, set{"tier.0.size": "a plate"}), "tier.0.size", "")
	h.refused(h.set(studio.KindCommission, o, set{"tier.0.shape": "oval"}), "tier.0.shape", "round or square")
	h.refused(h.set(studio.KindCommission, o, set{"tier.7.size": "10 in"}), "tier.7.size", "no field")
	h.ok(h.TakeTier(t.Context(), h.slug, o, 1))
	h.overtaken(h.TakeTier(t.Context(), h.slug, o, 1), "no longer there")
	h.undo()
	if got := text("tier.1.shape"); got != "square" {
		t.Errorf("%q", got)
	}
	for range 10 {
		h.ok(h.AddTier(t.Context(), h.slug, o))
	}
	h.refused(h.AddTier(t.Context(), h.slug, o), "tiers", "Up to 12")
}

// Who eats is said by what follows: which lots are out, and what else.
func TestWhatFollowsFromWhoEats(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t) // white, and flower paste with egg on its label
	h.lot("Marzipan", "marzipan", "400 g", set{"holds": "nuts"})
	h.lot("Vodka", "spirit", "50 g", nil)
	h.must(studio.KindCommission, o, set{"allergies": "egg, nuts, milk", "without": "alcohol, gelatine", "children": "yes"})
	v, err := h.Commission(t.Context(), h.slug, o)
	h.ok(err)
	got := map[string]string{}
	for _, e := range v.Eats {
		got[e.What] = e.Says
	}
	for what, words := range map[string]string{"egg": "out: Flower", "nuts": "out: Marzipan; a board", "milk": "no label of the pantry names it", "nothing of alcohol": "out: Vodka", "nothing of gelatine": "no home-made gelatine mould", "children": "can choke"} {
		if !has([]string{got[what]}, words) {
			t.Errorf("%s: %q", what, got[what])
		}
	}
	if len(v.Eats) != 6 {
		t.Errorf("%+v", v.Eats)
	}
	h.must(studio.KindCommission, o, set{"allergies": "", "without": "", "children": "no"})
	if v, _ = h.Commission(t.Context(), h.slug, o); len(v.Eats) != 0 {
		t.Errorf("nobody must not have anything, and %+v", v.Eats)
	}
}
