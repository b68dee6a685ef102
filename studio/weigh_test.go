package studio_test

import (
	"math"
	"strings"
	"testing"
	"time"

	"dustyfern/studio/evening"
)

func TestABallBesideItsTolerance(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil) // the mould's piece weighs 4 g: from 3.92 to 4.16
	press := h.steps("press")[0].Op
	aim, err := h.AimAt(t.Context(), h.slug, press, nil)
	h.ok(err)
	for g, want := range map[float64]string{3.9: "under", 3.92: "good", 4.04: "good", 4.16: "good", 4.2: "over"} {
		v := aim.View(evening.Weight{Plugged: true, Stable: true, Grams: &g})
		if v.Verdict != want || !strings.Contains(v.Aim, "4.0 or 4.1 g") || math.Abs(v.Place-(g-3.92)/0.24) > 1e-9 {
			t.Errorf("%v g: %+v", g, v)
		}
	}
	v := aim.View(evening.Weight{Why: "the scale does not answer"})
	if v.Plugged || v.Verdict != "none" || v.Why != "The scale does not answer" {
		t.Errorf("%+v", v)
	}
	_, err = h.AimAt(t.Context(), h.slug, h.steps("putOn")[0].Op, nil)
	h.refused(err, "op", "shaped of balls")
	if math.Abs(aim.Grams-4) > 0.1 {
		t.Error(aim.Grams)
	}
}

// Each weigh-in sharpens the weight of a piece of its mould.
func TestWeighInsSharpenTheWeight(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"trial": "4 g"})
	press := h.steps("press")[0].Op
	keep := func(text string) {
		t.Helper()
		_, err := h.KeepWeight(t.Context(), h.slug, press, text)
		h.ok(err)
		h.now = h.now.Add(time.Second)
	}
	keep("4.4 g")
	keep("4.6")
	if v := h.view(o, p).Make; v.From != "the trial piece" || v.Weighed != "4.5 g ± 0.14 g, 2 pieces weighed" {
		t.Errorf("%+v", v)
	}
	keep("4.5 g")
	// three beat one trial: their mean is 4.5 g, their spread 0.1 g
	v := h.view(o, p).Make
	if v.From != "the mean of 3 pieces weighed" || v.Weighed != "4.5 g ± 0.1 g, 3 pieces weighed" || !near(v.Ball.Value, 4.5*1.01, 0.051) {
		t.Errorf("%+v", v)
	}
	if says := h.journal(o)[0].Says; says != "weighed a piece of Leaf: 4.5 g" {
		t.Error(says)
	}
	_, err := h.back()
	h.ok(err)
	if v := h.view(o, p).Make; v.From != "the trial piece" {
		t.Errorf("taken back: %+v", v)
	}
	for text, words := range map[string]string{"heavy": "such as 4.2 g", "0": "0.01 g to 50 kg", "3 mm": "such as 4.2 g"} {
		_, err := h.KeepWeight(t.Context(), h.slug, press, text)
		h.refused(err, "grams", words)
	}
	for range 55 {
		keep("4.2 g")
	}
	if v := h.view(o, p).Make; v.Weighed != "4.2 g ± 0 g, 50 pieces weighed" {
		t.Errorf("the latest fifty count: %s", v.Weighed)
	}
}
