package plan

import (
	"slices"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Gather gathers what pieces are worked out from: the drawer with the tools of
// these pieces, the pantry, and what finished steps took out of it.
func Gather(tx journal.Tx, k *noun.Kitchen, now time.Time, pieces []noun.Piece, taken []noun.Step) (*work.Means, error) {
	b := &work.Means{Kitchen: k, Reader: read.Reader{K: k}, Now: now, Tools: map[int64]*noun.Tool{}, Taken: takenBy(taken), Needed: noun.Needed(pieces), Pieces: map[int64]*noun.Piece{}}
	for i := range pieces {
		b.Pieces[pieces[i].ID] = &pieces[i]
	}
	b.Kinds = kindsOf(pieces, b.Needed)
	lib, err := tx.Library()
	if err != nil {
		return nil, err
	}
	b.Library = lib
	for _, fill := range []func(journal.Tx, *work.Means, []noun.Piece) error{gatherTools, gatherMade, gatherLots} {
		if err := fill(tx, b, pieces); err != nil {
			return nil, err
		}
	}
	return b, nil
}

// gatherTools reads the tools: those of the drawer, and those taken away that a piece still names.
func gatherTools(tx journal.Tx, b *work.Means, pieces []noun.Piece) error {
	ts, err := tx.Tools()
	if err != nil {
		return err
	}
	for i := range ts {
		b.Tools[ts[i].ID] = &ts[i]
	}
	var gone []int64
	miss := func(id int64) {
		if b.Tools[id] == nil && !slices.Contains(gone, id) {
			gone = append(gone, id)
		}
	}
	for _, p := range pieces {
		if p.ToolID != nil {
			miss(*p.ToolID)
		}
		for _, id := range p.Tools {
			miss(id)
		}
	}
	if len(gone) == 0 {
		return nil
	}
	old, err := tx.ToolsOf(gone)
	for i := range old {
		b.Tools[old[i].ID] = &old[i]
	}
	return err
}

// gatherMade reads what was made before: what broke of these pieces and tools, the minutes by their
// ways, and what is remembered.
func gatherMade(tx journal.Tx, b *work.Means, pieces []noun.Piece) (err error) {
	var used, own []int64
	for i := range pieces {
		own = append(own, pieces[i].ID)
		if id := pieces[i].ToolID; id != nil && !slices.Contains(used, *id) {
			used = append(used, *id)
		}
	}
	if b.Broke, err = tx.BreakageIn(used, own); err != nil {
		return err
	}
	var ways []string
	for i := range pieces {
		var tool *noun.Tool
		if id := pieces[i].ToolID; id != nil {
			tool = b.Tools[*id]
		}
		if t := b.WayOf(&pieces[i], tool); t != nil && !slices.Contains(ways, t.Key) {
			ways = append(ways, t.Key)
		}
	}
	if b.Clocked, err = tx.Clocked(ways); err != nil {
		return err
	}
	notes, err := tx.WorkNotes(noun.MostTeaching)
	b.Remember(notes)
	return err
}

// gatherLots reads the pantry, and bottles that were chosen for a piece and are taken away.
func gatherLots(tx journal.Tx, b *work.Means, pieces []noun.Piece) (err error) {
	if b.Lots, err = tx.Lots(); err != nil {
		return err
	}
	var away []int64
	for _, p := range pieces {
		for _, id := range p.GelLots {
			if !slices.ContainsFunc(b.Lots, func(l noun.Lot) bool { return l.ID == id }) {
				away = append(away, id)
			}
		}
	}
	if len(away) > 0 {
		b.Away, err = tx.LotsOf(away)
	}
	return err
}

// kindsOf counts the kinds of piece of each commission: the certainty of an
// order is shared among them.
func kindsOf(pieces []noun.Piece, needed map[int64]int) map[int64]int {
	out := map[int64]int{}
	for _, p := range pieces {
		if p.DeletedAt == nil && needed[p.ID] > 0 {
			out[p.CommissionID]++
		}
	}
	return out
}

// GatherOne gathers the bench for one commission.
func GatherOne(tx journal.Tx, k *noun.Kitchen, now time.Time, id int64) (b *work.Means, c noun.Commission, ps []noun.Piece, err error) {
	if c, err = journal.Get[noun.Commission](tx, id); err != nil {
		return nil, c, nil, err
	}
	if c.DeletedAt != nil {
		return nil, c, nil, journal.ErrNotFound
	}
	all, err := tx.Pieces(id)
	if err != nil {
		return nil, c, nil, err
	}
	ps = slices.DeleteFunc(all, func(p noun.Piece) bool { return p.DeletedAt != nil })
	taken, err := tx.TakenFor(id)
	if err != nil {
		return nil, c, nil, err
	}
	if b, err = Gather(tx, k, now, ps, taken); err != nil {
		return nil, c, nil, err
	}
	if anyVaries(k, now) {
		steps, err := tx.Steps(id)
		if err != nil {
			return nil, c, nil, err
		}
		b.Begins = beginsOf(work.Derived(steps, k, now))
	}
	return b, c, ps, err
}

// GatherOpen gathers the bench for all open commissions.
func GatherOpen(tx journal.Tx, k *noun.Kitchen, now time.Time) (b *work.Means, cs []noun.Commission, ps []noun.Piece, err error) {
	if cs, err = tx.OpenCommissions(); err != nil {
		return nil, nil, nil, err
	}
	if ps, err = tx.OpenPieces(); err != nil {
		return nil, nil, nil, err
	}
	taken, err := tx.Taken()
	if err != nil {
		return nil, nil, nil, err
	}
	b, err = Gather(tx, k, now, ps, taken)
	return b, cs, ps, err
}

// takenBy sums what the finished steps of each piece took out of each lot.
func takenBy(steps []noun.Step) map[int64]map[int64]float64 {
	out := map[int64]map[int64]float64{}
	for _, st := range steps {
		if st.PieceID == nil {
			continue
		}
		for _, t := range st.Takes {
			if out[*st.PieceID] == nil {
				out[*st.PieceID] = map[int64]float64{}
			}
			out[*st.PieceID][t.Lot] += t.G
		}
	}
	return out
}

// beginsOf is when each piece is planned to be laid out next, by the plan that stands.
func beginsOf(steps []noun.Step) map[int64]time.Time {
	out := map[int64]time.Time{}
	for _, st := range steps {
		if st.PieceID == nil || st.Attended || st.Planned.Body == nil || st.ActualStart != nil {
			continue
		}
		if at, ok := out[*st.PieceID]; !ok || st.PlannedStart.Before(at) {
			out[*st.PieceID] = st.PlannedStart
		}
	}
	return out
}

// asItHung are steps where they hung before what is taken back moved them.
func asItHung(steps []noun.Step, back []noun.Place) []noun.Step {
	if len(back) == 0 {
		return steps
	}
	was := map[string]time.Time{}
	for _, p := range back {
		was[p.Op] = p.Start
	}
	out := slices.Clone(steps)
	for i := range out {
		if at, ok := was[out[i].Op]; ok && out[i].ActualStart == nil {
			out[i].PlannedStart = at
		}
	}
	return out
}

// anyVaries tells whether the air of some place is known by more than one number.
func anyVaries(k *noun.Kitchen, now time.Time) bool {
	return k.Varies(0, now) || slices.ContainsFunc(k.Around.Racks, func(r noun.Rack) bool { return k.Varies(r.ID, now) })
}
