package bench

import (
	"fmt"
	"slices"

	"dustyfern/craft/fault"
)

func (t *task) readTimes(s *step, o *Op, f string) error {
	var err error
	if o.NotBefore != "" {
		if s.notBefore, err = t.minute(o.NotBefore, f+".notBefore"); err != nil {
			return err
		}
	}
	if o.NotAfter != "" {
		if s.notAfter, err = t.minute(o.NotAfter, f+".notAfter"); err != nil {
			return err
		}
	}
	if o.NotBefore != "" && o.NotAfter != "" && s.notAfter-s.notBefore < s.length {
		return fault.New(EmptyInterval, f+".notAfter", "Step %q needs %d minutes, and there are %d between notBefore and notAfter.", o.ID, s.length, s.notAfter-s.notBefore)
	}
	if o.Pinned != "" {
		if s.pinned, err = t.minute(o.Pinned, f+".pinned"); err != nil {
			return err
		}
		if s.pinned < 0 || o.NotBefore != "" && s.pinned < s.notBefore || o.NotAfter != "" && s.pinned+s.length > s.notAfter {
			return fault.New(PinnedOutside, f+".pinned", "Step %q is pinned where it may not be: in the past, or outside notBefore and notAfter.", o.ID)
		}
	}
	if o.Actual == nil {
		s.state = statePlanned
		return nil
	}
	if s.start, err = t.minute(o.Actual.Start, f+".actual.start"); err != nil {
		return err
	}
	if s.start > 0 {
		return fault.New(ActualInFuture, f+".actual.start", "Step %q cannot have begun after now.", o.ID)
	}
	s.state, s.end = stateRunning, max(s.start+s.length, 0)
	if o.Actual.End != "" {
		if s.end, err = t.minute(o.Actual.End, f+".actual.end"); err != nil {
			return err
		}
		if s.end > 0 {
			return fault.New(ActualInFuture, f+".actual.end", "Step %q cannot have ended after now.", o.ID)
		}
		if s.end < s.start {
			return fault.New(EmptyInterval, f+".actual.end", "Step %q ended before it began.", o.ID)
		}
		s.state = stateDone
	}
	for k, h := range o.Actual.Hands {
		if h < 1 || h > maxPeople {
			return fault.New(BadPeople, fmt.Sprintf("%s.actual.hands[%d]", f, k), "People are numbered 1 to 4.")
		}
		s.hands |= 1 << (h - 1)
	}
	if s.hands == 0 {
		s.hands = 1<<s.people - 1
	}
	return nil
}

func (t *task) readLags() error {
	t.next, t.prev = make([][]int, len(t.steps)), make([][]int, len(t.steps))
	for i, l := range t.in.Lags {
		a, ok := t.byID[l.From]
		if !ok {
			return fault.New(UnknownStep, at("lags[%d].from", i), "There is no step %q.", l.From)
		}
		b, ok := t.byID[l.To]
		if !ok {
			return fault.New(UnknownStep, at("lags[%d].to", i), "There is no step %q.", l.To)
		}
		most := far
		if l.Max != nil {
			most = *l.Max
		}
		if a == b || l.Min < 0 || most < l.Min || l.Min > mostLength {
			return fault.New(BadLag, at("lags[%d]", i), "A wait goes from one step to another, 0 <= min <= max.")
		}
		if !t.steps[b].planned() {
			if t.steps[a].planned() {
				t.warnings = append(t.warnings, Warning{"outOfOrder", at("lags[%d]", i), fmt.Sprintf("Step %q has begun before %q, which comes first; the link is ignored.", l.To, l.From)})
			}
			continue // a fact is not judged
		}
		k := len(t.arcs)
		t.arcs = append(t.arcs, arc{from: a, to: b, min: l.Min, max: most, index: i})
		t.next[a] = append(t.next[a], k)
		t.prev[b] = append(t.prev[b], k)
	}
	return nil
}

func (t *task) readHolds() error {
	t.holdsOf = make([][]int, len(t.steps))
	for i, h := range t.in.Holds {
		f := at("holds[%d]", i)
		r := t.resource(h.Resource)
		a, okA := t.byID[h.From]
		b, okB := t.byID[h.To]
		switch {
		case r < 0:
			return fault.New(UnknownResource, f+".resource", "There is no resource %q.", h.Resource)
		case !okA:
			return fault.New(UnknownStep, f+".from", "There is no step %q.", h.From)
		case !okB:
			return fault.New(UnknownStep, f+".to", "There is no step %q.", h.To)
		case h.Count < 1:
			return fault.New(BadCount, f+".count", "At least one copy is held, not %d.", h.Count)
		case h.Count > t.resources[r].Capacity:
			return fault.New(TooFewCopies, f, "%d of %q are held, but there are %d.", h.Count, h.Resource, t.resources[r].Capacity)
		}
		for _, s := range []int{a, b} {
			if slices.ContainsFunc(t.steps[s].uses, func(u need) bool { return u.resource == r }) {
				return fault.New(DuplicateHold, f, "Step %q holds %q twice.", t.steps[s].id, h.Resource)
			}
		}
		for _, k := range t.holdsOf[a] {
			if o := t.holds[k]; o.resource == r && o.from == a {
				return fault.New(DuplicateHold, f, "Step %q holds %q twice.", h.From, h.Resource)
			}
		}
		k := len(t.holds)
		t.holds = append(t.holds, hold{resource: r, count: h.Count, from: a, to: b})
		t.holdsOf[a] = append(t.holdsOf[a], k)
		if a != b {
			t.holdsOf[b] = append(t.holdsOf[b], k)
		}
	}
	return nil
}
