// Package leaving is what goes out of the house with an order: who may not eat it, what is
// taken out and where, how it is kept, and what must be settled before it may go.
package leaving

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Leaving is the use cases of what leaves the house.
type Leaving struct{ *plan.Planning }

// LeavingView is what the last stages show of an order: the order at the cake, and the card.
type LeavingView struct {
	AtCake work.CakeOrder `json:"atCake"`
	Card   CardView       `json:"card"`
}

// CardView is what goes with the order.
type CardView struct {
	Title    string           `json:"title"`
	When     string           `json:"when"`
	Lines    []CardLine       `json:"lines"`
	Remove   []RemoveView     `json:"remove"`
	Counts   []CountView      `json:"counts" doc:"what is counted at the bench"`
	Pieces   []PieceCount     `json:"pieces"`
	Stops    []StopView       `json:"stops"`
	Warns    []string         `json:"warns" doc:"prompts for the maker before it goes"`
	Unread   []string         `json:"unread" doc:"lots whose label nobody has read"`
	Ready    bool             `json:"ready"`
	Missing  []string         `json:"missing" doc:"what must be settled before it may go"`
	Photos   []FinishedPhoto  `json:"photos" doc:"of the finished work"`
	Fields   []read.FieldView `json:"fields"`
	HandedAt bool             `json:"handed" doc:"it is handed over"`
}

// CardLine is one line of the card.
type CardLine struct {
	Code  string `json:"code"`
	Head  string `json:"head"`
	Says  string `json:"says"`
	Level string `json:"level" enum:",warn,note"`
}

// RemoveView is something to take out before serving.
type RemoveView struct {
	Item  string   `json:"item"`
	Says  string   `json:"says"`
	Where []string `json:"where"`
}

// CountView is an item to be counted at the bench.
type CountView struct {
	Item    string `json:"item"`
	Says    string `json:"says"`
	Listed  int    `json:"listed"`
	Counted int    `json:"counted" doc:"-1: nobody has counted"`
	Differs bool   `json:"differs"`
}

// PieceCount is how many of a piece go, and what became of those that were made.
type PieceCount struct {
	ID     int64  `json:"id"`
	Name   string `json:"name"`
	Swatch string `json:"swatch"`
	Wanted int    `json:"wanted"`
	Placed int    `json:"placed"`
	Made   int    `json:"made"`
	Broken int    `json:"broken"`
	Says   string `json:"says"`
}

// StopView is something that refuses, and its way on.
type StopView struct {
	Code    string `json:"code"`
	Because string `json:"because"`
	Says    string `json:"says"`
	By      string `json:"by" doc:"what brought it"`
	WayOn   string `json:"wayOn"`
	Cleared string `json:"cleared" doc:"who wrote that the client knows, and when; empty: it stands"`
}

// FinishedPhoto is a photo of the finished work.
type FinishedPhoto struct {
	Note  int64  `json:"note"`
	Photo int64  `json:"photo"`
	When  string `json:"when"`
}

// mostPhotos of the finished work are shown.
const mostPhotos = 6

// Read is what the last stages show of an order.
func (s *Leaving) Read(ctx context.Context, slug string, id int64) (out LeavingView, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		g, err := gathered(tx, k, now, id)
		if err != nil {
			return err
		}
		out.AtCake = g.b.OrderAtCake(g.all)
		out.Card, err = g.card(tx)
		return err
	})
	return out, err
}

// order is an order with all that follows from it.
type order struct {
	b     *work.Means
	c     noun.Commission
	all   []*work.Reckoned
	steps []noun.Step
}

func gathered(tx journal.Tx, k *noun.Kitchen, now time.Time, id int64) (*order, error) {
	b, c, ps, err := plan.GatherOne(tx, k, now, id)
	if err != nil {
		return nil, err
	}
	g := &order{b: b, c: c}
	for i := range ps {
		g.all = append(g.all, b.Work(&c, &ps[i]))
	}
	steps, err := tx.Steps(id)
	g.steps = work.Derived(steps, k, now)
	return g, err
}

// placedOf are the pieces that go on the cake.
func (g *order) placed() (out []*work.Reckoned) {
	for _, w := range g.all {
		if w.Wanted > 0 {
			out = append(out, w)
		}
	}
	return out
}

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
		p := caution.Placed{ID: new(work.NameAmong(g.placed(), i)), Count: &w.Wanted, Edible: new(w.Piece.Eaten != "shown"), Hard: *new(g.b.CaseOf(w).Shape.Hard)}
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
		return say("Keep", fmt.Sprintf("Between %s and %s, dry, away from sun; flat on the way.", degrees(r, *l.LowC), degrees(r, *l.HighC)))
	case "bestWithin":
		return say("Best within", read.Trimmed(*l.Days, 1)+" days.")
	case "serveBy":
		return say("Once cut", "serve within "+read.Trimmed(*l.Hours, 1)+" hours.")
	case "labelsFirst":
		return say("Labels first", "This card follows the labels of what went in. Labels and the food rules of your place come first.")
	}
	return CardLine{}
}

func degrees(r read.Reader, c float64) string { return r.Temp(c) }

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
			c.Counted, c.Differs = n, n != x.Count
		}
		v.Counts = append(v.Counts, c)
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
			if st.Planned.Places && st.ActualEnd != nil {
				p.Placed = min(w.Wanted, p.Placed+max(1, placedBy(st, w.Wanted)))
			}
		}
		p.Says = fmt.Sprintf("%d wanted", p.Wanted)
		if p.Made > 0 {
			p.Says += fmt.Sprintf(", %d made, %d broken, %d whole", p.Made, p.Broken, p.Made-p.Broken)
		}
		v.Pieces = append(v.Pieces, p)
	}
}

// placedBy is how many pieces a step put on.
func placedBy(st *noun.Step, wanted int) int {
	if k := st.Planned.Kept; k != nil {
		return k.Pieces
	}
	return wanted
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

// Count says how many of an item were counted at the bench; nil: nobody has.
func (s *Leaving) Count(ctx context.Context, slug string, id int64, item string, n *int) error {
	if !slices.Contains(caution.Items, item) {
		return fault.New(fault.UnknownValue, "item", "Counted are %s.", read.List(caution.Items))
	}
	if n != nil && (*n < 0 || *n > 100_000) {
		return fault.New(fault.OutOfRange, "counted", "A count is from 0 to 100000.")
	}
	return s.change(ctx, slug, id, func(a *journal.Acting, c *noun.Commission) error {
		counted := map[string]int{}
		for k, x := range c.Leaves.Counted {
			counted[k] = x
		}
		if n == nil {
			delete(counted, item)
			a.Say(c.ID, "took back the count of %s for %s", read.ItemsSay(item, 2)[2:], c.Title)
		} else {
			counted[item] = *n
			a.Say(c.ID, "counted %s for %s", read.ItemsSay(item, *n), c.Title)
		}
		c.Leaves.Counted = counted
		return nil
	})
}

// Clear writes down that the client knows of a stop; says is what was written. "": the stop
// stands again.
func (s *Leaving) Clear(ctx context.Context, slug string, id int64, code, because, says string) error {
	says = strings.TrimSpace(says)
	if len([]rune(says)) > 500 {
		return fault.New(fault.OutOfRange, "says", "At most 500 characters.")
	}
	return s.change(ctx, slug, id, func(a *journal.Acting, c *noun.Commission) error {
		g, err := gathered(a.Tx, a.House, a.Now, id)
		if err != nil {
			return err
		}
		card, err := g.card(a.Tx)
		if err != nil {
			return err
		}
		stands := slices.ContainsFunc(card.Stops, func(x StopView) bool { return x.Code == code && x.Because == because })
		kept := slices.DeleteFunc(slices.Clone(c.Leaves.Cleared), func(x noun.Cleared) bool { return x.Stop == code && x.Because == because })
		if says == "" {
			c.Leaves.Cleared = kept
			a.Say(c.ID, "let a stop of %s stand again", c.Title)
			return nil
		}
		if !stands {
			return fault.New(fault.UnknownValue, "code", "That stop does not stand any more: look again.")
		}
		c.Leaves.Cleared = append(kept, noun.Cleared{Stop: code, Because: because, At: a.Now.UTC().Truncate(time.Second), Who: a.By, Says: says})
		a.Say(c.ID, "wrote that the client of %s knows: %s", c.Title, says)
		return nil
	})
}

func (s *Leaving) change(ctx context.Context, slug string, id int64, do func(*journal.Acting, *noun.Commission) error) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		c, err := journal.Get[noun.Commission](a, id)
		if err != nil {
			return err
		}
		if c.DeletedAt != nil {
			return journal.ErrNotFound
		}
		if err := do(a, &c); err != nil {
			return err
		}
		return a.Save(&c)
	}, nil)
	return err
}

// Finished keeps a photo of the finished work.
func (s *Leaving) Finished(ctx context.Context, slug string, id int64, jpeg []byte) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		c, err := journal.Get[noun.Commission](a, id)
		if err != nil {
			return err
		}
		if used, err := a.PhotoBytes(); err != nil {
			return err
		} else if used+int64(len(jpeg)) > noun.MostPhotoBytes {
			return fault.New(fault.OutOfRange, "photo", "The photos of this studio take %d MB, which is all that it carries: take some away first.", used>>20)
		}
		photo, err := a.AddPhoto(jpeg)
		if err != nil {
			return err
		}
		n := noun.Note{Row: noun.Row{Version: 1}, At: a.Now.UTC().Truncate(time.Second), Who: a.By, CommissionID: &c.ID, Name: c.Title, What: "finished", Photo: &photo, Symptoms: []string{}}
		a.Say(c.ID, "photographed %s, finished", c.Title)
		return a.Create(&n)
	}, nil)
	return err
}

// Held notes whether the joins of a piece held: what fell lowers what its attacher carries
// here, what held beyond it raises it.
func (s *Leaving) Held(ctx context.Context, slug string, piece int64, held bool) error {
	_, err := s.Act(ctx, slug, func(a *journal.Acting) error {
		p, err := journal.Get[noun.Piece](a, piece)
		if err != nil {
			return err
		}
		g, err := gathered(a.Tx, a.House, a.Now, p.CommissionID)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(g.all, func(w *work.Reckoned) bool { return w.Piece.ID == piece })
		if i < 0 {
			return journal.ErrNotFound
		}
		w := g.all[i]
		load, perCM2, with := g.b.Pulled(w)
		if load <= 0 {
			return fault.New(fault.Contradiction, "held", "It is not known yet what holds it: weigh a piece first.")
		}
		n := noun.Note{Row: noun.Row{Version: 1}, At: a.Now.UTC().Truncate(time.Second), Who: a.By, CommissionID: &p.CommissionID, PieceID: &p.ID, Name: p.Name, What: "fell", Attacher: with, Load: load, PerCM2: perCM2, Symptoms: []string{}}
		if held {
			n.What = "held"
		}
		if w.Way != nil {
			n.Technique = w.Way.Key
		}
		a.Say(p.CommissionID, "noted of %s: %s", p.Name, map[bool]string{true: "its joins held", false: "a join came off"}[held])
		return a.Create(&n)
	}, nil)
	return err
}
