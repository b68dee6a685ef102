package bench

import (
	"fmt"
	"math/bits"
	"slices"
)

func handsOf(mask uint8) []int {
	var out []int
	for m := mask; m != 0; m &= m - 1 {
		out = append(out, bits.TrailingZeros8(m)+1)
	}
	return out
}

// report says of the best plan where each step stands, why, and what decides.
func (s *search) report(r request) Plan {
	t, p := s.t, s.best
	v := p.value()
	later, earlier := p.reasons()
	second, whole := s.second()
	out := Plan{Format: PlanFormat, Instance: t.in.Name, Feasible: v[late] == 0, Objective: make([]float64, told), Span: v[span], SlackOfWhole: whole, Gap: -1,
		Ops: []Planned{}, LeastSpare: p.leastSpare(), Warnings: append(slices.Clone(t.warnings), p.lossWarnings()...)}
	for a := range out.Objective {
		out.Objective[a] = float64(v[a])
	}
	out.Objective[stale] = p.score.staleExactly()
	begin, could := far, far
	for i := range t.steps {
		st := &t.steps[i]
		o := Planned{Op: st.id, Start: t.instant(p.start[i]), End: t.instant(p.end(i)), State: st.state}
		if st.attended {
			o.Hands = handsOf(p.hands[i])
		}
		if st.planned() {
			if w := p.window[i]; w >= 0 {
				o.Window = t.windows[w].id
				o.CleanDown = p.cleanedBefore(i)
			}
			o.LatestStart, o.Slack = t.instant(second[i]), second[i]-p.start[i]
			o.NotLater, o.NotEarlier = later[i], earlier[i]
			begin, could = min(begin, p.start[i]), min(could, second[i])
		}
		out.Ops = append(out.Ops, o)
	}
	p.tellSpare(out.Ops)
	if begin < far {
		out.StartBy = t.instant(begin)
		out.CouldBeginBy = t.instant(s.couldBegin(r, could, &v))
	}
	out.Holds = p.copiesUsed()
	out.CriticalChain = p.chain(later)
	out.Loads = p.loads()
	out.Late = p.lateOnes()
	out.Moved = s.movedOnes(later, earlier)
	s.bounds(&out, r, &v)
	return out
}

// told is how many aims a plan tells.
const told = 10

func (s *score) staleExactly() float64 {
	sum := 0.0
	for b := range s.batches {
		sum += s.batches[b].stale
	}
	return sum
}

func (p *sheet) cleanedBefore(i int) int {
	c := 0
	for m := p.hands[i]; m != 0; m &= m - 1 {
		for _, e := range p.lines[p.window[i]*maxPeople+bits.TrailingZeros8(m)] {
			if e.step == i {
				c = max(c, e.clean)
			}
		}
	}
	return c
}

// reasons judges the plan with its waits as late as they may be.
func (p *sheet) reasons() (later, earlier []*Reason) {
	t := p.t
	q := newPass(t, never)
	u := p.clone()
	q.p, q.back = u, true
	q.least, q.most = slices.Repeat([]int{0}, len(t.steps)), make([]int, len(t.steps))
	for i := range t.steps {
		q.most[i] = min(t.steps[i].notAfter, max(t.commissions[t.steps[i].commission].handOver, p.end(i))) - t.steps[i].length
	}
	for k := len(t.topo) - 1; k >= 0; k-- {
		if i := t.topo[k]; !t.steps[i].attended && t.free(i) && len(t.next[i]) > 0 {
			q.shift(i)
		}
	}
	later, earlier = make([]*Reason, len(t.steps)), make([]*Reason, len(t.steps))
	for i := range t.steps {
		if !t.steps[i].planned() {
			continue
		}
		later[i], earlier[i] = u.why(i, +1), u.why(i, -1)
		if moved := u.start[i] - p.start[i]; moved > 0 {
			later[i] = &Reason{By: "choice", Say: fmt.Sprintf("It begins as soon as it can; it could wait up to %d min more.", moved), step: later[i].step}
			earlier[i] = p.why(i, -1)
		}
	}
	return later, earlier
}

// shift moves a step as far as it goes in the direction of the pass, all others
// kept; what cannot move stays.
func (q *pass) shift(i int) bool {
	p := q.p
	was := p.where(i)
	p.lift(i)
	b := q.bounds(i)
	if q.back {
		b.lb = was.start
	} else {
		b.ub = was.start
	}
	at, w, hands, ok := q.find(i, b.lb, b.ub)
	if !ok {
		p.back(was)
		return false
	}
	p.back(place{i, at, w, hands})
	if w >= 0 && was.window >= 0 && !(p.cleanWindow(w) && p.cleanWindow(was.window)) {
		p.lift(i)
		p.back(was)
		return false
	}
	return at != was.start
}

func (p *sheet) cleanWindow(w int) bool {
	for h := range p.t.windows[w].people {
		if !p.clean(w*maxPeople + h) {
			return false
		}
	}
	return true
}

// tellSpare writes the spare of each batch that wants some to its last drying.
func (p *sheet) tellSpare(ops []Planned) {
	for b := range p.t.batches {
		x := &p.t.batches[b]
		if x.want == 0 || !x.counted || len(x.dries) == 0 {
			continue
		}
		last := x.dries[0]
		for _, d := range x.dries {
			if p.end(d) > p.end(last) {
				last = d
			}
		}
		ops[last].Spare = new(p.score.batches[b].spare)
	}
}

func (p *sheet) leastSpare() []Spare {
	t := p.t
	out := []Spare{}
	for c := range t.commissions {
		least := -1
		for b := range t.batches {
			if x := &t.batches[b]; x.commission == c && x.want > 0 && x.counted && (least < 0 || p.score.batches[b].spare < p.score.batches[least].spare) {
				least = b
			}
		}
		if least >= 0 {
			out = append(out, Spare{t.commissions[c].id, t.in.Batches[least].ID, p.score.batches[least].spare, t.batches[least].want})
		}
	}
	return out
}

// lateOnes are the commissions that end after their hand-over, with what stands there.
func (p *sheet) lateOnes() (out []Late) {
	t := p.t
	for c, x := range t.commissions {
		end, last := -far, -1
		for _, i := range t.last[c] {
			if p.end(i) > end {
				end, last = p.end(i), i
			}
		}
		if last < 0 || end <= x.handOver {
			continue
		}
		by := t.steps[last].id
		for i := last; i >= 0 && t.steps[i].planned(); { // back along what forbids an earlier start
			r := p.why(i, -1)
			if r.step < 0 {
				by = r.Say
				break
			}
			if p.start[r.step] >= p.start[i] {
				break
			}
			by, i = r.Say, r.step
		}
		out = append(out, Late{x.id, end - x.handOver, by})
	}
	return out
}

// copiesUsed lists every use and hold with the copies it gets: the first free ones.
func (p *sheet) copiesUsed() []Held {
	t := p.t
	type row struct{ resource, count, from, to int }
	var rows []row
	for i := range t.steps {
		for _, u := range t.steps[i].uses {
			rows = append(rows, row{u.resource, u.count, i, i})
		}
	}
	for _, h := range t.holds {
		rows = append(rows, row{h.resource, h.count, h.from, h.to})
	}
	slices.SortStableFunc(rows, func(a, b row) int { return p.start[a.from] - p.start[b.from] })
	freeAt := make([][]int, len(t.resources))
	for r := range freeAt {
		freeAt[r] = slices.Repeat([]int{-far}, t.resources[r].Capacity)
	}
	out := []Held{}
	for _, x := range rows {
		h := Held{Resource: t.resources[x.resource].ID, Count: x.count, From: t.steps[x.from].id, To: t.steps[x.to].id,
			Start: t.instant(p.start[x.from]), End: t.instant(p.end(x.to)), Units: []int{}}
		free := freeAt[x.resource]
		for u := range free {
			if len(h.Units) < x.count && free[u] <= p.start[x.from] {
				free[u] = p.end(x.to)
				h.Units = append(h.Units, u+1)
			}
		}
		for u := 0; len(h.Units) < x.count && u < len(free); u++ { // more in use than there are: facts
			if !slices.Contains(h.Units, u+1) {
				free[u] = max(free[u], p.end(x.to))
				h.Units = append(h.Units, u+1)
			}
		}
		out = append(out, h)
	}
	return out
}

// chain follows what decides from the first planned step to the hand-over.
func (p *sheet) chain(later []*Reason) []string {
	t := p.t
	at := -1
	for i := range t.steps {
		if t.steps[i].planned() && (at < 0 || p.start[i] < p.start[at]) {
			at = i
		}
	}
	out := []string{}
	seen := map[int]bool{}
	for at >= 0 && !seen[at] {
		seen[at] = true
		out = append(out, t.steps[at].id)
		next := -1
		if r := later[at]; r != nil && r.step >= 0 && p.start[r.step] >= p.start[at] && (r.By == "successor" || r.By == "hands" || r.By == "cleanDown") {
			next = r.step
		} else {
			tight := far
			for _, k := range t.next[at] {
				a := &t.arcs[k]
				if gap := p.start[a.to] - p.end(at) - a.min; gap < tight {
					tight, next = gap, a.to
				}
			}
		}
		at = next
	}
	return out
}

func (p *sheet) loads() []Load {
	t := p.t
	out := []Load{}
	for r, res := range t.resources {
		l := Load{Resource: res.ID, Peak: p.taken[r].peak()}
		x := &p.taken[r]
		for k := 0; k+1 < len(x.at); k++ {
			l.Used += x.level[k] * (x.at[k+1] - x.at[k])
		}
		if n := len(x.at); n > 1 {
			l.Offered = res.Capacity * (x.at[n-1] - x.at[0])
			l.Share = float64(l.Used) / float64(l.Offered)
		}
		out = append(out, l)
	}
	for w := range t.windows {
		win := &t.windows[w]
		l := Load{Resource: "hands:" + win.id, Offered: win.people * (win.end - win.start)}
		for h := range maxPeople {
			for _, e := range p.lines[w*maxPeople+h] {
				l.Used += e.end - e.start
			}
			if len(p.lines[w*maxPeople+h]) > 0 {
				l.Peak++
			}
		}
		l.Share = float64(l.Used) / float64(l.Offered)
		out = append(out, l)
	}
	return out
}
