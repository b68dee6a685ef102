package bench

import (
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/fault"
)

func load(t testing.TB, name string) *Instance {
	t.Helper()
	b, err := os.ReadFile(filepath.Join("testdata", name+".json"))
	if err != nil {
		t.Fatal(err)
	}
	var in Instance
	if err := json.Unmarshal(b, &in); err != nil {
		t.Fatal(err)
	}
	return &in
}

func at2(t testing.TB, text string) int {
	t.Helper()
	x, err := time.Parse(time.RFC3339, text)
	if err != nil {
		t.Fatal(err)
	}
	return int(x.Unix() / 60)
}

// violations judges a plan by its steps alone, with code of its own.
func violations(t testing.TB, in *Instance, p Plan) []string {
	var bad []string
	say := func(format string, args ...any) { bad = append(bad, fmt.Sprintf(format, args...)) }
	type placed struct {
		op         Op
		batch      Batch
		start, end int
		window     string
		hands      []int
		colour     string
		attention  int
		rank       int
	}
	ops := map[string]*placed{}
	var order []*placed
	for _, b := range in.Batches {
		for _, o := range b.Ops {
			x := &placed{op: o, batch: b, rank: len(order), attention: 100}
			if o.Attended {
				x.colour = o.Colour
				if x.colour == "" {
					x.colour = b.Colour
				}
				if x.colour == "none" {
					x.colour = ""
				}
			}
			ops[o.ID] = x
			order = append(order, x)
		}
	}
	for _, o := range p.Ops {
		x := ops[o.Op]
		x.start, x.end, x.window, x.hands = at2(t, o.Start), at2(t, o.End), o.Window, o.Hands
	}
	light := map[string]float64{}
	for _, c := range in.Colours {
		light[c.ID] = c.Lightness
	}
	over := map[string]int{}
	for _, c := range in.Commissions {
		over[c.ID] = at2(t, c.HandOver)
	}
	for _, x := range order {
		length := 0
		switch o := x.op; {
		case o.Minutes != nil:
			length = *o.Minutes
		case o.Dry != nil:
			length = o.Dry.P90
		case o.Cycle != nil:
			length, x.attention = o.Cycle.Length()
		}
		if x.op.Attention != nil {
			x.attention = *x.op.Attention
		}
		if x.op.Actual != nil {
			continue
		}
		if x.op.Dry != nil && in.Confidence != nil && *in.Confidence != 0.9 {
			length = x.end - x.start // between the middle and the slow end
			if length < x.op.Dry.P50 || length > x.op.Dry.P90 {
				say("%s dries %d min", x.op.ID, length)
			}
		}
		if x.end-x.start != length || x.start < at2(t, in.Now) {
			say("%s: %d min instead of %d, or before now", x.op.ID, x.end-x.start, length)
		}
		if x.op.NotBefore != "" && x.start < at2(t, x.op.NotBefore) || x.op.NotAfter != "" && x.end > at2(t, x.op.NotAfter) || x.op.Pinned != "" && x.start != at2(t, x.op.Pinned) {
			say("%s stands outside its own limits", x.op.ID)
		}
		if f := x.batch.FreshMinutes; f != nil && x.start < over[x.batch.Commission]-*f {
			say("%s would not be fresh", x.op.ID)
		}
	}
	for _, l := range in.Lags {
		a, b := ops[l.From], ops[l.To]
		if gap := b.start - a.end; gap < l.Min || l.Max != nil && gap > *l.Max && a.op.Actual == nil {
			say("wait %s to %s is %d min", l.From, l.To, gap)
		}
	}
	for _, r := range in.Resources {
		type claimed struct{ a, b, n int }
		var cs []claimed
		for _, x := range order {
			for _, u := range x.op.Uses {
				if u.Resource == r.ID {
					cs = append(cs, claimed{x.start, x.end, u.Count})
				}
			}
		}
		for _, h := range in.Holds {
			if h.Resource == r.ID {
				cs = append(cs, claimed{ops[h.From].start, ops[h.To].end, h.Count})
			}
		}
		for _, c := range cs {
			sum := 0
			for _, d := range cs {
				if d.a <= c.a && d.b > c.a {
					sum += d.n
				}
			}
			if sum > r.Capacity {
				say("%s: %d of %d", r.ID, sum, r.Capacity)
			}
		}
	}
	lines := map[string][]*placed{}
	for _, x := range order {
		if !x.op.Attended || x.op.Actual != nil {
			continue
		}
		var w *Window
		for i := range in.Windows {
			if in.Windows[i].ID == x.window {
				w = &in.Windows[i]
			}
		}
		if w == nil || x.start < at2(t, w.Start) || x.end > at2(t, w.End) {
			say("%s is outside its window", x.op.ID)
			continue
		}
		for _, h := range x.hands {
			k := fmt.Sprint(w.ID, h)
			lines[k] = append(lines[k], x)
		}
	}
	for k, xs := range lines {
		for _, x := range xs {
			sum := 0
			var before *placed
			for _, y := range xs {
				if y.start <= x.start && y.end > x.start {
					sum += y.attention
				}
				if y != x && y.start < x.end && x.start < y.end && x.colour != "" && y.colour != "" && x.colour != y.colour {
					say("%s: two colours at once, %s and %s", k, x.op.ID, y.op.ID)
				}
				first := y.start < x.start || y.start == x.start && y.rank < x.rank
				if y != x && y.colour != "" && first && (before == nil || y.start > before.start || y.start == before.start && y.rank > before.rank) {
					before = y
				}
			}
			if sum > 100 {
				say("%s: too much to do at %s", k, x.op.ID)
			}
			if x.colour == "" || before == nil || before.colour == x.colour {
				continue
			}
			clean := in.CleanDown.ToLighter
			if light[x.colour] <= light[before.colour] {
				clean = in.CleanDown.ToDarker
			} else if light[x.colour] >= in.CleanDown.WhiteFrom {
				clean = in.CleanDown.ToWhite
			}
			for _, y := range xs {
				if y != x && y.start < x.start && y.end > x.start-clean {
					say("no %d min to clean down before %s", clean, x.op.ID)
				}
			}
		}
	}
	return bad
}

func TestPlansAreValid(t *testing.T) {
	files, _ := filepath.Glob("testdata/*.json")
	if len(files) < 10 {
		t.Fatal("the instances are missing")
	}
	for _, f := range files {
		name := strings.TrimSuffix(filepath.Base(f), ".json")
		for _, order := range []string{"usual", "span"} {
			t.Run(name+"/"+order, func(t *testing.T) {
				t.Parallel()
				in := load(t, name)
				p, err := Build(BuildIn{Instance: in, Order: order})
				if err != nil {
					t.Fatal(err)
				}
				for _, v := range violations(t, in, p) {
					t.Error(v)
				}
				again, err := Build(BuildIn{Instance: load(t, name), Order: order})
				if err != nil || !reflect.DeepEqual(p.Ops, again.Ops) {
					t.Error("the same input gave another plan")
				}
				for _, o := range p.Ops {
					if o.State == "planned" && (o.NotLater == nil || o.NotLater.Say == "" || o.Slack < 0) {
						t.Errorf("%s has no reason or a slack of %d", o.Op, o.Slack)
					}
				}
				if len(p.CriticalChain) == 0 {
					t.Error("nothing decides")
				}
			})
		}
	}
}

func TestTheWorkedExampleIsOptimal(t *testing.T) {
	p, err := Build(BuildIn{Instance: load(t, "worked-instance")})
	if err != nil || !reflect.DeepEqual(p.Objective, []int{0, 0, 0, 2, 2, 4680, 14170}) || p.Span != 2349 || !p.Feasible {
		t.Errorf("%v span %d %v", p.Objective, p.Span, err)
	}
}

func TestRounds(t *testing.T) {
	for copies, want := range map[int][2]int{3: {139, 78}, 1: {396, 28}} {
		m, a := Rounds{Pieces: 36, FillSec: 120, HoldSec: 480, UnmouldSec: 60, Copies: copies}.Length()
		if m != want[0] || a != want[1] {
			t.Errorf("%d copies: %d min at %d %%", copies, m, a)
		}
	}
	parts := Rounds{Pieces: 36, FillSec: 120, HoldSec: 480, UnmouldSec: 60, Copies: 3}.Split(90)
	if len(parts) != 2 || parts[0].Pieces != 18 || parts[1].Pieces != 18 {
		t.Errorf("%+v", parts)
	}
	if (Rounds{Pieces: 2, FillSec: 6000, UnmouldSec: 60, Copies: 1}).Split(50) != nil {
		t.Error("a round longer than the time cannot be split")
	}
}

func TestWhatCannotBePlannedIsSaid(t *testing.T) {
	for _, c := range []struct {
		say, code, field string
		spoil            func(*Instance)
	}{
		{"a step longer than every window", WindowTooShort, "instance.batches[2].ops[0]", func(in *Instance) { in.Batches[2].Ops[0].Minutes = new(500) }},
		{"windows overlap", WindowsOverlap, "instance.windows", func(in *Instance) { in.Windows[1].Start = in.Windows[0].Start }},
		{"no such resource", UnknownResource, "instance.batches[0].ops[0].uses[0].resource", func(in *Instance) { in.Batches[0].Ops[0].Uses[0].Resource = "spoon" }},
		{"more copies than there are", TooFewCopies, "instance.batches[0].ops[0].uses[0]", func(in *Instance) { in.Batches[0].Ops[0].Uses[0].Count = 9 }},
		{"steps in a circle", CycleOfSteps, "instance.lags", func(in *Instance) { in.Lags = append(in.Lags, Lag{From: "pack", To: "roll"}) }},
		{"a wait that ends before it begins", BadLag, "instance.lags[0]", func(in *Instance) { in.Lags[0].Min, in.Lags[0].Max = 20, new(10) }},
		{"two lengths", BadDuration, "instance.batches[1].ops[0]", func(in *Instance) { in.Batches[1].Ops[0].Dry = &Drying{P50: 1, P90: 2} }},
		{"a fact to come", ActualInFuture, "instance.batches[1].ops[0].actual.start", func(in *Instance) { in.Batches[1].Ops[0].Actual = &Actual{Start: "2026-03-05T19:00:00Z"} }},
		{"an instant without a zone", BadInstant, "instance.now", func(in *Instance) { in.Now = "2026-03-04T18:00:00" }},
		{"nothing to do", Empty, "instance.batches", func(in *Instance) { in.Batches, in.Lags = nil, nil }},
		{"no time at all", NoPlace, "instance.windows", func(in *Instance) { in.Windows = nil }},
		{"one id twice", DuplicateID, "instance.batches[1].ops[1].id", func(in *Instance) { in.Batches[1].Ops[1].ID = "roll" }},
		{"waits that contradict", ImpossibleLag, "", func(in *Instance) { in.Lags = append(in.Lags, Lag{From: "roll", To: "letters", Min: 0, Max: new(30)}) }},
	} {
		in := load(t, "worked-instance")
		c.spoil(in)
		_, err := Build(BuildIn{Instance: in})
		var f *fault.Fault
		if !errors.As(err, &f) || f.Code != c.code || c.field != "" && f.Field != c.field || f.Message == "" {
			t.Errorf("%s: %v", c.say, err)
		}
	}
}

// A finished step stands where it happened, and the rest is planned after it.
func TestFactsAreKept(t *testing.T) {
	in := load(t, "worked-instance")
	in.Now = "2026-03-04T20:56:00Z"
	in.Batches[1].Ops[0].Actual = &Actual{Start: "2026-03-04T20:48:00Z", End: "2026-03-04T20:55:00Z"}
	p, err := Build(BuildIn{Instance: in})
	if err != nil {
		t.Fatal(err)
	}
	for _, v := range violations(t, in, p) {
		t.Error(v)
	}
	for _, o := range p.Ops {
		if o.Op == "roll" && (o.State != "done" || at2(t, o.End) != at2(t, "2026-03-04T20:55:00Z")) {
			t.Errorf("%+v", o)
		}
	}
}

func BenchmarkBuild(b *testing.B) {
	for _, name := range []string{"small-1", "small-3", "medium-1"} {
		in := load(b, name)
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				if _, err := Build(BuildIn{Instance: in}); err != nil {
					b.Fatal(err)
				}
			}
		})
	}
}

// TestTheBoardIsKneadedLightFirst: offering each board its colours from light
// to dark saves wiping here (56 min without), and costs nothing that counts
// more.
func TestTheBoardIsKneadedLightFirst(t *testing.T) {
	in := load(t, "medium-3")
	x, err := translate(in)
	if err != nil {
		t.Fatal(err)
	}
	arcs := len(x.arcs)
	s, err := x.plan(orders["usual"], func() bool { return false }, func() bool { return false })
	if err != nil {
		t.Fatal(err)
	}
	if v := s.value; v[0] != 0 || v[1] != 0 || v[3] > 5 || v[4] > 42 {
		t.Errorf("late %d, margin short %d, %d sessions, %d min of wiping", v[0], v[1], v[3], v[4])
	}
	if len(x.arcs) != arcs {
		t.Error("what was only offered is a rule now")
	}
	for _, bad := range violations(t, in, x.report(s)) {
		t.Error(bad)
	}
}

// TestWhatIsWipedBetweenColours: nothing between a colour and itself, little
// towards darker, more towards lighter, and most towards white, which begins at
// its limit and not below.
func TestWhatIsWipedBetweenColours(t *testing.T) {
	x := task{in: &Instance{CleanDown: CleanDown{ToDarker: 2, ToLighter: 8, ToWhite: 12, WhiteFrom: 95}},
		colours: []Colour{{ID: "dark", Lightness: 20}, {ID: "mid", Lightness: 60}, {ID: "nearly", Lightness: 94.9}, {ID: "white", Lightness: 95}, {ID: "whiter", Lightness: 97}}}
	for _, c := range []struct{ from, to, want int }{{1, 1, 0}, {1, 0, 2}, {3, 2, 2}, {4, 3, 2}, {0, 1, 8}, {0, 2, 8}, {0, 3, 12}, {2, 3, 12}, {3, 4, 12}} {
		if got := x.wipe(c.from, c.to); got != c.want {
			t.Errorf("from %s to %s: %d min, not %d", x.colours[c.from].ID, x.colours[c.to].ID, got, c.want)
		}
	}
}
