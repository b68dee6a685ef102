package work

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strings"

	"dustyfern/craft/colour"
	"dustyfern/craft/finish"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// Finished is what comes on to the pieces of an order when they are made: the order of the
// tones, what they take of lots and of minutes, and what fixes them.
type Finished struct {
	Dust      float64      // minutes of a piece at the step that dusts it
	Wipes     float64      // and once, for the brush
	Uses      []noun.Taken // what that step takes of lots, for all pieces
	Coats     int          // of metallic paint; 0: none
	CoatEach  float64      // minutes of a piece for one coat
	NextCoat  float64      // minutes until the next may go on
	CoatDry   float64      // and until the last is dry
	CoatUses  []noun.Taken
	CoatSays  []string
	Lock      string  // "" where nothing wants fixing
	LockDry   float64 // minutes until it is dry
	LockSays  string
	Materials []string // of caution, of all that comes on to it
}

// FinishStage is what a piece is finished with, as its stage shows it.
type FinishStage struct {
	Tones    []ToneView       `json:"tones" doc:"in the order in which they come on"`
	Roles    []read.Option    `json:"roles"`
	Dusts    []DustView       `json:"dusts" doc:"of the pantry"`
	Fields   []read.FieldView `json:"fields"`
	Ground   string           `json:"ground"`
	AreaSays string           `json:"areaSays" doc:"what is seen of one piece"`
	Minutes  *noun.Figure     `json:"minutes,omitempty" doc:"of hands, for all pieces"`
	Grams    []noun.Figure    `json:"grams" doc:"what it takes of each lot"`
	Warnings []string         `json:"warnings"`
	Lock     *LockView        `json:"lock,omitempty"`
	Fade     *FadeView        `json:"fade,omitempty" doc:"of a tier that is sprayed"`
}

// ToneView is one tone on one part of the piece.
type ToneView struct {
	At      int             `json:"at" doc:"its place in what is kept"`
	Role    string          `json:"role"`
	Says    string          `json:"says"`
	Mix     string          `json:"mix" doc:"1 moss : 2 straw"`
	Lots    []noun.DustPart `json:"lots"`
	Percent float64         `json:"percent"`
	Times   int             `json:"times"`
	Kind    string          `json:"kind" enum:"petalDust,lustre,metal,pen"`
	Pot     string          `json:"pot" doc:"the mix in the pot"`
	Look    string          `json:"look" doc:"as it looks on the piece"`
	Flash   string          `json:"flash" doc:"where light strikes; empty: it is matt"`
	Sheen   string          `json:"sheen"`
	Minutes string          `json:"minutes"`
	Missing string          `json:"missing"`
}

// DustView is a lot that can come on to a piece.
type DustView struct {
	ID      int64  `json:"id"`
	Name    string `json:"name"`
	Hex     string `json:"hex"`
	Kind    string `json:"kind"`
	Refused string `json:"refused" doc:"why this table does not take it"`
}

// LockView is what fixes the finish, and what else would.
type LockView struct {
	Fits     bool        `json:"fits"`
	Code     string      `json:"code"`
	Says     string      `json:"says"`
	Own      bool        `json:"own" doc:"chosen by hand"`
	Others   []string    `json:"others"`
	Refused  []RefusedBy `json:"refused"`
	Cautions []string    `json:"cautions"`
}

// RefusedBy is something that will not do, with the reason.
type RefusedBy struct {
	What string `json:"what"`
	Why  string `json:"why"`
}

// finishMinutes are the minutes of what comes on to a piece, and whether it is fixed, in
// place of the usual ones.
func (b *Means) finishMinutes(w *Reckoned, in *technique.ChainIn) {
	if len(w.Piece.Finish.Passes) == 0 {
		return
	}
	f := b.Finishing(w)
	in.Manner["dusted"], in.Manner["locked"] = yes(f.Dust > 0), yes(f.Lock != "" && f.Dust > 0)
	for i := range w.Way.Steps {
		s := &w.Way.Steps[i]
		if s.Verb != "dust" || f.Dust == 0 || s.Minutes["piece"] == "" {
			continue
		}
		in.Minutes[s.ID+".piece"] = math.Min(1440, f.Dust)
		if s.Minutes["batch"] != "" {
			in.Minutes[s.ID+".batch"] = math.Min(1440, 0.5+f.Wipes)
		}
	}
}

// kindOfDust is how a kind of lot comes on.
var kindOfDust = map[string]string{"petalDust": "petalDust", "lustreDust": "lustre", "metalPowder": "metal", "gel": "pen"}

// Surface is what is seen of one piece, mm2: by its way of making, else of its box.
func (w *Reckoned) Surface() float64 {
	if a := w.Fore.Names["dustMM2"]; a > 0 {
		return a
	}
	across, high := w.Lying()
	return seenOfBox * across * high
}

// seenOfBox is how much of its box a piece shows, as a rule (assumed).
const seenOfBox = 0.7

// tone is one pass with its lots.
type tone struct {
	at     int
	pass   *noun.Pass
	lots   []*noun.Lot
	kind   string
	pot    string
	area   float64
	absent string
}

// tones of a piece with their lots, as they are kept.
func (b *Means) tones(w *Reckoned) (out []tone) {
	surface := w.Surface()
	for i := range w.Piece.Finish.Passes {
		p := &w.Piece.Finish.Passes[i]
		t := tone{at: i, pass: p, area: surface * p.Percent / 100}
		var ps []colour.Paste
		var parts []float64
		for _, d := range p.Lots {
			l := b.lotOf(d.Lot)
			if l == nil || l.Swatch == nil {
				t.absent = "A dust of it is no longer in the pantry: choose another."
				continue
			}
			t.lots = append(t.lots, l)
			if k := kindOfDust[l.Kind]; t.kind == "" || k == "petalDust" {
				t.kind = k
			}
			if c, err := colour.PasteOf(*l.Swatch); err == nil {
				ps, parts = append(ps, c), append(parts, float64(d.Parts))
			}
		}
		if len(ps) > 0 {
			t.pot = colour.Blend(ps, parts).Hex()
		} else {
			t.absent = cmp.Or(t.absent, "None of its dusts is in the pantry.")
		}
		out = append(out, t)
	}
	return out
}

func (b *Means) lotOf(id int64) *noun.Lot {
	for i := range b.Lots {
		if b.Lots[i].ID == id && b.Lots[i].DeletedAt == nil {
			return &b.Lots[i]
		}
	}
	return nil
}

// shaded puts the tones in their order.
func (b *Means) shaded(w *Reckoned, tones []tone) (finish.ShadeOut, bool) {
	in := finish.ShadeIn{Ground: &w.Piece.Swatch, Pieces: new(max(1, w.Made()))}
	for _, t := range tones {
		if t.absent != "" || t.area < 0.01 {
			continue
		}
		in.Areas = append(in.Areas, finish.Area{ID: new(fmt.Sprint(t.at)), Role: &t.pass.Role, AreaMM2: &t.area, Hex: &t.pot, Dust: new(mixOf(t)), Kind: &t.kind, Passes: &t.pass.Times})
	}
	if len(in.Areas) == 0 {
		return finish.ShadeOut{}, false
	}
	out, err := finish.Shade(in)
	return out, err == nil
}

// Made is how many pieces the order makes, spares among them.
func (w *Reckoned) Made() int { return max(w.Batch.Make, w.Wanted) }

func mixOf(t tone) string {
	var parts []string
	for i, l := range t.lots {
		if len(t.lots) == 1 {
			return l.Name
		}
		parts = append(parts, fmt.Sprintf("%d %s", t.pass.Lots[i].Parts, l.Name))
	}
	return strings.Join(parts, " : ")
}

// Finishing is what comes on to the pieces, for the plan, the pantry and the label.
func (b *Means) Finishing(w *Reckoned) Finished {
	var out Finished
	made := float64(max(1, w.Made()))
	tones := b.tones(w)
	if len(tones) == 0 && w.Piece.Dusted {
		out.Materials = append(out.Materials, "petalDust")
	}
	if shade, ok := b.shaded(w, tones); ok {
		for _, p := range shade.Order {
			t := toneOf(tones, p.ID)
			if t.kind == "metal" { // in coats of its own
				continue
			}
			out.Dust += (p.Minutes - finish.WipeMinutes) / made
			out.Wipes += finish.WipeMinutes
			for i, l := range t.lots {
				if g := t.area * finish.LoadMG(t.kind) * float64(t.pass.Times) * made / 1000 * share(t, i); g > 0 {
					out.Uses = taking(out.Uses, l, g)
				}
			}
		}
	}
	for _, t := range tones {
		for _, l := range t.lots {
			if m := noun.MaterialOf(l.Kind); !slices.Contains(out.Materials, m) {
				out.Materials = append(out.Materials, m)
			}
		}
		if t.kind == "metal" && t.absent == "" {
			b.metal(w, &t, &out, made)
		}
	}
	if lock, _ := b.lock(w, tones); lock != nil && lock.Fits && lock.Code != "none" {
		out.Lock, out.LockSays = lock.Code, lock.Says
		if lock.Code != "steam" {
			out.Materials = append(out.Materials, map[string]string{"glazeMist": "glaze", "lacquer": "lacquer", "shineSpray": "shineSpray"}[lock.Code])
		}
		out.LockDry = lock.dry
	}
	return out
}

func toneOf(tones []tone, id string) *tone {
	for i := range tones {
		if fmt.Sprint(tones[i].at) == id {
			return &tones[i]
		}
	}
	return &tone{pass: &noun.Pass{}}
}

func share(t *tone, i int) float64 {
	sum := 0.0
	for _, d := range t.pass.Lots {
		sum += float64(d.Parts)
	}
	return float64(t.pass.Lots[i].Parts) / sum
}

func taking(all []noun.Taken, l *noun.Lot, g float64) []noun.Taken {
	for i := range all {
		if all[i].Lot == l.ID {
			all[i].G += g
			return all
		}
	}
	return append(all, noun.Taken{Lot: l.ID, Name: l.Name, G: g})
}

// metal is the paint of a tone, its coats and its waits.
func (b *Means) metal(w *Reckoned, t *tone, out *Finished, made float64) {
	area := t.area * made
	tempC, rh := b.RoomFor(w.Piece)
	in := finish.MetalIn{AreaMM2: &area, NoAlcohol: slices.Contains(w.order.Without, "alcohol"), RoomTempC: &tempC, RoomRHPercent: &rh, DarkGround: LightOf(w.Piece.Swatch) < DarkEnough}
	if medium := w.Piece.Finish.Medium; medium != "" {
		in.Medium = &medium
	}
	m, err := finish.Metal(in)
	if err != nil && in.Medium != nil { // what was chosen carries what this table does not take
		out.CoatSays = append(out.CoatSays, Sentence(err))
		in.Medium = nil
		m, err = finish.Metal(in)
	}
	if err != nil {
		return
	}
	out.Coats = max(out.Coats, m.Coats)
	out.CoatEach += finish.ReachMinutes + t.area/finish.PassMM2
	out.NextCoat, out.CoatDry = math.Max(out.NextCoat, m.NextCoatMinutes), math.Max(out.CoatDry, m.NextCoatMinutes/finish.NextCoat)
	for i, l := range t.lots {
		out.CoatUses = taking(out.CoatUses, l, m.PowderG*share(t, i))
	}
	medium := map[string]string{"citrusExtract": "citrus extract", "clearSpirit": "clear spirit", "pipingGel": "thinned piping gel"}[m.Medium]
	out.CoatSays = append(out.CoatSays, fmt.Sprintf("Stir %s of %s into %s ml of %s (%s g to a ml): %s.", b.Reader.Mass(m.PowderG), mixOf(*t), read.Trimmed(m.LiquidML, 2), medium, read.Trimmed(m.PowderGPerML, 2), read.Count(m.Coats, "coat")))
	if !slices.Contains(out.Materials, m.Medium) {
		out.Materials = append(out.Materials, m.Medium)
	}
}

// lockFound is a lock with its wait.
type lockFound struct {
	LockView
	dry float64
}

// lock is what fixes the finish; nil where there is none.
func (b *Means) lock(w *Reckoned, tones []tone) (*lockFound, *finish.LockOut) {
	var on []string
	for _, t := range tones {
		k := map[string]string{"petalDust": "petalDust", "lustre": "lustre", "metal": "metallic", "pen": "gelPaint"}[t.kind]
		if t.absent == "" && k != "" && !slices.Contains(on, k) {
			on = append(on, k)
		}
	}
	if len(on) == 0 {
		return nil, nil
	}
	tempC, rh := b.RoomFor(w.Piece)
	thick := math.Min(500, math.Max(0.1, w.Thick()))
	in := finish.LockIn{Finishes: on, FatSet: w.Sets(), ThicknessMM: &thick, RoomTempC: &tempC, RoomRHPercent: &rh}
	for _, a := range w.order.Without {
		if a == "alcohol" || a == "animal" {
			in.Avoid = append(in.Avoid, a)
		}
	}
	if g := w.Piece.Finish.Gloss; g != "" {
		in.Gloss = &g
	}
	out, err := finish.Lock(in)
	if err != nil {
		return nil, nil
	}
	v := &lockFound{LockView: LockView{Fits: out.Fits, Code: out.Lock, Others: []string{}, Refused: []RefusedBy{}, Cautions: []string{}}}
	if own := w.Piece.Finish.Lock; own != "" && own != out.Lock {
		have := []string{own}
		in.Have = &have
		chosen, err := finish.Lock(in)
		if err == nil && chosen.Fits && chosen.Lock == own || own == "none" {
			chosen.Lock = own
			v.Fits, v.Code, v.Own, out.Others = true, own, true, append([]string{out.Lock}, slices.DeleteFunc(slices.Clone(out.Others), func(o string) bool { return o == own })...)
			out.DryMinutes, out.Seconds, out.Cautions = chosen.DryMinutes, chosen.Seconds, chosen.Cautions
			if own == "none" {
				out.DryMinutes, out.Seconds, out.Cautions = new(0.0), nil, nil
			}
		}
	}
	for _, o := range out.Others {
		if o != "" && o != v.Code {
			v.Others = append(v.Others, b.Reader.Say(read.LockSay(o)))
		}
	}
	for _, r := range out.Refused {
		if r.Lock != v.Code {
			v.Refused = append(v.Refused, RefusedBy{b.Reader.Say(read.LockSay(r.Lock)), b.Reader.Say(lockWhy[r.Why])})
		}
	}
	if out.DryMinutes != nil {
		v.dry = *out.DryMinutes
	}
	switch {
	case !v.Fits:
		v.Says = "Nothing fixes this finish here: handle it as little as can be, by its back."
	case v.Code == "none":
		v.Says = "Nothing: leave it as it is."
	case v.Code == "steam":
		v.Says = fmt.Sprintf("%s s of steam at arm's length, then %s until it is matt again.", read.Trimmed(*cmp.Or(out.Seconds, new(4.0)), 0), read.SayMinutes(read.UpMinutes(v.dry)))
	default:
		v.Says = fmt.Sprintf("%s in one thin coat, then %s until it is dry.", read.UpperFirst(b.Reader.Say(read.LockSay(v.Code))), read.SayMinutes(read.UpMinutes(v.dry)))
	}
	for _, c := range out.Cautions {
		v.Cautions = append(v.Cautions, b.Reader.Say(lockCautions[c]))
	}
	return v, &out
}

// lockWhy is why something does not fix a finish.
var lockWhy = map[string]string{"notAtHand": "is not at hand", "rubsOff": "dust rubs off where hands hold it", "meltsDough": "melts chocolate dough", "colourRuns": "wet colour would run", "dampRoom": "the room is over 65 %: it stays sticky",
	"tooThin": "so thin a piece goes soft", "dullsGlitter": "dulls glitter", "forGlitter": "is for glitter", "tooGlossy": "shines, and matt or satin is wanted", "tooMatt": "does not shine, and gloss is wanted", "avoided": "carries what these guests do not take"}

var lockCautions = map[string]string{"steamBurn": "Steam scalds: tongs, hand to the side.", "flameOut": "No flame in the room while it is sprayed and until it is dry.", "airing": "Good air, a mask; nothing else stands open."}

// Thick is how thick a piece is as it lies, mm; 0 while it is not known.
func (w *Reckoned) Thick() float64 {
	for _, body := range w.Fore.Bodies {
		return body.ThicknessMM
	}
	return w.Fore.Names["thicknessMM"]
}

// finishStage is the stage as it is shown.
func (b *Means) finishStage(w *Reckoned) *FinishStage {
	tones := b.tones(w)
	v := &FinishStage{Tones: []ToneView{}, Roles: read.Roles(), Dusts: []DustView{}, Ground: w.Piece.Swatch, Warnings: []string{}, Grams: []noun.Figure{},
		Fields: b.fieldsOf(w, "lock", "gloss")}
	if a := w.Surface(); a > 0 {
		v.AreaSays = fmt.Sprintf("About %s cm² of each piece is seen.", read.Trimmed(a/100, 1))
	}
	for i := range b.Lots {
		l := &b.Lots[i]
		if l.DeletedAt != nil || kindOfDust[l.Kind] == "" || l.Swatch == nil {
			continue
		}
		d := DustView{ID: l.ID, Name: l.Name, Hex: *l.Swatch, Kind: kindOfDust[l.Kind]}
		if refused, _ := w.order.Meets(l.Label()); len(refused) > 0 {
			d.Refused = "holds " + read.List(refused)
		}
		v.Dusts = append(v.Dusts, d)
	}
	slices.SortStableFunc(v.Dusts, func(x, y DustView) int {
		order := []string{"petalDust", "lustre", "metal", "pen"}
		return slices.Index(order, x.Kind) - slices.Index(order, y.Kind)
	})
	shade, ok := b.shaded(w, tones)
	minutes := map[string]float64{}
	for _, p := range shade.Order {
		minutes[p.ID] = p.Minutes
	}
	order := slices.Clone(tones)
	place := func(t tone) int {
		return slices.IndexFunc(shade.Order, func(p finish.Pass) bool { return p.ID == fmt.Sprint(t.at) })
	}
	slices.SortStableFunc(order, func(x, y tone) int { return place(x) - place(y) })
	for _, t := range order {
		v.Tones = append(v.Tones, b.toneView(w, t, minutes[fmt.Sprint(t.at)]))
	}
	if ok {
		v.Minutes = &noun.Figure{Value: shade.Minutes, Unit: "of hands, for all", Text: read.SayMinutes(read.UpMinutes(shade.Minutes)), Why: &noun.Why{Rule: "Light to dark, the lightest height last. A piece is taken up, then brushed at 1500 mm² a minute and pass; the brush is wiped at each change (assumed).",
			Formula: "(0.1 + area / 1500 × passes) × pieces + 0.5 for each change", Values: []noun.Named{{Name: "pieces", Text: fmt.Sprint(w.Made())}, {Name: "changes", Text: fmt.Sprint(shade.BrushChanges)}}}}
		for _, x := range shade.Warnings {
			name := read.RoleSay(toneOf(tones, x.ID).pass.Role)
			v.Warnings = append(v.Warnings, b.Reader.Say(map[string]string{"harsh": fmt.Sprintf("One strong tone %s is harsh: mix it down, or put a darker and a lighter one beside it.", name), "sheenOnly": fmt.Sprintf("Lustre %s lets its ground show: colour it with petal dust first.", name)}[x.Warn]))
		}
	}
	f := b.Finishing(w)
	if f.Coats > 0 {
		v.Fields = append(v.Fields, b.fieldsOf(w, "medium")...)
	}
	for _, u := range slices.Concat(f.Uses, f.CoatUses) {
		v.Grams = append(v.Grams, noun.Figure{Value: u.G, Unit: u.Name, Text: read.Trimmed(math.Max(u.G, 0.01), 2) + " g", Why: &noun.Why{Rule: "Powder that stays on a surface in one pass, times all of it: an order of magnitude, not a weighing (assumed).", Formula: "area × load × passes × pieces",
			Values: []noun.Named{{Name: "load of petal dust", Text: "0.005 mg/mm²"}, {Name: "of lustre", Text: "0.003 mg/mm²"}, {Name: "of metallic paint", Text: "its film × powder in a ml"}}}})
	}
	v.Warnings = append(v.Warnings, f.CoatSays...)
	if lock, _ := b.lock(w, tones); lock != nil {
		v.Lock = &lock.LockView
	}
	v.Fade = b.fade(w)
	return v
}

// fieldsOf are some of the fields of the last stages.
func (b *Means) fieldsOf(w *Reckoned, names ...string) []read.FieldView {
	var fields []*read.Field[noun.Piece]
	for _, f := range read.EndingFields {
		if slices.Contains(names, f.Name) {
			fields = append(fields, f)
		}
	}
	return read.Views(fields, b.Reader, w.Piece, b.Now)
}

func (b *Means) toneView(w *Reckoned, t tone, minutes float64) ToneView {
	v := ToneView{At: t.at, Role: t.pass.Role, Says: read.RoleSay(t.pass.Role), Mix: mixOf(t), Lots: t.pass.Lots, Percent: t.pass.Percent, Times: t.pass.Times, Kind: cmp.Or(t.kind, "petalDust"), Pot: t.pot, Look: t.pot, Missing: t.absent}
	if t.absent != "" {
		return v
	}
	if minutes > 0 {
		v.Minutes = read.SayMinutes(read.UpMinutes(minutes))
	}
	ground, err := colour.PasteOf(w.Piece.Swatch)
	if err != nil {
		return v
	}
	in := colour.FinishIn{Ground: ground, Colour: t.pot}
	switch t.kind {
	case "metal":
		in.Kind, in.Coats = new("metalPaint"), new(min(8, t.pass.Times))
	case "lustre":
		in.Kind, in.Passes = new("lustre"), &t.pass.Times
	default:
		in.Kind, in.Passes = new("petalDust"), &t.pass.Times
	}
	if look, err := colour.Finish(in); err == nil {
		v.Look, v.Flash = look.Hex, look.FlashHex
	}
	v.Sheen = map[string]string{"petalDust": "matt", "lustre": "glows where light strikes, else its ground shows", "metal": "metallic, bright and dark as it turns", "pen": "flat, with a hard edge"}[t.kind]
	return v
}

// FadeView is an airbrush's fade on a tier, row by row.
type FadeView struct {
	Says   string      `json:"says"`
	Bands  []FadeBand  `json:"bands" doc:"from below"`
	HighMM float64     `json:"highMM"`
	SpotMM float64     `json:"spotMM"`
	Rounds string      `json:"rounds"`
	Advice string      `json:"advice"`
	Drops  noun.Figure `json:"drops"`

	Fields []read.FieldView `json:"fields" doc:"one scrap calibrates it"`
}

// FadeBand is one row of passes.
type FadeBand struct {
	AtMM   float64 `json:"atMM"`
	Passes int     `json:"passes"`
	Cover  float64 `json:"cover" doc:"share of the ground that it hides, 0 to 1; -1 off the tier"`
}

// fade is the plan of a sprayed tier: of a way of making that counts passes far and near.
func (b *Means) fade(w *Reckoned) *FadeView {
	if w.Way == nil || !slices.ContainsFunc(w.Way.Measures, func(m technique.Measure) bool { return m.Name == "farPasses" }) || len(w.order.Tiers) == 0 {
		return nil
	}
	run, _ := b.roundTier(w.order, runName)
	high := w.order.Tiers[0].HeightMM
	tempC, rh := b.RoomFor(w.Piece)
	in := finish.FadeIn{RunMM: &run, HeightMM: &high, RoomTempC: &tempC, RoomRHPercent: &rh}
	if p := &w.Piece.Finish; p.SeenPercent != nil && p.SeenPasses != nil {
		in.SeenShare, in.SeenPasses = new(*p.SeenPercent/100), p.SeenPasses
	}
	out, err := finish.Fade(in)
	if err != nil {
		return nil
	}
	v := &FadeView{Fields: b.fieldsOf(w, "seenPercent", "seenPasses"), Bands: []FadeBand{}, HighMM: high, SpotMM: out.SpotMM, Drops: noun.Figure{Value: out.Drops, Unit: "drops of colour", Text: fmt.Sprintf("%d", int(math.Ceil(out.Drops-1e-9))), Why: &noun.Why{Rule: "A spray is a cone with a Gaussian section; what it lays hides 1 - exp(-drops × laid / 0.20). Calibrate it with one scrap (assumed).", Formula: "rows one sigma high, whole passes each",
		Values: []noun.Named{{Name: "round the tier", Text: b.Reader.Length(run)}, {Name: "height", Text: b.Reader.Length(high)}, {Name: "sigma", Text: read.Trimmed(out.SigmaMM, 1) + " mm"}, {Name: "farthest from what is wanted", Text: read.Trimmed(out.WorstShare*100, 0) + " points"}}}}}
	for _, r := range out.Bands {
		x := FadeBand{AtMM: r.AtMM, Passes: r.Passes, Cover: -1}
		if r.CoverShare != nil {
			x.Cover = *r.CoverShare
		}
		v.Bands = append(v.Bands, x)
	}
	v.Says = fmt.Sprintf("%s from 120 mm off, hand at 100 mm a second: %s ml, %s of spraying; %s %% of it goes over the edges, so mask board and tiers.", read.Count(out.Passes, "pass"), read.Trimmed(out.LiquidML, 1), read.SayMinutes(read.UpMinutes(out.SprayMinutes)), read.Trimmed(out.OversprayShare*100, 0))
	if out.Rounds > 1 {
		v.Rounds = fmt.Sprintf("In %d rounds, %s between them: wetter at once it would run.", out.Rounds, read.SayMinutes(read.UpMinutes(out.WaitMinutes/float64(out.Rounds-1))))
	}
	v.Advice = map[string]string{"good": "The rows follow the fade.", "lessColour": "So strong a colour comes in steps: weaken it.", "moreColour": "So weak a colour takes too many passes: add drops.", "furtherOff": "Rows this far apart show as stripes: go further off."}[out.Advice]
	return v
}
