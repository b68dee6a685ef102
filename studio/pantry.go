package studio

import (
	"context"
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

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
	RowView
	Caution  string        `json:"caution"`
	Strength *StrengthView `json:"strength,omitempty"`
	Gel      *GelView      `json:"gel,omitempty"`
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

// ages says when a lot is used first, and whether it is past its best.
func (b *benchOf) ages(l *noun.Lot) (say string, old bool) {
	today := time.Date(b.now.Year(), b.now.Month(), b.now.Day(), 0, 0, 0, 0, time.UTC)
	if l.BestBefore != nil {
		days := int(math.Round(l.BestBefore.Sub(today).Hours() / 24))
		switch {
		case days < 0:
			return fmt.Sprintf("past its best by %s", count(-days, "day")), true
		case days <= paste.BestWithinDays:
			return fmt.Sprintf("best within %s: use it first", count(days, "day")), true
		}
	}
	k, _ := read.KindOf(l.Kind)
	most := 0
	switch {
	case k.Shelf == read.ShelfDough && l.Kind != "marzipan":
		most = paste.DoughUseFirstDays
	case shelfOf(l) == read.ShelfLeft:
		most = paste.LeftoverUseFirstDays
	case k.Shelf == read.ShelfPaste:
		most = paste.PasteUseFirstDays
	}
	if most == 0 || l.OpenedOn == nil {
		return "", false
	}
	days := int(math.Round(today.Sub(*l.OpenedOn).Hours() / 24))
	switch {
	case days > most:
		return fmt.Sprintf("open for %s: use it first", count(days, "day")), true
	case k.Shelf == read.ShelfDough && days < 1:
		return "made today: firm enough tomorrow", false
	}
	return "open for " + count(days, "day"), false
}

func (b *benchOf) shelfLot(l *noun.Lot) ShelfLot {
	r := b.r
	v := ShelfLot{ID: l.ID, Name: l.Name, Says: []string{}, Kind: l.Kind, Mass: exactMass(r, l.MassG), Asks: lotAsks(l, r), Finish: l.Finishes()}
	k, _ := read.KindOf(l.Kind)
	if l.Swatch != nil {
		v.Swatch = *l.Swatch
	} else if s := shelfOf(l); s == read.ShelfPaste {
		v.Swatch = "#F7F2E6"
	}
	if shelfOf(l) != read.ShelfLeft { // a tub was never a pack
		v.Full = math.Min(1, l.MassG/packOf(l))
	}
	v.Says = append(v.Says, r.Say(k.Say))
	if l.Grade != nil {
		v.Says = append(v.Says, fmt.Sprintf("squeeze grade %d", *l.Grade))
	}
	if len(l.Allergens) > 0 {
		v.Says = append(v.Says, "holds "+read.List(l.Allergens))
	}
	if l.Kept != "" {
		v.Says = append(v.Says, l.Kept)
	}
	v.Ages, v.Old = b.ages(l)
	return v
}

func (b *benchOf) lotView(l *noun.Lot) LotView {
	x := b.shelfLot(l)
	k, _ := read.KindOf(l.Kind)
	return LotView{RowView: RowView{ID: l.ID, Version: l.Version, Name: l.Name, Fields: read.Views(lotFieldsOf(l), b.r, l, b.now), Says: x.Says, Swatch: x.Swatch},
		Caution: b.r.Say(k.Eaten), Strength: b.strengthView(l), Gel: b.gelView(l)}
}

// Lot shows one lot.
func (s *Service) Lot(ctx context.Context, slug string, id int64) (out LotView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		b, err := s.bench(tx, k, now, nil, nil)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(b.lots, func(l noun.Lot) bool { return l.ID == id })
		if i < 0 {
			return ErrNotFound
		}
		out = b.lotView(&b.lots[i])
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
func (s *Service) Pantry(ctx context.Context, slug string) (out PantryView, err error) {
	err = s.in(ctx, slug, func(tx Tx, k *noun.Kitchen, now time.Time) error {
		b, err := s.bench(tx, k, now, nil, nil)
		if err != nil {
			return err
		}
		out.Shelves = []Shelf{}
		for _, name := range read.Shelves {
			sh := Shelf{Name: b.r.Say(name), Lots: []ShelfLot{}}
			for i := range b.lots {
				if l := &b.lots[i]; shelfOf(l) == name {
					sh.Lots = append(sh.Lots, b.shelfLot(l))
					if l.OwesG > enough {
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
