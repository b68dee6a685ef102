package protocol

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

var airShape = regexp.MustCompile(`^\s*([A-Za-z0-9_-]{1,30})\s+([+-]?\d{1,4}(?:[.,]\d{1,4})?)\s*(?:°\s*)?([CF])\s+(\d{1,4}(?:[.,]\d{1,4})?)\s*%\s*$`)

// Air is one reading of a room sensor: of a place by its name, °C and % humidity.
type Air struct {
	Place     string
	TempC     float64
	RHPercent float64
}

// ParseAir reads a line such as "kitchen 21.3 C 48 %". What no air can be is read as it
// stands: who keeps it judges it.
func ParseAir(text string) (Air, error) {
	m := airShape.FindStringSubmatch(text)
	if m == nil {
		return Air{}, fmt.Errorf("%.60q is no reading of air: kitchen 21.3 C 48 %% is wanted", text)
	}
	number := func(s string) float64 {
		x, err := strconv.ParseFloat(strings.Replace(strings.TrimPrefix(s, "+"), ",", ".", 1), 64)
		if err != nil {
			return math.NaN()
		}
		return x
	}
	c := number(m[2])
	if m[3] == "F" {
		c = (c - 32) / 1.8
	}
	return Air{strings.ToLower(m[1]), c, number(m[4])}, nil
}
