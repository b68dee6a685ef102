package paste

import "testing"

// A ready paste is taken when it lies a little below what is wanted or up to a
// shade above it; one's own dose goes no further than the paste holds together.
func TestHowFarAReadyPasteMayLie(t *testing.T) {
	for _, c := range []struct {
		e    float64
		have []string
		way  string // "" = nothing that is there serves
	}{
		{1.00, []string{"mouldingReadyPaste"}, "mouldingReadyPaste"}, // 0.9: a tenth below
		{1.01, []string{"mouldingReadyPaste"}, ""},
		{1.00, []string{"halfAndHalf"}, "halfAndHalf"}, // 1.6: six tenths above
		{0.99, []string{"halfAndHalf"}, ""},
		{6.91, []string{"sugarPaste", "hardener"}, "hardener"}, // 6.99 % of the plain paste
		{6.93, []string{"sugarPaste", "hardener"}, ""},         // 7.02 %
	} {
		s := span{e: c.e, floor: 0, top: 10, plain: PlainStrength}
		w, ok := s.way(here(c.have))
		if ok != (c.way != "") || ok && w.Way != c.way {
			t.Errorf("%.2f %% with %v: %q %t, want %q", c.e, c.have, w.Way, ok, c.way)
		}
	}
}
