package plan

import (
	"fmt"
	"slices"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// drawn is paste that a step takes out of the pantry: of what piece, and which share.
type drawn struct {
	w     *work.Reckoned
	share float64
}

// stock finds what the planned steps will miss in the pantry, in their order, and
// what will be past its date by then.
func (l *liner) stock(planned []noun.Step) []noun.Trouble {
	left := map[int64]float64{}
	for i := range l.b.Lots {
		left[l.b.Lots[i].ID] = l.b.Lots[i].MassG
	}
	steps := slices.Clone(planned)
	slices.SortStableFunc(steps, func(a, b noun.Step) int { return a.PlannedStart.Compare(b.PlannedStart) })
	out := []noun.Trouble{}
	short := map[string]int{}
	old := map[int64]bool{}
	for i := range steps {
		st := &steps[i]
		d, ok := l.draws[st.Op]
		if !ok || st.ActualStart != nil {
			continue
		}
		for _, m := range d.w.Mixing(d.share) {
			gap := m.Grams - l.b.Claim(left, m.Lot, m.Kind, m.Swatch(), m.Grams, d.w.Order())
			if gap > leastShortG {
				key := fmt.Sprint(st.CommissionID, m.Kind, l.b.Named(&m))
				if at, told := short[key]; told {
					x := &out[at]
					x.More++ // how many steps lack it, until it is said
					continue
				}
				short[key] = len(out)
				out = append(out, noun.Trouble{Code: "stock", CommissionID: st.CommissionID, PieceID: d.w.Piece.ID, By: new(st.PlannedStart),
					Says:   l.b.Reader.Sayf("%s short: %s, for %s.", read.UpperFirst(l.b.Named(&m)), l.b.Reader.Mass(gap), d.w.Piece.Name),
					Remedy: l.b.Reader.Say("Buy it, or take another paste or colour."), Do: "What is needed", To: "pantry/shopping"})
			}
			if b := m.Lot; b != nil && b.BestBefore != nil && !old[b.ID] && st.PlannedStart.After(b.BestBefore.AddDate(0, 0, 1)) {
				old[b.ID] = true
				out = append(out, noun.Trouble{Code: "old", CommissionID: st.CommissionID, PieceID: d.w.Piece.ID, By: new(st.PlannedStart),
					Says:   fmt.Sprintf("%s is past its date, %s, when %s takes it.", b.Name, l.b.Reader.Day(*b.BestBefore, true), d.w.Piece.Name),
					Remedy: "Look at it, smell it, squeeze it; take another one, or correct the date.", Do: "The lot", To: fmt.Sprintf("pantry?lot=%d", b.ID)})
			}
		}
	}
	for i := range out {
		if n := out[i].More; n > 0 {
			out[i].Says += map[bool]string{true: " One more step takes it.", false: fmt.Sprintf(" %d more steps take it.", n)}[n == 1]
			out[i].More = 0
		}
	}
	return out
}

// leastShortG is what counts as short, g: less than any scale of a kitchen shows.
const leastShortG = 0.005
