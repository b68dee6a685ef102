package evening

import (
	"context"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Finish marks a step done now, with its time. The step is that which was seen at
// version; what is done already is Overtaken (a repeat is known by the number of
// its act). The waits that follow begin by themselves.
// anyway: although a wait before it still runs.
func (s *Evening) Finish(ctx context.Context, slug, op string, version int64, anyway bool) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, c, err := current(a, op, version, anyway)
		if err != nil {
			return err
		}
		if run := st.Run(); run != nil && (st.Made == nil || len(st.Fills) < run.Fills) {
			st.Made = &run.Balls // marked done at once
		}
		a.Say(st.CommissionID, "finished: %s", st.Title)
		return finishStep(a, st, c)
	}, s.showBench(ctx, &out))
	return out, err
}

// Enough ends a press before its last round: fewer are wanted by now than when it was
// begun. What is over is spares.
func (s *Evening) Enough(ctx context.Context, slug, op string, version int64) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, c, err := current(a, op, version, true)
		if err != nil {
			return err
		}
		if !st.Makes() || st.ActualStart == nil || st.Out() == 0 {
			return fault.New(fault.Contradiction, "op", "None of it is made yet: there is nothing to stop at.")
		}
		for _, f := range st.Fills {
			if f.Out == nil {
				return fault.New(fault.Contradiction, "op", "Fill %d is in the freezer: open it first.", f.N)
			}
		}
		a.Say(st.CommissionID, "stopped at %d of %d: %s", st.Out(), st.Run().Balls, st.Title)
		return finishStep(a, st, c)
	}, s.showBench(ctx, &out))
	return out, err
}

// showBench reads the bench after an act.
func (s *Evening) showBench(ctx context.Context, out *BenchView) func(journal.Tx, *noun.Kitchen, time.Time) error {
	return func(tx journal.Tx, k *noun.Kitchen, now time.Time) (err error) {
		*out, err = s.benchNow(tx, k, benchFor{who: journal.Who(ctx)}, now)
		return err
	}
}

// finishable refuses a step whose own chain has an earlier one open.
func finishable(st *noun.Step, c work.Chain) error {
	var first *noun.Step
	c.Earlier(st, func(o *noun.Step) {
		if o.ActualEnd == nil && (first == nil || o.PlannedStart.Before(first.PlannedStart)) {
			first = o
		}
	})
	if first == nil {
		return nil
	}
	return fault.New(fault.Contradiction, "op", "First: %s.", read.LowerFirst(first.Title))
}

// beginStep says when a step began: after what was finished before it in its
// own chain. The waits before it are over with it, by themselves.
func beginStep(st *noun.Step, c work.Chain, start, now time.Time) {
	c.Earlier(st, func(o *noun.Step) {
		if o.ActualEnd != nil && o.ActualEnd.After(start) && !o.ActualEnd.After(now) {
			start = *o.ActualEnd
		}
	})
	st.ActualStart = &start
}

// handsFrom is when these hands came to a step of which nobody said that it began: when
// they finished the one before, unless that is so long ago, or so short, that something
// else came between. Parts of the planned length (assumed).
func handsFrom(st *noun.Step, c work.Chain, who string, now time.Time) (time.Time, bool) {
	planned := st.PlannedEnd.Sub(st.PlannedStart)
	var last time.Time
	for _, o := range c.ByOp {
		if o.Attended && o.ActualEnd != nil && !o.ActualEnd.After(now) && o.Who == who && o.ActualEnd.After(last) {
			last = *o.ActualEnd
		}
	}
	gap := now.Sub(last)
	return last, !last.IsZero() && planned > 0 && gap >= planned/4 && gap <= 3*planned
}

// finish writes the facts: the step, and what it took out of the pantry.
func finishStep(a *journal.Acting, st *noun.Step, c work.Chain) error {
	tx, now := journal.Tx(a.Recorder), a.Now.Truncate(time.Second)
	st.Clocked = st.ActualStart != nil && len(st.Away) == 0 // hands that were called off tell nothing of how long it takes
	if start, ok := handsFrom(st, c, a.By, now); ok && !st.Clocked && len(st.Away) == 0 {
		st.ActualStart, st.Clocked = &start, true
	}
	if st.ActualStart == nil {
		start := now
		if st.PlannedEnd.After(st.PlannedStart) {
			start = now.Add(-st.PlannedEnd.Sub(st.PlannedStart))
		}
		if st.PlannedStart.After(start) && st.PlannedStart.Before(now) {
			start = st.PlannedStart
		}
		beginStep(st, c, start, now)
	}
	if st.ActualStart.After(now) { // the clock was set back
		now = *st.ActualStart
	}
	back(st, now)
	st.ActualEnd, st.Who = &now, a.By
	if err := plan.TakesOf(tx, st); err != nil {
		return err
	}
	if err := tx.SaveStep(st); err != nil {
		return err
	}
	return plan.Trimmings(a, st, c)
}

// TakeBack takes back what was done last at the bench, in whichever window, of
// what is being worked on. It names the line that was seen as the last: when
// something has been done since, that is not taken back in its place.
func (s *Evening) TakeBack(ctx context.Context, slug string, entry int64) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		e, err := a.LastIs(journal.UndoBench, entry)
		if err != nil {
			return err
		}
		a.Bench = true
		return a.TakeBack(e)
	}, s.showBench(ctx, &out))
	return out, err
}

// Washed says that board, pin and bags are washed: what lay there before no longer
// counts.
func (s *Evening) Washed(ctx context.Context, slug string) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		k, err := journal.Get[noun.Kitchen](a, a.House.ID)
		if err != nil {
			return err
		}
		a.Bench = true
		a.Say(0, "washed board, pin and hands")
		k.WashedAt = new(a.Now.UTC().Truncate(time.Second))
		return a.Save(&k)
	}, s.showBench(ctx, &out))
	return out, err
}
