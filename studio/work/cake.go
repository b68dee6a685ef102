package work

import (
	"fmt"

	"dustyfern/craft/tier"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// CakeView is what the pieces go on, as it is drawn: tiers from below, or cakes and
// biscuits of one size.
type CakeView struct {
	Tiers    []TierView `json:"tiers"`
	Count    int        `json:"count" doc:"of small cakes or biscuits; 0: tiers"`
	AcrossMM float64    `json:"acrossMM"`
	Domed    bool       `json:"domed"`
	Flat     bool       `json:"flat" doc:"biscuits: seen from above"`
	Says     string     `json:"says"`
}

// TierView is one tier, coated, with the way round it. HeightMM is 0 while nobody
// has said it.
type TierView struct {
	Shape    string       `json:"shape"`
	AcrossMM float64      `json:"acrossMM" doc:"with its coating on both sides"`
	HeightMM float64      `json:"heightMM"`
	Says     string       `json:"says"`
	Girth    *noun.Figure `json:"girth,omitempty"`
}

// CakeOf draws what was typed of a commission; nil while there is nothing to draw.
func CakeOf(c *noun.Commission, r read.Reader) *CakeView {
	v := &CakeView{Tiers: []TierView{}}
	switch c.Carrier {
	case "tiers":
		for i := range c.Tiers {
			v.Tiers = append(v.Tiers, tierView(&c.Tiers[i], r))
		}
		if len(v.Tiers) == 0 {
			return nil
		}
	case "smallCakes", "biscuits":
		if c.Count == nil || c.AcrossMM == nil {
			return nil
		}
		v.Count, v.AcrossMM, v.Domed, v.Flat = *c.Count, *c.AcrossMM, c.Domed, c.Carrier == "biscuits"
		of := "small cakes"
		if v.Flat {
			of = "biscuits"
		}
		v.Says = r.Say(fmt.Sprintf("%d %s", v.Count, of)) + ", " + r.Length(v.AcrossMM) + " across"
	default:
		return nil
	}
	return v
}

func tierView(t *noun.Tier, r read.Reader) TierView {
	v := TierView{Shape: t.Shape, AcrossMM: t.SizeMM + 2*t.CoatingMM, HeightMM: t.HeightMM, Says: t.Shape + " " + r.Length(t.SizeMM)}
	if t.HeightMM > 0 {
		v.Says += ", " + r.Length(t.HeightMM) + " tall"
	}
	in := tier.RunIn{Shape: &t.Shape, CoatingMM: &t.CoatingMM}
	formula := "girth = 3.1416 (width + 2 × coating)"
	if t.Shape == "square" {
		in.SideMM, formula = &t.SizeMM, "girth = 4 (side + 2 × coating)"
	} else {
		in.DiameterMM = &t.SizeMM
	}
	run, err := tier.Run(in)
	if err != nil {
		return v
	}
	v.Girth = &noun.Figure{Value: run.RunMM, Unit: "round it, coated", Text: r.Length(run.RunMM), Why: &noun.Why{Rule: "The line round the coated tier, on which strings and borders lie.", Formula: formula,
		Values: []noun.Named{{Name: "width, bare", Text: r.Length(t.SizeMM)}, {Name: "coating", Text: r.Length(t.CoatingMM)}}}}
	return v
}

// Names of what a way of making measures of the cake.
const (
	runName  = "runMM"
	sideName = "sideMM"
)

// roundTier is a measure of the cake, as the order's lowest tier gives it, in mm, with what
// each tier would; 0: the order has none.
func (b *Means) roundTier(c *noun.Commission, name string) (mm float64, says string) {
	if c == nil || c.Carrier != "tiers" || name != runName && name != sideName {
		return 0, ""
	}
	var all []string
	for i := range c.Tiers {
		t := &c.Tiers[i]
		x := 0.0
		switch {
		case name == sideName && t.Shape == "square":
			x = t.SizeMM + 2*t.CoatingMM
		case name == runName:
			if v := tierView(t, b.Reader); v.Girth != nil {
				x = v.Girth.Value
			}
		}
		if x == 0 {
			continue
		}
		if mm == 0 {
			mm = x
		}
		all = append(all, b.Reader.Length(x))
	}
	if mm == 0 {
		return 0, ""
	}
	return mm, "of the tiers from below, coated: " + read.List(all)
}

// FitsOf counts the pieces of a mould that stand side by side round each tier, from
// below; empty while tier or mould is not known.
func FitsOf(c *noun.Commission, m *noun.Tool, r read.Reader) []noun.Figure {
	out := []noun.Figure{}
	if m == nil || c.Carrier != "tiers" {
		return out
	}
	_, wide, _ := m.Box()
	if wide == 0 {
		return out
	}
	for i := range c.Tiers {
		t := tierView(&c.Tiers[i], r)
		if t.Girth == nil {
			continue
		}
		fit, err := tier.Spacing(tier.SpacingIn{RunMM: &t.Girth.Value, WidthMM: &wide, GapMM: new(0.0)})
		if err != nil {
			continue
		}
		out = append(out, noun.Figure{Value: float64(*fit.MaxCount), Unit: "side by side round the tier of " + r.Length(c.Tiers[i].SizeMM), Text: fmt.Sprint(*fit.MaxCount),
			Why: &noun.Why{Rule: "As many as the way round the coated tier is pieces wide, with no gap between them.", Formula: "whole pieces = girth / width",
				Values: []noun.Named{{Name: "girth", Text: t.Girth.Text}, {Name: "width of a piece", Text: r.Length(wide)}}}})
	}
	return out
}
