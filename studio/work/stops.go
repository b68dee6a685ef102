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

// Stops are what refuses an order: what the table avoids and rules that stop, each once.
// What a label only may contain stands among them, for the client decides on it in writing.
func (b *Means) Stops(c *noun.Commission, all []*Reckoned) (out []Stop) {
	add := func(x Stop) {
		if !slices.ContainsFunc(out, func(o Stop) bool { return o.Code == x.Code && o.Because == x.Because }) {
			out = append(out, x)
		}
	}
	for _, w := range all {
		label, err := b.Label(w)
		if err != nil {
			continue
		}
		for i := range label.Conflicts {
			add(stopOf(&label.Conflicts[i]))
		}
	}
	for _, on := range []string{"brief", "paste", "step", "card"} {
		found, err := caution.Cautions(b.AsksOf(c, all, on))
		if err != nil {
			continue
		}
		for _, p := range found.Cautions {
			if p.Level == caution.Stop {
				add(Stop{p.ID, strings.Join(p.Because, ", "), p.Says, read.List(p.Because), wayOn[p.ID]})
			}
		}
	}
	return out
}

// stopOf is something that the table avoids in a piece.
func stopOf(x *caution.Conflict) Stop {
	by := BySays(x.Via)
	if x.Refused {
		return Stop{"avoid:" + x.Avoid, x.Piece + ": " + by, fmt.Sprintf("%s holds %s, which this table avoids.", x.Piece, x.Found), by, "Take another lot, or leave it out."}
	}
	return Stop{"may:" + x.Avoid, x.Piece + ": " + by, fmt.Sprintf("%s may hold %s: ask the client, in writing.", x.Piece, x.Found), by, "Take a lot whose label does not name it."}
}

// Knows tells whether the client knows, in writing, of something that meets the table.
func Knows(c *noun.Commission, x *caution.Conflict) bool {
	s := stopOf(x)
	return c.Leaves.ClearedOf(s.Code, s.Because) != nil
}

// wayOn is how a stop is got out of the way.
var wayOn = map[string]string{"alcoholGuests": "Thinned piping gel in place of spirit; steam in place of a glaze; colour on water in the brush.", "rawEggRisk": "Edible glue in place of royal icing of raw white.",
	"smallUnder3": "Leave them out, or make them larger than 32 by 57 mm.", "gelatineGuests": "A paste and a mould without gelatine.", "nutBoard": "Another paste, or a board and a day of its own."}
