package colour

import (
	"dustyfern/craft/fault"
)

// LadderIn asks for shades in equal steps between two ends.
type LadderIn struct {
	Path  *string `json:"path" def:"mix" of:"mix lab gels"`
	From  any     `json:"from"`
	To    any     `json:"to"`
	Steps *int    `json:"steps" need:"true" in:"2..20"`
	Base  PasteIn `json:"base"`
	Gels  []any   `json:"gels"`
}

// LadderOut is the shades, their places on the path, and the step between two.
type LadderOut struct {
	StepDe00 float64     `json:"stepDe00"`
	Hex      []string    `json:"hex"`
	T        []float64   `json:"t,omitempty"`
	Shades   []RecipeOut `json:"shades,omitempty"`
}

// Ladder walks from one end to the other in steps that look alike.
func Ladder(in LadderIn) (LadderOut, error) {
	if err := fault.Check(&in, "path", "steps"); err != nil {
		return LadderOut{}, err
	}
	var at func(t float64) vec3
	switch *in.Path {
	case "mix":
		for _, end := range []struct {
			v     any
			field string
		}{{in.From, "from"}, {in.To, "to"}} {
			if end.v == nil {
				return LadderOut{}, fault.New(fault.Required, end.field, "A ladder has two ends.")
			}
		}
		a, err := readPaste(in.From, "from")
		if err != nil {
			return LadderOut{}, err
		}
		b, err := readPaste(in.To, "to")
		if err != nil {
			return LadderOut{}, err
		}
		at = func(t float64) vec3 {
			p := mix([]Paste{a, b}, []float64{1 - t, t})
			return p.lab()
		}
	default:
		a, err := readColour(in.From, "from")
		if err != nil {
			return LadderOut{}, err
		}
		b, err := readColour(in.To, "to")
		if err != nil {
			return LadderOut{}, err
		}
		if *in.Path == "gels" {
			return gelLadder(&in, a, b)
		}
		at = straight(a, b)
	}
	ts, step := walk(at, *in.Steps)
	out := LadderOut{StepDe00: step, T: ts}
	for _, t := range ts {
		out.Hex = append(out.Hex, hexOf(xyzOf(at(t))))
	}
	return out, nil
}

func straight(a, b vec3) func(float64) vec3 {
	return func(t float64) (v vec3) {
		for k := range 3 {
			v[k] = a[k] + t*(b[k]-a[k])
		}
		return v
	}
}

// next is the first place after t that lies d away from it; ok is false when
// the end comes first.
func next(at func(float64) vec3, t, d float64) (float64, bool) {
	from := at(t)
	lo := t
	for k := 1; k <= 64; k++ {
		x := float64(k) / 64
		hi := t + (1-t)*x*x
		if difference(from, at(hi)).de00() >= d {
			for range 40 {
				mid := (lo + hi) / 2
				if difference(from, at(mid)).de00() >= d {
					hi = mid
				} else {
					lo = mid
				}
			}
			return hi, true
		}
		lo = hi
	}
	return 1, false
}

// walk finds the step with which n shades go from end to end.
func walk(at func(float64) vec3, n int) (ts []float64, step float64) {
	length := 0.0
	for k := range 64 {
		length += difference(at(float64(k)/64), at(float64(k+1)/64)).de00()
	}
	try := func(d float64) ([]float64, bool) {
		out := []float64{0}
		for len(out) < n {
			t, ok := next(at, out[len(out)-1], d)
			if !ok {
				return out, false
			}
			out = append(out, t)
		}
		return out, true
	}
	lo, hi := 0.0, 1.5*length/float64(n-1)
	for range 50 {
		mid := (lo + hi) / 2
		if _, ok := try(mid); ok {
			lo = mid
		} else {
			hi = mid
		}
	}
	ts, _ = try(lo)
	for len(ts) < n {
		ts = append(ts, 1)
	}
	ts[n-1] = 1
	return ts, lo
}

// gelLadder makes each shade with gels; ends out of reach give way to the
// nearest.
func gelLadder(in *LadderIn, a, b vec3) (LadderOut, error) {
	base, err := readPaste(in.Base, "base")
	if err != nil {
		return LadderOut{}, err
	}
	gels, err := readGels(in.Gels, "gels")
	if err != nil {
		return LadderOut{}, err
	}
	best := func(target vec3, gels []Gel) (recipe, *solver) {
		s := newSolver(target, &base, gels)
		all, _ := s.solve(false)
		return all[0], s
	}
	used := map[string]bool{}
	note := func(r recipe) {
		for _, g := range r.gels {
			used[gels[g].Name] = true
		}
	}
	for _, end := range []*vec3{&a, &b} {
		r, _ := best(*end, gels)
		note(r)
		if difference(r.lab, *end).de00() > 2 {
			*end = r.lab
		}
	}
	at := straight(a, b)
	middle, _ := best(at(0.5), gels)
	note(middle)
	var few []Gel
	for _, g := range gels {
		if used[g.Name] {
			few = append(few, g)
		}
	}
	ts, step := walk(at, *in.Steps)
	out := LadderOut{StepDe00: step, Shades: []RecipeOut{}}
	for _, t := range ts {
		r, s := best(at(t), gels)
		if len(few) > 0 {
			if r2, s2 := best(at(t), few); r2.score <= r.score+0.5 {
				r, s = r2, s2
			}
		}
		x := s.says(r)
		out.Shades, out.Hex = append(out.Shades, x), append(out.Hex, x.Hex)
	}
	return out, nil
}
