package noun

import (
	"slices"
	"time"
)

// Finish is what comes on to a piece when it is made: dust and paint in passes, and what
// fixes them. Lock and Gloss are "" where they are as is usual.
type Finish struct {
	Passes []Pass `json:"passes,omitempty"`
	Lock   string `json:"lock,omitempty"`
	Gloss  string `json:"gloss,omitempty"`
	Medium string `json:"medium,omitempty"` // of metallic paint; "" as suits the table

	// of one scrap that was sprayed: how much of it was covered after how many passes
	SeenPercent *float64 `json:"seenPercent,omitempty"`
	SeenPasses  *float64 `json:"seenPasses,omitempty"`
}

// Pass is one tone on one part of a piece: of lots in whole parts, on a share of its
// surface, so many times over. In a document lots are their numbers.
type Pass struct {
	Role    string     `json:"role"`
	Lots    []DustPart `json:"lots"`
	Percent float64    `json:"percent"` // of the surface that is seen
	Times   int        `json:"times"`
}

// DustPart is how many parts of a mix are of a lot.
type DustPart struct {
	Lot   int64 `json:"lot"`
	Parts int   `json:"parts"`
}

// MostPasses is how many tones a piece carries.
const MostPasses = 12

// Clone is a copy that shares nothing.
func (f Finish) Clone() Finish {
	f.Passes = slices.Clone(f.Passes)
	for i := range f.Passes {
		f.Passes[i].Lots = slices.Clone(f.Passes[i].Lots)
	}
	return f
}

// Goes is how a piece goes on the cake. What is "" is as is usual for it.
type Goes struct {
	Place      string   `json:"place,omitempty"`  // side, top, topEdge, board
	Load       string   `json:"load,omitempty"`   // hanging, resting, goesRound, standing
	Ground     string   `json:"ground,omitempty"` // what it goes on to
	With       string   `json:"with,omitempty"`   // the attacher of this studio's choice
	StandOffMM *float64 `json:"standOffMM,omitempty"`
	Line       bool     `json:"line,omitempty"` // one of a row
	Inserts    []Insert `json:"inserts,omitempty"`
}

// Insert is something in each piece that nobody eats: a wire, a pick.
type Insert struct {
	Item string `json:"item"`
	Each int    `json:"each"`
}

// Leaves is what is settled of an order before it leaves the house.
type Leaves struct {
	Cleared    []Cleared      `json:"cleared,omitempty"`
	Counted    map[string]int `json:"counted,omitempty"` // by item, at the bench
	BestDays   *float64       `json:"bestDays,omitempty"`
	ServeHours *float64       `json:"serveHours,omitempty"`
	Inserts    []Insert       `json:"inserts,omitempty"` // in the cake itself: dowels
}

// Cleared is a stop that the client knows of, in writing. Because is what brought it: when
// that changes, the stop stands again.
type Cleared struct {
	Stop    string    `json:"stop"`
	Because string    `json:"because"`
	At      time.Time `json:"at"`
	Who     string    `json:"who"`
	Says    string    `json:"says"`
}

// ClearedOf is what was written of a stop with the same cause; nil: nothing.
func (l *Leaves) ClearedOf(stop, because string) *Cleared {
	for i := range l.Cleared {
		if c := &l.Cleared[i]; c.Stop == stop && c.Because == because {
			return c
		}
	}
	return nil
}
