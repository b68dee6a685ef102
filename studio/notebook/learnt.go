package notebook

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/drying"
	"dustyfern/craft/piece"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// TaughtView is what everything that was noted has taught.
type TaughtView struct {
	Drying  []LearntRow  `json:"drying"`
	Tools   []LearntRow  `json:"tools" doc:"weights and breakage"`
	Lots    []LearntRow  `json:"lots" doc:"gum of pastes"`
	Hands   []LearntRow  `json:"hands"`
	Beside  []NotedPoint `json:"beside" doc:"foretold against noted, in order of time"`
	Months  []MonthView  `json:"months" doc:"minutes a piece"`
	Room    []DampPoint  `json:"room" doc:"how damp it was against how long it took"`
	Nothing string       `json:"nothing"`
}

// LearntRow is one number that was learnt.
type LearntRow struct {
	Name  string    `json:"name"`
	Text  string    `json:"text"`
	Sure  string    `json:"sure"`
	From  string    `json:"from" doc:"from what, since when"`
	Paste string    `json:"paste" doc:"that can be set back; empty: it has its own place"`
	All   bool      `json:"all" doc:"setting it back sets all back"`
	To    string    `json:"to" doc:"page where it can be changed"`
	Share float64   `json:"share" doc:"of broken pieces, 0 to 1; -1: of none"`
	Low   float64   `json:"low" doc:"band of the factor"`
	Mid   float64   `json:"mid"`
	High  float64   `json:"high"`
	Why   *noun.Why `json:"why,omitempty"`
}

// NotedPoint is a note of drying beside what was foretold of it then.
type NotedPoint struct {
	MS    int64   `json:"ms"`
	Says  string  `json:"says"`
	Hours float64 `json:"hours"`
	Low   float64 `json:"low"`
	Mid   float64 `json:"mid"`
	High  float64 `json:"high"`
	Kind  string  `json:"kind" enum:"at,before,after"`
	Out   bool    `json:"out" doc:"left out"`
}

// MonthView is how long a piece took hands in a month.
type MonthView struct {
	Month   string  `json:"month"`
	Minutes float64 `json:"minutes"`
	Pieces  int     `json:"pieces"`
	Says    string  `json:"says"`
}

// DampPoint is a batch by the humidity in which it dried.
type DampPoint struct {
	RH    float64 `json:"rh"`
	Ratio float64 `json:"ratio" doc:"hours over the middle that a usual room gives"`
	Says  string  `json:"says"`
}

// pointsShown are the notes of drying that a picture holds.
const pointsShown = 60

// Learnt says what was learnt: each number from what, how sure, since when.
func (s *Notebook) Learnt(ctx context.Context, slug string) (out TaughtView, err error) {
	out = TaughtView{Drying: []LearntRow{}, Tools: []LearntRow{}, Lots: []LearntRow{}, Hands: []LearntRow{}, Beside: []NotedPoint{}, Months: []MonthView{}, Room: []DampPoint{}}
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		r := read.Reader{K: k}
		notes, err := tx.TeachingNotes(noun.MostTeaching)
		if err != nil {
			return err
		}
		out.drying(k, notes, r, now)
		out.points(notes, r, now)
		if err := out.tools(tx, r); err != nil {
			return err
		}
		if err := out.lots(tx, r, now); err != nil {
			return err
		}
		if err := out.hands(tx, r, now); err != nil {
			return err
		}
		if len(out.Drying)+len(out.Tools)+len(out.Lots)+len(out.Hands) == 0 {
			out.Nothing = "Nothing was learnt yet: notes of drying, weighings, breaks and finished batches teach."
		}
		return nil
	})
	return out, err
}

// drying are the factors of this kitchen, over all and by paste.
func (v *TaughtView) drying(k *noun.Kitchen, notes []noun.Note, r read.Reader, now time.Time) {
	count := map[string]int{}
	since := map[string]time.Time{}
	outs := map[string]int{}
	for _, n := range notes {
		if n.LeftOut {
			outs[n.Paste]++
			continue
		}
		for _, of := range []string{n.Paste, ""} {
			count[of]++
			since[of] = n.At
		}
	}
	row := func(name, paste string, f, sd float64) {
		x := LearntRow{Name: name, Paste: paste, All: paste == "", Share: -1, Low: f * math.Exp(-1.28155*sd), Mid: f, High: f * math.Exp(1.28155*sd)}
		x.Text = timesSays(f)
		x.Sure = fmt.Sprintf("8 of 10 batches between %s and %s times", read.Trimmed(x.Low, 1), read.Trimmed(x.High, 1))
		x.From = fmt.Sprintf("%s since %s", read.Count(count[paste], "note"), r.Date(since[paste].In(now.Location()), now))
		if n := outs[paste]; n > 0 && paste != "" {
			x.From += fmt.Sprintf(", %d left out", n)
		}
		x.Why = &noun.Why{Rule: "How much longer things take here than by the model: a joint normal belief over the kitchen and each paste, which every look narrows, also one that finds it still soft. One note moves it by no more than three spreads, and it fades over a year.",
			Formula: "ln(true hours / model hours) = kitchen + paste + chance; spreads 0.22, 0.22 and 0.16 before any note", Values: []noun.Named{{Name: "factor", Text: read.Trimmed(f, 3)}, {Name: "spread of its logarithm", Text: read.Trimmed(sd, 3)}, {Name: "before any note", Text: "1, 0.35"}, {Name: "notes", Text: fmt.Sprint(count[paste])}}}
		v.Drying = append(v.Drying, x)
	}
	b := k.Around.Belief
	if len(b.Mean) == 0 {
		return
	}
	b = b.Forward(noun.DayNumber(now))
	row("Drying in this kitchen", "", math.Exp(b.Mean[0]), math.Sqrt(b.Cov[0][0]+0.16*0.16))
	for _, p := range b.Pastes {
		f, sd := b.Factor(p)
		row("Drying of "+r.Say(read.PasteName(p)), p, f, sd)
	}
}

// timesSays is a factor as people say it.
func timesSays(f float64) string {
	switch {
	case f > 1.05:
		return read.Trimmed(f, 2) + " times as long as usual"
	case f < 0.95:
		return read.Trimmed(f, 2) + " times the usual: quicker"
	}
	return "as usual"
}

// points are the notes beside what was foretold, and the air beside how long it took.
func (v *TaughtView) points(notes []noun.Note, r read.Reader, now time.Time) {
	for _, n := range slices.Backward(notes[:min(len(notes), pointsShown)]) {
		if n.MidHours > 0 {
			v.Beside = append(v.Beside, NotedPoint{MS: n.At.UnixMilli(), Says: fmt.Sprintf("%s, %s: %s", r.Time(n.At.In(now.Location()), now), n.Name, work.NoteBrief(&n, r)), Hours: n.Hours, Low: n.LowHours, Mid: n.MidHours, High: n.HighHours,
				Kind: map[string]string{"firm": "before", "firmNow": "at", "soft": "after"}[n.What], Out: n.LeftOut})
		}
		if n.What == "soft" || n.RHPercent == 0 {
			continue
		}
		if mid := inUsualRoom(&n); mid > 0 {
			v.Room = append(v.Room, DampPoint{RH: n.RHPercent, Ratio: n.Hours / mid, Says: fmt.Sprintf("%s: %s at %s %%", n.Name, work.NoteBrief(&n, r), read.Trimmed(n.RHPercent, 0))})
		}
	}
}

// inUsualRoom is when its stage comes by the model in the room of reference, 21 C and 45 %.
func inUsualRoom(n *noun.Note) float64 {
	in := drying.PredictIn{Paste: &n.Paste, GumPercent: &n.GumPercent, Shape: &n.Shape, ThicknessMM: &n.ThicknessMM, Support: &n.Support, TempC: new(21.0), RHPercent: new(45.0), HorizonHours: new(drying.LongestHours)}
	if n.Shape == "rolled" {
		in.BodyMM = new(math.Max(20, 2*n.ThicknessMM))
	}
	f, err := drying.Predict(in)
	if err != nil {
		return 0
	}
	s := map[string]drying.Stage{"hold": f.Hold, "firm": f.Firm, "hard": f.Hard}[n.Stage]
	if s.P50Hours == nil {
		return 0
	}
	return *s.P50Hours
}

// tools are what moulds and cutters make: weights and breakage.
func (v *TaughtView) tools(tx journal.Tx, r read.Reader) error {
	ts, err := tx.Tools()
	if err != nil {
		return err
	}
	var ids []int64
	for _, t := range ts {
		ids = append(ids, t.ID)
	}
	broke, err := tx.BreakageIn(ids, nil)
	if err != nil {
		return err
	}
	made, lost := map[int64]int{}, map[int64]int{}
	for _, x := range broke {
		made[x.Tool], lost[x.Tool] = made[x.Tool]+x.Made, lost[x.Tool]+min(x.Made, x.Broken)
	}
	for i := range ts {
		t := &ts[i]
		to := fmt.Sprintf("drawer?tool=%d", t.ID)
		if n := made[t.ID]; n > 0 {
			share := float64(lost[t.ID]) / float64(n)
			v.Tools = append(v.Tools, LearntRow{Name: t.Name, Text: fmt.Sprintf("%d of %d broke", lost[t.ID], n), Sure: "its spares follow from that", From: "its latest pieces", To: to, Share: share})
		}
		if len(t.Weighings) >= piece.EnoughWeighings {
			mean, sd := t.Weighed()
			v.Tools = append(v.Tools, LearntRow{Name: t.Name, Text: "a piece weighs " + r.Mass(mean), Sure: "give or take " + r.Mass(sd), From: read.Count(len(t.Weighings), "weighing"), To: to, Share: -1})
		}
	}
	slices.SortStableFunc(v.Tools, func(a, b LearntRow) int { return cmp.Compare(b.Share, a.Share) })
	return nil
}

// lots are pastes whose gum was learnt of what came of them.
func (v *TaughtView) lots(tx journal.Tx, r read.Reader, now time.Time) error {
	ls, err := tx.Lots()
	if err != nil {
		return err
	}
	for i := range ls {
		l := &ls[i]
		if len(l.Felt) == 0 || !noun.Dries(l.Kind) {
			continue
		}
		v.Lots = append(v.Lots, LearntRow{Name: l.Name, Text: read.Trimmed(work.LotStrength(l), 2) + " % gum", Sure: "each outcome moves it by 0.05, all of them by 0.3", From: fmt.Sprintf("%s since %s", read.Count(len(l.Felt), "time"), r.Date(l.Felt[0].At.In(now.Location()), now)), To: fmt.Sprintf("pantry?lot=%d", l.ID), Share: -1})
	}
	return nil
}

// hands are how long steps take these hands, and how long a piece took by the month.
func (v *TaughtView) hands(tx journal.Tx, r read.Reader, now time.Time) error {
	lib, err := tx.Library()
	if err != nil {
		return err
	}
	var ways []string
	for _, t := range lib.All() {
		ways = append(ways, t.Key)
	}
	all, err := tx.Clocked(ways)
	if err != nil {
		return err
	}
	type key struct{ way, op string }
	by := map[key][]piece.Clocked{}
	var order []key
	for _, c := range all {
		x := key{c.Way, c.Op}
		if by[x] == nil {
			order = append(order, x)
		}
		by[x] = append(by[x], piece.Clocked{Usual: c.Usual, Took: c.Took, Person: c.Who})
	}
	for _, x := range order {
		p := piece.PaceOf(by[x])
		if p.From == 0 {
			continue
		}
		name := x.op
		if t := lib.Of(x.way); t != nil {
			name = work.NameOf(r, t.Names) + ": " + read.LowerFirst(work.StepSays(t, x.op, r))
		}
		v.Hands = append(v.Hands, LearntRow{Name: name, Text: read.Trimmed(100*p.Factor, 0) + " % of the usual time", Sure: "the latest twelve count, each from half to twice", From: read.Count(p.From, "batch"), Share: -1, To: "ways"})
	}
	months, err := tx.MinutesByMonth(now.AddDate(-1, 0, 0))
	for _, m := range months {
		if m.Pieces > 0 {
			at := time.Date(m.Year, time.Month(m.Month), 1, 0, 0, 0, 0, now.Location())
			each := m.Minutes / float64(m.Pieces)
			v.Months = append(v.Months, MonthView{Month: at.Format("Jan"), Minutes: each, Pieces: m.Pieces, Says: fmt.Sprintf("%s: %s min a piece, %s", at.Format("January"), read.Trimmed(each, 1), read.Count(m.Pieces, "piece"))})
		}
	}
	return err
}
