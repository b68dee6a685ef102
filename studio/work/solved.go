package work

import (
	"fmt"
	"sync"

	"dustyfern/craft/colour"
	"dustyfern/studio/noun"
)

// solved keeps what the craft has answered, by all that was asked: a recipe by its
// bottles, base and target, a drying by the piece and the room.
var solved struct {
	sync.Mutex
	of map[string]any
}

const mostSolved = 4000

func once[T any](key string, solve func() (T, error)) (T, error) {
	solved.Lock()
	got, ok := solved.of[key].(T)
	solved.Unlock()
	if ok {
		return got, nil
	}
	out, err := solve()
	if err != nil {
		return out, err
	}
	solved.Lock()
	defer solved.Unlock()
	if solved.of == nil || len(solved.of) >= mostSolved {
		solved.of = map[string]any{}
	}
	solved.of[key] = out
	return out, nil
}

func fingerprint(p colour.Paste) string { return fmt.Sprintf("%.6g/%.6g", p.S, p.K) }

// told is a number, or that it is not said.
func told(x *float64) string {
	if x == nil {
		return "-"
	}
	return fmt.Sprint(*x)
}

// Recipe of a target in a base from these bottles: doses, and for so many grams of base
// what hands make of them (0: not known yet).
func (b *Means) Recipe(target string, base colour.Paste, lots []*noun.Lot, grams float64) (colour.RecipeOut, error) {
	key := fmt.Sprintf("recipe|%s|%s|%.2f %v %v %v", target, fingerprint(base), grams, b.Reader.Scale(), b.Kitchen.DropG, b.Kitchen.DabG)
	for _, l := range lots {
		mean, _, _ := l.Ratio()
		key += fmt.Sprintf("|%d %s %.4f %v %v", l.ID, *l.Swatch, mean, told(l.Deepening), told(l.HalfTimeHours))
	}
	return once(key, func() (colour.RecipeOut, error) {
		var gels []any
		for _, l := range lots {
			g, err := gelOfLot(l)
			if err != nil {
				return colour.RecipeOut{}, err
			}
			gels = append(gels, g)
		}
		in := colour.RecipeIn{Target: target, Base: base, Gels: gels}
		if grams >= leastBatchG {
			in.BatchG, in.StepG, in.DropG, in.DabG = new(min(grams, 50000)), new(b.Reader.Scale()), &b.Kitchen.DropG, &b.Kitchen.DabG
		}
		return colour.Recipe(in)
	})
}

// leastBatchG is the least paste for which drops are counted, g.
const leastBatchG = 0.5
