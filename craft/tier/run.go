// Package tier is the arithmetic of what goes round, along and between on a tier:
// its run, bands in layers, even spacing, studs, hanging strings, the marks of a
// strip. See docs/models/quantity.md, 9.
package tier

import (
	"math"

	"dustyfern/craft/fault"
)

// RunIn is a tier by its shape and the measures of that shape, bare, with the
// coating of each side.
type RunIn struct {
	Shape         *string  `json:"shape" need:"true" of:"round square rectangle regular petal other"`
	DiameterMM    *float64 `json:"diameterMM" in:"length"`
	SideMM        *float64 `json:"sideMM" in:"length"`
	LengthMM      *float64 `json:"lengthMM" in:"length"`
	WidthMM       *float64 `json:"widthMM" in:"length"`
	Sides         *int     `json:"sides" in:"3..100"`
	AcrossFlatsMM *float64 `json:"acrossFlatsMM" in:"length"`
	Lobes         *int     `json:"lobes" in:"4..24"`
	PerimeterMM   *float64 `json:"perimeterMM" in:"length"`
	CoatingMM     *float64 `json:"coatingMM" def:"0" in:"0..100"`
	CornerMM      *float64 `json:"cornerMM" in:"0..10000"`
}

// RunOut is the way once round the coated tier.
type RunOut struct {
	RunMM float64 `json:"runMM"`
}

// Run gives the length of the line round a coated tier. A coating goes round a
// corner in an arc only where the corner was rounded: squares keep their edge.
func Run(in RunIn) (RunOut, error) {
	if err := fault.Check(&in); err != nil {
		return RunOut{}, err
	}
	c := *in.CoatingMM
	var run float64
	switch *in.Shape {
	case "round":
		if in.DiameterMM == nil {
			return RunOut{}, missing("diameterMM", "How wide is the tier, bare?")
		}
		run = math.Pi * (*in.DiameterMM + 2*c)
	case "square", "rectangle":
		a, b := in.LengthMM, in.WidthMM
		if *in.Shape == "square" {
			if a, b = in.SideMM, in.SideMM; a == nil {
				return RunOut{}, missing("sideMM", "How long is a side, bare?")
			}
		}
		if a == nil {
			return RunOut{}, missing("lengthMM", "How long is the tier, bare?")
		}
		if b == nil {
			return RunOut{}, missing("widthMM", "How wide is the tier, bare?")
		}
		r := 0.0
		if in.CornerMM != nil {
			r = *in.CornerMM
		}
		if most := (math.Min(*a, *b) + 2*c) / 2; r > most+slack {
			return RunOut{}, fault.New(fault.Contradiction, "cornerMM", "A corner is rounded by at most half of the coated short side, %.1f mm.", most)
		}
		run = 2*(*a+*b+4*c) - (8-2*math.Pi)*r
	case "regular":
		if in.Sides == nil {
			return RunOut{}, missing("sides", "How many sides?")
		}
		if in.AcrossFlatsMM == nil {
			return RunOut{}, missing("acrossFlatsMM", "How wide is the tier from flat to flat, bare?")
		}
		n := float64(*in.Sides)
		run = n * (*in.AcrossFlatsMM + 2*c) * math.Tan(math.Pi/n)
	case "petal":
		if in.Lobes == nil {
			return RunOut{}, missing("lobes", "How many lobes?")
		}
		if in.DiameterMM == nil {
			return RunOut{}, missing("diameterMM", "How wide is the tier over all, bare?")
		}
		run = petal(*in.Lobes, *in.DiameterMM, c)
	case "other":
		if in.PerimeterMM == nil {
			return RunOut{}, missing("perimeterMM", "How long is the line round the bare tier?")
		}
		run = *in.PerimeterMM + 2*math.Pi*c // Steiner, of any convex outline
	}
	return RunOut{run}, nil
}

// petal is the run of n half-round lobes on the sides of a regular n-gon, d wide
// over all, coated by c: the valleys fill, so that it hardly grows with c.
func petal(n int, d, c float64) float64 {
	al := math.Pi / float64(n)
	rv := d / 2 / (math.Cos(al) + math.Sin(al))
	rc := rv * math.Cos(al)
	rho := rv*math.Sin(al) + c
	s := rc*math.Cos(al) + math.Sqrt(rho*rho-rc*rc*math.Sin(al)*math.Sin(al))
	be := math.Atan2(s*math.Sin(al), s*math.Cos(al)-rc)
	return 2 * float64(n) * be * rho
}

// slack of a comparison of lengths, mm.
const slack = 1e-9

func missing(field, ask string) error { return fault.New(fault.Required, field, "%s", ask) }

// MarksIn asks for even marks along a strip that is printed on pages.
type MarksIn struct {
	RunMM  *float64 `json:"runMM" need:"true" in:"length"`
	Count  *int     `json:"count" need:"true" in:"1..1000"`
	PageMM *float64 `json:"pageMM" def:"277" in:"length"`
	LapMM  *float64 `json:"lapMM" def:"10" in:"0..10000"`
	BarMM  *float64 `json:"barMM" in:"50..200"`
}

// MarksOut is where the marks stand, mm from the start, and on how many pages;
// PrintScale is what a bar of 100 mm says about the printer.
type MarksOut struct {
	MarksMM    []float64 `json:"marksMM"`
	Pages      int       `json:"pages"`
	PrintScale *float64  `json:"printScale,omitempty"`
}

// Marks rounds each mark by itself to half a millimetre, so that nothing drifts.
func Marks(in MarksIn) (MarksOut, error) {
	if err := fault.Check(&in); err != nil {
		return MarksOut{}, err
	}
	if *in.LapMM >= *in.PageMM {
		return MarksOut{}, fault.New(fault.Contradiction, "lapMM", "Pages overlap by less than their length, %.0f mm.", *in.PageMM)
	}
	out := MarksOut{Pages: max(1, ceil((*in.RunMM-*in.LapMM)/(*in.PageMM-*in.LapMM)))}
	for i := range *in.Count {
		out.MarksMM = append(out.MarksMM, half(*in.RunMM*float64(i)/float64(*in.Count)))
	}
	if in.BarMM != nil {
		out.PrintScale = new(100 / *in.BarMM)
	}
	return out, nil
}
