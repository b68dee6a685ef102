package plan

import (
	"fmt"
	"math"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/colour"
	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/work"
)

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

// numbered is a part of a piece: its number stays its own, whatever is added.
type numbered struct {
	no     int
	rounds bench.Rounds
	made   int
}
