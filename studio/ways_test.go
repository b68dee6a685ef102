package studio_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/studio"
	"dustyfern/studio/evening"
	"dustyfern/studio/pantry"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func fieldOf(fields []read.FieldView, name string) string {
	for _, f := range fields {
		if f.Name == name {
			return f.Text
		}
	}
	return "no such field"
}

// A studio makes a way its own, changes words and minutes, and its pieces follow; the
// batch that has begun keeps the chain it began with.
func TestAWayOfOnesOwn(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	key, err := h.CopyWay(t.Context(), h.slug, "T01", "Our caps")
	h.ok(err)
	if key != "our-our-caps" {
		t.Error(key)
	}
	v, err := h.Way(t.Context(), h.slug, key)
	h.ok(err)
	if !v.Own || v.Name != "Our caps" || !strings.Contains(v.From, "Pressed cavity, straight out, version 1") || len(v.Steps) != 14 || fieldOf(v.Fields, "step.press.minutes.fill") == "no such field" {
		t.Fatalf("%+v", v)
	}
	h.refused(h.set(studio.KindWay, v.ID, set{"step.press.minutes.fill": "1 +"}), "step.press.minutes.fill", "")
	h.refused(h.set(studio.KindWay, v.ID, set{"step.press.minutes.fill": "tea * 2"}), "name", "does not hold together")
	h.refused(h.set(studio.KindWay, v.ID, set{"step.press.says": ""}), "step.press.says", "One to six lines")
	first := h.piece(o, m, set{"name": "First", "technique": key})
	before := h.view(o, first)
	if before.Way.Name != "Our caps" || before.Make.Bench == nil {
		t.Fatalf("%+v", before)
	}
	h.finish("knead") // it begins with the chain as it is now
	h.must(studio.KindWay, v.ID, set{"step.press.minutes.fill": "10", "step.press.says": "Press it as Ines does."})
	second := h.piece(o, m, set{"name": "Second", "technique": key})
	says := func(piece int64) string {
		for _, s := range h.steps("press") {
			if s.PieceID != nil && *s.PieceID == piece {
				return strings.Join(s.Says, " ")
			}
		}
		return "no press"
	}
	if s := says(first); strings.Contains(s, "Ines") || s == "no press" {
		t.Errorf("what has begun speaks in new words: %s", s)
	}
	if s := says(second); !strings.Contains(s, "Press it as Ines does.") {
		t.Errorf("what has not begun speaks in old words: %s", s)
	}
	if after := h.view(o, second); after.Make.Bench.Value < 2*before.Make.Bench.Value {
		t.Errorf("ten minutes a fill take %v min of hands, %v before", after.Make.Bench.Value, before.Make.Bench.Value)
	}
	if v, err = h.Way(t.Context(), h.slug, key); err != nil || v.Version != 2 {
		t.Errorf("%d %v", v.Version, err)
	}
	h.refused(h.Delete(t.Context(), h.slug, studio.KindWay, v.ID, false), "name", "is made this way")
	// it goes out and comes in with the studio
	row, err := h.Import(t.Context(), h.export(h.slug))
	h.ok(err)
	there, err := h.Way(t.Context(), row.Slug, key)
	h.ok(err)
	if there.Name != "Our caps" || there.ID == v.ID || !has(there.Steps[4].Says, "Press it as Ines does.") {
		t.Errorf("%+v", there.Steps[4])
	}
	// and another studio knows nothing of it
	other, err := h.CreateStudio(t.Context(), "Ash Bench", studio.Reads{})
	h.ok(err)
	if _, err := h.Way(t.Context(), other.Slug, key); err == nil {
		t.Error("another studio's way was read")
	}
}

// The side that a studio makes its usual one counts for its pieces.
func TestTheUsualSideOfOnesOwnWay(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	key, err := h.CopyWay(t.Context(), h.slug, "T01", "Frozen caps")
	h.ok(err)
	v, err := h.Way(t.Context(), h.slug, key)
	h.ok(err)
	p := h.piece(o, m, set{"technique": key})
	if k := strings.Join(kinds(h.steps("")), " "); strings.Contains(h.steps("press")[0].Op, "pressCold") {
		t.Errorf("frozen before anybody said so: %s", k)
	}
	h.must(studio.KindWay, v.ID, set{"side.freeze": "freeze"})
	h.line()
	if s := h.steps("press")[0]; !strings.HasSuffix(s.Op, ".pressCold") || s.Planned.Run.HoldSec != 8*60 {
		t.Errorf("%s %+v", s.Op, s.Planned.Run)
	}
	h.ok(h.ChooseWay(t.Context(), h.slug, p, "freeze", "atOnce")) // a piece may differ
	if s := h.steps("press")[0]; strings.HasSuffix(s.Op, ".pressCold") {
		t.Errorf("%s", s.Op)
	}
	h.refused(h.ChooseWay(t.Context(), h.slug, p, "freeze", "sometimes"), "way.freeze", "Choose one of")
}

// Parts are counted by what they belong to, shared, joined, and never in a circle.
func TestAPieceOfParts(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	stem := h.piece(o, m, set{"name": "Stems", "wanted": "14"})
	cap1, err := h.AddPart(t.Context(), h.slug, stem, -1, studio.JoinIn{Name: "Caps", Each: "1", With: "royal icing", Minutes: "45 s"})
	h.ok(err)
	v := h.view(o, stem)
	if len(v.Parts) != 1 || v.Parts[0].Total != 14 || v.Parts[0].Minutes != "0.75 min" || v.Parts[0].Part != cap1 {
		t.Fatalf("%+v", v.Parts)
	}
	// a part that cannot be made yet keeps the whole off the line, and says so
	if l := h.line(); !has(l.LeftOut, "its part Caps cannot be made yet") {
		t.Errorf("%v", l.LeftOut)
	}
	h.must(studio.KindPiece, cap1, set{"tool": "1"})
	if c := h.view(o, cap1); c.Needed != 14 || c.Wanted != 0 || !has(c.PartOf, "1 on to each of Stems") || c.Make.Balls.Value < 14 {
		t.Errorf("%+v", c)
	}
	// shared: a second piece takes three of the same
	log := h.piece(o, m, set{"name": "Logs", "wanted": "2"})
	_, err = h.AddPart(t.Context(), h.slug, log, -1, studio.JoinIn{Part: cap1, Each: "3"})
	h.ok(err)
	if c := h.view(o, cap1); c.Needed != 20 {
		t.Errorf("%d needed", c.Needed)
	}
	joins := h.steps("join")
	if len(joins) != 2 || !slices.ContainsFunc(joins, func(s planStep) bool { return strings.Contains(s.Title, "Put 14 Caps on to Stems") }) {
		t.Errorf("%+v", joins)
	}
	for _, s := range h.steps("putOn") {
		if s.PieceID != nil && *s.PieceID == cap1 {
			t.Error("a part goes on the cake by itself")
		}
	}
	h.refused(addPart(h, cap1, studio.JoinIn{Part: stem}), "parts", "cannot be a part of it as well")
	h.refused(addPart(h, stem, studio.JoinIn{Part: stem}), "parts", "")
	h.refused(addPart(h, stem, studio.JoinIn{Part: 999}), "parts", "not a piece of this order")
	h.refused(addPart(h, stem, studio.JoinIn{}), "name", "What is the part called?")
	h.refused(addPart(h, stem, studio.JoinIn{Part: cap1, Each: "half"}), "each", "From 1 to 200")
	h.refused(addPart(h, stem, studio.JoinIn{Part: cap1, Minutes: "a while"}), "minutes", "Minutes for one")
	h.refused(h.Delete(t.Context(), h.slug, studio.KindPiece, cap1, false), "name", "is a part of")
	h.ok(h.TakePart(t.Context(), h.slug, log, 0))
	h.overtaken(h.TakePart(t.Context(), h.slug, log, 0), "no longer on Logs")
	h.undo()
	if c := h.view(o, cap1); c.Needed != 20 {
		t.Errorf("taken back, %d are needed", c.Needed)
	}
	// it goes out and comes in whole
	row, err := h.Import(t.Context(), h.export(h.slug))
	h.ok(err)
	h.slug = row.Slug
	list, err := h.list()
	h.ok(err)
	c, err := h.Commission(t.Context(), h.slug, list[0].ID)
	h.ok(err)
	if c.Pieces[0].Name != "Stems" || !c.Pieces[1].Part || c.Pieces[1].Needed != 20 {
		t.Errorf("%+v", c.Pieces)
	}
}

func addPart(h *house, id int64, in studio.JoinIn) error {
	_, err := h.AddPart(h.t.Context(), h.slug, id, -1, in)
	return err
}

// What a tool has made is told from what was noted: pieces, breakage, minutes; and a
// piece of it can be weighed beside the bench.
func TestWhatAToolHasMade(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	made := func() pantry.MadeView {
		t.Helper()
		v, err := h.Made(t.Context(), h.slug, m)
		h.ok(err)
		return v
	}
	if v := made(); v.Says != "Nothing was made with it yet." || v.Each != nil {
		t.Errorf("%+v", v)
	}
	h.piece(o, m, set{"eaten": "mouthful"})
	h.finish("knead")
	press := h.steps("press")[0]
	_, err := h.Hands(t.Context(), h.slug, press.Op, press.Version, bench.PressOut, true)
	h.ok(err)
	h.now = h.now.Add(30 * time.Minute)
	_, err = h.Broke(t.Context(), h.slug, press.Op, h.stepVersion(press.Op), "tore")
	h.ok(err)
	h.finish("press")
	v := made()
	if !strings.HasPrefix(v.Says, "15 made in 1 batch, 1 broke: 6.7 %") || len(v.Breaks) != 1 || v.Breaks[0].Name != "tore coming out" || v.Each == nil || v.Each.Value < 1.9 || v.Each.Value > 2.3 {
		t.Errorf("%+v %+v", v, v.Each)
	}
	h.ok(h.KeepWeightOf(t.Context(), h.slug, m, "4.4 g"))
	if x := h.drawn(m); x.Weighed == nil || x.Weighed.Grams[0] != 4.4 {
		t.Errorf("%+v", x.Weighed)
	}
	h.refused(h.KeepWeightOf(t.Context(), h.slug, m, "heavy"), "grams", "Write a weight")
}

// What a new piece can begin from: ways that this drawer can make, and what was made
// before with how it went.
func TestWhatANewPieceBeginsFrom(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"name": "Ivy", "eaten": "mouthful"})
	h.finish("knead")
	h.finish("press")
	h.ok(h.SetState(t.Context(), h.slug, o, "handedOver", true))
	next := h.order(set{"title": "Spring wedding"})
	v, err := h.Offers(t.Context(), h.slug, next, studio.WishIn{})
	h.ok(err)
	byKey := map[string]work.WayOffer{}
	for _, w := range v.Ways {
		byKey[w.Key] = w
	}
	if w := byKey["T01"]; w.Lacks != "" || w.ToolID != m || w.Hands == "" || w.Wait == "" || w.Breakage != "2 in 100 break" {
		t.Errorf("%+v", w)
	}
	if w := byKey["T02"]; w.Lacks != "no string mould in the drawer" {
		t.Errorf("%+v", w)
	}
	// what hands make wants no tool that shapes it; what else it is reckoned with is said
	if w := byKey["T15"]; w.Lacks != "" || w.ToolID != 0 || !slices.Contains(w.Besides, "dowels") || slices.Contains(w.Besides, "foam sheet") {
		t.Errorf("%+v", w)
	}
	if _, colours := byKey["T26"]; colours {
		t.Error("colouring a tier is offered as a piece")
	}
	h.make(studio.KindTool, 0, set{"name": "Sticks", "kind": "dowel", "diameterMM": "30 mm"})
	withSticks, err := h.Offers(t.Context(), h.slug, next, studio.WishIn{})
	h.ok(err)
	for _, w := range withSticks.Ways {
		if slices.Contains(w.Besides, "dowels") {
			t.Errorf("%s: the dowels lie in the drawer", w.Name)
		}
	}
	if v.Ways[0].Lacks != "" || v.Ways[len(v.Ways)-1].Lacks == "" {
		t.Error("what cannot be made stands before what can")
	}
	if len(v.Before) != 1 || v.Before[0].Name != "Ivy" || !strings.HasPrefix(v.Before[0].Went, "15 made, none broke") || v.Before[0].With != "Leaf" {
		t.Fatalf("%+v", v.Before)
	}
	again, err := h.LikeBefore(t.Context(), h.slug, v.Before[0].PieceID, next)
	h.ok(err)
	if p := h.view(next, again); p.Name != "Ivy" || p.ToolName != "Leaf" || p.Missing != "" || p.Wanted != 12 {
		t.Errorf("%+v", p)
	}
}

// A cut batch is worked sheet by sheet, in the words of its steps.
func TestSheetsAreWorkedByTheirOwnWords(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	h.piece(o, h.cutter("Disc", "40 mm", "40 mm"), set{"name": "Discs", "wanted": "20"})
	h.finish("knead")
	if x := h.steps("rest"); len(x) > 0 {
		h.now = h.now.Add(20 * time.Minute)
	}
	b := h.due()
	run := b.Now.Planned.Run
	if b.Now.Kind != "cut" || b.Move == nil || run.Word != "sheet" || run.Fills < 2 || run.Cavities < 2 || !strings.HasPrefix(b.Move.Say, "Cut sheet of ") || b.Move.Done != "Cut" || !has(b.Move.Steps, "roll from the middle") {
		t.Fatalf("%+v %+v %+v", b.Now, b.Move, run)
	}
	var view evening.BenchView
	for range run.Fills {
		var err error
		h.now = h.now.Add(4 * time.Minute)
		view, err = h.Hands(t.Context(), h.slug, b.Now.Op, h.stepVersion(b.Now.Op), bench.PressOut, true)
		h.ok(err)
	}
	if st := h.of(b.Now.Op); st.ActualEnd == nil || st.Out() != run.Balls {
		t.Errorf("%d of %d cut, %v", st.Out(), run.Balls, st.ActualEnd)
	}
	if len(view.Tallies) != 1 || view.Tallies[0].Made != run.Balls {
		t.Errorf("%+v", view.Tallies)
	}
}

// What is wanted narrows what is offered: by its look, for so many, as long as that, eaten
// so; what must be bought and what cannot be eaten so is said.
func TestOffersForAWish(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	for _, mm := range []string{"24 mm", "50 mm"} {
		h.make(studio.KindTool, 0, set{"name": "Blossoms " + mm, "kind": "blossomCutter", "diameterMM": mm})
	}
	offers := func(in studio.WishIn) map[string]work.WayOffer {
		t.Helper()
		v, err := h.Offers(t.Context(), h.slug, o, in)
		h.ok(err)
		out := map[string]work.WayOffer{}
		for _, w := range v.Ways {
			out[w.Key] = w
		}
		return out
	}
	all, flowers := offers(studio.WishIn{}), offers(studio.WishIn{Look: "Flowers", Count: "60", Size: "48 mm"})
	if len(flowers) == 0 || len(flowers) >= len(all)/2 || flowers["T22"].Key != "" {
		t.Errorf("%d of %d ways look like flowers", len(flowers), len(all))
	}
	if w := flowers["T12"]; w.ToolName != "Blossoms 50 mm" || w.Size != "50 mm" || !(w.HandsMin > all["T12"].HandsMin*3) {
		t.Errorf("%+v, a dozen %v min", w, all["T12"].HandsMin)
	}
	if w := offers(studio.WishIn{Look: "flower", Size: "80 mm"})["T12"]; w.Size != "50 mm, not 80 mm" {
		t.Errorf("%+v", w)
	}
	if w := offers(studio.WishIn{Eaten: "mouthful"})["T12"]; !strings.Contains(w.Lacks, "wires are in it") {
		t.Errorf("a wired flower as a mouthful: %+v", w)
	}
	if w := all["T05"]; w.Lacks == "" && w.Buy != "to buy: dark chocolate dough" {
		t.Errorf("without chocolate dough: %+v", w)
	}
	for field, in := range map[string]studio.WishIn{"count": {Count: "some"}, "size": {Size: "long"}} {
		_, err := h.Offers(t.Context(), h.slug, o, in)
		h.refused(err, field, "")
	}
}
