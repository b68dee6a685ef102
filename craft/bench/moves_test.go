package bench

import "testing"

// live works through rounds by what Next says, and gives the minutes it took.
func live(t *testing.T, r Rounds) (minutes int, order []Move) {
	t.Helper()
	now := 0
	var done []Filled
	for range 10 * r.Pieces {
		m := r.Next(done, now)
		if m.Do != WaitFor {
			order = append(order, m)
		}
		switch m.Do {
		case Press:
			now += r.FillSec
			done = append(done, Filled{N: m.N, Copy: m.Copy, At: now})
		case PressOut:
			now += r.FillSec + r.UnmouldSec
			done = append(done, Filled{N: m.N, Copy: m.Copy, At: now, Out: &now})
		case Open:
			now += r.UnmouldSec
			for i := range done {
				if done[i].N == m.N {
					done[i].Out = new(now)
				}
			}
		case WaitFor:
			if m.At <= now {
				t.Fatalf("waiting for %d at %d", m.At, now)
			}
			now = m.At
		case AllOut:
			return (now + 59) / 60, order
		}
		inside := map[int]int{}
		for _, f := range done {
			if f.Out == nil {
				inside[f.Copy]++
			}
		}
		for c, n := range inside {
			if n > 1 || c < 1 || c > r.Copies {
				t.Fatalf("copy %d of %d is filled %d times", c, r.Copies, n)
			}
		}
	}
	t.Fatal("it never ends")
	return 0, nil
}

// Hands that follow Next take just as long as the plan says.
func TestHandsFollowThePlan(t *testing.T) {
	for _, r := range []Rounds{
		{Pieces: 36, FillSec: 120, HoldSec: 480, UnmouldSec: 60, Copies: 3}, {Pieces: 36, FillSec: 120, HoldSec: 480, UnmouldSec: 60, Copies: 1},
		{Pieces: 17, FillSec: 60, UnmouldSec: 20, Copies: 2}, {Pieces: 5, FillSec: 150, HoldSec: 600, UnmouldSec: 45, Copies: 8}, {Pieces: 1, FillSec: 60, HoldSec: 300, UnmouldSec: 45, Copies: 1},
		{Pieces: 12, FillSec: 270, HoldSec: 480, UnmouldSec: 45, Copies: 2},
	} {
		got, order := live(t, r)
		if want, _ := r.Length(); got != want {
			t.Errorf("%+v: %d min, the plan says %d", r, got, want)
		}
		opened := 0
		for _, m := range order {
			if m.Do == Open || m.Do == PressOut {
				opened++
				if m.N != opened {
					t.Errorf("%+v: fill %d is out as number %d", r, m.N, opened)
				}
			}
		}
		if opened != r.Pieces {
			t.Errorf("%+v: %d out", r, opened)
		}
	}
}

func TestTheReadyMouldComesFirst(t *testing.T) {
	r := Rounds{Pieces: 9, FillSec: 120, HoldSec: 480, UnmouldSec: 60, Copies: 3}
	in := []Filled{{N: 1, Copy: 1, At: 120}, {N: 2, Copy: 2, At: 240}}
	if m := r.Next(in, 300); m != (Move{Press, 3, 3, 300}) {
		t.Errorf("%+v", m)
	}
	if m := r.Next(in, 600); m != (Move{Open, 1, 1, 600}) {
		t.Errorf("%+v", m)
	}
	in = append(in, Filled{N: 3, Copy: 3, At: 360})
	if m := r.Next(in, 500); m != (Move{WaitFor, 1, 1, 600}) {
		t.Errorf("%+v", m)
	}
	in[0].Out = new(700)
	if m := r.Next(in, 700); m != (Move{Press, 4, 1, 700}) { // the second is not ready before 720
		t.Errorf("%+v", m)
	}
	if m := (Rounds{Pieces: 1, FillSec: 60, Copies: 1}).Next([]Filled{{N: 1, Copy: 1, At: 60, Out: new(60)}}, 60); m.Do != AllOut {
		t.Errorf("%+v", m)
	}
}
