// Package caution is what can hurt: allergens, choking, what is not eaten.
// These are prompts: product labels and the food rules of the place come first.
package caution

import (
	"slices"
	"strings"
)

// Case is a piece and who meets it, as far as harm goes.
type Case struct {
	Children, NoAlcohol, NoGelatine bool
	Allergies                       []string
	PasteAllergens                  []string // of the lots that go in
	Eaten                           string   // mouthful, nibbled, shown
	GumPercent                      float64  // of its paste
	PieceG                          float64  // 0: not weighed yet
	Dusted, Chilled, HeavyHardener  bool
}

// What is small and hard enough to choke on (assumed): a paste that dries hard,
// and a piece smaller than a thumb's tip.
const (
	hardFrom    = 1.4 // % gum
	smallBelowG = 6.0
)

// Caution is one prompt.
type Caution struct {
	Code string `json:"code"`
	Say  string `json:"say"`
	Hard bool   `json:"hard" doc:"stands first and in the colour of danger"`
}

// Meets lists the allergens of a paste that somebody at the table must not
// have. Gelatine counts as one when the order says so.
func Meets(pasteAllergens, allergies []string, noGelatine bool) []string {
	var out []string
	for _, a := range pasteAllergens {
		if slices.Contains(allergies, a) || noGelatine && a == "gelatine" {
			out = append(out, a)
		}
	}
	return out
}

// Brief is what holds for the whole order.
func Brief(c Case) []Caution {
	var out []Caution
	if len(c.Allergies) > 0 {
		out = append(out, Caution{"allergy", "Allergy at the table: " + strings.Join(c.Allergies, ", ") + ". A board, pin and bag of their own; read every label.", true})
	}
	if c.NoGelatine {
		out = append(out, Caution{"gelatine", "No gelatine: it is animal, and glycerine may be. Read the labels of marshmallow paste and glue.", true})
	}
	if c.NoAlcohol {
		out = append(out, Caution{"alcohol", "No alcohol: no spirit, no extract. Gel or water instead.", true})
	}
	if c.Children {
		out = append(out, Caution{"children", "Children eat: beads, hard dried pieces and shards can choke and hurt teeth. Say so, enlarge or leave out.", true})
	}
	return out
}

// Piece is what holds for one piece, beside its paste and on the sheet.
func Piece(c Case) []Caution {
	var out []Caution
	if len(c.PasteAllergens) > 0 {
		out = append(out, Caution{"label", "Its paste holds by the label: " + strings.Join(c.PasteAllergens, ", ") + ". The label comes first.", false})
	}
	if c.Children && c.GumPercent >= hardFrom && c.PieceG > 0 && c.PieceG < smallBelowG && c.Eaten != "shown" {
		out = append(out, Caution{"choking", "Small and hard when dry: a choking hazard for young children. Make it larger, keep it soft or leave it off their portions.", true})
	}
	if c.Eaten == "shown" {
		out = append(out, Caution{"notEaten", "Not eaten: name and count it on the note for the client, and lift it off before serving.", false})
	}
	if c.Dusted {
		out = append(out, Caution{"dust", "Dusts and paints: \"non-toxic\" is not \"edible\". Check the label; unsure, only on parts that are lifted off. Mask against powder, no flame near.", false})
	}
	if c.Chilled {
		out = append(out, Caution{"freezer", "In the freezer: a closed box, away from raw food.", false})
	}
	if c.HeavyHardener {
		out = append(out, Caution{"hard", "Heavily hardened: hard on teeth, dry to taste.", false})
	}
	return out
}

// Bench is what holds for every evening of moulding.
func Bench() []Caution {
	return []Caution{
		{"hygiene", "Hands washed, no rings, gloves for colour.", false},
		{"blades", "Count knives, needles and blades in and out.", false},
		{"leftovers", "Leftovers carry colour, allergen and age: label them, do not mix across orders blind.", false},
	}
}
