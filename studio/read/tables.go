package read

import (
	"slices"
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

// allergenOptions are the fourteen of European food law, those that sugarcraft meets
// first.
var allergenOptions = options("nuts", "nuts", "egg", "egg", "milk", "milk", "soya", "soya", "gluten", "gluten", "peanut", "peanut", "sesame", "sesame", "sulphites", "sulphites",
	"celery", "celery", "mustard", "mustard", "lupin", "lupin", "fish", "fish", "crustaceans", "crustaceans", "molluscs", "molluscs")

// askedOptions are what guests ask about besides.
var askedOptions = options("alcohol", "alcohol", "animal", "animal products", "gelatine", "gelatine", "maize", "maize", "citrus", "citrus", noun.Colourings, "colourings")

var riskOptions = options("under3", "children under three", "pregnant", "somebody pregnant", "frail", "somebody frail or ill")

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

func minuteField(name, label string, lo, hi float64, at func(*noun.Kitchen) any) *Field[noun.Kitchen] {
	return &Field[noun.Kitchen]{Name: name, Label: label, group: "Minutes and margins", Kind: "amount", Dim: "minutes", Lo: lo, Hi: hi, Must: true, assumed: true, at: at}
}

// Overlapping refuses weekly hours that overlap on one day.
func Overlapping(all []noun.Hours) error {
	for i, a := range all {
		for _, b := range all[:i] {
			if a.Weekday == b.Weekday && a.From < b.To && b.From < a.To {
				return fault.New(fault.Contradiction, "hours", "%s %s-%s and %s-%s overlap: make one line of them.", a.Weekday.String()[:3], b.From, b.To, a.From, a.To)
			}
		}
	}
	return nil
}

// labelField is what a label names: ticking something says that it was read.
func labelField(name, label string, all []Option, at func(*noun.Lot) *[]string) *Field[noun.Lot] {
	f := &Field[noun.Lot]{Name: name, Label: label, group: "Label", Kind: "many", options: all, at: func(l *noun.Lot) any { return at(l) }}
	f.read = func(_ Reader, text string, l *noun.Lot, _ time.Time) error {
		list := at(l)
		if err := f.many(text, list); err != nil {
			return err
		}
		l.LabelRead = l.LabelRead || len(*list) > 0
		if name == "may" {
			for _, a := range *list {
				if slices.Contains(l.Holds, a) {
					return fault.New(fault.Contradiction, name, "It holds %s: that it may contain it is no question.", a)
				}
			}
		}
		return nil
	}
	return f
}

// dateField is a day of a lot: when it was opened, or until when it is good.
func dateField(name, label string, at func(*noun.Lot) **time.Time) *Field[noun.Lot] {
	return &Field[noun.Lot]{Name: name, Label: label, group: "Lot", Kind: "date", at: func(l *noun.Lot) any { return at(l) },
		read: func(r Reader, text string, l *noun.Lot, now time.Time) error {
			if text == "" {
				*at(l) = nil
				return nil
			}
			t, ok := readTub(text, now)
			if !ok || name == "openedOn" {
				t, ok = r.ReadDate(text, now, 12)
			}
			if !ok {
				return fault.New(fault.Syntax, name, "Write a date such as %s, 2026-11-16, 2 days ago, or 03/2027 as it is printed on the tub.", map[bool]string{true: "Nov 16", false: "16 Nov"}[r.Us()])
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
		show: func(r Reader, l *noun.Lot, _ time.Time) string {
			if *at(l) == nil {
				return ""
			}
			return r.Day((*at(l)).UTC(), true)
		}}
}

func shelfOptions() []Option {
	var out []Option
	for _, k := range paste.Shelf {
		out = append(out, Option{k.Code, k.Name})
	}
	return out
}

var LotFields = []*Field[noun.Lot]{
	{Name: "name", Label: "Lot", group: "Lot", Kind: "text", Must: true, at: func(l *noun.Lot) any { return &l.Name }},
	{Name: "kind", Label: "It is", group: "Lot", Kind: "choice", Must: true, options: kindOptions(), at: func(l *noun.Lot) any { return &l.Kind }},
	{Name: "massG", Label: "Left", group: "Lot", Kind: "amount", Dim: "mass", Lo: 0, Hi: 50000, Must: true, hint: "440 g, 1 lb 2 oz, or spoons: 2 tsp", at: func(l *noun.Lot) any { return &l.MassG },
		read: func(r Reader, text string, l *noun.Lot, _ time.Time) error {
			g, err := ReadStock(r, text, "massG", l.Kind)
			if err == nil {
				l.MassG, l.OwesG = g, 0 // said anew: nothing is owed
			}
			return err
		}},
	{Name: "grade", Label: "Squeeze grade", group: "How it feels", Kind: "choice", options: gradeOptions,
		hint: "a 40 g ball pressed to a 10 mm disc between two fingers",
		read: func(_ Reader, text string, l *noun.Lot, now time.Time) error {
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
		show: func(_ Reader, l *noun.Lot, _ time.Time) string {
			if l.Grade == nil {
				return ""
			}
			return strconv.Itoa(*l.Grade)
		}},
	dateField("openedOn", "Opened on", func(l *noun.Lot) **time.Time { return &l.OpenedOn }),
	{Name: "strengthPercent", Label: "Its own gum strength", group: "How it feels", Kind: "amount", Dim: "percent", Lo: 0, Hi: 10, hint: "empty: that of its kind", at: func(l *noun.Lot) any { return &l.StrengthPercent },
		show: func(_ Reader, l *noun.Lot, _ time.Time) string {
			if l.StrengthPercent == nil {
				return ""
			}
			return strconv.FormatFloat(*l.StrengthPercent, 'f', -1, 64) + " %"
		}},
	dateField("bestBefore", "Best before", func(l *noun.Lot) **time.Time { return &l.BestBefore }),
	{Name: "kept", Label: "Kept", group: "Lot", Kind: "text", hint: "in the drawer, in the freezer", at: func(l *noun.Lot) any { return &l.Kept }},
	{Name: "packG", Label: "Bought in packs of", group: "Lot", Kind: "amount", Dim: "mass", Lo: 0.01, Hi: 50000, hint: "empty: the usual pack (assumed)", at: func(l *noun.Lot) any { return &l.PackG }},
	{Name: "leftover", Label: "A leftover", group: "Lot", Kind: "yes", at: func(l *noun.Lot) any { return &l.Leftover }},
	{Name: "deepening", Label: "Deepens as it rests by", group: "Gel", Kind: "amount", Dim: "percent", Lo: 0, Hi: 500, hint: "empty: not at all", at: func(l *noun.Lot) any { return &l.Deepening },
		read: func(r Reader, text string, l *noun.Lot, _ time.Time) error {
			if text == "" {
				l.Deepening = nil
				return nil
			}
			f := Field[noun.Lot]{Name: "deepening", Kind: "amount", Dim: "percent", Lo: 0, Hi: 500}
			x, err := f.Number(r, text)
			if err == nil {
				l.Deepening = new(x / 100)
			}
			return err
		},
		show: func(_ Reader, l *noun.Lot, _ time.Time) string {
			if l.Deepening == nil {
				return ""
			}
			return strconv.FormatFloat(*l.Deepening*100, 'f', -1, 64) + " %"
		}},
	{Name: "halfTimeHours", Label: "half of that in hours", group: "Gel", Kind: "amount", Dim: "number", Lo: 0.1, Hi: 100, hint: "empty: 3", at: func(l *noun.Lot) any { return &l.HalfTimeHours }},
	{Name: "dropG", Label: "A drop of this bottle weighs", group: "Gel", Kind: "amount", Dim: "mass", Fine: true, Lo: 0.001, Hi: 1, hint: "weigh 20; empty: as in Kitchen", at: func(l *noun.Lot) any { return &l.DropG }},
	{Name: "swatch", Label: "Colour", group: "Lot", Kind: "swatch", hint: "of a gel: 1 g in 100 g of white paste; of paste: empty is white",
		read: func(_ Reader, text string, l *noun.Lot, _ time.Time) error {
			if text == "" {
				l.Swatch = nil
				return nil
			}
			var s string
			if err := ReadSwatch("swatch", text, &s); err != nil {
				return err
			}
			l.Swatch = &s
			return nil
		},
		show: func(_ Reader, l *noun.Lot, _ time.Time) string {
			if l.Swatch == nil {
				return ""
			}
			return *l.Swatch
		}},
	labelField("holds", "Holds, by its label", allergenOptions, func(l *noun.Lot) *[]string { return &l.Holds }),
	labelField("may", "May contain, by its label", allergenOptions, func(l *noun.Lot) *[]string { return &l.May }),
	labelField("asks", "Its label names besides", askedOptions, func(l *noun.Lot) *[]string { return &l.Asks }),
	{Name: "labelRead", Label: "The whole label is read", group: "Label", Kind: "yes", hint: "with nothing ticked it then names none of them", at: func(l *noun.Lot) any { return &l.LabelRead }},
}

var CommissionFields = []*Field[noun.Commission]{
	{Name: "title", Label: "Commission", group: "Who and what for", Kind: "text", Must: true, at: func(c *noun.Commission) any { return &c.Title }},
	{Name: "customer", Label: "Who and what for", group: "Who and what for", Kind: "text", at: func(c *noun.Commission) any { return &c.Customer }},
	{Name: "handOver", Label: "Handed over", group: "When", Kind: "date", hint: "Sat week, 10:00", usHint: "Sat week, 10 am", at: func(c *noun.Commission) any { return &c.HandOver },
		read: func(r Reader, text string, c *noun.Commission, now time.Time) error {
			f := Field[noun.Commission]{Name: "handOver", Kind: "date", at: func(c *noun.Commission) any { return &c.HandOver }}
			was := c.HandOver
			if err := f.set(r, text, c, now); err != nil {
				return err
			}
			if c.HandOver != nil && c.HandOver.Before(now) && (was == nil || !was.Equal(*c.HandOver)) {
				say := r.Date(*c.HandOver, now)
				c.HandOver = was
				return fault.New(fault.OutOfRange, "handOver", "%s is over: say a date to come.", say)
			}
			return nil
		}},
	{Name: "cakeReady", Label: "Cake ready from", group: "When", Kind: "date", hint: "empty: the last hours before the hand-over", at: func(c *noun.Commission) any { return &c.CakeReady }},
	{Name: "carrier", Label: "It goes on", group: "What it is", Kind: "choice", Must: true, options: options("tiers", "a tiered cake", "smallCakes", "small cakes", "biscuits", "biscuits"), at: func(c *noun.Commission) any { return &c.Carrier }},
	{Name: "tiers", Label: "Tiers from below, one a line", group: "What it is", Kind: "lines", hint: "round 250 mm, 110 mm tall, coated 5 mm sage sugar paste", usHint: "round 10 in, 4 in tall, coated 1/4 in sage fondant",
		read: func(r Reader, text string, c *noun.Commission, _ time.Time) error {
			if asShown(text, shown(c.Tiers, func(t noun.Tier) string { return showTier(r, t) })) {
				return nil
			}
			x, err := lines("tiers", text, func(l string) (noun.Tier, error) { return readTier(r, l) })
			c.Tiers = x
			return err
		},
		show: func(r Reader, c *noun.Commission, _ time.Time) string {
			return shown(c.Tiers, func(t noun.Tier) string { return showTier(r, t) })
		}},
	{Name: "count", Label: "How many", group: "What it is", Kind: "count", Lo: 0, Hi: 100000, at: func(c *noun.Commission) any { return &c.Count }},
	{Name: "acrossMM", Label: "How wide", group: "What it is", Kind: "amount", Dim: "length", Lo: 0.1, Hi: 10000, at: func(c *noun.Commission) any { return &c.AcrossMM }},
	{Name: "domed", Label: "Domed on top", group: "What it is", Kind: "yes", at: func(c *noun.Commission) any { return &c.Domed }},
	{Name: "guests", Label: "Who eats", group: "Who eats", Kind: "text", hint: "about 90 adults and a few children", at: func(c *noun.Commission) any { return &c.Guests }},
	{Name: "children", Label: "Children are served", group: "Who eats", Kind: "yes", at: func(c *noun.Commission) any { return &c.Children }},
	{Name: "allergies", Label: "Allergies at the table", group: "Who eats", Kind: "many", options: allergenOptions, at: func(c *noun.Commission) any { return &c.Allergies }},
	{Name: "without", Label: "Nothing of", group: "Who eats", Kind: "many", options: askedOptions, at: func(c *noun.Commission) any { return &c.Without }},
	{Name: "atRisk", Label: "At the table besides", group: "Who eats", Kind: "many", options: riskOptions, at: func(c *noun.Commission) any { return &c.AtRisk }},
	{Name: "notes", Label: "Notes", group: "Notes", Kind: "notes", at: func(c *noun.Commission) any { return &c.Notes }},
}

var PieceFields = []*Field[noun.Piece]{
	{Name: "name", Label: "Piece", group: "Piece", Kind: "text", Must: true, at: func(p *noun.Piece) any { return &p.Name }},
	{Name: "wanted", Label: "How many", group: "Piece", Kind: "count", Lo: 0, Hi: 5000, Must: true, at: func(p *noun.Piece) any { return &p.Wanted }},
	{Name: "tool", Label: "Shaped with", group: "Piece", Kind: "choice",
		read: func(_ Reader, text string, p *noun.Piece, _ time.Time) (err error) {
			p.ToolID, err = toolID("tool", text)
			return err
		},
		show: func(_ Reader, p *noun.Piece, _ time.Time) string {
			if p.ToolID == nil {
				return ""
			}
			return strconv.FormatInt(*p.ToolID, 10)
		}},
	{Name: "technique", Label: "Made as", group: "Piece", Kind: "choice", at: func(p *noun.Piece) any { return &p.Technique }},
	{Name: "colour", Label: "Colour", group: "Piece", Kind: "text", hint: "empty: the paste as it comes", at: func(p *noun.Piece) any { return &p.Colour },
		read: func(_ Reader, text string, p *noun.Piece, _ time.Time) error {
			if hex := namedSwatch(text); hex != "" && !strings.EqualFold(text, p.Colour) {
				p.Paint(hex)
			}
			p.Colour = text
			return nil
		}},
	{Name: "swatch", Label: "Swatch", group: "Piece", Kind: "swatch", Must: true, at: func(p *noun.Piece) any { return &p.Swatch },
		read: func(_ Reader, text string, p *noun.Piece, _ time.Time) error {
			var hex string
			if err := ReadSwatch("swatch", text, &hex); err != nil {
				return err
			}
			p.Paint(hex)
			return nil
		}},
	{Name: "eaten", Label: "It is", group: "How it is used", Kind: "choice", Must: true, options: options("mouthful", "eaten as a mouthful", "nibbled", "nibbled, mostly looked at", "shown", "only shown"), at: func(p *noun.Piece) any { return &p.Eaten }},
	{Name: "knifePasses", Label: "The cake knife passes through it", group: "How it is used", Kind: "yes", at: func(p *noun.Piece) any { return &p.KnifePasses }},
	{Name: "stance", Label: "On the cake it is", group: "How it is used", Kind: "choice", Must: true, options: options("lying", "lying", "upright", "upright"), at: func(p *noun.Piece) any { return &p.Stance }},
	{Name: "heightMM", Label: "Height when upright", group: "How it is used", Kind: "amount", Dim: "length", Lo: 0.1, Hi: 10000, at: func(p *noun.Piece) any { return &p.HeightMM }},
	{Name: "bent", Label: "Bent round a curve", group: "How it is used", Kind: "yes", at: func(p *noun.Piece) any { return &p.Bent }},
	{Name: "carries", Label: "Carries another piece", group: "How it is used", Kind: "yes", at: func(p *noun.Piece) any { return &p.Carries }},
	{Name: "joined", Label: "Joined when", group: "How it is joined", Kind: "choice", options: options("", "as is usual", "pliable", "pliable", "semiDry", "semi-dry", "dry", "dry", "cold", "cold from the freezer"), at: func(p *noun.Piece) any { return &p.Joined }},
	{Name: "support", Label: "Dries on", group: "How it is joined", Kind: "choice", options: options("", "as is usual", "board", "a board", "foam", "foam", "cup", "cups", "dowel", "a dowel", "hook", "hooks", "rack", "a rack"), at: func(p *noun.Piece) any { return &p.Support }},
	rackField,
	{Name: "bagged", Label: "Kept in a bag until it goes on", group: "How it is joined", Kind: "yes", at: func(p *noun.Piece) any { return &p.Bagged }},
	{Name: "handledSoon", Label: "Handled within 6 hours of making", group: "How it is joined", Kind: "yes", at: func(p *noun.Piece) any { return &p.HandledSoon }},
	{Name: "dusted", Label: "Dusted or painted", group: "How it is joined", Kind: "yes", at: func(p *noun.Piece) any { return &p.Dusted }},
	{Name: "edgeMM", Label: "Edge thinned by hand to", group: "How it is joined", Kind: "amount", Dim: "length", Lo: 0.01, Hi: 20, at: func(p *noun.Piece) any { return &p.EdgeMM }},
}

// PasteFields are set from the rail and the ways out, not from a form.
var PasteFields = []*Field[noun.Piece]{
	{Name: "chill", Kind: "yes", at: func(p *noun.Piece) any { return &p.Chill }},
	{Name: "heldUp", Kind: "yes", at: func(p *noun.Piece) any { return &p.HeldUp }},
	{Name: "wayOut", Kind: "choice", options: options("", "none", "splitThePiece", "split the piece", "backIt", "back it"), at: func(p *noun.Piece) any { return &p.WayOut }},
	{Name: "peg", Kind: "amount", Dim: "number", Lo: 0, Hi: 10, at: func(p *noun.Piece) any { return &p.PegPercent }},
	{Name: "school", Kind: "choice", options: options("", "none", "light", "light", "modelling", "middle", "extra", "heavy"), at: func(p *noun.Piece) any { return &p.School }},
	{Name: "dough", Kind: "choice", options: append(options("", "none"), doughOptions()...), at: func(p *noun.Piece) any { return &p.Dough },
		read: func(_ Reader, text string, p *noun.Piece, _ time.Time) error {
			f := Field[noun.Piece]{Name: "dough", options: append(options("", "none"), doughOptions()...)}
			was := p.Dough
			if err := f.choose(text, &p.Dough); err != nil {
				return err
			}
			if p.Dough != was && p.Dough != "" && p.ColourFrom == "" {
				p.ColourFrom = noun.AsItComes // dough starts as it is: gel hardly shows on brown
			}
			return nil
		}},
	{Name: "trial", Kind: "text", Label: "One trial piece, weighed", read: readTrial, show: func(_ Reader, p *noun.Piece, _ time.Time) string { return p.TrialText }},
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
func readTrial(r Reader, text string, p *noun.Piece, _ time.Time) error {
	if text == "" {
		p.TrialG, p.TrialLowG, p.TrialHighG, p.TrialText, p.TrialEstimate = nil, nil, nil, "", false
		return nil
	}
	refuse := func(code, message string) error { return fault.New(code, "trial", "%s", message) }
	in := measure.ParseIn{Text: &text}
	if r.Us() {
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
