package mix

import (
	"errors"
	"math"
	"testing"

	"dustyfern/craft/fault"
)

func near(a, b, within float64) bool { return math.Abs(a-b) <= within }

func refused(t *testing.T, say string, err error, code, field string) {
	t.Helper()
	var f *fault.Fault
	if !errors.As(err, &f) || f.Code != code || f.Field != field {
		t.Errorf("%s: %v, want %s on %s", say, err, code, field)
	}
}

// Water boils as the tables of the weather service say, and its height is found again.
func TestWaterBoilsLowerUpThere(t *testing.T) {
	t.Parallel()
	for m, want := range map[float64]float64{0: 100, 500: 98.3, 1000: 96.7, 2000: 93.4, 3000: 90.0} {
		c := BoilingPoint(m)
		if !near(c, want, 0.3) {
			t.Errorf("at %g m: %.2f C, want about %g", m, c, want)
		}
		if back := HeightOf(c); !near(back, m, 0.2) {
			t.Errorf("%.2f C is %.1f m, not %g", c, back, m)
		}
	}
	if HeightOf(120) > -429 || HeightOf(60) < 5999 {
		t.Error("beyond the ends it stays at the ends")
	}
}

// A stage is known by how wide it is: no two are alike, and none begins below the one before.
func TestStagesAreToldApart(t *testing.T) {
	t.Parallel()
	for i, a := range Stages {
		for _, b := range Stages[:i] {
			if near(a.HighC-a.LowC, b.HighC-b.LowC, 0.5) || a.LowC < b.LowC {
				t.Errorf("%s and %s", a.Code, b.Code)
			}
		}
	}
}

func TestSyrupScales(t *testing.T) {
	t.Parallel()
	one, err := Syrup(SyrupIn{})
	if err != nil {
		t.Fatal(err)
	}
	two, err := Syrup(SyrupIn{Batch: new(2.0)})
	if err != nil || !near(two.SugarG, 2*one.SugarG, 1e-9) || !near(two.YieldML, 2*one.YieldML, 1e-9) || two.LowC != one.LowC {
		t.Errorf("%+v of %+v, %v", two, one, err)
	}
	// twice the coats, twice the syrup; a film that all drips off is refused
	a, err := Syrup(SyrupIn{AreaMM2: new(2e5), Coats: new(1)})
	if err != nil {
		t.Fatal(err)
	}
	b, err := Syrup(SyrupIn{AreaMM2: new(2e5), Coats: new(2)})
	if err != nil || !near(b.Batch, 2*a.Batch, 1e-9) {
		t.Errorf("%g and %g, %v", a.Batch, b.Batch, err)
	}
	_, err = Syrup(SyrupIn{AreaMM2: new(2e5), DripShare: new(1.0)})
	refused(t, "it all drips off", err, fault.OutOfRange, "dripShare")
}

func TestAPanCoolsAsItWasSeenTo(t *testing.T) {
	t.Parallel()
	rate, err := Cooling(CoolingIn{StartTempC: new(150.0), ReadingTempC: new(128.0), AfterMinutes: new(5.0)})
	if err != nil {
		t.Fatal(err)
	}
	wait, err := Cooling(CoolingIn{StartTempC: new(150.0), PourTempC: new(128.0), RatePerMinute: &rate.RatePerMinute})
	if err != nil || !near(*wait.WaitMinutes, 5, 1e-9) {
		t.Errorf("%v, %v", wait.WaitMinutes, err)
	}
	_, err = Cooling(CoolingIn{StartTempC: new(150.0), ReadingTempC: new(128.0)})
	refused(t, "when?", err, fault.Required, "afterMinutes")
	_, err = Cooling(CoolingIn{StartTempC: new(150.0), ReadingTempC: new(128.0), AfterMinutes: new(5.0), RatePerMinute: new(0.1)})
	refused(t, "both", err, fault.Contradiction, "readingTempC")
}

func TestGelatineFillsItsBox(t *testing.T) {
	t.Parallel()
	round, err := Gelatine(GelatineIn{DiameterMM: new(40.0), HeightMM: new(10.0), ObjectML: new(5.0), Remelts: new(2)})
	if err != nil || !near(*round.NeededML, math.Pi/4*56*56*18/1000-5, 1e-9) || !near(*round.KeptShare, 0.9409, 1e-9) {
		t.Errorf("%+v, %v", round, err)
	}
	if *round.Units*4 != math.Trunc(*round.Units*4) || *round.Units**round.BatchML < *round.NeededML*1.05 || (*round.Units-0.25)**round.BatchML >= *round.NeededML*1.05 {
		t.Errorf("%g units of %.1f ml for %.1f ml", *round.Units, *round.BatchML, *round.NeededML)
	}
	cost := func(bought, mixed, remelt float64) int {
		t.Helper()
		out, err := Gelatine(GelatineIn{BoughtCost: &bought, MixCost: &mixed, RemeltCost: &remelt})
		if err != nil || out.NeededML != nil {
			t.Fatalf("%+v, %v", out, err)
		}
		return *out.BreakEvenPulls
	}
	if n := cost(12, 3, 2); n != 100 { // 20 pulls of the first casting, and of four remelts
		t.Errorf("%d pulls", n)
	}
	if n := cost(2, 3, 1); n != 0 {
		t.Errorf("dearer from the start, and %d pulls", n)
	}
	for say, c := range map[string]struct {
		in    GelatineIn
		code  string
		field string
	}{
		"how wide?":     {GelatineIn{LengthMM: new(40.0), HeightMM: new(8.0), ObjectML: new(2.0)}, fault.Required, "widthMM"},
		"round and not": {GelatineIn{LengthMM: new(40.0), DiameterMM: new(40.0), HeightMM: new(8.0), ObjectML: new(2.0)}, fault.Contradiction, "lengthMM"},
		"both":          {GelatineIn{NeededML: new(40.0), HeightMM: new(8.0)}, fault.Contradiction, "heightMM"},
		"half a sum":    {GelatineIn{BoughtCost: new(4.0)}, fault.Required, "mixCost"},
	} {
		_, err := Gelatine(c.in)
		refused(t, say, err, c.code, c.field)
	}
}
