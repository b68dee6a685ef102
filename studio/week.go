package studio

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Week is the hours of a week as seven strips, and the dates of the next weeks.
type Week struct {
	From  int        `json:"from" doc:"minute of the day at which the strips begin"`
	To    int        `json:"to"`
	Marks []HourMark `json:"marks"`
	Days  []WeekDay  `json:"days" doc:"from Monday on"`
	Dates []DateCell `json:"dates" doc:"whole weeks, from the Monday of this one on"`
}

// HourMark is an hour written over the strips.
type HourMark struct {
	At  int    `json:"at" doc:"minute of the day"`
	Say string `json:"say"`
}

// WeekDay is one strip.
type WeekDay struct {
	Weekday   int           `json:"weekday" doc:"0 is Sunday"`
	Name      string        `json:"name"`
	Stretches []WeekStretch `json:"stretches"`
}

// WeekStretch is a stretch at the bench, every week.
type WeekStretch struct {
	At        int    `json:"at" doc:"its place among the hours, for a change"`
	From      int    `json:"from" doc:"minute of the day"`
	To        int    `json:"to"`
	FromSays  string `json:"fromSays"`
	ToSays    string `json:"toSays"`
	Who       string `json:"who"`
	Unwelcome bool   `json:"unwelcome"`
	Says      string `json:"says"`
}

// DateCell is a day of the calendar.
type DateCell struct {
	Date  string `json:"date"`
	Day   string `json:"day" doc:"of the month; the first of one with its name"`
	Name  string `json:"name" doc:"in words"`
	Says  string `json:"says" doc:"its hours, or that it is shut"`
	Open  bool   `json:"open"`
	Own   bool   `json:"own" doc:"not as its weekday is"`
	Gone  bool   `json:"gone" doc:"before today"`
	Today bool   `json:"today"`
}

// weeksShown is how far the calendar looks ahead.
const weeksShown = 6

func weekOf(k *noun.Kitchen, r read.Reader, now time.Time) Week {
	w := Week{From: 24 * 60, Marks: []HourMark{}, Days: []WeekDay{}, Dates: []DateCell{}}
	for i := range 7 {
		day := time.Weekday((i + 1) % 7)
		d := WeekDay{Weekday: int(day), Name: day.String(), Stretches: []WeekStretch{}}
		for at, h := range k.Hours {
			if h.Weekday == day {
				x := WeekStretch{At: at, From: minuteOf(h.From), To: minuteOf(h.To), FromSays: r.ClockText(h.From), ToSays: r.ClockText(h.To), Who: strings.Join(h.People, ", "), Unwelcome: h.Unwelcome, Says: r.HoursText(h)}
				w.From, w.To = min(w.From, x.From), max(w.To, x.To)
				d.Stretches = append(d.Stretches, x)
			}
		}
		slices.SortFunc(d.Stretches, func(a, b WeekStretch) int { return cmp.Compare(a.From, b.From) })
		w.Days = append(w.Days, d)
	}
	// room before and after for a stretch that is still to be drawn
	w.From, w.To = max(0, min(w.From, 8*60)/60*60-60), min(24*60, (max(w.To, 20*60)+119)/60*60)
	for at := w.From; at < w.To; at += 180 {
		w.Marks = append(w.Marks, HourMark{at, r.ClockText(fmt.Sprintf("%02d:00", at/60))})
	}
	today := time.Date(now.Year(), now.Month(), now.Day(), 12, 0, 0, 0, now.Location())
	monday := today.AddDate(0, 0, -(int(today.Weekday())+6)%7)
	for i := range 7 * weeksShown {
		t := monday.AddDate(0, 0, i)
		c := DateCell{Date: t.Format(time.DateOnly), Day: fmt.Sprint(t.Day()), Name: t.Format("Monday ") + r.Day(t, false), Gone: t.Before(today), Today: t.Equal(today)}
		if t.Day() == 1 || i == 0 {
			c.Day = r.Day(t, false)
		}
		c.Own = slices.ContainsFunc(k.Exceptions, func(x noun.Exception) bool { return x.Date == c.Date })
		says := []string{}
		for _, h := range k.HoursOn(c.Date) {
			says = append(says, r.HoursText(h))
		}
		c.Says, c.Open = cmp.Or(strings.Join(says, ", "), "shut"), len(says) > 0
		if busy := busyOn(k, r, t); busy != "" {
			c.Says += "; busy: " + busy
		}
		w.Dates = append(w.Dates, c)
	}
	return w
}

// busyOn says who is busy in the hours of a day, and when.
func busyOn(k *noun.Kitchen, r read.Reader, noon time.Time) string {
	var says []string
	day := time.Date(noon.Year(), noon.Month(), noon.Day(), 0, 0, 0, 0, noon.Location())
	for _, b := range k.Busy {
		if !b.Start.Before(day.AddDate(0, 0, 1)) || !b.End.After(day) {
			continue
		}
		from, to := b.Start.In(noon.Location()), b.End.In(noon.Location())
		if from.Before(day) {
			from = day
		}
		if end := day.AddDate(0, 0, 1); to.After(end) {
			to = end
		}
		says = append(says, strings.TrimSpace(fmt.Sprintf("%s %s to %s", b.Who, r.Clock(from), r.Clock(to))))
	}
	return strings.Join(says, ", ")
}

func minuteOf(clock string) int {
	var h, m int
	_, _ = fmt.Sscanf(clock, "%d:%d", &h, &m)
	return h*60 + m
}

// StretchIn changes a stretch of the weekly hours, as it was read at a version.
type StretchIn struct {
	Version   int64  `json:"version"`
	At        int    `json:"at" doc:"its place among the hours; -1: a new one"`
	Weekday   int    `json:"weekday" minimum:"0" maximum:"6" doc:"0 is Sunday"`
	From      string `json:"from" maxLength:"40"`
	To        string `json:"to" maxLength:"40"`
	Who       string `json:"who" maxLength:"400"`
	Unwelcome bool   `json:"unwelcome"`
	Off       bool   `json:"off" doc:"it is taken off"`
}

// ChangeStretch sets, adds or takes off a stretch of the weekly hours. What it says is
// read as a line of the hours is.
func (s *Service) ChangeStretch(ctx context.Context, slug string, in StretchIn) (KitchenView, error) {
	k, err := s.house(ctx, slug)
	if err != nil {
		return KitchenView{}, err
	}
	if in.At < -1 || in.At >= len(k.Hours) || in.At == -1 && in.Off {
		return KitchenView{}, fault.New(fault.UnknownValue, "hours", "There is no such stretch any more: look at the week again.")
	}
	r := read.Reader{K: k}
	type line struct {
		day  int // from Monday
		from int
		text string
	}
	var all []line
	for i, h := range k.Hours {
		if i != in.At {
			all = append(all, line{(int(h.Weekday) + 6) % 7, minuteOf(h.From), h.Weekday.String()[:3] + " " + r.HoursText(h)})
		}
	}
	if !in.Off {
		from, to := strings.TrimSpace(in.From), strings.TrimSpace(in.To)
		text := fmt.Sprintf("%s %s-%s %s", time.Weekday(in.Weekday).String()[:3], from, to, strings.TrimSpace(in.Who))
		if in.Unwelcome {
			text += " (unwelcome)"
		}
		at := 0
		if h, _, err := read.ReadHours(from + "-" + to); err == nil {
			at = minuteOf(h.From)
		}
		all = append(all, line{(in.Weekday + 6) % 7, at, strings.TrimSpace(text)})
	}
	slices.SortStableFunc(all, func(a, b line) int { return cmp.Or(cmp.Compare(a.day, b.day), cmp.Compare(a.from, b.from)) })
	texts := make([]string, len(all))
	for i, l := range all {
		texts[i] = l.text
	}
	return s.ChangeKitchen(ctx, slug, journal.ChangeIn{Version: in.Version, Set: map[string]string{"hours": strings.Join(texts, "\n")}})
}

// ChangeDate says how one date is: "" as its weekday, "shut", or hours and people.
func (s *Service) ChangeDate(ctx context.Context, slug string, version int64, date, says string) (KitchenView, error) {
	k, err := s.house(ctx, slug)
	if err != nil {
		return KitchenView{}, err
	}
	day, err := time.Parse(time.DateOnly, date)
	if err != nil {
		return KitchenView{}, fault.New(fault.Syntax, "date", "A date is written as 2026-12-24.")
	}
	r := read.Reader{K: k}
	texts := []string{}
	for _, x := range k.Exceptions {
		if x.Date != date {
			texts = append(texts, r.ExceptionText(x))
		}
	}
	if says = strings.TrimSpace(says); says != "" {
		texts = append(texts, day.Format("Mon ")+r.Day(day, true)+" "+says)
	}
	return s.ChangeKitchen(ctx, slug, journal.ChangeIn{Version: version, Set: map[string]string{"exceptions": strings.Join(texts, "\n")}})
}

// house is the kitchen of a studio as it is kept.
func (s *Service) house(ctx context.Context, slug string) (out *noun.Kitchen, err error) {
	return out, s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, _ time.Time) error {
		out = new(*k)
		return nil
	})
}
