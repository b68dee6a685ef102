package outline

import (
	"encoding/xml"
	"errors"
	"io"
	"math"
	"slices"
	"strconv"
	"strings"

	"dustyfern/craft/fault"
)

// Drawing is what an SVG file draws: its closed outlines at true size.
type Drawing struct {
	Rings    []Ring
	WidthMM  float64 // of the outlines together
	HeightMM float64
	SaysSize bool // the file says in its units how large it is; else a pixel was taken as 1/96 in
}

// Limits of a file that is read.
const (
	MostSVGBytes = 2 << 20
	mostDepth    = 64
	mostRings    = 300
)

// unitsMM of a length in a file; a bare number is a pixel of 1/96 inch (CSS 2.1).
var unitsMM = map[string]float64{"": 25.4 / 96, "px": 25.4 / 96, "pt": 25.4 / 72, "pc": 25.4 / 6, "in": 25.4, "cm": 10, "mm": 1, "q": 0.25}

// SVG reads the closed outlines of a file: paths, polygons, rectangles, circles and
// ellipses with their transforms, in its own units. What it cannot take as an edge of
// paste (text, pictures, parts used twice) is refused with its place, so that nothing
// is cut short in silence. Errors are syntax, out_of_range or required on file.
func SVG(text []byte) (*Drawing, error) {
	if len(text) > MostSVGBytes {
		return nil, fault.New(fault.OutOfRange, "file", "This file has %d KB: at most %d KB are taken. Draw the edge alone.", len(text)>>10, MostSVGBytes>>10)
	}
	r := &svgReader{d: xml.NewDecoder(strings.NewReader(string(text)))}
	r.d.Entity = map[string]string{}
	if err := r.file(); err != nil {
		return nil, err
	}
	if len(r.out.Rings) == 0 {
		return nil, fault.New(fault.Required, "file", "Nothing in this file is a closed outline: draw the edge as one line that comes back to its beginning.")
	}
	lo, hi := boxOf(r.out.Rings)
	r.out.WidthMM, r.out.HeightMM = hi[0]-lo[0], hi[1]-lo[1]
	if !(r.out.WidthMM >= 0.1 && r.out.HeightMM >= 0.1) || areaOf(r.out.Rings) < 0.01 {
		return nil, fault.New(fault.OutOfRange, "file", "The outlines of this file enclose nothing.")
	}
	if r.out.WidthMM > 1e4 || r.out.HeightMM > 1e4 {
		return nil, fault.New(fault.OutOfRange, "file", "This drawing is %.0f by %.0f mm: over 10 m. Are its units right?", r.out.WidthMM, r.out.HeightMM)
	}
	for _, ring := range r.out.Rings {
		for k, p := range ring {
			ring[k] = Point{p[0] - lo[0], p[1] - lo[1]}
		}
	}
	return &r.out, holes(r.out.Rings)
}

// holes turns the rings so that one inside another takes away from it: what lies in an
// outline is a window of the cutter, whichever way it was drawn.
func holes(rings []Ring) error {
	if len(rings) > mostRings {
		return fault.New(fault.OutOfRange, "file", "This file draws %d outlines: a cutter has at most %d with its windows.", len(rings), mostRings)
	}
	for i, r := range rings {
		deep := 0
		for k, o := range rings {
			if k != i && within(r[0], o) {
				deep++
			}
		}
		if (shoelace(r) < 0) != (deep%2 == 1) {
			slices.Reverse(r)
		}
	}
	return nil
}

// within tells whether a point lies inside a ring, by the crossings of a line from it.
func within(p Point, ring Ring) (in bool) {
	for i, a := range ring {
		b := ring[(i+1)%len(ring)]
		if (a[1] > p[1]) != (b[1] > p[1]) && p[0] < (b[0]-a[0])*(p[1]-a[1])/(b[1]-a[1])+a[0] {
			in = !in
		}
	}
	return in
}

type svgReader struct {
	d      *xml.Decoder
	out    Drawing
	points int
	found  bool
}

func (r *svgReader) wrong(say string, args ...any) error {
	line, col := r.d.InputPos()
	return place(line, col, say, args...)
}

func (r *svgReader) file() error {
	for {
		tok, err := r.d.Token()
		if errors.Is(err, io.EOF) {
			if !r.found {
				return fault.New(fault.Syntax, "file", "This is no SVG file: it has no svg element.")
			}
			return nil
		}
		if err != nil {
			return r.wrong("this is no readable SVG (%s).", xmlSays(err))
		}
		s, ok := tok.(xml.StartElement)
		if !ok {
			continue
		}
		if s.Name.Local != "svg" || r.found {
			return r.wrong("an SVG file begins with one svg element, not %q.", s.Name.Local)
		}
		r.found = true
		m, err := r.size(s)
		if err != nil {
			return err
		}
		if err := r.inside(m, 1); err != nil {
			return err
		}
	}
}

// xmlSays is a fault of the file without the package's own words.
func xmlSays(err error) string {
	var syntax *xml.SyntaxError
	if errors.As(err, &syntax) {
		return syntax.Msg
	}
	return strings.TrimPrefix(err.Error(), "xml: ")
}

func attr(s xml.StartElement, name string) string {
	for _, a := range s.Attr {
		if a.Name.Local == name {
			return strings.TrimSpace(a.Value)
		}
	}
	return ""
}

// size is how units of the drawing become mm.
func (r *svgReader) size(s xml.StartElement) (matrix, error) {
	px := unitsMM["px"]
	var width, height float64
	said := 0
	for name, to := range map[string]*float64{"width": &width, "height": &height} {
		text := attr(s, name)
		if text == "" || strings.HasSuffix(text, "%") {
			continue
		}
		x, unit, err := r.length(name, text)
		if err != nil {
			return matrix{}, err
		}
		if x <= 0 {
			return matrix{}, r.wrong("the %s of the drawing is over 0, not %q.", name, text)
		}
		*to = x
		if unit != "" && unit != "px" {
			said++
		}
	}
	r.out.SaysSize = said == 2
	box := attr(s, "viewBox")
	if box == "" {
		return matrix{px, 0, 0, px, 0, 0}, nil
	}
	v, err := r.numbers("viewBox", box)
	if err != nil {
		return matrix{}, err
	}
	if len(v) != 4 || !(v[2] > 0 && v[3] > 0) {
		return matrix{}, r.wrong("viewBox has four numbers, the last two over 0, not %q.", box)
	}
	sx, sy := px, px
	switch {
	case width > 0 && height > 0:
		sx, sy = width/v[2], height/v[3]
		if par := attr(s, "preserveAspectRatio"); !strings.HasPrefix(par, "none") {
			sx = math.Min(sx, sy)
			sy = sx
		}
	case width > 0:
		sx = width / v[2]
		sy = sx
	case height > 0:
		sx = height / v[3]
		sy = sx
	}
	return matrix{sx, 0, 0, sy, -v[0] * sx, -v[1] * sy}, nil
}

// length is mm of a text with its unit.
func (r *svgReader) length(name, text string) (mm float64, unit string, err error) {
	cut := len(text)
	for cut > 0 && (text[cut-1] >= 'a' && text[cut-1] <= 'z' || text[cut-1] >= 'A' && text[cut-1] <= 'Z') {
		cut--
	}
	unit = strings.ToLower(text[cut:])
	f, known := unitsMM[unit]
	x, perr := strconv.ParseFloat(strings.TrimSpace(text[:cut]), 64)
	if perr != nil || !known || math.Abs(x) > 1e7 || math.IsNaN(x) {
		return 0, "", r.wrong("%s is a length in mm, cm, in, pt, pc, Q or px, not %q.", name, text)
	}
	return x * f, unit, nil
}

// user is a length in units of the drawing.
func (r *svgReader) user(s xml.StartElement, name string) (float64, error) {
	text := attr(s, name)
	if text == "" {
		return 0, nil
	}
	mm, _, err := r.length(name, text)
	return mm / unitsMM["px"], err
}

func (r *svgReader) numbers(name, text string) ([]float64, error) {
	fields := strings.FieldsFunc(text, func(c rune) bool { return c == ',' || c == ' ' || c == '\t' || c == '\n' || c == '\r' })
	out := make([]float64, 0, len(fields))
	for _, f := range fields {
		x, err := strconv.ParseFloat(f, 64)
		if err != nil || math.IsNaN(x) || math.Abs(x) > 1e7 {
			return nil, r.wrong("%s: %q is no number.", name, f)
		}
		out = append(out, x)
	}
	return out, nil
}

// without draws nothing of its own: what stands inside is another's.
var without = []string{"defs", "clipPath", "mask", "pattern", "marker", "symbol", "linearGradient", "radialGradient", "filter", "title", "desc", "metadata", "style", "script", "namedview"}

// refused would be cut short in silence.
var refused = map[string]string{
	"text":          "letters are no outline yet: turn them into paths in your drawing program",
	"image":         "a photo has no edge: trace it into a path first",
	"use":           "a part that is used again is not read: break it up into paths",
	"foreignObject": "this part is no outline",
}

// inside reads what an element encloses.
func (r *svgReader) inside(m matrix, depth int) error {
	if depth > mostDepth {
		return r.wrong("groups lie %d deep in one another: take some apart.", mostDepth)
	}
	for {
		tok, err := r.d.Token()
		if err != nil {
			if errors.Is(err, io.EOF) {
				return r.wrong("the file ends before its drawing does.")
			}
			return r.wrong("this is no readable SVG (%s).", xmlSays(err))
		}
		switch s := tok.(type) {
		case xml.EndElement:
			return nil
		case xml.StartElement:
			if err := r.element(s, m, depth); err != nil {
				return err
			}
		}
	}
}

func (r *svgReader) element(s xml.StartElement, m matrix, depth int) error {
	name := s.Name.Local
	if slices.Contains(without, name) || attr(s, "display") == "none" || strings.Contains(strings.ReplaceAll(attr(s, "style"), " ", ""), "display:none") {
		if err := r.d.Skip(); err != nil {
			return r.wrong("this is no readable SVG (%s).", xmlSays(err))
		}
		return nil
	}
	if say, no := refused[name]; no {
		return r.wrong("%s.", say)
	}
	own, err := r.transform(attr(s, "transform"))
	if err != nil {
		return err
	}
	m = m.after(own)
	switch name {
	case "path", "polygon", "polyline", "rect", "circle", "ellipse":
		path, err := r.asPath(s)
		if err != nil {
			return err
		}
		if err := r.draw(path, m); err != nil {
			return err
		}
	}
	return r.inside(m, depth+1)
}

// draw takes the rings of a path; curves are as fine as they come out in mm.
func (r *svgReader) draw(path string, m matrix) error {
	if path == "" {
		return nil
	}
	grow := m.grow()
	if !(grow > 1e-9 && grow < 1e9) {
		return r.wrong("a transform leaves nothing of this outline.")
	}
	rings, err := parsePath(path, curveMM/grow)
	if errors.Is(err, errTooLong) {
		return fault.New(fault.OutOfRange, "file", "The drawing has over %d points, or one beyond a kilometre: simplify it.", mostPoints)
	}
	if err != nil {
		return r.wrong("this is no path: %v.", err)
	}
	for _, ring := range rings {
		for i, p := range ring {
			ring[i] = m.of(p)
			if math.Abs(ring[i][0]) > 1e5 || math.Abs(ring[i][1]) > 1e5 {
				return r.wrong("an outline reaches over 100 m away: are its units right?")
			}
		}
		if r.points += len(ring); r.points > mostPoints {
			return fault.New(fault.OutOfRange, "file", "The drawing has over %d points: simplify it.", mostPoints)
		}
		if math.Abs(shoelace(ring)) > 1e-6 {
			r.out.Rings = append(r.out.Rings, ring)
		}
	}
	return nil
}
