package plan

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// pin keeps a step of hands where somebody put it, as long as there are hours for it
// there; else it is let go, and said.
func (l *liner) pin(s *noun.Step, op *bench.Op) {
	at, ok := l.pins[op.ID]
	if !ok || !op.Attended || op.Actual != nil {
		return
	}
	if hoursFor(l.windows, at, lengthOf(op)) == nil {
		l.letGo(s, at, "there are no hours for it then")
		return
	}
	op.Pinned, s.Pinned = at.Format(time.RFC3339), &at
}

// hoursFor is the stretch at the bench that holds so many minutes from an instant on;
// nil: none does.
func hoursFor(hours []noun.Stretch, at time.Time, minutes int) *noun.Stretch {
	for i := range hours {
		w := &hours[i]
		if !at.Before(w.Start) && !at.Add(time.Duration(minutes)*time.Minute).After(w.End) {
			return w
		}
	}
	return nil
}

// lengthOf a step of hands, minutes.
func lengthOf(op *bench.Op) int {
	if op.Cycle != nil {
		m, _ := op.Cycle.Length()
		return m
	}
	if op.Minutes != nil {
		return *op.Minutes
	}
	return 0
}

func (l *liner) letGo(s *noun.Step, at time.Time, why string) {
	s.Pinned = nil
	delete(l.pins, s.Op)
	l.loose = append(l.loose, noun.Trouble{Code: "pin", CommissionID: s.CommissionID, Says: fmt.Sprintf("%s could not stay at %s: %s.", s.Title, l.b.Reader.Time(at.In(l.b.Now.Location()), l.b.Now), why),
		Remedy: "It stands where it fits; pin it anew if you like.", Do: "Its line", To: pageOf(s.CommissionID, "line")})
}

// unpin lets pins go that no plan can keep: those of the order that the planner names,
// else all.
func (l *liner) unpin(err error) bool {
	var f *fault.Fault
	if len(l.pins) == 0 || !errors.As(err, &f) || f.Code != bench.NoPlace && f.Code != bench.PinnedOutside && f.Code != bench.PinnedOutsideWindow {
		return false
	}
	of := func(commission string) bool {
		for op := range l.pins {
			if st := l.steps[op]; st != nil && fmt.Sprintf("c%d", st.CommissionID) == commission {
				return true
			}
		}
		return false
	}
	named, _ := l.cannot(err)
	for i := range l.in.Batches {
		if of(named) && l.in.Batches[i].Commission != named {
			continue
		}
		for j := range l.in.Batches[i].Ops {
			if op := &l.in.Batches[i].Ops[j]; op.Pinned != "" {
				l.letGo(l.steps[op.ID], l.pins[op.ID], "nothing would fit round it")
				op.Pinned = ""
			}
		}
	}
	return true
}

// PinView is what comes of a step that begins at another time, before it is put there.
type PinView struct {
	Op     string       `json:"op"`
	Title  string       `json:"title"`
	At     int64        `json:"at" doc:"ms since 1970, on a whole minute"`
	Says   string       `json:"says" doc:"where it would stand, in a sentence"`
	May    bool         `json:"may" doc:"it can stand there"`
	Moves  []string     `json:"moves" doc:"what else moves, from and to; the earliest first"`
	Moved  int          `json:"moved" doc:"how many others move, of at most 30"`
	Worse  []string     `json:"worse" doc:"what is lost by it: lateness, margin, time in hand"`
	Places []noun.Place `json:"places" doc:"where what moves would stand"`
}

// mostPinMoves is how many moved steps a look names.
const mostPinMoves = 6

// LookPin plans with a step begun at an instant, and says what comes of it. Nothing is
// kept.
func (s *Planning) LookPin(ctx context.Context, slug, op string, at time.Time) (out PinView, err error) {
	in, err := s.planInputs(ctx, slug)
	if err != nil {
		return out, err
	}
	i := slices.IndexFunc(in.steps, func(st noun.Step) bool { return st.Op == op })
	if i < 0 {
		return out, journal.ErrNotFound
	}
	st := in.steps[i]
	if err := mayPin(&st); err != nil {
		return out, err
	}
	at = at.In(in.now.Location()).Truncate(time.Minute)
	r := read.Reader{K: in.k}
	out = PinView{Op: op, Title: st.Title, At: at.UnixMilli(), Moves: []string{}, Worse: []string{}, Places: []noun.Place{}}
	if at.Before(in.now.Truncate(time.Minute)) {
		out.Says = "That is past already."
		return out, nil
	}
	in.steps = slices.Clone(in.steps)
	in.steps[i].Pinned = &at
	l, err := instance(ctx, in.bench, in.commissions, in.pieces, in.steps, in.onBoard)
	if err != nil {
		return out, err
	}
	length := int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
	if _, stays := l.pins[op]; !stays {
		out.Says = "It cannot stand at " + r.Time(at, in.now) + ": " + noHours(l.windows, at, length, r)
		return out, nil
	}
	within, cancel := context.WithTimeout(ctx, cmp.Or(s.Budget, planBudget))
	defer cancel()
	plan, planned := l.make(within, in.old, in.steps, "")
	if ctx.Err() != nil {
		return out, ctx.Err()
	}
	if _, stays := l.pins[op]; !stays {
		out.Says = "It cannot stand at " + r.Time(at, in.now) + ": " + "what comes before or after it would find no place."
		return out, nil
	}
	if planned == nil {
		out.Says = "No plan was found with it at " + r.Time(at, in.now) + "."
		return out, nil
	}
	out.May, out.Says = true, fmt.Sprintf("From %s to %s.", r.Time(at, in.now), r.Time(at.Add(st.PlannedEnd.Sub(st.PlannedStart)), in.now))
	in.effects(&out, plan, planned, r)
	for _, x := range l.loose { // pins of others that it costs
		out.Worse = append(out.Worse, x.Says)
	}
	return out, nil
}

// noHours says what hours there are on a day on which a step finds none.
func noHours(hours []noun.Stretch, at time.Time, length int, r read.Reader) string {
	say := "the bench is shut on that day."
	for _, w := range hours {
		if w.Day != at.Format(time.DateOnly) {
			continue
		}
		say = fmt.Sprintf("it takes %s, and the bench is open from %s to %s.", read.SayMinutes(length), r.Clock(w.Start), r.Clock(w.End))
		if w.End.After(at) {
			break
		}
	}
	return say
}

// effects says what else moves, and what is lost against the plan that stands.
func (in *inputs) effects(out *PinView, plan *noun.Plan, planned []noun.Step, r read.Reader) {
	standing := map[string]noun.Step{}
	for _, st := range in.steps {
		if st.ActualStart == nil {
			standing[st.Op] = st
		}
	}
	for _, st := range planned {
		if was, ok := standing[st.Op]; ok && !was.PlannedStart.Equal(st.PlannedStart) {
			out.Places = append(out.Places, noun.Place{Op: st.Op, Start: st.PlannedStart, End: st.PlannedEnd})
		}
	}
	moved, _ := shifts(standing, planned, r, in.now)
	moved = slices.DeleteFunc(moved, func(m noun.MovedLine) bool { return m.Op == out.Op })
	out.Moved = len(moved)
	for _, m := range moved[:min(len(moved), mostPinMoves)] {
		out.Moves = append(out.Moves, fmt.Sprintf("%s: from %s to %s", m.Title, m.From, m.To))
	}
	titles := noun.TitlesOf(in.commissions)
	old := &noun.Summary{}
	if in.old != nil {
		old = &in.old.Summary
	}
	for _, x := range plan.Summary.Late {
		before := 0
		for _, y := range old.Late {
			if y.CommissionID == x.CommissionID {
				before = y.Minutes
			}
		}
		if x.Minutes > before {
			out.Worse = append(out.Worse, fmt.Sprintf("%s would be %s late.", titles[x.CommissionID], read.SayMinutes(x.Minutes)))
		}
	}
	for _, x := range plan.Summary.Margin {
		for _, y := range old.Margin {
			if y.CommissionID == x.CommissionID && x.Minutes < y.Minutes && x.Minutes < x.Wanted {
				out.Worse = append(out.Worse, titles[x.CommissionID]+": "+x.Says)
			}
		}
	}
	for _, x := range plan.Summary.Spare {
		for _, y := range old.Spare {
			if y.CommissionID == x.CommissionID && x.Minutes < y.Minutes && x.Minutes < x.Wanted {
				out.Worse = append(out.Worse, titles[x.CommissionID]+": "+x.Says)
			}
		}
	}
}

// mayPin refuses what is no longer to come, and what needs no hands.
func mayPin(st *noun.Step) error {
	switch {
	case st.ActualStart != nil:
		return fault.New(fault.Contradiction, "op", "It has begun: it cannot be put elsewhere.")
	case !st.Attended:
		return fault.New(fault.Contradiction, "op", "It waits without hands and begins by itself: put the step before it elsewhere.")
	}
	return nil
}

// Pin puts a step to an instant, where it stays whatever else moves; the zero time lets
// it go again.
func (s *Planning) Pin(ctx context.Context, slug, op string, at time.Time) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		st, err := a.Step(op)
		if err != nil {
			return err
		}
		if err := mayPin(&st); err != nil {
			return err
		}
		if at.IsZero() {
			if st.Pinned == nil {
				return nil
			}
			st.Pinned = nil
			a.Say(st.CommissionID, "let go of %s", st.Title)
			return a.SaveStep(&st)
		}
		at = at.In(a.Now.Location()).Truncate(time.Minute)
		if at.Before(a.Now.Truncate(time.Minute)) {
			return fault.New(fault.OutOfRange, "at", "That is past already.")
		}
		length, r := int(st.PlannedEnd.Sub(st.PlannedStart)/time.Minute), read.Reader{K: a.House}
		if hours := a.House.OpenHours(at.AddDate(0, 0, -1), at.AddDate(0, 0, 1)); hoursFor(hours, at, length) == nil {
			return fault.New(fault.Unreachable, "at", "%s", read.UpperFirst(noHours(hours, at, length, r)))
		}
		st.Pinned = &at
		a.Say(st.CommissionID, "pinned %s to %s", st.Title, r.Time(at, a.Now))
		return a.SaveStep(&st)
	}, nil)
	return err
}
