package studio_test

import (
	"bytes"
	"slices"
	"strings"
	"testing"

	"dustyfern/studio"
	"dustyfern/studio/mending"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/work"
)

// TestWiresAreCountedInAndOut: the card is not ready until what was counted is what is listed,
// and it prints on one page.
func TestWiresAreCountedInAndOut(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "eaten": "shown"})
	h.must(studio.KindPiece, p, set{"inserts": "1 wire, 1 pick"})
	card := h.leaving(o).Card
	if len(card.Remove) != 2 || card.Remove[0].Says != "6 wires" || card.Ready || !has(card.Missing, "Count them at the bench: 6 wires") {
		t.Fatalf("%+v %v", card.Remove, card.Missing)
	}
	count := func(item string, n int) { t.Helper(); h.ok(h.Leaving.Count(t.Context(), h.slug, o, item, &n)) }
	count("wire", 5)
	count("pick", 6)
	if card = h.leaving(o).Card; card.Ready || !has(card.Missing, "5 were counted") {
		t.Errorf("%v", card.Missing)
	}
	count("wire", 6)
	if card = h.leaving(o).Card; !card.Ready {
		t.Errorf("%v", card.Missing)
	}
	h.undo()
	if card = h.leaving(o).Card; card.Ready {
		t.Error("the count that was taken back still stands")
	}
	h.redo()
	h.must(studio.KindPiece, p, set{"wanted": "3"}) // half of them stay at home: they are counted anew
	if card = h.leaving(o).Card; card.Ready || card.Remove[0].Says != "3 wires" {
		t.Errorf("%+v", card.Remove)
	}
	h.must(studio.KindPiece, p, set{"inserts": "1 pick"}) // the wires are gone, and were counted
	if card = h.leaving(o).Card; !has(card.Missing, "6 were counted") {
		t.Errorf("%v", card.Missing)
	}
	h.must(studio.KindPiece, p, set{"inserts": "1 wire, 1 pick"})
	for _, size := range []string{"a6", "a4"} {
		_, pdf, err := h.Leaving.Print(t.Context(), h.slug, o, size)
		h.ok(err)
		if !bytes.HasPrefix(pdf, []byte("%PDF")) || bytes.Count(pdf, []byte("/Type /Page\n")) != 1 {
			t.Errorf("%s: %d pages", size, bytes.Count(pdf, []byte("/Type /Page\n")))
		}
	}
	_, _, err := h.Leaving.Print(t.Context(), h.slug, o, "a9")
	h.refused(err, "size", "a6 or a4")
	h.refused(h.Leaving.Count(t.Context(), h.slug, o, "spoon", nil), "item", "wire")
	h.ok(h.Leaving.Finished(t.Context(), h.slug, o, []byte("a jpeg that the door made small")))
	if card = h.leaving(o).Card; len(card.Photos) != 1 {
		t.Errorf("%+v", card.Photos)
	}
}

// TestRescueKnowsItsBatch: what the record says is not asked; a cause that is confirmed comes
// first the next time, and a change goes where it belongs.
func TestRescueKnowsItsBatch(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	h.must(studio.KindPiece, p, set{"peg": "0.5"})
	h.finish("knead")
	press := h.finish("press")
	look := func(in mending.Asked) mending.RescueView {
		t.Helper()
		v, err := h.Mending.Read(t.Context(), h.slug, in)
		h.ok(err)
		return v
	}
	if v := look(mending.Asked{}); len(v.Batches) == 0 || len(v.Techniques) < 20 || len(v.Symptoms) != 68 {
		t.Errorf("%d batches, %d ways, %d symptoms", len(v.Batches), len(v.Techniques), len(v.Symptoms))
	}
	in := mending.Asked{Op: press.Op, Seen: []string{"stuckInMould"}}
	v := look(in)
	if v.About.Technique != "T1" || !slices.ContainsFunc(v.Facts, func(f mending.FactView) bool { return f.Code == "weakPaste" && f.Value && f.From == "record" }) {
		t.Fatalf("%+v %+v", v.About, v.Facts)
	}
	first := v.Causes[0].Code
	other := v.Causes[1].Code
	for range 40 {
		h.ok(h.Mending.Confirm(t.Context(), h.slug, in, other))
	}
	if v = look(in); v.Causes[0].Code != other || first == other {
		t.Errorf("%s comes first, though %s was confirmed forty times", v.Causes[0].Code, other)
	}
	i := slices.IndexFunc(v.Causes, func(c mending.CauseView) bool { return c.Code == "weakPasteC" })
	if i < 0 {
		t.Fatalf("%+v", v.Causes)
	}
	says, err := h.Mending.Take(t.Context(), h.slug, in, "weakPasteC", 0) // paste: strength up
	h.ok(err)
	if !strings.HasPrefix(says, "Changed for Leaves") || h.pieceRow(p).PegPercent == nil || *h.pieceRow(p).PegPercent < 0.7 {
		t.Errorf("%q", says)
	}
	says, err = h.Mending.Take(t.Context(), h.slug, in, "lightPressure", 0) // mould: note the spots to feel for
	h.ok(err)
	if !strings.HasPrefix(says, "Kept with the mould") {
		t.Errorf("%q", says)
	}
	q := h.piece(o, m, set{"name": "More leaves"})
	if !slices.ContainsFunc(h.steps("press"), func(s plan.LineStep) bool {
		return s.PieceID != nil && *s.PieceID == q && has(s.Says, "Remember: note the spots to feel for")
	}) {
		t.Error("it is not remembered at the press of the same mould")
	}
	// what is remembered is left out again, and no note of its kind is offered as a tap
	for _, n := range h.notes("").Notes {
		if n.Teaches && strings.Contains(n.Says, "spots to feel for") {
			h.ok(h.Notebook.Leave(t.Context(), h.slug, n.ID, true))
		}
	}
	h.must(studio.KindPiece, q, set{"wanted": "13"})
	for _, s := range h.steps("press") {
		if s.PieceID != nil && *s.PieceID == q && has(s.Says, "Remember:") {
			t.Errorf("left out, and still there: %v", s.Says)
		}
	}
	for _, o := range work.NotesOffered(h.reader(), "firm", true) {
		if k, _ := noun.NoteKindOf(o.Code); k.Elsewhere {
			t.Errorf("%s is offered as a tap", o.Code)
		}
	}
	_, err = h.Mending.Read(t.Context(), h.slug, mending.Asked{Seen: []string{"nosuch"}})
	h.refused(err, "symptoms[0]", "no symptom")
	h.refused(h.Mending.Confirm(t.Context(), h.slug, in, "nosuch"), "cause", "no cause")
	_, err = h.Mending.Take(t.Context(), h.slug, in, "weakPasteC", 19)
	h.refused(err, "at", "not offered")
}
