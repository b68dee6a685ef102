package studio

import (
	"context"
	"errors"
	"maps"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
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
)

// Blank is a new row as a form: the starting values.
func (s *Service) Blank(ctx context.Context, slug string, kind Kind) (out work.RowView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		switch kind {
		case KindTool:
			t := noun.BlankTool()
			out = work.RowView{Fields: read.Views(read.ToolFields, read.Reader{k}, &t, now)}
			for i := range out.Fields {
				if n := out.Fields[i].Name; n == "lengthMM" || n == "widthMM" || n == "depthMM" {
					out.Fields[i].Text = ""
				}
			}
		case KindLot:
			l := noun.BlankLot()
			out = work.RowView{Fields: read.Views(read.LotFields, read.Reader{k}, &l, now)}
			for i := range out.Fields {
				if out.Fields[i].Name == "massG" {
					out.Fields[i].Text = ""
				}
			}
		case KindCommission:
			c := noun.BlankCommission()
			out = work.RowView{Fields: read.Views(read.CommissionFields, read.Reader{k}, &c, now)}
		default:
			b, err := s.bench(tx, k, now, nil, nil)
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
	return s.act(ctx, slug, func(a *acting) error {
		switch kind {
		case KindTool:
			t := noun.BlankTool()
			full := map[string]string{"lengthMM": "", "widthMM": "", "depthMM": ""} // a mould has no size to start with
			maps.Copy(full, set)
			err := create(a, &tools, a.k, a.now, &t, full)
			a.say(0, "put %s into the tool drawer", t.Name)
			return err
		case KindLot:
			l := noun.BlankLot()
			err := create(a, &lots, a.k, a.now, &l, set)
			a.say(0, "put %s into the pantry", l.Name)
			return err
		case KindCommission:
			c := noun.BlankCommission()
			err := create(a, &commissions, a.k, a.now, &c, set)
			a.say(c.ID, "took the order %s", c.Title)
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
		err = create(a, &pieces, a.k, a.now, &p, set)
		a.say(parent, "put %d %s on the list", p.Wanted, p.Name)
		return err
	}, nil)
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
	case *noun.Commission:
		return x.Title, x.ID
	case *noun.Piece:
		return x.Name, x.CommissionID
	}
	return "Kitchen", 0
}

func changeRow[T any](a *acting, n *kind[T], id int64, in ChangeIn) error {
	was, is, err := change(a, n, a.k, a.now, id, in)
	name, commission := rowName(&was)
	a.say(commission, "changed %s: %s", name, changesSay(n, read.Reader{a.k}, &was, &is, in.Set, a.now))
	return err
}

func buryRow[T any](a *acting, n *kind[T], id int64, back bool) error {
	row, err := n.get(a, id)
	if err != nil {
		return err
	}
	name, commission := rowName(&row)
	if back {
		a.say(commission, "brought %s back", name)
		if n.check != nil {
			if err := n.check(a, &row); err != nil {
				return err
			}
		}
	} else {
		a.say(commission, "took %s away", name)
		if n.mayGo != nil {
			if err := n.mayGo(a, id); err != nil {
				return err
			}
		}
	}
	return bury(a, n, a.now, &row, back)
}

// Change changes a row.
func (s *Service) Change(ctx context.Context, slug string, kind Kind, id int64, in ChangeIn) error {
	_, err := s.act(ctx, slug, func(a *acting) error {
		switch kind {
		case KindTool:
			return changeRow(a, &tools, id, in)
		case KindLot:
			return changeRow(a, &lots, id, in)
		case KindCommission:
			return changeRow(a, &commissions, id, in)
		}
		return changeRow(a, &pieces, id, in)
	}, nil)
	return err
}

// Delete takes a row away (it can come back), or brings it back.
func (s *Service) Delete(ctx context.Context, slug string, kind Kind, id int64, back bool) error {
	_, err := s.act(ctx, slug, func(a *acting) error {
		switch kind {
		case KindTool:
			return buryRow(a, &tools, id, back)
		case KindLot:
			return buryRow(a, &lots, id, back)
		case KindCommission:
			if err := buryRow(a, &commissions, id, back); err != nil || back {
				return err
			}
			return a.dropPlanned(id)
		}
		return buryRow(a, &pieces, id, back)
	}, nil)
	return err
}

// unused refuses to take away a mould that a piece still needs.
func unused(tx Tx, tool int64) error {
	p, err := tx.PieceUsing(tool)
	if errors.Is(err, ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	return fault.New(fault.Contradiction, "name", "%q is pressed in it: give that piece another mould first.", p.Name)
}

// Duplicate copies a piece below itself.
func (s *Service) Duplicate(ctx context.Context, slug string, id int64) (out int64, err error) {
	return s.act(ctx, slug, func(a *acting) error {
		p, err := a.Piece(id)
		if err != nil {
			return err
		}
		a.say(p.CommissionID, "copied %s", p.Name)
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
	_, err := s.act(ctx, slug, func(a *acting) error {
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
		a.say(p.CommissionID, "moved %s %s", p.Name, way)
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
	_, err := s.act(ctx, slug, func(a *acting) error {
		c, err := a.Commission(id)
		if err != nil {
			return err
		}
		if c.State == state {
			return nil
		}
		a.say(id, map[string]string{"open": "opened %s again", "aside": "put %s aside", "handedOver": "handed %s over"}[state], c.Title)
		c.State = state
		if err := a.SaveCommission(&c); err != nil || state == "open" {
			return err
		}
		return a.dropPlanned(id)
	}, nil)
	return err
}

// dropPlanned takes what is only planned of a commission off the line at once:
// what lies aside or is handed over is planned no longer.
func (a *acting) dropPlanned(commission int64) error {
	steps, err := a.Steps(commission)
	if err != nil {
		return err
	}
	return a.ReplaceSteps(unbegun(Derived(steps, a.now)), nil)
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
