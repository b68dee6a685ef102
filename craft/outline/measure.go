package outline

import (
	"math"

	"dustyfern/craft/fault"
)

// MeasureIn is an outline from a picture, and the face that it goes on.
type MeasureIn struct {
	Path         *string       `json:"path"`
	RingsMM      [][][]float64 `json:"ringsMM" most:"2000"`
	ToleranceMM  *float64      `json:"toleranceMM" def:"0.05" in:"0.001..10"`
	FaceRoundMM  *float64      `json:"faceRoundMM" in:"length"`
	FaceWidthMM  *float64      `json:"faceWidthMM" in:"length"`
	FaceHeightMM *float64      `json:"faceHeightMM" in:"length"`
	ClearanceMM  *float64      `json:"clearanceMM" def:"0" in:"0..1000"`
	BorderMM     *float64      `json:"borderMM" def:"0" in:"0..1000"`
}

// MeasureOut is what it measures; Scale is by how much it may grow to fill the
// face.
type MeasureOut struct {
	AreaMM2        float64  `json:"areaMM2"`
	PerimeterMM    float64  `json:"perimeterMM"`
	WidthMM        float64  `json:"widthMM"`
	HeightMM       float64  `json:"heightMM"`
	CircleRadiusMM float64  `json:"circleRadiusMM"`
	CircleCentreMM Point    `json:"circleCentreMM"`
	Rings          int      `json:"rings"`
	Scale          *float64 `json:"scale,omitempty"`
}

// Measure measures an outline with its holes, and fits it on a face.
func Measure(in MeasureIn) (MeasureOut, error) {
	var out MeasureOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	rings, err := ringsOf(in.Path, in.RingsMM, *in.ToleranceMM)
	if err != nil {
		return out, err
	}
	lo, hi := boxOf(rings)
	out = MeasureOut{AreaMM2: areaOf(rings), PerimeterMM: perimeterOf(rings), WidthMM: hi[0] - lo[0], HeightMM: hi[1] - lo[1], Rings: len(rings)}
	out.CircleCentreMM, out.CircleRadiusMM = enclosing(rings)
	margin := *in.ClearanceMM + *in.BorderMM
	switch {
	case in.FaceRoundMM != nil && (in.FaceWidthMM != nil || in.FaceHeightMM != nil):
		return out, fault.New(fault.Contradiction, "faceWidthMM", "A face is round or has a width and a height: say one of the two.")
	case in.FaceRoundMM != nil:
		out.Scale = new((*in.FaceRoundMM/2 - margin) / out.CircleRadiusMM)
	case in.FaceWidthMM != nil && in.FaceHeightMM == nil:
		return out, fault.New(fault.Required, "faceHeightMM", "How high is the face?")
	case in.FaceWidthMM == nil && in.FaceHeightMM != nil:
		return out, fault.New(fault.Required, "faceWidthMM", "How wide is the face?")
	case in.FaceWidthMM != nil:
		out.Scale = new(math.Min((*in.FaceWidthMM-2*margin)/out.WidthMM, (*in.FaceHeightMM-2*margin)/out.HeightMM))
	}
	if out.Scale != nil && !(*out.Scale > 0) {
		return out, fault.New(fault.Unreachable, "clearanceMM", "Clearance and border of %.1f mm leave no room on this face.", margin)
	}
	if out.AreaMM2 == 0 && out.CircleRadiusMM == 0 {
		return out, fault.New(fault.OutOfRange, "path", "This outline encloses nothing.")
	}
	return out, nil
}

// enclosing is the smallest circle round all points (Welzl 1991, move to front).
func enclosing(rings [][]Point) (c Point, r float64) {
	var ps []Point
	for _, ring := range rings {
		ps = append(ps, ring...)
	}
	out := func(p Point) bool { return math.Hypot(p[0]-c[0], p[1]-c[1]) > r*(1+1e-12)+1e-12 }
	c, r = ps[0], 0
	for i, p := range ps {
		if !out(p) {
			continue
		}
		c, r = p, 0
		for j, q := range ps[:i] {
			if !out(q) {
				continue
			}
			c, r = Point{(p[0] + q[0]) / 2, (p[1] + q[1]) / 2}, math.Hypot(p[0]-q[0], p[1]-q[1])/2
			for _, s := range ps[:j] {
				if out(s) {
					c, r = through(p, q, s)
				}
			}
		}
	}
	return c, r
}

// through is the circle through three points, or round the two that lie farthest
// apart when they lie in a line.
func through(p, q, s Point) (Point, float64) {
	ax, ay, bx, by := q[0]-p[0], q[1]-p[1], s[0]-p[0], s[1]-p[1]
	d := 2 * (ax*by - ay*bx)
	if math.Abs(d) < 1e-12 {
		far, a, b := 0.0, p, q
		for _, x := range [3][2]Point{{p, q}, {p, s}, {q, s}} {
			if l := math.Hypot(x[0][0]-x[1][0], x[0][1]-x[1][1]); l > far {
				far, a, b = l, x[0], x[1]
			}
		}
		return Point{(a[0] + b[0]) / 2, (a[1] + b[1]) / 2}, far / 2
	}
	ux := (by*(ax*ax+ay*ay) - ay*(bx*bx+by*by)) / d
	uy := (ax*(bx*bx+by*by) - bx*(ax*ax+ay*ay)) / d
	return Point{p[0] + ux, p[1] + uy}, math.Hypot(ux, uy)
}
