package plan

import (
	"slices"
	"time"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// movedAtLeast is the shift that is worth a word.
const movedAtLeast = 10 * time.Minute

// mostMoved is how many moved steps are told.
const mostMoved = 30

// shifts compares the plan with the one before it: what has moved, and where it
// stood. A step that was begun meanwhile has not moved.
func shifts(was map[string]noun.Step, planned []noun.Step, r read.Reader, now time.Time) (moved []noun.MovedLine, before []noun.Place) {
	moved, before = []noun.MovedLine{}, []noun.Place{}
	for _, st := range planned {
		o, ok := was[st.Op]
		if !ok || !st.Attended || st.ActualStart != nil {
			continue
		}
		d := st.PlannedStart.Sub(o.PlannedStart)
		if d.Abs() < movedAtLeast {
			continue
		}
		why := st.Planned.NotEarlier
		if d < 0 {
			why = st.Planned.NotLater
		}
		moved = append(moved, noun.MovedLine{Op: st.Op, Title: st.Title, From: r.Time(o.PlannedStart, now), To: r.Time(st.PlannedStart, now), Why: why, Was: o.PlannedStart, Missed: d > 0 && o.PlannedStart.Before(now)})
	}
	slices.SortStableFunc(moved, func(a, b noun.MovedLine) int { return a.Was.Compare(b.Was) })
	moved = moved[:min(len(moved), mostMoved)]
	for _, m := range moved {
		before = append(before, noun.Place{Op: m.Op, Start: was[m.Op].PlannedStart, End: was[m.Op].PlannedEnd})
	}
	return moved, before
}
