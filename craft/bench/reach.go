package bench

// earliest gives the least starts that windows and waits allow; a step that has
// none is returned as stuck, -1 when all have one.
func (t *task) earliest(open []bool) (least []int, stuck int) {
	n := len(t.steps)
	least = make([]int, n)
	for i := range n {
		s := &t.steps[i]
		least[i] = max(0, s.notBefore, t.batches[s.batch].fresh)
		if s.pinned != noTime {
			least[i] = s.pinned
		}
		if !s.planned() {
			least[i] = s.start
		}
	}
	for _, x := range t.set {
		least[x.step] = x.start
	}
	for round, moved := 0, true; moved; round++ {
		moved = false
		for _, i := range t.topo {
			s := &t.steps[i]
			if !s.planned() || len(t.set) > 0 && t.isSet[i] {
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
			if x >= far || s.notAfter < far && x+s.length > s.notAfter || s.pinned != noTime && x > s.pinned || round > 4*n+50 {
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
	if !t.steps[i].planned() {
		return t.steps[i].end
	}
	return start + t.steps[i].length
}

// intoWindow is the first start from x on at which the step lies in a window,
// overrun included.
func (t *task) intoWindow(x int, s *step, open []bool) int {
	for w := range t.windows {
		win := &t.windows[w]
		if open[w] && win.people >= s.people && max(x, win.from)+s.length <= win.to {
			return max(x, win.from)
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
		if !s.planned() {
			most[i] = s.start
		}
	}
	for _, x := range t.set {
		most[x.step] = x.start
	}
	for round, moved := 0, true; moved && round < 4*n+50; round++ {
		moved = false
		for k := n - 1; k >= 0; k-- {
			i := t.topo[k]
			s := &t.steps[i]
			if !s.planned() || len(t.set) > 0 && t.isSet[i] {
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
		if at := min(x, win.to-s.length); open[w] && win.people >= s.people && at >= win.from {
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

func (t *task) allOpen() []bool {
	out := make([]bool, len(t.windows))
	for w := range out {
		out[w] = true
	}
	return out
}

func (t *task) preferred() []bool {
	out := make([]bool, len(t.windows))
	for w := range out {
		out[w] = t.windows[w].preferred
	}
	return out
}
