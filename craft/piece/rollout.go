package piece

import (
	"math"
	"slices"

	"dustyfern/craft/fault"
	"dustyfern/craft/outline"
)

// RollOutIn asks how pieces of one outline are cut from a paste that is rolled, and its
// scraps again, on a board.
type RollOutIn struct {
	PolygonMM     [][]float64 `json:"polygonMM" most:"20000"`
	AreaMM2       *float64    `json:"areaMM2" in:"area"` // of one piece, its windows off; unsaid: what the outline encloses
	Pieces        *int        `json:"pieces" need:"true" in:"0..5000"`
	ThicknessMM   *float64    `json:"thicknessMM" need:"true" in:"thickness"`
	DensityGPerML *float64    `json:"densityGPerML" def:"1.35" in:"density"`
	BoardLongMM   *float64    `json:"boardLongMM" need:"true" in:"length"`
	BoardWideMM   *float64    `json:"boardWideMM" need:"true" in:"length"`
	GapMM         *float64    `json:"gapMM" def:"2" in:"0..100"`
	EdgeMM        *float64    `json:"edgeMM" def:"5" in:"0..100"`
	TurnsDeg      []float64   `json:"turnsDeg" most:"4" in:"-360..360"`
	Most          *int        `json:"most" def:"0" in:"0..100000"` // of one sheet while it stays open; 0: as many as fit
	Rerolls       *int        `json:"rerolls" def:"2" in:"0..50"`
	LossShare     *float64    `json:"lossShare" def:"0.05" in:"share"`

	Held []outline.Placement `json:"-"` // pieces of the full sheet that a hand put down
	Full *Full               `json:"-"` // the full sheet, when it was laid before
}

// Full is a full sheet as Lay lays it.
type Full struct {
	Pieces []outline.Placement // held ones first
	Fits   []bool              // of each held piece: it lies on the sheet and meets none
}

// Lay lays a full sheet, round the pieces that a hand put down. Errors are those of
// outline.Nest.
func (in *RollOutIn) Lay() (*Full, error) {
	nest := outline.NestIn{PolygonMM: in.PolygonMM, SheetWidthMM: in.BoardLongMM, SheetHeightMM: in.BoardWideMM, GapMM: in.GapMM, EdgeMM: in.EdgeMM, RotationsDeg: in.TurnsDeg}
	if len(in.Held) > 0 {
		out, fits, err := outline.NestAround(nest, in.Held)
		return &Full{out.Placements, fits}, err
	}
	out, err := outline.Nest(nest)
	return &Full{Pieces: out.Placements}, err
}

// RollOutOut is the full sheet and the sheets in the order in which they are rolled.
type RollOutOut struct {
	PerSheet int                 // of a full sheet, as they lie
	Full     []outline.Placement // all of a full sheet, held ones first
	Fits     []bool              // of each held piece: it lies on the sheet and meets none
	Sheets   []RolledSheet
	NeedG    float64 // whole grams that give all pieces
	LeftG    float64 // of them, after the last sheet
	Cut      int
	EndedBy  string // why no more is rolled: "done", "tooDry", "tooFew"
}

// RolledSheet is one sheet: which roll of the paste it is (0: fresh), its size, its
// grams, what is cut of it and the scrap.
type RolledSheet struct {
	Roll   int
	LongMM float64
	WideMM float64
	G      float64
	Laid   []outline.Placement
	ScrapG float64
}

// worthShare: scraps are rolled once more only where that saves a sixth of the paste or
// more (assumed): each roll dries it and takes minutes.
const worthShare = 1.2

// fewerShare: so much more paste is taken when that saves a sheet (assumed).
const fewerShare = 1.08

// mostRolled is the heaviest paste that is rolled out in one go, g.
const mostRolled = 50_000

// RollOut lays the outline on the board once and cuts the sheets from that: of a sheet
// that is not full only as much is rolled as the pieces on it take with their rim. What
// is over of each roll is kneaded, loses LossShare, and is rolled again, up to Rerolls
// times and only while that is worth it. NeedG is the least whole grams with which all
// are cut so, or a few more where that saves a sheet; the sheets are those of that paste. Errors are those of outline.Nest, and out_of_range when over 50 kg are
// needed.
func RollOut(in RollOutIn) (RollOutOut, error) {
	var out RollOutOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	full := in.Full
	if full == nil {
		var err error
		if full, err = in.Lay(); err != nil {
			return out, err
		}
	}
	out.PerSheet, out.Full, out.Fits = len(full.Pieces), full.Pieces, full.Fits
	ring := make(outline.Ring, len(in.PolygonMM))
	for i, p := range in.PolygonMM {
		ring[i] = outline.Point{p[0], p[1]}
	}
	area := math.Abs(outline.AreaMM2([]outline.Ring{ring}))
	if in.AreaMM2 != nil {
		area = *in.AreaMM2
	}
	r := roller{in: &in, gPerMM2: *in.ThicknessMM * *in.DensityGPerML / 1000, sheets: sizes(ring, full.Pieces, *in.EdgeMM, *in.Most)}
	r.pieceG = area * r.gPerMM2
	if *in.Pieces == 0 || len(r.sheets) == 0 {
		out.EndedBy = "done"
		return out, nil
	}
	least, err := r.need(*in.Rerolls)
	if err != nil {
		return out, err
	}
	for rerolls := range *in.Rerolls + 1 {
		need, err := r.need(rerolls)
		if err != nil {
			continue
		}
		if need <= least*worthShare {
			rolled := r.roll(need, rerolls)
			for m := need + 1; m <= need*fewerShare; m++ {
				if next := r.roll(m, rerolls); len(next.Sheets) < len(rolled.Sheets) && next.Cut == rolled.Cut {
					rolled, need = next, m
				}
			}
			rolled.PerSheet, rolled.Full, rolled.Fits, rolled.NeedG = out.PerSheet, out.Full, out.Fits, need
			return rolled, nil
		}
	}
	return out, fault.New(fault.Unreachable, "rerolls", "No roll gives them.")
}

// size is a sheet that holds so many pieces.
type size struct {
	longMM, wideMM float64
	laid           []outline.Placement
}

// sizes finds for each count the least sheet that holds so many of the pieces of a full
// one, taken row by row, column by column or from a corner outward.
func sizes(ring outline.Ring, full []outline.Placement, edge float64, most int) []size {
	boxes := map[float64][2]outline.Point{}
	box := func(p outline.Placement) (lo, hi outline.Point) {
		b, known := boxes[p.Deg]
		if !known {
			b[0], b[1] = outline.Box([]outline.Ring{outline.Turned(ring, p.Deg)})
			boxes[p.Deg] = b
		}
		return outline.Point{b[0][0] + p.XMM, b[0][1] + p.YMM}, outline.Point{b[1][0] + p.XMM, b[1][1] + p.YMM}
	}
	n := len(full)
	if most > 0 {
		n = min(n, most)
	}
	out := make([]size, n)
	far := []func(p outline.Placement) float64{
		func(p outline.Placement) float64 { _, hi := box(p); return hi[1]*1e4 + hi[0] },
		func(p outline.Placement) float64 { _, hi := box(p); return hi[0]*1e4 + hi[1] },
		func(p outline.Placement) float64 { _, hi := box(p); return math.Max(hi[0], hi[1]) },
	}
	for _, by := range far {
		sorted := slices.Clone(full)
		slices.SortStableFunc(sorted, func(a, b outline.Placement) int {
			switch x, y := by(a), by(b); {
			case x < y-1e-9:
				return -1
			case x > y+1e-9:
				return 1
			}
			return 0
		})
		lo, hi := outline.Point{math.Inf(1), math.Inf(1)}, outline.Point{math.Inf(-1), math.Inf(-1)}
		for i := range n {
			a, b := box(sorted[i])
			for k := range 2 {
				lo[k], hi[k] = math.Min(lo[k], a[k]), math.Max(hi[k], b[k])
			}
			long, wide := hi[0]-lo[0]+2*edge, hi[1]-lo[1]+2*edge
			if s := &out[i]; s.laid == nil || long*wide < s.longMM*s.wideMM-1e-9 {
				laid := make([]outline.Placement, i+1)
				for j, p := range sorted[:i+1] { // the sheet begins at 0
					laid[j] = outline.Placement{XMM: p.XMM - lo[0] + edge, YMM: p.YMM - lo[1] + edge, Deg: p.Deg}
				}
				*s = size{long, wide, laid}
			}
		}
	}
	return out
}

// roller rolls a paste out.
type roller struct {
	in      *RollOutIn
	gPerMM2 float64
	pieceG  float64
	sheets  []size // by count, from 1
}

func (r *roller) grams(k int) float64 {
	return r.sheets[k-1].longMM * r.sheets[k-1].wideMM * r.gPerMM2
}

// need is the least whole grams that give all pieces.
func (r *roller) need(rerolls int) (float64, error) {
	lo, hi := 0.0, math.Ceil(float64(*r.in.Pieces)*r.pieceG*1.2)+1
	for r.roll(hi, rerolls).Cut < *r.in.Pieces {
		if lo, hi = hi, math.Ceil(hi*1.5); hi > mostRolled {
			return 0, fault.New(fault.OutOfRange, "pieces", "Over %d kg of paste: cut them in two orders.", mostRolled/1000)
		}
	}
	for hi-lo > 1 {
		mid := math.Floor((lo + hi) / 2)
		if r.roll(mid, rerolls).Cut >= *r.in.Pieces {
			hi = mid
		} else {
			lo = mid
		}
	}
	return hi, nil
}

// roll cuts what a paste gives.
func (r *roller) roll(m float64, rerolls int) (out RollOutOut) {
	left := *r.in.Pieces
	out.EndedBy = "tooDry"
	for roll := 0; roll <= rerolls && left > 0; roll++ {
		rolled, scrap := 0, 0.0
		for left > 0 {
			k := min(left, len(r.sheets))
			for k > 0 && r.grams(k) > m+1e-9 {
				k--
			}
			if k == 0 {
				break
			}
			s := r.sheets[k-1]
			g := r.grams(k)
			sheet := RolledSheet{Roll: roll, LongMM: s.longMM, WideMM: s.wideMM, G: g, Laid: s.laid, ScrapG: math.Max(0, g-float64(k)*r.pieceG)}
			out.Sheets = append(out.Sheets, sheet)
			m, scrap, left, rolled = m-g, scrap+sheet.ScrapG, left-k, rolled+1
		}
		m += scrap
		if rolled == 0 {
			out.EndedBy = "tooFew"
			break
		}
		if left > 0 && roll < rerolls {
			m *= 1 - *r.in.LossShare
		}
	}
	if left == 0 {
		out.EndedBy = "done"
	}
	out.Cut, out.LeftG = *r.in.Pieces-left, m
	return out
}
