// Package shelf is where pieces dry: the places and their air, the trays and what lies on
// them, what hands do to it meanwhile.
package shelf

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Shelf is the use cases of where things dry.
type Shelf struct{ *plan.Planning }

// ShelfView is the shelf: every place, its trays, and the freezer beside it.
type ShelfView struct {
	Racks    []RackView    `json:"racks"`
	Freezer  []FrozenView  `json:"freezer"`
	Places   int           `json:"places" doc:"in the freezer"`
	Nothing  string        `json:"nothing" doc:"when nothing lies anywhere"`
	Supports []read.Option `json:"supports"`
}

// SpotView is a piece on a tray.
type SpotView struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// FrozenView is a mould in the freezer.
type FrozenView struct {
	Name  string  `json:"name"`
	Says  string  `json:"says"`
	AtMS  int64   `json:"atMs" doc:"when it may be opened"`
	Share float64 `json:"share" doc:"of its time, 0 to 1"`
	Dew   string  `json:"dew" doc:"how it is when it comes out"`
	Op    string  `json:"op"`
}

// Look shows the shelf.
func (s *Shelf) Look(ctx context.Context, slug string) (out ShelfView, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out, err = look(tx, k, now)
		return err
	})
	return out, err
}

// lying is a batch on the shelf while it is laid out.
type lying struct {
	d     work.Drying
	press *noun.Step
	view  BatchView
	w, h  float64
	tray  int // as somebody put it; 0: nobody said
}

func look(tx journal.Tx, k *noun.Kitchen, now time.Time) (ShelfView, error) {
	out := ShelfView{Racks: []RackView{}, Freezer: []FrozenView{}, Places: k.FreezerPlaces, Supports: supports}
	steps, titles, err := whole(tx, k, now)
	if err != nil {
		return out, err
	}
	all, frozen, err := lyingOn(tx, k, now, steps, titles)
	if err != nil {
		return out, err
	}
	out.Freezer = append(out.Freezer, frozen...)
	ids := []int64{0}
	for _, r := range k.Around.Racks {
		ids = append(ids, r.ID)
	}
	for _, id := range ids {
		var mine []*lying
		for _, l := range all {
			if there(k, l.d.Rack) == id {
				mine = append(mine, l)
			}
		}
		out.Racks = append(out.Racks, rackView(k, id, mine, now))
	}
	if len(all) == 0 && len(frozen) == 0 {
		out.Nothing = "Nothing lies drying. What is pressed and laid out stands here, with the hours at which it may be touched, lifted and joined."
	}
	return out, nil
}

// there is a place that is still there, else the kitchen.
func there(k *noun.Kitchen, id int64) int64 {
	if k.RackOf(id) == nil {
		return 0
	}
	return id
}

// whole are the steps of batches that lie somewhere, with their numbers and words.
func whole(tx journal.Tx, k *noun.Kitchen, now time.Time) ([]noun.Step, map[int64]string, error) {
	cs, err := tx.OpenCommissions()
	if err != nil {
		return nil, nil, err
	}
	thin, err := tx.ThinSteps()
	if err != nil {
		return nil, nil, err
	}
	thin = work.Derived(thin, k, now)
	batches := map[string]bool{}
	c := work.ChainOf(thin)
	for i := range thin {
		st := &thin[i]
		press := st.Attended && st.Planned.Run != nil && st.ActualStart != nil && st.ActualEnd == nil
		if press || lies(st, c) {
			batches[noun.BatchOf(st.Op)] = true
		}
	}
	var ops []string
	for _, st := range thin {
		if batches[noun.BatchOf(st.Op)] {
			ops = append(ops, st.Op)
		}
	}
	steps, err := tx.StepsNamed(ops)
	return work.Derived(steps, k, now), noun.TitlesOf(cs), err
}

// lies tells whether a wait has begun in which something dries, and hands have not come to
// what follows.
func lies(st *noun.Step, c work.Chain) bool {
	if st.Attended || st.Planned.Body == nil || st.ActualStart == nil {
		return false
	}
	next := c.ByOp[st.Planned.After]
	return next == nil || next.ActualStart == nil
}

// lyingOn are the batches that lie somewhere, and what is in the freezer.
func lyingOn(tx journal.Tx, k *noun.Kitchen, now time.Time, steps []noun.Step, titles map[int64]string) (all []*lying, frozen []FrozenView, err error) {
	b, cs, ps, err := plan.GatherOpen(tx, k, now)
	if err != nil {
		return nil, nil, err
	}
	orders, pieces := map[int64]*noun.Commission{}, map[int64]*noun.Piece{}
	for i := range cs {
		orders[cs[i].ID] = &cs[i]
	}
	for i := range ps {
		pieces[ps[i].ID] = &ps[i]
	}
	c := work.ChainOf(steps)
	var ops []string
	for i := range steps {
		ops = append(ops, steps[i].Op)
	}
	notes, err := tx.NotesOf(ops)
	if err != nil {
		return nil, nil, err
	}
	r := read.Reader{K: k}
	for i := range steps {
		st := &steps[i]
		if st.PieceID == nil || pieces[*st.PieceID] == nil || orders[st.CommissionID] == nil {
			continue
		}
		p, o := pieces[*st.PieceID], orders[st.CommissionID]
		if run := st.Run(); run != nil && st.ActualEnd == nil && run.HoldSec > 0 {
			frozen = append(frozen, inFreezer(b, o, p, st, run, r, now)...)
		}
		if !lies(st, c) {
			continue
		}
		if next := c.ByOp[st.Planned.After]; next != nil && !next.Attended && next.Planned.Body != nil && next.ActualStart != nil {
			continue // it lies there by the wait that follows
		}
		d, ok := work.DryingOf(st, k, now)
		if !ok {
			continue
		}
		l := &lying{d: d, tray: d.Tray}
		c.Earlier(st, func(e *noun.Step) {
			if e.Makes() {
				l.press = e
			}
		})
		if l.press == nil {
			continue // a sheet that skins before it is cut is no piece yet
		}
		l.w, l.h = b.Lies(o, p)
		l.view = batchView(k, st, &l.d, l.press, titles[st.CommissionID], p, c, r, now)
		l.view.LengthMM, l.view.WidthMM = l.w, l.h
		for _, n := range notes {
			if noun.BatchOf(n.Op) == noun.BatchOf(st.Op) {
				l.view.Notes = append(l.view.Notes, work.NoteSays(&n, r, now))
			}
		}
		for _, o := range steps {
			if noun.BatchOf(o.Op) == noun.BatchOf(st.Op) && o.Planned.Heat != nil {
				l.view.Tacky = tackySays(k, there(k, d.Rack), now)
			}
		}
		all = append(all, l)
	}
	slices.SortStableFunc(all, func(a, b *lying) int {
		return cmp.Or(a.d.Step.ActualStart.Compare(*b.d.Step.ActualStart), cmp.Compare(a.d.Step.Op, b.d.Step.Op))
	})
	slices.SortStableFunc(frozen, func(a, b FrozenView) int { return cmp.Compare(a.AtMS, b.AtMS) })
	return all, frozen, nil
}

// inFreezer are the fills of a press that are in the freezer.
func inFreezer(b *work.Means, o *noun.Commission, p *noun.Piece, st *noun.Step, run *noun.Run, r read.Reader, now time.Time) (out []FrozenView) {
	dew := ""
	for _, f := range st.Fills {
		if f.Out != nil {
			continue
		}
		if dew == "" {
			if v := b.Reckon(o, p).View.Dry; v != nil && len(v.Dew) > 0 {
				dew = v.Dew[0]
			}
		}
		at := f.At.Add(time.Duration(run.HoldSec) * time.Second)
		says := "may be opened at " + r.Clock(at.In(now.Location()))
		if !at.After(now) {
			says = "may be opened"
		}
		name := read.UpperFirst(st.Planned.What())
		if run.Fills > 1 {
			name += fmt.Sprintf(", fill %d of %d", f.N, run.Fills)
		}
		out = append(out, FrozenView{Name: name, Says: says, AtMS: at.UnixMilli(), Share: math.Min(1, math.Max(0, now.Sub(f.At).Seconds()/float64(max(1, run.HoldSec)))), Dew: dew, Op: st.Op})
	}
	return out
}

// supports are on what pieces can lie.
var supports = []read.Option{{Code: "board", Say: "a board"}, {Code: "foam", Say: "foam"}, {Code: "rack", Say: "a rack"}, {Code: "cup", Say: "cups"}, {Code: "dowel", Say: "a dowel"}, {Code: "hook", Say: "hooks"}}

func supportSays(code string) string {
	for _, s := range supports {
		if s.Code == code {
			return s.Say
		}
	}
	return code
}

// tendedSays is what hands did, in words.
func tendedSays(k *noun.Kitchen, t noun.Tended, r read.Reader, now time.Time) string {
	at := r.Time(t.At.In(now.Location()), now)
	switch t.Do {
	case noun.Turn:
		return at + " turned over"
	case noun.Bag:
		return at + " into a bag"
	case noun.Unbag:
		return at + " out of the bag"
	case noun.ToRack:
		return at + " to " + k.RackName(t.Rack)
	case noun.OnTo:
		return at + " on to " + r.Say(supportSays(t.Support))
	}
	return at + fmt.Sprintf(" on tray %d", t.Tray)
}
