package work

import (
	"fmt"
	"slices"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// partViews tells what goes on to a piece, what it is itself a part of, and the
// questions on which good makers differ, each at its step.
func (b *Means) partViews(w *Reckoned) {
	v, p := &w.View, w.Piece
	v.Needed = w.Wanted
	for _, j := range p.Joins {
		part := b.Pieces[j.Part]
		if part == nil {
			continue
		}
		x := PartView{Part: j.Part, Name: part.Name, Swatch: part.Swatch, Each: j.Each, Total: j.Each * w.Wanted, Says: j.Says, With: j.With, Minutes: read.Trimmed(j.Minutes, 2) + " min"}
		if way := b.WayOf(part, b.toolOf(part)); way != nil {
			state, _ := part.JoinState(way)
			x.State = b.Reader.Say(stateWords[state].Say)
		}
		v.Parts = append(v.Parts, x)
	}
	ids := make([]int64, 0, len(b.Pieces))
	for id := range b.Pieces {
		ids = append(ids, id)
	}
	slices.Sort(ids)
	for _, id := range ids {
		for _, j := range b.Pieces[id].Joins {
			if j.Part == p.ID && b.Pieces[id].DeletedAt == nil {
				v.PartOf = append(v.PartOf, fmt.Sprintf("%d on to each of %s", j.Each, b.Pieces[id].Name))
			}
		}
	}
	if w.Way == nil {
		return
	}
	seen := map[string]bool{}
	for i := range w.Way.Steps {
		s := &w.Way.Steps[i]
		for _, q := range s.Ways {
			way := b.Library.Way(w.Way, q)
			if way == nil || seen[q] {
				continue
			}
			seen[q] = true
			v.Ways = append(v.Ways, WayAsked{Question: q, Asks: b.Reader.Say(way.Says), At: b.Reader.Say(VerbSay(s.Verb)), Options: b.optionsOf(w, way)})
		}
	}
}

func (b *Means) toolOf(p *noun.Piece) *noun.Tool {
	if p.ToolID == nil {
		return nil
	}
	return b.Tools[*p.ToolID]
}
