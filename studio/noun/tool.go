package noun

import (
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/technique"
)

// Weighing is a piece that was weighed.
type Weighing struct {
	At    time.Time `json:"at"`
	Grams float64   `json:"grams"`
}

// Weighed is the mean and the spread (standard deviation) of the weighings of a
// mould.
func (t *Tool) Weighed() (mean, spread float64) {
	n := float64(len(t.Weighings))
	for _, w := range t.Weighings {
		mean += w.Grams / n
	}
	for _, w := range t.Weighings {
		spread += (w.Grams - mean) * (w.Grams - mean)
	}
	if n > 1 {
		spread = math.Sqrt(spread / (n - 1))
	}
	return mean, spread
}

// Kind of a tool; nil for one that this program does not know.
func (t *Tool) kind() *technique.ToolKind { return technique.Ours.Kind(t.Kind) }

// Of is a measure of the tool; one that was not said is as usual for its kind, one
// that its kind has not is 0.
func (t *Tool) Of(measure string) float64 {
	if x, said := t.Measures[measure]; said {
		return x
	}
	if k := t.kind(); k != nil {
		for _, m := range k.Measures {
			if m.Name == measure {
				return m.Default
			}
		}
	}
	return 0
}

// InUse is how many copies can be worked with: not lent, not broken.
func (t *Tool) InUse() int { return max(0, t.Copies-t.Lent-t.Broken) }

// Cavities of one copy that are filled together.
func (t *Tool) Cavities() int { return max(1, int(t.Of("cavities"))) }

// Places is how many pieces it holds at once, all copies together; 0 for what
// holds none.
func (t *Tool) Places() int { return int(t.Of("places")) * t.InUse() }

// Presses tells whether paste goes into it: copies of it are busy while it does.
func (t *Tool) Presses() bool {
	k := t.kind()
	return k != nil && k.Capacity == "copies"
}

// sizes are the measures of a tool without which it is no tool.
var sizes = []string{"lengthMM", "widthMM", "depthMM", "heightMM", "diameterMM", "sideMM", "volumeML"}

// IsSize tells whether a measure must be said: none is usual.
func IsSize(measure string) bool { return slices.Contains(sizes, measure) }

// Box is the length, the width and the depth of what comes of the tool, 0 for
// what is not known of it.
func (t *Tool) Box() (long, wide, deep float64) {
	across := math.Max(t.Of("diameterMM"), t.Of("sideMM"))
	long, wide, deep = t.Of("lengthMM"), t.Of("widthMM"), t.Of("depthMM")
	if across > 0 {
		long, wide = across, across
	}
	if long == 0 {
		long = t.Of("heightMM")
	}
	if wide == 0 {
		wide = t.Of("heightMM")
	}
	return math.Max(long, wide), math.Min(long, wide), deep
}

// Round tells whether what comes of the tool is round as it lies.
func (t *Tool) Round() bool {
	return t.Shape == "dome" || t.Shape == "ball" || t.Of("diameterMM") > 0
}

// TakeKind makes the tool one of another kind: measures that both have stay, the
// others are as usual.
func (t *Tool) TakeKind(kind string) {
	t.Kind = kind
	was := t.Measures
	t.Measures = Measures{}
	k := t.kind()
	if k == nil {
		return
	}
	for _, m := range k.Measures {
		x, had := was[m.Name]
		switch {
		case m.Name == "copies":
		case had && x >= m.From && x <= m.To:
			t.Measures[m.Name] = x
		case !IsSize(m.Name):
			t.Measures[m.Name] = m.Default
		}
	}
}

// What is marked on the photo of a tool.
const (
	DeepZone = "deep"
	SmallEnd = "small"
)

// MostMarks is how many places of one photo are marked.
const MostMarks = 24

// MostPhotoBytes is how much the photos of a studio's tools take in all: a document
// that carries them can be brought in again.
const MostPhotoBytes = 56 << 20

// CheckMarks refuses marks that are of no kind or beside the photo.
func CheckMarks(marks []Spot) error {
	if len(marks) > MostMarks {
		return fault.New(fault.OutOfRange, "marks", "At most %d places are marked, not %d.", MostMarks, len(marks))
	}
	for i, m := range marks {
		if m.What != DeepZone && m.What != SmallEnd {
			return fault.New(fault.UnknownValue, fmt.Sprintf("marks[%d].what", i), "A mark is a deep zone (deep) or a small end (small).")
		}
		if !(m.X >= 0 && m.X <= 1 && m.Y >= 0 && m.Y <= 1) {
			return fault.New(fault.OutOfRange, fmt.Sprintf("marks[%d]", i), "A mark is a share of the width and the height, from 0 to 1.")
		}
	}
	return nil
}

// DrawerGroups are the compartments of a drawer, in order.
var DrawerGroups = []string{"Moulds", "Cutters", "Rollers", "Formers", "Other tools"}

// DrawerGroup finds where a kind of tool lies by what it does: paste goes into it, it
// holds pieces, it cuts or rolls.
func DrawerGroup(kind string) string {
	k := technique.Ours.Kind(kind)
	has := func(name string) bool {
		return k != nil && slices.ContainsFunc(k.Measures, func(m technique.Measure) bool { return m.Name == name })
	}
	switch {
	case k == nil:
	case k.Capacity == "copies":
		return DrawerGroups[0]
	case k.Capacity == "places":
		return DrawerGroups[3]
	case has("ringMM") || has("thicknessMM") || has("pitchMM"):
		return DrawerGroups[2]
	case !has("volumeML") && (len(technique.Ours.Makes(kind)) > 0 || k.Draws != "" || has("sideMM") || has("heightMM")):
		return DrawerGroups[1]
	}
	return DrawerGroups[4]
}
