package outline

import (
	"math"
	"slices"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// NestIn asks how many of an outline a sheet gives.
type NestIn struct {
	PolygonMM     [][]float64 `json:"polygonMM" most:"20000"`
	SheetWidthMM  *float64    `json:"sheetWidthMM" need:"true" in:"length"`
	SheetHeightMM *float64    `json:"sheetHeightMM" need:"true" in:"length"`
	GapMM         *float64    `json:"gapMM" def:"0" in:"0..100"`
	EdgeMM        *float64    `json:"edgeMM" def:"0" in:"0..100"`
	CellMM        *float64    `json:"cellMM" def:"1" in:"0.1..10"`
	RotationsDeg  []float64   `json:"rotationsDeg" most:"4" in:"-360..360"`
}

// NestOut is a count that can be laid, and where each piece lies: its corners
// turned about the origin by Deg, counter-clockwise, then moved by XMM, YMM.
type NestOut struct {
	Count      int         `json:"count"`
	UsedShare  float64     `json:"usedShare"`
	Placements []Placement `json:"placements"`
}

// Placement is one piece on the sheet.
type Placement struct {
	XMM float64 `json:"xMM"`
	YMM float64 `json:"yMM"`
	Deg float64 `json:"deg"`
}

const (
	mostNested = 20000
	mostCells  = 16_000_000
)

// Nest lays an outline on a sheet by cells: a cell is taken when its inside meets
// the outline grown by half the gap, so that pieces never overlap and the count is
// one that can be cut. Exact rows are laid as well, and the better of the two is kept.
func Nest(in NestIn) (NestOut, error) {
	n, err := prepare(in)
	if err != nil {
		return NestOut{}, err
	}
	least := n.masks[0].taken()
	for _, m := range n.masks {
		least = min(least, m.taken())
	}
	most := n.cols * n.lines / least // by area: no way lays more
	best := nest(n.masks, n.cols, n.lines, most)
	flat := make([]*mask, len(n.masks))
	for i, m := range n.masks {
		flat[i] = m.flipped()
	}
	if len(best) == most {
		flat = nil
	}
	if other := nest(flat, n.lines, n.cols, most); len(other) > len(best) {
		best = best[:0]
		for _, p := range other {
			best = append(best, laid{p.y, p.x, p.of})
		}
	}
	out := n.out(best)
	if exact := inRows(n.ring, n.turns, *in.SheetWidthMM, *in.SheetHeightMM, n.gap, n.edge); len(exact) > out.Count {
		out = NestOut{len(exact), float64(len(exact)) * n.area / n.sheet, exact}
	}
	return out, nil
}

// NestAround lays an outline round pieces that a hand has put down: those stay where
// they are, to the next cell, and the others fill what is left. Of the pieces held,
// fits says which lie on the sheet and meet no earlier one; the others are left out of
// the count. The held ones that fit come first.
func NestAround(in NestIn, held []Placement) (out NestOut, fits []bool, err error) {
	for _, h := range held {
		if !slices.Contains(in.RotationsDeg, h.Deg) && len(in.RotationsDeg) > 0 {
			return out, nil, fault.New(fault.UnknownValue, "held", "A piece lies turned by one of %v degrees, not by %g.", in.RotationsDeg, h.Deg)
		}
	}
	n, err := prepare(in)
	if err != nil {
		return out, nil, err
	}
	tables := tablesOf(n.masks)
	put := func() *sheet {
		s := newSheet(n.masks, tables, n.cols, n.lines)
		fits = fits[:0]
		for _, h := range held {
			of, x, y := n.cellOf(h)
			ok := of >= 0 && s.fits(of, x, y)
			if fits = append(fits, ok); ok {
				s.lay(of, x, y)
			}
		}
		return s
	}
	all := make([]int, len(n.masks))
	for i := range all {
		all[i] = i
	}
	best := put()
	best.fill(all...)
	for i := range n.masks {
		s := put()
		s.fill(i)
		s.fill(all...)
		if len(s.pieces) > len(best.pieces) {
			best = s
		}
	}
	return n.out(best.pieces), fits, nil
}

// nesting is a question made ready: the outline as cells in each of its turns.
type nesting struct {
	masks       []*mask
	cols, lines int
	gap, edge   float64
	cell        float64
	area, sheet float64
	ring        Ring
	turns       []float64
}

func (n *nesting) out(pieces []laid) (out NestOut) {
	out.Count, out.UsedShare = len(pieces), float64(len(pieces))*n.area/n.sheet
	for _, p := range pieces {
		m := n.masks[p.of]
		out.Placements = append(out.Placements, Placement{n.edge + float64(p.x)*n.cell - m.minX, n.edge + float64(p.y)*n.cell - m.minY, m.deg})
	}
	return out
}

// cellOf is the cell nearest to a place, and the mask that is turned so; -1 for none.
func (n *nesting) cellOf(p Placement) (of, x, y int) {
	for i, m := range n.masks {
		for _, o := range append([]*mask{m}, m.alike...) {
			if o.deg == p.Deg {
				return i, int(math.Round((p.XMM - n.edge + o.minX) / n.cell)), int(math.Round((p.YMM - n.edge + o.minY) / n.cell))
			}
		}
	}
	return -1, 0, 0
}

func prepare(in NestIn) (*nesting, error) {
	if len(in.PolygonMM) > 0 && len(in.PolygonMM) < 3 {
		return nil, fault.New(fault.Required, "polygonMM", "An outline has three corners or more.")
	}
	if err := fault.Check(&in); err != nil {
		return nil, err
	}
	ring, err := polygon("polygonMM", in.PolygonMM)
	if err != nil {
		return nil, err
	}
	area := math.Abs(shoelace(ring))
	if area < 1e-6 {
		return nil, fault.New(fault.OutOfRange, "polygonMM", "These corners enclose nothing.")
	}
	w, h, g, e, c := *in.SheetWidthMM, *in.SheetHeightMM, *in.GapMM, *in.EdgeMM, *in.CellMM
	if w*h/(c*c) > mostCells {
		return nil, fault.New(fault.OutOfRange, "cellMM", "Over 16 million cells: take larger ones, at least %.2f mm.", math.Sqrt(w*h/mostCells))
	}
	if math.Max(0, w-2*e)*math.Max(0, h-2*e)/area > mostNested {
		return nil, fault.New(fault.OutOfRange, "polygonMM", "Over %d would fit: cut the sheet first.", mostNested)
	}
	turns := in.RotationsDeg
	if len(turns) == 0 {
		turns = []float64{0, 180}
	}
	n := &nesting{cols: measure.Floor((w - 2*e + g) / c), lines: measure.Floor((h - 2*e + g) / c), gap: g, edge: e, cell: c, area: area, sheet: w * h, ring: ring, turns: turns}
	for _, deg := range turns {
		m := rasterize(turned(ring, deg), g/2, c)
		m.deg = deg
		if m.w > n.cols || m.h > n.lines {
			continue
		}
		same := slices.IndexFunc(n.masks, func(o *mask) bool { return slices.EqualFunc(o.spans, m.spans, slices.Equal) })
		if same >= 0 { // a turn that changes nothing
			n.masks[same].alike = append(n.masks[same].alike, m)
			continue
		}
		n.masks = append(n.masks, m)
	}
	if len(n.masks) == 0 {
		return nil, fault.New(fault.Unreachable, "polygonMM", "Not one fits the sheet.")
	}
	return n, nil
}

func turned(ring []Point, deg float64) []Point {
	sin, cos := math.Sincos(deg * math.Pi / 180)
	switch math.Mod(deg+720, 360) { // without the noise of a product
	case 0:
		sin, cos = 0, 1
	case 90:
		sin, cos = 1, 0
	case 180:
		sin, cos = 0, -1
	case 270:
		sin, cos = -1, 0
	}
	out := make([]Point, len(ring))
	for i, p := range ring {
		out[i] = Point{p[0]*cos - p[1]*sin, p[0]*sin + p[1]*cos}
	}
	return out
}

// mask is an outline as cells: of each line the stretches that are taken.
type mask struct {
	w, h       int
	deg        float64
	alike      []*mask // other turns that take the same cells
	minX, minY float64 // of the outline itself, mm
	spans      [][][2]int
}

func (m *mask) set(cells []bool) *mask {
	m.spans = make([][][2]int, m.h)
	for y := range m.h {
		for x := 0; x < m.w; x++ {
			if !cells[y*m.w+x] {
				continue
			}
			from := x
			for x < m.w && cells[y*m.w+x] {
				x++
			}
			m.spans[y] = append(m.spans[y], [2]int{from, x})
		}
	}
	return m
}

// taken counts the cells.
func (m *mask) taken() (n int) {
	for _, line := range m.spans {
		for _, s := range line {
			n += s[1] - s[0]
		}
	}
	return n
}

func (m *mask) cells() []bool {
	out := make([]bool, m.w*m.h)
	for y, line := range m.spans {
		for _, s := range line {
			for x := s[0]; x < s[1]; x++ {
				out[y*m.w+x] = true
			}
		}
	}
	return out
}

func (m *mask) flipped() *mask {
	f := &mask{w: m.h, h: m.w, deg: m.deg}
	from, to := m.cells(), make([]bool, m.w*m.h)
	for y := range m.h {
		for x := range m.w {
			to[x*f.w+y] = from[y*m.w+x]
		}
	}
	return f.set(to)
}

// rasterize takes the cells whose open inside comes nearer than grow to the ring.
func rasterize(ring []Point, grow, cell float64) *mask {
	minX, minY, maxX, maxY := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, p := range ring {
		minX, maxX = math.Min(minX, p[0]), math.Max(maxX, p[0])
		minY, maxY = math.Min(minY, p[1]), math.Max(maxY, p[1])
	}
	m := &mask{w: max(1, int(math.Ceil((maxX-minX+2*grow)/cell-slack))), h: max(1, int(math.Ceil((maxY-minY+2*grow)/cell-slack))), minX: minX, minY: minY}
	cells := make([]bool, m.w*m.h)
	x0, y0 := minX-grow, minY-grow
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		fromX, toX := clamp((math.Min(p[0], q[0])-grow-x0)/cell-1, m.w), clamp((math.Max(p[0], q[0])+grow-x0)/cell+1, m.w)
		fromY, toY := clamp((math.Min(p[1], q[1])-grow-y0)/cell-1, m.h), clamp((math.Max(p[1], q[1])+grow-y0)/cell+1, m.h)
		for y := fromY; y < toY; y++ {
			for x := fromX; x < toX; x++ {
				if !cells[y*m.w+x] && near(p, q, x0+float64(x)*cell, y0+float64(y)*cell, cell, grow) {
					cells[y*m.w+x] = true
				}
			}
		}
	}
	for y := range m.h {
		cy := y0 + (float64(y)+0.5)*cell
		var cuts []float64
		for i, p := range ring {
			q := ring[(i+1)%len(ring)]
			if (p[1] <= cy) != (q[1] <= cy) {
				cuts = append(cuts, p[0]+(cy-p[1])/(q[1]-p[1])*(q[0]-p[0]))
			}
		}
		slices.Sort(cuts)
		for i := 0; i+1 < len(cuts); i += 2 {
			for x := clamp((cuts[i]-x0)/cell-0.5, m.w); x < m.w && x0+(float64(x)+0.5)*cell < cuts[i+1]; x++ {
				if x0+(float64(x)+0.5)*cell > cuts[i] {
					cells[y*m.w+x] = true
				}
			}
		}
	}
	return m.set(cells)
}

func clamp(x float64, most int) int { return min(most, max(0, int(math.Floor(x)))) }

// near tells whether the open cell at x, y comes nearer than grow to p-q, or
// meets it.
func near(p, q Point, x, y, cell, grow float64) bool {
	x0, y0, x1, y1 := x+slack, y+slack, x+cell-slack, y+cell-slack
	lo, hi := 0.0, 1.0 // the part of p-q inside the cell
	for _, edge := range [4][2]float64{{p[0] - x0, q[0] - x0}, {x1 - p[0], x1 - q[0]}, {p[1] - y0, q[1] - y0}, {y1 - p[1], y1 - q[1]}} {
		a, b := edge[0], edge[1]
		switch {
		case a < 0 && b < 0:
			lo, hi = 1, 0
		case a < 0:
			lo = math.Max(lo, a/(a-b))
		case b < 0:
			hi = math.Min(hi, a/(a-b))
		}
	}
	if lo <= hi {
		return true
	}
	if grow <= 0 {
		return false
	}
	d := math.Inf(1)
	for _, c := range [4]Point{{x0, y0}, {x1, y0}, {x0, y1}, {x1, y1}} {
		d = math.Min(d, toSegment(c, p, q))
	}
	for _, c := range [2]Point{p, q} {
		d = math.Min(d, math.Hypot(math.Max(0, math.Max(x0-c[0], c[0]-x1)), math.Max(0, math.Max(y0-c[1], c[1]-y1))))
	}
	return d < grow-slack
}

func toSegment(c, p, q Point) float64 {
	dx, dy := q[0]-p[0], q[1]-p[1]
	t := 0.0
	if l := dx*dx + dy*dy; l > 0 {
		t = math.Max(0, math.Min(1, ((c[0]-p[0])*dx+(c[1]-p[1])*dy)/l))
	}
	return math.Hypot(c[0]-p[0]-t*dx, c[1]-p[1]-t*dy)
}
