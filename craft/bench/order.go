package bench

import (
	"slices"
	"strings"

	"dustyfern/craft/fault"
)

// order sorts the steps by their lags and checks that holds run forward.
func (t *task) order() error {
	n := len(t.steps)
	left := make([]int, n)
	for _, a := range t.arcs {
		left[a.to]++
	}
	var ready []int
	for i := range n {
		if left[i] == 0 {
			ready = append(ready, i)
		}
	}
	for len(ready) > 0 {
		i := ready[0]
		ready = ready[1:]
		t.topo = append(t.topo, i)
		for _, k := range t.next[i] {
			if left[t.arcs[k].to]--; left[t.arcs[k].to] == 0 {
				ready = append(ready, t.arcs[k].to)
			}
		}
	}
	if len(t.topo) < n {
		var names []string
		for i, l := range left {
			if l > 0 {
				names = append(names, t.steps[i].id)
			}
		}
		return fault.New(CycleOfSteps, at("lags"), "These steps wait for one another in a circle: %s.", strings.Join(names, ", "))
	}
	for i, h := range t.holds {
		if h.from != h.to && !t.reaches(h.from, h.to) {
			return fault.New(HoldOrder, at("holds[%d]", i), "Step %q does not come before %q.", t.steps[h.from].id, t.steps[h.to].id)
		}
	}
	return t.contradictions()
}

func (t *task) reaches(a, b int) bool {
	seen := make([]bool, len(t.steps))
	stack := []int{a}
	for len(stack) > 0 {
		i := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		if i == b {
			return true
		}
		if seen[i] {
			continue
		}
		seen[i] = true
		for _, k := range t.next[i] {
			stack = append(stack, t.arcs[k].to)
		}
	}
	// a fact's own links are dropped: it has its place already
	return t.steps[a].state != statePlanned || t.steps[b].state != statePlanned
}

// contradictions looks for waits that no times can keep (Bellman-Ford).
func (t *task) contradictions() error {
	start := make([]int, len(t.steps))
	for round := 0; ; round++ {
		moved := false
		for _, a := range t.arcs {
			f, to := &t.steps[a.from], &t.steps[a.to]
			if f.state != statePlanned || to.state != statePlanned {
				continue
			}
			if s := start[a.from] + f.length + a.min; s > start[a.to] {
				start[a.to], moved = s, true
			}
			if a.max < far {
				if s := start[a.to] - a.max - f.length; s > start[a.from] {
					start[a.from], moved = s, true
				}
			}
			if round > len(t.steps)+1 && moved {
				return fault.New(ImpossibleLag, at("lags[%d]", a.index), "The waits round %q and %q contradict one another: the longest ends before the shortest.", f.id, to.id)
			}
		}
		if !moved {
			return nil
		}
	}
}

// places checks that each attended step fits some window, and pins.
func (t *task) places() error {
	longest := 0
	for _, w := range t.windows {
		longest = max(longest, w.to-w.from)
	}
	for i := range t.steps {
		s := &t.steps[i]
		if !s.attended || s.state != statePlanned {
			continue
		}
		b := s.batch
		j := slices.IndexFunc(t.in.Batches[b].Ops, func(o Op) bool { return o.ID == s.id })
		f := at("batches[%d].ops[%d]", b, j)
		if len(t.windows) == 0 {
			return fault.New(NoPlace, at("windows"), "There are no hours at the bench: open a window.")
		}
		if s.length > longest {
			return fault.New(WindowTooShort, f, "Step %q needs %d minutes in one go, but the longest window has %d: split the batch into rounds or open a longer window.", s.id, s.length, longest)
		}
		if s.pinned != noTime && !slices.ContainsFunc(t.windows, func(w window) bool { return s.pinned >= w.from && s.pinned+s.length <= w.to }) {
			return fault.New(PinnedOutsideWindow, f+".pinned", "Step %q is pinned outside the hours at the bench.", s.id)
		}
	}
	return nil
}
