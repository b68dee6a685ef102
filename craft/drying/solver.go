package drying

import (
	"math"
	"slices"
)

// body is the piece cut into thin cells: a slab (round 0), a cylinder (1) or
// a sphere (2). Cells run from face A inward; a slab goes on to face B.
type body struct {
	round   int
	reach   float64 // half the slab, or the radius
	shellMM float64 // depth of the shell on which firm is judged; 0: the whole
	volume  []float64
	centre  []float64 // distance of a cell's centre of volume from the axis, or from A
	area    []float64 // of the border before each cell (0 is face A), and after the last
	upTo    [3]int    // cells within the skin, hold and shell depths
}

// bodyOf cuts a shape into cells that are finest at the faces, with borders on
// the depths at which stages are judged.
func bodyOf(shape string, thickness float64) body {
	b := body{reach: thickness / 2}
	size := thickness / 2
	switch shape {
	case "block":
		size = thickness
		b.shellMM = 0.80 + 0.10*size
	case "rod":
		b.round = 1
		b.shellMM = 0.80 + 0.10*size
	case "ball":
		b.round = 2
		b.shellMM = 0.80 + 0.10*size
	case "dome":
		b.round, b.reach = 2, thickness
		b.shellMM = 0.80 + 0.16*thickness
	}
	// no stage is judged beyond the middle of a piece
	depths := []float64{skinDepthMM, holdDepthMM}
	if b.shellMM > 0 {
		depths = append(depths, b.shellMM)
	}
	borders := b.borders(depths)
	if b.round == 0 {
		b.slab(borders)
	} else {
		b.rounds(borders)
	}
	for i, d := range []float64{skinDepthMM, holdDepthMM, b.shellMM} {
		d = math.Min(d, b.reach)
		for n, x := 0, 0.0; n < len(b.volume); n++ {
			x = b.depthAfter(n)
			if x <= d+1e-9 {
				b.upTo[i] = n + 1
			}
		}
		b.upTo[i] = max(1, b.upTo[i])
	}
	return b
}

// borders gives depths from a face to the reach, graded, on the marks.
func (b *body) borders(marks []float64) []float64 {
	first := math.Min(0.005, b.reach/60)
	coarse := b.reach / 16
	turn := (coarse - first) / 0.2 // depth at which cells stop growing
	count := func(x float64) float64 {
		if x <= turn {
			return 5 * math.Log1p(0.2*x/first)
		}
		return 5*math.Log1p(0.2*turn/first) + (x-turn)/coarse
	}
	depth := func(n float64) float64 {
		if at := count(turn); n > at {
			return turn + (n-at)*coarse
		}
		return first * math.Expm1(n/5) / 0.2
	}
	stops := []float64{0}
	for _, m := range marks {
		if m < b.reach-1e-9 {
			stops = append(stops, m)
		}
	}
	stops = append(stops, b.reach)
	slices.Sort(stops)
	out := []float64{0}
	for i := 1; i < len(stops); i++ {
		from, to := count(stops[i-1]), count(stops[i])
		n := int(math.Ceil(to - from - 1e-9))
		for k := 1; k < n; k++ {
			out = append(out, depth(from+(to-from)*float64(k)/float64(n)))
		}
		out = append(out, stops[i])
	}
	return out
}

func (b *body) slab(half []float64) {
	h := 2 * b.reach
	x := slices.Clone(half)
	for i := len(half) - 2; i >= 0; i-- {
		x = append(x, h-half[i])
	}
	b.area = []float64{1}
	for i := 1; i < len(x); i++ {
		b.volume = append(b.volume, x[i]-x[i-1])
		b.centre = append(b.centre, (x[i]+x[i-1])/2)
		b.area = append(b.area, 1)
	}
}

func (b *body) rounds(depths []float64) {
	g := float64(b.round)
	b.area = []float64{math.Pow(b.reach, g)}
	for i := 1; i < len(depths); i++ {
		outer, inner := b.reach-depths[i-1], math.Max(0, b.reach-depths[i])
		v := (math.Pow(outer, g+1) - math.Pow(inner, g+1)) / (g + 1)
		c := (math.Pow(outer, g+2) - math.Pow(inner, g+2)) / (g + 2) / v
		b.volume = append(b.volume, v)
		b.centre = append(b.centre, b.reach-c) // kept as a depth, like a slab's
		b.area = append(b.area, math.Pow(inner, g))
	}
}

// depthAfter is the depth of the far border of cell n.
func (b *body) depthAfter(n int) float64 {
	if b.round == 0 {
		x := 0.0
		for i := 0; i <= n; i++ {
			x += b.volume[i]
		}
		return x
	}
	return b.reach - math.Pow(b.area[n+1], 1/float64(b.round))
}

// films are the factors by which the shape and what it lies on scale the film
// at face A and face B.
type films struct{ a, b float64 }

func filmsOf(in *PredictIn) films {
	open := openness[*in.Support]
	switch *in.Shape {
	case "rolled":
		f := 1 / (1 + *in.BodyMM/rosettesMM)
		return films{f, f}
	case "rod":
		return films{1 - 0.25*(1-open), 0}
	case "ball":
		return films{1 - 0.15*(1-open), 0}
	case "dome":
		if *in.Support == "board" {
			return films{1, 0}
		}
		return films{1 + 0.5*open, 0}
	}
	return films{1, open}
}

// march is one prediction: three runs of the same piece, 0 the middle, 1 the
// quick and 2 the slow end of the band.
type march struct {
	in      *PredictIn
	iso     isotherm
	gum     float64
	room    room
	body    body
	films   films
	levels  [4]float64
	only    int // stages that exist
	times   [3][4]float64
	samples []Sample
}

// solve marches finite volumes with a two-stage, second-order implicit method
// (SDIRK2), landing on every change of the room, the bag and the turning.
func (m *march) solve() {
	in := m.in
	x0 := m.iso.at(m.iso.fresh)
	var speed [3]float64
	for k, z := range [3]float64{0, -z10, z10} {
		speed[k] = 1 / (*in.TimeFactor * math.Exp(z**in.LogSd))
		m.times[k] = [4]float64{math.Inf(1), math.Inf(1), math.Inf(1), math.Inf(1)}
	}
	run := newRunner(m, x0, speed)
	horizon, bag := *in.HorizonHours, *in.BaggedUntilHours
	reports := slices.Clone(in.ReportAtHours)
	slices.Sort(reports)
	stops := []float64{horizon, bag}
	for _, p := range m.room {
		stops = append(stops, p[0])
	}
	stops = append(stops, in.TurnAtHours...)
	stops = append(stops, reports...)
	slices.Sort(stops)
	turns := slices.Clone(in.TurnAtHours)
	slices.Sort(turns)
	for len(reports) > 0 && reports[0] <= 0 {
		m.sample(run, 0, x0)
		reports = reports[1:]
	}
	t, begin, turned := 0.0, 0.0, false
	for len(turns) > 0 && turns[0] <= 0 {
		turned, turns = !turned, turns[1:]
	}
	for next := 0; t < horizon-1e-12; {
		for next < len(stops) && stops[next] <= t+1e-12 {
			next++
		}
		h := math.Min(0.5, 0.0005+0.06*(t-begin))
		landed := false
		if next < len(stops) && t+h >= stops[next]-1e-12 {
			h, landed = stops[next]-t, true
		}
		s := m.coefficients(t, h, bag, turned)
		run.step(m, t, h, &s)
		done := run.through[0] && run.through[1] && run.through[2]
		t += h
		if landed {
			t = stops[next]
		}
		for len(reports) > 0 && reports[0] <= t+1e-12 {
			m.sample(run, reports[0], x0)
			reports = reports[1:]
		}
		for len(turns) > 0 && turns[0] <= t+1e-12 {
			turned, begin, turns = !turned, t, turns[1:]
		}
		if bag > 0 && math.Abs(t-bag) < 1e-12 {
			begin = t
		}
		if done && len(reports) == 0 {
			return
		}
	}
}

// setting is the room and the films during one step, before a run's own speed.
type setting struct{ d, ka, kb, xe1, xe2 float64 }

func (m *march) coefficients(t, h, bag float64, turned bool) setting {
	tempC, _ := m.room.at(t + h/2)
	eg := math.Min(math.Max(m.gum-gumFrom, 0), gumSpan)
	heat := arrhenius(tempC)
	air := airFilm0 * speedUp(*m.in.AirSpeedMS) * saturation(tempC) / saturation(refTempC)
	skin := skinFilm0 * math.Exp(-gumOnSkin*eg) * heat * dustFactor[*m.in.Dust]
	k := 1 / (1/air + 1/skin)
	if t+h/2 < bag {
		k *= bagShare
	}
	a, b := m.films.a, m.films.b
	if turned {
		a, b = b, a
	}
	_, rh1 := m.room.at(t + gamma*h)
	_, rh2 := m.room.at(t + h)
	return setting{d: diffusivity0 * math.Exp(-gumOnD*eg) * heat, ka: k * a, kb: k * b, xe1: m.iso.at(rh1 / 100), xe2: m.iso.at(rh2 / 100)}
}

var gamma = 1 - math.Sqrt(0.5)

// cell is one cell of the three runs, side by side: what one run computes does
// not wait for another, so the processor works on all three at once.
type cell struct{ x, y, c, alpha, den [3]float64 }

// runner holds the three runs of a prediction.
type runner struct {
	speed   [3]float64
	cells   []cell
	link    []float64 // area / distance of each inner border
	measure [3][4]float64
	faceA   [3]float64
	through [3]bool
}

func newRunner(m *march, x0 float64, speed [3]float64) *runner {
	n := len(m.body.volume)
	r := &runner{speed: speed, cells: make([]cell, n), link: make([]float64, n+1)}
	for i := range n {
		r.cells[i].x = [3]float64{x0, x0, x0}
		if i > 0 {
			r.link[i] = m.body.area[i] / (m.body.centre[i] - m.body.centre[i-1])
		}
	}
	for k := range 3 {
		r.measure[k] = [4]float64{x0, x0, x0, x0}
		r.faceA[k] = x0
	}
	return r
}

// step solves both stages of one step, (V - gamma h A) y = rhs, with one
// elimination.
func (r *runner) step(m *march, t, h float64, s *setting) {
	b, n := &m.body, len(r.cells)
	gh := gamma * h
	var w, faceA, faceB [3]float64
	for k := range 3 {
		d := s.d * r.speed[k]
		w[k] = gh * d
		faceA[k] = gh * faceOf(s.ka*r.speed[k], b.area[0], b.centre[0], d)
		if b.round == 0 {
			faceB[k] = gh * faceOf(s.kb*r.speed[k], b.area[n], 2*b.reach-b.centre[n-1], d)
		}
	}
	r.eliminate(b.volume, w, faceA, faceB, s.xe1)
	r.backY()
	r.again(b.volume, (1-gamma)/gamma, faceA, faceB, s.xe2)
	r.backX()
	for k := range 3 {
		if film := s.ka * r.speed[k]; film > 0 {
			r.faceA[k] = s.xe2 + (r.cells[0].x[k]-s.xe2)/(1/film+b.centre[0]/(s.d*r.speed[k]))/film
		} else {
			r.faceA[k] = r.cells[0].x[k]
		}
		r.judge(m, k, t, h)
	}
}

// faceOf is the conductance of a face: film and half a cell in series.
func faceOf(k, area, distance, d float64) float64 {
	if k <= 0 || area <= 0 {
		return 0
	}
	return area / (1/k + distance/d)
}

// eliminate runs forward through the matrix and the first right-hand side.
func (r *runner) eliminate(volume []float64, w, faceA, faceB [3]float64, xe float64) {
	cells, n := r.cells, len(r.cells)
	link := r.link[:n+1]
	volume = volume[:n]
	w0, w1, w2 := w[0], w[1], w[2]
	var c0, c1, c2, y0, y1, y2 float64
	for i := range cells {
		e := &cells[i]
		v, near, next := volume[i], link[i], link[i+1]
		o0, o1, o2 := w0*near, w1*near, w2*near
		p0, p1, p2 := w0*next, w1*next, w2*next
		d0, d1, d2 := v+o0+p0, v+o1+p1, v+o2+p2
		q0, q1, q2 := v*e.x[0], v*e.x[1], v*e.x[2]
		if i == 0 {
			d0, d1, d2 = d0+faceA[0], d1+faceA[1], d2+faceA[2]
			q0, q1, q2 = q0+faceA[0]*xe, q1+faceA[1]*xe, q2+faceA[2]*xe
		}
		if i == n-1 {
			d0, d1, d2 = d0+faceB[0], d1+faceB[1], d2+faceB[2]
			q0, q1, q2 = q0+faceB[0]*xe, q1+faceB[1]*xe, q2+faceB[2]*xe
		}
		d0, d1, d2 = 1/(d0-o0*c0), 1/(d1-o1*c1), 1/(d2-o2*c2)
		c0, c1, c2 = p0*d0, p1*d1, p2*d2
		o0, o1, o2 = o0*d0, o1*d1, o2*d2
		y0, y1, y2 = q0*d0+o0*y0, q1*d1+o1*y1, q2*d2+o2*y2
		e.c, e.alpha, e.den, e.y = [3]float64{c0, c1, c2}, [3]float64{o0, o1, o2}, [3]float64{d0, d1, d2}, [3]float64{y0, y1, y2}
	}
}

// again runs forward through the right-hand side of the second stage.
func (r *runner) again(volume []float64, share float64, faceA, faceB [3]float64, xe float64) {
	cells, n := r.cells, len(r.cells)
	volume = volume[:n]
	var y0, y1, y2 float64
	for i := range cells {
		e := &cells[i]
		v := volume[i]
		q0, q1, q2 := v*(e.x[0]+share*(e.y[0]-e.x[0])), v*(e.x[1]+share*(e.y[1]-e.x[1])), v*(e.x[2]+share*(e.y[2]-e.x[2]))
		if i == 0 {
			q0, q1, q2 = q0+faceA[0]*xe, q1+faceA[1]*xe, q2+faceA[2]*xe
		}
		if i == n-1 {
			q0, q1, q2 = q0+faceB[0]*xe, q1+faceB[1]*xe, q2+faceB[2]*xe
		}
		y0, y1, y2 = q0*e.den[0]+e.alpha[0]*y0, q1*e.den[1]+e.alpha[1]*y1, q2*e.den[2]+e.alpha[2]*y2
		e.x = [3]float64{y0, y1, y2} // the old moisture is not needed any more
	}
}

// backX substitutes the second stage: the moisture after the step.
func (r *runner) backX() {
	cells := r.cells
	var x0, x1, x2 float64
	for i := len(cells) - 1; i >= 0; i-- {
		e := &cells[i]
		x0, x1, x2 = e.x[0]+e.c[0]*x0, e.x[1]+e.c[1]*x1, e.x[2]+e.c[2]*x2
		e.x = [3]float64{x0, x1, x2}
	}
}

// backY substitutes the first stage.
func (r *runner) backY() {
	cells := r.cells
	var y0, y1, y2 float64
	for i := len(cells) - 1; i >= 0; i-- {
		e := &cells[i]
		y0, y1, y2 = e.y[0]+e.c[0]*y0, e.y[1]+e.c[1]*y1, e.y[2]+e.c[2]*y2
		e.y = [3]float64{y0, y1, y2}
	}
}

// judge takes the four measures and notes the stages they pass.
func (r *runner) judge(m *march, run int, t, h float64) {
	if r.through[run] {
		return
	}
	b := &m.body
	times := &m.times[run]
	r.through[run] = true
	for i := range m.only {
		if !math.IsInf(times[i], 1) {
			continue
		}
		var now float64
		switch {
		case i < 2:
			now = r.mean(b, run, b.upTo[i])
		case i == 2 && b.shellMM > 0:
			now = r.mean(b, run, b.upTo[2])
		case i == 2:
			now = r.mean(b, run, len(r.cells))
		default:
			now = r.wettest(b, run)
		}
		was, level := r.measure[run][i], m.levels[i]
		r.measure[run][i] = now
		if now <= level && (i == 0 || !math.IsInf(times[i-1], 1)) {
			at := t + h
			if was > level {
				at = t + h*(was-level)/(was-now)
			}
			if i > 0 {
				at = math.Max(at, times[i-1])
			}
			times[i] = at
		} else {
			r.through[run] = false
		}
	}
}

// mean moisture of the outermost n cells.
func (r *runner) mean(b *body, run, n int) float64 {
	sum, v := 0.0, 0.0
	for i := range n {
		sum += b.volume[i] * r.cells[i].x[run]
		v += b.volume[i]
	}
	return sum / v
}

// wettest is the wettest cell, or in a round body the parabola through the two
// innermost cells at the centre.
func (r *runner) wettest(b *body, run int) float64 {
	most := 0.0
	for i := range r.cells {
		if x := r.cells[i].x[run]; x > most {
			most = x
		}
	}
	if n := len(r.cells); b.round > 0 && n > 1 {
		r1, r2 := b.reach-b.centre[n-1], b.reach-b.centre[n-2]
		inner, outer := r.cells[n-1].x[run], r.cells[n-2].x[run]
		most = math.Max(most, inner-(outer-inner)/(r2*r2-r1*r1)*r1*r1)
	}
	return most
}

func (m *march) sample(r *runner, at, x0 float64) {
	mean := r.mean(&m.body, 0, len(r.cells))
	m.samples = append(m.samples, Sample{AtHours: at, LossPercent: 100 * (x0 - mean) / (1 + x0),
		SurfacePercent: ofWhole(r.faceA[0]), MeanPercent: ofWhole(mean), WettestPercent: ofWhole(r.wettest(&m.body, 0))})
}
