package work

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/attach"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// JoinView is how a piece goes on: what holds it, how much of it, how long it takes, and
// why nothing else would do.
type JoinView struct {
	Fits     bool             `json:"fits"`
	With     string           `json:"with" doc:"the attacher's code"`
	Says     string           `json:"says"`
	Own      bool             `json:"own" doc:"chosen by hand"`
	Clash    string           `json:"clash" doc:"why what was chosen will not hold"`
	WayOut   string           `json:"wayOut"`
	Others   []string         `json:"others"`
	Refused  []RefusedBy      `json:"refused"`
	Steps    []string         `json:"steps" doc:"in the order of the hands"`
	Figures  []noun.Figure    `json:"figures"`
	Curve    string           `json:"curve" doc:"what takes up the gap on a round tier"`
	Schools  []AttachSchool   `json:"schools"`
	Learnt   string           `json:"learnt" doc:"what joins of this studio taught"`
	Fields   []read.FieldView `json:"fields"`
	ShareOf  float64          `json:"share" doc:"of its limit"`
	Cautions []string         `json:"cautions"`

	out attach.ChooseOut
	in  attach.ChooseIn
}

// AttachSchool is a question on which good makers differ, with both sides.
type AttachSchool struct {
	Asks  string `json:"asks"`
	Ours  string `json:"ours"`
	Other string `json:"other"`
}

// attachStates are the states of a join as attach calls them.
var attachStates = map[string]string{"P": "pliable", "S": "semiDry", "D": "dry", "C": "cold"}

// joinOf asks what holds a piece where it goes.
func (b *Means) joinOf(w *Reckoned) attach.ChooseIn {
	g, c := &w.Piece.Goes, w.order
	tempC, rh := b.Kitchen.AirIn(0, b.Now, b.Now)
	in := attach.ChooseIn{MassG: new(math.Min(50000, math.Max(0.01, w.PieceG))), PieceState: new(cmp.Or(attachStates[w.State], "dry")), PieceFatSet: w.Sets(), RoomTempC: new(math.Min(40, math.Max(5, tempC))), RoomRHPercent: new(math.Min(99, math.Max(5, rh))), Line: g.Line,
		Place: new(cmp.Or(g.Place, placeBy(c))), Ground: new(cmp.Or(g.Ground, groundBy(c))), Limits: b.Limits}
	across, high := w.Lying()
	switch {
	case g.Load != "":
		in.Load = &g.Load
	case w.Piece.Stance == "upright":
		in.Load = new("standing")
	case goesRound(w, b):
		in.Load = new("goesRound")
	}
	if area := seenOfBox * across * high; area > 0 && !(in.Load != nil && *in.Load == "standing") {
		in.ContactMM2 = &area
	}
	if g.StandOffMM != nil {
		in.StandOffMM = g.StandOffMM
	}
	if len(c.Tiers) > 0 && c.Carrier == "tiers" && across > 0 && (in.Load == nil || *in.Load != "goesRound") {
		if t := &c.Tiers[0]; t.Shape == "round" && across <= t.SizeMM+2*t.CoatingMM {
			in.WidthMM, in.TierDiameterMM, in.Curved = &across, new(t.SizeMM+2*t.CoatingMM), w.Piece.Bent || w.Piece.Support == "dowel" || w.Piece.Support == "cup"
		}
	}
	in.WaterSensitive = slices.ContainsFunc(b.tones(w), func(t tone) bool { return t.kind == "pen" })
	for _, a := range c.Avoids() {
		if slices.Contains([]string{"egg", "milk", "soya", "gelatine", "animal", "alcohol"}, a) {
			in.Avoid = append(in.Avoid, a)
		}
	}
	return in
}

// placeBy is where a piece goes as a rule.
func placeBy(c *noun.Commission) string {
	if c.Carrier == "tiers" {
		return "side"
	}
	return "top"
}

// groundBy is what a piece goes on to as a rule, by the words of the coating.
func groundBy(c *noun.Commission) string {
	if c.Carrier == "biscuits" {
		return "biscuit"
	}
	for _, t := range c.Tiers {
		for word, ground := range map[string]string{"chocolate": "chocolate", "royal": "royalIcing", "butter": "crustedIcing", "ganache": "chocolate"} {
			if strings.Contains(strings.ToLower(t.Coating), word) {
				return ground
			}
		}
	}
	return "sugarPaste"
}

// goesRound tells whether a piece is as long as the tier is round: by what its way of
// making measures.
func goesRound(w *Reckoned, b *Means) bool {
	if w.Way == nil {
		return false
	}
	for _, m := range w.Way.Measures {
		if m.Name == runName {
			return true
		}
	}
	return false
}

// Join is how a piece goes on; nil while it is not known what it weighs.
func (b *Means) Join(w *Reckoned) *JoinView {
	if w.Way == nil || w.PieceG <= 0 {
		return nil
	}
	in := b.joinOf(w)
	out, err := attach.Choose(in)
	if err != nil {
		return nil
	}
	v := &JoinView{Fits: out.Fits, With: out.Attacher, Others: []string{}, Refused: []RefusedBy{}, Steps: []string{}, Figures: []noun.Figure{}, Schools: []AttachSchool{}, Cautions: []string{}, Fields: b.fieldsOf(w, "place", "load", "ground", "standOff", "inLine", "with", "inserts"), out: out, in: in}
	if own := w.Piece.Goes.With; own != "" && own != out.Attacher {
		v.choose(own)
	}
	b.joinSays(w, v)
	return v
}

// choose puts the studio's own choice in place of ours: as it says, where it would hold.
func (v *JoinView) choose(own string) {
	if i := slices.IndexFunc(v.out.Refused, func(r attach.Refused) bool { return r.Attacher == own }); i >= 0 {
		v.Clash = own + "|" + v.out.Refused[i].Why
		return
	}
	have := []string{own}
	in := v.in
	in.Have = &have
	if own == attach.Nothing {
		in.Have = &[]string{}
	}
	chosen, err := attach.Choose(in)
	if err != nil || chosen.Attacher != own {
		return
	}
	v.Own, chosen.Others, chosen.Refused = true, append([]string{v.out.Attacher}, slices.DeleteFunc(slices.Clone(v.out.Others), func(o string) bool { return o == own })...), v.out.Refused
	v.out, v.With = chosen, own
}

// joinSays puts a join into words and numbers.
func (b *Means) joinSays(w *Reckoned, v *JoinView) {
	r, out := b.Reader, &v.out
	if own, why, clash := strings.Cut(v.Clash, "|"); clash {
		v.Clash = r.Sayf("%s was chosen, but it %s.", read.UpperFirst(read.AttacherSay(own)), attachWhy[why])
	}
	for _, o := range out.Others {
		v.Others = append(v.Others, r.Say(read.AttacherSay(o)))
	}
	for _, x := range out.Refused {
		v.Refused = append(v.Refused, RefusedBy{r.Say(read.UpperFirst(read.AttacherSay(x.Attacher))), r.Say(attachWhy[x.Why])})
	}
	if !out.Fits {
		v.WayOut = r.Say(map[string]string{"ledge": "Nothing holds it hanging: give it a ledge or a board to rest on, or make it lighter.", "post": "Nothing holds it standing: set it on a post or a pick, counted and named on the card.", "changeLimits": "Nothing holds it as it is: change its place, its weight or its contact."}[out.WayOut])
		v.Says = v.WayOut
		return
	}
	v.Says = r.Sayf("%s: %s.", read.UpperFirst(read.AttacherSay(v.With)), b.amountSays(out))
	for _, o := range out.Order {
		v.Steps = append(v.Steps, r.Say(b.stepSays(o, out)))
	}
	v.curve(out, r)
	v.numbers(out, w, r)
	for _, s := range out.Schools {
		if ask := schoolAsks[s.Question]; ask != "" {
			v.Schools = append(v.Schools, AttachSchool{r.Say(ask), r.Say(cmp.Or(schoolSides[s.Question+" "+s.Ours], read.AttacherSay(s.Ours))), r.Say(cmp.Or(schoolSides[s.Question+" "+s.Other], read.AttacherSay(s.Other)))})
		}
	}
	if l, own := b.Limits[v.With]; own {
		v.Learnt = r.Sayf("Joins of this studio moved what %s carries: %s g hanging, %s g a cm².", read.AttacherSay(v.With), read.Trimmed(l.HangsG, 1), read.Trimmed(l.PerCM2, 2))
	}
	if out.TestFirst {
		v.Cautions = append(v.Cautions, r.Say("Near its limit, which nobody measured: try one on a scrap first."))
	}
}

func (b *Means) amountSays(out *attach.ChooseOut) string {
	where := map[string]string{"piece": "on the piece", "cake": "on the cake", "under": "under it once it lies right", "speck": "on the spot, then the piece", "none": ""}[out.Where]
	amount := map[string]string{"film": "a thin tacky film", "dots": "dots", "line": "a line", "bed": "a bed", "none": "nothing is wetted"}[out.Amount]
	return strings.TrimSpace(amount + " " + where)
}

func (b *Means) stepSays(code string, out *attach.ChooseOut) string {
	switch code {
	case "position":
		return "Position first: mark where it goes."
	case "wet":
		return read.UpperFirst(b.amountSays(out)) + "."
	case "waitTack":
		return fmt.Sprintf("Wait %s until it is tacky.", read.SayMinutes(read.UpMinutes(*out.TackMinutes)))
	case "place":
		if out.PlaceWithin != nil {
			return fmt.Sprintf("Set it on, within %s.", read.SayMinutes(int(*out.PlaceWithin)))
		}
		return "Set it on."
	case "hold":
		if *out.HoldSeconds < 1 {
			return "Press it on."
		}
		return fmt.Sprintf("Hold it for %d s.", int(math.Ceil(*out.HoldSeconds-1e-9)))
	case "prop":
		return fmt.Sprintf("Prop it for %s.", read.SayMinutes(read.UpMinutes(*out.PropMinutes)))
	case "closeSeam":
		return "Close the seam at the back."
	}
	return code
}

func (v *JoinView) curve(out *attach.ChooseOut, r read.Reader) {
	switch out.Curve {
	case "fresh":
		v.Curve = r.Sayf("On a tier this round it stands off by %s mm: it follows while it is pliable; or dry it on a former of that curve.", read.Trimmed(*out.GapMM, 1))
	case "fill":
		v.Curve = r.Sayf("Dried flat it stands off by %s mm in the middle: fill that; or dry it on a former of that curve.", read.Trimmed(*out.GapMM, 1))
	}
	if out.ColdWay != "" {
		v.Curve = strings.TrimSpace(v.Curve + " " + r.Say(map[string]string{"atOnce": "Cold and dry air: on at once, with dots.", "whenMatt": "Damp air: let it go matt first, and set it on before it is warm."}[out.ColdWay]))
	}
}

// numbers are the load, its limit and the times, each with its reason.
func (v *JoinView) numbers(out *attach.ChooseOut, w *Reckoned, r read.Reader) {
	why := &noun.Why{Rule: "What pulls at the join, against what the attacher carries in this state on this ground. Nobody measured the limits: they follow the masses usual in the trade (assumed).", Formula: "mass × share by how it is held (hanging 1, rests 0.15, goes round 0.25, stands 1.5), over its contact",
		Values: []noun.Named{{Name: "mass", Text: r.Mass(*v.in.MassG)}, {Name: "how it is held", Text: out.Load}, {Name: "state", Text: *v.in.PieceState}, {Name: "ground", Text: *v.in.Ground}}}
	if out.ContactMM2 != nil {
		why.Values = append(why.Values, noun.Named{Name: "contact", Text: read.Trimmed(*out.ContactMM2/100, 1) + " cm²"})
	}
	load, limit, unit := out.LoadG, out.LimitG, "g"
	if out.LoadGPerCM2 != nil {
		load, limit, unit = out.LoadGPerCM2, out.LimitGPerCM2, "g a cm²"
	}
	if limit != nil {
		v.ShareOf = *out.ShareOfLimit
		v.Figures = append(v.Figures, noun.Figure{Value: *load, Unit: fmt.Sprintf("of %s %s that it carries", read.Trimmed(*limit, 2), unit), Text: read.Trimmed(*load, 2) + " " + unit, Why: why})
	}
	air := &noun.Why{Rule: "Water joins dry with the room: damp or cold air lengthens them.", Formula: "usual × 55 / (100 - humidity) × vapour at 21 °C over vapour here", Values: []noun.Named{{Name: "room", Text: fmt.Sprintf("%s °C, %s %%", read.Trimmed(*v.in.RoomTempC, 1), read.Trimmed(*v.in.RoomRHPercent, 0))}}}
	add := func(x *float64, unit string) {
		if x != nil && *x > 0 {
			v.Figures = append(v.Figures, noun.Figure{Value: *x, Unit: unit, Text: read.SayMinutes(read.UpMinutes(*x)), Why: air})
		}
	}
	add(out.WaitNext, "before anything rests on it")
	add(out.PropMinutes, "propped")
}

// attachWhy is why an attacher will not do.
var attachWhy = map[string]string{"notAtHand": "is not at hand", "avoided": "holds what these guests avoid", "checkLabel": "may hold what these guests avoid: read its label", "mustBeHeld": "leaves it unheld", "onlyOnChocolate": "holds on chocolate only", "tooWarm": "does not set in a room this warm",
	"restsOnly": "holds only what rests", "fatRepelsWater": "runs off fat", "softensIcing": "softens fresh icing", "colourRuns": "would make the colour run", "standsOff": "cannot fill the gap behind it", "staysSoft": "stays soft under what stands", "noBed": "is no bed for what stands", "tooHeavy": "is too weak for its weight"}

var schoolAsks = map[string]string{"attacher": "Water or glue?", "where": "Where does the wet go?", "state": "How does it take the curve?", "seam": "How does the seam close?", "held": "Held, or by itself?", "cold": "When does a cold piece go on?"}

var schoolSides = map[string]string{"where piece": "on the piece: a single one does not drip", "where cake": "on the cake: a row stays straight", "state fill": "filled behind", "state fresh": "put on fresh, it follows", "state former": "dried on a former of the curve", "seam taper": "both ends tapered, laid over", "seam butt": "cut square, end to end",
	"cold atOnce": "at once, hanging while it is cold", "cold whenMatt": "when it is matt", "attacher water": "water: nothing shows", "attacher gumGlue": "glue: it is tacky at once", "held nothing": "by itself, as it clings"}

// JoinLines are what the step that puts pieces on says of it; none while it is not known.
func (b *Means) JoinLines(w *Reckoned) []string {
	v := b.Join(w)
	if v == nil || !v.Fits {
		return nil
	}
	parts := []string{v.Says}
	if v.out.TackMinutes != nil && *v.out.TackMinutes > 0 {
		parts = append(parts, b.Reader.Say(b.stepSays("waitTack", &v.out)))
	}
	parts = append(parts, b.Reader.Say(b.stepSays("hold", &v.out)))
	if *v.out.PropMinutes > 0 {
		parts = append(parts, b.Reader.Say(b.stepSays("prop", &v.out)))
	}
	out := []string{strings.Join(parts, " ")}
	if v.Curve != "" {
		out = append(out, v.Curve)
	}
	return out
}

// PartJoin is how a part goes on to the piece that carries it, in words.
func (b *Means) PartJoin(on, part *Reckoned) []string {
	if part.Way == nil || part.PieceG <= 0 {
		return nil
	}
	in := b.joinOf(part)
	in.Place, in.Ground, in.WidthMM, in.TierDiameterMM = new("piece"), new("dryPiece"), nil, nil
	if on.Sets() {
		in.Ground = new("chocolate")
	} else if on.State == "P" {
		in.Ground = new("freshPiece")
	}
	out, err := attach.Choose(in)
	if err != nil || !out.Fits {
		return nil
	}
	return []string{b.Reader.Sayf("%s: %s. %s", read.UpperFirst(read.AttacherSay(out.Attacher)), b.amountSays(&out), b.stepSays("hold", &out))}
}

// AttachedWith is the material that holds a piece, for its label; "" for none.
func (b *Means) AttachedWith(w *Reckoned) string {
	v := b.Join(w)
	switch {
	case v == nil:
		return AttacherFor(w.order)
	case !v.Fits || v.With == attach.Nothing:
		return ""
	case v.With == "meltedChocolate":
		return cmp.Or(w.Piece.Dough, "darkChocolate")
	}
	return v.With
}

// CakeOrder is the order at the cake for one pair of hands.
type CakeOrder struct {
	Rows  []CakeRow `json:"rows"`
	Says  string    `json:"says"`
	Late  []string  `json:"late" doc:"what would be put on after its window"`
	Idle  string    `json:"idle"`
	Empty bool      `json:"empty"`
}

// CakeRow is one kind of piece in its turn.
type CakeRow struct {
	Piece   int64   `json:"piece"`
	Name    string  `json:"name"`
	Swatch  string  `json:"swatch"`
	From    float64 `json:"from" doc:"minutes after hands begin"`
	Until   float64 `json:"until"`
	Settled float64 `json:"settled"`
	Says    string  `json:"says"`
	With    string  `json:"with"`
}

// OrderAtCake puts what goes on the cake in order: what carries first, the shortest window
// first.
func (b *Means) OrderAtCake(all []*Reckoned) CakeOrder {
	v := CakeOrder{Rows: []CakeRow{}, Late: []string{}}
	var in attach.OrderIn
	by := map[string]*Reckoned{}
	join := map[string]*JoinView{}
	var carriers []string
	for _, w := range all {
		if w.Piece.Wanted > 0 && w.Piece.Carries {
			carriers = append(carriers, fmt.Sprint(w.Piece.ID))
		}
	}
	for _, w := range all {
		if w.Piece.Wanted <= 0 {
			continue
		}
		j := b.Join(w)
		if j == nil || !j.Fits {
			continue
		}
		id := fmt.Sprint(w.Piece.ID)
		by[id], join[id] = w, j
		x := attach.Join{ID: &id, Pieces: &w.Piece.Wanted, MassG: j.in.MassG, Line: w.Piece.Goes.Line, SettleMinutes: new(*j.out.WaitNext)}
		if w.State == "C" && j.out.PlaceWithin != nil {
			x.UntilMinutes = j.out.PlaceWithin
		}
		if w.Piece.Goes.Ground == "dryPiece" || w.Piece.Goes.Ground == "freshPiece" {
			x.On = slices.DeleteFunc(slices.Clone(carriers), func(c string) bool { return c == id })
		}
		in.Joins = append(in.Joins, x)
	}
	for i := range in.Joins { // a carrier whose own ground is left out waits for nothing
		in.Joins[i].On = slices.DeleteFunc(in.Joins[i].On, func(c string) bool { return by[c] == nil })
	}
	if v.Empty = len(in.Joins) == 0; v.Empty {
		return v
	}
	out, err := attach.Order(in)
	if err != nil {
		v.Says = Sentence(err)
		return v
	}
	for _, p := range out.Order {
		w, j := by[p.ID], join[p.ID]
		v.Rows = append(v.Rows, CakeRow{Piece: w.Piece.ID, Name: w.Piece.Name, Swatch: w.Piece.Swatch, From: p.StartMinutes, Until: p.EndMinutes, Settled: p.EndMinutes + *j.out.WaitNext, With: b.Reader.Say(read.AttacherSay(j.With)),
			Says: fmt.Sprintf("%d %s, %s", w.Piece.Wanted, read.LowerFirst(w.Piece.Name), read.SayMinutes(read.UpMinutes(p.EndMinutes-p.StartMinutes)))})
	}
	for _, id := range out.Late {
		v.Late = append(v.Late, by[id].Piece.Name)
	}
	v.Says = fmt.Sprintf("%s of hands; everything has taken hold after %s.", read.SayMinutes(read.UpMinutes(out.HandsMinutes-out.IdleMinutes)), read.SayMinutes(read.UpMinutes(out.SettledMinutes)))
	if out.IdleMinutes > 0 {
		v.Idle = fmt.Sprintf("%s of it nothing can be put on: what is on takes hold.", read.SayMinutes(read.UpMinutes(out.IdleMinutes)))
	}
	return v
}

// Remember takes in what joins taught and what is to be remembered.
func (b *Means) Remember(notes []noun.Note) {
	b.Limits = LimitsOf(notes)
	for i := range notes {
		if notes[i].What == "remind" {
			b.Reminds = append(b.Reminds, notes[i])
		}
	}
}

// mostReminders stand at one step.
const mostReminders = 3

// RemindersFor are what is to be remembered of a way of making, for one of the places where
// it belongs; of a mould only with that mould.
func (b *Means) RemindersFor(w *Reckoned, targets ...string) (out []string) {
	if w.Way == nil {
		return nil
	}
	tool := ""
	if w.Tool != nil {
		tool = w.Tool.Name
	}
	for i := range b.Reminds {
		n := &b.Reminds[i]
		if n.Technique != w.Way.Key || !slices.Contains(targets, n.Target) || n.Target == "mould" && n.Tool != tool || slices.Contains(out, n.Says) {
			continue
		}
		if out = append(out, n.Says); len(out) == mostReminders {
			break
		}
	}
	return out
}

// LimitsOf are what joins of this studio taught: a join that fell lowers what its attacher
// carries to nine tenths of what pulled, one that held beyond it raises it.
func LimitsOf(notes []noun.Note) map[string]attach.Limit {
	type seen struct{ held, fell float64 }
	all := map[string]map[bool]*seen{}
	for i := range notes {
		n := &notes[i]
		if n.LeftOut || n.Attacher == "" || n.Load <= 0 {
			continue
		}
		if all[n.Attacher] == nil {
			all[n.Attacher] = map[bool]*seen{false: {}, true: {}}
		}
		s := all[n.Attacher][n.PerCM2]
		if n.What == "held" {
			s.held = math.Max(s.held, n.Load)
		} else if s.fell == 0 || n.Load < s.fell {
			s.fell = n.Load
		}
	}
	out := map[string]attach.Limit{}
	for name, by := range all {
		usual, known := attach.UsualLimit(name)
		if !known {
			continue
		}
		l := usual
		l.HangsG, l.PerCM2 = moved(usual.HangsG, by[false].held, by[false].fell), moved(usual.PerCM2, by[true].held, by[true].fell)
		if l != usual {
			out[name] = l
		}
	}
	return out
}

// moved is a limit after the greatest load that held and the least that fell (0: none).
func moved(limit, held, fell float64) float64 {
	switch {
	case fell > 0 && 0.9*fell < limit:
		return math.Max(0.9*fell, math.Min(held, limit))
	case fell == 0 && held > limit:
		return held
	}
	return limit
}

// Pulled is what pulls at the joins of a piece, as it would at a pliable one on coating, and
// what holds them; 0 while that is not known.
func (b *Means) Pulled(w *Reckoned) (load float64, perCM2 bool, with string) {
	v := b.Join(w)
	if v == nil || !v.Fits {
		return 0, false, ""
	}
	q := v.out.LoadG
	if v.out.LoadGPerCM2 != nil {
		q, perCM2 = v.out.LoadGPerCM2, true
	}
	return v.in.Base(v.With, *q), perCM2, v.With
}

// Inserts are what is in each piece that nobody eats: as it was said, else the wire that its
// way of making puts in, in a pick.
func (w *Reckoned) Inserts() []noun.Insert {
	if len(w.Piece.Goes.Inserts) > 0 || w.Way == nil {
		return w.Piece.Goes.Inserts
	}
	for _, t := range w.Way.Tools {
		if t.Kind == "wire" {
			return []noun.Insert{{Item: "wire", Each: 1}, {Item: "pick", Each: 1}}
		}
	}
	return nil
}
