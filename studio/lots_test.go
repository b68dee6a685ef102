package studio_test

import (
	"fmt"
	"math"
	"strings"
	"testing"
	"time"

	"dustyfern/studio/pantry"
)

func (h *house) kitchenVersion() int64 {
	k, err := h.Kitchen(h.t.Context(), h.slug)
	h.ok(err)
	return k.Row.Version
}

func TestALotLearnsSlowlyAndWithACap(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	white := h.lot("White", "sugarPaste", "1 kg", set{"grade": "2"})
	dough := h.lot("Dough", "darkChocolate", "1 kg", nil)
	at := func() float64 { return h.tub("White").Strength.Figure.Value }
	if !near(at(), 0.30, 1e-9) {
		t.Fatalf("grade 2 is a tenth less: %.3f", at())
	}
	for i := range 8 {
		h.ok(h.Feel(t.Context(), h.slug, white, "stretched"))
		if want := math.Max(0, 0.30-math.Min(0.3, 0.05*float64(i+1))); !near(at(), want, 1e-9) {
			t.Errorf("after %d reports %.3f, not %.3f", i+1, at(), want)
		}
	}
	h.ok(h.Feel(t.Context(), h.slug, white, "cracked"))
	v := h.tub("White").Strength
	if len(v.History) != 10 || !strings.Contains(v.History[0], "cracked") || !strings.Contains(v.History[9], "squeeze grade 2") {
		t.Errorf("%q", v.History)
	}
	h.refused(h.Feel(t.Context(), h.slug, white, "sang"), "feel", "stretched")
	h.refused(h.Feel(t.Context(), h.slug, dough, "cracked"), "feel", "gum strength")
	if h.tub("Dough").Strength != nil {
		t.Error("chocolate dough has no gum")
	}
}

// TestLotsGrowOld: on the last day of its time a lot is as good as new, on the
// next it is used first; so at a date that is printed on it.
func TestLotsGrowOld(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	for _, c := range []struct {
		kind string
		days int
		old  bool
	}{
		{"sugarPaste", 42, false}, {"sugarPaste", 43, true}, {"flowerPaste", 42, false}, {"flowerPaste", 43, true},
		{"darkChocolate", 7, false}, {"darkChocolate", 8, true}, {"marzipan", 8, false}, {"cmc", 400, false},
	} {
		name := fmt.Sprint(c.kind, " ", c.days)
		h.lot(name, c.kind, "100 g", set{"openedOn": h.now.AddDate(0, 0, -c.days).Format(time.DateOnly)})
		if got := h.onShelf(name); got.Old != c.old {
			t.Errorf("%s after %d days: %q, old %t", c.kind, c.days, got.Ages, got.Old)
		}
	}
	for days, old := range map[int]bool{21: false, 22: true} { // what is left of a mix keeps half as long
		name := fmt.Sprint("left over for ", days)
		h.lot(name, "sugarPaste", "100 g", set{"leftover": "yes", "openedOn": h.now.AddDate(0, 0, -days).Format(time.DateOnly)})
		if got := h.onShelf(name); got.Old != old {
			t.Errorf("%s: %q, old %t", name, got.Ages, got.Old)
		}
	}
	for days, old := range map[int]bool{14: true, 15: false, -1: true} {
		name := fmt.Sprint("best in ", days)
		h.lot(name, "sugarPaste", "100 g", set{"bestBefore": h.now.AddDate(0, 0, days).Format(time.DateOnly)})
		if got := h.onShelf(name); got.Old != old {
			t.Errorf("%d days before its date: %q, old %t", days, got.Ages, got.Old)
		}
	}
}

func TestARescueBalancesItsGum(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("White", "sugarPaste", "1 kg", nil)
	h.lot("Moulding", "mouldingReadyPaste", "200 g", set{"grade": "1"}) // 0.65
	v := h.tub("Moulding").Strength
	if !near(v.Figure.Value, 0.65, 1e-9) {
		t.Fatal(v.Figure)
	}
	soft := v.Rescue[0]
	p := soft.Doses[0].Value
	if got := (0.65*200 + 100*p) / (200 + p); !near(got, 0.90, 1e-6) {
		t.Errorf("%.3f g of powder make %.3f %%", p, got)
	}
	var over pantry.Rescue
	for _, r := range v.Rescue {
		if strings.HasPrefix(r.Say, "Over-dosed") {
			over = r
		}
	}
	g := over.Doses[0].Value // from 1.65 to 0.9 with white at 0.4
	if got := (1.65*200 + 0.4*g) / (200 + g); !near(got, 0.90, 1e-6) {
		t.Errorf("%.1f g of plain make %.3f %%", g, got)
	}
}
