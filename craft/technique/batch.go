package technique

import (
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/bench"
	"dustyfern/craft/fault"
)

// Batch is some of the pieces, with steps of their own.
type Batch struct {
	Pieces int          `json:"pieces"`
	Ops    []Op         `json:"ops"`
	Lags   []bench.Lag  `json:"lags"`
	Holds  []bench.Hold `json:"holds,omitempty"`
}

// Op is a step of the plan: a step of the technique, or a run of them with its
// rounds.
type Op struct {
	Op           string        `json:"op"`
	Kind         string        `json:"kind"`
	Attended     bool          `json:"attended"`
	Minutes      *int          `json:"minutes,omitempty"`
	Cycle        *bench.Rounds `json:"cycle,omitempty"`
	Dry          *bench.Drying `json:"dry,omitempty"`
	People       int           `json:"people,omitempty"`
	Attention    int           `json:"attention,omitempty"`
	Pace         float64       `json:"pace,omitempty"` // by which its minutes are longer than usual; 0: they are not
	HandsMinutes float64       `json:"handsMinutes,omitempty"`
	Rounds       int           `json:"rounds,omitempty"`
	Steps        []string      `json:"steps,omitempty"`
	Uses         []bench.Use   `json:"uses,omitempty"`
	NoPaste      bool          `json:"noPaste,omitempty"`
	Assembly     bool          `json:"assembly,omitempty"`
	CakeReady    bool          `json:"cakeReady,omitempty"`

	DryUntil string  `json:"-"`               // of a drying: the moment that it waits for
	Shows    []Shown `json:"shows,omitempty"` // numbers in sight

	length int // minutes, a drying at its slow end
}

// waits is how long an op lasts that needs no hands.
func (o *Op) waits() int {
	if o.Attended {
		return 0
	}
	return o.length
}

// batch is a part of the pieces while its steps are reckoned.
type batch struct {
	p       *part
	n       int
	minutes float64 // of the op whose limits are looked at
	round   int     // rounds of the run that is open
	looking []string

	out   Batch
	opOf  map[string]string // step -> op
	at    map[string]int    // op -> its place
	spans []span
}

// span is a window that runs from the first piece out of one op to the last into
// another.
type span struct {
	from, to, step string
	max            int
}

// look finds the names of a batch: n, batchG and the counts.
func (b *batch) look(name string) (float64, bool, error) {
	switch name {
	case "n":
		return float64(b.n), true, nil
	case "minutes":
		return b.minutes, true, nil
	case "batchG":
		x, err := b.p.look("eachG", b)
		return x * float64(b.n), true, err
	}
	if _, given := b.p.given[name]; given {
		return 0, false, nil
	}
	text, ok := b.p.t.Counts[name]
	if !ok {
		text, ok = b.p.l.Common.Counts[name]
	}
	if !ok {
		return 0, false, nil
	}
	if slices.Contains(b.looking, name) {
		return 0, true, fault.New(fault.Syntax, "definition", "The count %s follows from itself.", name)
	}
	b.looking = append(b.looking, name)
	x, err := b.p.value(text, b)
	b.looking = b.looking[:len(b.looking)-1]
	return x, true, err
}

// reckon makes the steps of n pieces.
func (p *part) reckon(n int) (*batch, error) {
	b := &batch{p: p, n: n, opOf: map[string]string{}, at: map[string]int{}}
	b.out.Pieces = n
	var run []Step
	flush := func() error {
		if len(run) == 0 {
			return nil
		}
		err := b.run(run)
		run = nil
		return err
	}
	for _, s := range p.t.Steps {
		there, err := p.holds(s.When, b)
		if err != nil {
			return nil, err
		}
		if !there {
			continue
		}
		if len(run) > 0 && s.Run != run[0].Run {
			if err := flush(); err != nil {
				return nil, err
			}
		}
		if s.Run != "" {
			run = append(run, s)
		} else if err := b.single(s); err != nil {
			return nil, err
		}
	}
	if err := flush(); err != nil {
		return nil, err
	}
	if err := b.link(); err != nil {
		return nil, err
	}
	return b, b.hold()
}

func (b *batch) add(o Op, steps ...Step) error {
	for _, s := range steps {
		b.opOf[s.ID] = o.Op
		o.NoPaste = o.NoPaste || s.NoPaste
		o.Assembly = o.Assembly || s.Assembly
		if s.CakeReady != "" {
			ready, err := b.p.holds(s.CakeReady, b)
			if err != nil {
				return err
			}
			o.CakeReady = o.CakeReady || ready
		}
		if s.People > 1 {
			o.People = max(o.People, s.People)
		}
		if err := b.use(&o, s.Uses); err != nil {
			return err
		}
		if err := b.show(&o, s.Shows); err != nil {
			return err
		}
	}
	b.at[o.Op] = len(b.out.Ops)
	b.out.Ops = append(b.out.Ops, o)
	return nil
}

// show reckons the numbers that hands want in sight.
func (b *batch) show(o *Op, shows []Show) error {
	for _, x := range shows {
		there, err := b.p.holds(x.When, b)
		if err != nil {
			return err
		}
		if !there {
			continue
		}
		v, err := b.p.value(x.Is, b)
		if err != nil {
			return err
		}
		o.Shows = append(o.Shows, Shown{x.Says, x.Unit, v, x.Roller})
	}
	return nil
}

// use counts tools of an op; of several uses of one the largest counts.
func (b *batch) use(o *Op, uses []Hold) error {
	for _, u := range uses {
		x, err := b.p.value(u.Count, b)
		if err != nil {
			return err
		}
		b.take(o, u.What, roundUp(x))
	}
	return nil
}

func (b *batch) take(o *Op, what string, count int) {
	if count < 1 {
		return
	}
	for i := range o.Uses {
		if o.Uses[i].Resource == what {
			o.Uses[i].Count = max(o.Uses[i].Count, count)
			return
		}
	}
	o.Uses = append(o.Uses, bench.Use{Resource: what, Count: count})
}

// single is a step that is an op of its own.
func (b *batch) single(s Step) error {
	o := Op{Op: s.ID, Kind: s.Verb, Attended: s.Hands}
	switch {
	case s.Minutes != nil:
		sum, err := b.minutesOf(s)
		if err != nil {
			return err
		}
		sum *= b.paced(&o)
		o.length = max(1, roundUp(sum))
		o.Minutes = new(o.length)
		o.HandsMinutes = sum
		if s.Attention > 0 {
			o.Attention = s.Attention
			o.HandsMinutes = sum * float64(s.Attention) / 100
		}
	case s.Cycle != nil:
		if err := b.cycle(&o, s); err != nil {
			return err
		}
	case s.Wait != "":
		x, err := b.p.value(s.Wait, b)
		if err != nil {
			return err
		}
		o.length = roundUp(x)
		o.Minutes = new(o.length)
	default:
		var d [2]int
		for i, q := range []string{".p50", ".p90"} {
			x, err := b.p.look(s.Dry+q, b)
			if err != nil {
				return err
			}
			d[i] = roundUp(x)
		}
		o.Dry, o.DryUntil, o.length = &bench.Drying{P50: d[0], P90: d[1]}, s.Dry, d[1]
	}
	if !o.Attended {
		o.HandsMinutes = 0
	}
	return b.add(o, s)
}

// paced is by how much these hands take longer over an op than is usual.
func (b *batch) paced(o *Op) float64 {
	if x := b.p.in.Pace[o.Op]; x > 0 {
		o.Pace = x
		return x
	}
	return 1
}

// minutesOf a step: each unit times its count.
func (b *batch) minutesOf(s Step) (sum float64, err error) {
	for u, text := range s.Minutes {
		x, own := b.p.in.Minutes[s.ID+"."+u]
		if !own {
			if x, err = b.p.value(text, b); err != nil {
				return 0, err
			}
		}
		times := 1.0
		switch u {
		case "batch":
		case "piece":
			times = float64(b.n)
		case "round":
			times = float64(b.round)
		default:
			if times, err = b.p.look(u, b); err != nil {
				return 0, err
			}
		}
		sum += x * times
	}
	return sum, nil
}

func (b *batch) cycle(o *Op, s Step) error {
	var v [5]int
	for i, text := range []string{s.Cycle.Pieces, s.Cycle.FillSec, s.Cycle.HoldSec, s.Cycle.UnmouldSec, s.Cycle.Copies} {
		x, err := b.p.value(text, b)
		if err != nil {
			return err
		}
		switch own := b.p.in.Minutes; {
		case i == 1 && own[s.ID+".fill"] > 0:
			x = own[s.ID+".fill"] * 60
		case i == 3 && own[s.ID+".open"] > 0:
			x = own[s.ID+".open"] * 60
		}
		v[i] = roundUp(x)
	}
	if v[4] < 1 {
		return fault.New(fault.Unreachable, fmt.Sprintf("steps.%s", s.ID), "No mould and no place in the freezer: nothing can be pressed.")
	}
	o.Cycle = &bench.Rounds{Pieces: v[0], FillSec: v[1], HoldSec: v[2], UnmouldSec: v[3], Copies: v[4]}
	o.length, o.Attention = o.Cycle.Length()
	o.HandsMinutes = float64(v[0]*(v[1]+v[3])) / 60
	return nil
}

// run is a stretch of steps worked round by round: one op.
func (b *batch) run(steps []Step) error {
	r := b.p.t.run(steps[0].Run)
	x, err := b.p.value(r.Round, b)
	if err != nil {
		return err
	}
	most := roundDown(x)
	if most < 1 {
		return fault.New(fault.Unreachable, fmt.Sprintf("runs.%s", r.ID), "Not even one piece fits a round: %s.", r.Why)
	}
	b.round = (b.n + most - 1) / most
	o := Op{Op: r.ID, Kind: r.Verb, Attended: true, Rounds: b.round}
	length := 0.0
	for _, s := range steps {
		o.Steps = append(o.Steps, s.ID)
		if s.Minutes == nil {
			x, err := b.p.value(s.Wait, b)
			if err != nil {
				return err
			}
			length += x * float64(b.round)
			continue
		}
		sum, err := b.minutesOf(s)
		if err != nil {
			return err
		}
		sum *= b.paced(&o)
		length += sum
		if s.Attention > 0 {
			sum *= float64(s.Attention) / 100
		}
		o.HandsMinutes += sum
	}
	o.length = max(1, roundUp(length))
	o.Minutes = new(o.length)
	if share := roundUp(100 * o.HandsMinutes / math.Max(length, slack)); share < 100 {
		o.Attention = max(1, share)
	}
	return b.add(o, steps...)
}
