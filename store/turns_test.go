package store

import (
	"context"
	"errors"
	"testing"
	"testing/synctest"
)

// TestFirstComeFirstServed: turns are given in the order of coming, who gives up
// does not hold the others, and an empty door is taken away.
func TestFirstComeFirstServed(t *testing.T) {
	synctest.Test(t, func(t *testing.T) {
		x := turns{most: 1}
		leave, err := x.enter(t.Context(), "a")
		if err != nil {
			t.Fatal(err)
		}
		tired, giveUp := context.WithCancel(t.Context())
		gone := make(chan error)
		go func() { _, err := x.enter(tired, "a"); gone <- err }()
		synctest.Wait() // it stands before the door
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
			synctest.Wait()
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
		synctest.Wait()
		if left := len(x.of); left != 0 {
			t.Errorf("%d doors are left", left)
		}
	})
}
