package api

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/document"
	"dustyfern/studio/evening"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func (h *house) kitchen(s set) studio.KitchenView {
	h.t.Helper()
	var k studio.KitchenView
	h.must(hollow+"/kitchen", nil, &k)
	if s != nil {
		h.must(hollow+"/kitchen", change(k.Row.Version, s), &k)
	}
	return k
}

func text(fields []read.FieldView, name string) string {
	for _, f := range fields {
		if f.Name == name {
			return f.Text
		}
	}
	return "no such field"
}

func TestWordsAndUnitsFollowTheReader(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	h.kitchen(set{"words": "us", "units": "us"})
	p := h.piece("Toadstool caps")
	if len(p.Paste.Mix) == 0 || !strings.HasSuffix(p.Paste.Mix[0].Grams.Text, " oz)") {
		t.Errorf("%+v", p.Paste.Mix)
	}
	if !strings.Contains(p.Paste.Axis[0].Say, "fondant") || p.Paste.Axis[3].Say != "gum paste" || !strings.Contains(p.Dry.Room, "70 °F") {
		t.Errorf("%+v %s", p.Paste.Axis, p.Dry.Room)
	}
	var tools []work.RowView
	h.must(hollow+"/tools", nil, &tools)
	i := slices.IndexFunc(tools, func(r work.RowView) bool { return r.Name == "Toadstool cap" })
	if got := text(tools[i].Fields, "lengthMM"); got != "0.7874 in" {
		t.Errorf("20 mm reads %s", got)
	}
	// a bare number is an inch to this reader, and what is stored is still mm
	h.must(fmt.Sprintf(hollow+"/rows/tools/%d", tools[i].ID), change(tools[i].Version, set{"lengthMM": "1"}), nil)
	k := h.kitchen(set{"units": "metric"})
	if k.Units != "metric" || k.Room != "21 °C, 50 %" {
		t.Errorf("%+v", k)
	}
	h.must(hollow+"/tools", nil, &tools)
	if got := text(tools[i].Fields, "lengthMM"); got != "25.4 mm" {
		t.Errorf("1 in reads %s", got)
	}
}

// TestWhatIsShownCanBeSavedAgain sends every field back as it is shown: nothing
// moves.
func TestWhatIsShownCanBeSavedAgain(t *testing.T) {
	t.Parallel()
	for _, units := range []string{"metric", "us"} {
		h := serve(t, true)
		k := h.kitchen(set{"units": units})
		c := h.commission()
		var tools []work.RowView
		h.must(hollow+"/tools", nil, &tools)
		again := func(path string, version int64, fields []read.FieldView) {
			for _, f := range fields {
				if f.Text == "" {
					continue
				}
				if status, p := h.ask(path, change(version, set{f.Name: f.Text}), nil); status != 200 {
					t.Errorf("%s, %s = %q: %d %s", units, f.Name, f.Text, status, p.Detail)
				}
			}
		}
		again(hollow+"/kitchen", k.Row.Version, k.Row.Fields)
		again(hollow+"/rows/commissions/1", c.Version, c.Fields)
		again(fmt.Sprintf(hollow+"/rows/tools/%d", tools[2].ID), tools[2].Version, tools[2].Fields)
		for _, name := range []string{"White sugar paste, open", "Fern green", "Pearl white", "CMC", "Edible glue"} {
			l := h.lot(name)
			again(fmt.Sprintf(hollow+"/rows/lots/%d", l.ID), l.Version, l.Fields)
		}
		second := h.pieces()[1]
		again(fmt.Sprintf(hollow+"/rows/pieces/%d", second.ID), second.Version, second.Fields)
		var after []work.RowView
		h.must(hollow+"/tools", nil, &after)
		for i, f := range tools[2].Fields {
			if got := after[2].Fields[i].Text; got != f.Text {
				t.Errorf("%s, %s went from %q to %q", units, f.Name, f.Text, got)
			}
		}
	}
}

func TestHoursAndExceptionsMoveThePlan(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	before := h.line()
	used := map[string]bool{}
	for _, s := range before.Sessions {
		used[s.Day] = true
	}
	if !used["Fri 4"] {
		t.Fatalf("%+v", before.Sessions)
	}
	h.kitchen(set{"exceptions": "Fri 4 Dec shut"})
	after := h.line()
	for _, s := range after.Sessions {
		if s.Day == "Fri 4" {
			t.Error("a shut day is worked")
		}
	}
	if !after.Fits || len(after.Moved) == 0 {
		t.Errorf("what stood on Friday moves: %v, %v %s %v", after.Moved, after.Late, after.Trouble, after.LeftOut)
	}
	k := h.kitchen(nil)
	if status, p := h.ask(hollow+"/kitchen", change(k.Row.Version, set{"hours": "Tue 19:00-22:00\nTue 21:00-23:00"}), nil); status != 422 || !strings.Contains(p.Detail, "overlap") {
		t.Errorf("%d %+v", status, p)
	}
	if status, p := h.ask(hollow+"/kitchen", change(k.Row.Version, set{"hours": "Tue 19:00-22:00\nSomeday 9:00-10:00"}), nil); status != 422 || !strings.Contains(p.Detail, "Line 2") {
		t.Errorf("%d %+v", status, p)
	}
}

func TestTwoPeopleAndOneFreezerAreNeverOverbooked(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	h.kitchen(set{"freezerPlaces": "1", "trays": "2 of 400 x 300 mm"})
	type stretch struct {
		a, b time.Time
		what string
	}
	var chilled []stretch
	for _, s := range h.steps() {
		if s.Kind == "press" && s.ActualStart == nil && slices.ContainsFunc(s.Figures, func(f noun.Figure) bool { return f.Unit == "in the freezer" }) {
			chilled = append(chilled, stretch{s.Start, s.End, s.Title})
		}
		if s.Planned.NotLater == "" && s.ActualStart == nil {
			t.Errorf("%s has no reason", s.Title)
		}
	}
	if len(chilled) < 3 {
		t.Fatalf("%+v", chilled)
	}
	for i, x := range chilled {
		for _, y := range chilled[:i] {
			if x.a.Before(y.b) && y.a.Before(x.b) {
				t.Errorf("one place in the freezer, and both %s and %s", x.what, y.what)
			}
		}
	}
	p := h.piece("Fern fronds, large")
	if !strings.Contains(p.Make.LimitedBy, "freezer") {
		t.Error(p.Make.LimitedBy)
	}
	h.kitchen(set{"freezerPlaces": "0"})
	if p := h.piece("Fern fronds, large"); !strings.Contains(p.Missing, "freezer") {
		t.Error(p.Missing)
	}
}

func TestDryingIsPlannedAtTheSlowEnd(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	firm := map[string]float64{}
	for _, p := range h.pieces() {
		for _, s := range p.Dry.Stages {
			if s.Code == "firm" {
				firm[p.Name] = s.P90
			}
		}
	}
	seen := 0
	for _, s := range h.steps() {
		if s.Kind != "dry" || s.ActualStart != nil {
			continue
		}
		seen++
		if got, want := s.End.Sub(s.Start).Hours(), firm[s.Piece]; got < want-1e-9 || got > want+1.0/60+1e-9 {
			t.Errorf("%s dries %.3f h in the plan, its slow end is %.3f", s.Piece, got, want)
		}
	}
	if seen < 4 {
		t.Errorf("%d drying steps", seen)
	}
}

func TestTheFrondFollowsTheBench(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	leaf := func() work.Leaf {
		i := slices.IndexFunc(h.commission().Frond, func(l work.Leaf) bool { return l.Name == "Toadstool caps" })
		return h.commission().Frond[i]
	}
	finish := func(kind string) {
		t.Helper()
		for _, s := range h.steps() {
			if s.Piece == "Toadstool caps" && s.Kind == kind && s.ActualStart == nil {
				h.must(fmt.Sprintf(hollow+"/bench/%s/finish/%d", s.Op, s.Version), set{}, nil)
				return
			}
		}
		t.Fatalf("no %s to finish", kind)
	}
	h.now = time.Date(2026, 12, 3, 19, 0, 0, 0, time.UTC)
	if leaf().State != "curled" {
		t.Error(leaf())
	}
	finish("knead")
	if leaf().State != "open" {
		t.Error(leaf())
	}
	h.now = h.now.Add(30 * time.Minute)
	finish("press")
	finish("dust") // its spots
	h.now = h.now.Add(4 * time.Hour)
	var b evening.BenchView
	h.must(hollow+"/bench", nil, &b)
	if l := leaf(); l.State != "drying" || l.Share <= 0 || l.Share >= 1 {
		t.Error(l)
	}
	if len(b.Waiting) == 0 || b.Waiting[0].Share <= 0 || b.Waiting[0].Share >= 1 {
		t.Errorf("%+v", b.Waiting)
	}
	h.now = h.now.Add(60 * time.Hour)
	if l := leaf(); l.State != "firm" {
		t.Error(l)
	}
}

// TestManyWindowsAtOnce: everybody looks while the plan must be made anew.
func TestManyWindowsAtOnce(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	h.now = time.Date(2026, 12, 4, 12, 30, 0, 0, time.UTC) // planned starts have passed unmarked
	const windows = 6
	status := make(chan int, 2*windows)
	for i := range windows {
		go func() {
			path := []string{"/bench", "/line", "/commissions"}[i%3]
			code, _ := h.ask(hollow+path, nil, nil)
			status <- code
		}()
		go func() {
			code, _ := h.ask(hollow+"/pieces/5/duplicate", set{}, nil)
			status <- code
		}()
	}
	for range 2 * windows {
		if code := <-status; code != 200 {
			t.Errorf("answered %d", code)
		}
	}
	if n := len(h.commission().Pieces); n != 6+windows {
		t.Errorf("%d pieces, %d were asked for", n, 6+windows)
	}
}

func TestAnEmptyStudio(t *testing.T) {
	t.Parallel()
	h := serve(t, false)
	var made document.StudioRow
	h.must("/studios", set{"name": "Elm & Bench!"}, &made)
	if made.Slug != "elm-bench" {
		t.Error(made)
	}
	h.must("/studios", set{"name": "Elm Bench"}, &made)
	if made.Slug != "elm-bench-2" {
		t.Error(made)
	}
	for _, name := range []string{"", "   ", strings.Repeat("x", 100)} {
		if status, p := h.ask("/studios", set{"name": name}, nil); status != 422 || p.Fields[0].Field != "name" {
			t.Errorf("%q: %d", name, status)
		}
	}
	var bench evening.BenchView
	h.must("/s/elm-bench/bench", nil, &bench)
	if bench.Now != nil || bench.Nothing == "" {
		t.Errorf("%+v", bench)
	}
	var line plan.LineView
	h.must("/s/elm-bench/line", nil, &line)
	var rows studio.CommissionsView
	h.must("/s/elm-bench/commissions", nil, &rows)
	if len(line.Rows)+len(rows.Rows)+len(rows.Closed) != 0 {
		t.Error("an empty studio has a plan")
	}
}

func TestOddPiecesStayOutOfThePlanWithAReason(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	var one struct{ ID int64 }
	h.must(hollow+"/rows/pieces", map[string]any{"parent": 1, "set": set{"name": "Without a mould", "wanted": "5000"}}, &one)
	line := h.line()
	if len(line.LeftOut) != 1 || !strings.Contains(line.LeftOut[0], "mould") {
		t.Errorf("%v", line.LeftOut)
	}
	if len(line.Rows) != 1 || len(line.Rows[0].Steps) < 10 {
		t.Error("the rest is planned all the same")
	}
	p := h.piece("Beetles")
	h.must(fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID), change(p.Version, set{"wanted": "0"}), nil)
	if p := h.piece("Beetles"); p.Make == nil || p.Make.Balls.Value != 0 {
		t.Errorf("%+v", p.Make)
	}
	// thousands of pieces split into many evenings, or are said to be too many
	p = h.piece("Beetles")
	h.must(fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID), change(p.Version, set{"wanted": "400"}), nil)
	line = h.line()
	parts := 0
	for _, s := range h.steps() {
		if s.Piece == "Beetles" && s.Kind == "press" {
			parts++
		}
	}
	if parts < 2 && line.Fits {
		t.Errorf("400 beetles in %d part: %v %v", parts, line.Trouble, line.LeftOut)
	}
}

func TestEachJoinHasItsOwnWait(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	for _, joined := range []string{"cold", "pliable", "semiDry", "dry"} {
		p := h.piece("Fern fronds, medium")
		h.must(fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID), change(p.Version, set{"joined": joined, "bagged": "yes", "wanted": "3"}), nil)
		line := h.line()
		var kinds []string
		var press, putOn plan.LineStep
		for _, s := range h.steps() {
			if s.Piece == "Fern fronds, medium" {
				kinds = append(kinds, s.Kind)
				if s.Kind == "press" {
					press = s
				}
			}
			if s.Kind == "putOn" && s.Piece == "Fern fronds, medium" {
				putOn = s
			}
		}
		dries := slices.Contains(kinds, "dry")
		if dries != (joined == "dry" || joined == "semiDry") {
			t.Errorf("%s: %v", joined, kinds)
		}
		if joined == "pliable" && (putOn.Op == "" || putOn.Start.Sub(press.End) > 150*time.Minute) {
			t.Errorf("pliable, it lies %s", putOn.Start.Sub(press.End))
		}
		if press.Op == "" {
			t.Errorf("%s is not planned: %v %s", joined, line.LeftOut, line.Trouble)
		}
	}
}
