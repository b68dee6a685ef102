package studio

import (
	"context"
	"maps"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
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
func (s *Service) Blank(ctx context.Context, slug string, kind Kind) (out RowView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		switch kind {
		case KindTool:
			t := blankTool()
			out = RowView{Fields: views(toolFields, reader{k}, &t, now)}
			for i := range out.Fields {
				if n := out.Fields[i].Name; n == "lengthMM" || n == "widthMM" || n == "depthMM" {
					out.Fields[i].Text = ""
				}
			}
		case KindLot:
			l := blankLot()
			out = RowView{Fields: views(lotFields, reader{k}, &l, now)}
			for i := range out.Fields {
				if out.Fields[i].Name == "massG" {
					out.Fields[i].Text = ""
				}
			}
		case KindCommission:
			c := blankCommission()
			out = RowView{Fields: views(commissionFields, reader{k}, &c, now)}
		default:
			b, err := s.bench(tx, k, now)
			if err != nil {
				return err
			}
			p := blankPiece()
			out = RowView{Fields: b.pieceViews(&p)}
		}
		out.Says = []string{}
		return nil
	})
	return out, err
}

func blankTool() Tool {
	return Tool{Version: 1, Make: "cavity", Shape: "block", Cavities: 1, Copies: 1}
}
func blankLot() Lot { return Lot{Version: 1, Kind: "sugarPaste", Allergens: []string{}} }
func blankCommission() Commission {
	return Commission{Version: 1, Carrier: "tiers", Tiers: []Tier{}, Allergies: []string{}, State: "open"}
}
func blankPiece() Piece {
	return Piece{Version: 1, Wanted: 12, Swatch: "#5F8A4A", Eaten: "nibbled", Stance: "lying", Joined: "dry", Support: "foam"}
}

// Create makes a row of the texts of a form. parent is the commission of a
// piece.
func (s *Service) Create(ctx context.Context, slug string, kind Kind, parent int64, set map[string]string) (id int64, err error) {
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		switch kind {
		case KindTool:
			t := blankTool()
			full := map[string]string{"lengthMM": "", "widthMM": "", "depthMM": ""} // a mould has no size to start with
			maps.Copy(full, set)
			if err := create(tx, &tools, k, now, &t, full); err != nil {
				return err
			}
			id = t.ID
		case KindLot:
			l := blankLot()
			if err := create(tx, &lots, k, now, &l, set); err != nil {
				return err
			}
			id = l.ID
		case KindCommission:
			c := blankCommission()
			if err := create(tx, &commissions, k, now, &c, set); err != nil {
				return err
			}
			id = c.ID
		case KindPiece:
			if _, err := tx.Commission(parent); err != nil {
				return err
			}
			ps, err := tx.Pieces(parent)
			if err != nil {
				return err
			}
			p := blankPiece()
			p.CommissionID, p.Position = parent, nextPosition(ps)
			if err := create(tx, &pieces, k, now, &p, set); err != nil {
				return err
			}
			id = p.ID
		}
		return s.replan(tx, k, now)
	})
	return id, err
}

func nextPosition(ps []Piece) int {
	n := 0
	for _, p := range ps {
		n = max(n, p.Position)
	}
	return n + 1
}

// Change changes a row; Delete takes it away and Restore brings it back.
func (s *Service) Change(ctx context.Context, slug string, kind Kind, id int64, in ChangeIn) error {
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		var err error
		switch kind {
		case KindTool:
			err = change(tx, &tools, k, now, id, in)
		case KindLot:
			err = change(tx, &lots, k, now, id, in)
		case KindCommission:
			err = change(tx, &commissions, k, now, id, in)
		case KindPiece:
			err = change(tx, &pieces, k, now, id, in)
		}
		if err != nil {
			return err
		}
		return s.replan(tx, k, now)
	})
}

// Delete takes a row away (it can come back), or brings it back.
func (s *Service) Delete(ctx context.Context, slug string, kind Kind, id int64, back bool) error {
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		var err error
		switch kind {
		case KindTool:
			if !back {
				if err := unused(tx, id); err != nil {
					return err
				}
			}
			err = bury(tx, &tools, now, id, back)
		case KindLot:
			err = bury(tx, &lots, now, id, back)
		case KindCommission:
			err = bury(tx, &commissions, now, id, back)
		case KindPiece:
			err = bury(tx, &pieces, now, id, back)
		}
		if err != nil {
			return err
		}
		return s.replan(tx, k, now)
	})
}

// unused refuses to take away a mould that a piece still needs.
func unused(tx Tx, tool int64) error {
	ps, err := tx.Pieces(0)
	if err != nil {
		return err
	}
	for _, p := range ps {
		if p.MouldID != nil && *p.MouldID == tool && p.DeletedAt == nil {
			return fault.New(fault.Contradiction, "name", "%q is pressed in it: give that piece another mould first.", p.Name)
		}
	}
	return nil
}

// Duplicate copies a piece below itself.
func (s *Service) Duplicate(ctx context.Context, slug string, id int64) (out int64, err error) {
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		p, err := tx.Piece(id)
		if err != nil {
			return err
		}
		ps, err := tx.Pieces(p.CommissionID)
		if err != nil {
			return err
		}
		for _, o := range ps {
			if o.Position > p.Position {
				o.Position++
				if err := tx.SavePiece(&o); err != nil {
					return err
				}
			}
		}
		p.ID, p.Version = 0, 1
		p.Position++
		p.Name = strings.TrimSuffix(p.Name, " (copy)") + " (copy)"
		if err := tx.CreatePiece(&p); err != nil {
			return err
		}
		out = p.ID
		return s.replan(tx, k, now)
	})
	return out, err
}

// Move puts a piece one place up or down among its commission's.
func (s *Service) Move(ctx context.Context, slug string, id int64, up bool) error {
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		p, err := tx.Piece(id)
		if err != nil {
			return err
		}
		all, err := tx.Pieces(p.CommissionID)
		if err != nil {
			return err
		}
		var ps []Piece
		for _, o := range all {
			if o.DeletedAt == nil {
				ps = append(ps, o)
			}
		}
		i := slices.IndexFunc(ps, func(o Piece) bool { return o.ID == id })
		j := i + 1
		if up {
			j = i - 1
		}
		if i < 0 || j < 0 || j >= len(ps) {
			return nil
		}
		ps[i].Position, ps[j].Position = ps[j].Position, ps[i].Position
		if ps[i].Position == ps[j].Position {
			ps[i].Position += map[bool]int{true: -1, false: 1}[up]
		}
		if err := tx.SavePiece(&ps[i]); err != nil {
			return err
		}
		return tx.SavePiece(&ps[j])
	})
}

// SetState puts a commission aside, opens it again or hands it over.
func (s *Service) SetState(ctx context.Context, slug string, id int64, state string) error {
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		c, err := tx.Commission(id)
		if err != nil {
			return err
		}
		if c.State == state {
			return nil
		}
		c.State = state
		if err := tx.SaveCommission(&c); err != nil {
			return err
		}
		return s.replan(tx, k, now)
	})
}
