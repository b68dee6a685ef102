package plan

import (
	"math"
	"slices"
	"time"

	"dustyfern/craft/paste"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// TakesOf a step that is finished: what its plan says, out of the lots.
func TakesOf(tx journal.Tx, st *noun.Step) error {
	if !st.Planned.Draws && len(st.Planned.Uses) == 0 || len(st.Takes) > 0 {
		return nil
	}
	st.Takes = []noun.Taken{}
	for _, u := range st.Planned.Uses {
		if err := takeFrom(tx, u.Lot, u.G); err != nil {
			return err
		}
		st.Takes = append(st.Takes, u)
	}
	return nil
}

// Trimmings puts what is over after the last fill into a tub of its own, with
// the colour, the age and the allergens of what it was kneaded from.
func Trimmings(a *journal.Acting, press *noun.Step, c work.Chain) error {
	if !press.Makes() || press.PieceID == nil || press.Longer != nil && press.Longer.Tubbed {
		return nil
	}
	knead := drawnFor(press, c)
	if knead == nil || press.Made == nil {
		return nil
	}
	p, err := journal.Get[noun.Piece](a, *press.PieceID)
	if err != nil {
		return err
	}
	tub := noun.Lot{Row: noun.Row{Version: 1}, Leftover: true, Holds: []string{}, May: []string{}, Asks: []string{}, LabelRead: true, Felt: []noun.Felt{}, Mixes: []noun.Mixed{}, Kind: "sugarPaste"}
	total, gum, most := 0.0, 0.0, 0.0
	for _, t := range knead.Takes {
		l, err := journal.Get[noun.Lot](a, t.Lot)
		if err != nil {
			return err
		}
		label := l.Label()
		tub.Holds, tub.May, tub.Asks = work.Union(tub.Holds, label.Holds), work.Union(tub.May, label.May), work.Union(tub.Asks, label.Asks)
		tub.LabelRead = tub.LabelRead && l.LabelRead
		k, isPaste := paste.KindOf(l.Kind)
		if !isPaste {
			if l.Kind == "cmc" || l.Kind == "tragacanth" {
				gum += 100 * t.G
			}
			continue
		}
		total += t.G
		gum += work.LotStrength(&l) * t.G
		if t.G > most {
			most, tub.Kind = t.G, l.Kind
		}
		if k.FatSet {
			tub.Kind = l.Kind
		}
		tub.OpenedOn = earlier(tub.OpenedOn, l.OpenedOn)
		tub.BestBefore = earlier(tub.BestBefore, l.BestBefore)
	}
	tub.MassG = math.Floor(10*(total-float64(*press.Made-press.Reused())*press.PieceG())) / 10
	if total == 0 || tub.MassG < paste.LeastTrimmingsG {
		return nil
	}
	if tub.OpenedOn == nil {
		day := a.Now.UTC().Truncate(24 * time.Hour)
		tub.OpenedOn = &day
	}
	if k, _ := paste.KindOf(tub.Kind); !k.FatSet {
		if e := gum / total; math.Abs(e-k.Strength) > 0.005 {
			tub.StrengthPercent = &e
		}
	}
	tub.Name = "Trimmings"
	if solid := knead.Planned.Leaves; solid != "" || p.ColourFrom != "asItIs" && !work.IsWhite(p.Swatch) {
		tub.Swatch = &p.Swatch
		if solid != "" {
			tub.Swatch = &solid
		}
		if p.Colour != "" {
			tub.Name += ", " + p.Colour
		}
	}
	tub.May = slices.DeleteFunc(tub.May, func(a string) bool { return slices.Contains(tub.Holds, a) })
	for _, list := range [][]string{tub.Holds, tub.May, tub.Asks} {
		slices.Sort(list)
	}
	ls, err := a.LotsCalled(tub.Name)
	if err != nil {
		return err
	}
	for _, l := range ls { // of the same evening's paste there is one tub
		if l.Leftover && l.Kind == tub.Kind && sameText(l.Swatch, tub.Swatch) && slices.Equal(l.Holds, tub.Holds) && slices.Equal(l.May, tub.May) && slices.Equal(l.Asks, tub.Asks) && l.LabelRead == tub.LabelRead && sameNumber(l.StrengthPercent, tub.StrengthPercent) {
			l.MassG += tub.MassG
			l.OpenedOn, l.BestBefore = earlier(l.OpenedOn, tub.OpenedOn), earlier(l.BestBefore, tub.BestBefore)
			return a.Save(&l)
		}
	}
	return a.Create(&tub)
}

// Kneaded is how many g of paste were taken for a press, without its hardener; 0 when
// that is not known.
func Kneaded(tx journal.Tx, press *noun.Step, c work.Chain) (g float64, err error) {
	knead := drawnFor(press, c)
	if knead == nil {
		return 0, nil
	}
	for _, t := range knead.Takes {
		l, err := journal.Get[noun.Lot](tx, t.Lot)
		if err != nil {
			return 0, err
		}
		if _, isPaste := paste.KindOf(l.Kind); isPaste {
			g += t.G
		}
	}
	return g, nil
}

// drawnFor is the step of a batch for which its paste was taken; nil while none was.
func drawnFor(st *noun.Step, c work.Chain) *noun.Step {
	if len(st.Takes) > 0 {
		return st
	}
	batch := noun.BatchOf(st.Op)
	for op, o := range c.ByOp {
		if len(o.Takes) > 0 && noun.BatchOf(op) == batch && o.Kind != "dust" && o.Kind != "paint" { // what comes on to it is no paste
			return o
		}
	}
	return nil
}

func earlier(a, b *time.Time) *time.Time {
	if a == nil || b != nil && b.Before(*a) {
		return b
	}
	return a
}

func sameNumber(a, b *float64) bool {
	return (a == nil) == (b == nil) && (a == nil || math.Abs(*a-*b) < 0.01)
}

func sameText(a, b *string) bool {
	return (a == nil) == (b == nil) && (a == nil || *a == *b)
}

// takeFrom takes grams out of a lot for a step. What is not written down as
// being there is owed: the pantry asks how much there really is.
func takeFrom(tx journal.Tx, id int64, g float64) error {
	l, err := journal.Get[noun.Lot](tx, id)
	if err != nil {
		return err
	}
	got := math.Min(l.MassG, g)
	l.MassG -= got
	if rest := g - got; rest > work.Enough {
		l.OwesG += rest
	}
	if l.MassG < work.Enough {
		l.MassG = 0
	}
	return tx.Save(&l)
}
