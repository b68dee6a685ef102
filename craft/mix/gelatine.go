// Package mix is what is mixed on the stove and beside it: the gelatine of a home-made
// mould and the syrup that is poured. See docs/models/quantity.md, section 12.
package mix

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

func missing(field, ask string) error { return fault.New(fault.Required, field, "%s", ask) }

// GelatineIn asks for the mix of a mould: by its volume, or by the model that is boxed in;
// and for the pulls after which a home-made mould has cost as much as a bought one. Costs
// are of one currency.
type GelatineIn struct {
	NeededML        *float64 `json:"neededML" in:"0.001..5000"`
	LengthMM        *float64 `json:"lengthMM" in:"length"`
	WidthMM         *float64 `json:"widthMM" in:"length"`
	DiameterMM      *float64 `json:"diameterMM" in:"length"`
	HeightMM        *float64 `json:"heightMM" in:"length"`
	ObjectML        *float64 `json:"objectML" in:"0.001..5000"`
	MarginMM        *float64 `json:"marginMM" def:"8" in:"1..50"`
	LossShare       *float64 `json:"lossShare" def:"0.05" in:"share"`
	Spoons          *string  `json:"spoons" def:"metric" of:"us metric au"`
	SachetG         *float64 `json:"sachetG" in:"1..50"`
	Remelts         *int     `json:"remelts" in:"0..6"`
	BoughtCost      *float64 `json:"boughtCost" in:"0..1e9"`
	MixCost         *float64 `json:"mixCost" in:"0..1e9"`
	RemeltCost      *float64 `json:"remeltCost" in:"0.000001..1e9"`
	PullsPerCasting *int     `json:"pullsPerCasting" def:"20" in:"1..100000"`
}

// GelatineOut: ml that are cast and that one unit makes, units in quarters, grams of each,
// sachets, what is kept after remelts, and the pulls at which it has cost as much as a
// bought mould.
type GelatineOut struct {
	NeededML       *float64 `json:"neededML,omitempty"`
	BatchML        *float64 `json:"batchML,omitempty"`
	Units          *float64 `json:"units,omitempty"`
	WaterG         *float64 `json:"waterG,omitempty"`
	GlycerineG     *float64 `json:"glycerineG,omitempty"`
	GelatineG      *float64 `json:"gelatineG,omitempty"`
	Sachets        *float64 `json:"sachets,omitempty"`
	KeptShare      *float64 `json:"keptShare,omitempty"`
	BreakEvenPulls *int     `json:"breakEvenPulls,omitempty"`
}

// One unit: a tablespoon of water, two of glycerine, two of powder (usual in the trade);
// powder fills its mass / 1.35, a remelt keeps 0.97 of it (assumed).
const (
	waterTbsp, glycerineTbsp, gelatineTbsp = 1.0, 2.0, 2.0
	gelatineSet                            = 1.35
	keptPerRemelt                          = 0.97
	unitStep                               = 0.25
)

// Gelatine scales the mix. Faults: required, contradiction (objectML larger than its own
// box or cylinder; heightMM with neededML; lengthMM with diameterMM).
func Gelatine(in GelatineIn) (GelatineOut, error) {
	var out GelatineOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	model := in.HeightMM != nil || in.ObjectML != nil || in.LengthMM != nil || in.WidthMM != nil || in.DiameterMM != nil
	costs := in.BoughtCost != nil || in.MixCost != nil || in.RemeltCost != nil
	if in.NeededML == nil && !model && !costs {
		return out, missing("neededML", "How many ml are cast, or how large is the model?")
	}
	if in.NeededML != nil || model {
		ml, err := in.needed(model)
		if err != nil {
			return out, err
		}
		tbsp := measure.SpoonSchools[*in.Spoons].Tbsp
		rho := func(code string) float64 { return measure.Densities[code].Nominal }
		batch := tbsp * (waterTbsp + glycerineTbsp + gelatineTbsp*rho("gelatine")/gelatineSet)
		units := unitStep * math.Ceil(ml*(1+*in.LossShare)/batch/unitStep-1e-9)
		gelatine := units * gelatineTbsp * tbsp * rho("gelatine")
		out = GelatineOut{NeededML: &ml, BatchML: &batch, Units: &units, WaterG: new(units * waterTbsp * tbsp * rho("water")),
			GlycerineG: new(units * glycerineTbsp * tbsp * rho("glycerine")), GelatineG: &gelatine}
		if in.SachetG != nil {
			out.Sachets = new(gelatine / *in.SachetG)
		}
	}
	if in.Remelts != nil {
		out.KeptShare = new(math.Pow(keptPerRemelt, float64(*in.Remelts)))
	}
	if costs {
		for _, x := range []struct {
			p    *float64
			name string
		}{{in.BoughtCost, "boughtCost"}, {in.MixCost, "mixCost"}, {in.RemeltCost, "remeltCost"}} {
			if x.p == nil {
				return out, missing(x.name, "A bought mould, the mix and a remelt: what does each cost?")
			}
		}
		out.BreakEvenPulls = new(0)
		if over := *in.BoughtCost - *in.MixCost; over >= 0 {
			casts := math.Floor(over / *in.RemeltCost + 1e-9)
			if casts > 1e6 {
				return out, fault.New(fault.OutOfRange, "remeltCost", "A remelt that costs next to nothing never comes to the price of a bought mould.")
			}
			out.BreakEvenPulls = new(*in.PullsPerCasting * (1 + int(casts)))
		}
	}
	return out, nil
}

// needed is how many ml the box or ring round a model takes.
func (in *GelatineIn) needed(model bool) (float64, error) {
	if in.NeededML != nil {
		if model {
			return 0, fault.New(fault.Contradiction, "heightMM", "The ml that are cast, or the model, not both.")
		}
		return *in.NeededML, nil
	}
	round := in.DiameterMM != nil
	switch {
	case in.HeightMM == nil:
		return 0, missing("heightMM", "How high is the model?")
	case round && (in.LengthMM != nil || in.WidthMM != nil):
		return 0, fault.New(fault.Contradiction, "lengthMM", "Length and width, or the width across, not both.")
	case !round && in.LengthMM == nil:
		return 0, missing("lengthMM", "How long is the model?")
	case !round && in.WidthMM == nil:
		return 0, missing("widthMM", "How wide is the model?")
	case in.ObjectML == nil:
		return 0, missing("objectML", "How large is the model: how much water does it push up?")
	}
	m, h, v := *in.MarginMM, *in.HeightMM, *in.ObjectML
	own, box := 0.0, 0.0
	if round {
		d := *in.DiameterMM
		own, box = math.Pi/4*d*d*h/1000, math.Pi/4*(d+2*m)*(d+2*m)*(h+m)/1000
	} else {
		l, w := *in.LengthMM, *in.WidthMM
		own, box = l*w*h/1000, (l+2*m)*(w+2*m)*(h+m)/1000
	}
	if v > own+1e-9 {
		return 0, fault.New(fault.Contradiction, "objectML", "A model of these sizes holds %.1f ml at most.", own)
	}
	return box - v, nil
}
