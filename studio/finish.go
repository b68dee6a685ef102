package studio

import (
	"context"
	"slices"
	"time"

	"dustyfern/craft/fault"
)

// Finish marks a step done now, with its time. It names the step and its
// version: a repeat does nothing. The waits that follow it begin by themselves.
func (s *Service) Finish(ctx context.Context, slug, op string, version int64) (out BenchView, err error) {
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		st, err := tx.Step(op)
		if err != nil {
			return err
		}
		if st.ActualEnd == nil && st.Version == version {
			if !st.Attended {
				return fault.New(fault.Contradiction, "op", "A wait ends by itself: finish the step before it.")
			}
			all, err := tx.Steps(st.CommissionID)
			if err != nil {
				return err
			}
			if err := finishable(&st, all); err != nil {
				return err
			}
			if err := finish(tx, &st, all, now); err != nil {
				return err
			}
			if err := s.replan(tx, k, now); err != nil {
				return err
			}
		}
		out, err = s.benchNow(tx, k, now)
		return err
	})
	return out, err
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

// finish writes the facts: the step, and the wait that begins with its end.
func finish(tx Tx, st *Step, all []Step, now time.Time) error {
	now = now.Truncate(time.Second)
	start := now
	if st.PlannedEnd.After(st.PlannedStart) {
		start = now.Add(-st.PlannedEnd.Sub(st.PlannedStart))
	}
	if st.PlannedStart.After(start) && st.PlannedStart.Before(now) {
		start = st.PlannedStart
	}
	// a step begins after what was finished before it in its own chain
	for _, o := range all {
		if o.Attended && o.ActualEnd != nil && o.Op != st.Op && (o.Planned.After == st.Op || chainLeads(all, o.Op, st.Op)) && o.ActualEnd.After(start) && !o.ActualEnd.After(now) {
			start = *o.ActualEnd
		}
	}
	st.ActualStart, st.ActualEnd = &start, &now
	if err := tx.SaveStep(st); err != nil {
		return err
	}
	// waits before it are over with it, the wait after it begins
	for i := range all {
		o := &all[i]
		if !o.Attended && o.ActualStart != nil && o.Planned.After == st.Op && (o.ActualEnd == nil || o.ActualEnd.After(start)) {
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
	}
	i := slices.IndexFunc(all, func(o Step) bool { return o.Op == st.Planned.After })
	if i < 0 || all[i].Attended || all[i].ActualStart != nil {
		return nil
	}
	o := &all[i] // a wait after this one begins by itself when it is over
	length := o.PlannedEnd.Sub(o.PlannedStart)
	o.ActualStart, o.PlannedStart, o.PlannedEnd = &now, now, now.Add(length)
	if err := tx.SaveStep(o); err != nil {
		return err
	}
	return nil
}

// openSteps are the steps of commissions that are being worked on: what was
// handed over, put aside or deleted is not touched from the bench.
func openSteps(tx Tx) ([]Step, error) {
	cs, err := tx.Commissions()
	if err != nil {
		return nil, err
	}
	open := map[int64]bool{}
	for _, c := range cs {
		open[c.ID] = c.State == "open" && c.DeletedAt == nil
	}
	all, err := tx.Steps(0)
	return slices.DeleteFunc(all, func(s Step) bool { return !open[s.CommissionID] }), err
}

// TakeBack takes the last finished step back, with the wait that it began.
func (s *Service) TakeBack(ctx context.Context, slug string) (out BenchView, err error) {
	err = s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		all, err := openSteps(tx)
		if err != nil {
			return err
		}
		last := -1
		for i := range all {
			if all[i].Attended && all[i].ActualEnd != nil && (last < 0 || all[i].ActualEnd.After(*all[last].ActualEnd) ||
				all[i].ActualEnd.Equal(*all[last].ActualEnd) && all[i].PlannedStart.After(all[last].PlannedStart)) {
				last = i
			}
		}
		if last >= 0 {
			st := &all[last]
			for i := range all {
				if o := &all[i]; o.Op == st.Planned.After && !o.Attended && o.ActualStart != nil {
					o.ActualStart, o.ActualEnd = nil, nil
					if err := tx.SaveStep(o); err != nil {
						return err
					}
				}
			}
			st.ActualStart, st.ActualEnd = nil, nil
			if err := tx.SaveStep(st); err != nil {
				return err
			}
			if err := s.replan(tx, k, now); err != nil {
				return err
			}
		}
		out, err = s.benchNow(tx, k, now)
		return err
	})
	return out, err
}
