package read

import (
	"fmt"
	"regexp"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/measure"
	"dustyfern/studio/noun"
)

var (
	clockShape = regexp.MustCompile(`(?:^|[\s,]|\bat )(\d{1,2})(?:[:.](\d{2}))?\s*(am|pm|h)?$`)
	isoShape   = regexp.MustCompile(`^(\d{4})-(\d{1,2})-(\d{1,2})$`)
	slashShape = regexp.MustCompile(`^(\d{1,2})[./](\d{1,2})(?:[./](\d{2,4}))?$`)
	dayShape   = regexp.MustCompile(`^(?:the )?(\d{1,2})(?:st|nd|rd|th)?(?: of)? ([a-z]+)(?: (\d{4}))?$`)
	usShape    = regexp.MustCompile(`^([a-z]+) (\d{1,2})(?:st|nd|rd|th)?(?:,? (\d{4}))?$`)
	agoShape   = regexp.MustCompile(`^(\d{1,3}|a|one|two|three|four|five|six) (day|week|month)s? ago$`)
	tubShape   = regexp.MustCompile(`^(?:end of )?(?:(\d{1,2})[/.-](\d{4})|(\d{4})-(\d{1,2})|([a-z]+)\.? (\d{4}))$`)
	inShape    = regexp.MustCompile(`^in (\d{1,3}|a|one|two|three|four|five|six) (day|week|month)s?$`)
)

var weekdays = map[string]time.Weekday{
	"sun": 0, "sunday": 0, "mon": 1, "monday": 1, "tue": 2, "tues": 2, "tuesday": 2, "wed": 3, "weds": 3, "wednesday": 3,
	"thu": 4, "thur": 4, "thurs": 4, "thursday": 4, "fri": 5, "friday": 5, "sat": 6, "saturday": 6,
}

var months = func() map[string]time.Month {
	out := map[string]time.Month{}
	for m := time.January; m <= time.December; m++ {
		name := strings.ToLower(m.String())
		out[name], out[name[:3]] = m, m
	}
	out["sept"] = time.September
	return out
}()

// ReadDate understands a date as people say it, seen from now: "Sat week,
// 10:00", "5 Dec 10am", "tomorrow 18:00", "in 9 days", "2026-12-05 10:00". hour
// is taken when no time of day is said. ok is false when it is not understood.
func (r Reader) ReadDate(text string, now time.Time, hour int) (t time.Time, ok bool) {
	s := strings.ToLower(strings.Join(strings.Fields(text), " "))
	s = strings.ReplaceAll(s, "o'clock", "")
	s = strings.NewReplacer("noon", "12:00", "midday", "12:00", "midnight", "0:00").Replace(s)
	if len(s) > 60 {
		return t, false
	}
	minute := 0
	day := strings.TrimRight(s, " ,")
	// a trailing time of day: with minutes, am, pm or "at", so that "5 dec" is left whole
	if m := clockShape.FindStringSubmatchIndex(day); m != nil {
		whole := day[m[0]:m[1]]
		h, _ := strconv.Atoi(day[m[2]:m[3]])
		group := func(i int) string {
			if m[i] < 0 {
				return ""
			}
			return day[m[i]:m[i+1]]
		}
		mm, half := group(4), group(6)
		if (mm != "" && !slashShape.MatchString(strings.TrimSpace(whole)) || mm != "" && strings.Contains(whole, ":")) || half != "" || strings.Contains(whole, "at ") {
			if mm != "" {
				minute, _ = strconv.Atoi(mm)
			}
			switch {
			case half == "pm" && h < 12:
				h += 12
			case half == "am" && h == 12:
				h = 0
			}
			if h > 23 || minute > 59 {
				return t, false
			}
			hour = h
			day = strings.TrimRight(day[:m[0]], " ,")
			day = strings.TrimSuffix(strings.TrimSuffix(day, " at"), ",")
		}
	}
	base := noun.OnClock(now.Year(), now.Month(), now.Day(), hour, minute, now.Location())
	d, ok := r.readDay(strings.TrimSpace(day), base, now)
	return d, ok
}

// counted is a small number in figures or in words.
func counted(text string) int {
	if n, err := strconv.Atoi(text); err == nil {
		return n
	}
	return map[string]int{"a": 1, "one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6}[text]
}

// readTub reads a date as it is printed on tubs, month and year: the last day of that
// month.
func readTub(text string, now time.Time) (t time.Time, ok bool) {
	m := tubShape.FindStringSubmatch(strings.ToLower(strings.Join(strings.Fields(text), " ")))
	if m == nil {
		return t, false
	}
	month, year := months[m[5]], 0
	for _, x := range [][2]string{{m[1], m[2]}, {m[4], m[3]}, {"", m[6]}} {
		if n, err := strconv.Atoi(x[0]); err == nil {
			month = time.Month(n)
		}
		if n, err := strconv.Atoi(x[1]); err == nil {
			year = n
		}
	}
	if month < 1 || month > 12 {
		return t, false
	}
	return time.Date(year, month+1, 0, 12, 0, 0, 0, now.Location()), true
}

// inMonths is the same day of a later month, or its last day when it is shorter.
func inMonths(t time.Time, n int) time.Time {
	out := t.AddDate(0, n, 0)
	if out.Day() != t.Day() {
		out = out.AddDate(0, 0, -out.Day())
	}
	return out
}

// readDay reads a day, seen from a base whose hour it keeps.
func (r Reader) readDay(day string, base, now time.Time) (time.Time, bool) {
	if t, ok := readCounted(day, base); ok {
		return t, true
	}
	if t, read, ok := r.readCalendar(day, base, now); read {
		return t, ok
	}
	words := strings.Fields(strings.ReplaceAll(day, ",", " "))
	// a weekday may stand before a date: it is checked against it
	if len(words) >= 3 {
		if w, isDay := weekdays[words[0]]; isDay {
			if t, read, ok := r.readCalendar(strings.Join(words[1:], " "), base, now); read {
				return t, ok && t.Weekday() == w
			}
		}
	}
	return readWeekday(words, base, now)
}

// readCounted reads a day counted from the base: today, two weeks ago, in a month.
func readCounted(day string, base time.Time) (time.Time, bool) {
	switch day {
	case "", "today", "tonight":
		return base, true
	case "tomorrow":
		return base.AddDate(0, 0, 1), true
	case "yesterday":
		return base.AddDate(0, 0, -1), true
	}
	m, n := inShape.FindStringSubmatch(day), 1
	if m == nil {
		m, n = agoShape.FindStringSubmatch(day), -1
	}
	if m == nil {
		return base, false
	}
	n *= counted(m[1])
	switch m[2] {
	case "week":
		return base.AddDate(0, 0, 7*n), true
	case "month":
		return inMonths(base, n), true
	}
	return base.AddDate(0, 0, n), true
}

// readCalendar reads a day of the calendar in figures or with its month's name: whether it reads
// as one, and whether there is such a day.
func (r Reader) readCalendar(day string, base, now time.Time) (t time.Time, read, ok bool) {
	calendar := func(y int, m time.Month, d int) (time.Time, bool) {
		t := noun.OnClock(y, m, d, base.Hour(), base.Minute(), base.Location())
		return t, t.Month() == m && t.Day() == d
	}
	year := func(text string, m time.Month, d int) int {
		if y, err := strconv.Atoi(text); err == nil {
			if y < 100 {
				y += 2000
			}
			return y
		}
		// without a year the next such day, unless it was in the last two months
		if t, ok := calendar(now.Year(), m, d); ok && t.Before(now.AddDate(0, -2, 0)) {
			return now.Year() + 1
		}
		return now.Year()
	}
	number := func(text string) int {
		n, _ := strconv.Atoi(text) // the shapes let figures through only
		return n
	}
	joined := strings.Join(strings.Fields(strings.ReplaceAll(day, ",", " ")), " ")
	if m := isoShape.FindStringSubmatch(day); m != nil {
		t, ok = calendar(number(m[1]), time.Month(number(m[2])), number(m[3]))
		return t, true, ok
	}
	d, month, y := 0, time.Month(0), ""
	if m := slashShape.FindStringSubmatch(day); m != nil {
		mm := number(m[2])
		if d, y = number(m[1]), m[3]; r.Us() && strings.Contains(day, "/") { // month first, where that can be meant
			d, mm = mm, d
		}
		if month = time.Month(mm); mm < 1 || mm > 12 {
			return base, true, false
		}
	} else if m := dayShape.FindStringSubmatch(joined); m != nil && months[m[2]] != 0 {
		d, month, y = number(m[1]), months[m[2]], m[3]
	} else if m := usShape.FindStringSubmatch(joined); m != nil && months[m[1]] != 0 {
		d, month, y = number(m[2]), months[m[1]], m[3]
	} else {
		return base, false, false
	}
	t, ok = calendar(year(y, month, d), month, d)
	return t, true, ok
}

// readWeekday reads the next such day, or that of the week after.
func readWeekday(words []string, base, now time.Time) (time.Time, bool) {
	weeks := 0
	switch {
	case len(words) == 2 && words[0] == "next":
		weeks, words = 1, words[1:]
	case len(words) == 2 && (words[0] == "this" || words[0] == "on"):
		words = words[1:]
	case len(words) == 2 && words[1] == "week":
		weeks, words = 1, words[:1]
	case len(words) == 3 && words[1] == "in" && words[2] == "a" || len(words) == 4 && words[1] == "in" && words[2] == "a" && words[3] == "week":
		weeks, words = 1, words[:1]
	}
	if len(words) != 1 {
		return base, false
	}
	w, ok := weekdays[words[0]]
	if !ok {
		return base, false
	}
	ahead := (int(w) - int(base.Weekday()) + 7) % 7
	if ahead == 0 && !base.After(now) {
		ahead = 7
	}
	return base.AddDate(0, 0, ahead+7*weeks), true
}

// Clock is a time of day: "19:00", or "7:00 pm" for readers of US units.
func (r Reader) Clock(t time.Time) string {
	if r.Us() {
		return t.Format("3:04 pm")
	}
	return t.Format("15:04")
}

// Day is a date without its weekday: "5 Dec", or "Dec 5"; year: with its year.
func (r Reader) Day(t time.Time, year bool) string {
	layout := map[bool]string{false: "2 Jan", true: "Jan 2"}[r.Us()]
	if year {
		layout += map[bool]string{false: " 2006", true: ", 2006"}[r.Us()]
	}
	return t.Format(layout)
}

// Date is a date as people plan: "Sat 5 Dec, 10:00".
func (r Reader) Date(t, now time.Time) string {
	t = t.In(now.Location())
	return t.Format("Mon ") + r.Day(t, t.Year() != now.Year()) + ", " + r.Clock(t)
}

// Time is an instant near at hand: "Thu 10:40", with its date when it is a week away
// or more.
func (r Reader) Time(t, now time.Time) string {
	t = t.In(now.Location())
	if days := daysBetween(now, t); days > -7 && days < 7 {
		return t.Format("Mon ") + r.Clock(t)
	}
	return r.Date(t, now)
}

// About is an instant that follows from an estimate which began at from: no finer than
// its length can tell, nor than five minutes.
func (r Reader) About(t, from, now time.Time) string {
	step := time.Duration(max(5, measure.TimeStep(t.Sub(from).Minutes()))) * time.Minute
	t = t.In(now.Location())
	if step >= 24*time.Hour {
		if days := daysBetween(now, t); days > -7 && days < 7 {
			return t.Format("Mon")
		}
		return t.Format("Mon ") + r.Day(t, false)
	}
	midnight := time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, t.Location())
	return r.Time(midnight.Add((t.Sub(midnight) + step/2).Truncate(step)), now)
}

// SayWhen is how far off an instant is: "in 9 days", "in 3 h 20", "2 h ago".
func SayWhen(t, now time.Time) string {
	m := int(t.Sub(now).Round(time.Minute) / time.Minute)
	past := m < 0
	if past {
		m = -m
	}
	days := daysBetween(now, t.In(now.Location()))
	if past {
		days = -days
	}
	var s string
	switch {
	case m == 0:
		return "now"
	case m < 24*60:
		s = SayMinutes(m)
	case days == 1:
		s = "1 day"
	default:
		s = fmt.Sprintf("%d days", days)
	}
	if past {
		return s + " ago"
	}
	return "in " + s
}

func daysBetween(a, b time.Time) int {
	d := func(t time.Time) time.Time { return time.Date(t.Year(), t.Month(), t.Day(), 12, 0, 0, 0, time.UTC) }
	return int(d(b.In(a.Location())).Sub(d(a)).Hours()/24 + 0.5)
}

// SayMinutes is a length of time: "45 min", "3 h 20", "2 days 4 h".
func SayMinutes(m int) string {
	switch {
	case m < 0:
		return "-" + SayMinutes(-m)
	case m < 60:
		return fmt.Sprintf("%d min", m)
	case m < 48*60 && m%60 == 0:
		return fmt.Sprintf("%d h", m/60)
	case m < 48*60:
		return fmt.Sprintf("%d h %02d", m/60, m%60)
	case m%1440 < 60:
		return fmt.Sprintf("%d days", m/1440)
	}
	return fmt.Sprintf("%d days %d h", m/1440, m%1440/60)
}
