package plan

import (
	"context"
	"fmt"
	"strings"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// StepRead is what a pennant or a cord says when it is looked at.
type StepRead struct {
	Op      string   `json:"op"`
	Title   string   `json:"title"`
	Order   string   `json:"order"`
	Start   int64    `json:"start" doc:"ms since 1970"`
	When    string   `json:"when" doc:"from, to and how long, in words"`
	Who     string   `json:"who" doc:"who is planned to do it, where more than one is there"`
	Could   string   `json:"could" doc:"how late it could begin"`
	Spare   string   `json:"spare" doc:"what is in hand after its batch has dried"`
	Why     []string `json:"why" doc:"what holds it there"`
	Pinned  string   `json:"pinned" doc:"where it is pinned to; empty: nowhere"`
	May     bool     `json:"may" doc:"it can be put to another time"`
	Decides bool     `json:"decides"`
}

// ReadStep says of one step where it stands, how late it could be, and why.
func (s *Planning) ReadStep(ctx context.Context, slug, op string) (out StepRead, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		st, err := tx.Step(op)
		if err != nil {
			return err
		}
		c, err := journal.Get[noun.Commission](tx, st.CommissionID)
		if err != nil {
			return err
		}
		mine, err := tx.Steps(st.CommissionID)
		if err != nil {
			return err
		}
		out = readStep(&st, mine, c.Title, k, now)
		return nil
	})
	return out, err
}

func readStep(st *noun.Step, mine []noun.Step, order string, k *noun.Kitchen, now time.Time) StepRead {
	r := read.Reader{K: k}
	l := NewLineStep(*st, order, r, now)
	out := StepRead{Op: st.Op, Title: st.Title, Order: order, Start: l.Start.UnixMilli(), Why: []string{}, Decides: st.Planned.Decides, May: mayPin(st) == nil,
		When: fmt.Sprintf("%s to %s, %s", l.StartSays, l.EndSays, l.LengthSays)}
	if hands := HandsOf(k, now); hands.Told(st) {
		out.Who = read.List(hands.Of(st))
	}
	if l.DoneSays != "" {
		out.Could = read.UpperFirst(l.DoneSays) + "."
		return out
	}
	if st.ActualStart != nil {
		out.Could = "It has begun."
		return out
	}
	if at, err := time.Parse(time.RFC3339, st.Planned.Latest); err == nil {
		if at = at.In(now.Location()); at.Sub(st.PlannedStart) >= time.Minute {
			out.Could = fmt.Sprintf("Could begin as late as %s, if what follows it moves with it.", r.Time(at, now))
		} else {
			out.Could = "It cannot begin later."
		}
	}
	batch := noun.BatchOf(st.Op)
	for i := range mine {
		if m := &mine[i]; noun.BatchOf(m.Op) == batch && m.Planned.SpareMin != nil && *m.Planned.SpareMin >= 0 {
			out.Spare = fmt.Sprintf("After drying %s are in hand.", read.SayMinutes(*m.Planned.SpareMin))
		}
	}
	if st.Pinned != nil {
		out.Pinned = "Pinned to " + r.Time(st.Pinned.In(now.Location()), now) + "."
	}
	add := func(head, why string) {
		if why = strings.TrimSpace(why); why != "" {
			out.Why = append(out.Why, head+read.LowerFirst(why))
		}
	}
	add("Not earlier: ", st.Planned.NotEarlier)
	add("Not later: ", st.Planned.NotLater)
	return out
}
