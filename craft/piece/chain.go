package piece

import (
	"math"

	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
)

// Mould is a mould as the chain sees it: sizes of the piece as it lies, mm.
type Mould struct {
	Make                               string // cavity, lace, lip
	LengthMM, WidthMM, DepthMM         float64
	DetailMM                           float64 // finest detail, 0: not said
	Undercut, Patterned, Branching     bool
	Chilled                            bool
	Cavities, Copies                   int
	FreezeMinutes, FillMin, UnmouldMin *float64 // own minutes, nil: by the table
}

// Manner is how a piece is used, joined and dried.
type Manner struct {
	Eaten                    string // mouthful, nibbled, shown
	KnifePasses, Bent        bool
	Upright                  bool
	HeightMM, EdgeMM         *float64
	Joined                   string // pliable, semiDry, dry, cold
	Bagged, Soon, Carries    bool
	Children, Chill, Support bool
}

// Minutes of the chain where neither the studio nor the mould says its own
// (assumed; docs/models/steps.md).
const (
	fillPlainSec   = 60
	fillDetailSec  = 90
	fillDeepSec    = 150
	openSec        = 20
	openChilledSec = 45
	placeColdSec   = 45
	placeHeavySec  = 90
	fineDetailMM   = 1.0
	freezeUsual    = 8.0
	freezeDeep     = 10.0
	freezeDough    = 5.0
	BlendRest      = 15   // minutes that a blend of two pastes lies in its bag
	BagLongest     = 720  // minutes that kneaded paste keeps in its bag
	LayOutWithin   = 10   // minutes from unmoulding to where it dries
	BagPliable     = 120  // minutes that a piece stays pliable in a closed bag
	HeavyFromG     = 5.0  // a heavier piece takes longer to put on
	GapMM          = 10.0 // between pieces on a tray
)

// Ask turns a piece into what its paste is asked for.
func (m Manner) Ask(mould *Mould, tempC, rhPercent, plain float64) paste.AdviseIn {
	in := paste.AdviseIn{TempC: &tempC, RHPercent: &rhPercent, PlainPercent: &plain, ChildrenServed: &m.Children, Supported: &m.Support, EdgeMM: m.EdgeMM}
	add := func(on bool, code string) {
		if on {
			in.Demands = append(in.Demands, code)
		}
	}
	thick := 0.0
	chilled := m.Chill
	if mould != nil {
		in.DepthMM, in.WidthMM, in.LengthMM = &mould.DepthMM, new(math.Min(mould.WidthMM, mould.LengthMM)), new(math.Max(mould.WidthMM, mould.LengthMM))
		thick = mould.DepthMM
		chilled = chilled || mould.Chilled
		add(mould.Make == "lace", "scrapedLace")
		add(mould.Make == "lip", "lippedOpenwork")
		if mould.Undercut {
			in.Undercut = &mould.Undercut
		}
		add(mould.Undercut, "faces")
		add(mould.Branching, "branching")
		add(mould.Patterned, "embossed")
	}
	in.Chilled = &chilled
	add(m.Eaten == "mouthful", "mouthful")
	add(m.Eaten == "nibbled", "nibbled")
	add(m.Eaten == "shown", "shown")
	add(m.KnifePasses, "knifeThrough")
	add(m.Bent, "wrapped")
	add(m.Carries, "carries")
	add(m.Joined == "pliable" && m.Bagged, "staysPliable")
	add(m.Soon, "handledSoon")
	if m.Upright {
		// slim only when its height is over eight times its thickness; unsaid, it is taken as slim
		slim := m.HeightMM == nil || thick == 0 || *m.HeightMM/thick > 8
		add(slim && m.Joined == "dry", "standsDry")
		add(slim && m.Joined != "dry", "upright")
	}
	return in
}

// Deep says whether a mould is filled and frozen as a deep one.
func (m *Mould) Deep() bool {
	w := math.Min(m.WidthMM, m.LengthMM)
	return m.DepthMM >= 20 || m.DepthMM >= 12 && m.DepthMM/w > 0.8
}

// Round is the seconds of one mould's round.
type Round struct {
	FillSec, HoldSec, UnmouldSec int
	FreezeMinutes                float64
	Because                      string
}

// RoundOf gives the seconds of one fill (all cavities), of the freezer and of
// opening; a cold join puts the piece on within the round.
func (m *Mould) RoundOf(chilled, dough bool, joined string, pieceG float64) Round {
	r := Round{FillSec: fillPlainSec, UnmouldSec: openSec, Because: "a flat or single cavity: 60 s"}
	long := math.Max(m.LengthMM, m.WidthMM) / math.Min(m.LengthMM, m.WidthMM)
	switch {
	case m.FillMin != nil:
		r.FillSec, r.Because = int(math.Round(*m.FillMin*60)), "your own minutes of this mould"
	case m.Branching || m.Deep() || long > 20:
		r.FillSec, r.Because = fillDeepSec, "deep, branching or a string: 150 s"
	case m.DetailMM > 0 && m.DetailMM < fineDetailMM || m.Undercut:
		r.FillSec, r.Because = fillDetailSec, "fine detail: 90 s"
	}
	r.FillSec = max(1, r.FillSec*m.Cavities)
	if chilled {
		r.UnmouldSec = openChilledSec
		r.FreezeMinutes = freezeUsual
		switch {
		case m.FreezeMinutes != nil:
			r.FreezeMinutes = *m.FreezeMinutes
		case dough:
			r.FreezeMinutes = freezeDough
		case m.Deep() || m.Undercut:
			r.FreezeMinutes = freezeDeep
		}
		r.HoldSec = int(math.Round(r.FreezeMinutes * 60))
	}
	if m.UnmouldMin != nil {
		r.UnmouldSec = max(1, int(math.Round(*m.UnmouldMin*60)))
	}
	if joined == "cold" {
		if pieceG >= HeavyFromG {
			r.UnmouldSec += placeHeavySec
		} else {
			r.UnmouldSec += placeColdSec
		}
	}
	return r
}

// KneadMinutes by the mass: so much for the first 250 g, more for each further
// 250 g begun.
func KneadMinutes(massG float64, first, more int) int {
	return first + more*max(0, measure.Ceil(massG/250)-1)
}

// Trays that pieces need, whole trays each.
func Trays(pieces int, lengthMM, widthMM, trayLengthMM, trayWidthMM float64) int {
	area := float64(pieces) * (lengthMM + GapMM) * (widthMM + GapMM)
	return max(1, measure.Ceil(area/(trayLengthMM*trayWidthMM)))
}

// PutOnMinutes is the time to put pieces on: to begin with, and each by weight.
func PutOnMinutes(base, small, large float64, counts map[float64]int) int {
	m := base
	for g, n := range counts {
		if g >= HeavyFromG {
			m += large * float64(n)
		} else {
			m += small * float64(n)
		}
	}
	return max(1, measure.Ceil(m))
}

// StepText is what a step says at the bench: what hands do, what to look at,
// and where good makers differ the ways with their reasons. Ours comes first.
type StepText struct {
	Says, Checks []string
	Ways         [][3]string // say, why, "usual" or ""
}

// TextOf gives the words of a step of a moulded piece.
func TextOf(kind string, m *Mould, chilled, dough bool) StepText {
	switch kind {
	case "knead":
		t := StepText{
			Says:   []string{"Knead warm and seamless, off the board.", "Weigh the paste and note the time."},
			Checks: []string{"gives to a pinch, no grit, no seam", "does not cling to dry fingers"},
			Ways: [][3]string{
				{"half-and-half from the shelf, straight in", "one half stays workable, the other lets edges survive", "usual"},
				{"always harden a packet paste", "some brands drag under the knife", ""},
			},
		}
		if dough {
			t.Says = []string{"Knead only until it bends; cool hands.", "Lay it down for 5 min when it turns shiny."}
			t.Ways = nil
		}
		return t
	case "rest":
		return StepText{Says: []string{"Into a closed bag, air pressed out. Label it with colour and time."}, Checks: []string{"the bag is shut"},
			Ways: [][3]string{{"light dose: 10 to 15 min", "stays edible", ""}, {"middle dose: 30 min, better overnight", "cuts cleanly", "usual"}, {"heavy dose: shape at once", "it must set hard", ""}}}
	case "press":
		return pressText(m, chilled, dough)
	case "air":
		return StepText{Says: []string{"Leave them until they are matt; do not touch the show face."}, Checks: []string{"matt, no droplets"}}
	case "dry":
		return StepText{Says: []string{"Lay them out with a finger's width between."}, Checks: []string{"not cool to the lip", "no bend when lifted", "hard tap"},
			Ways: [][3]string{{"by the room's own time", "thick cores lag", "usual"}, {"a few hours", "it holds", ""}, {"overnight or 24 h", "it is sure", ""}}}
	case "putOn":
		return StepText{Says: []string{"Position first, wet later.", "Small pieces: a film of water. Larger: a dab of icing."}, Checks: []string{"stations against the strip, level, even gaps", "one full turn of the table"},
			Ways: [][3]string{{"by mass: water to 5 g, edible glue to 15 g, icing above", "each holds what it can", "usual"}, {"wet the cake for lines", "straight", ""}, {"wet the piece for singles", "no drips", ""}}}
	case "settle":
		return StepText{Says: []string{"Let everything take hold. Nothing is moved."}, Checks: []string{"no part slides"}}
	case "pack":
		return StepText{Says: []string{"Brush off, count what is not eaten, photograph.", "Cool, dry and flat on the way; props out before serving."}, Checks: []string{"inedible parts counted"}}
	}
	return StepText{}
}

func pressText(m *Mould, chilled, dough bool) StepText {
	t := StepText{Checks: []string{"rim clear all round", "no mould colour in the depths", "level back"}}
	switch {
	case m.Make == "lace":
		t.Says = []string{"Bare mould, greased forefingers.", "Press and stretch, scrape toward a pressing finger.", "Needle each tip free, lift low from the strongest place."}
		t.Checks = []string{"pale fingertip: pressed enough", "lines whole to the ends"}
	case m.Make == "lip":
		t.Says = []string{"A sheet that covers the mould; starch, tapped out.", "Press with the palm, pin over the blades, again over the windows.", "Needle the windows out, flex from below until the corners lift."}
		t.Checks = []string{"fingertip round every window", "flexes without a crack"}
	case m.Branching:
		t.Says = []string{"Smooth side down.", "Fill the small ends first and hard, then the middle."}
	default:
		t.Says = []string{"Smooth side down.", "Press the middle first, then out into the ends; draw the edges in until the rim shows."}
	}
	if chilled {
		t.Says = append(t.Says, "Straight into the freezer in the order of pressing; push out from behind.")
	} else {
		t.Says = append(t.Says, "Turn over, bend the rim, let it fall.")
	}
	t.Ways = [][3]string{
		{"starch film, knocked out until a haze shows", "an even film frees round and deep moulds", "usual"},
		{"nothing inside, a trace of fat on the fingertips", "fine lines need a bare mould", ""},
	}
	if m.Make == "lace" || dough {
		t.Ways[0][2], t.Ways[1][2] = "", "usual"
	}
	if chilled {
		t.Ways = append(t.Ways, [3]string{"5 to 10 min in the freezer", "long, deep and thin pieces let go whole", "usual"}, [3]string{"out at once", "seconds, and no dew", ""})
	}
	return t
}
