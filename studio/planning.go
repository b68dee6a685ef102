package studio

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
)

func meets(allergens []string, c *Commission) []string {
	return caution.Meets(allergens, c.Allergies, c.NoGelatine)
}

// replan makes the one plan anew when an input or a fact has changed, or a
// planned start has passed unmarked. A plan that cannot be made is kept as a
// sentence; it never stands in the way of a change.
func (s *Service) replan(tx Tx, k *Kitchen, now time.Time, why string) error {
	cs, err := tx.Commissions()
	if err != nil {
		return err
	}
	ps, err := tx.Pieces(0)
	if err != nil {
		return err
	}
	steps, err := tx.Steps(0)
	if err != nil {
		return err
	}
	if err := beginWaits(tx, steps, now); err != nil {
		return err
	}
	if steps, err = tx.Steps(0); err != nil {
		return err
	}
	b, err := s.bench(tx, k, now)
	if err != nil {
		return err
	}
	l, err := b.instance(cs, ps, steps)
	if err != nil {
		return err
	}
	hash, err := l.hash()
	if err != nil {
		return err
	}
	old := tx.Plan()
	if old != nil && old.Hash == hash && !passed(steps, now) {
		return nil
	}
	plan := Plan{Hash: hash, MadeAt: now, Summary: Summary{Fits: true, Chain: []string{}, Late: []LateLine{}, LeftOut: l.leftOut, Windows: []OpenWindow{}}}
	var planned []Step
	if len(l.in.Batches) > 0 {
		made, err := bench.Build(bench.BuildIn{Instance: &l.in})
		if (noPlace(err) || err == nil && len(made.Late) > 0) && l.dropTonight() {
			made, err = bench.Build(bench.BuildIn{Instance: &l.in})
		}
		if (noPlace(err) || err == nil && len(made.Late) > 0) && l.dropFreshness() {
			// the date does not move: older pieces beat a late cake
			older, err2 := bench.Build(bench.BuildIn{Instance: &l.in})
			if err != nil || err2 == nil && lateness(&older) < lateness(&made) {
				made, err = older, err2
				plan.Summary.Trouble = fmt.Sprintf("Not everything fits into the %s days that eaten pieces stay fresh: some are planned earlier.", trimmed(k.FreshDays, 1))
			}
		}
		if noPlace(err) && l.dropOpenTimes() {
			made, err = bench.Build(bench.BuildIn{Instance: &l.in})
			plan.Summary.Trouble = "A piece that is made already waits longer than it should: cover it, check it, or make it again."
		}
		if noPlace(err) {
			names := l.joinWindows()
			if len(names) > 0 {
				made, err = bench.Build(bench.BuildIn{Instance: &l.in})
				plan.Summary.Trouble = fmt.Sprintf("%s: the hours leave no time to put it on while it still gives. Join it dry, say when the cake is ready earlier, or open hours.", list(names))
			}
		}
		if err != nil {
			plan.Summary.Fits, plan.Summary.Trouble = false, l.trouble(err)
		} else {
			planned = l.stand(&made, &plan.Summary)
		}
	}
	var standing []Step
	for _, st := range steps {
		if st.ActualStart == nil {
			standing = append(standing, st)
		}
	}
	sum := &plan.Summary
	sum.MovedWhy = why
	if sum.Moved, sum.Before = shifts(standing, planned, now); len(sum.Moved) == 0 && old != nil {
		sum.Moved, sum.Before, sum.MovedWhy = old.Summary.Moved, old.Summary.Before, old.Summary.MovedWhy // still worth a look
	}
	if err := tx.ReplacePlanned(planned); err != nil {
		return err
	}
	if err := tx.SavePlan(&plan); err != nil {
		return err
	}
	return tx.Tell()
}

func lateness(p *bench.Plan) (minutes int) {
	for _, l := range p.Late {
		minutes += l.Minutes
	}
	return minutes
}

func noPlace(err error) bool {
	var f *fault.Fault
	return errors.As(err, &f) && f.Code == bench.NoPlace
}

// dropOpenTimes gives up the longest waits after what has happened already.
func (l *liner) dropOpenTimes() bool {
	any := false
	for i := range l.in.Lags {
		g := &l.in.Lags[i]
		if _, begun := l.facts[g.From]; begun && g.Max != nil {
			g.Max, any = nil, true
		}
	}
	return any
}

// joinWindows gives up how long pieces may lie before they go on, and names
// them.
func (l *liner) joinWindows() []string {
	var names []string
	for i := range l.in.Lags {
		g := &l.in.Lags[i]
		if st := l.steps[g.From]; strings.HasSuffix(g.To, ".putOn") && g.Max != nil && st != nil {
			g.Max = nil
			for _, b := range l.in.Batches {
				for _, o := range b.Ops {
					if o.ID == g.From && !slices.Contains(names, b.Piece) {
						names = append(names, b.Piece)
					}
				}
			}
		}
	}
	return names
}

// dropTonight lets what was planned for this evening go to another.
func (l *liner) dropTonight() bool {
	for i := range l.in.Batches {
		for j := range l.in.Batches[i].Ops {
			l.in.Batches[i].Ops[j].NotAfter = ""
		}
	}
	dropped := len(l.tonight) > 0
	clear(l.tonight)
	return dropped
}

// dropFreshness gives up the longest age of eaten pieces, where it leaves no
// place at all.
func (l *liner) dropFreshness() bool {
	any := false
	for i := range l.in.Batches {
		any = any || l.in.Batches[i].FreshMinutes != nil
		l.in.Batches[i].FreshMinutes = nil
	}
	return any
}

// grace is how long after its planned start a step is taken to be in hands
// already: people mark what they have done, not what they begin.
const grace = 15 * time.Minute

// passed reports whether a planned start has gone by unmarked. Waits follow
// what hands do.
func passed(steps []Step, now time.Time) bool {
	return slices.ContainsFunc(steps, func(st Step) bool {
		return st.Attended && st.ActualStart == nil && st.PlannedStart.Add(grace).Before(now)
	})
}

// nextWait is a wait that follows another one which is over: the step, and when
// it began by itself.
func nextWait(steps []Step, now time.Time) (next *Step, at time.Time) {
	for i := range steps {
		st := &steps[i]
		if st.Attended || st.ActualStart != nil {
			continue
		}
		for _, before := range steps {
			if before.Attended || before.Planned.After != st.Op || before.ActualStart == nil {
				continue
			}
			over := before.PlannedEnd
			if before.ActualEnd != nil {
				over = *before.ActualEnd
			}
			if !over.After(now) {
				return st, over
			}
		}
	}
	return nil, at
}

func waitDue(steps []Step, now time.Time) bool {
	st, _ := nextWait(steps, now)
	return st != nil
}

// beginWaits lets a wait begin that follows another wait which is over: hands
// have nothing to do with it.
func beginWaits(tx Tx, steps []Step, now time.Time) error {
	for {
		st, at := nextWait(steps, now)
		if st == nil {
			return nil
		}
		if err := beginWait(tx, st, at); err != nil {
			return err
		}
	}
}

// beginWait makes a wait a fact, with the timers that it starts.
func beginWait(tx Tx, st *Step, at time.Time) error {
	length := st.PlannedEnd.Sub(st.PlannedStart)
	st.ActualStart, st.PlannedStart, st.PlannedEnd = &at, at, at.Add(length)
	if err := tx.SaveStep(st); err != nil {
		return err
	}
	return startTimers(tx, st, at)
}

// trouble puts a refused plan into the reader's words: titles for step names.
func (l *liner) trouble(err error) string {
	say := sentence(err)
	for id, st := range l.steps {
		say = strings.ReplaceAll(say, "\""+id+"\"", "\""+st.Title+"\"")
	}
	return say
}

// named replaces step ids by what the steps are called.
func (l *liner) named(say string) string {
	ids := slices.Clone(l.order)
	slices.SortFunc(ids, func(a, b string) int { return len(b) - len(a) })
	for _, id := range ids {
		if strings.Contains(say, id) {
			say = strings.ReplaceAll(say, id, lowerFirst(l.steps[id].Title))
		}
	}
	for _, r := range l.in.Resources {
		if id, ok := strings.CutPrefix(r.ID, "mould"); ok && r.Kind == "mould" {
			n, _ := strconv.ParseInt(id, 10, 64)
			if m := l.b.tools[n]; m != nil {
				say = strings.ReplaceAll(say, "All of "+r.ID, "Every copy of "+m.Name)
			}
		}
	}
	return upperFirst(strings.NewReplacer("All of freezer", "The whole freezer", "All of tray", "Every tray").Replace(say))
}

func lowerFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// numberParts counts the parts of a piece in the order in which they are begun.
func (l *liner) numberParts(planned []Step) {
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
		for n := 1; n < againFrom; n++ {
			at, ok := begins[opBatch(*st.PieceID, n)]
			if ok && (at.Before(mine) || at.Equal(mine) && n < part.part) {
				rank++
			}
		}
		st.Title = strings.Replace(st.Title, partSays(part.part, part.of), partSays(rank, part.of), 1)
	}
}

// stand writes the plan into the steps and tells what decides.
func (l *liner) stand(p *bench.Plan, sum *Summary) []Step {
	zone := l.b.now.Location()
	at := func(text string) time.Time {
		t, _ := time.Parse(time.RFC3339, text)
		return t.In(zone)
	}
	sum.Fits = p.Feasible
	if p.StartBy != "" {
		sum.StartBy = new(at(p.StartBy))
	}
	sum.Chain = p.CriticalChain
	for _, late := range p.Late {
		id, _ := strconv.ParseInt(strings.TrimPrefix(late.Commission, "c"), 10, 64)
		sum.Late = append(sum.Late, LateLine{id, late.Minutes, l.named(late.By)})
	}
	least := -1
	used := map[string]bool{}
	after := map[string]string{}
	for _, g := range l.in.Lags {
		if after[g.From] == "" {
			after[g.From] = g.To
		}
	}
	var out []Step
	for _, o := range p.Ops {
		st := l.steps[o.Op]
		if o.State != "planned" {
			continue
		}
		st.PlannedStart, st.PlannedEnd = at(o.Start), at(o.End)
		st.Planned.Window, st.Planned.Hands, st.Planned.CleanDown, st.Planned.SlackMin, st.Planned.Latest = o.Window, o.Hands, o.CleanDown, o.Slack, o.LatestStart
		if st.Planned.Hands == nil {
			st.Planned.Hands = []int{}
		}
		st.Planned.NotLater, st.Planned.NotEarlier = l.named(o.NotLater.Say), l.named(o.NotEarlier.Say)
		st.Planned.Decides = slices.Contains(p.CriticalChain, o.Op)
		st.Planned.After = after[o.Op]
		st.Planned.Minutes = int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
		used[o.Window] = true
		if least < 0 || o.Slack < least {
			least = o.Slack
		}
		st.Version = 1
		out = append(out, *st)
	}
	l.numberParts(out)
	sum.SlackMin = max(0, least)
	for _, w := range l.windows {
		if used[w.id] {
			sum.Windows = append(sum.Windows, OpenWindow{w.start, w.end})
		}
	}
	return out
}
