package work

import (
	"fmt"
	"strings"

	"dustyfern/studio/read"
)

// verbSay is how people speak of a step: its name, and its title, in which {w} is
// what is made, {n} how many, {p} how many go on the cake, {g} how much paste.
type verbSay struct {
	name, title string
	done        string // what a press of the button says: "Kneaded"
}

// verbSays has a line for every verb of the data.
var verbSays = map[string]verbSay{
	"knead":   {"knead", "Knead {g} for {w}", "Kneaded"},
	"rest":    {"rest in the bag", "Rest the paste of {w} in its bag", ""},
	"soften":  {"soften", "Soften {g} for {w}", "Softened"},
	"mix":     {"mix", "Mix {g} for {w}", "Mixed"},
	"weigh":   {"weigh out", "Weigh out {n} {w}", "Weighed out"},
	"roll":    {"roll", "Roll {w}", "Rolled"},
	"dryOff":  {"let the sheet lie", "Let the sheet of {w} lie", ""},
	"cut":     {"cut", "Cut {n} {w}", "Cut"},
	"emboss":  {"emboss", "Emboss {w}", "Embossed"},
	"thin":    {"thin the edges", "Thin the edges of {w}", "Thinned"},
	"vein":    {"vein", "Vein {w}", "Veined"},
	"press":   {"press", "Press {n} {w}", "Pressed"},
	"fill":    {"fill", "Fill {n} {w}", "Filled"},
	"release": {"release", "Release {w}", "Released"},
	"air":     {"air until matt", "Air {w} until matt", ""},
	"dust":    {"dust", "Dust {w}", "Dusted"},
	"paint":   {"paint", "Paint {w}", "Painted"},
	"lock":    {"fix the dust", "Fix the dust on {w}", "Fixed"},
	"dry":     {"dry", "Dry {w}", ""},
	"set":     {"set", "Let {w} set", ""},
	"mark":    {"mark the tier", "Mark where {w} go", "Marked"},
	"putOn":   {"put on", "Put {p} {w} on", "All on"},
	"shape":   {"shape", "Shape {n} {w}", "Shaped"},
	"fold":    {"fold", "Fold {n} {w}", "Folded"},
	"gather":  {"gather", "Gather {n} {w}", "Gathered"},
	"wire":    {"wire", "Wire {n} {w}", "Wired"},
	"bend":    {"bend", "Bend {w}", "Bent"},
	"trim":    {"trim", "Trim {w}", "Trimmed"},
	"letter":  {"press letters in", "Press the letters into {w}", "Lettered"},
	"cook":    {"cook", "Cook the sugar for {w}", "Cooked"},
	"pour":    {"pour", "Pour {n} {w}", "Poured"},
	"spray":   {"spray", "Spray {w}", "Sprayed"},
	"look":    {"look", "Look at {w}", "Looked at"},
	"clean":   {"clean", "Clean {w}", "Clean"},
	"cast":    {"cast", "Cast {n} {w}", "Cast"},
	"wrap":    {"wrap", "Wrap {w}", "Wrapped"},
}

// StepTitle is the title of a step of a chain. on is what it dries on, "" when that
// says nothing.
func StepTitle(verb, what string, made, placed int, grams, on string) string {
	s, ok := verbSays[verb]
	if !ok {
		s.title = strings.ToUpper(verb[:1]) + verb[1:] + " {w}"
	}
	if grams == "" { // what was taken out is kneaded once more
		s.title = strings.Replace(s.title, "{g} ", "", 1)
	}
	out := strings.NewReplacer("{w}", what, "{n}", fmt.Sprint(made), "{p}", fmt.Sprint(placed), "{g}", grams).Replace(s.title)
	if on != "" {
		out += " on " + on
	}
	return out
}

// unitSays are the units of minutes as people say them.
var unitSays = map[string]string{"batch": "to begin with", "piece": "each piece", "round": "each round", "placed": "each that goes on", "g250": "each 250 g begun",
	"sheet": "each sheet", "strip": "each strip", "fill": "each fill", "press": "each press", "colour": "each colour", "layer": "each layer", "tray": "each tray", "side": "each side"}

// UnitSay is a unit of minutes in words.
func UnitSay(unit string) string {
	if s := unitSays[unit]; s != "" {
		return s
	}
	return "each " + unit
}

// DoneSays is what the button of a step says.
func DoneSays(verb string) string {
	if s := verbSays[verb].done; s != "" {
		return s
	}
	return "Done"
}

// verbClocks are the waits whose clock is not a plain rest: its kind, and what it says
// when it rings.
var verbClocks = map[string][2]string{"air": {"dew", "It is matt: go on"}}

// ClockOf is the kind of clock that follows from a wait, and what it says when it
// rings. A drying has none: it has marks of its own.
func ClockOf(verb string) (kind, rings string) {
	if c, ok := verbClocks[verb]; ok {
		return c[0], c[1]
	}
	return "rest", "It has rested: go on"
}

// VerbDo is the verb as a command: "Press", "Cut".
func VerbDo(verb string) string { return read.UpperFirst(VerbSay(verb)) }
