package studio

import (
	"context"
	"crypto/rand"
	"crypto/subtle"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
)

// BusyDays is how far ahead busy times are taken out of a calendar.
const BusyDays = 90

// BusyView is what a calendar would close of the hours at the bench.
type BusyView struct {
	Says  string   `json:"says"`
	Lines []string `json:"lines" doc:"the first of them, in words"`
	Found int      `json:"found"`
	In    int      `json:"in" doc:"how many of them fall into hours at the bench"`
}

// mostBusyLines is how many are shown before they are taken.
const mostBusyLines = 6

// BusyFrom is the zone of a kitchen, and from when to when busy times are wanted.
func (s *Service) BusyFrom(ctx context.Context, slug string) (zone *time.Location, from, to time.Time, err error) {
	err = s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, now time.Time) error {
		zone, from, to = k.Zone(), now, now.AddDate(0, 0, BusyDays)
		return nil
	})
	return zone, from, to, err
}

// LookBusy says what busy times would close. Nothing is kept.
func (s *Service) LookBusy(ctx context.Context, slug, who string, times []noun.Busy, unread int) (out BusyView, err error) {
	out.Lines = []string{}
	err = s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, now time.Time) error {
		if err := knownHands(k, who); err != nil {
			return err
		}
		times := noun.Joined(who, times)
		r := read.Reader{K: k}
		hours := k.OpenHours(now, now.AddDate(0, 0, BusyDays))
		out.Found = len(times)
		for _, b := range times {
			if !slices.ContainsFunc(hours, func(w noun.Stretch) bool {
				return b.Start.Before(w.End) && w.Start.Before(b.End) && (who == "" || len(w.Names) == 0 || slices.Contains(w.Names, who))
			}) {
				continue
			}
			if out.In++; len(out.Lines) < mostBusyLines {
				out.Lines = append(out.Lines, r.Time(b.Start.In(now.Location()), now)+" to "+r.Time(b.End.In(now.Location()), now))
			}
		}
		whose := "everybody"
		if who != "" {
			whose = who
		}
		out.Says = fmt.Sprintf("%s in the next %d days, %d of them in hours at the bench of %s", read.Count(len(times), "busy stretch"), BusyDays, out.In, whose)
		if unread > 0 {
			out.Says += fmt.Sprintf("; %s cannot be read and is left out", read.Count(unread, "event"))
		}
		return nil
	})
	return out, err
}

func knownHands(k *noun.Kitchen, who string) error {
	if who != "" && !slices.Contains(k.People(), who) {
		return fault.New(fault.UnknownValue, "who", "Nobody of that name stands in the hours: %s.", read.List(append(k.People(), "everybody")))
	}
	return nil
}

// TakeBusy keeps when somebody is busy, instead of what was kept of theirs before; none
// of them lets it go. The hours at the bench close then.
func (s *Service) TakeBusy(ctx context.Context, slug, who string, times []noun.Busy) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		k, err := journal.Get[noun.Kitchen](a, a.House.ID)
		if err != nil {
			return err
		}
		if len(times) > 0 {
			if err := knownHands(&k, who); err != nil {
				return err
			}
		}
		kept := slices.DeleteFunc(slices.Clone(k.Busy), func(b noun.Busy) bool { return b.Who == who || !b.End.After(a.Now) })
		kept = append(kept, noun.Joined(who, times)...)
		slices.SortStableFunc(kept, func(x, y noun.Busy) int { return x.Start.Compare(y.Start) })
		if len(kept) > noun.MostBusy {
			return fault.New(fault.OutOfRange, "file", "That are %d busy stretches; at most %d are kept. Give out fewer months of the calendar.", len(kept), noun.MostBusy)
		}
		whose := "everybody"
		if who != "" {
			whose = who
		}
		if k.Busy = kept; len(times) == 0 {
			a.Say(0, "let go of the busy times of %s", whose)
		} else {
			a.Say(0, "took the busy times of %s from a calendar", whose)
		}
		return a.Save(&k)
	}, nil)
	return err
}

// CalendarAddress makes a new secret address at which a calendar reads the line, or takes
// it away: whoever had the one before reads nothing more. It is no line of the journal,
// since it must not come back by taking something back.
func (s *Service) CalendarAddress(ctx context.Context, slug string, on bool) error {
	return s.Store.Write(ctx, slug, func(tx journal.Tx) error {
		k := *tx.Kitchen()
		if k.CalendarKey = ""; on {
			k.CalendarKey = rand.Text()
		}
		if err := tx.Save(&k); err != nil {
			return err
		}
		_, err := tx.Tell()
		return err
	})
}

// CalendarAt is the line for whoever knows the secret of its address.
func (s *Service) CalendarAt(ctx context.Context, slug, key string) (name string, now time.Time, events []plan.CalendarEvent, err error) {
	known := false
	err = s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, _ time.Time) error {
		known = k.CalendarKey != "" && subtle.ConstantTimeCompare([]byte(k.CalendarKey), []byte(key)) == 1
		return nil
	})
	if err == nil && !known {
		err = journal.ErrNotFound
	}
	if err != nil {
		return "", now, nil, err
	}
	return s.Calendar(ctx, slug)
}
