package measure

import (
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
