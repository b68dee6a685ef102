package ribbon

import (
	"math"

	"dustyfern/craft/fault"
)

// RoseStripsIn are strip roses and buds: a small rose takes one strip, a medium two, a
// large three. Buds are of any size unless a size is asked for; with ReusePetals those
// that a cut strip leaves become buds.
type RoseStripsIn struct {
	Small          *int  `json:"small" def:"0" in:"count"`
	Medium         *int  `json:"medium" def:"0" in:"count"`
	Large          *int  `json:"large" def:"0" in:"count"`
	Buds           *int  `json:"buds" def:"0" in:"count"`
	SmallBuds      *int  `json:"smallBuds" def:"0" in:"count"`
	BigBuds        *int  `json:"bigBuds" def:"0" in:"count"`
	PetalsPerStrip *int  `json:"petalsPerStrip" def:"6" in:"3..24"`
	ReusePetals    *bool `json:"reusePetals" def:"false"`
}

// RoseStripsOut is how many strips are cut.
type RoseStripsOut struct {
	Strips int `json:"strips"`
}

// RoseStrips counts the strips of roses and buds of one colour.
func RoseStrips(in RoseStripsIn) (RoseStripsOut, error) {
	if err := fault.Check(&in); err != nil {
		return RoseStripsOut{}, err
	}
	up := func(a, b int) int { return (a + b - 1) / b }
	small, big := *in.SmallBuds, *in.BigBuds
	b := max(small, big, up(small+big+*in.Buds, 2))
	if *in.ReusePetals {
		small += *in.Buds
		pairs := *in.PetalsPerStrip / 2
		free := up(small+big, pairs)
		if *in.PetalsPerStrip > 4 {
			free = big + up(max(0, small-big), pairs)
		}
		b = min(b, free)
	}
	return RoseStripsOut{*in.Small + 2**in.Medium + 3**in.Large + b}, nil
}

// FoldIn is a flower of petals that are discs or squares folded in half twice; mm, g/ml.
type FoldIn struct {
	Shape         *string   `json:"shape" def:"disc" of:"disc square"`
	SizeMM        *float64  `json:"sizeMM" in:"length"`
	WantMM        *float64  `json:"wantMM" in:"length"`
	HaveMM        []float64 `json:"haveMM" in:"length" most:"100"`
	Petals        *int      `json:"petals" in:"1..100"`
	Flowers       *int      `json:"flowers" def:"1" in:"count"`
	ThicknessMM   *float64  `json:"thicknessMM" in:"thickness"`
	DensityGPerML *float64  `json:"densityGPerML" def:"1.35" in:"density"`
	StemShare     *float64  `json:"stemShare" def:"0" in:"0..0.99"`
	Shrink        *float64  `json:"shrink" def:"1" in:"0.3..1.2"`
}

// FoldOut: the cutter, how wide the bloom is, how far one petal reaches, what one folded
// petal covers and keeps of its width, and with a thickness the paste that is cut and that
// stays after the stem is cut off.
type FoldOut struct {
	SizeMM         float64  `json:"sizeMM"`
	FinishedMM     float64  `json:"finishedMM"`
	ReachMM        float64  `json:"reachMM"`
	FoldedAreaMM2  float64  `json:"foldedAreaMM2"`
	Layers         int      `json:"layers"`
	KeptWidthShare float64  `json:"keptWidthShare"`
	CutG           *float64 `json:"cutG,omitempty"`
	KeptG          *float64 `json:"keptG,omitempty"`
}

// Fold sizes a folded flower, or finds the cutter for one. Faults: required,
// contradiction (wantMM with sizeMM).
func Fold(in FoldIn) (FoldOut, error) {
	if err := fault.Check(&in); err != nil {
		return FoldOut{}, err
	}
	switch {
	case in.SizeMM != nil && in.WantMM != nil:
		return FoldOut{}, fault.New(fault.Contradiction, "wantMM", "The cutter's size, or the bloom that is wanted.")
	case in.SizeMM == nil && in.WantMM == nil:
		return FoldOut{}, missing("sizeMM", "How wide is the cutter, or the bloom that is wanted?")
	case in.WantMM != nil && len(in.HaveMM) == 0:
		return FoldOut{}, missing("haveMM", "Which cutters are there?")
	}
	square := *in.Shape == "square"
	petals := 4
	if square {
		petals = 1 // a square makes a little flower of its own (assumed)
	}
	if in.Petals != nil {
		petals = *in.Petals
	}
	reach := func(d float64) float64 {
		if square {
			return d / math.Sqrt2
		}
		return d / 2
	}
	finished := func(d float64) float64 {
		if petals == 1 {
			return reach(d) * *in.Shrink
		}
		return 2 * reach(d) * *in.Shrink
	}
	size := 0.0
	if in.SizeMM != nil {
		size = *in.SizeMM
	} else {
		for i, d := range in.HaveMM {
			off, was := math.Abs(finished(d)-*in.WantMM), math.Abs(finished(size)-*in.WantMM)
			if i == 0 || off < was-slack || off < was+slack && d > size {
				size = d
			}
		}
	}
	area := math.Pi * size * size / 4
	if square {
		area = size * size
	}
	out := FoldOut{SizeMM: size, FinishedMM: finished(size), ReachMM: reach(size), FoldedAreaMM2: area / 4, Layers: 4, KeptWidthShare: math.Min(1, 4/float64(petals))}
	if in.ThicknessMM != nil {
		g := float64(petals) * float64(*in.Flowers) * area * *in.ThicknessMM * *in.DensityGPerML / 1000
		out.CutG, out.KeptG = &g, new(g*(1-*in.StemShare))
	}
	return out, nil
}
