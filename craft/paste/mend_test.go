package paste

import (
	"math"
	"testing"
)

// A remedy gives back the strength it promises: gum is conserved.
func TestRemediesBalanceTheirGum(t *testing.T) {
	remedy := func(base, have, plain float64, code string) *Remedy {
		t.Helper()
		for _, r := range Remedies(200, base, have, "cmc", plain) {
			if r.Code == code {
				return &r
			}
		}
		return nil
	}
	p := remedy(0.90, 0.65, 0.40, "tooSoft").Additions[0].G
	if got := (0.65*200 + 100*p) / (200 + p); math.Abs(got-0.90) > 1e-6 {
		t.Errorf("%.3f g of powder make %.3f %%, want 0.90", p, got)
	}
	// a lot as strong as it should be still gets a little more when it feels soft
	p = remedy(0.90, 0.90, 0.40, "tooSoft").Additions[0].G
	if got := (0.90*200 + 100*p) / (200 + p); math.Abs(got-1.00) > 1e-6 {
		t.Errorf("%.3f g of powder make %.3f %%, want 1.00", p, got)
	}
	g := remedy(0.90, 0.65, 0.40, "overDosed").Additions[0].G
	if got := (1.65*200 + 0.40*g) / (200 + g); math.Abs(got-0.90) > 1e-6 {
		t.Errorf("%.1f g of plain make %.3f %%, want 0.90", g, got)
	}
	// plain paste cannot bring plain paste all the way back: half of the way
	g = remedy(0.40, 0.40, 0.40, "overDosed").Additions[0].G
	if got := (1.40*200 + 0.40*g) / (200 + g); math.Abs(got-0.90) > 1e-6 {
		t.Errorf("%.1f g of plain make %.3f %%, want 0.90", g, got)
	}
	// thinning with a paste that is as strong does nothing: not offered from 0.05 % on
	if r := remedy(0.40, 0.30, 1.25, "overDosed"); r != nil {
		t.Errorf("thinned with a paste that is as strong: %+v", r)
	}
	if r := remedy(0.40, 0.30, 1.24, "overDosed"); r == nil {
		t.Error("0.06 % above the plain paste can still be thinned")
	}
	// a dry paste is not a stiff one: twice the fat, and water, which a stiff one never gets
	dry, stiff := remedy(0.40, 0.40, 0.40, "dry"), remedy(0.40, 0.40, 0.40, "tooStiff")
	if dry.Additions[0].G != 2 || dry.Additions[1].What != "water" || dry.Additions[1].G != 4 || len(stiff.Additions) != 1 || stiff.Additions[0].G != 1 {
		t.Errorf("for 200 g: dry %+v, stiff %+v", dry.Additions, stiff.Additions)
	}
}
