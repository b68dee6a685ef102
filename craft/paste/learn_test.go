package paste

import (
	"math"
	"testing"
)

// TestLearningIsSlowAndCapped: a report moves a lot by a twentieth, opposite ones
// cancel, and no number of them moves it by more than 0.3 % gum either way.
func TestLearningIsSlowAndCapped(t *testing.T) {
	for _, c := range []struct {
		firmer, softer int
		want           float64
	}{{0, 0, 0}, {1, 0, 0.05}, {0, 1, -0.05}, {3, 3, 0}, {5, 0, 0.25}, {6, 0, 0.3}, {7, 0, 0.3}, {200, 0, 0.3}, {0, 6, -0.3}, {0, 200, -0.3}, {200, 195, 0.25}} {
		if got := Learnt(c.firmer, c.softer); math.Abs(got-c.want) > 1e-12 {
			t.Errorf("%d firmer, %d softer: %v, not %v", c.firmer, c.softer, got, c.want)
		}
	}
}
