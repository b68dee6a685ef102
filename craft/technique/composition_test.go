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
