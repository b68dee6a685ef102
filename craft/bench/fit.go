package bench

import "slices"

// overload is the stretch of [from, to) in which count more copies of a
// resource are too many: the last such stretch, or the first when first is set.
func (p *pass) overload(resource, from, to, count, key int, first bool) (a, b int, ok bool) {
	room := p.t.resources[resource].Capacity - count
	list := p.about(resource, from, to)
	for _, c := range list {
		if c.key == key || c.start >= to || c.end <= from {
			continue
		}
		at := max(c.start, from)
		sum, ends := 0, far
		for _, d := range list {
			if d.key != key && d.start <= at && d.end > at {
				sum += d.count
				ends = min(ends, d.end)
			}
		}
		if sum > room && (!ok || first == (at < a)) {
			a, b, ok = at, ends, true
		}
	}
	return a, b, ok
}

// about are the claims of a resource that can reach into [from, to): they stand by
// their starts, and none is longer than the longest.
func (p *pass) about(resource, from, to int) []claim {
	list := p.busy[resource]
	at := func(c claim, t int) int { return c.start - t }
	a, _ := slices.BinarySearchFunc(list, from-p.longest[resource], at)
	b, _ := slices.BinarySearchFunc(list, to, at)
	return list[a:max(a, b)]
}

// take puts a claim of a resource in its place.
func (p *pass) take(resource int, c claim) {
	list := p.busy[resource]
	at, _ := slices.BinarySearchFunc(list, c.start, func(x claim, t int) int { return x.start - t })
	p.busy[resource] = slices.Insert(list, at, c)
	p.longest[resource] = max(p.longest[resource], c.end-c.start)
}

// resources gives the nearest start at or beyond s (in the direction of the
// pass) at which the copies that i needs may be free; equal to s when they are.
func (p *pass) resources(i, s int) int {
	length := p.t.steps[i].length
	shift := func(r, from, to, count, key int) (int, bool) {
		a, b, over := p.overload(r, from, to, count, key, !p.back)
		if !over {
			return s, true
		}
		if p.back {
			return a - (to - s), false // so that the stretch ends where the overload begins
		}
		return b + (s - from), false
	}
	for _, u := range p.t.steps[i].uses {
		if x, ok := shift(u.resource, s, s+length, u.count, i); !ok {
			return x
		}
	}
	for _, k := range p.t.holdsOf[i] {
		from, to, whole := p.held(k, i, s)
		h := p.t.holds[k]
		if whole && h.from != h.to {
			// one end stands: only this end can move
			if a, _, over := p.overload(h.resource, from, to, h.count, len(p.t.steps)+k, !p.back); over {
				if p.back && h.from == i || !p.back && h.to == i {
					return beyond(p.back) // moving on only makes the stretch longer
				}
				if p.back {
					return min(s-1, a-length)
				}
				return s + 1
			}
			continue
		}
		if x, ok := shift(h.resource, from, to, h.count, len(p.t.steps)+k); !ok {
			return x
		}
	}
	return s
}

func beyond(back bool) int {
	if back {
		return -far
	}
	return far
}

// wipe is the clean-down from one colour to another.
func (t *task) wipe(from, to int) int {
	if from == to {
		return 0
	}
	a, b := t.colours[from].Lightness, t.colours[to].Lightness
	switch {
	case b <= a:
		return t.in.CleanDown.ToDarker
	case b >= t.in.CleanDown.WhiteFrom:
		return t.in.CleanDown.ToWhite
	}
	return t.in.CleanDown.ToLighter
}

// before reports whether entry a stands before (start, rank) of b on a line.
func (t *task) before(a entry, start, rank int) bool {
	return a.start < start || a.start == start && t.steps[a.step].rank < rank
}

// cleanBefore is the clean-down that the step with this colour, start and rank
// needs on a line, given one more entry that may be on it.
func (p *pass) cleanBefore(line []entry, extra *entry, colour, start, rank, self int) int {
	last, found := entry{}, false
	look := func(e entry) {
		if e.step == self || p.t.steps[e.step].colour < 0 || !p.t.before(e, start, rank) {
			return
		}
		if !found || p.t.before(last, e.start, p.t.steps[e.step].rank) {
			last, found = e, true
		}
	}
	for _, e := range line {
		look(e)
	}
	if extra != nil {
		look(*extra)
	}
	if !found {
		return 0
	}
	return p.t.wipe(p.t.steps[last.step].colour, colour)
}

// person reports whether the hands of a line are free for step i at s. why is
// "hands" or "cleanDown", who the step that is in the way.
func (p *pass) person(w, h, i, s int) (ok bool, why string, who int) {
	st := &p.t.steps[i]
	e := s + st.length
	line := p.lines[w*maxPeople+h]
	sum := func(at int) (total, with int) {
		with = -1
		for _, x := range line {
			if x.start <= at && x.end > at {
				total += p.t.steps[x.step].attention
				with = x.step
			}
		}
		return total, with
	}
	for _, x := range line {
		if x.start >= e || x.end <= s {
			continue
		}
		if c := p.t.steps[x.step].colour; c >= 0 && st.colour >= 0 && c != st.colour {
			return false, "hands", x.step
		}
		if x.start > s {
			if total, _ := sum(x.start); total+st.attention > 100 {
				return false, "hands", x.step
			}
		}
	}
	if total, with := sum(s); total > 0 && total+st.attention > 100 {
		return false, "hands", with
	}
	if st.colour >= 0 {
		if c := p.cleanBefore(line, nil, st.colour, s, st.rank, i); c > 0 {
			if s-c < p.t.windows[w].start {
				return false, "cleanDown", -1
			}
			for _, x := range line {
				if x.start < s && x.end > s-c {
					return false, "cleanDown", x.step
				}
			}
		}
	}
	me := entry{i, s, e}
	for _, x := range line { // what comes after must still be clean
		xs := &p.t.steps[x.step]
		if xs.colour < 0 || xs.state != "planned" || x.start < s {
			continue
		}
		c := p.cleanBefore(line, &me, xs.colour, x.start, xs.rank, x.step)
		if c == 0 {
			continue
		}
		if x.start-c < p.t.windows[w].start {
			return false, "cleanDown", x.step
		}
		if s < x.start && e > x.start-c {
			return false, "cleanDown", x.step
		}
		for _, y := range line {
			if y.step != x.step && y.start < x.start && y.end > x.start-c {
				return false, "cleanDown", x.step
			}
		}
	}
	return true, "", -1
}

// free finds the people for step i at s in window w.
func (p *pass) free(w, i, s int) ([]int, bool) {
	var hands []int
	for h := range p.t.windows[w].people {
		if ok, _, _ := p.person(w, h, i, s); ok {
			hands = append(hands, h+1)
			if len(hands) == p.t.steps[i].people {
				return hands, true
			}
		}
	}
	return nil, false
}

// fits reports whether step i can stand at s exactly.
func (p *pass) fits(i, s int) (w int, hands []int, ok bool) {
	st := &p.t.steps[i]
	if p.resources(i, s) != s {
		return -1, nil, false
	}
	if !st.attended {
		return -1, nil, true
	}
	for w := range p.t.windows {
		if win := &p.t.windows[w]; s >= win.start && s+st.length <= win.end && p.open[w] {
			hands, ok := p.free(w, i, s)
			return w, hands, ok
		}
	}
	return -1, nil, false
}

// nextStart is the candidate nearest beyond s at which the hands of a window
// may have become free.
func (p *pass) nextStart(w, i, s int) int {
	length := p.t.steps[i].length
	gaps := p.t.gaps
	widest := gaps[len(gaps)-1]
	best := beyond(p.back)
	try := func(x int) {
		if p.back && x < s && x > best || !p.back && x > s && x < best {
			best = x
		}
	}
	for h := range p.t.windows[w].people {
		for _, x := range p.lines[w*maxPeople+h] {
			first, last := x.start-max(length+widest, 1), max(x.end+widest, x.start+1)
			if p.back && (first >= s || last <= best) || !p.back && (last <= s || first >= best) {
				continue
			}
			try(x.start)
			if p.back {
				try(x.start - 1)
			} else {
				try(x.start + 1)
			}
			for _, gap := range gaps {
				try(x.start - length - gap)
				try(x.end + gap)
			}
		}
	}
	return best
}

// find looks for the first place of step i within [lb, ub], from the end at
// which the pass begins.
func (p *pass) find(i, lb, ub int) (s, w int, hands []int, ok bool) {
	if lb > ub {
		return 0, -1, nil, false
	}
	st := &p.t.steps[i]
	if !st.attended {
		s = ub
		if !p.back {
			s = lb
		}
		for s >= lb && s <= ub {
			x := p.resources(i, s)
			if x == s {
				return s, -1, nil, true
			}
			s = x
		}
		return 0, -1, nil, false
	}
	n := len(p.t.windows)
	for k := range n {
		w := k
		if p.back {
			w = n - 1 - k
		}
		win := &p.t.windows[w]
		lo, hi := max(lb, win.start), min(ub, win.end-st.length)
		if !p.open[w] || lo > hi || win.people < st.people {
			continue
		}
		s = hi
		if !p.back {
			s = lo
		}
		for s >= lo && s <= hi {
			if x := p.resources(i, s); x != s {
				s = x
				continue
			}
			if hands, ok := p.free(w, i, s); ok {
				return s, w, hands, true
			}
			s = p.nextStart(w, i, s)
		}
	}
	return 0, -1, nil, false
}
