package store

import (
	"fmt"
	"reflect"
	"slices"
	"strings"

	"gorm.io/gorm"

	"dustyfern/craft/technique"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

type tx struct {
	db      *gorm.DB
	kitchen *noun.Kitchen
	store   *Store
	library *technique.Library // nil: not asked for yet
}

func (t *tx) Kitchen() *noun.Kitchen { return t.kitchen }

// lockSpace sets our advisory locks apart from anybody else's.
const lockSpace = 8017

// lock waits for its turn among all copies of the program, then reads the
// kitchen anew: it may have changed while we waited.
func (t *tx) lock() error {
	if err := t.db.Exec("SELECT pg_advisory_xact_lock(?, ?)", lockSpace, t.kitchen.ID).Error; err != nil {
		return err
	}
	row, err := first[noun.Kitchen](t.db.Where("id = ?", t.kitchen.ID))
	if err != nil {
		return err
	}
	*t.kitchen = row
	return t.lookAround()
}

// Library is ways of making: those that the store was opened with, and the studio's
// own.
func (t *tx) Library() (*technique.Library, error) {
	if t.library != nil {
		return t.library, nil
	}
	var own []struct{ ID, Version int64 }
	if err := t.db.Raw("SELECT id, version FROM techniques WHERE deleted_at IS NULL ORDER BY id").Scan(&own).Error; err != nil {
		return nil, err
	}
	if len(own) == 0 {
		t.library = t.store.Library
		return t.library, nil
	}
	key := fmt.Sprint(t.kitchen.ID, own)
	if l, ok := t.store.libraries.Load(key); ok {
		t.library = l.(*technique.Library)
		return t.library, nil
	}
	ways, err := t.OwnWays()
	if err != nil {
		return nil, err
	}
	var more []*technique.Technique
	for i := range ways {
		ways[i].Definition.From = originOf(ways, ways[i].FromKey)
		more = append(more, ways[i].Definition)
	}
	l, err := t.store.Library.With(more...)
	if err != nil {
		return nil, err
	}
	t.store.libraries.Clear() // of what was before
	t.store.libraries.Store(key, l)
	t.library = l
	return l, nil
}

// originOf follows copies of copies to the way of ours that they come from.
func originOf(ways []noun.OwnWay, key string) string {
	for range ways {
		i := slices.IndexFunc(ways, func(w noun.OwnWay) bool { return w.Key == key })
		if i < 0 {
			break
		}
		key = ways[i].FromKey
	}
	return key
}

func (t *tx) OwnWays() ([]noun.OwnWay, error) {
	return rows[noun.OwnWay](t.db.Where("deleted_at IS NULL").Order("id"))
}

// PieceMadeAs finds a piece of an order that is not handed over and is made in a way.
func (t *tx) PieceMadeAs(key string) (noun.Piece, error) {
	return first[noun.Piece](t.db.Where("deleted_at IS NULL AND technique = ? AND EXISTS (SELECT FROM commissions c WHERE c.id = commission_id AND c.state <> 'handedOver' AND c.deleted_at IS NULL)", key))
}

func (t *tx) Plan() (*noun.Plan, error) {
	rows, err := list(t.db.Limit(1), func(r *planRow) noun.Plan { return r.Plan })
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	return &rows[0], nil
}

func (t *tx) SavePlan(p *noun.Plan) error {
	if err := t.db.Exec("DELETE FROM plans").Error; err != nil {
		return err
	}
	return t.db.Create(&planRow{*p}).Error
}

func (t *tx) Pulse() (p journal.Pulse, err error) {
	return p, t.db.Raw("SELECT told, wanted, made FROM pulses").Scan(&p).Error
}

// WantPlan says that the plan must follow what this transaction does.
func (t *tx) WantPlan() error {
	return t.db.Exec("INSERT INTO pulses (told, wanted) VALUES (0, 1) ON CONFLICT (studio_id) DO UPDATE SET wanted = pulses.wanted + 1").Error
}

// PlanMade says from how much of what was wanted the plan is made.
func (t *tx) PlanMade(wanted int64) error {
	return t.db.Exec("INSERT INTO pulses (made) VALUES (?) ON CONFLICT (studio_id) DO UPDATE SET made = excluded.made", wanted).Error
}

// channel is where changes are told: the payload is the studio's id and its
// count of what was told.
const channel = "dustyfern"

func (t *tx) Tell() (told int64, err error) {
	var row struct{ Told int64 }
	err = t.db.Raw(`WITH p AS (INSERT INTO pulses (told) VALUES (1) ON CONFLICT (studio_id) DO UPDATE SET told = pulses.told + 1 RETURNING told)
		SELECT told, pg_notify(?, ? || ' ' || told) FROM p`, channel, fmt.Sprint(t.kitchen.ID)).Scan(&row).Error
	return row.Told, err
}

// tableOf is the table of a noun: its plural, but for two.
func tableOf(row noun.Noun) string {
	switch n := row.Word(); n {
	case "kitchen":
		return "studios"
	case "way":
		return "techniques"
	default:
		return n + "s"
	}
}

// rows are nouns of a query.
func rows[T any](db *gorm.DB) (out []T, err error) {
	return out, db.Table(tableOf(any(new(T)).(noun.Noun))).Find(&out).Error
}

// first is one noun of a query.
func first[T any](db *gorm.DB) (out T, err error) {
	return out, translate(db.Table(tableOf(any(new(T)).(noun.Noun))).Take(&out).Error)
}

func (t *tx) Take(row noun.Noun, id int64) error {
	return translate(t.db.Table(tableOf(row)).Where("id = ?", id).Take(row).Error)
}

// marked gives a way of one's own the version of its row; the library that was read
// is read again.
func (t *tx) marked(row noun.Noun) {
	if w, ok := row.(*noun.OwnWay); ok {
		d := *w.Definition
		d.Version = int(w.Version)
		w.Definition, t.library = &d, nil
	}
}

func (t *tx) Create(rows ...noun.Noun) error {
	if len(rows) == 0 {
		return nil
	}
	same := reflect.MakeSlice(reflect.SliceOf(reflect.TypeOf(rows[0])), 0, len(rows)) // one INSERT wants one type
	for _, row := range rows {
		t.marked(row)
		same = reflect.Append(same, reflect.ValueOf(row))
	}
	if err := t.db.Table(tableOf(rows[0])).CreateInBatches(same.Interface(), inBatches).Error; err != nil {
		return err
	}
	if _, ok := rows[0].(*noun.Rack); ok {
		return t.lookAround()
	}
	return nil
}

// Save writes a row over the version it was read at. Select("*") writes zero
// values as well.
func (t *tx) Save(row noun.Noun) error {
	id, version := row.Stamp()
	was := *version
	*version = was + 1
	t.marked(row)
	res := t.db.Table(tableOf(row)).Where("id = ? AND version = ?", *id, was).Select("*").Omit("id").Updates(row)
	if res.Error != nil || res.RowsAffected == 0 {
		*version = was
		if res.Error != nil {
			return res.Error
		}
		return journal.ErrStale
	}
	switch n := row.(type) {
	case *noun.Kitchen:
		n.Around = t.kitchen.Around
		t.kitchen = n
	case *noun.Rack:
		return t.lookAround()
	}
	return nil
}

func list[R, N any](db *gorm.DB, noun func(*R) N) ([]N, error) {
	var rows []R
	if err := db.Find(&rows).Error; err != nil {
		return nil, err
	}
	out := make([]N, len(rows))
	for i := range rows {
		out[i] = noun(&rows[i])
	}
	return out, nil
}

func take[R, N any](db *gorm.DB, noun func(*R) N) (N, error) {
	var r R
	err := db.Take(&r).Error
	return noun(&r), translate(err)
}

// inBatches is how many rows go into one INSERT.
const inBatches = 200

func createAll[R, N any](db *gorm.DB, nouns []N, row func(N) R, back func(*N, *R)) error {
	if len(nouns) == 0 {
		return nil
	}
	rows := make([]R, len(nouns))
	for i := range nouns {
		rows[i] = row(nouns[i])
	}
	if err := db.CreateInBatches(rows, inBatches).Error; err != nil {
		return err
	}
	for i := range nouns {
		back(&nouns[i], &rows[i])
	}
	return nil
}

// openOnes holds of what belongs to open commissions. It is an array and no join:
// found once by their own index, and then each of them by that of what belongs to
// it, whatever PostgreSQL believes of how many there are.
const openOnes = "commission_id = ANY (ARRAY(SELECT id FROM commissions WHERE state = 'open' AND deleted_at IS NULL))"

func (t *tx) OpenCommissions() ([]noun.Commission, error) {
	return rows[noun.Commission](t.db.Where("state = 'open' AND deleted_at IS NULL").Order("id"))
}

func (t *tx) ClosedCommissions(skip, most int) ([]noun.Commission, error) {
	return rows[noun.Commission](t.db.Where("state <> 'open' AND deleted_at IS NULL").Order("state, hand_over DESC NULLS LAST, id DESC").Offset(skip).Limit(most))
}

func (t *tx) AllCommissions() ([]noun.Commission, error) {
	return rows[noun.Commission](t.db.Order("id"))
}

func (t *tx) Pieces(commission int64) ([]noun.Piece, error) {
	return rows[noun.Piece](t.db.Where("commission_id = ?", commission).Order("position, id"))
}

func (t *tx) OpenPieces() ([]noun.Piece, error) {
	return rows[noun.Piece](t.db.Where("deleted_at IS NULL AND " + openOnes).Order("commission_id, position, id"))
}

func (t *tx) Leaves(commissions []int64) ([]noun.Piece, error) {
	db := t.db.Select("id, commission_id, name, swatch").Where("deleted_at IS NULL").Order("commission_id, position, id")
	if commissions == nil {
		return rows[noun.Piece](db.Where(openOnes))
	}
	return rows[noun.Piece](db.Where("commission_id IN ?", commissions))
}

func (t *tx) PiecesOf(commissions []int64) ([]noun.Piece, error) {
	return rows[noun.Piece](t.db.Where("commission_id IN ?", commissions).Order("commission_id, position, id"))
}

// PieceUsing finds a piece that still wants a tool: of a commission that is
// not handed over.
func (t *tx) PieceUsing(tool int64) (noun.Piece, error) {
	return first[noun.Piece](t.db.Where(`deleted_at IS NULL AND (tool_id = ? OR EXISTS (SELECT FROM jsonb_each_text(tools) x WHERE x.value = ?))
		AND EXISTS (SELECT FROM commissions c WHERE c.id = commission_id AND c.state <> 'handedOver' AND c.deleted_at IS NULL)`, tool, fmt.Sprint(tool)))
}

// MakeRoom moves the pieces from a place on one place down; their versions stay:
// a place is nothing that two windows change at once.
func (t *tx) MakeRoom(commission int64, from int) error {
	return t.db.Exec("UPDATE pieces SET position = position + 1 WHERE commission_id = ? AND position >= ?", commission, from).Error
}

func (t *tx) Tools() ([]noun.Tool, error) {
	return rows[noun.Tool](t.db.Where("deleted_at IS NULL").Order("name, id"))
}

func (t *tx) ToolFor(piece int64) (noun.Tool, error) {
	return first[noun.Tool](t.db.Where("deleted_at IS NULL AND id = (SELECT tool_id FROM pieces WHERE id = ?)", piece))
}

func (t *tx) Photo(id int64) ([]byte, error) {
	return take(t.db.Where("id = ?", id), func(r *photoRow) []byte { return r.JPEG })
}

func (t *tx) PhotoBytes() (n int64, err error) {
	return n, t.db.Raw("SELECT coalesce(sum(octet_length(p.jpeg)), 0) FROM photos p WHERE EXISTS (SELECT FROM tools t WHERE t.photo = p.id AND t.deleted_at IS NULL) OR EXISTS (SELECT FROM notes n WHERE n.photo = p.id AND n.deleted_at IS NULL)").Scan(&n).Error
}

func (t *tx) AddPhoto(jpeg []byte) (id int64, err error) {
	r := photoRow{JPEG: jpeg}
	err = t.db.Create(&r).Error
	return r.ID, err
}

func (t *tx) ToolsOf(ids []int64) ([]noun.Tool, error) {
	return rows[noun.Tool](t.db.Where("id IN ?", ids))
}

func (t *tx) Lots() ([]noun.Lot, error) {
	return rows[noun.Lot](t.db.Where("deleted_at IS NULL").Order("id"))
}

func (t *tx) LotsOf(ids []int64) ([]noun.Lot, error) {
	return rows[noun.Lot](t.db.Where("id IN ?", ids))
}

func (t *tx) LotsCalled(name string) ([]noun.Lot, error) {
	return rows[noun.Lot](t.db.Where("deleted_at IS NULL AND name = ?", name).Order("id"))
}

func (t *tx) Clear() error {
	for _, name := range strings.Fields("timers journal notes steps plans pieces commissions lots tools photos techniques racks readings reading_hours beliefs") {
		if err := t.db.Exec("DELETE FROM " + name).Error; err != nil { // row-level security keeps to this studio
			return err
		}
	}
	return nil
}

// finds are what has a name; the first of them what is open.
const finds = `
SELECT kind, name, of, id, parent FROM (
	SELECT 'commission' AS kind, title AS name, customer AS of, id, 0::bigint AS parent, (state <> 'open')::int AS closed FROM commissions WHERE deleted_at IS NULL
	UNION ALL SELECT 'piece', p.name, c.title, p.id, c.id, (c.state <> 'open')::int FROM pieces p JOIN commissions c ON c.id = p.commission_id WHERE p.deleted_at IS NULL AND c.deleted_at IS NULL
	UNION ALL SELECT 'lot', name, kept, id, 0, 0 FROM lots WHERE deleted_at IS NULL
	UNION ALL SELECT 'tool', name, '', id, 0, 0 FROM tools WHERE deleted_at IS NULL
) x WHERE true`

func (t *tx) Find(words []string, most int) (out []journal.Named, err error) {
	q, args := finds, []any{}
	for _, w := range words {
		q += " AND position(lower(?) in lower(name)) > 0"
		args = append(args, w)
	}
	q += " ORDER BY closed, (position(lower(?) in lower(name)) <> 1), kind, id DESC LIMIT ?"
	return out, t.db.Raw(q, append(args, words[0], most)...).Scan(&out).Error
}
