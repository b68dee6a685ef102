package outline

import (
	"errors"
	"fmt"
	"math"
	"strconv"
	"strings"

	"dustyfern/craft/fault"
)

const mostPoints = 200_000

var errTooLong = errors.New("too many points")

// pen follows the commands of SVG path data and keeps the rings that are closed.
type pen struct {
	text      string
	at        int
	tolerance float64
	here      Point
	start     Point
	control   Point // of the last curve, for a smooth one
	last      byte
	line      []Point
	rings     [][]Point
	points    int
}

// parsePath reads SVG path data (M L H V C S Q T A Z, absolute and relative) as
// closed rings of points, curves within tolerance of their chord, mm.
func parsePath(text string, tolerance float64) ([][]Point, error) {
	p := &pen{text: text, tolerance: tolerance}
	for {
		p.space()
		if p.at == len(p.text) {
			break
		}
		c := p.text[p.at]
		if !strings.ContainsRune("MmLlHhVvCcSsQqTtAaZz", rune(c)) {
			return nil, fmt.Errorf("%q at character %d is no command of a path", c, p.at+1)
		}
		if p.last == 0 && c != 'M' && c != 'm' {
			return nil, fmt.Errorf("a path begins with M")
		}
		p.at++
		if err := p.commands(c); err != nil {
			return nil, err
		}
	}
	p.end()
	return p.rings, nil
}

func (p *pen) commands(c byte) error {
	for first := true; ; first = false {
		if c|0x20 == 'z' {
			p.close()
			p.last = c
			return nil
		}
		if !first && !p.more() {
			return nil
		}
		if !first && c == 'M' {
			c = 'L'
		} else if !first && c == 'm' {
			c = 'l'
		}
		if err := p.one(c); err != nil {
			return err
		}
		p.last = c
	}
}

// one command with its numbers.
func (p *pen) one(c byte) error {
	count := map[byte]int{'m': 2, 'l': 2, 'h': 1, 'v': 1, 'c': 6, 's': 4, 'q': 4, 't': 2, 'a': 7}[c|0x20]
	var v [7]float64
	for i := range count {
		x, err := p.number(c|0x20 == 'a' && (i == 3 || i == 4))
		if err != nil {
			return err
		}
		v[i] = x
	}
	base := Point{}
	if c >= 'a' {
		base = p.here
	}
	at := func(i int) Point { return Point{base[0] + v[i], base[1] + v[i+1]} }
	switch c | 0x20 {
	case 'm':
		p.end()
		p.here = at(0)
		p.start, p.line = p.here, []Point{p.here}
		return nil
	case 'l':
		return p.to(at(0))
	case 'h':
		return p.to(Point{base[0] + v[0], p.here[1]})
	case 'v':
		return p.to(Point{p.here[0], base[1] + v[0]})
	case 'c':
		return p.cubic(at(0), at(2), at(4))
	case 's':
		return p.cubic(p.mirrored("cCsS"), at(0), at(2))
	case 'q':
		return p.quadratic(at(0), at(2))
	case 't':
		return p.quadratic(p.mirrored("qQtT"), at(0))
	}
	return p.arc(math.Abs(v[0]), math.Abs(v[1]), v[2]*math.Pi/180, v[3] != 0, v[4] != 0, at(5))
}

func (p *pen) mirrored(after string) Point {
	if strings.IndexByte(after, p.last) < 0 {
		return p.here
	}
	return Point{2*p.here[0] - p.control[0], 2*p.here[1] - p.control[1]}
}

func (p *pen) to(q Point) error {
	if math.Abs(q[0]) > 1e6 || math.Abs(q[1]) > 1e6 {
		return errTooLong
	}
	if p.points++; p.points > mostPoints {
		return errTooLong
	}
	if len(p.line) == 0 { // after Z the next one begins where the ring did
		p.line = []Point{p.here}
		p.start = p.here
	}
	if p.line[len(p.line)-1] != q {
		p.line = append(p.line, q)
	}
	p.here = q
	return nil
}

// parts of a curve whose second difference is d: its chord error is d/(8 n²).
func (p *pen) parts(d float64) int {
	return max(1, min(mostPoints, int(math.Ceil(math.Sqrt(d/(8*p.tolerance))))))
}

func (p *pen) cubic(a, b, q Point) error {
	s := p.here
	d := math.Max(math.Hypot(s[0]-2*a[0]+b[0], s[1]-2*a[1]+b[1]), math.Hypot(a[0]-2*b[0]+q[0], a[1]-2*b[1]+q[1]))
	n := p.parts(6 * d)
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		u := 1 - t
		f := func(k int) float64 { return u*u*u*s[k] + 3*u*u*t*a[k] + 3*u*t*t*b[k] + t*t*t*q[k] }
		if err := p.to(Point{f(0), f(1)}); err != nil {
			return err
		}
	}
	p.control = b
	return nil
}

func (p *pen) quadratic(a, q Point) error {
	s := p.here
	n := p.parts(2 * math.Hypot(s[0]-2*a[0]+q[0], s[1]-2*a[1]+q[1]))
	for i := 1; i <= n; i++ {
		t := float64(i) / float64(n)
		u := 1 - t
		if err := p.to(Point{u*u*s[0] + 2*u*t*a[0] + t*t*q[0], u*u*s[1] + 2*u*t*a[1] + t*t*q[1]}); err != nil {
			return err
		}
	}
	p.control = a
	return nil
}

// arc of an ellipse, from its end points to its middle (SVG 1.1, F.6).
func (p *pen) arc(rx, ry, turn float64, large, sweep bool, q Point) error {
	s := p.here
	if rx == 0 || ry == 0 || s == q {
		return p.to(q)
	}
	sin, cos := math.Sincos(turn)
	dx, dy := (s[0]-q[0])/2, (s[1]-q[1])/2
	x, y := cos*dx+sin*dy, -sin*dx+cos*dy
	if l := x*x/(rx*rx) + y*y/(ry*ry); l > 1 {
		rx, ry = rx*math.Sqrt(l), ry*math.Sqrt(l)
	}
	k := math.Sqrt(math.Max(0, (rx*rx*ry*ry-rx*rx*y*y-ry*ry*x*x)/(rx*rx*y*y+ry*ry*x*x)))
	if large == sweep {
		k = -k
	}
	cx, cy := k*rx*y/ry, -k*ry*x/rx
	mx, my := cos*cx-sin*cy+(s[0]+q[0])/2, sin*cx+cos*cy+(s[1]+q[1])/2
	from := math.Atan2((y-cy)/ry, (x-cx)/rx)
	by := math.Atan2((-y-cy)/ry, (-x-cx)/rx) - from
	if sweep && by < 0 {
		by += 2 * math.Pi
	} else if !sweep && by > 0 {
		by -= 2 * math.Pi
	}
	step := 2 * math.Acos(math.Max(0, 1-p.tolerance/math.Max(rx, ry)))
	n := max(1, min(mostPoints, int(math.Ceil(math.Abs(by)/math.Max(step, 1e-4)))))
	for i := 1; i < n; i++ {
		a := from + by*float64(i)/float64(n)
		ex, ey := rx*math.Cos(a), ry*math.Sin(a)
		if err := p.to(Point{mx + cos*ex - sin*ey, my + sin*ex + cos*ey}); err != nil {
			return err
		}
	}
	return p.to(q)
}

// close ends a ring.
func (p *pen) close() {
	if n := len(p.line); n > 1 && p.line[n-1] == p.start {
		p.line = p.line[:n-1]
	}
	if len(p.line) >= 3 {
		p.rings = append(p.rings, p.line)
	}
	p.here, p.line = p.start, nil
}

// end takes a line that came back to where it began for a ring.
func (p *pen) end() {
	if n := len(p.line); n > 3 && math.Hypot(p.line[n-1][0]-p.start[0], p.line[n-1][1]-p.start[1]) < 1e-6 {
		p.close()
	}
	p.line = nil
}

func (p *pen) space() {
	for p.at < len(p.text) && strings.IndexByte(" \t\r\n\f,", p.text[p.at]) >= 0 {
		p.at++
	}
}

// more tells whether another number follows.
func (p *pen) more() bool {
	p.space()
	return p.at < len(p.text) && strings.IndexByte("+-.0123456789", p.text[p.at]) >= 0
}

func (p *pen) number(flag bool) (float64, error) {
	p.space()
	from := p.at
	if flag {
		if p.at == len(p.text) || p.text[p.at] != '0' && p.text[p.at] != '1' {
			return 0, fmt.Errorf("an arc has 0 or 1 at character %d", from+1)
		}
		p.at++
		return float64(p.text[from] - '0'), nil
	}
	digits := func() {
		for p.at < len(p.text) && p.text[p.at] >= '0' && p.text[p.at] <= '9' {
			p.at++
		}
	}
	is := func(of string) bool { return p.at < len(p.text) && strings.IndexByte(of, p.text[p.at]) >= 0 }
	if is("+-") {
		p.at++
	}
	digits()
	if is(".") {
		p.at++
		digits()
	}
	if is("eE") {
		p.at++
		if is("+-") {
			p.at++
		}
		digits()
	}
	x, err := strconv.ParseFloat(p.text[from:p.at], 64)
	if err != nil {
		return 0, fmt.Errorf("a number is missing at character %d", from+1)
	}
	return x, nil
}

// ringsOf reads the one of a path or rings that is given.
func ringsOf(path *string, ringsMM [][][]float64, tolerance float64) ([][]Point, error) {
	if path == nil && len(ringsMM) == 0 || path != nil && strings.TrimSpace(*path) == "" {
		return nil, fault.New(fault.Required, "path", "Draw an outline: path data in mm, or its rings.")
	}
	if path != nil && len(ringsMM) > 0 {
		return nil, fault.New(fault.Contradiction, "ringsMM", "The path gives the rings: say one of the two.")
	}
	var rings [][]Point
	if path != nil {
		var err error
		if rings, err = parsePath(*path, tolerance); errors.Is(err, errTooLong) {
			return nil, fault.New(fault.OutOfRange, "path", "The path has over %d points, or one beyond a kilometre.", mostPoints)
		} else if err != nil {
			return nil, fault.New(fault.Syntax, "path", "This is no path: %v.", err)
		}
	} else {
		n := 0
		for i, r := range ringsMM {
			ring, err := polygon(fmt.Sprintf("ringsMM[%d]", i), r)
			if err != nil {
				return nil, err
			}
			if n += len(ring); n > mostPoints {
				return nil, fault.New(fault.OutOfRange, "ringsMM", "Over %d points: simplify the outline.", mostPoints)
			}
			rings = append(rings, ring)
		}
	}
	if len(rings) == 0 {
		return nil, fault.New(fault.Required, "path", "Nothing in it is closed: end each ring with Z.")
	}
	return rings, nil
}

func areaOf(rings [][]Point) (a float64) {
	for _, r := range rings {
		a += shoelace(r)
	}
	return math.Abs(a)
}

func perimeterOf(rings [][]Point) (l float64) {
	for _, r := range rings {
		for i, p := range r {
			q := r[(i+1)%len(r)]
			l += math.Hypot(q[0]-p[0], q[1]-p[1])
		}
	}
	return l
}

func boxOf(rings [][]Point) (lo, hi Point) {
	lo, hi = Point{math.Inf(1), math.Inf(1)}, Point{math.Inf(-1), math.Inf(-1)}
	for _, r := range rings {
		for _, p := range r {
			for k := range 2 {
				lo[k], hi[k] = math.Min(lo[k], p[k]), math.Max(hi[k], p[k])
			}
		}
	}
	return lo, hi
}
