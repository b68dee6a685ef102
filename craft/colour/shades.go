package colour

import (
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// LadderIn asks for shades in equal steps between two ends.
type LadderIn struct {
	Path  *string `json:"path" def:"mix" of:"mix lab gels"`
	From  any     `json:"from"`
	To    any     `json:"to"`
	Steps *int    `json:"steps" need:"true" in:"2..20"`
	Base  PasteIn `json:"base"`
	Gels  []any   `json:"gels"`
}

// LadderOut is the shades, their places on the path, and the step between two.
type LadderOut struct {
	StepDe00 float64     `json:"stepDe00"`
	Hex      []string    `json:"hex"`
	T        []float64   `json:"t,omitempty"`
	Shades   []RecipeOut `json:"shades,omitempty"`
}

// Ladder walks from one end to the other in steps that look alike.
func Ladder(in LadderIn) (LadderOut, error) {
	if err := fault.Check(&in, "path", "steps"); err != nil {
		return LadderOut{}, err
	}
	var at func(t float64) vec3
	switch *in.Path {
	case "mix":
		for _, end := range []struct {
			v     any
			field string
		}{{in.From, "from"}, {in.To, "to"}} {
			if end.v == nil {
				return LadderOut{}, fault.New(fault.Required, end.field, "A ladder has two ends.")
			}
		}
		a, err := readPaste(in.From, "from")
		if err != nil {
			return LadderOut{}, err
		}
		b, err := readPaste(in.To, "to")
		if err != nil {
			return LadderOut{}, err
		}
		at = func(t float64) vec3 {
			p := mix([]Paste{a, b}, []float64{1 - t, t})
			return p.lab()
		}
	default:
		a, err := readColour(in.From, "from")
		if err != nil {
			return LadderOut{}, err
		}
		b, err := readColour(in.To, "to")
		if err != nil {
			return LadderOut{}, err
		}
		if *in.Path == "gels" {
			return gelLadder(&in, a, b)
		}
		at = straight(a, b)
	}
	ts, step := walk(at, *in.Steps)
	out := LadderOut{StepDe00: step, T: ts}
	for _, t := range ts {
		out.Hex = append(out.Hex, hexOf(xyzOf(at(t))))
	}
	return out, nil
}

func straight(a, b vec3) func(float64) vec3 {
	return func(t float64) (v vec3) {
		for k := range 3 {
			v[k] = a[k] + t*(b[k]-a[k])
		}
		return v
	}
}

// next is the first place after t that lies d away from it; ok is false when
// the end comes first.
func next(at func(float64) vec3, t, d float64) (float64, bool) {
	from := at(t)
	lo := t
	for k := 1; k <= 64; k++ {
		x := float64(k) / 64
		hi := t + (1-t)*x*x
		if difference(from, at(hi)).de00() >= d {
			for range 40 {
				mid := (lo + hi) / 2
				if difference(from, at(mid)).de00() >= d {
					hi = mid
				} else {
					lo = mid
				}
			}
			return hi, true
		}
		lo = hi
	}
	return 1, false
}

// walk finds the step with which n shades go from end to end.
func walk(at func(float64) vec3, n int) (ts []float64, step float64) {
	length := 0.0
	for k := range 64 {
		length += difference(at(float64(k)/64), at(float64(k+1)/64)).de00()
	}
	try := func(d float64) ([]float64, bool) {
		out := []float64{0}
		for len(out) < n {
			t, ok := next(at, out[len(out)-1], d)
			if !ok {
				return out, false
			}
			out = append(out, t)
		}
		return out, true
	}
	lo, hi := 0.0, 1.5*length/float64(n-1)
	for range 50 {
		mid := (lo + hi) / 2
		if _, ok := try(mid); ok {
			lo = mid
		} else {
			hi = mid
		}
	}
	ts, _ = try(lo)
	for len(ts) < n {
		ts = append(ts, 1)
	}
	ts[n-1] = 1
	return ts, lo
}

// gelLadder makes each shade with gels; ends out of reach give way to the
// nearest.
func gelLadder(in *LadderIn, a, b vec3) (LadderOut, error) {
	base, err := readPaste(in.Base, "base")
	if err != nil {
		return LadderOut{}, err
	}
	gels, err := readGels(in.Gels, "gels")
	if err != nil {
		return LadderOut{}, err
	}
	best := func(target vec3, gels []Gel) (recipe, *solver) {
		s := newSolver(target, &base, gels)
		return s.solve()[0], s
	}
	used := map[string]bool{}
	note := func(r recipe) {
		for _, g := range r.gels {
			used[gels[g].Name] = true
		}
	}
	for _, end := range []*vec3{&a, &b} {
		r, _ := best(*end, gels)
		note(r)
		if difference(r.lab, *end).de00() > 2 {
			*end = r.lab
		}
	}
	at := straight(a, b)
	middle, _ := best(at(0.5), gels)
	note(middle)
	var few []Gel
	for _, g := range gels {
		if used[g.Name] {
			few = append(few, g)
		}
	}
	ts, step := walk(at, *in.Steps)
	out := LadderOut{StepDe00: step, Shades: []RecipeOut{}}
	asked := &RecipeIn{}
	for _, t := range ts {
		r, s := best(at(t), gels)
		if len(few) > 0 {
			if r2, s2 := best(at(t), few); r2.score <= r.score+0.5 {
				r, s = r2, s2
			}
		}
		x := s.says(r, asked)
		out.Shades, out.Hex = append(out.Shades, x), append(out.Hex, x.Hex)
	}
	return out, nil
}

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
