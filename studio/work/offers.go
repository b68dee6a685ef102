package work

import (
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/caution"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// WayOffer is a way in which this drawer can make something, compared with the
// others over a dozen.
type WayOffer struct {
	Key      string   `json:"key"`
	Name     string   `json:"name"`
	About    string   `json:"about"`
	ToolID   int64    `json:"toolId" doc:"what it is shaped with; 0: with hands"`
	ToolName string   `json:"toolName"`
	Lacks    string   `json:"lacks" doc:"what the drawer has not; empty: it can be made"`
	Hands    string   `json:"hands" doc:"for a dozen"`
	HandsMin float64  `json:"handsMinutes"`
	Wait     string   `json:"wait" doc:"the longest, in this room"`
	Breakage string   `json:"breakage"`
	Paste    string   `json:"paste"`
	Taste    string   `json:"taste"`
	Joins    []string `json:"joins" doc:"states in which it can go on"`
	Besides  []string `json:"besides" doc:"other tools that it is reckoned with and that the drawer does not hold"`
	Own      bool     `json:"own" doc:"a way of this studio's own"`
	Size     string   `json:"size" doc:"of what its tool makes, where a size is wished"`
	Buy      string   `json:"buy" doc:"the paste that the pantry has none of; empty: it has"`
	Yours    string   `json:"yours" doc:"what broke of its pieces here so far; empty: nothing was made so"`
}

// dozen is how many pieces ways of making are compared over, when nobody says it.
const dozen = 12

// Wish is what somebody wants made: words of how it looks, how many, how long in mm and
// how it is eaten; 0 and "" for what was not said.
type Wish struct {
	Look  string
	Count int
	MM    float64
	Eaten string
}

// looks tells whether a way's words hold all that are wished.
func (x *Wish) looks(r read.Reader, t *technique.Technique) bool {
	text := strings.ToLower(t.Names.UK + " " + t.Names.US + " " + r.Say(t.About) + " " + t.About)
	for _, word := range strings.Fields(strings.ToLower(x.Look)) {
		if len(word) > 3 {
			word = strings.TrimSuffix(word, "s")
		}
		if !strings.Contains(text, word) {
			return false
		}
	}
	return true
}

// tastes are how pieces of a paste eat, in a word.
var tastes = map[string]string{"sugarPaste": "soft, sweet", "halfAndHalf": "firm to the bite", "flowerPaste": "hard, dry to taste", "darkChocolate": "best to eat", "milkChocolate": "best to eat", "whiteChocolate": "best to eat", "marzipan": "of almonds"}

var breakageWords = map[string]string{"none": "nothing breaks", "robust": "2 in 100 break", "ordinary": "5 in 100 break", "delicate": "10 in 100 break", "fragile": "20 in 100 break"}

// Offers compares the ways of making that look as is wished, those that this drawer can
// do first, the quickest first.
func (b *Means) Offers(c *noun.Commission, wish Wish) []WayOffer {
	out := []WayOffer{}
	if wish.Count == 0 {
		wish.Count = dozen
	}
	for _, t := range b.Library.All() {
		if t.OfPieces() && wish.looks(b.Reader, t) {
			out = append(out, b.offer(c, t, &wish))
		}
	}
	slices.SortStableFunc(out, func(x, y WayOffer) int {
		switch {
		case (x.Lacks == "") != (y.Lacks == ""):
			if x.Lacks == "" {
				return -1
			}
			return 1
		case x.HandsMin < y.HandsMin:
			return -1
		case x.HandsMin > y.HandsMin:
			return 1
		}
		return strings.Compare(x.Key, y.Key)
	})
	return out
}

func (b *Means) offer(c *noun.Commission, t *technique.Technique, wish *Wish) WayOffer {
	v := WayOffer{Key: t.Key, Name: NameOf(b.Reader, t.Names), About: b.Reader.Say(t.About), Breakage: breakageWords[t.Breakage], Joins: []string{}, Besides: b.besides(t), Own: technique.Ours.Of(t.Key) == nil}
	for _, s := range t.Join().States {
		if o, ok := stateWords[s]; ok {
			v.Joins = append(v.Joins, b.Reader.Say(o.Say))
		}
	}
	p := noun.BlankPiece()
	p.Technique, p.Wanted = t.Key, wish.Count
	if wish.Eaten != "" {
		p.Eaten = wish.Eaten
	}
	if t.Defaults["dough"] > 0 {
		p.Dough = "darkChocolate"
	}
	if lead := b.Library.Leading(t); lead != nil {
		tool := b.bestFor(t, lead, wish.MM)
		if tool == nil {
			v.Lacks = b.Reader.Say("no " + NameOf(b.Reader, b.Library.Kind(lead.Kind).Names) + " in the drawer")
			return v
		}
		p.ToolID, v.ToolID, v.ToolName = &tool.ID, tool.ID, tool.Name
		if long, _, _ := tool.Box(); wish.MM > 0 && long > 0 {
			v.Size = b.Reader.Length(long)
			if math.Abs(long-wish.MM) > offSize*wish.MM {
				v.Size += ", not " + b.Reader.Length(wish.MM)
			}
		}
	}
	w := &Reckoned{Piece: &p, order: c, Strength: 1, family: "halfAndHalf"}
	b.madeAs(w)
	if w.View.Missing != "" {
		v.Lacks = w.View.Missing
		return v
	}
	if w.PieceG == 0 { // not weighed yet: as such a piece usually weighs
		for _, m := range t.Measures {
			if m.Name == "massG" {
				w.PieceG, w.from = m.Default, "its measures"
			}
		}
	}
	w.Batch.Make = wish.Count
	b.dry(w)
	v.Paste = b.Reader.Say(read.PasteName(w.Fore.Paste))
	v.Taste = tastes[w.Fore.Paste]
	v.Buy = b.toBuy(w.Fore.Paste)
	if wish.Eaten == "mouthful" && slices.ContainsFunc(t.Steps, func(s technique.Step) bool { return slices.Contains(s.Cautions, "wire") }) {
		v.Lacks = b.Reader.Say("wires are in it: it is not eaten as a mouthful")
		return v
	}
	chain, err := b.Library.Chain(b.Question(w, wish.Count, wish.Count, b.Kitchen.LongestStretch()))
	if err != nil {
		v.Lacks = b.Reader.Say(Sentence(err))
		return v
	}
	v.HandsMin = chain.HandsMinutes
	v.Hands = read.SayMinutes(int(chain.HandsMinutes + 0.5))
	v.Wait = "no wait"
	if chain.LongestWaitMinutes > 0 {
		v.Wait = "waits " + read.EstimateMinutes(chain.LongestWaitMinutes)
	}
	return v
}

// besides are the tools of a way beside the one that leads it which have a size or places
// and are not in the drawer: it is reckoned with usual ones.
func (b *Means) besides(t *technique.Technique) []string {
	out := []string{}
	lead := b.Library.Leading(t)
	for i := range t.Tools {
		r := &t.Tools[i]
		k := b.Library.Kind(r.Kind)
		if lead != nil && lead.Role == r.Role || len(k.Measures) == 0 || !read.InDrawer(k.Kind) || b.OfKind(r) != nil {
			continue
		}
		out = append(out, b.Reader.Say(NameOf(b.Reader, k.Names)))
	}
	return out
}

// bestFor is a tool of the drawer that is usually worked with in this way; else any
// that can be.
func (b *Means) bestFor(t *technique.Technique, lead *technique.Role, mm float64) *noun.Tool {
	var best *noun.Tool
	off := func(x *noun.Tool) float64 { // how far it is from the size that is wished
		if mm == 0 {
			return 0
		}
		long, _, _ := x.Box()
		return math.Abs(long - mm)
	}
	for _, x := range b.Tools {
		if !lead.Takes(x.Kind) || x.DeletedAt != nil || x.InUse() < 1 || mm == 0 && b.WayOf(&noun.Piece{ToolID: &x.ID}, x) != t {
			continue
		}
		if best == nil || off(x) < off(best) || off(x) == off(best) && (x.Name < best.Name || x.Name == best.Name && x.ID < best.ID) {
			best = x
		}
	}
	if best == nil {
		return b.OfKind(lead)
	}
	return best
}

// offSize is how far a tool may be from the size that is wished without a word, as a share
// (assumed).
const offSize = 0.15

// toBuy is the paste of a way that the pantry has none of, and cannot mix; "" for none.
func (b *Means) toBuy(kind string) string {
	has := func(kinds ...string) bool {
		return slices.ContainsFunc(b.Lots, func(l noun.Lot) bool { return slices.Contains(kinds, l.Kind) && l.MassG > 0 })
	}
	switch {
	case has(kind), kind == "halfAndHalf" && has("sugarPaste", "softSugarPaste") && has("flowerPaste"), kind == "modellingPaste" && has("sugarPaste") && has("cmc", "tragacanth"):
		return ""
	}
	return b.Reader.Say("to buy: " + read.PasteName(kind))
}

// BreakReasons are why a piece broke.
var BreakReasons = []read.Option{{Code: "tore", Say: "tore coming out"}, {Code: "dropped", Say: "dropped"}, {Code: "cracked", Say: "cracked as it dried"}, {Code: "snapped", Say: "snapped in the hand"}, {Code: "colour", Say: "wrong colour"}, {Code: "other", Say: "something else"}}

// BreakSay is a reason in words.
func BreakSay(code string) string {
	for _, r := range BreakReasons {
		if r.Code == code {
			return r.Say
		}
	}
	return code
}

// Before is a piece of an order that is done, with how that went.
type Before struct {
	PieceID int64  `json:"pieceId"`
	Name    string `json:"name"`
	Swatch  string `json:"swatch"`
	Order   string `json:"order"`
	When    string `json:"when"`
	With    string `json:"with"`
	Went    string `json:"went"`
}

// WentSays tells how the making of a piece went, by its making steps.
func WentSays(steps []noun.Step) string {
	made, broken, minutes := 0, 0, 0.0
	why := map[string]int{}
	for i := range steps {
		st := &steps[i]
		made += st.Out()
		broken += st.Broken()
		for _, x := range st.Breaks {
			why[x.Why] += x.Count
		}
		if st.ActualStart != nil && st.ActualEnd != nil {
			minutes += st.ActualEnd.Sub(*st.ActualStart).Minutes()
		}
	}
	if made == 0 {
		return "nothing was noted of how it went"
	}
	say := fmt.Sprintf("%d made", made)
	if broken > 0 {
		most := ""
		for code, n := range why {
			if most == "" || n > why[most] || n == why[most] && code < most {
				most = code
			}
		}
		say += fmt.Sprintf(", %d broke (%s)", broken, BreakSay(most))
	} else {
		say += ", none broke"
	}
	if minutes > 0 {
		say += ", " + read.SayMinutes(int(minutes+0.5)) + " of rounds"
	}
	return say
}

// CautionsIn are cautions in the reader's words.
func CautionsIn(r read.Reader, all []caution.Caution) []caution.Caution {
	out := slices.Clone(all)
	for i := range out {
		out[i].Say = r.Say(out[i].Say)
	}
	return out
}
