package studio_test

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"dustyfern/craft/colour"
	"dustyfern/demo"
	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/work"
)

func (h *house) colours(order int64) work.ColoursView {
	h.t.Helper()
	v, err := h.Colours(h.t.Context(), h.slug, order)
	h.ok(err)
	return v
}

// hollow is the demo studio.
func hollow(t testing.TB) *house {
	h := newHouse(t)
	row, err := h.Import(t.Context(), demo.Document(h.now))
	h.ok(err)
	h.slug = row.Slug
	return h
}

func de(t testing.TB, a, b string) float64 {
	t.Helper()
	d, err := colour.Difference(colour.DifferenceIn{A: a, B: b})
	if err != nil {
		t.Fatal(err)
	}
	return d.De00
}

// The fernery has three greens, a red and a near-black: each is mixed from the
// gels of the pantry and comes out as wanted once it has rested.
func TestTheFerneryIsMixed(t *testing.T) {
	t.Parallel()
	h := hollow(t)
	v := h.colours(1)
	if len(v.Colours) != 6 {
		t.Fatalf("%d colours", len(v.Colours))
	}
	light := 101.0
	for i, c := range v.Colours {
		l, err := colour.Lightness(c.Target)
		h.ok(err)
		if l > light || v.Board[i].Swatch != c.Target {
			t.Errorf("%s stands out of its place on the board", c.Name)
		}
		light = l
		if c.Recipe == nil {
			t.Errorf("%s: %q", c.Name, c.Say)
			continue
		}
		if d := de(t, c.Recipe.Hex, c.Target); d > 2.5 {
			t.Errorf("%s comes out as %s, ΔE %.1f away", c.Name, c.Recipe.Hex, d)
		}
		if n := len(c.Recipe.Gels); n < 1 || n > 3 || len(c.Steps) < 3 {
			t.Errorf("%s: %d gels, %d steps", c.Name, n, len(c.Steps))
		}
		fresh, rested := "", ""
		for _, p := range c.Pats {
			if p.Named == "" {
				t.Errorf("%s has no name for who does not see it", p.Hex)
			}
			switch p.Kind {
			case "fresh":
				fresh = p.Hex
			case "rested":
				rested = p.Hex
			}
		}
		a, _ := colour.Lightness(fresh)
		b, _ := colour.Lightness(rested)
		if a <= b {
			t.Errorf("%s is paler fresh (%s) than rested (%s)", c.Name, fresh, rested)
		}
	}
	if n := v.Colours[3].Pats[0].Named; n != "deep fern" {
		t.Errorf("the dark fern looks like %s", n)
	}
	dark := v.Colours[len(v.Colours)-1]
	if dark.Name != "near black" {
		t.Errorf("the darkest is %s", dark.Name)
	}
	if v.BoardIn.Value != 10 { // five wipes of 2 min
		t.Errorf("%v min on the board", v.BoardIn.Value)
	}
}

func TestAKneadNamesItsGelsAndTakesThem(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	gel := h.lot("Fern", "gel", "20 g", set{"swatch": "#5C9A58", "deepening": "40 %"})
	h.lot("Ink", "gel", "20 g", set{"swatch": "#525156"})
	p := h.piece(o, m, set{"wanted": "60", "swatch": "#8FB983", "colour": "leaf"})
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	c := h.colours(o).Colours[0]
	if c.Recipe == nil || c.Recipe.Gels[0].Name != "Fern" {
		t.Fatalf("%+v", c)
	}
	want := c.Recipe.Gels[0].Grams.Value
	said := false
	for _, f := range h.steps("knead")[0].Figures {
		said = said || f.Unit == "Fern" && strings.Contains(f.Text, "drop")
	}
	if !said {
		t.Errorf("the bench does not name the gel: %+v", h.steps("knead")[0].Figures)
	}
	h.finish("knead")
	if got := 20 - h.raw(gel).MassG; !near(got, want, 1e-6) {
		t.Errorf("%.4f g were taken of %.4f", got, want)
	}
	// what is chosen stays chosen, and comes back when its bottle is gone
	h.ok(h.SetColour(t.Context(), h.slug, []int64{p}, "gels", fmt.Sprint(h.onShelf("Ink").ID)))
	if c := h.colours(o).Colours[0]; c.Recipe == nil || c.Recipe.Gels[0].Name != "Ink" || len(c.Others) == 0 {
		t.Errorf("%+v", c.Recipe)
	}
	ink := h.tub("Ink").ID
	h.ok(h.Delete(t.Context(), h.slug, studio.KindLot, ink, false))
	if c := h.colours(o).Colours[0]; c.Recipe == nil || c.Recipe.Gels[0].Name != "Fern" || !strings.Contains(c.Missing, "Ink") {
		t.Errorf("%+v, %q", c.Recipe, c.Missing)
	}
	h.ok(h.SetColour(t.Context(), h.slug, []int64{p}, "asItIs", ""))
	if c := h.colours(o).Colours[0]; c.Recipe != nil || c.Way != "asItIs" {
		t.Errorf("%+v", c)
	}
	h.refused(h.SetColour(t.Context(), h.slug, []int64{p}, "moonlight", ""), "from", "leftovers")
	h.refused(h.SetColour(t.Context(), h.slug, nil, "", ""), "ids", "")
}

// TestADriedTubMakesNoColour: graded 5 it is left alone, graded 4 it is used.
func TestADriedTubMakesNoColour(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	tub := h.lot("Green end", "sugarPaste", "150 g", set{"swatch": "#6B9455", "leftover": "yes"})
	p := h.piece(o, m, set{"wanted": "12", "swatch": "#8FB377", "colour": "light green"})
	h.must(studio.KindPiece, p, set{"peg": "0.4"})
	for grade, serves := range map[string]bool{"4": true, "5": false} {
		h.must(studio.KindLot, tub, set{"grade": grade})
		if c := h.colours(o).Colours[0]; (c.Tubs != nil) != serves {
			t.Errorf("graded %s: %+v", grade, c.Tubs)
		}
	}
}

func TestLeftoversMakeAColourWithoutGel(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("Green end", "sugarPaste", "150 g", set{"swatch": "#6B9455", "leftover": "yes"})
	h.lot("Nutty", "sugarPaste", "150 g", set{"swatch": "#8FB377", "leftover": "yes", "holds": "nuts"})
	h.lot("CMC", "cmc", "45 g", nil)
	h.must(studio.KindCommission, o, set{"allergies": "nuts"})
	p := h.piece(o, m, set{"wanted": "30", "swatch": "#8FB377", "colour": "light green"})
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	c := h.colours(o).Colours[0]
	if c.Tubs == nil || !strings.Contains(c.Tubs.Saves, "not thrown away") {
		t.Fatalf("%+v", c.Tubs)
	}
	total := 0.0
	for _, u := range c.Tubs.Use {
		if u.Name == "Nutty" {
			t.Error("nuts are kept from the table")
		}
		total += u.Grams.Value
	}
	if d := de(t, c.Tubs.Hex, "#8FB377"); d > 3 {
		t.Errorf("ΔE %.1f", d)
	}
	h.ok(h.SetColour(t.Context(), h.slug, []int64{p}, "leftovers", ""))
	v := h.view(o, p)
	sum, gum := 0.0, 0.0
	for _, x := range v.Paste.Mix {
		if strings.HasPrefix(x.Name, "hardener") {
			gum += 100 * x.Grams.Value
			sum += x.Grams.Value
			continue
		}
		gum += 0.4 * x.Grams.Value
		sum += x.Grams.Value
	}
	if !near(gum/sum, 1.6, 0.01) {
		t.Errorf("the tubs come to %.2f %% gum, not to the peg", gum/sum)
	}
	before := h.raw(h.tub("Green end").ID).MassG
	h.finish("knead")
	if after := h.raw(h.tub("Green end").ID).MassG; after >= before {
		t.Errorf("%g g, then %g g", before, after)
	}
}

func TestRelatedTonesOfOneMix(t *testing.T) {
	t.Parallel()
	h := hollow(t)
	v := h.colours(1)
	byName := map[string]work.ColourView{}
	for _, c := range v.Colours {
		byName[c.Name] = c
	}
	down := byName["fern green, light"].LetDown
	if len(down) == 0 {
		t.Fatal("the light green comes of a darker one with white")
	}
	for _, d := range down {
		if d.Dark.Value <= 0 || d.White.Value <= 0 {
			t.Errorf("%+v", d)
		}
		if off := de(t, d.Hex, byName["fern green, light"].Target); off > 4.2 {
			t.Errorf("%s is ΔE %.1f off", d.From, off)
		}
		if strings.Contains(d.From, "black") || strings.Contains(d.From, "red") {
			t.Errorf("green does not come of %s", d.From)
		}
	}
	if len(byName["near black"].LetDown) != 0 {
		t.Error("nothing is darker than the near-black")
	}
	// half of a part-mixed piece is coloured, and only that half gets gel
	h.ok(h.SetStrands(t.Context(), h.slug, byName["fern green, dark"].IDs, []string{""}, ""))
	for _, c := range h.colours(1).Colours {
		byName[c.Name] = c
	}
	dark := byName["fern green, dark"]
	h.ok(h.SetStrands(t.Context(), h.slug, dark.IDs, nil, ""))
	through := h.colours(1)
	for _, c := range through.Colours {
		if c.Name != "fern green, dark" {
			continue
		}
		if c.Plain != "" || dark.Plain == "" || gelOf(dark.Recipe) >= 0.9*gelOf(c.Recipe) || !has(dark.Steps, "Part-mixed") || has(c.Steps, "Part-mixed") {
			t.Errorf("mixed through %v, part-mixed %v", gelOf(c.Recipe), gelOf(dark.Recipe))
		}
	}
	if m := byName["fern green, dark"].Marbled; m == nil || !strings.Contains(m.Say, "fold") {
		t.Errorf("%+v", m)
	}
}

func TestACardTeachesABottle(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	gel := h.lot("Fern", "gel", "20 g", set{"swatch": "#5C9A58"})
	first := h.tub("Fern").Gel
	if !strings.Contains(first.Strength, "assumed") {
		t.Errorf("%+v", first)
	}
	// a bottle half as strong: what 0.4 g shows is what 0.2 g should
	out, err := colour.Tint(colour.TintIn{Gels: []any{map[string]any{"gel": map[string]any{"swatch": "#5C9A58"}, "dose": 0.2}}})
	h.ok(err)
	band := first.Band
	for range 3 {
		h.ok(h.Compare(t.Context(), h.slug, gel, work.CompareIn{Gel: "0.04 g", Paste: "10 g", Hours: "0", Seen: out.Hex}))
		v := h.tub("Fern").Gel
		if v.Band >= band {
			t.Errorf("the band narrows: %.3f after %.3f", v.Band, band)
		}
		band = v.Band
	}
	l := h.raw(gel)
	if r := l.Mixes[0].Ratio; !near(r, 0.5, 0.02) || len(l.Mixes) != 3 {
		t.Errorf("%+v", l.Mixes)
	}
	h.refused(h.Compare(t.Context(), h.slug, gel, work.CompareIn{Gel: "1 drop", Paste: "10 g", Seen: "#4040FF"}), "seen", "no shade")
	h.refused(h.Compare(t.Context(), h.slug, gel, work.CompareIn{Gel: "", Paste: "10 g", Seen: "#8FB983"}), "gel", "How much")
	h.refused(h.Compare(t.Context(), h.slug, gel, work.CompareIn{Gel: "1 drop", Paste: "", Seen: "#8FB983"}), "paste", "")
	h.refused(h.Compare(t.Context(), h.slug, gel, work.CompareIn{Gel: "1 drop", Paste: "10 g", Seen: "mossy"}), "seen", "")
	// so a recipe takes twice as much of it, and trusts it more
	m, o := h.mould(nil), h.order(nil)
	h.lot("White", "sugarPaste", "1 kg", nil)
	h.lot("Twin", "gel", "20 g", set{"swatch": "#5C9A58"})
	p := h.piece(o, m, set{"swatch": "#8FB983"})
	h.must(studio.KindPiece, p, set{"peg": "0.4"})
	dose := func(name string) work.RecipeView {
		h.ok(h.SetColour(t.Context(), h.slug, []int64{p}, "gels", fmt.Sprint(h.onShelf(name).ID)))
		c := h.colours(o).Colours[0]
		if c.Recipe == nil {
			t.Fatalf("%+v", c)
		}
		return *c.Recipe
	}
	weak, strong := dose("Fern"), dose("Twin")
	if r := weak.Gels[0].Grams.Value / strong.Gels[0].Grams.Value; !near(r, 2, 0.08) {
		t.Errorf("%.3f times as much", r)
	}
	if !strings.Contains(weak.Band, "compared") || !strings.Contains(strong.Band, "until the bottles are compared") {
		t.Errorf("%q and %q", weak.Band, strong.Band)
	}
}

func BenchmarkColourBench(b *testing.B) {
	h := hollow(b)
	for b.Loop() {
		h.colours(1)
	}
}

// TestAColourIsWantedForAllItsPieces: pieces of one colour change together, as
// one line of the journal that one undo takes back.
func TestAColourIsWantedForAllItsPieces(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("Fern", "gel", "20 g", set{"swatch": "#5C9A58"})
	a := h.piece(o, m, set{"name": "Leaf", "wanted": "6", "swatch": "#8FB983", "colour": "leaf"})
	b := h.piece(o, m, set{"name": "Bract", "wanted": "9", "swatch": "#8FB983", "colour": "leaf"})
	swatches := func() (out []string) {
		for _, id := range []int64{a, b} {
			v := h.view(o, id)
			out = append(out, v.Swatch+" "+v.Colour)
		}
		return out
	}
	before := swatches()
	h.ok(h.SetTarget(t.Context(), h.slug, []int64{a, b}, "Lab 53 -25 29", "fern"))
	after := swatches()
	if after[0] != after[1] || after[0] == before[0] || !strings.HasPrefix(after[0], "#") || !strings.HasSuffix(after[0], " fern") {
		t.Error(before, after)
	}
	if says := h.journal(o)[0].Says; !strings.Contains(says, "Leaf and Bract") {
		t.Error(says)
	}
	if err := h.SetTarget(t.Context(), h.slug, []int64{a, 9999}, "#112233", "ink"); !errors.Is(err, journal.ErrNotFound) {
		t.Error(err)
	}
	h.refused(h.SetTarget(t.Context(), h.slug, []int64{a, b}, "rowan", "ink"), "swatch", "Write a swatch")
	if got := swatches(); !slices.Equal(got, after) {
		t.Errorf("half of a refused change stands: %v", got)
	}
	h.undo()
	if got := swatches(); !slices.Equal(got, before) {
		t.Errorf("%v after undo, %v before", got, before)
	}
}

// gelOf a recipe in all, g.
func gelOf(r *work.RecipeView) (g float64) {
	for _, x := range r.Gels {
		g += x.Grams.Value
	}
	return g
}
