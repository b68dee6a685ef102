package colour

import "math"

// The least hyperbolic tangent slope squared method (Burns, 2019): the smoothest
// reflectance between 0 and a ceiling that has a given colour.
const (
	curveSteps = 60
	curveStep  = 2.0
	curveDone  = 1e-9
	leastPivot = 1e-300
)

// ones is a ceiling that holds nothing back.
var ones = func() (s Spectrum) {
	for i := range s {
		s[i] = 1
	}
	return s
}()

// solveCurve finds the curve of a linear colour under a ceiling by Newton's
// method; ok is false when there is none.
func solveCurve(rgb vec3, ceil *Spectrum) (out Spectrum, ok bool) {
	const n = bands + 3
	var t [3]Spectrum
	for r := range 3 {
		for i := range bands {
			t[r][i] = toRGB[r][i] * ceil[i]
		}
	}
	var z Spectrum
	var lambda vec3
	var j [n][n + 1]float64
	for range curveSteps {
		for r := range n {
			clear(j[r][:])
		}
		var sum vec3
		for i := range bands {
			th := math.Tanh(z[i])
			d1 := (1 - th*th) / 2
			d2 := -(1 - th*th) * th
			tl := t[0][i]*lambda[0] + t[1][i]*lambda[1] + t[2][i]*lambda[2]
			diagonal := 4.0
			if i == 0 || i == bands-1 {
				diagonal = 2
			}
			f := diagonal * z[i]
			j[i][i] = diagonal + d2*tl
			if i > 0 {
				j[i][i-1] = -2
				f -= 2 * z[i-1]
			}
			if i < bands-1 {
				j[i][i+1] = -2
				f -= 2 * z[i+1]
			}
			j[i][n] = -(f + d1*tl)
			for r := range 3 {
				j[i][bands+r] = d1 * t[r][i]
				j[bands+r][i] = d1 * t[r][i]
				sum[r] += t[r][i] * (th + 1) / 2
			}
		}
		for r := range 3 {
			j[bands+r][n] = -(sum[r] - rgb[r])
		}
		step, solved := eliminate(&j)
		if !solved {
			return out, false
		}
		most := 0.0
		for i := range bands {
			most = math.Max(most, math.Abs(step[i]))
		}
		if math.IsNaN(most) {
			return out, false
		}
		k := 1.0
		if most > curveStep {
			k = curveStep / most
		}
		for i := range bands {
			z[i] += k * step[i]
		}
		for r := range 3 {
			lambda[r] += k * step[bands+r]
		}
		if most < curveDone {
			for i := range bands {
				out[i] = ceil[i] * (math.Tanh(z[i]) + 1) / 2
			}
			return out, true
		}
	}
	return out, false
}

// eliminate solves a linear system with partial pivoting; the last column is
// the right side.
func eliminate(a *[bands + 3][bands + 4]float64) (x [bands + 3]float64, ok bool) {
	const n = bands + 3
	for c := range n {
		p := c
		for r := c + 1; r < n; r++ {
			if math.Abs(a[r][c]) > math.Abs(a[p][c]) {
				p = r
			}
		}
		if !(math.Abs(a[p][c]) >= leastPivot) {
			return x, false
		}
		a[c], a[p] = a[p], a[c]
		for r := c + 1; r < n; r++ {
			f := a[r][c] / a[c][c]
			if f == 0 {
				continue
			}
			for k := c; k <= n; k++ {
				a[r][k] -= f * a[c][k]
			}
		}
	}
	for r := n - 1; r >= 0; r-- {
		s := a[r][n]
		for k := r + 1; k < n; k++ {
			s -= a[r][k] * x[k]
		}
		x[r] = s / a[r][r]
	}
	return x, true
}

// curve gives the reflectance of a linear colour under a ceiling, or that of the
// nearest colour that has one; moved is how far it lies (DE00, 0 = exact).
func curve(rgb vec3, ceil *Spectrum) (out Spectrum, moved float64) {
	if c, ok := solveCurve(rgb, ceil); ok {
		return c, 0
	}
	w := ceil.rgb()
	y := rgbToXYZ.times(rgb)[1] / rgbToXYZ.times(w)[1]
	asked := labOf(rgbToXYZ.times(rgb))
	best := math.Inf(1)
	for _, t := range []float64{0, .02, .05, .1, .2, .35, .5, .75, 1} {
		at := func(s float64) vec3 {
			var v vec3
			for r := range 3 {
				v[r] = s * ((1-t)*rgb[r] + t*y*w[r])
			}
			return v
		}
		c, ok := solveCurve(at(1), ceil)
		if !ok {
			lo, hi := 0.3, 1.0
			for range 13 {
				mid := (lo + hi) / 2
				if d, is := solveCurve(at(mid), ceil); is {
					c, ok, lo = d, true, mid
				} else {
					hi = mid
				}
			}
		}
		if !ok {
			continue
		}
		if d := difference(asked, c.lab()).de00(); d < best {
			best, out = d, c
		}
	}
	if math.IsInf(best, 1) {
		for i := range bands {
			out[i] = ceil[i] * math.Min(.999, math.Max(.003, y))
		}
		best = difference(asked, out.lab()).de00()
	}
	return out, best
}
