package colour

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// MarblePart is one of two to four own colours that are half kneaded.
type MarblePart struct {
	Paste PasteIn  `json:"paste"`
	Share *float64 `json:"share" def:"1" in:"0.001..1000"`
}

// MarbleIn is a rope that is twisted and folded: two pastes a and b, the lesser
// with minorShare, or parts.
type MarbleIn struct {
	DiameterMM *float64     `json:"diameterMM" need:"true" in:"1..200"`
	LengthMM   *float64     `json:"lengthMM" need:"true" in:"1..2000"`
	Turns      *float64     `json:"turns" need:"true" in:"0..50"`
	MinorShare *float64     `json:"minorShare" in:"0.001..0.5"`
	Cycles     *int         `json:"cycles" def:"0" in:"0..100"`
	A          PasteIn      `json:"a"`
	B          PasteIn      `json:"b"`
	Parts      []MarblePart `json:"parts" most:"4"`
}

// MarbleOut is the stripes after some cycles, and when they are gone. With
// pastes: the look from afar while it is striped, the solid one, and which of
// them it is now.
type MarbleOut struct {
	Factor        float64   `json:"factor"`
	StripeMM      float64   `json:"stripeMM"`
	StripesAcross float64   `json:"stripesAcross"`
	CyclesToSolid int       `json:"cyclesToSolid"`
	Striped       bool      `json:"striped"`
	Shares        []float64 `json:"shares,omitempty"`
	FarHex        string    `json:"farHex,omitempty"`
	SolidHex      string    `json:"solidHex,omitempty"`
	FarDe00       *float64  `json:"farDe00,omitempty"`
	NowHex        string    `json:"nowHex,omitempty"`
}

const (
	kneading = 0.8 // inefficiency (assumed)
	solidMM  = 0.3
)

// Marble follows the stripes of two to four pastes. The least share makes the
// finest stripe; it is solid when the stripe of the second greatest is too fine
// to see.
func Marble(in MarbleIn) (MarbleOut, error) {
	if err := fault.Check(&in); err != nil {
		return MarbleOut{}, err
	}
	ps, shares, err := in.pastes()
	if err != nil {
		return MarbleOut{}, err
	}
	sorted := slices.Clone(shares)
	slices.Sort(sorted)
	least, second := sorted[0], sorted[len(sorted)-2]
	d := *in.DiameterMM
	tau := math.Pi * d * *in.Turns / *in.LengthMM
	g := math.Sqrt2
	if tau > 1e-9 {
		g = math.Sqrt2 * (math.Sqrt(1+tau*tau) + math.Asinh(tau)/tau) / 2
	}
	n := float64(*in.Cycles)
	out := MarbleOut{Factor: g, StripeMM: d * least * math.Pow(g, -kneading*n), StripesAcross: float64(len(shares)) * math.Pow(g, kneading*n)}
	out.CyclesToSolid = max(0, int(math.Floor(math.Log(d*second/solidMM)/(kneading*math.Log(g))))+1)
	out.Striped = *in.Cycles < out.CyclesToSolid
	if ps == nil {
		return out, nil
	}
	out.Shares = shares
	var far Spectrum
	for j := range ps {
		r := ps[j].reflectance()
		for i := range bands {
			far[i] += shares[j] * r[i]
		}
	}
	p := mix(ps, shares)
	solid := p.reflectance()
	out.FarHex, out.SolidHex = hexOf(far.xyz()), hexOf(solid.xyz())
	out.FarDe00 = new(difference(far.lab(), solid.lab()).de00())
	out.NowHex = out.SolidHex
	if out.Striped {
		out.NowHex = out.FarHex
	}
	return out, nil
}

// pastes are the colours (nil when none is said) with their shares, sum 1.
func (in *MarbleIn) pastes() (ps []Paste, shares []float64, err error) {
	minor := 0.5
	if in.MinorShare != nil {
		minor = *in.MinorShare
	}
	list := []MarblePart{{in.A, new(1 - minor)}, {in.B, &minor}}
	name := func(i int) string { return string("ab"[i]) }
	switch {
	case in.Parts == nil && in.A == nil && in.B == nil:
		return nil, []float64{1 - minor, minor}, nil
	case in.Parts != nil && (in.A != nil || in.B != nil || in.MinorShare != nil):
		return nil, nil, fault.New(fault.Contradiction, "parts", "Say a and b with minorShare, or parts with their shares, not both.")
	case in.Parts != nil && len(in.Parts) < 2:
		return nil, nil, fault.New(fault.Required, "parts", "Part-mixed is two colours at the least.")
	case in.Parts != nil:
		list = in.Parts
		name = func(i int) string { return fmt.Sprintf("parts[%d].paste", i) }
	}
	total := 0.0
	for _, p := range list {
		total += *p.Share
	}
	for i, p := range list {
		x, err := readPaste(p.Paste, name(i))
		if err != nil {
			return nil, nil, err
		}
		ps, shares = append(ps, x), append(shares, *p.Share/total)
	}
	return ps, shares, nil
}
