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
	c := Case{Children: true, Hard: true, Small: true, Eaten: "nibbled"}
	if !has(Piece(c), "choking") {
		t.Error("a small hard piece for children warns of choking")
	}
	c.Eaten = "shown"
	if has(Piece(c), "choking") || !has(Piece(c), "notEaten") {
		t.Error("what is only shown is lifted off")
	}
	if !has(Brief(Case{NoAlcohol: true}), "alcohol") || !has(Brief(Case{Allergies: []string{"nuts"}}), "allergy") || len(Brief(Case{})) != 0 {
		t.Error("the brief says what holds for the table")
	}
}
