// Package plan makes one plan of all open commissions, beside the writes: the work
// becomes an instance, the instance a plan, the plan stored steps; what moved is
// said, and the line is shown.
package plan

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"sync"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Planning makes the plan and shows it as the line.
type Planning struct {
	journal.Desk

	// Budget is how long a search for a plan may last before the best so far is
	// taken; 0: planBudget.
	Budget time.Duration

	making sync.Map // what is being made, by the address of its studio: *making
}

// making is a plan that is being made.
type making struct {
	since  time.Time
	steps  int
	enough context.CancelCauseFunc
}

// MakingView is how far the plan is that is being made.
type MakingView struct {
	Says  string  `json:"says"`
	Share float64 `json:"share" doc:"of the time it may take, 0 to 1"`
}

// Making tells of the plan that is being made here; nil: none is.
func (s *Planning) Making(slug string) *MakingView {
	x, ok := s.making.Load(slug)
	if !ok {
		return nil
	}
	m := x.(*making)
	took := time.Since(m.since)
	return &MakingView{Says: fmt.Sprintf("The line is being hung anew: %s, for %.1f s", read.Count(m.steps, "step"), took.Seconds()), Share: min(1, took.Seconds()/cmp.Or(s.Budget, planBudget).Seconds())}
}

// BestSoFar takes the best plan that was found so far; a repeat does nothing.
func (s *Planning) BestSoFar(slug string) {
	if x, ok := s.making.Load(slug); ok {
		x.(*making).enough(bench.ErrEnough)
	}
}

// inputs are what one plan is made from, read in one snapshot.
type inputs struct {
	k           *noun.Kitchen
	now         time.Time
	commissions []noun.Commission
	steps       []noun.Step // of open commissions, with what follows from their facts
	bench       *work.Means
	pieces      []noun.Piece
	old         *noun.Plan
	wanted      int64
	because     string       // what was done last
	back        []noun.Place // where what it had moved stood before, when that was to take something back
	onBoard     []laidOn
}

func (s *Planning) planInputs(ctx context.Context, slug string) (in inputs, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		in.k, in.now = new(*k), now
		p, err := tx.Pulse()
		if err != nil {
			return err
		}
		in.wanted = p.Wanted
		if in.bench, in.commissions, in.pieces, err = GatherOpen(tx, in.k, now); err != nil {
			return err
		}
		ids := make([]int64, len(in.commissions))
		for i, c := range in.commissions {
			ids[i] = c.ID
		}
		thin, err := tx.ThinSteps()
		if err != nil {
			return err
		}
		begun, batches := []string{}, map[string]bool{}
		for _, st := range thin {
			if st.ActualStart != nil && st.Attended && st.PieceID != nil {
				batches[noun.BatchOf(st.Op)] = true
			}
		}
		for _, st := range work.Derived(thin, in.k, now) {
			if st.ActualStart != nil || batches[noun.BatchOf(st.Op)] {
				begun = append(begun, st.Op)
			}
		}
		whole, err := tx.StepsNamed(begun) // of what has begun the numbers and the chain stand
		if err != nil {
			return err
		}
		byOp := map[string]noun.Step{}
		for _, st := range whole {
			byOp[st.Op] = st
		}
		for i := range thin {
			if st, ok := byOp[thin[i].Op]; ok {
				thin[i] = st
			}
		}
		in.steps = work.Derived(thin, in.k, now)
		if in.old, err = tx.Plan(); err != nil {
			return err
		}
		if in.onBoard, err = board(tx, in.k, now); err != nil {
			return err
		}
		last, err := tx.Entries(0, 0, 1)
		if err != nil {
			return err
		}
		if len(last) > 0 {
			in.because = last[0].Who + " " + last[0].Says
			if in.back, err = takenBack(tx, &last[0], in.old); err != nil {
				return err
			}
		}
		in.bench.Begins = beginsOf(asItHung(in.steps, in.back))
		return nil
	})
	return in, err
}

// takenBack is where steps stood before the plan that followed a change, when that change
// is taken back: the line hangs then as it hung. Nothing, when another plan came between.
func takenBack(tx journal.Tx, last *journal.Entry, old *noun.Plan) ([]noun.Place, error) {
	if last.Kind != "back" || last.Undoes == nil || old == nil {
		return nil, nil
	}
	e, err := tx.Entry(*last.Undoes)
	if errors.Is(err, journal.ErrNotFound) {
		return nil, nil // an old line, forgotten by now
	}
	if err != nil || old.Summary.MovedWhy != e.Who+" "+e.Says {
		return nil, err
	}
	return old.Summary.Before, nil
}

// Plan makes the one plan of a studio anew when an input or a fact has changed,
// or a planned start has passed unmarked. It reads in one snapshot, reckons
// without a connection, and writes in a transaction of its own. What was begun
// meanwhile stays as it is. A plan that cannot be made keeps the one that stands,
// and says so.
func (s *Planning) Plan(ctx context.Context, slug string) error {
	in, err := s.planInputs(ctx, slug)
	if err != nil {
		return err
	}
	l, err := instance(ctx, in.bench, in.commissions, in.pieces, in.steps, in.onBoard)
	if err != nil {
		return err
	}
	hash, err := l.hash()
	if err != nil {
		return err
	}
	if old := in.old; old != nil && old.Hash == hash && !old.Due(in.now) {
		return s.Store.Write(ctx, slug, func(tx journal.Tx) error { return tx.PlanMade(in.wanted) })
	}
	l.because, l.back = in.because, in.back
	within, cancel := context.WithTimeout(ctx, cmp.Or(s.Budget, planBudget))
	defer cancel()
	within, enough := context.WithCancelCause(within)
	defer enough(nil)
	s.making.Store(slug, &making{time.Now(), len(l.order), enough})
	plan, planned := l.make(within, in.old, in.steps, hash)
	if in.bench.LaterIsSlower(planned) { // laid out then they dry longer than was reckoned with
		if l, err = instance(ctx, in.bench, in.commissions, in.pieces, in.steps, in.onBoard); err != nil {
			return err
		}
		if hash, err = l.hash(); err != nil {
			return err
		}
		l.because, l.back = in.because, in.back
		plan, planned = l.make(within, in.old, in.steps, hash)
	}
	s.making.Delete(slug)
	if ctx.Err() != nil {
		return ctx.Err()
	}
	bodies := l.bodies(in.steps)
	return s.Store.Write(ctx, slug, func(tx journal.Tx) error {
		for op, body := range bodies {
			if err := tx.GiveBody(op, body); err != nil {
				return err
			}
		}
		return in.write(tx, plan, planned)
	})
}

// bodies are what dries in steps that were begun before that was kept with them: as
// their piece is now.
func (l *liner) bodies(steps []noun.Step) map[string]*noun.Body {
	out := map[string]*noun.Body{}
	for _, st := range steps {
		if mine := l.steps[st.Op]; !st.Attended && st.ActualStart != nil && st.ActualEnd == nil && st.Planned.Body == nil && mine != nil && mine.Planned.Body != nil {
			out[st.Op] = mine.Planned.Body
		}
	}
	return out
}

// write puts the plan in the place of what was only planned when it was read.
func (in *inputs) write(tx journal.Tx, plan *noun.Plan, planned []noun.Step) error {
	standing := map[string]noun.Step{}
	var drop []string
	for _, st := range in.steps {
		if st.ActualStart == nil {
			standing[st.Op] = st
			drop = append(drop, st.Op)
		}
	}
	sum := &plan.Summary
	if planned == nil && sum.Stands != "" { // the older plan stands
		drop = nil
	} else {
		sum.Moved, sum.Before = shifts(standing, planned, read.Reader{K: in.k}, in.now)
		if old := in.old; len(sum.Moved) == 0 && old != nil {
			sum.Moved, sum.Before, sum.MovedWhy = old.Summary.Moved, old.Summary.Before, old.Summary.MovedWhy // still worth a look
		}
		for i := range planned {
			if st, ok := standing[planned[i].Op]; ok {
				planned[i].Version = st.Version
			}
		}
	}
	if len(drop) > 0 { // what was begun while the plan was made is a fact by now
		kept := []string{}
		now, err := tx.StepsNamed(drop)
		if err != nil {
			return err
		}
		for _, st := range now {
			if st.ActualStart == nil {
				kept = append(kept, st.Op)
			}
		}
		drop = kept
	}
	if err := tx.ReplaceSteps(drop, planned); err != nil {
		return err
	}
	if err := tx.SavePlan(plan); err != nil {
		return err
	}
	if err := tx.PlanMade(in.wanted); err != nil {
		return err
	}
	_, err := tx.Tell()
	return err
}
