package work

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/colour"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// RecipeView is gels in a base.
// RecipeView shows a recipe in drops and grams, with its reasons.
type RecipeView struct {
	Key    string        `json:"key" doc:"the bottles by number: what is chosen"`
	Chosen bool          `json:"chosen"`
	Gels   []GelDoseView `json:"gels"`
	Total  noun.Figure   `json:"total"`
	Off    string        `json:"off" doc:"how far from what is wanted, in words and CIEDE2000"`
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
	Per100 string      `json:"per100"`
	Grams  noun.Figure `json:"grams"`
	Drops  string      `json:"drops"`
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

// MarbledView is how often a part-mixed paste may be folded.
type MarbledView struct {
	Say   string    `json:"say"`
	Far   string    `json:"far"`
	Solid string    `json:"solid"`
	Why   *noun.Why `json:"why"`
}

var reachSays = map[string]string{
	"baseTooDarkOrColoured": "The base is too dark or coloured for it: take white paste.", "lighterThanBase": "It is lighter than the base: nothing kneaded in makes a paste lighter but white.",
	"noGelOfThatHue": "No gel of the pantry has that hue.", "noGelToDullIt": "No gel of the pantry dulls it enough.", "tooSaturated": "It is more vivid than these gels can be.", "tooDeep": "It is deeper than 8 g of gel in 100 g make it: paint or dust it darker.",
}

func (b *Means) RecipeView(t *Tint, out colour.RecipeOut, lots []*noun.Lot, grams float64, chosen bool) *RecipeView {
	v := &RecipeView{Gels: []GelDoseView{}, Off: offSays(out.De00), Hex: out.Hex, Chosen: chosen, Reach: reachSays[out.Reach]}
	var parts []gelPart
	var ids []int64
	for _, x := range out.Gels {
		i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return l.GelName() == x.Gel })
		if i < 0 {
			continue
		}
		l := lots[i]
		g := x.Dose * grams / 100
		mean, band, n := l.Ratio()
		strength := "as its swatch says (assumed)"
		if n > 0 {
			strength = fmt.Sprintf("%s of its swatch, known within %s %%, from %s", read.Trimmed(mean, 2), read.Trimmed(band*100, 0), read.Count(n, "mix"))
		}
		d := GelDoseView{Name: l.Name, Swatch: *l.Swatch, Per100: fmt.Sprintf("%s g in 100 g", read.Trimmed(x.Dose, 3)), Drops: b.Drops(l, g),
			Grams: noun.Figure{Value: g, Unit: "g", Text: read.Trimmed(math.Max(0.001, g), FineDecimals(g)) + " g", Why: &noun.Why{Rule: "Gels only darken: each takes away what it absorbs. The set of gels with the least distance, plus 0.2 for each further gel and 0.5 for each gram over 3 in 100.",
				Formula: "grams = dose × paste / 100", Values: []noun.Named{{Name: "dose", Text: read.Trimmed(x.Dose, 3) + " g in 100 g"}, {Name: "paste", Text: b.Reader.Mass(grams)}, {Name: "base", Text: t.BaseSay}, {Name: "strength of this bottle", Text: strength}}}}}
		if l.MassG < g {
			d.Short = fmt.Sprintf("only %s there", ExactMass(b.Reader, l.MassG))
		}
		v.Gels = append(v.Gels, d)
		parts, ids = append(parts, gelPart{l, x.Dose, g}), append(ids, l.ID)
	}
	slices.Sort(ids)
	v.Key = noun.LotsKey(ids)
	total := out.TotalDose * grams / 100
	v.Total = noun.Figure{Value: total, Unit: "g", Text: read.Trimmed(total, 2) + " g", Why: nil}
	v.Band = fmt.Sprintf("expect ΔE ± %s until the bottles are calibrated", read.Trimmed(bandOf(parts), 1))
	if bandOf(parts) < 3 {
		v.Band = fmt.Sprintf("expect ΔE ± %s, by the mixes you compared", read.Trimmed(bandOf(parts), 1))
	}
	if out.Sensitivity > 3 {
		v.Touchy = fmt.Sprintf("Touchy: a tenth too much of one gel shifts it by ΔE %s. Weigh it, or make twice as much.", read.Trimmed(out.Sensitivity, 1))
	}
	if out.Sticky {
		v.Sticky = "Over 3 g in 100 g: sticky. Add it in stages and rest it before use."
	}
	return v
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
			rest = append(rest, fmt.Sprintf("%s of %s", b.Drops(x.Lot, g), x.Lot.Name))
		default:
			first = append(first, fmt.Sprintf("%s of %s", b.Drops(x.Lot, g*2/3), x.Lot.Name))
		}
	}
	out := []string{"Gloves on. Warm the paste until it folds without cracking, fold and roll it."}
	look := fmt.Sprintf("Look: it should be paler than the pat called fresh (%s).", t.fresh.Hex())
	if len(first) > 0 {
		out = append(out, fmt.Sprintf("First two thirds: %s. Knead until no streak is left, about 5 min.", read.List(first)),
			look+" Add the rest, knead, look again beside the target in daylight.")
	} else {
		out = append(out, fmt.Sprintf("Work %s in on the tip of a toothpick, half of it first. Knead until no streak is left, about 5 min.", read.List(rest)),
			look+" Add what is left, knead, look again beside the target in daylight.")
	}
	out = append(out, fmt.Sprintf("Stop at fresh, not at the target: bagged for %s it deepens to %s.", restHours, t.rested.Hex()))
	if t.Plain > 0 {
		out = append(out, StripesSay)
	}
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
		out = append(out, LetDown{From: orName(x.Piece), Dark: noun.Figure{Value: dark, Unit: "g", Text: read.Trimmed(dark, 1) + " g", Why: why}, White: noun.Figure{Value: g.grams - dark, Unit: "g", Text: read.Trimmed(g.grams-dark, 1) + " g", Why: why}, Off: offSays(r.De00), Hex: r.Hex})
	}
	return out
}

var StripesSay = fmt.Sprintf("Part-mixed: only half of the paste is coloured. Lay it along the plain half, twist two turns, fold, roll back; %d times.", colour.Rope.Folds)

// Marble asks the core for the stripes of a part-mixed piece.
func Marble(t *Tint) (colour.MarbleOut, error) {
	return colour.Marble(colour.MarbleIn{DiameterMM: &colour.Rope.DiameterMM, LengthMM: &colour.Rope.LengthMM, Turns: &colour.Rope.Turns, MinorShare: &colour.Rope.Share, Cycles: &colour.Rope.Folds, A: t.base, B: t.rested})
}

func (b *Means) marbled(t *Tint) *MarbledView {
	m, err := Marble(t)
	if err != nil {
		return nil
	}
	return &MarbledView{Far: m.FarHex, Solid: m.SolidHex,
		Say: fmt.Sprintf("Half plain, half coloured: twist and fold %d times for stripes of %s mm. After %d it is one colour.", colour.Rope.Folds, read.Trimmed(m.StripeMM, 1), m.CyclesToSolid),
		Why: &noun.Why{Rule: "Each twist and fold doubles the stripes, less what kneading wastes (assumed).", Formula: "stripe = rope × share × g^(-0.8 n), g from the area of the helicoid",
			Values: []noun.Named{{Name: "rope", Text: fmt.Sprintf("%s mm across, %s mm long, %s turns (assumed)", read.Trimmed(colour.Rope.DiameterMM, 0), read.Trimmed(colour.Rope.LengthMM, 0), read.Trimmed(colour.Rope.Turns, 0))}, {Name: "g", Text: read.Trimmed(m.Factor, 2)}}}}
}
