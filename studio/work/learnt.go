package work

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/piece"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// LearntView is what these hands have taught of a step.
type LearntView struct {
	Step string       `json:"step"`
	Each noun.Figure  `json:"figure"`
	By   []noun.Named `json:"by" doc:"by person, where they said who it was"`
}

// pacesFrom is from how many finished steps on the plan reckons with a pace (assumed).
const pacesFrom = 2

// clocked are what hands took over the steps of a way, by op.
func (b *Means) clocked(way string) map[string][]piece.Clocked {
	out := map[string][]piece.Clocked{}
	for _, c := range b.Clocked {
		if c.Way == way {
			out[c.Op] = append(out[c.Op], piece.Clocked{Usual: c.Usual, Took: c.Took, Person: c.Who})
		}
	}
	return out
}

// paces are by how much these hands take longer over each step of a way than is usual.
func (b *Means) paces(way string) map[string]float64 {
	var out map[string]float64
	for op, steps := range b.clocked(way) {
		if p := piece.PaceOf(steps); p.From >= pacesFrom {
			if out == nil {
				out = map[string]float64{}
			}
			out[op] = math.Round(p.Factor*100) / 100 // finer than hands are known it only moves the plan
		}
	}
	return out
}

// learnt says what is known of these hands, for the steps of the first batch.
func (b *Means) learnt(w *Reckoned) []LearntView {
	out := []LearntView{}
	if w.Chain == nil || len(w.Chain.Batches) == 0 {
		return out
	}
	by := b.clocked(w.Way.Key)
	for i := range w.Chain.Batches[0].Ops {
		o := &w.Chain.Batches[0].Ops[i]
		steps := by[o.Op]
		p := piece.PaceOf(steps)
		if p.From == 0 || o.Minutes == nil {
			continue
		}
		say := "in the plan"
		if p.From < pacesFrom {
			say = "not in the plan yet: one step teaches too little"
		}
		usual := float64(*o.Minutes)
		if o.Pace > 0 {
			usual /= o.Pace
		}
		v := LearntView{Step: b.Reader.Say(read.UpperFirst(VerbSay(o.Kind))), By: []noun.Named{}}
		v.Each = noun.Figure{Value: p.Factor, Unit: fmt.Sprintf("of the usual time, from %s, %s", read.Count(p.From, "batch"), say), Text: read.Trimmed(p.Factor*100, 0) + " %",
			Why: &noun.Why{Rule: "How long the step took over how long it is usually reckoned, the usual counting as three batches; the latest twelve, each from half to twice at most.", Formula: "(3 + sum of took/usual) / (3 + batches)",
				Values: []noun.Named{{Name: "usual for this batch, min", Text: read.Trimmed(usual, 0)}, {Name: "the latest took, min", Text: tookSays(steps)}, {Name: "usual for those, min", Text: usualSays(steps)}}}}
		names, paces := piece.PacesByPerson(steps)
		for _, name := range names {
			v.By = append(v.By, noun.Named{Name: name, Text: fmt.Sprintf("%s %% from %s", read.Trimmed(paces[name].Factor*100, 0), read.Count(paces[name].From, "batch"))})
		}
		out = append(out, v)
	}
	return out
}

// mostTold is how many single times are told.
const mostTold = 5

func tookSays(steps []piece.Clocked) string {
	return latest(steps, func(s piece.Clocked) float64 { return s.Took })
}

func usualSays(steps []piece.Clocked) string {
	return latest(steps, func(s piece.Clocked) float64 { return s.Usual })
}

func latest(steps []piece.Clocked, of func(piece.Clocked) float64) string {
	var out []string
	for _, s := range steps[:min(len(steps), mostTold)] {
		out = append(out, read.Trimmed(of(s), 0))
	}
	return strings.Join(out, ", ")
}

// ShortcutView is a change by which hands have less to do on this batch.
type ShortcutView struct {
	Says   string       `json:"says"`
	Saves  noun.Figure  `json:"saves"`
	Option string       `json:"option" doc:"of the question; empty: nothing to choose here"`
	Asks   string       `json:"question"`
	Costs  []noun.Named `json:"costs" doc:"what it gives up"`
}

// worthMin is from how many minutes on a shortcut is said, and mostShortcuts how many are.
const (
	worthMin      = 2
	mostShortcuts = 4
)

// Shortcuts are changes that save hands: another option of a question, a second copy of
// the mould, texture before cutting; the greatest first.
func (b *Means) Shortcuts(w *Reckoned) []ShortcutView {
	out := []ShortcutView{}
	if w.Chain == nil || w.Way == nil {
		return out
	}
	window := b.Kitchen.LongestStretch()
	length := func(change func(in *technique.ChainIn)) (hands, bench float64, ok bool) {
		in := b.Question(w, w.Wanted, w.Batch.Make, window)
		change(&in)
		c, err := b.Library.Chain(in)
		if err != nil {
			return 0, 0, false
		}
		for _, batch := range c.Batches {
			for _, o := range batch.Ops {
				if o.Attended {
					bench += float64(o.Length())
				}
			}
		}
		return c.HandsMinutes, bench, true
	}
	hands, bench, ok := length(func(*technique.ChainIn) {})
	if !ok {
		return out
	}
	add := func(says, question, option, why string, change func(in *technique.ChainIn)) {
		h, x, ok := length(change)
		saved, of := hands-h, "of hands"
		if bench-x > saved {
			saved, of = bench-x, "at the bench"
		}
		if !ok || saved < worthMin {
			return
		}
		v := ShortcutView{Says: b.Reader.Say(says), Asks: question, Option: option, Costs: []noun.Named{}}
		v.Saves = noun.Figure{Value: saved, Unit: "less " + of, Text: read.SayMinutes(int(math.Round(saved))), Why: &noun.Why{Rule: "The whole chain of this piece, reckoned with and without it.", Formula: "minutes as it is − minutes so",
			Values: []noun.Named{{Name: "hands now, min", Text: read.Trimmed(hands, 0)}, {Name: "hands so, min", Text: read.Trimmed(h, 0)}, {Name: "bench now, min", Text: read.Trimmed(bench, 0)}, {Name: "bench so, min", Text: read.Trimmed(x, 0)}}}}
		if why != "" {
			v.Costs = append(v.Costs, noun.Named{Name: "why others do not", Text: b.Reader.Say(why)})
		}
		out = append(out, v)
	}
	b.otherOptions(w, add)
	if t := w.Tool; t != nil && t.Presses() {
		role := ""
		if lead := b.Library.Leading(w.Way); lead != nil {
			role = lead.Role
		}
		copies := float64(max(1, t.InUse()))
		add(fmt.Sprintf("With one more copy of %s.", t.Name), "", "", "", func(in *technique.ChainIn) {
			if m := in.Tools[role]; m != nil {
				m["copies"] = math.Min(noun.MostCopies, copies+1)
			}
		})
	}
	slices.SortStableFunc(out, func(x, y ShortcutView) int {
		switch {
		case x.Saves.Value > y.Saves.Value:
			return -1
		case x.Saves.Value < y.Saves.Value:
			return 1
		}
		return 0
	})
	return out[:min(len(out), mostShortcuts)]
}

// otherOptions are those that were not taken, of each question of the way.
func (b *Means) otherOptions(w *Reckoned, add func(says, question, option, why string, change func(in *technique.ChainIn))) {
	seen := map[string]bool{}
	now := b.Question(w, w.Wanted, w.Batch.Make, b.Kitchen.LongestStretch()).Ways
	for _, s := range w.Way.Steps {
		for _, q := range s.Ways {
			way := b.Library.Way(w.Way, q)
			if way == nil || seen[q] {
				continue
			}
			seen[q] = true
			ours := ""
			for _, o := range way.Options {
				if o.Ours {
					ours = o.Why
				}
			}
			for _, o := range way.Options {
				taken, chosen := now[q]
				if o.ID == taken || !chosen && o.Ours || len(o.Sets) == 0 && (!chosen || len(way.Options) < 2) {
					continue
				}
				add(way.Says+" "+o.Says, q, o.ID, ours, func(in *technique.ChainIn) { in.Ways[q] = o.ID })
			}
		}
	}
}
