package studio_test

import (
	"strings"
	"testing"

	"dustyfern/craft/colour"
)

func TestFinishesAndLadders(t *testing.T) {
	t.Parallel()
	h := hollow(t)
	pearl, moss, spirit := h.tub("Pearl white").ID, h.tub("Moss dust").ID, h.tub("Clear spirit").ID
	bare, err := h.ShowFinish(t.Context(), h.slug, moss, "#8FB377", 0, "")
	h.ok(err)
	if de(t, bare.Hex, "#8FB377") > 0.7 {
		t.Errorf("no pass is no dust: %s", bare.Hex)
	}
	two, err := h.ShowFinish(t.Context(), h.slug, moss, "#8FB377", 2, "")
	h.ok(err)
	if !strings.Contains(two.Covers, "58 %") || len(two.Order) == 0 || !strings.Contains(two.Eats, "edible") {
		t.Errorf("%+v", two)
	}
	glow, err := h.ShowFinish(t.Context(), h.slug, pearl, "#4F7A3F", 1, "")
	h.ok(err)
	if glow.Flash == "" || !strings.Contains(glow.Covers, "Glows") {
		t.Errorf("%+v", glow)
	}
	wash, err := h.ShowFinish(t.Context(), h.slug, h.tub("Rowan red").ID, "#F7F5EE", 1, "2")
	h.ok(err)
	if !strings.Contains(wash.Mix, "2 parts") || !strings.Contains(wash.Eats, "alcohol") {
		t.Errorf("%+v", wash)
	}
	_, err = h.ShowFinish(t.Context(), h.slug, spirit, "#F7F5EE", 1, "")
	h.refused(err, "lot", "swatch")
	_, err = h.ShowFinish(t.Context(), h.slug, moss, "mud", 1, "")
	h.refused(err, "ground", "")
	l, err := h.ShowLadder(t.Context(), h.slug, "#F7F5EE", "#4F7A3F", 5, "200 g")
	h.ok(err)
	if len(l.Shades) != 5 || l.Shades[0].From.Value != 200 || l.Shades[4].To.Value != 200 {
		t.Errorf("%+v", l)
	}
	for _, s := range l.Shades {
		if !near(s.From.Value+s.To.Value, 200, 1e-6) {
			t.Errorf("%+v", s)
		}
	}
	_, err = h.ShowLadder(t.Context(), h.slug, "#F7F5EE", "#4F7A3F", 5, "a handful")
	h.refused(err, "grams", "")
}

func TestAGlazeIsAFinish(t *testing.T) {
	t.Parallel()
	h, _, _ := stocked(t)
	glaze := h.lot("Glaze", "glaze", "30 g", nil)
	v, err := h.ShowFinish(t.Context(), h.slug, glaze, "#4F7A3F", 1, "")
	h.ok(err)
	was, _ := colour.Lightness("#4F7A3F")
	if is, err := colour.Lightness(v.Hex); err != nil || is >= was || !strings.Contains(v.Eats, "alcohol") || len(v.Order) == 0 || v.Why == nil {
		t.Errorf("%+v", v)
	}
	_, err = h.ShowFinish(t.Context(), h.slug, h.tub("White").ID, "#4F7A3F", 1, "")
	h.refused(err, "lot", "")
}
