package colour

import (
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"

	"dustyfern/craft/fault"
)

// Lightness is the L* (0 black, 100 white) of a swatch "#RRGGBB" (CIE 1976,
// D65), by which the order of kneading is decided.
func Lightness(hex string) (float64, error) {
	rgb, ok := readHex(hex)
	if !ok {
		return 0, fault.New(fault.Syntax, "swatch", "A swatch is # and six digits or letters a to f, such as #5F8A4A.")
	}
	return labOf(rgbToXYZ.times(rgb))[0], nil
}

var (
	hexShape  = regexp.MustCompile(`^#?([0-9a-f]{6}|[0-9a-f]{3})$`)
	wordShape = regexp.MustCompile(`^(lab|rgb|l)\b`)
	numbers   = regexp.MustCompile(`[-+]?\d+(?:\.\d+)?`)
	between   = regexp.MustCompile(`^[\s(),;:=ab*]*$`)
)

const sayTyped = "Write a swatch such as #5F8A4A, rgb 95 138 74, or Lab 53 -25 29."

// Read reads a colour as it is typed: "#5F8A4A", "5f8a4a", "#5a4",
// "rgb(95, 138, 74)", "Lab 53 -25 29", "L* 53 a* -25 b* 29" (CIE 1976, D65).
// A Lab that no screen can show is refused with the nearest that one can.
func Read(text string) (hex string, err error) {
	text = strings.ToLower(strings.TrimSpace(strings.ReplaceAll(text, "\u2212", "-")))
	if m := hexShape.FindStringSubmatch(text); m != nil {
		d := m[1]
		if len(d) == 3 {
			d = string([]byte{d[0], d[0], d[1], d[1], d[2], d[2]})
		}
		return "#" + strings.ToUpper(d), nil
	}
	word := wordShape.FindString(text)
	rest := text[len(word):]
	found := numbers.FindAllString(rest, -1)
	if word == "" || len(found) != 3 || !between.MatchString(numbers.ReplaceAllString(rest, "")) {
		return "", fault.New(fault.Syntax, "swatch", sayTyped)
	}
	var v vec3
	for i, n := range found {
		if v[i], err = strconv.ParseFloat(n, 64); err != nil {
			return "", fault.New(fault.Syntax, "swatch", sayTyped)
		}
	}
	if word == "rgb" {
		for _, c := range v {
			if c != math.Trunc(c) || c < 0 || c > 255 {
				return "", fault.New(fault.OutOfRange, "swatch", "Red, green and blue are whole numbers from 0 to 255.")
			}
		}
		return fmt.Sprintf("#%02X%02X%02X", int(v[0]), int(v[1]), int(v[2])), nil
	}
	if v[0] < 0 || v[0] > 100 || math.Abs(v[1]) > 150 || math.Abs(v[2]) > 150 {
		return "", fault.New(fault.OutOfRange, "swatch", "L runs from 0 to 100, a and b from -150 to 150.")
	}
	hex = hexOf(xyzOf(v))
	if rgb, _ := readHex(hex); difference(labOf(rgbToXYZ.times(rgb)), v).de00() > 1 {
		f := fault.New(fault.OutOfRange, "swatch", "No screen shows that colour, and no pat can be drawn of it. The nearest is %s.", hex)
		f.Choices = []fault.Choice{{Say: "take " + hex, Text: hex}}
		return "", f
	}
	return hex, nil
}
