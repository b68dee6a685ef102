package bench

import (
	"slices"
)

// dice are the chances of the search: the same seed, the same throws.
type dice uint64

func (d *dice) n(n int) int {
	*d += 0x9e3779b97f4a7c15
	z := uint64(*d)
	z = (z ^ z>>30) * 0xbf58476d1ce4e5b9
	z = (z ^ z>>27) * 0x94d049bb133111eb
	return int((z ^ z>>31) >> 11 % uint64(n))
}

func (d *dice) in(a, b int) bool { return d.n(b) < a }

func (d *dice) share() float64 { return float64(d.n(1<<30)) / (1 << 30) }

// search looks for the best plan of one task.
type search struct {
	t     *task
	base  *sheet // what stands before the search begins
	rank  ranking
	q     *pass
	rnd   dice
	all   []int // steps to place
	best  *sheet
	value vector
	gone  func() bool // nobody waits for it any more

	least, most []int // with all windows open, for the ends now aimed at
	due         []int // latest starts for the hand-overs
	glueArcs    [][]int
	batchOf     [][]int
	saved       []place
	part        []int
	mark        []bool
	op          int // how the part was chosen, and how often that came through
	tries       [12]int
	works       [12]int
}

func newSearch(t *task, base *sheet, order []string, seed int, stop, gone func() bool) *search {
	s := &search{t: t, base: base, rank: rankingOf(order), q: newPass(t, stop), rnd: dice(seed) * 0x2545f4914f6cdd1d, gone: gone, mark: make([]bool, len(t.steps))}
	for i := range t.steps {
		if t.free(i) {
			s.all = append(s.all, i)
		}
	}
	s.batchOf = make([][]int, len(t.batches))
	for _, i := range s.all {
		s.batchOf[t.steps[i].batch] = append(s.batchOf[t.steps[i].batch], i)
	}
	s.glueArcs = make([][]int, len(t.steps))
	for i := range t.steps {
		for _, list := range [2][]int{t.prev[i], t.next[i]} {
			for _, k := range list {
				a := &t.arcs[k]
				j := a.from + a.to - i
				if t.free(j) && (a.max < 300 || !t.steps[j].attended) {
					s.glueArcs[i] = append(s.glueArcs[i], j)
				}
			}
		}
	}
	s.due = t.latest(t.ends(0), t.allOpen())
	return s
}

// offer takes a complete plan when it is better than the best so far.
func (s *search) offer(p *sheet) bool {
	v := p.value()
	if s.best != nil && v.compare(&s.value, &s.rank) >= 0 {
		return false
	}
	s.best, s.value = p.clone(), v
	return true
}

// way is how a whole pass is made.
type way struct {
	back, easy, aware, over bool
	goal                    int  // quarters of the spare wanted
	patient                 bool // it may go on for long: nothing else stands yet
}

const manyKeys = 6

// whole makes one pass over everything; least and most must be set.
func (s *search) whole(w way, open []bool, key []int) (*sheet, bool) {
	q := s.q
	p := s.base.clone()
	q.p, q.back, q.easy, q.aware, q.over = p, w.back, w.easy, w.aware, w.over
	q.patience, q.taste = wholePatience, cleanest
	if w.patient {
		q.patience = latePatience
	}
	q.least, q.most = s.least, s.most
	copy(q.open, open)
	copy(q.key, key)
	for b := range s.t.batches {
		q.goal[b] = 0
		if s.t.batches[b].counted {
			q.goal[b] = s.t.batches[b].want * w.goal / 4
		}
	}
	ok := q.run(s.all)
	return p, ok
}

// keys are the orders in which untied steps are put down.
func (s *search) keys(back bool) [][]int {
	t := s.t
	n := len(t.steps)
	out := make([][]int, manyKeys)
	for k := range out {
		out[k] = make([]int, n)
	}
	tail, head := make([]int, n), make([]int, n)
	for k := n - 1; k >= 0; k-- {
		i := t.topo[k]
		for _, a := range t.next[i] {
			tail[i] = max(tail[i], tail[t.arcs[a].to]+t.arcs[a].min)
		}
		tail[i] += t.steps[i].length
	}
	for _, i := range t.topo {
		for _, a := range t.prev[i] {
			head[i] = max(head[i], head[t.arcs[a].from]+t.arcs[a].min)
		}
		head[i] += t.steps[i].length
	}
	for i := range n {
		light := 50
		if c := t.steps[i].colour; c >= 0 {
			light = int(t.colours[c].Lightness)
		}
		m, l := max(min(s.due[i], far/4), -far/4), max(min(s.least[i], far/4), -far/4)
		over := t.commissions[t.steps[i].commission].handOver
		if back {
			out[0][i], out[1][i], out[2][i], out[3][i], out[4][i], out[5][i] = m, l, head[i], m+l, m/aDay*1000-light, over
		} else {
			out[0][i], out[1][i], out[2][i], out[3][i], out[4][i], out[5][i] = -m, -l, tail[i], -m-l, -(m/aDay*1000)+light, -over
		}
	}
	return out
}

// hours are the windows that a start may use, the welcome ones first.
type hours struct {
	open []bool
	over bool
}

func (s *search) manyHours() []hours {
	t := s.t
	out := []hours{{t.preferred(), false}}
	stretched := slices.ContainsFunc(t.windows, func(w window) bool { return w.from < w.start || w.to > w.end })
	if stretched {
		out = append(out, hours{t.preferred(), true})
	}
	if s.anyHour() {
		out = out[:0]
	}
	out = append(out, hours{t.allOpen(), false})
	if stretched {
		out = append(out, hours{t.allOpen(), true})
	}
	return out
}

// anyHour says that beginning late matters more than welcome hours.
func (s *search) anyHour() bool {
	k := slices.Index(s.rank.aims, span)
	o := slices.Index(s.rank.aims, offHours)
	return k >= 0 && (o < 0 || k < o)
}

// starts makes whole plans until one kind of hours works: with the margin kept,
// else with as much of it as goes, else late by as little as shows.
func (s *search) starts() {
	if s.keeping(1, false) || s.keeping(1, true) {
		return
	}
	if !s.keeping(0, false) && !s.keeping(0, true) {
		s.late()
		return
	}
	for _, kept := range []float64{0.25, 0.5, 0.75} {
		if s.q.stop() || !s.keeping(kept, false) {
			return
		}
	}
}

// keeping tries every kind of hours with a share of the margin kept.
func (s *search) keeping(share float64, insist bool) bool {
	ends := s.t.ends(share)
	if share == 1 && s.anyHour() {
		for c := range ends {
			ends[c] += min(coarse[bufferShort]-1, s.t.commissions[c].buffer)
		}
	}
	for _, h := range s.manyHours() {
		if s.backward(ends, h, share == 1, insist) {
			return true
		}
		if s.q.stop() {
			return false
		}
	}
	return false
}

// aim sets the bounds for ends by commission.
func (s *search) aim(ends []int, open []bool) bool {
	var stuck int
	s.least, stuck = s.t.earliest(open)
	if stuck >= 0 {
		return false
	}
	s.most = s.t.latest(ends, open)
	for _, i := range s.all {
		if s.least[i] > s.most[i] {
			return false
		}
	}
	return true
}

// backward tries the keys with the given ends and hours, then more comfortably
// with those that came through.
func (s *search) backward(ends []int, h hours, both, insist bool) bool {
	if !s.aim(ends, h.open) {
		return false
	}
	keys := s.keys(true)
	var works []int
	for k := range keys {
		if insist {
			break
		}
		if p, ok := s.whole(way{back: true, over: h.over}, h.open, keys[k]); ok {
			works = append(works, k)
			s.offer(p)
		} else if s.q.stop() && s.best != nil {
			return true
		}
	}
	for k := 0; k < 2 && len(works) == 0 && insist; k++ {
		if s.insist(keys[k], h) {
			works = append(works, k)
		}
	}
	for _, k := range works {
		for goal := 4; goal > 0; goal-- {
			any := false
			for _, w := range []way{{easy: true, aware: true}, {easy: true}, {aware: true}, {}} {
				w.back, w.over, w.goal = true, h.over, goal
				if p, ok := s.whole(w, h.open, keys[k]); ok {
					s.offer(p)
					any = true
				}
				if s.q.stop() {
					return true
				}
			}
			if any {
				break
			}
		}
	}
	if len(works) > 0 && both {
		s.forward(ends, h)
	}
	return len(works) > 0
}

// insist repeats a pass; the step that found no place gets its place earlier each time.
func (s *search) insist(key []int, h hours) bool {
	key = slices.Clone(key)
	spread := 1
	for _, i := range s.all {
		spread = max(spread, s.most[i]-s.least[i])
	}
	for from := s.q.puts; s.q.puts-from < 30*len(s.all); {
		p, ok := s.whole(way{back: true, over: h.over}, h.open, key)
		if ok {
			s.offer(p)
			return true
		}
		if s.q.failed < 0 || s.q.stop() {
			return false
		}
		for _, i := range s.batchOf[s.t.steps[s.q.failed].batch] {
			key[i] += spread/4 + 1
		}
	}
	return false
}

// forward makes plans from now on for given ends.
func (s *search) forward(ends []int, h hours) {
	if !s.aim(ends, h.open) {
		return
	}
	keys := s.keys(false)
	for _, k := range []int{0, 5, 4} {
		if s.q.stop() && s.best != nil {
			return
		}
		if p, ok := s.whole(way{over: h.over, goal: 4, aware: k == 4}, h.open, keys[k]); ok {
			s.offer(p)
		}
	}
}

// late makes plans that are late by as little as forward passes reach, then goes
// backward from the ends reached and halves the extension while that succeeds.
func (s *search) late() {
	t := s.t
	beyond := slices.Repeat([]int{far / 2}, len(t.commissions))
	stop := s.q.stop
	for k := range manyKeys {
		if s.best == nil {
			s.q.stop = s.gone // a late plan beats none: the first is made whatever the time
		} else {
			s.q.stop = stop
		}
		if s.q.stop() {
			break
		}
		if !s.aim(beyond, t.allOpen()) {
			break
		}
		if p, ok := s.whole(way{patient: true}, t.allOpen(), s.keys(false)[k]); ok {
			s.offer(p)
		}
	}
	s.q.stop = stop
	if s.best == nil {
		s.lateBackward()
	}
	if s.best == nil {
		return
	}
	due := t.ends(0)
	reach := s.reached(due)
	for share, step := 0.5, 0.25; step > 1.0/128 && !s.q.stop(); step /= 2 {
		ends := slices.Clone(due)
		for c := range ends {
			ends[c] += int(share * float64(reach[c]-due[c]))
		}
		if s.tryEnds(ends) {
			share -= step
		} else {
			share += step
		}
	}
}

// lateBackward helps where forward passes stick: backward from far beyond the hand-overs.
func (s *search) lateBackward() {
	t := s.t
	last := 0
	for w := range t.windows {
		last = max(last, t.windows[w].end)
	}
	s.tryEnds(slices.Repeat([]int{last + aDay}, len(t.commissions)))
}

func (s *search) tryEnds(ends []int) bool {
	if !s.aim(ends, s.t.allOpen()) {
		return false
	}
	any := false
	for _, key := range s.keys(true) {
		if p, ok := s.whole(way{back: true, over: true}, s.t.allOpen(), key); ok {
			s.offer(p)
			any = true
		}
	}
	return any
}

// reached is the ends of the best plan, no earlier than the given ones.
func (s *search) reached(least []int) []int {
	out := slices.Clone(least)
	for c := range out {
		for _, i := range s.t.last[c] {
			out[c] = max(out[c], s.best.end(i))
		}
	}
	return out
}
