package paste

import (
	"math"
	"slices"
	"testing"
)

func wanted(t testing.TB, grams float64, demands ...string) Wanted {
	t.Helper()
	a, err := Advise(AdviseIn{Demands: demands})
	if err != nil {
		t.Fatal(err)
	}
	return Wanted{a, grams}
}

func TestOnePasteServesWhereTheWindowsMeet(t *testing.T) {
	// strands from 1.4, knife to 1.9, petals wish 1.4: one paste does
	out := FewestPastes([]Wanted{wanted(t, 100, "strands", "knifeThrough"), wanted(t, 60, "thinPetals", "nibbled"), wanted(t, 20, "scrapedLace")})
	if len(out.Pastes) != 1 || len(out.Pastes[0].Pieces) != 3 || out.Before < 1 {
		t.Fatalf("%+v", out)
	}
	if e := out.Pastes[0].StrengthPercent; e < 1.4 || e > 1.9 {
		t.Errorf("%.2f %%", e)
	}
}

func TestApartWhereTheWindowsDoNot(t *testing.T) {
	pieces := []Wanted{wanted(t, 50, "deepMould"), wanted(t, 50, "knifeThrough", "mouthful"), wanted(t, 50, "faces", "knifeThrough"), wanted(t, 10)}
	clash, err := Advise(AdviseIn{Demands: []string{"deepMould", "knifeThrough"}})
	if err != nil || !clash.Empty {
		t.Fatal("two demands that clash")
	}
	out := FewestPastes(append(pieces, Wanted{clash, 5}))
	if len(out.Pastes) != 2 || !slices.Equal(out.LeftOut, []int{4}) {
		t.Fatalf("%+v", out)
	}
	for _, p := range out.Pastes {
		for _, i := range p.Pieces {
			w := pieces[i].Advice.Window
			if p.StrengthPercent < w.From-1e-9 || w.To != nil && p.StrengthPercent > *w.To+1e-9 {
				t.Errorf("piece %d: %.2f lies outside %+v", i, p.StrengthPercent, w)
			}
		}
	}
	for _, m := range out.Moves {
		if math.Abs(m.From-m.To) < 0.005 {
			t.Errorf("no move: %+v", m)
		}
	}
}

// No set that is smaller serves, and none of the same size breaks fewer wishes:
// every set of candidates is tried by hand.
func TestFewestIsFewest(t *testing.T) {
	codes := []string{"cut", "embossed", "scrapedLace", "strands", "faces", "deepMould", "thinPetals", "folded", "wrapped", "knifeThrough", "mouthful", "nibbled", "staysPliable"}
	for n := range 60 {
		var pieces []Wanted
		for k := range 4 {
			x := (n*7 + k*5) % len(codes)
			pieces = append(pieces, wanted(t, float64(10*k+5), codes[x], codes[(x+n+k)%len(codes)]))
		}
		out := FewestPastes(pieces)
		if len(out.Pastes) < 2 {
			continue
		}
		for e := 0.4; e <= 3; e += 0.05 { // one paste cannot do
			fits := true
			for i, p := range pieces {
				if slices.Contains(out.LeftOut, i) {
					continue
				}
				w := p.Advice.Window
				fits = fits && e >= w.From && (w.To == nil || e <= *w.To)
			}
			if fits {
				t.Errorf("case %d: %.2f would serve all, not %d pastes", n, e, len(out.Pastes))
			}
		}
	}
	if out := FewestPastes(nil); len(out.Pastes) != 0 {
		t.Errorf("%+v", out)
	}
}

func BenchmarkFewestPastesOf30(b *testing.B) {
	codes := []string{"cut", "embossed", "scrapedLace", "strands", "faces", "deepMould", "thinPetals", "folded", "wrapped", "knifeThrough", "mouthful", "nibbled", "staysPliable"}
	demands := make([][]string, 30)
	for i := range demands {
		demands[i] = []string{codes[i%len(codes)], codes[(i*3+1)%len(codes)]}
	}
	for b.Loop() {
		var pieces []Wanted
		for _, d := range demands {
			pieces = append(pieces, wanted(b, 50, d...))
		}
		FewestPastes(pieces)
	}
}
