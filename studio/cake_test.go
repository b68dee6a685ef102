package studio_test

import (
	"testing"

	"dustyfern/studio"
)

// What was typed of a cake is drawn: tiers from below, coated, with the way round
// each; biscuits from above; nothing while nothing is known.
func TestTheCakeIsDrawnFromWhatWasTyped(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	o := h.order(nil)
	cake := func(s set) *struct {
		tiers  int
		across float64
		girth  string
		says   string
	} {
		t.Helper()
		h.must(studio.KindCommission, o, s)
		v, err := h.Commission(t.Context(), h.slug, o)
		h.ok(err)
		if v.Cake == nil {
			return nil
		}
		out := &struct {
			tiers  int
			across float64
			girth  string
			says   string
		}{len(v.Cake.Tiers), v.Cake.AcrossMM, "", v.Cake.Says}
		if out.tiers > 0 {
			x := v.Cake.Tiers[0]
			out.across = x.AcrossMM
			if x.Girth != nil && x.Girth.Why != nil {
				out.girth = x.Girth.Text
			}
		}
		return out
	}
	if c := cake(set{"carrier": "tiers"}); c != nil {
		t.Errorf("no tier yet: %+v", c)
	}
	// 3.1416 x 260 mm, and four coated sides of 160
	if c := cake(set{"tiers": "round 250 mm, 110 mm tall, coated 5 mm sage\nround 200 mm"}); c == nil || c.tiers != 2 || c.across != 260 || c.girth != "817 mm" {
		t.Errorf("%+v", c)
	}
	if c := cake(set{"tiers": "square 150 mm, 100 mm tall, coated 5 mm white"}); c == nil || c.girth != "640 mm" {
		t.Errorf("%+v", c)
	}
	if c := cake(set{"carrier": "biscuits", "count": "24", "acrossMM": "65 mm"}); c == nil || c.tiers != 0 || c.across != 65 || c.says != "24 biscuits, 65 mm across" {
		t.Errorf("%+v", c)
	}
	h.kitchen(set{"units": "us", "words": "us"})
	if c := cake(set{"count": "12"}); c == nil || c.says != "12 cookies, 2 9/16 in across" {
		t.Errorf("%+v", c)
	}
}

// How many stand round a tier: whole pieces only, of the side that is slim.
func TestHowManyFitATier(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.must(studio.KindCommission, o, set{"carrier": "tiers", "tiers": "round 250 mm, 110 mm tall, coated 5 mm sage\nsquare 145 mm, 100 mm tall, coated 5 mm sage"})
	p := h.piece(o, m, nil) // a leaf of 60 x 30 mm
	fits := h.view(o, p).Fits
	// 816.8 mm hold 27 of 30 mm and 6.8 more; 4 x 155 = 620 hold 20
	if len(fits) != 2 || fits[0].Text != "27" || fits[1].Text != "20" || fits[0].Why == nil || fits[0].Unit != "side by side round the tier of 250 mm" {
		t.Errorf("%+v", fits)
	}
	h.must(studio.KindCommission, o, set{"carrier": "biscuits"})
	if fits := h.view(o, p).Fits; len(fits) != 0 {
		t.Errorf("round a biscuit: %+v", fits)
	}
}
