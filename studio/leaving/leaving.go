// Package leaving is what goes out of the house with an order: who may not eat it, what is
// taken out and where, how it is kept, and what must be settled before it may go.
package leaving

import (
	"context"
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
		g.all = append(g.all, b.Reckon(&c, &ps[i]))
	}
	steps, err := tx.Steps(id)
	g.steps = work.Derived(steps, k, now)
	return g, err
}

// placed are the pieces that go on the cake.
func (g *order) placed() (out []*work.Reckoned) {
	for _, w := range g.all {
		if w.Wanted > 0 {
			out = append(out, w)
		}
	}
	return out
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
			a.Say(c.ID, "took back the count of %s for %s", read.ItemsName(item), c.Title)
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
		photo, err := a.KeepPhoto(jpeg)
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
