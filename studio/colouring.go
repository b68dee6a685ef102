package studio

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"reflect"
	"slices"
	"sort"
	"strings"
	"time"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
)

// ColoursView is the colour bench of a commission: each colour once, with the
// pieces that wear it.
type ColoursView struct {
	Colours []ColourView `json:"colours"`
	Board   []BoardLine  `json:"board" doc:"the order of kneading on one board, light to dark"`
	BoardIn Figure       `json:"boardIn" doc:"minutes of cleaning down in that order"`
	Kneaded []BoardDay   `json:"kneaded" doc:"the order in which the plan kneads, an evening each"`
	Named   []Option     `json:"named" doc:"colours by names of our own: the code is the swatch"`
}

// ColourView is one colour of a commission.
type ColourView struct {
	Key     string       `json:"key"`
	Name    string       `json:"name"`
	Target  string       `json:"target"`
	Dark    bool         `json:"dark" doc:"text on it is light"`
	Pieces  []string     `json:"pieces"`
	IDs     []int64      `json:"ids"`
	Total   string       `json:"total" doc:"paste of this colour"`
	Plain   string       `json:"plain,omitempty" doc:"that stays plain beside it, of a part-mixed piece"`
	Base    string       `json:"base"`
	Way     string       `json:"way" enum:"gels,leftovers,asItIs"`
	Say     string       `json:"say" doc:"why there is no recipe"`
	Missing string       `json:"missing"`
	Recipe  *RecipeView  `json:"recipe,omitempty"`
	Others  []RecipeView `json:"others"`
	Tubs    *TubsView    `json:"tubs,omitempty"`
	Pats    []PatView    `json:"pats"`
	Steps   []string     `json:"steps"`
	LetDown []LetDown    `json:"letDown" doc:"how it comes of a darker colour of this commission"`
	Matches []string     `json:"matches" doc:"how far it is from the same colour elsewhere"`
	Marbled *MarbledView `json:"marbled,omitempty"`
	Refused []string     `json:"refused"`
	Bases   []Option     `json:"bases" doc:"other bases that it can be tried in"`
}

// RecipeView is gels in a base.
type RecipeView struct {
	Key    string        `json:"key" doc:"the gels by name: what is chosen"`
	Chosen bool          `json:"chosen"`
	Gels   []GelDoseView `json:"gels"`
	Total  Figure        `json:"total"`
	Off    string        `json:"off" doc:"how far from what is wanted, in words and CIEDE2000"`
	Band   string        `json:"band"`
	Touchy string        `json:"touchy"`
	Sticky string        `json:"sticky"`
	Reach  string        `json:"reach" doc:"why it cannot be reached, when it cannot"`
	Hex    string        `json:"hex"`
}

// GelDoseView is one gel of a recipe.
type GelDoseView struct {
	Name   string `json:"name"`
	Swatch string `json:"swatch"`
	Per100 string `json:"per100"`
	Grams  Figure `json:"grams"`
	Drops  string `json:"drops"`
	Short  string `json:"short"`
}

// TubsView is a colour out of leftovers.
type TubsView struct {
	Use    []MixView `json:"use"`
	Off    string    `json:"off"`
	Saves  string    `json:"saves"`
	Try    []string  `json:"try" doc:"a thumb's worth first"`
	Hex    string    `json:"hex"`
	Chosen bool      `json:"chosen"`
	Short  string    `json:"short"`
}

// PatView is a pat of paste on the swatch bench.
type PatView struct {
	Kind  string `json:"kind" enum:"target,fresh,rested,finish"`
	Say   string `json:"say"`
	Hex   string `json:"hex"`
	Flash string `json:"flash" doc:"in glancing light"`
	Dark  bool   `json:"dark"`
	Off   string `json:"off" doc:"from the target"`
	Note  string `json:"note"`
}

// LetDown is a colour that is made from a darker one with white.
type LetDown struct {
	From  string `json:"from"`
	Dark  Figure `json:"dark"`
	White Figure `json:"white"`
	Off   string `json:"off"`
	Hex   string `json:"hex"`
}

// MarbledView is how often a part-mixed paste may be folded.
type MarbledView struct {
	Say   string `json:"say"`
	Far   string `json:"far"`
	Solid string `json:"solid"`
	Why   *Why   `json:"why"`
}

// BoardLine is one colour on the board.
type BoardLine struct {
	Name   string `json:"name"`
	Swatch string `json:"swatch"`
	Clean  string `json:"clean,omitempty" doc:"what is cleaned before it"`
}

// BoardDay is what the plan kneads in one stretch at the bench.
type BoardDay struct {
	When    string      `json:"when"`
	Clean   string      `json:"clean" doc:"all wiping of that stretch"`
	Colours []BoardLine `json:"colours"`
}

// kneaded is the stretches in which the plan kneads for a commission, with
// whatever else is kneaded on the same board.
func (b *benchOf) kneaded(id int64, steps []Step) []BoardDay {
	out := []BoardDay{}
	steps = slices.DeleteFunc(steps, func(st Step) bool { return !st.Attended || st.ActualStart != nil })
	slices.SortFunc(steps, func(a, c Step) int { return cmp.Or(a.PlannedStart.Compare(c.PlannedStart), cmp.Compare(a.Op, c.Op)) })
	for i, st := range steps {
		w := st.Planned.Window
		if slices.ContainsFunc(steps[:i], func(o Step) bool { return o.Planned.Window == w }) {
			continue
		}
		day := BoardDay{When: SayDate(st.PlannedStart, b.now), Colours: []BoardLine{}}
		clean, mine := 0, false
		for _, o := range steps[i:] {
			if o.Planned.Window != w {
				continue
			}
			clean += o.Planned.CleanDown
			if o.Kind != "knead" {
				continue
			}
			mine = mine || o.CommissionID == id
			name := o.Planned.Colour
			if name == "" {
				name = o.Planned.Swatch
			}
			if n := len(day.Colours); n == 0 || day.Colours[n-1].Swatch != o.Planned.Swatch {
				day.Colours = append(day.Colours, BoardLine{Name: name, Swatch: o.Planned.Swatch})
			}
		}
		if !mine {
			continue
		}
		day.Clean = "nothing to wipe between"
		if clean > 0 {
			day.Clean = SayMinutes(clean) + " of wiping"
		}
		out = append(out, day)
	}
	return out
}

// Colours shows the colour bench of a commission.
func (s *Service) Colours(ctx context.Context, slug string, id int64) (out ColoursView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		b, err := s.bench(tx, k, now)
		if err != nil {
			return err
		}
		cs, err := tx.Commissions()
		if err != nil {
			return err
		}
		ps, err := tx.Pieces(0)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(cs, func(c Commission) bool { return c.ID == id && c.DeletedAt == nil })
		if i < 0 {
			return ErrNotFound
		}
		steps, err := tx.Steps(0)
		if err != nil {
			return err
		}
		groups := b.colourGroups(&cs[i], ps)
		out = b.coloursView(groups)
		out.Kneaded = b.kneaded(id, steps)
		for j := range out.Colours {
			out.Colours[j].Matches = b.matches(groups[j], &cs[i], cs, ps)
		}
		return nil
	})
	return out, err
}

// colourGroup is the pieces of one colour, out of one paste.
type colourGroup struct {
	key    string
	pieces []*worked
	grams  float64 // that are coloured
	plain  float64 // that stay plain, of part-mixed pieces
}

func (b *benchOf) colourGroups(c *Commission, ps []Piece) (out []*colourGroup) {
	for i := range ps {
		p := &ps[i]
		if p.CommissionID != c.ID || p.DeletedAt != nil {
			continue
		}
		w := b.work(c, p)
		key := fmt.Sprintf("%s %s %s %t %s", p.Swatch, p.ColourFrom, p.Gels, p.Marbled, w.tintBase())
		j := slices.IndexFunc(out, func(g *colourGroup) bool { return g.key == key })
		if j < 0 {
			out, j = append(out, &colourGroup{key: key}), len(out)
		}
		out[j].pieces = append(out[j].pieces, w)
		if w.tint != nil {
			out[j].grams, out[j].plain = out[j].grams+w.tint.grams, out[j].plain+w.tint.plain
		}
	}
	sort.SliceStable(out, func(i, j int) bool { return lightOf(out[i].first().p.Swatch) > lightOf(out[j].first().p.Swatch) })
	return out
}

func (g *colourGroup) first() *worked { return g.pieces[0] }

func (w *worked) tintBase() string {
	if w.tint == nil {
		return ""
	}
	return w.tint.baseSay
}

func lightOf(hex string) float64 {
	l, err := colour.Lightness(hex)
	if err != nil {
		return 50
	}
	return l
}

// darkEnough is the lightness below which text on a pat is light: both stay
// above a contrast of 4.5.
const darkEnough = 55.0

func de00(a, b string) float64 {
	d, err := colour.Difference(colour.DifferenceIn{A: a, B: b})
	if err != nil {
		return math.Inf(1)
	}
	return d.De00
}

func offSays(de float64) string { return fmt.Sprintf("%s (ΔE %s)", apart(de), trimmed(de, 1)) }

func (b *benchOf) coloursView(groups []*colourGroup) ColoursView {
	out := ColoursView{Colours: []ColourView{}, Board: []BoardLine{}, Named: []Option{}}
	for _, n := range namedColours {
		out.Named = append(out.Named, Option{n.Code, b.r.say(n.Say)})
	}
	clean := 0
	before := -1.0
	for i, g := range groups {
		v := b.colourView(g, groups[i+1:])
		out.Colours = append(out.Colours, v)
		line := BoardLine{Name: v.Name, Swatch: v.Target, Clean: "a clean board"}
		if before >= 0 {
			line.Clean = fmt.Sprintf("wipe down, %s", SayMinutes(b.k.ToDarker))
			clean += b.k.ToDarker
			if b.k.ToDarker == 0 {
				line.Clean = "nothing"
			}
		}
		before = lightOf(v.Target)
		out.Board = append(out.Board, line)
	}
	back := 0
	for i := 1; i < len(groups); i++ { // the other way round
		cost := b.k.ToLighter
		if lightOf(groups[i-1].first().p.Swatch) >= b.k.WhiteFrom {
			cost = b.k.ToWhite
		}
		back += cost
	}
	out.BoardIn = Figure{float64(clean), "min", SayMinutes(clean), &Why{Rule: "White first, then from light to dark: a darker colour forgives what a lighter one does not.", Formula: "minutes of each clean-down of your kitchen, summed",
		Values: []Named{{"to a darker colour", SayMinutes(b.k.ToDarker)}, {"to a lighter colour", SayMinutes(b.k.ToLighter)}, {"to white", SayMinutes(b.k.ToWhite)}, {"dark to light would be", SayMinutes(back)}}}}
	return out
}

func (b *benchOf) colourView(g *colourGroup, darker []*colourGroup) ColourView {
	w := g.first()
	p, t := w.p, w.tint
	v := ColourView{Key: fmt.Sprint(p.ID), Name: p.Colour, Target: p.Swatch, Dark: lightOf(p.Swatch) < darkEnough, Pieces: []string{}, IDs: []int64{}, Others: []RecipeView{}, Pats: []PatView{}, Steps: []string{}, LetDown: []LetDown{}, Matches: []string{}, Refused: []string{}, Bases: b.baseChoices(p.Swatch), Way: fromGels}
	if v.Name == "" {
		v.Name = p.Swatch
	}
	for _, x := range g.pieces {
		v.Pieces, v.IDs = append(v.Pieces, fmt.Sprintf("%d %s", x.p.Wanted, x.p.Name)), append(v.IDs, x.p.ID)
	}
	if g.grams > 0 {
		v.Total = b.r.mass(math.Ceil(g.grams))
	}
	if g.plain > 0 {
		v.Plain = b.r.mass(math.Ceil(g.plain))
	}
	if t == nil {
		v.Say = w.view.Missing
		return v
	}
	v.Way, v.Base, v.Say, v.Missing = t.way, t.baseSay, t.say, t.missing
	lots, refused := b.gelLots(w.c)
	v.Refused = append(v.Refused, refused...)
	if t.way == fromGels && len(t.out.Gels) > 0 {
		v.Recipe = b.recipeView(t, t.out, lots, g.grams, true)
		all := t
		if p.Gels != "" && t.missing == "" { // what else there is, beside the set that was chosen
			best, err := b.recipe(p.Swatch, t.base, lots, t.grams)
			if err == nil {
				v.Others = append(v.Others, *b.recipeView(all, best, lots, g.grams, false))
				for _, o := range best.Alternatives {
					v.Others = append(v.Others, *b.recipeView(all, o, lots, g.grams, false))
				}
			}
		} else {
			for _, o := range t.out.Alternatives {
				v.Others = append(v.Others, *b.recipeView(all, o, lots, g.grams, false))
			}
		}
		v.Others = slices.DeleteFunc(v.Others, func(o RecipeView) bool { return o.Key == v.Recipe.Key || o.Key == "" })
		v.Steps = b.addingSteps(t, g.grams)
	} else if t.way == fromGels && t.say == "" {
		v.Say = "The base as it is comes nearest: no gel of the pantry brings it closer."
	}
	v.Tubs = b.tubsView(w, g.grams+g.plain)
	v.Pats = b.pats(w)
	if t.way == fromGels {
		v.LetDown = b.letDowns(g, darker)
	}
	if p.Marbled {
		v.Marbled = b.marbled(t)
	}
	return v
}

var reachSays = map[string]string{
	"baseTooDarkOrColoured": "The base is too dark or coloured for it: take white paste.", "lighterThanBase": "It is lighter than the base: nothing kneaded in makes a paste lighter but white.",
	"noGelOfThatHue": "No gel of the pantry has that hue.", "noGelToDullIt": "No gel of the pantry dulls it enough.", "tooSaturated": "It is more vivid than these gels can be.", "tooDeep": "It is deeper than 8 g of gel in 100 g make it: paint or dust it darker.",
}

func (b *benchOf) recipeView(t *tint, out colour.RecipeOut, lots []*Lot, grams float64, chosen bool) *RecipeView {
	v := &RecipeView{Gels: []GelDoseView{}, Off: offSays(out.De00), Hex: out.Hex, Chosen: chosen, Reach: reachSays[out.Reach]}
	var parts []gelPart
	var names []string
	for _, x := range out.Gels {
		i := slices.IndexFunc(lots, func(l *Lot) bool { return l.Name == x.Gel })
		if i < 0 {
			continue
		}
		l := lots[i]
		g := x.Dose * grams / 100
		mean, band, n := l.ratio()
		strength := "as its swatch says (assumed)"
		if n > 0 {
			strength = fmt.Sprintf("%s of its swatch, known within %s %%, from %s", trimmed(mean, 2), trimmed(band*100, 0), count(n, "mix"))
		}
		d := GelDoseView{Name: l.Name, Swatch: *l.Swatch, Per100: fmt.Sprintf("%s g in 100 g", trimmed(x.Dose, 3)), Drops: b.drops(l, g),
			Grams: Figure{g, "g", trimmed(math.Max(0.001, g), fineDecimals(g)) + " g", &Why{Rule: "Gels only darken: each takes away what it absorbs. The set of gels with the least distance, plus 0.2 for each further gel and 0.5 for each gram over 3 in 100.",
				Formula: "grams = dose × paste / 100", Values: []Named{{"dose", trimmed(x.Dose, 3) + " g in 100 g"}, {"paste", b.r.mass(grams)}, {"base", t.baseSay}, {"strength of this bottle", strength}}}}}
		if l.MassG < g {
			d.Short = fmt.Sprintf("only %s there", exactMass(b.r, l.MassG))
		}
		v.Gels = append(v.Gels, d)
		parts, names = append(parts, gelPart{l, x.Dose, g}), append(names, l.Name)
	}
	v.Key = strings.Join(names, " + ")
	total := out.TotalDose * grams / 100
	v.Total = Figure{total, "g", trimmed(total, 2) + " g", nil}
	v.Band = fmt.Sprintf("expect ΔE ± %s until the bottles are calibrated", trimmed(bandOf(parts), 1))
	if bandOf(parts) < 3 {
		v.Band = fmt.Sprintf("expect ΔE ± %s, by the mixes you compared", trimmed(bandOf(parts), 1))
	}
	if out.Sensitivity > 3 {
		v.Touchy = fmt.Sprintf("Touchy: a tenth too much of one gel shifts it by ΔE %s. Weigh it, or make twice as much.", trimmed(out.Sensitivity, 1))
	}
	if out.Sticky {
		v.Sticky = "Over 3 g in 100 g: sticky. Add it in stages and rest it before use."
	}
	return v
}

// restHours is how long a colour deepens before it is judged (assumed).
const restHours = "2 to 4 h"

func (b *benchOf) addingSteps(t *tint, grams float64) []string {
	var first, rest []string
	for _, x := range t.parts {
		g := x.dose * grams / 100
		switch {
		case g < b.k.DabG:
			first = append(first, "two thirds of the paste coloured with "+x.lot.Name)
		case g*2/3 < b.k.DabG: // too little to share
			rest = append(rest, fmt.Sprintf("%s of %s", b.drops(x.lot, g), x.lot.Name))
		default:
			first = append(first, fmt.Sprintf("%s of %s", b.drops(x.lot, g*2/3), x.lot.Name))
		}
	}
	out := []string{"Gloves on. Warm the paste until it folds without cracking, fold and roll it."}
	look := fmt.Sprintf("Look: it should be paler than the pat called fresh (%s).", t.fresh.Hex())
	if len(first) > 0 {
		out = append(out, fmt.Sprintf("First two thirds: %s. Knead until no streak is left, about 5 min.", list(first)),
			look+" Add the rest, knead, look again beside the target in daylight.")
	} else {
		out = append(out, fmt.Sprintf("Work %s in on the tip of a toothpick, half of it first. Knead until no streak is left, about 5 min.", list(rest)),
			look+" Add what is left, knead, look again beside the target in daylight.")
	}
	out = append(out, fmt.Sprintf("Stop at fresh, not at the target: bagged for %s it deepens to %s.", restHours, t.rested.Hex()))
	if t.plain > 0 {
		out = append(out, stripesSay)
	}
	return out
}

// tubsView asks which leftovers would make it without new gel.
func (b *benchOf) tubsView(w *worked, grams float64) *TubsView {
	t := w.tint
	if grams <= 0 || w.p.Dough != "" {
		return nil
	}
	lots, stock := b.tubsFor(w)
	if !slices.ContainsFunc(lots, func(l *Lot) bool { return l.Swatch != nil }) {
		return nil
	}
	out, err := b.leftovers(w.p.Swatch, grams, lots, stock)
	if err != nil || out.De00 > 12 {
		return nil
	}
	coloured := 0
	for _, u := range out.Use {
		if i := slices.IndexFunc(lots, func(l *Lot) bool { return fmt.Sprint(l.ID) == u.Name }); lots[i].Swatch != nil {
			coloured++
		}
	}
	if t.way != fromLeftovers && !b.offersTubs(coloured, out.De00) {
		return nil
	}
	v := &TubsView{Use: []MixView{}, Off: offSays(out.De00), Hex: out.Hex, Chosen: t.way == fromLeftovers, Try: []string{}}
	saved := 0.0
	const thumb = 10.0
	for _, u := range out.Use {
		i := slices.IndexFunc(lots, func(l *Lot) bool { return fmt.Sprint(l.ID) == u.Name })
		l := lots[i]
		note := ""
		if l.Swatch != nil {
			saved += u.MassG
			note, _ = b.ages(l)
		}
		v.Use = append(v.Use, MixView{Name: l.Name, Note: note, Swatch: lotSwatch(l), Grams: Figure{u.MassG, "g", trimmed(u.MassG, 1) + " g", &Why{Rule: "The tubs whose blend lies nearest; each further tub, fresh white and what stays behind in a tub cost a little, a tub that is used up gains.",
			Formula: "K and S of a mix are the mass-weighted means (Kubelka-Munk)", Values: []Named{{"wanted", b.r.mass(grams)}, {"in the tub", exactMass(b.r, b.there(w, l))}}}}})
		v.Try = append(v.Try, fmt.Sprintf("%s g %s", trimmed(u.MassG*thumb/out.MadeG, 1), l.Name))
	}
	if saved == 0 {
		return nil
	}
	v.Saves = b.r.mass(saved) + " of leftovers are used, not thrown away"
	if out.Short {
		v.Short = fmt.Sprintf("The tubs hold %s of the %s.", b.r.mass(out.MadeG), b.r.mass(grams))
	}
	return v
}

func lotSwatch(l *Lot) string {
	if l.Swatch != nil {
		return *l.Swatch
	}
	return baseOf(l.Kind).Hex()
}

// pats are the swatch bench: what is wanted, as mixed, rested, under each
// finish of the pantry.
func (b *benchOf) pats(w *worked) []PatView {
	t, target := w.tint, w.p.Swatch
	pat := func(kind, say, hex, note string) PatView {
		v := PatView{Kind: kind, Say: say, Hex: hex, Dark: lightOf(hex) < darkEnough, Note: note}
		if kind != "target" {
			v.Off = offSays(de00(hex, target))
		}
		return v
	}
	out := []PatView{pat("target", "wanted", target, "")}
	fresh, rested := t.fresh.Hex(), t.rested.Hex()
	if fresh != rested {
		out = append(out, pat("fresh", "fresh from kneading", fresh, "paler, it deepens"))
	}
	say := "rested"
	if fresh == rested {
		say = "as it is"
	}
	out = append(out, pat("rested", say, rested, ""))
	for i := range b.lots {
		l := &b.lots[i]
		k, _ := kindOf(l.Kind)
		if dust := k.shelf == shelfDust && l.Swatch != nil; !dust && l.Kind != "glaze" || len(out) > 7 {
			continue
		}
		if f, err := b.finish(l, nil, t.rested, 2, 1); err == nil {
			x := pat("finish", f.Say, f.Hex, "")
			x.Flash = f.Flash
			out = append(out, x)
		}
	}
	return out
}

// letDownNear is how much farther from the target a let-down may be than a
// recipe of its own, CIEDE2000.
const letDownNear = 4.0

// letDowns are darker colours of the commission that it comes of with white.
func (b *benchOf) letDowns(g *colourGroup, darker []*colourGroup) []LetDown {
	out := []LetDown{}
	w := g.first()
	if g.grams <= 0 || isWhite(w.p.Swatch) {
		return out
	}
	for _, d := range darker {
		x := d.first()
		if x.tint == nil || x.tint.way != fromGels || len(x.tint.parts) == 0 || x.tint.baseSay != w.tint.baseSay {
			continue
		}
		key := fmt.Sprintf("down|%s|%.2f|%s|%s", w.p.Swatch, g.grams, fingerprint(x.tint.rested), fingerprint(w.tint.base))
		r, err := once(key, func() (colour.LeftoversOut, error) {
			much := 50000.0
			return colour.Leftovers(colour.LeftoversIn{Target: w.p.Swatch, MassG: &g.grams, Stock: []colour.Leftover{
				{Name: new("dark"), Paste: x.tint.rested, MassG: &much}, {Name: new("white"), Paste: w.tint.base, MassG: &much}}})
		})
		if err != nil || r.De00 > letDownNear || len(r.Use) < 2 {
			continue
		}
		dark := r.Use[0].MassG
		why := &Why{Rule: "One strong mix let down with white makes related tones: they cannot clash.", Formula: "K and S of a mix are the mass-weighted means", Values: []Named{{"share of " + x.p.Colour, trimmed(100*dark/g.grams, 1) + " %"}, {"wanted", b.r.mass(g.grams)}}}
		out = append(out, LetDown{From: orName(x.p), Dark: Figure{dark, "g", trimmed(dark, 1) + " g", why}, White: Figure{g.grams - dark, "g", trimmed(g.grams-dark, 1) + " g", why}, Off: offSays(r.De00), Hex: r.Hex})
	}
	return out
}

func orName(p *Piece) string {
	if p.Colour != "" {
		return p.Colour
	}
	return p.Swatch
}

// matches says how far this colour is from the same one in other commissions.
func (b *benchOf) matches(g *colourGroup, c *Commission, all []Commission, ps []Piece) []string {
	out := []string{}
	w := g.first()
	if w.tint == nil {
		return out
	}
	for i := range all {
		o := &all[i]
		if o.ID == c.ID || o.DeletedAt != nil || o.State == "aside" {
			continue
		}
		for _, h := range b.colourGroups(o, ps) {
			x := h.first()
			same := x.p.Swatch == w.p.Swatch || w.p.Colour != "" && strings.EqualFold(x.p.Colour, w.p.Colour)
			if !same || x.tint == nil || x.p.Wanted == 0 {
				continue
			}
			de := de00(x.tint.rested.Hex(), w.tint.rested.Hex())
			say := fmt.Sprintf("%s in %s: the two batches differ by ΔE %s, %s.", upperFirst(orName(x.p)), o.Title, trimmed(de, 1), apart(de))
			if de >= 2 {
				say += " Mix one batch for both, or keep a pat to match."
			}
			out = append(out, say)
		}
	}
	return out
}

// The rope that is folded at the bench (assumed): 25 mm across, 150 mm long,
// two turns each time, half of it coloured.
const (
	stripes = 0.5
	ropeMM  = 25.0
	ropeLen = 150.0
	turns   = 2.0
	folds   = 3
)

var stripesSay = fmt.Sprintf("Part-mixed: only half of the paste is coloured. Lay it along the plain half, twist two turns, fold, roll back; %d times.", folds)

func marble(t *tint) (colour.MarbleOut, error) {
	return colour.Marble(colour.MarbleIn{DiameterMM: new(ropeMM), LengthMM: new(ropeLen), Turns: new(turns), MinorShare: new(stripes), Cycles: new(folds), A: t.base, B: t.rested})
}

func (b *benchOf) marbled(t *tint) *MarbledView {
	m, err := marble(t)
	if err != nil {
		return nil
	}
	return &MarbledView{Far: m.FarHex, Solid: m.SolidHex,
		Say: fmt.Sprintf("Half plain, half coloured: twist and fold %d times for stripes of %s mm. After %d it is one colour.", folds, trimmed(m.StripeMM, 1), m.CyclesToSolid),
		Why: &Why{Rule: "Each twist and fold doubles the stripes, less what kneading wastes (assumed).", Formula: "stripe = rope × share × g^(-0.8 n), g from the area of the helicoid",
			Values: []Named{{"rope", fmt.Sprintf("%s mm across, %s mm long, %s turns (assumed)", trimmed(ropeMM, 0), trimmed(ropeLen, 0), trimmed(turns, 0))}, {"g", trimmed(m.Factor, 2)}}}}
}

// SetColour chooses how pieces come to their colour: gels ("" for the best
// set), tubs that are left, or the paste as it is.
func (s *Service) SetColour(ctx context.Context, slug string, ids []int64, from, gels string, marbled *bool) error {
	if !slices.Contains([]string{"", fromGels, fromLeftovers, fromNothing}, from) {
		return fault.New(fault.UnknownValue, "from", "A colour comes from gels, from leftovers, or stays as it is.")
	}
	if len(gels) > 200 {
		return fault.New(fault.OutOfRange, "gels", "Three gels at most.")
	}
	return s.colourPieces(ctx, slug, ids, func(a *acting, p *Piece) (how string, err error) {
		was := *p
		p.ColourFrom, p.Gels = from, gels
		if marbled != nil {
			p.Marbled = *marbled
		}
		how = map[string]string{"": "by the best gels", fromGels: "by gels", fromLeftovers: "from leftovers", fromNothing: "as the paste is"}[from]
		if gels != "" {
			how = "with " + gels
		}
		if was.Marbled != p.Marbled {
			how += map[bool]string{true: ", part-mixed", false: ", mixed through"}[p.Marbled]
		}
		return how, nil
	})
}

// SetTarget gives pieces the colour that is wanted, and its name.
func (s *Service) SetTarget(ctx context.Context, slug string, ids []int64, swatch, name string) error {
	return s.colourPieces(ctx, slug, ids, func(a *acting, p *Piece) (how string, err error) {
		err = apply(pieceFields, reader{a.k}, p, map[string]string{"swatch": swatch, "colour": name}, a.now)
		how = p.Swatch
		if p.Colour != "" {
			how = p.Colour + ", " + how
		}
		return how, err
	})
}

// colourPieces changes pieces of one colour together, all or none of them.
func (s *Service) colourPieces(ctx context.Context, slug string, ids []int64, change func(*acting, *Piece) (how string, err error)) error {
	_, err := s.act(ctx, slug, func(a *acting) error {
		if len(ids) == 0 || len(ids) > 200 {
			return fault.New(fault.Required, "ids", "Which pieces?")
		}
		var names []string
		for _, id := range ids {
			p, err := a.Piece(id)
			if err != nil {
				return err
			}
			was := p
			how, err := change(a, &p)
			if err != nil {
				return err
			}
			if reflect.DeepEqual(was, p) {
				continue
			}
			names = append(names, p.Name)
			a.say(p.CommissionID, "coloured %s %s", list(names), how)
			if err := a.SavePiece(&p); err != nil {
				return err
			}
		}
		return nil
	}, nil)
	return err
}
