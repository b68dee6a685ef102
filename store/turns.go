package store

import (
	"context"
	"sync"
)

// turns lets so many at once into each studio; the others wait in the order of
// coming (a channel serves its senders so), without a connection.
type turns struct {
	most int
	mu   sync.Mutex
	of   map[string]*door
}

type door struct {
	inside chan struct{}
	here   int // inside or waiting: a door that nobody is at is taken away
}

// enter waits for a turn; leave gives it back. An error is the context's.
func (t *turns) enter(ctx context.Context, key string) (leave func(), err error) {
	t.mu.Lock()
	if t.of == nil {
		t.of = map[string]*door{}
	}
	d := t.of[key]
	if d == nil {
		d = &door{inside: make(chan struct{}, t.most)}
		t.of[key] = d
	}
	d.here++
	t.mu.Unlock()
	gone := func() {
		t.mu.Lock()
		defer t.mu.Unlock()
		if d.here--; d.here == 0 {
			delete(t.of, key)
		}
	}
	select {
	case d.inside <- struct{}{}:
		return func() { <-d.inside; gone() }, nil
	case <-ctx.Done():
		gone()
		return nil, ctx.Err()
	}
}
