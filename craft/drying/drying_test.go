package drying

import (
	"errors"
	"math"
	"testing"

	"dustyfern/craft/fault"
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

func firm(t *testing.T, change func(*PredictIn)) float64 {
	t.Helper()
	return *predict(t, change).Firm.P50Hours
}

// What lets the air in, or moves it, dries sooner; a closed bag keeps it off.
func TestWhatHelpsDrying(t *testing.T) {
	last := math.Inf(1)
	for _, support := range []string{"board", "foam", "dowel", "hook", "rack"} {
		h := firm(t, func(in *PredictIn) { in.Support = &support })
		if h >= last {
			t.Errorf("on a %s it takes %.2f h, before it took %.2f", support, h, last)
		}
		last = h
	}
	plain := firm(t, nil)
	for say, c := range map[string]struct {
		sooner bool
		change func(*PredictIn)
	}{
		"a fan":            {true, func(in *PredictIn) { in.AirSpeedMS = new(0.5) }},
		"a warmer room":    {true, func(in *PredictIn) { in.TempC = new(26.0) }},
		"cornflour":        {true, func(in *PredictIn) { in.Dust = new("cornflour") }},
		"a smear of fat":   {false, func(in *PredictIn) { in.Dust = new("fat") }},
		"an hour in a bag": {false, func(in *PredictIn) { in.BaggedUntilHours = new(1.0) }},
		"turned in time":   {true, func(in *PredictIn) { in.Support, in.TurnAtHours = new("board"), []float64{1, 2, 3} }},
	} {
		base := plain
		if say == "turned in time" {
			base = firm(t, func(in *PredictIn) { in.Support = new("board") })
		}
		if got := firm(t, c.change); (got < base) != c.sooner {
			t.Errorf("%s: %.2f h instead of %.2f", say, got, base)
		}
	}
	bag := predict(t, func(in *PredictIn) { in.BaggedUntilHours = new(10.0) })
	if *bag.Skin.P50Hours < 2 {
		t.Errorf("in its bag it skins after %.2f h", *bag.Skin.P50Hours)
	}
}

// A room that is said hour by hour and does not change is one room.
func TestASteadySeriesIsOneRoom(t *testing.T) {
	one := predict(t, nil)
	series := predict(t, func(in *PredictIn) {
		in.TempC, in.RHPercent = nil, nil
		for h := 0.0; h <= 48; h += 6 {
			in.RoomSeries = append(in.RoomSeries, RoomPoint{new(h), new(21.0), new(45.0)})
		}
	})
	for i, pair := range [][2]Stage{{one.Skin, series.Skin}, {one.Hold, series.Hold}, {one.Firm, series.Firm}, {one.Hard, series.Hard}} {
		if a, b := *pair[0].P50Hours, *pair[1].P50Hours; math.Abs(a-b) > 0.002*a {
			t.Errorf("stage %d: %.4f h and %.4f h", i, a, b)
		}
	}
	damp := predict(t, func(in *PredictIn) {
		in.TempC, in.RHPercent = nil, nil
		in.RoomSeries = []RoomPoint{{new(0.0), new(21.0), new(45.0)}, {new(2.0), new(21.0), new(45.0)}, {new(2.5), new(21.0), new(62.0)}}
	})
	if *damp.Firm.P50Hours <= *one.Firm.P50Hours {
		t.Errorf("rain after two hours: %.2f h instead of %.2f", *damp.Firm.P50Hours, *one.Firm.P50Hours)
	}
}

// A kitchen that dries twice as slowly takes twice as long for what lies in
// steady air.
func TestTheKitchensOwnPace(t *testing.T) {
	a := predict(t, nil)
	b := predict(t, func(in *PredictIn) { in.TimeFactor = new(2.0) })
	if r := *b.Firm.P50Hours / *a.Firm.P50Hours; math.Abs(r-2) > 0.01 {
		t.Errorf("%.3f times", r)
	}
	// the band is log-normal: P90/P50 = P50/P10 = exp(1.2816 x 0.35)
	want := math.Exp(z10 * 0.35)
	if up, down := *a.Firm.P90Hours / *a.Firm.P50Hours, *a.Firm.P50Hours / *a.Firm.P10Hours; math.Abs(up-want) > 0.01 || math.Abs(down-want) > 0.01 {
		t.Errorf("%.4f and %.4f, want %.4f", up, down, want)
	}
	sure := predict(t, func(in *PredictIn) { in.LogSd = new(0.0) })
	if *sure.Firm.P10Hours != *sure.Firm.P90Hours {
		t.Errorf("%+v", sure.Firm)
	}
}

func TestSamplesLoseWaterAndNeverGainIt(t *testing.T) {
	f := predict(t, func(in *PredictIn) { in.ReportAtHours = []float64{0, 1, 2, 4, 8, 24, 72} })
	if len(f.Samples) != 7 || math.Abs(f.Samples[0].LossPercent) > 1e-9 {
		t.Fatalf("%+v", f.Samples)
	}
	for i, s := range f.Samples[1:] {
		before := f.Samples[i]
		if s.LossPercent <= before.LossPercent || s.MeanPercent >= before.MeanPercent || s.SurfacePercent > s.MeanPercent+1e-9 || s.WettestPercent < s.MeanPercent-1e-9 {
			t.Errorf("%+v after %+v", s, before)
		}
	}
	b, err := Balance(BalanceIn{Paste: new("halfAndHalf"), RHPercent: new(45.0)})
	if err != nil || f.Samples[6].MeanPercent < b.BalancePercent-1e-6 || f.Samples[0].MeanPercent > b.FreshPercent+1e-6 {
		t.Errorf("from %.2f to %.2f %%, the room's balance is %.2f (%v)", f.Samples[0].MeanPercent, f.Samples[6].MeanPercent, b.BalancePercent, err)
	}
}

func TestMarzipanSkinsOnly(t *testing.T) {
	f := predict(t, func(in *PredictIn) { in.Paste, in.Shape, in.ThicknessMM = new("marzipan"), new("ball"), new(12.0) })
	if f.Skin.Status != "reached" || f.Firm.Status != "never" || f.Notes[0] != "skins_only" {
		t.Errorf("%+v", f)
	}
}

func TestWhatDryingRefuses(t *testing.T) {
	for _, c := range []struct {
		say, field string
		change     func(*PredictIn)
	}{
		{"chocolate", "paste", func(in *PredictIn) { in.Paste = new("milkChocolate") }},
		{"no such paste", "paste", func(in *PredictIn) { in.Paste = new("plaster") }},
		{"a thick sheet", "thicknessMM", func(in *PredictIn) { in.ThicknessMM = new(13.0) }},
		{"a roll without its width", "bodyMM", func(in *PredictIn) { in.Shape = new("rolled") }},
		{"a width without a roll", "bodyMM", func(in *PredictIn) { in.BodyMM = new(30.0) }},
		{"a roll narrower than two strips", "bodyMM", func(in *PredictIn) { in.Shape, in.ThicknessMM, in.BodyMM = new("rolled"), new(4.0), new(7.0) }},
		{"two rooms", "roomSeries", func(in *PredictIn) { in.RoomSeries = []RoomPoint{{new(0.0), new(21.0), new(45.0)}} }},
		{"no warmth", "tempC", func(in *PredictIn) { in.TempC = nil }},
		{"no damp", "rhPercent", func(in *PredictIn) { in.RHPercent = nil }},
		{"hours that fall", "roomSeries[1].atHours", func(in *PredictIn) {
			in.TempC, in.RHPercent = nil, nil
			in.RoomSeries = []RoomPoint{{new(2.0), new(21.0), new(45.0)}, {new(1.0), new(21.0), new(45.0)}}
		}},
		{"a ball turned over", "turnAtHours", func(in *PredictIn) { in.Shape, in.TurnAtHours = new("ball"), []float64{1} }},
		{"a report after the end", "reportAtHours[0]", func(in *PredictIn) { in.HorizonHours, in.ReportAtHours = new(10.0), []float64{11} }},
	} {
		in := PredictIn{Paste: new("halfAndHalf"), Shape: new("sheet"), ThicknessMM: new(1.2), TempC: new(21.0), RHPercent: new(45.0)}
		c.change(&in)
		_, err := Predict(in)
		var f *fault.Fault
		if !errors.As(err, &f) || f.Field != c.field {
			t.Errorf("%s: %v, want a fault on %s", c.say, err, c.field)
		}
	}
	for _, in := range []CoolIn{{Dough: new("marzipan"), ThicknessMM: new(5.0), AirTempC: new(20.0)}, {Dough: new("butter"), ThicknessMM: new(5.0), AirTempC: new(20.0)}, {Dough: new("darkChocolate"), AirTempC: new(20.0)}} {
		if _, err := Cool(in); err == nil {
			t.Errorf("%v was cooled", *in.Dough)
		}
	}
	for _, in := range []DewIn{{TempC: new(21.0), RHPercent: new(50.0), FreezerMinutes: new(8.0)}, {TempC: new(21.0), RHPercent: new(50.0), ThicknessMM: new(3.0)},
		{TempC: new(21.0), RHPercent: new(50.0), ThicknessMM: new(3.0), FreezerMinutes: new(8.0), FreezerTempC: new(9.0), PieceTempC: new(5.0)}} {
		if _, err := Dew(in); err == nil {
			t.Errorf("%+v was answered", in)
		}
	}
}

// Longer in the freezer is colder and wetter; a room drier than the cold piece
// leaves no dew.
func TestDewGrowsWithTheFreezer(t *testing.T) {
	lastFilm, lastStart := -1.0, 100.0
	for _, m := range []float64{2, 5, 10, 30, 120, 600} {
		d, err := Dew(DewIn{TempC: new(23.0), RHPercent: new(60.0), ThicknessMM: new(8.0), FreezerMinutes: &m})
		if err != nil || *d.FilmGPerM2 < lastFilm || *d.StartTempC > lastStart {
			t.Fatalf("%v min: %+v %v", m, d, err)
		}
		lastFilm, lastStart = *d.FilmGPerM2, *d.StartTempC
	}
	if lastFilm < 5 {
		t.Errorf("a night in the freezer leaves %.2f g/m2", lastFilm)
	}
	desert, err := Dew(DewIn{TempC: new(23.0), RHPercent: new(6.0), ThicknessMM: new(8.0), FreezerMinutes: new(5.0)})
	if err != nil || *desert.FilmGPerM2 != 0 || *desert.DustableAfterMinutes != 0 {
		t.Errorf("%+v %v", desert, err)
	}
	// published: Magnus, 20 °C at 50 % has its dew point at 9.3 °C; saturated air at its own warmth
	if a, b := DewPoint(20, 50), DewPoint(17, 100); math.Abs(a-9.26) > 0.05 || math.Abs(b-17) > 1e-9 {
		t.Errorf("%.3f and %.3f", a, b)
	}
}

func TestCoolingIsSoonerThinAndOpen(t *testing.T) {
	firm := func(mm float64, sides int, air float64) float64 {
		c, err := Cool(CoolIn{Dough: new("whiteChocolate"), ThicknessMM: &mm, OpenSides: &sides, AirTempC: &air})
		if err != nil {
			t.Fatal(err)
		}
		return *c.FirmMinutes
	}
	if firm(4, 1, 18) >= firm(10, 1, 18) || firm(8, 2, 18) >= firm(8, 1, 18) || firm(8, 1, 10) >= firm(8, 1, 19) {
		t.Error("thinner, opener and colder set sooner")
	}
	if firm(8, 1, -18) < 24/8*60 {
		t.Error("24 kelvin-hours at 8 K at most take three hours at least")
	}
}

// TestDoughSetsThroughARoomThatChanges: in air that stays as Cool says it; warmed for
// an hour it takes longer, and in a warm room it never comes to it.
func TestDoughSetsThroughARoomThatChanges(t *testing.T) {
	at := func(h, temp float64) RoomPoint { return RoomPoint{AtHours: &h, TempC: &temp, RHPercent: new(50.0)} }
	for _, dough := range []string{"darkChocolate", "milkChocolate", "whiteChocolate"} {
		for _, mm := range []float64{3, 12} {
			c, err := Cool(CoolIn{Dough: &dough, ThicknessMM: &mm, AirTempC: new(18.0)})
			if err != nil {
				t.Fatal(err)
			}
			s, err := SetsThrough(dough, mm, []RoomPoint{at(0, 18)})
			if err != nil || math.Abs(*s.Firm.Minutes / *c.FirmMinutes - 1) > 0.002 || math.Abs(*s.Hold.Minutes / *c.HoldMinutes - 1) > 0.005 || math.Abs(*s.Firm.SlowMinutes / *s.Firm.Minutes - 1.57) > 0.005 {
				t.Errorf("%s, %g mm: firm %v, want %v", dough, mm, s.Firm.Minutes, c.FirmMinutes)
			}
			warm, err := SetsThrough(dough, mm, []RoomPoint{at(0, 18), at(1, 18), at(1.001, 21), at(2, 21), at(2.001, 18)})
			if err != nil || *warm.Firm.Minutes <= *s.Firm.Minutes {
				t.Errorf("%s: warmed for an hour it takes %v", dough, warm.Firm.Minutes)
			}
		}
		hot, err := SetsThrough(dough, 4, []RoomPoint{at(0, 18), at(0.5, 18), at(0.501, 30)})
		if err != nil || hot.Firm.Minutes != nil {
			t.Errorf("%s sets at 30 °C: %v", dough, err)
		}
	}
	if _, err := SetsThrough("marzipan", 4, []RoomPoint{at(0, 18)}); err == nil {
		t.Error("marzipan does not set by cold")
	}
}
