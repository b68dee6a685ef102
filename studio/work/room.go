package work

import (
	"fmt"
	"math"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/drying"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Air is in what a body dries: the air from when it was laid out, how fast it moves, how
// fast this kitchen dries, and what hands do to it meanwhile.
type Air struct {
	Series        []noun.RoomSaid
	MovesMS       float64
	Factor, LogSd float64
	Tended        drying.Tending
	Turns         []float64 // in hours
}

// seriesOf an air, in hours after its first point.
func seriesOf(room []noun.RoomSaid) (out []drying.RoomPoint) {
	last := -1.0
	for _, r := range room {
		at := r.At.Sub(room[0].At).Hours()
		if at > drying.LongestHours {
			break
		}
		if at > last {
			out = append(out, drying.RoomPoint{AtHours: &at, TempC: new(r.TempC), RHPercent: new(r.RHPercent)})
			last = at
		}
	}
	return out
}

// key tells one air from another.
func (a *Air) key() string {
	var s strings.Builder
	fmt.Fprintf(&s, "|%v %.4f %.4f %v %v", a.MovesMS, a.Factor, a.LogSd, a.Tended, a.Turns)
	for _, r := range a.Series {
		fmt.Fprintf(&s, "|%.4f %v %v", r.At.Sub(a.Series[0].At).Hours(), r.TempC, r.RHPercent)
	}
	return s.String()
}

// as is the same with other air in it.
func (a Air) as(tempC, rhPercent float64) Air {
	a.Series = []noun.RoomSaid{{TempC: tempC, RHPercent: rhPercent}}
	return a
}

// AirNow is the air of a piece that will be laid out, and as fast as this kitchen dries its
// paste: from when hands can lay it out next, or from when that is planned, where the air is
// notably damper by then. What is planned with does not change with every hour.
func (b *Means) AirNow(p *noun.Piece, family string) Air {
	return b.airIn(rackOf(p), b.laidOutAt(p.ID, rackOf(p)), family)
}

func (b *Means) laidOutAt(piece, rack int64) time.Time {
	from := b.nextOpening()
	if at, known := b.Begins[piece]; known && at.After(from) && b.damper(rack, at, from) {
		return at
	}
	return from
}

// damperRH and coolerC are from what on the mean of a day counts as notably damper, or
// cooler (assumed): less is within any band.
const (
	damperRH = 3.0
	coolerC  = 1.5
)

// damper tells whether things dry notably slower in a place from one instant on than from
// another.
func (b *Means) damper(rack int64, at, than time.Time) bool {
	if !b.Kitchen.Varies(rack, b.Now) {
		return false
	}
	mean := func(from time.Time) (tempC, rh float64) {
		from = from.Truncate(time.Hour)
		return meanOf(b.Kitchen.AirOf(rack, from, from.Add(24*time.Hour), b.Now), 24)
	}
	t1, rh1 := mean(at)
	t0, rh0 := mean(than)
	return rh1-rh0 >= damperRH || t0-t1 >= coolerC
}

func (b *Means) airIn(rack int64, from time.Time, family string) Air {
	k := b.Kitchen
	out := Air{MovesMS: k.MovesAt(rack)}
	if k.Varies(rack, b.Now) {
		out.Series = k.AirOf(rack, from.Truncate(time.Hour), time.Time{}, b.Now) // by the hour: an answer is asked for often
	} else {
		t, rh, _ := k.NowIn(rack, b.Now)
		out.Series = []noun.RoomSaid{{At: from, TempC: t, RHPercent: rh}}
	}
	out.Factor, out.LogSd = k.Pace(family, b.Now)
	return out
}

func rackOf(p *noun.Piece) int64 {
	if p.Rack != nil {
		return *p.Rack
	}
	return 0
}

// nextOpening is when hands can lay something out next.
func (b *Means) nextOpening() time.Time {
	if b.opens.IsZero() {
		b.opens = b.Now
		if open := b.Kitchen.OpenHours(b.Now, b.Now.AddDate(0, 0, 7)); len(open) > 0 && open[0].Start.After(b.Now) {
			b.opens = open[0].Start
		}
	}
	return b.opens
}

// eveningHours is over how long an evening lasts in which the air is taken as one.
const eveningHours = 6

// RoomFor is the kitchen's air for the hands that make a piece: as it was said, or the mean
// that is expected of that evening, as finely as a plan should follow it.
func (b *Means) RoomFor(p *noun.Piece) (tempC, rhPercent float64) {
	k := b.Kitchen
	if !k.Varies(0, b.Now) {
		return k.TempC, k.RHPercent
	}
	from := b.laidOutAt(p.ID, 0).Truncate(time.Hour)
	t, rh := meanOf(k.AirOf(0, from, from.Add(eveningHours*time.Hour), b.Now), eveningHours)
	return math.Round(2*t) / 2, math.Round(rh)
}

// meanOf an air over its first hours.
func meanOf(series []noun.RoomSaid, hours float64) (tempC, rhPercent float64) {
	sumT, sumR, sum := 0.0, 0.0, 0.0
	for i, p := range series {
		from, until := p.At.Sub(series[0].At).Hours(), hours
		q := p
		if i+1 < len(series) {
			q = series[i+1]
			until = math.Min(hours, q.At.Sub(series[0].At).Hours())
		}
		if d := until - from; d > 0 {
			sumT, sumR, sum = sumT+d*(p.TempC+q.TempC)/2, sumR+d*(p.RHPercent+q.RHPercent)/2, sum+d
		}
	}
	if sum == 0 {
		return series[0].TempC, series[0].RHPercent
	}
	return sumT / sum, sumR / sum
}

// airOf a drying that has begun: where it lay and lies, what hands did to it, and the air
// there, as it was and as it is expected.
func airOf(st *noun.Step, k *noun.Kitchen, now time.Time) Air {
	start := *st.ActualStart
	body := st.Planned.Body
	hours := func(at time.Time) float64 { return math.Max(0, at.Sub(start).Hours()) }
	out := Air{}
	out.Factor, out.LogSd = k.Pace(body.Paste, now)
	rack, support, from := body.Rack, body.Support, start
	out.MovesMS = k.MovesAt(rack)
	var bagged *time.Time
	for _, t := range st.Tended {
		switch t.Do {
		case noun.Turn:
			out.Turns = append(out.Turns, hours(t.At))
		case noun.Bag:
			if bagged == nil {
				bagged = &t.At
			}
		case noun.Unbag:
			if bagged != nil {
				out.Tended.Bagged = append(out.Tended.Bagged, drying.Span{FromHours: hours(*bagged), UntilHours: hours(t.At)})
				bagged = nil
			}
		case noun.OnTo, noun.ToRack:
			if t.Do == noun.OnTo {
				support = t.Support
			} else {
				out.Series = append(out.Series, k.AirOf(rack, from, t.At, now)...)
				rack, from = t.Rack, t.At
			}
			out.Tended.Lies = append(out.Tended.Lies, drying.Lying{FromHours: hours(t.At), Support: support, AirSpeedMS: k.MovesAt(rack)})
		}
	}
	if bagged != nil {
		out.Tended.Bagged = append(out.Tended.Bagged, drying.Span{FromHours: hours(*bagged), UntilHours: drying.LongestHours})
	}
	if before := out.Series; len(before) > 0 && from.Sub(before[len(before)-1].At) > time.Second {
		last := before[len(before)-1]
		out.Series = append(out.Series, noun.RoomSaid{At: from.Add(-time.Second), TempC: last.TempC, RHPercent: last.RHPercent})
	}
	out.Series = append(out.Series, k.AirOf(rack, from, time.Time{}, now)...)
	return out
}

// redried reckons anew a drying that has begun when the room has become another one
// since: its end, what may be done before, or that it does not end here.
func redried(st *noun.Step, k *noun.Kitchen, now time.Time) {
	body := st.Planned.Body
	if body == nil || k == nil || st.ActualStart == nil {
		return
	}
	air := airOf(st, k, now)
	if same := body.RHPercent == 0 || body.RHPercent == air.Series[0].RHPercent && body.TempC == air.Series[0].TempC; len(air.Series) < 2 && same && len(st.Tended) == 0 && len(k.Around.Belief.Mean) == 0 {
		return // it lies in the room for which it was planned
	}
	stages := stagesIn(body, air)
	waits := stages.Of(body.Until)
	if waits == nil {
		st.Never = true
		length := int(drying.LongestHours * 60)
		st.PlannedEnd = st.ActualStart.Add(time.Duration(length) * time.Minute)
		marks := MarksOf(stages, length, body.Until)
		st.Planned.Marks = marks[:len(marks)-1] // joined they are never
		return
	}
	length := bench.Drying{P50: waits.P50, P90: waits.P90}.Length(k.Confidence)
	st.PlannedEnd = st.ActualStart.Add(time.Duration(length) * time.Minute)
	st.Planned.Marks = MarksOf(stages, length, body.Until)
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
	tempC, rhPercent, _ := k.NowIn(LastRack(st), now)
	ends := func(tempC, rh float64) (time.Time, bool) {
		air := airOf(st, k, now)
		air.Series = append(upTo(air.Series, now), noun.RoomSaid{At: now, TempC: tempC, RHPercent: rh})
		waits := stagesIn(body, air).Of(body.Until)
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
		if at, ok := ends(soft-4, rhPercent); ok {
			return fmt.Sprintf("Cooler, %s: firm %s.", r.Temp(soft-4), r.Time(at, now))
		}
		return ""
	}
	for _, rh := range driesTo {
		if rh >= rhPercent {
			continue
		}
		if at, ok := ends(tempC, rh); ok {
			return fmt.Sprintf("Drier air, %.0f %% humidity: %s %s.", rh, map[string]string{"hold": "it holds", "firm": "firm", "hard": "hard"}[body.Until], r.Time(at, now))
		}
	}
	return ""
}

// upTo is an air until an instant, as it was by then.
func upTo(series []noun.RoomSaid, now time.Time) (out []noun.RoomSaid) {
	for i, p := range series {
		if i > 0 && !p.At.Before(now.Add(-time.Second)) {
			last := out[len(out)-1]
			return append(out, noun.RoomSaid{At: now.Add(-time.Second), TempC: last.TempC, RHPercent: last.RHPercent})
		}
		out = append(out, p)
	}
	return out
}

// LastRack is where a drying lies now.
func LastRack(st *noun.Step) int64 {
	rack := int64(0)
	if st.Planned.Body != nil {
		rack = st.Planned.Body.Rack
	}
	for _, t := range st.Tended {
		if t.Do == noun.ToRack {
			rack = t.Rack
		}
	}
	return rack
}

// Rack is where the piece dries; 0: in the kitchen.
func (w *Reckoned) Rack() int64 { return rackOf(w.Piece) }

// Air is in what the piece dries.
func (w *Reckoned) Air() *Air { return &w.air }

// RoomSays is the air of the kitchen now, and how old that is when it was read.
func RoomSays(k *noun.Kitchen, now time.Time) string { return airNowSays(k, 0, now) }

func airNowSays(k *noun.Kitchen, rack int64, now time.Time) string {
	r := read.Reader{K: k}
	tempC, rh, at := k.NowIn(rack, now)
	out := r.Temp(tempC) + ", " + read.Trimmed(rh, 0) + " %"
	if !at.IsZero() && noun.Stale(at, now) {
		out += ", read " + r.Time(at, now)
	}
	return out
}

// LaterIsSlower takes the hours at which pieces are planned to be laid out into what is
// reckoned with, and tells whether one of them dries notably slower then.
func (b *Means) LaterIsSlower(planned []noun.Step) (slower bool) {
	for _, st := range planned {
		body := st.Planned.Body
		if body == nil || st.Attended || st.PieceID == nil || st.ActualStart != nil {
			continue
		}
		if b.damper(body.Rack, st.PlannedStart, b.laidOutAt(*st.PieceID, body.Rack)) {
			if b.Begins == nil {
				b.Begins = map[int64]time.Time{}
			}
			b.Begins[*st.PieceID], slower = st.PlannedStart, true
		}
	}
	return slower
}
