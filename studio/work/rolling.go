package work

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/measure"
	"dustyfern/craft/outline"
	"dustyfern/craft/paste"
	"dustyfern/craft/piece"
	"dustyfern/craft/ribbon"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
)

// RollOutView is how the pieces are cut: the full sheet, and the sheets in the order in
// which they are rolled. All lengths are mm, y runs down.
type RollOutView struct {
	Says        string        `json:"says"`
	Outlines    []string      `json:"outlines" doc:"SVG path data of what is cut, unturned"`
	BoardLongMM float64       `json:"boardLongMM"`
	BoardWideMM float64       `json:"boardWideMM"`
	ThicknessMM float64       `json:"thicknessMM"`
	PerSheet    *noun.Figure  `json:"perSheet,omitempty"`
	AtOnce      *noun.Figure  `json:"atOnce,omitempty" doc:"how many may lie cut while the sheet stays open"`
	Grams       *noun.Figure  `json:"grams,omitempty"`
	Full        []Laid        `json:"full" doc:"the full sheet; of strips none"`
	Sheets      []RolledSheet `json:"sheets"`
	Turns       []float64     `json:"turns" doc:"by which a hand may turn a piece, degrees"`
	ByHand      bool          `json:"byHand" doc:"pieces are put down by hand"`
	Notes       []string      `json:"notes"`
}

// RolledSheet is one sheet.
type RolledSheet struct {
	Says   string  `json:"says"`
	LongMM float64 `json:"longMM"`
	WideMM float64 `json:"wideMM"`
	Roll   int     `json:"roll" doc:"0 fresh paste, 1 its scraps, ..."`
	Grams  string  `json:"grams"`
	Scrap  string  `json:"scrap"`
	Laid   []Laid  `json:"laid"`
}

// Laid is one outline on a sheet: turned about its own corner, then moved.
type Laid struct {
	Of   int     `json:"of"`
	XMM  float64 `json:"xMM"`
	YMM  float64 `json:"yMM"`
	Deg  float64 `json:"deg"`
	Held bool    `json:"held,omitempty" doc:"a hand put it here"`
	Off  bool    `json:"off,omitempty" doc:"it lies on another, or off the sheet: not counted"`
}

// Rims and gaps of what is cut, mm (assumed).
const (
	rimMM      = 5
	gapMM      = 2
	stripRimMM = 3
	// kneadMore is what is kneaded over what the sheets take, as of weighed balls
	kneadMore = 1.03
)

// rerolls that a paste bears before it cracks, as the model's section 5 has them
// (assumed).
func rerolls(w *Reckoned) int {
	if k, ok := paste.KindOf(w.Piece.Dough); ok && k.SoftPoint > 0 {
		return 4
	}
	switch e := w.Strength; {
	case e <= 0.6:
		return 3
	case e <= 1.9:
		return 2
	}
	return 1
}

// cutting is what of a piece is cut from a sheet: one outline, or strips.
type cutting struct {
	rings    []outline.Ring // of the one outline; nil: strips
	area     float64
	lengths  []float64
	wideMM   float64
	pieces   int // outlines or strips, for all pieces
	boardL   float64
	boardW   float64
	thick    float64
	each     float64
	says     string
	density  float64
	overhang bool
}

// cuttingOf reads what is cut for so many pieces; nil: nothing is, or its outline is not
// known.
func (b *Means) cuttingOf(w *Reckoned, made int) *cutting {
	r := w.Fore.Rolled
	if r == nil || len(r.Cuts) == 0 || made < 1 {
		return nil
	}
	c := &cutting{thick: r.ThicknessMM, density: measure.Densities["sugarPaste"].Nominal}
	if w.Piece.Dough != "" {
		c.density = measure.Densities[w.Piece.Dough].Nominal
	}
	c.boardL, c.boardW = b.boardOf(w)
	if r.AcrossMM > 0 {
		c.boardW = math.Min(c.boardW, r.AcrossMM)
	}
	if role := r.Cuts[0].Role; role != "" {
		cut := r.Cuts[0]
		c.says, c.each = cut.Says, cut.Each
		if c.rings = b.ringsOf(w, role); c.rings == nil {
			return nil
		}
		c.area = outline.AreaMM2(c.rings)
		c.pieces = int(math.Ceil(float64(made)*cut.Each - 1e-9))
		return c
	}
	c.says = r.Cuts[0].Says
	for _, cut := range r.Cuts {
		n := int(math.Ceil(float64(made)*cut.Each - 1e-9))
		if !(cut.LongMM >= 0.1 && cut.WideMM >= 0.1) || n > 5000 {
			return nil
		}
		c.wideMM = math.Max(c.wideMM, cut.WideMM)
		for range n {
			c.lengths = append(c.lengths, cut.LongMM)
		}
		c.each += cut.Each
		c.overhang = c.overhang || cut.LongMM+2*stripRimMM > c.boardL
	}
	c.pieces = len(c.lengths)
	return c
}

// boardOf is the length and the width of the board that pieces are rolled on, mm.
func (b *Means) boardOf(w *Reckoned) (long, wide float64) {
	if t := w.roles["board"]; t != nil {
		return t.Of("lengthMM"), t.Of("widthMM")
	}
	return w.Fore.Base["board.lengthMM"], w.Fore.Base["board.widthMM"]
}

// ringsOf is the outline that a role cuts: of the piece itself, or of its tool.
func (b *Means) ringsOf(w *Reckoned, role string) []outline.Ring {
	own := &w.Piece.Outline
	if own.Shape == noun.OwnShape || role == technique.OwnOutline {
		if own.Shape != noun.OwnShape {
			return nil
		}
		rings, err := outline.FromPath(own.Path)
		if err != nil {
			return nil
		}
		return rings
	}
	if t := w.roles[role]; t != nil {
		return t.Cuts()
	}
	return nil
}

// turnsOf the piece on the sheet: a grain lets it lie one way only.
func turnsOf(w *Reckoned) []float64 {
	if w.Fore.Base["along"] > 0 {
		return []float64{0}
	}
	return []float64{0, 180}
}

// handTurns are those by which a hand may turn it.
func handTurns(w *Reckoned) []float64 {
	if w.Fore.Base["along"] > 0 {
		return []float64{0}
	}
	return []float64{0, 90, 180, 270}
}

// areaOf is what the outline of a piece covers, its windows off, mm²; 0 while it is not
// known.
func (b *Means) areaOf(w *Reckoned) float64 {
	if w.Way.Rolls == nil || w.Way.Rolls.Cuts[0].Role == "" {
		return 0
	}
	return outline.AreaMM2(b.ringsOf(w, w.Way.Rolls.Cuts[0].Role))
}

// rollOut lays the outlines; most is how many of a sheet before it skins, 0 for all that
// fit.
func (c *cutting) rollOut(w *Reckoned, most int) (piece.RollOutOut, error) {
	ring := outline.Outer(c.rings)
	corners := outline.Corners(ring)
	turns := turnsOf(w)
	held := slices.Clone(w.Piece.Laid)
	if len(held) > 0 {
		turns = handTurns(w)
		held = slices.DeleteFunc(held, func(p noun.Put) bool { return !slices.Contains(turns, p.Deg) })
	}
	n := rerolls(w)
	in := piece.RollOutIn{PolygonMM: corners, AreaMM2: &c.area, Pieces: &c.pieces, ThicknessMM: &c.thick, DensityGPerML: &c.density, BoardLongMM: &c.boardL, BoardWideMM: &c.boardW,
		GapMM: new(float64(gapMM)), EdgeMM: new(float64(rimMM)), TurnsDeg: turns, Most: &most, Rerolls: &n, Held: held}
	sheet := fmt.Sprintf("%s|%v|%v|%v|%v", outline.PathText(c.rings), c.boardL, c.boardW, turns, held)
	full, err := once("laid|"+sheet, in.Lay)
	if err != nil {
		return piece.RollOutOut{}, err
	}
	in.Full = full
	return once(fmt.Sprintf("roll|%v|%v|%v|%v|%v|%v|%s", c.area, c.pieces, c.thick, c.density, most, n, sheet), func() (piece.RollOutOut, error) { return piece.RollOut(in) })
}

// grams of a sheet of that length and width.
func (c *cutting) grams(long, wide float64) float64 { return long * wide * c.thick * c.density / 1000 }

func (c *cutting) strips(most int) ([]ribbon.StripSheet, error) {
	in := ribbon.LayIn{SheetLongMM: &c.boardL, SheetWideMM: &c.boardW, StripWideMM: &c.wideMM, LengthsMM: c.lengths, EdgeMM: new(float64(stripRimMM)), Most: &most}
	return ribbon.Lay(in)
}

// rolledG is the paste that the sheets of all pieces take; 0 when it is not known.
func (b *Means) rolledG(w *Reckoned, made int) float64 {
	r := w.Way.Rolls
	if r == nil || r.PasteG == "" && r.EachG == "" {
		return 0
	}
	c := b.cuttingOf(w, made)
	if c == nil {
		return 0
	}
	if c.rings == nil {
		sheets, err := c.strips(0)
		if err != nil {
			return 0
		}
		total := 0.0
		for _, s := range sheets {
			total += c.grams(s.LongMM, s.WideMM)
		}
		return math.Ceil(total * kneadMore)
	}
	out, err := c.rollOut(w, 0)
	if err != nil || out.Cut < c.pieces {
		return 0
	}
	return math.Ceil(out.NeedG * kneadMore)
}
