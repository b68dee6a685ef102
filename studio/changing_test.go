package studio_test

import (
	"dustyfern/studio/plan"
	"errors"
	"fmt"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/read"
)

func text(fields []read.FieldView, name string) string {
	for _, f := range fields {
		if f.Name == name {
			return f.Text
		}
	}
	return "no such field"
}

// A blank form, sent as it is shown with what must be said, makes a row.
func TestBlankFormsMakeRows(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	for kind, must := range map[studio.Kind]set{
		studio.KindTool: {"name": "Acorn", "lengthMM": "18 mm", "widthMM": "12 mm", "depthMM": "6 mm"}, studio.KindLot: {"name": "Ivory", "massG": "1 lb"},
		studio.KindCommission: {"title": "Acorns"}, studio.KindPiece: {"name": "Acorns", "tool": fmt.Sprint(m)},
	} {
		blank, err := h.Blank(t.Context(), h.slug, kind, "")
		h.ok(err)
		s := set{}
		for _, f := range blank.Fields {
			s[f.Name] = f.Text
		}
		if _, err := h.Create(t.Context(), h.slug, kind, o, s); err == nil {
			t.Errorf("%s: an empty form made a row", kind)
		}
		id := h.make(kind, o, with(s, must))
		if v := h.version(kind, id); v != 1 {
			t.Errorf("%s: version %d", kind, v)
		}
		// nothing said at all is refused by the first field, never by a crash
		if _, err := h.Create(t.Context(), h.slug, kind, o, nil); err == nil {
			t.Errorf("%s: nothing made a row", kind)
		}
	}
	if _, err := h.Create(t.Context(), h.slug, studio.KindPiece, 999, set{"name": "x"}); !errors.Is(err, journal.ErrNotFound) {
		t.Error(err)
	}
}

func TestManyHandsOnOneRow(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	v := h.version(studio.KindPiece, p)
	sets := []set{{"colour": "moss"}, {"wanted": "13"}, {"bent": "yes"}, {"heightMM": "40 mm"}, {"edgeMM": "0.5 mm"}, {"dusted": "yes"}, {"support": "rack"}, {"handledSoon": "yes"}}
	var wg sync.WaitGroup
	for _, s := range sets {
		wg.Go(func() {
			if err := h.Change(t.Context(), h.slug, studio.KindPiece, p, journal.ChangeIn{Version: v, Set: s}); err != nil {
				t.Errorf("%v: %v", s, err)
			}
		})
	}
	wg.Wait()
	got := h.view(o, p)
	for _, s := range sets {
		for name, want := range s {
			if text(got.Fields, name) != want {
				t.Errorf("%s is %q, not %q", name, text(got.Fields, name), want)
			}
		}
	}
	if got.Version != v+int64(len(sets)) {
		t.Errorf("version %d after %d changes of %d", got.Version, len(sets), v)
	}
}

func TestOneFieldFromTwoSidesCarriesBothStates(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	v := h.version(studio.KindPiece, p)
	change := func(version int64, s set) error {
		return h.Change(t.Context(), h.slug, studio.KindPiece, p, journal.ChangeIn{Version: version, Set: s})
	}
	h.ok(change(v, set{"wanted": "20", "colour": "moss"}))
	var clash *journal.Conflict
	if err := change(v, set{"wanted": "30", "bent": "yes"}); !errors.As(err, &clash) {
		t.Fatal(err)
	}
	if !slices.Equal(clash.Fields, []string{"wanted"}) || clash.Theirs["wanted"] != "20" || clash.Yours["wanted"] != "30" || clash.Version != v+1 {
		t.Errorf("%+v", clash)
	}
	if got := h.view(o, p); text(got.Fields, "bent") != "no" {
		t.Error("half of a refused change was kept")
	}
	h.ok(change(v, set{"wanted": "20"})) // the same word meets no clash
	h.ok(change(clash.Version, set{"wanted": "30"}))
	h.refused(change(99, set{"wanted": "1"}), "version", "as it was read")
	h.refused(change(h.version(studio.KindPiece, p), set{"wnated": "1"}), "wnated", "no field")
}

func TestPiecesInOrder(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	a, b, c := h.piece(o, m, set{"name": "A"}), h.piece(o, m, set{"name": "B"}), h.piece(o, m, set{"name": "C"})
	order := func() string {
		v, err := h.Commission(t.Context(), h.slug, o)
		h.ok(err)
		var out []string
		for _, p := range v.Pieces {
			out = append(out, p.Name)
		}
		return strings.Join(out, " ")
	}
	move := func(id int64, up bool) { t.Helper(); h.ok(h.Move(t.Context(), h.slug, id, up)) }
	for _, step := range []struct {
		do   func()
		want string
	}{
		{func() { move(c, true) }, "A C B"},
		{func() { move(a, true) }, "A C B"}, // it is the first already
		{func() { move(b, false) }, "A C B"},
		{func() { move(a, false) }, "C A B"},
		{func() { h.ok(h.Delete(t.Context(), h.slug, studio.KindPiece, a, false)) }, "C B"},
		{func() { move(c, false) }, "B C"}, // past the deleted one
		{func() { move(a, true) }, "B C"},
		{func() {
			_, err := h.Duplicate(t.Context(), h.slug, b)
			h.ok(err)
		}, "B B (copy) C"},
		{func() {
			v, err := h.Commission(t.Context(), h.slug, o)
			h.ok(err)
			_, err = h.Duplicate(t.Context(), h.slug, v.Pieces[1].ID)
			h.ok(err)
		}, "B B (copy) B (copy) C"},
	} {
		step.do()
		if got := order(); got != step.want {
			t.Fatalf("%s, want %s", got, step.want)
		}
	}
	h.ok(h.Delete(t.Context(), h.slug, studio.KindPiece, a, true))
	h.ok(h.Delete(t.Context(), h.slug, studio.KindPiece, a, true)) // a repeat does nothing
	if !strings.Contains(order(), "A") {
		t.Error(order())
	}
}

func TestWhatCannotBeTrueTogether(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.refused(h.set(studio.KindCommission, o, set{"cakeReady": "6 Dec 10:00"}), "cakeReady", "before it is handed over")
	h.refused(h.set(studio.KindTool, m, set{"shape": "sheet", "depthMM": "20 mm"}), "depthMM", "12 mm")
	p := h.piece(o, m, nil)
	h.refused(h.set(studio.KindPiece, p, set{"tool": "999"}), "tool", "not in the tool drawer")
	h.refused(h.set(studio.KindPiece, p, set{"tool": "the green one"}), "tool", "tool drawer")
	h.refused(h.Delete(t.Context(), h.slug, studio.KindTool, m, false), "name", `"Leaves" is made with it`)
	h.must(studio.KindPiece, p, set{"tool": ""})
	h.ok(h.Delete(t.Context(), h.slug, studio.KindTool, m, false))
	tools, err := h.Tools(t.Context(), h.slug)
	h.ok(err)
	if len(tools) != 0 {
		t.Errorf("%+v", tools)
	}
	if _, err := h.Commission(t.Context(), h.slug, 999); !errors.Is(err, journal.ErrNotFound) {
		t.Error(err)
	}
	if _, err := h.Commission(t.Context(), "nowhere", o); !errors.Is(err, journal.ErrNotFound) {
		t.Error(err)
	}
}

func TestAHandOverThatIsOver(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, nil)
	h.now = time.Date(2026, 12, 5, 12, 0, 0, 0, time.UTC)
	c, err := h.Commission(t.Context(), h.slug, o)
	h.ok(err)
	if c.In != "2 h ago" {
		t.Error(c.In)
	}
	rows, err := h.list()
	h.ok(err)
	if rows[0].Trouble == nil {
		t.Errorf("%+v", rows[0])
	}
	// other fields can still be put right, the date only to one that is to come
	h.must(studio.KindCommission, o, set{"notes": "She came late."})
	h.refused(h.set(studio.KindCommission, o, set{"handOver": "5 Dec 11:00"}), "handOver", "is over")
	h.must(studio.KindCommission, o, set{"handOver": text(c.Fields, "handOver")})
	h.must(studio.KindCommission, o, set{"handOver": "tomorrow 10:00"})
}

func TestSettledStages(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	o := h.order(set{"handOver": ""})
	settled := func() (out string) {
		c, err := h.Commission(t.Context(), h.slug, o)
		h.ok(err)
		for _, s := range c.Stages {
			if s.Settled {
				out += fmt.Sprint(s.Key)
			}
		}
		return out
	}
	if got := settled(); got != "" {
		t.Errorf("an order without a date: %s", got)
	}
	h.must(studio.KindCommission, o, set{"handOver": "Sat week 10:00"})
	if got := settled(); got != "1" {
		t.Error(got)
	}
	m := h.mould(set{"weighedG": "", "cavityML": "2 ml"})
	p := h.piece(o, m, nil)
	if got := settled(); got != "124678" { // the pantry is empty, nothing is weighed; as it comes it wants no colour
		t.Error(got)
	}
	h.lot("White", "sugarPaste", "1 kg", nil)
	h.lot("Flower", "flowerPaste", "1 kg", nil)
	h.must(studio.KindPiece, p, set{"trial": "3 g"})
	if got := settled(); got != "12345678" {
		t.Error(got)
	}
}

// TestHoursAreChangedByStretchAndDate as they are drawn: one stretch, one date, and what
// cannot be read is refused as a line of the hours is.
func TestHoursAreChangedByStretchAndDate(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.kitchen(set{"hours": "Tue 19:00-22:00 Ines, Tobi\nSat 9:00-13:00 (unwelcome)"})
	now := func() studio.KitchenView {
		t.Helper()
		k, err := h.Kitchen(t.Context(), h.slug)
		h.ok(err)
		return k
	}
	hours := func() string { return text(now().Row.Fields, "hours") }
	in := func(x studio.StretchIn) error {
		x.Version = now().Row.Version
		_, err := h.ChangeStretch(t.Context(), h.slug, x)
		return err
	}
	w := now().Week
	if len(w.Days) != 7 || w.Days[0].Name != "Monday" || len(w.Days[1].Stretches) != 1 || w.Days[1].Stretches[0].From != 19*60 || !w.Days[5].Stretches[0].Unwelcome || w.From > 7*60 || w.To < 22*60 {
		t.Fatalf("%+v", w)
	}
	h.ok(in(studio.StretchIn{At: -1, Weekday: 1, From: "7pm", To: "21:30", Who: "Ines"}))
	h.ok(in(studio.StretchIn{At: 1, Weekday: 2, From: "18:30", To: "22:00", Who: "Ines, Tobi"}))
	if got := hours(); got != "Mon 19:00-21:30 Ines\nTue 18:30-22:00 Ines, Tobi\nSat 09:00-13:00 (unwelcome)" {
		t.Errorf("%q", got)
	}
	h.refused(in(studio.StretchIn{At: -1, Weekday: 2, From: "21:00", To: "23:00"}), "hours", "overlap")
	h.refused(in(studio.StretchIn{At: -1, Weekday: 3, From: "22:00", To: "19:00"}), "hours", "")
	h.refused(in(studio.StretchIn{At: 7, Weekday: 3, From: "19:00", To: "20:00"}), "hours", "no such stretch")
	h.ok(in(studio.StretchIn{At: 0, Weekday: 1, Off: true}))
	if got := hours(); strings.Contains(got, "Mon") {
		t.Errorf("%q", got)
	}
	date := func(says string) studio.DateCell {
		t.Helper()
		k, err := h.ChangeDate(t.Context(), h.slug, now().Row.Version, "2026-12-05", says)
		h.ok(err)
		i := slices.IndexFunc(k.Week.Dates, func(c studio.DateCell) bool { return c.Date == "2026-12-05" })
		return k.Week.Dates[i]
	}
	if c := date("shut"); c.Open || !c.Own || c.Says != "shut" {
		t.Errorf("%+v", c)
	}
	if c := date("8:00-9:30 Ines"); !c.Open || !c.Own || c.Says != "08:00-09:30 Ines" {
		t.Errorf("%+v", c)
	}
	_, err := h.ChangeDate(t.Context(), h.slug, now().Row.Version, "2026-12-05", "late")
	h.refused(err, "exceptions", "")
	if c := date(""); c.Own || !c.Open {
		t.Errorf("as the week is: %+v", c)
	}
}

// TestABatchThatHasBegunKeepsItsCount: a press that stopped early puts on what is whole,
// and what breaks elsewhere in its mould adds no batch to a piece that is pressed already.
func TestABatchThatHasBegunKeepsItsCount(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.now = time.Date(2026, 11, 24, 8, 0, 0, 0, time.UTC)
	h.kitchen(set{"hours": "Mon-Sun 7:00-23:00"})
	h.lot("White", "sugarPaste", "150 g", set{"labelRead": "yes"})
	m := h.mould(set{"copies": "2", "breakage": ""})
	o := h.order(set{"handOver": "Sun 29 Nov 12:00", "allergies": "nuts"})
	p := h.piece(o, m, set{"name": "Leaves", "wanted": "12", "eaten": "mouthful"})
	h.piece(o, m, set{"name": "Buds", "wanted": "30", "eaten": "mouthful"})
	for i := 0; i < 60; i++ {
		b := h.bench()
		if b.Now == nil {
			if len(b.Offers) == 0 {
				break
			}
			h.now = b.Offers[0].Start
			continue
		}
		if b.Now.Kind == "press" && b.Now.Piece == "Leaves" {
			break
		}
		h.finish(b.Now.Kind)
	}
	b := h.bench()
	for i := 0; i < 4; i++ {
		_, err := h.Hands(t.Context(), h.slug, b.Now.Op, b.Now.Version, "", true)
		h.ok(err)
		b = h.bench()
	}
	h.must(studio.KindPiece, p, set{"wanted": "4"})
	b = h.bench()
	_, err := h.Enough(t.Context(), h.slug, b.Now.Op, b.Now.Version)
	h.ok(err)
	puts := func(want string) {
		t.Helper()
		titles := []string{}
		for _, s := range h.steps("putOn") {
			titles = append(titles, s.Title)
		}
		slices.Sort(titles)
		if got := strings.Join(titles, "; "); got != want {
			t.Errorf("%s, not %s", got, want)
		}
		if n := len(h.steps("press")); n != 2 {
			t.Errorf("%d presses", n)
		}
		if x := h.trouble("late"); x != nil {
			t.Errorf("%+v", x)
		}
	}
	puts("Put 30 Buds on; Put 4 Leaves on")
	b, err = h.Broke(t.Context(), h.slug, h.bench().Tallies[0].Op, h.bench().Tallies[0].Version, "tore")
	h.ok(err)
	if b.Tallies[0].Short != 1 {
		t.Fatalf("%+v", b.Tallies[0])
	}
	_, err = h.PressMore(t.Context(), h.slug, p, 1)
	h.ok(err)
	puts("Put 30 Buds on; Put 4 Leaves on")
	if !slices.ContainsFunc(h.steps("press"), func(s plan.LineStep) bool { return s.Title == "Press 4 Leaves, 1 more" }) {
		t.Errorf("%+v", h.steps("press"))
	}
}
