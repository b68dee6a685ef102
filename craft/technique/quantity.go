package technique

import (
	"encoding/json"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/craft/mix"
	"dustyfern/craft/outline"
	"dustyfern/craft/piece"
	"dustyfern/craft/ribbon"
	"dustyfern/craft/tier"
)

// quantities are the topics that a technique may ask: a new one is one line.
var quantities = map[string]func(in map[string]any) (map[string]any, error){
	"colour.marble": quantity(colour.Marble),
	"cut.area":      quantity(outline.Area),
	"cut.circles":   quantity(outline.Circles),
	"cut.nest":      quantity(outline.Nest),
	"cut.reroll":    quantity(piece.Reroll),
	"flower.fold":   quantity(ribbon.Fold),
	"flower.strips": quantity(ribbon.RoseStrips),
	"mix.gelatine":  quantity(mix.Gelatine),
	"mix.syrup":     quantity(mix.Syrup),
	"mould.batch":   quantity(piece.Batch),
	"mould.piece":   quantity(piece.OnePiece),
	"mould.strings": quantity(piece.Strings),
	"ribbon.bow":    quantity(ribbon.Bow),
	"ribbon.length": quantity(ribbon.Length),
	"ribbon.strips": quantity(ribbon.Strips),
	"tier.band":     quantity(tier.Band),
	"tier.drape":    quantity(tier.Drape),
	"tier.run":      quantity(tier.Run),
	"tier.spacing":  quantity(tier.Spacing),
	"tier.studs":    quantity(tier.Studs),
}

// quantity makes a topic of a core function: an object in, an object out.
func quantity[In, Out any](f func(In) (Out, error)) func(map[string]any) (map[string]any, error) {
	return func(in map[string]any) (map[string]any, error) {
		raw, err := json.Marshal(in)
		if err != nil {
			return nil, err
		}
		var question In
		if err := json.Unmarshal(raw, &question); err != nil {
			return nil, fault.New(fault.Syntax, "", "%v", err)
		}
		answer, err := f(question)
		if err != nil {
			return nil, err
		}
		if raw, err = json.Marshal(answer); err != nil {
			return nil, err
		}
		var out map[string]any
		return out, json.Unmarshal(raw, &out)
	}
}
