package studio

import (
	"fmt"
	"math"
	"slices"
	"sync"

	"dustyfern/craft/caution"
	"dustyfern/craft/colour"
	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// How a piece comes to its colour.
const (
	fromGels      = "gels"
	fromLeftovers = "leftovers"
	fromNothing   = "asItIs"
)

// baseOf a kind of paste; half-and-half is mixed of its halves, what the shelf
// does not know counts as sugar paste.
func baseOf(kind string) colour.Paste {
	if kind == "halfAndHalf" {
		return colour.Blend([]colour.Paste{baseOf("sugarPaste"), baseOf("flowerPaste")}, []float64{1, 1})
	}
	k, ok := paste.KindOf(kind)
	if !ok {
		k, _ = paste.KindOf("sugarPaste")
	}
	p, _ := colour.BaseOf(k.Base)
	return p
}

// pasteOfLot is a lot as colour sees it.
func pasteOfLot(l *noun.Lot) colour.Paste {
	if l.Swatch != nil {
		if p, err := colour.PasteOf(*l.Swatch); err == nil {
			return p
		}
	}
	return baseOf(l.Kind)
}

func isWhite(swatch string) bool {
	l, err := colour.Lightness(swatch)
	return err == nil && l >= colour.WhiteFrom
}

// tint is how a piece gets its colour.
type tint struct {
	way     string
	base    colour.Paste
	baseSay string
	gels    []*noun.Lot
	out     colour.RecipeOut
	parts   []gelPart
	tubs    colour.LeftoversOut
	grams   float64 // that are coloured
	plain   float64 // that stay plain beside them, of a part-mixed piece
	rested  colour.Paste
	fresh   colour.Paste
	say     string // why there is none
	missing string // gels that were chosen and are gone
}

// settled tells whether it is known how the colour comes about.
func (t *tint) settled() bool {
	switch {
	case t == nil || t.missing != "":
		return false
	case t.way == fromNothing:
		return true
	case t.way == fromLeftovers:
		return len(t.tubs.Use) > 0 && !t.tubs.Short && t.tubs.De00 <= colour.NearEnough
	}
	return len(t.parts) > 0 && t.out.De00 <= colour.NearEnough
}

type gelPart struct {
	lot   *noun.Lot
	dose  float64
	grams float64
}

// gelOfLot is a bottle as colour sees it.
func gelOfLot(l *noun.Lot) (colour.Gel, error) {
	g, err := colour.GelOf(*l.Swatch)
	if err != nil {
		return g, err
	}
	deepening, half := 0.0, 3.0
	if l.Deepening != nil {
		deepening = *l.Deepening
	}
	if l.HalfTimeHours != nil {
		half = *l.HalfTimeHours
	}
	mean, _, _ := l.Ratio()
	return g.Named(l.GelName(), mean, deepening, half), nil
}

// lotName is what a lot is called, also one that is used up.
func (b *benchOf) lotName(id int64) string {
	for _, l := range slices.Concat(b.lots, b.away) {
		if l.ID == id {
			return l.Name
		}
	}
	return "A gel that was chosen"
}

// gelLots are the bottles that may go into what a commission eats.
func (b *benchOf) gelLots(c *noun.Commission) (out []*noun.Lot, refused []string) {
	for i := range b.lots {
		l := &b.lots[i]
		if l.Kind != "gel" || l.Swatch == nil {
			continue
		}
		if met := caution.Meets(l.Allergens, c.Allergies, c.NoGelatine); len(met) > 0 {
			refused = append(refused, fmt.Sprintf("%s is left out: it holds %s.", l.Name, read.List(met)))
			continue
		}
		if len(out) < 20 {
			out = append(out, l)
		}
	}
	return out, refused
}

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

// recipe of a target in a base from these bottles: doses, whatever the batch.
func (b *benchOf) recipe(target string, base colour.Paste, lots []*noun.Lot) (colour.RecipeOut, error) {
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

// tubsFor are the leftovers that may go into a piece, and fresh white to let
// them down with.
func (b *benchOf) tubsFor(w *worked) (lots []*noun.Lot, stock []colour.Leftover) {
	for i := range b.lots {
		l := &b.lots[i]
		if has := b.there(w, l); l.Sugar() && l.Swatch != nil && has >= 0.5 && (l.Grade == nil || *l.Grade != 5) && len(caution.Meets(l.Allergens, w.c.Allergies, w.c.NoGelatine)) == 0 && len(lots) < 14 {
			lots = append(lots, l)
			stock = append(stock, colour.Leftover{Name: new(fmt.Sprint(l.ID)), Paste: pasteOfLot(l), MassG: &has})
		}
	}
	if l := w.plainLot; l != nil {
		has := math.Min(b.there(w, l), 50000)
		lots = append(lots, l)
		stock = append(stock, colour.Leftover{Name: new(fmt.Sprint(l.ID)), Paste: pasteOfLot(l), MassG: &has, Fresh: new(true)})
	}
	return lots, stock
}

func (b *benchOf) leftovers(target string, grams float64, lots []*noun.Lot, stock []colour.Leftover) (colour.LeftoversOut, error) {
	key := fmt.Sprintf("tubs|%s|%.3f", target, grams)
	for i, l := range lots {
		key += fmt.Sprintf("|%d %s %s %.3f", l.ID, l.Kind, orEmpty(l.Swatch), *stock[i].MassG)
	}
	return once(key, func() (colour.LeftoversOut, error) {
		return colour.Leftovers(colour.LeftoversIn{Target: target, MassG: &grams, Stock: stock})
	})
}

func orEmpty(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}

// colour settles how a piece gets its colour, after its paste is settled.
func (b *benchOf) colour(w *worked) {
	p := w.p
	t := &tint{way: p.ColourFrom, grams: w.batch.PasteG}
	w.tint = t
	if len(w.uses) == 0 {
		t.say = "Its paste is not settled yet."
		return
	}
	var ps []colour.Paste
	var grams []float64
	var names []string
	for _, u := range w.uses {
		x := baseOf("sugarPaste")
		name := "sugar paste"
		if u.lot != nil {
			x, name = baseOf(u.lot.Kind), read.PasteName(u.lot.Kind)
		}
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
		ps, grams = append(ps, x), append(grams, u.g)
	}
	t.base, t.baseSay = colour.Blend(ps, grams), b.r.Say("white "+read.List(names))
	if p.Dough != "" && p.Dough != "whiteChocolate" {
		t.baseSay = b.r.Say(read.PasteName(p.Dough))
	}
	t.rested, t.fresh = t.base, t.base
	if t.way == "" {
		t.way = fromGels
		if isWhite(p.Swatch) {
			t.way = fromNothing
		}
	}
	if p.Marbled && t.way == fromGels {
		t.plain = t.grams * colour.Rope.Share
		t.grams -= t.plain
	}
	switch t.way {
	case fromNothing:
		t.say = "The paste stays as it is."
	case fromLeftovers:
		b.fromTubs(w, t)
	default:
		b.fromBottles(w, t)
	}
}

func (b *benchOf) fromBottles(w *worked, t *tint) {
	lots, _ := b.gelLots(w.c)
	lots = slices.DeleteFunc(lots, func(l *noun.Lot) bool { return b.there(w, l) <= 0 })
	if len(w.p.GelLots) > 0 {
		var few []*noun.Lot
		for _, id := range w.p.GelLots {
			if i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return l.ID == id }); i >= 0 {
				few = append(few, lots[i])
			} else {
				t.missing = b.lotName(id) + " is no longer in the pantry: the best of what is there is taken."
			}
		}
		if t.missing == "" {
			lots = few
		}
	}
	if len(lots) == 0 {
		t.say = "There is no gel in the pantry that may go in."
		return
	}
	out, err := b.recipe(w.p.Swatch, t.base, lots)
	if err != nil {
		t.say = sentence(err)
		return
	}
	t.out, t.gels = out, lots
	var gels []colour.Gel
	var doses []float64
	for _, x := range out.Gels {
		i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return l.GelName() == x.Gel })
		g, err := gelOfLot(lots[i])
		if err != nil {
			continue
		}
		gels, doses = append(gels, g), append(doses, x.Dose)
		t.parts = append(t.parts, gelPart{lots[i], x.Dose, x.Dose * t.grams / 100})
		w.adds = append(w.adds, mixPart{lot: lots[i], name: lots[i].Name, g: x.Dose * t.grams / 100})
	}
	t.rested, t.fresh = colour.Tinted(t.base, gels, doses, -1), colour.Tinted(t.base, gels, doses, 0)
}

// fromTubs kneads the piece from leftovers; powder brings them to the strength
// that it wants.
func (b *benchOf) fromTubs(w *worked, t *tint) {
	if t.grams <= 0 {
		t.say = "The grams follow when one piece is weighed."
		return
	}
	lots, stock := b.tubsFor(w)
	if len(stock) == 0 {
		t.say = "There is no tub that may go in."
		return
	}
	out, err := b.leftovers(w.p.Swatch, t.grams, lots, stock)
	if err != nil {
		t.say = sentence(err)
		return
	}
	t.tubs = out
	w.uses, w.adds = nil, nil
	gum, total := 0.0, 0.0
	var ps []colour.Paste
	var grams []float64
	for _, u := range out.Use {
		i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return fmt.Sprint(l.ID) == u.Name })
		w.uses = append(w.uses, mixPart{lot: lots[i], name: lots[i].Name, g: u.MassG})
		gum, total = gum+lotStrength(lots[i])*u.MassG, total+u.MassG
		ps, grams = append(ps, pasteOfLot(lots[i])), append(grams, u.MassG)
	}
	t.rested = colour.Blend(ps, grams)
	t.fresh = t.rested
	v := w.view.Paste
	v.Mix = []MixView{}
	b.mixViews(w, v, total)
	v.Short = ""
	if out.Short {
		v.Short = fmt.Sprintf("The tubs hold %s of the %s.", b.r.Mass(out.MadeG), b.r.Mass(t.grams))
	}
	have := gum / total
	if have+0.05 < w.strength {
		if d, err := paste.Dose(paste.DoseIn{MassG: &total, HavePercent: &have, WantPercent: &w.strength, Powder: &b.k.Powder}); err == nil {
			w.adds = append(w.adds, b.powder(d.AddPowderG))
			v.Mix = append(v.Mix, MixView{Name: b.r.Say("hardener powder, " + read.PowderNames[b.k.Powder]), Note: b.spoonsSay(b.k.Powder, d.AddPowderG) + "; brings the tubs to the strength of the peg", Grams: noun.Figure{d.AddPowderG, "g", read.Trimmed(math.Max(d.AddPowderG, 0.01), 2) + " g", doseOf(total, have, w.strength, d.AddPowderG)}})
			w.rest = max(w.rest, 30)
			v.Rest = "Knead warm together, then 30 min in a bag."
		}
	}
	w.family = familyOf(w.uses, w.strength)
}

// fineDecimals of grams that are weighed on a fine scale.
func fineDecimals(g float64) int {
	if g < 1 {
		return 3
	}
	return 2
}

// drops says gel as a kitchen counts it.
func (b *benchOf) drops(l *noun.Lot, g float64) string {
	drop := b.k.DropG
	if l != nil && l.DropG != nil {
		drop = *l.DropG
	}
	out, err := colour.Kitchen(colour.KitchenIn{GelG: &g, DropG: &drop, DabG: &b.k.DabG})
	if err != nil {
		return ""
	}
	if out.MotherUseG != nil {
		return fmt.Sprintf("less than a dab: knead 1 dab into %s of base and use %s of that", measure.FormatMass(*out.MotherBaseG), read.Trimmed(*out.MotherUseG, 1)+" g")
	}
	var parts []string
	if out.Drops > 0 {
		parts = append(parts, count(out.Drops, "drop"))
	}
	if out.Dabs > 0 {
		parts = append(parts, count(out.Dabs, "dab"))
	}
	if len(parts) == 0 {
		return "a trace"
	}
	return read.List(parts)
}

// apart says a difference in words.
func apart(de float64) string {
	switch {
	case de < 1:
		return "no eye tells them apart"
	case de < 2:
		return "seen only side by side"
	case de < 4:
		return "a near match"
	case de < 8:
		return "seen at once"
	}
	return "another colour"
}

// bandOf a recipe: how far the paste may be from what is predicted, CIEDE2000.
// It narrows with the mixes that its bottles were calibrated with (assumed).
func bandOf(parts []gelPart) float64 {
	const first, least = 3.0, 1.0
	band := 0.0
	for _, p := range parts {
		_, _, n := p.lot.Ratio()
		band = math.Max(band, math.Max(least, first/math.Sqrt(1+float64(n))))
	}
	return band
}
