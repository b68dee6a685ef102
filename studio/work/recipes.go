package work

import (
	"fmt"
	"slices"

	"dustyfern/craft/colour"
	"dustyfern/craft/measure"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// RecipeView shows a recipe in drops and grams, with its reasons.
type RecipeView struct {
	Key    string        `json:"key" doc:"the bottles by number: what is chosen"`
	Chosen bool          `json:"chosen"`
	Gels   []GelDoseView `json:"gels"`
	Off    noun.Figure   `json:"off" doc:"how far from what is wanted, in words"`
	Band   string        `json:"band"`
	Touchy string        `json:"touchy"`
	Sticky string        `json:"sticky"`
	Reach  string        `json:"reach" doc:"why it cannot be reached, when it cannot"`
	Hex    string        `json:"hex"`
}

// GelDoseView is one gel of a recipe.
type GelDoseView struct {
	Name   string      `json:"name"`
	Swatch string      `json:"swatch"`
	Grams  noun.Figure `json:"grams" doc:"as hands take it"`
	Mother string      `json:"mother" doc:"how its mother paste is made, of less than a dab"`
	Short  string      `json:"short"`
}

// LetDown is a colour that is made from a darker one with white.
type LetDown struct {
	From  string      `json:"from"`
	Dark  noun.Figure `json:"dark"`
	White noun.Figure `json:"white"`
	Off   string      `json:"off"`
	Hex   string      `json:"hex"`
}

var reachSays = map[string]string{
	"baseTooDarkOrColoured": "The base is too dark or coloured for it: take white paste.", "lighterThanBase": "It is lighter than the base: nothing kneaded in makes a paste lighter but white.",
	"noGelOfThatHue": "No gel of the pantry has that hue.", "noGelToDullIt": "No gel of the pantry dulls it enough.", "tooSaturated": "It is more vivid than these gels can be.", "tooDeep": "It is deeper than 8 g of gel in 100 g make it: paint or dust it darker.",
}

// RecipeView shows what hands make of a recipe for so many grams.
func (b *Means) RecipeView(t *Tint, out colour.RecipeOut, lots []*noun.Lot, grams float64, chosen bool) *RecipeView {
	v := &RecipeView{Gels: []GelDoseView{}, Hex: out.Hex, Chosen: chosen, Reach: reachSays[out.Reach]}
	if out.Hands != nil {
		v.Hex = out.Hands.Hex
	}
	var parts []gelPart
	var ids []int64
	for _, x := range handsOf(out, grams) {
		i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return l.GelName() == x.Gel })
		if i < 0 {
			continue
		}
		l := lots[i]
		dose := x.GotG
		if grams > 0 {
			dose = 100 * x.GotG / grams
		}
		d := GelDoseView{Name: l.Name, Swatch: *l.Swatch, Grams: b.gelFigure(l, x, grams, dose, t.BaseSay), Mother: motherSays(l, x)}
		if need := needOf(out, x); l.MassG < need {
			d.Short = fmt.Sprintf("only %s there", b.Reader.Mass(l.MassG))
		}
		v.Gels = append(v.Gels, d)
		parts, ids = append(parts, gelPart{l, dose, x.GotG, x.Text}), append(ids, l.ID)
	}
	slices.Sort(ids)
	v.Key = noun.LotsKey(ids)
	band := bandOf(parts)
	v.Off = offFigure(off(out), band)
	v.Band = "it may come out a shade off until the bottles are compared"
	if band < 3 {
		v.Band = "as sure as the mixes that you compared"
	}
	if out.Sensitivity > 3 {
		v.Touchy = "Touchy: a tenth too much of one gel is seen at once. Count the drops, or make twice as much."
	}
	if out.Sticky {
		v.Sticky = "Over 3 g in 100 g: sticky. Add it in stages and rest it before use."
	}
	return v
}

// motherSays how a mother paste is made, "" for what goes in by drops.
func motherSays(l *noun.Lot, x colour.HandsGel) string {
	if x.Way != "mother" || x.MotherBaseG == nil {
		return ""
	}
	return fmt.Sprintf("mother paste: 1 dab of %s in %s g of the base", l.Name, read.Trimmed(*x.MotherBaseG, 1))
}

// gelFigure is one gel as hands take it, drops and dabs first; with its reason.
func (b *Means) gelFigure(l *noun.Lot, x colour.HandsGel, grams, dose float64, base string) noun.Figure {
	mean, band, n := l.Ratio()
	strength := "as its swatch says (assumed)"
	if n > 0 {
		strength = fmt.Sprintf("%s of its swatch, known within %s %%, from %s", read.Trimmed(mean, 2), read.Trimmed(band*100, 0), read.Count(n, "mix"))
	}
	text := x.Text
	switch {
	case x.Way == "mother" && x.MotherUseG != nil:
		text = measure.Reading(*x.MotherUseG, b.Reader.Scale())
	case grams <= 0:
		text = read.Trimmed(dose, 2) + " g in 100 g"
	case text == "" || l.DropG != nil && x.Way == "drops": // a bottle whose drops were weighed
		text = b.Reader.Gel(l.DropG, x.GotG).Text
	}
	return noun.Figure{Value: x.GotG, Unit: "g", Text: text, Why: &noun.Why{Rule: "Gels only darken: each takes away what it absorbs. Of the sets that no eye tells apart the one with the fewest gels, rounded to drops and dabs; under a dab by mother paste.",
		Formula: "grams = dose × paste / 100", Values: []noun.Named{{Name: "dose", Text: read.Trimmed(dose, 3) + " g in 100 g"}, {Name: "grams", Text: read.Trimmed(x.GotG, 3) + " g"}, {Name: "paste", Text: b.Reader.Mass(grams)}, {Name: "base", Text: base}, {Name: "strength of this bottle", Text: strength}}}}
}

// offFigure is how far a colour ends from what is wanted: in words, the number behind
// why.
func offFigure(de, band float64) noun.Figure {
	return noun.Figure{Value: de, Text: Apart(de), Why: &noun.Why{Rule: "How far the paste as it is made lies from what is wanted. Under 1 no eye tells.", Formula: "CIEDE2000 between both, by the doses as they are rounded",
		Values: []noun.Named{{Name: "difference", Text: "ΔE " + read.Trimmed(de, 1)}, {Name: "expect", Text: "± " + read.Trimmed(band, 1)}}}}
}

// restHours is how long a colour deepens before it is judged (assumed).
const restHours = "2 to 4 h"

func (b *Means) addingSteps(t *Tint, grams float64) []string {
	var first, rest []string
	for _, x := range t.Parts {
		g := x.dose * grams / 100
		switch {
		case g < b.Kitchen.DabG:
			first = append(first, "two thirds of the paste coloured with "+x.Lot.Name)
		case g*2/3 < b.Kitchen.DabG: // too little to share
			rest = append(rest, fmt.Sprintf("%s of %s", b.Reader.Gel(x.Lot.DropG, g).Text, x.Lot.Name))
		default:
			first = append(first, fmt.Sprintf("%s of %s", b.Reader.Gel(x.Lot.DropG, g*2/3).Text, x.Lot.Name))
		}
	}
	out := []string{"Gloves on. Warm the paste until it folds without cracking, fold and roll it."}
	look := "Look: it should be paler than the pat called fresh."
	if len(first) > 0 {
		out = append(out, fmt.Sprintf("First two thirds: %s. Knead until no streak is left, about 5 min.", read.List(first)),
			look+" Add the rest, knead, look again beside the target in daylight.")
	} else {
		out = append(out, fmt.Sprintf("Work %s in on the tip of a toothpick, half of it first. Knead until no streak is left, about 5 min.", read.List(rest)),
			look+" Add what is left, knead, look again beside the target in daylight.")
	}
	out = append(out, fmt.Sprintf("Stop at fresh, not at the target: bagged for %s it deepens to the pat called rested.", restHours))
	return out
}

// letDowns are darker colours of the commission that it comes of with white.
func (b *Means) letDowns(g *ColourGroup, darker []*ColourGroup) []LetDown {
	out := []LetDown{}
	w := g.First()
	if g.grams <= 0 || IsWhite(w.Piece.Swatch) {
		return out
	}
	for _, d := range darker {
		x := d.First()
		if x.Tint == nil || x.Tint.way != FromGels || len(x.Tint.Parts) == 0 || x.Tint.BaseSay != w.Tint.BaseSay {
			continue
		}
		key := fmt.Sprintf("down|%s|%.2f|%s|%s", w.Piece.Swatch, g.grams, fingerprint(x.Tint.rested), fingerprint(w.Tint.base))
		r, err := once(key, func() (colour.LeftoversOut, error) {
			much := 50000.0
			return colour.Leftovers(colour.LeftoversIn{Target: w.Piece.Swatch, MassG: &g.grams, Stock: []colour.Leftover{
				{Name: new("dark"), Paste: x.Tint.rested, MassG: &much}, {Name: new("white"), Paste: w.Tint.base, MassG: &much}}})
		})
		if err != nil || r.De00 > colour.NearEnough || len(r.Use) < 2 {
			continue
		}
		dark := r.Use[0].MassG
		why := &noun.Why{Rule: "One strong mix let down with white makes related tones: they cannot clash.", Formula: "K and S of a mix are the mass-weighted means", Values: []noun.Named{{Name: "share of " + x.Piece.Colour, Text: read.Trimmed(100*dark/g.grams, 1) + " %"}, {Name: "wanted", Text: b.Reader.Mass(g.grams)}}}
		out = append(out, LetDown{From: orName(x.Piece), Dark: noun.Figure{Value: dark, Unit: "g", Text: b.Reader.Paste(dark), Why: why}, White: noun.Figure{Value: g.grams - dark, Unit: "g", Text: b.Reader.Paste(g.grams - dark), Why: why}, Off: Apart(r.De00), Hex: r.Hex})
	}
	return out
}

// GelFor is one gel that goes into the paste of a step, as hands take it, and what must
// be there of it.
type GelFor struct {
	Lot    *noun.Lot
	Figure noun.Figure
	NeedG  float64
}

// GelsFor a share of a piece: rounded for the paste that is kneaded at once.
func (b *Means) GelsFor(w *Reckoned, share float64) (out []GelFor) {
	for _, t := range w.Tint.all() {
		gels := b.gelsFor(t, share)
		if w.Tint.Striped() {
			for i := range gels {
				gels[i].Figure.Unit += " into the " + t.called()
			}
		}
		out = append(out, gels...)
	}
	return out
}

func (b *Means) gelsFor(t *Tint, share float64) (out []GelFor) {
	if t.way != FromGels || len(t.gels) == 0 {
		return nil
	}
	grams := t.grams * share
	r, err := b.Recipe(t.swatch, t.base, t.gels, grams)
	if err != nil {
		return nil
	}
	for _, x := range handsOf(r, grams) {
		i := slices.IndexFunc(t.gels, func(l *noun.Lot) bool { return l.GelName() == x.Gel })
		if i < 0 || grams <= 0 {
			continue
		}
		f := b.gelFigure(t.gels[i], x, grams, 100*x.GotG/grams, t.BaseSay)
		f.Unit = t.gels[i].Name
		if say := motherSays(t.gels[i], x); say != "" {
			f.Unit = say
		}
		out = append(out, GelFor{t.gels[i], f, needOf(r, x)})
	}
	return out
}

// UsesWith puts the gels of a step in the place of their share of the whole piece's.
func UsesWith(uses []noun.Taken, gels []GelFor) []noun.Taken {
	met := map[int64]bool{}
	for _, x := range gels {
		i := slices.IndexFunc(uses, func(u noun.Taken) bool { return u.Lot == x.Lot.ID })
		if i < 0 {
			uses = append(uses, noun.Taken{Lot: x.Lot.ID, Name: x.Lot.Name})
			i = len(uses) - 1
		}
		if !met[x.Lot.ID] {
			uses[i].G = 0
		}
		met[x.Lot.ID] = true
		uses[i].G += x.NeedG // a gel may go into two of the colours
	}
	return uses
}
