package work

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/drying"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// stepHours is how long the room takes to become another one: at once, as far as a
// model can tell that draws straight lines between what was said.
const stepHours = 1.0 / 3600

// seriesOf the room, in hours after it was first said.
func seriesOf(room []noun.RoomSaid) (out []drying.RoomPoint) {
	last := -1.0
	for i, r := range room {
		at := r.At.Sub(room[0].At).Hours()
		if i > 0 {
			if before := at - stepHours; before > last {
				out = append(out, drying.RoomPoint{AtHours: &before, TempC: new(room[i-1].TempC), RHPercent: new(room[i-1].RHPercent)})
			}
			if at = math.Max(at, last+2*stepHours); at > drying.LongestHours {
				break
			}
		}
		last = at
		out = append(out, drying.RoomPoint{AtHours: new(at), TempC: new(r.TempC), RHPercent: new(r.RHPercent)})
	}
	return out
}

func roomKey(room []noun.RoomSaid) string {
	var s strings.Builder
	for _, r := range room {
		fmt.Fprintf(&s, "|%.4f %v %v", r.At.Sub(room[0].At).Hours(), r.TempC, r.RHPercent)
	}
	return s.String()
}

// forecast says when a body passes its stages in a room, which may change. It is the
// one function by which any screen says a time of drying.
func forecast(body *noun.Body, room []noun.RoomSaid) (drying.Forecast, error) {
	gum := math.Min(body.GumPercent, 8)
	var whole *float64
	if body.BodyMM > 0 {
		whole = &body.BodyMM
	}
	f, err := once(fmt.Sprintf("dry|%s|%v|%s|%v|%v|%s%s", body.Paste, gum, body.Shape, body.ThicknessMM, body.BodyMM, body.Support, roomKey(room)), func() (drying.Forecast, error) {
		return drying.Predict(drying.PredictIn{Paste: &body.Paste, GumPercent: &gum, Shape: &body.Shape, ThicknessMM: &body.ThicknessMM, BodyMM: whole, Support: &body.Support,
			RoomSeries: seriesOf(room), HorizonHours: new(drying.LongestHours)})
	})
	f.Notes = slices.Clone(f.Notes) // many read it
	return f, err
}

// setsIn says when dough holds and is firm in a room that changes.
func setsIn(body *noun.Body, room []noun.RoomSaid) (drying.Setting, error) {
	return once(fmt.Sprintf("set|%s|%v%s", body.Paste, body.ThicknessMM, roomKey(room)), func() (drying.Setting, error) {
		return drying.SetsThrough(body.Paste, body.ThicknessMM, seriesOf(room))
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

// stagesIn are the stages of a body in a room.
func stagesIn(body *noun.Body, room []noun.RoomSaid) (out Bands) {
	if body.Sets {
		s, err := setsIn(body, room)
		if err == nil {
			out.Hold, out.Firm = setBand(s.Hold), setBand(s.Firm)
		}
		return out
	}
	f, err := forecast(body, room)
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

// redried reckons anew a drying that has begun when the room has become another one
// since: its end, what may be done before, or that it does not end here.
func redried(st *noun.Step, k *noun.Kitchen) {
	body := st.Planned.Body
	if body == nil || k == nil || st.ActualStart == nil {
		return
	}
	room := k.RoomFrom(*st.ActualStart)
	if same := body.RHPercent == 0 || body.RHPercent == room[0].RHPercent && body.TempC == room[0].TempC; len(room) < 2 && same {
		return // it lies in the room for which it was planned
	}
	stages := stagesIn(body, room)
	waits := stages.Of(body.Until)
	if waits == nil {
		st.Never = true
		length := int(drying.LongestHours * 60)
		st.PlannedEnd = st.ActualStart.Add(time.Duration(length) * time.Minute)
		marks := MarksOf(stages, length)
		st.Planned.Marks = marks[:len(marks)-1] // joined they are never
		return
	}
	length := bench.Drying{P50: waits.P50, P90: waits.P90}.Length(k.Confidence)
	st.PlannedEnd = st.ActualStart.Add(time.Duration(length) * time.Minute)
	st.Planned.Marks = MarksOf(stages, length)
}

// MarksOf a drying: when its pieces may be touched, lifted, and joined, which is its
// end.
func MarksOf(stages Bands, length int) (out []noun.Mark) {
	for _, m := range []struct {
		kind string
		at   *Band
	}{{"touch", stages.Skin}, {"lift", stages.Hold}} {
		if m.at != nil && m.at.P90 < length {
			out = append(out, noun.Mark{Kind: m.kind, Minutes: m.at.P90})
		}
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
		return &noun.Body{Paste: w.Piece.Dough, Shape: dries.Shape, ThicknessMM: dries.ThicknessMM, Support: dries.Support, Sets: true, Until: until}, stages
	}
	return &noun.Body{Paste: w.family, GumPercent: math.Min(w.Strength, 8), Shape: dries.Shape, ThicknessMM: dries.ThicknessMM, BodyMM: dries.BodyMM, Support: dries.Support, Until: until}, stages
}

// driesTo are rooms that help what dries too slowly: as people can have them, with a
// box or a heater.
var driesTo = []float64{55, 45, 40}

// WouldHelp says what lets a drying end that does not in this room, and when: drier
// air from now on. "" when nothing short of another way does.
func WouldHelp(st *noun.Step, k *noun.Kitchen, now time.Time, r read.Reader) string {
	body := st.Planned.Body
	if body == nil || st.ActualStart == nil {
		return ""
	}
	ends := func(tempC, rh float64) (time.Time, bool) {
		room := append(k.RoomFrom(*st.ActualStart), noun.RoomSaid{At: now, TempC: tempC, RHPercent: rh})
		waits := stagesIn(body, room).Of(body.Until)
		if waits == nil {
			return now, false
		}
		return st.ActualStart.Add(time.Duration(bench.Drying{P50: waits.P50, P90: waits.P90}.Length(k.Confidence)) * time.Minute), true
	}
	if body.Sets {
		soft, err := drying.SoftPoint(body.Paste)
		if err != nil {
			return ""
		}
		if at, ok := ends(soft-4, k.RHPercent); ok {
			return fmt.Sprintf("Cooler, %s: firm %s.", r.Temp(soft-4), r.Time(at, now))
		}
		return ""
	}
	for _, rh := range driesTo {
		if rh >= k.RHPercent {
			continue
		}
		if at, ok := ends(k.TempC, rh); ok {
			return fmt.Sprintf("Drier air, %.0f %% humidity: %s %s.", rh, map[string]string{"hold": "it holds", "firm": "firm", "hard": "hard"}[body.Until], r.Time(at, now))
		}
	}
	return ""
}
