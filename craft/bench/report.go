package bench

import (
	"fmt"
	"slices"
)

// Plan is where every step stands, why it stands there, and what decides.
type Plan struct {
	Format        string    `json:"format"`
	Instance      string    `json:"instance"`
	Feasible      bool      `json:"feasible"`
	Objective     []int     `json:"objective"`
	Span          int       `json:"span"`
	StartBy       string    `json:"startBy,omitempty"`
	SlackOfWhole  bool      `json:"slackOfWhole"`
	Gap           float64   `json:"gap"`
	Late          []Late    `json:"late,omitempty"`
	Ops           []Planned `json:"ops"`
	Holds         []Held    `json:"holds"`
	CriticalChain []string  `json:"criticalChain"`
	Loads         []Load    `json:"loads"`
	Warnings      []Warning `json:"warnings,omitempty"`
}

// Late is a commission that ends after its hand-over, and what stands there.
type Late struct {
	Commission string `json:"commission"`
	Minutes    int    `json:"minutes"`
	By         string `json:"by"`
}

// Planned is a step in the plan.
type Planned struct {
	Op          string  `json:"op"`
	Start       string  `json:"start"`
	End         string  `json:"end"`
	State       string  `json:"state"`
	Window      string  `json:"window,omitempty"`
	Hands       []int   `json:"hands,omitempty"`
	CleanDown   int     `json:"cleanDown,omitempty"`
	LatestStart string  `json:"latestStart,omitempty"`
	Slack       int     `json:"slack"`
	NotLater    *Reason `json:"notLater,omitempty"`
	NotEarlier  *Reason `json:"notEarlier,omitempty"`
}

// Reason is what forbids one more minute.
type Reason struct {
	By   string `json:"by"`
	What string `json:"what,omitempty"`
	Say  string `json:"say"`
	step int    // in the way, -1 when none
}

// Held is copies of a resource over a stretch of time.
type Held struct {
	Resource string `json:"resource"`
	Count    int    `json:"count"`
	From     string `json:"from"`
	To       string `json:"to"`
	Start    string `json:"start"`
	End      string `json:"end"`
	Units    []int  `json:"units"`
}

// Load is how much of a resource, or of a window's hands, is used.
type Load struct {
	Resource string  `json:"resource"`
	Used     int     `json:"used"`
	Offered  int     `json:"offered"`
	Peak     int     `json:"peak"`
	Share    float64 `json:"share"`
}

// Warning is something that the plan had to leave aside.
type Warning struct {
	Code    string `json:"code"`
	Field   string `json:"field"`
	Message string `json:"message"`
}

// report settles the waits and says why each step stands where it does.
func (t *task) report(s *search) Plan {
	p := s.best
	later, earlier := make([]*Reason, len(t.steps)), make([]*Reason, len(t.steps))
	for i := range t.steps {
		if t.steps[i].state == "planned" {
			later[i], earlier[i] = p.why(i, +1), p.why(i, -1)
		}
	}
	unsettled := slices.Clone(p.start)
	p.settle()
	v := p.value()
	slackStart, whole := t.slack(p, v, s.stop)
	out := Plan{Format: PlanFormat, Instance: t.in.Name, Feasible: v[0] == 0, Objective: v[:7], Span: v[7], SlackOfWhole: whole, Gap: -1,
		Ops: []Planned{}, Holds: []Held{}, CriticalChain: []string{}, Loads: []Load{}, Warnings: t.warnings}
	begin := far
	for i := range t.steps {
		st := &t.steps[i]
		o := Planned{Op: st.id, Start: t.instant(p.start[i]), End: t.instant(p.end(i)), State: st.state, Hands: p.hands[i]}
		if st.state == "planned" {
			if w := p.window[i]; w >= 0 {
				o.Window = t.windows[w].id
				if st.colour >= 0 {
					for _, h := range p.hands[i] {
						o.CleanDown = max(o.CleanDown, p.cleanBefore(p.lines[w*maxPeople+h-1], nil, st.colour, p.start[i], st.rank, i))
					}
				}
			}
			o.LatestStart, o.Slack = t.instant(slackStart[i]), slackStart[i]-p.start[i]
			o.NotLater, o.NotEarlier = later[i], earlier[i]
			if moved := unsettled[i] - p.start[i]; moved > 0 {
				o.NotLater = &Reason{By: "choice", Say: fmt.Sprintf("It begins as soon as it can; it could wait up to %d min more.", moved), step: later[i].step}
				o.NotEarlier = p.why(i, -1)
			}
			begin = min(begin, slackStart[i])
		} else if !st.attended {
			o.Hands = nil
		}
		out.Ops = append(out.Ops, o)
	}
	if begin < far {
		out.StartBy = t.instant(begin)
	}
	out.Holds = p.copies()
	out.CriticalChain = p.chain(later)
	out.Loads = p.loads()
	for c, x := range t.commissions {
		end, last := -far, -1
		for i := range t.steps {
			if t.steps[i].commission == c && p.end(i) > end {
				end, last = p.end(i), i
			}
		}
		if last >= 0 && end > x.handOver {
			by := t.steps[last].id
			for i := last; i >= 0; { // back along what forbids an earlier start
				r := p.why(i, -1)
				if r.step < 0 || t.steps[i].state != "planned" {
					by = r.Say
					break
				}
				if p.start[r.step] >= p.start[i] {
					break
				}
				by, i = r.Say, r.step
			}
			out.Late = append(out.Late, Late{x.id, end - x.handOver, by})
		}
	}
	return out
}

// settle lets every wait that follows a step begin as early as lags and copies
// allow, never before its batch has begun.
func (p *pass) settle() {
	t := p.t
	for _, i := range t.topo {
		s := &t.steps[i]
		if s.attended || s.state != "planned" || s.pinned != noTime || len(t.prev[i]) == 0 {
			continue
		}
		begun := far
		for j := range t.steps {
			if t.steps[j].batch == s.batch && j != i {
				begun = min(begun, p.start[j])
			}
		}
		lb := max(0, s.notBefore, s.fresh)
		if begun < far {
			lb = max(lb, begun)
		}
		was := p.start[i]
		for _, k := range t.prev[i] {
			lb = max(lb, p.end(t.arcs[k].from)+t.arcs[k].min)
		}
		for _, k := range t.next[i] {
			if a := &t.arcs[k]; a.max < far {
				lb = max(lb, p.start[a.to]-a.max-s.length)
			}
		}
		if lb >= was {
			continue
		}
		p.lift(i)
		back := p.back
		p.back = false
		s2, _, _, ok := p.find(i, lb, was)
		p.back = back
		if !ok {
			s2 = was
		}
		p.put(i, s2, -1, nil)
	}
}

// slack is a second complete plan that begins no step earlier, ends by the
// hand-overs and opens no further off hours; when none is found, each step's
// own room with all others kept.
func (t *task) slack(p *pass, v vector, stop func() bool) ([]int, bool) {
	open := make([]bool, len(t.windows))
	for w := range open {
		open[w] = t.windows[w].preferred || slices.Contains(p.window, w)
	}
	targets := t.ends(0)
	for i := range t.steps {
		c := t.steps[i].commission
		targets[c] = max(targets[c], p.end(i))
	}
	most := t.latest(targets, open)
	for i := range most {
		most[i] = max(most[i], p.start[i])
	}
	for _, key := range t.keys(p.start, most, true) {
		q, ok := newPass(t, true, open, slices.Clone(p.start), most)
		if ok && q.run(key, stop) && q.value()[2] <= v[2] && q.value()[0] <= v[0] {
			return q.start, true
		}
	}
	out := slices.Clone(p.start)
	for i := range t.steps {
		s := &t.steps[i]
		if s.state != "planned" || s.pinned != noTime {
			continue
		}
		w, hands, was := p.window[i], p.hands[i], p.start[i]
		p.lift(i)
		oldLeast, oldMost, oldBack, oldOpen, oldCap := p.least[i], p.most[i], p.back, p.open, p.caps[i]
		p.least[i], p.most[i], p.back, p.open, p.caps[i] = was, targets[s.commission]-s.length, true, open, far
		if s.notAfter < far {
			p.most[i] = min(p.most[i], s.notAfter-s.length)
		}
		lb, ub, _, _ := p.bounds(i)
		if s2, _, _, ok := p.find(i, lb, ub); ok {
			out[i] = max(was, s2)
		}
		p.least[i], p.most[i], p.back, p.open, p.caps[i] = oldLeast, oldMost, oldBack, oldOpen, oldCap
		p.put(i, was, w, hands)
	}
	return out, false
}

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
