package plan

import (
	"slices"
	"time"

	"dustyfern/studio/noun"
)

// Hands knows by their names the hands that the plan counts.
type Hands map[string][]string

// HandsOf names the hands of each stretch at the bench about now.
func HandsOf(k *noun.Kitchen, now time.Time) Hands {
	out := Hands{}
	for _, w := range k.OpenHours(now.AddDate(0, 0, -handsBack), now.AddDate(0, 0, handsAhead)) {
		out[w.Id] = w.Names
	}
	return out
}

const (
	handsBack  = 8  // days for which it is known who was to be at the bench
	handsAhead = 62 // and will be
)

// Of is who is planned to do a step, or has done it; none when nobody is named.
func (h Hands) Of(st *noun.Step) []string {
	if st.Who != "" {
		return []string{st.Who}
	}
	var out []string
	for _, n := range st.Planned.Hands {
		names := h[st.Planned.Window]
		if n < 1 || n > len(names) {
			continue
		}
		if !slices.Contains(out, names[n-1]) {
			out = append(out, names[n-1])
		}
	}
	return out
}

// Told tells whether it matters who does a step: more than one is there.
func (h Hands) Told(st *noun.Step) bool { return len(h[st.Planned.Window]) > 1 }

// byPerson hangs the steps of hands of all orders on the strings of who does them.
func byPerson(rows []LineRow, who map[string][]string) []LineRow {
	var out []LineRow
	at := func(title string) *LineRow {
		i := slices.IndexFunc(out, func(r LineRow) bool { return r.Title == title })
		if i < 0 {
			i = len(out)
			out = append(out, LineRow{Title: title, Steps: []LineMark{}})
		}
		return &out[i]
	}
	for _, r := range rows {
		for _, m := range r.Steps {
			if !m.Attended {
				continue
			}
			names := who[m.Op]
			if len(names) == 0 {
				names = []string{"Whoever is there"}
			}
			for _, name := range names {
				p := at(name)
				p.Steps = append(p.Steps, m)
			}
		}
	}
	for i := range out {
		slices.SortStableFunc(out[i].Steps, func(a, b LineMark) int { return int(a.Start/1000 - b.Start/1000) })
	}
	slices.SortStableFunc(out, func(a, b LineRow) int { return len(b.Steps) - len(a.Steps) })
	if out == nil {
		out = []LineRow{}
	}
	return out
}
