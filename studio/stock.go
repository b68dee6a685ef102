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
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// takeFrom takes grams out of a lot for a step. What is not written down as
// being there is owed: the pantry asks how much there really is.
func takeFrom(tx journal.Tx, id int64, g float64) error {
	l, err := tx.Lot(id)
	if err != nil {
		return err
	}
	got := math.Min(l.MassG, g)
	l.MassG -= got
	if rest := g - got; rest > work.Enough {
		l.OwesG += rest
	}
	if l.MassG < work.Enough {
		l.MassG = 0
	}
	return tx.SaveLot(&l)
}

// takesOf a step that is finished: what its plan says, out of the lots.
func takesOf(tx journal.Tx, st *noun.Step) error {
	if st.Kind != "knead" || len(st.Takes) > 0 {
		return nil
	}
	st.Takes = []noun.Taken{}
	for _, u := range st.Planned.Uses {
		if err := takeFrom(tx, u.Lot, u.G); err != nil {
			return err
		}
		st.Takes = append(st.Takes, u)
	}
	return nil
}

// trimmings puts what is over after the last fill into a tub of its own, with
// the colour, the age and the allergens of what it was kneaded from.
func trimmings(a *journal.Acting, press *noun.Step, c work.Chain) error {
	if press.Kind != "press" || press.PieceID == nil {
		return nil
	}
	knead := c.ByOp[strings.TrimSuffix(press.Op, ".press")+".knead"]
	if knead == nil || press.Made == nil {
		return nil
	}
	p, err := a.Piece(*press.PieceID)
	if err != nil {
		return err
	}
	tub := noun.Lot{Version: 1, Leftover: true, Allergens: []string{}, Felt: []noun.Felt{}, Mixes: []noun.Mixed{}, Kind: "sugarPaste"}
	total, gum, most := 0.0, 0.0, 0.0
	for _, t := range knead.Takes {
		l, err := a.Lot(t.Lot)
		if err != nil {
			return err
		}
		for _, x := range l.Allergens {
			if !slices.Contains(tub.Allergens, x) {
				tub.Allergens = append(tub.Allergens, x)
			}
		}
		k, isPaste := paste.KindOf(l.Kind)
		if !isPaste {
			if l.Kind == "cmc" || l.Kind == "tragacanth" {
				gum += 100 * t.G
			}
			continue
		}
		total += t.G
		gum += work.LotStrength(&l) * t.G
		if t.G > most {
			most, tub.Kind = t.G, l.Kind
		}
		if k.FatSet {
			tub.Kind = l.Kind
		}
		tub.OpenedOn = earlier(tub.OpenedOn, l.OpenedOn)
		tub.BestBefore = earlier(tub.BestBefore, l.BestBefore)
	}
	tub.MassG = math.Floor(10*(total-float64(*press.Made)*press.PieceG())) / 10
	if total == 0 || tub.MassG < paste.LeastTrimmingsG {
		return nil
	}
	if tub.OpenedOn == nil {
		day := a.Now.UTC().Truncate(24 * time.Hour)
		tub.OpenedOn = &day
	}
	if k, _ := paste.KindOf(tub.Kind); !k.FatSet {
		if e := gum / total; math.Abs(e-k.Strength) > 0.005 {
			tub.StrengthPercent = &e
		}
	}
	tub.Name = "Trimmings"
	if p.ColourFrom != "asItIs" && !work.IsWhite(p.Swatch) {
		tub.Swatch = &p.Swatch
		if solid := knead.Planned.Leaves; solid != "" {
			tub.Swatch = &solid
		}
		if p.Colour != "" {
			tub.Name += ", " + p.Colour
		}
	}
	slices.Sort(tub.Allergens)
	ls, err := a.LotsCalled(tub.Name)
	if err != nil {
		return err
	}
	for _, l := range ls { // of the same evening's paste there is one tub
		if l.Leftover && l.Kind == tub.Kind && sameText(l.Swatch, tub.Swatch) && slices.Equal(l.Allergens, tub.Allergens) && sameNumber(l.StrengthPercent, tub.StrengthPercent) {
			l.MassG += tub.MassG
			l.OpenedOn, l.BestBefore = earlier(l.OpenedOn, tub.OpenedOn), earlier(l.BestBefore, tub.BestBefore)
			return a.SaveLot(&l)
		}
	}
	return a.CreateLot(&tub)
}

func earlier(a, b *time.Time) *time.Time {
	if a == nil || b != nil && b.Before(*a) {
		return b
	}
	return a
}

func sameText(a, b *string) bool {
	return (a == nil) == (b == nil) && (a == nil || *a == *b)
}

func sameNumber(a, b *float64) bool {
	return (a == nil) == (b == nil) && (a == nil || math.Abs(*a-*b) < 0.01)
}

// Take takes an amount out of a lot by hand, for whatever it was used. More
// than is there is refused: the pantry asks instead of going below nothing.
func (s *Service) Take(ctx context.Context, slug string, id int64, amount, why string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		l, err := a.Lot(id)
		if err != nil {
			return err
		}
		if l.DeletedAt != nil {
			return journal.ErrNotFound
		}
		if strings.TrimSpace(amount) == "" {
			return fault.New(fault.Required, "amount", "How much? Such as 20 g, or 1 tsp.")
		}
		r := read.Reader{a.House}
		g, err := read.ReadStock(r, amount, "amount", l.Kind)
		if err != nil {
			return err
		}
		if g <= 0 {
			return fault.New(fault.OutOfRange, "amount", "More than nothing is taken.")
		}
		if g > l.MassG+work.Enough {
			return fault.New(fault.Contradiction, "amount", "Only %s is written down. Take that, or say below how much there really is.", work.ExactMass(r, l.MassG))
		}
		l.MassG = math.Max(0, l.MassG-g)
		for _, ch := range why {
			if ch < ' ' {
				return fault.New(fault.Syntax, "why", "There is a character in it that cannot be kept.")
			}
		}
		if len([]rune(why)) > 100 {
			return fault.New(fault.OutOfRange, "why", "A hundred characters at most.")
		}
		if why = strings.TrimSpace(why); why != "" {
			why = " for " + why
		}
		a.Say(0, "took %s of %s%s", work.ExactMass(r, g), l.Name, why)
		return a.SaveLot(&l)
	}, nil)
	return err
}

// asks is what the pantry wants to know about a lot.
func lotAsks(l *noun.Lot, r read.Reader) string {
	if l.OwesG <= work.Enough {
		return ""
	}
	return fmt.Sprintf("%s more was kneaded in than was written down. How much is there really?", work.ExactMass(r, l.OwesG))
}

// checkGrams refuses grams of a document that nobody could have written.
func checkGrams(name string, all noun.UnitGrams, choices []read.Option, lo, hi float64) error {
	for code, g := range all {
		if !slices.ContainsFunc(choices, func(c read.Option) bool { return c.Code == code }) || !(g >= lo && g <= hi) {
			return fault.New(fault.OutOfRange, name, "%s %g g cannot be.", code, g)
		}
	}
	return nil
}
