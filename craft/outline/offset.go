package outline

import (
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/fault"
)

// OffsetIn asks for an outline grown, or shrunk where BorderMM is below 0.
type OffsetIn struct {
	Path        *string       `json:"path"`
	RingsMM     [][][]float64 `json:"ringsMM" most:"2000"`
	ToleranceMM *float64      `json:"toleranceMM" def:"0.05" in:"0.001..10"`
	BorderMM    *float64      `json:"borderMM" need:"true" in:"-1000..1000"`
	GridMM      *float64      `json:"gridMM" def:"0.5" in:"0.05..10"`
}

// OffsetOut is what it became: growing merges parts, shrinking drops or splits
// them.
type OffsetOut struct {
	AreaMM2     float64 `json:"areaMM2"`
	PerimeterMM float64 `json:"perimeterMM"`
	Rings       int     `json:"rings"`
	Path        string  `json:"path"`
}

// mostWork bounds the nodes whose distance is taken, over all edges.
const mostWork = 400_000_000

// field is the signed distance to rings on a grid, below 0 inside, as far as it
// matters.
type field struct {
	cols, lines int
	x0, y0, g   float64
	d           []float64
}

// Offset moves an outline by a distance: the level of the signed distance on a
// grid, inside by even-odd, its contour by marching squares.
func Offset(in OffsetIn) (OffsetOut, error) {
	var out OffsetOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	rings, err := ringsOf(in.Path, in.RingsMM, *in.ToleranceMM)
	if err != nil {
		return out, err
	}
	f, ok := distances(rings, *in.BorderMM, *in.GridMM)
	if !ok {
		return out, fault.New(fault.OutOfRange, "gridMM", "The grid is too fine for an outline of this size: take a coarser one.")
	}
	rings = f.contour(*in.BorderMM)
	if len(rings) == 0 {
		return out, fault.New(fault.Unreachable, "borderMM", "Nothing is left of it: it is nowhere %.1f mm wide.", -2**in.BorderMM)
	}
	var path strings.Builder
	for _, r := range rings {
		for i, p := range r {
			fmt.Fprintf(&path, "%s%s %s", map[bool]string{true: "M", false: "L"}[i == 0], short(p[0]), short(p[1]))
		}
		path.WriteString("Z")
	}
	return OffsetOut{AreaMM2: areaOf(rings), PerimeterMM: perimeterOf(rings), Rings: len(rings), Path: path.String()}, nil
}

func short(x float64) string {
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.3f", x), "0"), ".")
}

func distances(rings [][]Point, border, g float64) (f *field, ok bool) {
	lo, hi := boxOf(rings)
	reach := math.Abs(border) + 3*g
	pad := math.Max(0, border) + 3*g
	f = &field{x0: lo[0] - pad, y0: lo[1] - pad, g: g}
	w, h := (hi[0]-lo[0]+2*pad)/g, (hi[1]-lo[1]+2*pad)/g
	if w*h > mostCells {
		return nil, false
	}
	f.cols, f.lines = int(math.Ceil(w))+1, int(math.Ceil(h))+1
	work := 0.0
	for _, r := range rings {
		for i, p := range r {
			q := r[(i+1)%len(r)]
			work += ((math.Abs(p[0]-q[0])+2*reach)/g + 1) * ((math.Abs(p[1]-q[1])+2*reach)/g + 1)
		}
	}
	if work > mostWork {
		return nil, false
	}
	f.d = make([]float64, f.cols*f.lines)
	for i := range f.d {
		f.d[i] = math.Inf(1)
	}
	for _, r := range rings {
		for i, p := range r {
			f.edge(p, r[(i+1)%len(r)], reach)
		}
	}
	f.sign(rings)
	return f, true
}

func (f *field) edge(p, q Point, reach float64) {
	fromX, toX := clamp((math.Min(p[0], q[0])-reach-f.x0)/f.g, f.cols), clamp((math.Max(p[0], q[0])+reach-f.x0)/f.g+1, f.cols)
	fromY, toY := clamp((math.Min(p[1], q[1])-reach-f.y0)/f.g, f.lines), clamp((math.Max(p[1], q[1])+reach-f.y0)/f.g+1, f.lines)
	for y := fromY; y < toY; y++ {
		for x := fromX; x < toX; x++ {
			at := &f.d[y*f.cols+x]
			*at = math.Min(*at, toSegment(Point{f.x0 + float64(x)*f.g, f.y0 + float64(y)*f.g}, p, q))
		}
	}
}

// sign makes the distance of what lies inside, by even-odd, less than 0.
func (f *field) sign(rings [][]Point) {
	crossed := make([]int, f.cols+1)
	for y := range f.lines {
		cy := f.y0 + float64(y)*f.g
		clear(crossed)
		for _, r := range rings {
			for i, p := range r {
				q := r[(i+1)%len(r)]
				if (p[1] <= cy) != (q[1] <= cy) {
					x := p[0] + (cy-p[1])/(q[1]-p[1])*(q[0]-p[0])
					crossed[clamp(math.Ceil((x-f.x0)/f.g), f.cols)]++
				}
			}
		}
		n := 0
		for x := range f.cols {
			if n += crossed[x]; n%2 == 1 {
				f.d[y*f.cols+x] = -f.d[y*f.cols+x]
			}
		}
	}
}

// contour links the crossings of the level, cell by cell, what is below it on the
// left.
func (f *field) contour(level float64) (rings [][]Point) {
	value := func(x, y int) float64 {
		v := math.Max(-1e9, math.Min(1e9, f.d[y*f.cols+x])) - level
		if v == 0 {
			v = 1e-12
		}
		return v
	}
	type edge struct {
		x, y int
		up   bool
	}
	cross := func(e edge) Point {
		x, y := e.x+1, e.y
		if e.up {
			x, y = e.x, e.y+1
		}
		a, b := value(e.x, e.y), value(x, y)
		t := a / (a - b)
		return Point{f.x0 + (float64(e.x)+t*float64(x-e.x))*f.g, f.y0 + (float64(e.y)+t*float64(y-e.y))*f.g}
	}
	next := map[edge]edge{}
	var order []edge
	link := func(a, b edge) {
		next[a] = b
		order = append(order, a)
	}
	for y := range f.lines - 1 {
		for x := range f.cols - 1 {
			v := [4]float64{value(x, y), value(x+1, y), value(x+1, y+1), value(x, y+1)}
			sides := [4]edge{{x, y, false}, {x + 1, y, true}, {x, y + 1, false}, {x, y, true}}
			// going round the corners counter-clockwise: where it leaves what is below
			// the level, a line begins that ends where it comes in again
			var leaves, enters []int
			for i := range 4 {
				if a, b := v[i] < 0, v[(i+1)%4] < 0; a && !b {
					leaves = append(leaves, i)
				} else if !a && b {
					enters = append(enters, i)
				}
			}
			for _, i := range leaves {
				to := enters[0]
				if len(enters) == 2 { // a saddle: what lies in the middle decides
					before, after := (i+3)%4, (i+1)%4
					if to = before; v[0]+v[1]+v[2]+v[3] < 0 {
						to = after
					}
				}
				link(sides[i], sides[to])
			}
		}
	}
	for _, start := range order {
		if _, open := next[start]; !open {
			continue
		}
		var ring []Point
		for e := start; ; {
			to, ok := next[e]
			if !ok {
				break
			}
			delete(next, e)
			ring = append(ring, cross(e))
			e = to
		}
		if len(ring) >= 3 {
			rings = append(rings, ring)
		}
	}
	return rings
}
