package bench

import "slices"

// score keeps the aims of a sheet up to date: what was touched is reckoned anew,
// the rest stands.
type score struct {
	windows     []windowScore
	batches     []batchScore
	ends        []int // by commission
	dayMinutes  []int
	dirtyWindow []bool
	dirtyBatch  []bool
	dirtyEnd    []bool
	touchedW    []int
	touchedB    []int
	sum         vector // late, broken, bufferShort and span are not kept here
	stale       float64
}

type windowScore struct {
	off, crowd, clean, spent int
	used                     bool
}

type batchScore struct {
	short, spare int
	first        int // least planned start, far when nothing is planned
	stale        float64
}

func newScore(t *task) score {
	s := score{windows: make([]windowScore, len(t.windows)), batches: make([]batchScore, len(t.batches)), ends: make([]int, len(t.commissions)), dayMinutes: make([]int, t.days),
		dirtyWindow: make([]bool, len(t.windows)), dirtyBatch: make([]bool, len(t.batches)), dirtyEnd: make([]bool, len(t.commissions))}
	for b := range t.batches {
		s.batches[b].first = far
		s.touchBatch(b)
	}
	for c := range t.commissions {
		s.dirtyEnd[c] = true
	}
	return s
}

func (s *score) clone() score {
	c := *s
	c.windows, c.batches, c.ends, c.dayMinutes = slices.Clone(s.windows), slices.Clone(s.batches), slices.Clone(s.ends), slices.Clone(s.dayMinutes)
	c.dirtyWindow, c.dirtyBatch, c.dirtyEnd = slices.Clone(s.dirtyWindow), slices.Clone(s.dirtyBatch), slices.Clone(s.dirtyEnd)
	c.touchedW, c.touchedB = slices.Clone(s.touchedW), slices.Clone(s.touchedB)
	return c
}

func (s *score) touchBatch(b int) {
	if !s.dirtyBatch[b] {
		s.dirtyBatch[b] = true
		s.touchedB = append(s.touchedB, b)
	}
}

func (s *score) touch(t *task, i, w int) {
	if w >= 0 && !s.dirtyWindow[w] {
		s.dirtyWindow[w] = true
		s.touchedW = append(s.touchedW, w)
	}
	s.touchBatch(t.steps[i].batch)
	for _, b := range t.gateOf[i] {
		s.touchBatch(b)
	}
	s.dirtyEnd[t.steps[i].commission] = true
}

// value judges a complete plan.
func (p *sheet) value() vector {
	t, s := p.t, &p.score
	for _, w := range s.touchedW {
		s.dirtyWindow[w] = false
		p.scoreWindow(w)
	}
	s.touchedW = s.touchedW[:0]
	for _, b := range s.touchedB {
		s.dirtyBatch[b] = false
		p.scoreBatch(b)
	}
	s.touchedB = s.touchedB[:0]
	v := s.sum
	v[stale] = int(s.stale + 1e-6)
	begin, lastHand := far, -far
	for b := range s.batches {
		begin = min(begin, s.batches[b].first)
	}
	for c := range t.commissions {
		x := &t.commissions[c]
		lastHand = max(lastHand, x.handOver)
		if s.dirtyEnd[c] {
			s.dirtyEnd[c] = false
			s.ends[c] = -far
			for _, i := range t.last[c] {
				s.ends[c] = max(s.ends[c], p.end(i))
			}
		}
		if e := s.ends[c]; e > -far {
			v[late] += max(0, e-x.handOver)
			v[bufferShort] += min(x.buffer, max(0, e-x.handOver+x.buffer))
		}
	}
	v[broken] = p.broken()
	if t.old != nil {
		v[moved] = p.movedSteps()
	}
	if begin < far {
		v[span] = lastHand - begin
	}
	return v
}

// broken counts what was given up and is in fact exceeded.
func (p *sheet) broken() int {
	t := p.t
	n := 0
	for k, gone := range t.lost {
		if gone && p.exceeded(k) {
			n++
		}
	}
	for b := range t.batches {
		if p.staleNow(b) {
			n++
		}
	}
	return n
}

func (p *sheet) exceeded(k int) bool {
	a := &p.t.arcs[k]
	return p.start[a.to]-p.end(a.from) > *p.t.in.Lags[a.index].Max
}

func (p *sheet) staleNow(b int) bool {
	x := &p.t.batches[b]
	return x.lostFrom != noTime && p.score.batches[b].first < x.lostFrom
}

func (p *sheet) scoreWindow(w int) {
	t, s := p.t, &p.score
	win := &t.windows[w]
	old := s.windows[w]
	var x windowScore
	for h := range win.people {
		line := p.lines[w*maxPeople+h]
		if len(line) == 0 {
			continue
		}
		mine, taken, till := 0, 0, -far
		for k := range line {
			e := &line[k]
			from, to := e.start-e.clean, e.end
			if e.fact {
				from, to = max(from, win.start), min(to, win.end)
			} else {
				x.used = true
				x.clean += e.clean
				mine += to - from
				if out := to - from - max(0, min(to, win.end)-max(from, win.start)); !win.preferred {
					x.off += to - from
				} else {
					x.off += out
				}
			}
			if from = max(from, till); to > from {
				taken, till = taken+to-from, to
			}
		}
		x.spent += mine
		x.crowd += max(0, min(mine, taken-win.limit))
	}
	s.windows[w] = x
	s.sum[offHours] += x.off - old.off
	s.sum[crowd] += x.crowd - old.crowd
	s.sum[cleanDown] += x.clean - old.clean
	if x.used != old.used {
		if x.used {
			s.sum[sessions]++
		} else {
			s.sum[sessions]--
		}
	}
	day := &s.dayMinutes[win.dayNumber]
	s.sum[uneven] -= *day * *day
	*day += x.spent - old.spent
	s.sum[uneven] += *day * *day
}

func (p *sheet) scoreBatch(b int) {
	t, s := p.t, &p.score
	x, old := &t.batches[b], s.batches[b]
	c := batchScore{first: far}
	for _, i := range x.steps {
		if t.steps[i].planned() && p.placed(i) {
			c.first = min(c.first, p.start[i])
		}
	}
	if c.first < far && x.weight > 0 {
		c.stale = x.weight * float64(max(0, t.commissions[x.commission].handOver-c.first))
	}
	if x.want > 0 && x.counted {
		c.spare = p.spare(b)
		c.short = max(0, x.want-c.spare)
	}
	s.sum[spareShort] += c.short - old.short
	s.stale += c.stale - old.stale
	s.batches[b] = c
}

// spare is the time between the end of a batch's last drying and what waits for it.
func (p *sheet) spare(b int) int {
	t := p.t
	x := &t.batches[b]
	gate := t.commissions[x.commission].handOver
	for k, g := range x.gates {
		if !p.placed(g) {
			continue
		}
		if k == 0 || p.start[g] < gate {
			gate = p.start[g]
		}
	}
	end := -far
	for _, d := range x.dries {
		if p.placed(d) {
			end = max(end, p.end(d))
		}
	}
	if end == -far {
		return 0
	}
	return gate - end
}
