// Package caution is what can hurt: allergens, choking, what is not eaten.
// These are prompts: product labels and the food rules of the place come first.
package caution

import (
	"slices"
	"strings"
)

// Table is who eats. AtRisk are under3, pregnant and frail; Without is what nobody takes
// besides allergies, of Asked.
type Table struct {
	Children                   bool
	AtRisk, Allergies, Without []string
}

// Case is a piece and who meets it, as far as harm goes.
type Case struct {
	Table
	Holds, May []string // of the lots that go in, and what comes on to it
	Unread     []string // lots whose label nobody has read
	Eaten      string   // mouthful, nibbled, shown
	Technique  string   // T1 to T27; "" where it is none of these
	Materials  []string // what goes in and what comes on to it
	Words      []string // whatever else the rules know
	Brittle    bool     // of so much hardener that it is hard on teeth
	Shape      Shown
}

// HardFrom is from how much gum, in %, a paste dries hard on teeth (assumed).
const HardFrom = 1.4

// Caution is one prompt as a screen shows it.
type Caution struct {
	Code string `json:"code"`
	Say  string `json:"say"`
	Hard bool   `json:"hard" doc:"stands first and in the colour of danger"`
}

// Means are the words that somebody avoids who avoids one: nothing of animals is no egg,
// no milk and no gelatine either.
func Means(word string) []string {
	if word == "animal" {
		return animal
	}
	return []string{word}
}

// riskSays are those who are at risk, in words.
var riskSays = map[string]string{"under3": "children under three", "pregnant": "somebody pregnant", "frail": "somebody frail"}

// GuestSays is a guest of the rules in words; "" for none.
func GuestSays(code string) string {
	if code == "children" {
		return code
	}
	return riskSays[code]
}

// Says is who eats in one line, for every step of the order; "" when nothing was said.
func (t Table) Says() string {
	var parts []string
	if len(t.Allergies) > 0 {
		parts = append(parts, "Allergy: "+strings.Join(t.Allergies, ", "))
	}
	if len(t.Without) > 0 {
		var list []string
		for _, w := range t.Without {
			list = append(list, map[string]string{"animal": "animal products"}[w]+map[bool]string{true: "", false: w}[w == "animal"])
		}
		parts = append(parts, "nothing of "+strings.Join(list, ", "))
	}
	var who []string
	if t.Children && !slices.Contains(t.AtRisk, "under3") {
		who = append(who, "children")
	}
	for _, r := range t.AtRisk {
		who = append(who, riskSays[r])
	}
	if len(who) > 0 {
		parts = append(parts, "for "+strings.Join(who, ", "))
	}
	if len(parts) == 0 {
		return ""
	}
	say := strings.Join(parts, "; ")
	return strings.ToUpper(say[:1]) + say[1:] + "."
}

// Brief is what holds for the whole order.
func Brief(t Table) []Caution {
	var out []Caution
	put := func(code, word string) {
		if says := briefs[word].says; says != "" {
			out = append(out, Caution{code, strings.ReplaceAll(says, "{list}", strings.Join(t.Allergies, ", ")), true})
		}
	}
	if len(t.Allergies) > 0 {
		put("allergy", "allergy")
	}
	for _, w := range t.Without {
		put(w, w)
	}
	if slices.Contains(t.AtRisk, "under3") {
		put("under3", "under3")
	}
	if len(t.AtRisk) > 0 {
		put("rawEgg", "atRisk")
	}
	if t.Children {
		put("children", "children")
	}
	return out
}

// Instead is what to do for somebody who eats, or does not eat something; "" for a word of
// which the table says nothing.
func Instead(word string) string { return briefs[word].do }

// Piece is what holds for one piece, beside its paste and on the sheet.
func Piece(c Case) []Caution {
	var out []Caution
	if len(c.Holds) > 0 {
		out = append(out, Caution{"label", "It holds " + strings.Join(c.Holds, ", ") + ". The label comes first.", false})
	}
	may := slices.DeleteFunc(slices.Clone(c.May), func(a string) bool { return slices.Contains(c.Holds, a) })
	if len(may) > 0 {
		met := slices.ContainsFunc(may, func(a string) bool { return slices.Contains(c.Allergies, a) })
		say := "It may contain " + strings.Join(may, ", ") + "."
		if met {
			say += " Ask the client, in writing, or take another lot."
		}
		out = append(out, Caution{"may", say, met})
	}
	if len(c.Unread) > 0 && len(c.Allergies)+len(c.Without) > 0 {
		out = append(out, Caution{"unread", "Nobody has read the label of " + strings.Join(c.Unread, ", ") + ": read it first.", true})
	}
	if c.Eaten == "shown" {
		out = append(out, Caution{"notEaten", "Not eaten: name and count it on the note for the client, and lift it off before serving.", false})
	}
	if c.Brittle {
		out = append(out, Caution{"hard", "Heavily hardened: hard on teeth, dry to taste.", false})
	}
	for _, p := range c.Prompts("") {
		if slices.ContainsFunc(p.Shown, func(at string) bool { return at == "brief" || at == "paste" || at == "step" }) && p.ID != handsClean {
			out = append(out, p.caution())
		}
	}
	return out
}

// Prompts are the rules that hold for a piece on one of the places where they are shown; "":
// on any.
func (c *Case) Prompts(on string) []Prompt {
	in := c.Asks()
	if on != "" {
		in.ShownOn = &on
	}
	out, err := Cautions(in)
	if err != nil {
		return nil
	}
	return out.Cautions
}

// Asks are all that could bring a caution to a piece: what no rule knows is left out.
func (c *Case) Asks() CautionsIn {
	in := CautionsIn{Audience: c.Audience()}
	if isTechnique(c.Technique) {
		in.Techniques = []string{c.Technique}
	}
	for _, m := range c.Materials {
		if _, known := materialWord[m]; known && !slices.Contains(in.Materials, m) {
			in.Materials = append(in.Materials, m)
		}
	}
	for _, w := range c.Words {
		if ruleWords[w] && !slices.Contains(in.Words, w) {
			in.Words = append(in.Words, w)
		}
	}
	for _, a := range slices.Concat(c.Allergies, c.Without) {
		if slices.Contains(Allergens, a) || slices.Contains(Asked, a) {
			in.Avoid = append(in.Avoid, a)
		}
	}
	if c.Shape.ID != nil {
		in.Pieces = []Shown{c.Shape}
		in.Pieces[0].Hard = c.Shape.Hard && c.Eaten != "shown"
	}
	return in
}

// Audience is who eats, as the rules call them.
func (t Table) Audience() (out []string) {
	if t.Children {
		out = append(out, "children")
	}
	return append(out, t.AtRisk...)
}

func (p *Prompt) caution() Caution { return Caution{p.ID, p.Says, p.Level == Stop} }

// handsClean holds always: it stands once, over the evening.
const handsClean = "handsClean"

// Word are what the rules say at a step that brings a word.
func Word(word string) (out []string) {
	in := CautionsIn{ShownOn: new("step")}
	if ruleWords[word] {
		in.Words = []string{word}
	}
	all, err := Cautions(in)
	if err != nil {
		return nil
	}
	for _, p := range all.Cautions {
		if p.ID != handsClean || word == "any" {
			out = append(out, p.Says)
		}
	}
	return out
}

// Bench is what holds for every evening of moulding.
func Bench() []Caution {
	var out []Caution
	for _, id := range []string{handsClean, "blade", "oldLeftover"} {
		r := ruleOf(id)
		out = append(out, Caution{r.id, r.says, false})
	}
	return out
}
