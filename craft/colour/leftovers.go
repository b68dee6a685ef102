package colour

import (
	"math"
	"slices"
	"sort"
)

// Prices of the leftover solver (set).
const (
	perPiece    = 0.15
	perFresh    = 0.4
	perUsedUp   = 0.15
	usedUpRest  = 2.0 // g
	leastPieceG = 0.5
	sameShare   = 0.02
)

// piece of the stock.
type stockPiece struct {
	paste Paste
	grams float64
	fresh bool
}

// blend is shares of pieces of the stock.
type blend struct {
	set    []int
	shares []float64
	lab    vec3
	score  float64
}

// blender looks for blends of a stock that make a target.
type blender struct {
	solver
	stock []stockPiece
	mass  float64 // that is made
}

func (b *blender) high(i int) float64 { return math.Min(1, b.stock[i].grams/b.mass) }

func (b *blender) mixed(set []int, f []float64) (p Paste) {
	for j, i := range set {
		for k := range bands {
			p.K[k] += f[j] * b.stock[i].paste.K[k]
		}
		p.S += f[j] * b.stock[i].paste.S
	}
	return p
}

func (b *blender) judgeBlend(set []int, f []float64) blend {
	p := b.mixed(set, f)
	out := blend{set: set, shares: f, lab: p.lab()}
	out.score = difference(out.lab, b.target).dist()
	n := 0
	for j, i := range set {
		if f[j] <= 1e-9 {
			continue
		}
		n++
		if b.stock[i].fresh {
			out.score += perFresh * f[j]
		} else if b.stock[i].grams-f[j]*b.mass <= usedUpRest {
			out.score -= perUsedUp
		}
	}
	out.score += perPiece * float64(max(0, n-1))
	return out
}

// even shares, those that run out fixed and the rest shared again.
func (b *blender) even(set []int) []float64 {
	f := make([]float64, len(set))
	fixed := make([]bool, len(set))
	for {
		left, n := 1.0, 0
		for j := range set {
			if fixed[j] {
				left -= f[j]
			} else {
				n++
			}
		}
		over := false
		for j, i := range set {
			if fixed[j] || n == 0 {
				continue
			}
			f[j] = left / float64(n)
			if f[j] > b.high(i)+1e-12 {
				f[j], fixed[j], over = b.high(i), true, true
			}
		}
		if !over {
			return f
		}
	}
}

// fitBlend is Gauss-Newton within the stock, mass exchanged between pairs.
func (b *blender) fitBlend(set []int, f []float64, steps int, to gauge) []float64 {
	n := len(set)
	f = slices.Clone(f)
	mu := 1e-3
	for range steps {
		p := b.mixed(set, f)
		lab, q, byQ := labBy(&p)
		r := to.off(lab)
		was := squared(r)
		if was < goodEnough {
			break
		}
		byLab := to.by(lab, r)
		jac := make([]vec3, n)
		for j, i := range set {
			var dlab vec3
			for k := range bands {
				dq := (b.stock[i].paste.K[k] - q[k]*b.stock[i].paste.S) / p.S
				dlab[0] += byQ[0][k] * dq
				dlab[1] += byQ[1][k] * dq
				dlab[2] += byQ[2][k] * dq
			}
			jac[j] = byLab.times(dlab)
		}
		gained := false
		for range 7 {
			next := b.exchange(set, f, jac, r, mu)
			moved := b.mixed(set, next)
			if is := squared(to.off(moved.lab())); is < was {
				gained = was-is >= 1e-4*was
				f, mu = next, math.Max(mu/5, 1e-6)
				break
			}
			mu = 8 * math.Max(mu, .01)
		}
		if !gained {
			break
		}
	}
	return f
}

func (b *blender) exchange(set []int, f []float64, jac []vec3, r vec3, mu float64) []float64 {
	n := len(set)
	dx := make([]float64, n)
	rr := r
	for range 30 {
		most := 0.0
		for x := range n {
			for y := x + 1; y < n; y++ {
				var v vec3
				for k := range 3 {
					v[k] = jac[x][k] - jac[y][k]
				}
				v2 := squared(v)
				t := -(v[0]*rr[0] + v[1]*rr[1] + v[2]*rr[2] + mu*v2*(dx[x]-dx[y])/2) / (v2*(1+mu) + 1e-9)
				fx, fy := f[x]+dx[x], f[y]+dx[y]
				t = math.Max(t, math.Max(-fx, fy-b.high(set[y])))
				t = math.Min(t, math.Min(b.high(set[x])-fx, fy))
				dx[x] += t
				dx[y] -= t
				for k := range 3 {
					rr[k] += t * v[k]
				}
				most = math.Max(most, math.Abs(t))
			}
		}
		if most < 1e-5 {
			break
		}
	}
	out := make([]float64, n)
	for j := range out {
		out[j] = math.Max(0, f[j]+dx[j])
	}
	return out
}

// solveBlend lists blends, the best first.
func (b *blender) solveBlend() []blend {
	var all []blend
	roughly, exactly := b.roughly(), b.exactly()
	n := len(b.stock)
	enough := func(set []int) bool {
		sum := 0.0
		for _, i := range set {
			sum += b.high(i)
		}
		return sum >= 1-1e-9
	}
	three := false
	try := func(set ...int) {
		if !enough(set) {
			return
		}
		three = true
		set = slices.Clone(set)
		all = append(all, b.judgeBlend(set, b.fitBlend(set, b.even(set), 2, roughly)))
	}
	for x := range n {
		try(x)
		for y := x + 1; y < n; y++ {
			try(x, y)
			for z := y + 1; z < n; z++ {
				try(x, y, z)
			}
		}
	}
	set := make([]int, n)
	for i := range set {
		set[i] = i
	}
	f := b.even(set)
	for n > 3 {
		f = b.fitBlend(set, f, 4, exactly)
		if n <= 6 || !three {
			all = append(all, b.judgeBlend(slices.Clone(set), slices.Clone(f)))
		}
		least := -1
		for j := range set {
			rest := slices.Delete(slices.Clone(set), j, j+1)
			if enough(rest) && (least < 0 || f[j] < f[least]) {
				least = j
			}
		}
		if least < 0 {
			break
		}
		over := f[least]
		set, f = slices.Delete(slices.Clone(set), least, least+1), slices.Delete(slices.Clone(f), least, least+1)
		for j, i := range set {
			t := math.Min(over, b.high(i)-f[j])
			f[j], over = f[j]+t, over-t
		}
		n--
	}
	byScore := func(bs []blend) { sort.SliceStable(bs, func(i, j int) bool { return bs[i].score < bs[j].score }) }
	byScore(all)
	all = all[:min(len(all), passBKeeps)]
	for i := range all {
		if better := b.judgeBlend(all[i].set, b.fitBlend(all[i].set, all[i].shares, 10, exactly)); better.score < all[i].score {
			all[i] = better
		}
	}
	byScore(all)
	all = all[:min(len(all), passCKeeps)]
	for i := range all {
		all[i] = b.patternBlend(b.dropCrumbs(all[i]))
	}
	byScore(all)
	var out []blend
	for _, x := range all {
		if !slices.ContainsFunc(out, func(o blend) bool { return b.alike(o, x) }) {
			out = append(out, x)
		}
	}
	return out
}

// dropCrumbs leaves out pieces too small to be cut.
func (b *blender) dropCrumbs(x blend) blend {
	for {
		least := -1
		for j := range x.set {
			if x.shares[j]*b.mass < leastPieceG && (least < 0 || x.shares[j] < x.shares[least]) {
				least = j
			}
		}
		if least < 0 || len(x.set) == 1 {
			return x
		}
		over := x.shares[least]
		set, f := slices.Delete(slices.Clone(x.set), least, least+1), slices.Delete(slices.Clone(x.shares), least, least+1)
		for j, i := range set {
			t := math.Min(over, b.high(i)-f[j])
			f[j], over = f[j]+t, over-t
		}
		if over > 1e-9 {
			return x
		}
		x = b.judgeBlend(set, f)
	}
}

func (b *blender) patternBlend(x blend) blend {
	for st := 0.05; st >= 0.0002; {
		helped := false
		for a := range x.set {
			for c := range x.set {
				if a == c {
					continue
				}
				room := b.high(x.set[a]) - x.shares[a]
				for _, t := range []float64{st, x.shares[c], room} {
					t = math.Min(t, math.Min(room, x.shares[c]))
					if t <= 1e-9 {
						continue
					}
					f := slices.Clone(x.shares)
					f[a] += t
					f[c] -= t
					if g := f[c] * b.mass; g > 1e-9 && g < leastPieceG {
						continue
					}
					if y := b.judgeBlend(x.set, f); y.score < x.score-1e-12 {
						x, helped = y, true
					}
				}
			}
		}
		if !helped {
			st /= 2
		}
	}
	return x
}

// alike blends differ by less than a fiftieth of the mass.
func (b *blender) alike(x, y blend) bool {
	share := func(z blend, i int) float64 {
		if j := slices.Index(z.set, i); j >= 0 {
			return z.shares[j]
		}
		return 0
	}
	for i := range b.stock {
		if math.Abs(share(x, i)-share(y, i)) >= sameShare {
			return false
		}
	}
	return true
}
