// Package colour reckons with reflectance, not with screen triplets: swatches
// become smooth spectra, pastes mix by Kubelka-Munk, gels absorb. See
// docs/models/colour.md.
package colour

import "math"

// bands of a spectrum: 380 to 730 nm in steps of 10.
const bands = 36

// Spectrum is a value for each band.
type Spectrum [bands]float64

// The CIE 1931 2-degree functions and illuminant D65, 380 to 730 nm (CIE).
var (
	xbar = Spectrum{.001368, .004243, .01431, .04351, .13438, .2839, .34828, .3362, .2908, .19536, .09564, .03201, .0049, .0093, .06327, .1655, .2904, .43345,
		.5945, .7621, .9163, 1.0263, 1.0622, 1.0026, .85445, .6424, .4479, .2835, .1649, .0874, .04677, .0227, .011359, .00579, .002899, .00144}
	ybar = Spectrum{.000039, .00012, .000396, .00121, .004, .0116, .023, .038, .06, .09098, .13902, .20802, .323, .503, .71, .862, .954, .99495,
		.995, .952, .87, .757, .631, .503, .381, .265, .175, .107, .061, .032, .017, .00821, .004102, .002091, .001047, .00052}
	zbar = Spectrum{.00645, .02005, .06785, .2074, .6456, 1.3856, 1.74706, 1.77211, 1.6692, 1.28764, .81295, .46518, .272, .1582, .07825, .04216, .0203, .00875,
		.0039, .0021, .00165, .0011, .0008, .00034, .00019, .00005, .00002}
	d65 = Spectrum{49.9755, 54.6482, 82.7549, 91.486, 93.4318, 86.6823, 104.865, 117.008, 117.812, 114.861, 115.923, 108.811, 109.354, 107.802, 104.79, 107.689, 104.405, 104.046,
		100, 96.3342, 95.788, 88.6856, 90.0062, 89.5991, 87.6987, 83.2886, 83.6992, 80.0268, 80.2146, 82.2778, 78.2842, 69.7213, 71.6091, 74.349, 61.604, 69.8856}
)

type vec3 [3]float64

type mat3 [3]vec3

func (m mat3) times(v vec3) (out vec3) {
	for r := range 3 {
		for c := range 3 {
			out[r] += m[r][c] * v[c]
		}
	}
	return out
}

func (m mat3) inverse() mat3 {
	a := [3][6]float64{}
	for r := range 3 {
		for c := range 3 {
			a[r][c] = m[r][c]
		}
		a[r][3+r] = 1
	}
	for c := range 3 {
		p := c
		for r := c + 1; r < 3; r++ {
			if math.Abs(a[r][c]) > math.Abs(a[p][c]) {
				p = r
			}
		}
		a[c], a[p] = a[p], a[c]
		k := a[c][c]
		for j := range 6 {
			a[c][j] /= k
		}
		for r := range 3 {
			if r == c {
				continue
			}
			f := a[r][c]
			for j := range 6 {
				a[r][j] -= f * a[c][j]
			}
		}
	}
	var out mat3
	for r := range 3 {
		copy(out[r][:], a[r][3:])
	}
	return out
}

// White is D65 by its chromaticity; the matrices follow from it.
var (
	white    = vec3{0.3127 / 0.3290, 1, 0.3583 / 0.3290}
	toXYZ    [3]Spectrum // rows: reflectance to XYZ
	rgbToXYZ mat3
	xyzToRGB mat3
	toRGB    [3]Spectrum // rows: reflectance to linear sRGB
)

func init() {
	for r, cmf := range []*Spectrum{&xbar, &ybar, &zbar} {
		sum := 0.0
		for i := range bands {
			sum += cmf[i] * d65[i]
		}
		for i := range bands {
			toXYZ[r][i] = white[r] * cmf[i] * d65[i] / sum
		}
	}
	// primaries of sRGB
	p := [3][2]float64{{0.64, 0.33}, {0.30, 0.60}, {0.15, 0.06}}
	var m mat3
	for c, xy := range p {
		m[0][c], m[1][c], m[2][c] = xy[0]/xy[1], 1, (1-xy[0]-xy[1])/xy[1]
	}
	s := m.inverse().times(white)
	for r := range 3 {
		for c := range 3 {
			rgbToXYZ[r][c] = m[r][c] * s[c]
		}
	}
	xyzToRGB = rgbToXYZ.inverse()
	for r := range 3 {
		for i := range bands {
			for k := range 3 {
				toRGB[r][i] += xyzToRGB[r][k] * toXYZ[k][i]
			}
		}
	}
}

// xyz of a reflectance.
func (s *Spectrum) xyz() (out vec3) {
	for r := range 3 {
		for i := range bands {
			out[r] += toXYZ[r][i] * s[i]
		}
	}
	return out
}

// rgb of a reflectance, linear.
func (s *Spectrum) rgb() (out vec3) {
	for r := range 3 {
		for i := range bands {
			out[r] += toRGB[r][i] * s[i]
		}
	}
	return out
}

const (
	labEdge  = 216.0 / 24389
	labSlope = 24389.0 / 27
)

func labF(t float64) float64 {
	if t > labEdge {
		return math.Cbrt(t)
	}
	return (labSlope*t + 16) / 116
}

func labFInverse(f float64) float64 {
	if t := f * f * f; t > labEdge {
		return t
	}
	return (116*f - 16) / labSlope
}

// labOf an XYZ.
func labOf(v vec3) vec3 {
	fx, fy, fz := labF(v[0]/white[0]), labF(v[1]/white[1]), labF(v[2]/white[2])
	return vec3{116*fy - 16, 500 * (fx - fy), 200 * (fy - fz)}
}

func xyzOf(lab vec3) vec3 {
	fy := (lab[0] + 16) / 116
	return vec3{white[0] * labFInverse(fy+lab[1]/500), white[1] * labFInverse(fy), white[2] * labFInverse(fy-lab[2]/200)}
}

// lab of a reflectance.
func (s *Spectrum) lab() vec3 { return labOf(s.xyz()) }

func fromCurve(v float64) float64 {
	if v <= 0.04045 {
		return v / 12.92
	}
	return math.Pow((v+0.055)/1.055, 2.4)
}

func toCurve(v float64) float64 {
	v = math.Min(1, math.Max(0, v))
	if v <= 0.0031308 {
		return 12.92 * v
	}
	return 1.055*math.Pow(v, 1/2.4) - 0.055
}
