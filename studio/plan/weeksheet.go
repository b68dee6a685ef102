package plan

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// WeekSheet is seven days on paper: what hands do and when, what becomes ready, what is
// handed over.
type WeekSheet struct {
	Name    string     `json:"name" doc:"of the studio"`
	From    string     `json:"from" doc:"the first day, as 2026-12-01"`
	Shown   string     `json:"shown" doc:"the days, in words"`
	Earlier string     `json:"earlier"`
	Later   string     `json:"later"`
	Printed string     `json:"printed" doc:"now, in words: a sheet on paper grows old"`
	Days    []SheetDay `json:"days"`
}

// SheetDay is one of them.
type SheetDay struct {
	Date  string      `json:"date"`
	Name  string      `json:"name"`
	Hours string      `json:"hours" doc:"at the bench, with who is there; or that it is shut"`
	Hands string      `json:"hands" doc:"what hands are planned for, in all"`
	Steps []SheetStep `json:"steps"`
	Ready []string    `json:"ready" doc:"waits that end on it"`
	Over  []string    `json:"over" doc:"orders that are handed over"`
}

// SheetStep is a line of it, with a box to tick.
type SheetStep struct {
	Op     string `json:"op"`
	When   string `json:"when"`
	Length string `json:"length"`
	Title  string `json:"title"`
	Order  string `json:"order"`
	Who    string `json:"who"`
	Pinned bool   `json:"pinned"`
	Done   bool   `json:"done"`
}

// Week shows seven days from a date on, "" from today.
func (s *Planning) Week(ctx context.Context, slug, from string) (out WeekSheet, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out, err = weekSheet(tx, k, now, from)
		return err
	})
	return out, err
}

// dayOf reads a date, or is today.
func dayOf(from string, now time.Time) time.Time {
	if day, err := time.ParseInLocation(time.DateOnly, from, now.Location()); err == nil {
		return day
	}
	return time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, now.Location())
}

func weekSheet(tx journal.Tx, k *noun.Kitchen, now time.Time, from string) (WeekSheet, error) {
	r := read.Reader{K: k}
	start := dayOf(from, now)
	end := start.AddDate(0, 0, 7)
	said := func(t time.Time) string { return t.Format("Mon ") + r.Day(t, false) }
	out := WeekSheet{Name: k.Name, From: start.Format(time.DateOnly), Shown: said(start) + " to " + said(end.AddDate(0, 0, -1)), Earlier: start.AddDate(0, 0, -7).Format(time.DateOnly), Later: end.Format(time.DateOnly), Printed: said(now) + ", " + r.Clock(now), Days: []SheetDay{}}
	cs, err := tx.OpenCommissions()
	if err != nil {
		return out, err
	}
	thin, err := tx.ThinStepsWithin(start.AddDate(0, 0, -lineDays), end)
	if err != nil {
		return out, err
	}
	titles, hands, hours := noun.TitlesOf(cs), HandsOf(k, now), k.OpenHours(start, end)
	steps := work.Derived(thin, k, now)
	for day := start; day.Before(end); day = day.AddDate(0, 0, 1) {
		next := day.AddDate(0, 0, 1)
		d := SheetDay{Date: day.Format(time.DateOnly), Name: day.Format("Monday ") + r.Day(day, false), Steps: []SheetStep{}, Ready: []string{}, Over: []string{}}
		d.Hours = hoursOn(hours, d.Date, r)
		minutes := 0
		for i := range steps {
			l := NewLineStep(steps[i], titles[steps[i].CommissionID], r, now)
			switch {
			case l.Attended && !l.Start.Before(day) && l.Start.Before(next):
				x := SheetStep{Op: l.Op, When: r.Clock(l.Start.In(now.Location())), Length: l.LengthSays, Title: l.Title, Order: l.Commission, Pinned: l.Pinned != nil, Done: l.ActualEnd != nil}
				if hands.Told(&l.Step) || l.Who != "" {
					x.Who = read.List(hands.Of(&l.Step))
				}
				minutes += l.Hands()
				d.Steps = append(d.Steps, x)
			case !l.Attended && !l.Never && !l.End.Before(day) && l.End.Before(next) && l.End.Sub(l.Start) >= readyAfter:
				d.Ready = append(d.Ready, fmt.Sprintf("%s about %s", read.LowerFirst(l.Title), r.Clock(l.End.In(now.Location()))))
			}
		}
		slices.SortStableFunc(d.Steps, func(a, b SheetStep) int { return cmp.Compare(a.When, b.When) })
		if minutes > 0 {
			d.Hands = read.SayMinutes(minutes)
		}
		for i := range cs {
			if h := cs[i].HandOver; h != nil && cs[i].State == "open" && !h.Before(day) && h.Before(next) {
				d.Over = append(d.Over, cs[i].Title+", "+r.Clock(h.In(now.Location())))
			}
		}
		out.Days = append(out.Days, d)
	}
	return out, nil
}

// readyAfter is how long a wait lasts that is worth a line on paper: the others end while
// hands are still there.
const readyAfter = 2 * time.Hour

func hoursOn(hours []noun.Stretch, date string, r read.Reader) string {
	out := []string{}
	for _, w := range hours {
		if w.Day != date {
			continue
		}
		say := r.Clock(w.Start) + " to " + r.Clock(w.End)
		if len(w.Names) > 0 {
			say += ", " + read.List(w.Names)
		}
		out = append(out, say)
	}
	if len(out) == 0 {
		return "shut"
	}
	return read.List(out)
}
