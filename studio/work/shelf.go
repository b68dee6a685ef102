package work

import (
	"fmt"
	"math"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/drying"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Drying is a batch that lies drying, or is dry and still lies there: when it passes its
// stages, in minutes since it was laid out.
type Drying struct {
	Step    *noun.Step
	Stages  Bands
	Rack    int64
	Support string
	Bagged  bool
	Turned  int
	Tray    int // of its place, as somebody put it; 0: nobody said
}

// DryingOf reads a wait that has begun; ok is false when nothing dries in it.
func DryingOf(st *noun.Step, k *noun.Kitchen, now time.Time) (d Drying, ok bool) {
	if st.Planned.Body == nil || st.ActualStart == nil {
		return d, false
	}
	d = Drying{Step: st, Rack: LastRack(st), Support: st.Planned.Body.Support, Stages: stagesIn(st.Planned.Body, airOf(st, k, now))}
	for _, t := range st.Tended {
		switch t.Do {
		case noun.Turn:
			d.Turned++
		case noun.Bag:
			d.Bagged = true
		case noun.Unbag:
			d.Bagged = false
		case noun.OnTo:
			d.Support = t.Support
		case noun.ToTray:
			d.Tray = t.Tray
		case noun.ToRack:
			d.Tray = 0
		}
	}
	return d, true
}

// Foretold is the hours of a stage of a drying as they are foretold with what this kitchen
// has taught, and as the model alone has them.
func Foretold(st *noun.Step, k *noun.Kitchen, stage string, now time.Time) (band *Band, model float64) {
	air := airOf(st, k, now)
	band = stagesIn(st.Planned.Body, air).Of(stage)
	if st.Planned.Body.Sets {
		return band, 0 // it does not dry: nothing is learnt of drying
	}
	air.Factor, air.LogSd = 1, 0.35
	if m := stagesIn(st.Planned.Body, air).Of(stage); m != nil {
		model = float64(m.P50) / 60
	}
	return band, model
}

// MeanAir is the air in which a drying lay until now.
func MeanAir(st *noun.Step, k *noun.Kitchen, now time.Time) (tempC, rhPercent float64) {
	return meanOf(airOf(st, k, now).Series, math.Max(0.01, now.Sub(*st.ActualStart).Hours()))
}

// Try is a change to how something dries, with the times it would give.
type Try struct {
	Says   string `json:"says"`
	Costs  string `json:"costs" doc:"what it takes, in words"`
	When   string `json:"when" doc:"when it is ready so"`
	Band   string `json:"band"`
	Saves  string `json:"saves" doc:"how much sooner or later that is"`
	Better bool   `json:"better"`
}

// Tries are the changes that could be made to a piece that will dry, cheapest first, by the
// same function as its times.
func (b *Means) Tries(w *Reckoned) []Try {
	out := []Try{}
	body := w.dries()
	if body == nil || w.Sets() || w.View.Dry == nil || w.family == "" || w.family == "marzipan" {
		return out
	}
	gum := math.Min(w.Strength, 8)
	stage := "firm"
	if w.State == "S" {
		stage = "hold"
	}
	is := func(x drying.Forecast) *Band { return bandsOf(x).Of(stage) }
	now := w.Stages.Of(stage)
	mean, meanRH := meanOf(w.air.Series, 72)
	add := func(says, costs string, thickness, gum float64, air Air, support string) {
		x := noun.Body{Paste: w.family, GumPercent: gum, Shape: body.Shape, ThicknessMM: thickness, BodyMM: body.BodyMM, Support: support}
		f, err := forecast(&x, air)
		if err != nil {
			return
		}
		out = append(out, b.tried(b.Reader.Say(says), b.Reader.Say(costs), is(f), now))
	}
	if body.Support == "board" {
		add("On foam instead of a board", "a piece of foam", body.ThicknessMM, gum, w.air, "foam")
	}
	if body.Shape == "sheet" || body.Shape == "block" {
		turned := w.air
		if now != nil && body.Support == "board" {
			half := float64(now.P50) / 120
			turned.Turns = []float64{half}
			add(fmt.Sprintf("Turned at half time, after %s", read.SayMinutes(int(half*60))), "hands once, when they hold", body.ThicknessMM, gum, turned, body.Support)
		}
	}
	fan := w.air
	fan.MovesMS = 1
	add("A fan on them", "a fan, turned down; light pieces held", body.ThicknessMM, gum, fan, body.Support)
	add(fmt.Sprintf("%s warmer", b.Reader.TempSpan(2)), "heat in the room", body.ThicknessMM, gum, w.air.warmer(2), body.Support)
	if meanRH > 40 {
		add("In a drying box at 40 %", "a box that is dried", body.ThicknessMM, gum, w.air.as(mean, 40), body.Support)
	}
	for _, r := range b.Kitchen.Around.Racks {
		if r.ID != rackOf(w.Piece) {
			there := b.airIn(r.ID, w.air.Series[0].At, w.family)
			add("In "+r.Name, "its trays", body.ThicknessMM, gum, there, body.Support)
		}
	}
	if thin := math.Max(0.5, body.ThicknessMM*0.75); thin < body.ThicknessMM {
		add("Thinner, "+b.Reader.Length(thin), "they break sooner", thin, gum, w.air, body.Support)
	}
	if gum > 0.8 {
		add(fmt.Sprintf("Less gum, %s %%", read.Trimmed(gum-0.4, 1)), "a softer paste", body.ThicknessMM, gum-0.4, w.air, body.Support)
	}
	bagged := w.air
	until := b.noonAfter(w.air.Series[0].At)
	bagged.Tended.Bagged = []drying.Span{{FromHours: 0, UntilHours: until.Sub(w.air.Series[0].At).Hours()}}
	add("In a bag until "+b.Reader.Time(until, b.Now)+", to bend them later", "bags that close", body.ThicknessMM, gum, bagged, body.Support)
	return out
}

// noonAfter is the next noon after an instant.
func (b *Means) noonAfter(at time.Time) time.Time {
	at = at.In(b.Now.Location())
	noon := time.Date(at.Year(), at.Month(), at.Day(), 12, 0, 0, 0, at.Location())
	if !noon.After(at) {
		noon = noon.AddDate(0, 0, 1)
	}
	return noon
}

// warmer is the same air, warmer: the water in it stays, so it is drier.
func (a Air) warmer(by float64) Air {
	out := a
	out.Series = nil
	for _, p := range a.Series {
		rh := p.RHPercent * drying.Saturation(p.TempC) / drying.Saturation(p.TempC+by)
		out.Series = append(out.Series, noun.RoomSaid{At: p.At, TempC: p.TempC + by, RHPercent: math.Max(5, rh)})
	}
	return out
}

func (b *Means) tried(says, costs string, is, now *Band) Try {
	t := Try{Says: says, Costs: costs, When: "never here"}
	if is == nil {
		return t
	}
	p := func(m int) *float64 { return new(float64(m) / 60) }
	t.When, t.Band = read.Estimate(float64(is.P50)/60, p(is.P10), p(is.P90))
	switch {
	case now == nil:
		t.Saves, t.Better = "it sets", true
	case now.P90-is.P90 >= 5:
		t.Saves, t.Better = read.EstimateMinutes(now.P90-is.P90)+" sooner", true
	case is.P90-now.P90 >= 5:
		t.Saves = read.EstimateMinutes(is.P90-now.P90) + " later"
	default:
		t.Saves = "no difference"
	}
	return t
}

// Habit is how long somebody waits, and what that means here.
type Habit struct {
	Says  string `json:"says"`
	Why   string `json:"why"`
	Ready string `json:"ready"`
	Costs string `json:"costs"`
	Sure  string `json:"sure"`
}

// overnightHours is what overnight is read as (docs/models/drying.md, 8).
const overnightHours = 12

// Habits are the two that good makers have, with what each costs of this piece.
func (b *Means) Habits(w *Reckoned) []Habit {
	stage := "firm"
	if w.State == "S" {
		stage = "hold"
	}
	band := w.Stages.Of(stage)
	if band == nil || w.Sets() {
		return []Habit{}
	}
	plans := bench.Drying{P50: band.P50, P90: band.P90}.Length(b.Kitchen.Confidence)
	costs := func(m int) string {
		switch {
		case m > plans+5:
			return read.EstimateMinutes(m-plans) + " more than is planned"
		case m < plans-5:
			return read.EstimateMinutes(plans-m) + " less than is planned"
		}
		return "just what is planned"
	}
	sure := func(m int) string {
		// the share of batches that are ready by then, a log-normal through the band
		sd := math.Log(float64(band.P90)/math.Max(1, float64(band.P50))) / 1.28155
		if sd <= 0 {
			return ""
		}
		z := math.Log(float64(m)/math.Max(1, float64(band.P50))) / sd
		return "ready by then with " + read.Chance(math.Erfc(-z/math.Sqrt2)/2)
	}
	few := band.P50
	night := max(overnightHours*60, band.P50)
	return []Habit{
		{"As soon as they hold, a few hours", "Like pieces of one sheet dry alike; what is touched is known", "after " + read.EstimateMinutes(few), costs(few), sure(few)},
		{"Overnight", "Nobody has to look, and thick cores lag", "after " + read.EstimateMinutes(night), costs(night), sure(night)},
	}
}

// Lies is how long and wide one piece is as it lies, mm.
func (b *Means) Lies(c *noun.Commission, p *noun.Piece) (lengthMM, widthMM float64) {
	w := &Reckoned{Piece: p, order: c}
	b.madeAs(w)
	lengthMM, widthMM = w.Fore.Names["lieLengthMM"], w.Fore.Names["lieWidthMM"]
	if lengthMM <= 0 || widthMM <= 0 {
		return 30, 30
	}
	return lengthMM, widthMM
}
