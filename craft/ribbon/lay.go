package ribbon

import (
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// LayIn asks how strips of one width are cut from sheets.
type LayIn struct {
	SheetLongMM *float64  `json:"sheetLongMM" need:"true" in:"length"`
	SheetWideMM *float64  `json:"sheetWideMM" need:"true" in:"length"`
	StripWideMM *float64  `json:"stripWideMM" need:"true" in:"length"`
	LengthsMM   []float64 `json:"lengthsMM" most:"20000" in:"length"`
	EdgeMM      *float64  `json:"edgeMM" def:"3" in:"0..100"`
	Most        *int      `json:"most" def:"0" in:"0..100000"` // that may lie cut at once; 0: as many as fit
}

// LaidStrip is one strip: which of the lengths asked for, and where its corner lies.
type LaidStrip struct {
	Of       int
	XMM, YMM float64
}

// StripSheet is one sheet with its strips, no larger than they need with their rim.
type StripSheet struct {
	LongMM, WideMM float64
	Strips         []LaidStrip
}

// Lay cuts strips from as few sheets as it finds: the longest first, each into the first
// row that still has room for it, lengthwise along the sheet. A strip that is longer than
// the sheet gets a sheet as long as itself: it is guided off the end of the board. Faults:
// required and out_of_range on the fields of LayIn, unreachable on stripWideMM.
func Lay(in LayIn) ([]StripSheet, error) {
	if err := fault.Check(&in); err != nil {
		return nil, err
	}
	e, wide := *in.EdgeMM, *in.StripWideMM
	rows := int(math.Floor((*in.SheetWideMM-2*e)/wide + slack))
	if rows < 1 {
		return nil, fault.New(fault.Unreachable, "stripWideMM", "A strip of %g mm with its rim is wider than the sheet, %g mm.", wide, *in.SheetWideMM)
	}
	order := make([]int, len(in.LengthsMM))
	for i := range order {
		order[i] = i
	}
	slices.SortStableFunc(order, func(a, b int) int {
		switch x, y := in.LengthsMM[a], in.LengthsMM[b]; {
		case x > y:
			return -1
		case x < y:
			return 1
		}
		return 0
	})
	long := *in.SheetLongMM - 2*e
	for _, l := range in.LengthsMM {
		long = math.Max(long, l)
	}
	var out []StripSheet
	var used [][]float64 // of each sheet, of each row
	for _, i := range order {
		l := in.LengthsMM[i]
		placed := false
		for s := range out {
			if placed = *in.Most == 0 || len(out[s].Strips) < *in.Most; !placed {
				continue
			}
			row := slices.IndexFunc(used[s], func(x float64) bool { return x+l <= long+slack })
			if placed = row >= 0 || len(used[s]) < rows; !placed {
				continue
			}
			if row < 0 {
				row, used[s] = len(used[s]), append(used[s], 0)
			}
			put(&out[s], used[s], row, i, l, e, wide)
			break
		}
		if !placed {
			out, used = append(out, StripSheet{}), append(used, []float64{0})
			put(&out[len(out)-1], used[len(used)-1], 0, i, l, e, wide)
		}
	}
	return out, nil
}

func put(s *StripSheet, used []float64, row, of int, l, e, wide float64) {
	s.Strips = append(s.Strips, LaidStrip{of, e + used[row], e + float64(row)*wide})
	used[row] += l
	s.LongMM = math.Max(s.LongMM, used[row]+2*e)
	s.WideMM = math.Max(s.WideMM, float64(row+1)*wide+2*e)
}
