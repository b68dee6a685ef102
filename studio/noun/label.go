package noun

import (
	"slices"

	"dustyfern/craft/caution"
)

// materialOf are kinds of lot under another name among the materials of caution.
var materialOf = map[string]string{"spirit": "clearSpirit", "extract": "citrusExtract", "glue": "gumGlue", "metalPowder": "lustreDust"}

// MaterialOf is what a kind of lot is called among the materials of caution.
func MaterialOf(kind string) string {
	if other, ok := materialOf[kind]; ok {
		return other
	}
	return kind
}

// Colourings are asked about as well here: some labels name them.
const Colourings = "colourings"

// Label is what something holds, what it may contain, and what guests ask about
// besides.
type Label struct{ Holds, May, Asks []string }

// LabelOfKind is what a kind of lot usually says.
func LabelOfKind(kind string) Label {
	m, _ := caution.MaterialOf(MaterialOf(kind))
	return Label{m.Contains, m.May, m.Asked}
}

// Label of a lot: as it was read, else as it usually is for its kind.
func (l *Lot) Label() Label {
	if l.LabelRead {
		return Label{l.Holds, l.May, l.Asks}
	}
	return LabelOfKind(l.Kind)
}

// Avoids is all that nobody at the table must find: allergies, and what is left out
// besides.
func (c *Commission) Avoids() []string { return slices.Concat(c.Allergies, c.Without) }

// Meets are the words of a label that the table avoids. What it only may contain is the
// client's to decide, in writing, and stands apart.
func (c *Commission) Meets(l Label) (refused, may []string) {
	for _, a := range c.Avoids() {
		for _, word := range caution.Means(a) {
			switch {
			case slices.Contains(l.Holds, word) || slices.Contains(l.Asks, word):
				if !slices.Contains(refused, word) {
					refused = append(refused, word)
				}
			case slices.Contains(l.May, word):
				if !slices.Contains(may, word) {
					may = append(may, word)
				}
			}
		}
	}
	return refused, may
}

// Refuses are the words of a lot for which it stays out of this order.
func (c *Commission) Refuses(l *Lot) []string {
	refused, _ := c.Meets(l.Label())
	return refused
}

// ForChildren tells whether children eat, small ones among them.
func (c *Commission) ForChildren() bool { return c.Children || slices.Contains(c.AtRisk, "under3") }

// Table is who eats, as caution asks.
func (c *Commission) Table() caution.Table {
	return caution.Table{Children: c.Children, AtRisk: c.AtRisk, Allergies: c.Allergies, Without: c.Without}
}
