package work

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"dustyfern/craft/caution"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Stop is something that refuses an order, what brought it, and the way on.
type Stop struct{ Code, Because, Says, By, WayOn string }

// NameAmong is a piece by its name; two of one name are told apart.
func NameAmong(all []*Reckoned, i int) string {
	for k, o := range all {
		if k != i && o.Piece.Name == all[i].Piece.Name {
			return fmt.Sprintf("%s (%d)", all[i].Piece.Name, i+1)
		}
	}
	return cmp.Or(all[i].Piece.Name, fmt.Sprintf("piece %d", i+1))
}

// insertWords are what is put in, as the rules of caution call it.
var insertWords = map[string]string{"wire": "wire", "dowel": "dowel", "stick": "dowel", "toothpick": "dowel"}

// AsksOf are all that could bring a caution to an order, on one of the places where they are
// shown.
func (b *Means) AsksOf(c *noun.Commission, all []*Reckoned, on string) caution.CautionsIn {
	in := caution.CautionsIn{ShownOn: &on}
	put := func(inserts []noun.Insert) {
		for _, x := range inserts {
			if word := insertWords[x.Item]; word != "" {
				in.Words = Union(in.Words, []string{word})
			}
		}
	}
	for i, w := range all {
		one := b.CaseOf(w)
		a := one.Asks()
		in.Audience, in.Avoid = a.Audience, a.Avoid
		in.Techniques, in.Materials, in.Words = Union(in.Techniques, a.Techniques), Union(in.Materials, a.Materials), Union(in.Words, a.Words)
		for _, p := range a.Pieces {
			p.ID = new(NameAmong(all, i))
			in.Pieces = append(in.Pieces, p)
		}
		put(w.Inserts())
	}
	put(c.Leaves.Inserts)
	return in
}

// Stops are what refuses an order: what the table avoids, by where it comes from, and rules
// that stop. What a label only may contain stands among them, for the client decides on it
// in writing.
func (b *Means) Stops(c *noun.Commission, all []*Reckoned) (out []Stop) {
	in := map[string][]string{} // pieces, by the stop
	var met []caution.Conflict
	for _, w := range all {
		label, err := b.Label(w)
		if err != nil {
			continue
		}
		for _, x := range label.Conflicts {
			key := keyOf(&x)
			if in[key] == nil {
				met = append(met, x)
			}
			in[key] = Union(in[key], []string{x.Piece})
		}
	}
	for i := range met {
		x := &met[i]
		code, because := codeOf(x), becauseOf(x)
		pieces, does, wayOn := read.List(in[keyOf(x)]), "holds", "Take another lot, or leave it out."
		if len(in[keyOf(x)]) > 1 {
			does = "hold"
		}
		says := fmt.Sprintf("%s %s %s, which this table avoids.", pieces, does, x.Found)
		if !x.Refused {
			says, wayOn = fmt.Sprintf("%s may hold %s: ask the client, in writing.", pieces, x.Found), "Take a lot whose label does not name it."
		}
		out = append(out, Stop{code, because, says, BySays(x.Via), wayOn})
	}
	for _, on := range []string{"brief", "paste", "step", "card"} {
		found, err := caution.Cautions(b.AsksOf(c, all, on))
		if err != nil {
			continue
		}
		for _, p := range found.Cautions {
			x := Stop{p.ID, strings.Join(p.Because, ", "), p.Says, b.broughtBy(c, all, p.Because), wayOn[p.ID]}
			if p.Level == caution.Stop && !slices.Contains(out, x) {
				out = append(out, x)
			}
		}
	}
	return out
}

// broughtBy tells people what brought a rule: a way of making and a material by their names,
// a guest, and what the table does without.
func (b *Means) broughtBy(c *noun.Commission, all []*Reckoned, because []string) string {
	out := make([]string, len(because))
	for i, x := range because {
		out[i] = cmp.Or(caution.GuestSays(x), helperSays[x], x)
		if slices.Contains(c.Avoids(), x) {
			out[i] = "a table without " + read.WordsOf([]string{x})[0]
		}
		for _, w := range all {
			if w.Way != nil && TechniqueCode(w.Way) == x {
				out[i] = read.LowerFirst(NameOf(b.Reader, w.Way.Names))
			}
		}
	}
	return read.List(out)
}

// Brings tells whether a piece of an order brings a rule that stops.
func (b *Means) Brings(c *noun.Commission, w *Reckoned, stop string) bool {
	for _, on := range []string{"brief", "paste", "step", "card"} {
		found, err := caution.Cautions(b.AsksOf(c, []*Reckoned{w}, on))
		if err == nil && slices.ContainsFunc(found.Cautions, func(p caution.Prompt) bool { return p.ID == stop && p.Level == caution.Stop }) {
			return true
		}
	}
	return false
}

// codeOf, becauseOf and keyOf name what the table avoids and where it comes from.
func codeOf(x *caution.Conflict) string {
	if x.Refused {
		return "avoid:" + x.Avoid
	}
	return "may:" + x.Avoid
}

func becauseOf(x *caution.Conflict) string { return x.Found + " by " + BySays(x.Via) }

func keyOf(x *caution.Conflict) string { return codeOf(x) + "|" + becauseOf(x) }

// Knows tells whether the client knows, in writing, of something that meets the table.
func Knows(c *noun.Commission, x *caution.Conflict) bool {
	return c.Leaves.ClearedOf(codeOf(x), becauseOf(x)) != nil
}

// wayOn is how a stop is got out of the way.
var wayOn = map[string]string{"alcoholGuests": "Thinned piping gel in place of spirit; steam in place of a glaze; colour on water in the brush.", "rawEggRisk": "Edible glue in place of royal icing of raw white.",
	"smallUnder3": "Leave them out, or make them larger than 32 by 57 mm.", "gelatineGuests": "A paste and a mould without gelatine.", "nutBoard": "Another paste, or a board and a day of its own."}
