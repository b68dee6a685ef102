package studio

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// namedColours are colours by names of our own, light to dark within a family.
var namedColours = []read.Option{
	{"#F7F5EE", "sugar white"}, {"#F0E4C8", "old ivory"}, {"#EAD9B0", "oat straw"}, {"#F2E39A", "primrose"}, {"#EFC84A", "ginkgo gold"}, {"#E39A45", "lantern orange"}, {"#C9713D", "terracotta"},
	{"#E9B7B0", "shell pink"}, {"#D87A8C", "dog rose"}, {"#B5442F", "toadstool red"}, {"#8C2F3A", "haw berry"}, {"#DCE3C4", "hazel catkin"}, {"#A9B99A", "sage"}, {"#8FB377", "young frond"}, {"#6B9455", "fern"},
	{"#4F7A3F", "deep fern"}, {"#5C6B3A", "moss"}, {"#37775E", "holly"}, {"#BFD8DC", "rime"}, {"#6FA3B5", "mill pond"}, {"#4F6FA8", "harebell"}, {"#2F3F66", "night blue"}, {"#B9A6CC", "heather mist"}, {"#7A5C99", "heather"},
	{"#B08A63", "acorn"}, {"#7A5236", "bark"}, {"#4A3226", "wet earth"}, {"#8B8D87", "slate"}, {"#2B3A34", "beetle"},
}

// looksLike puts a colour into words for who cannot see it as it is: the nearest
// of our names, and whether it is lighter or darker than that.
func (b *benchOf) looksLike(hex string) string {
	name, err := once("name|"+hex, func() (string, error) {
		best, near := read.Option{}, math.Inf(1)
		for _, n := range namedColours {
			if d := de00(hex, n.Code); d < near {
				best, near = n, d
			}
		}
		switch d := lightOf(hex) - lightOf(best.Code); {
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
	return b.r.Say(name)
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
func (b *benchOf) baseChoices(target string) []read.Option {
	out := []read.Option{}
	for _, name := range colour.Bases() {
		out = append(out, read.Option{name, b.r.Say(name)})
		if name == icingBase {
			out[len(out)-1].Say += ", for cords and dots"
		}
	}
	for i := range b.lots {
		if l := &b.lots[i]; l.Sugar() && l.Swatch != nil && l.MassG > 0 && lightOf(*l.Swatch) > lightOf(target) {
			out = append(out, read.Option{fmt.Sprint(l.ID), l.Name})
		}
	}
	return out
}

// ShowRecipe finds a colour in another base, in so many grams.
func (s *Service) ShowRecipe(ctx context.Context, slug string, commission int64, target, base, grams string) (out OtherBase, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		b, c, _, err := s.benchOne(tx, k, now, commission)
		if err != nil {
			return err
		}
		f := read.Field[noun.Kitchen]{Name: "grams", Kind: "amount", Dim: "mass", Lo: 1, Hi: 50000}
		g, err := f.Number(b.r, grams)
		if err != nil {
			return err
		}
		var hex string
		if err := read.ReadSwatch("target", target, &hex); err != nil {
			return err
		}
		p, ok := colour.BaseOf(base)
		name := base
		if !ok {
			id, _ := strconv.ParseInt(base, 10, 64)
			i := slices.IndexFunc(b.lots, func(l noun.Lot) bool { return l.ID == id })
			if i < 0 {
				return fault.New(fault.UnknownValue, "base", "Choose a base of the list, or a tub of the pantry.")
			}
			p, name = pasteOfLot(&b.lots[i]), b.lots[i].Name
		}
		out.Base = b.r.Say(name)
		if d := lightOf(hex) - lightOf(p.Hex()); d > 0.5 {
			out.Says = fmt.Sprintf("%s is darker than the colour that is wanted: nothing kneaded in makes it lighter but white.", read.UpperFirst(out.Base))
		}
		lots, _ := b.gelLots(&c)
		if len(lots) == 0 {
			return fault.New(fault.Unreachable, "base", "There is no gel in the pantry that may go in.")
		}
		r, err := b.recipe(hex, p, lots)
		if err != nil {
			return err
		}
		out.Recipe = *b.recipeView(&tint{baseSay: out.Base}, r, lots, g, false)
		return nil
	})
	return out, err
}

// spoonsSay is grams of a powder in level spoons, with what rounding them does.
func (b *benchOf) spoonsSay(powder string, g float64) string {
	perTsp := measure.Densities[powder].Nominal * measure.SpoonSchools[b.r.Spoons()].Tsp
	own := ""
	if mine := b.k.SpoonOf(powder); mine != nil {
		perTsp, own = *mine, " of yours, level"
	}
	tsp := g / perTsp
	rounded := measure.Round(tsp, 0.125) * perTsp
	say := measure.FormatSpoons(tsp, b.r.Spoons()) + own
	if rounded > 0 {
		say += fmt.Sprintf(", %+.0f %% by rounding", 100*(rounded-g)/g)
	}
	return strings.TrimSpace(say)
}
