// Package device speaks to what stands on the bench: a scale, a thermometer. Each
// device is a source of lines, over TCP or a serial port, and has a stand-in
// that ships with the program.
package device

import (
	"context"
	"errors"
	"fmt"
	"math"
	"sync"
	"time"

	"dustyfern/device/protocol"
	"dustyfern/studio/evening"
)

// settledBy is how many readings in a row must agree, within agree grams or
// half a per cent, to make a weigh-in.
const (
	settledBy = 3
	agreeG    = 0.05
	agreeOf   = 0.005
)

// Scale reads a source of lines and keeps the last; a source that is gone is
// tried again.
type Scale struct {
	address string
	mu      sync.Mutex
	last    protocol.Line
	at      time.Time
	run     []float64 // the stable readings in a row that agree
	tare    float64
	why     string // why there is none
}

// NewScale reads from tcp://host:port, or from a serial port by its name.
func NewScale(address string) *Scale { return &Scale{address: address, why: "it has not answered yet"} }

// Run reads until ctx ends.
func (s *Scale) Run(ctx context.Context) {
	follow(ctx, s.address, func(line string, at time.Time) {
		if l, err := protocol.ParseLine(line); err == nil {
			s.hear(l, at)
		}
	}, func() {
		s.mu.Lock()
		defer s.mu.Unlock()
		s.at, s.run = time.Time{}, nil
		s.why = fmt.Sprintf("the scale at %s does not answer", s.address)
	})
}

// hear takes one reading.
func (s *Scale) hear(l protocol.Line, at time.Time) {
	s.mu.Lock()
	defer s.mu.Unlock()
	s.last, s.at = l, at
	if !l.Stable {
		s.run = nil
		return
	}
	if n := len(s.run); n > 0 && math.Abs(l.Grams-s.run[n-1]) > math.Max(agreeG, agreeOf*math.Abs(l.Grams)) {
		s.run = nil
	}
	s.run = append(s.run, l.Grams)
	if len(s.run) > settledBy {
		s.run = s.run[1:]
	}
}

// Weight is what the scale says now, tared.
func (s *Scale) Weight() evening.Weight {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.at.IsZero() || time.Since(s.at) > silence {
		return evening.Weight{Why: s.why}
	}
	w := evening.Weight{Plugged: true, Stable: s.last.Stable}
	if !math.IsNaN(s.last.Grams) {
		w.Grams = new(s.last.Grams - s.tare)
	}
	if len(s.run) == settledBy {
		sum := 0.0
		for _, g := range s.run {
			sum += g
		}
		w.Settled = new(sum/settledBy - s.tare)
	}
	return w
}

// Tare makes what lies on it now count as nothing. It wants a reading that has
// settled.
func (s *Scale) Tare() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if len(s.run) < settledBy {
		return errors.New("wait until it lies still")
	}
	s.tare = s.run[len(s.run)-1]
	return nil
}
