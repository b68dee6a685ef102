package paste

import (
	"math"
	"slices"
	"strings"
	"testing"
)

func TestShelfIsWhole(t *testing.T) {
	for _, k := range Shelf {
		if k.Code == "" || k.Eats == "" || !k.FatSet && (k.Strength <= 0 || k.Family == "") || k.FatSet && k.Strength != 0 {
			t.Errorf("%+v", k)
		}
	}
	for _, d := range Demands {
		if d.Reason == "" || d.From == 0 && d.To == 0 && d.Code != "shown" || d.To != 0 && d.To < d.From {
			t.Errorf("%+v", d)
		}
	}
}

// The worked cases of docs/models/paste.md: the piece, its demands, its paste.
func TestFactsOfTheCraft(t *testing.T) {
	for _, c := range []struct {
		say    string
		in     AdviseIn
		way    string
		e      float64
		beside string
	}{
		{"a frozen coral for show is flower paste alone", AdviseIn{Demands: []string{"branching", "shown"}, Chilled: new(true)}, "flowerPaste", 2.8, ""},
		{"a swag laid cold on a cake that will be cut is half and half", AdviseIn{Demands: []string{"hung", "knifeThrough"}}, "halfAndHalf", 1.6, ""},
		{"a bead string on a cake that will be cut wants half and half", AdviseIn{Demands: []string{"strands", "knifeThrough"}}, "halfAndHalf", 1.6, ""},
		{"chilled or not", AdviseIn{Demands: []string{"strands", "knifeThrough"}, Chilled: new(true)}, "halfAndHalf", 1.6, ""},
		{"an anchor painted silver is modelling paste", AdviseIn{Demands: []string{"paintedRigid", "shown"}}, "modellingPaste", 1.5, "sugarPasteHardened flowerPaste"},
		{"a strip rose that is nibbled is half and half", AdviseIn{Demands: []string{"thinPetals", "nibbled"}}, "halfAndHalf", 1.6, ""},
		{"the same only shown, flower paste beside", AdviseIn{Demands: []string{"thinPetals", "shown"}}, "halfAndHalf", 1.6, "flowerPaste"},
		{"a tiara from a lipped mould is flower paste alone", AdviseIn{Demands: []string{"lippedOpenwork", "shown"}}, "flowerPaste", 2.8, ""},
		{"scraped lace is half and half", AdviseIn{Demands: []string{"scrapedLace"}}, "halfAndHalf", 1.6, ""},
		{"a dome for syrup takes the heavy dose", AdviseIn{Demands: []string{"shell", "shown"}, OpenForm: new(true), DepthMM: new(20.0), WidthMM: new(40.0)}, "extraDose", 5.0298, ""},
		{"a mouthful from a shallow mould is sugar paste as it is", AdviseIn{Demands: []string{"mouthful"}}, "sugarPaste", 0.4, ""},
		{"flags that are eaten take a light dose", AdviseIn{Demands: []string{"cut", "mouthful"}}, "lightDose", 0.750508, ""},
		{"a hoop dried flat is half and half", AdviseIn{Demands: []string{"standsDry", "shown"}}, "halfAndHalf", 1.6, "sugarPasteHardened flowerPaste"},
		{"stood up soft it is flower paste", AdviseIn{Demands: []string{"upright"}}, "flowerPaste", 2.8, ""},
		{"held up it is half and half", AdviseIn{Demands: []string{"upright"}, Supported: new(true)}, "halfAndHalf", 1.6, ""},
		{"a plaque with letters is half and half until its use is said", AdviseIn{Demands: []string{"cut", "embossed"}}, "halfAndHalf", 1.6, ""},
		{"a band painted, then coiled is half and half", AdviseIn{Demands: []string{"paintedBand", "shown"}}, "halfAndHalf", 1.6, ""},
		{"a stem that carries its cap is flower paste alone", AdviseIn{Demands: []string{"carries", "shown"}}, "flowerPaste", 2.8, ""},
		{"nibbled as well it is one part to two", AdviseIn{Demands: []string{"carries", "nibbled"}}, "blend", 2.0, ""},
		{"a deep face that locks is flower paste", AdviseIn{Demands: []string{"faces", "shown"}, DepthMM: new(25.0), Undercut: new(true)}, "flowerPaste", 2.8, ""},
	} {
		a, err := Advise(c.in)
		if err != nil || a.Empty || a.Use.Way != c.way || math.Abs(a.Use.StrengthPercent-c.e) > 1e-4 {
			t.Errorf("%s: %+v %v", c.say, a.Use, err)
			continue
		}
		var beside []string
		for _, w := range a.Beside {
			if w.Way != "flowerPaste" || c.beside != "" {
				beside = append(beside, w.Way)
			}
		}
		if got := strings.Join(beside, " "); got != c.beside {
			t.Errorf("%s: beside it %q, want %q", c.say, got, c.beside)
		}
	}
}

// Limits that open or shut a demand, on both sides of each.
func TestSizesSpeakAtTheirLimit(t *testing.T) {
	asks := func(in AdviseIn, code string) bool {
		a, err := Advise(in)
		if err != nil {
			t.Fatal(err)
		}
		return slices.ContainsFunc(a.Demands, func(b Bar) bool { return b.Code == code })
	}
	yes := new(true)
	for _, c := range []struct {
		say   string
		below AdviseIn
		above AdviseIn
		code  string
	}{
		{"a form that locks from 12 mm", AdviseIn{DepthMM: new(11.9), Undercut: yes}, AdviseIn{DepthMM: new(12.0), Undercut: yes}, "deepMould"},
		{"closed and deeper than 0.8 of its width", AdviseIn{DepthMM: new(16.0), WidthMM: new(20.0)}, AdviseIn{DepthMM: new(16.1), WidthMM: new(20.0)}, "deepMould"},
		{"longer than twenty times its width", AdviseIn{LengthMM: new(80.0), WidthMM: new(4.0)}, AdviseIn{LengthMM: new(81.0), WidthMM: new(4.0)}, "strands"},
		{"higher than eight times its thickness", AdviseIn{HeightMM: new(16.0), ThicknessMM: new(2.0)}, AdviseIn{HeightMM: new(16.1), ThicknessMM: new(2.0)}, "upright"},
		{"an edge under 0.6 mm", AdviseIn{EdgeMM: new(0.6)}, AdviseIn{EdgeMM: new(0.59)}, "thinPetals"},
		{"a room above 65 %", AdviseIn{RHPercent: new(65.0)}, AdviseIn{RHPercent: new(65.1)}, "dampRoom"},
	} {
		if asks(c.below, c.code) || !asks(c.above, c.code) {
			t.Errorf("%s: %s below %v, above %v", c.say, c.code, asks(c.below, c.code), asks(c.above, c.code))
		}
	}
}

// Dough that stands needs a room 4 °C under its soft point, and no dough likes
// a room at it.
func TestDoughKnowsItsRoom(t *testing.T) {
	for _, c := range []struct {
		demands []string
		held    bool
		tempC   float64
		allowed bool
	}{{[]string{"upright"}, true, 20, true}, {[]string{"upright"}, true, 20.1, false}, {[]string{"upright"}, false, 15, false}, {[]string{"shown"}, false, 23.9, true}, {[]string{"shown"}, false, 24, false},
		{[]string{"carries"}, false, 15, false}, {[]string{"hung"}, false, 15, false}, {[]string{"branching"}, false, 15, false}, {[]string{"shell"}, false, 15, false}} {
		a, err := Advise(AdviseIn{Demands: c.demands, Supported: &c.held, TempC: &c.tempC})
		if err != nil || a.FatSet.Allowed != c.allowed {
			t.Errorf("%v at %.1f °C, held %v: allowed %v, by %v", c.demands, c.tempC, c.held, a.FatSet.Allowed, a.FatSet.ExcludedBy)
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

func TestDoseIsTheMassBalance(t *testing.T) {
	for _, c := range []struct {
		say                    string
		in                     DoseIn
		powder, plain, endsWit float64
	}{
		{"softer to firmer: gum in, gum out", DoseIn{MassG: new(200.0), HavePercent: new(0.4), WantPercent: new(1.6)}, 200 * 1.2 / 98.4, 0, 1.6},
		{"too firm: plain paste thins it", DoseIn{MassG: new(200.0), HavePercent: new(2.8), WantPercent: new(1.6)}, 0, 200, 1.6},
		{"as it should be", DoseIn{MassG: new(200.0), HavePercent: new(1.6), WantPercent: new(1.6)}, 0, 0, 1.6},
	} {
		d, err := Dose(c.in)
		if err != nil || math.Abs(d.AddPowderG-c.powder) > 1e-9 || math.Abs(d.AddPlainG-c.plain) > 1e-9 || d.TotalG != 200+d.AddPowderG+d.AddPlainG {
			t.Errorf("%s: %+v %v", c.say, d, err)
		}
		gum := 200*(*c.in.HavePercent)/100 + d.AddPowderG + d.AddPlainG*0.4/100
		if math.Abs(100*gum/d.TotalG-c.endsWit) > 1e-9 {
			t.Errorf("%s: ends at %.4f %%", c.say, 100*gum/d.TotalG)
		}
	}
	// on the hardener scale, of plain paste: 100 g with 2 % has 98.04 g of plain paste in it
	d, err := Dose(DoseIn{MassG: new(102.0), Scale: new("hardener"), HavePercent: new(2.0), WantPercent: new(3.0)})
	if err != nil || math.Abs(d.AddPowderG-1) > 1e-9 {
		t.Errorf("%+v %v", d, err)
	}
	d, err = Dose(DoseIn{MassG: new(103.0), Scale: new("hardener"), HavePercent: new(3.0), WantPercent: new(1.5)})
	if err != nil || math.Abs(d.AddPlainG-100) > 1e-9 {
		t.Errorf("%+v %v", d, err)
	}
	for say, in := range map[string]DoseIn{
		"powder cannot be taken out":      {MassG: new(100.0), Scale: new("hardener"), HavePercent: new(2.0), WantPercent: new(0.0)},
		"plain paste is not that soft":    {MassG: new(100.0), HavePercent: new(2.0), WantPercent: new(0.3)},
		"no gum strength":                 {MassG: new(100.0), HavePercent: new(12.0), WantPercent: new(1.0)},
		"plain paste has no hardener":     {MassG: new(100.0), Scale: new("hardener"), HavePercent: new(2.0), WantPercent: new(1.0), PlainPercent: new(0.4)},
		"nothing cannot be made stronger": {HavePercent: new(1.0), WantPercent: new(2.0)},
	} {
		if _, err := Dose(in); err == nil {
			t.Errorf("%s, and yet it was dosed", say)
		}
	}
	if d, err := Dose(DoseIn{MassG: new(100.0), HavePercent: new(0.4), WantPercent: new(6.5)}); err != nil || !d.Brittle {
		t.Errorf("%+v %v", d, err)
	}
}

func TestABlendUsesLeftoversFirst(t *testing.T) {
	out, err := Blend(BlendIn{WantStrengthPercent: new(1.6), MassG: new(100.0), Pastes: []Stock{
		{Name: new("packet"), Paste: new("sugarPaste"), CostPerG: new(1.0)}, {Name: new("rest"), Paste: new("halfAndHalf"), HaveG: new(60.0)}, {Name: new("stiff"), Paste: new("flowerPaste"), CostPerG: new(2.0)}}})
	if err != nil || !out.Reached {
		t.Fatalf("%+v %v", out, err)
	}
	used := map[string]float64{}
	for _, u := range out.Use {
		used[u.Name] = u.MassG
	}
	// 60 g of leftover, and the other 40 g half and half of the packets: 20 at 1, 20 at 2
	if math.Abs(used["rest"]-60) > 1e-6 || math.Abs(used["packet"]-20) > 1e-6 || math.Abs(*out.Cost-60) > 1e-6 {
		t.Errorf("%v costs %.2f", used, *out.Cost)
	}
	short, err := Blend(BlendIn{WantStrengthPercent: new(1.6), MassG: new(100.0), Pastes: []Stock{{Paste: new("sugarPaste"), HaveG: new(30.0)}, {Paste: new("flowerPaste"), HaveG: new(20.0)}}})
	if err != nil || short.Reached || math.Abs(*short.MassAtStrengthG-40) > 1e-6 || short.NearestStrengthPercent != nil {
		t.Errorf("%+v %v", short, err)
	}
	bought := map[string]float64{}
	for _, b := range short.Buy {
		bought[b.Name] = b.MassG
	}
	if math.Abs(bought["sugarPaste"]-20) > 1e-6 || math.Abs(bought["flowerPaste"]-30) > 1e-6 {
		t.Errorf("to 30 g and 20 g one buys %v", bought)
	}
	soft, err := Blend(BlendIn{WantStrengthPercent: new(2.0), MassG: new(50.0), Pastes: []Stock{{Paste: new("sugarPaste"), HaveG: new(500.0)}, {Paste: new("halfAndHalf"), HaveG: new(500.0)}}})
	if err != nil || soft.Reached || math.Abs(*soft.NearestStrengthPercent-1.6) > 1e-9 {
		t.Errorf("%+v %v", soft, err)
	}
}

func TestTheSpoonOfOnesOwn(t *testing.T) {
	for spread, factor := range map[float64]float64{1.0: 0, 1.1: 0.5, 1.2: 0.75, 1.4: 1, 1.6: 1.25, 2.5: 1.5} {
		d, err := Hardener(HardenerIn{PasteG: new(250.0), SpreadRatio: &spread})
		if err != nil || math.Abs(d.BrandFactor-factor) > 1e-9 {
			t.Errorf("a ball that spreads %.2f times: factor %.2f, want %.2f (%v)", spread, d.BrandFactor, factor, err)
		}
	}
	own, err := Hardener(HardenerIn{PasteG: new(237.5), GramsPerTsp: new(2.8)})
	if err != nil || math.Abs(own.PowderG-2.8) > 1e-9 || own.SpoonText != "1 tsp" || math.Abs(*own.SpoonErrorPercent) > 1e-9 || own.DensityLowFactor != 1 {
		t.Errorf("%+v %v", own, err)
	}
	trag, err := Hardener(HardenerIn{PasteG: new(250.0), Powder: new("tragacanth")})
	if err != nil || math.Abs(trag.EffectMinutes-15) > 1e-6 || trag.RestMinutes != 30 || *trag.OtherRestMinutes != 480 {
		t.Errorf("most use tragacanth like CMC: %+v %v", trag, err)
	}
	slow, err := Hardener(HardenerIn{PasteG: new(250.0), Powder: new("tragacanth"), RestSchool: new("slow")})
	if err != nil || math.Abs(slow.RestMinutes-480) > 1e-6 || !slow.RestMaySpanNight || slow.RestHandsMinutes != 0 {
		t.Errorf("who holds it for slow leaves it in its bag overnight: %+v %v", slow, err)
	}
	over, err := Hardener(HardenerIn{PasteG: new(100.0), Percent: new(12.0)})
	if err != nil || !over.Capped || over.Percent != 8 || !over.Brittle {
		t.Errorf("%+v %v", over, err)
	}
	if _, err := Hardener(HardenerIn{PasteG: new(100.0), BrandFactor: new(1.0), SpreadRatio: new(1.2)}); err == nil {
		t.Error("two brand factors")
	}
}
