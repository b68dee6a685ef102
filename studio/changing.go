package studio

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/leaving"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/shelf"
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
	KindRack       Kind = "racks"
)

// Blank is a new row as a form: the starting values.
//
// of is the kind of tool; "" for what most drawers begin with.
func (s *Service) Blank(ctx context.Context, slug string, kind Kind, of string) (out work.RowView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		switch kind {
		case KindTool:
			t, err := journal.BlankTool(of)
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
		case KindRack:
			rack := noun.BlankRack()
			out = work.RowView{Fields: read.Views(read.RackFields, read.Reader{K: k}, &rack, now)}
		case KindCommission:
			c := noun.BlankCommission()
			out = work.RowView{Fields: read.Views(read.CommissionFields, read.Reader{K: k}, &c, now)}
		default:
			b, err := plan.Gather(tx, k, now, nil, nil)
			if err != nil {
				return err
			}
			p := noun.BlankPiece()
			out = work.RowView{Fields: b.PieceViews(nil, &p)}
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
		n := kind.of()
		if n == nil {
			return journal.ErrNotFound
		}
		return n.Make(a, parent, set)
	}, nil)
}

// of is what is done to rows of the kind; nil when there is none.
func (k Kind) of() journal.Kind { return journal.Kinds[strings.TrimSuffix(string(k), "s")] }

// Change changes a row.
func (s *Service) Change(ctx context.Context, slug string, kind Kind, id int64, in journal.ChangeIn) (err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		n := kind.of()
		if n == nil {
			return journal.ErrNotFound
		}
		was := noun.Rack{}
		if kind == KindRack {
			if was, err = journal.Get[noun.Rack](a, id); err != nil {
				return err
			}
		}
		if err := n.Change(a, id, in); err != nil {
			return err
		}
		if kind == KindRack {
			is, err := journal.Get[noun.Rack](a, id)
			if err != nil {
				return err
			}
			return shelf.RackMoved(a, &was, &is)
		}
		if _, weighed := in.Set["trial"]; weighed && kind == KindPiece {
			return teach(a, id)
		}
		return nil
	}, nil)
	return err
}

// TakeWayOut makes the change that a way out offers, as if its fields had been typed;
// one undo takes it back.
func (s *Service) TakeWayOut(ctx context.Context, slug string, w plan.WayOut) error {
	in := journal.ChangeIn{Version: w.Version, Set: w.Set}
	switch w.Kind {
	case "kitchen":
		_, err := s.ChangeKitchen(ctx, slug, in)
		return err
	case "tool":
		return s.Change(ctx, slug, KindTool, w.ID, in)
	case "piece":
		return s.Change(ctx, slug, KindPiece, w.ID, in)
	case "pin":
		return s.Pin(ctx, slug, w.Op, time.Time{})
	}
	return fault.New(fault.UnknownValue, "kind", "A way out changes the kitchen, a tool, a piece or a pin, not %q.", w.Kind)
}

// teach keeps the weight of a trial piece on its mould: the next order in it starts
// from that. An estimate teaches nothing, nor does another dough.
func teach(a *journal.Acting, id int64) error {
	p, err := journal.Get[noun.Piece](a, id)
	if err != nil || p.TrialG == nil || p.TrialEstimate || p.ToolID == nil || p.Dough != "" {
		return err
	}
	t, err := journal.Get[noun.Tool](a, *p.ToolID)
	if err != nil || t.DeletedAt != nil || !t.Presses() || t.WeighedG != nil && *t.WeighedG == *p.TrialG {
		return err
	}
	t.WeighedG = new(*p.TrialG)
	return a.Save(&t)
}

// Delete takes a row away (it can come back), or brings it back.
func (s *Service) Delete(ctx context.Context, slug string, kind Kind, id int64, back bool) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		n := kind.of()
		if n == nil {
			return journal.ErrNotFound
		}
		if err := n.Bury(a, id, back); err != nil || back || kind != KindCommission {
			return err
		}
		return dropPlanned(a, id)
	}, nil)
	return err
}

// Duplicate copies a piece below itself.
func (s *Service) Duplicate(ctx context.Context, slug string, id int64) (out int64, err error) {
	return s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
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
		return a.Create(&p)
	}, nil)
}

// Move puts a piece one place up or down among its commission's.
func (s *Service) Move(ctx context.Context, slug string, id int64, up bool) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
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
		if err := a.Save(&ps[i]); err != nil {
			return err
		}
		return a.Save(&ps[j])
	}, nil)
	return err
}

// SetState puts a commission aside, opens it again or hands it over. One of which
// something is left to do is asked for first, on the field anyway.
func (s *Service) SetState(ctx context.Context, slug string, id int64, state string, anyway bool) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		c, err := journal.Get[noun.Commission](a, id)
		if err != nil {
			return err
		}
		if c.State == state {
			return nil
		}
		if state == "handedOver" {
			if say, err := leaving.Open(a, id); err != nil || say != "" {
				if err == nil {
					err = fault.New(fault.Contradiction, "state", "It may not go yet: %s Hand over, stage 9, says how.", say)
				}
				return err
			}
		}
		if state == "handedOver" && !anyway {
			if say, err := leftToDo(a, id); err != nil || say != "" {
				if err == nil {
					err = fault.New(fault.Contradiction, "anyway", "%s Hand it over all the same?", say)
				}
				return err
			}
		}
		a.Say(id, map[string]string{"open": "opened %s again", "aside": "put %s aside", "handedOver": "handed %s over"}[state], c.Title)
		c.State = state
		if err := a.Save(&c); err != nil || state == "open" {
			return err
		}
		return dropPlanned(a, id)
	}, nil)
	return err
}

// leftToDo says what of a commission is not done: steps that are open, pieces that are
// not on the cake. "" when nothing is.
func leftToDo(a *journal.Acting, id int64) (string, error) {
	steps, err := a.Steps(id)
	if err != nil {
		return "", err
	}
	ps, err := a.Pieces(id)
	if err != nil {
		return "", err
	}
	open := 0
	for _, st := range steps {
		if st.Attended && st.ActualEnd == nil {
			open++
		}
	}
	var off []string
	needed := noun.Needed(ps)
	there := slices.DeleteFunc(slices.Clone(ps), func(p noun.Piece) bool { return p.DeletedAt != nil })
	for i, leaf := range frond(there, work.Derived(steps, a.House, a.Now), a.Now) {
		if p := &there[i]; needed[p.ID] > 0 && p.Wanted > 0 && leaf.State != "placed" {
			off = append(off, p.Name)
		}
	}
	var say []string
	if open > 0 {
		say = append(say, map[bool]string{true: "1 step is open", false: fmt.Sprintf("%d steps are open", open)}[open == 1])
	}
	if n := len(off); n > 0 {
		if n > mostNamed {
			off = append(off[:mostNamed-1:mostNamed-1], fmt.Sprintf("%d more", n-mostNamed+1))
		}
		say = append(say, read.List(off)+map[bool]string{true: " is", false: " are"}[n == 1]+" not on the cake")
	}
	if len(say) == 0 {
		return "", nil
	}
	return read.UpperFirst(strings.Join(say, ", and ")) + ".", nil
}

// dropPlanned takes what is only planned of a commission off the line at once:
// what lies aside or is handed over is planned no longer.
func dropPlanned(a *journal.Acting, commission int64) error {
	steps, err := a.Steps(commission)
	if err != nil {
		return err
	}
	return a.ReplaceSteps(unbegun(work.Derived(steps, a.House, a.Now)), nil)
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
