package caution

import (
	"slices"
	"strings"
	"testing"
)

func TestSmallHardPiecesAndChildren(t *testing.T) {
	has := func(cs []Caution, code string) bool {
		return slices.ContainsFunc(cs, func(c Caution) bool { return c.Code == code && c.Say != "" })
	}
	for _, x := range []struct {
		gum, grams float64
		children   bool
		warns      bool
	}{
		{1.6, 2, true, true}, {1.4, 5.9, true, true}, // as hard as half and half, as small as a thumb's tip
		{1.3, 2, true, false}, {1.6, 6, true, false}, {1.6, 0, true, false}, {1.6, 2, false, false},
	} {
		if got := has(Piece(Case{Table: Table{Children: x.children}, GumPercent: x.gum, PieceG: x.grams, Eaten: "nibbled"}), "choking"); got != x.warns {
			t.Errorf("%.1f %% gum, %.1f g, children %t: warned %t", x.gum, x.grams, x.children, got)
		}
	}
	c := Case{Table: Table{Children: true}, GumPercent: 2, PieceG: 2, Eaten: "shown"}
	if has(Piece(c), "choking") || !has(Piece(c), "notEaten") {
		t.Error("what is only shown is lifted off")
	}
	if !has(Brief(Table{Without: []string{"alcohol"}}), "alcohol") || !has(Brief(Table{Allergies: []string{"nuts"}}), "allergy") || len(Brief(Table{})) != 0 {
		t.Error("the brief says what holds for the table")
	}
}

// TestWhoEatsInOneLine: what stands at every step of an order.
func TestWhoEatsInOneLine(t *testing.T) {
	for want, table := range map[string]Table{
		"": {},
		"Allergy: nuts, egg; nothing of animal products, alcohol; for children under three, somebody pregnant.": {Children: true, Allergies: []string{"nuts", "egg"}, Without: []string{"animal", "alcohol"}, AtRisk: []string{"under3", "pregnant"}},
		"Nothing of maize.": {Without: []string{"maize"}},
		"For children.":     {Children: true},
	} {
		if got := table.Says(); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// TestMayContainIsTheClientsToDecide: what a label only may contain is said, and in the
// colour of danger when it is the allergy at the table.
func TestMayContainIsTheClientsToDecide(t *testing.T) {
	for _, x := range []struct {
		allergy string
		hard    bool
	}{{"egg", true}, {"nuts", false}} {
		cs := Piece(Case{Table: Table{Allergies: []string{x.allergy}}, May: []string{"egg"}, Holds: []string{"milk"}})
		i := slices.IndexFunc(cs, func(c Caution) bool { return c.Code == "may" })
		if i < 0 || cs[i].Hard != x.hard || x.hard != strings.Contains(cs[i].Say, "in writing") {
			t.Errorf("%s: %+v", x.allergy, cs)
		}
	}
}
