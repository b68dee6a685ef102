package bench

import (
	"slices"
)

// search holds the best plan so far.
type search struct {
	t       *task
	stop    func() bool // the time is up: the best so far will do
	gone    func() bool // nobody waits for it any more
	rank    []int
	best    *pass
	value   vector
	targets []int
}

func (s *search) offer(p *pass) bool {
	v := p.value()
	if s.best != nil && v.compare(s.value, s.rank) >= 0 {
		return false
	}
	s.best, s.value = p, v
	return true
}

// keys are the orders in which untied steps are put down.
func (t *task) keys(least, most []int, back bool) [][]int {
	n := len(t.steps)
	out := make([][]int, 5)
	for k := range out {
		out[k] = make([]int, n)
	}
	tail := make([]int, n)
	head := make([]int, n)
	for k := n - 1; k >= 0; k-- {
		i := t.topo[k]
		for _, a := range t.next[i] {
			tail[i] = max(tail[i], tail[t.arcs[a].to]+t.arcs[a].min)
		}
		tail[i] += t.steps[i].length
	}
	for _, i := range t.topo {
		for _, a := range t.prev[i] {
			head[i] = max(head[i], head[t.arcs[a].from]+t.arcs[a].min)
		}
		head[i] += t.steps[i].length
	}
	for i := range n {
		light := 50
		if c := t.steps[i].colour; c >= 0 {
			light = int(t.colours[c].Lightness)
		}
		clampedMost := max(min(most[i], far/4), -far/4)
		clampedLeast := max(min(least[i], far/4), -far/4)
		if back {
			out[0][i], out[1][i], out[2][i], out[3][i] = clampedMost, clampedLeast, head[i], clampedMost+clampedLeast
			out[4][i] = clampedMost/aDay*1000 - light
		} else {
			out[0][i], out[1][i], out[2][i], out[3][i] = -clampedMost, -clampedLeast, tail[i], -clampedMost-clampedLeast
			out[4][i] = -(clampedMost / aDay * 1000) + light
		}
	}
	return out
}

// backward runs the keys with the given ends; it reports whether one came
// through. which limits the keys to try (nil: all).
func (s *search) backward(targets []int, open []bool, which []int) bool {
	least, stuck := s.t.earliest(open)
	if stuck >= 0 {
		return false
	}
	most := s.t.latest(targets, open)
	for i := range most {
		if least[i] > most[i] {
			return false
		}
	}
	any := false
	for k, key := range s.t.keys(least, most, true) {
		if which != nil && !slices.Contains(which, k) {
			continue
		}
		if s.stop() {
			break
		}
		p, ok := newPass(s.t, true, open, least, most)
		if ok && p.run(key, s.stop) {
			any = true
			if s.offer(p) {
				s.targets = targets
			}
		}
	}
	return any
}

func (s *search) forward(open []bool) {
	least, stuck := s.t.earliest(open)
	if stuck >= 0 {
		return
	}
	n := len(s.t.steps)
	ends := make([]int, len(s.t.commissions))
	for c := range ends {
		ends[c] = s.t.commissions[c].handOver
	}
	most := s.t.latest(ends, open)
	bound := make([]int, n)
	for i := range bound {
		bound[i] = far
		if st := &s.t.steps[i]; st.notAfter < far {
			bound[i] = st.notAfter - st.length
		}
	}
	for _, key := range s.t.keys(least, most, false) {
		stop := s.stop
		if s.best == nil {
			stop = s.gone // a late plan beats none: the first is made whatever the time
		}
		if stop() {
			return
		}
		p, ok := newPass(s.t, false, open, least, bound)
		if ok && p.run(key, stop) {
			s.offer(p)
		}
	}
}

// lateAsLittle goes backward from the ends that forward passes reached, and
// halves the extension while that succeeds.
func (s *search) lateAsLittle(open []bool) {
	t := s.t
	reach := t.ends(0)
	if s.best != nil {
		for i := range t.steps {
			c := t.steps[i].commission
			reach[c] = max(reach[c], s.best.end(i))
		}
	} else {
		for c := range reach {
			reach[c] = t.windows[len(t.windows)-1].end + aDay
		}
	}
	over := t.ends(0)
	for share, step := 1.0, 0.5; step > 1.0/128 && !s.stop(); step /= 2 {
		targets := slices.Clone(over)
		for c := range targets {
			targets[c] += int(share * float64(reach[c]-over[c]))
		}
		if s.backward(targets, open, nil) {
			share -= step
		} else if share == 1 {
			return
		} else {
			share += step
		}
	}
}

// fewerSessions shuts used windows one by one while that makes a better plan.
// The count of tries is bounded, not the time: the same input, the same plan.
func (s *search) fewerSessions() {
	n := len(s.t.steps)
	tries := 4000 / (n + 10)
	if s.targets == nil {
		return
	}
	open := slices.Clone(s.best.open)
	for improved := true; improved && tries > 0 && !s.stop(); {
		improved = false
		used := map[int]int{}
		for i, w := range s.best.window {
			if w >= 0 {
				used[w] += s.t.steps[i].length
			}
		}
		var order []int
		for w := range s.t.windows {
			if used[w] > 0 {
				order = append(order, w)
			} else {
				open[w] = false
			}
		}
		slices.SortStableFunc(order, func(a, b int) int {
			if pa, pb := s.t.windows[a].preferred, s.t.windows[b].preferred; pa != pb {
				if pb {
					return -1
				}
				return 1
			}
			return used[a] - used[b]
		})
		for _, w := range order {
			if tries--; tries <= 0 || s.stop() {
				return
			}
			shut := slices.Clone(open)
			shut[w] = false
			before := s.value
			s.backward(s.targets, shut, []int{0, 4})
			if s.value.compare(before, s.rank) < 0 {
				improved = true
				open = slices.Clone(s.best.open)
				break
			}
		}
	}
}
