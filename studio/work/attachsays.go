package work

import (
	"cmp"
	"fmt"
	"math"
	"strings"

	"dustyfern/craft/attach"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

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
	v.Says = r.Sayf("%s: %s.", read.UpperFirst(read.AttacherSay(v.With)), amountSays(out))
	for _, o := range out.Order {
		v.Steps = append(v.Steps, r.Say(stepSays(o, out)))
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

func amountSays(out *attach.ChooseOut) string {
	where := map[string]string{"piece": "on the piece", "cake": "on the cake", "under": "under it once it lies right", "speck": "on the spot, then the piece", "none": ""}[out.Where]
	amount := map[string]string{"film": "a thin tacky film", "dots": "dots", "line": "a line", "bed": "a bed", "none": "nothing is wetted"}[out.Amount]
	return strings.TrimSpace(amount + " " + where)
}

func stepSays(code string, out *attach.ChooseOut) string {
	switch code {
	case "position":
		return "Position first: mark where it goes."
	case "wet":
		return read.UpperFirst(amountSays(out)) + "."
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
		return fmt.Sprintf("Hold it for %d s.", 5*int(math.Ceil(*out.HoldSeconds/5-1e-9))) // as one counts
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
		parts = append(parts, b.Reader.Say(stepSays("waitTack", &v.out)))
	}
	parts = append(parts, b.Reader.Say(stepSays("hold", &v.out)))
	if *v.out.PropMinutes > 0 {
		parts = append(parts, b.Reader.Say(stepSays("prop", &v.out)))
	}
	out := []string{strings.Join(parts, " ")}
	if v.Curve != "" {
		out = append(out, v.Curve)
	}
	return out
}
