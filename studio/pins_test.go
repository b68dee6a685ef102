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

// laterHours is a place within the hours of another evening.
func laterHours(t *testing.T, st plan.LineStep) time.Time {
	t.Helper()
	for day := st.Start.AddDate(0, 0, 1); ; day = day.AddDate(0, 0, 1) {
		if day.Weekday() == time.Thursday || day.Weekday() == time.Tuesday {
			return time.Date(day.Year(), day.Month(), day.Day(), 19, 30, 0, 0, time.UTC)
		}
	}
}

// A pennant that is put elsewhere says before what comes of it, stays there through
// every later plan, is let go again, and both are taken back.
func TestAPennantIsPutElsewhere(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	knead := h.steps("knead")[0]
	at := laterHours(t, knead)

	look, err := h.LookPin(t.Context(), h.slug, knead.Op, at)
	h.ok(err)
	press := h.steps("press")[0]
	if !look.May || look.Moved == 0 || !slices.ContainsFunc(look.Places, func(p noun.Place) bool { return p.Op == knead.Op && p.Start.Equal(at) }) {
		t.Fatalf("%+v", look)
	}
	if now := h.of(knead.Op); !now.PlannedStart.Equal(knead.PlannedStart) || now.Pinned != nil {
		t.Error("a look has moved it")
	}
	h.ok(h.Pin(t.Context(), h.slug, knead.Op, at))
	is := h.of(knead.Op)
	if !is.PlannedStart.Equal(at) || is.Pinned == nil {
		t.Fatalf("it stands at %s, pinned %v", is.PlannedStart, is.Pinned)
	}
	h.undo() // at once: the line hangs as it hung
	for _, st := range []plan.LineStep{knead, press} {
		if is := h.of(st.Op); is.Pinned != nil || !is.PlannedStart.Equal(st.PlannedStart) {
			t.Errorf("taken back, %s stands at %s, not %s", st.Title, is.PlannedStart, st.PlannedStart)
		}
	}
	h.redo()
	for _, p := range look.Places { // what was said is what comes
		if st := h.of(p.Op); !st.PlannedStart.Equal(p.Start) {
			t.Errorf("%s was to stand at %s and stands at %s", p.Op, p.Start, st.PlannedStart)
		}
	}
	if moved := h.of(press.Op); !moved.PlannedStart.After(press.PlannedStart) {
		t.Error("its press did not go with it")
	}
	h.piece(o, m, set{"name": "More", "wanted": "9"}) // another plan
	if is := h.of(knead.Op); !is.PlannedStart.Equal(at) {
		t.Errorf("it has left its pin for %s", is.PlannedStart)
	}
	read, err := h.ReadStep(t.Context(), h.slug, knead.Op)
	h.ok(err)
	if !strings.Contains(read.Pinned, "Pinned to") || len(read.Why) == 0 || read.Order != "Winter wedding" {
		t.Errorf("%+v", read)
	}
	h.ok(h.Pin(t.Context(), h.slug, knead.Op, time.Time{}))
	if is := h.of(knead.Op); is.Pinned != nil {
		t.Error("it is still pinned")
	}
	h.undo()
	if is := h.of(knead.Op); is.Pinned == nil || !is.PlannedStart.Equal(at) {
		t.Errorf("taken back, it is pinned to %v and stands at %s", is.Pinned, is.PlannedStart)
	}
}

// What cannot be is refused in a sentence, and a pin that no plan can keep is let go of
// and said: no order is a dead end.
func TestAPinThatCannotBe(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	knead, dry := h.steps("knead")[0], h.steps("dry")[0]
	for _, x := range []struct {
		at    time.Time
		words string
	}{
		{time.Date(2026, 11, 26, 12, 0, 0, 0, time.UTC), "the bench is open from 19:00 to 22:00"},
		{time.Date(2026, 11, 26, 23, 0, 0, 0, time.UTC), "the bench is open from 19:00 to 22:00"},
		{time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC), "shut on that day"},
		{h.now.Add(-time.Hour), "past already"},
	} {
		look, err := h.LookPin(t.Context(), h.slug, knead.Op, x.at)
		h.ok(err)
		if look.May || !strings.Contains(look.Says, x.words) {
			t.Errorf("%s: %+v", x.at, look)
		}
	}
	_, err := h.LookPin(t.Context(), h.slug, dry.Op, h.now)
	h.refused(err, "op", "waits without hands")
	h.refused(h.Pin(t.Context(), h.slug, knead.Op, h.now.Add(-time.Hour)), "at", "past already")

	h.refused(h.Pin(t.Context(), h.slug, knead.Op, time.Date(2026, 11, 27, 12, 0, 0, 0, time.UTC)), "at", "shut on that day")

	at := laterHours(t, knead)
	h.ok(h.Pin(t.Context(), h.slug, knead.Op, at))
	h.kitchen(set{"exceptions": at.Format("2 Jan 2006") + ": shut"})
	is := h.of(knead.Op)
	if is.Pinned != nil || is.PlannedStart.Equal(at) {
		t.Errorf("the bench is shut then, and it stands at %s, pinned %v", is.PlannedStart, is.Pinned)
	}
	if x := h.trouble("pin"); x == nil || !strings.Contains(x.Says, "no hours for it") {
		t.Errorf("%+v", x)
	}
}

// Two at the bench see each their own steps; what is due for the other stands beside.
func TestTwoPeopleHaveTheirOwnSteps(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00 Ada, Bo\nThu 19:00-22:00 Ada, Bo"})
	h.must(studio.KindCommission, o, set{"handOver": "28 Nov 10:00"})
	other := h.mould(set{"name": "Shell"})
	for i, name := range []string{"Leaves", "Shells", "Sprays"} {
		h.piece(o, []int64{m, other, h.mould(set{"name": "Spray"})}[i], set{"name": name, "wanted": "24", "colour": []string{"green", "pink", "white"}[i]})
	}
	seen := map[string]string{}
	h.now = h.steps("knead")[0].Start
	for _, who := range []string{"Ada", "Bo"} {
		b, err := h.Bench(h.by(who), h.slug, "")
		h.ok(err)
		for _, st := range b.Evening {
			if st.For == "" {
				t.Fatalf("%s: nobody is named", st.Title)
			}
		}
		if b.Now != nil {
			if b.Now.For != who {
				t.Errorf("%s is shown %s, which is for %s", who, b.Now.Title, b.Now.For)
			}
			seen[b.Now.Op] = who
		}
		for _, st := range b.Others {
			if st.For == who {
				t.Errorf("%s is told that %s is for other hands", who, st.Title)
			}
		}
	}
	if len(seen) != 2 {
		t.Errorf("both are at one step, or one has none: %v", seen)
	}
	l, err := h.Line(t.Context(), h.slug, plan.LineIn{By: "person"})
	h.ok(err)
	if len(l.Rows) != 2 || l.Rows[0].Title == l.Rows[1].Title {
		t.Errorf("%+v", l.Rows)
	}
}

// A step from which hands are called off waits for them: its clock stands still, the
// plan gives it the time, and its minutes teach nothing.
func TestHandsAreCalledOff(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	h.now = h.steps("knead")[0].Start
	b := h.bench()
	op, ends := b.Now.Op, b.Now.PlannedEnd
	b, err := h.CallOff(t.Context(), h.slug, op, b.Now.Version)
	h.ok(err)
	if b.Away == nil || b.Away.Op != op || !slices.ContainsFunc(b.Away.Says, func(s string) bool { return strings.Contains(s, "Cover the paste") }) {
		t.Fatalf("%+v", b.Away)
	}
	h.after(25 * time.Minute)
	b = h.bench()
	b, err = h.GoOn(t.Context(), h.slug, op, b.Away.Version)
	h.ok(err)
	if b.Away != nil || b.Now == nil || b.Now.Op != op {
		t.Fatalf("away %+v, now %+v", b.Away, b.Now)
	}
	h.now = h.now.Add(time.Minute)
	h.planNow(h.slug)
	if press := h.steps("press")[0]; !press.PlannedStart.After(ends.Add(20 * time.Minute)) {
		t.Errorf("called off for 25 min, and its press is planned for %s; the kneading was to end %s", press.PlannedStart, ends)
	}
	b, err = h.Finish(t.Context(), h.slug, op, b.Now.Version, false)
	h.ok(err)
	if st := h.of(op); st.Clocked || len(st.Away) != 1 || st.Away[0].Until == nil {
		t.Errorf("%+v", st.Away)
	}
	for range 3 { // the finish, the coming back, the going
		_, err = h.back()
		h.ok(err)
	}
	if st := h.of(op); st.ActualStart != nil || len(st.Away) != 0 {
		t.Errorf("taken back, it began %v and was left %v", st.ActualStart, st.Away)
	}
}

// A press that hands are called off waits for them as well: what follows is planned later.
func TestAPressWaitsForHands(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	h.piece(o, h.mould(set{"name": "Frond", "chilled": "yes", "copies": "2", "freezeMinutes": "8"}), set{"wanted": "9"})
	knead := h.steps("knead")[0]
	h.now = knead.Start
	_, err := h.Finish(t.Context(), h.slug, knead.Op, h.stepVersion(knead.Op), false)
	h.ok(err)
	h.after(30 * time.Minute)
	b := h.hands() // its first ball is pressed
	press, before := b.Now.Op, h.steps("dry")[0].PlannedStart
	if b.Now.Kind != "press" {
		t.Fatalf("%+v", b.Now.Title)
	}
	_, err = h.CallOff(t.Context(), h.slug, press, b.Now.Version)
	h.ok(err)
	h.after(40 * time.Minute)
	b = h.bench()
	_, err = h.GoOn(t.Context(), h.slug, press, b.Away.Version)
	h.ok(err)
	if dry := h.steps("dry")[0]; dry.PlannedStart.Sub(before) < 30*time.Minute {
		t.Errorf("called off for 40 min, and it dries from %s, %s as before", dry.PlannedStart, before)
	}
}

// Ten minutes free: only what binds hands no longer is offered, the paste that must be
// pressed at once with its press.
func TestWhatFitsIntoAFewMinutes(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"wanted": "20"})
	knead, press := h.steps("knead")[0], h.steps("press")[0]
	both := int(knead.End.Sub(knead.Start)/time.Minute) + int(press.End.Sub(press.Start)/time.Minute)
	short, err := h.Fits(t.Context(), h.slug, int(knead.End.Sub(knead.Start)/time.Minute)+1)
	h.ok(err)
	if len(short.Steps) != 0 || !strings.Contains(short.Says, "Nothing fits into") || !strings.Contains(short.Says, knead.Title) {
		t.Errorf("the kneading alone: %+v", short)
	}
	long, err := h.Fits(t.Context(), h.slug, both+120)
	h.ok(err)
	if len(long.Steps) != 1 || long.Steps[0].Op != knead.Op {
		t.Errorf("%+v", long)
	}
	_, err = h.Fits(t.Context(), h.slug, 0)
	h.refused(err, "minutes", "From 1 to 240")
}
