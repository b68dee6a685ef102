package studio

import (
	"strconv"
	"strings"
	"time"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
)

func options(pairs ...string) []Option {
	var out []Option
	for i := 0; i < len(pairs); i += 2 {
		out = append(out, Option{pairs[i], pairs[i+1]})
	}
	return out
}

var allergenOptions = options("nuts", "nuts", "milk", "milk", "soya", "soya", "egg", "egg", "gluten", "gluten", "maize", "maize", "citrus", "citrus", "gelatine", "gelatine", "colourings", "colourings")

var breakageOptions = options("robust", "robust: 2 in 100", "ordinary", "ordinary: 5 in 100", "delicate", "delicate: 10 in 100", "fragile", "fragile: 20 in 100")

var gradeOptions = options("", "not squeezed", "1", "1 sticks and slumps", "2", "2 soft", "3", "3 holds an edge", "4", "4 stiff", "5", "5 cracks")

// codeOf is the code of an option that is written as its code or as it is said;
// "" when it is neither.
func codeOf(all []Option, text string) string {
	for _, o := range all {
		if strings.EqualFold(o.Code, text) || strings.EqualFold(o.Say, text) {
			return o.Code
		}
	}
	return ""
}

var kitchenFields = []*field[noun.Kitchen]{
	{name: "name", label: "Studio", group: "Studio", kind: "text", must: true, at: func(k *noun.Kitchen) any { return &k.Name }},
	{name: "timeZone", label: "Time zone", group: "Studio", kind: "text", must: true, hint: "such as Europe/London", at: func(k *noun.Kitchen) any { return &k.TimeZone },
		read: func(_ reader, text string, k *noun.Kitchen, _ time.Time) error {
			if _, err := time.LoadLocation(text); err != nil || text == "Local" {
				return fault.New(fault.UnknownValue, "timeZone", "%q is no time zone: write it as Europe/London or America/New_York.", text)
			}
			k.TimeZone = text
			return nil
		}},
	{name: "tempC", label: "Room is", group: "Room", kind: "amount", dim: "temp", lo: 5, hi: 40, must: true, at: func(k *noun.Kitchen) any { return &k.TempC }},
	{name: "rhPercent", label: "Humidity", group: "Room", kind: "amount", dim: "percent", lo: 5, hi: 95, must: true, at: func(k *noun.Kitchen) any { return &k.RHPercent }},
	{name: "hours", label: "Weekly hours, one stretch a line", group: "Hours", kind: "lines", hint: "Tue 19:00-22:00 Ines, Tobi. Put (unwelcome) after hours to use only when there is no other way.",
		read: func(_ reader, text string, k *noun.Kitchen, _ time.Time) error {
			h, err := lines("hours", text, readWeekly)
			if err == nil {
				err = overlapping(h)
			}
			k.Hours = h
			return err
		},
		show: func(_ reader, k *noun.Kitchen, _ time.Time) string {
			return shown(k.Hours, func(h noun.Hours) string { return h.Weekday.String()[:3] + " " + showHours(h) })
		}},
	{name: "exceptions", label: "Exceptions, one date a line", group: "Hours", kind: "lines", hint: "Thu 24 Dec shut, or Sat 28 Nov 9:00-12:00 Ines",
		read: func(_ reader, text string, k *noun.Kitchen, now time.Time) error {
			x, err := lines("exceptions", text, func(l string) (noun.Exception, error) { return readException(l, now) })
			k.Exceptions = x
			return err
		},
		show: func(_ reader, k *noun.Kitchen, now time.Time) string {
			return shown(k.Exceptions, func(x noun.Exception) string {
				t, _ := time.ParseInLocation(time.DateOnly, x.Date, now.Location())
				if len(x.Open) == 0 {
					return t.Format("Mon 2 Jan 2006") + " shut"
				}
				return t.Format("Mon 2 Jan 2006") + " " + showHours(x.Open[0])
			})
		}},
	{name: "bufferMinutes", label: "Kept free before a hand-over", group: "Hours", kind: "amount", dim: "minutes", lo: 0, hi: 10080, must: true, at: func(k *noun.Kitchen) any { return &k.BufferMinutes }},
	{name: "freezerPlaces", label: "Places in the freezer", group: "Places", kind: "count", lo: 0, hi: 1000, must: true, hint: "small moulds at once", at: func(k *noun.Kitchen) any { return &k.FreezerPlaces }},
	{name: "trays", label: "Trays", group: "Places", kind: "lines", hint: "5 of 400 x 300 mm",
		read: func(_ reader, text string, k *noun.Kitchen, _ time.Time) error {
			x, err := lines("trays", text, readTray)
			k.Trays = x
			return err
		},
		show: func(_ reader, k *noun.Kitchen, _ time.Time) string {
			return shown(k.Trays, func(t noun.Tray) string {
				return strconv.Itoa(t.Count) + " of " + trimmed(t.LengthMM, 1) + " x " + trimmed(t.WidthMM, 1) + " mm"
			})
		}},
	{name: "formers", label: "Formers", group: "Places", kind: "lines", hint: "24 cupped holes",
		read: func(_ reader, text string, k *noun.Kitchen, _ time.Time) error {
			x, err := lines("formers", text, readFormer)
			k.Formers = x
			return err
		},
		show: func(_ reader, k *noun.Kitchen, _ time.Time) string {
			return shown(k.Formers, func(f noun.Former) string { return strconv.Itoa(f.Count) + " " + f.Name })
		}},
	{name: "scaleStepG", label: "My scale shows steps of", group: "Habits", kind: "amount", dim: "mass", fine: true, lo: 0.001, hi: 50, must: true, at: func(k *noun.Kitchen) any { return &k.ScaleStepG }},
	{name: "spoonGrams", label: "My level teaspoons weigh, one a line", group: "Habits", kind: "lines", hint: "CMC 2.8 g; tragacanth, cornflour, icing sugar likewise; without, by the powder's table",
		read: func(_ reader, text string, k *noun.Kitchen, _ time.Time) (err error) {
			k.SpoonGrams, err = readGrams("spoonGrams", text, powders, 1, 8)
			return err
		},
		show: func(r reader, k *noun.Kitchen, _ time.Time) string { return gramsShown(r, k.SpoonGrams, powders) }},
	{name: "unitGrams", label: "Grams in one of mine, one a line", group: "Habits", kind: "lines", hint: "sachet 11 g; packet, stick, leaf or sheet likewise",
		read: func(_ reader, text string, k *noun.Kitchen, _ time.Time) (err error) {
			k.UnitGrams, err = readGrams("unitGrams", text, countedUnits, 0.01, 50000)
			return err
		},
		show: func(r reader, k *noun.Kitchen, _ time.Time) string { return gramsShown(r, k.UnitGrams, countedUnits) }},
	{name: "dropG", label: "A drop of gel weighs", group: "Habits", kind: "amount", dim: "mass", fine: true, lo: 0.001, hi: 1, must: true, assumed: true, hint: "weigh 20 drops", at: func(k *noun.Kitchen) any { return &k.DropG }},
	{name: "dabG", label: "A dab of gel (toothpick tip) weighs", group: "Habits", kind: "amount", dim: "mass", fine: true, lo: 0.0001, hi: 1, must: true, assumed: true, at: func(k *noun.Kitchen) any { return &k.DabG }},
	{name: "mixWith", label: "In \"1:1 with modelling paste\" I mean", group: "Habits", kind: "choice", options: options("", "ask me", "flowerPaste", "flower paste (1.6 % gum)", "modellingPaste", "hardened sugar paste (0.95 % gum)"), at: func(k *noun.Kitchen) any { return &k.MixWith }},
	{name: "powder", label: "Hardener powder", group: "Habits", kind: "choice", options: options("cmc", "CMC", "tragacanth", "gum tragacanth"), must: true, at: func(k *noun.Kitchen) any { return &k.Powder }},
	{name: "school", label: "Usual dose", group: "Habits", kind: "choice", options: options("light", "light", "modelling", "middle", "extra", "heavy"), must: true, at: func(k *noun.Kitchen) any { return &k.School }},
	{name: "breakage", label: "Usual breakage", group: "Habits", kind: "choice", options: breakageOptions, must: true, assumed: true, at: func(k *noun.Kitchen) any { return &k.Breakage }},
	{name: "words", label: "Words", group: "Reading", kind: "choice", options: options("uk", "British", "us", "American"), must: true, at: func(k *noun.Kitchen) any { return &k.Words }},
	{name: "units", label: "Units", group: "Reading", kind: "choice", options: options("metric", "metric", "us", "US"), must: true, at: func(k *noun.Kitchen) any { return &k.Units }},
	{name: "scheme", label: "Scheme", group: "Reading", kind: "choice", options: options("light", "light", "dim", "dim", "system", "as the system"), must: true, at: func(k *noun.Kitchen) any { return &k.Scheme }},
	{name: "keys", label: "Keys of the keyboard", group: "Reading", kind: "yes", at: func(k *noun.Kitchen) any { return &k.Keys }},
	{name: "confidence", label: "Drying is planned at", group: "Minutes and margins", kind: "amount", dim: "percent", lo: 50, hi: 99, must: true, assumed: true,
		at: func(k *noun.Kitchen) any { return nil },
		read: func(r reader, text string, k *noun.Kitchen, now time.Time) error {
			f := field[noun.Kitchen]{name: "confidence", kind: "amount", dim: "percent", lo: 50, hi: 99}
			x, err := f.number(r, text)
			k.Confidence = x / 100
			return err
		},
		show: func(_ reader, k *noun.Kitchen, _ time.Time) string { return trimmed(k.Confidence*100, 1) + " %" }},
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
	{name: "whiteFrom", label: "White begins at lightness", group: "Minutes and margins", kind: "amount", dim: "number", lo: 0, hi: 100, must: true, assumed: true, at: func(k *noun.Kitchen) any { return &k.WhiteFrom }},
	{name: "freshDays", label: "Eaten pieces stay fresh for days", group: "Minutes and margins", kind: "amount", dim: "number", lo: 0.1, hi: 365, must: true, assumed: true, at: func(k *noun.Kitchen) any { return &k.FreshDays }},
}

func minuteField(name, label string, lo, hi float64, at func(*noun.Kitchen) any) *field[noun.Kitchen] {
	return &field[noun.Kitchen]{name: name, label: label, group: "Minutes and margins", kind: "amount", dim: "minutes", lo: lo, hi: hi, must: true, assumed: true, at: at}
}

// overlapping refuses weekly hours that overlap on one day.
func overlapping(all []noun.Hours) error {
	for i, a := range all {
		for _, b := range all[:i] {
			if a.Weekday == b.Weekday && a.From < b.To && b.From < a.To {
				return fault.New(fault.Contradiction, "hours", "%s %s-%s and %s-%s overlap: make one line of them.", a.Weekday.String()[:3], b.From, b.To, a.From, a.To)
			}
		}
	}
	return nil
}

var toolFields = []*field[noun.Tool]{
	{name: "name", label: "Mould", group: "Mould", kind: "text", must: true, at: func(t *noun.Tool) any { return &t.Name }},
	{name: "make", label: "Made as", group: "Mould", kind: "choice", must: true, options: options("cavity", "a cavity or channel", "lace", "shallow lace, scraped flush", "lip", "openwork with a cutting lip"), at: func(t *noun.Tool) any { return &t.Make }},
	{name: "shape", label: "Piece as it lies", group: "Piece as it lies", kind: "choice", must: true, options: options("sheet", "thin and flat", "block", "flat back, solid", "rod", "a string or rod", "ball", "a ball", "dome", "a half-ball"), at: func(t *noun.Tool) any { return &t.Shape }},
	{name: "lengthMM", label: "Length", group: "Piece as it lies", kind: "amount", dim: "length", lo: 0.1, hi: 10000, must: true, at: func(t *noun.Tool) any { return &t.LengthMM }},
	{name: "widthMM", label: "Width", group: "Piece as it lies", kind: "amount", dim: "length", lo: 0.1, hi: 10000, must: true, at: func(t *noun.Tool) any { return &t.WidthMM }},
	{name: "depthMM", label: "Depth", group: "Piece as it lies", kind: "amount", dim: "length", lo: 0.2, hi: 60, must: true, at: func(t *noun.Tool) any { return &t.DepthMM }},
	{name: "detailMM", label: "Finest detail", group: "Piece as it lies", kind: "amount", dim: "length", lo: 0.01, hi: 100, at: func(t *noun.Tool) any { return &t.DetailMM }},
	{name: "cavityML", label: "Cavity holds", group: "One piece", kind: "amount", dim: "volume", lo: 0.01, hi: 5000, hint: "ml, or weigh a piece below", at: func(t *noun.Tool) any { return &t.CavityML }},
	{name: "weighedG", label: "A piece weighed", group: "One piece", kind: "amount", dim: "mass", lo: 0.01, hi: 50000, hint: "beats the volume", at: func(t *noun.Tool) any { return &t.WeighedG }},
	{name: "cavities", label: "Cavities", group: "One piece", kind: "count", lo: 1, hi: 1000, must: true, at: func(t *noun.Tool) any { return &t.Cavities }},
	{name: "copies", label: "Copies of the mould", group: "One piece", kind: "count", lo: 1, hi: 1000, must: true, at: func(t *noun.Tool) any { return &t.Copies }},
	{name: "undercut", label: "Has faces, limbs or undercuts", group: "Ticks", kind: "yes", at: func(t *noun.Tool) any { return &t.Undercut }},
	{name: "branching", label: "Is deep, branching or a string to fill", group: "Ticks", kind: "yes", at: func(t *noun.Tool) any { return &t.Branching }},
	{name: "patterned", label: "Embosses or veins", group: "Ticks", kind: "yes", at: func(t *noun.Tool) any { return &t.Patterned }},
	{name: "chilled", label: "Chilled before it is opened", group: "Ticks", kind: "yes", at: func(t *noun.Tool) any { return &t.Chilled }},
	{name: "freezeMinutes", label: "In the freezer", group: "Minutes", kind: "amount", dim: "minutes", lo: 0, hi: 10080, hint: "empty: 8 min, deep or face 10, chocolate 5", at: func(t *noun.Tool) any { return &t.FreezeMinutes }},
	{name: "fillMinutes", label: "Fill one cavity", group: "Minutes", kind: "amount", dim: "minutes", lo: 0.01, hi: 240, hint: "empty: by the kind of mould", at: func(t *noun.Tool) any { return &t.FillMinutes }},
	{name: "unmouldMinutes", label: "Unmould", group: "Minutes", kind: "amount", dim: "minutes", lo: 0.01, hi: 240, hint: "empty: 20 s straight, 45 s chilled", at: func(t *noun.Tool) any { return &t.UnmouldMinutes }},
}

// dateField is a day of a lot: when it was opened, or until when it is good.
func dateField(name, label string, at func(*noun.Lot) **time.Time) *field[noun.Lot] {
	return &field[noun.Lot]{name: name, label: label, group: "Lot", kind: "date", at: func(l *noun.Lot) any { return at(l) },
		read: func(_ reader, text string, l *noun.Lot, now time.Time) error {
			if text == "" {
				*at(l) = nil
				return nil
			}
			t, ok := ReadDate(text, now, 12)
			if !ok {
				return fault.New(fault.Syntax, name, "Write a date such as 16 Nov or 2026-11-16.")
			}
			if name == "openedOn" && t.After(now.AddDate(0, 0, 1)) {
				return fault.New(fault.OutOfRange, name, "That is still to come: when was it opened?")
			}
			if t.Before(now.AddDate(-10, 0, 0)) || t.After(now.AddDate(10, 0, 0)) {
				return fault.New(fault.OutOfRange, name, "That is over ten years away: which year is meant?")
			}
			day := time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
			*at(l) = &day
			return nil
		},
		show: func(_ reader, l *noun.Lot, _ time.Time) string {
			if *at(l) == nil {
				return ""
			}
			return (*at(l)).UTC().Format("2 Jan 2006")
		}}
}

func shelfOptions() []Option {
	var out []Option
	for _, k := range paste.Shelf {
		out = append(out, Option{k.Code, k.Name})
	}
	return out
}

var lotFields = []*field[noun.Lot]{
	{name: "name", label: "Lot", group: "Lot", kind: "text", must: true, at: func(l *noun.Lot) any { return &l.Name }},
	{name: "kind", label: "It is", group: "Lot", kind: "choice", must: true, options: kindOptions(), at: func(l *noun.Lot) any { return &l.Kind }},
	{name: "massG", label: "Left", group: "Lot", kind: "amount", dim: "mass", lo: 0, hi: 50000, must: true, hint: "440 g, 1 lb 2 oz, or spoons: 2 tsp", at: func(l *noun.Lot) any { return &l.MassG },
		read: func(r reader, text string, l *noun.Lot, _ time.Time) error {
			g, err := readStock(r, text, "massG", l.Kind)
			if err == nil {
				l.MassG, l.OwesG = g, 0 // said anew: nothing is owed
			}
			return err
		}},
	{name: "grade", label: "Squeeze grade", group: "How it feels", kind: "choice", options: gradeOptions,
		hint: "a 40 g ball pressed to a 10 mm disc between two fingers",
		read: func(_ reader, text string, l *noun.Lot, now time.Time) error {
			if text == "" {
				l.Grade = nil
				return nil
			}
			g, _ := strconv.Atoi(codeOf(gradeOptions, text))
			if g == 0 {
				return fault.New(fault.OutOfRange, "grade", "The squeeze grade runs from 1 (slumps) to 5 (cracks).")
			}
			if l.Grade == nil || *l.Grade != g {
				l.Squeeze(g, now)
			}
			return nil
		},
		show: func(_ reader, l *noun.Lot, _ time.Time) string {
			if l.Grade == nil {
				return ""
			}
			return strconv.Itoa(*l.Grade)
		}},
	dateField("openedOn", "Opened on", func(l *noun.Lot) **time.Time { return &l.OpenedOn }),
	{name: "strengthPercent", label: "Its own gum strength", group: "How it feels", kind: "amount", dim: "percent", lo: 0, hi: 10, hint: "empty: that of its kind", at: func(l *noun.Lot) any { return &l.StrengthPercent },
		show: func(_ reader, l *noun.Lot, _ time.Time) string {
			if l.StrengthPercent == nil {
				return ""
			}
			return strconv.FormatFloat(*l.StrengthPercent, 'f', -1, 64) + " %"
		}},
	dateField("bestBefore", "Best before", func(l *noun.Lot) **time.Time { return &l.BestBefore }),
	{name: "kept", label: "Kept", group: "Lot", kind: "text", hint: "in the drawer, in the freezer", at: func(l *noun.Lot) any { return &l.Kept }},
	{name: "packG", label: "Bought in packs of", group: "Lot", kind: "amount", dim: "mass", lo: 0.01, hi: 50000, hint: "empty: the usual pack (assumed)", at: func(l *noun.Lot) any { return &l.PackG }},
	{name: "leftover", label: "A leftover", group: "Lot", kind: "yes", at: func(l *noun.Lot) any { return &l.Leftover }},
	{name: "deepening", label: "Deepens as it rests by", group: "Gel", kind: "amount", dim: "percent", lo: 0, hi: 500, hint: "empty: not at all", at: func(l *noun.Lot) any { return &l.Deepening },
		read: func(r reader, text string, l *noun.Lot, _ time.Time) error {
			if text == "" {
				l.Deepening = nil
				return nil
			}
			f := field[noun.Lot]{name: "deepening", kind: "amount", dim: "percent", lo: 0, hi: 500}
			x, err := f.number(r, text)
			if err == nil {
				l.Deepening = new(x / 100)
			}
			return err
		},
		show: func(_ reader, l *noun.Lot, _ time.Time) string {
			if l.Deepening == nil {
				return ""
			}
			return strconv.FormatFloat(*l.Deepening*100, 'f', -1, 64) + " %"
		}},
	{name: "halfTimeHours", label: "half of that in hours", group: "Gel", kind: "amount", dim: "number", lo: 0.1, hi: 100, hint: "empty: 3", at: func(l *noun.Lot) any { return &l.HalfTimeHours }},
	{name: "dropG", label: "A drop of this bottle weighs", group: "Gel", kind: "amount", dim: "mass", fine: true, lo: 0.001, hi: 1, hint: "weigh 20; empty: as in Kitchen", at: func(l *noun.Lot) any { return &l.DropG }},
	{name: "swatch", label: "Colour", group: "Lot", kind: "swatch", hint: "of a gel: 1 g in 100 g of white paste; of paste: empty is white",
		read: func(_ reader, text string, l *noun.Lot, _ time.Time) error {
			if text == "" {
				l.Swatch = nil
				return nil
			}
			var s string
			if err := readSwatch("swatch", text, &s); err != nil {
				return err
			}
			l.Swatch = &s
			return nil
		},
		show: func(_ reader, l *noun.Lot, _ time.Time) string {
			if l.Swatch == nil {
				return ""
			}
			return *l.Swatch
		}},
	{name: "allergens", label: "Allergens on the label", group: "Lot", kind: "many", options: allergenOptions, at: func(l *noun.Lot) any { return &l.Allergens }},
}

var commissionFields = []*field[noun.Commission]{
	{name: "title", label: "Commission", group: "Who and what for", kind: "text", must: true, at: func(c *noun.Commission) any { return &c.Title }},
	{name: "customer", label: "Who and what for", group: "Who and what for", kind: "text", at: func(c *noun.Commission) any { return &c.Customer }},
	{name: "handOver", label: "Handed over", group: "When", kind: "date", hint: "Sat week, 10:00", at: func(c *noun.Commission) any { return &c.HandOver },
		read: func(r reader, text string, c *noun.Commission, now time.Time) error {
			f := field[noun.Commission]{name: "handOver", kind: "date", at: func(c *noun.Commission) any { return &c.HandOver }}
			was := c.HandOver
			if err := f.set(r, text, c, now); err != nil {
				return err
			}
			if c.HandOver != nil && c.HandOver.Before(now) && (was == nil || !was.Equal(*c.HandOver)) {
				say := SayDate(*c.HandOver, now)
				c.HandOver = was
				return fault.New(fault.OutOfRange, "handOver", "%s is over: say a date to come.", say)
			}
			return nil
		}},
	{name: "cakeReady", label: "Cake ready from", group: "When", kind: "date", hint: "empty: the last hours before the hand-over", at: func(c *noun.Commission) any { return &c.CakeReady }},
	{name: "carrier", label: "It goes on", group: "What it is", kind: "choice", must: true, options: options("tiers", "a tiered cake", "smallCakes", "small cakes", "biscuits", "biscuits"), at: func(c *noun.Commission) any { return &c.Carrier }},
	{name: "tiers", label: "Tiers from below, one a line", group: "What it is", kind: "lines", hint: "round 250 mm, 110 mm tall, coated 5 mm sage sugar paste",
		read: func(_ reader, text string, c *noun.Commission, _ time.Time) error {
			x, err := lines("tiers", text, readTier)
			c.Tiers = x
			return err
		},
		show: func(_ reader, c *noun.Commission, _ time.Time) string { return shown(c.Tiers, showTier) }},
	{name: "count", label: "How many", group: "What it is", kind: "count", lo: 0, hi: 100000, at: func(c *noun.Commission) any { return &c.Count }},
	{name: "acrossMM", label: "How wide", group: "What it is", kind: "amount", dim: "length", lo: 0.1, hi: 10000, at: func(c *noun.Commission) any { return &c.AcrossMM }},
	{name: "domed", label: "Domed on top", group: "What it is", kind: "yes", at: func(c *noun.Commission) any { return &c.Domed }},
	{name: "guests", label: "Who eats", group: "Who eats", kind: "text", hint: "about 90 adults and a few children", at: func(c *noun.Commission) any { return &c.Guests }},
	{name: "children", label: "Children are served", group: "Who eats", kind: "yes", at: func(c *noun.Commission) any { return &c.Children }},
	{name: "allergies", label: "Allergies at the table", group: "Who eats", kind: "many", options: allergenOptions, at: func(c *noun.Commission) any { return &c.Allergies }},
	{name: "noAlcohol", label: "No alcohol", group: "Who eats", kind: "yes", at: func(c *noun.Commission) any { return &c.NoAlcohol }},
	{name: "noGelatine", label: "No gelatine", group: "Who eats", kind: "yes", at: func(c *noun.Commission) any { return &c.NoGelatine }},
	{name: "notes", label: "Notes", group: "Notes", kind: "notes", at: func(c *noun.Commission) any { return &c.Notes }},
}

var pieceFields = []*field[noun.Piece]{
	{name: "name", label: "Piece", group: "Piece", kind: "text", must: true, at: func(p *noun.Piece) any { return &p.Name }},
	{name: "wanted", label: "How many", group: "Piece", kind: "count", lo: 0, hi: 5000, must: true, at: func(p *noun.Piece) any { return &p.Wanted }},
	{name: "mould", label: "Mould", group: "Piece", kind: "choice",
		read: func(_ reader, text string, p *noun.Piece, _ time.Time) error {
			if text == "" {
				p.MouldID = nil
				return nil
			}
			id, err := strconv.ParseInt(text, 10, 64)
			if err != nil {
				return fault.New(fault.UnknownValue, "mould", "Choose a mould of the tool drawer.")
			}
			p.MouldID = &id
			return nil
		},
		show: func(_ reader, p *noun.Piece, _ time.Time) string {
			if p.MouldID == nil {
				return ""
			}
			return strconv.FormatInt(*p.MouldID, 10)
		}},
	{name: "colour", label: "Colour", group: "Piece", kind: "text", at: func(p *noun.Piece) any { return &p.Colour }},
	{name: "swatch", label: "Swatch", group: "Piece", kind: "swatch", must: true, at: func(p *noun.Piece) any { return &p.Swatch }},
	{name: "eaten", label: "It is", group: "How it is used", kind: "choice", must: true, options: options("mouthful", "eaten as a mouthful", "nibbled", "nibbled, mostly looked at", "shown", "only shown"), at: func(p *noun.Piece) any { return &p.Eaten }},
	{name: "knifePasses", label: "The cake knife passes through it", group: "How it is used", kind: "yes", at: func(p *noun.Piece) any { return &p.KnifePasses }},
	{name: "stance", label: "On the cake it is", group: "How it is used", kind: "choice", must: true, options: options("lying", "lying", "upright", "upright"), at: func(p *noun.Piece) any { return &p.Stance }},
	{name: "heightMM", label: "Height when upright", group: "How it is used", kind: "amount", dim: "length", lo: 0.1, hi: 10000, at: func(p *noun.Piece) any { return &p.HeightMM }},
	{name: "bent", label: "Bent round a curve", group: "How it is used", kind: "yes", at: func(p *noun.Piece) any { return &p.Bent }},
	{name: "carries", label: "Carries another piece", group: "How it is used", kind: "yes", at: func(p *noun.Piece) any { return &p.Carries }},
	{name: "joined", label: "Joined when", group: "How it is joined", kind: "choice", must: true, options: options("pliable", "pliable", "semiDry", "semi-dry", "dry", "dry", "cold", "cold from the freezer"), at: func(p *noun.Piece) any { return &p.Joined }},
	{name: "support", label: "Dries on", group: "How it is joined", kind: "choice", must: true, options: options("board", "a board", "foam", "foam", "cup", "cups", "dowel", "a dowel", "hook", "hooks", "rack", "a rack"), at: func(p *noun.Piece) any { return &p.Support }},
	{name: "bagged", label: "Kept in a bag until it goes on", group: "How it is joined", kind: "yes", at: func(p *noun.Piece) any { return &p.Bagged }},
	{name: "handledSoon", label: "Handled within 6 hours of making", group: "How it is joined", kind: "yes", at: func(p *noun.Piece) any { return &p.HandledSoon }},
	{name: "dusted", label: "Dusted or painted", group: "How it is joined", kind: "yes", at: func(p *noun.Piece) any { return &p.Dusted }},
	{name: "edgeMM", label: "Edge thinned by hand to", group: "How it is joined", kind: "amount", dim: "length", lo: 0.01, hi: 20, at: func(p *noun.Piece) any { return &p.EdgeMM }},
}

// pasteFields are set from the rail and the ways out, not from a form.
var pasteFields = []*field[noun.Piece]{
	{name: "chill", kind: "yes", at: func(p *noun.Piece) any { return &p.Chill }},
	{name: "heldUp", kind: "yes", at: func(p *noun.Piece) any { return &p.HeldUp }},
	{name: "wayOut", kind: "choice", options: options("", "none", "splitThePiece", "split the piece", "backIt", "back it"), at: func(p *noun.Piece) any { return &p.WayOut }},
	{name: "peg", kind: "amount", dim: "number", lo: 0, hi: 10, at: func(p *noun.Piece) any { return &p.PegPercent }},
	{name: "school", kind: "choice", options: options("", "none", "light", "light", "modelling", "middle", "extra", "heavy"), at: func(p *noun.Piece) any { return &p.School }},
	{name: "dough", kind: "choice", options: append(options("", "none"), doughOptions()...), at: func(p *noun.Piece) any { return &p.Dough }},
	{name: "trial", kind: "text", label: "One trial piece, weighed", read: readTrial, show: func(_ reader, p *noun.Piece, _ time.Time) string { return p.TrialText }},
}

func doughOptions() []Option {
	var out []Option
	for _, k := range paste.Shelf {
		if k.FatSet {
			out = append(out, Option{k.Code, k.Name})
		}
	}
	return out
}

// readTrial takes a weight as people write it; a volume is taken through the
// paste's density and stays an estimate with its band.
func readTrial(r reader, text string, p *noun.Piece, _ time.Time) error {
	if text == "" {
		p.TrialG, p.TrialLowG, p.TrialHighG, p.TrialText, p.TrialEstimate = nil, nil, nil, "", false
		return nil
	}
	refuse := func(code, message string) error { return fault.New(code, "trial", "%s", message) }
	in := measure.ParseIn{Text: &text}
	if r.us() {
		in.Spoons = new("us")
	}
	q, err := measure.Parse(in)
	if err != nil {
		return refuse(err.(*fault.Fault).Code, err.(*fault.Fault).Message)
	}
	if q.Ambiguous {
		var c []string
		for _, x := range q.Choices {
			c = append(c, x.Says)
		}
		return refuse(fault.Syntax, "That can be read in several ways ("+strings.Join(c, " or ")+"): write the grams.")
	}
	var g, lo, hi float64
	switch q.Dimension {
	case "mass":
		g, lo, hi = *q.Value, *q.Low, *q.High
	case "volume":
		kind := "sugarPaste"
		if p.Dough != "" {
			kind = p.Dough
		}
		d := measure.Densities[kind]
		g, lo, hi = *q.Value*d.Nominal, *q.Low*d.Low, *q.High*d.High
	case "count":
		return refuse(fault.Required, "The unit is missing: write 4.2 g or 1/8 oz.")
	default:
		return refuse(fault.Contradiction, "A weight is wanted here, such as 4.2 g.")
	}
	if lo < 0.01 || hi > 50000 {
		return refuse(fault.OutOfRange, "A piece weighs from 0.01 g to 50 kg.")
	}
	p.TrialG, p.TrialLowG, p.TrialHighG, p.TrialText, p.TrialEstimate = &g, &lo, &hi, text, q.Dimension == "volume"
	return nil
}
