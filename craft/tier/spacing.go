package tier

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// SpacingIn asks for motifs evenly round a closed run, along a side, or side by
// side as overlapping pieces in shades.
type SpacingIn struct {
	Kind      *string  `json:"kind" def:"closed" of:"closed side jigsaw"`
	RunMM     *float64 `json:"runMM" in:"length"`
	SideMM    *float64 `json:"sideMM" in:"length"`
	WidthMM   *float64 `json:"widthMM" in:"length"`
	Count     *int     `json:"count" in:"1..100000"`
	GapMM     *float64 `json:"gapMM" in:"0..10000"`
	Ends      *string  `json:"ends" def:"margin" of:"margin flush"`
	Centre    *string  `json:"centre" def:"any" of:"any motif gap"`
	EndMM     *float64 `json:"endMM" def:"0" in:"0..10000"`
	OverlapMM *float64 `json:"overlapMM" def:"0" in:"0..10000"`
	Shades    *int     `json:"shades" def:"1" in:"1..50"`
}

// SpacingOut: of a count its pitch and gap, and along a side the middle of each
// motif from the middle of the side; of a gap how many fit; of jigsaw pieces how
// many and how much of each is seen.
type SpacingOut struct {
	PitchMM   *float64  `json:"pitchMM,omitempty"`
	GapMM     *float64  `json:"gapMM,omitempty"`
	CentresMM []float64 `json:"centresMM,omitempty"`
	MaxCount  *int      `json:"maxCount,omitempty"`
	Count     *int      `json:"count,omitempty"`
	VisibleMM *float64  `json:"visibleMM,omitempty"`
}

// Spacing places motifs evenly.
func Spacing(in SpacingIn) (SpacingOut, error) {
	var out SpacingOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	if *in.Kind == "side" {
		if in.SideMM == nil {
			return out, missing("sideMM", "How long is the coated side?")
		}
	} else if in.RunMM == nil {
		return out, missing("runMM", "How long is the run round the coated tier?")
	}
	if in.WidthMM == nil {
		return out, missing("widthMM", "How wide is one piece?")
	}
	if *in.Kind == "jigsaw" {
		return jigsaw(in)
	}
	if in.Count == nil && in.GapMM == nil {
		return out, missing("count", "How many, or with what gap?")
	}
	w := *in.WidthMM
	if *in.Kind == "closed" {
		if in.Count != nil {
			pitch := *in.RunMM / float64(*in.Count)
			if pitch < w-slack {
				return out, doNotFit(floor(*in.RunMM / w))
			}
			out.PitchMM, out.GapMM = &pitch, new(math.Max(0, pitch-w))
		}
		if in.GapMM != nil {
			out.MaxCount = new(floor(*in.RunMM / (w + *in.GapMM)))
		}
		return out, nil
	}
	s, e := *in.SideMM, *in.EndMM
	if in.Count != nil {
		m := float64(*in.Count)
		var first, g float64
		if *in.Ends == "flush" {
			if *in.Count < 2 {
				return out, fault.New(fault.Unreachable, "count", "Flush ends want two at least: one cannot stand at both.")
			}
			g, first = (s-2*e-m*w)/(m-1), -s/2+e+w/2
			if g < -slack {
				return out, doNotFit(max(0, floor((s-2*e)/w)))
			}
		} else {
			g = (s - m*w) / (m + 1)
			if g < -slack {
				return out, doNotFit(floor(s / w))
			}
			first = -s/2 + g + w/2
		}
		for i := range *in.Count {
			out.CentresMM = append(out.CentresMM, first+float64(i)*(w+g))
		}
		out.GapMM = new(math.Max(0, g))
	}
	if in.GapMM != nil {
		p, most := w+*in.GapMM, 0
		if a := s/2 - e - w/2; *in.Centre != "gap" && a >= -slack {
			most = 2*floor(a/p) + 1
		}
		if a := s/2 - e - w/2 - p/2; *in.Centre != "motif" && a >= -slack {
			most = max(most, 2*(floor(a/p)+1))
		}
		out.MaxCount = &most
	}
	return out, nil
}

func doNotFit(most int) error {
	return fault.New(fault.Unreachable, "count", "They do not fit: at most %d do.", most)
}

// jigsaw counts overlapping pieces so that no two of a shade meet.
func jigsaw(in SpacingIn) (SpacingOut, error) {
	w, o, k := *in.WidthMM, *in.OverlapMM, *in.Shades
	if o >= w {
		return SpacingOut{}, fault.New(fault.Contradiction, "overlapMM", "An overlap of %.1f mm leaves nothing of %.1f mm to see.", o, w)
	}
	n := ceil(*in.RunMM / (w - o))
	if k == 2 && n%2 == 1 || k > 2 && n%k == 1 {
		n++
	}
	return SpacingOut{Count: &n, VisibleMM: new(*in.RunMM / float64(n))}, nil
}

// StudsIn asks for stations on whole studs along a side.
type StudsIn struct {
	SideMM   *float64 `json:"sideMM" need:"true" in:"length"`
	PitchMM  *float64 `json:"pitchMM" need:"true" in:"0.5..100"`
	StepMM   *float64 `json:"stepMM" in:"length"`
	Stations *int     `json:"stations" in:"1..500"`
	Ends     *string  `json:"ends" of:"margin flush"`
}

// StudsOut is where the stations stand, mm from the middle of the side, what is
// left at each corner, and the order in which they are set.
type StudsOut struct {
	Stations     int       `json:"stations"`
	StepMM       float64   `json:"stepMM"`
	StudsPerStep int       `json:"studsPerStep"`
	TrueStepMM   float64   `json:"trueStepMM"`
	CornerMM     float64   `json:"cornerMM"`
	StationsMM   []float64 `json:"stationsMM"`
	Order        []int     `json:"order"`
}

// mostStations of a step, so that a side ends.
const mostStations = 5000

// Studs sets stations so that each step is whole studs; the rest is shared by the
// corners.
func Studs(in StudsIn) (StudsOut, error) {
	var out StudsOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	s, q := *in.SideMM, *in.PitchMM
	switch {
	case in.StepMM == nil && in.Stations == nil:
		return out, missing("stepMM", "How far from station to station, or how many stations?")
	case in.StepMM != nil && in.Stations != nil:
		return out, fault.New(fault.Contradiction, "stations", "A step gives the number of stations: say one of the two.")
	case in.StepMM != nil && in.Ends != nil:
		return out, fault.New(fault.Contradiction, "ends", "A step leaves its rest at the corners: margin or flush goes with a number of stations.")
	}
	flush := in.Ends != nil && *in.Ends == "flush"
	k := 0
	if in.StepMM != nil {
		out.StepMM = *in.StepMM
		k = max(1, int(measure.Round(out.StepMM/q, 1)))
		out.Stations = 2*floor(s/(2*float64(k)*q)) + 1
		if out.Stations > mostStations {
			return out, fault.New(fault.OutOfRange, "stepMM", "A step of %.1f mm would make %d stations: at most %d.", out.StepMM, out.Stations, mostStations)
		}
	} else {
		m := *in.Stations
		if flush && m < 2 {
			return out, fault.New(fault.Unreachable, "stations", "One station cannot stand at both corners: two at least are flush.")
		}
		out.Stations, out.StepMM = m, s/float64(m+1)
		if flush {
			out.StepMM = s / float64(m-1)
		}
		k = max(1, int(measure.Round(out.StepMM/q, 1)))
		if m > 1 {
			k = min(k, floor(s/(float64(m-1)*q)))
		}
		if k < 1 {
			return out, fault.New(fault.Unreachable, "stations", "At most %d stations have a stud of their own on %.0f mm.", floor(s/q)+1, s)
		}
	}
	m := out.Stations
	out.StudsPerStep, out.TrueStepMM = k, float64(k)*q
	out.CornerMM = (s - float64(m-1)*out.TrueStepMM) / 2
	for i := range m {
		out.StationsMM = append(out.StationsMM, (float64(i)-float64(m-1)/2)*out.TrueStepMM)
	}
	out.Order = settingOrder(m)
	return out, nil
}

// settingOrder is the middle (of an even set both, left first), the two ends, the
// rest from the middle outward, left first.
func settingOrder(m int) []int {
	var out []int
	seen := make([]bool, m)
	put := func(i int) {
		if !seen[i] {
			seen[i] = true
			out = append(out, i)
		}
	}
	left, right := (m-1)/2, m/2
	for _, i := range []int{left, right, 0, m - 1} {
		put(i)
	}
	for d := 1; left-d >= 0; d++ {
		put(left - d)
		put(right + d)
	}
	return out
}
