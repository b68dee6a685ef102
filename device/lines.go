package device

import (
	"bufio"
	"context"
	"fmt"
	"io"
	"net"
	"strings"
	"sync"
	"time"

	"go.bug.st/serial"
)

// silence is how long a device may say nothing: after that it is as good as unplugged.
const silence = 3 * time.Second

// open reads from tcp://host:port, or from a serial port by its name.
func open(ctx context.Context, address string) (io.ReadCloser, error) {
	if host, ok := strings.CutPrefix(address, "tcp://"); ok {
		return (&net.Dialer{Timeout: 2 * time.Second}).DialContext(ctx, "tcp", host)
	}
	p, err := serial.Open(address, &serial.Mode{BaudRate: 9600})
	if err != nil {
		return nil, err
	}
	return p, nil
}

// follow hears the lines of a device until ctx ends; one that is gone is tried again, and
// lost is told.
func follow(ctx context.Context, address string, hear func(line string, at time.Time), lost func()) {
	for ctx.Err() == nil {
		read(ctx, address, hear)
		lost()
		select {
		case <-ctx.Done():
		case <-time.After(500 * time.Millisecond):
		}
	}
}

func read(ctx context.Context, address string, hear func(line string, at time.Time)) {
	in, err := open(ctx, address)
	if err != nil {
		return
	}
	stop := context.AfterFunc(ctx, func() { in.Close() })
	defer stop()
	defer in.Close()
	lines := bufio.NewScanner(in)
	lines.Buffer(make([]byte, 256), 4096)
	for lines.Scan() {
		hear(lines.Text(), time.Now())
	}
}

// speaker is the mouth of a stand-in: the same line to everybody who listens, each beat.
type speaker struct {
	l     net.Listener
	beat  time.Duration
	mu    sync.Mutex
	mode  string // how it is
	cut   bool   // as good as unplugged
	heard []net.Conn
}

// Behave changes how it is; "unplugged" takes it out.
func (s *speaker) Behave(mode string) {
	s.mu.Lock()
	s.mode = mode
	s.mu.Unlock()
	s.plug(mode != "unplugged")
}

// State is how it is.
func (s *speaker) State() string {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.mode
}

// newSpeaker listens on a free port of the loopback.
func newSpeaker(beat time.Duration) (*speaker, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	return &speaker{l: l, beat: beat}, nil
}

// Address is where it speaks.
func (s *speaker) Address() string { return "tcp://" + s.l.Addr().String() }

// run speaks what line gives until ctx ends.
func (s *speaker) run(ctx context.Context, line func() string) {
	go func() {
		for {
			c, err := s.l.Accept()
			if err != nil {
				return
			}
			s.mu.Lock()
			if s.cut {
				c.Close()
			} else {
				s.heard = append(s.heard, c)
			}
			s.mu.Unlock()
		}
	}()
	beat := time.NewTicker(s.beat)
	defer beat.Stop()
	for {
		select {
		case <-ctx.Done():
			s.l.Close()
			s.hangUp()
			return
		case <-beat.C:
			s.say(line())
		}
	}
}

// plug puts it in, or takes it out.
func (s *speaker) plug(in bool) {
	s.mu.Lock()
	s.cut = !in
	s.mu.Unlock()
	if !in {
		s.hangUp()
	}
}

func (s *speaker) hangUp() {
	s.mu.Lock()
	defer s.mu.Unlock()
	for _, c := range s.heard {
		c.Close()
	}
	s.heard = nil
}

func (s *speaker) say(line string) {
	s.mu.Lock()
	defer s.mu.Unlock()
	kept := s.heard[:0]
	for _, c := range s.heard {
		_ = c.SetWriteDeadline(time.Now().Add(s.beat))
		if _, err := fmt.Fprintln(c, line); err != nil {
			c.Close()
			continue
		}
		kept = append(kept, c)
	}
	s.heard = kept
}
