package noun

import (
	"fmt"
	"math"
	"time"

	"dustyfern/craft/bench"
)

// aheadAtMost is how far from the future a plan may be before it is made anew.
const aheadAtMost = time.Minute

func (r *Run) rounds() bench.Rounds {
	return bench.Rounds{Pieces: r.Fills, FillSec: r.FillSec, HoldSec: r.HoldSec, UnmouldSec: r.UnmouldSec, Copies: max(1, r.Copies)}
}

// Run is how pieces come to be in the step, with what was added to it at the bench; nil
// in any other step.
func (st *Step) Run() *Run {
	if st.Planned.Run == nil || st.Longer == nil {
		return st.Planned.Run
	}
	run := *st.Planned.Run
	run.Balls, run.Fills = st.Longer.Balls, st.Longer.Fills
	return &run
}

// Makes tells whether pieces come to be in the step: they can be counted, and can
// break.
func (st *Step) Makes() bool { return st.Planned.Run != nil }

// Hands are the minutes of hands that a step is planned to take: in the rounds of a mould
// they wait for the freezer between.
func (st *Step) Hands() int {
	if !st.Attended {
		return 0
	}
	length := int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
	if k := st.Planned.Kept; k != nil && k.Op.HandsMinutes > 0 {
		return min(length, int(math.Ceil(k.Op.HandsMinutes-1e-9)))
	}
	return length
}

// Dries tells whether pieces dry in the step. A step that was done before plans kept
// what it dries on is known by its word.
func (st *Step) Dries() bool {
	return st.Planned.Support != "" || st.Planned.Kept == nil && st.Kind == "dry"
}

// Broken counts the pieces that broke at a step.
func (st *Step) Broken() (n int) {
	for _, b := range st.Breaks {
		n += b.Count
	}
	return n
}

// TornSoft counts those that tore while they were soft: their paste can be kneaded
// again.
func (st *Step) TornSoft() (n int) {
	for _, b := range st.Breaks {
		if b.Why == "tore" {
			n += b.Count
		}
	}
	return n
}

// Reused is how many of the torn ones were pressed once more in the same press.
func (st *Step) Reused() int {
	if st.Longer == nil {
		return 0
	}
	return min(st.TornSoft(), st.Longer.More)
}

// Move is the next movement of hands in a press.
func (st *Step) Move(now time.Time) bench.Move {
	var done []bench.Filled
	for _, f := range st.Fills {
		x := bench.Filled{N: f.N, Copy: f.Copy, At: int(f.At.Unix())}
		if f.Out != nil {
			x.Out = new(int(f.Out.Unix()))
		}
		done = append(done, x)
	}
	return st.Run().rounds().Next(done, int(now.Unix()))
}

// Out is how many pieces have come out of the mould.
func (st *Step) Out() int {
	if st.Made != nil {
		return *st.Made
	}
	return 0
}

// What names the pieces of a step: "Toadstool caps, part 2 of 3".
func (s *Planned) What() string {
	switch {
	case s.Again:
		return s.Name + ", again"
	case s.Parts > 1:
		return fmt.Sprintf("%s, part %d of %d", s.Name, s.Part, s.Parts)
	}
	return s.Name
}

// PieceG is the aim of a ball of a press in g, 0 for any other step.
func (s *Step) PieceG() float64 {
	if s.Planned.Run == nil {
		return 0
	}
	return s.Planned.Run.BallG
}

// Due reports whether a planned start has gone by unmarked, or the plan comes
// from a clock that was ahead of this one.
func (p *Plan) Due(now time.Time) bool {
	return p.Summary.DueAt != nil && now.After(*p.Summary.DueAt) || p.MadeAt.After(now.Add(aheadAtMost))
}
