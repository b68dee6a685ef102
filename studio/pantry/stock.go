package pantry

import (
	"context"
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Take takes an amount out of a lot by hand, for whatever it was used. More
// than is there is refused: the pantry asks instead of going below nothing.
func (s *Keeping) Take(ctx context.Context, slug string, id int64, amount, why string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		l, err := journal.Get[noun.Lot](a, id)
		if err != nil {
			return err
		}
		if l.DeletedAt != nil {
			return journal.ErrNotFound
		}
		if strings.TrimSpace(amount) == "" {
			return fault.New(fault.Required, "amount", "How much? Such as 20 g, or 1 tsp.")
		}
		r := read.Reader{K: a.House}
		g, err := read.ReadStock(r, amount, "amount", l.Kind)
		if err != nil {
			return err
		}
		if g <= 0 {
			return fault.New(fault.OutOfRange, "amount", "More than nothing is taken.")
		}
		if g > l.MassG+work.Enough {
			return fault.New(fault.Contradiction, "amount", "Only %s is written down. Take that, or say below how much there really is.", r.Mass(l.MassG))
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
		a.Say(0, "took %s of %s%s", r.Mass(g), l.Name, why)
		return a.Save(&l)
	}, nil)
	return err
}

// asks is what the pantry wants to know about a lot.
func lotAsks(l *noun.Lot, r read.Reader) string {
	if l.OwesG <= work.Enough {
		return ""
	}
	return fmt.Sprintf("%s more was kneaded in than was written down. How much is there really?", r.Mass(l.OwesG))
}
