package device

import (
	"context"
	"math"
	"sync"
	"time"

	"dustyfern/device/protocol"
	"dustyfern/studio/evening"
)

// rateOver is the stretch over which it is told how fast it warms.
const rateOver = 10 * time.Second

// Thermometer reads a source of lines and keeps the last, and some before.
type Thermometer struct {
	address string
	mu      sync.Mutex
	heard   []heat
	open    bool // the probe lies open
	at      time.Time
	why     string
}

type heat struct {
	c  float64
	at time.Time
}

// NewThermometer reads from tcp://host:port, or from a serial port by its name.
func NewThermometer(address string) *Thermometer {
	return &Thermometer{address: address, why: "the thermometer has not answered yet"}
}

// Run reads until ctx ends.
func (t *Thermometer) Run(ctx context.Context) {
	follow(ctx, t.address, func(line string, at time.Time) {
		if c, err := protocol.ParseHeat(line); err == nil {
			t.hear(c, at)
		}
	}, func() {
		t.mu.Lock()
		defer t.mu.Unlock()
		t.at, t.heard, t.why = time.Time{}, nil, "the thermometer does not answer"
	})
}

func (t *Thermometer) hear(c float64, at time.Time) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.at, t.open = at, math.IsNaN(c)
	if t.open {
		t.heard = nil
		return
	}
	t.heard = append(t.heard, heat{c, at})
	first := 0
	for first < len(t.heard)-1 && at.Sub(t.heard[first].at) > rateOver {
		first++
	}
	t.heard = t.heard[first:]
}

// Heat is what it says now.
func (t *Thermometer) Heat() evening.Heat {
	t.mu.Lock()
	defer t.mu.Unlock()
	switch {
	case t.at.IsZero() || time.Since(t.at) > silence:
		return evening.Heat{Why: t.why}
	case t.open || len(t.heard) == 0:
		return evening.Heat{Why: "its probe lies open: put it into the pan"}
	}
	last, first := t.heard[len(t.heard)-1], t.heard[0]
	out := evening.Heat{Plugged: true, C: last.c}
	if d := last.at.Sub(first.at); d > time.Second {
		out.PerMinute = (last.c - first.c) / d.Minutes()
	}
	return out
}
