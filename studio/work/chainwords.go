package work

import (
	"errors"
	"slices"
	"strings"

	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// BagMinutes is how long a piece keeps soft in a closed bag.
const BagMinutes = 120

// WordsOf a step of a chain: what hands do, what to look at, what can hurt, and where
// good makers differ, with what was chosen.
func (b *Means) WordsOf(w *Reckoned, o *technique.Op) noun.Words {
	out := noun.Words{Says: []string{}, Checks: []string{}, Cautions: []string{}, Ways: []noun.Way{}}
	ids := o.Steps
	if len(ids) == 0 {
		ids = []string{o.Op}
	}
	asked := map[string]bool{}
	for _, id := range ids {
		s := w.Way.Step(id)
		if s == nil {
			continue
		}
		for _, x := range s.Says {
			out.Says = append(out.Says, b.Reader.Say(x))
		}
		for _, x := range s.Checks {
			if say := b.Reader.Say(x); !slices.Contains(out.Checks, say) {
				out.Checks = append(out.Checks, say)
			}
		}
		if s.Verb == "putOn" && s.Assembly {
			out.Says = append(out.Says, b.JoinLines(w)...)
		}
		for _, say := range CautionsOf(b.Reader, s) {
			if !slices.Contains(out.Cautions, say) {
				out.Cautions = append(out.Cautions, say)
			}
		}
		for _, q := range s.Ways {
			if way := b.Library.Way(w.Way, q); way != nil && !asked[q] {
				asked[q] = true
				options := b.optionsOf(w, way)
				out.Ways = append(out.Ways, options...)
				for _, o := range options { // what was taken stands on the sheet
					if o.Chosen && !o.Usual {
						out.Says = append(out.Says, b.Reader.Say("This time: "+read.LowerFirst(o.Say)))
					}
				}
			}
		}
	}
	return out
}

// CautionsOf a step in words.
func CautionsOf(r read.Reader, s *technique.Step) (out []string) {
	for _, c := range s.Cautions {
		for _, say := range caution.Word(c) {
			if say = r.Say(say); !slices.Contains(out, say) {
				out = append(out, say)
			}
		}
	}
	return out
}

// AskedOf is a question of a way with its options, at a step.
func AskedOf(r read.Reader, way *technique.Way, verb string) WayAsked {
	b := &Means{Reader: r}
	return WayAsked{Question: way.Question, Asks: r.Say(way.Says), At: r.Say(VerbSay(verb)), Options: b.optionsOf(&Reckoned{Piece: &noun.Piece{}}, way)}
}

// StateSay is the state of a join in words.
func StateSay(state string) string { return stateWords[state].Say }

// BreakageSay is how much breaks, in words.
func BreakageSay(class string) string { return breakageWords[class] }

// optionsOf a question, ours first, with what was chosen for this piece.
func (b *Means) optionsOf(w *Reckoned, way *technique.Way) (out []noun.Way) {
	for _, o := range way.Options {
		x := noun.Way{Question: way.Question, Asks: b.Reader.Say(way.Says), Option: o.ID, Say: b.Reader.Say(o.Says), Why: b.Reader.Say(o.Why), Usual: o.Ours, Chosen: w.Piece.Ways[way.Question] == o.ID}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b noun.Way) int {
		switch {
		case a.Usual == b.Usual:
			return 0
		case a.Usual:
			return -1
		}
		return 1
	})
	return out
}

// ChainSays is what a refusal of a chain says to people: it names the steps it is
// about by their words, not by their place in the data.
func (b *Means) ChainSays(t *technique.Technique, err error) string {
	say := b.Reader.Say(Sentence(err))
	var f *fault.Fault
	if t == nil || !errors.As(err, &f) {
		return say
	}
	at := strings.Split(f.Field, ".")
	word := func(id string) string {
		if s := t.Step(id); s != nil {
			return b.Reader.Say(VerbSay(s.Verb))
		}
		return ""
	}
	if len(at) < 2 || at[0] != "steps" || word(at[1]) == "" {
		return say
	}
	head := "At the step " + word(at[1])
	if len(at) == 4 && at[2] == "after" && word(at[3]) != "" {
		head = "Between " + word(at[3]) + " and " + word(at[1])
	}
	return head + ", " + read.LowerFirst(say)
}
