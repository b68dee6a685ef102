package work

import (
	"math"
	"slices"

	"dustyfern/craft/attach"
	"dustyfern/studio/noun"
)

// Remember takes in what joins taught and what is to be remembered.
func (b *Means) Remember(notes []noun.Note) {
	b.Limits = LimitsOf(notes)
	for i := range notes {
		if notes[i].What == "remind" {
			b.Reminds = append(b.Reminds, notes[i])
		}
	}
}

// mostReminders stand at one step.
const mostReminders = 3

// RemindersFor are what is to be remembered of a way of making, for one of the places where
// it belongs; of a mould only with that mould.
func (b *Means) RemindersFor(w *Reckoned, targets ...string) (out []string) {
	if w.Way == nil {
		return nil
	}
	tool := ""
	if w.Tool != nil {
		tool = w.Tool.Name
	}
	for i := range b.Reminds {
		n := &b.Reminds[i]
		if n.Technique != w.Way.Key || !slices.Contains(targets, n.Target) || n.Target == "mould" && n.Tool != tool || slices.Contains(out, n.Says) {
			continue
		}
		if out = append(out, n.Says); len(out) == mostReminders {
			break
		}
	}
	return out
}

// LimitsOf are what joins of this studio taught: a join that fell lowers what its attacher
// carries to nine tenths of what pulled, one that held beyond it raises it.
func LimitsOf(notes []noun.Note) map[string]attach.Limit {
	type seen struct{ held, fell float64 }
	all := map[string]map[bool]*seen{}
	for i := range notes {
		n := &notes[i]
		if n.LeftOut || n.Attacher == "" || n.Load <= 0 {
			continue
		}
		if all[n.Attacher] == nil {
			all[n.Attacher] = map[bool]*seen{false: {}, true: {}}
		}
		s := all[n.Attacher][n.PerCM2]
		if n.What == "held" {
			s.held = math.Max(s.held, n.Load)
		} else if s.fell == 0 || n.Load < s.fell {
			s.fell = n.Load
		}
	}
	out := map[string]attach.Limit{}
	for name, by := range all {
		usual, known := attach.UsualLimit(name)
		if !known {
			continue
		}
		l := usual
		l.HangsG, l.PerCM2 = moved(usual.HangsG, by[false].held, by[false].fell), moved(usual.PerCM2, by[true].held, by[true].fell)
		if l != usual {
			out[name] = l
		}
	}
	return out
}

// moved is a limit after the greatest load that held and the least that fell (0: none).
func moved(limit, held, fell float64) float64 {
	switch {
	case fell > 0 && 0.9*fell < limit:
		return math.Max(0.9*fell, math.Min(held, limit))
	case fell == 0 && held > limit:
		return held
	}
	return limit
}

// Pulled is what pulls at the joins of a piece, as it would at a pliable one on coating, and
// what holds them; 0 while that is not known.
func (b *Means) Pulled(w *Reckoned) (load float64, perCM2 bool, with string) {
	v := b.Join(w)
	if v == nil || !v.Fits {
		return 0, false, ""
	}
	q := v.out.LoadG
	if v.out.LoadGPerCM2 != nil {
		q, perCM2 = v.out.LoadGPerCM2, true
	}
	return v.in.Base(v.With, *q), perCM2, v.With
}
