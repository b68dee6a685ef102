package leaving

import (
	"fmt"
	"slices"
	"strings"

	"dustyfern/craft/caution"
	"dustyfern/studio/journal"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// card is the card of the order.
func (g *order) card(tx journal.Tx) (CardView, error) {
	r := g.b.Reader
	v := CardView{Title: g.c.Title, Lines: []CardLine{}, Remove: []RemoveView{}, Counts: []CountView{}, Pieces: []PieceCount{}, Stops: []StopView{}, Warns: []string{}, Unread: []string{}, Missing: []string{}, Photos: []FinishedPhoto{},
		Fields: read.Views(read.LeavesFields, r, &g.c, g.b.Now), HandedAt: g.c.State == "handedOver"}
	if g.c.HandOver != nil {
		v.When = r.Date(*g.c.HandOver, g.b.Now)
	}
	notes, err := tx.FinishedNotes(g.c.ID, mostPhotos)
	if err != nil {
		return v, err
	}
	for _, n := range notes {
		if n.Photo != nil {
			v.Photos = append(v.Photos, FinishedPhoto{n.ID, *n.Photo, r.Time(n.At, g.b.Now)})
		}
	}
	if len(g.placed()) == 0 {
		v.Missing = append(v.Missing, "There are no pieces yet: the card follows from them.")
		return v, nil
	}
	out, err := g.written(&v)
	if err != nil {
		return v, err
	}
	for i := range out.Lines {
		if l := g.line(&out.Lines[i]); l.Head != "" {
			v.Lines = append(v.Lines, l)
		}
	}
	g.counts(&v, &out)
	g.stops(&v)
	g.settle(&v)
	return v, nil
}

// written is the card as its model writes it.
func (g *order) written(v *CardView) (caution.CardOut, error) {
	in := caution.CardIn{BestWithinDays: g.c.Leaves.BestDays, ServeByHours: g.c.Leaves.ServeHours}
	for i, w := range g.placed() {
		x, err := g.b.Label(w)
		if err != nil {
			return caution.CardOut{}, err
		}
		in.Contains, in.May, in.Asked = work.Union(in.Contains, x.Contains), work.Union(in.May, x.May), work.Union(in.Asked, x.Asked)
		for _, l := range x.Unread {
			v.Unread = work.Union(v.Unread, []string{read.UpperFirst(l.Name)})
		}
		p := caution.Placed{ID: new(work.NameAmong(g.placed(), i)), Count: &w.Wanted, Edible: new(w.Piece.Eaten != "shown"), Hard: g.b.CaseOf(w).Shape.Hard}
		for _, part := range w.Inserts() {
			p.Parts = append(p.Parts, caution.PartIn{Item: new(part.Item), PerPiece: new(part.Each)})
		}
		in.Pieces = append(in.Pieces, p)
	}
	if parts := g.c.Leaves.Inserts; len(parts) > 0 {
		p := caution.Placed{ID: new("the cake itself"), Count: new(1)}
		for _, part := range parts {
			p.Parts = append(p.Parts, caution.PartIn{Item: new(part.Item), PerPiece: new(part.Each)})
		}
		in.Pieces = append(in.Pieces, p)
	}
	in.May = slices.DeleteFunc(in.May, func(a string) bool { return slices.Contains(in.Contains, a) })
	in.Contains, in.May, in.Asked = known(in.Contains, caution.Allergens), known(in.May, caution.Allergens), known(in.Asked, caution.Asked)
	for item, n := range g.c.Leaves.Counted {
		in.CountedIn = append(in.CountedIn, caution.PartIn{Item: &item, PerPiece: &n})
	}
	prompts, err := caution.Cautions(g.b.AsksOf(&g.c, g.placed(), "card"))
	if err != nil {
		return caution.CardOut{}, err
	}
	for _, p := range prompts.Cautions {
		if slices.Contains(p.Readers, "client") || slices.Contains(p.Readers, "guest") {
			in.Cautions = append(in.Cautions, p.ID)
		} else {
			v.Warns = append(v.Warns, g.b.Reader.Say(p.Says))
		}
	}
	return caution.CardOf(in)
}

func known(list, all []string) []string {
	return slices.DeleteFunc(slices.Clone(list), func(a string) bool { return !slices.Contains(all, a) })
}

// line is a line of the card in the reader's words; no head: it stands elsewhere.
func (g *order) line(l *caution.Line) CardLine {
	r := g.b.Reader
	say := func(head, text string) CardLine { return CardLine{Code: l.Line, Head: head, Says: r.Say(text)} }
	switch l.Line {
	case "contains":
		return say("Contains", read.UpperFirst(read.List(l.Allergens))+".")
	case "noneNamed":
		return say("Allergens", "None is named by the labels that were read. That is not the same as free from.")
	case "may":
		return say("May contain", read.UpperFirst(read.List(l.Allergens))+".")
	case "asked":
		return say("Also in it", read.UpperFirst(read.List(askedSays(l.Allergens)))+".")
	case "remove":
		return CardLine{}
	case "notEaten":
		return say("Not eaten", read.List(l.Pieces)+": for looking at, lift them off before serving.")
	case "hard":
		return say("Hard when dry", read.List(l.Pieces)+".")
	case "caution":
		x := say("Take care", l.Says)
		x.Level = "warn"
		return x
	case "store":
		return say("Keep", fmt.Sprintf("Between %s and %s, dry, away from sun; flat on the way.", r.Temp(*l.LowC), r.Temp(*l.HighC)))
	case "bestWithin":
		return say("Best within", read.Trimmed(*l.Days, 1)+" days.")
	case "serveBy":
		return say("Once cut", "serve within "+read.Trimmed(*l.Hours, 1)+" hours.")
	case "labelsFirst":
		return say("Labels first", "This card follows the labels of what went in. Labels and the food rules of your place come first.")
	}
	return CardLine{}
}

func askedSays(list []string) []string {
	out := slices.Clone(list)
	for i, a := range out {
		if a == "animal" {
			out[i] = "something of animals"
		}
	}
	return out
}

// counts are what is taken out, what was counted, and what became of the pieces.
func (g *order) counts(v *CardView, out *caution.CardOut) {
	for _, x := range out.Remove {
		y := RemoveView{Item: x.Item, Says: read.ItemsSay(x.Item, x.Count), Where: []string{}}
		for _, at := range x.Where {
			y.Where = append(y.Where, fmt.Sprintf("%d in %s", at.Count, read.LowerFirst(at.Where)))
		}
		v.Remove = append(v.Remove, y)
		c := CountView{Item: x.Item, Says: y.Says, Listed: x.Count, Counted: -1}
		if n, counted := g.c.Leaves.Counted[x.Item]; counted {
			c.Counted = n
		}
		v.Counts = append(v.Counts, c)
	}
	for _, m := range out.Mismatch { // what was counted and is listed no more, too
		i := slices.IndexFunc(v.Counts, func(c CountView) bool { return c.Item == m.Item })
		if i < 0 {
			i = len(v.Counts)
			v.Counts = append(v.Counts, CountView{Item: m.Item, Says: read.ItemsSay(m.Item, 0), Counted: m.Counted})
		}
		v.Counts[i].Differs = true
	}
	for _, w := range g.placed() {
		p := PieceCount{ID: w.Piece.ID, Name: w.Piece.Name, Swatch: w.Piece.Swatch, Wanted: w.Wanted}
		for i := range g.steps {
			st := &g.steps[i]
			if st.PieceID == nil || *st.PieceID != w.Piece.ID {
				continue
			}
			if st.Makes() && st.Made != nil {
				p.Made, p.Broken = p.Made+st.Out(), p.Broken+st.Broken()
			}
		}
		p.Says = fmt.Sprintf("%d wanted", p.Wanted)
		if p.Made > 0 {
			p.Says += fmt.Sprintf(", %d made, %d broken, %d whole", p.Made, p.Broken, p.Made-p.Broken)
		}
		v.Pieces = append(v.Pieces, p)
	}
}

// stops are what refuses: rules that stop, and what the table avoids.
func (g *order) stops(v *CardView) {
	for _, x := range g.b.Stops(&g.c, g.placed()) {
		y := StopView{Code: x.Code, Because: x.Because, Says: g.b.Reader.Say(x.Says), By: x.By, WayOn: g.b.Reader.Say(x.WayOn)}
		if c := g.c.Leaves.ClearedOf(x.Code, x.Because); c != nil {
			y.Cleared = strings.TrimPrefix(fmt.Sprintf("%s, %s: %s", c.Who, g.b.Reader.Time(c.At, g.b.Now), c.Says), ", ")
		}
		v.Stops = append(v.Stops, y)
	}
}

// settle says what is open before it may go.
func (g *order) settle(v *CardView) {
	for _, s := range v.Stops {
		if s.Cleared == "" {
			v.Missing = append(v.Missing, s.Says)
		}
	}
	if len(v.Unread) > 0 && len(g.c.Avoids()) > 0 {
		v.Missing = append(v.Missing, g.b.Reader.Sayf("Nobody has read the label of %s.", read.List(v.Unread)))
	}
	for _, c := range v.Counts {
		switch {
		case c.Counted < 0:
			v.Missing = append(v.Missing, fmt.Sprintf("Count them at the bench: %s.", c.Says))
		case c.Differs:
			v.Missing = append(v.Missing, fmt.Sprintf("%s are listed, %d were counted: look for the difference before it goes.", read.UpperFirst(c.Says), c.Counted))
		}
	}
	for i := range g.steps {
		for check, well := range g.steps[i].Looked {
			if !well {
				v.Warns = append(v.Warns, fmt.Sprintf("%s: %s, was not so.", g.steps[i].Title, check))
			}
		}
	}
	slices.Sort(v.Warns)
	v.Ready = len(v.Missing) == 0
}
