package noun

import (
	"fmt"
	"math"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/outline"
	"dustyfern/craft/ribbon"
)

// Outline is what a cutter cuts, or what a piece is cut to: a shape of the table of
// shapes that fills the box of its measures, or one of its own as path data in mm.
type Outline struct {
	Shape string `json:"shape,omitempty"` // "": as its kind is; OwnShape: Path says it
	Count int    `json:"count,omitempty"` // petals, points or sides
	Path  string `json:"path,omitempty"`
}

// OwnShape is an outline that was drawn.
const OwnShape = "own"

// MostPath is how long an own outline may be as path data, characters.
const MostPath = 60_000

// Check refuses an outline that cannot be drawn. Faults: shape, count, path.
func (o *Outline) Check() error {
	switch {
	case o.Shape == "":
		return nil
	case o.Shape == OwnShape && (len(o.Path) == 0 || len(o.Path) > MostPath):
		return fault.New(fault.OutOfRange, "path", "An outline of one's own is path data of up to %d characters.", MostPath)
	case o.Shape == OwnShape:
		_, err := o.Rings(100, 100)
		return err
	}
	_, err := outline.InBox(o.Shape, o.Count, 100, 100)
	return err
}

// Rings are the outline in a box, long along x and wide along y, mm.
func (o *Outline) Rings(long, wide float64) ([]outline.Ring, error) {
	if o.Shape == OwnShape {
		rings, err := outline.FromPath(o.Path)
		if err != nil {
			return nil, err
		}
		return outline.Fit(rings, long, wide)
	}
	ring, err := outline.InBox(o.Shape, o.Count, long, wide)
	return []outline.Ring{ring}, err
}

// kindShapes are the outlines of cutters of which nothing else was said: by their kind.
var kindShapes = map[string]Outline{"plungerCutter": {Shape: "leaf"}, "cutter": {Shape: "rectangle"}, "circleCutter": {Shape: "oval"}, "squareCutter": {Shape: "rectangle"}, "blossomCutter": {Shape: "blossom"}}

// TakesOutline tells whether a kind of tool cuts whatever outline it has.
func TakesOutline(kind string) bool { return kind == "cutter" || kind == "plungerCutter" }

// Cuts are the outlines that a tool cuts in one press, mm; nil of one that cuts none.
func (t *Tool) Cuts() []outline.Ring {
	o := t.Outline
	if !TakesOutline(t.Kind) || o.Shape == "" {
		o = kindShapes[t.Kind]
	}
	long, wide := t.Of("lengthMM"), t.Of("widthMM")
	switch {
	case t.Kind == "flagCutter":
		return flags(t.Of("widthMM"), t.Of("heightMM"), int(math.Max(1, t.Of("perPress"))))
	case t.Kind == "stripCutter":
		return strip(long, wide, int(math.Max(3, t.Of("petals"))))
	case t.Of("diameterMM") > 0:
		long, wide = t.Of("diameterMM"), t.Of("diameterMM")
	case t.Of("sideMM") > 0:
		long, wide = t.Of("sideMM"), t.Of("sideMM")
	}
	if o.Shape == "" {
		return nil
	}
	if t.Kind == "blossomCutter" {
		o.Count = max(3, int(t.Of("petals")))
	}
	rings, err := o.Rings(long, wide)
	if err != nil {
		return nil
	}
	return rings
}

// flags of one press hang side by side from one straight edge.
func flags(w, h float64, n int) []outline.Ring {
	ring := outline.Ring{{0, 0}, {w * float64(n), 0}}
	for i := n - 1; i >= 0; i-- {
		ring = append(ring, outline.Point{(float64(i) + 0.5) * w, h})
		if i > 0 {
			ring = append(ring, outline.Point{float64(i) * w, 0.001 * h}) // a hair below the edge: the flags hold together
		}
	}
	return []outline.Ring{ring}
}

// strip is a straight foot with a row of round petals.
func strip(l, w float64, petals int) []outline.Ring {
	if !(l > 0 && w > 0) {
		return nil
	}
	ring := outline.Ring{{l, w}, {0, w}}
	each := l / float64(petals)
	for i := range petals {
		for k := range 13 {
			a := math.Pi * (1 - float64(k)/12)
			ring = append(ring, outline.Point{(float64(i)+0.5)*each + each/2*math.Cos(a), w/2 - w/2*math.Sin(a)})
		}
	}
	return []outline.Ring{ring}
}

// Put is a piece that a hand has put down on the rolled sheet: its corner from the sheet's
// own, mm, and how far it is turned.
type Put = outline.Placement

// MostPut is how many pieces a hand may put down on one sheet.
const MostPut = 60

// CheckPut refuses places that lie on no sheet.
func CheckPut(all []Put) error {
	if len(all) > MostPut {
		return fault.New(fault.OutOfRange, "laid", "At most %d pieces are put down by hand, not %d.", MostPut, len(all))
	}
	for i, p := range all {
		if !(math.Abs(p.XMM) <= 1e4 && math.Abs(p.YMM) <= 1e4) || !slices.Contains([]float64{0, 90, 180, 270}, p.Deg) {
			return fault.New(fault.OutOfRange, fmt.Sprintf("laid[%d]", i), "A piece lies on the sheet, turned by 0, 90, 180 or 270 degrees.")
		}
	}
	return nil
}

// Roller are the settings of a rolling machine: what it is known to roll at some of them,
// and the strips by which that is known.
type Roller struct {
	Settings []Setting `json:"settings,omitempty"`
	Strips   []Strip   `json:"strips,omitempty"`
}

// Setting is how thick the machine rolls at one setting.
type Setting struct {
	At float64 `json:"at"`
	MM float64 `json:"mm"`
}

// Strip is one that was rolled at a setting and weighed: how thick that makes it.
type Strip struct {
	When time.Time `json:"when"`
	At   float64   `json:"at"`
	MM   float64   `json:"mm"`
}

// MostStrips are kept of a machine, the latest.
const MostStrips = 60

// Anchors are the settings as a question of the roller takes them; nil: as usual.
func (r *Roller) Anchors() [][]float64 {
	if len(r.Settings) == 0 {
		return nil
	}
	out := make([][]float64, len(r.Settings))
	for i, s := range r.Settings {
		out[i] = []float64{s.At, s.MM}
	}
	return out
}

// Cast is how often a home-made mould was melted and cast again, and what a bought one,
// its mix and melting it again cost, in one currency; nil: nobody said it.
type Cast struct {
	Remelts int      `json:"remelts,omitempty"`
	Bought  *float64 `json:"bought,omitempty"`
	Mix     *float64 `json:"mix,omitempty"`
	Remelt  *float64 `json:"remelt,omitempty"`
}

// MostRemelts is how often a casting bears it (assumed): it loses a little each time.
const MostRemelts = 6

// Check refuses what no mould has.
func (c *Cast) Check() error {
	if c.Remelts < 0 || c.Remelts > 1000 {
		return fault.New(fault.OutOfRange, "cast.remelts", "Melted again from 0 to 1000 times, not %d.", c.Remelts)
	}
	for name, x := range map[string]*float64{"bought": c.Bought, "mix": c.Mix, "remelt": c.Remelt} {
		if x != nil && !(*x >= 0 && *x <= 100_000) {
			return fault.New(fault.OutOfRange, "cast."+name, "A price from 0 to 100,000.")
		}
	}
	return nil
}

// Check refuses settings that no machine has.
func (r *Roller) Check() error {
	if len(r.Strips) > MostStrips {
		return fault.New(fault.OutOfRange, "roller.strips", "At most %d strips are kept.", MostStrips)
	}
	for i, s := range r.Strips {
		if !(s.MM >= 0.05 && s.MM <= 40 && math.Abs(s.At) <= 1000) {
			return fault.New(fault.OutOfRange, fmt.Sprintf("roller.strips[%d]", i), "A strip is from 0.05 to 40 mm thick.")
		}
	}
	if len(r.Settings) == 0 {
		return nil
	}
	at := r.Settings[0].At
	_, err := ribbon.Roller(ribbon.RollerIn{Anchors: r.Anchors(), Setting: &at})
	if err != nil {
		return fault.At(err, "roller.")
	}
	return nil
}
