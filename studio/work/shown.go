package work

import (
	"math"

	"dustyfern/craft/technique"
	"dustyfern/studio/read"
)

// Shown is a number of a step as hands read it.
func (b *Means) Shown(x technique.Shown) string {
	switch x.Unit {
	case "mm":
		return b.Reader.Length(x.Value)
	case "g":
		return b.Reader.Paste(x.Value)
	case "ml":
		return read.Trimmed(x.Value, 0) + " ml"
	case "C":
		return b.Reader.Temp(math.Round(x.Value))
	case "s":
		return read.Trimmed(math.Round(x.Value), 0) + " s"
	}
	return read.Trimmed(x.Value, 1)
}
