// Package ribbon is what is rolled, cut into strips and wound, folded or tied: the
// settings of a roller machine, strips out of a sheet, the lengths of bows, roses and
// ruffles, and flowers of folded cloth. See docs/models/quantity.md, sections 6 to 8.
package ribbon

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// slack of a comparison, as in the model's section 0.
const slack = 1e-9

func missing(field, ask string) error { return fault.New(fault.Required, field, "%s", ask) }

// UsualAnchors are settings and their thickness in mm of a common machine (usual in the
// trade); each machine has its own.
var UsualAnchors = [][]float64{{1, 3.2}, {3, 1.6}, {9, 0.5}}

// RollerIn asks for the thickness at a setting, the setting for a thickness, or what a
// weighed strip says of the setting that it was rolled at.
type RollerIn struct {
	Anchors       [][]float64 `json:"anchors"`
	Setting       *float64    `json:"setting" in:"-1000..1000"`
	ThicknessMM   *float64    `json:"thicknessMM" in:"thickness"`
	MassG         *float64    `json:"massG" in:"mass"`
	LengthMM      *float64    `json:"lengthMM" in:"length"`
	WidthMM       *float64    `json:"widthMM" in:"length"`
	DensityGPerML *float64    `json:"densityGPerML" def:"1.35" in:"density"`
}

// RollerOut is a setting with its thickness; of a weighed strip its thickness alone.
type RollerOut struct {
	Setting     *float64 `json:"setting,omitempty"`
	ThicknessMM float64  `json:"thicknessMM"`
}

// Roller reads a machine by its anchors, straight between them. Faults: required
// (setting; lengthMM, widthMM of a strip; anchors), contradiction, out_of_range (off the
// machine).
func Roller(in RollerIn) (RollerOut, error) {
	if err := fault.Check(&in); err != nil {
		return RollerOut{}, err
	}
	asked := ""
	for _, x := range []struct {
		name string
		p    *float64
	}{{"setting", in.Setting}, {"thicknessMM", in.ThicknessMM}, {"massG", in.MassG}} {
		if x.p == nil {
			continue
		}
		if asked != "" {
			return RollerOut{}, fault.New(fault.Contradiction, x.name, "One of %s and %s.", asked, x.name)
		}
		asked = x.name
	}
	if asked == "" {
		return RollerOut{}, missing("setting", "Which setting, how thick, or what does a strip weigh?")
	}
	if in.MassG != nil {
		switch {
		case in.LengthMM == nil:
			return RollerOut{}, missing("lengthMM", "How long is the weighed strip?")
		case in.WidthMM == nil:
			return RollerOut{}, missing("widthMM", "How wide is the weighed strip?")
		}
		return RollerOut{ThicknessMM: 1000 * *in.MassG / (*in.DensityGPerML * *in.LengthMM * *in.WidthMM)}, nil
	}
	anchors, err := anchorsOf(in.Anchors)
	if err != nil {
		return RollerOut{}, err
	}
	if in.Setting != nil {
		t, ok := thicknessAt(anchors, *in.Setting)
		if !ok {
			return RollerOut{}, fault.New(fault.OutOfRange, "setting", "This machine goes from %g to %g.", anchors[0][0], anchors[len(anchors)-1][0])
		}
		return RollerOut{in.Setting, t}, nil
	}
	best := RollerOut{}
	for s := math.Ceil(anchors[0][0] - slack); s <= anchors[len(anchors)-1][0]+slack; s++ {
		t, ok := thicknessAt(anchors, s)
		if !ok {
			continue
		}
		off, was := math.Abs(t-*in.ThicknessMM), math.Abs(best.ThicknessMM-*in.ThicknessMM)
		if best.Setting == nil || off < was-slack || off < was+slack && t > best.ThicknessMM {
			best = RollerOut{new(s), t}
		}
	}
	if best.Setting == nil {
		return best, fault.New(fault.OutOfRange, "anchors", "No whole setting lies between %g and %g.", anchors[0][0], anchors[len(anchors)-1][0])
	}
	return best, nil
}

// anchorsOf reads the anchors of a machine, sorted by their setting.
func anchorsOf(list [][]float64) ([][]float64, error) {
	if list == nil {
		return UsualAnchors, nil
	}
	if len(list) < 2 {
		return nil, missing("anchors", "Two settings at least, each with its thickness: [[1, 3.2], [9, 0.5]].")
	}
	if len(list) > 100 {
		return nil, fault.New(fault.OutOfRange, "anchors", "At most 100 settings, not %d.", len(list))
	}
	for i, a := range list {
		at := fmt.Sprintf("anchors[%d]", i)
		switch {
		case len(a) != 2:
			return nil, fault.New(fault.Syntax, at, "A setting and its thickness in mm: [3, 1.6].")
		case !(math.Abs(a[0]) <= 1000):
			return nil, fault.New(fault.OutOfRange, at, "A setting from -1000 to 1000, not %g.", a[0])
		case !(a[1] >= 0.2 && a[1] <= 20):
			return nil, fault.New(fault.OutOfRange, at, "A thickness from 0.2 to 20 mm, not %g.", a[1])
		}
		for _, b := range list[:i] {
			if b[0] == a[0] {
				return nil, fault.New(fault.Contradiction, at, "Setting %g is there already.", a[0])
			}
		}
	}
	list = slices.Clone(list)
	slices.SortFunc(list, func(a, b []float64) int {
		if a[0] < b[0] {
			return -1
		}
		return 1
	})
	return list, nil
}

func thicknessAt(anchors [][]float64, s float64) (float64, bool) {
	for i := 1; i < len(anchors); i++ {
		a, b := anchors[i-1], anchors[i]
		if s >= a[0]-slack && s <= b[0]+slack {
			return a[1] + (b[1]-a[1])*(s-a[0])/(b[0]-a[0]), true
		}
	}
	return 0, false
}
