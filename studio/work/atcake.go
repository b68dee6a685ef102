package work

import (
	"fmt"
	"slices"

	"dustyfern/craft/attach"
	"dustyfern/studio/read"
)

// CakeOrder is the order at the cake for one pair of hands.
type CakeOrder struct {
	Rows  []CakeRow `json:"rows"`
	Says  string    `json:"says"`
	Late  []string  `json:"late" doc:"what would be put on after its window"`
	Idle  string    `json:"idle"`
	Empty bool      `json:"empty"`
}

// CakeRow is one kind of piece in its turn.
type CakeRow struct {
	Piece   int64   `json:"piece"`
	Name    string  `json:"name"`
	Swatch  string  `json:"swatch"`
	From    float64 `json:"from" doc:"minutes after hands begin"`
	Until   float64 `json:"until"`
	Settled float64 `json:"settled"`
	Says    string  `json:"says"`
	With    string  `json:"with"`
}

// OrderAtCake puts what goes on the cake in order: what carries first, the shortest window
// first.
func (b *Means) OrderAtCake(all []*Reckoned) CakeOrder {
	v := CakeOrder{Rows: []CakeRow{}, Late: []string{}}
	var in attach.OrderIn
	by := map[string]*Reckoned{}
	join := map[string]*JoinView{}
	var carriers []string
	for _, w := range all {
		if w.Piece.Wanted > 0 && w.Piece.Carries {
			carriers = append(carriers, fmt.Sprint(w.Piece.ID))
		}
	}
	for _, w := range all {
		if w.Piece.Wanted <= 0 {
			continue
		}
		j := b.Join(w)
		if j == nil || !j.Fits {
			continue
		}
		id := fmt.Sprint(w.Piece.ID)
		by[id], join[id] = w, j
		x := attach.Join{ID: &id, Pieces: &w.Piece.Wanted, MassG: j.in.MassG, Line: w.Piece.Goes.Line, SettleMinutes: new(*j.out.WaitNext)}
		if w.State == "C" && j.out.PlaceWithin != nil {
			x.UntilMinutes = j.out.PlaceWithin
		}
		if w.Piece.Goes.Ground == "dryPiece" || w.Piece.Goes.Ground == "freshPiece" {
			x.On = slices.DeleteFunc(slices.Clone(carriers), func(c string) bool { return c == id })
		}
		in.Joins = append(in.Joins, x)
	}
	for i := range in.Joins { // a carrier whose own ground is left out waits for nothing
		in.Joins[i].On = slices.DeleteFunc(in.Joins[i].On, func(c string) bool { return by[c] == nil })
	}
	if v.Empty = len(in.Joins) == 0; v.Empty {
		return v
	}
	out, err := attach.Order(in)
	if err != nil {
		v.Says = Sentence(err)
		return v
	}
	for _, p := range out.Order {
		w, j := by[p.ID], join[p.ID]
		v.Rows = append(v.Rows, CakeRow{Piece: w.Piece.ID, Name: w.Piece.Name, Swatch: w.Piece.Swatch, From: p.StartMinutes, Until: p.EndMinutes, Settled: p.EndMinutes + *j.out.WaitNext, With: b.Reader.Say(read.AttacherSay(j.With)),
			Says: fmt.Sprintf("%d %s, %s", w.Piece.Wanted, read.LowerFirst(w.Piece.Name), read.SayMinutes(read.UpMinutes(p.EndMinutes-p.StartMinutes)))})
	}
	for _, id := range out.Late {
		v.Late = append(v.Late, by[id].Piece.Name)
	}
	v.Says = fmt.Sprintf("%s of hands; everything has taken hold after %s.", read.SayMinutes(read.UpMinutes(out.HandsMinutes-out.IdleMinutes)), read.SayMinutes(read.UpMinutes(out.SettledMinutes)))
	if out.IdleMinutes > 0 {
		v.Idle = fmt.Sprintf("%s of it nothing can be put on: what is on takes hold.", read.SayMinutes(read.UpMinutes(out.IdleMinutes)))
	}
	return v
}
