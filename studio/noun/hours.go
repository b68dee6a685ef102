package noun

import (
	"slices"
	"sort"
	"strconv"
	"strings"
	"time"
)

// Stretch is hours at the bench from one instant to another, with who is there.
type Stretch struct {
	Id, Day    string
	Start, End time.Time
	People     int
	Names      []string
	Preferred  bool
}

func clockOn(day time.Time, clock string, zone *time.Location) time.Time {
	h, m, _ := strings.Cut(clock, ":")
	hh, _ := strconv.Atoi(h)
	mm, _ := strconv.Atoi(m)
	if hh == 24 { // the end of the day
		day, hh = day.AddDate(0, 0, 1), 0
	}
	return OnClock(day.Year(), day.Month(), day.Day(), hh, mm, zone)
}

// OnClock is when a clock on the wall shows that time. Of an hour that comes
// twice it is the first, so that nobody is late; in an hour that is left out it
// is the one after the gap.
func OnClock(y int, m time.Month, d, hour, minute int, zone *time.Location) time.Time {
	t := time.Date(y, m, d, hour, minute, 0, 0, zone)
	shows := func(t time.Time) bool { return t.Hour() == hour && t.Minute() == minute }
	if early := t.Add(-time.Hour); shows(t) && shows(early) {
		return early
	}
	if later := t.Add(time.Hour); !shows(t) && t.Hour() < hour && later.Day() == t.Day() {
		return later
	}
	return t
}

// OpenHours turns weekly hours and exceptions into concrete stretches from one
// instant to another, so that summer time is inside them already.
func (k *Kitchen) OpenHours(from, to time.Time) []Stretch {
	zone := k.Zone()
	var out []Stretch
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
		for _, h := range k.HoursOn(date) {
			s := Stretch{Day: date, People: max(1, len(h.People)), Names: h.People, Preferred: !h.Unwelcome, Start: clockOn(day, h.From, zone), End: clockOn(day, h.To, zone)}
			if !s.Start.Before(to) {
				continue
			}
			if s.Start.Before(from) {
				s.Start = from
			}
			for _, s := range k.without(s) {
				if s.End.Sub(s.Start) >= 5*time.Minute {
					s.Id = "w" + s.End.Format("20060102-1504")
					out = append(out, s)
				}
			}
		}
	}
	sort.Slice(out, func(i, j int) bool { return out[i].Start.Before(out[j].Start) })
	kept := out[:0]
	for _, s := range out { // an exception may overlap nothing, but two of one date may
		if n := len(kept); n > 0 && s.Start.Before(kept[n-1].End) {
			continue
		}
		kept = append(kept, s)
	}
	return kept
}

// MostBusy is how many busy stretches a kitchen keeps.
const MostBusy = 400

// without takes out of a stretch when those who are named in it are busy: what is left of
// it, with those who are there.
func (k *Kitchen) without(s Stretch) []Stretch {
	cuts := []time.Time{s.Start, s.End}
	var busy []Busy
	for _, b := range k.Busy {
		if b.Start.Before(s.End) && s.Start.Before(b.End) && (b.Who == "" || slices.Contains(s.Names, b.Who)) {
			busy = append(busy, b)
			cuts = append(cuts, b.Start, b.End)
		}
	}
	if len(busy) == 0 {
		return []Stretch{s}
	}
	slices.SortFunc(cuts, time.Time.Compare)
	var out []Stretch
	for i := 1; i < len(cuts); i++ {
		x := s
		x.Start, x.End = cuts[i-1].In(s.Start.Location()), cuts[i].In(s.Start.Location())
		if x.Start.Before(s.Start) || x.End.After(s.End) || !x.End.After(x.Start) {
			continue
		}
		if x.Names = slices.Clone(s.Names); !k.thereIn(&x, busy) {
			continue
		}
		if n := len(out) - 1; n >= 0 && out[n].End.Equal(x.Start) && slices.Equal(out[n].Names, x.Names) {
			out[n].End = x.End
			continue
		}
		out = append(out, x)
	}
	return out
}

// thereIn leaves in a stretch those who are not busy; false: nobody is there.
func (k *Kitchen) thereIn(x *Stretch, busy []Busy) bool {
	for _, b := range busy {
		if !b.Start.Before(x.End) || !x.Start.Before(b.End) {
			continue
		}
		if b.Who == "" {
			return false
		}
		x.Names = slices.DeleteFunc(x.Names, func(n string) bool { return n == b.Who })
		if len(x.Names) == 0 {
			return false
		}
	}
	x.People = max(1, len(x.Names))
	return true
}

// Joined are busy times of one, on whole minutes and in order, what touches as one.
func Joined(who string, times []Busy) (out []Busy) {
	all := slices.Clone(times)
	slices.SortFunc(all, func(a, b Busy) int { return a.Start.Compare(b.Start) })
	for _, b := range all {
		b.Who, b.Start, b.End = who, b.Start.UTC().Truncate(time.Minute), b.End.UTC().Add(time.Minute-1).Truncate(time.Minute)
		if n := len(out) - 1; n >= 0 && !b.Start.After(out[n].End) {
			if b.End.After(out[n].End) {
				out[n].End = b.End
			}
			continue
		}
		out = append(out, b)
	}
	return out
}

// Zone is the studio's time zone; UTC when its name is not known here.
func (k *Kitchen) Zone() *time.Location {
	z, err := time.LoadLocation(k.TimeZone)
	if err != nil {
		return time.UTC
	}
	return z
}

// People who work here, as the hours name them.
func (k *Kitchen) People() []string {
	out := []string{}
	for _, h := range k.Hours {
		for _, p := range h.People {
			if !slices.Contains(out, p) {
				out = append(out, p)
			}
		}
	}
	return out
}

// PersonAt is who is at the bench, as the hours say.
func (k *Kitchen) PersonAt(now time.Time) string {
	for _, w := range k.OpenHours(now.Add(-24*time.Hour), now.Add(24*time.Hour)) {
		if !w.Start.After(now) && w.End.After(now) && len(w.Names) > 0 {
			return w.Names[0]
		}
	}
	for _, h := range k.Hours {
		if len(h.People) > 0 {
			return h.People[0]
		}
	}
	return "Somebody"
}

// SpoonOf is the grams in a level teaspoon of this kitchen, nil when nobody has
// weighed one.
func (k *Kitchen) SpoonOf(kind string) *float64 {
	if g, ok := k.SpoonGrams[kind]; ok {
		return &g
	}
	return nil
}

// UsualWindow is the longest stretch at the bench where nobody said any, minutes.
const UsualWindow = 180

// LongestStretch is the longest weekly stretch at the bench, minutes.
func (k *Kitchen) LongestStretch() int {
	most := 0
	for _, h := range k.Hours {
		at := func(clock string) int {
			hh, mm, _ := strings.Cut(clock, ":")
			a, _ := strconv.Atoi(hh)
			b, _ := strconv.Atoi(mm)
			return 60*a + b
		}
		most = max(most, at(h.To)-at(h.From))
	}
	if most == 0 {
		return UsualWindow
	}
	return most
}

// HoursOn are the hours of a date: those of its weekday, or its own.
func (k *Kitchen) HoursOn(date string) []Hours {
	for _, x := range slices.Backward(k.Exceptions) {
		if x.Date == date {
			return x.Open
		}
	}
	day, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return nil
	}
	out := []Hours{}
	for _, h := range k.Hours {
		if h.Weekday == day.Weekday() {
			out = append(out, h)
		}
	}
	return out
}
