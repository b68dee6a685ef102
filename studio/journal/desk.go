// Package journal is the only way in which anything is changed: acts with their
// numbers, what each changed of which row, taking back and doing again, and what
// happens when two windows change one row. It declares the small Store that
// remembers.
package journal

import (
	"context"
	"fmt"
	"time"

	"dustyfern/studio/noun"
)

// Desk is where everything that is changed passes: the store, the clock, and who
// makes the plan beside it.
type Desk struct {
	Store Store
	Clock func() time.Time

	// Wake has the plan of a studio made, soon and beside the caller (Planner.Wake);
	// nil: it is made only when Plan is called.
	Wake func(slug string)
}

// In is a use case that only reads, over one snapshot.
func (s *Desk) In(ctx context.Context, slug string, f func(tx Tx, k *noun.Kitchen, now time.Time) error) error {
	return s.Store.Read(ctx, slug, func(tx Tx) error {
		k := tx.Kitchen()
		if by, _ := ctx.Value(actorKey{}).(actor); by.holds != nil {
			p, err := tx.Pulse()
			if err != nil {
				return err
			}
			*by.holds = p.Told
		}
		return f(tx, k, s.Clock().In(k.Zone()))
	})
}

// Fresh is a use case that reads what follows from the plan. A read writes
// nothing: when the plan is due it shows the one that stands, and has a new one
// made beside it.
func (s *Desk) Fresh(ctx context.Context, slug string, f func(tx Tx, k *noun.Kitchen, now time.Time) error) error {
	due := false
	err := s.In(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		p, err := tx.Pulse()
		if err != nil {
			return err
		}
		plan, err := tx.Plan()
		if err != nil {
			return err
		}
		due = p.Made < p.Wanted || plan == nil || plan.Due(now)
		return f(tx, k, now)
	})
	if err == nil && due {
		s.PlanSoon(slug)
	}
	return err
}

// PlanSoon has the plan of a studio made beside the caller, when somebody makes plans.
func (s *Desk) PlanSoon(slug string) {
	if s.Wake != nil {
		s.Wake(slug)
	}
}

// Overtaken is an act that came too late: what it was for is no longer so. The
// sentence says what happened meanwhile.
type Overtaken struct{ Say string }

func (o *Overtaken) Error() string { return o.Say }

// TooLate is an act that came when something else had been done, in a sentence.
func TooLate(format string, args ...any) error { return &Overtaken{fmt.Sprintf(format, args...)} }
