package outline

import (
	"encoding/xml"
	"math"
	"strconv"
	"strings"
)

// asPath turns the plain shapes into path data.
func (r *svgReader) asPath(s xml.StartElement) (string, error) {
	f := func(x float64) string { return strconv.FormatFloat(x, 'g', -1, 64) }
	v := map[string]float64{}
	for _, name := range []string{"x", "y", "width", "height", "rx", "ry", "r", "cx", "cy"} {
		if s.Name.Local == "path" || s.Name.Local == "polygon" || s.Name.Local == "polyline" {
			break
		}
		x, err := r.user(s, name)
		if err != nil {
			return "", err
		}
		v[name] = x
	}
	ellipse := func(rx, ry float64) string {
		if !(rx > 0 && ry > 0) {
			return ""
		}
		a := "a" + f(rx) + " " + f(ry) + " 0 1 0 "
		return "M" + f(v["cx"]-rx) + " " + f(v["cy"]) + a + f(2*rx) + " 0" + a + f(-2*rx) + " 0z"
	}
	switch s.Name.Local {
	case "path":
		return attr(s, "d"), nil
	case "polygon", "polyline":
		text := attr(s, "points")
		n, err := r.numbers("points", text)
		if err != nil {
			return "", err
		}
		if len(n)%2 == 1 {
			return "", r.wrong("points come in pairs: %d numbers are one short.", len(n))
		}
		if len(n) < 6 {
			return "", nil
		}
		var b strings.Builder
		for i := 0; i < len(n); i += 2 {
			b.WriteString(map[bool]string{true: "M", false: "L"}[i == 0] + f(n[i]) + " " + f(n[i+1]))
		}
		if s.Name.Local == "polygon" {
			b.WriteByte('z')
		}
		return b.String(), nil
	case "circle":
		return ellipse(v["r"], v["r"]), nil
	case "ellipse":
		return ellipse(v["rx"], v["ry"]), nil
	}
	x, y, w, h := v["x"], v["y"], v["width"], v["height"]
	if !(w > 0 && h > 0) {
		return "", nil
	}
	rx, ry := v["rx"], v["ry"]
	if rx == 0 {
		rx = ry
	}
	if ry == 0 {
		ry = rx
	}
	rx, ry = math.Min(math.Max(0, rx), w/2), math.Min(math.Max(0, ry), h/2)
	if rx == 0 || ry == 0 {
		return "M" + f(x) + " " + f(y) + "h" + f(w) + "v" + f(h) + "h" + f(-w) + "z", nil
	}
	a := func(dx, dy float64) string { return "a" + f(rx) + " " + f(ry) + " 0 0 1 " + f(dx) + " " + f(dy) }
	return "M" + f(x+rx) + " " + f(y) + "h" + f(w-2*rx) + a(rx, ry) + "v" + f(h-2*ry) + a(-rx, ry) + "h" + f(2*rx-w) + a(-rx, -ry) + "v" + f(2*ry-h) + a(rx, -ry) + "z", nil
}

// matrix a b c d e f: x' = a x + c y + e, y' = b x + d y + f.
type matrix [6]float64

func (m matrix) of(p Point) Point {
	return Point{m[0]*p[0] + m[2]*p[1] + m[4], m[1]*p[0] + m[3]*p[1] + m[5]}
}

// after is the transform that does n first, then m.
func (m matrix) after(n matrix) matrix {
	return matrix{m[0]*n[0] + m[2]*n[1], m[1]*n[0] + m[3]*n[1], m[0]*n[2] + m[2]*n[3], m[1]*n[2] + m[3]*n[3], m[0]*n[4] + m[2]*n[5] + m[4], m[1]*n[4] + m[3]*n[5] + m[5]}
}

// grow is by how much a length becomes longer at most.
func (m matrix) grow() float64 {
	return math.Max(math.Hypot(m[0], m[1]), math.Hypot(m[2], m[3]))
}

// transform reads the list of an element.
func (r *svgReader) transform(text string) (matrix, error) {
	out := matrix{1, 0, 0, 1, 0, 0}
	for rest := strings.TrimSpace(text); rest != ""; {
		open := strings.IndexByte(rest, '(')
		end := strings.IndexByte(rest, ')')
		if open < 0 || end < open {
			return out, r.wrong("transform: %q has no pair of brackets.", rest)
		}
		name := strings.TrimSpace(rest[:open])
		v, err := r.numbers("transform", rest[open+1:end])
		if err != nil {
			return out, err
		}
		m, ok := oneTransform(name, v)
		if !ok {
			return out, r.wrong("transform: %s(%s) is none that is known.", name, rest[open+1:end])
		}
		out = out.after(m)
		rest = strings.TrimLeft(rest[end+1:], " ,\t\r\n")
	}
	for _, x := range out {
		if math.IsNaN(x) || math.IsInf(x, 0) {
			return out, r.wrong("transform: it leads beyond all numbers.")
		}
	}
	return out, nil
}

func oneTransform(name string, v []float64) (matrix, bool) {
	rad := func(i int) (sin, cos float64) { return math.Sincos(v[i] * math.Pi / 180) }
	switch {
	case name == "matrix" && len(v) == 6:
		return matrix(v), true
	case name == "translate" && len(v) == 1:
		return matrix{1, 0, 0, 1, v[0], 0}, true
	case name == "translate" && len(v) == 2:
		return matrix{1, 0, 0, 1, v[0], v[1]}, true
	case name == "scale" && len(v) == 1:
		return matrix{v[0], 0, 0, v[0], 0, 0}, true
	case name == "scale" && len(v) == 2:
		return matrix{v[0], 0, 0, v[1], 0, 0}, true
	case name == "rotate" && len(v) == 1:
		sin, cos := rad(0)
		return matrix{cos, sin, -sin, cos, 0, 0}, true
	case name == "rotate" && len(v) == 3:
		sin, cos := rad(0)
		return matrix{1, 0, 0, 1, v[1], v[2]}.after(matrix{cos, sin, -sin, cos, 0, 0}).after(matrix{1, 0, 0, 1, -v[1], -v[2]}), true
	case name == "skewX" && len(v) == 1:
		return matrix{1, 0, math.Tan(v[0] * math.Pi / 180), 1, 0, 0}, true
	case name == "skewY" && len(v) == 1:
		return matrix{1, math.Tan(v[0] * math.Pi / 180), 0, 1, 0, 0}, true
	}
	return matrix{}, false
}
