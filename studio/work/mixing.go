package work

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// mostLots is how many pastes a blend is weighed from (paste.blend).
const mostLots = 8

// stock finds the sugar pastes of the pantry that may go into this piece:
// white, and free of what somebody at the table must not have. The first plain
// one is what hardener goes into.
func (b *Means) stock(w *Reckoned) {
	for i := range b.Lots {
		l := &b.Lots[i]
		k, ok := paste.KindOf(l.Kind)
		if !ok || k.FatSet || b.there(w, l) <= 0 || l.Swatch != nil {
			continue
		}
		if met := w.order.Refuses(l); len(met) > 0 {
			w.refused = append(w.refused, fmt.Sprintf("%s is left out: it holds %s.", l.Name, read.List(met)))
			continue
		}
		w.usable = append(w.usable, l)
	}
	for _, kind := range []string{"sugarPaste", "softSugarPaste", "marshmallowPaste"} {
		if i := slices.IndexFunc(w.usable, func(l *noun.Lot) bool { return l.Kind == kind }); i >= 0 && w.plainLot == nil {
			w.plainLot = w.usable[i]
		}
	}
	for len(w.usable) > mostLots { // the smallest remnants stay aside
		least := 0
		for i, l := range w.usable {
			if l != w.plainLot && (w.usable[least] == w.plainLot || b.there(w, l) < b.there(w, w.usable[least])) {
				least = i
			}
		}
		w.refused = append(w.refused, fmt.Sprintf("%s is left aside: %d lots are weighed against each other, the largest first.", w.usable[least].Name, mostLots))
		w.usable = slices.Delete(w.usable, least, least+1)
	}
}

// choose settles the strength of the peg and what it is mixed from.
func (b *Means) choose(w *Reckoned, v *PasteView, advice *paste.Advice, plain float64) {
	p, r := w.Piece, b.Reader
	if p.Dough != "" {
		b.useDough(w, v)
		return
	}
	school := p.School
	if school == "" && p.PegPercent == nil && !advice.Empty {
		school = map[string]string{"lightDose": "light", "extraDose": "extra"}[advice.Use.Way]
	}
	peg := p.PegPercent
	if e, light, ok := b.sidePeg(w, advice, plain); ok && peg == nil && p.School == "" {
		if light {
			school = "light"
		} else {
			school, peg = "", &e
		}
	}
	total := w.Batch.PasteG
	switch {
	case school != "":
		dose, err := b.dose(school, max(total, 100))
		if err != nil {
			v.Short = Sentence(err)
			return
		}
		w.Strength = (plain + dose.Percent) / (1 + dose.Percent/100)
		v.PegSays = r.Say("sugar paste, " + read.SchoolNames[school] + " dose")
	case peg != nil:
		w.Strength = *peg
		v.Own = p.PegPercent != nil
		v.PegSays = "your own " + read.Trimmed(w.Strength, 2) + " %"
		if n := NearestPaste(w.Strength); n != "" {
			v.PegSays = r.Say(n)
		}
	case !advice.Empty:
		w.Strength = advice.Use.StrengthPercent
		v.PegSays = r.Say(read.WaySays[advice.Use.Way])
	default:
		w.family = "halfAndHalf"
		return
	}
	v.Peg = &noun.Figure{Value: w.Strength, Unit: "% gum", Text: read.Trimmed(w.Strength, 2), Why: &noun.Why{Rule: "The strength that breaks the fewest wishes; of those the nearest to what the use takes (a mouthful the softest, nibbled 1.4 %, shown 1.6 %). Then the first paste of the shelf that serves, else parts that a hand can count.",
		Formula: "gum strength e = g of CMC-equivalent gum in 100 g of paste; a mix has the mass-weighted mean", Values: []noun.Named{{Name: "plain paste at hand", Text: read.Trimmed(plain, 2) + " %"}, {Name: "advised", Text: read.Trimmed(v.Advised, 2) + " %"}, {Name: "chosen", Text: read.Trimmed(w.Strength, 2) + " %"}}}}
	for i := range v.Bars {
		v.Bars[i].Met = w.Strength >= v.Bars[i].From-1e-9 && (v.Bars[i].To >= axisEnd && w.Advice.Demands[i].ToPercent == nil || w.Strength <= v.Bars[i].To+1e-9)
	}
	for _, code := range paste.Broken(w.Advice, w.Strength) {
		v.Broken = append(v.Broken, read.DemandSays[code])
	}
	if school != "" {
		b.useSchool(w, v, school, total)
	} else {
		b.useBlend(w, v, total)
	}
	if w.family == "" {
		w.family = familyOf(w.Uses, w.Strength)
	}
	if note := b.PacketNote(w); note != "" {
		v.Notes = append(v.Notes, note)
	}
	if p.WayOut == "backIt" && w.Advice.Empty {
		for _, o := range w.Advice.WaysOut {
			if o.Do == "backIt" {
				v.Notes = append(v.Notes, r.Say(fmt.Sprintf("The face takes at most %s of each %s piece; the rest is plain sugar paste behind it.", r.Mass(w.PieceG**o.FirmShareMost), r.Mass(w.PieceG))))
			}
		}
	}
	if p.WayOut == "splitThePiece" && w.Advice.Empty {
		v.Notes = append(v.Notes, r.Say("What is mixed here is the firm part. Make the core of sugar paste."))
	}
}

// NearestPaste names the paste of the shelf whose strength lies nearest to e, % gum.
func NearestPaste(e float64) string {
	for _, k := range paste.Shelf {
		if !k.FatSet && math.Abs(k.Strength-e) < 0.005 {
			if k.Code == "halfAndHalf" {
				return "half sugar, half flower paste"
			}
			return read.PasteName(k.Code)
		}
	}
	return ""
}

func (b *Means) useSchool(w *Reckoned, v *PasteView, school string, total float64) {
	share := 1.0
	if d, err := b.dose(school, 100); err == nil {
		share = 1 + d.Percent/100
	}
	if total <= 0 {
		return
	}
	plainG := total / share
	d, err := b.dose(school, plainG)
	if err != nil {
		v.Short = Sentence(err)
		return
	}
	w.dose, w.family = &d, "sugarPaste"
	w.Rest, w.AtOnce = int(math.Ceil(math.Max(d.RestMinutes, 0))), d.ShapeAtOnce
	if !d.ShapeAtOnce {
		w.Rest = int(math.Ceil(math.Max(d.RestMinutes, d.EffectMinutes)))
	}
	v.Rest = restSays(d)
	if l := w.plainLot; l != nil {
		w.Uses = append(w.Uses, MixPart{Lot: l, Name: l.Name, Grams: plainG})
		if has := b.there(w, l); has < plainG {
			v.Short = b.Reader.Say(fmt.Sprintf("%s is short by %s.", l.Name, b.Reader.Mass(plainG-has)))
		}
	} else {
		w.Uses = append(w.Uses, MixPart{Name: "sugar paste", Grams: plainG, Kind: "sugarPaste"})
		v.Short = b.Reader.Say("There is no plain sugar paste in the pantry for this: buy " + b.Reader.Mass(plainG) + ".")
	}
	w.Adds = append(w.Adds, b.powder(d.PowderG))
	b.mixViews(w, v, total)
	v.Mix = append(v.Mix, MixView{Name: b.Reader.Say("hardener powder, " + read.PowderNames[b.Kitchen.Powder]), Note: spoonsText(d, b.Kitchen), Powder: b.Kitchen.Powder, Grams: noun.Figure{Value: d.PowderG, Unit: "g", Text: b.Reader.Powder(b.Kitchen.Powder, d.PowderG).Text, Why: doseWhy(d, b.Kitchen)}})
}

// bought is sugar paste and flower paste of a strength, when nothing is there.
func (b *Means) bought(strength, total float64) []MixPart {
	sugar, flower := paste.PlainStrength, paste.FlowerStrength
	share := math.Max(0, math.Min(1, (strength-sugar)/(flower-sugar)))
	var out []MixPart
	for _, x := range []struct {
		kind  string
		share float64
	}{{"sugarPaste", 1 - share}, {"flowerPaste", share}} {
		if g := total * x.share; g > 0.5 {
			out = append(out, MixPart{Name: read.PasteName(x.kind), Grams: g, Kind: x.kind})
		}
	}
	return out
}

// powder is grams of the hardener, from the pantry when it is there.
func (b *Means) powder(g float64) MixPart {
	if l := b.powderLot(); l != nil {
		return MixPart{Lot: l, Name: l.Name, Grams: g}
	}
	return MixPart{Name: read.PowderNames[b.Kitchen.Powder], Grams: g, Kind: b.Kitchen.Powder}
}

// FreeOf are the words that the label of something bought for an order must not name,
// of those that such labels usually do.
func FreeOf(c *noun.Commission, kind string) []string {
	refused, may := c.Meets(noun.LabelOfKind(kind))
	return append(refused, may...)
}

// usualAllergens of a paste that somebody at this table must not have.
func (b *Means) usualAllergens(w *Reckoned, code string) []string {
	refused, _ := w.order.Meets(noun.LabelOfKind(code))
	return refused
}

// useBlend mixes the strength from the pantry, leftovers and packets alike.
func (b *Means) useBlend(w *Reckoned, v *PasteView, total float64) {
	if total <= 0 {
		return
	}
	var stock []paste.Stock
	for _, l := range w.usable {
		cost := 1.0
		if l.Leftover {
			cost = 0 // leftovers first
		}
		stock = append(stock, paste.Stock{Name: new(strconv.FormatInt(l.ID, 10)), StrengthPercent: new(LotStrength(l)), HaveG: new(math.Min(b.there(w, l), 50000)), CostPerG: &cost})
	}
	if len(stock) == 0 {
		bought := b.bought(w.Strength, total)
		w.Buys = append(w.Buys, bought...)
		v.Short = b.Reader.Say("There is no paste in the pantry that may be used here." + b.buySays(w, bought))
		return
	}
	out, err := paste.Blend(paste.BlendIn{Pastes: stock, WantStrengthPercent: &w.Strength, MassG: new(math.Max(0.01, total))})
	if err != nil {
		v.Short = Sentence(err)
		return
	}
	if !out.Reached {
		var bought []MixPart
		for _, u := range out.Buy {
			if u.MassG > 0.5 {
				bought = append(bought, MixPart{Name: read.PasteName(u.Name), Grams: u.MassG, Kind: u.Name})
			}
		}
		w.Buys = append(w.Buys, bought...)
		switch near := out.NearestStrengthPercent; {
		case near == nil:
			v.Short = "There is not enough paste in the pantry for it."
		case *near < w.Strength:
			v.Short = "Every paste in the pantry is softer than this."
		default:
			v.Short = "Every paste in the pantry is stiffer than this."
		}
		if len(bought) == 0 && w.Strength > paste.FlowerStrength {
			v.Short += " Beyond flower paste there is only hardener: choose a dose below."
		}
		v.Short = b.Reader.Say(v.Short + b.buySays(w, bought))
		return
	}
	for _, u := range out.Use {
		for _, l := range w.usable {
			if strconv.FormatInt(l.ID, 10) == u.Name { // two lots may bear one name
				w.Uses = append(w.Uses, MixPart{Lot: l, Name: l.Name, Grams: u.MassG})
				break
			}
		}
	}
	if len(w.Uses) > 1 {
		w.Rest = piece.BlendRest
		v.Rest = fmt.Sprintf("Knead warm together, then %d min in a bag.", piece.BlendRest)
	} else {
		v.Rest = "Straight in once it is kneaded warm."
	}
	b.mixViews(w, v, total)
}

// buySays is what is to be bought for an order, with what its label must not name.
func (b *Means) buySays(w *Reckoned, parts []MixPart) string {
	var buy []string
	for _, u := range parts {
		free := ""
		if met := FreeOf(w.order, u.Kind); len(met) > 0 {
			free = ", without " + read.List(met) + " on its label"
		}
		buy = append(buy, b.Reader.Mass(u.Grams)+" of "+u.Name+free)
	}
	if len(buy) == 0 {
		return ""
	}
	return " Buy " + read.List(buy) + "."
}

func (b *Means) useDough(w *Reckoned, v *PasteView) {
	for i := range b.Lots {
		l := &b.Lots[i]
		if l.Kind == w.Piece.Dough && b.there(w, l) > 0 && len(w.order.Refuses(l)) == 0 {
			w.Uses = []MixPart{{Lot: l, Name: l.Name, Grams: w.Batch.PasteG}}
			if has := b.there(w, l); has < w.Batch.PasteG {
				v.Short = b.Reader.Say(fmt.Sprintf("%s is short by %s.", l.Name, b.Reader.Mass(w.Batch.PasteG-has)))
			}
			break
		}
	}
	if len(w.Uses) == 0 {
		w.Buys = []MixPart{{Name: read.PasteName(w.Piece.Dough), Kind: w.Piece.Dough, Grams: w.Batch.PasteG}}
		v.Short = b.Reader.Say("There is no such dough in the pantry that may be used here." + b.buySays(w, w.Buys))
	}
	v.PegSays = read.PasteName(w.Piece.Dough)
	v.Rest = "A day after making it is firm enough to mould."
	b.mixViews(w, v, w.Batch.PasteG)
}

func (b *Means) mixViews(w *Reckoned, v *PasteView, total float64) {
	for _, u := range w.Uses {
		note := ""
		if u.Lot != nil && u.Lot.OpenedOn != nil {
			note = "opened " + read.Count(int(math.Max(0, math.Floor(b.Now.Sub(*u.Lot.OpenedOn).Hours()/24))), "day") + " ago"
		}
		if u.Lot != nil && u.Lot.Grade != nil {
			note = strings.Trim(note+fmt.Sprintf(", squeeze grade %d", *u.Lot.Grade), ", ")
		}
		why := &noun.Why{Rule: "The cheapest mix of the pantry that has the strength of the peg.", Formula: "gum of the mix = sum of grams × gum strength / total", Values: []noun.Named{{Name: "total", Text: measure.FormatMass(total)}, {Name: "strength wanted", Text: read.Trimmed(w.Strength, 2) + " %"}}}
		if u.Lot != nil && w.Piece.Dough == "" {
			why.Values = append(why.Values, noun.Named{Name: u.Name, Text: read.Trimmed(LotStrength(u.Lot), 2) + " %"})
		}
		v.Mix = append(v.Mix, MixView{Name: b.Reader.Say(u.Name), Note: note, Grams: noun.Figure{Value: u.Grams, Unit: "g", Text: b.Reader.Paste(u.Grams), Why: why}})
	}
	if mk := w.View.Make; mk != nil {
		v.MixSays = fmt.Sprintf("makes %s: %s balls of %s and 3 %% over", mk.Paste.Text, mk.Balls.Text, mk.Ball.Text)
	}
}

// familyOf is the drying table that a mix follows.
func familyOf(uses []MixPart, e float64) string {
	total, flower, plain := 0.0, 0.0, 0.0
	for _, u := range uses {
		if u.Lot == nil {
			continue
		}
		total += u.Grams
		k, _ := paste.KindOf(u.Lot.Kind)
		switch k.Family {
		case "flowerPaste":
			flower += u.Grams
		case "sugarPaste":
			plain += u.Grams
		}
		if len(uses) == 1 && k.Family != "" {
			return k.Family
		}
	}
	share := (e - 0.4) / 2.4
	if total > 0 {
		share = flower / total
		if plain > total-1e-6 {
			return "sugarPaste"
		}
	}
	switch {
	case share >= 0.7:
		return "flowerPaste"
	case share < 0.02:
		return "sugarPaste"
	}
	return "halfAndHalf"
}

// kneadSteps are the knead of a mix, one movement after the other, with
// minutes.
func (b *Means) kneadSteps(w *Reckoned) []string {
	minutes := piece.KneadMinutes(w.Batch.PasteG, b.Kitchen.KneadFirst, b.Kitchen.KneadMore)
	soft := "Soften: 20 s in the microwave or a minute in warm hands, in bursts, never to a hot spot."
	if w.Piece.Dough != "" {
		return []string{"Soften: 10 to 15 s, three bursts at most; metal ties off.", fmt.Sprintf("Fold and press until it bends without cracks, %s.", read.SayMinutes(minutes))}
	}
	if len(w.Uses) < 2 {
		return []string{soft, fmt.Sprintf("Fold and roll until it bends without cracks, %s.", read.SayMinutes(minutes))}
	}
	var stiff, least MixPart
	for _, u := range w.Uses {
		if u.Lot == nil {
			return nil
		}
		if stiff.Lot == nil || LotStrength(u.Lot) > LotStrength(stiff.Lot) {
			stiff = u
		}
		if least.Lot == nil || u.Grams < least.Grams {
			least = u
		}
	}
	alone := min(2, max(1, minutes/3))
	out := []string{b.Reader.Sayf("Soften the stiffer one alone, %s, until it is as pliable as the other: %s.", stiff.Lot.Name, read.SayMinutes(alone)),
		b.Reader.Say("Halve: roll both to ropes of one length, lay them side by side, cut across and stack the halves: 1 min."),
		b.Reader.Sayf("Fold and roll, a quarter turn each time, until no streak of %s is left: %s.", least.Lot.Name, read.SayMinutes(max(1, minutes-alone-1)))}
	if w.Rest > 0 {
		out = append(out, b.Reader.Sayf("Bag it for %s: the gum evens out.", read.SayMinutes(w.Rest)))
	}
	return out
}
