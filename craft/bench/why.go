package bench

import (
	"fmt"
	"slices"
)

// why says what forbids step i one minute later (+1) or earlier (-1), all
// other steps kept.
func (p *pass) why(i, d int) *Reason {
	t := p.t
	s := &t.steps[i]
	at := p.start[i] + d
	end := at + s.length
	name := func(j int) string { return t.steps[j].id }
	if s.pinned != noTime {
		return &Reason{By: "pinned", Say: "It is pinned there.", step: -1}
	}
	if d > 0 {
		if end > s.notAfter {
			return &Reason{By: "notAfter", Say: "It must be over by then.", step: -1}
		}
		for _, k := range t.next[i] {
			if a := &t.arcs[k]; p.placed(a.to) && p.start[a.to]-end < a.min {
				return &Reason{By: "successor", What: name(a.to), Say: name(a.to) + " comes next.", step: a.to}
			}
		}
		for _, k := range t.prev[i] {
			if a := &t.arcs[k]; a.max < far && at-p.end(a.from) > a.max {
				return &Reason{By: "longestWait", What: name(a.from), Say: fmt.Sprintf("%s may lie no longer than %d min.", name(a.from), a.max), step: -1}
			}
		}
		c := t.commissions[s.commission]
		if end > c.handOver {
			return &Reason{By: "handOver", What: c.id, Say: "It is handed over then.", step: -1}
		}
		if end > c.handOver-c.buffer && p.end(i) <= c.handOver-c.buffer {
			return &Reason{By: "buffer", What: c.id, Say: fmt.Sprintf("The %d min before the hand-over are kept free.", c.buffer), step: -1}
		}
	} else {
		switch {
		case at < 0:
			return &Reason{By: "now", Say: "It cannot begin before now.", step: -1}
		case at < s.notBefore:
			return &Reason{By: "notBefore", Say: "It may not begin before then.", step: -1}
		case at < s.fresh:
			return &Reason{By: "freshness", Say: "Made earlier it would not be fresh at the hand-over.", step: -1}
		}
		for _, k := range t.prev[i] {
			if a := &t.arcs[k]; at-p.end(a.from) < a.min {
				return &Reason{By: "predecessor", What: name(a.from), Say: name(a.from) + " must be over.", step: a.from}
			}
		}
		for _, k := range t.next[i] {
			if a := &t.arcs[k]; a.max < far && p.placed(a.to) && p.start[a.to]-end > a.max {
				return &Reason{By: "longestWait", What: name(a.to), Say: fmt.Sprintf("It may lie no longer than %d min before %s.", a.max, name(a.to)), step: -1}
			}
		}
	}
	if r := p.whyPlace(i, at, d); r != nil {
		return r
	}
	if d > 0 {
		return &Reason{By: "choice", Say: "It could begin later; here it keeps the sessions few and the hours welcome.", step: -1}
	}
	return &Reason{By: "choice", Say: "It could begin earlier; later keeps the piece fresher.", step: -1}
}

// whyPlace asks window, copies and hands.
func (p *pass) whyPlace(i, at, d int) *Reason {
	t := p.t
	s := &t.steps[i]
	w := p.window[i]
	if w >= 0 && (at < t.windows[w].start || at+s.length > t.windows[w].end) {
		say := "Later it would not fit into the time at the bench."
		if d < 0 {
			say = "The time at the bench begins then."
		}
		return &Reason{By: "window", What: t.windows[w].id, Say: say, step: -1}
	}
	hands := p.hands[i]
	was, kept := p.start[i], p.stack
	p.lift(i)
	defer func() { p.put(i, was, w, hands); p.stack = kept }()
	resource := func(r, from, to, count, key int) *Reason {
		if a, _, over := p.overload(r, from, to, count, key, d > 0); over {
			who := -1
			for _, c := range p.busy[r] {
				if c.key != key && c.start <= a && c.end > a {
					who = c.key
					if who >= len(t.steps) {
						who = t.holds[who-len(t.steps)].from
					}
				}
			}
			return &Reason{By: "resource", What: t.resources[r].ID, Say: fmt.Sprintf("All of %s is taken by %s.", t.resources[r].ID, t.steps[who].id), step: who}
		}
		return nil
	}
	for _, u := range s.uses {
		if r := resource(u.resource, at, at+s.length, u.count, i); r != nil {
			return r
		}
	}
	for _, k := range t.holdsOf[i] {
		from, to, _ := p.held(k, i, at)
		if r := resource(t.holds[k].resource, from, to, t.holds[k].count, len(t.steps)+k); r != nil {
			return r
		}
	}
	if w < 0 {
		return nil
	}
	if _, ok := p.free(w, i, at); ok {
		return nil
	}
	for _, h := range hands {
		if ok, by, who := p.person(w, h-1, i, at); !ok {
			r := &Reason{By: by, step: who}
			if who >= 0 {
				r.What = t.steps[who].id
			}
			switch {
			case by == "cleanDown" && who < 0:
				r.Say = "Hands and board are cleaned first."
			case by == "cleanDown" && d > 0:
				r.Say = "Hands and board are cleaned before " + r.What + "."
			case by == "cleanDown":
				r.Say = "Hands and board are cleaned after " + r.What + "."
			case d > 0:
				r.Say = "The same hands do " + r.What + " next."
			default:
				r.Say = "The same hands are busy with " + r.What + "."
			}
			return r
		}
	}
	return nil
}

// copies lists every use and hold with the copies it gets: the first free ones.
func (p *pass) copies() []Held {
	t := p.t
	type row struct {
		resource, count, from, to int
	}
	var rows []row
	for i := range t.steps {
		for _, u := range t.steps[i].uses {
			rows = append(rows, row{u.resource, u.count, i, i})
		}
	}
	for _, h := range t.holds {
		rows = append(rows, row(h))
	}
	slices.SortStableFunc(rows, func(a, b row) int { return p.start[a.from] - p.start[b.from] })
	freeAt := make([][]int, len(t.resources))
	for r := range freeAt {
		freeAt[r] = make([]int, t.resources[r].Capacity)
		for u := range freeAt[r] {
			freeAt[r][u] = -far
		}
	}
	out := []Held{}
	for _, x := range rows {
		h := Held{Resource: t.resources[x.resource].ID, Count: x.count, From: t.steps[x.from].id, To: t.steps[x.to].id,
			Start: t.instant(p.start[x.from]), End: t.instant(p.end(x.to)), Units: []int{}}
		for u := range freeAt[x.resource] {
			if len(h.Units) < x.count && freeAt[x.resource][u] <= p.start[x.from] {
				freeAt[x.resource][u] = p.end(x.to)
				h.Units = append(h.Units, u+1)
			}
		}
		out = append(out, h)
	}
	return out
}

// chain follows what decides from the first planned step to the hand-over.
func (p *pass) chain(later []*Reason) []string {
	t := p.t
	at := -1
	for i := range t.steps {
		if t.steps[i].state == "planned" && (at < 0 || p.start[i] < p.start[at]) {
			at = i
		}
	}
	out := []string{}
	seen := map[int]bool{}
	for at >= 0 && !seen[at] {
		seen[at] = true
		out = append(out, t.steps[at].id)
		next := -1
		if r := later[at]; r != nil && r.step >= 0 && p.start[r.step] >= p.start[at] && (r.By == "successor" || r.By == "hands" || r.By == "cleanDown" || r.By == "resource") {
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

func (p *pass) loads() []Load {
	t := p.t
	out := []Load{}
	for r, res := range t.resources {
		l := Load{Resource: res.ID}
		first, last := far, -far
		for _, c := range p.busy[r] {
			l.Used += c.count * (c.end - c.start)
			first, last = min(first, c.start), max(last, c.end)
			sum := 0
			for _, d := range p.busy[r] {
				if d.start <= c.start && d.end > c.start {
					sum += d.count
				}
			}
			l.Peak = max(l.Peak, sum)
		}
		if last > first {
			l.Offered = res.Capacity * (last - first)
			l.Share = float64(l.Used) / float64(l.Offered)
		}
		out = append(out, l)
	}
	for w := range t.windows {
		win := &t.windows[w]
		l := Load{Resource: "hands:" + win.id, Offered: win.people * (win.end - win.start)}
		for h := range maxPeople {
			busy := false
			for _, e := range p.lines[w*maxPeople+h] {
				l.Used += e.end - e.start
				busy = true
			}
			if busy {
				l.Peak++
			}
		}
		if l.Offered > 0 {
			l.Share = float64(l.Used) / float64(l.Offered)
		}
		out = append(out, l)
	}
	return out
}
