package device

import (
	"context"
	"math"
	"net"
	"testing"
	"time"

	"dustyfern/device/protocol"
)

// Three readings that agree make a weigh-in; one that moves begins anew.
func TestThreeStableReadingsSettle(t *testing.T) {
	s := NewScale("tcp://nowhere")
	now := time.Now()
	for i, c := range []struct {
		grams   float64
		stable  bool
		settled float64
	}{{4.20, true, 0}, {4.21, true, 0}, {4.22, true, 4.21}, {4.23, true, 4.22}, {9, true, 0}, {9, true, 0}, {9, false, 0}, {9, true, 0}, {9, true, 0}, {9.01, true, 9.0033333}} {
		s.hear(protocol.Line{Grams: c.grams, Stable: c.stable}, now)
		w := s.Weight()
		if (w.Settled == nil) != (c.settled == 0) || w.Settled != nil && math.Abs(*w.Settled-c.settled) > 1e-6 {
			t.Errorf("after reading %d: %v, want %v", i+1, w.Settled, c.settled)
		}
	}
	if err := s.Tare(); err != nil {
		t.Fatal(err)
	}
	if w := s.Weight(); *w.Grams != 0 {
		t.Errorf("tared, %v", *w.Grams)
	}
	s.hear(protocol.Line{Grams: 13.01, Stable: true}, now)
	if w := s.Weight(); math.Abs(*w.Grams-4) > 1e-9 {
		t.Errorf("%v", *w.Grams)
	}
	if err := s.Tare(); err == nil {
		t.Error("tared while it moves")
	}
	s.hear(protocol.Line{Grams: 13.01, Stable: true}, now.Add(-time.Minute))
	if w := s.Weight(); w.Plugged {
		t.Error("a minute without a line, and it is plugged in")
	}
}

// until waits for a condition of the scale.
func until(t *testing.T, s *Scale, say string, ok func() bool) {
	t.Helper()
	tick := time.NewTicker(5 * time.Millisecond)
	defer tick.Stop()
	late := time.After(10 * time.Second)
	for !ok() {
		select {
		case <-tick.C:
		case <-late:
			t.Fatalf("never: %s; it says %+v", say, s.Weight())
		}
	}
}

func pair(t *testing.T) (*StandIn, *Scale) {
	t.Helper()
	in, err := NewStandIn(1, 5*time.Millisecond)
	if err != nil {
		t.Fatal(err)
	}
	s := NewScale(in.Address())
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan struct{}, 2)
	go func() { in.Run(ctx); done <- struct{}{} }()
	go func() { s.Run(ctx); done <- struct{}{} }()
	t.Cleanup(func() { cancel(); <-done; <-done })
	return in, s
}

func TestTheStandInIsWeighed(t *testing.T) {
	in, s := pair(t)
	in.Put(4.2)
	settled := func(g float64) func() bool {
		return func() bool { w := s.Weight(); return w.Settled != nil && math.Abs(*w.Settled-g) < 0.02 }
	}
	until(t, s, "4.2 g", settled(4.2))
	if err := s.Tare(); err != nil {
		t.Fatal(err)
	}
	in.Put(10)
	until(t, s, "10 g less the bowl of 4.2", settled(5.8))
	in.Behave("noisy")
	until(t, s, "it moves", func() bool { w := s.Weight(); return w.Plugged && !w.Stable && w.Settled == nil })
	in.Behave("drifting")
	until(t, s, "it drifts away", func() bool { w := s.Weight(); return w.Grams != nil && *w.Grams > 6.5 })
	in.Behave("unplugged")
	until(t, s, "unplugged", func() bool { w := s.Weight(); return !w.Plugged && w.Why != "" })
	in.Behave("steady")
	in.Put(4.2)
	until(t, s, "plugged in again", settled(0))
	for range 40 { // what is aimed at by hand lies near it
		in.PutAbout(5)
		if g, _ := in.State(); math.Abs(g-5) > 0.5 {
			t.Errorf("aimed at 5 g, %v", g)
		}
	}
}

func TestASourceThatTalksNonsense(t *testing.T) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	defer l.Close()
	go func() {
		for {
			c, err := l.Accept()
			if err != nil {
				return
			}
			defer c.Close() // when the test ends
			_, _ = c.Write([]byte("hello\n\x00\xff\n7.50 g S\n" + string(make([]byte, 200)) + "\n"))
		}
	}()
	s := NewScale("tcp://" + l.Addr().String())
	ctx, cancel := context.WithCancel(context.Background())
	done := make(chan struct{})
	go func() { s.Run(ctx); close(done) }()
	defer func() { cancel(); <-done }()
	until(t, s, "7.5 g among the nonsense", func() bool { w := s.Weight(); return w.Grams != nil && *w.Grams == 7.5 })
	if w := s.Weight(); !w.Plugged {
		t.Errorf("%+v", w)
	}
	gone := NewScale("/dev/no-such-port")
	go gone.Run(ctx)
	until(t, gone, "a port that is not there is said", func() bool { return gone.Weight().Why == "the scale at /dev/no-such-port does not answer" })
}
