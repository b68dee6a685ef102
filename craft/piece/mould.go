// Package piece is what a piece is and how it comes about: quantities by
// technique, spares, the demands it makes on its paste and the chain of its
// steps. So far: pieces pressed in a mould, straight or chilled.
package piece

import (
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
)

// Tolerances of a ball against the mould's mass: an under-fill shows, an
// over-fill is trimmed (assumed). Paste to knead is a little more (assumed).
const (
	waterDensity   = 0.998 // g/ml
	weighedMargin  = 1.03
	trimmedMargin  = 1.15
	tolerateDigits = 1e-9
)

// PieceIn is what is known of a cavity: a weighed trial piece beats the water
// it holds, which beats its volume.
type PieceIn struct {
	TrialPieceG        *float64 `json:"trialPieceG" in:"mass"`
	TrialDensityGPerML *float64 `json:"trialDensityGPerML" in:"density"`
	WaterG             *float64 `json:"waterG" in:"0.01..5000"`
	CavityML           *float64 `json:"cavityML" in:"0.01..5000"`
	DensityGPerML      *float64 `json:"densityGPerML" def:"1.35" in:"density"`
	UnderShare         *float64 `json:"underShare" def:"0.02" in:"0..0.5"`
	OverShare          *float64 `json:"overShare" def:"0.04" in:"0..0.5"`
	RopeMM             *float64 `json:"ropeMM" in:"length"`
	FrontML            *float64 `json:"frontML" in:"0.01..5000"`
	FrontDensityGPerML *float64 `json:"frontDensityGPerML" in:"density"`
	WeighedG           *float64 `json:"weighedG" in:"mass"`
}

// PieceOut is the mass of one piece with the band of its ball.
type PieceOut struct {
	From                 string   `json:"from"`
	MassG                float64  `json:"massG"`
	LowG                 float64  `json:"lowG"`
	HighG                float64  `json:"highG"`
	VolumeML             float64  `json:"volumeML"`
	BallDiameterMM       float64  `json:"ballDiameterMM"`
	ImpliedDensityGPerML *float64 `json:"impliedDensityGPerML,omitempty"`
	RopeLengthMM         *float64 `json:"ropeLengthMM,omitempty"`
	FrontG               *float64 `json:"frontG,omitempty"`
	BackG                *float64 `json:"backG,omitempty"`
	Verdict              string   `json:"verdict,omitempty"`
	DifferenceG          *float64 `json:"differenceG,omitempty"`
}

// OnePiece gives the mass of one piece of a mould in a paste of the density
// given, and its ball.
func OnePiece(in PieceIn) (PieceOut, error) {
	if err := fault.Check(&in); err != nil {
		return PieceOut{}, err
	}
	rho := *in.DensityGPerML
	var out PieceOut
	var volume *float64
	if in.WaterG != nil {
		volume = new(*in.WaterG / waterDensity)
	} else if in.CavityML != nil {
		volume = in.CavityML
	}
	switch {
	case in.TrialPieceG != nil:
		trialRho := rho
		if in.TrialDensityGPerML != nil {
			trialRho = *in.TrialDensityGPerML
		}
		out.From, out.VolumeML = "trial", *in.TrialPieceG/trialRho
		out.MassG = out.VolumeML * rho
		if volume != nil {
			out.ImpliedDensityGPerML = new(*in.TrialPieceG / *volume)
		}
	case volume != nil:
		out.From = "volume"
		if in.WaterG != nil {
			out.From = "water"
		}
		out.VolumeML, out.MassG = *volume, *volume*rho
	default:
		return out, fault.New(fault.Required, "trialPieceG", "Weigh one trial piece, or say what the cavity holds in water or in ml.")
	}
	out.LowG, out.HighG = out.MassG*(1-*in.UnderShare), out.MassG*(1+*in.OverShare)
	out.BallDiameterMM = 10 * math.Cbrt(6*out.MassG/(math.Pi*rho))
	if in.RopeMM != nil {
		out.RopeLengthMM = new(4000 * out.MassG / (math.Pi * rho * *in.RopeMM * *in.RopeMM))
	}
	if in.FrontML != nil {
		if *in.FrontML > out.VolumeML+tolerateDigits {
			return out, fault.New(fault.Contradiction, "frontML", "The front layer of %.2f ml is larger than the cavity of %.2f ml.", *in.FrontML, out.VolumeML)
		}
		front := rho
		if in.FrontDensityGPerML != nil {
			front = *in.FrontDensityGPerML
		}
		out.FrontG, out.BackG = new(front**in.FrontML), new(rho*(out.VolumeML-*in.FrontML))
	}
	if w := in.WeighedG; w != nil {
		out.Verdict, out.DifferenceG = "good", new(0.0)
		switch {
		case *w < out.LowG-tolerateDigits:
			out.Verdict, *out.DifferenceG = "under", out.MassG-*w
		case *w > out.HighG+tolerateDigits:
			out.Verdict, *out.DifferenceG = "trim", *w-out.MassG
		}
	}
	return out, nil
}

// BatchIn asks for the balls of a batch.
type BatchIn struct {
	Wanted        *int     `json:"wanted" need:"true" in:"0..5000"`
	PieceG        *float64 `json:"pieceG" need:"true" in:"mass"`
	ScaleStepG    *float64 `json:"scaleStepG" def:"0.1" in:"0.001..50"`
	UnderShare    *float64 `json:"underShare" def:"0.02" in:"0..0.5"`
	OverShare     *float64 `json:"overShare" def:"0.04" in:"0..0.5"`
	Breakage      *string  `json:"breakage" of:"robust ordinary delicate fragile"`
	Technique     *string  `json:"technique" of:"moulded branching string cut thin lace openwork standing"`
	Kinds         *int     `json:"kinds" def:"1" in:"1..200"`
	Made          *int     `json:"made" def:"0" in:"0..100000"`
	Broken        *int     `json:"broken" def:"0" in:"0..100000"`
	Certainty     *float64 `json:"certainty" def:"0.95" in:"0.01..0.9999"`
	Trimmed       *bool    `json:"trimmed"`
	TrimLossShare *float64 `json:"trimLossShare" in:"0..0.9"`
	Cavities      *int     `json:"cavities" def:"1" in:"1..100000"`
	Moulds        *int     `json:"moulds" def:"1" in:"1..100000"`
}

// BatchOut is the batch: balls to make with spares, the weight to aim at on
// this scale (or a rope to cut), paste to knead, and fills of the mould.
type BatchOut struct {
	Make        int      `json:"make"`
	Spares      int      `json:"spares"`
	LowG        float64  `json:"lowG"`
	HighG       float64  `json:"highG"`
	Readings    Readings `json:"readings"` // of the scale, inside the band
	TooCoarse   bool     `json:"tooCoarse"`
	AimG        *float64 `json:"aimG,omitempty"`
	RopePieces  *int     `json:"ropePieces,omitempty"`
	RopeG       *float64 `json:"ropeG,omitempty"`
	PasteG      float64  `json:"pasteG"`
	Fills       int      `json:"fills"`
	Cycles      int      `json:"cycles"`
	Probability float64  `json:"probability"`

	CertaintyEach float64 `json:"certaintyEach"`
}

// Readings are what a scale can show inside a band.
type Readings struct {
	Count int      `json:"count"`
	FromG *float64 `json:"fromG,omitempty"`
	ToG   *float64 `json:"toG,omitempty"`
	Text  string   `json:"text"`
}

// Batch counts the balls of a batch and weighs its paste.
func Batch(in BatchIn) (BatchOut, error) {
	if err := fault.Check(&in); err != nil {
		return BatchOut{}, err
	}
	s, err := Spares(SpareIn{Wanted: in.Wanted, Breakage: in.Breakage, Technique: in.Technique, Kinds: in.Kinds, Made: in.Made, Broken: in.Broken, Certainty: in.Certainty})
	if err != nil {
		return BatchOut{}, err
	}
	m, u, o, r := *in.PieceG, *in.UnderShare, *in.OverShare, *in.ScaleStepG
	out := BatchOut{Make: s.Make, Spares: s.Spares, Probability: s.Probability, CertaintyEach: s.CertaintyEach, LowG: m * (1 - u), HighG: m * (1 + o)}
	inside := measure.Readings(out.LowG, out.HighG, r)
	out.Readings = Readings{*inside.Count, inside.FromG, inside.ToG, inside.Text}
	aim := measure.Round((out.LowG+out.HighG)/2, r)
	each := m
	if r <= m*(u+o)+tolerateDigits {
		out.AimG, each = &aim, aim
	} else {
		n := 1 << 20
		if band := m * (u + o); band > 0 {
			n = max(2, measure.Ceil(r/band))
		}
		out.TooCoarse, out.RopePieces, out.RopeG = true, &n, new(float64(n)*m)
	}
	allowance := weighedMargin
	switch {
	case in.TrimLossShare != nil:
		allowance = 1 / (1 - *in.TrimLossShare)
	case in.Trimmed != nil && *in.Trimmed:
		allowance = trimmedMargin
	}
	out.PasteG = float64(out.Make) * each * allowance
	out.Fills = (out.Make + *in.Cavities - 1) / *in.Cavities
	out.Cycles = (out.Fills + *in.Moulds - 1) / *in.Moulds
	return out, nil
}

// StringsIn asks how many moulded strips make a run.
type StringsIn struct {
	RunMM       *float64 `json:"runMM" need:"true" in:"length"`
	StripMM     *float64 `json:"stripMM" need:"true" in:"length"`
	JoinMM      *float64 `json:"joinMM" def:"0" in:"gap"`
	Closed      *bool    `json:"closed"`
	BeadPitchMM *float64 `json:"beadPitchMM" in:"length"`
}

// StringsOut is the count of strips, what is spare at the end, and the length
// of a strip that is used.
type StringsOut struct {
	Strips  int     `json:"strips"`
	SpareMM float64 `json:"spareMM"`
	StripMM float64 `json:"stripMM"`
}

// Strings lays strips end to end, each join eating joinMM.
func Strings(in StringsIn) (StringsOut, error) {
	if err := fault.Check(&in); err != nil {
		return StringsOut{}, err
	}
	l, j, run := *in.StripMM, *in.JoinMM, *in.RunMM
	if p := in.BeadPitchMM; p != nil {
		n := measure.Floor(l / *p)
		if n < 1 {
			return StringsOut{}, fault.New(fault.Contradiction, "beadPitchMM", "Not one whole bead of %g mm fits a strip of %g mm.", *p, l)
		}
		l = float64(n) * *p
	}
	if j >= l {
		return StringsOut{}, fault.New(fault.Contradiction, "joinMM", "A join of %g mm eats the whole strip of %g mm.", j, l)
	}
	out := StringsOut{StripMM: l}
	if in.Closed != nil && *in.Closed {
		out.Strips = measure.Ceil(run / (l - j))
		out.SpareMM = float64(out.Strips)*(l-j) - run
	} else {
		out.Strips = max(1, measure.Ceil((run-j)/(l-j)))
		out.SpareMM = float64(out.Strips)*l - float64(out.Strips-1)*j - run
	}
	return out, nil
}

// CycleIn is one mould's round: filled, held in the freezer, opened.
type CycleIn struct {
	FillMinutes    *float64 `json:"fillMinutes" need:"true" in:"minutes"`
	FreezeMinutes  *float64 `json:"freezeMinutes" need:"true" in:"0..10080"`
	UnmouldMinutes *float64 `json:"unmouldMinutes" need:"true" in:"minutes"`
	Moulds         *int     `json:"moulds" need:"true" in:"1..100000"`
	FreezerPlaces  *int     `json:"freezerPlaces" in:"1..100000"`
	Cavities       *int     `json:"cavities" def:"1" in:"1..100000"`
	Fills          *int     `json:"fills" in:"0..100000"`
}

// CycleOut is the steady rate, the copies that keep one worker busy, and how
// long all the fills take.
type CycleOut struct {
	MouldsPerHour      float64  `json:"mouldsPerHour"`
	PiecesPerHour      float64  `json:"piecesPerHour"`
	MouldsForOneWorker int      `json:"mouldsForOneWorker"`
	MakespanMinutes    *float64 `json:"makespanMinutes,omitempty"`
}

// Cycle gives the rate of moulds worked in rounds by one person.
func Cycle(in CycleIn) (CycleOut, error) {
	if err := fault.Check(&in); err != nil {
		return CycleOut{}, err
	}
	f, z, u := *in.FillMinutes, *in.FreezeMinutes, *in.UnmouldMinutes
	k := *in.Moulds
	if in.FreezerPlaces != nil {
		k = min(k, *in.FreezerPlaces)
	}
	out := CycleOut{
		MouldsPerHour:      60 * math.Min(1/(f+u), float64(k)/(f+u+z)),
		MouldsForOneWorker: measure.Ceil((f + u + z) / (f + u)),
	}
	out.PiecesPerHour = out.MouldsPerHour * float64(*in.Cavities)
	if in.Fills != nil {
		out.MakespanMinutes = new(makespan(f, z, u, k, *in.Fills))
	}
	return out, nil
}

// makespan lives through the rounds: open the mould that is ready and refill
// it at once, else fill a free one, else wait.
func makespan(f, z, u float64, k, fills int) float64 {
	now, filled, done := 0.0, 0, 0
	var busy []float64
	for done < fills {
		switch {
		case len(busy) > 0 && busy[0] <= now+tolerateDigits:
			busy = busy[1:]
			done++
			now += u
			if filled < fills {
				now += f
				filled++
				busy = append(busy, now+z)
			}
		case filled < fills && len(busy) < k:
			now += f
			filled++
			busy = append(busy, now+z)
		default:
			now = busy[0]
		}
	}
	return now
}

// EnoughWeighings of a mould beat one trial piece (assumed).
const EnoughWeighings = 3
