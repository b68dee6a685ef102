package evening

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/craft/piece"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// PortionView is the balls of a press as they are weighed out.
type PortionView struct {
	Says  string        `json:"says"`
	Next  string        `json:"next" doc:"what is weighed next"`
	Of    int           `json:"of"`
	Pairs bool          `json:"pairs" doc:"each two are weighed against one another"`
	Balls []PortionBall `json:"balls"`
	Rope  string        `json:"rope" doc:"how to cut them from a rope where the scale is too coarse, or quicker"`
}

// PortionBall is one ball that was weighed.
type PortionBall struct {
	Grams   float64 `json:"grams"`
	Text    string  `json:"text"`
	Verdict string  `json:"verdict" enum:"under,good,over"`
	Says    string  `json:"says" doc:"how far it is off; empty: it is good"`
}

// portioned is what the balls of a press are aimed at.
type portioned struct {
	lo, hi float64
	aim    float64
	balls  int
	reader read.Reader
	rope   string
	pairs  bool
}

// portioning reads it. pairs: as was asked, nil for what is usual in its way of making.
func (s *Evening) portioning(tx journal.Tx, k *noun.Kitchen, now time.Time, st *noun.Step, pairs *bool) (*portioned, error) {
	if st.PieceID == nil || !st.Makes() {
		return nil, fault.New(fault.Contradiction, "op", "Only what is shaped of balls is portioned here.")
	}
	p, err := journal.Get[noun.Piece](tx, *st.PieceID)
	if err != nil {
		return nil, err
	}
	b, c, _, err := plan.GatherOne(tx, k, now, p.CommissionID)
	if err != nil {
		return nil, err
	}
	w := b.Reckon(&c, &p)
	out := &portioned{balls: st.Run().Balls, reader: read.Reader{K: k}}
	if w.Way != nil {
		out.pairs = w.Way.Pairs
	}
	if pairs != nil {
		out.pairs = *pairs
	}
	if mk := w.View.Make; mk != nil {
		out.aim, out.lo, out.hi = mk.Ball.Value, w.Batch.LowG, w.Batch.HighG
	}
	if out.hi <= out.lo { // not pressed into a mould: the same band round what one weighs
		one, err := piece.OnePiece(piece.PieceIn{TrialPieceG: &w.PieceG})
		if err != nil {
			return out, nil
		}
		out.aim, out.lo, out.hi = w.PieceG, one.LowG, one.HighG
	}
	out.rope = work.RopeSays(w, out.balls, out.reader)
	return out, nil
}

// band of the ball that comes after those weighed: of the second of a pair what lies
// within 3 % of the first.
func (p *portioned) band(weighed []noun.Weighing, i int) (lo, hi float64) {
	if p.pairs && i%2 == 1 && i-1 < len(weighed) {
		g := weighed[i-1].Grams
		return g / (1 + work.PairShare), g * (1 + work.PairShare)
	}
	return p.lo, p.hi
}

func (p *portioned) view(weighed []noun.Weighing) PortionView {
	v := PortionView{Of: p.balls, Pairs: p.pairs, Balls: []PortionBall{}, Rope: p.rope}
	good := 0
	for i, x := range weighed {
		lo, hi := p.band(weighed, i)
		ball := PortionBall{Grams: x.Grams, Text: p.reader.Mass(x.Grams), Verdict: "good"}
		switch {
		case hi <= lo:
		case x.Grams < lo-1e-9:
			ball.Verdict, ball.Says = "under", offSays(lo-x.Grams, "too light")
		case x.Grams > hi+1e-9:
			ball.Verdict, ball.Says = "over", offSays(x.Grams-hi, "too heavy")
		}
		if ball.Verdict == "good" {
			good++
		}
		v.Balls = append(v.Balls, ball)
	}
	v.Says = fmt.Sprintf("%d of %s", len(weighed), read.Count(p.balls, "ball"))
	if n := len(weighed) - good; n > 0 {
		v.Says += fmt.Sprintf(", %d of them off", n)
	}
	if len(weighed) < p.balls {
		lo, hi := p.band(weighed, len(weighed))
		v.Next = fmt.Sprintf("Ball %d", len(weighed)+1)
		if hi > lo {
			v.Next += ": " + measure.Readings(lo, hi, p.reader.Scale()).Text
		}
		if p.pairs && len(weighed)%2 == 1 {
			v.Next += fmt.Sprintf(", as the one before (%s)", p.reader.Mass(weighed[len(weighed)-1].Grams))
		}
	} else {
		v.Next = "All are weighed."
	}
	return v
}

func offSays(g float64, what string) string {
	return fmt.Sprintf("%s %s", measure.Reading(math.Max(0.01, g), offStep(g)), what)
}

func offStep(g float64) float64 {
	if g < 0.095 {
		return 0.01
	}
	return 0.1
}

// Portions are the balls of a press as far as they are weighed.
func (s *Evening) Portions(ctx context.Context, slug, op string, pairs *bool) (out PortionView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		st, err := tx.Step(op)
		if err != nil {
			return err
		}
		p, err := s.portioning(tx, k, now, &st, pairs)
		if err != nil {
			return err
		}
		out = p.view(st.Weighed)
		return nil
	})
	return out, err
}

// mostPortions are kept of one press.
const mostPortions = 2000

// Portion keeps a ball that was weighed out, text as people write it. The first one begins
// the press.
func (s *Evening) Portion(ctx context.Context, slug, op string, version int64, text string, anyway bool) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		g, err := readWeight(read.Reader{K: a.House}, text)
		if err != nil {
			return err
		}
		st, c, err := current(a, op, version, anyway)
		if err != nil {
			return err
		}
		if !st.Makes() {
			return fault.New(fault.Contradiction, "op", "Only what is shaped of balls is portioned here.")
		}
		if len(st.Weighed) >= mostPortions {
			return fault.New(fault.OutOfRange, "grams", "%d balls of one press are kept: that is all.", mostPortions)
		}
		now := a.Now.Truncate(time.Second)
		if st.ActualStart == nil {
			beginStep(st, c, now, now)
		}
		st.Weighed = append(slices.Clone(st.Weighed), noun.Weighing{At: now, Grams: g})
		a.Say(st.CommissionID, "weighed ball %d of %s: %s g", len(st.Weighed), st.Planned.What(), read.Trimmed(g, 2))
		return a.SaveStep(st)
	}, s.showBench(ctx, &out))
	return out, err
}

// PortionBack takes the last ball that was weighed off again.
func (s *Evening) PortionBack(ctx context.Context, slug, op string, version int64) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		st, _, err := current(a, op, version, true)
		if err != nil {
			return err
		}
		n := len(st.Weighed)
		if n == 0 {
			return journal.TooLate("No ball is weighed yet.")
		}
		st.Weighed = slices.Clone(st.Weighed[:n-1])
		a.Say(st.CommissionID, "took ball %d of %s off the scale again", n, st.Planned.What())
		return a.SaveStep(st)
	}, s.showBench(ctx, &out))
	return out, err
}
