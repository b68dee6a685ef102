package colour

import "math"

// parts of a difference: lightness, chroma and hue over their weights, and the
// rotation between the last two (CIEDE2000, Sharma, Wu and Dalal 2005).
type parts struct{ l, c, h, rt float64 }

func (p parts) de00() float64 {
	return math.Sqrt(math.Max(0, p.l*p.l+p.c*p.c+p.h*p.h+p.rt*p.c*p.h))
}

// rotation as the solvers take it: it fades between 5 and 15, or far away a
// grey teal would be nearest to pure blue.
func (p parts) rotation() float64 {
	u := math.Sqrt(p.l*p.l + p.c*p.c + p.h*p.h)
	return p.rt * math.Min(1, math.Max(0, (15-u)/10))
}

func (p parts) dist() float64 {
	return math.Sqrt(math.Max(0, p.l*p.l+p.c*p.c+p.h*p.h+p.rotation()*p.c*p.h))
}

const pow25 = 6103515625.0 // 25^7

func toSeventh(c float64) float64 { return c * c * c * c * c * c * c }

func chromaG(c float64) float64 {
	c7 := toSeventh(c)
	return 0.5 * (1 - math.Sqrt(c7/(c7+pow25)))
}

func hue(a, b float64) float64 {
	if a == 0 && b == 0 {
		return 0
	}
	h := math.Atan2(b, a)
	if h < 0 {
		h += 2 * math.Pi
	}
	return h
}

// weights of CIEDE2000 at a mean lightness, chroma and hue.
func weights(l, c, h float64) (sl, sc, sh, rt float64) {
	deg := math.Pi / 180
	t := 1 - 0.17*math.Cos(h-30*deg) + 0.24*math.Cos(2*h) + 0.32*math.Cos(3*h+6*deg) - 0.20*math.Cos(4*h-63*deg)
	d := (l - 50) * (l - 50)
	sl = 1 + 0.015*d/math.Sqrt(20+d)
	sc, sh = 1+0.045*c, 1+0.015*c*t
	far := (h/deg - 275) / 25
	theta := 30 * deg * math.Exp(-far*far)
	c7 := toSeventh(c)
	rt = -2 * math.Sqrt(c7/(c7+pow25)) * math.Sin(2*theta)
	return sl, sc, sh, rt
}

// difference is second minus first.
func difference(one, two vec3) parts {
	c1, c2 := math.Hypot(one[1], one[2]), math.Hypot(two[1], two[2])
	g := 1 + chromaG((c1+c2)/2)
	a1, a2 := g*one[1], g*two[1]
	cp1, cp2 := math.Hypot(a1, one[2]), math.Hypot(a2, two[2])
	h1, h2 := hue(a1, one[2]), hue(a2, two[2])
	dh, mean := 0.0, h1+h2
	if cp1*cp2 != 0 {
		dh = h2 - h1
		far := math.Abs(dh) > math.Pi+1e-10
		switch {
		case far && dh > 0:
			dh -= 2 * math.Pi
		case far:
			dh += 2 * math.Pi
		}
		switch {
		case !far:
			mean = (h1 + h2) / 2
		case h1+h2 < 2*math.Pi:
			mean = (h1 + h2 + 2*math.Pi) / 2
		default:
			mean = (h1 + h2 - 2*math.Pi) / 2
		}
	}
	sl, sc, sh, rt := weights((one[0]+two[0])/2, (cp1+cp2)/2, mean)
	return parts{(two[0] - one[0]) / sl, (cp2 - cp1) / sc, 2 * math.Sqrt(cp1*cp2) * math.Sin(dh/2) / sh, rt}
}
