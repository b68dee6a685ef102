package bench

import (
	"fmt"
	"slices"

	"dustyfern/craft/fault"
)

// bind works out what follows from waits alone: gates and spare, the least that
// holds can be, what nothing of its commission follows.
func (t *task) bind() {
	n := len(t.steps)
	t.topoAt = make([]int, n)
	for k, i := range t.topo {
		t.topoAt[i] = k
	}
	t.lost = make([]bool, len(t.arcs))
	t.last = make([][]int, len(t.commissions))
	for i := range n {
		follows := slices.ContainsFunc(t.next[i], func(k int) bool { return t.steps[t.arcs[k].to].commission == t.steps[i].commission })
		if !follows {
			c := t.steps[i].commission
			t.last[c] = append(t.last[c], i)
		}
	}
	t.shortestHolds()
	t.gateOf = make([][]int, n)
	for b := range t.batches {
		t.readSpare(b)
	}
}

// shortestHolds is, by hold, the least time from the start of its first step
// to the end of its last: what is kept free while only one end stands.
func (t *task) shortestHolds() {
	dist := make([]int, len(t.steps))
	for k := range t.holds {
		h := &t.holds[k]
		for i := range dist {
			dist[i] = -1
		}
		dist[h.from] = t.steps[h.from].length
		for _, i := range t.topo[t.topoAt[h.from]:] {
			if dist[i] < 0 {
				continue
			}
			for _, a := range t.next[i] {
				arc := &t.arcs[a]
				dist[arc.to] = max(dist[arc.to], dist[i]+arc.min+t.steps[arc.to].length)
			}
		}
		h.least = max(dist[h.to], t.steps[h.to].length)
	}
}

// readSpare finds the gates of a batch, and the spare wanted after its drying: a
// night, unless it is joined semi-dry or set in what follows.
func (t *task) readSpare(b int) {
	x := &t.batches[b]
	for _, i := range x.steps {
		if t.steps[i].dries {
			x.dries = append(x.dries, i)
		}
	}
	limited := false
	reached := slices.Clone(x.dries)
	for at := 0; at < len(reached); at++ {
		i := reached[at]
		for _, l := range t.in.Lags {
			if t.byID[l.From] != i {
				continue
			}
			to := t.byID[l.To]
			mine := t.steps[to].batch == b
			if l.Max != nil && (!mine || t.steps[i].dries) {
				limited = true
			}
			if list := &x.gates; !mine && !slices.Contains(*list, to) {
				*list = append(*list, to)
			} else if mine && !slices.Contains(reached, to) {
				reached = append(reached, to)
			}
		}
	}
	if w := t.in.Batches[b].SpareMinutes; w != nil {
		x.want = *w
	} else if len(x.dries) > 0 && !limited {
		x.want = aNight
	}
	x.counted = slices.ContainsFunc(x.dries, func(i int) bool { return t.steps[i].planned() }) && !slices.ContainsFunc(x.gates, func(i int) bool { return !t.steps[i].planned() })
	if x.want > 0 && x.counted {
		for _, g := range x.gates {
			t.gateOf[g] = append(t.gateOf[g], b)
		}
	}
}

// aNight is the spare after drying that is wanted where nothing else is said.
const aNight = 720

// stand makes the sheet on which the search begins: facts, waits that begin by
// themselves, steps whose longest wait is given up (as early as they can), pins.
func (t *task) stand() (*sheet, error) {
	n := len(t.steps)
	t.set, t.isSet, t.begun = nil, make([]bool, n), make([]bool, n)
	p := newSheet(t)
	q := newPass(t, func() bool { return false })
	for w := range q.open {
		q.open[w] = true
	}
	q.p = p
	q.patience = wholePatience
	q.least, q.most = make([]int, n), make([]int, n)
	for i := range n {
		s := &t.steps[i]
		q.least[i], q.most[i] = max(0, s.notBefore, t.batches[s.batch].fresh), far/2
		if s.notAfter < far {
			q.most[i] = s.notAfter - s.length
		}
	}
	t.begin(p, q)
	for i := range n {
		s := &t.steps[i]
		if !s.planned() || s.pinned == noTime {
			continue
		}
		q.over = true
		b := q.bounds(i)
		at, w, hands, ok := q.find(i, max(b.lb, s.pinned), min(b.ub, s.pinned))
		q.over = false
		if !ok {
			return nil, fault.New(NoPlace, pinnedField(t, i), "Step %q is pinned to a time at which hands or copies are taken, or before what must come first: let it go, or pin it elsewhere.", s.id)
		}
		t.stands(p, place{i, at, w, hands})
	}
	for k, gone := range t.lost {
		if gone && !t.noHaste && t.free(t.arcs[k].to) {
			t.hasten(p, q, t.arcs[k].to)
		}
	}
	return p, nil
}

func pinnedField(t *task, i int) string {
	b := t.steps[i].batch
	return at("batches[%d].ops[%d].pinned", b, slices.Index(t.batches[b].steps, i))
}

func (t *task) stands(p *sheet, x place) {
	p.back(x)
	t.set = append(t.set, x)
	t.isSet[x.step] = true
}

// begin lets waits whose predecessors are all facts begin at once: only a full
// tray or former can delay them.
func (t *task) begin(p *sheet, q *pass) {
	for _, i := range t.topo {
		s := &t.steps[i]
		if !s.planned() {
			t.begun[i] = true
			continue
		}
		if s.attended || s.pinned != noTime || len(t.prev[i]) == 0 ||
			slices.ContainsFunc(t.prev[i], func(k int) bool { return !t.begun[t.arcs[k].from] }) {
			continue
		}
		at := q.least[i]
		if t.batches[s.batch].lostFrom != noTime { // it will not be fresh anyway
			at = max(0, s.notBefore)
		}
		for _, k := range t.prev[i] {
			at = max(at, p.end(t.arcs[k].from)+t.arcs[k].min)
		}
		if s.notAfter < far && at+s.length > s.notAfter {
			continue
		}
		if when, _, _, ok := q.find(i, at, far/2); ok {
			t.begun[i] = true
			t.stands(p, place{i, when, -1, 0})
			t.overdue(p, i)
		}
	}
}

// overdue gives up the longest waits to a step that began by itself, but later than
// they allow: nobody said that it began.
func (t *task) overdue(p *sheet, i int) {
	for _, k := range t.prev[i] {
		if a := &t.arcs[k]; a.max < far && p.start[i] > p.end(a.from)+a.max {
			t.arcs, t.lost = slices.Clone(t.arcs), slices.Clone(t.lost)
			t.arcs[k].max, t.lost[k] = far, true
		}
	}
}

// hasten places a step whose longest wait is given up, and what must come before
// it, as early as hands and copies allow.
func (t *task) hasten(p *sheet, q *pass, to int) {
	part := []int{to}
	for at := 0; at < len(part); at++ {
		for _, k := range t.prev[part[at]] {
			if f := t.arcs[k].from; t.free(f) && !slices.Contains(part, f) {
				part = append(part, f)
			}
		}
	}
	q.back, q.over = false, false
	for _, i := range part {
		q.key[i] = -t.topoAt[i]
		if t.batches[t.steps[i].batch].lostFrom != noTime { // it will not be fresh anyway
			q.least[i] = max(0, t.steps[i].notBefore)
		}
	}
	if !q.run(part) {
		for _, i := range part {
			if p.placed(i) {
				p.lift(i)
			}
		}
		return
	}
	for _, i := range part {
		t.set = append(t.set, p.where(i))
		t.isSet[i] = true
	}
}

// lossy is a longest wait or a freshness that may be given up when nothing else helps.
type lossy struct{ arc, batch int }

func (t *task) lossies() []lossy {
	var out []lossy
	for k := range t.arcs {
		a := &t.arcs[k]
		if a.max < far && t.begun[a.from] && !t.begun[a.to] {
			out = append(out, lossy{k, -1})
		}
	}
	for b := range t.batches {
		if t.batches[b].fresh != noTime {
			out = append(out, lossy{-1, b})
		}
	}
	return out
}

// hopeless are the longest waits that no order can keep: already the earliest
// start without them is beyond.
func (t *task) hopeless() (out []lossy) {
	for _, l := range t.lossies() {
		if l.arc < 0 {
			continue
		}
		u := t.without(l)
		least, stuck := u.earliest(u.allOpen())
		a := &t.arcs[l.arc]
		end := t.steps[a.from].end
		if t.steps[a.from].planned() {
			end = least[a.from] + t.steps[a.from].length
		}
		if stuck < 0 && least[a.to] > end+a.max {
			out = append(out, l)
		}
	}
	return out
}

// older is by how many days a batch that cannot be fresh may be older, one after another.
var older = []int{1, 2, 3, 5, 8, 13}

// without is the task with one more thing given up.
func (t *task) without(l lossy) *task {
	u := *t
	if l.arc >= 0 {
		u.arcs, u.lost = slices.Clone(t.arcs), slices.Clone(t.lost)
		u.arcs[l.arc].max, u.lost[l.arc] = far, true
		return &u
	}
	u.batches = slices.Clone(t.batches)
	b := &u.batches[l.batch]
	if b.lostFrom == noTime {
		b.lostFrom = b.fresh
	}
	for _, days := range older {
		if x := b.lostFrom - days*aDay; x < b.fresh {
			b.fresh = x
			return &u
		}
	}
	b.fresh = noTime
	return &u
}

// lossWarnings name what was given up and is in fact exceeded.
func (p *sheet) lossWarnings() (out []Warning) {
	t := p.t
	for k, gone := range t.lost {
		if a := &t.arcs[k]; gone && p.exceeded(k) {
			l := t.in.Lags[a.index]
			out = append(out, Warning{"openTimeLost", fmt.Sprintf("lags[%d]", a.index),
				fmt.Sprintf("Step %q could wait %d min at most after %q, and waits %d: cover it, check the paste, or make it again.", l.To, *l.Max, l.From, p.start[a.to]-p.end(a.from))})
		}
	}
	for b := range t.batches {
		if p.staleNow(b) {
			out = append(out, Warning{"freshLost", fmt.Sprintf("batches[%d]", b),
				fmt.Sprintf("Batch %q is made %d min earlier than its freshness wishes: nothing later fits.", t.in.Batches[b].ID, t.batches[b].lostFrom-p.score.batches[b].first)})
		}
	}
	return out
}
