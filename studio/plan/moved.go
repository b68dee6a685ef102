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
func shifts(was map[string]noun.Step, planned []noun.Step, now time.Time) (moved []noun.MovedLine, before []noun.Place) {
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
		moved = append(moved, noun.MovedLine{st.Op, st.Title, read.SayTime(o.PlannedStart, now), read.SayTime(st.PlannedStart, now), why, o.PlannedStart})
	}
	slices.SortStableFunc(moved, func(a, b noun.MovedLine) int { return a.Was.Compare(b.Was) })
	moved = moved[:min(len(moved), mostMoved)]
	for _, m := range moved {
		before = append(before, noun.Place{m.Op, was[m.Op].PlannedStart, was[m.Op].PlannedEnd})
	}
	return moved, before
}
