package colour

import (
	"math"
)

// solver looks for recipes of a target in a base.
type solver struct {
	target           vec3
	base             *Paste
	gels             []Gel
	linear           mat3              // CIEDE2000 at the target, with constant weights
	fitted, searched map[[3]int]recipe // by their sets of gels
}

func newSolver(target vec3, base *Paste, gels []Gel) *solver {
	s := &solver{target: target, base: base, gels: gels, fitted: map[[3]int]recipe{}, searched: map[[3]int]recipe{}}
	c := math.Hypot(target[1], target[2])
	g := 1 + chromaG(c)
	cp := math.Hypot(g*target[1], target[2])
	cs, sn := 1.0, 0.0
	if cp >= 1e-9 {
		cs, sn = g*target[1]/cp, target[2]/cp
	}
	sl, sc, sh, rt := weights(target[0], cp, hue(g*target[1], target[2]))
	q := math.Sqrt(1 - rt*rt/4)
	s.linear = mat3{{1 / sl, 0, 0}, {0, g*cs/sc - rt/2*g*sn/sh, sn/sc + rt/2*cs/sh}, {0, -q * g * sn / sh, q * cs / sh}}
	return s
}

// gauge is how far a colour is from the target, a vector as long as the distance, and its
// derivative by Lab.
type gauge struct {
	off func(lab vec3) vec3
	by  func(lab, off vec3) mat3
}

// roughly holds the weights of the distance as they are at the target.
func (s *solver) roughly() gauge {
	return gauge{
		off: func(lab vec3) vec3 {
			return s.linear.times(vec3{lab[0] - s.target[0], lab[1] - s.target[1], lab[2] - s.target[2]})
		},
		by: func(vec3, vec3) mat3 { return s.linear },
	}
}

// exactly is as long as the solvers' distance.
func (s *solver) exactly() gauge {
	off := func(lab vec3) vec3 {
		p := difference(lab, s.target)
		rt := p.rotation()
		return vec3{p.l, p.c + rt*p.h/2, p.h * math.Sqrt(1-rt*rt/4)}
	}
	by := func(lab, r vec3) (by mat3) {
		for c := range 3 {
			moved := lab
			moved[c] += 1e-4
			m := off(moved)
			for k := range 3 {
				by[k][c] = (m[k] - r[k]) / 1e-4
			}
		}
		return by
	}
	return gauge{off, by}
}

// labBy gives the colour of a paste and what a change of K/S in each band does
// to it.
func labBy(p *Paste) (lab vec3, q Spectrum, byQ [3]Spectrum) {
	var r, drdq Spectrum
	for i := range bands {
		q[i] = p.K[i] / p.S
		root := math.Sqrt(q[i]) * math.Sqrt(q[i]+2)
		r[i] = 1 / (1 + q[i] + root)
		if root > 0 {
			drdq[i] = -r[i] / root
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
func (s *solver) fit(set []int, doses []float64, steps int, to gauge) []float64 {
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
		r := to.off(lab)
		f := squared(r)
		if f < goodEnough {
			break
		}
		byLab := to.by(lab, r)
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
			d := byLab.times(dlab)
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
			if nf := squared(to.off(s.labOf(set, next))); nf < f {
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
