package store

import (
	"fmt"
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
	row, err := take(t.db.Where("id = ?", t.kitchen.ID), func(r *kitchenRow) noun.Kitchen { return r.Kitchen })
	if err == nil {
		*t.kitchen = row
	}
	return err
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

func wayOf(r *wayRow) noun.OwnWay { return r.OwnWay }

func (t *tx) OwnWays() ([]noun.OwnWay, error) {
	return list(t.db.Where("deleted_at IS NULL").Order("id"), wayOf)
}

func (t *tx) OwnWay(id int64) (noun.OwnWay, error) { return take(t.db.Where("id = ?", id), wayOf) }

func (t *tx) CreateWay(x *noun.OwnWay) error {
	x.Definition.Version = int(x.Version)
	r := wayRow{*x}
	err := t.db.Create(&r).Error
	*x = r.OwnWay
	t.library = nil
	return err
}

// SaveWay keeps a way of one's own; the version of its data is that of its row.
func (t *tx) SaveWay(x *noun.OwnWay) error {
	r := wayRow{*x}
	next := *x.Definition
	next.Version = int(x.Version) + 1
	r.Definition = &next
	err := save(t.db, &r, x.ID, &r.Version)
	*x = r.OwnWay
	t.library = nil
	return err
}

// PieceMadeAs finds a piece of an order that is not handed over and is made in a way.
func (t *tx) PieceMadeAs(key string) (noun.Piece, error) {
	return take(t.db.Where("deleted_at IS NULL AND technique = ? AND EXISTS (SELECT FROM commissions c WHERE c.id = commission_id AND c.state <> 'handedOver' AND c.deleted_at IS NULL)", key).Limit(1), pieceOf)
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

// save writes a row over the version it was read at. Select("*") writes zero
// values as well.
func save(db *gorm.DB, row any, id int64, version *int64) error {
	was := *version
	*version = was + 1
	res := db.Model(row).Where("id = ? AND version = ?", id, was).Select("*").Omit("id").Updates(row)
	if res.Error != nil || res.RowsAffected == 0 {
		*version = was
		if res.Error != nil {
			return res.Error
		}
		return journal.ErrStale
	}
	return nil
}

func (t *tx) SaveKitchen(k *noun.Kitchen) error {
	row := kitchenRow{*k}
	if err := save(t.db, &row, k.ID, &row.Version); err != nil {
		return err
	}
	*k = row.Kitchen
	t.kitchen = k
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

func commissionOf(r *commissionRow) noun.Commission { return r.Commission }
func pieceOf(r *pieceRow) noun.Piece                { return r.Piece }
func toolOf(r *toolRow) noun.Tool                   { return r.Tool }
func lotOf(r *lotRow) noun.Lot                      { return r.Lot }

// openOnes holds of what belongs to open commissions. It is an array and no join:
// found once by their own index, and then each of them by that of what belongs to
// it, whatever PostgreSQL believes of how many there are.
const openOnes = "commission_id = ANY (ARRAY(SELECT id FROM commissions WHERE state = 'open' AND deleted_at IS NULL))"

func (t *tx) OpenCommissions() ([]noun.Commission, error) {
	return list(t.db.Where("state = 'open' AND deleted_at IS NULL").Order("id"), commissionOf)
}

func (t *tx) ClosedCommissions(skip, most int) ([]noun.Commission, error) {
	return list(t.db.Where("state <> 'open' AND deleted_at IS NULL").Order("state, hand_over DESC NULLS LAST, id DESC").Offset(skip).Limit(most), commissionOf)
}

func (t *tx) AllCommissions() ([]noun.Commission, error) {
	return list(t.db.Order("id"), commissionOf)
}

func (t *tx) Commission(id int64) (noun.Commission, error) {
	return take(t.db.Where("id = ?", id), commissionOf)
}

func (t *tx) CreateCommission(c *noun.Commission) error {
	one := []noun.Commission{*c}
	err := t.CreateCommissions(one)
	*c = one[0]
	return err
}

func (t *tx) CreateCommissions(cs []noun.Commission) error {
	return createAll(t.db, cs, func(c noun.Commission) commissionRow { return commissionRow{c} }, func(c *noun.Commission, r *commissionRow) { *c = r.Commission })
}

func (t *tx) SaveCommission(c *noun.Commission) error {
	r := commissionRow{*c}
	err := save(t.db, &r, c.ID, &r.Version)
	*c = r.Commission
	return err
}

func (t *tx) Pieces(commission int64) ([]noun.Piece, error) {
	return list(t.db.Where("commission_id = ?", commission).Order("position, id"), pieceOf)
}

func (t *tx) OpenPieces() ([]noun.Piece, error) {
	return list(t.db.Where("deleted_at IS NULL AND "+openOnes).Order("commission_id, position, id"), pieceOf)
}

func (t *tx) Leaves(commissions []int64) ([]noun.Piece, error) {
	db := t.db.Select("id, commission_id, name, swatch").Where("deleted_at IS NULL").Order("commission_id, position, id")
	if commissions == nil {
		return list(db.Where(openOnes), pieceOf)
	}
	return list(db.Where("commission_id IN ?", commissions), pieceOf)
}

func (t *tx) PiecesOf(commissions []int64) ([]noun.Piece, error) {
	return list(t.db.Where("commission_id IN ?", commissions).Order("commission_id, position, id"), pieceOf)
}

func (t *tx) Piece(id int64) (noun.Piece, error) {
	return take(t.db.Where("id = ?", id), pieceOf)
}

// PieceUsing finds a piece that still wants a tool: of a commission that is
// not handed over.
func (t *tx) PieceUsing(tool int64) (noun.Piece, error) {
	return take(t.db.Where(`deleted_at IS NULL AND (tool_id = ? OR EXISTS (SELECT FROM jsonb_each_text(tools) x WHERE x.value = ?))
		AND EXISTS (SELECT FROM commissions c WHERE c.id = commission_id AND c.state <> 'handedOver' AND c.deleted_at IS NULL)`, tool, fmt.Sprint(tool)).Limit(1), pieceOf)
}

func (t *tx) CreatePiece(p *noun.Piece) error {
	one := []noun.Piece{*p}
	err := t.CreatePieces(one)
	*p = one[0]
	return err
}

func (t *tx) CreatePieces(ps []noun.Piece) error {
	return createAll(t.db, ps, func(p noun.Piece) pieceRow { return pieceRow{p} }, func(p *noun.Piece, r *pieceRow) { *p = r.Piece })
}

func (t *tx) SavePiece(p *noun.Piece) error {
	r := pieceRow{*p}
	err := save(t.db, &r, p.ID, &r.Version)
	*p = r.Piece
	return err
}

// MakeRoom moves the pieces from a place on one place down; their versions stay:
// a place is nothing that two windows change at once.
func (t *tx) MakeRoom(commission int64, from int) error {
	return t.db.Exec("UPDATE pieces SET position = position + 1 WHERE commission_id = ? AND position >= ?", commission, from).Error
}

func (t *tx) Tools() ([]noun.Tool, error) {
	return list(t.db.Where("deleted_at IS NULL").Order("name, id"), toolOf)
}

func (t *tx) ToolsOf(ids []int64) ([]noun.Tool, error) {
	return list(t.db.Where("id IN ?", ids), toolOf)
}

func (t *tx) Tool(id int64) (noun.Tool, error) { return take(t.db.Where("id = ?", id), toolOf) }

func (t *tx) CreateTool(x *noun.Tool) error {
	one := []noun.Tool{*x}
	err := t.CreateTools(one)
	*x = one[0]
	return err
}

func (t *tx) CreateTools(xs []noun.Tool) error {
	return createAll(t.db, xs, func(x noun.Tool) toolRow { return toolRow{x} }, func(x *noun.Tool, r *toolRow) { *x = r.Tool })
}

func (t *tx) SaveTool(x *noun.Tool) error {
	r := toolRow{*x}
	err := save(t.db, &r, x.ID, &r.Version)
	*x = r.Tool
	return err
}

func (t *tx) Lots() ([]noun.Lot, error) {
	return list(t.db.Where("deleted_at IS NULL").Order("id"), lotOf)
}

func (t *tx) LotsOf(ids []int64) ([]noun.Lot, error) {
	return list(t.db.Where("id IN ?", ids), lotOf)
}

func (t *tx) LotsCalled(name string) ([]noun.Lot, error) {
	return list(t.db.Where("deleted_at IS NULL AND name = ?", name).Order("id"), lotOf)
}

func (t *tx) Lot(id int64) (noun.Lot, error) { return take(t.db.Where("id = ?", id), lotOf) }

func (t *tx) CreateLot(x *noun.Lot) error {
	one := []noun.Lot{*x}
	err := t.CreateLots(one)
	*x = one[0]
	return err
}

func (t *tx) CreateLots(xs []noun.Lot) error {
	return createAll(t.db, xs, func(x noun.Lot) lotRow { return lotRow{x} }, func(x *noun.Lot, r *lotRow) { *x = r.Lot })
}

func (t *tx) SaveLot(x *noun.Lot) error {
	r := lotRow{*x}
	err := save(t.db, &r, x.ID, &r.Version)
	*x = r.Lot
	return err
}

func (t *tx) Clear() error {
	for _, name := range strings.Fields("timers journal steps plans pieces commissions lots tools techniques") {
		if err := t.db.Exec("DELETE FROM " + name).Error; err != nil { // row-level security keeps to this studio
			return err
		}
	}
	return nil
}
