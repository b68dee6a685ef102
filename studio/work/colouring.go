package work

import (
	"fmt"
	"math"
	"slices"
	"sort"
	"strings"
	"time"

	"dustyfern/craft/colour"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// ColoursView is the colour bench of a commission: each colour once, with the
// pieces that wear it.
type ColoursView struct {
	Colours []ColourView  `json:"colours"`
	Board   []BoardLine   `json:"board" doc:"the order of kneading on one board, light to dark"`
	BoardIn noun.Figure   `json:"boardIn" doc:"minutes of cleaning down in that order"`
	Kneaded []BoardDay    `json:"kneaded" doc:"the order in which the plan kneads, an evening each"`
	Named   []read.Option `json:"named" doc:"colours by names of our own: the code is the swatch"`
}

// ColourView is one colour of a commission.
type ColourView struct {
	Key     string         `json:"key"`
	Name    string         `json:"name"`
	Target  string         `json:"target"`
	Dark    bool           `json:"dark" doc:"text on it is light"`
	Pieces  []string       `json:"pieces"`
	IDs     []int64        `json:"ids"`
	Total   string         `json:"total" doc:"paste of this colour"`
	Plain   string         `json:"plain,omitempty" doc:"that stays plain beside it, of a part-mixed piece"`
	Base    string         `json:"base"`
	Way     string         `json:"way" enum:"gels,leftovers,asItIs"`
	Say     string         `json:"say" doc:"why there is no recipe"`
	Missing string         `json:"missing"`
	Recipe  *RecipeView    `json:"recipe,omitempty"`
	Others  []RecipeView   `json:"others"`
	Tubs    *TubsView      `json:"tubs,omitempty"`
	Pats    []PatView      `json:"pats"`
	Steps   []string       `json:"steps"`
	LetDown []LetDown      `json:"letDown" doc:"how it comes of a darker colour of this commission"`
	Matches []string       `json:"matches" doc:"how far it is from the same colour elsewhere"`
	Gels    string         `json:"gels" doc:"the set that was chosen; empty: the best"`
	Marbled *MarbledView   `json:"marbled,omitempty"`
	Beside  []StrandChoice `json:"beside" doc:"what can be half kneaded in beside it"`
	Parts   string         `json:"parts" doc:"of a part-mixed colour, its own first: 1 : 1"`
	Refused []string       `json:"refused"`
	Bases   []read.Option  `json:"bases" doc:"other bases that it can be tried in"`
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
	Named string `json:"named" doc:"what it looks like, in words"`
	Dark  bool   `json:"dark"`
	Off   string `json:"off" doc:"from the target"`
	Note  string `json:"note"`
}

// LongestStretch is no shorter than any stretch of hours.
const LongestStretch = 24 * time.Hour

// ColourGroup is the pieces of one colour, out of one paste.
type ColourGroup struct {
	key    string
	pieces []*Reckoned
	grams  float64 // that are coloured
	plain  float64 // that stay plain, of part-mixed pieces
	all    float64 // the whole paste of them
}

// ColourGroups are the pieces of a commission by colour.
func (b *Means) ColourGroups(c *noun.Commission, ps []noun.Piece) (out []*ColourGroup) {
	for i := range ps {
		p := &ps[i]
		w := b.Mixed(c, p)
		key := fmt.Sprintf("%s %s %v %v %s", p.Swatch, p.ColourFrom, p.GelLots, p.Strands, w.tintBase())
		j := slices.IndexFunc(out, func(g *ColourGroup) bool { return g.key == key })
		if j < 0 {
			out, j = append(out, &ColourGroup{key: key}), len(out)
		}
		out[j].pieces = append(out[j].pieces, w)
		if w.Tint != nil {
			out[j].grams, out[j].plain, out[j].all = out[j].grams+w.Tint.grams, out[j].plain+w.Tint.Plain, out[j].all+w.Tint.grams/w.Tint.share
		}
	}
	sort.SliceStable(out, func(i, j int) bool {
		return LightOf(out[i].First().Piece.Swatch) > LightOf(out[j].First().Piece.Swatch)
	})
	return out
}

// First is the piece that a group is named by.
func (g *ColourGroup) First() *Reckoned { return g.pieces[0] }

func (w *Reckoned) tintBase() string {
	if w.Tint == nil {
		return ""
	}
	return w.Tint.BaseSay
}

// LightOf is the lightness L* of a swatch, 50 when it cannot be read.
func LightOf(hex string) float64 {
	l, err := colour.Lightness(hex)
	if err != nil {
		return 50
	}
	return l
}

// DarkEnough is the lightness below which text on a pat is light: both stay
// above a contrast of 4.5.
const DarkEnough = 55.0

func de00(a, b string) float64 {
	d, err := colour.Difference(colour.DifferenceIn{A: a, B: b})
	if err != nil {
		return math.Inf(1)
	}
	return d.De00
}

func (b *Means) ColoursView(groups []*ColourGroup) ColoursView {
	out := ColoursView{Colours: []ColourView{}, Board: []BoardLine{}, Named: []read.Option{}}
	for _, n := range read.Named {
		out.Named = append(out.Named, read.Option{Code: n.Code, Say: b.Reader.Say(n.Say)})
	}
	clean := 0
	before := -1.0
	for i, g := range groups {
		v := b.colourView(g, groups[i+1:])
		v.Beside = beside(g, groups)
		out.Colours = append(out.Colours, v)
		line := BoardLine{Name: v.Name, Swatch: v.Target, Clean: "a clean board"}
		if before >= 0 {
			line.Clean = fmt.Sprintf("wipe down, %s", read.SayMinutes(b.Kitchen.ToDarker))
			clean += b.Kitchen.ToDarker
			if b.Kitchen.ToDarker == 0 {
				line.Clean = "nothing"
			}
		}
		before = LightOf(v.Target)
		out.Board = append(out.Board, line)
	}
	back := 0
	for i := 1; i < len(groups); i++ { // the other way round
		cost := b.Kitchen.ToLighter
		if LightOf(groups[i-1].First().Piece.Swatch) >= b.Kitchen.WhiteFrom {
			cost = b.Kitchen.ToWhite
		}
		back += cost
	}
	out.BoardIn = noun.Figure{Value: float64(clean), Unit: "min", Text: read.SayMinutes(clean), Why: &noun.Why{Rule: "White first, then from light to dark: a darker colour forgives what a lighter one does not.", Formula: "minutes of each clean-down of your kitchen, summed",
		Values: []noun.Named{{Name: "to a darker colour", Text: read.SayMinutes(b.Kitchen.ToDarker)}, {Name: "to a lighter colour", Text: read.SayMinutes(b.Kitchen.ToLighter)}, {Name: "to white", Text: read.SayMinutes(b.Kitchen.ToWhite)}, {Name: "dark to light would be", Text: read.SayMinutes(back)}}}}
	return out
}

func (b *Means) colourView(g *ColourGroup, darker []*ColourGroup) ColourView {
	w := g.First()
	p, t := w.Piece, w.Tint
	v := ColourView{Key: fmt.Sprint(p.ID), Name: p.Colour, Target: p.Swatch, Dark: LightOf(p.Swatch) < DarkEnough, Pieces: []string{}, IDs: []int64{}, Others: []RecipeView{}, Pats: []PatView{}, Steps: []string{}, LetDown: []LetDown{}, Matches: []string{}, Refused: []string{}, Bases: b.baseChoices(p.Swatch), Way: FromGels, Gels: noun.LotsKey(p.GelLots)}
	if v.Name == "" {
		v.Name = "looks like " + b.looksLike(p.Swatch)
	}
	for _, x := range g.pieces {
		v.Pieces, v.IDs = append(v.Pieces, fmt.Sprintf("%d %s", x.Wanted, x.Piece.Name)), append(v.IDs, x.Piece.ID)
	}
	if g.grams > 0 {
		v.Total = b.Reader.Paste(g.grams)
	}
	if g.plain > 0 {
		v.Plain = b.Reader.Paste(g.plain)
	}
	if t == nil {
		v.Say = w.View.Missing
		return v
	}
	v.Way, v.Base, v.Say, v.Missing = t.way, t.BaseSay, t.say, t.missing
	lots, refused := b.GelLots(w.order)
	v.Refused = append(v.Refused, refused...)
	if t.way == FromGels && len(t.out.Gels) > 0 {
		whole := t.out // of all pieces of this colour, kneaded at once
		if out, err := b.Recipe(p.Swatch, t.base, t.gels, g.grams); err == nil {
			whole = out
		}
		v.Recipe = b.RecipeView(t, whole, lots, g.grams, true)
		all := t
		if len(p.GelLots) > 0 && t.missing == "" { // what else there is, beside the set that was chosen
			best, err := b.Recipe(p.Swatch, t.base, lots, g.grams)
			if err == nil {
				v.Others = append(v.Others, *b.RecipeView(all, best, lots, g.grams, false))
				for _, o := range best.Alternatives {
					v.Others = append(v.Others, *b.RecipeView(all, o, lots, g.grams, false))
				}
			}
		} else {
			for _, o := range t.out.Alternatives {
				v.Others = append(v.Others, *b.RecipeView(all, o, lots, g.grams, false))
			}
		}
		v.Others = slices.DeleteFunc(v.Others, func(o RecipeView) bool { return o.Key == v.Recipe.Key || o.Key == "" })
		v.Steps = b.addingSteps(t, g.grams)
	} else if t.way == FromGels && t.say == "" {
		v.Say = "The base as it is comes nearest: no gel of the pantry brings it closer."
	}
	v.Tubs = b.tubsView(w, g.all)
	v.Pats = b.pats(w)
	if t.way == FromGels {
		v.LetDown = b.letDowns(g, darker)
	}
	v.Marbled, v.Parts = b.marbled(g), partsSay(p)
	if v.Marbled != nil {
		v.Steps = append(v.Steps, b.StripesSay(t, g.grams/max(t.grams, 0.01)))
	}
	return v
}

// tubsView asks which leftovers would make it without new gel.
func (b *Means) tubsView(w *Reckoned, grams float64) *TubsView {
	t := w.Tint
	if grams <= 0 || w.Piece.Dough != "" {
		return nil
	}
	lots, stock := b.tubsFor(w)
	if !slices.ContainsFunc(lots, func(l *noun.Lot) bool { return l.Swatch != nil }) {
		return nil
	}
	out, err := b.leftovers(w.Piece.Swatch, grams, lots, stock)
	if err != nil || out.De00 > 12 {
		return nil
	}
	coloured := 0
	for _, u := range out.Use {
		if i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return fmt.Sprint(l.ID) == u.Name }); lots[i].Swatch != nil {
			coloured++
		}
	}
	if t.way != FromLeftovers && !b.offersTubs(coloured, out.De00) {
		return nil
	}
	v := &TubsView{Use: []MixView{}, Off: Apart(out.De00), Hex: out.Hex, Chosen: t.way == FromLeftovers, Try: []string{}}
	saved := 0.0
	for _, u := range out.Use {
		i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return fmt.Sprint(l.ID) == u.Name })
		l := lots[i]
		note := ""
		if l.Swatch != nil {
			saved += u.MassG
			note, _ = b.Ages(l)
		}
		v.Use = append(v.Use, MixView{Name: l.Name, Note: note, Swatch: lotSwatch(l), Grams: noun.Figure{Value: u.MassG, Unit: "g", Text: read.Trimmed(u.MassG, 1) + " g", Why: &noun.Why{Rule: "The tubs whose blend lies nearest; each further tub, fresh white and what stays behind in a tub cost a little, a tub that is used up gains.",
			Formula: "K and S of a mix are the mass-weighted means (Kubelka-Munk)", Values: []noun.Named{{Name: "wanted", Text: b.Reader.Mass(grams)}, {Name: "in the tub", Text: b.Reader.Mass(b.there(w, l))}}}}})
		v.Try = append(v.Try, fmt.Sprintf("%s g %s", read.Trimmed(u.MassG*colour.ThumbG/out.MadeG, 1), l.Name))
	}
	if saved == 0 {
		return nil
	}
	v.Saves = b.Reader.Mass(saved) + " of leftovers are used, not thrown away"
	if out.Short {
		v.Short = fmt.Sprintf("The tubs hold %s of the %s.", b.Reader.Mass(out.MadeG), b.Reader.Mass(grams))
	}
	return v
}

func lotSwatch(l *noun.Lot) string {
	if l.Swatch != nil {
		return *l.Swatch
	}
	return baseOf(l.Kind).Hex()
}

// pats are the swatch bench: what is wanted, as mixed, rested, under each
// finish of the pantry.
func (b *Means) pats(w *Reckoned) []PatView {
	t, target := w.Tint, w.Piece.Swatch
	pat := func(kind, say, hex, note string) PatView {
		v := PatView{Kind: kind, Say: say, Hex: hex, Named: b.looksLike(hex), Dark: LightOf(hex) < DarkEnough, Note: note}
		if kind != "target" {
			v.Off = Apart(de00(hex, target))
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
	for i := range b.Lots {
		l := &b.Lots[i]
		k, _ := read.KindOf(l.Kind)
		if dust := k.Shelf == read.ShelfDust && l.Swatch != nil; !dust && l.Kind != "glaze" || len(out) > 7 {
			continue
		}
		if f, err := b.Finish(l, nil, t.rested, 2, 1); err == nil {
			x := pat("finish", f.Say, f.Hex, "")
			x.Flash = f.Flash
			out = append(out, x)
		}
	}
	return out
}

func orName(p *noun.Piece) string {
	if p.Colour != "" {
		return p.Colour
	}
	return p.Swatch
}

// Alike is a colour of another open commission.
type Alike struct {
	Order *noun.Commission
	Group *ColourGroup
}

// MostAlike is how many other orders of one colour are compared.
const MostAlike = 5

// SameName reports whether two pieces are meant to have one colour.
func SameName(a, b *noun.Piece) bool {
	return a.Swatch == b.Swatch || a.Colour != "" && strings.EqualFold(a.Colour, b.Colour)
}

// Matches says how far this colour is from the same one in other commissions.
func (b *Means) Matches(g *ColourGroup, others []Alike) []string {
	out := []string{}
	w := g.First()
	if w.Tint == nil {
		return out
	}
	for _, o := range others {
		x := o.Group.First()
		if !SameName(x.Piece, w.Piece) || x.Tint == nil {
			continue
		}
		de := de00(x.Tint.rested.Hex(), w.Tint.rested.Hex())
		say := fmt.Sprintf("%s in %s: of the two batches %s.", read.UpperFirst(orName(x.Piece)), o.Order.Title, Apart(de))
		if de >= 2 {
			say += " Mix one batch for both, or keep a pat to match."
		}
		out = append(out, say)
	}
	return out
}
