package piece

import (
	"math"
	"testing"
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

func TestWhatIsKnownOfACavity(t *testing.T) {
	one := func(in PieceIn) PieceOut {
		t.Helper()
		out, err := OnePiece(in)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	// weighed beats water beats volume
	if o := one(PieceIn{TrialPieceG: new(4.2), WaterG: new(3.2), CavityML: new(9.0)}); o.From != "trial" || o.MassG != 4.2 || math.Abs(*o.ImpliedDensityGPerML-4.2/(3.2/0.998)) > 1e-9 {
		t.Errorf("%+v", o)
	}
	if o := one(PieceIn{WaterG: new(3.2), CavityML: new(9.0)}); o.From != "water" || math.Abs(o.MassG-3.2/0.998*1.35) > 1e-9 {
		t.Errorf("%+v", o)
	}
	if o := one(PieceIn{CavityML: new(2.0), DensityGPerML: new(1.28)}); o.From != "volume" || math.Abs(o.MassG-2.56) > 1e-9 {
		t.Errorf("%+v", o)
	}
	// a trial in one paste tells the mass in another by their densities
	if o := one(PieceIn{TrialPieceG: new(4.05), TrialDensityGPerML: new(1.35), DensityGPerML: new(1.28)}); math.Abs(o.MassG-3.84) > 1e-9 {
		t.Errorf("%+v", o)
	}
	// a ball of 1.35 g/ml and 20 mm weighs 5.655 g
	if o := one(PieceIn{TrialPieceG: new(math.Pi / 6 * 8 * 1.35)}); math.Abs(o.BallDiameterMM-20) > 1e-9 {
		t.Errorf("%.4f mm", o.BallDiameterMM)
	}
	// a rope of 10 mm: 1 ml is 12.73 mm long
	if o := one(PieceIn{CavityML: new(1.0), RopeMM: new(10.0)}); math.Abs(*o.RopeLengthMM-4000/(math.Pi*100)) > 1e-9 {
		t.Errorf("%.4f mm", *o.RopeLengthMM)
	}
	if o := one(PieceIn{CavityML: new(3.0), FrontML: new(1.0), FrontDensityGPerML: new(1.5)}); *o.FrontG != 1.5 || math.Abs(*o.BackG-2.7) > 1e-9 {
		t.Errorf("%+v", o)
	}
	for g, verdict := range map[float64]string{3.9: "under", 3.93: "good", 4.16: "good", 4.2: "trim"} {
		if o := one(PieceIn{TrialPieceG: new(4.0), WeighedG: &g}); o.Verdict != verdict {
			t.Errorf("%v g of 4 g is %s", g, o.Verdict)
		}
	}
	for say, in := range map[string]PieceIn{"nothing known": {}, "a front larger than the whole": {CavityML: new(1.0), FrontML: new(2.0)}, "no mass": {TrialPieceG: new(0.0)}} {
		if o, err := OnePiece(in); err == nil {
			t.Errorf("%s: %+v", say, o)
		}
	}
}

func TestTheAimLiesOnTheScale(t *testing.T) {
	for _, step := range []float64{0.01, 0.05, 0.1, 0.2} {
		b, err := Batch(BatchIn{Wanted: new(10), PieceG: new(5.0), ScaleStepG: &step})
		if err != nil || b.TooCoarse {
			t.Fatalf("step %v: %+v %v", step, b, err)
		}
		if n := *b.AimG / step; math.Abs(n-math.Round(n)) > 1e-6 || *b.AimG-step/2 < b.LowG-1e-9 || *b.AimG+step/2 > b.HighG+1e-9 {
			t.Errorf("step %v: aims at %v in %v to %v", step, *b.AimG, b.LowG, b.HighG)
		}
	}
	b, err := Batch(BatchIn{Wanted: new(10), PieceG: new(0.5), ScaleStepG: new(1.0)})
	// the band is 6 % of 0.5 g: a step of 1 g is 33.4 bands
	if err != nil || !b.TooCoarse || *b.RopePieces != 34 || math.Abs(*b.RopeG-17) > 1e-9 || b.AimG != nil {
		t.Errorf("%+v %v", b, err)
	}
	trimmed, err := Batch(BatchIn{Wanted: new(10), PieceG: new(5.0), Trimmed: new(true)})
	plain, err2 := Batch(BatchIn{Wanted: new(10), PieceG: new(5.0)})
	if err != nil || err2 != nil || math.Abs(trimmed.PasteG/plain.PasteG-1.15/1.03) > 1e-9 {
		t.Errorf("%v and %v g", trimmed.PasteG, plain.PasteG)
	}
}

func TestTheLogTeachesSpares(t *testing.T) {
	make := func(made, broken int) SpareOut {
		t.Helper()
		s, err := Spares(SpareIn{Wanted: new(20), Made: &made, Broken: &broken})
		if err != nil {
			t.Fatal(err)
		}
		return s
	}
	before, careful, clumsy := make(0, 0), make(100, 0), make(100, 20)
	if careful.Make > before.Make || clumsy.Make <= before.Make {
		t.Errorf("%d to begin with, %d after none of 100 broke, %d after 20", before.Make, careful.Make, clumsy.Make)
	}
	// Beta(1, 19) and 20 of 100: 21 in 120
	if math.Abs(clumsy.MeanBreakShare-21.0/120) > 1e-12 {
		t.Errorf("%v", clumsy.MeanBreakShare)
	}
	for say, in := range map[string]SpareIn{
		"more broken than made":   {Wanted: new(10), Made: new(5), Broken: new(6)},
		"half a belief":           {Wanted: new(10), PriorA: new(2.0)},
		"a belief and a class":    {Wanted: new(10), PriorA: new(2.0), PriorB: new(18.0), Breakage: new("robust")},
		"nearly everything broke": {Wanted: new(10), PriorA: new(95.0), PriorB: new(1.0)},
		"less than nothing":       {Wanted: new(-1)},
	} {
		if s, err := Spares(in); err == nil {
			t.Errorf("%s: %+v", say, s)
		}
	}
	if s, err := Spares(SpareIn{Wanted: new(0)}); err != nil || s.Make != 0 {
		t.Errorf("nothing wanted: %+v %v", s, err)
	}
}

func TestStripsOfBeads(t *testing.T) {
	run := func(in StringsIn) StringsOut {
		t.Helper()
		out, err := Strings(in)
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	round := math.Pi * 260 // a 250 mm cake coated 5 mm thick
	// strips of 180 mm, each join eats 4 mm
	if o := run(StringsIn{RunMM: &round, StripMM: new(180.0), JoinMM: new(4.0), Closed: new(true)}); o.Strips != 5 {
		t.Errorf("%+v", o)
	}
	if o := run(StringsIn{RunMM: new(176.0), StripMM: new(180.0)}); o.Strips != 1 || math.Abs(o.SpareMM-4) > 1e-9 {
		t.Errorf("%+v", o)
	}
	// only whole beads of 7 mm: 175 of the 180 mm are used
	if o := run(StringsIn{RunMM: new(350.0), StripMM: new(180.0), BeadPitchMM: new(7.0)}); o.Strips != 2 || math.Abs(o.StripMM-175) > 1e-9 {
		t.Errorf("%+v", o)
	}
	for say, in := range map[string]StringsIn{"joins eat it whole": {RunMM: new(100.0), StripMM: new(10.0), JoinMM: new(10.0)}, "no bead fits": {RunMM: new(100.0), StripMM: new(10.0), BeadPitchMM: new(12.0)}} {
		if o, err := Strings(in); err == nil {
			t.Errorf("%s: %+v", say, o)
		}
	}
}

// One more mould never makes the rounds longer, and hands bound them below.
func TestMoreMouldsNeverTakeLonger(t *testing.T) {
	last := math.Inf(1)
	for k := 1; k <= 8; k++ {
		c, err := Cycle(CycleIn{FillMinutes: new(2.0), FreezeMinutes: new(8.0), UnmouldMinutes: new(1.0), Moulds: &k, Fills: new(24)})
		if err != nil || *c.MakespanMinutes > last+1e-9 || *c.MakespanMinutes < 24*3 {
			t.Fatalf("%d moulds: %+v %v", k, c, err)
		}
		last = *c.MakespanMinutes
	}
	if last > 24*3+8 { // at the end the last mould is waited for
		t.Errorf("with moulds enough only hands count: %v min", last)
	}
}

func TestKneadMinutesGrowByTheQuarterKilo(t *testing.T) {
	for g, want := range map[float64]int{10: 6, 250: 6, 251: 8, 700: 10} {
		if got := KneadMinutes(g, 6, 2); got != want {
			t.Errorf("%v g: %d min", g, got)
		}
	}
}

// Each piece goes a little faster, none in less than half the time of the first.
func TestHandsLearnToAFloor(t *testing.T) {
	t.Parallel()
	minutes := func(n, before int) float64 {
		t.Helper()
		out, err := Job(JobIn{FirstMinutes: new(6.0), Pieces: &n, Before: &before})
		if err != nil {
			t.Fatal(err)
		}
		return *out.PiecesMinutes
	}
	last := 6.1
	for i := range 60 {
		each := minutes(1, i)
		if each > last+1e-9 || each < 3-1e-9 {
			t.Errorf("piece %d takes %.2f min, the one before %.2f", i+1, each, last)
		}
		last = each
	}
	if a, b := minutes(30, 0), minutes(20, 0)+minutes(10, 20); math.Abs(a-b) > 1e-9 {
		t.Errorf("thirty in one go %.3f min, in two %.3f", a, b)
	}
	if out, err := Job(JobIn{FirstMinutes: new(6.0), Pieces: new(0), SetupMinutes: new(10.0)}); err != nil || out.Minutes != 0 {
		t.Errorf("nothing takes %v min, %v", out.Minutes, err)
	}
	if _, err := Job(JobIn{FirstMinutes: new(6.0)}); err == nil {
		t.Error("how many was not asked")
	}
}
