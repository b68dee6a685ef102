package piece

import (
	"math"
	"testing"
)

// Hands that always take half as long again are believed the more the more often they did.
func TestPaceIsBelievedSlowly(t *testing.T) {
	t.Parallel()
	var steps []Clocked
	was := 1.0
	for n := 1; n <= 20; n++ {
		steps = append(steps, Clocked{Usual: 10, Took: 15})
		p := PaceOf(steps)
		if p.Factor < was-1e-12 || p.Factor > 1.5 || p.From != min(n, latestSteps) {
			t.Errorf("%d steps: %+v after %.3f", n, p, was)
		}
		was = p.Factor
	}
	// three of the usual and twelve of half as long again: (3 + 18)/15
	if math.Abs(was-1.4) > 1e-12 {
		t.Errorf("%.4f, want 1.4", was)
	}
	// one interruption of an hour moves it by a quarter at most
	if p := PaceOf([]Clocked{{Usual: 5, Took: 65}}); math.Abs(p.Factor-1.25) > 1e-12 {
		t.Errorf("one interruption: %+v", p)
	}
	if p := PaceOf([]Clocked{{Usual: 0, Took: 4}, {Usual: 5, Took: 0}}); p.Factor != 1 || p.From != 0 {
		t.Errorf("nothing clocked: %+v", p)
	}
}

// Two people have two paces.
func TestPacesByPerson(t *testing.T) {
	t.Parallel()
	names, paces := PacesByPerson([]Clocked{{10, 8, "Ines"}, {10, 14, "Tobi"}, {10, 8, "Ines"}, {10, 10, ""}})
	if len(names) != 2 || names[0] != "Ines" || !(paces["Ines"].Factor < 1) || paces["Ines"].From != 2 || !(paces["Tobi"].Factor > 1) {
		t.Errorf("%v %v", names, paces)
	}
}
