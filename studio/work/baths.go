package work

import (
	"fmt"
	"math"
	"time"

	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Apart says a difference in words.
func Apart(de float64) string {
	switch {
	case de < 1:
		return "no eye tells them apart"
	case de < 2:
		return "seen only side by side"
	case de < 4:
		return "a near match"
	case de < 8:
		return "seen at once"
	}
	return "another colour"
}

// bandOf a recipe: how far the paste may be from what is predicted, CIEDE2000.
// It narrows with the mixes that its bottles were calibrated with (assumed).
func bandOf(parts []gelPart) float64 {
	const first, least = 3.0, 1.0
	band := 0.0
	for _, p := range parts {
		_, _, n := p.Lot.Ratio()
		band = math.Max(band, math.Max(least, first/math.Sqrt(1+float64(n))))
	}
	return band
}

// Ages says when a lot is used first, and whether it is past its best.
func (b *Means) Ages(l *noun.Lot) (say string, old bool) {
	if l.Grade != nil && *l.Grade == 5 && l.Leftover {
		return "cracks: for the bin", false
	}
	today := time.Date(b.Now.Year(), b.Now.Month(), b.Now.Day(), 0, 0, 0, 0, time.UTC)
	if l.BestBefore != nil {
		days := int(math.Round(l.BestBefore.Sub(today).Hours() / 24))
		switch {
		case days < 0:
			return fmt.Sprintf("past its best by %s", read.Count(-days, "day")), true
		case days <= paste.BestWithinDays:
			return fmt.Sprintf("best within %s: use it first", read.Count(days, "day")), true
		}
	}
	k, _ := read.KindOf(l.Kind)
	most := 0
	switch {
	case k.Shelf == read.ShelfDough && l.Kind != "marzipan":
		most = paste.DoughUseFirstDays
	case read.ShelfOf(l) == read.ShelfLeft:
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
		return fmt.Sprintf("open for %s: use it first", read.Count(days, "day")), true
	case k.Shelf == read.ShelfDough && days < 1:
		return "made today: firm enough tomorrow", false
	}
	return "open for " + read.Count(days, "day"), false
}
