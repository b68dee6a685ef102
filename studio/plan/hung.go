package plan

import (
	"cmp"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func (s *Planning) line(tx journal.Tx, k *noun.Kitchen, now time.Time, in LineIn) (LineView, error) {
	r := read.Reader{K: k}
	h := &hung{in: in, k: k, r: r, now: now, one: in.Commission != 0, end: now.AddDate(50, 0, 0), LineView: LineView{
		By: cmp.Or(in.By, "batch"), Fits: true, Now: now, NowSays: now.Format("Mon ") + r.Clock(now),
		Decides: []string{}, Kept: []string{}, Troubles: []noun.Trouble{}, Rows: []LineRow{}, Sessions: []Session{},
		Moved: []noun.MovedLine{}, Before: []noun.Place{}, Cautions: work.CautionsIn(r, caution.Bench()),
	}}
	plan, err := tx.Plan()
	if err != nil {
		return h.LineView, err
	}
	pulse, err := tx.Pulse()
	if err != nil {
		return h.LineView, err
	}
	h.Follows = pulse.Made >= pulse.Wanted
	if err := h.read(tx); err != nil {
		return h.LineView, err
	}
	h.hang()
	wrong, err := WrongNow(tx, h.cs, plan, nil, now)
	if err != nil {
		return h.LineView, err
	}
	h.Troubles = wrong.Of(in.Commission)
	windows := 0
	if plan != nil {
		deciding, err := tx.StepsNamed(plan.Summary.Chain)
		if err != nil {
			return h.LineView, err
		}
		h.plan(&plan.Summary, deciding, in.Commission, r, now)
		if windows = len(plan.Summary.Windows); !h.one {
			h.minutes, h.length, h.batches = plan.Summary.HandsMin, plan.Summary.BenchMin, plan.Summary.Batches
		}
	}
	if h.one {
		h.begins()
		h.Says = fmt.Sprintf("%s; to come: %s", read.Count(h.batches, "batch"), handsAndBench(h.minutes, h.length))
	} else {
		h.Says = fmt.Sprintf("%s, %s; to come: %s, in %s", read.Count(len(h.cs), "commission"), read.Count(h.batches, "batch"), handsAndBench(h.minutes, h.length), read.Count(windows, "session"))
	}
	return h.LineView, nil
}

// hung is the line while it is hung up for somebody.
type hung struct {
	LineView
	in         LineIn
	k          *noun.Kitchen
	r          read.Reader
	now        time.Time
	one        bool // only one order's
	cs         []noun.Commission
	steps      []noun.Step
	start, end time.Time // what is to be seen
	// to come: minutes of hands, minutes at the bench, and batches
	minutes, length, batches int
}

// read reads what hangs on it.
func (h *hung) read(tx journal.Tx) (err error) {
	if h.one {
		c, err := journal.Get[noun.Commission](tx, h.in.Commission)
		if err != nil {
			return err
		}
		h.cs = []noun.Commission{c}
		if h.steps, err = tx.Steps(c.ID); err != nil {
			return err
		}
	} else {
		if h.cs, err = tx.OpenCommissions(); err != nil {
			return err
		}
		days := cmp.Or(h.in.Days, lineDays)
		h.start = dayOf(h.in.From, h.now)
		h.end = h.start.AddDate(0, 0, days)
		if h.steps, err = tx.ThinStepsWithin(h.start.AddDate(0, 0, -lineDays), h.end); err != nil {
			return err
		}
		last := h.end.AddDate(0, 0, -1)
		h.From = h.start.Format(time.DateOnly)
		h.Shown = h.start.Format("Mon ") + h.r.Day(h.start, false) + " to " + last.Format("Mon ") + h.r.Day(last, false)
		h.Earlier, h.Later = h.start.AddDate(0, 0, -days).Format(time.DateOnly), h.end.Format(time.DateOnly)
	}
	h.steps = work.Derived(h.steps, h.k, h.now)
	return nil
}

// hang makes a row of each order, and the hours behind them.
func (h *hung) hang() {
	chain := work.ChainOf(h.steps)
	mine := map[int64][]noun.Step{}
	for _, st := range h.steps {
		mine[st.CommissionID] = append(mine[st.CommissionID], st)
	}
	hands, who := HandsOf(h.k, h.now), map[string][]string{}
	for i := range h.cs {
		c := &h.cs[i]
		if c.State != "open" || c.DeletedAt != nil {
			continue
		}
		row := LineRow{CommissionID: c.ID, Title: c.Title, Steps: []LineMark{}}
		if c.HandOver != nil {
			row.HandOver, row.HandOverSays = c.HandOver.In(h.now.Location()), h.r.Date(*c.HandOver, h.now)
		}
		for _, st := range mine[c.ID] {
			l := NewLineStep(st, c.Title, h.r, h.now)
			if !l.End.After(h.start) || !l.Start.Before(h.end) {
				continue
			}
			m := l.mark(h.one, h.in.By)
			if next := chain.NextHands(&st); !st.Attended && next != nil {
				m.Next = next.Op
			}
			row.Steps = append(row.Steps, m)
			h.count(&st)
			if h.in.By == "person" && st.Attended {
				who[st.Op] = hands.Of(&st)
			}
		}
		if len(row.Steps) > 0 {
			slices.SortStableFunc(row.Steps, func(a, b LineMark) int { return int(a.Start/1000 - b.Start/1000) })
			h.Rows = append(h.Rows, row)
		}
	}
	if len(h.Rows) > 0 {
		if h.one {
			h.start, h.end = time.Date(h.now.Year(), h.now.Month(), h.now.Day(), 0, 0, 0, 0, h.now.Location()), lineTo(&h.Rows[0], h.now)
		}
		h.hours(h.k, h.r, h.start, h.end)
	}
	if h.in.By == "person" {
		h.Rows = byPerson(h.Rows, who)
	}
}

// count adds up what is to come.
func (h *hung) count(st *noun.Step) {
	if st.Attended && st.ActualStart == nil {
		h.minutes += st.Hands()
		h.length += int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
	}
	if st.Makes() {
		h.batches++
	}
}

// begins tells when one order begins, and how late it could.
func (h *hung) begins() {
	h.StartBy, h.CouldBy = "", ""
	h.Begun = slices.ContainsFunc(h.steps, func(st noun.Step) bool { return st.ActualStart != nil })
	first, ok := firstPlanned(h.steps, h.in.Commission)
	if !ok {
		return
	}
	h.StartBy = h.r.Time(first, h.now)
	late := slices.ContainsFunc(h.Troubles, func(x noun.Trouble) bool { return x.Code == "late" })
	if t, ok := work.BeginBy(h.steps, h.in.Commission, h.now); ok && !late && t.After(first) {
		h.CouldBy = couldSays(h.r.Time(t, h.now))
	}
}

func couldSays(t string) string {
	return fmt.Sprintf("It could begin as late as %s; then nothing may go wrong.", t)
}

// firstPlanned is when hands are planned to begin with an order, or to go on with it.
func firstPlanned(steps []noun.Step, commission int64) (first time.Time, ok bool) {
	for _, st := range steps {
		if st.CommissionID != commission || !st.Attended || st.ActualStart != nil {
			continue
		}
		if !ok || st.PlannedStart.Before(first) {
			first, ok = st.PlannedStart, true
		}
	}
	return first, ok
}

// handsAndBench tells hands and waiting apart: "4 h 36 of hands, 8 h 02 at the bench".
func handsAndBench(hands, length int) string {
	hours := func(min int) string {
		if min < 2880 {
			return read.SayMinutes(min)
		}
		return fmt.Sprintf("%d h", (min+30)/60) // days of it would be taken for days of the calendar
	}
	if hands == length {
		return hours(hands) + " of hands"
	}
	return hours(hands) + " of hands, " + hours(length) + " at the bench"
}
