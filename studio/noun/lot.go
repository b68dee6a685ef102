package noun

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/paste"
)

// What is kept of the squeezes of a lot, and how one is marked.
const (
	MostFelt    = 200
	FeltSqueeze = "squeezed"
)

// Finishes reports whether a lot can be laid over a colour: dusts, powders and
// gels by their swatch, glazes as they are.
func (l *Lot) Finishes() bool {
	switch l.Kind {
	case "glaze", "pipingGel":
		return true
	case "petalDust", "lustreDust", "metalPowder", "gel":
		return l.Swatch != nil
	}
	return false
}

// GelName is what a bottle is called in a recipe: two may have one name.
func (l *Lot) GelName() string { return fmt.Sprint(l.ID) }

// LotsKey is the address of a set of bottles; "" for none.
func LotsKey(ids []int64) string {
	var out []string
	for _, id := range ids {
		out = append(out, fmt.Sprint(id))
	}
	return strings.Join(out, "+")
}

// Ratio is how strong a bottle is against its swatch: the geometric mean of the
// latest mixes, and within which factor it is known.
func (l *Lot) Ratio() (mean, band float64, n int) {
	const latest, unknown, eye = 5, 0.25, 0.08 // eye: one look compared with another; assumed
	mixes := l.Mixes
	if len(mixes) > latest {
		mixes = mixes[len(mixes)-latest:]
	}
	n = len(mixes)
	if n == 0 {
		return 1, unknown, 0
	}
	sum, squares := 0.0, 0.0
	for _, m := range mixes {
		sum += math.Log(m.Ratio)
	}
	for _, m := range mixes {
		d := math.Log(m.Ratio) - sum/float64(n)
		squares += d * d
	}
	spread := unknown / 2
	if n > 1 {
		spread = math.Sqrt(squares / float64(n-1))
	}
	return math.Exp(sum / float64(n)), math.Max(eye, spread) / math.Sqrt(float64(n)), n
}

// Sugar tells whether a lot is a paste that sets by gum, not by fat.
func (l *Lot) Sugar() bool {
	k, ok := paste.KindOf(l.Kind)
	return ok && !k.FatSet
}

// Feel adds what was felt of a lot, the latest last, as far as anybody looks back.
func (l *Lot) Feel(f Felt) {
	l.Felt = append(slices.Clone(l.Felt), f)
	if n := len(l.Felt); n > MostFelt {
		l.Felt = l.Felt[n-MostFelt:]
	}
}

// Squeeze notes a grade with its date.
func (l *Lot) Squeeze(grade int, now time.Time) {
	l.Grade = &grade
	l.Feel(Felt{At: now.UTC().Truncate(time.Second), Feel: FeltSqueeze, Grade: grade})
}

// Some is a list that is never null in JSON.
func Some[T any](list []T) []T {
	if list == nil {
		return []T{}
	}
	return list
}

// SomeOf is a map that can be written to, whatever it was.
func SomeOf[M ~map[string]V, V any](m M) M {
	if m == nil {
		return M{}
	}
	return m
}

// Utc puts times into UTC, nil ones aside.
func Utc(ts ...**time.Time) {
	for _, t := range ts {
		if *t != nil {
			u := (*t).UTC()
			*t = &u
		}
	}
}

// LotDocument is a lot as a document holds it: without our numbers.
func LotDocument(l Lot) Lot {
	l.ID, l.Version = 0, 0
	Utc(&l.OpenedOn, &l.BestBefore)
	l.Felt, l.Mixes = slices.Clone(Some(l.Felt)), slices.Clone(Some(l.Mixes))
	for i := range l.Felt {
		l.Felt[i].At = l.Felt[i].At.UTC()
	}
	for i := range l.Mixes {
		l.Mixes[i].At = l.Mixes[i].At.UTC()
	}
	return l
}

// LotFresh is a lot of a document, ready to be made.
func LotFresh(l Lot) Lot {
	l.ID, l.Version, l.DeletedAt = 0, 1, nil
	l.Holds, l.May, l.Asks, l.Felt, l.Mixes = Some(l.Holds), Some(l.May), Some(l.Asks), Some(l.Felt), Some(l.Mixes)
	return l
}

// MostWeighings are kept of a mould, the latest.
const MostWeighings = 50

// MostAgain is how often a piece is pressed again before its paste or its mould
// is to blame.
const MostAgain = 20
