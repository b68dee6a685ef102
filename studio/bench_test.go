package studio_test

import (
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/evening"
	"dustyfern/studio/plan"
)

// oneEvening puts one piece on the plan and the clock to the first step.
func oneEvening(t testing.TB) (h *house, order, piece int64) {
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "carries": "yes"})
	h.now = h.steps("knead")[0].Start
	return h, o, p
}

func TestAnEveningFromKneadToPack(t *testing.T) {
	t.Parallel()
	h, o, _ := oneEvening(t)
	b := h.bench()
	if b.Now == nil || b.Now.Kind != "knead" || len(b.Evening) < 2 || len(b.Waits) == 0 {
		t.Fatalf("%+v", b)
	}
	if b.Waits[0].Kind != "rest" {
		t.Errorf("on the sheet it waits first for %s", b.Waits[0].Title)
	}
	began := h.now
	h.now = h.now.Add(7 * time.Minute)
	h.finish("knead")
	b = h.bench()
	if len(b.Waiting) != 1 || b.Waiting[0].Cord != "rest" || b.Waiting[0].In != "in 15 min" {
		t.Errorf("%+v", b.Waiting)
	}
	h.now = h.now.Add(20 * time.Minute)
	if b = h.bench(); len(b.Waiting) != 0 || b.Now.Kind != "press" {
		t.Errorf("after its 15 minutes nothing rests: %+v", b.Waiting)
	}
	h.now = h.now.Add(15 * time.Minute)
	h.finish("press")
	steps := h.steps("")
	at := func(kind string) plan.LineStep {
		i := slices.IndexFunc(steps, func(s plan.LineStep) bool { return s.Kind == kind })
		return steps[i]
	}
	if rest := at("rest"); rest.ActualEnd == nil || rest.ActualEnd.Sub(*rest.ActualStart) != 15*time.Minute {
		t.Errorf("the rest ended by itself: %+v", rest.ActualEnd)
	}
	if dry := at("dry"); dry.ActualStart == nil || !dry.ActualStart.Equal(h.now) || dry.ActualEnd != nil {
		t.Errorf("drying begins as the last piece is out: %+v", dry)
	}
	if k := at("knead"); k.ActualStart.Before(began) || !k.ActualEnd.Equal(began.Add(7*time.Minute)) {
		t.Errorf("%v to %v", k.ActualStart, k.ActualEnd)
	}
	c, err := h.Commission(t.Context(), h.slug, o)
	h.ok(err)
	if c.Frond[0].State != "drying" && c.Frond[0].State != "open" {
		t.Errorf("%+v", c.Frond[0])
	}
	h.now = at("putOn").Start
	h.finish("putOn")
	h.now = h.now.Add(61 * time.Minute)
	h.finish("pack")
	h.line()
	if b = h.bench(); b.Now != nil || len(b.Troubles) > 0 || !strings.HasPrefix(b.Nothing, "Nothing waits for your hands") {
		t.Errorf("all is done, until it is handed over: %q %+v", b.Nothing, b.Troubles)
	}
	c, err = h.Commission(t.Context(), h.slug, o)
	h.ok(err)
	if c.Frond[0].State != "placed" {
		t.Errorf("%+v", c.Frond[0])
	}
}

func TestStepsOutOfTurnAreRefused(t *testing.T) {
	t.Parallel()
	h, _, _ := oneEvening(t)
	press := h.steps("press")[0]
	_, err := h.Finish(t.Context(), h.slug, press.Op, press.Version, true)
	h.refused(err, "op", "First: knead")
	rest := h.steps("rest")[0]
	_, err = h.Finish(t.Context(), h.slug, rest.Op, rest.Version, true)
	h.refused(err, "op", "ends by itself")
	_, err = h.Finish(t.Context(), h.slug, "p999.1.knead", 1, true)
	h.overtaken(err, "no longer in the plan")
	knead := h.steps("knead")[0]
	for _, version := range []int64{-1, 0, knead.Version + 7} {
		_, err = h.Finish(t.Context(), h.slug, knead.Op, version, true)
		h.refused(err, "version", "as it was read")
	}
	_, err = h.Finish(t.Context(), h.slug, knead.Op, knead.Version, true)
	h.ok(err)
	_, err = h.Finish(t.Context(), h.slug, knead.Op, knead.Version, true) // in a window that is behind
	h.overtaken(err, "is done already, since")
}

func TestTakingBackGoesStepByStepAndNoFurther(t *testing.T) {
	t.Parallel()
	h, o, _ := oneEvening(t)
	back := func() evening.BenchView {
		t.Helper()
		b, err := h.back()
		h.ok(err)
		return b
	}
	if b := back(); b.Now.Kind != "knead" || len(b.Done) != 0 {
		t.Errorf("nothing to take back: %+v", b.Now)
	}
	h.finish("knead")
	h.now = h.now.Add(20 * time.Minute)
	h.finish("press")
	if b := back(); b.Now.Kind != "press" || len(b.Done) != 1 {
		t.Errorf("%+v", b.Now)
	}
	for _, s := range h.steps("dry") {
		if s.ActualStart != nil {
			t.Error("what is not pressed dries")
		}
	}
	h.now = h.now.Add(5 * time.Minute)
	h.finish("press")
	h.ok(h.SetState(t.Context(), h.slug, o, "handedOver", true))
	back()
	h.ok(h.SetState(t.Context(), h.slug, o, "open", true))
	if s := h.steps("press")[0]; s.ActualEnd == nil {
		t.Error("a step of what was handed over was taken back")
	}
	if b := back(); b.Now == nil || b.Now.Kind != "press" {
		t.Errorf("open again, it can be: %+v", b.Now)
	}
}

func TestTheBenchShowsTheLatestDoneOnly(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	for range 6 {
		h.piece(o, m, set{"wanted": "2"})
	}
	for range 6 {
		h.finish("knead")
		h.now = h.now.Add(9 * time.Minute)
		h.finish("press")
		h.now = h.now.Add(time.Minute)
	}
	b := h.bench()
	if len(b.Done) != 8 || b.Done[7].Kind != "press" || !b.Done[7].ActualEnd.After(*b.Done[6].ActualEnd) {
		t.Errorf("%d done, the last %s", len(b.Done), b.Done[len(b.Done)-1].Title)
	}
}

func TestTheBenchSaysWhenItOpens(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00 Ines, Tobi\nFri 19:00-22:00\nSat 6:00-9:00"})
	h.piece(o, m, nil)
	b := h.bench()
	if b.Heading != "Tuesday evening" || !strings.Contains(b.Until, "until 22:00, 2 h 30 left, Ines and Tobi") {
		t.Errorf("%q %q", b.Heading, b.Until)
	}
	if b.Now != nil || b.Before == "" || !strings.Contains(b.Nothing, "Nothing needs your hands before "+b.Before) {
		t.Errorf("it is not to be done yet: %+v", b)
	}
	h.now = time.Date(2026, 11, 25, 9, 0, 0, 0, time.UTC)
	if b = h.bench(); b.Heading != "Wednesday morning" || b.Until != "" {
		t.Errorf("%q %q", b.Heading, b.Until)
	}
}

// What has begun stays as it was, whatever changes around it.
func TestFactsSurviveEveryChange(t *testing.T) {
	t.Parallel()
	h, o, p := oneEvening(t)
	h.finish("knead")
	fact := h.steps("knead")[0]
	for _, change := range []func(){
		func() { h.kitchen(set{"rhPercent": "40 %"}) },
		func() { h.must(studio.KindPiece, p, set{"colour": "moss"}) },
		func() { h.must(studio.KindCommission, o, set{"handOver": "6 Dec 10:00"}) },
		func() { h.kitchen(set{"hours": "Wed 19:00-22:00\nSat 6:00-9:00"}) },
		func() { h.piece(o, h.mould(set{"name": "Another"}), nil) },
	} {
		change()
		i := slices.IndexFunc(h.steps("knead"), func(s plan.LineStep) bool { return s.Op == fact.Op })
		if i < 0 {
			t.Fatal("the fact is gone")
		}
		if s := h.steps("knead")[i]; !s.ActualStart.Equal(*fact.ActualStart) || !s.ActualEnd.Equal(*fact.ActualEnd) {
			t.Errorf("%v to %v became %v to %v", fact.ActualStart, fact.ActualEnd, s.ActualStart, s.ActualEnd)
		}
	}
}

// TestCautionsAreReadInTheReadersWords on the bench, the line and the order.
func TestCautionsAreReadInTheReadersWords(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	h.kitchen(set{"words": "us", "units": "us"})
	said := []string{}
	for _, c := range h.bench().Cautions {
		said = append(said, c.Say)
	}
	for _, c := range h.line().Cautions {
		said = append(said, c.Say)
	}
	if all := strings.Join(said, " "); strings.Contains(all, "colour") || !strings.Contains(all, "its color") {
		t.Errorf("%s", all)
	}
}
