package read

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/studio/noun"
)

// CountedUnits are what people count instead of weighing.
var CountedUnits = options("sachet", "sachet", "packet", "packet", "stick", "stick", "leaf", "leaf", "sheet", "sheet")

// Powders are what people take by the spoon, as they write them, by kind.
var Powders = options("cmc", "CMC", "tragacanth", "tragacanth", "cornflour", "cornflour", "icingSugar", "icing sugar")

// readGrams reads lines such as "sachet 11 g" for the things that choices names.
func readGrams(name, text string, choices []Option, lo, hi float64) (noun.UnitGrams, error) {
	out := noun.UnitGrams{}
	says, example := make([]string, len(choices)), ""
	for i, c := range choices {
		says[i] = c.Say
		example = cmp.Or(example, c.Say)
	}
	for _, l := range strings.Split(text, "\n") {
		if l = strings.TrimSpace(l); l == "" {
			continue
		}
		lower := strings.ReplaceAll(strings.ToLower(l), "cornstarch", "cornflour")
		lower = strings.ReplaceAll(lower, "powdered sugar", "icing sugar")
		i := slices.IndexFunc(choices, func(c Option) bool { return strings.HasPrefix(lower, strings.ToLower(c.Say)) })
		if i < 0 {
			return nil, fault.New(fault.UnknownValue, name, "%q is none of %s: write %s 3 g.", l, List(says), example)
		}
		f := Field[noun.Kitchen]{Name: name, Kind: "amount", Dim: "mass", Lo: lo, Hi: hi}
		g, err := f.Number(Reader{&noun.Kitchen{Units: "metric"}}, strings.Trim(lower[len(choices[i].Say):], " :"))
		if err != nil {
			return nil, err
		}
		out[choices[i].Code] = g
	}
	return out, nil
}

// gramsShown writes what readGrams reads.
func gramsShown(r Reader, all noun.UnitGrams, choices []Option) string {
	var out []string
	for _, c := range choices {
		if g, ok := all[c.Code]; ok {
			out = append(out, r.Say(c.Say)+" "+strconv.FormatFloat(g, 'f', -1, 64)+" g")
		}
	}
	return strings.Join(out, "\n")
}

// ReadStock takes an amount as people write it: spoons and millilitres go
// through the density of what it is.
func ReadStock(r Reader, text, field, kind string) (float64, error) {
	f := field0(field)
	g, err := f.Number(r, text)
	if err == nil {
		return g, nil
	}
	k, _ := KindOf(kind)
	d, ok := measure.Densities[k.density]
	in := measure.ParseIn{Text: &text, UnitGrams: r.K.UnitGrams}
	in.Spoons = new(r.Spoons())
	q, again := measure.Parse(in)
	if !ok || again != nil || q.Ambiguous || q.Dimension != "volume" {
		return 0, err
	}
	perML := d.Nominal
	if own := r.K.SpoonOf(kind); own != nil {
		perML = *own / measure.SpoonSchools[r.Spoons()].Tsp
	}
	g = *q.Value * perML
	if g < f.Lo || g > f.Hi {
		return 0, err
	}
	return g, nil
}

func field0(name string) *Field[noun.Lot] {
	return &Field[noun.Lot]{Name: name, Kind: "amount", Dim: "mass", Lo: 0, Hi: 50000}
}
