package journal

import (
	"errors"
	"reflect"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// RowKind is what a generic row of the studio needs to be changed.
type RowKind[T any] struct {
	name   string
	fields func(tx Tx, row *T, set map[string]string) ([]*read.Field[T], error) // set: what is about to be said
	Get    func(Tx, int64) (T, error)
	save   func(Tx, *T) error
	create func(Tx, *T) error
	id     func(*T) *int64
	ver    func(*T) *int64
	gone   func(*T) **time.Time
	Check  func(Tx, *T) error // what one field alone cannot tell
	MayGo  func(Tx, int64) error
}

var (
	Kitchens = RowKind[noun.Kitchen]{name: "kitchen", fields: always(read.KitchenFields),
		Get: func(tx Tx, _ int64) (noun.Kitchen, error) { return *tx.Kitchen(), nil }, save: Tx.SaveKitchen,
		id: func(k *noun.Kitchen) *int64 { return &k.ID }, ver: func(k *noun.Kitchen) *int64 { return &k.Version }, gone: func(*noun.Kitchen) **time.Time { return new(*time.Time) }}
	Tools = RowKind[noun.Tool]{name: "tool", fields: func(_ Tx, t *noun.Tool, set map[string]string) ([]*read.Field[noun.Tool], error) {
		return read.ToolFields(t, set), nil
	}, MayGo: unused, Get: Tx.Tool, save: Tx.SaveTool, create: Tx.CreateTool,
		id: func(t *noun.Tool) *int64 { return &t.ID }, ver: func(t *noun.Tool) *int64 { return &t.Version }, gone: func(t *noun.Tool) **time.Time { return &t.DeletedAt },
		Check: func(_ Tx, t *noun.Tool) error {
			if t.Shape == "sheet" && t.Of("depthMM") > 12 {
				return fault.New(fault.OutOfRange, "depthMM", "A thin, flat piece is at most 12 mm deep: say flat back, solid.")
			}
			if t.Lent+t.Broken > t.Copies {
				return fault.New(fault.Contradiction, "lent", "Of %d copies no more than %d can be lent or broken.", t.Copies, t.Copies)
			}
			return nil
		}}
	OwnWays = RowKind[noun.OwnWay]{name: "way", fields: func(_ Tx, w *noun.OwnWay, _ map[string]string) ([]*read.Field[noun.OwnWay], error) {
		return read.WayFields(w.Definition), nil
	}, Get: Tx.OwnWay, save: Tx.SaveWay, create: Tx.CreateWay, MayGo: wayUnused,
		id: func(w *noun.OwnWay) *int64 { return &w.ID }, ver: func(w *noun.OwnWay) *int64 { return &w.Version }, gone: func(w *noun.OwnWay) **time.Time { return &w.DeletedAt },
		Check: checkWay}
	Lots = RowKind[noun.Lot]{name: "lot", fields: always(read.LotFields), Get: Tx.Lot, save: Tx.SaveLot, create: Tx.CreateLot,
		id: func(l *noun.Lot) *int64 { return &l.ID }, ver: func(l *noun.Lot) *int64 { return &l.Version }, gone: func(l *noun.Lot) **time.Time { return &l.DeletedAt }}
	Commissions = RowKind[noun.Commission]{name: "commission", fields: func(_ Tx, c *noun.Commission, _ map[string]string) ([]*read.Field[noun.Commission], error) {
		return read.CommissionFieldsOf(c), nil
	}, Get: Tx.Commission, save: Tx.SaveCommission, create: Tx.CreateCommission,
		id: func(c *noun.Commission) *int64 { return &c.ID }, ver: func(c *noun.Commission) *int64 { return &c.Version }, gone: func(c *noun.Commission) **time.Time { return &c.DeletedAt },
		Check: func(_ Tx, c *noun.Commission) error {
			if c.CakeReady != nil && c.HandOver != nil && c.CakeReady.After(*c.HandOver) {
				return fault.New(fault.Contradiction, "cakeReady", "The cake is ready before it is handed over, not after.")
			}
			return nil
		}}
	Pieces = RowKind[noun.Piece]{name: "piece", fields: fieldsOfPiece, Get: Tx.Piece, save: Tx.SavePiece, create: Tx.CreatePiece,
		id: func(p *noun.Piece) *int64 { return &p.ID }, ver: func(p *noun.Piece) *int64 { return &p.Version }, gone: func(p *noun.Piece) **time.Time { return &p.DeletedAt },
		Check: checkPiece, MayGo: noPart}
)

// checkWay refuses a chain that does not hold together, with its place.
func checkWay(tx Tx, w *noun.OwnWay) error {
	if w.DeletedAt != nil {
		return nil
	}
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
	w, err := tx.OwnWay(id)
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
	p, err := tx.Piece(id)
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

func always[T any](fields []*read.Field[T]) func(Tx, *T, map[string]string) ([]*read.Field[T], error) {
	return func(Tx, *T, map[string]string) ([]*read.Field[T], error) { return fields, nil }
}

// fieldsOfPiece are those that its way of making has; set may say another tool or
// way.
func fieldsOfPiece(tx Tx, p *noun.Piece, set map[string]string) ([]*read.Field[noun.Piece], error) {
	next := *p
	for _, name := range []string{"tool", "technique", "dough"} {
		if text, said := set[name]; said {
			// what cannot be read is told by the field itself
			_ = read.Apply(slices.Concat(read.PieceFields, read.PasteFields), read.Reader{K: tx.Kitchen()}, &next, map[string]string{name: text}, time.Time{})
		}
	}
	t, err := MadeAs(tx, &next)
	if err != nil {
		return nil, err
	}
	lib, err := tx.Library()
	if err != nil {
		return nil, err
	}
	return slices.Concat(read.PieceFieldsOf(lib, t), read.PasteFields), nil
}

// MadeAs finds the way in which a piece is made; nil when it is not known yet.
func MadeAs(tx Tx, p *noun.Piece) (*technique.Technique, error) {
	lib, err := tx.Library()
	if err != nil {
		return nil, err
	}
	var tool *noun.Tool
	if p.ToolID != nil {
		t, err := tx.Tool(*p.ToolID)
		if err != nil && !errors.Is(err, ErrNotFound) {
			return nil, err
		}
		if err == nil {
			tool = &t
		}
	}
	return p.MadeAs(lib, tool), nil
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
	c, err := tx.Commission(p.CommissionID)
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
			m := meets(l.Allergens, &c)
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

// Change applies a change to one row: other fields merge, the same field that
// somebody has changed since meets a Conflict.
func Change[T any](tx Tx, n *RowKind[T], k *noun.Kitchen, now time.Time, id int64, in ChangeIn) (was, row T, err error) {
	if row, err = n.Get(tx, id); err != nil {
		return was, row, err
	}
	r := read.Reader{K: k}
	if v := *n.ver(&row); in.Version != v {
		if in.Version > v || in.Version < 1 {
			return row, row, fault.New(fault.OutOfRange, "version", "The version is that of the row as it was read.")
		}
		clash, err := clashes(tx, n, r, now, id, &row, in)
		if err != nil {
			return row, row, err
		}
		if clash != nil {
			return row, row, clash
		}
	}
	was = row
	fields, err := n.fields(tx, &row, in.Set)
	if err != nil {
		return was, was, err
	}
	if err = read.Apply(fields, r, &row, in.Set, now); err != nil {
		return was, was, err
	}
	if reflect.DeepEqual(was, row) {
		return was, row, nil // what stands there already is no change that others could meet
	}
	if n.Check != nil {
		if err := n.Check(tx, &row); err != nil {
			return was, was, err
		}
	}
	return was, row, n.save(tx, &row)
}

// clashes compares a change with what became of the row since the version that
// it was made from: nil when they merge.
func clashes[T any](tx Tx, n *RowKind[T], r read.Reader, now time.Time, id int64, row *T, in ChangeIn) (*Conflict, error) {
	base, err := rowAt(tx, n, id, in.Version, row)
	if err != nil {
		return nil, err
	}
	fields, err := n.fields(tx, row, in.Set)
	if err != nil {
		return nil, err
	}
	clash := &Conflict{Yours: map[string]string{}, Theirs: map[string]string{}, Version: *n.ver(row)}
	for _, f := range fields {
		text, ok := in.Set[f.Name]
		theirs := f.Text(r, row, now)
		if !ok || theirs == text || base != nil && f.Text(r, base, now) == theirs {
			continue
		}
		clash.Fields = append(clash.Fields, f.Name)
		clash.Yours[f.Name], clash.Theirs[f.Name] = text, theirs
	}
	if len(clash.Fields) == 0 {
		return nil, nil
	}
	slices.Sort(clash.Fields)
	return clash, nil
}

// Create makes a row of texts; what is not said keeps the starting value.
func Create[T any](tx Tx, n *RowKind[T], k *noun.Kitchen, now time.Time, row *T, set map[string]string) error {
	full := map[string]string{}
	for name, text := range set {
		full[name] = text
	}
	fields, err := n.fields(tx, row, set)
	if err != nil {
		return err
	}
	for _, f := range fields { // what must be said is asked for, all the same
		if _, said := full[f.Name]; !said && f.Must && f.Text(read.Reader{K: k}, row, now) == "" {
			full[f.Name] = ""
		}
	}
	if err := read.Apply(fields, read.Reader{K: k}, row, full, now); err != nil {
		return err
	}
	if n.Check != nil {
		if err := n.Check(tx, row); err != nil {
			return err
		}
	}
	return n.create(tx, row)
}

// Bury deletes a row so that it can come back, or brings it back.
func Bury[T any](tx Tx, n *RowKind[T], now time.Time, row *T, back bool) error {
	at := n.gone(row)
	if back == (*at == nil) {
		return nil // a repeat does nothing
	}
	if back {
		*at = nil
	} else {
		*at = &now
	}
	return n.save(tx, row)
}

// Conflict is a change that met another one on the same field: both states.
type Conflict struct {
	Fields  []string          // that both have changed
	Yours   map[string]string // as sent
	Theirs  map[string]string // as they stand now
	Version int64
}

func (c *Conflict) Error() string { return "changed meanwhile: " + strings.Join(c.Fields, ", ") }

// ChangeIn is what a window asks to change of a row: texts by field, and the
// version it was made from.
type ChangeIn struct {
	Version int64             `json:"version" doc:"version of the row that the change was made from"`
	Set     map[string]string `json:"set" doc:"texts by field, as typed"`
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

func meets(allergens []string, c *noun.Commission) []string {
	return caution.Meets(allergens, c.Allergies, c.NoGelatine)
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
	m, err := tx.Tool(id)
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
