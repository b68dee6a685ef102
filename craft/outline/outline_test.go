package outline

import (
	"errors"
	"fmt"
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"dustyfern/craft/fault"
)

func near1(a, b, rel float64) bool { return math.Abs(a-b) <= rel*math.Max(math.Abs(a), math.Abs(b)) }

// sampled is the area of what a test says is inside, by points half a millimetre
// apart.
func sampled(x0, y0, x1, y1 float64, inside func(x, y float64) bool) float64 {
	const step = 0.05
	n := 0
	for y := y0 + step/2; y < y1; y += step {
		for x := x0 + step/2; x < x1; x += step {
			if inside(x, y) {
				n++
			}
		}
	}
	return float64(n) * step * step
}

func area(t *testing.T, s Shape) float64 {
	t.Helper()
	out, err := Area(AreaIn{Outline: &s})
	if err != nil {
		t.Fatal(err)
	}
	return out.AreaMM2
}

// The formulas of the outlines agree with counting the points inside them.
func TestAreasAgreeWithCounting(t *testing.T) {
	t.Parallel()
	f := func(x float64) *float64 { return &x }
	disc := func(x, y, cx, cy, r float64) bool { return math.Hypot(x-cx, y-cy) < r }
	for _, c := range []struct {
		s      Shape
		inside func(x, y float64) bool
	}{
		{Shape{Shape: new("oval"), LengthMM: f(50), WidthMM: f(30)}, func(x, y float64) bool { return x*x/625+y*y/225 < 1 }},
		{Shape{Shape: new("rectangle"), LengthMM: f(40), WidthMM: f(20), CornerMM: f(6)}, func(x, y float64) bool {
			dx, dy := math.Max(0, math.Abs(x)-14), math.Max(0, math.Abs(y)-4)
			return math.Hypot(dx, dy) < 6
		}},
		{Shape{Shape: new("blossom"), DiameterMM: f(40), Valley: f(0.35)}, func(x, y float64) bool {
			return math.Hypot(x, y) < 20*1.35/2+20*0.65/2*math.Cos(5*math.Atan2(y, x))
		}},
		{Shape{Shape: new("leaf"), LengthMM: f(50), WidthMM: f(20)}, func(x, y float64) bool {
			r := (625 + 100.0) / 20
			return disc(x, y, 0, r-10, r) && disc(x, y, 0, 10-r, r)
		}},
		{Shape{Shape: new("swallowtail"), WidthMM: f(30), HeightMM: f(40), NotchMM: f(10)}, func(x, y float64) bool {
			return math.Abs(x) < 15 && y < 20 && y > -20+10*(1-math.Abs(x)/15)
		}},
		{Shape{Shape: new("regular"), Sides: new(6), AcrossFlatsMM: f(40)}, func(x, y float64) bool {
			for i := range 6 {
				a := float64(i) * math.Pi / 3
				if x*math.Cos(a)+y*math.Sin(a) > 20 {
					return false
				}
			}
			return true
		}},
		{Shape{Shape: new("cloud"), Discs: [][]float64{{-8, 0, 10}, {8, 0, 10}, {0, 9, 8}, {0, 0, 3}}}, func(x, y float64) bool {
			return disc(x, y, -8, 0, 10) || disc(x, y, 8, 0, 10) || disc(x, y, 0, 9, 8)
		}},
		{Shape{Shape: new("cloud"), Discs: [][]float64{{0, 0, 10}, {30, 0, 5}}}, func(x, y float64) bool {
			return disc(x, y, 0, 0, 10) || disc(x, y, 30, 0, 5)
		}},
	} {
		if got, want := area(t, c.s), sampled(-40, -40, 40, 40, c.inside); !near1(got, want, 2e-3) {
			t.Errorf("%s: %.2f mm², counted %.2f", *c.s.Shape, got, want)
		}
	}
	// a drop of a disc's length is the disc; a star of many points fills its inner ring
	if got := area(t, Shape{Shape: new("drop"), LengthMM: f(20), WidthMM: f(20)}); !near1(got, math.Pi*100, 1e-9) {
		t.Errorf("a drop as wide as long: %.3f", got)
	}
	// weighed and rolled again: a sheet of the mass of a shape has its area
	s := Shape{Shape: new("circle"), DiameterMM: f(30)}
	m, _ := Area(AreaIn{Outline: &s, ThicknessMM: f(1.5)})
	back, err := Area(AreaIn{MassG: m.MassG, ThicknessMM: f(1.5)})
	if err != nil || !near1(back.AreaMM2, math.Pi*225, 1e-12) {
		t.Errorf("%v %v", back, err)
	}
}

// Discs lie on the sheet and at least the gap apart, in every way of laying them.
func TestDiscsDoNotOverlap(t *testing.T) {
	t.Parallel()
	r := rand.New(rand.NewPCG(1, 2))
	for range 300 {
		w, h, d := 40+r.Float64()*300, 40+r.Float64()*300, 8+r.Float64()*40
		g, e := r.Float64()*4, r.Float64()*8
		out, err := Circles(CirclesIn{SheetWidthMM: &w, SheetHeightMM: &h, DiameterMM: &d, GapMM: &g, EdgeMM: &e, Centres: true})
		var f *fault.Fault
		if errors.As(err, &f) && f.Code == fault.Unreachable {
			continue
		}
		if err != nil || len(out.CentresMM) != out.Count || out.Count < out.Square {
			t.Fatalf("%.1f x %.1f of %.1f: %+v %v", w, h, d, out, err)
		}
		for i, c := range out.CentresMM {
			if c[0]-d/2 < e-1e-6 || c[1]-d/2 < e-1e-6 || c[0]+d/2 > w-e+1e-6 || c[1]+d/2 > h-e+1e-6 {
				t.Fatalf("%.1f x %.1f of %.1f: %v lies off the sheet", w, h, d, c)
			}
			for _, o := range out.CentresMM[:i] {
				if math.Hypot(o[0]-c[0], o[1]-c[1]) < d+g-1e-6 {
					t.Fatalf("%.1f x %.1f of %.1f: %v and %v are too near", w, h, d, o, c)
				}
			}
		}
	}
}

// apartBy is the least distance of two outlines, 0 where they overlap.
func apartBy(a, b []Point) float64 {
	d := math.Inf(1)
	for i, p := range a {
		for j, q := range b {
			d = math.Min(d, math.Min(toSegment(p, q, b[(j+1)%len(b)]), toSegment(q, p, a[(i+1)%len(a)])))
		}
	}
	inside := func(p Point, ring []Point) (in bool) {
		for i, q := range ring {
			r := ring[(i+1)%len(ring)]
			if (q[1] > p[1]) != (r[1] > p[1]) && p[0] < q[0]+(p[1]-q[1])/(r[1]-q[1])*(r[0]-q[0]) {
				in = !in
			}
		}
		return in
	}
	mid := func(ring []Point) Point { // of its first ear
		return Point{(ring[0][0] + ring[1][0] + ring[2][0]) / 3, (ring[0][1] + ring[1][1] + ring[2][1]) / 3}
	}
	if inside(mid(a), b) || inside(mid(b), a) {
		return 0
	}
	return d
}

// Nested pieces lie on the sheet, at least the gap apart, whatever the outline.
func TestNestedPiecesDoNotOverlap(t *testing.T) {
	t.Parallel()
	leaf := func(l, w float64) (out [][]float64) {
		for i := range 24 {
			a := float64(i) / 24 * 2 * math.Pi
			out = append(out, []float64{l / 2 * math.Cos(a), w / 2 * math.Sin(a) * math.Abs(math.Sin(a))})
		}
		return out
	}
	for _, c := range []struct {
		name  string
		ring  [][]float64
		gap   float64
		turns []float64
		at    int // at least so many: of the L and the leaf a grid of their boxes gives 24
	}{
		{"rectangles lie in a grid", [][]float64{{0, 0}, {38, 0}, {38, 23}, {0, 23}}, 2, nil, 7 * 7},
		{"rectangles turned as well", [][]float64{{0, 0}, {70, 0}, {70, 40}, {0, 40}}, 0, []float64{0, 90}, 16},
		{"triangles interlock", [][]float64{{0, 0}, {40, 0}, {20, 50}}, 0, []float64{0, 180}, 3 * 13},
		{"an L", [][]float64{{0, 0}, {40, 0}, {40, 12}, {12, 12}, {12, 40}, {0, 40}}, 1, []float64{0, 180}, 40},
		{"leaves", leaf(60, 24), 2, []float64{0, 180}, 32},
	} {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			w, h, e := 290.0, 190.0, 5.0
			out, err := Nest(NestIn{PolygonMM: c.ring, SheetWidthMM: &w, SheetHeightMM: &h, GapMM: &c.gap, EdgeMM: &e, RotationsDeg: c.turns})
			if err != nil {
				t.Fatal(err)
			}
			t.Logf("%d pieces, %.0f %% of the sheet", out.Count, 100*out.UsedShare)
			if out.Count < c.at || out.Count != len(out.Placements) {
				t.Errorf("%d pieces, want %d at least", out.Count, c.at)
			}
			ring, _ := polygon("", c.ring)
			var all [][]Point
			for _, p := range out.Placements {
				one := turned(ring, p.Deg)
				for i := range one {
					one[i] = Point{one[i][0] + p.XMM, one[i][1] + p.YMM}
				}
				lo, hi := boxOf([][]Point{one})
				if lo[0] < e-1e-6 || lo[1] < e-1e-6 || hi[0] > w-e+1e-6 || hi[1] > h-e+1e-6 {
					t.Fatalf("%+v lies off the sheet: %v to %v", p, lo, hi)
				}
				for _, o := range all {
					if d := apartBy(one, o); d < c.gap-1e-6 {
						t.Fatalf("%+v lies %.3f mm from another", p, d)
					}
				}
				all = append(all, one)
			}
		})
	}
}

func TestPathsAreReadAsDrawn(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		path      string
		area, per float64
		rings     int
	}{
		{"M0,0 h30 v30 h-30 z m10,10 v10 h10 v-10 z", 800, 160, 2},
		{"M 10 0 A 10 10 0 1 1 -10 0 A 10 10 0 1 1 10 0 Z", math.Pi * 100, math.Pi * 20, 1},
		{"M10 0A10 10 0 11-10 0 10 10 0 1110 0Z", math.Pi * 100, math.Pi * 20, 1}, // flags without spaces
		{"M0 0 C0 5.5228 4.4772 10 10 10 S20 5.5228 20 0 S15.5228 -10 10 -10 S0 -5.5228 0 0 Z", math.Pi * 100, math.Pi * 20, 1},
		{"M0 0Q10 20 20 0T40 0L40 -30H0Z", 40 * 30, 159.158, 1}, // a hill and a valley of one size
		{"M0 0 20 0 20 10 0 10Z", 200, 60, 1},                   // more pairs after M are lines
		{"M0 0L20 0L20 10L0 10L0 0", 200, 60, 1},
		{"m5 5 l1e1 0 0,1.e1 -10 0z", 100, 40, 1},
	} {
		out, err := Measure(MeasureIn{Path: &c.path, ToleranceMM: new(0.002)})
		if err != nil {
			t.Errorf("%s: %v", c.path, err)
			continue
		}
		if !near1(out.AreaMM2, c.area, 2e-3) || !near1(out.PerimeterMM, c.per, 2e-3) || out.Rings != c.rings {
			t.Errorf("%s: %.2f mm², %.2f mm, %d rings; want %.2f, %.2f, %d", c.path, out.AreaMM2, out.PerimeterMM, out.Rings, c.area, c.per, c.rings)
		}
	}
	for path, field := range map[string]string{"L1 1": "path", "M0 0L": "path", "M0 0L1,": "path", "M0 0L5 5": "path", "M0 0L9e99 0L0 5Z": "path", "M0 0A1 1 0 2 0 5 5Z": "path"} {
		_, err := Measure(MeasureIn{Path: &path})
		var f *fault.Fault
		if !errors.As(err, &f) || f.Field != field {
			t.Errorf("%q is read: %v", path, err)
		}
	}
}

func FuzzPath(f *testing.F) {
	for _, s := range []string{"M0 0H30V30H0Z", "m1-1.5e1a5 5 0 01 3 3z", "M0 0C1 1 2 2 3 3S4 4 5 5Q6 6 7 7T8 8Z", "M,,", "M0 0Z1"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		rings, err := parsePath(s, 0.05)
		for _, r := range rings {
			for _, p := range r {
				if err == nil && (math.IsNaN(p[0]) || math.IsInf(p[0], 0) || math.IsNaN(p[1])) {
					t.Errorf("%q gives %v", s, p)
				}
			}
		}
	})
}

// Convex outlines grow by P b + pi b² and shrink as their edges move in; parts that
// meet become one, a neck that is too slim splits.
func TestOutlinesGrowAndShrink(t *testing.T) {
	t.Parallel()
	path := func(s string, b float64) (OffsetOut, error) { return Offset(OffsetIn{Path: &s, BorderMM: &b}) }
	square := "M0 0H60V40H0Z"
	for _, b := range []float64{1, 4, 12} {
		out, err := path(square, b)
		if want := 2400 + 200*b + math.Pi*b*b; err != nil || !near1(out.AreaMM2, want, 2e-3) || out.Rings != 1 {
			t.Errorf("grown by %.0f: %.1f, want %.1f; %v", b, out.AreaMM2, want, err)
		}
		in, err := path(square, -b)
		if want := (60 - 2*b) * (40 - 2*b); err != nil || !near1(in.AreaMM2, want, 3e-3) {
			t.Errorf("shrunk by %.0f: %.1f, want %.1f; %v", b, in.AreaMM2, want, err)
		}
	}
	two := "M0 0H20V20H0ZM24 0H44V20H24Z"
	if out, err := path(two, 1); err != nil || out.Rings != 2 {
		t.Errorf("4 mm apart, grown by 1: %+v %v", out, err)
	}
	if out, err := path(two, 3); err != nil || out.Rings != 1 {
		t.Errorf("4 mm apart, grown by 3: %+v %v", out, err)
	}
	bone := "M0 0H20V8H40V0H60V20H40V12H20V20H0Z" // a neck of 4 mm
	if out, err := path(bone, -1); err != nil || out.Rings != 1 {
		t.Errorf("a neck of 4 mm, shrunk by 1: %+v %v", out, err)
	}
	if out, err := path(bone, -3); err != nil || out.Rings != 2 {
		t.Errorf("a neck of 4 mm, shrunk by 3: %+v %v", out, err)
	}
	// a hole shrinks as the rest grows, and closes
	ring := "M0 0H40V40H0ZM15 15V25H25V15Z"
	if out, err := path(ring, 2); err != nil || out.Rings != 2 || !near1(out.AreaMM2, 1600+160*2+math.Pi*4-36, 5e-3) {
		t.Errorf("a hole of 10 mm, grown by 2: %+v %v", out, err)
	}
	if out, err := path(ring, 6); err != nil || out.Rings != 1 {
		t.Errorf("a hole of 10 mm, grown by 6: %+v %v", out, err)
	}
	// what comes out is a path that measures the same
	grown, _ := path(two, 1)
	again, err := Measure(MeasureIn{Path: &grown.Path})
	if err != nil || !near1(again.AreaMM2, grown.AreaMM2, 1e-3) || again.Rings != 2 {
		t.Errorf("%+v %v", again, err)
	}
	if _, err := path("M0 0H9000V9000H0Z", 0.1); err == nil || !strings.Contains(err.Error(), "grid") {
		t.Errorf("a sheet of 9 m on a grid of half a millimetre: %v", err)
	}
}

// The circle holds every point and touches two at least.
func TestTheCircleRoundAll(t *testing.T) {
	t.Parallel()
	r := rand.New(rand.NewPCG(3, 4))
	for n := 1; n < 60; n++ {
		var ring []Point
		for range n {
			ring = append(ring, Point{r.Float64() * 100, r.Float64() * 40})
		}
		c, rad := enclosing([][]Point{ring})
		touch := 0
		for _, p := range ring {
			d := math.Hypot(p[0]-c[0], p[1]-c[1])
			if d > rad+1e-6 {
				t.Fatalf("%v lies outside", p)
			}
			if d > rad-1e-6 {
				touch++
			}
		}
		if touch < min(2, n) {
			t.Fatalf("%d points: the circle touches %d", n, touch)
		}
	}
}

func BenchmarkNest(b *testing.B) {
	w, h := 400.0, 300.0
	b.Run("forty leaves on a board", func(b *testing.B) {
		w, h := 300.0, 200.0
		ring, err := InBox("leaf", 0, 40, 26)
		if err != nil {
			b.Fatal(err)
		}
		for b.Loop() {
			out, err := Nest(NestIn{PolygonMM: Corners(ring), SheetWidthMM: &w, SheetHeightMM: &h, GapMM: new(2.0), EdgeMM: new(5.0)})
			if err != nil || out.Count < 40 {
				b.Fatal(out.Count, err)
			}
		}
	})
	for _, cell := range []float64{1, 0.5} {
		b.Run(fmt.Sprintf("leaves at %.1f mm", cell), func(b *testing.B) {
			for b.Loop() {
				if _, err := Nest(NestIn{PolygonMM: [][]float64{{0, 0}, {17, 8}, {34, 0}, {17, -8}}, SheetWidthMM: &w, SheetHeightMM: &h, GapMM: new(2.0), CellMM: &cell}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}
