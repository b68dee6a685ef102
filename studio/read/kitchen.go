package read

import (
	"slices"
	"strconv"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/studio/noun"
)

var KitchenFields = []*Field[noun.Kitchen]{
	{Name: "name", Label: "Studio", group: "What is the studio called?", Kind: "text", Must: true, at: func(k *noun.Kitchen) any { return &k.Name }},
	{Name: "timeZone", Label: "Time zone", group: "What is the studio called?", Kind: "text", Must: true, hint: "such as Europe/London or America/New_York", at: func(k *noun.Kitchen) any { return &k.TimeZone },
		read: func(_ Reader, text string, k *noun.Kitchen, _ time.Time) error {
			if _, err := time.LoadLocation(text); err != nil || text == "Local" {
				return fault.New(fault.UnknownValue, "timeZone", "%q is no time zone: write it as Europe/London or America/New_York.", text)
			}
			k.TimeZone = text
			return nil
		}},
	{Name: "tempC", Label: "Room is", group: "How is the room?", Kind: "amount", Dim: "temp", Lo: 5, Hi: 40, Must: true, at: func(k *noun.Kitchen) any { return &k.TempC }},
	{Name: "rhPercent", Label: "Humidity", group: "How is the room?", Kind: "amount", Dim: "percent", Lo: 5, Hi: 95, Must: true, at: func(k *noun.Kitchen) any { return &k.RHPercent }},
	airField("How is the room?", func(k *noun.Kitchen) *float64 { return &k.AirMS }),
	sensorField("How is the room?", func(k *noun.Kitchen) *string { return &k.Sensor }),
	expectsField,
	{Name: "hours", Label: "Weekly hours", group: "When are you at the bench?", Kind: "lines", hint: "One stretch a line: Tue 19:00-22:00 Ada, Ben, or Mon-Fri 19:00-22:00. Put (unwelcome) after hours to use only when there is no other way.", usHint: "One stretch a line: Tue 7pm-10pm Ada, Ben, or Mon-Fri 7pm-10pm. Put (unwelcome) after hours to use only when there is no other way.",
		read: func(_ Reader, text string, k *noun.Kitchen, _ time.Time) error {
			all, err := lines("hours", text, readWeekly)
			h := slices.Concat(all...)
			if err == nil {
				err = Overlapping(h)
			}
			k.Hours = h
			return err
		},
		show: func(r Reader, k *noun.Kitchen, _ time.Time) string {
			return shown(k.Hours, func(h noun.Hours) string { return h.Weekday.String()[:3] + " " + r.HoursText(h) })
		}},
	{Name: "exceptions", Label: "Exceptions", group: "When are you at the bench?", Kind: "lines", hint: "One date a line: Thu 24 Dec shut, or Sat 28 Nov 9:00-12:00 Ada", usHint: "One date a line: Thu Dec 24 shut, or Sat Nov 28 9am-12pm Ada",
		read: func(r Reader, text string, k *noun.Kitchen, now time.Time) error {
			x, err := lines("exceptions", text, func(l string) (noun.Exception, error) { return readException(r, l, now) })
			k.Exceptions = x
			return err
		},
		show: func(r Reader, k *noun.Kitchen, _ time.Time) string {
			return shown(k.Exceptions, r.ExceptionText)
		}},
	{Name: "bufferMinutes", Label: "Kept free before a hand-over", group: "When are you at the bench?", Kind: "amount", Dim: "minutes", Lo: 0, Hi: 10080, Must: true, at: func(k *noun.Kitchen) any { return &k.BufferMinutes }},
	{Name: "freezerPlaces", Label: "Places in the freezer", group: "Where do pieces freeze and dry?", Kind: "count", Lo: 0, Hi: 1000, Must: true, hint: "small moulds at once", at: func(k *noun.Kitchen) any { return &k.FreezerPlaces }},
	{Name: "trays", Label: "Trays", group: "Where do pieces freeze and dry?", Kind: "lines", hint: "5 of 400 x 300 mm", usHint: "5 of 16 x 12 in",
		read: func(r Reader, text string, k *noun.Kitchen, _ time.Time) error {
			if asShown(text, TraysText(r, k.Trays)) {
				return nil
			}
			x, err := lines("trays", text, func(l string) (noun.Tray, error) { return readTray(r, l) })
			k.Trays = x
			return err
		},
		show: func(r Reader, k *noun.Kitchen, _ time.Time) string {
			return TraysText(r, k.Trays)
		}},
	{Name: "scaleStepG", Label: "My scale shows steps of", group: "How do you weigh and harden?", Kind: "amount", Dim: "mass", Fine: true, Lo: 0.001, Hi: 50, Must: true, at: func(k *noun.Kitchen) any { return &k.ScaleStepG }},
	{Name: "spoonGrams", Label: "My level teaspoons weigh, one a line", group: "Your own spoons, drops and packets", Kind: "lines", hint: "CMC 2.8 g; tragacanth, cornflour, icing sugar likewise; without, by the powder's table",
		read: func(_ Reader, text string, k *noun.Kitchen, _ time.Time) (err error) {
			k.SpoonGrams, err = readGrams("spoonGrams", text, Powders, 1, 8)
			return err
		},
		show: func(r Reader, k *noun.Kitchen, _ time.Time) string { return gramsShown(r, k.SpoonGrams, Powders) }},
	{Name: "unitGrams", Label: "Grams in one of mine, one a line", group: "Your own spoons, drops and packets", Kind: "lines", hint: "sachet 11 g; packet, stick, leaf or sheet likewise",
		read: func(_ Reader, text string, k *noun.Kitchen, _ time.Time) (err error) {
			k.UnitGrams, err = readGrams("unitGrams", text, CountedUnits, 0.01, 50000)
			return err
		},
		show: func(r Reader, k *noun.Kitchen, _ time.Time) string { return gramsShown(r, k.UnitGrams, CountedUnits) }},
	{Name: "boilingC", Label: "Your thermometer in boiling water", group: "Your own spoons, drops and packets", Kind: "amount", Dim: "temp", Lo: 70, Hi: 105, hint: "empty: as at the sea, 100 °C; every stage of sugar follows it", usHint: "empty: as at the sea, 212 °F; every stage of sugar follows it", at: func(k *noun.Kitchen) any { return &k.BoilingC }},
	{Name: "dropG", Label: "A drop of gel weighs", group: "Your own spoons, drops and packets", Kind: "amount", Dim: "mass", Fine: true, Lo: 0.001, Hi: 1, Must: true, assumed: true, hint: "weigh 20 drops", at: func(k *noun.Kitchen) any { return &k.DropG }},
	{Name: "dabG", Label: "A dab of gel (toothpick tip) weighs", group: "Your own spoons, drops and packets", Kind: "amount", Dim: "mass", Fine: true, Lo: 0.0001, Hi: 1, Must: true, assumed: true, at: func(k *noun.Kitchen) any { return &k.DabG }},
	{Name: "mixWith", Label: "In \"1:1 with modelling paste\" I mean", group: "Your own spoons, drops and packets", Kind: "choice", options: options("", "ask me", "flowerPaste", "flower paste (1.6 % gum)", "modellingPaste", "hardened sugar paste (0.95 % gum)"), at: func(k *noun.Kitchen) any { return &k.MixWith }},
	{Name: "powder", Label: "Hardener powder", group: "How do you weigh and harden?", Kind: "choice", options: options("cmc", "CMC", "tragacanth", "gum tragacanth"), Must: true, at: func(k *noun.Kitchen) any { return &k.Powder }},
	{Name: "school", Label: "Usual dose", group: "How do you weigh and harden?", Kind: "choice", options: options("light", "light", "modelling", "middle", "extra", "heavy"), Must: true, at: func(k *noun.Kitchen) any { return &k.School }},
	{Name: "words", Label: "Words", group: "How do you read?", Kind: "choice", options: options("uk", "British", "us", "American"), Must: true, at: func(k *noun.Kitchen) any { return &k.Words }},
	{Name: "units", Label: "Units", group: "How do you read?", Kind: "choice", options: options("metric", "metric", "us", "US"), Must: true, at: func(k *noun.Kitchen) any { return &k.Units }},
	{Name: "scheme", Label: "Scheme", group: "How do you read?", Kind: "choice", options: options("light", "light", "dim", "dim", "system", "as the system"), Must: true, at: func(k *noun.Kitchen) any { return &k.Scheme }},
	{Name: "keys", Label: "Keys of the keyboard", group: "How do you read?", Kind: "yes", at: func(k *noun.Kitchen) any { return &k.Keys }},
	{Name: "confidence", Label: "Drying is planned at", group: "Minutes and margins", Kind: "amount", Dim: "percent", Lo: 50, Hi: 99, Must: true, assumed: true,
		at: func(k *noun.Kitchen) any { return nil },
		read: func(r Reader, text string, k *noun.Kitchen, now time.Time) error {
			f := Field[noun.Kitchen]{Name: "confidence", Kind: "amount", Dim: "percent", Lo: 50, Hi: 99}
			x, err := f.Number(r, text)
			k.Confidence = x / 100
			return err
		},
		show: func(_ Reader, k *noun.Kitchen, _ time.Time) string { return Trimmed(k.Confidence*100, 1) + " %" }},
	minuteField("kneadFirst", "Knead the first 250 g", 1, 240, func(k *noun.Kitchen) any { return &k.KneadFirst }),
	minuteField("kneadMore", "each further 250 g begun", 0, 240, func(k *noun.Kitchen) any { return &k.KneadMore }),
	minuteField("putOnBase", "Put on: to begin with", 0, 240, func(k *noun.Kitchen) any { return &k.PutOnBase }),
	minuteField("putOnSmall", "Put on: a piece under 5 g", 0, 60, func(k *noun.Kitchen) any { return &k.PutOnSmall }),
	minuteField("putOnLarge", "Put on: a heavier piece", 0, 60, func(k *noun.Kitchen) any { return &k.PutOnLarge }),
	minuteField("settleMinutes", "Settle before packing", 1, 10080, func(k *noun.Kitchen) any { return &k.SettleMinutes }),
	minuteField("packMinutes", "Pack", 1, 240, func(k *noun.Kitchen) any { return &k.PackMinutes }),
	minuteField("toDarker", "Clean down to a darker colour", 0, 240, func(k *noun.Kitchen) any { return &k.ToDarker }),
	minuteField("toLighter", "to a lighter colour", 0, 240, func(k *noun.Kitchen) any { return &k.ToLighter }),
	minuteField("toWhite", "to white", 0, 240, func(k *noun.Kitchen) any { return &k.ToWhite }),
	minuteField("toFree", "to a table that avoids an allergen: wash board, tools and hands", 0, 240, func(k *noun.Kitchen) any { return &k.ToFree }),
	{Name: "whiteFrom", Label: "White begins at lightness", group: "Minutes and margins", Kind: "amount", Dim: "number", Lo: 0, Hi: 100, Must: true, assumed: true, at: func(k *noun.Kitchen) any { return &k.WhiteFrom }},
	{Name: "freshDays", Label: "Soft pieces that are eaten stay fresh for days", group: "Minutes and margins", Kind: "amount", Dim: "number", Lo: 0.1, Hi: 365, Must: true, assumed: true, at: func(k *noun.Kitchen) any { return &k.FreshDays }},
}

// TraysText is trays as they are typed.
func TraysText(r Reader, all []noun.Tray) string {
	return shown(all, func(t noun.Tray) string { return strconv.Itoa(t.Count) + " of " + sized(r, t.LengthMM, t.WidthMM) })
}
