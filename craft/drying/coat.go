package drying

import (
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// Coats that lie on a piece until the next may follow, in minutes of the
// reference room; those of spirit dry by the air's warmth and suffer from damp
// late, those of water with the dryness of the room.
var (
	spiritCoats = map[string]float64{"lacquer": 17.5, "glazeMist": 10, "spiritWash": 6, "spiritMetal": 20, "citrusMetal": 5} // lacquer U, others A
	waterCoats  = map[string]float64{"gelPaint": 45, "waterBrush": 10, "steam": 5, "glitterTack": 90, "waferSkin": 5}        // glitterTack U, others A
)

const (
	coatFilm   = 0.6   // share of a coat's time after which the next may go on (A)
	coatSpread = 0.112 // of the logarithm (A)
	coatRef    = 21.0
)

// CoatIn is a coat of paint, lacquer or steam, how many of it, and the room.
type CoatIn struct {
	Coat       *string  `json:"coat" need:"true"`
	Coats      *int     `json:"coats" def:"1" in:"1..6"`
	TempC      *float64 `json:"tempC" need:"true" in:"5..40"`
	RHPercent  *float64 `json:"rhPercent" need:"true" in:"5..99"`
	AirSpeedMS *float64 `json:"airSpeedMS" def:"0.05" in:"0..5"`
}

// CoatOut is when the next coat may go on, and when all are dry.
type CoatOut struct {
	NextCoatMinutes float64 `json:"nextCoatMinutes"`
	P10Minutes      float64 `json:"p10Minutes"`
	P50Minutes      float64 `json:"p50Minutes"`
	P90Minutes      float64 `json:"p90Minutes"`
}

// Coat says when a coat takes the next one and when all coats are dry. Errors are
// *fault.Fault; docs/models/drying.md.
func Coat(in CoatIn) (CoatOut, error) {
	if err := fault.Check(&in); err != nil {
		return CoatOut{}, err
	}
	spirit, isSpirit := spiritCoats[*in.Coat]
	water, isWater := waterCoats[*in.Coat]
	if !isSpirit && !isWater {
		return CoatOut{}, fault.New(fault.UnknownValue, "coat", "There is no coat %q.", *in.Coat)
	}
	minutes := water * 55 / (100 - *in.RHPercent)
	if isSpirit {
		minutes = spirit * (1 + math.Max(0, *in.RHPercent-60)/40)
	}
	pressure := func(t float64) float64 { return math.Exp(17.62 * t / (243.12 + t)) }
	air := 0.4 + 0.6*math.Max(1, math.Sqrt(*in.AirSpeedMS/0.10))
	t := minutes * pressure(coatRef) / pressure(*in.TempC) / air
	total := t * (1 + coatFilm*float64(*in.Coats-1))
	return CoatOut{NextCoatMinutes: coatFilm * t, P10Minutes: total * math.Exp(-1.28155*coatSpread), P50Minutes: total, P90Minutes: total * math.Exp(1.28155*coatSpread)}, nil
}

// Coats are the kinds of coat, sorted.
func Coats() []string {
	var out []string
	for _, m := range []map[string]float64{spiritCoats, waterCoats} {
		for k := range m {
			out = append(out, k)
		}
	}
	slices.Sort(out)
	return out
}

// Poured sugar: dry air keeps it, above that it draws water (A; the limit U).
const (
	syrupDryRH   = 50.0
	syrupFromRH  = 40.0
	syrupHours   = 2.4
	syrupLogSd   = 0.35
	tackyOfSugar = "tacky"
)

// SyrupIn is the room in which poured sugar stands.
type SyrupIn struct {
	TempC     *float64 `json:"tempC" need:"true" in:"5..40"`
	RHPercent *float64 `json:"rhPercent" need:"true" in:"5..95"`
}

// SyrupOut is when poured sugar grows tacky; nil while the room keeps it dry.
type SyrupOut struct {
	Status   string   `json:"status"` // dry or tacky
	P10Hours *float64 `json:"p10Hours"`
	P50Hours *float64 `json:"p50Hours"`
	P90Hours *float64 `json:"p90Hours"`
}

// Syrup says when poured sugar grows tacky in a room. Errors are *fault.Fault;
// docs/models/drying.md, 5.
func Syrup(in SyrupIn) (SyrupOut, error) {
	if err := fault.Check(&in); err != nil {
		return SyrupOut{}, err
	}
	if *in.RHPercent <= syrupDryRH {
		return SyrupOut{Status: "dry"}, nil
	}
	pressure := func(t float64) float64 { return math.Exp(17.62 * t / (243.12 + t)) }
	mid := syrupHours / ((*in.RHPercent - syrupFromRH) / 100) * pressure(coatRef) / pressure(*in.TempC)
	return SyrupOut{tackyOfSugar, new(mid * math.Exp(-z80*syrupLogSd)), &mid, new(mid * math.Exp(z80*syrupLogSd))}, nil
}
