package bench

// Filled is one filling of a mould as it happened, in seconds from any zero;
// Out is nil while it is in the freezer.
type Filled struct {
	N, Copy int
	At      int
	Out     *int
}

// Movements of hands in the rounds of a mould.
const (
	Press    = "press"    // fill a copy, and into the freezer with it
	PressOut = "pressOut" // fill a copy and turn it out at once
	Open     = "open"     // its time in the freezer is up
	WaitFor  = "wait"     // every copy is in the freezer
	AllOut   = "done"
)

// Move is the next movement: which fill and which copy, both from 1, and from
// when on it can be done (seconds; for a wait when it ends).
type Move struct {
	Do      string
	N, Copy int
	At      int
}

// Next names the next movement of rounds of which some has been done: open the
// mould that is ready longest, else fill a free copy, else wait for the first.
// It is the order in which Length lives through them.
func (r Rounds) Next(done []Filled, now int) Move {
	out, filled := 0, 0
	busy := map[int]bool{}
	var first *Filled // in the freezer
	for i := range done {
		f := &done[i]
		filled = max(filled, f.N)
		if f.Out != nil {
			out++
			continue
		}
		busy[f.Copy] = true
		if first == nil || f.At < first.At {
			first = f
		}
	}
	free := 0
	for c := 1; c <= r.Copies && free == 0; c++ {
		if !busy[c] {
			free = c
		}
	}
	switch {
	case first != nil && first.At+r.HoldSec <= now:
		return Move{Open, first.N, first.Copy, first.At + r.HoldSec}
	case filled < r.Pieces && free > 0 && r.HoldSec == 0:
		return Move{PressOut, filled + 1, free, now}
	case filled < r.Pieces && free > 0:
		return Move{Press, filled + 1, free, now}
	case first != nil:
		return Move{WaitFor, first.N, first.Copy, first.At + r.HoldSec}
	}
	return Move{Do: AllOut, At: now}
}
