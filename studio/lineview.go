package studio

import (
	"context"
	"fmt"
	"strings"
	"time"

	"dustyfern/craft/caution"
)

// LineView is the one plan: every step with its times, and what decides.
type LineView struct {
	Fits     bool              `json:"fits"`
	Trouble  string            `json:"trouble"`
	StartBy  string            `json:"startBy"`
	Slack    string            `json:"slack"`
	Says     string            `json:"says"`
	Decides  []string          `json:"decides"`
	Late     []string          `json:"late"`
	LeftOut  []string          `json:"leftOut"`
	Rows     []LineRow         `json:"rows"`
	Sessions []Session         `json:"sessions"`
	Now      time.Time         `json:"now"`
	NowSays  string            `json:"nowSays"`
	Moved    []MovedLine       `json:"moved" doc:"what the plan made last has moved"`
	MovedWhy string            `json:"movedWhy"`
	Before   []Place           `json:"before" doc:"where the steps stood before that"`
	Cautions []caution.Caution `json:"cautions"`
}

// LineRow is the steps of one commission.
type LineRow struct {
	CommissionID int64      `json:"commissionId"`
	Title        string     `json:"title"`
	HandOver     time.Time  `json:"handOver"`
	HandOverSays string     `json:"handOverSays"`
	Steps        []LineStep `json:"steps"`
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
	Step
	StartSays  string    `json:"startSays"`
	EndSays    string    `json:"endSays"`
	LengthSays string    `json:"lengthSays"`
	DoneSays   string    `json:"doneSays"`
	Commission string    `json:"commission"`
	Piece      string    `json:"piece"`
	Start      time.Time `json:"start"`
	End        time.Time `json:"end"`
}

func lineStep(st Step, title, piece string, now time.Time) LineStep {
	l := LineStep{Step: st, Commission: title, Piece: piece, Start: st.PlannedStart.In(now.Location()), End: st.PlannedEnd.In(now.Location())}
	if st.ActualStart != nil {
		l.Start = *st.ActualStart
	}
	if st.ActualEnd != nil {
		l.End = *st.ActualEnd
		l.DoneSays = "done " + SayTime(*st.ActualEnd, now)
	}
	l.StartSays, l.EndSays = SayTime(l.Start, now), SayTime(l.End, now)
	l.LengthSays = SayMinutes(max(0, int(l.End.Sub(l.Start)/time.Minute)))
	return l
}

// Line shows the plan; commission 0 is the whole of it.
func (s *Service) Line(ctx context.Context, slug string, commission int64) (out LineView, err error) {
	err = s.fresh(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		out, err = s.line(tx, k, now, commission)
		return err
	})
	return out, err
}

func (s *Service) line(tx Tx, k *Kitchen, now time.Time, commission int64) (LineView, error) {
	out := LineView{Fits: true, Decides: []string{}, Late: []string{}, LeftOut: []string{}, Rows: []LineRow{}, Sessions: []Session{}, Now: now, NowSays: now.Format("Mon 15:04"), Moved: []MovedLine{}, Before: []Place{}, Cautions: caution.Bench()}
	cs, err := tx.Commissions()
	if err != nil {
		return out, err
	}
	steps, err := tx.Steps(commission)
	if err != nil {
		return out, err
	}
	ps, err := tx.Pieces(commission)
	if err != nil {
		return out, err
	}
	names := map[int64]string{}
	for _, p := range ps {
		names[p.ID] = p.Name
	}
	hands, batches := 0, map[string]bool{}
	for i := range cs {
		c := &cs[i]
		if c.State != "open" || c.DeletedAt != nil || commission != 0 && c.ID != commission {
			continue
		}
		row := LineRow{CommissionID: c.ID, Title: c.Title, Steps: []LineStep{}}
		if c.HandOver != nil {
			row.HandOver, row.HandOverSays = c.HandOver.In(now.Location()), SayDate(*c.HandOver, now)
		}
		for _, st := range steps {
			if st.CommissionID != c.ID {
				continue
			}
			piece := ""
			if st.PieceID != nil {
				piece = names[*st.PieceID]
			}
			row.Steps = append(row.Steps, lineStep(st, c.Title, piece, now))
			if st.Attended && st.ActualStart == nil {
				hands += int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
			}
			if st.Kind == "press" {
				batches[st.Op] = true
			}
		}
		if len(row.Steps) > 0 {
			out.Rows = append(out.Rows, row)
		}
	}
	p := tx.Plan()
	if p == nil {
		return out, nil
	}
	sum := p.Summary
	out.Fits, out.Trouble = sum.Fits, sum.Trouble
	if len(sum.Moved) > 0 {
		out.Moved, out.MovedWhy, out.Before = sum.Moved, sum.MovedWhy, sum.Before
	}
	if sum.StartBy != nil {
		out.StartBy = SayTime(*sum.StartBy, now)
	}
	out.Slack = SayMinutes(sum.SlackMin)
	byOp := map[string]Step{}
	for _, st := range steps {
		byOp[st.Op] = st
	}
	for _, op := range sum.Chain {
		if st, ok := byOp[op]; ok {
			out.Decides = append(out.Decides, st.Title+", "+SayTime(st.PlannedStart, now))
		}
	}
	title := func(id int64) string {
		for _, c := range cs {
			if c.ID == id {
				return c.Title
			}
		}
		return ""
	}
	for _, l := range sum.Late {
		if commission == 0 || l.CommissionID == commission {
			out.Late = append(out.Late, fmt.Sprintf("%s is late by %s. %s", title(l.CommissionID), SayMinutes(l.Minutes), l.By))
		}
	}
	for _, l := range sum.LeftOut {
		if commission == 0 || l.CommissionID == commission {
			out.LeftOut = append(out.LeftOut, title(l.CommissionID)+": "+l.Say)
		}
	}
	for _, w := range sum.Windows {
		st := w.Start.In(now.Location())
		out.Sessions = append(out.Sessions, Session{st, w.End.In(now.Location()), st.Format("Mon 2"), st.Format("15:04")})
	}
	out.Says = fmt.Sprintf("%s, %s, %s of hands in %s", count(len(out.Rows), "commission"), count(len(batches), "batch"), SayMinutes(hands), count(len(sum.Windows), "session"))
	return out, nil
}

func count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	if strings.HasSuffix(what, "ch") || strings.HasSuffix(what, "ss") || strings.HasSuffix(what, "x") {
		return fmt.Sprintf("%d %ses", n, what)
	}
	return fmt.Sprintf("%d %ss", n, what)
}
