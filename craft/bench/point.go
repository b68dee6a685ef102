package bench

// pointed picks what the missed aim points at; the window that is to be shut, -1 for none.
func (s *search) pointed(p *sheet, goal int) (shut int) {
	shut = -1
	switch goal {
	case offHours:
		shut = s.unwelcome(p)
	case spareShort:
		s.spareless(p)
	case crowd:
		s.full(p)
	default:
		s.tooLate(p)
	}
	if len(s.part) == 0 {
		return s.anything(p)
	}
	return shut
}

// oneOf is a window of those that are meant, by chance; -1 when none is.
func (s *search) oneOf(meant func(w int) bool) int {
	n, pick := 0, -1
	for w := range s.t.windows {
		if meant(w) {
			if n++; s.rnd.in(1, n) {
				pick = w
			}
		}
	}
	return pick
}

// unwelcome picks a window with unwelcome minutes and welcome ones beside it.
func (s *search) unwelcome(p *sheet) (shut int) {
	t := s.t
	shut = -1
	pick := s.oneOf(func(w int) bool { return p.score.windows[w].off > 0 })
	if pick < 0 {
		return shut
	}
	s.addWindow(p, pick)
	if !t.windows[pick].preferred && s.rnd.in(1, 2) {
		shut = pick
	}
	s.q.over = false
	for w := max(0, pick-1); w < min(len(t.windows), pick+2); w++ {
		if t.windows[w].preferred {
			s.q.open[w] = true
			if s.rnd.in(1, 2) {
				s.addWindow(p, w)
			}
		}
	}
	return shut
}

// spareless picks a batch without its spare, and what it keeps waiting or stands before it.
func (s *search) spareless(p *sheet) {
	t := s.t
	b := s.short(p)
	s.addBatch(b)
	for _, g := range t.batches[b].gates {
		if s.rnd.in(1, 2) {
			s.addBatch(t.steps[g].batch)
		}
	}
	w := p.window[s.batchOf[b][0]]
	for o := max(0, w-2); o <= w; o++ {
		s.q.open[o] = s.q.open[o] || t.windows[o].preferred
		if s.rnd.in(1, 2) {
			s.addWindow(p, o)
		}
	}
}

// full picks a crowded window, and what is near.
func (s *search) full(p *sheet) {
	t := s.t
	s.q.easy = true
	pick := s.oneOf(func(w int) bool { return p.score.windows[w].crowd > 0 })
	if pick < 0 {
		return
	}
	s.addWindow(p, pick)
	for w := max(0, pick-2); w < min(len(t.windows), pick+3); w++ {
		s.q.open[w] = s.q.open[w] || t.windows[w].preferred && s.rnd.in(1, 2)
		if w != pick && s.rnd.in(1, 4) {
			s.addWindow(p, w)
		}
	}
}

// early picks what begins first, and what stands later in its way.
func (s *search) early(p *sheet) {
	first := p.first()
	by := []int{1, aDay / 4, aDay}[s.rnd.n(3)]
	if len(s.all) <= 60 && s.rnd.in(1, 4) {
		by = far
	}
	for b := range s.t.batches {
		if p.score.batches[b].first < first+by && (len(s.part) < 30 || by == far) {
			s.addBatch(b)
		}
	}
	for range s.rnd.n(3) {
		if w := s.usedWindow(p); w >= 0 && s.rnd.in(1, 2) {
			s.addWindow(p, w)
		} else {
			s.addBatch(s.t.steps[s.all[s.rnd.n(len(s.all))]].batch)
		}
	}
	s.q.back, s.q.over, s.q.easy = true, true, false
	for w := range s.q.open {
		s.q.open[w] = true
	}
}

// short is a batch without its spare.
func (s *search) short(p *sheet) int {
	n, pick := 0, s.t.steps[s.all[0]].batch
	for b := range s.t.batches {
		if p.score.batches[b].short > 0 && len(s.batchOf[b]) > 0 {
			if n++; s.rnd.in(1, n) {
				pick = b
			}
		}
	}
	return pick
}

// tooLate picks steps that stand later than the hand-over allows, and what is near.
func (s *search) tooLate(p *sheet) {
	for w := range s.q.open {
		s.q.open[w] = true
	}
	s.q.over = true
	n, pick := 0, -1
	for _, i := range s.all {
		if p.start[i] > s.due[i] || pick < 0 {
			if n++; s.rnd.in(1, n) {
				pick = i
			}
		}
	}
	s.addBatch(s.t.steps[pick].batch)
	if w := p.window[pick]; w >= 0 {
		s.addWindow(p, w)
		if w > 0 && s.rnd.in(1, 2) {
			s.addWindow(p, w-1)
		}
	}
}
