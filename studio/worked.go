package studio

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/caution"
	"dustyfern/craft/drying"
	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// benchOf is what a piece is worked out from: the kitchen, the drawer and the
// pantry of one studio at one moment.
type benchOf struct {
	k     *noun.Kitchen
	r     read.Reader
	now   time.Time
	tools map[int64]*noun.Tool
	lots  []noun.Lot
	away  []noun.Lot                  // bottles that pieces chose and that were taken away
	taken map[int64]map[int64]float64 // by piece, then lot: grams that finished steps took
	kinds map[int64]int               // by commission: kinds of piece with something wanted
}

// worked is a piece with everything that follows from it.
type worked struct {
	p        *noun.Piece
	c        *noun.Commission
	mould    *noun.Tool
	view     PieceView
	ask      paste.AdviseIn
	advice   paste.Advice
	judged   paste.Advice // with the way out of a clash that was chosen
	plain    float64      // strength of the plain paste
	strength float64      // gum strength chosen; dough: 0
	family   string
	usable   []*noun.Lot
	plainLot *noun.Lot // nil: there is none
	refused  []string
	uses     []mixPart
	adds     []mixPart // powder and gels
	buys     []mixPart // what the pantry lacks
	tint     *tint
	dose     *paste.HardenerOut
	rest     int // minutes in the bag
	atOnce   bool
	chilled  bool
	pieceG   float64
	batch    piece.BatchOut
	round    piece.Round
	rounds   int
	dew      drying.DewOut
	stages   [3]*band // hold, firm and skin in minutes
	never    string   // why it will not set here
}

type band struct{ p10, p50, p90 int }

type mixPart struct {
	lot  *noun.Lot
	name string
	g    float64
	kind string // of what is not there
}

// ask-able mould and manner of a piece.
func (w *worked) craftMould() *piece.Mould {
	m := w.mould
	if m == nil {
		return nil
	}
	out := &piece.Mould{Make: m.Make, LengthMM: m.LengthMM, WidthMM: m.WidthMM, DepthMM: m.DepthMM, Undercut: m.Undercut, Patterned: m.Patterned,
		Branching: m.Branching, Chilled: m.Chilled, Cavities: m.Cavities, Copies: m.Copies, FreezeMinutes: m.FreezeMinutes, FillMin: m.FillMinutes, UnmouldMin: m.UnmouldMinutes}
	if m.DetailMM != nil {
		out.DetailMM = *m.DetailMM
	}
	return out
}

func (w *worked) manner() piece.Manner {
	p := w.p
	return piece.Manner{Eaten: p.Eaten, KnifePasses: p.KnifePasses, Bent: p.Bent, Upright: p.Stance == "upright", HeightMM: p.HeightMM, EdgeMM: p.EdgeMM,
		Joined: p.Joined, Bagged: p.Bagged, Soon: p.HandledSoon, Carries: p.Carries, Children: w.c.Children, Chill: p.Chill, Support: p.HeldUp}
}

func lotStrength(l *noun.Lot) float64 {
	k, _ := paste.KindOf(l.Kind)
	grade := 0
	if l.Grade != nil {
		grade = *l.Grade
	}
	if l.StrengthPercent != nil {
		k.Strength = *l.StrengthPercent
	}
	return paste.LotStrength(k.Strength, grade, lotOffset(l))
}

// work computes a piece from end to end; what cannot be computed yet is said
// in the view, never guessed.
func (b *benchOf) work(c *noun.Commission, p *noun.Piece) *worked {
	w := b.mixed(c, p)
	w.view.Fields = b.pieceViews(p)
	for _, f := range read.PasteFields {
		w.view.Settings[f.Name] = f.Text(b.r, p, b.now)
	}
	if w.view.Paste == nil {
		return w
	}
	b.schools(w, w.view.Paste, &w.judged, w.plain)
	w.view.Paste.Sides = b.sidesOf(w)
	w.view.Paste.Knead = b.kneadSteps(w)
	if w.mould != nil {
		b.dry(w)
		b.cycle(w)
	}
	b.cautions(w)
	return w
}

// mixed is a piece with its paste, its colour and its grams: what goes into it,
// not how long it takes.
func (b *benchOf) mixed(c *noun.Commission, p *noun.Piece) *worked {
	w := &worked{p: p, c: c}
	if p.MouldID != nil {
		w.mould = b.tools[*p.MouldID]
	}
	w.view = PieceView{ID: p.ID, Version: p.Version, Name: p.Name, Wanted: p.Wanted, Colour: p.Colour, Swatch: p.Swatch,
		Fields: []read.FieldView{}, Settings: map[string]string{}, Cautions: []caution.Caution{}}
	w.chilled = p.Chill || w.mould != nil && w.mould.Chilled
	if w.mould != nil {
		w.view.MouldName = w.mould.Name
	}
	b.stock(w)
	plain := paste.PlainStrength
	if w.plainLot != nil {
		plain = lotStrength(w.plainLot)
	}
	w.ask = w.manner().Ask(w.craftMould(), b.k.TempC, b.k.RHPercent, plain)
	if p.Dough != "" {
		if kind, ok := paste.KindOf(p.Dough); ok && kind.SoftPoint > 0 {
			w.ask.SoftPointC = &kind.SoftPoint
		}
	}
	if w.mould == nil {
		w.view.Missing = b.r.Say("Choose its mould: its size decides the paste, the grams and the drying.")
	}
	advice, err := paste.Advise(w.ask)
	if err != nil {
		w.view.Missing = sentence(err)
		return w
	}
	w.advice = advice
	b.quantity(w)
	b.paste(w, plain)
	b.colour(w)
	return w
}

func sentence(err error) string {
	var f *fault.Fault
	if errors.As(err, &f) {
		return f.Message
	}
	return err.Error()
}

func (b *benchOf) pieceViews(p *noun.Piece) []read.FieldView {
	out := read.Views(read.PieceFields, b.r, p, b.now)
	for i := range out {
		if out[i].Name == "mould" {
			out[i].Choices = []read.Option{{"", "not chosen yet"}}
			var all []*noun.Tool
			for _, t := range b.tools {
				if t.DeletedAt == nil || p.MouldID != nil && t.ID == *p.MouldID {
					all = append(all, t)
				}
			}
			slices.SortFunc(all, func(a, b *noun.Tool) int { return strings.Compare(a.Name, b.Name) })
			for _, t := range all {
				out[i].Choices = append(out[i].Choices, read.Option{fmt.Sprint(t.ID), t.Name})
			}
		}
	}
	return out
}

// quantity settles the mass of one piece and the balls of the batch.
func (b *benchOf) quantity(w *worked) {
	p, m := w.p, w.mould
	rho := measure.Densities["sugarPaste"].Nominal
	if p.Dough != "" {
		rho = measure.Densities[p.Dough].Nominal
	}
	in := piece.PieceIn{DensityGPerML: &rho}
	from := "the trial piece"
	switch {
	case m != nil && len(m.Weighings) >= piece.EnoughWeighings:
		mean, _ := m.Weighed()
		in.TrialPieceG = &mean
		from = fmt.Sprintf("the mean of %d pieces weighed", len(m.Weighings))
	case p.TrialG != nil:
		in.TrialPieceG = p.TrialG
		if p.TrialEstimate {
			from = "an estimate from " + p.TrialText
		}
	case m != nil && m.WeighedG != nil:
		in.TrialPieceG = m.WeighedG
		from = "a piece of this mould weighed before"
	case m != nil && m.CavityML != nil:
		in.CavityML = m.CavityML
		from = "the volume of the cavity"
	default:
		return
	}
	one, err := piece.OnePiece(in)
	if err != nil {
		w.view.Missing = sentence(err)
		return
	}
	cavities, copies := 1, 1
	if m != nil {
		cavities, copies = m.Cavities, m.Copies
	}
	kinds := min(200, max(1, b.kinds[p.CommissionID]))
	batch, err := once(fmt.Sprintf("batch|%d|%v|%v|%s|%d|%d|%d", p.Wanted, one.MassG, b.k.ScaleStepG, b.k.Breakage, kinds, cavities, copies), func() (piece.BatchOut, error) {
		return piece.Batch(piece.BatchIn{Wanted: &p.Wanted, PieceG: &one.MassG, ScaleStepG: &b.k.ScaleStepG, Breakage: &b.k.Breakage, Kinds: &kinds, Cavities: &cavities, Moulds: &copies})
	})
	if err != nil {
		w.view.Missing = sentence(err)
		return
	}
	w.pieceG, w.batch = one.MassG, batch
	mk := &MakeView{Weighed: weighedOf(m, b.r), From: b.r.Say(from), Trial: p.TrialText, Estimate: p.TrialEstimate}
	aim, aimText := one.MassG, b.r.Mass(one.MassG)
	if batch.AimG != nil {
		aim = *batch.AimG
		aimText = measureStep(aim, b.k.ScaleStepG)
		if b.r.Us() {
			aimText = b.r.Mass(aim)
		}
	}
	mk.Ball = noun.Figure{aim, "g", aimText, &noun.Why{Rule: "A weighed trial piece beats the volume. A ball may lie 2 % under and 4 % over it: an under-fill shows, an over-fill is trimmed.",
		Formula: "aim = the middle of the band, on the step of your scale", Values: []noun.Named{{"one piece, by " + from, read.Trimmed(one.MassG, 3) + " g"},
			{"band", read.Trimmed(batch.LowG, 2) + " to " + read.Trimmed(batch.HighG, 2) + " g"}, {"scale step", read.Trimmed(b.k.ScaleStepG, 3) + " g"}}}}
	mk.Tolerance = fmt.Sprintf("from %s to %s", read.Trimmed(batch.LowG, 2)+" g", read.Trimmed(batch.HighG, 2)+" g")
	if p.TrialEstimate && p.TrialLowG != nil {
		mk.Note = fmt.Sprintf("An estimate: between %s and %s. Weigh one piece to be sure.", b.r.Mass(*p.TrialLowG), b.r.Mass(*p.TrialHighG))
	}
	if batch.TooCoarse {
		mk.Note = strings.TrimSpace(mk.Note + fmt.Sprintf(" Your scale is too coarse for one ball: weigh %s, roll a rope and cut it evenly into %d.", b.r.Mass(*batch.RopeG), *batch.RopePieces))
	}
	mk.Balls = noun.Figure{float64(batch.Make), "balls", fmt.Sprint(batch.Make), &noun.Why{Rule: "Make the least count that leaves enough whole. The 95 % are the order's: its kinds of piece share them, so that all of them together suffice.",
		Formula: "each kind is asked 1 - 0.05/kinds; breakage is a Beta(a, b) belief; the count of whole ones is beta-binomial", Values: []noun.Named{{"wanted", fmt.Sprint(p.Wanted)}, {"usual breakage", b.k.Breakage},
			{"kinds in this order", fmt.Sprint(kinds)}, {"asked of each", read.Trimmed(batch.CertaintyEach*100, 2) + " %"}, {"chance that they suffice", read.Trimmed(batch.Probability*100, 1) + " %"}}}}
	mk.Spares = fmt.Sprintf("%s: enough with %s %%", count(batch.Spares, "spare"), read.Trimmed(math.Floor(batch.Probability*1000)/10, 1))
	mk.Paste = noun.Figure{batch.PasteG, "g", b.r.Mass(math.Ceil(batch.PasteG)), &noun.Why{Rule: "Knead 3 % more than the balls weigh.", Formula: "balls × ball × 1.03",
		Values: []noun.Named{{"balls", fmt.Sprint(batch.Make)}, {"ball", read.Trimmed(aim, 3) + " g"}}}}
	w.view.Make = mk
}

func weighedOf(m *noun.Tool, r read.Reader) string {
	if m == nil {
		return ""
	}
	return weighedSays(m, r)
}

func measureStep(g, step float64) string {
	decimals := 0
	for s := step; s < 0.999 && decimals < 3; s *= 10 {
		decimals++
	}
	return fmt.Sprintf("%.*f g", decimals, g)
}

// cycle works out the rounds of the mould and what limits them.
func (b *benchOf) cycle(w *worked) {
	m := w.craftMould()
	mk := w.view.Make
	if mk == nil || w.batch.Fills == 0 {
		return
	}
	w.round = m.RoundOf(w.chilled, w.p.Dough != "", w.p.Joined, w.pieceG)
	copies := min(m.Copies, w.batch.Fills)
	places := b.k.FreezerPlaces
	limit := "hands"
	one := (w.round.FillSec + w.round.HoldSec + w.round.UnmouldSec + w.round.FillSec + w.round.UnmouldSec - 1) / (w.round.FillSec + w.round.UnmouldSec)
	if w.chilled && w.round.HoldSec > 0 {
		if places < 1 {
			w.view.Missing = b.r.Say("This mould is chilled, and the kitchen has no place in the freezer.")
			return
		}
		switch {
		case places < copies && places < one:
			limit = "freezer"
		case copies < one:
			limit = "moulds"
		}
		copies = min(copies, places)
	}
	copies = min(copies, one)
	w.rounds = max(1, copies)
	r := w.cycleOf(w.batch.Fills)
	minutes, _ := r.Length()
	hands := (w.batch.Fills*(w.round.FillSec+w.round.UnmouldSec) + 59) / 60
	fillMin, freeze, open := float64(w.round.FillSec)/60, float64(w.round.HoldSec)/60, float64(w.round.UnmouldSec)/60
	values := []noun.Named{{"fill", read.Trimmed(fillMin, 2) + " min (" + w.round.Because + ")"}, {"freezer", read.Trimmed(freeze, 1) + " min"}, {"unmould", read.Trimmed(open, 2) + " min"}, {"moulds at once", fmt.Sprint(copies)}}
	mk.Rounds = &noun.Figure{float64(w.batch.Fills), "fills", fmt.Sprint(w.batch.Fills), &noun.Why{Rule: b.r.Say("Open the mould that is ready, refill it, else fill an empty one, else wait."),
		Formula: "rate per hour = min(60/(fill + unmould), moulds × 60/(fill + freezer + unmould))", Values: values}}
	mk.LimitedBy = b.r.Say(map[string]string{"hands": "your hands set the pace: more copies would not help",
		"moulds": fmt.Sprintf("the moulds set the pace: %d copies would keep one pair of hands busy", one), "freezer": fmt.Sprintf("the freezer sets the pace: %d places of %d", copies, one)}[limit])
	mk.Bench = &noun.Figure{float64(hands), "min", read.SayMinutes(hands), &noun.Why{Rule: "Hands-on minutes of all the rounds.", Formula: "fills × (fill + unmould)", Values: values}}
	mk.Waiting = &noun.Figure{float64(minutes - hands), "min", read.SayMinutes(minutes - hands), &noun.Why{Rule: "The rounds last from the first filling to the last opening; what hands do not take is waiting.",
		Formula: "length of the rounds - hands", Values: append([]noun.Named{{"length of the rounds", read.SayMinutes(minutes)}}, values...)}}
}

func (b *benchOf) cautions(w *worked) {
	c := caution.Case{Children: w.c.Children, NoAlcohol: w.c.NoAlcohol, NoGelatine: w.c.NoGelatine, Allergies: w.c.Allergies, Eaten: w.p.Eaten,
		Dusted: w.p.Dusted, Chilled: w.chilled, GumPercent: w.strength, PieceG: w.pieceG}
	for _, u := range w.uses {
		if u.lot == nil {
			continue
		}
		for _, a := range u.lot.Allergens {
			if !slices.Contains(c.PasteAllergens, a) {
				c.PasteAllergens = append(c.PasteAllergens, a)
			}
		}
	}
	c.HeavyHardener = w.dose != nil && w.dose.Brittle
	w.view.Cautions = append(w.view.Cautions, caution.Piece(c)...)
}
