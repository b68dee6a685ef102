package plan

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"sync"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// WayOut is one change of what is there that makes what is late less late: it is made
// by one press as any other change is, and taken back by one.
type WayOut struct {
	Says    string            `json:"says"`
	Then    string            `json:"then" doc:"what it comes to, in words"`
	Fits    bool              `json:"fits"`
	LateMin int               `json:"lateMin" doc:"minutes late that remain, of all orders"`
	Kind    string            `json:"kind" doc:"kitchen, tool, piece or pin: what is changed"`
	Op      string            `json:"op,omitempty" doc:"of a pin: the step that is let go"`
	ID      int64             `json:"id" doc:"of that; 0 of the kitchen"`
	Version int64             `json:"version"`
	Set     map[string]string `json:"set" doc:"its fields as they are typed"`
}

// WaysOutView is what would make it fit, the best first.
type WaysOutView struct {
	LateSays string   `json:"lateSays"`
	Ways     []WayOut `json:"ways"`
	Tried    int      `json:"tried" doc:"how many changes were planned anew"`
}

const (
	mostWaysOut = 8
	waysOutFor  = 20 * time.Second
	tryPasses   = 6000
	tryFor      = 2500 * time.Millisecond // of many late orders: the best until then, so that more is tried
)

// WaysOut plans anew with one change after another: an hour or a pair of hands on an
// evening before the hand-over, one more copy of a mould, semi-dry instead of dry, drier
// air, less confidence in drying. Nothing is saved. It ends with ctx.
func (s *Planning) WaysOut(ctx context.Context, slug string) (out WaysOutView, err error) {
	out.Ways = []WayOut{}
	ctx, cancel := context.WithTimeout(ctx, waysOutFor)
	defer cancel()
	in, err := s.planInputs(ctx, slug)
	if err != nil {
		return out, err
	}
	base, lates, left, err := in.lateWith(ctx, nil)
	if err != nil || base == 0 {
		return out, err
	}
	out.LateSays = read.SayMinutes(base) + " late as it stands"
	if len(lates) > 1 {
		out.LateSays = fmt.Sprintf("%s late as it stands, %d orders together", read.SayMinutes(base), len(lates))
	}
	list := in.waysToTry(lates)
	found := make([]*WayOut, len(list))
	var wait sync.WaitGroup
	next := make(chan int)
	for range 2 {
		wait.Go(func() {
			for k := range next {
				if late, _, out, err := in.lateWith(ctx, &list[k]); err == nil && late < base && out <= left {
					w := list[k]
					w.LateMin, w.Fits, w.Then = late, late == 0, "then it fits"
					if late > 0 {
						w.Then = fmt.Sprintf("then %s late, %s less", read.SayMinutes(late), read.SayMinutes(base-late))
					}
					found[k] = &w
				}
			}
		})
	}
	for k := range list {
		if ctx.Err() != nil {
			break
		}
		next <- k
		out.Tried++
	}
	close(next)
	wait.Wait()
	for _, w := range found {
		if w != nil {
			out.Ways = append(out.Ways, *w)
		}
	}
	slices.SortStableFunc(out.Ways, func(a, b WayOut) int { return cmp.Compare(a.LateMin, b.LateMin) })
	out.Ways = out.Ways[:min(len(out.Ways), mostWaysOut)]
	return out, nil
}

// changed is what the plan is made from with one change; the inputs themselves stay.
func (in *inputs) changed(w *WayOut) (*work.Means, []noun.Piece, error) {
	b, pieces := *in.bench, in.pieces
	var err error
	switch w.Kind {
	case "pin":
	case "kitchen":
		k := *b.Kitchen
		b.Kitchen = &k
		b.Reader = read.Reader{K: &k}
		err = read.Apply(read.KitchenFields, b.Reader, &k, w.Set, in.now)
	case "tool":
		t := *b.Tools[w.ID]
		b.Tools = maps.Clone(b.Tools)
		b.Tools[w.ID] = &t
		err = read.Apply(read.ToolFields(&t, w.Set), b.Reader, &t, w.Set, in.now)
	default:
		pieces = slices.Clone(pieces)
		b.Pieces = maps.Clone(b.Pieces)
		for i := range pieces {
			if pieces[i].ID == w.ID {
				err = read.Apply(read.PieceFields, b.Reader, &pieces[i], w.Set, in.now)
			}
			b.Pieces[pieces[i].ID] = &pieces[i]
		}
	}
	return &b, pieces, err
}

// lateWith is how late the orders are with a change, or as it stands; the late ones, and
// how many pieces cannot be planned at all: what leaves one out helps nobody.
func (in *inputs) lateWith(ctx context.Context, w *WayOut) (minutes int, late []int64, leftOut int, err error) {
	b, pieces := in.bench, in.pieces
	if w != nil {
		if b, pieces, err = in.changed(w); err != nil {
			return 0, nil, 0, err
		}
	}
	steps := in.steps
	if w != nil && w.Kind == "pin" {
		steps = slices.Clone(steps)
		for i := range steps {
			if steps[i].Op == w.Op {
				steps[i].Pinned = nil
			}
		}
	}
	l, err := instance(ctx, b, in.commissions, pieces, steps, in.onBoard)
	if err != nil || len(l.in.Batches) == 0 {
		return 0, nil, 0, err
	}
	ctx, cancel := context.WithTimeout(ctx, tryFor)
	defer cancel()
	p, err := bench.BuildWithin(ctx, bench.BuildIn{Instance: &l.in, Passes: new(tryPasses)})
	if err != nil {
		return 0, nil, 0, err
	}
	for _, x := range p.Late {
		minutes += x.Minutes
		late = append(late, commissionID(x.Commission))
	}
	return minutes, late, len(l.leftOut), nil
}

// waysToTry are the changes worth a try for orders that are late.
func (in *inputs) waysToTry(late []int64) (out []WayOut) {
	k := in.k
	r := read.Reader{K: k}
	kitchen := func(says, field, text string) {
		out = append(out, WayOut{Says: says, Kind: "kitchen", Version: k.Version, Set: map[string]string{field: text}})
	}
	if len(k.Trays) > 0 {
		for _, more := range []int{1, max(2, k.Trays[0].Count)} {
			trays := slices.Clone(k.Trays)
			trays[0].Count += more
			kitchen(fmt.Sprintf("%s more to dry on", read.UpperFirst(read.Count(more, "tray"))), "trays", read.TraysText(r, trays))
		}
	}
	if k.FreezerPlaces > 0 {
		kitchen("Two more places in the freezer", "freezerPlaces", fmt.Sprint(k.FreezerPlaces+2))
	}
	for _, day := range in.daysBefore(late) {
		in.moreHours(r, day, kitchen)
	}
	titles := noun.TitlesOf(in.commissions)
	used := map[int64]bool{}
	var pieces []WayOut // of many orders there are many: they come last, so that the rest is tried
	for i := range in.pieces {
		p := &in.pieces[i]
		if !slices.Contains(late, p.CommissionID) || p.DeletedAt != nil {
			continue
		}
		if p.ToolID != nil {
			used[*p.ToolID] = true
		}
		if p.Joined == "" || p.Joined == "dry" {
			says := p.Name + ": joined semi-dry instead of dry"
			if len(late) > 1 {
				says = titles[p.CommissionID] + ", " + says
			}
			pieces = append(pieces, WayOut{Says: says, Kind: "piece", ID: p.ID, Version: p.Version, Set: map[string]string{"joined": "semiDry"}})
		}
		if p.School != "extra" && p.Dough == "" && p.PegPercent == nil {
			says := p.Name + ": a stiffer paste, of the heavy dose; it dries sooner and tastes less"
			if len(late) > 1 {
				says = titles[p.CommissionID] + ", " + says
			}
			pieces = append(pieces, WayOut{Says: says, Kind: "piece", ID: p.ID, Version: p.Version, Set: map[string]string{"school": "extra"}})
		}
	}
	for _, id := range slices.Sorted(maps.Keys(used)) {
		t := in.bench.Tools[id]
		if t == nil || t.DeletedAt != nil {
			continue
		}
		if t.Presses() {
			out = append(out, WayOut{Says: "One more copy of " + t.Name, Kind: "tool", ID: id, Version: t.Version, Set: map[string]string{"copies": fmt.Sprint(t.Copies + 1)}})
		}
		if t.Breakage != "robust" {
			out = append(out, WayOut{Says: "Fewer spares of what " + t.Name + " makes: as if 2 in 100 broke", Kind: "tool", ID: id, Version: t.Version, Set: map[string]string{"breakage": "robust"}})
		}
	}
	for i := range in.steps {
		if st := &in.steps[i]; st.Pinned != nil && st.ActualStart == nil {
			out = append(out, WayOut{Says: "Let go of the pin: " + st.Title, Kind: "pin", Op: st.Op, Version: 1, Set: map[string]string{}})
		}
	}
	in.drierPlaces(late, titles, &pieces)
	if k.RHPercent > drierPercent && !k.Varies(0, in.now) { // what is read is not said otherwise
		kitchen(fmt.Sprintf("Drier air: %d %% where pieces dry, in a drying box or with a dehumidifier", drierPercent), "rhPercent", fmt.Sprintf("%d %%", drierPercent))
	}
	if k.Confidence > 0.5 {
		kitchen("Plan drying just as long as it usually takes: half of the time it is still soft", "confidence", "50 %")
	}
	return append(out, pieces...)
}

const (
	drierPercent = 40
	mostDays     = 5 // before the hand-over on which more hours are tried
)

// daysBefore are the last days before the first late hand-over, today among them.
func (in *inputs) daysBefore(late []int64) (out []time.Time) {
	last := time.Time{}
	for _, c := range in.commissions {
		if c.HandOver != nil && slices.Contains(late, c.ID) && (last.IsZero() || c.HandOver.Before(last)) {
			last = *c.HandOver
		}
	}
	now := in.now
	day := time.Date(now.Year(), now.Month(), now.Day(), 12, 0, 0, 0, now.Location())
	for ; !day.After(last) && len(out) < 60; day = day.AddDate(0, 0, 1) {
		out = append(out, day)
	}
	return out[max(0, len(out)-mostDays):]
}

// moreHours offers an hour more on a day, hours where it has none, and a second pair
// of hands.
func (in *inputs) moreHours(r read.Reader, day time.Time, offer func(says, field, text string)) {
	date := day.Format(time.DateOnly)
	var others []string
	for _, x := range in.k.Exceptions {
		if x.Date != date {
			others = append(others, r.ExceptionText(x))
		}
	}
	name := day.Format("Mon ") + r.Day(day, false)
	set := func(says string, h noun.Hours) {
		text := r.ExceptionText(noun.Exception{Date: date, Open: []noun.Hours{h}})
		lines := append(slices.Clone(others), text)
		out := ""
		for i, x := range lines {
			if i > 0 {
				out += "\n"
			}
			out += x
		}
		offer(says, "exceptions", out)
	}
	open := in.k.HoursOn(date)
	if len(open) == 0 {
		set("Three hours on "+name+", 18:00 to 21:00", noun.Hours{From: "18:00", To: "21:00"})
		return
	}
	if len(open) > 1 { // an exception says one stretch: two would become one
		return
	}
	h := open[0]
	var hour, minute int
	if n, _ := fmt.Sscanf(h.From, "%d:%d", &hour, &minute); n == 2 && hour >= 8 {
		more := h
		more.From = fmt.Sprintf("%02d:%02d", hour-1, minute)
		set(fmt.Sprintf("An hour more on %s, from %s", name, more.From), more)
	}
	if len(h.People) < 4 {
		more := h
		more.People = append(slices.Clone(h.People), "Helper")
		if len(h.People) == 0 {
			more.People = []string{"Me", "Helper"}
		}
		set("A second pair of hands on "+name, more)
	}
}

// drierPlaces offers to let pieces of late orders dry where the air is drier.
func (in *inputs) drierPlaces(late []int64, titles map[int64]string, out *[]WayOut) {
	_, here, _ := in.k.NowIn(0, in.now)
	for _, rack := range in.k.Around.Racks {
		if _, there, _ := in.k.NowIn(rack.ID, in.now); there >= here {
			continue
		}
		for i := range in.pieces {
			p := &in.pieces[i]
			if !slices.Contains(late, p.CommissionID) || p.DeletedAt != nil || p.Rack != nil {
				continue
			}
			says := p.Name + ": dry them in " + rack.Name
			if len(late) > 1 {
				says = titles[p.CommissionID] + ", " + says
			}
			*out = append(*out, WayOut{Says: says, Kind: "piece", ID: p.ID, Version: p.Version, Set: map[string]string{"rack": fmt.Sprint(rack.ID)}})
		}
	}
}
