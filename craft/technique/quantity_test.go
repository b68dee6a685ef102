package technique

import (
	"errors"
	"testing"

	"dustyfern/craft/fault"
)

// TestAnAnswerIsKept: what was asked before is not reckoned anew, what was refused is, and no
// more is kept than is bounded.
func TestAnAnswerIsKept(t *testing.T) {
	asked := 0
	type in struct {
		X float64 `json:"x"`
	}
	type out struct {
		Twice float64 `json:"twice"`
		Says  string  `json:"says"`
	}
	ask := quantity(func(q in) (out, error) {
		asked++
		if q.X < 0 {
			return out{}, fault.New(fault.OutOfRange, "x", "0 or more.")
		}
		return out{Twice: 2 * q.X, Says: "so"}, nil
	})
	for range 3 {
		got, err := ask(map[string]any{"x": 4.0})
		if err != nil || got["twice"] != 8 || len(got) != 1 {
			t.Fatalf("%v %v", got, err)
		}
	}
	if asked != 1 {
		t.Errorf("the same was reckoned %d times", asked)
	}
	for range 2 {
		var f *fault.Fault
		if _, err := ask(map[string]any{"x": -1.0}); !errors.As(err, &f) || f.Field != "x" {
			t.Errorf("%v", err)
		}
	}
	if asked != 3 {
		t.Errorf("a refusal was kept: asked %d times", asked)
	}
	for i := range mostAnswered + 10 {
		if got, err := ask(map[string]any{"x": float64(i)}); err != nil || got["twice"] != float64(2*i) {
			t.Fatalf("%d: %v %v", i, got, err)
		}
	}
	if got, err := ask(map[string]any{"x": 1.0, "y": "torn"}); err != nil || got["twice"] != 2 {
		t.Errorf("%v %v", got, err)
	}
	if _, err := ask(map[string]any{"x": "no number"}); err == nil {
		t.Error("a word was taken for a number")
	}
}
