package studio

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
)

// Service is the use cases. Each is one transaction: it loads, asks the craft,
// saves, and makes the plan anew when something it rests on has changed.
type Service struct {
	Store Store
	Clock func() time.Time
	Demo  string // address of the demo studio, "" for none
}

// Conflict is a change that met another one on the same field: both states.
type Conflict struct {
	Fields  []string          // that both have changed
	Yours   map[string]string // as sent
	Theirs  map[string]string // as they stand now
	Version int64
}

func (c *Conflict) Error() string { return "changed meanwhile: " + strings.Join(c.Fields, ", ") }

// ChangeIn is what a window asks to change of a row: texts by field, and the
// version it was made from.
type ChangeIn struct {
	Version int64             `json:"version" doc:"version of the row that the change was made from"`
	Set     map[string]string `json:"set" doc:"texts by field, as typed"`
}

// in is a use case that only reads.
func (s *Service) in(ctx context.Context, slug string, f func(tx Tx, k *Kitchen, now time.Time) error) error {
	return s.Store.In(ctx, slug, func(tx Tx) error {
		k := tx.Kitchen()
		return f(tx, k, s.Clock().In(k.zone()))
	})
}

// fresh is a use case that reads what follows from the plan: when a planned
// start has passed unmarked, or a wait has begun by itself, the plan is made
// anew first, alone. Every change makes its own plan, so nothing else is due.
func (s *Service) fresh(ctx context.Context, slug string, f func(tx Tx, k *Kitchen, now time.Time) error) error {
	due := false
	err := s.in(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		steps, err := tx.Steps(0)
		if err != nil {
			return err
		}
		if due = tx.Plan() == nil || passed(steps, now) || waitDue(steps, now); due {
			return nil
		}
		return f(tx, k, now)
	})
	if err != nil || !due {
		return err
	}
	return s.alone(ctx, slug, func(tx Tx, k *Kitchen, now time.Time) error {
		if err := s.replan(tx, k, now, "a planned start has passed"); err != nil {
			return err
		}
		return f(tx, k, now)
	})
}

// alone is a use case that changes something or may make the plan anew: one at
// a time in each studio, so that two windows never make two plans at once.
func (s *Service) alone(ctx context.Context, slug string, f func(tx Tx, k *Kitchen, now time.Time) error) error {
	return s.Store.In(ctx, slug, func(tx Tx) error {
		if err := tx.Lock(); err != nil {
			return err
		}
		k := tx.Kitchen()
		return f(tx, k, s.Clock().In(k.zone()))
	})
}

// Studios lists the studios by name.
func (s *Service) Studios(ctx context.Context) ([]StudioRow, error) {
	all, err := s.Store.Studios(ctx)
	out := []StudioRow{}
	for _, k := range all {
		out = append(out, StudioRow{k.Slug, k.Name})
	}
	return out, err
}

// StudioRow is a studio in the list.
type StudioRow struct {
	Slug string `json:"slug"`
	Name string `json:"name"`
}

// freeSlug is an address that no studio has yet.
func (s *Service) freeSlug(ctx context.Context, base string) (string, error) {
	all, err := s.Store.Studios(ctx)
	slug := base
	for n := 2; slices.ContainsFunc(all, func(o Kitchen) bool { return o.Slug == slug }); n++ {
		slug = fmt.Sprintf("%s-%d", base, n)
	}
	return slug, err
}

// CreateStudio opens an empty studio under a free address.
func (s *Service) CreateStudio(ctx context.Context, name string) (StudioRow, error) {
	name = strings.TrimSpace(name)
	if name == "" || len([]rune(name)) > 80 {
		return StudioRow{}, fault.New(fault.Required, "name", "What is your studio called? Up to 80 characters.")
	}
	k := NewKitchen(name)
	var err error
	if k.Slug, err = s.freeSlug(ctx, k.Slug); err != nil {
		return StudioRow{}, err
	}
	if err := s.Store.CreateStudio(ctx, &k); err != nil {
		return StudioRow{}, err
	}
	return StudioRow{k.Slug, k.Name}, nil
}

// bench gathers what pieces are worked out from.
func (s *Service) bench(tx Tx, k *Kitchen, now time.Time) (*benchOf, error) {
	b := &benchOf{k: k, r: reader{k}, now: now, tools: map[int64]*Tool{}}
	ts, err := tx.Tools()
	if err != nil {
		return nil, err
	}
	for i := range ts {
		b.tools[ts[i].ID] = &ts[i]
	}
	ls, err := tx.Lots()
	for _, l := range ls {
		if l.DeletedAt == nil {
			b.lots = append(b.lots, l)
		}
	}
	if err != nil {
		return nil, err
	}
	steps, err := tx.Steps(0)
	b.taken = takenBy(steps)
	return b, err
}

// Row use cases of the drawer, the pantry and the kitchen.
