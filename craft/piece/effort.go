package piece

import (
	"math"

	"dustyfern/craft/fault"
)

// JobIn is a job of equal pieces of which each goes a little faster than the one before,
// or minutes as they were clocked; and what a good piece of it costs. Minutes; money of one
// currency.
type JobIn struct {
	FirstMinutes   *float64 `json:"firstMinutes" in:"minutes"`
	Minutes        *float64 `json:"minutes" in:"0..1e6"`
	Pieces         *int     `json:"pieces" in:"count"`
	Learning       *float64 `json:"learning" def:"0.9" in:"0.5..1"`
	Before         *int     `json:"before" def:"0" in:"count"`
	SetupMinutes   *float64 `json:"setupMinutes" def:"0" in:"0..10080"`
	SkippedMinutes *float64 `json:"skippedMinutes" in:"0..10080"`
	Good           *int     `json:"good" in:"1..100000"`
	PasteG         *float64 `json:"pasteG" def:"0" in:"0..1e6"`
	PricePerKg     *float64 `json:"pricePerKg" def:"0" in:"0..1e9"`
	Extras         *float64 `json:"extras" def:"0" in:"0..1e9"`
	Hourly         *float64 `json:"hourly" def:"0" in:"0..1e9"`
	ToolShare      *float64 `json:"toolShare" def:"0" in:"0..1e9"`
}

// JobOut is minutes of the pieces and with setting up, what a skipped step saves, and the
// cost of a good piece.
type JobOut struct {
	PiecesMinutes *float64 `json:"piecesMinutes,omitempty"`
	Minutes       float64  `json:"minutes"`
	SavedMinutes  *float64 `json:"savedMinutes,omitempty"`
	CostPerPiece  *float64 `json:"costPerPiece,omitempty"`
}

// leastShare of its first time is the least that a piece takes (assumed).
const leastShare = 0.5

// Job reckons by the learning curve (Wright 1936, the average model). Faults: required
// (firstMinutes, pieces), contradiction (minutes).
func Job(in JobIn) (JobOut, error) {
	if err := fault.Check(&in); err != nil {
		return JobOut{}, err
	}
	var out JobOut
	switch {
	case in.FirstMinutes == nil && in.Minutes == nil:
		return out, fault.New(fault.Required, "firstMinutes", "How many minutes does the first piece take?")
	case in.FirstMinutes != nil && in.Minutes != nil:
		return out, fault.New(fault.Contradiction, "minutes", "Minutes of the first piece, or of all, not both.")
	case in.FirstMinutes != nil && in.Pieces == nil:
		return out, fault.New(fault.Required, "pieces", "How many pieces are there?")
	case in.Minutes != nil:
		out.Minutes = *in.Minutes
	default:
		shares := 0.0
		b := 1 + math.Log2(*in.Learning)
		for i := *in.Before + 1; i <= *in.Before+*in.Pieces; i++ {
			n := float64(i)
			shares += math.Max(math.Pow(n, b)-math.Pow(n-1, b), leastShare)
		}
		out.PiecesMinutes = new(shares * *in.FirstMinutes)
		if *in.Pieces > 0 {
			out.Minutes = *in.SetupMinutes + *out.PiecesMinutes
		}
		if in.SkippedMinutes != nil {
			out.SavedMinutes = new(shares * *in.SkippedMinutes)
		}
	}
	if in.Good != nil {
		out.CostPerPiece = new((*in.PasteG/1000**in.PricePerKg + *in.Extras + out.Minutes/60**in.Hourly + *in.ToolShare) / float64(*in.Good))
	}
	return out, nil
}
