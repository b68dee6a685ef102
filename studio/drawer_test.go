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
	if v.Picture.LengthMM != 60 || v.Picture.WidthMM != 30 || v.Picture.Long != "60 mm" || v.Picture.Across != "30 mm, 4 mm deep" {
		t.Errorf("%+v", v.Picture)
	}
	p := h.piece(o, leaf, nil)
	w := h.drawn(leaf).Wanted
	if len(w) != 1 || w[0].Says != "Winter wedding: Leaves, 12" || w[0].PieceID != p || w[0].When == "" {
		t.Errorf("%+v", w)
	}
	h.ok(h.SetState(t.Context(), h.slug, o, "handedOver"))
	if w := h.drawn(leaf).Wanted; len(w) != 0 {
		t.Errorf("handed over and still wanted: %+v", w)
	}
}

// One copy less is one press, taken back like any other; the last one is not
// broken away from under its pieces.
func TestOneCopyBroke(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	m := h.mould(set{"copies": "2"})
	h.ok(h.CopyBroke(t.Context(), h.slug, m))
	v := h.drawn(m)
	if !strings.HasPrefix(v.Says[2], "1 copy") || v.Broke == "" {
		t.Errorf("%+v", v)
	}
	h.refused(h.CopyBroke(t.Context(), h.slug, m), "copies", "the only copy")
	h.undo()
	if v := h.drawn(m); !strings.HasPrefix(v.Says[2], "2 copies") || v.Broke != "" {
		t.Errorf("%+v", v)
	}
	h.ok(h.Delete(t.Context(), h.slug, studio.KindTool, m, false))
	if err := h.CopyBroke(t.Context(), h.slug, m); err == nil {
		t.Error("a copy of what was taken away broke")
	}
}
