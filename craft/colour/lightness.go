// Package colour knows colours. So far only how light a swatch is, by which
// the order of kneading is decided.
package colour

import (
	"math"
	"strconv"

	"dustyfern/craft/fault"
)

// Lightness is the L* (0 black, 100 white) of a swatch "#RRGGBB", by the
// CIE 1976 formula over the luminance of IEC 61966-2-1 (sRGB, D65).
func Lightness(hex string) (float64, error) {
	n, err := strconv.ParseUint(hex[min(1, len(hex)):], 16, 32)
	if len(hex) != 7 || hex[0] != '#' || err != nil {
		return 0, fault.New(fault.Syntax, "swatch", "A swatch is # and six digits or letters a to f, such as #5F8A4A.")
	}
	linear := func(shift uint) float64 {
		c := float64(n>>shift&255) / 255
		if c <= 0.04045 {
			return c / 12.92
		}
		return math.Pow((c+0.055)/1.055, 2.4)
	}
	y := 0.2126*linear(16) + 0.7152*linear(8) + 0.0722*linear(0)
	if y <= 216.0/24389 {
		return y * 24389 / 27, nil
	}
	return 116*math.Cbrt(y) - 16, nil
}
