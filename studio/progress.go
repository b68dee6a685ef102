package studio

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// frond is the progress of a commission, a leaflet for each piece in order.
func frond(ps []noun.Piece, steps []noun.Step, now time.Time) []work.Leaf {
	out := []work.Leaf{}
	mine := map[int64][]*noun.Step{}
	for i := range steps {
		if s := &steps[i]; s.PieceID != nil {
			mine[*s.PieceID] = append(mine[*s.PieceID], s)
		}
	}
	for i := range ps {
		if p := &ps[i]; p.DeletedAt == nil {
			out = append(out, leafOf(p, mine[p.ID], now))
		}
	}
	return out
}

func leafOf(p *noun.Piece, steps []*noun.Step, now time.Time) work.Leaf {
	l := work.Leaf{Name: p.Name, Swatch: p.Swatch, State: "curled", Says: "not begun"}
	var begun, made, dry, parts, placing, placed int
	share := 0.0
	for _, s := range steps {
		if s.Attended && s.ActualStart != nil {
			begun++
		}
		if s.Planned.Places {
			placing++
			if s.ActualEnd != nil {
				placed++
			}
		}
		switch {
		case s.Makes():
			parts++
			if s.ActualEnd != nil {
				made++
			}
		case s.Dries():
			if s.ActualStart != nil {
				f := dried(s, now)
				share += f
				if f >= 1 {
					dry++
				}
			}
		}
	}
	switch {
	case placing > 0 && placed == placing:
		l.State, l.Says, l.Share = "placed", "on the cake", 1
	case parts > 0 && dry == parts:
		l.State, l.Says, l.Share = "firm", "firm", 1
	case made > 0 && share > 0:
		l.State, l.Share = "drying", share/float64(max(1, parts))
		l.Says = fmt.Sprintf("drying, %.0f %% of its time", l.Share*100)
	case begun > 0:
		l.State, l.Says = "open", "being made"
	}
	return l
}

// dried is the share of a drying that is over.
func dried(s *noun.Step, now time.Time) float64 {
	until := s.PlannedEnd
	if s.ActualEnd != nil {
		until = *s.ActualEnd
	}
	if until.After(now) && until.After(*s.ActualStart) {
		return now.Sub(*s.ActualStart).Minutes() / until.Sub(*s.ActualStart).Minutes()
	}
	return 1
}

// nextSay is the next step of a commission in words.
func nextSay(steps []noun.Step, commission int64, r read.Reader, now time.Time) string {
	for _, s := range steps {
		if s.CommissionID == commission && s.ActualEnd == nil && s.Attended {
			if s.ActualStart == nil {
				return s.Title + ", " + r.Time(s.PlannedStart, now)
			}
			return s.Title
		}
	}
	return ""
}

// troublesOf a commission: its own, and what troubles the whole plan when it has
// pieces there.
func troublesOf(c *noun.Commission, wrong *plan.Wrong, hasPieces bool) []noun.Trouble {
	if wrong == nil || c.State != "open" {
		return []noun.Trouble{}
	}
	return slices.DeleteFunc(wrong.Of(c.ID), func(x noun.Trouble) bool { return x.CommissionID == 0 && !hasPieces })
}

// CommissionsView is what is open, and a page of what lies aside or is done.
type CommissionsView struct {
	Rows   []work.CommissionRow `json:"rows"`
	Closed []work.CommissionRow `json:"closed" doc:"aside or handed over, the latest first"`
	More   bool                 `json:"more" doc:"there is more that is closed"`
	Skip   int                  `json:"skip" doc:"how many closed ones come before this page"`
}

// closedPage is how many closed commissions are shown at once.
const closedPage = 20

// Commissions lists what needs a hand first: the earliest "begin by", then the
// earliest hand-over; then, page by page, what lies aside or is done.
func (s *Service) Commissions(ctx context.Context, slug string, skip int) (out CommissionsView, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out = CommissionsView{Rows: []work.CommissionRow{}, Closed: []work.CommissionRow{}, Skip: max(0, skip)}
		stands, err := tx.Plan()
		if err != nil {
			return err
		}
		open, err := tx.OpenCommissions()
		if err != nil {
			return err
		}
		wrong, err := plan.WrongNow(tx, open, stands, nil, now)
		if err != nil {
			return err
		}
		ps, err := tx.Leaves(nil)
		if err != nil {
			return err
		}
		steps, err := tx.BareSteps(nil)
		if err != nil {
			return err
		}
		out.Rows = rowsOf(open, ps, steps, &wrong, k, now)
		closed, err := tx.ClosedCommissions(out.Skip, closedPage+1)
		if err != nil {
			return err
		}
		out.More = len(closed) > closedPage
		closed = closed[:min(len(closed), closedPage)]
		ids := make([]int64, len(closed))
		for i, c := range closed {
			ids[i] = c.ID
		}
		if len(ids) == 0 {
			return nil
		}
		if ps, err = tx.Leaves(ids); err != nil {
			return err
		}
		if steps, err = tx.BareSteps(ids); err != nil {
			return err
		}
		out.Closed = rowsOf(closed, ps, steps, nil, k, now)
		return nil
	})
	return out, err
}

// rowsOf are the rows of commissions: open ones by what needs a hand first.
func rowsOf(cs []noun.Commission, ps []noun.Piece, steps []noun.Step, wrong *plan.Wrong, k *noun.Kitchen, now time.Time) []work.CommissionRow {
	type keyed struct {
		row          work.CommissionRow
		when, second time.Time
	}
	piecesOf, stepsOf := map[int64][]noun.Piece{}, map[int64][]noun.Step{}
	for _, p := range ps {
		piecesOf[p.CommissionID] = append(piecesOf[p.CommissionID], p)
	}
	for _, st := range steps {
		stepsOf[st.CommissionID] = append(stepsOf[st.CommissionID], st)
	}
	rows, reader := []keyed{}, read.Reader{K: k}
	far := now.AddDate(50, 0, 0)
	for i := range cs {
		c := &cs[i]
		mine := work.Derived(stepsOf[c.ID], k, now)
		r := keyed{row: work.CommissionRow{ID: c.ID, Version: c.Version, Title: c.Title, Customer: c.Customer, State: c.State, Guests: c.Table().Says()}, when: far, second: far}
		if c.HandOver != nil {
			r.row.HandOver, r.row.In = reader.Date(*c.HandOver, now), read.SayWhen(*c.HandOver, now)
			r.when, r.second = *c.HandOver, *c.HandOver
		}
		r.row.Frond = frond(piecesOf[c.ID], mine, now)
		if c.State == "open" {
			r.row.Next = nextSay(mine, c.ID, reader, now)
			if t, ok := work.BeginBy(mine, c.ID, now); ok {
				r.row.BeginBy = reader.Time(t, now)
				r.when = t
			}
			all := troublesOf(c, wrong, len(r.row.Frond) > 0)
			if slices.ContainsFunc(all, func(x noun.Trouble) bool { return x.Code == "late" }) {
				r.row.BeginBy = "" // that hour is of no use any more
			}
			// what is wrong with the whole plan stands on the bench and the line, not in each row
			all = slices.DeleteFunc(all, func(x noun.Trouble) bool { return x.CommissionID == 0 })
			if len(all) > 0 {
				r.row.Trouble, r.row.Troubles = &all[0], len(all)
			}
		}
		if c.State == "handedOver" {
			for j := range r.row.Frond {
				r.row.Frond[j].State, r.row.Frond[j].Says = "placed", "handed over"
			}
		}
		rows = append(rows, r)
	}
	if wrong != nil {
		slices.SortStableFunc(rows, func(a, b keyed) int {
			if c := a.when.Compare(b.when); c != 0 {
				return c
			}
			return a.second.Compare(b.second)
		})
	}
	out := []work.CommissionRow{}
	for _, r := range rows {
		out = append(out, r.row)
	}
	return out
}

// Commission shows one commission: its brief, what it comes to, and a row for
// each piece. A piece itself is read when it is taken in hand.
func (s *Service) Commission(ctx context.Context, slug string, id int64) (out work.CommissionView, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		b, c, ps, err := plan.GatherOne(tx, k, now, id)
		if err != nil {
			return err
		}
		steps, err := tx.BareSteps([]int64{id})
		if err != nil {
			return err
		}
		stands, err := tx.Plan()
		if err != nil {
			return err
		}
		wrong, err := plan.WrongNow(tx, []noun.Commission{c}, stands, nil, now)
		if err != nil {
			return err
		}
		out, err = commission(ctx, b, &c, ps, work.Derived(steps, k, now), &wrong)
		return err
	})
	return out, err
}

func commission(ctx context.Context, b *work.Means, c *noun.Commission, ps []noun.Piece, steps []noun.Step, wrong *plan.Wrong) (work.CommissionView, error) {
	v := work.CommissionView{ID: c.ID, Version: c.Version, Title: c.Title, Customer: c.Customer, State: c.State, Fields: read.Views(read.CommissionFieldsOf(c), b.Reader, c, b.Now), Eats: consequences(c, b.Lots, b.Reader),
		Next: nextSay(steps, c.ID, b.Reader, b.Now), Frond: frond(ps, steps, b.Now), Pieces: []work.PieceRow{}, Cake: work.CakeOf(c, b.Reader),
		Cautions: work.CautionsIn(b.Reader, caution.Brief(c.Table()))}
	if v.Cautions == nil {
		v.Cautions = []caution.Caution{}
	}
	v.Troubles = troublesOf(c, wrong, len(v.Frond) > 0)
	if c.HandOver != nil {
		v.HandOver, v.In = b.Reader.Date(*c.HandOver, b.Now), read.SayWhen(*c.HandOver, b.Now)
	}
	late := slices.ContainsFunc(v.Troubles, func(x noun.Trouble) bool { return x.Code == "late" })
	if t, ok := work.BeginBy(steps, c.ID, b.Now); ok && !late {
		v.BeginBy = b.Reader.Time(t, b.Now)
	}
	v.Says, v.Guests = commissionSays(c, b.Reader), c.Table().Says()
	pasteOK, colourOK, makeOK, dryOK, finishOK, joinOK := true, true, true, true, true, true
	for i := range ps {
		if err := ctx.Err(); err != nil {
			return v, err
		}
		w := b.Work(c, &ps[i])
		x := &w.View
		across, high := w.Lying()
		v.Pieces = append(v.Pieces, work.PieceRow{ID: x.ID, Version: x.Version, Name: x.Name, Wanted: x.Wanted, ToolName: x.ToolName, Needed: x.Needed, Part: x.Wanted == 0 && len(x.PartOf) > 0, Colour: x.Colour, Swatch: x.Swatch, Missing: x.Missing, AcrossMM: across, HighMM: high})
		pasteOK = pasteOK && (w.Strength > 0 || ps[i].Dough != "") && x.Paste != nil && x.Paste.Short == ""
		colourOK = colourOK && w.Tint.Settled()
		makeOK = makeOK && x.Make != nil && !x.Make.Estimate && (w.Weighed() || w.PieceG == 0)
		finishOK = finishOK && (x.Finish == nil || (x.Finish.Lock == nil || x.Finish.Lock.Fits) && !slices.ContainsFunc(x.Finish.Tones, func(t work.ToneView) bool { return t.Missing != "" }) && (!ps[i].Dusted || len(x.Finish.Tones) > 0))
		joinOK = joinOK && (ps[i].Wanted == 0 || w.PieceG == 0 && x.Make != nil || x.Join != nil && x.Join.Fits && x.Join.Clash == "")
		dryOK = dryOK && (w.PieceG == 0 && x.Make != nil || x.Dry != nil && w.Never == "" && len(x.Dry.Stages) > 0)
	}
	some := len(v.Pieces) > 0
	v.Stages = []work.StageMark{{Key: 1, Code: "brief", Label: "Brief", Settled: c.HandOver != nil}, {Key: 2, Code: "pieces", Label: "Pieces", Settled: some && !slices.ContainsFunc(v.Pieces, func(p work.PieceRow) bool { return p.Missing != "" })},
		{Key: 3, Code: "paste", Label: "Paste", Settled: some && pasteOK}, {Key: 4, Code: "colour", Label: b.Reader.Say("Colour"), Settled: some && colourOK}, {Key: 5, Code: "make", Label: "Make", Settled: some && makeOK}, {Key: 6, Code: "dry", Label: "Dry", Settled: some && dryOK},
		{Key: 7, Code: "finish", Label: "Finish", Settled: some && finishOK}, {Key: 8, Code: "assemble", Label: "Assemble", Settled: some && joinOK}, {Key: 9, Code: "leaving", Label: "Hand over", Settled: c.State == "handedOver"}}
	return v, nil
}

// says what the commission goes on, in a few words.
func commissionSays(c *noun.Commission, r read.Reader) string {
	var parts []string
	switch c.Carrier {
	case "tiers":
		if n := len(c.Tiers); n > 0 {
			parts = append(parts, fmt.Sprintf("%d %s", n, map[bool]string{true: "tier", false: "tiers"}[n == 1]))
		}
	case "smallCakes":
		if c.Count != nil {
			parts = append(parts, fmt.Sprintf("%d small cakes", *c.Count))
		}
	case "biscuits":
		if c.Count != nil {
			parts = append(parts, r.Say(fmt.Sprintf("%d biscuits", *c.Count)))
		}
	}
	if c.Guests != "" {
		parts = append(parts, c.Guests)
	}
	return strings.Join(parts, ", ")
}
