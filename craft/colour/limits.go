package colour

// Where a judgement of the eye is drawn, CIEDE2000 unless said (assumed).
const (
	// WhiteFrom is the lightness L* from which a wanted colour is white: nothing
	// goes in.
	WhiteFrom = 94.0
	// NearEnough is how far from what is wanted a colour still passes, and how much
	// farther than a recipe of its own one let down with white may be.
	NearEnough = 4.0
	// SameColour is how far a tub may be from a colour to be a tub of it: side by
	// side one sees it, on a cake one does not.
	SameColour = 2.0
)

// What hands take (assumed).
const (
	SpiritDropG = 0.02 // a drop of clear spirit
	ThumbG      = 10.0 // a thumb's worth, tried before the whole batch
)

// Rope is the rope that is folded at the bench for stripes (assumed): lengths in
// mm, the coloured share, turns each time, and how often.
var Rope = struct {
	DiameterMM, LengthMM, Share, Turns float64
	Folds                              int
}{25, 150, 0.5, 2, 3}
