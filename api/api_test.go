package api

import (
	"fmt"
	"net/http"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/demo"
	"dustyfern/studio"
	"dustyfern/studio/evening"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func TestTheDemoIsAliveOnEachWeekday(t *testing.T) {
	for day := range 7 {
		t.Run((tuesday.AddDate(0, 0, day)).Weekday().String(), func(t *testing.T) {
			t.Parallel()
			h := serve(t, false)
			h.now = tuesday.AddDate(0, 0, day)
			if err := demo.Load(t.Context(), h.store, h.now); err != nil {
				t.Fatal(err)
			}
			line := h.line()
			if line.Trouble != "" || len(line.LeftOut) > 0 || len(line.Rows) != 1 || len(line.Late) > 0 {
				t.Errorf("%+v %v %v", line.Trouble, line.LeftOut, line.Late)
			}
			var list studio.CommissionsView
			h.must(hollow+"/commissions", nil, &list)
			rows := append(list.Rows, list.Closed...)
			if len(rows) != 6 || rows[4].State != "handedOver" || rows[5].State != "handedOver" {
				t.Errorf("%+v", rows)
			}
			begun := 0
			for _, r := range rows {
				for _, l := range r.Frond {
					if l.State != "curled" {
						begun++
					}
				}
			}
			if begun == 0 {
				t.Error("nothing is on the bench or drying")
			}
		})
	}
}

func TestTwoWindowsMergeOrMeet(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Beetles")
	row := fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID)
	h.must(row, change(p.Version, set{"wanted": "11"}), nil)
	h.must(row, change(p.Version, set{"colour": "green black"}), nil) // another field of the same old version
	if p := h.piece("Beetles"); p.Wanted != 11 || p.Colour != "green black" {
		t.Errorf("%+v", p)
	}
	status, prob := h.ask(row, change(p.Version, set{"wanted": "20"}), nil)
	if status != 409 || prob.Theirs["wanted"] != "11" || prob.Yours["wanted"] != "20" || prob.Version <= p.Version {
		t.Fatalf("%d %+v", status, prob)
	}
	h.must(row, change(prob.Version, set{"wanted": "20"}), nil)
	c := h.commission()
	h.must(hollow+"/rows/commissions/1", change(c.Version, set{"guests": "a hundred"}), nil)
	if status, prob := h.ask(hollow+"/rows/commissions/1", change(c.Version, set{"guests": "two"}), nil); status != 409 || prob.Theirs["guests"] != "a hundred" {
		t.Errorf("%d %+v", status, prob)
	}
}

// TestBadInputOnEveryField sends what people and cats type into each field of
// each form: a sentence beside the field, and the row stays as it was.
func TestBadInputOnEveryField(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	var k studio.KitchenView
	h.must(hollow+"/kitchen", nil, &k)
	var toolRows []work.RowView
	h.must(hollow+"/tools", nil, &toolRows)
	paste, gel := h.lot("White sugar paste, open"), h.lot("Fern green")
	c, first := h.commission(), h.pieces()[0]
	for _, form := range []struct {
		path    string
		version int64
		fields  []read.FieldView
	}{
		{hollow + "/kitchen", k.Row.Version, k.Row.Fields}, {fmt.Sprintf(hollow+"/rows/tools/%d", toolRows[0].ID), toolRows[0].Version, toolRows[0].Fields},
		{fmt.Sprintf(hollow+"/rows/lots/%d", paste.ID), paste.Version, paste.Fields}, {fmt.Sprintf(hollow+"/rows/lots/%d", gel.ID), gel.Version, gel.Fields}, {hollow + "/rows/commissions/1", c.Version, c.Fields},
		{fmt.Sprintf(hollow+"/rows/pieces/%d", first.ID), first.Version, append(first.Fields, read.FieldView{Name: "trial", Kind: "amount"}, read.FieldView{Name: "peg", Kind: "amount"})},
	} {
		for _, f := range form.fields {
			bad := []string{strings.Repeat("x", 10000)}
			switch f.Kind {
			case "amount", "count":
				bad = append(bad, "twelve-ish fish", "-5", "1e999", "99999999999", "🍰", "3 °C 4 g", "NaN")
			case "choice":
				bad = append(bad, "none of these", "🍰")
			case "date":
				bad = append(bad, "someday", "32 Nov", "🍰", "1 Jan 1900")
			case "swatch":
				bad = append(bad, "#12", "greenish")
			case "yes":
				bad = append(bad, "perhaps")
			case "many":
				bad = append(bad, "kryptonite")
			case "lines":
				bad = append(bad, "???")
			}
			if f.Name == "trial" {
				bad = append(bad, "37 l") // in the middle of its density 49.95 kg, at the end of it more than can be kept
			}
			if f.Name == "timeZone" {
				bad = append(bad, "Mars/Olympus", "")
			}
			for _, text := range bad {
				status, p := h.ask(form.path, change(form.version, set{f.Name: text}), nil)
				if status != 422 || len(p.Fields) != 1 || p.Fields[0].Field != f.Name || len(p.Fields[0].Detail) < 10 {
					t.Errorf("%s %s = %.20q: %d %+v", form.path, f.Name, text, status, p)
				}
			}
		}
	}
	if after := h.commission(); after.Version != c.Version || after.Pieces[0].Version != c.Pieces[0].Version {
		t.Error("bad input changed a row")
	}
	if status, p := h.ask(hollow+"/rows/commissions/1", change(c.Version, set{"handOver": "1 Nov 2026"}), nil); status != 422 || !strings.Contains(p.Detail, "over") {
		t.Errorf("a hand-over in the past: %d %+v", status, p)
	}
}

func TestAllergensAreRefused(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Toadstool caps")
	status, prob := h.ask(fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID), change(p.Version, set{"dough": "marzipan"}), nil)
	if status != 422 || !strings.Contains(prob.Detail, "nuts") {
		t.Errorf("marzipan at a table with a nut allergy: %d %+v", status, prob)
	}
	c := h.commission()
	h.must(hollow+"/rows/commissions/1", change(c.Version, set{"allergies": "nuts, egg"}), nil)
	stems := h.piece("Toadstool stems") // wants flower paste, whose label says egg
	if len(stems.Paste.Refused) == 0 || stems.Paste.Short == "" {
		t.Errorf("%+v", stems.Paste)
	}
	for _, m := range stems.Paste.Mix {
		if strings.Contains(m.Name, "flower") {
			t.Error("flower paste with egg is still mixed in")
		}
	}
}

func TestAnEmptyWindowAndItsWaysOut(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Beetles") // undercuts, 1.4 and up
	row := fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID)
	h.must(row, change(p.Version, set{"eaten": "mouthful"}), nil) // children eat: 1.0 at most
	p = h.piece("Beetles")
	if !p.Paste.Empty || len(p.Paste.Clash) != 2 || p.Paste.Open {
		t.Fatalf("%+v", p.Paste)
	}
	for _, do := range []string{"splitThePiece", "serveUneaten", "backIt"} {
		i := slices.IndexFunc(p.Paste.Ways, func(w work.WayView) bool { return w.Do == do })
		if i < 0 {
			t.Fatalf("no way out %q in %+v", do, p.Paste.Ways)
		}
		h.must(row, change(p.Version, p.Paste.Ways[i].Set), nil)
		taken := h.piece("Beetles")
		if !taken.Paste.Open || taken.Paste.Peg == nil {
			t.Errorf("%s opens nothing: %+v", do, taken.Paste)
		}
		back := set{"eaten": "mouthful"}
		if j := slices.IndexFunc(taken.Paste.Ways, func(w work.WayView) bool { return w.Applied }); j >= 0 {
			back = taken.Paste.Ways[j].Set
		} else if do != "serveUneaten" {
			t.Errorf("%s cannot be taken back: %+v", do, taken.Paste.Ways)
		}
		h.must(row, change(taken.Version, back), nil)
		if p = h.piece("Beetles"); !p.Paste.Empty {
			t.Errorf("%s taken back leaves it open", do)
		}
	}
}

func TestPegSchoolAndGrams(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Fern fronds, medium")
	row := fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID)
	h.must(row, change(p.Version, set{"peg": "2.3"}), nil)
	p = h.piece("Fern fronds, medium")
	if p.Paste.Peg.Value != 2.3 || !slices.Contains(p.Paste.Broken, "nibbled, mostly looked at") {
		t.Errorf("%+v", p.Paste)
	}
	gum, mass := 0.0, 0.0
	for _, m := range p.Paste.Mix {
		e := map[string]float64{"White sugar paste, open": 0.4, "White flower paste": 2.8, "Ready half-and-half": 1.6, "White sugar paste, closed": 0.4, "Soft white sugar paste": 0.15}[m.Name]
		gum, mass = gum+e*m.Grams.Value, mass+m.Grams.Value
	}
	if d := gum/mass - 2.3; d > 1e-6 || d < -1e-6 {
		t.Errorf("the mix has %.4f %% gum", gum/mass)
	}
	h.must(row, change(p.Version, set{"peg": "", "school": "modelling"}), nil)
	p = h.piece("Fern fronds, medium")
	// one level teaspoon of 2.8 g to 237.5 g: 1.179 % of plain paste
	if d := p.Paste.Peg.Value - (0.4+1.17895)/1.0117895; d > 1e-4 || d < -1e-4 {
		t.Errorf("the middle dose moves the peg to %.5f", p.Paste.Peg.Value)
	}
	h.must(row, change(p.Version, set{"trial": "1½ tsp"}), nil)
	if p = h.piece("Fern fronds, medium"); !p.Make.Estimate || !strings.Contains(p.Make.Note, "estimate") || p.Make.Ball.Value < 10 {
		t.Errorf("%+v", p.Make)
	}
}

func TestADampRoomIsSaidAndPlannedAround(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	var k studio.KitchenView
	h.must(hollow+"/kitchen", nil, &k)
	h.must(hollow+"/kitchen", change(k.Row.Version, set{"rhPercent": "72 %"}), nil)
	p := h.piece("Beetles")
	if p.Dry.Never == "" || len(p.Dry.Help) == 0 {
		t.Errorf("%+v", p.Dry)
	}
	if line := h.line(); len(line.LeftOut) == 0 {
		t.Error("what will not set is out of the plan, and said")
	}
}

func TestTheBenchFinishesAndTakesBack(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	h.now = time.Date(2026, 12, 3, 19, 0, 0, 0, time.UTC)
	var before, b, back evening.BenchView
	h.must(hollow+"/bench", nil, nil)
	h.must(hollow+"/bench", nil, &before)
	first := before.Now
	path := fmt.Sprintf(hollow+"/bench/%s/finish/%d", first.Op, first.Version)
	h.now = h.now.Add(7 * time.Minute)
	h.must(path, set{}, &b)
	if b.Now.Op == first.Op || b.Done[len(b.Done)-1].Op != first.Op {
		t.Fatalf("%s is still to do", first.Op)
	}
	if status, p := h.ask(path, set{}, nil); status != 409 || p.Code != "overtaken" || !strings.Contains(p.Detail, "done already") {
		t.Errorf("done once more: %d %+v", status, p)
	}
	if status, p := h.ask(fmt.Sprintf("%s/bench/takeBack/%d", hollow, b.LastID-1), set{}, nil); status != 409 || !strings.Contains(p.Detail, "Meanwhile") {
		t.Errorf("an older line as the last one: %d %+v", status, p)
	}
	h.must(fmt.Sprintf("%s/bench/takeBack/%d", hollow, b.LastID), set{}, &back)
	if back.Now.Op != first.Op {
		t.Errorf("taken back, %s should be to do, not %s", first.Op, back.Now.Op)
	}
	// a later step of a batch waits for the earlier one
	for _, s := range back.Next {
		if noun.BatchOf(s.Op) == noun.BatchOf(first.Op) {
			if status, p := h.ask(fmt.Sprintf(hollow+"/bench/%s/finish/%d", s.Op, s.Version), set{}, nil); status != 422 || !strings.Contains(p.Detail, "First") {
				t.Errorf("%d %+v", status, p)
			}
		}
	}
}

func TestALateCommissionIsSaid(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	c := h.commission()
	h.must(hollow+"/rows/commissions/1", change(c.Version, set{"handOver": "tomorrow 10:00"}), nil)
	if line := h.line(); line.Fits || len(line.Late) != 1 || !strings.Contains(line.Late[0], "Late by") {
		t.Errorf("%+v %v", line.Fits, line.Late)
	}
}

func TestRowsComeAndGo(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	p := h.piece("Beetles")
	n := len(h.commission().Pieces)
	row := fmt.Sprintf(hollow+"/rows/pieces/%d", p.ID)
	h.must(row+"/remove", set{}, nil)
	if got := len(h.commission().Pieces); got != n-1 {
		t.Errorf("%d pieces", got)
	}
	h.must(row+"/restore", set{}, nil)
	h.must(fmt.Sprintf(hollow+"/pieces/%d/duplicate", p.ID), set{}, nil)
	h.must(fmt.Sprintf(hollow+"/pieces/%d/move/up", p.ID), set{}, nil)
	var names []string
	for _, x := range h.commission().Pieces {
		names = append(names, x.Name)
	}
	if len(names) != n+1 || names[n-2] != "Beetles" || names[n] != "Beetles (copy)" {
		t.Error(names)
	}
	var tools []work.RowView
	h.must(hollow+"/tools", nil, &tools)
	for _, tool := range tools {
		if tool.Name == "Toadstool cap" {
			if status, p := h.ask(fmt.Sprintf(hollow+"/rows/tools/%d/remove", tool.ID), set{}, nil); status != 422 || !strings.Contains(p.Detail, "Toadstool caps") {
				t.Errorf("a mould in use was taken away: %d %+v", status, p)
			}
		}
	}
	if status, p := h.ask(hollow+"/rows/tools", map[string]any{"set": set{"name": "Half a mould"}}, nil); status != 422 || p.Fields[0].Field != "lengthMM" {
		t.Errorf("%d %+v", status, p)
	}
	h.must(hollow+"/commissions/1/state/aside", set{}, nil)
	if line := h.line(); len(line.Rows) != 0 {
		t.Error("what is put aside is still planned")
	}
}

func TestADatabaseAwayIsSaid(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	h.store.Close()
	if status, p := h.ask(hollow+"/bench", nil, nil); status != 503 || p.Detail == "" {
		t.Errorf("%d %+v", status, p)
	}
	resp, err := http.Get(h.url + "/readyz")
	if err != nil {
		t.Fatal(err)
	}
	defer resp.Body.Close()
	if resp.StatusCode != 503 {
		t.Error(resp.Status)
	}
}

// TestEveryFigureHasItsReason finds no computed quantity of a piece without a why.
func TestEveryFigureHasItsReason(t *testing.T) {
	t.Parallel()
	h := serve(t, true)
	for _, p := range h.pieces() {
		figures := []*noun.Figure{&p.Make.Ball, &p.Make.Balls, &p.Make.Paste, p.Make.Rounds, p.Make.Bench, p.Make.Waiting, p.Paste.Peg}
		for i := range p.Paste.Mix {
			figures = append(figures, &p.Paste.Mix[i].Grams)
		}
		for _, f := range figures {
			if f == nil || f.Why == nil || f.Why.Rule == "" || f.Why.Formula == "" || len(f.Why.Values) == 0 || f.Text == "" {
				t.Errorf("%s: %+v", p.Name, f)
			}
		}
		if p.Dry.Why == nil {
			t.Errorf("%s dries without a reason", p.Name)
		}
	}
}
