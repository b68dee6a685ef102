package device

import (
	"context"
	"math"
	"testing"
	"time"
)

// A pan goes on after the flame is off, the probe lags behind it, and it cools.
func TestThePanOvershootsAndLags(t *testing.T) {
	p, err := NewPan(1, time.Second, 60)
	if err != nil {
		t.Fatal(err)
	}
	defer p.l.Close()
	p.Behave("heating")
	for p.probe < 149 {
		p.pass(0.1)
		if p.probe > p.pan+1e-9 {
			t.Fatalf("the probe says %.1f of a pan of %.1f", p.probe, p.pan)
		}
	}
	off := p.probe
	p.Behave("off")
	most := off
	for range 30 {
		p.pass(0.1)
		most = math.Max(most, p.probe)
	}
	if most < off+2 || most > off+12 {
		t.Errorf("off at %.1f C, it went on to %.1f", off, most)
	}
	before := p.probe
	p.pass(20)
	if p.probe >= before || p.probe < roomC {
		t.Errorf("it cooled from %.1f to %.1f", before, p.probe)
	}
}

// What the stand-in says is heard; an open probe and a pulled plug are told apart.
func TestTheThermometerHears(t *testing.T) {
	ctx, stop := context.WithCancel(t.Context())
	defer stop()
	pan, err := NewPan(1, 5*time.Millisecond, 600)
	if err != nil {
		t.Fatal(err)
	}
	go pan.Run(ctx)
	th := NewThermometer(pan.Address())
	go th.Run(ctx)
	wait := func(say string, ok func() bool) {
		t.Helper()
		tick := time.NewTicker(5 * time.Millisecond)
		defer tick.Stop()
		late := time.After(20 * time.Second)
		for !ok() {
			select {
			case <-tick.C:
			case <-late:
				t.Fatalf("never: %s; %+v", say, th.Heat())
			}
		}
	}
	wait("it is plugged in", func() bool { return th.Heat().Plugged })
	pan.Behave("heating")
	wait("it warms", func() bool { h := th.Heat(); return h.C > 60 })
	pan.Behave("open probe")
	wait("the probe lies open", func() bool { h := th.Heat(); return !h.Plugged && h.Why != "" && h.Why[:3] == "its" })
	pan.Behave("unplugged")
	wait("the plug is out", func() bool { return th.Heat().Why == "the thermometer does not answer" })
	pan.Behave("off")
	wait("it is back", func() bool { return th.Heat().Plugged })
}
