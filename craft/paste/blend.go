package paste

import (
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// Stock is a paste that may go into a blend. HaveG absent is endless.
type Stock struct {
	Name            *string  `json:"name"`
	Paste           *string  `json:"paste" of:"sugarPaste softSugarPaste marshmallowPaste mouldingReadyPaste halfAndHalf modellingPaste flowerPaste darkChocolate milkChocolate whiteChocolate marzipan"`
	StrengthPercent *float64 `json:"strengthPercent" in:"strength"`
	HaveG           *float64 `json:"haveG" in:"0..50000"`
	CostPerG        *float64 `json:"costPerG" in:"0..1000"`
}

// BlendIn asks for massG grams at a gum strength from what is there.
type BlendIn struct {
	Pastes              []Stock  `json:"pastes" need:"true" most:"8"`
	WantStrengthPercent *float64 `json:"wantStrengthPercent" need:"true" in:"strength"`
	MassG               *float64 `json:"massG" need:"true" in:"mass"`
	Buy                 []Stock  `json:"buy" most:"8"`
	Hardener            *OwnDose `json:"hardener"`
}

// OwnDose is hardener powder that is there. HaveG absent is enough.
type OwnDose struct {
	Kind  *string  `json:"kind" def:"cmc" of:"cmc tragacanth"`
	Name  *string  `json:"name"`
	HaveG *float64 `json:"haveG" in:"0..50000"`
}

// Use is grams of one named paste.
type Use struct {
	Name  string  `json:"name"`
	MassG float64 `json:"massG"`
}

// BlendOut is the blend, or what stands in its way.
type BlendOut struct {
	Reached                bool     `json:"reached"`
	Hardened               *bool    `json:"hardened,omitempty"`
	StrengthPercent        *float64 `json:"strengthPercent,omitempty"`
	MassG                  *float64 `json:"massG,omitempty"`
	Use                    []Use    `json:"use,omitzero"`
	PowderName             string   `json:"powderName,omitempty"`
	PowderG                *float64 `json:"powderG,omitempty"`
	HardenerPercent        *float64 `json:"hardenerPercent,omitempty"` // of the paste without it
	Brittle                *bool    `json:"brittle,omitempty"`
	Cost                   *float64 `json:"cost,omitempty"`
	NearestStrengthPercent *float64 `json:"nearestStrengthPercent,omitempty"`
	MassAtStrengthG        *float64 `json:"massAtStrengthG,omitempty"`
	Buy                    []Use    `json:"buy,omitempty"`
	Claim                  []Use    `json:"claim,omitempty"` // of the pastes: other pieces must not count on it
}

type stock struct {
	name          string
	e, have, cost float64 // have +Inf: endless
}

func stocks(in []Stock, list, unnamed string) ([]stock, error) {
	var out []stock
	for i, s := range in {
		x := stock{name: unnamed + " " + string(rune('1'+i)), have: math.Inf(1), cost: 1}
		if s.Paste != nil {
			k, _ := KindOf(*s.Paste)
			if k.FatSet {
				return nil, fault.New(fault.Contradiction, list, "Fat-set doughs and sugar pastes do not bind: blend sugar pastes only.")
			}
			x.name, x.e = *s.Paste, k.Strength
		} else if s.StrengthPercent == nil {
			return nil, fault.New(fault.Required, index(list, i)+".strengthPercent", "Name the paste, or say its gum strength.")
		}
		if s.StrengthPercent != nil {
			x.e = *s.StrengthPercent
		}
		if s.Name != nil {
			x.name = *s.Name
		}
		if s.HaveG != nil {
			x.have, x.cost = *s.HaveG, 0
		}
		if s.CostPerG != nil {
			x.cost = *s.CostPerG
		}
		out = append(out, x)
	}
	return out, nil
}

// Blend finds the cheapest mix of at most eight sugar pastes with the wanted
// gum strength: leftovers (cost 0) first. Some cheapest mix has at most two
// pastes that are neither unused nor used up, so all pairs are tried.
func Blend(in BlendIn) (BlendOut, error) {
	if err := fault.Check(&in); err != nil {
		return BlendOut{}, err
	}
	have, err := stocks(in.Pastes, "pastes", "paste")
	if err != nil {
		return BlendOut{}, err
	}
	e, m := *in.WantStrengthPercent, *in.MassG
	if use, cost, ok := solve(have, e, m); ok {
		return BlendOut{Reached: true, Hardened: new(false), StrengthPercent: &e, MassG: &m, Cost: &cost, Use: named(have, use, true)}, nil
	}
	if in.Hardener != nil {
		if out, ok := hardened(have, in.Hardener, e, m); ok {
			return out, nil
		}
	}
	buyable := []stock{{"sugarPaste", PlainStrength, math.Inf(1), 1}, {"flowerPaste", FlowerStrength, math.Inf(1), 1}}
	if len(in.Buy) > 0 {
		if buyable, err = stocks(in.Buy, "buy", "bought"); err != nil {
			return BlendOut{}, err
		}
		for i := range buyable {
			buyable[i].have = math.Inf(1)
			if in.Buy[i].CostPerG == nil {
				buyable[i].cost = 1
			}
		}
	}
	out := BlendOut{NearestStrengthPercent: nearest(have, e, m)}
	if most := maxMass(have, e); !math.IsInf(most, 1) {
		out.MassAtStrengthG = &most
	}
	all := slices.Clone(have)
	for i := range all {
		if !math.IsInf(all[i].have, 1) {
			all[i].cost = 0 // what lies there is free; what is endless is bought as well
		}
	}
	all = append(all, buyable...)
	if use, _, ok := solve(all, e, m); ok {
		out.Buy, out.Claim = named(buyable, use[len(have):], false), named(have, use, false)
	}
	return out, nil
}

// named are the grams of each paste; used: only of those that are taken.
func named(s []stock, grams []float64, used bool) []Use {
	out := []Use{}
	for i := range s {
		if !used || grams[i] > 1e-9 {
			out = append(out, Use{s[i].name, grams[i]})
		}
	}
	return out
}

// hardened counts the powder as one more paste, of strength 100 at cost 1 a
// gram, so that the strongest pastes go in first and the least powder.
func hardened(have []stock, own *OwnDose, e, m float64) (BlendOut, bool) {
	powder := stock{name: *own.Kind, e: 100, have: math.Inf(1), cost: 1}
	if own.Name != nil {
		powder.name = *own.Name
	}
	if own.HaveG != nil {
		powder.have = *own.HaveG
	}
	use, cost, ok := solve(append(slices.Clone(have), powder), e, m)
	if !ok {
		return BlendOut{}, false
	}
	g := use[len(have)]
	p := 100 * g / (m - g)
	if p > capSchool+1e-9 {
		return BlendOut{}, false
	}
	return BlendOut{Reached: true, Hardened: new(true), StrengthPercent: &e, MassG: &m, Cost: &cost, Use: named(have, use, true),
		PowderName: powder.name, PowderG: &g, HardenerPercent: &p, Brittle: new(p > brittlePercent)}, true
}

// solve minimises cost over 0 <= x_i <= have_i, sum x = m, sum e x = e m.
func solve(s []stock, e, m float64) (best []float64, cost float64, ok bool) {
	n := len(s)
	cost = math.Inf(1)
	pastes := n + 1
	tol := 1e-7 * math.Max(1, m)
	try := func(x []float64) {
		sum, gum, c, used := 0.0, 0.0, 0.0, 0
		for i, g := range x {
			if math.IsInf(g, 0) || math.IsNaN(g) || g < -tol || g > s[i].have+tol {
				return
			}
			g = math.Max(0, math.Min(g, s[i].have))
			sum, gum, c = sum+g, gum+g*s[i].e, c+g*s[i].cost
			if g > tol {
				used++
			}
		}
		if math.Abs(sum-m) > tol || math.Abs(gum-e*m) > tol*math.Max(1, e) {
			return
		}
		if c < cost-1e-9 || c < cost+1e-9 && used < pastes {
			best, cost, pastes, ok = slices.Clone(x), c, used, true
			for i := range best {
				best[i] = math.Max(0, math.Min(best[i], s[i].have))
			}
		}
	}
	x := make([]float64, n)
	// every other paste is left out or used up: the bits of full say which
	for full := range 1 << n {
		finite := true
		for i := range n {
			if full>>i&1 == 1 && math.IsInf(s[i].have, 1) {
				finite = false
			}
		}
		if !finite {
			continue
		}
		sum, gum := 0.0, 0.0
		for i := range n {
			x[i] = 0
			if full>>i&1 == 1 {
				x[i] = s[i].have
				sum, gum = sum+x[i], gum+x[i]*s[i].e
			}
		}
		rest, restGum := m-sum, e*m-gum
		try(x)
		for a := range n {
			if full>>a&1 == 1 {
				continue
			}
			x[a] = rest
			try(x)
			for b := a + 1; b < n; b++ {
				if full>>b&1 == 1 || s[a].e == s[b].e {
					continue
				}
				x[b] = (restGum - rest*s[a].e) / (s[b].e - s[a].e)
				x[a] = rest - x[b]
				try(x)
				x[b] = 0
			}
			x[a] = 0
		}
	}
	return best, cost, ok
}

// nearest is the strength closest to e at mass m, nil when stock is short.
func nearest(s []stock, e, m float64) *float64 {
	fill := func(order func(a, b stock) int) (float64, bool) {
		t := slices.Clone(s)
		slices.SortStableFunc(t, order)
		left, gum := m, 0.0
		for _, x := range t {
			g := math.Min(left, x.have)
			left, gum = left-g, gum+g*x.e
		}
		return gum / m, left < 1e-9*m
	}
	up := func(a, b stock) int {
		if a.e < b.e {
			return -1
		} else if a.e > b.e {
			return 1
		}
		return 0
	}
	lo, ok := fill(up)
	hi, _ := fill(func(a, b stock) int { return up(b, a) })
	if !ok {
		return nil
	}
	return new(math.Max(lo, math.Min(hi, e)))
}

// maxMass is the most that can be had at strength e: what is there already,
// the side with less pull whole, and as much of the other, nearest first.
func maxMass(s []stock, e float64) float64 {
	var equal float64
	var sides [2][]stock
	var pull [2]float64
	for _, x := range s {
		d := x.e - e
		switch {
		case math.Abs(d) < 1e-12:
			equal += x.have
		case d < 0:
			sides[0] = append(sides[0], x)
			pull[0] += -d * x.have
		default:
			sides[1] = append(sides[1], x)
			pull[1] += d * x.have
		}
	}
	small, large := 0, 1
	if pull[1] < pull[0] {
		small, large = 1, 0
	}
	total, left := equal, pull[small]
	for _, x := range sides[small] {
		total += x.have
	}
	other := sides[large]
	slices.SortStableFunc(other, func(a, b stock) int {
		if math.Abs(a.e-e) < math.Abs(b.e-e) {
			return -1
		}
		return 1
	})
	for _, x := range other {
		d := math.Abs(x.e - e)
		g := math.Min(x.have, left/d)
		total, left = total+g, left-g*d
	}
	return total
}
