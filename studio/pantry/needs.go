package pantry

import (
	"bytes"
	"context"
	"encoding/csv"
	"fmt"
	"math"
	"slices"
	"sort"
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/paste"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// NeedsView is what the open commissions want of the pantry, in the order of
// their hand-overs, and what to buy.
type NeedsView struct {
	Commissions []NeedOf   `json:"commissions"`
	Shopping    []ShopLine `json:"shopping"`
	First       []string   `json:"first" doc:"what ages and is used first"`
	Without     []Swap     `json:"without" doc:"what serves instead of what is missing"`
	LeftOut     []string   `json:"leftOut" doc:"pieces whose paste is not settled yet"`
}

// NeedOf is the needs of one commission.
type NeedOf struct {
	ID       int64      `json:"id"`
	Title    string     `json:"title"`
	HandOver string     `json:"handOver"`
	Does     bool       `json:"does" doc:"the pantry suffices"`
	Says     string     `json:"says"`
	Lines    []NeedLine `json:"lines"`
}

// NeedLine is one material.
type NeedLine struct {
	Name   string    `json:"name"`
	Swatch string    `json:"swatch"`
	Need   string    `json:"need"`
	Why    *noun.Why `json:"why"`
	InAll  string    `json:"inAll" doc:"what is there in all"`
	There  string    `json:"there" doc:"what is there for it, after earlier commissions"`
	Short  string    `json:"short"`
}

// ShopLine is one thing to buy.
type ShopLine struct {
	Name  string      `json:"name"`
	Kind  string      `json:"kind"`
	Short noun.Figure `json:"short"`
	Packs int         `json:"packs"`
	Pack  string      `json:"pack"`
	Note  string      `json:"note"`
	packG float64
}

// Swap is what serves instead.
type Swap struct {
	Missing string `json:"missing"`
	Take    string `json:"take"`
	Changes string `json:"changes"`
}

// In a pinch (craft guide, assumed).
var swaps = []struct{ kinds, missing, take, changes string }{
	{"cmc tragacanth", "hardener powder", "flower paste or moulding-ready paste kneaded in; or thinner pieces and longer drying", "dearer; there is no dose, judge by the squeeze"},
	{"glue", "edible glue", "water for light pieces, piping gel, or a crumb of the same paste worked soft with water", "holds less: hold it longer"},
	{"extract", "citrus extract", "any clear strong spirit", "dries slower and shines less"},
	{"spirit", "clear spirit", "citrus extract", "dries at once: mix little at a time"},
	{"flowerPaste", "flower paste", "sugar paste with hardener", "dries less hard; shape it sooner"},
	{"halfAndHalf", "half-and-half", "equal parts of sugar paste and flower paste, kneaded warm, 15 min in a bag", "nothing to speak of"},
	{"modellingPaste", "modelling paste", "sugar paste with the middle dose of hardener", "a little firmer: 1.74 % gum instead of 1.5"},
	{"mouldingReadyPaste", "moulding-ready paste", "sugar paste with a fifth of flower paste", "nothing to speak of"},
}

// needs works out what is wanted against what is there.
func needs(ctx context.Context, b *work.Means, commissions []noun.Commission, pieces []noun.Piece, steps []noun.Step) (NeedsView, error) {
	n := needing{b: b, left: map[int64]float64{}, short: map[string]float64{}, free: map[string][]string{}}
	n.view = NeedsView{Commissions: []NeedOf{}, Shopping: []ShopLine{}, First: []string{}, Without: []Swap{}, LeftOut: []string{}}
	for i := range b.Lots {
		n.left[b.Lots[i].ID] = b.Lots[i].MassG
	}
	cs := slices.Clone(commissions)
	sort.SliceStable(cs, func(i, j int) bool {
		a, c := cs[i].HandOver, cs[j].HandOver
		return a != nil && (c == nil || a.Before(*c))
	})
	mine := map[int64][]*noun.Piece{}
	for j := range pieces {
		if p := &pieces[j]; b.Needed[p.ID] > 0 {
			mine[p.CommissionID] = append(mine[p.CommissionID], p)
		}
	}
	lists := make([][]*want, len(cs))
	var claims []claim
	for i := range cs {
		if err := ctx.Err(); err != nil {
			return n.view, err
		}
		var more []claim
		lists[i], more = n.wants(&cs[i], mine[cs[i].ID])
		claims = append(claims, more...)
	}
	n.claim(claims, steps)
	for i := range cs {
		n.commission(&cs[i], lists[i])
	}
	for _, k := range n.order {
		n.view.Shopping = append(n.view.Shopping, shopLine(b, k, n.short[k], n.free[k]))
	}
	for i := range b.Lots {
		if say, old := b.Ages(&b.Lots[i]); old && b.Lots[i].MassG > 0 {
			n.view.First = append(n.view.First, fmt.Sprintf("%s, %s: %s", b.Lots[i].Name, b.Reader.Mass(b.Lots[i].MassG), say))
		}
	}
	n.without()
	return n.view, nil
}

// needing counts what commissions want against what is left of each lot, what is
// kneaded first before the rest.
type needing struct {
	b     *work.Means
	view  NeedsView
	left  map[int64]float64   // grams of each lot that no commission has claimed
	short map[string]float64  // grams to buy by kind, gels by name
	free  map[string][]string // of what is short: what its label must not name, for whom
	order []string            // of what is short
}

// want is what one commission wants of one kind.
type want struct {
	name, kind, swatch string
	need, there        float64
	of                 []noun.Named
}

func (n *needing) commission(c *noun.Commission, wants []*want) {
	of := NeedOf{ID: c.ID, Title: c.Title, Does: true, Lines: []NeedLine{}}
	if c.HandOver != nil {
		of.HandOver = n.b.Reader.Date(*c.HandOver, n.b.Now)
	}
	for _, x := range wants {
		line := NeedLine{Name: x.name, Swatch: x.swatch, Need: n.b.Reader.Mass(x.need), InAll: n.b.Reader.Mass(n.inAll(x)), There: n.b.Reader.Mass(x.there),
			Why: &noun.Why{Rule: "What its pieces still want, with spares and what stays on hands and tools. What has been kneaded is taken off; what the plan kneads earlier is no longer there for what it kneads later.", Formula: "sum over the pieces", Values: x.of}}
		if gap := x.need - x.there; gap > 0.005 {
			line.Short, of.Does = n.b.Reader.Mass(gap), false
			k := x.kind
			if x.swatch != "" {
				k += "|" + x.name
			}
			if n.short[k] == 0 {
				n.order = append(n.order, k)
			}
			n.short[k] += gap
			if words := work.FreeOf(c, x.kind); len(words) > 0 {
				n.free[k] = append(n.free[k], "without "+read.List(read.WordsOf(words))+" on its label, for "+c.Title)
			}
		}
		of.Lines = append(of.Lines, line)
	}
	switch {
	case len(of.Lines) == 0:
	case of.Does:
		of.Says = "It will do"
	default:
		of.Says = "Not enough"
	}
	n.view.Commissions = append(n.view.Commissions, of)
}

// inAll is what there is of a kind, whoever claims it; of colours of that name.
func (n *needing) inAll(x *want) (g float64) {
	for i := range n.b.Lots {
		if l := &n.b.Lots[i]; l.Kind == x.kind && (x.swatch == "" && l.Swatch == nil || x.swatch != "" && l.Name == x.name) {
			g += l.MassG
		}
	}
	return g
}

// claim is what a piece takes of a lot, or of its kind.
type claim struct {
	of     *want
	piece  int64
	order  *noun.Commission
	lot    *noun.Lot
	kind   string
	swatch string
	g      float64
}

// claim shares out what is there as the hands will: in the order in which the plan takes
// it, like the troubles of the plan; what is not in the plan comes last, by hand-over.
func (n *needing) claim(claims []claim, steps []noun.Step) {
	draws := map[int64][]noun.Step{}
	for _, st := range steps {
		if st.PieceID != nil && st.Planned.Draws && st.ActualStart == nil {
			draws[*st.PieceID] = append(draws[*st.PieceID], st)
		}
	}
	type part struct {
		claim
		at time.Time // zero: not planned
	}
	var parts []part
	for _, c := range claims {
		mine := draws[c.piece]
		sum := 0.0
		for _, st := range mine {
			sum += st.Planned.Share
		}
		if sum <= 0 {
			parts = append(parts, part{c, time.Time{}})
			continue
		}
		for _, st := range mine {
			x := c
			x.g *= st.Planned.Share / sum
			parts = append(parts, part{x, st.PlannedStart})
		}
	}
	slices.SortStableFunc(parts, func(a, b part) int {
		if a.at.IsZero() != b.at.IsZero() {
			return map[bool]int{true: 1, false: -1}[a.at.IsZero()]
		}
		return a.at.Compare(b.at)
	})
	for _, x := range parts {
		x.of.there += n.b.Claim(n.left, x.lot, x.kind, x.swatch, x.g, x.order)
	}
}

// wants are what the pieces of a commission still want, by kind, as they come.
func (n *needing) wants(c *noun.Commission, pieces []*noun.Piece) (list []*want, claims []claim) {
	by := map[string]*want{}
	for _, p := range pieces {
		w := n.b.Mixed(c, p)
		parts := slices.Concat(w.Uses, w.Adds, w.Buys)
		if len(parts) == 0 {
			n.view.LeftOut = append(n.view.LeftOut, p.Name+", "+c.Title)
		}
		done := kneadedShare(n.b, w)
		put := func(lot *noun.Lot, kind, name, swatch string, g float64) {
			key := kind
			if swatch != "" {
				key = name
			} else {
				k, _ := read.KindOf(kind)
				name = n.b.Reader.Say(k.Say)
			}
			x := by[key]
			if x == nil {
				x = &want{name: name, kind: kind, swatch: swatch}
				by[key] = x
				list = append(list, x)
			}
			x.need += g
			x.of = append(x.of, noun.Named{Name: p.Name, Text: n.b.Reader.Mass(g)})
			claims = append(claims, claim{x, p.ID, c, lot, kind, swatch, g})
		}
		for _, u := range parts {
			kind, name, swatch, g := u.Kind, u.Name, "", u.Grams*(1-done)
			if u.Lot != nil {
				kind, g, swatch = u.Lot.Kind, u.Grams-n.b.Taken[p.ID][u.Lot.ID], work.OrEmpty(u.Lot.Swatch)
			}
			if g > work.Enough {
				put(u.Lot, kind, name, swatch, g)
			}
		}
		f := n.b.Finishing(w) // dust and metal come out of the pantry as the paste does
		for _, u := range slices.Concat(f.Uses, f.CoatUses) {
			i := slices.IndexFunc(n.b.Lots, func(l noun.Lot) bool { return l.ID == u.Lot })
			if g := u.G - n.b.Taken[p.ID][u.Lot]; i >= 0 && g > work.Enough {
				l := &n.b.Lots[i]
				put(l, l.Kind, l.Name, work.OrEmpty(l.Swatch), g)
			}
		}
	}
	return list, claims
}

// without says what takes the place of what is short or missing.
func (n *needing) without() {
	for _, s := range swaps {
		kinds := strings.Fields(s.kinds)
		missing := !slices.ContainsFunc(n.b.Lots, func(l noun.Lot) bool { return slices.Contains(kinds, l.Kind) && l.MassG > 0 })
		wanted := slices.ContainsFunc(n.order, func(k string) bool { return slices.Contains(kinds, k) })
		if wanted || missing && slices.Contains([]string{"cmc tragacanth", "glue", "extract", "spirit"}, s.kinds) {
			n.view.Without = append(n.view.Without, Swap{n.b.Reader.Say(s.missing), n.b.Reader.Say(s.take), n.b.Reader.Say(s.changes)})
		}
	}
}

// kneadedShare is how much of a piece has been kneaded.
func kneadedShare(b *work.Means, w *work.Reckoned) float64 {
	planned, taken := 0.0, 0.0
	for _, u := range slices.Concat(w.Uses, w.Adds) {
		if u.Lot != nil {
			planned += u.Grams
			taken += math.Min(u.Grams, b.Taken[w.Piece.ID][u.Lot.ID])
		}
	}
	if planned == 0 {
		return 0
	}
	return taken / planned
}

// shopLine rounds what is short up to the packs that the studio buys.
func shopLine(b *work.Means, key string, gap float64, free []string) ShopLine {
	kind, name, coloured := strings.Cut(key, "|")
	k, _ := read.KindOf(kind)
	pack, own := math.Max(1, k.PackG), false
	for i := range b.Lots {
		if l := &b.Lots[i]; l.Kind == kind && l.PackG != nil && (!coloured || l.Name == name) {
			pack, own = *l.PackG, true
		}
	}
	if !coloured {
		name = b.Reader.Say(k.Say)
	}
	packs := int(math.Ceil(gap/pack - 1e-9))
	from := "the usual pack (assumed)"
	if own {
		from = "your pack"
	}
	s := ShopLine{Name: name, Kind: kind, Packs: packs, Pack: b.Reader.Mass(pack), packG: pack,
		Short: noun.Figure{Value: gap, Unit: "g", Text: b.Reader.Mass(gap), Why: &noun.Why{Rule: "What all open commissions want, less what is there, rounded up to whole packs.", Formula: "packs = short / pack, rounded up",
			Values: []noun.Named{{Name: "short", Text: b.Reader.Mass(gap)}, {Name: "pack", Text: b.Reader.Mass(pack) + ", " + from}}}}}
	if p, ok := paste.KindOf(kind); ok && p.FatSet && kind != "marzipan" {
		s.Note = "Have it a day before: it is firm the next day, and best used within a week."
	}
	if len(free) > 0 {
		s.Note = strings.TrimSpace(read.UpperFirst(strings.Join(free, "; ")) + ". " + s.Note)
	}
	return s
}

// Needs says whether the pantry will do.
func (s *Keeping) Needs(ctx context.Context, slug string) (out NeedsView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		b, cs, ps, err := plan.GatherOpen(tx, k, now)
		if err != nil {
			return err
		}
		steps, err := tx.BareSteps(nil)
		if err != nil {
			return err
		}
		out, err = needs(ctx, b, cs, ps, steps)
		return err
	})
	return out, err
}

// ShoppingFile writes the shopping list as txt or csv.
func (s *Keeping) ShoppingFile(ctx context.Context, slug, kind string) ([]byte, error) {
	v, err := s.Needs(ctx, slug)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	if kind == "txt" {
		for _, x := range v.Shopping {
			fmt.Fprintf(&b, "[ ] %s: %d × %s (short by %s)\n", x.Name, x.Packs, x.Pack, x.Short.Text)
			if x.Note != "" {
				fmt.Fprintf(&b, "    %s\n", x.Note)
			}
		}
		if b.Len() == 0 {
			b.WriteString("Nothing is to be bought: the pantry will do.\n")
		}
		return b.Bytes(), nil
	}
	w := csv.NewWriter(&b)
	_ = w.Write([]string{"name", "kind", "shortG", "packs", "packG"}) // to memory
	for _, x := range v.Shopping {
		_ = w.Write([]string{read.Harmless(x.Name), x.Kind, strconv.FormatFloat(x.Short.Value, 'f', 3, 64), strconv.Itoa(x.Packs), strconv.FormatFloat(x.packG, 'f', -1, 64)})
	}
	w.Flush()
	return b.Bytes(), w.Error()
}
