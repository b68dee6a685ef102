package studio_test

import (
	"context"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/measure"
	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/plan"
)

// TestWhatIsNotDueIsOffered: nothing is large before it is due; what waits for nothing
// can be taken earlier, and what was taken is worked at.
func TestWhatIsNotDueIsOffered(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	knead := h.steps("knead")[0]
	b := h.bench()
	if b.Now != nil || b.Nothing != "Nothing needs your hands before "+b.Before+"." || !time.UnixMilli(b.BeforeMS).Equal(knead.Start) {
		t.Fatalf("%+v; %s, %s", b.Now, b.Nothing, time.UnixMilli(b.BeforeMS))
	}
	if len(b.Offers) != 1 || b.Offers[0].Op != knead.Op || !slices.ContainsFunc(b.Next, func(s plan.LineStep) bool { return s.Kind == "press" }) {
		t.Errorf("%+v, then %+v", b.Offers, b.Next)
	}
	taken, err := h.Bench(t.Context(), h.slug, knead.Op)
	h.ok(err)
	if taken.Now == nil || taken.Now.Op != knead.Op || len(taken.Now.Figures) == 0 {
		t.Errorf("%+v", taken.Now)
	}
	if x, err := h.Bench(t.Context(), h.slug, h.steps("press")[0].Op); err != nil || x.Now != nil {
		t.Errorf("its paste is not kneaded, and it was taken: %+v %v", x.Now, err)
	}
	h.now = knead.Start.Add(-29 * time.Minute)
	if b = h.bench(); b.Now == nil || b.Now.Op != knead.Op || b.Before != "" || len(b.Offers) != 0 {
		t.Errorf("half an hour before it is due: %+v", b.Now)
	}
}

// TestAStepWhoseWaitRunsAsks: not before its wait is over, unless hands say so.
func TestAStepWhoseWaitRunsAsks(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"wanted": "6", "carries": "yes"})
	h.now = h.steps("knead")[0].Start
	h.finish("knead")
	until := h.now.Add(15 * time.Minute).Format("Mon 15:04")
	b := h.bench()
	if b.Now != nil || len(b.Waiting) != 1 || !strings.HasPrefix(b.Waiting[0].Then, "Press ") {
		t.Fatalf("%+v %+v", b.Now, b.Waiting)
	}
	w := b.Waiting[0]
	_, err := h.Hands(t.Context(), h.slug, w.Op, w.Version, "", false)
	h.refused(err, "anyway", "not before "+until+". Do it all the same?")
	_, err = h.Finish(t.Context(), h.slug, w.Op, w.Version, false)
	h.refused(err, "anyway", "not before "+until)
	if st := h.of(w.Op); st.ActualStart != nil {
		t.Errorf("%+v", st)
	}
	_, err = h.Hands(t.Context(), h.slug, w.Op, w.Version, "", true)
	h.ok(err)
	if st := h.of(w.Op); len(st.Fills) != 1 || st.ActualEnd != nil {
		t.Errorf("one movement, not the batch: %+v", st.Fills)
	}
}

// TestHandOverAsksForWhatIsLeft, and what was asked can be done all the same.
func TestHandOverAsksForWhatIsLeft(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"wanted": "6", "carries": "yes"})
	h.line()
	h.refused(h.SetState(t.Context(), h.slug, o, "handedOver", false), "anyway", "steps are open, and Leaves is not on the cake. Hand it over all the same?")
	h.ok(h.SetState(t.Context(), h.slug, o, "aside", false)) // that asks nothing
	h.ok(h.SetState(t.Context(), h.slug, o, "open", false))
	h.now = h.steps("knead")[0].Start
	h.finish("knead")
	if n := len(h.bench().Timers) + len(h.bench().Waiting); n == 0 {
		t.Error("nothing runs")
	}
	h.ok(h.SetState(t.Context(), h.slug, o, "handedOver", true))
	if b := h.bench(); len(b.Timers)+len(b.Waiting) != 0 {
		t.Errorf("it took its clocks with it: %+v %+v", b.Timers, b.Waiting)
	}
	empty := h.order(set{"title": "Empty"})
	h.ok(h.SetState(t.Context(), h.slug, empty, "handedOver", false))
}

// TestWhoMadeThemIsRemembered and stands where they are counted.
func TestWhoMadeThemIsRemembered(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00 Ines, Tobi\nThu 19:00-22:00\nSat 9:00-13:00"})
	h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	h.now = h.steps("knead")[0].Start
	by := func(who string) context.Context { return journal.As(t.Context(), who, "") }
	knead := h.due()
	_, err := h.Hands(by("Tobi"), h.slug, knead.Now.Op, knead.Now.Version, "", true)
	h.ok(err)
	for _, who := range []string{"Ines", "Tobi", "Ines"} {
		b := h.due()
		_, err := h.Hands(by(who), h.slug, b.Now.Op, b.Now.Version, b.Move.Do, true)
		h.ok(err)
		h.after(time.Minute)
	}
	b := h.bench()
	if b.Tallies[0].By != "Ines 2, Tobi 1" || !strings.HasSuffix(b.Done[0].DoneSays, " by Tobi") {
		t.Errorf("%q, %q", b.Tallies[0].By, b.Done[0].DoneSays)
	}
}

// TestGelsComeInDrops: in drops and dabs first, never finer than a dab, and what is shown
// is what is taken; grams only where the scale can speak of them.
func TestGelsComeInDrops(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	gel := h.lot("Fern", "gel", "20 g", set{"swatch": "#5C9A58"})
	h.piece(o, m, set{"wanted": "20", "eaten": "mouthful", "colour": "young frond"})
	var fern string
	for _, f := range h.steps("knead")[0].Figures {
		if f.Unit == "Fern" {
			fern = f.Text
			if f.Why == nil {
				t.Error("it has no reason")
			}
		}
	}
	if !strings.Contains(fern, "drop") && !strings.Contains(fern, "dab") || strings.Contains(fern, "0.0") {
		t.Fatalf("%q", fern)
	}
	h.now = h.steps("knead")[0].Start
	h.finish("knead")
	took := 20 - h.raw(gel).MassG
	drops, dabs := measure.DropsOf(took, 0.045, 0.015)
	if rest := took - float64(drops)*0.045 - float64(dabs)*0.015; rest > 1e-9 || rest < -1e-9 || took == 0 {
		t.Errorf("%.4f g is no number of drops and dabs", took)
	}
}

// TestAPieceWithoutAColourIsAsItComes: it wants no gel; a name gives it one; chocolate
// dough starts as it is.
func TestAPieceWithoutAColourIsAsItComes(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("Fern", "gel", "20 g", set{"swatch": "young frond"}) // a colour by its name
	h.lot("Dark", "darkChocolate", "400 g", nil)
	p := h.piece(o, m, set{"wanted": "20", "eaten": "mouthful"})
	gels := func() (n int) {
		for _, f := range h.steps("knead")[0].Figures {
			if f.Unit == "Fern" {
				n++
			}
		}
		return n
	}
	if n := gels(); n != 0 {
		t.Errorf("%d gels go into what is left as it comes", n)
	}
	h.must(studio.KindPiece, p, set{"colour": "fern"})
	if v := h.view(o, p); v.Swatch != "#6B9455" || gels() != 1 {
		t.Errorf("%s, %d gels", v.Swatch, gels())
	}
	dough := h.piece(o, m, set{"name": "Coins", "wanted": "6", "eaten": "mouthful", "colour": "bark"})
	h.must(studio.KindPiece, dough, set{"dough": "darkChocolate"})
	for _, s := range h.steps("") {
		for _, f := range s.Figures {
			if *orZero(s.PieceID) == dough && f.Unit == "Fern" {
				t.Errorf("%s takes %s of green", s.Title, f.Text)
			}
		}
	}
}

func orZero(id *int64) *int64 {
	if id == nil {
		return new(int64)
	}
	return id
}
