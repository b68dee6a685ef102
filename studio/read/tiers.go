package read

import (
	"fmt"
	"slices"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
)

var tierShapes = options("round", "round", "square", "square")

// CommissionFieldsOf are the fields of a commission with those of each of its tiers:
// what can be said in a line of text can be said field by field.
func CommissionFieldsOf(c *noun.Commission) []*Field[noun.Commission] {
	out := CommissionFields
	if c.Carrier != "tiers" || len(c.Tiers) == 0 {
		return out
	}
	out = slices.Clone(out)
	for i := range c.Tiers {
		out = append(out, tierFields(i, len(c.Tiers))...)
	}
	return out
}

func tierFields(i, of int) []*Field[noun.Commission] {
	group := fmt.Sprintf("Tier %d", i+1)
	switch {
	case of == 1:
		group = "The tier"
	case i == 0:
		group += ", the lowest"
	case i == of-1:
		group += ", the top"
	}
	// a change works on a list of its own: what is refused leaves no trace
	change := func(c *noun.Commission) *noun.Tier {
		c.Tiers = slices.Clone(c.Tiers)
		return &c.Tiers[i]
	}
	name := func(what string) string { return fmt.Sprintf("tier.%d.%s", i, what) }
	length := func(what, label string, lo, hi float64, must bool, at func(*noun.Tier) *float64) *Field[noun.Commission] {
		f := &Field[noun.Commission]{Name: name(what), Label: label, group: group, Kind: "amount", Dim: "length", Lo: lo, Hi: hi, Must: must}
		f.read = func(r Reader, text string, c *noun.Commission, _ time.Time) error {
			if i >= len(c.Tiers) {
				return fault.New(fault.OutOfRange, f.Name, "That tier is no longer there.")
			}
			x := 0.0
			if text != "" {
				var err error
				if x, err = f.Number(r, text); err != nil {
					return err
				}
			}
			*at(change(c)) = x
			return nil
		}
		f.show = func(r Reader, c *noun.Commission, _ time.Time) string {
			if i >= len(c.Tiers) || *at(&c.Tiers[i]) == 0 {
				return ""
			}
			return f.print(r, *at(&c.Tiers[i]))
		}
		return f
	}
	return []*Field[noun.Commission]{
		{Name: name("shape"), Label: "Shape", group: group, Kind: "choice", Must: true, options: tierShapes,
			read: func(_ Reader, text string, c *noun.Commission, _ time.Time) error {
				code := codeOf(tierShapes, text)
				if code == "" || i >= len(c.Tiers) {
					return fault.New(fault.UnknownValue, name("shape"), "A tier is round or square.")
				}
				change(c).Shape = code
				return nil
			},
			show: func(_ Reader, c *noun.Commission, _ time.Time) string {
				if i >= len(c.Tiers) {
					return ""
				}
				return c.Tiers[i].Shape
			}},
		length("size", "Across, bare", 20, 2000, true, func(t *noun.Tier) *float64 { return &t.SizeMM }),
		length("height", "Tall", 1, 1000, false, func(t *noun.Tier) *float64 { return &t.HeightMM }),
		length("coating", "Coated", 0.1, 100, false, func(t *noun.Tier) *float64 { return &t.CoatingMM }),
		{Name: name("with"), Label: "Coated with", group: group, Kind: "text", hint: "sage sugar paste",
			read: func(_ Reader, text string, c *noun.Commission, _ time.Time) error {
				if i >= len(c.Tiers) {
					return fault.New(fault.OutOfRange, name("with"), "That tier is no longer there.")
				}
				change(c).Coating = text
				return nil
			},
			show: func(_ Reader, c *noun.Commission, _ time.Time) string {
				if i >= len(c.Tiers) {
					return ""
				}
				return c.Tiers[i].Coating
			}},
	}
}
