package measure

import (
	"regexp"
	"strconv"
	"strings"
	"unicode"
)

type token struct {
	text   string // lower case, but for single letters
	num    float64
	isNum  bool
	spaced bool // a space stands before it
}

var vulgar = map[rune]string{
	'½': "1/2", '⅓': "1/3", '⅔': "2/3", '¼': "1/4", '¾': "3/4", '⅕': "1/5", '⅖': "2/5", '⅗': "3/5", '⅘': "4/5",
	'⅙': "1/6", '⅚': "5/6", '⅐': "1/7", '⅛': "1/8", '⅜': "3/8", '⅝': "5/8", '⅞': "7/8", '⅑': "1/9", '⅒': "1/10",
}

// plain brings the many ways of writing a sign to one.
func plain(text string) string {
	var b strings.Builder
	last := ' '
	for _, r := range text {
		switch {
		case vulgar[r] != "":
			if unicode.IsDigit(last) {
				b.WriteByte(' ')
			}
			b.WriteString(vulgar[r])
		case r == '\u2044' || r == '\u2215':
			b.WriteByte('/')
		case r == '\u2010' || r == '\u2011' || r == '\u2012' || r == '\u2013' || r == '\u2014' || r == '\u2015' || r == '\u2212':
			b.WriteByte('-')
		case unicode.IsSpace(r):
			b.WriteByte(' ')
		case r == '\u2018' || r == '\u2019' || r == '\u2032':
			b.WriteByte('\'')
		case r == '\u201c' || r == '\u201d' || r == '\u2033':
			b.WriteByte('"')
		case r == 'º':
			b.WriteRune('°')
		default:
			b.WriteRune(r)
		}
		last = r
	}
	return b.String()
}

var (
	numberShape = regexp.MustCompile(`^(\d[\d,]*(\.\d+)?|\.\d+)`)
	thousands   = regexp.MustCompile(`^[1-9]\d{0,2}(,\d{3})+(\.\d+)?$`)
	oneComma    = regexp.MustCompile(`^\d+,\d+$`)
)

// number reads digits with a point, a decimal comma or thousands marks.
func number(s string) (float64, bool) {
	switch {
	case !strings.Contains(s, ","):
	case thousands.MatchString(s):
		s = strings.ReplaceAll(s, ",", "")
	case oneComma.MatchString(s):
		s = strings.Replace(s, ",", ".", 1)
	default:
		return 0, false
	}
	x, err := strconv.ParseFloat(s, 64)
	return x, err == nil
}

// tokens cuts a plain text; ok is false when a number cannot be read.
func tokens(text string) (out []token, ok bool) {
	spaced := false
	for text != "" {
		if text[0] == ' ' {
			spaced, text = true, text[1:]
			continue
		}
		t := token{spaced: spaced}
		spaced = false
		if m := numberShape.FindString(text); m != "" {
			m = strings.TrimRight(m, ",")
			if t.num, ok = number(m); !ok {
				return nil, false
			}
			t.isNum, t.text = true, m
			text = text[len(m):]
			out = append(out, t)
			continue
		}
		n := 0
		for i, r := range text {
			if !unicode.IsLetter(r) {
				break
			}
			n = i + len(string(r))
		}
		if n == 0 { // one sign
			for _, r := range text {
				n = len(string(r))
				break
			}
		}
		t.text = text[:n]
		if len([]rune(t.text)) > 1 {
			t.text = strings.ToLower(t.text)
		}
		text = text[n:]
		out = append(out, t)
	}
	return out, true
}

var ones = map[string]float64{
	"one": 1, "two": 2, "three": 3, "four": 4, "five": 5, "six": 6, "seven": 7, "eight": 8, "nine": 9, "ten": 10, "eleven": 11, "twelve": 12,
	"fifteen": 15, "twenty": 20, "thirty": 30, "forty": 40, "fifty": 50, "hundred": 100,
}

var fractions = map[string]float64{
	"half": 1.0 / 2, "halves": 1.0 / 2, "third": 1.0 / 3, "thirds": 1.0 / 3, "quarter": 1.0 / 4, "quarters": 1.0 / 4, "fourth": 1.0 / 4, "fourths": 1.0 / 4,
	"eighth": 1.0 / 8, "eighths": 1.0 / 8, "tenth": 1.0 / 10, "tenths": 1.0 / 10, "sixteenth": 1.0 / 16, "sixteenths": 1.0 / 16,
}

var adjectives = map[string]float64{"level": 1, "scant": 0.9, "rounded": 1.25, "heaped": 1.6, "heaping": 1.6}

var about = map[string]bool{"about": true, "approx": true, "approximately": true, "roughly": true, "around": true, "~": true, "circa": true}
