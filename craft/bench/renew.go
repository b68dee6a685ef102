package bench

import (
	"math"
	"slices"
)

// What the search is tuned by: how much worse a plan may be on the way (in the
// weights of a ranking) while an aim that matters is missed and afterwards, after
// how many idle rounds it goes back to the best, how patient a part is put back.
const (
	hot, cool, hotSpan = 50.0, 6.0, 3.0
	idleRounds         = 200
	partPatience       = 1
	wholePatience      = 8
	latePatience       = 40 // forward, where one evening after another is full
)

// renew takes parts out of the best plan and puts them back another way, until
// the effort is spent. The best is chosen by the order of aims alone; on the way
// a plan may be a little worse, less and less so.
func (s *search) renew(effort int) {
	if s.best == nil || len(s.all) == 0 {
		return
	}
	q := s.q
	s.retarget()
	q.patience = partPatience
	cur := s.best.clone()
	v := s.value
	q.p = cur
	number := s.number(cur, &v)
	from, idle := q.puts, 0
	for rounds := 0; q.puts-from < effort; rounds++ {
		if rounds%16 == 0 && q.stop() {
			break
		}
		if rounds > 20*effort {
			break
		}
		goal := s.missed(&v)
		s.choose(cur, goal)
		q.puts++
		s.takeOut(cur)
		ok := q.run(s.part)
		s.tries[s.op]++
		if ok {
			s.works[s.op]++
			w := cur.value()
			heat := cool
			if goal >= 0 {
				heat = hot
			}
			if s.anyHour() {
				heat = hotSpan
			}
			heat *= 1 - float64(q.puts-from)/float64(effort)
			if w.compare(&v, &s.rank) <= 0 || s.number(cur, &w)-number < -heat*math.Log(1-s.rnd.share()) {
				v, number = w, s.number(cur, &w)
				if w.compare(&s.value, &s.rank) < 0 {
					s.best, s.value = cur.clone(), w
					idle = 0
					if goal == late || goal == bufferShort {
						s.retarget()
					}
				}
				continue
			}
		}
		s.putBack(cur)
		if idle++; idle > idleRounds {
			idle = 0
			cur = s.best.clone()
			q.p, v, number = cur, s.value, s.number(cur, &s.value)
		}
	}
}

// retarget aims the bounds at the ends that the best plan has, or the margin.
func (s *search) retarget() {
	ends := s.t.ends(1)
	if s.anyHour() {
		for c := range ends {
			ends[c] += min(coarse[bufferShort]-1, s.t.commissions[c].buffer)
		}
	}
	s.aim(s.reached(ends), s.t.allOpen())
	s.q.least, s.q.most = s.least, s.most
}

// missed is the first aim of those that matter most which is not reached, -1 when all are.
func (s *search) missed(v *vector) int {
	for _, a := range s.rank.aims {
		switch a {
		case late, bufferShort, offHours, spareShort, crowd:
			if v[a] >= coarse[a] {
				return a
			}
		}
	}
	return -1
}

func (s *search) takeOut(p *sheet) {
	s.saved = s.saved[:0]
	for _, i := range s.part {
		s.saved = append(s.saved, p.where(i))
		if w := p.window[i]; w >= 0 {
			s.q.soil(w, p.hands[i])
		}
		p.lift(i)
	}
}

func (s *search) putBack(p *sheet) {
	for _, l := range s.q.dirty {
		s.q.isDirty[l] = false
	}
	s.q.dirty = s.q.dirty[:0]
	for _, i := range s.part {
		if p.placed(i) {
			p.lift(i)
		}
	}
	for _, x := range s.saved {
		p.back(x)
	}
}

// number weighs a plan as one. Where beginning late matters most, what begins
// within a day of the first start counts as well: all of it must move together.
func (s *search) number(p *sheet, v *vector) float64 {
	sum := v.number(&s.rank)
	if s.anyHour() {
		first := p.first() + aDay
		for b := range p.score.batches {
			sum += 0.005 * float64(max(0, first-p.score.batches[b].first))
		}
	}
	return sum
}

// beginLater makes whole passes in which the batches that begin first get their
// places first.
func (s *search) beginLater(effort int) {
	open := s.t.allOpen()
	s.retarget()
	key := slices.Clone(s.keys(true)[0])
	spread := 1
	for _, i := range s.all {
		spread = max(spread, s.most[i]-s.least[i])
	}
	begun := slices.Clone(key)
	for from := s.q.puts; s.q.puts-from < effort && !s.q.stop(); {
		p, ok := s.whole(way{back: true, over: true}, open, key)
		if !ok {
			if s.q.failed < 0 {
				return
			}
			for _, i := range s.batchOf[s.t.steps[s.q.failed].batch] {
				key[i] += spread / 8
			}
			continue
		}
		if s.offer(p) {
			copy(begun, key)
		} else {
			copy(key, begun)
		}
		first := p.first()
		for b := range s.t.batches {
			if p.score.batches[b].first < first+s.rnd.n(spread/6+1) {
				by := s.rnd.n(spread/4 + 1)
				for _, i := range s.batchOf[b] {
					key[i] += by
				}
			}
		}
	}
}
