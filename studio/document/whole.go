package document

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// whole writes a studio down: rows numbered from 1, and what points to them.
type whole struct {
	tx      journal.Tx
	now     time.Time
	doc     Document
	toolNo  map[int64]int
	lotNo   map[int64]int64
	orderNo map[int64]int
	rackNo  map[int64]int64
	ops     map[string]string // names of steps: by our ids, by numbers
}

func wholeOf(tx journal.Tx, k *noun.Kitchen, now time.Time) (Document, error) {
	w := whole{tx: tx, now: now, toolNo: map[int64]int{}, lotNo: map[int64]int64{}, orderNo: map[int64]int{}, ops: map[string]string{"": ""}}
	w.doc = Document{Format: DocumentFormat, Kitchen: *k, Ways: []noun.OwnWay{}, Tools: []noun.Tool{}, Lots: []noun.Lot{}, Commissions: []CommissionDoc{}, Timers: []noun.Timer{}, Journal: []EntryDoc{}}
	noun.Utc(&w.doc.Kitchen.WashedAt)
	w.doc.Kitchen.Busy = slices.Clone(k.Busy)
	for i := range w.doc.Kitchen.Busy {
		b := &w.doc.Kitchen.Busy[i]
		b.Start, b.End = b.Start.UTC(), b.End.UTC()
	}
	w.doc.Kitchen.ID, w.doc.Kitchen.Version, w.doc.Kitchen.Slug = 0, 0, "" // the address is the importer's affair
	for _, part := range []func() error{w.racks, w.ways, w.tools, w.lots, w.commissions, w.notes, w.timers, w.entries} {
		if err := part(); err != nil {
			return w.doc, err
		}
	}
	return w.doc, nil
}

func (w *whole) ways() error {
	ways, err := w.tx.OwnWays()
	for _, x := range ways {
		x.ID, x.Version = 0, 0
		w.doc.Ways = append(w.doc.Ways, x)
	}
	return err
}

func (w *whole) tools() error {
	ts, err := w.tx.Tools()
	for _, t := range ts {
		w.toolNo[t.ID] = len(w.doc.Tools) + 1
		t.Weighings = slices.Clone(t.Weighings)
		for i := range t.Weighings {
			t.Weighings[i].At = t.Weighings[i].At.UTC()
		}
		t.ID, t.Version = 0, 0
		if t.Photo != nil {
			jpeg, err := w.tx.Photo(*t.Photo)
			if err != nil {
				return err
			}
			w.doc.Photos = append(w.doc.Photos, jpeg)
			t.Photo = new(int64(len(w.doc.Photos)))
		}
		w.doc.Tools = append(w.doc.Tools, t)
	}
	return err
}

func (w *whole) lots() error {
	ls, err := w.tx.Lots()
	for _, l := range ls {
		w.lotNo[l.ID] = int64(len(w.doc.Lots) + 1)
		w.doc.Lots = append(w.doc.Lots, noun.LotDocument(l))
	}
	return err
}

func (w *whole) commissions() error {
	cs, err1 := w.tx.AllCommissions()
	all, err2 := w.tx.AllSteps()
	ids := make([]int64, len(cs))
	for i, c := range cs {
		ids[i] = c.ID
	}
	pieces, err3 := w.tx.PiecesOf(ids)
	piecesOf, stepsOf := map[int64][]noun.Piece{}, map[int64][]noun.Step{}
	for _, p := range pieces {
		piecesOf[p.CommissionID] = append(piecesOf[p.CommissionID], p)
	}
	for _, st := range all {
		stepsOf[st.CommissionID] = append(stepsOf[st.CommissionID], st)
	}
	for _, c := range cs {
		if c.DeletedAt == nil {
			w.commission(c, piecesOf[c.ID], stepsOf[c.ID])
		}
	}
	return errors.Join(err1, err2, err3)
}

func (w *whole) commission(c noun.Commission, pieces []noun.Piece, steps []noun.Step) {
	no := len(w.doc.Commissions) + 1
	w.orderNo[c.ID] = no
	x := CommissionDoc{Commission: c, Pieces: []PieceDoc{}, Steps: []StepDoc{}}
	x.ID, x.Version = 0, 0
	noun.Utc(&x.HandOver, &x.CakeReady)
	x.Leaves = leavesUTC(x.Leaves)
	pieceNo := map[int64]int{}
	opNo := map[string]string{fmt.Sprintf("c%d", c.ID): fmt.Sprintf("c%d", no)}
	for _, p := range pieces {
		if p.DeletedAt != nil {
			continue
		}
		pieceNo[p.ID] = len(x.Pieces) + 1
		opNo[fmt.Sprintf("p%d", p.ID)] = fmt.Sprintf("p%d-%d", no, len(x.Pieces)+1)
		x.Pieces = append(x.Pieces, w.piece(p, len(x.Pieces)+1))
	}
	for i := range x.Pieces {
		was := x.Pieces[i].Joins
		x.Pieces[i].Joins = []noun.Join{}
		for _, j := range was {
			if no, ok := pieceNo[j.Part]; ok {
				j.Part = int64(no)
				x.Pieces[i].Joins = append(x.Pieces[i].Joins, j)
			}
		}
	}
	x.Steps = w.steps(steps, pieceNo, opNo)
	w.doc.Commissions = append(w.doc.Commissions, x)
}

// piece is one with the numbers of its tools and gels, at its place.
func (w *whole) piece(p noun.Piece, position int) PieceDoc {
	y := PieceDoc{Piece: p}
	y.ID, y.Version, y.CommissionID, y.ToolID, y.Position = 0, 0, 0, nil, position
	if p.ToolID != nil {
		y.Tool = w.toolNo[*p.ToolID]
	}
	if y.Rack = nil; p.Rack != nil && w.rackNo[*p.Rack] > 0 {
		y.Rack = new(w.rackNo[*p.Rack])
	}
	y.Tools = noun.ToolsOf{}
	for role, id := range p.Tools {
		if no, ok := w.toolNo[id]; ok {
			y.Tools[role] = int64(no)
		}
	}
	y.GelLots = []int64{}
	for _, id := range p.GelLots {
		if no, ok := w.lotNo[id]; ok {
			y.GelLots = append(y.GelLots, no)
		}
	}
	y.Finish = w.finish(p.Finish)
	return y
}

// unplanned is a step that is still to come, without its place in the plan: where the
// document goes, it is planned anew. Its length is kept, from when its batch began.
func unplanned(st noun.Step, mine []noun.Step, i int) noun.Step {
	length := st.PlannedEnd.Sub(st.PlannedStart)
	first := st.PlannedStart
	for _, o := range mine {
		if noun.BatchOf(o.Op) == noun.BatchOf(mine[i].Op) && o.ActualStart != nil && o.ActualStart.Before(first) {
			first = o.ActualStart.Truncate(time.Minute)
		}
	}
	st.PlannedStart, st.PlannedEnd = first, first.Add(length)
	st.Pinned = nil
	y := &st.Planned
	y.Window, y.Hands, y.CleanDown, y.Latest, y.SlackMin, y.NotLater, y.NotEarlier, y.Decides = "", []int{}, 0, "", 0, "", "", false
	return st
}

// steps are those of the batches that have begun, named by numbers.
func (w *whole) steps(mine []noun.Step, pieceNo map[int64]int, opNo map[string]string) []StepDoc {
	rename := func(op string) string {
		head, rest, _ := strings.Cut(op, ".")
		if to, ok := opNo[head]; ok {
			w.ops[op] = to + "." + rest
		}
		return w.ops[op]
	}
	begun := map[string]bool{}
	for _, st := range mine {
		if st.ActualStart != nil && st.PieceID != nil {
			begun[noun.BatchOf(st.Op)] = true
		}
	}
	out := []StepDoc{}
	for i, st := range work.Derived(mine, &w.doc.Kitchen, w.now) {
		if st.ActualStart == nil && !begun[noun.BatchOf(st.Op)] {
			continue
		}
		open := st.ActualStart == nil
		st = mine[i] // what follows from facts is derived again where it is read
		if open {
			st = unplanned(st, mine, i)
		}
		op := rename(st.Op)
		if op == "" {
			continue // of a piece that is gone
		}
		y := StepDoc{Step: st}
		if st.PieceID != nil {
			y.Piece = pieceNo[*st.PieceID]
		}
		y.Op, y.Planned.After = op, rename(st.Planned.After)
		y.Version, y.CommissionID, y.PieceID = 0, 0, nil
		y.Planned.Uses = nil // planned anew
		y.Takes = []noun.Taken{}
		for _, t := range st.Takes {
			if no, ok := w.lotNo[t.Lot]; ok { // what came out of a lot that is gone stays gone
				y.Takes = append(y.Takes, noun.Taken{Lot: no, Name: t.Name, G: t.G})
			}
		}
		y.PlannedStart, y.PlannedEnd = y.PlannedStart.UTC(), y.PlannedEnd.UTC()
		noun.Utc(&y.ActualStart, &y.ActualEnd)
		y.Tended, y.Planned.Body = w.tended(st.Tended), w.body(st.Planned.Body)
		y.Away = slices.Clone(st.Away)
		for i := range y.Away {
			y.Away[i].From = y.Away[i].From.UTC()
			noun.Utc(&y.Away[i].Until)
		}
		out = append(out, y)
	}
	slices.SortStableFunc(out, func(a, b StepDoc) int {
		return cmp.Or(a.PlannedStart.Compare(b.PlannedStart), cmp.Compare(a.Op, b.Op))
	})
	return out
}

// timers are those that run and the answers of clocks, or every clock that was
// heard would ring again.
func (w *whole) timers() error {
	timers, err1 := w.tx.Timers()
	answers, err2 := w.tx.Answers()
	slices.SortStableFunc(answers, func(a, b noun.Timer) int { return cmp.Or(a.RingsAt.Compare(b.RingsAt), cmp.Compare(a.ID, b.ID)) })
	for _, t := range slices.Concat(timers, answers) {
		op, ok := w.ops[t.Op]
		if !ok {
			continue // of a piece that is gone
		}
		t.ID, t.Version, t.Op = 0, 0, op
		t.StartsAt, t.RingsAt = t.StartsAt.UTC(), t.RingsAt.UTC()
		noun.Utc(&t.AnsweredAt)
		if t.CommissionID != nil {
			no, ok := w.orderNo[*t.CommissionID]
			if !ok {
				continue
			}
			t.CommissionID = new(int64(no))
		}
		w.doc.Timers = append(w.doc.Timers, t)
	}
	return errors.Join(err1, err2)
}

func (w *whole) entries() error {
	es, err := w.tx.Entries(0, 0, mostOf.journal)
	for _, e := range slices.Backward(es) {
		x := EntryDoc{At: e.At.UTC(), Who: e.Who, Says: e.Says, Kind: e.Kind, Bench: e.Bench, Undone: e.Undone}
		if e.CommissionID != nil {
			x.Commission = w.orderNo[*e.CommissionID]
		}
		w.doc.Journal = append(w.doc.Journal, x)
	}
	return err
}
