package read

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
)

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

// ReadHours reads hours of a day such as 19:00-22:00.
func ReadHours(words string) (noun.Hours, error) {
	var h noun.Hours
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

func readWeekly(l string) (noun.Hours, error) {
	m := hoursLine.FindStringSubmatch(l)
	if m == nil {
		return noun.Hours{}, fmt.Errorf("write it as Tue 19:00-22:00 Ines, Tobi")
	}
	day, ok := weekdays[strings.ToLower(m[1])]
	if !ok {
		return noun.Hours{}, fmt.Errorf("%s is no weekday", m[1])
	}
	h, err := ReadHours(m[2])
	if err != nil {
		return h, err
	}
	h.Weekday = day
	return h, readPeople(m[3], &h)
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

func showHours(h noun.Hours) string {
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

func readTray(l string) (noun.Tray, error) {
	m := trayLine.FindStringSubmatch(strings.ToLower(l))
	if m == nil {
		return noun.Tray{}, fmt.Errorf("write it as 5 of 400 x 300 mm")
	}
	n, _ := strconv.Atoi(m[1])
	a, _ := strconv.ParseFloat(m[2], 64)
	b, _ := strconv.ParseFloat(m[3], 64)
	if n < 1 || n > 1000 || a < 50 || a > 3000 || b < 50 || b > 3000 {
		return noun.Tray{}, fmt.Errorf("1 to 1000 trays of 50 to 3000 mm")
	}
	return noun.Tray{Count: n, LengthMM: a, WidthMM: b}, nil
}

// readException reads "Thu 24 Dec shut" or "Sat 28 Nov 9:00-12:00 Ines".
func readException(l string, now time.Time) (noun.Exception, error) {
	if day, ok := strings.CutSuffix(strings.ToLower(l), "shut"); ok {
		t, ok := ReadDate(strings.TrimRight(day, " :,"), now, 12)
		if !ok {
			return noun.Exception{}, fmt.Errorf("write it as Thu 24 Dec shut")
		}
		return noun.Exception{Date: t.Format(time.DateOnly), Open: []noun.Hours{}}, nil
	}
	i := regexp.MustCompile(`\d{1,2}[:.]\d{2}\s*(?:-|–|to)`).FindStringIndex(l)
	if i == nil {
		return noun.Exception{}, fmt.Errorf("write it as Thu 24 Dec shut, or Sat 28 Nov 9:00-12:00 Ines")
	}
	t, ok := ReadDate(strings.TrimRight(l[:i[0]], " :,"), now, 12)
	m := regexp.MustCompile(`^(\d[\d:.]*\s*(?:-|–|to)\s*\d[\d:.]*)\s*(.*)$`).FindStringSubmatch(l[i[0]:])
	if !ok || m == nil {
		return noun.Exception{}, fmt.Errorf("write it as Sat 28 Nov 9:00-12:00 Ines")
	}
	h, err := ReadHours(m[1])
	if err != nil {
		return noun.Exception{}, err
	}
	h.Weekday = t.Weekday()
	return noun.Exception{Date: t.Format(time.DateOnly), Open: []noun.Hours{h}}, readPeople(m[2], &h)
}

// --- lines of a brief

var tierLine = regexp.MustCompile(`^(round|square)\s+(\d+(?:\.\d+)?)\s*(?:mm)?(?:\s*[,x]\s*(\d+(?:\.\d+)?)\s*(?:mm)?\s*(?:tall|high)?)?(?:\s*,\s*coated\s+(\d+(?:\.\d+)?)\s*(?:mm)?\s*(.*))?$`)

func readTier(l string) (noun.Tier, error) {
	m := tierLine.FindStringSubmatch(strings.ToLower(strings.Join(strings.Fields(l), " ")))
	if m == nil {
		return noun.Tier{}, fmt.Errorf("write it as round 250 mm, 110 mm tall, coated 5 mm sage sugar paste")
	}
	n := func(s string) float64 { x, _ := strconv.ParseFloat(s, 64); return x }
	t := noun.Tier{Shape: m[1], SizeMM: n(m[2]), HeightMM: n(m[3]), CoatingMM: n(m[4]), Coating: strings.TrimSpace(m[5])}
	if t.SizeMM < 20 || t.SizeMM > 2000 || t.HeightMM > 1000 || t.CoatingMM > 100 {
		return t, fmt.Errorf("a tier is 20 to 2000 mm across, at most 1000 mm tall and coated at most 100 mm")
	}
	return t, nil
}

func showTier(t noun.Tier) string {
	s := fmt.Sprintf("%s %s mm", t.Shape, Trimmed(t.SizeMM, 1))
	if t.HeightMM > 0 {
		s += fmt.Sprintf(", %s mm tall", Trimmed(t.HeightMM, 1))
	}
	if t.CoatingMM > 0 {
		s += strings.TrimRight(fmt.Sprintf(", coated %s mm %s", Trimmed(t.CoatingMM, 1), t.Coating), " ")
	}
	return s
}
