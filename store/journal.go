package store

import (
	"context"
	"database/sql/driver"
	"fmt"
	"strconv"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"dustyfern/studio/journal"
)

var doNothing = clause.OnConflict{DoNothing: true}

func entryOf(r *entryRow) journal.Entry { return r.Entry }

// textArray is a text[] of words without spaces, written only.
type textArray []string

func (a textArray) Value() (driver.Value, error) { return "{" + strings.Join(a, ",") + "}", nil }

// Scan forgets what was read: touches is asked for, never looked at.
func (a *textArray) Scan(any) error { return nil }

// AddEntry writes a line, with the names of the rows whose earlier states may be
// asked for.
func (t *tx) AddEntry(e *journal.Entry) error {
	one := []journal.Entry{*e}
	err := t.AddEntries(one)
	*e = one[0]
	return err
}

func touchesOf(e *journal.Entry) (out textArray) {
	for _, r := range e.Rows {
		if r.Merges() {
			out = append(out, touch(r.Noun, r.ID))
		}
	}
	return out
}

func touch(noun string, id int64) string { return fmt.Sprintf("%s:%d", noun, id) }

func (t *tx) AddEntries(es []journal.Entry) error {
	return createAll(t.db, es, func(e journal.Entry) entryRow { return entryRow{e, touchesOf(&e)} }, func(e *journal.Entry, r *entryRow) { *e = r.Entry })
}

func (t *tx) entry(q *gorm.DB) (journal.Entry, error) { return take(q, entryOf) }

func (t *tx) Entry(id int64) (journal.Entry, error) { return t.entry(t.db.Where("id = ?", id)) }

func (t *tx) EntryOf(act string) (journal.Entry, error) { return t.entry(t.db.Where("act = ?", act)) }

func (t *tx) Entries(commission, before int64, most int) ([]journal.Entry, error) {
	q := t.db.Order("id DESC").Limit(most)
	if commission != 0 {
		q = q.Where("commission_id = ?", commission)
	}
	if before != 0 {
		q = q.Where("id < ?", before)
	}
	return list(q, entryOf)
}

// EntriesSince are the lines, newest first, that changed a row after a version.
func (t *tx) EntriesSince(noun string, id, version int64) ([]journal.Entry, error) {
	all, err := list(t.db.Where("touches @> ARRAY[?]", touch(noun, id)).Order("id DESC").Limit(mostSince), entryOf)
	if err != nil {
		return nil, err
	}
	for i, e := range all {
		for _, r := range e.Rows {
			if r.Noun == noun && r.ID == id && r.To <= version {
				return all[:i], nil
			}
		}
	}
	return all, nil
}

// mostSince is how far back a change may have been made from and still merge.
const mostSince = 200

func (t *tx) LastEntry(which string) (journal.Entry, error) {
	q := t.db.Order("journal.id DESC").Limit(1).Where("NOT undone AND rows <> '[]'")
	switch which {
	case journal.UndoReturn: // with nothing done since
		q = q.Where("kind = 'back' AND id > coalesce((SELECT max(id) FROM journal WHERE kind = 'did'), 0)")
	case journal.UndoBench:
		q = q.Where("kind = 'did' AND bench AND (commission_id IS NULL OR EXISTS (SELECT FROM commissions c WHERE c.id = commission_id AND c.state = 'open' AND c.deleted_at IS NULL))")
	default:
		q = q.Where("kind = 'did'")
	}
	return t.entry(q)
}

func (t *tx) SetUndone(id int64, undone bool) error {
	return t.db.Exec("UPDATE journal SET undone = ? WHERE id = ?", undone, id).Error
}

// Prune forgets what the journal keeps no longer (docs/architecture.md), so many
// lines at once.
func (t *tx) Prune(bench, other time.Time, most int) (gone int64, err error) {
	res := t.db.Exec(`DELETE FROM journal WHERE id IN (SELECT j.id FROM journal j LEFT JOIN commissions c ON c.id = j.commission_id
		WHERE (j.bench AND j.at < ? AND (c.id IS NULL OR c.state <> 'open') OR j.at < ?)
		AND NOT EXISTS (SELECT FROM journal o WHERE o.undoes = j.id) ORDER BY j.id LIMIT ?)`, bench, other, most)
	if res.Error != nil || res.RowsAffected == 0 {
		return 0, res.Error
	}
	// photos that no tool and no note has, and none would have again by taking back: each list is read once
	err = t.db.Exec(`DELETE FROM photos WHERE id NOT IN (SELECT photo FROM tools WHERE photo IS NOT NULL) AND id NOT IN (SELECT photo FROM notes WHERE photo IS NOT NULL) AND id NOT IN (
		SELECT (r -> side ->> 'photo')::bigint FROM journal j, jsonb_array_elements(j.rows) r, unnest(ARRAY['before', 'after']) side
		WHERE r ->> 'noun' IN ('tool', 'note') AND r -> side ->> 'photo' IS NOT NULL)`).Error
	return res.RowsAffected, err
}

// Listen tells each studio in which something has changed, with its count of
// what was told, whichever copy of the program changed it. tell(0, 0) says that
// word may have been missed. It returns when ctx ends; a lost connection is made
// again.
func (s *Store) Listen(ctx context.Context, tell func(studio, told int64)) {
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
func (s *Store) listenOnce(ctx context.Context, tell func(studio, told int64)) (heard bool) {
	lent, err := s.pool.Acquire(ctx)
	if err != nil {
		return false
	}
	conn := lent.Hijack() // of our own: a pooled one would be given to others while it listens
	defer conn.Close(context.WithoutCancel(ctx))
	if _, err := conn.Exec(ctx, "LISTEN "+channel); err != nil {
		return false
	}
	tell(0, 0)
	for {
		n, err := conn.WaitForNotification(ctx)
		if err != nil {
			return true
		}
		id, told, _ := strings.Cut(n.Payload, " ")
		of, err1 := strconv.ParseInt(id, 10, 64)
		count, err2 := strconv.ParseInt(told, 10, 64)
		if err1 == nil && err2 == nil {
			tell(of, count)
		}
	}
}
