package plan

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Workload is how full the weeks ahead are: hands against the hours at the bench, and
// what is held of moulds, trays and places.
type Workload struct {
	From    string    `json:"from"`
	Shown   string    `json:"shown"`
	Earlier string    `json:"earlier"`
	Later   string    `json:"later"`
	Says    string    `json:"says" doc:"the fullest day, in a sentence"`
	Share   float64   `json:"share" doc:"up to which share of its hours an evening breathes"`
	Days    []LoadDay `json:"days"`
	Held    []HeldRow `json:"held" doc:"what is used most first"`
	Most    int       `json:"most" doc:"minutes of the fullest or longest day"`
}

// LoadDay is hands of one day against its hours, in person-minutes.
type LoadDay struct {
	Date string `json:"date"`
	Name string `json:"name"`
	Open int    `json:"open"`
	Busy int    `json:"busy"`
	Full bool   `json:"full" doc:"beyond the share in which an evening breathes"`
	Says string `json:"says"`
	Over string `json:"over" doc:"what is handed over on it"`
}

// HeldRow is how much of one thing is held at once at most, day by day.
type HeldRow struct {
	Name  string `json:"name"`
	Of    int    `json:"of" doc:"how many there are"`
	Peaks []int  `json:"peaks"`
	Says  string `json:"says"`
}

const (
	loadDays  = 28  // days that are shown
	loadShare = 0.8 // of an evening, in which it breathes (models/plan.md)
	loadStep  = 10  // minutes beyond it that count: fewer are as nothing to the plan
)

// Workload shows four weeks from a date on, "" from today. It reads what is open.
func (s *Planning) Workload(ctx context.Context, slug, from string) (Workload, error) {
	in, err := s.planInputs(ctx, slug)
	if err != nil {
		return Workload{}, err
	}
	l, err := instance(ctx, in.bench, in.commissions, in.pieces, in.steps, in.onBoard)
	if err != nil {
		return Workload{}, err
	}
	r := read.Reader{K: in.k}
	start := dayOf(from, in.now)
	end := start.AddDate(0, 0, loadDays)
	said := func(t time.Time) string { return t.Format("Mon ") + r.Day(t, false) }
	out := Workload{From: start.Format(time.DateOnly), Shown: said(start) + " to " + said(end.AddDate(0, 0, -1)), Earlier: start.AddDate(0, 0, -loadDays).Format(time.DateOnly), Later: end.Format(time.DateOnly), Share: loadShare, Days: []LoadDay{}, Held: []HeldRow{}}
	in.days(&out, start, r)
	in.held(&out, l, start)
	return out, nil
}

// days are the hands of each day.
func (in *inputs) days(out *Workload, start time.Time, r read.Reader) {
	hours := in.k.OpenHours(start, start.AddDate(0, 0, loadDays))
	fullest := -1
	for i := range loadDays {
		day := start.AddDate(0, 0, i)
		d := LoadDay{Date: day.Format(time.DateOnly), Name: day.Format("Mon 2")}
		for k := range hours {
			if w := &hours[k]; w.Day == d.Date {
				length := int(w.End.Sub(w.Start) / time.Minute)
				d.Open += w.People * length
				for hand := 1; hand <= w.People; hand++ {
					taken := in.taken(w, hand)
					d.Busy += taken
					d.Full = d.Full || float64(taken) >= loadShare*float64(length)+loadStep
				}
			}
		}
		for _, c := range in.commissions {
			if c.HandOver != nil && c.State == "open" && c.HandOver.In(day.Location()).Format(time.DateOnly) == d.Date {
				d.Over = strings.TrimPrefix(d.Over+", "+c.Title, ", ")
			}
		}
		d.Says = loadSays(day.Format("Monday ")+r.Day(day, false), d.Busy, d.Open)
		out.Most = max(out.Most, d.Open, d.Busy)
		if out.Days = append(out.Days, d); d.Open > 0 && (fullest < 0 || d.Busy*out.Days[fullest].Open > out.Days[fullest].Busy*d.Open) {
			fullest = i
		}
	}
	switch {
	case fullest < 0 || out.Days[fullest].Busy == 0:
		out.Says = "Nothing is planned for hands in these weeks."
	default:
		out.Says = "The fullest: " + out.Days[fullest].Says + "."
	}
}

// taken is how long one pair of hands is taken in a stretch at the bench, minutes: by
// steps and by cleaning down before them, what overlaps once.
func (in *inputs) taken(w *noun.Stretch, hand int) (minutes int) {
	var all []noun.Busy
	for i := range in.steps {
		st := &in.steps[i]
		hands := st.Planned.Hands
		if len(hands) == 0 {
			hands = []int{1}
		}
		if !st.Attended || !slices.Contains(hands, hand) {
			continue
		}
		from, to := when(st)
		from = from.Add(-time.Duration(st.Planned.CleanDown) * time.Minute)
		if from.Before(w.Start) {
			from = w.Start
		}
		if to.After(w.End) {
			to = w.End
		}
		if from.Before(to) {
			all = append(all, noun.Busy{Start: from, End: to})
		}
	}
	for _, b := range noun.Joined("", all) {
		minutes += int(b.End.Sub(b.Start) / time.Minute)
	}
	return minutes
}

func loadSays(day string, busy, open int) string {
	switch {
	case open == 0 && busy == 0:
		return day + ": shut"
	case open == 0:
		return fmt.Sprintf("%s: %s of hands, and no hours", day, read.SayMinutes(busy))
	}
	return fmt.Sprintf("%s: %s of hands in %s, %d %%", day, read.SayMinutes(busy), read.SayMinutes(open), (100*busy+open/2)/open)
}

// when a step was, or is planned to be.
func when(st *noun.Step) (from, to time.Time) {
	from, to = st.PlannedStart, st.PlannedEnd
	if st.ActualStart != nil {
		from = *st.ActualStart
	}
	if st.ActualEnd != nil {
		to = *st.ActualEnd
	}
	return from, to
}

// holding is something held from one instant to another.
type holding struct {
	from, to time.Time
	count    int
}

// held are the things that are taken, with how many at once at most on each day.
func (in *inputs) held(out *Workload, l *liner, start time.Time) {
	at := map[string]*noun.Step{}
	for i := range in.steps {
		at[in.steps[i].Op] = &in.steps[i]
	}
	by := map[string][]holding{}
	add := func(resource, first, last string, count int) {
		a, b := at[first], at[last]
		if a == nil || b == nil {
			return
		}
		from, _ := when(a)
		_, to := when(b)
		by[resource] = append(by[resource], holding{from, to, count})
	}
	for _, b := range l.in.Batches {
		for _, o := range b.Ops {
			for _, u := range o.Uses {
				add(u.Resource, o.ID, o.ID, u.Count)
			}
		}
	}
	for _, h := range l.in.Holds {
		add(h.Resource, h.From, h.To, h.Count)
	}
	for _, res := range l.in.Resources {
		row := HeldRow{Name: l.resourceName(res.ID), Of: res.Capacity}
		most, days := 0, 0
		for i := range loadDays {
			p := peak(by[res.ID], start.AddDate(0, 0, i), start.AddDate(0, 0, i+1))
			row.Peaks = append(row.Peaks, p)
			if most = max(most, p); p >= res.Capacity && p > 0 {
				days++
			}
		}
		if most == 0 {
			continue
		}
		row.Says = fmt.Sprintf("%s: at most %d of %d at once", row.Name, most, res.Capacity)
		if days > 0 {
			row.Says += fmt.Sprintf(", all of them on %s", read.Count(days, "day"))
		}
		out.Held = append(out.Held, row)
	}
	slices.SortStableFunc(out.Held, func(a, b HeldRow) int {
		full := func(r HeldRow) float64 { return float64(slices.Max(r.Peaks)) / float64(r.Of) }
		return cmp.Or(cmp.Compare(full(b), full(a)), cmp.Compare(a.Name, b.Name))
	})
}

// peak is how many are held at once at most between two instants.
func peak(all []holding, from, to time.Time) (most int) {
	for _, x := range all { // the most is reached as something begins, or at the start
		t := x.from
		if t.Before(from) {
			t = from
		}
		if !t.Before(to) || !x.to.After(t) {
			continue
		}
		n := 0
		for _, y := range all {
			if !y.from.After(t) && y.to.After(t) {
				n += y.count
			}
		}
		most = max(most, n)
	}
	return most
}

func (l *liner) resourceName(id string) string {
	switch {
	case id == "freezer":
		return "Places in the freezer"
	case id == "tray":
		return "Trays"
	case strings.HasPrefix(id, "tray.r"):
		n, _ := strconv.ParseInt(strings.TrimPrefix(id, "tray.r"), 10, 64)
		return "Trays of " + l.b.Kitchen.RackName(n)
	case strings.HasPrefix(id, "tool"):
		if n, err := strconv.ParseInt(strings.TrimPrefix(id, "tool"), 10, 64); err == nil && l.b.Tools[n] != nil {
			return l.b.Tools[n].Name
		}
	}
	return read.UpperFirst(strings.TrimPrefix(id, "any."))
}
