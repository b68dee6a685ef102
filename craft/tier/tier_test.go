package tier

import (
	"errors"
	"math"
	"slices"
	"testing"

	"dustyfern/craft/fault"
)

func run(t *testing.T, in RunIn) float64 {
	t.Helper()
	out, err := Run(in)
	if err != nil {
		t.Fatal(err)
	}
	return out.RunMM
}

// A tier that curves outward everywhere gains 2 pi of run for each mm of coating; a
// square with its edges kept gains 8.
func TestACoatingLengthensTheRun(t *testing.T) {
	t.Parallel()
	gains := func(in RunIn, want float64) {
		t.Helper()
		bare := run(t, in)
		in.CoatingMM = new(3.0)
		if got := run(t, in) - bare; math.Abs(got-3*want) > 1e-9 {
			t.Errorf("%s gains %.3f mm by 3 mm, want %.3f", *in.Shape, got, 3*want)
		}
	}
	gains(RunIn{Shape: new("round"), DiameterMM: new(180.0)}, 2*math.Pi)
	gains(RunIn{Shape: new("other"), PerimeterMM: new(512.0)}, 2*math.Pi)
	gains(RunIn{Shape: new("square"), SideMM: new(150.0)}, 8)
	gains(RunIn{Shape: new("rectangle"), LengthMM: new(200.0), WidthMM: new(120.0)}, 8)
	// many flats are nearly round, a square is a regular one of four
	if a, b := run(t, RunIn{Shape: new("regular"), Sides: new(100), AcrossFlatsMM: new(200.0)}), math.Pi*200; a < b || a > b*1.001 {
		t.Errorf("a hundred flats: %.2f beside %.2f", a, b)
	}
	if a := run(t, RunIn{Shape: new("regular"), Sides: new(4), AcrossFlatsMM: new(150.0), CoatingMM: new(4.0)}); math.Abs(a-4*158) > 1e-9 {
		t.Errorf("four flats: %.2f", a)
	}
	// six half-round lobes outline more than the ring round them, and a coating fills their valleys
	bare := run(t, RunIn{Shape: new("petal"), Lobes: new(6), DiameterMM: new(200.0)})
	coated := run(t, RunIn{Shape: new("petal"), Lobes: new(6), DiameterMM: new(200.0), CoatingMM: new(8.0)})
	if bare < math.Pi*200 || coated-bare > 8*2*math.Pi/2 {
		t.Errorf("lobes: %.1f bare, %.1f coated", bare, coated)
	}
}

// A chain hangs longer than the parabola of its sag, and the sag comes back from
// the length.
func TestAStringHangs(t *testing.T) {
	t.Parallel()
	for _, sag := range []float64{0, 0.01, 5, 20, 60, 400} {
		out, err := Drape(DrapeIn{SpanMM: new(120.0), SagMM: new(sag)})
		if err != nil || out.LengthMM < 120 || sag > 0 && sag <= 60 && out.CatenaryMM < out.LengthMM {
			t.Fatalf("%.2f: %+v %v", sag, out, err)
		}
		back, err := Drape(DrapeIn{SpanMM: new(120.0), LengthMM: &out.LengthMM})
		if err != nil || math.Abs(back.SagMM-sag) > 1e-3 {
			t.Errorf("a sag of %.2f comes back as %.4f: %v", sag, back.SagMM, err)
		}
	}
	// flags: eight of 12 mm with 3 between and 5 free at either end take 127 mm
	for length, want := range map[float64]int{127.0: 8, 126.9: 7, 21: 0, 22: 1} {
		out, err := Drape(DrapeIn{SpanMM: new(20.0), LengthMM: &length, FlagWidthMM: new(12.0), FlagGapMM: new(3.0), FreeEndMM: new(5.0)})
		if err != nil || *out.Flags != want {
			t.Errorf("%.1f mm carry %v flags, want %d: %v", length, out.Flags, want, err)
		}
	}
}

// Motifs stand symmetric about the middle with one gap between all neighbours, and
// no more are promised than fit.
func TestMotifsStandEvenly(t *testing.T) {
	t.Parallel()
	for count := 2; count <= 9; count++ {
		for _, ends := range []string{"margin", "flush"} {
			out, err := Spacing(SpacingIn{Kind: new("side"), SideMM: new(200.0), WidthMM: new(22.0), Count: &count, Ends: &ends, EndMM: new(0.0)})
			if err != nil {
				t.Fatal(err)
			}
			c := out.CentresMM
			for i := range c {
				if math.Abs(c[i]+c[count-1-i]) > 1e-9 || i > 0 && math.Abs(c[i]-c[i-1]-22-*out.GapMM) > 1e-9 {
					t.Errorf("%d, %s: %v gap %.2f", count, ends, c, *out.GapMM)
				}
			}
			edge := 100 - c[count-1] - 11
			if ends == "flush" && math.Abs(edge) > 1e-9 || ends == "margin" && math.Abs(edge-*out.GapMM) > 1e-9 {
				t.Errorf("%d, %s: %.2f left at the corner", count, ends, edge)
			}
		}
	}
	var f *fault.Fault
	if _, err := Spacing(SpacingIn{Kind: new("side"), SideMM: new(200.0), WidthMM: new(22.0), Count: new(10)}); !errors.As(err, &f) || f.Field != "count" {
		t.Errorf("ten of 22 mm on 200: %v", err)
	}
	// what is promised with a gap fits with that gap, one more does not
	for w := 7.0; w < 60; w += 3.7 {
		n := *must(Spacing(SpacingIn{RunMM: new(650.0), WidthMM: &w, GapMM: new(4.0)})).MaxCount
		if g := *must(Spacing(SpacingIn{RunMM: new(650.0), WidthMM: &w, Count: &n})).GapMM; g < 4 {
			t.Errorf("%d of %.1f mm leave %.2f", n, w, g)
		}
		more := n + 1
		if out, err := Spacing(SpacingIn{RunMM: new(650.0), WidthMM: &w, Count: &more}); err == nil && *out.GapMM >= 4 {
			t.Errorf("%d of %.1f mm leave %.2f as well", more, w, *out.GapMM)
		}
	}
	// no two jigsaw pieces of a shade meet, the last and the first neither
	for shades := 2; shades <= 5; shades++ {
		for run := 300.0; run < 900; run += 31 {
			n := *must(Spacing(SpacingIn{Kind: new("jigsaw"), RunMM: &run, WidthMM: new(45.0), OverlapMM: new(10.0), Shades: &shades})).Count
			if (n-1)%shades == 0 {
				t.Errorf("%d pieces in %d shades: the last meets one of its own", n, shades)
			}
		}
	}
}

func must(out SpacingOut, err error) SpacingOut {
	if err != nil {
		panic(err)
	}
	return out
}

// Stations stand on whole studs, alike on both sides, each set once.
func TestStationsStandOnStuds(t *testing.T) {
	t.Parallel()
	for m := 2; m <= 12; m++ {
		out, err := Studs(StudsIn{SideMM: new(203.0), PitchMM: new(6.5), Stations: &m})
		if err != nil {
			t.Fatal(err)
		}
		for i, x := range out.StationsMM {
			if i > 0 && math.Abs(math.Remainder(x-out.StationsMM[i-1], 6.5)) > 1e-9 || math.Abs(x+out.StationsMM[m-1-i]) > 1e-9 || math.Abs(x) > 101.5 {
				t.Errorf("%d stations: %v", m, out.StationsMM)
			}
		}
		seen := slices.Sorted(slices.Values(out.Order))
		for i := range m {
			if len(seen) != m || seen[i] != i {
				t.Fatalf("%d stations are set in the order %v", m, out.Order)
			}
		}
	}
	for m, want := range map[int][]int{1: {0}, 2: {0, 1}, 3: {1, 0, 2}, 6: {2, 3, 0, 5, 1, 4}, 7: {3, 0, 6, 2, 4, 1, 5}} {
		if got := settingOrder(m); !slices.Equal(got, want) {
			t.Errorf("%d are set in the order %v, want %v", m, got, want)
		}
	}
}

// A band in a third keeps within it; layers lie one outside the other; marks are
// each right by themselves.
func TestBandsAndMarks(t *testing.T) {
	t.Parallel()
	low := 0.0
	for i, third := range []string{"bottom", "middle", "top"} {
		out, err := Band(BandIn{WallMM: new(96.0), BandMM: new(32.0), Third: &third})
		if err != nil || math.Abs(*out.LowMM-float64(i)*32) > 1e-9 || *out.LowMM < low {
			t.Errorf("%s: %+v %v", third, out, err)
		}
		low = *out.HighMM
	}
	if _, err := Band(BandIn{WallMM: new(96.0), BandMM: new(32.1)}); err == nil {
		t.Error("a band over a third of the wall is taken")
	}
	for layer := 1; layer < 5; layer++ {
		a, _ := Band(BandIn{RunMM: new(640.0), ThicknessMM: new(3.0), Layer: &layer})
		next := layer + 1
		b, err := Band(BandIn{RunMM: new(640.0), ThicknessMM: new(3.0), Layer: &next})
		if err != nil || math.Abs(*a.OutsideMM-*b.ContactMM) > 1e-9 || *a.CutMM <= *a.ContactMM || *a.CutMM >= *a.OutsideMM {
			t.Errorf("layer %d: %+v, the next %+v, %v", layer, a, b, err)
		}
	}
	out, err := Marks(MarksIn{RunMM: new(653.45), Count: new(97)})
	if err != nil {
		t.Fatal(err)
	}
	for i, x := range out.MarksMM {
		if math.Abs(x-653.45*float64(i)/97) > 0.2501 {
			t.Errorf("mark %d drifts: %.2f", i, x)
		}
	}
	// three pages of 277 with laps of 10 reach 811 mm, and no further
	for run, pages := range map[float64]int{277: 1, 277.1: 2, 811: 3, 811.1: 4} {
		if out, _ := Marks(MarksIn{RunMM: &run, Count: new(4)}); out.Pages != pages {
			t.Errorf("%.1f mm go on %d pages, want %d", run, out.Pages, pages)
		}
	}
}
