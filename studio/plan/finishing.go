package plan

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/bench"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// finished puts what comes on to a piece into its batch: what its tones say at the step that
// dusts it, coats of paint with their waits when it is otherwise ready, and the wait after
// what fixes it.
func (l *liner) finished(w *work.Reckoned, pieces int, links []link) []link {
	if len(w.Piece.Finish.Passes) == 0 {
		return links
	}
	f := l.b.Finishing(w)
	out := slices.Clone(links)
	for i := range out {
		if out[i].op.Kind == "lock" && f.Lock != "" {
			out[i].words.Says, out[i].words.Cautions = l.says(f.LockSays), f.LockCautions
		}
	}
	if i := slices.IndexFunc(out, func(x link) bool { return x.op.Kind == "lock" }); i >= 0 && f.LockDry > 0 {
		out = put(out, i+1, l.waits("lockDry", f.LockDry, "Let it be until it is dry."), out[i].op.Op)
	}
	if f.Coats == 0 {
		return out
	}
	own := func(x *link) bool { return !x.op.Assembly }
	before := last(out, own)
	at := slices.IndexFunc(out, func(x link) bool { return x.op.Assembly })
	if at < 0 {
		at = len(out)
	}
	for n := range f.Coats {
		coat := link{op: technique.Op{Op: fmt.Sprintf("coat%d", n+1), Kind: "paint", Attended: true, NoPaste: true, Minutes: new(max(1, int(math.Ceil(1+f.CoatEach*float64(pieces)))))},
			words: noun.Words{Says: l.says(f.CoatSays...), Checks: l.says("even, no pools in the depths"), Cautions: f.CoatCautions, Ways: []noun.Way{}}}
		if n > 0 {
			coat.words.Says = l.says(fmt.Sprintf("Coat %d of %d, over what is dry.", n+1, f.Coats))
		}
		out = put(out, at, coat, before...)
		wait, say := f.NextCoat, "Let the coat dry before the next."
		if n == f.Coats-1 {
			wait, say = f.CoatDry, "Let the paint dry; nothing touches it."
		}
		out = put(out, at+1, l.waits(fmt.Sprintf("coatDry%d", n+1), wait, say), coat.op.Op)
		before, at = []string{fmt.Sprintf("coatDry%d", n+1)}, at+2
	}
	return out
}

// waits is a wait that needs no hands.
func (l *liner) waits(name string, minutes float64, say string) link {
	return link{op: technique.Op{Op: name, Kind: "air", NoPaste: true, Minutes: new(max(1, read.UpMinutes(minutes)))}, words: noun.Words{Says: l.says(say), Checks: l.says("dry to a fingertip at the back"), Cautions: []string{}, Ways: []noun.Way{}}}
}

// put sets a link into a batch after some of its steps; what came after those of it that are
// done at the cake, or after a lock, comes after this one too.
func put(links []link, at int, x link, after ...string) []link {
	for _, from := range after {
		x.after = append(x.after, bench.Lag{From: from, To: x.op.Op})
	}
	for i := range links {
		y := &links[i]
		follows := slices.ContainsFunc(y.after, func(g bench.Lag) bool { return slices.Contains(after, g.From) })
		if follows && (y.op.Assembly || x.op.Op == "lockDry") {
			y.after = append(slices.Clone(y.after), bench.Lag{From: x.op.Op, To: y.op.Op})
		}
	}
	return slices.Insert(links, at, x)
}

// takesOfFinish is what a step of finishing takes of lots: its share of what all pieces take.
func (l *liner) takesOfFinish(s *noun.Step, w *work.Reckoned, y *technique.Op, share float64) {
	f := l.b.Finishing(w)
	uses := f.Uses
	switch {
	case y.Kind == "dust" && len(uses) > 0:
	case y.Op == "coat1" && len(f.CoatUses) > 0:
		uses = f.CoatUses
	default:
		return
	}
	s.Planned.Uses = nil
	for _, u := range uses {
		u.G *= share
		s.Planned.Uses = append(s.Planned.Uses, u)
		s.Figures = append(s.Figures, noun.Figure{Value: u.G, Unit: u.Name, Text: read.AboutG(u.G)})
		s.Planned.LayOut = append(s.Planned.LayOut, l.b.Reader.Sayf("%s, for %s", u.Name, w.Piece.Name))
	}
}
