package studio_test

import (
	"bytes"
	"fmt"
	"regexp"
	"strings"
	"testing"

	"dustyfern/studio"
	"dustyfern/studio/document"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// threeGreens is an order of 24 leaves of a dark green beside two other greens.
func threeGreens(t *testing.T) (h *house, order, leaf int64) {
	h, m, o := stocked(t)
	h.lot("Fern", "gel", "20 g", set{"swatch": "#5C9A58"})
	h.lot("Holly", "gel", "20 g", set{"swatch": "#37775E"})
	h.lot("Buttercup", "gel", "20 g", set{"swatch": "#F2CE48"})
	leaf = h.piece(o, m, set{"name": "Leaves", "wanted": "60", "swatch": "#4F7A3F", "colour": "dark green"})
	h.piece(o, m, set{"name": "Buds", "wanted": "6", "swatch": "#6B9455", "colour": "mid green"})
	h.piece(o, m, set{"name": "Tips", "wanted": "6", "swatch": "#8FB377", "colour": "light green"})
	return h, o, leaf
}

// TestPartMixedOfOwnColours divides the paste of a piece between three of the order's
// greens, colours each by itself and takes the gels of all three.
func TestPartMixedOfOwnColours(t *testing.T) {
	t.Parallel()
	h, o, leaf := threeGreens(t)
	named := func(name string) work.ColourView {
		t.Helper()
		for _, c := range h.colours(o).Colours {
			if c.Name == name {
				return c
			}
		}
		t.Fatalf("no %s", name)
		return work.ColourView{}
	}
	mid := "#6B9455"
	light := "#8FB377"
	whole := named("dark green")
	if whole.Marbled != nil || len(whole.Beside) != 3 || whole.Parts != "" {
		t.Errorf("mixed through: %+v, %q", whole.Beside, whole.Parts)
	}
	h.ok(h.SetStrands(t.Context(), h.slug, []int64{leaf}, []string{mid, light}, "1 : 1 : 2"))
	v := named("dark green")
	if v.Marbled == nil || len(v.Marbled.Ropes) != 3 || v.Parts != "1 : 1 : 2" {
		t.Fatalf("%+v, %q", v.Marbled, v.Parts)
	}
	for i, want := range []string{"dark green a quarter", "mid green a quarter", "light green half"} {
		if r := v.Marbled.Ropes[i]; r.Name+" "+r.Share != want || (r.Recipe == nil) != (i == 0) {
			t.Errorf("%+v, want %s", r, want)
		}
	}
	if v.Marbled.Far == v.Marbled.Solid || v.Marbled.Solid == v.Pats[0].Hex {
		t.Errorf("from afar %s, through %s", v.Marbled.Far, v.Marbled.Solid)
	}
	// a quarter of the paste takes a quarter of the gel, within what hands can round
	if q := gelOf(v.Recipe) / gelOf(whole.Recipe); q < 0.18 || q > 0.32 {
		t.Errorf("%g g for a quarter of what takes %g g", gelOf(v.Recipe), gelOf(whole.Recipe))
	}

	knead := h.steps("knead")[0]
	for _, s := range h.steps("knead") {
		if s.Planned.Name == "Leaves" {
			knead = s
		}
	}
	for _, want := range []string{"of dark green", "of mid green", "of light green", "Colour each by itself"} {
		if !has(knead.Says, want) {
			t.Errorf("no %q in %q", want, knead.Says)
		}
	}
	sum, into := map[string]float64{}, map[string]bool{}
	for _, f := range knead.Figures {
		if gel, green, ok := strings.Cut(f.Unit, " into the "); ok {
			sum[gel] += f.Value
			into[green] = true
		}
	}
	if len(into) != 3 {
		t.Errorf("gels go into %v", into)
	}
	before := map[string]float64{}
	for gel := range sum {
		before[gel] = h.raw(h.tub(gel).ID).MassG
	}
	_, err := h.Finish(t.Context(), h.slug, knead.Op, knead.Version, true)
	h.ok(err)
	for gel, g := range sum {
		if took := before[gel] - h.raw(h.tub(gel).ID).MassG; !near(took, g, 0.011) {
			t.Errorf("%.3f g of %s are taken, the hands took %.3f g", took, gel, g)
		}
	}

	// out of leftovers it is one colour again
	h.ok(h.SetColour(t.Context(), h.slug, []int64{leaf}, "asItIs", ""))
	if c := named("dark green"); c.Marbled != nil {
		t.Errorf("%+v", c.Marbled)
	}
}

func TestWhatCannotBePartMixed(t *testing.T) {
	t.Parallel()
	h, _, leaf := threeGreens(t)
	for _, c := range []struct {
		with               []string
		parts, field, says string
	}{
		{[]string{"#4F7A3F"}, "", "with", "of that colour already"},
		{[]string{"#123456"}, "", "with", "order's own colours"},
		{[]string{"", ""}, "", "with", "once"},
		{[]string{"#6B9455", "#8FB377", "", "#123456"}, "", "with", "four colours"},
		{[]string{"#6B9455", "#8FB377"}, "1 : 1", "parts", "each of the 3 colours, its own first: 1 : 1 : 1"},
		{[]string{""}, "1 : some", "parts", "its own first: 1 : 1"},
		{[]string{""}, "1 : NaN", "parts", "its own first"},
		{[]string{""}, "1 : 100", "parts", "ten times"},
	} {
		h.refused(h.SetStrands(t.Context(), h.slug, []int64{leaf}, c.with, c.parts), c.field, c.says)
	}
	h.ok(h.SetStrands(t.Context(), h.slug, []int64{leaf}, []string{""}, "2 : 1"))
	if c := h.colours(1).Colours; c[len(c)-1].Plain == "" || c[len(c)-1].Parts != "1 : 0.5" {
		t.Errorf("%+v", c[len(c)-1])
	}
	h.must(studio.KindPiece, leaf, set{"swatch": noun.PlainSwatch}) // plain beside plain is no stripe
	for _, c := range h.colours(1).Colours {
		if c.Marbled != nil || has(c.Steps, "Part-mixed") {
			t.Errorf("%+v", c.Marbled)
		}
	}
}

// TestStripesOfBefore: a document of version 4 knew plain paste alone beside a colour.
func TestStripesOfBefore(t *testing.T) {
	t.Parallel()
	h, _, leaf := threeGreens(t)
	h.ok(h.SetStrands(t.Context(), h.slug, []int64{leaf}, []string{""}, ""))
	now := h.export(h.slug)
	raw := bytes.Replace(now, []byte(document.DocumentFormat), []byte("dustyfern-studio/4"), 1)
	raw = regexp.MustCompile(`"strands": \[\s*\{[^}]*\}\s*\]`).ReplaceAll(raw, []byte(`"marbled": true`))
	raw = bytes.ReplaceAll(raw, []byte(`"strands": []`), []byte(`"marbled": false`))
	d, err := document.ReadDocument(raw)
	h.ok(err)
	for i, want := range []string{"[{  1}]", "[]", "[]"} {
		if got := fmt.Sprint(d.Commissions[0].Pieces[i].Strands); got != want {
			t.Errorf("piece %d: %s, want %s", i+1, got, want)
		}
	}
	bad := bytes.Replace(now, []byte(`"parts": 1`), []byte(`"parts": -1`), 1)
	_, err = document.ReadDocument(bad)
	h.refused(err, "commissions[0].pieces[0].strands[0]", "tenth")
}
