package colour

import (
	"encoding/json"
	"fmt"
	"math"
	"strconv"
	"strings"
	"sync"

	"dustyfern/craft/fault"
)

// Bases and gels of our own shelf: swatches assumed, until a kitchen's log says
// otherwise (docs/models/colour.md, 11).
var (
	baseSwatches = []struct {
		name, hex string
		weight    float64
	}{
		{"white sugar paste", "#F7F5EE", 1.00}, {"ivory sugar paste", "#F0E4C8", 1.00}, {"white flower paste", "#F4F1E7", 0.80}, {"white modelling paste", "#F5F2E9", 0.90},
		{"chocolate dough", "#5B3A29", 0.90}, {"white chocolate dough", "#F1E7CF", 0.95}, {"royal icing", "#FBFAF5", 1.05},
	}
	gelSwatches = []struct {
		name, hex           string
		deepening, halfTime float64
	}{
		{"rowan red", "#CF3D49", .8, 4}, {"foxglove pink", "#E0649F", .3, 3}, {"marigold orange", "#EE8B3C", .3, 3}, {"buttercup yellow", "#F2CE48", .1, 2}, {"lichen lime", "#B4C64F", .2, 3},
		{"fern green", "#5C9A58", .4, 3}, {"holly green", "#37775E", .6, 4}, {"lagoon teal", "#2C98A0", .4, 3}, {"harebell blue", "#4F88CC", .3, 3}, {"dusk navy", "#40528C", .8, 5},
		{"heather violet", "#8262AE", .5, 4}, {"bramble plum", "#7C3A63", .6, 4}, {"bark brown", "#80563B", .4, 3}, {"ink black", "#525156", .8, 6},
	}
)

const whiteBase = "white sugar paste"

// shelf infers the pastes and gels of our own once.
var shelf = sync.OnceValue(func() (out struct {
	bases map[string]*Paste
	gels  []Gel
}) {
	out.bases = map[string]*Paste{}
	for _, b := range baseSwatches {
		rgb, _ := readHex(b.hex)
		p := pasteOf(rgb, b.weight)
		out.bases[b.name] = &p
	}
	for _, g := range gelSwatches {
		rgb, _ := readHex(g.hex)
		x := gelOf(rgb, 1, out.bases[whiteBase], 0)
		x.Name, x.deepening, x.halfTime = g.name, g.deepening, g.halfTime
		out.gels = append(out.gels, x)
	}
	return out
})

func white100() *Paste { return shelf().bases[whiteBase] }

// readHex gives the linear colour of "#RRGGBB".
func readHex(hex string) (vec3, bool) {
	if len(hex) != 7 || hex[0] != '#' {
		return vec3{}, false
	}
	n, err := strconv.ParseUint(hex[1:], 16, 32)
	if err != nil {
		return vec3{}, false
	}
	return vec3{fromCurve(float64(n>>16&255) / 255), fromCurve(float64(n>>8&255) / 255), fromCurve(float64(n&255) / 255)}, true
}

// hexOf an XYZ.
func hexOf(xyz vec3) string {
	rgb := xyzToRGB.times(xyz)
	c := func(v float64) int { return int(math.Round(255 * toCurve(v))) }
	return fmt.Sprintf("#%02X%02X%02X", c(rgb[0]), c(rgb[1]), c(rgb[2]))
}

// Value is a colour as it comes in: "#RRGGBB" or [L, a, b].
type Value = any

// Bases lists the bases of the shelf, Gels its gels, each with its swatch.
func Bases() (names []string) {
	for _, b := range baseSwatches {
		names = append(names, b.name)
	}
	return names
}

// Shade is a gel of the shelf: its swatch at 1 g in 100 g of white sugar paste,
// how much it deepens and in how many hours half of that.
type Shade struct {
	Name, Swatch        string
	Deepening, HalfTime float64
}

// Gels of the shelf.
func Gels() (out []Shade) {
	for _, g := range gelSwatches {
		out = append(out, Shade{g.name, g.hex, g.deepening, g.halfTime})
	}
	return out
}

const sayColour = "A colour is #RRGGBB, such as #5F8A4A, or [L, a, b]."

func number(v any) (float64, bool) {
	switch x := v.(type) {
	case json.Number:
		f, err := x.Float64()
		return f, err == nil
	case float64:
		return x, true
	}
	return 0, false
}

// readColour gives the Lab of a colour.
func readColour(v Value, field string) (vec3, error) {
	switch x := v.(type) {
	case nil:
		return vec3{}, fault.New(fault.Required, field, "%s is missing. %s", field, sayColour)
	case string:
		rgb, ok := readHex(x)
		if !ok {
			return vec3{}, fault.New(fault.Syntax, field, sayColour)
		}
		return labOf(rgbToXYZ.times(rgb)), nil
	case []any:
		var lab vec3
		if len(x) != 3 {
			return lab, fault.New(fault.Syntax, field, sayColour)
		}
		for i, e := range x {
			n, ok := number(e)
			if !ok {
				return lab, fault.New(fault.Syntax, field, sayColour)
			}
			lab[i] = n
		}
		for i, n := range lab {
			if math.Abs(n) > 160 || i == 0 && (n < 0 || n > 100) {
				return lab, fault.New(fault.OutOfRange, fmt.Sprintf("%s[%d]", field, i), "L runs from 0 to 100, a and b from -160 to 160.")
			}
		}
		return lab, nil
	}
	return vec3{}, fault.New(fault.Syntax, field, sayColour)
}

// readSwatch gives the linear colour of a hex.
func readSwatch(v Value, field string) (vec3, error) {
	if v == nil {
		return vec3{}, fault.New(fault.Required, field, "%s is missing: a swatch such as #5F8A4A.", field)
	}
	if s, ok := v.(string); ok {
		if rgb, ok := readHex(s); ok {
			return rgb, nil
		}
	}
	return vec3{}, fault.New(fault.Syntax, field, "%s is a swatch such as #5F8A4A.", field)
}

// object checks that v is an object with no other fields than names.
func object(v any, field string, names ...string) (map[string]any, error) {
	m, ok := v.(map[string]any)
	if !ok {
		return nil, fault.New(fault.Syntax, field, "%s must be a name or an object.", field)
	}
	for k := range m {
		known := false
		for _, n := range names {
			known = known || n == k
		}
		if !known {
			return nil, fault.New(fault.Syntax, field+"."+k, "There is no field %q here.", k)
		}
	}
	return m, nil
}

// within reads an optional number of an object.
func within(m map[string]any, name, field string, def, lo, hi float64) (float64, error) {
	v, ok := m[name]
	if !ok || v == nil {
		return def, nil
	}
	x, isNumber := number(v)
	if !isNumber {
		return 0, fault.New(fault.Syntax, field+"."+name, "%s must be a number.", name)
	}
	if !(x >= lo && x <= hi) {
		return 0, fault.New(fault.OutOfRange, field+"."+name, "%s must be from %g to %g, not %g.", name, lo, hi, x)
	}
	return x, nil
}

// PasteIn is a paste as it comes in: a base's name, {"hex","weight"} or
// {"base","gels"}.
type PasteIn = any

// readPaste gives a paste; nil is white sugar paste.
func readPaste(v PasteIn, field string) (Paste, error) {
	switch x := v.(type) {
	case nil:
		return *white100(), nil
	case Paste:
		return x, nil
	case string:
		if p, ok := shelf().bases[x]; ok {
			return *p, nil
		}
		var names []string
		for _, b := range baseSwatches {
			names = append(names, b.name)
		}
		return Paste{}, fault.New(fault.UnknownValue, field, "There is no base %q: it is one of %s.", x, strings.Join(names, ", "))
	}
	m, err := object(v, field, "hex", "weight", "base", "gels")
	if err != nil {
		return Paste{}, err
	}
	if m["hex"] != nil {
		if m["base"] != nil {
			return Paste{}, fault.New(fault.Contradiction, field+".base", "A paste is a colour or a base, not both.")
		}
		if m["gels"] != nil {
			return Paste{}, fault.New(fault.Contradiction, field+".gels", "A colour is tinted already: give a base with its gels.")
		}
		rgb, err := readSwatch(m["hex"], field+".hex")
		if err != nil {
			return Paste{}, err
		}
		w, err := within(m, "weight", field, 1, 0.05, 20)
		if err != nil {
			return Paste{}, err
		}
		return pasteOf(rgb, w), nil
	}
	if m["base"] == nil {
		return Paste{}, fault.New(fault.Required, field+".hex", "Say the paste's colour, or its base and gels.")
	}
	if m["weight"] != nil {
		return Paste{}, fault.New(fault.Contradiction, field+".weight", "A base has its own tinting weight.")
	}
	base, err := readPaste(m["base"], field+".base")
	if err != nil {
		return Paste{}, err
	}
	gels, doses, err := readDoses(m["gels"], field+".gels")
	if err != nil {
		return Paste{}, err
	}
	return tint(&base, gels, doses), nil
}

// readGel gives a gel of the shelf or one's own.
func readGel(v any, field string) (Gel, error) {
	switch x := v.(type) {
	case nil:
		return Gel{}, fault.New(fault.Required, field, "Which gel?")
	case Gel:
		return x, nil
	case string:
		for _, g := range shelf().gels {
			if g.Name == x {
				return g, nil
			}
		}
		return Gel{}, fault.New(fault.UnknownValue, field, "There is no gel %q: name one of the shelf, or give its swatch.", x)
	}
	m, err := object(v, field, "name", "swatch", "swatchDose", "base", "scatter", "deepening", "halfTimeHours")
	if err != nil {
		return Gel{}, err
	}
	rgb, err := readSwatch(m["swatch"], field+".swatch")
	if err != nil {
		return Gel{}, err
	}
	base, err := readPaste(m["base"], field+".base")
	if err != nil {
		return Gel{}, err
	}
	var x [4]float64
	for i, f := range []struct {
		name        string
		def, lo, hi float64
	}{{"swatchDose", 1, 0.001, 8}, {"scatter", 0, 0, 1}, {"deepening", 0, 0, 5}, {"halfTimeHours", 3, 0.1, 100}} {
		if x[i], err = within(m, f.name, field, f.def, f.lo, f.hi); err != nil {
			return Gel{}, err
		}
	}
	g := inferred(rgb, x[0], &base, x[1])
	g.deepening, g.halfTime = x[2], x[3]
	if name, ok := m["name"].(string); ok {
		g.Name = name
	}
	return g, nil
}

const (
	mostDose  = 8.0
	mostGels  = 14
	stickyAt  = 3.0
	leastDose = 0.002
)

// readDoses gives gels with their doses.
func readDoses(v any, field string) (gels []Gel, doses []float64, err error) {
	if v == nil {
		return nil, nil, nil
	}
	list, ok := v.([]any)
	if !ok {
		return nil, nil, fault.New(fault.Syntax, field, "%s must be a list.", field)
	}
	if len(list) > mostGels {
		return nil, nil, fault.New(fault.OutOfRange, field, "At most %d gels, not %d.", mostGels, len(list))
	}
	total := 0.0
	for i, e := range list {
		at := fmt.Sprintf("%s[%d]", field, i)
		m, err := object(e, at, "gel", "dose")
		if err != nil {
			return nil, nil, err
		}
		g, err := readGel(m["gel"], at+".gel")
		if err != nil {
			return nil, nil, err
		}
		if m["dose"] == nil {
			return nil, nil, fault.New(fault.Required, at+".dose", "How much of it? Grams per 100 g of base.")
		}
		d, err := within(m, "dose", at, 0, 0, mostDose)
		if err != nil {
			return nil, nil, err
		}
		gels, doses, total = append(gels, g), append(doses, d), total+d
	}
	if total > mostDose+1e-9 {
		return nil, nil, fault.New(fault.OutOfRange, field, "At most %g g of gel per 100 g in all, not %g.", mostDose, total)
	}
	return gels, doses, nil
}

// nmOf writes a spectrum by its wavelengths.
func nmOf(s *Spectrum) map[string]float64 {
	out := map[string]float64{}
	for i := range bands {
		out[strconv.Itoa(380+10*i)] = s[i]
	}
	return out
}
