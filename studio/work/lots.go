package work

import (
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// LotStrength is the gum strength of a lot in %: its own or its kind's, moved by squeeze and outcomes.
func LotStrength(l *noun.Lot) float64 {
	k, _ := paste.KindOf(l.Kind)
	grade := 0
	if l.Grade != nil {
		grade = *l.Grade
	}
	if l.StrengthPercent != nil {
		k.Strength = *l.StrengthPercent
	}
	return paste.LotStrength(k.Strength, grade, LotOffset(l))
}

// FeelOf is something that can be noted of a lot's pieces, and what it says of its gum.
type FeelOf struct {
	Code, Say string
	firmer    bool
	Why       string
}

var Feels = []FeelOf{
	{"stretched", "its pieces stretched or slumped", false, "weaker than it was taken for"},
	{"dragged", "it dragged under the cutter or stuck", false, "weaker than it was taken for"},
	{"cracked", "it cracked when it was bent", true, "stiffer than it was taken for"},
	{"tooHard", "its pieces were too hard to eat", true, "stiffer than it was taken for"},
}

// LotOffset is what was learnt of a lot from the outcomes of its pieces.
func LotOffset(l *noun.Lot) float64 {
	firmer, softer := 0, 0
	for _, f := range l.Felt {
		for _, x := range Feels {
			switch {
			case x.Code != f.Feel:
			case x.firmer:
				firmer++
			default:
				softer++
			}
		}
	}
	return paste.Learnt(firmer, softer)
}

// UsesOf a batch: the share of what the piece is kneaded from.
func (w *Reckoned) UsesOf(share float64) []noun.Taken {
	var out []noun.Taken
	for _, u := range slices.Concat(w.Uses, w.Adds) {
		if u.Lot != nil && u.Grams*share > Enough {
			if i := slices.IndexFunc(out, func(t noun.Taken) bool { return t.Lot == u.Lot.ID }); i >= 0 {
				out[i].G += u.Grams * share // a gel may go into two of the colours
				continue
			}
			out = append(out, noun.Taken{Lot: u.Lot.ID, Name: u.Lot.Name, G: u.Grams * share})
		}
	}
	return out
}

// there is what a lot holds for a piece: what is in it, and what has gone into
// the piece already.
func (b *Means) there(w *Reckoned, l *noun.Lot) float64 { return l.MassG + b.Taken[w.Piece.ID][l.ID] }

// powderLot is the hardener of the pantry.
func (b *Means) powderLot() *noun.Lot {
	for i := range b.Lots {
		if b.Lots[i].Kind == b.Kitchen.Powder {
			return &b.Lots[i]
		}
	}
	return nil
}

// Claim takes grams for a commission out of what is left: the lot that is
// meant, then others of its kind that may be served.
func (b *Means) Claim(left map[int64]float64, lot *noun.Lot, kind, swatch string, g float64, c *noun.Commission) (got float64) {
	take := func(l *noun.Lot) {
		x := math.Min(left[l.ID], g-got)
		left[l.ID] -= x
		got += x
	}
	if lot != nil {
		take(lot)
	}
	for i := range b.Lots {
		l := &b.Lots[i]
		if got >= g-Enough {
			break
		}
		if l.Kind != kind || lot != nil && l.ID == lot.ID || OrEmpty(l.Swatch) != swatch || swatch != "" && (lot == nil || l.Name != lot.Name) {
			continue
		}
		if len(c.Refuses(l)) == 0 {
			take(l)
		}
	}
	return got
}

// Enough is what counts as nothing, g.
const Enough = 1e-6

// CheckLot refuses a lot of a document that no form would have let through.
func CheckLot(at string, l noun.Lot) error {
	if err := read.CheckRow(at, read.LotFields, l); err != nil {
		return err
	}
	wrong := func(field, format string, args ...any) error {
		return fault.New(fault.OutOfRange, at+"."+field, format, args...)
	}
	if !(l.OwesG >= 0 && l.OwesG <= 1e6) {
		return wrong("owesG", "What is owed is not below nothing.")
	}
	switch {
	case l.Grade != nil && (*l.Grade < 1 || *l.Grade > 5):
		return wrong("grade", "The squeeze grade runs from 1 (slumps) to 5 (cracks).")
	case l.Deepening != nil && !(*l.Deepening >= 0 && *l.Deepening <= 5):
		return wrong("deepening", "It deepens by 0 to 500 %%.")
	case l.Swatch != nil:
		var hex string
		if err := read.ReadSwatch("swatch", *l.Swatch, &hex); err != nil || hex != *l.Swatch {
			return wrong("swatch", "A swatch such as #5F8A4A.")
		}
	}
	for _, day := range []*time.Time{l.OpenedOn, l.BestBefore} {
		if day != nil && (day.Year() < 1990 || day.Year() > 2200) {
			return wrong("openedOn", "%s is no day of ours.", day.Format(time.DateOnly))
		}
	}
	if len(l.Felt) > noun.MostFelt || len(l.Mixes) > MostMixes {
		return wrong("felt", "At most %d squeezes and %d mixes are kept of a lot.", noun.MostFelt, MostMixes)
	}
	for i, f := range l.Felt {
		known := f.Feel == noun.FeltSqueeze && f.Grade >= 1 && f.Grade <= 5 || slices.ContainsFunc(Feels, func(x FeelOf) bool { return x.Code == f.Feel })
		if !known {
			return wrong(fmt.Sprintf("felt[%d]", i), "It was squeezed with a grade from 1 to 5, or stretched, dragged, cracked, or was too hard.")
		}
	}
	for i, m := range l.Mixes {
		var s string
		if !(m.Ratio >= 0.1 && m.Ratio <= 10) || !(m.Dose > 0 && m.Dose <= 8) || !(m.Hours >= 0 && m.Hours <= 1000) || read.ReadSwatch("seen", m.Seen, &s) != nil {
			return wrong(fmt.Sprintf("mixes[%d]", i), "A mix has a dose up to 8 g in 100 g, the swatch that was seen, and a ratio from 0.1 to 10.")
		}
	}
	return nil
}

// Mixing is what a share of the piece takes of lots, and of what is not there.
func (w *Reckoned) Mixing(share float64) (out []MixPart) {
	for _, u := range slices.Concat(w.Uses, w.Adds, w.Buys) {
		if u.Grams *= share; u.Grams <= Enough {
			continue
		}
		if u.Lot != nil {
			u.Kind, u.Name = u.Lot.Kind, u.Lot.Name
		}
		out = append(out, u)
	}
	return out
}

// Swatch of what is mixed in; "" for none.
func (m *MixPart) Swatch() string {
	if m.Lot == nil {
		return ""
	}
	return OrEmpty(m.Lot.Swatch)
}

// Order is the commission that the piece is of.
func (w *Reckoned) Order() *noun.Commission { return w.order }

// Named is what something that is not there is called.
func (b *Means) Named(m *MixPart) string {
	if m.Lot != nil {
		return m.Lot.Name
	}
	k, _ := read.KindOf(m.Kind)
	return b.Reader.Say(k.Say)
}
