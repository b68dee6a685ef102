package measure

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// Round gives the multiple of step nearest to x, halves up.
func Round(x, step float64) float64 { return step * math.Floor(x/step+0.5+1e-9) }

// Floor and Ceil forgive the last bits of floating arithmetic.
func Floor(x float64) int { return int(math.Floor(x + 1e-9)) }

// Ceil is the least whole number not below x.
func Ceil(x float64) int { return int(math.Ceil(x - 1e-9)) }

// FormatMass prints grams as a kitchen scale shows them: tenths below 10 g,
// whole grams below 1 kg, then kilograms to 5 g.
func FormatMass(g float64) string {
	if g < 0.05 {
		return "less than 0.1 g"
	}
	step := 5.0
	if g < 10 {
		step = 0.1
	} else if g < 1000 {
		step = 1
	}
	r := Round(g, step)
	switch {
	case r < 10:
		return fmt.Sprintf("%.1f g", r)
	case r < 1000:
		return fmt.Sprintf("%.0f g", r)
	}
	return trim(r/1000, 3) + " kg"
}

// FormatLength prints mm: tenths below 10, halves below 100, whole above.
func FormatLength(mm float64) string {
	step := 1.0
	if mm < 10 {
		step = 0.1
	} else if mm < 100 {
		step = 0.5
	}
	return trim(Round(mm, step), 1) + " mm"
}

// FormatInches prints to 1/16 in.
func FormatInches(in float64) string {
	n := int(Round(in*16, 1))
	if n == 0 && in > 0 {
		return "less than 1/16 in"
	}
	return mixed(n, 16) + " in"
}

// FormatSpoons prints a volume, given in level teaspoons, as a school's spoons.
func FormatSpoons(tsp float64, school string) string {
	s := SpoonSchools[school]
	switch {
	case tsp <= 0:
		return "none"
	case tsp < 1.0/64:
		return "less than a smidgen"
	case tsp < 3.0/64:
		return "a smidgen"
	case tsp < 3.0/32:
		return "a pinch"
	case school != "us" && tsp*s.Tsp >= 60:
		return trim(Round(tsp*s.Tsp, 5), 0) + " ml"
	}
	tbsp := int(math.Round(s.Tbsp / s.Tsp * 8)) // eighths of a teaspoon
	cup := 1 << 30
	if school == "us" {
		cup = 384
	}
	x := tsp * 8
	step := 12.0
	if x < float64(2*tbsp) {
		step = 1
	} else if x < 192 {
		step = 4
	}
	e := int(Round(x, step))
	var parts []string
	if quarter := cup / 4; e >= quarter {
		n := e / quarter
		unit := " cup"
		if n > 4 {
			unit = " cups"
		}
		parts = append(parts, mixed(n, 4)+unit)
		e -= n * quarter
	}
	if e >= tbsp {
		parts = append(parts, strconv.Itoa(e/tbsp)+" tbsp")
		e %= tbsp
	}
	if e > 0 {
		parts = append(parts, mixed(e, 8)+" tsp")
	}
	return strings.Join(parts, " + ")
}

// mixed writes n/d as a mixed number in lowest terms.
func mixed(n, d int) string {
	whole, n := n/d, n%d
	for n > 0 && n%2 == 0 && d%2 == 0 {
		n, d = n/2, d/2
	}
	switch {
	case n == 0:
		return strconv.Itoa(whole)
	case whole == 0:
		return fmt.Sprintf("%d/%d", n, d)
	}
	return fmt.Sprintf("%d %d/%d", whole, n, d)
}

// trim writes x with at most the given decimals and no trailing zeros.
func trim(x float64, decimals int) string {
	s := strconv.FormatFloat(x, 'f', decimals, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	return s
}
