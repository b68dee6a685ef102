package noun

import (
	"fmt"
	"strings"
	"time"
)

// Timer is a clock of one's own, or the answer to one that follows from a step:
// those are never kept themselves.
type Timer struct {
	Row
	CommissionID *int64     `json:"commissionId,omitempty"`
	Op           string     `json:"op"`
	Kind         string     `json:"kind"` // rest freezer dew open touch lift join own
	N            int        `json:"n"`
	Says         string     `json:"says"`
	StartsAt     time.Time  `json:"startsAt"`
	RingsAt      time.Time  `json:"ringsAt"`
	AnsweredAt   *time.Time `json:"answeredAt,omitempty"`

	// What it runs for, of one that follows from a step: it is not kept.
	What string `json:"-" gorm:"-"`
}

// Key is the address of a clock: a number of one's own, or the step, the kind
// and the fill of one that follows from a step.
func (t *Timer) Key() string {
	if t.Kind == "own" {
		return fmt.Sprint(t.ID)
	}
	return strings.Join([]string{t.Op, t.Kind, fmt.Sprint(t.N)}, "~")
}

// ClockKinds are the clocks that follow from steps.
var ClockKinds = []string{"rest", "freezer", "dew", "open", "touch", "lift", "cover", "join"}
