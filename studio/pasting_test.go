package studio_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"dustyfern/craft/caution"
	"dustyfern/studio"
	"dustyfern/studio/work"
)

func near(a, b, within float64) bool { return math.Abs(a-b) <= within }

func TestTwoLotsOfOneNameAreKeptApart(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("White", "sugarPaste", "1 kg", nil)
	h.lot("White", "flowerPaste", "1 kg", nil)
	o := h.order(nil)
	p := h.piece(o, h.mould(nil), nil)
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	v := h.view(o, p)
	if len(v.Paste.Mix) != 2 {
		t.Fatalf("%+v", v.Paste.Mix)
	}
	// 1.6 lies half way between 0.4 and 2.8: equal grams of both
	if a, b := v.Paste.Mix[0].Grams.Value, v.Paste.Mix[1].Grams.Value; !near(a, b, 1e-6) || a < 10 {
		t.Errorf("%.3f g and %.3f g", a, b)
	}
}

func TestADoseGoesIntoThePlainPasteAtHand(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("Soft", "softSugarPaste", "1 kg", nil)
	h.lot("Flower", "flowerPaste", "500 g", nil)
	h.kitchen(set{"spoonGrams": "CMC 2.8 g"})
	o := h.order(nil)
	p := h.piece(o, h.mould(nil), nil)
	h.must(studio.KindPiece, p, set{"school": "modelling"})
	v := h.view(o, p)
	// one level teaspoon of 2.8 g in 237.5 g of paste of 0.25 % gum
	if want := (0.25 + 2.8/2.375) / (1 + 2.8/237.5); !near(v.Paste.Peg.Value, want, 1e-4) {
		t.Errorf("the middle dose in soft paste comes to %.4f, want %.4f", v.Paste.Peg.Value, want)
	}
	if g := grams(v); !near(g["hardener powder, CMC"]/g["Soft"], 2.8/237.5, 1e-6) {
		t.Errorf("%v", g)
	}
	h.lot("Plain", "sugarPaste", "1 kg", nil) // a firmer plain paste comes first
	if v = h.view(o, p); grams(v)["Plain"] == 0 || !near(v.Paste.Peg.Value, (0.40+2.8/2.375)/(1+2.8/237.5), 1e-4) {
		t.Errorf("%.4f of %v", v.Paste.Peg.Value, grams(v))
	}
	i := slices.IndexFunc(v.Paste.Schools, func(d work.DoseView) bool { return d.Chosen })
	if i < 0 || v.Paste.Schools[i].Code != "modelling" || !v.Paste.Schools[i].Usual {
		t.Errorf("%+v", v.Paste.Schools)
	}
	if !strings.Contains(v.Paste.Rest, "30 min") || !strings.Contains(v.Paste.Rest, "overnight") {
		t.Error(v.Paste.Rest)
	}
}

func TestAHeavyDoseIsShapedAtOnceAndWarnsPastItsLimit(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, set{"eaten": "shown"})
	h.must(studio.KindPiece, p, set{"school": "extra"})
	v := h.view(o, p)
	if !strings.Contains(v.Paste.Rest, "at once") {
		t.Error(v.Paste.Rest)
	}
	for _, s := range h.steps("rest") {
		t.Errorf("%s: a heavy dose does not rest", s.Title)
	}
	h.kitchen(set{"spoonGrams": "CMC 8 g"}) // a heaped spoon of one's own: 12 % and more
	v = h.view(o, p)
	i := slices.IndexFunc(v.Paste.Schools, func(d work.DoseView) bool { return d.Code == "extra" })
	if d := v.Paste.Schools[i]; !strings.Contains(d.Warning, "8 %") || d.Percent != "8 %" {
		t.Errorf("%q at %s", d.Warning, d.Percent)
	}
	if !slices.ContainsFunc(v.Cautions, func(c caution.Caution) bool { return strings.Contains(c.Say, "hard on teeth") }) {
		t.Errorf("%v", v.Cautions)
	}
}

func TestTheSmallestRemnantsStayAside(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	for i := range 8 {
		h.lot(fmt.Sprintf("Rest %d", i), "sugarPaste", fmt.Sprintf("%d g", 40+i), nil)
	}
	p := h.piece(o, m, nil)
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	v := h.view(o, p)
	if !has(v.Paste.Refused, "Rest 0 is left aside") || !has(v.Paste.Refused, "Rest 1 is left aside") || has(v.Paste.Refused, "Rest 2") {
		t.Errorf("%v", v.Paste.Refused)
	}
	if v.Paste.Short != "" {
		t.Error(v.Paste.Short)
	}
}

func TestWhatIsBoughtIsFreeOfTheAllergen(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.must(studio.KindCommission, o, set{"allergies": "egg"})
	p := h.piece(o, m, nil)
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	v := h.view(o, p)
	if !has(v.Paste.Refused, "Flower is left out: it holds egg") || !strings.Contains(v.Paste.Short, "flower paste, without egg on its label") {
		t.Errorf("%v; %s", v.Paste.Refused, v.Paste.Short)
	}
	h.kitchen(set{"rhPercent": "75 %"})
	if v = h.view(o, p); v.Dry.Never == "" || has(v.Dry.Help, "Flower paste instead") {
		t.Errorf("%s %v", v.Dry.Never, v.Dry.Help)
	}
}

// TestWhatIsThereIsFreeOfTheAllergen: a lot that somebody at the table must not
// have is not there for them, whatever the shelf holds; for others it is.
func TestWhatIsThereIsFreeOfTheAllergen(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("Nutty white", "sugarPaste", "2 kg", set{"holds": "nuts"})
	m, o := h.mould(nil), h.order(nil)
	p := h.piece(o, m, nil)
	h.must(studio.KindPiece, p, set{"peg": "0.4"})
	for allergies, short := range map[string]bool{"": false, "egg": false, "nuts": true} {
		h.must(studio.KindCommission, o, set{"allergies": allergies})
		needs, err := h.Needs(t.Context(), h.slug)
		h.ok(err)
		if got := len(needs.Shopping) > 0; got != short {
			t.Errorf("with %q at the table: to buy %+v", allergies, needs.Shopping)
		}
	}
}

func TestAnEmptyPantrySaysWhatToBuy(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	o := h.order(nil)
	p := h.piece(o, h.mould(nil), nil)
	if v := h.view(o, p); !strings.Contains(v.Paste.Short, "Buy ") || v.Paste.WindowSays == "" || len(v.Paste.Mix) != 0 {
		t.Errorf("%+v", v.Paste)
	}
	h.lot("A crumb", "sugarPaste", "5 g", nil)
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	v := h.view(o, p)
	if !strings.Contains(v.Paste.Short, "Buy") || !strings.Contains(v.Paste.Short, "flower paste") {
		t.Error(v.Paste.Short)
	}
	h.must(studio.KindPiece, p, set{"peg": "", "school": "light"})
	if v = h.view(o, p); !strings.Contains(v.Paste.Short, "short by") {
		t.Error(v.Paste.Short)
	}
	h.must(studio.KindPiece, p, set{"peg": "4", "school": ""})
	h.lot("Flower", "flowerPaste", "1 kg", nil)
	if v = h.view(o, p); !strings.Contains(v.Paste.Short, "there is only hardener") {
		t.Error(v.Paste.Short)
	}
}

func TestTheSqueezeGradeMovesALot(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	h.must(studio.KindPiece, p, set{"peg": "1.6"})
	before := grams(h.view(o, p))["Flower"]
	rows := h.lots()
	h.must(studio.KindLot, rows[0].ID, set{"grade": "1"}) // sticks and slumps: 0.25 less
	after := grams(h.view(o, p))["Flower"]
	if after <= before {
		t.Errorf("softer paste wants more flower paste: %.2f g, then %.2f g", before, after)
	}
	// by the mean: share f with 0.15 (1-f) + 2.8 f = 1.6
	v := h.view(o, p)
	sum := 0.0
	for _, g := range grams(v) {
		sum += g
	}
	if !near(after/sum, (1.6-0.15)/(2.8-0.15), 1e-6) {
		t.Errorf("share %.4f", after/sum)
	}
}

func TestChocolateDoughSetsInsteadOfDrying(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("Dark", "darkChocolate", "400 g", set{"holds": "milk, soya"})
	p := h.piece(o, m, nil)
	h.must(studio.KindPiece, p, set{"dough": "darkChocolate"})
	v := h.view(o, p)
	if !v.Dry.Sets || len(v.Paste.Schools) != 0 || grams(v)["Dark"] == 0 {
		t.Errorf("%+v %v", v.Dry, grams(v))
	}
	dry := h.steps("dry")
	if len(dry) != 1 || !strings.Contains(dry[0].Title, "set") {
		t.Fatalf("%+v", dry)
	}
	firm := v.Dry.Stages[1]
	if got := dry[0].End.Sub(dry[0].Start).Hours(); !near(got, firm.P90, 1.0/60+1e-9) {
		t.Errorf("planned for %.3f h, the slow end is %.3f", got, firm.P90)
	}
	// the slow end of the band is 1.57 times its middle
	if !near(firm.P90/firm.P50, 1.57, 1e-9) || !near(firm.P50/firm.P10, 1.57, 1e-9) {
		t.Errorf("%v %v %v", firm.P10, firm.P50, firm.P90)
	}
	h.kitchen(set{"tempC": "26 °C"})
	if v = h.view(o, p); !strings.Contains(v.Dry.Never, "too warm") || !has(v.Dry.Help, "20 °C") || !has(v.Dry.Notes, "sags") {
		t.Errorf("%s %v %v", v.Dry.Never, v.Dry.Help, v.Dry.Notes)
	}
	h.kitchen(set{"tempC": "20 °C"})
	h.must(studio.KindCommission, o, set{"allergies": "milk"}) // somebody tells late
	v = h.view(o, p)
	if len(v.Paste.Mix) != 0 || v.Paste.Short == "" || !strings.Contains(v.Paste.Doughs[0].Refused, "milk") {
		t.Errorf("%v %s %+v", v.Paste.Mix, v.Paste.Short, v.Paste.Doughs)
	}
	h.must(studio.KindPiece, p, set{"dough": ""})
	h.refused(h.set(studio.KindPiece, p, set{"dough": "darkChocolate"}), "dough", "milk")
}

func TestGelatineCountsWhenTheOrderSaysSo(t *testing.T) {
	t.Parallel()
	h := newHouse(t)
	h.lot("Marshmallow", "marshmallowPaste", "1 kg", set{"asks": "gelatine"})
	o := h.order(set{"without": "gelatine"})
	p := h.piece(o, h.mould(nil), nil)
	if v := h.view(o, p); !has(v.Paste.Refused, "gelatine") || len(v.Paste.Mix) != 0 {
		t.Errorf("%+v", v.Paste)
	}
	h.must(studio.KindCommission, o, set{"without": ""})
	if v := h.view(o, p); has(v.Paste.Refused, "gelatine") {
		t.Errorf("%v", v.Paste.Refused)
	}
}

func TestTheWindowFollowsTheTicks(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	p := h.piece(o, m, nil)
	for _, c := range []struct {
		say    string
		set    set
		from   float64
		demand string
	}{
		{"it carries another piece", set{"carries": "yes"}, 2.0, "carries another piece"},
		{"shown standing while it is soft", set{"carries": "no", "eaten": "shown", "stance": "upright", "heightMM": "60 mm", "joined": "semiDry"}, 1.8, "stands while still soft"},
		{"a former holds it up", set{"heldUp": "yes"}, 1.2, "stands while still soft"},
	} {
		h.must(studio.KindPiece, p, c.set)
		v := h.view(o, p)
		if !near(v.Paste.From, c.from, 1e-9) || !slices.ContainsFunc(v.Paste.Bars, func(b work.BarView) bool { return b.Say == c.demand && b.Hard }) {
			t.Errorf("%s: the window begins at %.2f, want %.2f: %+v", c.say, v.Paste.From, c.from, v.Paste.Bars)
		}
	}
	if v := h.view(o, p); !slices.ContainsFunc(v.Paste.Ways, func(w work.WayView) bool { return w.Applied && w.Set["heldUp"] == "no" }) {
		t.Errorf("holding it up cannot be taken back: %+v", v.Paste.Ways)
	}
}

func TestADeepMouldIsEasierChilled(t *testing.T) {
	t.Parallel()
	h, _, o := stocked(t)
	deep := h.mould(set{"name": "Owl", "shape": "dome", "depthMM": "25 mm"})
	p := h.piece(o, deep, set{"eaten": "shown"})
	if v := h.view(o, p); v.Paste.From != 2.4 || !has(v.Paste.Notes, "freezer") {
		t.Errorf("%v %v", v.Paste.From, v.Paste.Notes)
	}
	h.must(studio.KindPiece, p, set{"chill": "yes"})
	v := h.view(o, p)
	if v.Paste.From != 2.2 || len(v.Paste.Ways) != 1 || v.Paste.Ways[0].Set["chill"] != "no" {
		t.Errorf("%v %+v", v.Paste.From, v.Paste.Ways)
	}
	if len(v.Dry.Dew) == 0 {
		t.Error("chilled, it says when it is matt again")
	}
}

// TestChocolateIsJudgedOnce: in each room and stance Paste, Dry and the plan say the same
// of a piece of chocolate dough.
func TestChocolateIsJudgedOnce(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.lot("Dark", "darkChocolate", "400 g", nil)
	p := h.piece(o, m, nil)
	h.must(studio.KindPiece, p, set{"dough": "darkChocolate"})
	allowed := 0
	for _, temp := range []string{"18 °C", "20 °C", "21 °C", "23 °C", "24 °C", "26 °C"} {
		h.kitchen(set{"tempC": temp})
		for _, stands := range []set{{"stance": "lying", "heldUp": "no"}, {"stance": "upright", "heldUp": "no"}, {"stance": "upright", "heldUp": "yes"}} {
			h.must(studio.KindPiece, p, stands)
			v := h.view(o, p)
			refused := strings.HasPrefix(v.Paste.FatSet, "No chocolate dough")
			never := v.Dry.Never != ""
			planned := len(h.steps("press")) > 0
			if refused != never || refused == planned {
				t.Errorf("%s %v: paste %q, dry %q, planned %v", temp, stands, v.Paste.FatSet, v.Dry.Never, planned)
			}
			if !refused {
				allowed++
			} else if len(v.Dry.Help) == 0 || h.trouble("never") == nil {
				t.Errorf("%s %v: no help, or no trouble", temp, stands)
			}
		}
	}
	if allowed < 2 || allowed > 12 {
		t.Errorf("%d of 18 are allowed", allowed)
	}
}
