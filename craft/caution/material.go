package caution

import (
	_ "embed"
	"fmt"
	"slices"
	"strings"
)

// The table of cautions and materials, one line each: see docs/models/safety.md. A
// decorator's correction is a change of one line.
//
//go:embed safety.txt
var safetyTable string

// Allergens are the fourteen of European food law; other places have other lists.
var Allergens = []string{"celery", "crustaceans", "egg", "fish", "gluten", "lupin", "milk", "molluscs", "mustard", "nuts", "peanut", "sesame", "soya", "sulphites"}

// Asked is what guests ask about besides: never called an allergen, but carried and
// shown.
var Asked = []string{"alcohol", "animal", "citrus", "gelatine", "maize"}

// Material is what something of a kitchen holds by default, until its label is read.
type Material struct {
	Contains, May, Asked []string
}

// materials by their code.
var materials = readMaterials(safetyTable)

// MaterialOf finds a material by its code.
func MaterialOf(code string) (Material, bool) {
	m, ok := materials[code]
	return m, ok
}

// readMaterials reads the lines of M; a line that names what nobody knows is a fault of
// the program.
func readMaterials(table string) map[string]Material {
	out := map[string]Material{}
	words := func(line, cell string, known []string) []string {
		list := strings.Fields(cell)
		for _, w := range list {
			if !slices.Contains(known, w) {
				panic(fmt.Sprintf("safety.txt: %q is unknown in %q", w, line))
			}
		}
		return list
	}
	for line := range strings.Lines(table) {
		cells := strings.Split(strings.TrimSpace(line), "|")
		if cells[0] != "M" || len(cells) < 6 {
			continue
		}
		// what a line calls an allergen may stand in its third cell or, asked about, in its fourth
		out[cells[1]] = Material{words(line, cells[2], Allergens), words(line, cells[3], Allergens), words(line, cells[4], Asked)}
	}
	return out
}
