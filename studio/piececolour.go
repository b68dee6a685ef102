package studio

import (
	"context"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// SetColour chooses how pieces come to their colour: gels ("" for the best
// set), tubs that are left, or the paste as it is.
func (s *Service) SetColour(ctx context.Context, slug string, ids []int64, from, gels string, marbled *bool) error {
	if !slices.Contains([]string{"", work.FromGels, work.FromLeftovers, work.FromNothing}, from) {
		return fault.New(fault.UnknownValue, "from", "A colour comes from gels, from leftovers, or stays as it is.")
	}
	if len(gels) > 200 {
		return fault.New(fault.OutOfRange, "gels", "Three gels at most.")
	}
	return s.colourPieces(ctx, slug, ids, func(a *journal.Acting, p *noun.Piece) (how string, err error) {
		lots, err := a.Lots()
		if err != nil {
			return "", err
		}
		var chosen []int64
		var names []string
		for id := range strings.SplitSeq(gels, "+") {
			if gels == "" {
				break
			}
			i := slices.IndexFunc(lots, func(l noun.Lot) bool { return l.Kind == "gel" && fmt.Sprint(l.ID) == id })
			if i < 0 {
				return "", fault.New(fault.UnknownValue, "gels", "One of these gels is not in the pantry: choose again.")
			}
			chosen, names = append(chosen, lots[i].ID), append(names, lots[i].Name)
		}
		slices.Sort(chosen)
		was := *p
		p.ColourFrom, p.GelLots = from, noun.Some(chosen)
		if marbled != nil {
			p.Marbled = *marbled
		}
		how = map[string]string{"": "by the best gels", work.FromGels: "by gels", work.FromLeftovers: "from leftovers", work.FromNothing: "as the paste is"}[from]
		if len(names) > 0 {
			how = "with " + read.List(names)
		}
		if was.Marbled != p.Marbled {
			how += map[bool]string{true: ", part-mixed", false: ", mixed through"}[p.Marbled]
		}
		return how, nil
	})
}

// SetTarget gives pieces the colour that is wanted, and its name.
func (s *Service) SetTarget(ctx context.Context, slug string, ids []int64, swatch, name string) error {
	return s.colourPieces(ctx, slug, ids, func(a *journal.Acting, p *noun.Piece) (how string, err error) {
		err = read.Apply(read.PieceFields, read.Reader{K: a.House}, p, map[string]string{"swatch": swatch, "colour": name}, a.Now)
		how = p.Swatch
		if p.Colour != "" {
			how = p.Colour + ", " + how
		}
		return how, err
	})
}

// colourPieces changes pieces of one colour together, all or none of them.
func (s *Service) colourPieces(ctx context.Context, slug string, ids []int64, change func(*journal.Acting, *noun.Piece) (how string, err error)) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		if len(ids) == 0 || len(ids) > 200 {
			return fault.New(fault.Required, "ids", "Which pieces?")
		}
		var names []string
		for _, id := range ids {
			p, err := journal.Get[noun.Piece](a, id)
			if err != nil {
				return err
			}
			was := p
			how, err := change(a, &p)
			if err != nil {
				return err
			}
			if reflect.DeepEqual(was, p) {
				continue
			}
			names = append(names, p.Name)
			a.Say(p.CommissionID, "coloured %s %s", read.List(names), how)
			if err := a.Save(&p); err != nil {
				return err
			}
		}
		return nil
	}, nil)
	return err
}
