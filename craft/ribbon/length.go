package ribbon

import (
	"math"

	"dustyfern/craft/fault"
)

// BowIn is a bow of two loops with tails and knot, or loops folded of one ribbon; mm.
type BowIn struct {
	Kind        *string  `json:"kind" def:"tied" of:"tied folded"`
	LoopMM      *float64 `json:"loopMM" in:"length"`
	TailMM      *float64 `json:"tailMM" def:"0" in:"0..10000"`
	WidthMM     *float64 `json:"widthMM" in:"length"`
	ThicknessMM *float64 `json:"thicknessMM" in:"thickness"`
	PinchMM     *float64 `json:"pinchMM" def:"10" in:"gap"`
	OverlapMM   *float64 `json:"overlapMM" def:"5" in:"gap"`
	Loops       *int     `json:"loops" in:"count"`
}

// BowOut is what is cut: each loop and tail, the knot, and all of it together; mm.
type BowOut struct {
	LoopStripMM *float64 `json:"loopStripMM,omitempty"`
	TailStripMM *float64 `json:"tailStripMM,omitempty"`
	KnotStripMM *float64 `json:"knotStripMM,omitempty"`
	TotalMM     float64  `json:"totalMM"`
}

// waistShare of a ribbon's width is left where it is pinched (assumed).
const waistShare = 0.35

// Bow says how long the strips of a bow are: a loop takes twice its length. Faults:
// required.
func Bow(in BowIn) (BowOut, error) {
	var out BowOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	if in.LoopMM == nil {
		return out, missing("loopMM", "How long is a loop, pinch to bend?")
	}
	if *in.Kind == "folded" {
		if in.Loops == nil {
			return out, missing("loops", "How many loops?")
		}
		if *in.Loops > 0 {
			out.TotalMM = 2*float64(*in.Loops)**in.LoopMM + *in.PinchMM
		}
		return out, nil
	}
	switch {
	case in.WidthMM == nil:
		return out, missing("widthMM", "How wide is the ribbon?")
	case in.ThicknessMM == nil:
		return out, missing("thicknessMM", "How thick is it rolled?")
	}
	loop, tail := 2**in.LoopMM+*in.PinchMM, 0.0
	if *in.TailMM > 0 {
		tail = *in.TailMM + *in.PinchMM
	}
	waist := waistShare * *in.WidthMM
	height := 2 * *in.WidthMM * *in.ThicknessMM / waist // two layers keep their cross-section
	knot := 2*(waist+height) + *in.OverlapMM
	return BowOut{&loop, &tail, &knot, 2*loop + 2*tail + knot}, nil
}

// LengthIn asks for the ribbon of a rose, a ruffle or a coil round a tier, for the size
// of a spool, or for what a strip becomes when it is rolled thinner. Lengths in mm.
type LengthIn struct {
	Kind          *string  `json:"kind" need:"true" of:"rose ruffle coil spool rolled"`
	ThicknessMM   *float64 `json:"thicknessMM" in:"thickness"`
	Folded        *bool    `json:"folded" def:"false"`
	Slack         *float64 `json:"slack" def:"1.3" in:"1..10"`
	CoreRadiusMM  *float64 `json:"coreRadiusMM" def:"1" in:"0..500"`
	Turns         *float64 `json:"turns" in:"0.01..100"`
	RibbonMM      *float64 `json:"ribbonMM" in:"length"`
	FinishedMM    *float64 `json:"finishedMM" in:"length"`
	Fullness      *float64 `json:"fullness" def:"2" in:"1..6"`
	Joins         *int     `json:"joins" def:"0" in:"count"`
	OverlapMM     *float64 `json:"overlapMM" def:"0" in:"gap"`
	DiameterMM    *float64 `json:"diameterMM" in:"length"`
	LengthMM      *float64 `json:"lengthMM" in:"length"`
	ToThicknessMM *float64 `json:"toThicknessMM" in:"thickness"`
	Spread        *float64 `json:"spread" def:"1" in:"0.8..2"`
}

// LengthOut: the ribbon's length; of a rose its turns and width across, and beside a
// length from turns the rule of thumb; of a spool its width across. All in mm.
type LengthOut struct {
	RibbonMM   *float64 `json:"ribbonMM,omitempty"`
	Turns      *float64 `json:"turns,omitempty"`
	DiameterMM *float64 `json:"diameterMM,omitempty"`
	ApproxMM   *float64 `json:"approxMM,omitempty"`
}

// Length answers by its kind. Faults: required, contradiction (toThicknessMM thicker than
// before; turns and ribbonMM together).
func Length(in LengthIn) (LengthOut, error) {
	if err := fault.Check(&in); err != nil {
		return LengthOut{}, err
	}
	need := func(p *float64, field, ask string) error {
		if p == nil {
			return missing(field, ask)
		}
		return nil
	}
	thick := func() error { return need(in.ThicknessMM, "thicknessMM", "How thick is the sheet?") }
	first := func(errs ...error) error {
		for _, err := range errs {
			if err != nil {
				return err
			}
		}
		return nil
	}
	switch *in.Kind {
	case "rose":
		return rose(in)
	case "ruffle":
		if err := need(in.FinishedMM, "finishedMM", "How long is the finished ruffle?"); err != nil {
			return LengthOut{}, err
		}
		return LengthOut{RibbonMM: new(*in.FinishedMM**in.Fullness + float64(*in.Joins)**in.OverlapMM)}, nil
	case "coil":
		if err := first(need(in.DiameterMM, "diameterMM", "How wide is the coated tier?"), thick()); err != nil {
			return LengthOut{}, err
		}
		return LengthOut{RibbonMM: new(math.Pi*(*in.DiameterMM+*in.ThicknessMM) + *in.OverlapMM)}, nil
	case "spool":
		if err := first(need(in.LengthMM, "lengthMM", "How long is the ribbon?"), thick(), need(in.DiameterMM, "diameterMM", "How thick is the core?")); err != nil {
			return LengthOut{}, err
		}
		return LengthOut{DiameterMM: new(math.Sqrt(*in.DiameterMM**in.DiameterMM + 4**in.LengthMM**in.ThicknessMM/math.Pi))}, nil
	}
	if err := first(need(in.LengthMM, "lengthMM", "How long is the strip?"), thick(), need(in.ToThicknessMM, "toThicknessMM", "How thin is it rolled?")); err != nil {
		return LengthOut{}, err
	}
	if *in.ToThicknessMM > *in.ThicknessMM+slack {
		return LengthOut{}, fault.New(fault.Contradiction, "toThicknessMM", "Rolling never thickens: at most %g mm.", *in.ThicknessMM)
	}
	return LengthOut{RibbonMM: new(*in.LengthMM * *in.ThicknessMM / (*in.ToThicknessMM * *in.Spread))}, nil
}

// rose winds a ribbon from a core outward, layer on layer with some slack.
func rose(in LengthIn) (LengthOut, error) {
	switch {
	case in.ThicknessMM == nil:
		return LengthOut{}, missing("thicknessMM", "How thick is the sheet?")
	case in.Turns == nil && in.RibbonMM == nil:
		return LengthOut{}, missing("turns", "How many turns, or how long is the ribbon?")
	case in.Turns != nil && in.RibbonMM != nil:
		return LengthOut{}, fault.New(fault.Contradiction, "ribbonMM", "Turns or a length, not both.")
	}
	layer := *in.ThicknessMM
	if *in.Folded {
		layer *= 2
	}
	p, r0 := *in.Slack*layer, *in.CoreRadiusMM
	if in.RibbonMM != nil {
		n := (math.Sqrt(r0*r0+p**in.RibbonMM/math.Pi) - r0) / p
		return LengthOut{RibbonMM: in.RibbonMM, Turns: &n, DiameterMM: new(2 * (r0 + n*p))}, nil
	}
	n := *in.Turns
	b := p / (2 * math.Pi)
	g := func(f float64) float64 { return b / 2 * (f*math.Sqrt(1+f*f) + math.Asinh(f)) }
	l := g(r0/b+2*math.Pi*n) - g(r0/b)
	return LengthOut{RibbonMM: &l, Turns: &n, DiameterMM: new(2 * (r0 + n*p)), ApproxMM: new(math.Pi * n * (2*r0 + n*p))}, nil
}
