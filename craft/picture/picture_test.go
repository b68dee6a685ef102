package picture

import (
	"math"
	"regexp"
	"strconv"
	"strings"
	"testing"

	"dustyfern/craft/technique"
)

// usual numbers of a way of making: its own example, and what its tools are as usual.
func usual(t *testing.T, way *technique.Technique) Numbers {
	t.Helper()
	in := way.Example.Input
	in.Technique = &way.Key
	out, err := technique.Ours.Chain(in)
	if err != nil {
		t.Fatalf("%s: %v", way.Key, err)
	}
	f, err := technique.Ours.Foresee(in)
	if err != nil {
		t.Fatalf("%s: %v", way.Key, err)
	}
	n := Numbers{"n": float64(out.Batches[0].Pieces)}
	for _, from := range []map[string]float64{f.Base, f.Names, out.Names} {
		for name, x := range from {
			n[name] = x
		}
	}
	return n
}

// Each picture that a way of making names is drawn, from numbers that the way has.
func TestEveryPictureIsDrawn(t *testing.T) {
	t.Parallel()
	number := regexp.MustCompile(`-?[0-9.]+`)
	for _, way := range technique.Ours.All() {
		n := usual(t, way)
		for _, x := range way.Pictures {
			own := Numbers{"n": n["n"]}
			for _, name := range x.From {
				if _, there := n[name]; !there {
					t.Errorf("%s, %q: nothing gives %s", way.Key, x.Draws, name)
				}
				own[name] = n[name]
			}
			d := Draw(x.Draws, own)
			if d == nil {
				t.Errorf("%s: %q is not drawn of %v", way.Key, x.Draws, own)
				continue
			}
			if !(d.WidthMM > 0 && d.HeightMM > 0 && d.WidthMM < 1e4 && d.HeightMM < 1e4) {
				t.Errorf("%s: %q is %.0f × %.0f mm", way.Key, x.Draws, d.WidthMM, d.HeightMM)
			}
			for _, s := range d.Shapes {
				if strings.ContainsAny(s.Path, "NI") {
					t.Errorf("%s: %q draws %s", way.Key, x.Draws, s.Path)
				}
				for _, m := range number.FindAllString(s.Path, -1) {
					if v, err := strconv.ParseFloat(m, 64); err != nil || math.Abs(v) > 1e4 {
						t.Errorf("%s: %q has %s", way.Key, x.Draws, m)
					}
				}
			}
			if !Known(x.Draws) || len(d.Words) == 0 {
				t.Errorf("%s: %q says no size", way.Key, x.Draws)
			}
		}
	}
}

// A picture follows its numbers: what is twice as long is drawn twice as long.
func TestPicturesAreToScale(t *testing.T) {
	t.Parallel()
	length := func(draws string, n Numbers, says string) float64 {
		t.Helper()
		d := Draw(draws, n)
		if d == nil {
			t.Fatalf("%q is not drawn", draws)
		}
		for _, w := range d.Words {
			if strings.HasPrefix(w.Says, says) {
				return w.LengthMM
			}
		}
		t.Fatalf("%q says no %q: %+v", draws, says, d.Words)
		return 0
	}
	bow := "strips for one bow at true length: two loops, tails, knot"
	n := Numbers{"loopStripMM": 130, "tailStripMM": 90, "knotStripMM": 43, "widthMM": 30}
	if l := length(bow, n, "loop"); l != 130 {
		t.Errorf("a loop of 130 mm is drawn %.1f mm", l)
	}
	if d := Draw(bow, n); math.Abs(d.WidthMM-130) > 5 {
		t.Errorf("the longest strip is 130 mm, the picture %.1f", d.WidthMM)
	}
	n["tailStripMM"] = 0 // no tails, no strips for them
	if d, all := Draw(bow, n), len(Draw(bow, Numbers{"loopStripMM": 130, "tailStripMM": 90, "knotStripMM": 43, "widthMM": 30}).Shapes); len(d.Shapes) != all-4 {
		t.Errorf("%d shapes without tails, %d with", len(d.Shapes), all)
	}
	rose := "strip and the rose it makes, from above"
	if l := length(rose, Numbers{"lengthMM": 180, "ribbonMM": 25, "roseMM": 27, "turns": 4}, "rose"); math.Abs(l-27) > 1e-9 {
		t.Errorf("a rose of 27 mm is drawn %.1f mm", l)
	}
	taken := 0
	for _, s := range Draw("domes on their stands, taken and free", Numbers{"stand.places": 12, "n": 7}).Shapes {
		if s.Kind == Taken {
			taken++
		}
	}
	if taken != 7 {
		t.Errorf("%d of 7 domes stand", taken)
	}
}

// Odd numbers draw nothing that is not there, and break nothing.
func TestOddNumbersAreDrawnOrLeftOut(t *testing.T) {
	t.Parallel()
	for draws := range pictures {
		for _, x := range []float64{0, -1, 1e4, 1e9, math.NaN(), math.Inf(1)} {
			n := Numbers{"n": x}
			for _, way := range technique.Ours.All() {
				for _, p := range way.Pictures {
					if p.Draws == draws {
						for _, name := range p.From {
							n[name] = x
						}
					}
				}
			}
			if d := Draw(draws, n); d != nil {
				for _, s := range d.Shapes {
					if strings.Contains(s.Path, "NaN") || strings.Contains(s.Path, "Inf") {
						t.Errorf("%q of %g: %s", draws, x, s.Path)
					}
				}
			}
		}
	}
	if Draw("a unicorn", nil) != nil {
		t.Error("what nobody can draw is drawn")
	}
}
