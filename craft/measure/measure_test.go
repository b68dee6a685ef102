package measure

import (
	"errors"
	"math"
	"testing"

	"dustyfern/craft/fault"
)

func TestPeopleWriteAmountsInManyWays(t *testing.T) {
	for text, want := range map[string]struct {
		value float64
		unit  string
	}{
		"4.2 g": {4.2, "g"}, "1/8 oz": {3.543690390625, "g"}, "1½ tsp": {7.5, "ml"}, "5' 3\"": {1600.2, "mm"}, "half a teaspoon": {2.5, "ml"},
		"three quarters of an inch": {19.05, "mm"}, "between 2 and 3 mm": {2.5, "mm"}, "2 lb and 4 oz": {1020.5828325, "g"}, "twenty five g": {25, "g"},
		"-5 C": {-5, "C"}, "70 °F": {21.111111, "C"}, "a couple of cups": {500, "ml"}, "1 scant tsp": {4.5, "ml"}, "10 to 12 minutes": {11, "min"}, "30 percent": {0.3, "share"},
		"2 fl oz": {59.147059125, "ml"}, "one and three quarters lb": {793.7866475, "g"}, "an hour": {60, "min"}, "pinch": {0, "?"},
	} {
		got, err := Parse(ParseIn{Text: &text})
		if want.unit == "?" {
			if err != nil || !got.Ambiguous {
				t.Errorf("%q should be asked: %+v %v", text, got, err)
			}
			continue
		}
		if err != nil || got.Ambiguous || math.Abs(*got.Value-want.value) > 1e-5 || got.Unit != want.unit {
			t.Errorf("%q: %+v %v, want %v", text, got, err, want)
		}
	}
}

func TestWhatIsNoAmountIsRefused(t *testing.T) {
	for text, code := range map[string]string{"": fault.Required, "sugar": fault.Syntax, "3x4 mm": fault.Syntax, "1,23,4 g": fault.Syntax, "-3 g": fault.OutOfRange, "-300 °C": fault.OutOfRange,
		"99999999 g": fault.OutOfRange, "1 lb plus 3 mm": fault.Contradiction, "24 gauge": fault.Syntax, "1:2 mm": fault.Syntax, "🍰": fault.Syntax} {
		_, err := Parse(ParseIn{Text: &text})
		var f *fault.Fault
		if !errors.As(err, &f) || f.Code != code || f.Field != "text" || f.Message == "" {
			t.Errorf("%q: %v, want %s", text, err, code)
		}
	}
}

func TestBenchTexts(t *testing.T) {
	for g, want := range map[float64]string{0.04: "less than 0.1 g", 4.24: "4.2 g", 9.96: "10 g", 64.4: "64 g", 999.6: "1 kg", 1282: "1.28 kg", 2500: "2.5 kg"} {
		if got := FormatMass(g); got != want {
			t.Errorf("%v g prints %q, want %q", g, got, want)
		}
	}
	for mm, want := range map[float64]string{1.24: "1.2 mm", 18.3: "18.5 mm", 660.4: "660 mm"} {
		if got := FormatLength(mm); got != want {
			t.Errorf("%v mm prints %q, want %q", mm, got, want)
		}
	}
	if got := FormatSpoons(0.5, "us"); got != "1/2 tsp" {
		t.Error(got)
	}
}

// A pound there and back is a pound, whatever stands between.
func TestConversionsInvert(t *testing.T) {
	for _, pair := range [][2]string{{"g", "lb"}, {"ml", "cup"}, {"mm", "ft"}, {"C", "F"}, {"min", "day"}, {"tsp", "flOz"}} {
		x := 37.25
		a, err := Convert(ConvertIn{Value: &x, Unit: &pair[0], To: &pair[1]})
		if err != nil {
			t.Fatal(err)
		}
		b, err := Convert(ConvertIn{Value: &a.Value, Unit: &pair[1], To: &pair[0]})
		if err != nil || math.Abs(b.Value-x) > 1e-9 {
			t.Errorf("%v: %v %v", pair, b.Value, err)
		}
	}
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"1½ tsp", "between 1 and 2 and 3 mm", "a/b", "1-1/2-2 cups", "°C", "50/50", "2 sachets of gelatine", "from to", "one and a half and a", "~~~", "5' 3\"", ",,,1"} {
		f.Add(s, "any")
		f.Add(s, "mass")
	}
	f.Fuzz(func(t *testing.T, text, want string) {
		out, err := Parse(ParseIn{Text: &text, Want: &want})
		if err != nil {
			var ft *fault.Fault
			if !errors.As(err, &ft) || ft.Message == "" {
				t.Fatalf("%q: %v", text, err)
			}
			return
		}
		if !out.Ambiguous && (out.Value == nil || math.IsNaN(*out.Value) || math.IsInf(*out.Value, 0) || *out.Low > *out.High) {
			t.Fatalf("%q: %+v", text, out)
		}
	})
}
