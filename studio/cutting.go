package studio

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/outline"
	"dustyfern/craft/technique"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/template"
	"dustyfern/studio/work"
)

// smallest and largest box of a cutter, mm, where its kind says nothing.
const (
	leastCut = 3
	mostCut  = 400
)

// drawn reads a drawing into an own outline, as fine as hands cut and no finer.
func drawn(svg []byte) (noun.Outline, *outline.Drawing, error) {
	d, err := outline.SVG(svg)
	if err != nil {
		return noun.Outline{}, nil, err
	}
	for tolerance := 0.02; ; tolerance *= 2 {
		rings := make([]outline.Ring, len(d.Rings))
		for i, r := range d.Rings {
			rings[i] = outline.Simpler(r, tolerance)
		}
		path := outline.PathText(rings)
		if len(path) <= noun.MostPath {
			o := noun.Outline{Shape: noun.OwnShape, Path: path}
			return o, d, o.Check()
		}
		if tolerance > 1 {
			return noun.Outline{}, nil, fault.New(fault.OutOfRange, "file", "This drawing is too fine to be cut: simplify it.")
		}
	}
}

// DrawTool gives a cutter the outline of a drawing, and the length and the width that the
// drawing has. Faults are those of outline.SVG, and contradiction on file for a tool that
// cuts by its measures alone.
func (s *Service) DrawTool(ctx context.Context, slug string, id int64, svg []byte) error {
	o, d, err := drawn(svg)
	if err != nil {
		return err
	}
	_, err = s.Act(ctx, slug, func(a *journal.Acting) error {
		t, err := journal.Get[noun.Tool](a, id)
		if err != nil {
			return err
		}
		if t.DeletedAt != nil {
			return journal.ErrNotFound
		}
		if !noun.TakesOutline(t.Kind) {
			return fault.New(fault.Contradiction, "file", "%s cuts by its measures: only a cutter or a plunger cutter has an outline of its own.", t.Name)
		}
		next := noun.Measures{}
		for k, x := range t.Measures {
			next[k] = x
		}
		for name, x := range map[string]float64{"lengthMM": d.WidthMM, "widthMM": d.HeightMM} {
			lo, hi := limitsOf(t.Kind, name)
			if x < lo-1e-9 || x > hi+1e-9 {
				return fault.New(fault.OutOfRange, "file", "This drawing is %.1f by %.1f mm: a cutter is from %.0f to %.0f mm. Are its units right?", d.WidthMM, d.HeightMM, lo, hi)
			}
			next[name] = math.Round(x*100) / 100
		}
		t.Outline, t.Measures = o, next
		a.Say(0, "drew the outline of %s: %.1f by %.1f mm", t.Name, d.WidthMM, d.HeightMM)
		return a.Save(&t)
	}, nil)
	return err
}

func limitsOf(kind, measure string) (lo, hi float64) {
	if k := technique.Ours.Kind(kind); k != nil {
		for _, m := range k.Measures {
			if m.Name == measure {
				return m.From, m.To
			}
		}
	}
	return leastCut, mostCut
}

// DrawPiece gives a piece the outline of a drawing, and what its way of making measures of
// one: area, height, cut outlines. No drawing takes it away again.
func (s *Service) DrawPiece(ctx context.Context, slug string, id int64, svg []byte) error {
	var o noun.Outline
	d := &outline.Drawing{}
	if svg != nil {
		var err error
		if o, d, err = drawn(svg); err != nil {
			return err
		}
	}
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		way, err := journal.MadeAs(a, &p)
		if err != nil {
			return err
		}
		if p.DeletedAt != nil {
			return journal.ErrNotFound
		}
		if way == nil || way.Rolls == nil {
			return fault.New(fault.Contradiction, "file", "%s is not cut from a sheet: choose how it is made first.", p.Name)
		}
		p.Outline, p.Laid = o, []noun.Put{}
		if svg == nil {
			a.Say(p.CommissionID, "took the drawing of %s away", p.Name)
			return a.Save(&p)
		}
		next := noun.Measures{}
		for k, x := range p.Measures {
			next[k] = x
		}
		for name, x := range map[string]float64{"areaMM2": outline.AreaMM2(d.Rings), "heightMM": d.HeightMM, "cutPieces": float64(len(d.Rings))} {
			if i := slices.IndexFunc(way.Measures, func(m technique.Measure) bool { return m.Name == name }); i >= 0 {
				if m := way.Measures[i]; x < m.From || x > m.To {
					return fault.New(fault.OutOfRange, "file", "%s of this drawing: %.1f %s, and it lies from %g to %g. Are its units right?", m.Says, x, m.Unit, m.From, m.To)
				}
				next[name] = math.Round(x*10) / 10
			}
		}
		p.Measures = next
		a.Say(p.CommissionID, "drew the outline of %s: %.1f by %.1f mm", p.Name, d.WidthMM, d.HeightMM)
		return a.Save(&p)
	}, nil)
	return err
}

// LayPieces keeps where a hand has put pieces down on the rolled sheet; none: they lie as
// they fit best.
func (s *Service) LayPieces(ctx context.Context, slug string, id int64, put []noun.Put) error {
	if err := noun.CheckPut(put); err != nil {
		return err
	}
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, id)
		if err != nil {
			return err
		}
		p.Laid = noun.Some(put)
		say := "let %s lie on the sheet as they fit best"
		if len(put) > 0 {
			say = "put " + read.Count(len(put), "piece") + " of %s down on the sheet by hand"
		}
		a.Say(p.CommissionID, say, p.Name)
		return a.Save(&p)
	}, nil)
	return err
}

// Round is how pieces stand round a tier of their order; of from 0 below, count 0 for as
// many as is usual.
func (s *Service) Round(ctx context.Context, slug string, id int64, of, count int) (out *work.RoundView, err error) {
	err = s.worked(ctx, slug, id, func(b *work.Means, w *work.Reckoned) error {
		out, err = b.Round(w, of, count)
		return err
	})
	return out, err
}

// worked works a piece out for somebody to look at.
func (s *Service) worked(ctx context.Context, slug string, id int64, look func(*work.Means, *work.Reckoned) error) error {
	return s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		p, err := journal.Get[noun.Piece](tx, id)
		if err != nil {
			return err
		}
		if p.DeletedAt != nil {
			return journal.ErrNotFound
		}
		b, c, _, err := plan.GatherOne(tx, k, now, p.CommissionID)
		if err != nil {
			return err
		}
		return look(b, b.Work(&c, &p))
	})
}

// Print is something at true size.
type Print struct {
	Name string // of the file, without its ending
	SVG  func() []byte
	PDF  func() ([]byte, error)
}

// PrintTool is the outline of a cutter.
func (s *Service) PrintTool(ctx context.Context, slug string, id int64) (out *Print, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, _ time.Time) error {
		t, err := journal.Get[noun.Tool](tx, id)
		if err != nil {
			return err
		}
		rings := t.Cuts()
		if rings == nil {
			return fault.New(fault.Contradiction, "id", "%s cuts no outline.", t.Name)
		}
		out = cutOnTheLine(k, t.Name, rings)
		return nil
	})
	return out, err
}

// PrintRollOut is the rolled sheet of a piece with its outlines: the full one, or of
// strips the first.
func (s *Service) PrintRollOut(ctx context.Context, slug string, id int64) (out *Print, err error) {
	err = s.worked(ctx, slug, id, func(b *work.Means, w *work.Reckoned) error {
		mk := w.View.Make
		if mk == nil || mk.RollOut == nil || len(mk.RollOut.Outlines) == 0 {
			return fault.New(fault.Contradiction, "id", "Nothing of %s is cut from a sheet yet.", w.Piece.Name)
		}
		v := mk.RollOut
		laid, wide, high := v.Full, v.BoardLongMM, v.BoardWideMM
		if len(laid) == 0 {
			laid, wide, high = v.Sheets[0].Laid, v.Sheets[0].LongMM, v.Sheets[0].WideMM
		}
		d := &template.Drawing{Title: w.Piece.Name, Says: b.Reader.Length(v.ThicknessMM) + " thick. " + v.Says, WideMM: wide, HighMM: high, Lines: []template.Line{template.Box(0, 0, wide, high)}}
		for _, p := range laid {
			rings, err := outline.FromPath(v.Outlines[p.Of])
			if err != nil || p.Off {
				continue
			}
			for _, r := range rings {
				moved := outline.Turned(r, p.Deg)
				for i := range moved {
					moved[i][0] += p.XMM
					moved[i][1] += p.YMM
				}
				d.Lines = append(d.Lines, template.Line{At: moved, Closed: true})
			}
		}
		out = &Print{w.Piece.Name + ", rolled out", d.SVG, d.PDF}
		return nil
	})
	return out, err
}

// cutOnTheLine is the drawing of one outline that lies at the origin, in mm.
func cutOnTheLine(k *noun.Kitchen, name string, rings []outline.Ring) *Print {
	_, hi := outline.Box(rings)
	r := read.Reader{K: k}
	d := &template.Drawing{Title: name, Says: fmt.Sprintf("%s × %s, cut on the line", r.Length(hi[0]), r.Length(hi[1])), WideMM: hi[0], HighMM: hi[1], Lines: template.Outlines(rings)}
	return &Print{name, d.SVG, d.PDF}
}

// PrintPiece is the own outline of a piece.
func (s *Service) PrintPiece(ctx context.Context, slug string, id int64) (out *Print, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, _ time.Time) error {
		p, err := journal.Get[noun.Piece](tx, id)
		if err != nil {
			return err
		}
		rings, err := outline.FromPath(p.Outline.Path)
		if err != nil {
			return fault.New(fault.Contradiction, "id", "%s has no drawing of its own.", p.Name)
		}
		out = cutOnTheLine(k, p.Name, rings)
		return nil
	})
	return out, err
}

// stripHighMM is how high a marking strip is printed.
const stripHighMM = 14

// PrintStrip is the marking strip of a piece round a tier.
func (s *Service) PrintStrip(ctx context.Context, slug string, id int64, of, count int) (out *Print, err error) {
	err = s.worked(ctx, slug, id, func(b *work.Means, w *work.Reckoned) error {
		v, err := b.Round(w, of, count)
		if err != nil {
			return err
		}
		if v == nil {
			return fault.New(fault.Contradiction, "id", "This order has no tiers: there is nothing to go round.")
		}
		strip := &template.Strip{Title: w.Piece.Name + ", marking strip", Says: v.Says, LongMM: v.LongMM, HighMM: stripHighMM}
		for _, m := range v.Marks {
			says := m.Says
			if m.Corner {
				says = "|" // a fold, not a number
			}
			strip.Marks = append(strip.Marks, template.Mark{AtMM: m.AtMM, Says: says})
		}
		out = &Print{strip.Title, strip.Drawing().SVG, strip.PDF}
		return nil
	})
	return out, err
}
