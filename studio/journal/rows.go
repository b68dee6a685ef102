package journal

import (
	"errors"
	"reflect"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// RowKind is what a generic row of the studio needs to be changed.
type RowKind[T any] struct {
	name   string
	fields []*read.Field[T]
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
	Kitchens = RowKind[noun.Kitchen]{name: "kitchen", fields: read.KitchenFields,
		Get: func(tx Tx, _ int64) (noun.Kitchen, error) { return *tx.Kitchen(), nil }, save: Tx.SaveKitchen,
		id: func(k *noun.Kitchen) *int64 { return &k.ID }, ver: func(k *noun.Kitchen) *int64 { return &k.Version }, gone: func(*noun.Kitchen) **time.Time { return new(*time.Time) }}
	Tools = RowKind[noun.Tool]{name: "tool", fields: read.ToolFields, MayGo: unused, Get: Tx.Tool, save: Tx.SaveTool, create: Tx.CreateTool,
		id: func(t *noun.Tool) *int64 { return &t.ID }, ver: func(t *noun.Tool) *int64 { return &t.Version }, gone: func(t *noun.Tool) **time.Time { return &t.DeletedAt },
		Check: func(_ Tx, t *noun.Tool) error {
			if t.Shape == "sheet" && t.DepthMM > 12 {
				return fault.New(fault.OutOfRange, "depthMM", "A thin, flat piece is at most 12 mm deep: say flat back, solid.")
			}
			return nil
		}}
	Lots = RowKind[noun.Lot]{name: "lot", fields: read.LotFields, Get: Tx.Lot, save: Tx.SaveLot, create: Tx.CreateLot,
		id: func(l *noun.Lot) *int64 { return &l.ID }, ver: func(l *noun.Lot) *int64 { return &l.Version }, gone: func(l *noun.Lot) **time.Time { return &l.DeletedAt }}
	Commissions = RowKind[noun.Commission]{name: "commission", fields: read.CommissionFields, Get: Tx.Commission, save: Tx.SaveCommission, create: Tx.CreateCommission,
		id: func(c *noun.Commission) *int64 { return &c.ID }, ver: func(c *noun.Commission) *int64 { return &c.Version }, gone: func(c *noun.Commission) **time.Time { return &c.DeletedAt },
		Check: func(_ Tx, c *noun.Commission) error {
			if c.CakeReady != nil && c.HandOver != nil && c.CakeReady.After(*c.HandOver) {
				return fault.New(fault.Contradiction, "cakeReady", "The cake is ready before it is handed over, not after.")
			}
			return nil
		}}
	Pieces = RowKind[noun.Piece]{name: "piece", fields: slices.Concat(read.PieceFields, read.PasteFields), Get: Tx.Piece, save: Tx.SavePiece, create: Tx.CreatePiece,
		id: func(p *noun.Piece) *int64 { return &p.ID }, ver: func(p *noun.Piece) *int64 { return &p.Version }, gone: func(p *noun.Piece) **time.Time { return &p.DeletedAt },
		Check: checkPiece}
)

// checkPiece refuses what the pantry's labels and the table together forbid.
func checkPiece(tx Tx, p *noun.Piece) error {
	if p.MouldID != nil {
		switch m, err := tx.Tool(*p.MouldID); {
		case errors.Is(err, ErrNotFound):
			return fault.New(fault.UnknownValue, "mould", "That mould is not in the tool drawer.")
		case err != nil:
			return err
		case m.DeletedAt != nil:
			return fault.New(fault.Contradiction, "mould", "%s was taken out of the tool drawer: bring it back, or choose another mould.", m.Name)
		}
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
	if err = read.Apply(n.fields, r, &row, in.Set, now); err != nil {
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
	clash := &Conflict{Yours: map[string]string{}, Theirs: map[string]string{}, Version: *n.ver(row)}
	for _, f := range n.fields {
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
	for _, f := range n.fields { // what must be said is asked for, all the same
		if _, said := full[f.Name]; !said && f.Must && f.Text(read.Reader{K: k}, row, now) == "" {
			full[f.Name] = ""
		}
	}
	if err := read.Apply(n.fields, read.Reader{K: k}, row, full, now); err != nil {
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

func meets(allergens []string, c *noun.Commission) []string {
	return caution.Meets(allergens, c.Allergies, c.NoGelatine)
}
