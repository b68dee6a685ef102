package studio

import (
	"context"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Kind of a row that the generic use cases take.
type Kind string

// Kinds of rows.
const (
	KindTool       Kind = "tools"
	KindLot        Kind = "lots"
	KindCommission Kind = "commissions"
	KindPiece      Kind = "pieces"
	KindWay        Kind = "ways"
)

// Blank is a new row as a form: the starting values.
//
// of is the kind of tool; "" for what most drawers begin with.
func (s *Service) Blank(ctx context.Context, slug string, kind Kind, of string) (out work.RowView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		switch kind {
		case KindTool:
			t, err := blankTool(of)
			if err != nil {
				return err
			}
			out = work.RowView{Fields: read.Views(read.ToolFields(&t, nil), read.Reader{K: k}, &t, now)}
		case KindLot:
			l := noun.BlankLot()
			out = work.RowView{Fields: read.Views(read.LotFields, read.Reader{K: k}, &l, now)}
			for i := range out.Fields {
				if out.Fields[i].Name == "massG" {
					out.Fields[i].Text = ""
				}
			}
		case KindCommission:
			c := noun.BlankCommission()
			out = work.RowView{Fields: read.Views(read.CommissionFields, read.Reader{K: k}, &c, now)}
		default:
			b, err := plan.Gather(tx, k, now, nil, nil)
			if err != nil {
				return err
			}
			p := noun.BlankPiece()
			out = work.RowView{Fields: b.PieceViews(&p)}
		}
		out.Says = []string{}
		return nil
	})
	return out, err
}

// Create makes a row of the texts of a form. parent is the commission of a
// piece.
func (s *Service) Create(ctx context.Context, slug string, kind Kind, parent int64, set map[string]string) (id int64, err error) {
	return s.Act(ctx, slug, func(a *journal.Acting) error {
		switch kind {
		case KindTool:
			t, err := blankTool(set["kind"])
			if err != nil {
				return err
			}
			err = journal.Create(a, &journal.Tools, a.House, a.Now, &t, set)
			a.Say(0, "put %s into the tool drawer", t.Name)
			return err
		case KindLot:
			l := noun.BlankLot()
			err := journal.Create(a, &journal.Lots, a.House, a.Now, &l, set)
			a.Say(0, "put %s into the pantry", l.Name)
			return err
		case KindCommission:
			c := noun.BlankCommission()
			err := journal.Create(a, &journal.Commissions, a.House, a.Now, &c, set)
			a.Say(c.ID, "took the order %s", c.Title)
			return err
		}
		if _, err := a.Commission(parent); err != nil {
			return err
		}
		ps, err := a.Pieces(parent)
		if err != nil {
			return err
		}
		p := noun.BlankPiece()
		p.CommissionID, p.Position = parent, nextPosition(ps)
		err = journal.Create(a, &journal.Pieces, a.House, a.Now, &p, set)
		a.Say(parent, "put %d %s on the list", p.Wanted, p.Name)
		return err
	}, nil)
}

// firstKind of tool is what a drawer begins with.
const firstKind = "cavityMould"

func blankTool(kind string) (noun.Tool, error) {
	if kind == "" {
		kind = firstKind
	}
	if !slices.ContainsFunc(read.KindOptions(), func(o read.Option) bool { return o.Code == kind }) {
		return noun.Tool{}, fault.New(fault.UnknownValue, "kind", "Choose one of: %s.", read.List(read.Says(read.KindOptions())))
	}
	return noun.BlankTool(kind), nil
}

func nextPosition(ps []noun.Piece) int {
	n := 0
	for _, p := range ps {
		n = max(n, p.Position)
	}
	return n + 1
}

// named rows tell what they are called, and in which commission.
func rowName(row any) (name string, commission int64) {
	switch x := row.(type) {
	case *noun.Tool:
		return x.Name, 0
	case *noun.Lot:
		return x.Name, 0
	case *noun.OwnWay:
		return x.Definition.Names.UK, 0
	case *noun.Commission:
		return x.Title, x.ID
	case *noun.Piece:
		return x.Name, x.CommissionID
	}
	return "Kitchen", 0
}

func changeRow[T any](a *journal.Acting, n *journal.RowKind[T], id int64, in journal.ChangeIn) error {
	was, is, err := journal.Change(a, n, a.House, a.Now, id, in)
	name, commission := rowName(&was)
	a.Say(commission, "changed %s: %s", name, journal.ChangesSay(a, n, read.Reader{K: a.House}, &was, &is, in.Set, a.Now))
	return err
}

func buryRow[T any](a *journal.Acting, n *journal.RowKind[T], id int64, back bool) error {
	row, err := n.Get(a, id)
	if err != nil {
		return err
	}
	name, commission := rowName(&row)
	if back {
		a.Say(commission, "brought %s back", name)
		if n.Check != nil {
			if err := n.Check(a, &row); err != nil {
				return err
			}
		}
	} else {
		a.Say(commission, "took %s away", name)
		if n.MayGo != nil {
			if err := n.MayGo(a, id); err != nil {
				return err
			}
		}
	}
	return journal.Bury(a, n, a.Now, &row, back)
}

// Change changes a row.
func (s *Service) Change(ctx context.Context, slug string, kind Kind, id int64, in journal.ChangeIn) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		switch kind {
		case KindTool:
			return changeRow(a, &journal.Tools, id, in)
		case KindLot:
			return changeRow(a, &journal.Lots, id, in)
		case KindWay:
			return changeRow(a, &journal.OwnWays, id, in)
		case KindCommission:
			return changeRow(a, &journal.Commissions, id, in)
		}
		return changeRow(a, &journal.Pieces, id, in)
	}, nil)
	return err
}

// Delete takes a row away (it can come back), or brings it back.
func (s *Service) Delete(ctx context.Context, slug string, kind Kind, id int64, back bool) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		switch kind {
		case KindTool:
			return buryRow(a, &journal.Tools, id, back)
		case KindLot:
			return buryRow(a, &journal.Lots, id, back)
		case KindWay:
			return buryRow(a, &journal.OwnWays, id, back)
		case KindCommission:
			if err := buryRow(a, &journal.Commissions, id, back); err != nil || back {
				return err
			}
			return dropPlanned(a, id)
		}
		return buryRow(a, &journal.Pieces, id, back)
	}, nil)
	return err
}

// Duplicate copies a piece below itself.
func (s *Service) Duplicate(ctx context.Context, slug string, id int64) (out int64, err error) {
	return s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := a.Piece(id)
		if err != nil {
			return err
		}
		a.Say(p.CommissionID, "copied %s", p.Name)
		if err := a.MakeRoom(p.CommissionID, p.Position+1); err != nil {
			return err
		}
		p.ID, p.Version, p.Extras = 0, 1, []int{}
		p.Position++
		p.Name = strings.TrimSuffix(p.Name, " (copy)") + " (copy)"
		return a.CreatePiece(&p)
	}, nil)
}

// Move puts a piece one place up or down among its commission's.
func (s *Service) Move(ctx context.Context, slug string, id int64, up bool) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := a.Piece(id)
		if err != nil {
			return err
		}
		all, err := a.Pieces(p.CommissionID)
		if err != nil {
			return err
		}
		ps := slices.DeleteFunc(all, func(o noun.Piece) bool { return o.DeletedAt != nil })
		i := slices.IndexFunc(ps, func(o noun.Piece) bool { return o.ID == id })
		j, way := i+1, "down"
		if up {
			j, way = i-1, "up"
		}
		if i < 0 || j < 0 || j >= len(ps) {
			return nil
		}
		a.Say(p.CommissionID, "moved %s %s", p.Name, way)
		ps[i].Position, ps[j].Position = ps[j].Position, ps[i].Position
		if ps[i].Position == ps[j].Position {
			ps[i].Position += map[bool]int{true: -1, false: 1}[up]
		}
		if err := a.SavePiece(&ps[i]); err != nil {
			return err
		}
		return a.SavePiece(&ps[j])
	}, nil)
	return err
}

// SetState puts a commission aside, opens it again or hands it over.
func (s *Service) SetState(ctx context.Context, slug string, id int64, state string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		c, err := a.Commission(id)
		if err != nil {
			return err
		}
		if c.State == state {
			return nil
		}
		a.Say(id, map[string]string{"open": "opened %s again", "aside": "put %s aside", "handedOver": "handed %s over"}[state], c.Title)
		c.State = state
		if err := a.SaveCommission(&c); err != nil || state == "open" {
			return err
		}
		return dropPlanned(a, id)
	}, nil)
	return err
}

// dropPlanned takes what is only planned of a commission off the line at once:
// what lies aside or is handed over is planned no longer.
func dropPlanned(a *journal.Acting, commission int64) error {
	steps, err := a.Steps(commission)
	if err != nil {
		return err
	}
	return a.ReplaceSteps(unbegun(work.Derived(steps, a.Now)), nil)
}

// unbegun names the steps that are only planned.
func unbegun(steps []noun.Step) (ops []string) {
	for _, st := range steps {
		if st.ActualStart == nil {
			ops = append(ops, st.Op)
		}
	}
	return ops
}
