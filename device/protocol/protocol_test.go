package protocol

import (
	"math"
	"testing"
)

func TestLines(t *testing.T) {
	for text, want := range map[string]Line{"4.23 g S": {4.23, true}, "  12,5 g": {12.5, true}, "4.2 g U": {4.2, false}, "-0.10 g S": {-0.1, true}, "+ 5 g S": {5, true}, "1 oz S": {28.349523125, true}, "0.25 kg": {250, true}, "4.23 g S\r": {4.23, true}} {
		if got, err := ParseLine(text); err != nil || math.Abs(got.Grams-want.Grams) > 1e-9 || got.Stable != want.Stable {
			t.Errorf("%q: %+v %v", text, got, err)
		}
	}
	if got, err := ParseLine("U"); err != nil || !math.IsNaN(got.Grams) || got.Stable {
		t.Errorf("%+v %v", got, err)
	}
	for _, text := range []string{"", "S", "4.23", "g", "1e9 g S", "4.2.3 g", "Inf g S", "🍰 g"} {
		if got, err := ParseLine(text); err == nil {
			t.Errorf("%q was read as %+v", text, got)
		}
	}
}

func FuzzParseLine(f *testing.F) {
	for _, s := range []string{"4.23 g S", "U", "1,5 kg U", "9999999.999999 lb"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if l, err := ParseLine(s); err == nil && (math.IsInf(l.Grams, 0) || math.Abs(l.Grams) > 1e11) {
			t.Fatalf("%q: %v", s, l.Grams)
		}
	})
}

func TestHeatLines(t *testing.T) {
	for text, want := range map[string]float64{"149.2 C": 149.2, " 20,5 C": 20.5, "300 F": 148.888889, "-5 C": -5, "+21 °C": 21, "100 C\r": 100} {
		if got, err := ParseHeat(text); err != nil || math.Abs(got-want) > 1e-5 {
			t.Errorf("%q: %v %v", text, got, err)
		}
	}
	for _, text := range []string{"--", "---"} {
		if got, err := ParseHeat(text); err != nil || !math.IsNaN(got) {
			t.Errorf("%q: %v %v", text, got, err)
		}
	}
	for _, text := range []string{"", "C", "149", "1e3 C", "9999 C", "-80 C", "Inf C", "149.2 K", "🔥 C"} {
		if got, err := ParseHeat(text); err == nil {
			t.Errorf("%q was read as %v", text, got)
		}
	}
}

func FuzzParseHeat(f *testing.F) {
	for _, s := range []string{"149.2 C", "300 F", "--", "+21 °C"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if c, err := ParseHeat(s); err == nil && !math.IsNaN(c) && (c < coldestC || c > hottestC) {
			t.Fatalf("%q: %v", s, c)
		}
	})
}

func TestAirLines(t *testing.T) {
	for text, want := range map[string]Air{"kitchen 21.3 C 48 %": {"kitchen", 21.3, 48}, "  BOX-2 25,5 °C 40.25 % ": {"box-2", 25.5, 40.25}, "attic 68 F 55%\r": {"attic", 20, 55}, "cellar -3 C 90 %": {"cellar", -3, 90}} {
		if got, err := ParseAir(text); err != nil || got.Place != want.Place || math.Abs(got.TempC-want.TempC) > 1e-9 || got.RHPercent != want.RHPercent {
			t.Errorf("%q: %+v %v", text, got, err)
		}
	}
	for _, text := range []string{"", "21 C 48 %", "kitchen 21 C", "kitchen 21 48", "kitchen C %", "two words 21 C 48 %", "kitchen 1e3 C 48 %", "#"} {
		if got, err := ParseAir(text); err == nil {
			t.Errorf("%q was read as %+v", text, got)
		}
	}
}
