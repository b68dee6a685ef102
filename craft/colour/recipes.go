package colour

import (
	"fmt"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// RecipeIn asks for gels that make a target in a base; with batchG, for what
// hands will do.
type RecipeIn struct {
	Target      Value    `json:"target"`
	Base        PasteIn  `json:"base"`
	Gels        []any    `json:"gels"`
	BatchG      *float64 `json:"batchG" in:"mass"`
	StepG       *float64 `json:"stepG" def:"0.1" in:"0.001..50"`
	DropG       *float64 `json:"dropG" def:"0.045" in:"0.001..1"`
	DabG        *float64 `json:"dabG" def:"0.015" in:"0.001..1"`
	MotherBaseG *float64 `json:"motherBaseG" def:"10" in:"0.1..1000"`
}

// RecipeGel is one gel of a recipe, g in 100 g of base.
type RecipeGel struct {
	Gel  string  `json:"gel"`
	Dose float64 `json:"dose"`
}

// RecipeOut is the best recipe and up to three others.
type RecipeOut struct {
	Gels         []RecipeGel `json:"gels"`
	TotalDose    float64     `json:"totalDose"`
	Sticky       bool        `json:"sticky"`
	De00         float64     `json:"de00"`
	Score        float64     `json:"score"`
	Lab          [3]float64  `json:"lab"`
	Hex          string      `json:"hex"`
	Reach        string      `json:"reach,omitempty"`
	Sensitivity  float64     `json:"sensitivityDe00"`
	Hands        *Hands      `json:"hands,omitempty"`
	Alternatives []RecipeOut `json:"alternatives,omitzero"`
}

func readGels(list []any, field string) ([]Gel, error) {
	if list == nil {
		return shelf().gels, nil
	}
	if len(list) == 0 {
		return nil, fault.New(fault.Required, field, "List at least one gel.")
	}
	if len(list) > 20 {
		return nil, fault.New(fault.OutOfRange, field, "At most 20 gels, not %d.", len(list))
	}
	var out []Gel
	for i, v := range list {
		g, err := readGel(v, fmt.Sprintf("%s[%d]", field, i))
		if err != nil {
			return nil, err
		}
		if g.Name == "" {
			g.Name = fmt.Sprintf("gel %d", i+1)
		}
		out = append(out, g)
	}
	return out, nil
}

// Recipe finds up to three gels that make a target in a base.
func Recipe(in RecipeIn) (RecipeOut, error) {
	target, err := readColour(in.Target, "target")
	if err != nil {
		return RecipeOut{}, err
	}
	base, err := readPaste(in.Base, "base")
	if err != nil {
		return RecipeOut{}, err
	}
	gels, err := readGels(in.Gels, "gels")
	if err != nil {
		return RecipeOut{}, err
	}
	if err := fault.Check(&in, "batchG", "stepG", "dropG", "dabG", "motherBaseG"); err != nil {
		return RecipeOut{}, err
	}
	s := newSolver(target, &base, gels)
	all, hands := s.solve(in.BatchG != nil)
	out := s.says(all[0])
	if in.BatchG != nil {
		out.Hands = s.hands(hands, &in)
	}
	out.Reach = s.reach(all[0])
	out.Alternatives = []RecipeOut{}
	for _, r := range all[1:] {
		if len(out.Alternatives) == 3 {
			break
		}
		out.Alternatives = append(out.Alternatives, s.says(r))
	}
	return out, nil
}

// says writes a recipe as it is solved.
func (s *solver) says(r recipe) RecipeOut {
	p := s.tinted(r.gels, r.doses)
	refl := p.reflectance()
	out := RecipeOut{Gels: []RecipeGel{}, TotalDose: r.total(), Sticky: r.total() > stickyAt, De00: difference(r.lab, s.target).de00(), Score: r.score, Lab: r.lab, Hex: hexOf(refl.xyz()), Sensitivity: s.sensitivity(r)}
	for j, g := range r.gels {
		out.Gels = append(out.Gels, RecipeGel{s.gels[g].Name, r.doses[j]})
	}
	return out
}

// LeftoversIn asks which leftovers make a target.
type LeftoversIn struct {
	Target Value      `json:"target"`
	MassG  *float64   `json:"massG" need:"true" in:"mass"`
	Stock  []Leftover `json:"stock" need:"true" most:"20"`
}

// Leftover is a tub.
type Leftover struct {
	Name  *string  `json:"name"`
	Paste PasteIn  `json:"paste"`
	MassG *float64 `json:"massG" need:"true" in:"0..50000"`
	Fresh *bool    `json:"fresh"`
}

// LeftoverUse is grams of one tub.
type LeftoverUse struct {
	Name  string  `json:"name"`
	MassG float64 `json:"massG"`
}

// LeftoversOut is the best blend and up to two others.
type LeftoversOut struct {
	Use          []LeftoverUse  `json:"use"`
	MadeG        float64        `json:"madeG"`
	Short        bool           `json:"short"`
	De00         float64        `json:"de00"`
	Score        float64        `json:"score"`
	Lab          [3]float64     `json:"lab"`
	Hex          string         `json:"hex"`
	Alternatives []LeftoversOut `json:"alternatives,omitempty"`
}

// Leftovers finds a blend of what is left.
func Leftovers(in LeftoversIn) (LeftoversOut, error) {
	target, err := readColour(in.Target, "target")
	if err != nil {
		return LeftoversOut{}, err
	}
	if err := fault.Check(&in); err != nil {
		return LeftoversOut{}, err
	}
	b := blender{solver: *newSolver(target, white100(), nil), mass: *in.MassG}
	var names []string
	total := 0.0
	for i, x := range in.Stock {
		p, err := readPaste(x.Paste, fmt.Sprintf("stock[%d].paste", i))
		if err != nil {
			return LeftoversOut{}, err
		}
		if *x.MassG < leastPieceG {
			continue
		}
		name := fmt.Sprintf("tub %d", i+1)
		if x.Name != nil {
			name = *x.Name
		}
		b.stock, names, total = append(b.stock, stockPiece{p, *x.MassG, x.Fresh != nil && *x.Fresh}), append(names, name), total+*x.MassG
	}
	if len(b.stock) == 0 {
		return LeftoversOut{}, fault.New(fault.Unreachable, "stock", "No piece is as large as half a gram.")
	}
	short := total < b.mass-1e-9
	if short {
		b.mass = total
	}
	var out LeftoversOut
	for i, x := range b.solveBlend() {
		if i == 3 {
			break
		}
		p := b.mixed(x.set, x.shares)
		r := p.reflectance()
		one := LeftoversOut{Use: []LeftoverUse{}, MadeG: b.mass, Short: short, De00: difference(x.lab, target).de00(), Score: x.score, Lab: x.lab, Hex: hexOf(r.xyz())}
		for j, k := range x.set {
			if g := x.shares[j] * b.mass; g > 1e-9 {
				one.Use = append(one.Use, LeftoverUse{names[k], g})
			}
		}
		if i == 0 {
			out = one
			out.Alternatives = []LeftoversOut{}
		} else {
			out.Alternatives = append(out.Alternatives, one)
		}
	}
	return out, nil
}

// KitchenIn is gel in drops and dabs.
type KitchenIn struct {
	GelG        *float64 `json:"gelG" need:"true" in:"0..1000"`
	DropG       *float64 `json:"dropG" def:"0.045" in:"0.001..1"`
	DabG        *float64 `json:"dabG" def:"0.015" in:"0.001..1"`
	MotherBaseG *float64 `json:"motherBaseG" def:"10" in:"0.1..1000"`
}

// KitchenOut is drops and dabs, or grams of a mother paste.
type KitchenOut struct {
	Drops       int      `json:"drops"`
	Dabs        int      `json:"dabs"`
	GotG        float64  `json:"gotG"`
	MotherBaseG *float64 `json:"motherBaseG,omitempty"`
	MotherUseG  *float64 `json:"motherUseG,omitempty"`
	TakeOffG    *float64 `json:"takeOffG,omitempty"` // of the base that is left out for it
}

// Kitchen turns grams of gel into drops and dabs of a toothpick.
func Kitchen(in KitchenIn) (KitchenOut, error) {
	if err := fault.Check(&in); err != nil {
		return KitchenOut{}, err
	}
	g, dab := *in.GelG, *in.DabG
	out := KitchenOut{}
	out.Drops, out.Dabs = measure.DropsOf(g, *in.DropG, dab)
	out.GotG = float64(out.Drops)**in.DropG + float64(out.Dabs)*dab
	if g > 0 && g < dab {
		// a mother paste of one dab, and so much of it
		out.MotherBaseG, out.MotherUseG = in.MotherBaseG, new(g*(*in.MotherBaseG+dab)/dab)
		out.TakeOffG = new(*out.MotherUseG - g)
	}
	return out, nil
}
