package document

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
)

// Import makes a new studio of a document, whole or not at all.
func (s *Documents) Import(ctx context.Context, raw []byte) (StudioRow, error) {
	d, err := ReadDocument(raw)
	if err != nil {
		return StudioRow{}, err
	}
	return s.BringIn(ctx, &d, func(int, int) {})
}

// BringIn makes a new studio of a document that was read, and tells how many of its
// rows are written by now.
func (s *Documents) BringIn(ctx context.Context, d *Document, tell func(done, of int)) (row StudioRow, err error) {
	k := d.Kitchen
	k.Version = 1
	if k.Slug, err = s.FreeSlug(ctx, noun.NewKitchen(k.Name).Slug); err != nil {
		return StudioRow{}, err
	}
	if err = s.Desk.Store.CreateWith(ctx, &k, func(tx journal.Tx) error { return bringIn(tx, d, tell) }); err != nil {
		return StudioRow{}, err
	}
	s.Desk.PlanSoon(k.Slug)
	return StudioRow{k.Slug, k.Name}, nil
}

// Replace puts a document in the place of everything in a studio.
func (s *Documents) Replace(ctx context.Context, slug string, raw []byte) error {
	d, err := ReadDocument(raw)
	if err != nil {
		return err
	}
	err = s.Desk.Store.Write(ctx, slug, func(tx journal.Tx) error {
		if err := tx.Clear(); err != nil {
			return err
		}
		k := tx.Kitchen()
		fresh := d.Kitchen
		fresh.ID, fresh.Version, fresh.Slug = k.ID, k.Version, k.Slug
		if err := tx.Save(&fresh); err != nil {
			return err
		}
		return bringIn(tx, &d, func(int, int) {})
	})
	if err == nil {
		s.Desk.PlanSoon(slug)
	}
	return err
}

// filling is a document on its way into an empty studio: the ids that its
// numbers have become.
type filling struct {
	tx     journal.Tx
	d      *Document
	tools  []int64
	lots   []int64
	orders []int64
	rack   []int64
	photos []int64
	ops    map[string]string
	done   int
	of     int
	told   func(done, of int)
}

// count tells of rows that are written.
func (f *filling) count(n int) {
	f.done += n
	f.told(f.done, f.of)
}

// bringIn writes the rows of a document into an empty studio, many at once. The
// plan follows when they are kept.
func bringIn(tx journal.Tx, d *Document, tell func(done, of int)) error {
	f := &filling{tx: tx, d: d, ops: map[string]string{"": ""}, told: tell, of: len(d.Tools) + len(d.Lots) + len(d.Commissions) + len(d.Journal)}
	for _, c := range d.Commissions {
		f.of += len(c.Pieces) + len(c.Steps)
	}
	for _, write := range []func() error{f.racks, f.shelves, f.commissions, f.notes, f.timers, f.journal, tx.WantPlan, f.tell} {
		if err := write(); err != nil {
			return err
		}
	}
	return nil
}

func (f *filling) tell() error {
	_, err := f.tx.Tell()
	return err
}

func (f *filling) shelves() error {
	photos := make([]int64, len(f.d.Photos))
	for i, jpeg := range f.d.Photos {
		id, err := f.tx.AddPhoto(jpeg)
		if err != nil {
			return err
		}
		photos[i] = id
	}
	f.photos = photos
	ts := make([]noun.Tool, len(f.d.Tools))
	for i, t := range f.d.Tools {
		t.ID, t.Version, t.DeletedAt, t.Weighings, t.Marks = 0, 1, nil, noun.Some(t.Weighings), noun.Some(t.Marks)
		t.Measures = noun.SomeOf(t.Measures)
		if t.Photo != nil {
			t.Photo = &photos[*t.Photo-1]
		}
		ts[i] = t
	}
	ls := make([]noun.Lot, len(f.d.Lots))
	for i, l := range f.d.Lots {
		ls[i] = noun.LotFresh(l)
	}
	for _, w := range f.d.Ways {
		w.ID, w.Version, w.DeletedAt = 0, int64(max(1, w.Definition.Version)), nil
		if err := f.tx.Create(&w); err != nil {
			return err
		}
	}
	err := errors.Join(journal.CreateAll(f.tx, ts), journal.CreateAll(f.tx, ls))
	f.count(len(ts) + len(ls))
	f.tools, f.lots = []int64{0}, []int64{0}
	for _, t := range ts {
		f.tools = append(f.tools, t.ID)
	}
	for _, l := range ls {
		f.lots = append(f.lots, l.ID)
	}
	return err
}

func (f *filling) commissions() error {
	cs := make([]noun.Commission, len(f.d.Commissions))
	for i, c := range f.d.Commissions {
		row := c.Commission
		row.ID, row.Version, row.DeletedAt = 0, 1, nil
		row.Tiers, row.Allergies, row.Without, row.AtRisk = noun.Some(row.Tiers), noun.Some(row.Allergies), noun.Some(row.Without), noun.Some(row.AtRisk)
		cs[i] = row
	}
	if err := journal.CreateAll(f.tx, cs); err != nil {
		return err
	}
	f.orders = []int64{0}
	var ps []noun.Piece
	for i, c := range f.d.Commissions {
		f.orders = append(f.orders, cs[i].ID)
		for j, p := range c.Pieces {
			x := p.Piece
			x.ID, x.Version, x.DeletedAt, x.CommissionID, x.Position, x.ToolID, x.Extras, x.GelLots, x.Strands, x.Laid = 0, 1, nil, cs[i].ID, j+1, nil, noun.Some(x.Extras), []int64{}, noun.Some(x.Strands), noun.Some(x.Laid)
			if p.Tool > 0 {
				x.ToolID = &f.tools[p.Tool]
			}
			x.Rack = f.rackID(p.Rack)
			x.Tools = noun.ToolsOf{}
			for role, no := range p.Tools {
				x.Tools[role] = f.tools[no]
			}
			x.Measures, x.Ways, x.Joins = noun.SomeOf(x.Measures), noun.SomeOf(x.Ways), []noun.Join{}
			for _, no := range p.GelLots {
				x.GelLots = append(x.GelLots, f.lots[no])
			}
			x.Finish = f.finish(p.Finish)
			ps = append(ps, x)
		}
	}
	if err := journal.CreateAll(f.tx, ps); err != nil {
		return err
	}
	if err := f.joins(ps); err != nil {
		return err
	}
	f.count(len(cs) + len(ps))
	return f.steps(ps)
}

// joins writes the parts of pieces, which are pieces themselves.
func (f *filling) joins(ps []noun.Piece) error {
	at := 0
	for _, c := range f.d.Commissions {
		mine := ps[at : at+len(c.Pieces)]
		at += len(c.Pieces)
		for i, p := range c.Pieces {
			if len(p.Joins) == 0 {
				continue
			}
			for _, j := range p.Joins {
				j.Part = mine[j.Part-1].ID
				mine[i].Joins = append(mine[i].Joins, j)
			}
			if err := f.tx.Save(&mine[i]); err != nil {
				return err
			}
		}
	}
	return nil
}

func (f *filling) steps(ps []noun.Piece) error {
	var steps []noun.Step
	at := 0
	for i, c := range f.d.Commissions {
		mine := ps[at : at+len(c.Pieces)]
		at += len(c.Pieces)
		no := map[string]string{fmt.Sprintf("c%d", i+1): fmt.Sprintf("c%d", f.orders[i+1])}
		for j := range mine {
			no[fmt.Sprintf("p%d-%d", i+1, j+1)] = fmt.Sprintf("p%d", mine[j].ID)
		}
		rename := func(op string) string {
			head, rest, _ := strings.Cut(op, ".")
			if to, ok := no[head]; ok {
				f.ops[op] = to + "." + rest
			}
			return f.ops[op]
		}
		for _, st := range c.Steps {
			x := st.Step
			x.ID, x.Version, x.CommissionID, x.Op, x.Planned.After = 0, 1, f.orders[i+1], rename(st.Op), rename(st.Planned.After)
			x.Says, x.Checks, x.Cautions, x.Ways, x.Figures, x.Fills, x.Breaks = noun.Some(x.Says), noun.Some(x.Checks), noun.Some(x.Cautions), noun.Some(x.Ways), noun.Some(x.Figures), noun.Some(x.Fills), noun.Some(x.Breaks)
			x.Takes, x.Planned.Uses = []noun.Taken{}, nil
			for _, t := range st.Takes {
				x.Takes = append(x.Takes, noun.Taken{Lot: f.lots[t.Lot], Name: t.Name, G: t.G})
			}
			x.Tended = slices.Clone(st.Tended)
			for i := range x.Tended {
				x.Tended[i].Rack = f.rack[x.Tended[i].Rack]
			}
			if b := st.Planned.Body; b != nil && b.Rack > 0 {
				there := *b
				there.Rack = f.rack[b.Rack]
				x.Planned.Body = &there
			}
			if st.Piece > 0 {
				x.PieceID = &mine[st.Piece-1].ID
			}
			steps = append(steps, x)
		}
	}
	for some := range slices.Chunk(steps, stepsAtOnce) {
		if err := f.tx.ReplaceSteps(nil, some); err != nil {
			return err
		}
		f.count(len(some))
	}
	return nil
}

// stepsAtOnce are written before it is told how far it is.
const stepsAtOnce = 2000

func (f *filling) timers() error {
	for _, t := range f.d.Timers {
		t.ID, t.Version, t.DeletedAt, t.Op = 0, 1, nil, f.ops[t.Op]
		if t.CommissionID != nil {
			t.CommissionID = &f.orders[*t.CommissionID]
		}
		if err := f.tx.Create(&t); err != nil {
			return err
		}
	}
	return nil
}

func (f *filling) journal() error {
	es := make([]journal.Entry, len(f.d.Journal))
	for i, e := range f.d.Journal {
		es[i] = journal.Entry{At: e.At, Who: e.Who, Says: e.Says, Kind: e.Kind, Bench: e.Bench, Undone: e.Undone, Rows: []journal.Touched{}}
		if e.Commission > 0 {
			es[i].CommissionID = &f.orders[e.Commission]
		}
	}
	err := f.tx.AddEntries(es)
	f.count(len(es))
	return err
}
