package plan

import (
	"fmt"
	"slices"

	"dustyfern/craft/bench"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

func (l *liner) support(w *work.Reckoned) string {
	if s := supportSays[w.Piece.Support]; s != "" {
		return s
	}
	return supportSays[w.DriesOn()]
}

// figures are the numbers of a step, the largest first.
func (l *liner) figures(s *noun.Step, in *stepIn, share float64) {
	y := &in.link.op
	s.Says = slices.Clone(s.Says)
	if in.makes {
		l.making(s, in)
	}
	if in.draws {
		l.drawing(s, in.w, share)
	}
	l.takesOfFinish(s, in.w, y, share)
	for _, x := range y.Shows {
		if x.Unit == "C" { // the first is the least, the last the most
			if s.Planned.Heat == nil {
				s.Planned.Heat = &noun.Heated{LowC: x.Value}
			}
			s.Planned.Heat.HighC = x.Value
		}
		says := l.b.Reader.Say(x.Says)
		if at := l.b.SettingFor(in.w, x); at != "" {
			says += ", " + at
		}
		s.Figures = append(s.Figures, noun.Figure{Value: x.Value, Unit: says, Text: l.b.Shown(x)})
	}
	switch {
	case y.Dry != nil:
		body, stages := in.w.BodyOf(y.DryUntil)
		s.Planned.Body = body
		l.marks(s, in.w, y.Dry, stages)
		if body != nil {
			at := in.w.Air().Series[0]
			s.Planned.Body.TempC, s.Planned.Body.RHPercent = at.TempC, at.RHPercent
		}
		if k := in.link.kept; k != nil && k.Planned.Body != nil { // what lies there is what was laid out
			s.Planned.Body = k.Planned.Body
		}
	case !y.Attended && y.Minutes != nil:
		s.Figures = append(s.Figures, noun.Figure{Value: float64(*y.Minutes), Unit: "min", Text: read.SayMinutes(*y.Minutes), Why: nil})
		s.Planned.Cord = "rest"
	}
}

// drawing is the paste that a step takes out of the pantry.
func (l *liner) drawing(s *noun.Step, w *work.Reckoned, share float64) {
	s.Planned.Draws, s.Planned.Share = true, share
	l.draws[s.Op] = drawn{w, share}
	for _, x := range w.View.Paste.Mix {
		g := x.Grams
		g.Value *= share
		if x.Powder != "" {
			g.Text = l.b.Reader.Powder(x.Powder, g.Value).Text
		} else {
			g.Text = l.b.Reader.Paste(g.Value)
		}
		g.Unit = x.Name
		s.Figures = append(s.Figures, g)
		s.Planned.Fetch = append(s.Planned.Fetch, noun.Fetch{What: x.Name, G: g.Value, Powder: x.Powder, For: w.Piece.Name})
	}
	gels := l.b.GelsFor(w, share)
	for _, x := range gels {
		s.Figures = append(s.Figures, x.Figure)
		s.Planned.LayOut = append(s.Planned.LayOut, l.b.Reader.Sayf("%s of %s, for %s", x.Figure.Text, x.Figure.Unit, w.Piece.Name))
	}
	s.Planned.LayOut = append(s.Planned.LayOut, "bags that close, labels, a pen")
	s.Planned.Uses = work.UsesWith(w.UsesOf(share), gels)
	s.Says = once(s.Says, w.View.Paste.Rest)
	if w.Tint.Striped() {
		s.Says = once(s.Says, l.b.StripesSay(w.Tint, share))
		if m, err := work.Marble(w.Tint); err == nil {
			s.Planned.Leaves = m.SolidHex
		}
	}
	s.Says = once(s.Says, l.b.PacketNote(w))
}

// once adds a sentence to a step that has not got it yet: the words of a batch that
// has begun are kept with what was added to them.
func once(says []string, say string) []string {
	if say == "" || slices.Contains(says, say) {
		return says
	}
	return append(says, say)
}

// making are the rounds in which pieces come to be.
func (l *liner) making(s *noun.Step, in *stepIn) {
	w, y, mk := in.w, &in.link.op, in.w.View.Make
	cavities := 1
	if w.Tool != nil {
		cavities = w.Tool.Cavities()
	}
	moves, each, word := work.MoveOf(w.Way, y, in.x.pieces, cavities)
	before, broke := l.b.Log(w)
	run := &noun.Run{Fills: moves, Copies: 1, Cavities: each, Balls: in.x.pieces, For: w.Wanted, Class: l.b.BreakageOf(w), Before: before, Broke: broke, Kinds: l.b.KindsOf(w), BallG: w.PieceG, Word: word}
	length := y.Length()
	if c := y.Cycle; c != nil {
		run.Copies, run.FillSec, run.HoldSec, run.UnmouldSec = c.Copies, c.FillSec, c.HoldSec, c.UnmouldSec
	} else {
		run.FillSec = max(1, length*60/max(1, moves))
	}
	if k := in.link.kept; k != nil && k.Planned.Run != nil { // it goes on as it began
		run = k.Planned.Run
	}
	s.Planned.Run = run
	if mk != nil {
		ball := mk.Ball
		ball.Unit = fmt.Sprintf("each %s, %s", mk.Word, mk.Tolerance)
		s.Figures = append(s.Figures, ball, noun.Figure{Value: float64(in.x.pieces), Unit: mk.Word + "s", Text: fmt.Sprint(in.x.pieces), Why: mk.Balls.Why})
	}
	if run.HoldSec > 0 {
		s.Figures = append(s.Figures, noun.Figure{Value: float64(run.HoldSec) / 60, Unit: "in the freezer", Text: read.SayMinutes((run.HoldSec + 59) / 60), Why: nil})
		s.Planned.LayOut = append(s.Planned.LayOut, l.b.Reader.Sayf("room in the freezer for %d, in a closed box", run.Copies))
	}
	s.Planned.Round = fmt.Sprintf("%d at once", run.Copies)
	s.Planned.Cord = "freezer"
	if t := w.Tool; t != nil {
		copies := ""
		if run.Copies > 1 {
			copies = fmt.Sprintf(", %d copies", run.Copies)
		}
		s.Planned.LayOut = append(s.Planned.LayOut, t.Name+copies)
	}
	for _, r := range w.Way.Tools {
		t := w.ToolOf(r.Role)
		_, chosen := w.Piece.Tools[r.Role]
		if t != nil && t != w.Tool && (chosen || takes(in.x, r.Role) || t.Of("ringMM") > 0) {
			s.Planned.LayOut = append(s.Planned.LayOut, t.Name)
		}
	}
	s.Planned.LayOut = append(s.Planned.LayOut, l.b.Reader.Say("scale, starch bag, soft brush, a trace of white fat"))
	if skin := w.Stages.Skin; w.Piece.Bent && !w.Piece.Bagged && skin != nil {
		s.Planned.OpenMin = skin.P10
	}
}

// takes tells whether a step of a batch takes up a tool of a role.
func takes(x *batchOf, role string) bool {
	return slices.ContainsFunc(x.links, func(y link) bool {
		return slices.ContainsFunc(y.op.Uses, func(u bench.Use) bool { return u.Resource == role }) ||
			slices.ContainsFunc(y.holds, func(h bench.Hold) bool { return h.Resource == role })
	})
}

// marks are when a piece that dries may be touched, lifted and joined.
func (l *liner) marks(s *noun.Step, w *work.Reckoned, dry *bench.Drying, stages work.Bands) {
	var why *noun.Why
	if w.View.Dry != nil {
		why = w.View.Dry.Why
	}
	s.Figures = append(s.Figures, noun.Figure{Value: float64(dry.P90), Unit: "min", Text: read.EstimateMinutes(dry.P90), Why: why})
	s.Planned.Cord = "drying"
	s.Planned.Marks = work.MarksOf(stages, dry.Length(l.b.Kitchen.Confidence), untilOf(s.Planned.Body))
}

// untilOf is the stage that a drying waits for.
func untilOf(body *noun.Body) string {
	if body == nil {
		return ""
	}
	return body.Until
}
