package outline

import (
	"math"

	"dustyfern/craft/fault"
)

// The one table of limits for templates, mm (assumed): inset of an under-layer
// where another colour covers it, border of a backing, least width of a slim part.
var (
	insetMM  = [3]float64{2, 2, 3} // usual, low, high
	borderMM = [3]float64{4, 3, 5}
)

// slimTimes is how much wider than thick the slimmest part is (assumed).
const slimTimes = 2

// LimitsIn asks for the limits of a template, and whether a part is too slim.
type LimitsIn struct {
	ThicknessMM *float64 `json:"thicknessMM" in:"thickness"`
	InsetMM     *float64 `json:"insetMM" def:"2" in:"0..1000"`
	BorderMM    *float64 `json:"borderMM" def:"4" in:"0..1000"`
	SlimMM      *float64 `json:"slimMM" def:"3" in:"0..1000"`
	WidthMM     *float64 `json:"widthMM" in:"length"`
}

// LimitsOut is what holds, what is usual, and the verdict on the part.
type LimitsOut struct {
	InsetMM      float64 `json:"insetMM"`
	InsetLowMM   float64 `json:"insetLowMM"`
	InsetHighMM  float64 `json:"insetHighMM"`
	InsetUsual   bool    `json:"insetUsual"`
	BorderMM     float64 `json:"borderMM"`
	BorderLowMM  float64 `json:"borderLowMM"`
	BorderHighMM float64 `json:"borderHighMM"`
	BorderUsual  bool    `json:"borderUsual"`
	SlimMM       float64 `json:"slimMM"`
	TooSlim      *bool   `json:"tooSlim,omitempty"`
}

// Limits gives inset, border and slimness of a template.
func Limits(in LimitsIn) (LimitsOut, error) {
	if err := fault.Check(&in); err != nil {
		return LimitsOut{}, err
	}
	within := func(x float64, r [3]float64) bool { return x >= r[1]-slack && x <= r[2]+slack }
	out := LimitsOut{InsetMM: *in.InsetMM, InsetLowMM: insetMM[1], InsetHighMM: insetMM[2], InsetUsual: within(*in.InsetMM, insetMM),
		BorderMM: *in.BorderMM, BorderLowMM: borderMM[1], BorderHighMM: borderMM[2], BorderUsual: within(*in.BorderMM, borderMM), SlimMM: *in.SlimMM}
	if in.ThicknessMM != nil {
		out.SlimMM = math.Max(out.SlimMM, slimTimes**in.ThicknessMM)
	}
	if in.WidthMM != nil {
		out.TooSlim = new(*in.WidthMM < out.SlimMM-slack)
	}
	return out, nil
}
