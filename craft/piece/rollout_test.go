package piece

import (
	"math"
	"testing"

	"dustyfern/craft/outline"
)

// rolled asks for so many rectangles of 40 by 20 mm from a board of 300 by 200 mm.
func rolled(pieces int) RollOutIn {
	return RollOutIn{PolygonMM: [][]float64{{0, 0}, {40, 0}, {40, 20}, {0, 20}}, BoardLongMM: new(300.0), BoardWideMM: new(200.0), ThicknessMM: new(2.0), Pieces: &pieces, GapMM: new(2.0), EdgeMM: new(5.0)}
}

// A sheet is no larger than what is cut of it: its grams are its area, its scrap what the
// pieces leave.
func TestASheetIsAsLargeAsItsPieces(t *testing.T) {
	t.Parallel()
	out, err := RollOut(rolled(6))
	if err != nil {
		t.Fatal(err)
	}
	if len(out.Sheets) != 1 || out.Cut != 6 || out.EndedBy != "done" {
		t.Fatalf("%+v", out)
	}
	s := out.Sheets[0]
	// two rows of three, or three of two: both with their gaps and the rim
	two, three := 2*40.0+2+10, 3*20.0+2*2+10
	if math.Abs(s.LongMM*s.WideMM-two*three) > 60 {
		t.Errorf("%.1f by %.1f mm, want about %.0f by %.0f", s.LongMM, s.WideMM, two, three)
	}
	if g := s.LongMM * s.WideMM * 2 * 1.35 / 1000; math.Abs(s.G-g) > 1e-9 || math.Abs(s.ScrapG-(g-6*800*2*1.35/1000)) > 1e-9 {
		t.Errorf("%.2f g, scrap %.2f", s.G, s.ScrapG)
	}
	for _, p := range s.Laid {
		if p.XMM < 5-1e-6 || p.YMM < 5-1e-6 {
			t.Errorf("%v lies on the rim", p)
		}
	}
}

// What goes in comes out: pieces, scrap that is lost in kneading, and what is over.
func TestRollingLosesNothingUnsaid(t *testing.T) {
	t.Parallel()
	for _, n := range []int{1, 7, 40, 90, 200} {
		out, err := RollOut(rolled(n))
		if err != nil {
			t.Fatal(err)
		}
		if out.Cut != n {
			t.Fatalf("%d of %d are cut", out.Cut, n)
		}
		pieces := float64(n) * 800 * 2 * 1.35 / 1000
		lost := out.NeedG - pieces - out.LeftG
		if lost < -1e-6 || lost > out.NeedG*0.1 {
			t.Errorf("%d: %.1f g in, %.1f g of pieces, %.1f g over: %.2f g lost", n, out.NeedG, pieces, out.LeftG, lost)
		}
		roll, cut := 0, 0
		for _, s := range out.Sheets {
			if s.Roll < roll || s.Roll > 2 {
				t.Errorf("a sheet of roll %d after one of %d", s.Roll, roll)
			}
			roll = s.Roll
			cut += len(s.Laid)
			if s.LongMM > 300+1e-9 || s.WideMM > 200+1e-9 {
				t.Errorf("a sheet of %.0f by %.0f mm", s.LongMM, s.WideMM)
			}
		}
		if cut != n {
			t.Errorf("%d lie on the sheets, %d are cut", cut, n)
		}
	}
}

// No more is cut of one sheet than stays open, and no scraps are rolled where that is
// forbidden.
func TestLimitsOfASheet(t *testing.T) {
	t.Parallel()
	in := rolled(20)
	in.Most, in.Rerolls = new(6), new(0)
	out, err := RollOut(in)
	if err != nil {
		t.Fatal(err)
	}
	for _, s := range out.Sheets {
		if len(s.Laid) > 6 || s.Roll > 0 {
			t.Errorf("%d of one sheet, roll %d", len(s.Laid), s.Roll)
		}
	}
	if len(out.Sheets) != 4 {
		t.Errorf("%d sheets of 6, want 4", len(out.Sheets))
	}
	free, err := RollOut(rolled(20))
	if err != nil {
		t.Fatal(err)
	}
	if free.NeedG > out.NeedG {
		t.Errorf("rolled again it takes %.0f g, without %.0f", free.NeedG, out.NeedG)
	}
	if _, err := RollOut(RollOutIn{PolygonMM: [][]float64{{0, 0}, {400, 0}, {400, 20}}, BoardLongMM: new(300.0), BoardWideMM: new(200.0), ThicknessMM: new(2.0), Pieces: new(3)}); err == nil {
		t.Error("what is longer than the board was laid")
	}
	none, err := RollOut(rolled(0))
	if err != nil || len(none.Sheets) != 0 || none.PerSheet < 20 {
		t.Errorf("%+v %v", none, err)
	}
}

// Pieces that a hand put down lie on the full sheet where they are.
func TestHeldPiecesStayOnTheSheet(t *testing.T) {
	t.Parallel()
	in := rolled(4)
	in.TurnsDeg = []float64{0, 90, 180, 270}
	in.Held = []outline.Placement{{XMM: 100, YMM: 100, Deg: 90}, {XMM: 101, YMM: 101, Deg: 90}}
	out, err := RollOut(in)
	if err != nil {
		t.Fatal(err)
	}
	if len(out.Fits) != 2 || !out.Fits[0] || out.Fits[1] {
		t.Fatalf("fits %v", out.Fits)
	}
	if p := out.Full[0]; math.Hypot(p.XMM-100, p.YMM-100) > 1 {
		t.Errorf("it was moved to %v", p)
	}
}
