package plan

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// RoughIn is an order as somebody asks for it: so many cakes or biscuits, so many
// pieces on each, by a day. Nothing of it is saved.
type RoughIn struct {
	HandOver string      `json:"handOver" maxLength:"80" doc:"as it is typed, such as Sat 12 Dec 10:00"`
	Count    string      `json:"count" maxLength:"20" doc:"how many cakes or biscuits"`
	Lines    []RoughLine `json:"lines" maxItems:"20"`
}

// RoughLine is a kind of piece on each of them, shaped with a tool of the drawer or
// made in a way that takes none.
type RoughLine struct {
	Each string `json:"each" maxLength:"20"`
	Tool int64  `json:"tool"`
	Way  string `json:"way" maxLength:"80" doc:"a way of making; empty: as its tool says"`
	Name string `json:"name" maxLength:"80"`
}

// RoughView says whether an order can be taken, among those that are open.
type RoughView struct {
	Fits     bool     `json:"fits"`
	Says     string   `json:"says" doc:"the answer in a sentence"`
	Begins   string   `json:"begins"`
	Evenings int      `json:"evenings" doc:"stretches at the bench in which something of it is done"`
	Hands    string   `json:"hands" doc:"of hands it takes"`
	Pushes   []string `json:"pushes" doc:"what moves for it, from and to"`
	Pushed   int      `json:"pushed" doc:"how many steps move for it in all"`
	Late     []string `json:"late"`
	LeftOut  []string `json:"leftOut" doc:"what of it cannot be planned, and why"`
}

// Numbers of an order that is only asked about: below those of any row.
const (
	roughOrder   = -1
	mostRough    = 100000
	mostPushes   = 12
	laterAtLeast = 30 // minutes that are worth a word
	roughMoved   = 10 * time.Minute
	roughTitle   = "the order that is asked about"
	roughBudget  = 10 * time.Second
)

// CanTake plans a rough order among the open ones, each of which keeps its place as far
// as that goes, and says what it comes to. A fault names the field that is wrong.
func (s *Planning) CanTake(ctx context.Context, slug string, rough RoughIn) (out RoughView, err error) {
	out = RoughView{Pushes: []string{}, Late: []string{}, LeftOut: []string{}}
	ctx, cancel := context.WithTimeout(ctx, roughBudget)
	defer cancel()
	in, err := s.planInputs(ctx, slug)
	if err != nil {
		return out, err
	}
	standing, err := in.plannedNow(ctx)
	if err != nil {
		return out, err
	}
	lateBefore := in.lateNow(standing)
	if err := in.addRough(rough); err != nil {
		return out, err
	}
	l, err := instance(ctx, in.bench, in.commissions, in.pieces, in.steps, in.onBoard)
	if err != nil {
		return out, err
	}
	for _, x := range l.leftOut {
		if x.CommissionID == roughOrder {
			out.LeftOut = append(out.LeftOut, x.Say)
		}
	}
	if !slices.ContainsFunc(l.in.Commissions, func(c bench.Commission) bool { return commissionID(c.ID) == roughOrder }) {
		out.Says = "Nothing of it can be planned yet."
		return out, nil
	}
	made, err := bench.ReplanWithin(ctx, bench.ReplanIn{Instance: &l.in, Plan: standing})
	if err != nil {
		if noPlace(err) {
			out.Says = "There are no hours left in which it could be made."
			return out, nil
		}
		return out, err
	}
	in.tell(l, &made, &out, lateBefore)
	return out, nil
}

// plannedNow is the plan as it stands, or as it would be made if none does.
func (in *inputs) plannedNow(ctx context.Context) (*bench.Plan, error) {
	if p := followed(in.steps); p != nil {
		return p, nil
	}
	l, err := instance(ctx, in.bench, in.commissions, in.pieces, in.steps, in.onBoard)
	if err != nil || len(l.in.Batches) == 0 {
		return &bench.Plan{}, err
	}
	p, err := bench.BuildWithin(ctx, bench.BuildIn{Instance: &l.in})
	if err != nil {
		return &bench.Plan{}, ctx.Err()
	}
	return &p, nil
}

// lateNow is how late the open orders are as it stands, in minutes.
func (in *inputs) lateNow(p *bench.Plan) map[int64]int {
	out := map[int64]int{}
	if in.old != nil {
		for _, x := range in.old.Summary.Late {
			out[x.CommissionID] = x.Minutes
		}
	}
	for _, x := range p.Late {
		out[commissionID(x.Commission)] = x.Minutes
	}
	return out
}

// addRough puts the rough order beside the open ones, in memory only.
func (in *inputs) addRough(rough RoughIn) error {
	r := read.Reader{K: in.k}
	c := noun.BlankCommission()
	c.ID, c.Title = roughOrder, roughTitle
	if err := read.Apply(read.CommissionFields, r, &c, map[string]string{"handOver": rough.HandOver}, in.now); err != nil {
		return err
	}
	if c.HandOver == nil {
		return fault.New(fault.Required, "handOver", "Say when it is wanted, such as Sat 12 Dec 10:00.")
	}
	count, err := whole("count", rough.Count)
	if err != nil {
		return err
	}
	if len(rough.Lines) == 0 {
		return fault.New(fault.Required, "lines", "Say at least one kind of piece that goes on.")
	}
	pieces := slices.Clone(in.pieces)
	for i, x := range rough.Lines {
		at := fmt.Sprintf("lines[%d]", i)
		each, err := whole(at+".each", x.Each)
		if err != nil {
			return err
		}
		if each*count > mostRough {
			return fault.New(fault.OutOfRange, at+".each", "At most %d pieces of a kind.", mostRough)
		}
		p := noun.BlankPiece()
		p.ID, p.CommissionID, p.Position = int64(-1-i), roughOrder, i+1
		p.Wanted, p.Technique, p.Name = each*count, x.Way, x.Name
		if x.Tool != 0 {
			t := in.bench.Tools[x.Tool]
			if t == nil {
				return fault.New(fault.UnknownValue, at+".tool", "There is no such tool in the drawer.")
			}
			p.ToolID = &t.ID
			if p.Name == "" {
				p.Name = t.Name
			}
		} else if x.Way == "" {
			return fault.New(fault.Required, at+".tool", "Choose what it is made with.")
		}
		if x.Way != "" && !slices.Contains(in.bench.Library.Keys(), x.Way) {
			return fault.New(fault.UnknownValue, at+".way", "There is no such way of making.")
		}
		if p.Name == "" {
			p.Name = fmt.Sprintf("Piece %d", i+1)
		}
		pieces = append(pieces, p)
	}
	in.commissions, in.pieces = append(slices.Clone(in.commissions), c), pieces
	b := *in.bench
	b.Pieces = maps.Clone(b.Pieces)
	for i := range pieces {
		b.Pieces[pieces[i].ID] = &pieces[i]
	}
	b.Needed = noun.Needed(pieces)
	b.Kinds = kindsOf(pieces, b.Needed)
	in.bench = &b
	return nil
}

func whole(field, text string) (int, error) {
	n, err := strconv.Atoi(text)
	if err != nil || n < 1 || n > mostRough {
		return 0, fault.New(fault.OutOfRange, field, "A whole number from 1 on is wanted, such as 80.")
	}
	return n, nil
}

// tell puts the plan with the rough order into words.
func (in *inputs) tell(l *liner, p *bench.Plan, out *RoughView, lateBefore map[int64]int) {
	r := read.Reader{K: in.k}
	say := func(text string) string {
		t, _ := time.Parse(time.RFC3339, text)
		return r.Time(t.In(in.now.Location()), in.now)
	}
	evenings := map[string]bool{}
	var first string
	hands := 0
	for _, o := range p.Ops {
		st := l.steps[o.Op]
		if st == nil || st.CommissionID != roughOrder || !st.Attended {
			continue
		}
		evenings[o.Window] = true
		st.Planned.Minutes = int(minutesBetween(o.Start, o.End))
		hands += st.Planned.Minutes
		if first == "" || minutesBetween(o.Start, first) > 0 {
			first = o.Start
		}
	}
	out.Evenings, out.Hands, out.Begins = len(evenings), read.SayMinutes(hands), say(first)
	titles := noun.TitlesOf(in.commissions)
	out.Fits = true
	for _, x := range p.Late {
		id := commissionID(x.Commission)
		if id != roughOrder && x.Minutes < lateBefore[id]+laterAtLeast {
			continue // it is so late already
		}
		if out.Fits = false; len(out.Late) == mostPushes {
			continue
		}
		out.Late = append(out.Late, fmt.Sprintf("%s would be %s late", read.UpperFirst(titles[id]), read.SayMinutes(x.Minutes)))
	}
	for _, m := range p.Moved {
		if st := l.steps[m.Op]; st != nil && st.Attended && time.Duration(max(m.By, -m.By))*time.Minute >= roughMoved {
			out.Pushed++
			if len(out.Pushes) < mostPushes {
				out.Pushes = append(out.Pushes, fmt.Sprintf("%s: %s, from %s to %s", read.UpperFirst(titles[st.CommissionID]), read.LowerFirst(st.Title), say(m.From), say(m.To)))
			}
		}
	}
	switch {
	case out.Fits && len(out.LeftOut) == 0:
		out.Says = fmt.Sprintf("Yes: it would begin %s and take %s at the bench.", out.Begins, read.Count(out.Evenings, "session"))
	case out.Fits:
		out.Says = "What of it can be planned fits; the rest is not settled yet."
	default:
		out.Says = "Not as it stands."
	}
}

func minutesBetween(a, b string) float64 {
	x, _ := time.Parse(time.RFC3339, a)
	y, _ := time.Parse(time.RFC3339, b)
	return y.Sub(x).Minutes()
}
