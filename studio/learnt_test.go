package studio_test

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/journal"
)

// slowly works a cut piece to the end of its cutting, its steps taking so many times what
// they are planned.
func (h *house) slowly(order int64, name string, cutter int64, times float64, who string) {
	h.t.Helper()
	p := h.make(studio.KindPiece, order, set{"name": name, "wanted": "12", "tool": fmt.Sprint(cutter), "technique": "T10"})
	for _, kind := range []string{"knead", "cut"} {
		for _, l := range h.steps(kind) {
			if l.PieceID == nil || *l.PieceID != p {
				continue
			}
			start := h.now
			if kind == "cut" {
				for range 40 { // the pieces of a cut are counted as they come
					st := h.steps(kind)
					k := len(st) - 1
					for st[k].Op != l.Op {
						k--
					}
					if st[k].ActualEnd != nil {
						break
					}
					h.now = start.Add(time.Duration(float64(l.PlannedEnd.Sub(l.PlannedStart)) * times))
					_, err := h.Finish(h.by(who), h.slug, l.Op, st[k].Version, true)
					h.ok(err)
				}
			} else {
				h.now = h.now.Add(time.Duration(float64(l.PlannedEnd.Sub(l.PlannedStart)) * times))
				_, err := h.Finish(h.by(who), h.slug, l.Op, l.Version, true)
				h.ok(err)
			}
		}
	}
}

// by is somebody at the bench; "" nobody said who.
func (h *house) by(who string) context.Context {
	if who == "" {
		return h.t.Context()
	}
	return journal.As(h.t.Context(), who, "")
}

// Hands that take longer are planned longer, from the second batch on; each is told with
// from how many, and by whom.
func TestHandsAreLearnt(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	cutter := h.make(studio.KindTool, 0, set{"name": "Leaf cutter", "kind": "plungerCutter", "lengthMM": "34 mm", "widthMM": "26 mm"})
	h.slowly(o, "First", cutter, 1, "")
	probe := h.make(studio.KindPiece, o, set{"name": "Probe", "wanted": "12", "tool": fmt.Sprint(cutter), "technique": "T10"})
	before := map[string]int{}
	for _, s := range h.view(o, probe).Make.Batches[0].Steps {
		before[s.Op] = s.Minutes
	}
	for i := range 4 {
		h.slowly(o, fmt.Sprint("Slow ", i), cutter, 2, map[bool]string{true: "Tobi", false: "Ines"}[i%2 == 1])
	}
	v := h.view(o, probe).Make
	cuts := 0
	for _, l := range v.Learnt {
		if l.Step == "Cut" {
			cuts++
			// three of the usual, one as usual, four of twice: (3 + 1 + 8)/8
			if !strings.Contains(l.Each.Unit, "from 5 batches, in the plan") || l.Each.Value != 1.5 || len(l.By) != 3 || l.By[0].Name != "Ines" {
				t.Errorf("%+v", l)
			}
		}
	}
	if cuts != 1 {
		t.Errorf("%+v", v.Learnt)
	}
	for _, s := range v.Batches[0].Steps {
		if s.Op == "cut" && s.Minutes <= before[s.Op] {
			t.Errorf("cutting is planned for %d min, %d before it was learnt", s.Minutes, before[s.Op])
		}
	}
}

// Shortcuts are said with the minutes they save, and one press takes them.
func TestShortcutsAreSaid(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	cutter := h.make(studio.KindTool, 0, set{"name": "Leaf cutter", "kind": "plungerCutter", "lengthMM": "34 mm", "widthMM": "26 mm"})
	p := h.make(studio.KindPiece, o, set{"name": "Leaves", "wanted": "40", "tool": fmt.Sprint(cutter), "technique": "T10"})
	v := h.view(o, p).Make
	var cut int
	for i, s := range v.Shortcuts {
		if s.Asks == "veins" {
			cut = i + 1
		}
	}
	// 0.3 min saved at each of about 45 pieces
	if cut == 0 || v.Shortcuts[cut-1].Saves.Value < 12 || v.Shortcuts[cut-1].Saves.Value > 30 {
		t.Fatalf("%+v", v.Shortcuts)
	}
	h.ok(h.ChooseWay(t.Context(), h.slug, p, "veins", v.Shortcuts[cut-1].Option))
	for _, s := range h.view(o, p).Make.Shortcuts {
		if s.Asks == "veins" {
			t.Errorf("it is taken and still offered: %+v", s)
		}
	}
	chilled := h.mould(set{"name": "Deep", "chilled": "yes"})
	q := h.piece(o, chilled, set{"wanted": "30"})
	found := false
	for _, s := range h.view(o, q).Make.Shortcuts {
		found = found || strings.Contains(s.Says, "one more copy of Deep")
	}
	if !found {
		t.Errorf("a second copy is not said: %+v", h.view(o, q).Make.Shortcuts)
	}
}
