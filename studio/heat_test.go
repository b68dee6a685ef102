package studio_test

import (
	"strings"
	"testing"

	"dustyfern/craft/technique"
	"dustyfern/studio"
	"dustyfern/studio/evening"
	"dustyfern/studio/journal"
)

// TestThePanIsCookedToItsStageHere: hard crack lies as much lower as this kitchen's water
// boils, and each temperature has a stage and something to do.
func TestThePanIsCookedToItsStageHere(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.kitchen(set{"hours": "Mon-Sun 8:00-22:00", "boilingC": "97 °C"})
	h.lot("White", "sugarPaste", "2 kg", nil)
	h.lot("CMC", "cmc", "50 g", nil)
	o := h.order(nil)
	h.make(studio.KindPiece, o, h.madeWith(technique.Ours.Of("T24")))
	op := h.steps("cook")[0]
	for _, want := range []string{"hard crack here: from 146 °C", "to 151 °C"} {
		found := false
		for _, f := range op.Figures {
			found = found || f.Unit+" "+f.Text == want
		}
		if !found {
			t.Errorf("no %q in %+v", want, op.Figures)
		}
	}
	aim, err := h.HeatAt(t.Context(), h.slug, op.Op)
	h.ok(err)
	for _, c := range []struct {
		c, perMinute   float64
		stage, verdict string
		says           string
	}{
		{60, 16, "", "under", "Stir"},
		{112, 6, "soft ball", "under", "Stir"}, // 115 at the sea
		{140, 6, "soft crack", "near", "Nearly there"},
		{144, 6, "soft crack", "near", "Off the flame now"}, // it goes on by itself
		{147, 0.5, "hard crack", "good", "poured at about 127 °C, some 5 min"},
		{160, 3, "hard crack", "over", "Too hot"},
		{128, -4, "hard ball", "under", "Pour now"}, // soft crack begins at 129 here
	} {
		v := aim.View(evening.Heat{Plugged: true, C: c.c, PerMinute: c.perMinute})
		if v.Stage != c.stage || v.Verdict != c.verdict || !strings.Contains(v.Says, c.says) {
			t.Errorf("%g °C: %q, %s, %q", c.c, v.Stage, v.Verdict, v.Says)
		}
	}
	if v := aim.View(evening.Heat{Why: "its probe lies open"}); v.Plugged || v.Why != "Its probe lies open" || !strings.Contains(v.Aim, "146 °C to 151 °C") {
		t.Errorf("%+v", v)
	}
	_, err = h.HeatAt(t.Context(), h.slug, h.steps("pour")[0].Op)
	h.refused(err, "op", "Nothing is cooked")
	h.kitchen(set{"boilingC": "", "units": "us"})
	if op := h.steps("cook")[0]; op.Figures[3].Text != "300 °F" { // 149 C at the sea
		t.Errorf("%+v", op.Figures)
	}
	k, err := h.Kitchen(t.Context(), h.slug)
	h.ok(err)
	_, err = h.ChangeKitchen(t.Context(), h.slug, journal.ChangeIn{Version: k.Row.Version, Set: set{"boilingC": "40 F"}})
	h.refused(err, "boilingC", "From")
}
