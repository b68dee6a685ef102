package plan

import (
	"slices"
	"strings"

	"dustyfern/craft/bench"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// link is one step of a batch, as data says it or as it was kept when the batch
// began.
type link struct {
	op    technique.Op
	after []bench.Lag // from others of the batch, by their own names
	holds []bench.Hold
	words noun.Words
	kept  *noun.Step // the row that it stands in already; nil: as data says it
}

// links of a batch as its way of making says them.
func (l *liner) links(w *work.Reckoned, b *technique.Batch) []link {
	out := make([]link, len(b.Ops))
	for i := range b.Ops {
		x := link{op: b.Ops[i], words: l.b.WordsOf(w, &b.Ops[i])}
		for _, g := range b.Lags {
			if g.To == x.op.Op {
				x.after = append(x.after, g)
			}
		}
		for _, h := range b.Holds {
			if h.From == x.op.Op {
				x.holds = append(x.holds, h)
			}
		}
		out[i] = x
	}
	return out
}

// keptLinks are the steps of a batch that has begun, as they stand. Rows of before
// say no more than their lengths; whole tells that none is missing.
func keptLinks(rows []noun.Step) (out []link, whole bool) {
	of := -1
	for i := range rows {
		st := &rows[i]
		name := st.Op[strings.LastIndexByte(st.Op, '.')+1:]
		x := link{kept: st, words: noun.Words{Says: st.Says, Checks: st.Checks, Ways: st.Ways, Cautions: st.Cautions}}
		if k := st.Planned.Kept; k != nil {
			x.op, x.after, x.holds = k.Op, k.After, k.Holds
			of = k.Of
		} else {
			x.op = technique.Op{Op: name, Kind: st.Kind, Attended: st.Attended}
			minutes := max(1, int(st.PlannedEnd.Sub(st.PlannedStart).Minutes()))
			x.op.Minutes = &minutes
			if r := st.Planned.Run; r != nil && r.HoldSec > 0 {
				x.op.Minutes, x.op.Cycle = nil, &bench.Rounds{Pieces: r.Fills, FillSec: r.FillSec, HoldSec: r.HoldSec, UnmouldSec: r.UnmouldSec, Copies: max(1, r.Copies)}
			}
			if len(st.Planned.Marks) > 0 {
				x.op.Minutes, x.op.Dry = nil, &bench.Drying{P50: minutes, P90: minutes}
			}
		}
		out = append(out, x)
	}
	for i := range rows { // what came before in the rows of before
		if rows[i].Planned.Kept != nil {
			continue
		}
		if j := slices.IndexFunc(rows, func(o noun.Step) bool { return o.Op == rows[i].Planned.After }); j >= 0 {
			out[j].after = append(out[j].after, bench.Lag{From: out[i].op.Op, To: out[j].op.Op})
		}
	}
	slices.SortStableFunc(out, func(a, b link) int { return place(a.kept) - place(b.kept) })
	return out, of == len(rows)
}

func place(st *noun.Step) int {
	if st.Planned.Kept != nil {
		return st.Planned.Kept.At
	}
	return 0
}

// merged is a batch that has begun: what was kept, and of what its way of making
// says now only what nothing kept stands for. How long it dries follows the room.
func merged(kept []link, whole bool, fresh []link) []link {
	out := slices.Clone(kept)
	has := func(in []link, op string) bool {
		return slices.ContainsFunc(in, func(x link) bool { return x.op.Op == op })
	}
	for i := range out {
		for j := range fresh {
			if f := &fresh[j].op; f.Op == out[i].op.Op && f.Dry != nil && out[i].op.Dry != nil {
				out[i].op.Dry, out[i].op.DryUntil = f.Dry, f.DryUntil
			}
		}
	}
	if whole {
		return out
	}
	for _, f := range fresh {
		if has(out, f.op.Op) || slices.ContainsFunc(kept, func(k link) bool { return k.op.Kind == f.op.Kind }) {
			continue
		}
		x := f
		x.after = nil
		for _, g := range f.after {
			if has(out, g.From) {
				x.after = append(x.after, g)
			}
		}
		if len(x.after) == 0 && len(out) > 0 {
			x.after = []bench.Lag{{From: out[len(out)-1].op.Op, To: x.op.Op}}
		}
		out = append(out, x)
	}
	return out
}

// last are the steps that nothing in the batch comes after, of those that are kept.
func last(links []link, of func(*link) bool) (out []string) {
	for i := range links {
		x := &links[i]
		if !of(x) {
			continue
		}
		followed := false
		for j := range links {
			y := &links[j]
			followed = followed || of(y) && slices.ContainsFunc(y.after, func(g bench.Lag) bool { return g.From == x.op.Op })
		}
		if !followed {
			out = append(out, x.op.Op)
		}
	}
	return out
}
