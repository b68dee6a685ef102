// Package drying tells when a piece can be touched, lifted and joined: water
// leaves it by diffusion inside and through a film at its faces, the room sets
// the balance. See docs/models/drying.md for the science and its sources.
package drying

import (
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// Constants of the model. P: published physics; U: usual in the trade;
// A: assumed so that the defaults give the times usual in the trade.
const (
	refTempC     = 21.0
	diffusivity0 = 0.0600   // mm2/h at 21 °C (A; magnitude P for sugar gels)
	activation   = 40000.0  // J/mol (A; usual 20-50 kJ/mol)
	gasConstant  = 8.314462 // J/(mol K)
	skinFilm0    = 0.1250   // mm/h (A)
	airFilm0     = 0.2250   // mm/h in still air (A)
	gumOnD       = 0.15     // 1/% gum (A)
	gumOnSkin    = 0.26     // 1/% gum (A)
	gumFrom      = 1.6      // % gum: below, no effect (A)
	gumSpan      = 2.8      // % gum: beyond, no more effect (A)
	stillAirMS   = 0.10     // m/s (A)
	bagShare     = 0.03     // of the film in a closed bag (A)
	rosettesMM   = 50.0     // crowding of a rolled rose (A)
	skinDepthMM  = 0.20     // (A)
	holdDepthMM  = 0.40     // (A)
	z10          = 1.2815515655
	waterMolar   = 18.01528 // g/mol
)

// Paste of the drying table: GAB isotherm, fresh water activity and gum.
type isotherm struct{ xm, c, k, fresh, gum float64 }

var isotherms = map[string]isotherm{
	"sugarPaste":     {0.0690, 2.7, 0.71, 0.738, 0.40},
	"halfAndHalf":    {0.0710, 3.0, 0.70, 0.733, 1.60},
	"modellingPaste": {0.0700, 2.9, 0.70, 0.733, 1.50},
	"flowerPaste":    {0.0730, 3.4, 0.69, 0.740, 2.80},
	"marzipan":       {0.0700, 2.6, 0.75, 0.760, 0.40},
}

// water content in balance with air of activity a (GAB, P), kg/kg dry.
func (i isotherm) at(a float64) float64 {
	return i.xm * i.c * i.k * a / ((1 - i.k*a) * (1 - i.k*a + i.c*i.k*a))
}

// inverse: the activity at which the balance is x, by halving.
func (i isotherm) activity(x float64) float64 {
	lo, hi := 0.0, 1.0
	for range 80 {
		mid := (lo + hi) / 2
		if i.at(mid) < x {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2
}

// stage thresholds: the share of the way from fresh to the balance at 45 %.
type threshold struct{ base, perGum, least float64 }

var (
	skinAsks  = threshold{0.148, 0.0430, 0.015}
	holdAsks  = threshold{0.225, 0.0245, 0.120}
	firmAsks  = threshold{0.455, 0.0775, 0.200} // sheet, rolled: mean of the piece
	shellAsks = threshold{0.402, 0.1320, 0.185} // block, rod, ball, dome: mean of the shell
	hardAsks  = threshold{0.527, 0.0065, 0}
)

func (t threshold) share(gum float64) float64 { return math.Max(t.least, t.base-t.perGum*gum) }

// level is the moisture at which a stage is reached.
func (t threshold) level(i isotherm, gum float64) float64 {
	x0 := i.at(i.fresh)
	return x0 - t.share(gum)*(x0-i.at(0.45))
}

var openness = map[string]float64{"board": 0.10, "foam": 0.70, "cup": 0.70, "dowel": 0.80, "hook": 0.85, "rack": 0.90}

var dustFactor = map[string]float64{"none": 1, "cornflour": 1.20, "icingSugar": 0.95, "fat": 0.75}

const (
	pasteWords = "sugarPaste halfAndHalf modellingPaste flowerPaste marzipan"
)

var doughs = []string{"darkChocolate", "milkChocolate", "whiteChocolate"}

// softPoint of a chocolate dough, °C (U/A).
var softPoint = map[string]float64{"darkChocolate": 24, "milkChocolate": 23, "whiteChocolate": 22}

// saturated water vapour: pressure in Pa (Magnus, P) and density in g/m3.
func saturation(tempC float64) float64 {
	return 611.2 * math.Exp(17.62*tempC/(243.12+tempC)) * waterMolar / (gasConstant * (tempC + 273.15))
}

func arrhenius(tempC float64) float64 {
	return math.Exp(activation / gasConstant * (1/(refTempC+273.15) - 1/(tempC+273.15)))
}

// speedUp is how moving air thins the still film.
func speedUp(ms float64) float64 { return math.Max(1, math.Sqrt(ms/stillAirMS)) }

// BalanceIn asks what air of a humidity allows a paste.
type BalanceIn struct {
	Paste      *string  `json:"paste" need:"true"`
	GumPercent *float64 `json:"gumPercent" in:"0..8"`
	RHPercent  *float64 `json:"rhPercent" need:"true" in:"5..95"`
}

// BalanceOut is the moisture fresh and in balance, % of the whole, and the
// humidity up to which each stage can be reached.
type BalanceOut struct {
	FreshPercent       float64  `json:"freshPercent"`
	BalancePercent     float64  `json:"balancePercent"`
	SkinUpToRHPercent  float64  `json:"skinUpToRHPercent"`
	HoldUpToRHPercent  *float64 `json:"holdUpToRHPercent"`
	FirmUpToRHPercent  *float64 `json:"firmUpToRHPercent"`
	ShellUpToRHPercent *float64 `json:"shellUpToRHPercent"`
	HardUpToRHPercent  *float64 `json:"hardUpToRHPercent"`
}

func ofWhole(x float64) float64 { return 100 * x / (1 + x) }

// pasteOf checks the name of a paste that dries.
func pasteOf(name string) (isotherm, error) {
	i, ok := isotherms[name]
	if ok {
		return i, nil
	}
	if slices.Contains(doughs, name) {
		return i, fault.New(fault.Contradiction, "paste", "Chocolate dough does not dry, it sets by cooling: ask drying.cool.")
	}
	return i, fault.New(fault.UnknownValue, "paste", "paste must be one of %s, not %q.", pasteWords, name)
}

// Balance inverts the stage thresholds for a paste.
func Balance(in BalanceIn) (BalanceOut, error) {
	if err := fault.Check(&in, "paste"); err != nil {
		return BalanceOut{}, err
	}
	iso, err := pasteOf(*in.Paste)
	if err != nil {
		return BalanceOut{}, err
	}
	if err := fault.Check(&in); err != nil {
		return BalanceOut{}, err
	}
	gum := iso.gum
	if in.GumPercent != nil {
		gum = *in.GumPercent
	}
	upTo := func(t threshold) *float64 { return new(100 * iso.activity(t.level(iso, gum))) }
	out := BalanceOut{FreshPercent: ofWhole(iso.at(iso.fresh)), BalancePercent: ofWhole(iso.at(*in.RHPercent / 100)), SkinUpToRHPercent: *upTo(skinAsks)}
	if *in.Paste != "marzipan" {
		out.HoldUpToRHPercent, out.FirmUpToRHPercent, out.ShellUpToRHPercent, out.HardUpToRHPercent = upTo(holdAsks), upTo(firmAsks), upTo(shellAsks), upTo(hardAsks)
	}
	return out, nil
}

// Saturation is how much water warm air holds at most, g/m3 (Magnus).
func Saturation(tempC float64) float64 { return saturation(tempC) }
