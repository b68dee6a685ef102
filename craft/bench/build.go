package bench

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"dustyfern/craft/fault"
)

// earliest gives the least starts that windows and lags allow; a step that has
// none is returned as stuck.
func (t *task) earliest(open []bool) (least []int, stuck int) {
	n := len(t.steps)
	least = make([]int, n)
	for i := range n {
		s := &t.steps[i]
		least[i] = max(0, s.notBefore, s.fresh)
		if s.pinned != noTime {
			least[i] = s.pinned
		}
		if s.state != "planned" {
			least[i] = s.start
		}
	}
	for moved := true; moved; {
		moved = false
		for _, i := range t.topo {
			s := &t.steps[i]
			if s.state != "planned" {
				continue
			}
			x := least[i]
			for _, k := range t.prev[i] {
				a := &t.arcs[k]
				x = max(x, t.endAt(a.from, least[a.from])+a.min)
			}
			for _, k := range t.next[i] {
				if a := &t.arcs[k]; a.max < far {
					x = max(x, least[a.to]-a.max-s.length)
				}
			}
			if s.attended {
				x = t.intoWindow(x, s, open)
			}
			if x >= far {
				return least, i
			}
			if x != least[i] {
				least[i], moved = x, true
			}
		}
	}
	return least, -1
}

func (t *task) endAt(i, start int) int {
	if t.steps[i].state != "planned" {
		return t.steps[i].end
	}
	return start + t.steps[i].length
}

// intoWindow is the first start from x on at which the step lies in a window.
func (t *task) intoWindow(x int, s *step, open []bool) int {
	for w := range t.windows {
		win := &t.windows[w]
		if open[w] && win.people >= s.people && max(x, win.start)+s.length <= win.end {
			return max(x, win.start)
		}
	}
	return far
}

// latest gives the greatest starts for ends by commission.
func (t *task) latest(targets []int, open []bool) []int {
	n := len(t.steps)
	most := make([]int, n)
	for i := range n {
		s := &t.steps[i]
		most[i] = min(targets[s.commission], s.notAfter) - s.length
		if s.pinned != noTime {
			most[i] = s.pinned
		}
		if s.state != "planned" {
			most[i] = s.start
		}
	}
	for round, moved := 0, true; moved && round < 4*n+50; round++ {
		moved = false
		for k := n - 1; k >= 0; k-- {
			i := t.topo[k]
			s := &t.steps[i]
			if s.state != "planned" {
				continue
			}
			x := most[i]
			for _, k := range t.next[i] {
				a := &t.arcs[k]
				x = min(x, most[a.to]-a.min-s.length)
			}
			for _, k := range t.prev[i] {
				if a := &t.arcs[k]; a.max < far {
					x = min(x, t.endAt(a.from, most[a.from])+a.max)
				}
			}
			if s.attended {
				x = t.backIntoWindow(x, s, open)
			}
			if x != most[i] {
				most[i], moved = x, true
			}
			if x < -far/2 {
				return most
			}
		}
	}
	return most
}

func (t *task) backIntoWindow(x int, s *step, open []bool) int {
	for w := len(t.windows) - 1; w >= 0; w-- {
		win := &t.windows[w]
		if at := min(x, win.end-s.length); open[w] && win.people >= s.people && at >= win.start {
			return at
		}
	}
	return -far
}

// ends by commission: the hand-over, less a share of the margin before it.
func (t *task) ends(marginKept float64) []int {
	out := make([]int, len(t.commissions))
	for c, x := range t.commissions {
		out[c] = x.handOver - int(marginKept*float64(x.buffer))
	}
	return out
}

func (t *task) windowsOpen(onlyPreferred bool) []bool {
	out := make([]bool, len(t.windows))
	for w := range out {
		out[w] = !onlyPreferred || t.windows[w].preferred
	}
	return out
}

// plan finds a complete plan: backward from the hand-overs with the margin
// kept, with less of it, then late by as little as the forward passes show.
func (t *task) plan(order []string, stop, gone func() bool) (*search, error) {
	s := &search{t: t, rank: rankOf(order), stop: stop, gone: gone}
	all, liked := t.windowsOpen(false), t.windowsOpen(true)
	if _, stuck := t.earliest(all); stuck >= 0 {
		return nil, fault.New(NoPlace, at("windows"), "Step %q finds no place in the hours that are given, even late: open a later window.", t.steps[stuck].id)
	}
	got := s.backward(t.ends(1), liked, nil)
	if !got || !slices.Contains(order, "offHours") {
		got = s.backward(t.ends(1), all, nil) || got
	}
	for _, kept := range []float64{0.75, 0.5, 0.25, 0} {
		if got {
			break
		}
		got = s.backward(t.ends(kept), all, nil)
	}
	if !got {
		s.forward(all)
		s.lateAsLittle(all)
	}
	if s.best == nil && gone() {
		return nil, ErrTime
	}
	if s.best == nil {
		return nil, fault.New(NoPlace, at("windows"), "No plan was found in the hours that are given: open another window, or take a commission out.")
	}
	s.fewerSessions()
	s.lightFirst()
	return s, nil
}

// BuildIn is the topic plan.build.
type BuildIn struct {
	Instance *Instance `json:"instance"`
	Order    any       `json:"order"`
	Passes   *int      `json:"passes"`
	Seed     *int      `json:"seed"`
}

func readOrder(o any) ([]string, error) {
	switch x := o.(type) {
	case nil:
		return orders["usual"], nil
	case string:
		if l, ok := orders[x]; ok {
			return l, nil
		}
		return nil, fault.New(fault.UnknownValue, "order", "The order is usual or span, or a list of names, not %q.", x)
	case []any:
		var out []string
		for i, e := range x {
			name, ok := e.(string)
			if !ok {
				return nil, fault.New(fault.Syntax, fmt.Sprintf("order[%d]", i), "An order is a list of names.")
			}
			if name != "span" && !slices.Contains(aims, name) {
				return nil, fault.New(fault.UnknownValue, fmt.Sprintf("order[%d]", i), "%q is no aim: late, bufferShort, offHours, sessions, cleanDown, stale, uneven, span.", name)
			}
			out = append(out, name)
		}
		if len(out) == 0 {
			return nil, fault.New(fault.Required, "order", "List at least one aim.")
		}
		return out, nil
	}
	return nil, fault.New(fault.Syntax, "order", "The order is a word or a list of names.")
}

// ErrTime is a search that had to end before it found any plan.
var ErrTime = errors.New("the time was up before a plan was found")

// Build makes a plan for an instance. The same input gives the same plan.
func Build(in BuildIn) (Plan, error) {
	never := func() bool { return false }
	return made(in, never, never)
}

// BuildWithin makes a plan while ctx lasts: the best that was found by its deadline,
// or the first that is found after it; ErrTime when ctx was cancelled before.
func BuildWithin(ctx context.Context, in BuildIn) (Plan, error) {
	return made(in, func() bool { return ctx.Err() != nil }, func() bool { return errors.Is(ctx.Err(), context.Canceled) })
}

func made(in BuildIn, stop, gone func() bool) (Plan, error) {
	if in.Instance == nil {
		return Plan{}, fault.New(fault.Required, "instance", "What is to be planned?")
	}
	order, err := readOrder(in.Order)
	if err != nil {
		return Plan{}, err
	}
	if in.Passes != nil && (*in.Passes < 0 || *in.Passes > 1e6) {
		return Plan{}, fault.New(fault.OutOfRange, "passes", "0 to 1000000 passes.")
	}
	t, err := translate(in.Instance)
	if err != nil {
		return Plan{}, err
	}
	s, err := t.plan(order, stop, gone)
	if err != nil {
		return Plan{}, err
	}
	return t.report(s), nil
}
