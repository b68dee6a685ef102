package colour

import (
	"math"

	"dustyfern/craft/fault"
)

// FinishIn is a dust or a paint over a ground.
type FinishIn struct {
	Kind        *string  `json:"kind" need:"true" of:"petalDust lustre gelPaint metalPaint"`
	Colour      Value    `json:"colour"`
	Passes      *int     `json:"passes" in:"0..20"`
	Gel         any      `json:"gel"`
	Body        *float64 `json:"body" in:"0.001..1"`
	SpiritParts *float64 `json:"spiritParts" in:"0..100"`
	Coats       *int     `json:"coats" in:"1..8"`
	Ground      PasteIn  `json:"ground"`
}

// FinishOut is how it looks.
type FinishOut struct {
	Lab         [3]float64 `json:"lab"`
	Hex         string     `json:"hex"`
	CoverShare  *float64   `json:"coverShare,omitempty"`
	FlashHex    string     `json:"flashHex,omitempty"`
	Contrast    *float64   `json:"contrast,omitempty"`
	CoatsToHide *int       `json:"coatsToHide,omitempty"`
	Covers      *bool      `json:"covers,omitempty"`
	FullHex     string     `json:"fullHex,omitempty"`
}

// Constants of finishes (assumed).
const (
	dustPass    = 0.35
	lustrePass  = 0.45
	dustFilm    = 6.0
	lustreFilm  = 0.35
	paintFilm   = 1.5
	usualBody   = 0.05
	brushSpread = 0.4
	mostCoats   = 8
)

// Finish predicts dusts and paints.
func Finish(in FinishIn) (FinishOut, error) {
	if err := fault.Check(&in, "kind"); err != nil {
		return FinishOut{}, err
	}
	paint := *in.Kind == "gelPaint" || *in.Kind == "metalPaint"
	for _, f := range []struct {
		set   bool
		name  string
		right bool
	}{{in.Passes != nil, "passes", !paint}, {in.Gel != nil, "gel", *in.Kind == "gelPaint"}, {in.Body != nil, "body", *in.Kind == "gelPaint"}, {in.SpiritParts != nil, "spiritParts", paint},
		{in.Coats != nil, "coats", paint}, {in.Colour != nil, "colour", *in.Kind != "gelPaint"}} {
		if f.set && !f.right {
			return FinishOut{}, fault.New(fault.Contradiction, f.name, "%s does not belong to %s.", f.name, *in.Kind)
		}
	}
	if err := fault.Check(&in); err != nil {
		return FinishOut{}, err
	}
	ground, err := readPaste(in.Ground, "ground")
	if err != nil {
		return FinishOut{}, err
	}
	rg := ground.reflectance()
	if paint {
		return paintOn(&in, &rg)
	}
	rgb, err := readSwatch(in.Colour, "colour")
	if err != nil {
		return FinishOut{}, err
	}
	r, _ := curve(rgb, &ones)
	passes := 1
	if in.Passes != nil {
		passes = *in.Passes
	}
	each, film := dustPass, dustFilm
	if *in.Kind == "lustre" {
		each, film = lustrePass, lustreFilm
	}
	cover := 1 - math.Pow(1-each, float64(passes))
	var face, flash Spectrum
	for i := range bands {
		face[i] = (1-cover)*rg[i] + cover*layer(film*ksOf(r[i]), film, rg[i])
		flash[i] = math.Min(1, face[i]+0.5*cover*r[i])
	}
	out := FinishOut{Lab: face.lab(), Hex: hexOf(face.xyz()), CoverShare: &cover}
	if *in.Kind == "lustre" {
		out.FlashHex = hexOf(flash.xyz())
	}
	return out, nil
}

// surface is the share of light that the satin surface of dry sugar paste
// scatters before it enters: half (assumed) of the 4 % that are thrown back
// (Fresnel at an index of 1.5; Saunderson 1942).
const surface = 0.02

// Glazed is how a matt paste or film looks under a clear glaze, as a swatch.
// What a dull surface scatters in all directions leaves a smooth one in a
// single direction, so that the colour beneath it is seen without that veil:
// deeper and stronger, the more so the darker it is.
func Glazed(hex string) (string, error) {
	rgb, ok := readHex(hex)
	if !ok {
		return "", fault.New(fault.Syntax, "ground", sayColour)
	}
	for i := range rgb {
		rgb[i] = math.Max(0, (rgb[i]-surface)/(1-surface))
	}
	return hexOf(rgbToXYZ.times(rgb)), nil
}

// paintOn lays coats of paint on a ground.
func paintOn(in *FinishIn, rg *Spectrum) (FinishOut, error) {
	var kx Spectrum
	sx := dustFilm
	if *in.Kind == "gelPaint" {
		g, err := readGel(in.Gel, "gel")
		if err != nil {
			return FinishOut{}, err
		}
		body := usualBody
		if in.Body != nil {
			body = *in.Body
		}
		sx = paintFilm * body
		for i := range bands {
			kx[i] = paintFilm * g.k[i]
		}
	} else {
		rgb, err := readSwatch(in.Colour, "colour")
		if err != nil {
			return FinishOut{}, err
		}
		r, _ := curve(rgb, &ones)
		for i := range bands {
			kx[i] = dustFilm * ksOf(r[i])
		}
	}
	thin := 1.0
	if in.SpiritParts != nil {
		thin = 1 / (1 + *in.SpiritParts)
	}
	coats := 1
	if in.Coats != nil {
		coats = *in.Coats
	}
	coat := func(ground Spectrum) (out Spectrum) {
		root := brushSpread * math.Sqrt(3)
		for i := range bands {
			for _, w := range [3][2]float64{{1 - root, 1.0 / 6}, {1, 2.0 / 3}, {1 + root, 1.0 / 6}} {
				out[i] += w[1] * layer(kx[i]*thin*w[0], sx*thin*w[0], ground[i])
			}
		}
		return out
	}
	var full Spectrum
	for i := range bands {
		full[i] = endless(kx[i] / sx)
	}
	over := func(ground Spectrum, n int) Spectrum {
		for range n {
			ground = coat(ground)
		}
		return ground
	}
	paper := white100().reflectance()
	contrast := func(n int) float64 {
		black, light := over(Spectrum{}, n), over(paper, n)
		return black.xyz()[1] / light.xyz()[1]
	}
	seen := over(*rg, coats)
	hides := 0
	for n := 1; n <= mostCoats && hides == 0; n++ {
		now := over(*rg, n)
		if contrast(n) > 0.98 || difference(now.lab(), full.lab()).de00() < 2 {
			hides = n
		}
	}
	return FinishOut{Lab: seen.lab(), Hex: hexOf(seen.xyz()), Contrast: new(contrast(coats)), CoatsToHide: &hides, Covers: new(hides > 0), FullHex: hexOf(full.xyz())}, nil
}
