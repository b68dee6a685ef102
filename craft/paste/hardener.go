package paste

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// School is a way of dosing hardener powder: level teaspoons (of its own
// spoon) to grams of plain paste, each least, usual, most; and how long the
// bag rests.
type School struct {
	Code          string
	Tsp           [3]float64
	PasteG        [3]float64
	Spoons        string
	RestMinutes   float64
	BetterMinutes float64 // 0: no longer rest is better
	ShapeAtOnce   bool
	Why           string
}

// Schools of hardener. light and extra are usual in the trade, modelling is
// the middle way between them (assumed).
var Schools = []School{
	{"light", [3]float64{0.5, 0.5, 0.5}, [3]float64{measure.GramsPerPound, measure.GramsPerPound, measure.GramsPerPound}, "us", 15, 0, false,
		"keeps it soft to eat; a stand-in for stiffer paste when nothing else is at hand"},
	{"modelling", [3]float64{1, 1, 1}, [3]float64{225, 237.5, 250}, "metric", 30, 600, false, "cuts cleanly and holds moulded detail"},
	{"extra", [3]float64{0.5, 0.75, 1}, [3]float64{50, 50, 50}, "metric", 0, 0, true, "for domes and pieces that must set like a shell"},
}

// The guards of a dose, in % of the plain paste.
const (
	brittlePercent  = 6
	capSchool       = 7
	capOwn          = 8
	tauCMC          = 15.0  // minutes to 90 % of the effect
	tauSlow         = 480.0 // of tragacanth, for those who hold it for slow (assumed)
	spoonFractionOf = 0.125 // a spoon is read to an eighth
)

// HardenerIn asks for a dose by school, for pasteG grams of plain paste.
type HardenerIn struct {
	PasteG      *float64 `json:"pasteG" need:"true" in:"mass"`
	School      *string  `json:"school" def:"modelling" of:"light modelling extra"`
	Powder      *string  `json:"powder" def:"cmc" of:"cmc tragacanth"`
	BrandFactor *float64 `json:"brandFactor" in:"0..2"`
	SpreadRatio *float64 `json:"spreadRatio" in:"0.9..4"`
	Percent     *float64 `json:"percent" in:"0..20"`
	GramsPerTsp *float64 `json:"gramsPerTsp" in:"1..8"`
	Spoons      *string  `json:"spoons" def:"metric" of:"us metric au"`
	EffectShare *float64 `json:"effectShare" def:"0.9" in:"0..0.9999"`
	RestSchool  *string  `json:"restSchool" def:"alike" of:"alike slow"`
}

// HardenerOut is the dose: % of plain paste with the school's own spread and
// the powder's apart, grams, spoons with what rounding them does, and rest.
type HardenerOut struct {
	PercentLow        float64  `json:"percentLow"`
	PercentNominal    float64  `json:"percentNominal"`
	PercentHigh       float64  `json:"percentHigh"`
	SchoolLowPercent  *float64 `json:"schoolLowPercent,omitempty"`
	SchoolHighPercent *float64 `json:"schoolHighPercent,omitempty"`
	DensityLowFactor  float64  `json:"densityLowFactor"`
	DensityHighFactor float64  `json:"densityHighFactor"`
	Softness          *int     `json:"softness,omitempty"`
	BrandFactor       float64  `json:"brandFactor"`
	Percent           float64  `json:"percent"`
	PowderG           float64  `json:"powderG"`
	Capped            bool     `json:"capped"`
	CapPercent        float64  `json:"capPercent"`
	Brittle           bool     `json:"brittle"`
	Tsp               float64  `json:"tsp"`
	SpoonText         string   `json:"spoonText"`
	TspRounded        float64  `json:"tspRounded"`
	SpoonedG          float64  `json:"spoonedG"`
	SpoonErrorPercent *float64 `json:"spoonErrorPercent,omitempty"`
	TotalShare        float64  `json:"totalShare"`
	RestMinutes       float64  `json:"restMinutes"`
	BetterMinutes     *float64 `json:"betterMinutes,omitempty"`
	RestHandsMinutes  float64  `json:"restHandsMinutes"` // a rest needs no hands, ever
	RestMaySpanNight  bool     `json:"restMaySpanNight"`
	OtherRestMinutes  *float64 `json:"otherRestMinutes,omitempty"` // of tragacanth: what the other rest school waits
	ShapeAtOnce       bool     `json:"shapeAtOnce"`
	EffectMinutes     float64  `json:"effectMinutes"`
}

// SchoolOf finds a school by its code.
func SchoolOf(code string) School {
	for _, s := range Schools {
		if s.Code == code {
			return s
		}
	}
	return Schools[1]
}

// percents gives low, usual and high % of plain paste at the densities given
// (g per ml, or g per spoon when the spoon was weighed).
func (s School) percents(rho measure.Density, weighed *float64) (low, nominal, high, ownLow, ownHigh float64) {
	ml := measure.SpoonSchools[s.Spoons].Tsp
	if weighed != nil {
		ml, rho = 1, measure.Density{Low: *weighed, Nominal: *weighed, High: *weighed}
	}
	pct := func(tsp, rho, m float64) float64 { return 100 * tsp * ml * rho / m }
	return pct(s.Tsp[0], rho.Low, s.PasteG[2]), pct(s.Tsp[1], rho.Nominal, s.PasteG[1]), pct(s.Tsp[2], rho.High, s.PasteG[0]),
		pct(s.Tsp[0], rho.Nominal, s.PasteG[2]), pct(s.Tsp[2], rho.Nominal, s.PasteG[0])
}

// softness of a brand by how far a 20 g ball spreads under 1 kg in 10 s.
func softness(ratio float64) int {
	for i, most := range []float64{1.05, 1.15, 1.30, 1.50, 1.75} {
		if ratio <= most+1e-12 {
			return i
		}
	}
	return 5
}

// Hardener gives a school's dose. One's own level teaspoon, weighed, takes the
// place of spoon school and density at once.
func Hardener(in HardenerIn) (HardenerOut, error) {
	if err := fault.Check(&in); err != nil {
		return HardenerOut{}, err
	}
	if in.BrandFactor != nil && in.SpreadRatio != nil {
		return HardenerOut{}, fault.New(fault.Contradiction, "spreadRatio", "The spread test gives the brand factor: say one of the two.")
	}
	slow := *in.RestSchool == "slow"
	if slow && *in.Powder != "tragacanth" {
		return HardenerOut{}, fault.New(fault.Contradiction, "restSchool", "Only tragacanth is held for slow by some: CMC works within the quarter of an hour.")
	}
	s, rho := SchoolOf(*in.School), measure.Densities[*in.Powder]
	out := HardenerOut{BrandFactor: 1, DensityLowFactor: 1, DensityHighFactor: 1, CapPercent: capSchool,
		RestMinutes: s.RestMinutes, ShapeAtOnce: s.ShapeAtOnce}
	var ownLow, ownHigh float64
	out.PercentLow, out.PercentNominal, out.PercentHigh, ownLow, ownHigh = s.percents(rho, in.GramsPerTsp)
	if in.Percent != nil {
		out.PercentLow, out.PercentNominal, out.PercentHigh = *in.Percent, *in.Percent, *in.Percent
	} else {
		out.SchoolLowPercent, out.SchoolHighPercent = &ownLow, &ownHigh
	}
	perTsp := rho.Nominal * measure.SpoonSchools[*in.Spoons].Tsp
	if in.GramsPerTsp != nil {
		perTsp = *in.GramsPerTsp
	} else {
		out.DensityLowFactor, out.DensityHighFactor = rho.Low/rho.Nominal, rho.High/rho.Nominal
	}
	if in.GramsPerTsp != nil || in.Percent != nil {
		out.CapPercent = capOwn
	}
	if in.BrandFactor != nil {
		out.BrandFactor = *in.BrandFactor
	} else if in.SpreadRatio != nil {
		soft := softness(*in.SpreadRatio)
		out.Softness = &soft
		out.BrandFactor = 0
		if soft > 0 {
			out.BrandFactor = 0.25 + 0.25*float64(soft)
		}
	}
	wanted := out.PercentNominal * out.BrandFactor
	out.Percent = math.Min(wanted, out.CapPercent)
	out.Capped = wanted > out.CapPercent
	out.Brittle = out.Percent > brittlePercent
	out.PowderG = *in.PasteG * out.Percent / 100
	out.TotalShare = out.Percent / (100 + out.Percent)
	out.Tsp = out.PowderG / perTsp
	out.SpoonText = measure.FormatSpoons(out.Tsp, *in.Spoons)
	out.TspRounded = measure.Round(out.Tsp, spoonFractionOf)
	out.SpoonedG = out.TspRounded * perTsp
	if out.PowderG > 0 {
		out.SpoonErrorPercent = new(100 * (out.SpoonedG - out.PowderG) / out.PowderG)
	}
	out.rest(s, *in.Powder, slow, *in.EffectShare)
	return out, nil
}

// rest says how long the bag waits: as the school has it, or for slow powder
// until it has worked; and what who thinks otherwise would wait.
func (out *HardenerOut) rest(s School, powder string, slow bool, share float64) {
	tau := tauCMC
	if slow {
		tau = tauSlow
	}
	out.EffectMinutes = -tau / math.Ln10 * math.Log1p(-share)
	if powder == "tragacanth" {
		other := s.RestMinutes
		if !slow {
			other = math.Max(s.RestMinutes, -tauSlow/math.Ln10*math.Log1p(-share))
		}
		out.OtherRestMinutes = &other
	}
	if slow {
		out.RestMinutes = math.Max(s.RestMinutes, out.EffectMinutes)
	}
	out.ShapeAtOnce = s.ShapeAtOnce && !slow
	out.RestMaySpanNight = out.RestMinutes > 0
	if b := s.BetterMinutes; b > 0 && out.RestMinutes < b {
		out.BetterMinutes = &b
	}
}

// DoseIn asks what brings massG grams of paste, as it lies there, to a target
// on the strength scale (of the whole) or the hardener scale (of plain paste).
type DoseIn struct {
	MassG        *float64 `json:"massG" need:"true" in:"mass"`
	Scale        *string  `json:"scale" def:"strength" of:"strength hardener"`
	HavePercent  *float64 `json:"havePercent" need:"true" in:"0..20"`
	WantPercent  *float64 `json:"wantPercent" need:"true" in:"0..20"`
	Powder       *string  `json:"powder" def:"cmc" of:"cmc tragacanth"`
	PlainPercent *float64 `json:"plainPercent" in:"strength"`
}

// DoseOut is powder or plain paste to add; one of them is 0.
type DoseOut struct {
	AddPowderG float64 `json:"addPowderG"`
	AddPlainG  float64 `json:"addPlainG"`
	TotalG     float64 `json:"totalG"`
	Brittle    bool    `json:"brittle"`
}

// Dose solves the mass balance for powder, p = m (want - have)/(100 - want),
// or for plain paste, m (have - want)/(want - plain).
func Dose(in DoseIn) (DoseOut, error) {
	if err := fault.Check(&in); err != nil {
		return DoseOut{}, err
	}
	m, have, want := *in.MassG, *in.HavePercent, *in.WantPercent
	out := DoseOut{Brittle: want > brittlePercent}
	strength := *in.Scale == "strength"
	if strength {
		for _, f := range []struct {
			name string
			x    float64
		}{{"havePercent", have}, {"wantPercent", want}} {
			if f.x > 10 {
				return out, fault.New(fault.OutOfRange, f.name, "%s is a gum strength: 0 to 10 %%.", f.name)
			}
		}
	} else if in.PlainPercent != nil {
		return out, fault.New(fault.Contradiction, "plainPercent", "plainPercent belongs to the strength scale; on the hardener scale plain paste has none.")
	}
	plain := PlainStrength
	if in.PlainPercent != nil {
		plain = *in.PlainPercent
	}
	switch {
	case want > have && strength:
		out.AddPowderG = m * (want - have) / (100 - want)
	case want > have:
		out.AddPowderG = m / (1 + have/100) * (want - have) / 100
	case want < have && strength:
		if want <= plain {
			return out, fault.New(fault.Unreachable, "wantPercent", "Plain paste of %.2f %% never brings it down to %.2f %%: stay above %.2f %%.", plain, want, plain)
		}
		out.AddPlainG = m * (have - want) / (want - plain)
	case want < have:
		if want == 0 {
			return out, fault.New(fault.Unreachable, "wantPercent", "Powder cannot be taken out: plain paste only comes nearer to 0 %%.")
		}
		out.AddPlainG = m / (1 + have/100) * (have/want - 1)
	}
	out.TotalG = m + out.AddPowderG + out.AddPlainG
	return out, nil
}
