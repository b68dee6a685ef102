package piece

import (
	"math"
	"slices"
	"testing"

	"dustyfern/craft/paste"
)

func TestThirtySixFrondsWantFortyThreeBalls(t *testing.T) {
	b, err := Batch(BatchIn{Wanted: new(36), PieceG: new(4.2)})
	if err != nil || b.Make != 43 || math.Abs(b.PasteG-186.018) > 1e-6 {
		t.Fatalf("%+v %v", b, err)
	}
	s, _ := Spares(SpareIn{Wanted: new(36)})
	if math.Abs(s.Probability-0.957) > 0.001 || math.Abs(*s.ProbabilityOneFewer-0.938) > 0.001 {
		t.Errorf("%.4f, one fewer %.4f", s.Probability, *s.ProbabilityOneFewer)
	}
}

// Making more never lowers the chance, and certainty never lowers the count.
func TestSparesGrow(t *testing.T) {
	last := 0.0
	for n := 20; n < 60; n++ {
		p := enough(n, 20, 2, 18)
		if p < last-1e-12 {
			t.Fatalf("%d: %v after %v", n, p, last)
		}
		last = p
	}
	count := 0
	for _, c := range []float64{0.5, 0.8, 0.95, 0.99} {
		s, err := Spares(SpareIn{Wanted: new(24), Certainty: &c})
		if err != nil || s.Make < count {
			t.Fatalf("%v: %+v %v", c, s, err)
		}
		count = s.Make
	}
}

func TestMouldsPerHour(t *testing.T) {
	for moulds, want := range map[int]float64{1: 60.0 / 11, 3: 3 * 60.0 / 11, 4: 20} {
		c, err := Cycle(CycleIn{FillMinutes: new(2.0), FreezeMinutes: new(8.0), UnmouldMinutes: new(1.0), Moulds: &moulds})
		if err != nil || math.Abs(c.MouldsPerHour-want) > 1e-9 {
			t.Errorf("%d moulds: %+v %v", moulds, c, err)
		}
	}
}

func TestWhatAPieceAsksOfItsPaste(t *testing.T) {
	string4 := &Mould{Make: "cavity", LengthMM: 180, WidthMM: 4, DepthMM: 4, Chilled: true}
	for _, c := range []struct {
		say  string
		m    Manner
		mold *Mould
		want []string
	}{
		{"a long string cut with the cake", Manner{KnifePasses: true, Joined: "cold"}, string4, []string{"strands", "knifeThrough"}},
		{"a slim hoop stood up dry", Manner{Upright: true, HeightMM: new(60.0), Joined: "dry"}, &Mould{LengthMM: 60, WidthMM: 60, DepthMM: 2}, []string{"standsDry"}},
		{"the same stood up soft", Manner{Upright: true, HeightMM: new(60.0), Joined: "semiDry"}, &Mould{LengthMM: 60, WidthMM: 60, DepthMM: 2}, []string{"upright"}},
		{"a thick stem does not count as standing slim", Manner{Upright: true, HeightMM: new(25.0), Joined: "dry", Carries: true}, &Mould{LengthMM: 25, WidthMM: 8, DepthMM: 8}, []string{"carries"}},
		{"a bagged pliable piece", Manner{Joined: "pliable", Bagged: true, Bent: true}, nil, []string{"wrapped", "staysPliable"}},
		{"a lace mould", Manner{Joined: "dry"}, &Mould{Make: "lace", LengthMM: 80, WidthMM: 30, DepthMM: 2}, []string{"scrapedLace"}},
	} {
		a, err := paste.Advise(c.m.Ask(c.mold, 21, 45, 0.4))
		if err != nil {
			t.Fatal(c.say, err)
		}
		var got []string
		for _, d := range a.Demands {
			got = append(got, d.Code)
		}
		if !slices.Equal(got, c.want) {
			t.Errorf("%s: %v, want %v", c.say, got, c.want)
		}
	}
}

func TestEveryStepHasItsWords(t *testing.T) {
	for _, kind := range []string{"knead", "rest", "press", "air", "dry", "putOn", "settle", "pack"} {
		text := TextOf(kind, &Mould{Make: "cavity"}, true, false)
		if len(text.Says) == 0 || len(text.Checks) == 0 {
			t.Errorf("%s says nothing", kind)
		}
		ours := 0
		for _, w := range text.Ways {
			if w[1] == "" {
				t.Errorf("%s: %q has no reason", kind, w[0])
			}
			if w[2] == "usual" {
				ours++
			}
		}
		if len(text.Ways) > 0 && ours == 0 {
			t.Errorf("%s: no way is ours", kind)
		}
	}
}

func TestMinutesAndTrays(t *testing.T) {
	for g, want := range map[float64]int{10: 6, 250: 6, 251: 8, 700: 10} {
		if got := KneadMinutes(g, 6, 2); got != want {
			t.Errorf("%v g: %d min", g, got)
		}
	}
	if got := Trays(36, 80, 40, 400, 300); got != 2 {
		t.Errorf("36 fronds of 80 x 40 lie on %d trays", got)
	}
	if got := PutOnMinutes(4, 0.75, 1.5, map[float64]int{4.2: 10, 6: 2}); got != 15 {
		t.Errorf("%d min", got)
	}
}
