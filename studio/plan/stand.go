package plan

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// grace is how long after its planned start a step is taken to be in hands
// already: people mark what they have done, not what they begin.
const grace = 15 * time.Minute

// numberParts counts the parts of a piece in the order in which they are begun.
func (l *liner) numberParts(planned []noun.Step) {
	begins := map[string]time.Time{} // of a batch, "p4.2"
	batch := func(op string) string { return op[:strings.LastIndex(op, ".")] }
	for _, f := range l.facts {
		if at, ok := begins[batch(f.Op)]; f.PieceID != nil && (!ok || f.ActualStart.Before(at)) {
			begins[batch(f.Op)] = *f.ActualStart
		}
	}
	for _, st := range planned {
		if at, ok := begins[batch(st.Op)]; st.PieceID != nil && (!ok || st.PlannedStart.Before(at)) {
			begins[batch(st.Op)] = st.PlannedStart
		}
	}
	for i := range planned {
		st := &planned[i]
		part, ok := l.parts[st.Op]
		if !ok || part.of < 2 {
			continue
		}
		rank, mine := 1, begins[batch(st.Op)]
		for n := 1; n < noun.AgainFrom; n++ {
			at, ok := begins[noun.BatchID(*st.PieceID, n)]
			if ok && (at.Before(mine) || at.Equal(mine) && n < part.part) {
				rank++
			}
		}
		st.Planned.Part = rank
		st.Title = l.titles[st.Op](st.Planned.What())
	}
}

// spareLine says what time there is after drying in which something can be made again.
func (l *liner) spareLine(x bench.Spare) noun.SpareLine {
	out := noun.SpareLine{CommissionID: commissionID(x.Commission), Minutes: x.Minutes, Wanted: x.Wanted}
	if x.Minutes >= x.Wanted {
		out.Says = fmt.Sprintf("Every piece has at least %s after drying.", read.SayMinutes(x.Wanted))
		return out
	}
	name := x.Batch
	for _, b := range l.in.Batches {
		if b.ID == x.Batch && b.Piece != "" {
			name = b.Piece
		}
	}
	if x.Minutes > 0 {
		out.Says = fmt.Sprintf("%s: %s after drying, %s are wanted. What breaks late cannot be made again.", name, read.SayMinutes(x.Minutes), read.SayMinutes(x.Wanted))
	} else {
		out.Says = fmt.Sprintf("%s: nothing in hand after drying. What breaks cannot be made again.", name)
	}
	return out
}

// margins are what is kept free before each hand-over, beside what is wished.
func (l *liner) margins(planned []noun.Step) (out []noun.MarginLine) {
	for _, c := range l.in.Commissions {
		id := commissionID(c.ID)
		over, err := time.Parse(time.RFC3339, c.HandOver)
		var last *noun.Step
		for i := range planned {
			if st := &planned[i]; st.CommissionID == id && (last == nil || st.PlannedEnd.After(last.PlannedEnd)) {
				last = st
			}
		}
		if err != nil || last == nil {
			continue
		}
		x := noun.MarginLine{CommissionID: id, Minutes: int(over.Sub(last.PlannedEnd) / time.Minute), Wanted: c.BufferMinutes}
		switch {
		case x.Minutes < 0:
			continue // it is late, and told so
		case x.Minutes >= x.Wanted:
			x.Says = fmt.Sprintf("%s free before the hand-over; %s are wished.", read.SayMinutes(x.Minutes), read.SayMinutes(x.Wanted))
		default:
			x.Says = fmt.Sprintf("%s free before the hand-over instead of %s: %s. %s", read.SayMinutes(x.Minutes), read.SayMinutes(x.Wanted), read.LowerFirst(last.Title), last.Planned.NotEarlier)
		}
		out = append(out, x)
	}
	return out
}

// stand writes the plan into the steps and tells what decides.
func (l *liner) stand(p *bench.Plan, sum *noun.Summary) []noun.Step {
	zone := l.b.Now.Location()
	at := func(text string) time.Time {
		t, _ := time.Parse(time.RFC3339, text)
		return t.In(zone)
	}
	sum.Fits = p.Feasible
	if p.StartBy != "" {
		sum.StartBy = new(at(p.StartBy))
	}
	if p.CouldBeginBy != "" {
		sum.CouldBy = new(at(p.CouldBeginBy))
	}
	for _, x := range p.LeastSpare {
		sum.Spare = append(sum.Spare, l.spareLine(x))
	}
	sum.Chain = p.CriticalChain
	for _, late := range p.Late {
		sum.Late = append(sum.Late, noun.LateLine{CommissionID: commissionID(late.Commission), Minutes: late.Minutes, By: l.named(late.By)})
	}
	used := map[string]bool{}
	after := map[string]string{}
	for _, g := range l.in.Lags {
		if after[g.From] == "" {
			after[g.From] = g.To
		}
	}
	var out []noun.Step
	for _, o := range p.Ops {
		st := l.steps[o.Op]
		if o.State != "planned" {
			continue
		}
		st.PlannedStart, st.PlannedEnd = at(o.Start), at(o.End)
		st.Planned.Window, st.Planned.Hands, st.Planned.CleanDown, st.Planned.SlackMin, st.Planned.Latest = o.Window, o.Hands, o.CleanDown, o.Slack, o.LatestStart
		st.Planned.SpareMin = o.Spare
		if st.Planned.Hands == nil {
			st.Planned.Hands = []int{}
		}
		st.Planned.NotLater, st.Planned.NotEarlier = l.named(o.NotLater.Say), l.named(o.NotEarlier.Say)
		st.Planned.Decides = slices.Contains(p.CriticalChain, o.Op)
		st.Planned.After = after[o.Op]
		st.Planned.Minutes = int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
		used[o.Window] = true
		st.Version = 1
		out = append(out, *st)
	}
	l.numberParts(out)
	sum.Margin = l.margins(out)
	for _, st := range out {
		if st.Attended {
			sum.HandsMin += st.Hands()
			sum.BenchMin += int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
		}
	}
	for _, b := range l.in.Batches {
		if b.Pieces > 0 {
			sum.Batches++
		}
	}
	for _, w := range l.windows {
		if used[w.Id] {
			sum.Windows = append(sum.Windows, noun.OpenWindow{Start: w.Start, End: w.End})
		}
	}
	return out
}
