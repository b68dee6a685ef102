package work

import (
	"cmp"
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
	return []string{b.Reader.Sayf("%s: %s. %s", read.UpperFirst(read.AttacherSay(out.Attacher)), amountSays(&out), stepSays("hold", &out))}
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
