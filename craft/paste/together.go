package paste

import (
	"math"
	"slices"
)

// Wanted is a piece as it asks for its paste: its advice, and the grams of it.
type Wanted struct {
	Advice Advice
	Grams  float64
}

// Shared is one paste that serves several pieces.
type Shared struct {
	StrengthPercent float64
	Pieces          []int // indexes
}

// Move is what a piece gives up when it takes a shared paste: how far it moves
// from its best strength, and the wishes that break beyond those that its best
// breaks.
type Move struct {
	Piece    int
	From, To float64
	Breaks   []string
}

// Together is the fewest pastes that serve all pieces.
type Together struct {
	Pastes  []Shared
	Moves   []Move
	LeftOut []int // pieces whose own window is empty
	Before  int   // pastes when each takes its best
}

const mostShared = 5

// FewestPastes finds the smallest set of strengths that lies in the hard window
// of every piece; among those of one size the one that breaks the fewest
// wishes, then the one that moves the pieces least, weighed by their grams.
// Strengths that are tried are the pastes of the shelf, the light dose, and
// where a piece's own advice or window begins.
func FewestPastes(pieces []Wanted) Together {
	var out Together
	var open []int
	var tries []float64
	add := func(e float64) {
		if !slices.ContainsFunc(tries, func(x float64) bool { return math.Abs(x-e) < 0.005 }) {
			tries = append(tries, e)
		}
	}
	best := map[int]float64{}
	var own []float64
	for i, p := range pieces {
		if p.Advice.Empty || p.Advice.Use == nil {
			out.LeftOut = append(out.LeftOut, i)
			continue
		}
		open = append(open, i)
		best[i] = p.Advice.Use.StrengthPercent
		if !slices.ContainsFunc(own, func(x float64) bool { return math.Abs(x-best[i]) < 0.005 }) {
			own = append(own, best[i])
		}
		add(best[i])
		if from := p.Advice.Window.From; from > PlainStrength {
			add(from)
		}
	}
	out.Before = len(own)
	if len(open) == 0 {
		return out
	}
	for _, k := range Shelf {
		if !k.FatSet && k.Strength >= PlainStrength {
			add(k.Strength)
		}
	}
	slices.Sort(tries)
	// cost[i][t]: infinite outside the window; else wishes broken beyond the
	// best, then distance
	type cost struct{ breaks, far float64 }
	costs := make([][]cost, len(open))
	for a, i := range open {
		p := pieces[i]
		least := len(Broken(p.Advice, best[i]))
		for _, e := range tries {
			c := cost{math.Inf(1), 0}
			if e >= p.Advice.Window.From-1e-9 && (p.Advice.Window.To == nil || e <= *p.Advice.Window.To+1e-9) {
				c = cost{math.Max(0, float64(len(Broken(p.Advice, e))-least)), math.Abs(e-best[i]) * math.Max(1, p.Grams)}
			}
			costs[a] = append(costs[a], c)
		}
	}
	better := func(a, b cost) bool { return a.breaks < b.breaks || a.breaks == b.breaks && a.far < b.far-1e-12 }
	judge := func(set []int) (total cost, takes []int) {
		for a := range open {
			at := -1
			for _, t := range set {
				if at < 0 || better(costs[a][t], costs[a][at]) {
					at = t
				}
			}
			total.breaks += costs[a][at].breaks
			total.far += costs[a][at].far
			takes = append(takes, at)
		}
		return total, takes
	}
	var chosen []int
	for size := 1; size <= min(mostShared, len(tries)) && chosen == nil; size++ {
		least := cost{math.Inf(1), 0}
		var walk func(from int, set []int)
		walk = func(from int, set []int) {
			if len(set) == size {
				if c, takes := judge(set); better(c, least) {
					least, chosen = c, takes
				}
				return
			}
			for t := from; t < len(tries); t++ {
				walk(t+1, append(slices.Clone(set), t))
			}
		}
		walk(0, nil)
	}
	if chosen == nil { // more than five: each keeps its own
		for _, i := range open {
			chosen = append(chosen, slices.IndexFunc(tries, func(x float64) bool { return math.Abs(x-best[i]) < 0.005 }))
		}
	}
	for a, i := range open {
		e := tries[chosen[a]]
		at := slices.IndexFunc(out.Pastes, func(s Shared) bool { return s.StrengthPercent == e })
		if at < 0 {
			out.Pastes, at = append(out.Pastes, Shared{StrengthPercent: e}), len(out.Pastes)
		}
		out.Pastes[at].Pieces = append(out.Pastes[at].Pieces, i)
		if math.Abs(e-best[i]) >= 0.005 {
			m := Move{Piece: i, From: best[i], To: e}
			was := Broken(pieces[i].Advice, best[i])
			for _, code := range Broken(pieces[i].Advice, e) {
				if !slices.Contains(was, code) {
					m.Breaks = append(m.Breaks, code)
				}
			}
			out.Moves = append(out.Moves, m)
		}
	}
	return out
}
