package device

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"sync"
	"time"
)

// Pan is a thermometer in a pan that is not there: it heats while the flame is on, goes on
// for a while when it is off, and its probe lags behind.
type Pan struct {
	*speaker
	mu    sync.Mutex
	flame float64 // what the bottom of the pan gives, 0..1: it follows the knob late
	pan   float64 // C
	probe float64 // C
	quick float64 // how much faster than a kitchen it goes
	dice  *rand.Rand
}

// PanModes of the stand-in.
var PanModes = []string{"off", "heating", "open probe", "unplugged"}

// How a pan of syrup behaves (assumed): C a minute at full flame below and above the boil of
// water, the room, and the lags of the bottom and of the probe in minutes.
const (
	warmsBelow, warmsAbove = 16.0, 6.0
	waterBoilsC            = 100.0
	roomC                  = 21.0
	losesOf                = 0.035 // of what it is over the room, a minute
	bottomLag, probeLag    = 0.7, 0.2
	probeNoiseC            = 0.05
)

// NewPan speaks on a free port of the loopback. The seed makes its noise the same each time;
// quick makes minutes pass so many times faster.
func NewPan(seed uint64, beat time.Duration, quick float64) (*Pan, error) {
	s, err := newSpeaker(beat)
	if err != nil {
		return nil, err
	}
	s.mode = "off"
	return &Pan{speaker: s, pan: roomC, probe: roomC, quick: quick, dice: rand.New(rand.NewPCG(seed, 4241))}, nil
}

// Run speaks until ctx ends.
func (p *Pan) Run(ctx context.Context) { p.run(ctx, p.line) }

// line goes on by a beat and reads the probe.
func (p *Pan) line() string {
	p.mu.Lock()
	defer p.mu.Unlock()
	p.pass(p.beat.Minutes() * p.quick)
	if p.State() == "open probe" {
		return "--"
	}
	return fmt.Sprintf("%.1f C", p.probe+probeNoiseC*p.dice.NormFloat64())
}

// pass lets minutes go by.
func (p *Pan) pass(minutes float64) {
	const step = 0.02
	for minutes > 0 {
		dt := math.Min(step, minutes)
		minutes -= dt
		knob := 0.0
		if p.State() == "heating" {
			knob = 1
		}
		p.flame += (knob - p.flame) * dt / bottomLag
		warms := warmsBelow
		if p.pan >= waterBoilsC {
			warms = warmsAbove
		}
		p.pan += (warms*p.flame - losesOf*(p.pan-roomC)*(1-p.flame)) * dt
		p.probe += (p.pan - p.probe) * dt / probeLag
	}
}
