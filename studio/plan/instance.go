package plan

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// liner builds the one planning task of a studio out of its pieces.
type liner struct {
	b       *work.Means
	in      bench.Instance
	steps   map[string]*noun.Step
	parts   map[string]partOf      // by step
	atBench bool                   // planned work stands in a stretch that has begun
	kept    map[string][]noun.Step // the rows of batches that have begun
	onCake  map[string]bool        // steps in which pieces go on
	order   []string
	facts   map[string]noun.Step
	leftOut []noun.LeftOutLine
	colours map[string]bool
	windows []noun.Stretch
	longest int
	titles  map[string]func(what string) string // of steps, from what their pieces are called
	because string                              // what was done last
	back    []noun.Place                        // where steps stood before what is taken back
	wrong   []noun.Trouble                      // of labels
	onBoard []laidOn
	draws   map[string]drawn     // steps that take paste out of the pantry
	holds   map[int64][]string   // allergens that pastes of an order hold, by order
	pins    map[string]time.Time // of steps to come, by their names
	were    map[string]int       // how long dryings to come were planned with, minutes
	loose   []noun.Trouble       // of pins that could not be kept
}

const planBeyond = 21 // days after the last hand-over in which a late plan may still find hours

// instance gathers the task. Facts are steps that have begun. An error is the
// context's.
func instance(ctx context.Context, b *work.Means, commissions []noun.Commission, pieces []noun.Piece, facts []noun.Step, onBoard []laidOn) (*liner, error) {
	l := &liner{b: b, onBoard: onBoard, draws: map[string]drawn{}, titles: map[string]func(string) string{}, pins: map[string]time.Time{}, were: map[string]int{}, holds: map[int64][]string{}, steps: map[string]*noun.Step{}, parts: map[string]partOf{}, kept: map[string][]noun.Step{}, onCake: map[string]bool{}, facts: map[string]noun.Step{}, colours: map[string]bool{}, leftOut: []noun.LeftOutLine{}}
	for _, f := range facts {
		if f.ActualStart != nil {
			l.facts[f.Op] = f
		} else if f.Pinned != nil {
			l.pins[f.Op] = f.Pinned.Truncate(time.Minute)
		}
		if f.ActualStart == nil && f.Planned.Body != nil && b.Kitchen.Varies(f.Planned.Body.Rack, b.Now) {
			l.were[f.Op] = int(f.PlannedEnd.Sub(f.PlannedStart) / time.Minute)
		}
	}
	for _, f := range facts {
		if f.ActualStart != nil && f.Attended && f.PieceID != nil {
			l.kept[noun.BatchOf(f.Op)] = []noun.Step{}
		}
	}
	for _, f := range facts {
		if rows, begun := l.kept[noun.BatchOf(f.Op)]; begun {
			l.kept[noun.BatchOf(f.Op)] = append(rows, f)
		}
	}
	now := b.Now.Truncate(time.Minute)
	last := now
	for _, c := range commissions {
		if c.HandOver != nil && c.HandOver.After(last) {
			last = *c.HandOver
		}
	}
	conf := b.Kitchen.Confidence
	l.in = bench.Instance{Format: bench.InstanceFormat, Name: b.Kitchen.Slug, Now: now.Format(time.RFC3339), Confidence: &conf,
		CleanDown: bench.CleanDown{ToDarker: b.Kitchen.ToDarker, ToLighter: b.Kitchen.ToLighter, ToWhite: b.Kitchen.ToWhite, WhiteFrom: b.Kitchen.WhiteFrom}}
	l.open(now, last.AddDate(0, 0, planBeyond))
	for _, w := range b.Kitchen.OpenHours(now.AddDate(0, 0, -1), last.AddDate(0, 0, planBeyond)) {
		// the longest whole stretch, not what is left of tonight's
		l.longest = max(l.longest, int(w.End.Sub(w.Start)/time.Minute))
	}
	for _, w := range l.windows {
		for _, f := range facts {
			l.atBench = l.atBench || !w.Start.After(now) && f.Attended && f.ActualStart == nil && f.Planned.Window == w.Id
		}
	}
	if b.Kitchen.FreezerPlaces > 0 {
		l.in.Resources = append(l.in.Resources, bench.Resource{ID: "freezer", Kind: "freezer", Capacity: b.Kitchen.FreezerPlaces})
	}
	l.trays(0, b.Kitchen.Trays)
	for _, r := range b.Kitchen.Around.Racks {
		l.trays(r.ID, r.Trays)
	}
	mine := map[int64][]*noun.Piece{}
	for i := range pieces {
		if p := &pieces[i]; p.DeletedAt == nil && (p.Wanted > 0 || b.Needed[p.ID] > 0) {
			mine[p.CommissionID] = append(mine[p.CommissionID], p)
		}
	}
	for i := range commissions {
		c := &commissions[i]
		if c.State != "open" || c.HandOver == nil || c.DeletedAt != nil {
			continue
		}
		if err := l.commission(ctx, c, mine[c.ID]); err != nil {
			return nil, err
		}
	}
	l.boards(commissions)
	l.makeRoom(now, last)
	return l, nil
}

// open offers the planner the hours from one instant to another.
func (l *liner) open(from, to time.Time) {
	l.windows = l.b.Kitchen.OpenHours(from, to)
	l.in.Windows = nil
	for _, w := range l.windows {
		people := w.People
		l.in.Windows = append(l.in.Windows, bench.Window{ID: w.Id, Day: w.Day, Start: w.Start.Format(time.RFC3339), End: w.End.Format(time.RFC3339), Preferred: w.Preferred, People: &people})
	}
}

// makeRoom offers more weeks where the hours do not hold all the hands' work: a
// plan that is late is still a plan.
func (l *liner) makeRoom(now, last time.Time) {
	work, hours := 0, 0
	for _, b := range l.in.Batches {
		for _, o := range b.Ops {
			switch {
			case o.Cycle != nil:
				m, _ := o.Cycle.Length()
				work += m
			case o.Attended && o.Minutes != nil:
				work += *o.Minutes
			}
		}
	}
	for days := planBeyond; ; days += planBeyond {
		hours = 0
		for _, w := range l.windows {
			hours += int(w.End.Sub(w.Start) / time.Minute)
		}
		if float64(hours) >= roomWanted*float64(work) || days > planLatest {
			return
		}
		l.open(now, last.AddDate(0, 0, days+planBeyond))
	}
}

const (
	roomWanted = 1.5 // hours for each hour of hands: not every stretch can be filled
	planLatest = 400 // days after the last hand-over
)

func (l *liner) commission(ctx context.Context, c *noun.Commission, pieces []*noun.Piece) error {
	o := &ordered{c: c, id: fmt.Sprintf("c%d", c.ID), made: map[int64]*madePiece{}}
	o.assembly = bench.Batch{ID: o.id + ".assembly", Commission: o.id, Piece: "assembly", FreshWeight: new(0.0)}
	works := make([]*work.Reckoned, len(pieces))
	for i, p := range pieces {
		if err := ctx.Err(); err != nil {
			return err
		}
		works[i] = l.b.Reckon(c, p)
	}
	refused := l.stops(o, works)
	for i, p := range pieces {
		if err := ctx.Err(); err != nil {
			return err
		}
		w := works[i]
		why := noun.LeftOutLine{Stage: "pieces"}
		switch {
		case refused[p.ID] != "":
			why.Say, why.Stage, why.Code = refused[p.ID], "leaving", stopped
		case w.View.Missing != "":
			why.Say = w.View.Missing
		case w.Batch.Make == 0:
			why.Say, why.Stage = "Weigh one trial piece, or say what the cavity holds.", "make"
		case w.Strength == 0 && p.Dough == "":
			why.Say, why.Stage = "Its paste is not settled: two demands clash.", "paste"
		case l.stuck(p.ID) != nil:
			why.Say, why.Stage, why.Code = NeverSays(l.stuck(p.ID), l.b.Kitchen, l.b.Now), "dry", "never"
		case w.Never != "" && !l.laidOut(w):
			why.Say, why.Stage, why.Code = w.Never, "dry", "never"
			if d := w.View.Dry; d != nil && len(d.Help) > 0 {
				why.Help = d.Help[0]
			}
		}
		var bs []batchOf
		if why.Say == "" {
			bs, why.Say = l.piece(c, w)
			why.Stage = "make"
		}
		if why.Say != "" {
			l.miss(c, p, why)
			continue
		}
		for _, m := range w.Mixing(1) {
			if m.Lot != nil {
				l.holds[c.ID] = append(l.holds[c.ID], m.Lot.Label().Holds...)
			}
		}
		o.made[p.ID] = &madePiece{w: w, batches: bs}
		o.order = append(o.order, p.ID)
	}
	l.labels(o, slices.DeleteFunc(works, func(w *work.Reckoned) bool { return o.made[w.Piece.ID] == nil && refused[w.Piece.ID] == "" }))
	l.boardOf(o)
	l.dropWholes(o, pieces)
	if len(o.order) == 0 {
		return nil
	}
	o.ready = l.cakeReady(c, o.atTheCake())
	l.in.Commissions = append(l.in.Commissions, bench.Commission{ID: o.id, HandOver: c.HandOver.Truncate(time.Minute).Format(time.RFC3339), BufferMinutes: l.b.Kitchen.BufferMinutes})
	for _, id := range o.order {
		l.batches(o, o.made[id])
	}
	for _, id := range o.order {
		l.joins(o, o.made[id])
	}
	l.close(o)
	return nil
}

// stuck is a wait of a piece that runs and does not end in this room; nil: none.
func (l *liner) stuck(piece int64) *noun.Step {
	for _, no := range l.begunNos(piece) {
		for i, st := range l.kept[noun.BatchID(piece, no)] {
			if st.Never {
				return &l.kept[noun.BatchID(piece, no)][i]
			}
		}
	}
	return nil
}

// laidOut tells whether every piece of a kind lies there drying already: what the room
// does to those that are to come no longer matters.
func (l *liner) laidOut(w *work.Reckoned) bool {
	n := 0
	for _, no := range l.begunNos(w.Piece.ID) {
		rows := l.kept[noun.BatchID(w.Piece.ID, no)]
		if !slices.ContainsFunc(rows, func(st noun.Step) bool { return st.Dries() && st.ActualStart != nil }) {
			return false
		}
		n += madeIn(rows)
	}
	return n > 0 && n >= w.Batch.Make
}

// ordered is one commission while its task is gathered.
type ordered struct {
	c        *noun.Commission
	id       string
	ready    time.Time
	assembly bench.Batch
	made     map[int64]*madePiece
	order    []int64
	batches  []bench.Batch
	lags     []bench.Lag
	ends     []string // steps after which nothing more is done to what is on the cake
}

// madePiece is a piece with its batches.
type madePiece struct {
	w       *work.Reckoned
	batches []batchOf
	ready   []string // steps after which its pieces can go on to something
	goesOn  []string // steps in which they go on the cake
}

// atTheCake is how long hands are busy at the cake before it settles, minutes.
func (o *ordered) atTheCake() (minutes int) {
	for _, m := range o.made {
		if m.w.Piece.Wanted == 0 {
			continue
		}
		for i := range m.batches {
			for j := range m.batches[i].links {
				if op := &m.batches[i].links[j].op; op.Assembly || op.CakeReady {
					minutes += op.Length()
				}
			}
		}
	}
	return minutes
}

// miss leaves a piece out of the plan, and says why.
func (l *liner) miss(c *noun.Commission, p *noun.Piece, why noun.LeftOutLine) {
	if !strings.HasPrefix(why.Say, p.Name) {
		why.Say = p.Name + ": " + why.Say
	}
	why.CommissionID, why.PieceID, why.Piece = c.ID, p.ID, p.Name
	l.leftOut = append(l.leftOut, why)
}

// dropWholes leaves out what is made of a part that cannot be made.
func (l *liner) dropWholes(o *ordered, pieces []*noun.Piece) {
	for again := true; again; {
		again = false
		for _, p := range pieces {
			if o.made[p.ID] == nil {
				continue
			}
			for _, j := range p.Joins {
				i := slices.IndexFunc(pieces, func(x *noun.Piece) bool { return x.ID == j.Part })
				if i < 0 || o.made[j.Part] != nil {
					continue
				}
				l.miss(o.c, p, noun.LeftOutLine{Say: fmt.Sprintf("its part %s cannot be made yet.", pieces[i].Name), Stage: "pieces"})
				delete(o.made, p.ID)
				o.order = slices.DeleteFunc(o.order, func(id int64) bool { return id == p.ID })
				again = true
				break
			}
		}
	}
}

// close ends a commission: what is on the cake takes hold, and it is packed.
func (l *liner) close(o *ordered) {
	add := func(name, say string, attended bool, m int, words noun.Planned) string {
		op := bench.Op{ID: o.id + "." + name, Kind: name, Attended: attended, Minutes: &m}
		l.plain(o.c, nil, &op, func(what string) string { return say + ": " + what }, words)
		o.assembly.Ops = append(o.assembly.Ops, op)
		return op.ID
	}
	settle := add("settle", "Let everything take hold", false, l.b.Kitchen.SettleMinutes, noun.Planned{Clock: "rest", Rings: "It has taken hold", Cord: "rest"})
	pack := add("pack", "Pack", true, l.b.Kitchen.PackMinutes, noun.Planned{Done: "Packed", LayOut: []string{"box, non-slip mat, the note for what is not eaten"}})
	seen := map[string]bool{}
	for _, op := range o.ends {
		if !seen[op] {
			seen[op] = true
			o.lags = append(o.lags, bench.Lag{From: op, To: settle})
		}
	}
	o.lags = append(o.lags, bench.Lag{From: settle, To: pack})
	l.in.Batches = append(l.in.Batches, o.batches...)
	l.in.Batches = append(l.in.Batches, o.assembly)
	l.in.Lags = append(l.in.Lags, o.lags...)
}

// putOnParts splits minutes into parts of about one length, each within the
// longest stretch at the bench.
func (l *liner) putOnParts(minutes int) (parts []int) {
	most := max(1, l.longest)
	n := (minutes + most - 1) / most
	for i := range n {
		parts = append(parts, (minutes+i)/n)
	}
	return parts
}

// cakeReady is when pieces may go on: as said, else the start of the last
// stretch before the hand-over from which the hours still hold the assembly without
// being crammed, beside what else is done in them.
func (l *liner) cakeReady(c *noun.Commission, atTheCake int) time.Time {
	if c.CakeReady != nil {
		return c.CakeReady.Truncate(time.Minute)
	}
	ready := l.b.Now.Truncate(time.Minute)
	need := time.Duration(l.b.Kitchen.BufferMinutes+l.b.Kitchen.SettleMinutes+l.b.Kitchen.PackMinutes+atTheCake) * time.Minute
	end := c.HandOver.Add(-time.Duration(l.b.Kitchen.BufferMinutes) * time.Minute)
	open := time.Duration(0)
	for _, w := range slices.Backward(l.windows) {
		if !w.Start.Before(end) {
			continue
		}
		until := w.End
		if until.After(end) {
			until = end
		}
		open += until.Sub(w.Start)
		if w.Start.Add(need).Before(*c.HandOver) && loadShare*open.Minutes() >= float64(atTheCake+l.b.Kitchen.PackMinutes) {
			return w.Start
		}
	}
	return ready
}
