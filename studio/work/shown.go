package work

import (
	"cmp"
	"math"
	"slices"

	"dustyfern/craft/ribbon"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// SettingFor is the setting of the machine that rolls a thickness, in words; "" where the
// number is none, or no machine is known that rolls it.
func (b *Means) SettingFor(w *Reckoned, x technique.Shown) string {
	t := w.roles[x.Roller]
	if x.Roller == "" || t == nil {
		return ""
	}
	if t.Of("ringMM") > 0 {
		return b.ringFor(t, x.Value)
	}
	out, err := ribbon.Roller(ribbon.RollerIn{Anchors: t.Roller.Anchors(), ThicknessMM: &x.Value})
	if err != nil || math.Abs(out.ThicknessMM-x.Value) > offSetting*x.Value {
		return ""
	}
	says := "setting " + read.Trimmed(*out.Setting, 2) + " of " + t.Name
	if len(t.Roller.Settings) == 0 {
		says += " (as usual: weigh a strip to be sure)"
	}
	return says
}

// ringFor is the ring of a pin for a thickness, in words: the nearest one where none is it.
func (b *Means) ringFor(t *noun.Tool, mm float64) string {
	rings := []float64{t.Of("ringMM")}
	for _, s := range t.Roller.Settings {
		rings = append(rings, s.MM)
	}
	best := slices.MinFunc(rings, func(x, y float64) int { return cmp.Compare(math.Abs(x-mm), math.Abs(y-mm)) })
	if math.Abs(best-mm) <= offRing*mm {
		return "between the rings of " + b.Reader.Length(best)
	}
	return "no ring for it: the nearest is " + b.Reader.Length(best) + ", or guide sticks"
}

// offRing is how far a ring may be beside a thickness to be taken for it, as a share
// (assumed).
const offRing = 0.08

// offSetting is how far the nearest whole setting may lie beside a thickness to be said
// for it, as a share (assumed).
const offSetting = 0.25

// Shown is a number of a step as hands read it.
func (b *Means) Shown(x technique.Shown) string {
	switch x.Unit {
	case "mm":
		return b.Reader.Length(x.Value)
	case "g":
		return b.Reader.Paste(x.Value)
	case "ml":
		return read.Trimmed(x.Value, 0) + " ml"
	case "C":
		return b.Reader.Temp(math.Round(x.Value))
	case "s":
		return read.Trimmed(math.Round(x.Value), 0) + " s"
	}
	return read.Trimmed(x.Value, 1)
}
