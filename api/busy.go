package api

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	ics "github.com/arran4/golang-ical"
	"github.com/danielgtaylor/huma/v2"
	"github.com/teambition/rrule-go"

	"dustyfern/craft/fault"
	"dustyfern/studio"
	"dustyfern/studio/noun"
)

// What of a calendar is read: a file of a few years, each event at most so often.
const (
	mostCalendar = 4 << 20
	mostRepeats  = 1000
)

// busyIn is a calendar file, and whose it is.
type busyIn struct {
	InStudio
	Who     string `query:"who" maxLength:"80" doc:"empty: everybody's"`
	RawBody []byte `contentType:"application/octet-stream"`
}

func calendarSized(op *huma.Operation) { op.MaxBodyBytes, op.SkipValidateBody = mostCalendar, true }

// times are when somebody is busy in the time that a kitchen plans for.
func (in *busyIn) times(ctx context.Context, s *studio.Service) ([]noun.Busy, int, error) {
	zone, from, to, err := s.BusyFrom(ctx, in.Studio)
	if err != nil {
		return nil, 0, err
	}
	return busyTimes(in.RawBody, zone, from, to)
}

// busyTimes reads when somebody is busy out of an iCalendar file, from one instant to
// another: events, those that repeat as often as they do, whole days as days of the zone.
// What is only a note (transparent) or called off is left out. unread counts events
// whose times or rules cannot be read.
func busyTimes(raw []byte, zone *time.Location, from, to time.Time) (out []noun.Busy, unread int, err error) {
	cal, err := ics.ParseCalendar(bytes.NewReader(raw))
	if err != nil || !bytes.Contains(raw, []byte("BEGIN:VCALENDAR")) {
		return nil, 0, fault.New(fault.Syntax, "file", "This is no calendar file: an .ics is wanted, as calendars give it out.")
	}
	instead := map[string][]time.Time{} // of repeated events: occurrences that are moved or called off
	for _, e := range cal.Events() {
		if at := e.GetProperty(ics.ComponentPropertyRecurrenceId); at != nil {
			if t, _, err := instant(at, zone); err == nil {
				instead[e.Id()] = append(instead[e.Id()], t)
			}
		}
	}
	for _, e := range cal.Events() {
		if says(e, ics.ComponentPropertyTransp) == "TRANSPARENT" || says(e, ics.ComponentPropertyStatus) == "CANCELLED" {
			continue
		}
		start, length, err := stretch(e, zone)
		if err != nil {
			unread++
			continue
		}
		var skip []time.Time
		if e.GetProperty(ics.ComponentPropertyRecurrenceId) == nil {
			skip = instead[e.Id()]
		}
		starts, err := occurrences(e, start, zone, from.Add(-length), to, skip)
		if err != nil {
			unread++
			continue
		}
		for _, t := range starts {
			if end := t.Add(length); end.After(from) && t.Before(to) {
				out = append(out, noun.Busy{Start: t, End: end})
			}
		}
	}
	return out, unread, nil
}

func says(e *ics.VEvent, p ics.ComponentProperty) string {
	if x := e.GetProperty(p); x != nil {
		return strings.ToUpper(x.Value)
	}
	return ""
}

var errNoTime = errors.New("no time that can be read")

// instant reads a time of an event; day: a whole day. A zone that is not known here is
// taken as the kitchen's.
func instant(p *ics.IANAProperty, zone *time.Location) (t time.Time, day bool, err error) {
	if p == nil {
		return t, false, errNoTime
	}
	if names := p.ICalParameters["TZID"]; len(names) > 0 {
		if z, err := time.LoadLocation(strings.Trim(names[0], `"`)); err == nil {
			zone = z
		}
	}
	return instantOf(p.Value, zone)
}

func instantOf(text string, zone *time.Location) (t time.Time, day bool, err error) {
	if t, err = time.Parse("20060102T150405Z", text); err == nil {
		return t, false, nil
	}
	if t, err = time.ParseInLocation("20060102T150405", text, zone); err == nil {
		return t, false, nil
	}
	t, err = time.ParseInLocation("20060102", text, zone)
	return t, true, err
}

// stretch is when an event begins, and how long it lasts.
func stretch(e *ics.VEvent, zone *time.Location) (start time.Time, length time.Duration, err error) {
	start, day, err := instant(e.GetProperty(ics.ComponentPropertyDtStart), zone)
	if err != nil {
		return start, 0, err
	}
	if end, _, err := instant(e.GetProperty(ics.ComponentPropertyDtEnd), zone); err == nil {
		if !end.After(start) {
			return start, 0, errNoTime
		}
		return start, end.Sub(start), nil
	}
	if text := says(e, ics.ComponentPropertyDuration); text != "" {
		length, err = duration(text)
		return start, length, err
	}
	if day {
		return start, start.AddDate(0, 0, 1).Sub(start), nil
	}
	return start, 0, errNoTime
}

// duration reads P1DT2H30M and P2W.
func duration(text string) (d time.Duration, err error) {
	units := map[byte]time.Duration{'W': 7 * 24 * time.Hour, 'D': 24 * time.Hour, 'H': time.Hour, 'M': time.Minute, 'S': time.Second}
	rest := strings.ReplaceAll(strings.TrimPrefix(text, "+"), "T", "")
	if !strings.HasPrefix(rest, "P") || len(rest) < 3 {
		return 0, errNoTime
	}
	for rest = rest[1:]; rest != ""; {
		n, unit := 0, byte(0)
		if got, err := fmt.Sscanf(rest, "%d%c", &n, &unit); got != 2 || err != nil || units[unit] == 0 || n < 0 || n > 100000 {
			return 0, errNoTime
		}
		d += time.Duration(n) * units[unit]
		rest = rest[strings.IndexByte(rest, unit)+1:]
	}
	if d <= 0 {
		return 0, errNoTime
	}
	return d, nil
}

// occurrences are when an event begins, from one instant to another.
func occurrences(e *ics.VEvent, start time.Time, zone *time.Location, from, to time.Time, skip []time.Time) ([]time.Time, error) {
	out := []time.Time{start}
	if rule := e.GetProperty(ics.ComponentPropertyRrule); rule != nil {
		o, err := rrule.StrToROptionInLocation(rule.Value, zone)
		if err != nil {
			return nil, err
		}
		if o.Freq == rrule.HOURLY || o.Freq == rrule.MINUTELY || o.Freq == rrule.SECONDLY {
			return nil, errNoTime // nobody is busy so
		}
		o.Dtstart = start
		r, err := rrule.NewRRule(*o)
		if err != nil {
			return nil, err
		}
		out = out[:0]
		next := r.Iterator()
		for t, ok := next(); ok && t.Before(to) && len(out) < mostRepeats; t, ok = next() {
			if !t.Before(from) {
				out = append(out, t)
			}
		}
	}
	for _, x := range e.GetProperties(ics.ComponentPropertyRdate) {
		for _, text := range strings.Split(x.Value, ",") {
			if t, _, err := instantOf(text, start.Location()); err == nil {
				out = append(out, t)
			}
		}
	}
	for _, x := range e.GetProperties(ics.ComponentPropertyExdate) {
		for _, text := range strings.Split(x.Value, ",") {
			if t, _, err := instantOf(text, start.Location()); err == nil {
				skip = append(skip, t)
			}
		}
	}
	return slices.DeleteFunc(out, func(t time.Time) bool {
		return slices.ContainsFunc(skip, func(s time.Time) bool { return s.Equal(t) })
	}), nil
}
