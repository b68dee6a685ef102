package work

import (
	"fmt"
	"math"

	"dustyfern/craft/fault"
	"dustyfern/craft/tier"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// RoundView is how pieces stand round a tier: how many, how far apart, with their laps or
// gaps and corners, and the strip that marks them.
type RoundView struct {
	Says   string       `json:"says"`
	Tiers  []string     `json:"tiers" doc:"to choose from, from below"`
	Tier   int          `json:"tier" doc:"which of them"`
	Count  int          `json:"count"`
	Usual  int          `json:"usual" doc:"so many by its way of making, or as are wanted"`
	Word   string       `json:"word"`
	LongMM float64      `json:"longMM" doc:"of the strip: once round"`
	Marks  []RoundMark  `json:"marks"`
	Pitch  *noun.Figure `json:"pitch,omitempty"`
	Gap    *noun.Figure `json:"gap,omitempty"`
	Pages  string       `json:"pages" doc:"how it is printed"`
	Notes  []string     `json:"notes"`
}

// RoundMark is a place along the strip. A corner is none for a piece.
type RoundMark struct {
	AtMM   float64 `json:"atMM"`
	Says   string  `json:"says"`
	Corner bool    `json:"corner,omitempty"`
}

// mostRound stand round one tier.
const mostRound = 400

// Round sets pieces evenly round a tier of their order: of, from 0 below; count 0 for as
// many as its way of making says. Faults: tier, count; nil where the order has no tiers.
func (b *Means) Round(w *Reckoned, of, count int) (*RoundView, error) {
	if w.order == nil || w.order.Carrier != "tiers" || len(w.order.Tiers) == 0 || w.Way == nil {
		return nil, nil
	}
	if of < 0 || of >= len(w.order.Tiers) {
		return nil, fault.New(fault.OutOfRange, "tier", "The order has %s.", read.Count(len(w.order.Tiers), "tier"))
	}
	if count < 0 || count > mostRound {
		return nil, fault.New(fault.OutOfRange, "count", "Up to %d stand round a tier, not %d.", mostRound, count)
	}
	v := &RoundView{Tiers: []string{}, Tier: of, Word: "piece", Marks: []RoundMark{}, Notes: []string{}}
	for i := range w.order.Tiers {
		v.Tiers = append(v.Tiers, tierView(&w.order.Tiers[i], b.Reader).Says)
	}
	t := &w.order.Tiers[of]
	girth := tierView(t, b.Reader).Girth
	if girth == nil {
		return nil, fault.New(fault.Required, "tier", "How wide is this tier?")
	}
	v.LongMM = girth.Value
	own := w.Fore.Round
	if own.Says != "" {
		v.Word = own.Says
	}
	v.Usual = w.Wanted
	switch share := v.LongMM / math.Max(1, w.runMM(b)); {
	case own.PitchMM > 0:
		v.Usual = int(math.Floor(v.LongMM/own.PitchMM + 1e-9))
	case own.Count > 0: // reckoned for the run of the piece: another tier takes its share
		v.Usual = int(math.Round(own.Count * share))
	}
	v.Usual = min(mostRound, max(1, v.Usual))
	if count == 0 && v.Usual < 2 && own.Says == "" {
		return nil, nil // one alone stands nowhere in a row
	}
	if v.Count = count; count == 0 {
		v.Count = v.Usual
	}
	if t.Shape == "square" {
		b.roundSquare(v, t.SizeMM+2*t.CoatingMM)
	} else {
		out, err := tier.Marks(tier.MarksIn{RunMM: &v.LongMM, Count: &v.Count})
		if err != nil {
			return nil, err
		}
		for i, at := range out.MarksMM {
			v.Marks = append(v.Marks, RoundMark{AtMM: at, Says: fmt.Sprint(i + 1)})
		}
		v.Notes = append(v.Notes, "Close the strip round the coated tier: its end meets mark 1.")
	}
	b.between(w, v, own.LapMM)
	b.bandNote(w, v, t)
	page, err := tier.Marks(tier.MarksIn{RunMM: &v.LongMM, Count: &v.Count})
	if err != nil {
		return nil, err
	}
	v.Pages = fmt.Sprintf("in %s of A4 length, lapped by %s", read.Count(page.Pages, "part"), b.Reader.Length(10))
	v.Says = fmt.Sprintf("%s round the %s tier of %s: %s once round, its coating in it.", read.Count(v.Count, v.Word), t.Shape, b.Reader.Length(t.SizeMM), girth.Text)
	return v, nil
}

// runMM is the run that a piece is reckoned for.
func (w *Reckoned) runMM(b *Means) float64 {
	if x, ok := b.numberOf(w, runName); ok && x > 0 {
		return x
	}
	x, _ := b.roundTier(w.order, runName)
	return x
}

// roundSquare sets them side by side: the same on each side where they can be, else evenly
// round.
func (b *Means) roundSquare(v *RoundView, side float64) {
	v.LongMM = 4 * side
	for k := range 4 {
		v.Marks = append(v.Marks, RoundMark{AtMM: math.Round(2*float64(k)*side) / 2, Says: "corner", Corner: true})
	}
	if v.Count%4 == 0 {
		each := v.Count / 4
		for k := range 4 {
			for i := range each {
				at := float64(k)*side + side*(float64(i)+0.5)/float64(each)
				v.Marks = append(v.Marks, RoundMark{AtMM: math.Round(2*at) / 2, Says: fmt.Sprint(k*each + i + 1)})
			}
		}
		v.Notes = append(v.Notes, fmt.Sprintf("%d on each side, the same distance to both its corners.", each))
		return
	}
	alike := fmt.Sprintf("%d or %d", v.Count/4*4, (v.Count/4+1)*4)
	if v.Count < 4 {
		alike = "4"
	}
	v.Notes = append(v.Notes, fmt.Sprintf("%d is no multiple of 4: evenly round, and some stand near a corner. %s would be alike on each side.", v.Count, alike))
	for i := range v.Count {
		at := v.LongMM * (float64(i) + 0.5) / float64(v.Count)
		v.Marks = append(v.Marks, RoundMark{AtMM: math.Round(2*at) / 2, Says: fmt.Sprint(i + 1)})
	}
}

// bandNote says how long what lies round the tier is cut, its own thickness in it.
func (b *Means) bandNote(w *Reckoned, v *RoundView, t *noun.Tier) {
	thick, ok := b.numberOf(w, "thicknessMM")
	if _, band := b.numberOf(w, "cutMM"); !ok || !band {
		return
	}
	in := tier.BandIn{ThicknessMM: &thick}
	if side := t.SizeMM + 2*t.CoatingMM; t.Shape == "square" {
		in.SideMM, in.Corner = &side, new("mitred")
	} else {
		in.RunMM, in.OverlapMM = &v.LongMM, &w.Fore.Round.LapMM
	}
	out, err := tier.Band(in)
	switch {
	case err != nil:
	case out.SidePieceMM != nil:
		v.Notes = append(v.Notes, fmt.Sprintf("Cut each side %s: at both corners it goes past by its neighbour, %s thick.", b.Reader.Length(*out.SidePieceMM), b.Reader.Length(thick)))
	case out.CutMM != nil:
		v.Notes = append(v.Notes, fmt.Sprintf("In one length it is cut %s: once round, and %s more for its own thickness and its lap.", b.Reader.Length(*out.CutMM), b.Reader.Length(*out.CutMM-v.LongMM)))
	}
}

// between says how far apart they stand, and what is left between two, or how far one laps
// over the next.
func (b *Means) between(w *Reckoned, v *RoundView, lap float64) {
	pitch := v.LongMM / float64(v.Count)
	v.Pitch = &noun.Figure{Value: pitch, Unit: "from one to the next", Text: b.Reader.Length(pitch), Why: &noun.Why{Rule: "The way round the coated tier in equal parts. Each mark is rounded by itself to half a millimetre, so that nothing drifts.", Formula: "pitch = once round / count",
		Values: []noun.Named{{Name: "once round", Text: b.Reader.Length(v.LongMM)}, {Name: "count", Text: fmt.Sprint(v.Count)}}}}
	wide := w.Fore.Round.WideMM
	if w.Way.Round == nil && w.Tool != nil {
		_, wide, _ = w.Tool.Box()
	}
	if wide == 0 {
		return
	}
	gap := pitch - wide
	values := []noun.Named{{Name: "pitch", Text: b.Reader.Length(pitch)}, {Name: "one is wide", Text: b.Reader.Length(wide)}}
	switch {
	case gap >= 0:
		v.Gap = &noun.Figure{Value: gap, Unit: "free between two", Text: b.Reader.Length(gap), Why: &noun.Why{Rule: "What the pieces leave of the way round, in equal parts.", Formula: "gap = pitch − width", Values: values}}
	case lap > 0:
		v.Gap = &noun.Figure{Value: -gap, Unit: "of one on the next", Text: b.Reader.Length(-gap), Why: &noun.Why{Rule: "What the pieces are longer than the way round, shared by their laps.", Formula: "lap = length − pitch", Values: values}}
	default:
		v.Notes = append(v.Notes, fmt.Sprintf("They do not fit side by side: at most %d, each %s wide.", int(math.Floor(v.LongMM/wide+1e-9)), b.Reader.Length(wide)))
	}
}
