package attach

import (
	"fmt"
	"math"

	"dustyfern/craft/fault"
)

func at(list string, i int) string { return fmt.Sprintf("%s[%d]", list, i) }

// OrderIn are the joins of a cake. Times are minutes from the moment at which hands begin.
type OrderIn struct {
	Joins []Join `json:"joins" need:"true" most:"500"`
}

// Join is one thing to put on, or a number of the same. Until is when it must have begun.
type Join struct {
	ID             *string  `json:"id" need:"true"`
	On             []string `json:"on"`
	Minutes        *float64 `json:"minutes" in:"0..10080"`
	Pieces         *int     `json:"pieces" def:"1" in:"1..100000"`
	MassG          *float64 `json:"massG" def:"1" in:"0.001..50000"`
	SettleMinutes  *float64 `json:"settleMinutes" def:"0" in:"0..100800"`
	ReadyAtMinutes *float64 `json:"readyAtMinutes" def:"0" in:"0..1000000"`
	UntilMinutes   *float64 `json:"untilMinutes" in:"0..1000000"`
	Line           bool     `json:"line"`
}

// OrderOut is the order for one pair of hands.
type OrderOut struct {
	Order          []Put    `json:"order"`
	HandsMinutes   float64  `json:"handsMinutes"`
	IdleMinutes    float64  `json:"idleMinutes"`
	SettledMinutes float64  `json:"settledMinutes"`
	Late           []string `json:"late,omitempty"`
}

// Put is when one thing is put on.
type Put struct {
	ID           string  `json:"id"`
	StartMinutes float64 `json:"startMinutes"`
	EndMinutes   float64 `json:"endMinutes"`
}

// Minutes of hands for one piece (assumed): under 5 g, and more.
const (
	lightMinutes = 0.75
	heavyMinutes = 1.5
	lightBelowG  = 5
)

// HandsMinutes are the minutes that one pair of hands takes to put on n pieces of some g.
func HandsMinutes(n int, massG float64) float64 {
	if massG < lightBelowG {
		return float64(n) * lightMinutes
	}
	return float64(n) * heavyMinutes
}

// Order puts joins in the order in which one pair of hands puts them on: what carries
// first, the shortest window first, lines before singles, heavy before light. Errors are
// *fault.Fault; docs/models/attach.md.
func Order(in OrderIn) (OrderOut, error) {
	index, err := in.check()
	if err != nil {
		return OrderOut{}, err
	}
	out := OrderOut{Order: []Put{}}
	settled := make([]float64, len(in.Joins)) // when what lies on it may follow
	done := make([]bool, len(in.Joins))
	// pick is what comes next of all that is ready now (-1: nothing is), and when the
	// first becomes so
	pick := func(now float64) (next int, soonest float64) {
		next, soonest = -1, math.Inf(1)
		for i := range in.Joins {
			j := &in.Joins[i]
			from, open := *j.ReadyAtMinutes, !done[i]
			for _, id := range j.On {
				open = open && done[index[id]]
				from = max(from, settled[index[id]])
			}
			if !open {
				continue
			}
			soonest = min(soonest, from)
			if from <= now+1e-9 && (next < 0 || j.before(&in.Joins[next])) {
				next = i
			}
		}
		return next, soonest
	}
	now := 0.0
	for range in.Joins {
		next, soonest := pick(now)
		if next < 0 && math.IsInf(soonest, 1) {
			return OrderOut{}, fault.New(fault.Contradiction, "joins", "These joins wait for one another in a circle.")
		}
		if next < 0 {
			out.IdleMinutes += soonest - now
			now = soonest
			next, _ = pick(now)
		}
		j := &in.Joins[next]
		if j.UntilMinutes != nil && now > *j.UntilMinutes+1e-9 {
			out.Late = append(out.Late, *j.ID)
		}
		end := now + j.hands()
		out.Order = append(out.Order, Put{*j.ID, now, end})
		done[next], settled[next], now = true, end+*j.SettleMinutes, end
		out.SettledMinutes = max(out.SettledMinutes, settled[next])
	}
	out.HandsMinutes = now
	return out, nil
}

func (j *Join) hands() float64 {
	if j.Minutes != nil {
		return *j.Minutes
	}
	return HandsMinutes(*j.Pieces, *j.MassG)
}

// before tells which of two joins that are both ready comes first.
func (j *Join) before(k *Join) bool {
	until := func(x *Join) float64 {
		if x.UntilMinutes == nil {
			return math.Inf(1)
		}
		return *x.UntilMinutes
	}
	if a, b := until(j), until(k); a != b {
		return a < b
	}
	if j.Line != k.Line {
		return j.Line
	}
	return *j.MassG > *k.MassG
}

func (in *OrderIn) check() (map[string]int, error) {
	if err := fault.Check(in); err != nil {
		return nil, err
	}
	index := map[string]int{}
	for i := range in.Joins {
		if _, twice := index[*in.Joins[i].ID]; twice {
			return nil, fault.New(fault.Contradiction, at("joins", i)+".id", "There are two joins %q.", *in.Joins[i].ID)
		}
		index[*in.Joins[i].ID] = i
	}
	for i := range in.Joins {
		j := &in.Joins[i]
		for k, id := range j.On {
			if _, known := index[id]; !known {
				return nil, fault.New(fault.UnknownValue, at(at("joins", i)+".on", k), "There is no join %q.", id)
			}
		}
		if j.UntilMinutes != nil && *j.UntilMinutes < *j.ReadyAtMinutes {
			return nil, fault.New(fault.Contradiction, at("joins", i)+".untilMinutes", "Its window ends at %g min, before it is ready at %g.", *j.UntilMinutes, *j.ReadyAtMinutes)
		}
	}
	return index, nil
}
