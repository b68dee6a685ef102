// Package finish is what comes on to a piece that is made: dust, paint, an airbrush's
// fade, and what fixes them. See docs/models/finish.md.
package finish

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
)

// ShadeIn is the map of a piece: its ground and what comes where.
type ShadeIn struct {
	Ground *string `json:"ground" need:"true"`
	Areas  []Area  `json:"areas" need:"true" most:"60"`
	Pieces *int    `json:"pieces" def:"1" in:"1..100000"`
}

// Area is one tone on one part of the piece, in mm2. Dust names what it is taken from.
type Area struct {
	ID      *string  `json:"id" need:"true"`
	Role    *string  `json:"role" need:"true" of:"base depth vein edge underside tip high speck"`
	AreaMM2 *float64 `json:"areaMM2" need:"true" in:"area"`
	Hex     *string  `json:"hex" need:"true"`
	Dust    *string  `json:"dust"`
	Kind    *string  `json:"kind" def:"petalDust" of:"petalDust lustre metal pen"`
	Passes  *int     `json:"passes" def:"2" in:"1..20"`
}

// ShadeOut is the order of the passes with their minutes and grams.
type ShadeOut struct {
	Order        []Pass    `json:"order"`
	Dusts        []DustUse `json:"dusts"`
	Minutes      float64   `json:"minutes"`
	BrushChanges int       `json:"brushChanges"`
	Warnings     []Warning `json:"warnings"`
}

// Pass is one area in its turn.
type Pass struct {
	ID      string  `json:"id"`
	Dust    string  `json:"dust"`
	Passes  int     `json:"passes"`
	Minutes float64 `json:"minutes"`
}

// DustUse is what of a dust goes into all pieces.
type DustUse struct {
	Dust  string  `json:"dust"`
	MassG float64 `json:"massG"`
}

// Warning is what will not look as it is wanted: harsh or sheenOnly.
type Warning struct {
	ID   string `json:"id"`
	Warn string `json:"warn"`
}

// classes are when a part of a piece has its turn: base, shades, heights, specks, pens.
var classes = map[string]int{"base": 1, "depth": 2, "vein": 2, "edge": 2, "underside": 2, "tip": 2, "high": 3, "speck": 4}

// What hands and brushes take (assumed).
var (
	kindOrder = []string{"petalDust", "lustre", "metal", "pen"}
	loadMG    = map[string]float64{"petalDust": 0.005, "lustre": 0.003}
)

// LoadMG is how many mg of a kind stay on a mm2 in one pass.
func LoadMG(kind string) float64 { return loadMG[kind] }

const (
	penClass     = 5
	ReachMinutes = 0.1    // to take up a piece and find the place
	PassMM2      = 1500.0 // brushed in a minute
	WipeMinutes  = 0.5    // brush wiped and tapped at each change
	harshL       = 35.0
	sheenL       = 20.0
)

// Shade puts the tones of a piece in the order in which they come on: light to dark, the
// lightest height last. Errors are *fault.Fault.
func Shade(in ShadeIn) (ShadeOut, error) {
	if err := fault.Check(&in); err != nil {
		return ShadeOut{}, err
	}
	ground, err := lightness(*in.Ground, "ground")
	if err != nil {
		return ShadeOut{}, err
	}
	type turn struct {
		*Area
		class int
		light float64
	}
	var turns []turn
	known := map[string]bool{}
	for i := range in.Areas {
		a := &in.Areas[i]
		l, err := lightness(*a.Hex, fmt.Sprintf("areas[%d].hex", i))
		if err != nil {
			return ShadeOut{}, err
		}
		if known[*a.ID] {
			return ShadeOut{}, fault.New(fault.Contradiction, fmt.Sprintf("areas[%d].id", i), "There are two areas %q.", *a.ID)
		}
		known[*a.ID] = true
		if a.Dust == nil {
			a.Dust = a.ID
		}
		class := classes[*a.Role]
		if *a.Kind == "pen" {
			class = penClass
		}
		turns = append(turns, turn{a, class, l})
	}
	toned := func(but int) bool { // a darker or a lighter tone beside
		for i, t := range turns {
			if i != but && (t.class == 2 || t.class == 3) {
				return true
			}
		}
		return false
	}
	warn := map[string]string{}
	for i, t := range turns {
		switch {
		case t.class > 2:
		case *t.Kind == "petalDust" && math.Abs(t.light-ground) > harshL && !toned(i):
			warn[*t.ID] = "harsh"
		case *t.Kind == "lustre" && math.Abs(t.light-ground) > sheenL:
			warn[*t.ID] = "sheenOnly"
		}
	}
	slices.SortStableFunc(turns, func(a, b turn) int {
		byLight := cmp.Compare(b.light, a.light)
		if a.class == 3 {
			byLight = -byLight
		}
		return cmp.Or(cmp.Compare(a.class, b.class), cmp.Compare(slices.Index(kindOrder, *a.Kind), slices.Index(kindOrder, *b.Kind)), byLight)
	})
	out := ShadeOut{Order: []Pass{}, Dusts: []DustUse{}, Warnings: []Warning{}}
	last := ""
	for i, t := range turns {
		minutes := (ReachMinutes + *t.AreaMM2/PassMM2*float64(*t.Passes)) * float64(*in.Pieces)
		if i == 0 || *t.Dust != last {
			minutes += WipeMinutes
			out.BrushChanges++
		}
		last = *t.Dust
		out.Minutes += minutes
		out.Order = append(out.Order, Pass{*t.ID, *t.Dust, *t.Passes, minutes})
		g := *t.AreaMM2 * loadMG[*t.Kind] * float64(*t.Passes) * float64(*in.Pieces) / 1000
		if at := slices.IndexFunc(out.Dusts, func(d DustUse) bool { return d.Dust == *t.Dust }); at >= 0 {
			out.Dusts[at].MassG += g
		} else {
			out.Dusts = append(out.Dusts, DustUse{*t.Dust, g})
		}
		if w := warn[*t.ID]; w != "" {
			out.Warnings = append(out.Warnings, Warning{*t.ID, w})
		}
	}
	return out, nil
}

func lightness(hex, field string) (float64, error) {
	l, err := colour.Lightness(hex)
	if err != nil {
		return 0, fault.New(fault.Syntax, field, "%s must be a colour such as #5F8A4A, not %q.", field, hex)
	}
	return l, nil
}
