package read

import (
	"dustyfern/studio/noun"
)

// shelf says where a lot stands.
func ShelfOf(l *noun.Lot) string {
	k, _ := KindOf(l.Kind)
	if k.Shelf == ShelfPaste && (l.Leftover || l.Swatch != nil) {
		return ShelfLeft
	}
	return k.Shelf
}
