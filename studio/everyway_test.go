package studio_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/technique"
	"dustyfern/studio"
	"dustyfern/studio/evening"
)

// waysOfPieces are the ways by which a piece is made; what only colours a tier is none.
func waysOfPieces() (out []*technique.Technique) {
	for _, way := range technique.Ours.All() {
		if way.OfPieces() {
			out = append(out, way)
		}
	}
	return out
}

// madeWith is the tool that a way works with, as it is usually, in the drawer.
func (h *house) madeWith(way *technique.Technique) set {
	piece := set{"name": "Piece", "wanted": "2", "technique": way.Key}
	if way.Defaults["dough"] > 0 {
		piece["dough"] = "darkChocolate"
	}
	if r := technique.Ours.Leading(way); r != nil {
		tool := set{"name": "Its tool", "kind": r.Kind}
		if technique.Ours.Kind(r.Kind).Capacity == "copies" {
			tool["weighedG"] = "4 g"
		}
		for _, m := range technique.Ours.Kind(r.Kind).Measures {
			if m.Unit == "mm" && m.Name != "detailMM" || m.Unit == "ml" {
				tool[m.Name] = fmt.Sprintf("%g %s", m.Default, m.Unit)
			}
		}
		piece["tool"] = fmt.Sprint(h.make(studio.KindTool, 0, tool))
	}
	return piece
}

// TestEveryWayIsWorkedToTheCake plans two pieces of each way, walks each movement that
// Hands on shows, and finds the words of each step on the sheet.
func TestEveryWayIsWorkedToTheCake(t *testing.T) {
	t.Parallel()
	for _, way := range waysOfPieces() {
		t.Run(way.Key, func(t *testing.T) {
			t.Parallel()
			h := newHouse(t)
			h.kitchen(set{"hours": "Mon-Sun 8:00-22:00", "freezerPlaces": "6", "settleMinutes": "5"})
			for _, kind := range []string{"sugarPaste", "flowerPaste", "darkChocolate"} {
				h.lot(kind, kind, "3 kg", nil)
			}
			piece := h.madeWith(way)
			o := h.order(nil)
			p := h.make(studio.KindPiece, o, piece)
			if way.Key == "T08" { // semi-dry leaves its paint no time in this room: it says so
				h.must(studio.KindPiece, p, set{"joined": "pliable", "bagged": "yes"})
			}
			if v := h.view(o, p); v.Missing != "" || v.Needed < 2 {
				t.Fatalf("%s: %q, %d needed", way.Names.UK, v.Missing, v.Needed)
			}
			verbs, seen := map[string]bool{}, map[string]bool{}
			b := h.bench()
			for range 300 {
				switch {
				case b.Now == nil && b.BeforeMS > 0:
					h.now = time.UnixMilli(b.BeforeMS).In(h.now.Location())
				case b.Now == nil && len(b.Offers) > 0:
					h.now = b.Offers[0].Start
				case b.Now != nil && b.Move != nil && b.Move.Do == "wait":
					h.now = time.UnixMilli(b.Move.AtMS).In(h.now.Location()).Add(time.Second)
				}
				if b.Now == nil || b.Move != nil && b.Move.Do == "wait" {
					var err error
					if b, err = h.Bench(t.Context(), h.slug, ""); err != nil || b.Now == nil && b.BeforeMS == 0 && len(b.Offers) == 0 {
						h.ok(err)
						break
					}
					continue
				}
				verbs[b.Now.Kind] = true
				h.onSheet(b, seen)
				b = h.after(20 * time.Second).move(b)
			}
			if l := h.leaf(o, p); l.State != "placed" {
				t.Errorf("%s is %s, %s; at %s %+v", way.Names.UK, l.State, l.Says, h.now.Format("Mon 15:04"), h.bench().Troubles)
			}
			if !verbs["putOn"] && !hasRunThatPlaces(way) {
				t.Errorf("nothing was put on: %v", verbs)
			}
			for _, s := range way.Steps { // each step that is always there has been read, with its numbers
				for _, x := range s.Shows {
					if s.When == "" && x.When == "" && !seen["# "+x.Says] {
						t.Errorf("nobody ever read the number %q of %s", x.Says, s.ID)
					}
				}
				if s.Hands && s.When == "" && s.Run == "" && len(s.Says) > 0 && !seen[s.Says[0]] {
					t.Errorf("nobody ever read %q of %s", s.Says[0], s.ID)
				}
			}
		})
	}
}

// onSheet notes what the bench says, and what of it its sheet does not print.
func (h *house) onSheet(b evening.BenchView, seen map[string]bool) {
	h.t.Helper()
	found := false
	for _, s := range b.Evening {
		found = found || s.Op == b.Now.Op
	}
	if !found {
		h.t.Errorf("%s is not on the sheet", b.Now.Op)
	}
	for _, say := range b.Now.Says {
		seen[say] = true
	}
	for _, x := range b.Now.Figures {
		if x.Text == "" || strings.Contains(x.Text, "NaN") {
			h.t.Errorf("%s: %+v", b.Now.Title, x)
		}
		seen["# "+x.Unit] = true
	}
	if b.Move != nil {
		for _, say := range b.Move.Steps {
			seen[say] = true
		}
	}
}

func hasRunThatPlaces(way *technique.Technique) bool {
	for _, s := range way.Steps {
		if s.Run != "" && (strings.Contains(s.ID, "place") || strings.Contains(s.ID, "putOn")) || s.Assembly {
			return true
		}
	}
	return false
}

// TestWhatGoesRoundTakesTheTier: bunting is as long as the lowest tier is round, coated,
// until its own length is said.
func TestWhatGoesRoundTakesTheTier(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("White", "sugarPaste", "2 kg", nil)
	h.lot("Flower", "flowerPaste", "1 kg", nil)
	o := h.order(set{"carrier": "tiers", "tiers": "round 250 mm, 110 mm tall, coated 5 mm white sugar paste\nround 200 mm, 110 mm tall, coated 5 mm white sugar paste"})
	var bunting set
	for _, way := range waysOfPieces() {
		if way.Key == "T25" {
			bunting = h.madeWith(way)
		}
	}
	p := h.make(studio.KindPiece, o, bunting)
	round := func() string {
		t.Helper()
		v := h.view(o, p)
		if v.Make == nil {
			t.Fatalf("%q", v.Missing)
		}
		for _, d := range v.Make.Pictures {
			for _, w := range d.Words {
				if strings.Contains(w.Says, "round:") {
					return w.Says
				}
			}
		}
		return ""
	}
	field := func() (text, hint string) {
		for _, f := range h.view(o, p).Fields {
			if f.Name == "measure.runMM" {
				return f.Text, f.Hint
			}
		}
		return "", ""
	}
	if says := round(); !strings.HasPrefix(says, "817 mm round: 25 flags") { // 3.1416 (250 + 10) = 816.8; flags of 28 mm, 4 mm apart at least: 25.5
		t.Error(says)
	}
	if text, hint := field(); text != "817 mm" || !strings.Contains(hint, "817 mm and 660 mm") {
		t.Errorf("%q, %q", text, hint)
	}
	h.must(studio.KindPiece, p, set{"measure.runMM": "660 mm"})
	if says := round(); !strings.HasPrefix(says, "660 mm round: 20 flags") {
		t.Error(says)
	}
	h.must(studio.KindPiece, p, set{"measure.runMM": ""})
	if text, _ := field(); text != "817 mm" {
		t.Error(text)
	}
}
