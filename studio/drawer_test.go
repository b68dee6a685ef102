package studio_test

import (
	"strings"
	"testing"

	"dustyfern/studio"
	"dustyfern/studio/pantry"
)

func (h *house) drawn(id int64) pantry.ToolView {
	h.t.Helper()
	ts, err := h.Tools(h.t.Context(), h.slug)
	h.ok(err)
	for _, x := range ts {
		if x.ID == id {
			return x
		}
	}
	h.t.Fatalf("no tool %d", id)
	return pantry.ToolView{}
}

// The drawer answers: what a piece weighs, what an hour gives, who wants it.
func TestTheDrawerAnswers(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	leaf := h.mould(set{"name": "Straight", "copies": "2"}) // 60 s to fill, 20 to open: hands set the pace
	v := h.drawn(leaf)
	if v.Figures[0].Text != "4 g" && v.Figures[0].Text != "4.0 g" || v.Figures[1].Text != "45" || !strings.Contains(v.Figures[1].Unit, "all 2 copies") {
		t.Errorf("%+v", v.Figures)
	}
	// 60 s in, 8 min cold, 45 s out: two copies give 120/9.75 an hour
	cold := h.mould(set{"name": "Cold", "copies": "2", "chilled": "yes", "freezeMinutes": "8"})
	if v := h.drawn(cold); v.Figures[1].Text != "12" || v.Figures[1].Why == nil {
		t.Errorf("%+v", v.Figures)
	}
	h.kitchen(set{"freezerPlaces": "1"}) // one place for two copies
	if v := h.drawn(cold); v.Figures[1].Text != "6" {
		t.Errorf("%+v", v.Figures)
	}
	if p := v.Picture; p.HighMM != 60 || p.AcrossMM != 30 || p.Lies || p.Says != "60 mm × 30 mm, 4 mm deep" {
		t.Errorf("%+v", p)
	}
	// what is over three times as long as wide lies down, from ten times on a rod is beads; a half-ball stands on its flat side
	if p := h.drawn(h.mould(set{"name": "String", "shape": "rod", "lengthMM": "180 mm", "widthMM": "4 mm"})).Picture; !p.Lies || !p.Beaded || p.AcrossMM != 180 || p.HighMM != 4 {
		t.Errorf("%+v", p)
	}
	if p := h.drawn(h.mould(set{"name": "Stem", "shape": "rod", "lengthMM": "25 mm", "widthMM": "8 mm"})).Picture; !p.Lies || p.Beaded {
		t.Errorf("%+v", p)
	}
	if p := h.drawn(h.mould(set{"name": "Cap", "shape": "dome", "lengthMM": "20 mm", "widthMM": "20 mm", "depthMM": "10 mm"})).Picture; p.Lies || p.AcrossMM != 20 || p.HighMM != 10 {
		t.Errorf("%+v", p)
	}
	p := h.piece(o, leaf, nil)
	w := h.drawn(leaf).Wanted
	if len(w) != 1 || w[0].Says != "Winter wedding: Leaves, 12" || w[0].PieceID != p || w[0].When == "" {
		t.Errorf("%+v", w)
	}
	h.ok(h.SetState(t.Context(), h.slug, o, "handedOver", true))
	if w := h.drawn(leaf).Wanted; len(w) != 0 {
		t.Errorf("handed over and still wanted: %+v", w)
	}
}

// Of a copy it is said in one press that it broke, was mended, was lent or came back,
// and taken back like any other press; with none left its pieces say so.
func TestWhatIsSaidOfACopy(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	m := h.mould(set{"name": "Frond", "copies": "2"})
	p := h.piece(o, m, nil)
	says := func(do, want string) {
		t.Helper()
		h.ok(h.CopySays(t.Context(), h.slug, m, do))
		if v := h.drawn(m); !strings.HasPrefix(v.Says[2], want) {
			t.Errorf("%s: %v", do, v.Says)
		}
	}
	says("broke", "1 copy, 1 broken")
	says("lent", "0 copies, 1 lent, 1 broken")
	if v := h.view(o, p); !strings.Contains(v.Missing, "Every copy of Frond is lent or broken") {
		t.Error(v.Missing)
	}
	h.refused(h.CopySays(t.Context(), h.slug, m, "broke"), "copies", "No copy is left")
	says("back", "1 copy, 1 broken")
	h.refused(h.CopySays(t.Context(), h.slug, m, "back"), "copies", "None is lent")
	if v := h.view(o, p); v.Missing != "" {
		t.Error(v.Missing)
	}
	says("mended", "2 copies, straight out")
	h.undo()
	if v := h.drawn(m); !strings.HasPrefix(v.Says[2], "1 copy, 1 broken") {
		t.Errorf("%+v", v.Says)
	}
	h.refused(h.set(studio.KindTool, m, set{"lent": "2"}), "lent", "Of 2 copies")
	lone := h.mould(set{"name": "Lone"})
	h.ok(h.Delete(t.Context(), h.slug, studio.KindTool, lone, false))
	if err := h.CopySays(t.Context(), h.slug, lone, "broke"); err == nil {
		t.Error("a copy of what was taken away broke")
	}
}
