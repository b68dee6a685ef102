package caution

import (
	"slices"
	"strings"
	"testing"
)

// TestEveryRuleCanBeMet: each line of the table is brought by words that somebody can
// enter, and stands where it says.
func TestEveryRuleCanBeMet(t *testing.T) {
	if len(rules) != 42 || len(materials) != 42 {
		t.Errorf("%d rules, %d materials", len(rules), len(materials))
	}
	all := CautionsIn{Audience: []string{"children", "under3", "pregnant", "frail"}, Avoid: slices.Concat(Allergens, Asked),
		Pieces: []Shown{{ID: new("bead"), WidthMM: new(6.0), Ball: true, Hard: true, Upright: true, LookAlike: true}}}
	for m := range materials {
		all.Materials = append(all.Materials, m)
	}
	for w := range ruleWords {
		all.Words = append(all.Words, w)
	}
	out, err := Cautions(all)
	if err != nil {
		t.Fatal(err)
	}
	if len(out.Cautions) != len(rules) || !out.Refused {
		t.Errorf("%d of %d rules are met, refused %t", len(out.Cautions), len(rules), out.Refused)
	}
	seen := 0
	for _, place := range places {
		in := all
		in.ShownOn = &place
		there, err := Cautions(in)
		if err != nil {
			t.Fatal(err)
		}
		for _, c := range there.Cautions {
			if !slices.Contains(c.Shown, place) {
				t.Errorf("%s stands on %s", c.ID, place)
			}
		}
		seen += len(there.Cautions)
	}
	if seen < len(rules) {
		t.Error("a rule stands nowhere")
	}
}

// TestATornTableIsNotRead: a level, a place or a reader that nobody knows.
func TestATornTableIsNotRead(t *testing.T) {
	for was, torn := range map[string]string{"|warn|hotSugar|": "|loud|hotSugar|", "|maker|step|Syrup": "|maker|wall|Syrup", "|maker|step|Steam": "|uncle|step|Steam", "R|blade|note": "R|steam|note"} {
		if !strings.Contains(safetyTable, was) {
			t.Fatalf("the table has no %q", was)
		}
		func() {
			defer func() {
				if recover() == nil {
					t.Errorf("%q was read", torn)
				}
			}()
			readRules(strings.Replace(safetyTable, was, torn, 1))
		}()
	}
}

// TestTheGauge: what goes through it, and what has no size.
func TestTheGauge(t *testing.T) {
	for _, x := range []struct {
		p     Shown
		small bool
	}{
		{Shown{WidthMM: new(31.7), LengthMM: new(57.1)}, true}, {Shown{WidthMM: new(57.1), LengthMM: new(31.7)}, true}, {Shown{WidthMM: new(32.0), LengthMM: new(40.0)}, false},
		{Shown{WidthMM: new(20.0), LengthMM: new(58.0)}, false}, {Shown{WidthMM: new(44.5), Ball: true}, true}, {Shown{WidthMM: new(45.0), Ball: true}, false}, {Shown{Hard: true}, false},
	} {
		if x.p.small() != x.small {
			t.Errorf("%+v: small %t", x.p, !x.small)
		}
	}
}

// TestTheBriefIsOfTheTable: each word that a brief may carry has its line, with what to do.
func TestTheBriefIsOfTheTable(t *testing.T) {
	for _, w := range append([]string{"colourings"}, Asked...) {
		if got := Brief(Table{Without: []string{w}}); len(got) != 1 || got[0].Code != w || got[0].Say == "" || Instead(w) == "" {
			t.Errorf("without %s: %+v, instead %q", w, got, Instead(w))
		}
	}
	whole := Brief(Table{Allergies: []string{"nuts", "egg"}, AtRisk: []string{"under3"}, Children: true})
	if len(whole) != 4 || !strings.Contains(whole[0].Say, "table: nuts, egg. ") {
		t.Errorf("%+v", whole)
	}
	for _, w := range []string{"allergy", "children", "under3", "atRisk"} {
		if Instead(w) == "" {
			t.Errorf("nothing is said to do of %s", w)
		}
	}
	if got := Brief(Table{Without: []string{"sunshine"}}); len(got) != 0 || Instead("sunshine") != "" {
		t.Errorf("%+v", got)
	}
	for _, torn := range []string{"B|allergy|Twice.|do", "B|nobody|says", "B|nobody||do"} {
		func() {
			defer func() {
				if recover() == nil {
					t.Errorf("%q was read", torn)
				}
			}()
			readBriefs(safetyTable + torn + "\n")
		}()
	}
}
