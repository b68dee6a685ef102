package work

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/drying"
	"dustyfern/studio/noun"
)

// forecast says when a body passes its stages in an air. It is the one function by which
// any screen says a time of drying.
func forecast(body *noun.Body, air Air) (drying.Forecast, error) {
	gum := math.Min(body.GumPercent, 8)
	var whole *float64
	if body.BodyMM > 0 {
		whole = &body.BodyMM
	}
	turns := air.Turns
	if body.Shape != "sheet" && body.Shape != "block" {
		turns = nil // only what has two faces can be turned
	}
	f, err := once(fmt.Sprintf("dry|%s|%v|%s|%v|%v|%s%s", body.Paste, gum, body.Shape, body.ThicknessMM, body.BodyMM, body.Support, air.key()), func() (drying.Forecast, error) {
		return drying.Follow(drying.PredictIn{Paste: &body.Paste, GumPercent: &gum, Shape: &body.Shape, ThicknessMM: &body.ThicknessMM, BodyMM: whole, Support: &body.Support,
			AirSpeedMS: &air.MovesMS, RoomSeries: seriesOf(air.Series), HorizonHours: new(drying.LongestHours), TurnAtHours: turns, TimeFactor: new(math.Min(10, math.Max(0.1, air.Factor))), LogSd: &air.LogSd}, air.Tended)
	})
	f.Notes = slices.Clone(f.Notes) // many read it
	return f, err
}

// setsIn says when dough holds and is firm in an air.
func setsIn(body *noun.Body, air Air) (drying.Setting, error) {
	return once(fmt.Sprintf("set|%s|%v%s", body.Paste, body.ThicknessMM, air.key()), func() (drying.Setting, error) {
		return drying.SetsThrough(body.Paste, body.ThicknessMM, seriesOf(air.Series))
	})
}

// bandOf a stage in minutes, the quick end rounded down, the others up; nil when one
// of them does not come.
func stageBand(s drying.Stage) *Band {
	if s.P10Hours == nil || s.P50Hours == nil || s.P90Hours == nil {
		return nil
	}
	up := func(h float64) int { return int(math.Ceil(h*60 - 1e-9)) }
	return &Band{int(math.Floor(*s.P10Hours * 60)), up(*s.P50Hours), up(*s.P90Hours)}
}

// bandsOf a forecast.
func bandsOf(f drying.Forecast) Bands {
	return Bands{stageBand(f.Hold), stageBand(f.Firm), stageBand(f.Skin), stageBand(f.Hard)}
}

// stagesIn are the stages of a body in an air.
func stagesIn(body *noun.Body, air Air) (out Bands) {
	if body.Sets {
		s, err := setsIn(body, air)
		if err == nil {
			out.Hold, out.Firm = setBand(s.Hold), setBand(s.Firm)
		}
		return out
	}
	f, err := forecast(body, air)
	if err != nil {
		return out
	}
	return bandsOf(f)
}

// setBand is the band of a setting: as much quicker than the middle as slower.
func setBand(s drying.Moment) *Band {
	if s.Minutes == nil || s.SlowMinutes == nil {
		return nil
	}
	return &Band{int(*s.Minutes * *s.Minutes / *s.SlowMinutes), int(math.Ceil(*s.Minutes)), int(math.Ceil(*s.SlowMinutes))}
}

// MarksOf a drying: when its pieces may be touched, lifted, and joined, which is its
// end; of those that go on semi-dry, when they must be covered or joined.
func MarksOf(stages Bands, length int, until string) (out []noun.Mark) {
	for _, m := range []struct {
		kind string
		at   *Band
	}{{"touch", stages.Skin}, {"lift", stages.Hold}} {
		if m.at != nil && m.at.P90 < length {
			out = append(out, noun.Mark{Kind: m.kind, Minutes: m.at.P90})
		}
	}
	if until == "hold" && stages.Firm != nil {
		out = append(out, noun.Mark{Kind: "cover", Minutes: max(length, stages.Firm.P10)})
	}
	return append(out, noun.Mark{Kind: "join", Minutes: length})
}

// BodyOf is what dries of a piece until a moment of its chain: "firm" of the piece itself,
// "centre.firm" of another of its bodies; nil of a coat of paint, and what it waits for.
func (w *Reckoned) BodyOf(moment string) (body *noun.Body, stages Bands) {
	id, until, other := strings.Cut(moment, ".")
	if !other {
		id, until = "", moment
	}
	dries, stages := w.dries(), w.Stages
	if id != "" {
		dries, stages = nil, w.Others[id]
		for i := range w.Fore.Bodies {
			if w.Fore.Bodies[i].ID == id {
				dries = &w.Fore.Bodies[i]
			}
		}
	}
	if dries == nil || stages.Of(until) == nil && !slices.Contains([]string{"hold", "firm", "hard"}, until) {
		return nil, Bands{}
	}
	if w.Sets() {
		return &noun.Body{Paste: w.Piece.Dough, Shape: dries.Shape, ThicknessMM: dries.ThicknessMM, Support: dries.Support, Sets: true, Until: until, Rack: rackOf(w.Piece)}, stages
	}
	return &noun.Body{Paste: w.family, GumPercent: math.Min(w.Strength, 8), Shape: dries.Shape, ThicknessMM: dries.ThicknessMM, BodyMM: dries.BodyMM, Support: dries.Support, Until: until, Rack: rackOf(w.Piece)}, stages
}
