package piece

import (
	"math"
	"slices"
)

// Clocked is a step that hands finished: the minutes it was reckoned to take by the usual
// numbers, the minutes it took, and who did it ("" where nobody said).
type Clocked struct {
	Usual  float64
	Took   float64
	Person string
}

// Pace is how long hands take in the place of the usual time, and from how many steps
// that is known.
type Pace struct {
	Factor float64 `json:"factor"`
	From   int     `json:"from"`
}

// What a pace rests on (assumed): the usual time counts as so many steps, the latest so
// many are looked at, and one step moves no more than from half to twice: who was called
// to the telephone teaches little.
const (
	usualWeighs = 3
	latestSteps = 12
	mostOff     = 2.0
)

// PaceOf learns from the latest steps, the latest first: the mean of how much longer they
// took than usual, the usual counting as three steps. Steps without a time teach nothing.
func PaceOf(steps []Clocked) Pace {
	sum, n := float64(usualWeighs), 0
	for _, s := range steps {
		if n == latestSteps || !(s.Usual > 0 && s.Took > 0) {
			continue
		}
		sum += math.Min(mostOff, math.Max(1/mostOff, s.Took/s.Usual))
		n++
	}
	return Pace{Factor: sum / float64(usualWeighs+n), From: n}
}

// PacesByPerson are those of each person who said so, by name.
func PacesByPerson(steps []Clocked) (names []string, paces map[string]Pace) {
	by := map[string][]Clocked{}
	for _, s := range steps {
		if s.Person != "" {
			by[s.Person] = append(by[s.Person], s)
		}
	}
	paces = map[string]Pace{}
	for name, of := range by {
		if p := PaceOf(of); p.From > 0 {
			names, paces[name] = append(names, name), p
		}
	}
	slices.Sort(names)
	return names, paces
}
