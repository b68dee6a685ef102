// Package studio is what a decorator does: commissions and their pieces, the
// pantry, the tool drawer, the kitchen, the line and the bench. It calls craft for
// every rule of the job, and remembers through Store.
package studio

import (
	"context"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/document"
	"dustyfern/studio/evening"
	"dustyfern/studio/journal"
	"dustyfern/studio/leaving"
	"dustyfern/studio/mending"
	"dustyfern/studio/notebook"
	"dustyfern/studio/noun"
	"dustyfern/studio/pantry"
	"dustyfern/studio/plan"
	"dustyfern/studio/shelf"
)

// Service is the use cases. Each is one transaction: it loads, asks the craft
// and saves. The plan follows beside it.
type Service struct {
	*plan.Planning
	evening.Evening
	pantry.Keeping
	document.Documents
	Shelf    shelf.Shelf
	Notebook notebook.Notebook
	Leaving  leaving.Leaving
	Mending  mending.Mending
	Demo     string // address of the demo studio, "" for none
}

// New is the use cases over a store, with a clock.
func New(store journal.Store, clock func() time.Time) *Service {
	p := &plan.Planning{Desk: journal.Desk{Store: store, Clock: clock}}
	return &Service{Planning: p, Evening: evening.Evening{Planning: p}, Keeping: pantry.Keeping{Planning: p}, Documents: document.Documents{Desk: &p.Desk},
		Shelf: shelf.Shelf{Planning: p}, Notebook: notebook.Notebook{Planning: p}, Leaving: leaving.Leaving{Planning: p}, Mending: mending.Mending{Planning: p}}
}

// Studios lists the studios by name.
func (s *Service) Studios(ctx context.Context) ([]document.StudioRow, error) {
	all, err := s.Store.Studios(ctx)
	out := []document.StudioRow{}
	for _, k := range all {
		out = append(out, document.StudioRow{Slug: k.Slug, Name: k.Name})
	}
	return out, err
}

// Reads is how somebody reads: as their browser says, where it is known here.
type Reads struct{ TimeZone, Language string }

// CreateStudio opens an empty studio under a free address, in the zone and the words of
// who opens it.
func (s *Service) CreateStudio(ctx context.Context, name string, as Reads) (document.StudioRow, error) {
	name = strings.TrimSpace(name)
	if name == "" || len([]rune(name)) > 80 {
		return document.StudioRow{}, fault.New(fault.Required, "name", "What is your studio called? Up to 80 characters.")
	}
	k := noun.NewKitchen(name)
	if _, err := time.LoadLocation(as.TimeZone); err == nil && as.TimeZone != "" && as.TimeZone != "Local" {
		k.TimeZone = as.TimeZone
	}
	if strings.EqualFold(as.Language, "en-US") {
		k.Words, k.Units = "us", "us"
	}
	k.Hours = []noun.Hours{} // they are asked, not guessed
	var err error
	if k.Slug, err = s.FreeSlug(ctx, k.Slug); err != nil {
		return document.StudioRow{}, err
	}
	if err := s.Store.CreateStudio(ctx, &k); err != nil {
		return document.StudioRow{}, err
	}
	return document.StudioRow{Slug: k.Slug, Name: k.Name}, nil
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
