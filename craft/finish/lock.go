package finish

import (
	"cmp"
	"slices"

	"dustyfern/craft/fault"
)

// LockIn is what is on a piece and must stay there.
type LockIn struct {
	Finishes      []string  `json:"finishes" need:"true" of:"petalDust lustre glitter metallic gelPaint pen airbrush"`
	FatSet        bool      `json:"fatSet"`
	ThicknessMM   *float64  `json:"thicknessMM" def:"2" in:"0.1..500"`
	Gloss         *string   `json:"gloss" def:"any" of:"any matt satin gloss"`
	Handled       *bool     `json:"handled"` // absent: it is
	Avoid         []string  `json:"avoid" of:"alcohol animal"`
	Have          *[]string `json:"have"`
	RoomTempC     *float64  `json:"roomTempC" def:"21" in:"5..40"`
	RoomRHPercent *float64  `json:"roomRhPercent" def:"45" in:"5..99"`
}

// LockOut is what fixes it; Fits is false when nothing does, and the way out is to let
// nobody touch it.
type LockOut struct {
	Fits       bool          `json:"fits"`
	Lock       string        `json:"lock,omitempty"`
	DryMinutes *float64      `json:"dryMinutes,omitempty"`
	Seconds    *float64      `json:"seconds,omitempty"`
	Others     []string      `json:"others"`
	Refused    []LockRefused `json:"refused"`
	Cautions   []string      `json:"cautions"`
	WayOut     string        `json:"wayOut,omitempty"`
}

// LockRefused is a way of fixing that will not do, and why.
type LockRefused struct {
	Lock string `json:"lock"`
	Why  string `json:"why"`
}

// lock is a way of fixing.
type lock struct {
	name, coat, gloss string
	holds, cautions   []string
}

// locks in the order in which they are asked; ties of cost keep it.
var locks = []lock{
	{name: "none", gloss: "matt"},
	{name: "steam", coat: "steam", gloss: "satin", cautions: []string{"steamBurn"}},
	{name: "glazeMist", coat: "glazeMist", gloss: "gloss", holds: []string{"alcohol", "animal"}, cautions: spray},
	{name: "lacquer", coat: "lacquer", gloss: "gloss", holds: []string{"alcohol", "animal"}, cautions: spray},
	{name: "shineSpray", coat: "glazeMist", gloss: "gloss", holds: []string{"alcohol"}, cautions: spray},
}

var spray = []string{"flameOut", "airing"}

const (
	steamDampRH  = 65.0
	steamThinMM  = 0.8
	steamThickMM = 2.0
	steamShort   = 2.0 // seconds
	steamLong    = 4.0
)

// Locks are the ways of fixing, in the order in which they are asked.
func Locks() []string {
	out := make([]string, len(locks))
	for i := range locks {
		out[i] = locks[i].name
	}
	return out
}

// Lock finds what fixes a finish. Errors are *fault.Fault; docs/models/finish.md.
func Lock(in LockIn) (LockOut, error) {
	if err := fault.Check(&in); err != nil {
		return LockOut{}, err
	}
	if in.Have != nil {
		for i, l := range *in.Have {
			if !slices.Contains(Locks(), l) {
				return LockOut{}, fault.New(fault.UnknownValue, at("have", i), "There is no way of fixing %q: one of %v.", l, Locks())
			}
		}
	}
	out := LockOut{Others: []string{}, Refused: []LockRefused{}, Cautions: []string{}}
	var fits []*lock
	for i := range locks {
		l := &locks[i]
		if why := in.refuses(l); why != "" {
			out.Refused = append(out.Refused, LockRefused{l.name, why})
			continue
		}
		fits = append(fits, l)
	}
	if len(fits) == 0 {
		out.WayOut = "handleLess"
		return out, nil
	}
	slices.SortStableFunc(fits, func(a, b *lock) int { return cmp.Compare(in.cost(a), in.cost(b)) })
	for _, l := range fits[1:] {
		out.Others = append(out.Others, l.name)
	}
	ours := fits[0]
	out.Fits, out.Lock, out.DryMinutes = true, ours.name, new(0.0)
	out.Cautions = append(out.Cautions, ours.cautions...)
	if ours.coat != "" {
		minutes, err := coatMinutes(ours.coat, *in.RoomTempC, *in.RoomRHPercent)
		if err != nil {
			return LockOut{}, err
		}
		out.DryMinutes = &minutes
	}
	if ours.name == "steam" {
		out.Seconds = new(steamShort)
		if *in.ThicknessMM >= steamThickMM {
			out.Seconds = new(steamLong)
		}
	}
	return out, nil
}

func (in *LockIn) has(any ...string) bool {
	return slices.ContainsFunc(any, func(f string) bool { return slices.Contains(in.Finishes, f) })
}

// rubs tells whether something on it comes off on a hand that holds it.
func (in *LockIn) rubs() bool {
	return in.has("petalDust", "lustre", "glitter") && (in.Handled == nil || *in.Handled)
}

// refuses is the first reason why a way of fixing will not do; "" when it will.
func (in *LockIn) refuses(l *lock) string {
	glossy := l.gloss == "gloss"
	for _, r := range []struct {
		holds     bool
		lock, why string
	}{
		{l.name != "none" && in.Have != nil && !slices.Contains(*in.Have, l.name), "", "notAtHand"},
		{in.rubs(), "none", "rubsOff"},
		{in.FatSet, "steam", "meltsDough"},
		{in.has("pen", "gelPaint", "glitter", "airbrush"), "steam", "colourRuns"},
		{*in.RoomRHPercent > steamDampRH, "steam", "dampRoom"},
		{*in.ThicknessMM < steamThinMM, "steam", "tooThin"},
		{in.has("glitter"), "lacquer", "dullsGlitter"},
		{!in.has("glitter"), "shineSpray", "forGlitter"},
		{glossy && (*in.Gloss == "matt" || *in.Gloss == "satin"), "", "tooGlossy"},
		{!glossy && *in.Gloss == "gloss", "", "tooMatt"},
		{slices.ContainsFunc(l.holds, func(a string) bool { return slices.Contains(in.Avoid, a) }), "", "avoided"},
	} {
		if r.holds && (r.lock == "" || r.lock == l.name) {
			return r.why
		}
	}
	return ""
}

// cost of a way of fixing here: the least is ours.
func (in *LockIn) cost(l *lock) float64 {
	switch l.name {
	case "none":
		if *in.Gloss == "satin" || *in.Gloss == "gloss" {
			return 3
		}
		return -1
	case "glazeMist":
		return 1
	case "lacquer":
		if *in.Gloss == "gloss" {
			return 0
		}
		return 1.5
	case "shineSpray":
		if in.has("glitter") {
			return 0
		}
		return 1.2
	}
	return 0
}
