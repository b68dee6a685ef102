package bench

import (
	"cmp"
	"context"
	"fmt"
	"math/bits"
	"slices"

	"dustyfern/craft/fault"
)

// ReplanIn is the topic plan.replan: the instance as it is now, and the plan that
// people follow.
type ReplanIn struct {
	Instance *Instance `json:"instance"`
	Plan     *Plan     `json:"plan"`
	Order    any       `json:"order"`
	Passes   *int      `json:"passes"`
	Seed     *int      `json:"seed"`
}

// Replan moves as little of a plan as what has happened since allows. The plan it
// gives lists what moved, from, to and why.
func Replan(in ReplanIn) (Plan, error) { return replanned(in, never, never) }

// ReplanWithin is Replan while ctx lasts, as BuildWithin is Build.
func ReplanWithin(ctx context.Context, in ReplanIn) (Plan, error) {
	return replanned(in, func() bool { return ctx.Err() != nil }, given(ctx))
}

func replanned(in ReplanIn, stop, gone func() bool) (Plan, error) {
	if in.Plan == nil {
		return Plan{}, fault.New(fault.Required, "plan", "Which plan is followed until now?")
	}
	t, r, err := readRequest(BuildIn{in.Instance, in.Order, in.Passes, in.Seed}, "stable", stop, gone)
	if err != nil {
		return Plan{}, err
	}
	old, err := t.readOld(in.Plan)
	if err != nil {
		return Plan{}, err
	}
	s, err := t.replan(r, old)
	if err != nil {
		return Plan{}, err
	}
	r.brief = true
	return s.report(r), nil
}

// oldPlan is where steps stood, by step; a start of noTime where there was none.
type oldPlan struct {
	home []place
	late int
}

func (t *task) readOld(p *Plan) (*oldPlan, error) {
	old := &oldPlan{home: make([]place, len(t.steps))}
	for i := range old.home {
		old.home[i] = place{i, noTime, -1, 0}
	}
	for k, o := range p.Ops {
		i, known := t.byID[o.Op]
		if !known {
			continue
		}
		start, err := t.minute(o.Start, planField(k))
		if err != nil {
			return nil, err
		}
		x := place{i, start, -1, 0}
		x.window = slices.IndexFunc(t.windows, func(w window) bool { return w.id == o.Window })
		for _, h := range o.Hands {
			if h >= 1 && h <= maxPeople {
				x.hands |= 1 << (h - 1)
			}
		}
		old.home[i] = x
	}
	for _, c := range t.commissions {
		over := 0
		for i, x := range old.home {
			if t.commissions[t.steps[i].commission].id == c.id && x.start != noTime {
				over = max(over, x.start+t.steps[i].length-c.handOver)
			}
		}
		old.late += over
	}
	return old, nil
}

func planField(k int) string { return fmt.Sprintf("plan.ops[%d].start", k) }

// replan keeps what can stay where it was and frees, level by level, more around it.
func (t *task) replan(r request, old *oldPlan) (*search, error) {
	t.old = old.home
	t, base, err := t.firm()
	if err != nil {
		return nil, err
	}
	if _, stuck := t.earliest(t.allOpen()); stuck >= 0 {
		return t.plan(r)
	}
	n := len(t.steps)
	effort := r.effort
	if effort < 0 {
		effort = n * 60
		if n <= 40 {
			effort = n * 300
		}
	}
	s := newSearch(t, base, r.order, r.seed, r.stop, r.gone)
	s.aim(slices.Repeat([]int{far / 2}, len(t.commissions)), t.allOpen())
	s.q.least, s.q.most, s.q.home = s.least, s.most, old.home
	for level := range 3 {
		s.level(level, old)
		if s.best != nil && s.value[late] <= old.late && s.value[moved] <= 2+len(s.all)/10 {
			break
		}
	}
	if s.best != nil {
		s.renew(effort)
	}
	if s.best == nil || s.value[late] > old.late {
		fresh := *t
		o, err := fresh.plan(request{order: r.order, seed: r.seed, effort: effort, stop: r.stop, gone: r.gone})
		if s.best == nil {
			return o, err
		}
		if err == nil && o.value[late] <= s.value[late]-30 {
			return o, nil
		}
	}
	return s, nil
}

// level stands everything in its old place as far as that goes, frees the rest
// with more or less of what is around it, and puts that back: near its old time.
func (s *search) level(level int, old *oldPlan) {
	t, q := s.t, s.q
	for _, back := range []bool{false, true} {
		p := s.base.clone()
		q.p, q.back, q.easy, q.aware, q.over, q.taste, q.patience = p, false, false, false, true, cleanest, wholePatience
		clear(q.goal)
		copy(q.open, t.allOpen())
		s.part = s.part[:0]
		s.goHome(p, old)
		s.widen(p, level, old)
		q.back = back
		for _, i := range s.part {
			s.mark[i] = false
			if p.placed(i) {
				if w := p.window[i]; w >= 0 {
					q.soil(w, p.hands[i])
				}
				p.lift(i)
			}
			q.key[i] = old.home[i].start
			if !back {
				q.key[i] = -q.key[i]
			}
		}
		s.reach(back)
		if q.run(s.part) {
			s.offer(p)
		} else {
			q.allClean()
		}
	}
	s.q.least, s.q.most = s.least, s.most
}

// reach bounds backward passes by the hand-overs, or nothing could stay.
func (s *search) reach(back bool) {
	s.q.least, s.q.most = s.least, s.most
	if back {
		s.q.most = s.due
	}
}

// goHome puts every step that still can into its old place, the earliest first;
// the others are the part.
func (s *search) goHome(p *sheet, old *oldPlan) {
	byTime := slices.Clone(s.all)
	slices.SortStableFunc(byTime, func(a, b int) int { return cmp.Compare(old.home[a].start, old.home[b].start) })
	for _, i := range byTime {
		b := s.q.bounds(i)
		at, w, hands, ok := s.q.atHome(i, b.lb, b.ub)
		if ok {
			p.put(i, at, w, hands)
		} else {
			s.add(i)
		}
	}
}

// widen frees the batches of what must move, then what follows it within its
// commission from a day before.
func (s *search) widen(p *sheet, level int, old *oldPlan) {
	n := len(s.part)
	if level >= 1 {
		for _, i := range s.part[:n] {
			s.addBatch(s.t.steps[i].batch)
		}
	}
	if level >= 2 {
		for _, i := range s.part[:n] {
			for _, j := range s.all {
				if s.t.steps[j].commission == s.t.steps[i].commission && old.home[j].start > old.home[i].start-aDay {
					s.add(j)
				}
			}
		}
	}
}

// atHome is the old place of step i when it is free and within [lb, ub]; with other
// hands when the old ones are not there.
func (q *pass) atHome(i, lb, ub int) (s, w int, hands uint8, ok bool) {
	if q.home == nil || q.home[i].start == noTime {
		return 0, -1, 0, false
	}
	x := q.home[i]
	st := &q.t.steps[i]
	if x.start < lb || x.start > ub || st.attended && x.window < 0 {
		return 0, -1, 0, false
	}
	held := q.p.letGo(i)
	defer q.p.takeAgain(i, held)
	if q.copies(i, x.start) != x.start {
		return 0, -1, 0, false
	}
	if !st.attended {
		return x.start, -1, 0, true
	}
	win := &q.t.windows[x.window]
	if !q.open[x.window] || x.start < win.from || x.start+st.length > win.to {
		return 0, -1, 0, false
	}
	mine := bits.OnesCount8(x.hands) == st.people
	for m := x.hands; m != 0 && mine; m &= m - 1 {
		h := bits.TrailingZeros8(m)
		if h >= win.people {
			mine = false
			break
		}
		mine, _, _ = q.p.person(x.window*maxPeople+h, i, x.start, q.back)
	}
	if mine {
		return x.start, x.window, x.hands, true
	}
	easy := q.easy
	q.easy = false
	hands, _, _ = q.anybody(x.window, i, x.start)
	q.easy = easy
	return x.start, x.window, hands, hands != 0
}

// movedSteps counts the planned steps that stand elsewhere than in the old plan.
func (p *sheet) movedSteps() int {
	n := 0
	for i := range p.t.steps {
		if h := p.t.old[i].start; h != noTime && p.t.steps[i].planned() && p.start[i] != h {
			n++
		}
	}
	return n
}

// movedOnes lists what moved, with the reason that binds on the side from which it
// was pushed.
func (s *search) movedOnes(later, earlier []*Reason) (out []Moved) {
	t, p := s.t, s.best
	for i := range t.steps {
		if t.old == nil || !t.steps[i].planned() || t.old[i].start == noTime || t.old[i].start == p.start[i] {
			continue
		}
		m := Moved{Op: t.steps[i].id, From: t.instant(t.old[i].start), To: t.instant(p.start[i]), By: p.start[i] - t.old[i].start}
		if r := earlier[i]; m.By > 0 && r != nil {
			m.Why = r.Say
		} else if r := later[i]; m.By < 0 && r != nil {
			m.Why = r.Say
		}
		out = append(out, m)
	}
	slices.SortStableFunc(out, func(a, b Moved) int { return cmp.Compare(a.To, b.To) })
	return out
}
