package bench

// choose picks what is taken out, and how it is put back.
func (s *search) choose(p *sheet, goal int) {
	q := s.q
	s.part = s.part[:0]
	s.op = 0
	q.back = s.rnd.in(7, 10)
	q.over = s.rnd.in(1, 4)
	q.aware = s.rnd.in(1, 3)
	q.taste, q.salt = max(0, s.rnd.n(8)-5), s.rnd.n(1<<20)
	if len(s.all) <= 60 && s.rnd.in(1, 8) {
		q.taste = whoever
	}
	q.easy = goal != offHours && goal != spareShort && goal != late && !s.rnd.in(1, 4) || s.rnd.in(1, 6)
	for w := range q.open {
		q.open[w] = p.score.windows[w].used
	}
	shut := -1
	if s.anyHour() && s.rnd.in(5, 10) {
		s.early(p)
	} else if goal >= 0 && s.rnd.in(2, 10) {
		shut = s.pointed(p, goal)
	} else {
		shut = s.anything(p)
	}
	s.openMore(goal)
	if shut >= 0 {
		q.open[shut] = false
	}
	s.glue()
	s.order(p)
	s.spares(p)
	for _, i := range s.part {
		s.mark[i] = false
	}
}

// openMore opens a few windows that are not used yet.
func (s *search) openMore(goal int) {
	chance := 8
	if goal >= 0 || s.anyHour() {
		chance = 2
	}
	if !s.rnd.in(1, chance) {
		return
	}
	for range 1 + s.rnd.n(3) {
		w := s.rnd.n(len(s.q.open))
		if s.t.windows[w].preferred || s.rnd.in(1, 4) || goal == late || goal == bufferShort || s.anyHour() {
			s.q.open[w] = true
		}
	}
}

func (s *search) add(i int) {
	if !s.mark[i] && s.t.free(i) {
		s.mark[i] = true
		s.part = append(s.part, i)
	}
}

func (s *search) addWindow(p *sheet, w int) {
	for h := range s.t.windows[w].people {
		for _, e := range p.lines[w*maxPeople+h] {
			s.add(e.step)
		}
	}
}

func (s *search) addBatch(b int) {
	for _, i := range s.batchOf[b] {
		s.add(i)
	}
}

// usedWindow is a window in which planned work stands, -1 when there is none.
func (s *search) usedWindow(p *sheet) int {
	return s.oneOf(func(w int) bool { return p.score.windows[w].used })
}

// anything picks a part without regard to what is missed; the window that is to
// be shut, -1 for none.
func (s *search) anything(p *sheet) (shut int) {
	shut = -1
	w := s.usedWindow(p)
	kind := s.rnd.n(10)
	for k := 0; k < 2 && s.tries[1+kind] > 10 && !s.rnd.in(1+8*s.works[1+kind], s.tries[1+kind]); k++ {
		kind = s.rnd.n(10)
	}
	s.op = 1 + kind
	if s.rnd.in(2, 10) && w >= 0 {
		s.op = 11
		s.few(p, w)
		return -1
	}
	if w < 0 {
		kind = 9
	}
	switch {
	case kind < 2: // without a window, the lightest gladly
		if o := s.usedWindow(p); p.score.windows[o].spent < p.score.windows[w].spent {
			w = o
		}
		s.addWindow(p, w)
		shut = w
	case kind < 4: // one or two windows in another order
		s.addWindow(p, w)
		if s.rnd.in(1, 2) {
			s.addWindow(p, s.usedWindow(p))
		}
	case kind < 6: // neighbours
		s.addWindow(p, w)
		for o, n := w+1, 0; o < len(s.t.windows) && n < 1; o++ {
			if p.score.windows[o].used {
				s.addWindow(p, o)
				n++
			}
		}
	case kind < 7: // one colour from everywhere
		c := s.t.steps[s.all[s.rnd.n(len(s.all))]].colour
		for _, i := range s.all {
			if s.t.steps[i].colour == c && c >= 0 && len(s.part) < 40 {
				s.add(i)
			}
		}
	default: // a few batches
		for range 1 + s.rnd.n(3) {
			s.addBatch(s.t.steps[s.all[s.rnd.n(len(s.all))]].batch)
		}
	}
	return shut
}

// few picks a step or two of one window, or one colour of it.
func (s *search) few(p *sheet, w int) {
	line := p.lines[w*maxPeople+s.rnd.n(s.t.windows[w].people)]
	if len(line) == 0 {
		return
	}
	c := line[s.rnd.n(len(line))].colour
	n := s.rnd.n(3)
	for k := range line {
		if n == 0 && line[k].colour == c {
			s.add(line[k].step)
		}
	}
	for range n {
		s.add(line[s.rnd.n(len(line))].step)
	}
	s.q.aware = true
}

// glue adds what is tied to the part by waits too short to part, and the waits beside.
func (s *search) glue() {
	for at := 0; at < len(s.part) && len(s.part) < 90; at++ {
		i := s.part[at]
		for _, j := range s.glueArcs[i] {
			if s.t.steps[i].attended || s.t.steps[j].attended {
				s.add(j)
			}
		}
	}
}

// order gives the steps of a part their keys: as they stood, by the day and the
// darkness, or in any order, always a little shuffled.
func (s *search) order(p *sheet) {
	q := s.q
	kind := s.rnd.n(4)
	noise := []int{1, 30, 200, 1500}[s.rnd.n(4)]
	var shade [64]int
	for c := range shade {
		shade[c] = s.rnd.n(3000)
	}
	for _, i := range s.part {
		k := p.start[i]
		switch kind {
		case 1:
			k = s.due[i]
		case 2:
			if c := s.t.steps[i].colour; c >= 0 {
				k = k/aDay*aDay + shade[c%64]
			}
		case 3:
			if c := s.t.steps[i].colour; c >= 0 {
				k = k/aDay*aDay - int(s.t.colours[c].Lightness)*14
			}
		}
		k += s.rnd.n(noise)
		if !q.back {
			k = -k
		}
		q.key[i] = k
	}
}

// spares asks for all the spare, for what a batch had, or for none.
func (s *search) spares(p *sheet) {
	kind := s.rnd.n(4)
	for b := range s.t.batches {
		x := &s.t.batches[b]
		g := 0
		if s.anyHour() {
			kind = 3
		}
		if x.counted && x.want > 0 {
			switch {
			case kind < 2:
				g = x.want
			case kind == 2:
				g = max(0, min(x.want, p.score.batches[b].spare))
			}
		}
		s.q.goal[b] = g
	}
}
