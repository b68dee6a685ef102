package studio

import (
	"cmp"
	"context"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// SetColour chooses how pieces come to their colour: gels ("" for the best
// set), tubs that are left, or the paste as it is.
func (s *Service) SetColour(ctx context.Context, slug string, ids []int64, from, gels string) error {
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
		if p.ColourFrom, p.GelLots = from, noun.Some(chosen); from == work.FromLeftovers || from == work.FromNothing {
			p.Strands = []noun.Strand{}
		}
		how = map[string]string{"": "by the best gels", work.FromGels: "by gels", work.FromLeftovers: "from leftovers", work.FromNothing: "as the paste is"}[from]
		if len(names) > 0 {
			how = "with " + read.List(names)
		}
		return how, nil
	})
}

// SetStrands says what is half kneaded in beside a colour: swatches of the order's own
// colours, "" for the paste as it comes, none for mixed through; and the parts of each, its
// own first ("1 : 1 : 2"), "" for equal ones. Faults: with, parts.
func (s *Service) SetStrands(ctx context.Context, slug string, ids []int64, with []string, parts string) error {
	if len(with) > noun.MostStrands {
		return fault.New(fault.OutOfRange, "with", "Two, three or four colours together: take one away.")
	}
	shares, err := readParts(parts, len(with)+1)
	if err != nil {
		return err
	}
	return s.colourPieces(ctx, slug, ids, func(a *journal.Acting, p *noun.Piece) (how string, err error) {
		of, err := a.PiecesOf([]int64{p.CommissionID})
		if err != nil {
			return "", err
		}
		was := p.Strands
		p.Strands = []noun.Strand{}
		var names []string
		for i, swatch := range with {
			x := noun.Strand{Swatch: swatch, Parts: shares[i+1] / shares[0]}
			own := slices.IndexFunc(of, func(o noun.Piece) bool { return o.Swatch == swatch && o.ID != p.ID && o.DeletedAt == nil })
			old := slices.IndexFunc(was, func(o noun.Strand) bool { return o.Swatch == swatch })
			name := "plain paste"
			switch {
			case swatch == p.Swatch || swatch == "" && (p.ColourFrom == work.FromNothing || work.IsWhite(p.Swatch)):
				return "", fault.New(fault.Contradiction, "with", "It is of that colour already: choose another to lie beside it.")
			case swatch == "":
			case own >= 0:
				x.Colour = of[own].Colour
			case old >= 0:
				x.Colour = was[old].Colour
			default:
				return "", fault.New(fault.UnknownValue, "with", "Part-mixed is of the order's own colours: give a piece that colour first.")
			}
			if slices.ContainsFunc(p.Strands, func(o noun.Strand) bool { return o.Swatch == swatch }) {
				return "", fault.New(fault.Contradiction, "with", "Each colour once.")
			}
			if err := work.CheckStrand(x); err != nil {
				return "", fault.New(fault.OutOfRange, "parts", "%s", work.Sentence(err))
			}
			if swatch != "" {
				name = cmp.Or(x.Colour, swatch)
			}
			p.Strands, names = append(p.Strands, x), append(names, name)
		}
		if p.ColourFrom == work.FromLeftovers {
			p.ColourFrom = ""
		}
		if len(names) == 0 {
			return "mixed through", nil
		}
		return "part-mixed with " + read.List(names), nil
	})
}

// readParts reads how much of each of n pastes is taken, as "1 : 1 : 2"; "" is equal parts.
func readParts(text string, n int) ([]float64, error) {
	out := make([]float64, n)
	for i := range out {
		out[i] = 1
	}
	if strings.TrimSpace(text) == "" {
		return out, nil
	}
	each := strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(":;/ ", r) })
	for i, word := range each {
		x, err := strconv.ParseFloat(strings.Replace(word, ",", ".", 1), 64)
		if err != nil || len(each) != n || !(x > 0 && x <= 1000) {
			example := "1"
			for range n - 1 {
				example += " : 1"
			}
			return nil, fault.New(fault.Syntax, "parts", "A number for each of the %d colours, its own first: %s.", n, example)
		}
		out[i] = x
	}
	return out, nil
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
