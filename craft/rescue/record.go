package rescue

import (
	_ "embed"
	"errors"
	"slices"
	"strings"

	"dustyfern/craft/fault"
)

// Record is what a batch knows of itself; what is absent is not known.
type Record struct {
	StrengthPercent *float64 `json:"strengthPercent" in:"0..10"`
	NeedPercent     *float64 `json:"needPercent" in:"0..10"`
	School          *string  `json:"school" of:"light modelling extra byFeel none"`
	RestedMinutes   *float64 `json:"restedMinutes" in:"0..10080"`
	SqueezeGrade    *int     `json:"squeezeGrade" in:"1..5"`
	ChilledMinutes  *float64 `json:"chilledMinutes" in:"0..20160"`
	RoomRHPercent   *float64 `json:"roomRhPercent" in:"5..99"`
	RoomTempC       *float64 `json:"roomTempC" in:"-10..50"`
	Release         *string  `json:"release" of:"none starch icingSugar fat lustre sprayOil"`
	BoardDust       *string  `json:"boardDust" of:"none starch icingSugar fat"`
	ThicknessMM     *float64 `json:"thicknessMM" in:"0.2..60"`
	OpenMinutes     *float64 `json:"openMinutes" in:"0..10080"`
	Paste           *string  `json:"paste" of:"sugarPaste softSugarPaste marshmallowPaste mouldingReadyPaste halfAndHalf modellingPaste flowerPaste darkChocolate milkChocolate whiteChocolate marzipan"`
	HoursSince      *float64 `json:"hoursSince" in:"0..2000"`
	ReadyHours      *float64 `json:"readyHours" in:"0..2000"`
	BendUntilHours  *float64 `json:"bendUntilHours" in:"0..2000"`
	CastsBefore     *int     `json:"castsBefore" in:"0..1000000"`
	Weighed         *bool    `json:"weighed"`
	Locked          *bool    `json:"locked"`
	WireHooked      *bool    `json:"wireHooked"`
	CentreDryHours  *float64 `json:"centreDryHours" in:"0..2000"`
	PowderPerML     *float64 `json:"powderPerML" in:"0..10"`
	StripsCut       *int     `json:"stripsCut" in:"0..1000000"`
	StripsAllowed   *int     `json:"stripsAllowed" in:"0..1000000"`
	LoopsAtOnce     *int     `json:"loopsAtOnce" in:"0..1000000"`
	Made            *int     `json:"made" in:"0..1000000"`
	Broken          *int     `json:"broken" in:"0..1000000"`
	MouldKind       *string  `json:"mouldKind" of:"cavity string sheet deep lipped band lace"`
}

func (r *Record) check() error {
	if r.Broken == nil {
		return nil
	}
	if r.Made == nil {
		return fault.New(fault.Required, "record.made", "How many were made, of which %d broke?", *r.Broken)
	}
	if *r.Broken > *r.Made {
		return fault.New(fault.Contradiction, "record.broken", "More are broken than were made: %d of %d.", *r.Broken, *r.Made)
	}
	return nil
}

// moulds stand for a technique when none is named.
var moulds = map[string]string{"cavity": "T1", "string": "T2", "sheet": "T3", "deep": "T4", "lipped": "T6", "band": "T7", "lace": "T9"}

// span is from and to, in mm.
type span struct{ least, most float64 }

// needs are the gum strength that a technique wants, in %, and sheets its sheet; the others
// have no rule. One line each: a correction is a change of one line.
//
//go:embed needs.txt
var wanted string

var needs, sheets = readNeeds(wanted)

// readNeeds reads what techniques want; a line that cannot be read is a fault of the program.
func readNeeds(text string) (map[string]float64, map[string]span) {
	needs, sheets := map[string]float64{}, map[string]span{}
	for line := range strings.Lines(text) {
		if line = strings.TrimSpace(line); line == "" || strings.HasPrefix(line, "#") {
			continue
		}
		c := &cells{line: line, left: strings.Split(line, "|")}
		if len(c.left) != 3 || !isTechnique(c.left[0]) {
			panic("needs.txt: " + line)
		}
		technique := c.text()
		if c.left[0] != "" {
			needs[technique] = c.number(0.01, 10)
		} else {
			c.text()
		}
		if from, to, said := strings.Cut(c.left[0], "-"); said {
			low, high := &cells{line: line, left: []string{from}}, &cells{line: line, left: []string{to}}
			sheets[technique] = span{low.number(0.1, 60), high.number(0.1, 60)}
			c.err = errors.Join(c.err, low.err, high.err)
		}
		if c.err != nil {
			panic("needs.txt: " + c.err.Error())
		}
	}
	return needs, sheets
}

// openTimes are how long a paste stays open, minutes (assumed).
var openTimes = map[string]float64{"flowerPaste": 6, "halfAndHalf": 15, "modellingPaste": 15, "mouldingReadyPaste": 20}

const (
	otherOpen = 30.0
	strongTo  = 3.2
	dampFrom  = 60.0
	warmFrom  = 24.0
	coldTo    = 18.0
)

// ruled are the questions that a record answers: nil when it does not know. The second
// argument is the technique.
var ruled = map[string]func(r *Record, technique string) *bool{
	"weakPaste": func(r *Record, technique string) *bool {
		need := needs[technique]
		if r.NeedPercent != nil {
			need = *r.NeedPercent
		}
		if need == 0 {
			return nil
		}
		return below(r.StrengthPercent, &need)
	},
	"overStrong": func(r *Record, _ string) *bool {
		if r.School != nil && *r.School == "extra" {
			return new(true)
		}
		if r.StrengthPercent != nil {
			return new(*r.StrengthPercent > strongTo)
		}
		if r.School != nil {
			return new(false)
		}
		return nil
	},
	"softBrand": func(r *Record, _ string) *bool { return grade(r, func(g int) bool { return g <= 2 }) },
	"dryGrade":  func(r *Record, _ string) *bool { return grade(r, func(g int) bool { return g == 5 }) },
	"shortRest": func(r *Record, _ string) *bool {
		if r.School == nil || r.RestedMinutes == nil {
			return nil
		}
		return new(*r.RestedMinutes < 10 && *r.School != "extra" && *r.School != "none")
	},
	"notChilled": func(r *Record, _ string) *bool { return below(r.ChilledMinutes, new(3.0)) },
	"longChill":  func(r *Record, _ string) *bool { return above(r.ChilledMinutes, 20) },
	"damp":       func(r *Record, _ string) *bool { return above(r.RoomRHPercent, dampFrom) },
	"warmRoom":   func(r *Record, _ string) *bool { return above(r.RoomTempC, warmFrom) },
	"coldRoom":   func(r *Record, _ string) *bool { return below(r.RoomTempC, new(coldTo)) },
	"bareMould":  func(r *Record, _ string) *bool { return is(r.Release, "none") },
	"agentInside": func(r *Record, _ string) *bool {
		return not(is(r.Release, "none"))
	},
	"icingInside": func(r *Record, _ string) *bool { return is(r.Release, "icingSugar") },
	"powderNear": func(r *Record, _ string) *bool {
		powder := []string{"starch", "icingSugar"}
		for _, p := range []*string{r.Release, r.BoardDust} {
			if p != nil && slices.Contains(powder, *p) {
				return new(true)
			}
		}
		if r.Release != nil && r.BoardDust != nil {
			return new(false)
		}
		return nil
	},
	"thin": func(r *Record, technique string) *bool {
		s, known := sheets[technique]
		if !known {
			return nil
		}
		return below(r.ThicknessMM, &s.least)
	},
	"thick": func(r *Record, technique string) *bool {
		s, known := sheets[technique]
		if !known {
			return nil
		}
		return above(r.ThicknessMM, s.most)
	},
	"skinned": func(r *Record, _ string) *bool {
		if r.Paste == nil {
			return nil
		}
		open, known := openTimes[*r.Paste]
		if !known {
			open = otherOpen
		}
		return above(r.OpenMinutes, open)
	},
	"cutAtOnce":  func(r *Record, _ string) *bool { return below(r.OpenMinutes, new(2.0)) },
	"tooEarly":   func(r *Record, _ string) *bool { return below(r.HoursSince, r.ReadyHours) },
	"tooDry":     func(r *Record, _ string) *bool { return below(r.BendUntilHours, r.HoursSince) },
	"newMould":   func(r *Record, _ string) *bool { return below(float(r.CastsBefore), new(2.0)) },
	"notWeighed": func(r *Record, _ string) *bool { return not(r.Weighed) },
	"unlocked":   func(r *Record, _ string) *bool { return not(r.Locked) },
	"noHook":     func(r *Record, _ string) *bool { return not(r.WireHooked) },
	"centreFresh": func(r *Record, _ string) *bool {
		return below(r.CentreDryHours, new(8.0))
	},
	"paintThin":  func(r *Record, _ string) *bool { return below(r.PowderPerML, new(0.4)) },
	"paintThick": func(r *Record, _ string) *bool { return above(r.PowderPerML, 1.2) },
	"manyStrips": func(r *Record, _ string) *bool { return below(float(r.StripsAllowed), float(r.StripsCut)) },
	"manyLoops":  func(r *Record, _ string) *bool { return above(float(r.LoopsAtOnce), 4) },
}

// below, above, is and not are nil when one of their sides is not known.
func below(a, b *float64) *bool {
	if a == nil || b == nil {
		return nil
	}
	return new(*a < *b)
}

func above(a *float64, b float64) *bool {
	if a == nil {
		return nil
	}
	return new(*a > b)
}

func is(a *string, word string) *bool {
	if a == nil {
		return nil
	}
	return new(*a == word)
}

func not(a *bool) *bool {
	if a == nil {
		return nil
	}
	return new(!*a)
}

func float(n *int) *float64 {
	if n == nil {
		return nil
	}
	return new(float64(*n))
}

func grade(r *Record, f func(g int) bool) *bool {
	if r.SqueezeGrade == nil {
		return nil
	}
	return new(f(*r.SqueezeGrade))
}
