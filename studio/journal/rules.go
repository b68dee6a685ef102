package journal

import (
	"errors"
	"slices"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

func checkDates(_ Tx, c *noun.Commission) error {
	if c.CakeReady != nil && c.HandOver != nil && c.CakeReady.After(*c.HandOver) {
		return fault.New(fault.Contradiction, "cakeReady", "The cake is ready before it is handed over, not after.")
	}
	return nil
}

// checkWay refuses a chain that does not hold together, with its place.
func checkWay(tx Tx, w *noun.OwnWay) error {
	lib, err := tx.Library()
	if err != nil {
		return err
	}
	next, err := w.Definition.Copy()
	if err != nil {
		return err
	}
	if _, err := lib.With(next); err != nil {
		return fault.New(fault.Contradiction, "name", "The chain does not hold together: %v.", err)
	}
	return nil
}

// wayUnused refuses to take away a way of making that an order still needs.
func wayUnused(tx Tx, id int64) error {
	w, err := Get[noun.OwnWay](tx, id)
	if err != nil {
		return err
	}
	p, err := tx.PieceMadeAs(w.Key)
	if errors.Is(err, ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	return fault.New(fault.Contradiction, "name", "%q is made this way: say another way there first.", p.Name)
}

// noPart refuses to take away what is a part of another piece.
func noPart(tx Tx, id int64) error {
	p, err := Get[noun.Piece](tx, id)
	if err != nil {
		return err
	}
	all, err := tx.Pieces(p.CommissionID)
	if err != nil {
		return err
	}
	for i := range all {
		if o := &all[i]; o.DeletedAt == nil && o.ID != id && slices.ContainsFunc(o.Joins, func(j noun.Join) bool { return j.Part == id }) {
			return fault.New(fault.Contradiction, "name", "%s is a part of %s: take it off there first.", read.UpperFirst(p.Name), o.Name)
		}
	}
	return nil
}

// checkPiece refuses what the pantry's labels and the table together forbid.
func checkPiece(tx Tx, p *noun.Piece) error {
	if err := checkTools(tx, p); err != nil {
		return err
	}
	if err := checkJoins(tx, p); err != nil {
		return err
	}
	if p.Dough == "" {
		return nil
	}
	c, err := Get[noun.Commission](tx, p.CommissionID)
	if err != nil {
		return err
	}
	ls, err := tx.Lots()
	if err != nil {
		return err
	}
	var met []string
	for _, l := range ls {
		if l.Kind == p.Dough {
			m := c.Refuses(&l)
			if len(m) == 0 {
				return nil
			}
			met = m
		}
	}
	if len(met) > 0 {
		return fault.New(fault.Contradiction, "dough", "%s holds %s, and there is an allergy at the table.", read.UpperFirst(read.PasteName(p.Dough)), read.List(met))
	}
	return nil
}

// unused refuses to take away a tool that a piece still needs.
func unused(tx Tx, tool int64) error {
	p, err := tx.PieceUsing(tool)
	if errors.Is(err, ErrNotFound) {
		return nil
	}
	if err != nil {
		return err
	}
	return fault.New(fault.Contradiction, "name", "%q is made with it: give that piece another tool first.", p.Name)
}

// checkTools refuses tools that are not there, that are of no kind for their role,
// and a way of making that nobody knows.
func checkTools(tx Tx, p *noun.Piece) error {
	lib, err := tx.Library()
	if err != nil {
		return err
	}
	if p.Technique != "" && lib.Of(p.Technique) == nil {
		return fault.New(fault.UnknownValue, "technique", "No way of making is called %q here.", p.Technique)
	}
	t, err := MadeAs(tx, p)
	if err != nil {
		return err
	}
	if p.ToolID != nil {
		if err := checkTool(tx, lib, t, "tool", *p.ToolID, leadingRole(lib, t)); err != nil {
			return err
		}
	}
	for role, id := range p.Tools {
		var found *technique.Role
		if t != nil {
			for _, r := range lib.Roles(t) {
				if r.Role == role {
					found = &r
				}
			}
		}
		if err := checkTool(tx, lib, t, "tool."+role, id, found); err != nil {
			return err
		}
	}
	return nil
}

func leadingRole(lib *technique.Library, t *technique.Technique) *technique.Role {
	if t == nil {
		return nil
	}
	return lib.Leading(t)
}

func checkTool(tx Tx, lib *technique.Library, t *technique.Technique, field string, id int64, role *technique.Role) error {
	m, err := Get[noun.Tool](tx, id)
	switch {
	case errors.Is(err, ErrNotFound):
		return fault.New(fault.UnknownValue, field, "That tool is not in the tool drawer.")
	case err != nil:
		return err
	case m.DeletedAt != nil:
		return fault.New(fault.Contradiction, field, "%s was taken out of the tool drawer: bring it back, or choose another one.", m.Name)
	case t != nil && role == nil:
		return fault.New(fault.Contradiction, field, "%s is made by hand, without %s: say how it is made, or leave the tool out.", t.Names.UK, m.Name)
	case t != nil && !role.Takes(m.Kind):
		return fault.New(fault.Contradiction, field, "%s is no %s, which %s is made with: choose another tool, or another way of making.", m.Name, lib.Kind(role.Kind).Names.UK, read.LowerFirst(t.Names.UK))
	}
	return nil
}

// checkJoins refuses parts of another order, a part of itself, and a circle of
// parts.
func checkJoins(tx Tx, p *noun.Piece) error {
	if len(p.Joins) == 0 {
		return nil
	}
	all, err := tx.Pieces(p.CommissionID)
	if err != nil {
		return err
	}
	by := map[int64]*noun.Piece{p.ID: p}
	for i := range all {
		if all[i].ID != p.ID {
			by[all[i].ID] = &all[i]
		}
	}
	for _, j := range p.Joins {
		part := by[j.Part]
		if part == nil || part.DeletedAt != nil {
			return fault.New(fault.UnknownValue, "parts", "That part is not a piece of this order.")
		}
		if part.Holds(p.ID, by) || j.Part == p.ID {
			return fault.New(fault.Contradiction, "parts", "%s is made of %s: it cannot be a part of it as well.", read.UpperFirst(part.Name), p.Name)
		}
	}
	return nil
}
