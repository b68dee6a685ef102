// Package protocol is what devices say, line by line: a scale its grams, a thermometer its
// degrees.
package protocol

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"dustyfern/craft/measure"
)

// Line is one reading of a scale: grams, and whether it lies still.
type Line struct {
	Grams  float64
	Stable bool
}

var lineShape = regexp.MustCompile(`^\s*([+-]?\s*\d{1,7}(?:[.,]\d{1,6})?)\s*(mg|g|kg|oz|lb)\s*([SU])?\s*$`)

// ParseLine reads a line such as "4.23 g S" (stable), "4.2 g U" or "U" (still
// moving, no figure).
func ParseLine(text string) (Line, error) {
	if t := strings.TrimSpace(text); t == "U" {
		return Line{Grams: math.NaN()}, nil
	}
	m := lineShape.FindStringSubmatch(text)
	if m == nil {
		return Line{}, fmt.Errorf("%.40q is no reading: 4.23 g S is wanted", text)
	}
	x, err := strconv.ParseFloat(strings.NewReplacer(",", ".", " ", "", "+", "").Replace(m[1]), 64)
	if err != nil {
		return Line{}, err
	}
	grams := map[string]float64{"mg": 0.001, "g": 1, "kg": 1000, "oz": measure.GramsPerOunce, "lb": measure.GramsPerPound}[m[2]]
	return Line{x * grams, m[3] != "U"}, nil
}

var heatShape = regexp.MustCompile(`^\s*([+-]?\d{1,4}(?:[.,]\d{1,4})?)\s*(?:°\s*)?([CF])\s*$`)

// What a kitchen thermometer may say, C: anything else is a broken line.
const (
	coldestC = -50.0
	hottestC = 400.0
)

// ParseHeat reads a line such as "149.2 C" or "300 F" into C. A probe that lies open says
// "--": NaN.
func ParseHeat(text string) (float64, error) {
	if strings.Trim(strings.TrimSpace(text), "-") == "" && strings.Contains(text, "-") {
		return math.NaN(), nil
	}
	m := heatShape.FindStringSubmatch(text)
	if m == nil {
		return 0, fmt.Errorf("%.40q is no temperature: 149.2 C is wanted", text)
	}
	x, err := strconv.ParseFloat(strings.Replace(strings.TrimPrefix(m[1], "+"), ",", ".", 1), 64)
	if err != nil {
		return 0, err
	}
	if m[2] == "F" {
		x = (x - 32) / 1.8
	}
	if x < coldestC || x > hottestC {
		return 0, fmt.Errorf("%.40q is beyond any kitchen: from %g to %g C", text, coldestC, hottestC)
	}
	return x, nil
}
