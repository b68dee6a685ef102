package device

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"sync"
	"time"
)

// StandIn is a scale that is not there: it speaks the same lines over TCP. What
// lies on it is set by hand; it can be steady, noisy, drifting or unplugged.
type StandIn struct {
	*speaker
	mu    sync.Mutex
	grams float64
	mode  string
	moved int // lines since something was put on it
	drift float64
	dice  *rand.Rand
}

// Modes of the stand-in.
var Modes = []string{"steady", "noisy", "drifting", "unplugged"}

const (
	standInStep = 0.01 // g
	unstableFor = 3    // lines after something was put on it
	driftG      = 0.02 // a line
	noiseG      = 0.004
	loudG       = 0.4
)

// NewStandIn listens on a free port of the loopback. The seed makes its noise
// the same each time.
func NewStandIn(seed uint64, beat time.Duration) (*StandIn, error) {
	s, err := newSpeaker(beat)
	if err != nil {
		return nil, err
	}
	return &StandIn{speaker: s, mode: "steady", dice: rand.New(rand.NewPCG(seed, 8017))}, nil
}

// Run speaks until ctx ends.
func (s *StandIn) Run(ctx context.Context) { s.run(ctx, s.line) }

// line is the next reading.
func (s *StandIn) line() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.moved++
	if s.moved <= unstableFor {
		return "U"
	}
	g, flag := s.grams+noiseG*s.dice.NormFloat64(), "S"
	switch s.mode {
	case "noisy":
		g, flag = s.grams+loudG*s.dice.NormFloat64(), "U"
	case "drifting":
		s.drift += driftG
		g += s.drift
	}
	return fmt.Sprintf("%.2f g %s", math.Round(g/standInStep)*standInStep, flag)
}

// Put lays grams on it.
func (s *StandIn) Put(grams float64) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.grams, s.moved, s.drift = grams, 0, 0
}

// PutAbout lays something on it that was aimed at grams by hand: within about
// 2 %.
func (s *StandIn) PutAbout(grams float64) {
	s.mu.Lock()
	near := grams * (1 + 0.02*s.dice.NormFloat64())
	s.mu.Unlock()
	s.Put(math.Max(0.01, near))
}

// Behave changes how it is: one of Modes.
func (s *StandIn) Behave(mode string) {
	s.mu.Lock()
	s.mode, s.drift, s.moved = mode, 0, 0
	s.mu.Unlock()
	s.plug(mode != "unplugged")
}

// State is what lies on it and how it is.
func (s *StandIn) State() (grams float64, mode string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.grams, s.mode
}
