package work

import (
	"errors"
	"testing"

	"dustyfern/craft/bench"
	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Hands move once a fill, once a sheet, or once a piece, by what the step's own minutes
// are counted in.
func TestHowHandsMove(t *testing.T) {
	t01, t10, t09 := technique.Ours.Of("T01"), technique.Ours.Of("T10"), technique.Ours.Of("T09")
	for _, c := range []struct {
		say              string
		t                *technique.Technique
		o                technique.Op
		pieces, cavities int
		moves, each      int
		word             string
	}{
		{"a mould's cycle", t01, technique.Op{Cycle: &bench.Rounds{Pieces: 4}}, 11, 3, 4, 3, "ball"},
		{"straight out of a sheet of three", t01, technique.Op{Steps: []string{"film", "press", "release"}, Rounds: 1}, 11, 3, 4, 3, "ball"},
		{"cut from sheets", t10, technique.Op{Steps: []string{"roll", "dryOff", "cut", "smooth"}, Rounds: 3}, 20, 1, 3, 7, "sheet"},
		{"one sheet, one piece", t10, technique.Op{Steps: []string{"roll", "cut"}, Rounds: 5}, 5, 1, 5, 1, "piece"},
		{"lace, one at a time", t09, technique.Op{Steps: []string{"fill", "scrape", "free"}, Rounds: 2}, 6, 1, 6, 1, "piece"},
		{"a step by itself", t10, technique.Op{Op: "letter"}, 6, 1, 6, 1, "piece"},
	} {
		if m, e, w := MoveOf(c.t, &c.o, c.pieces, c.cavities); m != c.moves || e != c.each || w != c.word {
			t.Errorf("%s: %d movements of %d, %s", c.say, m, e, w)
		}
	}
}

// Every verb of the data has its words; so has every unit.
func TestEveryVerbHasItsWords(t *testing.T) {
	for _, v := range technique.Ours.Common.Verbs {
		s, ok := verbSays[v]
		if !ok || s.name == "" || s.title == "" {
			t.Errorf("%s has no words", v)
		}
	}
	for _, u := range technique.Ours.Common.Units {
		if unitSays[u] == "" {
			t.Errorf("minutes for each %s have no words", u)
		}
	}
	if got := StepTitle("cut", "Discs", 26, 24, "", ""); got != "Cut 26 Discs" {
		t.Error(got)
	}
	if got := StepTitle("putOn", "Discs", 26, 24, "", ""); got != "Put 24 Discs on" {
		t.Error(got)
	}
	if got := StepTitle("dry", "Discs", 26, 24, "", "foam"); got != "Dry Discs on foam" {
		t.Error(got)
	}
	if got := StepTitle("squint", "Discs", 26, 24, "", ""); got != "Squint Discs" {
		t.Error(got)
	}
}

// A refusal of a chain names steps as people do; what is about nothing they would
// know by name stays as it is.
func TestWhatAChainRefusesIsSaidByItsSteps(t *testing.T) {
	b := &Means{Reader: read.Reader{K: &noun.Kitchen{}}}
	t01 := technique.Ours.Of("T01")
	for field, want := range map[string]string{
		"steps.release.after.press": "Between press and release, the window is empty.",
		"steps.release.minutes":     "At the step release, the window is empty.",
		"steps.nowhere.after.press": "The window is empty.",
		"quantity":                  "The window is empty.",
		"":                          "The window is empty.",
	} {
		if got := b.ChainSays(t01, fault.New(fault.Unreachable, field, "The window is empty.")); got != want {
			t.Errorf("%s: %q, not %q", field, got, want)
		}
	}
	if got := b.ChainSays(nil, errors.New("Away.")); got != "Away." {
		t.Errorf("%q", got)
	}
}
