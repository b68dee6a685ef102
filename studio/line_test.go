package studio_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
)

func kinds(steps []plan.LineStep) (out []string) {
	for _, s := range steps {
		out = append(out, s.Kind)
	}
	return out
}

func TestTheChainOfAPiece(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		say         string
		mould, with set
		want        string
	}{
		{"plain paste, straight out, dried", nil, set{"eaten": "mouthful"}, "knead press dry putOn settle pack"},
		{"a blend rests in its bag first", nil, set{"carries": "yes"}, "knead rest press dry putOn settle pack"},
		{"bagged until it goes on", nil, set{"eaten": "mouthful", "joined": "pliable", "bagged": "yes"}, "knead press putOn settle pack"},
		{"cold from the freezer it goes on as it is pressed", set{"chilled": "yes"}, set{"eaten": "mouthful", "joined": "cold"}, "knead press settle pack"},
		{"after an hour and a half in the freezer, dusted", set{"chilled": "yes", "freezeMinutes": "90", "depthMM": "10 mm", "copies": "20"}, set{"eaten": "mouthful", "dusted": "yes"}, "knead press air dust dry putOn settle pack"},
	} {
		t.Run(c.say, func(t *testing.T) {
			t.Parallel()
			h, _, o := stocked(t)
			h.kitchen(set{"hours": "Tue 8:00-22:00\nWed 8:00-22:00\nThu 8:00-22:00\nFri 8:00-22:00\nSat 7:00-22:00", "rhPercent": "58 %", "freezerPlaces": "20"})
			h.piece(o, h.mould(with(set{"name": "Special"}, c.mould)), c.with)
			steps := h.steps("")
			if got := strings.Join(kinds(steps), " "); got != c.want {
				t.Errorf("%s, want %s; %v", got, c.want, h.line().LeftOut)
			}
			for i, s := range steps {
				if i > 0 && s.Start.Before(steps[i-1].Start) {
					t.Errorf("%s begins before %s", s.Title, steps[i-1].Title)
				}
				if len(s.Says) == 0 || s.Attended && s.Planned.NotLater == "" {
					t.Errorf("%s says nothing: %+v", s.Title, s.Planned)
				}
			}
		})
	}
}

func TestStepsLieInTheHours(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00 Ines\nThu 19:00-22:00 Ines, Tobi\nSat 6:00-9:00 Ines"})
	for i := range 4 {
		h.piece(o, m, set{"name": fmt.Sprintf("Leaves %d", i+1), "wanted": "20"})
	}
	l := h.line()
	if !l.Fits || l.Trouble != "" {
		t.Fatalf("%v %s", l.Late, l.Trouble)
	}
	open := map[time.Weekday][2]int{time.Tuesday: {19, 22}, time.Thursday: {19, 22}, time.Saturday: {6, 9}}
	hands := map[string][]plan.LineStep{}
	for _, s := range h.steps("") {
		if !s.Attended {
			continue
		}
		o, ok := open[s.Start.Weekday()]
		if !ok || s.Start.Hour() < o[0] || s.End.After(time.Date(s.Start.Year(), s.Start.Month(), s.Start.Day(), o[1], 0, 0, 0, s.Start.Location())) {
			t.Errorf("%s: %s to %s lies outside the hours", s.Title, s.Start, s.End)
		}
		for _, n := range s.Planned.Hands {
			if n == 2 && s.Start.Weekday() != time.Thursday {
				t.Errorf("%s is given to a second person on a %s", s.Title, s.Start.Weekday())
			}
			key := fmt.Sprintf("%s %d", s.Start.Format("02"), n)
			hands[key] = append(hands[key], s)
		}
	}
	if len(hands) < 2 {
		t.Errorf("%v", hands)
	}
}

func TestPiecesThatAreEatenAreNotMadeTooEarly(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"freshDays": "3", "hours": "Tue 19:00-22:00\nWed 19:00-22:00\nThu 19:00-22:00\nFri 8:00-22:00\nSat 6:00-9:00"})
	h.piece(o, m, set{"joined": "semiDry"})
	handOver := time.Date(2026, 12, 5, 10, 0, 0, 0, time.UTC)
	for _, s := range h.steps("knead") {
		if age := handOver.Sub(s.Start); age > 72*time.Hour {
			t.Errorf("kneaded %s before the hand-over", age)
		}
	}
	h.kitchen(set{"hours": "Tue 19:00-22:00\nSat 6:00-9:00"}) // the only evening lies too early
	l := h.line()
	if !strings.Contains(l.Trouble, "3 days that it stays fresh") || len(h.steps("press")) == 0 {
		t.Errorf("%q %+v", l.Trouble, l.Rows)
	}
	other := h.order(set{"title": "No pieces yet"})
	rows, err := h.list()
	h.ok(err)
	for _, r := range rows {
		if (r.Trouble != nil) != (r.ID == o) {
			t.Errorf("%s (%d, not %d): %v", r.Title, r.ID, other, r.Trouble)
		}
	}
}

// An order that is late either way keeps its pieces fresh: older ones are planned
// only where that makes it less late.
func TestPiecesAreNotMadeEarlierForNothing(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"freshDays": "3", "hours": "Tue 19:00-22:00\nSat 6:00-9:00"})
	h.must(studio.KindCommission, o, set{"handOver": "Tue 20:30"}) // an hour from now: nothing dries by then
	h.piece(o, m, nil)
	l := h.line()
	if len(l.Late) == 0 || len(h.steps("press")) == 0 {
		t.Fatalf("late %v, %s", l.Late, l.Trouble)
	}
	if strings.Contains(l.Trouble, "stay fresh") {
		t.Errorf("freshness was given up for nothing: %q", l.Trouble)
	}
}

// A slow machine still gives a plan: with no time to search the first that is found
// stands, in time or late.
func TestTheFirstPlanIsMadeWhateverTheTime(t *testing.T) {
	t.Parallel()
	for handOver, late := range map[string]bool{"5 Dec 10:00": false, "Tue 20:30": true} {
		h, m, o := stocked(t)
		h.Budget = time.Nanosecond
		h.must(studio.KindCommission, o, set{"handOver": handOver})
		h.piece(o, m, nil)
		if l := h.line(); len(h.steps("press")) != 1 || (len(l.Late) > 0) != late {
			t.Errorf("for %s: %d presses, late %v, %q", handOver, len(h.steps("press")), l.Late, l.Trouble)
		}
	}
}

func TestASemiDryPieceWithoutHoursIsSaid(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00\nThu 19:00-22:00"}) // never within an hour of its window
	h.must(studio.KindCommission, o, set{"cakeReady": "Thu week 19:00", "handOver": "Fri week 18:00"})
	h.piece(o, m, set{"name": "Curls", "joined": "semiDry"})
	l := h.line()
	if !strings.Contains(l.Trouble, "Curls: the hours leave no time to put it on while it still gives") || len(h.steps("press")) == 0 {
		t.Errorf("%q %+v %v", l.Trouble, l.LeftOut, l.Late)
	}
}

func TestALongBatchIsSplitIntoEvenings(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	h.kitchen(set{"trays": "20 of 400 x 300 mm"})
	m := h.mould(set{"name": "Slow", "fillSec": "240", "unmouldMinutes": "1 min"})
	p := h.piece(o, m, set{"wanted": "60"})
	press := h.steps("press")
	made := 0
	for i, s := range press {
		if want := fmt.Sprintf("part %d of %d", i+1, len(press)); len(press) > 1 && !strings.Contains(s.Title, want) {
			t.Errorf("%s: want %s", s.Title, want)
		}
		var n int
		if _, err := fmt.Sscanf(s.Title, "Press %d", &n); err != nil {
			t.Fatal(err)
		}
		made += n
	}
	if balls := h.view(o, p).Make.Balls.Value; len(press) < 2 || float64(made) != balls {
		t.Errorf("%d of %v balls in %d parts", made, balls, len(press))
	}
	h.must(studio.KindTool, m, set{"fillSec": "3600", "cavities": "8"})
	if l := h.line(); len(l.LeftOut) != 1 || !strings.Contains(l.LeftOut[0], "At the step press, not even one piece fits") {
		t.Errorf("%v", l.LeftOut)
	}
}

func TestWithoutATrayNothingDries(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	h.kitchen(set{"trays": ""})
	if l := h.line(); len(l.LeftOut) != 1 || !strings.Contains(l.LeftOut[0], "no tray") {
		t.Errorf("%v", l.LeftOut)
	}
	h.kitchen(set{"trays": "1 of 2000 x 2000 mm\n1 of 100 x 100 mm"})
	// 15 leaves of 70 x 40 mm with their gaps fill five small trays: there are two, so it dries in parts
	if l := h.line(); len(l.LeftOut) != 0 || len(h.steps("press")) < 2 {
		t.Errorf("%v, %d parts", l.LeftOut, len(h.steps("press")))
	}
}

func TestFormersHoldWhatDriesOnThem(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.make(studio.KindTool, 0, set{"name": "Cupped holes", "kind": "cup", "diameterMM": "30 mm", "places": "6"})
	h.kitchen(set{"trays": ""})
	h.piece(o, m, set{"wanted": "5", "support": "cup"})
	if l := h.line(); len(l.LeftOut) != 0 || len(h.steps("dry")) != 1 {
		t.Errorf("%v", l.LeftOut)
	}
}

func TestALateCommissionSaysByHowMuchAndWhy(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	if l := h.line(); !l.Fits || len(l.Late) != 0 || l.StartBy == "" || len(l.Decides) == 0 {
		t.Errorf("%+v", l)
	}
	h.must(studio.KindCommission, o, set{"handOver": "tomorrow 10:00"})
	l := h.line()
	if l.Fits || len(l.Late) != 1 || !strings.HasPrefix(l.Late[0], "Winter wedding: Late by ") || strings.Contains(l.Late[0], "p1.") {
		t.Errorf("%v %v", l.Fits, l.Late)
	}
	rows, err := h.list()
	h.ok(err)
	if rows[0].Trouble == nil || !strings.HasPrefix(rows[0].Trouble.Says, "Late by ") {
		t.Errorf("%+v", rows[0])
	}
}

func TestTheOrderThatNeedsAHandFirst(t *testing.T) {
	t.Parallel()
	h, m, far := stocked(t)
	soon := h.order(set{"title": "Soon", "handOver": "Sun week 12:00"})
	undated := h.order(set{"title": "No date", "handOver": ""})
	aside := h.order(set{"title": "Aside", "handOver": "Fri 12:00"})
	done := h.order(set{"title": "Done", "handOver": "Fri 12:00"})
	h.ok(h.SetState(t.Context(), h.slug, aside, "aside", true))
	h.ok(h.SetState(t.Context(), h.slug, done, "handedOver", true))
	h.must(studio.KindCommission, far, set{"handOver": "in 3 weeks 12:00"})
	h.piece(far, m, nil)
	want := []int64{soon, far, undated, aside, done}
	got := func() (ids []int64) {
		rows, err := h.list()
		h.ok(err)
		for _, r := range rows {
			ids = append(ids, r.ID)
		}
		return ids
	}
	if !slices.Equal(got(), want) {
		t.Errorf("%v, want %v", got(), want)
	}
	// much to do makes the far one urgent: it must begin before the near one is handed over
	h.must(studio.KindTool, m, set{"fillSec": "1200"})
	h.kitchen(set{"freshDays": "60", "trays": "20 of 400 x 300 mm"})
	ps, err := h.Commission(t.Context(), h.slug, far)
	h.ok(err)
	h.must(studio.KindPiece, ps.Pieces[0].ID, set{"wanted": "30"})
	if got()[0] != far {
		t.Errorf("%v: %d begins first", got(), far)
	}
	h.ok(h.Delete(t.Context(), h.slug, studio.KindCommission, soon, false))
	if slices.Contains(got(), soon) {
		t.Error("deleted, and still listed")
	}
	h.ok(h.Delete(t.Context(), h.slug, studio.KindCommission, soon, true))
	if !slices.Contains(got(), soon) {
		t.Error("brought back, and not listed")
	}
}

func TestOneRoomForAllCommissions(t *testing.T) {
	t.Parallel()
	h, _, one := stocked(t)
	two := h.order(set{"title": "Second", "handOver": "5 Dec 11:00"})
	m := h.mould(set{"name": "Shared", "chilled": "yes"})
	h.piece(one, m, set{"wanted": "30"})
	h.piece(two, m, set{"wanted": "30"})
	press := h.steps("press")
	if len(press) < 2 {
		t.Fatalf("%+v", h.line().LeftOut)
	}
	for i, a := range press {
		for _, b := range press[:i] {
			if a.Start.Before(b.End) && b.Start.Before(a.End) {
				t.Errorf("one mould, and %s overlaps %s", a.Title, b.Title)
			}
		}
	}
	l, err := h.Line(t.Context(), h.slug, plan.LineIn{Commission: two})
	h.ok(err)
	if len(l.Rows) != 1 || l.Rows[0].CommissionID != two {
		t.Errorf("%+v", l.Rows)
	}
}

// The plan is kept while nothing it rests on has changed, and made anew when a
// start has passed unmarked.
func TestThePlanIsMadeAnewOnlyWhenItMust(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	made := func() (at time.Time, hash string) {
		h.line()
		h.ok(h.Store.Read(t.Context(), h.slug, func(tx journal.Tx) error {
			p, err := tx.Plan()
			at, hash = p.MadeAt, p.Hash
			return err
		}))
		return at, hash
	}
	at, hash := made()
	h.now = h.now.Add(3 * time.Hour)
	if again, _ := made(); !again.Equal(at) {
		t.Error("made anew for nothing")
	}
	h.kitchen(set{"words": "us"}) // its words are in the steps
	if again, other := made(); again.Equal(at) || other == hash {
		t.Error("other words, and the same plan")
	}
	first := h.steps("knead")[0]
	h.now = first.Start.Add(20 * time.Minute)
	if again := h.steps("knead")[0]; !again.Start.After(first.Start) {
		t.Errorf("it should have begun at %s and is still planned for then", first.Start)
	}
}

// A part that has been begun stays what it is when the count changes.
func TestABegunPartStaysWhenTheCountChanges(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	h.kitchen(set{"trays": "20 of 400 x 300 mm"})
	m := h.mould(set{"name": "Slow", "fillSec": "240", "unmouldMinutes": "1 min"})
	p := h.piece(o, m, set{"wanted": "60"})
	first := h.steps("press")[0]
	h.now = h.steps("knead")[0].Start
	h.finish("knead")
	h.now = first.Start.Add(20 * time.Minute)
	done := h.finish("press")
	for _, wanted := range []string{"90", "30", "60"} {
		h.must(studio.KindPiece, p, set{"wanted": wanted})
		balls, made, seen := int(h.view(o, p).Make.Balls.Value), 0, map[string]bool{}
		for _, s := range h.steps("press") {
			if seen[s.Op] {
				t.Errorf("%s stands twice", s.Op)
			}
			seen[s.Op] = true
			made += s.Planned.Run.Balls
			if s.Op == done.Op && (s.ActualEnd == nil || s.Planned.Run.Balls != done.Planned.Run.Balls) {
				t.Errorf("%s wanted: the part that is done has become %+v", wanted, s.Planned.Run)
			}
		}
		if want := max(balls, done.Planned.Run.Balls); made != want || !seen[done.Op] {
			t.Errorf("%s wanted: %d balls in all parts, want %d", wanted, made, want)
		}
	}
}

// TestHandsAndWaitingAreToldApart: what waits for the freezer is at the bench, not hands.
func TestHandsAndWaitingAreToldApart(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	slow := h.mould(set{"name": "Slow", "chilled": "yes", "fillSec": "60", "freezeMinutes": "20"})
	h.piece(o, slow, set{"wanted": "8", "eaten": "mouthful"})
	hands, length := 0, 0
	for _, st := range h.steps("") {
		if st.Attended {
			hands += st.Hands()
			length += int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
		}
	}
	v, err := h.Line(t.Context(), h.slug, plan.LineIn{Commission: o})
	h.ok(err)
	if want := fmt.Sprintf("to come: %s of hands, %s at the bench", read.SayMinutes(hands), read.SayMinutes(length)); hands >= length || !strings.HasSuffix(v.Says, want) {
		t.Errorf("%q, not %q", v.Says, want)
	}
	if v.StartBy == "" {
		t.Error("an order says by when it is begun")
	}
	whole, err := h.Line(t.Context(), h.slug, plan.LineIn{})
	h.ok(err)
	if !strings.Contains(whole.Says, read.SayMinutes(hands)+" of hands, ") {
		t.Errorf("%q", whole.Says)
	}
}
