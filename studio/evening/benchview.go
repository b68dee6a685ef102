// Package evening is the bench while it is worked at: movements of hands, clocks,
// counts, what is weighed and taken back.
package evening

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Evening is the bench: what hands do, the clocks, what is weighed.
type Evening struct{ *plan.Planning }

// BenchView is what to do now, what waits, and what comes after.
type BenchView struct {
	Heading  string            `json:"heading"`
	Until    string            `json:"until"`
	Room     string            `json:"room"`
	ClockMS  int64             `json:"clockMs" doc:"the server's clock, ms since 1970"`
	LastID   int64             `json:"lastId" doc:"the line that would be taken back"`
	Now      *plan.LineStep    `json:"now,omitempty"`
	Move     *MoveView         `json:"move,omitempty" doc:"the next movement of hands in the rounds of a mould"`
	Photo    *work.PhotoView   `json:"photo,omitempty" doc:"of the tool that pieces are made with now"`
	Tool     *ToolAt           `json:"tool,omitempty" doc:"the mould that pieces are made with now"`
	Before   string            `json:"before" doc:"nothing needs hands before that, when nothing is due"`
	BeforeMS int64             `json:"beforeMs" doc:"that instant, by the server's clock; 0: there is none"`
	Offers   []plan.LineStep   `json:"offers" doc:"what could be done earlier than planned, when nothing is due or hands wait for a mould"`
	Others   []plan.LineStep   `json:"others" doc:"what is due for the hands of somebody else"`
	Away     *AwayView         `json:"away,omitempty" doc:"hands were called off a step"`
	Troubles []noun.Trouble    `json:"troubles" doc:"what is wrong today, the dearest first"`
	Waiting  []WaitView        `json:"waiting"`
	Timers   []TimerView       `json:"timers"`
	Next     []plan.LineStep   `json:"next"`
	Done     []plan.LineStep   `json:"done" doc:"the latest, the last one last"`
	Evening  []plan.LineStep   `json:"evening"`
	Waits    []plan.LineStep   `json:"waits" doc:"what begins to wait on this evening"`
	LayOut   []string          `json:"layOut" doc:"to lay out before the first step of the evening"`
	Ending   []EndingPart      `json:"ending" doc:"the end of the evening: what to cover, label, clean, and what dries"`
	Tallies  []work.Tally      `json:"tallies"`
	Reasons  []read.Option     `json:"reasons" doc:"why a piece broke"`
	Moved    []noun.MovedLine  `json:"moved" doc:"what the plan made last has moved"`
	MovedWhy string            `json:"movedWhy"`
	LastSays string            `json:"lastSays" doc:"what would be taken back"`
	LastWho  string            `json:"lastWho" doc:"who did that"`
	People   []string          `json:"people"`
	Nothing  string            `json:"nothing"`
	Cautions []caution.Caution `json:"cautions"`

	r      read.Reader
	who    string // for whose hands it is shown; "": anybody's
	all    []plan.LineStep
	free   []candidate // what waits for nothing and has not begun, the longest first
	opens  time.Time   // when tonight's hours begin
	closes time.Time   // and end
}

// tidyWithin is how long before the hours end it is said how an evening ends.
const tidyWithin = 15 * time.Minute

// MoveView is one movement of hands.
type MoveView struct {
	Do   string `json:"do" enum:"press,pressOut,open,wait"`
	Say  string `json:"say"`
	Sub  string `json:"sub"`
	Done string `json:"done" doc:"what the button says"`

	Steps []string `json:"steps" doc:"what hands do in one round, where it is more than one movement"`
	N     int      `json:"n"`
	Of    int      `json:"of"`
	AtMS  int64    `json:"atMs" doc:"of a wait: when it ends, by the server's clock"`
}

// WaitView is a wait that runs, and the step of hands that follows it.
type WaitView struct {
	Title   string  `json:"title"`
	Until   string  `json:"until"`
	In      string  `json:"in"`
	Share   float64 `json:"share"`
	Cord    string  `json:"cord"`
	Op      string  `json:"op" doc:"of the step of hands that follows"`
	Version int64   `json:"version"`
	Then    string  `json:"then" doc:"that step"`
}

// mostDone is how many finished steps the bench shows.
const mostDone = 8

// lateSoon is how near the latest start of a step must be before it goes ahead
// of the plan's own order.
const lateSoon = 10 * time.Minute

// Bench shows the bench.
//
// at is a step that hands take although it is not due, "" for what is due.
func (s *Evening) Bench(ctx context.Context, slug, at string) (out BenchView, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out, err = s.benchNow(tx, k, benchFor{at, journal.Who(ctx)}, now)
		return err
	})
	return out, err
}

// benchFor is what of the bench is shown: a step that is taken although it is not due,
// and for whose hands.
type benchFor struct{ at, who string }

func (s *Evening) benchNow(tx journal.Tx, k *noun.Kitchen, for_ benchFor, now time.Time) (BenchView, error) {
	out := BenchView{who: for_.who, Others: []plan.LineStep{}, r: read.Reader{K: k}, Heading: now.Format("Monday"), Room: work.RoomSays(k, now), ClockMS: now.UnixMilli(), Waiting: []WaitView{}, Timers: []TimerView{}, Next: []plan.LineStep{}, Offers: []plan.LineStep{}, Done: []plan.LineStep{},
		Evening: []plan.LineStep{}, Waits: []plan.LineStep{}, LayOut: []string{}, Ending: []EndingPart{}, Moved: []noun.MovedLine{}, Reasons: breakReasons, People: k.People(), Cautions: work.CautionsIn(read.Reader{K: k}, caution.Bench())}
	switch h := now.Hour(); {
	case h < 12:
		out.Heading += " morning"
	case h < 18:
		out.Heading += " afternoon"
	default:
		out.Heading += " evening"
	}
	cs, err := tx.OpenCommissions()
	if err != nil {
		return out, err
	}
	stands, err := tx.Plan()
	if err != nil {
		return out, err
	}
	near, err := tx.StepsNear(nearSteps)
	if err != nil {
		return out, err
	}
	done, err := tx.StepsDone(mostDone)
	if err != nil {
		return out, err
	}
	hands := plan.HandsOf(k, now)
	titles, guests := noun.TitlesOf(cs), guestsOf(cs)
	steps := work.Derived(near, k, now)
	var all []plan.LineStep
	for i := range steps {
		if err := withCopies(tx, &steps[i]); err != nil {
			return out, err
		}
	}
	for _, st := range steps {
		l := plan.NewLineStep(st, titles[st.CommissionID], out.r, now)
		l.Guests = guests[st.CommissionID]
		if hands.Told(&st) {
			l.Whose = hands.Of(&st)
			l.For = read.List(l.Whose)
		}
		all = append(all, l)
	}
	slices.SortStableFunc(all, func(a, b plan.LineStep) int { return a.Start.Compare(b.Start) })
	for _, st := range slices.Backward(done) {
		out.Done = append(out.Done, plan.NewLineStep(st, titles[st.CommissionID], out.r, now))
	}
	out.hours(k, now)
	out.sort(all, work.ChainOf(steps), now)
	wrong, err := plan.WrongNow(tx, cs, stands, steps, now)
	if err != nil {
		return out, err
	}
	out.Troubles, out.Tallies = wrong.Of(0), wrong.Tallies
	out.all = all
	out.choose(all, wrong.Stopped(), for_.at, now)
	if err := out.tool(tx, k); err != nil {
		return out, err
	}
	if err := out.clocksAndLast(tx, steps, now); err != nil {
		return out, err
	}
	out.awayView(all, work.ChainOf(steps), now)
	out.told(stands)
	out.lists(all, now, read.Reader{K: k})
	return out, nil
}

// guestsOf are who eats of each commission, in a line.
func guestsOf(cs []noun.Commission) map[int64]string {
	out := map[int64]string{}
	for i := range cs {
		out[cs[i].ID] = cs[i].Table().Says()
	}
	return out
}

// nearSteps is how many steps of hands the bench looks ahead.
const nearSteps = 80

// hours says until when the bench is open, and who is at it.
func (v *BenchView) hours(k *noun.Kitchen, now time.Time) {
	for _, w := range k.OpenHours(now.Add(-24*time.Hour), now.AddDate(0, 0, 2)) {
		if w.Start.After(now) || !w.End.After(now) {
			continue
		}
		v.opens, v.closes = w.Start, w.End
		v.Until = fmt.Sprintf("until %s, %s left", v.r.Clock(w.End), read.SayMinutes(int(w.End.Sub(now)/time.Minute)))
		if len(w.Names) > 0 {
			v.Until += ", " + read.List(w.Names)
		}
	}
}

// clocksAndLast are the timers that run, and what would be taken back.
func (v *BenchView) clocksAndLast(tx journal.Tx, steps []noun.Step, now time.Time) error {
	own, err := tx.Timers()
	if err != nil {
		return err
	}
	answers, err := tx.Answers()
	if err != nil {
		return err
	}
	v.Timers = timerRows(running(own, steps, answers), v.r, now)
	e, err := tx.LastEntry(journal.UndoBench)
	if err == nil {
		v.LastSays, v.LastWho, v.LastID = e.Says, e.Who, e.ID
	} else if !errors.Is(err, journal.ErrNotFound) {
		return err
	}
	return nil
}

// told says what the plan has to say: what is late, what moved, what it lacks.
func (v *BenchView) told(stands *noun.Plan) {
	if stands == nil {
		stands = &noun.Plan{}
	}
	sum := &stands.Summary
	if len(sum.Moved) > 0 {
		v.Moved, v.MovedWhy = sum.Moved, sum.MovedWhy
	}
	switch {
	case v.Now != nil:
	case v.Before != "":
		v.Nothing = "Nothing needs your hands before " + v.Before + "."
	case len(v.Troubles) > 0:
		v.Nothing = "Nothing can be done for the moment: see what is wrong first."
	default:
		v.Nothing = "Nothing waits for your hands. Take an order, or look at the line."
	}
}

// sort puts the steps where they belong: done, waiting, of this evening.
func (v *BenchView) sort(all []plan.LineStep, chain work.Chain, now time.Time) {
	evening := ""
	for i := range all {
		st := &all[i]
		switch {
		case st.ActualStart != nil && !st.Attended && st.ActualEnd == nil && st.PlannedEnd.After(now):
			v.Waiting = append(v.Waiting, waitView(st, chain, v.r, now))
		case st.Attended && st.ActualEnd == nil:
			if evening == "" {
				evening = st.Planned.Window
			}
			if st.Planned.Window == evening {
				v.Evening = append(v.Evening, *st)
			}
		}
	}
	after := map[string]bool{}
	for _, e := range v.Evening {
		after[e.Planned.After] = true
	}
	for i := range all {
		if st := &all[i]; !st.Attended && after[st.Op] {
			v.Waits = append(v.Waits, *st)
		}
	}
}

// waitView is a wait that runs: until when, as finely as is known, and what follows.
func waitView(st *plan.LineStep, chain work.Chain, r read.Reader, now time.Time) WaitView {
	x := WaitView{Title: st.Title, Cord: st.Planned.Cord, Share: 1}
	if next := chain.NextHands(&st.Step); next != nil {
		x.Op, x.Version, x.Then = next.Op, next.Version, next.Title
	}
	if st.Never {
		x.Until, x.Share = "not in this room", 0
		return x
	}
	end := st.PlannedEnd
	x.Until, x.In = r.Time(end, now), read.SayWhen(end, now)
	if st.Dries() {
		x.Until = "about " + r.About(end, *st.ActualStart, now)
	}
	if end.After(*st.ActualStart) {
		x.Share = min(1, max(0, now.Sub(*st.ActualStart).Minutes()/end.Sub(*st.ActualStart).Minutes()))
	}
	return x
}

// waitsFor is the wait before a step that still runs, of several the last to end; nil:
// none does.
func waitsFor(st *noun.Step, c work.Chain) (last *noun.Step) {
	for _, o := range c.Before[st.Op] {
		if !o.Attended && o.ActualStart != nil && o.ActualEnd == nil && (last == nil || o.PlannedEnd.After(last.PlannedEnd)) {
			last = o
		}
	}
	return last
}

// fetched sums what an evening takes of each paste and powder, with what each part of it
// is for.
func fetched(steps []plan.LineStep, r read.Reader) (out []string) {
	by := map[string][]noun.Fetch{}
	var order []string
	for _, s := range steps {
		if s.ActualEnd != nil {
			continue
		}
		for _, f := range s.Planned.Fetch {
			if by[f.What] == nil {
				order = append(order, f.What)
			}
			i := slices.IndexFunc(by[f.What], func(o noun.Fetch) bool { return o.For == f.For })
			if i >= 0 {
				by[f.What][i].G += f.G
				continue
			}
			by[f.What] = append(by[f.What], f)
		}
	}
	text := func(powder string, g float64) string {
		if powder != "" {
			return r.Powder(powder, g).Text
		}
		return r.Paste(g)
	}
	for _, what := range order {
		all := by[what]
		if len(all) == 1 {
			out = append(out, fmt.Sprintf("%s of %s, for %s", text(all[0].Powder, all[0].G), what, all[0].For))
			continue
		}
		sum, parts := 0.0, []string{}
		for _, f := range all {
			sum += f.G
			parts = append(parts, text(f.Powder, f.G)+" for "+f.For)
		}
		out = append(out, fmt.Sprintf("%s of %s: %s", text(all[0].Powder, sum), what, read.List(parts)))
	}
	return out
}
