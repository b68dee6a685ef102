package work

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Chain looks up steps by name, and what comes before each.
type Chain struct {
	ByOp   map[string]*noun.Step
	Before map[string][]*noun.Step
}

// ChainOf links steps by what each comes after.
func ChainOf(steps []noun.Step) Chain {
	c := Chain{make(map[string]*noun.Step, len(steps)), map[string][]*noun.Step{}}
	for i := range steps {
		st := &steps[i]
		c.ByOp[st.Op] = st
		if st.Planned.After != "" {
			c.Before[st.Planned.After] = append(c.Before[st.Planned.After], st)
		}
	}
	return c
}

// NextHands is the first step of hands that follows a step, nil when none does.
func (c Chain) NextHands(st *noun.Step) *noun.Step {
	for range len(c.ByOp) {
		next := c.ByOp[st.Planned.After]
		if next == nil || next.Attended {
			return next
		}
		st = next
	}
	return nil
}

// Earlier visits every step of hands that leads to a step.
func (c Chain) Earlier(st *noun.Step, visit func(*noun.Step)) {
	seen := map[string]bool{st.Op: true}
	todo := slices.Clone(c.Before[st.Op])
	for len(todo) > 0 {
		s := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		if seen[s.Op] {
			continue
		}
		seen[s.Op] = true
		if s.Attended {
			visit(s)
		}
		todo = append(todo, c.Before[s.Op]...)
	}
}

// Derived gives steps with what follows from their facts. A wait begins when
// the step before it ends, whether hands or another wait; it is over when its
// time is up, or when the hands that follow it begin. Nothing of that is kept, so
// taking back a fact takes back what followed from it. What dries while the room
// becomes another one is reckoned from how dry it is by then.
func Derived(steps []noun.Step, k *noun.Kitchen, now time.Time) []noun.Step {
	out := slices.Clone(steps)
	c := ChainOf(out)
	done := map[string]bool{}
	var settle func(st *noun.Step, depth int)
	settle = func(st *noun.Step, depth int) {
		if st.Attended || done[st.Op] || depth > len(out) {
			return
		}
		done[st.Op] = true
		st.ActualStart, st.ActualEnd = nil, nil
		var start *time.Time
		for _, b := range c.Before[st.Op] {
			settle(b, depth+1)
			if b.ActualEnd == nil {
				return
			}
			if start == nil || b.ActualEnd.After(*start) {
				start = b.ActualEnd
			}
		}
		if start == nil {
			return
		}
		at, end := *start, start.Add(st.PlannedEnd.Sub(st.PlannedStart))
		st.ActualStart, st.PlannedStart, st.PlannedEnd = &at, at, end
		redried(st, k, now)
		end = st.PlannedEnd
		if next := c.ByOp[st.Planned.After]; next != nil && next.Attended && next.ActualStart != nil {
			if next.ActualStart.Before(end) {
				end = *next.ActualStart
			}
			if end.Before(at) {
				end = at
			}
			st.ActualEnd = &end
		} else if !end.After(now) && !st.Never {
			st.ActualEnd = &end
		}
	}
	for i := range out {
		settle(&out[i], 0)
		lengthened(&out[i])
	}
	return out
}

// AgainSay is what is done before torn pieces are pressed once more.
const AgainSay = "From the torn ones and what is over of the paste: knead it smooth and warm first; it wants no new rest."

// lengthened says of a press that goes on with more than was planned how many, and from
// what.
func lengthened(st *noun.Step) {
	if st.Longer == nil || st.Planned.Run == nil {
		return
	}
	st.Title = strings.Replace(st.Title, fmt.Sprintf(" %d ", st.Planned.Run.Balls), fmt.Sprintf(" %d ", st.Longer.Balls-st.Longer.More), 1) + fmt.Sprintf(", %d more", st.Longer.More)
	if st.ActualEnd == nil {
		st.Says = append(slices.Clone(st.Says), fmt.Sprintf("%d more. %s", st.Longer.More, AgainSay))
	}
	st.Planned.Run = st.Run()
}

// Clocks are the timers that follow from what runs: of every wait that has
// begun and whose next hands have not, of every mould in the freezer, and of
// pieces that must be bent before they skin.
func Clocks(steps []noun.Step, answers []noun.Timer) (out []noun.Timer) {
	c := ChainOf(steps)
	for i := range steps {
		st := &steps[i]
		next := c.NextHands(st)
		if next != nil && next.ActualStart != nil {
			continue
		}
		if st.Attended {
			out = append(out, pressClocks(st)...)
		} else if st.ActualStart != nil {
			out = append(out, waitClocks(st)...)
		}
	}
	answered := map[string]bool{}
	for _, a := range answers {
		answered[a.Key()+a.StartsAt.UTC().Format(time.RFC3339)] = true
	}
	return slices.DeleteFunc(out, func(t noun.Timer) bool { return answered[t.Key()+t.StartsAt.UTC().Format(time.RFC3339)] })
}

// waitClocks are the clocks of a wait that has begun.
func waitClocks(st *noun.Step) (out []noun.Timer) {
	at := *st.ActualStart
	add := func(kind, says string, rings time.Time) {
		out = append(out, noun.Timer{CommissionID: &st.CommissionID, Op: st.Op, Kind: kind, Says: says, What: read.UpperFirst(st.Planned.What()), StartsAt: at, RingsAt: rings})
	}
	if st.Planned.Clock != "" {
		add(st.Planned.Clock, read.UpperFirst(st.Planned.What())+": "+read.LowerFirst(st.Planned.Rings), st.PlannedEnd)
	}
	for _, m := range st.Planned.Marks {
		rings := at.Add(time.Duration(m.Minutes) * time.Minute)
		if m.Kind == "join" {
			rings = st.PlannedEnd // the plan's own hour
		}
		add(m.Kind, read.UpperFirst(st.Planned.What())+" "+markSays[m.Kind], rings)
	}
	return out
}

// pressClocks are the moulds of a press that are in the freezer, and the call
// before its first pieces skin.
func pressClocks(st *noun.Step) (out []noun.Timer) {
	run := st.Run()
	if run == nil {
		return nil
	}
	var first *time.Time
	for _, f := range st.Fills {
		switch {
		case f.Out == nil && st.ActualEnd == nil && run.HoldSec > 0:
			out = append(out, noun.Timer{CommissionID: &st.CommissionID, Op: st.Op, Kind: "freezer", N: f.N, Says: freezerSays(read.UpperFirst(st.Planned.What()), f.N, run.Fills), What: read.UpperFirst(st.Planned.What()), StartsAt: f.At, RingsAt: f.At.Add(time.Duration(run.HoldSec) * time.Second)})
		case f.Out != nil && (first == nil || f.Out.Before(*first)):
			first = f.Out
		}
	}
	if first == nil && st.ActualEnd != nil {
		first = st.ActualEnd // marked done at once
	}
	if first != nil && st.Planned.OpenMin > 0 {
		rings := first.Add(max(time.Minute, time.Duration(st.Planned.OpenMin)*time.Minute-openWarning))
		out = append(out, noun.Timer{CommissionID: &st.CommissionID, Op: st.Op, Kind: "open", Says: "Bend them now, they skin soon: " + st.Planned.What(), What: read.UpperFirst(st.Planned.What()), StartsAt: *first, RingsAt: rings})
	}
	return out
}

// openWarning is how long before its sheet skins an open piece is called.
const openWarning = 2 * time.Minute

// markSays is what may be done at a mark of drying.
var markSays = map[string]string{"touch": "may be touched: it has a skin", "lift": "may be lifted: it holds its curve", "cover": "gets firm soon: join it or cover it now", "join": "is firm: lift, join, assemble"}

func freezerSays(name string, n, of int) string {
	if of == 1 {
		return name + " may be opened"
	}
	return fmt.Sprintf("%s: fill %d of %d may be opened", name, n, of)
}

// Shuts is until when a step may still follow what it comes after: kneaded paste keeps
// so long, a piece gives so long. Zero: there is no such time.
func (c Chain) Shuts(st *noun.Step) (at time.Time) {
	if st.Planned.Kept == nil {
		return at
	}
	batch := noun.BatchOf(st.Op)
	for _, g := range st.Planned.Kept.After {
		from := c.ByOp[batch+"."+g.From]
		if g.Max == nil || from == nil || from.ActualEnd == nil {
			continue
		}
		if end := from.ActualEnd.Add(time.Duration(*g.Max) * time.Minute); at.IsZero() || end.Before(at) {
			at = end
		}
	}
	return at
}

// BeginBy is when the first step of an order that has not begun must begin, so that all
// after it can be kept.
func BeginBy(steps []noun.Step, commission int64, now time.Time) (time.Time, bool) {
	var first time.Time
	for _, s := range steps {
		if s.CommissionID != commission || s.ActualStart != nil || s.Planned.Latest == "" {
			continue
		}
		if t, err := time.Parse(time.RFC3339, s.Planned.Latest); err == nil && (first.IsZero() || t.Before(first)) {
			first = t.In(now.Location())
		}
	}
	return first, !first.IsZero()
}
