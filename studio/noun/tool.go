package noun

import (
	"math"
	"time"
)

// Weighing is a piece that was weighed.
type Weighing struct {
	At    time.Time `json:"at"`
	Grams float64   `json:"grams"`
}

// Weighed is the mean and the spread (standard deviation) of the weighings of a
// mould.
func (t *Tool) Weighed() (mean, spread float64) {
	n := float64(len(t.Weighings))
	for _, w := range t.Weighings {
		mean += w.Grams / n
	}
	for _, w := range t.Weighings {
		spread += (w.Grams - mean) * (w.Grams - mean)
	}
	if n > 1 {
		spread = math.Sqrt(spread / (n - 1))
	}
	return mean, spread
}
