package paste

import (
	"fmt"
	"math"
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
	{"faces", 1.4, 0, true, "fine faces, limbs and undercuts tear in soft paste"},
	{"deepMould", 2.4, 0, true, "a deep mould lets go without damage only when the paste is stiff"},
	{"thinPetals", 1.4, 0, false, "edges thinner than 0.6 mm need gum"},
	{"folded", 0.6, 1.8, false, "tucked like fabric: softer droops, stiffer cracks"},
	{"wrapped", 1.0, 3.0, false, "bent round a curve after release: softer sags, stiffer cracks"},
	{"upright", 1.8, 0, true, "it stands or spans unsupported while still soft"},
	{"standsDry", 1.4, 0, false, "dried flat, then stood up: it must be stiff when dry"},
	{"carries", 2.0, 0, true, "it carries another piece"},
	{"knifeThrough", 0, 1.9, true, "the cake knife must pass through it"},
	{"mouthful", 0, 1.0, false, "eaten as a mouthful, it must be soft to bite"},
	{"nibbled", 0, 2.0, false, "nibbled at the edge, mostly looked at"},
	{"handledSoon", 1.4, 0, false, "it is handled within 6 hours of making"},
	{"staysPliable", 0, 1.6, false, "it stays pliable in a bag until it is put on"},
	{"dampRoom", 1.6, 0, false, "above 65 % humidity it must hold its shape"},
}

// The ways to a strength, in the order in which they are preferred.
const (
	chillEases    = 0.2 // of deepMould
	supportEases  = 0.6 // of upright
	nearEnough    = 0.5 // how far above the least strength a ready paste may lie
	topStrength   = 3.0
	standingBelow = 4.0 // °C below its soft point for dough that stands
)

// AdviseIn is a piece as its paste sees it: demands by code, sizes that add
// demands by themselves, and the room.
type AdviseIn struct {
	Demands        []string `json:"demands"`
	ChildrenServed *bool    `json:"childrenServed"`
	Chilled        *bool    `json:"chilled"`
	Supported      *bool    `json:"supported"`
	TrueWhite      *bool    `json:"trueWhite"`
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

// Way is how to come to a strength.
type Way struct {
	Way             string   `json:"way"`
	StrengthPercent float64  `json:"strengthPercent"`
	FlowerShare     *float64 `json:"flowerShare,omitempty"`
	HardenerPercent *float64 `json:"hardenerPercent,omitempty"`
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
	FatSet          FatSet       `json:"fatSet"`
	Window          *Range       `json:"window,omitempty"`
	StrengthPercent *float64     `json:"strengthPercent,omitempty"`
	GoodToPercent   *float64     `json:"goodToPercent,omitempty"`
	SoftBroken      *int         `json:"softBroken,omitempty"`
	Use             *Way         `json:"use,omitempty"`
	Beside          []Way        `json:"beside,omitempty"`
	Clash           []string     `json:"clash,omitempty"`
	WaysOut         []WayOut     `json:"waysOut,omitempty"`
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
	if in.HeightMM != nil && in.ThicknessMM == nil {
		return nil, fault.New(fault.Required, "thicknessMM", "A height alone does not say whether it stands slim: give the thickness as well.")
	}
	if in.LengthMM != nil && in.WidthMM == nil {
		return nil, fault.New(fault.Required, "widthMM", "A length alone does not say whether it is a strand: give the width as well.")
	}
	if d := in.DepthMM; d != nil && (*d >= 20 || *d >= 12 && in.WidthMM != nil && *d / *in.WidthMM > 0.8) {
		on["deepMould"] = true
	}
	if in.LengthMM != nil && *in.LengthMM / *in.WidthMM > 20 {
		on["strands"] = true
	}
	if in.HeightMM != nil && *in.HeightMM / *in.ThicknessMM > 8 && !on["standsDry"] {
		on["upright"] = true
	}
	if in.EdgeMM != nil && *in.EdgeMM < 0.6 {
		on["thinPetals"] = true
	}
	if *in.RHPercent > 65 {
		on["dampRoom"] = true
	}
	return on, nil
}

// demandsHere lists the demands that are on, as chilling, support and children
// leave them.
func demandsHere(on map[string]bool, children, chilled, supported bool) []Demand {
	var out []Demand
	for _, d := range Demands {
		if !on[d.Code] {
			continue
		}
		switch {
		case d.Code == "deepMould" && chilled:
			d.From = tidy(d.From - chillEases)
		case d.Code == "upright" && supported:
			d.From = tidy(d.From - supportEases)
		case d.Code == "mouthful" && children:
			d.Hard = true
		}
		out = append(out, d)
	}
	return out
}

// tidy drops the last bits that subtraction leaves behind.
func tidy(x float64) float64 { return math.Round(x*1e9) / 1e9 }

// window intersects the hard demands that keep accepts.
func window(ds []Demand, keep func(Demand) bool) (Range, bool) {
	w, to := Range{}, math.Inf(1)
	for _, d := range ds {
		if d.Hard && keep(d) {
			w.From = math.Max(w.From, d.From)
			if d.To > 0 {
				to = math.Min(to, d.To)
			}
		}
	}
	if !math.IsInf(to, 1) {
		w.To = &to
	}
	return w, w.From <= to+1e-9
}

func all(Demand) bool { return true }

func (d Demand) meets(e float64) bool {
	return e >= d.From-1e-9 && (d.To == 0 || e <= d.To+1e-9)
}

// Advise finds the window, the strength that breaks fewest wishes (then the
// lowest: it eats best) and how to come to it.
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
	out := Advice{Demands: []Bar{}, Advice: []Suggestion{}, FatSet: fatSet(&in, on)}
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
	if !chilled && (on["strands"] || on["faces"] || on["deepMould"]) {
		out.Advice = append(out.Advice, Suggestion{"chill", "Five to ten minutes in the freezer and it releases cleanly; the paste stays as it is."})
	}
	w, ok := window(ds, all)
	if !ok {
		out.Empty = true
		out.clashes(&in, on, ds)
		return out, nil
	}
	plain := *in.PlainPercent
	e, broken := choose(ds, w, plain)
	top := goodTo(ds, w, e)
	out.Window, out.StrengthPercent, out.GoodToPercent, out.SoftBroken = &w, &e, &top, &broken
	out.Use = new(wayTo(e, top, plain))
	for i, d := range ds {
		out.Demands[i].Met = new(d.meets(e))
	}
	if on["standsDry"] && e > plain {
		out.Beside = append(out.Beside, Way{Way: "sugarPasteHardened", StrengthPercent: e, HardenerPercent: new(100 * (e - plain) / (100 - e))})
	}
	if (on["standsDry"] || on["lippedOpenwork"]) && out.Use.Way != "flowerPaste" && w.From <= flowerStrength && (w.To == nil || *w.To >= flowerStrength) {
		out.Beside = append(out.Beside, Way{Way: "flowerPaste", StrengthPercent: flowerStrength})
	}
	return out, nil
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

func fatSet(in *AdviseIn, on map[string]bool) FatSet {
	var f FatSet
	t, soft := *in.TempC, *in.SoftPointC
	for _, c := range []string{"upright", "standsDry"} {
		if on[c] && t > soft-standingBelow {
			f.ExcludedBy = append(f.ExcludedBy, c)
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

func choose(ds []Demand, w Range, plain float64) (e float64, broken int) {
	low := math.Max(w.From, plain)
	if w.To != nil && *w.To < plain {
		low = w.From
	}
	candidates := []float64{low}
	for _, d := range ds {
		if d.From > low && (w.To == nil || d.From <= *w.To+1e-9) {
			candidates = append(candidates, d.From)
		}
	}
	slices.Sort(candidates)
	broken = math.MaxInt
	for _, c := range candidates {
		n := 0
		for _, d := range ds {
			if !d.Hard && !d.meets(c) {
				n++
			}
		}
		if n < broken {
			e, broken = c, n
		}
	}
	return e, broken
}

func goodTo(ds []Demand, w Range, e float64) float64 {
	top := math.Inf(1)
	for _, d := range ds {
		if d.To > 0 && d.meets(e) {
			top = math.Min(top, d.To)
		}
	}
	if math.IsInf(top, 1) {
		if w.To != nil {
			return *w.To
		}
		return math.Max(topStrength, e)
	}
	return top
}

func wayTo(e, top, plain float64) Way {
	light := (plain + softReadyMade) / (1 + softReadyMade/100)
	most := math.Min(top, e+nearEnough)
	for _, w := range []Way{{Way: "sugarPaste", StrengthPercent: plain}, {Way: "lightDose", StrengthPercent: light}, {Way: "mouldingReadyPaste", StrengthPercent: 0.9},
		{Way: "halfAndHalf", StrengthPercent: 1.6}, {Way: "modellingPaste", StrengthPercent: 1.5}, {Way: "flowerPaste", StrengthPercent: flowerStrength}} {
		if w.StrengthPercent >= e-1e-9 && w.StrengthPercent <= most+1e-9 {
			return w
		}
	}
	switch {
	case e > flowerStrength:
		return Way{Way: "hardener", StrengthPercent: e}
	case e < plain:
		return Way{Way: "sugarPaste", StrengthPercent: plain}
	}
	return Way{Way: "blend", StrengthPercent: e, FlowerShare: new((e - plain) / (flowerStrength - plain))}
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

// Says puts an interval of gum strength into words.
func (r Range) Says() string {
	if r.To == nil {
		return fmt.Sprintf("%.1f %% gum and up", r.From)
	}
	return fmt.Sprintf("%.1f to %.1f %% gum", r.From, *r.To)
}
