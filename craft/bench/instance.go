// Package bench plans the bench: hands, moulds, freezer, trays and drying
// before hand-overs that do not move. It has no clock and no calendar: windows
// and instants come from the caller. See docs/models/plan.md.
package bench

import (
	"math"
)

// Formats of the two documents.
const (
	InstanceFormat = "dustyfern-bench-instance/2"
	PlanFormat     = "dustyfern-bench-plan/2"

	olderFormat = "dustyfern-bench-instance/1" // there every batch wants to be fresh
)

// Codes of a refused instance, beside those of package fault.
const (
	BadInstant          = "badInstant"
	BadWindow           = "badWindow"
	WindowsOverlap      = "windowsOverlap"
	BadPeople           = "badPeople"
	BadShare            = "badShare"
	BadCapacity         = "badCapacity"
	BadConfidence       = "badConfidence"
	BadMinutes          = "badMinutes"
	BadDuration         = "badDuration"
	BadCycle            = "badCycle"
	BadDrying           = "badDrying"
	BadCount            = "badCount"
	BadLag              = "badLag"
	BadWeight           = "badWeight"
	DuplicateID         = "duplicateId"
	UnknownResource     = "unknownResource"
	UnknownColour       = "unknownColour"
	UnknownCommission   = "unknownCommission"
	UnknownStep         = "unknownStep"
	TooFewCopies        = "tooFewCopies"
	TooFewPeople        = "tooFewPeople"
	DuplicateHold       = "duplicateHold"
	HoldOrder           = "holdOrder"
	EmptyInterval       = "emptyInterval"
	WindowTooShort      = "windowTooShort"
	PinnedOutside       = "pinnedOutside"
	PinnedOutsideWindow = "pinnedOutsideWindow"
	ActualInFuture      = "actualInFuture"
	CycleOfSteps        = "cycle"
	ImpossibleLag       = "impossibleLag"
	Empty               = "empty"
	NoPlace             = "noPlace"
)

// Instance is one planning task. Instants are RFC 3339 on a whole minute.
type Instance struct {
	Format       string       `json:"format"`
	Name         string       `json:"name"`
	Now          string       `json:"now"`
	Confidence   *float64     `json:"confidence,omitempty"`
	People       *int         `json:"people,omitempty"`
	CrowdShare   *float64     `json:"crowdShare,omitempty"`
	Overrun      *int         `json:"overrunMinutes,omitempty"`
	Windows      []Window     `json:"windows"`
	Resources    []Resource   `json:"resources"`
	Colours      []Colour     `json:"colours"`
	CleanDown    CleanDown    `json:"cleanDown"`
	Commissions  []Commission `json:"commissions"`
	Batches      []Batch      `json:"batches"`
	Lags         []Lag        `json:"lags"`
	Holds        []Hold       `json:"holds,omitempty"`
	ExtraWindows []Window     `json:"extraWindows,omitempty"`
	RoomOptions  []RoomOption `json:"roomOptions,omitempty"`
}

// Window is a stretch of bench time.
type Window struct {
	ID        string `json:"id"`
	Day       string `json:"day"`
	Start     string `json:"start"`
	End       string `json:"end"`
	Preferred bool   `json:"preferred"`
	People    *int   `json:"people,omitempty"`
	Label     string `json:"label,omitempty"`
}

// Resource is something of which there are few: a mould's copies, places.
type Resource struct {
	ID       string `json:"id"`
	Kind     string `json:"kind"`
	Capacity int    `json:"capacity"`
}

// Colour has a lightness 0-100, by which clean-downs are counted. Free names what must
// not be on the board where it is worked, such as an allergen.
type Colour struct {
	ID        string   `json:"id"`
	Lightness float64  `json:"lightness"`
	Free      []string `json:"free,omitempty"`
}

// CleanDown is minutes between colours on one person's hands.
type CleanDown struct {
	ToDarker  int     `json:"toDarker"`
	ToLighter int     `json:"toLighter"`
	ToWhite   int     `json:"toWhite"`
	WhiteFrom float64 `json:"whiteFrom"`
	ToFree    int     `json:"toFree,omitempty"` // to a board that is free of what the colour before may have left
}

// Commission is a hand-over and the margin kept free before it.
type Commission struct {
	ID            string `json:"id"`
	HandOver      string `json:"handOver"`
	BufferMinutes int    `json:"bufferMinutes"`
}

// Batch is the steps of one piece.
type Batch struct {
	ID           string   `json:"id"`
	Commission   string   `json:"commission"`
	Piece        string   `json:"piece,omitempty"`
	Pieces       int      `json:"pieces,omitempty"`
	Colour       string   `json:"colour,omitempty"`
	FreshMinutes *int     `json:"freshMinutes,omitempty"`
	FreshWeight  *float64 `json:"freshWeight,omitempty"`
	SpareMinutes *int     `json:"spareMinutes,omitempty"`
	Ops          []Op     `json:"ops"`
}

// Op is a step: exactly one of Minutes, Cycle and Dry says how long.
type Op struct {
	ID        string  `json:"id"`
	Kind      string  `json:"kind"`
	Attended  bool    `json:"attended"`
	Minutes   *int    `json:"minutes,omitempty"`
	Cycle     *Rounds `json:"cycle,omitempty"`
	Dry       *Drying `json:"dry,omitempty"`
	People    *int    `json:"people,omitempty"`
	Attention *int    `json:"attention,omitempty"`
	Colour    string  `json:"colour,omitempty"`
	Uses      []Use   `json:"uses,omitempty"`
	NotBefore string  `json:"notBefore,omitempty"`
	NotAfter  string  `json:"notAfter,omitempty"`
	Pinned    string  `json:"pinned,omitempty"`
	Actual    *Actual `json:"actual,omitempty"`
}

// Rounds is moulds filled, held and opened, again and again.
type Rounds struct {
	Pieces     int `json:"pieces"`
	FillSec    int `json:"fillSec"`
	HoldSec    int `json:"holdSec"`
	UnmouldSec int `json:"unmouldSec"`
	Copies     int `json:"copies"`
}

// Drying is the middle and the slow end of a wait, in minutes.
type Drying struct {
	P50 int `json:"p50"`
	P90 int `json:"p90"`
}

// Use is copies of a resource held for the step's own length.
type Use struct {
	Resource string `json:"resource"`
	Count    int    `json:"count"`
}

// Actual is what has happened.
type Actual struct {
	Start string `json:"start"`
	End   string `json:"end,omitempty"`
	Hands []int  `json:"hands,omitempty"`
}

// Lag is min <= start(to) - end(from) <= max, in minutes.
type Lag struct {
	From string `json:"from"`
	To   string `json:"to"`
	Min  int    `json:"min"`
	Max  *int   `json:"max,omitempty"`
}

// Hold is copies of a resource from the start of one step to the end of another.
type Hold struct {
	Resource string `json:"resource"`
	Count    int    `json:"count"`
	From     string `json:"from"`
	To       string `json:"to"`
}

// RoomOption is a change of the room that could be made.
type RoomOption struct {
	ID        string  `json:"id"`
	Label     string  `json:"label"`
	DryFactor float64 `json:"dryFactor"`
}

// Length lives through the rounds: minutes, and the share of one person's
// attention they take, in %.
func (r Rounds) Length() (minutes, attention int) {
	now, filled, done := 0, 0, 0
	var busy []int
	for done < r.Pieces {
		switch {
		case len(busy) > 0 && busy[0] <= now:
			busy = busy[1:]
			done++
			now += r.UnmouldSec
		case len(busy) < r.Copies && filled < r.Pieces:
			now += r.FillSec
			filled++
			busy = append(busy, now+r.HoldSec)
		default:
			now = busy[0]
		}
	}
	minutes = (now + 59) / 60
	hands := r.Pieces * (r.FillSec + r.UnmouldSec) * 100
	return minutes, min(100, (hands+minutes*60-1)/(minutes*60))
}

// Split cuts rounds into the fewest nearly equal parts of which each lasts at
// most longest minutes; nil when not even one piece does.
func (r Rounds) Split(longest int) []Rounds {
	for parts := 1; parts <= r.Pieces; parts++ {
		var out []Rounds
		fits := true
		for i := range parts {
			p := r
			p.Pieces = r.Pieces / parts
			if i < r.Pieces%parts {
				p.Pieces++
			}
			if m, _ := p.Length(); m > longest {
				fits = false
				break
			}
			out = append(out, p)
		}
		if fits {
			return out
		}
	}
	return nil
}

// Length is the minutes of a wait at a confidence: the slow end, the middle, or between.
func (d Drying) Length(confidence float64) int {
	switch confidence {
	case 0.9:
		return d.P90
	case 0.5:
		return d.P50
	}
	const z90 = 1.2815515655446004
	z := math.Sqrt2 * math.Erfinv(2*confidence-1)
	x := float64(d.P50) * math.Pow(float64(d.P90)/float64(d.P50), z/z90)
	return int(math.Ceil(x - 1e-6))
}
