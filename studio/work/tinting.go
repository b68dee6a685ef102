package work

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/colour"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// How a piece comes to its colour.
const (
	FromGels      = "gels"
	FromLeftovers = "leftovers"
	FromNothing   = noun.AsItComes
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

// PasteOfLot is a lot as colour sees it.
func PasteOfLot(l *noun.Lot) colour.Paste {
	if l.Swatch != nil {
		if p, err := colour.PasteOf(*l.Swatch); err == nil {
			return p
		}
	}
	return baseOf(l.Kind)
}

// IsWhite tells whether a swatch is so light that nothing goes in.
func IsWhite(swatch string) bool {
	l, err := colour.Lightness(swatch)
	return err == nil && l >= colour.WhiteFrom
}

// Tint is how a piece gets its colour.
type Tint struct {
	way     string
	base    colour.Paste
	BaseSay string
	gels    []*noun.Lot
	out     colour.RecipeOut
	Parts   []gelPart
	tubs    colour.LeftoversOut
	grams   float64 // that are coloured
	Plain   float64 // that stay plain beside them, of a part-mixed piece
	name    string  // of this colour
	swatch  string
	share   float64 // of the piece's paste
	strands []*Tint // what is half kneaded in beside it
	rested  colour.Paste
	fresh   colour.Paste
	say     string // why there is none
	missing string // gels that were chosen and are gone
}

// Settled tells whether it is known how the colour comes about.
func (t *Tint) Settled() bool {
	switch {
	case t == nil || t.missing != "":
		return false
	case slices.ContainsFunc(t.strands, func(s *Tint) bool { return !s.Settled() }):
		return false
	case t.way == FromNothing:
		return true
	case t.way == FromLeftovers:
		return len(t.tubs.Use) > 0 && !t.tubs.Short && t.tubs.De00 <= colour.NearEnough
	}
	return (len(t.Parts) > 0 || t.out.Hands != nil) && off(t.out) <= colour.NearEnough
}

type gelPart struct {
	Lot   *noun.Lot
	dose  float64
	Grams float64
	Say   string // as hands do it
}

// handsOf a recipe: what hands make of it; where no grams are known yet its doses, for
// 100 g.
func handsOf(out colour.RecipeOut, grams float64) []colour.HandsGel {
	if out.Hands != nil {
		return out.Hands.Gels
	}
	list := []colour.HandsGel{}
	for _, x := range out.Gels {
		g := x.Dose
		if grams > 0 {
			g = x.Dose * grams / 100
		}
		list = append(list, colour.HandsGel{Gel: x.Gel, Way: "drops", GotG: g})
	}
	return list
}

// needOf a gel: what must be there of it; of a mother paste its whole dab.
func needOf(out colour.RecipeOut, x colour.HandsGel) float64 {
	if out.Hands != nil {
		for _, n := range out.Hands.GelNeeds {
			if n.Gel == x.Gel {
				return n.MassG
			}
		}
	}
	return x.GotG
}

// off is how far a recipe ends from what is wanted, as it is made.
func off(out colour.RecipeOut) float64 {
	if out.Hands != nil {
		return out.Hands.De00
	}
	return out.De00
}

// moreBase adds grams to the paste that there is most of.
func (w *Reckoned) moreBase(g float64) {
	most := -1
	for i := range w.Uses {
		if most < 0 || w.Uses[i].Grams > w.Uses[most].Grams {
			most = i
		}
	}
	if most >= 0 {
		w.Uses[most].Grams += g
	}
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
func (b *Means) lotName(id int64) string {
	for _, l := range slices.Concat(b.Lots, b.Away) {
		if l.ID == id {
			return l.Name
		}
	}
	return "A gel that was chosen"
}

// GelLots are the bottles that may go into what a commission eats.
func (b *Means) GelLots(c *noun.Commission) (out []*noun.Lot, refused []string) {
	for i := range b.Lots {
		l := &b.Lots[i]
		if l.Kind != "gel" || l.Swatch == nil {
			continue
		}
		if met := c.Refuses(l); len(met) > 0 {
			refused = append(refused, fmt.Sprintf("%s is left out: it holds %s.", l.Name, read.List(met)))
			continue
		}
		if len(out) < 20 {
			out = append(out, l)
		}
	}
	return out, refused
}

// tubsFor are the leftovers that may go into a piece, and fresh white to let
// them down with.
func (b *Means) tubsFor(w *Reckoned) (lots []*noun.Lot, stock []colour.Leftover) {
	for i := range b.Lots {
		l := &b.Lots[i]
		if has := b.there(w, l); l.Sugar() && l.Swatch != nil && has >= 0.5 && (l.Grade == nil || *l.Grade != 5) && len(w.order.Refuses(l)) == 0 && len(lots) < 14 {
			lots = append(lots, l)
			stock = append(stock, colour.Leftover{Name: new(fmt.Sprint(l.ID)), Paste: PasteOfLot(l), MassG: &has})
		}
	}
	if l := w.plainLot; l != nil {
		has := math.Min(b.there(w, l), 50000)
		lots = append(lots, l)
		stock = append(stock, colour.Leftover{Name: new(fmt.Sprint(l.ID)), Paste: PasteOfLot(l), MassG: &has, Fresh: new(true)})
	}
	return lots, stock
}

func (b *Means) leftovers(target string, grams float64, lots []*noun.Lot, stock []colour.Leftover) (colour.LeftoversOut, error) {
	key := fmt.Sprintf("tubs|%s|%.3f", target, grams)
	for i, l := range lots {
		key += fmt.Sprintf("|%d %s %s %.3f", l.ID, l.Kind, OrEmpty(l.Swatch), *stock[i].MassG)
	}
	return once(key, func() (colour.LeftoversOut, error) {
		return colour.Leftovers(colour.LeftoversIn{Target: target, MassG: &grams, Stock: stock})
	})
}

// OrEmpty is a text that may be missing.
func OrEmpty(s *string) string {
	if s == nil {
		return ""
	}
	return *s
}

// colour settles how a piece gets its colour, after its paste is settled.
func (b *Means) colour(w *Reckoned) {
	p := w.Piece
	t := &Tint{way: p.ColourFrom, grams: w.Batch.PasteG, name: p.Colour, swatch: p.Swatch, share: 1}
	w.Tint = t
	if len(w.Uses) == 0 {
		t.say = "Its paste is not settled yet."
		return
	}
	var ps []colour.Paste
	var grams []float64
	var names []string
	for _, u := range w.Uses {
		x := baseOf("sugarPaste")
		name := "sugar paste"
		if u.Lot != nil {
			x, name = baseOf(u.Lot.Kind), read.PasteName(u.Lot.Kind)
		}
		if !slices.Contains(names, name) {
			names = append(names, name)
		}
		ps, grams = append(ps, x), append(grams, u.Grams)
	}
	t.base, t.BaseSay = colour.Blend(ps, grams), b.Reader.Say("white "+read.List(names))
	if p.Dough != "" && p.Dough != "whiteChocolate" {
		t.BaseSay = b.Reader.Say(read.PasteName(p.Dough))
	}
	t.rested, t.fresh = t.base, t.base
	if t.way == "" {
		t.way = FromGels
		if IsWhite(p.Swatch) {
			t.way = FromNothing
		}
	}
	colours := slices.ContainsFunc(p.Strands, func(s noun.Strand) bool { return s.Swatch != "" && !IsWhite(s.Swatch) })
	if t.way == FromGels || t.way == FromNothing && colours {
		t.lay(p.Strands)
	}
	switch t.way {
	case FromNothing:
		t.say = "The paste stays as it is."
	case FromLeftovers:
		b.fromTubs(w, t)
	default:
		b.fromBottles(w, t, p.GelLots)
	}
	for _, s := range t.strands {
		if s.way == FromGels {
			b.fromBottles(w, s, nil)
		}
	}
}

// fromBottles colours a paste with gels: with those that were chosen, else the best set.
func (b *Means) fromBottles(w *Reckoned, t *Tint, chosen []int64) {
	lots, _ := b.GelLots(w.order)
	lots = slices.DeleteFunc(lots, func(l *noun.Lot) bool { return b.there(w, l) <= 0 })
	if len(chosen) > 0 {
		var few []*noun.Lot
		for _, id := range chosen {
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
	out, err := b.Recipe(t.swatch, t.base, lots, t.grams)
	if err != nil {
		t.say = Sentence(err)
		return
	}
	t.out, t.gels = out, lots
	var gels []colour.Gel
	var doses []float64
	for _, x := range handsOf(out, t.grams) {
		i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return l.GelName() == x.Gel })
		g, err := gelOfLot(lots[i])
		if err != nil {
			continue
		}
		dose := x.GotG
		if t.grams > 0 {
			dose = 100 * x.GotG / t.grams
		}
		gels, doses = append(gels, g), append(doses, dose)
		t.Parts = append(t.Parts, gelPart{lots[i], dose, x.GotG, x.Text})
		w.Adds = append(w.Adds, MixPart{Lot: lots[i], Name: lots[i].Name, Grams: needOf(out, x)})
	}
	if h := out.Hands; h != nil && h.BaseNeedG > t.grams {
		w.moreBase(h.BaseNeedG - t.grams) // what the mother pastes are mixed in
	}
	t.rested, t.fresh = colour.Tinted(t.base, gels, doses, -1), colour.Tinted(t.base, gels, doses, 0)
}

// fromTubs kneads the piece from leftovers; powder brings them to the strength
// that it wants.
func (b *Means) fromTubs(w *Reckoned, t *Tint) {
	if t.grams <= 0 {
		t.say = "The grams follow when one piece is weighed."
		return
	}
	lots, stock := b.tubsFor(w)
	if len(stock) == 0 {
		t.say = "There is no tub that may go in."
		return
	}
	out, err := b.leftovers(w.Piece.Swatch, t.grams, lots, stock)
	if err != nil {
		t.say = Sentence(err)
		return
	}
	t.tubs = out
	w.Uses, w.Adds = nil, nil
	gum, total := 0.0, 0.0
	var ps []colour.Paste
	var grams []float64
	for _, u := range out.Use {
		i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return fmt.Sprint(l.ID) == u.Name })
		w.Uses = append(w.Uses, MixPart{Lot: lots[i], Name: lots[i].Name, Grams: u.MassG})
		gum, total = gum+LotStrength(lots[i])*u.MassG, total+u.MassG
		ps, grams = append(ps, PasteOfLot(lots[i])), append(grams, u.MassG)
	}
	t.rested = colour.Blend(ps, grams)
	t.fresh = t.rested
	v := w.View.Paste
	v.Mix = []MixView{}
	b.mixViews(w, v, total)
	v.Short = ""
	if out.Short {
		v.Short = fmt.Sprintf("The tubs hold %s of the %s.", b.Reader.Mass(out.MadeG), b.Reader.Mass(t.grams))
	}
	have := gum / total
	if have+0.05 < w.Strength {
		if d, err := paste.Dose(paste.DoseIn{MassG: &total, HavePercent: &have, WantPercent: &w.Strength, Powder: &b.Kitchen.Powder}); err == nil {
			w.Adds = append(w.Adds, b.powder(d.AddPowderG))
			v.Mix = append(v.Mix, MixView{Name: b.Reader.Say("hardener powder, " + read.PowderNames[b.Kitchen.Powder]), Note: b.SpoonsSay(b.Kitchen.Powder, d.AddPowderG) + "; brings the tubs to the strength of the peg", Powder: b.Kitchen.Powder, Grams: noun.Figure{Value: d.AddPowderG, Unit: "g", Text: b.Reader.Powder(b.Kitchen.Powder, d.AddPowderG).Text, Why: DoseOf(total, have, w.Strength, d.AddPowderG)}})
			w.Rest = max(w.Rest, 30)
			v.Rest = "Knead warm together, then 30 min in a bag."
		}
	}
	w.family = familyOf(w.Uses, w.Strength)
}
