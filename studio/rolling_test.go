package studio_test

import (
	"bytes"
	"fmt"
	"math"
	"strconv"
	"strings"
	"testing"

	"dustyfern/craft/outline"
	"dustyfern/craft/technique"
	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

const drawnKey = `<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="40mm" viewBox="0 0 60 40"><path d="M0 0h60v40h-60z"/><circle cx="30" cy="20" r="8"/></svg>`

// Each way that cuts from a sheet says how it is rolled: sheets with their grams, every
// piece of the batch on one of them, none over its rim.
func TestEveryCutWayIsRolledOut(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	for _, kind := range []string{"sugarPaste", "flowerPaste", "darkChocolate"} {
		h.lot(kind, kind, "3 kg", nil)
	}
	o := h.order(nil)
	cut := 0
	for _, way := range waysOfPieces() {
		if way.Rolls == nil {
			continue
		}
		cut++
		p := h.make(studio.KindPiece, o, h.madeWith(way))
		if way.Rolls.Cuts[0].Role == technique.OwnOutline {
			h.ok(h.DrawPiece(t.Context(), h.slug, p, []byte(drawnKey)))
		}
		v := h.view(o, p)
		if v.Make == nil || v.Make.RollOut == nil {
			t.Errorf("%s: no sheet, %q", way.Names.UK, v.Missing)
			continue
		}
		r := v.Make.RollOut
		if len(r.Sheets) == 0 || r.Grams == nil || r.Grams.Value <= 0 || !strings.Contains(r.Says, "sheet") {
			t.Errorf("%s: %+v", way.Names.UK, r)
			continue
		}
		n := 0
		for _, s := range r.Sheets {
			n += len(s.Laid)
			for _, l := range s.Laid {
				rings, err := outline.FromPath(r.Outlines[l.Of])
				h.ok(err)
				for i := range rings {
					rings[i] = outline.Turned(rings[i], l.Deg)
				}
				lo, hi := outline.Box(rings)
				if lo[0]+l.XMM < 1 || lo[1]+l.YMM < 1 || hi[0]+l.XMM > s.LongMM-1 || hi[1]+l.YMM > s.WideMM-1 {
					t.Errorf("%s: one leaves its sheet", way.Names.UK)
				}
			}
		}
		if n < 1 || !strings.HasPrefix(r.Says, strconv.Itoa(n)+" ") {
			t.Errorf("%s: %d on the sheets, it says %q", way.Names.UK, n, r.Says)
		}
	}
	if cut < 14 {
		t.Errorf("%d ways cut from a sheet", cut)
	}
}

// Paste to knead is what the sheets take, not a usual share of scrap.
func TestPasteFollowsTheSheets(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	cutter := h.make(studio.KindTool, 0, set{"name": "Leaf cutter", "kind": "plungerCutter", "lengthMM": "34 mm", "widthMM": "26 mm"})
	p := h.make(studio.KindPiece, o, set{"name": "Leaves", "wanted": "16", "tool": strconv.FormatInt(cutter, 10), "technique": "T10"})
	v := h.view(o, p).Make
	if got, take := v.Paste.Value, v.RollOut.Grams.Value; got < take || got > take*1.1 {
		t.Errorf("%.0f g to knead, the sheets take %.0f", got, take)
	}
	// a rectangle of the same box takes more, and weighs its box
	h.must(studio.KindTool, cutter, set{"outline": "straight, four corners"})
	box := h.view(o, p).Make
	if box.Paste.Value <= v.Paste.Value || math.Abs(box.Ball.Value-34*26*2*1.35/1000) > 0.01 {
		t.Errorf("as a rectangle %.0f g, each %.2f g; as a leaf %.0f g", box.Paste.Value, box.Ball.Value, v.Paste.Value)
	}
	h.refused(h.set(studio.KindTool, cutter, set{"outline": "a cloud"}), "outline", "Choose one of")
	h.refused(h.set(studio.KindTool, cutter, set{"outline": "its own, from a drawing"}), "outline", "Bring the drawing first")
	h.refused(h.set(studio.KindTool, cutter, set{"outline": "star", "outlineCount": "2"}), "outlineCount", "From 3")
	h.must(studio.KindTool, cutter, set{"outline": "a star", "outlineCount": "7"})
	if pic := h.drawn(cutter).Picture; strings.Count(pic.Outline, "L") != 13 {
		t.Errorf("a star of seven points is drawn as %s", pic.Outline)
	}
}

// A drawing becomes a cutter, or a piece of its own; what it measures follows from it.
func TestADrawingIsCut(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	cutter := h.make(studio.KindTool, 0, set{"name": "Key cutter", "kind": "cutter", "lengthMM": "10 mm", "widthMM": "10 mm"})
	h.ok(h.DrawTool(t.Context(), h.slug, cutter, []byte(drawnKey)))
	v := h.drawn(cutter)
	if v.Says[0] != "60 mm × 40 mm" || !v.Prints || v.Picture.Outline == "" {
		t.Errorf("%+v", v)
	}
	p := h.make(studio.KindPiece, o, set{"name": "Keys", "wanted": "5", "tool": strconv.FormatInt(cutter, 10), "technique": "T10"})
	// 60 × 40 less the window of 8 mm
	if got, want := h.view(o, p).Make.Ball.Value, (2400-math.Pi*64)*2*1.35/1000; math.Abs(got-want) > 0.05 {
		t.Errorf("a key weighs %.2f g, want %.2f", got, want)
	}
	for text, says := range map[string]string{
		"not a drawing": "no svg element",
		strings.Replace(drawnKey, "60mm", "600mm", 1) + " ":                                                    "",
		`<svg width="2000mm" height="2000mm" viewBox="0 0 1 1"><rect width="1" height="1"/></svg>`:             "Are its units right?",
		`<svg width="20mm" height="20mm" viewBox="0 0 20 20"><text>A</text><rect width="9" height="9"/></svg>`: "letters are no outline",
	} {
		err := h.DrawTool(t.Context(), h.slug, cutter, []byte(text))
		if says == "" {
			h.ok(err)
			continue
		}
		h.refused(err, "file", says)
	}
	round := h.make(studio.KindTool, 0, set{"name": "Ring", "kind": "circleCutter", "diameterMM": "30 mm"})
	h.refused(h.DrawTool(t.Context(), h.slug, round, []byte(drawnKey)), "file", "cuts by its measures")

	figure := h.make(studio.KindPiece, o, set{"name": "Clock", "wanted": "1", "technique": "T21"})
	if v := h.view(o, figure).Make; v.RollOut != nil || v.Draws != "figure" || v.Drawn != "" {
		t.Errorf("before its drawing: %+v", v)
	}
	h.ok(h.DrawPiece(t.Context(), h.slug, figure, []byte(drawnKey)))
	if v := h.view(o, figure); v.Make.RollOut == nil || v.Make.Drawn == "" {
		t.Errorf("with its drawing: %+v", v.Make)
	}
	d := h.piecesOf(o)[figure]
	if math.Abs(d.Measures["areaMM2"]-2198.9) > 2 || d.Measures["heightMM"] != 40 || d.Measures["cutPieces"] != 2 {
		t.Errorf("measures of the drawing: %v", d.Measures)
	}
	h.ok(h.DrawPiece(t.Context(), h.slug, figure, nil))
	if h.view(o, figure).Make.Drawn != "" {
		t.Error("the drawing is still there")
	}
	h.undo()
	if h.view(o, figure).Make.Drawn == "" {
		t.Error("it did not come back")
	}
}

// piecesOf an order, as they are kept.
func (h *house) piecesOf(order int64) map[int64]noun.Piece {
	h.t.Helper()
	out := map[int64]noun.Piece{}
	h.ok(h.Store.Read(h.t.Context(), h.slug, func(tx journal.Tx) error {
		all, err := tx.Pieces(order)
		for _, p := range all {
			out[p.ID] = p
		}
		return err
	}))
	return out
}

// What a hand puts down stays, the others go round it; along a grain nothing is turned.
func TestPutDownByHand(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	cutter := h.make(studio.KindTool, 0, set{"name": "Leaf cutter", "kind": "plungerCutter", "lengthMM": "34 mm", "widthMM": "26 mm"})
	p := h.make(studio.KindPiece, o, set{"name": "Leaves", "wanted": "16", "tool": strconv.FormatInt(cutter, 10), "technique": "T10"})
	free := h.view(o, p).Make.RollOut
	h.ok(h.LayPieces(t.Context(), h.slug, p, []noun.Put{{XMM: 130, YMM: 80, Deg: 90}, {XMM: 131, YMM: 82, Deg: 90}}))
	v := h.view(o, p).Make.RollOut
	held, off := 0, 0
	for _, l := range v.Full {
		if l.Held {
			held++
		}
		if l.Off {
			off++
		}
	}
	if !v.ByHand || held != 2 || off != 1 || v.PerSheet.Value >= free.PerSheet.Value || v.PerSheet.Value != float64(len(v.Full)-off) {
		t.Errorf("%d held, %d off, %v on the sheet of %d drawn; free %v", held, off, v.PerSheet.Value, len(v.Full), free.PerSheet.Value)
	}
	h.refused(h.LayPieces(t.Context(), h.slug, p, []noun.Put{{Deg: 45}}), "laid[0]", "0, 90, 180 or 270")
	h.refused(h.LayPieces(t.Context(), h.slug, p, make([]noun.Put, 61)), "laid", "At most 60")
	h.must(studio.KindPiece, p, set{"way.grain": "along"})
	for _, l := range h.view(o, p).Make.RollOut.Full {
		if l.Deg != 0 {
			t.Fatalf("along the sheet one is turned by %g", l.Deg)
		}
	}
	h.ok(h.LayPieces(t.Context(), h.slug, p, nil))
	h.must(studio.KindPiece, p, set{"way.grain": ""})
	if again := h.view(o, p).Make.RollOut; again.ByHand || again.PerSheet.Value != free.PerSheet.Value {
		t.Errorf("let go: %v on a sheet, %v before", again.PerSheet.Value, free.PerSheet.Value)
	}
}

// What is printed is true to size: read back it measures what it was drawn from.
func TestPrintsAreTrueToSize(t *testing.T) {
	t.Parallel()
	h, _, _ := stocked(t)
	o := h.order(set{"tiers": "round 250 mm, 110 mm tall, coated 5 mm"})
	cutter := h.make(studio.KindTool, 0, set{"name": "Leaf “A”", "kind": "plungerCutter", "lengthMM": "34 mm", "widthMM": "26 mm"})
	p := h.make(studio.KindPiece, o, set{"name": "Leaves", "wanted": "16", "tool": strconv.FormatInt(cutter, 10), "technique": "T10"})
	tool, err := h.PrintTool(t.Context(), h.slug, cutter)
	h.ok(err)
	again, err := outline.SVG(stripText(tool.SVG()))
	h.ok(err)
	if math.Abs(again.WidthMM-34) > 0.05 || math.Abs(again.HeightMM-26) > 0.05 {
		t.Errorf("the cutter comes back as %.2f by %.2f mm", again.WidthMM, again.HeightMM)
	}
	sheet, err := h.PrintRollOut(t.Context(), h.slug, p)
	h.ok(err)
	again, err = outline.SVG(stripText(sheet.SVG()))
	h.ok(err)
	full := len(h.view(o, p).Make.RollOut.Full)
	if len(again.Rings) != full+1 || math.Abs(again.WidthMM-300) > 0.1 || math.Abs(again.HeightMM-200) > 0.1 {
		t.Errorf("%d outlines on %.1f by %.1f mm, want %d and the board", len(again.Rings), again.WidthMM, again.HeightMM, full)
	}
	if !bytes.Contains(sheet.SVG(), []byte("h50m")) {
		t.Error("there is no rule of 50 mm")
	}
	for name, f := range map[string]func() ([]byte, error){"tool": tool.PDF, "sheet": sheet.PDF} {
		raw, err := f()
		h.ok(err)
		if !bytes.HasPrefix(raw, []byte("%PDF-")) {
			t.Errorf("%s is no PDF", name)
		}
		// A4 is 595.28 by 841.89 pt; a board of 300 by 200 mm takes two pages across
		if want := map[string]int{"tool": 1, "sheet": 2}[name]; bytes.Count(raw, []byte("/Type /Page\n")) != want || !bytes.Contains(raw, []byte("595.28 841.89")) {
			t.Errorf("%s: %d pages, want %d", name, bytes.Count(raw, []byte("/Type /Page\n")), want)
		}
	}
	strip, err := h.PrintStrip(t.Context(), h.slug, p, 0, 16)
	h.ok(err)
	again, err = outline.SVG(stripText(strip.SVG()))
	h.ok(err)
	if want := math.Pi * 260; math.Abs(again.WidthMM-want) > 0.1 {
		t.Errorf("the marking strip is %.1f mm long, the girth %.1f", again.WidthMM, want)
	}
	if raw, err := strip.PDF(); err != nil || bytes.Count(raw, []byte("/Type /Page\n")) != 1 {
		t.Errorf("%v: three parts of a strip lie on one page", err)
	}
	_, err = h.PrintPiece(t.Context(), h.slug, p)
	h.refused(err, "id", "no drawing")
}

// stripText leaves out the words, which no outline has.
func stripText(svg []byte) []byte {
	var out bytes.Buffer
	for line := range bytes.Lines(svg) {
		if !bytes.HasPrefix(line, []byte("<text")) {
			out.Write(line)
		}
	}
	return out.Bytes()
}

// Round a tier: the girth with its coating in equal parts, what is left between two, the
// corners of a square.
func TestRoundATier(t *testing.T) {
	t.Parallel()
	h, _, _ := stocked(t)
	o := h.order(set{"tiers": "round 250 mm, 110 mm tall, coated 5 mm\nsquare 180 mm, 100 mm tall, coated 4 mm"})
	flags := h.make(studio.KindTool, 0, set{"name": "Flags", "kind": "flagCutter", "widthMM": "28 mm", "heightMM": "32 mm"})
	p := h.make(studio.KindPiece, o, set{"name": "Bunting", "wanted": "20", "tool": strconv.FormatInt(flags, 10), "technique": "T25"})
	v, err := h.Round(t.Context(), h.slug, p, 0, 0)
	h.ok(err)
	girth := math.Pi * 260
	// 28 mm wide with 4 mm between: 816.8 / 32 = 25
	if v.Count != 25 || v.Word != "flag" || math.Abs(v.LongMM-girth) > 0.01 || len(v.Tiers) != 2 || len(v.Marks) != 25 {
		t.Errorf("%+v", v)
	}
	if math.Abs(v.Gap.Value-(girth/25-28)) > 0.01 || v.Marks[0].AtMM != 0 || math.Abs(v.Marks[24].AtMM-girth*24/25) > 0.26 {
		t.Errorf("gap %v, marks %v", v.Gap.Value, v.Marks)
	}
	sq, err := h.Round(t.Context(), h.slug, p, 1, 20)
	h.ok(err)
	corners := 0
	for _, m := range sq.Marks {
		if m.Corner {
			corners++
		}
	}
	if corners != 4 || sq.LongMM != 4*188 || !strings.Contains(fmt.Sprint(sq.Notes), "5 on each side") || sq.Marks[4].AtMM != 19 {
		t.Errorf("%+v", sq)
	}
	if odd, _ := h.Round(t.Context(), h.slug, p, 1, 21); !strings.Contains(fmt.Sprint(odd.Notes), "20 or 24") {
		t.Errorf("%v", odd.Notes)
	}
	_, err = h.Round(t.Context(), h.slug, p, 2, 0)
	h.refused(err, "tier", "2 tiers")
	_, err = h.Round(t.Context(), h.slug, p, 0, 1000)
	h.refused(err, "count", "Up to 400")
	tight, err := h.Round(t.Context(), h.slug, p, 0, 40)
	h.ok(err)
	if !strings.Contains(fmt.Sprint(tight.Notes), "at most 29") {
		t.Errorf("%v", tight.Notes)
	}
	// a band laps, and is longer than the way round by its own thickness
	band := h.make(studio.KindTool, 0, set{"name": "Moss", "kind": "bandMould", "lengthMM": "150 mm", "heightMM": "18 mm", "depthMM": "3 mm", "lapMM": "15 mm", "weighedG": "12 g"})
	b := h.make(studio.KindPiece, o, set{"name": "Band", "wanted": "2", "tool": strconv.FormatInt(band, 10), "technique": "T07"})
	w, err := h.Round(t.Context(), h.slug, b, 0, 0)
	h.ok(err)
	if w.Word != "strip" || w.Gap == nil || !strings.Contains(w.Gap.Unit, "on the next") || !strings.Contains(fmt.Sprint(w.Notes), "for its own thickness and its lap") {
		t.Errorf("%+v", w)
	}
	if side, err := h.Round(t.Context(), h.slug, b, 1, 0); err != nil || !strings.Contains(fmt.Sprint(side.Notes), "Cut each side 194 mm") {
		t.Errorf("%+v %v", side, err)
	}
	biscuits := h.order(set{"carrier": "biscuits", "count": "24", "acrossMM": "65 mm"})
	q := h.make(studio.KindPiece, biscuits, set{"name": "Flags", "wanted": "5", "tool": strconv.FormatInt(flags, 10), "technique": "T25"})
	if none, err := h.Round(t.Context(), h.slug, q, 0, 0); err != nil || none != nil {
		t.Errorf("round biscuits: %+v %v", none, err)
	}
}
