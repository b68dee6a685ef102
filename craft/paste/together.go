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

// cost is what a set of strengths asks of the pieces: wishes broken beyond those
// that each piece's best breaks, then grams moved by per cent of strength.
type cost struct{ breaks, far float64 }

func (a cost) below(b cost) bool {
	return a.breaks < b.breaks || a.breaks == b.breaks && a.far < b.far-1e-12
}

// sharing is a search for the fewest strengths: the pieces that have a window,
// what is tried, and what each would cost each piece, infinite outside its window.
type sharing struct {
	pieces []Wanted
	open   []int
	tries  []float64
	costs  [][]cost // by place in open, by try
}

func (s *sharing) best(i int) float64 { return s.pieces[i].Advice.Use.StrengthPercent }

// add takes a strength in unless one like it is there.
func add(list []float64, e float64) []float64 {
	if placeOf(list, e) < 0 {
		list = append(list, e)
	}
	return list
}

func placeOf(list []float64, e float64) int {
	return slices.IndexFunc(list, func(x float64) bool { return math.Abs(x-e) < 0.005 })
}

// FewestPastes finds the smallest set of strengths that lies in the hard window
// of every piece; among those of one size the one that breaks the fewest
// wishes, then the one that moves the pieces least, weighed by their grams.
// Strengths that are tried are the pastes of the shelf, the light dose, and
// where a piece's own advice or window begins.
func FewestPastes(pieces []Wanted) Together {
	var out Together
	s := sharing{pieces: pieces}
	var own []float64
	for i, p := range pieces {
		if p.Advice.Empty || p.Advice.Use == nil {
			out.LeftOut = append(out.LeftOut, i)
			continue
		}
		s.open = append(s.open, i)
		own = add(own, s.best(i))
		s.tries = add(s.tries, s.best(i))
		if from := p.Advice.Window.From; from > PlainStrength {
			s.tries = add(s.tries, from)
		}
	}
	out.Before = len(own)
	if len(s.open) == 0 {
		return out
	}
	for _, k := range Shelf {
		if !k.FatSet && k.Strength >= PlainStrength {
			s.tries = add(s.tries, k.Strength)
		}
	}
	slices.Sort(s.tries)
	s.weigh()
	for a, at := range s.smallest() {
		out.take(&s, s.open[a], s.tries[at])
	}
	return out
}

func (s *sharing) weigh() {
	for _, i := range s.open {
		p := s.pieces[i]
		least := len(Broken(p.Advice, s.best(i)))
		row := make([]cost, len(s.tries))
		for t, e := range s.tries {
			row[t] = cost{math.Inf(1), 0}
			if e >= p.Advice.Window.From-1e-9 && (p.Advice.Window.To == nil || e <= *p.Advice.Window.To+1e-9) {
				row[t] = cost{math.Max(0, float64(len(Broken(p.Advice, e))-least)), math.Abs(e-s.best(i)) * math.Max(1, p.Grams)}
			}
		}
		s.costs = append(s.costs, row)
	}
}

// smallest is the try that each piece takes in the smallest set that serves all;
// when that is larger than five, each keeps its own.
func (s *sharing) smallest() (takes []int) {
	for size := 1; size <= min(mostShared, len(s.tries)); size++ {
		least := cost{math.Inf(1), 0}
		var walk func(from int, set []int)
		walk = func(from int, set []int) {
			if len(set) == size {
				if c, by := s.judge(set); c.below(least) {
					least, takes = c, by
				}
				return
			}
			for t := from; t < len(s.tries); t++ {
				walk(t+1, append(slices.Clone(set), t))
			}
		}
		walk(0, nil)
		if takes != nil {
			return takes
		}
	}
	for _, i := range s.open {
		takes = append(takes, placeOf(s.tries, s.best(i)))
	}
	return takes
}

func (s *sharing) judge(set []int) (total cost, takes []int) {
	for a := range s.open {
		at := set[0]
		for _, t := range set[1:] {
			if s.costs[a][t].below(s.costs[a][at]) {
				at = t
			}
		}
		total.breaks += s.costs[a][at].breaks
		total.far += s.costs[a][at].far
		takes = append(takes, at)
	}
	return total, takes
}

// take gives piece i the strength e, and says what it gives up by it.
func (out *Together) take(s *sharing, i int, e float64) {
	at := slices.IndexFunc(out.Pastes, func(p Shared) bool { return p.StrengthPercent == e })
	if at < 0 {
		out.Pastes, at = append(out.Pastes, Shared{StrengthPercent: e}), len(out.Pastes)
	}
	out.Pastes[at].Pieces = append(out.Pastes[at].Pieces, i)
	if math.Abs(e-s.best(i)) < 0.005 {
		return
	}
	m := Move{Piece: i, From: s.best(i), To: e}
	was := Broken(s.pieces[i].Advice, s.best(i))
	for _, code := range Broken(s.pieces[i].Advice, e) {
		if !slices.Contains(was, code) {
			m.Breaks = append(m.Breaks, code)
		}
	}
	out.Moves = append(out.Moves, m)
}
