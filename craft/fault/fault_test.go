package fault

import (
	"errors"
	"math"
	"strings"
	"testing"
)

type part struct {
	MassG *float64 `json:"massG" need:"true" in:"mass"`
}

type asked struct {
	Name        *string   `json:"name" need:"true" of:"round square"`
	ThicknessMM *float64  `json:"thicknessMM" in:"thickness"`
	Count       *int      `json:"count" def:"3" in:"1..10"`
	Kind        *string   `json:"kind" def:"plain"`
	Density     *float64  `json:"densityGPerML" in:"density"`
	Parts       []part    `json:"parts" most:"2"`
	Hours       []float64 `json:"hours" in:"0..24"`
	One         *part     `json:"one"`
}

func TestCheckFillsInDefaults(t *testing.T) {
	in := asked{Name: new("round")}
	if err := Check(&in); err != nil {
		t.Fatal(err)
	}
	if *in.Count != 3 || *in.Kind != "plain" || in.ThicknessMM != nil {
		t.Errorf("%+v", in)
	}
}

func TestCheckNamesTheFieldAndWhatWouldBeRight(t *testing.T) {
	ok := func() asked { return asked{Name: new("round")} }
	for _, c := range []struct {
		say, code, field, words string
		spoil                   func(*asked)
	}{
		{"missing", Required, "name", "missing", func(a *asked) { a.Name = nil }},
		{"empty", Required, "name", "empty", func(a *asked) { a.Name = new("") }},
		{"not in the list", UnknownValue, "name", "one of round, square, not \"oval\"", func(a *asked) { a.Name = new("oval") }},
		{"too thick", OutOfRange, "thicknessMM", "from 0.2 to 20 mm, not 40", func(a *asked) { a.ThicknessMM = new(40.0) }},
		{"a mixed inch read wrong", OutOfRange, "thicknessMM", "Did you mean 1/8 in?", func(a *asked) { a.ThicknessMM = new(28.575) }},
		{"no mixed inch", OutOfRange, "thicknessMM", "not 27.9.", func(a *asked) { a.ThicknessMM = new(27.9) }},
		{"no number", OutOfRange, "thicknessMM", "finite", func(a *asked) { a.ThicknessMM = new(math.NaN()) }},
		{"without end", OutOfRange, "thicknessMM", "finite", func(a *asked) { a.ThicknessMM = new(math.Inf(1)) }},
		{"kg/m3", OutOfRange, "densityGPerML", "Divide by 1000", func(a *asked) { a.Density = new(1350.0) }},
		{"too few", OutOfRange, "count", "from 1 to 10", func(a *asked) { a.Count = new(0) }},
		{"a long list", OutOfRange, "parts", "at most 2, not 3", func(a *asked) { a.Parts = make([]part, 3) }},
		{"inside a list", Required, "parts[1].massG", "missing", func(a *asked) { a.Parts = []part{{new(1.0)}, {}} }},
		{"a number of a list", OutOfRange, "hours[1]", "from 0 to 24", func(a *asked) { a.Hours = []float64{1, 25} }},
		{"inside another", OutOfRange, "one.massG", "0.01 to 50000 g", func(a *asked) { a.One = &part{new(0.0)} }},
	} {
		in := ok()
		c.spoil(&in)
		var f *Fault
		if err := Check(&in); !errors.As(err, &f) || f.Code != c.code || f.Field != c.field || !strings.Contains(f.Message, c.words) {
			t.Errorf("%s: %v, want %s on %s with %q", c.say, err, c.code, c.field, c.words)
		}
	}
}

func TestCheckLooksOnlyWhereItIsTold(t *testing.T) {
	in := asked{Name: new("oval"), Count: new(99)}
	if err := Check(&in, "thicknessMM"); err != nil {
		t.Error(err)
	}
	if err := Check(&in, "count"); err == nil || !strings.HasPrefix(err.Error(), "count: ") {
		t.Error(err)
	}
}
