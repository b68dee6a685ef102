package bench

import "math/bits"

// nearHome looks on from the old place of a step, if it has one, before it looks
// everywhere.
func (q *pass) nearHome(i int, b limits) (s, w int, hands uint8, ok bool) {
	if q.home != nil && q.home[i].start != noTime {
		if h := q.home[i].start; q.back && h < b.ub && h >= b.lb {
			s, w, hands, ok = q.find(i, b.lb, h)
		} else if !q.back && h > b.lb && h <= b.ub {
			s, w, hands, ok = q.find(i, h, b.ub)
		}
	}
	if !ok {
		s, w, hands, ok = q.find(i, b.lb, b.ub)
	}
	return s, w, hands, ok
}

// find looks for the first place of step i within [lb, ub], from the end at
// which the pass begins.
func (q *pass) find(i, lb, ub int) (s, w int, hands uint8, ok bool) {
	if lb > ub {
		return 0, -1, 0, false
	}
	held := q.p.letGo(i)
	defer q.p.takeAgain(i, held)
	st := &q.t.steps[i]
	if !st.attended {
		s = ub
		if !q.back {
			s = lb
		}
		for s >= lb && s <= ub {
			x := q.copies(i, s)
			if x == s {
				return s, -1, 0, true
			}
			s = x
		}
		return 0, -1, 0, false
	}
	n := len(q.t.windows)
	for k := range n {
		w := k
		if q.back {
			w = n - 1 - k
		}
		win := &q.t.windows[w]
		from, to := win.start, win.end
		if q.over {
			from, to = win.from, win.to
		}
		lo, hi := max(lb, from), min(ub, to-st.length)
		if q.back && to-st.length < lb || !q.back && from > ub {
			break
		}
		if !q.open[w] || lo > hi || win.people < st.people {
			continue
		}
		if s, hands, ok := q.inWindow(i, w, lo, hi); ok {
			return s, w, hands, true
		}
	}
	return 0, -1, 0, false
}

// inWindow looks in one window: the first place, or when aware the one that adds
// the least clean-down.
func (q *pass) inWindow(i, w, lo, hi int) (s int, hands uint8, ok bool) {
	bestAdded, bestS, bestHands := far, 0, uint8(0)
	s = hi
	if !q.back {
		s = lo
	}
	for s >= lo && s <= hi {
		if x := q.copies(i, s); x != s {
			s = x
			continue
		}
		hands, next, added := q.anybody(w, i, s)
		if hands != 0 {
			if added <= 0 || !q.aware {
				if added < bestAdded {
					return s, hands, true
				}
				break
			}
			if added < bestAdded {
				bestAdded, bestS, bestHands = added, s, hands
			}
		}
		s = next
	}
	return bestS, bestHands, bestHands != 0
}

// beyondNeighbour is the nearest start on the other side of the next entry of a line.
func (q *pass) beyondNeighbour(w int, hands uint8, i, s int) int {
	line := q.p.lines[w*maxPeople+bits.TrailingZeros8(hands)]
	length := q.t.steps[i].length
	if q.back {
		for k := len(line) - 1; k >= 0; k-- {
			if x := line[k].start - length; line[k].start <= s && x < s {
				return x
			}
		}
		return -far
	}
	for k := range line {
		if line[k].end > s && line[k].start >= s {
			return max(line[k].end, s+1)
		}
	}
	return far
}

// Tastes in who is asked first: who cleans least, who has least to do, who has most,
// anybody.
const (
	cleanest = iota
	idlest
	busiest
	whoever
)

func (q *pass) cost(i, h, added, load int) int {
	switch q.taste {
	case idlest:
		return load
	case busiest:
		return 100000 - load
	case whoever:
		return (i*7919 + h*104729 + q.salt) % 9973 * (h + q.salt%7 + 1) % 9973
	}
	return added*10000 + load
}

// anybody finds the people for step i at s in window w, by taste: those who clean the
// least for it and then have the least to do. Without them, nothing before next is
// possible (in the direction of the pass); with them, an aware pass looks on there.
func (q *pass) anybody(w, i, s int) (hands uint8, next, added int) {
	p := q.p
	st := &q.t.steps[i]
	win := &q.t.windows[w]
	var cost, adds [maxPeople]int
	free := 0
	next = far
	if q.back {
		next = -far
	}
	for h := range win.people {
		l := w*maxPeople + h
		ok, n, add := p.person(l, i, s, q.back)
		if ok && q.easy && len(p.lines[l]) > 0 && p.load[l]+st.length+add > win.limit {
			ok, n = false, far
			if q.back {
				n = -far
			}
			if add > 0 && p.load[l]+st.length <= win.limit { // elsewhere it may be cleaner
				n = q.beyondNeighbour(w, 1<<h, i, s)
			}
		}
		cost[h], adds[h] = far, add
		if ok && q.aware {
			n = q.beyondNeighbour(w, 1<<h, i, s)
		}
		if ok {
			cost[h] = q.cost(i, h, add, p.load[l])
			free++
		}
		if ok && !q.aware {
			continue
		}
		if q.back {
			next = max(next, min(n, s-1))
		} else {
			next = min(next, max(n, s+1))
		}
	}
	if free < st.people {
		return 0, next, 0
	}
	for range st.people {
		best := 0
		for h := range win.people {
			if cost[h] < cost[best] {
				best = h
			}
		}
		added += adds[best]
		hands |= 1 << best
		cost[best] = far
	}
	return hands, next, added
}
