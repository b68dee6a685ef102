package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strconv"
	"time"

	"gorm.io/gorm"

	"dustyfern/studio"
)

func (t *tx) AddEntry(e *studio.Entry) error {
	r := entryRow{*e}
	err := t.db.Create(&r).Error
	*e = r.Entry
	return err
}

func (t *tx) entry(q *gorm.DB) (studio.Entry, error) {
	var r entryRow
	err := q.Take(&r).Error
	return r.Entry, translate(err)
}

func (t *tx) Entry(id int64) (studio.Entry, error) { return t.entry(t.db.Where("id = ?", id)) }

func (t *tx) EntryOf(act string) (studio.Entry, error) { return t.entry(t.db.Where("act = ?", act)) }

func (t *tx) Entries(commission, before int64, most int) ([]studio.Entry, error) {
	q := t.db.Order("id DESC").Limit(most)
	if commission != 0 {
		q = q.Where("commission_id = ?", commission)
	}
	if before != 0 {
		q = q.Where("id < ?", before)
	}
	return list(q, func(r *entryRow) studio.Entry { return r.Entry })
}

func (t *tx) LastEntry(which string) (studio.Entry, error) {
	q := t.db.Order("journal.id DESC").Where("NOT undone AND rows <> '[]'")
	switch which {
	case studio.UndoReturn: // with nothing done since
		q = q.Where("kind = 'back' AND id > coalesce((SELECT max(id) FROM journal WHERE kind = 'did'), 0)")
	case studio.UndoBench:
		q = q.Where("kind = 'did' AND bench AND (commission_id IS NULL OR EXISTS (SELECT FROM commissions c WHERE c.id = commission_id AND c.state = 'open' AND c.deleted_at IS NULL))")
	default:
		q = q.Where("kind = 'did'")
	}
	return t.entry(q)
}

func (t *tx) SetUndone(id int64, undone bool) error {
	return t.db.Exec("UPDATE journal SET undone = ? WHERE id = ?", undone, id).Error
}

// RowAt finds the row in the journal: as an entry left it, or found it.
func (t *tx) RowAt(noun string, id, version int64) ([]byte, error) {
	var doc []byte
	for _, side := range [][2]string{{"to", "after"}, {"from", "before"}} {
		where := fmt.Sprintf(`[{"noun":%q,"id":%d,%q:%d}]`, noun, id, side[0], version)
		err := t.db.Raw(`SELECT r -> ? FROM journal, jsonb_array_elements(rows) r WHERE rows @> ?::jsonb AND r @> ?::jsonb ORDER BY journal.id DESC LIMIT 1`,
			side[1], where, where[1:len(where)-1]).Row().Scan(&doc)
		if errors.Is(err, sql.ErrNoRows) {
			continue
		}
		return doc, err
	}
	return nil, studio.ErrNotFound
}

func (t *tx) Clear() error {
	for _, name := range []string{"timers", "journal", "steps", "plans", "pieces", "commissions", "lots", "tools"} {
		if err := t.db.Exec("DELETE FROM " + name).Error; err != nil { // row-level security keeps to this studio
			return err
		}
	}
	t.commissions, t.pieces, t.steps, t.plan, t.planGot = nil, nil, nil, nil, false
	return nil
}

// channel is where changes are told: the payload is the studio's id.
const channel = "dustyfern"

func (t *tx) Tell() error {
	return t.db.Exec("SELECT pg_notify(?, ?)", channel, fmt.Sprint(t.kitchen.ID)).Error
}

func (t *tx) Timers() ([]studio.Timer, error) {
	return list(t.db.Where("answered_at IS NULL AND deleted_at IS NULL").Order("rings_at, id"), func(r *timerRow) studio.Timer { return r.Timer })
}

func (t *tx) Timer(id int64) (studio.Timer, error) {
	var r timerRow
	err := t.db.Where("id = ?", id).Take(&r).Error
	return r.Timer, translate(err)
}

func (t *tx) CreateTimer(x *studio.Timer) error {
	r := timerRow{*x}
	err := t.db.Create(&r).Error
	*x = r.Timer
	return err
}

func (t *tx) SaveTimer(x *studio.Timer) error {
	r := timerRow{*x}
	err := save(t.db, &r, x.ID, &r.Version)
	*x = r.Timer
	return err
}

// Listen tells each studio in which something has changed, whichever copy of
// the program changed it. tell(0) says that word may have been missed. It
// returns when ctx ends; a lost connection is made again.
func (s *Store) Listen(ctx context.Context, tell func(studio int64)) {
	for wait := 100 * time.Millisecond; ctx.Err() == nil; wait = min(2*wait, 2*time.Second) {
		if s.listenOnce(ctx, tell) {
			wait = 100 * time.Millisecond
		}
		select {
		case <-ctx.Done():
		case <-time.After(wait):
		}
	}
}

// listenOnce listens until the connection breaks; heard is false when there
// was none.
func (s *Store) listenOnce(ctx context.Context, tell func(studio int64)) (heard bool) {
	lent, err := s.pool.Acquire(ctx)
	if err != nil {
		return false
	}
	conn := lent.Hijack() // of our own: a pooled one would be given to others while it listens
	defer conn.Close(context.WithoutCancel(ctx))
	if _, err := conn.Exec(ctx, "LISTEN "+channel); err != nil {
		return false
	}
	tell(0)
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return true
		}
		if id, err := strconv.ParseInt(n.Payload, 10, 64); err == nil {
			tell(id)
		}
	}
}
