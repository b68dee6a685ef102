package plan

import (
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/colour"
	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
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
			l.leftOut = append(l.leftOut, noun.LeftOutLine{c.ID, p.ID, say})
			continue
		}
		bs, ws, trouble := l.piece(c, w, ready, putOn)
		if trouble != "" {
			l.leftOut = append(l.leftOut, noun.LeftOutLine{c.ID, p.ID, p.Name + ": " + trouble})
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
	for no := 1; no < AgainFrom; no++ {
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
		b, ls := l.part(c, w, AgainFrom+i, 0, w.CycleOf((n+m.Cavities-1)/m.Cavities), n, ready, putOn)
		out = append(out, b)
		lags = append(lags, ls...)
	}
	return out, lags, ""
}

// numbered is a part of a piece: its number stays its own, whatever is added.
type numbered struct {
	no     int
	rounds bench.Rounds
	made   int
}

// split cuts rounds into parts that fit a stretch at the bench and the trays.
func (l *liner) split(c *noun.Commission, w *work.Worked, rounds bench.Rounds, before int) (parts []bench.Rounds, trouble string) {
	parts = rounds.Split(max(1, l.stretchFor(c, w.Piece)-before))
	if parts == nil {
		parts = rounds.Split(max(1, l.longest-before))
	}
	if parts == nil {
		return nil, "one round is longer than any stretch at the bench."
	}
	if !l.needsTray(w) {
		return parts, ""
	}
	if l.capacity("tray") == 0 {
		return nil, "there is no tray in the kitchen to dry it on."
	}
	for l.trays(w, parts[0].Pieces*w.Mould.Cavities) > l.capacity("tray") && len(parts) < rounds.Pieces {
		n := len(parts) + 1
		parts = nil
		for i := range n {
			r := rounds
			r.Pieces = rounds.Pieces / n
			if i < rounds.Pieces%n {
				r.Pieces++
			}
			parts = append(parts, r)
		}
	}
	return parts, ""
}

// AgainFrom is the number of the first part that is pressed again.
const AgainFrom = 101

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

func (l *liner) mould(m *noun.Tool) {
	id := fmt.Sprintf("mould%d", m.ID)
	if l.capacity(id) == 0 {
		l.in.Resources = append(l.in.Resources, bench.Resource{ID: id, Kind: "mould", Capacity: m.Copies})
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

func (l *liner) needsTray(w *work.Worked) bool {
	return (w.Piece.Joined == "dry" || w.Piece.Joined == "semiDry") && l.former(w) == ""
}

// former is the resource that a curve dries on, when the kitchen has one of
// that kind.
func (l *liner) former(w *work.Worked) string {
	for i, f := range l.b.Kitchen.Formers {
		if s := w.Piece.Support; (s == "cup" || s == "dowel" || s == "hook") && strings.Contains(strings.ToLower(f.Name), s) {
			return fmt.Sprintf("former%d", i+1)
		}
	}
	return ""
}

func (l *liner) trays(w *work.Worked, pieces int) int {
	if len(l.b.Kitchen.Trays) == 0 {
		return 0
	}
	t := l.b.Kitchen.Trays[0] // trays are counted as the smallest, whichever is taken
	for _, o := range l.b.Kitchen.Trays {
		if o.LengthMM*o.WidthMM < t.LengthMM*t.WidthMM {
			t = o
		}
	}
	return piece.Trays(pieces, w.Mould.LengthMM, w.Mould.WidthMM, t.LengthMM, t.WidthMM)
}

func (l *liner) part(c *noun.Commission, w *work.Worked, part, of int, r bench.Rounds, made int, ready time.Time, putOn string) (bench.Batch, []bench.Lag) {
	p, k := w.Piece, l.b.Kitchen
	share := float64(made) / float64(w.Batch.Make)
	b := bench.Batch{ID: opBatch(p.ID, part), Commission: fmt.Sprintf("c%d", c.ID), Piece: p.Name, Pieces: made, Colour: p.Swatch}
	if p.Eaten != "shown" {
		b.FreshMinutes = new(int(math.Round(k.FreshDays * 1440)))
	}
	var lags []bench.Lag
	last := ""
	add := func(op bench.Op, title func(what string) string, lag *bench.Lag) {
		if last != "" {
			if _, begun := l.facts[last]; begun && (op.Kind == "press" || op.Kind == "rest") {
				lag.Max = nil // kneaded already: a longer wait is looked at, not forbidden
			}
			lag.From, lag.To = last, op.ID
			lags = append(lags, *lag)
		}
		last = op.ID
		l.step(&op, c, w, &partOf{part, of, made, share}, title, &b)
	}
	grams := l.b.Reader.Mass(math.Ceil(w.Batch.PasteG * share))
	add(bench.Op{ID: OpID(p, part, "knead"), Kind: "knead", Attended: true, Minutes: new(piece.KneadMinutes(w.Batch.PasteG*share, k.KneadFirst, k.KneadMore))},
		func(what string) string { return fmt.Sprintf("Knead %s for %s", grams, what) }, nil)
	wait := &bench.Lag{Max: new(piece.BagLongest)}
	if w.AtOnce {
		wait.Max = new(piece.LayOutWithin)
	}
	if w.Rest > 0 {
		add(bench.Op{ID: OpID(p, part, "rest"), Kind: "rest", Minutes: &w.Rest}, func(what string) string { return "Rest the paste of " + what + " in its bag" }, &bench.Lag{Max: new(0)})
		wait = &bench.Lag{Max: new(piece.BagLongest)}
	}
	press := bench.Op{ID: OpID(p, part, "press"), Kind: "press", Attended: true, Cycle: &r, Uses: []bench.Use{{Resource: fmt.Sprintf("mould%d", w.Mould.ID), Count: min(r.Copies, w.Mould.Copies)}}}
	if w.Chilled && r.HoldSec > 0 {
		press.Uses = append(press.Uses, bench.Use{Resource: "freezer", Count: min(r.Copies, k.FreezerPlaces)})
	}
	if p.Joined == "cold" {
		press.NotBefore = ready.Format(time.RFC3339)
	}
	add(press, func(what string) string { return fmt.Sprintf("Press %d %s", made, what) }, wait)
	if w.Chilled && p.Dusted && w.Dew.DustableAfterMinutes != nil && *w.Dew.DustableAfterMinutes > 0 {
		op := bench.Op{ID: OpID(p, part, "air"), Kind: "air", Minutes: new(max(1, int(math.Ceil(*w.Dew.DustableAfterMinutes))))}
		if l.capacity("tray") > 0 {
			op.Uses = []bench.Use{{Resource: "tray", Count: min(max(1, l.trays(w, made)), l.capacity("tray"))}}
		}
		add(op, func(what string) string { return "Air " + what + " until matt" }, &bench.Lag{Max: new(piece.LayOutWithin)})
	}
	final := bench.Lag{From: last, To: putOn}
	switch p.Joined {
	case "dry", "semiDry":
		stage := w.Stages[1]
		if p.Joined == "semiDry" {
			stage = w.Stages[0]
			firmAt := far10
			if w.Stages[1] != nil {
				firmAt = w.Stages[1].P10
			}
			final.Max = new(max(60, firmAt-stage.P90))
		}
		op := bench.Op{ID: OpID(p, part, "dry"), Kind: "dry", Dry: &bench.Drying{P50: max(1, stage.P50), P90: max(1, stage.P90)}}
		if f := l.former(w); f != "" {
			op.Uses = []bench.Use{{Resource: f, Count: min(made, l.capacity(f))}}
		} else if l.capacity("tray") > 0 {
			op.Uses = []bench.Use{{Resource: "tray", Count: min(max(1, l.trays(w, made)), l.capacity("tray"))}}
		}
		title := func(what string) string { return "Dry " + what + " on " + supportSays[p.Support] }
		if w.Piece.Dough != "" {
			title = func(what string) string { return "Let " + what + " set" }
		}
		add(op, title, &bench.Lag{Max: new(piece.LayOutWithin)})
		final.From = last
	case "pliable":
		final.Max = new(piece.BagPliable)
		if !p.Bagged && w.Stages[2] != nil {
			final.Max = new(max(1, w.Stages[2].P10))
		}
	}
	lags = append(lags, final)
	for _, op := range b.Ops { // what has begun is as fresh as it is
		if op.Actual != nil {
			b.FreshMinutes = nil
		}
	}
	return b, lags
}

const far10 = 1 << 20

// supportSays is what a piece dries on, in words.
var supportSays = map[string]string{"board": "a board", "foam": "foam", "cup": "cups", "dowel": "a dowel", "hook": "hooks", "rack": "a rack"}

type partOf struct {
	part, of, made int
	share          float64
}

// step puts an op into its batch and keeps the words that go with it. A step
// that has begun is a fact.
func (l *liner) step(op *bench.Op, c *noun.Commission, w *work.Worked, part *partOf, title func(what string) string, b *bench.Batch) {
	s := &noun.Step{CommissionID: c.ID, Op: op.ID, Kind: op.Kind, Attended: op.Attended, Says: []string{}, Checks: []string{}, Cautions: []string{}, Ways: []noun.Way{}, Figures: []noun.Figure{}, Fills: []noun.Fill{}, Breaks: []noun.Break{}, Takes: []noun.Taken{}}
	s.Planned.Swatch, s.Planned.Name = "#C9D8CC", c.Title
	var text piece.StepText
	if w != nil {
		s.PieceID = &w.Piece.ID
		l.parts[op.ID] = *part
		s.Planned.Name, s.Planned.Part, s.Planned.Parts, s.Planned.Again = w.Piece.Name, part.part, part.of, part.of == 0
		s.Planned.Colour, s.Planned.Swatch = w.Piece.Colour, w.Piece.Swatch
		if op.Kind == "dry" {
			s.Planned.Support = l.b.Reader.Say(supportSays[w.Piece.Support])
		}
		text = piece.TextOf(op.Kind, w.CraftMould(), w.Chilled, w.Piece.Dough != "")
		for _, cc := range w.View.Cautions {
			s.Cautions = append(s.Cautions, cc.Say)
		}
		l.figures(s, op, w, part)
	} else {
		text = piece.TextOf(op.Kind, &piece.Mould{}, false, false)
	}
	l.titles[op.ID] = title
	s.Title = title(s.Planned.What())
	for _, x := range text.Says {
		s.Says = append(s.Says, l.b.Reader.Say(x))
	}
	for _, x := range text.Checks {
		s.Checks = append(s.Checks, l.b.Reader.Say(x))
	}
	for _, x := range text.Ways {
		s.Ways = append(s.Ways, noun.Way{l.b.Reader.Say(x[0]), l.b.Reader.Say(x[1]), x[2] == "usual"})
	}
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
		if !f.Attended { // a wait that runs keeps the length it began with
			op.Dry, op.Minutes = nil, new(max(1, int(f.PlannedEnd.Sub(f.PlannedStart)/time.Minute)))
		}
		s.ActualStart, s.ActualEnd, s.ID, s.Version, s.Fills, s.Breaks, s.Made, s.Takes = f.ActualStart, f.ActualEnd, f.ID, f.Version, f.Fills, f.Breaks, f.Made, f.Takes
	}
	if end, ok := l.tonight[op.ID]; ok && op.Actual == nil {
		op.NotAfter = end.Format(time.RFC3339)
	}
	b.Ops = append(b.Ops, *op)
	l.steps[op.ID] = s
	l.order = append(l.order, op.ID)
}

// figures are the numbers of a step, the largest first.
func (l *liner) figures(s *noun.Step, op *bench.Op, w *work.Worked, part *partOf) {
	mk := w.View.Make
	switch op.Kind {
	case "knead":
		for _, x := range w.View.Paste.Mix {
			g := x.Grams
			g.Value *= part.share
			if x.Grams.Value < 10 && strings.Contains(x.Name, "powder") {
				g.Text = read.Trimmed(math.Max(0.01, g.Value), 2) + " g"
			} else {
				g.Text = l.b.Reader.Mass(g.Value)
			}
			g.Unit = x.Name
			s.Figures = append(s.Figures, g)
		}
		for _, x := range w.Tint.Parts {
			g := x.Grams * part.share
			s.Figures = append(s.Figures, noun.Figure{g, x.Lot.Name + ", " + l.b.Drops(x.Lot, g), read.Trimmed(math.Max(0.001, g), work.FineDecimals(g)) + " g", nil})
		}
		s.Planned.Uses = w.UsesOf(part.share)
		if w.View.Paste.Rest != "" {
			s.Says = append(s.Says, w.View.Paste.Rest)
		}
		if w.Tint.Plain > 0 {
			s.Says = append(s.Says, work.StripesSay)
			if m, err := work.Marble(w.Tint); err == nil {
				s.Planned.Leaves = m.SolidHex
			}
		}
		if note := l.b.PacketNote(w); note != "" {
			s.Says = append(s.Says, note)
		}
	case "press":
		ball := mk.Ball
		ball.Unit = "each ball, " + mk.Tolerance
		s.Figures = append(s.Figures, ball, noun.Figure{float64(part.made), "balls", fmt.Sprint(part.made), mk.Balls.Why})
		if w.Chilled && w.Round.FreezeMinutes > 0 {
			s.Figures = append(s.Figures, noun.Figure{w.Round.FreezeMinutes, "in the freezer", read.SayMinutes(int(math.Ceil(w.Round.FreezeMinutes))), nil})
		}
		s.Planned.Round = fmt.Sprintf("%d at once", w.Rounds)
		s.Planned.Cord = "freezer"
		s.Planned.Run = &noun.Run{op.Cycle.Pieces, op.Cycle.Copies, op.Cycle.FillSec, op.Cycle.HoldSec, op.Cycle.UnmouldSec, w.Mould.Cavities, part.made, w.PieceG}
		if skin := w.Stages[2]; w.Piece.Bent && !w.Piece.Bagged && skin != nil {
			s.Planned.OpenMin = skin.P10
		}
	case "rest", "air":
		s.Figures = append(s.Figures, noun.Figure{float64(*op.Minutes), "min", read.SayMinutes(*op.Minutes), nil})
		s.Planned.Cord = "rest"
	case "dry":
		s.Figures = append(s.Figures, noun.Figure{float64(op.Dry.P90), "min", read.SayMinutes(op.Dry.P90), w.View.Dry.Why})
		s.Planned.Cord = "drying"
		for _, m := range []struct {
			kind string
			at   *work.Band
		}{{"touch", w.Stages[2]}, {"lift", w.Stages[0]}, {"join", w.Stages[1]}} {
			if m.at != nil && m.at.P90 < op.Dry.P90 || m.kind == "join" {
				at := op.Dry.P90
				if m.at != nil && m.kind != "join" {
					at = m.at.P90
				}
				s.Planned.Marks = append(s.Planned.Marks, noun.Mark{m.kind, at})
			}
		}
	}
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
