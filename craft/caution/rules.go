package caution

import (
	"fmt"
	"slices"
	"strings"

	"dustyfern/craft/fault"
)

// Levels of a caution: a stop refuses, a warning must be seen, a note is shown.
const (
	Stop = "stop"
	Warn = "warn"
	Note = "note"
)

var levels = []string{Stop, Warn, Note}

// rule is one line of the table: it holds when of each group one word is present.
type rule struct {
	id, level      string
	when           [][]string
	readers, shown []string
	says           string
}

// rules in the order of the table, and the words that a technique or a material brings.
var (
	rules                        = readRules(safetyTable)
	techniqueWords, materialWord = readBrings(safetyTable)
	ruleWords                    = wordsOfRules()
	briefs                       = readBriefs(safetyTable)
)

// brief is what follows from who eats: what it says, and what to do.
type brief struct{ says, do string }

func readBriefs(table string) map[string]brief {
	out := map[string]brief{}
	for _, cells := range rowsOf(table, "B") {
		if len(cells) != 4 || slices.Contains(cells, "") || out[cells[1]].says != "" {
			panic(fmt.Sprintf("safety.txt: %q is no line of a brief", cells))
		}
		out[cells[1]] = brief{cells[2], cells[3]}
	}
	return out
}

var (
	places  = []string{"brief", "paste", "step", "card"}
	readers = []string{"maker", "client", "guest"}
)

// rowsOf are the cells of the lines of one kind.
func rowsOf(table, kind string) (out [][]string) {
	for line := range strings.Lines(table) {
		if cells := strings.Split(strings.TrimRight(line, "\r\n"), "|"); cells[0] == kind {
			out = append(out, cells)
		}
	}
	return out
}

func listOf(cell string) []string {
	return strings.FieldsFunc(cell, func(r rune) bool { return r == ',' || r == ' ' })
}

// readRules reads the lines of R; a line with a word that nobody knows is a fault of the
// program.
func readRules(table string) (out []rule) {
	for _, cells := range rowsOf(table, "R") {
		if len(cells) != 7 {
			panic(fmt.Sprintf("safety.txt: %d cells in %q", len(cells), cells))
		}
		r := rule{id: cells[1], level: cells[2], readers: listOf(cells[4]), shown: listOf(cells[5]), says: cells[6]}
		for group := range strings.SplitSeq(cells[3], ";") {
			r.when = append(r.when, listOf(group))
		}
		bad := !slices.Contains(levels, r.level) || r.says == "" || len(r.when[0]) == 0 || slices.ContainsFunc(out, func(o rule) bool { return o.id == r.id })
		for _, w := range r.shown {
			bad = bad || !slices.Contains(places, w)
		}
		for _, w := range r.readers {
			bad = bad || !slices.Contains(readers, w)
		}
		if bad {
			panic(fmt.Sprintf("safety.txt: %q is no rule", cells))
		}
		out = append(out, r)
	}
	return out
}

func readBrings(table string) (techniques, materials map[string][]string) {
	techniques, materials = map[string][]string{}, map[string][]string{}
	for _, cells := range rowsOf(table, "T") {
		techniques[cells[1]] = listOf(cells[2])
	}
	for _, cells := range rowsOf(table, "M") {
		materials[cells[1]] = nil
		if len(cells) > 5 {
			materials[cells[1]] = listOf(cells[5])
		}
	}
	return techniques, materials
}

// wordsOfRules are the words that somebody may enter: those of the rules that no audience,
// wish or piece brings, and all that techniques and materials bring.
func wordsOfRules() map[string]bool {
	out := map[string]bool{}
	for _, r := range rules {
		for _, group := range r.when {
			for _, w := range group {
				if !strings.Contains(w, ":") {
					out[w] = true
				}
			}
		}
	}
	for _, brought := range []map[string][]string{techniqueWords, materialWord} {
		for _, list := range brought {
			for _, w := range list {
				out[w] = true
			}
		}
	}
	return out
}

// CautionsIn is all that could bring a caution.
type CautionsIn struct {
	Techniques []string `json:"techniques"`
	Materials  []string `json:"materials"`
	Words      []string `json:"words"`
	Audience   []string `json:"audience" of:"children under3 pregnant frail"`
	Avoid      []string `json:"avoid"`
	Pieces     []Shown  `json:"pieces"`
	ShownOn    *string  `json:"shownOn" of:"brief paste step card"`
}

// Shown is a piece as far as it can harm, in mm and g.
type Shown struct {
	ID        *string  `json:"id" need:"true"`
	Count     *int     `json:"count" def:"1" in:"0..100000"`
	WidthMM   *float64 `json:"widthMM" in:"length"`
	LengthMM  *float64 `json:"lengthMM" in:"length"`
	Ball      bool     `json:"ball"`
	Hard      bool     `json:"hard"`
	Upright   bool     `json:"upright"`
	MassG     *float64 `json:"massG" in:"mass"`
	LookAlike bool     `json:"lookAlike"`
}

// CautionsOut are the prompts: stops first, then warnings, then notes.
type CautionsOut struct {
	Cautions    []Prompt `json:"cautions"`
	Refused     bool     `json:"refused"`
	SmallPieces []string `json:"smallPieces"`
}

// Prompt is one caution, whom it is for, where it is shown and what brought it.
type Prompt struct {
	ID      string   `json:"id"`
	Level   string   `json:"level"`
	Says    string   `json:"says"`
	Readers []string `json:"readers"`
	Shown   []string `json:"shown"`
	Because []string `json:"because"`
}

// Gauges of small parts, in mm (those of toy rules, borrowed), and the mass from which a
// piece is heavy.
const (
	smallWidthMM  = 31.7
	smallLengthMM = 57.1
	smallBallMM   = 44.5
	heavyFromG    = 150.0
)

// small tells whether a piece goes through the gauge; one without a size does not.
func (p *Shown) small() bool {
	if p.WidthMM == nil && p.LengthMM == nil {
		return false
	}
	a, b := p.WidthMM, p.LengthMM
	if a == nil {
		a = b
	}
	if b == nil {
		b = a
	}
	lesser, greater := min(*a, *b), max(*a, *b)
	if p.Ball {
		return greater <= smallBallMM
	}
	return lesser <= smallWidthMM && greater <= smallLengthMM
}

// Cautions finds what holds for techniques, materials, guests and pieces. They are
// prompts, not rulings. Errors are *fault.Fault; docs/models/safety.md.
func Cautions(in CautionsIn) (CautionsOut, error) {
	out := CautionsOut{Cautions: []Prompt{}, SmallPieces: []string{}}
	brought, err := in.brought(&out)
	if err != nil {
		return CautionsOut{}, err
	}
	for _, level := range levels {
		for i := range rules {
			r := &rules[i]
			if r.level != level || in.ShownOn != nil && !slices.Contains(r.shown, *in.ShownOn) {
				continue
			}
			because, holds := r.because(brought)
			if !holds {
				continue
			}
			out.Cautions = append(out.Cautions, Prompt{r.id, r.level, r.says, r.readers, r.shown, because})
			out.Refused = out.Refused || level == Stop
		}
	}
	return out, nil
}

// because is what brought the words of a rule; holds when each group has one.
func (r *rule) because(brought map[string][]string) (out []string, holds bool) {
	out = []string{}
	for _, group := range r.when {
		met := false
		for _, w := range group {
			by, present := brought[w]
			met = met || present
			for _, b := range by {
				if !slices.Contains(out, b) {
					out = append(out, b)
				}
			}
		}
		if !met {
			return nil, false
		}
	}
	return out, true
}

// brought are the words that are present, each with what brought it.
func (in *CautionsIn) brought(out *CautionsOut) (map[string][]string, error) {
	if err := fault.Check(in); err != nil {
		return nil, err
	}
	words := map[string][]string{"any": nil}
	bring := func(word, by string) { words[word] = append(words[word], by) }
	for i, t := range in.Techniques {
		if !isTechnique(t) {
			return nil, fault.New(fault.UnknownValue, fmt.Sprintf("techniques[%d]", i), "There is no technique %q.", t)
		}
		for _, w := range techniqueWords[t] {
			bring(w, t)
		}
	}
	for i, m := range in.Materials {
		list, known := materialWord[m]
		if !known {
			return nil, fault.New(fault.UnknownValue, fmt.Sprintf("materials[%d]", i), "There is no material %q.", m)
		}
		for _, w := range list {
			bring(w, m)
		}
	}
	for i, w := range in.Words {
		if !ruleWords[w] {
			return nil, fault.New(fault.UnknownValue, fmt.Sprintf("words[%d]", i), "No rule knows the word %q.", w)
		}
		bring(w, w)
	}
	for _, a := range in.Audience {
		bring("audience:"+a, a)
		if a == "under3" {
			bring("audience:children", a)
		}
	}
	if err := wordsOf(in.Avoid, slices.Concat(Allergens, Asked), "avoid"); err != nil {
		return nil, err
	}
	for _, a := range in.Avoid {
		bring("avoid:"+a, a)
	}
	known := map[string]bool{}
	for i := range in.Pieces {
		p := &in.Pieces[i]
		if known[*p.ID] {
			return nil, fault.New(fault.Contradiction, fmt.Sprintf("pieces[%d].id", i), "There are two pieces %q.", *p.ID)
		}
		known[*p.ID] = true
		small := p.small()
		if small {
			out.SmallPieces = append(out.SmallPieces, *p.ID)
		}
		for _, w := range []struct {
			holds bool
			word  string
		}{{p.Hard, "piece:hard"}, {small, "piece:small"}, {small && p.Hard, "piece:smallHard"}, {p.Upright || p.MassG != nil && *p.MassG > heavyFromG, "piece:upright"}, {p.LookAlike, "lookAlike"}} {
			if w.holds {
				bring(w.word, *p.ID)
			}
		}
	}
	return words, nil
}

const techniquesKnown = 27

// isTechnique tells whether a code is one of T1 to T27.
func isTechnique(code string) bool {
	var n int
	_, err := fmt.Sscanf(code, "T%d", &n)
	return err == nil && n >= 1 && n <= techniquesKnown && code == fmt.Sprintf("T%d", n)
}
