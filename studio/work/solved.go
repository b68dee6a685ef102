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

// Recipe of a target in a base from these bottles: doses, whatever the batch.
func (b *Means) Recipe(target string, base colour.Paste, lots []*noun.Lot) (colour.RecipeOut, error) {
	key := fmt.Sprintf("recipe|%s|%s", target, fingerprint(base))
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
		return colour.Recipe(colour.RecipeIn{Target: target, Base: base, Gels: gels})
	})
}
