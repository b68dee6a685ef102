package work

import (
	"cmp"
	"slices"
	"strings"

	"dustyfern/craft/caution"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
)

// CaseOf is a piece as far as it can harm.
func (b *Means) CaseOf(w *Reckoned) caution.Case {
	c := caution.Case{Table: w.order.Table(), Eaten: w.Piece.Eaten, Materials: b.MaterialsOf(w)}
	if w.Way != nil {
		c.Technique = TechniqueCode(w.Way)
	}
	c.Brittle = w.dose != nil && w.dose.Brittle
	if w.Chilled {
		c.Words = append(c.Words, "freezer")
	}
	across, high := w.Lying()
	c.Shape = caution.Shown{ID: new(cmp.Or(w.Piece.Name, "piece")), Hard: w.Strength >= caution.HardFrom && (w.State == "D" || w.State == ""), Upright: w.Piece.Stance == "upright"}
	if across >= 0.1 && high >= 0.1 {
		c.Shape.WidthMM, c.Shape.LengthMM = &across, &high
	}
	if w.PieceG >= 0.01 {
		c.Shape.MassG = &w.PieceG
	}
	b.labelSays(w, &c)
	return c
}

// TechniqueCode is a way of making as the tables of rescue and safety call it: T1 of T01 and
// of what a studio copied from it.
func TechniqueCode(t *technique.Technique) string {
	key := cmp.Or(t.From, t.Key)
	if len(key) == 3 && key[0] == 'T' {
		return "T" + strings.TrimLeft(key[1:], "0")
	}
	return key
}

// MaterialsOf are what goes into a piece and comes on to it, as materials of caution.
func (b *Means) MaterialsOf(w *Reckoned) (out []string) {
	for _, m := range w.Mixing(1) {
		if m.Lot != nil {
			out = append(out, noun.MaterialOf(m.Lot.Kind))
		} else if m.Kind != "" {
			out = append(out, noun.MaterialOf(m.Kind))
		}
	}
	return append(out, b.helpers(w)...)
}

func (b *Means) cautions(w *Reckoned) {
	w.View.Cautions = append(w.View.Cautions, caution.Piece(b.CaseOf(w))...)
}

// Union adds the words that are not there yet.
func Union(list, more []string) []string {
	for _, a := range more {
		if !slices.Contains(list, a) {
			list = append(slices.Clone(list), a)
		}
	}
	return list
}
