// Package plan makes one plan of all open commissions, beside the writes: the work
// becomes an instance, the instance a plan, the plan stored steps; what moved is
// said, and the line is shown.
package plan

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/fault"
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
	because     string // what was done last
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
		begun := []string{}
		thin = work.Derived(thin, now)
		for _, st := range thin {
			if st.ActualStart != nil {
				begun = append(begun, st.Op)
			}
		}
		whole, err := tx.StepsNamed(begun) // of what has begun the numbers stand
		if err != nil {
			return err
		}
		byOp := map[string]noun.Step{}
		for _, st := range whole {
			byOp[st.Op] = st
		}
		for i := range thin {
			if st, ok := byOp[thin[i].Op]; ok {
				st.ActualStart, st.ActualEnd, st.PlannedStart, st.PlannedEnd = thin[i].ActualStart, thin[i].ActualEnd, thin[i].PlannedStart, thin[i].PlannedEnd
				thin[i] = st
			}
		}
		in.steps = thin
		if in.old, err = tx.Plan(); err != nil {
			return err
		}
		last, err := tx.Entries(0, 0, 1)
		if len(last) > 0 {
			in.because = last[0].Who + " " + last[0].Says
		}
		return err
	})
	return in, err
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
	l, err := instance(ctx, in.bench, in.commissions, in.pieces, in.steps)
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
	l.because = in.because
	within, cancel := context.WithTimeout(ctx, cmp.Or(s.Budget, planBudget))
	defer cancel()
	plan, planned := l.make(within, in.old, hash)
	if ctx.Err() != nil {
		return ctx.Err()
	}
	return s.Store.Write(ctx, slug, func(tx journal.Tx) error { return in.write(tx, plan, planned) })
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
		sum.Moved, sum.Before = shifts(standing, planned, in.now)
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

// make searches for the plan, giving up what may be given up when nothing else
// fits: this evening's sheet, freshness, longest waits, and last an order that
// cannot be planned, so that the others keep theirs.
func (l *liner) make(ctx context.Context, old *noun.Plan, hash string) (*noun.Plan, []noun.Step) {
	plan := &noun.Plan{Hash: hash, MadeAt: l.b.Now, Summary: noun.Summary{Fits: true, Chain: []string{}, Late: []noun.LateLine{}, LeftOut: l.leftOut, Windows: []noun.OpenWindow{}, Moved: []noun.MovedLine{}, Before: []noun.Place{}}}
	sum := &plan.Summary
	sum.MovedWhy = l.why(old)
	var planned []noun.Step
	for len(l.in.Batches) > 0 {
		made, err := l.search(ctx, sum)
		if err == nil {
			planned = l.stand(&made, sum)
			break
		}
		if ctx.Err() != nil {
			break
		}
		if c, say := l.cannot(err); c != "" {
			l.leaveOut(c, say)
			sum.LeftOut, sum.Trouble = l.leftOut, ""
			continue
		}
		sum.Fits, sum.Trouble = false, l.trouble(err)
		break
	}
	if planned == nil && len(l.in.Batches) > 0 && old != nil {
		sum.Stands = "No new plan was found: the one made " + read.SayTime(old.MadeAt, l.b.Now) + " stands."
		sum.Fits = false
		sum.StartBy, sum.SlackMin, sum.Chain, sum.Windows, sum.Late, sum.DueAt = old.Summary.StartBy, old.Summary.SlackMin, old.Summary.Chain, old.Summary.Windows, old.Summary.Late, nil
	}
	for _, st := range planned {
		if at := st.PlannedStart.Add(grace); st.Attended && (sum.DueAt == nil || at.Before(*sum.DueAt)) {
			sum.DueAt = &at
		}
	}
	return plan, planned
}

// why says what made a new plan necessary.
func (l *liner) why(old *noun.Plan) string {
	if old != nil && old.Due(l.b.Now) {
		return "a planned start has passed"
	}
	return l.because
}

// search makes a plan with what is given up only where nothing else fits.
func (l *liner) search(ctx context.Context, sum *noun.Summary) (bench.Plan, error) {
	build := func() (bench.Plan, error) { return bench.BuildWithin(ctx, bench.BuildIn{Instance: &l.in}) }
	made, err := build()
	if (noPlace(err) || err == nil && len(made.Late) > 0) && l.dropTonight() {
		made, err = build()
	}
	if (noPlace(err) || err == nil && len(made.Late) > 0) && ctx.Err() == nil && l.dropFreshness() {
		// the date does not move: older pieces beat a late cake
		older, err2 := build()
		if err != nil || err2 == nil && lateness(&older) < lateness(&made) {
			made, err = older, err2
			sum.Trouble = fmt.Sprintf("Not everything fits into the %s days that eaten pieces stay fresh: some are planned earlier.", read.Trimmed(l.b.Kitchen.FreshDays, 1))
		}
	}
	if noPlace(err) && l.dropOpenTimes() {
		made, err = build()
		sum.Trouble = "A piece that is made already waits longer than it should: cover it, check it, or make it again."
	}
	if noPlace(err) {
		if names := l.joinWindows(); len(names) > 0 {
			made, err = build()
			sum.Trouble = fmt.Sprintf("%s: the hours leave no time to put it on while it still gives. Join it dry, say when the cake is ready earlier, or open hours.", read.List(names))
		}
	}
	return made, err
}

// cannot finds the commission that a refusal is about, and the sentence for it.
func (l *liner) cannot(err error) (commission, say string) {
	var f *fault.Fault
	if !errors.As(err, &f) {
		return "", ""
	}
	for _, b := range l.in.Batches {
		for _, o := range b.Ops {
			if strings.Contains(f.Message, "\""+o.ID+"\"") {
				return b.Commission, l.trouble(err)
			}
		}
	}
	var at int
	if n, _ := fmt.Sscanf(f.Field, "instance.batches[%d]", &at); n == 1 && at < len(l.in.Batches) {
		return l.in.Batches[at].Commission, l.trouble(err)
	}
	return "", ""
}

// leaveOut takes a commission out of the task: the others keep their plan.
func (l *liner) leaveOut(commission, say string) {
	ops := map[string]bool{}
	l.in.Batches = slices.DeleteFunc(l.in.Batches, func(b bench.Batch) bool {
		if b.Commission != commission {
			return false
		}
		for _, o := range b.Ops {
			ops[o.ID] = true
		}
		return true
	})
	l.in.Lags = slices.DeleteFunc(l.in.Lags, func(g bench.Lag) bool { return ops[g.From] || ops[g.To] })
	l.in.Commissions = slices.DeleteFunc(l.in.Commissions, func(c bench.Commission) bool { return c.ID == commission })
	id, _ := strconv.ParseInt(strings.TrimPrefix(commission, "c"), 10, 64)
	l.leftOut = append(l.leftOut, noun.LeftOutLine{CommissionID: id, Say: say})
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

// trouble puts a refused plan into the reader's words: titles for step names.
func (l *liner) trouble(err error) string {
	say := work.Sentence(err)
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
			say = strings.ReplaceAll(say, id, read.LowerFirst(l.steps[id].Title))
		}
	}
	for _, r := range l.in.Resources {
		if id, ok := strings.CutPrefix(r.ID, "mould"); ok && r.Kind == "mould" {
			n, _ := strconv.ParseInt(id, 10, 64)
			if m := l.b.Tools[n]; m != nil {
				say = strings.ReplaceAll(say, "All of "+r.ID, "Every copy of "+m.Name)
			}
		}
	}
	return read.UpperFirst(strings.NewReplacer("All of freezer", "The whole freezer", "All of tray", "Every tray").Replace(say))
}

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
		for n := 1; n < AgainFrom; n++ {
			at, ok := begins[opBatch(*st.PieceID, n)]
			if ok && (at.Before(mine) || at.Equal(mine) && n < part.part) {
				rank++
			}
		}
		st.Planned.Part = rank
		st.Title = l.titles[st.Op](st.Planned.What())
	}
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
	sum.Chain = p.CriticalChain
	for _, late := range p.Late {
		id, _ := strconv.ParseInt(strings.TrimPrefix(late.Commission, "c"), 10, 64)
		sum.Late = append(sum.Late, noun.LateLine{id, late.Minutes, l.named(late.By)})
	}
	least := -1
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
	for _, st := range out {
		if st.Attended {
			sum.HandsMin += int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
		}
	}
	for _, b := range l.in.Batches {
		if b.Pieces > 0 {
			sum.Batches++
		}
	}
	for _, w := range l.windows {
		if used[w.Id] {
			sum.Windows = append(sum.Windows, noun.OpenWindow{w.Start, w.End})
		}
	}
	return out
}
