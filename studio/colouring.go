package studio

import (
	"context"
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
	Key     string        `json:"key"`
	Name    string        `json:"name"`
	Target  string        `json:"target"`
	Dark    bool          `json:"dark" doc:"text on it is light"`
	Pieces  []string      `json:"pieces"`
	IDs     []int64       `json:"ids"`
	Total   string        `json:"total" doc:"paste of this colour"`
	Plain   string        `json:"plain,omitempty" doc:"that stays plain beside it, of a part-mixed piece"`
	Base    string        `json:"base"`
	Way     string        `json:"way" enum:"gels,leftovers,asItIs"`
	Say     string        `json:"say" doc:"why there is no recipe"`
	Missing string        `json:"missing"`
	Recipe  *RecipeView   `json:"recipe,omitempty"`
	Others  []RecipeView  `json:"others"`
	Tubs    *TubsView     `json:"tubs,omitempty"`
	Pats    []PatView     `json:"pats"`
	Steps   []string      `json:"steps"`
	LetDown []LetDown     `json:"letDown" doc:"how it comes of a darker colour of this commission"`
	Matches []string      `json:"matches" doc:"how far it is from the same colour elsewhere"`
	Gels    string        `json:"gels" doc:"the set that was chosen; empty: the best"`
	Marbled *MarbledView  `json:"marbled,omitempty"`
	Refused []string      `json:"refused"`
	Bases   []read.Option `json:"bases" doc:"other bases that it can be tried in"`
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

// Colours shows the colour bench of a commission.
func (s *Service) Colours(ctx context.Context, slug string, id int64) (out ColoursView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		b, c, ps, err := s.benchOne(tx, k, now, id)
		if err != nil {
			return err
		}
		steps, err := s.besides(tx, id)
		if err != nil {
			return err
		}
		groups := b.colourGroups(&c, ps)
		out = b.coloursView(groups)
		out.Kneaded = b.kneaded(id, Derived(steps, now))
		others, err := s.alikeElsewhere(tx, b, &c, groups)
		if err != nil {
			return err
		}
		for j := range out.Colours {
			out.Colours[j].Matches = b.matches(groups[j], others)
		}
		return nil
	})
	return out, err
}

// besides are the steps of all orders about the time of what this one still has
// to knead: whatever else lies on the same board.
func (s *Service) besides(tx Tx, id int64) ([]noun.Step, error) {
	mine, err := tx.BareSteps([]int64{id})
	if err != nil {
		return nil, err
	}
	var from, to time.Time
	for _, st := range mine {
		if st.Kind != "knead" || st.ActualStart != nil {
			continue
		}
		if from.IsZero() || st.PlannedStart.Before(from) {
			from = st.PlannedStart
		}
		if st.PlannedEnd.After(to) {
			to = st.PlannedEnd
		}
	}
	if from.IsZero() {
		return nil, nil
	}
	return tx.ThinStepsWithin(from.Add(-longestStretch), to.Add(longestStretch))
}

// longestStretch is no shorter than any stretch of hours.
const longestStretch = 24 * time.Hour

// colourGroup is the pieces of one colour, out of one paste.
type colourGroup struct {
	key    string
	pieces []*worked
	grams  float64 // that are coloured
	plain  float64 // that stay plain, of part-mixed pieces
}

func (b *benchOf) colourGroups(c *noun.Commission, ps []noun.Piece) (out []*colourGroup) {
	for i := range ps {
		p := &ps[i]
		w := b.mixed(c, p)
		key := fmt.Sprintf("%s %s %v %t %s", p.Swatch, p.ColourFrom, p.GelLots, p.Marbled, w.tintBase())
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

func offSays(de float64) string { return fmt.Sprintf("%s (ΔE %s)", apart(de), read.Trimmed(de, 1)) }

func (b *benchOf) coloursView(groups []*colourGroup) ColoursView {
	out := ColoursView{Colours: []ColourView{}, Board: []BoardLine{}, Named: []read.Option{}}
	for _, n := range namedColours {
		out.Named = append(out.Named, read.Option{n.Code, b.r.Say(n.Say)})
	}
	clean := 0
	before := -1.0
	for i, g := range groups {
		v := b.colourView(g, groups[i+1:])
		out.Colours = append(out.Colours, v)
		line := BoardLine{Name: v.Name, Swatch: v.Target, Clean: "a clean board"}
		if before >= 0 {
			line.Clean = fmt.Sprintf("wipe down, %s", read.SayMinutes(b.k.ToDarker))
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
	out.BoardIn = noun.Figure{float64(clean), "min", read.SayMinutes(clean), &noun.Why{Rule: "White first, then from light to dark: a darker colour forgives what a lighter one does not.", Formula: "minutes of each clean-down of your kitchen, summed",
		Values: []noun.Named{{"to a darker colour", read.SayMinutes(b.k.ToDarker)}, {"to a lighter colour", read.SayMinutes(b.k.ToLighter)}, {"to white", read.SayMinutes(b.k.ToWhite)}, {"dark to light would be", read.SayMinutes(back)}}}}
	return out
}

func (b *benchOf) colourView(g *colourGroup, darker []*colourGroup) ColourView {
	w := g.first()
	p, t := w.p, w.tint
	v := ColourView{Key: fmt.Sprint(p.ID), Name: p.Colour, Target: p.Swatch, Dark: lightOf(p.Swatch) < darkEnough, Pieces: []string{}, IDs: []int64{}, Others: []RecipeView{}, Pats: []PatView{}, Steps: []string{}, LetDown: []LetDown{}, Matches: []string{}, Refused: []string{}, Bases: b.baseChoices(p.Swatch), Way: fromGels, Gels: noun.LotsKey(p.GelLots)}
	if v.Name == "" {
		v.Name = p.Swatch
	}
	for _, x := range g.pieces {
		v.Pieces, v.IDs = append(v.Pieces, fmt.Sprintf("%d %s", x.p.Wanted, x.p.Name)), append(v.IDs, x.p.ID)
	}
	if g.grams > 0 {
		v.Total = b.r.Mass(math.Ceil(g.grams))
	}
	if g.plain > 0 {
		v.Plain = b.r.Mass(math.Ceil(g.plain))
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
		if len(p.GelLots) > 0 && t.missing == "" { // what else there is, beside the set that was chosen
			best, err := b.recipe(p.Swatch, t.base, lots)
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

// tubsView asks which leftovers would make it without new gel.
func (b *benchOf) tubsView(w *worked, grams float64) *TubsView {
	t := w.tint
	if grams <= 0 || w.p.Dough != "" {
		return nil
	}
	lots, stock := b.tubsFor(w)
	if !slices.ContainsFunc(lots, func(l *noun.Lot) bool { return l.Swatch != nil }) {
		return nil
	}
	out, err := b.leftovers(w.p.Swatch, grams, lots, stock)
	if err != nil || out.De00 > 12 {
		return nil
	}
	coloured := 0
	for _, u := range out.Use {
		if i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return fmt.Sprint(l.ID) == u.Name }); lots[i].Swatch != nil {
			coloured++
		}
	}
	if t.way != fromLeftovers && !b.offersTubs(coloured, out.De00) {
		return nil
	}
	v := &TubsView{Use: []MixView{}, Off: offSays(out.De00), Hex: out.Hex, Chosen: t.way == fromLeftovers, Try: []string{}}
	saved := 0.0
	for _, u := range out.Use {
		i := slices.IndexFunc(lots, func(l *noun.Lot) bool { return fmt.Sprint(l.ID) == u.Name })
		l := lots[i]
		note := ""
		if l.Swatch != nil {
			saved += u.MassG
			note, _ = b.ages(l)
		}
		v.Use = append(v.Use, MixView{Name: l.Name, Note: note, Swatch: lotSwatch(l), Grams: noun.Figure{u.MassG, "g", read.Trimmed(u.MassG, 1) + " g", &noun.Why{Rule: "The tubs whose blend lies nearest; each further tub, fresh white and what stays behind in a tub cost a little, a tub that is used up gains.",
			Formula: "K and S of a mix are the mass-weighted means (Kubelka-Munk)", Values: []noun.Named{{"wanted", b.r.Mass(grams)}, {"in the tub", exactMass(b.r, b.there(w, l))}}}}})
		v.Try = append(v.Try, fmt.Sprintf("%s g %s", read.Trimmed(u.MassG*colour.ThumbG/out.MadeG, 1), l.Name))
	}
	if saved == 0 {
		return nil
	}
	v.Saves = b.r.Mass(saved) + " of leftovers are used, not thrown away"
	if out.Short {
		v.Short = fmt.Sprintf("The tubs hold %s of the %s.", b.r.Mass(out.MadeG), b.r.Mass(grams))
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
func (b *benchOf) pats(w *worked) []PatView {
	t, target := w.tint, w.p.Swatch
	pat := func(kind, say, hex, note string) PatView {
		v := PatView{Kind: kind, Say: say, Hex: hex, Named: b.looksLike(hex), Dark: lightOf(hex) < darkEnough, Note: note}
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
		k, _ := read.KindOf(l.Kind)
		if dust := k.Shelf == read.ShelfDust && l.Swatch != nil; !dust && l.Kind != "glaze" || len(out) > 7 {
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

func orName(p *noun.Piece) string {
	if p.Colour != "" {
		return p.Colour
	}
	return p.Swatch
}

// alike is a colour of another open commission.
type alike struct {
	c *noun.Commission
	g *colourGroup
}

// alikeElsewhere works out the pieces of other open commissions that wear one of
// these colours, and only those.
//
// Of each colour the orders that are handed over soonest: those are mixed beside
// this one.
func (s *Service) alikeElsewhere(tx Tx, b *benchOf, c *noun.Commission, groups []*colourGroup) (out []alike, err error) {
	cs, err := tx.OpenCommissions()
	if err != nil {
		return nil, err
	}
	ps, err := tx.OpenPieces()
	if err != nil {
		return nil, err
	}
	mine := map[int64][]noun.Piece{}
	for _, p := range ps {
		if p.CommissionID != c.ID && p.Wanted > 0 {
			mine[p.CommissionID] = append(mine[p.CommissionID], p)
		}
	}
	sort.SliceStable(cs, func(i, j int) bool {
		a, b := cs[i].HandOver, cs[j].HandOver
		return a != nil && (b == nil || a.Before(*b))
	})
	wears := make([]int, len(groups))
	for i := range cs {
		var same []noun.Piece
		for g := range groups {
			n := len(same)
			for _, p := range mine[cs[i].ID] {
				if wears[g] < mostAlike && sameName(groups[g].first().p, &p) && !slices.ContainsFunc(same, func(x noun.Piece) bool { return x.ID == p.ID }) {
					same = append(same, p)
				}
			}
			if len(same) > n {
				wears[g]++
			}
		}
		for _, g := range b.colourGroups(&cs[i], same) {
			out = append(out, alike{&cs[i], g})
		}
	}
	return out, nil
}

// mostAlike is how many other orders of one colour are compared.
const mostAlike = 5

// sameName reports whether two pieces are meant to have one colour.
func sameName(a, b *noun.Piece) bool {
	return a.Swatch == b.Swatch || a.Colour != "" && strings.EqualFold(a.Colour, b.Colour)
}

// matches says how far this colour is from the same one in other commissions.
func (b *benchOf) matches(g *colourGroup, others []alike) []string {
	out := []string{}
	w := g.first()
	if w.tint == nil {
		return out
	}
	for _, o := range others {
		x := o.g.first()
		if !sameName(x.p, w.p) || x.tint == nil {
			continue
		}
		de := de00(x.tint.rested.Hex(), w.tint.rested.Hex())
		say := fmt.Sprintf("%s in %s: the two batches differ by ΔE %s, %s.", read.UpperFirst(orName(x.p)), o.c.Title, read.Trimmed(de, 1), apart(de))
		if de >= 2 {
			say += " Mix one batch for both, or keep a pat to match."
		}
		out = append(out, say)
	}
	return out
}
