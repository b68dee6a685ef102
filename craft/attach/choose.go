package attach

import (
	"cmp"
	"math"
	"slices"

	"dustyfern/craft/fault"
)

// ChooseIn is a join: what is put on, where, in which state, on what, and who eats.
// Masses g, lengths mm, areas mm2, temperature C, humidity %.
type ChooseIn struct {
	MassG          *float64  `json:"massG" need:"true" in:"mass"`
	ContactMM2     *float64  `json:"contactMM2" in:"area"`
	ThicknessMM    *float64  `json:"thicknessMM" in:"0.1..500"`
	Place          *string   `json:"place" def:"side" of:"side top topEdge board piece"`
	Load           *string   `json:"load" of:"hanging resting goesRound standing"`
	StandOffMM     *float64  `json:"standOffMM" def:"0" in:"0..30"`
	WidthMM        *float64  `json:"widthMM" in:"length"`
	TierDiameterMM *float64  `json:"tierDiameterMM" in:"length"`
	Curved         bool      `json:"curved"`
	PieceState     *string   `json:"pieceState" def:"dry" of:"pliable semiDry dry cold"`
	Ground         *string   `json:"ground" def:"sugarPaste" of:"sugarPaste royalIcing freshIcing crustedIcing dryPiece freshPiece chocolate biscuit"`
	PieceFatSet    bool      `json:"pieceFatSet"`
	WaterSensitive bool      `json:"waterSensitive"`
	Line           bool      `json:"line"`
	Avoid          []string  `json:"avoid" of:"egg milk soya gelatine animal alcohol"`
	Have           *[]string `json:"have"`
	RoomTempC      *float64  `json:"roomTempC" def:"21" in:"5..40"`
	RoomRHPercent  *float64  `json:"roomRhPercent" def:"45" in:"5..99"`
	// Limits are a studio's own, g with the contact unknown and g a cm2, by attacher: from
	// joins that failed or held. They stand in place of the table's.
	Limits map[string]Limit `json:"limits"`
}

// Limit is what an attacher carries: hanging with the contact unknown, and a cm2 of contact.
type Limit struct {
	HangsG float64 `json:"hangsG"`
	PerCM2 float64 `json:"gPerCM2"`
}

// ChooseOut is what to put it on with, and how. Fits is false when nothing holds it; then
// WayOut says what would.
type ChooseOut struct {
	Fits          bool      `json:"fits"`
	Attacher      string    `json:"attacher,omitempty"`
	Others        []string  `json:"others"`
	Refused       []Refused `json:"refused"`
	Load          string    `json:"load"`
	LoadFrom      string    `json:"loadFrom"`
	LoadGPerCM2   *float64  `json:"loadGPerCM2,omitempty"`
	LimitGPerCM2  *float64  `json:"limitGPerCM2,omitempty"`
	LoadG         *float64  `json:"loadG,omitempty"`
	LimitG        *float64  `json:"limitG,omitempty"`
	GapMM         *float64  `json:"gapMM,omitempty"`
	Curve         string    `json:"curve"`
	Join          string    `json:"join,omitempty"`
	Where         string    `json:"where,omitempty"`
	Amount        string    `json:"amount,omitempty"`
	TackMinutes   *float64  `json:"tackMinutes,omitempty"`
	HoldSeconds   *float64  `json:"holdSeconds,omitempty"`
	PropMinutes   *float64  `json:"propMinutes,omitempty"`
	WaitNext      *float64  `json:"waitNextMinutes,omitempty"`
	SetsHard      *bool     `json:"setsHard,omitempty"`
	PlaceWithin   *float64  `json:"placeWithinMinutes,omitempty"`
	ColdWay       string    `json:"coldWay,omitempty"`
	Order         []string  `json:"order,omitempty"`
	Schools       []School  `json:"schools,omitempty"`
	WayOut        string    `json:"wayOut,omitempty"`
	ShareOfLimit  *float64  `json:"shareOfLimit,omitempty"`
	ContactMM2    *float64  `json:"contactMM2,omitempty"`
	TestFirst     bool      `json:"testFirst"` // over 0.8 of a limit that nobody measured: one on scrap
	StandsOffByMM float64   `json:"standsOffByMM"`
}

// Refused is an attacher that will not do, and why.
type Refused struct {
	Attacher string `json:"attacher"`
	Why      string `json:"why"`
}

// School is a question on which good makers differ.
type School struct {
	Question string `json:"question"`
	Ours     string `json:"ours"`
	Other    string `json:"other"`
}

const (
	density    = 1.35 // g/ml of paste
	followsMM  = 2.0  // a gap under it is taken up by the film
	testFrom   = 0.8
	warmC      = 24.0
	freshTill  = 120.0
	coldTill   = 5.0
	dryAirRH   = 50.0
	heavyG     = 25.0
	fullShare  = 0.6
	speckG     = 0.5
	speckMM2   = 50.0
	underMM2   = 2500.0
	bedFromG   = 2.0
	glueUpToG  = 15.0
	usualDry   = 55.0
	usualTempC = 21.0
)

// Choose finds the attacher of a join, what else would do, and why the others will not.
// Errors are *fault.Fault; docs/models/attach.md.
func Choose(in ChooseIn) (ChooseOut, error) {
	if err := in.check(); err != nil {
		return ChooseOut{}, err
	}
	out := ChooseOut{Others: []string{}, Refused: []Refused{}, Curve: "none"}
	load := in.load(&out)
	in.curve(&out)
	type fit struct {
		kept
		limit, cost float64
	}
	var fits []fit
	for _, k := range kepts {
		limit := in.limit(&k, out.LoadFrom != "mass")
		if why := in.refuses(&k, &out, load, limit); why != "" {
			out.Refused = append(out.Refused, Refused{k.name, why})
			continue
		}
		fits = append(fits, fit{k, limit, in.cost(&k, out.Load, out.LoadFrom)})
	}
	if len(fits) == 0 {
		out.WayOut = cmp.Or(map[string]string{hanging: "ledge", standing: "post"}[out.Load], "changeLimits")
		return out, nil
	}
	slices.SortStableFunc(fits, func(a, b fit) int {
		if math.Abs(a.cost-b.cost) < 1e-9 {
			return 0
		}
		return cmp.Compare(a.cost, b.cost)
	})
	for _, f := range fits[1:] {
		out.Others = append(out.Others, f.name)
	}
	out.Fits, out.Attacher = true, fits[0].name
	in.how(&out, &fits[0].kept, load, fits[0].limit)
	in.schools(&out)
	return out, nil
}

func (in *ChooseIn) check() error {
	if err := fault.Check(in); err != nil {
		return err
	}
	if in.Have != nil {
		for i, a := range *in.Have {
			if !slices.Contains(Attachers(), a) {
				return fault.New(fault.UnknownValue, at("have", i), "There is no attacher %q: one of %v.", a, Attachers())
			}
		}
	}
	for name, l := range in.Limits {
		if name == Nothing || !slices.Contains(Attachers(), name) {
			return fault.New(fault.UnknownValue, "limits."+name, "There is no attacher %q with a limit.", name)
		}
		if !(l.HangsG > 0 && l.PerCM2 > 0 && l.HangsG <= 50000 && l.PerCM2 <= 50000) {
			return fault.New(fault.OutOfRange, "limits."+name, "A limit is more than nothing and at most 50 kg.")
		}
	}
	if in.TierDiameterMM != nil {
		if in.WidthMM == nil {
			return fault.New(fault.Required, "widthMM", "How wide is the piece? A round tier leaves a gap behind what is flat.")
		}
		if *in.WidthMM > *in.TierDiameterMM && (in.Load == nil || *in.Load != goesRound) {
			return fault.New(fault.Contradiction, "widthMM", "A piece %g mm wide does not lie on a tier of %g mm: make it narrower, or let it go round.", *in.WidthMM, *in.TierDiameterMM)
		}
	}
	return nil
}

// load is what pulls at the join: g a cm2 of contact, or g with the contact unknown.
func (in *ChooseIn) load(out *ChooseOut) float64 {
	out.Load = hanging
	if in.Load != nil {
		out.Load = *in.Load
	} else if slices.Contains([]string{"top", "board", "piece"}, *in.Place) {
		out.Load = resting
	}
	share := loads[out.Load]
	switch {
	case in.ContactMM2 != nil:
		out.LoadFrom, out.ContactMM2 = "contact", in.ContactMM2
	case in.ThicknessMM != nil:
		out.LoadFrom, out.ContactMM2 = "thickness", new(1000**in.MassG/(density**in.ThicknessMM))
	default:
		out.LoadFrom = "mass"
		out.LoadG = new(*in.MassG * share)
		return *out.LoadG
	}
	out.LoadGPerCM2 = new(*in.MassG / (*out.ContactMM2 / 100) * share)
	return *out.LoadGPerCM2
}

// curve is the gap that a round tier leaves behind a flat piece, and what takes it up.
func (in *ChooseIn) curve(out *ChooseOut) {
	out.StandsOffByMM = *in.StandOffMM
	if in.TierDiameterMM == nil || out.Load == goesRound || !slices.Contains([]string{"side", "topEdge", "piece"}, *in.Place) {
		return
	}
	out.GapMM = new(*in.WidthMM * *in.WidthMM / (4 * *in.TierDiameterMM))
	if *out.GapMM <= followsMM || in.Curved {
		return
	}
	if *in.PieceState == pliable || *in.PieceState == halfDry {
		out.Curve = "fresh"
		return
	}
	out.Curve = "fill"
	out.StandsOffByMM = max(out.StandsOffByMM, *out.GapMM)
}

// limit of an attacher in this state on this ground, of the contact or of the mass.
func (in *ChooseIn) limit(k *kept, contact bool) float64 {
	limit := k.hangsG
	own, known := in.Limits[k.name]
	if known {
		limit = own.HangsG
	}
	if contact {
		limit = k.perCM2
		if known {
			limit = own.PerCM2
		}
	}
	ground, less := grounds[*in.Ground]
	if !less {
		ground = 1
	}
	return limit * k.byState[*in.PieceState] * ground
}

func (in *ChooseIn) onChocolate() bool { return in.PieceFatSet || *in.Ground == chocolate }

// refuses is the first reason why an attacher will not do; "" when it will.
func (in *ChooseIn) refuses(k *kept, out *ChooseOut, load, limit float64) string {
	wet := k.name == "water" || k.name == "gumGlue"
	onFresh := *in.Ground == fresh
	for _, r := range []struct {
		holds bool
		why   string
	}{
		{in.Have != nil && k.name != Nothing && !slices.Contains(*in.Have, k.name), "notAtHand"},
		{in.avoids(k.contains), "avoided"},
		{in.avoids(k.may), "checkLabel"},
		{k.name == Nothing && !(*in.PieceState == pliable && out.Load == goesRound || out.Load == resting && onFresh), "mustBeHeld"},
		{k.name == "meltedChocolate" && !in.onChocolate(), "onlyOnChocolate"},
		{k.name == "meltedChocolate" && *in.RoomTempC > warmC, "tooWarm"},
		{k.name == "buttercream" && out.Load == hanging && !onFresh, "restsOnly"},
		{wet && in.onChocolate(), "fatRepelsWater"},
		{k.name == "water" && onFresh, "softensIcing"},
		{k.name == "water" && in.WaterSensitive, "colourRuns"},
		{k.holdsOffMM < out.StandsOffByMM, "standsOff"},
		{out.Load == standing && !k.setsHard, "staysSoft"},
		{wet && out.Load == standing && *in.MassG > bedFromG, "noBed"},
		{k.name != Nothing && load > limit, "tooHeavy"},
	} {
		if r.holds {
			return r.why
		}
	}
	return ""
}

func (in *ChooseIn) avoids(held []string) bool {
	return slices.ContainsFunc(held, func(a string) bool {
		return slices.Contains(in.Avoid, a) || slices.Contains(in.Avoid, "animal") && a != "soya"
	})
}

// cost of an attacher here: the least is ours.
func (in *ChooseIn) cost(k *kept, load, from string) float64 {
	cost := k.cost
	for _, more := range []struct {
		holds bool
		name  string
		by    float64
	}{
		{in.WaterSensitive, "gumGlue", 0.3}, {in.WaterSensitive, "pipingGel", 0.6},
		{*in.Ground == fresh, "buttercream", -1.6}, {*in.Ground == fresh, Nothing, -0.5},
		{in.onChocolate(), "meltedChocolate", -1},
		{load == goesRound, "water", 0.6}, // a wet back slides
		{*in.PieceState == "dry" && from == "mass", "water", 0.1},
	} {
		if more.holds && more.name == k.name {
			cost += more.by
		}
	}
	return cost
}

// how it is put on: wet, tack, hold, prop, and what waits.
func (in *ChooseIn) how(out *ChooseOut, k *kept, load, limit float64) {
	nothing := k.name == Nothing
	share := 0.0
	if !nothing {
		share = min(1, load/limit)
		out.ShareOfLimit = &share
		if out.LoadFrom == "mass" {
			out.LimitG = &limit
		} else {
			out.LimitGPerCM2 = &limit
		}
	}
	room := 1.0
	if k.dries {
		room = usualDry / (100 - *in.RoomRHPercent) * pressure(usualTempC) / pressure(*in.RoomTempC)
	}
	tack, set := k.tackMinutes*room, k.setMinutes*room
	prop := 0.0
	if out.Load == standing || out.Load == hanging && (*in.MassG > heavyG || share > fullShare) {
		prop = set
	}
	out.TestFirst = share > testFrom
	out.TackMinutes, out.HoldSeconds, out.PropMinutes, out.WaitNext, out.SetsHard = &tack, new(k.holdSeconds*(1+2*share)), &prop, &set, new(k.setsHard)
	small := out.ContactMM2 == nil || *out.ContactMM2 < speckMM2
	switch {
	case nothing:
		out.Where = "none"
	case in.Line:
		out.Where = "cake"
	case *in.MassG < speckG && small:
		out.Where = "speck"
	case out.ContactMM2 != nil && *out.ContactMM2 > underMM2 && out.Load != goesRound:
		out.Where = "under"
	default:
		out.Where = "piece"
	}
	switch {
	case nothing:
		out.Amount = "none"
	case *in.PieceState == chilled:
		out.Amount = "dots"
	case out.Load == standing || out.Curve == "fill":
		out.Amount = "bed"
	case *in.Place == "topEdge":
		out.Amount = "line"
	default:
		out.Amount = "film"
	}
	out.Join = joinCode[*in.PieceState]
	if !nothing {
		out.Join += " on W"
	}
	for _, o := range []struct {
		holds bool
		code  string
	}{{true, "position"}, {!nothing, "wet"}, {tack > 0, "waitTack"}, {true, "place"}, {true, "hold"}, {prop > 0, "prop"}, {out.Load == goesRound, "closeSeam"}} {
		if o.holds {
			out.Order = append(out.Order, o.code)
		}
	}
	switch *in.PieceState {
	case chilled:
		out.PlaceWithin, out.ColdWay = new(coldTill), "atOnce"
		if *in.RoomRHPercent > dryAirRH {
			out.ColdWay = "whenMatt"
		}
	case pliable:
		out.PlaceWithin = new(freshTill)
	}
}

// pressure of water vapour over its liquid, up to a factor (Magnus).
func pressure(tempC float64) float64 { return math.Exp(17.62 * tempC / (243.12 + tempC)) }

// schools are the questions on which good makers differ, as far as they arise here.
func (in *ChooseIn) schools(out *ChooseOut) {
	other := func(ours, a, b string) string {
		if ours == a {
			return b
		}
		return a
	}
	say := func(holds bool, question, ours, theirs string) {
		if holds {
			out.Schools = append(out.Schools, School{question, ours, theirs})
		}
	}
	a := out.Attacher
	say(a == "water" || a == "gumGlue" && *in.MassG <= glueUpToG, "attacher", a, other(a, "water", "gumGlue"))
	say(out.Where == "piece" || out.Where == "cake", "where", out.Where, other(out.Where, "piece", "cake"))
	say(out.Curve != "none", "state", out.Curve, "former")
	say(out.Load == goesRound, "seam", "taper", "butt")
	say(out.Load == goesRound && slices.Contains(out.Others, Nothing), "held", a, Nothing)
	say(out.ColdWay != "", "cold", out.ColdWay, other(out.ColdWay, "atOnce", "whenMatt"))
}
