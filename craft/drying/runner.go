package drying

import (
	"math"
)

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
	wet     [3]int // a cell that was the wettest
}

// farFrom is how far above a level the wettest cell is not looked for: more than it loses
// in a step.
const farFrom = 1.25

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
		r.faceA[k], r.wet[k] = x0, n-1
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
			// far from through, one wet cell is enough to know it
			if now = r.cells[r.wet[run]].x[run]; now <= farFrom*m.levels[i] {
				now = r.wettest(b, run)
			}
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
			most, r.wet[run] = x, i
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
