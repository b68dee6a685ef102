package work

import (
	"fmt"
	"slices"
	"strings"

	"dustyfern/craft/caution"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// AttacherFor is what pieces go on with, unless somebody at the table must not have it:
// a material of caution.
func AttacherFor(c *noun.Commission) string {
	for _, a := range c.Avoids() {
		if slices.Contains(caution.Means(a), "egg") {
			return "gumGlue"
		}
	}
	return "royalIcing"
}

// AttacherOut is what to lay out to put pieces on with, with its reason when it is not the
// one that is known for it.
func (b *Means) AttacherOut(w *Reckoned) string {
	with := b.AttachedWith(w)
	switch {
	case with == "":
		return "nothing to wet it with"
	case with == "gumGlue" && AttacherFor(w.order) == "gumGlue":
		return "edible glue (royal icing holds egg)"
	case with == "royalIcing":
		return "a bag of icing"
	case helperSays[with] != "":
		return helperSays[with]
	}
	return with
}

// helperSays are materials that nobody writes down as lots, in words.
var helperSays = map[string]string{"cornflour": "cornflour", "whiteFat": "white fat", "petalDust": "petal dust", "lustreDust": "lustre", "royalIcing": "royal icing", "gumGlue": "edible glue", "pipingGel": "piping gel",
	"buttercream": "buttercream", "citrusExtract": "citrus extract", "clearSpirit": "clear spirit", "glaze": "glaze", "lacquer": "lacquer", "shineSpray": "shine spray", "gel": "gel", "water": "water", "darkChocolate": "melted chocolate", "milkChocolate": "melted chocolate", "whiteChocolate": "melted chocolate"}

// helpers are what comes on to a piece besides its paste: forgetting them is the usual
// mistake.
func (b *Means) helpers(w *Reckoned) (out []string) {
	if w.Way != nil && w.balls() || w.Tool != nil && w.Tool.Presses() {
		out = append(out, "cornflour", "whiteFat")
	} else {
		out = append(out, "cornflour")
	}
	for _, m := range b.Finishing(w).Materials {
		if _, known := caution.MaterialOf(m); known && !slices.Contains(out, m) {
			out = append(out, m)
		}
	}
	if with := b.AttachedWith(w); with != "" && !slices.Contains(out, with) {
		out = append(out, with)
	}
	return out
}

// Label is what a piece holds with all that comes on to it, and what of that meets the
// table.
type PieceLabel struct {
	caution.Carried
	Conflicts []caution.Conflict
	Unread    []*noun.Lot
}

// Label follows the labels of its lots into a piece. What is to be bought is judged as
// its kind usually is.
func (b *Means) Label(w *Reckoned) (PieceLabel, error) {
	lots := map[string]*noun.Lot{}
	in := caution.CarryIn{Pieces: []caution.CarryPiece{{ID: &w.Piece.Name}}}
	if w.Piece.Name == "" {
		in.Pieces[0].ID = new("piece")
	}
	for _, m := range w.Mixing(1) {
		label, name, read := noun.LabelOfKind(m.Kind), b.Named(&m), true
		if m.Lot != nil {
			label, read = m.Lot.Label(), m.Lot.LabelRead
		}
		if lots[name] != nil {
			name = fmt.Sprintf("%s (%d)", name, len(lots))
		}
		if slices.Contains(in.Pieces[0].From, name) {
			continue
		}
		lots[name] = m.Lot
		asked := slices.DeleteFunc(slices.Clone(label.Asks), func(a string) bool { return !slices.Contains(caution.Asked, a) })
		in.Lots = append(in.Lots, caution.CarryLot{ID: &name, Contains: noun.Some(label.Holds), May: slices.DeleteFunc(noun.Some(slices.Clone(label.May)), func(a string) bool { return slices.Contains(label.Holds, a) }), Asked: asked, Labelled: &read})
		in.Pieces[0].From = append(in.Pieces[0].From, name)
	}
	for _, h := range b.helpers(w) {
		if lots[h] == nil {
			in.Pieces[0].From = append(in.Pieces[0].From, h)
		}
	}
	for _, a := range w.order.Avoids() {
		if slices.Contains(caution.Allergens, a) || slices.Contains(caution.Asked, a) {
			in.Avoid = append(in.Avoid, a)
		}
	}
	out, err := caution.Carry(in)
	if err != nil {
		return PieceLabel{}, err
	}
	x := PieceLabel{Carried: out.Pieces[0], Conflicts: out.Conflicts}
	for _, name := range x.ReadLabel {
		if l := lots[name]; l != nil {
			x.Unread = append(x.Unread, l)
		}
	}
	return x, nil
}

// BySays is what carries something into a piece: "White flower paste", "royal icing".
func BySays(via []string) string {
	var out []string
	for _, v := range via {
		if say, ok := helperSays[v]; ok {
			v = say
		}
		out = append(out, v)
	}
	return strings.Join(out, ", in ")
}

// labelSays are the lines of a piece's label, as cautions.
func (b *Means) labelSays(w *Reckoned, c *caution.Case) {
	x, err := b.Label(w)
	if err != nil {
		return
	}
	c.Holds, c.May = x.Contains, x.May
	for _, l := range x.Unread {
		c.Unread = append(c.Unread, read.UpperFirst(l.Name))
	}
}
