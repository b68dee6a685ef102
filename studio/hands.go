package studio

import (
	"context"
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/fault"
)

// Fill is one filling of a mould: when it was pressed, and when it was opened.
type Fill struct {
	N    int        `json:"n"`
	Copy int        `json:"copy"`
	At   time.Time  `json:"at"`
	Out  *time.Time `json:"out,omitempty"`
}

// Break is pieces that broke, and why.
type Break struct {
	At    time.Time `json:"at"`
	Count int       `json:"count"`
	Why   string    `json:"why"`
}

// breakReasons in one tap.
var breakReasons = []Option{{"tore", "tore coming out"}, {"dropped", "dropped"}, {"cracked", "cracked as it dried"}, {"snapped", "snapped in the hand"}, {"colour", "wrong colour"}, {"other", "something else"}}

func (r *Run) rounds() bench.Rounds {
	return bench.Rounds{Pieces: r.Fills, FillSec: r.FillSec, HoldSec: r.HoldSec, UnmouldSec: r.UnmouldSec, Copies: max(1, r.Copies)}
}

// move is the next movement of hands in a press.
func (st *Step) move(now time.Time) bench.Move {
	var done []bench.Filled
	for _, f := range st.Fills {
		x := bench.Filled{N: f.N, Copy: f.Copy, At: int(f.At.Unix())}
		if f.Out != nil {
			x.Out = new(int(f.Out.Unix()))
		}
		done = append(done, x)
	}
	return st.Planned.Run.rounds().Next(done, int(now.Unix()))
}

// out is how many pieces have come out of the mould.
func (st *Step) out() int {
	if st.Made != nil {
		return *st.Made
	}
	return 0
}

func (st *Step) broken() (n int) {
	for _, b := range st.Breaks {
		n += b.Count
	}
	return n
}

// Hands does a movement of a step: of a press one filling or opening, of any
// other step the whole. It names the step's version: a repeat does nothing. do is
// the movement that hands were at ("" for the one that is next): while a ball is
// pressed another mould may become ready, and must not be taken for it.
func (s *Service) Hands(ctx context.Context, slug, op string, version int64, do string) (out BenchView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error {
		st, all, err := a.current(op, version)
		if st == nil || err != nil {
			return err
		}
		if st.Kind != "press" || st.Planned.Run == nil {
			a.say(st.CommissionID, "finished: %s", st.Title)
			return a.finish(st, all)
		}
		return a.movement(st, all, do)
	}, s.showBench(&out))
	return out, err
}

// current is a step that may be worked on now; nil when somebody has been
// faster.
func (a *acting) current(op string, version int64) (*Step, []Step, error) {
	st, err := a.Step(op)
	if err != nil {
		return nil, nil, err
	}
	if st.ActualEnd != nil || st.Version != version {
		return nil, nil, nil
	}
	if !st.Attended {
		return nil, nil, fault.New(fault.Contradiction, "op", "A wait ends by itself: finish the step before it.")
	}
	all, err := a.Steps(st.CommissionID)
	if err != nil {
		return nil, nil, err
	}
	a.bench = true
	return &st, all, finishable(&st, all)
}

// movement fills or opens one mould.
func (a *acting) movement(st *Step, all []Step, do string) error {
	run, now := st.Planned.Run, a.now.Truncate(time.Second)
	for _, f := range st.Fills { // a clock that was set back does not undo what has happened
		if f.At.After(now) {
			now = f.At
		}
		if f.Out != nil && f.Out.After(now) {
			now = *f.Out
		}
	}
	m := st.move(now)
	if do == bench.Open && m.Do == bench.WaitFor {
		m.Do = bench.Open // hands know better than the clock
	}
	if do != "" && do != m.Do && do != bench.Open {
		m = st.move(time.Unix(0, 0)) // as if nothing were ready yet
	}
	if do != "" && do != m.Do && m.Do != bench.WaitFor {
		return fault.New(fault.Contradiction, "op", "That cannot be done now: %s.", lowerFirst(moveView(st, m, a.now).Say))
	}
	name := fmt.Sprintf("%d of %d, %s", m.N, run.Fills, pressed(st))
	switch m.Do {
	case bench.WaitFor:
		return fault.New(fault.Contradiction, "op", "Every copy is in the freezer: the first is ready at %s.", time.Unix(int64(m.At), 0).In(a.now.Location()).Format("15:04"))
	case bench.Press, bench.PressOut:
		if st.ActualStart == nil {
			start := now.Add(-time.Duration(run.FillSec) * time.Second)
			if err := beginStep(a, st, all, start, now); err != nil {
				return err
			}
		}
		f := Fill{N: m.N, Copy: m.Copy, At: now}
		a.say(st.CommissionID, "pressed %s", name)
		if m.Do == bench.PressOut {
			f.Out = &now
			st.Made = new(min(run.Balls, st.out()+run.Cavities))
		} else {
			rings := now.Add(time.Duration(run.HoldSec) * time.Second)
			if err := a.CreateTimer(&Timer{Version: 1, CommissionID: &st.CommissionID, Op: st.Op, Kind: "freezer", N: m.N, Says: freezerSays(upperFirst(pressed(st)), m.N, run.Fills), StartsAt: now, RingsAt: rings}); err != nil {
				return err
			}
		}
		st.Fills = append(slices.Clone(st.Fills), f)
	case bench.Open:
		a.say(st.CommissionID, "opened %s", name)
		st.Fills = slices.Clone(st.Fills)
		for i := range st.Fills {
			if st.Fills[i].N == m.N {
				st.Fills[i].Out = &now
			}
		}
		st.Made = new(min(run.Balls, st.out()+run.Cavities))
		if err := answerOf(a, st.Op, "freezer", m.N, now); err != nil {
			return err
		}
	}
	if err := openTimer(a, st, now); err != nil {
		return err
	}
	if st.move(now).Do == bench.AllOut {
		return a.finish(st, all)
	}
	return a.SaveStep(st)
}

// openTimer warns before the first pieces that must still be bent have a skin.
func openTimer(tx Tx, st *Step, now time.Time) error {
	first := slices.ContainsFunc(st.Fills, func(f Fill) bool { return f.Out != nil && f.Out.Equal(now) }) && st.out() == min(st.Planned.Run.Balls, st.Planned.Run.Cavities)
	if !first || st.Planned.OpenMin == 0 {
		return nil
	}
	rings := now.Add(max(time.Minute, time.Duration(st.Planned.OpenMin)*time.Minute-openWarning))
	return tx.CreateTimer(&Timer{Version: 1, CommissionID: &st.CommissionID, Op: st.Op, Kind: "open", Says: "Bend them now, they skin soon: " + pressed(st), StartsAt: now, RingsAt: rings})
}

// pressed is what a press is about: "Toadstool caps, part 2 of 3".
func pressed(st *Step) string {
	var n int
	if _, err := fmt.Sscanf(st.Title, "Press %d", &n); err == nil {
		return st.Title[len(fmt.Sprintf("Press %d ", n)):]
	}
	return st.Title
}

// Count corrects how many pieces of a press are there, by 1 up or down.
func (s *Service) Count(ctx context.Context, slug, op string, version int64, by int) (out BenchView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error {
		st, err := a.Step(op)
		if err != nil || st.Version != version {
			return err
		}
		if st.Kind != "press" || st.ActualStart == nil {
			return fault.New(fault.Contradiction, "op", "Only pieces that are being pressed, or have been, can be counted.")
		}
		n := st.out() + by
		if n < 0 || n > 100000 {
			return fault.New(fault.OutOfRange, "by", "There are no fewer than none.")
		}
		a.bench = true
		a.say(st.CommissionID, "counted %d %s, not %d", n, pressed(&st), st.out())
		st.Made = &n
		return a.SaveStep(&st)
	}, s.showBench(&out))
	return out, err
}

// Broke notes one piece of a press that broke, with its reason.
func (s *Service) Broke(ctx context.Context, slug, op string, version int64, why string) (out BenchView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error {
		i := slices.IndexFunc(breakReasons, func(o Option) bool { return o.Code == why })
		if i < 0 {
			return fault.New(fault.UnknownValue, "why", "Say why: %s.", list(says(breakReasons)))
		}
		st, err := a.Step(op)
		if err != nil || st.Version != version {
			return err
		}
		if st.Kind != "press" || st.out() <= st.broken() {
			return fault.New(fault.Contradiction, "op", "There is no whole piece of it that could break.")
		}
		a.bench = true
		a.say(st.CommissionID, "broke 1 of %s: %s", pressed(&st), breakReasons[i].Say)
		st.Breaks = append(slices.Clone(st.Breaks), Break{a.now.Truncate(time.Second), 1, why})
		return a.SaveStep(&st)
	}, s.showBench(&out))
	return out, err
}

// PressMore puts n more of a piece into the plan, when its spares are used up.
func (s *Service) PressMore(ctx context.Context, slug string, id int64, n int) (out BenchView, err error) {
	_, err = s.act(ctx, slug, func(a *acting) error {
		p, err := a.Piece(id)
		if err != nil {
			return err
		}
		if n < 1 || n > 500 {
			return fault.New(fault.OutOfRange, "n", "From 1 to 500.")
		}
		if len(p.Extras) >= 20 {
			return fault.New(fault.OutOfRange, "n", "It was pressed again 20 times: change the paste or the mould.")
		}
		a.bench = true
		a.say(p.CommissionID, "wants %d more %s pressed", n, p.Name)
		p.Extras = append(slices.Clone(p.Extras), n)
		return a.SavePiece(&p)
	}, s.showBench(&out))
	return out, err
}

// Tally is how a piece stands: made, broken, whole against wanted.
type Tally struct {
	PieceID int64  `json:"pieceId"`
	Op      string `json:"op" doc:"the press whose pieces can be counted or can break"`
	Version int64  `json:"version"`
	Name    string `json:"name"`
	Made    int    `json:"made"`
	Broken  int    `json:"broken"`
	Wanted  int    `json:"wanted"`
	Short   int    `json:"short" doc:"more that must be pressed"`
	Says    string `json:"says"`
}

// tallies of the pieces of open commissions that have been begun and are not
// yet on the cake.
func tallies(ps []Piece, all []LineStep) []Tally {
	out := []Tally{}
	placed := map[int64]bool{}
	for _, s := range all {
		if s.Kind == "putOn" && s.ActualEnd != nil {
			placed[s.CommissionID] = true
		}
	}
	for _, p := range ps {
		t := Tally{PieceID: p.ID, Name: p.Name, Wanted: p.Wanted}
		coming := 0
		for i := range all {
			s := &all[i].Step
			if s.PieceID == nil || *s.PieceID != p.ID || s.Kind != "press" || s.Planned.Run == nil {
				continue
			}
			if s.ActualStart == nil {
				coming += s.Planned.Run.Balls
				continue
			}
			if t.Op == "" || s.ActualEnd == nil {
				t.Op, t.Version = s.Op, s.Version
			}
			t.Made += s.out()
			t.Broken += s.broken()
			if s.ActualEnd == nil {
				coming += max(0, s.Planned.Run.Balls-s.out())
			}
		}
		if t.Op == "" || placed[p.CommissionID] || p.DeletedAt != nil {
			continue
		}
		t.Short = max(0, p.Wanted-(t.Made-t.Broken+coming))
		spare := t.Made - t.Broken + coming - p.Wanted
		switch {
		case t.Short > 0:
			t.Says = fmt.Sprintf("%d more to press: the spares are used up.", t.Short)
		case spare == 0:
			t.Says = "No spare is left."
		default:
			t.Says = count(spare, "spare") + " left."
		}
		out = append(out, t)
	}
	return out
}
