package finish

import (
	"math"

	"dustyfern/craft/fault"
)

// MetalIn is metallic paint of powder and a liquid on an area of mm2.
type MetalIn struct {
	AreaMM2       *float64 `json:"areaMM2" need:"true" in:"area"`
	Medium        *string  `json:"medium" of:"citrusExtract clearSpirit pipingGel"`
	PowderGPerML  *float64 `json:"powderGPerML" in:"0.02..5"`
	Stipple       bool     `json:"stipple"`
	DarkGround    bool     `json:"darkGround"`
	NoAlcohol     bool     `json:"noAlcohol"`
	RoomTempC     *float64 `json:"roomTempC" def:"21" in:"5..40"`
	RoomRHPercent *float64 `json:"roomRhPercent" def:"45" in:"5..99"`
}

// MetalOut is how much of each, in how many coats, and when it is dry.
type MetalOut struct {
	Medium          string  `json:"medium"`
	PowderGPerML    float64 `json:"powderGPerML"`
	Coats           int     `json:"coats"`
	PowderG         float64 `json:"powderG"`
	LiquidML        float64 `json:"liquidML"`
	CoatMGPerMM2    float64 `json:"coatMGPerMM2"`
	Verdict         string  `json:"verdict"` // thin, good, thick
	NextCoatMinutes float64 `json:"nextCoatMinutes"`
	DryMinutes      float64 `json:"dryMinutes"`
	Alcohol         bool    `json:"alcohol"`
}

// media are the liquids: how much powder a ml takes as a rule, and the coat they dry as.
var media = map[string]struct {
	ratio float64
	coat  string
}{"citrusExtract": {1, "citrusMetal"}, "clearSpirit": {0.6, "spiritMetal"}, "pipingGel": {0.5, "gelPaint"}}

// Film and cover (assumed).
const (
	filmMM       = 0.04
	stippleMM    = 0.06
	wantedMG     = 0.03
	wantedDarkMG = 0.04
	inTheBrush   = 1.15
	thinBelow    = 0.4
	thickAbove   = 1.2
	mostCoats    = 8
	NextCoat     = 0.6 // share of a coat's time after which the next may go on
)

// Metal mixes metallic paint. Errors are *fault.Fault; docs/models/finish.md.
func Metal(in MetalIn) (MetalOut, error) {
	if err := fault.Check(&in); err != nil {
		return MetalOut{}, err
	}
	medium := "citrusExtract"
	switch {
	case in.Medium != nil && in.NoAlcohol && *in.Medium != "pipingGel":
		return MetalOut{}, fault.New(fault.Contradiction, "medium", "%s carries alcohol, and these guests take none: thinned piping gel instead.", *in.Medium)
	case in.Medium != nil:
		medium = *in.Medium
	case in.NoAlcohol:
		medium = "pipingGel"
	}
	m := media[medium]
	ratio := m.ratio
	if in.PowderGPerML != nil {
		ratio = *in.PowderGPerML
	}
	film, wanted := filmMM, wantedMG
	if in.Stipple {
		film = stippleMM
	}
	if in.DarkGround {
		wanted = wantedDarkMG
	}
	coat := film * ratio
	coats := int(math.Ceil(wanted/coat - 1e-9))
	if coats > mostCoats {
		return MetalOut{}, fault.New(fault.Unreachable, "powderGPerML", "So thin it takes %d coats: at least %.2g g of powder to a ml.", coats, wanted/film/mostCoats)
	}
	one, err := coatMinutes(m.coat, *in.RoomTempC, *in.RoomRHPercent)
	if err != nil {
		return MetalOut{}, err
	}
	out := MetalOut{Medium: medium, PowderGPerML: ratio, Coats: coats, CoatMGPerMM2: coat, LiquidML: *in.AreaMM2 * film / 1000 * float64(coats) * inTheBrush,
		Verdict: "good", NextCoatMinutes: NextCoat * one, DryMinutes: one * (1 + NextCoat*float64(coats-1)), Alcohol: medium != "pipingGel"}
	out.PowderG = out.LiquidML * ratio
	if ratio < thinBelow {
		out.Verdict = "thin"
	} else if ratio > thickAbove {
		out.Verdict = "thick"
	}
	return out, nil
}
