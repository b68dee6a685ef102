package work

import (
	"fmt"
	"slices"
	"strings"

	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Tally is how a piece stands: made, broken, whole against wanted.
type Tally struct {
	PieceID      int64  `json:"pieceId"`
	CommissionID int64  `json:"commissionId"`
	By           string `json:"by" doc:"who made them, when it was said"`
	Enough       bool   `json:"enough" doc:"fewer are wanted than when the press was begun, and so many are whole: it can stop here"`
	Again        bool   `json:"again" doc:"more of them can be made"`
	Op           string `json:"op" doc:"the press whose pieces can be counted or can break"`
	Version      int64  `json:"version"`
	Name         string `json:"name"`
	Made         int    `json:"made"`
	Broken       int    `json:"broken"`
	Wanted       int    `json:"wanted"`
	Short        int    `json:"short" doc:"so many will be missing"`
	More         int    `json:"more" doc:"to make beyond the plan, so that with what has broken enough stay whole; no fewer than are missing"`
	Says         string `json:"says"`
}

// notYetPlanned is what is to be pressed again and has no place in the plan yet.
func notYetPlanned(p *noun.Piece, presses []*noun.Step) (n int) {
	for i, extra := range p.Extras {
		batch := noun.BatchID(p.ID, noun.AgainFrom+i)
		if !slices.ContainsFunc(presses, func(s *noun.Step) bool { return noun.BatchOf(s.Op) == batch }) {
			n += extra
		}
	}
	return n
}

// Tallies counts the pieces of an order that have been begun, by their presses.
func Tallies(ps []noun.Piece, presses []noun.Step) []Tally {
	out := []Tally{}
	needed := noun.Needed(ps)
	mine := map[int64][]*noun.Step{}
	for i := range presses {
		if s := &presses[i]; s.PieceID != nil && s.Planned.Run != nil {
			mine[*s.PieceID] = append(mine[*s.PieceID], s)
		}
	}
	for _, p := range ps {
		t := Tally{PieceID: p.ID, CommissionID: p.CommissionID, Again: len(p.Extras) < noun.MostAgain, Name: p.Name, Wanted: needed[p.ID]}
		by, cut := makers{}, false
		of := noun.Run{Class: "none"}
		coming := notYetPlanned(&p, mine[p.ID])
		for _, s := range mine[p.ID] {
			if s.ActualStart == nil {
				coming += s.Run().Balls
				continue
			}
			if t.Op == "" || s.ActualEnd == nil {
				t.Op, t.Version = s.Op, s.Version
			}
			t.Made += s.Out()
			of = *s.Planned.Run
			by.add(s)
			cut = cut || s.ActualEnd == nil && s.Planned.Run.For > t.Wanted
			t.Broken += s.Broken()
			if s.ActualEnd == nil {
				coming += max(0, s.Run().Balls-s.Out())
			}
		}
		if t.Op == "" || p.DeletedAt != nil {
			continue
		}
		t.By = by.says()
		t.Enough = cut && t.Made-t.Broken >= t.Wanted
		t.Short = max(0, t.Wanted-(t.Made-t.Broken+coming))
		t.More = max(t.Short, moreOf(&t, &of)-coming)
		spare := t.Made - t.Broken + coming - t.Wanted
		switch {
		case t.Short > 0:
			t.Says = fmt.Sprintf("%d short: the spares are used up.%s", t.Short, t.asMany())
		case t.Enough:
			t.Says = fmt.Sprintf("Fewer are wanted now: enough, stop here. %s over.", read.Count(t.Made-t.Broken-t.Wanted, "spare"))
		case spare == 0:
			t.Says = "No spare is left." + t.asMany()
		default:
			t.Says = read.Count(spare, "spare") + " left." + t.asMany()
		}
		out = append(out, t)
	}
	return out
}

// moreOf is how many are still to press: what has broken of these teaches at once how
// many of the rest will. Before a break the plan is believed, and once enough are whole
// nothing is asked. A step without a class is ordinary, as everywhere.
func moreOf(t *Tally, of *noun.Run) int {
	if t.Broken == 0 || of.Class == "none" || t.Wanted > 5000 {
		return 0
	}
	in := piece.MoreIn{Wanted: &t.Wanted, Pressed: &t.Made, BrokeOfThese: &t.Broken, Made: &of.Before, Broken: &of.Broke, Kinds: new(max(1, of.Kinds))}
	if of.Class != "" {
		in.Breakage = &of.Class
	}
	out, err := piece.More(in)
	if err != nil {
		return 0 // so many broke that no count suffices: what is short is said
	}
	return out.More
}

// asMany says what to make beyond the plan and why.
func (t *Tally) asMany() string {
	if t.More <= t.Short {
		return ""
	}
	return fmt.Sprintf(" With %d of %d broken, make %d more than planned to be sure.", t.Broken, t.Made, t.More)
}

// makers are how many pieces each person made, in the order in which they began.
type makers struct {
	names []string
	n     map[string]int
}

func (m *makers) add(st *noun.Step) {
	left := st.Out()
	for _, f := range st.Fills {
		if f.Who == "" || f.Out == nil {
			continue
		}
		if m.n == nil {
			m.n = map[string]int{}
		}
		if m.n[f.Who] == 0 {
			m.names = append(m.names, f.Who)
		}
		n := min(left, max(1, st.Planned.Run.Cavities))
		m.n[f.Who] += n
		left -= n
	}
}

// says who made how many: "Ines 12, Tobi 4"; "" when nobody said who.
func (m *makers) says() string {
	var out []string
	for _, name := range m.names {
		out = append(out, fmt.Sprintf("%s %d", name, m.n[name]))
	}
	return strings.Join(out, ", ")
}
