package work

import (
	"strings"
	"testing"

	"dustyfern/craft/colour"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

func means() *Means {
	k := noun.NewKitchen("Elm Bench")
	return &Means{Kitchen: &k, Reader: read.Reader{K: &k}}
}

// From a lightness of 94 on a wanted colour is white, and nothing goes in: #EEEEEE
// has 94.1, #EDEDED 93.8.
func TestFromWhereAColourIsWhite(t *testing.T) {
	for swatch, white := range map[string]bool{"#FFFFFF": true, "#EEEEEE": true, "#EDEDED": false, "#E8E0C8": false} {
		if IsWhite(swatch) != white {
			t.Errorf("%s: white %t", swatch, !white)
		}
	}
}

// A colour is settled while it is no farther off than the eye lets pass, by gels
// and by tubs alike.
func TestHowNearAColourIsNearEnough(t *testing.T) {
	for off, settled := range map[float64]bool{3.9: true, 4: true, 4.1: false} {
		gels := &Tint{way: FromGels, Parts: make([]gelPart, 1)}
		gels.out.De00 = off
		tubs := &Tint{way: FromLeftovers}
		tubs.tubs.Use, tubs.tubs.De00 = make([]colour.LeftoverUse, 1), off
		if gels.Settled() != settled || tubs.Settled() != settled {
			t.Errorf("%.1f off: by gels %t, by tubs %t, want %t", off, gels.Settled(), tubs.Settled(), settled)
		}
		tubs.tubs.Short = true
		if tubs.Settled() {
			t.Error("tubs that do not reach settle nothing")
		}
	}
	if !(&Tint{way: FromNothing}).Settled() || (*Tint)(nil).Settled() {
		t.Error("paste as it is is settled, a colour that nobody reckoned is not")
	}
}

// Who keeps leftovers apart is offered a tub of that very colour only; who balls
// them none; everybody else what is near.
func TestWhoIsOfferedTubs(t *testing.T) {
	b := means()
	for _, c := range []struct {
		side     string
		coloured int
		off      float64
		offered  bool
	}{
		{"kept", 1, 2, true}, {"kept", 1, 2.1, false}, {"kept", 2, 0.5, false}, {"balled", 1, 0, false}, {"", 3, 6, true},
	} {
		b.Kitchen.Sides = noun.Sides{"leftovers": c.side}
		if b.offersTubs(c.coloured, c.off) != c.offered {
			t.Errorf("%q with %d coloured tubs, %.1f off: offered %t", c.side, c.coloured, c.off, !c.offered)
		}
	}
}

// Half a gram of metal powder in one part of spirit takes 0.5 g of it, 25 drops of
// a fiftieth of a gram.
func TestPaintIsThinnedByDrops(t *testing.T) {
	swatch := "#C9A227"
	for parts, drops := range map[float64]string{1: "about 25 drops", 2: "about 50 drops"} {
		f, err := means().Finish(&noun.Lot{Row: noun.Row{ID: 1}, Name: "Old gold", Kind: "metalPowder", Swatch: &swatch}, &parts, baseOf("sugarPaste"), 1, 1)
		if err != nil || !strings.Contains(f.Mix, drops) {
			t.Errorf("%.0f parts: %q %v", parts, f.Mix, err)
		}
	}
}
