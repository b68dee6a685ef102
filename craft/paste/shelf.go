// Package paste is the judgement of what a piece is made of: gum strength,
// hardener, blends, and the window of firmness that its demands leave open.
// See docs/models/paste.md.
package paste

import (
	"math"

	"dustyfern/craft/fault"
)

// Kind is a paste of the shelf: its name, its gum strength in g of
// CMC-equivalent gum per 100 g of paste, whether it sets by fat instead, and what
// it holds. All that the rest asks of a kind stands in its line.
type Kind struct {
	Code      string
	Name      string
	PackG     float64 // what is usually bought at once (assumed)
	Base      string  // uncoloured, among the bases of the colour model ("" = mixed of its halves)
	Strength  float64
	FatSet    bool
	SoftPoint float64 // °C, of chocolate doughs
	Family    string  // which drying table it follows ("" = cools or skins only)
	Eats      string
}

// Shelf lists every paste in the order in which it is offered.
var Shelf = []Kind{
	{Code: "sugarPaste", Name: "sugar paste", PackG: 1000, Base: "white sugar paste", Strength: 0.40, Family: "sugarPaste", Eats: "well"},
	{Code: "softSugarPaste", Name: "soft sugar paste", PackG: 500, Base: "white sugar paste", Strength: 0.25, Family: "sugarPaste", Eats: "well"},
	{Code: "marshmallowPaste", Name: "marshmallow paste", PackG: 500, Base: "white sugar paste", Strength: 0.30, Family: "sugarPaste", Eats: "well"},
	{Code: "mouldingReadyPaste", Name: "moulding-ready paste", PackG: 500, Base: "white sugar paste", Strength: 0.90, Family: "sugarPaste", Eats: "well"},
	{Code: "halfAndHalf", Name: "half-and-half", PackG: 250, Strength: 1.60, Family: "halfAndHalf", Eats: "fair"},
	{Code: "modellingPaste", Name: "modelling paste", PackG: 250, Base: "white modelling paste", Strength: 1.50, Family: "modellingPaste", Eats: "fair"},
	{Code: "flowerPaste", Name: "flower paste", PackG: 250, Base: "white flower paste", Strength: 2.80, Family: "flowerPaste", Eats: "poorly"},
	{Code: "darkChocolate", Name: "dark chocolate dough", PackG: 250, Base: "chocolate dough", FatSet: true, SoftPoint: 24, Eats: "best"},
	{Code: "milkChocolate", Name: "milk chocolate dough", PackG: 250, Base: "chocolate dough", FatSet: true, SoftPoint: 23, Eats: "best"},
	{Code: "whiteChocolate", Name: "white chocolate dough", PackG: 250, Base: "white chocolate dough", FatSet: true, SoftPoint: 22, Eats: "best"},
	{Code: "marzipan", Name: "marzipan", PackG: 500, Base: "ivory sugar paste", FatSet: true, Family: "marzipan", Eats: "well"},
}

// PlainStrength is sugar paste as it is, beside the other paste that most
// blends are made of.
var (
	PlainStrength  = StrengthOf("sugarPaste")
	FlowerStrength = StrengthOf("flowerPaste")
)

const (
	lightDose = 0.353158 // % of plain paste in the light dose, cmc and US spoon
	extraDose = 4.875    // % of plain paste in the extra dose, cmc and metric spoon
)

// StrengthOf a kind of the shelf, % gum; 0 for what it does not know.
func StrengthOf(code string) float64 {
	k, _ := KindOf(code)
	return k.Strength
}

// KindOf finds a paste of the shelf by its code.
func KindOf(code string) (Kind, bool) {
	for _, k := range Shelf {
		if k.Code == code {
			return k, true
		}
	}
	return Kind{}, false
}

// gradeOffset is what a squeeze grade says about a lot's gum strength. Grade 5
// is too dry rather than too stiff: its offset is 0.
var gradeOffset = [6]float64{0, -0.25, -0.10, 0, 0.15, 0}

// Dryness cure of grade 5, by mass of the paste.
const (
	whiteFatShare = 0.01
	waterShare    = 0.02
)

// LotStrength is the gum strength of a lot: the shelf's, or its own, moved by
// its squeeze grade (1 to 5, 0 = not squeezed) and by what was learnt.
func LotStrength(base float64, grade int, offset float64) float64 {
	return math.Max(0, base+gradeOffset[grade]+offset)
}

// Part is one paste of a mix.
type Part struct {
	Paste           *string  `json:"paste" of:"sugarPaste softSugarPaste marshmallowPaste mouldingReadyPaste halfAndHalf modellingPaste flowerPaste darkChocolate milkChocolate whiteChocolate marzipan"`
	StrengthPercent *float64 `json:"strengthPercent" in:"strength"`
	MassG           *float64 `json:"massG" need:"true" in:"mass"`
	Grade           *int     `json:"grade" in:"1..5"`
	OffsetPercent   *float64 `json:"offsetPercent" def:"0" in:"-0.3..0.3"`
}

// Powder is hardener that goes into a mix.
type Powder struct {
	Kind  *string  `json:"kind" def:"cmc" of:"cmc tragacanth"`
	MassG *float64 `json:"massG" need:"true" in:"mass"`
}

// StrengthIn is a mix by its parts, or by its name ("1:1 with modelling paste").
type StrengthIn struct {
	Parts        []Part   `json:"parts" most:"8"`
	Powders      []Powder `json:"powders"`
	UsedG        *float64 `json:"usedG" in:"0..50000"`
	Mix          *string  `json:"mix"`
	PlainPercent *float64 `json:"plainPercent" in:"strength"`
}

// StrengthOut is the gum strength of a mix (absent when it sets by fat), or
// the meanings of a name that has several.
type StrengthOut struct {
	MassG           *float64    `json:"massG,omitempty"`
	FatSet          *bool       `json:"fatSet,omitempty"`
	StrengthPercent *float64    `json:"strengthPercent,omitempty"`
	LeftG           *float64    `json:"leftG,omitempty"` // trimmings, powder included
	WhiteFatG       *float64    `json:"whiteFatG,omitempty"`
	WaterG          *float64    `json:"waterG,omitempty"`
	Ambiguous       *bool       `json:"ambiguous,omitempty"`
	With            string      `json:"with,omitempty"`
	WithShare       *float64    `json:"withShare,omitempty"`
	Choices         []MixChoice `json:"choices,omitzero"`
}

// MixChoice is one meaning of the name of a mix.
type MixChoice struct {
	With            string  `json:"with"`
	WithShare       float64 `json:"withShare"`
	StrengthPercent float64 `json:"strengthPercent"`
	Says            string  `json:"says"`
}

// Strength is the mass-weighted mean of the parts' gum strength, each powder
// adding 100 percent of its own mass.
func Strength(in StrengthIn) (StrengthOut, error) {
	if in.Mix != nil {
		return byName(in)
	}
	if in.PlainPercent != nil {
		return StrengthOut{}, fault.New(fault.Contradiction, "plainPercent", "plainPercent belongs to mix; a part carries its own strength.")
	}
	if len(in.Parts) == 0 {
		return StrengthOut{}, fault.New(fault.Required, "parts", "List at least one paste.")
	}
	if err := fault.Check(&in); err != nil {
		return StrengthOut{}, err
	}
	var mass, gum, fat, water float64
	sugar, dough, dry := false, false, false
	for i, p := range in.Parts {
		at := func(name string) string { return index("parts", i) + "." + name }
		e := 0.0
		if p.Paste != nil {
			k, _ := KindOf(*p.Paste)
			e = k.Strength
			if k.FatSet {
				switch {
				case p.StrengthPercent != nil:
					return StrengthOut{}, fault.New(fault.Contradiction, at("strengthPercent"), "A fat-set dough has no gum strength.")
				case p.Grade != nil:
					return StrengthOut{}, fault.New(fault.Contradiction, at("grade"), "The squeeze grade is for sugar pastes.")
				}
				dough = true
				mass += *p.MassG
				continue
			}
		} else if p.StrengthPercent == nil {
			return StrengthOut{}, fault.New(fault.Required, at("strengthPercent"), "Name the paste, or say its gum strength.")
		}
		sugar = true
		if p.StrengthPercent != nil {
			e = *p.StrengthPercent
		}
		grade := 0
		if p.Grade != nil {
			grade = *p.Grade
		}
		if grade == 5 {
			dry = true
			fat += whiteFatShare * *p.MassG
			water += waterShare * *p.MassG
		}
		mass += *p.MassG
		gum += LotStrength(e, grade, *p.OffsetPercent) * *p.MassG
	}
	if sugar && dough {
		return StrengthOut{}, fault.New(fault.Contradiction, "parts", "Fat-set doughs and sugar pastes do not bind: keep them apart.")
	}
	if dough && len(in.Powders) > 0 {
		return StrengthOut{}, fault.New(fault.Contradiction, "powders", "Hardener does nothing in chocolate dough or marzipan: it needs a sugar paste.")
	}
	for _, p := range in.Powders {
		mass += *p.MassG
		gum += 100 * *p.MassG
	}
	out := StrengthOut{MassG: &mass, FatSet: &dough}
	if in.UsedG != nil {
		if *in.UsedG > mass+1e-9 {
			return StrengthOut{}, fault.New(fault.Contradiction, "usedG", "%g g used of %g g: no more can be used than there is.", *in.UsedG, mass)
		}
		out.LeftG = new(math.Max(0, mass-*in.UsedG))
	}
	if !dough {
		out.StrengthPercent = new(gum / mass)
		if dry {
			out.WhiteFatG, out.WaterG = &fat, &water
		}
	}
	return out, nil
}
