package bench

import "slices"

// profile is how many copies of a resource are taken over time: level[k] from
// at[k] until at[k+1], none before at[0].
type profile struct{ at, level []int }

func (p *profile) clone() profile {
	return profile{slices.Clone(p.at), slices.Clone(p.level)}
}

// cut makes x a border and gives its index.
func (p *profile) cut(x int) int {
	k, found := slices.BinarySearch(p.at, x)
	if found {
		return k
	}
	level := 0
	if k > 0 {
		level = p.level[k-1]
	}
	p.at = slices.Insert(p.at, k, x)
	p.level = slices.Insert(p.level, k, level)
	return k
}

// add takes count copies over [from, to); a negative count gives them back.
func (p *profile) add(from, to, count int) {
	if from >= to {
		return
	}
	a := p.cut(from)
	b := p.cut(to)
	for k := a; k < b; k++ {
		p.level[k] += count
	}
	p.join(b)
	p.join(a)
}

// join drops a border at which nothing changes.
func (p *profile) join(k int) {
	before := 0
	if k > 0 {
		before = p.level[k-1]
	}
	if p.level[k] == before {
		p.at = slices.Delete(p.at, k, k+1)
		p.level = slices.Delete(p.level, k, k+1)
	}
}

// over is the last stretch in [from, to) with more than room copies taken, or
// the first one.
func (p *profile) over(from, to, room int, first bool) (a, b int, ok bool) {
	k, found := slices.BinarySearch(p.at, from)
	if !found {
		k--
	}
	for ; k < len(p.at); k++ {
		if k < 0 {
			continue
		}
		if p.at[k] >= to {
			break
		}
		if p.level[k] <= room {
			if ok && first {
				break
			}
			continue
		}
		end := far
		if k+1 < len(p.at) {
			end = p.at[k+1]
		}
		if ok && b == p.at[k] {
			b = end
			continue
		}
		a, b, ok = p.at[k], end, true
	}
	return a, b, ok
}

func (p *profile) peak() int {
	most := 0
	for _, l := range p.level {
		most = max(most, l)
	}
	return most
}
