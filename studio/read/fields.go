// Package read is what people type: fields with their limits, dates, lists, kinds of
// lot, amounts; into the nouns, and back into text in the reader's words and units.
package read

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

// Field reads and writes one field of a T. at gives a pointer into the row.
type Field[T any] struct {
	Name, Label, group, hint string
	usHint                   string // for readers of US units, where that is another
	Kind                     string // of FieldView; amount has a dimension
	Dim                      string // mass volume length minutes temp percent number
	Lo, Hi                   float64
	Must                     bool
	Fine                     bool // a mass so small that it is always in grams
	assumed                  bool
	options                  []Option
	at                       func(*T) any
	read                     func(r Reader, text string, row *T, now time.Time) error
	show                     func(r Reader, row *T, now time.Time) string
}

const MostText = 2000

// longest is how many characters fit into a field.
func (f *Field[T]) longest() int {
	if f.Kind == "notes" || f.Kind == "lines" {
		return MostText
	}
	return 200
}

// YearsAhead is how far a date may be away and still be meant.
const YearsAhead = 3

func wrongField(name, format string, args ...any) error {
	return fault.New(fault.OutOfRange, name, format, args...)
}

// set reads text into the field of row. Errors are *fault.Fault on the field.
func (f *Field[T]) set(r Reader, text string, row *T, now time.Time) error {
	text = strings.TrimSpace(text)
	most := f.longest()
	if n := len([]rune(text)); n > most {
		return wrongField(f.Name, "That is %d characters; %d at most fit here.", n, most)
	}
	if strings.ContainsRune(text, 0) {
		return fault.New(fault.Syntax, f.Name, "There is a character in it that cannot be kept.")
	}
	if text == "" && f.Must {
		return fault.New(fault.Required, f.Name, "%s", f.missing(r))
	}
	if f.read != nil {
		return f.read(r, text, row, now)
	}
	switch p := f.at(row).(type) {
	case *string:
		if f.Kind == "swatch" {
			return ReadSwatch(f.Name, text, p)
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
			return fault.New(fault.Syntax, f.Name, "Say yes or no.")
		}
	case *int:
		x, err := f.Number(r, text)
		if err != nil {
			return err
		}
		*p = int(x)
	case **int:
		if text == "" {
			*p = nil
			return nil
		}
		x, err := f.Number(r, text)
		if err != nil {
			return err
		}
		*p = new(int(x))
	case *float64:
		x, err := f.Number(r, text)
		if err != nil {
			return err
		}
		*p = x
	case **float64:
		if text == "" {
			*p = nil
			return nil
		}
		x, err := f.Number(r, text)
		if err != nil {
			return err
		}
		*p = &x
	case **time.Time:
		if text == "" {
			*p = nil
			return nil
		}
		t, ok := r.ReadDate(text, now, 12)
		if !ok {
			return fault.New(fault.Syntax, f.Name, "Write a date such as Sat week 10:00, %s, tomorrow 6pm or in 9 days.", map[bool]string{true: "Dec 5 10am", false: "5 Dec 10:00"}[r.Us()])
		}
		if y := t.Year() - now.Year(); y > YearsAhead || y < -YearsAhead {
			return wrongField(f.Name, "That would be %s: too far away to be meant.", r.Date(t, now))
		}
		*p = &t
	case *[]string:
		return f.many(text, p)
	}
	return nil
}

func (f *Field[T]) missing(r Reader) string {
	switch f.Kind {
	case "amount":
		return "An amount is wanted here, such as " + f.example(r) + "."
	case "count":
		return "A number is wanted here, such as 12."
	}
	return "This cannot be left empty."
}

// American reads the other words for a thing, whichever a kitchen shows.
var American = Reader{&noun.Kitchen{Words: "us"}}

func (f *Field[T]) choose(text string, p *string) error {
	for _, o := range f.options {
		if strings.EqualFold(o.Code, text) || strings.EqualFold(o.Say, text) || strings.EqualFold(American.Say(o.Say), text) {
			*p = o.Code
			return nil
		}
	}
	return fault.New(fault.UnknownValue, f.Name, "Choose one of: %s.", List(Says(f.options)))
}

func (f *Field[T]) many(text string, p *[]string) error {
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

// Says are the words of options that have some.
func Says(o []Option) []string {
	var out []string
	for _, x := range o {
		if x.Say != "" {
			out = append(out, x.Say)
		}
	}
	return out
}

// Amount reads one number with its unit as people type it: dim is that of a field. Faults
// on name.
func Amount(r Reader, name, dim, text string, lo, hi float64) (float64, error) {
	f := Field[noun.Tool]{Name: name, Kind: "amount", Dim: dim, Lo: lo, Hi: hi}
	if text = strings.TrimSpace(text); text == "" {
		return 0, fault.New(fault.Required, name, "%s", f.missing(r))
	}
	return f.Number(r, text)
}

// Number reads an amount in the unit of the field, or a count.
func (f *Field[T]) Number(r Reader, text string) (float64, error) {
	limits := func(x float64) error {
		if x < f.Lo-1e-9 || x > f.Hi+1e-9 || math.IsNaN(x) {
			return wrongField(f.Name, "From %s to %s, not %s.", f.print(r, f.Lo), f.print(r, f.Hi), f.print(r, x))
		}
		return nil
	}
	want := map[string]string{"mass": "mass", "volume": "volume", "length": "length", "minutes": "time", "temp": "temperature", "percent": "share"}[f.Dim]
	if f.Kind == "count" {
		want = "count"
	}
	if want == "" {
		want = "count"
	}
	if f.Kind == "count" {
		text = dozens(text)
	}
	bare := BareNumber.MatchString(text)
	if bare && want != "count" {
		text += " " + f.bareUnit(r)
	}
	in := measure.ParseIn{Text: &text, Want: &want, UnitGrams: r.K.UnitGrams}
	if r.Us() {
		in.Spoons = new("us")
	}
	p, err := measure.Parse(in)
	if err != nil {
		var message = "Write an amount, such as " + f.example(r) + "."
		if ft, ok := err.(*fault.Fault); ok {
			return 0, fault.New(ft.Code, f.Name, "%s", ft.Message)
		}
		return 0, fault.New(fault.Syntax, f.Name, "%s", message)
	}
	if p.Ambiguous {
		return 0, whichReading(f.Name, p)
	}
	if p.Ingredient != "" && want == "count" {
		return 0, fault.New(fault.Syntax, f.Name, "Only a number is wanted here, such as 12.")
	}
	x := *p.Value
	if f.Dim == "percent" {
		x *= 100
	}
	if f.Kind == "count" && x != math.Trunc(x) {
		return 0, fault.New(fault.Syntax, f.Name, "A whole number is wanted here, not %s.", Trimmed(x, 3))
	}
	return x, limits(x)
}

// dozens reads "a dozen", "2 dozen", "half a dozen", "two dozen" as figures.
func dozens(text string) string {
	words := strings.Fields(strings.ToLower(text))
	if n := len(words); n == 0 || n > 3 || words[n-1] != "dozen" {
		return text
	}
	switch head := strings.Join(words[:len(words)-1], " "); head {
	case "", "a", "one":
		return "12"
	case "half a":
		return "6"
	default:
		if n := counted(head); n > 0 && n < 1000 {
			return strconv.Itoa(12 * n)
		}
	}
	return text
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
			x.Keep = p.GramsEach + " " + Trimmed(c.Value / *p.Count, 3) + " g"
		}
		out.Choices = append(out.Choices, x)
	}
	return out
}

var BareNumber = regexp.MustCompile(`^[-\d.,/\s¼½¾⅓⅔⅛⅜⅝⅞]+$`)

// ReadSwatch reads a colour such as #5F8A4A, rgb(95, 138, 74) or Lab into its hex.
func ReadSwatch(name, text string, p *string) error {
	if hex := namedSwatch(text); hex != "" {
		*p = hex
		return nil
	}
	hex, err := colour.Read(text)
	var f *fault.Fault
	if errors.As(err, &f) {
		f.Field = name
		return f
	}
	*p = hex
	return err
}

// Apply sets the fields of a change on row. The first fault stops it; row may
// then be half changed and is thrown away by the caller.
func Apply[T any](fields []*Field[T], r Reader, row *T, set map[string]string, now time.Time) error {
	for name := range set {
		if !slices.ContainsFunc(fields, func(f *Field[T]) bool { return f.Name == name }) {
			return fault.New(fault.Syntax, name, "There is no field %q here.", name)
		}
	}
	for _, f := range fields {
		if text, ok := set[f.Name]; ok {
			if err := f.set(r, text, row, now); err != nil {
				return err
			}
		}
	}
	return nil
}
