package read

import (
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/studio/noun"
)

// asShown tells whether a text of lines is what stands there already: rounding to the
// reader's units changes nothing that nobody touched.
func asShown(text, shown string) bool {
	return strings.Join(strings.Fields(text), " ") == strings.Join(strings.Fields(shown), " ")
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

// aClock is a time of day as people write it: 19:00, 19, 7pm, 7:30 pm, noon.
const aClock = `\d{1,2}(?:[:.]\d{2})?\s*(?:[ap]\.?m\.?)?|noon|midnight`

var (
	clockParts = regexp.MustCompile(`^(\d{1,2})(?:[:.](\d{2}))?\s*(?:([ap])\.?m\.?)?$`)
	clockRange = regexp.MustCompile(`(?i)^(` + aClock + `)\s*(?:-|–|to)\s*(` + aClock + `)(?:\s+|$)(.*)$`)
)

// minuteOf reads a time of day, in minutes after midnight; half is am or pm where the
// text itself says nothing.
func minuteOf(text, half string) (minute int, said string, ok bool) {
	switch text = strings.ToLower(strings.TrimSpace(text)); text {
	case "noon":
		return 12 * 60, "p", true
	case "midnight":
		return 24 * 60, "a", true
	}
	m := clockParts.FindStringSubmatch(text)
	if m == nil {
		return 0, "", false
	}
	h, _ := strconv.Atoi(m[1])
	mm, _ := strconv.Atoi(m[2])
	if said = m[3]; said == "" {
		said = half
	}
	if said != "" {
		if h < 1 || h > 12 {
			return 0, "", m[3] == "" && h <= 24
		}
		h %= 12
		if said == "p" {
			h += 12
		}
	}
	return h*60 + mm, m[3], mm < 60 && h*60+mm <= 24*60
}

// ReadHours reads hours of a day such as 19:00-22:00 or 7pm-10pm; what stands after
// them is given back.
func ReadHours(words string) (h noun.Hours, rest string, err error) {
	m := clockRange.FindStringSubmatch(strings.TrimSpace(words))
	if m == nil {
		return h, "", fmt.Errorf("write the hours as 19:00-22:00 or 7pm-10pm")
	}
	b, half, ok := minuteOf(m[2], "")
	a, _, ok2 := minuteOf(m[1], half)
	if early, _, fine := minuteOf(m[1], ""); half == "p" && fine && a >= b { // 9-1pm
		a, ok2 = early, true
	}
	if !ok || !ok2 || a >= b {
		return h, "", fmt.Errorf("the hours run upward within one day, such as 19:00-22:00 or 7pm-10pm")
	}
	h.From, h.To = fmt.Sprintf("%02d:%02d", a/60, a%60), fmt.Sprintf("%02d:%02d", b/60, b%60)
	return h, strings.TrimSpace(m[3]), nil
}

var hoursLine = regexp.MustCompile(`^([A-Za-z]+(?:\s*(?:-|–|to|,|and)\s*[A-Za-z]+)*)[\s:]+(.+)$`)

// readWeekly reads a line of weekly hours: of a day, of several, or of a row of them.
func readWeekly(l string) ([]noun.Hours, error) {
	m := hoursLine.FindStringSubmatch(l)
	if m == nil {
		return nil, fmt.Errorf("write it as Tue 19:00-22:00 Ada, Ben, or Mon-Fri 7pm-10pm")
	}
	days, err := readDays(m[1])
	if err != nil {
		return nil, err
	}
	h, rest, err := ReadHours(m[2])
	if err != nil {
		return nil, err
	}
	if err := readPeople(rest, &h); err != nil {
		return nil, err
	}
	out := make([]noun.Hours, len(days))
	for i, d := range days {
		out[i] = h
		out[i].Weekday = d
	}
	return out, nil
}

var dayRow = regexp.MustCompile(`\s*(?:-|–|\bto\b)\s*`)

// readDays reads "Tue", "Mon-Fri", "Tue, Thu and Sat", "weekdays", "daily".
func readDays(text string) (out []time.Weekday, err error) {
	text = strings.ToLower(text)
	switch text {
	case "weekdays":
		text = "mon-fri"
	case "daily", "every day":
		text = "mon-sun"
	case "weekend", "weekends":
		text = "sat-sun"
	}
	for _, part := range strings.FieldsFunc(strings.ReplaceAll(text, " and ", ","), func(r rune) bool { return r == ',' }) {
		ends := dayRow.Split(strings.TrimSpace(part), -1)
		var at [2]time.Weekday
		for i, end := range []string{ends[0], ends[len(ends)-1]} {
			d, ok := weekdays[end]
			if !ok || len(ends) > 2 {
				return nil, fmt.Errorf("%s is no weekday", end)
			}
			at[i] = d
		}
		for d := at[0]; ; d = (d + 1) % 7 {
			if !slices.Contains(out, d) {
				out = append(out, d)
			}
			if d == at[1] {
				break
			}
		}
	}
	return out, nil
}

func readPeople(text string, h *noun.Hours) error {
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

// showClock is a time of day of the hours as its reader writes it.
// ClockText is a time of day as hours are written: 19:00, 7 PM, midnight.
func (r Reader) ClockText(clock string) string {
	t, err := time.Parse("15:04", clock)
	if err != nil || !r.Us() { // 24:00 is the end of a day
		if r.Us() && clock == "24:00" {
			return "midnight"
		}
		return clock
	}
	return strings.Replace(r.Clock(t), ":00", "", 1)
}

// HoursText is a stretch as it is typed, without its day.
func (r Reader) HoursText(h noun.Hours) string {
	s := r.ClockText(h.From) + "-" + r.ClockText(h.To)
	if len(h.People) > 0 {
		s += " " + strings.Join(h.People, ", ")
	}
	if h.Unwelcome {
		s += " (unwelcome)"
	}
	return s
}

// ExceptionText is a date that is not as its weekday, as it is typed.
func (r Reader) ExceptionText(x noun.Exception) string {
	t, _ := time.Parse(time.DateOnly, x.Date)
	day := t.Format("Mon ") + r.Day(t, true)
	if len(x.Open) == 0 {
		return day + " shut"
	}
	return day + " " + r.HoursText(x.Open[0])
}

// length reads a length in a line of text as a field of its own reads it; a bare number
// takes bare.
func length(r Reader, text, bare string) (float64, error) {
	text = strings.TrimSpace(text)
	if BareNumber.MatchString(text) {
		text += " " + bare
	}
	p, err := measure.Parse(measure.ParseIn{Text: &text, Want: new("length")})
	if err != nil {
		return 0, err
	}
	if p.Ambiguous || p.Ingredient != "" {
		return 0, fmt.Errorf("%q is no length", text)
	}
	return *p.Value, nil
}

// bareLength is the unit of a length that says none.
func bareLength(r Reader) string { return map[bool]string{true: "in", false: "mm"}[r.Us()] }

// unitOf a length that is said, "" when it says none: its fellows in one line take it
// too.
func unitOf(text, usual string) string {
	for _, u := range []string{"mm", "cm", "inches", "inch", "in", "\"", "ft"} {
		if strings.HasSuffix(strings.TrimSpace(text), u) {
			return u
		}
	}
	return usual
}

var (
	trayLine = regexp.MustCompile(`^(\d+)\s*(?:trays of|tray of|trays|of)\s+(.+?)\s*(?:x|by|×)\s*(.+)$`)
	trayTwo  = regexp.MustCompile(`^(\d+)\s*x\s+(\S.*?)\s*(?:x|by|×)\s*(.+)$`)
)

func readTray(r Reader, l string) (noun.Tray, error) {
	l = strings.ToLower(l)
	m := trayLine.FindStringSubmatch(l)
	if m == nil {
		m = trayTwo.FindStringSubmatch(l)
	}
	say := map[bool]string{true: "write it as 5 of 16 x 12 in", false: "write it as 5 of 400 x 300 mm"}[r.Us()]
	if m == nil {
		return noun.Tray{}, fmt.Errorf("%s", say)
	}
	n, _ := strconv.Atoi(m[1])
	unit := unitOf(m[3], bareLength(r))
	a, err1 := length(r, m[2], unit)
	b, err2 := length(r, m[3], unit)
	if err1 != nil || err2 != nil {
		return noun.Tray{}, fmt.Errorf("%s", say)
	}
	if n < 1 || n > 1000 || a < 50 || a > 3000 || b < 50 || b > 3000 {
		return noun.Tray{}, fmt.Errorf("1 to 1000 trays of %s to %s", size(r, 50), size(r, 3000))
	}
	return noun.Tray{Count: n, LengthMM: a, WidthMM: b}, nil
}

// size is a length as a line of text holds it: exact, in one system.
func size(r Reader, mm float64) string {
	if r.Us() {
		return Trimmed(mm/measure.MMPerInch, 4) + " in"
	}
	return Trimmed(mm, 1) + " mm"
}

// sized are lengths of one line with one unit behind the last.
func sized(r Reader, mms ...float64) string {
	var out []string
	for _, mm := range mms {
		out = append(out, strings.TrimSuffix(strings.TrimSuffix(size(r, mm), " in"), " mm"))
	}
	return strings.Join(out, " x ") + " " + bareLength(r)
}

// readException reads "Thu 24 Dec shut" or "Sat 28 Nov 9:00-12:00 Ada".
func readException(r Reader, l string, now time.Time) (noun.Exception, error) {
	say := "write it as Thu 24 Dec shut, or Sat 28 Nov 9:00-12:00 Ada"
	if r.Us() {
		say = "write it as Thu Dec 24 shut, or Sat Nov 28 9am-12pm Ada"
	}
	if day, ok := strings.CutSuffix(strings.ToLower(l), "shut"); ok {
		t, ok := r.ReadDate(strings.TrimRight(day, " :,"), now, 12)
		if !ok {
			return noun.Exception{}, fmt.Errorf("%s", say)
		}
		return noun.Exception{Date: t.Format(time.DateOnly), Open: []noun.Hours{}}, nil
	}
	i := exceptionHours.FindStringIndex(l)
	if i == nil {
		return noun.Exception{}, fmt.Errorf("%s", say)
	}
	t, ok := r.ReadDate(strings.TrimRight(l[:i[0]], " :,"), now, 12)
	if !ok {
		return noun.Exception{}, fmt.Errorf("%s", say)
	}
	h, rest, err := ReadHours(l[i[0]:])
	if err != nil {
		return noun.Exception{}, err
	}
	h.Weekday = t.Weekday()
	return noun.Exception{Date: t.Format(time.DateOnly), Open: []noun.Hours{h}}, readPeople(rest, &h)
}

var exceptionHours = regexp.MustCompile(`(?i)(?:\d{1,2}[:.]\d{2}(?:\s*[ap]m)?|\d{1,2}\s*[ap]m|noon)\s*(?:-|–|to)\s*\S`)

// --- lines of a brief

var (
	tierLine = regexp.MustCompile(`^(round|square)\s+(.+)$`)
	coatLine = regexp.MustCompile(`^((?:\d[\d./ ]*)\s*(?:mm|cm|inches|inch|in|")?)\s*(.*)$`)
)

func readTier(r Reader, l string) (noun.Tier, error) {
	say := "write it as round 250 mm, 110 mm tall, coated 5 mm sage sugar paste"
	if r.Us() {
		say = "write it as round 10 in, 4 in tall, coated 1/4 in sage fondant"
	}
	wrong := func() (noun.Tier, error) { return noun.Tier{}, fmt.Errorf("%s", say) }
	m := tierLine.FindStringSubmatch(strings.ToLower(strings.Join(strings.Fields(l), " ")))
	if m == nil {
		return wrong()
	}
	t := noun.Tier{Shape: m[1]}
	rest, coat, coated := strings.Cut(m[2], "coated ")
	sizes := strings.FieldsFunc(strings.ReplaceAll(strings.TrimRight(rest, " ,"), " x ", ","), func(c rune) bool { return c == ',' || c == '×' })
	if len(sizes) < 1 || len(sizes) > 2 {
		return wrong()
	}
	unit, err := bareLength(r), error(nil)
	for i := range sizes {
		for _, word := range []string{"tall", "high", "across", "wide"} {
			sizes[i] = strings.TrimSuffix(strings.TrimSpace(sizes[i]), word)
		}
		unit = unitOf(sizes[i], unit)
	}
	if t.SizeMM, err = length(r, sizes[0], unitOf(sizes[0], unit)); err != nil {
		return wrong()
	}
	if len(sizes) == 2 {
		if t.HeightMM, err = length(r, sizes[1], unit); err != nil {
			return wrong()
		}
	}
	if coated {
		c := coatLine.FindStringSubmatch(coat)
		if c == nil {
			return wrong()
		}
		if t.CoatingMM, err = length(r, c[1], unit); err != nil {
			return wrong()
		}
		t.Coating = strings.TrimSpace(c[2])
	}
	if t.SizeMM < 20 || t.SizeMM > 2000 || t.HeightMM > 1000 || t.CoatingMM > 100 {
		return t, fmt.Errorf("a tier is %s to %s across, at most %s tall and coated at most %s", size(r, 20), size(r, 2000), size(r, 1000), size(r, 100))
	}
	return t, nil
}

func showTier(r Reader, t noun.Tier) string {
	s := t.Shape + " " + size(r, t.SizeMM)
	if t.HeightMM > 0 {
		s += ", " + size(r, t.HeightMM) + " tall"
	}
	if t.CoatingMM > 0 {
		s += strings.TrimRight(", coated "+size(r, t.CoatingMM)+" "+t.Coating, " ")
	}
	return s
}
