package work

import (
	"cmp"
	"slices"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// BoardLine is one colour on the board.
type BoardLine struct {
	Name   string `json:"name"`
	Swatch string `json:"swatch"`
	Clean  string `json:"clean,omitempty" doc:"what is cleaned before it"`
}

// BoardDay is what the plan kneads in one stretch at the bench.
type BoardDay struct {
	When    string      `json:"when"`
	Clean   string      `json:"clean" doc:"all wiping of that stretch"`
	Colours []BoardLine `json:"colours"`
}

// Kneaded is the stretches in which the plan kneads for a commission, with
// whatever else is kneaded on the same board.
func (b *Means) Kneaded(id int64, steps []noun.Step) []BoardDay {
	out := []BoardDay{}
	steps = slices.DeleteFunc(steps, func(st noun.Step) bool { return !st.Attended || st.ActualStart != nil })
	slices.SortFunc(steps, func(a, c noun.Step) int {
		return cmp.Or(a.PlannedStart.Compare(c.PlannedStart), cmp.Compare(a.Op, c.Op))
	})
	in := map[string][]noun.Step{}
	var windows []string
	for _, st := range steps {
		w := st.Planned.Window
		if len(in[w]) == 0 {
			windows = append(windows, w)
		}
		in[w] = append(in[w], st)
	}
	for _, w := range windows {
		st := in[w][0]
		day := BoardDay{When: b.Reader.Date(st.PlannedStart, b.Now), Colours: []BoardLine{}}
		clean, mine := 0, false
		for _, o := range in[w] {
			clean += o.Planned.CleanDown
			if !o.Planned.Draws {
				continue
			}
			mine = mine || o.CommissionID == id
			name := o.Planned.Colour
			if name == "" {
				name = o.Planned.Swatch
			}
			if n := len(day.Colours); n == 0 || day.Colours[n-1].Swatch != o.Planned.Swatch {
				day.Colours = append(day.Colours, BoardLine{Name: name, Swatch: o.Planned.Swatch})
			}
		}
		if !mine {
			continue
		}
		day.Clean = "nothing to wipe between"
		if clean > 0 {
			day.Clean = read.SayMinutes(clean) + " of wiping"
		}
		out = append(out, day)
	}
	return out
}
