package caution

import (
	"fmt"
	"slices"

	"dustyfern/craft/fault"
)

// Items are what is taken out before anybody eats, in the order of the card.
var Items = []string{"wire", "pick", "dowel", "stick", "toothpick", "ribbon", "foil", "card", "prop", "former"}

// CardIn is what goes out of the house: the pieces as placed, what they hold and carry.
type CardIn struct {
	Pieces         []Placed `json:"pieces" need:"true"`
	Contains       []string `json:"contains"`
	May            []string `json:"may"`
	Asked          []string `json:"asked"`
	Cautions       []string `json:"cautions"`
	CountedIn      []PartIn `json:"countedIn"`
	StoreLowC      *float64 `json:"storeLowC" def:"15" in:"kitchen"`
	StoreHighC     *float64 `json:"storeHighC" def:"22" in:"kitchen"`
	BestWithinDays *float64 `json:"bestWithinDays" in:"0..3650"`
	ServeByHours   *float64 `json:"serveByHours" in:"0..10000"`
}

// Placed is a piece of which Count are on the cake; those that stay at home do not count.
type Placed struct {
	ID     *string  `json:"id" need:"true"`
	Count  *int     `json:"count" def:"1" in:"count"`
	Where  *string  `json:"where"`
	Parts  []PartIn `json:"parts"`
	Edible *bool    `json:"edible"`
	Hard   bool     `json:"hard"`
}

// PartIn is an item with how many of it are in a piece (or, counted, in all).
type PartIn struct {
	Item     *string `json:"item" need:"true"`
	PerPiece *int    `json:"perPiece" def:"1" in:"count"`
}

// CardOut is the card; Ready is false while what was counted at the bench differs.
type CardOut struct {
	Remove   []Remove   `json:"remove"`
	NotEaten []Counted  `json:"notEaten"`
	Mismatch []Mismatch `json:"mismatch"`
	Ready    bool       `json:"ready"`
	Lines    []Line     `json:"lines"`
}

// Remove is an item to take out, how many and where.
type Remove struct {
	Item  string     `json:"item"`
	Count int        `json:"count"`
	Where []WhereOut `json:"where"`
}

// WhereOut is how many of an item stand in one place.
type WhereOut struct {
	Where string `json:"where"`
	Count int    `json:"count"`
}

// Counted is a piece with its count.
type Counted struct {
	ID    string `json:"id"`
	Count int    `json:"count"`
}

// Mismatch is an item of which another number was counted than is listed.
type Mismatch struct {
	Item    string `json:"item"`
	Listed  int    `json:"listed"`
	Counted int    `json:"counted"`
}

// Line is one line of the card, in its order; what it does not speak of is absent.
type Line struct {
	Line      string   `json:"line"`
	Allergens []string `json:"allergens,omitempty"`
	Item      string   `json:"item,omitempty"`
	Count     int      `json:"count,omitempty"`
	Pieces    []string `json:"pieces,omitempty"`
	ID        string   `json:"id,omitempty"`
	Says      string   `json:"says,omitempty"`
	LowC      *float64 `json:"lowC,omitempty"`
	HighC     *float64 `json:"highC,omitempty"`
	Days      *float64 `json:"days,omitempty"`
	Hours     *float64 `json:"hours,omitempty"`
}

// CardOf writes the card of an order. Errors are *fault.Fault; docs/models/safety.md.
func CardOf(in CardIn) (CardOut, error) {
	if err := in.check(); err != nil {
		return CardOut{}, err
	}
	out := CardOut{Remove: []Remove{}, NotEaten: []Counted{}, Mismatch: []Mismatch{}, Lines: []Line{}}
	var hard []string
	for i := range in.Pieces {
		p := &in.Pieces[i]
		if p.Edible != nil && !*p.Edible && *p.Count > 0 {
			out.NotEaten = append(out.NotEaten, Counted{*p.ID, *p.Count})
		}
		if p.Hard {
			hard = append(hard, *p.ID)
		}
	}
	for _, item := range Items {
		if r := in.remove(item); r.Count > 0 {
			out.Remove = append(out.Remove, r)
		}
	}
	for _, c := range in.CountedIn {
		listed := 0
		for _, r := range out.Remove {
			if r.Item == *c.Item {
				listed = r.Count
			}
		}
		if listed != *c.PerPiece {
			out.Mismatch = append(out.Mismatch, Mismatch{*c.Item, listed, *c.PerPiece})
		}
	}
	out.Ready = len(out.Mismatch) == 0
	out.Lines = in.lines(&out, hard)
	return out, nil
}

// remove is how many of an item are on the cake, and where.
func (in *CardIn) remove(item string) Remove {
	r := Remove{Item: item, Where: []WhereOut{}}
	for i := range in.Pieces {
		p := &in.Pieces[i]
		n := 0
		for _, part := range p.Parts {
			if *part.Item == item {
				n += *p.Count * *part.PerPiece
			}
		}
		if n == 0 {
			continue
		}
		r.Count += n
		where := *p.ID
		if p.Where != nil && *p.Where != "" {
			where = *p.Where
		}
		if at := slices.IndexFunc(r.Where, func(w WhereOut) bool { return w.Where == where }); at >= 0 {
			r.Where[at].Count += n
		} else {
			r.Where = append(r.Where, WhereOut{where, n})
		}
	}
	return r
}

func (in *CardIn) lines(out *CardOut, hard []string) (lines []Line) {
	contains, may := sorted(in.Contains), sorted(in.May)
	if len(contains) > 0 {
		lines = append(lines, Line{Line: "contains", Allergens: contains})
	} else if len(may) == 0 {
		lines = append(lines, Line{Line: "noneNamed"}) // never "free from"
	}
	if len(may) > 0 {
		lines = append(lines, Line{Line: "may", Allergens: may})
	}
	if len(in.Asked) > 0 {
		lines = append(lines, Line{Line: "asked", Allergens: sorted(in.Asked)})
	}
	for _, r := range out.Remove {
		lines = append(lines, Line{Line: "remove", Item: r.Item, Count: r.Count})
	}
	if len(out.NotEaten) > 0 {
		var ids []string
		for _, n := range out.NotEaten {
			ids = append(ids, n.ID)
		}
		lines = append(lines, Line{Line: "notEaten", Pieces: ids})
	}
	if len(hard) > 0 {
		lines = append(lines, Line{Line: "hard", Pieces: hard})
	}
	for _, id := range in.Cautions {
		if r := ruleOf(id); slices.Contains(r.shown, "card") {
			lines = append(lines, Line{Line: "caution", ID: r.id, Says: r.says})
		}
	}
	lines = append(lines, Line{Line: "store", LowC: in.StoreLowC, HighC: in.StoreHighC})
	if in.BestWithinDays != nil {
		lines = append(lines, Line{Line: "bestWithin", Days: in.BestWithinDays})
	}
	if in.ServeByHours != nil {
		lines = append(lines, Line{Line: "serveBy", Hours: in.ServeByHours})
	}
	return append(lines, Line{Line: "labelsFirst"})
}

func ruleOf(id string) *rule {
	for i := range rules {
		if rules[i].id == id {
			return &rules[i]
		}
	}
	return nil
}

func (in *CardIn) check() error {
	if err := fault.Check(in); err != nil {
		return err
	}
	known := map[string]bool{}
	for i := range in.Pieces {
		at := fmt.Sprintf("pieces[%d]", i)
		if known[*in.Pieces[i].ID] {
			return fault.New(fault.Contradiction, at+".id", "There are two pieces %q.", *in.Pieces[i].ID)
		}
		known[*in.Pieces[i].ID] = true
		if err := itemsOf(in.Pieces[i].Parts, at+".parts"); err != nil {
			return err
		}
	}
	if err := itemsOf(in.CountedIn, "countedIn"); err != nil {
		return err
	}
	for _, list := range []struct {
		field      string
		words, all []string
	}{{"contains", in.Contains, Allergens}, {"may", in.May, Allergens}, {"asked", in.Asked, Asked}} {
		if err := wordsOf(list.words, list.all, list.field); err != nil {
			return err
		}
	}
	for i, a := range in.May {
		if slices.Contains(in.Contains, a) {
			return fault.New(fault.Contradiction, fmt.Sprintf("may[%d]", i), "%s is contained already: it is named once.", a)
		}
	}
	for i, id := range in.Cautions {
		if ruleOf(id) == nil {
			return fault.New(fault.UnknownValue, fmt.Sprintf("cautions[%d]", i), "There is no caution %q.", id)
		}
	}
	if *in.StoreLowC > *in.StoreHighC {
		return fault.New(fault.Contradiction, "storeHighC", "It is kept between %g and %g °C: the warmer comes last.", *in.StoreLowC, *in.StoreHighC)
	}
	return nil
}

func itemsOf(parts []PartIn, at string) error {
	for i, p := range parts {
		if !slices.Contains(Items, *p.Item) {
			return fault.New(fault.UnknownValue, fmt.Sprintf("%s[%d].item", at, i), "There is no item %q: one of %v.", *p.Item, Items)
		}
	}
	return nil
}
