package bench

import (
	"encoding/json"
	"errors"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/fault"
)

// bestKnown is the best that is known of each instance.
type bestKnown map[string]struct {
	Usual      [told]int `json:"usual"`
	Span       int       `json:"span"`
	SpanVector [3]int    `json:"spanVector"`
}

func readBest(t testing.TB) bestKnown {
	t.Helper()
	b, err := os.ReadFile("testdata/best-known.json")
	if err != nil {
		t.Fatal(err)
	}
	var out bestKnown
	if err := json.Unmarshal(b, &out); err != nil {
		t.Fatal(err)
	}
	return out
}

// worse compares the first aims in whole steps, from the left.
func worse(got []float64, best [told]int, first int) bool {
	for a := range first {
		if g, b := int(got[a])/coarse[a], best[a]/coarse[a]; g != b {
			return g > b
		}
	}
	return false
}

func TestPlansAreValidAndAsGoodAsKnown(t *testing.T) {
	best := readBest(t)
	files, _ := filepath.Glob("testdata/*-*.json")
	if len(files) < 17 {
		t.Fatal("the instances are missing")
	}
	for _, f := range files {
		name := strings.TrimSuffix(filepath.Base(f), ".json")
		if name == "best-known" {
			continue
		}
		t.Run(name, func(t *testing.T) {
			in := load(t, name)
			p, err := Build(BuildIn{Instance: in})
			if err != nil {
				t.Fatal(err)
			}
			for _, v := range violations(t, in, p) {
				t.Error(v)
			}
			first := 7
			if strings.HasPrefix(name, "medium") || strings.HasPrefix(name, "large") {
				first = 6
			}
			if b, known := best[name]; known && worse(p.Objective, b.Usual, first) {
				t.Errorf("%v, and %v is known", p.Objective, b.Usual)
			}
			told := saidOf(t, p)
			if told != "" {
				t.Error(told)
			}
			for a, bound := range []int{late: p.Bound.Late, bufferShort: p.Bound.BufferShort, spareShort: p.Bound.SpareShort, sessions: p.Bound.Sessions, stale: p.Bound.Stale} {
				if int(p.Objective[a]) < bound {
					t.Errorf("%s is %v, and %d was proved", aims[a], p.Objective[a], bound)
				}
			}
			if testing.Short() || strings.HasPrefix(name, "large") {
				return
			}
			again, err := Build(BuildIn{Instance: load(t, name)})
			if err != nil || !reflect.DeepEqual(p, again) {
				t.Error("the same input gave another plan")
			}
		})
	}
}

// saidOf is what is missing in what a plan says of itself.
func saidOf(t *testing.T, p Plan) string {
	t.Helper()
	for _, o := range p.Ops {
		if o.State == statePlanned && (o.NotLater == nil || o.NotLater.Say == "" || o.NotEarlier == nil || o.Slack < 0) {
			return o.Op + " has no reason, or less than no slack"
		}
	}
	if len(p.CriticalChain) == 0 {
		return "nothing decides"
	}
	if minuteOf(t, p.CouldBeginBy) < minuteOf(t, p.StartBy) {
		return "it could not even begin when it does"
	}
	return ""
}

// TestBeginningAsLateAsCanBe: under order span the plan begins as late as is known,
// or 3 % earlier (5 % of the large ones).
func TestBeginningAsLateAsCanBe(t *testing.T) {
	for name, b := range readBest(t) {
		in := load(t, name)
		p, err := Build(BuildIn{Instance: in, Order: "span"})
		if err != nil {
			t.Fatal(err)
		}
		for _, v := range violations(t, in, p) {
			t.Error(name, v)
		}
		within := 1.002 // a minute or two
		switch name[0] {
		case 'm':
			within = 1.03
		case 'l':
			within = 1.05
		}
		if p.Objective[late] > float64(b.SpanVector[0]) || p.Objective[broken] > float64(b.SpanVector[1]) ||
			int(p.Objective[bufferShort])/15 > b.SpanVector[2]/15 || float64(p.Span) > within*float64(b.Span) {
			t.Errorf("%s: %v, span %d; known %v, %d", name, p.Objective, p.Span, b.SpanVector, b.Span)
		}
		if p.Bound.Span > p.Span {
			t.Errorf("%s: span %d, and %d was proved", name, p.Span, p.Bound.Span)
		}
	}
}

func TestTheWorkedExample(t *testing.T) {
	p, err := Build(BuildIn{Instance: load(t, "worked-instance")})
	if err != nil || !reflect.DeepEqual(p.Objective, []float64{0, 0, 0, 0, 11, 0, 2, 2, 0, 14170}) || !p.Feasible {
		t.Errorf("%v %v", p.Objective, err)
	}
	if minuteOf(t, p.StartBy) != minuteOf(t, "2026-03-04T19:00:00Z") || minuteOf(t, p.CouldBeginBy) != minuteOf(t, "2026-03-04T20:51:00Z") {
		t.Errorf("begin by %s, could by %s", p.StartBy, p.CouldBeginBy)
	}
	if want := []Spare{{"wedding", "plaques", 709, 720}}; len(p.LeastSpare) != 1 || p.LeastSpare[0].Batch != want[0].Batch || p.LeastSpare[0].Minutes != want[0].Minutes {
		t.Errorf("%+v", p.LeastSpare)
	}
	p, err = Build(BuildIn{Instance: load(t, "worked-instance"), Order: "span"})
	if err != nil || p.Objective[cleanDown] != 2 || p.Objective[sessions] != 2 || p.Span != 2349 || p.Bound.Span != 2333 {
		t.Errorf("%v span %d of %d %v", p.Objective, p.Span, p.Bound.Span, err)
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
		{"a share of nothing", BadShare, "instance.crowdShare", func(in *Instance) { in.CrowdShare = new(0.05) }},
		{"an overrun of a night", BadMinutes, "instance.overrunMinutes", func(in *Instance) { in.Overrun = new(600) }},
		{"a pin before what comes first", NoPlace, "instance.batches[1].ops[1].pinned", func(in *Instance) {
			in.Batches[1].Ops[0].Pinned, in.Batches[1].Ops[1].Pinned = "2026-03-04T20:00:00Z", "2026-03-04T19:00:00Z"
		}},
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
		if o.Op == "roll" && (o.State != "done" || minuteOf(t, o.End) != minuteOf(t, "2026-03-04T20:55:00Z")) {
			t.Errorf("%+v", o)
		}
	}
}

func BenchmarkBuild(b *testing.B) {
	for _, name := range []string{"small-1", "small-3", "medium-1", "medium-2", "medium-3", "medium-4", "large-1", "large-2"} {
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

// TestWhatIsWipedBetweenColours: nothing between a colour and itself, little
// towards darker, more towards lighter, and most towards white, which begins at
// its limit and not below; to what must be free of something, from whatever is not
// known to be free of it, the washing that this takes, however dark it is.
func TestWhatIsWipedBetweenColours(t *testing.T) {
	x := task{in: &Instance{CleanDown: CleanDown{ToDarker: 2, ToLighter: 8, ToWhite: 12, WhiteFrom: 95, ToFree: 20},
		Colours: []Colour{{ID: "dark", Lightness: 20}, {ID: "mid", Lightness: 60}, {ID: "nearly", Lightness: 94.9}, {ID: "white", Lightness: 95}, {ID: "whiter", Lightness: 97},
			{ID: "no nuts", Lightness: 20, Free: []string{"nuts"}}, {ID: "no nuts, no egg", Lightness: 10, Free: []string{"egg", "nuts"}}}}}
	if err := x.readThings(); err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct{ from, to, want int }{{1, 1, 0}, {1, 0, 2}, {3, 2, 2}, {4, 3, 2}, {0, 1, 8}, {0, 2, 8}, {0, 3, 12}, {2, 3, 12}, {3, 4, 12}, {0, 5, 20}, {5, 0, 2}, {5, 5, 0}, {5, 6, 20}, {6, 5, 8}} {
		if got := x.wipe(c.from, c.to); got != c.want {
			t.Errorf("from %s to %s: %d min, not %d", x.colours[c.from].ID, x.colours[c.to].ID, got, c.want)
		}
	}
}

func later(t testing.TB, text string, minutes int) string {
	t.Helper()
	x, err := time.Parse(time.RFC3339, text)
	if err != nil {
		t.Fatal(err)
	}
	return x.Add(time.Duration(minutes) * time.Minute).Format(time.RFC3339)
}
