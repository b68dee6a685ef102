package bench

import (
	"cmp"
	"slices"
)

// lightFirst offers the order of one board: within each stretch of hands the
// colours one after another, white first and then from light to dark. It is
// taken where it makes a better plan. The count of tries is bounded, not the
// time.
func (s *search) lightFirst() {
	if s.targets == nil {
		return
	}
	tries := 4000 / (len(s.t.steps) + 10)
	for w := range s.t.windows {
		for h := range s.t.windows[w].people {
			groups := s.darkFirst(w*maxPeople + h)
			if groups == nil {
				continue
			}
			if tries--; tries < 0 {
				return
			}
			s.ordered(groups)
		}
	}
}

// darkFirst is the planned steps of one line by colour, from light to dark, or
// nil when they stand so already.
func (s *search) darkFirst(line int) (groups [][]int) {
	t := s.t
	entries := slices.Clone(s.best.lines[line])
	slices.SortFunc(entries, func(a, b entry) int { return cmp.Compare(a.start, b.start) })
	by := map[int][]int{}
	lighter, last := false, -1
	for _, e := range entries {
		st := &t.steps[e.step]
		if st.state != "planned" || st.pinned != noTime || st.colour < 0 {
			continue
		}
		if last >= 0 && t.colours[st.colour].Lightness > t.colours[last].Lightness {
			lighter = true
		}
		last = st.colour
		by[st.colour] = append(by[st.colour], e.step)
	}
	if !lighter {
		return nil
	}
	for _, steps := range by {
		groups = append(groups, steps)
	}
	slices.SortFunc(groups, func(a, b []int) int {
		ca, cb := t.steps[a[0]].colour, t.steps[b[0]].colour
		return cmp.Or(cmp.Compare(t.colours[cb].Lightness, t.colours[ca].Lightness), cmp.Compare(ca, cb))
	})
	return groups
}

// ordered makes the plan again with each group after the one before it. The
// task is as it was afterwards.
func (s *search) ordered(groups [][]int) {
	t := s.t
	arcs, next, prev, topo := t.arcs, t.next, t.prev, t.topo
	defer func() { t.arcs, t.next, t.prev, t.topo = arcs, next, prev, topo }()
	t.arcs, t.topo = slices.Clone(arcs), nil
	t.next, t.prev = slices.Clone(next), slices.Clone(prev)
	for g := range groups[1:] {
		for _, a := range groups[g] {
			for _, b := range groups[g+1] {
				k := len(t.arcs)
				t.arcs = append(t.arcs, arc{from: a, to: b, max: far})
				t.next[a] = append(slices.Clone(t.next[a]), k)
				t.prev[b] = append(slices.Clone(t.prev[b]), k)
			}
		}
	}
	if t.order() == nil {
		s.backward(s.targets, slices.Clone(s.best.open), []int{0, 4})
	}
}
