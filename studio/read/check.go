package read

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
)

// Check refuses a value that set would not have let in. Fields that read a text
// of their own have their own checks beside it.
func (f *Field[T]) Check(row *T) error {
	if f.at == nil {
		return nil
	}
	switch p := f.at(row).(type) {
	case *string:
		return f.checkText(*p)
	case **string:
		if *p != nil {
			return f.checkText(**p)
		}
	case *int:
		return f.checkNumber(float64(*p))
	case **int:
		if *p != nil {
			return f.checkNumber(float64(**p))
		}
	case *float64:
		return f.checkNumber(*p)
	case **float64:
		if *p != nil {
			return f.checkNumber(**p)
		}
	case *[]string:
		for _, code := range *p {
			if !slices.ContainsFunc(f.options, func(o Option) bool { return o.Code == code }) {
				return fault.New(fault.UnknownValue, f.Name, "Choose one of: %s.", List(Says(f.options)))
			}
		}
	case *bool, **time.Time, nil:
	}
	return nil
}

func (f *Field[T]) checkText(s string) error {
	most := f.longest()
	switch {
	case s == "" && f.Must:
		return fault.New(fault.Required, f.Name, "This cannot be left empty.")
	case len([]rune(s)) > most:
		return wrongField(f.Name, "That is %d characters; %d at most fit here.", len([]rune(s)), most)
	case f.Kind == "swatch" && s != "":
		var hex string
		if err := ReadSwatch(f.Name, s, &hex); err != nil || hex != s {
			return fault.New(fault.Syntax, f.Name, "A swatch such as #5F8A4A.")
		}
	case f.options != nil && !slices.ContainsFunc(f.options, func(o Option) bool { return o.Code == s }):
		return fault.New(fault.UnknownValue, f.Name, "Choose one of: %s.", List(Says(f.options)))
	}
	return nil
}

func (f *Field[T]) checkNumber(x float64) error {
	if math.IsNaN(x) || f.Hi > f.Lo && (x < f.Lo-1e-9 || x > f.Hi+1e-9) {
		r := Reader{&noun.Kitchen{Units: "metric"}}
		return wrongField(f.Name, "From %s to %s, not %s.", f.print(r, f.Lo), f.print(r, f.Hi), f.print(r, x))
	}
	return nil
}

// Exact is the text of a field that reads back as the same value.
func (f *Field[T]) Exact(r Reader, row *T, now time.Time) string {
	if f.Kind == "amount" && f.Dim == "mass" && f.at != nil {
		switch p := f.at(row).(type) {
		case *float64:
			return strconv.FormatFloat(*p, 'f', -1, 64) + " g"
		case **float64:
			if *p == nil {
				return ""
			}
			return strconv.FormatFloat(**p, 'f', -1, 64) + " g"
		}
	}
	if f.Kind == "amount" && f.Dim == "number" {
		if p, ok := f.at(row).(**float64); ok && *p != nil {
			return strconv.FormatFloat(**p, 'f', -1, 64)
		}
	}
	return f.Text(r, row, now)
}

// CheckRow looks at every value of a row as its field allows it.
func CheckRow[T any](place string, fields []*Field[T], row T) error {
	for _, f := range fields {
		if err := f.Check(&row); err != nil {
			return fault.At(err, place+".")
		}
	}
	return nil
}

// CheckGrams refuses grams of a document that nobody could have written.
func CheckGrams(name string, all noun.UnitGrams, choices []Option, lo, hi float64) error {
	for code, g := range all {
		if !slices.ContainsFunc(choices, func(c Option) bool { return c.Code == code }) || !(g >= lo && g <= hi) {
			return fault.New(fault.OutOfRange, name, "%s %g g cannot be.", code, g)
		}
	}
	return nil
}

// Harmless keeps a spreadsheet from reading a text as a formula.
func Harmless(s string) string {
	if s != "" && (strings.ContainsRune("=+@'", rune(s[0])) || s[0] == '-' && len(s) > 1 && (s[1] < '0' || s[1] > '9')) {
		return "'" + s
	}
	return s
}
