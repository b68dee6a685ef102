package paste

import (
	"slices"

	"dustyfern/craft/fault"
)

// Demand is what a piece asks of its paste: an interval of gum strength, in %.
// To 0 means no top.
type Demand struct {
	Code     string
	From, To float64
	Hard     bool
	Reason   string
}

// Demands in the order in which they are told. The numbers are assumed
// (docs/models/paste.md); a kitchen may move them.
var Demands = []Demand{
	{"cut", 0.7, 0, false, "softer paste drags under the cutter or knife"},
	{"embossed", 0.7, 0, false, "softer paste lets a pattern sag"},
	{"scrapedLace", 1.2, 2.2, true, "scraped lace must lift out whole, yet be pressed into a bare mould"},
	{"lippedOpenwork", 1.8, 0, true, "windows cut by the mould's lip need edges that survive handling"},
	{"strands", 1.4, 0, true, "long thin strands stretch and snap when they are carried"},
	{"hung", 1.4, 0, true, "hung, or laid cold round a curve, softer paste stretches under its own weight"},
	{"faces", 1.4, 0, true, "fine faces, limbs and undercuts tear in soft paste"},
	{"deepMould", 2.4, 0, true, "a deep form that can lock lets go without damage only when the paste is stiff"},
	{"branching", 2.4, 0, true, "deep forks come out in one pull only when the paste is stiff"},
	{"shell", 3.5, 6.5, true, "a solid dome must set like a shell"},
	{"thinPetals", 1.4, 0, false, "edges thinner than 0.6 mm need gum"},
	{"folded", 0.6, 1.8, false, "tucked like fabric: softer droops, stiffer cracks"},
	{"wrapped", 1.0, 3.0, false, "bent round a curve after release: softer sags, stiffer cracks"},
	{"upright", 1.8, 0, true, "it stands or spans unsupported while still soft"},
	{"standsDry", 1.4, 0, false, "dried flat, then stood up: it must be stiff when dry"},
	{"paintedRigid", 1.4, 0, false, "painted all over and handled as a solid, it must not give"},
	{"paintedBand", 1.0, 1.6, false, "painted flat and bent when the paint is dry: softer smears, stiffer cracks the paint"},
	{"carries", 2.0, 0, true, "it carries another piece"},
	{"knifeThrough", 0, 1.9, true, "the cake knife must pass through it"},
	{"mouthful", 0, 1.0, false, "eaten as a mouthful, it must be soft to bite"},
	{"nibbled", 0, 2.0, false, "nibbled at the edge, mostly looked at"},
	{"shown", 0, 0, false, "only looked at: it may be as hard as it likes"},
	{"handledSoon", 1.4, 0, false, "it is handled within 6 hours of making"},
	{"staysPliable", 0, 1.6, false, "it stays pliable in a bag until it is put on"},
	{"dampRoom", 1.6, 0, false, "above 65 % humidity it must hold its shape"},
}

// What chilling and holding ease, and the room that lets standing dough slump.
const (
	chillEases    = 0.2 // of deepMould and branching
	supportEases  = 0.6 // of upright
	standingBelow = 4.0 // °C below its soft point for dough that stands
	topStrength   = 3.0
)

// Sizes that add demands by themselves (assumed).
const (
	deepFromMM     = 12.0
	askFromMM      = 20.0
	deepOverWide   = 0.8
	strandOverWide = 20.0
	slimUpright    = 8.0
	thinEdgeMM     = 0.6
	dampAbove      = 65.0 // % RH
)

// AdviseIn is a piece as its paste sees it: demands by code, sizes that add
// demands by themselves, and the room.
type AdviseIn struct {
	Demands        []string `json:"demands"`
	ChildrenServed *bool    `json:"childrenServed"`
	Chilled        *bool    `json:"chilled"`
	Supported      *bool    `json:"supported"`
	TrueWhite      *bool    `json:"trueWhite"`
	OpenForm       *bool    `json:"openForm"`
	Undercut       *bool    `json:"undercut"`
	Have           []string `json:"have"`
	TempC          *float64 `json:"tempC" def:"21" in:"-30..60"`
	RHPercent      *float64 `json:"rhPercent" def:"45" in:"0..100"`
	SoftPointC     *float64 `json:"softPointC" def:"24" in:"10..40"`
	PlainPercent   *float64 `json:"plainPercent" def:"0.40" in:"strength"`
	DepthMM        *float64 `json:"depthMM" in:"length"`
	WidthMM        *float64 `json:"widthMM" in:"length"`
	LengthMM       *float64 `json:"lengthMM" in:"length"`
	HeightMM       *float64 `json:"heightMM" in:"length"`
	ThicknessMM    *float64 `json:"thicknessMM" in:"length"`
	EdgeMM         *float64 `json:"edgeMM" in:"0.01..10000"`
}

// Range is an interval of gum strength in %; To absent has no top.
type Range struct {
	From float64  `json:"fromPercent"`
	To   *float64 `json:"toPercent,omitempty"`
}

// Bar is a demand that applies, its interval as it stands here, and whether
// the advised strength meets it.
type Bar struct {
	Code        string   `json:"code"`
	Hard        bool     `json:"hard"`
	FromPercent *float64 `json:"fromPercent,omitempty"`
	ToPercent   *float64 `json:"toPercent,omitempty"`
	Met         *bool    `json:"met,omitempty"`
	Reason      string   `json:"reason"`
}

// Suggestion is something to do beside the paste.
type Suggestion struct {
	Do     string `json:"do"`
	Reason string `json:"reason"`
}

// FatSet says whether chocolate dough or marzipan would serve.
type FatSet struct {
	Allowed    bool     `json:"allowed"`
	ExcludedBy []string `json:"excludedBy,omitempty"`
	Against    []string `json:"against,omitempty"`
}

// Peg is the strength that the use of a piece would take.
type Peg struct {
	Percent float64 `json:"percent"`
	For     string  `json:"for"` // mouthful, nibbled, shown or notSaid
}

// WayOut opens an empty window.
type WayOut struct {
	Do            string   `json:"do"`
	FromPercent   *float64 `json:"fromPercent,omitempty"`
	ToPercent     *float64 `json:"toPercent,omitempty"`
	SoftPart      *Range   `json:"softPart,omitempty"`
	FirmPart      *Range   `json:"firmPart,omitempty"`
	FirmShareMost *float64 `json:"firmShareMost,omitempty"`
}

// Advice is the firmness window of a piece and the paste for it; or, when
// Empty, the two demands that clash and the ways out.
type Advice struct {
	Empty           bool         `json:"empty"`
	Demands         []Bar        `json:"demands"`
	Advice          []Suggestion `json:"advice"`
	Ask             []string     `json:"ask"`
	FatSet          FatSet       `json:"fatSet"`
	Window          *Range       `json:"window,omitempty"`
	Peg             *Peg         `json:"peg,omitempty"`
	StrengthPercent *float64     `json:"strengthPercent,omitempty"`
	GoodToPercent   *float64     `json:"goodToPercent,omitempty"`
	SoftBroken      *int         `json:"softBroken,omitempty"`
	Use             *Way         `json:"use,omitempty"`
	Beside          []Way        `json:"beside,omitzero"`
	Clash           []string     `json:"clash,omitempty"`
	WaysOut         []WayOut     `json:"waysOut,omitzero"`
}

func yes(b *bool) bool { return b != nil && *b }

// IsDemand reports whether code names a demand.
func IsDemand(code string) bool {
	return slices.ContainsFunc(Demands, func(d Demand) bool { return d.Code == code })
}

// asked gathers the demands of a piece, those of its sizes included.
func asked(in *AdviseIn) (map[string]bool, error) {
	on := map[string]bool{}
	for _, c := range in.Demands {
		if !IsDemand(c) {
			return nil, fault.New(fault.UnknownValue, "demands", "There is no demand %q.", c)
		}
		on[c] = true
	}
	if in.Have != nil && len(in.Have) == 0 {
		return nil, fault.New(fault.Required, "have", "List what is there, or leave it out: then everything can be had.")
	}
	for _, c := range in.Have {
		if _, ok := KindOf(c); !ok && c != "hardener" {
			return nil, fault.New(fault.UnknownValue, "have", "There is no paste %q: name pastes of the shelf, or hardener.", c)
		}
	}
	if yes(in.Undercut) && yes(in.OpenForm) {
		return nil, fault.New(fault.Contradiction, "openForm", "A form that is widest at its mouth has no undercut: say one of the two.")
	}
	if in.HeightMM != nil && in.ThicknessMM == nil {
		return nil, fault.New(fault.Required, "thicknessMM", "A height alone does not say whether it stands slim: give the thickness as well.")
	}
	if in.LengthMM != nil && in.WidthMM == nil {
		return nil, fault.New(fault.Required, "widthMM", "A length alone does not say whether it is a strand: give the width as well.")
	}
	if d := in.DepthMM; d != nil && *d >= deepFromMM {
		closed := in.WidthMM != nil && *d / *in.WidthMM > deepOverWide && !yes(in.OpenForm)
		if yes(in.Undercut) || closed {
			on["deepMould"] = true
		}
	}
	if in.LengthMM != nil && *in.LengthMM / *in.WidthMM > strandOverWide {
		on["strands"] = true
	}
	if in.HeightMM != nil && *in.HeightMM / *in.ThicknessMM > slimUpright && !on["standsDry"] {
		on["upright"] = true
	}
	if in.EdgeMM != nil && *in.EdgeMM < thinEdgeMM {
		on["thinPetals"] = true
	}
	if *in.RHPercent > dampAbove {
		on["dampRoom"] = true
	}
	return on, nil
}

// Advise finds the window, the strength that breaks fewest wishes (then the
// nearest to what its use would take) and how to come to it.
func Advise(in AdviseIn) (Advice, error) {
	if err := fault.Check(&in); err != nil {
		return Advice{}, err
	}
	on, err := asked(&in)
	if err != nil {
		return Advice{}, err
	}
	children, chilled, supported := yes(in.ChildrenServed), yes(in.Chilled), yes(in.Supported)
	ds := demandsHere(on, children, chilled, supported)
	out := Advice{Demands: []Bar{}, Advice: []Suggestion{}, Ask: asks(&in, on), FatSet: fatSet(&in, on)}
	for _, d := range ds {
		b := Bar{Code: d.Code, Hard: d.Hard, Reason: d.Reason}
		if d.From > 0 {
			b.FromPercent = &d.From
		}
		if d.To > 0 {
			b.ToPercent = &d.To
		}
		out.Demands = append(out.Demands, b)
	}
	if !chilled && (on["strands"] || on["hung"] || on["faces"] || on["deepMould"] || on["branching"]) {
		out.Advice = append(out.Advice, Suggestion{"chill", "Five to ten minutes in the freezer and it releases cleanly; the paste stays as it is."})
	}
	w, ok := window(ds, all)
	if !ok {
		out.Empty = true
		out.clashes(&in, on, ds)
		return out, nil
	}
	plain := *in.PlainPercent
	peg := pegOf(on, w, plain)
	e, broken := choose(ds, w, plain, peg.Percent)
	sp := span{e: e, floor: floorOf(ds, e), top: goodTo(ds, w, e), plain: plain, painted: on["paintedRigid"]}
	out.Window, out.Peg, out.StrengthPercent, out.GoodToPercent, out.SoftBroken = &w, &peg, &e, &sp.top, &broken
	out.Use = new(sp.use(in.Have))
	for i, d := range ds {
		out.Demands[i].Met = new(d.meets(e))
	}
	out.Beside = sp.beside(on, w, out.Use.Way)
	return out, nil
}

// asks is what the answer hangs on and nobody has said.
func asks(in *AdviseIn, on map[string]bool) []string {
	ask := []string{}
	if use(on) == "notSaid" {
		ask = append(ask, "use")
	}
	if d := in.DepthMM; d != nil && *d >= askFromMM && in.Undercut == nil && !yes(in.OpenForm) && !on["deepMould"] {
		ask = append(ask, "undercut")
	}
	return ask
}

// use is how a piece is eaten: the mouthful counts first, then the nibble.
func use(on map[string]bool) string {
	for _, u := range []string{"mouthful", "nibbled", "shown"} {
		if on[u] {
			return u
		}
	}
	return "notSaid"
}

// Pegs by use, % gum (assumed); a mouthful takes the softest that does it.
const (
	pegNibbled = 1.4
	pegShown   = 1.6
	pegPainted = 1.5
)

func pegOf(on map[string]bool, w Range, plain float64) Peg {
	p := Peg{pegShown, use(on)}
	switch p.For {
	case "mouthful":
		p.Percent = plain
		if w.From > plain || w.To != nil && *w.To < plain {
			p.Percent = w.From
		}
	case "nibbled":
		p.Percent = pegNibbled
	}
	if p.Percent == pegShown && on["paintedRigid"] && p.For != "mouthful" {
		p.Percent = pegPainted
	}
	return p
}

// Broken names the demands of a piece that strength e does not meet.
func Broken(a Advice, e float64) []string {
	var out []string
	for _, b := range a.Demands {
		if b.FromPercent != nil && e < *b.FromPercent-1e-9 || b.ToPercent != nil && e > *b.ToPercent+1e-9 {
			out = append(out, b.Code)
		}
	}
	return out
}

// neverOfDough are the demands that a fat-set dough never meets.
var neverOfDough = map[string]bool{"strands": true, "hung": true, "faces": true, "branching": true, "shell": true, "thinPetals": true, "carries": true}

func fatSet(in *AdviseIn, on map[string]bool) FatSet {
	var f FatSet
	t, soft := *in.TempC, *in.SoftPointC
	warm := t > soft-standingBelow
	for _, d := range Demands {
		if !on[d.Code] {
			continue
		}
		switch {
		case neverOfDough[d.Code],
			d.Code == "deepMould" && yes(in.Undercut),
			d.Code == "upright" && (!yes(in.Supported) || warm),
			d.Code == "standsDry" && warm:
			f.ExcludedBy = append(f.ExcludedBy, d.Code)
		}
	}
	if t >= soft {
		f.ExcludedBy = append(f.ExcludedBy, "roomAboveSoftPoint")
	}
	f.Allowed = len(f.ExcludedBy) == 0
	if yes(in.TrueWhite) {
		f.Against = []string{"trueWhite"}
	}
	return f
}

// clashes names the two hard demands that leave no room between them, and
// every way out.
func (a *Advice) clashes(in *AdviseIn, on map[string]bool, ds []Demand) {
	var lower, upper Demand
	for _, d := range ds {
		if !d.Hard {
			continue
		}
		if d.From > lower.From {
			lower = d
		}
		if d.To > 0 && (upper.To == 0 || d.To < upper.To) {
			upper = d
		}
	}
	a.Clash = []string{lower.Code, upper.Code}
	children, chilled, supported := yes(in.ChildrenServed), yes(in.Chilled), yes(in.Supported)
	for _, w := range []struct {
		do             string
		chill, support bool
	}{{"chill", true, false}, {"support", false, true}, {"chillAndSupport", true, true}} {
		if w.chill && chilled || w.support && supported {
			continue
		}
		if r, ok := window(demandsHere(on, children, chilled || w.chill, supported || w.support), all); ok {
			a.WaysOut = append(a.WaysOut, WayOut{Do: w.do, FromPercent: &r.From, ToPercent: r.To})
			break
		}
	}
	soft, _ := window(ds, func(d Demand) bool { return d.From <= upper.To })
	firm, _ := window(ds, func(d Demand) bool { return d.To == 0 || d.To >= lower.From })
	a.WaysOut = append(a.WaysOut, WayOut{Do: "splitThePiece", SoftPart: &soft, FirmPart: &firm})
	if upper.Code != "mouthful" {
		return
	}
	rest, ok := window(ds, func(d Demand) bool { return d.Code != "mouthful" })
	if !ok {
		return
	}
	a.WaysOut = append(a.WaysOut, WayOut{Do: "serveUneaten", FromPercent: &rest.From, ToPercent: rest.To})
	if plain := *in.PlainPercent; plain < upper.To {
		a.WaysOut = append(a.WaysOut, WayOut{Do: "backIt", FirmShareMost: new((upper.To - plain) / (lower.From - plain))})
	}
}
