package drying

import (
	"math"

	"dustyfern/craft/fault"
)

// Thermal constants of pieces out of the freezer and of cooling dough.
const (
	shelfFilm     = 15.0   // W/(m2 K) on the freezer shelf (A)
	stillFilm     = 5.0    // W/(m2 K) in still air, and as much by radiation (U)
	pieceHeat     = 2090.0 // J/(m2 K) per mm of piece (A)
	mouldHeat     = 1500.0 // J/(m2 K) per mm of silicone (A)
	doughHeat     = 2050.0 // J/(m2 K) per mm of dough (A)
	latentHeat    = 2.47e6 // J/kg
	lewis         = 1075.0 // J/(m3 K): film in W/(m2 K) to m/s (P)
	dewStep       = 0.5    // s
	dewLongest    = 24 * 3600.0
	coldBelowRoom = 4.0 // °C: warmer than this below the room it stretches (A)
	coldAtMost    = 15.0
)

// DewIn is a room and, when asked for a piece, how it was chilled.
type DewIn struct {
	TempC          *float64 `json:"tempC" need:"true" in:"5..40"`
	RHPercent      *float64 `json:"rhPercent" need:"true" in:"5..99"`
	ThicknessMM    *float64 `json:"thicknessMM" in:"0.2..60"`
	FreezerMinutes *float64 `json:"freezerMinutes" in:"0..20160"`
	FreezerTempC   *float64 `json:"freezerTempC" def:"-18" in:"-40..10"`
	PieceTempC     *float64 `json:"pieceTempC" in:"0..45"`
	OpenSides      *int     `json:"openSides" def:"1" in:"1..2"`
	AirSpeedMS     *float64 `json:"airSpeedMS" def:"0.05" in:"0..5"`
	MouldMM        *float64 `json:"mouldMM" def:"6" in:"0..40"`
	DrinksGPerM2   *float64 `json:"drinksGPerM2" def:"3" in:"0..20"`
}

// DewOut is the dew point, and for a piece: how cold it starts, the film of
// dew, and the minutes until it is dry, dustable, and no longer stiff.
type DewOut struct {
	DewPointC            float64  `json:"dewPointC"`
	StartTempC           *float64 `json:"startTempC,omitempty"`
	FilmGPerM2           *float64 `json:"filmGPerM2,omitempty"`
	WetUntilMinutes      *float64 `json:"wetUntilMinutes,omitempty"`
	DustableAfterMinutes *float64 `json:"dustableAfterMinutes,omitempty"`
	ColdUntilMinutes     *float64 `json:"coldUntilMinutes,omitempty"`
}

// DewPoint of a room, °C (Magnus, P).
func DewPoint(tempC, rhPercent float64) float64 {
	y := math.Log(rhPercent/100) + 17.62*tempC/(243.12+tempC)
	return 243.12 * y / (17.62 - y)
}

// Dew follows a chilled piece as it warms: dew forms while it is below the dew
// point, then dries; a face drinks a thin film unseen.
func Dew(in DewIn) (DewOut, error) {
	if err := fault.Check(&in); err != nil {
		return DewOut{}, err
	}
	room, rh := *in.TempC, *in.RHPercent
	out := DewOut{DewPointC: DewPoint(room, rh)}
	if in.ThicknessMM == nil && in.FreezerMinutes == nil {
		return out, nil
	}
	if in.ThicknessMM == nil {
		return out, fault.New(fault.Required, "thicknessMM", "How thick is the piece that was chilled?")
	}
	if in.FreezerMinutes == nil {
		return out, fault.New(fault.Required, "freezerMinutes", "How long was it in the freezer?")
	}
	warm := room
	if in.PieceTempC != nil {
		warm = *in.PieceTempC
	}
	if *in.FreezerTempC >= warm {
		return out, fault.New(fault.Contradiction, "freezerTempC", "A freezer is colder than the piece that goes into it.")
	}
	c1, cm := pieceHeat**in.ThicknessMM, mouldHeat**in.MouldMM
	t := *in.FreezerTempC + (warm-*in.FreezerTempC)*math.Exp(-60**in.FreezerMinutes*shelfFilm/(c1+cm))
	start := t
	c := c1 / float64(*in.OpenSides)
	h := stillFilm * speedUp(*in.AirSpeedMS)
	transfer := h / lewis
	moist := saturation(room) * rh / 100
	coldEnds := math.Min(coldAtMost, room-coldBelowRoom)
	var film, most, wet, dustable, cold float64
	coldDone := t >= coldEnds
	for s := 0.0; ; s += dewStep {
		if film <= 0 && t >= out.DewPointC && coldDone {
			break
		}
		if s > dewLongest {
			if film > *in.DrinksGPerM2 {
				return out, fault.New(fault.Unreachable, "rhPercent", "In this room the dew does not go within a day: dry the air first.")
			}
			break
		}
		rate := transfer * (moist - saturation(t)) // g/(m2 s)
		if rate < 0 && film <= 0 {
			rate = 0
		}
		if rate*dewStep < -film {
			rate = -film / dewStep
		}
		film += rate * dewStep
		t += dewStep / c * ((h+stillFilm)*(room-t) + latentHeat*rate/1000)
		now := s + dewStep
		if film < 1e-12 {
			film = 0
		}
		most = math.Max(most, film)
		if rate > 0 {
			wet = now
		}
		if film > *in.DrinksGPerM2 {
			dustable = now
		}
		if !coldDone && t >= coldEnds {
			cold, coldDone = now, true
		}
	}
	out.StartTempC, out.FilmGPerM2 = &start, &most
	out.WetUntilMinutes, out.DustableAfterMinutes, out.ColdUntilMinutes = new(wet/60), new(dustable/60), new(cold/60)
	return out, nil
}

// CoolIn is a piece of chocolate dough and the air that sets it.
type CoolIn struct {
	Dough       *string  `json:"dough" need:"true"`
	ThicknessMM *float64 `json:"thicknessMM" need:"true" in:"0.2..60"`
	AirTempC    *float64 `json:"airTempC" need:"true" in:"-40..40"`
	StartTempC  *float64 `json:"startTempC" def:"28" in:"0..45"`
	OpenSides   *int     `json:"openSides" def:"1" in:"1..2"`
	AirSpeedMS  *float64 `json:"airSpeedMS" def:"0.05" in:"0..5"`
}

// CoolOut is when the dough is stiff from cold, holds its shape and is firm,
// in minutes (nil: never), and how it ends in this air.
type CoolOut struct {
	SoftPointC          float64  `json:"softPointC"`
	TimeConstantMinutes float64  `json:"timeConstantMinutes"`
	StiffMinutes        *float64 `json:"stiffMinutes"`
	HoldMinutes         *float64 `json:"holdMinutes"`
	FirmMinutes         *float64 `json:"firmMinutes"`
	FirmStatus          string   `json:"firmStatus"`
	EndState            string   `json:"endState"`
}

// Setting is counted in kelvin-hours below the soft point (A).
const (
	holdKH      = 1.0
	firmKH      = 24.0
	fastestK    = 8.0
	coolP90     = 1.57 // the slow end of the band over the middle
	uprightGapK = 3.0
	leastGapK   = 0.5
)

// Cool gives the setting of chocolate dough by temperature.
func Cool(in CoolIn) (CoolOut, error) {
	if err := fault.Check(&in, "dough"); err != nil {
		return CoolOut{}, err
	}
	soft, ok := softPoint[*in.Dough]
	if !ok {
		if _, dries := isotherms[*in.Dough]; dries {
			return CoolOut{}, fault.New(fault.Contradiction, "dough", "%s dries, it does not set by cooling: ask drying.predict.", *in.Dough)
		}
		return CoolOut{}, fault.New(fault.UnknownValue, "dough", "dough must be one of darkChocolate, milkChocolate, whiteChocolate, not %q.", *in.Dough)
	}
	if err := fault.Check(&in); err != nil {
		return CoolOut{}, err
	}
	air, start := *in.AirTempC, *in.StartTempC
	h := stillFilm * speedUp(*in.AirSpeedMS)
	tau := doughHeat * *in.ThicknessMM / float64(*in.OpenSides) / (h + stillFilm) / 60
	out := CoolOut{SoftPointC: soft, TimeConstantMinutes: tau, FirmStatus: "never"}
	switch gap := soft - air; {
	case gap <= 0:
		out.EndState = "sags"
	case gap < leastGapK:
		out.EndState = "soft"
	case gap < uprightGapK:
		out.EndState = "softFirm"
	default:
		out.EndState = "firm"
	}
	// a room that cannot keep it stiff is asked first, however cold it comes in
	if at := soft - fastestK; air < at {
		out.StiffMinutes = new(math.Max(0, tau*math.Log((start-air)/(at-air))))
		if start <= at {
			*out.StiffMinutes = 0
		}
	}
	if air > soft-leastGapK {
		return out, nil
	}
	out.HoldMinutes = new(untilSet(holdKH, soft, air, start, tau))
	out.FirmMinutes = new(untilSet(firmKH, soft, air, start, tau))
	out.FirmStatus = "reached"
	return out, nil
}

// untilSet gives the minutes until the kelvin-hours below the soft point come
// to the count wanted; small steps, straight within each.
func untilSet(wantKH, soft, air, start, tau float64) float64 {
	pull := func(t float64) float64 {
		return math.Min(fastestK, math.Max(0, soft-(air+(start-air)*math.Exp(-t/tau)))) / 60
	}
	step := math.Min(0.1, tau/50)
	sum, last := 0.0, pull(0)
	for t := 0.0; ; t += step {
		next := pull(t + step)
		add := step * (last + next) / 2
		if sum+add >= wantKH {
			return t + step*(wantKH-sum)/add
		}
		sum, last = sum+add, next
		if t > 10*tau { // as good as at rest: the rest is straight
			return t + step + (wantKH-sum)/last
		}
	}
}

// Moment is when something comes to be, in minutes: the middle and the slow end; nil
// when it does not within LongestHours.
type Moment struct{ Minutes, SlowMinutes *float64 }

// Setting is when chocolate dough holds its shape and is firm.
type Setting struct{ Hold, Firm Moment }

// SoftPoint of a fat-set dough, °C; an error for what dries.
func SoftPoint(dough string) (float64, error) {
	soft, ok := softPoint[dough]
	if !ok {
		return 0, fault.New(fault.UnknownValue, "dough", "dough must be one of darkChocolate, milkChocolate, whiteChocolate, not %q.", dough)
	}
	return soft, nil
}

// SetsThrough gives the setting of chocolate dough in air that changes: as Cool for air
// that stays. The slow end is a kitchen in which all of it goes on more slowly by the
// same part. Between the points of the room it is straight, outside it is held.
func SetsThrough(dough string, thicknessMM float64, air []RoomPoint) (Setting, error) {
	soft, err := SoftPoint(dough)
	if err != nil {
		return Setting{}, err
	}
	if !(thicknessMM >= 0.2 && thicknessMM <= 60) {
		return Setting{}, fault.New(fault.OutOfRange, "thicknessMM", "From 0.2 to 60 mm, not %g.", thicknessMM)
	}
	if len(air) == 0 {
		return Setting{}, fault.New(fault.Required, "roomSeries", "How warm is the room?")
	}
	in := PredictIn{RoomSeries: air}
	room := in.room()
	tau := doughHeat * thicknessMM / (2 * stillFilm) / 60
	var out Setting
	hold, firm := setsIn(room, soft, tau, 1)
	slowHold, slowFirm := setsIn(room, soft, tau, coolP90)
	out.Hold, out.Firm = Moment{hold, slowHold}, Moment{firm, slowFirm}
	return out, nil
}

// firstC is how warm dough is when hands leave it.
const firstC = 28.0

// setsIn walks through the room, so many times slower than the middle, until the dough
// is firm.
func setsIn(room room, soft, tau, slower float64) (hold, firm *float64) {
	fine, coarse := math.Min(0.1, tau/50)*slower, slower
	temp, sum := firstC, 0.0
	for t := 0.0; t < LongestHours*60; {
		air, _ := room.at(t / 60)
		step := coarse
		if math.Abs(temp-air) > 0.01 {
			step = fine
		}
		next := air + (temp-air)*math.Exp(-step/slower/tau)
		if add := step / slower / 60 * (pullOf(soft, air, temp) + pullOf(soft, air, next)) / 2; add > 0 {
			for _, x := range []struct {
				at   **float64
				want float64
			}{{&hold, holdKH}, {&firm, firmKH}} {
				if *x.at == nil && sum+add >= x.want {
					*x.at = new(t + step*(x.want-sum)/add)
				}
			}
			sum += add
		}
		if firm != nil {
			return hold, firm
		}
		t, temp = t+step, next
	}
	return hold, firm
}

// pullOf is by how many kelvin dough sets; none in air that cannot keep it.
func pullOf(soft, air, temp float64) float64 {
	if air > soft-leastGapK {
		return 0
	}
	return math.Min(fastestK, math.Max(0, soft-temp))
}
