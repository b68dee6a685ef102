package studio_test

import (
	"fmt"
	"strings"
	"testing"

	"dustyfern/studio"
)

// TestFindingByName: every word is in the name, in any order; what is open comes first,
// what was taken away is not found, and no studio sees another's.
func TestFindingByName(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"name": "Oak leaves, large"})
	old := h.order(set{"title": "Leaf fair"})
	h.piece(old, m, set{"name": "Leaves of before"})
	h.ok(h.SetState(t.Context(), h.slug, old, "handedOver", true))
	gone := h.lot("Leaf green", "gel", "20 g", set{"swatch": "#5C9A58"})
	h.ok(h.Delete(t.Context(), h.slug, studio.KindLot, gone, false))
	find := func(text string) string {
		t.Helper()
		all, err := h.Find(t.Context(), h.slug, text)
		h.ok(err)
		var out []string
		for _, f := range all {
			if f.To == "" {
				t.Errorf("%+v leads nowhere", f)
			}
			out = append(out, f.Kind+" "+f.Name)
		}
		return strings.Join(out, "; ")
	}
	for text, want := range map[string]string{
		"large OAK": "piece Oak leaves, large",
		"flow":      "lot Flower",
		"lea":       "tool Leaf; piece Oak leaves, large; commission Leaf fair; piece Leaves of before",
		"":          "", "   ": "", "%": "", "_": "", "nowhere": "",
	} {
		if got := find(text); got != want {
			t.Errorf("%q: %s, want %s", text, got, want)
		}
	}
	for i := range 20 {
		h.lot(fmt.Sprintf("White %d", i), "sugarPaste", "1 kg", nil)
	}
	if got := find("white"); strings.Count(got, ";") != 11 {
		t.Errorf("no more than a screenful: %s", got)
	}
}
