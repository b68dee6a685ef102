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
