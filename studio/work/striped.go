package work

import (
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// CheckStrand refuses what cannot lie beside a piece's own colour.
func CheckStrand(s noun.Strand) error {
	var hex string
	switch {
	case !(s.Parts >= 0.1 && s.Parts <= 10):
		return fault.New(fault.OutOfRange, "parts", "From a tenth to ten times as much as of its own colour.")
	case len(s.Colour) > read.MostText:
		return fault.New(fault.OutOfRange, "colour", "A name of at most %d characters.", read.MostText)
	case s.Swatch == "":
		return nil
	}
	if err := read.ReadSwatch("swatch", s.Swatch, &hex); err != nil || hex != s.Swatch {
		return fault.New(fault.Syntax, "swatch", "A swatch is written as #5F8A4A.")
	}
	return nil
}

// lay divides the paste of a piece between its own colour and what lies beside it.
func (t *Tint) lay(strands []noun.Strand) {
	parts := 1.0
	for _, s := range strands {
		parts += s.Parts
	}
	total := t.grams
	t.share, t.grams = 1/parts, total/parts
	for _, s := range strands {
		x := &Tint{way: FromGels, base: t.base, BaseSay: t.BaseSay, rested: t.base, fresh: t.base, name: s.Colour, swatch: s.Swatch, share: s.Parts / parts, grams: total * s.Parts / parts}
		if s.Swatch == "" || IsWhite(s.Swatch) {
			x.way = FromNothing
			t.Plain += x.grams
		}
		t.strands = append(t.strands, x)
	}
}

// all are the pastes that a piece is made of: its own colour, then what lies beside it.
func (t *Tint) all() []*Tint {
	if t == nil {
		return nil
	}
	return append([]*Tint{t}, t.strands...)
}

// Striped tells whether a piece is part-mixed.
func (t *Tint) Striped() bool { return t != nil && len(t.strands) > 0 }

// called is a paste by its name, else its swatch.
func (t *Tint) called() string {
	switch {
	case t.swatch == "" || t.way == FromNothing && t.name == "":
		return "plain paste"
	case t.name != "":
		return t.name
	}
	return t.swatch
}

// StripesSay tells hands how so much of the paste of a part-mixed piece becomes striped.
func (b *Means) StripesSay(t *Tint, share float64) string {
	if !t.Striped() {
		return ""
	}
	var each []string
	for _, x := range t.all() {
		each = append(each, fmt.Sprintf("%s of %s", b.Reader.Paste(x.grams*share), x.called()))
	}
	first := "Colour each by itself"
	if len(t.strands) == 1 && t.strands[0].way == FromNothing {
		first = "Only the first is coloured"
	}
	return fmt.Sprintf("Part-mixed: divide the paste: %s. %s. Roll ropes, lay them side by side, twist two turns, fold, roll back; %d times, no more.", strings.Join(each, "; "), first, colour.Rope.Folds)
}

// Marble asks the core for the stripes of a part-mixed piece.
func Marble(t *Tint) (colour.MarbleOut, error) {
	in := colour.MarbleIn{DiameterMM: &colour.Rope.DiameterMM, LengthMM: &colour.Rope.LengthMM, Turns: &colour.Rope.Turns, Cycles: &colour.Rope.Folds}
	for _, x := range t.all() {
		in.Parts = append(in.Parts, colour.MarblePart{Paste: x.rested, Share: &x.share})
	}
	return colour.Marble(in)
}

// MarbledView is a part-mixed paste: what lies in it, and how often it may be folded.
type MarbledView struct {
	Say   string     `json:"say"`
	Far   string     `json:"far"`
	Solid string     `json:"solid"`
	Ropes []RopeView `json:"ropes" doc:"its own colour first"`
	Why   *noun.Why  `json:"why"`
}

// RopeView is one of the pastes of a part-mixed piece.
type RopeView struct {
	Name   string      `json:"name"`
	Swatch string      `json:"swatch" doc:"as it comes out"`
	Share  string      `json:"share"`
	Total  string      `json:"total" doc:"paste of it, of all pieces of this colour"`
	Say    string      `json:"say" doc:"why there is no recipe"`
	Recipe *RecipeView `json:"recipe,omitempty" doc:"of what lies beside its own colour"`
}

// shareSays is a share of a paste as hands divide it.
func shareSays(x float64) string {
	for _, s := range []struct {
		x   float64
		say string
	}{{1.0 / 2, "half"}, {1.0 / 3, "a third"}, {2.0 / 3, "two thirds"}, {1.0 / 4, "a quarter"}, {3.0 / 4, "three quarters"}} {
		if math.Abs(x-s.x) < 0.005 {
			return s.say
		}
	}
	return read.Trimmed(100*x, 0) + " %"
}

// marbled shows the stripes of a part-mixed colour, with what its pieces take of each.
func (b *Means) marbled(g *ColourGroup) *MarbledView {
	t := g.First().Tint
	if !t.Striped() {
		return nil
	}
	m, err := Marble(t)
	if err != nil {
		return nil
	}
	v := &MarbledView{Far: m.FarHex, Solid: m.SolidHex, Ropes: []RopeView{},
		Say: fmt.Sprintf("Twist and fold %d times: the finest stripes are %s mm. After %d it is one colour.", colour.Rope.Folds, read.Trimmed(m.StripeMM, 1), m.CyclesToSolid),
		Why: &noun.Why{Rule: "Each twist and fold doubles the stripes, less what kneading wastes (assumed). It is one colour when the stripes of the second greatest share are under 0.3 mm.", Formula: "stripe = rope × least share × g^(-0.8 n), g from the area of the helicoid",
			Values: []noun.Named{{Name: "rope", Text: fmt.Sprintf("%s mm across, %s mm long, %s turns (assumed)", read.Trimmed(colour.Rope.DiameterMM, 0), read.Trimmed(colour.Rope.LengthMM, 0), read.Trimmed(colour.Rope.Turns, 0))}, {Name: "g", Text: read.Trimmed(m.Factor, 2)}}}}
	lots, _ := b.GelLots(g.First().order)
	for i, x := range t.all() {
		grams := g.grams * x.share / t.share
		r := RopeView{Name: x.called(), Swatch: x.rested.Hex(), Share: shareSays(x.share)}
		if g.grams > 0 {
			r.Total = b.Reader.Paste(grams)
		}
		if i > 0 && x.way == FromGels {
			r.Say = x.say
			if whole, err := b.Recipe(x.swatch, x.base, x.gels, grams); err == nil && len(x.gels) > 0 {
				r.Recipe = b.RecipeView(x, whole, lots, grams, true)
			}
		}
		v.Ropes = append(v.Ropes, r)
	}
	return v
}

// beside are the colours that may be half kneaded into a colour: the order's others and
// the plain paste.
func beside(g *ColourGroup, all []*ColourGroup) []StrandChoice {
	p := g.First().Piece
	out := []StrandChoice{}
	add := func(s noun.Strand, on bool) {
		for i := range out {
			if out[i].Swatch == s.Swatch {
				out[i].On = out[i].On || on
				return
			}
		}
		c := StrandChoice{Swatch: s.Swatch, Name: s.Colour, On: on}
		if c.Name == "" {
			c.Name = s.Swatch
		}
		if s.Swatch == "" {
			c.Name = "plain paste, as it comes"
		}
		out = append(out, c)
	}
	for _, s := range p.Strands {
		add(s, true)
	}
	for _, o := range all {
		x := o.First().Piece
		if x.Swatch != p.Swatch && x.ColourFrom != FromNothing && !IsWhite(x.Swatch) && (x.Dough == "") == (p.Dough == "") {
			add(noun.Strand{Colour: x.Colour, Swatch: x.Swatch}, false)
		}
	}
	if p.ColourFrom != FromNothing && !IsWhite(p.Swatch) {
		add(noun.Strand{}, false)
	}
	return out
}

// StrandChoice is a colour that can lie beside a piece's own.
type StrandChoice struct {
	Swatch string `json:"swatch" doc:"empty: the paste as it comes"`
	Name   string `json:"name"`
	On     bool   `json:"on"`
}

// partsSay are the parts of a part-mixed piece, its own first: 1 : 2.
func partsSay(p *noun.Piece) string {
	if len(p.Strands) == 0 {
		return ""
	}
	say := "1"
	for _, s := range p.Strands {
		say += " : " + read.Trimmed(s.Parts, 2)
	}
	return say
}
