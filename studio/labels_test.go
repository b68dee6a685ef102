package studio_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
)

// TestWhoEatsStandsWhereHandsAre: at the step, on the sheet, in what is laid out first,
// in the row of the order and at its head.
func TestWhoEatsStandsWhereHandsAre(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	h.must(studio.KindCommission, o, set{"allergies": "nuts", "without": "alcohol", "atRisk": "pregnant"})
	h.now = h.steps("knead")[0].Start.Add(-5 * time.Minute)
	b := h.bench()
	const says = "Allergy: nuts; nothing of alcohol; for somebody pregnant."
	if b.Now == nil || b.Now.Guests != says || len(b.Evening) == 0 || slices.ContainsFunc(b.Evening, func(s plan.LineStep) bool { return s.Guests != says }) {
		t.Errorf("%+v", b.Now)
	}
	if len(b.LayOut) == 0 || b.LayOut[0] != "Winter wedding: allergy: nuts; nothing of alcohol; for somebody pregnant." {
		t.Errorf("%q", b.LayOut)
	}
	rows, err := h.list()
	h.ok(err)
	v, err := h.Commission(t.Context(), h.slug, o)
	h.ok(err)
	if rows[0].Guests != says || v.Guests != says {
		t.Errorf("%q %q", rows[0].Guests, v.Guests)
	}
}

// TestALabelThatNobodyRead is said when a table avoids something, until it is read: by
// ticking what it names, or by saying that it names nothing.
func TestALabelThatNobodyRead(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	white := h.lot("White", "sugarPaste", "2 kg", nil)
	m, o := h.mould(nil), h.order(nil)
	p := h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	if x := h.trouble("label"); x != nil {
		t.Fatalf("nobody avoids anything: %+v", x)
	}
	h.must(studio.KindCommission, o, set{"allergies": "nuts"})
	x := h.told("label", "Nobody has read the label of White, and this table avoids nuts")
	if !strings.HasPrefix(x.To, "pantry?lot=") || x.CommissionID != o {
		t.Errorf("%+v", x)
	}
	if v := h.view(o, p); !slices.ContainsFunc(v.Cautions, func(c cautionOf) bool { return c.Code == "unread" && c.Hard }) {
		t.Errorf("%+v", v.Cautions)
	}
	h.must(studio.KindLot, white, set{"labelRead": "yes"})
	if x := h.trouble("label"); x != nil {
		t.Errorf("it names none: %+v", x)
	}
	h.must(studio.KindLot, white, set{"may": "nuts"})
	if v := h.view(o, p); !slices.ContainsFunc(v.Cautions, func(c cautionOf) bool { return c.Code == "may" && c.Hard && strings.Contains(c.Say, "nuts") }) {
		t.Errorf("%+v", v.Cautions)
	}
	h.must(studio.KindLot, white, set{"may": "", "holds": "nuts"})
	if v := h.view(o, p); !has(v.Paste.Refused, "White is left out: it holds nuts") {
		t.Errorf("%v", v.Paste.Refused)
	}
	h.refused(h.set(studio.KindLot, white, set{"may": "nuts"}), "may", "It holds nuts")
}

// TestWhatComesOnToAPieceCounts: icing that holds egg, starch that is of maize.
func TestWhatComesOnToAPieceCounts(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	h.must(studio.KindPiece, p, set{"with": "royalIcing"})
	holds := func() string {
		for _, c := range h.view(o, p).Cautions {
			if c.Code == "label" {
				return c.Say
			}
		}
		return ""
	}
	if !strings.Contains(holds(), "egg") {
		t.Errorf("it goes on with royal icing: %q", holds())
	}
	lays := func() (out []string) {
		for _, s := range h.steps("putOn") {
			out = append(out, s.Planned.LayOut...)
		}
		return out
	}
	if !has(lays(), "a bag of icing") {
		t.Errorf("%v", lays())
	}
	h.must(studio.KindCommission, o, set{"allergies": "egg"})
	if v := h.view(o, p); strings.Contains(holds(), "egg") || has(lays(), "a bag of icing") || !strings.Contains(v.Join.Clash, "Royal icing was chosen, but it holds what these guests avoid") {
		t.Errorf("%q %v %q", holds(), lays(), v.Join.Clash)
	}
	for _, l := range h.lots() {
		h.must(studio.KindLot, l.ID, set{"labelRead": "yes"})
	}
	h.must(studio.KindCommission, o, set{"allergies": "", "without": "maize"})
	x := h.told("allergen", "maize, by cornflour")
	if !x.Stops || x.PieceID != p {
		t.Errorf("%+v", x)
	}
}

// TestABoardWhereNutPasteLay is said to the next order without nuts, until it is
// washed; that can be taken back.
func TestABoardWhereNutPasteLay(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("Almond", "marzipan", "500 g", set{"holds": "nuts"})
	h.must(studio.KindCommission, o, set{"title": "Fruit tea"})
	nutty := h.piece(o, m, set{"wanted": "6", "joined": "pliable", "eaten": "mouthful", "bagged": "yes"})
	h.must(studio.KindPiece, nutty, set{"dough": "marzipan"})
	h.piece(h.order(set{"title": "No nuts", "handOver": "6 Dec 10:00", "allergies": "nuts"}), m, set{"name": "Buds", "wanted": "6", "eaten": "mouthful"})
	if x := h.trouble("allergen"); x != nil {
		t.Fatalf("nothing lay there yet: %+v", x)
	}
	steps := h.steps("")
	i := slices.IndexFunc(steps, func(s plan.LineStep) bool { return s.Planned.Draws && *s.PieceID == nutty })
	if i < 0 {
		t.Fatalf("%+v", h.line().LeftOut)
	}
	h.now = steps[i].PlannedStart.Add(10 * time.Minute)
	_, err := h.Finish(t.Context(), h.slug, steps[i].Op, steps[i].Version, true)
	h.ok(err)
	x := h.told("allergen", "Almond lay on the board")
	if x.Commission != "No nuts" || x.Act != "washed" || x.Stops {
		t.Errorf("%+v", x)
	}
	h.after(time.Minute)
	_, err = h.Washed(t.Context(), h.slug)
	h.ok(err)
	if x := h.trouble("allergen"); x != nil {
		t.Errorf("it is washed: %+v", x)
	}
	_, err = h.back()
	h.ok(err)
	h.told("allergen", "Almond lay on the board")
}

// TestTheShoppingListSaysWhatTheLabelMustNotName, with the order that it is for.
func TestTheShoppingListSaysWhatTheLabelMustNotName(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	m, o := h.mould(nil), h.order(set{"allergies": "egg"})
	p := h.piece(o, m, set{"wanted": "12"})
	h.must(studio.KindPiece, p, set{"peg": "2.8"})
	v, err := h.Needs(t.Context(), h.slug)
	h.ok(err)
	for _, s := range v.Shopping {
		if want := "Without egg on its label, for Winter wedding"; (s.Kind == "flowerPaste") != strings.Contains(s.Note, want) {
			t.Errorf("%+v", s)
		}
	}
	if !slices.ContainsFunc(v.Shopping, func(s shopLine) bool { return s.Kind == "flowerPaste" }) {
		t.Errorf("%+v", v.Shopping)
	}
}

// TestTubsCarryTheirLabels: what is left of paste with egg holds egg, and a label that
// nobody read stays unread.
func TestTubsCarryTheirLabels(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("Flower", "flowerPaste", "500 g", set{"holds": "egg", "may": "nuts"})
	h.lot("White", "sugarPaste", "2 kg", nil)
	m, o := h.mould(set{"weighedG": "20 g"}), h.order(nil)
	p := h.piece(o, m, set{"wanted": "6", "eaten": "nibbled"})
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	h.now = h.steps("knead")[0].Start.Add(10 * time.Minute)
	h.finish("knead")
	h.after(time.Hour)
	press := h.steps("press")[0]
	for range press.Planned.Run.Fills - 1 {
		_, err := h.Hands(t.Context(), h.slug, press.Op, press.Version, "", true)
		h.ok(err)
		press.Version++
		h.after(time.Minute)
	}
	for h.bench().Tallies[0].Made > 1 { // fewer came out: paste is left
		_, err := h.Count(t.Context(), h.slug, press.Op, press.Version, -1)
		h.ok(err)
		press.Version++
	}
	_, err := h.Hands(t.Context(), h.slug, press.Op, press.Version, "", true)
	h.ok(err)
	var tub *noun.Lot
	h.ok(h.Store.Read(t.Context(), h.slug, func(tx txOf) error {
		ls, err := tx.Lots()
		for i := range ls {
			if ls[i].Leftover {
				tub = &ls[i]
			}
		}
		return err
	}))
	if tub == nil {
		t.Fatal("there is no tub")
	}
	if !slices.Equal(tub.Holds, []string{"egg"}) || !slices.Equal(tub.May, []string{"nuts"}) || !slices.Equal(tub.Asks, []string{"maize"}) || tub.LabelRead {
		t.Errorf("%+v", tub)
	}
}
