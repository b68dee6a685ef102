package work

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// FinishView is a dust or a paint over a colour.
type FinishView struct {
	Say    string    `json:"say"`
	Hex    string    `json:"hex"`
	Flash  string    `json:"flash"`
	Dark   bool      `json:"dark"`
	Covers string    `json:"covers"`
	Eats   string    `json:"eats"`
	Mix    string    `json:"mix" doc:"powder or gel to spirit, by grams and drops"`
	Order  []string  `json:"order"`
	Why    *noun.Why `json:"why,omitempty"`
}

// Finish predicts how a lot looks on a ground after passes (of dust) or coats
// (of paint). spirit is parts of spirit to one of powder or gel; nil: the usual.
func (b *Means) Finish(l *noun.Lot, spirit *float64, ground colour.Paste, passes, coats int) (FinishView, error) {
	in := colour.FinishIn{Ground: ground}
	v := FinishView{Order: []string{}}
	k, _ := read.KindOf(l.Kind)
	v.Eats = b.Reader.Say(k.Eaten)
	parts := 1.0
	if spirit != nil {
		parts = *spirit
	}
	thinned := fmt.Sprintf("%s parts of clear spirit to 1", read.Trimmed(parts, 1))
	switch l.Kind {
	case "petalDust", "lustreDust":
		in.Kind, in.Colour, in.Passes = new(map[string]string{"petalDust": "petalDust", "lustreDust": "lustre"}[l.Kind]), *l.Swatch, &passes
		v.Say = fmt.Sprintf("%s, %s", l.Name, read.Count(passes, "pass"))
	case "metalPowder":
		in.Kind, in.Colour, in.SpiritParts, in.Coats = new("metalPaint"), *l.Swatch, &parts, &coats
		v.Say = fmt.Sprintf("%s as paint, %s", l.Name, read.Count(coats, "coat"))
		v.Mix = fmt.Sprintf("%s by weight: 0.5 g of powder takes %s g, about %s.", thinned, read.Trimmed(0.5*parts, 2), read.Count(int(math.Round(0.5*parts/colour.SpiritDropG)), "drop"))
	case "gel":
		g, err := gelOfLot(l)
		if err != nil {
			return v, err
		}
		in.Kind, in.Gel, in.SpiritParts, in.Coats = new("gelPaint"), g, &parts, &coats
		v.Say = fmt.Sprintf("%s as a wash, %s", l.Name, read.Count(coats, "coat"))
		v.Mix = fmt.Sprintf("%s by weight: a drop of gel takes %s of spirit.", thinned, read.Count(int(math.Round(b.Kitchen.DropG*parts/colour.SpiritDropG)), "drop"))
		v.Eats = "The spirit holds alcohol until it has dried: keep it from flame and from tables without alcohol."
	case "glaze", "pipingGel":
		return b.glaze(l, v, ground.Hex())
	default:
		return v, fault.New(fault.Contradiction, "lot", "A finish is a dust, a metallic powder, a gel or a glaze.")
	}
	out, err := colour.Finish(in)
	if err != nil {
		return v, err
	}
	v.Hex, v.Flash = out.Hex, out.FlashHex
	v.Dark = LightOf(v.Hex) < DarkEnough
	switch {
	case out.CoverShare != nil && l.Kind == "lustreDust":
		v.Covers = fmt.Sprintf("Glows: covers %s %%, the ground shows through.", read.Trimmed(*out.CoverShare*100, 0))
	case out.CoverShare != nil:
		v.Covers = fmt.Sprintf("Hides %s %% of the ground, matt.", read.Trimmed(*out.CoverShare*100, 0))
	case out.CoatsToHide != nil && *out.CoatsToHide == 0:
		v.Covers = "Will not cover: thin less, or put white or metallic first."
	case out.CoatsToHide != nil:
		v.Covers = fmt.Sprintf("Hides the ground after %s.", read.Count(*out.CoatsToHide, "coat"))
	}
	v.Order = finishOrder(l.Kind)
	v.Why = &noun.Why{Rule: "Light goes through the film, meets the ground and comes back (Kubelka-Munk). Shares of a pass and thickness of a coat are assumed.", Formula: "a pass of petal dust covers 35 % of what is left, of lustre 45 %; a brushed coat is uneven by 0.4",
		Values: []noun.Named{{Name: "ground", Text: ground.Hex()}, {Name: l.Name, Text: *l.Swatch}}}
	return v, nil
}

// glaze is a clear film over a ground.
func (b *Means) glaze(l *noun.Lot, v FinishView, ground string) (FinishView, error) {
	hex, err := colour.Glazed(ground)
	if err != nil {
		return v, err
	}
	v.Say, v.Hex, v.Dark = l.Name+", one coat", hex, LightOf(hex) < DarkEnough
	v.Covers = "Shines and deepens the colour; hides nothing."
	if l.Kind == "pipingGel" {
		v.Mix = "2 parts of piping gel to 1 of water, warmed (assumed)."
	}
	v.Order = []string{"Last of all: it locks dust and dry paint.", "A fine mist or one thin coat; stand pieces so that it does not pool.", "Never before the piece is hard: a film keeps it soft."}
	v.Why = &noun.Why{Rule: "A dull surface scatters some of the light before it enters: half (assumed) of the 4 % that sugar throws back (Fresnel, Saunderson 1942). Under a glaze that veil is gone.", Formula: "R under glaze = (R - 0.02)/(1 - 0.02)", Values: []noun.Named{{Name: "ground", Text: ground}}}
	return v, nil
}

func finishOrder(kind string) []string {
	switch kind {
	case "petalDust":
		return []string{"Mid tone first, over all of it.", "Then the darker one in depths, at ends and undersides.", "White or pearl on the high points last.", "Dip the brush, wipe it, tap it: less is more, dust cannot be taken off."}
	case "lustreDust":
		return []string{"After petal dust, never before.", "Brush dry on raised parts.", "A short steam or one mist of glaze locks it."}
	case "metalPowder":
		return []string{"On flats, so that the relief still reads.", "One even coat, dry, then the next.", "Stipple studs instead of brushing them."}
	}
	return []string{"Thin coats, each dry before the next.", "Dark spots often want a second, thicker coat."}
}

// LadderView is tones from one colour to another in equal steps.
type LadderView struct {
	Shades []LadderShade `json:"shades"`
	Step   string        `json:"step"`
}

// LadderShade is one tone: how much of each end goes in.
type LadderShade struct {
	Hex  string      `json:"hex"`
	Dark bool        `json:"dark"`
	From noun.Figure `json:"from"`
	To   noun.Figure `json:"to"`
}

// GelView is what is known of a bottle.
type GelView struct {
	Strength string   `json:"strength"`
	Band     float64  `json:"band" doc:"share by which its strength may be off"`
	Deepens  string   `json:"deepens"`
	Drop     string   `json:"drop"`
	History  []string `json:"history"`
}

func (b *Means) GelView(l *noun.Lot) *GelView {
	if l.Kind != "gel" || l.Swatch == nil {
		return nil
	}
	mean, band, n := l.Ratio()
	v := &GelView{Band: band, History: []string{}, Strength: fmt.Sprintf("As strong as its swatch, give or take %s %% (assumed).", read.Trimmed(band*100, 0))}
	if n > 0 {
		v.Strength = fmt.Sprintf("%s of its swatch, known within %s %%, from the last %s.", read.Trimmed(mean, 2), read.Trimmed(band*100, 0), read.Count(n, "mix"))
	}
	if l.Deepening != nil && *l.Deepening > 0 {
		half := 3.0
		if l.HalfTimeHours != nil {
			half = *l.HalfTimeHours
		}
		v.Deepens = fmt.Sprintf("Deepens by %s %% as it rests, half of that in %s h.", read.Trimmed(*l.Deepening*100, 0), read.Trimmed(half, 1))
	}
	drop, from := b.Kitchen.DropG, "as in Kitchen"
	if l.DropG != nil {
		drop, from = *l.DropG, "weighed"
	}
	v.Drop = fmt.Sprintf("A drop is %s g (%s).", read.Trimmed(drop, 4), from)
	for _, m := range slices.Backward(l.Mixes) {
		if len(v.History) == ShownFelt {
			break
		}
		v.History = append(v.History, fmt.Sprintf("%s: %s g in 100 g looked %s after %s h: %s of its swatch, ΔE %s left", b.Reader.Day(m.At.In(b.Now.Location()), false), read.Trimmed(m.Dose, 3), m.Seen, read.Trimmed(m.Hours, 1), read.Trimmed(m.Ratio, 2), read.Trimmed(m.Off, 1)))
	}
	return v
}

// CompareIn is a mix of one bottle that was compared with a card or a photo.
type CompareIn struct {
	Gel   string `json:"gel" doc:"grams or drops of it, such as 1 drop or 0.05 g"`
	Paste string `json:"paste" doc:"grams of white sugar paste"`
	Hours string `json:"hours" doc:"after kneading"`
	Seen  string `json:"seen" doc:"the swatch that it matches"`
}

const MostMixes = 100

// HoursText lets a bare number be hours.
func HoursText(s string) string {
	if read.BareNumber.MatchString(strings.TrimSpace(s)) {
		return s + " h"
	}
	return s
}

// ReadGel takes grams or drops.
func ReadGel(r read.Reader, text string, dropG float64) (float64, error) {
	low := strings.ToLower(strings.TrimSpace(text))
	if low == "" {
		return 0, fault.New(fault.Required, "gel", "How much gel? Such as 1 drop, or 0.05 g.")
	}
	if n, ok := strings.CutSuffix(strings.TrimSuffix(low, "s"), "drop"); ok {
		f := read.Field[noun.Lot]{Name: "gel", Kind: "count", Lo: 1, Hi: 1000}
		x, err := f.Number(r, strings.TrimSpace(n))
		return x * dropG, err
	}
	f := read.Field[noun.Lot]{Name: "gel", Kind: "amount", Dim: "mass", Fine: true, Lo: 0.001, Hi: 400}
	return f.Number(r, text)
}
