package technique

import (
	"fmt"

	"dustyfern/craft/bench"
	"dustyfern/craft/fault"
)

// link finds the waits between ops: of several between two the largest least and
// the smallest longest.
func (b *batch) link() error {
	for i, s := range b.p.t.Steps {
		to, there := b.opOf[s.ID]
		if !there {
			continue
		}
		counted := false
		for _, a := range s.After {
			from, there := b.opOf[a.Step]
			if !there {
				continue
			}
			holds, err := b.p.holds(a.When, b)
			if err != nil {
				return err
			}
			if !holds {
				continue
			}
			counted = true
			if from == to {
				continue
			}
			if err := b.lag(s.ID, a, from, to); err != nil {
				return err
			}
		}
		if !counted && !s.Starts && i > 0 && len(b.out.Ops) > 0 && b.at[to] > 0 {
			return fault.New(fault.Syntax, fmt.Sprintf("steps.%s", s.ID), "Orphan: nothing that is there comes before it.")
		}
	}
	for _, g := range b.out.Lags {
		if g.Max != nil && *g.Max < g.Min {
			return empty(b.stepOf(g.To), b.stepOf(g.From), *g.Max, g.Min)
		}
	}
	return nil
}

// empty is a window that nothing fits into.
func empty(step, after string, most, least int) error {
	return fault.New(fault.Unreachable, fmt.Sprintf("steps.%s.after.%s", step, after), "The window is empty: it may follow %d min later at most and %d at least.", most, least)
}

// stepOf is the first step of an op.
func (b *batch) stepOf(op string) string {
	for _, s := range b.p.t.Steps {
		if b.opOf[s.ID] == op {
			return s.ID
		}
	}
	return op
}

func (b *batch) lag(step string, a After, from, to string) error {
	low, high := 0, -1
	if a.Min != "" {
		x, err := b.p.value(a.Min, b)
		if err != nil {
			return err
		}
		low = max(0, roundUp(x))
	}
	if a.Max != "" {
		x, err := b.p.value(a.Max, b)
		if err != nil {
			return err
		}
		if high = roundDown(x); high < low {
			return empty(step, a.Step, high, low)
		}
		if a.Spans {
			b.spans = append(b.spans, span{from, to, step, high})
			high = max(low, high-b.out.Ops[b.at[from]].length-b.out.Ops[b.at[to]].length)
		}
	}
	for i := range b.out.Lags {
		g := &b.out.Lags[i]
		if g.From != from || g.To != to {
			continue
		}
		g.Min = max(g.Min, low)
		if high >= 0 && (g.Max == nil || high < *g.Max) {
			g.Max = new(high)
		}
		return nil
	}
	g := bench.Lag{From: from, To: to, Min: low}
	if high >= 0 {
		g.Max = new(high)
	}
	b.out.Lags = append(b.out.Lags, g)
	return nil
}

// hold finds what is in use from one op to another; within one op it is a use.
func (b *batch) hold() error {
	for _, s := range b.p.t.Steps {
		from, there := b.opOf[s.ID]
		if !there {
			continue
		}
		for _, h := range s.Holds {
			to, there := b.opOf[h.To]
			if !there {
				to = from
			}
			x, err := b.p.value(h.Count, b)
			if err != nil {
				return err
			}
			n := roundUp(x)
			if n < 1 {
				continue
			}
			if to == from {
				b.take(&b.out.Ops[b.at[from]], h.What, n)
				continue
			}
			b.out.Holds = append(b.out.Holds, bench.Hold{Resource: h.What, Count: n, From: from, To: to})
		}
	}
	return nil
}

// Length of an op in minutes, a drying at its slow end.
func (o *Op) Length() int {
	switch {
	case o.Cycle != nil:
		n, _ := o.Cycle.Length()
		return n
	case o.Dry != nil:
		return o.Dry.P90
	case o.Minutes != nil:
		return *o.Minutes
	}
	return 0
}
