package plan

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/caution"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// laidOn is a lot that lay on the board, and when.
type laidOn struct {
	at    time.Time
	lot   noun.Lot
	order int64
}

// boardBack is how long what lay on a board is remembered when nobody said that it was
// washed.
const boardBack = 14 * 24 * time.Hour

// mostLaid is how many steps that took paste are looked at.
const mostLaid = 40

// board reads what lay on it since it was washed, the latest first.
func board(tx journal.Tx, k *noun.Kitchen, now time.Time) ([]laidOn, error) {
	since := now.Add(-boardBack)
	if k.WashedAt != nil && k.WashedAt.After(since) {
		since = *k.WashedAt
	}
	steps, err := tx.TakenSince(since, mostLaid)
	if err != nil {
		return nil, err
	}
	var ids []int64
	for _, st := range steps {
		for _, t := range st.Takes {
			if !slices.Contains(ids, t.Lot) {
				ids = append(ids, t.Lot)
			}
		}
	}
	if len(ids) == 0 {
		return nil, nil
	}
	lots, err := tx.LotsOf(ids)
	if err != nil {
		return nil, err
	}
	var out []laidOn
	for _, st := range steps {
		for _, t := range st.Takes {
			if i := slices.IndexFunc(lots, func(l noun.Lot) bool { return l.ID == t.Lot }); i >= 0 && st.ActualEnd != nil {
				out = append(out, laidOn{*st.ActualEnd, lots[i], st.CommissionID})
			}
		}
	}
	return out, nil
}

// stopped is the code of a piece that a stop keeps off the plan.
const stopped = "stop"

// offPlan says what a stop does to the pieces that bring it.
const offPlan = "It is not in the plan before that is settled. "

// stops finds what refuses an order and that the client does not know of yet, and why the
// pieces that bring it are kept off the plan, by piece. What has begun stays: it lies there,
// and the order may not go.
func (l *liner) stops(o *ordered, works []*work.Reckoned) map[int64]string {
	c := o.c
	refused := map[int64]string{}
	var all []*work.Reckoned
	for _, w := range works {
		if w.Wanted > 0 {
			all = append(all, w)
		}
		if len(c.Avoids()) == 0 {
			continue
		}
		label, err := l.b.Label(w)
		if err != nil {
			continue // it is said where the piece is
		}
		for _, x := range label.Conflicts {
			if x.Refused && !work.Knows(c, &x) && len(l.begunNos(w.Piece.ID)) == 0 {
				refused[w.Piece.ID] = fmt.Sprintf("it holds %s, by %s.", read.WordsOf([]string{x.Found})[0], work.BySays(x.Via))
			}
		}
	}
	for _, s := range l.b.Stops(c, all) { // what the labels say stands above
		if strings.Contains(s.Code, ":") || c.Leaves.ClearedOf(s.Code, s.Because) != nil {
			continue
		}
		x := noun.Trouble{Code: stopped, CommissionID: c.ID, Says: l.b.Reader.Say(s.Says), Remedy: l.b.Reader.Say(s.WayOn), Do: "Before it goes", To: pageOf(c.ID, "leaving")}
		var off []string
		for i, w := range all {
			if l.b.Brings(c, w, s.Code) && len(l.begunNos(w.Piece.ID)) == 0 {
				refused[w.Piece.ID] = s.Says
				off = append(off, work.NameAmong(all, i))
			}
		}
		if len(off) > 0 {
			x.Stops = true
			x.Says += fmt.Sprintf(" Off the plan until it is settled: %s.", read.List(off))
		}
		l.wrong = append(l.wrong, x)
	}
	return refused
}

// labels finds what of the labels meets the table of an order: what is in it, and what was
// never read.
func (l *liner) labels(o *ordered, works []*work.Reckoned) {
	c := o.c
	if len(c.Avoids()) == 0 {
		return
	}
	var unread []*noun.Lot
	for _, w := range works {
		label, err := l.b.Label(w)
		if err != nil {
			continue
		}
		for _, x := range label.Conflicts {
			if x.Refused && !work.Knows(c, &x) {
				remedy := "Take another for it, or have the client agree in writing."
				if len(l.begunNos(w.Piece.ID)) == 0 {
					remedy = offPlan + remedy
				}
				l.wrong = append(l.wrong, noun.Trouble{Code: "allergen", CommissionID: c.ID, PieceID: w.Piece.ID, Stops: true, Says: fmt.Sprintf("%s: %s, by %s.", w.Piece.Name, read.WordsOf([]string{x.Found})[0], work.BySays(x.Via)),
					Remedy: remedy, Do: "Its paste", To: pageOf(c.ID, "paste") + fmt.Sprintf("?piece=%d", w.Piece.ID)})
			}
		}
		for _, lot := range label.Unread {
			if !slices.Contains(unread, lot) {
				unread = append(unread, lot)
			}
		}
	}
	if len(unread) > 0 {
		names := unread[0].Name
		if n := len(unread) - 1; n > 0 {
			names += fmt.Sprintf(" and of %d more", n)
		}
		l.wrong = append(l.wrong, noun.Trouble{Code: "label", CommissionID: c.ID, Says: fmt.Sprintf("Nobody has read the label of %s, and this table avoids %s.", names, read.List(read.WordsOf(c.Avoids()))),
			Remedy: "Read it, tick what it names.", Do: "Read its label", To: fmt.Sprintf("pantry?lot=%d", unread[0].ID)})
	}
}

// boards keeps the colours of an order that avoids what the paste of another holds apart
// from all others: before them the board is washed, or they come first, or they have a
// board of their own, as the kitchen does it.
func (l *liner) boards(commissions []noun.Commission) {
	side := l.b.Kitchen.Sides["allergenBoard"]
	if side == "own" {
		return
	}
	if l.in.CleanDown.ToFree = l.b.Kitchen.ToFree; side == "first" {
		l.in.CleanDown.ToFree = noWashing
	}
	for i := range commissions {
		c := &commissions[i]
		var free []string
		for _, a := range c.Allergies {
			for _, word := range caution.Means(a) {
				for other, holds := range l.holds {
					if other != c.ID && slices.Contains(holds, word) && !slices.Contains(free, word) {
						free = append(free, word)
					}
				}
			}
		}
		if len(free) == 0 {
			continue
		}
		slices.Sort(free)
		id := fmt.Sprintf("c%d", c.ID)
		for j := range l.in.Batches {
			if b := &l.in.Batches[j]; b.Commission == id {
				b.Colour = l.freeOf(b.Colour, free)
				for k := range b.Ops {
					l.keepFree(&b.Ops[k], free)
				}
			}
		}
	}
}

// noWashing is longer than any stretch at the bench: what must be free comes first in one.
const noWashing = 1440

// keepFree has the paste of a step on a board that is free of something.
func (l *liner) keepFree(op *bench.Op, free []string) {
	if op.Colour != "none" {
		op.Colour = l.freeOf(op.Colour, free)
	}
	if st := l.steps[op.ID]; st != nil && op.Attended && op.Colour != "none" && st.ActualStart == nil && st.Planned.Draws {
		say := fmt.Sprintf("No %s on this table: board, pin and hands washed since any lay there, fresh bags and a fresh cloth.", read.List(read.WordsOf(free)))
		st.Cautions = append([]string{l.b.Reader.Say(say)}, st.Cautions...)
	}
}

// freeOf is a colour that is worked where something must not be.
func (l *liner) freeOf(id string, free []string) string {
	i := slices.IndexFunc(l.in.Colours, func(c bench.Colour) bool { return c.ID == id })
	if i < 0 {
		return id
	}
	name := id + " free of " + strings.Join(free, ", ")
	if !slices.ContainsFunc(l.in.Colours, func(c bench.Colour) bool { return c.ID == name }) {
		l.in.Colours = append(l.in.Colours, bench.Colour{ID: name, Lightness: l.in.Colours[i].Lightness, Free: free})
	}
	return name
}

// boardOf says what lay on the board that this table must not find.
func (l *liner) boardOf(o *ordered) {
	toCome := false
	for _, id := range o.order {
		for _, b := range o.made[id].batches {
			toCome = toCome || l.kept[noun.BatchID(id, b.no)] == nil
		}
	}
	if !toCome {
		return
	}
	for _, a := range o.c.Avoids() {
		for _, word := range caution.Means(a) {
			i := slices.IndexFunc(l.onBoard, func(x laidOn) bool { return x.order != o.c.ID && slices.Contains(x.lot.Label().Holds, word) })
			if i < 0 || !slices.Contains(caution.Allergens, word) {
				continue
			}
			x := l.onBoard[i]
			l.wrong = append(l.wrong, noun.Trouble{Code: "allergen", CommissionID: o.c.ID, Says: fmt.Sprintf("%s lay on the board, %s: it holds %s.", x.lot.Name, l.b.Reader.Time(x.at, l.b.Now), word),
				Remedy: "Wash board, pin and hands and take fresh bags before anything of this order is begun.", Do: "They are washed", Act: "washed"})
		}
	}
}
