package outline

import (
	"errors"
	"fmt"
	"math"
	"strings"
	"testing"

	"dustyfern/craft/fault"
)

// What an SVG file draws comes in at its own size, whatever its units and transforms.
func TestSVGComesInAtTrueSize(t *testing.T) {
	t.Parallel()
	const mm = `width="100mm" height="100mm" viewBox="0 0 100 100"`
	for _, c := range []struct {
		name, head, body string
		wide, high, area float64
	}{
		{"a rectangle in mm", mm, `<rect x="5" y="5" width="30" height="52"/>`, 30, 52, 1560},
		{"in inches", `width="4in" height="4in" viewBox="0 0 4 4"`, `<rect width="1" height="2"/>`, 25.4, 50.8, 25.4 * 50.8},
		{"pixels, 96 to an inch", ``, `<rect width="96" height="48"/>`, 25.4, 12.7, 25.4 * 12.7},
		{"a bare width and height are pixels", `width="96" height="96" viewBox="0 0 10 10"`, `<rect width="10" height="10"/>`, 25.4, 25.4, 25.4 * 25.4},
		{"points and picas", `width="72pt" height="6pc" viewBox="0 0 1 1"`, `<rect width="1" height="1"/>`, 25.4, 25.4, 25.4 * 25.4},
		{"a viewBox of another shape keeps its proportion", `width="100mm" height="50mm" viewBox="0 0 100 100"`, `<rect width="40" height="40"/>`, 20, 20, 400},
		{"a length with its own unit", `width="96" height="96"`, `<rect width="10mm" height="1cm"/>`, 10, 10, 100},
		{"a circle", mm, `<circle cx="50" cy="50" r="20"/>`, 40, 40, math.Pi * 400},
		{"an ellipse", mm, `<ellipse cx="50" cy="50" rx="20" ry="10"/>`, 40, 20, math.Pi * 200},
		{"rounded corners", mm, `<rect width="40" height="30" rx="5"/>`, 40, 30, 1200 - (4-math.Pi)*25},
		{"a polygon", mm, `<polygon points="0,0 30,0 30,20"/>`, 30, 20, 300},
		{"a polyline that comes back", mm, `<polyline points="0,0 30,0 30,20 0,0"/>`, 30, 20, 300},
		{"a cubic curve", mm, `<path d="M0 0C0 40 40 40 40 0Z"/>`, 40, 30, 960},
		{"a window of the cutter", mm, `<path d="M0 0h40v40h-40z"/><path d="M10 10h20v20h-20z"/>`, 40, 40, 1200},
		{"a window drawn the other way round", mm, `<path d="M0 0h40v40h-40zM10 10v20h20v-20z"/>`, 40, 40, 1200},
		{"an island in the window", mm, `<rect width="40" height="40"/><rect x="10" y="10" width="20" height="20"/><rect x="15" y="15" width="10" height="10"/>`, 40, 40, 1300},
		{"moved, grown, turned", mm, `<g transform="translate(10,20) scale(2)"><rect width="10" height="5" transform="rotate(90)"/></g>`, 10, 20, 200},
		{"turned about a point", mm, `<rect x="10" y="10" width="20" height="10" transform="rotate(90 20 15)"/>`, 10, 20, 200},
		{"skewed", mm, `<rect width="10" height="10" transform="skewX(45)"/>`, 20, 10, 100},
		{"a matrix", mm, `<rect width="10" height="10" transform="matrix(1 0 0 3 5 5)"/>`, 10, 30, 300},
		{"mirrored", mm, `<path d="M0 0h30v20z" transform="scale(-1,1)"/>`, 30, 20, 300},
		{"what is hidden or defined draws nothing", mm, `<defs><rect width="90" height="90"/></defs><g display="none"><rect width="90" height="90"/></g><rect style="display: none" width="90" height="90"/><title>a</title><rect width="10" height="10"/>`, 10, 10, 100},
		{"an open line beside it is no edge", mm, `<path d="M0 0L90 90"/><rect width="10" height="10"/>`, 10, 10, 100},
	} {
		t.Run(c.name, func(t *testing.T) {
			t.Parallel()
			d, err := SVG([]byte(fmt.Sprintf(`<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" %s>%s</svg>`, c.head, c.body)))
			if err != nil {
				t.Fatal(err)
			}
			near := func(what string, got, want, off float64) {
				if math.Abs(got-want) > off {
					t.Errorf("%s %.4f, want %.4f", what, got, want)
				}
			}
			near("width", d.WidthMM, c.wide, 0.1)
			near("height", d.HeightMM, c.high, 0.1)
			near("area", AreaMM2(d.Rings), c.area, c.area*0.004+0.01)
			again, err := FromPath(PathText(d.Rings))
			if err != nil {
				t.Fatal(err)
			}
			near("area as kept", AreaMM2(again), AreaMM2(d.Rings), c.area*0.002+0.05)
		})
	}
}

// What cannot be cut as it is drawn is refused, with its place.
func TestBadDrawingsAreRefused(t *testing.T) {
	t.Parallel()
	in := func(body string) string {
		return "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"50mm\" height=\"50mm\" viewBox=\"0 0 50 50\">\n" + body + "\n</svg>"
	}
	for _, c := range []struct{ text, code, says string }{
		{"", fault.Syntax, "no svg element"},
		{"hello", fault.Syntax, "no svg element"},
		{"<html></html>", fault.Syntax, "Line 1"},
		{"<svg><rect", fault.Syntax, "Line 1"},
		{in(`<path d="M0 0h40v40z"`), fault.Syntax, "Line 3"},
		{in(`<text>A</text>`), fault.Syntax, "Line 2, character 7: letters are no outline"},
		{in(`<image href="x.png"/>`), fault.Syntax, "trace it"},
		{in(`<use href="#a"/>`), fault.Syntax, "break it up"},
		{in(`<path d="M0 0L10 x Z"/>`), fault.Syntax, "a number is missing at character 9"},
		{in(`<path d="L0 0Z"/>`), fault.Syntax, "begins with M"},
		{in(`<rect width="5 apples" height="4"/>`), fault.Syntax, "is a length"},
		{in(`<polygon points="0,0 1,1 2"/>`), fault.Syntax, "in pairs"},
		{in(`<rect width="5" height="5" transform="spin(4)"/>`), fault.Syntax, "none that is known"},
		{in(`<rect width="5" height="5" transform="scale(0)"/>`), fault.Syntax, "leaves nothing"},
		{in(`<path d="M0 0L10 10"/>`), fault.Required, "closed outline"},
		{in(`<path d="M0 0L10 10L20 20Z"/>`), fault.Required, "closed outline"},
		{in(`<g>` + strings.Repeat("<g>", 80) + strings.Repeat("</g>", 80) + `</g>`), fault.Syntax, "groups lie"},
		{in(`<rect width="5" height="5" transform="translate(1e6)"/>`), fault.Syntax, "units right"},
		{in(strings.Repeat(`<rect width="5" height="5"/>`, 400)), fault.OutOfRange, "400 outlines"},
		{`<svg width="-4mm" height="4mm" viewBox="0 0 1 1"><rect width="1" height="1"/></svg>`, fault.Syntax, "over 0"},
		{`<svg viewBox="0 0 1"><rect width="1" height="1"/></svg>`, fault.Syntax, "four numbers"},
		{in(`<rect width="0.01" height="0.01"/>`), fault.OutOfRange, "enclose nothing"},
	} {
		_, err := SVG([]byte(c.text))
		var f *fault.Fault
		if !errors.As(err, &f) {
			t.Errorf("%.80q was read: %v", c.text, err)
			continue
		}
		if f.Code != c.code || f.Field != "file" || !strings.Contains(f.Message, c.says) {
			t.Errorf("%.80q: %s on %s: %s; want %s that says %q", c.text, f.Code, f.Field, f.Message, c.code, c.says)
		}
	}
	if _, err := SVG(make([]byte, MostSVGBytes+1)); err == nil {
		t.Error("a file over the limit was read")
	}
}

// A shape of the table fills its box and covers what the table says.
func TestShapesFillTheirBox(t *testing.T) {
	t.Parallel()
	for name := range Shapes() {
		for _, count := range []int{0, 5, 6, 8} {
			for _, b := range [][2]float64{{34, 26}, {60, 12}, {20, 20}} {
				ring, err := InBox(name, count, b[0], b[1])
				if err != nil {
					t.Fatal(err)
				}
				lo, hi := Box([]Ring{ring})
				if math.Hypot(lo[0], lo[1]) > 1e-9 || math.Hypot(hi[0]-b[0], hi[1]-b[1]) > 1e-9 {
					t.Errorf("%s in %v reaches from %v to %v", name, b, lo, hi)
				}
			}
		}
	}
	for _, c := range []struct {
		shape string
		of    Shape
		l, w  float64
		off   float64
	}{
		{"oval", Shape{LengthMM: new(34.0), WidthMM: new(26.0)}, 34, 26, 0.002},
		{"rectangle", Shape{LengthMM: new(34.0), WidthMM: new(26.0)}, 34, 26, 1e-9},
		{"leaf", Shape{LengthMM: new(40.0), WidthMM: new(20.0)}, 40, 20, 0.004},
		{"triangle", Shape{WidthMM: new(28.0), HeightMM: new(32.0)}, 28, 32, 1e-9},
		{"swallowtail", Shape{WidthMM: new(28.0), HeightMM: new(32.0), NotchMM: new(8.0)}, 28, 32, 1e-9},
		{"drop", Shape{LengthMM: new(40.0), WidthMM: new(24.0)}, 40, 24, 0.02},
	} {
		c.of.Shape = &c.shape
		want, err := c.of.area()
		if err != nil {
			t.Fatal(err)
		}
		ring, err := InBox(c.shape, 0, c.l, c.w)
		if err != nil {
			t.Fatal(err)
		}
		if got := AreaMM2([]Ring{ring}); math.Abs(got-want) > want*c.off+1e-9 {
			t.Errorf("%s: %.2f mm2, the table says %.2f", c.shape, got, want)
		}
	}
	if _, err := InBox("cloudlet", 0, 10, 10); err == nil {
		t.Error("a shape of no table was drawn")
	}
	if _, err := InBox("star", 101, 10, 10); err == nil {
		t.Error("a star of 101 points was drawn")
	}
}

// Fewer corners keep the line within the tolerance, and never fall to a line.
func TestSimplerKeepsTheLine(t *testing.T) {
	t.Parallel()
	ring, err := InBox("oval", 0, 40, 30)
	if err != nil {
		t.Fatal(err)
	}
	s := Simpler(ring, 0.1)
	if len(s) >= len(ring) || len(s) < 8 {
		t.Errorf("%d corners of %d", len(s), len(ring))
	}
	for _, p := range ring {
		near := math.Inf(1)
		for i, q := range s {
			near = math.Min(near, toSegment(p, q, s[(i+1)%len(s)]))
		}
		if near > 0.1+1e-9 {
			t.Errorf("%v lies %.3f mm beside the simpler line", p, near)
		}
	}
	if got := Simpler(Ring{{0, 0}, {1, 0}, {1, 1}}, 5); len(got) != 3 {
		t.Errorf("a triangle became %v", got)
	}
}

// Discs are laid at 0.97 of the analytic packing or better.
func TestNestingNearsTheAnalyticPacking(t *testing.T) {
	t.Parallel()
	for _, d := range []float64{12, 20, 25, 30, 40, 55, 80} {
		w, h := 300.0, 200.0
		exact, err := Circles(CirclesIn{SheetWidthMM: &w, SheetHeightMM: &h, DiameterMM: &d, GapMM: new(2.0), EdgeMM: new(5.0)})
		if err != nil {
			t.Fatal(err)
		}
		ring, err := InBox("oval", 0, d, d)
		if err != nil {
			t.Fatal(err)
		}
		out, err := Nest(NestIn{PolygonMM: Corners(ring), SheetWidthMM: &w, SheetHeightMM: &h, GapMM: new(2.0), EdgeMM: new(5.0)})
		if err != nil {
			t.Fatal(err)
		}
		if share := float64(out.Count) / float64(exact.Count); share < 0.97 {
			t.Errorf("discs of %g mm: %d of %d, %.3f", d, out.Count, exact.Count, share)
		}
	}
}

// Pieces put down by hand stay where they are; the others go round them, and nothing
// overlaps.
func TestOthersGoRoundWhatAHandPutDown(t *testing.T) {
	t.Parallel()
	w, h := 200.0, 150.0
	ring, err := InBox("leaf", 0, 34, 20)
	if err != nil {
		t.Fatal(err)
	}
	in := NestIn{PolygonMM: Corners(ring), SheetWidthMM: &w, SheetHeightMM: &h, GapMM: new(2.0), EdgeMM: new(5.0), RotationsDeg: []float64{0, 90, 180, 270}}
	free, err := Nest(in)
	if err != nil {
		t.Fatal(err)
	}
	held := []Placement{{80, 60, 0}, {150, 20, 90}, {82, 62, 0}, {-40, 10, 180}}
	out, fits, err := NestAround(in, held)
	if err != nil {
		t.Fatal(err)
	}
	if fmt.Sprint(fits) != "[true true false false]" {
		t.Errorf("fits %v: the third lies on the first, the fourth off the sheet", fits)
	}
	if out.Count < 10 || out.Count > free.Count {
		t.Errorf("%d with two in the way, %d without", out.Count, free.Count)
	}
	for i, p := range held[:2] {
		if got := out.Placements[i]; math.Hypot(got.XMM-p.XMM, got.YMM-p.YMM) > 1 || got.Deg != p.Deg && got.Deg != p.Deg+180 {
			t.Errorf("piece %d was moved to %v", i, got)
		}
	}
	rings := make([]Ring, len(out.Placements))
	for i, p := range out.Placements {
		rings[i] = Turned(ring, p.Deg)
		for k := range rings[i] {
			rings[i][k][0] += p.XMM
			rings[i][k][1] += p.YMM
			if q := rings[i][k]; q[0] < 5-1e-6 || q[1] < 5-1e-6 || q[0] > w-5+1e-6 || q[1] > h-5+1e-6 {
				t.Fatalf("a corner of %d lies on the rim: %v", i, q)
			}
		}
	}
	for i, a := range rings {
		for _, b := range rings[:i] {
			for _, p := range a {
				if within(p, b) {
					t.Fatalf("%d lies on another", i)
				}
			}
		}
	}
	if _, _, err := NestAround(NestIn{PolygonMM: in.PolygonMM, SheetWidthMM: &w, SheetHeightMM: &h, RotationsDeg: []float64{0}}, held[1:2]); err == nil {
		t.Error("a piece was turned across the grain")
	}
}

// FuzzSVG: any bytes are read or refused with their place; what is read comes back as it
// was kept. make test runs it for a minute.
func FuzzSVG(f *testing.F) {
	for _, s := range []string{`<svg width="30mm" height="30mm" viewBox="0 0 30 30"><path d="M0 0C0 40 40 40 40 0Z" transform="rotate(12)"/></svg>`,
		`<svg><g transform="matrix(1 2 3 4 5 6)"><circle r="4"/><rect rx="1" width="9" height="9"/></g></svg>`, `<svg viewBox="0 0 1 1"><polygon points="0 0 1 0 1 1"/></svg>`, `<svg><path d="M1 1a5 5 0 1 0 10 0z"/></svg>`} {
		f.Add([]byte(s))
	}
	f.Fuzz(func(t *testing.T, raw []byte) { svgHolds(t, raw) })
}

func svgHolds(t *testing.T, raw []byte) {
	d, err := SVG(raw)
	if err != nil {
		var f *fault.Fault
		if !errors.As(err, &f) || f.Field != "file" || f.Message == "" {
			t.Fatalf("%q: %v", raw, err)
		}
		return
	}
	if !(d.WidthMM >= 0.1 && d.WidthMM <= 1e4 && d.HeightMM >= 0.1) || len(d.Rings) == 0 {
		t.Fatalf("%q: %v by %v mm, %d rings", raw, d.WidthMM, d.HeightMM, len(d.Rings))
	}
	for _, r := range d.Rings {
		for _, p := range r {
			if math.IsNaN(p[0]) || math.IsNaN(p[1]) || p[0] < -1e-6 || p[1] < -1e-6 {
				t.Fatalf("%q: a corner at %v", raw, p)
			}
		}
	}
}
