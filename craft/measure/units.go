// Package measure reads quantities as people say them and prints them as a
// bench can weigh or spoon them. See docs/models/quantity.md, section 1.
package measure

// Grams and millilitres by definition.
const (
	GramsPerPound = 453.59237
	GramsPerOunce = GramsPerPound / 16
	MMPerInch     = 25.4
	FlOzML        = 29.5735295625
)

// Spoons is a school of spoon sizes, in ml.
type Spoons struct{ Tsp, Tbsp, Cup float64 }

// SpoonSchools by code; metric is the default everywhere.
var SpoonSchools = map[string]Spoons{
	"us":     {4.92892159375, 14.78676478125, 236.5882365},
	"metric": {5, 15, 250},
	"au":     {5, 20, 250},
}

// Dimensions and the unit in which each is answered.
var canonical = map[string]string{
	"mass": "g", "volume": "ml", "length": "mm", "temperature": "C", "time": "min", "share": "share", "count": "count",
}

// Density of a material in g/ml: least, usual, most.
type Density struct{ Low, Nominal, High float64 }

var (
	sugarPaste = Density{1.25, 1.35, 1.45}
	dough      = Density{1.20, 1.28, 1.34}
)

// Densities of what is spooned or pressed, by code. Assumed where the trade
// has no figure; the textbook values are those of table 1 of the model.
var Densities = map[string]Density{
	"cmc": {0.50, 0.65, 0.80}, "tragacanth": {0.50, 0.60, 0.70},
	"icingSugar": {0.42, 0.51, 0.60}, "cornflour": {0.47, 0.54, 0.65},
	"glycerine": {1.24, 1.26, 1.262}, "gelatine": {0.47, 0.62, 0.70},
	"glucoseSyrup": {1.40, 1.42, 1.45}, "cornSyrup": {1.33, 1.38, 1.42},
	"sugar": {0.80, 0.845, 0.88}, "creamOfTartar": {0.57, 0.61, 0.75},
	"water": {0.997, 0.998, 1.0}, "clearSpirit": {0.94, 0.948, 0.96},
	"eggWhite": {1.02, 1.035, 1.05}, "whiteFat": {0.80, 0.867, 0.92},
	"sugarPaste": sugarPaste, "softSugarPaste": sugarPaste, "marshmallowPaste": sugarPaste, "mouldingReadyPaste": sugarPaste,
	"flowerPaste": {1.28, 1.35, 1.45}, "halfAndHalf": {1.26, 1.35, 1.45}, "modellingPaste": {1.26, 1.35, 1.45},
	"darkChocolate": dough, "milkChocolate": dough, "whiteChocolate": dough, "marzipan": dough, "chocolateDough": dough,
}

// unit turns an amount into the canonical unit of its dimension.
type unit struct {
	dimension string
	factor    float64 // of the canonical unit; temperatures are done apart
	spoon     byte    // 't' tsp, 'T' tbsp, 'c' cup: factor times the school's size
}

func (u unit) of(s Spoons) float64 {
	switch u.spoon {
	case 't':
		return u.factor * s.Tsp
	case 'T':
		return u.factor * s.Tbsp
	case 'c':
		return u.factor * s.Cup
	}
	return u.factor
}

// words that people write for units, in lower case; t, T, c, C and F are told
// apart before this table is asked.
var unitWords = map[string]unit{}

func init() {
	add := func(u unit, words ...string) {
		for _, w := range words {
			unitWords[w] = u
		}
	}
	add(unit{"mass", 1, 0}, "g", "gr", "gm", "gms", "gram", "grams", "gramme", "grammes")
	add(unit{"mass", 1000, 0}, "kg", "kgs", "kilo", "kilos", "kilogram", "kilograms", "kilogramme", "kilogrammes")
	add(unit{"mass", 0.001, 0}, "mg", "milligram", "milligrams", "milligramme", "milligrammes")
	add(unit{"mass", GramsPerOunce, 0}, "oz", "ozs", "ounce", "ounces")
	add(unit{"mass", GramsPerPound, 0}, "lb", "lbs", "pound", "pounds")
	add(unit{"volume", 1, 0}, "ml", "mls", "cc", "millilitre", "millilitres", "milliliter", "milliliters")
	add(unit{"volume", 10, 0}, "cl", "centilitre", "centilitres", "centiliter", "centiliters")
	add(unit{"volume", 100, 0}, "dl", "decilitre", "decilitres", "deciliter", "deciliters")
	add(unit{"volume", 1000, 0}, "l", "litre", "litres", "liter", "liters")
	add(unit{"volume", 1, 't'}, "tsp", "tsps", "teaspoon", "teaspoons", "teaspoonful", "teaspoonfuls")
	add(unit{"volume", 1, 'T'}, "tbsp", "tbsps", "tbs", "tblsp", "tablespoon", "tablespoons", "tablespoonful", "tablespoonfuls")
	add(unit{"volume", 1, 'c'}, "cup", "cups", "cupful", "cupfuls")
	add(unit{"volume", FlOzML, 0}, "floz")
	add(unit{"volume", 0.05, 0}, "drop", "drops")
	add(unit{"volume", 1.0 / 8, 't'}, "dash", "dashes")
	add(unit{"volume", 1, 't'}, "pinch", "pinches") // the size is asked
	add(unit{"volume", 1.0 / 32, 't'}, "smidgen", "smidgens", "smidgeon", "smidgeons")
	add(unit{"length", 1, 0}, "mm", "mms", "millimetre", "millimetres", "millimeter", "millimeters")
	add(unit{"length", 10, 0}, "cm", "cms", "centimetre", "centimetres", "centimeter", "centimeters")
	add(unit{"length", 1000, 0}, "m", "metre", "metres", "meter", "meters")
	add(unit{"length", MMPerInch, 0}, "in", "ins", "inch", "inches", "\"")
	add(unit{"length", 12 * MMPerInch, 0}, "ft", "foot", "feet", "'")
	add(unit{"temperature", 1, 0}, "celsius", "centigrade")
	add(unit{"temperature", 2, 0}, "fahrenheit") // 2 marks the scale
	add(unit{"time", 1.0 / 60, 0}, "s", "sec", "secs", "second", "seconds")
	add(unit{"time", 1, 0}, "min", "mins", "minute", "minutes")
	add(unit{"time", 60, 0}, "h", "hr", "hrs", "hour", "hours")
	add(unit{"time", 1440, 0}, "day", "days")
	add(unit{"share", 0.01, 0}, "%", "percent", "pc")
}

// packs hold a mass of their own market; each is named by its singular, with
// the grams that are usual when the kitchen has not weighed its own (assumed).
var packWords = map[string]string{
	"stick": "stick", "sticks": "stick", "sachet": "sachet", "sachets": "sachet",
	"packet": "packet", "packets": "packet", "pack": "packet", "packs": "packet", "pkt": "packet",
	"leaf": "leaf", "leaves": "leaf", "sheet": "sheet", "sheets": "sheet",
}

func packGrams(pack string, gelatine bool) []float64 {
	switch {
	case pack == "stick":
		return []float64{GramsPerPound / 4, 125}
	case pack == "sachet", pack == "packet" && gelatine:
		return []float64{7, 12}
	case pack == "leaf", pack == "sheet":
		return []float64{1.7, 2, 2.5}
	}
	return nil
}
