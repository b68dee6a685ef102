package work

import (
	"strings"
	"testing"
	"time"

	"dustyfern/studio/noun"
)

// pressing is a piece of which a batch is being pressed.
func pressing(wanted, balls, out, broken int, class string, kinds int) ([]noun.Piece, []noun.Step) {
	at := time.Date(2026, 5, 4, 18, 0, 0, 0, time.UTC)
	p := noun.Piece{Row: noun.Row{ID: 7, Version: 1}, CommissionID: 3, Name: "Leaves", Wanted: wanted, Extras: []int{}}
	st := noun.Step{Op: "p7.1.press", Version: 1, PieceID: &p.ID, ActualStart: &at}
	st.Planned.Run = &noun.Run{Fills: balls, Cavities: 1, Copies: 1, Balls: balls, For: wanted, Class: class, Kinds: kinds}
	st.Made = &out
	if broken > 0 {
		st.Breaks = []noun.Break{{At: at, Count: broken, Why: "tore"}}
	}
	return []noun.Piece{p}, []noun.Step{st}
}

// TestWhatBrokeTeachesAtOnce: a break changes what is still to press in the same batch.
// Ordinary pieces are Beta(1, 19); one of two broken leaves Beta(2, 20), of which one
// more is enough with 20/22 = 0.909, two with 1 - 2·3/(22·23) = 0.988.
func TestWhatBrokeTeachesAtOnce(t *testing.T) {
	t.Parallel()
	for _, c := range []struct {
		name                       string
		wanted, balls, out, broken int
		class                      string
		kinds, short, more         int
		says                       string
	}{
		{"nothing broke: the plan is believed", 30, 33, 10, 0, "ordinary", 1, 0, 0, "3 spares left."},
		{"one of two broke", 2, 2, 2, 1, "ordinary", 1, 1, 2, "1 short: the spares are used up. With 1 of 2 broken, make 2 more than planned to be sure."},
		{"a step of before the class was kept", 2, 2, 2, 1, "", 0, 1, 2, "1 short"},
		{"two of three whole is enough", 2, 3, 3, 1, "ordinary", 1, 0, 0, "No spare is left."},
		{"one broke, one is still to come", 2, 3, 2, 1, "ordinary", 1, 0, 1, "No spare is left. With 1 of 2 broken, make 1 more than planned to be sure."},
		{"of a kind that takes no spares", 2, 2, 2, 1, "none", 1, 1, 1, "1 short: the spares are used up."},
		{"certain enough for one kind", 1, 2, 1, 1, "robust", 1, 0, 0, "No spare is left."},
	} {
		ps, steps := pressing(c.wanted, c.balls, c.out, c.broken, c.class, c.kinds)
		got := Tallies(ps, steps)[0]
		if got.Short != c.short || got.More != c.more || !strings.HasPrefix(got.Says, c.says) {
			t.Errorf("%s: %+v", c.name, got)
		}
		ps[0].Extras = []int{max(1, got.More)}
		if after := Tallies(ps, steps)[0]; after.Short != 0 || after.More != 0 {
			t.Errorf("%s, that many pressed again: %+v", c.name, after)
		}
	}
}
