package bench

// letGo gives up what the holds of step i claim while a place for it is looked
// for; takeAgain claims it as before.
func (p *sheet) letGo(i int) bool {
	any := false
	for _, k := range p.t.holdsOf[i] {
		if p.holdAt[k][0] < p.holdAt[k][1] {
			p.drop(k)
			any = true
		}
	}
	return any
}

func (p *sheet) takeAgain(i int, held bool) {
	if !held {
		return
	}
	for _, k := range p.t.holdsOf[i] {
		if p.holdAt[k][0] >= p.holdAt[k][1] {
			p.hold(k)
		}
	}
}

// copies gives the nearest start at or beyond s (in the direction of the pass) at
// which the copies that step i needs may be free; s itself when they are.
func (q *pass) copies(i, s int) int {
	t, p := q.t, q.p
	length := t.steps[i].length
	for _, u := range t.steps[i].uses {
		if a, b, over := p.taken[u.resource].over(s, s+length, t.resources[u.resource].Capacity-u.count, !q.back); over {
			if q.back {
				return a - length
			}
			return b
		}
	}
	for _, k := range t.holdsOf[i] {
		h := &t.holds[k]
		if !t.steps[h.from].planned() {
			continue // these copies are taken already
		}
		from, to := s, s+length
		stands := h.from != h.to && p.placed(h.from+h.to-i) && !(q.apart && q.inPart[h.from+h.to-i])
		switch {
		case h.from == h.to:
		case h.from == i && stands:
			to = p.end(h.to)
		case h.from == i:
			to = s + h.least
		case stands:
			from = p.start[h.from]
		default:
			from = s + length - h.least
		}
		a, b, over := p.taken[h.resource].over(from, to, t.resources[h.resource].Capacity-h.count, !q.back)
		if !over {
			continue
		}
		if q.back {
			if h.from == i && stands { // going on only makes the stretch longer
				return -far
			}
			return a - (to - s)
		}
		if h.to == i && h.from != i && stands {
			return far
		}
		return b + (s - from)
	}
	return s
}

// jump blames the neighbour that leaves step i no place, takes back everything
// placed since, and caps it. False when nobody of the part can be blamed.
func (q *pass) jump(i int, b limits) bool {
	t, p := q.t, q.p
	length := t.steps[i].length
	blame, limit := -1, 0
	if b.tie >= 0 {
		a := &t.arcs[b.tie]
		if j := q.other(b.tie, i); q.inPart[j] {
			q.apart = true
			if q.back {
				if s, _, _, ok := q.find(i, b.loose, b.ub); ok {
					blame, limit = j, s+length+a.max
				}
			} else if s, _, _, ok := q.find(i, b.lb, b.loose); ok {
				blame, limit = j, s-a.max-t.steps[j].length
			}
			q.apart = false
		}
	}
	if blame < 0 {
		blame, limit = q.blameHold(i, b)
	}
	if blame < 0 {
		blame, limit = q.blameTied(i)
	}
	if blame < 0 {
		return false
	}
	if q.back {
		q.caps[blame] = min(q.caps[blame], limit, p.start[blame]-1)
	} else {
		q.caps[blame] = max(q.caps[blame], limit, p.start[blame]+1)
	}
	q.ready = append(q.ready, i)
	for {
		last := len(q.stack) - 1
		if last < 0 {
			return false
		}
		j := q.stack[last]
		q.stack = q.stack[:last]
		q.takeBack(j)
		if j == blame {
			return true
		}
	}
}

// blameHold blames the far end of a hold whose stretch is not free.
func (q *pass) blameHold(i int, b limits) (blame, limit int) {
	t, p := q.t, q.p
	blame = -1
	for _, k := range t.holdsOf[i] {
		h := &t.holds[k]
		j := h.from + h.to - i
		if j == i || !q.inPart[j] || !p.placed(j) {
			continue
		}
		p.drop(k)
		room := t.resources[h.resource].Capacity - h.count
		if q.back {
			blame, limit = j, p.start[j]-1
			if a, _, over := p.taken[h.resource].over(max(b.lb, b.ub-h.least), p.end(j), room, false); over {
				limit = min(limit, a-t.steps[j].length)
			}
		} else {
			blame, limit = j, p.start[j]+1
			if _, x, over := p.taken[h.resource].over(p.start[j], min(b.ub, b.lb+h.least), room, true); over {
				limit = max(limit, x)
			}
		}
		p.hold(k)
	}
	return blame, limit
}

// blameTied blames the latest placed of those to which a longest wait ties step i.
func (q *pass) blameTied(i int) (blame, limit int) {
	for x := len(q.stack) - 1; x >= 0; x-- {
		j := q.stack[x]
		for _, k := range q.needs(i) {
			if q.other(k, i) == j && q.t.arcs[k].max < far {
				if q.back {
					return j, q.p.start[j] - 1
				}
				return j, q.p.start[j] + 1
			}
		}
	}
	return -1, 0
}

// takeBack lifts a step that the pass has placed.
func (q *pass) takeBack(j int) {
	if w := q.p.window[j]; w >= 0 {
		q.soil(w, q.p.hands[j])
	}
	q.p.lift(j)
	for _, k := range q.helps(j) {
		if o := q.other(k, j); q.inPart[o] {
			q.waiting[o]++
		}
	}
	if q.waiting[j] == 0 {
		q.ready = append(q.ready, j)
	}
}

// soil notes that something was lifted from the lines of these hands: what stood
// after it may have to be cleaned for.
func (q *pass) soil(w int, hands uint8) {
	for h := range maxPeople {
		if l := w*maxPeople + h; hands&(1<<h) != 0 && !q.isDirty[l] {
			q.isDirty[l] = true
			q.dirty = append(q.dirty, l)
		}
	}
}

// allClean reports whether every clean-down of the soiled lines has its time.
func (q *pass) allClean() bool {
	ok := true
	for _, l := range q.dirty {
		q.isDirty[l] = false
		ok = ok && q.p.clean(l)
	}
	q.dirty = q.dirty[:0]
	return ok
}

// settle lets every wait with a step before it begin as early as lags and copies
// allow, never before the first planned step of its batch.
func (q *pass) settle(part []int) {
	p, t := q.p, q.t
	back := q.back
	defer func() { q.back = back }()
	q.back = false
	for _, i := range q.inOrder(part) {
		s := &t.steps[i]
		if s.attended || s.pinned != noTime || len(t.prev[i]) == 0 {
			continue
		}
		was := p.start[i]
		begun := far
		for _, j := range t.batches[s.batch].steps {
			if j != i && t.steps[j].planned() && p.placed(j) {
				begun = min(begun, p.start[j])
			}
		}
		if begun == far {
			begun = -far
		}
		p.lift(i)
		in := q.inPart[i]
		q.inPart[i] = false
		b := q.bounds(i)
		q.inPart[i] = in
		lb := max(b.lb, min(begun, was))
		at, _, _, ok := q.find(i, lb, was)
		if !ok {
			at = was
		}
		p.put(i, at, -1, 0)
	}
}

// inOrder is the waits of a part, by topological rank.
func (q *pass) inOrder(part []int) []int {
	q.ready = q.ready[:0]
	for _, i := range part {
		if !q.t.steps[i].attended {
			k := len(q.ready)
			q.ready = append(q.ready, i)
			for k > 0 && q.t.topoAt[q.ready[k-1]] > q.t.topoAt[i] {
				q.ready[k] = q.ready[k-1]
				k--
			}
			q.ready[k] = i
		}
	}
	return q.ready
}
