// Package picture draws what is measured of a piece, to scale from its numbers: each
// picture that a way of making names is a function of the numbers that it names. All
// lengths are mm, y runs down.
package picture

import (
	"fmt"
	"math"
	"strings"
)

// Kinds of what is drawn: how it looks is the interface's.
const (
	Piece  = "piece"  // paste of the piece's own colour
	Second = "second" // paste of another tone
	Scrap  = "scrap"  // paste that is left over
	Tool   = "tool"   // a tool, a sheet's rim, a tier
	Deep   = "deep"   // a deep zone, a shadow
	Fold   = "fold"   // a fold, a hidden edge
	Taken  = "taken"  // a place that is in use
	Free   = "free"   // and one that is not
	Size   = "size"   // the line of a size
)

// Shape is one outline as SVG path data.
type Shape struct {
	Kind string
	Path string
}

// Word stands at a place. A % in it is a length that the reader's units say.
type Word struct {
	XMM, YMM float64
	Says     string
	LengthMM float64 // for the %
	Middle   bool    // it is centred on the place
}

// Drawing is a picture with the rectangle that holds it.
type Drawing struct {
	LeftMM, TopMM, WidthMM, HeightMM float64

	Shapes []Shape
	Words  []Word
}

// Numbers are what a picture is drawn from, by the names of its way of making.
type Numbers map[string]float64

// pictures by what they draw, as a way of making says it.
var pictures = map[string]func(n Numbers, p *pen){}

// Known tells whether a picture can be drawn.
func Known(draws string) bool { return pictures[draws] != nil }

// Draw makes a picture from its numbers; nil where there is none, or a number of it is
// none that can be drawn.
func Draw(draws string, n Numbers) *Drawing {
	f := pictures[draws]
	if f == nil {
		return nil
	}
	for _, x := range n {
		if math.IsNaN(x) || math.Abs(x) > 1e5 {
			return nil
		}
	}
	p := &pen{left: math.Inf(1), top: math.Inf(1), right: math.Inf(-1), bottom: math.Inf(-1)}
	f(n, p)
	if len(p.d.Shapes) == 0 || p.right <= p.left {
		return nil
	}
	p.d.LeftMM, p.d.TopMM, p.d.WidthMM, p.d.HeightMM = p.left, p.top, p.right-p.left, p.bottom-p.top
	return &p.d
}

// pen draws, and knows how far it went.
type pen struct {
	d                        Drawing
	left, top, right, bottom float64
}

func (p *pen) reach(x, y float64) {
	p.left, p.right = math.Min(p.left, x), math.Max(p.right, x)
	p.top, p.bottom = math.Min(p.top, y), math.Max(p.bottom, y)
}

func f(x float64) string {
	return strings.TrimRight(strings.TrimRight(fmt.Sprintf("%.2f", x), "0"), ".")
}

func (p *pen) path(kind, d string) { p.d.Shapes = append(p.d.Shapes, Shape{kind, d}) }

// box is a rectangle with corners of radius r.
func (p *pen) box(kind string, x, y, w, h, r float64) {
	r = math.Max(0, math.Min(r, math.Min(w, h)/2))
	p.reach(x, y)
	p.reach(x+w, y+h)
	if r == 0 {
		p.path(kind, fmt.Sprintf("M%s %sh%sv%sh%sz", f(x), f(y), f(w), f(h), f(-w)))
		return
	}
	a := fmt.Sprintf("a%s %s 0 0 1 ", f(r), f(r))
	p.path(kind, fmt.Sprintf("M%s %sh%s%s%s %sv%s%s%s %sh%s%s%s %sv%s%s%s %sz", f(x+r), f(y), f(w-2*r), a, f(r), f(r), f(h-2*r), a, f(-r), f(r), f(2*r-w), a, f(-r), f(-r), f(2*r-h), a, f(r), f(-r)))
}

func (p *pen) disc(kind string, x, y, d float64) {
	r := d / 2
	p.reach(x-r, y-r)
	p.reach(x+r, y+r)
	p.path(kind, fmt.Sprintf("M%s %sa%s %s 0 1 0 %s 0a%s %s 0 1 0 %s 0z", f(x-r), f(y), f(r), f(r), f(d), f(r), f(r), f(-d)))
}

// line through points, closed or not.
func (p *pen) line(kind string, closed bool, at ...[2]float64) {
	var b strings.Builder
	for i, q := range at {
		p.reach(q[0], q[1])
		b.WriteString(map[bool]string{true: "M", false: "L"}[i == 0] + f(q[0]) + " " + f(q[1]))
	}
	if closed {
		b.WriteByte('z')
	}
	p.path(kind, b.String())
}

func (p *pen) word(x, y float64, says string) {
	p.reach(x, y)
	p.d.Words = append(p.d.Words, Word{XMM: x, YMM: y, Says: says, Middle: true})
}

// size is the line of a size, horizontal or upright, with its length beside it.
func (p *pen) size(x1, y1, x2, y2 float64, says string) {
	const tick = 0.012
	long := math.Hypot(x2-x1, y2-y1)
	t := math.Max(1, long*tick)
	if y1 == y2 {
		p.line(Size, false, [2]float64{x1, y1 - t}, [2]float64{x1, y1 + t}, [2]float64{x1, y1}, [2]float64{x2, y2}, [2]float64{x2, y2 - t}, [2]float64{x2, y2 + t})
	} else {
		p.line(Size, false, [2]float64{x1 - t, y1}, [2]float64{x1 + t, y1}, [2]float64{x1, y1}, [2]float64{x2, y2}, [2]float64{x2 - t, y2}, [2]float64{x2 + t, y2})
	}
	p.d.Words = append(p.d.Words, Word{XMM: (x1 + x2) / 2, YMM: (y1 + y2) / 2, Says: says, LengthMM: long, Middle: true})
}

// places are a row, or rows, of holders of which some are taken.
func (p *pen) places(x, y, across float64, all, taken int, says string) {
	const perRow = 12
	all = max(0, min(all, 200))
	gap := across * 0.25
	for i := range all {
		kind := Free
		if i < taken {
			kind = Taken
		}
		p.disc(kind, x+across/2+float64(i%perRow)*(across+gap), y+across/2+float64(i/perRow)*(across+gap), across)
	}
	rows := (all + perRow - 1) / perRow
	p.word(x+float64(min(all, perRow))*(across+gap)/2, y+float64(rows)*(across+gap)+across*0.6, fmt.Sprintf("%s: %d of %d taken", says, min(taken, all), all))
}

// blossom of n petals as points round x, y.
func blossom(x, y, d float64, n int, valley float64) [][2]float64 {
	a, b := d*(1+valley)/4, d*(1-valley)/4
	var out [][2]float64
	steps := 12 * max(3, n)
	for i := range steps {
		th := 2 * math.Pi * float64(i) / float64(steps)
		r := a + b*math.Cos(float64(n)*th)
		out = append(out, [2]float64{x + r*math.Cos(th-math.Pi/2), y + r*math.Sin(th-math.Pi/2)})
	}
	return out
}

// spiral of n turns from a core outward.
func spiral(x, y, core, pitch, turns float64) [][2]float64 {
	var out [][2]float64
	turns = math.Min(turns, 30)
	steps := int(24*turns) + 2
	for i := range steps {
		t := turns * float64(i) / float64(steps-1)
		r := core + pitch*t
		out = append(out, [2]float64{x + r*math.Cos(2*math.Pi*t), y + r*math.Sin(2*math.Pi*t)})
	}
	return out
}
