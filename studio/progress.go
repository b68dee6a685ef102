package studio

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/caution"
)

// frond is the progress of a commission, a leaflet for each piece in order.
func frond(ps []Piece, steps []Step, now time.Time) []Leaf {
	out := []Leaf{}
	for i := range ps {
		p := &ps[i]
		if p.DeletedAt != nil {
			continue
		}
		l := Leaf{Name: p.Name, Swatch: p.Swatch, State: "curled", Says: "not begun"}
		var begun, made, dry, parts, placed int
		share := 0.0
		for _, s := range steps {
			if s.Kind == "putOn" && s.CommissionID == p.CommissionID && s.ActualEnd != nil {
				placed++
			}
			if s.PieceID == nil || *s.PieceID != p.ID {
				continue
			}
			switch s.Kind {
			case "press":
				parts++
				if s.ActualEnd != nil {
					made++
				}
				if s.ActualStart != nil {
					begun++
				}
			case "knead":
				if s.ActualStart != nil {
					begun++
				}
			case "dry":
				if s.ActualStart != nil {
					until := s.PlannedEnd
					if s.ActualEnd != nil {
						until = *s.ActualEnd
					}
					f := 1.0
					if until.After(now) && until.After(*s.ActualStart) {
						f = now.Sub(*s.ActualStart).Minutes() / until.Sub(*s.ActualStart).Minutes()
					}
					share += f
					if f >= 1 {
						dry++
					}
				}
			}
		}
		switch {
		case placed > 0:
			l.State, l.Says, l.Share = "placed", "on the cake", 1
		case parts > 0 && dry == parts:
			l.State, l.Says, l.Share = "firm", "firm", 1
		case made > 0 && share > 0:
			l.State, l.Share = "drying", share/float64(max(1, parts))
			l.Says = fmt.Sprintf("drying, %.0f %% of its time", l.Share*100)
		case begun > 0:
			l.State, l.Says = "open", "being made"
		}
		out = append(out, l)
	}
	return out
}

// nextSay is the next step of a commission in words.
func nextSay(steps []Step, commission int64, now time.Time) string {
	for _, s := range steps {
		if s.CommissionID == commission && s.ActualEnd == nil && s.Attended {
			if s.ActualStart == nil {
				return s.Title + ", " + SayTime(s.PlannedStart, now)
			}
			return s.Title
		}
	}
	return ""
}

// troubleSay tells what stands in the way of a commission: late by how much, or
// what is missing. hasPieces: what troubles the whole plan troubles it as well.
func troubleSay(c *Commission, plan *Plan, hasPieces bool, now time.Time) string {
	if plan == nil || c.State != "open" {
		return ""
	}
	for _, l := range plan.Summary.Late {
		if l.CommissionID == c.ID {
			return fmt.Sprintf("Late by %s. %s", SayMinutes(l.Minutes), l.By)
		}
	}
	for _, l := range plan.Summary.LeftOut {
		if l.CommissionID == c.ID {
			return l.Say
		}
	}
	if plan.Summary.Trouble != "" && hasPieces {
		return plan.Summary.Trouble
	}
	if c.HandOver != nil && c.HandOver.Before(now) {
		return "The hand-over is over: hand it over, or say a new date."
	}
	return ""
}

// beginBy is the latest start of what is not begun.
func beginBy(steps []Step, commission int64, now time.Time) (time.Time, bool) {
	var first time.Time
	for _, s := range steps {
		if s.CommissionID != commission || s.ActualStart != nil || s.Planned.Latest == "" {
			continue
		}
		if t, err := time.Parse(time.RFC3339, s.Planned.Latest); err == nil && (first.IsZero() || t.Before(first)) {
			first = t.In(now.Location())
		}
	}
	return first, !first.IsZero()
}

// Commissions lists what needs a hand first: the earliest "begin by", then the
// earliest hand-over; then what lies aside, then what is done.
func (s *Service) Commissions(ctx context.Context, slug string) (out []CommissionRow, err error) {
	out = []CommissionRow{}
	err = s.fresh(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
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
		type keyed struct {
			row    CommissionRow
			group  int
			when   time.Time
			second time.Time
		}
		var rows []keyed
		far := now.AddDate(50, 0, 0)
		for i := range cs {
			c := &cs[i]
			if c.DeletedAt != nil {
				continue
			}
			r := keyed{row: CommissionRow{ID: c.ID, Version: c.Version, Title: c.Title, Customer: c.Customer, State: c.State, Next: nextSay(steps, c.ID, now)},
				group: map[string]int{"open": 0, "aside": 1, "handedOver": 2}[c.State], when: far, second: far}
			if c.HandOver != nil {
				r.row.HandOver, r.row.In = SayDate(*c.HandOver, now), SayWhen(*c.HandOver, now)
				r.when, r.second = *c.HandOver, *c.HandOver
			}
			if t, ok := beginBy(steps, c.ID, now); ok {
				r.row.BeginBy = SayTime(t, now)
				r.when = t
			}
			var mine []Piece
			for _, p := range ps {
				if p.CommissionID == c.ID {
					mine = append(mine, p)
				}
			}
			r.row.Frond = frond(mine, steps, now)
			r.row.Trouble = troubleSay(c, tx.Plan(), len(r.row.Frond) > 0, now)
			if c.State == "handedOver" {
				for j := range r.row.Frond {
					r.row.Frond[j].State, r.row.Frond[j].Says = "placed", "handed over"
				}
			}
			rows = append(rows, r)
		}
		slices.SortStableFunc(rows, func(a, b keyed) int {
			if a.group != b.group {
				return a.group - b.group
			}
			if a.group == 2 {
				return b.second.Compare(a.second)
			}
			if c := a.when.Compare(b.when); c != 0 {
				return c
			}
			return a.second.Compare(b.second)
		})
		for _, r := range rows {
			out = append(out, r.row)
		}
		return nil
	})
	return out, err
}

// Commission shows one commission with everything that follows from it.
func (s *Service) Commission(ctx context.Context, slug string, id int64) (out CommissionView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		c, err := tx.Commission(id)
		if err != nil {
			return err
		}
		if c.DeletedAt != nil {
			return ErrNotFound
		}
		ps, err := tx.Pieces(id)
		if err != nil {
			return err
		}
		steps, err := tx.Steps(id)
		if err != nil {
			return err
		}
		b, err := s.bench(tx, k, now)
		if err != nil {
			return err
		}
		out = b.commission(&c, ps, steps, tx.Plan())
		return nil
	})
	return out, err
}

func (b *benchOf) commission(c *Commission, ps []Piece, steps []Step, plan *Plan) CommissionView {
	v := CommissionView{ID: c.ID, Version: c.Version, Title: c.Title, Customer: c.Customer, State: c.State, Fields: views(commissionFields, b.r, c, b.now),
		Next: nextSay(steps, c.ID, b.now), Frond: frond(ps, steps, b.now), Pieces: []PieceView{},
		Cautions: caution.Brief(caution.Case{Children: c.Children, NoAlcohol: c.NoAlcohol, NoGelatine: c.NoGelatine, Allergies: c.Allergies})}
	if v.Cautions == nil {
		v.Cautions = []caution.Caution{}
	}
	v.Trouble = troubleSay(c, plan, len(v.Frond) > 0, b.now)
	if c.HandOver != nil {
		v.HandOver, v.In = SayDate(*c.HandOver, b.now), SayWhen(*c.HandOver, b.now)
	}
	if t, ok := beginBy(steps, c.ID, b.now); ok {
		v.BeginBy = SayTime(t, b.now)
	}
	v.Says = c.says(b.r)
	pasteOK, colourOK, makeOK, dryOK := true, true, true, true
	for i := range ps {
		if ps[i].DeletedAt != nil {
			continue
		}
		w := b.work(c, &ps[i])
		v.Pieces = append(v.Pieces, w.view)
		pasteOK = pasteOK && (w.strength > 0 || ps[i].Dough != "") && w.view.Paste != nil && w.view.Paste.Short == ""
		colourOK = colourOK && w.tint.settled()
		makeOK = makeOK && w.view.Make != nil && !ps[i].TrialEstimate && (ps[i].TrialG != nil || w.mould != nil && w.mould.WeighedG != nil)
		dryOK = dryOK && w.view.Dry != nil && w.never == "" && len(w.view.Dry.Stages) > 0
	}
	any := len(v.Pieces) > 0
	v.Stages = []StageMark{{1, "brief", "Brief", c.HandOver != nil}, {2, "pieces", "Pieces", any && !slices.ContainsFunc(v.Pieces, func(p PieceView) bool { return p.Missing != "" })},
		{3, "paste", "Paste", any && pasteOK}, {4, "colour", b.r.say("Colour"), any && colourOK}, {5, "make", "Make", any && makeOK}, {6, "dry", "Dry", any && dryOK}}
	return v
}

// says what the commission goes on, in a few words.
func (c *Commission) says(r reader) string {
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
			parts = append(parts, r.say(fmt.Sprintf("%d biscuits", *c.Count)))
		}
	}
	if c.Guests != "" {
		parts = append(parts, c.Guests)
	}
	return strings.Join(parts, ", ")
}
