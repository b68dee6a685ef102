package studio_test

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio/evening"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

// hands does the next movement of what the bench shows.
func (h *house) hands() evening.BenchView {
	h.t.Helper()
	b := h.due()
	if b.Now == nil {
		h.t.Fatal("nothing to do")
	}
	return h.move(b)
}

// move does what the bench showed when hands began.
func (h *house) move(b evening.BenchView) evening.BenchView {
	h.t.Helper()
	do := ""
	if b.Move != nil {
		do = b.Move.Do
	}
	out, err := h.Hands(h.t.Context(), h.slug, b.Now.Op, b.Now.Version, do, true)
	h.ok(err)
	return out
}

func (h *house) after(d time.Duration) *house { h.now = h.now.Add(d); return h }

// chilledEvening is an evening with one chilled mould of two copies: six balls.
func chilledEvening(t testing.TB, s set) (h *house, order, piece int64) {
	h, _, o := stocked(t)
	m := h.mould(set{"name": "Frond", "chilled": "yes", "copies": "2", "fillSec": "120", "unmouldMinutes": "1", "freezeMinutes": "8"})
	p := h.piece(o, m, with(set{"name": "Fronds", "wanted": "4", "eaten": "mouthful"}, s))
	h.now = h.steps("knead")[0].Start
	return h, o, p
}

func TestRoundsAreWalkedHandByHand(t *testing.T) {
	t.Parallel()
	h, _, p := chilledEvening(t, nil)
	balls := int(h.view(1, p).Make.Balls.Value)
	h.after(6 * time.Minute).hands() // kneaded
	var said []string
	for range 40 {
		b := h.due()
		if b.Now == nil || b.Now.Kind != "press" {
			break
		}
		said = append(said, b.Move.Do)
		switch b.Move.Do {
		case "press":
			h.after(2 * time.Minute)
		case "open":
			h.after(time.Minute)
		case "wait":
			_, err := h.Hands(t.Context(), h.slug, b.Now.Op, b.Now.Version, "", true)
			h.refused(err, "op", "Every copy is in the freezer")
			h.now = time.UnixMilli(b.Move.AtMS)
			continue
		}
		h.move(b) // what was shown when hands began, whatever has become ready meanwhile
	}
	if got := strings.Join(said[:8], " "); got != "press press wait open press open press wait" {
		t.Errorf("%v", said)
	}
	press := h.steps("press")[0]
	if press.ActualEnd == nil || *press.Made != balls || len(press.Fills) != balls {
		t.Errorf("%+v of %d", press.Made, balls)
	}
	for _, f := range press.Fills {
		if f.Out.Sub(f.At) < 8*time.Minute {
			t.Errorf("fill %d was %s in the freezer", f.N, f.Out.Sub(f.At))
		}
	}
	if s := h.steps("dry")[0]; s.ActualStart == nil || !s.ActualStart.Equal(*press.ActualEnd) {
		t.Error("as the last is out they dry")
	}
	if h.journal(1)[0].Says != fmt.Sprintf("opened %d of %d, Fronds", balls, balls) {
		t.Error(h.journal(1)[0].Says)
	}
}

func TestARepeatedPressDoesNothingTwice(t *testing.T) {
	t.Parallel()
	h, _, _ := chilledEvening(t, nil)
	h.after(6 * time.Minute).hands()
	b := h.bench()
	for range 3 { // the same act, sent again
		_, err := h.Hands(journal.As(t.Context(), "Ines", "window-1/press-1"), h.slug, b.Now.Op, b.Now.Version, "press", true)
		h.ok(err)
	}
	if n := len(h.steps("press")[0].Fills); n != 1 {
		t.Errorf("%d fills", n)
	}
	b, err := h.back()
	h.ok(err)
	if b.Move == nil || b.Move.N != 1 || len(b.Timers) != 0 || h.steps("press")[0].ActualStart != nil {
		t.Errorf("%+v %+v", b.Move, b.Timers)
	}
	if b.LastSays == "" || !strings.HasPrefix(b.LastSays, "finished: Knead") {
		t.Error(b.LastSays)
	}
}

func TestTimersRingAndAreAnswered(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "2", "carries": "yes", "bent": "yes"})
	h.now = h.steps("knead")[0].Start
	b := h.hands() // kneaded: a blend rests 15 minutes
	if len(b.Timers) != 1 || b.Timers[0].Kind != "rest" || b.Timers[0].Rings != h.now.Add(15*time.Minute).UnixMilli() {
		t.Fatalf("%+v", b.Timers)
	}
	if b.Now != nil || b.Before == "" || b.Timers[0].Says != "Leaves: rests until "+h.now.Add(15*time.Minute).Format("Mon 15:04") {
		t.Errorf("%+v %q %+v", b.Now, b.Before, b.Timers)
	}
	h.after(16 * time.Minute)
	if b = h.bench(); len(b.Timers) != 1 {
		t.Error("it rings until somebody answers")
	}
	b, err := h.AnswerTimer(t.Context(), h.slug, b.Timers[0].ID)
	h.ok(err)
	if len(b.Timers) != 0 {
		t.Errorf("%+v", b.Timers)
	}
	for b.Now != nil && b.Now.Kind == "press" {
		b = h.after(time.Minute).hands()
	}
	if len(b.Timers) != 1 {
		t.Errorf("a piece has a row, with its next moment: %+v", b.Timers)
	}
	var kinds []string
	for _, x := range b.Timers {
		kinds = append(kinds, x.Kind)
		for _, m := range x.Then {
			kinds = append(kinds, m.Kind)
		}
		if !strings.Contains(x.Says, "eaves") {
			t.Errorf("%q does not say what", x.Says)
		}
	}
	// bent round a curve, the pieces are called before they skin; then each mark of drying
	for _, want := range []string{"open", "touch", "lift", "join"} {
		if !slices.Contains(kinds, want) {
			t.Errorf("no %s among %v", want, kinds)
		}
	}
	dry := h.view(o, p).Dry.Stages
	open := b.Timers[slices.IndexFunc(b.Timers, func(x evening.TimerView) bool { return x.Kind == "open" })]
	if minutes := float64(open.Rings-open.Starts) / 60000; minutes > dry[0].P10*60 {
		t.Errorf("it warns after %.0f min, they skin after %.0f", minutes, dry[0].P10*60)
	}
	// a later timer of one's own, and taking it back
	b, err = h.StartTimer(t.Context(), h.slug, "1 h 30", "Syrup")
	h.ok(err)
	i := slices.IndexFunc(b.Timers, func(x evening.TimerView) bool { return x.Kind == "own" })
	if x := b.Timers[i]; x.Says != "Syrup" || x.Rings-x.Starts != 90*60000 {
		t.Errorf("%+v", x)
	}
	b, err = h.back()
	h.ok(err)
	if slices.ContainsFunc(b.Timers, func(x evening.TimerView) bool { return x.Kind == "own" }) {
		t.Error("taken back, and it runs")
	}
	for text, field := range map[string]string{"soon": "minutes", "0": "minutes", "3 weeks": "minutes", "5 g": "minutes"} {
		_, err := h.StartTimer(t.Context(), h.slug, text, "")
		h.refused(err, field, "")
	}
}

func TestBrokenPiecesUseUpTheSpares(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	h.now = h.steps("knead")[0].Start
	h.hands()
	b := h.after(time.Minute).hands()
	spares := int(h.view(o, p).Make.Balls.Value) - 6
	for i := range spares + 2 {
		for b.Tallies[0].Made-b.Tallies[0].Broken == 0 {
			b = h.after(time.Minute).hands()
		}
		var err error
		b, err = h.Broke(t.Context(), h.slug, b.Tallies[0].Op, b.Tallies[0].Version, []string{"tore", "dropped"}[i%2])
		h.ok(err)
	}
	tally := b.Tallies[0]
	if tally.Broken != spares+2 || tally.Short != 2 || !strings.HasPrefix(tally.Says, "2 short: the spares are used up.") {
		t.Fatalf("%+v", tally)
	}
	fewer := b
	for fewer.Tallies[0].Made > tally.Broken {
		var err error
		fewer, err = h.Count(t.Context(), h.slug, tally.Op, fewer.Tallies[0].Version, -1)
		h.ok(err)
	}
	_, err := h.Count(t.Context(), h.slug, tally.Op, fewer.Tallies[0].Version, -1)
	h.refused(err, "by", "of them broke")
	for h.bench().Tallies[0].Made < tally.Made {
		h.undo()
	}
	tally = h.bench().Tallies[0]
	_, err = h.Broke(t.Context(), h.slug, tally.Op, tally.Version, "bored")
	h.refused(err, "why", "Say why")
	b, err = h.PressMore(t.Context(), h.slug, p, 2)
	h.ok(err)
	if b.Tallies[0].Short != 0 {
		t.Errorf("%+v", b.Tallies[0])
	}
	// the two that tore are pressed once more: in the same batch, without kneading or a rest
	if same := h.steps("press"); len(same) != 1 || !strings.HasSuffix(same[0].Title, "Leaves, 2 more") || !strings.Contains(fmt.Sprint(same[0].Says), "no new rest") || len(h.steps("knead")) != 1 {
		t.Errorf("%+v", same[0])
	}
	// what fell gives no paste back: those are kneaded anew
	_, err = h.PressMore(t.Context(), h.slug, p, 3)
	h.ok(err)
	again := h.steps("press")
	if len(again) != 2 || !strings.HasPrefix(again[1].Title, "Press 3 Leaves, again") || len(h.steps("knead")) != 2 {
		t.Errorf("%s", again[len(again)-1].Title)
	}
	h.undo()
	h.undo()
	if b = h.bench(); b.Tallies[0].Short != 2 {
		t.Errorf("%+v", b.Tallies[0])
	}
	// counted by hand
	b, err = h.Count(t.Context(), h.slug, tally.Op, b.Tallies[0].Version, 1)
	h.ok(err)
	if b.Tallies[0].Made != tally.Made+1 {
		t.Errorf("%+v", b.Tallies[0])
	}
	_, err = h.Count(t.Context(), h.slug, "p1.1.knead", h.steps("knead")[0].Version, 1)
	h.refused(err, "op", "Only pieces")
}

// Two batches with their moulds in the freezer: whichever is ready first.
func TestWhicheverMouldIsReadyFirst(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	h.kitchen(set{"hours": "Tue 8:00-22:00\nWed 8:00-22:00\nThu 8:00-22:00\nFri 8:00-22:00\nSat 6:00-9:00", "freezerPlaces": "6"})
	slow := h.mould(set{"name": "Slow", "chilled": "yes", "fillSec": "120", "freezeMinutes": "30"})
	quick := h.mould(set{"name": "Quick", "chilled": "yes", "fillSec": "120", "freezeMinutes": "10"})
	h.piece(o, slow, set{"name": "Slow ones", "wanted": "3", "eaten": "mouthful"})
	h.piece(o, quick, set{"name": "Quick ones", "wanted": "3", "eaten": "mouthful"})
	h.now = h.steps("knead")[0].Start
	var opened []string
	for range 60 {
		b := h.bench()
		if b.Now == nil && b.Before != "" {
			h.now = h.now.Add(10 * time.Minute)
			continue
		}
		if b.Now == nil || b.Now.Kind == "putOn" {
			break
		}
		if b.Move != nil && b.Move.Do == "wait" {
			h.now = time.UnixMilli(b.Move.AtMS)
			continue
		}
		for _, s := range h.steps("press") {
			for _, f := range s.Fills {
				ready := f.At.Add(time.Duration(s.Planned.Run.HoldSec) * time.Second)
				if f.Out == nil && !ready.After(h.now) && b.Move != nil && b.Move.Do != "open" {
					t.Errorf("%s is ready since %s, and the screen says %s", s.Piece, ready, b.Move.Say)
				}
			}
		}
		if b.Move != nil && b.Move.Do == "open" {
			opened = append(opened, b.Now.Piece)
		}
		h.after(time.Minute).hands()
	}
	if len(opened) < 6 {
		t.Errorf("%v", opened)
	}
}

func TestASlipMovesTheRestAndSaysSo(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	for _, name := range []string{"A", "B", "C"} {
		h.piece(o, m, set{"name": name, "wanted": "6"})
	}
	before := h.line().Moved
	h.now = h.steps("knead")[0].Start
	if l := h.line(); !reflect.DeepEqual(l.Moved, before) {
		t.Errorf("nothing has happened, and %+v", l.Moved)
	}
	first := h.steps("knead")[0]
	h.after(40 * time.Minute) // the telephone rang
	l := h.line()
	i := slices.IndexFunc(l.Moved, func(x noun.MovedLine) bool { return x.Op == first.Op })
	if i < 0 || l.MovedWhy != "a planned start has passed" || len(l.Before) == 0 {
		t.Fatalf("%+v %q", l.Moved, l.MovedWhy)
	}
	x := l.Moved[i]
	if x.From != h.reader().Time(first.Start, h.now) || x.To == x.From || x.Why == "" {
		t.Errorf("%+v", x)
	}
	if b := h.bench(); len(b.Moved) != len(l.Moved) {
		t.Error("the bench does not say what moved")
	}
}

// TestTheLastOneTears: a press that has just ended goes on with the torn ones, and what
// was over of its paste is not put into a tub twice; hours later they are made anew.
func TestTheLastOneTears(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	h.now = h.steps("knead")[0].Start
	h.finish("knead")
	h.after(40 * time.Minute)
	press := h.finish("press")
	tubs := func() (g float64) {
		v, err := h.Pantry(t.Context(), h.slug)
		h.ok(err)
		for _, s := range v.Shelves {
			for _, l := range s.Lots {
				if raw := h.raw(l.ID); raw.Leftover {
					g += raw.MassG
				}
			}
		}
		return g
	}
	over := tubs()
	tear := func() (b evening.BenchView) {
		for b = h.bench(); b.Tallies[0].Short == 0; {
			var err error
			b, err = h.Broke(t.Context(), h.slug, press.Op, b.Tallies[0].Version, "tore")
			h.ok(err)
		}
		return b
	}
	b := tear()
	balls, torn := b.Tallies[0].Made, b.Tallies[0].Broken
	h.after(10 * time.Minute)
	b, err := h.PressMore(t.Context(), h.slug, p, 1)
	h.ok(err)
	if b.Now == nil || b.Now.Op != press.Op || b.Tallies[0].Short != 0 {
		t.Fatalf("the same press goes on: %+v", b.Now)
	}
	for _, st := range h.steps("dry") {
		if st.ActualStart != nil {
			t.Error("it dries before it is pressed")
		}
	}
	b, err = h.Hands(t.Context(), h.slug, b.Now.Op, b.Now.Version, "", true)
	h.ok(err)
	if x := b.Tallies[0]; x.Made != balls+1 || x.Short != 0 || h.of(press.Op).ActualEnd == nil {
		t.Errorf("one more is made: %+v", x)
	}
	if got := tubs(); got != over {
		t.Errorf("%.1f g of trimmings, %.1f before", got, over)
	}
	if dry := h.steps("dry")[0]; dry.ActualStart == nil || !dry.ActualStart.Equal(h.now) {
		t.Errorf("they dry since the last is out: %v", dry.ActualStart)
	}
	h.undo()
	h.undo()
	if b = h.bench(); b.Tallies[0].Made != balls || b.Tallies[0].Broken != torn || h.of(press.Op).ActualEnd == nil {
		t.Errorf("taken back: %+v", b.Tallies[0])
	}
	h.after(3 * time.Hour)
	_, err = h.PressMore(t.Context(), h.slug, p, 1)
	h.ok(err)
	if n := len(h.steps("press")); n != 2 {
		t.Errorf("their paste has a skin by now, and %d presses", n)
	}
}
