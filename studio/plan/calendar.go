package plan

import (
	"context"
	"fmt"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// CalendarEvent is a step that wants hands, or a hand-over, as a calendar shows it.
type CalendarEvent struct {
	UID   string // the same as long as it is the same step
	Title string
	Says  string
	Start time.Time
	End   time.Time
}

// Calendar is what is planned for hands and not done yet, of all open orders, with
// their hand-overs; the name of the studio, and now.
func (s *Planning) Calendar(ctx context.Context, slug string) (name string, now time.Time, out []CalendarEvent, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, at time.Time) error {
		name, now, out = k.Name, at, nil
		open, err := tx.OpenCommissions()
		if err != nil {
			return err
		}
		for i := range open {
			c := &open[i]
			if c.State != "open" || c.DeletedAt != nil {
				continue
			}
			steps, err := tx.Steps(c.ID)
			if err != nil {
				return err
			}
			for _, st := range work.Derived(steps, k, at) {
				if !st.Attended || st.ActualStart != nil {
					continue
				}
				out = append(out, CalendarEvent{UID: fmt.Sprintf("%s-%s", k.Slug, st.Op), Title: st.Title, Says: c.Title, Start: st.PlannedStart, End: st.PlannedEnd})
			}
			if c.HandOver != nil {
				out = append(out, CalendarEvent{UID: fmt.Sprintf("%s-c%d-over", k.Slug, c.ID), Title: "Hand over: " + c.Title, Says: c.Customer, Start: *c.HandOver, End: c.HandOver.Add(handOverLasts)})
			}
		}
		return nil
	})
	return name, now, out, err
}

// handOverLasts is how long a hand-over stands in a calendar: it is a moment, and a
// moment is easily overlooked.
const handOverLasts = 15 * time.Minute
