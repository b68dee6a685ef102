package caution

import (
	"slices"
	"testing"
)

func TestAllergensThatMeetAreFound(t *testing.T) {
	if got := Meets([]string{"milk", "nuts"}, []string{"nuts"}, false); !slices.Equal(got, []string{"nuts"}) {
		t.Error(got)
	}
	if got := Meets([]string{"gelatine"}, nil, true); len(got) != 1 {
		t.Error("no gelatine is meant", got)
	}
	if got := Meets([]string{"gelatine"}, nil, false); got != nil {
		t.Error(got)
	}
}

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
		if got := has(Piece(Case{Children: x.children, GumPercent: x.gum, PieceG: x.grams, Eaten: "nibbled"}), "choking"); got != x.warns {
			t.Errorf("%.1f %% gum, %.1f g, children %t: warned %t", x.gum, x.grams, x.children, got)
		}
	}
	c := Case{Children: true, GumPercent: 2, PieceG: 2, Eaten: "shown"}
	if has(Piece(c), "choking") || !has(Piece(c), "notEaten") {
		t.Error("what is only shown is lifted off")
	}
	if !has(Brief(Case{NoAlcohol: true}), "alcohol") || !has(Brief(Case{Allergies: []string{"nuts"}}), "allergy") || len(Brief(Case{})) != 0 {
		t.Error("the brief says what holds for the table")
	}
}
