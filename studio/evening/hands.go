package evening

import (
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
	"dustyfern/studio/work"
)

// breakReasons in one tap.
var breakReasons = work.BreakReasons

// Hands does a movement of a step: of a press one filling or opening, of any
// other step the whole. It is for what was seen: an older version of a step that
// is still open is applied to what stands now. do is the movement that hands were
// at ("" for the one that is next): while a ball is pressed another mould may
// become ready, and must not be taken for it. anyway: although a wait before it still
// runs.
func (s *Evening) Hands(ctx context.Context, slug, op string, version int64, do string, anyway bool) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, c, err := current(a, op, version, anyway)
		if err != nil {
			return err
		}
		if !st.Makes() {
			a.Say(st.CommissionID, "finished: %s", st.Title)
			return finishStep(a, st, c)
		}
		if err := withCopies(a, st); err != nil {
			return err
		}
		return movement(a, st, c, do)
	}, s.showBench(ctx, &out))
	return out, err
}

// seen is a step as a window saw it once: it must still be there.
func seen(a *journal.Acting, op string, version int64) (noun.Step, error) {
	st, err := a.Step(op)
	switch {
	case errors.Is(err, journal.ErrNotFound):
		return st, journal.TooLate("That step is no longer in the plan: look at what the bench says now.")
	case err != nil:
		return st, err
	case version < 1 || version > st.Version:
		return st, fault.New(fault.OutOfRange, "version", "The version is that of the step as it was read.")
	}
	return st, nil
}

// current is a step that may be worked on now, with its commission's chain. One whose
// wait still runs is asked for first, on the field anyway.
func current(a *journal.Acting, op string, version int64, anyway bool) (*noun.Step, work.Chain, error) {
	st, err := seen(a, op, version)
	if err != nil {
		return nil, work.Chain{}, err
	}
	if st.ActualEnd != nil {
		return nil, work.Chain{}, journal.TooLate("%s is done already, since %s.", st.Title, read.Reader{K: a.House}.Time(*st.ActualEnd, a.Now))
	}
	if !st.Attended {
		return nil, work.Chain{}, fault.New(fault.Contradiction, "op", "A wait ends by itself: finish the step before it.")
	}
	all, err := a.Steps(st.CommissionID)
	if err != nil {
		return nil, work.Chain{}, err
	}
	a.Bench = true
	c := work.ChainOf(work.Derived(all, a.House, a.Now))
	if err := finishable(&st, c); err != nil {
		return nil, c, err
	}
	if w := waitsFor(&st, c); w != nil && !anyway && st.ActualStart == nil {
		say := "not before " + read.Reader{K: a.House}.Time(w.PlannedEnd, a.Now)
		if w.Never {
			say = "not in this room"
		}
		return nil, c, fault.New(fault.Contradiction, "anyway", "%s: %s. Do it all the same?", w.Title, say)
	}
	return &st, c, nil
}

// movement fills or opens one mould.
func movement(a *journal.Acting, st *noun.Step, c work.Chain, do string) error {
	run, now := st.Run(), a.Now.Truncate(time.Second)
	for _, f := range st.Fills { // a clock that was set back does not undo what has happened
		if f.At.After(now) {
			now = f.At
		}
		if f.Out != nil && f.Out.After(now) {
			now = *f.Out
		}
	}
	m := st.Move(now)
	if do == bench.Open && m.Do == bench.WaitFor {
		m.Do = bench.Open // hands know better than the clock
	}
	if do != "" && do != m.Do && do != bench.Open {
		m = st.Move(time.Unix(0, 0)) // as if nothing were ready yet
	}
	if do != "" && do != m.Do {
		return journal.TooLate("That movement is done already. Next: %s.", read.LowerFirst(moveView(st, st.Move(now), read.Reader{K: a.House}, a.Now).Say))
	}
	name := fmt.Sprintf("%d of %d, %s", m.N, run.Fills, st.Planned.What())
	switch m.Do {
	case bench.WaitFor:
		return fault.New(fault.Contradiction, "op", "Every copy is in the freezer: the first is ready at %s.", read.Reader{K: a.House}.Clock(time.Unix(int64(m.At), 0).In(a.Now.Location())))
	case bench.Press, bench.PressOut:
		if st.ActualStart == nil {
			beginStep(st, c, now.Add(-time.Duration(run.FillSec)*time.Second), now)
		}
		f := noun.Fill{N: m.N, Copy: m.Copy, At: now, Who: a.By}
		a.Say(st.CommissionID, "%s %s", read.LowerFirst(doneWord(st)), name)
		if m.Do == bench.PressOut {
			f.Out = &now
			st.Made = new(min(run.Balls, st.Out()+run.Cavities))
		}
		st.Fills = append(slices.Clone(st.Fills), f)
	case bench.Open:
		a.Say(st.CommissionID, "opened %s", name)
		st.Fills = slices.Clone(st.Fills)
		for i := range st.Fills {
			if st.Fills[i].N == m.N {
				st.Fills[i].Out = &now
			}
		}
		st.Made = new(min(run.Balls, st.Out()+run.Cavities))
	}
	if st.Move(now).Do == bench.AllOut {
		return finishStep(a, st, c)
	}
	return a.SaveStep(st)
}

// doneWord is what one movement of a making step is called when it is done.
func doneWord(st *noun.Step) string {
	if st.Planned.Done == "" {
		return "Pressed"
	}
	return st.Planned.Done
}

// Count corrects how many pieces of a press are there, by 1 up or down.
func (s *Evening) Count(ctx context.Context, slug, op string, version int64, by int) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, err := seen(a, op, version)
		if err != nil {
			return err
		}
		if !st.Makes() || st.ActualStart == nil {
			return fault.New(fault.Contradiction, "op", "Only pieces that are being made, or have been, can be counted.")
		}
		n := st.Out() + by
		if n < 0 || n > 100000 {
			return fault.New(fault.OutOfRange, "by", "There are no fewer than none.")
		}
		if n < st.Broken() {
			return fault.New(fault.Contradiction, "by", "%d of them broke: take that back first.", st.Broken())
		}
		a.Bench = true
		a.Say(st.CommissionID, "counted %d %s, not %d", n, st.Planned.What(), st.Out())
		st.Made = &n
		return a.SaveStep(&st)
	}, s.showBench(ctx, &out))
	return out, err
}

// Broke notes one piece of a press that broke, with its reason.
func (s *Evening) Broke(ctx context.Context, slug, op string, version int64, why string) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		i := slices.IndexFunc(breakReasons, func(o read.Option) bool { return o.Code == why })
		if i < 0 {
			return fault.New(fault.UnknownValue, "why", "Say why: %s.", read.List(read.Says(breakReasons)))
		}
		st, err := seen(a, op, version)
		if err != nil {
			return err
		}
		if !st.Makes() || st.Out() <= st.Broken() {
			return fault.New(fault.Contradiction, "op", "There is no whole piece of it that could break.")
		}
		a.Bench = true
		a.Say(st.CommissionID, "broke 1 of %s: %s", st.Planned.What(), breakReasons[i].Say)
		st.Breaks = append(slices.Clone(st.Breaks), noun.Break{At: a.Now.Truncate(time.Second), Count: 1, Why: why, Who: a.By})
		return a.SaveStep(&st)
	}, s.showBench(ctx, &out))
	return out, err
}
