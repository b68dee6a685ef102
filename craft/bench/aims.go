package bench

import (
	"cmp"
	"slices"
)

// Numbers of the aims in a vector; the first ten are told, in this order.
const (
	late = iota
	broken
	bufferShort
	offHours
	spareShort
	crowd
	sessions
	cleanDown
	stale
	uneven
	span
	moved
	manyAims
)

var aims = []string{"late", "broken", "bufferShort", "offHours", "spareShort", "crowd", "sessions", "cleanDown", "stale", "uneven", "span", "moved"}

// coarse is the step in which an aim is compared first: the first minutes of one
// must not outweigh an evening of the next.
var coarse = [manyAims]int{1, 1, 15, 15, 30, 10, 1, 5, 360, 1, 1, 1}

// Orders in use; a list of names is an order as well.
var orders = map[string][]string{
	"usual":  aims[:10],
	"span":   {"late", "broken", "bufferShort", "span", "offHours", "crowd", "sessions", "cleanDown", "stale", "uneven"},
	"stable": {"late", "broken", "bufferShort", "moved", "offHours", "spareShort", "crowd", "sessions", "cleanDown", "stale", "uneven"},
}

type vector [manyAims]int

// ranking is an order of aims with what a step of each is worth to the search.
type ranking struct {
	aims  []int
	worth [manyAims]float64
}

func rankingOf(order []string) ranking {
	worth := [manyAims]float64{late: 300, broken: 5000, bufferShort: 20, offHours: 6, spareShort: 0.5, crowd: 2, sessions: 25, cleanDown: 1, stale: 0.01, uneven: 0.00005}
	var r ranking
	for _, name := range order {
		r.aims = append(r.aims, slices.Index(aims, name))
	}
	if k := slices.Index(r.aims, span); k >= 0 {
		for _, a := range r.aims[k+1:] {
			worth[a] /= 100
		}
		worth[span] = 1
	}
	if k := slices.Index(r.aims, moved); k >= 0 {
		for _, a := range r.aims[k+1:] {
			worth[a] /= 20
		}
		worth[moved] = 30
	}
	for _, a := range r.aims {
		r.worth[a] = worth[a]
	}
	return r
}

// compare goes by whole steps of all aims first, then by the values themselves.
func (v *vector) compare(o *vector, r *ranking) int {
	for _, a := range r.aims {
		if c := cmp.Compare(v[a]/coarse[a], o[a]/coarse[a]); c != 0 {
			return c
		}
	}
	for _, a := range r.aims {
		if c := cmp.Compare(v[a], o[a]); c != 0 {
			return c
		}
	}
	return 0
}

// number weighs a vector as one.
func (v *vector) number(r *ranking) float64 {
	sum := 0.0
	for _, a := range r.aims {
		sum += r.worth[a] * float64(v[a])
	}
	return sum
}
