package paste

import "math"

// What an outcome says about a lot's gum strength, in % gum: each report moves it
// by one step, all together by no more than the most (assumed).
const (
	learnStep = 0.05
	learnMost = 0.3
)

// Learnt is how far reports have moved a lot's gum strength, in % gum: firmer
// are those of a paste stiffer than it was taken for, softer those of a weaker.
func Learnt(firmer, softer int) float64 {
	return math.Max(-learnMost, math.Min(learnMost, learnStep*float64(firmer-softer)))
}
