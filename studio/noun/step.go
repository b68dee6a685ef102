package noun

import (
	"fmt"
	"math"
	"time"

	"dustyfern/craft/bench"
)

// Step is a step of a chain as it stands in the plan, or has happened.
type Step struct {
	ID           int64      `json:"-"`
	Version      int64      `json:"version"`
	CommissionID int64      `json:"commissionId"`
	PieceID      *int64     `json:"pieceId,omitempty"`
	Op           string     `json:"op"`
	Kind         string     `json:"kind"`
	Title        string     `json:"title"`
	Attended     bool       `json:"attended"`
	PlannedStart time.Time  `json:"plannedStart"`
	PlannedEnd   time.Time  `json:"plannedEnd"`
	ActualStart  *time.Time `json:"actualStart,omitempty"`
	ActualEnd    *time.Time `json:"actualEnd,omitempty"`
	Says         []string   `json:"says" gorm:"serializer:json"`
	Checks       []string   `json:"checks" gorm:"serializer:json"`
	Cautions     []string   `json:"cautions" gorm:"serializer:json"`
	Ways         []Way      `json:"ways" gorm:"serializer:json"`
	Figures      []Figure   `json:"figures" gorm:"serializer:json"`
	Planned      Planned    `json:"planned" gorm:"serializer:json"`
	Fills        []Fill     `json:"fills" gorm:"serializer:json"`
	Breaks       []Break    `json:"breaks" gorm:"serializer:json"`
	Made         *int       `json:"made,omitempty"`
	Takes        []Taken    `json:"takes" gorm:"serializer:json"`
	Longer       *Longer    `json:"longer,omitempty" gorm:"serializer:json"`
	Weighed      []Weighing `json:"weighed,omitempty" gorm:"serializer:json"` // balls, as they were portioned
	Who          string     `json:"who,omitempty"`                            // finished it, when that was said
	Clocked      bool       `json:"clocked,omitempty"`                        // both its beginning and its end were seen
	Pinned       *time.Time `json:"pinned,omitempty"`                         // somebody wants it begun just then
	Away         []Away     `json:"away,omitempty" gorm:"serializer:json"`    // hands were called off, and came back
	Tended       []Tended   `json:"tended,omitempty" gorm:"serializer:json"`  // of a drying: what hands did to it meanwhile
	Looked       Looked     `json:"looked,omitempty" gorm:"serializer:json"`  // checks that were looked at

	// Never is that a wait which runs does not end in this room: it follows from the facts
	// and is not kept.
	Never bool `json:"never,omitempty" gorm:"-"`
}

// Looked is how checks came out, by their words: well, or not.
type Looked map[string]bool

// Away is a stretch in which nobody was at a step that had begun.
type Away struct {
	From  time.Time  `json:"from"`
	Until *time.Time `json:"until,omitempty"` // nil: still
}

// Heated is the band of a stage that is cooked to, C.
type Heated struct {
	LowC  float64 `json:"lowC"`
	HighC float64 `json:"highC"`
}

// Planned is what the plan says of a step beside its times.
type Planned struct {
	Name    string `json:"name"` // of its piece; of the assembly the commission's title
	Part    int    `json:"part,omitempty"`
	Parts   int    `json:"parts,omitempty"`
	Again   bool   `json:"again,omitempty"`   // pressed again
	Support string `json:"support,omitempty"` // of a drying: on what, in words

	Colour     string `json:"colour"`
	Swatch     string `json:"swatch"`
	Window     string `json:"window"`
	Hands      []int  `json:"hands"`
	CleanDown  int    `json:"cleanDown"`
	Latest     string `json:"latest"` // instant, RFC 3339
	SlackMin   int    `json:"slackMinutes"`
	SpareMin   *int   `json:"spareMinutes,omitempty"` // of the last drying of a batch: until something waits for it
	NotLater   string `json:"notLater"`
	NotEarlier string `json:"notEarlier"`
	Decides    bool   `json:"decides"`
	Cord       string `json:"cord"` // of a wait: rest, freezer or drying
	After      string `json:"after"`
	Minutes    int    `json:"minutes"`
	Round      string `json:"round"`
	Run        *Run   `json:"run,omitempty"`   // of a press
	Marks      []Mark `json:"marks,omitempty"` // of a drying: when it may be touched, lifted, joined
	Body       *Body  `json:"body,omitempty"`  // and what dries
	OpenMin    int    `json:"openMinutes,omitempty"`

	Uses []Taken `json:"uses,omitempty"` // of a knead: what it takes out of the pantry
	// of a part-mixed knead: what its trimmings become, kneaded through
	Leaves string `json:"leaves,omitempty"`

	Kept   *Kept    `json:"kept,omitempty"`
	Draws  bool     `json:"draws,omitempty"`  // its paste comes out of the pantry
	Share  float64  `json:"share,omitempty"`  // of the piece's paste
	Heat   *Heated  `json:"heat,omitempty"`   // what is cooked to
	Places bool     `json:"places,omitempty"` // after it the pieces are on the cake
	Done   string   `json:"done,omitempty"`   // what a press of the button says
	Clock  string   `json:"clock,omitempty"`  // of a wait: the kind of clock that follows
	Rings  string   `json:"rings,omitempty"`  // and what it says before the step's title
	LayOut []string `json:"layOut,omitempty"` // what it wants on the table
	Fetch  []Fetch  `json:"fetch,omitempty"`  // what it takes of pastes and powders
}

// Words are what a step says at the bench.
type Words struct {
	Says, Checks, Cautions []string
	Ways                   []Way
}

// aheadAtMost is how far from the future a plan may be before it is made anew.
const aheadAtMost = time.Minute

func (r *Run) rounds() bench.Rounds {
	return bench.Rounds{Pieces: r.Fills, FillSec: r.FillSec, HoldSec: r.HoldSec, UnmouldSec: r.UnmouldSec, Copies: max(1, r.Copies)}
}

// Run is how pieces come to be in the step, with what was added to it at the bench; nil
// in any other step.
func (st *Step) Run() *Run {
	if st.Planned.Run == nil || st.Longer == nil {
		return st.Planned.Run
	}
	run := *st.Planned.Run
	run.Balls, run.Fills = st.Longer.Balls, st.Longer.Fills
	return &run
}

// Makes tells whether pieces come to be in the step: they can be counted, and can
// break.
func (st *Step) Makes() bool { return st.Planned.Run != nil }

// Hands are the minutes of hands that a step is planned to take: in the rounds of a mould
// they wait for the freezer between.
func (st *Step) Hands() int {
	if !st.Attended {
		return 0
	}
	length := int(st.PlannedEnd.Sub(st.PlannedStart) / time.Minute)
	if k := st.Planned.Kept; k != nil && k.Op.HandsMinutes > 0 {
		return min(length, int(math.Ceil(k.Op.HandsMinutes-1e-9)))
	}
	return length
}

// Dries tells whether pieces dry in the step. A step that was done before plans kept
// what it dries on is known by its word.
func (st *Step) Dries() bool {
	return st.Planned.Support != "" || st.Planned.Kept == nil && st.Kind == "dry"
}

// Broken counts the pieces that broke at a step.
func (st *Step) Broken() (n int) {
	for _, b := range st.Breaks {
		n += b.Count
	}
	return n
}

// TornSoft counts those that tore while they were soft: their paste can be kneaded
// again.
func (st *Step) TornSoft() (n int) {
	for _, b := range st.Breaks {
		if b.Why == "tore" {
			n += b.Count
		}
	}
	return n
}

// Reused is how many of the torn ones were pressed once more in the same press.
func (st *Step) Reused() int {
	if st.Longer == nil {
		return 0
	}
	return min(st.TornSoft(), st.Longer.More)
}

// Move is the next movement of hands in a press.
func (st *Step) Move(now time.Time) bench.Move {
	var done []bench.Filled
	for _, f := range st.Fills {
		x := bench.Filled{N: f.N, Copy: f.Copy, At: int(f.At.Unix())}
		if f.Out != nil {
			x.Out = new(int(f.Out.Unix()))
		}
		done = append(done, x)
	}
	return st.Run().rounds().Next(done, int(now.Unix()))
}

// Out is how many pieces have come out of the mould.
func (st *Step) Out() int {
	if st.Made != nil {
		return *st.Made
	}
	return 0
}

// What names the pieces of a step: "Toadstool caps, part 2 of 3".
func (s *Planned) What() string {
	switch {
	case s.Again:
		return s.Name + ", again"
	case s.Parts > 1:
		return fmt.Sprintf("%s, part %d of %d", s.Name, s.Part, s.Parts)
	}
	return s.Name
}

// PieceG is the aim of a ball of a press in g, 0 for any other step.
func (s *Step) PieceG() float64 {
	if s.Planned.Run == nil {
		return 0
	}
	return s.Planned.Run.BallG
}

// Due reports whether a planned start has gone by unmarked, or the plan comes
// from a clock that was ahead of this one.
func (p *Plan) Due(now time.Time) bool {
	return p.Summary.DueAt != nil && now.After(*p.Summary.DueAt) || p.MadeAt.After(now.Add(aheadAtMost))
}
