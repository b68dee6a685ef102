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

// AwayView is a step that hands were called off, and what to see to before they go.
type AwayView struct {
	Op      string   `json:"op"`
	Version int64    `json:"version"`
	Title   string   `json:"title"`
	Since   string   `json:"since"`
	SinceMS int64    `json:"sinceMs" doc:"by the server's clock"`
	Says    []string `json:"says" doc:"what to see to, and by when to be back"`
}

// CallOff notes that hands are called off a step: its clock stands still meanwhile, and
// the plan waits for them. A step that nobody said was begun has begun.
func (s *Evening) CallOff(ctx context.Context, slug, op string, version int64) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, c, err := current(a, op, version, true)
		if err != nil {
			return err
		}
		if off(st) != nil {
			return nil // it stands already
		}
		now := a.Now.Truncate(time.Second)
		begun(a, st, c, now)
		st.Away = append(st.Away, noun.Away{From: now})
		a.Bench = true
		a.Say(st.CommissionID, "was called off: %s", st.Title)
		return a.SaveStep(st)
	}, s.showBench(ctx, &out))
	return out, err
}

// begun has a step begun that hands are at, though nobody said so.
func begun(a *journal.Acting, st *noun.Step, c work.Chain, now time.Time) {
	if st.ActualStart != nil {
		return
	}
	start, ok := handsFrom(st, c, a.By, now)
	if !ok {
		start = now
		if st.PlannedStart.Before(now) && now.Sub(st.PlannedStart) < st.PlannedEnd.Sub(st.PlannedStart) {
			start = st.PlannedStart
		}
	}
	beginStep(st, c, start, now)
}

// GoOn notes that hands are back at a step.
func (s *Evening) GoOn(ctx context.Context, slug, op string, version int64) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, _, err := current(a, op, version, true)
		if err != nil {
			return err
		}
		x := off(st)
		if x == nil {
			return nil
		}
		minutes := int(a.Now.Sub(x.From) / time.Minute)
		back(st, a.Now)
		a.Bench = true
		a.Say(st.CommissionID, "went on after %s: %s", read.SayMinutes(minutes), st.Title)
		return a.SaveStep(st)
	}, s.showBench(ctx, &out))
	return out, err
}

// off is the stretch in which hands are off a step now; nil: they are not.
func off(st *noun.Step) *noun.Away {
	if n := len(st.Away); n > 0 && st.Away[n-1].Until == nil && st.ActualEnd == nil {
		return &st.Away[n-1]
	}
	return nil
}

// back ends the stretch in which hands were off a step.
func back(st *noun.Step, now time.Time) {
	if x := off(st); x != nil {
		until := now.Truncate(time.Second)
		if until.Before(x.From) {
			until = x.From
		}
		away := append([]noun.Away{}, st.Away...)
		away[len(away)-1].Until = &until
		st.Away = away
	}
}

// awayView says of the first step that hands were called off what to see to.
func (v *BenchView) awayView(all []plan.LineStep, chain work.Chain, now time.Time) {
	for i := range all {
		st := &all[i]
		x := off(&st.Step)
		if x == nil || !v.mine(st) {
			continue
		}
		out := AwayView{Op: st.Op, Version: st.Version, Title: st.Title, Since: v.r.Clock(x.From.In(now.Location())), SinceMS: x.From.UnixMilli(), Says: []string{}}
		if !st.Planned.Places {
			out.Says = append(out.Says, v.r.Say("Cover the paste and what is cut or pressed: film, then a damp cloth that does not touch it."))
		}
		if st.Planned.Heat != nil {
			out.Says = append(out.Says, "Take the pan off the heat, handle turned in; nobody else touches it.")
		}
		if at := chain.Shuts(&st.Step); at.After(now) {
			out.Says = append(out.Says, "Be back by "+v.r.Clock(at.In(now.Location()))+": then it no longer keeps.")
		}
		for _, t := range v.Timers {
			if t.Rings > now.UnixMilli() {
				out.Says = append(out.Says, "What rings next: "+t.Says+".")
				break
			}
		}
		v.Away = &out
		return
	}
}

// FitsView is what hands can do in a few minutes that are free.
type FitsView struct {
	Says  string          `json:"says"`
	Steps []plan.LineStep `json:"steps" doc:"the longest first"`
}

// mostFits is how many steps are offered for a few minutes.
const mostFits = 6

// Fits finds what can be done in so many minutes, whichever day it is planned for: what
// waits for nothing and, once begun, binds hands no longer than that.
func (s *Evening) Fits(ctx context.Context, slug string, minutes int) (out FitsView, err error) {
	out.Steps = []plan.LineStep{}
	if minutes < 1 || minutes > 240 {
		return out, fault.New(fault.OutOfRange, "minutes", "From 1 to 240 minutes.")
	}
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out = FitsView{Steps: []plan.LineStep{}}
		v, err := s.benchNow(tx, k, benchFor{who: journal.Who(ctx)}, now)
		if err != nil {
			return err
		}
		least, title := 0, ""
		for _, c := range v.free {
			n := bound(c.st, v.all)
			if n > minutes {
				if least == 0 || n < least {
					least, title = n, c.st.Title
				}
				continue
			}
			if len(out.Steps) < mostFits {
				x := named(c.st)
				x.LengthSays = read.SayMinutes(n)
				out.Steps = append(out.Steps, x)
			}
		}
		switch {
		case len(out.Steps) > 0:
			out.Says = read.Count(len(out.Steps), "step") + " would fit into " + read.SayMinutes(minutes)
		case least > 0:
			out.Says = "Nothing fits into " + read.SayMinutes(minutes) + ". The shortest binds hands for " + read.SayMinutes(least) + ": " + title
		default:
			out.Says = "Nothing waits for hands that could be begun now"
		}
		return nil
	})
	return out, err
}

// boundWithin is how soon what follows a step must be done for hands to be bound by it.
const boundWithin = 12 * 60

// bound is how long hands are bound once they begin a step, minutes: by itself, and by
// what must follow it while its paste keeps.
func bound(st *plan.LineStep, all []plan.LineStep) int {
	return int(st.PlannedEnd.Sub(st.PlannedStart)/time.Minute) + follows(&st.Step, all, 0)
}

func follows(st *noun.Step, all []plan.LineStep, deep int) (most int) {
	if st.Planned.Kept == nil || deep > 12 {
		return 0
	}
	batch, name := noun.BatchOf(st.Op), st.Planned.Kept.Op.Op
	for i := range all {
		o := &all[i].Step
		if o.Planned.Kept == nil || o.ActualStart != nil || noun.BatchOf(o.Op) != batch {
			continue
		}
		for _, g := range o.Planned.Kept.After {
			if g.From != name || g.Max == nil || *g.Max >= boundWithin {
				continue
			}
			most = max(most, g.Min+int(o.PlannedEnd.Sub(o.PlannedStart)/time.Minute)+follows(o, all, deep+1))
		}
	}
	return most
}
