package colour

import "dustyfern/craft/fault"

// Lightness is the L* (0 black, 100 white) of a swatch "#RRGGBB" (CIE 1976,
// D65), by which the order of kneading is decided.
func Lightness(hex string) (float64, error) {
	rgb, ok := readHex(hex)
	if !ok {
		return 0, fault.New(fault.Syntax, "swatch", "A swatch is # and six digits or letters a to f, such as #5F8A4A.")
	}
	return labOf(rgbToXYZ.times(rgb))[0], nil
}
