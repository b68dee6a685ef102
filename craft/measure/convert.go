package measure

import (
	"math"
	"slices"
	"strings"

	"dustyfern/craft/fault"
)

// ConvertIn is a value with its unit and the unit wanted. Between mass and
// volume a density is needed: of a material, or one's own.
type ConvertIn struct {
	Value         *float64 `json:"value" need:"true"`
	Unit          *string  `json:"unit" need:"true"`
	To            *string  `json:"to"`
	Material      *string  `json:"material"`
	DensityGPerML *float64 `json:"densityGPerML" in:"density"`
	Spoons        *string  `json:"spoons" def:"metric" of:"us metric au"`
}

// Converted is the value in the unit wanted, the text as printed for the
// bench, and the ends when the density of a material has a range.
type Converted struct {
	Value float64  `json:"value"`
	Unit  string   `json:"unit"`
	Text  string   `json:"text"`
	Low   *float64 `json:"low,omitempty"`
	High  *float64 `json:"high,omitempty"`
}

var codes = map[string]string{
	"mg": "mg", "g": "g", "kg": "kg", "oz": "oz", "lb": "lb", "ml": "ml", "l": "l", "tsp": "tsp", "tbsp": "tbsp", "cup": "cup", "flOz": "floz",
	"mm": "mm", "cm": "cm", "m": "m", "in": "in", "ft": "ft", "C": "celsius", "F": "fahrenheit", "s": "s", "min": "min", "h": "h", "day": "day",
}

func unitOf(code, field string) (unit, error) {
	w, ok := codes[code]
	if !ok {
		var all []string
		for k := range codes {
			all = append(all, k)
		}
		slices.Sort(all)
		return unit{}, fault.New(fault.UnknownValue, field, "%q is no unit here: use one of %s.", code, strings.Join(all, ", "))
	}
	return unitWords[w], nil
}

// Convert turns one unit into another. See docs/models/quantity.md, 1.
func Convert(in ConvertIn) (Converted, error) {
	if err := fault.Check(&in); err != nil {
		return Converted{}, err
	}
	from, err := unitOf(*in.Unit, "unit")
	if err != nil {
		return Converted{}, err
	}
	if in.To == nil {
		in.To = in.Unit
	}
	to, err := unitOf(*in.To, "to")
	if err != nil {
		return Converted{}, err
	}
	var range3 Density
	if in.DensityGPerML != nil {
		range3 = Density{*in.DensityGPerML, *in.DensityGPerML, *in.DensityGPerML}
	}
	if in.Material != nil {
		d, ok := Densities[*in.Material]
		if !ok {
			return Converted{}, fault.New(fault.UnknownValue, "material", "%q has no density here: name a paste or powder of the list, or give the density.", *in.Material)
		}
		if in.DensityGPerML == nil {
			range3 = d
		}
	}
	s := SpoonSchools[*in.Spoons]
	out := Converted{Unit: *in.To}
	if from.dimension == "temperature" {
		if to.dimension != "temperature" {
			return out, fault.New(fault.Contradiction, "to", "A temperature is no %s.", to.dimension)
		}
		c := *in.Value
		if from.factor == 2 {
			c = (c - 32) / 1.8
		}
		if c < -273.15-1e-9 {
			return out, fault.New(fault.OutOfRange, "value", "Nothing is colder than -273.15 °C.")
		}
		out.Value = c
		if to.factor == 2 {
			out.Value = c*1.8 + 32
		}
		out.Text = trim(Round(out.Value, 0.1), 1) + " °" + *in.To
		return out, nil
	}
	if *in.Value < 0 {
		return out, fault.New(fault.OutOfRange, "value", "An amount is not below zero.")
	}
	base := *in.Value * from.of(s)
	k := 1 / to.of(s)
	switch {
	case from.dimension == to.dimension:
		out.Value = base * k
	case from.dimension == "volume" && to.dimension == "mass", from.dimension == "mass" && to.dimension == "volume":
		if range3.Nominal == 0 {
			return out, fault.New(fault.Required, "material", "Between grams and spoons a density is needed: say of what.")
		}
		by := func(rho float64) float64 {
			if to.dimension == "mass" {
				return base * rho * k
			}
			return base / rho * k
		}
		out.Value = by(range3.Nominal)
		if in.DensityGPerML == nil {
			lo, hi := by(range3.Low), by(range3.High)
			if lo > hi {
				lo, hi = hi, lo
			}
			out.Low, out.High = &lo, &hi
		}
	default:
		return out, fault.New(fault.Contradiction, "to", "A %s is no %s.", from.dimension, to.dimension)
	}
	if math.IsInf(out.Value, 0) || out.High != nil && math.IsInf(*out.High, 0) {
		return Converted{}, fault.New(fault.OutOfRange, "value", "%g %s is more than can be reckoned with in %s.", *in.Value, *in.Unit, *in.To)
	}
	out.Text = benchText(out.Value, to, *in.To, *in.Spoons)
	return out, nil
}

func benchText(v float64, u unit, code, spoons string) string {
	switch {
	case u.dimension == "mass":
		return FormatMass(v * u.factor)
	case code == "ml" || u.spoon != 0:
		return FormatSpoons(v*u.of(SpoonSchools[spoons])/SpoonSchools[spoons].Tsp, spoons)
	case code == "in" || code == "ft":
		return FormatInches(v * u.factor / MMPerInch)
	case u.dimension == "length":
		return FormatLength(v * u.factor)
	}
	if code == "flOz" {
		code = "fl oz"
	}
	return trim(Round(v, 0.01), 2) + " " + code
}
