package colour

import (
	"math"
	"sync"
)

// Kubelka-Munk of thick pastes.
const (
	leastR = 0.003
	mostR  = 0.9999
)

// ksOf is absorption over scattering of an endless layer.
func ksOf(r float64) float64 {
	r = math.Min(mostR, math.Max(leastR, r))
	return (1 - r) * (1 - r) / (2 * r)
}

// endless is the reflectance of an endless layer of absorption over scattering q.
// written so that it neither cancels nor overflows, however much is absorbed
func endless(q float64) float64 { return 1 / (1 + q + math.Sqrt(q)*math.Sqrt(q+2)) }

// Paste is absorption by band and one scattering, a unit of mass; white sugar
// paste scatters 1.
type Paste struct {
	K Spectrum
	S float64
}

func (p *Paste) reflectance() (out Spectrum) {
	for i := range bands {
		out[i] = endless(p.K[i] / p.S)
	}
	return out
}

func (p *Paste) lab() vec3 {
	r := p.reflectance()
	return r.lab()
}

// pasteOf a swatch, of a tinting weight.
func pasteOf(rgb vec3, weight float64) Paste {
	r, _ := curve(rgb, &ones)
	p := Paste{S: weight}
	for i := range bands {
		p.K[i] = weight * ksOf(r[i])
	}
	return p
}

// mix of pastes by their shares, which sum to 1.
func mix(ps []Paste, shares []float64) (out Paste) {
	for j := range ps {
		for i := range bands {
			out.K[i] += shares[j] * ps[j].K[i]
		}
		out.S += shares[j] * ps[j].S
	}
	return out
}

// Gel is a colouring by what a gram of it in 100 g of paste absorbs and
// scatters, and how it deepens as it rests.
type Gel struct {
	Name      string
	k         Spectrum
	s         float64
	deepening float64
	halfTime  float64 // h
	moved     float64
	fit       float64 // DE00 of the tinted base to the swatch
}

// gelOf one swatch at a dose in a base.
func gelOf(rgb vec3, dose float64, base *Paste, scatter float64) Gel {
	rb := base.reflectance()
	r, moved := curve(rgb, &rb)
	g := Gel{s: scatter, moved: moved}
	for i := range bands {
		g.k[i] = math.Max(0, (ksOf(r[i])*(base.S+scatter*dose)-base.K[i])/dose)
	}
	made := tint(base, []Gel{g}, []float64{dose})
	g.fit = difference(labOf(rgbToXYZ.times(rgb)), made.lab()).de00()
	return g
}

// inferences keeps what was inferred from swatches: a curve costs a third of a
// millisecond, one that must be moved sixty.
var inferences struct {
	sync.Mutex
	of map[inference]Gel
}

type inference struct {
	rgb           vec3
	dose, scatter float64
	base          Paste
}

const mostInferences = 500

func inferred(rgb vec3, dose float64, base *Paste, scatter float64) Gel {
	key := inference{rgb, dose, scatter, *base}
	inferences.Lock()
	g, ok := inferences.of[key]
	inferences.Unlock()
	if ok {
		return g
	}
	g = gelOf(rgb, dose, base, scatter)
	inferences.Lock()
	defer inferences.Unlock()
	if inferences.of == nil || len(inferences.of) >= mostInferences {
		inferences.of = map[inference]Gel{}
	}
	inferences.of[key] = g
	return g
}

// Named is the gel under another name, of another bottle: ratio times as
// strong, and deepening by its own share with its own half-time (hours).
func (g Gel) Named(name string, ratio, deepening, halfTime float64) Gel {
	g.Name, g.deepening, g.halfTime = name, deepening, halfTime
	g.s *= ratio
	for i := range bands {
		g.k[i] *= ratio
	}
	return g
}

// GelOf infers a gel from its swatch at 1 g in 100 g of white sugar paste.
// Errors are *fault.Fault on field swatch.
func GelOf(swatch string) (Gel, error) {
	rgb, err := readSwatch(swatch, "swatch")
	if err != nil {
		return Gel{}, err
	}
	return inferred(rgb, 1, white100(), 0), nil
}

// PasteOf is a paste by its look, of the tinting weight of white sugar paste.
// Errors are *fault.Fault on field swatch.
func PasteOf(swatch string) (Paste, error) {
	rgb, err := readSwatch(swatch, "swatch")
	if err != nil {
		return Paste{}, err
	}
	return pasteOf(rgb, 1), nil
}

// BaseOf is a base of the shelf by its name.
func BaseOf(name string) (Paste, bool) {
	p, ok := shelf().bases[name]
	if !ok {
		return Paste{}, false
	}
	return *p, true
}

// Blend kneads pastes by mass (grams of each, together more than 0).
func Blend(ps []Paste, grams []float64) Paste {
	total := 0.0
	for _, g := range grams {
		total += g
	}
	shares := make([]float64, len(grams))
	for i, g := range grams {
		shares[i] = g / total
	}
	return mix(ps, shares)
}

// Tinted puts doses (g per 100 g) of gels into a base, as it looks hours after
// kneading; hours < 0: when all have rested.
func Tinted(base Paste, gels []Gel, doses []float64, hours float64) Paste {
	d := make([]float64, len(doses))
	for j := range d {
		d[j] = doses[j]
		if hours >= 0 {
			d[j] *= gels[j].strength(hours)
		}
	}
	return tint(&base, gels, d)
}

// Hex of a thick layer of it, sRGB.
func (p Paste) Hex() string {
	r := p.reflectance()
	return hexOf(r.xyz())
}

// tint puts doses (g per 100 g) of gels into a base.
func tint(base *Paste, gels []Gel, doses []float64) Paste {
	out := *base
	for j := range gels {
		c := doses[j]
		if c == 0 {
			continue
		}
		for i := range bands {
			out.K[i] += c * gels[j].k[i]
		}
		out.S += c * gels[j].s
	}
	return out
}

// strength is how much of its rested colour a gel shows after t hours.
func (g *Gel) strength(t float64) float64 {
	if g.deepening == 0 {
		return 1
	}
	return (1 + g.deepening*(1-math.Exp2(-t/g.halfTime))) / (1 + g.deepening)
}

// golden finds the least of f on ln x in [lo, hi].
func golden(lo, hi float64, f func(x float64) float64) float64 {
	const ratio = 0.6180339887498949
	a, b := math.Log(lo), math.Log(hi)
	c, d := b-ratio*(b-a), a+ratio*(b-a)
	fc, fd := f(math.Exp(c)), f(math.Exp(d))
	for range 60 {
		if fc < fd {
			b, d, fd = d, c, fc
			c = b - ratio*(b-a)
			fc = f(math.Exp(c))
		} else {
			a, c, fc = c, d, fd
			d = a + ratio*(b-a)
			fd = f(math.Exp(d))
		}
	}
	return math.Exp((a + b) / 2)
}

// layer is a film of absorption and scattering on a ground.
func layer(kx, sx, ground float64) float64 {
	if sx < 1e-9 {
		return ground * math.Exp(-2*kx)
	}
	q := kx / sx
	a, b := 1+q, math.Sqrt(q*(q+2))
	bc := 1 / sx
	if b*sx > 1e-6 {
		bc = b / math.Tanh(b*sx)
	}
	return (1 - ground*(a-bc)) / (a - ground + bc)
}
