package finish

import (
	"math"

	"dustyfern/craft/drying"
	"dustyfern/craft/fault"
)

// FadeIn is an airbrush's fade on the side of a tier, from its foot up. Lengths mm, the
// cone's half angle in degrees; SeenShare is how much of the ground one scrap lost to
// sight after SeenPasses.
type FadeIn struct {
	RunMM           *float64 `json:"runMM" need:"true" in:"length"`
	HeightMM        *float64 `json:"heightMM" need:"true" in:"1..2000"`
	FadeToMM        *float64 `json:"fadeToMM" in:"1..2000"`
	CoverLowShare   *float64 `json:"coverLowShare" def:"0.8" in:"0..0.98"`
	CoverHighShare  *float64 `json:"coverHighShare" def:"0" in:"0..0.98"`
	DistanceMM      *float64 `json:"distanceMM" def:"120" in:"10..500"`
	HalfAngleDeg    *float64 `json:"halfAngleDeg" def:"12" in:"1..45"`
	FlowMLPerMinute *float64 `json:"flowMLPerMinute" def:"1" in:"0.01..100"`
	HandMMPerSecond *float64 `json:"handMMPerSecond" def:"100" in:"1..2000"`
	DropsPerML      *float64 `json:"dropsPerML" def:"4" in:"0.1..30"`
	Bands           *int     `json:"bands" in:"1..2000"`
	RoomTempC       *float64 `json:"roomTempC" def:"21" in:"5..40"`
	RoomRHPercent   *float64 `json:"roomRhPercent" def:"45" in:"5..99"`
	SeenShare       *float64 `json:"seenShare" in:"0.01..0.99"`
	SeenPasses      *float64 `json:"seenPasses" in:"0.1..1000"`
	SeenDropsPerML  *float64 `json:"seenDropsPerML" in:"0.1..30"`
}

// FadeOut are the rows from below, what they take and how it comes out.
type FadeOut struct {
	SigmaMM        float64 `json:"sigmaMM"`
	SpotMM         float64 `json:"spotMM"`
	BandMM         float64 `json:"bandMM"`
	Bands          []Band  `json:"bands"`
	Passes         int     `json:"passes"`
	SprayMinutes   float64 `json:"sprayMinutes"`
	LiquidML       float64 `json:"liquidML"`
	Drops          float64 `json:"drops"`
	WorstShare     float64 `json:"worstShare"`
	Rounds         int     `json:"rounds"`
	WaitMinutes    float64 `json:"waitMinutes"`
	OversprayShare float64 `json:"oversprayShare"`
	Stripes        bool    `json:"stripes"`
	CoverConstant  float64 `json:"coverConstant"`
	Advice         string  `json:"advice"` // good, lessColour, moreColour, furtherOff
}

// Band is one row of passes at a height; rows off the tier want no cover.
type Band struct {
	AtMM       float64  `json:"atMM"`
	Passes     int      `json:"passes"`
	WantShare  *float64 `json:"wantShare,omitempty"`
	CoverShare *float64 `json:"coverShare,omitempty"`
}

// The spray (assumed): what covers by how much, what runs, when rows show as stripes.
const (
	coverK      = 0.20
	nozzleMM    = 0.5
	runsUL      = 0.03 // ul on a mm2 in one round
	stripePitch = 1.5
	edgeFrom    = 0.1
	fewPasses   = 3
	manyPasses  = 60
	nextRound   = 0.6
)

// Fade plans an airbrush's fade in rows. Errors are *fault.Fault; docs/models/finish.md.
func Fade(in FadeIn) (FadeOut, error) {
	if err := in.check(); err != nil {
		return FadeOut{}, err
	}
	sigma := nozzleMM + *in.DistanceMM*math.Tan(*in.HalfAngleDeg*math.Pi/180)/2
	flow := *in.FlowMLPerMinute * 1000 / 60 // ul/s
	peak := flow / (*in.HandMMPerSecond * sigma * math.Sqrt(2*math.Pi))
	k := coverK
	if in.SeenShare != nil {
		drops := *in.DropsPerML
		if in.SeenDropsPerML != nil {
			drops = *in.SeenDropsPerML
		}
		k = -peak * *in.SeenPasses * drops / math.Log(1-*in.SeenShare)
	}
	n := int(math.Ceil(*in.FadeToMM/sigma - 1e-9))
	if in.Bands != nil {
		n = *in.Bands
	}
	h := *in.FadeToMM / float64(n)
	passes := func(want float64) int {
		return int(math.Floor(-k*math.Log(1-want) / *in.DropsPerML * *in.HandMMPerSecond * h / flow + 0.5))
	}
	var rows []Band
	if *in.CoverLowShare > edgeFrom {
		rows = append(rows, Band{AtMM: -h / 2, Passes: passes(*in.CoverLowShare)})
	}
	for b := range n {
		y := (float64(b) + 0.5) * h
		want := *in.CoverLowShare + (*in.CoverHighShare-*in.CoverLowShare)*y / *in.FadeToMM
		rows = append(rows, Band{AtMM: y, Passes: passes(want), WantShare: &want})
	}
	if *in.CoverHighShare > edgeFrom {
		rows = append(rows, Band{AtMM: *in.FadeToMM + h/2, Passes: passes(*in.CoverHighShare)})
	}
	out := FadeOut{SigmaMM: sigma, SpotMM: 4 * sigma, BandMM: h, Bands: rows, Stripes: h > stripePitch*sigma, CoverConstant: k}
	wettest, most, over := 0.0, 0, 0.0
	for i := range rows {
		r := &rows[i]
		out.Passes += r.Passes
		most = max(most, r.Passes)
		over += float64(r.Passes) * (1 - phi((*in.HeightMM-r.AtMM)/sigma) + phi(-r.AtMM/sigma))
		laid := 0.0
		for _, o := range rows {
			z := (r.AtMM - o.AtMM) / sigma
			laid += float64(o.Passes) * peak * math.Exp(-z*z/2)
		}
		wettest = max(wettest, laid)
		if r.WantShare == nil {
			continue
		}
		r.CoverShare = new(1 - math.Exp(-*in.DropsPerML/k*laid))
		out.WorstShare = max(out.WorstShare, math.Abs(*r.CoverShare-*r.WantShare))
	}
	if out.Passes > 0 {
		out.OversprayShare = over / float64(out.Passes)
	}
	out.SprayMinutes = float64(out.Passes) * *in.RunMM / *in.HandMMPerSecond / 60
	out.LiquidML = flow * out.SprayMinutes * 60 / 1000
	out.Drops = out.LiquidML * *in.DropsPerML
	out.Rounds = int(math.Ceil(wettest/runsUL - 1e-9))
	coat, err := coatMinutes("spiritWash", *in.RoomTempC, *in.RoomRHPercent)
	if err != nil {
		return FadeOut{}, err
	}
	out.WaitMinutes = float64(max(0, out.Rounds-1)) * nextRound * coat
	switch {
	case out.Passes == 0:
		out.Advice = "lessColour"
	case out.Stripes:
		out.Advice = "furtherOff"
	case most < fewPasses && *in.CoverLowShare > 0.2:
		out.Advice = "lessColour"
	case out.Passes > manyPasses:
		out.Advice = "moreColour"
	default:
		out.Advice = "good"
	}
	return out, nil
}

func (in *FadeIn) check() error {
	if err := fault.Check(in); err != nil {
		return err
	}
	if in.FadeToMM == nil {
		in.FadeToMM = in.HeightMM
	}
	switch {
	case *in.FadeToMM > *in.HeightMM:
		return fault.New(fault.Contradiction, "fadeToMM", "The fade ends at %g mm, above a tier of %g mm.", *in.FadeToMM, *in.HeightMM)
	case in.SeenShare != nil && in.SeenPasses == nil:
		return fault.New(fault.Required, "seenPasses", "After how many passes was the scrap covered so far?")
	case in.SeenPasses != nil && in.SeenShare == nil:
		return fault.New(fault.Required, "seenShare", "How much of the scrap was covered after these passes?")
	}
	return nil
}

func phi(z float64) float64 { return 0.5 * math.Erfc(-z/math.Sqrt2) }

// coatMinutes are how long one coat dries in a room.
func coatMinutes(coat string, tempC, rhPercent float64) (float64, error) {
	out, err := drying.Coat(drying.CoatIn{Coat: &coat, TempC: &tempC, RHPercent: &rhPercent})
	return out.P50Minutes, err
}
