package work

import (
	"fmt"
	"slices"

	"dustyfern/craft/paste"
	"dustyfern/studio/read"
)

const axisEnd = 3.0 // % gum; beyond it an arrow with the number

func orEnd(x *float64) float64 {
	if x == nil {
		return axisEnd
	}
	return *x
}

func or0(x *float64) float64 {
	if x == nil {
		return 0
	}
	return *x
}

// paste draws the rail and settles what the piece is mixed from.
func (b *Means) paste(w *Reckoned, plain float64) {
	a, p, r := &w.Advice, w.Piece, b.Reader
	v := &PasteView{Empty: a.Empty, AxisEnd: axisEnd, Bars: []BarView{}, Broken: []string{}, Clash: []string{}, Ways: []WayView{}, Mix: []MixView{}, Refused: append([]string{}, w.refused...),
		Schools: []DoseView{}, Doughs: []DoughView{}, Notes: []string{}, Knead: []string{}}
	w.View.Paste = v
	v.Axis = []AxisMark{{plain, r.Say("sugar paste")}, {paste.StrengthOf("mouldingReadyPaste"), r.Say("moulding-ready")}, {paste.StrengthOf("halfAndHalf"), "half and half"}, {paste.FlowerStrength, r.Say("flower paste")}}
	for _, d := range a.Demands {
		span := paste.Range{From: or0(d.FromPercent), To: d.ToPercent}
		v.Bars = append(v.Bars, BarView{Code: d.Code, Say: read.DemandSays[d.Code], Why: r.Say(d.Reason), From: or0(d.FromPercent), To: orEnd(d.ToPercent), Hard: d.Hard, Met: true, Span: span.Says()})
	}
	advice := *a
	if a.Empty && p.WayOut != "" {
		// the way out that was taken: the limit is met by the soft part, or by the backing
		advice = b.withWayOut(w, plain)
	}
	if !advice.Empty {
		b.usualPaste(w, &advice)
		v.Open = true
		v.From, v.To = advice.Window.From, orEnd(advice.Window.To)
		v.WindowSays = windowSays(*advice.Window)
		v.Advised, v.AdvisedSays = advice.Use.StrengthPercent, r.Say(read.WaySays[advice.Use.Way])
	}
	b.waysOut(w, v)
	for _, s := range a.Advice {
		v.Notes = append(v.Notes, s.Reason)
	}
	for _, s := range a.Beside {
		switch s.Way {
		case "sugarPasteHardened":
			v.Notes = append(v.Notes, r.Say(fmt.Sprintf("Some harden sugar paste instead: %s g of powder in 100 g brings it there.", read.Trimmed(*s.HardenerPercent, 2))))
		case "flowerPaste":
			v.Notes = append(v.Notes, r.Say("Some take flower paste alone: hardest, least pleasant to eat."))
		}
	}
	if len(a.FatSet.Against) > 0 {
		v.Notes = append(v.Notes, "White chocolate dough is ivory, not white.")
	}
	b.doughs(w, v)
	b.choose(w, v, &advice, plain)
	w.judged, w.plain = advice, plain
}

// eatenWishes are wishes of those who eat it: a way of making that usually gives them up
// may.
var eatenWishes = []string{"mouthful", "nibbled", "shown"}

// usualPaste takes the paste that is usual for a way of making in the place of the least
// gum that nothing forbids, where it lies within what is left and gives up no more of what
// the room and the piece wish.
func (b *Means) usualPaste(w *Reckoned, advice *paste.Advice) {
	k, ok := paste.KindOf(w.Fore.Paste)
	if !ok || k.FatSet || read.WaySays[k.Code] == "" || k.Strength < advice.Window.From-1e-9 || k.Strength > orEnd(advice.Window.To)+1e-9 {
		return
	}
	kept := paste.Broken(*advice, advice.Use.StrengthPercent)
	for _, code := range paste.Broken(*advice, k.Strength) {
		if !slices.Contains(kept, code) && !slices.Contains(eatenWishes, code) {
			return
		}
	}
	use := *advice.Use
	use.Way, use.StrengthPercent = k.Code, k.Strength
	advice.Use = &use
}

// windowSays is what the demands leave, in a sentence.
func windowSays(r paste.Range) string {
	switch {
	case r.From <= 0 && r.To == nil:
		return "any paste would do: how it is eaten decides"
	case r.From <= 0:
		return fmt.Sprintf("it must stay soft: at most %s %% gum", read.Trimmed(*r.To, 1))
	case r.To == nil:
		return fmt.Sprintf("it wants %s %% gum or more", read.Trimmed(r.From, 1))
	}
	return fmt.Sprintf("from %s to %s %% gum does for all of it", read.Trimmed(r.From, 1), read.Trimmed(*r.To, 1))
}

// withWayOut asks again without the upper demand that the way out answers.
func (b *Means) withWayOut(w *Reckoned, plain float64) paste.Advice {
	if len(w.Advice.Clash) < 2 {
		return w.Advice
	}
	in := w.ask
	in.Demands = nil
	upper := map[string]bool{}
	lower := 0.0
	for _, d := range w.Advice.Demands {
		if d.Code == w.Advice.Clash[0] {
			lower = or0(d.FromPercent)
		}
	}
	for _, d := range w.Advice.Demands {
		upper[d.Code] = d.Hard && d.ToPercent != nil && *d.ToPercent < lower
	}
	for _, d := range w.ask.Demands {
		if !upper[d] {
			in.Demands = append(in.Demands, d)
		}
	}
	a, err := paste.Advise(in)
	if err != nil {
		return w.Advice
	}
	return a
}

// waysOut lists what opens an empty window, and what was taken already.
func (b *Means) waysOut(w *Reckoned, v *PasteView) {
	r, p := b.Reader, w.Piece
	applied := func(do, say string, back map[string]string) {
		v.Ways = append(v.Ways, WayView{Do: do, Say: say, Applied: true, Set: back})
	}
	if p.Chill && !(w.Tool != nil && w.Tool.Chilled) {
		applied("chill", "Chilled in the mould", map[string]string{"chill": "no"})
	}
	if p.HeldUp {
		applied("support", "Held up while it is soft", map[string]string{"heldUp": "no"})
	}
	if w.Advice.Empty && p.WayOut != "" {
		applied(p.WayOut, map[string]string{"splitThePiece": "Split: the core soft, the face firm", "backIt": "A thin firm face on a soft backing"}[p.WayOut], map[string]string{"wayOut": ""})
	}
	if !w.Advice.Empty {
		return
	}
	for _, c := range w.Advice.Clash {
		v.Clash = append(v.Clash, read.DemandSays[c])
	}
	for _, o := range w.Advice.WaysOut {
		span := ""
		if o.FromPercent != nil {
			span = paste.Range{From: *o.FromPercent, To: o.ToPercent}.Says()
		}
		x := WayView{Do: o.Do}
		switch o.Do {
		case "chill":
			x.Say, x.Why, x.Set = "Chill it in the mould", "It releases at 0.2 % less gum: "+span+".", map[string]string{"chill": "yes"}
		case "support":
			x.Say, x.Why, x.Set = "Hold it up while it is soft", "A former or dowel carries it: "+span+".", map[string]string{"heldUp": "yes"}
		case "chillAndSupport":
			x.Say, x.Why, x.Set = "Chill it and hold it up", "Both together open "+span+".", map[string]string{"chill": "yes", "heldUp": "yes"}
		case "splitThePiece":
			x.Say, x.Why, x.Set = "Split the piece", fmt.Sprintf("The core at %s, the part that is shown at %s.", o.SoftPart.Says(), o.FirmPart.Says()), map[string]string{"wayOut": "splitThePiece"}
		case "serveUneaten":
			x.Say, x.Why, x.Set = "Show it, lift it off before it is eaten", "Then "+span+" serves.", map[string]string{"eaten": "shown"}
		case "backIt":
			x.Say, x.Why, x.Set = "Back a thin firm face with plain paste", fmt.Sprintf("At most %s %% of the bite may be firm. Never for small children.", read.Trimmed(*o.FirmShareMost*100, 0)), map[string]string{"wayOut": "backIt"}
		}
		x.Why = r.Say(x.Why)
		if p.WayOut != o.Do {
			v.Ways = append(v.Ways, x)
		}
	}
}

// doughNot is why a fat-set dough is refused, by demand.
var doughNot = map[string]string{"strands": "long strands break", "hung": "it stretches where it hangs", "faces": "fine limbs and undercuts tear", "branching": "forks tear in the mould",
	"shell": "it sets no shell", "thinPetals": "thin edges melt in the hand", "carries": "it carries nothing", "deepMould": "the undercut holds soft dough back",
	"upright": "it would have to stand: held, and at least 4 °C under its soft point", "standsDry": "it would have to stand within 4 °C of its soft point", "roomAboveSoftPoint": "the room is at its soft point or above"}

func (b *Means) doughs(w *Reckoned, v *PasteView) {
	f := w.Advice.FatSet
	switch {
	case f.Allowed:
		v.FatSet = "Chocolate dough would do as well: best to eat, soft in a warm room."
	default:
		var why []string
		for _, x := range f.ExcludedBy {
			why = append(why, doughNot[x])
		}
		v.FatSet = "No chocolate dough: " + read.List(dedupe(why)) + "."
	}
	for i := range b.Lots {
		l := &b.Lots[i]
		k, _ := paste.KindOf(l.Kind)
		if !k.FatSet || l.MassG <= 0 {
			continue
		}
		d := DoughView{Code: l.Kind, Name: l.Name, Chosen: w.Piece.Dough == l.Kind, Says: b.Reader.Mass(l.MassG) + " there"}
		if met := w.order.Refuses(l); len(met) > 0 {
			d.Refused = "Refused: it holds " + read.List(met) + ", and there is an allergy at the table."
		} else if !f.Allowed {
			d.Refused = v.FatSet
		}
		v.Doughs = append(v.Doughs, d)
	}
}

func dedupe(in []string) []string {
	var out []string
	seen := map[string]bool{}
	for _, s := range in {
		if !seen[s] {
			seen[s] = true
			out = append(out, s)
		}
	}
	return out
}
