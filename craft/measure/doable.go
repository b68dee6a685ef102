package measure

import (
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/fault"
)

// What hands can measure (all assumed, docs/models/quantity.md).
const (
	stepsToWeigh = 10  // grams are said when the scale's step is at most this part of them
	spoonWithin  = 0.1 // an eighth of a spoon may be off by this share
	spoonEighth  = 0.125
	handsWithin  = 0.2 // a length made by hand
)

// DoableIn asks how hands would measure one thing: a mass, a band of masses, a
// time, a share, a chance or a length made by hand.
type DoableIn struct {
	MassG       *float64 `json:"massG" in:"0..50000"`
	LowG        *float64 `json:"lowG" in:"0..50000"`
	HighG       *float64 `json:"highG" in:"0..50000"`
	Minutes     *float64 `json:"minutes" in:"0..525600"`
	LowMinutes  *float64 `json:"lowMinutes" in:"0..525600"`
	HighMinutes *float64 `json:"highMinutes" in:"0..525600"`
	Share       *float64 `json:"share" in:"share"`
	Chance      *float64 `json:"chance" in:"share"`
	ByHandMM    *float64 `json:"byHandMM" in:"0..10000"`
	Of          *int     `json:"of" in:"1..100000"`
	What        *string  `json:"what" def:"paste" of:"paste gel powder"`
	ScaleStepG  *float64 `json:"scaleStepG" def:"0.1" in:"0.001..50"`
	DropG       *float64 `json:"dropG" def:"0.045" in:"0.001..1"`
	DabG        *float64 `json:"dabG" def:"0.015" in:"0.001..1"`
	MotherBaseG *float64 `json:"motherBaseG" def:"10" in:"0.1..1000"`
	GramsPerTsp *float64 `json:"gramsPerTsp" in:"1..8"`
}

// DoableOut is what hands do, and the words for it. Way is weigh or share of a
// paste; drops, mother or trace of a gel; weigh, spoon, dilute or trace of a
// powder; none of nothing.
type DoableOut struct {
	Text        string   `json:"text"`
	Way         string   `json:"way,omitempty"`
	Weigh       *bool    `json:"weigh,omitempty"`
	RoundedG    *float64 `json:"roundedG,omitempty"`
	SharePieces *int     `json:"sharePieces,omitempty"`
	Drops       *int     `json:"drops,omitempty"`
	Dabs        *int     `json:"dabs,omitempty"`
	GotG        *float64 `json:"gotG,omitempty"`
	MotherBaseG *float64 `json:"motherBaseG,omitempty"`
	MotherUseG  *float64 `json:"motherUseG,omitempty"`
	TspRounded  *float64 `json:"tspRounded,omitempty"`
	PowderG     *float64 `json:"powderG,omitempty"`
	InPasteG    *float64 `json:"inPasteG,omitempty"`
	UseG        *float64 `json:"useG,omitempty"`
	TakeOffG    *float64 `json:"takeOffG,omitempty"` // of the base that is left out for it
	Count       *int     `json:"count,omitempty"`
	FromG       *float64 `json:"fromG,omitempty"`
	ToG         *float64 `json:"toG,omitempty"`
	Minutes     *float64 `json:"minutes,omitempty"`
	LowMinutes  *float64 `json:"lowMinutes,omitempty"`
	HighMinutes *float64 `json:"highMinutes,omitempty"`
	Percent     *float64 `json:"percent,omitempty"`
	LowMM       *float64 `json:"lowMM,omitempty"`
	HighMM      *float64 `json:"highMM,omitempty"`
}

// Doable says one number as hands can do it. Exactly one of the things is
// asked: a second one is a contradiction on the later.
func Doable(in DoableIn) (DoableOut, error) {
	if err := fault.Check(&in); err != nil {
		return DoableOut{}, err
	}
	asked := ""
	for _, x := range []struct {
		name string
		said bool
	}{{"massG", in.MassG != nil}, {"lowG", in.LowG != nil || in.HighG != nil}, {"minutes", in.Minutes != nil}, {"share", in.Share != nil}, {"chance", in.Chance != nil}, {"byHandMM", in.ByHandMM != nil}} {
		if !x.said {
			continue
		}
		if asked != "" {
			return DoableOut{}, fault.New(fault.Contradiction, x.name, "One thing at a time: %s was given already.", asked)
		}
		asked = x.name
	}
	switch asked {
	case "massG":
		return in.mass(), nil
	case "lowG":
		return in.band()
	case "minutes":
		return in.time()
	case "share":
		return shareOf(*in.Share, in.Of), nil
	case "chance":
		return chanceOf(*in.Chance, in.Of), nil
	case "byHandMM":
		return byHand(*in.ByHandMM), nil
	}
	return DoableOut{}, fault.New(fault.Required, "massG", "Say a mass, a band, minutes, a share, a chance or a length made by hand.")
}

func (in *DoableIn) mass() DoableOut {
	g := *in.MassG
	if g == 0 {
		return DoableOut{Way: "none", Text: "none", Weigh: new(false)}
	}
	switch *in.What {
	case "gel":
		return GelByHand(g, *in.DropG, *in.DabG, *in.MotherBaseG, *in.ScaleStepG)
	case "powder":
		return powderByHand(g, *in.ScaleStepG, in.GramsPerTsp)
	}
	return pasteByHand(g, *in.ScaleStepG)
}

// Weighs reports whether a scale of this step may speak of g grams.
func Weighs(g, step float64) bool { return step <= g/stepsToWeigh+1e-9 }

// decimalsOf a scale's step: how many its readings show.
func decimalsOf(step float64) int {
	s := trim(step, 6)
	if i := strings.IndexByte(s, '.'); i >= 0 {
		return len(s) - i - 1
	}
	return 0
}

// Reading writes grams as a scale of this step shows them, kilograms from
// 1000 g on.
func Reading(g, step float64) string {
	if g >= 1000-1e-9 {
		return trim(g/1000, 3+decimalsOf(step)) + " kg"
	}
	return bare(g, step) + " g"
}

func bare(g, step float64) string { return fmt.Sprintf("%.*f", decimalsOf(step), g) }

// pasteByHand rounds up: paste to knead is never less than is wanted.
func pasteByHand(g, r float64) DoableOut {
	out := DoableOut{Way: "weigh", Weigh: new(Weighs(g, r))}
	if !*out.Weigh {
		k := Ceil(stepsToWeigh * r / g)
		out.Way, out.SharePieces, out.RoundedG = "share", &k, new(Round(float64(k)*g, r))
		out.Text = fmt.Sprintf("%s for %d, cut evenly", Reading(*out.RoundedG, r), k)
		return out
	}
	q := 5.0
	switch {
	case g < 10:
		q = 0.1
	case g < 1000:
		q = 1
	}
	q = math.Max(r, q)
	out.RoundedG = new(q * float64(Ceil(g/q)))
	out.Text = Reading(*out.RoundedG, q)
	return out
}

// DropsOf turns grams of gel into drops of a bottle and dabs of a toothpick.
func DropsOf(g, drop, dab float64) (drops, dabs int) {
	drops = Floor((g + dab/2) / drop)
	return drops, max(0, int(math.Round((g-float64(drops)*drop)/dab)))
}

// Mother is a mother paste of one dab in base grams of paste: use of it holds
// got grams of gel, and takeOff is left out of the base for it. ok is false
// when a scale of this step cannot weigh what is used.
func Mother(g, dab, base, step float64) (use, got, takeOff float64, ok bool) {
	x := g * (base + dab) / dab
	use = Round(x, step)
	got = use * dab / (base + dab)
	return use, got, use - got, x >= stepsToWeigh*step-1e-9
}

// GelByHand is gel in drops and dabs; under a dab a mother paste, or a trace.
func GelByHand(g, drop, dab, base, r float64) DoableOut {
	out := DoableOut{Way: "drops", Weigh: new(Weighs(g, r))}
	if g < dab-1e-12 {
		*out.Weigh = false
		use, got, off, ok := Mother(g, dab, base, r)
		if !ok {
			out.Way, out.Text, out.GotG = "trace", "a trace", new(0.0)
			return out
		}
		out.Way, out.MotherBaseG, out.MotherUseG, out.GotG, out.TakeOffG = "mother", &base, &use, &got, &off
		out.Text = fmt.Sprintf("1 dab in %s g of base: use %s of it", trim(base, 3), Reading(use, r))
		return out
	}
	drops, dabs := DropsOf(g, drop, dab)
	out.Drops, out.Dabs, out.GotG = &drops, &dabs, new(float64(drops)*drop+float64(dabs)*dab)
	out.Text = dropsText(drops, dabs)
	if *out.Weigh {
		out.RoundedG = new(Round(g, r))
		out.Text += " (" + Reading(*out.RoundedG, r) + ")"
	}
	return out
}

func dropsText(drops, dabs int) string {
	var parts []string
	for _, x := range []struct {
		n   int
		say string
	}{{drops, "drop"}, {dabs, "dab"}} {
		switch {
		case x.n == 1:
			parts = append(parts, "1 "+x.say)
		case x.n > 1:
			parts = append(parts, fmt.Sprintf("%d %ss", x.n, x.say))
		}
	}
	return strings.Join(parts, " + ")
}

func powderByHand(g, r float64, perTsp *float64) DoableOut {
	out := DoableOut{Way: "weigh", Weigh: new(Weighs(g, r))}
	spoon := ""
	if perTsp != nil {
		if t := Round(g / *perTsp, spoonEighth); t > 0 && (*out.Weigh || math.Abs(t**perTsp-g) <= spoonWithin*g) {
			out.TspRounded = &t
			spoon = mixed(int(math.Round(8*t)), 8) + " tsp of yours, level"
		}
	}
	switch {
	case *out.Weigh:
		out.RoundedG = new(Round(g, r))
		out.Text = Reading(*out.RoundedG, r)
		if spoon != "" {
			out.Text += " (" + spoon + ")"
		}
	case spoon != "":
		out.Way, out.Text = "spoon", spoon
	case 101*g < stepsToWeigh*r-1e-9:
		out.Way, out.Text = "trace", "a trace"
	default:
		d := math.Max(1, stepsToWeigh*r)
		use := Round(101*g, r)
		out.Way, out.PowderG, out.InPasteG, out.UseG, out.TakeOffG = "dilute", &d, new(100*d), &use, new(use*100/101)
		out.Text = fmt.Sprintf("%s in %s of paste: use %s of it", Reading(d, r), trim(100*d, 1)+" g", Reading(use, r))
	}
	return out
}

// Readings are what a scale of step r can show from lo to hi, both included.
func Readings(lo, hi, r float64) DoableOut {
	first, last := Ceil(lo/r), Floor(hi/r)
	n := max(0, last-first+1)
	out := DoableOut{Count: &n}
	if n == 0 {
		out.Text = "no reading: the scale is too coarse"
		return out
	}
	from, to := float64(first)*r, float64(last)*r
	out.FromG, out.ToG = &from, &to
	between := map[bool]string{true: " or ", false: " to "}[n == 2]
	switch {
	case n == 1:
		out.Text = Reading(from, r)
	case to >= 1000-1e-9:
		out.Text = Reading(from, r) + between + Reading(to, r)
	default:
		out.Text = bare(from, r) + between + Reading(to, r)
	}
	return out
}

func (in *DoableIn) band() (DoableOut, error) {
	switch {
	case in.HighG == nil:
		return DoableOut{}, fault.New(fault.Required, "highG", "A band has two ends: say highG as well.")
	case in.LowG == nil:
		return DoableOut{}, fault.New(fault.Required, "lowG", "A band has two ends: say lowG as well.")
	case *in.HighG < *in.LowG:
		return DoableOut{}, fault.New(fault.Contradiction, "highG", "The band runs upward: highG lies below lowG.")
	}
	return Readings(*in.LowG, *in.HighG, *in.ScaleStepG), nil
}

// TimeStep is how finely so many minutes are said.
func TimeStep(minutes float64) float64 {
	switch {
	case minutes <= 180:
		return 5
	case minutes <= 720:
		return 15
	case minutes <= 2880:
		return 60
	}
	return 1440
}

// Duration writes minutes that were rounded to their step.
func Duration(minutes float64) string {
	m := int(math.Round(minutes))
	switch {
	case m < 60:
		return fmt.Sprintf("%d min", m)
	case m >= 2880:
		return fmt.Sprintf("%s days", trim(float64(m)/1440, 1))
	case m%60 == 0:
		return fmt.Sprintf("%d h", m/60)
	}
	return fmt.Sprintf("%d h %02d", m/60, m%60)
}

func (in *DoableIn) time() (DoableOut, error) {
	x, lo, hi := *in.Minutes, in.LowMinutes, in.HighMinutes
	switch {
	case lo != nil && hi == nil:
		return DoableOut{}, fault.New(fault.Required, "highMinutes", "A band has two ends: say highMinutes as well.")
	case hi != nil && lo == nil:
		return DoableOut{}, fault.New(fault.Required, "lowMinutes", "A band has two ends: say lowMinutes as well.")
	case lo != nil && *lo > x:
		return DoableOut{}, fault.New(fault.Contradiction, "lowMinutes", "The band must hold the value: lowMinutes lies above it.")
	case hi != nil && *hi < x:
		return DoableOut{}, fault.New(fault.Contradiction, "highMinutes", "The band must hold the value: highMinutes lies below it.")
	}
	out := DoableOut{Minutes: new(0.0), Text: "at once"}
	if x > 0 {
		*out.Minutes = math.Max(5, Round(x, TimeStep(x)))
		out.Text = "about " + Duration(*out.Minutes)
	}
	if lo != nil {
		sl, sh := TimeStep(*lo), TimeStep(*hi)
		out.LowMinutes, out.HighMinutes = new(sl*float64(Floor(*lo/sl))), new(sh*float64(Ceil(*hi/sh)))
		out.Text += fmt.Sprintf(" (%s to %s)", Duration(*out.LowMinutes), Duration(*out.HighMinutes))
	}
	return out, nil
}

func countOf(x float64, of int) DoableOut {
	n := int(Round(x*float64(of), 1))
	return DoableOut{Count: &n, Text: fmt.Sprintf("%d of %d", n, of)}
}

func shareOf(x float64, of *int) DoableOut {
	if of != nil {
		return countOf(x, *of)
	}
	p, step := 100*x, 1.0
	if p >= 10-1e-9 && p <= 90+1e-9 {
		step = 5
	}
	p = Round(p, step)
	out := DoableOut{Percent: &p, Text: fmt.Sprintf("about %.0f %%", p)}
	switch {
	case x == 0:
		out.Text = "none"
	case p == 0:
		out.Text = "under 1 %"
	}
	return out
}

// chanceOf never says a chance too high.
func chanceOf(x float64, of *int) DoableOut {
	if of != nil {
		return countOf(x, *of)
	}
	p := 5 * float64(Floor(100*x/5))
	switch {
	case x >= 0.99-1e-9:
		p = 99
	case x >= 0.95-1e-9:
		p = 95
	}
	out := DoableOut{Percent: &p, Text: fmt.Sprintf("about %.0f %%", p)}
	if p < 5 {
		out.Text = "under 5 %"
	}
	return out
}

func byHand(x float64) DoableOut {
	lo, hi := float64(Floor((1-handsWithin)*x)), float64(Ceil((1+handsWithin)*x))
	out := DoableOut{LowMM: &lo, HighMM: &hi, Text: fmt.Sprintf("%.0f to %.0f mm", lo, hi)}
	switch {
	case x == 0:
		out.Text = "none"
	case x < 1:
		lo, hi = 0, 1
		out.Text = "under 1 mm"
	}
	return out
}
