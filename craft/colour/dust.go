package colour

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// DustIn asks for a mix of owned dusts, in whole parts, that comes nearest to a tone: in
// the pot, or as it looks on a ground after some passes.
type DustIn struct {
	Target   *string  `json:"target" need:"true"`
	Dusts    []Dust   `json:"dusts" need:"true" most:"20"`
	MaxDusts *int     `json:"maxDusts" def:"3" in:"1..3"`
	MaxParts *int     `json:"maxParts" def:"8" in:"1..12"`
	Ground   *string  `json:"ground"`
	Passes   *int     `json:"passes" in:"0..20"`
	MassG    *float64 `json:"massG" in:"0.01..1000"`
}

// Dust is a powder that is owned; a lustre's flakes shine rather than colour.
type Dust struct {
	Name   *string  `json:"name"`
	Hex    *string  `json:"hex" need:"true"`
	Weight *float64 `json:"weight" def:"1" in:"0.05..20"`
	Lustre bool     `json:"lustre"`
}

// DustOut is the nearest mix and the next best of other dusts.
type DustOut struct {
	DustMix
	Alternatives []DustMix `json:"alternatives"`
}

// DustMix is one mix: its parts, and the colour on the piece (in the pot without a
// ground). SheenShare is the part of it that are flakes, whose tone is a guess.
type DustMix struct {
	Parts      []DustPart `json:"parts"`
	TotalParts int        `json:"totalParts"`
	De00       float64    `json:"de00"`
	Score      float64    `json:"score"`
	Lab        [3]float64 `json:"lab"`
	Hex        string     `json:"hex"`
	PotHex     string     `json:"potHex,omitempty"`
	SheenShare *float64   `json:"sheenShare,omitempty"`
	Reach      string     `json:"reach"` // reached, near, far
}

// DustPart is how many parts of a dust, and its share and mass.
type DustPart struct {
	Dust  string   `json:"dust"`
	Parts int      `json:"parts"`
	Share float64  `json:"share"`
	MassG *float64 `json:"massG,omitempty"`
}

// What a mix costs besides its distance (assumed), and how near is near.
const (
	perDust     = 0.3
	perPart     = 0.02
	dustReached = 2.0
	dustNear    = 6.0
	usualPasses = 2
	otherMixes  = 2
)

// mixing is a search for a mix of dusts.
type mixing struct {
	in     *DustIn
	target vec3
	dusts  []Paste
	ground *Spectrum // nil: the pot is compared
	cover  float64
}

// tried is the best of one set of dusts.
type tried struct {
	set, parts []int
	de, score  float64
}

// MixDusts finds the mix of owned dusts nearest to a tone. The search is finite and
// exact. Errors are *fault.Fault; docs/models/finish.md, 1.
func MixDusts(in DustIn) (DustOut, error) {
	m, err := in.mixing()
	if err != nil {
		return DustOut{}, err
	}
	var best []tried
	n := len(m.dusts)
	for size := 1; size <= min(n, *in.MaxDusts); size++ {
		set := make([]int, size)
		for i := range set {
			set[i] = i
		}
		for more := true; more; more = nextSet(set, n) {
			if t, found := m.bestOf(set); found {
				best = append(best, t)
			}
		}
	}
	slices.SortStableFunc(best, func(a, b tried) int {
		if math.Abs(a.score-b.score) <= 1e-9 {
			return 0
		}
		return cmp.Compare(a.score, b.score)
	})
	out := DustOut{DustMix: m.told(best[0]), Alternatives: []DustMix{}}
	for _, t := range best[1:min(len(best), 1+otherMixes)] {
		out.Alternatives = append(out.Alternatives, m.told(t))
	}
	return out, nil
}

func (in *DustIn) mixing() (*mixing, error) {
	if err := fault.Check(in); err != nil {
		return nil, err
	}
	rgb, err := readSwatch(*in.Target, "target")
	if err != nil {
		return nil, err
	}
	m := &mixing{in: in, target: labOf(rgbToXYZ.times(rgb))}
	known := map[string]bool{}
	for i := range in.Dusts {
		d := &in.Dusts[i]
		field := fmt.Sprintf("dusts[%d]", i)
		if d.Name == nil {
			d.Name = new(fmt.Sprintf("dust %d", i+1))
		}
		if known[*d.Name] {
			return nil, fault.New(fault.Contradiction, field+".name", "There are two dusts %q.", *d.Name)
		}
		known[*d.Name] = true
		c, err := readSwatch(*d.Hex, field+".hex")
		if err != nil {
			return nil, err
		}
		m.dusts = append(m.dusts, pasteOf(c, *d.Weight))
	}
	if in.Ground == nil {
		if in.Passes != nil {
			return nil, fault.New(fault.Required, "ground", "Passes go on to a ground: which colour has it?")
		}
		return m, nil
	}
	g, err := readSwatch(*in.Ground, "ground")
	if err != nil {
		return nil, err
	}
	ground, _ := curve(g, &ones)
	passes := usualPasses
	if in.Passes != nil {
		passes = *in.Passes
	}
	m.ground, m.cover = &ground, 1-math.Pow(1-dustPass, float64(passes))
	return m, nil
}

// nextSet goes to the next set of the same size, by index.
func nextSet(set []int, n int) bool {
	for i := len(set) - 1; i >= 0; i-- {
		if set[i] < n-len(set)+i {
			set[i]++
			for k := i + 1; k < len(set); k++ {
				set[k] = set[k-1] + 1
			}
			return true
		}
	}
	return false
}

// bestOf a set of dusts are the parts that come nearest; smaller first parts win a tie.
func (m *mixing) bestOf(set []int) (best tried, found bool) {
	parts := make([]int, len(set))
	var lay func(i, left int)
	lay = func(i, left int) {
		if i == len(set) {
			if g := common(parts); g > 1 {
				return
			}
			_, seen := m.look(set, parts)
			de := difference(m.target, seen.lab()).de00()
			score := de + perDust*float64(len(set)-1) + perPart*float64(sum(parts))
			if !found || score < best.score-1e-9 {
				best, found = tried{slices.Clone(set), slices.Clone(parts), de, score}, true
			}
			return
		}
		for p := 1; p <= left-(len(set)-1-i); p++ {
			parts[i] = p
			lay(i+1, left-p)
		}
	}
	lay(0, *m.in.MaxParts)
	return best, found
}

// common is the greatest common divisor of the parts; that of one is itself.
func common(parts []int) (g int) {
	for _, p := range parts {
		for p != 0 {
			g, p = p, g%p
		}
	}
	return g
}

func sum(parts []int) (n int) {
	for _, p := range parts {
		n += p
	}
	return n
}

// look is the reflectance of a mix in the pot, and as it is seen.
func (m *mixing) look(set, parts []int) (pot, seen Spectrum) {
	total := float64(sum(parts))
	var k Spectrum
	s := 0.0
	for i, at := range set {
		share := float64(parts[i]) / total
		s += share * m.dusts[at].S
		for b := range bands {
			k[b] += share * m.dusts[at].K[b]
		}
	}
	for b := range bands {
		q := k[b] / s
		pot[b] = endless(q)
		seen[b] = pot[b]
		if m.ground != nil {
			seen[b] = (1-m.cover)*m.ground[b] + m.cover*layer(dustFilm*q, dustFilm, m.ground[b])
		}
	}
	return pot, seen
}

// told is a mix in words and grams.
func (m *mixing) told(t tried) DustMix {
	pot, seen := m.look(t.set, t.parts)
	out := DustMix{TotalParts: sum(t.parts), De00: t.de, Score: t.score, Lab: seen.lab(), Hex: hexOf(seen.xyz()), Reach: "far"}
	if m.ground != nil {
		out.PotHex = hexOf(pot.xyz())
	}
	switch {
	case t.de <= dustReached:
		out.Reach = "reached"
	case t.de <= dustNear:
		out.Reach = "near"
	}
	sheen := 0.0
	for i, at := range t.set {
		p := DustPart{Dust: *m.in.Dusts[at].Name, Parts: t.parts[i], Share: float64(t.parts[i]) / float64(out.TotalParts)}
		if m.in.MassG != nil {
			p.MassG = new(p.Share * *m.in.MassG)
		}
		if m.in.Dusts[at].Lustre {
			sheen += p.Share
		}
		out.Parts = append(out.Parts, p)
	}
	if sheen > 0 {
		out.SheenShare = &sheen
	}
	return out
}
