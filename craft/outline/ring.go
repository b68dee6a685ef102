package outline

import (
	"fmt"
	"math"
	"strconv"
	"strings"

	"dustyfern/craft/fault"
)

// Ring is a closed line of corners, mm; the last one joins the first.
type Ring = []Point

// shapes of the table that fit into a box of any length and width, each inside the
// square from 0 to 1: count is the number of petals, points or sides.
var shapes = map[string]func(count int) Ring{
	"oval":        func(int) Ring { return round(96, func(float64) float64 { return 1 }) },
	"rectangle":   func(int) Ring { return Ring{{0, 0}, {1, 0}, {1, 1}, {0, 1}} },
	"triangle":    func(int) Ring { return Ring{{0, 0}, {1, 0}, {0.5, 1}} },
	"swallowtail": func(int) Ring { return Ring{{0, 0}, {1, 0}, {1, 1}, {0.5, 0.75}, {0, 1}} },
	"leaf":        func(int) Ring { return leafRing() },
	"drop":        func(int) Ring { return dropRing() },
	"blossom": func(n int) Ring {
		return round(24*n, func(th float64) float64 { return (1+usualValley)/2 + (1-usualValley)/2*math.Cos(float64(n)*th) })
	},
	"star":    func(n int) Ring { return corners(2*n, func(i int) float64 { return 1 - 0.5*float64(i%2) }) },
	"regular": func(n int) Ring { return corners(n, func(int) float64 { return 1 }) },
}

// Shapes are the names of the shapes that a box is filled with, as the table of shapes
// has them, and whether each asks for a count of petals, points or sides.
func Shapes() map[string]bool {
	out := map[string]bool{}
	for name := range shapes {
		out[name] = name == "blossom" || name == "star" || name == "regular"
	}
	return out
}

// InBox is a shape of the table drawn into a box, long along x and wide along y, mm;
// count is the number of petals, points or sides where the shape has them, 0 for the
// usual. Its errors are unknown_value on shape and out_of_range on the others.
func InBox(shape string, count int, long, wide float64) (Ring, error) {
	f := shapes[shape]
	if f == nil {
		return nil, fault.New(fault.UnknownValue, "shape", "There is no shape %q in the table of shapes.", shape)
	}
	if count == 0 {
		count = 5
	}
	if count < 3 || count > 100 {
		return nil, fault.New(fault.OutOfRange, "count", "Petals, points or sides: from 3 to 100, not %d.", count)
	}
	rings, err := Fit([]Ring{f(count)}, long, wide)
	if err != nil {
		return nil, err
	}
	return rings[0], nil
}

// Fit lays outlines into a box from 0, 0: long along x, wide along y, mm.
func Fit(rings []Ring, long, wide float64) ([]Ring, error) {
	if !(long >= 0.1 && long <= 1e4 && wide >= 0.1 && wide <= 1e4) {
		return nil, fault.New(fault.OutOfRange, "lengthMM", "A cutter is from 0.1 mm to 10 m long and wide, not %g by %g mm.", long, wide)
	}
	if len(rings) == 0 {
		return nil, fault.New(fault.Required, "path", "There is no outline.")
	}
	lo, hi := boxOf(rings)
	if hi[0]-lo[0] < 1e-9 || hi[1]-lo[1] < 1e-9 {
		return nil, fault.New(fault.OutOfRange, "path", "This outline encloses nothing.")
	}
	out := make([]Ring, len(rings))
	for i, r := range rings {
		out[i] = make(Ring, len(r))
		for k, p := range r {
			out[i][k] = Point{(p[0] - lo[0]) / (hi[0] - lo[0]) * long, (p[1] - lo[1]) / (hi[1] - lo[1]) * wide}
		}
	}
	return out, nil
}

// PathText is outlines as SVG path data, mm to two decimals.
func PathText(rings []Ring) string {
	var b strings.Builder
	f := func(x float64) string {
		s := strconv.FormatFloat(math.Round(x*100)/100, 'f', -1, 64)
		if s == "-0" {
			return "0"
		}
		return s
	}
	for _, r := range rings {
		for i, p := range r {
			b.WriteString(map[bool]string{true: "M", false: "L"}[i == 0])
			b.WriteString(f(p[0]) + " " + f(p[1]))
		}
		b.WriteByte('Z')
	}
	return b.String()
}

// FromPath reads outlines back from path data in mm.
func FromPath(path string) ([]Ring, error) { return ringsOf(&path, nil, curveMM) }

// curveMM is how far a chord may lie beside its curve.
const curveMM = 0.05

// AreaMM2 of outlines with their holes.
func AreaMM2(rings []Ring) float64 { return areaOf(rings) }

// Box is the least and the greatest corner of outlines.
func Box(rings []Ring) (lo, hi Point) { return boxOf(rings) }

// Outer is the ring that encloses most: what a sheet must have room for.
func Outer(rings []Ring) Ring {
	var best Ring
	most := -1.0
	for _, r := range rings {
		if a := math.Abs(shoelace(r)); a > most {
			best, most = r, a
		}
	}
	return best
}

// Corners are a ring as a question of a topic takes it.
func Corners(r Ring) [][]float64 {
	out := make([][]float64, len(r))
	for i, p := range r {
		out[i] = []float64{p[0], p[1]}
	}
	return out
}

// Turned is a ring turned about the origin, counter-clockwise in a picture whose y
// runs up.
func Turned(r Ring, deg float64) Ring { return turned(r, deg) }

// Simpler leaves out corners that lie within tolerance of the line between those that
// stay (Douglas and Peucker 1973).
func Simpler(r Ring, tolerance float64) Ring {
	if len(r) < 5 {
		return r
	}
	far, at := 0.0, 0 // two far corners split the ring into two lines
	for i, p := range r {
		if d := math.Hypot(p[0]-r[0][0], p[1]-r[0][1]); d > far {
			far, at = d, i
		}
	}
	keep := make([]bool, len(r)+1)
	keep[0], keep[at], keep[len(r)] = true, true, true
	closed := append(append(Ring{}, r...), r[0])
	type span struct{ a, b int }
	for todo := []span{{0, at}, {at, len(r)}}; len(todo) > 0; {
		s := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		worst, k := tolerance, -1
		for i := s.a + 1; i < s.b; i++ {
			if d := toSegment(closed[i], closed[s.a], closed[s.b]); d > worst {
				worst, k = d, i
			}
		}
		if k >= 0 {
			keep[k] = true
			todo = append(todo, span{s.a, k}, span{k, s.b})
		}
	}
	var out Ring
	for i, p := range r {
		if keep[i] {
			out = append(out, p)
		}
	}
	if len(out) < 3 {
		return r
	}
	return out
}

// round is a ring whose radius is a function of the turn, as a share of the greatest.
func round(steps int, radius func(th float64) float64) Ring {
	out := make(Ring, steps)
	for i := range out {
		th := 2 * math.Pi * float64(i) / float64(steps)
		out[i] = Point{0.5 + radius(th)/2*math.Sin(th), 0.5 - radius(th)/2*math.Cos(th)}
	}
	return out
}

// corners are those of a star or of a regular outline, the first one up.
func corners(n int, radius func(i int) float64) Ring {
	return round(n, func(th float64) float64 { return radius(int(math.Round(th * float64(n) / 2 / math.Pi))) })
}

// leafRing is two arcs from tip to tip along x, half as wide as long: stretched into
// its box it keeps its tips.
func leafRing() Ring {
	const l, h = 1.0, 0.25
	r := (l*l/4 + h*h) / (2 * h)
	half := math.Asin(l / 2 / r)
	var out Ring
	for i := range 25 {
		a := -half + 2*half*float64(i)/24
		out = append(out, Point{0.5 + r*math.Sin(a), 0.5 - (r*math.Cos(a) - (r - h))})
	}
	for i := 23; i > 0; i-- {
		out = append(out, Point{out[i][0], 1 - out[i][1]})
	}
	return out
}

// dropRing is a disc with tangents to its tip at 0.
func dropRing() Ring {
	const r, tip = 0.3, 0.7 // of a length of 1: the middle of the disc lies tip from the tip
	open := math.Acos(r / tip)
	out := Ring{{0, 0.5}}
	for i := range 49 {
		a := math.Pi - open - (2*math.Pi-2*open)*float64(i)/48
		out = append(out, Point{tip + r*math.Cos(a), 0.5 - r*math.Sin(a)})
	}
	return out
}

// Place says where something is wrong in a file.
func place(line, col int, say string, args ...any) error {
	return fault.New(fault.Syntax, "file", "Line %d, character %d: %s", line, col, fmt.Sprintf(say, args...))
}
