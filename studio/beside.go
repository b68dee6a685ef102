package studio

import (
	"context"
	"fmt"
	"strings"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/work"
)

// ShowPiece shows one piece with everything that follows from it.
func (s *Service) ShowPiece(ctx context.Context, slug string, id int64) (out work.PieceView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		p, err := journal.Get[noun.Piece](tx, id)
		if err != nil {
			return err
		}
		if p.DeletedAt != nil {
			return journal.ErrNotFound
		}
		b, c, all, err := plan.GatherOne(tx, k, now, p.CommissionID)
		if err != nil {
			return err
		}
		presses, err := tx.Presses([]int64{p.CommissionID})
		if err != nil {
			return err
		}
		made := map[int64]string{}
		for _, t := range work.Tallies(all, presses) {
			made[t.PieceID] = madeSays(&t)
		}
		w := b.Work(&c, &p)
		out = w.View
		b.DryMore(w)
		if out.Last, err = s.Notebook.LastTimes(tx, b, w); err != nil {
			return err
		}
		out.Made = made[p.ID]
		if len(out.Parts) > 0 {
			out.Beside = beside(b, &c, &out, made)
		}
		return nil
	})
	return out, err
}

// madeSays tells what is made so far.
func madeSays(t *work.Tally) string {
	say := fmt.Sprintf("%d whole of %d wanted", t.Made-t.Broken, t.Wanted)
	if t.Broken > 0 {
		say += fmt.Sprintf(", %d broken", t.Broken)
	}
	return say + "; " + strings.ToLower(t.Says[:1]) + strings.TrimSuffix(t.Says[1:], ".")
}

// beside sets a piece and all that goes on to it side by side, a part before its
// own parts.
func beside(b *work.Means, c *noun.Commission, whole *work.PieceView, made map[int64]string) []work.BesideView {
	out := []work.BesideView{besideOf(whole, "", made)}
	seen := map[int64]bool{whole.ID: true}
	var add func(of *work.PieceView)
	add = func(of *work.PieceView) {
		for _, part := range of.Parts {
			p := b.Pieces[part.Part]
			if p == nil || seen[part.Part] {
				continue // one that is shared stands once
			}
			seen[part.Part] = true
			v := b.Work(c, p).View
			out = append(out, besideOf(&v, fmt.Sprintf("%d on to each of %s", part.Each, of.Name), made))
			add(&v)
		}
	}
	add(whole)
	return out
}

func besideOf(v *work.PieceView, on string, made map[int64]string) work.BesideView {
	x := work.BesideView{ID: v.ID, Name: v.Name, Swatch: v.Swatch, On: on, Made: made[v.ID], Missing: v.Missing}
	m := v.Make
	if m == nil {
		return x
	}
	x.LengthMM, x.WidthMM, x.Round = m.LengthMM, m.WidthMM, m.Round
	x.Ball, x.Balls, x.Spares, x.Bench = &m.Ball, &m.Balls, m.Spares, m.Bench
	return x
}
