package colour

import (
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// CalibrateIn learns from what was seen.
type CalibrateIn struct {
	Kind     *string   `json:"kind" need:"true" of:"gel strength base paste rest"`
	Gel      any       `json:"gel"`
	Base     PasteIn   `json:"base"`
	Gels     any       `json:"gels"`
	Seen     Value     `json:"seen"`
	Paste    PasteIn   `json:"paste"`
	Fraction *float64  `json:"fraction" in:"0.001..0.999"`
	Hours    []float64 `json:"hours" in:"0..1000"`
	Strength []float64 `json:"strength" in:"0..100"`
}

// CalibrateOut is what was learnt.
type CalibrateOut struct {
	Absorption    map[string]float64 `json:"absorption,omitempty"`
	Moved         *float64           `json:"moved,omitempty"`
	FitDe00       *float64           `json:"fitDe00,omitempty"`
	Lab           *[3]float64        `json:"lab,omitempty"`
	Hex           string             `json:"hex,omitempty"`
	Ratio         *float64           `json:"ratio,omitempty"`
	De00          *float64           `json:"de00,omitempty"`
	Weight        *float64           `json:"weight,omitempty"`
	Amplitude     *float64           `json:"amplitude,omitempty"`
	Deepening     *float64           `json:"deepening,omitempty"`
	HalfTimeHours *float64           `json:"halfTimeHours,omitempty"`
}

// Calibrate a gel, its strength, a base, a paste, or how a colour rests.
func Calibrate(in CalibrateIn) (CalibrateOut, error) {
	if err := fault.Check(&in, "kind"); err != nil {
		return CalibrateOut{}, err
	}
	switch *in.Kind {
	case "gel":
		g, err := readGel(in.Gel, "gel")
		if err != nil {
			return CalibrateOut{}, err
		}
		dose, base := 1.0, *white100()
		if m, ok := in.Gel.(map[string]any); ok {
			if dose, err = within(m, "swatchDose", "gel", 1, 0.001, 8); err != nil {
				return CalibrateOut{}, err
			}
			if base, err = readPaste(m["base"], "gel.base"); err != nil {
				return CalibrateOut{}, err
			}
		}
		p := tint(&base, []Gel{g}, []float64{dose})
		r := p.reflectance()
		return CalibrateOut{Absorption: nmOf(&g.k), Moved: &g.moved, FitDe00: &g.fit, Lab: new([3]float64(r.lab())), Hex: hexOf(r.xyz())}, nil
	case "strength", "base":
		return calibrateStrength(&in)
	case "paste":
		if in.Paste == nil {
			return CalibrateOut{}, fault.New(fault.Required, "paste", "Which paste?")
		}
		p, err := readPaste(in.Paste, "paste")
		if err != nil {
			return CalibrateOut{}, err
		}
		if in.Fraction == nil {
			return CalibrateOut{}, fault.New(fault.Required, "fraction", "Which share of it was in the white?")
		}
		if err := fault.Check(&in, "fraction"); err != nil {
			return CalibrateOut{}, err
		}
		seen, err := readColour(in.Seen, "seen")
		if err != nil {
			return CalibrateOut{}, err
		}
		w := golden(.05, 20, func(s float64) float64 {
			q := Paste{S: s}
			for i := range bands {
				q.K[i] = p.K[i] / p.S * s
			}
			m := mix([]Paste{q, *white100()}, []float64{*in.Fraction, 1 - *in.Fraction})
			return difference(m.lab(), seen).de00()
		})
		return CalibrateOut{Weight: &w}, nil
	}
	return calibrateRest(&in)
}

func calibrateStrength(in *CalibrateIn) (CalibrateOut, error) {
	base, err := readPaste(in.Base, "base")
	if err != nil {
		return CalibrateOut{}, err
	}
	gels, doses, err := readDoses(in.Gels, "gels")
	if err != nil {
		return CalibrateOut{}, err
	}
	if len(gels) == 0 {
		return CalibrateOut{}, fault.New(fault.Required, "gels", "List the gels that were kneaded in.")
	}
	seen, err := readColour(in.Seen, "seen")
	if err != nil {
		return CalibrateOut{}, err
	}
	apart := func(x float64) float64 {
		d := slices.Clone(doses)
		for j := range d {
			d[j] *= x
		}
		p := tint(&base, gels, d)
		return difference(p.lab(), seen).de00()
	}
	ratio := golden(.05, 20, apart)
	if *in.Kind == "base" {
		return CalibrateOut{Weight: new(base.S / ratio), De00: new(apart(ratio))}, nil
	}
	return CalibrateOut{Ratio: &ratio, De00: new(apart(ratio))}, nil
}

func calibrateRest(in *CalibrateIn) (CalibrateOut, error) {
	if len(in.Hours) < 3 {
		return CalibrateOut{}, fault.New(fault.Required, "hours", "At least three times are wanted.")
	}
	if len(in.Strength) != len(in.Hours) {
		return CalibrateOut{}, fault.New(fault.Contradiction, "strength", "As many strengths as hours: %d, not %d.", len(in.Hours), len(in.Strength))
	}
	if err := fault.Check(in, "hours", "strength"); err != nil {
		return CalibrateOut{}, err
	}
	best := math.Inf(1)
	var out CalibrateOut
	for k := range 61 {
		h := 0.5 * math.Pow(48, float64(k)/60)
		// x = A + AD g, g = 1 - 2^(-t/h): least squares
		n, sg, sgg, sx, sgx := float64(len(in.Hours)), 0.0, 0.0, 0.0, 0.0
		for i, t := range in.Hours {
			g := 1 - math.Exp2(-t/h)
			sg, sgg, sx, sgx = sg+g, sgg+g*g, sx+in.Strength[i], sgx+g*in.Strength[i]
		}
		ad := 0.0
		if det := n*sgg - sg*sg; det > 1e-15 {
			ad = math.Max(0, (n*sgx-sg*sx)/det)
		}
		a := (sx - ad*sg) / n
		e := 0.0
		for i, t := range in.Hours {
			d := in.Strength[i] - a - ad*(1-math.Exp2(-t/h))
			e += d * d
		}
		if e < best-1e-15 && a > 0 {
			best = e
			out = CalibrateOut{Amplitude: new(a), Deepening: new(ad / a), HalfTimeHours: new(h)}
		}
	}
	if out.Amplitude == nil {
		return out, fault.New(fault.Unreachable, "strength", "No colour is seen in these strengths.")
	}
	return out, nil
}
