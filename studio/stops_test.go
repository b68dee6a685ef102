package studio_test

import (
	"slices"
	"strings"
	"testing"

	"dustyfern/craft/technique"
	"dustyfern/studio"
	"dustyfern/studio/mending"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
)

// TestAStopIsOfItsSource: one lot in three pieces is asked about once.
func TestAStopIsOfItsSource(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("Dry white", "sugarPaste", "3 kg", set{"may": "nuts", "labelRead": "yes"})
	o, m := h.order(set{"allergies": "nuts"}), h.mould(nil)
	for _, name := range []string{"Leaves", "Ferns", "Buds"} {
		h.piece(o, m, set{"name": name, "eaten": "mouthful"})
	}
	stops := h.leaving(o).Card.Stops
	if len(stops) != 1 || !strings.Contains(stops[0].Says, "Leaves, Ferns and Buds may hold nuts") {
		t.Fatalf("%+v", stops)
	}
	h.ok(h.Leaving.Clear(t.Context(), h.slug, o, stops[0].Code, stops[0].Because, "letter"))
	h.piece(o, m, set{"name": "Shells", "eaten": "mouthful"})
	if stops = h.leaving(o).Card.Stops; len(stops) != 1 || stops[0].Cleared == "" {
		t.Errorf("the client knows of that lot: %+v", stops)
	}
}

// TestWhatAStopRefusesIsNotPlanned: neither by a rule nor by a label, before the client knows;
// what the same order holds besides is planned, and what has begun goes on.
func TestWhatAStopRefusesIsNotPlanned(t *testing.T) {
	t.Parallel()
	for name, x := range map[string]struct{ order, bad, then set }{
		"a rule":  {set{"atRisk": "under3"}, set{"name": "Beads", "eaten": "nibbled", "joined": "dry"}, set{"peg": "1.6"}},
		"a label": {set{"allergies": "nuts"}, set{"name": "Beads", "eaten": "mouthful", "joined": "pliable", "bagged": "yes"}, set{"dough": "marzipan"}},
	} {
		h := newHouse(t)
		h.lot("White", "sugarPaste", "2 kg", set{"labelRead": "yes"})
		h.lot("Flower", "flowerPaste", "500 g", set{"labelRead": "yes"})
		h.lot("Almond", "marzipan", "2 kg", set{"holds": "nuts", "labelRead": "yes"})
		o := h.order(nil)
		planned := func(piece int64) (n int) {
			for _, st := range h.steps("") {
				if st.PieceID != nil && *st.PieceID == piece {
					n++
				}
			}
			return n
		}
		good := h.piece(o, h.mould(nil), set{"eaten": "mouthful"})
		bead := h.mould(set{"name": "Bead", "lengthMM": "9 mm", "widthMM": "9 mm", "weighedG": "0.6 g"})
		bad := h.piece(o, bead, x.bad)
		h.must(studio.KindPiece, bad, x.then)
		if planned(bad) == 0 {
			t.Errorf("%s: nobody avoids anything yet: %v", name, h.line().LeftOut)
		}
		h.must(studio.KindCommission, o, x.order)
		if planned(good) == 0 || planned(bad) != 0 {
			t.Errorf("%s: %d steps of the good, %d of the one that is stopped: %v", name, planned(good), planned(bad), h.line().LeftOut)
		}
		l, err := h.Line(t.Context(), h.slug, plan.LineIn{})
		h.ok(err)
		if !slices.ContainsFunc(l.Troubles, func(x noun.Trouble) bool {
			return x.Stops && strings.Contains(x.Says, "Beads") && strings.Contains(x.Says+x.Remedy, "plan")
		}) {
			v := h.view(o, bad)
			t.Errorf("%s: nothing tells why: %+v\n%+v\n%+v\n%+v", name, l.Troubles, h.leaving(o).Card.Stops, v.Paste, v.Missing)
		}
		for _, s := range h.leaving(o).Card.Stops {
			h.ok(h.Leaving.Clear(t.Context(), h.slug, o, s.Code, s.Because, "letter of 20 November"))
		}
		if planned(bad) == 0 {
			t.Errorf("%s: the client knows, and it is not planned: %v", name, h.line().LeftOut)
		}
	}
}

// TestACopiedWayIsStillWhatItWas: hot sugar burns under whatever name a studio gave it, and
// what goes wrong in a copy is known as of what it was copied from; so in a copy of a copy.
func TestACopiedWayIsStillWhatItWas(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	p := h.make(studio.KindPiece, o, h.madeWith(technique.Ours.Of("T24")))
	codes := func() (out []string) {
		for _, c := range h.view(o, p).Cautions {
			out = append(out, c.Code)
		}
		return out
	}
	was := codes()
	if !slices.Contains(was, "hotSugar") {
		t.Fatalf("%v", was)
	}
	first, err := h.CopyWay(t.Context(), h.slug, "T24", "Our lamps")
	h.ok(err)
	second, err := h.CopyWay(t.Context(), h.slug, first, "Winter lamps")
	h.ok(err)
	for _, key := range []string{first, second} {
		h.must(studio.KindPiece, p, set{"technique": key})
		if got := codes(); !slices.Equal(got, was) {
			t.Errorf("%s: %v, want %v", key, got, was)
		}
	}
	steps := h.steps("")
	v, err := h.Mending.Read(t.Context(), h.slug, mending.Asked{Op: steps[0].Op})
	h.ok(err)
	if v.About.Technique != "T24" {
		t.Errorf("a copy of a copy of T24 goes wrong as %q", v.About.Technique)
	}
	v, err = h.Mending.Read(t.Context(), h.slug, mending.Asked{})
	h.ok(err)
	n := 0
	for _, x := range v.Techniques {
		if x.Code == "T24" {
			n++
		}
	}
	if n != 1 {
		t.Errorf("T24 is offered %d times", n)
	}
}
