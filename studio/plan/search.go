package plan

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// make searches for the plan; an order that cannot be planned is left out, so that
// the others keep theirs.
func (l *liner) make(ctx context.Context, old *noun.Plan, standing []noun.Step, hash string) (*noun.Plan, []noun.Step) {
	plan := &noun.Plan{Hash: hash, MadeAt: l.b.Now, Summary: noun.Summary{Fits: true, Chain: []string{}, Late: []noun.LateLine{}, LeftOut: l.leftOut, Troubles: append([]noun.Trouble{}, l.wrong...), Windows: []noun.OpenWindow{}, Moved: []noun.MovedLine{}, Before: []noun.Place{}}}
	sum := &plan.Summary
	sum.MovedWhy = l.why(old)
	if len(l.b.Kitchen.Hours) == 0 && len(l.windows) == 0 && len(l.in.Batches) > 0 {
		sum.Fits, sum.NoHours = false, true
		return plan, nil
	}
	var planned []noun.Step
	found := len(l.in.Batches) == 0
	for len(l.in.Batches) > 0 {
		made, err := l.search(ctx, followed(standing, l.back...), sum)
		if err == nil {
			planned, found = l.stand(&made, sum), true
			sum.Troubles = append(append(sum.Troubles, l.stock(planned)...), append(l.givenUp(&made), l.loose...)...)
			break
		}
		if ctx.Err() != nil {
			break
		}
		if c, say := l.cannot(err); c != "" {
			l.leaveOut(c, say)
			sum.LeftOut, sum.Trouble = l.leftOut, ""
			found = len(l.in.Batches) == 0
			continue
		}
		sum.Fits, sum.Trouble = false, l.trouble(err)
		break
	}
	if !found && old != nil {
		sum.Stands = "No new plan was found: the one made " + l.b.Reader.Time(old.MadeAt, l.b.Now) + " stands."
		sum.Fits = false
		sum.StartBy, sum.CouldBy, sum.Spare, sum.Margin, sum.Chain, sum.Windows, sum.Late, sum.Troubles, sum.DueAt = old.Summary.StartBy, old.Summary.CouldBy, old.Summary.Spare, old.Summary.Margin, old.Summary.Chain, old.Summary.Windows, old.Summary.Late, old.Summary.Troubles, nil
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

// search makes the plan: what is followed is moved as little as can be, and away from
// the bench a plan from nothing is taken where it keeps more of what matters.
func (l *liner) search(ctx context.Context, old *bench.Plan, sum *noun.Summary) (bench.Plan, error) {
	build := func() (bench.Plan, error) {
		if old == nil {
			return bench.BuildWithin(ctx, bench.BuildIn{Instance: &l.in})
		}
		kept, err := bench.ReplanWithin(ctx, bench.ReplanIn{Instance: &l.in, Plan: old})
		if err == nil && (l.atBench && len(kept.Late) == 0 || kept.KeepsAll() || ctx.Err() != nil) {
			return kept, nil
		}
		fresh, err2 := bench.BuildWithin(ctx, bench.BuildIn{Instance: &l.in})
		if err == nil && (err2 != nil || !fresh.KeepsMore(&kept)) {
			return kept, nil
		}
		return fresh, err2
	}
	made, err := build()
	for err != nil && l.unpin(err) {
		made, err = build()
	}
	if noPlace(err) {
		if names := l.joinWindows(); len(names) > 0 {
			made, err = build()
			sum.Trouble = fmt.Sprintf("%s: the hours leave no time to put it on while it still gives. Join it dry, say when the cake is ready earlier, or open hours.", read.List(names))
		}
	}
	return made, err
}

// followed is the plan that people follow, as the planner reads it; nil when nothing
// of it stands. before: where some of them stood, when what moved them is taken back.
func followed(steps []noun.Step, before ...noun.Place) *bench.Plan {
	stood := map[string]time.Time{}
	for _, p := range before {
		stood[p.Op] = p.Start
	}
	out := &bench.Plan{}
	for _, st := range steps {
		if st.ActualStart == nil && st.Planned.Latest != "" { // one out of a document has no place yet
			at, window := st.PlannedStart, st.Planned.Window
			if t, ok := stood[st.Op]; ok {
				at, window = t, ""
			}
			out.Ops = append(out.Ops, bench.Planned{Op: st.Op, Start: at.Format(time.RFC3339), Window: window, Hands: st.Planned.Hands})
		}
	}
	if len(out.Ops) == 0 {
		return nil
	}
	return out
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
	l.in.Holds = slices.DeleteFunc(l.in.Holds, func(h bench.Hold) bool { return ops[h.From] || ops[h.To] })
	l.in.Commissions = slices.DeleteFunc(l.in.Commissions, func(c bench.Commission) bool { return c.ID == commission })
	l.leftOut = append(l.leftOut, noun.LeftOutLine{CommissionID: commissionID(commission), Say: say})
}

func noPlace(err error) bool {
	var f *fault.Fault
	return errors.As(err, &f) && f.Code == bench.NoPlace
}

// joinWindows gives up how long pieces may lie before they go on, and names
// them.
func (l *liner) joinWindows() []string {
	var names []string
	for i := range l.in.Lags {
		g := &l.in.Lags[i]
		if st := l.steps[g.From]; l.onCake[g.To] && g.Max != nil && st != nil {
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

// givenUp tells what the plan had to give up: a wait that is over or will be, a piece
// made before it would stay fresh.
func (l *liner) givenUp(p *bench.Plan) (out []noun.Trouble) {
	for _, w := range p.Warnings {
		var at int
		switch {
		case w.Code == "freshLost":
			if n, _ := fmt.Sscanf(w.Field, "batches[%d]", &at); n == 1 {
				b := l.in.Batches[at]
				id := commissionID(b.Commission)
				out = append(out, noun.Trouble{Code: "plan", CommissionID: id, Says: fmt.Sprintf("%s: made earlier than the %s days that it stays fresh; nothing later fits.", read.UpperFirst(b.Piece), read.Trimmed(l.b.Kitchen.FreshDays, 1)),
					Remedy: "Look at its line: open hours, or ask for less.", Do: "Its line", To: pageOf(id, "line")})
			}
		case w.Code == "openTimeLost":
			if n, _ := fmt.Sscanf(w.Field, "lags[%d]", &at); n == 1 && l.facts[l.in.Lags[at].From].ActualEnd == nil {
				st := l.steps[l.in.Lags[at].To]
				out = append(out, noun.Trouble{Code: "plan", CommissionID: st.CommissionID, Says: fmt.Sprintf("%s: the hours come too late for it; what is made waits longer than it should.", st.Title),
					Remedy: "Cover it, check it before it is used, or make it again.", Do: "Its line", To: pageOf(st.CommissionID, "line")})
			}
		}
	}
	return out
}

func commissionID(name string) int64 {
	id, _ := strconv.ParseInt(strings.TrimPrefix(name, "c"), 10, 64)
	return id
}

// trouble puts a refused plan into the reader's words: titles for step names.
func (l *liner) trouble(err error) string {
	say := work.Sentence(err)
	for id, st := range l.steps {
		say = strings.ReplaceAll(say, "\""+id+"\"", "\""+st.Title+"\"")
	}
	return say
}

// stepName is the name of a step as the planner speaks of it.
var stepName = regexp.MustCompile(`\b[pc]\d+\.(?:\d+\.)?[A-Za-z0-9-]+`)

// named replaces step ids by what the steps are called.
func (l *liner) named(say string) string {
	say = stepName.ReplaceAllStringFunc(say, func(id string) string {
		if st := l.steps[id]; st != nil {
			return read.LowerFirst(st.Title)
		}
		return id
	})
	for _, r := range l.in.Resources {
		if id, ok := strings.CutPrefix(r.ID, "tool"); ok {
			n, _ := strconv.ParseInt(id, 10, 64)
			if m := l.b.Tools[n]; m != nil {
				of := "Every copy of "
				if !m.Presses() {
					of = "Every place of "
				}
				say = strings.ReplaceAll(say, "All of "+r.ID, of+m.Name)
			}
		}
		if role, ok := strings.CutPrefix(r.ID, "any."); ok {
			say = strings.ReplaceAll(say, "All of "+r.ID, "Every "+role)
		}
	}
	return read.UpperFirst(strings.NewReplacer("All of freezer", "The whole freezer", "All of tray", "Every tray").Replace(say))
}
