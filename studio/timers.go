package studio

import "time"

// Timer is a clock that runs on the server: it outlives the window and the
// program that began it.
type Timer struct {
	ID           int64
	Version      int64
	DeletedAt    *time.Time
	CommissionID *int64
	Op           string
	Kind         string // rest freezer dew open touch lift join own
	N            int
	Says         string
	StartsAt     time.Time
	RingsAt      time.Time
	AnsweredAt   *time.Time
}

// Fill is one filling of a mould: when it was pressed, and when it was opened.
type Fill struct {
	N    int        `json:"n"`
	Copy int        `json:"copy"`
	At   time.Time  `json:"at"`
	Out  *time.Time `json:"out,omitempty"`
}

// Break is pieces that broke, and why.
type Break struct {
	At    time.Time `json:"at"`
	Count int       `json:"count"`
	Why   string    `json:"why"`
}
