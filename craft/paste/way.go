package paste

import (
	"fmt"
	"slices"
)

// Way is how to come to a strength. Ratio is parts of sugar paste to parts of
// flower paste that a hand can count; AtHand says whether what is there serves.
type Way struct {
	Way             string   `json:"way"`
	StrengthPercent float64  `json:"strengthPercent"`
	Ratio           string   `json:"ratio,omitempty"`
	FlowerShare     *float64 `json:"flowerShare,omitempty"`
	HardenerPercent *float64 `json:"hardenerPercent,omitempty"`
	AtHand          *bool    `json:"atHand,omitempty"`
}

// How far a ready paste may lie from the strength that is wanted, and from
// where on flower paste alone is taken (assumed).
const (
	readyBelow  = 0.1
	readyAbove  = 0.6
	flowerAlone = 1.8
	mostOwnDose = 7.0 // % of plain paste; beyond it the paste crumbles
)

// span is the strength that was chosen with what it may move within.
type span struct {
	e, floor, top, plain float64
	painted              bool
}

// within reports whether x lies from lo to hi, the last bits aside.
func within(x, lo, hi float64) bool { return x >= lo-1e-9 && x <= hi+1e-9 }

// here tells what of a list is there; no list: everything can be had.
type here []string

func (h here) any(codes ...string) bool {
	return h == nil || slices.ContainsFunc(codes, func(c string) bool { return slices.Contains(h, c) })
}

func (h here) plain() bool    { return h.any("sugarPaste", "softSugarPaste", "marshmallowPaste") }
func (h here) flower() bool   { return h.any("flowerPaste") }
func (h here) hardener() bool { return h.any("hardener") }

// has reports whether a way can be gone with what is there.
func (h here) has(way string) bool {
	switch way {
	case "sugarPaste":
		return h.plain()
	case "lightDose", "extraDose", "hardener":
		return h.plain() && h.hardener()
	case "halfAndHalf":
		return h.any(way) || h.plain() && h.flower()
	case "blend":
		return h.plain() && h.flower()
	}
	return h.any(way)
}

// use is the first way that serves: with what is there, else with everything.
func (s span) use(have []string) Way {
	if len(have) > 0 {
		if w, ok := s.way(have); ok {
			w.AtHand = new(true)
			return w
		}
	}
	w, ok := s.way(nil)
	if !ok { // the window lies below plain paste: nothing is softer
		w = Way{Way: "sugarPaste", StrengthPercent: s.plain}
	}
	if len(have) > 0 {
		w.AtHand = new(false)
	}
	return w
}

func (s span) way(h here) (Way, bool) {
	if w, ok := s.alone(h); ok {
		return w, true
	}
	if h.has("blend") {
		for _, r := range [][2]float64{{3, 1}, {2, 1}, {1, 1}, {1, 2}, {1, 3}} {
			x := (r[0]*s.plain + r[1]*FlowerStrength) / (r[0] + r[1])
			if within(x, s.e, s.top) {
				return Way{Way: "blend", StrengthPercent: x, Ratio: fmt.Sprintf("%.0f:%.0f", r[0], r[1]), FlowerShare: new(r[1] / (r[0] + r[1]))}, true
			}
		}
	}
	dose := Way{Way: "hardener", StrengthPercent: s.e, HardenerPercent: new(100 * (s.e - s.plain) / (100 - s.e))}
	switch {
	case s.e < s.plain-1e-9:
		return Way{}, false
	case h != nil && h.has("hardener") && *dose.HardenerPercent <= mostOwnDose+1e-9:
		return dose, true
	case s.e > FlowerStrength:
		return dose, h == nil
	case h.has("blend"):
		return Way{Way: "blend", StrengthPercent: s.e, FlowerShare: new((s.e - s.plain) / (FlowerStrength - s.plain))}, true
	}
	return Way{}, false
}

// alone is one paste out of its packet, or with a school's dose.
func (s span) alone(h here) (Way, bool) {
	ready := []Way{
		{Way: "sugarPaste", StrengthPercent: s.plain},
		{Way: "lightDose", StrengthPercent: (s.plain + lightDose) / (1 + lightDose/100)},
		{Way: "mouldingReadyPaste", StrengthPercent: StrengthOf("mouldingReadyPaste")},
		{Way: "halfAndHalf", StrengthPercent: StrengthOf("halfAndHalf"), Ratio: "1:1", FlowerShare: new(0.5)},
		{Way: "modellingPaste", StrengthPercent: StrengthOf("modellingPaste")},
		{Way: "flowerPaste", StrengthPercent: FlowerStrength}}
	lo, hi := max(s.floor, s.e-readyBelow), min(s.top, s.e+readyAbove)
	switch {
	case s.e > FlowerStrength+1e-9:
		ready = []Way{{Way: "extraDose", StrengthPercent: (s.plain + extraDose) / (1 + extraDose/100)}}
		lo, hi = s.e, s.top
	case s.e >= flowerAlone-1e-9:
		ready = ready[len(ready)-1:]
		lo, hi = s.e, s.top
	case s.painted:
		ready[3], ready[4] = ready[4], ready[3]
	}
	for _, w := range ready {
		if within(w.StrengthPercent, lo, hi) && h.has(w.Way) {
			return w, true
		}
	}
	return Way{}, false
}

// beside is what other good makers take.
func (s span) beside(on map[string]bool, w Range, taken string) []Way {
	out := []Way{}
	if (on["standsDry"] || on["paintedRigid"]) && s.floor > s.plain && taken != "hardener" {
		out = append(out, Way{Way: "sugarPasteHardened", StrengthPercent: s.floor, HardenerPercent: new(100 * (s.floor - s.plain) / (100 - s.floor))})
	}
	if (on["standsDry"] || on["lippedOpenwork"] || use(on) == "shown") && taken != "flowerPaste" && w.From <= FlowerStrength && (w.To == nil || *w.To >= FlowerStrength) {
		out = append(out, Way{Way: "flowerPaste", StrengthPercent: FlowerStrength})
	}
	return out
}
