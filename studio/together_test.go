package studio_test

import (
	"errors"
	"strings"
	"testing"

	"dustyfern/craft/fault"
	"dustyfern/studio"
	"dustyfern/studio/pantry"
	"dustyfern/studio/work"
)

func TestFewerPastesForACommission(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	a := h.piece(o, m, set{"name": "Leaves", "eaten": "mouthful", "wanted": "20"})
	b := h.piece(o, m, set{"name": "Wraps", "bent": "yes", "wanted": "20"})
	c := h.piece(o, m, set{"name": "Props", "carries": "yes", "eaten": "shown", "wanted": "4"})
	before := h.view(o, c).Paste.Peg.Value
	v, err := h.Together(t.Context(), h.slug, o)
	h.ok(err)
	if len(v.Pastes) != 1 || !v.Fewer { // wishes alone keep a mouthful soft: one paste from 2.0 carries all
		t.Fatalf("%+v", v)
	}
	said := false
	for _, x := range v.Moves {
		said = said || strings.HasPrefix(x, "Leaves") && strings.Contains(x, "eaten as a mouthful")
	}
	if !said {
		t.Errorf("what the merge costs the leaves is not said: %q", v.Moves)
	}
	h.ok(h.AcceptTogether(t.Context(), h.slug, o))
	one := h.view(o, c).Paste.Peg.Value
	for _, p := range []int64{a, b} {
		if got := h.view(o, p).Paste.Peg.Value; !near(got, one, 1e-9) || got < 2 {
			t.Errorf("%.2f, not %.2f", got, one)
		}
	}
	if v, _ = h.Together(t.Context(), h.slug, o); v.Fewer {
		t.Errorf("there is no fewer: %+v", v)
	}
	h.undoLast()
	if got := h.view(o, c).Paste.Peg.Value; !near(got, before, 1e-9) {
		t.Errorf("one press takes it back: %.2f", got)
	}
	h.must(studio.KindCommission, o, set{"children": "yes"}) // now a mouthful is hard: up to 1.0
	if v, _ = h.Together(t.Context(), h.slug, o); len(v.Pastes) != 2 {
		t.Errorf("%+v", v)
	}
}

func TestModellingPasteIsAskedOnce(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	peg := func() float64 { return h.view(o, p).Paste.Peg.Value }
	h.ok(h.Mix(t.Context(), h.slug, p, "1:1 with flower paste", ""))
	if !near(peg(), 1.6, 1e-9) {
		t.Errorf("%.2f", peg())
	}
	err := h.Mix(t.Context(), h.slug, p, "1:1 with modelling paste", "")
	var f *fault.Fault
	if !errors.As(err, &f) || f.Field != "mix" || len(f.Choices) != 2 || !strings.Contains(f.Choices[1].Say, "0.95 %") {
		t.Fatalf("%+v", err)
	}
	h.ok(h.Mix(t.Context(), h.slug, p, "1:1 with modelling paste", f.Choices[1].Text))
	if !near(peg(), 0.95, 1e-9) {
		t.Errorf("%.2f", peg())
	}
	h.ok(h.Mix(t.Context(), h.slug, p, "3:1 with modelling paste", "")) // kept from then on
	if !near(peg(), 0.4+0.25*1.1, 1e-9) {
		t.Errorf("%.3f", peg())
	}
	h.ok(h.Mix(t.Context(), h.slug, p, "1.25 %", ""))
	if !near(peg(), 1.25, 1e-9) {
		t.Errorf("%.2f", peg())
	}
	for name, want := range map[string]float64{"flower paste": 2.8, "Sugar Paste": 0.4, "fondant": 0.4, "moulding ready paste": 0.9} {
		h.ok(h.Mix(t.Context(), h.slug, p, name, ""))
		if !near(peg(), want, 1e-9) {
			t.Errorf("%s is %.2f", name, peg())
		}
	}
	for _, two := range []string{"gum paste", "Modelling paste"} { // each is said of two
		if err := h.Mix(t.Context(), h.slug, p, two, ""); !errors.As(err, &f) || len(f.Choices) != 2 {
			t.Errorf("%s: %+v", two, err)
		}
	}
	h.ok(h.Mix(t.Context(), h.slug, p, "gum paste", "modellingPaste"))
	if !near(peg(), 1.5, 1e-9) {
		t.Errorf("%.2f", peg())
	}
	h.kitchen(set{"words": "us"})
	h.ok(h.Mix(t.Context(), h.slug, p, "gum paste", "")) // there it is flower paste
	if !near(peg(), 2.8, 1e-9) {
		t.Errorf("%.2f", peg())
	}
	h.kitchen(set{"words": "uk"})
	h.ok(h.Mix(t.Context(), h.slug, p, "1.25 %", ""))
	for _, bad := range []string{"", "a handful", "99 %"} {
		h.refused(h.Mix(t.Context(), h.slug, p, bad, ""), "mix", "")
	}
	knead := h.view(o, p).Paste.Knead
	if len(knead) != 4 || !strings.Contains(knead[0], "Flower") || !strings.Contains(knead[1], "cut across") {
		t.Errorf("%q", knead)
	}
}

func TestWillItDo(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.must(studio.KindLot, h.tub("White").ID, set{"massG": "150 g", "packG": "250 g"})
	h.must(studio.KindCommission, o, set{"handOver": "4 Dec 10:00"})
	later := h.order(set{"title": "Later", "handOver": "12 Dec 10:00"})
	for _, order := range []int64{o, later} {
		p := h.piece(order, m, set{"wanted": "20", "swatch": "#F7F5EE"})
		h.must(studio.KindPiece, p, set{"school": "light"})
	}
	v, err := h.Needs(t.Context(), h.slug)
	h.ok(err)
	if len(v.Commissions) != 2 || v.Commissions[0].Title != "Winter wedding" || !strings.HasPrefix(v.Commissions[1].Title, "Later") {
		t.Fatalf("%+v", v.Commissions)
	}
	if why := v.Commissions[0].Lines[0].Why; why == nil || len(why.Values) != 1 || why.Values[0].Text != v.Commissions[0].Lines[0].Need {
		t.Errorf("%+v", why)
	}
	if v.Commissions[0].Lines[0].Short != "" || v.Commissions[1].Lines[0].Short == "" {
		t.Errorf("the earlier one has the first claim: %+v", v.Commissions)
	}
	byKind := map[string]pantry.ShopLine{}
	for _, s := range v.Shopping {
		byKind[s.Kind] = s
	}
	one := 0.0
	for _, x := range h.view(o, h.pieceOf(o)).Paste.Mix {
		if x.Name == "White" {
			one = x.Grams.Value
		}
	}
	if s := byKind["sugarPaste"]; !near(s.Short.Value, 2*one-150, 0.01) || s.Packs != 1 || s.Pack != "250 g" {
		t.Errorf("%+v of %.1f g each", s, one)
	}
	if s := byKind["cmc"]; s.Packs != 1 || s.Pack != "50 g" {
		t.Errorf("%+v", s)
	}
	if len(v.Without) == 0 || v.Without[0].Missing != "hardener powder" {
		t.Errorf("%+v", v.Without)
	}
	text, err := h.ShoppingFile(t.Context(), h.slug, "txt")
	h.ok(err)
	table, err := h.ShoppingFile(t.Context(), h.slug, "csv")
	h.ok(err)
	if !strings.Contains(string(text), "[ ] sugar paste: 1 × 250 g") || !strings.HasPrefix(string(table), "name,kind,shortG,packs,packG\n") || !strings.Contains(string(table), "\nsugar paste,sugarPaste,") {
		t.Errorf("%s\n%s", text, table)
	}
	// what is kneaded is wanted no more, and no less is there
	h.finish("knead")
	again, err := h.Needs(t.Context(), h.slug)
	h.ok(err)
	if len(again.Commissions[0].Lines) != 0 {
		t.Errorf("%+v", again.Commissions[0].Lines)
	}
	for _, s := range again.Shopping {
		if s.Kind == "sugarPaste" && !near(s.Short.Value, 2*one-150, 0.01) {
			t.Errorf("%+v", s)
		}
	}
}

// pieceOf is the first piece of an order.
func (h *house) pieceOf(order int64) int64 {
	h.t.Helper()
	c, err := h.Commission(h.t.Context(), h.slug, order)
	h.ok(err)
	return c.Pieces[0].ID
}

func TestTheStudioTakesASide(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"eaten": "mouthful"})
	first := h.view(o, p).Paste
	if len(first.Sides) != 1 || first.Sides[0].Own || first.Sides[0].Chosen != "lightDose" || len(first.Sides[0].Sides) != 2 {
		t.Fatalf("%+v", first.Sides)
	}
	h.ok(h.TakeSide(t.Context(), h.slug, "eatenTopper", "halfAndHalf"))
	if v := h.view(o, p).Paste; !near(v.Peg.Value, 1.6, 1e-9) || !v.Sides[0].Own {
		t.Errorf("%+v", v.Peg)
	}
	h.ok(h.TakeSide(t.Context(), h.slug, "eatenTopper", "lightDose"))
	if v := h.view(o, p).Paste; !near(v.Peg.Value, 0.7, 0.1) || !strings.Contains(v.PegSays, "light") {
		t.Errorf("%+v %q", v.Peg, v.PegSays)
	}
	h.must(studio.KindPiece, p, set{"peg": "1.2"}) // what is said of one piece goes before
	if v := h.view(o, p).Paste; !near(v.Peg.Value, 1.2, 1e-9) {
		t.Errorf("%+v", v.Peg)
	}
	all, err := h.SchoolsOf(t.Context(), h.slug)
	h.ok(err)
	if len(all) != 5 {
		t.Errorf("%+v", all)
	}
	rose := h.piece(o, m, set{"name": "Rose, in relief", "eaten": "shown"})
	if v := h.view(o, rose).Paste; len(v.Sides) != 0 {
		t.Errorf("a name asks nothing: %+v", v.Sides)
	}
	h.must(studio.KindPiece, rose, set{"name": "Tea rose, open", "edgeMM": "0.4"})
	for side, strength := range map[string]float64{"halfAndHalf": 1.6, "flowerPaste": 2.8} {
		h.ok(h.TakeSide(t.Context(), h.slug, "roses", side))
		if v := h.view(o, rose).Paste; !near(v.Peg.Value, strength, 1e-9) {
			t.Errorf("%s: %+v in %s", side, v.Peg, v.WindowSays)
		}
	}
	h.lot("Moulding", "mouldingReadyPaste", "2 kg", nil)
	h.must(studio.KindPiece, rose, set{"name": "Leaf", "peg": "0.9", "edgeMM": ""})
	if v := h.view(o, rose).Paste; len(v.Sides) != 1 || v.Sides[0].Code != "packet" || has(v.Notes, "pinch") {
		t.Errorf("%+v %q", v.Sides, v.Notes)
	}
	h.ok(h.TakeSide(t.Context(), h.slug, "packet", "hardened"))
	if v := h.view(o, rose).Paste; !has(v.Notes, "pinch of CMC") {
		t.Errorf("%q", v.Notes)
	}
	h.refused(h.TakeSide(t.Context(), h.slug, "eatenTopper", "marble"), "side", "")
	h.refused(h.TakeSide(t.Context(), h.slug, "jam", "first"), "question", "")
}

func TestLeftoverPasteIsUsedFirst(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("End of white", "sugarPaste", "30 g", set{"leftover": "yes"})
	p := h.piece(o, m, set{"wanted": "30"})
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	if got := grams(h.view(o, p)); !near(got["End of white"], 30, 1e-6) || got["White"] < 1 {
		t.Errorf("%v", got)
	}
}

func TestAColourInAnotherBase(t *testing.T) {
	t.Parallel()
	h := hollow(t)
	ask := func(base string) (work.OtherBase, error) {
		return h.ShowRecipe(t.Context(), h.slug, 1, "#6B9455", base, "120 g")
	}
	for _, base := range []string{"royal icing", "white chocolate dough", "ivory sugar paste"} {
		out, err := ask(base)
		h.ok(err)
		if len(out.Recipe.Gels) == 0 || de(t, out.Recipe.Hex, "#6B9455") > 4 || out.Says != "" {
			t.Errorf("%s: %+v", base, out)
		}
	}
	dark, err := ask("chocolate dough")
	h.ok(err)
	if !strings.Contains(dark.Says, "darker") || dark.Recipe.Reach == "" {
		t.Errorf("%+v", dark)
	}
	for _, c := range h.colours(1).Colours {
		for _, b := range c.Bases {
			if b.Say == "Hard end of navy" {
				t.Errorf("navy is no base for %s", c.Name)
			}
		}
	}
	_, err = ask("butter")
	h.refused(err, "base", "")
	_, err = h.ShowRecipe(t.Context(), h.slug, 1, "green", "royal icing", "120 g")
	h.refused(err, "target", "")
	_, err = h.ShowRecipe(t.Context(), h.slug, 1, "#6B9455", "royal icing", "much")
	h.refused(err, "grams", "")
}

// TestWhoBallsLeftoversIsOfferedNone: a colour out of tubs is for those who
// knead them together; who keeps them apart is shown the tub of that colour.
func TestWhoBallsLeftoversIsOfferedNone(t *testing.T) {
	t.Parallel()
	h := hollow(t)
	offered := func() (n int) {
		for _, c := range h.colours(1).Colours {
			if c.Tubs != nil {
				n++
			}
		}
		return n
	}
	if offered() == 0 {
		t.Fatal("the demo has tubs for none of its colours")
	}
	all := offered()
	for side, most := range map[string]int{"balled": 0, "kept": all - 1, "recombined": all} {
		h.ok(h.TakeSide(t.Context(), h.slug, "leftovers", side))
		if n := offered(); n > most || side == "recombined" && n != all {
			t.Errorf("%s: %d of %d colours out of tubs", side, n, all)
		}
	}
}
