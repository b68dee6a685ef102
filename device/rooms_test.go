package device

import (
	"fmt"
	"testing"
	"time"

	"dustyfern/device/protocol"
)

// What is heard within a minute is its mean; what cannot be is told and not summed; a jump
// is believed when it is said again; what was heard before a silence belongs to no minute.
func TestTheRoomSensorSumsUp(t *testing.T) {
	s := NewRoomSensor("tcp://127.0.0.1:1")
	now := time.Now()
	say := func(line string) {
		a, err := protocol.ParseAir(line)
		if err != nil {
			t.Fatal(err)
		}
		s.hear(a, now)
	}
	for _, l := range []string{"kitchen 21.0 C 50 %", "kitchen 22 C 52%", "kitchen 85 C 0 %", "Box 77 F 40 %", "kitchen 21.5 C 51 %"} {
		say(l)
	}
	got := s.Take()
	if len(got) != 2 || fmt.Sprintf("%.2f %.2f", got[1].TempC, got[1].RHPercent) != "21.50 51.00" || fmt.Sprintf("%.1f", got[0].TempC) != "25.0" {
		t.Errorf("%+v", got)
	}
	if again := s.Take(); len(again) != 0 {
		t.Errorf("taken twice: %+v", again)
	}
	say("kitchen 21.5 C 90 %") // a jump: perhaps a wet finger
	if h := s.Heard(); !h[1].Bad {
		t.Errorf("a jump is believed at once: %+v", h[1])
	}
	say("kitchen 21.5 C 90 %")
	if h := s.Heard(); h[1].Bad || h[1].RHPercent != 90 {
		t.Errorf("said again it is not believed: %+v", h[1])
	}
	s.places["kitchen"].gone = true
	if got := s.Take(); len(got) != 0 || s.Heard()[1].Live {
		t.Errorf("gone, and still heard: %+v", got)
	}
}

// The stand-in has a day's drift, a damp spell and faults; nothing is read of it while it is
// off.
func TestTheStandInOfRooms(t *testing.T) {
	at := time.Date(2026, 11, 25, 6, 0, 0, 0, time.UTC)
	r, err := NewRooms(1, time.Second, func() time.Time { return at })
	if err != nil {
		t.Fatal(err)
	}
	defer r.l.Close()
	kitchen := func(n int) (a protocol.Air) {
		for range 3 * n {
			if x, err := protocol.ParseAir(r.line()); err == nil && x.Place == "kitchen" {
				a = x
			}
		}
		return a
	}
	if a := kitchen(5); a.Place != "" {
		t.Errorf("off it says %+v", a)
	}
	r.Behave("usual day")
	morning := kitchen(5)
	at = at.Add(9 * time.Hour)
	if noon := kitchen(5); noon.TempC < morning.TempC+0.5 || noon.RHPercent > morning.RHPercent-2 {
		t.Errorf("in the morning %+v, in the afternoon %+v", morning, noon)
	}
	r.Behave("damp spell")
	if damp := kitchen(100); damp.RHPercent < 58 {
		t.Errorf("damp: %+v", damp)
	}
	if r.State() != "damp spell" {
		t.Error(r.State())
	}
}

// Ten lines a second for ten minutes are one reading a minute for who keeps them.
func TestTenLinesASecond(t *testing.T) {
	s := NewRoomSensor("tcp://127.0.0.1:1")
	kept := 0
	for minute := range 10 {
		for i := range 600 {
			s.hear(protocol.Air{Place: "kitchen", TempC: 21, RHPercent: 50 + float64((i+minute)%3)}, time.Now())
		}
		got := s.Take()
		kept += len(got)
		if len(got) != 1 || got[0].RHPercent < 50.9 || got[0].RHPercent > 51.1 {
			t.Fatalf("%+v", got)
		}
	}
	if kept != 10 {
		t.Errorf("6000 lines were kept as %d readings", kept)
	}
}
