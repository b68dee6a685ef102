package studio

import (
	"context"
	"errors"
	"slices"
	"time"

	"dustyfern/craft/fault"
)

// Finish marks a step done now, with its time. It names the step and its
// version: a repeat does nothing. The waits that follow it begin by themselves.
func (s *Service) Finish(ctx context.Context, slug, op string, version int64) (out BenchView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error {
		st, all, err := a.current(op, version)
		if st == nil || err != nil {
			return err
		}
		a.say(st.CommissionID, "finished: %s", st.Title)
		return a.finish(st, all)
	}, s.showBench(&out))
	return out, err
}

// showBench reads the bench after an act.
func (s *Service) showBench(out *BenchView) func(Tx, *Kitchen, time.Time) error {
	return func(tx Tx, k *Kitchen, now time.Time) (err error) {
		*out, err = s.benchNow(tx, k, now)
		return err
	}
}

// finishable refuses a step whose own batch has an earlier one open.
func finishable(st *Step, all []Step) error {
	for _, o := range all {
		if o.Attended && o.ActualEnd == nil && o.Op != st.Op && o.Planned.After != "" && (o.Planned.After == st.Op || chainLeads(all, o.Planned.After, st.Op)) {
			return fault.New(fault.Contradiction, "op", "First: %s.", lowerFirst(o.Title))
		}
	}
	return nil
}

// chainLeads reports whether the waits after an op lead to another.
func chainLeads(all []Step, from, to string) bool {
	for range len(all) {
		i := slices.IndexFunc(all, func(s Step) bool { return s.Op == from })
		if i < 0 || all[i].Planned.After == "" {
			return false
		}
		from = all[i].Planned.After
		if from == to {
			return true
		}
	}
	return false
}

// beginStep says when a step began: after what was finished before it in its
// own chain, and the waits before it are over with it.
func beginStep(tx Tx, st *Step, all []Step, start, now time.Time) error {
	for _, o := range all {
		if o.Attended && o.ActualEnd != nil && o.Op != st.Op && (o.Planned.After == st.Op || chainLeads(all, o.Op, st.Op)) && o.ActualEnd.After(start) && !o.ActualEnd.After(now) {
			start = *o.ActualEnd
		}
	}
	st.ActualStart = &start
	for i := range all {
		o := &all[i]
		if o.Attended || o.Planned.After != st.Op || o.ActualStart == nil {
			continue
		}
		if err := answerOf(tx, o.Op, "", 0, now); err != nil {
			return err
		}
		if o.ActualEnd != nil && !o.ActualEnd.After(start) {
			continue
		}
		over := start
		if o.PlannedEnd.Before(over) && !o.PlannedEnd.Before(*o.ActualStart) {
			over = o.PlannedEnd
		}
		if o.ActualStart.After(over) {
			over = *o.ActualStart
		}
		o.ActualEnd = &over
		if err := tx.SaveStep(o); err != nil {
			return err
		}
	}
	return nil
}

// finish writes the facts: the step, what it took out of the pantry, and the
// wait that begins with its end.
func (a *acting) finish(st *Step, all []Step) error {
	tx, now := Tx(a.recorder), a.now.Truncate(time.Second)
	if st.ActualStart == nil {
		start := now
		if st.PlannedEnd.After(st.PlannedStart) {
			start = now.Add(-st.PlannedEnd.Sub(st.PlannedStart))
		}
		if st.PlannedStart.After(start) && st.PlannedStart.Before(now) {
			start = st.PlannedStart
		}
		if err := beginStep(tx, st, all, start, now); err != nil {
			return err
		}
	}
	if st.ActualStart.After(now) { // the clock was set back
		now = *st.ActualStart
	}
	st.ActualEnd = &now
	if run := st.Planned.Run; st.Kind == "press" && run != nil {
		if st.Made == nil || len(st.Fills) < run.Fills { // marked done at once
			st.Made = &run.Balls
		}
		if err := answerOf(tx, st.Op, "freezer", 0, now); err != nil {
			return err
		}
	}
	if err := takesOf(tx, st); err != nil {
		return err
	}
	if err := tx.SaveStep(st); err != nil {
		return err
	}
	if err := a.trimmings(st, all); err != nil {
		return err
	}
	i := slices.IndexFunc(all, func(o Step) bool { return o.Op == st.Planned.After })
	if i < 0 || all[i].Attended || all[i].ActualStart != nil {
		return nil
	}
	return beginWait(tx, &all[i], now) // a wait after this one begins by itself when it is over
}

// TakeBack takes back what was done last at the bench, in whichever window, of
// what is being worked on. When there is nothing it does nothing.
func (s *Service) TakeBack(ctx context.Context, slug string) (out BenchView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error {
		e, err := a.LastEntry(UndoBench)
		if errors.Is(err, ErrNotFound) {
			return nil
		}
		if err != nil {
			return err
		}
		a.bench = true
		return a.takeBack(&e)
	}, s.showBench(&out))
	return out, err
}
