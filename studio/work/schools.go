package work

import (
	"slices"

	"dustyfern/craft/colour"
	"dustyfern/craft/fault"
	"dustyfern/craft/paste"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// SchoolView is a question on which good makers differ, with each side's
// reason, and which side this studio is on.
type SchoolView struct {
	Code   string      `json:"code"`
	Asks   string      `json:"asks"`
	Sides  []SchoolWay `json:"sides"`
	Chosen string      `json:"chosen" doc:"the side that is in use"`
	Own    bool        `json:"own" doc:"the studio has said so"`
}

// SchoolWay is one side of it.
type SchoolWay struct {
	Code string `json:"code"`
	Say  string `json:"say"`
	Why  string `json:"why"`
}

// SchoolQuestions; the first side of each is ours until the studio chooses.
var SchoolQuestions = []SchoolView{
	{Code: "packet", Asks: "Moulding-ready paste from the packet", Sides: []SchoolWay{
		{"straight", "straight into the mould", "It is bought at the right feel; powder only makes it short."},
		{"hardened", "with a pinch of hardener", "Brands differ: when it clings to dry fingers a pinch makes it release."}}},
	{Code: "eatenTopper", Asks: "A topper that is eaten", Sides: []SchoolWay{
		{"lightDose", "sugar paste with a light dose", "Firm enough to lift, soft to bite: 0.75 % gum."},
		{"halfAndHalf", "half-and-half", "Keeps its shape in a damp room, and a knife still passes: 1.6 % gum."}}},
	{Code: "allergenBoard", Asks: "A table that avoids what another order's paste holds", Sides: []SchoolWay{
		{"wash", "board, tools and hands washed between", "One board serves: it takes the minutes that the kitchen says."},
		{"first", "that table first, nothing of it after the other", "Nothing can be left behind that has not been there yet; it may take another evening."},
		{"own", "a board and tools of its own", "Kept apart and marked: no minutes, as long as they are never mixed up."}}},
	{Code: "roses", Asks: "Roses, and whatever has thin petals", Sides: []SchoolWay{
		{"halfAndHalf", "half-and-half", "Petals hold and the rose can still be eaten at the edge."},
		{"flowerPaste", "flower paste", "The thinnest petals, made days ahead; for show."}}},
	{Code: "leftovers", Asks: "What is left of a colour", Sides: []SchoolWay{
		{"kept", "kept apart, bagged by colour", "The same colour is there when a piece breaks."},
		{"balled", "balled with plain paste for cores", "Nothing is seen of it inside."},
		{"recombined", "kneaded together to a new colour", "Three ends make one brown or green: nothing is thrown away."}}},
}

// Schools lists the questions with this studio's side.
func SchoolViews(k *noun.Kitchen, r read.Reader, only ...string) []SchoolView {
	out := []SchoolView{}
	for _, q := range SchoolQuestions {
		if len(only) > 0 && !slices.Contains(only, q.Code) {
			continue
		}
		v := q
		v.Asks = r.Say(q.Asks)
		v.Sides = nil
		for _, s := range q.Sides {
			v.Sides = append(v.Sides, SchoolWay{s.Code, r.Say(s.Say), r.Say(s.Why)})
		}
		v.Chosen = q.Sides[0].Code
		if own, ok := k.Sides[q.Code]; ok {
			v.Chosen, v.Own = own, true
		}
		out = append(out, v)
	}
	return out
}

// CheckSides refuses sides of a document that nobody could have taken.
func CheckSides(k *noun.Kitchen) error {
	for code, side := range k.Sides {
		known := slices.ContainsFunc(SchoolQuestions, func(q SchoolView) bool {
			return q.Code == code && slices.ContainsFunc(q.Sides, func(w SchoolWay) bool { return w.Code == side })
		})
		if !known {
			return fault.New(fault.UnknownValue, "kitchen.sides", "There is no side %q of a question %q.", side, code)
		}
	}
	return nil
}

// sidesOf are the questions that a piece raises.
func (b *Means) sidesOf(w *Reckoned) []SchoolView {
	var codes []string
	if w.fromPacket() {
		codes = append(codes, "packet")
	}
	if w.Piece.Eaten == "mouthful" {
		codes = append(codes, "eatenTopper")
	}
	if w.thinPetals() {
		codes = append(codes, "roses")
	}
	if len(codes) == 0 {
		return []SchoolView{}
	}
	return SchoolViews(b.Kitchen, b.Reader, codes...)
}

// sidePeg is the strength of thin petals or of a mouthful by the side that this
// studio has taken, when the window of the piece allows it; light: by the light
// dose.
func (b *Means) sidePeg(w *Reckoned, a *paste.Advice, plain float64) (e float64, light, ok bool) {
	if a.Empty {
		return 0, false, false
	}
	petals, asked := b.Kitchen.Sides["roses"]
	topper, isTopper := b.Kitchen.Sides["eatenTopper"]
	switch {
	case asked && w.thinPetals():
		e = paste.StrengthOf(petals)
	case isTopper && w.Piece.Eaten == "mouthful":
		e = paste.StrengthOf("halfAndHalf")
		if light = topper == "lightDose"; light {
			d, err := b.dose("light", 100)
			if err != nil {
				return 0, false, false
			}
			e = (plain + d.Percent) / (1 + d.Percent/100)
		}
	default:
		return 0, false, false
	}
	return e, light, e >= a.Window.From-1e-9 && (a.Window.To == nil || e <= *a.Window.To+1e-9)
}

// thinPetals tells whether edges are drawn out, as a rose's are.
func (w *Reckoned) thinPetals() bool {
	return slices.ContainsFunc(w.Advice.Demands, func(d paste.Bar) bool { return d.Code == "thinPetals" })
}

// fromPacket reports whether a piece is made of moulding-ready paste.
func (w *Reckoned) fromPacket() bool {
	return slices.ContainsFunc(w.Uses, func(m MixPart) bool { return m.Lot != nil && m.Lot.Kind == "mouldingReadyPaste" }) ||
		len(w.Uses) == 0 && !w.Advice.Empty && w.Advice.Use != nil && w.Advice.Use.Way == "mouldingReadyPaste"
}

// PacketNote is what this studio does with paste from the packet.
func (b *Means) PacketNote(w *Reckoned) string {
	switch {
	case !w.fromPacket():
		return ""
	case b.Kitchen.Sides["packet"] == "hardened":
		return b.Reader.Say("Cling test first: when the paste sticks to dry fingers, knead in a pinch of " + read.PowderNames[b.Kitchen.Powder] + ", off the board.")
	case b.Kitchen.Sides["packet"] == "straight":
		return "Straight from the packet: no powder."
	}
	return ""
}

// offersTubs reports whether a colour out of leftovers is for this studio:
// whoever balls them has none, whoever keeps them apart uses a tub for its own
// colour only.
func (b *Means) offersTubs(coloured int, de00 float64) bool {
	switch b.Kitchen.Sides["leftovers"] {
	case "balled":
		return false
	case "kept":
		return coloured == 1 && de00 <= colour.SameColour
	}
	return true
}
