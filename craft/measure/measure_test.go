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

func TestSumsRangesAndIngredients(t *testing.T) {
	for text, want := range map[string]struct {
		value, low, high float64
		unit, of         string
	}{
		"1 lb 4 oz of sugar paste":  {566.990463, 566.990463, 566.990463, "g", "sugar paste"},
		"2 cups and 1 tbsp":         {515, 515, 515, "ml", ""},
		"5 ft 3 in":                 {1600.2, 1600.2, 1600.2, "mm", ""},
		"1 h 30 min":                {90, 90, 90, "min", ""},
		"2-3 mm":                    {2.5, 2, 3, "mm", ""},
		"2 to 3 cm":                 {25, 20, 30, "mm", ""},
		"8 mm to 1 cm":              {9, 8, 10, "mm", ""},
		"from 10 to 12 min":         {11, 10, 12, "min", ""},
		"between 1/4 and 1/2 in":    {9.525, 6.35, 12.7, "mm", ""},
		"1-1/2 in":                  {38.1, 38.1, 38.1, "mm", ""},
		"about 1 kg white paste":    {1000, 1000, 1000, "g", "white paste"},
		"1 rounded tsp CMC":         {6.25, 6.25, 6.25, "ml", "cmc"},
		"overnight":                 {600, 480, 960, "min", ""},
		"2,400 g":                   {2400, 2400, 2400, "g", ""},
		"2,5 g":                     {2.5, 2.5, 2.5, "g", ""},
		"three quarters of a cup":   {187.5, 187.5, 187.5, "ml", ""},
		"a hundred grams":           {100, 100, 100, "g", ""},
		"a dash":                    {0.625, 0.625, 0.625, "ml", ""},
		"20 drops":                  {1, 1, 1, "ml", ""},
		"12 oz.":                    {340.19427750, 340.1942775, 340.1942775, "g", ""},
		"six and a half inches":     {165.1, 165.1, 165.1, "mm", ""},
		"2 lb plus 2 oz":            {963.883786, 963.883786, 963.883786, "g", ""},
		"70 degrees fahrenheit":     {21.1111111, 21.1111111, 21.1111111, "C", ""},
		"an eighth of an inch":      {3.175, 3.175, 3.175, "mm", ""},
		"half a lb of flower paste": {226.796185, 226.796185, 226.796185, "g", "flower paste"},
	} {
		got, err := Parse(ParseIn{Text: &text})
		if err != nil || got.Ambiguous || math.Abs(*got.Value-want.value) > 1e-5 || math.Abs(*got.Low-want.low) > 1e-5 || math.Abs(*got.High-want.high) > 1e-5 || got.Unit != want.unit || got.Ingredient != want.of {
			t.Errorf("%q: %+v %v, want %+v", text, got, err, want)
		}
	}
}

func TestDoubtfulTextsAreAskedAndSettled(t *testing.T) {
	parse := func(in ParseIn) Parsed {
		t.Helper()
		out, err := Parse(in)
		if err != nil {
			t.Fatalf("%q: %v", *in.Text, err)
		}
		return out
	}
	for text, n := range map[string]int{"2 c": 2, "70°": 2, "a pinch": 2, "2 sticks": 3, "1 sachet": 3, "2 leaves of gelatine": 3, "50/50": 2, "3:1": 2} {
		if out := parse(ParseIn{Text: &text}); !out.Ambiguous || len(out.Choices) != n {
			t.Errorf("%q: %+v, want %d choices", text, out, n)
		}
	}
	// what the kitchen has settled is not asked again
	if out := parse(ParseIn{Text: new("a pinch"), PinchTsp: new(0.125)}); out.Ambiguous || math.Abs(*out.Value-0.625) > 1e-12 || !out.Approximate {
		t.Errorf("%+v", out)
	}
	if out := parse(ParseIn{Text: new("2 sachets"), UnitGrams: map[string]float64{"sachet": 7}}); out.Ambiguous || *out.Value != 14 {
		t.Errorf("%+v", out)
	}
	// and neither is what the place wants
	if out := parse(ParseIn{Text: new("2 c"), Want: new("volume")}); out.Ambiguous || *out.Value != 500 {
		t.Errorf("%+v", out)
	}
	if out := parse(ParseIn{Text: new("20 c"), Want: new("temperature")}); out.Ambiguous || *out.Value != 20 {
		t.Errorf("%+v", out)
	}
	if out := parse(ParseIn{Text: new("30"), Want: new("share")}); !out.Ambiguous || out.Choices[0].Value != 0.3 || math.Abs(out.Choices[1].Value-30.0/31) > 1e-12 {
		t.Errorf("%+v", out)
	}
	if out := parse(ParseIn{Text: new("3:1"), Want: new("share")}); out.Ambiguous || *out.Value != 0.75 {
		t.Errorf("%+v", out)
	}
	for _, in := range []ParseIn{{Text: new("a pinch"), PinchTsp: new(0.3)}, {Text: new("1 g"), UnitGrams: map[string]float64{"bucket": 3}}, {Text: new("1 stick"), UnitGrams: map[string]float64{"stick": -1}},
		{Text: new("1 g"), Want: new("beauty")}, {Text: new("12"), Want: new("mass")}, {Text: new("4 g"), Want: new("length")}, {Text: new("120 %"), Want: new("share")}, {Text: new("setting 3")}} {
		if out, err := Parse(in); err == nil {
			t.Errorf("%q: %+v", *in.Text, out)
		}
	}
}

func TestSpoonsDifferByPlace(t *testing.T) {
	for school, ml := range map[string]float64{"us": 4.92892159375, "metric": 5, "au": 5} {
		out, err := Parse(ParseIn{Text: new("1 tsp"), Spoons: &school})
		if err != nil || math.Abs(*out.Value-ml) > 1e-12 {
			t.Errorf("%s: %v %v", school, *out.Value, err)
		}
	}
	if out, _ := Parse(ParseIn{Text: new("1 tbsp"), Spoons: new("au")}); *out.Value != 20 {
		t.Error(*out.Value)
	}
	for tsp, want := range map[float64]string{0: "none", 0.01: "less than a smidgen", 0.03: "a smidgen", 0.06: "a pinch", 0.13: "1/8 tsp", 1: "1 tsp", 3: "1 tbsp", 4: "1 tbsp + 1 tsp", 5.5: "1 tbsp + 2 1/2 tsp"} {
		if got := FormatSpoons(tsp, "metric"); got != want {
			t.Errorf("%v tsp: %q, want %q", tsp, got, want)
		}
	}
	if got := FormatSpoons(48, "us"); got != "1 cup" {
		t.Error(got)
	}
	if got := FormatSpoons(20, "metric"); got != "100 ml" {
		t.Error(got)
	}
	for in, want := range map[float64]string{0: "0 in", 0.01: "less than 1/16 in", 0.5: "1/2 in", 1.0625: "1 1/16 in", 12: "12 in"} {
		if got := FormatInches(in); got != want {
			t.Errorf("%v in: %q", in, got)
		}
	}
}

func TestConvertingByDensity(t *testing.T) {
	convert := func(in ConvertIn) (Converted, error) { return Convert(in) }
	// a metric teaspoon of CMC: 5 ml at 0.65 is 3.25 g, from 2.5 to 4
	out, err := convert(ConvertIn{Value: new(1.0), Unit: new("tsp"), To: new("g"), Material: new("cmc")})
	if err != nil || math.Abs(out.Value-3.25) > 1e-9 || *out.Low != 2.5 || *out.High != 4 || out.Text != "3.3 g" {
		t.Errorf("%+v %v", out, err)
	}
	// the other way round the dense end gives the least volume
	out, err = convert(ConvertIn{Value: new(3.25), Unit: new("g"), To: new("tsp"), Material: new("cmc")})
	if err != nil || math.Abs(out.Value-1) > 1e-9 || *out.Low > out.Value || *out.High < out.Value {
		t.Errorf("%+v %v", out, err)
	}
	out, err = convert(ConvertIn{Value: new(100.0), Unit: new("g"), To: new("ml"), DensityGPerML: new(1.25)})
	if err != nil || out.Value != 80 || out.Low != nil {
		t.Errorf("%+v %v", out, err)
	}
	for say, in := range map[string]ConvertIn{
		"grams to spoons of nothing": {Value: new(1.0), Unit: new("g"), To: new("tsp")}, "a length to a mass": {Value: new(1.0), Unit: new("mm"), To: new("g")},
		"no such unit": {Value: new(1.0), Unit: new("stone"), To: new("g")}, "no such material": {Value: new(1.0), Unit: new("g"), To: new("ml"), Material: new("gravel")},
		"below nothing": {Value: new(-1.0), Unit: new("g"), To: new("oz")}, "colder than cold": {Value: new(-500.0), Unit: new("F"), To: new("C")}, "warmth to length": {Value: new(20.0), Unit: new("C"), To: new("mm")},
	} {
		if out, err := convert(in); err == nil {
			t.Errorf("%s: %+v", say, out)
		}
	}
}

// TestNumbersStayFinite: what is more than a number can hold is refused beside
// its field, at both ends.
func TestNumbersStayFinite(t *testing.T) {
	for _, c := range []struct{ unit, to string }{{"kg", "mg"}, {"cup", "ml"}, {"day", "s"}, {"ft", "mm"}} {
		for _, v := range []float64{1e308, -1e308} {
			_, err := Convert(ConvertIn{Value: &v, Unit: &c.unit, To: &c.to})
			if f := (*fault.Fault)(nil); !errors.As(err, &f) || f.Field != "value" {
				t.Errorf("%v %s in %s: %v", v, c.unit, c.to, err)
			}
		}
		if out, err := Convert(ConvertIn{Value: new(1e-300), Unit: &c.unit, To: &c.to}); err != nil || out.Value <= 0 {
			t.Errorf("%s in %s: %+v %v", c.unit, c.to, out, err)
		}
	}
}
