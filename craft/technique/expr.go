package technique

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// The guards of an expression.
const (
	longestText   = 240
	deepest       = 32
	largestNumber = 1e12
	slack         = 1e-9
)

// Expression is a number that follows from names: + - * /, brackets, a leading -,
// a < b, a >= b (0 or 1), min max (2 to 8 values), ceil, floor. It is total: it
// ends with a number or an error that is named.
type Expression struct {
	text string
	root node
}

func (e Expression) String() string { return e.text }

// Why an expression has no number.
type exprError struct {
	Kind string // syntax, unknownName, divideByZero, notFinite
	Say  string
}

func (e *exprError) Error() string { return e.Kind + ": " + e.Say }

func broken(kind, say string, args ...any) error { return &exprError{kind, fmt.Sprintf(say, args...)} }

// names look a name up; its error goes out as it is.
type names func(name string) (float64, error)

type node interface {
	value(of names) (float64, error)
}

type (
	number float64
	name   string
	call   struct {
		op   string
		args []node
	}
)

func (n number) value(names) (float64, error)  { return float64(n), nil }
func (n name) value(of names) (float64, error) { return of(string(n)) }

func (c call) value(of names) (float64, error) {
	var v [8]float64
	for i, a := range c.args {
		x, err := a.value(of)
		if err != nil {
			return 0, err
		}
		v[i] = x
	}
	x := v[0]
	switch c.op {
	case "neg":
		x = -v[0]
	case "+":
		x = v[0] + v[1]
	case "-":
		x = v[0] - v[1]
	case "*":
		x = v[0] * v[1]
	case "/":
		if v[1] == 0 {
			return 0, broken("divideByZero", "a division by nothing")
		}
		x = v[0] / v[1]
	case "<":
		x = yes(v[0] < v[1]-slack)
	case ">=":
		x = yes(v[0] >= v[1]-slack)
	case "ceil":
		x = math.Ceil(v[0] - slack)
	case "floor":
		x = math.Floor(v[0] + slack)
	case "min", "max":
		for _, y := range v[1:len(c.args)] {
			if c.op == "min" {
				x = math.Min(x, y)
			} else {
				x = math.Max(x, y)
			}
		}
	}
	if math.IsNaN(x) || math.Abs(x) > largestNumber {
		return 0, broken("notFinite", "a number over 1e12")
	}
	return x, nil
}

func yes(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// walk calls f with each name of an expression.
func walk(n node, f func(string)) {
	switch x := n.(type) {
	case name:
		f(string(x))
	case call:
		for _, a := range x.args {
			walk(a, f)
		}
	}
}

// Parse reads an expression.
func Parse(text string) (Expression, error) {
	if len(text) > longestText {
		return Expression{}, broken("syntax", "over %d characters", longestText)
	}
	p := parser{text: text}
	root, err := p.comparison(0)
	if err == nil {
		if p.space(); p.at < len(p.text) {
			err = broken("syntax", "%q at character %d does not belong here", p.text[p.at:], p.at+1)
		}
	}
	return Expression{text, root}, err
}

type parser struct {
	text string
	at   int
}

func (p *parser) space() {
	for p.at < len(p.text) && p.text[p.at] == ' ' {
		p.at++
	}
}

// takes one of the signs that comes next, the longest first.
func (p *parser) takes(signs ...string) string {
	p.space()
	for _, s := range signs {
		if strings.HasPrefix(p.text[p.at:], s) {
			p.at += len(s)
			return s
		}
	}
	return ""
}

func (p *parser) comparison(depth int) (node, error) {
	a, err := p.sum(depth)
	if err != nil {
		return nil, err
	}
	if op := p.takes(">=", "<"); op != "" {
		b, err := p.sum(depth)
		if err != nil {
			return nil, err
		}
		return call{op, []node{a, b}}, nil
	}
	return a, nil
}

func (p *parser) sum(depth int) (node, error) {
	return p.chain(depth, p.product, "+", "-")
}

func (p *parser) product(depth int) (node, error) {
	return p.chain(depth, p.sign, "*", "/")
}

func (p *parser) chain(depth int, part func(int) (node, error), ops ...string) (node, error) {
	a, err := part(depth)
	for err == nil {
		op := p.takes(ops...)
		if op == "" {
			return a, nil
		}
		var b node
		if b, err = part(depth); err == nil {
			a = call{op, []node{a, b}}
		}
	}
	return nil, err
}

func (p *parser) sign(depth int) (node, error) {
	if p.takes("-") != "" {
		a, err := p.atom(depth)
		if err != nil {
			return nil, err
		}
		return call{"neg", []node{a}}, nil
	}
	return p.atom(depth)
}

func (p *parser) atom(depth int) (node, error) {
	if depth > deepest {
		return nil, broken("syntax", "over %d brackets deep", deepest)
	}
	p.space()
	if p.at == len(p.text) {
		return nil, broken("syntax", "it ends too early")
	}
	if p.takes("(") != "" {
		a, err := p.comparison(depth + 1)
		if err == nil && p.takes(")") == "" {
			err = broken("syntax", "a bracket is not closed")
		}
		return a, err
	}
	from := p.at
	if c := p.text[p.at]; c >= '0' && c <= '9' {
		for p.at < len(p.text) && (p.text[p.at] >= '0' && p.text[p.at] <= '9' || p.text[p.at] == '.') {
			p.at++
		}
		x, err := strconv.ParseFloat(p.text[from:p.at], 64)
		if err != nil || strings.HasSuffix(p.text[from:p.at], ".") {
			return nil, broken("syntax", "%q is no number", p.text[from:p.at])
		}
		if x > largestNumber {
			return nil, broken("notFinite", "a number over 1e12")
		}
		return number(x), nil
	}
	for p.at < len(p.text) && letter(p.text[p.at], p.at > from) {
		p.at++
	}
	word := p.text[from:p.at]
	if word == "" || strings.HasSuffix(word, ".") || strings.Contains(word, "..") {
		return nil, broken("syntax", "%q at character %d is no number and no name", p.text[from:min(len(p.text), from+8)], from+1)
	}
	least, most := 0, 0
	switch word {
	case "min", "max":
		least, most = 2, 8
	case "ceil", "floor":
		least, most = 1, 1
	default:
		return name(word), nil
	}
	if p.takes("(") == "" {
		return nil, broken("syntax", "%s wants its values in brackets", word)
	}
	c := call{op: word}
	for {
		a, err := p.comparison(depth + 1)
		if err != nil {
			return nil, err
		}
		c.args = append(c.args, a)
		if p.takes(",") == "" {
			break
		}
	}
	if p.takes(")") == "" {
		return nil, broken("syntax", "a bracket is not closed")
	}
	if len(c.args) < least || len(c.args) > most {
		return nil, broken("syntax", "%s takes %d to %d values", word, least, most)
	}
	return c, nil
}

func letter(c byte, later bool) bool {
	return c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z' || later && (c >= '0' && c <= '9' || c == '.')
}
