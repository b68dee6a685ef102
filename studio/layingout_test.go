package studio_test

import (
	"fmt"
	"strings"
	"testing"
	"time"
)

// TestWhatIsFetchedIsSummed: of two pieces of one paste the whole is said, and its parts.
func TestWhatIsFetchedIsSummed(t *testing.T) {
	t.Parallel()
	h, m, o := stocked(t)
	h.piece(o, m, set{"name": "Leaves", "wanted": "20", "eaten": "mouthful"})
	h.piece(o, m, set{"name": "Buds", "wanted": "10", "eaten": "mouthful"})
	var said string
	h.now = h.steps("knead")[0].Start
	for _, x := range h.bench().LayOut {
		if strings.Contains(x, " of White: ") {
			said = x
		}
	}
	var all, one, other float64
	var of, and string
	if n, err := fmt.Sscanf(said, "%f g of White: %f g for %s and %f g for %s", &all, &one, &of, &other, &and); n != 5 || err != nil || of == and || all == 0 || all > one+other || all < one+other-1 {
		t.Errorf("%q in %q", said, h.bench().LayOut)
	}
}

func TestWhatToLayOutAndHowTheEveningEnds(t *testing.T) {
	t.Parallel()
	h, _, _ := chilledEvening(t, nil)
	b := h.bench()
	for _, want := range []string{"of White, for Fronds", "Frond, 2 copies", "room in the freezer for 2", "to dry Fronds: a place on foam"} {
		if !has(b.LayOut, want) {
			t.Errorf("%q is not among %q", want, b.LayOut)
		}
	}
	if len(b.Ending) != 0 {
		t.Error("it has not begun")
	}
	h.after(6 * time.Minute)
	if b = h.hands(); len(b.LayOut) != 0 {
		t.Errorf("begun, it is laid out: %q; done in %q, next in %q", b.LayOut, b.Done[len(b.Done)-1].Planned.Window, b.Evening[0].Planned.Window)
	}
	for b.Now != nil && b.Now.Kind == "press" {
		if b.Move.Do == "wait" {
			h.now = time.UnixMilli(b.Move.AtMS)
			b = h.bench()
			continue
		}
		b = h.after(time.Minute).hands()
	}
	var said []string
	for _, p := range b.Ending {
		said = append(said, p.Head+": "+p.Sum)
		said = append(said, p.Lines...)
	}
	for _, want := range []string{"dry Fronds, until about ", "Label: 1 paste: each leftover with its colour, allergens and the date", "Cover: nothing is left soft", "pieces dry, in 1 wait"} {
		if !has(said, want) {
			t.Errorf("%q is not among %q", want, said)
		}
	}
}

// Summer time, a wrong battery: the clock is set back an hour in the middle.
func TestTheClockIsSetBack(t *testing.T) {
	t.Parallel()
	h, o, p := chilledEvening(t, nil)
	h.after(6 * time.Minute).hands()
	h.after(2 * time.Minute).hands()
	h.after(2 * time.Minute).hands()
	h.now = h.now.Add(-time.Hour)
	b := h.bench()
	for range 60 {
		if b.Now == nil || b.Now.Kind != "press" {
			break
		}
		do := b.Move.Do
		if do == "wait" { // it is cold: hands know better than the clock
			do = "open"
		}
		var err error
		b, err = h.Hands(t.Context(), h.slug, b.Now.Op, b.Now.Version, do, true)
		h.ok(err)
		h.after(time.Minute)
	}
	press := h.steps("press")[0]
	if press.ActualEnd == nil || press.ActualEnd.Before(*press.ActualStart) || *press.Made != int(h.view(o, p).Make.Balls.Value) {
		t.Errorf("%v to %v, %v made", press.ActualStart, press.ActualEnd, press.Made)
	}
	for _, f := range press.Fills {
		if f.Out.Before(f.At) {
			t.Errorf("fill %d came out before it went in", f.N)
		}
	}
	for _, kind := range []string{"putOn", "pack"} {
		h.now = h.now.Add(-30 * time.Minute)
		h.finish(kind)
	}
	for range 30 {
		if _, err := h.back(); err != nil {
			t.Fatal(err)
		}
	}
	if b := h.due(); b.Now.Kind != "knead" {
		t.Errorf("taken back to the beginning, %s is to do", b.Now.Title)
	}
}
