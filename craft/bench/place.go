package bench

import (
	"slices"
)

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
		p.take(u.resource, claim{p.start[i], p.end(i), u.count, i})
	}
	for _, k := range p.t.holdsOf[i] {
		p.drop(p.t.holds[k].resource, len(p.t.steps)+k)
		from, to, _ := p.held(k, i, p.start[i])
		p.take(p.t.holds[k].resource, claim{from, to, p.t.holds[k].count, len(p.t.steps) + k})
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
			p.take(h.resource, claim{from, to, h.count, len(p.t.steps) + k})
		}
	}
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

// lookEvery is after how many steps a pass asks whether its time is up.
const lookEvery = 64
