package studio_test

import (
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
)

// A piece stands beside its parts and theirs, each with what is to be made and
// what is made so far; one that is shared stands once.
func TestAPieceStandsBesideItsParts(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	alone := h.piece(o, m, set{"name": "Leaves", "wanted": "6"})
	if v := h.view(o, alone); len(v.Beside) != 0 || v.Made != "" {
		t.Errorf("one part is the plain case: %+v, %q", v.Beside, v.Made)
	}
	stem := h.piece(o, m, set{"name": "Stems", "wanted": "5"})
	top, err := h.AddPart(t.Context(), h.slug, stem, -1, studio.JoinIn{Name: "Caps", Each: "2"})
	h.ok(err)
	dot, err := h.AddPart(t.Context(), h.slug, top, -1, studio.JoinIn{Name: "Dots", Each: "3"})
	h.ok(err)
	_, err = h.AddPart(t.Context(), h.slug, stem, -1, studio.JoinIn{Part: dot, Each: "1"})
	h.ok(err)
	h.must(studio.KindPiece, top, set{"tool": "1"})
	all := h.view(o, stem).Beside
	if len(all) != 3 || all[0].ID != stem || all[0].On != "" || all[1].ID != top || all[1].On != "2 on to each of Stems" || all[2].On != "3 on to each of Caps" {
		t.Fatalf("%+v", all)
	}
	if b := all[1]; b.Balls == nil || b.Balls.Value < 10 || b.Ball.Value <= 0 || b.LengthMM < b.WidthMM || b.WidthMM <= 0 || b.Missing != "" {
		t.Errorf("%+v", b)
	}
	if b := all[2]; b.Missing == "" || b.Balls != nil {
		t.Errorf("no tool is chosen for the dots: %+v", b)
	}
	h.must(studio.KindPiece, dot, set{"tool": "1"})

	h.now = h.steps("knead")[0].Start
	for range 4 {
		h.after(time.Minute).hands()
	}
	begun := h.bench().Tallies[0]
	_, err = h.Broke(t.Context(), h.slug, begun.Op, begun.Version, "tore")
	h.ok(err)
	v := h.view(o, begun.PieceID)
	if begun.Made == 0 || !strings.Contains(v.Made, "whole of ") || !strings.Contains(v.Made, ", 1 broken; ") {
		t.Errorf("%d made, and it says %q", begun.Made, v.Made)
	}
}
