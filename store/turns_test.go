package store

import (
	"context"
	"errors"
	"runtime"
	"testing"
)

// TestFirstComeFirstServed: turns are given in the order of coming, who gives up
// does not hold the others, and an empty door is taken away.
func TestFirstComeFirstServed(t *testing.T) {
	t.Parallel()
	x := turns{most: 1}
	at := func(n int) { // waits until so many are inside or before the door
		for {
			x.mu.Lock()
			here := x.of["a"].here
			x.mu.Unlock()
			if here == n {
				return
			}
			runtime.Gosched()
		}
	}
	leave, err := x.enter(t.Context(), "a")
	if err != nil {
		t.Fatal(err)
	}
	tired, giveUp := context.WithCancel(t.Context())
	gone := make(chan error)
	go func() { _, err := x.enter(tired, "a"); gone <- err }()
	at(2)
	order := make(chan int, 20)
	for i := range 20 {
		go func() {
			leave, err := x.enter(t.Context(), "a")
			if err != nil {
				t.Error(err)
				return
			}
			order <- i
			leave()
		}()
		at(3 + i)
	}
	giveUp()
	if err := <-gone; !errors.Is(err, context.Canceled) {
		t.Error(err)
	}
	other, err := x.enter(t.Context(), "b") // another studio is not kept waiting
	if err != nil {
		t.Fatal(err)
	}
	other()
	leave()
	for i := range 20 {
		if got := <-order; got != i {
			t.Errorf("turn %d was given to %d", i, got)
		}
	}
	for left := 1; left > 0; runtime.Gosched() {
		x.mu.Lock()
		left = len(x.of)
		x.mu.Unlock()
	}
}
