package studio_test

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/drying"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
)

// drying is an order whose leaves have just been laid out.
func laidOut(t *testing.T, s set) (h *house, order, piece int64) {
	t.Helper()
	h, m, o := stocked(t)
	p := h.piece(o, m, with(set{"wanted": "6", "joined": "dry", "eaten": "shown"}, s))
	h.now = h.steps("knead")[0].Start.Add(10 * time.Minute)
	h.finish("knead")
	h.after(40 * time.Minute)
	h.finish("press")
	h.after(time.Minute)
	return h, o, p
}

// dryingNow is the drying that runs.
func (h *house) dryingNow() plan.LineStep {
	h.t.Helper()
	all := h.steps("dry")
	i := slices.IndexFunc(all, func(s plan.LineStep) bool { return s.ActualStart != nil })
	if i < 0 {
		h.t.Fatalf("nothing dries: %+v", all)
	}
	return all[i]
}

// joinClock is when the clock rings that says they are firm; zero: there is none.
func (h *house) joinClock() (at time.Time) {
	for _, x := range h.bench().Timers {
		if x.Kind == "join" {
			at = time.UnixMilli(x.Rings)
		}
		for _, m := range x.Then {
			if m.Kind == "join" {
				at = time.UnixMilli(m.Rings)
			}
		}
	}
	return at
}

// TestADampRoomMovesWhatDries: what lies there is reckoned from how dry it is by now,
// through the room as it was and as it is; the clock, the wait and the line say the
// same minute, and taking the room back takes all that back.
func TestADampRoomMovesWhatDries(t *testing.T) {
	t.Parallel()
	h, _, _ := laidOut(t, nil)
	before := h.dryingNow()
	if !h.joinClock().Equal(before.PlannedEnd.Truncate(time.Millisecond)) {
		t.Fatalf("the clock rings %s, the line ends %s", h.joinClock(), before.PlannedEnd)
	}
	half := before.PlannedEnd.Sub(before.PlannedStart) / 2
	h.after(half)
	h.kitchen(set{"rhPercent": "55 %"})
	after := h.dryingNow()
	later := after.PlannedEnd.Sub(before.PlannedEnd)
	if later < 30*time.Minute || !h.joinClock().Equal(after.PlannedEnd) {
		t.Errorf("later by %s; the clock rings %s, the line ends %s", later, h.joinClock(), after.PlannedEnd)
	}
	// the same body through the same room, asked of the craft
	body := after.Planned.Body
	hours := half.Hours()
	f, err := drying.Predict(drying.PredictIn{Paste: &body.Paste, GumPercent: &body.GumPercent, Shape: &body.Shape, ThicknessMM: &body.ThicknessMM, Support: &body.Support, HorizonHours: new(drying.LongestHours),
		RoomSeries: []drying.RoomPoint{{AtHours: new(0.0), TempC: new(21.0), RHPercent: new(50.0)}, {AtHours: new(hours - 1e-3), TempC: new(21.0), RHPercent: new(50.0)}, {AtHours: &hours, TempC: new(21.0), RHPercent: new(55.0)}}})
	h.ok(err)
	if want := *f.Firm.P90Hours; math.Abs(after.PlannedEnd.Sub(after.PlannedStart).Hours()-want) > 0.03 {
		t.Errorf("dry after %s, the craft says %.2f h", after.PlannedEnd.Sub(after.PlannedStart), want)
	}
	// what is laid out now in the damp takes longer than what had half its way behind it
	if whole := h.view(1, 1).Dry.Stages[2].P90; whole*60 <= after.PlannedEnd.Sub(after.PlannedStart).Minutes() {
		t.Errorf("anew %.1f h, begun in dry air %s", whole, after.PlannedEnd.Sub(after.PlannedStart))
	}
	for _, r := range h.line().Rows {
		for _, m := range r.Steps {
			if m.Op == after.Op && !time.UnixMilli(m.End).Equal(after.PlannedEnd) {
				t.Errorf("the line draws it until %s", time.UnixMilli(m.End))
			}
		}
	}
	h.undo()
	if back := h.dryingNow(); !back.PlannedEnd.Equal(before.PlannedEnd) {
		t.Errorf("taken back it ends %s, not %s", back.PlannedEnd, before.PlannedEnd)
	}
}

// TestWhatDoesNotDryHereIsSaidAtOnce: in a very damp room the alarm falls silent, the
// wait says so, what would help stands there with its hour, and that hour is the one
// that comes when the help is taken.
func TestWhatDoesNotDryHereIsSaidAtOnce(t *testing.T) {
	t.Parallel()
	h, o, p := laidOut(t, nil)
	h.after(20 * time.Minute)
	h.kitchen(set{"rhPercent": "85 %"})
	if d := h.dryingNow(); !d.Never || d.ActualEnd != nil {
		t.Fatalf("%+v", d.Step)
	}
	x := h.told("never", "Leaves do not get firm in this room: 85 % humidity is too damp")
	if x.CommissionID != o || x.PieceID != p || !x.Stops || !strings.HasPrefix(x.Remedy, "Drier air, 55 % humidity: firm ") {
		t.Fatalf("%+v", x)
	}
	b := h.bench()
	if !h.joinClock().IsZero() || !slices.ContainsFunc(b.Waiting, func(w waitView) bool { return w.Until == "not in this room" }) {
		t.Errorf("%+v %+v", b.Timers, b.Waiting)
	}
	if n := len(slices.DeleteFunc(b.Troubles, func(x noun.Trouble) bool { return x.Code != "never" })); n != 1 {
		t.Errorf("said %d times", n)
	}
	h.kitchen(set{"rhPercent": "55 %"})
	d := h.dryingNow()
	if said := strings.TrimSuffix(strings.TrimPrefix(x.Remedy, "Drier air, 55 % humidity: firm "), "."); d.Never || d.PlannedEnd.Format("Mon 15:04") != said {
		t.Errorf("promised %s, comes %s", said, d.PlannedEnd.Format("Mon 15:04"))
	}
	if x := h.trouble("never"); x != nil {
		t.Errorf("%+v", x)
	}
}

// TestWhatIsFirmStaysFirm: a room that turns damp afterwards undoes nothing, and what
// lies there drying is planned on although nothing new would dry.
func TestWhatIsFirmStaysFirm(t *testing.T) {
	t.Parallel()
	h, o, p := laidOut(t, nil)
	h.now = h.dryingNow().PlannedEnd.Add(time.Minute)
	h.kitchen(set{"rhPercent": "85 %"})
	if d := h.dryingNow(); d.Never || d.ActualEnd == nil {
		t.Errorf("%+v", d.Step)
	}
	if l := h.leaf(o, p); l.State != "firm" {
		t.Errorf("%+v", l)
	}
	if len(h.steps("putOn")) != 1 || len(h.line().LeftOut) != 0 {
		t.Errorf("%v", h.line().LeftOut)
	}
}

// TestTheSameRoomGivesTheSameHours: what is promised for drier air is what stands on
// Dry once the air is drier, and what is planned.
func TestTheSameRoomGivesTheSameHours(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"wanted": "6", "joined": "dry", "eaten": "shown"})
	h.kitchen(set{"rhPercent": "85 %"})
	v := h.view(o, p).Dry
	if v.Never == "" || len(v.Help) == 0 || !strings.HasPrefix(v.Help[0], "Drier air, 55 % humidity: ready after ") {
		t.Fatalf("%+v", v)
	}
	if x := h.told("never", "will not set here"); !strings.HasPrefix(x.Remedy, v.Help[0]) {
		t.Errorf("%q on the bench, %q on Dry", x.Remedy, v.Help[0])
	}
	promised := v.Help[0]
	h.kitchen(set{"rhPercent": "55 %"})
	firm := h.view(o, p).Dry.Stages[2]
	if !strings.HasSuffix(promised, "ready after "+firm.Text+" ("+firm.Band+").") {
		t.Errorf("promised %q, comes %s, %s", promised, firm.Text, firm.Band)
	}
	d := h.steps("dry")[0]
	if got := d.PlannedEnd.Sub(d.PlannedStart).Minutes(); math.Abs(got-math.Ceil(firm.P90*60-1e-9)) > 0.5 {
		t.Errorf("planned %.0f min, Dry says %.1f", got, firm.P90*60)
	}
}

// TestTheRoomIsSaidAsThePressEnds, in the same second: what dries was planned for the room
// before, and is told of the room it lies in.
func TestTheRoomIsSaidAsThePressEnds(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"wanted": "6", "eaten": "mouthful"})
	h.now = h.steps("knead")[0].Start
	h.finish("knead")
	h.after(time.Hour)
	h.finish("press")
	if x := h.trouble("never"); x != nil {
		t.Fatalf("%+v", x)
	}
	h.kitchen(set{"rhPercent": "90"})
	h.told("never", "Leaves do not get firm in this room: 90 % humidity is too damp.")
	if w := h.bench().Waiting; len(w) != 1 || w[0].Until != "not in this room" {
		t.Errorf("%+v", w)
	}
}
