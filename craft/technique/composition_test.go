package technique

import (
	"encoding/json"
	"os"
	"slices"
	"strings"
	"testing"
)

// composition is a piece of several parts, with the order in which its steps are expected.
type composition struct {
	Name  string
	Parts []struct{ ID, Technique, Until, Bought string }
	Joins []struct {
		ID, What, Onto, State, OntoState string
		After                            []string
		Into                             string
	}
	Order []string
}

func compositions(t *testing.T) []composition {
	t.Helper()
	raw, err := os.ReadFile("testdata/compositions.json")
	if err != nil {
		t.Fatal(err)
	}
	var all struct{ Pieces []composition }
	if err := json.Unmarshal(raw, &all); err != nil {
		t.Fatal(err)
	}
	if len(all.Pieces) < 6 {
		t.Fatalf("%d compositions", len(all.Pieces))
	}
	return all.Pieces
}

// reaches tells whether a step comes after another one, over any steps between.
func reaches(w *Technique, from, to string) bool {
	seen := map[string]bool{}
	var back func(id string) bool
	back = func(id string) bool {
		if id == from {
			return true
		}
		s := w.Step(id)
		if s == nil || seen[id] {
			return false
		}
		seen[id] = true
		return slices.ContainsFunc(s.After, func(a After) bool { return back(a.Step) })
	}
	return back(to)
}

// The expected order of each piece of parts follows from the chains of its parts and from
// its joins: nothing stands before what it comes after.
func TestCompositionsFollowTheirChains(t *testing.T) {
	t.Parallel()
	for _, c := range compositions(t) {
		ways := map[string]*Technique{}
		until := map[string]string{}
		for _, p := range c.Parts {
			if p.Bought != "" {
				continue
			}
			w := Ours.Of(p.Technique)
			if w == nil || w.Step(p.Until) == nil {
				t.Fatalf("%s: part %s ends at %q of %s, which is no step", c.Name, p.ID, p.Until, p.Technique)
			}
			ways[p.ID], until[p.ID] = w, p.Until
		}
		place := func(entry string) int { return slices.Index(c.Order, entry) }
		for i, a := range c.Order {
			part, step, ok := strings.Cut(a, ".")
			if !ok {
				continue
			}
			if ways[part] == nil || ways[part].Step(step) == nil {
				t.Errorf("%s: %s is no step", c.Name, a)
				continue
			}
			if step != until[part] && !reaches(ways[part], step, until[part]) {
				t.Errorf("%s: %s does not lead to the end of its part, %s", c.Name, a, until[part])
			}
			for _, b := range c.Order[i+1:] {
				if p, s, ok := strings.Cut(b, "."); ok && p == part && reaches(ways[part], s, step) {
					t.Errorf("%s: %s stands before %s and comes after it", c.Name, a, b)
				}
			}
		}
		for _, j := range c.Joins {
			at := place(j.ID)
			if at < 0 {
				if !slices.ContainsFunc(c.Joins, func(o struct {
					ID, What, Onto, State, OntoState string
					After                            []string
					Into                             string
				}) bool {
					return slices.Contains(o.After, j.ID) || o.What == j.ID
				}) {
					t.Errorf("%s: %s has no place", c.Name, j.ID)
				}
				continue
			}
			for _, before := range append(slices.Clone(j.After), j.What, j.Onto) {
				if k := place(before); k > at {
					t.Errorf("%s: %s comes after %s, and stands before it", c.Name, j.ID, before)
				}
			}
		}
	}
}

// A part that goes on dry has dried by then, one that goes on soft has not.
func TestCompositionsKeepTheirStates(t *testing.T) {
	t.Parallel()
	for _, c := range compositions(t) {
		for _, j := range c.Joins {
			for _, p := range c.Parts {
				if p.Bought != "" || p.ID != j.What && p.ID != j.Onto {
					continue
				}
				state := j.State
				if p.ID == j.Onto {
					state = j.OntoState
				}
				w := Ours.Of(p.Technique)
				dries := false
				for _, s := range w.Steps {
					dries = dries || s.Dry != "" && (s.ID == p.Until || reaches(w, s.ID, p.Until))
				}
				// what is soft or to be joined in its mould is judged before its drying
				if into := j.Into != "" && p.ID == j.Onto; !into && (state == "D" && !dries || state == "P" && dries && w.Step(p.Until).Dry != "") {
					t.Errorf("%s: %s is joined %s, and dries by then: %v", c.Name, p.ID, state, dries)
				}
			}
		}
	}
}

// A gelatine mould may be cast in two halves: the mix covers the model on both sides, each
// half has its own bursts and its own half hour, and a worn one is cast twice again.
func TestAMouldOfTwoCasts(t *testing.T) {
	t.Parallel()
	chain := func(sides string) ChainOut {
		t.Helper()
		out, err := Ours.Chain(ChainIn{Technique: new("T27"), Wanted: new(18), Made: new(20), Stages: firm, Ways: map[string]string{"sides": sides},
			Tools: map[string]map[string]float64{"model": {"lengthMM": 40, "widthMM": 30, "heightMM": 12, "volumeML": 6}, "mould": {"pulls": 8}}})
		if err != nil {
			t.Fatal(err)
		}
		return out
	}
	minutes := func(out ChainOut, op string) int {
		for _, o := range out.Batches[0].Ops {
			if o.Op == op && o.Minutes != nil {
				return *o.Minutes
			}
		}
		return 0
	}
	one, two := chain("one"), chain("two")
	for _, op := range []string{"film", "burstsSecond", "castSecond", "setSecond"} {
		if minutes(one, op) != 0 || minutes(two, op) == 0 {
			t.Errorf("%s: %v min in one cast, %v in two", op, minutes(one, op), minutes(two, op))
		}
	}
	// a box of 56 x 46 mm: 8 mm above the model, and as much below it when it is cast all round
	if more := two.Names["neededML"] - one.Names["neededML"]; more < 0.9*20.6 || more > 1.25*20.6 {
		t.Errorf("%.1f ml and %.1f ml: the mix does not cover the other side", one.Names["neededML"], two.Names["neededML"])
	}
	if half := 9 * two.Names["neededML"] / 2 / 59; two.Names["burstSec"] < half-0.01 || two.Names["burstSec"] > half+0.01 {
		t.Errorf("a burst of %.1f s for half of %.1f ml", two.Names["burstSec"], two.Names["neededML"])
	}
	// film 4, bursts and cooling 6 to 7, pour 2, trim 5 more; two recasts of 35 min more, watched at 15 in a hundred
	if more := two.HandsMinutes - one.HandsMinutes; one.Names["castings"] != 3 || more < 27 || more > 30 {
		t.Errorf("%v castings, %.0f min of hands in one cast, %.0f in two", one.Names["castings"], one.HandsMinutes, two.HandsMinutes)
	}
}
