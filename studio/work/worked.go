// Package work is what follows from a piece: its paste, quantity, colour, drying and
// cautions, and what a window shows of them. Nouns in, answers out: nothing is read
// and nothing is kept here.
package work

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"dustyfern/craft/bench"
	"dustyfern/craft/caution"
	"dustyfern/craft/drying"
	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
	"dustyfern/craft/piece"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Means is what a piece is worked out from: the kitchen, the drawer and the
// pantry of one studio at one moment.
type Means struct {
	Kitchen *noun.Kitchen
	Reader  read.Reader
	Now     time.Time
	Tools   map[int64]*noun.Tool
	Lots    []noun.Lot
	Away    []noun.Lot                  // bottles that pieces chose and that were taken away
	Taken   map[int64]map[int64]float64 // by piece, then lot: grams that finished steps took
	Kinds   map[int64]int               // by commission: kinds of piece with something wanted
}

// Worked is a piece with everything that follows from it.
type Worked struct {
	Piece    *noun.Piece
	order    *noun.Commission
	Mould    *noun.Tool
	View     PieceView
	ask      paste.AdviseIn
	Advice   paste.Advice
	judged   paste.Advice // with the way out of a clash that was chosen
	plain    float64      // strength of the plain paste
	Strength float64      // gum strength chosen; dough: 0
	family   string
	usable   []*noun.Lot
	plainLot *noun.Lot // nil: there is none
	refused  []string
	Uses     []mixPart
	Adds     []mixPart // powder and gels
	Buys     []mixPart // what the pantry lacks
	Tint     *Tint
	dose     *paste.HardenerOut
	Rest     int // minutes in the bag
	AtOnce   bool
	Chilled  bool
	PieceG   float64
	Batch    piece.BatchOut
	Round    piece.Round
	Rounds   int
	Dew      drying.DewOut
	Stages   [3]*Band // hold, firm and skin in minutes
	Never    string   // why it will not set here
}

// Band is a time in minutes: early, middle and late.
type Band struct{ P10, P50, P90 int }

type mixPart struct {
	Lot   *noun.Lot
	Name  string
	Grams float64
	Kind  string // of what is not there
}

// CraftMould is the mould of a piece as the core asks for it; nil while none is
// chosen.
func (w *Worked) CraftMould() *piece.Mould {
	m := w.Mould
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

func (w *Worked) manner() piece.Manner {
	p := w.Piece
	return piece.Manner{Eaten: p.Eaten, KnifePasses: p.KnifePasses, Bent: p.Bent, Upright: p.Stance == "upright", HeightMM: p.HeightMM, EdgeMM: p.EdgeMM,
		Joined: p.Joined, Bagged: p.Bagged, Soon: p.HandledSoon, Carries: p.Carries, Children: w.order.Children, Chill: p.Chill, Support: p.HeldUp}
}

// Work computes a piece from end to end; what cannot be computed yet is said
// in the view, never guessed.
func (b *Means) Work(c *noun.Commission, p *noun.Piece) *Worked {
	w := b.Mixed(c, p)
	w.View.Fields = b.PieceViews(p)
	for _, f := range read.PasteFields {
		w.View.Settings[f.Name] = f.Text(b.Reader, p, b.Now)
	}
	w.View.Fits = FitsOf(c, w.Mould, b.Reader)
	if w.View.Paste == nil {
		return w
	}
	b.schools(w, w.View.Paste, &w.judged, w.plain)
	w.View.Paste.Sides = b.sidesOf(w)
	w.View.Paste.Knead = b.kneadSteps(w)
	if w.Mould != nil {
		b.dry(w)
		b.cycle(w)
	}
	b.cautions(w)
	return w
}

// Mixed is a piece with its paste, its colour and its grams: what goes into it,
// not how long it takes.
func (b *Means) Mixed(c *noun.Commission, p *noun.Piece) *Worked {
	w := &Worked{Piece: p, order: c}
	if p.MouldID != nil {
		w.Mould = b.Tools[*p.MouldID]
	}
	w.View = PieceView{ID: p.ID, Version: p.Version, Name: p.Name, Wanted: p.Wanted, Colour: p.Colour, Swatch: p.Swatch,
		Fields: []read.FieldView{}, Settings: map[string]string{}, Cautions: []caution.Caution{}, Fits: []noun.Figure{}}
	w.Chilled = p.Chill || w.Mould != nil && w.Mould.Chilled
	if w.Mould != nil {
		w.View.MouldName = w.Mould.Name
	}
	b.stock(w)
	plain := paste.PlainStrength
	if w.plainLot != nil {
		plain = LotStrength(w.plainLot)
	}
	w.ask = w.manner().Ask(w.CraftMould(), b.Kitchen.TempC, b.Kitchen.RHPercent, plain)
	if p.Dough != "" {
		if kind, ok := paste.KindOf(p.Dough); ok && kind.SoftPoint > 0 {
			w.ask.SoftPointC = &kind.SoftPoint
		}
	}
	if w.Mould == nil {
		w.View.Missing = b.Reader.Say("Choose its mould: its size decides the paste, the grams and the drying.")
	}
	advice, err := paste.Advise(w.ask)
	if err != nil {
		w.View.Missing = Sentence(err)
		return w
	}
	w.Advice = advice
	b.quantity(w)
	b.paste(w, plain)
	b.colour(w)
	return w
}

// Sentence is what a refusal says to people.
func Sentence(err error) string {
	var f *fault.Fault
	if errors.As(err, &f) {
		return f.Message
	}
	return err.Error()
}

// PieceViews are the fields of a piece, its moulds to choose from among them.
func (b *Means) PieceViews(p *noun.Piece) []read.FieldView {
	out := read.Views(read.PieceFields, b.Reader, p, b.Now)
	for i := range out {
		if out[i].Name == "mould" {
			out[i].Choices = []read.Option{{Code: "", Say: "not chosen yet"}}
			var all []*noun.Tool
			for _, t := range b.Tools {
				if t.DeletedAt == nil || p.MouldID != nil && t.ID == *p.MouldID {
					all = append(all, t)
				}
			}
			slices.SortFunc(all, func(a, b *noun.Tool) int { return strings.Compare(a.Name, b.Name) })
			for _, t := range all {
				out[i].Choices = append(out[i].Choices, read.Option{Code: fmt.Sprint(t.ID), Say: t.Name})
			}
		}
	}
	return out
}

// quantity settles the mass of one piece and the balls of the batch.
func (b *Means) quantity(w *Worked) {
	p, m := w.Piece, w.Mould
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
		w.View.Missing = Sentence(err)
		return
	}
	cavities, copies := 1, 1
	if m != nil {
		cavities, copies = m.Cavities, m.Copies
	}
	kinds := min(200, max(1, b.Kinds[p.CommissionID]))
	batch, err := once(fmt.Sprintf("batch|%d|%v|%v|%s|%d|%d|%d", p.Wanted, one.MassG, b.Kitchen.ScaleStepG, b.Kitchen.Breakage, kinds, cavities, copies), func() (piece.BatchOut, error) {
		return piece.Batch(piece.BatchIn{Wanted: &p.Wanted, PieceG: &one.MassG, ScaleStepG: &b.Kitchen.ScaleStepG, Breakage: &b.Kitchen.Breakage, Kinds: &kinds, Cavities: &cavities, Moulds: &copies})
	})
	if err != nil {
		w.View.Missing = Sentence(err)
		return
	}
	w.PieceG, w.Batch = one.MassG, batch
	mk := &MakeView{Weighed: weighedOf(m, b.Reader), From: b.Reader.Say(from), Trial: p.TrialText, Estimate: p.TrialEstimate}
	aim, aimText := one.MassG, b.Reader.Mass(one.MassG)
	if batch.AimG != nil {
		aim = *batch.AimG
		aimText = MeasureStep(aim, b.Kitchen.ScaleStepG)
		if b.Reader.Us() {
			aimText = b.Reader.Mass(aim)
		}
	}
	mk.Ball = noun.Figure{Value: aim, Unit: "g", Text: aimText, Why: &noun.Why{Rule: "A weighed trial piece beats the volume. A ball may lie 2 % under and 4 % over it: an under-fill shows, an over-fill is trimmed.",
		Formula: "aim = the middle of the band, on the step of your scale", Values: []noun.Named{{Name: "one piece, by " + from, Text: read.Trimmed(one.MassG, 3) + " g"},
			{Name: "band", Text: read.Trimmed(batch.LowG, 2) + " to " + read.Trimmed(batch.HighG, 2) + " g"}, {Name: "scale step", Text: read.Trimmed(b.Kitchen.ScaleStepG, 3) + " g"}}}}
	mk.Tolerance = fmt.Sprintf("from %s to %s", read.Trimmed(batch.LowG, 2)+" g", read.Trimmed(batch.HighG, 2)+" g")
	if p.TrialEstimate && p.TrialLowG != nil {
		mk.Note = fmt.Sprintf("An estimate: between %s and %s. Weigh one piece to be sure.", b.Reader.Mass(*p.TrialLowG), b.Reader.Mass(*p.TrialHighG))
	}
	if batch.TooCoarse {
		mk.Note = strings.TrimSpace(mk.Note + fmt.Sprintf(" Your scale is too coarse for one ball: weigh %s, roll a rope and cut it evenly into %d.", b.Reader.Mass(*batch.RopeG), *batch.RopePieces))
	}
	mk.Balls = noun.Figure{Value: float64(batch.Make), Unit: "balls", Text: fmt.Sprint(batch.Make), Why: &noun.Why{Rule: "Make the least count that leaves enough whole. The 95 % are the order's: its kinds of piece share them, so that all of them together suffice.",
		Formula: "each kind is asked 1 - 0.05/kinds; breakage is a Beta(a, b) belief; the count of whole ones is beta-binomial", Values: []noun.Named{{Name: "wanted", Text: fmt.Sprint(p.Wanted)}, {Name: "usual breakage", Text: b.Kitchen.Breakage},
			{Name: "kinds in this order", Text: fmt.Sprint(kinds)}, {Name: "asked of each", Text: read.Trimmed(batch.CertaintyEach*100, 2) + " %"}, {Name: "chance that they suffice", Text: read.Trimmed(batch.Probability*100, 1) + " %"}}}}
	mk.Spares = fmt.Sprintf("%s: enough with %s %%", read.Count(batch.Spares, "spare"), read.Trimmed(math.Floor(batch.Probability*1000)/10, 1))
	mk.Paste = noun.Figure{Value: batch.PasteG, Unit: "g", Text: b.Reader.Mass(math.Ceil(batch.PasteG)), Why: &noun.Why{Rule: "Knead 3 % more than the balls weigh.", Formula: "balls × ball × 1.03",
		Values: []noun.Named{{Name: "balls", Text: fmt.Sprint(batch.Make)}, {Name: "ball", Text: read.Trimmed(aim, 3) + " g"}}}}
	w.View.Make = mk
}

func weighedOf(m *noun.Tool, r read.Reader) string {
	if m == nil {
		return ""
	}
	return read.WeighedSays(m, r)
}

// MeasureStep is an amount on a scale of this step, as it reads.
func MeasureStep(g, step float64) string {
	decimals := 0
	for s := step; s < 0.999 && decimals < 3; s *= 10 {
		decimals++
	}
	return fmt.Sprintf("%.*f g", decimals, g)
}

// cycle works out the rounds of the mould and what limits them.
func (b *Means) cycle(w *Worked) {
	m := w.CraftMould()
	mk := w.View.Make
	if mk == nil || w.Batch.Fills == 0 {
		return
	}
	w.Round = m.RoundOf(w.Chilled, w.Piece.Dough != "", w.Piece.Joined, w.PieceG)
	copies := min(m.Copies, w.Batch.Fills)
	places := b.Kitchen.FreezerPlaces
	limit := "hands"
	one := (w.Round.FillSec + w.Round.HoldSec + w.Round.UnmouldSec + w.Round.FillSec + w.Round.UnmouldSec - 1) / (w.Round.FillSec + w.Round.UnmouldSec)
	if w.Chilled && w.Round.HoldSec > 0 {
		if places < 1 {
			w.View.Missing = b.Reader.Say("This mould is chilled, and the kitchen has no place in the freezer.")
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
	w.Rounds = max(1, copies)
	r := w.CycleOf(w.Batch.Fills)
	minutes, _ := r.Length()
	hands := (w.Batch.Fills*(w.Round.FillSec+w.Round.UnmouldSec) + 59) / 60
	fillMin, freeze, open := float64(w.Round.FillSec)/60, float64(w.Round.HoldSec)/60, float64(w.Round.UnmouldSec)/60
	values := []noun.Named{{Name: "fill", Text: read.Trimmed(fillMin, 2) + " min (" + w.Round.Because + ")"}, {Name: "freezer", Text: read.Trimmed(freeze, 1) + " min"}, {Name: "unmould", Text: read.Trimmed(open, 2) + " min"}, {Name: "moulds at once", Text: fmt.Sprint(copies)}}
	mk.Rounds = &noun.Figure{Value: float64(w.Batch.Fills), Unit: "fills", Text: fmt.Sprint(w.Batch.Fills), Why: &noun.Why{Rule: b.Reader.Say("Open the mould that is ready, refill it, else fill an empty one, else wait."),
		Formula: "rate per hour = min(60/(fill + unmould), moulds × 60/(fill + freezer + unmould))", Values: values}}
	mk.LimitedBy = b.Reader.Say(map[string]string{"hands": "your hands set the pace: more copies would not help",
		"moulds": fmt.Sprintf("the moulds set the pace: %d copies would keep one pair of hands busy", one), "freezer": fmt.Sprintf("the freezer sets the pace: %d places of %d", copies, one)}[limit])
	mk.Bench = &noun.Figure{Value: float64(hands), Unit: "min", Text: read.SayMinutes(hands), Why: &noun.Why{Rule: "Hands-on minutes of all the rounds.", Formula: "fills × (fill + unmould)", Values: values}}
	mk.Waiting = &noun.Figure{Value: float64(minutes - hands), Unit: "min", Text: read.SayMinutes(minutes - hands), Why: &noun.Why{Rule: "The rounds last from the first filling to the last opening; what hands do not take is waiting.",
		Formula: "length of the rounds - hands", Values: append([]noun.Named{{Name: "length of the rounds", Text: read.SayMinutes(minutes)}}, values...)}}
}

func (b *Means) cautions(w *Worked) {
	c := caution.Case{Children: w.order.Children, NoAlcohol: w.order.NoAlcohol, NoGelatine: w.order.NoGelatine, Allergies: w.order.Allergies, Eaten: w.Piece.Eaten,
		Dusted: w.Piece.Dusted, Chilled: w.Chilled, GumPercent: w.Strength, PieceG: w.PieceG}
	for _, u := range w.Uses {
		if u.Lot == nil {
			continue
		}
		for _, a := range u.Lot.Allergens {
			if !slices.Contains(c.PasteAllergens, a) {
				c.PasteAllergens = append(c.PasteAllergens, a)
			}
		}
	}
	c.HeavyHardener = w.dose != nil && w.dose.Brittle
	w.View.Cautions = append(w.View.Cautions, caution.Piece(c)...)
}

func (w *Worked) CycleOf(fills int) bench.Rounds {
	return bench.Rounds{Pieces: fills, FillSec: w.Round.FillSec, HoldSec: w.Round.HoldSec, UnmouldSec: w.Round.UnmouldSec, Copies: w.Rounds}
}

func DoseOf(m, e, want, g float64) *noun.Why {
	return &noun.Why{Rule: "A mass balance of gum: what is there and what is added, over the whole.", Formula: "powder = m (want - have)/(100 - want)",
		Values: []noun.Named{{Name: "paste", Text: read.Trimmed(m, 1) + " g"}, {Name: "have", Text: read.Trimmed(e, 2) + " %"}, {Name: "want", Text: read.Trimmed(want, 2) + " %"}, {Name: "powder", Text: read.Trimmed(g, 2) + " g"}}}
}

// ExactMass is a mass that is small as often as large.
func ExactMass(r read.Reader, g float64) string {
	if g < 1 {
		return read.Trimmed(g, 3) + " g"
	}
	return r.Mass(g)
}
