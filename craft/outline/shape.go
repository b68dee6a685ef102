// Package outline is shapes: their areas, their paths, what they become when they
// are grown or shrunk, and how many of them a sheet gives. See
// docs/models/quantity.md, 5 and 10.
package outline

import (
	"math"
	"sort"

	"dustyfern/craft/fault"
)

const slack = 1e-9

// Point is a place on the sheet, mm.
type Point [2]float64

// Shape is an outline by its name and the measures of that name, mm.
type Shape struct {
	Shape         *string     `json:"shape" need:"true" of:"circle oval rectangle triangle regular blossom leaf drop swallowtail star letter cloud polygon"`
	DiameterMM    *float64    `json:"diameterMM" in:"length"`
	LengthMM      *float64    `json:"lengthMM" in:"length"`
	WidthMM       *float64    `json:"widthMM" in:"length"`
	CornerMM      *float64    `json:"cornerMM" in:"0..10000"`
	HeightMM      *float64    `json:"heightMM" in:"length"`
	Sides         *int        `json:"sides" in:"3..100"`
	AcrossFlatsMM *float64    `json:"acrossFlatsMM" in:"length"`
	Valley        *float64    `json:"valley"`
	NotchMM       *float64    `json:"notchMM" in:"0..10000"`
	Points        *int        `json:"points" in:"3..100"`
	Inner         *float64    `json:"inner"`
	StrokeMM      *float64    `json:"strokeMM" in:"length"`
	Discs         [][]float64 `json:"discs" most:"500"`
	PolygonMM     [][]float64 `json:"polygonMM" most:"20000"`
}

// What an average capital letter covers, by height and stroke (assumed), and the
// valley of a blossom between its petals.
const (
	letterShare = 2.4
	usualValley = 0.6
)

// area gives mm² and the fault of a measure that is missing or misshapen; its
// path begins with "outline.".
func (s *Shape) area() (float64, error) {
	need := func(field string, p *float64) (float64, error) {
		if p == nil {
			return 0, fault.New(fault.Required, "outline."+field, "A %s needs its %s.", *s.Shape, field)
		}
		return *p, nil
	}
	two := func(f string, p *float64, g string, q *float64) (a, b float64, err error) {
		if a, err = need(f, p); err == nil {
			b, err = need(g, q)
		}
		return a, b, err
	}
	or := func(p *float64, usual float64) float64 {
		if p == nil {
			return usual
		}
		return *p
	}
	wrong := func(field, say string, args ...any) error {
		return fault.New(fault.Contradiction, "outline."+field, say, args...)
	}
	switch *s.Shape {
	case "circle":
		d, err := need("diameterMM", s.DiameterMM)
		return math.Pi * d * d / 4, err
	case "oval":
		l, w, err := two("lengthMM", s.LengthMM, "widthMM", s.WidthMM)
		return math.Pi * l * w / 4, err
	case "rectangle":
		l, w, err := two("lengthMM", s.LengthMM, "widthMM", s.WidthMM)
		r := or(s.CornerMM, 0)
		if most := math.Min(l, w) / 2; err == nil && r > most+slack {
			err = wrong("cornerMM", "A corner is rounded by at most half of the short side, %.1f mm.", most)
		}
		return l*w - (4-math.Pi)*r*r, err
	case "triangle":
		w, h, err := two("widthMM", s.WidthMM, "heightMM", s.HeightMM)
		return w * h / 2, err
	case "regular":
		if s.Sides == nil {
			return 0, fault.New(fault.Required, "outline.sides", "A regular outline needs the number of its sides.")
		}
		f, err := need("acrossFlatsMM", s.AcrossFlatsMM)
		n := float64(*s.Sides)
		return n * f * f / 4 * math.Tan(math.Pi/n), err
	case "blossom":
		d, err := need("diameterMM", s.DiameterMM)
		v := or(s.Valley, usualValley)
		if err == nil && !(v > 0 && v <= 1) {
			err = fault.New(fault.OutOfRange, "outline.valley", "The valley between the petals lies over 0 and up to 1 of the radius.")
		}
		a, b := d*(1+v)/4, d*(1-v)/4
		return math.Pi * (a*a + b*b/2), err
	case "leaf", "drop":
		l, w, err := two("lengthMM", s.LengthMM, "widthMM", s.WidthMM)
		if err != nil {
			return 0, err
		}
		if w > l+slack {
			return 0, wrong("widthMM", "A %s is at most as wide as long, %.1f mm.", *s.Shape, l)
		}
		if *s.Shape == "leaf" {
			h := w / 2
			r := (l*l/4 + h*h) / (2 * h)
			return 2 * (r*r*math.Acos((r-h)/r) - (r-h)*l/2), nil
		}
		r := w / 2
		c := l - r
		return r*math.Sqrt(math.Max(0, c*c-r*r)) + r*r*(math.Pi-math.Acos(math.Min(1, r/c))), nil
	case "swallowtail":
		w, h, err := two("widthMM", s.WidthMM, "heightMM", s.HeightMM)
		m := or(s.NotchMM, 0)
		if err == nil && m > h+slack {
			err = wrong("notchMM", "The notch is at most as deep as the flag is high, %.1f mm.", h)
		}
		return w * (h - m/2), err
	case "star":
		if s.Points == nil {
			return 0, fault.New(fault.Required, "outline.points", "A star needs the number of its points.")
		}
		d, k, err := two("diameterMM", s.DiameterMM, "inner", s.Inner)
		if err == nil && !(k > 0 && k < 1) {
			err = fault.New(fault.OutOfRange, "outline.inner", "The inner corners of a star lie between 0 and 1 of its radius.")
		}
		n := float64(*s.Points)
		return n * d * d / 4 * k * math.Sin(math.Pi/n), err
	case "letter":
		h, q, err := two("heightMM", s.HeightMM, "strokeMM", s.StrokeMM)
		return letterShare * h * q, err
	case "cloud":
		return union(s.Discs)
	}
	ring, err := polygon("outline.polygonMM", s.PolygonMM)
	if err != nil {
		return 0, err
	}
	return math.Abs(shoelace(ring)), nil
}

// polygon reads corners; field is the path that a fault names.
func polygon(field string, corners [][]float64) ([]Point, error) {
	if len(corners) < 3 {
		return nil, fault.New(fault.Required, field, "An outline has three corners or more.")
	}
	out := make([]Point, len(corners))
	for i, c := range corners {
		if len(c) != 2 {
			return nil, fault.New(fault.Syntax, field, "A corner is [x, y] in mm.")
		}
		for _, x := range c {
			if !(math.Abs(x) <= 1e5) {
				return nil, fault.New(fault.OutOfRange, field, "A corner lies within 100 m.")
			}
		}
		out[i] = Point{c[0], c[1]}
	}
	return out, nil
}

// shoelace is the signed area of a ring, over 0 when it runs counter-clockwise.
func shoelace(ring []Point) (a float64) {
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		a += p[0]*q[1] - q[0]*p[1]
	}
	return a / 2
}

// union is the area that discs [x, y, r] cover together: the sum over arcs that no
// other disc covers (Green).
func union(discs [][]float64) (float64, error) {
	if len(discs) == 0 {
		return 0, fault.New(fault.Required, "outline.discs", "A cloud needs its discs, [x, y, radius] in mm each.")
	}
	type disc struct{ x, y, r float64 }
	var all []disc
	for _, d := range discs {
		if len(d) != 3 {
			return 0, fault.New(fault.Syntax, "outline.discs", "A disc is [x, y, radius] in mm.")
		}
		if !(d[2] > 0 && d[2] <= 1e4 && math.Abs(d[0]) <= 1e5 && math.Abs(d[1]) <= 1e5) {
			return 0, fault.New(fault.OutOfRange, "outline.discs", "A disc has a radius over 0 and up to 10 m.")
		}
		n := disc{d[0], d[1], d[2]}
		inside := false
		for _, o := range all {
			inside = inside || math.Hypot(o.x-n.x, o.y-n.y)+n.r <= o.r+slack
		}
		if !inside {
			all = append(all, n)
		}
	}
	area := 0.0
	for i, d := range all {
		var covered [][2]float64
		whole := false
		for j, o := range all {
			l := math.Hypot(o.x-d.x, o.y-d.y)
			switch {
			case i == j || l >= d.r+o.r:
				continue
			case l+d.r <= o.r+slack: // it lies in the other
				whole = whole || l+o.r > d.r+slack || j < i
				continue
			case l+o.r <= d.r:
				continue
			}
			mid := math.Atan2(o.y-d.y, o.x-d.x)
			half := math.Acos(math.Max(-1, math.Min(1, (l*l+d.r*d.r-o.r*o.r)/(2*l*d.r))))
			a, b := math.Mod(mid-half+4*math.Pi, 2*math.Pi), math.Mod(mid+half+4*math.Pi, 2*math.Pi)
			if a > b {
				covered = append(covered, [2]float64{a, 2 * math.Pi}, [2]float64{0, b})
			} else {
				covered = append(covered, [2]float64{a, b})
			}
		}
		if whole {
			continue
		}
		sort.Slice(covered, func(a, b int) bool { return covered[a][0] < covered[b][0] })
		arc := func(a, b float64) float64 {
			return d.r / 2 * (d.r*(b-a) + d.x*(math.Sin(b)-math.Sin(a)) - d.y*(math.Cos(b)-math.Cos(a)))
		}
		at := 0.0
		for _, c := range covered {
			if c[0] > at {
				area += arc(at, c[0])
			}
			at = math.Max(at, c[1])
		}
		if at < 2*math.Pi {
			area += arc(at, 2*math.Pi)
		}
	}
	return area, nil
}

// AreaIn is an outline, or an area, or the mass of what is rolled.
type AreaIn struct {
	Outline       *Shape   `json:"outline"`
	AreaMM2       *float64 `json:"areaMM2" in:"area"`
	MassG         *float64 `json:"massG" in:"mass"`
	ThicknessMM   *float64 `json:"thicknessMM" in:"thickness"`
	DensityGPerML *float64 `json:"densityGPerML" def:"1.35" in:"density"`
}

// AreaOut is the area, and the mass when a thickness is known.
type AreaOut struct {
	AreaMM2 float64  `json:"areaMM2"`
	MassG   *float64 `json:"massG,omitempty"`
}

// Area measures a shape, m = rho A t / 1000, or what a mass gives when it is
// rolled: A = 1000 m / (rho t).
func Area(in AreaIn) (AreaOut, error) {
	var out AreaOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	switch {
	case in.Outline == nil && in.AreaMM2 == nil && in.MassG == nil:
		return out, fault.New(fault.Required, "outline", "Say the outline, its area, or the mass that is rolled.")
	case in.Outline != nil && in.AreaMM2 != nil:
		return out, fault.New(fault.Contradiction, "areaMM2", "The outline gives the area: say one of the two.")
	case in.MassG != nil && (in.Outline != nil || in.AreaMM2 != nil):
		return out, fault.New(fault.Contradiction, "massG", "The mass follows from the area: say one of the two.")
	case in.MassG != nil && in.ThicknessMM == nil:
		return out, fault.New(fault.Required, "thicknessMM", "How thin is it rolled?")
	}
	if in.MassG != nil {
		out.AreaMM2, out.MassG = 1000**in.MassG/(*in.DensityGPerML**in.ThicknessMM), in.MassG
		return out, nil
	}
	if in.AreaMM2 != nil {
		out.AreaMM2 = *in.AreaMM2
	} else {
		a, err := in.Outline.area()
		if err != nil {
			return out, err
		}
		out.AreaMM2 = a
	}
	if in.ThicknessMM != nil {
		out.MassG = new(out.AreaMM2 * *in.ThicknessMM * *in.DensityGPerML / 1000)
	}
	return out, nil
}
