package evening

import (
	"cmp"
	"slices"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/work"
)

// candidate is a step that hands could be at, with its next movement.
type candidate struct {
	st    *plan.LineStep
	move  bench.Move
	free  bool      // it can be done now
	from  time.Time // when it is planned to begin, or a wait before it ends
	never bool      // a wait before it does not end in this room
	lost  bool      // by its planned hour what it is made of no longer keeps
}

// dueWithin is how near a planned start must be for a step to be due.
const dueWithin = 30 * time.Minute

// due tells whether hands are wanted for it now.
func (c *candidate) due(now time.Time) bool {
	return c.st.ActualStart != nil || c.free && (c.lost || !c.st.Start.After(now.Add(dueWithin)))
}

// early tells whether it could be done ahead of its time: what is done at the cake waits
// for the cake.
func (c *candidate) early() bool {
	k := c.st.Planned.Kept
	return c.free && !c.st.Planned.Places && (k == nil || !k.Op.CakeReady)
}

// mostOffers is how many steps are offered ahead of their time.
const mostOffers = 4

// choose picks what hands do now: a mould that is ready, then what is about to
// be late, then the plan's own order. What is not due is offered, small, and only what
// waits for nothing; at is one that was taken all the same. Of an order with a trouble
// that stops it nothing goes on the cake.
func (v *BenchView) choose(all []plan.LineStep, stopped map[int64]*noun.Trouble, at string, now time.Time) {
	found := candidates(all, stopped, now)
	if len(found) == 0 {
		return
	}
	v.free = freeOf(found)
	best := -1
	for i := range found {
		if c := &found[i]; c.st.Op == at && c.free {
			best = i
			break
		}
	}
	for i := range found {
		if best >= 0 && found[best].st.Op == at || !found[i].due(now) {
			continue
		}
		if !v.mine(found[i].st) {
			v.Others = append(v.Others, named(found[i].st))
			continue
		}
		if best < 0 || found[i].before(&found[best], found[0].st.Planned.Window, now) {
			best = i
		}
	}
	if best < 0 {
		v.notDue(found, now)
		return
	}
	c := found[best]
	v.Now = c.st
	if c.st.Makes() {
		v.Move = moveView(&c.st.Step, c.move, v.r, now)
	}
	if c.st.Makes() && c.move.Do == bench.WaitFor {
		v.meanwhile(time.Unix(int64(c.move.At), 0).Sub(now))
	}
	for i, o := range found {
		if i != best && len(v.Next) < 5 && v.mine(o.st) {
			v.Next = append(v.Next, named(o.st))
		}
	}
}

// meanwhile offers what hands can do while every mould is full: what binds them no longer
// than that, whichever day it was planned for.
func (v *BenchView) meanwhile(wait time.Duration) {
	for _, c := range v.free {
		if n := time.Duration(bound(c.st, v.all)) * time.Minute; n <= wait && len(v.Offers) < mostOffers && v.mine(c.st) {
			v.Offers = append(v.Offers, named(c.st))
		}
	}
}

// mine tells whether a step is for the hands for which the bench is shown.
func (v *BenchView) mine(st *plan.LineStep) bool {
	return v.who == "" || st.For == "" || slices.Contains(st.Whose, v.who)
}

// freeOf are the steps that wait for nothing and have not begun, the longest first.
func freeOf(found []candidate) []candidate {
	out := slices.DeleteFunc(slices.Clone(found), func(c candidate) bool { return !c.early() || c.st.ActualStart != nil })
	slices.SortStableFunc(out, func(a, b candidate) int {
		return cmp.Compare(b.st.PlannedEnd.Sub(b.st.PlannedStart), a.st.PlannedEnd.Sub(a.st.PlannedStart))
	})
	return out
}

// candidates are the steps that hands could be at.
func candidates(all []plan.LineStep, stopped map[int64]*noun.Trouble, now time.Time) (found []candidate) {
	steps := make([]noun.Step, len(all))
	for i := range all {
		steps[i] = all[i].Step
	}
	chain := work.ChainOf(steps)
	for i := range all {
		st := &all[i]
		if !st.Attended || st.ActualEnd != nil || st.Planned.Places && st.ActualStart == nil && stopped[st.CommissionID] != nil {
			continue
		}
		wait := waitsFor(&st.Step, chain)
		c := candidate{st: st, free: finishable(&st.Step, chain) == nil && wait == nil, from: st.Start}
		if wait != nil {
			c.never = wait.Never
			if wait.PlannedEnd.After(c.from) {
				c.from = wait.PlannedEnd
			}
		}
		shuts := chain.Shuts(&st.Step)
		c.lost = shuts.After(now) && shuts.Before(st.Start)
		if st.Makes() {
			c.move = st.Move(now)
			c.free = c.free && c.move.Do != bench.WaitFor
		}
		found = append(found, c)
	}
	return found
}

// before tells which of two steps that are due hands are at first.
func (c *candidate) before(o *candidate, window string, now time.Time) bool {
	a, b := c.urgency(window, now), o.urgency(window, now)
	return a < b || a == b && a == 0 && c.move.At < o.move.At
}

func (c *candidate) urgency(window string, now time.Time) int {
	latest, err := time.Parse(time.RFC3339, c.st.Planned.Latest)
	begun := c.st.ActualStart != nil
	switch {
	case c.free && c.move.Do == bench.Open:
		return 0
	case c.free && begun:
		return 1
	case c.free && err == nil && latest.Before(now.Add(lateSoon)):
		return 2
	case c.free && c.st.Planned.Window == window:
		return 3
	case begun: // every copy is in the freezer
		return 4
	}
	return 5
}

// named is a step by its name and hour, without what hands do in it: that comes when it
// is taken in hand.
func named(st *plan.LineStep) plan.LineStep {
	x := *st
	x.Says, x.Checks, x.Cautions, x.Ways, x.Figures = []string{}, []string{}, []string{}, []noun.Way{}, []noun.Figure{}
	x.Planned = noun.Planned{Name: st.Planned.Name, Places: st.Planned.Places, Window: st.Planned.Window, Hands: []int{}}
	return x
}

// notDue says before when nothing needs hands, and what could be done earlier.
func (v *BenchView) notDue(found []candidate, now time.Time) {
	var first *candidate
	for i := range found {
		c := &found[i]
		if !c.never && (first == nil || c.from.Before(first.from)) {
			first = c
		}
		if c.early() && len(v.Offers) < mostOffers && v.mine(c.st) {
			v.Offers = append(v.Offers, named(c.st))
		} else if len(v.Next) < 5 {
			v.Next = append(v.Next, named(c.st))
		}
	}
	if first != nil {
		v.Before, v.BeforeMS = v.r.Time(first.from, now), first.from.UnixMilli()
	}
}
