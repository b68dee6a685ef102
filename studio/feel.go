package studio

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/paste"
)

const (
	mostFelt    = 200
	shownFelt   = 12
	feltSqueeze = "squeezed"
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
func (l *Lot) offset() float64 {
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

// squeeze notes a grade with its date.
func (l *Lot) squeeze(grade int, now time.Time) {
	l.Grade = &grade
	l.feel(Felt{At: now.UTC().Truncate(time.Second), Feel: feltSqueeze, Grade: grade})
}

func (l *Lot) feel(f Felt) {
	l.Felt = append(slices.Clone(l.Felt), f)
	if n := len(l.Felt); n > mostFelt {
		l.Felt = l.Felt[n-mostFelt:]
	}
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
			if !l.sugar() {
				return fault.New(fault.Contradiction, "feel", "Only sugar pastes have a gum strength to learn.")
			}
			l.feel(Felt{At: a.now.UTC().Truncate(time.Second), Who: a.by, Feel: what})
			a.say(0, "noted of %s: %s", l.Name, x.say)
			return a.SaveLot(&l)
		}
		return fault.New(fault.UnknownValue, "feel", "It stretched, dragged, cracked, or was too hard.")
	}, nil)
	return err
}

// StrengthView is the gum strength of a lot, and what moved it.
type StrengthView struct {
	Figure  Figure   `json:"figure"`
	Feels   []Option `json:"feels" doc:"what can be noted of its pieces"`
	History []string `json:"history"`
	Rescue  []Rescue `json:"rescue"`
}

// Rescue is what brings a lot back that went wrong, or when to bin it.
type Rescue struct {
	Say   string   `json:"say"`
	Do    []string `json:"do"`
	Bin   string   `json:"bin"`
	Doses []Figure `json:"doses"`
}

func (b *benchOf) strengthView(l *Lot) *StrengthView {
	if !l.sugar() {
		return nil
	}
	k, _ := paste.KindOf(l.Kind)
	e := lotStrength(l)
	base, from := k.Strength, "of "+pasteNames[l.Kind]
	if l.StrengthPercent != nil {
		base, from = *l.StrengthPercent, "its own"
	}
	squeezed := 0.0
	if l.Grade != nil {
		squeezed = paste.LotStrength(base, *l.Grade, 0) - base
	}
	v := &StrengthView{Figure: Figure{e, "% gum", trimmed(e, 2), &Why{Rule: b.r.say("The strength of its kind, moved by the latest squeeze and by what its pieces showed: 0.05 a report, 0.3 at most."),
		Formula: "e = strength + squeeze + learnt", Values: []Named{{"strength, " + b.r.say(from), trimmed(base, 2) + " %"}, {"squeeze", signed(squeezed)}, {"learnt", signed(l.offset())}}}}}
	for _, x := range feels {
		v.Feels = append(v.Feels, Option{x.code, x.say})
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
		return "+" + trimmed(x, 2) + " %"
	}
	return trimmed(x, 2) + " %"
}

// Shares by which paste is softened (assumed): white fat and water for a dry
// one, fat alone for one that is only stiff.
const (
	fatForDry   = 0.01
	waterForDry = 0.02
	fatForStiff = 0.005
)

// rescues of a sugar paste as it lies there; base is the strength it should
// have, e the one it has.
func (b *benchOf) rescues(l *Lot, base, e float64) []Rescue {
	r, m := b.r, l.MassG
	out := []Rescue{}
	if m < 0.01 {
		return out
	}
	fine := func(name string, g float64, why *Why) Figure {
		if strings.HasPrefix(name, "hardener") {
			name += ", " + b.spoonsSay(b.k.Powder, g)
		}
		return Figure{g, r.say(name), trimmed(math.Max(g, 0.01), 2) + " g", why}
	}
	powder := "hardener powder, " + powderNames[b.k.Powder]
	want := math.Max(base, e+0.1)
	if d, err := paste.Dose(paste.DoseIn{MassG: &m, HavePercent: &e, WantPercent: &want, Powder: &b.k.Powder}); err == nil && d.AddPowderG > 0 {
		out = append(out, Rescue{Say: "Too soft: it sticks, slumps or stretches",
			Do:    []string{"Knead in the powder in two goes, rest it in its bag, squeeze again.", "On a hot day cool it first: warmth alone makes paste soft."},
			Doses: []Figure{fine(powder, d.AddPowderG, doseOf(m, e, want, d.AddPowderG))}, Bin: "Bin it when it is sour, wet through or speckled: powder mends none of these."})
	}
	out = append(out, Rescue{Say: "Too stiff: it cracks at the fold",
		Do:    []string{"Warm it in the hands, or 5 s at a time in the microwave; knead in the fat; then soften with plain paste if it must bend.", "Never water first: it turns the outside to glue."},
		Doses: []Figure{fine("white fat", m*fatForStiff, &Why{Rule: "Half a gram in a hundred brings back the stretch (assumed).", Formula: "paste × 0.5 %", Values: []Named{{"paste", exactMass(r, m)}}})}, Bin: ""})
	over, plain := e+1.0, paste.PlainStrength
	if p := b.plainest(l); p != nil {
		plain = lotStrength(p)
	}
	if over > plain+0.05 && base > plain {
		if d, err := paste.Dose(paste.DoseIn{MassG: &m, HavePercent: &over, WantPercent: &base, PlainPercent: &plain}); err == nil && d.AddPlainG > 0 {
			out = append(out, overdosed(r, m, over, base, plain, d.AddPlainG))
		}
	} else if over > plain+0.05 {
		half := (over + plain) / 2
		if d, err := paste.Dose(paste.DoseIn{MassG: &m, HavePercent: &over, WantPercent: &half, PlainPercent: &plain}); err == nil && d.AddPlainG > 0 {
			out = append(out, overdosed(r, m, over, half, plain, d.AddPlainG))
		}
	}
	out = append(out, Rescue{Say: "Dry: crumbs at the edge, squeeze grade 5",
		Do: []string{"Cut off what is hard as bone. Knead in the fat, then the water drop by drop; bag it for an hour.", "Not more hardener: it is dry, not weak."},
		Doses: []Figure{fine("white fat", m*fatForDry, &Why{Rule: "A dry paste wants fat and water, not gum.", Formula: "paste × 1 %", Values: []Named{{"paste", exactMass(r, m)}}}),
			fine("water", m*waterForDry, &Why{Rule: "A dry paste wants fat and water, not gum.", Formula: "paste × 2 %", Values: []Named{{"paste", exactMass(r, m)}}})},
		Bin: "Bin it when lumps stay hard after the hour: they tear every sheet."})
	for i := range out {
		for j := range out[i].Do {
			out[i].Do[j] = r.say(out[i].Do[j])
		}
	}
	return out
}

func doseOf(m, e, want, g float64) *Why {
	return &Why{Rule: "A mass balance of gum: what is there and what is added, over the whole.", Formula: "powder = m (want - have)/(100 - want)",
		Values: []Named{{"paste", trimmed(m, 1) + " g"}, {"have", trimmed(e, 2) + " %"}, {"want", trimmed(want, 2) + " %"}, {"powder", trimmed(g, 2) + " g"}}}
}

func overdosed(r reader, m, over, want, plain, g float64) Rescue {
	return Rescue{Say: "Over-dosed: a per cent too much gum went in", Do: []string{"Knead in plain paste of the same colour; rest it overnight before judging again."},
		Doses: []Figure{{g, r.say("plain sugar paste"), r.mass(g), &Why{Rule: "Thinned with plain paste: gum stays, the whole grows.", Formula: "plain = m (have - want)/(want - plain)",
			Values: []Named{{"paste", trimmed(m, 1) + " g"}, {"have, with 1 % too much", trimmed(over, 2) + " %"}, {"want", trimmed(want, 2) + " %"}, {"plain paste", trimmed(plain, 2) + " %"}}}}},
		Bin: "Bin what is over: past three times its own mass fresh paste is cheaper."}
}

// plainest is the plain paste of the pantry that another is thinned with.
func (b *benchOf) plainest(not *Lot) *Lot {
	for i := range b.lots {
		if l := &b.lots[i]; l.ID != not.ID && l.Kind == "sugarPaste" && l.Swatch == nil && l.MassG > 0 {
			return l
		}
	}
	return nil
}
