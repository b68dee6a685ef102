package bench

import (
	"slices"
)

// second is a complete plan that begins no step earlier, ends by the hand-overs
// and opens no further off hours: its starts are the latest, and hold together.
func (s *search) second() (starts []int, whole bool) {
	t := s.t
	p := s.best.clone()
	v := p.value()
	q := newPass(t, never)
	q.p, q.back = p, true
	for w := range q.open {
		q.open[w] = t.windows[w].preferred || p.score.windows[w].used
	}
	ends := s.reached(t.ends(0))
	q.least, q.most = s.best.start, make([]int, len(t.steps))
	for i := range t.steps {
		q.most[i] = min(t.steps[i].notAfter, ends[t.steps[i].commission]) - t.steps[i].length
	}
	byStart := slices.Clone(s.all)
	slices.SortStableFunc(byStart, func(a, b int) int { return s.best.start[b] - s.best.start[a] })
	q.patience, q.key = partPatience, s.best.start
	for range 2 {
		for _, part := range s.tiedTogether(byStart) {
			s.shiftTogether(q, part, &v)
		}
		for _, i := range byStart {
			was := p.where(i)
			if !q.shift(i) {
				continue
			}
			if w := p.value(); w[offHours] > v[offHours] || w[late] > v[late] || w[broken] > v[broken] {
				p.lift(i)
				p.back(was)
				p.value()
			}
		}
	}
	return p.start, true
}

// tiedTogether are steps that waits too short to part tie to one another, those that
// stand last first. What is tied to nothing is no such part.
func (s *search) tiedTogether(byStart []int) (parts [][]int) {
	seen := make([]bool, len(s.t.steps))
	for _, first := range byStart {
		if seen[first] {
			continue
		}
		seen[first] = true
		part := []int{first}
		for at := 0; at < len(part); at++ {
			for _, j := range s.glueArcs[part[at]] {
				if !seen[j] && s.t.free(j) {
					seen[j] = true
					part = append(part, j)
				}
			}
		}
		if len(part) > 1 {
			parts = append(parts, part)
		}
	}
	return parts
}

// shiftTogether moves a part as late as it goes, all others kept: none of it alone could
// leave the others behind.
func (s *search) shiftTogether(q *pass, part []int, v *vector) {
	p := q.p
	saved := make([]place, len(part))
	for k, i := range part {
		saved[k] = p.where(i)
		if w := p.window[i]; w >= 0 {
			q.soil(w, p.hands[i])
		}
		p.lift(i)
	}
	ok := q.run(part)
	if ok {
		w := p.value()
		ok = w[offHours] <= v[offHours] && w[late] <= v[late] && w[broken] <= v[broken]
		for k, i := range part {
			ok = ok && p.start[i] >= saved[k].start
		}
	}
	for _, l := range q.dirty {
		q.isDirty[l] = false
	}
	q.dirty = q.dirty[:0]
	if ok {
		return
	}
	for _, i := range part {
		if p.placed(i) {
			p.lift(i)
		}
	}
	for _, x := range saved {
		p.back(x)
	}
	p.value()
}
