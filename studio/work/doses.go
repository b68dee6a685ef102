package work

import (
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

func (b *Means) dose(school string, plainG float64) (paste.HardenerOut, error) {
	return paste.Hardener(paste.HardenerIn{PasteG: &plainG, School: &school, Powder: &b.Kitchen.Powder, GramsPerTsp: b.Kitchen.SpoonOf(b.Kitchen.Powder), Spoons: new(b.Reader.Spoons())})
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

// spoonSays what a dose comes to by eighths of a spoon.
func spoonSays(g, off float64) string {
	switch {
	case g <= 0:
		return "under an eighth of a spoon"
	case math.Abs(off) <= 10:
		return "near enough by the spoon"
	}
	return fmt.Sprintf("the spoon gives %s %% too %s", read.Trimmed(math.Abs(off), 0), map[bool]string{true: "much", false: "little"}[off > 0])
}

func doseWhy(d paste.HardenerOut, k *noun.Kitchen) *noun.Why {
	spoon := "by the powder's density"
	if own := k.SpoonOf(k.Powder); own != nil {
		spoon = read.Trimmed(*own, 2) + " g, weighed"
	}
	return &noun.Why{Rule: "Hardener is dosed by mass, in per cent of the plain paste; the school defines the spoon.", Formula: "powder = plain paste × % × brand factor",
		Values: []noun.Named{{Name: "dose", Text: read.Percent(d.Percent)}, {Name: "spread of the school and powder", Text: read.Percent(d.PercentLow) + " to " + read.Percent(d.PercentHigh)}, {Name: "level teaspoon", Text: spoon}, {Name: "share of the finished paste", Text: read.Percent(d.TotalShare * 100)}}}
}

// schools sets the ways of dosing side by side.
func (b *Means) schools(w *Reckoned, v *PasteView, advice *paste.Advice, plain float64) {
	total := w.Batch.PasteG
	if total <= 0 || w.Piece.Dough != "" {
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
		x := DoseView{Code: s.Code, Name: read.SchoolNames[s.Code], Why: b.Reader.Say(s.Why), Percent: read.Percent(d.Percent), Strength: read.Trimmed(e, 2) + " % gum",
			Plain: noun.Figure{Value: total - d.PowderG, Unit: "g", Text: b.Reader.Mass(total - d.PowderG), Why: nil}, Powder: noun.Figure{Value: d.PowderG, Unit: "g", Text: b.Reader.Powder(b.Kitchen.Powder, d.PowderG).Text, Why: doseWhy(d, b.Kitchen)},
			Spoons: spoonsText(d, b.Kitchen), Rest: restSays(d), Usual: s.Code == b.Kitchen.School, Chosen: w.dose != nil && (w.Piece.School == s.Code || w.Piece.School == "" && s.Code == "light")}
		if strings.Contains(x.Powder.Text, d.SpoonText) {
			x.Spoons = "" // said already
		}
		if d.SchoolLowPercent != nil {
			x.Spread = "it takes " + read.Percent(*d.SchoolLowPercent)
			if high := read.Percent(*d.SchoolHighPercent); high != read.Percent(*d.SchoolLowPercent) {
				x.Spread += " to " + high
			}
			if d.DensityLowFactor < 1 {
				x.Spread += fmt.Sprintf("; how dense the powder lies adds × %s to %s", read.Trimmed(d.DensityLowFactor, 2), read.Trimmed(d.DensityHighFactor, 2))
			}
		}
		if d.SpoonErrorPercent != nil {
			x.Rounding = spoonSays(d.SpoonedG, *d.SpoonErrorPercent)
		}
		switch {
		case d.Capped:
			x.Warning = fmt.Sprintf("Stopped at %s: more crumbles.", read.Percent(d.CapPercent))
		case d.Brittle:
			x.Warning = "Over 6 %: brittle, and it tastes dry."
		}
		switch {
		case advice.Empty:
		case e < advice.Window.From-1e-9:
			x.Out = "too soft for this piece"
		case e > orEnd(advice.Window.To)+1e-9:
			x.Out = "too stiff for this piece"
		}
		v.Schools = append(v.Schools, x)
	}
}
