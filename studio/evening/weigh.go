package evening

import (
	"context"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Weight is what a scale says now.
type Weight struct {
	Plugged bool
	Stable  bool
	Grams   *float64 // nil while it moves
	Settled *float64 // three readings agree: it may be kept
	Why     string   // why there is none
}

// WeightView is the scale as the bench shows it, beside what is aimed at.
type WeightView struct {
	Plugged  bool    `json:"plugged"`
	Why      string  `json:"why" doc:"why there is no weight: it can be typed"`
	Stable   bool    `json:"stable"`
	Text     string  `json:"text"`
	Settled  float64 `json:"settled" doc:"grams that may be kept, 0 while it moves"`
	Verdict  string  `json:"verdict" enum:"none,under,good,over"`
	Off      string  `json:"off" doc:"how far it is off: 0.2 g too heavy; empty: it is good"`
	Place    float64 `json:"place" doc:"where it lies: 0 the least, 1 the most that is good"`
	Aim      string  `json:"aim" doc:"what is aimed at, and its band"`
	Weighed  string  `json:"weighed" doc:"mean and spread of what was weighed of this mould"`
	StandIn  bool    `json:"standIn"`
	OnIt     float64 `json:"onIt" doc:"of a stand-in: grams that lie on it"`
	Mode     string  `json:"mode"`
	MouldSay string  `json:"mould"`
}

// pressOf is the mould of a press and what one of its balls is aimed at.
func (s *Evening) pressOf(tx journal.Tx, k *noun.Kitchen, now time.Time, op string) (*noun.Tool, *work.Reckoned, error) {
	st, err := tx.Step(op)
	if err != nil {
		return nil, nil, err
	}
	if st.PieceID == nil || !st.Makes() {
		return nil, nil, fault.New(fault.Contradiction, "op", "Only what is shaped with a tool is weighed here.")
	}
	p, err := journal.Get[noun.Piece](tx, *st.PieceID)
	if err != nil {
		return nil, nil, err
	}
	b, c, _, err := plan.GatherOne(tx, k, now, p.CommissionID)
	if err != nil {
		return nil, nil, err
	}
	w := b.Reckon(&c, &p)
	if w.Tool == nil {
		return nil, nil, fault.New(fault.Contradiction, "op", "Only what is shaped with a tool is weighed here.")
	}
	return w.Tool, w, nil
}

// Aim is what one ball of a press is aimed at.
type Aim struct {
	Grams   float64
	lo, hi  float64 // 0: nothing is aimed at
	says    string
	mould   string
	weighed string
}

// Says is what is weighed next, with its band.
func (a *Aim) Says() string { return a.says }

// AimAt reads what is aimed at in a press ("" for none): its next ball. pairs: as was
// asked, nil for what is usual in its way of making.
func (s *Evening) AimAt(ctx context.Context, slug, op string, pairs *bool) (*Aim, error) {
	aim := &Aim{}
	err := s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		if op == "" {
			return nil
		}
		st, err := tx.Step(op)
		if err != nil {
			return err
		}
		if m, _, err := s.pressOf(tx, k, now, op); err == nil {
			aim.mould, aim.weighed = m.Name, read.WeighedSays(m, read.Reader{K: k})
		}
		p, err := s.portioning(tx, k, now, &st, pairs)
		if err != nil {
			return err
		}
		aim.Grams = p.aim
		aim.lo, aim.hi = p.band(st.Weighed, len(st.Weighed))
		aim.says = p.view(st.Weighed).Next
		return nil
	})
	return aim, err
}

// View puts a weight beside what is aimed at.
func (a *Aim) View(now Weight) WeightView {
	out := WeightView{Plugged: now.Plugged, Why: read.UpperFirst(now.Why), Stable: now.Stable, Verdict: "none", Aim: a.says, Weighed: a.weighed, MouldSay: a.mould}
	if now.Grams != nil {
		out.Text = measure.Reading(*now.Grams, 0.01)
	}
	if now.Settled != nil && *now.Settled >= 0.01 {
		out.Settled = *now.Settled
	}
	if now.Grams == nil || a.hi <= a.lo {
		return out
	}
	g := *now.Grams
	out.Place = (g - a.lo) / (a.hi - a.lo)
	switch {
	case g < a.lo-1e-9:
		out.Verdict, out.Off = "under", offSays(a.lo-g, "too light")
	case g > a.hi+1e-9:
		out.Verdict, out.Off = "over", offSays(g-a.hi, "too heavy")
	default:
		out.Verdict = "good"
	}
	return out
}

// KeepWeightOf keeps a piece of a tool that was weighed beside the bench: text as
// people write it.
func (s *Evening) KeepWeightOf(ctx context.Context, slug string, tool int64, text string) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		g, err := readWeight(read.Reader{K: a.House}, text)
		if err != nil {
			return err
		}
		row, err := journal.Get[noun.Tool](a, tool)
		if err != nil {
			return err
		}
		if row.DeletedAt != nil {
			return journal.ErrNotFound
		}
		keepWeight(&row, g, a.Now)
		a.Say(0, "weighed a piece of %s: %s g", row.Name, read.Trimmed(g, 2))
		return a.Save(&row)
	}, nil)
	return err
}

// readWeight reads the weight of one piece, g.
func readWeight(r read.Reader, text string) (float64, error) {
	if read.BareNumber.MatchString(text) {
		text += map[bool]string{true: " oz", false: " g"}[r.Us()]
	}
	q, err := measure.Parse(measure.ParseIn{Text: &text, Want: new("mass")})
	if err != nil {
		return 0, fault.New(fault.Syntax, "grams", "Write a weight, such as 4.2 g or 1/8 oz.")
	}
	if q.Ambiguous || *q.Value < 0.01 || *q.Value > 50000 {
		return 0, fault.New(fault.OutOfRange, "grams", "A piece weighs from 0.01 g to 50 kg.")
	}
	return *q.Value, nil
}

// keepWeight adds a weighing to a tool; the oldest beyond a limit are forgotten.
func keepWeight(t *noun.Tool, g float64, now time.Time) {
	t.Weighings = append(slices.Clone(t.Weighings), noun.Weighing{At: now.Truncate(time.Second), Grams: g})
	t.Weighings = t.Weighings[max(0, len(t.Weighings)-noun.MostWeighings):]
}

// KeepWeight keeps a weighed piece on its mould: text as people write it.
func (s *Evening) KeepWeight(ctx context.Context, slug, op, text string) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		g, err := readWeight(read.Reader{K: a.House}, text)
		if err != nil {
			return err
		}
		m, _, err := s.pressOf(a, a.House, a.Now, op)
		if err != nil {
			return err
		}
		row, err := journal.Get[noun.Tool](a, m.ID)
		if err != nil {
			return err
		}
		st, err := a.Step(op)
		if err != nil {
			return err
		}
		keepWeight(&row, g, a.Now)
		a.Bench = true
		a.Say(st.CommissionID, "weighed a piece of %s: %s g", row.Name, read.Trimmed(g, 2))
		return a.Save(&row)
	}, s.showBench(ctx, &out))
	return out, err
}
