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
	busy    [][]claim // by resource, by their starts
	longest []int     // claim of each resource so far
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
		caps: make([]int, n), lines: make([][]entry, len(t.windows)*maxPeople), busy: make([][]claim, len(t.resources)), longest: make([]int, len(t.resources)), minHold: t.shortestHolds()}
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

// run puts all steps down; key orders those that are not tied to one that
// stands. It reports whether it came through before stop said so.
func (p *pass) run(key []int, stop func() bool) bool {
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
		if puts > 8*n+200 || puts%lookEvery == 0 && stop() {
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

// jump blames the neighbour that leaves step i no place, takes it back with what
// rests on it, and caps it. False when nobody can be blamed.
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
	p.takeBack(at)
	return true
}

// takeBack lifts the step that was put down at this place of the stack and what was
// put down after it because of it. What has nothing to do with it keeps its place,
// except on a person's line where a clean-down would be missing without it: that
// line goes back to what it was.
func (p *pass) takeBack(at int) {
	t := p.t
	lifted := make([]bool, len(t.steps))
	lines := map[int]bool{} // lines that go back as a whole
	rests := func(i int) bool {
		arcs := t.prev[i]
		if p.back {
			arcs = t.next[i]
		}
		for _, k := range arcs {
			if a := &t.arcs[k]; lifted[a.from+a.to-i] {
				return true
			}
		}
		for _, h := range p.hands[i] {
			if lines[p.window[i]*maxPeople+h-1] {
				return true
			}
		}
		return false
	}
	lifted[p.stack[at]] = true
	for again := true; again; {
		again = false
		touched := map[int]bool{}
		for x := at; x < len(p.stack); x++ {
			i := p.stack[x]
			if !p.placed(i) || !lifted[i] && !rests(i) {
				continue
			}
			lifted[i] = true
			for _, h := range p.hands[i] {
				touched[p.window[i]*maxPeople+h-1] = true
			}
			p.lift(i)
		}
		for l := range touched {
			if !p.clean(l) {
				lines[l], again = true, true
			}
		}
	}
	p.stack = slices.DeleteFunc(p.stack, func(i int) bool { return lifted[i] })
}

// clean reports whether each clean-down of a line still has its time.
func (p *pass) clean(l int) bool {
	line, opens := p.lines[l], p.t.windows[l/maxPeople].start
	for _, x := range line {
		s := &p.t.steps[x.step]
		if s.colour < 0 || s.state != "planned" {
			continue
		}
		c := p.cleanBefore(line, nil, s.colour, x.start, s.rank, x.step)
		if c == 0 {
			continue
		}
		if x.start-c < opens || slices.ContainsFunc(line, func(y entry) bool { return y.step != x.step && y.start < x.start && y.end > x.start-c }) {
			return false
		}
	}
	return true
}
