package studio_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/studio"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/shelf"
)

func (h *house) shelf() shelf.ShelfView {
	h.t.Helper()
	v, err := h.Shelf.Look(h.t.Context(), h.slug)
	h.ok(err)
	return v
}

// lies is the only batch that lies anywhere, and where.
func (h *house) lies() (b shelf.BatchView, rack string, tray int) {
	h.t.Helper()
	for _, r := range h.shelf().Racks {
		for _, t := range r.Trays {
			for _, x := range t.Batches {
				return x, r.Name, t.N
			}
		}
		for _, x := range r.Loose {
			return x, r.Name, 0
		}
	}
	h.t.Fatal("nothing lies on the shelf")
	return b, "", 0
}

func (h *house) tend(in shelf.TendIn) error {
	h.t.Helper()
	b, _, _ := h.lies()
	_, err := h.Shelf.Tend(h.t.Context(), h.slug, b.Op, in, false)
	h.planNow(h.slug)
	return err
}

// box is a place of its own to dry in.
func (h *house) box(s set) int64 {
	h.t.Helper()
	return h.make(studio.KindRack, 0, with(set{"name": "Drying box", "tempC": "24 C", "rhPercent": "40 %", "trays": "1 of 300 x 200 mm"}, s))
}

// heard keeps what a sensor says of the kitchen in this minute.
func (h *house) heard(tempC, rh float64) {
	h.t.Helper()
	h.ok(h.Shelf.Keep(h.t.Context(), []shelf.Heard{{Place: "kitchen", TempC: tempC, RHPercent: rh, Live: true, Bad: !noun.CanBe(tempC, rh)}}))
	h.planNow(h.slug)
}

// TestWhatLiesOnTheShelf: the batch that was laid out stands on a tray with its hours, and
// those are the hours of the line and the clocks.
func TestWhatLiesOnTheShelf(t *testing.T) {
	t.Parallel()
	h, _, _ := laidOut(t, nil)
	b, rack, tray := h.lies()
	if b.Count < 6 || rack != "The kitchen" || tray != 1 || len(b.Spots) != b.Count {
		t.Fatalf("%d %q on tray %d of %s, %d drawn", b.Count, b.Name, tray, rack, len(b.Spots))
	}
	for i, s := range b.Spots { // none lies on another, none beyond the tray
		if s.X < 0 || s.Y < 0 || s.X+b.LengthMM > 400.01 || s.Y+b.WidthMM > 300.01 {
			t.Errorf("piece %d lies at %v of a tray of 400 x 300", i, s)
		}
		for _, o := range b.Spots[:i] {
			if math.Abs(o.X-s.X) < b.LengthMM && math.Abs(o.Y-s.Y) < b.WidthMM {
				t.Errorf("two lie on one another: %v %v", o, s)
			}
		}
	}
	var codes []string
	for _, m := range b.Marks {
		codes = append(codes, m.Code+" "+m.State)
	}
	if got := strings.Join(codes, ", "); got != "touch no, lift no, join no, paint no" {
		t.Errorf("fresh from the mould: %s", got)
	}
	h.now = h.dryingNow().PlannedEnd
	if b, _, _ := h.lies(); !b.Ready || b.Marks[2].State != "yes" || b.Next == "" {
		t.Errorf("when the wait is over: %+v", b.Marks)
	}
	h.finish("putOn")
	if v := h.shelf(); v.Nothing == "" {
		t.Errorf("on the cake they still lie there: %+v", v.Racks)
	}
}

// TestMovedToABox: where they lie is what dries them from then on; the line and the join
// clock follow, and one undo brings all that back.
func TestMovedToABox(t *testing.T) {
	t.Parallel()
	h, _, _ := laidOut(t, nil)
	h.kitchen(set{"rhPercent": "56 %"})
	box := h.box(nil)
	h.after(30 * time.Minute)
	before := h.dryingNow().PlannedEnd
	h.ok(h.tend(shelf.TendIn{Do: "tray", Rack: box, Tray: 1}))
	after := h.dryingNow().PlannedEnd
	if !after.Before(before.Add(-30 * time.Minute)) {
		t.Errorf("in the box they are firm at %s, in the kitchen at %s", after, before)
	}
	if b, rack, tray := h.lies(); rack != "Drying box" || tray != 1 || !slices.ContainsFunc(b.Done, func(d string) bool { return strings.Contains(d, "to Drying box") }) {
		t.Errorf("on tray %d of %s: %v", tray, rack, b.Done)
	}
	if at := h.joinClock(); at.Sub(after).Abs() > time.Minute {
		t.Errorf("the clock rings at %s, the line says %s", at, after)
	}
	// the trays of the box are its own in the plan
	load, err := h.Workload(t.Context(), h.slug, "")
	h.ok(err)
	if !slices.ContainsFunc(load.Held, func(r plan.HeldRow) bool { return r.Name == "Trays of Drying box" }) {
		t.Errorf("no tray of the box is held: %+v", load.Held)
	}
	h.undo()
	if end := h.dryingNow().PlannedEnd; !end.Equal(before) {
		t.Errorf("taken back they are firm at %s, before at %s", end, before)
	}
	h.refused(h.tend(shelf.TendIn{Do: "tray", Rack: box, Tray: 2}), "tray", "1 tray in Drying box")
	h.refused(h.tend(shelf.TendIn{Do: "rack", Rack: 999}), "rack", "no such place")
}

// TestBaggedTurnedAndTakenOff: a bag stops the clock of drying, foam under them quickens
// it, and what is on foam is not turned without being asked.
func TestBaggedTurnedAndTakenOff(t *testing.T) {
	t.Parallel()
	h, _, _ := laidOut(t, set{"support": "board"})
	h.after(time.Hour)
	plain := h.dryingNow().PlannedEnd
	h.ok(h.tend(shelf.TendIn{Do: "bag"}))
	bagged := h.dryingNow()
	if !bagged.Never && !bagged.PlannedEnd.After(plain.Add(12*time.Hour)) {
		t.Errorf("in a bag they are firm at %s", bagged.PlannedEnd)
	}
	h.overtaken(h.tend(shelf.TendIn{Do: "bag"}), "noted already")
	h.after(3 * time.Hour)
	h.ok(h.tend(shelf.TendIn{Do: "unbag"}))
	if late := h.dryingNow().PlannedEnd.Sub(plain); late < 2*time.Hour || late > 4*time.Hour {
		t.Errorf("three hours in a bag make them %s later", late)
	}
	before := h.dryingNow().PlannedEnd
	h.ok(h.tend(shelf.TendIn{Do: "support", Support: "foam"}))
	if end := h.dryingNow().PlannedEnd; end.After(before) {
		t.Errorf("on foam they are firm at %s, on the board at %s", end, before)
	}
	h.refused(h.tend(shelf.TendIn{Do: "turn"}), "anyway", "On foam what dries stays put")
	h.refused(h.tend(shelf.TendIn{Do: "support", Support: "sofa"}), "support", "a board, foam")
	b, _, _ := h.lies()
	if b.SupportCode != "foam" || b.Bagged || len(b.Done) != 3 {
		t.Errorf("%q, in a bag %v, %v", b.SupportCode, b.Bagged, b.Done)
	}
	h.now = h.dryingNow().PlannedEnd
	h.finish("putOn")
	_, err := h.Shelf.Tend(t.Context(), h.slug, b.Op, shelf.TendIn{Do: "turn"}, true)
	h.overtaken(err, "no longer lie there")
}

// TestRainIsSaidAhead: what the decorator expects counts from then on, for what is planned
// as for what lies there; a word without a number is 65 %.
func TestRainIsSaidAhead(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "joined": "dry", "eaten": "shown"})
	before := h.steps("dry")[0]
	h.kitchen(set{"expects": "rain from today 0:00 until in 9 days: 62 %"})
	after := h.steps("dry")[0]
	if after.PlannedEnd.Sub(after.PlannedStart) <= before.PlannedEnd.Sub(before.PlannedStart)+time.Hour {
		t.Errorf("in the rain it dries %s, before %s", after.PlannedEnd.Sub(after.PlannedStart), before.PlannedEnd.Sub(before.PlannedStart))
	}
	if d := h.view(o, p).Dry; !strings.Contains(d.Room, "62 % humidity") {
		t.Errorf("%q", d.Room)
	}
	// rain that comes with the hour at which they are planned to be laid out, and rain after it
	h.kitchen(set{"expects": ""})
	dry := h.steps("dry")[0]
	length := func() time.Duration { st := h.steps("dry")[0]; return st.PlannedEnd.Sub(st.PlannedStart) }
	h.kitchen(set{"expects": dry.PlannedStart.Add(-2*time.Hour).Format("rain from 2 Jan 2006 15:04") + ": 62 %"})
	if length() <= dry.PlannedEnd.Sub(dry.PlannedStart)+time.Hour {
		t.Errorf("in the rain of its own evening it dries %s", length())
	}
	h.kitchen(set{"expects": dry.PlannedEnd.AddDate(0, 0, 3).Format("rain from 2 Jan 2006 15:04") + ": 62 %"})
	if off := length() - dry.PlannedEnd.Sub(dry.PlannedStart); off.Abs() > 10*time.Minute {
		t.Errorf("rain that comes later moves it by %s", off)
	}
	h.kitchen(set{"expects": "rain from Thursday"})
	k, err := h.Kitchen(t.Context(), h.slug)
	h.ok(err)
	text := ""
	for _, f := range k.Row.Fields {
		if f.Name == "expects" {
			text = f.Text
		}
	}
	if !strings.HasPrefix(text, "rain from ") || !strings.HasSuffix(text, ": 65 %") {
		t.Errorf("%q", text)
	}
	h.kitchen(set{"expects": text + "\nfrost from Sat until Sun: 35 %, 18 C"}) // what stands there is read back
	_, err = h.ChangeKitchen(t.Context(), h.slug, journal.ChangeIn{Version: h.kitchenVersion(), Set: set{"expects": "perhaps on Sunday"}})
	h.refused(err, "expects", "write it as rain from Thursday")
	_, err = h.ChangeKitchen(t.Context(), h.slug, journal.ChangeIn{Version: h.kitchenVersion(), Set: set{"expects": "rain from Thu until Wed: 120 %"}})
	h.refused(err, "expects", "")
}

// TestAPieceDriesElsewhere: a piece that is to dry in the box is reckoned by the box, in the
// plan and on Dry, and another place never moves what lies in the kitchen.
func TestAPieceDriesElsewhere(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "joined": "dry", "eaten": "shown"})
	h.kitchen(set{"rhPercent": "58 %"})
	box := h.box(nil)
	before := h.steps("dry")[0]
	h.must(studio.KindPiece, p, set{"rack": fmt.Sprint(box)})
	after := h.steps("dry")[0]
	if d, was := after.PlannedEnd.Sub(after.PlannedStart), before.PlannedEnd.Sub(before.PlannedStart); d >= was-time.Hour {
		t.Errorf("in the box %s, in the kitchen %s", d, was)
	}
	d := h.view(o, p).Dry
	if !strings.HasPrefix(d.Room, "Drying box: ") {
		t.Errorf("%q", d.Room)
	}
	if len(d.Tries) < 4 || d.Habits == nil || len(d.Habits) != 2 {
		t.Errorf("%d tries, %d habits", len(d.Tries), len(d.Habits))
	}
	for _, try := range d.Tries {
		if strings.HasPrefix(try.Says, "A fan") && !try.Better {
			t.Errorf("a fan does not help: %+v", try)
		}
		if strings.HasPrefix(try.Says, "In a bag") && try.Better {
			t.Errorf("a bag helps: %+v", try)
		}
	}
	h.must(studio.KindRack, box, set{"rhPercent": "64 %"})
	if worse := h.steps("dry"); len(worse) > 0 && worse[0].PlannedEnd.Sub(worse[0].PlannedStart) <= after.PlannedEnd.Sub(after.PlannedStart) {
		t.Errorf("a damp box changes nothing: %s", worse[0].PlannedEnd.Sub(worse[0].PlannedStart))
	}
	h.refused(h.set(studio.KindPiece, p, set{"rack": "999"}), "rack", "Choose the kitchen")
}

// TestTheShelfGoesOutAndComesIn: places, what was read, what hands did and what was noted
// come back with the document, and the hours with them.
func TestTheShelfGoesOutAndComesIn(t *testing.T) {
	t.Parallel()
	h, _, _ := laidOut(t, nil)
	h.kitchen(set{"sensor": "kitchen", "expects": "rain from Thursday"})
	box := h.box(set{"airMS": "fan", "sensor": "box"})
	h.heard(21, 55)
	h.after(time.Hour)
	h.ok(h.tend(shelf.TendIn{Do: "tray", Rack: box, Tray: 1}))
	h.after(5 * time.Hour)
	h.noted("soft", nil)
	raw := h.export(h.slug)
	row, err := h.Import(t.Context(), raw)
	h.ok(err)
	other := *h
	other.slug = row.Slug
	h.planNow(row.Slug)
	if again := other.export(row.Slug); string(again) != string(raw) {
		t.Errorf("it comes back otherwise:\n%s\n%s", raw, again)
	}
	a, rackA, _ := h.lies()
	b, rackB, _ := other.lies()
	if rackA != rackB || a.Next != b.Next || len(b.Notes) != 1 || !slices.Equal(a.Done, b.Done) {
		t.Errorf("%s %s %v\n%s %s %v", rackA, a.Next, a.Notes, rackB, b.Next, b.Notes)
	}
	if x, y := h.dryingNow().PlannedEnd, other.dryingNow().PlannedEnd; !x.Equal(y) {
		t.Errorf("firm at %s, where it came in at %s", x, y)
	}
}
