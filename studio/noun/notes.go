package noun

import (
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/technique"
)

// Kept is what the way of making says of a step: a batch that has begun keeps it,
// whatever becomes of the data. Names are those of the batch, without its number.
type Kept struct {
	Technique string       `json:"technique"`
	Version   int          `json:"version"`
	Pieces    int          `json:"pieces"`
	At        int          `json:"at"` // its place in the batch
	Of        int          `json:"of"` // how many steps the batch has
	Op        technique.Op `json:"op"`
	After     []bench.Lag  `json:"after,omitempty"`
	Holds     []bench.Hold `json:"holds,omitempty"`
}

// Clocked is what hands took over a finished step of a way of making, in minutes, beside
// what is usual for as many pieces.
type Clocked struct {
	Way   string
	Op    string // of the chain
	Usual float64
	Took  float64
	Who   string
}

// Run is the rounds in which pieces come to be: how often hands move, how many
// pieces each movement makes, and how long it takes.
type Run struct {
	Fills      int `json:"fills"`
	Copies     int `json:"copies"`
	FillSec    int `json:"fillSec"`
	HoldSec    int `json:"holdSec"`
	UnmouldSec int `json:"unmouldSec"`
	Cavities   int `json:"cavities"`
	Balls      int `json:"balls"`
	For        int `json:"for,omitempty"` // how many were wanted of its piece when it was planned

	Class  string  `json:"class,omitempty"`  // of breakage; "none" asks no spares
	Before int     `json:"before,omitempty"` // made in its tool before this order
	Broke  int     `json:"broke,omitempty"`  // of which broke
	Kinds  int     `json:"kinds,omitempty"`  // of its order, among which the certainty is shared
	BallG  float64 `json:"ballG"`            // of one piece, trimmed
	Word   string  `json:"word"`             // what one movement works on: ball, sheet, piece
}

// Fetch is what a step takes out of the pantry by the gram: that of an evening is summed.
type Fetch struct {
	What   string  `json:"what"`
	G      float64 `json:"g"`
	Powder string  `json:"powder,omitempty"` // its kind, when it is one
	For    string  `json:"for"`
}

// Breakage is what was made of a piece so far, and what of it broke.
type Breakage struct {
	Tool, Piece  int64
	Technique    string
	Made, Broken int
}

// Longer is a press that goes on with more than was planned of it.
type Longer struct {
	More   int  `json:"more"`             // added at the bench
	Balls  int  `json:"balls"`            // in all
	Fills  int  `json:"fills"`            // in all
	Tubbed bool `json:"tubbed,omitempty"` // it had ended once: what was over then is in a tub
}

// Mark is a stage of drying, in minutes after the pieces were laid out.
type Mark struct {
	Kind    string `json:"kind"`
	Minutes int    `json:"minutes"`
}

// Plan is what is kept of the one plan beside its steps.
type Plan struct {
	Hash    string
	MadeAt  time.Time
	Summary Summary `gorm:"serializer:json"`
}

// Summary is what decides, and what does not fit.
type Summary struct {
	Fits     bool          `json:"fits"`
	StartBy  *time.Time    `json:"startBy,omitempty"`
	CouldBy  *time.Time    `json:"couldBy,omitempty"` // the latest first start of any plan found that keeps the date
	Spare    []SpareLine   `json:"spare,omitempty"`
	Margin   []MarginLine  `json:"margin,omitempty"`
	Chain    []string      `json:"chain"`
	Late     []LateLine    `json:"late"`
	LeftOut  []LeftOutLine `json:"leftOut"`
	Trouble  string        `json:"trouble"`
	Windows  []OpenWindow  `json:"windows"`
	Troubles []Trouble     `json:"troubles"` // of the pantry, as the plan found them
	Moved    []MovedLine   `json:"moved"`
	MovedWhy string        `json:"movedWhy"`
	Before   []Place       `json:"before"`
	DueAt    *time.Time    `json:"dueAt,omitempty"` // when a planned start will have gone by
	Stands   string        `json:"stands"`          // why an older plan stands, when it does
	NoHours  bool          `json:"noHours"`         // nobody said any: nothing can be planned
	HandsMin int           `json:"handsMin"`        // of hands that are planned
	BenchMin int           `json:"benchMin"`        // at the bench, with the waits between hands
	Batches  int           `json:"batches"`
}

// SpareLine is the least time after drying of a commission's pieces in which what
// breaks can be made again, in minutes.
type SpareLine struct {
	CommissionID int64  `json:"commissionId"`
	Minutes      int    `json:"minutes"`
	Wanted       int    `json:"wanted"`
	Says         string `json:"says"`
}

// MarginLine is the time free before a hand-over, in minutes.
type MarginLine struct {
	CommissionID int64  `json:"commissionId"`
	Minutes      int    `json:"minutes"`
	Wanted       int    `json:"wanted"`
	Says         string `json:"says"`
}

// LateLine is a commission that does not fit, by how much, and why.
type LateLine struct {
	CommissionID int64  `json:"commissionId"`
	Minutes      int    `json:"minutes"`
	By           string `json:"by"`
}

// LeftOutLine is a piece that is not in the plan, and why.
type LeftOutLine struct {
	CommissionID int64  `json:"commissionId"`
	PieceID      int64  `json:"pieceId"`
	Piece        string `json:"piece,omitempty"` // its name, with which Say begins
	Say          string `json:"say"`
	Code         string `json:"code,omitempty"`  // of a Trouble; "": it cannot be planned
	Stage        string `json:"stage,omitempty"` // where that is settled
	Help         string `json:"help,omitempty"`
}

// OpenWindow is a stretch at the bench with at least one step.
type OpenWindow struct {
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}

// Fill is one filling of a mould: when it was pressed, and when it was opened.
type Fill struct {
	N    int        `json:"n"`
	Copy int        `json:"copy"`
	At   time.Time  `json:"at"`
	Out  *time.Time `json:"out,omitempty"`
	Who  string     `json:"who,omitempty"`
}

// Break is pieces that broke, and why.
type Break struct {
	At    time.Time `json:"at"`
	Count int       `json:"count"`
	Why   string    `json:"why"`
	Who   string    `json:"who,omitempty"`
}

// MovedLine is a step that the plan made last has put elsewhere.
type MovedLine struct {
	Op    string    `json:"op"`
	Title string    `json:"title"`
	From  string    `json:"from"`
	To    string    `json:"to"`
	Why   string    `json:"why"`
	Was   time.Time `json:"was"`
	// its hour had come and gone
	Missed bool `json:"missed,omitempty"`
}

// Place is where a step stood.
type Place struct {
	Op    string    `json:"op"`
	Start time.Time `json:"start"`
	End   time.Time `json:"end"`
}
