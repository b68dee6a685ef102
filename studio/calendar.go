package studio

import (
	"fmt"
	"sort"
	"strconv"
	"strings"
	"time"
)

// openHours turns weekly hours and exceptions into concrete stretches from one
// instant to another, so that summer time is inside them already.
func (k *Kitchen) openHours(from, to time.Time) []stretch {
	zone := k.zone()
	var out []stretch
	first := from.In(zone)
	// days are counted where none is ever left out or doubled
	for day := time.Date(first.Year(), first.Month(), first.Day(), 0, 0, 0, 0, time.UTC); ; day = day.AddDate(0, 0, 1) {
		noon := time.Date(day.Year(), day.Month(), day.Day(), 12, 0, 0, 0, zone)
		if !noon.Before(to.Add(24 * time.Hour)) {
			break
		}
		date := day.Format(time.DateOnly)
		if noon.Format(time.DateOnly) != date {
			continue // the zone has skipped it
		}
		today := []Hours{}
		for _, h := range k.Hours {
			if h.Weekday == day.Weekday() {
				today = append(today, h)
			}
		}
		for _, x := range k.Exceptions {
			if x.Date == date {
				today = x.Open
			}
		}
		for _, h := range today {
			s := stretch{day: date, people: max(1, len(h.People)), names: h.People, preferred: !h.Unwelcome, start: clockOn(day, h.From, zone), end: clockOn(day, h.To, zone)}
			if !s.start.Before(to) {
				continue
			}
			if s.start.Before(from) {
				s.start = from
			}
			if s.end.Sub(s.start) >= 5*time.Minute {
				s.id = "w" + s.end.Format("20060102-1504")
				out = append(out, s)
			}
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].start.Before(out[j].start) })
	kept := out[:0]
	for _, s := range out { // an exception may overlap nothing, but two of one date may
		if n := len(kept); n > 0 && s.start.Before(kept[n-1].end) {
			continue
		}
		kept = append(kept, s)
	}
	return kept
}

type stretch struct {
	id, day    string
	start, end time.Time
	people     int
	names      []string
	preferred  bool
}

func (k *Kitchen) zone() *time.Location {
	z, err := time.LoadLocation(k.TimeZone)
	if err != nil {
		return time.UTC
	}
	return z
}

func clockOn(day time.Time, clock string, zone *time.Location) time.Time {
	h, m, _ := strings.Cut(clock, ":")
	hh, _ := strconv.Atoi(h)
	mm, _ := strconv.Atoi(m)
	if hh == 24 { // the end of the day
		day, hh = day.AddDate(0, 0, 1), 0
	}
	return onClock(day.Year(), day.Month(), day.Day(), hh, mm, zone)
}

func opBatch(piece int64, part int) string { return fmt.Sprintf("p%d.%d", piece, part) }

func opID(p *Piece, part int, kind string) string { return opBatch(p.ID, part) + "." + kind }
