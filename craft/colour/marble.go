package colour

import (
	"math"

	"dustyfern/craft/fault"
)

// MarbleIn is a rope that is twisted and folded.
type MarbleIn struct {
	DiameterMM *float64 `json:"diameterMM" need:"true" in:"1..200"`
	LengthMM   *float64 `json:"lengthMM" need:"true" in:"1..2000"`
	Turns      *float64 `json:"turns" need:"true" in:"0..50"`
	MinorShare *float64 `json:"minorShare" def:"0.5" in:"0.001..0.5"`
	Cycles     *int     `json:"cycles" def:"0" in:"0..100"`
	A          PasteIn  `json:"a"`
	B          PasteIn  `json:"b"`
}

// MarbleOut is the stripes after some cycles, and when they are gone.
type MarbleOut struct {
	Factor        float64 `json:"factor"`
	StripeMM      float64 `json:"stripeMM"`
	StripesAcross float64 `json:"stripesAcross"`
	CyclesToSolid int     `json:"cyclesToSolid"`
	FarHex        string  `json:"farHex,omitempty"`
	SolidHex      string  `json:"solidHex,omitempty"`
}

const (
	kneading = 0.8 // inefficiency (assumed)
	solidMM  = 0.3
)

// Marble follows the stripes of two pastes.
func Marble(in MarbleIn) (MarbleOut, error) {
	if err := fault.Check(&in); err != nil {
		return MarbleOut{}, err
	}
	d, minor := *in.DiameterMM, *in.MinorShare
	tau := math.Pi * d * *in.Turns / *in.LengthMM
	g := math.Sqrt2
	if tau > 1e-9 {
		g = math.Sqrt2 * (math.Sqrt(1+tau*tau) + math.Asinh(tau)/tau) / 2
	}
	n := float64(*in.Cycles)
	out := MarbleOut{Factor: g, StripeMM: d * minor * math.Pow(g, -kneading*n), StripesAcross: 2 * math.Pow(g, kneading*n)}
	out.CyclesToSolid = max(0, int(math.Floor(math.Log(d*minor/solidMM)/(kneading*math.Log(g))))+1)
	if in.A == nil && in.B == nil {
		return out, nil
	}
	a, err := readPaste(in.A, "a")
	if err != nil {
		return out, err
	}
	b, err := readPaste(in.B, "b")
	if err != nil {
		return out, err
	}
	ra, rb := a.reflectance(), b.reflectance()
	var far Spectrum
	for i := range bands {
		far[i] = (1-minor)*ra[i] + minor*rb[i]
	}
	p := mix([]Paste{a, b}, []float64{1 - minor, minor})
	solid := p.reflectance()
	out.FarHex, out.SolidHex = hexOf(far.xyz()), hexOf(solid.xyz())
	return out, nil
}
