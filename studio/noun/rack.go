package noun

import (
	"math"
	"slices"
	"time"

	"dustyfern/craft/drying"
)

// Rack is where pieces dry beside the kitchen itself: a drying box, a cool cupboard, with
// its own trays and its own air.
type Rack struct {
	Row
	Name      string     `json:"name"`
	TempC     float64    `json:"tempC"`
	RHPercent float64    `json:"rhPercent"`
	AirMS     float64    `json:"airMS"`  // how fast its air moves
	Sensor    string     `json:"sensor"` // what its room sensor calls it; "": none
	Trays     []Tray     `json:"trays" gorm:"serializer:json"`
	Room      []RoomSaid `json:"room" gorm:"serializer:json"` // as it was said, the latest last
}

// StillAir is how fast the air of a room moves in which nothing stirs it, m/s.
const StillAir = 0.05

// Word of the noun.
func (*Rack) Word() string { return "rack" }

// Called is its name in the journal.
func (r *Rack) Called() (string, int64) { return r.Name, 0 }

// BlankRack is a drying box of which nothing was said yet.
func BlankRack() Rack {
	return Rack{Row: Row{Version: 1}, TempC: 24, RHPercent: 40, AirMS: StillAir, Trays: []Tray{{2, 300, 200}}, Room: []RoomSaid{}}
}

// Says that its air is another one from now on than it was.
func (r *Rack) Says(tempC, rhPercent float64, now time.Time) {
	r.Room = said(r.Room, tempC, rhPercent, RoomSaid{now, r.TempC, r.RHPercent})
}

// Expected is air that the decorator expects in the kitchen for a while.
type Expected struct {
	From      time.Time  `json:"from"`
	Until     *time.Time `json:"until,omitempty"` // nil: until something else is said
	TempC     *float64   `json:"tempC,omitempty"` // nil: as it is
	RHPercent float64    `json:"rhPercent"`
	Says      string     `json:"says"` // "rain"
}

// Hour is what was read of the air of a rack within an hour, the mean.
type Hour struct {
	Rack      int64   `json:"rack"`
	At        int64   `json:"at"` // hours since 1970
	TempC     float64 `json:"tempC"`
	RHPercent float64 `json:"rhPercent"`
	LastAt    int64   `json:"lastAt"` // seconds since 1970: the last one that was read
}

// Reading is the air of a rack at an instant; 0 is the kitchen.
type Reading struct {
	Rack      int64     `json:"rack"`
	At        time.Time `json:"at"`
	TempC     float64   `json:"tempC"`
	RHPercent float64   `json:"rhPercent"`
	Bad       bool      `json:"bad,omitempty"` // it cannot have been so: it is marked and not used
}

// Surroundings are the places where things dry, what was read there lately, and how fast
// this kitchen dries by what was noted. They are read with the kitchen.
type Surroundings struct {
	Racks  []Rack        `json:"racks"`
	Hours  []Hour        `json:"hours"` // in order of racks and hours
	Belief drying.Belief `json:"belief"`
}

// RackOf finds a rack; nil: the kitchen itself, or one that was taken away.
func (k *Kitchen) RackOf(id int64) *Rack {
	for i := range k.Around.Racks {
		if id != 0 && k.Around.Racks[i].ID == id {
			return &k.Around.Racks[i]
		}
	}
	return nil
}

// RackName is what a place is called where things dry.
func (k *Kitchen) RackName(id int64) string {
	if r := k.RackOf(id); r != nil {
		return r.Name
	}
	return "the kitchen"
}

// MovesAt is how fast the air moves there, m/s.
func (k *Kitchen) MovesAt(rack int64) float64 {
	if r := k.RackOf(rack); r != nil {
		return r.AirMS
	}
	if k.AirMS == 0 {
		return StillAir
	}
	return k.AirMS
}

// TraysOf a place.
func (k *Kitchen) TraysOf(rack int64) []Tray {
	if r := k.RackOf(rack); r != nil {
		return r.Trays
	}
	return k.Trays
}

// hoursOf what was read of a rack, in order.
func (k *Kitchen) hoursOf(rack int64) []Hour {
	all := k.Around.Hours
	from, _ := slices.BinarySearchFunc(all, rack, func(h Hour, id int64) int { return int(h.Rack - id) })
	to, _ := slices.BinarySearchFunc(all, rack+1, func(h Hour, id int64) int { return int(h.Rack - id) })
	return all[from:to]
}

// How long what was read stands in for what was not.
const (
	heldHours   = 24 // the last good reading is held for so long (assumed)
	expectDays  = 3  // the same hours of the last days are expected
	aheadHours  = 96 // by the hour; after that the mean of a day
	freshWithin = 20 * time.Minute
)

// saidAt is the air of a place as it was said for an instant, and when that was said: zero
// where it has always been so.
func (k *Kitchen) saidAt(rack int64, at time.Time) (tempC, rh float64, since time.Time) {
	room, tempC, rh := k.Room, k.TempC, k.RHPercent
	if r := k.RackOf(rack); r != nil {
		room, tempC, rh = r.Room, r.TempC, r.RHPercent
	}
	for i, s := range room {
		if i < len(room)-1 && room[i+1].At.After(at) {
			return s.TempC, s.RHPercent, s.At
		}
		since = s.At
	}
	return tempC, rh, since // as it is since it was said last
}

// overtaken tells whether something was said of the air after it was read.
func (h *Hour) overtaken(said time.Time) bool { return said.After(time.Unix(h.LastAt, 0)) }

// expectedAt is what the decorator expects of the kitchen at an instant; nil: nothing.
func (k *Kitchen) expectedAt(rack int64, at time.Time) (found *Expected) {
	if rack != 0 && k.RackOf(rack) != nil {
		return nil // a box keeps its own air
	}
	for i := range k.Expects {
		if e := &k.Expects[i]; !e.From.After(at) && (e.Until == nil || e.Until.After(at)) {
			found = e // the latest said counts
		}
	}
	return found
}

// Varies tells whether the air of a place is known by more than one number: it was read
// lately, or something is expected of it.
func (k *Kitchen) Varies(rack int64, now time.Time) bool {
	if k.lastRead(rack, now) != nil {
		return true
	}
	if rack != 0 && k.RackOf(rack) != nil {
		return false
	}
	return slices.ContainsFunc(k.Expects, func(e Expected) bool { return e.Until == nil || e.Until.After(now) })
}

// lastRead is the last hour that was read of a place, while it counts: not older than a
// day, and nothing was said since. nil: there is none.
func (k *Kitchen) lastRead(rack int64, now time.Time) *Hour {
	hs := k.hoursOf(rack)
	_, _, since := k.saidAt(rack, now)
	if n := len(hs); n > 0 && hs[n-1].At >= hourOf(now)-heldHours && !hs[n-1].overtaken(since) {
		return &hs[n-1]
	}
	return nil
}

func hourOf(at time.Time) int64 { return at.Unix() / 3600 }

// AirIn is the air of a place in the hour of an instant: as it was said after it was read,
// as it was read, as the last reading has it, as the same hours of the last days had it, as
// somebody expects it, or as it was said.
func (k *Kitchen) AirIn(rack int64, at, now time.Time) (tempC, rh float64) {
	hs, hour := k.hoursOf(rack), hourOf(at)
	read := func(h int64) *Hour {
		i, ok := slices.BinarySearchFunc(hs, h, func(x Hour, h int64) int { return int(x.At - h) })
		if ok {
			return &hs[i]
		}
		return nil
	}
	if hour <= hourOf(now) {
		tempC, rh, since := k.saidAt(rack, at)
		for back := int64(0); back <= heldHours; back++ {
			if x := read(hour - back); x != nil && !x.overtaken(since) {
				return x.TempC, x.RHPercent
			}
		}
		return tempC, rh
	}
	tempC, rh, _ = k.saidAt(rack, at)
	last := k.lastRead(rack, now)
	n := 0.0
	t, r := 0.0, 0.0
	first := hour - 24*((hour-hourOf(now)+23)/24) // the same hour of the day, not later than now
	for d := range int64(expectDays) {
		if x := read(first - 24*d); x != nil && last != nil {
			t, r, n = t+x.TempC, r+x.RHPercent, n+1
		}
	}
	switch {
	case n > 0:
		tempC, rh = t/n, r/n
	case last != nil:
		tempC, rh = last.TempC, last.RHPercent
	}
	if e := k.expectedAt(rack, at); e != nil {
		rh = e.RHPercent
		if e.TempC != nil {
			tempC = *e.TempC
		}
	}
	return tempC, rh
}

// AirOf is the air of a place from one instant until another (zero: for as long as anything
// dries): straight lines between its points, the last one held.
func (k *Kitchen) AirOf(rack int64, from, until, now time.Time) []RoomSaid {
	if !k.Varies(rack, now) && !slices.ContainsFunc(k.hoursOf(rack), func(h Hour) bool { return h.At >= hourOf(from)-heldHours }) {
		return k.stepsOf(rack, from, until)
	}
	end := now.Add(aheadHours * time.Hour)
	if f := from.Add(aheadHours * time.Hour); f.After(end) {
		end = f
	}
	if !until.IsZero() && until.Before(end) {
		end = until
	}
	t, rh := k.AirIn(rack, from, now)
	out := []RoomSaid{{from, round2(t), round2(rh)}}
	for at := from.Truncate(time.Hour).Add(90 * time.Minute); at.Before(end); at = at.Add(time.Hour) {
		t, rh := k.AirIn(rack, at, now)
		if n := len(out); n > 1 && out[n-1].TempC == round2(t) && out[n-1].RHPercent == round2(rh) && out[n-2].TempC == round2(t) && out[n-2].RHPercent == round2(rh) {
			out[n-1].At = at // one long stretch of the same
			continue
		}
		out = append(out, RoomSaid{at, round2(t), round2(rh)})
	}
	if until.IsZero() {
		sumT, sumR := 0.0, 0.0
		for h := range 24 {
			t, rh := k.AirIn(rack, end.Add(-time.Duration(h)*time.Hour), now)
			sumT, sumR = sumT+t/24, sumR+rh/24
		}
		out = append(out, RoomSaid{end.Add(time.Hour), round2(sumT), round2(sumR)})
	}
	return out
}

func round2(x float64) float64 { return math.Round(x*100) / 100 }

// stepsOf is the air of a place as it was said, one value until the next.
func (k *Kitchen) stepsOf(rack int64, from, until time.Time) []RoomSaid {
	t, rh, _ := k.saidAt(rack, from)
	out := []RoomSaid{{from, t, rh}}
	room := k.Room
	if r := k.RackOf(rack); r != nil {
		room = r.Room
	}
	for i, s := range room {
		if i == 0 || !s.At.After(from) || !until.IsZero() && !s.At.Before(until) {
			continue
		}
		last := out[len(out)-1]
		if !s.At.After(last.At) { // said twice in a second: what was said last
			out[len(out)-1] = s
			continue
		}
		if before := s.At.Add(-becomes); before.After(last.At) {
			out = append(out, RoomSaid{before, last.TempC, last.RHPercent})
		}
		out = append(out, s)
	}
	return out
}

// becomes is how long the air takes to become another one: at once, as far as straight
// lines can tell.
const becomes = time.Second

// NowIn is the air of a place now: the last reading while it is fresh, else what was said.
func (k *Kitchen) NowIn(rack int64, now time.Time) (tempC, rh float64, readAt time.Time) {
	if x := k.lastRead(rack, now); x != nil {
		return x.TempC, x.RHPercent, time.Unix(x.LastAt, 0).In(now.Location())
	}
	tempC, rh, _ = k.saidAt(rack, now)
	return tempC, rh, time.Time{}
}

// Stale tells whether what was read last is too old to be called now.
func Stale(readAt, now time.Time) bool { return now.Sub(readAt) > freshWithin }

// Pace is how much longer a paste takes here than by the model, and the spread of the
// logarithm of that, by what was noted until now.
func (k *Kitchen) Pace(paste string, now time.Time) (factor, logSd float64) {
	b := k.Around.Belief
	if len(b.Mean) == 0 {
		return 1, 0.35
	}
	return b.Forward(DayNumber(now)).Factor(paste)
}

// DayNumber counts days since 1970.
func DayNumber(at time.Time) float64 { return float64(at.Unix() / 86400) }

// Tended is something that hands did to pieces while they dried.
type Tended struct {
	At      time.Time `json:"at"`
	Do      string    `json:"do"`                // turn, bag, unbag, rack, support, tray
	Rack    int64     `json:"rack,omitempty"`    // moved there
	Support string    `json:"support,omitempty"` // they lie on that now
	Tray    int       `json:"tray,omitempty"`    // of its place, from 1
	Who     string    `json:"who,omitempty"`
}

// What hands do to pieces that dry.
const (
	Turn     = "turn"
	Bag      = "bag"
	Unbag    = "unbag"
	ToRack   = "rack"
	OnTo     = "support"
	ToTray   = "tray"
	MostDone = 60 // things done to one batch
)

// Known tells whether it is something that hands do.
func (t Tended) Known() bool {
	switch t.Do {
	case Turn, Bag, Unbag, ToRack:
		return true
	case ToTray:
		return t.Tray >= 1 && t.Tray <= 1000
	case OnTo:
		return slices.Contains([]string{"board", "foam", "cup", "dowel", "hook", "rack"}, t.Support)
	}
	return false
}

// CanBe tells whether a kitchen can have such air: anything else is a broken sensor.
func CanBe(tempC, rhPercent float64) bool {
	return tempC >= 5 && tempC <= 40 && rhPercent >= 5 && rhPercent <= 95
}
