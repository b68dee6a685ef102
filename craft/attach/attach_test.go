package attach

import (
	"errors"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"dustyfern/craft/fault"
)

func choose(t *testing.T, in ChooseIn) ChooseOut {
	t.Helper()
	out, err := Choose(in)
	if err != nil {
		t.Fatal(err)
	}
	return out
}

func pick[T any](r *rand.Rand, of ...T) T { return of[r.IntN(len(of))] }

// anyJoin draws a join that somebody may have.
func anyJoin(r *rand.Rand) ChooseIn {
	in := ChooseIn{MassG: new(math.Exp(r.Float64()*8 - 2)), Place: new(pick(r, "side", "top", "topEdge", "board", "piece")), PieceState: new(pick(r, "pliable", "semiDry", "dry", "cold")),
		Ground:      new(pick(r, "sugarPaste", "royalIcing", "freshIcing", "crustedIcing", "dryPiece", "freshPiece", "chocolate", "biscuit")),
		PieceFatSet: r.IntN(4) == 0, WaterSensitive: r.IntN(3) == 0, Line: r.IntN(3) == 0, RoomTempC: new(15 + 12*r.Float64()), RoomRHPercent: new(30 + 50*r.Float64())}
	if r.IntN(2) == 0 {
		in.ThicknessMM = new(1 + 10*r.Float64())
	}
	if r.IntN(2) == 0 {
		in.Load = new(pick(r, "hanging", "resting", "goesRound", "standing"))
	}
	if r.IntN(2) == 0 {
		in.WidthMM, in.TierDiameterMM = new(10+80*r.Float64()), new(120+200*r.Float64())
	}
	if r.IntN(3) == 0 {
		in.Avoid = []string{pick(r, "egg", "milk", "soya", "gelatine", "animal", "alcohol")}
	}
	return in
}

// TestEveryAttacherIsJudged: each is ours, offered or refused with a reason; what is
// offered holds no more than its limit, and who avoids something is not given it.
func TestEveryAttacherIsJudged(t *testing.T) {
	r := rand.New(rand.NewPCG(14, 1))
	fits := map[string]int{}
	for range 5000 {
		in := anyJoin(r)
		out := choose(t, in)
		all := slices.Clone(out.Others)
		if out.Fits {
			all = append(all, out.Attacher)
		} else if out.WayOut == "" {
			t.Fatalf("nothing holds and there is no way out: %+v", out)
		}
		for _, x := range out.Refused {
			all = append(all, x.Attacher)
			if x.Why == "" {
				t.Fatalf("refused for nothing: %+v", out)
			}
		}
		if slices.Sort(all); len(slices.Compact(all)) != len(kepts) {
			t.Fatalf("not each once: %v", all)
		}
		fits[out.Attacher]++
		if slices.Contains(in.Avoid, "egg") && (out.Attacher == "royalIcing" || slices.Contains(out.Others, "royalIcing")) {
			t.Fatal("royal icing where egg is avoided")
		}
		if out.ShareOfLimit != nil && (*out.ShareOfLimit <= 0 || *out.ShareOfLimit > 1) {
			t.Fatalf("a load of %g limits", *out.ShareOfLimit)
		}
	}
	for _, a := range Attachers() {
		if fits[a] == 0 {
			t.Errorf("%s is never ours", a)
		}
	}
}

// TestMoreWeightNeedsNoLess: of a hanging piece, what holds the heavier holds the lighter.
func TestMoreWeightNeedsNoLess(t *testing.T) {
	last := -1
	strength := func(a string) int { return slices.Index([]string{"water", "gumGlue", "royalIcing", ""}, a) }
	for g := 0.5; g < 90; g *= 1.1 {
		out := choose(t, ChooseIn{MassG: new(g), PieceState: new("pliable"), Avoid: []string{"gelatine"}})
		if s := strength(out.Attacher); s < last {
			t.Fatalf("%.1f g: %q after a stronger one", g, out.Attacher)
		} else {
			last = s
		}
	}
	if last != 3 {
		t.Error("nothing is too heavy")
	}
}

// TestTheStudiosOwnLimits: a join that failed moves what an attacher may carry.
func TestTheStudiosOwnLimits(t *testing.T) {
	in := ChooseIn{MassG: new(4.0), PieceState: new("pliable")}
	if got := choose(t, in).Attacher; got != "water" {
		t.Fatalf("4 g: %s", got)
	}
	in.Limits = map[string]Limit{"water": {HangsG: 3, PerCM2: 0.6}}
	if got := choose(t, in).Attacher; got != "gumGlue" {
		t.Errorf("4 g where water held 3: %s", got)
	}
	in.Limits = map[string]Limit{"nothing": {1, 1}}
	var f *fault.Fault
	if _, err := Choose(in); !errors.As(err, &f) || f.Field != "limits.nothing" {
		t.Errorf("a limit of nothing: %v", err)
	}
}

// TestOrderKeepsItsWord: one pair of hands, each thing after what carries it.
func TestOrderKeepsItsWord(t *testing.T) {
	r := rand.New(rand.NewPCG(14, 2))
	for range 300 {
		var in OrderIn
		n := 1 + r.IntN(20)
		for i := range n {
			j := Join{ID: new(string(rune('a' + i))), MassG: new(0.5 + 20*r.Float64()), Pieces: new(1 + r.IntN(6)), SettleMinutes: new(float64(r.IntN(40))), ReadyAtMinutes: new(float64(r.IntN(30))), Line: r.IntN(4) == 0}
			for k := range i {
				if r.IntN(6) == 0 {
					j.On = append(j.On, string(rune('a'+k)))
				}
			}
			if r.IntN(4) == 0 {
				j.UntilMinutes = new(*j.ReadyAtMinutes + float64(r.IntN(20)))
			}
			in.Joins = append(in.Joins, j)
		}
		out, err := Order(in)
		if err != nil {
			t.Fatal(err)
		}
		at, hands, last := map[string]Put{}, 0.0, 0.0
		for _, p := range out.Order {
			if p.StartMinutes < last-1e-9 {
				t.Fatal("two things at once")
			}
			last = p.EndMinutes
			hands += p.EndMinutes - p.StartMinutes
			at[p.ID] = p
		}
		if len(at) != n || math.Abs(hands+out.IdleMinutes-out.HandsMinutes) > 1e-6 {
			t.Fatalf("%d of %d, %g + %g is not %g", len(at), n, hands, out.IdleMinutes, out.HandsMinutes)
		}
		for _, j := range in.Joins {
			start := at[*j.ID].StartMinutes
			for _, id := range j.On {
				k := in.Joins[id[0]-'a']
				if start < at[id].EndMinutes+*k.SettleMinutes-1e-9 {
					t.Fatalf("%s before %s has settled", *j.ID, id)
				}
			}
			if late := j.UntilMinutes != nil && start > *j.UntilMinutes+1e-9; late != slices.Contains(out.Late, *j.ID) {
				t.Fatalf("%s late: %t", *j.ID, late)
			}
		}
	}
}
