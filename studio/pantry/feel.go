package pantry

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/paste"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Feel notes what came of the pieces of a lot.
func (s *Keeping) Feel(ctx context.Context, slug string, id int64, what string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		l, err := journal.Get[noun.Lot](a, id)
		if err != nil {
			return err
		}
		for _, x := range work.Feels {
			if x.Code != what {
				continue
			}
			if !l.Sugar() {
				return fault.New(fault.Contradiction, "feel", "Only sugar pastes have a gum strength to learn.")
			}
			l.Feel(noun.Felt{At: a.Now.UTC().Truncate(time.Second), Who: a.By, Feel: what})
			a.Say(0, "noted of %s: %s", l.Name, x.Say)
			return a.Save(&l)
		}
		return fault.New(fault.UnknownValue, "feel", "It stretched, dragged, cracked, or was too hard.")
	}, nil)
	return err
}

// StrengthView is the gum strength of a lot, and what moved it.
type StrengthView struct {
	Figure  noun.Figure   `json:"figure"`
	Feels   []read.Option `json:"feels" doc:"what can be noted of its pieces"`
	History []string      `json:"history"`
	Rescue  []Rescue      `json:"rescue"`
}

// Rescue is what brings a lot back that went wrong, or when to bin it.
type Rescue struct {
	Say   string        `json:"say"`
	Do    []string      `json:"do"`
	Bin   string        `json:"bin"`
	Doses []noun.Figure `json:"doses"`
}

func strengthView(b *work.Means, l *noun.Lot) *StrengthView {
	if !l.Sugar() {
		return nil
	}
	k, _ := paste.KindOf(l.Kind)
	e := work.LotStrength(l)
	base, from := k.Strength, "of "+read.PasteName(l.Kind)
	if l.StrengthPercent != nil {
		base, from = *l.StrengthPercent, "its own"
	}
	squeezed := 0.0
	if l.Grade != nil {
		squeezed = paste.LotStrength(base, *l.Grade, 0) - base
	}
	v := &StrengthView{Figure: noun.Figure{Value: e, Unit: "% gum", Text: read.Trimmed(e, 2), Why: &noun.Why{Rule: b.Reader.Say("The strength of its kind, moved by the latest squeeze and by what its pieces showed: 0.05 a report, 0.3 at most."),
		Formula: "e = strength + squeeze + learnt", Values: []noun.Named{{Name: "strength, " + b.Reader.Say(from), Text: read.Trimmed(base, 2) + " %"}, {Name: "squeeze", Text: signed(squeezed)}, {Name: "learnt", Text: signed(work.LotOffset(l))}}}}}
	for _, x := range work.Feels {
		v.Feels = append(v.Feels, read.Option{Code: x.Code, Say: x.Say})
	}
	v.History = []string{}
	for _, f := range slices.Backward(l.Felt) {
		if len(v.History) == work.ShownFelt {
			v.History = append(v.History, fmt.Sprintf("and %d earlier", len(l.Felt)-work.ShownFelt))
			break
		}
		say := fmt.Sprintf("squeeze grade %d", f.Grade)
		for _, x := range work.Feels {
			if x.Code == f.Feel {
				say = x.Say + ": " + x.Why
			}
		}
		if f.Who != "" {
			say += ", " + f.Who
		}
		v.History = append(v.History, b.Reader.Day(f.At.In(b.Now.Location()), false)+": "+say)
	}
	v.Rescue = rescues(b, l, base, e)
	return v
}

func signed(x float64) string {
	if x >= 0 {
		return "+" + read.Trimmed(x, 2) + " %"
	}
	return read.Trimmed(x, 2) + " %"
}

// rescues of a sugar paste as it lies there; base is the strength it should
// have, e the one it has.
func rescues(b *work.Means, l *noun.Lot, base, e float64) []Rescue {
	out := []Rescue{}
	if l.MassG < 0.01 {
		return out
	}
	plain := paste.PlainStrength
	if p := plainest(b, l); p != nil {
		plain = work.LotStrength(p)
	}
	for _, m := range paste.Remedies(l.MassG, base, e, b.Kitchen.Powder, plain) {
		r := Rescue{Say: m.Say, Bin: m.Bin}
		for _, do := range m.Do {
			r.Do = append(r.Do, b.Reader.Say(do))
		}
		for i := range m.Additions {
			r.Doses = append(r.Doses, addition(b, l.MassG, m.Code, &m.Additions[i]))
		}
		out = append(out, r)
	}
	return out
}

// addition is what a remedy kneads in, with its reason.
func addition(b *work.Means, m float64, remedy string, a *paste.Addition) noun.Figure {
	r := b.Reader
	fine := func(name string, why *noun.Why) noun.Figure {
		return noun.Figure{Value: a.G, Unit: r.Say(name), Text: read.Trimmed(math.Max(a.G, 0.01), 2) + " g", Why: why}
	}
	rule := "A dry paste wants fat and water, not gum."
	if remedy == "tooStiff" {
		rule = "Half a gram in a hundred brings back the stretch (assumed)."
	}
	share := &noun.Why{Rule: rule, Formula: "paste × " + read.Trimmed(a.Share*100, 1) + " %", Values: []noun.Named{{Name: "paste", Text: r.Mass(m)}}}
	switch a.What {
	case "powder":
		return fine("hardener powder, "+read.PowderNames[b.Kitchen.Powder]+", "+b.SpoonsSay(b.Kitchen.Powder, a.G), work.DoseOf(m, a.Have, a.Want, a.G))
	case "plain":
		return noun.Figure{Value: a.G, Unit: r.Say("plain sugar paste"), Text: r.Mass(a.G), Why: &noun.Why{Rule: "Thinned with plain paste: gum stays, the whole grows.", Formula: "plain = m (have - want)/(want - plain)",
			Values: []noun.Named{{Name: "paste", Text: read.Trimmed(m, 1) + " g"}, {Name: "have, with 1 % too much", Text: read.Trimmed(a.Have, 2) + " %"}, {Name: "want", Text: read.Trimmed(a.Want, 2) + " %"}, {Name: "plain paste", Text: read.Trimmed(a.Plain, 2) + " %"}}}}
	case "water":
		return fine("water", share)
	}
	return fine("white fat", share)
}

// plainest is the plain paste of the pantry that another is thinned with.
func plainest(b *work.Means, not *noun.Lot) *noun.Lot {
	for i := range b.Lots {
		if l := &b.Lots[i]; l.ID != not.ID && l.Kind == "sugarPaste" && l.Swatch == nil && l.MassG > 0 {
			return l
		}
	}
	return nil
}
