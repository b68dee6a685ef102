package drying

import (
	"math"
	"testing"
)

// crank is the share of the whole change that a body has lost: Crank, The
// Mathematics of Diffusion, 1975, surface evaporation. Roots by halving.
func crank(round int, bi, fo float64) float64 {
	left := 0.0
	for n := range 60 {
		lo, hi := math.Pi*float64(n)+1e-9, math.Pi*(float64(n)+0.5)-1e-9
		f := func(q float64) float64 { return q*math.Sin(q) - bi*math.Cos(q) }
		if round == 2 {
			lo, hi = math.Pi*float64(n)+1e-9, math.Pi*float64(n+1)-1e-9
			f = func(q float64) float64 { return -(q*math.Cos(q) - (1-bi)*math.Sin(q)) }
		}
		up := f(hi) > f(lo)
		for range 200 {
			mid := (lo + hi) / 2
			if (f(mid) > 0) == up {
				hi = mid
			} else {
				lo = mid
			}
		}
		q := (lo + hi) / 2
		c := 2 * bi * bi / (q * q * (q*q + bi*bi + bi))
		if round == 2 {
			c = 6 * bi * bi / (q * q * (q*q + bi*bi - bi))
		}
		left += c * math.Exp(-q*q*fo)
	}
	return 1 - left
}

// TestSolverMeetsTheSeries holds the finite volumes against the published
// series and its table of values.
func TestSolverMeetsTheSeries(t *testing.T) {
	table := map[[3]float64]float64{{0, 0.5, 0.5}: 0.195672, {0, 2, 0.1}: 0.133628, {0, 2, 0.5}: 0.460384, {0, 20, 0.1}: 0.311231, {2, 0.5, 0.5}: 0.495024, {2, 2, 0.1}: 0.364839, {2, 2, 0.5}: 0.878228, {2, 20, 0.1}: 0.711591,
		{1, 0.5, 0.5}: 0.360511, {1, 2, 0.1}: 0.255428, {1, 2, 0.5}: 0.734610, {1, 20, 0.1}: 0.544595}
	for k, published := range table {
		round, bi, fo := int(k[0]), k[1], k[2]
		if round != 1 {
			if got := crank(round, bi, fo); math.Abs(got-published) > 2e-6 {
				t.Errorf("series %v: %.6f, published %.6f", k, got, published)
			}
		}
		shape := [3]string{"sheet", "rod", "ball"}[round]
		b := bodyOf(shape, 10)
		const d = 0.06
		ka := bi * d / b.reach
		in := &PredictIn{Shape: &shape, HorizonHours: new(fo * b.reach * b.reach / d), TimeFactor: new(1.0), LogSd: new(0.0)}
		m := &march{in: in, iso: isotherms["halfAndHalf"], body: b, room: room{{0, 21, 45}}}
		r := newRunner(m, 1, [3]float64{1, 1, 1})
		m.only = 0
		end := *in.HorizonHours
		for x := 0.0; x < end-1e-12; {
			h := math.Min(math.Min(0.5, 0.0005+0.06*x), end-x)
			r.step(m, x, h, &setting{d: d, ka: ka, kb: ka})
			x += h
		}
		if lost := 1 - r.mean(&b, 0, len(r.cells)); math.Abs(lost-published) > 0.001 {
			t.Errorf("%s Bi %v Fo %v: lost %.5f, published %.5f", shape, bi, fo, lost, published)
		}
	}
}

func predict(t *testing.T, change func(*PredictIn)) Forecast {
	t.Helper()
	in := PredictIn{Paste: new("halfAndHalf"), Shape: new("sheet"), ThicknessMM: new(1.2), Support: new("foam"), TempC: new(21.0), RHPercent: new(45.0), HorizonHours: new(336.0)}
	if change != nil {
		change(&in)
	}
	f, err := Predict(in)
	if err != nil {
		t.Fatal(err)
	}
	return f
}

func TestTimesTheTradeKnows(t *testing.T) {
	if h := *predict(t, nil).Firm.P50Hours; h < 4 || h > 5 {
		t.Errorf("a 1:1 blossom may be lifted in 4 to 5 h, not %.2f", h)
	}
	if h := *predict(t, func(in *PredictIn) { in.Paste = new("flowerPaste"); in.ThicknessMM = new(0.9); in.Support = new("cup") }).Hard.P50Hours; h < 6 || h > 8 {
		t.Errorf("a thin wired petal is hard in 6 to 8 h, not %.2f", h)
	}
	dome := predict(t, func(in *PredictIn) {
		in.Paste, in.Shape, in.ThicknessMM, in.Support, in.GumPercent = new("sugarPaste"), new("dome"), new(20.7), new("board"), new(4.9)
	})
	if h := *dome.Firm.P50Hours; h < 20 || h > 30 {
		t.Errorf("a 25 g dome takes about a day, not %.2f h", h)
	}
}

// Damper, thicker and later stages never come sooner.
func TestDryingIsMonotone(t *testing.T) {
	last := 0.0
	for rh := 30.0; rh <= 60; rh += 5 {
		f := predict(t, func(in *PredictIn) { in.RHPercent = &rh })
		if h := *f.Firm.P50Hours; h < last {
			t.Fatalf("%v %%: %.3f h after %.3f", rh, h, last)
		} else {
			last = h
		}
		if *f.Skin.P50Hours > *f.Hold.P50Hours || *f.Hold.P50Hours > *f.Firm.P50Hours || *f.Firm.P10Hours > *f.Firm.P50Hours || *f.Firm.P50Hours > *f.Firm.P90Hours {
			t.Fatalf("%v %%: stages out of order %+v", rh, f)
		}
	}
	last = 0
	for _, mm := range []float64{0.5, 1, 2, 4, 6} {
		if h := *predict(t, func(in *PredictIn) { in.ThicknessMM = &mm }).Firm.P50Hours; h < last {
			t.Fatalf("%v mm: %.3f h after %.3f", mm, h, last)
		} else {
			last = h
		}
	}
}

func TestADampRoomNeverSets(t *testing.T) {
	f := predict(t, func(in *PredictIn) { in.RHPercent = new(70.0) })
	if f.Firm.Status != "never" || f.Firm.P90Hours != nil || len(f.Notes) == 0 || f.Notes[0] != "will_not_set" {
		t.Errorf("%+v", f)
	}
	b, err := Balance(BalanceIn{Paste: new("halfAndHalf"), RHPercent: new(70.0)})
	if err != nil || *b.FirmUpToRHPercent > 70 || *b.HardUpToRHPercent > *b.FirmUpToRHPercent {
		t.Errorf("%+v %v", b, err)
	}
}

func TestDewAfterTheFreezer(t *testing.T) {
	if d := DewPoint(22, 60); math.Abs(d-13.9) > 0.05 {
		t.Errorf("22 °C and 60 %%: dew point %.2f", d)
	}
	short, err := Dew(DewIn{TempC: new(21.0), RHPercent: new(50.0), ThicknessMM: new(3.0), FreezerMinutes: new(5.0)})
	if err != nil || *short.DustableAfterMinutes != 0 {
		t.Errorf("five minutes leave nothing to wait for: %+v %v", short, err)
	}
	night, err := Dew(DewIn{TempC: new(22.0), RHPercent: new(60.0), ThicknessMM: new(8.0), FreezerMinutes: new(600.0)})
	if err != nil || *night.DustableAfterMinutes < 20 {
		t.Errorf("a night in the freezer: %+v %v", night, err)
	}
}

func TestChocolateSetsByTheRoom(t *testing.T) {
	last := 0.0
	for air, want := range map[float64]string{21: "firm", 23: "softFirm", 23.8: "soft", 25: "sags"} {
		c, err := Cool(CoolIn{Dough: new("darkChocolate"), ThicknessMM: new(6.0), AirTempC: &air})
		if err != nil || c.EndState != want {
			t.Errorf("%v °C: %+v %v", air, c, err)
		}
	}
	for _, air := range []float64{16, 18, 20, 22} {
		c, _ := Cool(CoolIn{Dough: new("darkChocolate"), ThicknessMM: new(6.0), AirTempC: &air})
		if *c.FirmMinutes < last {
			t.Errorf("%v °C sets sooner than a cooler room", air)
		}
		last = *c.FirmMinutes
	}
}

// A 72 h prediction in a room that changes every hour.
func BenchmarkPredictHourly(bb *testing.B) {
	var series []RoomPoint
	for h := range 73 {
		series = append(series, RoomPoint{new(float64(h)), new(float64(19 + h%4)), new(float64(44 + h%13))})
	}
	in := PredictIn{Paste: new("halfAndHalf"), Shape: new("block"), ThicknessMM: new(6.0), RoomSeries: series}
	for bb.Loop() {
		if _, err := Predict(in); err != nil {
			bb.Fatal(err)
		}
	}
}
