package bench

import (
	"slices"
)

// claim is copies of a resource taken over a stretch of time. key is the step,
// or the number of steps plus the hold, that takes them.
type claim struct{ start, end, count, key int }

// entry is a step on one person's line within a window.
type entry struct{ step, start, end int }

// pass is one attempt at a complete plan: steps are put down one by one,
// backward from the hand-overs or forward from now.
type pass struct {
	t       *task
	back    bool
	start   []int // noTime: not put down yet
	window  []int // of attended steps, -1 otherwise
	hands   [][]int
	lines   [][]entry // by window*maxPeople + person-1
	busy    [][]claim // by resource
	least   []int     // bounds on starts
	most    []int
	open    []bool // windows that may be used
	caps    []int  // tightened by jumps
	stack   []int  // planned steps in the order in which they were put down
	minHold []int
}

const maxPeople = 4

func (p *pass) end(i int) int {
	if s := &p.t.steps[i]; s.state != "planned" {
		return s.end
	}
	return p.start[i] + p.t.steps[i].length
}

func (p *pass) placed(i int) bool { return p.start[i] != noTime }

// newPass prepares a pass; facts and pins stand from the outset. ok is false
// when a pin cannot stand.
func newPass(t *task, back bool, open []bool, least, most []int) (*pass, bool) {
	n := len(t.steps)
	p := &pass{t: t, back: back, open: open, least: least, most: most, start: make([]int, n), window: make([]int, n), hands: make([][]int, n),
		caps: make([]int, n), lines: make([][]entry, len(t.windows)*maxPeople), busy: make([][]claim, len(t.resources)), minHold: t.shortestHolds()}
	for i := range n {
		p.start[i], p.window[i] = noTime, -1
		p.caps[i] = far
		if !back {
			p.caps[i] = -far
		}
	}
	for i := range n {
		if s := &t.steps[i]; s.state != "planned" {
			p.start[i], p.hands[i] = s.start, s.hands
			if s.attended {
				for w := range t.windows {
					if s.start < t.windows[w].end && s.end > t.windows[w].start {
						for _, h := range s.hands {
							p.lines[w*maxPeople+h-1] = append(p.lines[w*maxPeople+h-1], entry{i, s.start, s.end})
						}
					}
				}
			}
			p.claim(i)
		}
	}
	for i := range n {
		s := &t.steps[i]
		if s.state != "planned" || s.pinned == noTime {
			continue
		}
		w, hands, ok := p.fits(i, s.pinned)
		if !ok {
			return p, false
		}
		p.put(i, s.pinned, w, hands)
	}
	p.stack = nil
	return p, true
}

// shortestHolds is, by hold, the least time from the start of its first step
// to the end of its last: what is kept free while only one end stands.
func (t *task) shortestHolds() []int {
	out := make([]int, len(t.holds))
	for k, h := range t.holds {
		dist := make([]int, len(t.steps))
		for i := range dist {
			dist[i] = -1
		}
		dist[h.from] = t.steps[h.from].length
		for _, i := range t.topo {
			if dist[i] < 0 {
				continue
			}
			for _, a := range t.next[i] {
				arc := &t.arcs[a]
				dist[arc.to] = max(dist[arc.to], dist[i]+arc.min+t.steps[arc.to].length)
			}
		}
		out[k] = max(dist[h.to], t.steps[h.to].length)
	}
	return out
}

// held is the stretch that hold k takes when step i begins at s; whole says
// that both ends stand.
func (p *pass) held(k, i, s int) (from, to int, whole bool) {
	h := p.t.holds[k]
	e := s + p.t.steps[i].length
	if p.t.steps[i].state != "planned" {
		e = p.t.steps[i].end
	}
	switch {
	case h.from == h.to:
		return s, e, true
	case h.from == i && p.placed(h.to):
		return s, p.end(h.to), true
	case h.from == i:
		if p.back {
			return s, e, false
		}
		return s, s + p.minHold[k], false
	case p.placed(h.from):
		return p.start[h.from], e, true
	case p.back:
		return e - p.minHold[k], e, false
	}
	return s, e, false
}

func (p *pass) claim(i int) {
	for _, u := range p.t.steps[i].uses {
		p.busy[u.resource] = append(p.busy[u.resource], claim{p.start[i], p.end(i), u.count, i})
	}
	for _, k := range p.t.holdsOf[i] {
		p.drop(p.t.holds[k].resource, len(p.t.steps)+k)
		from, to, _ := p.held(k, i, p.start[i])
		p.busy[p.t.holds[k].resource] = append(p.busy[p.t.holds[k].resource], claim{from, to, p.t.holds[k].count, len(p.t.steps) + k})
	}
}

func (p *pass) drop(resource, key int) {
	p.busy[resource] = slices.DeleteFunc(p.busy[resource], func(c claim) bool { return c.key == key })
}

// put stands step i at s.
func (p *pass) put(i, s, w int, hands []int) {
	p.start[i], p.window[i], p.hands[i] = s, w, hands
	for _, h := range hands {
		line := &p.lines[w*maxPeople+h-1]
		*line = append(*line, entry{i, s, s + p.t.steps[i].length})
	}
	p.claim(i)
	p.stack = append(p.stack, i)
}

// lift takes step i up again.
func (p *pass) lift(i int) {
	for _, h := range p.hands[i] {
		line := &p.lines[p.window[i]*maxPeople+h-1]
		*line = slices.DeleteFunc(*line, func(e entry) bool { return e.step == i })
	}
	for _, u := range p.t.steps[i].uses {
		p.drop(u.resource, i)
	}
	p.start[i], p.window[i], p.hands[i] = noTime, -1, nil
	for _, k := range p.t.holdsOf[i] {
		h := p.t.holds[k]
		p.drop(h.resource, len(p.t.steps)+k)
		other := h.from + h.to - i
		if other != i && p.placed(other) {
			from, to, _ := p.held(k, other, p.start[other])
			p.busy[h.resource] = append(p.busy[h.resource], claim{from, to, h.count, len(p.t.steps) + k})
		}
	}
}

// overload is the stretch of [from, to) in which count more copies of a
// resource are too many: the last such stretch, or the first when first is set.
func (p *pass) overload(resource, from, to, count, key int, first bool) (a, b int, ok bool) {
	room := p.t.resources[resource].Capacity - count
	list := p.busy[resource]
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
	st := &p.t.steps[i]
	cd := &p.t.in.CleanDown
	best := beyond(p.back)
	try := func(x int) {
		if p.back && x < s && x > best || !p.back && x > s && x < best {
			best = x
		}
	}
	cleans := [4]int{0, cd.ToDarker, cd.ToLighter, cd.ToWhite}
	for h := range p.t.windows[w].people {
		for _, x := range p.lines[w*maxPeople+h] {
			try(x.start)
			if p.back {
				try(x.start - 1)
			} else {
				try(x.start + 1)
			}
			for _, c := range cleans {
				try(x.start - st.length - c)
				try(x.end + c)
				for _, d := range cleans[1:] {
					try(x.start - st.length - c - d)
					try(x.end + c + d)
				}
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

// bounds of step i given what stands. tied is the neighbour whose longest wait
// narrows them, -1 when none does; loose is the bound without that wait.
func (p *pass) bounds(i int) (lb, ub, tied, loose int) {
	t := p.t
	length := t.steps[i].length
	lb, ub, tied = p.least[i], p.most[i], -1
	if p.back {
		ub = min(ub, p.caps[i])
	} else {
		lb = max(lb, p.caps[i])
	}
	for _, k := range t.next[i] {
		a := &t.arcs[k]
		if p.placed(a.to) {
			ub = min(ub, p.start[a.to]-a.min-length)
		}
	}
	for _, k := range t.prev[i] {
		a := &t.arcs[k]
		if p.placed(a.from) {
			lb = max(lb, p.end(a.from)+a.min)
		}
	}
	loose = ub
	if p.back {
		loose = lb
	}
	for _, k := range t.next[i] {
		a := &t.arcs[k]
		if a.max < far && p.placed(a.to) {
			if x := p.start[a.to] - a.max - length; x > lb {
				lb = x
				if p.back {
					tied = k
				}
			}
		}
	}
	for _, k := range t.prev[i] {
		a := &t.arcs[k]
		if a.max < far && p.placed(a.from) {
			if x := p.end(a.from) + a.max; x < ub {
				ub = x
				if !p.back {
					tied = k
				}
			}
		}
	}
	return lb, ub, tied, loose
}

// run puts all steps down; key orders those that are not tied to one that
// stands. It reports whether it came through.
func (p *pass) run(key []int) bool {
	t := p.t
	n := len(t.steps)
	waiting := make([]int, n) // neighbours on the far side that do not stand yet
	todo := 0
	behind := func(i int) []int { // arcs to what must stand first
		if p.back {
			return t.next[i]
		}
		return t.prev[i]
	}
	other := func(k int) int {
		if p.back {
			return t.arcs[k].to
		}
		return t.arcs[k].from
	}
	count := func() {
		todo = 0
		for i := range n {
			waiting[i] = 0
			if p.placed(i) {
				continue
			}
			todo++
			for _, k := range behind(i) {
				if !p.placed(other(k)) {
					waiting[i]++
				}
			}
		}
	}
	count()
	when := make([]int, n) // order in which steps were put down
	clock := 1
	for jumps, puts := 0, 0; todo > 0; puts++ {
		if puts > 8*n+200 {
			return false
		}
		best, bestTied := -1, -1
		for i := range n {
			if p.placed(i) || waiting[i] > 0 {
				continue
			}
			tied := 0
			for _, k := range behind(i) {
				if t.arcs[k].max < aDay && t.steps[other(k)].state == "planned" {
					tied = max(tied, when[other(k)])
				}
			}
			for _, k := range t.holdsOf[i] {
				if o := t.holds[k].from + t.holds[k].to - i; o != i && p.placed(o) && t.steps[o].state == "planned" {
					tied = max(tied, when[o])
				}
			}
			switch {
			case best < 0, tied > bestTied, tied == bestTied && key[i] > key[best]:
				best, bestTied = i, tied
			}
		}
		if best < 0 {
			return false
		}
		i := best
		lb, ub, tied, loose := p.bounds(i)
		s, w, hands, ok := p.find(i, lb, ub)
		if ok {
			p.put(i, s, w, hands)
			when[i] = clock
			clock++
			todo--
			for _, k := range func() []int {
				if p.back {
					return t.prev[i]
				}
				return t.next[i]
			}() {
				a := &t.arcs[k]
				if p.back {
					waiting[a.from]--
				} else {
					waiting[a.to]--
				}
			}
			continue
		}
		if jumps++; jumps > 60+2*n || !p.jump(i, lb, ub, tied, loose) {
			return false
		}
		count()
	}
	return true
}

// jump blames the neighbour that leaves step i no place, takes back everything
// from it on, and caps it. False when nobody can be blamed.
func (p *pass) jump(i, lb, ub, tied, loose int) bool {
	t := p.t
	length := t.steps[i].length
	blame, limit := -1, 0
	if tied >= 0 {
		a := &t.arcs[tied]
		j := a.to
		if !p.back {
			j = a.from
		}
		if t.steps[j].state == "planned" && t.steps[j].pinned == noTime {
			if p.back {
				if s, _, _, ok := p.find(i, loose, ub); ok {
					blame, limit = j, s+length+a.max
				}
			} else if s, _, _, ok := p.find(i, lb, loose); ok {
				blame, limit = j, s-a.max-t.steps[j].length
			}
		}
	}
	if blame < 0 { // a hold whose other end stands
		for _, k := range t.holdsOf[i] {
			h := t.holds[k]
			j := h.from + h.to - i
			if j == i || !p.placed(j) || t.steps[j].state != "planned" || t.steps[j].pinned != noTime {
				continue
			}
			blame = j
			if p.back {
				limit = p.start[j] - 1
				if a, _, over := p.overload(h.resource, max(lb, ub-p.minHold[k]), p.end(j), h.count, len(t.steps)+k, false); over {
					limit = min(limit, a-t.steps[j].length)
				}
			} else {
				limit = p.start[j] + 1
				if _, b, over := p.overload(h.resource, p.start[j], min(ub, lb+p.minHold[k]), h.count, len(t.steps)+k, true); over {
					limit = max(limit, b)
				}
			}
		}
	}
	if blame < 0 { // the latest put down of those it waits for: give it more room
		for x := len(p.stack) - 1; x >= 0 && blame < 0; x-- {
			j := p.stack[x]
			arcs := t.next[i]
			if !p.back {
				arcs = t.prev[i]
			}
			for _, k := range arcs {
				if a := &t.arcs[k]; a.from+a.to-i == j && t.steps[j].pinned == noTime && a.max < far {
					blame, limit = j, p.start[j]-1
					if !p.back {
						limit = p.start[j] + 1
					}
				}
			}
		}
	}
	if blame < 0 {
		return false
	}
	at := slices.Index(p.stack, blame)
	if at < 0 {
		return false
	}
	if p.back {
		p.caps[blame] = min(p.caps[blame], min(limit, p.start[blame]-1))
	} else {
		p.caps[blame] = max(p.caps[blame], max(limit, p.start[blame]+1))
	}
	for x := len(p.stack) - 1; x >= at; x-- {
		p.lift(p.stack[x])
	}
	p.stack = p.stack[:at]
	return true
}
