package read

import (
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
)

// airs are how fast air moves where things dry, m/s (assumed).
var airs = []struct {
	code, say string
	ms        float64
}{{"still", "still", noun.StillAir}, {"small", "a small fan, turned away", 0.3}, {"fan", "a fan on it", 1}}

// airField says how the air moves, of whatever has such.
func airField[T any](group string, at func(*T) *float64) *Field[T] {
	var opts []Option
	for _, a := range airs {
		opts = append(opts, Option{a.code, a.say})
	}
	return &Field[T]{Name: "airMS", Label: "Air moves", group: group, Kind: "choice", options: opts,
		read: func(_ Reader, text string, row *T, _ time.Time) error {
			var code string
			if err := (&Field[T]{Name: "airMS", options: opts}).choose(text, &code); err != nil {
				return err
			}
			for _, a := range airs {
				if a.code == code {
					*at(row) = a.ms
				}
			}
			return nil
		},
		show: func(_ Reader, row *T, _ time.Time) string {
			best := airs[0]
			for _, a := range airs {
				if math.Abs(a.ms-*at(row)) < math.Abs(best.ms-*at(row)) {
					best = a
				}
			}
			return best.code
		}}
}

// sensorField is what a room sensor calls the place.
func sensorField[T any](group string, at func(*T) *string) *Field[T] {
	return &Field[T]{Name: "sensor", Label: "Room sensor", group: group, Kind: "text", hint: "what the sensor calls this place, such as kitchen; empty: none is read", at: func(row *T) any { return at(row) },
		read: func(_ Reader, text string, row *T, _ time.Time) error {
			if text != "" && !sensorName.MatchString(text) {
				return fault.New(fault.Syntax, "sensor", "One word of letters, digits and dashes, as the sensor says it: kitchen, box-2.")
			}
			*at(row) = strings.ToLower(text)
			return nil
		}}
}

var sensorName = regexp.MustCompile(`^[A-Za-z0-9_-]{1,30}$`)

// RackFields are those of a place where things dry.
var RackFields = []*Field[noun.Rack]{
	{Name: "name", Label: "Where things dry", group: "Place", Kind: "text", Must: true, at: func(r *noun.Rack) any { return &r.Name }},
	{Name: "tempC", Label: "It is", group: "Its air", Kind: "amount", Dim: "temp", Lo: 5, Hi: 40, Must: true, at: func(r *noun.Rack) any { return &r.TempC }},
	{Name: "rhPercent", Label: "Humidity", group: "Its air", Kind: "amount", Dim: "percent", Lo: 5, Hi: 95, Must: true, at: func(r *noun.Rack) any { return &r.RHPercent }},
	airField("Its air", func(r *noun.Rack) *float64 { return &r.AirMS }),
	sensorField("Its air", func(r *noun.Rack) *string { return &r.Sensor }),
	{Name: "trays", Label: "Trays", group: "Place", Kind: "lines", hint: "2 of 300 x 200 mm", usHint: "2 of 12 x 8 in",
		read: func(r Reader, text string, rack *noun.Rack, _ time.Time) error {
			if asShown(text, TraysText(r, rack.Trays)) {
				return nil
			}
			x, err := lines("trays", text, func(l string) (noun.Tray, error) { return readTray(r, l) })
			rack.Trays = x
			return err
		},
		show: func(r Reader, rack *noun.Rack, _ time.Time) string { return TraysText(r, rack.Trays) }},
}

// rackField is where a piece dries.
var rackField = &Field[noun.Piece]{Name: "rack", Label: "Dries in", group: "How it is joined", Kind: "choice", options: []Option{{"", "the kitchen"}},
	read: func(r Reader, text string, p *noun.Piece, _ time.Time) error {
		if text == "" {
			p.Rack = nil
			return nil
		}
		id, err := strconv.ParseInt(text, 10, 64)
		if err != nil || r.K.RackOf(id) == nil {
			return fault.New(fault.UnknownValue, "rack", "Choose the kitchen, or a place that Kitchen lists.")
		}
		p.Rack = &id
		return nil
	},
	show: func(r Reader, p *noun.Piece, _ time.Time) string {
		if p.Rack == nil || r.K.RackOf(*p.Rack) == nil {
			return ""
		}
		return strconv.FormatInt(*p.Rack, 10)
	}}

// RackOptions are the places where a piece can dry.
func RackOptions(k *noun.Kitchen) []Option {
	out := []Option{{"", "the kitchen"}}
	for _, r := range k.Around.Racks {
		out = append(out, Option{strconv.FormatInt(r.ID, 10), r.Name})
	}
	return out
}

var (
	expectShape  = regexp.MustCompile(`(?i)^(.*?)\s*\bfrom\s+(.+?)(?:\s+(?:until|till|to)\s+(.+?))?$`)
	percentShape = regexp.MustCompile(`(\d{1,3}(?:[.,]\d)?)\s*%`)
	tempShape    = regexp.MustCompile(`(-?\d{1,3}(?:[.,]\d)?)\s*°?\s*([CF])\b`)
)

// weather is what a word means for a kitchen without a number (assumed).
var weather = []struct {
	word string
	rh   float64
}{{"rain", 65}, {"damp", 65}, {"wet", 65}, {"fog", 68}, {"humid", 65}, {"storm", 68}, {"dry", 38}, {"frost", 35}, {"heating", 35}}

// mostExpected lines are kept.
const mostExpected = 20

// readExpected reads "rain from Thursday", "damp from Thu 18:00 until Sat 9:00: 62 %, 19 C".
func readExpected(r Reader, line string, now time.Time) (e noun.Expected, err error) {
	say := "write it as rain from Thursday, or from Thu 18:00 until Sat 9:00: 62 %"
	text, tail := line, ""
	for _, sign := range []string{": ", "; ", ", "} {
		if i := strings.Index(line, sign); i > 0 && percentShape.MatchString(line[i:]) {
			text, tail = line[:i], line[i+1:]
			break
		}
	}
	m := expectShape.FindStringSubmatch(strings.TrimSpace(text))
	if m == nil {
		return e, fmt.Errorf("%s", say)
	}
	var ok bool
	if e.From, ok = r.ReadDate(strings.TrimRight(m[2], " ,"), now, 0); !ok {
		return e, fmt.Errorf("%s", say)
	}
	if m[3] != "" {
		until, ok := r.ReadDate(strings.TrimRight(m[3], " ,"), now, 24)
		if !ok {
			until, ok = r.ReadDate(strings.TrimRight(m[3], " ,"), now, 0)
		}
		if !ok || !until.After(e.From) {
			return e, fmt.Errorf("it ends after it begins: %s", say)
		}
		e.Until = &until
	}
	e.Says = strings.ToLower(strings.TrimSpace(m[1]))
	if len([]rune(e.Says)) > 40 {
		return e, fmt.Errorf("at most 40 characters before \"from\"")
	}
	if p := percentShape.FindStringSubmatch(tail); p != nil {
		e.RHPercent, _ = strconv.ParseFloat(strings.Replace(p[1], ",", ".", 1), 64)
	} else if i := slices.IndexFunc(weather, func(w struct {
		word string
		rh   float64
	}) bool {
		return strings.Contains(e.Says, w.word)
	}); i >= 0 {
		e.RHPercent = weather[i].rh
	} else {
		return e, fmt.Errorf("say how damp: %s", say)
	}
	if e.RHPercent < 5 || e.RHPercent > 95 {
		return e, fmt.Errorf("a humidity from 5 to 95 %%, not %s", Trimmed(e.RHPercent, 1))
	}
	if t := tempShape.FindStringSubmatch(tail); t != nil {
		c, _ := strconv.ParseFloat(strings.Replace(t[1], ",", ".", 1), 64)
		if t[2] == "F" {
			c = (c - 32) / 1.8
		}
		if c < 5 || c > 40 {
			return e, fmt.Errorf("a kitchen from %s to %s", r.Temp(5), r.Temp(40))
		}
		e.TempC = &c
	}
	return e, nil
}

// ExpectedText is what is expected, as it is typed.
func ExpectedText(r Reader, e noun.Expected, now time.Time) string {
	zone := now.Location()
	at := func(t time.Time) string { return r.Date(t.In(zone), now) }
	out := strings.TrimSpace(e.Says + " from " + at(e.From))
	if e.Until != nil {
		out += " until " + at(*e.Until)
	}
	out += ": " + Trimmed(e.RHPercent, 1) + " %"
	if e.TempC != nil {
		out += ", " + r.Temp(*e.TempC)
	}
	return out
}

// expectsField is what the decorator expects of the kitchen's air.
var expectsField = &Field[noun.Kitchen]{Name: "expects", Label: "What is coming", group: "How is the room?", Kind: "lines", hint: "One a line: rain from Thursday, or damp from Thu 18:00 until Sat 9:00: 62 %. Without a number rain and damp count as 65 %.",
	read: func(r Reader, text string, k *noun.Kitchen, now time.Time) error {
		was := map[string]noun.Expected{}
		for _, e := range k.Expects {
			was[ExpectedText(r, e, now)] = e
		}
		all, err := lines("expects", text, func(l string) (noun.Expected, error) {
			if e, same := was[l]; same {
				return e, nil
			}
			return readExpected(r, l, now)
		})
		if err != nil {
			return err
		}
		if len(all) > mostExpected {
			return fault.New(fault.OutOfRange, "expects", "At most %d lines.", mostExpected)
		}
		k.Expects = slices.DeleteFunc(all, func(e noun.Expected) bool { return e.Until != nil && e.Until.Before(now) })
		return nil
	},
	show: func(r Reader, k *noun.Kitchen, now time.Time) string {
		return shown(k.Expects, func(e noun.Expected) string { return ExpectedText(r, e, now) })
	}}
