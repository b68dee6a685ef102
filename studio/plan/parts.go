package plan

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/colour"
	"dustyfern/craft/measure"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// stretchFor is the longest stretch at the bench in which a piece may be made:
// before the hand-over, and not so early that it would be stale.
func (l *liner) stretchFor(c *noun.Commission, p *noun.Piece) int {
	from := l.b.Now
	if p.Eaten != "shown" {
		if fresh := c.HandOver.Add(-time.Duration(l.b.Kitchen.FreshDays*24) * time.Hour); fresh.After(from) {
			from = fresh
		}
	}
	longest := 0
	for _, w := range l.windows {
		if w.End.After(from) && w.Start.Before(*c.HandOver) {
			longest = max(longest, int(w.End.Sub(w.Start)/time.Minute))
		}
	}
	if longest == 0 {
		return l.longest
	}
	return longest
}

func (l *liner) capacity(id string) int {
	for _, r := range l.in.Resources {
		if r.ID == id {
			return r.Capacity
		}
	}
	return 0
}

// trays of a place are held apart from those of another.
func (l *liner) trays(rack int64, all []noun.Tray) {
	n := 0
	for _, t := range all {
		n += t.Count
	}
	l.resource(trayOf(rack), "tray", n)
}

// trayOf is what the trays of a place are called in the task.
func trayOf(rack int64) string {
	if rack == 0 {
		return "tray"
	}
	return fmt.Sprintf("tray.r%d", rack)
}

// rackFor is where a batch dries: where it was put last, or where its piece does.
func (l *liner) rackFor(w *work.Reckoned, x *batchOf) int64 {
	rack := w.Rack()
	if x == nil {
		return l.there(rack)
	}
	for i := range x.links {
		if k := x.links[i].kept; k != nil && !k.Attended && k.ActualStart != nil && k.Planned.Body != nil {
			rack = work.LastRack(k)
		}
	}
	return l.there(rack)
}

// there is a place that is still there: else the kitchen.
func (l *liner) there(rack int64) int64 {
	if l.b.Kitchen.RackOf(rack) == nil {
		return 0
	}
	return rack
}

func (l *liner) resource(id, kind string, capacity int) {
	if capacity > 0 && l.capacity(id) == 0 {
		l.in.Resources = append(l.in.Resources, bench.Resource{ID: id, Kind: kind, Capacity: capacity})
	}
}

func (l *liner) colour(swatch string) {
	if l.colours[swatch] {
		return
	}
	l.colours[swatch] = true
	light, err := colour.Lightness(swatch)
	if err != nil {
		light = 50
	}
	l.in.Colours = append(l.in.Colours, bench.Colour{ID: swatch, Lightness: light})
}

// use is what a step takes of a tool by its role, as the plan knows it; none when
// that is without limit. More than there is is as much as there is: what splits a
// batch has been judged already.
func (l *liner) use(w *work.Reckoned, x *batchOf, u bench.Use) (bench.Use, bool) {
	id, kind, capacity := "", "", 0
	switch t := w.ToolOf(u.Resource); {
	case u.Resource == "tray" && l.holder(w) != nil:
		t := l.holder(w)
		id, kind, capacity = fmt.Sprintf("tool%d", t.ID), "former", t.Places()
		u.Count = x.pieces
	case u.Resource == "tray":
		id = trayOf(l.rackFor(w, x))
		capacity = l.capacity(id)
	case u.Resource == "freezer":
		id, capacity = u.Resource, l.capacity(u.Resource)
	case t != nil && t.Presses():
		id, kind, capacity = fmt.Sprintf("tool%d", t.ID), "mould", t.InUse()
	case t != nil && t.Places() > 0:
		id, kind, capacity = fmt.Sprintf("tool%d", t.ID), "former", t.Places()
	case t == nil:
		// none in the drawer: as many as such a tool usually has, shared by all
		id, kind, capacity = "any."+u.Resource, "former", w.Capacity(l.b.Library, u.Resource)
	}
	if capacity < 1 {
		return u, false
	}
	l.resource(id, kind, capacity)
	return bench.Use{Resource: id, Count: min(u.Count, l.capacity(id))}, true
}

// holder is the tool of the drawer that a piece dries on instead of a tray, when it
// was said that it does and there is one.
func (l *liner) holder(w *work.Reckoned) *noun.Tool {
	switch s := w.Piece.Support; s {
	case "cup", "dowel", "hook":
		return l.b.OfKind(&technique.Role{Kind: s})
	}
	return nil
}

// batchOf is some pieces of one kind with steps of their own.
type batchOf struct {
	no, of  int // its number, and how many there are; of 0: made again
	pieces  int
	placed  int
	links   []link
	key     string
	version int
}

// piece makes the batches of one piece: those that have begun as they are, the rest
// anew, and what is made again.
func (l *liner) piece(c *noun.Commission, w *work.Reckoned) (out []batchOf, trouble string) {
	window := l.stretchFor(c, w.Piece)
	left, last := w.Batch.Make, 0
	begun := l.begunNos(w.Piece.ID)
	if len(begun) > 0 {
		left = l.b.MakeAsBegun(w, runOf(l.kept[noun.BatchID(w.Piece.ID, begun[0])]))
	}
	for _, no := range begun {
		rows := l.kept[noun.BatchID(w.Piece.ID, no)]
		n := madeIn(rows)
		b, say := l.begunBatch(w, rows, no, n, window)
		if say != "" {
			return nil, say
		}
		out = append(out, b)
		if no < noun.AgainFrom {
			left, last = left-n+addedTo(rows), no
		}
	}
	if left > 0 {
		anew, say := l.anew(w, left, window)
		if say != "" {
			return nil, say
		}
		for i := range anew {
			last++
			anew[i].no = last
		}
		out = append(out, anew...)
	}
	whole := slices.IndexFunc(out, func(b batchOf) bool { return b.no >= noun.AgainFrom })
	of := len(out)
	if whole >= 0 {
		of = len(slices.DeleteFunc(slices.Clone(out), func(b batchOf) bool { return b.no >= noun.AgainFrom }))
	}
	for i := range out {
		if out[i].no < noun.AgainFrom {
			out[i].of = of
		}
	}
	for i, n := range w.Piece.Extras {
		if l.kept[noun.BatchID(w.Piece.ID, noun.AgainFrom+i)] != nil {
			continue
		}
		again, say := l.anew(w, n, window)
		if say != "" {
			return nil, say
		}
		for k := range again {
			again[k].no = noun.AgainFrom + i + k*noun.AgainEach
		}
		out = append(out, again...)
	}
	shareOut(out, w.Wanted)
	return out, ""
}

// shareOut shares out what goes on the cake: as many as are wanted of what the batches have,
// by their size.
func shareOut(out []batchOf, wanted int) {
	all := 0
	for i := range out {
		all += out[i].pieces
	}
	for i := range out {
		if all == 0 {
			break
		}
		b := &out[i]
		b.placed = min(b.pieces, measure.Ceil(float64(wanted)*float64(b.pieces)/float64(all)))
		wanted, all = wanted-b.placed, all-b.pieces
	}
}

// runOf is how the pieces of a batch come to be; nil: it is not known.
func runOf(rows []noun.Step) *noun.Run {
	for i := range rows {
		if r := rows[i].Planned.Run; r != nil {
			return r
		}
	}
	return nil
}

// begunNos are the numbers of the batches of a piece that have begun.
func (l *liner) begunNos(piece int64) (out []int) {
	head := fmt.Sprintf("p%d.", piece)
	for batch := range l.kept {
		if no, ok := strings.CutPrefix(batch, head); ok {
			var n int
			if _, err := fmt.Sscan(no, &n); err == nil && n != noun.JoinNo {
				out = append(out, n)
			}
		}
	}
	slices.Sort(out)
	return out
}

// madeIn is how many pieces a batch makes by its rows.
func madeIn(rows []noun.Step) (n int) {
	for i := range rows {
		if r := rows[i].Run(); r != nil {
			n = max(n, r.Balls)
		}
		if k := rows[i].Planned.Kept; k != nil {
			n = max(n, k.Pieces)
		}
	}
	return n
}

// wholeOf is how many pieces of a batch can go on: those that came out and did not break,
// and what a press that runs will still give.
func wholeOf(rows []noun.Step, n int) int {
	for i := range rows {
		st := &rows[i]
		switch {
		case st.Run() == nil || st.ActualStart == nil:
		case st.ActualEnd == nil:
			return max(0, st.Run().Balls-st.Broken())
		case st.Made != nil:
			return max(0, st.Out()-st.Broken())
		}
	}
	return n
}

// addedTo is how many a press makes beyond those that were planned of it: they take none
// from the batches that are still to come. One that had stopped early adds none by that.
func addedTo(rows []noun.Step) (n int) {
	for i := range rows {
		if x, k := rows[i].Longer, rows[i].Planned.Kept; x != nil && k != nil {
			n = max(n, x.Balls-k.Pieces)
		}
	}
	return n
}

// anew are batches of n pieces that fit a stretch.
func (l *liner) anew(w *work.Reckoned, n, window int) ([]batchOf, string) {
	chain, say := l.chain(w, n, window)
	if say != "" {
		return nil, say
	}
	var out []batchOf
	for i := range chain.Batches {
		b := &chain.Batches[i]
		x := batchOf{pieces: b.Pieces, placed: placedOf(w, b.Pieces), links: l.finished(w, b.Pieces, l.links(w, b)), key: chain.Technique, version: chain.Version}
		out = append(out, x)
	}
	return out, ""
}

// placedOf is how many of the pieces of a batch go on: spares stay behind.
func placedOf(w *work.Reckoned, n int) int {
	return measure.Ceil(float64(n) * float64(w.Wanted) / float64(max(1, w.Batch.Make)))
}

// chain asks for the steps of n pieces; what does not fit a stretch before the
// hand-over may fit one before that.
func (l *liner) chain(w *work.Reckoned, n, window int) (*technique.ChainOut, string) {
	wanted := min(n, max(1, placedOf(w, n)))
	out, err := l.b.Library.Chain(l.b.Question(w, wanted, n, window))
	if err != nil && l.longest > window {
		if longer, err2 := l.b.Library.Chain(l.b.Question(w, wanted, n, l.longest)); err2 == nil {
			return &longer, ""
		}
	}
	if err != nil {
		return nil, l.b.ChainSays(w.Way, err)
	}
	if rack := l.there(w.Rack()); l.capacity(trayOf(rack)) == 0 && l.holder(w) == nil && onTrays(&out) {
		return nil, "there is no tray in " + l.b.Kitchen.RackName(rack) + " to dry it on."
	}
	return &out, ""
}

// onTrays tells whether the pieces lie on trays.
func onTrays(c *technique.ChainOut) bool {
	for i := range c.Batches {
		for j := range c.Batches[i].Ops {
			if slices.ContainsFunc(c.Batches[i].Ops[j].Uses, func(u bench.Use) bool { return u.Resource == "tray" }) {
				return true
			}
		}
	}
	return false
}

func (l *liner) begunBatch(w *work.Reckoned, rows []noun.Step, no, n, window int) (batchOf, string) {
	kept, whole := keptLinks(rows)
	b := batchOf{no: no, pieces: wholeOf(rows, n)}
	for i := range rows {
		if k := rows[i].Planned.Kept; k != nil {
			b.key, b.version = k.Technique, k.Version
		}
	}
	var fresh []link
	if n > 0 {
		chain, say := l.chain(w, n, window)
		switch {
		case chain != nil && len(chain.Batches) > 0:
			fresh = l.finished(w, chain.Batches[0].Pieces, l.links(w, &chain.Batches[0]))
			if b.key == "" {
				b.key, b.version = chain.Technique, chain.Version
			}
		case !whole:
			return b, say
		}
	}
	b.links = merged(kept, whole, fresh)
	return b, ""
}
