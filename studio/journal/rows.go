package journal

import (
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// RowKind is what a generic row of the studio needs to be changed.
type RowKind[T any] struct {
	fields func(tx Tx, row *T, set map[string]string) ([]*read.Field[T], error) // set: what is about to be said
	blank  func(tx Tx, parent int64, set map[string]string) (T, error)          // nil: it is made in a way of its own
	made   func(*T) string
	check  func(Tx, *T) error // what one field alone cannot tell
	mayGo  func(Tx, int64) error
}

var (
	Kitchens = RowKind[noun.Kitchen]{fields: always(read.KitchenFields)}
	Tools    = RowKind[noun.Tool]{fields: fieldsOfTool, blank: blankTool, check: checkCopies, mayGo: unused,
		made: func(t *noun.Tool) string { return "put " + t.Name + " into the tool drawer" }}
	OwnWays = RowKind[noun.OwnWay]{fields: fieldsOfWay, check: checkWay, mayGo: wayUnused}
	Racks   = RowKind[noun.Rack]{fields: always(read.RackFields), blank: blankOf(noun.BlankRack), made: func(r *noun.Rack) string { return "put up " + r.Name + " to dry in" }}
	Notes   = RowKind[noun.Note]{fields: always[noun.Note](nil)}
	Lots    = RowKind[noun.Lot]{fields: always(read.LotFields), blank: blankOf(noun.BlankLot),
		made: func(l *noun.Lot) string { return "put " + l.Name + " into the pantry" }}
	Commissions = RowKind[noun.Commission]{fields: fieldsOfCommission, blank: blankOf(noun.BlankCommission), check: checkDates,
		made: func(c *noun.Commission) string { return "took the order " + c.Title }}
	Pieces = RowKind[noun.Piece]{fields: fieldsOfPiece, blank: blankPiece, check: checkPiece, mayGo: noPart,
		made: func(p *noun.Piece) string { return fmt.Sprintf("put %d %s on the list", p.Wanted, p.Name) }}
)

// asNoun is a row as a noun; only nouns have a RowKind.
func asNoun[T any](row *T) noun.Noun { return any(row).(noun.Noun) }

func versionOf[T any](row *T) int64 {
	_, v := asNoun(row).Stamp()
	return *v
}

func nounOf[T any]() string { return asNoun(new(T)).Word() }

// Get reads a row, also one that was deleted; ErrNotFound when there is none.
func Get[T any](tx Tx, id int64) (row T, err error) {
	return row, tx.Take(asNoun(&row), id)
}

// CreateAll makes rows of one noun.
func CreateAll[T any](tx Tx, rows []T) error {
	all := make([]noun.Noun, len(rows))
	for i := range rows {
		all[i] = asNoun(&rows[i])
	}
	return tx.Create(all...)
}

// Check refuses what one field alone cannot tell.
func (n *RowKind[T]) Check(tx Tx, row *T) error {
	if n.check == nil || *asNoun(row).Gone() != nil {
		return nil
	}
	return n.check(tx, row)
}

func fieldsOfTool(_ Tx, t *noun.Tool, set map[string]string) ([]*read.Field[noun.Tool], error) {
	return read.ToolFields(t, set), nil
}

func checkCopies(_ Tx, t *noun.Tool) error {
	if t.Shape == "sheet" && t.Of("depthMM") > 12 {
		return fault.New(fault.OutOfRange, "depthMM", "A thin, flat piece is at most 12 mm deep: say flat back, solid.")
	}
	if t.Lent+t.Broken > t.Copies {
		return fault.New(fault.Contradiction, "lent", "Of %d copies no more than %d can be lent or broken.", t.Copies, t.Copies)
	}
	return nil
}

func fieldsOfWay(_ Tx, w *noun.OwnWay, _ map[string]string) ([]*read.Field[noun.OwnWay], error) {
	return read.WayFields(w.Definition), nil
}

func fieldsOfCommission(_ Tx, c *noun.Commission, _ map[string]string) ([]*read.Field[noun.Commission], error) {
	return slices.Concat(read.CommissionFieldsOf(c), read.LeavesFields), nil
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
	return slices.Concat(read.PieceFieldsOf(lib, t), read.PasteFields, read.EndingFields), nil
}

// MadeAs finds the way in which a piece is made; nil when it is not known yet.
func MadeAs(tx Tx, p *noun.Piece) (*technique.Technique, error) {
	lib, err := tx.Library()
	if err != nil {
		return nil, err
	}
	var tool *noun.Tool
	if p.ToolID != nil {
		t, err := Get[noun.Tool](tx, *p.ToolID)
		if err != nil && !errors.Is(err, ErrNotFound) {
			return nil, err
		}
		if err == nil {
			tool = &t
		}
	}
	return p.MadeAs(lib, tool), nil
}

// change applies a change to one row: other fields merge, the same field that
// somebody has changed since meets a Conflict.
func change[T any](a *Acting, n *RowKind[T], id int64, in ChangeIn) (was, row T, err error) {
	if row, err = Get[T](a, id); err != nil {
		return was, row, err
	}
	r := read.Reader{K: a.House}
	if v := versionOf(&row); in.Version != v {
		if in.Version > v || in.Version < 1 {
			return row, row, fault.New(fault.OutOfRange, "version", "The version is that of the row as it was read.")
		}
		clash, err := clashes(a, n, r, a.Now, id, &row, in)
		if err != nil {
			return row, row, err
		}
		if clash != nil {
			return row, row, clash
		}
	}
	was = row
	fields, err := n.fields(a, &row, in.Set)
	if err != nil {
		return was, was, err
	}
	if err = read.Apply(fields, r, &row, in.Set, a.Now); err != nil {
		return was, was, err
	}
	if reflect.DeepEqual(was, row) {
		return was, row, nil // what stands there already is no change that others could meet
	}
	if err := n.Check(a, &row); err != nil {
		return was, was, err
	}
	return was, row, a.Save(asNoun(&row))
}

// clashes compares a change with what became of the row since the version that
// it was made from: nil when they merge.
func clashes[T any](tx Tx, n *RowKind[T], r read.Reader, now time.Time, id int64, row *T, in ChangeIn) (*Conflict, error) {
	base, err := RowAt(tx, id, in.Version, row)
	if err != nil {
		return nil, err
	}
	fields, err := n.fields(tx, row, in.Set)
	if err != nil {
		return nil, err
	}
	clash := &Conflict{Yours: map[string]string{}, Theirs: map[string]string{}, Version: versionOf(row)}
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

// create makes a row of texts; what is not said keeps the starting value.
func create[T any](a *Acting, n *RowKind[T], row *T, set map[string]string) error {
	full := map[string]string{}
	for name, text := range set {
		full[name] = text
	}
	fields, err := n.fields(a, row, set)
	if err != nil {
		return err
	}
	for _, f := range fields { // what must be said is asked for, all the same
		if _, said := full[f.Name]; !said && f.Must && f.Text(read.Reader{K: a.House}, row, a.Now) == "" {
			full[f.Name] = ""
		}
	}
	if err := read.Apply(fields, read.Reader{K: a.House}, row, full, a.Now); err != nil {
		return err
	}
	if err := n.Check(a, row); err != nil {
		return err
	}
	return a.Create(asNoun(row))
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
