package work

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/mix"
	"dustyfern/craft/paste"
	"dustyfern/craft/piece"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// NameOf a thing in the reader's words.
func NameOf(r read.Reader, n technique.Names) string {
	if r.Us() {
		return n.US
	}
	return n.UK
}

// madeAs settles how a piece is made: its way, the tools by their roles, the state in
// which it goes on, and what follows from these before anything dries.
func (b *Means) madeAs(w *Reckoned) {
	p := w.Piece
	if p.ToolID != nil {
		w.Tool = b.Tools[*p.ToolID]
	}
	w.Wanted = p.Wanted
	if n, known := b.Needed[p.ID]; known {
		w.Wanted = n
	}
	w.Way = b.WayOf(p, w.Tool)
	w.Chilled = p.Chill || w.Tool != nil && w.Tool.Chilled
	if w.Way == nil {
		w.View.Missing = b.Reader.Say("Choose how it is made, or what it is shaped with: its size decides the paste, the grams and the drying.")
		return
	}
	w.View.Way = b.wayView(w.Way)
	w.State, w.stateOwn = p.JoinState(w.Way)
	w.roles = b.rolesOf(w)
	lead := b.Library.Leading(w.Way)
	if lead != nil && w.roles[lead.Role] == nil && w.Way.Join() != nil {
		w.View.Missing = b.Reader.Say(fmt.Sprintf("Choose its %s: its size decides the paste, the grams and the drying.", NameOf(b.Reader, b.Library.Kind(lead.Kind).Names)))
	}
	if t := w.Tool; t != nil && t.InUse() < 1 {
		w.View.Missing = b.Reader.Say(fmt.Sprintf("Every copy of %s is lent or broken: mend one, or choose another tool.", t.Name))
	}
	w.PieceG, w.from = b.weighs(w)
	fore, err := b.foresee(w)
	if err != nil {
		if w.View.Missing == "" {
			w.View.Missing = b.Reader.Say(Sentence(err))
		}
		return
	}
	w.Fore = fore
	if w.PieceG == 0 && fore.Names["weightG"] > 0 && !b.mustWeigh(w) {
		w.PieceG, w.from = fore.Names["weightG"], "its measures"
	}
}

// WayOf is the way in which a piece is made; the usual one of a tool is found once.
func (b *Means) WayOf(p *noun.Piece, tool *noun.Tool) *technique.Technique {
	if p.Technique != "" || tool == nil {
		return p.MadeAs(b.Library, tool)
	}
	t, err := once(fmt.Sprintf("way|%p|%s|%v|%d|%s|%s", b.Library, tool.Kind, tool.Measures, tool.InUse(), p.Dough, p.Joined), func() (*technique.Technique, error) { return p.MadeAs(b.Library, tool), nil })
	if err != nil {
		return nil
	}
	return t
}

// mustWeigh tells whether a piece made so has no weight but a weighed one: a tool is
// filled with it. What hands shape freely weighs what is wished.
func (b *Means) mustWeigh(w *Reckoned) bool {
	return b.Library.Leading(w.Way) != nil && slices.ContainsFunc(w.Way.Measures, func(m technique.Measure) bool { return m.Name == "massG" && m.From > 0 })
}

// rolesOf finds the tool of each role: its own, else the first of that kind in the
// drawer that can be worked with.
func (b *Means) rolesOf(w *Reckoned) map[string]*noun.Tool {
	out := map[string]*noun.Tool{}
	lead := b.Library.Leading(w.Way)
	for _, r := range b.Library.Roles(w.Way) {
		if id, ok := w.Piece.ToolFor(b.Library, w.Way, r.Role); ok {
			if t := b.Tools[id]; t != nil && r.Takes(t.Kind) {
				out[r.Role] = t
				continue
			}
		}
		if lead == nil || lead.Role != r.Role {
			if t := b.OfKind(&r); t != nil {
				out[r.Role] = t
			}
		}
	}
	return out
}

// OfKind is the first tool that can work in a role; nil when there is none.
func (b *Means) OfKind(r *technique.Role) *noun.Tool {
	var all []*noun.Tool
	for _, t := range b.Tools {
		if r.Takes(t.Kind) && t.DeletedAt == nil && t.InUse() > 0 {
			all = append(all, t)
		}
	}
	if len(all) == 0 {
		return nil
	}
	return slices.MinFunc(all, func(a, b *noun.Tool) int {
		if c := strings.Compare(a.Name, b.Name); c != 0 {
			return c
		}
		return int(a.ID - b.ID)
	})
}

// Question is what is asked of a way of making for so many of a piece.
func (b *Means) Question(w *Reckoned, wanted, made, window int) technique.ChainIn {
	p := w.Piece
	in := technique.ChainIn{Technique: &w.Way.Key, Wanted: &wanted, Made: &made, Join: &w.State, WindowMinutes: new(math.Min(1440, math.Max(10, float64(window)))),
		Measures: map[string]float64{}, Tools: map[string]map[string]float64{}, Manner: p.Manner(), Ways: map[string]string{}, Minutes: map[string]float64{}, Own: map[string]float64{}, Stages: w.Moments}
	for _, m := range w.Way.Measures {
		if x, said := p.Measures[m.Name]; said {
			in.Measures[m.Name] = x
		} else if c := b.Kitchen.BoilingC; m.Name == heightName && c != nil {
			in.Measures[m.Name] = math.Min(m.To, math.Max(m.From, mix.HeightOf(*c)))
		} else if x, _ := b.roundTier(w.order, m.Name); x > 0 {
			in.Measures[m.Name] = math.Min(m.To, math.Max(m.From, x))
		}
		if m.Name == areaName && in.Measures[m.Name] == 0 && m.From == 0 {
			if a := b.areaOf(w); a > 0 {
				in.Measures[m.Name] = math.Min(m.To, a)
			}
		}
		if m.Name == "massG" && w.PieceG > 0 && w.from != "its measures" {
			in.Measures[m.Name] = math.Max(m.From, w.PieceG)
		}
	}
	for role, t := range w.roles {
		in.Tools[role] = t.Asked()
	}
	b.places(in.Tools, b.Kitchen.TraysOf(w.Rack()))
	in.Manner["dough"] = yes(isSetting(p.Dough))
	own := p.School != "" || p.PegPercent != nil || p.Dough != ""
	in.Manner["heavyDose"] = yes(w.AtOnce || !own && w.Way.Defaults["heavyDose"] > 0) // as is usual for it, until another paste is chosen
	in.Manner["restMinutes"] = math.Min(720, float64(w.Rest))
	if w.AtOnce {
		in.Manner["restMinutes"] = 0
	}
	if p.Wanted == 0 && w.State == "P" { // a part is kept covered until it goes on
		in.Manner["bagged"] = 1
	}
	for q, option := range p.Ways {
		if way := b.Library.Way(w.Way, q); way != nil && slices.ContainsFunc(way.Options, func(o technique.Option) bool { return o.ID == option }) {
			in.Ways[q] = option
		}
	}
	for i := range w.Way.Ways { // the side that a studio made its usual one
		way := &w.Way.Ways[i]
		for _, o := range way.Options {
			if _, chosen := in.Ways[way.Question]; o.Ours && !chosen && len(o.Sets) > 0 {
				in.Ways[way.Question] = o.ID
			}
		}
	}
	b.chilling(w, &in)
	b.ownMinutes(w, &in)
	b.finishMinutes(w, &in)
	in.Pace = b.paces(w.Way.Key)
	if r := w.Way.Rolls; r != nil && w.rolledG > 0 {
		if r.PasteG != "" {
			in.Own[r.PasteG] = w.rolledG
		}
		if r.EachG != "" {
			in.Own[r.EachG] = w.rolledG / float64(max(1, made))
		}
	}
	return in
}

// heightName is the number of a way of making that says how high the kitchen lies: it is
// known by the own thermometer in boiling water.
const heightName = "altitudeM"

// areaName is the number of a way of making that says what one piece covers; 0: as its box.
const areaName = "areaMM2"

func yes(b bool) float64 {
	if b {
		return 1
	}
	return 0
}

// Lying is how long and how wide a piece is as it lies, mm; 0 while it is not known.
func (w *Reckoned) Lying() (across, high float64) {
	across, high = w.Fore.Names["lieWidthMM"], w.Fore.Names["lieLengthMM"]
	if across == 0 && w.Tool != nil {
		high, across, _ = w.Tool.Box()
	}
	return across, high
}

// Sets tells whether a piece sets by temperature instead of drying.
func (w *Reckoned) Sets() bool { return isSetting(w.Piece.Dough) }

// isSetting tells whether a dough sets by temperature.
func isSetting(dough string) bool {
	k, ok := paste.KindOf(dough)
	return ok && k.SoftPoint > 0
}

// places are what every way of making holds: trays, counted as the smallest, and the
// freezer.
func (b *Means) places(tools map[string]map[string]float64, trays []noun.Tray) {
	if len(trays) > 0 {
		least, n := trays[0], 0
		for _, t := range trays {
			n += t.Count
			if t.LengthMM*t.WidthMM < least.LengthMM*least.WidthMM {
				least = t
			}
		}
		tools["tray"] = map[string]float64{"lengthMM": clamp(least.LengthMM, 100, 1000), "widthMM": clamp(least.WidthMM, 100, 800), "places": clamp(float64(n), 1, 100)}
	}
	tools["freezer"] = map[string]float64{"places": clamp(float64(b.Kitchen.FreezerPlaces), 1, 100)}
}

func clamp(x, lo, hi float64) float64 { return math.Min(hi, math.Max(lo, x)) }

// The number of a way of making that says how long a piece lies in the freezer.
const chillName = "chillMinutes"

// chilling takes a mould that is always chilled, and its own minutes, into the
// question; what was chosen for the piece wins.
func (b *Means) chilling(w *Reckoned, in *technique.ChainIn) {
	q, option := b.Library.Sets(w.Way, chillName, true)
	_, chosen := in.Ways[q]
	if w.Chilled && q != "" && !chosen {
		in.Ways[q] = option
	}
	if t := w.Tool; t != nil && t.FreezeMinutes != nil && w.Chilled && !chosen {
		in.Own[chillName] = *t.FreezeMinutes
	}
}

func (b *Means) foresee(w *Reckoned) (technique.Foreseen, error) {
	in := b.Question(w, max(1, w.Wanted), max(1, w.Wanted), noun.UsualWindow)
	in.Stages = nil
	return b.Library.Foresee(in)
}

// askPaste is what the paste of a piece is asked for.
func (b *Means) askPaste(w *Reckoned, plain float64) paste.AdviseIn {
	p := w.Piece
	chills := w.Fore.Chills >= 1 || p.Chill || w.Way == nil && w.Chilled
	tempC, rhPercent := b.RoomFor(w.Piece)
	in := paste.AdviseIn{TempC: &tempC, RHPercent: &rhPercent, PlainPercent: &plain, ChildrenServed: &w.order.Children, Supported: &p.HeldUp, EdgeMM: p.EdgeMM, Chilled: &chills}
	size := func(name string) *float64 {
		if x, ok := w.Fore.Sizes[name].(float64); ok {
			return &x
		}
		return nil
	}
	in.DepthMM, in.WidthMM, in.LengthMM, in.HeightMM, in.ThicknessMM = size("depthMM"), size("widthMM"), size("lengthMM"), size("heightMM"), size("thicknessMM")
	if size("undercut") != nil {
		in.Undercut = new(true)
	}
	if size("openForm") != nil {
		in.OpenForm = new(true)
	}
	thick := w.thickness()
	for _, d := range w.Fore.Demands {
		// slim only when its height is over eight times its thickness; unsaid, it is taken as slim
		if (d == "upright" || d == "standsDry") && p.HeightMM != nil && thick > 0 && *p.HeightMM/thick <= slimFrom {
			continue
		}
		in.Demands = append(in.Demands, d)
	}
	if w.Way == nil { // how it is made is not known: what is known of its use
		in.Demands = b.Library.Use(p.Manner())
	}
	if kind, ok := paste.KindOf(p.Dough); ok && kind.SoftPoint > 0 {
		in.SoftPointC = &kind.SoftPoint
	}
	return in
}

// slimFrom is how many times its thickness a piece is high that must be stiff to
// stand (assumed).
const slimFrom = 8

// thickness of the piece as it lies, mm; 0 while it is not known.
func (w *Reckoned) thickness() float64 {
	if body := w.body(); body != nil {
		return body.ThicknessMM
	}
	return 0
}

// body is what dries of the piece; nil while it is not known.
func (w *Reckoned) body() *technique.Dries {
	for i := range w.Fore.Bodies {
		if w.Fore.Bodies[i].ID == "main" {
			return &w.Fore.Bodies[i]
		}
	}
	return nil
}

// BreakageOf is the class of what is expected to break: as its tool says, else as its
// way of making, and no less than ordinary of what branches.
func (b *Means) BreakageOf(w *Reckoned) string {
	switch {
	case w.Way.Breakage == "none":
		return "none"
	case w.Tool != nil && w.Tool.Breakage != "":
		return w.Tool.Breakage
	case w.Way.Breakage == "robust" && w.Tool != nil && w.Tool.Measures["branching"] > 0:
		return "ordinary"
	}
	return w.Way.Breakage
}

// Log is what was made in a tool by a way of making, other pieces of it, and what of
// that broke.
func (b *Means) Log(w *Reckoned) (made, broken int) {
	if w.Piece.ToolID == nil {
		return 0, 0
	}
	for _, x := range b.Broke {
		if x.Tool == *w.Piece.ToolID && x.Technique == w.Piece.Technique && x.Piece != w.Piece.ID {
			made, broken = made+x.Made, broken+min(x.Made, x.Broken)
		}
	}
	return made, broken
}

// MakeAsBegun is how many of a piece are made once its press has begun: what breaks in its
// tool elsewhere since then is learnt by the next order, and adds no batch to this one.
func (b *Means) MakeAsBegun(w *Reckoned, run *noun.Run) int {
	kinds := b.KindsOf(w)
	if run == nil || run.Class == "" || run.Class == "none" || w.Wanted == 0 {
		return w.Batch.Make
	}
	out, err := piece.Spares(piece.SpareIn{Wanted: &w.Wanted, Breakage: &run.Class, Made: &run.Before, Broken: &run.Broke, Kinds: &kinds})
	if err != nil {
		return w.Batch.Make
	}
	return out.Make
}

// balls tells whether a piece is made of balls that are weighed for a mould.
func (w *Reckoned) balls() bool {
	return slices.ContainsFunc(w.Way.Given, func(g technique.Given) bool { return g.Topic == "mould.batch" })
}

// chain makes the steps of the whole order of a piece, in batches that fit a stretch.
func (b *Means) chain(w *Reckoned) {
	if w.Way == nil || w.Batch.Make == 0 || w.Never != "" || w.Wanted == 0 {
		return
	}
	if w.Fore.Chills >= 1 && b.Kitchen.FreezerPlaces < 1 {
		w.View.Missing = b.Reader.Say("This mould is chilled, and the kitchen has no place in the freezer.")
		return
	}
	out, err := b.Library.Chain(b.Question(w, w.Wanted, w.Batch.Make, b.Kitchen.LongestStretch()))
	if err != nil {
		say := b.ChainSays(w.Way, err)
		if isNever(err) {
			if w.View.Dry != nil && len(w.air.Series) > 0 {
				_, rh := meanOf(w.air.Series, 72)
				say = fmt.Sprintf("at %s %% humidity %s", read.Trimmed(rh, 0), read.LowerFirst(say))
			}
			w.Never = w.Piece.Name + willNotSet + say
		} else {
			w.View.Missing = say
		}
		return
	}
	w.Chain = &out
}

// Weighed tells whether the weight of a piece was weighed, not only reckoned.
func (w *Reckoned) Weighed() bool {
	return w.Piece.TrialG != nil || w.Tool != nil && (w.Tool.WeighedG != nil || len(w.Tool.Weighings) >= piece.EnoughWeighings) || !w.balls() && w.PieceG > 0
}
