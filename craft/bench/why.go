package bench

import (
	"fmt"
	"math/bits"
)

// why says what forbids step i one minute later (+1) or earlier (-1), all other
// steps kept.
func (p *sheet) why(i, d int) *Reason {
	t := p.t
	s := &t.steps[i]
	at := p.start[i] + d
	if s.pinned != noTime {
		return &Reason{By: "pinned", Say: "It is pinned there.", step: -1}
	}
	r := p.whyLater(i, at)
	if d < 0 {
		r = p.whyEarlier(i, at)
	}
	if r != nil {
		return r
	}
	if r := p.whyPlace(i, at, d); r != nil {
		return r
	}
	if d > 0 {
		return &Reason{By: "choice", Say: "It could begin later; here the plan as a whole is better: fewer evenings, welcome hours, a night in hand after drying.", step: -1}
	}
	return &Reason{By: "choice", Say: "It could begin earlier; here the plan as a whole is better.", step: -1}
}

func (p *sheet) whyLater(i, at int) *Reason {
	t := p.t
	s := &t.steps[i]
	end := at + s.length
	name := func(j int) string { return t.steps[j].id }
	if end > s.notAfter {
		return &Reason{By: "notAfter", Say: "It must be over by then.", step: -1}
	}
	for _, k := range t.next[i] {
		if a := &t.arcs[k]; p.start[a.to]-end < a.min {
			return &Reason{By: "successor", What: name(a.to), Say: name(a.to) + " comes next.", step: a.to}
		}
	}
	for _, k := range t.prev[i] {
		if a := &t.arcs[k]; a.max < far && at-p.end(a.from) > a.max {
			say := fmt.Sprintf("%s may lie no longer than %d min.", name(a.from), a.max)
			if a.max == 0 {
				say = fmt.Sprintf("It follows %s at once.", name(a.from))
			}
			return &Reason{By: "longestWait", What: name(a.from), Say: say, step: -1}
		}
	}
	c := t.commissions[s.commission]
	if end > c.handOver {
		return &Reason{By: "handOver", What: c.id, Say: "It is handed over then.", step: -1}
	}
	if end > c.handOver-c.buffer && p.end(i) <= c.handOver-c.buffer {
		return &Reason{By: "buffer", What: c.id, Say: fmt.Sprintf("The %d min before the hand-over are kept free.", c.buffer), step: -1}
	}
	return nil
}

func (p *sheet) whyEarlier(i, at int) *Reason {
	t := p.t
	s := &t.steps[i]
	name := func(j int) string { return t.steps[j].id }
	switch {
	case at < 0:
		return &Reason{By: "now", Say: "It cannot begin before now.", step: -1}
	case at < s.notBefore:
		return &Reason{By: "notBefore", Say: "It may not begin before then.", step: -1}
	case at < t.batches[s.batch].fresh:
		return &Reason{By: "freshness", Say: "Made earlier it would not be fresh at the hand-over.", step: -1}
	}
	for _, k := range t.prev[i] {
		if a := &t.arcs[k]; at-p.end(a.from) < a.min {
			return &Reason{By: "predecessor", What: name(a.from), Say: name(a.from) + " must be over.", step: a.from}
		}
	}
	for _, k := range t.next[i] {
		if a := &t.arcs[k]; a.max < far && p.start[a.to]-at-s.length > a.max {
			say := fmt.Sprintf("It may lie no longer than %d min before %s.", a.max, name(a.to))
			if a.max == 0 {
				say = fmt.Sprintf("%s follows at once.", name(a.to))
			}
			return &Reason{By: "longestWait", What: name(a.to), Say: say, step: -1}
		}
	}
	return nil
}

// whyPlace asks window, copies and hands.
func (p *sheet) whyPlace(i, at, d int) *Reason {
	t := p.t
	s := &t.steps[i]
	w := p.window[i]
	if w >= 0 && (at < t.windows[w].start && p.start[i] >= t.windows[w].start || at < t.windows[w].from ||
		at+s.length > t.windows[w].end && p.end(i) <= t.windows[w].end || at+s.length > t.windows[w].to) {
		say := "Later it would not fit into the time at the bench."
		if d < 0 {
			say = "The time at the bench begins then."
		}
		return &Reason{By: "window", What: t.windows[w].id, Say: say, step: -1}
	}
	was := p.where(i)
	p.lift(i)
	defer p.back(was)
	held := p.letGo(i)
	r := p.whyCopies(i, at, d)
	p.takeAgain(i, held)
	if r != nil || w < 0 {
		return r
	}
	for m := was.hands; m != 0; m &= m - 1 {
		l := w*maxPeople + bits.TrailingZeros8(m)
		ok, _, _ := p.person(l, i, at, d < 0)
		if ok {
			continue
		}
		r := &Reason{By: "hands", step: p.beside(l, i, at)}
		if r.step < 0 {
			r.By, r.step = "cleanDown", p.neighbour(l, i, at, d)
		}
		if r.step >= 0 {
			r.What = t.steps[r.step].id
		}
		switch {
		case r.By == "cleanDown" && r.step < 0:
			r.Say = "Hands and board are cleaned first."
		case r.By == "cleanDown" && d > 0:
			r.Say = "Hands and board are cleaned before " + r.What + "."
		case r.By == "cleanDown":
			r.Say = "Hands and board are cleaned after " + r.What + "."
		case d > 0:
			r.Say = "The same hands do " + r.What + " next."
		default:
			r.Say = "The same hands are busy with " + r.What + "."
		}
		return r
	}
	return nil
}

// beside is a step on a line that overlaps step i at a start, -1 when none does.
func (p *sheet) beside(l, i, at int) int {
	for _, x := range p.lines[l] {
		if x.start < at+p.t.steps[i].length && x.end > at {
			return x.step
		}
	}
	return -1
}

// neighbour is the coloured step next to a start on a line.
func (p *sheet) neighbour(l, i, at, d int) int {
	found := -1
	for _, x := range p.lines[l] {
		if x.colour < 0 {
			continue
		}
		if d > 0 && x.start >= at {
			return x.step
		}
		if d < 0 && x.start < at {
			found = x.step
		}
	}
	return found
}

func (p *sheet) whyCopies(i, at, d int) *Reason {
	t := p.t
	s := &t.steps[i]
	taken := func(r, from, to, count int) *Reason {
		a, _, over := p.taken[r].over(from, to, t.resources[r].Capacity-count, d < 0)
		if !over {
			return nil
		}
		who := p.whoHas(r, max(a, from))
		x := &Reason{By: "resource", What: t.resources[r].ID, Say: fmt.Sprintf("All of %s is taken.", t.resources[r].ID), step: who}
		if who >= 0 {
			x.Say = fmt.Sprintf("All of %s is taken, by %s among others.", t.resources[r].ID, t.steps[who].id)
		}
		return x
	}
	for _, u := range s.uses {
		if r := taken(u.resource, at, at+s.length, u.count); r != nil {
			return r
		}
	}
	for _, k := range t.holdsOf[i] {
		h := &t.holds[k]
		from, to := at, at+s.length
		if h.from == i && h.to != i {
			to = p.end(h.to)
		} else if h.to == i && h.from != i {
			from = p.start[h.from]
		}
		if r := taken(h.resource, from, to, h.count); r != nil {
			return r
		}
	}
	return nil
}

// whoHas is a step that has copies of a resource at an instant.
func (p *sheet) whoHas(r, at int) int {
	for j := range p.t.steps {
		if !p.placed(j) {
			continue
		}
		for _, u := range p.t.steps[j].uses {
			if u.resource == r && p.start[j] <= at && p.end(j) > at {
				return j
			}
		}
		for _, k := range p.t.holdsOf[j] {
			h := &p.t.holds[k]
			if h.resource == r && h.from == j && p.placed(h.to) && p.start[j] <= at && p.end(h.to) > at {
				return j
			}
		}
	}
	return -1
}
