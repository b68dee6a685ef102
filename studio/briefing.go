package studio

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// mostTiers is how many tiers a cake has at most.
const mostTiers = 12

// AddTier puts a tier on top: round and a third of its height smaller than the one
// below, as most cakes are.
func (s *Service) AddTier(ctx context.Context, slug string, id int64) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		c, err := journal.Get[noun.Commission](a, id)
		if err != nil {
			return err
		}
		if len(c.Tiers) >= mostTiers {
			return fault.New(fault.OutOfRange, "tiers", "Up to %d tiers.", mostTiers)
		}
		next := noun.Tier{Shape: "round", SizeMM: 250}
		if n := len(c.Tiers); n > 0 {
			next = c.Tiers[n-1]
			next.SizeMM = max(50, next.SizeMM-tierStep)
		}
		c.Tiers = append(slices.Clone(c.Tiers), next)
		a.Say(id, "put tier %d on", len(c.Tiers))
		return a.Save(&c)
	}, nil)
	return err
}

// tierStep is how much smaller the next tier usually is, mm (assumed).
const tierStep = 50

// TakeTier takes a tier off, counted from below.
func (s *Service) TakeTier(ctx context.Context, slug string, id int64, at int) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		c, err := journal.Get[noun.Commission](a, id)
		if err != nil {
			return err
		}
		if at < 0 || at >= len(c.Tiers) {
			return journal.TooLate("That tier is no longer there.")
		}
		c.Tiers = slices.Delete(slices.Clone(c.Tiers), at, at+1)
		a.Say(id, "took tier %d off", at+1)
		return a.Save(&c)
	}, nil)
	return err
}

// consequences of who eats, each with what it rules out of this pantry.
func consequences(c *noun.Commission, lots []noun.Lot, r read.Reader) []work.Consequence {
	out := []work.Consequence{}
	holding := func(holds func(*noun.Lot) bool) []string {
		var names []string
		for i := range lots {
			if l := &lots[i]; l.MassG > 0 && holds(l) && !slices.Contains(names, l.Name) {
				names = append(names, l.Name)
			}
		}
		return names
	}
	says := func(names []string, none string) string {
		switch n := len(names); {
		case n == 0:
			return none
		case n > mostNamed:
			return fmt.Sprintf("out: %s and %d more", strings.Join(names[:mostNamed], ", "), n-mostNamed)
		}
		return "out: " + read.List(names)
	}
	for _, a := range c.Allergies {
		names := holding(func(l *noun.Lot) bool { return slices.Contains(l.Label().Holds, a) })
		out = append(out, work.Consequence{What: a, Says: r.Say(says(names, "no label of the pantry names it") + "; " + caution.Instead("allergy")), Out: noun.Some(names)})
	}
	for _, a := range c.Without {
		names := holding(func(l *noun.Lot) bool {
			label := l.Label()
			return slices.ContainsFunc(caution.Means(a), func(w string) bool { return slices.Contains(label.Asks, w) || slices.Contains(label.Holds, w) })
		})
		none := "no label of the pantry names any"
		if a == "alcohol" {
			none = "none is in the pantry"
		}
		out = append(out, work.Consequence{What: "nothing of " + read.WordsOf([]string{a})[0], Says: r.Say(says(names, none) + "; " + caution.Instead(a)), Out: noun.Some(names)})
	}
	if c.ForChildren() {
		out = append(out, work.Consequence{What: "children", Says: r.Say(caution.Instead("children")), Out: []string{}})
	}
	return out
}

// mostNamed is how many lots one consequence names.
const mostNamed = 4
