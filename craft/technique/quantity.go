package technique

import (
	"crypto/sha256"
	"encoding/json"
	"sync"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/craft/mix"
	"dustyfern/craft/outline"
	"dustyfern/craft/piece"
	"dustyfern/craft/ribbon"
	"dustyfern/craft/tier"
)

// quantities are the topics that a technique may ask: a new one is one line.
var quantities = map[string]func(in map[string]any) (map[string]float64, error){
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

// mostAnswered is how many answers of one topic are kept.
const mostAnswered = 1000

// quantity makes a topic of a core function: an object in, the numbers of its answer out. An
// answer follows from what was asked alone, and the same is asked at every plan and every look:
// it is kept.
func quantity[In, Out any](f func(In) (Out, error)) func(map[string]any) (map[string]float64, error) {
	var lock sync.Mutex
	answered := map[[sha256.Size]byte]map[string]float64{}
	return func(in map[string]any) (map[string]float64, error) {
		raw, err := json.Marshal(in) // the names in their order: the same question reads the same
		if err != nil {
			return nil, err
		}
		key := sha256.Sum256(raw)
		lock.Lock()
		out, ok := answered[key]
		lock.Unlock()
		if ok {
			return out, nil
		}
		var question In
		if err := json.Unmarshal(raw, &question); err != nil {
			return nil, fault.New(fault.Syntax, "", "%v", err)
		}
		answer, err := f(question)
		if err != nil {
			return nil, err
		}
		if out, err = numbersOf(answer); err != nil {
			return nil, err
		}
		lock.Lock()
		defer lock.Unlock()
		if len(answered) >= mostAnswered {
			clear(answered)
		}
		answered[key] = out
		return out, nil
	}
}

// numbersOf are the numbers of an answer by their names.
func numbersOf(answer any) (map[string]float64, error) {
	raw, err := json.Marshal(answer)
	if err != nil {
		return nil, err
	}
	var all map[string]any
	if err := json.Unmarshal(raw, &all); err != nil {
		return nil, err
	}
	out := map[string]float64{}
	for name, v := range all {
		if x, ok := v.(float64); ok {
			out[name] = x
		}
	}
	return out, nil
}
