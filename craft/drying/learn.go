package drying

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// Spreads of the logarithm of true time over model time before anything was noted, and
// what is left to chance each time (A, docs/models/drying.md).
const (
	kitchenSd     = 0.22
	pasteSd       = 0.22
	chanceSd      = 0.16
	forgetDays    = 365.0
	slipSds       = 3.0 // a time that is noted is never taken for further off than that
	farSds        = 8.0 // a bound beyond counts as that
	z80           = 1.28155
	mostNoteHours = 720.0
)

// Kinds of a note, by what was seen: a stage at an hour, not yet ("after"), already
// ("before"), or between two looks.
const (
	At      = "at"
	After   = "after"
	Before  = "before"
	Between = "between"
)

// Belief is how fast a kitchen dries beside the model, as a joint normal over the logarithm
// of the kitchen's factor and of each paste met: a note of one paste moves the others
// through the kitchen. The zero value is what is believed before any note.
type Belief struct {
	Day    float64     `json:"day"`    // to which it holds
	Pastes []string    `json:"pastes"` // met so far; row and column i+1, the kitchen is 0
	Mean   []float64   `json:"mean"`
	Cov    [][]float64 `json:"cov"`
}

// Note is a stage that was looked at: hours after the piece was laid out, beside the
// model's own middle hours for that stage in the room that was.
type Note struct {
	Paste      *string  `json:"paste" need:"true"`
	DayNumber  *float64 `json:"dayNumber" need:"true" in:"0..1000000"`
	ModelHours *float64 `json:"modelHours" need:"true" in:"0.01..720"`
	Kind       *string  `json:"kind" need:"true" of:"at after before between"`
	Hours      *float64 `json:"hours" need:"true" in:"0.01..720"`
	HoursTo    *float64 `json:"hoursTo" in:"0.01..720"`
}

// met gives the belief with the paste among those it knows.
func (b Belief) met(paste string) (Belief, int) {
	out := Belief{b.Day, slices.Clone(b.Pastes), slices.Clone(b.Mean), nil}
	for _, row := range b.Cov {
		out.Cov = append(out.Cov, slices.Clone(row))
	}
	if len(out.Mean) == 0 {
		out.Mean, out.Cov = []float64{0}, [][]float64{{kitchenSd * kitchenSd}}
	}
	if i := slices.Index(out.Pastes, paste); i >= 0 {
		return out, i + 1
	}
	for i := range out.Cov {
		out.Cov[i] = append(out.Cov[i], 0)
	}
	row := make([]float64, len(out.Mean)+1)
	row[len(row)-1] = pasteSd * pasteSd
	out.Pastes, out.Mean, out.Cov = append(out.Pastes, paste), append(out.Mean, 0), append(out.Cov, row)
	return out, len(out.Pastes)
}

// Forward lets days go by: what was learnt fades towards what is believed before any note.
func (b Belief) Forward(day float64) Belief {
	if len(b.Mean) == 0 || day <= b.Day {
		if len(b.Mean) == 0 {
			b.Day = math.Max(b.Day, day)
		}
		return b
	}
	r := math.Exp(-(day - b.Day) / forgetDays)
	out, _ := b.met(b.Pastes[0]) // a copy
	for i := range out.Mean {
		out.Mean[i] *= r
		for j := range out.Cov {
			out.Cov[i][j] *= r * r
		}
		prior := pasteSd * pasteSd
		if i == 0 {
			prior = kitchenSd * kitchenSd
		}
		out.Cov[i][i] += (1 - r*r) * prior
	}
	out.Day = day
	return out
}

// Note takes a note in: an hour that was seen exactly (Kalman), or bounds, by the mean and
// variance of the normal that they cut. The note must have been checked.
func (b Belief) Note(n Note) Belief {
	b, j := b.Forward(*n.DayNumber).met(*n.Paste)
	b.Day = math.Max(b.Day, *n.DayNumber)
	g := make([]float64, len(b.Mean))
	for i := range g {
		g[i] = b.Cov[i][0] + b.Cov[i][j]
	}
	s2 := g[0] + g[j] + chanceSd*chanceSd
	mu, s := b.Mean[0]+b.Mean[j], math.Sqrt(s2)
	off := func(hours float64) float64 { return (math.Log(hours / *n.ModelHours) - mu) / s }
	var e, v float64 // of the standard normal
	switch *n.Kind {
	case At:
		e = math.Max(-slipSds, math.Min(slipSds, off(*n.Hours)))
	case After:
		e, v = cut(off(*n.Hours), math.Inf(1))
	case Before:
		e, v = cut(math.Inf(-1), off(*n.Hours))
	case Between:
		e, v = cut(off(*n.Hours), off(*n.HoursTo))
	}
	for i := range b.Mean {
		b.Mean[i] += g[i] * e / s
	}
	for i := range b.Cov {
		for k := range b.Cov {
			b.Cov[i][k] -= g[i] * g[k] * (1 - v) / s2
		}
	}
	return b
}

// cut is the mean and the variance of a standard normal between two bounds.
func cut(a, b float64) (mean, variance float64) {
	near := func(x float64) float64 {
		if math.IsInf(x, 0) {
			return x
		}
		return math.Max(-farSds, math.Min(farSds, x))
	}
	a, b = near(a), near(b)
	if a > 0 { // the tail is counted from its own side
		mean, variance = cut(-b, -a)
		return -mean, variance
	}
	density := func(x float64) float64 { return math.Exp(-x*x/2) / math.Sqrt(2*math.Pi) }
	below := func(x float64) float64 { return math.Erfc(-x/math.Sqrt2) / 2 }
	times := func(x float64) float64 {
		if math.IsInf(x, 0) {
			return 0
		}
		return x * density(x)
	}
	z := below(b) - below(a)
	if z < 1e-300 || b-a < 1e-9 { // as good as a point
		if math.IsInf(a, 0) {
			return b, 0
		}
		return a, 0
	}
	mean = (density(a) - density(b)) / z
	return mean, math.Max(0, 1+(times(a)-times(b))/z-mean*mean)
}

// Factor is how much longer a paste takes in this kitchen than by the model, and the
// spread of the logarithm of that, on the day of the belief.
func (b Belief) Factor(paste string) (timeFactor, logSd float64) {
	b, j := b.met(paste)
	s2 := b.Cov[0][0] + b.Cov[j][j] + 2*b.Cov[0][j] + chanceSd*chanceSd
	return math.Exp(b.Mean[0] + b.Mean[j]), math.Sqrt(s2)
}

// LearnAsk is the paste and the model's hours for which the belief is asked.
type LearnAsk struct {
	Paste      *string  `json:"paste" need:"true"`
	DayNumber  *float64 `json:"dayNumber" need:"true" in:"0..1000000"`
	ModelHours *float64 `json:"modelHours" need:"true" in:"0.01..720"`
}

// LearnIn is what was noted, in the order of the days, and what is asked.
type LearnIn struct {
	Notes []Note    `json:"notes"`
	Ask   *LearnAsk `json:"ask" need:"true"`
}

// LearnOut is the belief after the notes, and the hours it gives for the asked paste.
type LearnOut struct {
	KitchenLogMean float64 `json:"kitchenLogMean"`
	KitchenLogSd   float64 `json:"kitchenLogSd"`
	PasteLogMean   float64 `json:"pasteLogMean"`
	PasteLogSd     float64 `json:"pasteLogSd"`
	TimeFactor     float64 `json:"timeFactor"`
	LogSd          float64 `json:"logSd"`
	P10Hours       float64 `json:"p10Hours"`
	P50Hours       float64 `json:"p50Hours"`
	P90Hours       float64 `json:"p90Hours"`
}

// Check tells of a note that cannot be taken: *fault.Fault with the field of the note.
func (n *Note) Check() error {
	if err := fault.Check(n, "paste"); err != nil {
		return err
	}
	if _, err := pasteOf(*n.Paste); err != nil {
		return err
	}
	if err := fault.Check(n); err != nil {
		return err
	}
	switch {
	case *n.Kind == Between && n.HoursTo == nil:
		return fault.New(fault.Required, "hoursTo", "Between which hours? hoursTo is missing.")
	case *n.Kind != Between && n.HoursTo != nil:
		return fault.New(fault.Contradiction, "hoursTo", "Only what came between two looks has two hours.")
	case n.HoursTo != nil && *n.HoursTo <= *n.Hours:
		return fault.New(fault.Contradiction, "hoursTo", "The second look comes after the first.")
	}
	return nil
}

// Learn takes notes in and answers for a paste. Errors are *fault.Fault;
// docs/models/drying.md, 6.
func Learn(in LearnIn) (LearnOut, error) {
	var b Belief
	last := 0.0
	for i := range in.Notes {
		n := &in.Notes[i]
		if err := n.Check(); err != nil {
			return LearnOut{}, fault.At(err, fmt.Sprintf("notes[%d].", i))
		}
		if *n.DayNumber < last {
			return LearnOut{}, fault.New(fault.Contradiction, fmt.Sprintf("notes[%d].dayNumber", i), "Notes come in the order of the days.")
		}
		last = *n.DayNumber
		b = b.Note(*n)
	}
	if in.Ask == nil {
		return LearnOut{}, fault.New(fault.Required, "ask", "For which paste? ask is missing.")
	}
	if err := fault.Check(in.Ask, "paste"); err != nil {
		return LearnOut{}, fault.At(err, "ask.")
	}
	if _, err := pasteOf(*in.Ask.Paste); err != nil {
		return LearnOut{}, fault.At(err, "ask.")
	}
	if err := fault.Check(in.Ask); err != nil {
		return LearnOut{}, fault.At(err, "ask.")
	}
	if *in.Ask.DayNumber < last {
		return LearnOut{}, fault.New(fault.Contradiction, "ask.dayNumber", "It is asked on the day of the last note or later.")
	}
	b = b.Forward(*in.Ask.DayNumber)
	f, sd := b.Factor(*in.Ask.Paste)
	all, j := b.met(*in.Ask.Paste)
	mid := *in.Ask.ModelHours * f
	return LearnOut{KitchenLogMean: all.Mean[0], KitchenLogSd: math.Sqrt(all.Cov[0][0]), PasteLogMean: all.Mean[j], PasteLogSd: math.Sqrt(all.Cov[j][j]),
		TimeFactor: f, LogSd: sd, P10Hours: mid * math.Exp(-z80*sd), P50Hours: mid, P90Hours: mid * math.Exp(z80*sd)}, nil
}
