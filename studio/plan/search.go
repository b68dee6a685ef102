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

// make searches for the plan, giving up what may be given up when nothing else
// fits: this evening's sheet, freshness, longest waits, and last an order that
// cannot be planned, so that the others keep theirs.
func (l *liner) make(ctx context.Context, old *noun.Plan, hash string) (*noun.Plan, []noun.Step) {
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
		made, err := l.search(ctx, sum)
		if err == nil {
			planned, found = l.stand(&made, sum), true
			sum.Troubles = append(append(sum.Troubles, l.stock(planned)...), l.tooEarly(planned)...)
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
		sum.StartBy, sum.SlackMin, sum.Chain, sum.Windows, sum.Late, sum.Troubles, sum.DueAt = old.Summary.StartBy, old.Summary.SlackMin, old.Summary.Chain, old.Summary.Windows, old.Summary.Late, old.Summary.Troubles, nil
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
	if (noPlace(err) || err == nil && len(made.Late) > 0 && ctx.Err() == nil) && l.dropTonight() {
		made, err = build()
	}
	if (noPlace(err) || err == nil && len(made.Late) > 0) && ctx.Err() == nil && l.dropFreshness() {
		// the date does not move: older pieces beat a late cake
		older, err2 := build()
		if err != nil || err2 == nil && lateness(&older) < lateness(&made) {
			made, err = older, err2
			l.older = true
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
	l.in.Holds = slices.DeleteFunc(l.in.Holds, func(h bench.Hold) bool { return ops[h.From] || ops[h.To] })
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
		b := &l.in.Batches[i]
		if b.FreshMinutes == nil {
			continue
		}
		for _, o := range b.Ops {
			l.fresh[o.ID] = time.Duration(*b.FreshMinutes) * time.Minute
		}
		any, b.FreshMinutes = true, nil
	}
	return any
}

// tooEarly names the orders of which pieces are planned before they would stay fresh.
func (l *liner) tooEarly(planned []noun.Step) (out []noun.Trouble) {
	if !l.older {
		return nil
	}
	for _, c := range l.in.Commissions {
		over, err := time.Parse(time.RFC3339, c.HandOver)
		if err != nil {
			continue
		}
		id, _ := strconv.ParseInt(strings.TrimPrefix(c.ID, "c"), 10, 64)
		if slices.ContainsFunc(planned, func(st noun.Step) bool {
			return st.CommissionID == id && st.ActualStart == nil && l.fresh[st.Op] > 0 && over.Sub(st.PlannedStart) > l.fresh[st.Op]
		}) {
			out = append(out, noun.Trouble{Code: "plan", CommissionID: id, Says: fmt.Sprintf("Not everything fits into the %s days that eaten pieces stay fresh: some are planned earlier.", read.Trimmed(l.b.Kitchen.FreshDays, 1)),
				Remedy: "Look at its line: open hours, or ask for less.", Do: "Its line", To: pageOf(id, "line")})
		}
	}
	return out
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
