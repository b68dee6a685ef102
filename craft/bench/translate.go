package bench

import (
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/fault"
)

const (
	aDay       = 1440
	mostLength = 366 * aDay
)

// translate checks an instance and turns it into minutes.
func translate(in *Instance) (*task, error) {
	t := &task{in: in, byID: map[string]int{}}
	if in.Format != "" && in.Format != InstanceFormat && in.Format != olderFormat {
		return nil, fault.New(fault.UnknownValue, at("format"), "The format is %q, and %q is still read.", InstanceFormat, olderFormat)
	}
	now, err := time.Parse(time.RFC3339, in.Now)
	if err != nil || now.Second() != 0 || now.Nanosecond() != 0 {
		return nil, fault.New(BadInstant, at("now"), "now must be an instant on a whole minute with a zone, such as 2026-03-05T19:00:00Z.")
	}
	t.now, t.zone = now, now.Location()
	if c := in.Confidence; c != nil && !(*c >= 0.5 && *c <= 0.99) {
		return nil, fault.New(BadConfidence, at("confidence"), "The confidence of drying lies between 0.5 and 0.99.")
	}
	if c := in.CrowdShare; c != nil && !(*c >= 0.1 && *c <= 1) {
		return nil, fault.New(BadShare, at("crowdShare"), "The share of an evening that may be full lies between 0.1 and 1.")
	}
	if o := in.Overrun; o != nil && (*o < 0 || *o > 120) {
		return nil, fault.New(BadMinutes, at("overrunMinutes"), "A window may be overrun by 0 to 120 minutes, not %d.", *o)
	}
	for _, part := range []func() error{t.readWindows, t.readThings, t.readCommissions, t.readBatches, t.readLags, t.readHolds, t.order, t.places} {
		if err := part(); err != nil {
			return nil, err
		}
	}
	t.bind()
	return t, nil
}

func (t *task) readWindows() error {
	people := 1
	if t.in.People != nil {
		people = *t.in.People
	}
	if people < 1 || people > 4 {
		return fault.New(BadPeople, at("people"), "1 to 4 people work at one bench, not %d.", people)
	}
	seen := map[string]bool{}
	for i, w := range t.in.Windows {
		f := func(name string) string { return at("windows[%d].%s", i, name) }
		if w.ID == "" || seen[w.ID] {
			return fault.New(DuplicateID, f("id"), "Each window needs an id of its own; %q is empty or taken.", w.ID)
		}
		seen[w.ID] = true
		start, err := t.minute(w.Start, f("start"))
		if err != nil {
			return err
		}
		end, err := t.minute(w.End, f("end"))
		if err != nil {
			return err
		}
		if end <= start {
			return fault.New(BadWindow, f("end"), "Window %q ends before it begins.", w.ID)
		}
		n := people
		if w.People != nil {
			n = *w.People
		}
		if n < 1 || n > 4 {
			return fault.New(BadPeople, f("people"), "1 to 4 people work at one bench, not %d.", n)
		}
		t.windows = append(t.windows, window{id: w.ID, day: w.Day, start: start, end: end, preferred: w.Preferred, people: n})
	}
	slices.SortStableFunc(t.windows, func(a, b window) int { return a.start - b.start })
	for i := 1; i < len(t.windows); i++ {
		if t.windows[i].start < t.windows[i-1].end {
			return fault.New(WindowsOverlap, at("windows"), "Windows %q and %q overlap: merge them, or let them touch.", t.windows[i-1].id, t.windows[i].id)
		}
	}
	t.stretch()
	return nil
}

// stretch lets windows be overrun: their ends first, then the next one's start,
// as far as there is room. Shares are reckoned from the window as given.
func (t *task) stretch() {
	over, share := 0, 0.8
	if t.in.Overrun != nil {
		over = *t.in.Overrun
	}
	if t.in.CrowdShare != nil {
		share = *t.in.CrowdShare
	}
	days := map[string]int{}
	for i := range t.windows {
		w := &t.windows[i]
		w.from, w.to = w.start-over, w.end+over
		if i > 0 {
			w.from = max(w.from, t.windows[i-1].to)
		}
		if i+1 < len(t.windows) {
			w.to = max(w.end, min(w.to, t.windows[i+1].start))
		}
		if _, known := days[w.day]; !known {
			days[w.day] = len(days)
		}
		w.dayNumber = days[w.day]
		w.limit = int(math.Floor(share*float64(w.end-w.start) + 1e-9))
	}
	t.days = len(days)
}

func (t *task) readThings() error {
	seen := map[string]bool{}
	for i, r := range t.in.Resources {
		if r.ID == "" || seen[r.ID] {
			return fault.New(DuplicateID, at("resources[%d].id", i), "Each resource needs an id of its own; %q is empty or taken.", r.ID)
		}
		seen[r.ID] = true
		if r.Capacity < 1 || r.Capacity > 1000 {
			return fault.New(BadCapacity, at("resources[%d].capacity", i), "1 to 1000 copies of %q, not %d.", r.ID, r.Capacity)
		}
	}
	t.resources = t.in.Resources
	seen = map[string]bool{}
	for i, c := range t.in.Colours {
		if c.ID == "" || c.ID == "none" || seen[c.ID] {
			return fault.New(DuplicateID, at("colours[%d].id", i), "Each colour needs an id of its own, and \"none\" is reserved; %q is not free.", c.ID)
		}
		seen[c.ID] = true
		if !(c.Lightness >= 0 && c.Lightness <= 100) {
			return fault.New(fault.OutOfRange, at("colours[%d].lightness", i), "Lightness runs from 0 to 100.")
		}
	}
	t.colours = t.in.Colours
	for _, c := range []struct {
		name string
		m    int
	}{{"toDarker", t.in.CleanDown.ToDarker}, {"toLighter", t.in.CleanDown.ToLighter}, {"toWhite", t.in.CleanDown.ToWhite}} {
		if c.m < 0 || c.m > 240 {
			return fault.New(BadMinutes, at("cleanDown.%s", c.name), "A clean-down takes 0 to 240 minutes, not %d.", c.m)
		}
	}
	if m := t.in.CleanDown.ToFree; m < 0 || m > mostToFree {
		return fault.New(BadMinutes, at("cleanDown.toFree"), "Washing for what must be free takes 0 to %d minutes, not %d.", mostToFree, m)
	}
	t.wipes = make([][]int, len(t.colours))
	for a, from := range t.colours {
		t.wipes[a] = make([]int, len(t.colours))
		for b, to := range t.colours {
			switch {
			case a == b:
			case to.Lightness <= from.Lightness:
				t.wipes[a][b] = t.in.CleanDown.ToDarker
			case to.Lightness >= t.in.CleanDown.WhiteFrom:
				t.wipes[a][b] = t.in.CleanDown.ToWhite
			default:
				t.wipes[a][b] = t.in.CleanDown.ToLighter
			}
			// whatever is not known to be free of it may have left it there
			if slices.ContainsFunc(to.Free, func(x string) bool { return !slices.Contains(from.Free, x) }) {
				t.wipes[a][b] = max(t.wipes[a][b], t.in.CleanDown.ToFree)
			}
		}
	}
	return nil
}

// mostToFree is a day: longer than any evening, where what must be free has to come first.
const mostToFree = 1440

func (t *task) readCommissions() error {
	seen := map[string]bool{}
	for i, c := range t.in.Commissions {
		if c.ID == "" || seen[c.ID] {
			return fault.New(DuplicateID, at("commissions[%d].id", i), "Each commission needs an id of its own; %q is empty or taken.", c.ID)
		}
		seen[c.ID] = true
		over, err := t.minute(c.HandOver, at("commissions[%d].handOver", i))
		if err != nil {
			return err
		}
		if c.BufferMinutes < 0 || c.BufferMinutes > mostLength {
			return fault.New(BadMinutes, at("commissions[%d].bufferMinutes", i), "The margin before the hand-over is 0 minutes or more.")
		}
		t.commissions = append(t.commissions, commission{c.ID, over, c.BufferMinutes})
	}
	return nil
}

func (t *task) resource(id string) int {
	return slices.IndexFunc(t.resources, func(r Resource) bool { return r.ID == id })
}

// colourOf gives the index of a colour, -1 for none.
func (t *task) colourOf(id string) (int, bool) {
	if id == "" || id == "none" {
		return -1, true
	}
	i := slices.IndexFunc(t.colours, func(c Colour) bool { return c.ID == id })
	return i, i >= 0
}

func (t *task) readBatches() error {
	seen := map[string]bool{}
	for i, b := range t.in.Batches {
		if b.ID == "" || seen[b.ID] {
			return fault.New(DuplicateID, at("batches[%d].id", i), "Each batch needs an id of its own; %q is empty or taken.", b.ID)
		}
		seen[b.ID] = true
		c := slices.IndexFunc(t.commissions, func(c commission) bool { return c.id == b.Commission })
		if c < 0 {
			return fault.New(UnknownCommission, at("batches[%d].commission", i), "There is no commission %q.", b.Commission)
		}
		x := batch{commission: c, fresh: noTime, lostFrom: noTime}
		if t.in.Format == olderFormat {
			x.weight = 1
		}
		if b.FreshWeight != nil {
			x.weight = *b.FreshWeight
		}
		if !(x.weight >= 0 && x.weight <= 1000) {
			return fault.New(BadWeight, at("batches[%d].freshWeight", i), "The weight of freshness is 0 to 1000.")
		}
		if b.FreshMinutes != nil {
			if *b.FreshMinutes < 1 || *b.FreshMinutes > mostLength {
				return fault.New(BadMinutes, at("batches[%d].freshMinutes", i), "Freshness is counted in minutes, 1 or more.")
			}
			x.fresh = t.commissions[c].handOver - *b.FreshMinutes
		}
		if b.SpareMinutes != nil && (*b.SpareMinutes < 0 || *b.SpareMinutes > mostLength) {
			return fault.New(BadMinutes, at("batches[%d].spareMinutes", i), "The spare after drying is 0 minutes or more.")
		}
		if _, ok := t.colourOf(b.Colour); !ok {
			return fault.New(UnknownColour, at("batches[%d].colour", i), "There is no colour %q.", b.Colour)
		}
		for j := range b.Ops {
			s := step{batch: i, commission: c}
			if err := t.readOp(&s, &b, &b.Ops[j], at("batches[%d].ops[%d]", i, j)); err != nil {
				return err
			}
			t.byID[s.id] = len(t.steps)
			x.steps = append(x.steps, len(t.steps))
			t.steps = append(t.steps, s)
		}
		t.batches = append(t.batches, x)
	}
	if len(t.steps) == 0 {
		return fault.New(Empty, at("batches"), "There is no step to plan.")
	}
	return nil
}

func (t *task) readOp(s *step, b *Batch, o *Op, f string) error {
	if _, taken := t.byID[o.ID]; taken || o.ID == "" {
		return fault.New(DuplicateID, f+".id", "Each step needs an id of its own; %q is empty or taken.", o.ID)
	}
	s.id, s.attended, s.people, s.pinned, s.notBefore, s.notAfter = o.ID, o.Attended, 1, noTime, noTime, far
	if err := t.readLength(s, o, f); err != nil {
		return err
	}
	if o.People != nil {
		s.people = *o.People
	}
	if s.people < 1 || s.people > 4 {
		return fault.New(BadPeople, f+".people", "A step is done by 1 to 4 people, not %d.", s.people)
	}
	most := 0
	for _, w := range t.windows {
		most = max(most, w.people)
	}
	if o.Attended && s.people > most && len(t.windows) > 0 {
		return fault.New(TooFewPeople, f+".people", "Step %q needs %d people, but at most %d are ever there.", o.ID, s.people, most)
	}
	if o.Attention != nil {
		s.attention = *o.Attention
	}
	if s.attention < 1 || s.attention > 100 {
		return fault.New(fault.OutOfRange, f+".attention", "Attention is 1 to 100 %%.")
	}
	s.colour = -1
	if o.Attended {
		name := o.Colour
		if name == "" {
			name = b.Colour
		}
		var ok bool
		if s.colour, ok = t.colourOf(name); !ok {
			return fault.New(UnknownColour, f+".colour", "There is no colour %q.", name)
		}
	} else if _, ok := t.colourOf(o.Colour); !ok {
		return fault.New(UnknownColour, f+".colour", "There is no colour %q.", o.Colour)
	}
	seen := map[int]bool{}
	for k, u := range o.Uses {
		r := t.resource(u.Resource)
		uf := fmt.Sprintf("%s.uses[%d]", f, k)
		switch {
		case r < 0:
			return fault.New(UnknownResource, uf+".resource", "There is no resource %q.", u.Resource)
		case u.Count < 1:
			return fault.New(BadCount, uf+".count", "At least one copy is used, not %d.", u.Count)
		case u.Count > t.resources[r].Capacity:
			return fault.New(TooFewCopies, uf, "Step %q needs %d of %q, but there are %d.", o.ID, u.Count, u.Resource, t.resources[r].Capacity)
		case seen[r]:
			return fault.New(DuplicateHold, uf, "Step %q holds %q twice: add the counts.", o.ID, u.Resource)
		}
		seen[r] = true
		s.uses = append(s.uses, need{r, u.Count})
	}
	return t.readTimes(s, o, f)
}

func (t *task) readLength(s *step, o *Op, f string) error {
	given := 0
	for _, g := range []bool{o.Minutes != nil, o.Cycle != nil, o.Dry != nil} {
		if g {
			given++
		}
	}
	if given != 1 {
		return fault.New(BadDuration, f, "Step %q needs exactly one of minutes, cycle and dry.", o.ID)
	}
	s.attention = 100
	confidence := 0.9
	if t.in.Confidence != nil {
		confidence = *t.in.Confidence
	}
	switch {
	case o.Minutes != nil:
		if *o.Minutes < 1 || *o.Minutes > mostLength {
			return fault.New(BadMinutes, f+".minutes", "A step takes 1 minute or more, not %d.", *o.Minutes)
		}
		s.length = *o.Minutes
	case o.Cycle != nil:
		c := *o.Cycle
		if c.Pieces < 1 || c.Pieces > 100000 || c.FillSec < 0 || c.HoldSec < 0 || c.UnmouldSec < 0 || c.Copies < 1 || c.FillSec+c.UnmouldSec < 1 ||
			max(c.FillSec, c.HoldSec, c.UnmouldSec) > 7*aDay*60 || c.Pieces*(c.FillSec+c.HoldSec+c.UnmouldSec) > mostLength*60 {
			return fault.New(BadCycle, f+".cycle", "Rounds need 1 or more pieces and copies, and seconds of filling or opening.")
		}
		if !o.Attended {
			return fault.New(BadCycle, f+".cycle", "Rounds of moulds need hands: the step is attended.")
		}
		s.length, s.attention = c.Length()
	case o.Dry != nil:
		if o.Dry.P50 < 1 || o.Dry.P90 < o.Dry.P50 || o.Dry.P90 > mostLength {
			return fault.New(BadDrying, f+".dry", "Drying needs p50 of 1 minute or more and a p90 not below it.")
		}
		if o.Attended {
			return fault.New(BadDrying, f+".dry", "Drying needs no hands: the step is not attended.")
		}
		s.length, s.dries = o.Dry.Length(confidence), true
	}
	return nil
}
