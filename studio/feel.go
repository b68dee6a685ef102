package studio

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

const (
	shownFelt = 12
)

type feelOf struct {
	code, say string
	firmer    bool
	why       string
}

var feels = []feelOf{
	{"stretched", "its pieces stretched or slumped", false, "weaker than it was taken for"},
	{"dragged", "it dragged under the cutter or stuck", false, "weaker than it was taken for"},
	{"cracked", "it cracked when it was bent", true, "stiffer than it was taken for"},
	{"tooHard", "its pieces were too hard to eat", true, "stiffer than it was taken for"},
}

// offset is what was learnt of a lot from the outcomes of its pieces.
func lotOffset(l *noun.Lot) float64 {
	firmer, softer := 0, 0
	for _, f := range l.Felt {
		for _, x := range feels {
			switch {
			case x.code != f.Feel:
			case x.firmer:
				firmer++
			default:
				softer++
			}
		}
	}
	return paste.Learnt(firmer, softer)
}

// Feel notes what came of the pieces of a lot.
func (s *Service) Feel(ctx context.Context, slug string, id int64, what string) error {
	_, err := s.act(ctx, slug, func(a *acting) error {
		l, err := a.Lot(id)
		if err != nil {
			return err
		}
		for _, x := range feels {
			if x.code != what {
				continue
			}
			if !l.Sugar() {
				return fault.New(fault.Contradiction, "feel", "Only sugar pastes have a gum strength to learn.")
			}
			l.Feel(noun.Felt{At: a.now.UTC().Truncate(time.Second), Who: a.by, Feel: what})
			a.say(0, "noted of %s: %s", l.Name, x.say)
			return a.SaveLot(&l)
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

func (b *benchOf) strengthView(l *noun.Lot) *StrengthView {
	if !l.Sugar() {
		return nil
	}
	k, _ := paste.KindOf(l.Kind)
	e := lotStrength(l)
	base, from := k.Strength, "of "+read.PasteName(l.Kind)
	if l.StrengthPercent != nil {
		base, from = *l.StrengthPercent, "its own"
	}
	squeezed := 0.0
	if l.Grade != nil {
		squeezed = paste.LotStrength(base, *l.Grade, 0) - base
	}
	v := &StrengthView{Figure: noun.Figure{e, "% gum", read.Trimmed(e, 2), &noun.Why{Rule: b.r.Say("The strength of its kind, moved by the latest squeeze and by what its pieces showed: 0.05 a report, 0.3 at most."),
		Formula: "e = strength + squeeze + learnt", Values: []noun.Named{{"strength, " + b.r.Say(from), read.Trimmed(base, 2) + " %"}, {"squeeze", signed(squeezed)}, {"learnt", signed(lotOffset(l))}}}}}
	for _, x := range feels {
		v.Feels = append(v.Feels, read.Option{x.code, x.say})
	}
	v.History = []string{}
	for _, f := range slices.Backward(l.Felt) {
		if len(v.History) == shownFelt {
			v.History = append(v.History, fmt.Sprintf("and %d earlier", len(l.Felt)-shownFelt))
			break
		}
		say := fmt.Sprintf("squeeze grade %d", f.Grade)
		for _, x := range feels {
			if x.code == f.Feel {
				say = x.say + ": " + x.why
			}
		}
		if f.Who != "" {
			say += ", " + f.Who
		}
		v.History = append(v.History, f.At.In(b.now.Location()).Format("2 Jan")+": "+say)
	}
	v.Rescue = b.rescues(l, base, e)
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
func (b *benchOf) rescues(l *noun.Lot, base, e float64) []Rescue {
	out := []Rescue{}
	if l.MassG < 0.01 {
		return out
	}
	plain := paste.PlainStrength
	if p := b.plainest(l); p != nil {
		plain = lotStrength(p)
	}
	for _, m := range paste.Remedies(l.MassG, base, e, b.k.Powder, plain) {
		r := Rescue{Say: m.Say, Bin: m.Bin}
		for _, do := range m.Do {
			r.Do = append(r.Do, b.r.Say(do))
		}
		for i := range m.Additions {
			r.Doses = append(r.Doses, b.addition(l.MassG, m.Code, &m.Additions[i]))
		}
		out = append(out, r)
	}
	return out
}

// addition is what a remedy kneads in, with its reason.
func (b *benchOf) addition(m float64, remedy string, a *paste.Addition) noun.Figure {
	r := b.r
	fine := func(name string, why *noun.Why) noun.Figure {
		return noun.Figure{a.G, r.Say(name), read.Trimmed(math.Max(a.G, 0.01), 2) + " g", why}
	}
	rule := "A dry paste wants fat and water, not gum."
	if remedy == "tooStiff" {
		rule = "Half a gram in a hundred brings back the stretch (assumed)."
	}
	share := &noun.Why{Rule: rule, Formula: "paste × " + read.Trimmed(a.Share*100, 1) + " %", Values: []noun.Named{{"paste", exactMass(r, m)}}}
	switch a.What {
	case "powder":
		return fine("hardener powder, "+read.PowderNames[b.k.Powder]+", "+b.spoonsSay(b.k.Powder, a.G), doseOf(m, a.Have, a.Want, a.G))
	case "plain":
		return noun.Figure{a.G, r.Say("plain sugar paste"), r.Mass(a.G), &noun.Why{Rule: "Thinned with plain paste: gum stays, the whole grows.", Formula: "plain = m (have - want)/(want - plain)",
			Values: []noun.Named{{"paste", read.Trimmed(m, 1) + " g"}, {"have, with 1 % too much", read.Trimmed(a.Have, 2) + " %"}, {"want", read.Trimmed(a.Want, 2) + " %"}, {"plain paste", read.Trimmed(a.Plain, 2) + " %"}}}}
	case "water":
		return fine("water", share)
	}
	return fine("white fat", share)
}

func doseOf(m, e, want, g float64) *noun.Why {
	return &noun.Why{Rule: "A mass balance of gum: what is there and what is added, over the whole.", Formula: "powder = m (want - have)/(100 - want)",
		Values: []noun.Named{{"paste", read.Trimmed(m, 1) + " g"}, {"have", read.Trimmed(e, 2) + " %"}, {"want", read.Trimmed(want, 2) + " %"}, {"powder", read.Trimmed(g, 2) + " g"}}}
}

// plainest is the plain paste of the pantry that another is thinned with.
func (b *benchOf) plainest(not *noun.Lot) *noun.Lot {
	for i := range b.lots {
		if l := &b.lots[i]; l.ID != not.ID && l.Kind == "sugarPaste" && l.Swatch == nil && l.MassG > 0 {
			return l
		}
	}
	return nil
}
