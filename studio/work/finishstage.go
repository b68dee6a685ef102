package work

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"dustyfern/craft/colour"
	"dustyfern/craft/finish"
	"dustyfern/craft/technique"
	"dustyfern/studio/noun"
	"dustyfern/studio/read"
)

// FinishStage is what a piece is finished with, as its stage shows it.
type FinishStage struct {
	Tones    []ToneView       `json:"tones" doc:"in the order in which they come on"`
	Roles    []read.ToneRole  `json:"roles"`
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

// finishStage is the stage as it is shown.
func (b *Means) finishStage(w *Reckoned) *FinishStage {
	tones := b.tones(w)
	v := &FinishStage{Tones: []ToneView{}, Roles: read.Roles(), Dusts: []DustView{}, Ground: w.Piece.Swatch, Warnings: []string{}, Grams: []noun.Figure{},
		Fields: b.fieldsOf(w, "lock", "gloss")}
	if a := w.Surface(); a > 0 {
		v.AreaSays = fmt.Sprintf("About %s cm² of each piece is seen.", read.Trimmed(a/100, 0))
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
		v.Grams = append(v.Grams, noun.Figure{Value: u.G, Unit: u.Name, Text: read.AboutG(u.G), Why: &noun.Why{Rule: "Powder that stays on a surface in one pass, times all of it: an order of magnitude, not a weighing (assumed).", Formula: "area × load × passes × pieces",
			Values: []noun.Named{{Name: "load of petal dust", Text: "0.005 mg/mm²"}, {Name: "of lustre", Text: "0.003 mg/mm²"}, {Name: "of metallic paint", Text: "its film × powder in a ml"}}}})
	}
	v.Warnings = append(v.Warnings, f.CoatSays...)
	if lock := b.lock(w, tones); lock != nil {
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
