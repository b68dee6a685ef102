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
		hard  bool
		mm    float64
		table Table
		code  string
		warns bool
	}{
		{true, 12, Table{Children: true}, "smallChildren", true}, {false, 12, Table{Children: true}, "smallChildren", false}, {true, 90, Table{Children: true}, "smallChildren", false}, {true, 12, Table{}, "smallChildren", false},
		{true, 12, Table{AtRisk: []string{"under3"}}, "smallUnder3", true}, {false, 12, Table{AtRisk: []string{"under3"}}, "smallSoftUnder3", true},
	} {
		shape := Shown{ID: new("bead"), WidthMM: &x.mm, LengthMM: &x.mm, Hard: x.hard}
		if got := has(Piece(Case{Table: x.table, Shape: shape, Eaten: "nibbled"}), x.code); got != x.warns {
			t.Errorf("%+v: %t", x, got)
		}
	}
	c := Case{Table: Table{AtRisk: []string{"under3"}}, Shape: Shown{ID: new("bead"), WidthMM: new(9.0), Hard: true}, Eaten: "shown"}
	if has(Piece(c), "smallUnder3") || !has(Piece(c), "notEaten") {
		t.Error("what is only shown is lifted off")
	}
	if !has(Brief(Table{Without: []string{"alcohol"}}), "alcohol") || !has(Brief(Table{Allergies: []string{"nuts"}}), "allergy") || len(Brief(Table{})) != 0 {
		t.Error("the brief says what holds for the table")
	}
}

// TestAStepSaysWhatItsWordBrings: flame at a step of fire, hands only where that is the word.
func TestAStepSaysWhatItsWordBrings(t *testing.T) {
	if all := strings.Join(Word("hotSugar"), " "); !strings.Contains(all, "long sleeves") || strings.Contains(all, "Washed") {
		t.Errorf("hot sugar: %q", all)
	}
	if all := Word("any"); len(all) != 1 || !strings.Contains(all[0], "Washed") {
		t.Errorf("any: %q", all)
	}
	if all := Word("nobody"); len(all) != 0 {
		t.Errorf("a word that none knows: %q", all)
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
