package outline

import "math"

// Exact rows: how fine sides are sampled, in how many parts a pitch is searched for the
// best shift of every second row, and what is added for the sides between two samples.
const (
	sideStep  = 0.1 // mm
	rowShifts = 16
	rowSafe   = 0.02 // mm
)

// inRows lays the outline in rows, all of one turn or of two turns in turn, along the
// sheet and across it: cells lose up to their size at each piece, rows do not. A row comes
// as near to the one before as its lower side lets it.
func inRows(ring Ring, turns []float64, w, h, gap, edge float64) (best []Placement) {
	w, h = w-2*edge, h-2*edge
	for _, across := range []bool{false, true} {
		sides := make([]*side, len(turns))
		for i, deg := range turns {
			sides[i] = sideOf(turned(ring, deg), deg, gap, across)
		}
		for _, a := range sides {
			for _, b := range sides {
				if math.Mod(math.Abs(a.deg-b.deg), 180) != 0 {
					continue // pieces that lie across one another waste more
				}
				r := rowing{a: a, b: b, w: w, h: h}
				if across {
					r.w, r.h = h, w
				}
				if r.lay(); r.n > len(best) {
					best = r.placed(edge, across)
				}
			}
		}
	}
	return best
}

// side is an outline in one turn as rows see it: its upper side grown by the gap, its
// lower side as it is, both sampled along x; the same for what lies beside it in the row.
type side struct {
	deg        float64
	lo         Point // where the ring began
	wide, high float64
	over       profile // grown, as seen from above
	under      profile
	right      profile // grown, as seen from the right
	left       profile
}

// profile is a side by its height over a line, NaN where there is none.
type profile struct {
	from int // in steps
	at   []float64
}

func sideOf(ring Ring, deg, gap float64, across bool) *side {
	r := make(Ring, len(ring))
	for i, p := range ring {
		if r[i] = p; across {
			r[i] = Point{p[1], p[0]}
		}
	}
	lo, hi := boxOf([]Ring{r})
	turned := make(Ring, len(r))
	for i := range r {
		r[i] = Point{r[i][0] - lo[0], r[i][1] - lo[1]}
		turned[i] = Point{r[i][1], r[i][0]}
	}
	grow := math.Max(0, gap-1e-6) // what touches does not meet
	return &side{deg: deg, lo: lo, wide: hi[0] - lo[0], high: hi[1] - lo[1], over: grown(r, grow), under: below(r), right: grown(turned, grow), left: below(turned)}
}

// grown is the upper side of a ring with a disc of that radius round each of its points.
func grown(ring Ring, gap float64) profile {
	lo, hi := boxOf([]Ring{ring})
	p := profile{from: int(math.Ceil((lo[0]-gap)/sideStep - slack))}
	p.at = make([]float64, int(math.Floor((hi[0]+gap)/sideStep+slack))-p.from+1)
	for i := range p.at {
		p.at[i] = math.NaN()
	}
	put := func(i int, y float64) {
		if i >= 0 && i < len(p.at) && !(p.at[i] >= y) {
			p.at[i] = y
		}
	}
	steps := func(a, b float64) (from, to int) {
		return int(math.Ceil(math.Min(a, b)/sideStep - slack)), int(math.Floor(math.Max(a, b)/sideStep + slack))
	}
	for i, a := range ring {
		from, to := steps(a[0]-gap, a[0]+gap)
		for k := from; k <= to; k++ {
			d := float64(k)*sideStep - a[0]
			put(k-p.from, a[1]+math.Sqrt(math.Max(0, gap*gap-d*d)))
		}
		b := ring[(i+1)%len(ring)]
		l := math.Hypot(b[0]-a[0], b[1]-a[1])
		if math.Abs(b[0]-a[0]) < 1e-12 || l == 0 {
			continue
		}
		nx, ny := -(b[1]-a[1])/l*gap, (b[0]-a[0])/l*gap
		if ny < 0 {
			nx, ny = -nx, -ny
		}
		from, to = steps(a[0]+nx, b[0]+nx)
		for k := from; k <= to; k++ {
			t := (float64(k)*sideStep - a[0] - nx) / (b[0] - a[0])
			put(k-p.from, a[1]+ny+math.Max(0, math.Min(1, t))*(b[1]-a[1]))
		}
	}
	return p
}

// below is the lower side of a ring.
func below(ring Ring) profile {
	flip := make(Ring, len(ring))
	for i, p := range ring {
		flip[i] = Point{p[0], -p[1]}
	}
	p := grown(flip, 0)
	for i := range p.at {
		p.at[i] = -p.at[i]
	}
	return p
}

// rise is by how much the second lies over the first, moved along by so many steps, that
// they do not meet; 0 when they pass one another.
func rise(over, under profile, along int) (y float64) {
	from := max(over.from, under.from+along)
	to := min(over.from+len(over.at), under.from+along+len(under.at))
	for i := from; i < to; i++ {
		if d := over.at[i-over.from] - under.at[i-along-under.from]; d > y {
			y = d
		}
	}
	return y
}

// rowing is rows of one side and of another in turn.
type rowing struct {
	a, b          *side
	w, h          float64
	n             int
	pitch, shift  int // in steps
	up, back      float64
	first, others int // pieces of an even row, of an odd one
}

// lay finds the pitch and the shift that give most.
func (r *rowing) lay() {
	longest := math.Max(r.a.wide, r.b.wide)
	if longest > r.w+slack || math.Max(r.a.high, r.b.high) > r.h+slack {
		return
	}
	closest := math.Max(rise(r.a.right, r.a.left, 0), rise(r.b.right, r.b.left, 0)) + rowSafe
	up := func(x float64) int { return int(math.Ceil(x/sideStep - slack)) }
	pitches := []int{up(closest)}
	if n := math.Floor((r.w-longest)/closest + slack); n >= 1 {
		pitches = append(pitches, int((r.w-longest)/n/sideStep+slack), int((r.w-longest)/(n+0.5)/sideStep+slack), int((r.w-longest)/(n-0.5)/sideStep+slack))
	}
	for _, pitch := range pitches {
		if float64(pitch)*sideStep < closest-slack {
			continue
		}
		for k := range rowShifts {
			r.try(pitch, pitch*k/rowShifts)
		}
	}
}

// over is how far a row lies over another one of that pitch, moved along by shift.
func over(a, b *side, pitch, shift int) (y float64) {
	reach := len(a.over.at) + len(b.under.at)
	for x := shift - pitch*(reach/pitch+2); x <= reach+pitch; x += pitch {
		y = math.Max(y, rise(a.over, b.under, x))
	}
	return y + rowSafe
}

// try counts rows with that pitch, every second one shifted.
func (r *rowing) try(pitch, shift int) {
	up, back := over(r.a, r.b, pitch, shift), over(r.b, r.a, pitch, -shift)
	// every second row is of the same kind: they must not meet across the one between
	two := math.Max(over(r.a, r.a, pitch, 0), over(r.b, r.b, pitch, 0))
	back = math.Max(back, two-up)
	in := func(from, wide float64) int {
		if from+wide > r.w+slack {
			return 0
		}
		return int((r.w-from-wide)/(float64(pitch)*sideStep)+slack) + 1
	}
	first, others := in(0, r.a.wide), in(float64(shift)*sideStep, r.b.wide)
	n := 0
	for y, row := 0.0, 0; ; row++ {
		high, each, step := r.a.high, first, up
		if row%2 == 1 {
			high, each, step = r.b.high, others, back
		}
		if y+high > r.h+slack {
			break
		}
		n += each
		y += step
	}
	if n > r.n {
		r.n, r.pitch, r.shift, r.up, r.back, r.first, r.others = n, pitch, shift, up, back, first, others
	}
}

func (r *rowing) placed(edge float64, across bool) (out []Placement) {
	for y, row := 0.0, 0; ; row++ {
		s, each, x, step := r.a, r.first, 0.0, r.up
		if row%2 == 1 {
			s, each, x, step = r.b, r.others, float64(r.shift)*sideStep, r.back
		}
		if y+s.high > r.h+slack {
			return out
		}
		for range each {
			p := Placement{edge + x - s.lo[0], edge + y - s.lo[1], s.deg}
			if across {
				p.XMM, p.YMM = edge+y-s.lo[1], edge+x-s.lo[0]
			}
			out = append(out, p)
			x += float64(r.pitch) * sideStep
		}
		y += step
	}
}
