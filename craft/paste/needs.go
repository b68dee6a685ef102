package paste

import (
	"math"

	"dustyfern/craft/fault"
)

// Stored is what lies on the shelf under a name. HaveG absent is endless.
type Stored struct {
	Name  *string  `json:"name" need:"true"`
	HaveG *float64 `json:"haveG" in:"0..50000"`
}

// Want is grams of a name, for something.
type Want struct {
	Name  *string  `json:"name" need:"true"`
	MassG *float64 `json:"massG" need:"true" in:"mass"`
	For   *string  `json:"for"`
}

// NeedsIn is what is there and what is wanted, in the order of the plan.
type NeedsIn struct {
	Stock []Stored `json:"stock"`
	Wants []Want   `json:"wants" need:"true" most:"500"`
}

// NeedRow is one want: there in all is the whole stock of its name, there for
// it is what earlier wants have left (not cut to what is wanted).
type NeedRow struct {
	Name        string   `json:"name"`
	For         *string  `json:"for,omitempty"`
	WantedG     float64  `json:"wantedG"`
	ThereInAllG *float64 `json:"thereInAllG,omitempty"`
	ThereForItG *float64 `json:"thereForItG,omitempty"`
	TakesG      float64  `json:"takesG"`
	ShortG      float64  `json:"shortG"`
}

// NeedsOut is every want as it fares, and what is short by name.
type NeedsOut struct {
	Rows  []NeedRow `json:"rows"`
	Short []Use     `json:"short"`
}

// Needs claims stock in the order of the plan: who comes first is served first.
func Needs(in NeedsIn) (NeedsOut, error) {
	if err := fault.Check(&in); err != nil {
		return NeedsOut{}, err
	}
	whole, left := map[string]float64{}, map[string]float64{}
	for _, s := range in.Stock {
		g := math.Inf(1)
		if s.HaveG != nil {
			g = *s.HaveG
		}
		whole[*s.Name] += g
		left[*s.Name] += g
	}
	out := NeedsOut{Rows: []NeedRow{}, Short: []Use{}}
	short := map[string]int{}
	for _, w := range in.Wants {
		name, want := *w.Name, *w.MassG
		r := NeedRow{Name: name, For: w.For, WantedG: want, TakesG: math.Min(want, left[name])}
		if !math.IsInf(whole[name], 1) {
			r.ThereInAllG, r.ThereForItG = new(whole[name]), new(left[name])
			left[name] -= r.TakesG
		}
		if r.ShortG = want - r.TakesG; r.ShortG > 0 {
			i, seen := short[name]
			if !seen {
				i = len(out.Short)
				short[name], out.Short = i, append(out.Short, Use{Name: name})
			}
			out.Short[i].MassG += r.ShortG
		}
		out.Rows = append(out.Rows, r)
	}
	return out, nil
}
