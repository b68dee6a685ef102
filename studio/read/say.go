package read

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
)

// Reader is who reads: units, words and zone of the studio.
type Reader struct{ K *noun.Kitchen }

// Us tells whether the reader measures in ounces and inches.
func (r Reader) Us() bool { return r.K.Units == "us" }

// Spoons is whose teaspoon is meant: of 5 ml, or the US one.
func (r Reader) Spoons() string {
	if r.Us() {
		return "us"
	}
	return "metric"
}

// scale is the step of the kitchen's scale, g.
func (r Reader) scale() float64 {
	if r.K.ScaleStepG > 0 {
		return r.K.ScaleStepG
	}
	return 0.1
}

// Scale is the step of the kitchen's scale, g.
func (r Reader) Scale() float64 { return r.scale() }

// finest is how finely grams are said: what this scale can show, and no eye misses.
func (r Reader) finest(g float64) float64 {
	step := 5.0
	switch {
	case g < 10:
		step = 0.1
	case g < 1000:
		step = 1
	}
	return math.Max(r.scale(), step)
}

// Mass says grams as this kitchen's scale reads them; for readers of US units ounces
// stand beside them where they are finer than a pinch.
func (r Reader) Mass(g float64) string {
	if g <= 0 {
		return "none"
	}
	q := r.finest(g)
	at := measure.Round(g, q)
	if at < q-1e-9 {
		return "less than " + measure.Reading(q, q)
	}
	return measure.Reading(at, r.finest(at)) + r.ounces(g)
}

// Paste says paste to weigh out: never less than is wanted.
func (r Reader) Paste(g float64) string {
	if g <= 0 {
		return "none"
	}
	q := r.finest(g)
	at := q * float64(measure.Ceil(g/q))
	return measure.Reading(at, r.finest(at)) + r.ounces(at)
}

// ounces beside grams, from one ounce on, to a tenth.
func (r Reader) ounces(g float64) string {
	oz := g / measure.GramsPerOunce
	if !r.Us() || oz < 1 {
		return ""
	}
	return " (" + Trimmed(measure.Round(oz, 0.1), 1) + " oz)"
}

// Powder says powder as hands measure it: by the scale where it may speak, by her own
// spoon, else by dilution.
func (r Reader) Powder(code string, g float64) measure.DoableOut {
	out, err := measure.Doable(measure.DoableIn{MassG: &g, What: new("powder"), ScaleStepG: new(r.scale()), GramsPerTsp: r.K.SpoonOf(code)})
	if err != nil {
		return measure.DoableOut{Text: r.Mass(g)}
	}
	return out
}

// Gel says gel in drops and dabs of a bottle whose drops weigh so much (nil: as usual
// here), under a dab by mother paste.
func (r Reader) Gel(dropG *float64, g float64) measure.DoableOut {
	drop := r.K.DropG
	if dropG != nil {
		drop = *dropG
	}
	out, err := measure.Doable(measure.DoableIn{MassG: &g, What: new("gel"), ScaleStepG: new(r.scale()), DropG: &drop, DabG: &r.K.DabG})
	if err != nil {
		return measure.DoableOut{Text: "a trace"}
	}
	return out
}

// Chance says how sure something is, never too high: "about 95 %".
func Chance(x float64) string {
	out, err := measure.Doable(measure.DoableIn{Chance: &x})
	if err != nil {
		return "no telling"
	}
	return out.Text
}

// Estimate says a time that is estimated, and its band: "about 21 h", "13 h to 33 h".
// The band is "" where one end does not come.
func Estimate(hours float64, lo, hi *float64) (text, band string) {
	in := measure.DoableIn{Minutes: new(hours * 60)}
	if lo != nil && hi != nil {
		in.LowMinutes, in.HighMinutes = new(*lo*60), new(*hi*60)
	}
	out, err := measure.Doable(in)
	if err != nil {
		return Hours(hours), ""
	}
	text, band, _ = strings.Cut(out.Text, " (")
	return text, strings.TrimSuffix(band, ")")
}

// UpMinutes are whole minutes that are enough.
func UpMinutes(x float64) int { return measure.Ceil(x) }

// AboutG are grams that nobody weighs out: one figure, and below what a scale shows no
// figure at all.
func AboutG(g float64) string {
	switch {
	case g < 0.1:
		return "under 0.1 g"
	case g < 1:
		return "about " + Trimmed(g, 1) + " g"
	}
	return "about " + Trimmed(g, 0) + " g"
}

// EstimateMinutes says one length of time that rests on a guess: "about 21 h".
func EstimateMinutes(m int) string {
	text, _ := Estimate(float64(m)/60, nil, nil)
	return text
}

// Length says mm in the reader's units, as fine as a ruler.
func (r Reader) Length(mm float64) string {
	if r.Us() {
		return measure.FormatInches(mm / measure.MMPerInch)
	}
	return measure.FormatLength(mm)
}

// Temp says °C in the reader's degrees.
func (r Reader) Temp(c float64) string {
	if r.Us() {
		return Trimmed(c*1.8+32, 0) + " °F"
	}
	return Trimmed(c, 1) + " °C"
}

// Percent says per cent with two decimals, trimmed.
func Percent(x float64) string { return Trimmed(x, 2) + " %" }

// Trimmed is a number with so many decimals at most.
func Trimmed(x float64, decimals int) string {
	s := strconv.FormatFloat(x, 'f', decimals, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	if s == "-0" {
		return "0"
	}
	return s
}

// Hours prints a time of the drying model: "15 min", "4.3 h", "2 days 4 h".
func Hours(h float64) string { return SayMinutes(int(math.Ceil(h*60 - 1e-9))) }

// words that differ between readers: ours, and the US one.
var wordPairs = [][2]string{
	{"sugar paste", "fondant"}, {"Sugar paste", "Fondant"}, {"flower paste", "gum paste"}, {"Flower paste", "Gum paste"},
	{"cornflour", "cornstarch"}, {"Cornflour", "Cornstarch"}, {"icing sugar", "powdered sugar"}, {"Icing sugar", "Powdered sugar"},
	{"mould", "mold"}, {"Mould", "Mold"}, {"colour", "color"}, {"Colour", "Color"}, {"biscuit", "cookie"}, {"Biscuit", "Cookie"},
	{"lustre", "luster"}, {"white fat", "shortening"},
}

// Say puts our words into the reader's.
func (r Reader) Say(text string) string {
	if r.K.Words != "us" {
		return text
	}
	for _, w := range wordPairs {
		text = strings.ReplaceAll(text, w[0], w[1])
	}
	return text
}

// Sayf puts our words into the reader's and then the names in: what people call
// their own things stays as they wrote it.
func (r Reader) Sayf(format string, args ...any) string { return fmt.Sprintf(r.Say(format), args...) }

// PasteName of a kind of the shelf, in our words.
func PasteName(code string) string {
	k, _ := paste.KindOf(code)
	return k.Name
}

var SchoolNames = map[string]string{"light": "light", "modelling": "middle", "extra": "heavy"}

var PowderNames = map[string]string{"cmc": "CMC", "tragacanth": "gum tragacanth"}

// List joins words: "a, b and c".
func List(words []string) string {
	switch len(words) {
	case 0:
		return ""
	case 1:
		return words[0]
	}
	return strings.Join(words[:len(words)-1], ", ") + " and " + words[len(words)-1]
}

// UpperFirst begins a sentence.
func UpperFirst(s string) string {
	if s == "" {
		return s
	}
	r := []rune(s)
	return strings.ToUpper(string(r[0])) + string(r[1:])
}

// DemandSays is what a demand is called over its bar.
var DemandSays = map[string]string{
	"cut": "cut cleanly", "embossed": "takes the pattern", "scrapedLace": "scraped lace, lifted whole", "lippedOpenwork": "windows cut by the lip",
	"strands": "must not snap when carried", "hung": "hangs, or is laid cold round a curve", "branching": "forks come out in one pull", "shell": "sets like a shell", "paintedRigid": "painted all over, handled as a solid",
	"paintedBand": "painted flat, bent when dry", "shown": "only looked at", "faces": "fine limbs and undercuts", "deepMould": "leaves a deep mould whole", "thinPetals": "edge thinned by hand",
	"folded": "tucked like fabric", "wrapped": "bent round a curve", "upright": "stands while still soft", "standsDry": "stands when dry", "carries": "carries another piece",
	"knifeThrough": "the cake knife must pass", "mouthful": "eaten as a mouthful", "nibbled": "nibbled, mostly looked at", "handledSoon": "handled within 6 hours",
	"staysPliable": "stays pliable in its bag", "dampRoom": "holds its shape in damp air",
}

var WaySays = map[string]string{
	"sugarPaste": "sugar paste as it is", "lightDose": "sugar paste with a light dose", "mouldingReadyPaste": "moulding-ready paste", "halfAndHalf": "half sugar, half flower paste",
	"modellingPaste": "modelling paste", "flowerPaste": "flower paste", "blend": "sugar and flower paste blended", "extraDose": "sugar paste with the heavy dose", "hardener": "sugar paste with hardener",
}

// Count says how many of something there are: "1 copy", "2 copies", "3 boxes".
func Count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	if strings.HasSuffix(what, "ch") || strings.HasSuffix(what, "ss") || strings.HasSuffix(what, "x") {
		return fmt.Sprintf("%d %ses", n, what)
	}
	if stem, ok := strings.CutSuffix(what, "py"); ok {
		return fmt.Sprintf("%d %spies", n, stem)
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// WeighedSays is what the weighings of a mould come to; "" without one.
func WeighedSays(t *noun.Tool, r Reader) string {
	n := len(t.Weighings)
	if n == 0 {
		return ""
	}
	mean, spread := t.Weighed()
	if n == 1 {
		return fmt.Sprintf("%s, 1 piece weighed", Trimmed(mean, 2)+" g")
	}
	return fmt.Sprintf("%s g ± %s g, %d pieces weighed", Trimmed(mean, 2), Trimmed(spread, 2), n)
}

// LowerFirst goes on within a sentence.
func LowerFirst(s string) string {
	if s == "" {
		return s
	}
	return strings.ToLower(s[:1]) + s[1:]
}

// WordsOf are codes of allergens and what is asked about, as they are said.
func WordsOf(codes []string) []string {
	out := make([]string, len(codes))
	for i, c := range codes {
		out[i] = c
		for _, o := range askedOptions {
			if o.Code == c {
				out[i] = o.Say
			}
		}
	}
	return out
}

// LabelSays is what the label of a lot names, or that nobody has read it yet.
func LabelSays(l *noun.Lot) (out []string) {
	label := l.Label()
	usually := ""
	if !l.LabelRead {
		out = append(out, "label not read yet")
		usually = "usually "
	}
	if len(label.Holds) > 0 {
		out = append(out, usually+"holds "+List(label.Holds))
	}
	if len(label.May) > 0 {
		out = append(out, usually+"may contain "+List(label.May))
	}
	if len(l.Asks) > 0 {
		out = append(out, "names "+List(WordsOf(l.Asks)))
	}
	return out
}

// TempSpan is a difference of temperature in the reader's units.
func (r Reader) TempSpan(c float64) string {
	if r.Us() {
		return Trimmed(c*1.8, 0) + " °F"
	}
	return Trimmed(c, 0) + " °C"
}
