package shelf

import (
	"context"
	"fmt"
	"math"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// StripView is the air of a place over time: what was read, what is expected, and the lines
// over which drying slows or stops.
type StripView struct {
	ID     int64        `json:"id"`
	Name   string       `json:"name"`
	FromMS int64        `json:"fromMs"`
	NowMS  int64        `json:"nowMs"`
	ToMS   int64        `json:"toMs"`
	Read   []StripPoint `json:"read"`
	Comes  []StripPoint `json:"comes" doc:"expected"`
	Lines  []StripLine  `json:"lines"`
	Days   []StripDay   `json:"days"`
	Says   string       `json:"says"`
	Gaps   string       `json:"gaps" doc:"what was not read, or cannot have been so"`
	Warm   string       `json:"warm" doc:"coldest and warmest"`
}

// StripPoint is one point of it; a gap before it breaks the line.
type StripPoint struct {
	MS    int64   `json:"ms"`
	TempC float64 `json:"tempC"`
	Temp  string  `json:"temp"`
	RH    float64 `json:"rh"`
	Low   float64 `json:"low"`
	High  float64 `json:"high"`
	Gap   bool    `json:"gap"`
	Bad   int     `json:"bad" doc:"readings within it that cannot be"`
}

// StripLine is a humidity over which something happens.
type StripLine struct {
	RH   float64 `json:"rh"`
	Says string  `json:"says"`
}

// StripDay is a midnight.
type StripDay struct {
	MS   int64  `json:"ms"`
	Says string `json:"says"`
}

// StripHours are the stretches that are offered, and how finely each is drawn.
var StripHours = map[int]time.Duration{72: time.Hour, 30 * 24: 6 * time.Hour, 365 * 24: 24 * time.Hour}

// Strip shows the air of a place over so many hours back.
func (s *Shelf) Strip(ctx context.Context, slug string, rack int64, hours int) (out StripView, err error) {
	step, known := StripHours[hours]
	if !known {
		return out, fault.New(fault.UnknownValue, "hours", "A strip is of 72, 720 or 8760 hours.")
	}
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		if rack != 0 && k.RackOf(rack) == nil {
			return journal.ErrNotFound
		}
		r := read.Reader{K: k}
		from := now.Add(-time.Duration(hours) * time.Hour).Truncate(time.Hour)
		all, err := tx.Strip(rack, from, now.Add(time.Hour), step)
		if err != nil {
			return err
		}
		ahead := 0
		if hours == 72 {
			ahead = 72
		}
		out = StripView{ID: rack, Name: read.UpperFirst(k.RackName(rack)), FromMS: from.UnixMilli(), NowMS: now.UnixMilli(), ToMS: now.Add(time.Duration(ahead) * time.Hour).UnixMilli(), Read: []StripPoint{}, Comes: []StripPoint{}, Lines: []StripLine{}, Days: []StripDay{}}
		low, high, bad, gaps := math.Inf(1), math.Inf(-1), 0, 0
		last := from
		for _, x := range all {
			bad += x.Bad
			if x.RHPercent == nil || x.TempC == nil {
				continue
			}
			gap := x.At.Sub(last) > 2*step
			if gap {
				gaps++
			}
			last = x.At
			low, high = math.Min(low, *x.TempC), math.Max(high, *x.TempC)
			out.Read = append(out.Read, StripPoint{MS: x.At.Add(step / 2).UnixMilli(), TempC: *x.TempC, Temp: r.Temp(*x.TempC), RH: *x.RHPercent, Low: *x.LowRH, High: *x.HighRH, Gap: gap, Bad: x.Bad})
		}
		for h := range ahead + 1 {
			at := now.Truncate(time.Hour).Add(time.Duration(h) * time.Hour)
			t, rh := k.AirIn(rack, at, now)
			out.Comes = append(out.Comes, StripPoint{MS: at.UnixMilli(), TempC: t, Temp: r.Temp(t), RH: rh, Low: rh, High: rh})
		}
		for day := time.Date(from.Year(), from.Month(), from.Day()+1, 0, 0, 0, 0, now.Location()); hours == 72 && day.UnixMilli() < out.ToMS; day = day.AddDate(0, 0, 1) {
			out.Days = append(out.Days, StripDay{day.UnixMilli(), day.Format("Mon")})
		}
		limits := firmLimits()
		out.Lines = append(out.Lines, StripLine{slowRH, "over 60 % everything is slow"})
		for i, l := range []limit{limits[0], limits[len(limits)-1]} {
			says := "over %s %% a sheet of %s does not get firm"
			if i == 1 {
				says = "over %s %% not even one of %s"
			}
			out.Lines = append(out.Lines, StripLine{l.upTo, fmt.Sprintf(says, read.Trimmed(l.upTo, 0), r.Say(read.PasteName(l.paste)))})
		}
		out.told(k, rack, low, high, bad, gaps, r, now)
		return nil
	})
	return out, err
}

// told says the strip in words.
func (v *StripView) told(k *noun.Kitchen, rack int64, low, high float64, bad, gaps int, r read.Reader, now time.Time) {
	if len(v.Read) == 0 {
		v.Says = "Nothing was read here: it is taken as it was said, " + airView(k, rack, now).Says + "."
		if rack == 0 && k.Sensor == "" {
			v.Says += " Name its room sensor, or bring readings in out of a file."
		}
	} else {
		if t, rh, at := k.NowIn(rack, now); !at.IsZero() {
			v.Says = fmt.Sprintf("Read %s: %s, %s %%.", read.SayWhen(at, now), r.Temp(t), read.Trimmed(rh, 0))
		}
		v.Warm = fmt.Sprintf("%s to %s over this time.", r.Temp(low), r.Temp(high))
	}
	if n := len(v.Comes); n > 1 {
		lowest, highest := math.Inf(1), math.Inf(-1)
		var slow *StripPoint
		for i := range v.Comes {
			c := &v.Comes[i]
			lowest, highest = math.Min(lowest, c.RH), math.Max(highest, c.RH)
			if c.RH >= slowRH && slow == nil {
				slow = c
			}
		}
		low, high := read.Trimmed(lowest, 0), read.Trimmed(highest, 0)
		expected := low + " to " + high + " % are"
		if low == high {
			expected = low + " % is"
		}
		v.Says += " Over the next three days " + expected + " expected"
		if slow != nil && slow.MS > now.UnixMilli() {
			v.Says += ", over 60 % from " + r.Time(time.UnixMilli(slow.MS).In(now.Location()), now)
		}
		v.Says += "."
	}
	if gaps > 0 || bad > 0 {
		var says []string
		if gaps > 0 {
			says = append(says, read.Count(gaps, "stretch")+" without a reading")
		}
		if bad > 0 {
			says = append(says, fmt.Sprintf("%s cannot have been so and %s not used", read.Count(bad, "reading"), map[bool]string{true: "was", false: "were"}[bad == 1]))
		}
		v.Gaps = read.UpperFirst(strings.Join(says, "; ")) + "."
	}
}
