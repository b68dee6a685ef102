package bench

import (
	"math/bits"
	"slices"
)

// entry is a step on one person's line within a window, with the clean-down
// directly before it.
type entry struct {
	step, start, end  int
	colour, attention int
	clean             int
	fact              bool
}

// sheet is a plan in the making: where steps stand, and what they take.
type sheet struct {
	t      *task
	start  []int // noTime: not placed
	window []int // of attended planned steps, -1 otherwise
	hands  []uint8
	lines  [][]entry // by window*maxPeople + person-1, by start and rank
	load   []int     // planned minutes with clean-downs, by line
	taken  []profile // by resource
	holdAt [][2]int  // the stretch that each hold claims now; empty when none
	score  score
}

// newSheet holds the facts and nothing else.
func newSheet(t *task) *sheet {
	n := len(t.steps)
	p := &sheet{t: t, start: make([]int, n), window: make([]int, n), hands: make([]uint8, n), lines: make([][]entry, len(t.windows)*maxPeople),
		load: make([]int, len(t.windows)*maxPeople), taken: make([]profile, len(t.resources)), holdAt: make([][2]int, len(t.holds))}
	p.score = newScore(t)
	for i := range n {
		p.start[i], p.window[i] = noTime, -1
	}
	for i := range n {
		s := &t.steps[i]
		if s.planned() {
			continue
		}
		p.start[i], p.hands[i] = s.start, s.hands
		if s.attended {
			for w := range t.windows {
				if s.start < t.windows[w].to && s.end > t.windows[w].from {
					p.onLines(i, w, s.hands)
				}
			}
		}
		p.claim(i)
	}
	return p
}

func (p *sheet) clone() *sheet {
	c := *p
	c.start, c.window, c.hands = slices.Clone(p.start), slices.Clone(p.window), slices.Clone(p.hands)
	c.load, c.holdAt = slices.Clone(p.load), slices.Clone(p.holdAt)
	c.lines = make([][]entry, len(p.lines))
	for l := range p.lines {
		c.lines[l] = slices.Clone(p.lines[l])
	}
	c.taken = make([]profile, len(p.taken))
	for r := range p.taken {
		c.taken[r] = p.taken[r].clone()
	}
	c.score = p.score.clone()
	return &c
}

func (p *sheet) placed(i int) bool { return p.start[i] != noTime }

func (p *sheet) end(i int) int {
	if s := &p.t.steps[i]; !s.planned() {
		return s.end
	}
	return p.start[i] + p.t.steps[i].length
}

// put stands planned step i at s.
func (p *sheet) put(i, s, w int, hands uint8) {
	p.start[i], p.window[i], p.hands[i] = s, w, hands
	if w >= 0 {
		p.onLines(i, w, hands)
	}
	p.claim(i)
	p.score.touch(p.t, i, w)
}

// lift takes planned step i up again.
func (p *sheet) lift(i int) {
	w := p.window[i]
	if w >= 0 {
		p.offLines(i, w, p.hands[i])
	}
	s, e := p.start[i], p.end(i)
	for _, u := range p.t.steps[i].uses {
		p.taken[u.resource].add(s, e, -u.count)
	}
	p.start[i], p.window[i], p.hands[i] = noTime, -1, 0
	for _, k := range p.t.holdsOf[i] {
		p.drop(k)
		p.hold(k)
	}
	p.score.touch(p.t, i, w)
}

func (p *sheet) back(x place) { p.put(x.step, x.start, x.window, x.hands) }

func (p *sheet) where(i int) place { return place{i, p.start[i], p.window[i], p.hands[i]} }

func (p *sheet) claim(i int) {
	for _, u := range p.t.steps[i].uses {
		p.taken[u.resource].add(p.start[i], p.end(i), u.count)
	}
	for _, k := range p.t.holdsOf[i] {
		p.drop(k)
		p.hold(k)
	}
}

// hold claims what hold k takes, as far as its ends stand: with one of them,
// the least that it can be.
func (p *sheet) hold(k int) {
	h := &p.t.holds[k]
	var from, to int
	switch a, b := p.placed(h.from), p.placed(h.to); {
	case a && b:
		from, to = p.start[h.from], p.end(h.to)
	case a:
		from, to = p.start[h.from], p.start[h.from]+h.least
	case b:
		from, to = p.end(h.to)-h.least, p.end(h.to)
	default:
		return
	}
	p.holdAt[k] = [2]int{from, to}
	p.taken[h.resource].add(from, to, h.count)
}

func (p *sheet) drop(k int) {
	h := &p.t.holds[k]
	if x := p.holdAt[k]; x[0] < x[1] {
		p.taken[h.resource].add(x[0], x[1], -h.count)
		p.holdAt[k] = [2]int{}
	}
}

func (p *sheet) onLines(i, w int, hands uint8) {
	s := &p.t.steps[i]
	e := entry{step: i, start: p.start[i], end: p.end(i), colour: s.colour, attention: s.attention, fact: !s.planned()}
	for m := hands; m != 0; m &= m - 1 {
		l := w*maxPeople + bits.TrailingZeros8(m)
		line := p.lines[l]
		k := len(line)
		for k > 0 && (line[k-1].start > e.start || line[k-1].start == e.start && line[k-1].step > i) {
			k--
		}
		p.lines[l] = slices.Insert(line, k, e)
		if !e.fact {
			p.load[l] += s.length
		}
		if s.colour >= 0 {
			p.reclean(l, k)
			p.reclean(l, nextColoured(p.lines[l], k+1))
		}
	}
}

func (p *sheet) offLines(i, w int, hands uint8) {
	s := &p.t.steps[i]
	for m := hands; m != 0; m &= m - 1 {
		l := w*maxPeople + bits.TrailingZeros8(m)
		line := p.lines[l]
		k := 0
		for line[k].step != i {
			k++
		}
		p.load[l] -= s.length + line[k].clean
		p.lines[l] = slices.Delete(line, k, k+1)
		if s.colour >= 0 {
			p.reclean(l, nextColoured(p.lines[l], k))
		}
	}
}

func nextColoured(line []entry, k int) int {
	for ; k < len(line); k++ {
		if line[k].colour >= 0 {
			return k
		}
	}
	return -1
}

// reclean reckons the clean-down of an entry anew. A fact is not judged.
func (p *sheet) reclean(l, k int) {
	if k < 0 || p.lines[l][k].fact {
		return
	}
	line := p.lines[l]
	c := 0
	for b := k - 1; b >= 0; b-- {
		if line[b].colour >= 0 {
			c = p.t.wipe(line[b].colour, line[k].colour)
			break
		}
	}
	p.load[l] += c - line[k].clean
	line[k].clean = c
}

// clean reports whether each clean-down of a line has its time.
func (p *sheet) clean(l int) bool {
	line := p.lines[l]
	opens := p.t.windows[l/maxPeople].from
	for k := range line {
		c := line[k].clean
		if c == 0 {
			continue
		}
		if line[k].start-c < opens {
			return false
		}
		for _, y := range line[:k] {
			if y.start < line[k].start && y.end > line[k].start-c {
				return false
			}
		}
	}
	return true
}
