package studio

import (
	"slices"
	"time"
)

// MovedLine is a step that the plan made last has put elsewhere.
type MovedLine struct {
	Op    string    `json:"op"`
	Title string    `json:"title"`
	From  string    `json:"from"`
	To    string    `json:"to"`
	Why   string    `json:"why"`
	Was   time.Time `json:"was"`
}

// movedAtLeast is the shift that is worth a word.
const movedAtLeast = 10 * time.Minute

// Place is where a step stood.
type Place struct {
	Op    string    `json:"op"`
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}

// mostMoved is how many moved steps are told.
const mostMoved = 30

// shifts compares the plan with the one before it: what has moved, and where it
// stood. A step that was begun meanwhile has not moved.
func shifts(was map[string]Step, planned []Step, now time.Time) (moved []MovedLine, before []Place) {
	moved, before = []MovedLine{}, []Place{}
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
		moved = append(moved, MovedLine{st.Op, st.Title, SayTime(o.PlannedStart, now), SayTime(st.PlannedStart, now), why, o.PlannedStart})
	}
	slices.SortStableFunc(moved, func(a, b MovedLine) int { return a.Was.Compare(b.Was) })
	moved = moved[:min(len(moved), mostMoved)]
	for _, m := range moved {
		before = append(before, Place{m.Op, was[m.Op].PlannedStart, was[m.Op].PlannedEnd})
	}
	return moved, before
}
