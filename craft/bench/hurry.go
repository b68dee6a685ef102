package bench

import "slices"

// hurry moves each step left within its window, its waits with it, while no aim
// gets worse: an evening has its slack at its end.
func (s *search) hurry() {
	t, q := s.t, s.q
	p := s.best.clone()
	v := p.value()
	q.p, q.back, q.easy, q.aware, q.over, q.patience, q.home = p, false, false, false, false, partPatience, nil
	s.least, _ = t.earliest(t.allOpen())
	q.least, q.most = s.least, slices.Repeat([]int{far / 2}, len(t.steps))
	for i := range t.steps {
		if st := &t.steps[i]; st.notAfter < far {
			q.most[i] = st.notAfter - st.length
		}
	}
	clear(q.goal)
	if t.noHaste {
		s.hasten(p, &v)
	}
	clear(q.open)
	byStart := slices.Clone(s.all)
	slices.SortStableFunc(byStart, func(a, b int) int { return p.start[a] - p.start[b] })
	for _, i := range byStart {
		w := p.window[i]
		if w < 0 || q.stop() {
			continue
		}
		s.part = append(s.part[:0], i)
		q.key[i] = 0
		for _, k := range t.next[i] {
			if j := t.arcs[k].to; t.free(j) && !t.steps[j].attended {
				s.part = append(s.part, j)
				q.key[j] = 0
			}
		}
		was := p.start[i]
		q.open[w] = true
		s.takeOut(p)
		ok := q.run(s.part) && p.start[i] < was && s.noWorse(p, &v)
		q.open[w] = false
		if !ok {
			s.putBack(p)
			p.value()
		}
	}
	s.best, s.value = p, p.value()
}

// noWorse says that no aim of the order is worse than before, and keeps what is better.
func (s *search) noWorse(p *sheet, v *vector) bool {
	w := p.value()
	for _, a := range s.rank.aims {
		if w[a] > v[a] {
			return false
		}
	}
	*v = w
	return true
}

// hasten brings what is overdue as far forward as it goes, where it could not stand
// before everything else.
func (s *search) hasten(p *sheet, v *vector) {
	copy(s.q.open, s.t.allOpen())
	for k, gone := range s.t.lost {
		i := s.t.arcs[k].to
		if !gone || !s.t.free(i) {
			continue
		}
		s.part = append(s.part[:0], i)
		was := p.start[i]
		s.takeOut(p)
		if ok := s.q.run(s.part) && p.start[i] < was; ok {
			if w := p.value(); w[late] <= v[late] && w[broken] <= v[broken] {
				*v = w
				continue
			}
		}
		s.putBack(p)
		p.value()
	}
}
