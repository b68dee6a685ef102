package bench

import (
	"encoding/json"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"
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

func minuteOf(t testing.TB, text string) int {
	t.Helper()
	x, err := time.Parse(time.RFC3339, text)
	if err != nil {
		t.Fatal(err)
	}
	return int(x.Unix() / 60)
}

// judged is a plan read again, by code of its own: where each step stands and what
// the aims come to, from the steps alone.
type judged struct {
	t     testing.TB
	in    *Instance
	p     Plan
	bad   []string
	steps map[string]*judgedStep
	order []*judgedStep
	lost  map[string]bool
	aims  [told]int
}

type judgedStep struct {
	op         Op
	batch      int
	start, end int
	window     string
	hands      []int
	colour     string
	attention  int
	rank       int
	free       bool
}

func judge(t testing.TB, in *Instance, p Plan) *judged {
	t.Helper()
	j := &judged{t: t, in: in, p: p, steps: map[string]*judgedStep{}, lost: map[string]bool{}}
	for _, w := range p.Warnings {
		j.lost[w.Code+" "+w.Field] = true
	}
	for b, batch := range in.Batches {
		for _, o := range batch.Ops {
			x := &judgedStep{op: o, batch: b, rank: len(j.order), attention: 100, free: o.Actual == nil}
			if o.Attended {
				x.colour = o.Colour
				if x.colour == "" {
					x.colour = batch.Colour
				}
				if x.colour == "none" {
					x.colour = ""
				}
			}
			j.steps[o.ID] = x
			j.order = append(j.order, x)
		}
	}
	for _, o := range p.Ops {
		x := j.steps[o.Op]
		x.start, x.end, x.window, x.hands = minuteOf(t, o.Start), minuteOf(t, o.End), o.Window, o.Hands
	}
	j.lengths()
	j.waits()
	j.copies()
	j.people()
	j.ends()
	for a, v := range p.Objective {
		if int(v) != j.aims[a] {
			j.say("%s is %d, and the plan says %v", aims[a], j.aims[a], v)
		}
	}
	return j
}

func (j *judged) say(format string, args ...any) { j.bad = append(j.bad, fmt.Sprintf(format, args...)) }

func (j *judged) lengths() {
	now := minuteOf(j.t, j.in.Now)
	for _, x := range j.order {
		o := x.op
		length := 0
		switch {
		case o.Minutes != nil:
			length = *o.Minutes
		case o.Cycle != nil:
			length, x.attention = o.Cycle.Length()
		case j.in.Confidence == nil || *j.in.Confidence == 0.9:
			length = o.Dry.P90
		default: // between the middle and the slow end, or beyond it
			length = x.end - x.start
			if length < o.Dry.P50 || *j.in.Confidence < 0.9 && length > o.Dry.P90 {
				j.say("%s dries %d min", o.ID, length)
			}
		}
		if o.Attention != nil {
			x.attention = *o.Attention
		}
		if o.Actual != nil {
			if x.start != minuteOf(j.t, o.Actual.Start) {
				j.say("%s contradicts what has happened", o.ID)
			}
			continue
		}
		if x.end-x.start != length || x.start < now {
			j.say("%s: %d min instead of %d, or before now", o.ID, x.end-x.start, length)
		}
		if o.NotBefore != "" && x.start < minuteOf(j.t, o.NotBefore) || o.NotAfter != "" && x.end > minuteOf(j.t, o.NotAfter) || o.Pinned != "" && x.start != minuteOf(j.t, o.Pinned) {
			j.say("%s stands outside its own limits", o.ID)
		}
	}
}

func (j *judged) waits() {
	for k, l := range j.in.Lags {
		a, b := j.steps[l.From], j.steps[l.To]
		if !b.free {
			continue
		}
		gap := b.start - a.end
		if gap < l.Min {
			j.say("wait %s to %s is %d min, shortest %d", l.From, l.To, gap, l.Min)
		}
		named := j.lost[fmt.Sprintf("openTimeLost lags[%d]", k)]
		if over := l.Max != nil && gap > *l.Max; over != named {
			j.say("wait %s to %s is %d min; named as lost: %v", l.From, l.To, gap, named)
		} else if over {
			j.aims[broken]++
		}
	}
	for k, b := range j.in.Batches {
		if b.FreshMinutes == nil {
			continue
		}
		for _, x := range j.order {
			if x.batch == k && x.free && x.start < j.handOver(b.Commission)-*b.FreshMinutes {
				if j.aims[broken]++; !j.lost[fmt.Sprintf("freshLost batches[%d]", k)] {
					j.say("%s would not be fresh", x.op.ID)
				}
				break
			}
		}
	}
}

func (j *judged) handOver(id string) int {
	for _, c := range j.in.Commissions {
		if c.ID == id {
			return minuteOf(j.t, c.HandOver)
		}
	}
	return 0
}

func (j *judged) copies() {
	for _, r := range j.in.Resources {
		type claim struct {
			a, b, n int
			free    bool
		}
		var all []claim
		for _, x := range j.order {
			for _, u := range x.op.Uses {
				if u.Resource == r.ID {
					all = append(all, claim{x.start, x.end, u.Count, x.free})
				}
			}
		}
		for _, h := range j.in.Holds {
			if h.Resource == r.ID {
				all = append(all, claim{j.steps[h.From].start, j.steps[h.To].end, h.Count, j.steps[h.From].free})
			}
		}
		for _, c := range all {
			sum, free := 0, false
			for _, d := range all {
				if d.a <= c.a && d.b > c.a {
					sum += d.n
					free = free || d.free
				}
			}
			if sum > r.Capacity && free {
				j.say("%s: %d of %d", r.ID, sum, r.Capacity)
			}
		}
	}
}

func (j *judged) wipe(from, to string) int {
	light, free := map[string]float64{}, map[string][]string{}
	for _, c := range j.in.Colours {
		light[c.ID], free[c.ID] = c.Lightness, c.Free
	}
	minutes := j.in.CleanDown.ToLighter
	switch {
	case from == to:
		minutes = 0
	case light[to] <= light[from]:
		minutes = j.in.CleanDown.ToDarker
	case light[to] >= j.in.CleanDown.WhiteFrom:
		minutes = j.in.CleanDown.ToWhite
	}
	for _, x := range free[to] {
		if !slices.Contains(free[from], x) {
			minutes = max(minutes, j.in.CleanDown.ToFree)
		}
	}
	return minutes
}

// people judges windows and hands, and counts what hangs on them.
func (j *judged) people() {
	by := slices.Clone(j.in.Windows)
	slices.SortFunc(by, func(a, b Window) int { return minuteOf(j.t, a.Start) - minuteOf(j.t, b.Start) })
	over, before := 0, -far
	if j.in.Overrun != nil {
		over = *j.in.Overrun
	}
	days, used := map[string]int{}, map[string]bool{}
	for k, w := range by {
		from, to := max(minuteOf(j.t, w.Start)-over, before), minuteOf(j.t, w.End)+over
		if k+1 < len(by) {
			to = max(minuteOf(j.t, w.End), min(to, minuteOf(j.t, by[k+1].Start)))
		}
		before = to
		there := 1
		if j.in.People != nil {
			there = *j.in.People
		}
		if w.People != nil {
			there = *w.People
		}
		for h := 1; h <= there; h++ {
			spent := j.person(w, from, to, h)
			days[w.Day] += spent
			used[w.ID] = used[w.ID] || spent > 0
		}
	}
	for _, x := range j.order {
		need := 1
		if x.op.People != nil {
			need = *x.op.People
		}
		if x.free && x.op.Attended && (len(x.hands) != need || !used[x.window]) {
			j.say("%s has no hands or no window: %v %q", x.op.ID, x.hands, x.window)
		}
	}
	for _, yes := range used {
		if yes {
			j.aims[sessions]++
		}
	}
	for _, m := range days {
		j.aims[uneven] += m * m
	}
}

// person judges one person in one window; the planned minutes, clean-down included.
func (j *judged) person(w Window, from, to, h int) (spent int) {
	var line []*judgedStep
	start, end := minuteOf(j.t, w.Start), minuteOf(j.t, w.End)
	for _, x := range j.order {
		hands := x.hands
		if !x.free && x.op.Attended && len(hands) == 0 {
			hands = []int{1}
		}
		if x.op.Attended && slices.Contains(hands, h) && (x.free && x.window == w.ID || !x.free && x.start < to && x.end > from) {
			line = append(line, x)
		}
	}
	minutes := map[int]bool{} // of the window, in which the hands are taken
	off := 0
	take := func(a, b int, planned bool) {
		for m := a; m < b; m++ {
			inside := m >= start && m < end
			if planned {
				spent++
				if !inside || !w.Preferred {
					off++
				}
			}
			if inside || planned {
				minutes[m] = true
			}
		}
	}
	for _, x := range line {
		take(x.start, x.end, x.free)
		if x.free && (x.start < from || x.end > to) {
			j.say("%s is outside its window", x.op.ID)
		}
		if !x.free {
			continue
		}
		if c := j.cleanBefore(line, x); c > 0 {
			j.aims[cleanDown] += c
			take(x.start-c, x.start, true)
			if x.start-c < from {
				j.say("the clean-down before %s begins before the window", x.op.ID)
			}
			for _, y := range line {
				if y != x && y.start < x.start && y.end > x.start-c {
					j.say("no %d min to clean down before %s", c, x.op.ID)
				}
			}
		}
		sum := 0
		for _, y := range line {
			if y.start <= x.start && y.end > x.start && (y.free || y == x) {
				sum += y.attention
			}
			if y != x && y.start < x.end && x.start < y.end && x.colour != "" && y.colour != "" && x.colour != y.colour {
				j.say("two colours at once, %s and %s", x.op.ID, y.op.ID)
			}
		}
		if sum > 100 {
			j.say("too much to do at %s", x.op.ID)
		}
	}
	share := 0.8
	if j.in.CrowdShare != nil {
		share = *j.in.CrowdShare
	}
	j.aims[offHours] += off
	j.aims[crowd] += max(0, min(spent, len(minutes)-int(math.Floor(share*float64(end-start)+1e-9))))
	return spent
}

func (j *judged) cleanBefore(line []*judgedStep, x *judgedStep) int {
	var before *judgedStep
	for _, y := range line {
		first := y.start < x.start || y.start == x.start && y.rank < x.rank
		if y != x && y.colour != "" && first && (before == nil || y.start > before.start || y.start == before.start && y.rank > before.rank) {
			before = y
		}
	}
	if x.colour == "" || before == nil {
		return 0
	}
	return j.wipe(before.colour, x.colour)
}
