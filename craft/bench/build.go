package bench

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"dustyfern/craft/fault"
)

// BuildIn is the topic plan.build. Passes is the effort of the search, counted in
// placements of steps; absent, as much as suits the size.
type BuildIn struct {
	Instance *Instance `json:"instance"`
	Order    any       `json:"order"`
	Passes   *int      `json:"passes"`
	Seed     *int      `json:"seed"`
}

// request is a BuildIn that was read.
type request struct {
	order      []string
	seed       int
	effort     int  // -1: as suits the size
	brief      bool // no search of its own for couldBeginBy
	stop, gone func() bool
}

func readOrder(o any, fallback string) ([]string, error) {
	switch x := o.(type) {
	case nil:
		return orders[fallback], nil
	case string:
		if l, ok := orders[x]; ok && x != "stable" || x == fallback {
			return l, nil
		}
		return nil, fault.New(fault.UnknownValue, "order", "The order is usual or span, or a list of names, not %q.", x)
	case []any:
		var out []string
		for i, e := range x {
			name, ok := e.(string)
			if !ok {
				return nil, fault.New(fault.Syntax, fmt.Sprintf("order[%d]", i), "An order is a list of names.")
			}
			if !slices.Contains(aims, name) || slices.Contains(out, name) {
				return nil, fault.New(fault.UnknownValue, fmt.Sprintf("order[%d]", i), "%q is no aim, or is named twice: late, broken, bufferShort, offHours, spareShort, crowd, sessions, cleanDown, stale, uneven, span, moved.", name)
			}
			out = append(out, name)
		}
		if len(out) == 0 {
			return nil, fault.New(fault.Required, "order", "List at least one aim.")
		}
		return out, nil
	}
	return nil, fault.New(fault.Syntax, "order", "The order is a word or a list of names.")
}

// ErrTime is a search that had to end before it found any plan.
var ErrTime = errors.New("the time was up before a plan was found")

func never() bool { return false }

// Build makes a plan for an instance. The same input gives the same plan.
func Build(in BuildIn) (Plan, error) { return made(in, never, never) }

// ErrEnough is the cause with which a context is cancelled to have the best that was found
// so far, as at its deadline.
var ErrEnough = errors.New("enough: the best so far is taken")

// given tells whether the plan is given up: nobody wants even the best so far.
func given(ctx context.Context) func() bool {
	return func() bool {
		return errors.Is(ctx.Err(), context.Canceled) && !errors.Is(context.Cause(ctx), ErrEnough)
	}
}

// BuildWithin makes a plan while ctx lasts: the best that was found by its deadline,
// or the first that is found after it; ErrTime when ctx was cancelled before.
func BuildWithin(ctx context.Context, in BuildIn) (Plan, error) {
	return made(in, func() bool { return ctx.Err() != nil }, given(ctx))
}

func made(in BuildIn, stop, gone func() bool) (Plan, error) {
	t, r, err := readRequest(in, "usual", stop, gone)
	if err != nil {
		return Plan{}, err
	}
	s, err := t.plan(r)
	if err != nil {
		return Plan{}, err
	}
	return s.report(r), nil
}

func readRequest(in BuildIn, order string, stop, gone func() bool) (*task, request, error) {
	r := request{effort: -1, stop: stop, gone: gone, seed: 1}
	if in.Instance == nil {
		return nil, r, fault.New(fault.Required, "instance", "What is to be planned?")
	}
	var err error
	if r.order, err = readOrder(in.Order, order); err != nil {
		return nil, r, err
	}
	if in.Passes != nil {
		if *in.Passes < 0 || *in.Passes > 1e7 {
			return nil, r, fault.New(fault.OutOfRange, "passes", "0 to 10000000 placements.")
		}
		r.effort = *in.Passes
	}
	if in.Seed != nil {
		r.seed = *in.Seed
	}
	t, err := translate(in.Instance)
	return t, r, err
}

// effortFor is the placements that suit a task of n steps.
func effortFor(n int) int {
	switch {
	case n <= 40:
		return n * 1000
	case n <= 150:
		return n * 330
	}
	return n * 360
}

// plan finds a plan; what can be kept in no way, or only by being late, is given up.
func (t *task) plan(r request) (*search, error) {
	t, base, err := t.firm()
	if err != nil {
		return nil, err
	}
	if _, stuck := t.earliest(t.allOpen()); stuck >= 0 {
		return t.giveWay(r, stuck)
	}
	s := newSearch(t, base, r.order, r.seed, r.stop, r.gone)
	s.starts()
	if s.best == nil || s.value[late] > 0 {
		if o := s.giveUp(r); o != nil {
			s = o
		}
	}
	if s.best == nil && !t.noHaste && slices.Contains(t.lost, true) {
		u := *t
		u.noHaste = true
		return u.plan(r)
	}
	if s.best == nil {
		if r.gone() {
			return nil, ErrTime
		}
		return nil, fault.New(NoPlace, at("windows"), "No plan was found in the hours that are given: open another window, or take a commission out.")
	}
	s.improve(r)
	return s, nil
}

// firm is the task without the waits that no order can keep, and the sheet on which
// its search begins.
func (t *task) firm() (*task, *sheet, error) {
	if _, err := t.stand(); err != nil {
		return nil, nil, err
	}
	for _, l := range t.hopeless() {
		t = t.without(l)
	}
	base, err := t.stand()
	return t, base, err
}

// giveWay looks for a freshness whose loss gives a step a place where there is none.
func (t *task) giveWay(r request, stuck int) (*search, error) {
	none := fault.New(NoPlace, at("windows"), "Step %q finds no place in the hours that are given, even late: open a later window.", t.steps[stuck].id)
	for _, l := range t.lossies() {
		u := t
		for range older {
			u = u.without(l)
			if _, err := u.stand(); err != nil {
				return nil, err
			}
			if _, s := u.earliest(u.allOpen()); s < 0 {
				return u.plan(r)
			}
			if l.arc >= 0 {
				break
			}
		}
	}
	return nil, none
}

// giveUp looks for what must be given up so that there is a plan, or a less late one:
// a search in which every running wait and every freshness is soft, and as few as can
// be are broken. What it breaks is given up, a freshness by as few days as will do.
func (s *search) giveUp(r request) *search {
	t := s.t
	list := t.lossies()
	if len(list) == 0 {
		return s
	}
	soft := *t
	soft.noHaste = true
	u := &soft
	for _, l := range list {
		u = u.without(l)
		if l.batch >= 0 {
			u.batches[l.batch].fresh = noTime
		}
	}
	o := u.quick(r)
	if o == nil || s.best != nil && o.value[late] >= s.value[late] {
		return s
	}
	v := t
	for _, l := range list {
		if l.arc >= 0 && o.best.exceeded(l.arc) {
			v = v.without(l)
		}
		for b := l.batch; b >= 0 && o.best.score.batches[b].first < v.batches[b].fresh; {
			v = v.without(l)
		}
	}
	base, err := v.stand()
	if err != nil {
		return s
	}
	x := newSearch(v, base, r.order, r.seed, r.stop, r.gone)
	x.starts()
	x.follow(o.best)
	if x.best == nil || s.best != nil && x.value[late] >= s.value[late] {
		return s
	}
	return x
}

// follow offers a plan of another task of the same steps, as far as it can stand here.
func (s *search) follow(p *sheet) {
	home := oldPlan{home: make([]place, len(s.t.steps))}
	for i := range home.home {
		home.home[i] = p.where(i)
	}
	if !s.aim(slices.Repeat([]int{far / 2}, len(s.t.commissions)), s.t.allOpen()) {
		return
	}
	s.q.home = home.home
	for level := range 3 {
		s.level(level, &home)
	}
	s.q.home = nil
}

// quick is a search of a tenth of the effort.
func (t *task) quick(r request) *search {
	base, err := t.stand()
	if err != nil {
		return nil
	}
	o := newSearch(t, base, r.order, r.seed, r.stop, r.gone)
	o.starts()
	if o.best == nil {
		return nil
	}
	o.renew(effortFor(len(t.steps)) / 10)
	return o
}

// improve searches on two lines of chance beside one another, and goes on with the
// better; where an aim that matters stays missed it searches longer.
func (s *search) improve(r request) {
	n := len(s.t.steps)
	effort := r.effort
	if effort < 0 {
		effort = effortFor(n)
		if s.anyHour() {
			effort *= 2
		}
	}
	if s.anyHour() {
		s.beginLater(effort / 4)
		effort -= effort / 4
	}
	s.both(r, effort)
	if r.effort < 0 && n > 40 && n <= 150 && s.missed(&s.value) >= 0 {
		s.both(r, 6*effort)
	}
	s.hurry()
}

// both renews twice beside one another. The plan does not depend on who ends first.
func (s *search) both(r request, effort int) {
	o := newSearch(s.t, s.base, r.order, r.seed+1000, r.stop, r.gone)
	o.best, o.value = s.best, s.value
	done := make(chan bool)
	go func() {
		o.renew(effort)
		close(done)
	}()
	s.renew(effort)
	<-done
	if o.value.compare(&s.value, &s.rank) < 0 {
		s.best, s.value = o.best, o.value
	}
}

// couldBegin is the latest first start of any plan found that is no later and no
// shorter of margin: the second plan, or what a short search for it finds.
func (s *search) couldBegin(r request, second int, v *vector) int {
	t := s.t
	begin := s.best.first()
	if s.anyHour() || v[late] > 0 || r.effort == 0 || r.brief {
		return max(begin, second)
	}
	o := newSearch(t, s.base, orders["span"], r.seed, r.stop, r.gone)
	o.best, o.value = s.best, *v
	n := len(t.steps)
	effort := n * 200
	if n > 150 {
		effort = n * 30
	} else if n > 40 {
		effort = n * 50
	}
	o.starts()
	o.renew(effort)
	begin = max(begin, second)
	if o.value[late] <= v[late] && o.value[broken] <= v[broken] && o.value[bufferShort] <= v[bufferShort] {
		begin = max(begin, o.best.first())
	}
	return begin
}

// first is the first planned start, far when nothing is planned.
func (p *sheet) first() int {
	first := far
	for b := range p.score.batches {
		first = min(first, p.score.batches[b].first)
	}
	return first
}
