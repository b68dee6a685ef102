package paste

import (
	"math"
	"slices"
	"testing"
)

func TestShelfIsWhole(t *testing.T) {
	for _, k := range Shelf {
		if k.Code == "" || k.Eats == "" || !k.FatSet && (k.Strength <= 0 || k.Family == "") || k.FatSet && k.Strength != 0 {
			t.Errorf("%+v", k)
		}
	}
	for _, d := range Demands {
		if d.Reason == "" || d.From == 0 && d.To == 0 || d.To != 0 && d.To < d.From {
			t.Errorf("%+v", d)
		}
	}
}

func TestFactsOfTheCraft(t *testing.T) {
	for _, c := range []struct {
		say string
		in  AdviseIn
		way string
		e   float64
	}{
		{"a bead string on a cake that will be cut wants half and half", AdviseIn{Demands: []string{"strands", "knifeThrough"}}, "halfAndHalf", 1.6},
		{"a mouthful from a shallow mould is sugar paste as it is", AdviseIn{Demands: []string{"mouthful"}}, "sugarPaste", 0.4},
		{"a deep face for show is flower paste", AdviseIn{Demands: []string{"faces"}, DepthMM: new(25.0)}, "flowerPaste", 2.8},
		{"chilled, it still wants a stiff blend", AdviseIn{Demands: []string{"faces"}, DepthMM: new(25.0), Chilled: new(true)}, "blend", 2.2},
		{"flags that are eaten take a light dose", AdviseIn{Demands: []string{"cut", "mouthful"}}, "lightDose", 0.750508},
	} {
		a, err := Advise(c.in)
		if err != nil || a.Empty || a.Use.Way != c.way || math.Abs(a.Use.StrengthPercent-c.e) > 1e-5 {
			t.Errorf("%s: %+v %v", c.say, a.Use, err)
		}
	}
}

func TestAFaceOnAChildsMouthfulHasNoPaste(t *testing.T) {
	a, err := Advise(AdviseIn{Demands: []string{"faces", "mouthful"}, ChildrenServed: new(true)})
	if err != nil || !a.Empty || !slices.Equal(a.Clash, []string{"faces", "mouthful"}) {
		t.Fatalf("%+v %v", a, err)
	}
	var ways []string
	for _, w := range a.WaysOut {
		ways = append(ways, w.Do)
	}
	if !slices.Equal(ways, []string{"splitThePiece", "serveUneaten", "backIt"}) {
		t.Error(ways)
	}
	// each way that names a strength opens a window
	b, err := Advise(AdviseIn{Demands: []string{"faces"}, ChildrenServed: new(true)})
	if err != nil || b.Empty {
		t.Error("shown only, it has a window", b, err)
	}
}

// Whatever is asked, the strength advised lies in the window, and Broken
// agrees with Met.
func TestAdviceLiesInItsWindow(t *testing.T) {
	codes := []string{"cut", "embossed", "strands", "folded", "wrapped", "carries", "knifeThrough", "mouthful", "nibbled", "staysPliable"}
	for bits := range 1 << len(codes) {
		var in AdviseIn
		for i, c := range codes {
			if bits>>i&1 == 1 {
				in.Demands = append(in.Demands, c)
			}
		}
		a, err := Advise(in)
		if err != nil {
			t.Fatal(err)
		}
		if a.Empty {
			if len(a.Clash) != 2 || len(a.WaysOut) == 0 {
				t.Fatalf("%v: %+v", in.Demands, a)
			}
			continue
		}
		e := *a.StrengthPercent
		if e < a.Window.From-1e-9 || a.Window.To != nil && e > *a.Window.To+1e-9 || a.Use.StrengthPercent > *a.GoodToPercent+1e-9 {
			t.Fatalf("%v: %v outside %+v", in.Demands, e, a.Window)
		}
		broken := Broken(a, e)
		if len(broken) != *a.SoftBroken {
			t.Fatalf("%v: %v broken, %d said", in.Demands, broken, *a.SoftBroken)
		}
	}
}

func TestHeavyIsNineToEighteenTimesLight(t *testing.T) {
	dose := func(school string) HardenerOut {
		d, err := Hardener(HardenerIn{PasteG: new(400.0), School: &school})
		if err != nil {
			t.Fatal(err)
		}
		return d
	}
	light, heavy := dose("light"), dose("extra")
	if lo, hi := *heavy.SchoolLowPercent/light.PercentNominal, *heavy.SchoolHighPercent/light.PercentNominal; math.Abs(lo-9.2) > 0.1 || math.Abs(hi-18.4) > 0.1 {
		t.Errorf("%.2f to %.2f times", lo, hi)
	}
	for school, g := range map[string]float64{"light": 1.4, "modelling": 5.5, "extra": 19.5} {
		if d := dose(school); math.Abs(d.PowderG-g) > 0.1 {
			t.Errorf("%s of 400 g: %.2f g, want %.1f", school, d.PowderG, g)
		}
	}
}

// Mass and gum are conserved by every blend that is reached.
func TestBlendsConserve(t *testing.T) {
	for want := 0.25; want <= 2.8; want += 0.05 {
		out, err := Blend(BlendIn{Pastes: []Stock{{Paste: new("softSugarPaste"), HaveG: new(80.0)}, {Paste: new("halfAndHalf"), HaveG: new(60.0)}, {Paste: new("flowerPaste")}, {Paste: new("sugarPaste")}},
			WantStrengthPercent: &want, MassG: new(150.0)})
		if err != nil {
			t.Fatal(err)
		}
		if !out.Reached {
			if want > 0.33 {
				t.Errorf("%.2f should be reached", want)
			}
			continue
		}
		e := map[string]float64{"softSugarPaste": 0.25, "halfAndHalf": 1.6, "flowerPaste": 2.8, "sugarPaste": 0.4}
		mass, gum := 0.0, 0.0
		for _, u := range out.Use {
			mass, gum = mass+u.MassG, gum+u.MassG*e[u.Name]
		}
		if math.Abs(mass-150) > 1e-6 || math.Abs(gum/mass-want) > 1e-6 {
			t.Errorf("%.2f: %+v", want, out.Use)
		}
	}
}

func FuzzMix(f *testing.F) {
	for _, s := range []string{"1:1 with modelling paste", "3 parts sugar paste to 1 part gum paste", "half", "0:0", "30 % flower paste", "two to one"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, mix string) {
		out, err := Strength(StrengthIn{Mix: &mix})
		if err == nil && !*out.Ambiguous && (*out.WithShare < 0 || *out.WithShare > 1 || math.IsNaN(*out.StrengthPercent)) {
			t.Fatalf("%q: %+v", mix, out)
		}
	})
}
