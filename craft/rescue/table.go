// Package rescue goes from what is seen, and from what the record of a batch knows, to
// the likely cause and what to do about it. See docs/models/rescue.md.
package rescue

import (
	_ "embed"
	"fmt"
	"slices"
	"strconv"
	"strings"
)

// The table of symptoms, questions and causes, one line each: a correction is a change of
// one line. Every share in it is assumed: a starting value that a studio's own confirmed
// cases replace.
//
//go:embed rescue.txt
var written string

// symptom is something seen, and where to look for it.
type symptom struct{ id, says, look string }

// question can be asked, or answered from the record; base is the share of yes when a
// cause says nothing about it.
type question struct {
	id, says string
	minutes  float64
	spoils   bool
	base     float64
}

// cause of a symptom; shows are the shares of its cases that show a symptom, answers the
// shares of yes to a question.
type cause struct {
	id, says       string
	prior          float64
	factors        map[string]float64 // by technique, * for the others
	harm           int
	minutes        float64
	shows, answers map[string]float64
	rescue, next   string
	changes        []Change
}

// table is what was read, in the order of its lines.
type table struct {
	symptoms  []symptom
	questions []question
	causes    []cause
}

// ours is the table that ships with the program.
var ours = mustRead(written)

func mustRead(text string) *table {
	t, err := read(text)
	if err != nil {
		panic("rescue.txt: " + err.Error())
	}
	return t
}

// cells is one line, taken cell by cell; err keeps the first fault.
type cells struct {
	line string
	left []string
	err  error
}

func (c *cells) fail(format string, args ...any) {
	if c.err == nil {
		c.err = fmt.Errorf("%s in %q", fmt.Sprintf(format, args...), c.line)
	}
}

func (c *cells) text() string {
	s := strings.TrimSpace(c.left[0])
	c.left = c.left[1:]
	return s
}

func (c *cells) number(lo, hi float64) float64 {
	x, err := strconv.ParseFloat(c.text(), 64)
	if err != nil || x < lo || x > hi {
		c.fail("a number from %g to %g is wanted", lo, hi)
	}
	return x
}

// shares are "name=.7 other=.2", or "T1:1.5 *:0.3" with another sign between.
func (c *cells) shares(sign string, hi float64, known func(name string) bool) map[string]float64 {
	out := map[string]float64{}
	for _, w := range strings.Fields(c.text()) {
		name, value, _ := strings.Cut(w, sign)
		x, err := strconv.ParseFloat(value, 64)
		switch {
		case err != nil || x < 0 || x > hi:
			c.fail("%q is no share", w)
		case !known(name):
			c.fail("%q is not known", name)
		}
		out[name] = x
	}
	return out
}

// read reads a table and checks that its lines know one another.
func read(text string) (*table, error) {
	t := &table{}
	var lines []string
	for line := range strings.Lines(text) {
		if line = strings.TrimRight(line, "\r\n"); line != "" && !strings.HasPrefix(line, "#") {
			lines = append(lines, line)
		}
	}
	wide := map[string]int{"S": 4, "N": 7, "C": 12}
	ids := map[string]bool{}
	for _, line := range lines {
		c := &cells{line: line, left: strings.Split(line, "|")}
		kind := c.left[0]
		if wide[kind] == 0 || len(c.left) != wide[kind] {
			return nil, fmt.Errorf("%d cells in %q", len(c.left), line)
		}
		c.left = c.left[1:]
		id, says := c.text(), c.text()
		if id == "" || says == "" || ids[kind+id] {
			return nil, fmt.Errorf("no name of its own in %q", line)
		}
		ids[kind+id] = true
		switch kind {
		case "S":
			t.symptoms = append(t.symptoms, symptom{id, says, c.text()})
		case "N":
			q := question{id: id, says: says, minutes: c.number(0, 100), spoils: c.number(0, 1) == 1, base: c.number(0, 1)}
			if rule := c.text(); (rule == "-") == (ruled[id] != nil) {
				c.fail("the record answers it, or it does not: %q", rule)
			}
			t.questions = append(t.questions, q)
		default:
			t.causes = append(t.causes, c.cause(id, says, t))
		}
		if c.err != nil {
			return nil, c.err
		}
	}
	if len(t.causes) == 0 || t.causes[len(t.causes)-1].id != somethingElse {
		return nil, fmt.Errorf("the last cause is %s", somethingElse)
	}
	return t, nil
}

func (c *cells) cause(id, says string, t *table) cause {
	out := cause{id: id, says: says, prior: c.number(0.001, 1000),
		factors: c.shares(":", 1000, func(name string) bool { return name == "*" || isTechnique(name) }),
		harm:    int(c.number(0, 3)), minutes: c.number(0, 100),
		shows:   c.shares("=", 1, func(name string) bool { return t.symptom(name) >= 0 }),
		answers: c.shares("=", 1, func(name string) bool { return t.question(name) >= 0 }),
		rescue:  c.text(), next: c.text(), changes: []Change{}}
	for part := range strings.SplitSeq(c.text(), ";") {
		target, what, found := strings.Cut(strings.TrimSpace(part), ":")
		if !found || !slices.Contains(Targets, target) {
			c.fail("%q changes nothing that is known", part)
		}
		out.changes = append(out.changes, Change{target, what})
	}
	return out
}

func (t *table) symptom(id string) int {
	return slices.IndexFunc(t.symptoms, func(s symptom) bool { return s.id == id })
}

func (t *table) question(id string) int {
	return slices.IndexFunc(t.questions, func(q question) bool { return q.id == id })
}

func (t *table) cause(id string) int {
	return slices.IndexFunc(t.causes, func(c cause) bool { return c.id == id })
}

// techniques that the table may name.
const techniques = 27

func isTechnique(code string) bool {
	n, err := strconv.Atoi(strings.TrimPrefix(code, "T"))
	return err == nil && strings.HasPrefix(code, "T") && n >= 1 && n <= techniques && code == "T"+strconv.Itoa(n)
}

// Knows tells whether a technique is one that the table may name.
func Knows(technique string) bool { return isTechnique(technique) }

// KnowsCause tells whether a cause stands in the table.
func KnowsCause(id string) bool { return ours.cause(id) >= 0 }

// Causes are the causes of the table.
func Causes() (out []string) {
	for i := range ours.causes {
		out = append(out, ours.causes[i].id)
	}
	return out
}

// CauseSays is a cause in words; "" for one that is not known.
func CauseSays(id string) string {
	if i := ours.cause(id); i >= 0 {
		return ours.causes[i].says
	}
	return ""
}

// Question is a question in words; "" for one that is not known.
func Question(id string) string {
	if i := ours.question(id); i >= 0 {
		return ours.questions[i].says
	}
	return ""
}

// ChangesOf are the changes that a cause offers.
func ChangesOf(id string) []Change {
	if i := ours.cause(id); i >= 0 {
		return slices.Clone(ours.causes[i].changes)
	}
	return nil
}

// Needs is the gum strength that a technique wants, %; 0: it has no rule.
func Needs(technique string) float64 { return needs[technique] }
