package paste

import (
	"fmt"
	"math"
	"slices"
)

// Least is the least gum strength, %, that a hard demand asks for; 0 for one that is
// not hard, or that nobody knows.
func Least(code string) float64 {
	for _, d := range Demands {
		if d.Code == code && d.Hard {
			return d.From
		}
	}
	return 0
}

// demandsHere lists the demands that are on, as chilling, support and children
// leave them.
func demandsHere(on map[string]bool, children, chilled, supported bool) []Demand {
	var out []Demand
	for _, d := range Demands {
		if !on[d.Code] {
			continue
		}
		switch {
		case (d.Code == "deepMould" || d.Code == "branching") && chilled:
			d.From = tidy(d.From - chillEases)
		case d.Code == "upright" && supported:
			d.From = tidy(d.From - supportEases)
		case d.Code == "mouthful" && children:
			d.Hard = true
		}
		out = append(out, d)
	}
	return out
}

// tidy drops the last bits that subtraction leaves behind.
func tidy(x float64) float64 { return math.Round(x*1e9) / 1e9 }

// window intersects the hard demands that keep accepts.
func window(ds []Demand, keep func(Demand) bool) (Range, bool) {
	w, to := Range{}, math.Inf(1)
	for _, d := range ds {
		if d.Hard && keep(d) {
			w.From = math.Max(w.From, d.From)
			if d.To > 0 {
				to = math.Min(to, d.To)
			}
		}
	}
	if !math.IsInf(to, 1) {
		w.To = &to
	}
	return w, w.From <= to+1e-9
}

func all(Demand) bool { return true }

func (d Demand) meets(e float64) bool {
	return e >= d.From-1e-9 && (d.To == 0 || e <= d.To+1e-9)
}

// choose finds the strength of the window that breaks the fewest wishes; among
// those the nearest to the peg, the lower of two. The set of the best ones is
// made of closed intervals, so the peg itself and the ends of all demands are
// all that must be tried.
func choose(ds []Demand, w Range, plain, peg float64) (e float64, broken int) {
	lo, hi := math.Max(w.From, plain), math.Inf(1)
	if w.To != nil {
		hi = *w.To
		if hi < plain {
			lo = w.From
		}
	}
	candidates := []float64{math.Max(lo, math.Min(hi, peg)), lo}
	if !math.IsInf(hi, 1) {
		candidates = append(candidates, hi)
	}
	for _, d := range ds {
		for _, x := range []float64{d.From, d.To} {
			if x >= lo && x <= hi {
				candidates = append(candidates, x)
			}
		}
	}
	slices.Sort(candidates)
	broken = math.MaxInt
	for _, c := range candidates {
		n := 0
		for _, d := range ds {
			if !d.Hard && !d.meets(c) {
				n++
			}
		}
		if n < broken || n == broken && math.Abs(c-peg) < math.Abs(e-peg)-1e-12 {
			e, broken = c, n
		}
	}
	return e, broken
}

// floorOf is the highest from of the demands that e meets.
func floorOf(ds []Demand, e float64) float64 {
	floor := 0.0
	for _, d := range ds {
		if d.meets(e) {
			floor = math.Max(floor, d.From)
		}
	}
	return floor
}

func goodTo(ds []Demand, w Range, e float64) float64 {
	top := math.Inf(1)
	for _, d := range ds {
		if d.To > 0 && d.meets(e) {
			top = math.Min(top, d.To)
		}
	}
	if math.IsInf(top, 1) {
		if w.To != nil {
			return *w.To
		}
		return math.Max(topStrength, e)
	}
	return top
}

// Says puts an interval of gum strength into words.
func (r Range) Says() string {
	if r.To == nil {
		if r.From <= 0 {
			return "any paste"
		}
		return fmt.Sprintf("%.1f %% gum and up", r.From)
	}
	if r.From <= 0 {
		return fmt.Sprintf("up to %.1f %% gum", *r.To)
	}
	return fmt.Sprintf("%.1f to %.1f %% gum", r.From, *r.To)
}
