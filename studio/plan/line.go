package plan

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// LineView is the one plan, a stretch of days of it or all of one commission,
// and what decides.
type LineView struct {
	Fits     bool              `json:"fits"`
	Follows  bool              `json:"follows" doc:"the plan is made from all that was done; false while it is being made"`
	Making   *MakingView       `json:"making,omitempty" doc:"the plan that is being made"`
	StartBy  string            `json:"startBy"`
	Begun    bool              `json:"begun" doc:"of one order: something of it is done already"`
	CouldBy  string            `json:"couldBy" doc:"how late it could begin, in a sentence; empty: no later"`
	Kept     []string          `json:"kept" doc:"what is in hand: after drying, and before the hand-over"`
	Says     string            `json:"says"`
	Decides  []string          `json:"decides"`
	Troubles []noun.Trouble    `json:"troubles" doc:"what is wrong today, the dearest first"`
	Rows     []LineRow         `json:"rows"`
	Sessions []Session         `json:"sessions"`
	By       string            `json:"by" enum:"batch,piece,person" doc:"what hangs on one string"`
	From     string            `json:"from" doc:"the first day that is shown, as 2026-12-01; empty: all of it"`
	Shown    string            `json:"shown" doc:"the days that are shown, in words"`
	Earlier  string            `json:"earlier" doc:"the day from which to show what is before"`
	Later    string            `json:"later"`
	Now      time.Time         `json:"now"`
	NowSays  string            `json:"nowSays"`
	Moved    []noun.MovedLine  `json:"moved" doc:"what the plan made last has moved"`
	MovedWhy string            `json:"movedWhy"`
	Before   []noun.Place      `json:"before" doc:"where these steps stood before that"`
	Cautions []caution.Caution `json:"cautions"`
}

// LineRow is the steps of one commission, or those of one person.
type LineRow struct {
	CommissionID int64      `json:"commissionId" doc:"0: of a person"`
	Title        string     `json:"title"`
	HandOver     time.Time  `json:"handOver"`
	HandOverSays string     `json:"handOverSays"`
	Steps        []LineMark `json:"steps"`
}

// LineMark is a step as the line draws it: a pennant or a cord. Words stand
// beside it only on the line of one commission.
type LineMark struct {
	Op         string `json:"op"`
	Kind       string `json:"kind"`
	Row        string `json:"row" doc:"its lane: its batch (a join stands with the first one of its piece), its piece, or its order"`
	Name       string `json:"name" doc:"of its lane, as it stands beside its cord"`
	Of         string `json:"of" doc:"its piece, or what is done at the cake"`
	Swatch     string `json:"swatch"`
	Start      int64  `json:"start" doc:"ms since 1970"`
	End        int64  `json:"end" doc:"ms since 1970"`
	Attended   bool   `json:"attended,omitempty"`
	Done       bool   `json:"done,omitempty"`
	Decides    bool   `json:"decides,omitempty"`
	Slack      int    `json:"slack,omitempty" doc:"minutes by which it could begin later"`
	Pinned     bool   `json:"pinned,omitempty"`
	Next       string `json:"next,omitempty" doc:"of a wait: the step of hands that ends it"`
	Title      string `json:"title,omitempty"`
	StartSays  string `json:"startSays,omitempty"`
	EndSays    string `json:"endSays,omitempty"`
	LengthSays string `json:"lengthSays,omitempty"`
	Note       string `json:"note,omitempty" doc:"when it was done, or why it cannot be later"`
}

// Session is a stretch at the bench, or the fold between two.
type Session struct {
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
	Day   string    `json:"day"`
	From  string    `json:"from"`
}

// LineStep is a step with its times in words.
type LineStep struct {
	noun.Step
	StartSays  string    `json:"startSays"`
	EndSays    string    `json:"endSays"`
	LengthSays string    `json:"lengthSays"`
	DoneSays   string    `json:"doneSays"`
	Commission string    `json:"commission"`
	Piece      string    `json:"piece"`
	Guests     string    `json:"guests" doc:"who eats, in a line"`
	For        string    `json:"for" doc:"whose hands it is planned for, where more than one are there"`
	Whose      []string  `json:"-"` // the same, one by one
	Start      time.Time `json:"start"`
	End        time.Time `json:"end"`
}

// NewLineStep puts the times of a step into words.
func NewLineStep(st noun.Step, title string, r read.Reader, now time.Time) LineStep {
	l := LineStep{Step: st, Commission: title, Start: st.PlannedStart.In(now.Location()), End: st.PlannedEnd.In(now.Location())}
	if st.PieceID != nil {
		l.Piece = st.Planned.Name
	}
	if st.ActualStart != nil {
		l.Start = *st.ActualStart
	}
	if st.ActualEnd != nil {
		l.End = *st.ActualEnd
		l.DoneSays = "done " + r.Time(*st.ActualEnd, now)
		if st.Who != "" {
			l.DoneSays += " by " + st.Who
		}
	}
	l.StartSays, l.EndSays = r.Time(l.Start, now), r.Time(l.End, now)
	l.LengthSays = read.SayMinutes(max(0, int(l.End.Sub(l.Start)/time.Minute)))
	return l
}

// lineDays is how many days the whole line shows at once, where nothing else is asked.
const lineDays = 7

// LineIn is what of the line is shown.
type LineIn struct {
	Commission int64
	From       string // of the whole line: the day from which it is shown; "" is today
	Days       int    // and how many
	By         string // what hangs on one string: "" a batch, a piece, or a person
}

// Line shows the plan: all of one commission, or of commission 0 (all of them)
// some days from a date on.
func (s *Planning) Line(ctx context.Context, slug string, in LineIn) (out LineView, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out, err = s.line(tx, k, now, in)
		if out.Making = s.Making(slug); out.Making == nil && !out.Follows {
			out.Making = &MakingView{Says: "The line is about to be hung anew"}
		}
		return err
	})
	return out, err
}

func (s *Planning) line(tx journal.Tx, k *noun.Kitchen, now time.Time, in LineIn) (LineView, error) {
	commission, days := in.Commission, cmp.Or(in.Days, lineDays)
	out := LineView{By: cmp.Or(in.By, "batch"), Fits: true, Decides: []string{}, Kept: []string{}, Troubles: []noun.Trouble{}, Rows: []LineRow{}, Sessions: []Session{}, Now: now, NowSays: now.Format("Mon ") + read.Reader{K: k}.Clock(now), Moved: []noun.MovedLine{}, Before: []noun.Place{}, Cautions: work.CautionsIn(read.Reader{K: k}, caution.Bench())}
	r := read.Reader{K: k}
	plan, err := tx.Plan()
	if err != nil {
		return out, err
	}
	pulse, err := tx.Pulse()
	if err != nil {
		return out, err
	}
	out.Follows = pulse.Made >= pulse.Wanted
	var cs []noun.Commission
	var steps []noun.Step
	start, end := time.Time{}, now.AddDate(50, 0, 0)
	if commission != 0 {
		c, err := journal.Get[noun.Commission](tx, commission)
		if err != nil {
			return out, err
		}
		cs = []noun.Commission{c}
		if steps, err = tx.Steps(commission); err != nil {
			return out, err
		}
	} else {
		if cs, err = tx.OpenCommissions(); err != nil {
			return out, err
		}
		start = dayOf(in.From, now)
		end = start.AddDate(0, 0, days)
		if steps, err = tx.ThinStepsWithin(start.AddDate(0, 0, -lineDays), end); err != nil {
			return out, err
		}
		out.From, out.Shown = start.Format(time.DateOnly), start.Format("Mon ")+r.Day(start, false)+" to "+end.AddDate(0, 0, -1).Format("Mon ")+r.Day(end.AddDate(0, 0, -1), false)
		out.Earlier, out.Later = start.AddDate(0, 0, -days).Format(time.DateOnly), end.Format(time.DateOnly)
	}
	steps = work.Derived(steps, k, now)
	chain := work.ChainOf(steps)
	mine := map[int64][]noun.Step{}
	for _, st := range steps {
		mine[st.CommissionID] = append(mine[st.CommissionID], st)
	}
	minutes, length, batches := 0, 0, 0
	hands, who := HandsOf(k, now), map[string][]string{}
	for i := range cs {
		c := &cs[i]
		if c.State != "open" || c.DeletedAt != nil {
			continue
		}
		row := LineRow{CommissionID: c.ID, Title: c.Title, Steps: []LineMark{}}
		if c.HandOver != nil {
			row.HandOver, row.HandOverSays = c.HandOver.In(now.Location()), r.Date(*c.HandOver, now)
		}
		for _, st := range mine[c.ID] {
			l := NewLineStep(st, c.Title, r, now)
			if !l.End.After(start) || !l.Start.Before(end) {
				continue
			}
			m := l.mark(commission != 0, in.By)
			if next := chain.NextHands(&st); !st.Attended && next != nil {
				m.Next = next.Op
			}
			row.Steps = append(row.Steps, m)
			if st.Attended && st.ActualStart == nil {
				minutes += st.Hands()
				length += int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
			}
			if in.By == "person" && st.Attended {
				who[st.Op] = hands.Of(&st)
			}
			if st.Makes() {
				batches++
			}
		}
		if len(row.Steps) > 0 {
			slices.SortStableFunc(row.Steps, func(a, b LineMark) int { return int(a.Start/1000 - b.Start/1000) })
			out.Rows = append(out.Rows, row)
		}
	}
	if commission != 0 && len(out.Rows) > 0 {
		start, end = time.Date(now.Year(), now.Month(), now.Day(), 0, 0, 0, 0, now.Location()), lineTo(&out.Rows[0], now)
	}
	if len(out.Rows) > 0 {
		out.hours(k, r, start, end)
	}
	if in.By == "person" {
		out.Rows = byPerson(out.Rows, who)
	}
	wrong, err := WrongNow(tx, cs, plan, nil, now)
	if err != nil {
		return out, err
	}
	out.Troubles = wrong.Of(commission)
	if plan != nil {
		deciding, err := tx.StepsNamed(plan.Summary.Chain)
		if err != nil {
			return out, err
		}
		out.plan(&plan.Summary, deciding, commission, r, now)
		if commission == 0 {
			minutes, length, batches = plan.Summary.HandsMin, plan.Summary.BenchMin, plan.Summary.Batches
		}
	}
	if commission != 0 {
		out.StartBy, out.CouldBy = "", ""
		late := slices.ContainsFunc(out.Troubles, func(x noun.Trouble) bool { return x.Code == "late" })
		first, ok := firstPlanned(steps, commission)
		if out.Begun = slices.ContainsFunc(steps, func(st noun.Step) bool { return st.ActualStart != nil }); ok {
			out.StartBy = r.Time(first, now)
			if t, ok := work.BeginBy(steps, commission, now); ok && !late && t.After(first) {
				out.CouldBy = fmt.Sprintf("It could begin as late as %s; then nothing may go wrong.", r.Time(t, now))
			}
		}
		out.Says = fmt.Sprintf("%s; to come: %s", read.Count(batches, "batch"), handsAndBench(minutes, length))
	} else {
		n := 0
		if plan != nil {
			n = len(plan.Summary.Windows)
		}
		out.Says = fmt.Sprintf("%s, %s; to come: %s, in %s", read.Count(len(cs), "commission"), read.Count(batches, "batch"), handsAndBench(minutes, length), read.Count(n, "session"))
	}
	return out, nil
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

// plan tells what the summary of the plan says of what is shown.
func (v *LineView) plan(sum *noun.Summary, steps []noun.Step, commission int64, r read.Reader, now time.Time) {
	v.Fits = sum.Fits
	if len(sum.Moved) > 0 {
		v.Moved, v.MovedWhy, v.Before = sum.Moved, sum.MovedWhy, sum.Before
	}
	if sum.StartBy != nil {
		v.StartBy = r.Time(*sum.StartBy, now)
	}
	if sum.CouldBy != nil && sum.StartBy != nil && sum.CouldBy.After(*sum.StartBy) && commission == 0 {
		v.CouldBy = fmt.Sprintf("It could begin as late as %s; then nothing may go wrong.", r.Time(*sum.CouldBy, now))
	}
	for _, x := range sum.Spare {
		if commission == x.CommissionID || commission == 0 && x.Minutes < x.Wanted {
			v.Kept = append(v.Kept, x.Says)
		}
	}
	for _, x := range sum.Margin {
		if commission == x.CommissionID || commission == 0 && x.Minutes < x.Wanted {
			v.Kept = append(v.Kept, x.Says)
		}
	}
	if commission == 0 && len(v.Kept) == 0 && len(sum.Spare) > 0 {
		v.Kept = append(v.Kept, "Every piece has its time in hand after drying, and every order its margin.")
	}
	byOp := work.ChainOf(steps).ByOp
	for _, op := range sum.Chain {
		if st, ok := byOp[op]; ok && (commission == 0 || st.CommissionID == commission) {
			v.Decides = append(v.Decides, st.Title+", "+r.Time(st.PlannedStart, now))
		}
	}
}

// hours are the stretches at the bench from one instant to another, whether or not
// something is planned in them: a pennant may be put into any.
func (v *LineView) hours(k *noun.Kitchen, r read.Reader, from, to time.Time) {
	for _, w := range k.OpenHours(from, to) {
		v.Sessions = append(v.Sessions, Session{w.Start, w.End, w.Start.Format("Mon 2"), r.Clock(w.Start)})
	}
}

// lineTo is where the line of one order ends: with the day of its hand-over, or of its
// last step where that is later.
func lineTo(row *LineRow, now time.Time) time.Time {
	last := now
	if row.HandOver.After(last) {
		last = row.HandOver
	}
	for i := range row.Steps {
		if end := time.UnixMilli(row.Steps[i].End).In(now.Location()); end.After(last) {
			last = end
		}
	}
	return time.Date(last.Year(), last.Month(), last.Day()+1, 0, 0, 0, 0, now.Location())
}

// mark is a step as the line draws it; words: with what the list below says. by: what
// hangs on one string.
func (l *LineStep) mark(words bool, by string) LineMark {
	m := LineMark{Op: l.Op, Kind: l.Kind, Row: noun.BatchOf(l.Op), Name: "on the cake", Of: "on the cake", Slack: l.Planned.SlackMin, Pinned: l.Pinned != nil, Swatch: l.Planned.Swatch, Start: l.Start.UnixMilli(), End: l.End.UnixMilli(), Attended: l.Attended, Done: l.ActualEnd != nil, Decides: l.Planned.Decides}
	if l.PieceID != nil {
		m.Name = l.Planned.What()
		if m.Row == noun.BatchID(*l.PieceID, noun.JoinNo) {
			m.Row = noun.BatchID(*l.PieceID, 1)
		}
		if m.Of = l.Planned.Name; by == "piece" {
			m.Row, m.Name = fmt.Sprint(*l.PieceID), l.Planned.Name
		}
	}
	if by == "person" {
		m.Row, m.Name = fmt.Sprint(l.CommissionID), l.Commission
	}
	if words {
		m.Title, m.StartSays, m.EndSays, m.LengthSays, m.Note = l.Title, l.StartSays, l.EndSays, l.LengthSays, l.Planned.NotLater
		if l.DoneSays != "" {
			m.Note = l.DoneSays
		}
	}
	return m
}

// movedAtLeast is the shift that is worth a word.
const movedAtLeast = 10 * time.Minute

// mostMoved is how many moved steps are told.
const mostMoved = 30

// shifts compares the plan with the one before it: what has moved, and where it
// stood. A step that was begun meanwhile has not moved.
func shifts(was map[string]noun.Step, planned []noun.Step, r read.Reader, now time.Time) (moved []noun.MovedLine, before []noun.Place) {
	moved, before = []noun.MovedLine{}, []noun.Place{}
	for _, st := range planned {
		o, ok := was[st.Op]
		if !ok || !st.Attended || st.ActualStart != nil {
			continue
		}
		d := st.PlannedStart.Sub(o.PlannedStart)
		if d.Abs() < movedAtLeast {
			continue
		}
		why := st.Planned.NotEarlier
		if d < 0 {
			why = st.Planned.NotLater
		}
		moved = append(moved, noun.MovedLine{Op: st.Op, Title: st.Title, From: r.Time(o.PlannedStart, now), To: r.Time(st.PlannedStart, now), Why: why, Was: o.PlannedStart, Missed: d > 0 && o.PlannedStart.Before(now)})
	}
	slices.SortStableFunc(moved, func(a, b noun.MovedLine) int { return a.Was.Compare(b.Was) })
	moved = moved[:min(len(moved), mostMoved)]
	for _, m := range moved {
		before = append(before, noun.Place{Op: m.Op, Start: was[m.Op].PlannedStart, End: was[m.Op].PlannedEnd})
	}
	return moved, before
}
