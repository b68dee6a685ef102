package journal

import (
	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Kind is what is done alike to the rows of every noun.
type Kind interface {
	// Make makes a row of texts. parent is the commission of a piece.
	Make(a *Acting, parent int64, set map[string]string) error
	Change(a *Acting, id int64, in ChangeIn) error
	Bury(a *Acting, id int64, back bool) error // takes a row away, or brings it back
	revert(a *Acting, t *Touched) (since string, err error)
}

// Kinds by their word.
var Kinds = map[string]Kind{"kitchen": &Kitchens, "tool": &Tools, "way": &OwnWays, "lot": &Lots, "rack": &Racks, "note": &Notes, "commission": &Commissions, "piece": &Pieces}

// Make implements Kind.
func (n *RowKind[T]) Make(a *Acting, parent int64, set map[string]string) error {
	if n.blank == nil {
		return ErrNotFound
	}
	row, err := n.blank(a, parent, set)
	if err != nil {
		return err
	}
	if err := create(a, n, &row, set); err != nil {
		return err
	}
	_, commission := asNoun(&row).Called()
	a.Say(commission, "%s", n.made(&row))
	return nil
}

// Change implements Kind.
func (n *RowKind[T]) Change(a *Acting, id int64, in ChangeIn) error {
	was, is, err := change(a, n, id, in)
	name, commission := asNoun(&was).Called()
	a.Say(commission, "changed %s: %s", name, n.changes(a, &was, &is, in.Set))
	return err
}

// Bury implements Kind. A repeat does nothing.
func (n *RowKind[T]) Bury(a *Acting, id int64, back bool) error {
	row, err := Get[T](a, id)
	if err != nil {
		return err
	}
	name, commission := asNoun(&row).Called()
	at := asNoun(&row).Gone()
	if back == (*at == nil) {
		return nil
	}
	if back {
		*at = nil
		a.Say(commission, "brought %s back", name)
		if err := n.Check(a, &row); err != nil {
			return err
		}
	} else {
		*at = &a.Now
		a.Say(commission, "took %s away", name)
		if err := n.leave(a, id); err != nil {
			return err
		}
	}
	return a.Save(asNoun(&row))
}

// leave asks whether a row may go.
func (n *RowKind[T]) leave(tx Tx, id int64) error {
	if n.mayGo == nil {
		return nil
	}
	return n.mayGo(tx, id)
}

// revert puts one row back, through the guards of a change by hand.
func (n *RowKind[T]) revert(a *Acting, t *Touched) (since string, err error) {
	row, err := Get[T](a, t.ID)
	if err != nil {
		return "", err
	}
	was := *asNoun(&row).Gone()
	if t.made() {
		if used, err := a.usedSince(t); err != nil || used {
			return "all of it", err
		}
	}
	if since, err = putBack(&row, t, a.Now); err != nil || since != "" {
		return since, err
	}
	if is := *asNoun(&row).Gone(); is != nil && was == nil {
		if err := n.leave(a, t.ID); err != nil {
			return "", err
		}
	}
	if err := n.Check(a, &row); err != nil {
		return "", err
	}
	return "", a.Save(asNoun(&row))
}

func blankTool(_ Tx, _ int64, set map[string]string) (noun.Tool, error) {
	return BlankTool(set["kind"])
}

// firstKind of tool is what a drawer begins with.
const firstKind = "cavityMould"

// BlankTool is a new tool of a kind; "" for what most drawers begin with.
func BlankTool(kind string) (noun.Tool, error) {
	if kind == "" {
		kind = firstKind
	}
	for _, o := range read.KindOptions() {
		if o.Code == kind {
			return noun.BlankTool(kind), nil
		}
	}
	return noun.Tool{}, fault.New(fault.UnknownValue, "kind", "Choose one of: %s.", read.List(read.Says(read.KindOptions())))
}

func blankPiece(tx Tx, parent int64, _ map[string]string) (noun.Piece, error) {
	p := noun.BlankPiece()
	_, err := Get[noun.Commission](tx, parent)
	if err != nil {
		return p, err
	}
	ps, err := tx.Pieces(parent)
	p.CommissionID, p.Position = parent, NextPosition(ps)
	return p, err
}

// NextPosition is the place below all pieces.
func NextPosition(ps []noun.Piece) int {
	n := 0
	for _, p := range ps {
		n = max(n, p.Position)
	}
	return n + 1
}

// blankOf is a blank that follows from nothing.
func blankOf[T any](blank func() T) func(Tx, int64, map[string]string) (T, error) {
	return func(Tx, int64, map[string]string) (T, error) { return blank(), nil }
}
