package technique

import (
	"fmt"
	"slices"

	"dustyfern/craft/fault"
)

// A mould's cycle with waits in it leaves its hands free below this share of
// attention: nobody sits half an evening beside one.
const (
	busyFrom   = 80
	halfWindow = 2
)

// misfit is why a batch does not fit, by op.
type misfit struct {
	step string // of the technique
	by   string
	say  string
}

// split finds the fewest parts that fit, sizes differing by one, the larger first.
func (p *part) split() (out []Batch, by string, err error) {
	var why *misfit
	for k := 1; k <= p.made; k++ {
		n, more := p.made/k, p.made%k
		sizes := []int{n}
		if more > 0 {
			sizes = []int{n + 1, n}
		}
		made := map[int]*batch{}
		var first *misfit
		for _, size := range sizes {
			b, err := p.reckon(size)
			if err != nil {
				return nil, "", err
			}
			made[size] = b
			m, err := b.fits()
			if err != nil {
				return nil, "", err
			}
			if m != nil {
				first = m
				break
			}
		}
		if first != nil {
			if why == nil {
				by = first.step + ": " + first.by
			}
			why = first
			continue
		}
		for i := range k {
			size := n
			if i < more {
				size++
			}
			one := made[size].out
			one.Ops, one.Lags, one.Holds = slices.Clone(one.Ops), slices.Clone(one.Lags), slices.Clone(one.Holds)
			out = append(out, one)
		}
		return out, by, nil
	}
	return nil, "", fault.New(fault.Unreachable, fmt.Sprintf("steps.%s", why.step), "Not even one piece fits: %s.", why.say)
}

// fits tells what forbids a batch; nil when nothing does.
func (b *batch) fits() (*misfit, error) {
	for i := range b.out.Ops {
		o := &b.out.Ops[i]
		step := b.stepOf(o.Op)
		most := b.p.window
		by := "window"
		if c := o.Cycle; c != nil && c.HoldSec > 0 && o.Attention < busyFrom {
			most, by = most/halfWindow, "halfWindow"
		}
		if o.Attended && float64(o.length) > most+slack {
			return &misfit{step, by, fmt.Sprintf("it takes %d min, and the stretch is %.0f", o.length, most)}, nil
		}
		for _, u := range o.Uses {
			if have := b.capacity(u.Resource); have >= 0 && u.Count > have {
				return &misfit{step, u.Resource, fmt.Sprintf("it takes %d of the %s, and there are %d", u.Count, u.Resource, have)}, nil
			}
		}
	}
	for _, h := range b.out.Holds {
		if have := b.capacity(h.Resource); have >= 0 && h.Count > have {
			return &misfit{b.stepOf(h.From), h.Resource, fmt.Sprintf("it holds %d of the %s, and there are %d", h.Count, h.Resource, have)}, nil
		}
	}
	if m, err := b.limited(); m != nil || err != nil {
		return m, err
	}
	for _, s := range b.spans {
		if together := b.out.Ops[b.at[s.from]].length + b.out.Ops[b.at[s.to]].length; together > s.max {
			return &misfit{s.step, "both together within the window", fmt.Sprintf("both steps together take %d min, and it keeps %d", together, s.max)}, nil
		}
	}
	if step := b.circle(); step != "" {
		return &misfit{step, "waits", "a longest wait is shorter than what lies in it"}, nil
	}
	return nil, nil
}

func (b *batch) limited() (*misfit, error) {
	for _, s := range b.p.t.Steps {
		op, there := b.opOf[s.ID]
		if !there {
			continue
		}
		for _, x := range s.Limits {
			b.minutes = float64(b.out.Ops[b.at[op]].length)
			of := float64(b.n)
			if x.Of != "" {
				var err error
				if of, err = b.p.value(x.Of, b); err != nil {
					return nil, err
				}
			}
			most, err := b.p.value(x.Most, b)
			if err != nil {
				return nil, err
			}
			if of > most+slack {
				return &misfit{s.ID, "limit", x.Why}, nil
			}
		}
	}
	return nil, nil
}

// capacity of a tool, by the measure that says it; below 0: without limit.
func (b *batch) capacity(role string) int {
	for _, r := range b.p.l.Roles(b.p.t) {
		if r.Role == role {
			if k := b.p.l.Kind(r.Kind); k.Capacity != "" {
				return roundDown(b.p.base[role+"."+k.Capacity])
			}
		}
	}
	return -1
}

// circle looks for waits that contradict each other: with every op at its length,
// starts that push one another ever later (Bellman and Ford).
func (b *batch) circle() string {
	start := make([]int, len(b.out.Ops))
	for round := 0; ; round++ {
		moved := ""
		for _, g := range b.out.Lags {
			i, j := b.at[g.From], b.at[g.To]
			if least := start[i] + b.out.Ops[i].length + g.Min; start[j] < least {
				start[j], moved = least, g.To
			}
			if g.Max != nil {
				if least := start[j] - *g.Max - b.out.Ops[i].length; start[i] < least {
					start[i], moved = least, g.From
				}
			}
		}
		if moved == "" {
			return ""
		}
		if round > len(b.out.Ops)+1 {
			return b.stepOf(moved)
		}
	}
}
