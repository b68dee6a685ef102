package ribbon

import (
	"errors"
	"math"
	"testing"

	"dustyfern/craft/fault"
)

func near(a, b, within float64) bool { return math.Abs(a-b) <= within }

// refused asserts a fault on a field.
func refused(t *testing.T, say string, err error, code, field string) {
	t.Helper()
	var f *fault.Fault
	if !errors.As(err, &f) || f.Code != code || f.Field != field {
		t.Errorf("%s: %v, want %s on %s", say, err, code, field)
	}
}

func TestTheRollerIsReadByItsAnchors(t *testing.T) {
	t.Parallel()
	for setting, want := range map[float64]float64{1: 3.2, 2: 2.4, 3: 1.6, 6: 1.05, 9: 0.5} {
		out, err := Roller(RollerIn{Setting: &setting})
		if err != nil || !near(out.ThicknessMM, want, 1e-9) {
			t.Errorf("setting %g: %v %v", setting, out, err)
		}
	}
	// anchors may come in any order, and a machine may count the other way
	for _, c := range []struct {
		anchors       [][]float64
		thick, wanted float64
	}{{[][]float64{{9, 0.5}, {1, 3.2}, {3, 1.6}}, 2.4, 2}, {[][]float64{{1, 0.5}, {6, 3}}, 1.3, 3}, {[][]float64{{1, 1}, {3, 2}}, 1.25, 2}, {nil, 20, 1}, {nil, 0.2, 9}} {
		out, err := Roller(RollerIn{Anchors: c.anchors, ThicknessMM: &c.thick})
		if err != nil || *out.Setting != c.wanted {
			t.Errorf("%g mm by %v: setting %v, want %g; %v", c.thick, c.anchors, out.Setting, c.wanted, err)
		}
	}
	two := 2.0
	_, err := Roller(RollerIn{Anchors: [][]float64{{1, 3}, {1, 2}}, Setting: &two})
	refused(t, "one setting twice", err, fault.Contradiction, "anchors[1]")
	_, err = Roller(RollerIn{Anchors: [][]float64{{1, 3}, {2}}, Setting: &two})
	refused(t, "half an anchor", err, fault.Syntax, "anchors[1]")
	_, err = Roller(RollerIn{Anchors: [][]float64{{1, 3}, {4, 90}}, Setting: &two})
	refused(t, "a plank", err, fault.OutOfRange, "anchors[1]")
	_, err = Roller(RollerIn{Anchors: [][]float64{{0.2, 3}, {0.8, 2}}, ThicknessMM: &two})
	refused(t, "no whole setting", err, fault.OutOfRange, "anchors")
	_, err = Roller(RollerIn{MassG: &two, LengthMM: &two})
	refused(t, "a strip without its width", err, fault.Required, "widthMM")
}

// What is rolled thinner keeps its volume; a rose's ribbon is its spiral's arc, and back.
func TestLengthsKeepTheirPaste(t *testing.T) {
	t.Parallel()
	kind := "rolled"
	for _, thin := range []float64{2, 1, 0.5} {
		out, err := Length(LengthIn{Kind: &kind, LengthMM: new(100.0), ThicknessMM: new(2.0), ToThicknessMM: &thin})
		if err != nil || !near(*out.RibbonMM*thin, 200, 1e-9) {
			t.Errorf("2 mm to %g mm: %v %v", thin, out.RibbonMM, err)
		}
	}
	kind = "rose"
	for _, turns := range []float64{1, 3, 8} {
		there, err := Length(LengthIn{Kind: &kind, ThicknessMM: new(1.2), Folded: new(true), Turns: &turns})
		if err != nil {
			t.Fatal(err)
		}
		// the rule of thumb is a little short, never long
		if short := 1 - *there.ApproxMM / *there.RibbonMM; short < 0 || short > 0.03 {
			t.Errorf("%g turns: %.1f mm, by the rule %.1f", turns, *there.RibbonMM, *there.ApproxMM)
		}
		back, err := Length(LengthIn{Kind: &kind, ThicknessMM: new(1.2), Folded: new(true), RibbonMM: there.RibbonMM})
		if err != nil || !near(*back.Turns, turns, 0.02*turns) || !near(*back.DiameterMM, *there.DiameterMM, 0.5) {
			t.Errorf("%g turns come back as %v, %v mm", turns, *back.Turns, *back.DiameterMM)
		}
	}
	_, err := Length(LengthIn{Kind: &kind, ThicknessMM: new(1.0), Turns: new(2.0), RibbonMM: new(90.0)})
	refused(t, "both", err, fault.Contradiction, "ribbonMM")
	kind = "spool"
	if out, err := Length(LengthIn{Kind: &kind, LengthMM: new(600.0), ThicknessMM: new(2.0), DiameterMM: new(20.0)}); err != nil || !near(math.Pi/4*(*out.DiameterMM**out.DiameterMM-400), 1200, 1e-6) {
		t.Errorf("the spool's ring is %v, %v", out.DiameterMM, err)
	}
	for kind, field := range map[string]string{"ruffle": "finishedMM", "coil": "diameterMM", "spool": "lengthMM", "rolled": "lengthMM", "rose": "thicknessMM"} {
		_, err := Length(LengthIn{Kind: &kind})
		refused(t, kind, err, fault.Required, field)
	}
}

func TestABowTakesTwiceItsLoops(t *testing.T) {
	t.Parallel()
	out, err := Bow(BowIn{LoopMM: new(45.0), WidthMM: new(25.0), ThicknessMM: new(1.2)})
	if err != nil || *out.LoopStripMM != 100 || *out.TailStripMM != 0 || !near(out.TotalMM, 200+*out.KnotStripMM, 1e-9) {
		t.Errorf("%+v %v", out, err)
	}
	folded := "folded"
	if out, err := Bow(BowIn{Kind: &folded, Loops: new(0), LoopMM: new(45.0)}); err != nil || out.TotalMM != 0 {
		t.Errorf("no loop takes %v, %v", out.TotalMM, err)
	}
}

func TestStripsTheBetterWayRound(t *testing.T) {
	t.Parallel()
	ask := func(w, l, b, n, trim float64) int {
		t.Helper()
		out, err := Strips(StripsIn{SheetWidthMM: &w, SheetLengthMM: &l, StripWidthMM: &b, StripLengthMM: &n, TrimMM: &trim})
		if err != nil {
			t.Fatal(err)
		}
		return *out.StripsPerSheet
	}
	if a, b := ask(200, 300, 25, 190, 0), ask(300, 200, 25, 190, 0); a != b || a != 12 {
		t.Errorf("%d one way, %d the other", a, b)
	}
	if n := ask(100, 100, 20, 120, 0); n != 0 {
		t.Errorf("%d strips longer than the sheet", n)
	}
	if n := ask(100, 100, 20, 20, 60); n != 0 {
		t.Errorf("%d strips of a sheet that is all trim", n)
	}
	_, err := Strips(StripsIn{SheetWidthMM: new(100.0), SheetLengthMM: new(100.0), StripLengthMM: new(10.0)})
	refused(t, "how wide?", err, fault.Required, "stripWidthMM")
	_, err = Strips(StripsIn{OpenMinutes: new(10.0), EachMinutes: new(1.0)})
	refused(t, "how many?", err, fault.Required, "pieces")
}

// Reusing petals never takes more strips, whatever is asked.
func TestReusedPetalsNeverCostMore(t *testing.T) {
	t.Parallel()
	for petals := 3; petals <= 8; petals++ {
		for n := range 216 {
			in := RoseStripsIn{Buds: new(n % 6), SmallBuds: new(n / 6 % 6), BigBuds: new(n / 36), PetalsPerStrip: &petals}
			plain, err := RoseStrips(in)
			if err != nil {
				t.Fatal(err)
			}
			in.ReusePetals = new(true)
			if free, err := RoseStrips(in); err != nil || free.Strips > plain.Strips || n > 0 && free.Strips < 1 {
				t.Errorf("%d petals, %d: %d strips, %d when they are reused; %v", petals, n, plain.Strips, free.Strips, err)
			}
		}
	}
}

func TestAFoldedBloomIsAsWideAsItsCutter(t *testing.T) {
	t.Parallel()
	out, err := Fold(FoldIn{SizeMM: new(40.0), Petals: new(6), ThicknessMM: new(1.0), StemShare: new(0.2)})
	if err != nil || out.FinishedMM != 40 || out.ReachMM != 20 || !near(out.KeptWidthShare, 4.0/6, 1e-9) || !near(*out.KeptG, 0.8**out.CutG, 1e-9) {
		t.Errorf("%+v %v", out, err)
	}
	if out, err = Fold(FoldIn{WantMM: new(30.0), HaveMM: []float64{25, 35}}); err != nil || out.SizeMM != 35 {
		t.Errorf("of two as far off it takes %v, %v", out.SizeMM, err)
	}
}
