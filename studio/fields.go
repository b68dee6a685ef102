package studio

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
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
	assumed                  bool
	options                  []Option
	at                       func(*T) any
	read                     func(r reader, text string, row *T, now time.Time) error
	show                     func(r reader, row *T, now time.Time) string
}

const mostText = 2000

func wrongField(name, format string, args ...any) error {
	return fault.New(fault.OutOfRange, name, format, args...)
}

// set reads text into the field of row. Errors are *fault.Fault on the field.
func (f *field[T]) set(r reader, text string, row *T, now time.Time) error {
	text = strings.TrimSpace(text)
	most := 200
	if f.kind == "notes" || f.kind == "lines" {
		most = mostText
	}
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
		if y := t.Year() - now.Year(); y > 3 || y < -3 {
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

func (f *field[T]) choose(text string, p *string) error {
	for _, o := range f.options {
		if strings.EqualFold(o.Code, text) || strings.EqualFold(o.Say, text) {
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
	in := measure.ParseIn{Text: &text, Want: &want}
	if r.us() {
		in.Spoons = new("us")
	}
	p, err := measure.Parse(in)
	if err != nil {
		var message = "Write an amount, such as " + f.example(r) + "."
		if ft, ok := err.(*fault.Fault); ok {
			message = ft.Message
			return 0, fault.New(ft.Code, f.name, "%s", message)
		}
		return 0, fault.New(fault.Syntax, f.name, "%s", message)
	}
	if p.Ambiguous {
		var c []string
		for _, x := range p.Choices {
			c = append(c, x.Says)
		}
		if p.GramsEach != "" {
			return 0, fault.New(fault.Syntax, f.name, "How many grams are in one %s? Write the grams.", p.GramsEach)
		}
		return 0, fault.New(fault.Syntax, f.name, "That can be read in several ways (%s): say which.", strings.Join(c, " or "))
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

var bareNumber = regexp.MustCompile(`^[-\d.,/\s¼½¾⅓⅔⅛⅜⅝⅞]+$`)

func (f *field[T]) bareUnit(r reader) string {
	us := r.us()
	switch f.dim {
	case "mass":
		return map[bool]string{true: "oz", false: "g"}[us && f.name != "gramsPerTsp" && f.name != "scaleStepG"]
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
		if f.name == "gramsPerTsp" || f.name == "scaleStepG" {
			return trimmed(x, 3) + " g"
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

var swatchShape = regexp.MustCompile(`^#?([0-9a-fA-F]{6})$`)

func readSwatch(name, text string, p *string) error {
	m := swatchShape.FindStringSubmatch(text)
	if m == nil {
		return fault.New(fault.Syntax, name, "A swatch is six digits or letters a to f after #, such as #5F8A4A.")
	}
	*p = "#" + strings.ToUpper(m[1])
	return nil
}

// apply sets the fields of a change on row, and gives the texts that stood
// there before. The first fault stops it; row may then be half changed and is
// thrown away by the caller.
func apply[T any](fields []*field[T], r reader, row *T, set map[string]string, now time.Time) (map[string]string, error) {
	before := map[string]string{}
	for name := range set {
		if !slices.ContainsFunc(fields, func(f *field[T]) bool { return f.name == name }) {
			return nil, fault.New(fault.Syntax, name, "There is no field %q here.", name)
		}
	}
	for _, f := range fields {
		text, ok := set[f.name]
		if !ok {
			continue
		}
		before[f.name] = f.text(r, row, now)
		if err := f.set(r, text, row, now); err != nil {
			return nil, err
		}
	}
	return before, nil
}

func views[T any](fields []*field[T], r reader, row *T, now time.Time) []FieldView {
	out := make([]FieldView, 0, len(fields))
	for _, f := range fields {
		out = append(out, f.view(r, row, now))
	}
	return out
}

// lines reads one thing a line, with the number of the line in the fault.
func lines[T any](name, text string, read func(string) (T, error)) ([]T, error) {
	out := []T{}
	for i, l := range strings.Split(text, "\n") {
		l = strings.TrimSpace(l)
		if l == "" {
			continue
		}
		x, err := read(l)
		if err != nil {
			return nil, fault.New(fault.Syntax, name, "Line %d (%s): %v", i+1, l, err)
		}
		out = append(out, x)
	}
	return out, nil
}

func shown[T any](list []T, show func(T) string) string {
	var out []string
	for _, x := range list {
		out = append(out, show(x))
	}
	return strings.Join(out, "\n")
}

// --- lines of the kitchen

var clockRange = regexp.MustCompile(`^(\d{1,2})(?:[:.](\d{2}))?\s*(?:-|–|to)\s*(\d{1,2})(?:[:.](\d{2}))?$`)

func readHours(words string) (Hours, error) {
	var h Hours
	m := clockRange.FindStringSubmatch(words)
	if m == nil {
		return h, fmt.Errorf("write the hours as 19:00-22:00")
	}
	clock := func(hh, mm string) (string, int) {
		a, _ := strconv.Atoi(hh)
		b, _ := strconv.Atoi(mm)
		return fmt.Sprintf("%02d:%02d", a, b), a*60 + b
	}
	var a, b int
	h.From, a = clock(m[1], m[2])
	h.To, b = clock(m[3], m[4])
	if a >= b || b > 24*60 || a%60 > 59 || b%60 > 59 {
		return h, fmt.Errorf("the hours run upward within one day, such as 19:00-22:00")
	}
	return h, nil
}

var hoursLine = regexp.MustCompile(`^([A-Za-z]+)\s+(\d[\d:.]*\s*(?:-|–|to)\s*\d[\d:.]*)\s*(.*)$`)

func readWeekly(l string) (Hours, error) {
	m := hoursLine.FindStringSubmatch(l)
	if m == nil {
		return Hours{}, fmt.Errorf("write it as Tue 19:00-22:00 Ines, Tobi")
	}
	day, ok := weekdays[strings.ToLower(m[1])]
	if !ok {
		return Hours{}, fmt.Errorf("%s is no weekday", m[1])
	}
	h, err := readHours(m[2])
	if err != nil {
		return h, err
	}
	h.Weekday = day
	return h, readPeople(m[3], &h)
}

func readPeople(text string, h *Hours) error {
	h.People = []string{}
	if i := strings.Index(strings.ToLower(text), "(unwelcome)"); i >= 0 {
		h.Unwelcome = true
		text = text[:i] + text[i+len("(unwelcome)"):]
	}
	for _, p := range strings.Split(text, ",") {
		if p = strings.TrimSpace(p); p != "" {
			h.People = append(h.People, p)
		}
	}
	if len(h.People) > 4 {
		return fmt.Errorf("4 people at most work at one bench")
	}
	return nil
}

func showHours(h Hours) string {
	s := h.From + "-" + h.To
	if len(h.People) > 0 {
		s += " " + strings.Join(h.People, ", ")
	}
	if h.Unwelcome {
		s += " (unwelcome)"
	}
	return s
}

var trayLine = regexp.MustCompile(`^(\d+)\s*(?:x|of|trays of|trays?)\s+(\d+(?:\.\d+)?)\s*(?:mm)?\s*(?:x|by|×)\s*(\d+(?:\.\d+)?)\s*(?:mm)?$`)

func readTray(l string) (Tray, error) {
	m := trayLine.FindStringSubmatch(strings.ToLower(l))
	if m == nil {
		return Tray{}, fmt.Errorf("write it as 5 of 400 x 300 mm")
	}
	n, _ := strconv.Atoi(m[1])
	a, _ := strconv.ParseFloat(m[2], 64)
	b, _ := strconv.ParseFloat(m[3], 64)
	if n < 1 || n > 1000 || a < 50 || a > 3000 || b < 50 || b > 3000 {
		return Tray{}, fmt.Errorf("1 to 1000 trays of 50 to 3000 mm")
	}
	return Tray{n, a, b}, nil
}

var formerLine = regexp.MustCompile(`^(\d+)\s+(.+)$`)

func readFormer(l string) (Former, error) {
	m := formerLine.FindStringSubmatch(l)
	if m == nil {
		return Former{}, fmt.Errorf("write it as 24 cupped holes")
	}
	n, _ := strconv.Atoi(m[1])
	if n < 1 || n > 1000 {
		return Former{}, fmt.Errorf("1 to 1000 of them")
	}
	return Former{m[2], n}, nil
}

// readException reads "Thu 24 Dec shut" or "Sat 28 Nov 9:00-12:00 Ines".
func readException(l string, now time.Time) (Exception, error) {
	if day, ok := strings.CutSuffix(strings.ToLower(l), "shut"); ok {
		t, ok := ReadDate(strings.TrimRight(day, " :,"), now, 12)
		if !ok {
			return Exception{}, fmt.Errorf("write it as Thu 24 Dec shut")
		}
		return Exception{Date: t.Format(time.DateOnly), Open: []Hours{}}, nil
	}
	i := regexp.MustCompile(`\d{1,2}[:.]\d{2}\s*(?:-|–|to)`).FindStringIndex(l)
	if i == nil {
		return Exception{}, fmt.Errorf("write it as Thu 24 Dec shut, or Sat 28 Nov 9:00-12:00 Ines")
	}
	t, ok := ReadDate(strings.TrimRight(l[:i[0]], " :,"), now, 12)
	m := regexp.MustCompile(`^(\d[\d:.]*\s*(?:-|–|to)\s*\d[\d:.]*)\s*(.*)$`).FindStringSubmatch(l[i[0]:])
	if !ok || m == nil {
		return Exception{}, fmt.Errorf("write it as Sat 28 Nov 9:00-12:00 Ines")
	}
	h, err := readHours(m[1])
	if err != nil {
		return Exception{}, err
	}
	h.Weekday = t.Weekday()
	return Exception{Date: t.Format(time.DateOnly), Open: []Hours{h}}, readPeople(m[2], &h)
}

// --- lines of a brief

var tierLine = regexp.MustCompile(`^(round|square)\s+(\d+(?:\.\d+)?)\s*(?:mm)?(?:\s*[,x]\s*(\d+(?:\.\d+)?)\s*(?:mm)?\s*(?:tall|high)?)?(?:\s*,\s*coated\s+(\d+(?:\.\d+)?)\s*(?:mm)?\s*(.*))?$`)

func readTier(l string) (Tier, error) {
	m := tierLine.FindStringSubmatch(strings.ToLower(strings.Join(strings.Fields(l), " ")))
	if m == nil {
		return Tier{}, fmt.Errorf("write it as round 250 mm, 110 mm tall, coated 5 mm sage sugar paste")
	}
	n := func(s string) float64 { x, _ := strconv.ParseFloat(s, 64); return x }
	t := Tier{Shape: m[1], SizeMM: n(m[2]), HeightMM: n(m[3]), CoatingMM: n(m[4]), Coating: strings.TrimSpace(m[5])}
	if t.SizeMM < 20 || t.SizeMM > 2000 || t.HeightMM > 1000 || t.CoatingMM > 100 {
		return t, fmt.Errorf("a tier is 20 to 2000 mm across, at most 1000 mm tall and coated at most 100 mm")
	}
	return t, nil
}

func showTier(t Tier) string {
	s := fmt.Sprintf("%s %s mm", t.Shape, trimmed(t.SizeMM, 1))
	if t.HeightMM > 0 {
		s += fmt.Sprintf(", %s mm tall", trimmed(t.HeightMM, 1))
	}
	if t.CoatingMM > 0 {
		s += strings.TrimRight(fmt.Sprintf(", coated %s mm %s", trimmed(t.CoatingMM, 1), t.Coating), " ")
	}
	return s
}
