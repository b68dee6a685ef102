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

func filmsOf(in *PredictIn, support string) films {
	open := openness[support]
	switch *in.Shape {
	case "rolled":
		f := 1 / (1 + *in.BodyMM/rosettesMM)
		return films{f, f}
	case "rod":
		return films{1 - 0.25*(1-open), 0}
	case "ball":
		return films{1 - 0.15*(1-open), 0}
	case "dome":
		if support == "board" {
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
	tended  *Tending
	airMS   float64
	iso     isotherm
	gum     float64
	room    room
	body    body
	films   films
	levels  [4]float64
	only    int // stages that exist
	times   [3][4]float64
	samples []Sample
	gumOn   struct{ d, skin float64 } // what the gum leaves of diffusion and of the skin's film
}

var refVapour = saturation(refTempC)

// solve marches finite volumes with a two-stage, second-order implicit method
// (SDIRK2), landing on every change of the room, the bag and the turning.
func (m *march) solve() {
	in := m.in
	x0 := m.iso.at(m.iso.fresh)
	eg := math.Min(math.Max(m.gum-gumFrom, 0), gumSpan)
	m.gumOn.d, m.gumOn.skin = diffusivity0*math.Exp(-gumOnD*eg), skinFilm0*math.Exp(-gumOnSkin*eg)*dustFactor[*in.Dust]
	var speed [3]float64
	for k, z := range [3]float64{0, -z10, z10} {
		speed[k] = 1 / (*in.TimeFactor * math.Exp(z**in.LogSd))
		m.times[k] = [4]float64{math.Inf(1), math.Inf(1), math.Inf(1), math.Inf(1)}
	}
	run := newRunner(m, x0, speed)
	horizon := *in.HorizonHours
	changes := m.tended.changes()
	lies := m.tended.Lies
	reports := slices.Clone(in.ReportAtHours)
	slices.Sort(reports)
	stops := append([]float64{horizon}, changes...)
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
	lie := func() {
		for len(lies) > 0 && lies[0].FromHours <= t+1e-12 {
			m.films, m.airMS, lies = filmsOf(in, lies[0].Support), lies[0].AirSpeedMS, lies[1:]
		}
	}
	lie()
	for next := 0; t < horizon-1e-12; {
		for next < len(stops) && stops[next] <= t+1e-12 {
			next++
		}
		h := math.Min(1, 0.0005+0.06*(t-begin))
		landed := false
		if next < len(stops) && t+h >= stops[next]-1e-12 {
			h, landed = stops[next]-t, true
		}
		s := m.coefficients(t, h, turned)
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
		if landed && slices.ContainsFunc(changes, func(at float64) bool { return math.Abs(t-at) < 1e-12 }) {
			begin = t
			lie()
		}
		if done && len(reports) == 0 {
			return
		}
	}
}

// setting is the room and the films during one step, before a run's own speed.
type setting struct{ d, ka, kb, xe1, xe2 float64 }

// changes are the hours at which it is put otherwise, later than the first.
func (t *Tending) changes() (out []float64) {
	for _, b := range t.Bagged {
		out = append(out, b.FromHours, b.UntilHours)
	}
	for _, l := range t.Lies {
		out = append(out, l.FromHours)
	}
	return slices.DeleteFunc(out, func(at float64) bool { return at <= 0 })
}

// bagged tells whether it lies in a closed bag at an hour.
func (t *Tending) bagged(at float64) bool {
	return slices.ContainsFunc(t.Bagged, func(b Span) bool { return b.FromHours <= at && at < b.UntilHours })
}

func (m *march) coefficients(t, h float64, turned bool) setting {
	tempC, _ := m.room.at(t + h/2)
	heat := arrhenius(tempC)
	air := airFilm0 * speedUp(m.airMS) * saturation(tempC) / refVapour
	skin := m.gumOn.skin * heat
	k := 1 / (1/air + 1/skin)
	if m.tended.bagged(t + h/2) {
		k *= bagShare
	}
	a, b := m.films.a, m.films.b
	if turned {
		a, b = b, a
	}
	_, rh1 := m.room.at(t + gamma*h)
	_, rh2 := m.room.at(t + h)
	return setting{d: m.gumOn.d * heat, ka: k * a, kb: k * b, xe1: m.iso.at(rh1 / 100), xe2: m.iso.at(rh2 / 100)}
}

var gamma = 1 - math.Sqrt(0.5)
