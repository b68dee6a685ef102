package plan

import (
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/bench"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// joins puts the parts of a piece on to it, in their order.
func (l *liner) joins(o *ordered, m *madePiece) {
	p := m.w.Piece
	if len(p.Joins) == 0 || m.w.Wanted == 0 {
		return
	}
	b := bench.Batch{ID: noun.BatchID(p.ID, noun.JoinNo), Commission: o.id, Piece: p.Name, FreshWeight: new(0.0)}
	before := m.ready
	for i, j := range p.Joins {
		part := o.made[j.Part]
		if part == nil {
			continue
		}
		n := m.w.Wanted * j.Each
		minutes := max(1, int(math.Ceil(joinFirst+j.Minutes*float64(n)-1e-9)))
		for k, length := range l.putOnParts(minutes) {
			name := fmt.Sprintf("join%d", i+1)
			say := fmt.Sprintf("Put %d %s on to %s", n, part.w.Piece.Name, p.Name)
			if k > 0 {
				name, say = fmt.Sprintf("join%d-%d", i+1, k+1), "Go on: "+read.LowerFirst(say)
			}
			op := bench.Op{ID: b.ID + "." + name, Kind: "join", Attended: true, Minutes: &length}
			if j.Says != "" {
				say += ": " + j.Says
			}
			words := noun.Planned{Done: "Joined", LayOut: []string{read.UpperFirst(part.w.Piece.Name) + " and " + read.LowerFirst(p.Name)}}
			st := l.plain(o.c, p, &op, func(string) string { return say }, words)
			st.Says = l.says("Try it dry first: it must sit without a push.", "Hold each until it stays by itself, then leave it.")
			if j.With != "" {
				st.Says = append(l.says("With "+j.With+"."), st.Says...)
			} else if lines := l.b.PartJoin(m.w, part.w); len(lines) > 0 {
				st.Says = append(lines, st.Says...)
			}
			st.Checks = l.says("straight from the front and from the side", "nothing slides when the board is turned")
			b.Ops = append(b.Ops, op)
			settle := 0
			if i > 0 || k > 0 {
				settle = l.b.Kitchen.SettleMinutes
			}
			for _, from := range before {
				g := bench.Lag{From: from, To: op.ID}
				if strings.HasPrefix(from, b.ID) && k == 0 {
					g.Min = settle // what is on it takes hold first
				}
				o.lags = append(o.lags, g)
			}
			if k == 0 {
				for _, from := range part.ready {
					g := bench.Lag{From: from, To: op.ID, Max: l.softFor(part.w)}
					o.lags = append(o.lags, g)
				}
			}
			before = []string{op.ID}
		}
	}
	if len(b.Ops) == 0 {
		return
	}
	o.batches = append(o.batches, b)
	for i := range m.goesOn {
		o.lags = append(o.lags, bench.Lag{From: before[0], To: m.goesOn[i], Min: l.b.Kitchen.SettleMinutes})
	}
	if len(m.goesOn) == 0 {
		o.ends = append(o.ends, before[0])
	}
	m.ready = before
}

// joinFirst are the minutes to lay out before parts are joined (assumed).
const joinFirst = 2

// softFor is how long a part that goes on soft keeps soft, minutes; nil: it goes on
// dry.
func (l *liner) softFor(w *work.Reckoned) *int {
	if w.State != "P" {
		return nil
	}
	if w.Piece.Bagged {
		return new(work.BagMinutes)
	}
	if at := w.Moments["skin.p10"]; at != nil {
		return new(max(1, int(*at)))
	}
	return nil
}
