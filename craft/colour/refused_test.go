package colour

import (
	"errors"
	"testing"

	"dustyfern/craft/fault"
)

func TestColoursAreRefusedWithTheirField(t *testing.T) {
	for name, c := range map[string]struct {
		err         func() error
		code, field string
	}{
		"too many gels": {func() error { _, err := Recipe(RecipeIn{Target: "#808080", Gels: make([]any, 21)}); return err }, fault.OutOfRange, "gels"},
		"8 g and more": {func() error {
			_, err := Tint(TintIn{Gels: []any{map[string]any{"gel": "ink black", "dose": 5.0}, map[string]any{"gel": "fern green", "dose": 4.0}}})
			return err
		}, fault.OutOfRange, "gels"},
		"a field of its own": {func() error {
			_, err := Curve(CurveIn{Colour: "#808080", Ceiling: map[string]any{"hex": "#FFFFFF", "shine": 1.0}})
			return err
		}, fault.Syntax, "ceiling.shine"},
		"a coat of dust": {func() error {
			_, err := Finish(FinishIn{Kind: new("petalDust"), Colour: "#808080", Coats: new(2)})
			return err
		}, fault.Contradiction, "coats"},
		"no swatch": {func() error { _, err := GelOf("green"); return err }, fault.Syntax, "swatch"},
	} {
		var f *fault.Fault
		if err := c.err(); !errors.As(err, &f) || f.Code != c.code || f.Field != c.field {
			t.Errorf("%s: %v", name, err)
		}
	}
}
