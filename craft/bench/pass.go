package bench

import "slices"

// pass puts a part of the steps down one by one, the rest fixed: backward from
// the hand-overs or forward from now. Its scratch is used again and again.
type pass struct {
	t     *task
	p     *sheet
	back  bool
	easy  bool // nobody's window beyond its share
	aware bool // within a window the place that adds the least clean-down
	over  bool // windows may be overrun
	open  []bool
	least []int // static bounds of starts
	most  []int
	goal  []int   // spare asked for, by batch
	home  []place // where steps would stay when they can, nil for anywhere
	key   []int   // order of what is not tied: the largest first

	patience int // placements of a run before it gives up, in lengths of its part
	puts     int // placements made, of all runs: the effort
	salt     int
	taste    int  // whom it asks first
	apart    bool // holds are judged as if their far end could still move
	failed   int  // step that found no place in the last run
	stop     func() bool
	inPart   []bool
	waiting  []int
	caps     []int
	stack    []int
	ready    []int
	dirty    []int // lines from which something was lifted
	isDirty  []bool
}

func newPass(t *task, stop func() bool) *pass {
	n := len(t.steps)
	return &pass{t: t, stop: stop, open: make([]bool, len(t.windows)), goal: make([]int, len(t.batches)), key: make([]int, n), inPart: make([]bool, n),
		waiting: make([]int, n), caps: make([]int, n), isDirty: make([]bool, len(t.windows)*maxPeople)}
}

// needs gives the arcs to what must stand before i in the direction of the pass,
// helps those to what waits for it.
func (q *pass) needs(i int) []int {
	if q.back {
		return q.t.next[i]
	}
	return q.t.prev[i]
}

func (q *pass) helps(i int) []int {
	if q.back {
		return q.t.prev[i]
	}
	return q.t.next[i]
}

// other is the end of arc k that is not i.
func (q *pass) other(k, i int) int { return q.t.arcs[k].from + q.t.arcs[k].to - i }

// run places the part, none of which stands. When it fails, what it had placed
// stays: the caller takes it back.
func (q *pass) run(part []int) bool {
	q.begin(part)
	defer func() {
		for _, i := range part {
			q.inPart[i] = false
		}
	}()
	n := len(part)
	for jumps, puts := 0, 0; len(q.stack) < n; {
		if puts++; puts > q.patience*n+25*q.patience || puts%64 == 0 && q.stop() {
			return false
		}
		i := q.pick()
		if i < 0 {
			return false
		}
		q.puts++
		b := q.bounds(i)
		s, w, hands, ok := q.atHome(i, b.lb, b.ub)
		if !ok {
			s, w, hands, ok = q.nearHome(i, b)
		}
		if ok {
			q.p.put(i, s, w, hands)
			q.stack = append(q.stack, i)
			for _, k := range q.helps(i) {
				j := q.other(k, i)
				if q.inPart[j] {
					if q.waiting[j]--; q.waiting[j] == 0 {
						q.ready = append(q.ready, j)
					}
				}
			}
			continue
		}
		q.failed = i
		if jumps++; jumps > 60+2*n*max(1, q.patience/wholePatience) || !q.jump(i, b) {
			return false
		}
	}
	q.settle(part)
	return q.allClean()
}

func (q *pass) begin(part []int) {
	q.stack, q.ready, q.failed = q.stack[:0], q.ready[:0], -1
	for _, i := range part {
		q.inPart[i] = true
		q.caps[i] = far
		if !q.back {
			q.caps[i] = -far
		}
	}
	for _, i := range part {
		q.waiting[i] = 0
		for _, k := range q.needs(i) {
			if q.inPart[q.other(k, i)] {
				q.waiting[i]++
			}
		}
		if q.waiting[i] == 0 {
			q.ready = append(q.ready, i)
		}
	}
}

// pick takes the next step: what is tied by a longest wait under a day to one
// that stands comes at once, the last first; else the largest key.
func (q *pass) pick() int {
	best := -1
	for k := len(q.ready) - 1; k >= 0; k-- {
		i := q.ready[k]
		if q.p.placed(i) || q.waiting[i] > 0 { // taken back meanwhile
			q.ready = slices.Delete(q.ready, k, k+1)
			if best > k {
				best--
			}
			continue
		}
		if q.tied(i) {
			best = k
			break
		}
		if best < 0 || q.key[i] > q.key[q.ready[best]] {
			best = k
		}
	}
	if best < 0 {
		return -1
	}
	i := q.ready[best]
	q.ready = slices.Delete(q.ready, best, best+1)
	return i
}

func (q *pass) tied(i int) bool {
	for _, k := range q.needs(i) {
		if q.t.arcs[k].max < aDay && q.inPart[q.other(k, i)] {
			return true
		}
	}
	for _, k := range q.t.holdsOf[i] {
		h := &q.t.holds[k]
		if o := h.from + h.to - i; o != i && q.inPart[o] && q.p.placed(o) {
			return true
		}
	}
	return false
}

// limits are the bounds of a step given what stands. tie is the arc whose
// longest wait narrows them, -1 when none does; loose is the bound without it.
type limits struct{ lb, ub, tie, loose int }

func (q *pass) bounds(i int) limits {
	t, p := q.t, q.p
	length := t.steps[i].length
	b := limits{lb: q.least[i], ub: q.most[i], tie: -1}
	if q.inPart[i] {
		if q.back {
			b.ub = min(b.ub, q.caps[i])
		} else {
			b.lb = max(b.lb, q.caps[i])
		}
	}
	for _, k := range t.next[i] {
		if a := &t.arcs[k]; p.placed(a.to) {
			b.ub = min(b.ub, p.start[a.to]-a.min-length)
		}
	}
	for _, k := range t.prev[i] {
		if a := &t.arcs[k]; p.placed(a.from) {
			b.lb = max(b.lb, p.end(a.from)+a.min)
		}
	}
	q.spared(i, &b)
	b.loose = b.ub
	if q.back {
		b.loose = b.lb
	}
	for _, k := range t.next[i] {
		if a := &t.arcs[k]; a.max < far && p.placed(a.to) {
			if x := p.start[a.to] - a.max - length; x > b.lb {
				b.lb = x
				if q.back {
					b.tie = k
				}
			}
		}
	}
	for _, k := range t.prev[i] {
		if a := &t.arcs[k]; a.max < far && p.placed(a.from) {
			if x := p.end(a.from) + a.max; x < b.ub {
				b.ub = x
				if !q.back {
					b.tie = k
				}
			}
		}
	}
	return b
}

// spared keeps the spare after drying that the pass asks for.
func (q *pass) spared(i int, b *limits) {
	t, p := q.t, q.p
	if s := &t.steps[i]; s.dries && q.goal[s.batch] > 0 {
		x := &t.batches[s.batch]
		if len(x.gates) == 0 {
			b.ub = min(b.ub, t.commissions[x.commission].handOver-q.goal[s.batch]-s.length)
		}
		for _, g := range x.gates {
			if p.placed(g) {
				b.ub = min(b.ub, p.start[g]-q.goal[s.batch]-s.length)
			}
		}
	}
	for _, y := range t.gateOf[i] {
		if q.goal[y] == 0 {
			continue
		}
		for _, d := range t.batches[y].dries {
			if p.placed(d) {
				b.lb = max(b.lb, p.end(d)+q.goal[y])
			}
		}
	}
}
