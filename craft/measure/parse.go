package measure

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/fault"
)

// ParseIn is a text as typed, the kind that is wanted of it, and what this
// kitchen has settled.
type ParseIn struct {
	Text      *string            `json:"text" need:"true"`
	Want      *string            `json:"want" def:"any" of:"any mass volume length temperature time share count"`
	Spoons    *string            `json:"spoons" def:"metric" of:"us metric au"`
	PinchTsp  *float64           `json:"pinchTsp"`  // 1/16 or 1/8, once the kitchen has said which
	UnitGrams map[string]float64 `json:"unitGrams"` // grams in its own stick, sachet, packet, leaf, sheet
}

// Choice is one reading of a doubtful text.
type Choice struct {
	Dimension string  `json:"dimension"`
	Value     float64 `json:"value"`
	Unit      string  `json:"unit"`
	Says      string  `json:"says"`
}

// Parsed is either one amount (g, ml, mm, °C, min, share or count) with its
// least and most, or, when Ambiguous, the readings to choose from.
type Parsed struct {
	Ambiguous   bool     `json:"ambiguous"`
	Dimension   string   `json:"dimension,omitempty"`
	Value       *float64 `json:"value,omitempty"`
	Unit        string   `json:"unit,omitempty"`
	Low         *float64 `json:"low,omitempty"`
	High        *float64 `json:"high,omitempty"`
	Approximate bool     `json:"approximate"`
	Ingredient  string   `json:"ingredient,omitempty"`
	Choices     []Choice `json:"choices"`
	GramsEach   string   `json:"gramsEach,omitempty"`
	Count       *float64 `json:"count,omitempty"`
}

func bad(code, format string, args ...any) *fault.Fault {
	return fault.New(code, "text", format, args...)
}

// Parse reads what people type: "1 lb 4 oz", "1½ tsp", "about 15 minutes",
// "2-3 mm", "70:30". A text with several readings is answered with its
// choices, never guessed. Faults are on text.
func Parse(in ParseIn) (Parsed, error) {
	if err := fault.Check(&in); err != nil {
		return Parsed{}, err
	}
	if in.PinchTsp != nil && *in.PinchTsp != 0.0625 && *in.PinchTsp != 0.125 {
		return Parsed{}, fault.New(fault.OutOfRange, "pinchTsp", "A pinch is 0.0625 or 0.125 tsp.")
	}
	for k, g := range in.UnitGrams {
		if packWords[k] != k {
			return Parsed{}, fault.New(fault.UnknownValue, "unitGrams."+k, "Known packs are stick, sachet, packet, leaf and sheet.")
		}
		if !(g >= 0.01 && g <= 50000) {
			return Parsed{}, fault.New(fault.OutOfRange, "unitGrams."+k, "Say how many grams are in one %s: 0.01 to 50000.", k)
		}
	}
	out, f := parse(in)
	if f != nil {
		return Parsed{}, f
	}
	if out.Choices == nil {
		out.Choices = []Choice{}
	}
	return out, nil
}

func parse(in ParseIn) (Parsed, *fault.Fault) {
	text := strings.TrimSpace(plain(*in.Text))
	if text == "" {
		return Parsed{}, bad(fault.Required, "Write an amount, such as 4.2 g or 1/8 oz.")
	}
	if len([]rune(text)) > 200 {
		return Parsed{}, bad(fault.Syntax, "That is too long for an amount: at most 200 characters.")
	}
	toks, ok := tokens(text)
	if !ok {
		return Parsed{}, bad(fault.Syntax, "A number in there cannot be read. Write 2.5 or 2,5, and 2400 or 2,400.")
	}
	for _, t := range toks {
		switch t.text {
		case "setting", "gauge", "tube":
			return Parsed{}, bad(fault.Syntax, "A %s number is no size of its own: the roller's table in the tool drawer turns it into millimetres (ribbon.roller).", t.text)
		}
	}
	p := parser{in: in, spoons: SpoonSchools[*in.Spoons], toks: toks}
	p.gelatine = slices.ContainsFunc(toks, func(t token) bool { return t.text == "gelatine" || t.text == "gelatin" })
	return p.whole()
}

type parser struct {
	in       ParseIn
	spoons   Spoons
	toks     []token
	at       int
	approx   bool
	gelatine bool
}

// amount is one quantity with its unit as read; several make a sum.
type amount struct {
	lo, hi float64 // as written
	unit   string  // "" none, or a word of unitWords, "c?", "deg?", "C", "F", "fahrenheit", "pack:.."
	factor float64 // of an adjective
	ratioA float64 // a/b or a:b as written, when that is all there was
	ratioB float64
	colon  bool
	small  bool // overnight, a lone pinch: no number was written
}

func (p *parser) peek(i int) token {
	if p.at+i < len(p.toks) {
		return p.toks[p.at+i]
	}
	return token{}
}
func (p *parser) done() bool { return p.at >= len(p.toks) }

// skip takes the next token when it is one of the words.
func (p *parser) skip(words ...string) bool {
	if !p.done() && !p.peek(0).isNum && slices.Contains(words, p.peek(0).text) {
		p.at++
		return true
	}
	return false
}

var errNumber = "No number found: write an amount, such as 4.2 g or 1/8 oz."

func (p *parser) whole() (Parsed, *fault.Fault) {
	for about[p.peek(0).text] {
		p.approx = true
		p.at++
		if p.peek(0).text == "." {
			p.at++
		}
	}
	for _, w := range []struct{ first, mid string }{{"between", "and"}, {"from", "to"}} {
		if p.peek(0).text == w.first {
			return p.between(w.mid)
		}
	}
	a, f := p.amount(true)
	if f != nil {
		return Parsed{}, f
	}
	sum := []amount{a}
	for a.unit != "" && p.sums(a.unit) {
		mark := p.at
		joined := p.skip("+", "plus", "and", ",")
		if !p.numberAhead() || (p.peek(0).text == "a" && !p.isUnit(1)) {
			p.at = mark
			break
		}
		inWords := !p.peek(0).isNum
		b, f := p.amount(false)
		if f != nil {
			return Parsed{}, f
		}
		if b.unit == "" && inWords { // "half and half" is an ingredient
			p.at = mark
			break
		}
		if b.unit == "" || p.dimension(b.unit) != p.dimension(a.unit) {
			if joined && b.unit != "" {
				return Parsed{}, bad(fault.Contradiction, "Only amounts of one kind can be added.")
			}
			return Parsed{}, bad(fault.Syntax, "A second number follows: write one amount, or a sum such as 1 lb 4 oz.")
		}
		sum = append(sum, b)
	}
	ingredient, f := p.ingredient()
	if f != nil {
		return Parsed{}, f
	}
	return p.answer(sum, ingredient)
}

// sums reports whether amounts in the unit may be added: doubtful units and
// packs, whose size is asked, may not.
func (p *parser) sums(u string) bool {
	return u != "c?" && u != "deg?" && u != "pinch" && u != "pinches" && u != "overnight" && !strings.HasPrefix(u, "pack:")
}

func (p *parser) isUnit(i int) bool {
	t := p.peek(i)
	if t.isNum || t.text == "" {
		return false
	}
	_, ok := unitWords[strings.ToLower(t.text)]
	return ok || adjectives[t.text] != 0 || packWords[t.text] != ""
}

func (p *parser) numberAhead() bool {
	t := p.peek(0)
	return t.isNum || t.text == "a" || t.text == "an" || ones[t.text] != 0 || fractions[t.text] != 0
}

// between reads "between x and y", "from x to y": the first split that works
// and rises.
func (p *parser) between(mid string) (Parsed, *fault.Fault) {
	start := p.at + 1
	for i := start + 1; i < len(p.toks)-1; i++ {
		if p.toks[i].text != mid {
			continue
		}
		left := parser{in: p.in, spoons: p.spoons, toks: p.toks[:i], at: start, approx: p.approx, gelatine: p.gelatine}
		right := parser{in: p.in, spoons: p.spoons, toks: p.toks, at: i + 1, approx: true, gelatine: p.gelatine}
		a, f := left.amount(false)
		if f != nil || !left.done() {
			continue
		}
		b, f := right.amount(false)
		if f != nil {
			continue
		}
		r, ok := join(a, b, p.spoons)
		if !ok {
			continue
		}
		ingredient, f := right.ingredient()
		if f != nil {
			continue
		}
		return right.answer([]amount{r}, ingredient)
	}
	return Parsed{}, bad(fault.Syntax, "A range runs upward: between 2 and 3 mm.")
}

// join makes a range of two amounts; one unit serves both ends.
func join(a, b amount, s Spoons) (amount, bool) {
	if a.unit == "" {
		a.unit, a.factor = b.unit, b.factor
	}
	if b.unit == "" {
		b.unit, b.factor = a.unit, a.factor
	}
	if a.unit != b.unit {
		ua, oka := unitWords[a.unit]
		ub, okb := unitWords[b.unit]
		if !oka || !okb || ua.dimension != ub.dimension || ua.dimension == "temperature" {
			return a, false
		}
		// the second unit leads; the first end is said in it
		k := ua.of(s) / ub.of(s)
		a.lo, a.hi, a.unit = a.lo*k, a.hi*k, b.unit
	}
	if b.hi <= a.lo {
		return a, false
	}
	return amount{lo: a.lo, hi: b.hi, unit: a.unit, factor: b.factor}, true
}

// amount reads number, range, adjective and unit. first: small words such as
// overnight may stand alone.
func (p *parser) amount(first bool) (amount, *fault.Fault) {
	a := amount{factor: 1}
	if first {
		lone := p.at
		article := p.skip("a", "an")
		switch w := p.peek(0).text; w {
		case "overnight":
			if article {
				break
			}
			p.at++
			p.approx = true
			return amount{lo: 480, hi: 960, unit: "overnight", factor: 1, small: true}, nil
		case "pinch", "dash", "drop", "smidgen", "smidgeon":
			p.at++
			p.approx = true
			return amount{lo: 1, hi: 1, unit: w, factor: 1, small: true}, nil
		}
		p.at = lone
	}
	x, plainFraction, f := p.number()
	if f != nil {
		return a, f
	}
	a.lo, a.hi = x, x
	if plainFraction != nil {
		a.ratioA, a.ratioB, a.colon = plainFraction[0], plainFraction[1], plainFraction[2] == 1
	}
	p.unit(&a)
	mark := p.at
	if p.skip("-", "to", "or") {
		if !p.numberAhead() && !(p.peek(0).text == "-" && p.peek(1).isNum) {
			p.at = mark
			return a, nil
		}
		b := amount{factor: 1}
		y, _, f := p.number()
		if f != nil {
			return a, f
		}
		b.lo, b.hi = y, y
		p.unit(&b)
		r, ok := join(a, b, p.spoons)
		if !ok {
			return a, bad(fault.Syntax, "A range runs upward, with one kind of unit: 2-3 mm.")
		}
		p.approx = true
		return r, nil
	}
	return a, nil
}

// number reads one figure. plainFraction is {a, b, colon} when it was written
// as a/b or a:b and nothing else.
func (p *parser) number() (float64, *[3]float64, *fault.Fault) {
	sign := 1.0
	if p.peek(0).text == "-" && p.peek(1).isNum {
		sign, p.at = -1, p.at+1
	}
	if t := p.peek(0); t.isNum {
		p.at++
		x := t.num
		if op := p.peek(0).text; (op == "/" || op == ":") && p.peek(1).isNum {
			den := p.peek(1).num
			p.at += 2
			if den == 0 {
				return 0, nil, bad(fault.Syntax, "A fraction over nought is no amount.")
			}
			colon := 0.0
			if op == ":" {
				colon = 1
			}
			return sign * x / den, &[3]float64{x, den, colon}, nil
		}
		whole := x == math.Trunc(x) && !strings.ContainsAny(t.text, ".,")
		// 1 1/2, and 1-1/2 written closely
		i := 0
		if whole && x >= 1 && p.peek(0).text == "-" && !p.peek(0).spaced && !p.peek(1).spaced {
			i = 1
		}
		if n, slash, d := p.peek(i), p.peek(i+1), p.peek(i+2); whole && n.isNum && slash.text == "/" && d.isNum && (i == 1 || n.spaced) {
			if d.num == 0 {
				return 0, nil, bad(fault.Syntax, "A fraction over nought is no amount.")
			}
			if n.num < d.num {
				p.at += i + 3
				return sign * (x + n.num/d.num), nil, nil
			}
		}
		if y, ok := p.andFraction(); ok {
			x += y
		}
		return sign * x, nil, nil
	}
	x, ok := p.words()
	if !ok {
		return 0, nil, bad(fault.Syntax, "%s", errNumber)
	}
	return sign * x, nil, nil
}

// andFraction reads "and a half", "and three quarters".
func (p *parser) andFraction() (float64, bool) {
	if p.peek(0).text != "and" {
		return 0, false
	}
	n, i := 1.0, 1
	if w := p.peek(1).text; w == "a" || w == "an" {
		i = 2
	} else if ones[w] != 0 {
		n, i = ones[w], 2
	}
	if f := fractions[p.peek(i).text]; f != 0 && i == 2 {
		p.at += i + 1
		p.ofArticle()
		return n * f, true
	}
	return 0, false
}

// ofArticle takes "of a", "of an", "a", "an" after a fraction in words.
func (p *parser) ofArticle() {
	if p.peek(0).text == "of" && (p.peek(1).text == "a" || p.peek(1).text == "an") {
		p.at += 2
	} else if w := p.peek(0).text; w == "a" || w == "an" {
		p.at++
	}
}

func (p *parser) words() (float64, bool) {
	article := p.skip("a", "an")
	w := p.peek(0).text
	switch {
	case w == "couple" || w == "few":
		p.at++
		p.skip("of")
		p.approx = true
		return map[string]float64{"couple": 2, "few": 3}[w], true
	case fractions[w] != 0:
		p.at++
		p.ofArticle()
		return fractions[w], true
	case article && w == "hundred":
		p.at++
		return 100, true
	case article:
		if p.done() {
			return 0, false
		}
		return 1, true
	case ones[w] == 0:
		return 0, false
	}
	p.at++
	x := ones[w]
	next := p.peek(0).text
	if x >= 20 && x < 100 && ones[next] != 0 && ones[next] < 10 {
		p.at++
		x += ones[next]
	} else if x < 10 && next == "hundred" {
		p.at++
		x *= 100
	}
	if f := fractions[p.peek(0).text]; f != 0 { // three quarters
		p.at++
		p.ofArticle()
		return x * f, true
	}
	if y, ok := p.andFraction(); ok {
		x += y
	}
	return x, true
}

// unit reads an adjective and a unit, if there is one.
func (p *parser) unit(a *amount) {
	mark := p.at
	if k := adjectives[p.peek(0).text]; k != 0 && !p.peek(0).isNum {
		a.factor = k
		p.at++
	}
	t := p.peek(0)
	if t.isNum || t.text == "" {
		p.at = mark
		return
	}
	two := t.text + " " + p.peek(1).text
	switch w := t.text; {
	case w == "c" || w == "C":
		a.unit = "c?"
		p.at++
	case w == "F":
		a.unit = "F"
		p.at++
	case w == "t" || w == "T":
		a.unit = map[string]string{"t": "tsp", "T": "tbsp"}[w]
		p.at++
	case w == "°" || w == "deg" || w == "degs" || w == "degree" || w == "degrees":
		p.at++
		a.unit = "deg?"
		switch p.peek(0).text {
		case "C", "c", "celsius", "centigrade":
			a.unit = "C"
			p.at++
		case "F", "f", "fahrenheit":
			a.unit = "F"
			p.at++
		}
	case two == "fl oz" || two == "fluid ounce" || two == "fluid ounces":
		a.unit = "floz"
		p.at += 2
	case two == "per cent":
		a.unit = "%"
		p.at += 2
	case w == "gelatine" || w == "gelatin":
		if pack := packWords[p.peek(1).text]; pack != "" {
			a.unit = "pack:" + pack
			p.at += 2
		}
	case packWords[w] != "":
		if pack := packWords[w]; (pack != "leaf" && pack != "sheet") || p.gelatine {
			a.unit = "pack:" + pack
			p.at++
		}
	default:
		if _, ok := unitWords[strings.ToLower(w)]; ok {
			a.unit = strings.ToLower(w)
			p.at++
			if p.peek(0).text == "." && !p.peek(0).spaced {
				p.at++
			}
		}
	}
	if a.unit == "" {
		a.factor = 1
		p.at = mark
	}
}

// ingredient takes the words that are left.
func (p *parser) ingredient() (string, *fault.Fault) {
	p.skip("of")
	var words []string
	for ; !p.done(); p.at++ {
		t := p.peek(0)
		if t.isNum {
			return "", bad(fault.Syntax, "A second number follows: write one amount, or a sum such as 1 lb 4 oz.")
		}
		switch t.text {
		case "/", ":", "+", "~", "°", "%", "\"":
			return "", bad(fault.Syntax, "The sign %s cannot be read there.", t.text)
		case ".", ",", ";", "(", ")", "!":
			continue
		}
		if !t.spaced && len(words) > 0 {
			words[len(words)-1] += t.text
		} else {
			words = append(words, t.text)
		}
	}
	return strings.Join(words, " "), nil
}

func (p *parser) dimension(u string) string {
	switch {
	case u == "":
		return "count"
	case u == "c?" || u == "deg?" || u == "C" || u == "F":
		return "temperature"
	case strings.HasPrefix(u, "pack:"):
		return "mass"
	case u == "overnight":
		return "time"
	}
	return unitWords[u].dimension
}

// answer turns what was read into one amount or into its choices.
func (p *parser) answer(sum []amount, ingredient string) (Parsed, *fault.Fault) {
	out := Parsed{Approximate: p.approx, Ingredient: ingredient}
	want, a := *p.in.Want, sum[0]
	if len(sum) == 1 {
		switch {
		case a.colon && a.unit != "":
			return out, bad(fault.Syntax, "A ratio such as 1:2 has no unit.")
		case strings.HasPrefix(a.unit, "pack:"):
			return p.pack(out, a)
		case a.unit == "c?":
			return p.bareC(out, a)
		case a.unit == "deg?":
			if want != "any" && want != "temperature" {
				return out, p.otherKind("temperature")
			}
			return p.choose(out, p.reading("C", a), p.reading("F", a))
		case a.unit == "pinch" || a.unit == "pinches":
			return p.pinch(out, a)
		case a.unit == "":
			return p.bare(out, a)
		}
	}
	var lo, hi float64
	dim := p.dimension(a.unit)
	for _, s := range sum {
		l, h := p.canonical(s)
		lo, hi = lo+l, hi+h
	}
	if a.unit == "overnight" {
		return p.settle(out, dim, 600, lo, hi)
	}
	for _, s := range sum {
		switch s.unit {
		case "drop", "drops", "dash", "dashes", "smidgen", "smidgens", "smidgeon", "smidgeons":
			out.Approximate = true
		}
	}
	return p.settle(out, dim, (lo+hi)/2, lo, hi)
}

// canonical gives the ends of an amount in the unit of its dimension.
func (p *parser) canonical(a amount) (lo, hi float64) {
	convert := func(x float64) float64 {
		switch a.unit {
		case "C", "celsius", "centigrade":
			return x
		case "F", "fahrenheit":
			return (x - 32) / 1.8
		case "overnight":
			return x
		}
		return x * a.factor * unitWords[a.unit].of(p.spoons)
	}
	return convert(a.lo), convert(a.hi)
}

func (p *parser) otherKind(got string) *fault.Fault {
	return bad(fault.Contradiction, "A %s is wanted here, and this is a %s.", *p.in.Want, got)
}

// settle ends with one amount, after the guards.
func (p *parser) settle(out Parsed, dim string, value, lo, hi float64) (Parsed, *fault.Fault) {
	if want := *p.in.Want; want != "any" && want != dim {
		if dim == "count" {
			return out, bad(fault.Required, "The unit is missing: say what the number counts, such as %s.", map[string]string{
				"mass": "4.2 g", "volume": "1 tsp", "length": "18 mm", "temperature": "21 °C", "time": "8 min", "share": "30 %"}[want])
		}
		return out, p.otherKind(dim)
	}
	if f := legal(dim, lo); f != nil {
		return out, f
	}
	if f := legal(dim, hi); f != nil {
		return out, f
	}
	out.Dimension, out.Unit = dim, canonical[dim]
	out.Value, out.Low, out.High = &value, &lo, &hi
	return out, nil
}

func legal(dim string, x float64) *fault.Fault {
	switch {
	case dim == "temperature" && x < -273.15:
		return bad(fault.OutOfRange, "Nothing is colder than -273.15 °C.")
	case dim != "temperature" && x < 0:
		return bad(fault.OutOfRange, "An amount is not below zero.")
	case x > 1e7:
		return bad(fault.OutOfRange, "That is more than any kitchen holds: at most 10,000,000.")
	case dim == "share" && x > 1+1e-12:
		return bad(fault.OutOfRange, "A share is at most 1, or 100 %%.")
	}
	return nil
}

// reading is the amount read in the unit u, as a choice.
func (p *parser) reading(u string, a amount) Choice {
	a.unit = u
	lo, hi := p.canonical(a)
	dim := p.dimension(u)
	says := map[string]string{"C": "degrees Celsius", "F": "degrees Fahrenheit", "cup": "cups"}[u]
	return Choice{Dimension: dim, Value: (lo + hi) / 2, Unit: canonical[dim], Says: says}
}

// choose offers readings; one that breaks a guard falls away, and a single
// one that is left is the answer.
func (p *parser) choose(out Parsed, choices ...Choice) (Parsed, *fault.Fault) {
	var legals []Choice
	var first *fault.Fault
	for _, c := range choices {
		if f := legal(c.Dimension, c.Value); f == nil {
			legals = append(legals, c)
		} else if first == nil {
			first = f
		}
	}
	switch len(legals) {
	case 0:
		return out, first
	case 1:
		c := legals[0]
		return p.settle(out, c.Dimension, c.Value, c.Value, c.Value)
	}
	out.Ambiguous, out.Choices = true, legals
	return out, nil
}

func (p *parser) bareC(out Parsed, a amount) (Parsed, *fault.Fault) {
	cups, celsius := a, a
	cups.unit, celsius.unit = "cup", "C"
	switch want := *p.in.Want; {
	case want == "volume" || want == "any" && out.Ingredient != "":
		lo, hi := p.canonical(cups)
		return p.settle(out, "volume", (lo+hi)/2, lo, hi)
	case want == "temperature":
		return p.settle(out, "temperature", (a.lo+a.hi)/2, a.lo, a.hi)
	case want != "any":
		return out, p.otherKind("volume or a temperature")
	}
	return p.choose(out, p.reading("cup", a), p.reading("C", a))
}

func (p *parser) pinch(out Parsed, a amount) (Parsed, *fault.Fault) {
	out.Approximate = true
	if want := *p.in.Want; want != "any" && want != "volume" {
		return out, p.otherKind("volume")
	}
	n := (a.lo + a.hi) / 2 * a.factor
	if p.in.PinchTsp != nil {
		v := *p.in.PinchTsp * p.spoons.Tsp
		return p.settle(out, "volume", n*v, a.lo*a.factor*v/2, a.hi*a.factor*v*2)
	}
	return p.choose(out,
		Choice{"volume", n * p.spoons.Tsp / 16, "ml", "a pinch of 1/16 tsp"},
		Choice{"volume", n * p.spoons.Tsp / 8, "ml", "a pinch of 1/8 tsp"})
}

// bare is a number without a unit: a count, a share, or a mixing ratio.
func (p *parser) bare(out Parsed, a amount) (Parsed, *fault.Fault) {
	want := *p.in.Want
	value := (a.lo + a.hi) / 2
	ratio := a.ratioB != 0 && (a.colon || a.ratioA == a.ratioB || a.ratioA+a.ratioB == 100)
	if want == "share" {
		switch {
		case value < 0:
			return out, legal("share", value)
		case ratio:
			s := a.ratioA / (a.ratioA + a.ratioB)
			return p.settle(out, "share", s, s, s)
		case a.ratioB == 0 && value > 1:
			if f := legal("count", value); f != nil {
				return out, f
			}
			out.Ambiguous = true
			if value <= 100 {
				out.Choices = append(out.Choices, Choice{"share", value / 100, "share", fmt.Sprintf("%g %%", value)})
			}
			out.Choices = append(out.Choices, Choice{"share", value / (value + 1), "share", fmt.Sprintf("%g parts to 1", value)})
			return out, nil
		}
		return p.settle(out, "share", value, a.lo, a.hi)
	}
	if ratio && want == "any" && value >= 0 {
		out.Ambiguous = true
		out.Choices = []Choice{
			{"share", a.ratioA / (a.ratioA + a.ratioB), "share", fmt.Sprintf("a mix of %g parts to %g", a.ratioA, a.ratioB)},
			{"count", value, "count", fmt.Sprintf("the number %g", value)},
		}
		return out, nil
	}
	return p.settle(out, "count", value, a.lo, a.hi)
}

func (p *parser) pack(out Parsed, a amount) (Parsed, *fault.Fault) {
	pack := strings.TrimPrefix(a.unit, "pack:")
	want := *p.in.Want
	n := (a.lo + a.hi) / 2 * a.factor
	if p.gelatine && out.Ingredient == "" {
		out.Ingredient = "gelatine"
	}
	if want == "count" {
		return p.settle(out, "count", n, a.lo, a.hi)
	}
	if want != "any" && want != "mass" {
		return out, p.otherKind("mass")
	}
	if g, ok := p.in.UnitGrams[pack]; ok {
		return p.settle(out, "mass", n*g, a.lo*a.factor*g, a.hi*a.factor*g)
	}
	if f := legal("count", n); f != nil {
		return out, f
	}
	out.Ambiguous, out.GramsEach, out.Count, out.Choices = true, pack, &n, []Choice{}
	for _, g := range packGrams(pack, p.gelatine) {
		out.Choices = append(out.Choices, Choice{"mass", n * g, "g", fmt.Sprintf("%.4g g each", g)})
	}
	if want == "any" && out.Ingredient == "" {
		out.Choices = append(out.Choices, Choice{"count", n, "count", fmt.Sprintf("%g %ss, counted", n, pack)})
	}
	return out, nil
}
