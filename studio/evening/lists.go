package evening

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"dustyfern/studio/noun"
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
		v.Ending = v.ending(all, now)
	}
}

// EndingPart is one thing to see to at the end of an evening, with its sum.
type EndingPart struct {
	Head  string   `json:"head"`
	Sum   string   `json:"sum"`
	Lines []string `json:"lines"`
}

// ending is how an evening ends: cover, label, clean, and what goes on without hands.
func (v *BenchView) ending(all []plan.LineStep, now time.Time) (out []EndingPart) {
	soft := map[string]bool{} // batches that are kneaded and not yet made
	var cover, colours, dries, blades []string
	pieces := 0
	for i := range all {
		st := &all[i]
		batch := noun.BatchOf(st.Op)
		switch {
		case st.Planned.Draws && st.ActualEnd != nil:
			soft[batch] = true
			if name := cmp.Or(st.Planned.Colour, "paste as it comes"); st.ActualEnd.After(v.opens) && !slices.Contains(colours, name) {
				colours = append(colours, name)
			}
		case st.Makes() && soft[batch] && st.ActualEnd == nil:
			cover = append(cover, fmt.Sprintf("the paste of %s", st.Planned.What()))
		}
		if st.ActualEnd != nil && st.ActualEnd.After(v.opens) {
			for _, x := range st.Planned.LayOut {
				if !slices.Contains(blades, x) {
					blades = append(blades, x)
				}
			}
		}
		if st.Dries() && st.ActualStart != nil && st.ActualEnd == nil && st.PlannedEnd.After(now) && st.Planned.Kept != nil {
			pieces += st.Planned.Kept.Pieces
		}
	}
	for _, w := range v.Waiting {
		until := "until " + w.Until
		if w.Share == 0 && w.In == "" {
			until = w.Until
		}
		dries = append(dries, fmt.Sprintf("%s, %s", read.LowerFirst(w.Title), until))
	}
	part := func(head, sum string, lines ...string) {
		for i := range lines {
			lines[i] = v.r.Say(lines[i])
		}
		out = append(out, EndingPart{head, v.r.Say(sum), append([]string{}, lines...)})
	}
	sum := "nothing is left soft"
	if len(cover) > 0 {
		sum = read.Count(len(cover), "paste") + " still soft: bag closed, its air pressed out"
	}
	part("Cover", sum, cover...)
	sum = "no paste was kneaded"
	if len(colours) > 0 {
		sum = read.Count(len(colours), "paste") + ": each leftover with its colour, allergens and the date"
	}
	part("Label", sum, colours...)
	part("Clean", "board wiped, white last; knives, needles and blades counted in", blades...)
	sum = "nothing"
	if len(dries) > 0 {
		sum = read.Count(len(dries), "wait")
		if pieces > 0 {
			sum = fmt.Sprintf("%s dry, in %s", read.Count(pieces, "piece"), read.Count(len(dries), "wait"))
		}
	}
	part("Goes on without you", sum, dries...)
	return out
}
