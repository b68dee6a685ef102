package studio

import (
	"context"
	"fmt"
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Colours shows the colour bench of a commission.
func (s *Service) Colours(ctx context.Context, slug string, id int64) (out work.ColoursView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		b, c, ps, err := plan.GatherOne(tx, k, now, id)
		if err != nil {
			return err
		}
		steps, err := s.besides(tx, id)
		if err != nil {
			return err
		}
		groups := b.ColourGroups(&c, ps)
		out = b.ColoursView(groups)
		out.Kneaded = b.Kneaded(id, work.Derived(steps, k, now))
		others, err := s.alikeElsewhere(tx, b, &c, groups)
		if err != nil {
			return err
		}
		for j := range out.Colours {
			out.Colours[j].Matches = b.Matches(groups[j], others)
		}
		return nil
	})
	return out, err
}

// besides are the steps of all orders about the time of what this one still has
// to knead: whatever else lies on the same board.
func (s *Service) besides(tx journal.Tx, id int64) ([]noun.Step, error) {
	mine, err := tx.BareSteps([]int64{id})
	if err != nil {
		return nil, err
	}
	var from, to time.Time
	for _, st := range mine {
		if !st.Planned.Draws || st.ActualStart != nil {
			continue
		}
		if from.IsZero() || st.PlannedStart.Before(from) {
			from = st.PlannedStart
		}
		if st.PlannedEnd.After(to) {
			to = st.PlannedEnd
		}
	}
	if from.IsZero() {
		return nil, nil
	}
	return tx.ThinStepsWithin(from.Add(-work.LongestStretch), to.Add(work.LongestStretch))
}

// alikeElsewhere works out the pieces of other open commissions that wear one of
// these colours, and only those.
//
// Of each colour the orders that are handed over soonest: those are mixed beside
// this one.
func (s *Service) alikeElsewhere(tx journal.Tx, b *work.Means, c *noun.Commission, groups []*work.ColourGroup) (out []work.Alike, err error) {
	cs, err := tx.OpenCommissions()
	if err != nil {
		return nil, err
	}
	ps, err := tx.OpenPieces()
	if err != nil {
		return nil, err
	}
	mine := map[int64][]noun.Piece{}
	for _, p := range ps {
		if p.CommissionID != c.ID && b.Needed[p.ID] > 0 {
			mine[p.CommissionID] = append(mine[p.CommissionID], p)
		}
	}
	sort.SliceStable(cs, func(i, j int) bool {
		a, b := cs[i].HandOver, cs[j].HandOver
		return a != nil && (b == nil || a.Before(*b))
	})
	wears := make([]int, len(groups))
	for i := range cs {
		var same []noun.Piece
		for g := range groups {
			n := len(same)
			for _, p := range mine[cs[i].ID] {
				if wears[g] < work.MostAlike && work.SameName(groups[g].First().Piece, &p) && !slices.ContainsFunc(same, func(x noun.Piece) bool { return x.ID == p.ID }) {
					same = append(same, p)
				}
			}
			if len(same) > n {
				wears[g]++
			}
		}
		for _, g := range b.ColourGroups(&cs[i], same) {
			out = append(out, work.Alike{Order: &cs[i], Group: g})
		}
	}
	return out, nil
}

// ShowFinish shows one finish over a colour.
func (s *Service) ShowFinish(ctx context.Context, slug string, lot int64, ground string, passes int, spirit string) (out work.FinishView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		l, err := journal.Get[noun.Lot](tx, lot)
		if err != nil {
			return err
		}
		if l.Swatch == nil && l.Kind != "glaze" && l.Kind != "pipingGel" {
			return fault.New(fault.Required, "lot", "%s has no swatch yet: give it one in the pantry.", l.Name)
		}
		p, err := colour.PasteOf(ground)
		if err != nil {
			return fault.New(fault.Syntax, "ground", "The ground is a swatch such as #5F8A4A.")
		}
		b := &work.Means{Kitchen: k, Reader: read.Reader{K: k}, Now: now}
		var parts *float64
		if strings.TrimSpace(spirit) != "" {
			f := read.Field[noun.Lot]{Name: "spirit", Kind: "amount", Dim: "number", Lo: 0, Hi: 100}
			x, err := f.Number(b.Reader, spirit)
			if err != nil {
				return err
			}
			parts = &x
		}
		out, err = b.Finish(&l, parts, p, passes, max(1, min(8, passes)))
		return err
	})
	return out, err
}

// ShowLadder finds n tones between two mixes of equal steps, each of so many
// grams.
func (s *Service) ShowLadder(ctx context.Context, slug, from, to string, n int, grams string) (out work.LadderView, err error) {
	err = s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, _ time.Time) error {
		a, err := colour.PasteOf(from)
		if err != nil {
			return fault.New(fault.Syntax, "from", "A swatch such as #5F8A4A.")
		}
		b, err := colour.PasteOf(to)
		if err != nil {
			return fault.New(fault.Syntax, "to", "A swatch such as #5F8A4A.")
		}
		f := read.Field[noun.Kitchen]{Name: "grams", Kind: "amount", Dim: "mass", Lo: 0.1, Hi: 50000}
		g, err := f.Number(read.Reader{K: k}, grams)
		if err != nil {
			return err
		}
		l, err := colour.Ladder(colour.LadderIn{Path: new("mix"), From: a, To: b, Steps: &n})
		if err != nil {
			return err
		}
		out.Shades = []work.LadderShade{}
		for i, t := range l.T {
			out.Shades = append(out.Shades, work.LadderShade{Hex: l.Hex[i], Dark: work.LightOf(l.Hex[i]) < work.DarkEnough,
				From: noun.Figure{Value: g * (1 - t), Unit: "g", Text: read.Reader{K: k}.Mass(g * (1 - t)), Why: nil}, To: noun.Figure{Value: g * t, Unit: "g", Text: read.Reader{K: k}.Mass(g * t), Why: nil}})
		}
		out.Step = fmt.Sprintf("Equal steps, each %s from the next.", map[bool]string{true: "hardly to be told", false: "plainly apart"}[l.StepDe00 < 2])
		return nil
	})
	return out, err
}

// Compare learns how strong a bottle is from a mix.
func (s *Service) Compare(ctx context.Context, slug string, id int64, in work.CompareIn) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		l, err := journal.Get[noun.Lot](a, id)
		if err != nil {
			return err
		}
		if l.Kind != "gel" || l.Swatch == nil {
			return fault.New(fault.Contradiction, "gel", "Only a gel with a swatch can be compared.")
		}
		r := read.Reader{K: a.House}
		drop := a.House.DropG
		if l.DropG != nil {
			drop = *l.DropG
		}
		gel, err := work.ReadGel(r, in.Gel, drop)
		if err != nil {
			return err
		}
		f := read.Field[noun.Lot]{Name: "paste", Kind: "amount", Dim: "mass", Lo: 1, Hi: 5000}
		pasteG, err := f.Number(r, in.Paste)
		if err != nil {
			return err
		}
		hours := 0.0
		if strings.TrimSpace(in.Hours) != "" {
			f := read.Field[noun.Lot]{Name: "hours", Kind: "amount", Dim: "minutes", Lo: 0, Hi: 60000}
			minutes, err := f.Number(r, work.HoursText(in.Hours))
			if err != nil {
				return err
			}
			hours = minutes / 60
		}
		var seen string
		if err := read.ReadSwatch("seen", in.Seen, &seen); err != nil {
			return err
		}
		dose := 100 * gel / pasteG
		if dose > 8 {
			return fault.New(fault.OutOfRange, "gel", "That is %s g in 100 g: 8 g at most are reckoned with.", read.Trimmed(dose, 1))
		}
		g, err := colour.GelOf(*l.Swatch)
		if err != nil {
			return err
		}
		out, err := colour.Calibrate(colour.CalibrateIn{Kind: new("strength"), Gels: []any{map[string]any{"gel": g, "dose": dose}}, Seen: seen})
		if err != nil {
			return err
		}
		deepening, half := 0.0, 3.0
		if l.Deepening != nil {
			deepening = *l.Deepening
		}
		if l.HalfTimeHours != nil {
			half = *l.HalfTimeHours
		}
		rested := *out.Ratio * (1 + deepening) / (1 + deepening*(1-math.Exp2(-hours/half)))
		if *out.De00 > 12 {
			return fault.New(fault.Contradiction, "seen", "%s is no shade of this gel: the nearest is %s. Compare in daylight, and pick once more.", seen, work.Apart(*out.De00))
		}
		if rested < 0.1 || rested > 10 {
			return fault.New(fault.OutOfRange, "seen", "That would make it %s times its swatch: were the grams right?", read.Trimmed(rested, 2))
		}
		l.Mixes = append(slices.Clone(l.Mixes), noun.Mixed{At: a.Now.UTC().Truncate(time.Second), Dose: dose, Base: "white sugar paste", Seen: seen, Hours: hours, Ratio: rested, Off: *out.De00})
		if n := len(l.Mixes); n > work.MostMixes {
			l.Mixes = l.Mixes[n-work.MostMixes:]
		}
		a.Say(0, "compared %s: %s of its swatch", l.Name, read.Trimmed(rested, 2))
		return a.Save(&l)
	}, nil)
	return err
}

// ShowRecipe finds a colour in another base, in so many grams.
func (s *Service) ShowRecipe(ctx context.Context, slug string, commission int64, target, base, grams string) (out work.OtherBase, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		b, c, _, err := plan.GatherOne(tx, k, now, commission)
		if err != nil {
			return err
		}
		f := read.Field[noun.Kitchen]{Name: "grams", Kind: "amount", Dim: "mass", Lo: 1, Hi: 50000}
		g, err := f.Number(b.Reader, grams)
		if err != nil {
			return err
		}
		var hex string
		if err := read.ReadSwatch("target", target, &hex); err != nil {
			return err
		}
		p, ok := colour.BaseOf(base)
		name := base
		if !ok {
			id, _ := strconv.ParseInt(base, 10, 64)
			i := slices.IndexFunc(b.Lots, func(l noun.Lot) bool { return l.ID == id })
			if i < 0 {
				return fault.New(fault.UnknownValue, "base", "Choose a base of the list, or a tub of the pantry.")
			}
			p, name = work.PasteOfLot(&b.Lots[i]), b.Lots[i].Name
		}
		out.Base = b.Reader.Say(name)
		if d := work.LightOf(hex) - work.LightOf(p.Hex()); d > 0.5 {
			out.Says = fmt.Sprintf("%s is darker than the colour that is wanted: nothing kneaded in makes it lighter but white.", read.UpperFirst(out.Base))
		}
		lots, _ := b.GelLots(&c)
		if len(lots) == 0 {
			return fault.New(fault.Unreachable, "base", "There is no gel in the pantry that may go in.")
		}
		r, err := b.Recipe(hex, p, lots, 0)
		if err != nil {
			return err
		}
		out.Recipe = *b.RecipeView(&work.Tint{BaseSay: out.Base}, r, lots, g, false)
		return nil
	})
	return out, err
}

// SchoolsOf shows all the questions.
func (s *Service) SchoolsOf(ctx context.Context, slug string) (out []work.SchoolView, err error) {
	err = s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, _ time.Time) error {
		out = work.SchoolViews(k, read.Reader{K: k})
		return nil
	})
	return out, err
}

// TakeSide remembers which side this studio is on.
func (s *Service) TakeSide(ctx context.Context, slug, question, side string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		for _, q := range work.SchoolQuestions {
			if q.Code != question {
				continue
			}
			i := slices.IndexFunc(q.Sides, func(w work.SchoolWay) bool { return w.Code == side })
			if i < 0 {
				return fault.New(fault.UnknownValue, "side", "Choose one of the sides that are listed.")
			}
			k := *a.Kitchen()
			sides := map[string]string{question: side}
			for code, own := range k.Sides {
				if code != question {
					sides[code] = own
				}
			}
			k.Sides = sides
			a.Say(0, "%s: %s", q.Asks, q.Sides[i].Say)
			return a.Save(&k)
		}
		return fault.New(fault.UnknownValue, "question", "There is no such question.")
	}, nil)
	return err
}
