package outline

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// CirclesIn asks how many discs a sheet gives.
type CirclesIn struct {
	SheetWidthMM  *float64 `json:"sheetWidthMM" need:"true" in:"length"`
	SheetHeightMM *float64 `json:"sheetHeightMM" need:"true" in:"length"`
	DiameterMM    *float64 `json:"diameterMM" need:"true" in:"length"`
	GapMM         *float64 `json:"gapMM" def:"0" in:"0..10000"`
	EdgeMM        *float64 `json:"edgeMM" def:"0" in:"0..10000"`
	Centres       bool     `json:"centres"`
}

// CirclesOut is the count of each way of laying them, the best, and what hands
// reach of it.
type CirclesOut struct {
	Count                int     `json:"count"`
	Square               int     `json:"square"`
	HexAlongWidth        int     `json:"hexAlongWidth"`
	HexAlongHeight       int     `json:"hexAlongHeight"`
	StretchedAlongWidth  int     `json:"stretchedAlongWidth"`
	StretchedAlongHeight int     `json:"stretchedAlongHeight"`
	ByHand               int     `json:"byHand"`
	UsedShare            float64 `json:"usedShare"`
	CentresMM            []Point `json:"centresMM,omitempty"`
}

const (
	byHand      = 0.9 // of the count (assumed)
	mostCircles = 200000
)

// rows is one way of laying discs: rows of a and b pieces in turn, pitch apart in
// the row, odd rows shifted, rows dist apart.
type rows struct {
	a, b, n            int
	pitch, shift, dist float64
}

func (r rows) count() int { return (r.n+1)/2*r.a + r.n/2*r.b }

// Circles lays discs in a square, hexagonal or stretched grid.
func Circles(in CirclesIn) (CirclesOut, error) {
	var out CirclesOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	w, h, d := *in.SheetWidthMM, *in.SheetHeightMM, *in.DiameterMM
	p := d + *in.GapMM
	b, q := w-2**in.EdgeMM-d, h-2**in.EdgeMM-d
	if b < -slack || q < -slack {
		return out, fault.New(fault.Unreachable, "diameterMM", "Not one disc fits: at most %.1f mm across.", math.Max(0, math.Min(w, h)-2**in.EdgeMM))
	}
	b, q = math.Max(0, b), math.Max(0, q)
	if w*h/(d*d) > mostCircles {
		return out, fault.New(fault.OutOfRange, "diameterMM", "Over %d discs would fit: cut the sheet first.", mostCircles)
	}
	fl := func(x float64) int { return measure.Floor(x) }
	square := rows{fl(b/p) + 1, fl(b/p) + 1, fl(q/p) + 1, p, 0, p}
	hex := func(b, q float64) rows {
		r := rows{a: fl(b/p) + 1, pitch: p, shift: p / 2, dist: math.Sqrt(3) / 2 * p}
		if b >= p/2-slack {
			r.b = fl((b-p/2)/p) + 1
		}
		r.n = fl(q/r.dist) + 1
		return r
	}
	stretched := func(b, q float64) (best rows) {
		try := func(n, m int, t float64) {
			if t < p-slack {
				return
			}
			r := rows{a: n, b: m, pitch: t, shift: t / 2, dist: p / 2}
			if t < math.Sqrt(3)*p {
				r.dist = math.Sqrt(p*p - t*t/4)
			}
			r.n = fl(q/r.dist) + 1
			if r.count() > best.count() {
				best = r
			}
		}
		for n := 1; n <= fl(b/p)+2; n++ {
			try(n, n, b/(float64(n)-0.5))
			if n >= 2 {
				try(n, n-1, b/float64(n-1))
			}
		}
		return best
	}
	ways := []struct {
		at      *int
		r       rows
		swapped bool
	}{
		{&out.Square, square, false}, {&out.HexAlongWidth, hex(b, q), false}, {&out.HexAlongHeight, hex(q, b), true},
		{&out.StretchedAlongWidth, stretched(b, q), false}, {&out.StretchedAlongHeight, stretched(q, b), true},
	}
	best := 0
	for i, x := range ways {
		*x.at = x.r.count()
		if *x.at > *ways[best].at {
			best = i
		}
	}
	out.Count = *ways[best].at
	out.ByHand = fl(byHand * float64(out.Count))
	out.UsedShare = float64(out.Count) * math.Pi * d * d / 4 / (w * h)
	if in.Centres {
		r, edge := ways[best].r, *in.EdgeMM+d/2
		for row := range r.n {
			n, x := r.a, edge
			if row%2 == 1 {
				n, x = r.b, edge+r.shift
			}
			for i := range n {
				c := Point{x + float64(i)*r.pitch, edge + float64(row)*r.dist}
				if ways[best].swapped {
					c[0], c[1] = c[1], c[0]
				}
				out.CentresMM = append(out.CentresMM, c)
			}
		}
	}
	return out, nil
}
