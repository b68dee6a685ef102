package studio_test

import (
	"context"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/journal"
)

// as acts in somebody's name.
func as(ctx context.Context, who string) context.Context { return journal.As(ctx, who, "") }

func (h *house) journal(commission int64) []journal.EntryView {
	h.t.Helper()
	j, err := h.Journal(h.t.Context(), h.slug, commission, 0)
	h.ok(err)
	return j.Entries
}

func (h *house) last() journal.JournalView {
	h.t.Helper()
	j, err := h.Journal(h.t.Context(), h.slug, 0, 0)
	h.ok(err)
	return j
}

func (h *house) undo() { h.t.Helper(); h.ok(h.Undo(h.t.Context(), h.slug, h.last().UndoID, true)) }
func (h *house) redo() { h.t.Helper(); h.ok(h.Redo(h.t.Context(), h.slug, h.last().RedoID)) }

func TestTheJournalIsReadable(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00 Ines\nThu 19:00-22:00 Ines, Tobi\nSat 6:00-9:00"})
	p := h.piece(o, m, set{"wanted": "9"})
	h.ok(h.Change(as(t.Context(), "Tobi"), h.slug, studio.KindPiece, p, journal.ChangeIn{Version: 1, Set: set{"wanted": "11", "colour": "moss"}}))
	h.now = h.steps("knead")[0].Start
	h.finish("knead")
	var got []string
	for _, e := range h.journal(o) {
		got = append(got, e.Who+" "+e.Says)
	}
	want := []string{"Ines finished: Knead 58 g for Leaves", "Tobi changed Leaves: colour from nothing to moss; how many from 9 to 11", "Ines put 9 Leaves on the list", "Somebody took the order Winter wedding"}
	if strings.Join(got, "|") != strings.Join(want, "|") {
		t.Errorf("%q\nwant %q", got, want)
	}
	whole := h.journal(0)
	if len(whole) != len(want)+5 || !strings.HasPrefix(whole[3].Says, "changed Kitchen: weekly hours") {
		t.Errorf("%+v", whole)
	}
	if whole[0].When != "Thu 3 Dec, 21:27" && !strings.Contains(whole[0].When, ":") {
		t.Error(whole[0].When)
	}
}

// Everything that people change can be taken back and done again.
func TestEveryChangeCanBeTakenBackAndDoneAgain(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	first := h.piece(o, m, set{"name": "A"})
	h.piece(o, m, set{"name": "B"})
	lots := h.lots()
	state := func() string {
		c, err := h.Commission(t.Context(), h.slug, o)
		if err != nil {
			return err.Error()
		}
		var b strings.Builder
		for _, p := range c.Pieces {
			v := h.view(o, p.ID)
			b.WriteString(p.Name + text(v.Fields, "wanted") + text(v.Fields, "colour") + v.Settings["trial"] + " ")
		}
		k, err := h.Kitchen(t.Context(), h.slug)
		h.ok(err)
		for _, l := range h.lots() {
			b.WriteString(l.Name + strings.Join(l.Says, "") + l.Mass + " ")
		}
		ts, err := h.Tools(t.Context(), h.slug)
		h.ok(err)
		for _, r := range ts {
			b.WriteString(r.Name + strings.Join(r.Says, "") + " ")
		}
		b.WriteString(k.Room + c.State + c.HandOver)
		for _, s := range h.steps("knead") {
			if s.ActualEnd != nil {
				b.WriteString(" kneaded " + s.Piece)
			}
		}
		return b.String()
	}
	for say, do := range map[string]func(){
		"a field":          func() { h.must(studio.KindPiece, first, set{"wanted": "20", "colour": "moss"}) },
		"a trial piece":    func() { h.must(studio.KindPiece, first, set{"trial": "5 g"}) },
		"a copy":           func() { _, err := h.Duplicate(t.Context(), h.slug, first); h.ok(err) },
		"a place":          func() { h.ok(h.Move(t.Context(), h.slug, first, false)) },
		"a piece gone":     func() { h.ok(h.Delete(t.Context(), h.slug, studio.KindPiece, first, false)) },
		"a piece new":      func() { h.piece(o, m, set{"name": "C"}) },
		"a lot":            func() { h.must(studio.KindLot, lots[0].ID, set{"massG": "300 g", "grade": "2"}) },
		"a lot gone":       func() { h.ok(h.Delete(t.Context(), h.slug, studio.KindLot, lots[1].ID, false)) },
		"a mould":          func() { h.must(studio.KindTool, m, set{"depthMM": "5 mm"}) },
		"the room":         func() { h.kitchen(set{"rhPercent": "40 %", "hours": "Wed 19:00-22:00\nSat 6:00-9:00"}) },
		"the date":         func() { h.must(studio.KindCommission, o, set{"handOver": "6 Dec 11:00"}) },
		"put aside":        func() { h.ok(h.SetState(t.Context(), h.slug, o, "aside", true)) },
		"an order gone":    func() { h.ok(h.Delete(t.Context(), h.slug, studio.KindCommission, o, false)) },
		"a finished step":  func() { h.finish("knead") },
		"a mould not used": func() { h.mould(set{"name": "Spare"}) },
	} {
		before := state()
		do()
		after := state()
		if before == after {
			t.Errorf("%s: nothing was done", say)
		}
		h.undo()
		if got := state(); got != before {
			t.Errorf("%s taken back:\n%s\nwas\n%s", say, got, before)
		}
		h.redo()
		if got := state(); got != after {
			t.Errorf("%s done again:\n%s\nwas\n%s", say, got, after)
		}
		h.undo()
		if got := state(); got != before {
			t.Errorf("%s taken back twice:\n%s\nwas\n%s", say, got, before)
		}
	}
}

func TestManyStepsBackAndForth(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	wanted := func() string { return text(h.view(o, p).Fields, "wanted") }
	for _, n := range []string{"13", "14", "15"} {
		h.must(studio.KindPiece, p, set{"wanted": n})
	}
	for _, want := range []string{"14", "13", "12"} {
		h.undo()
		if wanted() != want {
			t.Fatalf("%s, want %s", wanted(), want)
		}
	}
	h.redo()
	h.redo()
	if wanted() != "14" {
		t.Fatal(wanted())
	}
	h.must(studio.KindPiece, p, set{"wanted": "30"}) // a new thing: what was ahead is gone
	h.refused(h.Redo(t.Context(), h.slug, 1), "entry", "nothing to take back")
	h.undo()
	h.undo()
	if wanted() != "13" {
		t.Error(wanted())
	}
	j, err := h.Journal(t.Context(), h.slug, o, 0)
	h.ok(err)
	if j.Undo != "changed Leaves: how many from 12 to 13" || !strings.HasPrefix(j.Redo, "changed Leaves: how many from 13 to 14") {
		t.Errorf("%q, %q", j.Undo, j.Redo)
	}
}

// An older line can be taken back while nobody has changed the same field since.
func TestAnOlderLineIsTakenBackByItself(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	h.must(studio.KindPiece, p, set{"wanted": "20"})
	h.must(studio.KindPiece, p, set{"colour": "moss"})
	entries := h.journal(o)
	h.ok(h.Undo(t.Context(), h.slug, entries[1].ID, false))
	if v := h.view(o, p); text(v.Fields, "wanted") != "12" || text(v.Fields, "colour") != "moss" {
		t.Errorf("%s of %s", text(v.Fields, "wanted"), text(v.Fields, "colour"))
	}
	h.ok(h.Undo(t.Context(), h.slug, entries[1].ID, false)) // a repeat does nothing
	h.must(studio.KindPiece, p, set{"colour": "fern"})
	h.refused(h.Undo(t.Context(), h.slug, entries[0].ID, false), "entry", "changed again since (colour)")
	if v := h.view(o, p); text(v.Fields, "colour") != "fern" {
		t.Error("half taken back")
	}
}

func TestOneActSentTwiceIsDoneOnce(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	ctx := journal.As(t.Context(), "Tobi", "window-7/act-1")
	var ids []int64
	for range 3 {
		id, err := h.Create(ctx, h.slug, studio.KindPiece, o, set{"name": "Leaves", "tool": "1"})
		h.ok(err)
		ids = append(ids, id)
	}
	if ids[0] == 0 || ids[1] != ids[0] || ids[2] != ids[0] {
		t.Errorf("%v", ids)
	}
	_ = m
	c, err := h.Commission(t.Context(), h.slug, o)
	h.ok(err)
	if len(c.Pieces) != 1 || h.journal(o)[0].Who != "Tobi" {
		t.Errorf("%d pieces, by %s", len(c.Pieces), h.journal(o)[0].Who)
	}
}

func TestTheJournalHasPages(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	for i := range 45 {
		h.now = h.now.Add(time.Second)
		h.must(studio.KindPiece, p, set{"wanted": []string{"13", "14"}[i%2]})
	}
	j, err := h.Journal(t.Context(), h.slug, o, 0)
	h.ok(err)
	last := j.Entries[len(j.Entries)-1]
	older, err := h.Journal(t.Context(), h.slug, o, last.ID)
	h.ok(err)
	if !j.More || len(j.Entries) != 40 || older.More || len(older.Entries) != 7 || older.Entries[0].ID >= last.ID {
		t.Errorf("%d, then %d", len(j.Entries), len(older.Entries))
	}
}
