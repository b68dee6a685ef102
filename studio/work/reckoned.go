// Package work is what follows from a piece: its paste, quantity, colour, drying and
// cautions, and what a window shows of them. Nouns in, answers out: nothing is read
// and nothing is kept here.
package work

import (
	"errors"
	"fmt"
	"strings"
	"time"

	"dustyfern/craft/attach"
	"dustyfern/craft/caution"
	"dustyfern/craft/drying"
	"dustyfern/craft/fault"
	"dustyfern/craft/measure"
	"dustyfern/craft/paste"
	"dustyfern/craft/piece"
	"dustyfern/craft/technique"
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
	Needed  map[int64]int               // by piece: how many its order takes, parts of others among them
	Broke   []noun.Breakage             // in these tools, lately
	Clocked []noun.Clocked              // over steps of these ways of making, the latest first
	Library *technique.Library
	Pieces  map[int64]*noun.Piece   // of these orders
	Begins  map[int64]time.Time     // by piece: when it is planned to be laid out to dry
	Limits  map[string]attach.Limit // what joins of this studio taught
	Reminds []noun.Note             // what is to be remembered, the latest first

	opens time.Time // when hands can lay something out next
}

// Reckoned is a piece with everything that follows from it.
type Reckoned struct {
	Piece    *noun.Piece
	order    *noun.Commission
	Tool     *noun.Tool // what it is shaped with
	Way      *technique.Technique
	roles    map[string]*noun.Tool
	State    string // in which it goes on: P S D C N
	stateOwn bool   // said, not only usual
	Fore     technique.Foreseen
	Moments  map[string]*float64
	Chain    *technique.ChainOut // of the whole order; nil: it cannot be made yet
	Wanted   int
	from     string // what its weight is known by
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
	Uses     []MixPart
	Adds     []MixPart // powder and gels
	Buys     []MixPart // what the pantry lacks
	Tint     *Tint
	dose     *paste.HardenerOut
	Rest     int // minutes in the bag
	AtOnce   bool
	Chilled  bool
	PieceG   float64
	rolledG  float64 // of paste for the sheets of all; 0: not cut, or not known
	Batch    piece.BatchOut
	Dew      drying.DewOut
	Stages   Bands            // of the piece itself
	Others   map[string]Bands // of its other bodies: a centre, the sheet
	Never    string           // why it will not set here
	air      Air              // in which it dries
}

// Band is a time in minutes: early, middle and late.
type Band struct{ P10, P50, P90 int }

// Bands are when a body passes its stages; nil: it does not.
type Bands struct{ Hold, Firm, Skin, Hard *Band }

// Of a stage by its name; nil for one that is none.
func (s Bands) Of(stage string) *Band {
	return map[string]*Band{"skin": s.Skin, "hold": s.Hold, "firm": s.Firm, "hard": s.Hard}[stage]
}

// MixPart is grams of something that a piece is kneaded from.
type MixPart struct {
	Lot   *noun.Lot // nil: it is not there
	Name  string
	Grams float64
	Kind  string // of what is not there
}

// Work computes a piece from end to end, with all that a window shows of it; what cannot be
// computed yet is said in the view, never guessed.
func (b *Means) Work(c *noun.Commission, p *noun.Piece) *Reckoned {
	w := b.Reckon(c, p)
	w.View.Fields = b.PieceViews(c, p)
	for _, f := range read.PasteFields {
		w.View.Settings[f.Name] = f.Text(b.Reader, p, b.Now)
	}
	w.View.Fits = FitsOf(c, w.Tool, b.Reader)
	b.partViews(w)
	if w.View.Paste == nil {
		return w
	}
	b.schools(w, w.View.Paste, &w.judged, w.plain)
	w.View.Paste.Sides = b.sidesOf(w)
	w.View.Paste.Knead = b.kneadSteps(w)
	if w.Way != nil {
		b.makeViews(w)
		w.View.Finish = b.finishStage(w)
		w.View.Join = b.Join(w)
	}
	return w
}

// Reckon computes what a plan is made from: grams, drying, the chain and the cautions, without
// what a window offers besides, which costs as much again.
func (b *Means) Reckon(c *noun.Commission, p *noun.Piece) *Reckoned {
	w := b.Mixed(c, p)
	if w.View.Paste == nil {
		return w
	}
	if w.Way != nil {
		b.dry(w)
		b.chain(w)
	}
	b.cautions(w)
	return w
}

// Mixed is a piece with its paste, its colour and its grams: what goes into it,
// not how long it takes.
func (b *Means) Mixed(c *noun.Commission, p *noun.Piece) *Reckoned {
	w := &Reckoned{Piece: p, order: c}
	w.View = PieceView{ID: p.ID, Version: p.Version, Name: p.Name, Wanted: p.Wanted, Colour: p.Colour, Swatch: p.Swatch,
		Last: []LastTime{}, Fields: []read.FieldView{}, Parts: []PartView{}, PartOf: []string{}, Ways: []WayAsked{}, Beside: []BesideView{}, Settings: map[string]string{}, Cautions: []caution.Caution{}, Fits: []noun.Figure{}}
	b.madeAs(w)
	if w.Tool != nil {
		w.View.ToolName = w.Tool.Name
	}
	b.stock(w)
	plain := paste.PlainStrength
	if w.plainLot != nil {
		plain = LotStrength(w.plainLot)
	}
	w.ask = b.askPaste(w, plain)
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

// weighs is the weight of one piece and what it is known by: pieces weighed, a trial
// piece, the cavity's volume; 0 while nothing says it.
func (b *Means) weighs(w *Reckoned) (g float64, from string) {
	p, m := w.Piece, w.Tool
	rho := measure.Densities["sugarPaste"].Nominal
	if p.Dough != "" {
		rho = measure.Densities[p.Dough].Nominal
	}
	in := piece.PieceIn{DensityGPerML: &rho}
	from = "the trial piece"
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
	case m != nil && m.Measures["volumeML"] > 0: // a spoon's bowl, a model that is cast
		in.CavityML = new(m.Measures["volumeML"])
		from = "the volume of " + m.Name
	default:
		return 0, ""
	}
	one, err := piece.OnePiece(in)
	if err != nil {
		w.View.Missing = Sentence(err)
		return 0, ""
	}
	return one.MassG, from
}

// KindsOf is how many kinds of piece its order has, among which the certainty is shared.
func (b *Means) KindsOf(w *Reckoned) int { return min(200, max(1, b.Kinds[w.Piece.CommissionID])) }

// quantity settles how many are made and how much paste that takes.
func (b *Means) quantity(w *Reckoned) {
	if w.Way == nil || w.PieceG == 0 && w.Way.TakesPaste() {
		return
	}
	kinds := b.KindsOf(w)
	if !w.balls() || w.PieceG == 0 {
		b.counted(w, kinds)
		return
	}
	cavities, copies := 1, 1
	if m := w.Tool; m != nil {
		cavities, copies = m.Cavities(), max(1, m.InUse())
	}
	class := b.BreakageOf(w)
	made, broken := b.Log(w)
	batch, err := once(fmt.Sprintf("batch|%d|%v|%v|%s|%d|%d|%d|%d|%d", w.Wanted, w.PieceG, b.Kitchen.ScaleStepG, class, made, broken, kinds, cavities, copies), func() (piece.BatchOut, error) {
		return piece.Batch(piece.BatchIn{Wanted: &w.Wanted, PieceG: &w.PieceG, ScaleStepG: &b.Kitchen.ScaleStepG, Breakage: &class, Made: &made, Broken: &broken, Kinds: &kinds, Cavities: &cavities, Moulds: &copies})
	})
	if err != nil {
		w.View.Missing = Sentence(err)
		return
	}
	w.Batch = batch
	b.ballView(w, kinds, class)
}

// counted are pieces that are no balls: cut, pressed as a sheet, laid as a strip.
func (b *Means) counted(w *Reckoned, kinds int) {
	class := b.BreakageOf(w)
	w.Batch = piece.BatchOut{Make: w.Wanted, Probability: 1, CertaintyEach: 1}
	if class != "none" && w.Wanted > 0 {
		made, broken := b.Log(w)
		s, err := once(fmt.Sprintf("spare|%d|%s|%d|%d|%d", w.Wanted, class, made, broken, kinds), func() (piece.SpareOut, error) {
			return piece.Spares(piece.SpareIn{Wanted: &w.Wanted, Breakage: &class, Made: &made, Broken: &broken, Kinds: &kinds})
		})
		if err != nil {
			w.View.Missing = Sentence(err)
			return
		}
		w.Batch.Make, w.Batch.Spares, w.Batch.Probability, w.Batch.CertaintyEach = s.Make, s.Spares, s.Probability, s.CertaintyEach
	}
	each := w.Fore.Names["eachG"]
	if each == 0 {
		each = w.PieceG
	}
	if w.rolledG = b.rolledG(w, w.Batch.Make); w.rolledG > 0 { // the sheets themselves, not a usual share of scrap
		if fore, err := b.Library.Foresee(b.Question(w, w.Wanted, w.Batch.Make, noun.UsualWindow)); err == nil {
			each = fore.Names["eachG"]
		}
	}
	w.Batch.PasteG = each * float64(w.Batch.Make)
	from := b.Reader.Say(w.from)
	mk := &MakeView{Batches: []ChainBatch{}, Learnt: []LearntView{}, Shortcuts: []ShortcutView{}, Weighed: weighedOf(w.Tool, b.Reader), From: from, Word: "piece", Trial: w.Piece.TrialText, Estimate: w.Piece.TrialEstimate}
	mk.Ball = noun.Figure{Value: w.PieceG, Unit: "g", Text: b.Reader.Mass(w.PieceG), Why: &noun.Why{Rule: "A weighed piece beats what its measures come to.", Formula: "as weighed, else area × thickness × density, scrap of one piece in it", Values: b.given(w, "weightG", "eachG", "areaMM2", "thicknessMM")}}
	mk.Tolerance = "by " + from
	if w.PieceG == 0 {
		mk.Ball, mk.Tolerance = noun.Figure{Unit: "it is colour, put on what is there", Text: "no paste"}, ""
	}
	if w.from == "its measures" {
		mk.Note = "Reckoned from its measures. Weigh one good piece to be sure."
	}
	b.counts(w, mk, kinds, class)
	mk.Paste = noun.Figure{Value: w.Batch.PasteG, Unit: "g", Text: b.Reader.Paste(w.Batch.PasteG), Why: &noun.Why{Rule: "What one piece takes, its scrap in it, times the pieces that are made.", Formula: "pieces × paste for one",
		Values: []noun.Named{{Name: "pieces", Text: fmt.Sprint(w.Batch.Make)}, {Name: "paste for one", Text: read.Trimmed(each, 2) + " g"}}}}
	if w.rolledG > 0 {
		mk.Paste.Why = &noun.Why{Rule: "What the sheets take from which all are cut, 3 % more, and what each piece takes besides.", Formula: "rolled out × 1.03, up to a whole gram, + the rest",
			Values: []noun.Named{{Name: "for the sheets", Text: read.Trimmed(w.rolledG, 0) + " g"}, {Name: "pieces", Text: fmt.Sprint(w.Batch.Make)}, {Name: "paste for one", Text: read.Trimmed(each, 2) + " g"}}}
	}
	w.View.Make = mk
}

// given are numbers of a way of making under their names, those that it has.
func (b *Means) given(w *Reckoned, names ...string) []noun.Named {
	out := []noun.Named{}
	for _, n := range names {
		x, ok := w.Fore.Names[n]
		if !ok {
			x, ok = w.Piece.Measures[n]
		}
		if ok {
			out = append(out, noun.Named{Name: spaced(n), Text: read.Trimmed(x, 2)})
		}
	}
	return out
}

// spaced writes a name of the data as words: "areaMM2" is "area, mm2".
func spaced(name string) string {
	for _, u := range []string{"MM2", "MM", "G", "ML"} {
		if head, ok := strings.CutSuffix(name, u); ok && head != "" {
			return head + ", " + strings.ToLower(u)
		}
	}
	return name
}

// counts says how many are made, and why so many.
func (b *Means) counts(w *Reckoned, mk *MakeView, kinds int, class string) {
	batch := &w.Batch
	values := []noun.Named{{Name: "wanted", Text: fmt.Sprint(w.Wanted)}, {Name: "breakage of its way of making", Text: class}}
	if w.Tool != nil && w.Tool.Breakage != "" {
		values[1].Name = "breakage of its tool"
	}
	if made, broken := b.Log(w); made > 0 && class != "none" {
		values = append(values, noun.Named{Name: "made in it before", Text: fmt.Sprint(made)}, noun.Named{Name: "of which broke", Text: fmt.Sprint(broken)})
	}
	rule := "Nothing breaks of what lies round a tier: as many as are wanted."
	formula := "wanted"
	if class != "none" {
		rule = "Make the least count that leaves enough whole. The 95 % are the order's: its kinds of piece share them, so that all of them together suffice."
		formula = "each kind is asked 1 - 0.05/kinds; breakage is a Beta(a, b) belief; the count of whole ones is beta-binomial"
		values = append(values, noun.Named{Name: "kinds in this order", Text: fmt.Sprint(kinds)}, noun.Named{Name: "asked of each", Text: read.Trimmed(batch.CertaintyEach*100, 2) + " %"},
			noun.Named{Name: "chance that they suffice", Text: read.Trimmed(batch.Probability*100, 1) + " %"})
	}
	if w.Wanted != w.Piece.Wanted {
		values = append(values, noun.Named{Name: "of these by themselves", Text: fmt.Sprint(w.Piece.Wanted)}, noun.Named{Name: "as parts of others", Text: fmt.Sprint(w.Wanted - w.Piece.Wanted)})
	}
	mk.Balls = noun.Figure{Value: float64(batch.Make), Unit: mk.Word + "s", Text: fmt.Sprint(batch.Make), Why: &noun.Why{Rule: rule, Formula: formula, Values: values}}
	mk.Spares = fmt.Sprintf("%s: enough with %s", read.Count(batch.Spares, "spare"), read.Chance(batch.Probability))
}

// ballView is what is weighed out for a mould.
func (b *Means) ballView(w *Reckoned, kinds int, class string) {
	p, batch := w.Piece, &w.Batch
	mk := &MakeView{Batches: []ChainBatch{}, Learnt: []LearntView{}, Shortcuts: []ShortcutView{}, Weighed: weighedOf(w.Tool, b.Reader), From: b.Reader.Say(w.from), Word: "ball", Trial: p.TrialText, Estimate: p.TrialEstimate}
	aim := w.PieceG
	if batch.AimG != nil {
		aim = *batch.AimG
	}
	good := measure.Readings(batch.LowG, batch.HighG, b.Reader.Scale())
	aimText := good.Text
	if batch.TooCoarse {
		aimText = fmt.Sprintf("%s for %d", b.Reader.Mass(*batch.RopeG), *batch.RopePieces)
	}
	mk.Ball = noun.Figure{Value: aim, Unit: "g", Text: aimText, Why: &noun.Why{Rule: "A weighed trial piece beats the volume. A ball may lie 2 % under and 4 % over it: an under-fill shows, an over-fill is trimmed.",
		Formula: "aim = the middle of the band, on the step of your scale", Values: []noun.Named{{Name: "one piece, by " + w.from, Text: read.Trimmed(w.PieceG, 3) + " g"},
			{Name: "band", Text: read.Trimmed(batch.LowG, 2) + " to " + read.Trimmed(batch.HighG, 2) + " g"}, {Name: "middle", Text: read.Trimmed(aim, 2) + " g"}, {Name: "scale step", Text: read.Trimmed(b.Kitchen.ScaleStepG, 3) + " g"}}}}
	mk.Tolerance = "every reading of these is good"
	if good.Count != nil && *good.Count == 1 {
		mk.Tolerance = "2 % under or 4 % over is good"
	}
	if batch.TooCoarse {
		mk.Tolerance = "one rope, cut evenly"
	}
	if p.TrialEstimate && p.TrialLowG != nil {
		mk.Note = fmt.Sprintf("An estimate: between %s and %s. Weigh one piece to be sure.", b.Reader.Mass(*p.TrialLowG), b.Reader.Mass(*p.TrialHighG))
	}
	if batch.TooCoarse {
		mk.Note = strings.TrimSpace(mk.Note + fmt.Sprintf(" Your scale is too coarse for one ball: weigh %s, roll a rope and cut it evenly into %d.", b.Reader.Mass(*batch.RopeG), *batch.RopePieces))
	}
	b.counts(w, mk, kinds, class)
	mk.Paste = noun.Figure{Value: batch.PasteG, Unit: "g", Text: b.Reader.Paste(batch.PasteG), Why: &noun.Why{Rule: "Knead 3 % more than the balls weigh.", Formula: "balls × ball × 1.03",
		Values: []noun.Named{{Name: "balls", Text: fmt.Sprint(batch.Make)}, {Name: "ball", Text: read.Trimmed(aim, 3) + " g"}}}}
	w.View.Make = mk
}

func weighedOf(m *noun.Tool, r read.Reader) string {
	if m == nil {
		return ""
	}
	return read.WeighedSays(m, r)
}

func DoseOf(m, e, want, g float64) *noun.Why {
	return &noun.Why{Rule: "A mass balance of gum: what is there and what is added, over the whole.", Formula: "powder = m (want - have)/(100 - want)",
		Values: []noun.Named{{Name: "paste", Text: read.Trimmed(m, 1) + " g"}, {Name: "have", Text: read.Trimmed(e, 2) + " %"}, {Name: "want", Text: read.Trimmed(want, 2) + " %"}, {Name: "powder", Text: read.Trimmed(g, 2) + " g"}}}
}
