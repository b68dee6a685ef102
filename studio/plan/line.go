package plan

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// liner builds the one planning task of a studio out of its pieces.
type liner struct {
	b       *work.Means
	in      bench.Instance
	steps   map[string]*noun.Step
	parts   map[string]partOf    // by step
	tonight map[string]time.Time // steps of this evening: when it ends
	begun   map[string]*noun.Run // of parts with a fact: what is pressed in them
	order   []string
	facts   map[string]noun.Step
	leftOut []noun.LeftOutLine
	colours map[string]bool
	windows []noun.Stretch
	longest int
	titles  map[string]func(what string) string // of steps, from what their pieces are called
	because string                              // what was done last
}

const planBeyond = 21 // days after the last hand-over in which a late plan may still find hours

// instance gathers the task. Facts are steps that have begun. An error is the
// context's.
func instance(ctx context.Context, b *work.Means, commissions []noun.Commission, pieces []noun.Piece, facts []noun.Step) (*liner, error) {
	l := &liner{b: b, titles: map[string]func(string) string{}, steps: map[string]*noun.Step{}, parts: map[string]partOf{}, tonight: map[string]time.Time{}, begun: map[string]*noun.Run{}, facts: map[string]noun.Step{}, colours: map[string]bool{}, leftOut: []noun.LeftOutLine{}}
	for _, f := range facts {
		if f.ActualStart != nil {
			l.facts[f.Op] = f
		}
	}
	for _, f := range facts {
		if f.Kind == "press" && f.Planned.Run != nil {
			batch := strings.TrimSuffix(f.Op, ".press")
			if _, kneaded := l.facts[batch+".knead"]; kneaded || f.ActualStart != nil {
				l.begun[batch] = f.Planned.Run
			}
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
			// what stands on this evening's sheet stays on it while there is time
			if !w.Start.After(now) && f.Attended && f.ActualStart == nil && f.Planned.Window == w.Id && w.End.Sub(now) >= f.PlannedEnd.Sub(f.PlannedStart) {
				l.tonight[f.Op] = w.End
			}
		}
	}
	if b.Kitchen.FreezerPlaces > 0 {
		l.in.Resources = append(l.in.Resources, bench.Resource{ID: "freezer", Kind: "freezer", Capacity: b.Kitchen.FreezerPlaces})
	}
	trays := 0
	for _, t := range b.Kitchen.Trays {
		trays += t.Count
	}
	if trays > 0 {
		l.in.Resources = append(l.in.Resources, bench.Resource{ID: "tray", Kind: "tray", Capacity: trays})
	}
	for i, f := range b.Kitchen.Formers {
		l.in.Resources = append(l.in.Resources, bench.Resource{ID: fmt.Sprintf("former%d", i+1), Kind: "former", Capacity: f.Count})
	}
	mine := map[int64][]*noun.Piece{}
	for i := range pieces {
		if p := &pieces[i]; p.DeletedAt == nil && p.Wanted > 0 {
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
	cid := fmt.Sprintf("c%d", c.ID)
	assembly := bench.Batch{ID: cid + ".assembly", Commission: cid, Piece: "assembly", FreshWeight: new(0.0)}
	ready := l.cakeReady(c)
	counts := map[float64]int{}
	var waits []bench.Lag
	var batches []bench.Batch
	putOn := cid + ".putOn"
	for _, p := range pieces {
		if err := ctx.Err(); err != nil {
			return err
		}
		w := l.b.Work(c, p)
		say := ""
		switch {
		case w.View.Missing != "":
			say = w.View.Missing
		case w.Batch.Make == 0:
			say = "Weigh one trial piece, or say what the cavity holds."
		case w.Strength == 0 && p.Dough == "":
			say = "Its paste is not settled: two demands clash."
		case w.Never != "":
			say = w.Never
		}
		if say != "" {
			if !strings.HasPrefix(say, p.Name) {
				say = p.Name + ": " + say
			}
			l.leftOut = append(l.leftOut, noun.LeftOutLine{CommissionID: c.ID, PieceID: p.ID, Say: say})
			continue
		}
		bs, ws, trouble := l.piece(c, w, ready, putOn)
		if trouble != "" {
			l.leftOut = append(l.leftOut, noun.LeftOutLine{CommissionID: c.ID, PieceID: p.ID, Say: p.Name + ": " + trouble})
			continue
		}
		batches = append(batches, bs...)
		waits = append(waits, ws...)
		if p.Joined != "cold" {
			counts[w.PieceG] += p.Wanted
		}
	}
	if len(batches) == 0 {
		return nil
	}
	minutes := 1
	if len(counts) > 0 {
		minutes = piece.PutOnMinutes(l.b.Kitchen.PutOnBase, l.b.Kitchen.PutOnSmall, l.b.Kitchen.PutOnLarge, counts)
	}
	l.in.Commissions = append(l.in.Commissions, bench.Commission{ID: cid, HandOver: c.HandOver.Truncate(time.Minute).Format(time.RFC3339), BufferMinutes: l.b.Kitchen.BufferMinutes})
	var lags []bench.Lag
	last := ""
	add := func(name, kind, say string, attended bool, m int, notBefore string) {
		op := bench.Op{ID: cid + "." + name, Kind: kind, Attended: attended, Minutes: &m, NotBefore: notBefore}
		title := func(what string) string { return say + ": " + what }
		if last != "" {
			lags = append(lags, bench.Lag{From: last, To: op.ID})
		}
		last = op.ID
		l.step(&op, c, nil, nil, title, &assembly)
	}
	// what is longer than a stretch at the bench is split like a press, never cut
	for n, m := range l.putOnParts(minutes) {
		name, say := "putOn", "Put the pieces on"
		if n > 0 {
			name, say = fmt.Sprintf("putOn%d", n+1), "Go on putting the pieces on"
		}
		add(name, "putOn", say, true, m, ready.Format(time.RFC3339))
	}
	add("settle", "settle", "Let everything take hold", false, l.b.Kitchen.SettleMinutes, "")
	add("pack", "pack", "Pack", true, l.b.Kitchen.PackMinutes, "")
	l.in.Batches = append(l.in.Batches, batches...)
	l.in.Batches = append(l.in.Batches, assembly)
	l.in.Lags = append(l.in.Lags, waits...)
	l.in.Lags = append(l.in.Lags, lags...)
	return nil
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
// stretch before the hand-over that holds the assembly.
func (l *liner) cakeReady(c *noun.Commission) time.Time {
	if c.CakeReady != nil {
		return c.CakeReady.Truncate(time.Minute)
	}
	ready := l.b.Now.Truncate(time.Minute)
	need := time.Duration(l.b.Kitchen.BufferMinutes+l.b.Kitchen.SettleMinutes+l.b.Kitchen.PackMinutes) * time.Minute
	for _, w := range l.windows {
		if w.Start.Add(need).Before(*c.HandOver) {
			ready = w.Start
		}
	}
	return ready
}

// piece makes the batches of one piece, one for each part that its rounds are
// split into.
func (l *liner) piece(c *noun.Commission, w *work.Worked, ready time.Time, putOn string) (out []bench.Batch, lags []bench.Lag, trouble string) {
	p, m, k := w.Piece, w.Mould, l.b.Kitchen
	knead := piece.KneadMinutes(w.Batch.PasteG, k.KneadFirst, k.KneadMore)
	rounds := w.CycleOf(w.Batch.Fills)
	before := knead // what must come before the press in the same stretch
	if w.Rest > 0 {
		before += w.Rest
	}
	// a part that has been begun stays as large as it is; the rest is made new parts
	var parts []numbered
	left, fills, last := w.Batch.Make, w.Batch.Fills, 0
	for no := 1; no < noun.AgainFrom; no++ {
		run, ok := l.begun[opBatch(p.ID, no)]
		if !ok {
			continue
		}
		r := rounds
		r.Pieces = run.Fills
		parts = append(parts, numbered{no, r, run.Balls})
		left, fills, last = left-run.Balls, fills-run.Fills, no
	}
	if fills > 0 && left > 0 {
		rest := rounds
		rest.Pieces = fills
		split, trouble := l.split(c, w, rest, before)
		if trouble != "" {
			return nil, nil, trouble
		}
		for _, r := range split {
			last++
			made := min(left, r.Pieces*m.Cavities)
			left -= made
			parts = append(parts, numbered{last, r, made})
		}
	}
	l.mould(m)
	l.colour(p.Swatch)
	for _, x := range parts {
		b, ls := l.part(c, w, x.no, len(parts), x.rounds, x.made, ready, putOn)
		out = append(out, b)
		lags = append(lags, ls...)
	}
	for i, n := range p.Extras {
		b, ls := l.part(c, w, noun.AgainFrom+i, 0, w.CycleOf((n+m.Cavities-1)/m.Cavities), n, ready, putOn)
		out = append(out, b)
		lags = append(lags, ls...)
	}
	return out, lags, ""
}

// hash of everything that the plan is made from, but the moment.
func (l *liner) hash() (string, error) {
	in := l.in
	in.Now = ""
	in.Windows = nil // they begin at now; the hours they come from count instead
	doc, err := json.Marshal([]any{in, l.b.Kitchen.Hours, l.b.Kitchen.Exceptions, l.b.Kitchen.TimeZone, l.b.Kitchen.Words, l.b.Kitchen.Units, l.leftOut, l.words()})
	sum := sha256.Sum256(doc)
	return hex.EncodeToString(sum[:]), err
}

// words of the steps, in their order, with their numbers and reasons.
func (l *liner) words() []any {
	var out []any
	for _, id := range l.order {
		s := l.steps[id]
		out = append(out, s.Title, s.Figures, s.Says, s.Cautions, s.Planned.Uses)
	}
	return out
}

func opBatch(piece int64, part int) string { return fmt.Sprintf("p%d.%d", piece, part) }

// OpID is the address of a step of a part of a piece: "p12.1.press".
func OpID(p *noun.Piece, part int, kind string) string { return opBatch(p.ID, part) + "." + kind }
