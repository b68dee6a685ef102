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
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Service is the use cases. Each is one transaction: it loads, asks the craft
// and saves. The plan follows beside it.
type Service struct {
	journal.Desk
	Demo string // address of the demo studio, "" for none

	// Budget is how long a search for a plan may last before the best so far is
	// taken; 0: planBudget.
	Budget time.Duration
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

// bench gathers what pieces are worked out from: the drawer with the moulds of
// these pieces, the pantry, and what finished steps took out of it.
func (s *Service) bench(tx journal.Tx, k *noun.Kitchen, now time.Time, pieces []noun.Piece, taken []noun.Step) (*work.Means, error) {
	b := &work.Means{Kitchen: k, Reader: read.Reader{k}, Now: now, Tools: map[int64]*noun.Tool{}, Taken: takenBy(taken), Kinds: kindsOf(pieces)}
	ts, err := tx.Tools()
	if err != nil {
		return nil, err
	}
	for i := range ts {
		b.Tools[ts[i].ID] = &ts[i]
	}
	var gone []int64 // moulds that were taken away and still made something
	for _, p := range pieces {
		if p.MouldID != nil && b.Tools[*p.MouldID] == nil && !slices.Contains(gone, *p.MouldID) {
			gone = append(gone, *p.MouldID)
		}
	}
	if len(gone) > 0 {
		old, err := tx.ToolsOf(gone)
		if err != nil {
			return nil, err
		}
		for i := range old {
			b.Tools[old[i].ID] = &old[i]
		}
	}
	if b.Lots, err = tx.Lots(); err != nil {
		return nil, err
	}
	var away []int64 // bottles that were chosen and are taken away
	for _, p := range pieces {
		for _, id := range p.GelLots {
			if !slices.ContainsFunc(b.Lots, func(l noun.Lot) bool { return l.ID == id }) {
				away = append(away, id)
			}
		}
	}
	if len(away) > 0 {
		b.Away, err = tx.LotsOf(away)
	}
	return b, err
}

// kindsOf counts the kinds of piece of each commission: the certainty of an
// order is shared among them.
func kindsOf(pieces []noun.Piece) map[int64]int {
	out := map[int64]int{}
	for _, p := range pieces {
		if p.DeletedAt == nil && p.Wanted > 0 {
			out[p.CommissionID]++
		}
	}
	return out
}

// benchOne gathers the bench for one commission.
func (s *Service) benchOne(tx journal.Tx, k *noun.Kitchen, now time.Time, id int64) (b *work.Means, c noun.Commission, ps []noun.Piece, err error) {
	if c, err = tx.Commission(id); err != nil {
		return nil, c, nil, err
	}
	if c.DeletedAt != nil {
		return nil, c, nil, journal.ErrNotFound
	}
	all, err := tx.Pieces(id)
	if err != nil {
		return nil, c, nil, err
	}
	ps = slices.DeleteFunc(all, func(p noun.Piece) bool { return p.DeletedAt != nil })
	taken, err := tx.TakenFor(id)
	if err != nil {
		return nil, c, nil, err
	}
	b, err = s.bench(tx, k, now, ps, taken)
	return b, c, ps, err
}

// benchOpen gathers the bench for all open commissions.
func (s *Service) benchOpen(tx journal.Tx, k *noun.Kitchen, now time.Time) (b *work.Means, cs []noun.Commission, ps []noun.Piece, err error) {
	if cs, err = tx.OpenCommissions(); err != nil {
		return nil, nil, nil, err
	}
	if ps, err = tx.OpenPieces(); err != nil {
		return nil, nil, nil, err
	}
	taken, err := tx.Taken()
	if err != nil {
		return nil, nil, nil, err
	}
	b, err = s.bench(tx, k, now, ps, taken)
	return b, cs, ps, err
}
