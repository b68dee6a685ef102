// Package studio is what a decorator does: commissions and their pieces, the
// pantry, the tool drawer, the kitchen, the line and the bench. It calls craft for
// every rule of the job, and remembers through Store.
package studio

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
)

// Service is the use cases. Each is one transaction: it loads, asks the craft
// and saves. The plan follows beside it.
type Service struct {
	plan.Planning
	Demo string // address of the demo studio, "" for none
}

// New is the use cases over a store, with a clock.
func New(store journal.Store, clock func() time.Time) *Service {
	return &Service{Planning: plan.Planning{Desk: journal.Desk{Store: store, Clock: clock}}}
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
	for n := 2; slices.ContainsFunc(all, func(o noun.Kitchen) bool { return o.Slug == slug }); n++ {
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
	k := noun.NewKitchen(name)
	var err error
	if k.Slug, err = s.freeSlug(ctx, k.Slug); err != nil {
		return StudioRow{}, err
	}
	if err := s.Store.CreateStudio(ctx, &k); err != nil {
		return StudioRow{}, err
	}
	return StudioRow{k.Slug, k.Name}, nil
}

// DeleteStudio deletes a studio with everything in it. Its name is typed as a
// whole, so that no slip of a finger does it.
func (s *Service) DeleteStudio(ctx context.Context, slug, name string) error {
	err := s.In(ctx, slug, func(_ journal.Tx, k *noun.Kitchen, _ time.Time) error {
		if strings.TrimSpace(name) != k.Name {
			return fault.New(fault.Contradiction, "name", "Type its name as it stands: %s.", k.Name)
		}
		return nil
	})
	if err != nil {
		return err
	}
	return s.Store.Drop(ctx, slug)
}
