package ribbon

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// StripsIn asks how many strips a sheet gives, how many pieces are made before it skins
// over, or both. Lengths in mm.
type StripsIn struct {
	SheetWidthMM  *float64 `json:"sheetWidthMM" in:"length"`
	SheetLengthMM *float64 `json:"sheetLengthMM" in:"length"`
	StripWidthMM  *float64 `json:"stripWidthMM" in:"length"`
	StripLengthMM *float64 `json:"stripLengthMM" in:"length"`
	TrimMM        *float64 `json:"trimMM" def:"0" in:"0..500"`
	OpenMinutes   *float64 `json:"openMinutes" in:"minutes"`
	SetupMinutes  *float64 `json:"setupMinutes" def:"0" in:"0..10080"`
	EachMinutes   *float64 `json:"eachMinutes" in:"minutes"`
	Pieces        *int     `json:"pieces" in:"count"`
}

// StripsOut: strips of one sheet, the better of both ways round; pieces before it skins,
// and in how many batches all of them are made.
type StripsOut struct {
	StripsPerSheet *int `json:"stripsPerSheet,omitempty"`
	PerBatch       *int `json:"perBatch,omitempty"`
	Batches        *int `json:"batches,omitempty"`
}

// Strips counts strips. Faults: required, unreachable (openMinutes: not one piece).
func Strips(in StripsIn) (StripsOut, error) {
	var out StripsOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	sheet := in.SheetWidthMM != nil || in.SheetLengthMM != nil || in.StripWidthMM != nil || in.StripLengthMM != nil
	if !sheet && in.OpenMinutes == nil {
		return out, missing("sheetWidthMM", "How wide is the sheet, or for how many minutes does it stay open?")
	}
	if sheet {
		for _, x := range []struct {
			p         *float64
			name, ask string
		}{
			{in.SheetWidthMM, "sheetWidthMM", "How wide is the sheet?"}, {in.SheetLengthMM, "sheetLengthMM", "How long is the sheet?"},
			{in.StripWidthMM, "stripWidthMM", "How wide is a strip?"}, {in.StripLengthMM, "stripLengthMM", "How long is a strip?"},
		} {
			if x.p == nil {
				return out, missing(x.name, x.ask)
			}
		}
		w, l := *in.SheetWidthMM-2**in.TrimMM, *in.SheetLengthMM-2**in.TrimMM
		along := func(a, b float64) int {
			return max(0, measure.Floor(a / *in.StripWidthMM)) * max(0, measure.Floor(b / *in.StripLengthMM))
		}
		out.StripsPerSheet = new(0)
		if w > 0 && l > 0 {
			out.StripsPerSheet = new(max(along(w, l), along(l, w)))
		}
	}
	if in.OpenMinutes != nil {
		switch {
		case in.EachMinutes == nil:
			return out, missing("eachMinutes", "How many minutes does one piece take?")
		case in.Pieces == nil:
			return out, missing("pieces", "How many pieces are there?")
		}
		per := measure.Floor((*in.OpenMinutes - *in.SetupMinutes) / *in.EachMinutes)
		if per < 1 {
			return out, fault.New(fault.Unreachable, "openMinutes", "It skins over before one is done: one takes %g minutes after %g of setting up.", *in.EachMinutes, *in.SetupMinutes)
		}
		out.PerBatch, out.Batches = &per, new(int(math.Ceil(float64(*in.Pieces)/float64(per)-slack)))
	}
	return out, nil
}
