package evening

import (
	"slices"
	"time"

	"dustyfern/studio/plan"
	"dustyfern/studio/read"
)

// lists are what to lay out before an evening, and how it ends.
func (v *BenchView) lists(all []plan.LineStep, now time.Time, r read.Reader) {
	add := func(list *[]string, format string, args ...any) {
		if s := r.Sayf(format, args...); !slices.Contains(*list, s) {
			*list = append(*list, s)
		}
	}
	begun := slices.ContainsFunc(v.Evening, func(s plan.LineStep) bool { return s.ActualStart != nil }) ||
		len(v.Done) > 0 && len(v.Evening) > 0 && v.Done[len(v.Done)-1].ActualEnd.In(now.Location()).Format(time.DateOnly) == v.Evening[0].Start.Format(time.DateOnly) &&
			!v.Done[len(v.Done)-1].ActualEnd.Before(v.opens) // what was done earlier that day was laid out for itself
	if len(v.Evening) > 0 && !begun {
		for _, s := range v.Evening { // who eats stands before what is fetched
			if s.Guests != "" {
				add(&v.LayOut, "%s", s.Commission+": "+read.LowerFirst(s.Guests))
			}
		}
		for _, say := range fetched(v.Evening, r) {
			add(&v.LayOut, "%s", say)
		}
		for _, s := range v.Evening {
			for _, x := range s.Planned.LayOut {
				add(&v.LayOut, "%s", x)
			}
		}
		for _, w := range v.Waits {
			if w.Planned.Support != "" {
				add(&v.LayOut, "to dry %s: a place on %s", w.Piece, w.Planned.Support)
			}
		}
	}
	if n := len(v.Done); n > 0 && v.Done[n-1].ActualEnd.After(now.Add(-3*time.Hour)) && (v.Now == nil || v.closes.Sub(now) < tidyWithin) {
		add(&v.Tidy, "Cover what is still soft; close every bag with its air pressed out.")
		add(&v.Tidy, "Label leftovers with colour, allergens and the date.")
		add(&v.Tidy, "Wipe the board white last; count knives, needles and blades in.")
		for _, w := range v.Waiting {
			add(&v.Tidy, "Goes on without you: %s, until %s.", read.LowerFirst(w.Title), w.Until)
		}
	}
}
