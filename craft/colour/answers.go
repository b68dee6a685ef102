package colour

import (
	"fmt"

	"dustyfern/craft/fault"
)

// DifferenceIn compares two colours.
type DifferenceIn struct {
	A Value `json:"a"`
	B Value `json:"b"`
}

// DifferenceOut is CIEDE2000 and the solvers' distance.
type DifferenceOut struct {
	De00 float64    `json:"de00"`
	Dist float64    `json:"dist"`
	LabA [3]float64 `json:"labA"`
	LabB [3]float64 `json:"labB"`
}

// Difference of two colours.
func Difference(in DifferenceIn) (DifferenceOut, error) {
	a, err := readColour(in.A, "a")
	if err != nil {
		return DifferenceOut{}, err
	}
	b, err := readColour(in.B, "b")
	if err != nil {
		return DifferenceOut{}, err
	}
	p := difference(a, b)
	return DifferenceOut{p.de00(), p.dist(), a, b}, nil
}

// CurveIn asks for the smoothest reflectance of a swatch.
type CurveIn struct {
	Colour  Value   `json:"colour"`
	Ceiling PasteIn `json:"ceiling"`
}

// CurveOut is the curve by nm, how far its colour had to be moved (DE00), and
// the colours of curve and swatch.
type CurveOut struct {
	Reflectance map[string]float64 `json:"reflectance"`
	Moved       float64            `json:"moved"`
	MadeHex     string             `json:"madeHex"`
	XYZ         [3]float64         `json:"xyz"`
	Lab         [3]float64         `json:"lab"`
}

// Curve of a swatch, below a paste's own when a ceiling is given.
func Curve(in CurveIn) (CurveOut, error) {
	rgb, err := readSwatch(in.Colour, "colour")
	if err != nil {
		return CurveOut{}, err
	}
	ceil := ones
	if in.Ceiling != nil {
		p, err := readPaste(in.Ceiling, "ceiling")
		if err != nil {
			return CurveOut{}, err
		}
		ceil = p.reflectance()
	}
	r, moved := curve(rgb, &ceil)
	xyz := rgbToXYZ.times(rgb)
	return CurveOut{nmOf(&r), moved, hexOf(r.xyz()), xyz, labOf(xyz)}, nil
}

// FilmIn is a film of absorption and scattering on a ground (none: endless), or
// a reflectance whose K/S is asked.
type FilmIn struct {
	Absorption  *float64 `json:"absorption" in:"0..1e4"`
	Scattering  *float64 `json:"scattering" in:"0..1e4"`
	Ground      *float64 `json:"ground" in:"0..1"`
	Reflectance *float64 `json:"reflectance" in:"0..1"`
}

// FilmOut is one of the two.
type FilmOut struct {
	Reflectance *float64 `json:"reflectance,omitempty"`
	KS          *float64 `json:"ks,omitempty"`
}

// Film reflects by Kubelka-Munk.
func Film(in FilmIn) (FilmOut, error) {
	if err := fault.Check(&in); err != nil {
		return FilmOut{}, err
	}
	if in.Reflectance != nil {
		if in.Absorption != nil {
			return FilmOut{}, fault.New(fault.Contradiction, "absorption", "Ask for a film, or for the K/S of a reflectance, not both.")
		}
		if in.Scattering != nil {
			return FilmOut{}, fault.New(fault.Contradiction, "scattering", "Ask for a film, or for the K/S of a reflectance, not both.")
		}
		if in.Ground != nil {
			return FilmOut{}, fault.New(fault.Contradiction, "ground", "The K/S of a reflectance has no ground.")
		}
		return FilmOut{KS: new(ksOf(*in.Reflectance))}, nil
	}
	if in.Absorption == nil {
		return FilmOut{}, fault.New(fault.Required, "absorption", "How much does the film absorb?")
	}
	if in.Scattering == nil {
		return FilmOut{}, fault.New(fault.Required, "scattering", "How much does the film scatter?")
	}
	if in.Ground == nil {
		if *in.Scattering == 0 {
			return FilmOut{}, fault.New(fault.OutOfRange, "scattering", "An endless layer scatters more than nothing.")
		}
		return FilmOut{Reflectance: new(endless(*in.Absorption / *in.Scattering))}, nil
	}
	return FilmOut{Reflectance: new(layer(*in.Absorption, *in.Scattering, *in.Ground))}, nil
}

// TintIn puts gels into a base.
type TintIn struct {
	Base  PasteIn  `json:"base"`
	Gels  any      `json:"gels"`
	Hours *float64 `json:"hours" in:"0..1000"`
}

// TintOut is the rested colour, or that after some hours.
type TintOut struct {
	Lab        [3]float64         `json:"lab"`
	Hex        string             `json:"hex"`
	Weight     float64            `json:"weight"`
	Absorption map[string]float64 `json:"absorption,omitempty"`
	Strength   []float64          `json:"strength,omitempty"`
}

// Tint a base with gels.
func Tint(in TintIn) (TintOut, error) {
	base, err := readPaste(in.Base, "base")
	if err != nil {
		return TintOut{}, err
	}
	gels, doses, err := readDoses(in.Gels, "gels")
	if err != nil {
		return TintOut{}, err
	}
	if err := fault.Check(&in, "hours"); err != nil {
		return TintOut{}, err
	}
	var out TintOut
	if in.Hours != nil {
		out.Strength = []float64{}
		for j := range gels {
			x := gels[j].strength(*in.Hours)
			out.Strength = append(out.Strength, x)
			doses[j] *= x
		}
	}
	p := tint(&base, gels, doses)
	if in.Hours == nil {
		out.Absorption = nmOf(&p.K)
	}
	r := p.reflectance()
	out.Lab, out.Hex, out.Weight = r.lab(), hexOf(r.xyz()), p.S
	return out, nil
}

// MixIn kneads pastes together.
type MixIn struct {
	Parts []MixPart `json:"parts" need:"true" most:"20"`
}

// MixPart is grams of one paste.
type MixPart struct {
	Paste PasteIn  `json:"paste"`
	MassG *float64 `json:"massG" need:"true" in:"mass"`
}

// MixOut is the colour that masses make.
type MixOut struct {
	Lab   [3]float64 `json:"lab"`
	Hex   string     `json:"hex"`
	MassG float64    `json:"massG"`
}

// Mix kneads pastes by mass.
func Mix(in MixIn) (MixOut, error) {
	if err := fault.Check(&in); err != nil {
		return MixOut{}, err
	}
	var ps []Paste
	var shares []float64
	out := MixOut{}
	for i, x := range in.Parts {
		p, err := readPaste(x.Paste, fmt.Sprintf("parts[%d].paste", i))
		if err != nil {
			return MixOut{}, err
		}
		ps, shares = append(ps, p), append(shares, *x.MassG)
		out.MassG += *x.MassG
	}
	for i := range shares {
		shares[i] /= out.MassG
	}
	p := mix(ps, shares)
	r := p.reflectance()
	out.Lab, out.Hex = r.lab(), hexOf(r.xyz())
	return out, nil
}
