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

// solver looks for recipes of a target in a base.
type solver struct {
	target vec3
	base   *Paste
	gels   []Gel
	linear [3]vec3 // CIEDE2000 at the target, with constant weights
}

func newSolver(target vec3, base *Paste, gels []Gel) *solver {
	s := &solver{target: target, base: base, gels: gels}
	c := math.Hypot(target[1], target[2])
	g := 1 + chromaG(c)
	cp := math.Hypot(g*target[1], target[2])
	cs, sn := 1.0, 0.0
	if cp >= 1e-9 {
		cs, sn = g*target[1]/cp, target[2]/cp
	}
	sl, sc, sh, rt := weights(target[0], cp, hue(g*target[1], target[2]))
	q := math.Sqrt(1 - rt*rt/4)
	s.linear = [3]vec3{{1 / sl, 0, 0}, {0, g*cs/sc - rt/2*g*sn/sh, sn/sc + rt/2*cs/sh}, {0, -q * g * sn / sh, q * cs / sh}}
	return s
}

// residualLinear is the distance to the target with the weights held, and its
// derivative by Lab.
func (s *solver) residualLinear(lab vec3) (r vec3, by [3]vec3) {
	var d vec3
	for i := range 3 {
		d[i] = lab[i] - s.target[i]
	}
	return mat3(s.linear).times(d), s.linear
}

func residual(lab, target vec3) vec3 {
	p := difference(lab, target)
	rt := p.rotation()
	return vec3{p.l, p.c + rt*p.h/2, p.h * math.Sqrt(1-rt*rt/4)}
}

// residualExact has the length of the solvers' distance.
func (s *solver) residualExact(lab vec3) (r vec3, by [3]vec3) {
	r = residual(lab, s.target)
	for c := range 3 {
		moved := lab
		moved[c] += 1e-4
		m := residual(moved, s.target)
		for k := range 3 {
			by[k][c] = (m[k] - r[k]) / 1e-4
		}
	}
	return r, by
}

// labBy gives the colour of a paste and what a change of K/S in each band does
// to it.
func labBy(p *Paste) (lab vec3, q Spectrum, byQ [3]Spectrum) {
	var r Spectrum
	var drdq Spectrum
	for i := range bands {
		q[i] = p.K[i] / p.S
		r[i] = endless(q[i])
		drdq[i] = -r[i] / math.Sqrt(q[i]*(q[i]+2))
		if math.IsInf(drdq[i], 0) || math.IsNaN(drdq[i]) {
			drdq[i] = 0
		}
	}
	v := r.xyz()
	lab = labOf(v)
	var df vec3
	for k := range 3 {
		t := v[k] / white[k]
		if t > labEdge {
			c := math.Cbrt(t)
			df[k] = 1 / (3 * c * c) / white[k]
		} else {
			df[k] = labSlope / 116 / white[k]
		}
	}
	for i := range bands {
		x, y, z := df[0]*toXYZ[0][i]*drdq[i], df[1]*toXYZ[1][i]*drdq[i], df[2]*toXYZ[2][i]*drdq[i]
		byQ[0][i], byQ[1][i], byQ[2][i] = 116*y, 500*(x-y), 200*(y-z)
	}
	return lab, q, byQ
}

func (s *solver) tinted(set []int, doses []float64) Paste {
	p := *s.base
	for j, g := range set {
		for i := range bands {
			p.K[i] += doses[j] * s.gels[g].k[i]
		}
		p.S += doses[j] * s.gels[g].s
	}
	return p
}

func (s *solver) labOf(set []int, doses []float64) vec3 {
	p := s.tinted(set, doses)
	return p.lab()
}

func squared(v vec3) float64 { return v[0]*v[0] + v[1]*v[1] + v[2]*v[2] }

// fit improves doses by Levenberg-Marquardt in their square roots.
func (s *solver) fit(set []int, doses []float64, steps int, by func(vec3) (vec3, [3]vec3)) []float64 {
	n := len(set)
	u := make([]float64, n)
	for j := range u {
		u[j] = math.Sqrt(doses[j])
	}
	bounded := func(u []float64) []float64 {
		out := make([]float64, n)
		total := 0.0
		for j := range u {
			x := math.Min(math.Sqrt(mostDose), math.Max(math.Sqrt(leastDose), u[j]))
			out[j] = x * x
			total += out[j]
		}
		if total > mostDose {
			for j := range out {
				out[j] *= mostDose / total
			}
		}
		return out
	}
	c := bounded(u)
	mu := .01
	for range steps {
		p := s.tinted(set, c)
		lab, q, byQ := labBy(&p)
		r, byLab := by(lab)
		f := squared(r)
		if f < goodEnough {
			break
		}
		var jac [3][3]float64 // residual by u_j
		for j, g := range set {
			var dlab vec3
			gel := &s.gels[g]
			for i := range bands {
				dq := (gel.k[i] - q[i]*gel.s) / p.S
				dlab[0] += byQ[0][i] * dq
				dlab[1] += byQ[1][i] * dq
				dlab[2] += byQ[2][i] * dq
			}
			d := mat3(byLab).times(dlab)
			root := 2 * math.Sqrt(c[j])
			for k := range 3 {
				jac[k][j] = d[k] * root
			}
		}
		gained := false
		for range 6 {
			var a [3][4]float64
			for x := range n {
				for y := range n {
					for k := range 3 {
						a[x][y] += jac[k][x] * jac[k][y]
					}
				}
				for k := range 3 {
					a[x][3] -= jac[k][x] * r[k]
				}
			}
			for x := range n {
				a[x][x] += mu*a[x][x] + ridge
			}
			du := solveSmall(a, n)
			try := make([]float64, n)
			for j := range try {
				try[j] = math.Sqrt(c[j]) + du[j]
			}
			next := bounded(try)
			nr, _ := by(s.labOf(set, next))
			if nf := squared(nr); nf < f {
				gained = f-nf >= 1e-4*f
				c, mu = next, math.Max(mu/5, 1e-6)
				break
			}
			mu = 6 * math.Max(mu, 1e-3)
		}
		if !gained {
			break
		}
	}
	return c
}

// solveSmall solves up to three equations; the last column is the right side.
func solveSmall(a [3][4]float64, n int) (x [3]float64) {
	for c := range n {
		p := c
		for r := c + 1; r < n; r++ {
			if math.Abs(a[r][c]) > math.Abs(a[p][c]) {
				p = r
			}
		}
		a[c], a[p] = a[p], a[c]
		if a[c][c] == 0 {
			continue
		}
		for r := range n {
			if r == c {
				continue
			}
			f := a[r][c] / a[c][c]
			for k := c; k < n; k++ {
				a[r][k] -= f * a[c][k]
			}
			a[r][3] -= f * a[c][3]
		}
	}
	for c := range n {
		if a[c][c] != 0 {
			x[c] = a[c][3] / a[c][c]
		}
	}
	return x
}

// judge gives a recipe its colour and score.
func (s *solver) judge(set []int, doses []float64) recipe {
	r := recipe{gels: set, doses: doses, lab: s.labOf(set, doses)}
	r.score = difference(r.lab, s.target).dist()
	if n := len(set); n > 0 {
		r.score += perGel*float64(n-1) + perSticky*math.Max(0, r.total()-stickyAt)
	}
	return r
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
	alone := s.starts()
	var bySize [4][]recipe
	n := len(s.gels)
	try := func(set ...int) {
		set = slices.Clone(set)
		all = append(all, s.judge(set, s.fit(set, s.begin(set, alone), 4, s.residualLinear)))
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
// costs.
func (s *solver) refine(all []recipe, keep int) []recipe {
	byScore(all)
	all = slices.Clone(all[:min(len(all), passBKeeps)])
	for i := range all {
		if better := s.judge(all[i].gels, s.fit(all[i].gels, all[i].doses, 12, s.residualExact)); better.score < all[i].score {
			all[i] = better
		}
	}
	byScore(all)
	all = all[:min(len(all), keep)]
	for i := range all {
		if all[i].total() > searchFrom {
			all[i] = s.pattern(all[i])
		}
	}
	return all
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
