package bench

import (
	"fmt"
	"testing"
	"time"
)

// invented is a task of n batches with parts, formers, rounds, semi-dry waits,
// freshness, two people and colours, from the throws of its dice.
func invented(d *dice, n int) *Instance {
	now := time.Date(2026, 3, 2, 9, 0, 0, 0, time.UTC)
	text := func(day, minute int) string {
		return now.Truncate(24 * time.Hour).Add(time.Duration(day*aDay+minute) * time.Minute).Format(time.RFC3339)
	}
	in := &Instance{Format: InstanceFormat, Name: "invented", Now: now.Format(time.RFC3339), People: new(1 + d.n(2)),
		Resources: []Resource{{"mould", "mould", 1 + d.n(3)}, {"freezer", "freezer", 3}, {"tray", "tray", 2 + d.n(6)}, {"former", "former", 1 + d.n(3)}},
		Colours:   []Colour{{"white", 97, nil}, {"moss", 45, nil}, {"clay", 60, []string{"nuts"}}}, CleanDown: CleanDown{2, 8, 12, 95, 20}}
	days := 4 + n/3 + d.n(4)
	for day := range days {
		in.Windows = append(in.Windows, Window{ID: fmt.Sprintf("eve%d", day), Day: text(day, 0)[:10], Start: text(day, 19*60), End: text(day, 22*60), Preferred: true})
		if d.in(1, 2) {
			in.Windows = append(in.Windows, Window{ID: fmt.Sprintf("late%d", day), Day: text(day, 0)[:10], Start: text(day, 22*60), End: text(day, 23*60+30)})
		}
	}
	in.Commissions = []Commission{{"one", text(days, 12*60), 60 * d.n(4)}, {"two", text(max(2, days-d.n(3)), 18*60), 60}}
	if d.in(1, 4) {
		in.Overrun = new(10 + d.n(30))
	}
	for b := range n {
		in.invent(d, b)
	}
	for _, c := range in.Commissions {
		id := c.ID + "-cake"
		in.Batches = append(in.Batches, Batch{ID: id, Commission: c.ID, Colour: "none", Ops: []Op{
			{ID: id + ".place", Kind: "place", Attended: true, Minutes: new(20 + d.n(40))}, {ID: id + ".settle", Kind: "settle", Minutes: new(60)},
			{ID: id + ".pack", Kind: "pack", Attended: true, Minutes: new(15)}}})
		in.Lags = append(in.Lags, Lag{From: id + ".place", To: id + ".settle"}, Lag{From: id + ".settle", To: id + ".pack"})
	}
	return in
}

// invent adds one batch, by chance pressed in rounds, cut and bent, or soft.
func (in *Instance) invent(d *dice, b int) {
	id := fmt.Sprintf("b%d", b)
	c := in.Commissions[d.n(2)].ID
	x := Batch{ID: id, Commission: c, Colour: in.Colours[d.n(3)].ID}
	step := func(name string, op Op) { op.ID, op.Kind = id+"."+name, name; x.Ops = append(x.Ops, op) }
	wait := func(from, to string, least int, most *int) {
		in.Lags = append(in.Lags, Lag{From: id + "." + from, To: id + "." + to, Min: least, Max: most})
	}
	step("knead", Op{Attended: true, Minutes: new(3 + d.n(5))})
	last := "dry"
	switch d.n(3) {
	case 0:
		copies := in.Resources[0].Capacity
		step("press", Op{Attended: true, Cycle: &Rounds{Pieces: 3 + d.n(8), FillSec: 100, HoldSec: 480, UnmouldSec: 60, Copies: copies}, Uses: []Use{{"mould", copies}, {"freezer", copies}}})
		step("dry", Op{Dry: &Drying{240 + d.n(300), 600 + d.n(300)}, Uses: []Use{{"tray", 1}}})
		wait("knead", "press", 0, new(720))
		wait("press", "dry", 0, new(10+d.n(20)))
	case 1:
		step("rest", Op{Minutes: new(15 + d.n(20))})
		step("roll", Op{Attended: true, Minutes: new(5 + d.n(10))})
		step("bend", Op{Attended: true, Minutes: new(5 + d.n(10))})
		step("dry", Op{Dry: &Drying{300, 420 + d.n(300)}})
		wait("knead", "rest", 0, nil)
		wait("rest", "roll", 0, new(1440))
		wait("roll", "bend", 0, new(15))
		wait("bend", "dry", 0, new(5))
		in.Holds = append(in.Holds, Hold{"former", 1, id + ".bend", id + ".dry"})
	default:
		step("shape", Op{Attended: true, Minutes: new(10 + d.n(30))})
		wait("knead", "shape", 10, new(1440))
		last = "shape"
		x.FreshMinutes, x.FreshWeight = new(2880), new(1.0)
	}
	if last == "dry" && d.in(1, 2) {
		step("dust", Op{Attended: true, Minutes: new(8 + d.n(20)), Colour: "none"})
		wait("dry", "dust", 0, nil)
		last = "dust"
	}
	in.Batches = append(in.Batches, x)
	in.Lags = append(in.Lags, Lag{From: id + "." + last, To: c + "-cake.place"})
}

// happen tells a part of a plan as facts: what was to begin before an instant has
// begun, some of it longer than planned.
func (in *Instance) happen(t *testing.T, d *dice, p Plan, now int) {
	t.Helper()
	start := minuteOf(t, in.Now)
	planned := map[string]Planned{}
	for _, o := range p.Ops {
		planned[o.Op] = o
	}
	in.Now = later(t, in.Now, now)
	in.eachOp(func(_ *Batch, o *Op) {
		x := planned[o.ID]
		if minuteOf(t, x.Start) > start+now {
			return
		}
		o.Actual = &Actual{Start: x.Start, Hands: x.Hands}
		end := minuteOf(t, x.End) + []int{0, 0, 5, 25}[d.n(4)]
		if end <= start+now {
			o.Actual.End = later(t, x.Start, end-minuteOf(t, x.Start))
		}
	})
}

// TestInventedTasks: of 1 to 40 batches, also half done, every plan keeps every rule;
// a plan made again after something ran long as well.
func TestInventedTasks(t *testing.T) {
	for seed := range 30 {
		d := dice(seed + 1)
		n := 1 + d.n(8)
		if seed%10 == 0 {
			n = 20 + d.n(21)
		}
		in := invented(&d, n)
		p, err := Build(BuildIn{Instance: in, Passes: new(4000)})
		if err != nil {
			t.Fatalf("seed %d: %v", seed, err)
		}
		for _, v := range violations(t, in, p) {
			t.Errorf("seed %d: %s", seed, v)
		}
		in.happen(t, &d, p, d.n(4*aDay))
		q, err := Replan(ReplanIn{Instance: in, Plan: &p})
		if err != nil {
			continue // by then its hours may be over
		}
		for _, v := range violations(t, in, q) {
			t.Errorf("seed %d, again: %s", seed, v)
		}
	}
}

// TestAWayOutFits: every change that is said to be enough is enough when it is made.
func TestAWayOutFits(t *testing.T) {
	found := 0
	for seed := range 16 {
		d := dice(seed + 1000)
		in := invented(&d, 2+d.n(6))
		for k := range in.Commissions { // a day or two too soon
			in.Commissions[k].HandOver = later(t, in.Now, aDay/2+d.n(2*aDay))
		}
		in.ExtraWindows = []Window{{ID: "dawn", Day: "2026-03-03", Start: "2026-03-03T05:00:00Z", End: "2026-03-03T18:00:00Z"}}
		in.RoomOptions = []RoomOption{{ID: "box", Label: "a drying box", DryFactor: 0.5}}
		ways, err := Ways(BuildIn{Instance: in, Passes: new(3000)})
		if err != nil {
			t.Fatal(seed, err)
		}
		for _, w := range ways.Relaxations {
			changed := in
			for _, c := range w.Changes {
				changed = changed.With(c)
			}
			p, err := Build(BuildIn{Instance: changed, Passes: new(3000)})
			if err != nil || int(p.Objective[late]) > w.Late {
				t.Errorf("seed %d: %v leaves %v late, not %d (%v)", seed, w.Say, p.Objective, w.Late, err)
			}
			found++
		}
	}
	if found < 8 {
		t.Errorf("only %d ways out were found: nothing is tried here", found)
	}
}

// TestFewMove: when one step runs long in a plan of four hundred, a tenth may move.
func TestFewMove(t *testing.T) {
	in := load(t, "large-2")
	p, err := Build(BuildIn{Instance: in, Passes: new(30000)})
	if err != nil {
		t.Fatal(err)
	}
	first := p.Ops[0]
	for _, o := range p.Ops {
		if o.Window != "" && minuteOf(t, o.Start) < minuteOf(t, first.Start) {
			first = o
		}
	}
	in.Now = later(t, first.Start, 45)
	in.eachOp(func(_ *Batch, o *Op) {
		if o.ID == first.Op {
			o.Actual = &Actual{Start: first.Start, Hands: first.Hands}
			if o.Cycle != nil {
				o.Cycle = nil
			}
			o.Minutes = new(60)
		}
	})
	q, err := Replan(ReplanIn{Instance: in, Plan: &p})
	if err != nil {
		t.Fatal(err)
	}
	for _, v := range violations(t, in, q) {
		t.Error(v)
	}
	if len(q.Moved) == 0 || len(q.Moved) > len(p.Ops)/10 || q.Objective[late] > 0 {
		t.Errorf("%d of %d moved, %v", len(q.Moved), len(p.Ops), q.Objective)
	}
	for _, m := range q.Moved {
		if m.Why == "" || m.By == 0 {
			t.Errorf("%+v", m)
		}
	}
}

// TestATrueConflict: a task that has no plan for its hours has one with more of them.
func TestATrueConflict(t *testing.T) {
	in := load(t, "worked-instance")
	in.Windows = in.Windows[:1]
	if _, err := Build(BuildIn{Instance: in}); err == nil {
		t.Fatal("two evenings of work fit into one")
	}
	in = load(t, "worked-instance")
	if _, err := Build(BuildIn{Instance: in}); err != nil {
		t.Error(err)
	}
}

func BenchmarkReplan(b *testing.B) {
	in := load(b, "large-2")
	p, err := Build(BuildIn{Instance: in, Passes: new(30000)})
	if err != nil {
		b.Fatal(err)
	}
	in.Now = later(b, p.StartBy, -10)
	in.Windows[len(in.Windows)/2].People = new(1)
	for b.Loop() {
		if _, err := Replan(ReplanIn{Instance: in, Plan: &p}); err != nil {
			b.Fatal(err)
		}
	}
}
