package studio

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
)

// reader is who reads: units, words and zone of the studio.
type reader struct{ k *noun.Kitchen }

func (r reader) us() bool { return r.k.Units == "us" }

// spoons is whose teaspoon is meant: of 5 ml, or the US one.
func (r reader) spoons() string {
	if r.us() {
		return "us"
	}
	return "metric"
}

// mass prints grams, or ounces for readers of US units.
func (r reader) mass(g float64) string {
	if !r.us() || g < 1 {
		return measure.FormatMass(g)
	}
	oz := g / measure.GramsPerOunce
	if oz < 16 {
		return trimmed(oz, 2) + " oz"
	}
	return fmt.Sprintf("%d lb %s oz", int(oz/16), trimmed(oz-16*math.Floor(oz/16), 1))
}

func (r reader) length(mm float64) string {
	if r.us() {
		return measure.FormatInches(mm / measure.MMPerInch)
	}
	return measure.FormatLength(mm)
}

func (r reader) temp(c float64) string {
	if r.us() {
		return trimmed(c*1.8+32, 0) + " °F"
	}
	return trimmed(c, 1) + " °C"
}

func percent(x float64) string { return trimmed(x, 2) + " %" }

func trimmed(x float64, decimals int) string {
	s := strconv.FormatFloat(x, 'f', decimals, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		return "0"
	}
	return s
}

// hours prints a time of the drying model: "15 min", "4.3 h", "2 days 4 h".
func hours(h float64) string { return SayMinutes(int(math.Ceil(h*60 - 1e-9))) }

// words that differ between readers: ours, and the US one.
var wordPairs = [][2]string{
	{"sugar paste", "fondant"}, {"Sugar paste", "Fondant"}, {"flower paste", "gum paste"}, {"Flower paste", "Gum paste"},
	{"cornflour", "cornstarch"}, {"Cornflour", "Cornstarch"}, {"icing sugar", "powdered sugar"}, {"Icing sugar", "Powdered sugar"},
	{"mould", "mold"}, {"Mould", "Mold"}, {"colour", "color"}, {"Colour", "Color"}, {"biscuit", "cookie"}, {"Biscuit", "Cookie"},
	{"lustre", "luster"}, {"white fat", "shortening"},
}

// say puts our words into the reader's.
func (r reader) say(text string) string {
	if r.k.Words != "us" {
		return text
	}
	for _, w := range wordPairs {
		text = strings.ReplaceAll(text, w[0], w[1])
	}
	return text
}

// sayf puts our words into the reader's and then the names in: what people call
// their own things stays as they wrote it.
func (r reader) sayf(format string, args ...any) string { return fmt.Sprintf(r.say(format), args...) }

// pasteName of a kind of the shelf, in our words.
func pasteName(code string) string {
	k, _ := paste.KindOf(code)
	return k.Name
}

var schoolNames = map[string]string{"light": "light", "modelling": "middle", "extra": "heavy"}

var powderNames = map[string]string{"cmc": "CMC", "tragacanth": "gum tragacanth"}

// list joins words: "a, b and c".
func list(words []string) string {
	switch len(words) {
	case 0:
		return ""
	case 1:
		return words[0]
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

func upperFirst(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	return strings.ToUpper(string(r[0])) + string(r[1:])
}
