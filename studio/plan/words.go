package plan

import (
	"math"
	"slices"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

// supportSays is what a piece dries on, in words.
var supportSays = map[string]string{"board": "a board", "foam": "foam", "cup": "cups", "dowel": "a dowel", "hook": "hooks", "rack": "a rack"}

// partOf is the batch of a step among those of its piece.
type partOf struct{ part, of int }

// batches puts the batches of a piece into the task.
func (l *liner) batches(o *ordered, m *madePiece) {
	w := m.w
	l.colour(w.Piece.Swatch)
	alone := w.Piece.Wanted > 0 // else it goes on the cake only as a part of something
	for i := range m.batches {
		b := &m.batches[i]
		l.batch(o, m, b, alone)
	}
	if !alone {
		m.goesOn = nil
	}
}

// batch puts one batch into the task: its own steps into a batch of its own, what is
// done at the cake into the assembly.
func (l *liner) batch(o *ordered, m *madePiece, x *batchOf, alone bool) {
	w, id := m.w, noun.BatchID(m.w.Piece.ID, x.no)
	b := bench.Batch{ID: id, Commission: o.id, Piece: w.Piece.Name, Pieces: x.pieces, Colour: w.Piece.Swatch}
	if soft(x) {
		b.FreshWeight = new(1.0)
		if w.Piece.Eaten != "shown" {
			b.FreshMinutes = new(int(math.Round(l.b.Kitchen.FreshDays * 1440)))
		}
	}
	there := func(y *link) bool { return alone || !y.op.Assembly }
	own := func(y *link) bool { return !y.op.Assembly }
	makes := makingLink(w, x)
	draws := slices.IndexFunc(x.links, func(y link) bool { return y.op.Attended && !y.op.NoPaste && !y.op.Assembly })
	for i := range x.links {
		y := &x.links[i]
		if !there(y) {
			continue
		}
		op := l.op(o, w, x, y, id)
		l.shaped(o.c, &op, &stepIn{w: w, x: x, link: y, makes: i == makes, draws: i == draws, at: i})
		if y.op.Assembly {
			l.onCake[op.ID] = true
			op.Colour = ""
			o.assembly.Ops = append(o.assembly.Ops, op)
		} else {
			b.Ops = append(b.Ops, op)
		}
	}
	l.tie(o, w, x, id, there)
	for _, op := range last(x.links, own) {
		m.ready = append(m.ready, id+"."+op)
	}
	for _, op := range last(x.links, there) {
		o.ends = append(o.ends, id+"."+op)
		m.goesOn = append(m.goesOn, id+"."+op)
	}
	for _, op := range b.Ops { // what has begun is as fresh as it is
		if op.Actual != nil {
			b.FreshMinutes = nil
		}
	}
	o.batches = append(o.batches, b)
}

// op is a step of a batch as the planner takes it.
func (l *liner) op(o *ordered, w *work.Reckoned, x *batchOf, y *link, batch string) bench.Op {
	op := bench.Op{ID: batch + "." + y.op.Op, Kind: y.op.Kind, Attended: y.op.Attended, Minutes: y.op.Minutes, Cycle: y.op.Cycle, Dry: y.op.Dry}
	if was := l.were[op.ID]; op.Dry != nil && y.kept == nil && was > 0 {
		op.Dry = nearly(*op.Dry, was, l.b.Kitchen.Confidence)
	}
	if y.op.People > 1 {
		op.People = new(y.op.People)
	}
	if y.op.Attention > 0 && op.Cycle == nil && y.op.Attention < 100 {
		op.Attention = new(y.op.Attention)
	}
	for _, u := range y.op.Uses {
		if u, limited := l.use(w, x, u); limited && !slices.ContainsFunc(op.Uses, func(v bench.Use) bool { return v.Resource == u.Resource }) {
			op.Uses = append(op.Uses, u)
		}
	}
	if y.op.CakeReady {
		op.NotBefore = o.ready.Format(time.RFC3339)
	}
	if y.op.NoPaste && !y.op.Assembly {
		op.Colour = "none"
	}
	return op
}

// tie says which of the steps of a batch that are there follow one another, and what is held from
// one to another.
func (l *liner) tie(o *ordered, w *work.Reckoned, x *batchOf, id string, there func(*link) bool) {
	for i := range x.links {
		y := &x.links[i]
		for _, g := range y.after {
			from := slices.IndexFunc(x.links, func(z link) bool { return z.op.Op == g.From })
			if !there(y) || from < 0 || !there(&x.links[from]) {
				continue
			}
			g.From, g.To = id+"."+g.From, id+"."+g.To
			o.lags = append(o.lags, g)
		}
		for _, h := range y.holds {
			if u, limited := l.use(w, x, bench.Use{Resource: h.Resource, Count: h.Count}); limited && there(y) {
				l.in.Holds = append(l.in.Holds, bench.Hold{Resource: u.Resource, Count: u.Count, From: id + "." + h.From, To: id + "." + h.To})
			}
		}
	}
}

// soft tells of a batch that goes on before it is dry: it does not dry at all, or what
// comes after its drying must not wait long. Dried pieces may stand for weeks.
func soft(x *batchOf) bool {
	dries := map[string]bool{}
	for i := range x.links {
		if x.links[i].op.Dry != nil {
			dries[x.links[i].op.Op] = true
		}
	}
	return len(dries) == 0 || slices.ContainsFunc(x.links, func(y link) bool {
		return slices.ContainsFunc(y.after, func(g bench.Lag) bool { return dries[g.From] && g.Max != nil })
	})
}

// makingLink is the step of a batch in which its pieces come to be.
func makingLink(w *work.Reckoned, x *batchOf) int {
	for i := range x.links {
		if k := x.links[i].kept; k != nil && k.Makes() {
			return i
		}
	}
	b := technique.Batch{Pieces: x.pieces}
	for i := range x.links {
		b.Ops = append(b.Ops, x.links[i].op)
	}
	return work.Makes(w.Way, &b)
}

func (l *liner) says(texts ...string) []string {
	out := []string{}
	for _, t := range texts {
		out = append(out, l.b.Reader.Say(t))
	}
	return out
}

// plain puts a step that no way of making knows into the task: of the assembly, or
// of a join.
func (l *liner) plain(c *noun.Commission, p *noun.Piece, op *bench.Op, title func(what string) string, words noun.Planned) *noun.Step {
	s := l.blank(c, op)
	s.Planned = words
	s.Planned.Swatch, s.Planned.Name = "#C9D8CC", c.Title
	if p != nil {
		s.PieceID = &p.ID
		s.Planned.Name, s.Planned.Colour, s.Planned.Swatch = p.Name, p.Colour, p.Swatch
		l.parts[op.ID] = partOf{1, 1}
	}
	for i := range s.Planned.LayOut {
		s.Planned.LayOut[i] = l.b.Reader.Say(s.Planned.LayOut[i])
	}
	if op.Kind == "settle" {
		s.Says, s.Checks = l.says("Let everything take hold. Nothing is moved."), l.says("no part slides")
	}
	if op.Kind == "pack" {
		s.Says, s.Checks = l.says("Brush off, count what is not eaten, photograph.", "Cool, dry and flat on the way; props out before serving."), l.says("inedible parts counted")
	}
	l.keep(s, op, title)
	return s
}

func (l *liner) blank(c *noun.Commission, op *bench.Op) *noun.Step {
	return &noun.Step{CommissionID: c.ID, Op: op.ID, Kind: op.Kind, Attended: op.Attended, Says: []string{}, Checks: []string{}, Cautions: []string{}, Ways: []noun.Way{}, Figures: []noun.Figure{}, Fills: []noun.Fill{}, Breaks: []noun.Break{}, Takes: []noun.Taken{}}
}

// keep files a step under its name. One that has begun is a fact.
func (l *liner) keep(s *noun.Step, op *bench.Op, title func(what string) string) {
	l.titles[op.ID] = title
	s.Title = title(s.Planned.What())
	if f, ok := l.facts[op.ID]; ok {
		at := func(t time.Time) string { // a clock that was set back makes no fact one to come
			if t.After(l.b.Now) {
				t = l.b.Now
			}
			return t.Truncate(time.Minute).Format(time.RFC3339)
		}
		op.Actual = &bench.Actual{Start: at(*f.ActualStart)}
		switch {
		case f.ActualEnd == nil && !f.Attended && !f.PlannedEnd.After(l.b.Now): // a wait ends by itself
			op.Actual.End = at(f.PlannedEnd)
		case f.ActualEnd != nil:
			op.Actual.End = at(*f.ActualEnd)
		}
		if away := awayMinutes(&f, l.b.Now); away > 0 && f.ActualEnd == nil { // what hands were called off for is still to be done
			op.Minutes, op.Cycle = new(lengthOf(op)+away), nil
		}
		if !f.Attended { // a wait that runs keeps the length it began with
			op.Dry, op.Minutes = nil, new(max(1, int(f.PlannedEnd.Sub(f.PlannedStart)/time.Minute)))
		}
		s.ActualStart, s.ActualEnd, s.ID, s.Version, s.Fills, s.Breaks, s.Made, s.Takes, s.Weighed, s.Who, s.Clocked = f.ActualStart, f.ActualEnd, f.ID, f.Version, f.Fills, f.Breaks, f.Made, f.Takes, f.Weighed, f.Who, f.Clocked
		s.Away = f.Away
	}
	l.pin(s, op)
	l.steps[op.ID] = s
	l.order = append(l.order, op.ID)
}

// awayMinutes is how long hands were off a step that runs.
func awayMinutes(st *noun.Step, now time.Time) int {
	sum := time.Duration(0)
	for _, x := range st.Away {
		until := now
		if x.Until != nil {
			until = *x.Until
		}
		sum += max(0, until.Sub(x.From))
	}
	return int(sum / time.Minute)
}

// stepIn is a step of a batch with what it is about.
type stepIn struct {
	w            *work.Reckoned
	x            *batchOf
	link         *link
	makes, draws bool
	at           int
}

// shaped puts a step of a batch into the task, with its words and numbers.
func (l *liner) shaped(c *noun.Commission, op *bench.Op, in *stepIn) {
	w, y := in.w, &in.link.op
	s := l.blank(c, op)
	s.PieceID = &w.Piece.ID
	l.parts[op.ID] = partOf{in.x.no, in.x.of}
	pl := &s.Planned
	pl.Name, pl.Part, pl.Parts, pl.Again = w.Piece.Name, in.x.no, in.x.of, in.x.of == 0
	pl.Colour, pl.Swatch = w.Piece.Colour, w.Piece.Swatch
	pl.Kept = &noun.Kept{Technique: in.x.key, Version: in.x.version, Pieces: in.x.pieces, At: in.at, Of: len(in.x.links), Op: *y, After: in.link.after, Holds: in.link.holds}
	pl.Places = y.Assembly && w.Way.Join().Step == y.Op || in.makes && y.CakeReady && !y.Assembly // what goes on as it is made
	pl.Done, pl.Clock, pl.Rings = work.DoneSays(y.Kind), "", ""
	if !y.Attended && y.Dry == nil {
		pl.Clock, pl.Rings = work.ClockOf(y.Kind)
	}
	on := ""
	if y.Dry != nil {
		pl.Support = l.b.Reader.Say(l.support(w))
		on = supportSays[w.Piece.Support]
	}
	s.Says, s.Checks, s.Ways = in.link.words.Says, in.link.words.Checks, in.link.words.Ways
	for _, cc := range w.View.Cautions {
		s.Cautions = append(s.Cautions, cc.Say)
	}
	for _, say := range in.link.words.Cautions {
		if !slices.Contains(s.Cautions, say) {
			s.Cautions = append(s.Cautions, say)
		}
	}
	if pl.Places {
		pl.LayOut = append(pl.LayOut, l.b.Reader.Say("turntable, marking strip, water brush, "+l.b.AttacherOut(w)))
	}
	if in.makes {
		for _, say := range l.b.RemindersFor(w, "plan", "habit", "mould") {
			s.Says = once(s.Says, l.b.Reader.Say("Remember: "+say+"."))
		}
	}
	if in.draws {
		for _, say := range l.b.RemindersFor(w, "dose", "paste") {
			s.Says = once(s.Says, l.b.Reader.Say("Remember: "+say+"."))
		}
	}
	share := float64(in.x.pieces) / float64(max(1, w.Batch.Make))
	l.figures(s, in, share)
	grams := ""
	if in.draws {
		grams = l.b.Reader.Paste(w.Batch.PasteG * share)
	}
	verb := y.Kind
	if y.Dry != nil && w.Sets() {
		verb, on = "set", ""
	}
	pieces, placed := in.x.pieces, in.x.placed
	l.keep(s, op, func(what string) string {
		return l.b.Reader.Say(work.StepTitle(verb, what, pieces, placed, grams, on))
	})
}

// nearlyOf and nearlyMinutes are within what a drying to come keeps the length it was
// planned with, where the air is read or expected (assumed): it is foretold a little otherwise
// with every hour, and the line would never hang still.
const (
	nearlyOf      = 0.1
	nearlyMinutes = 20
)

// nearly is a drying with the length it was planned with, while that is nearly right.
func nearly(d bench.Drying, was int, confidence float64) *bench.Drying {
	is := d.Length(confidence)
	if off := math.Abs(float64(is - was)); off == 0 || off > max(nearlyMinutes, nearlyOf*float64(was)) {
		return &d
	}
	for range 4 { // rounded, one step may not meet it
		by := float64(was) / float64(is)
		next := bench.Drying{P50: max(1, int(math.Round(float64(d.P50)*by))), P90: max(1, int(math.Round(float64(d.P90)*by)))}
		if next.P90 < next.P50 {
			next.P90 = next.P50
		}
		d, is = next, next.Length(confidence)
		if is == was {
			break
		}
	}
	return &d
}
