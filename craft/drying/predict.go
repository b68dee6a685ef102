package drying

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// RoomPoint is the room at an hour after the piece was laid out.
type RoomPoint struct {
	AtHours   *float64 `json:"atHours" need:"true" in:"0..720"`
	TempC     *float64 `json:"tempC" need:"true" in:"5..40"`
	RHPercent *float64 `json:"rhPercent" need:"true" in:"5..95"`
}

// PredictIn is a piece, how it lies, and its room. Lengths mm, times h.
type PredictIn struct {
	Paste            *string     `json:"paste" need:"true"`
	GumPercent       *float64    `json:"gumPercent" in:"0..8"`
	Shape            *string     `json:"shape" need:"true" of:"sheet block rolled rod ball dome"`
	ThicknessMM      *float64    `json:"thicknessMM" need:"true" in:"0.2..60"`
	Support          *string     `json:"support" def:"board" of:"board foam cup dowel hook rack"`
	BodyMM           *float64    `json:"bodyMM" in:"5..80"`
	Dust             *string     `json:"dust" def:"none" of:"none cornflour icingSugar fat"`
	AirSpeedMS       *float64    `json:"airSpeedMS" def:"0.05" in:"0..5"`
	BaggedUntilHours *float64    `json:"baggedUntilHours" def:"0" in:"0..336"`
	HorizonHours     *float64    `json:"horizonHours" def:"72" in:"1..336"`
	TempC            *float64    `json:"tempC" in:"5..40"`
	RHPercent        *float64    `json:"rhPercent" in:"5..95"`
	RoomSeries       []RoomPoint `json:"roomSeries"`
	TimeFactor       *float64    `json:"timeFactor" def:"1" in:"0.1..10"`
	LogSd            *float64    `json:"logSd" def:"0.35" in:"0..1"`
	TurnAtHours      []float64   `json:"turnAtHours" in:"0..336"`
	ReportAtHours    []float64   `json:"reportAtHours"`
}

// Stage is when a stage is reached, in hours: the quick, middle and slow end
// of the band; nil where it is not within the horizon.
type Stage struct {
	P10Hours *float64 `json:"p10Hours"`
	P50Hours *float64 `json:"p50Hours"`
	P90Hours *float64 `json:"p90Hours"`
	Status   string   `json:"status"` // reached, late or never
}

// Sample is the moisture of the middle run at an hour, % of the whole.
type Sample struct {
	AtHours        float64 `json:"atHours"`
	LossPercent    float64 `json:"lossPercent"`
	SurfacePercent float64 `json:"surfacePercent"`
	MeanPercent    float64 `json:"meanPercent"`
	WettestPercent float64 `json:"wettestPercent"`
}

// Forecast is the four stages, what stands against them, and samples.
type Forecast struct {
	Skin    Stage    `json:"skin"`
	Hold    Stage    `json:"hold"`
	Firm    Stage    `json:"firm"`
	Hard    Stage    `json:"hard"`
	Notes   []string `json:"notes"`
	Samples []Sample `json:"samples,omitempty"`
}

// Predict solves the drying of one piece for the middle and both ends of the
// band (P10, P50, P90), which differ only in how fast this kitchen dries.
func Predict(in PredictIn) (Forecast, error) { return Follow(in, Tending{}) }

// Tending is what hands do to a piece while it dries, beside turning it.
type Tending struct {
	Bagged []Span  // in a closed bag, in rising order
	Lies   []Lying // from an hour on it lies otherwise, in rising order
}

// Span is a stretch in hours after the piece was laid out.
type Span struct{ FromHours, UntilHours float64 }

// Lying is on what a piece lies from an hour on, and in what air.
type Lying struct {
	FromHours  float64
	Support    string  // one of PredictIn's
	AirSpeedMS float64 // 0 to 5
}

// Follow is Predict of a piece that is tended while it dries.
func Follow(in PredictIn, tended Tending) (Forecast, error) {
	iso, err := in.checked()
	if err != nil {
		return Forecast{}, err
	}
	gum := iso.gum
	if in.GumPercent != nil {
		gum = *in.GumPercent
	}
	room := in.room()
	for _, l := range tended.Lies {
		if _, ok := openness[l.Support]; !ok || !(l.AirSpeedMS >= 0 && l.AirSpeedMS <= 5) {
			return Forecast{}, fault.New(fault.UnknownValue, "support", "Nothing lies on %q in air of %g m/s.", l.Support, l.AirSpeedMS)
		}
	}
	b := bodyOf(*in.Shape, *in.ThicknessMM)
	films := filmsOf(&in, *in.Support)
	tended.Bagged = append([]Span{{0, *in.BaggedUntilHours}}, tended.Bagged...)
	levels := [4]float64{skinAsks.level(iso, gum), holdAsks.level(iso, gum), firmAsks.level(iso, gum), hardAsks.level(iso, gum)}
	if b.shellMM > 0 {
		levels[2] = shellAsks.level(iso, gum)
	}
	run := march{in: &in, tended: &tended, airMS: *in.AirSpeedMS, iso: iso, gum: gum, room: room, body: b, films: films, levels: levels, only: 4}
	if *in.Paste == "marzipan" {
		run.only = 1
	}
	run.solve()
	return run.forecast(), nil
}

// checked validates in the order in which people would be told, and leaves no
// default open.
func (in *PredictIn) checked() (isotherm, error) {
	var none isotherm
	if err := fault.Check(in, "paste"); err != nil {
		return none, err
	}
	iso, err := pasteOf(*in.Paste)
	if err != nil {
		return none, err
	}
	if err := fault.Check(in, "gumPercent", "shape", "thicknessMM"); err != nil {
		return none, err
	}
	if t := *in.ThicknessMM; (*in.Shape == "sheet" || *in.Shape == "rolled") && t > 12 {
		return none, fault.New(fault.OutOfRange, "thicknessMM", "A sheet or rolled strip is at most 12 mm thick, not %g: a thicker piece is a block.", t)
	}
	if err := fault.Check(in, "support", "bodyMM"); err != nil {
		return none, err
	}
	switch rolled := *in.Shape == "rolled"; {
	case rolled && in.BodyMM == nil:
		return none, fault.New(fault.Required, "bodyMM", "A rolled piece needs its whole width as well: bodyMM.")
	case !rolled && in.BodyMM != nil:
		return none, fault.New(fault.Contradiction, "bodyMM", "bodyMM is for rolled pieces only.")
	case rolled && *in.BodyMM < 2**in.ThicknessMM:
		return none, fault.New(fault.Contradiction, "bodyMM", "A roll is at least twice as wide as its strip is thick.")
	}
	if err := fault.Check(in, "dust", "airSpeedMS", "baggedUntilHours", "horizonHours", "tempC", "rhPercent", "roomSeries"); err != nil {
		return none, err
	}
	if len(in.RoomSeries) > 0 {
		if in.TempC != nil || in.RHPercent != nil {
			return none, fault.New(fault.Contradiction, "roomSeries", "Say one room, or a series of them, not both.")
		}
		for i := 1; i < len(in.RoomSeries); i++ {
			if *in.RoomSeries[i].AtHours <= *in.RoomSeries[i-1].AtHours {
				return none, fault.New(fault.Contradiction, fmt.Sprintf("roomSeries[%d].atHours", i), "The hours of the room must rise.")
			}
		}
	} else if in.TempC == nil {
		return none, fault.New(fault.Required, "tempC", "How warm is the room?")
	} else if in.RHPercent == nil {
		return none, fault.New(fault.Required, "rhPercent", "How damp is the room? Say its relative humidity.")
	}
	if err := fault.Check(in, "timeFactor", "logSd", "turnAtHours"); err != nil {
		return none, err
	}
	if len(in.TurnAtHours) > 0 && *in.Shape != "sheet" && *in.Shape != "block" {
		return none, fault.New(fault.Contradiction, "turnAtHours", "Only a sheet or a block has two faces to turn.")
	}
	for i, h := range in.ReportAtHours {
		if !(h >= 0 && h <= *in.HorizonHours) {
			return none, fault.New(fault.OutOfRange, fmt.Sprintf("reportAtHours[%d]", i), "Reports lie between 0 and the horizon of %g h.", *in.HorizonHours)
		}
	}
	return iso, nil
}

func (in *PredictIn) room() room {
	if len(in.RoomSeries) == 0 {
		return room{{0, *in.TempC, *in.RHPercent}}
	}
	var r room
	for _, p := range in.RoomSeries {
		r = append(r, [3]float64{*p.AtHours, *p.TempC, *p.RHPercent})
	}
	return r
}

// room is hour, °C, % at rising hours: straight between, held outside.
type room [][3]float64

func (r room) at(h float64) (tempC, rh float64) {
	if h <= r[0][0] {
		return r[0][1], r[0][2]
	}
	last := r[len(r)-1]
	if h > last[0] {
		return last[1], last[2]
	}
	lo, hi := 0, len(r)-1 // r[lo] < h <= r[hi]
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; h <= r[mid][0] {
			hi = mid
		} else {
			lo = mid
		}
	}
	a, b := &r[lo], &r[hi]
	f := (h - a[0]) / (b[0] - a[0])
	return a[1] + f*(b[1]-a[1]), a[2] + f*(b[2]-a[2])
}

// meanRH is the exact time mean over 0..horizon.
func (r room) meanRH(horizon float64) float64 {
	marks := []float64{0, horizon}
	for _, p := range r {
		if p[0] > 0 && p[0] < horizon {
			marks = append(marks, p[0])
		}
	}
	slices.Sort(marks)
	sum := 0.0
	for i := 1; i < len(marks); i++ {
		_, a := r.at(marks[i-1])
		_, b := r.at(marks[i])
		sum += (a + b) / 2 * (marks[i] - marks[i-1])
	}
	return sum / horizon
}

// forecast reads the stages of the three runs.
func (m *march) forecast() Forecast {
	var f Forecast
	f.Notes = []string{}
	mean := m.room.meanRH(*m.in.HorizonHours)
	balance := m.iso.at(mean / 100)
	stages := [4]*Stage{&f.Skin, &f.Hold, &f.Firm, &f.Hard}
	never := false
	for i, s := range stages {
		if i >= m.only {
			s.Status = "never"
			continue
		}
		s.P50Hours, s.P10Hours, s.P90Hours = m.reached(0, i), m.reached(1, i), m.reached(2, i)
		switch {
		case s.P50Hours != nil:
			s.Status = "reached"
		case never || balance >= m.levels[i]:
			s.Status, never = "never", true
		default:
			s.Status = "late"
		}
	}
	if m.only == 1 {
		f.Notes = append(f.Notes, "skins_only")
	} else if f.Firm.Status == "never" {
		f.Notes = append(f.Notes, "will_not_set")
	}
	if mean >= 60 {
		f.Notes = append(f.Notes, "slow_air")
	}
	f.Samples = m.samples
	return f
}

func (m *march) reached(run, stage int) *float64 {
	t := m.times[run][stage]
	if math.IsInf(t, 1) {
		return nil
	}
	return &t
}

// LongestHours is how long a prediction looks ahead: what is not firm by then will
// not set here.
const LongestHours = 336.0
