// Package shelf is where pieces dry: the places and their air, the trays and what lies on
// them, what hands do to it meanwhile.
package shelf

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Shelf is the use cases of where things dry.
type Shelf struct{ *plan.Planning }

// ShelfView is the shelf: every place, its trays, and the freezer beside it.
type ShelfView struct {
	Racks    []RackView    `json:"racks"`
	Freezer  []FrozenView  `json:"freezer"`
	Places   int           `json:"places" doc:"in the freezer"`
	Nothing  string        `json:"nothing" doc:"when nothing lies anywhere"`
	Supports []read.Option `json:"supports"`
	Told     int64         `json:"told"`
}

// BatchView is a batch that lies there.
type BatchView struct {
	Op          string        `json:"op"`
	Version     int64         `json:"version"`
	Name        string        `json:"name"`
	Order       string        `json:"order"`
	OrderID     int64         `json:"orderId"`
	PieceID     int64         `json:"pieceId"`
	Swatch      string        `json:"swatch"`
	Count       int           `json:"count" doc:"on this tray"`
	All         int           `json:"all"`
	LengthMM    float64       `json:"lengthMM" doc:"as one lies"`
	WidthMM     float64       `json:"widthMM"`
	Round       bool          `json:"round"`
	Support     string        `json:"support"`
	SupportCode string        `json:"supportCode"`
	Since       string        `json:"since"`
	Marks       []MarkView    `json:"marks"`
	Ready       bool          `json:"ready"`
	Never       string        `json:"never" doc:"it does not set here, and what would help"`
	Bagged      bool          `json:"bagged"`
	MayTurn     bool          `json:"mayTurn"`
	Turn        string        `json:"turn" doc:"about turning them"`
	MayBag      bool          `json:"mayBag"`
	Notes       []string      `json:"notes" doc:"what was seen of it"`
	Done        []string      `json:"done" doc:"what hands did meanwhile"`
	Tacky       string        `json:"tacky"`
	Then        string        `json:"then" doc:"the step of hands that follows"`
	Next        string        `json:"next" doc:"what may be done with it next, and when"`
	Spots       []SpotView    `json:"spots" doc:"where they lie on this tray, mm from its upper left"`
	Offers      []read.Option `json:"offers" doc:"what can be noted of it"`
}

// SpotView is a piece on a tray.
type SpotView struct {
	X float64 `json:"x"`
	Y float64 `json:"y"`
}

// MarkView is what may be done with a batch, and when.
type MarkView struct {
	Code  string `json:"code" enum:"touch,lift,paint,join,cover"`
	Says  string `json:"says"`
	When  string `json:"when"`
	Band  string `json:"band"`
	State string `json:"state" enum:"no,maybe,yes,never"`
}

// FrozenView is a mould in the freezer.
type FrozenView struct {
	Name  string  `json:"name"`
	Says  string  `json:"says"`
	AtMS  int64   `json:"atMs" doc:"when it may be opened"`
	Share float64 `json:"share" doc:"of its time, 0 to 1"`
	Dew   string  `json:"dew" doc:"how it is when it comes out"`
	Op    string  `json:"op"`
}

// Look shows the shelf.
func (s *Shelf) Look(ctx context.Context, slug string) (out ShelfView, err error) {
	err = s.Fresh(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		out, err = look(tx, k, now)
		return err
	})
	return out, err
}

// lying is a batch on the shelf while it is laid out.
type lying struct {
	d     work.Drying
	press *noun.Step
	view  BatchView
	w, h  float64
	tray  int // as somebody put it; 0: nobody said
}

func look(tx journal.Tx, k *noun.Kitchen, now time.Time) (ShelfView, error) {
	out := ShelfView{Racks: []RackView{}, Freezer: []FrozenView{}, Places: k.FreezerPlaces, Supports: supports}
	steps, titles, err := whole(tx, k, now)
	if err != nil {
		return out, err
	}
	all, frozen, err := lyingOn(tx, k, now, steps, titles)
	if err != nil {
		return out, err
	}
	out.Freezer = append(out.Freezer, frozen...)
	ids := []int64{0}
	for _, r := range k.Around.Racks {
		ids = append(ids, r.ID)
	}
	for _, id := range ids {
		var mine []*lying
		for _, l := range all {
			if there(k, l.d.Rack) == id {
				mine = append(mine, l)
			}
		}
		out.Racks = append(out.Racks, rackView(k, id, mine, now))
	}
	if len(all) == 0 && len(frozen) == 0 {
		out.Nothing = "Nothing lies drying. What is pressed and laid out stands here, with the hours at which it may be touched, lifted and joined."
	}
	p, err := tx.Pulse()
	out.Told = p.Told
	return out, err
}

// there is a place that is still there, else the kitchen.
func there(k *noun.Kitchen, id int64) int64 {
	if k.RackOf(id) == nil {
		return 0
	}
	return id
}

// whole are the steps of batches that lie somewhere, with their numbers and words.
func whole(tx journal.Tx, k *noun.Kitchen, now time.Time) ([]noun.Step, map[int64]string, error) {
	cs, err := tx.OpenCommissions()
	if err != nil {
		return nil, nil, err
	}
	thin, err := tx.ThinSteps()
	if err != nil {
		return nil, nil, err
	}
	thin = work.Derived(thin, k, now)
	batches := map[string]bool{}
	c := work.ChainOf(thin)
	for i := range thin {
		st := &thin[i]
		press := st.Attended && st.Planned.Run != nil && st.ActualStart != nil && st.ActualEnd == nil
		if press || lies(st, c) {
			batches[noun.BatchOf(st.Op)] = true
		}
	}
	var ops []string
	for _, st := range thin {
		if batches[noun.BatchOf(st.Op)] {
			ops = append(ops, st.Op)
		}
	}
	steps, err := tx.StepsNamed(ops)
	return work.Derived(steps, k, now), noun.TitlesOf(cs), err
}

// lies tells whether a wait has begun in which something dries, and hands have not come to
// what follows.
func lies(st *noun.Step, c work.Chain) bool {
	if st.Attended || st.Planned.Body == nil || st.ActualStart == nil {
		return false
	}
	next := c.ByOp[st.Planned.After]
	return next == nil || next.ActualStart == nil
}

// lyingOn are the batches that lie somewhere, and what is in the freezer.
func lyingOn(tx journal.Tx, k *noun.Kitchen, now time.Time, steps []noun.Step, titles map[int64]string) (all []*lying, frozen []FrozenView, err error) {
	b, cs, ps, err := plan.GatherOpen(tx, k, now)
	if err != nil {
		return nil, nil, err
	}
	orders, pieces := map[int64]*noun.Commission{}, map[int64]*noun.Piece{}
	for i := range cs {
		orders[cs[i].ID] = &cs[i]
	}
	for i := range ps {
		pieces[ps[i].ID] = &ps[i]
	}
	c := work.ChainOf(steps)
	var ops []string
	for i := range steps {
		ops = append(ops, steps[i].Op)
	}
	notes, err := tx.NotesOf(ops)
	if err != nil {
		return nil, nil, err
	}
	r := read.Reader{K: k}
	for i := range steps {
		st := &steps[i]
		if st.PieceID == nil || pieces[*st.PieceID] == nil || orders[st.CommissionID] == nil {
			continue
		}
		p, o := pieces[*st.PieceID], orders[st.CommissionID]
		if run := st.Run(); run != nil && st.ActualEnd == nil && run.HoldSec > 0 {
			frozen = append(frozen, inFreezer(b, o, p, st, run, r, now)...)
		}
		if !lies(st, c) {
			continue
		}
		if next := c.ByOp[st.Planned.After]; next != nil && !next.Attended && next.Planned.Body != nil && next.ActualStart != nil {
			continue // it lies there by the wait that follows
		}
		d, ok := work.DryingOf(st, k, now)
		if !ok {
			continue
		}
		l := &lying{d: d, tray: d.Tray}
		c.Earlier(st, func(e *noun.Step) {
			if e.Makes() {
				l.press = e
			}
		})
		if l.press == nil {
			continue // a sheet that skins before it is cut is no piece yet
		}
		l.w, l.h = b.Lies(o, p)
		l.view = batchView(k, st, &l.d, l.press, titles[st.CommissionID], p, c, r, now)
		l.view.LengthMM, l.view.WidthMM = l.w, l.h
		for _, n := range notes {
			if noun.BatchOf(n.Op) == noun.BatchOf(st.Op) {
				l.view.Notes = append(l.view.Notes, work.NoteSays(&n, r, now))
			}
		}
		for _, o := range steps {
			if noun.BatchOf(o.Op) == noun.BatchOf(st.Op) && o.Planned.Heat != nil {
				l.view.Tacky = tackySays(k, there(k, d.Rack), now)
			}
		}
		all = append(all, l)
	}
	slices.SortStableFunc(all, func(a, b *lying) int {
		return cmp.Or(a.d.Step.ActualStart.Compare(*b.d.Step.ActualStart), cmp.Compare(a.d.Step.Op, b.d.Step.Op))
	})
	slices.SortStableFunc(frozen, func(a, b FrozenView) int { return cmp.Compare(a.AtMS, b.AtMS) })
	return all, frozen, nil
}

// inFreezer are the fills of a press that are in the freezer.
func inFreezer(b *work.Means, o *noun.Commission, p *noun.Piece, st *noun.Step, run *noun.Run, r read.Reader, now time.Time) (out []FrozenView) {
	dew := ""
	for _, f := range st.Fills {
		if f.Out != nil {
			continue
		}
		if dew == "" {
			if v := b.Reckon(o, p).View.Dry; v != nil && len(v.Dew) > 0 {
				dew = v.Dew[0]
			}
		}
		at := f.At.Add(time.Duration(run.HoldSec) * time.Second)
		says := "may be opened at " + r.Clock(at.In(now.Location()))
		if !at.After(now) {
			says = "may be opened"
		}
		name := read.UpperFirst(st.Planned.What())
		if run.Fills > 1 {
			name += fmt.Sprintf(", fill %d of %d", f.N, run.Fills)
		}
		out = append(out, FrozenView{Name: name, Says: says, AtMS: at.UnixMilli(), Share: math.Min(1, math.Max(0, now.Sub(f.At).Seconds()/float64(max(1, run.HoldSec)))), Dew: dew, Op: st.Op})
	}
	return out
}

// supports are on what pieces can lie.
var supports = []read.Option{{Code: "board", Say: "a board"}, {Code: "foam", Say: "foam"}, {Code: "rack", Say: "a rack"}, {Code: "cup", Say: "cups"}, {Code: "dowel", Say: "a dowel"}, {Code: "hook", Say: "hooks"}}

func supportSays(code string) string {
	for _, s := range supports {
		if s.Code == code {
			return s.Say
		}
	}
	return code
}

// batchView is a batch in words.
func batchView(k *noun.Kitchen, st *noun.Step, d *work.Drying, press *noun.Step, order string, p *noun.Piece, c work.Chain, r read.Reader, now time.Time) BatchView {
	v := BatchView{Op: st.Op, Version: st.Version, Name: read.UpperFirst(st.Planned.What()), Order: order, OrderID: st.CommissionID, PieceID: *st.PieceID, Swatch: p.Swatch, Support: r.Say(supportSays(d.Support)), SupportCode: d.Support,
		Since: r.Time(st.ActualStart.In(now.Location()), now), Marks: []MarkView{}, Bagged: d.Bagged, Notes: []string{}, Done: []string{}, Spots: []SpotView{}, Offers: work.NotesOffered(r, st.Planned.Body.Until, true), Round: round(st.Planned.Body.Shape)}
	if press != nil {
		v.All = max(0, press.Out()-press.Broken())
	}
	v.All = max(0, v.All-st.Broken())
	v.Count = v.All
	if next := c.NextHands(st); next != nil {
		v.Then = next.Title
	}
	for _, m := range marksOf(st, d) {
		v.Marks = append(v.Marks, m.view(st, r, now))
	}
	for _, m := range v.Marks {
		if m.State == "no" || m.State == "maybe" {
			v.Next = m.Says + " " + m.When
			break
		}
	}
	if v.Next == "" {
		v.Next = "ready"
	}
	if st.Never {
		v.Next = "will not set here"
	}
	firm := d.Stages.Of("firm")
	past := now.Sub(*st.ActualStart).Minutes()
	v.Ready = !st.Never && !st.PlannedEnd.After(now)
	if st.Never {
		v.Never = plan.NeverSays(st, k, now)
		if help := work.WouldHelp(st, k, now, r); help != "" {
			v.Never += " " + help
		}
	}
	flat := st.Planned.Body.Shape == "sheet" || st.Planned.Body.Shape == "block"
	switch {
	case d.Support == "foam" && flat:
		v.Turn = "On foam what dries stays put: it dries from both sides."
	case firm == nil:
	case flat && d.Support == "board" && past < float64(firm.P10):
		v.Turn = "Turn them once they are firm, about " + r.About(st.ActualStart.Add(time.Duration(firm.P50)*time.Minute), *st.ActualStart, now) + "."
	case flat && d.Support == "board":
		v.MayTurn = true
	}
	v.MayBag = !d.Bagged && !st.Planned.Body.Sets && !v.Ready
	for _, t := range st.Tended {
		v.Done = append(v.Done, tendedSays(k, t, r, now))
	}
	return v
}

func round(shape string) bool { return shape == "ball" || shape == "dome" || shape == "rolled" }

type mark struct {
	code, says string
	at         *work.Band
}

// marksOf are what may be done with a batch, in order: touched from its skin, lifted when it
// holds, joined when it is firm, painted wet when it is hard if thin, firm if solid; a
// semi-dry piece is covered before it is too firm to bend.
func marksOf(st *noun.Step, d *work.Drying) []mark {
	body := st.Planned.Body
	paint := d.Stages.Of("firm")
	if body.Shape == "sheet" || body.Shape == "rolled" {
		paint = d.Stages.Of("hard")
	}
	if body.Sets {
		return []mark{{"lift", "lift", d.Stages.Of("hold")}, {"join", "join", d.Stages.Of("firm")}}
	}
	out := []mark{{"touch", "touch", d.Stages.Of("skin")}, {"lift", "lift", d.Stages.Of("hold")}}
	if body.Until == "hold" {
		out = append(out, mark{"join", "join", d.Stages.Of("hold")})
		if firm := d.Stages.Of("firm"); firm != nil {
			out = append(out, mark{"cover", "cover by", &work.Band{P10: firm.P10, P50: firm.P10, P90: firm.P10}})
		}
		return out
	}
	return append(out, mark{"join", "join", d.Stages.Of(body.Until)}, mark{"paint", "paint wet", paint})
}

func (m mark) view(st *noun.Step, r read.Reader, now time.Time) MarkView {
	v := MarkView{Code: m.code, Says: m.says, State: "never", When: "not here"}
	if m.at == nil {
		return v
	}
	start := *st.ActualStart
	at := func(min int) time.Time { return start.Add(time.Duration(min) * time.Minute).In(now.Location()) }
	past := now.Sub(start).Minutes()
	switch {
	case past >= float64(m.at.P90):
		v.State = "yes"
	case past >= float64(m.at.P10):
		v.State = "maybe"
	default:
		v.State = "no"
	}
	v.When = r.About(at(m.at.P50), start, now)
	if m.at.P10 != m.at.P90 {
		v.Band = stretchSays(r.About(at(m.at.P10), start, now), r.About(at(m.at.P90), start, now))
	}
	return v
}

// stretchSays is from one hour to another; the day is said once.
func stretchSays(from, to string) string {
	day, _, _ := strings.Cut(from, " ")
	if rest, same := strings.CutPrefix(to, day+" "); same {
		to = rest
	}
	if from == to {
		return ""
	}
	return from + " to " + to
}

// tendedSays is what hands did, in words.
func tendedSays(k *noun.Kitchen, t noun.Tended, r read.Reader, now time.Time) string {
	at := r.Time(t.At.In(now.Location()), now)
	switch t.Do {
	case noun.Turn:
		return at + " turned over"
	case noun.Bag:
		return at + " into a bag"
	case noun.Unbag:
		return at + " out of the bag"
	case noun.ToRack:
		return at + " to " + k.RackName(t.Rack)
	case noun.OnTo:
		return at + " on to " + r.Say(supportSays(t.Support))
	}
	return at + fmt.Sprintf(" on tray %d", t.Tray)
}
