package piece

import (
	"dustyfern/craft/measure"
)

// Minutes and weights of a pressed piece that belong to no one way of making
// (assumed; docs/models/technique.md).
const (
	BlendRest  = 15  // minutes that a blend of two pastes lies in its bag
	HeavyFromG = 5.0 // a heavier piece takes longer to put on
)

// KneadMinutes by the mass: so much for the first 250 g, more for each further
// 250 g begun.
func KneadMinutes(massG float64, first, more int) int {
	return first + more*max(0, measure.Ceil(massG/250)-1)
}
