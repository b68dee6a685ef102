package tier

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

func ceil(x float64) int     { return int(math.Ceil(x - slack)) }
func floor(x float64) int    { return measure.Floor(x) }
func half(x float64) float64 { return measure.Round(x, 0.5) }

// BandIn asks for bands round a coated run, pieces along a coated side, or the
// height of a band on a wall; any of the three.
type BandIn struct {
	RunMM       *float64 `json:"runMM" in:"length"`
	SideMM      *float64 `json:"sideMM" in:"length"`
	WallMM      *float64 `json:"wallMM" in:"length"`
	ThicknessMM *float64 `json:"thicknessMM" in:"thickness"`
	Layer       *int     `json:"layer" def:"1" in:"1..100"`
	Corner      *string  `json:"corner" def:"bent" of:"bent mitred"`
	OverlapMM   *float64 `json:"overlapMM" def:"0" in:"0..1000"`
	StudPitchMM *float64 `json:"studPitchMM" in:"0.5..100"`
	SpareStuds  *int     `json:"spareStuds" def:"1" in:"0..5"`
	BandMM      *float64 `json:"bandMM" in:"length"`
	Third       *string  `json:"third" def:"middle" of:"bottom middle top"`
}

// BandOut: of a run the line where the band touches, its outside and its cut; of
// a side the piece and, with studs, what is cut and trimmed in place; of a wall the
// edges and middle of the band, mm from below.
type BandOut struct {
	ContactMM   *float64 `json:"contactMM,omitempty"`
	OutsideMM   *float64 `json:"outsideMM,omitempty"`
	CutMM       *float64 `json:"cutMM,omitempty"`
	SidePieceMM *float64 `json:"sidePieceMM,omitempty"`
	SideCutMM   *float64 `json:"sideCutMM,omitempty"`
	LowMM       *float64 `json:"lowMM,omitempty"`
	CentreMM    *float64 `json:"centreMM,omitempty"`
	HighMM      *float64 `json:"highMM,omitempty"`
}

// Band gives cuts of bands in layers. A bent band is cut on its middle line; a
// mitred one, on a square, along its outside.
func Band(in BandIn) (BandOut, error) {
	var out BandOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	if in.RunMM == nil && in.SideMM == nil && in.WallMM == nil {
		return out, missing("runMM", "Say the coated run, the coated side, or the height of the wall.")
	}
	if (in.RunMM != nil || in.SideMM != nil) && in.ThicknessMM == nil {
		return out, missing("thicknessMM", "How thick is the band?")
	}
	k := float64(*in.Layer)
	if in.RunMM != nil {
		t, each := *in.ThicknessMM, 2*math.Pi
		if *in.Corner == "mitred" {
			each = 8
		}
		contact, outside := *in.RunMM+each*t*(k-1), *in.RunMM+each*t*k
		cut := contact + math.Pi*t
		if *in.Corner == "mitred" {
			cut = outside
		}
		out.ContactMM, out.OutsideMM, out.CutMM = &contact, &outside, new(cut+*in.OverlapMM)
	}
	if in.SideMM != nil {
		out.SidePieceMM = new(*in.SideMM + 2*k**in.ThicknessMM)
		if in.StudPitchMM != nil {
			out.SideCutMM = new(*out.SidePieceMM + 2*float64(*in.SpareStuds)**in.StudPitchMM)
		}
	}
	if in.WallMM != nil {
		if in.BandMM == nil {
			return out, missing("bandMM", "How high is the band?")
		}
		h, b := *in.WallMM, *in.BandMM
		if b > h/3+slack {
			return out, fault.New(fault.OutOfRange, "bandMM", "A band keeps within a third of the wall: at most %.1f mm.", h/3)
		}
		part := map[string]float64{"bottom": 0, "middle": 1, "top": 2}[*in.Third]
		centre := h * (2*part + 1) / 6
		out.LowMM, out.CentreMM, out.HighMM = new(centre-b/2), &centre, new(centre+b/2)
	}
	return out, nil
}

// DrapeIn is a string hung between two points: by its sag or by its length.
type DrapeIn struct {
	SpanMM      *float64 `json:"spanMM" need:"true" in:"length"`
	SagMM       *float64 `json:"sagMM" in:"0..10000"`
	LengthMM    *float64 `json:"lengthMM" in:"length"`
	FlagWidthMM *float64 `json:"flagWidthMM" in:"length"`
	FlagGapMM   *float64 `json:"flagGapMM" def:"0" in:"0..10000"`
	FreeEndMM   *float64 `json:"freeEndMM" def:"0" in:"0..10000"`
}

// DrapeOut is its length as a parabola and as a hanging chain, its sag, and how
// many flags it carries.
type DrapeOut struct {
	LengthMM   float64 `json:"lengthMM"`
	SagMM      float64 `json:"sagMM"`
	CatenaryMM float64 `json:"catenaryMM"`
	Flags      *int    `json:"flags,omitempty"`
}

// Drape measures a hanging string.
func Drape(in DrapeIn) (DrapeOut, error) {
	var out DrapeOut
	if err := fault.Check(&in); err != nil {
		return out, err
	}
	c := *in.SpanMM
	switch {
	case in.SagMM != nil && in.LengthMM != nil:
		return out, fault.New(fault.Contradiction, "lengthMM", "The sag gives the length: say one of the two.")
	case in.SagMM != nil:
		out.SagMM = *in.SagMM
	case in.LengthMM != nil:
		if *in.LengthMM < c-slack {
			return out, fault.New(fault.Contradiction, "lengthMM", "A string of %.1f mm does not reach over %.1f mm.", *in.LengthMM, c)
		}
		out.SagMM = bisect(0, *in.LengthMM, func(f float64) bool { return parabola(c, f) < *in.LengthMM })
	default:
		return out, missing("sagMM", "How far does it hang down, or how long is it?")
	}
	out.LengthMM, out.CatenaryMM = parabola(c, out.SagMM), catenary(c, out.SagMM)
	if in.LengthMM != nil {
		out.LengthMM = *in.LengthMM
	}
	if in.FlagWidthMM != nil {
		out.Flags = new(max(0, floor((out.LengthMM-2**in.FreeEndMM+*in.FlagGapMM)/(*in.FlagWidthMM+*in.FlagGapMM))))
	}
	return out, nil
}

func parabola(c, f float64) float64 {
	if f <= 0 {
		return c
	}
	return math.Sqrt(c*c+16*f*f)/2 + c*c/(8*f)*math.Asinh(4*f/c)
}

// catenary is the length of a chain over the chord c that hangs down by f.
func catenary(c, f float64) float64 {
	if f <= 0 {
		return c
	}
	x := bisect(0, 50, func(x float64) bool { return x == 0 || (math.Cosh(x)-1)/x < 2*f/c })
	if x == 0 {
		return c
	}
	return c * math.Sinh(x) / x
}

// bisect finds where below turns false between lo and hi.
func bisect(lo, hi float64, below func(float64) bool) float64 {
	for range 200 {
		mid := (lo + hi) / 2
		if mid == lo || mid == hi {
			break
		}
		if below(mid) {
			lo = mid
		} else {
			hi = mid
		}
	}
	return (lo + hi) / 2
}
