package studio_test

import (
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

// TestACountThatIsCutStopsThePress: a press that has begun says that it is enough when
// so many are whole; what is over is spares, and it can be taken back.
func TestACountThatIsCutStopsThePress(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "12", "eaten": "mouthful"})
	h.now = h.steps("knead")[0].Start
	h.hands()
	b := h.due()
	op := b.Now.Op
	_, err := h.Enough(t.Context(), h.slug, op, b.Now.Version)
	h.refused(err, "op", "None of it is made yet")
	for range 4 {
		b = h.after(time.Minute).hands()
	}
	if b.Tallies[0].Enough {
		t.Fatalf("nothing was cut: %+v", b.Tallies[0])
	}
	h.must(studio.KindPiece, p, set{"wanted": "5"})
	if b = h.bench(); b.Tallies[0].Enough {
		t.Errorf("4 are whole of 5: %+v", b.Tallies[0])
	}
	h.after(time.Minute).hands()
	b = h.after(time.Minute).hands()
	tally := b.Tallies[0]
	if !tally.Enough || !strings.Contains(tally.Says, "enough, stop here. 1 spare over") {
		t.Fatalf("6 are whole of 5: %+v", tally)
	}
	_, err = h.Enough(t.Context(), h.slug, tally.Op, tally.Version)
	h.ok(err)
	st := h.of(op)
	if st.ActualEnd == nil || *st.Made != 6 {
		t.Errorf("%v made", *st.Made)
	}
	if x := h.trouble("short"); x != nil || h.bench().Tallies[0].Enough {
		t.Errorf("%+v %+v", x, h.bench().Tallies[0])
	}
	h.undo()
	if st := h.of(op); st.ActualEnd != nil {
		t.Error("taken back it goes on")
	}
	// what has not begun follows the count
	q := h.piece(o, m, set{"name": "Buds", "wanted": "30", "eaten": "mouthful"})
	h.must(studio.KindPiece, q, set{"wanted": "3"})
	for _, s := range h.steps("press") {
		if *s.PieceID == q && s.Planned.Run.Balls > 6 {
			t.Errorf("%d Buds are planned", s.Planned.Run.Balls)
		}
	}
}

// TestACopyThatTearsAtTheBench: the rounds go on with what is left, the line with it; the
// last copy gone is said, and nothing is promised.
func TestACopyThatTearsAtTheBench(t *testing.T) {
	t.Parallel()
	h, _, p := chilledEvening(t, nil)
	mould := *h.pieceRow(p).ToolID
	h.after(6 * time.Minute).hands()
	b := h.due()
	if b.Tool == nil || b.Tool.ID != mould || b.Tool.Copies != 2 {
		t.Fatalf("%+v", b.Tool)
	}
	h.after(2 * time.Minute).hands() // copy 1 is in the freezer
	if b = h.bench(); b.Move == nil || b.Move.Do != "press" || !strings.Contains(b.Move.Sub, "copy 2") {
		t.Fatalf("%+v", b.Move)
	}
	h.ok(h.CopySays(t.Context(), h.slug, mould, "broke"))
	if b = h.bench(); b.Move == nil || b.Move.Do != "wait" || b.Tool.Copies != 1 {
		t.Errorf("with one copy, and that in the freezer: %+v", b.Move)
	}
	h.ok(h.CopySays(t.Context(), h.slug, mould, "broke"))
	x := h.told("cannot", "Every copy of Frond is lent or broken")
	if x.PieceID != p || !x.Stops {
		t.Errorf("%+v", x)
	}
	h.ok(h.CopySays(t.Context(), h.slug, mould, "mended"))
	if x := h.trouble("cannot"); x != nil {
		t.Errorf("%+v", x)
	}
}

func (h *house) pieceRow(id int64) (p noun.Piece) {
	h.t.Helper()
	h.ok(h.Store.Read(h.t.Context(), h.slug, func(tx journal.Tx) error { return tx.Take(&p, id) }))
	return p
}
