package studio

import (
	"context"
	"errors"
	"slices"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// JoinIn is what is said of a part: which piece of the order goes on, how many on to
// each, where, with what, and how long that takes.
type JoinIn struct {
	Part    int64  `json:"part" required:"false" doc:"a piece of the same order; 0: a new one"`
	Name    string `json:"name" required:"false" doc:"of a new one"`
	Each    string `json:"each" required:"false" doc:"how many on to each"`
	Says    string `json:"says" required:"false"`
	With    string `json:"with" required:"false"`
	Minutes string `json:"minutes" required:"false" doc:"for each; empty: half a minute"`
}

// usualJoin is how long hands take to put one part on, minutes (assumed).
const usualJoin = 0.5

// readJoin turns texts into a join; what cannot be read is a fault on its field.
func readJoin(in JoinIn) (noun.Join, error) {
	j := noun.Join{Part: in.Part, Each: 1, Says: in.Says, With: in.With, Minutes: usualJoin}
	for name, text := range map[string]string{"says": in.Says, "with": in.With, "name": in.Name} {
		if len([]rune(text)) > 200 {
			return j, fault.New(fault.OutOfRange, name, "200 characters at most fit here.")
		}
	}
	if in.Each != "" {
		q, err := measure.Parse(measure.ParseIn{Text: &in.Each, Want: new("count")})
		if err != nil || q.Value == nil || *q.Value != float64(int(*q.Value)) || *q.Value < 1 || *q.Value > noun.MostEach {
			return j, fault.New(fault.OutOfRange, "each", "From 1 to %d of it go on to each.", noun.MostEach)
		}
		j.Each = int(*q.Value)
	}
	if in.Minutes != "" {
		text := in.Minutes
		if read.BareNumber.MatchString(text) {
			text += " min"
		}
		q, err := measure.Parse(measure.ParseIn{Text: &text, Want: new("time")})
		if err != nil || q.Value == nil || !(*q.Value > 0 && *q.Value <= 240) {
			return j, fault.New(fault.OutOfRange, "minutes", "Minutes for one, such as 0.5 min or 20 s.")
		}
		j.Minutes = *q.Value
	}
	return j, nil
}

// AddPart puts a part on to a piece, made anew or one that is there; at 0 and on
// changes that part in its place, at below 0 adds one.
func (s *Service) AddPart(ctx context.Context, slug string, id int64, at int, in JoinIn) (part int64, err error) {
	return s.Act(ctx, slug, func(a *journal.Acting) error {
		j, err := readJoin(in)
		if err != nil {
			return err
		}
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		if p.DeletedAt != nil {
			return journal.ErrNotFound
		}
		if at >= len(p.Joins) || at < 0 && len(p.Joins) >= mostParts {
			return fault.New(fault.OutOfRange, "part", "A piece has up to %d parts.", mostParts)
		}
		if j.Part == 0 {
			if j.Part, err = newPart(a, &p, in.Name); err != nil {
				return err
			}
		}
		joined, err := journal.Get[noun.Piece](a, j.Part)
		if errors.Is(err, journal.ErrNotFound) {
			return fault.New(fault.UnknownValue, "parts", "That part is not a piece of this order.")
		}
		if err != nil {
			return err
		}
		p.Joins = slices.Clone(p.Joins)
		if at < 0 {
			p.Joins = append(p.Joins, j)
			a.Say(p.CommissionID, "put %d %s on to each of %s", j.Each, joined.Name, p.Name)
		} else {
			p.Joins[at] = j
			a.Say(p.CommissionID, "changed how %s go on to %s", joined.Name, p.Name)
		}
		if err := journal.Pieces.Check(a, &p); err != nil {
			return err
		}
		return a.Save(&p)
	}, nil)
}

// mostParts is how many parts a piece has at most.
const mostParts = 40

// newPart makes a piece that is only a part: none of it goes on the cake by itself.
func newPart(a *journal.Acting, p *noun.Piece, name string) (int64, error) {
	if name == "" {
		return 0, fault.New(fault.Required, "name", "What is the part called?")
	}
	if err := a.MakeRoom(p.CommissionID, p.Position+1); err != nil {
		return 0, err
	}
	x := noun.BlankPiece()
	x.CommissionID, x.Position, x.Name, x.Wanted = p.CommissionID, p.Position+1, name, 0
	x.Colour, x.Swatch, x.Eaten, x.KnifePasses = p.Colour, p.Swatch, p.Eaten, p.KnifePasses
	err := a.Create(&x)
	return x.ID, err
}

// TakePart takes a part off a piece; the piece that it is stays on the list.
func (s *Service) TakePart(ctx context.Context, slug string, id int64, at int) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		if at < 0 || at >= len(p.Joins) {
			return journal.TooLate("That part is no longer on %s.", p.Name)
		}
		part, err := journal.Get[noun.Piece](a, p.Joins[at].Part)
		if err != nil {
			return err
		}
		a.Say(p.CommissionID, "took %s off %s", part.Name, p.Name)
		p.Joins = slices.Delete(slices.Clone(p.Joins), at, at+1)
		return a.Save(&p)
	}, nil)
	return err
}

// ChooseWay takes an option of a question for a piece; "" is as usual.
func (s *Service) ChooseWay(ctx context.Context, slug string, id int64, question, option string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		if p.DeletedAt != nil {
			return journal.ErrNotFound
		}
		return journal.Pieces.Change(a, id, journal.ChangeIn{Version: p.Version, Set: map[string]string{"way." + question: option}})
	}, nil)
	return err
}
