package evening

import (
	"context"
	"maps"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

// LookedAt notes how a check of a step came out. One that came out ill stays so until it is looked
// at again, and stands over the hand-over; nil: it is to be looked at again.
func (s *Evening) LookedAt(ctx context.Context, slug, op string, version int64, check string, well *bool) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, c, err := current(a, op, version, true)
		if err != nil {
			return err
		}
		if !slices.Contains(st.Checks, check) {
			return fault.New(fault.UnknownValue, "check", "That is not looked for at this step any more.")
		}
		next := noun.Looked{}
		maps.Copy(next, st.Looked)
		said := "to be looked at again"
		if delete(next, check); well != nil {
			next[check] = *well
			said = map[bool]string{true: "well", false: "not so"}[*well]
		}
		if maps.Equal(next, st.Looked) {
			return nil
		}
		begun(a, st, c, a.Now.Truncate(time.Second)) // what is looked at is in hand
		st.Looked = next
		a.Bench = true
		a.Say(st.CommissionID, "looked at %s: %s, %s", st.Title, check, said)
		return a.SaveStep(st)
	}, s.showBench(ctx, &out))
	return out, err
}
