package evening

import (
	"context"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/work"
)

// PressMore makes n more of a piece, when its spares are used up: as many as the paste
// that lies there gives go on in the press that runs, without kneading and without
// another rest; the others are put into the plan.
func (s *Evening) PressMore(ctx context.Context, slug string, id int64, n int) (out BenchView, err error) {
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		if n < 1 || n > 500 {
			return fault.New(fault.OutOfRange, "n", "From 1 to 500.")
		}
		all, err := a.Steps(p.CommissionID)
		if err != nil {
			return err
		}
		c := work.ChainOf(work.Derived(all, a.House, a.Now))
		a.Bench = true
		left := n
		if st := lastPress(all, id, c, a.Now); st != nil {
			lies, err := fromWhatLies(a, st, c)
			if err != nil {
				return err
			}
			if k := min(n, lies); k > 0 {
				left -= k
				lengthen(st, k)
				if err := a.SaveStep(st); err != nil {
					return err
				}
			}
		}
		switch {
		case left == 0:
			a.Say(p.CommissionID, "goes on with %d more %s, from the paste that lies there", n, p.Name)
			return nil
		case left < n:
			a.Say(p.CommissionID, "goes on with %d more %s, from the paste that lies there, and wants %d pressed anew", n-left, p.Name, left)
		default:
			a.Say(p.CommissionID, "wants %d more %s pressed", n, p.Name)
		}
		if len(p.Extras) >= noun.MostAgain {
			return fault.New(fault.OutOfRange, "n", "It was pressed again %d times: change the paste or the mould.", noun.MostAgain)
		}
		p.Extras = append(slices.Clone(p.Extras), left)
		return a.Save(&p)
	}, s.showBench(ctx, &out))
	return out, err
}

// softFor is how long what tore while it was soft can still be kneaded smooth: before a
// skin makes crumbs of it (assumed).
const softFor = 30 * time.Minute

// lastPress is the press of a piece that can still be gone on with: it runs, or ended so
// short a while ago that its paste is soft and nothing of its batch was taken in hand
// since. nil: none.
func lastPress(all []noun.Step, piece int64, c work.Chain, now time.Time) (last *noun.Step) {
	for i := range all {
		st := &all[i]
		if st.PieceID == nil || *st.PieceID != piece || !st.Makes() || st.ActualStart == nil {
			continue
		}
		if end := st.ActualEnd; end != nil {
			shuts := end.Add(softFor)
			if at := c.Shuts(st); !at.IsZero() && at.Before(shuts) {
				shuts = at
			}
			if now.After(shuts) || begunSince(all, st) {
				continue
			}
		}
		if last == nil || last.ActualStart.Before(*st.ActualStart) {
			last = st
		}
	}
	return last
}

// begunSince tells whether hands have begun a step of the batch after its press.
func begunSince(all []noun.Step, press *noun.Step) bool {
	batch := noun.BatchOf(press.Op)
	return slices.ContainsFunc(all, func(o noun.Step) bool {
		return o.Op != press.Op && o.Attended && o.ActualStart != nil && noun.BatchOf(o.Op) == batch && !o.ActualStart.Before(*press.ActualEnd)
	})
}

// fromWhatLies is how many pieces the soft torn ones of a press give, and, while it runs,
// what was kneaded beyond its pieces. (What was over when it ended is in its tub.)
func fromWhatLies(a *journal.Acting, st *noun.Step, c work.Chain) (int, error) {
	run := st.Run()
	if run.BallG <= 0 {
		return 0, nil
	}
	g := float64(st.TornSoft()-st.Reused()) * run.BallG
	if st.ActualEnd == nil && (st.Longer == nil || !st.Longer.Tubbed) {
		kneaded, err := plan.Kneaded(a, st, c)
		if err != nil {
			return 0, err
		}
		if kneaded > 0 {
			g += kneaded - float64(run.Balls-st.Reused())*run.BallG
		}
	}
	return max(0, int(g/run.BallG+1e-9)), nil
}

// lengthen lets a press go on with n more.
func lengthen(st *noun.Step, n int) {
	run := st.Run()
	x := noun.Longer{More: n, Balls: run.Balls, Fills: run.Fills}
	if st.Longer != nil {
		x.More, x.Tubbed = x.More+st.Longer.More, st.Longer.Tubbed
	}
	if end := st.ActualEnd; end != nil {
		st.Fills = slices.Clone(st.Fills)
		if st.Out() >= run.Balls {
			for i := len(st.Fills); i < run.Fills; i++ { // it was marked done at once
				st.Fills = append(st.Fills, noun.Fill{N: i + 1, At: *end, Out: end, Who: st.Who})
			}
		}
		x.Balls, x.Fills, x.Tubbed = st.Out(), len(st.Fills), true // of what was over then, a tub was made
		st.ActualEnd, st.Who = nil, ""
	}
	x.Balls += n
	x.Fills += (n + max(1, run.Cavities) - 1) / max(1, run.Cavities)
	st.Longer = &x
}
