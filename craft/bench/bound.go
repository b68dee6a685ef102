package bench

import (
	"cmp"
	"slices"
)

// Bound is numbers that no plan of the instance can beat, each by itself, with the
// waits given up that the plan gives up. Spare, stale and span are of plans that are
// not late; span also of plans that keep the margin (less one step of it).
type Bound struct {
	Late        int    `json:"late"`
	BufferShort int    `json:"bufferShort"`
	SpareShort  int    `json:"spareShort"`
	Sessions    int    `json:"sessions"`
	Stale       int    `json:"stale"`
	Span        int    `json:"span"`
	SpanBy      string `json:"spanBy"`
}

// bounds proves what no plan can beat.
func (s *search) bounds(out *Plan, r request, v *vector) {
	t := s.t
	b := Bound{Sessions: max(t.fewestSessions(), t.chainSessions())}
	open := t.allOpen()
	least, _ := t.earliest(open)
	if len(t.commissions) == 1 {
		b.Late = t.leastExtension(least, t.ends(0))
		b.BufferShort = min(t.commissions[0].buffer, t.leastExtension(least, t.ends(1)))
	}
	most := t.latest(t.ends(0), open)
	for k := range t.batches {
		x := &t.batches[k]
		first := far
		for _, i := range x.steps {
			if t.steps[i].planned() {
				first = min(first, most[i])
			}
		}
		if over := t.commissions[x.commission].handOver; first < far && x.weight > 0 && b.Late == 0 {
			b.Stale += int(x.weight * float64(max(0, over-first)))
		}
		if x.want > 0 && x.counted && b.Late == 0 {
			b.SpareShort += max(0, x.want-t.mostSpare(k, least, most))
		}
	}
	if v[late] == 0 && v[bufferShort] < coarse[bufferShort] && len(s.all) > 0 {
		ends := t.ends(1)
		lastHand := -far
		for c := range ends {
			ends[c] = min(ends[c]+coarse[bufferShort]-1, t.commissions[c].handOver)
			lastHand = max(lastHand, t.commissions[c].handOver)
		}
		b.Span, b.SpanBy = s.spanBound(ends, lastHand)
		if slices.Contains(s.rank.aims, span) && b.Span > 0 {
			out.Gap = float64(v[span]-b.Span) / float64(b.Span)
		}
	}
	out.Bound = &b
}

// mostSpare is the spare of a batch by windows and waits alone.
func (t *task) mostSpare(k int, least, most []int) int {
	x := &t.batches[k]
	gate := t.commissions[x.commission].handOver
	for n, g := range x.gates {
		if n == 0 {
			gate = most[g]
		}
		gate = min(gate, most[g])
	}
	end := -far
	for _, d := range x.dries {
		end = max(end, t.endAt(d, least[d]))
	}
	return gate - end
}

// fewestSessions counts the largest windows that hold the work of hands.
func (t *task) fewestSessions() int {
	work := 0
	for i := range t.steps {
		if s := &t.steps[i]; s.planned() && s.attended {
			work += s.length * s.people * s.attention
		}
	}
	var rooms []int
	for _, w := range t.windows {
		rooms = append(rooms, (w.to-w.from)*w.people*100)
	}
	slices.SortFunc(rooms, func(a, b int) int { return b - a })
	n := 0
	for work > 0 && n < len(rooms) {
		work -= rooms[n]
		n++
	}
	return n
}

// chainSessions counts along chains whose waits outlast every window.
func (t *task) chainSessions() int {
	longest := 0
	for _, w := range t.windows {
		longest = max(longest, w.to-w.from)
	}
	n := len(t.steps)
	count, gap := make([]int, n), make([]int, n)
	most := 0
	for at, i := range t.topo {
		if !t.steps[i].planned() || !t.steps[i].attended {
			continue
		}
		count[i] = max(count[i], 1)
		most = max(most, count[i])
		for k := range gap {
			gap[k] = -1
		}
		gap[i] = -t.steps[i].length
		for _, j := range t.topo[at:] {
			if gap[j] < 0 && j != i {
				continue
			}
			for _, k := range t.next[j] {
				a := &t.arcs[k]
				gap[a.to] = max(gap[a.to], gap[j]+t.steps[j].length+a.min)
			}
			if s := &t.steps[j]; j != i && s.attended {
				c := count[i]
				if gap[j] > longest-t.steps[i].length-s.length {
					c++
				}
				count[j] = max(count[j], c)
			}
		}
	}
	return most
}

// turnsShort refutes by rounds: with room for k holds at a time, n of them that are
// due by an instant need n/k turns one after another, each begun while a window is open.
func (t *task) turnsShort(r int, least, most []int) bool {
	type due struct{ by, release int }
	var list []due
	smallest, length := far, far
	for k := range t.holds {
		h := &t.holds[k]
		if h.resource != r || !t.steps[h.from].planned() || !t.steps[h.to].planned() || !t.steps[h.from].attended {
			continue
		}
		smallest, length = min(smallest, h.count), min(length, h.least)
		list = append(list, due{most[h.to] + t.steps[h.to].length, least[h.from]})
	}
	slices.SortFunc(list, func(a, b due) int { return cmp.Compare(a.by, b.by) })
	release := far
	for n, d := range list {
		release = min(release, d.release)
		at := d.by
		for range (n + t.resources[r].Capacity/smallest) / (t.resources[r].Capacity / smallest) {
			at = t.opened(at - length)
		}
		if at < release {
			return true
		}
	}
	return false
}

// opened is the last instant at or before x at which a window is open.
func (t *task) opened(x int) int {
	for w := len(t.windows) - 1; w >= 0; w-- {
		if at := min(x, t.windows[w].to); at >= t.windows[w].from {
			return at
		}
	}
	return -far
}

// leastExtension is the least common lateness of given ends that is not refuted.
func (t *task) leastExtension(least, ends []int) int {
	can := func(by int) bool {
		e := slices.Clone(ends)
		for c := range e {
			e[c] += by
		}
		return t.refuted(least, e) == ""
	}
	if can(0) {
		return 0
	}
	lo, hi := 0, 1
	for !can(hi) {
		if lo, hi = hi, hi*2; hi > mostLength {
			return lo
		}
	}
	for hi-lo > 1 {
		if mid := (lo + hi) / 2; can(mid) {
			hi = mid
		} else {
			lo = mid
		}
	}
	return hi
}

// spanBound is the last hand-over less the latest first start that is not refuted.
func (s *search) spanBound(ends []int, lastHand int) (minutes int, by string) {
	t := s.t
	why := func(from int) string {
		least, stuck := t.earliestFrom(from)
		if stuck {
			return "chain"
		}
		return t.refuted(least, ends)
	}
	lo, hi := s.best.value()[span], 0
	lo = lastHand - lo // a plan begins then
	hi = lastHand
	by = why(lo + 1)
	if by != "" {
		return lastHand - lo, by
	}
	for hi-lo > 1 {
		mid := (lo + hi) / 2
		if r := why(mid); r == "" {
			lo = mid
		} else {
			hi, by = mid, r
		}
	}
	if by == "" {
		by = "chain"
	}
	return lastHand - lo, by
}

// earliestFrom is earliest with nothing planned before an instant.
func (t *task) earliestFrom(from int) (least []int, stuck bool) {
	u := *t
	u.steps = slices.Clone(t.steps)
	for i := range u.steps {
		if t.free(i) {
			u.steps[i].notBefore = max(u.steps[i].notBefore, from)
		} else if t.steps[i].planned() && len(t.set) > 0 && t.begunAt(i) < from {
			return nil, true
		}
	}
	least, at := u.earliest(u.allOpen())
	return least, at >= 0
}

func (t *task) begunAt(i int) int {
	for _, x := range t.set {
		if x.step == i {
			return x.start
		}
	}
	return far
}

// refuted says why no plan starts everything at or after least and ends by the
// given ends: "chain" (windows and waits), "load" (hands or copies); "" when it
// cannot say.
func (t *task) refuted(least, ends []int) string {
	most := t.latest(ends, t.allOpen())
	for i := range t.steps {
		if t.steps[i].planned() && least[i] > most[i] {
			return "chain"
		}
	}
	if t.handsShort(least, most) {
		return "load"
	}
	for r := range t.resources {
		if t.copiesShort(r, least, most) || t.turnsShort(r, least, most) {
			return "load"
		}
	}
	return ""
}

// job is work that must lie in [from, to).
type job struct{ from, to, work int }

// overfull reports whether jobs of one stretch ask for more than offered gives for it.
func overfull(jobs []job, offered func(from, to int) int) bool {
	froms := make([]int, 0, len(jobs))
	for _, j := range jobs {
		froms = append(froms, j.from)
	}
	slices.Sort(froms)
	froms = slices.Compact(froms)
	slices.SortFunc(jobs, func(a, b job) int { return cmp.Compare(a.to, b.to) })
	for _, from := range froms {
		sum := 0
		for k, j := range jobs {
			if j.from < from {
				continue
			}
			sum += j.work
			if k+1 < len(jobs) && jobs[k+1].to == j.to {
				continue
			}
			if sum > offered(from, j.to) {
				return true
			}
		}
	}
	return false
}

func (t *task) handsShort(least, most []int) bool {
	var jobs []job
	for i := range t.steps {
		if s := &t.steps[i]; s.planned() && s.attended {
			jobs = append(jobs, job{least[i], most[i] + s.length, s.length * s.people * s.attention})
		}
	}
	// minutes of people there before each border, so that a stretch is a difference
	var borders, sums []int
	sum := 0
	for _, w := range t.windows {
		borders, sums = append(borders, w.from, w.to), append(sums, sum, sum+(w.to-w.from)*w.people)
		sum += (w.to - w.from) * w.people
	}
	before := func(x int) int {
		k, found := slices.BinarySearch(borders, x)
		switch {
		case found:
			return sums[k]
		case k == 0:
			return 0
		case k == len(borders):
			return sum
		case k%2 == 1: // within a window
			return sums[k-1] + (x-borders[k-1])*t.windows[k/2].people
		}
		return sums[k]
	}
	return overfull(jobs, func(from, to int) int { return (before(to) - before(from)) * 100 })
}

func (t *task) copiesShort(r int, least, most []int) bool {
	var jobs []job
	for i := range t.steps {
		for _, u := range t.steps[i].uses {
			if u.resource == r && t.steps[i].planned() {
				jobs = append(jobs, job{least[i], most[i] + t.steps[i].length, t.steps[i].length * u.count})
			}
		}
	}
	for k := range t.holds {
		if h := &t.holds[k]; h.resource == r && t.steps[h.from].planned() && t.steps[h.to].planned() {
			jobs = append(jobs, job{least[h.from], most[h.to] + t.steps[h.to].length, h.least * h.count})
		}
	}
	return overfull(jobs, func(from, to int) int { return (to - from) * t.resources[r].Capacity })
}
