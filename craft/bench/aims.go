package bench

import (
	"cmp"
	"slices"
)

// Names of the aim, in the order in which Objective gives them.
var aims = []string{"late", "bufferShort", "offHours", "sessions", "cleanDown", "stale", "uneven"}

// Orders in use; a list of names is an order as well.
var orders = map[string][]string{
	"usual": aims,
	"span":  {"late", "bufferShort", "span", "sessions", "cleanDown", "stale", "uneven"},
}

// vector is the aims in their own order, then the span.
type vector [8]int

func rankOf(order []string) []int {
	var out []int
	for _, name := range order {
		if i := slices.Index(aims, name); i >= 0 {
			out = append(out, i)
		} else if name == "span" {
			out = append(out, 7)
		}
	}
	return out
}

func (v vector) compare(o vector, rank []int) int {
	for _, i := range rank {
		if c := cmp.Compare(v[i], o[i]); c != 0 {
			return c
		}
	}
	return 0
}

// value judges a complete plan.
func (p *pass) value() vector {
	t := p.t
	var v vector
	ends := make([]int, len(t.commissions))
	for c := range ends {
		ends[c] = -far
	}
	first := make([]int, len(t.in.Batches))
	for b := range first {
		first[b] = far
	}
	begin, lastHand := far, -far
	for i := range t.steps {
		s := &t.steps[i]
		ends[s.commission] = max(ends[s.commission], p.end(i))
		if s.state == "planned" {
			first[s.batch] = min(first[s.batch], p.start[i])
			begin = min(begin, p.start[i])
		}
	}
	for c, e := range ends {
		over := t.commissions[c].handOver
		lastHand = max(lastHand, over)
		if e == -far {
			continue
		}
		v[0] += max(0, e-over)
		v[1] += min(t.commissions[c].buffer, max(0, e-over+t.commissions[c].buffer))
	}
	stale := 0.0
	for b, s := range first {
		if s < far {
			c := slices.IndexFunc(t.commissions, func(c commission) bool { return c.id == t.in.Batches[b].Commission })
			stale += t.weights[b] * float64(max(0, t.commissions[c].handOver-s))
		}
	}
	v[5] = int(stale)
	day := map[string]int{}
	for w := range t.windows {
		spent, planned := 0, false
		for h := range maxPeople {
			line := p.lines[w*maxPeople+h]
			for _, e := range line {
				if s := &t.steps[e.step]; s.state == "planned" {
					planned = true
					spent += s.length
					if s.colour >= 0 {
						c := p.cleanBefore(line, nil, s.colour, e.start, s.rank, e.step)
						spent += c
						v[4] += c
					}
				}
			}
		}
		if planned {
			v[3]++
		}
		if !t.windows[w].preferred {
			v[2] += spent
		}
		day[t.windows[w].day] += spent
	}
	for _, m := range day {
		v[6] += m * m
	}
	if begin < far {
		v[7] = lastHand - begin
	}
	return v
}
