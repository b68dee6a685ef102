package work

import (
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/colour"
	"dustyfern/craft/measure"
	"dustyfern/studio/read"
)

// looksLike puts a colour into words for who cannot see it as it is: the nearest
// of our names, and whether it is lighter or darker than that.
func (b *Means) looksLike(hex string) string {
	name, err := once("name|"+hex, func() (string, error) {
		best, near := read.Option{}, math.Inf(1)
		for _, n := range read.Named {
			if d := de00(hex, n.Code); d < near {
				best, near = n, d
			}
		}
		switch d := LightOf(hex) - LightOf(best.Code); {
		case d > 4:
			return best.Say + ", lighter", nil
		case d < -4:
			return best.Say + ", darker", nil
		}
		return best.Say, nil
	})
	if err != nil {
		return ""
	}
	return b.Reader.Say(name)
}

// OtherBase asks for a colour in a base that the piece is not made of.
type OtherBase struct {
	Base   string     `json:"base"`
	Recipe RecipeView `json:"recipe"`
	Says   string     `json:"says"`
}

// icingBase is royal icing for cords and dots, beside the pastes.
const icingBase = "royal icing"

// baseChoices are bases that a colour can be tried in: those of the model, and
// the tubs that are light enough to start from.
func (b *Means) baseChoices(target string) []read.Option {
	out := []read.Option{}
	for _, name := range colour.Bases() {
		out = append(out, read.Option{Code: name, Say: b.Reader.Say(name)})
		if name == icingBase {
			out[len(out)-1].Say += ", for cords and dots"
		}
	}
	for i := range b.Lots {
		if l := &b.Lots[i]; l.Sugar() && l.Swatch != nil && l.MassG > 0 && LightOf(*l.Swatch) > LightOf(target) {
			out = append(out, read.Option{Code: fmt.Sprint(l.ID), Say: l.Name})
		}
	}
	return out
}

// SpoonsSay is grams of a powder in level spoons, with what rounding them does.
func (b *Means) SpoonsSay(powder string, g float64) string {
	perTsp := measure.Densities[powder].Nominal * measure.SpoonSchools[b.Reader.Spoons()].Tsp
	own := ""
	if mine := b.Kitchen.SpoonOf(powder); mine != nil {
		perTsp, own = *mine, " of yours, level"
	}
	tsp := g / perTsp
	rounded := measure.Round(tsp, 0.125) * perTsp
	say := measure.FormatSpoons(tsp, b.Reader.Spoons()) + own
	if rounded > 0 {
		say += fmt.Sprintf(", %+.0f %% by rounding", 100*(rounded-g)/g)
	}
	return strings.TrimSpace(say)
}
