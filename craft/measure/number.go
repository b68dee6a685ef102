package measure

import (
	"math"
	"strings"

	"dustyfern/craft/fault"
)

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
