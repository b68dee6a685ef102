package plan

import (
	"fmt"
	"math"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

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
		s.Ways = append(s.Ways, noun.Way{Say: l.b.Reader.Say(x[0]), Why: l.b.Reader.Say(x[1]), Usual: x[2] == "usual"})
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
			s.Figures = append(s.Figures, noun.Figure{Value: g, Unit: x.Lot.Name + ", " + l.b.Drops(x.Lot, g), Text: read.Trimmed(math.Max(0.001, g), work.FineDecimals(g)) + " g", Why: nil})
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
		s.Figures = append(s.Figures, ball, noun.Figure{Value: float64(part.made), Unit: "balls", Text: fmt.Sprint(part.made), Why: mk.Balls.Why})
		if w.Chilled && w.Round.FreezeMinutes > 0 {
			s.Figures = append(s.Figures, noun.Figure{Value: w.Round.FreezeMinutes, Unit: "in the freezer", Text: read.SayMinutes(int(math.Ceil(w.Round.FreezeMinutes))), Why: nil})
		}
		s.Planned.Round = fmt.Sprintf("%d at once", w.Rounds)
		s.Planned.Cord = "freezer"
		s.Planned.Run = &noun.Run{Fills: op.Cycle.Pieces, Copies: op.Cycle.Copies, FillSec: op.Cycle.FillSec, HoldSec: op.Cycle.HoldSec, UnmouldSec: op.Cycle.UnmouldSec, Cavities: w.Mould.Cavities, Balls: part.made, BallG: w.PieceG}
		if skin := w.Stages[2]; w.Piece.Bent && !w.Piece.Bagged && skin != nil {
			s.Planned.OpenMin = skin.P10
		}
	case "rest", "air":
		s.Figures = append(s.Figures, noun.Figure{Value: float64(*op.Minutes), Unit: "min", Text: read.SayMinutes(*op.Minutes), Why: nil})
		s.Planned.Cord = "rest"
	case "dry":
		s.Figures = append(s.Figures, noun.Figure{Value: float64(op.Dry.P90), Unit: "min", Text: read.SayMinutes(op.Dry.P90), Why: w.View.Dry.Why})
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
				s.Planned.Marks = append(s.Planned.Marks, noun.Mark{Kind: m.kind, Minutes: at})
			}
		}
	}
}
