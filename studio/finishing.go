package studio

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

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

// finish predicts how a lot looks on a ground after passes (of dust) or coats
// (of paint). spirit is parts of spirit to one of powder or gel; nil: the usual.
func (b *benchOf) finish(l *noun.Lot, spirit *float64, ground colour.Paste, passes, coats int) (FinishView, error) {
	in := colour.FinishIn{Ground: ground}
	v := FinishView{Order: []string{}}
	k, _ := read.KindOf(l.Kind)
	v.Eats = b.r.Say(k.Eaten)
	parts := 1.0
	if spirit != nil {
		parts = *spirit
	}
	thinned := fmt.Sprintf("%s parts of clear spirit to 1", read.Trimmed(parts, 1))
	switch l.Kind {
	case "petalDust", "lustreDust":
		in.Kind, in.Colour, in.Passes = new(map[string]string{"petalDust": "petalDust", "lustreDust": "lustre"}[l.Kind]), *l.Swatch, &passes
		v.Say = fmt.Sprintf("%s, %s", l.Name, count(passes, "pass"))
	case "metalPowder":
		in.Kind, in.Colour, in.SpiritParts, in.Coats = new("metalPaint"), *l.Swatch, &parts, &coats
		v.Say = fmt.Sprintf("%s as paint, %s", l.Name, count(coats, "coat"))
		v.Mix = fmt.Sprintf("%s by weight: 0.5 g of powder takes %s g, about %s.", thinned, read.Trimmed(0.5*parts, 2), count(int(math.Round(0.5*parts/colour.SpiritDropG)), "drop"))
	case "gel":
		g, err := gelOfLot(l)
		if err != nil {
			return v, err
		}
		in.Kind, in.Gel, in.SpiritParts, in.Coats = new("gelPaint"), g, &parts, &coats
		v.Say = fmt.Sprintf("%s as a wash, %s", l.Name, count(coats, "coat"))
		v.Mix = fmt.Sprintf("%s by weight: a drop of gel takes %s of spirit.", thinned, count(int(math.Round(b.k.DropG*parts/colour.SpiritDropG)), "drop"))
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
	v.Dark = lightOf(v.Hex) < darkEnough
	switch {
	case out.CoverShare != nil && l.Kind == "lustreDust":
		v.Covers = fmt.Sprintf("Glows: covers %s %%, the ground shows through.", read.Trimmed(*out.CoverShare*100, 0))
	case out.CoverShare != nil:
		v.Covers = fmt.Sprintf("Hides %s %% of the ground, matt.", read.Trimmed(*out.CoverShare*100, 0))
	case out.CoatsToHide != nil && *out.CoatsToHide == 0:
		v.Covers = "Will not cover: thin less, or put white or metallic first."
	case out.CoatsToHide != nil:
		v.Covers = fmt.Sprintf("Hides the ground after %s.", count(*out.CoatsToHide, "coat"))
	}
	v.Order = finishOrder(l.Kind)
	v.Why = &noun.Why{Rule: "Light goes through the film, meets the ground and comes back (Kubelka-Munk). Shares of a pass and thickness of a coat are assumed.", Formula: "a pass of petal dust covers 35 % of what is left, of lustre 45 %; a brushed coat is uneven by 0.4",
		Values: []noun.Named{{"ground", ground.Hex()}, {l.Name, *l.Swatch}}}
	return v, nil
}

// glaze is a clear film over a ground.
func (b *benchOf) glaze(l *noun.Lot, v FinishView, ground string) (FinishView, error) {
	hex, err := colour.Glazed(ground)
	if err != nil {
		return v, err
	}
	v.Say, v.Hex, v.Dark = l.Name+", one coat", hex, lightOf(hex) < darkEnough
	v.Covers = "Shines and deepens the colour; hides nothing."
	if l.Kind == "pipingGel" {
		v.Mix = "2 parts of piping gel to 1 of water, warmed (assumed)."
	}
	v.Order = []string{"Last of all: it locks dust and dry paint.", "A fine mist or one thin coat; stand pieces so that it does not pool.", "Never before the piece is hard: a film keeps it soft."}
	v.Why = &noun.Why{Rule: "A dull surface scatters some of the light before it enters: half (assumed) of the 4 % that sugar throws back (Fresnel, Saunderson 1942). Under a glaze that veil is gone.", Formula: "R under glaze = (R - 0.02)/(1 - 0.02)", Values: []noun.Named{{"ground", ground}}}
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

// ShowFinish shows one finish over a colour.
func (s *Service) ShowFinish(ctx context.Context, slug string, lot int64, ground string, passes int, spirit string) (out FinishView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		l, err := tx.Lot(lot)
		if err != nil {
			return err
		}
		if l.Swatch == nil && l.Kind != "glaze" && l.Kind != "pipingGel" {
			return fault.New(fault.Required, "lot", "%s has no swatch yet: give it one in the pantry.", l.Name)
		}
		p, err := colour.PasteOf(ground)
		if err != nil {
			return fault.New(fault.Syntax, "ground", "The ground is a swatch such as #5F8A4A.")
		}
		b := &benchOf{k: k, r: read.Reader{k}, now: now}
		var parts *float64
		if strings.TrimSpace(spirit) != "" {
			f := read.Field[noun.Lot]{Name: "spirit", Kind: "amount", Dim: "number", Lo: 0, Hi: 100}
			x, err := f.Number(b.r, spirit)
			if err != nil {
				return err
			}
			parts = &x
		}
		out, err = b.finish(&l, parts, p, passes, max(1, min(8, passes)))
		return err
	})
	return out, err
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

// ShowLadder finds n tones between two mixes of equal steps, each of so many
// grams.
func (s *Service) ShowLadder(ctx context.Context, slug, from, to string, n int, grams string) (out LadderView, err error) {
	err = s.in(ctx, slug, func(_ Tx, k *noun.Kitchen, _ time.Time) error {
		a, err := colour.PasteOf(from)
		if err != nil {
			return fault.New(fault.Syntax, "from", "A swatch such as #5F8A4A.")
		}
		b, err := colour.PasteOf(to)
		if err != nil {
			return fault.New(fault.Syntax, "to", "A swatch such as #5F8A4A.")
		}
		f := read.Field[noun.Kitchen]{Name: "grams", Kind: "amount", Dim: "mass", Lo: 0.1, Hi: 50000}
		g, err := f.Number(read.Reader{k}, grams)
		if err != nil {
			return err
		}
		l, err := colour.Ladder(colour.LadderIn{Path: new("mix"), From: a, To: b, Steps: &n})
		if err != nil {
			return err
		}
		out.Shades = []LadderShade{}
		for i, t := range l.T {
			out.Shades = append(out.Shades, LadderShade{Hex: l.Hex[i], Dark: lightOf(l.Hex[i]) < darkEnough,
				From: noun.Figure{g * (1 - t), "g", read.Trimmed(g*(1-t), 1) + " g", nil}, To: noun.Figure{g * t, "g", read.Trimmed(g*t, fineDecimals(g*t)) + " g", nil}})
		}
		out.Step = fmt.Sprintf("Equal steps of ΔE %s: %s.", read.Trimmed(l.StepDe00, 1), apart(l.StepDe00))
		return nil
	})
	return out, err
}

// GelView is what is known of a bottle.
type GelView struct {
	Strength string   `json:"strength"`
	Band     float64  `json:"band" doc:"share by which its strength may be off"`
	Deepens  string   `json:"deepens"`
	Drop     string   `json:"drop"`
	History  []string `json:"history"`
}

func (b *benchOf) gelView(l *noun.Lot) *GelView {
	if l.Kind != "gel" || l.Swatch == nil {
		return nil
	}
	mean, band, n := l.Ratio()
	v := &GelView{Band: band, History: []string{}, Strength: fmt.Sprintf("As strong as its swatch, give or take %s %% (assumed).", read.Trimmed(band*100, 0))}
	if n > 0 {
		v.Strength = fmt.Sprintf("%s of its swatch, known within %s %%, from the last %s.", read.Trimmed(mean, 2), read.Trimmed(band*100, 0), count(n, "mix"))
	}
	if l.Deepening != nil && *l.Deepening > 0 {
		half := 3.0
		if l.HalfTimeHours != nil {
			half = *l.HalfTimeHours
		}
		v.Deepens = fmt.Sprintf("Deepens by %s %% as it rests, half of that in %s h.", read.Trimmed(*l.Deepening*100, 0), read.Trimmed(half, 1))
	}
	drop, from := b.k.DropG, "as in Kitchen"
	if l.DropG != nil {
		drop, from = *l.DropG, "weighed"
	}
	v.Drop = fmt.Sprintf("A drop is %s g (%s).", read.Trimmed(drop, 4), from)
	for _, m := range slices.Backward(l.Mixes) {
		if len(v.History) == shownFelt {
			break
		}
		v.History = append(v.History, fmt.Sprintf("%s: %s g in 100 g looked %s after %s h: %s of its swatch, ΔE %s left", m.At.In(b.now.Location()).Format("2 Jan"), read.Trimmed(m.Dose, 3), m.Seen, read.Trimmed(m.Hours, 1), read.Trimmed(m.Ratio, 2), read.Trimmed(m.Off, 1)))
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

const mostMixes = 100

// Compare learns how strong a bottle is from a mix.
func (s *Service) Compare(ctx context.Context, slug string, id int64, in CompareIn) error {
	_, err := s.act(ctx, slug, func(a *acting) error {
		l, err := a.Lot(id)
		if err != nil {
			return err
		}
		if l.Kind != "gel" || l.Swatch == nil {
			return fault.New(fault.Contradiction, "gel", "Only a gel with a swatch can be compared.")
		}
		r := read.Reader{a.k}
		drop := a.k.DropG
		if l.DropG != nil {
			drop = *l.DropG
		}
		gel, err := readGel(r, in.Gel, drop)
		if err != nil {
			return err
		}
		f := read.Field[noun.Lot]{Name: "paste", Kind: "amount", Dim: "mass", Lo: 1, Hi: 5000}
		pasteG, err := f.Number(r, in.Paste)
		if err != nil {
			return err
		}
		hours := 0.0
		if strings.TrimSpace(in.Hours) != "" {
			f := read.Field[noun.Lot]{Name: "hours", Kind: "amount", Dim: "minutes", Lo: 0, Hi: 60000}
			minutes, err := f.Number(r, hoursText(in.Hours))
			if err != nil {
				return err
			}
			hours = minutes / 60
		}
		var seen string
		if err := read.ReadSwatch("seen", in.Seen, &seen); err != nil {
			return err
		}
		dose := 100 * gel / pasteG
		if dose > 8 {
			return fault.New(fault.OutOfRange, "gel", "That is %s g in 100 g: 8 g at most are reckoned with.", read.Trimmed(dose, 1))
		}
		g, err := colour.GelOf(*l.Swatch)
		if err != nil {
			return err
		}
		out, err := colour.Calibrate(colour.CalibrateIn{Kind: new("strength"), Gels: []any{map[string]any{"gel": g, "dose": dose}}, Seen: seen})
		if err != nil {
			return err
		}
		deepening, half := 0.0, 3.0
		if l.Deepening != nil {
			deepening = *l.Deepening
		}
		if l.HalfTimeHours != nil {
			half = *l.HalfTimeHours
		}
		rested := *out.Ratio * (1 + deepening) / (1 + deepening*(1-math.Exp2(-hours/half)))
		if *out.De00 > 12 {
			return fault.New(fault.Contradiction, "seen", "%s is no shade of this gel: the nearest is ΔE %s away. Compare in daylight, and pick once more.", seen, read.Trimmed(*out.De00, 0))
		}
		if rested < 0.1 || rested > 10 {
			return fault.New(fault.OutOfRange, "seen", "That would make it %s times its swatch: were the grams right?", read.Trimmed(rested, 2))
		}
		l.Mixes = append(slices.Clone(l.Mixes), noun.Mixed{At: a.now.UTC().Truncate(time.Second), Dose: dose, Base: "white sugar paste", Seen: seen, Hours: hours, Ratio: rested, Off: *out.De00})
		if n := len(l.Mixes); n > mostMixes {
			l.Mixes = l.Mixes[n-mostMixes:]
		}
		a.say(0, "compared %s: %s of its swatch", l.Name, read.Trimmed(rested, 2))
		return a.SaveLot(&l)
	}, nil)
	return err
}

// hoursText lets a bare number be hours.
func hoursText(s string) string {
	if read.BareNumber.MatchString(strings.TrimSpace(s)) {
		return s + " h"
	}
	return s
}

// readGel takes grams or drops.
func readGel(r read.Reader, text string, dropG float64) (float64, error) {
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
