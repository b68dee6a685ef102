package mix

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// Stage is a stage of cooked sugar by name, in C at sea level (textbook).
type Stage struct {
	Code        string
	LowC, HighC float64
}

// Stages from the coolest.
var Stages = []Stage{{"thread", 106, 112}, {"softBall", 112, 116}, {"firmBall", 118, 120}, {"hardBall", 121, 130}, {"softCrack", 132, 143}, {"hardCrack", 149, 154}}

// SyrupIn asks for a syrup: so many base batches, or for an area in mm2 that is coated; and
// for the temperatures of a stage where water boils at another temperature.
type SyrupIn struct {
	Batch     *float64 `json:"batch" in:"0.05..20"`
	AreaMM2   *float64 `json:"areaMM2" in:"area"`
	FilmMM    *float64 `json:"filmMM" def:"0.8" in:"0.01..20"`
	Coats     *int     `json:"coats" def:"2" in:"1..20"`
	DripShare *float64 `json:"dripShare" def:"0.5" in:"0..0.94"`
	Spoons    *string  `json:"spoons" def:"metric" of:"us metric au"`
	Stage     *string  `json:"stage" def:"hardCrack" of:"thread softBall firmBall hardBall softCrack hardCrack"`
	AltitudeM *float64 `json:"altitudeM" in:"-430..6000"`
	BoilingC  *float64 `json:"boilingC" in:"70..105"`
}

// SyrupOut: base batches that are wanted and that are cooked, whether they cover a probe,
// grams of each, what comes of it, and the stage in C, here.
type SyrupOut struct {
	Batch        float64 `json:"batch"`
	CookBatch    float64 `json:"cookBatch"`
	ProbeCovered bool    `json:"probeCovered"`
	WaterG       float64 `json:"waterG"`
	GlucoseG     float64 `json:"glucoseG"`
	SugarG       float64 `json:"sugarG"`
	AcidG        float64 `json:"acidG"`
	YieldG       float64 `json:"yieldG"`
	YieldML      float64 `json:"yieldML"`
	BoilingC     float64 `json:"boilingC"`
	LowC         float64 `json:"lowC"`
	HighC        float64 `json:"highC"`
}

// The base batch (usual in the trade), what dries of it and how dense it sets (assumed),
// and the least that covers a probe.
const (
	waterCup, glucoseCup, sugarCup, acidTsp = 1.0, 0.5, 1.75, 1.0 / 8
	glucoseDry, cookedDry, setDensity       = 0.80, 0.99, 1.45
	leastBatch                              = 0.25
)

// BoilingPoint of water in C at so many m above the sea (standard atmosphere, Antoine).
func BoilingPoint(m float64) float64 {
	mmHg := 760 * math.Pow(1-2.25577e-5*m, 5.25588)
	return 1730.63/(8.07131-math.Log10(mmHg)) - 233.426
}

// HeightOf is the height in m at which water boils at so many C: BoilingPoint the other way
// round, within a tenth of a metre from -430 to 6000 m.
func HeightOf(boilingC float64) float64 {
	low, high := -430.0, 6000.0
	for high-low > 0.1 {
		m := (low + high) / 2
		if BoilingPoint(m) > boilingC {
			low = m
		} else {
			high = m
		}
	}
	return (low + high) / 2
}

func base(k float64, s measure.Spoons) SyrupOut {
	rho := func(code string) float64 { return measure.Densities[code].Nominal }
	out := SyrupOut{WaterG: k * waterCup * s.Cup * rho("water"), GlucoseG: k * glucoseCup * s.Cup * rho("glucoseSyrup"),
		SugarG: k * sugarCup * s.Cup * rho("sugar"), AcidG: k * acidTsp * s.Tsp * rho("creamOfTartar")}
	out.YieldG = (out.SugarG + glucoseDry*out.GlucoseG) / cookedDry
	out.YieldML = out.YieldG / setDensity
	return out
}

// Syrup scales the syrup and moves its stage to this kitchen. Faults: contradiction
// (areaMM2 with batch, boilingC with altitudeM).
func Syrup(in SyrupIn) (SyrupOut, error) {
	if err := fault.Check(&in); err != nil {
		return SyrupOut{}, err
	}
	switch {
	case in.Batch != nil && in.AreaMM2 != nil:
		return SyrupOut{}, fault.New(fault.Contradiction, "areaMM2", "Batches, or the area that is coated, not both.")
	case in.AltitudeM != nil && in.BoilingC != nil:
		return SyrupOut{}, fault.New(fault.Contradiction, "boilingC", "Your own reading takes the place of the height: not both.")
	}
	spoons := measure.SpoonSchools[*in.Spoons]
	batch, cook := 1.0, 1.0
	switch {
	case in.Batch != nil:
		batch = *in.Batch
		cook = batch
	case in.AreaMM2 != nil:
		batch = *in.AreaMM2 * *in.FilmMM * float64(*in.Coats) / 1000 / (1 - *in.DripShare) / base(1, spoons).YieldML
		cook = math.Max(leastBatch, batch)
	}
	out := base(cook, spoons)
	out.Batch, out.CookBatch, out.ProbeCovered = batch, cook, cook >= leastBatch-1e-9
	out.BoilingC = BoilingPoint(0)
	switch {
	case in.AltitudeM != nil:
		out.BoilingC = BoilingPoint(*in.AltitudeM)
	case in.BoilingC != nil:
		out.BoilingC = *in.BoilingC
	}
	lower := BoilingPoint(0) - out.BoilingC
	for _, s := range Stages {
		if s.Code == *in.Stage {
			out.LowC, out.HighC = s.LowC-lower, s.HighC-lower
		}
	}
	return out, nil
}

// CoolingIn is a pan that cools in the room: how long until it is poured, or how fast it
// cools by a reading. C and minutes.
type CoolingIn struct {
	StartTempC    *float64 `json:"startTempC" need:"true" in:"kitchen"`
	PourTempC     *float64 `json:"pourTempC" in:"kitchen"`
	AirTempC      *float64 `json:"airTempC" def:"21" in:"kitchen"`
	RatePerMinute *float64 `json:"ratePerMinute" in:"0.0001..10"`
	ReadingTempC  *float64 `json:"readingTempC" in:"kitchen"`
	AfterMinutes  *float64 `json:"afterMinutes" in:"minutes"`
}

// CoolingOut is the rate, and the minutes until it can be poured.
type CoolingOut struct {
	RatePerMinute float64  `json:"ratePerMinute"`
	WaitMinutes   *float64 `json:"waitMinutes,omitempty"`
}

// UsualCoolingRate per minute of a pan of syrup (assumed).
const UsualCoolingRate = 0.035

// Cooling follows a pan to the room (Newton's law of cooling). Faults: required,
// unreachable (pourTempC at or below the room), contradiction (readingTempC).
func Cooling(in CoolingIn) (CoolingOut, error) {
	if err := fault.Check(&in); err != nil {
		return CoolingOut{}, err
	}
	start, air := *in.StartTempC, *in.AirTempC
	if in.PourTempC == nil && in.ReadingTempC == nil {
		return CoolingOut{}, missing("pourTempC", "At what temperature is it poured?")
	}
	out := CoolingOut{RatePerMinute: UsualCoolingRate}
	if in.RatePerMinute != nil {
		out.RatePerMinute = *in.RatePerMinute
	}
	if r := in.ReadingTempC; r != nil {
		switch {
		case in.RatePerMinute != nil:
			return CoolingOut{}, fault.New(fault.Contradiction, "readingTempC", "A rate, or a reading that gives it, not both.")
		case in.AfterMinutes == nil:
			return CoolingOut{}, missing("afterMinutes", "How many minutes after the start was that?")
		case !(*r > air && *r < start):
			return CoolingOut{}, fault.New(fault.Contradiction, "readingTempC", "It cools from %g °C towards the room's %g °C: the reading lies between.", start, air)
		}
		out.RatePerMinute = math.Log((start-air)/(*r-air)) / *in.AfterMinutes
	}
	if p := in.PourTempC; p != nil {
		switch {
		case *p <= air:
			return CoolingOut{}, fault.New(fault.Unreachable, "pourTempC", "It never cools below the room: over %g °C.", air)
		case *p >= start:
			out.WaitMinutes = new(0.0)
		default:
			out.WaitMinutes = new(math.Log((start-air)/(*p-air)) / out.RatePerMinute)
		}
	}
	return out, nil
}
