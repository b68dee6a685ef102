package studio

import (
	"errors"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/studio/noun"
)

// FieldView is one field of a row as a form shows it: everything is text, as
// people type it; the server alone reads it.
type FieldView struct {
	Name    string   `json:"name"`
	Label   string   `json:"label"`
	Kind    string   `json:"kind" enum:"text,notes,lines,amount,count,yes,choice,many,date,swatch"`
	Text    string   `json:"text"`
	Group   string   `json:"group"`
	Hint    string   `json:"hint,omitempty"`
	Assumed bool     `json:"assumed,omitempty" doc:"a working value where the trade has no fixed rule"`
	Choices []Option `json:"choices,omitempty"`
}

// Option is a choice of a field.
type Option struct {
	Code string `json:"code"`
	Say  string `json:"say"`
}

// field reads and writes one field of a T. at gives a pointer into the row.
type field[T any] struct {
	name, label, group, hint string
	kind                     string // of FieldView; amount has a dimension
	dim                      string // mass volume length minutes temp percent number
	lo, hi                   float64
	must                     bool
	fine                     bool // a mass so small that it is always in grams
	assumed                  bool
	options                  []Option
	at                       func(*T) any
	read                     func(r reader, text string, row *T, now time.Time) error
	show                     func(r reader, row *T, now time.Time) string
}

const mostText = 2000

// longest is how many characters fit into a field.
func (f *field[T]) longest() int {
	if f.kind == "notes" || f.kind == "lines" {
		return mostText
	}
	return 200
}

// yearsAhead is how far a date may be away and still be meant.
const yearsAhead = 3

func wrongField(name, format string, args ...any) error {
	return fault.New(fault.OutOfRange, name, format, args...)
}

// set reads text into the field of row. Errors are *fault.Fault on the field.
func (f *field[T]) set(r reader, text string, row *T, now time.Time) error {
	text = strings.TrimSpace(text)
	most := f.longest()
	if n := len([]rune(text)); n > most {
		return wrongField(f.name, "That is %d characters; %d at most fit here.", n, most)
	}
	if strings.ContainsRune(text, 0) {
		return fault.New(fault.Syntax, f.name, "There is a character in it that cannot be kept.")
	}
	if text == "" && f.must {
		return fault.New(fault.Required, f.name, "%s", f.missing(r))
	}
	if f.read != nil {
		return f.read(r, text, row, now)
	}
	switch p := f.at(row).(type) {
	case *string:
		if f.kind == "swatch" {
			return readSwatch(f.name, text, p)
		}
		if f.options != nil {
			return f.choose(text, p)
		}
		*p = text
	case *bool:
		switch text {
		case "yes":
			*p = true
		case "no", "":
			*p = false
		default:
			return fault.New(fault.Syntax, f.name, "Say yes or no.")
		}
	case *int:
		x, err := f.number(r, text)
		if err != nil {
			return err
		}
		*p = int(x)
	case **int:
		if text == "" {
			*p = nil
			return nil
		}
		x, err := f.number(r, text)
		if err != nil {
			return err
		}
		*p = new(int(x))
	case *float64:
		x, err := f.number(r, text)
		if err != nil {
			return err
		}
		*p = x
	case **float64:
		if text == "" {
			*p = nil
			return nil
		}
		x, err := f.number(r, text)
		if err != nil {
			return err
		}
		*p = &x
	case **time.Time:
		if text == "" {
			*p = nil
			return nil
		}
		t, ok := ReadDate(text, now, 12)
		if !ok {
			return fault.New(fault.Syntax, f.name, "Write a date such as Sat week 10:00, 5 Dec 10am, tomorrow 18:00 or in 9 days.")
		}
		if y := t.Year() - now.Year(); y > yearsAhead || y < -yearsAhead {
			return wrongField(f.name, "That would be %s: too far away to be meant.", SayDate(t, now))
		}
		*p = &t
	case *[]string:
		return f.many(text, p)
	}
	return nil
}

func (f *field[T]) missing(r reader) string {
	switch f.kind {
	case "amount":
		return "An amount is wanted here, such as " + f.example(r) + "."
	case "count":
		return "A number is wanted here, such as 12."
	}
	return "This cannot be left empty."
}

// american reads the other words for a thing, whichever a kitchen shows.
var american = reader{&noun.Kitchen{Words: "us"}}

func (f *field[T]) choose(text string, p *string) error {
	for _, o := range f.options {
		if strings.EqualFold(o.Code, text) || strings.EqualFold(o.Say, text) || strings.EqualFold(american.say(o.Say), text) {
			*p = o.Code
			return nil
		}
	}
	return fault.New(fault.UnknownValue, f.name, "Choose one of: %s.", list(says(f.options)))
}

func (f *field[T]) many(text string, p *[]string) error {
	out := []string{}
	for _, w := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || r == '\n' }) {
		var code string
		if err := f.choose(strings.TrimSpace(w), &code); err != nil {
			return err
		}
		if !slices.Contains(out, code) {
			out = append(out, code)
		}
	}
	*p = out
	return nil
}

func says(o []Option) []string {
	var out []string
	for _, x := range o {
		if x.Say != "" {
			out = append(out, x.Say)
		}
	}
	return out
}

// number reads an amount in the unit of the field, or a count.
func (f *field[T]) number(r reader, text string) (float64, error) {
	limits := func(x float64) error {
		if x < f.lo-1e-9 || x > f.hi+1e-9 || math.IsNaN(x) {
			return wrongField(f.name, "From %s to %s, not %s.", f.print(r, f.lo), f.print(r, f.hi), f.print(r, x))
		}
		return nil
	}
	want := map[string]string{"mass": "mass", "volume": "volume", "length": "length", "minutes": "time", "temp": "temperature", "percent": "share"}[f.dim]
	if f.kind == "count" {
		want = "count"
	}
	if want == "" {
		want = "count"
	}
	bare := bareNumber.MatchString(text)
	if bare && want != "count" {
		text += " " + f.bareUnit(r)
	}
	in := measure.ParseIn{Text: &text, Want: &want, UnitGrams: r.k.UnitGrams}
	if r.us() {
		in.Spoons = new("us")
	}
	p, err := measure.Parse(in)
	if err != nil {
		var message = "Write an amount, such as " + f.example(r) + "."
		if ft, ok := err.(*fault.Fault); ok {
			return 0, fault.New(ft.Code, f.name, "%s", ft.Message)
		}
		return 0, fault.New(fault.Syntax, f.name, "%s", message)
	}
	if p.Ambiguous {
		return 0, whichReading(f.name, p)
	}
	if p.Ingredient != "" && want == "count" {
		return 0, fault.New(fault.Syntax, f.name, "Only a number is wanted here, such as 12.")
	}
	x := *p.Value
	if f.dim == "percent" {
		x *= 100
	}
	if f.kind == "count" && x != math.Trunc(x) {
		return 0, fault.New(fault.Syntax, f.name, "A whole number is wanted here, not %s.", trimmed(x, 3))
	}
	return x, limits(x)
}

// whichReading asks what a text means that can be read in several ways.
func whichReading(field string, p measure.Parsed) error {
	out := fault.New(fault.Syntax, field, "That can be read in several ways: which is meant?")
	if p.GramsEach != "" {
		out = fault.New(fault.Syntax, field, "How many grams are in one %s of yours? It is kept from then on.", p.GramsEach)
		out.GramsEach = p.GramsEach
	}
	for _, c := range p.Choices {
		x := fault.Choice{Say: c.Says, Text: strconv.FormatFloat(c.Value, 'f', -1, 64) + " " + c.Unit}
		if p.GramsEach != "" && c.Unit == "g" && p.Count != nil && *p.Count > 0 {
			x.Keep = p.GramsEach + " " + trimmed(c.Value / *p.Count, 3) + " g"
		}
		out.Choices = append(out.Choices, x)
	}
	return out
}

var bareNumber = regexp.MustCompile(`^[-\d.,/\s¼½¾⅓⅔⅛⅜⅝⅞]+$`)

func (f *field[T]) bareUnit(r reader) string {
	us := r.us()
	switch f.dim {
	case "mass":
		return map[bool]string{true: "oz", false: "g"}[us && !f.fine]
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

func (f *field[T]) example(r reader) string {
	return map[string]string{"mass": "4.2 g", "volume": "6.2 ml", "length": "18 mm", "minutes": "8 min", "temp": r.temp(21), "percent": "50 %"}[f.dim]
}

func (f *field[T]) print(r reader, x float64) string {
	switch f.dim {
	case "mass":
		if f.fine {
			return trimmed(x, 4) + " g"
		}
		if x > 0 && x < 0.05 {
			return trimmed(x, 3) + " g"
		}
		return r.mass(x)
	case "volume":
		return trimmed(x, 2) + " ml"
	case "length":
		if r.us() {
			return trimmed(x/measure.MMPerInch, 4) + " in"
		}
		return trimmed(x, 2) + " mm"
	case "minutes":
		return trimmed(x, 2) + " min"
	case "temp":
		return r.temp(x)
	case "percent":
		return trimmed(x, 1) + " %"
	}
	return trimmed(x, 3)
}

// text shows the field of row.
func (f *field[T]) text(r reader, row *T, now time.Time) string {
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
			return SayDate(**p, now)
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

func (f *field[T]) view(r reader, row *T, now time.Time) FieldView {
	v := FieldView{Name: f.name, Label: r.say(f.label), Kind: f.kind, Group: f.group, Hint: r.say(f.hint), Assumed: f.assumed, Text: f.text(r, row, now)}
	for _, o := range f.options {
		v.Choices = append(v.Choices, Option{o.Code, r.say(o.Say)})
	}
	return v
}

func readSwatch(name, text string, p *string) error {
	hex, err := colour.Read(text)
	var f *fault.Fault
	if errors.As(err, &f) {
		f.Field = name
		return f
	}
	*p = hex
	return err
}

// apply sets the fields of a change on row. The first fault stops it; row may
// then be half changed and is thrown away by the caller.
func apply[T any](fields []*field[T], r reader, row *T, set map[string]string, now time.Time) error {
	for name := range set {
		if !slices.ContainsFunc(fields, func(f *field[T]) bool { return f.name == name }) {
			return fault.New(fault.Syntax, name, "There is no field %q here.", name)
		}
	}
	for _, f := range fields {
		if text, ok := set[f.name]; ok {
			if err := f.set(r, text, row, now); err != nil {
				return err
			}
		}
	}
	return nil
}

func views[T any](fields []*field[T], r reader, row *T, now time.Time) []FieldView {
	out := make([]FieldView, 0, len(fields))
	for _, f := range fields {
		out = append(out, f.view(r, row, now))
	}
	return out
}
