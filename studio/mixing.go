package studio

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"dustyfern/craft/caution"
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
func (b *benchOf) stock(w *worked) {
	for i := range b.lots {
		l := &b.lots[i]
		k, ok := paste.KindOf(l.Kind)
		if !ok || k.FatSet || b.there(w, l) <= 0 || l.Swatch != nil {
			continue
		}
		if met := caution.Meets(l.Allergens, w.c.Allergies, w.c.NoGelatine); len(met) > 0 {
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
func (b *benchOf) choose(w *worked, v *PasteView, advice *paste.Advice, plain float64) {
	p, r := w.p, b.r
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
	total := w.batch.PasteG
	switch {
	case school != "":
		dose, err := b.dose(school, max(total, 100))
		if err != nil {
			v.Short = sentence(err)
			return
		}
		w.strength = (plain + dose.Percent) / (1 + dose.Percent/100)
		v.PegSays = r.Say("sugar paste, " + read.SchoolNames[school] + " dose")
	case peg != nil:
		w.strength = *peg
		v.Own = p.PegPercent != nil
		v.PegSays = "your own " + read.Trimmed(w.strength, 2) + " %"
		if n := nearestPaste(w.strength); n != "" {
			v.PegSays = r.Say(n)
		}
	case !advice.Empty:
		w.strength = advice.Use.StrengthPercent
		v.PegSays = r.Say(read.WaySays[advice.Use.Way])
	default:
		w.family = "halfAndHalf"
		return
	}
	v.Peg = &noun.Figure{w.strength, "% gum", read.Trimmed(w.strength, 2), &noun.Why{Rule: "The strength that breaks the fewest wishes; of those the nearest to what the use takes (a mouthful the softest, nibbled 1.4 %, shown 1.6 %). Then the first paste of the shelf that serves, else parts that a hand can count.",
		Formula: "gum strength e = g of CMC-equivalent gum in 100 g of paste; a mix has the mass-weighted mean", Values: []noun.Named{{"plain paste at hand", read.Trimmed(plain, 2) + " %"}, {"advised", read.Trimmed(v.Advised, 2) + " %"}, {"chosen", read.Trimmed(w.strength, 2) + " %"}}}}
	for i := range v.Bars {
		v.Bars[i].Met = w.strength >= v.Bars[i].From-1e-9 && (v.Bars[i].To >= axisEnd && w.advice.Demands[i].ToPercent == nil || w.strength <= v.Bars[i].To+1e-9)
	}
	for _, code := range paste.Broken(w.advice, w.strength) {
		v.Broken = append(v.Broken, read.DemandSays[code])
	}
	if school != "" {
		b.useSchool(w, v, school, total)
	} else {
		b.useBlend(w, v, total)
	}
	if w.family == "" {
		w.family = familyOf(w.uses, w.strength)
	}
	if note := b.packetNote(w); note != "" {
		v.Notes = append(v.Notes, note)
	}
	if p.WayOut == "backIt" && w.advice.Empty {
		for _, o := range w.advice.WaysOut {
			if o.Do == "backIt" {
				v.Notes = append(v.Notes, r.Say(fmt.Sprintf("The face takes at most %s of each %s piece; the rest is plain sugar paste behind it.", r.Mass(w.pieceG**o.FirmShareMost), r.Mass(w.pieceG))))
			}
		}
	}
	if p.WayOut == "splitThePiece" && w.advice.Empty {
		v.Notes = append(v.Notes, r.Say("What is mixed here is the firm part. Make the core of sugar paste."))
	}
}

func nearestPaste(e float64) string {
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

func (b *benchOf) dose(school string, plainG float64) (paste.HardenerOut, error) {
	return paste.Hardener(paste.HardenerIn{PasteG: &plainG, School: &school, Powder: &b.k.Powder, GramsPerTsp: b.k.SpoonOf(b.k.Powder), Spoons: new(b.r.Spoons())})
}

func (b *benchOf) useSchool(w *worked, v *PasteView, school string, total float64) {
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
		v.Short = sentence(err)
		return
	}
	w.dose, w.family = &d, "sugarPaste"
	w.rest, w.atOnce = int(math.Ceil(math.Max(d.RestMinutes, 0))), d.ShapeAtOnce
	if !d.ShapeAtOnce {
		w.rest = int(math.Ceil(math.Max(d.RestMinutes, d.EffectMinutes)))
	}
	v.Rest = restSays(d)
	if l := w.plainLot; l != nil {
		w.uses = append(w.uses, mixPart{lot: l, name: l.Name, g: plainG})
		if has := b.there(w, l); has < plainG {
			v.Short = b.r.Say(fmt.Sprintf("%s is short by %s.", l.Name, b.r.Mass(plainG-has)))
		}
	} else {
		w.uses = append(w.uses, mixPart{name: "sugar paste", g: plainG, kind: "sugarPaste"})
		v.Short = b.r.Say("There is no plain sugar paste in the pantry for this: buy " + b.r.Mass(plainG) + ".")
	}
	w.adds = append(w.adds, b.powder(d.PowderG))
	b.mixViews(w, v, total)
	v.Mix = append(v.Mix, MixView{Name: b.r.Say("hardener powder, " + read.PowderNames[b.k.Powder]), Note: spoonsText(d, b.k), Grams: noun.Figure{d.PowderG, "g", read.Trimmed(math.Max(d.PowderG, 0.01), 2) + " g", doseWhy(d, b.k)}})
}

func restSays(d paste.HardenerOut) string {
	s := ""
	switch {
	case d.ShapeAtOnce:
		s = "Shape at once, no rest."
	case d.BetterMinutes != nil:
		s = fmt.Sprintf("Rest %s in a bag, better overnight.", read.SayMinutes(int(d.RestMinutes)))
	default:
		s = fmt.Sprintf("Rest %s in a bag.", read.SayMinutes(int(d.RestMinutes)))
	}
	return s + fmt.Sprintf(" The powder has most of its effect after %s.", read.SayMinutes(int(math.Round(d.EffectMinutes))))
}

func spoonsText(d paste.HardenerOut, k *noun.Kitchen) string {
	s := d.SpoonText
	if k.SpoonOf(k.Powder) != nil {
		s += " of yours, level"
	}
	return s
}

func doseWhy(d paste.HardenerOut, k *noun.Kitchen) *noun.Why {
	spoon := "by the powder's density"
	if own := k.SpoonOf(k.Powder); own != nil {
		spoon = read.Trimmed(*own, 2) + " g, weighed"
	}
	return &noun.Why{Rule: "Hardener is dosed by mass, in per cent of the plain paste; the school defines the spoon.", Formula: "powder = plain paste × % × brand factor",
		Values: []noun.Named{{"dose", read.Percent(d.Percent)}, {"spread of the school and powder", read.Percent(d.PercentLow) + " to " + read.Percent(d.PercentHigh)}, {"level teaspoon", spoon}, {"share of the finished paste", read.Percent(d.TotalShare * 100)}}}
}

// bought is sugar paste and flower paste of a strength, when nothing is there.
func (b *benchOf) bought(strength, total float64) []mixPart {
	sugar, flower := paste.PlainStrength, paste.FlowerStrength
	share := math.Max(0, math.Min(1, (strength-sugar)/(flower-sugar)))
	var out []mixPart
	for _, x := range []struct {
		kind  string
		share float64
	}{{"sugarPaste", 1 - share}, {"flowerPaste", share}} {
		if g := total * x.share; g > 0.5 {
			out = append(out, mixPart{name: read.PasteName(x.kind), g: g, kind: x.kind})
		}
	}
	return out
}

// powder is grams of the hardener, from the pantry when it is there.
func (b *benchOf) powder(g float64) mixPart {
	if l := b.powderLot(); l != nil {
		return mixPart{lot: l, name: l.Name, g: g}
	}
	return mixPart{name: read.PowderNames[b.k.Powder], g: g, kind: b.k.Powder}
}

// usualAllergens of a paste that somebody at this table must not have.
func (b *benchOf) usualAllergens(w *worked, code string) []string {
	k, _ := paste.KindOf(code)
	return caution.Meets(k.Allergens, w.c.Allergies, w.c.NoGelatine)
}

// useBlend mixes the strength from the pantry, leftovers and packets alike.
func (b *benchOf) useBlend(w *worked, v *PasteView, total float64) {
	if total <= 0 {
		return
	}
	var stock []paste.Stock
	for _, l := range w.usable {
		cost := 1.0
		if l.Leftover {
			cost = 0 // leftovers first
		}
		stock = append(stock, paste.Stock{Name: new(strconv.FormatInt(l.ID, 10)), StrengthPercent: new(lotStrength(l)), HaveG: new(math.Min(b.there(w, l), 50000)), CostPerG: &cost})
	}
	if len(stock) == 0 {
		v.Short = "There is no paste in the pantry that may be used here."
		w.buys = append(w.buys, b.bought(w.strength, total)...)
		return
	}
	out, err := paste.Blend(paste.BlendIn{Pastes: stock, WantStrengthPercent: &w.strength, MassG: new(math.Max(0.01, total))})
	if err != nil {
		v.Short = sentence(err)
		return
	}
	if !out.Reached {
		var buy []string
		for _, u := range out.Buy {
			if u.MassG > 0.5 {
				free := ""
				if met := b.usualAllergens(w, u.Name); len(met) > 0 {
					free = " without " + read.List(met) + " on its label"
				}
				w.buys = append(w.buys, mixPart{name: read.PasteName(u.Name), g: u.MassG, kind: u.Name})
				buy = append(buy, b.r.Mass(u.MassG)+" of "+read.PasteName(u.Name)+free)
			}
		}
		v.Short = "The pantry does not reach it"
		if out.NearestStrengthPercent != nil {
			v.Short += fmt.Sprintf(": the nearest is %s %% gum", read.Trimmed(*out.NearestStrengthPercent, 2))
		}
		if len(buy) > 0 {
			v.Short += ". Buy " + read.List(buy)
		} else if w.strength > paste.FlowerStrength {
			v.Short += ". Above flower paste only hardener goes on: choose a dose below"
		}
		v.Short = b.r.Say(v.Short + ".")
		return
	}
	for _, u := range out.Use {
		for _, l := range w.usable {
			if strconv.FormatInt(l.ID, 10) == u.Name { // two lots may bear one name
				w.uses = append(w.uses, mixPart{lot: l, name: l.Name, g: u.MassG})
				break
			}
		}
	}
	if len(w.uses) > 1 {
		w.rest = piece.BlendRest
		v.Rest = fmt.Sprintf("Knead warm together, then %d min in a bag.", piece.BlendRest)
	} else {
		v.Rest = "Straight in once it is kneaded warm."
	}
	b.mixViews(w, v, total)
}

func (b *benchOf) useDough(w *worked, v *PasteView) {
	for i := range b.lots {
		l := &b.lots[i]
		if l.Kind == w.p.Dough && b.there(w, l) > 0 && len(caution.Meets(l.Allergens, w.c.Allergies, w.c.NoGelatine)) == 0 {
			w.uses = []mixPart{{lot: l, name: l.Name, g: w.batch.PasteG}}
			if has := b.there(w, l); has < w.batch.PasteG {
				v.Short = b.r.Say(fmt.Sprintf("%s is short by %s.", l.Name, b.r.Mass(w.batch.PasteG-has)))
			}
			break
		}
	}
	if len(w.uses) == 0 {
		v.Short = "There is no such dough in the pantry that may be used here."
	}
	v.PegSays = read.PasteName(w.p.Dough)
	v.Rest = "A day after making it is firm enough to mould."
	b.mixViews(w, v, w.batch.PasteG)
}

func (b *benchOf) mixViews(w *worked, v *PasteView, total float64) {
	for _, u := range w.uses {
		note := ""
		if u.lot != nil && u.lot.OpenedOn != nil {
			note = "opened " + read.Trimmed(math.Max(0, math.Floor(b.now.Sub(*u.lot.OpenedOn).Hours()/24)), 0) + " days ago"
		}
		if u.lot != nil && u.lot.Grade != nil {
			note = strings.Trim(note+fmt.Sprintf(", squeeze grade %d", *u.lot.Grade), ", ")
		}
		why := &noun.Why{Rule: "The cheapest mix of the pantry that has the strength of the peg.", Formula: "gum of the mix = sum of grams × gum strength / total", Values: []noun.Named{{"total", measure.FormatMass(total)}, {"strength wanted", read.Trimmed(w.strength, 2) + " %"}}}
		if u.lot != nil && w.p.Dough == "" {
			why.Values = append(why.Values, noun.Named{u.name, read.Trimmed(lotStrength(u.lot), 2) + " %"})
		}
		v.Mix = append(v.Mix, MixView{Name: b.r.Say(u.name), Note: note, Grams: noun.Figure{u.g, "g", b.r.Mass(u.g), why}})
	}
	if mk := w.view.Make; mk != nil {
		v.MixSays = fmt.Sprintf("makes %s: %s balls of %s and 3 %% over", mk.Paste.Text, mk.Balls.Text, mk.Ball.Text)
	}
}

// familyOf is the drying table that a mix follows.
func familyOf(uses []mixPart, e float64) string {
	total, flower, plain := 0.0, 0.0, 0.0
	for _, u := range uses {
		if u.lot == nil {
			continue
		}
		total += u.g
		k, _ := paste.KindOf(u.lot.Kind)
		switch k.Family {
		case "flowerPaste":
			flower += u.g
		case "sugarPaste":
			plain += u.g
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

// schools sets the ways of dosing side by side.
func (b *benchOf) schools(w *worked, v *PasteView, advice *paste.Advice, plain float64) {
	total := w.batch.PasteG
	if total <= 0 || w.p.Dough != "" {
		return
	}
	for _, s := range paste.Schools {
		d100, err := b.dose(s.Code, 100)
		if err != nil {
			continue
		}
		d, err := b.dose(s.Code, total/(1+d100.Percent/100))
		if err != nil {
			continue
		}
		e := (plain + d.Percent) / (1 + d.Percent/100)
		x := DoseView{Code: s.Code, Name: read.SchoolNames[s.Code], Why: b.r.Say(s.Why), Percent: read.Percent(d.Percent), Strength: read.Trimmed(e, 2) + " % gum",
			Plain: noun.Figure{total - d.PowderG, "g", b.r.Mass(total - d.PowderG), nil}, Powder: noun.Figure{d.PowderG, "g", read.Trimmed(math.Max(d.PowderG, 0.01), 2) + " g", doseWhy(d, b.k)},
			Spoons: spoonsText(d, b.k), Rest: restSays(d), Usual: s.Code == b.k.School, Chosen: w.dose != nil && (w.p.School == s.Code || w.p.School == "" && s.Code == "light")}
		if d.SchoolLowPercent != nil {
			x.Spread = read.Percent(*d.SchoolLowPercent) + " to " + read.Percent(*d.SchoolHighPercent)
			if d.DensityLowFactor < 1 {
				x.Spread += fmt.Sprintf("; how dense the powder lies adds × %s to %s", read.Trimmed(d.DensityLowFactor, 2), read.Trimmed(d.DensityHighFactor, 2))
			}
		}
		if d.SpoonErrorPercent != nil {
			x.Rounding = fmt.Sprintf("to an eighth of a spoon: %s g, %+.0f %%", read.Trimmed(d.SpoonedG, 2), *d.SpoonErrorPercent)
			if math.Abs(*d.SpoonErrorPercent) > 10 {
				x.Rounding += "; weigh it on a finer scale"
			}
		}
		switch {
		case d.Capped:
			x.Warning = fmt.Sprintf("Stopped at %s: more crumbles.", read.Percent(d.CapPercent))
		case d.Brittle:
			x.Warning = "Over 6 %: brittle, and it tastes dry."
		}
		x.InWindow = !advice.Empty && e >= advice.Window.From-1e-9 && e <= orEnd(advice.Window.To)+1e-9
		v.Schools = append(v.Schools, x)
	}
}
