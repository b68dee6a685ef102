package drying

import (
	"math"
	"math/rand/v2"
	"testing"
)

// looked is what is noted of a batch that sets at true hours: the hour itself, or only what
// two looks showed.
func looked(dice *rand.Rand, day, model, truth float64, exact bool) Note {
	paste, kind := "halfAndHalf", At
	n := Note{Paste: &paste, DayNumber: &day, ModelHours: &model, Kind: &kind}
	if exact {
		n.Hours = &truth
		return n
	}
	look := model * math.Exp(0.35*dice.NormFloat64()) // an hour at which somebody happened to look
	switch second := look * 2; {
	case truth < look:
		*n.Kind, n.Hours = Before, &look
	case truth < second:
		*n.Kind, n.Hours, n.HoursTo = Between, &look, &second
	default:
		*n.Kind, n.Hours = After, &second
	}
	return n
}

// A kitchen that takes 1.6 times as long is found within five notes: the band is half as
// wide by then, and over 200 kitchens four of five next times lie in it. Looks count as
// well as hours do.
func TestAKitchenIsFoundWithinFiveNotes(t *testing.T) {
	for _, c := range []struct {
		says             string
		exact            bool
		narrow, lo, hi   float64
		slowLo, slowHigh float64
	}{{"hours", true, 0.51, 0.73, 0.87, 1.35, 1.9}, {"looks", false, 0.75, 0.73, 0.89, 1.25, 2.0}} {
		dice := rand.New(rand.NewPCG(8017, 13))
		inside, width := 0, 0.0
		for range 200 {
			own := kitchenSd*dice.NormFloat64() + pasteSd*dice.NormFloat64()
			b := Belief{}
			for i := range 5 {
				b = b.Note(looked(dice, float64(i), 6, 6*math.Exp(own+chanceSd*dice.NormFloat64()), c.exact))
			}
			f, sd := b.Factor("halfAndHalf")
			next := own + chanceSd*dice.NormFloat64()
			if math.Abs(next-math.Log(f)) <= z80*sd {
				inside++
			}
			width += sd / math.Sqrt(kitchenSd*kitchenSd+pasteSd*pasteSd+chanceSd*chanceSd) / 200
		}
		if share := float64(inside) / 200; share < c.lo || share > c.hi {
			t.Errorf("%s: %.2f of the next times lie in the band, 0.80 should", c.says, share)
		}
		if width > c.narrow {
			t.Errorf("%s: after five notes the band is %.2f as wide", c.says, width)
		}
		b := Belief{}
		for i := range 5 {
			b = b.Note(looked(dice, float64(i), 6, 6*1.6*math.Exp(0.5*chanceSd*dice.NormFloat64()), c.exact))
		}
		if f, _ := b.Factor("halfAndHalf"); f < c.slowLo || f > c.slowHigh {
			t.Errorf("%s: a kitchen of 1.6 is taken for %.2f", c.says, f)
		}
	}
}

func TestWhatANoteTeaches(t *testing.T) {
	say := func(kind string, day, hours float64) Note {
		paste, model := "halfAndHalf", 4.0
		return Note{Paste: &paste, DayNumber: &day, ModelHours: &model, Kind: &kind, Hours: &hours}
	}
	factor := func(b Belief, paste string) float64 { f, _ := b.Factor(paste); return f }
	slow := Belief{}.Note(say(At, 0, 8))
	if a, b := factor(slow, "halfAndHalf"), factor(slow, "sugarPaste"); !(a > b && b > 1) {
		t.Errorf("a slow note of one paste gives it %.2f and another %.2f", a, b)
	}
	if f := factor(slow, "halfAndHalf"); f >= 2 {
		t.Errorf("one note of twice the time is believed whole: %.2f", f)
	}
	// a slip of the pen moves no more than three spreads
	if a, b := factor(Belief{}.Note(say(At, 0, 700)), "halfAndHalf"), factor(Belief{}.Note(say(At, 0, 70)), "halfAndHalf"); math.Abs(a-b) > 1e-12 || a > 2.3 {
		t.Errorf("700 h give %.3f, 70 h %.3f", a, b)
	}
	// still soft long before the model's hour says nothing, long after it a lot
	if f := factor(Belief{}.Note(say(After, 0, 0.2)), "halfAndHalf"); math.Abs(f-1) > 1e-3 {
		t.Errorf("still soft after 12 minutes moves it to %.4f", f)
	}
	if f := factor(Belief{}.Note(say(After, 0, 9)), "halfAndHalf"); f < 1.5 {
		t.Errorf("still soft after 9 h leaves it at %.2f", f)
	}
	// a year and a half later little of it is left
	if f := factor(slow.Forward(550), "halfAndHalf"); !(f > 1 && f < 1+(factor(slow, "halfAndHalf")-1)/3) {
		t.Errorf("after 550 days it is still %.3f", f)
	}
	// how sure: more notes narrow it, time widens it
	_, one := slow.Factor("halfAndHalf")
	_, two := slow.Note(say(At, 1, 7)).Factor("halfAndHalf")
	_, late := slow.Forward(300).Factor("halfAndHalf")
	if !(two < one && one < late && late < 0.35) {
		t.Errorf("spreads %.3f, %.3f and %.3f", two, one, late)
	}
}

func FuzzBelief(f *testing.F) {
	f.Add(uint8(0), 1.0, 4.0, 3.0)
	f.Add(uint8(3), 200.0, 0.02, 700.0)
	f.Fuzz(func(t *testing.T, kind uint8, day, model, hours float64) {
		kinds := []string{At, After, Before, Between}
		paste, k := "sugarPaste", kinds[int(kind)%4]
		n := Note{Paste: &paste, DayNumber: &day, ModelHours: &model, Kind: &k, Hours: &hours}
		if k == Between {
			n.HoursTo = new(hours * 1.01)
		}
		if n.Check() != nil {
			return
		}
		b := Belief{}
		for range 4 {
			b = b.Note(n)
		}
		if f, sd := b.Factor(paste); !(f > 0.02 && f < 50 && sd >= chanceSd-1e-9 && sd <= 0.36) {
			t.Fatalf("%s day %g, %g h where the model has %g: %g, %g", k, day, hours, model, f, sd)
		}
	})
}

// A piece that is tended: in a bag it waits, on a rack it goes on faster than on a board,
// and what changes nothing changes nothing.
func TestAPieceThatIsTended(t *testing.T) {
	at := func(tended Tending) float64 {
		in := PredictIn{Paste: new("halfAndHalf"), Shape: new("sheet"), ThicknessMM: new(2.0), TempC: new(21.0), RHPercent: new(45.0)}
		f, err := Follow(in, tended)
		if err != nil {
			t.Fatal(err)
		}
		return *f.Firm.P50Hours
	}
	plain := at(Tending{})
	if same := at(Tending{Lies: []Lying{{1, "board", 0.05}}}); math.Abs(same-plain) > 0.01*plain {
		t.Errorf("left where it was: %.2f h, else %.2f h", same, plain)
	}
	bag := at(Tending{Bagged: []Span{{1, 4}}})
	if late := bag - plain; late < 2.5 || late > 3.2 {
		t.Errorf("three hours in a bag make it %.2f h later", late)
	}
	if from0, asked := at(Tending{Bagged: []Span{{0, 3}}}), (PredictIn{Paste: new("halfAndHalf"), Shape: new("sheet"), ThicknessMM: new(2.0), TempC: new(21.0), RHPercent: new(45.0), BaggedUntilHours: new(3.0)}); true {
		f, err := Predict(asked)
		if err != nil || math.Abs(*f.Firm.P50Hours-from0) > 1e-9 {
			t.Errorf("bagged from the start: %.3f h, by the topic %v %v", from0, f.Firm, err)
		}
	}
	if rack := at(Tending{Lies: []Lying{{2, "rack", 0.05}}}); rack >= plain*0.95 {
		t.Errorf("put on a rack after 2 h it takes %.2f h, on the board %.2f h", rack, plain)
	}
	if fan := at(Tending{Lies: []Lying{{2, "board", 1}}}); fan >= plain*0.98 {
		t.Errorf("with a fan from 2 h on it takes %.2f h, without %.2f h", fan, plain)
	}
	if _, err := Follow(PredictIn{Paste: new("halfAndHalf"), Shape: new("sheet"), ThicknessMM: new(2.0), TempC: new(21.0), RHPercent: new(45.0)}, Tending{Lies: []Lying{{1, "sofa", 0}}}); err == nil {
		t.Error("it dries on a sofa")
	}
}

func TestPouredSugarTurnsTacky(t *testing.T) {
	hours := func(rh float64) *float64 {
		out, err := Syrup(SyrupIn{TempC: new(21.0), RHPercent: &rh})
		if err != nil {
			t.Fatal(err)
		}
		return out.P50Hours
	}
	if hours(50) != nil || hours(51) == nil || *hours(70) >= *hours(55) {
		t.Errorf("at 50 %% %v, at 55 %% %v, at 70 %% %v", hours(50), *hours(55), *hours(70))
	}
}
