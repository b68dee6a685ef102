package measure

import (
	"strings"

	"dustyfern/craft/fault"
)

func (p *parser) dimension(u string) string {
	switch {
	case u == "":
		return "count"
	case u == "c?" || u == "deg?" || u == "C" || u == "F":
		return "temperature"
	case strings.HasPrefix(u, "pack:"):
		return "mass"
	case u == "overnight":
		return "time"
	}
	return unitWords[u].dimension
}

// answer turns what was read into one amount or into its choices.
func (p *parser) answer(sum []amount, ingredient string) (Parsed, *fault.Fault) {
	out := Parsed{Approximate: p.approx, Ingredient: ingredient}
	want, a := *p.in.Want, sum[0]
	if len(sum) == 1 {
		switch {
		case a.colon && a.unit != "":
			return out, bad(fault.Syntax, "A ratio such as 1:2 has no unit.")
		case strings.HasPrefix(a.unit, "pack:"):
			return p.pack(out, a)
		case a.unit == "c?":
			return p.bareC(out, a)
		case a.unit == "deg?":
			if want != "any" && want != "temperature" {
				return out, p.otherKind("temperature")
			}
			return p.choose(out, p.reading("C", a), p.reading("F", a))
		case a.unit == "pinch" || a.unit == "pinches":
			return p.pinch(out, a)
		case a.unit == "":
			return p.bare(out, a)
		}
	}
	var lo, hi float64
	dim := p.dimension(a.unit)
	for _, s := range sum {
		l, h := p.canonical(s)
		lo, hi = lo+l, hi+h
	}
	if a.unit == "overnight" {
		return p.settle(out, dim, 600, lo, hi)
	}
	for _, s := range sum {
		switch s.unit {
		case "drop", "drops", "dash", "dashes", "smidgen", "smidgens", "smidgeon", "smidgeons":
			out.Approximate = true
		}
	}
	return p.settle(out, dim, (lo+hi)/2, lo, hi)
}

// canonical gives the ends of an amount in the unit of its dimension.
func (p *parser) canonical(a amount) (lo, hi float64) {
	convert := func(x float64) float64 {
		switch a.unit {
		case "C", "celsius", "centigrade":
			return x
		case "F", "fahrenheit":
			return (x - 32) / 1.8
		case "overnight":
			return x
		}
		return x * a.factor * unitWords[a.unit].of(p.spoons)
	}
	return convert(a.lo), convert(a.hi)
}

func (p *parser) otherKind(got string) *fault.Fault {
	return bad(fault.Contradiction, "A %s is wanted here, and this is a %s.", *p.in.Want, got)
}

// settle ends with one amount, after the guards.
func (p *parser) settle(out Parsed, dim string, value, lo, hi float64) (Parsed, *fault.Fault) {
	if want := *p.in.Want; want != "any" && want != dim {
		if dim == "count" {
			return out, bad(fault.Required, "The unit is missing: say what the number counts, such as %s.", map[string]string{
				"mass": "4.2 g", "volume": "1 tsp", "length": "18 mm", "temperature": "21 °C", "time": "8 min", "share": "30 %"}[want])
		}
		return out, p.otherKind(dim)
	}
	if f := legal(dim, lo); f != nil {
		return out, f
	}
	if f := legal(dim, hi); f != nil {
		return out, f
	}
	out.Dimension, out.Unit = dim, canonical[dim]
	out.Value, out.Low, out.High = &value, &lo, &hi
	return out, nil
}

func legal(dim string, x float64) *fault.Fault {
	switch {
	case dim == "temperature" && x < -273.15:
		return bad(fault.OutOfRange, "Nothing is colder than -273.15 °C.")
	case dim != "temperature" && x < 0:
		return bad(fault.OutOfRange, "An amount is not below zero.")
	case x > 1e7:
		return bad(fault.OutOfRange, "That is more than any kitchen holds: at most 10,000,000.")
	case dim == "share" && x > 1+1e-12:
		return bad(fault.OutOfRange, "A share is at most 1, or 100 %%.")
	}
	return nil
}

// reading is the amount read in the unit u, as a choice.
func (p *parser) reading(u string, a amount) Choice {
	a.unit = u
	lo, hi := p.canonical(a)
	dim := p.dimension(u)
	says := map[string]string{"C": "degrees Celsius", "F": "degrees Fahrenheit", "cup": "cups"}[u]
	return Choice{Dimension: dim, Value: (lo + hi) / 2, Unit: canonical[dim], Says: says}
}

// choose offers readings; one that breaks a guard falls away, and a single
// one that is left is the answer.
func (p *parser) choose(out Parsed, choices ...Choice) (Parsed, *fault.Fault) {
	var legals []Choice
	var first *fault.Fault
	for _, c := range choices {
		if f := legal(c.Dimension, c.Value); f == nil {
			legals = append(legals, c)
		} else if first == nil {
			first = f
		}
	}
	switch len(legals) {
	case 0:
		return out, first
	case 1:
		c := legals[0]
		return p.settle(out, c.Dimension, c.Value, c.Value, c.Value)
	}
	out.Ambiguous, out.Choices = true, legals
	return out, nil
}

func (p *parser) bareC(out Parsed, a amount) (Parsed, *fault.Fault) {
	cups, celsius := a, a
	cups.unit, celsius.unit = "cup", "C"
	switch want := *p.in.Want; {
	case want == "volume" || want == "any" && out.Ingredient != "":
		lo, hi := p.canonical(cups)
		return p.settle(out, "volume", (lo+hi)/2, lo, hi)
	case want == "temperature":
		return p.settle(out, "temperature", (a.lo+a.hi)/2, a.lo, a.hi)
	case want != "any":
		return out, p.otherKind("volume or a temperature")
	}
	return p.choose(out, p.reading("cup", a), p.reading("C", a))
}

func (p *parser) pinch(out Parsed, a amount) (Parsed, *fault.Fault) {
	out.Approximate = true
	if want := *p.in.Want; want != "any" && want != "volume" {
		return out, p.otherKind("volume")
	}
	n := (a.lo + a.hi) / 2 * a.factor
	if p.in.PinchTsp != nil {
		v := *p.in.PinchTsp * p.spoons.Tsp
		return p.settle(out, "volume", n*v, a.lo*a.factor*v/2, a.hi*a.factor*v*2)
	}
	return p.choose(out,
		Choice{"volume", n * p.spoons.Tsp / 16, "ml", "1/16 tsp to the pinch"},
		Choice{"volume", n * p.spoons.Tsp / 8, "ml", "1/8 tsp to the pinch"})
}

// bare is a number without a unit: a count, a share, or a mixing ratio.
func (p *parser) bare(out Parsed, a amount) (Parsed, *fault.Fault) {
	want := *p.in.Want
	value := (a.lo + a.hi) / 2
	ratio := a.ratioB != 0 && (a.colon || a.ratioA == a.ratioB || a.ratioA+a.ratioB == 100)
	if want == "share" {
		switch {
		case value < 0:
			return out, legal("share", value)
		case ratio:
			s := a.ratioA / (a.ratioA + a.ratioB)
			return p.settle(out, "share", s, s, s)
		case a.ratioB == 0 && value > 1:
			if f := legal("count", value); f != nil {
				return out, f
			}
			out.Ambiguous = true
			if value <= 100 {
				out.Choices = append(out.Choices, Choice{"share", value / 100, "share", "per cent"})
			}
			out.Choices = append(out.Choices, Choice{"share", value / (value + 1), "share", "parts to one"})
			return out, nil
		}
		return p.settle(out, "share", value, a.lo, a.hi)
	}
	if ratio && want == "any" && value >= 0 {
		out.Ambiguous = true
		out.Choices = []Choice{
			{"share", a.ratioA / (a.ratioA + a.ratioB), "share", "mixing ratio"},
			{"count", value, "count", "number"},
		}
		return out, nil
	}
	return p.settle(out, "count", value, a.lo, a.hi)
}

func (p *parser) pack(out Parsed, a amount) (Parsed, *fault.Fault) {
	pack := strings.TrimPrefix(a.unit, "pack:")
	want := *p.in.Want
	n := (a.lo + a.hi) / 2 * a.factor
	if p.gelatine && out.Ingredient == "" {
		out.Ingredient = "gelatine"
	}
	if want == "count" {
		return p.settle(out, "count", n, a.lo, a.hi)
	}
	if want != "any" && want != "mass" {
		return out, p.otherKind("mass")
	}
	if g, ok := p.in.UnitGrams[pack]; ok {
		return p.settle(out, "mass", n*g, a.lo*a.factor*g, a.hi*a.factor*g)
	}
	if f := legal("count", n); f != nil {
		return out, f
	}
	out.Ambiguous, out.GramsEach, out.Count, out.Choices = true, pack, &n, []Choice{}
	for _, g := range packGrams(pack, p.gelatine) {
		out.Choices = append(out.Choices, Choice{"mass", n * g, "g", FormatMass(g) + " each"})
	}
	if want == "any" && out.Ingredient == "" {
		out.Choices = append(out.Choices, Choice{"count", n, "count", "pieces"})
	}
	return out, nil
}
