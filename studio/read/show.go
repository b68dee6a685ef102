package read

import (
	"strings"
	"time"

	"dustyfern/craft/measure"
)

func (f *Field[T]) bareUnit(r Reader) string {
	us := r.Us()
	switch f.Dim {
	case "mass":
		return "g" // scales of any kitchen read grams
	case "volume":
		return "ml"
	case "length":
		return map[bool]string{true: "in", false: "mm"}[us]
	case "minutes":
		return "min"
	case "temp":
		return map[bool]string{true: "°F", false: "°C"}[us]
	}
	return "%"
}

func (f *Field[T]) example(r Reader) string {
	return map[string]string{"mass": "4.2 g", "volume": "6.2 ml", "length": map[bool]string{true: "3/4 in", false: "18 mm"}[r.Us()], "minutes": "8 min", "temp": r.Temp(21), "percent": "50 %"}[f.Dim]
}

func (f *Field[T]) print(r Reader, x float64) string {
	switch f.Dim {
	case "mass":
		if f.Fine {
			return Trimmed(x, 4) + " g"
		}
		if x > 0 && x < 0.05 {
			return Trimmed(x, 3) + " g"
		}
		return measure.FormatMass(x)
	case "volume":
		return Trimmed(x, 2) + " ml"
	case "length":
		if r.Us() {
			return Trimmed(x/measure.MMPerInch, 4) + " in"
		}
		return Trimmed(x, 2) + " mm"
	case "minutes":
		return Trimmed(x, 2) + " min"
	case "temp":
		return r.Temp(x)
	case "percent":
		return Trimmed(x, 1) + " %"
	}
	return Trimmed(x, 3)
}

// Text shows the field of row.
func (f *Field[T]) Text(r Reader, row *T, now time.Time) string {
	if f.show != nil {
		return f.show(r, row, now)
	}
	switch p := f.at(row).(type) {
	case *string:
		return *p
	case *bool:
		if *p {
			return "yes"
		}
		return "no"
	case *int:
		return f.print(r, float64(*p))
	case **int:
		if *p != nil {
			return f.print(r, float64(**p))
		}
	case *float64:
		return f.print(r, *p)
	case **float64:
		if *p != nil {
			return f.print(r, **p)
		}
	case **time.Time:
		if *p != nil {
			return r.Date(**p, now)
		}
	case *[]string:
		var out []string
		for _, code := range *p {
			for _, o := range f.options {
				if o.Code == code {
					out = append(out, o.Code)
				}
			}
		}
		return strings.Join(out, ", ")
	}
	return ""
}

func (f *Field[T]) view(r Reader, row *T, now time.Time) FieldView {
	v := FieldView{Name: f.Name, Label: r.Say(f.Label), Kind: f.Kind, Group: f.group, Hint: r.Say(f.hint), Assumed: f.assumed, Text: f.Text(r, row, now)}
	if r.Us() && f.usHint != "" {
		v.Hint = r.Say(f.usHint)
	}
	for _, o := range f.options {
		v.Choices = append(v.Choices, Option{o.Code, r.Say(o.Say)})
	}
	return v
}

// Views are fields of a row as a form shows them.
func Views[T any](fields []*Field[T], r Reader, row *T, now time.Time) []FieldView {
	out := make([]FieldView, 0, len(fields))
	for _, f := range fields {
		out = append(out, f.view(r, row, now))
	}
	return out
}
