package read

import (
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
)

// Shelves of the pantry, in their order.
const (
	ShelfPaste  = "Pastes"
	ShelfDough  = "Chocolate dough and marzipan"
	ShelfLeft   = "Leftovers and colours"
	shelfGel    = "Gels"
	ShelfDust   = "Dusts and metal paint"
	ShelfHelper = "Hardener, spirits and glue"
)

// lotKind is a kind of lot beside the pastes. Packs are what is usually bought
// at once (assumed).
type lotKind struct {
	code, Say, Shelf string
	PackG            float64
	density          string // of measure.Densities, for spoons and millilitres
	Eaten            string // what its label may say against eating or serving it
}

var otherKinds = []lotKind{
	{"gel", "colour gel", shelfGel, 25, "", ""},
	{"petalDust", "petal dust", ShelfDust, 5, "", "Eat it only when its label calls it edible; non-toxic is not edible."},
	{"lustreDust", "lustre dust", ShelfDust, 5, "", "Eat it only when its label calls it edible; non-toxic is not edible."},
	{"metalPowder", "metallic powder", ShelfDust, 5, "", "For pieces that are lifted off, unless its label calls it edible."},
	{"cmc", "hardener powder, CMC", ShelfHelper, 50, "cmc", ""},
	{"tragacanth", "hardener powder, gum tragacanth", ShelfHelper, 25, "tragacanth", ""},
	{"spirit", "clear spirit", ShelfHelper, 50, "clearSpirit", "Holds alcohol: keep it from flame, and from tables without alcohol."},
	{"extract", "citrus extract", ShelfHelper, 30, "clearSpirit", "Holds alcohol: keep it from flame, and from tables without alcohol."},
	{"glue", "edible glue", ShelfHelper, 20, "water", ""},
	{"glaze", "confectioner's glaze", ShelfHelper, 30, "clearSpirit", "Holds alcohol until it is dry, and by its label often shellac: keep it from flame, and from tables without alcohol."},
	{"pipingGel", "piping gel", ShelfHelper, 200, "glucoseSyrup", ""},
	{"whiteFat", "white fat", ShelfHelper, 250, "whiteFat", ""},
	{"cornflour", "cornflour", ShelfHelper, 500, "cornflour", ""},
	{"icingSugar", "icing sugar", ShelfHelper, 500, "icingSugar", ""},
}

// KindOf finds a kind of lot by its code.
func KindOf(code string) (lotKind, bool) {
	if k, ok := paste.KindOf(code); ok {
		shelf := ShelfPaste
		if k.FatSet {
			shelf = ShelfDough
		}
		return lotKind{code, k.Name, shelf, k.PackG, code, ""}, true
	}
	for _, k := range otherKinds {
		if k.code == code {
			return k, true
		}
	}
	return lotKind{}, false
}

func kindOptions() []Option {
	out := shelfOptions()
	for _, k := range otherKinds {
		out = append(out, Option{k.code, k.Say})
	}
	return out
}

var Shelves = []string{ShelfPaste, ShelfDough, ShelfLeft, shelfGel, ShelfDust, ShelfHelper}

// ShelfOf says where a lot stands.
func ShelfOf(l *noun.Lot) string {
	k, _ := KindOf(l.Kind)
	if k.Shelf == ShelfPaste && (l.Leftover || l.Swatch != nil) {
		return ShelfLeft
	}
	return k.Shelf
}
