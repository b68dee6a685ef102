package piece

import (
	"fmt"
	"math"
	"sort"

	"dustyfern/craft/fault"
)

// Breakage classes as Beta(a, b) beliefs about the share that breaks
// (assumed): robust 2 %, ordinary 5 %, delicate 10 %, fragile 20 % on average.
var breakage = map[string][2]float64{
	"robust": {1, 49}, "ordinary": {1, 19}, "delicate": {2, 18}, "fragile": {3, 12},
}

// BreakageOf is the class of a technique (assumed).
var BreakageOf = map[string]string{
	"moulded": "robust", "branching": "ordinary", "string": "ordinary", "cut": "ordinary", "thin": "delicate",
	"lace": "fragile", "openwork": "fragile", "standing": "fragile",
}

// Belief says how often a piece breaks: a class, a technique that has one, or a
// prior of one's own; with what was made and broken before.
type Belief struct {
	Breakage  *string
	Technique *string
	PriorA    *float64
	PriorB    *float64
	Made      int
	Broken    int
}

// prior is Beta(a, b) after the log. Nothing said is ordinary.
func (x Belief) prior() (a, b float64, f *fault.Fault) {
	class := "ordinary"
	switch {
	case x.Technique != nil && x.Breakage != nil:
		return 0, 0, fault.New(fault.Contradiction, "technique", "Say a class of breakage or a technique, not both.")
	case x.PriorA != nil && (x.Breakage != nil || x.Technique != nil):
		return 0, 0, fault.New(fault.Contradiction, "priorA", "Say a class of breakage or a belief of your own, not both.")
	case x.PriorA == nil && x.PriorB != nil:
		return 0, 0, fault.New(fault.Required, "priorA", "priorB needs priorA beside it.")
	case x.PriorA != nil && x.PriorB == nil:
		return 0, 0, fault.New(fault.Required, "priorB", "priorA needs priorB beside it.")
	case x.Technique != nil:
		class = BreakageOf[*x.Technique]
	case x.Breakage != nil:
		class = *x.Breakage
	}
	if x.Broken > x.Made {
		return 0, 0, fault.New(fault.Contradiction, "broken", "%d broken of %d made: no more can break than were made.", x.Broken, x.Made)
	}
	p := breakage[class]
	if x.PriorA != nil {
		p = [2]float64{*x.PriorA, *x.PriorB}
	}
	return p[0] + float64(x.Broken), p[1] + float64(x.Made-x.Broken), nil
}

// CertaintyEach is what each of so many kinds is asked, so that all of them
// together hold with the certainty of the order.
func CertaintyEach(certainty float64, kinds int) float64 {
	return 1 - (1-certainty)/float64(max(1, kinds))
}

// SpareIn asks how many to make so that enough stay whole.
type SpareIn struct {
	Wanted    *int     `json:"wanted" need:"true" in:"0..5000"`
	Breakage  *string  `json:"breakage" of:"robust ordinary delicate fragile"`
	Technique *string  `json:"technique" of:"moulded branching string cut thin lace openwork standing"`
	PriorA    *float64 `json:"priorA" in:"0.001..1e6"`
	PriorB    *float64 `json:"priorB" in:"0.001..1e6"`
	Made      *int     `json:"made" def:"0" in:"0..100000"`
	Broken    *int     `json:"broken" def:"0" in:"0..100000"`
	Certainty *float64 `json:"certainty" def:"0.95" in:"0.01..0.9999"`
	Kinds     *int     `json:"kinds" def:"1" in:"1..200"`
}

// SpareOut is the count to make, the belief after the log, and the chance that
// it suffices.
type SpareOut struct {
	Make                int      `json:"make"`
	Spares              int      `json:"spares"`
	PriorA              float64  `json:"priorA"`
	PriorB              float64  `json:"priorB"`
	MeanBreakShare      float64  `json:"meanBreakShare"`
	Probability         float64  `json:"probability"`
	CertaintyEach       float64  `json:"certaintyEach"`
	ProbabilityOneFewer *float64 `json:"probabilityOneFewer,omitempty"`
}

func lgamma(x float64) float64 { l, _ := math.Lgamma(x); return l }

func lbeta(a, b float64) float64 { return lgamma(a) + lgamma(b) - lgamma(a+b) }

// enough is the chance that of n made at least wanted stay whole, the share
// that breaks being Beta(a, b): a beta-binomial sum.
func enough(n, wanted int, a, b float64) float64 {
	if n < wanted {
		return 0
	}
	p := 0.0
	for k := 0; k <= n-wanted; k++ {
		choose := lgamma(float64(n+1)) - lgamma(float64(k+1)) - lgamma(float64(n-k+1))
		p += math.Exp(choose + lbeta(float64(k)+a, float64(n-k)+b) - lbeta(a, b))
	}
	return math.Min(p, 1)
}

// Spares finds the least count that leaves wanted whole with the certainty
// asked of the whole order. More than ten times as many is refused: the method
// is wrong then.
func Spares(in SpareIn) (SpareOut, error) {
	if err := fault.Check(&in); err != nil {
		return SpareOut{}, err
	}
	a, b, f := Belief{in.Breakage, in.Technique, in.PriorA, in.PriorB, *in.Made, *in.Broken}.prior()
	if f != nil {
		return SpareOut{}, f
	}
	out := SpareOut{PriorA: a, PriorB: b, MeanBreakShare: a / (a + b), CertaintyEach: CertaintyEach(*in.Certainty, *in.Kinds)}
	if f := out.least(*in.Wanted); f != nil {
		return out, f
	}
	return out, nil
}

// least fills in the least count for n whole ones.
func (out *SpareOut) least(n int) *fault.Fault {
	out.Probability = 1
	if n == 0 {
		return nil
	}
	const slack = 1e-12 // n/(n+1) reaches 0.8 at 4 exactly
	most := 10*n + 20
	extra := sort.Search(most-n+1, func(i int) bool { return enough(n+i, n, out.PriorA, out.PriorB) >= out.CertaintyEach-slack })
	if n+extra > most {
		return fault.New(fault.Unreachable, "wanted", "Even %d would not leave %d whole with that certainty: change the paste, the mould or the method.", most, n)
	}
	out.Make, out.Spares = n+extra, extra
	out.Probability = enough(out.Make, n, out.PriorA, out.PriorB)
	if extra > 0 {
		out.ProbabilityOneFewer = new(enough(out.Make-1, n, out.PriorA, out.PriorB))
	}
	return nil
}

// OrderPiece is one kind of piece of an order.
type OrderPiece struct {
	Name      *string  `json:"name"`
	Wanted    *int     `json:"wanted" need:"true" in:"0..5000"`
	Breakage  *string  `json:"breakage" of:"robust ordinary delicate fragile"`
	Technique *string  `json:"technique" of:"moulded branching string cut thin lace openwork standing"`
	PriorA    *float64 `json:"priorA" in:"0.001..1e6"`
	PriorB    *float64 `json:"priorB" in:"0.001..1e6"`
	Made      *int     `json:"made" def:"0" in:"0..100000"`
	Broken    *int     `json:"broken" def:"0" in:"0..100000"`
}

// OrderIn asks for the spares of a whole order.
type OrderIn struct {
	Pieces    []OrderPiece `json:"pieces" need:"true" most:"200"`
	Certainty *float64     `json:"certainty" def:"0.95" in:"0.01..0.9999"`
}

// OrderRow is one kind of it.
type OrderRow struct {
	Name        *string `json:"name,omitempty"`
	Wanted      int     `json:"wanted"`
	Make        int     `json:"make"`
	Spares      int     `json:"spares"`
	Probability float64 `json:"probability"`
}

// OrderOut is the order: the chance that every kind suffices is the product.
type OrderOut struct {
	Kinds         int        `json:"kinds"`
	CertaintyEach float64    `json:"certaintyEach"`
	Rows          []OrderRow `json:"rows"`
	Make          int        `json:"make"`
	Spares        int        `json:"spares"`
	Probability   float64    `json:"probability"`
}

// Order shares the certainty of an order among its kinds: 95 % of each of six
// would leave 78 % for the order.
func Order(in OrderIn) (OrderOut, error) {
	if err := fault.Check(&in); err != nil {
		return OrderOut{}, err
	}
	out := OrderOut{Rows: []OrderRow{}, Probability: 1}
	for _, p := range in.Pieces {
		if *p.Wanted > 0 {
			out.Kinds++
		}
	}
	out.CertaintyEach = CertaintyEach(*in.Certainty, out.Kinds)
	for i, p := range in.Pieces {
		s, err := Spares(SpareIn{p.Wanted, p.Breakage, p.Technique, p.PriorA, p.PriorB, p.Made, p.Broken, in.Certainty, new(max(1, out.Kinds))})
		if err != nil {
			return OrderOut{}, fault.At(err, fmt.Sprintf("pieces[%d].", i))
		}
		out.Rows = append(out.Rows, OrderRow{p.Name, *p.Wanted, s.Make, s.Spares, s.Probability})
		out.Make, out.Spares, out.Probability = out.Make+s.Make, out.Spares+s.Spares, out.Probability*s.Probability
	}
	return out, nil
}

// MoreIn is a batch under way: pressed so far, and how many of these broke.
type MoreIn struct {
	Wanted       *int     `json:"wanted" need:"true" in:"0..5000"`
	Pressed      *int     `json:"pressed" need:"true" in:"count"`
	BrokeOfThese *int     `json:"brokeOfThese" need:"true" in:"count"`
	Breakage     *string  `json:"breakage" of:"robust ordinary delicate fragile"`
	Technique    *string  `json:"technique" of:"moulded branching string cut thin lace openwork standing"`
	PriorA       *float64 `json:"priorA" in:"0.001..1e6"`
	PriorB       *float64 `json:"priorB" in:"0.001..1e6"`
	Made         *int     `json:"made" def:"0" in:"count"`
	Broken       *int     `json:"broken" def:"0" in:"count"`
	Planned      *int     `json:"planned" in:"count"`
	Certainty    *float64 `json:"certainty" def:"0.95" in:"0.01..0.9999"`
	Kinds        *int     `json:"kinds" def:"1" in:"1..200"`
}

// MoreOut is how many more to press now.
type MoreOut struct {
	Whole          int     `json:"whole"`
	StillWanted    int     `json:"stillWanted"`
	More           int     `json:"more"`
	InAll          int     `json:"inAll"`
	OverPlan       *int    `json:"overPlan,omitempty"`
	PriorA         float64 `json:"priorA"`
	PriorB         float64 `json:"priorB"`
	MeanBreakShare float64 `json:"meanBreakShare"`
	Probability    float64 `json:"probability"`
	CertaintyEach  float64 `json:"certaintyEach"`
}

// More learns from what has broken of this batch at once: still wanted is asked
// again under the belief after it.
func More(in MoreIn) (MoreOut, error) {
	if err := fault.Check(&in); err != nil {
		return MoreOut{}, err
	}
	m, k := *in.Pressed, *in.BrokeOfThese
	if k > m {
		return MoreOut{}, fault.New(fault.Contradiction, "brokeOfThese", "%d broke of %d pressed: no more can break than were pressed.", k, m)
	}
	a, b, f := Belief{in.Breakage, in.Technique, in.PriorA, in.PriorB, *in.Made, *in.Broken}.prior()
	if f != nil {
		return MoreOut{}, f
	}
	s := SpareOut{PriorA: a + float64(k), PriorB: b + float64(m-k), CertaintyEach: CertaintyEach(*in.Certainty, *in.Kinds)}
	s.MeanBreakShare = s.PriorA / (s.PriorA + s.PriorB)
	out := MoreOut{Whole: m - k, StillWanted: max(0, *in.Wanted-(m-k))}
	if f := s.least(out.StillWanted); f != nil {
		return MoreOut{}, f
	}
	out.More, out.InAll = s.Make, m+s.Make
	out.PriorA, out.PriorB, out.MeanBreakShare, out.Probability, out.CertaintyEach = s.PriorA, s.PriorB, s.MeanBreakShare, s.Probability, s.CertaintyEach
	if in.Planned != nil {
		out.OverPlan = new(out.InAll - *in.Planned)
	}
	return out, nil
}
