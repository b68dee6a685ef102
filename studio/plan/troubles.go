package plan

import (
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Wrong is what is wrong in a studio today, and how the pieces that were begun stand.
type Wrong struct {
	Troubles []noun.Trouble
	Tallies  []work.Tally
}

// WrongNow finds what is wrong: what the plan found when it was made, and what has
// happened since. near are steps with what follows from their facts, every batch that
// has begun among them; nil: they are read here.
func WrongNow(tx journal.Tx, cs []noun.Commission, stands *noun.Plan, near []noun.Step, now time.Time) (out Wrong, err error) {
	t := troubles{r: read.Reader{K: tx.Kitchen()}, now: now, titles: noun.TitlesOf(cs)}
	if near == nil {
		if near, err = tx.StepsNear(0); err != nil {
			return out, err
		}
		near = work.Derived(near, tx.Kitchen(), now)
	}
	t.never(near, tx.Kitchen())
	if stands != nil {
		t.planned(&stands.Summary)
		if err := t.missed(tx, stands.Summary.Moved); err != nil {
			return out, err
		}
	}
	for i := range cs {
		if c := &cs[i]; c.State == "open" && c.HandOver != nil && c.HandOver.Before(now) {
			t.add(noun.Trouble{Code: "handOver", CommissionID: c.ID, By: c.HandOver, Says: "The hand-over is over.", Remedy: "Hand it over, or say a new date.", Do: "Its brief", To: pageOf(c.ID, "brief")})
		}
	}
	if out.Tallies, err = talliesOf(tx, near); err != nil {
		return out, err
	}
	for i := range out.Tallies {
		t.short(&out.Tallies[i])
	}
	t.windows(near)
	out.Troubles = t.sorted()
	return out, nil
}

// mostNamed is how many are named that something holds for as well.
const mostNamed = 4

// Of are the troubles of one commission and those of the whole plan; of 0 all: a label
// that several orders ask about, hours that are short for several, or a room too damp for
// many pieces, is one thing to do.
func (w *Wrong) Of(commission int64) []noun.Trouble {
	out := []noun.Trouble{}
	at := map[string]int{}
	also := map[string][]string{} // what else it is said of: titles of orders, or names of pieces
	for _, x := range w.Troubles {
		if commission != 0 {
			if x.CommissionID == commission || x.CommissionID == 0 {
				out = append(out, x)
			}
			continue
		}
		key, of := "", x.Commission
		switch x.Code {
		case "label":
			key = x.To
		case "plan":
			key = x.Says
		case "never":
			if x.Piece != "" {
				key, of = strings.TrimPrefix(x.Says, x.Piece), x.Piece
			}
		}
		if _, told := at[key]; told && key != "" {
			also[key] = append(also[key], of)
			continue
		}
		at[key] = len(out)
		out = append(out, x)
	}
	for key, of := range also {
		if over := len(of) - mostNamed; over > 1 {
			of = append(of[:mostNamed:mostNamed], fmt.Sprintf("%d more", over))
		}
		out[at[key]].Says += " The same of " + read.List(of) + "."
	}
	return out
}

// Stopped are commissions of which nothing may go on the cake before a trouble is
// mended, with that trouble.
func (w *Wrong) Stopped() map[int64]*noun.Trouble {
	out := map[int64]*noun.Trouble{}
	for i := range w.Troubles {
		if x := &w.Troubles[i]; x.Stops && out[x.CommissionID] == nil {
			out[x.CommissionID] = x
		}
	}
	return out
}

// talliesOf the pieces that have been begun and are not yet on the cake.
func talliesOf(tx journal.Tx, near []noun.Step) ([]work.Tally, error) {
	var ids []int64
	for i := range near {
		if s := &near[i]; s.Makes() && s.ActualStart != nil && !slices.Contains(ids, s.CommissionID) {
			ids = append(ids, s.CommissionID)
		}
	}
	if len(ids) == 0 {
		return []work.Tally{}, nil
	}
	ps, err := tx.PiecesOf(ids)
	if err != nil {
		return nil, err
	}
	presses, err := tx.Presses(ids) // also those that the bench does not come to yet
	if err != nil {
		return nil, err
	}
	return work.Tallies(ps, presses), nil
}

// troubles gathers what is wrong.
type troubles struct {
	r      read.Reader
	now    time.Time
	titles map[int64]string
	all    []noun.Trouble
	nevers []int64 // pieces that lie there and do not come to it in this room
}

func (t *troubles) add(x noun.Trouble) {
	x.Commission = t.titles[x.CommissionID]
	t.all = append(t.all, x)
}

// sorted is what costs most first; of one cost, what bites first.
func (t *troubles) sorted() []noun.Trouble {
	when := func(x *noun.Trouble) int64 {
		if x.By == nil {
			return 1 << 62
		}
		return x.By.Unix()
	}
	slices.SortStableFunc(t.all, func(a, b noun.Trouble) int {
		return cmp.Or(cmp.Compare(noun.TroubleCost(a.Code), noun.TroubleCost(b.Code)), cmp.Compare(when(&a), when(&b)))
	})
	return noun.Some(t.all)
}

// hoursEnd is the planner's reason for what stands at the beginning of a stretch: it
// tells nobody what to do.
const hoursEnd = "The time at the bench begins then."

// lateSays by how long an order is late, and what stands in the way.
func lateSays(l *noun.LateLine) string {
	say := fmt.Sprintf("Late by %s.", read.SayMinutes(l.Minutes))
	if l.By != "" && l.By != hoursEnd && !strings.HasPrefix(l.By, "It could begin") {
		say += " " + l.By
	}
	return say
}

func pageOf(commission int64, stage string) string {
	return fmt.Sprintf("commissions/%d/%s", commission, stage)
}

// planned is what the plan found.
func (t *troubles) planned(sum *noun.Summary) {
	if sum.NoHours {
		t.add(noun.Trouble{Code: "plan", Says: "Nobody has said when you are at the bench: nothing can be planned.", Remedy: "Say your hours, then the line hangs itself.", Do: "Your hours", To: "kitchen"})
		return
	}
	for _, l := range sum.Late {
		t.add(noun.Trouble{Code: "late", CommissionID: l.CommissionID, Says: lateSays(&l), Remedy: "More hours, fewer pieces or a later date: see its line.", Do: "Its line", To: pageOf(l.CommissionID, "line")})
	}
	for _, l := range sum.LeftOut {
		if l.Code == "never" && slices.Contains(t.nevers, l.PieceID) {
			continue // told by what lies there
		}
		if l.Code == stopped {
			continue // told by what stops it
		}
		x := noun.Trouble{Code: cmp.Or(l.Code, "cannot"), CommissionID: l.CommissionID, PieceID: l.PieceID, Piece: l.Piece, Says: l.Say, Remedy: "It is not in the plan before that is settled.", Stops: true, Do: "Its pieces", To: pageOf(l.CommissionID, cmp.Or(l.Stage, "pieces"))}
		if l.PieceID != 0 {
			x.To += fmt.Sprintf("?piece=%d", l.PieceID)
		}
		if l.Help != "" {
			x.Remedy = l.Help
		}
		t.add(x)
	}
	for _, x := range sum.Troubles {
		if x.By != nil {
			x.By = new(x.By.In(t.now.Location()))
			x.Says += " Needed " + t.r.Time(*x.By, t.now) + "."
		}
		t.add(x)
	}
	for _, say := range []string{sum.Trouble, sum.Stands} {
		if say != "" {
			t.add(noun.Trouble{Code: "plan", Says: say, Remedy: "Look at the line: open hours, or ask for less.", Do: "The line", To: "line"})
		}
	}
}

// never are waits that run and do not end in this room, with what would help.
func (t *troubles) never(near []noun.Step, k *noun.Kitchen) {
	r := read.Reader{K: k}
	for i := range near {
		st := &near[i]
		if !st.Never || st.PieceID == nil || slices.Contains(t.nevers, *st.PieceID) {
			continue
		}
		t.nevers = append(t.nevers, *st.PieceID)
		x := noun.Trouble{Code: "never", CommissionID: st.CommissionID, PieceID: *st.PieceID, Stops: true, Says: NeverSays(st, k, t.now),
			Remedy: work.WouldHelp(st, k, t.now, r), Do: "What would help", To: pageOf(st.CommissionID, "dry") + fmt.Sprintf("?piece=%d", *st.PieceID)}
		if x.Remedy == "" {
			x.Remedy = "No air of a kitchen helps: a drying box, thinner pieces, or another paste."
		}
		t.add(x)
	}
}

// NeverSays that what lies there does not come to it in this room.
func NeverSays(st *noun.Step, k *noun.Kitchen, now time.Time) string {
	tempC, rhPercent, _ := k.NowIn(work.LastRack(st), now)
	in := "this room"
	if r := k.RackOf(work.LastRack(st)); r != nil {
		in = r.Name
	}
	comes := map[string]string{"hold": "do not come to hold", "firm": "do not get firm", "hard": "do not get hard"}[st.Planned.Body.Until]
	if st.Planned.Body.Sets {
		return fmt.Sprintf("%s %s in %s: %s is too warm.", read.UpperFirst(st.Planned.What()), comes, in, read.Reader{K: k}.Temp(tempC))
	}
	return fmt.Sprintf("%s %s in %s: %s %% humidity is too damp.", read.UpperFirst(st.Planned.What()), comes, in, read.Trimmed(rhPercent, 0))
}

// missed are steps that could not be kept: their hour came and went, and they hang
// elsewhere now. One sentence an order.
func (t *troubles) missed(tx journal.Tx, moved []noun.MovedLine) error {
	var ops []string
	for _, m := range moved {
		if m.Missed {
			ops = append(ops, m.Op)
		}
	}
	steps, err := tx.StepsNamed(ops)
	if err != nil {
		return err
	}
	type of struct {
		n     int
		first noun.MovedLine
		at    time.Time
	}
	by := map[int64]*of{}
	var order []int64
	for _, m := range moved {
		i := slices.IndexFunc(steps, func(s noun.Step) bool { return s.Op == m.Op })
		if i < 0 || steps[i].ActualStart != nil {
			continue
		}
		c := steps[i].CommissionID
		if by[c] == nil {
			by[c] = &of{first: m, at: steps[i].PlannedStart}
			order = append(order, c)
		}
		by[c].n++
	}
	for _, c := range order {
		x := by[c]
		say := fmt.Sprintf("%s could not be kept: planned for %s, now %s.", x.first.Title, x.first.From, t.r.Time(x.at, t.now))
		if x.n > 1 {
			say = fmt.Sprintf("%d steps could not be kept. The first, %s, was planned for %s, now %s.", x.n, read.LowerFirst(x.first.Title), x.first.From, t.r.Time(x.at, t.now))
		}
		t.add(noun.Trouble{Code: "missed", CommissionID: c, Says: say, Remedy: "The line was hung anew: see that the new hours suit.", Do: "Its line", To: pageOf(c, "line"), By: &x.at})
	}
	return nil
}

// short is a piece of which too few are whole, with those that are still to come.
func (t *troubles) short(y *work.Tally) {
	if y.Short == 0 {
		return
	}
	x := noun.Trouble{Code: "short", CommissionID: y.CommissionID, PieceID: y.PieceID, Stops: true, Says: fmt.Sprintf("%s: %d short, %d whole of %d wanted.", y.Name, y.Short, y.Made-y.Broken, y.Wanted)}
	if y.Again {
		x.Remedy, x.Do, x.More = "Make them from the paste that lies there, or ask for fewer.", fmt.Sprintf("Make %d more", y.More), y.More
		if y.More > y.Short {
			x.Remedy += fmt.Sprintf(" As they break, %d make it sure.", y.More)
		}
	} else {
		x.Remedy, x.Do, x.To = "It was made again often enough: change its paste or its tool.", "Its paste", pageOf(y.CommissionID, "paste")+fmt.Sprintf("?piece=%d", y.PieceID)
	}
	t.add(x)
}

// shutsWithin is how long before paste no longer keeps, or a piece no longer gives, that
// is said.
const shutsWithin = 45 * time.Minute

// windows are longest waits that are over, or will be soon: kneaded paste that lies,
// and pieces that were to go on while they give.
func (t *troubles) windows(near []noun.Step) {
	c := work.ChainOf(near)
	for i := range near {
		st := &near[i]
		if !st.Attended || st.ActualStart != nil || st.Planned.Kept == nil {
			continue
		}
		shuts := c.Shuts(st)
		if shuts.IsZero() {
			continue
		}
		if left := shuts.Sub(t.now); left <= shutsWithin {
			t.shuts(st, c, shuts, left)
		}
	}
}

func (t *troubles) shuts(st *noun.Step, c work.Chain, shuts time.Time, left time.Duration) {
	made := false
	for op, o := range c.ByOp {
		made = made || o.Makes() && o.ActualStart != nil && noun.BatchOf(op) == noun.BatchOf(st.Op)
	}
	x := noun.Trouble{Code: "lying", CommissionID: st.CommissionID, By: &shuts, Do: "To the bench", To: "bench"}
	if st.PieceID != nil {
		x.PieceID = *st.PieceID
	}
	what, at := read.UpperFirst(st.Planned.What()), t.r.Time(shuts, t.now)
	switch over := left < 0; {
	case made && over:
		x.Says, x.Remedy = fmt.Sprintf("%s waits since %s: the pieces have a skin by now.", st.Title, at), "Try one: what no longer gives goes on as a dry piece, or is made again."
	case made:
		x.Says, x.Remedy = fmt.Sprintf("%s wants to begin by %s, %s.", st.Title, at, read.SayWhen(shuts, t.now)), "After that the pieces have a skin."
	case over:
		x.Says, x.Remedy = fmt.Sprintf("%s: the kneaded paste has lain longer than it keeps, since %s.", what, at), "Squeeze it; knead it again, or bin it."
	default:
		x.Says, x.Remedy = fmt.Sprintf("%s: the kneaded paste keeps until %s, %s.", what, at, read.SayWhen(shuts, t.now)), "Next: "+read.LowerFirst(st.Title)+". Keep the bag shut until then."
	}
	t.add(x)
}
