package piece

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// RerollIn asks any of three: what a sheet gives with its scraps rolled again; how
// many presses of a cutter; how often a paste may be rolled before it is too dry.
type RerollIn struct {
	CutShare         *float64 `json:"cutShare" in:"0..1"`
	LossShare        *float64 `json:"lossShare" def:"0.05" in:"share"`
	Rerolls          *int     `json:"rerolls" in:"0..50"`
	PieceG           *float64 `json:"pieceG" in:"mass"`
	Pieces           *int     `json:"pieces" in:"count"`
	PerPress         *int     `json:"perPress" in:"1..100000"`
	WaterPercent     *float64 `json:"waterPercent" in:"0..100"`
	LeastWater       *float64 `json:"leastWaterPercent" def:"8" in:"0..100"`
	WaterLossPercent *float64 `json:"waterLossPercent" def:"0.7" in:"0.001..100"`
}

// RerollOut: the share of the paste that becomes pieces; for pieces of a mass the
// paste, its least whole grams, and what each roll gives; presses and pieces over;
// how often it may be rolled.
type RerollOut struct {
	YieldShare *float64 `json:"yieldShare,omitempty"`
	PasteG     *float64 `json:"pasteG,omitempty"`
	WholeG     *float64 `json:"wholeG,omitempty"`
	PiecesMade *int     `json:"piecesMade,omitempty"`
	PerRoll    []int    `json:"perRoll,omitempty"`
	LeftG      *float64 `json:"leftG,omitempty"`
	Presses    *int     `json:"presses,omitempty"`
	Over       *int     `json:"over,omitempty"`
	MaxRerolls *int     `json:"maxRerolls,omitempty"`
}

// Reroll reckons with scraps: yield = eta (1 - q^(R+1))/(1 - q), q = (1 - eta)(1 -
// loss).
func Reroll(in RerollIn) (RerollOut, error) {
	var out RerollOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	if in.CutShare == nil && in.PerPress == nil && in.WaterPercent == nil {
		return out, fault.New(fault.Required, "cutShare", "Say the share that is cut, the pieces of one press, or the water of the paste.")
	}
	if in.CutShare != nil {
		eta := *in.CutShare
		if eta <= 0 {
			return out, fault.New(fault.OutOfRange, "cutShare", "A sheet of which nothing is cut gives nothing: over 0, up to 1.")
		}
		if in.Rerolls == nil {
			return out, fault.New(fault.Required, "rerolls", "How often may the scraps be rolled again?")
		}
		y := yield(eta, *in.LossShare, *in.Rerolls)
		out.YieldShare = &y
		if in.PieceG != nil {
			if in.Pieces == nil {
				return out, fault.New(fault.Required, "pieces", "How many pieces?")
			}
			out.PasteG = new(float64(*in.Pieces) * *in.PieceG / y)
			sheets(&out, *in.Pieces, *in.PieceG, eta, *in.LossShare, *in.Rerolls)
		}
	}
	if in.PerPress != nil {
		if in.Pieces == nil {
			return out, fault.New(fault.Required, "pieces", "How many pieces?")
		}
		n := (*in.Pieces + *in.PerPress - 1) / *in.PerPress
		out.Presses, out.Over = &n, new(n**in.PerPress-*in.Pieces)
	}
	if in.WaterPercent != nil {
		if *in.WaterPercent < *in.LeastWater {
			return out, fault.New(fault.Unreachable, "waterPercent", "It is too dry already: %.1f %% at least rolls without cracks.", *in.LeastWater)
		}
		out.MaxRerolls = new(measure.Floor((*in.WaterPercent - *in.LeastWater) / *in.WaterLossPercent))
	}
	return out, nil
}

func yield(eta, loss float64, rerolls int) float64 {
	q := (1 - eta) * (1 - loss)
	return eta * (1 - math.Pow(q, float64(rerolls+1))) / (1 - q)
}

// sheets finds the least whole grams that give n pieces, roll by roll: whole
// pieces only are cut.
func sheets(out *RerollOut, n int, pieceG, eta, loss float64, rerolls int) {
	roll := func(m float64) (made int, per []int, left float64) {
		for range rerolls + 1 {
			k := measure.Floor(m * eta / pieceG)
			made, per = made+k, append(per, k)
			m = (m - float64(k)*pieceG) * (1 - loss)
		}
		return made, per, m
	}
	lo := math.Floor(*out.PasteG) - 1
	hi := math.Max(1, math.Ceil(*out.PasteG))
	for {
		if made, _, _ := roll(hi); made >= n {
			break
		}
		lo, hi = hi, hi*2
	}
	for hi-lo > 1 {
		mid := math.Floor((lo + hi) / 2)
		if made, _, _ := roll(mid); made >= n {
			hi = mid
		} else {
			lo = mid
		}
	}
	made, per, left := roll(hi)
	out.WholeG, out.PiecesMade, out.PerRoll, out.LeftG = &hi, &made, per, &left
}
