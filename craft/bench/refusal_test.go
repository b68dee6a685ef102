package bench

import (
	"errors"
	"fmt"
	"reflect"
	"strings"
	"testing"
	"time"

	"dustyfern/craft/fault"
)

// spoiled builds the worked example after a change, and gives the refusal.
func spoiled(t *testing.T, spoil func(*Instance)) *fault.Fault {
	t.Helper()
	in := load(t, "worked-instance")
	spoil(in)
	_, err := Build(BuildIn{Instance: in})
	var f *fault.Fault
	if err != nil && !errors.As(err, &f) {
		t.Fatal(err)
	}
	return f
}

func TestEachFieldOfATaskIsRead(t *testing.T) {
	for _, c := range []struct {
		say, code, field string
		spoil            func(*Instance)
	}{
		{"a window that ends before it begins", BadWindow, "windows[0].end", func(in *Instance) { in.Windows[0].End = in.Windows[0].Start }},
		{"a window's own id twice", DuplicateID, "windows[1].id", func(in *Instance) { in.Windows[1].ID = in.Windows[0].ID }},
		{"five people", BadPeople, "windows[0].people", func(in *Instance) { in.Windows[0].People = new(5) }},
		{"nobody at all", BadPeople, "people", func(in *Instance) { in.People = new(0) }},
		{"no copy", BadCapacity, "resources[0].capacity", func(in *Instance) { in.Resources[0].Capacity = 0 }},
		{"surer than sure", BadConfidence, "confidence", func(in *Instance) { in.Confidence = new(1.0) }},
		{"no minutes", BadMinutes, "batches[1].ops[0].minutes", func(in *Instance) { in.Batches[1].Ops[0].Minutes = new(0) }},
		{"no length", BadDuration, "batches[1].ops[0]", func(in *Instance) { in.Batches[1].Ops[0].Minutes = nil }},
		{"rounds of nothing", BadCycle, "batches[0].ops[0].cycle", func(in *Instance) { in.Batches[0].Ops[0].Cycle.Pieces = 0 }},
		{"slow before middle", BadDrying, "batches[0].ops[1].dry", func(in *Instance) { in.Batches[0].Ops[1].Dry.P90 = 10 }},
		{"none of a resource", BadCount, "uses[0].count", func(in *Instance) { in.Batches[0].Ops[0].Uses[0].Count = 0 }},
		{"a weight below zero", BadWeight, "batches[2].freshWeight", func(in *Instance) { in.Batches[2].FreshWeight = new(-1.0) }},
		{"no such colour", UnknownColour, "batches[0].colour", func(in *Instance) { in.Batches[0].Colour = "mauve" }},
		{"no such commission", UnknownCommission, "batches[0].commission", func(in *Instance) { in.Batches[0].Commission = "nobody" }},
		{"a wait after nothing", UnknownStep, "lags[0].from", func(in *Instance) { in.Lags[0].From = "nothing" }},
		{"a wait for nothing", UnknownStep, "lags[0].to", func(in *Instance) { in.Lags[0].To = "nothing" }},
		{"more hands than there are", TooFewPeople, "batches[1].ops[0].people", func(in *Instance) { in.Batches[1].Ops[0].People = new(2) }},
		{"a hold that runs backward", HoldOrder, "holds[0]", func(in *Instance) { in.Holds = []Hold{{"tray", 1, "pack", "roll"}} }},
		{"one hold twice", DuplicateHold, "holds[1]", func(in *Instance) { in.Holds = []Hold{{"tray", 1, "roll", "cut"}, {"tray", 1, "roll", "cut"}} }},
		{"a hold on nothing", UnknownResource, "holds[0].resource", func(in *Instance) { in.Holds = []Hold{{"spoon", 1, "roll", "cut"}} }},
		{"no room between its own limits", EmptyInterval, "batches[1].ops[0].notAfter", func(in *Instance) {
			in.Batches[1].Ops[0].NotBefore, in.Batches[1].Ops[0].NotAfter = "2026-03-05T20:00:00Z", "2026-03-05T20:01:00Z"
		}},
		{"pinned out of hours", PinnedOutsideWindow, "batches[1].ops[0].pinned", func(in *Instance) { in.Batches[1].Ops[0].Pinned = "2026-03-05T12:00:00Z" }},
		{"pinned past its own limit", PinnedOutside, "batches[1].ops[0].pinned", func(in *Instance) {
			in.Batches[1].Ops[0].Pinned, in.Batches[1].Ops[0].NotAfter = "2026-03-05T20:00:00Z", "2026-03-05T19:30:00Z"
		}},
		{"half a minute", BadInstant, "commissions[0].handOver", func(in *Instance) { in.Commissions[0].HandOver = "2026-03-06T12:00:30Z" }},
		{"no instance", fault.Required, "instance", nil},
	} {
		var f *fault.Fault
		if c.spoil == nil {
			_, err := Build(BuildIn{})
			errors.As(err, &f)
		} else {
			f = spoiled(t, c.spoil)
		}
		if f == nil || f.Code != c.code || !strings.HasSuffix(f.Field, c.field) || len(f.Message) < 10 {
			t.Errorf("%s: %+v, want %s on %s", c.say, f, c.code, c.field)
		}
	}
	for _, order := range []any{"hurry", 7, []any{"beauty"}, []any{}} {
		if _, err := Build(BuildIn{Instance: load(t, "worked-instance"), Order: order}); err == nil {
			t.Errorf("order %v was taken", order)
		}
	}
}

func build(t *testing.T, in *Instance) Plan {
	t.Helper()
	p, err := Build(BuildIn{Instance: in})
	if err != nil {
		t.Fatal(err)
	}
	for _, v := range violations(t, in, p) {
		t.Error(v)
	}
	return p
}

// The plan knows no calendar: a day later everything is a day later.
func TestAnotherDayIsTheSamePlan(t *testing.T) {
	later := func(s string) string {
		if s == "" {
			return ""
		}
		x, err := time.Parse(time.RFC3339, s)
		if err != nil {
			t.Fatal(err)
		}
		return x.AddDate(0, 0, 1).Format(time.RFC3339)
	}
	for _, name := range []string{"worked-instance", "small-1", "small-2"} {
		in, moved := load(t, name), load(t, name)
		moved.Now = later(moved.Now)
		for i := range moved.Windows {
			w := &moved.Windows[i]
			w.Day, w.Start, w.End = w.Day+"+", later(w.Start), later(w.End)
		}
		for i := range moved.Commissions {
			moved.Commissions[i].HandOver = later(moved.Commissions[i].HandOver)
		}
		for i := range moved.Batches {
			for j := range moved.Batches[i].Ops {
				o := &moved.Batches[i].Ops[j]
				o.NotBefore, o.NotAfter, o.Pinned = later(o.NotBefore), later(o.NotAfter), later(o.Pinned)
				if o.Actual != nil {
					o.Actual.Start, o.Actual.End = later(o.Actual.Start), later(o.Actual.End)
				}
			}
		}
		a, b := build(t, in), build(t, moved)
		if !reflect.DeepEqual(a.Objective, b.Objective) || later(a.StartBy) != b.StartBy {
			t.Errorf("%s: %v from %s, a day later %v from %s", name, a.Objective, a.StartBy, b.Objective, b.StartBy)
		}
	}
}

// More to work with never makes a commission later.
func TestMoreNeverHurtsTheDate(t *testing.T) {
	late := func(p Plan) int { return int(p.Objective[0]) }
	for _, name := range []string{"worked-instance", "small-1", "small-2", "small-3", "small-4", "small-5", "small-6"} {
		base := late(build(t, load(t, name)))
		for say, more := range map[string]func(*Instance){
			"another copy of everything": func(in *Instance) {
				for i := range in.Resources {
					in.Resources[i].Capacity++
				}
			},
			"a day more": func(in *Instance) {
				for i := range in.Commissions {
					x, _ := time.Parse(time.RFC3339, in.Commissions[i].HandOver)
					in.Commissions[i].HandOver = x.AddDate(0, 0, 1).Format(time.RFC3339)
				}
			},
			"pastes that dry in no time": func(in *Instance) {
				for i := range in.Batches {
					for j := range in.Batches[i].Ops {
						if d := in.Batches[i].Ops[j].Dry; d != nil {
							d.P50, d.P90 = 1, 1
						}
					}
				}
			},
		} {
			in := load(t, name)
			more(in)
			if got := late(build(t, in)); got > base {
				t.Errorf("%s with %s is late by %d, without by %d", name, say, got, base)
			}
		}
	}
}

func TestAPinnedStepStaysWhereItIs(t *testing.T) {
	in := load(t, "worked-instance")
	in.Batches[1].Ops[0].Pinned = "2026-03-04T19:20:00Z"
	p := build(t, in)
	for _, o := range p.Ops {
		if o.Op == "roll" && minuteOf(t, o.Start) != minuteOf(t, "2026-03-04T19:20:00Z") {
			t.Errorf("%+v", o)
		}
	}
}

func TestSpanOrderEndsNoWider(t *testing.T) {
	for _, name := range []string{"worked-instance", "small-1", "small-4"} {
		usual, err := Build(BuildIn{Instance: load(t, name)})
		if err != nil {
			t.Fatal(err)
		}
		span, err := Build(BuildIn{Instance: load(t, name), Order: "span"})
		if err != nil || span.Objective[0] > usual.Objective[0] || span.Objective[0] == usual.Objective[0] && span.Span > usual.Span {
			t.Errorf("%s: span %d and %d (%v)", name, span.Span, usual.Span, err)
		}
	}
}

// Two pairs of hands are never asked for more than two pairs' work.
func TestTwoPeople(t *testing.T) {
	in := load(t, "worked-instance")
	in.People = nil
	for i := range in.Windows {
		in.Windows[i].People = new(2)
	}
	in.Batches[2].Ops[0].People = new(2) // the cake is lifted by two
	p := build(t, in)
	for _, o := range p.Ops {
		if o.Op == "place" && fmt.Sprint(o.Hands) != "[1 2]" {
			t.Errorf("%+v", o)
		}
	}
}
