package device

import (
	"context"
	"fmt"
	"maps"
	"math"
	"math/rand/v2"
	"slices"
	"sync"
	"time"

	"dustyfern/device/protocol"
	"dustyfern/studio/noun"
	"dustyfern/studio/shelf"
)

// roomSilence is how long a sensor may say nothing of a place before it counts as gone:
// many speak once a minute.
const roomSilence = 2 * time.Minute

// RoomSensor reads the air of one or more places from a source of lines, and sums it up
// until it is kept.
type RoomSensor struct {
	address string
	mu      sync.Mutex
	places  map[string]*heardAir
	why     string
}

type heardAir struct {
	last      protocol.Air
	at        time.Time
	bad       bool
	gone      bool // nothing is heard any more
	sumT, sum float64
	n         int
	badN      int
}

// NewRoomSensor reads from tcp://host:port, or from a serial port by its name.
func NewRoomSensor(address string) *RoomSensor {
	return &RoomSensor{address: address, places: map[string]*heardAir{}, why: "the room sensor has not answered yet"}
}

// mostPlaces is of how many places one sensor is listened to.
const mostPlaces = 50

// Run reads until ctx ends.
func (s *RoomSensor) Run(ctx context.Context) {
	follow(ctx, s.address, func(line string, at time.Time) {
		if a, err := protocol.ParseAir(line); err == nil {
			s.hear(a, at)
		}
	}, func() {
		s.mu.Lock()
		defer s.mu.Unlock()
		s.why = "the room sensor does not answer"
		for _, p := range s.places {
			p.gone = true
		}
	})
}

// jumpC and jumpRH are how far air may move between two lines and still be believed
// (assumed); a sensor that says it again is believed.
const (
	jumpC  = 6.0
	jumpRH = 25.0
)

func (s *RoomSensor) hear(a protocol.Air, at time.Time) {
	s.mu.Lock()
	defer s.mu.Unlock()
	p := s.places[a.Place]
	if p == nil {
		if len(s.places) >= mostPlaces {
			return
		}
		p = &heardAir{}
		s.places[a.Place] = p
	}
	bad := !noun.CanBe(a.TempC, a.RHPercent)
	if !bad && !p.at.IsZero() && at.Sub(p.at) < roomSilence && !p.bad && (math.Abs(a.TempC-p.last.TempC) > jumpC || math.Abs(a.RHPercent-p.last.RHPercent) > jumpRH) {
		bad = true
	}
	p.last, p.at, p.bad, p.gone = a, at, bad, false
	if bad {
		p.badN++
		return
	}
	p.sumT, p.sum, p.n = p.sumT+a.TempC, p.sum+a.RHPercent, p.n+1
}

func (p *heardAir) live() bool { return !p.gone && time.Since(p.at) <= roomSilence }

// Heard is what it says of each place now.
func (s *RoomSensor) Heard() []shelf.Heard {
	s.mu.Lock()
	defer s.mu.Unlock()
	var out []shelf.Heard
	for _, name := range slices.Sorted(maps.Keys(s.places)) {
		p := s.places[name]
		h := shelf.Heard{Place: name, TempC: p.last.TempC, RHPercent: p.last.RHPercent, Bad: p.bad, Why: s.why}
		h.Live = p.live()
		out = append(out, h)
	}
	return out
}

// Take is the mean of each place since it was taken last; a place of which nothing good
// was heard is told as bad, one of which nothing was heard not at all.
func (s *RoomSensor) Take() []shelf.Heard {
	s.mu.Lock()
	defer s.mu.Unlock()
	var out []shelf.Heard
	for _, name := range slices.Sorted(maps.Keys(s.places)) {
		p := s.places[name]
		switch {
		case !p.live(): // what was heard before belongs to another minute
		case p.n > 0:
			out = append(out, shelf.Heard{Place: name, TempC: p.sumT / float64(p.n), RHPercent: p.sum / float64(p.n), Live: true})
		case p.badN > 0:
			out = append(out, shelf.Heard{Place: name, TempC: p.last.TempC, RHPercent: p.last.RHPercent, Bad: true, Live: true})
		}
		p.sumT, p.sum, p.n, p.badN = 0, 0, 0, 0
	}
	return out
}

// Rooms is a room sensor that is not there: a kitchen, a drying box and a cool cupboard,
// with a day's drift, and damp spells and faults that are set by hand.
type Rooms struct {
	*speaker
	mu    sync.Mutex
	clock func() time.Time
	turn  int
	lines int
	damp  float64 // how far the damp has come in, 0..1
	dice  *rand.Rand
}

// RoomModes of the stand-in.
var RoomModes = []string{"off", "usual day", "damp spell", "dropouts", "nonsense", "unplugged"}

// How the air of the stand-in's places is (assumed).
var standInPlaces = []struct {
	name         string
	tempC, rh    float64
	driftC       float64 // over a day
	driftRH      float64
	dampC, dampR float64 // more of it in a damp spell
}{{"kitchen", 21, 50, 1.2, 5, -1.5, 16}, {"box", 25, 40, 0.4, 1.5, 0, 3}, {"cupboard", 16, 55, 0.5, 2, -0.5, 10}}

// dampOver is over how many lines the damp comes in.
const dampOver = 40

// NewRooms speaks on a free port of the loopback, by a clock. The seed makes its noise the
// same each time.
func NewRooms(seed uint64, beat time.Duration, clock func() time.Time) (*Rooms, error) {
	s, err := newSpeaker(beat)
	if err != nil {
		return nil, err
	}
	s.mode = "off"
	return &Rooms{speaker: s, clock: clock, dice: rand.New(rand.NewPCG(seed, 6173))}, nil
}

// Run speaks until ctx ends.
func (r *Rooms) Run(ctx context.Context) { r.run(ctx, r.line) }

// line is the next reading, of each place in turn; nothing that can be read while it is
// off.
func (r *Rooms) line() string {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.lines++
	mode := r.State()
	if mode == "off" || mode == "dropouts" && r.lines/50%2 == 1 {
		return "#"
	}
	p := standInPlaces[r.turn%len(standInPlaces)]
	r.turn++
	if mode == "nonsense" && r.lines%7 == 0 {
		return p.name + " 85.0 C 0 %"
	}
	goal := 0.0
	if mode == "damp spell" {
		goal = 1
	}
	r.damp += (goal - r.damp) / dampOver
	at := r.clock()
	day := math.Sin(2 * math.Pi * (float64(at.Hour()*60+at.Minute())/1440 - 0.35)) // warmest in the afternoon
	return fmt.Sprintf("%s %.2f C %.1f %%", p.name, p.tempC+p.driftC*day+r.damp*p.dampC+0.03*r.dice.NormFloat64(), p.rh-p.driftRH*day+r.damp*p.dampR+0.2*r.dice.NormFloat64())
}
