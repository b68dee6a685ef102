package plan

import (
	"context"
	"fmt"
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
		v.CouldBy = couldSays(r.Time(*sum.CouldBy, now))
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
