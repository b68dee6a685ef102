package colour

import (
	"math"
	"slices"
	"sort"
)

// The solver's prices (set): each further gel, and a sticky total.
const (
	perGel      = 0.2
	perSticky   = 0.5
	passBKeeps  = 60
	passCKeeps  = 10
	handsKeep   = 4
	ridge       = 1e-6
	goodEnough  = 1e-4
	patternFrom = 0.25
	patternTo   = 0.0005
	searchFrom  = 2.95
)

// recipe is doses of gels (by index, rising) with the colour they make.
type recipe struct {
	gels  []int
	doses []float64
	lab   vec3
	score float64
}

func (r *recipe) total() (t float64) {
	for _, d := range r.doses {
		t += d
	}
	return t
}

// starts are the doses at which each gel alone is as light as the target.
func (s *solver) starts() []float64 {
	out := make([]float64, len(s.gels))
	for j := range s.gels {
		lo, hi := math.Log(.003), math.Log(8)
		for range 12 {
			mid := (lo + hi) / 2
			if s.labOf([]int{j}, []float64{math.Exp(mid)})[0] > s.target[0] {
				lo = mid
			} else {
				hi = mid
			}
		}
		out[j] = math.Exp((lo + hi) / 2)
	}
	return out
}

func (s *solver) begin(set []int, alone []float64) []float64 {
	doses := make([]float64, len(set))
	total := 0.0
	for j, g := range set {
		doses[j] = math.Max(.004, alone[g]/float64(len(set)))
		total += doses[j]
	}
	if total > mostDose {
		for j := range doses {
			doses[j] *= mostDose / total
		}
	}
	return doses
}

// solve lists recipes, the best first, each of another set of gels; with hands
// also the best few of each size, for rounding to what hands can do.
func (s *solver) solve(hands bool) (all, few []recipe) {
	alone, roughly := s.starts(), s.roughly()
	var bySize [4][]recipe
	n := len(s.gels)
	try := func(set ...int) {
		set = slices.Clone(set)
		all = append(all, s.judge(set, s.fit(set, s.begin(set, alone), 4, roughly)))
	}
	for a := range n {
		try(a)
		for b := a + 1; b < n; b++ {
			try(a, b)
			for c := b + 1; c < n; c++ {
				try(a, b, c)
			}
		}
	}
	if hands {
		for _, r := range all {
			bySize[len(r.gels)] = append(bySize[len(r.gels)], r)
		}
		for _, rs := range bySize[1:] {
			few = append(few, s.refine(rs, handsKeep)...)
		}
		few = append(few, s.judge(nil, nil))
	}
	all = append(s.refine(all, passCKeeps), s.judge(nil, nil))
	byScore(all)
	return all, few
}

func byScore(rs []recipe) {
	sort.SliceStable(rs, func(i, j int) bool { return rs[i].score < rs[j].score })
}

// refine takes the best of the first pass through the exact fit, and the best
// of these, as many as are kept, through the pattern search where their total
// costs. A set that was refined before is as it came out then.
func (s *solver) refine(all []recipe, keep int) []recipe {
	byScore(all)
	all = slices.Clone(all[:min(len(all), passBKeeps)])
	exactly := s.exactly()
	for i := range all {
		all[i] = once(s.fitted, all[i], func(r recipe) recipe {
			if better := s.judge(r.gels, s.fit(r.gels, r.doses, 12, exactly)); better.score < r.score {
				return better
			}
			return r
		})
	}
	byScore(all)
	all = all[:min(len(all), keep)]
	for i := range all {
		if all[i].total() > searchFrom {
			all[i] = once(s.searched, all[i], s.pattern)
		}
	}
	return all
}

// once is what becomes of a recipe, found when its set of gels is asked for first.
func once(found map[[3]int]recipe, r recipe, find func(recipe) recipe) recipe {
	set := [3]int{-1, -1, -1}
	copy(set[:], r.gels)
	out, ok := found[set]
	if !ok {
		out = find(r)
		found[set] = out
	}
	return out
}

// pattern searches around a recipe whose total costs.
func (s *solver) pattern(r recipe) recipe {
	for st := patternFrom; st >= patternTo; {
		helped := false
		consider := func(doses []float64) {
			total := 0.0
			for _, d := range doses {
				if d < leastDose || d > mostDose {
					return
				}
				total += d
			}
			if total > mostDose+1e-12 {
				return
			}
			if c := s.judge(r.gels, doses); c.score < r.score-1e-12 {
				r, helped = c, true
			}
		}
		for a := range r.gels {
			for _, sign := range []float64{1, -1} {
				d := slices.Clone(r.doses)
				d[a] *= math.Exp(sign * st)
				consider(d)
			}
			for b := range r.gels {
				if a == b {
					continue
				}
				d := slices.Clone(r.doses)
				move := d[a] * (math.Exp(st) - 1)
				d[a] += move
				d[b] -= move
				consider(d)
			}
		}
		if !helped {
			st /= 2
		}
	}
	return r
}

// reach says in a code why a target stays out of reach.
func (s *solver) reach(best recipe) string {
	nearest := difference(best.lab, s.target)
	de := nearest.de00()
	if de <= 2 {
		return "reached"
	}
	w := white100()
	if difference(s.base.lab(), w.lab()).de00() >= 5 {
		whites, _ := newSolver(s.target, w, s.gels).solve(false)
		onWhite := whites[0]
		if d := difference(onWhite.lab, s.target).de00(); d <= 2 || d < de/2 {
			return "baseTooDarkOrColoured"
		}
	}
	l, c, h := math.Abs(nearest.l), math.Abs(nearest.c), math.Abs(nearest.h)
	if s.target[0] > s.base.lab()[0]+0.5 && !(c >= l && c >= h && nearest.c > 0) {
		return "lighterThanBase"
	}
	switch {
	case h >= l && h >= c:
		return "noGelOfThatHue"
	case c >= l:
		if nearest.c < 0 {
			return "noGelToDullIt"
		}
		if math.Hypot(best.lab[1], best.lab[2]) < 0.3*math.Hypot(s.target[1], s.target[2]) {
			return "noGelOfThatHue"
		}
		return "tooSaturated"
	case nearest.l < 0:
		return "tooDeep"
	}
	return "tooSaturated"
}

// sensitivity is the largest difference when one dose is a tenth too high.
func (s *solver) sensitivity(r recipe) (most float64) {
	for j := range r.doses {
		d := slices.Clone(r.doses)
		d[j] *= 1.1
		most = math.Max(most, difference(r.lab, s.labOf(r.gels, d)).de00())
	}
	return most
}
