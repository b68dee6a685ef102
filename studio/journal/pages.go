package journal

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// EntryView is a line of the journal as people read it.
type EntryView struct {
	ID       int64  `json:"id"`
	When     string `json:"when"`
	Who      string `json:"who"`
	Says     string `json:"says"`
	Undone   bool   `json:"undone"`
	CanUndo  bool   `json:"canUndo"`
	IsReturn bool   `json:"isReturn" doc:"it took something back"`
}

// JournalView is the latest lines of the journal, newest first.
type JournalView struct {
	Entries []EntryView `json:"entries"`
	More    bool        `json:"more" doc:"there are older lines"`
	Undo    string      `json:"undo" doc:"what would be taken back next, in words"`
	UndoID  int64       `json:"undoId" doc:"the line of it"`
	Redo    string      `json:"redo" doc:"what would be done again next"`
	RedoID  int64       `json:"redoId"`
	Keeps   string      `json:"keeps" doc:"for how long lines are kept"`
}

const journalPage = 40

// What the journal keeps, and for how long: the rule that people read.
const (
	benchKept = 180 * 24 * time.Hour
	otherKept = 5 * 366 * 24 * time.Hour
	keepsSay  = "Lines of the bench are kept for half a year after they were written, while their order is open for longer; everything else for five years."
)

// pruneAtOnce bounds how long one write of Prune holds the studio.
const pruneAtOnce = 2000

// minutesKept is how long readings of the air are kept by the minute; by the hour they stay.
const minutesKept = 15 * 24 * time.Hour

// Prune forgets the lines of the journal that are kept no longer, and minutes of the air.
func (s *Desk) Prune(ctx context.Context, slug string) error {
	for {
		var gone int64
		err := s.Store.Write(ctx, slug, func(tx Tx) (err error) {
			now := s.Clock()
			if err := tx.ForgetMinutes(now.Add(-minutesKept)); err != nil {
				return err
			}
			gone, err = tx.Prune(now.Add(-benchKept), now.Add(-otherKept), pruneAtOnce)
			return err
		})
		if err != nil || gone < pruneAtOnce {
			return err
		}
	}
}

// Journal shows the lines of a commission (0: of the studio) before an entry (0:
// the newest).
func (s *Desk) Journal(ctx context.Context, slug string, commission, before int64) (out JournalView, err error) {
	err = s.In(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		es, err := tx.Entries(commission, before, journalPage+1)
		if err != nil {
			return err
		}
		out.More = len(es) > journalPage
		out.Entries = []EntryView{}
		for _, e := range es[:min(len(es), journalPage)] {
			out.Entries = append(out.Entries, EntryView{ID: e.ID, When: read.Reader{K: tx.Kitchen()}.Time(e.At, now), Who: e.Who, Says: e.Says, Undone: e.Undone, CanUndo: e.Kind == "did" && !e.Undone && len(e.Rows) > 0, IsReturn: e.Kind == "back"})
		}
		if e, err := tx.LastEntry(UndoAny); err == nil {
			out.Undo, out.UndoID = e.Says, e.ID
		} else if !errors.Is(err, ErrNotFound) {
			return err
		}
		if e, err := tx.LastEntry(UndoReturn); err == nil {
			out.Redo, out.RedoID = strings.TrimPrefix(e.Says, "took back: "), e.ID
		} else if !errors.Is(err, ErrNotFound) {
			return err
		}
		out.Keeps = keepsSay
		return nil
	})
	return out, err
}

// ShortText cuts a text for the journal.
func ShortText(s string) string {
	s = strings.Join(strings.Fields(s), " ")
	if r := []rune(s); len(r) > 60 {
		return string(r[:57]) + "..."
	}
	if s == "" {
		return "nothing"
	}
	return s
}

// changes puts a change of fields into words.
func (n *RowKind[T]) changes(a *Acting, was, is *T, set map[string]string) string {
	r := read.Reader{K: a.House}
	fields, err := n.fields(a, is, set)
	if err != nil {
		return ""
	}
	var out []string
	for _, f := range fields {
		if _, ok := set[f.Name]; !ok {
			continue
		}
		if from, to := f.Text(r, was, a.Now), f.Text(r, is, a.Now); from != to {
			label := f.Label
			if label == "" {
				label = plainName(f.Name)
			}
			out = append(out, fmt.Sprintf("%s from %s to %s", read.LowerFirst(r.Say(label)), ShortText(from), ShortText(to)))
		}
	}
	slices.Sort(out)
	return strings.Join(out, "; ")
}
