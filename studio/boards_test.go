package studio_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/plan"
)

// Nut paste and an order without nuts in one week: the board is washed between, or the
// order without comes first, or it has a board of its own; as the kitchen does it.
func TestABoardFreeOfNuts(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("Almond", "marzipan", "2 kg", set{"holds": "nuts"})
	h.kitchen(set{"hours": "Tue 19:00-22:00\nThu 19:00-22:00", "toFree": "25"})
	h.must(studio.KindCommission, o, set{"title": "Fruit tea", "handOver": "27 Nov 18:00"})
	nutty := h.piece(o, m, set{"wanted": "16", "name": "Almonds", "eaten": "mouthful", "joined": "pliable", "bagged": "yes"})
	h.must(studio.KindPiece, nutty, set{"dough": "marzipan"})
	free := h.order(set{"title": "No nuts", "handOver": "27 Nov 18:00", "allergies": "nuts"})
	pieces := []int64{h.piece(free, h.mould(set{"name": "Bud"}), set{"name": "Buds", "wanted": "12", "eaten": "mouthful", "joined": "pliable", "bagged": "yes"})}

	// before is what stands before each coloured step of the order without nuts in its evening
	judge := func(side string) (washed, after int) {
		t.Helper()
		coloured := slices.DeleteFunc(h.steps(""), func(s plan.LineStep) bool {
			return !s.Attended || s.PieceID == nil || s.Planned.Kept == nil || s.Planned.Kept.Op.NoPaste
		})
		slices.SortFunc(coloured, func(a, b plan.LineStep) int { return a.PlannedStart.Compare(b.PlannedStart) })
		for i, s := range coloured {
			if s.CommissionID != free || i == 0 || coloured[i-1].CommissionID == free || coloured[i-1].Planned.Window != s.Planned.Window {
				continue
			}
			after++
			gap := int(s.PlannedStart.Sub(coloured[i-1].PlannedEnd) / time.Minute)
			if s.Planned.CleanDown >= 25 && gap >= 25 {
				washed++
			} else {
				t.Logf("%s: %s is %d min after %s, clean-down %d", side, s.Title, gap, coloured[i-1].Title, s.Planned.CleanDown)
			}
		}
		return washed, after
	}
	if washed, after := judge("wash"); washed != after {
		t.Errorf("%d of %d times it is washed between", washed, after)
	}
	// put by hand after nut paste in one evening, it is washed all the same
	evening := time.Date(2026, 11, 26, 19, 0, 0, 0, time.UTC)
	var pinned []string
	for _, s := range h.steps("knead") {
		at := evening
		if s.CommissionID == free {
			at = evening.Add(100 * time.Minute)
		}
		h.ok(h.Pin(t.Context(), h.slug, s.Op, at))
		pinned = append(pinned, s.Op)
	}
	if washed, after := judge("pinned"); after == 0 || washed != after {
		t.Errorf("%d of %d times it is washed between", washed, after)
	}
	for _, op := range pinned {
		h.ok(h.Pin(t.Context(), h.slug, op, time.Time{}))
	}
	knead := h.steps("knead")
	i := slices.IndexFunc(knead, func(s plan.LineStep) bool { return s.CommissionID == free })
	if i < 0 || !slices.ContainsFunc(knead[i].Cautions, func(c string) bool { return strings.HasPrefix(c, "No nuts on this table") }) {
		t.Errorf("%+v", knead)
	}
	h.ok(h.TakeSide(t.Context(), h.slug, "allergenBoard", "first"))
	h.must(studio.KindPiece, pieces[0], set{"wanted": "13"})
	h.kitchen(set{"hours": "Tue 12:00-22:00\nThu 9:00-22:00"}) // however long the day is
	if _, after := judge("first"); after != 0 {
		t.Errorf("%d times it comes after nut paste in one evening", after)
	}
	h.ok(h.TakeSide(t.Context(), h.slug, "allergenBoard", "own"))
	h.must(studio.KindPiece, pieces[0], set{"wanted": "14"})
	for _, s := range h.steps("") {
		if s.CommissionID == free && s.Planned.CleanDown >= 25 {
			t.Errorf("it has a board of its own, and %s waits %d min for a washing", s.Title, s.Planned.CleanDown)
		}
	}
}
