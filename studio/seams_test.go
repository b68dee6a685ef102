package studio_test

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/journal"
)

// TestUndoGoesThroughTheGuards: what may not be done by hand may not come of an
// undo either. A mould that a piece is made in does not vanish with the line that
// brought it, nor an order with pieces that were put on it since.
func TestUndoGoesThroughTheGuards(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	m := h.mould(set{"name": "Late leaf"})
	brought := h.last().UndoID
	p := h.piece(o, m, nil)
	if err := h.Undo(t.Context(), h.slug, brought, false); err == nil {
		t.Fatal("the mould of a piece is gone")
	}
	if v := h.view(o, p); v.ToolName != "Late leaf" || v.Missing != "" {
		t.Errorf("%q %q", v.ToolName, v.Missing)
	}
	h.undo() // the piece first, then its mould
	h.ok(h.Undo(t.Context(), h.slug, brought, false))
	h.redo()
	// a deleted mould comes back by undo only while its name is free of trouble, and a line twice taken back is refused
	if err := h.Undo(t.Context(), h.slug, 999_999, false); err == nil {
		t.Error("a line that there is not")
	}
}

// TestTheLastIsTheLast: to take back "the last" is for the line that was seen as
// the last; when another's work came after it, it is refused, and nothing of
// theirs is touched.
func TestTheLastIsTheLast(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	seen := h.last().UndoID
	h.must(studio.KindPiece, p, set{"wanted": "20"}) // another pair of hands
	var late *journal.Overtaken
	if err := h.Undo(t.Context(), h.slug, seen, true); !errors.As(err, &late) {
		t.Errorf("taken back late: %v", err)
	}
	if v := h.view(o, p); v.Wanted != 20 {
		t.Errorf("%d wanted", v.Wanted)
	}
	h.undo()
	if err := h.Redo(t.Context(), h.slug, seen); err == nil {
		t.Error("what was not the last taken back was done again")
	}
}

// TestAPressIsASmallLine: a press of 59 fills writes a line each, and all of them
// together stay under 30 kB: each tells what it changed, not what was there.
func TestAPressIsASmallLine(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	h.kitchen(set{"hours": "Tue 8:00-22:00\nWed 8:00-22:00\nThu 8:00-22:00\nFri 8:00-22:00", "trays": "30 of 400 x 300 mm"})
	m := h.mould(set{"fillSec": "120", "unmouldMinutes": "1"})
	h.piece(o, m, set{"wanted": "54"})
	h.now = h.steps("knead")[0].Start
	h.hands()
	h.after(30 * time.Minute)
	presses := 0
	for range 80 {
		b := h.bench()
		if b.Now == nil || b.Now.Kind != "press" {
			break
		}
		h.after(time.Minute).move(b)
		presses++
	}
	if presses < 55 {
		t.Fatalf("%d fills", presses)
	}
	bytes := 0
	h.ok(h.Store.Read(t.Context(), h.slug, func(tx journal.Tx) error {
		es, err := tx.Entries(o, 0, presses)
		for _, e := range es {
			b, err := json.Marshal(e.Rows)
			h.ok(err)
			bytes += len(b)
		}
		return err
	}))
	if bytes > 30_000 {
		t.Errorf("%d presses are %d bytes in the journal", presses, bytes)
	}
}

// TestWordsAreOnlyWords: what people call their pieces and orders is never read
// for anything. Names like the program's own sentences count and ring like any.
func TestWordsAreOnlyWords(t *testing.T) {
	t.Parallel()
	h, m, _ := stocked(t)
	h.kitchen(set{"words": "us"})
	o := h.order(set{"title": "Press 99 colours, part 2 of 7"})
	h.piece(o, m, set{"name": "Elf is firm: lift, join, assemble", "wanted": "6", "colour": "sugar paste grey"})
	press := h.steps("press")[0]
	if press.Planned.Parts > 1 || press.Planned.Name != "Elf is firm: lift, join, assemble" {
		t.Errorf("%+v", press.Planned)
	}
	h.now = h.steps("knead")[0].Start
	h.hands()
	b := h.after(30 * time.Minute).bench()
	for range 20 {
		if b.Now == nil || b.Now.Kind != "press" {
			break
		}
		b = h.after(time.Minute).move(b)
	}
	firm := 0
	for _, x := range h.bench().Timers {
		for _, m := range x.Then {
			if strings.HasPrefix(m.Says, "Elf is firm: lift, join, assemble: firm about ") {
				firm++
			}
		}
	}
	if firm != 1 {
		t.Errorf("%+v", h.bench().Timers)
	}
	list, err := h.list()
	h.ok(err)
	for _, c := range list {
		if c.ID == o && c.Title != "Press 99 colours, part 2 of 7" {
			t.Errorf("a customer's words were put into American: %q", c.Title)
		}
	}
}

// TestAnOrderThatCannotBePlanned leaves the others their plan, and says why.
func TestAnOrderThatCannotBePlanned(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	h.kitchen(set{"packMinutes": "200 min", "hours": "Tue 19:00-22:00\nWed 19:00-22:00\nThu 19:00-22:00\nFri 19:00-22:00\nSat 6:00-9:00"})
	l := h.line()
	if len(l.LeftOut) != 1 || l.Fits && len(l.Rows) > 0 {
		t.Fatalf("%v %+v", l.LeftOut, l.Rows)
	}
	h.kitchen(set{"packMinutes": "15 min"})
	if l = h.line(); len(l.LeftOut) != 0 || len(h.steps("press")) == 0 {
		t.Errorf("%v", l.LeftOut)
	}
	// one of two that cannot: its sentence, and the other's steps
	bad := h.order(set{"title": "Slow one"})
	h.piece(bad, h.mould(set{"name": "Glass leaf", "fillSec": "3600", "cavities": "8"}), set{"name": "Glass leaves"})
	l = h.line()
	if len(l.LeftOut) != 1 || !strings.HasPrefix(l.LeftOut[0], "Slow one: ") {
		t.Errorf("%v", l.LeftOut)
	}
	mine := 0
	for _, s := range h.steps("press") {
		if s.CommissionID == o {
			mine++
		}
	}
	if mine == 0 {
		t.Error("the other order has lost its plan")
	}
}

// TestWorkHearsThatNobodyWaits: a request that was given up ends its reading, and
// its planning, with the reason.
func TestWorkHearsThatNobodyWaits(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	gone, cancel := context.WithCancel(t.Context())
	cancel()
	for name, do := range map[string]func() error{
		"bench": func() error { _, err := h.Bench(gone, h.slug, ""); return err },
		"needs": func() error { _, err := h.Needs(gone, h.slug); return err },
		"order": func() error { _, err := h.Commission(gone, h.slug, o); return err },
		"plan":  func() error { return h.Plan(gone, h.slug) },
		"write": func() error {
			return h.Change(gone, h.slug, studio.KindPiece, 1, journal.ChangeIn{Version: 1, Set: set{"wanted": "3"}})
		},
	} {
		if err := do(); !errors.Is(err, context.Canceled) {
			t.Errorf("%s: %v", name, fmt.Sprint(err))
		}
	}
	if v := h.view(o, 1); v.Wanted != 12 {
		t.Error("a change that was given up was made")
	}
}
