// Package pantry is lots and tools as they are kept: stock, what is needed and
// bought, what pastes may be put together, lists out and in.
package pantry

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/studio/journal"
	"dustyfern/studio/noun"
	"dustyfern/studio/plan"
	"dustyfern/studio/read"
	"dustyfern/studio/work"
)

// Keeping is the pantry and the drawer: lots, stock, what is needed and bought.
type Keeping struct{ *plan.Planning }

// PantryView is what there is, shelf by shelf.
type PantryView struct {
	Shelves []Shelf `json:"shelves"`
	Asks    int     `json:"asks" doc:"lots of which less was written down than was taken"`
}

// Shelf is the lots of one sort.
type Shelf struct {
	Name string     `json:"name"`
	Lots []ShelfLot `json:"lots"`
}

// ShelfLot is a lot as it stands on its shelf.
type ShelfLot struct {
	ID     int64    `json:"id"`
	Name   string   `json:"name"`
	Kind   string   `json:"kind"`
	Says   []string `json:"says"`
	Swatch string   `json:"swatch"`
	Mass   string   `json:"mass"`
	Full   float64  `json:"full" doc:"0 to 1: what is left of a pack; 0 also for leftovers"`
	Ages   string   `json:"ages" doc:"what is said about its age, when it matters"`
	Old    bool     `json:"old"`
	Asks   string   `json:"asks" doc:"a question about how much there is"`
	Finish bool     `json:"finish" doc:"it can be laid over a colour"`
}

// LotView is a lot taken into the hand: its form, and what is known of it.
type LotView struct {
	work.RowView
	Caution  string        `json:"caution"`
	Strength *StrengthView `json:"strength,omitempty"`
	Gel      *work.GelView `json:"gel,omitempty"`
}

// lotFieldsOf are the fields that a lot of this kind has.
func lotFieldsOf(l *noun.Lot) []*read.Field[noun.Lot] {
	return slices.DeleteFunc(slices.Clone(read.LotFields), func(f *read.Field[noun.Lot]) bool {
		switch f.Name {
		case "grade", "strengthPercent":
			return !l.Sugar()
		case "deepening", "halfTimeHours", "dropG":
			return l.Kind != "gel"
		case "leftover":
			return !l.Sugar()
		case "swatch":
			k, _ := read.KindOf(l.Kind)
			return k.Shelf == read.ShelfHelper
		}
		return false
	})
}

func shelfLot(b *work.Means, l *noun.Lot) ShelfLot {
	r := b.Reader
	v := ShelfLot{ID: l.ID, Name: l.Name, Says: []string{}, Kind: l.Kind, Mass: r.Mass(l.MassG), Asks: lotAsks(l, r), Finish: l.Finishes()}
	k, _ := read.KindOf(l.Kind)
	if l.Swatch != nil {
		v.Swatch = *l.Swatch
	} else if s := read.ShelfOf(l); s == read.ShelfPaste {
		v.Swatch = "#F7F2E6"
	}
	if read.ShelfOf(l) != read.ShelfLeft { // a tub was never a pack
		v.Full = math.Min(1, l.MassG/packOf(l))
	}
	v.Says = append(v.Says, r.Say(k.Say))
	if l.Grade != nil {
		v.Says = append(v.Says, fmt.Sprintf("squeeze grade %d", *l.Grade))
	}
	v.Says = append(v.Says, read.LabelSays(l)...)
	if l.Kept != "" {
		v.Says = append(v.Says, l.Kept)
	}
	v.Ages, v.Old = b.Ages(l)
	return v
}

func lotView(b *work.Means, l *noun.Lot) LotView {
	x := shelfLot(b, l)
	k, _ := read.KindOf(l.Kind)
	return LotView{RowView: work.RowView{ID: l.ID, Version: l.Version, Name: l.Name, Fields: read.Views(lotFieldsOf(l), b.Reader, l, b.Now), Says: x.Says, Swatch: x.Swatch},
		Caution: b.Reader.Say(k.Eaten), Strength: strengthView(b, l), Gel: b.GelView(l)}
}

// Lot shows one lot.
func (s *Keeping) Lot(ctx context.Context, slug string, id int64) (out LotView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		b, err := plan.Gather(tx, k, now, nil, nil)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(b.Lots, func(l noun.Lot) bool { return l.ID == id })
		if i < 0 {
			return journal.ErrNotFound
		}
		out = lotView(b, &b.Lots[i])
		return nil
	})
	return out, err
}

func packOf(l *noun.Lot) float64 {
	if l.PackG != nil {
		return *l.PackG
	}
	k, _ := read.KindOf(l.Kind)
	return math.Max(1, k.PackG)
}

// Pantry lists what there is.
func (s *Keeping) Pantry(ctx context.Context, slug string) (out PantryView, err error) {
	err = s.In(ctx, slug, func(tx journal.Tx, k *noun.Kitchen, now time.Time) error {
		b, err := plan.Gather(tx, k, now, nil, nil)
		if err != nil {
			return err
		}
		out.Shelves = []Shelf{}
		for _, name := range read.Shelves {
			sh := Shelf{Name: b.Reader.Say(name), Lots: []ShelfLot{}}
			for i := range b.Lots {
				if l := &b.Lots[i]; read.ShelfOf(l) == name {
					sh.Lots = append(sh.Lots, shelfLot(b, l))
					if l.OwesG > work.Enough {
						out.Asks++
					}
				}
			}
			out.Shelves = append(out.Shelves, sh)
		}
		return nil
	})
	return out, err
}
