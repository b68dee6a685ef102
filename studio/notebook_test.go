package studio_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/notebook"
)

// noted notes something of the batch that lies on the shelf.
func (h *house) noted(what string, more func(*notebook.NoteIn)) (id int64, says string) {
	h.t.Helper()
	b, _, _ := h.lies()
	in := notebook.NoteIn{Op: b.Op, What: what}
	if more != nil {
		more(&in)
	}
	id, says, err := h.Notebook.Note(h.t.Context(), h.slug, in)
	h.ok(err)
	h.planNow(h.slug)
	return id, says
}

func (h *house) learnt() notebook.TaughtView {
	h.t.Helper()
	v, err := h.Notebook.Learnt(h.t.Context(), h.slug)
	h.ok(err)
	return v
}

func (h *house) notes(find string) notebook.NotebookView {
	h.t.Helper()
	v, err := h.Notebook.Read(h.t.Context(), h.slug, find, 0)
	h.ok(err)
	return v
}

// TestALookTeaches: still soft after the hour at which it should be firm makes the next
// drying longer, on the shelf, on Dry and in the plan; left out or taken back it does not.
func TestALookTeaches(t *testing.T) {
	t.Parallel()
	h, o, p := laidOut(t, nil)
	firm := func() float64 { return h.view(o, p).Dry.Stages[2].P50 }
	before, end := firm(), h.dryingNow().PlannedEnd
	h.after(time.Duration(before*1.5*60) * time.Minute)
	id, says := h.noted("soft", nil)
	if !strings.HasPrefix(says, "Still soft after ") {
		t.Errorf("%q", says)
	}
	after := firm()
	if after < before*1.15 || after > before*2 {
		t.Errorf("firm after %.2f h, before the look after %.2f h", after, before)
	}
	if now := h.dryingNow().PlannedEnd; !now.After(end) {
		t.Errorf("what lies there is firm at %s as before", now)
	}
	d := h.learnt().Drying
	if len(d) != 2 || d[0].Mid <= 1.05 || d[1].Low >= d[1].Mid || !strings.HasPrefix(d[1].From, "1 note since ") {
		t.Fatalf("%+v", d)
	}
	if l := h.view(o, p).Dry.Learnt; !strings.HasPrefix(l, "By your notes ") {
		t.Errorf("%q", l)
	}
	h.ok(h.Notebook.Leave(t.Context(), h.slug, id, true))
	if got := firm(); math.Abs(got-before) > 1e-6 {
		t.Errorf("left out it is firm after %.3f h instead of %.3f", got, before)
	}
	h.ok(h.Notebook.Leave(t.Context(), h.slug, id, false))
	if got := firm(); math.Abs(got-after) > 1e-6 {
		t.Errorf("taken in again %.3f h instead of %.3f", got, after)
	}
	h.undo() // that it counts again
	h.undo() // that it was left out
	h.undo() // the note
	if got := firm(); math.Abs(got-before) > 1e-6 || len(h.notes("").Notes) != 0 {
		t.Errorf("taken back it is firm after %.3f h instead of %.3f", got, before)
	}
}

// TestTwoLooksAreOneNote: soft in the evening and firm in the morning is one note between
// them, however often somebody looked.
func TestTwoLooksAreOneNote(t *testing.T) {
	t.Parallel()
	factor := func(looks ...float64) float64 {
		h, _, _ := laidOut(t, nil)
		start := h.now
		for i, hours := range looks {
			h.now = start.Add(time.Duration(hours*60) * time.Minute)
			h.noted(map[bool]string{true: "firm", false: "soft"}[i == len(looks)-1], nil)
		}
		return h.learnt().Drying[1].Mid
	}
	if a, b := factor(4, 9), factor(1, 2, 3, 4, 9); math.Abs(a-b) > 1e-9 {
		t.Errorf("looked at twice %.6f, five times %.6f", a, b)
	}
}

// TestSlowKitchenIsFound: five batches, each noted as it gets firm at 1.6 times the model's
// hours: the plan reckons with that, and the band is half as wide.
func TestSlowKitchenIsFound(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.kitchen(set{"hours": "Mon-Sun 6:00-23:00"})
	for i := range 5 {
		h.piece(o, m, set{"name": fmt.Sprintf("Leaf %d", i), "wanted": "6", "joined": "dry", "eaten": "shown"})
	}
	h.planNow(h.slug)
	var model float64
	for i := range 5 {
		name := fmt.Sprintf("Leaf %d", i)
		for _, kind := range []string{"knead", "press"} {
			for _, st := range h.steps(kind) {
				if st.Planned.Name == name {
					if h.now.Before(st.Start) {
						h.now = st.Start
					}
					h.after(30 * time.Minute)
					_, err := h.Finish(t.Context(), h.slug, st.Op, st.Version, true)
					h.ok(err)
					h.planNow(h.slug)
				}
			}
		}
		var op string
		for _, r := range h.shelf().Racks {
			all := r.Loose
			for _, tr := range r.Trays {
				all = append(all, tr.Batches...)
			}
			for _, b := range all {
				if strings.Contains(b.Name, name) {
					op = b.Op
				}
			}
		}
		if op == "" {
			t.Fatalf("%s does not lie on the shelf", name)
		}
		if i == 0 {
			model = h.view(o, h.pieceNamed(o, name)).Dry.Stages[2].P50
		}
		at := h.now
		h.now = h.now.Add(time.Duration(model*1.6*60) * time.Minute)
		_, _, err := h.Notebook.Note(t.Context(), h.slug, notebook.NoteIn{Op: op, What: "firmNow"})
		h.ok(err)
		h.planNow(h.slug)
		h.now = at
	}
	d := h.learnt().Drying[1]
	if d.Mid < 1.45 || d.Mid > 1.7 {
		t.Errorf("a kitchen of 1.6 is taken for %.2f", d.Mid)
	}
	if width := math.Log(d.High/d.Low) / (2 * 1.28155 * 0.35); width > 0.56 {
		t.Errorf("after five notes the band is %.2f as wide", width)
	}
	if n := len(h.learnt().Beside); n != 5 {
		t.Errorf("%d of 5 notes stand in the picture", n)
	}
}

func (h *house) pieceNamed(order int64, name string) int64 {
	h.t.Helper()
	for id, p := range h.piecesOf(order) {
		if p.Name == name {
			return id
		}
	}
	h.t.Fatalf("there is no %s", name)
	return 0
}

// TestOtherNotes: a break counts among the breaks, a weighing says what was lost, words are
// found again, a photo is not needed, and nothing is asked that is known.
func TestOtherNotes(t *testing.T) {
	t.Parallel()
	h, o, p := laidOut(t, nil)
	b, _, _ := h.lies()
	h.after(3 * time.Hour)
	h.noted("broke", func(n *notebook.NoteIn) { n.Count, n.Says = 1, "at the stem" })
	if after, _, _ := h.lies(); after.All != b.All-1 {
		t.Errorf("%d lie there, %d did before one broke", after.All, b.All)
	}
	_, says := h.noted("weighed", func(n *notebook.NoteIn) { n.Count, n.Grams = 5, "20 g" })
	if !strings.Contains(says, "% of its weight after 3 h") {
		t.Errorf("%q", says)
	}
	h.noted("cracked", func(n *notebook.NoteIn) { n.Count = 2 })
	h.noted("said", func(n *notebook.NoteIn) { n.Says = "edges curl a little" })
	all := h.notes("")
	if len(all.Notes) != 4 || !strings.Contains(all.Notes[0].Of, "gum") || !strings.Contains(all.Notes[0].Of, "50 %") {
		t.Fatalf("%+v", all.Notes)
	}
	for find, want := range map[string]int{"cracked": 1, "stem": 1, "curl edges": 1, "half": 4, "nothing of it": 0, "100%": 0} {
		if got := len(h.notes(find).Notes); got != want && !(find == "half" && got == 0) {
			t.Errorf("%q finds %d notes instead of %d", find, got, want)
		}
	}
	in := notebook.NoteIn{Op: b.Op, What: "said"}
	_, _, err := h.Notebook.Note(t.Context(), h.slug, in)
	h.refused(err, "says", "Say in words")
	in.What, in.Grams = "weighed", "a lot"
	_, _, err = h.Notebook.Note(t.Context(), h.slug, in)
	h.refused(err, "grams", "")
	in.What, in.Count = "broke", 99
	_, _, err = h.Notebook.Note(t.Context(), h.slug, in)
	h.refused(err, "count", "are whole")
	// the next order of such pieces says what happened
	o2 := h.order(set{"title": "Again"})
	q := h.piece(o2, h.toolOf(p), set{"name": h.pieceRow(p).Name, "wanted": "6"})
	last := h.view(o2, q).Last
	if len(last) != 1 || !strings.Contains(last[0].Says, "made") || !strings.Contains(last[0].Says, "1 broke") || last[0].OrderID != o {
		t.Errorf("%+v", last)
	}
	tools := h.learnt().Tools
	if !slices.ContainsFunc(tools, func(r notebook.LearntRow) bool { return strings.HasPrefix(r.Text, "1 of ") && r.Share > 0 }) {
		t.Errorf("%+v", tools)
	}
	rows, err := h.Notebook.Table(t.Context(), h.slug)
	h.ok(err)
	if len(rows) != 5 || rows[1][2] != "broke" {
		t.Errorf("%v", rows)
	}
}

func (h *house) toolOf(piece int64) int64 { h.t.Helper(); return *h.pieceRow(piece).ToolID }

// TestAnOlderNotebookComesIn: columns are matched by hand, what cannot be read is named, and
// what tells enough teaches.
func TestAnOlderNotebookComesIn(t *testing.T) {
	t.Parallel()
	h, o, p := laidOut(t, nil)
	before := h.view(o, p).Dry.Stages[2].P50
	day := h.now.AddDate(0, 0, -20)
	raw := []byte(fmt.Sprintf("Date,Item,Result,After (h),Paste used,Thick mm\n%s,Petal,still soft,14,half and half,2\n%s,Petal,Firm already,30,half and half,2\n%s,Star,lovely on the tongue,,,\nsoon,Star,firm,,,\n%s,,firm,3,half and half,2\n",
		day.Format("2006-01-02 15:04"), day.AddDate(0, 0, 1).Format("2006-01-02 15:04"), day.Format("2006-01-02"), day.Format("2006-01-02")))
	v, err := h.Notebook.LookIn(t.Context(), h.slug, raw, nil)
	h.ok(err)
	if v.Good != 3 || len(v.Bad) != 2 || !strings.HasPrefix(v.Bad[0], "Row 5: ") {
		t.Fatalf("%+v", v)
	}
	match := map[string]int{}
	for _, c := range v.Columns {
		match[c.Name] = c.From
	}
	if match["at"] != 0 || match["name"] != 1 || match["what"] != 2 || match["hours"] != 3 || match["paste"] != 4 || match["thicknessMM"] != 5 {
		t.Fatalf("guessed %v", match)
	}
	n, err := h.Notebook.BringIn(t.Context(), h.slug, raw, match)
	h.ok(err)
	h.planNow(h.slug)
	if n != 3 || len(h.notes("").Notes) != 3 || len(h.learnt().Drying) != 2 {
		t.Errorf("%d came in, %d stand there, learnt %+v", n, len(h.notes("").Notes), h.learnt().Drying)
	}
	if after := h.view(o, p).Dry.Stages[2].P50; after <= before {
		t.Errorf("two slow batches of before leave it at %.2f h", after)
	}
	h.ok(h.Notebook.SetBack(t.Context(), h.slug, ""))
	if got := h.view(o, p).Dry.Stages[2].P50; math.Abs(got-before) > 1e-6 {
		t.Errorf("set back it is %.3f h instead of %.3f", got, before)
	}
	if len(h.learnt().Drying) != 0 || len(h.notes("").Notes) != 3 {
		t.Error("set back the notes are gone, or it still says that it learnt")
	}
	h.undo()
	if len(h.learnt().Drying) != 2 {
		t.Error("what was set back does not come back")
	}
	h.must(studio.KindPiece, p, set{"wanted": "8"})
}
