package work

import (
	"math"

	"dustyfern/craft/piece"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
)

// ownMinutes are those of the kitchen and of the tool, where they are not the usual
// ones of a step with that unit.
func (b *Means) ownMinutes(w *Reckoned, in *technique.ChainIn) {
	usual := noun.NewKitchen("")
	k := b.Kitchen
	for i := range w.Way.Steps {
		s := &w.Way.Steps[i]
		has := func(unit string) bool { return s.Minutes[unit] != "" }
		own := func(unit string, x float64) {
			if x > 0 {
				in.Minutes[s.ID+"."+unit] = math.Min(1440, x)
			}
		}
		switch {
		case has("batch") && has("g250") && s.Starts && (k.KneadFirst != usual.KneadFirst || k.KneadMore != usual.KneadMore):
			own("batch", math.Max(0.01, float64(k.KneadFirst-k.KneadMore)))
			own("g250", math.Max(0.01, float64(k.KneadMore)))
		case has("batch") && has("placed") && s.Assembly && (k.PutOnBase != usual.PutOnBase || k.PutOnSmall != usual.PutOnSmall || k.PutOnLarge != usual.PutOnLarge):
			own("batch", math.Max(0.01, k.PutOnBase))
			each := k.PutOnSmall
			if w.PieceG >= piece.HeavyFromG {
				each = k.PutOnLarge
			}
			own("placed", math.Max(0.01, each))
		}
		if t := w.Tool; t != nil && t.UnmouldMinutes != nil {
			switch {
			case s.Cycle != nil:
				own("open", *t.UnmouldMinutes)
			case s.Verb == "release" && has("fill"):
				own("fill", *t.UnmouldMinutes)
			}
		}
	}
}
