package piece

import (
	"math"
	"sort"

	"dustyfern/craft/fault"
)

// Breakage classes as Beta(a, b) beliefs about the share that breaks
// (assumed): robust 2 %, ordinary 5 %, delicate 10 %, fragile 20 % on average.
var breakage = map[string][2]float64{
	"robust": {1, 49}, "ordinary": {1, 19}, "delicate": {2, 18}, "fragile": {3, 12},
}

// SpareIn asks how many to make so that enough stay whole.
type SpareIn struct {
	Wanted    *int     `json:"wanted" need:"true" in:"0..5000"`
	Breakage  *string  `json:"breakage" of:"robust ordinary delicate fragile"`
	PriorA    *float64 `json:"priorA" in:"0.001..1e6"`
	PriorB    *float64 `json:"priorB" in:"0.001..1e6"`
	Made      *int     `json:"made" def:"0" in:"0..100000"`
	Broken    *int     `json:"broken" def:"0" in:"0..100000"`
	Certainty *float64 `json:"certainty" def:"0.95" in:"0.01..0.9999"`
}

// SpareOut is the count to make, the belief after the log, and the chance that
// it suffices.
type SpareOut struct {
	Make                int      `json:"make"`
	Spares              int      `json:"spares"`
	PriorA              float64  `json:"priorA"`
	PriorB              float64  `json:"priorB"`
	MeanBreakShare      float64  `json:"meanBreakShare"`
	Probability         float64  `json:"probability"`
	ProbabilityOneFewer *float64 `json:"probabilityOneFewer,omitempty"`
}

func lgamma(x float64) float64 { l, _ := math.Lgamma(x); return l }

func lbeta(a, b float64) float64 { return lgamma(a) + lgamma(b) - lgamma(a+b) }

// enough is the chance that of n made at least wanted stay whole, the share
// that breaks being Beta(a, b): a beta-binomial sum.
func enough(n, wanted int, a, b float64) float64 {
	if n < wanted {
		return 0
	}
	p := 0.0
	for k := 0; k <= n-wanted; k++ {
		choose := lgamma(float64(n+1)) - lgamma(float64(k+1)) - lgamma(float64(n-k+1))
		p += math.Exp(choose + lbeta(float64(k)+a, float64(n-k)+b) - lbeta(a, b))
	}
	return math.Min(p, 1)
}

// Spares finds the least count that leaves wanted whole with the certainty
// asked. More than ten times as many is refused: the method is wrong then.
func Spares(in SpareIn) (SpareOut, error) {
	if err := fault.Check(&in); err != nil {
		return SpareOut{}, err
	}
	prior := breakage["ordinary"]
	if in.Breakage != nil {
		if in.PriorA != nil || in.PriorB != nil {
			return SpareOut{}, fault.New(fault.Contradiction, "priorA", "Say a class of breakage or a belief of your own, not both.")
		}
		prior = breakage[*in.Breakage]
	}
	if (in.PriorA == nil) != (in.PriorB == nil) {
		if in.PriorA == nil {
			return SpareOut{}, fault.New(fault.Required, "priorA", "priorB needs priorA beside it.")
		}
		return SpareOut{}, fault.New(fault.Required, "priorB", "priorA needs priorB beside it.")
	}
	if in.PriorA != nil {
		prior = [2]float64{*in.PriorA, *in.PriorB}
	}
	if *in.Broken > *in.Made {
		return SpareOut{}, fault.New(fault.Contradiction, "broken", "%d broken of %d made: no more can break than were made.", *in.Broken, *in.Made)
	}
	a, b := prior[0]+float64(*in.Broken), prior[1]+float64(*in.Made-*in.Broken)
	out := SpareOut{PriorA: a, PriorB: b, MeanBreakShare: a / (a + b), Probability: 1}
	n := *in.Wanted
	if n == 0 {
		return out, nil
	}
	const slack = 1e-12 // n/(n+1) reaches 0.8 at 4 exactly
	most := 10*n + 20
	extra := sort.Search(most-n+1, func(i int) bool { return enough(n+i, n, a, b) >= *in.Certainty-slack })
	if n+extra > most {
		return out, fault.New(fault.Unreachable, "wanted", "Even %d would not leave %d whole with that certainty: change the paste, the mould or the method.", most, n)
	}
	out.Make, out.Spares = n+extra, extra
	out.Probability = enough(out.Make, n, a, b)
	if extra > 0 {
		out.ProbabilityOneFewer = new(enough(out.Make-1, n, a, b))
	}
	return out, nil
}
